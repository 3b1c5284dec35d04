"""The pedal being looked at: how hard the foot presses, and what becomes of a number typed over another. No Qt."""

from datetime import date
from pathlib import Path

from bicentra.core.base.errors import JobError, QuantityError
from bicentra.core.base.finding import Edit
from bicentra.core.base.numbers import is_known
from bicentra.core.base.quantities import (
    FORCE,
    HEAT,
    LENGTH,
    MASS,
    NUMBER,
    PRESSURE,
    SPEED,
    Kind,
    Units,
    bare_unit,
    edit_text,
    in_units,
    parse_quantity,
    show_in,
)
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.drawing.sheets.imprint import Imprint
from bicentra.core.heat.stops import DUTIES, Train
from bicentra.core.heat.train import Hot, train_of
from bicentra.core.hydraulics.before import before_of, chains, foot_after, levers, single_change
from bicentra.core.hydraulics.chain import Chain, chain_of
from bicentra.core.hydraulics.ends import REAR_FIRST, WEAK
from bicentra.core.hydraulics.masters import kind_of_master, rework_list
from bicentra.core.hydraulics.misconceptions import Misconception, misconceptions_of
from bicentra.core.hydraulics.missing import Wanted, missing_of, missing_text
from bicentra.core.hydraulics.pedal import FOOT_N, PedalWork, knee_text, pedal_work
from bicentra.core.hydraulics.travel import WORK_G, OneCircuit, Stage, Travel, one_circuit, stages_of, travel_at
from bicentra.core.parts.brakes import MasterCylinder
from bicentra.core.parts.edits import get_value, with_value
from bicentra.core.parts.limits import ALLOWANCES
from bicentra.core.parts.vehicle import Baseline, Drum, Vehicle
from bicentra.formats.vehicle_report import besides
from bicentra.study.desks.pedal_numbers import NumberPlace, as_part, edits_for, edits_of, edits_pulled, number_text
from bicentra.study.document.study import Study
from bicentra.study.library.library import Library, keep_part, whole_library
from bicentra.study.papers.writing import JOB_SUFFIX, write_sheet

MOST_FOOT_N, STEP_N = 1000.0, 5
"""Most that the slider presses, and the step that it begins on [N]."""
BASELINE = {
    "travel_to_bite_mm": "travel to the bite",
    "travel_to_firm_mm": "travel to firm",
    "force_n": "force",
    "locks_first": "what locks first",
}
"""Findings of the pedal before anything is changed, by its name in the file."""

HOT_LIMIT, SAME = "hot-rise-k", 5e-3
ENDINGS = {"_mm": LENGTH, "_bar": PRESSURE, "_n": FORCE, "_c": HEAT, "_kg": MASS}
"""Which kind of number stands at a key of the file, by how it ends."""
TRAIN: dict[str, tuple[str, float, float, str]] = {
    "begin": ("from", 0.0, 400.0, "a speed up to 400 km/h, and not below the one it ends with"),
    "end": ("to", 0.0, 400.0, "a speed from 0 to the one it begins with"),
    "stops": ("stops", 1.0, 1000.0, "a whole number from 1 to 1000"),
    "every": ("every, s", 0.1, 86400.0, "0.1 s to a day"),
    "ambient": ("air", -60.0, 80.0, "-60 to 80 °C"),
}
"""What a train of stops asks for: its name, least, most and what is expected."""


TRAIN_KINDS = {"begin": SPEED, "end": SPEED, "ambient": HEAT}


class PedalDesk:
    """The pedal of the open vehicle."""

    def __init__(self, study: Study) -> None:
        self.study = study
        self._library: Library | None = None
        self._masters: tuple[MasterCylinder, ...] | None = None
        self._kept: tuple[Vehicle, PedalWork] | None = None
        self._preview: Vehicle | None = None
        self._wished: tuple[Edit, ...] = ()
        self.train = DUTIES["street"]
        self._hot: tuple[Vehicle, Train, Hot] | None = None
        self._chains: tuple[Vehicle, Chain, Chain | None] | None = None
        usual = self.chain.foot_for(WORK_G)
        self.foot = float(min(round(usual / STEP_N) * STEP_N, MOST_FOOT_N)) if is_known(usual) else 0.6 * FOOT_N

    @property
    def vehicle(self) -> Vehicle:
        """The vehicle as it stands, or as it is pulled to be."""
        return self.study.vehicle if self._preview is None else self._preview

    @property
    def is_preview(self) -> bool:
        """Whether something is being pulled."""
        return self._preview is not None

    def preview(self, path: str, value: float) -> None:
        """Look at a number of the vehicle as it is pulled to be, without changing the job."""
        self._wished = edits_pulled(self.study.vehicle, path, value)
        vehicle = self.study.vehicle
        for at, pulled in self._wished:
            vehicle = with_value(vehicle, at, pulled)
        self._preview = vehicle

    def drop_preview(self) -> None:
        """Let what was pulled go back."""
        self._preview, self._wished = None, ()

    def commit_preview(self) -> None:
        """Take what was pulled into the job, as one step. Raises ``JobError`` for what cannot be."""
        previewed = self._wished
        self.drop_preview()
        if previewed:
            self._edit(f"Pull {_words(previewed[0][0])}", previewed)

    def _edit(self, label: str, edits: tuple[Edit, ...]) -> None:
        """Change the vehicle, as one step. Raises ``JobError`` for what cannot be, or is not there any more."""
        try:
            self.study.edit_vehicle(label, edits)
        except KeyError as error:
            raise JobError(str(error.args[0]), "nothing of that name", "a number that is asked for now") from error

    @property
    def units(self) -> Units:
        """The units of the job."""
        return units_of(self.study.job.display_units)

    @property
    def lengths(self) -> LengthFormat:
        """How lengths are written in this job."""
        return self.study.job.lengths

    @property
    def masters(self) -> tuple[MasterCylinder, ...]:
        """The masters of the library."""
        if self._masters is None:
            parts = self.library.of_kind("master_cylinder")
            self._masters = tuple(part.item for part in parts if isinstance(part.item, MasterCylinder))
        return self._masters

    @property
    def library(self) -> Library:
        """What lies on the library: what ships with the program and the user's own parts; read once."""
        if self._library is None:
            self._library = whole_library()
        return self._library

    def in_library(self, kind: str) -> tuple[str, ...]:
        """Return the parts of one kind in words."""
        return tuple(number_text(part, self.lengths) for part in self.library.of_kind(kind))

    def take_part(self, place: NumberPlace, number: int) -> str:
        """Put a part from the library into the vehicle, as one step; returns what it leaves open in words, or nothing.

        Raises ``JobError`` for one that cannot be.
        """
        part = self.library.of_kind(place.kind)[number]
        edits, guessed = edits_of(self.vehicle, place, part)
        self._edit(f"Take {part.name} from the library", edits)
        return f"{part.name}: {' and '.join(guessed)} only guessed there, so left open" if guessed else ""

    def keep_part(self, place: NumberPlace, name: str) -> Path:
        """Put what the vehicle has into the user's own library; returns its file. Raises ``StoreError``."""
        title = self.study.job.title or "an untitled job"
        path = keep_part(as_part(self.study.vehicle, place, name.strip()), f"Kept from “{title}”")
        self._library = self._masters = None
        return path

    @property
    def chain(self) -> Chain:
        """The chain of forces as it stands."""
        return self._both()[0]

    @property
    def earlier(self) -> Chain | None:
        """The chain as it was, where somebody wrote it down."""
        return self._both()[1]

    @property
    def band(self) -> tuple[Chain, ...]:
        """The chain at both ends of what is guessed of it; nothing where nothing is."""
        return tuple(chain_of(self.vehicle, guess=end) for end in (REAR_FIRST, WEAK)) if self.chain.guesses else ()

    @property
    def laden(self) -> Chain | None:
        """The chain with what the vehicle carries; ``None`` while nobody weighed that."""
        return chain_of(self.vehicle, laden=True) if self.vehicle.vehicle.laden_kg is not None else None

    def _both(self) -> tuple[Chain, Chain | None]:
        if self._chains is None or self._chains[0] is not self.vehicle:
            self._chains = (self.vehicle, *chains(self.vehicle))
        return self._chains[1], self._chains[2]

    @property
    def work(self) -> PedalWork:
        """Everything that does not depend on the slider; kept while the vehicle is the same, and while something is pulled."""
        if self._kept is None or (self._kept[0] is not self.vehicle and self._preview is None):
            self._kept = (self.vehicle, pedal_work(self.vehicle, self.masters))
        return self._kept[1]

    @property
    def original(self) -> Vehicle | None:
        """The vehicle with the brakes that came off, as far as somebody noted them."""
        return before_of(self.vehicle)

    @property
    def missing(self) -> tuple[Wanted, ...]:
        """What is still missing: the key path of each field, and what it is called."""
        return missing_of(self.vehicle)

    @property
    def missing_text(self) -> str:
        """What is still missing in a few words; empty when nothing is."""
        return missing_text(self.vehicle)

    @property
    def travel(self) -> Travel:
        """Where fluid and travel go at the foot's force."""
        return travel_at(self.chain, self.foot)

    @property
    def one_circuit(self) -> tuple[OneCircuit, OneCircuit]:
        """What is left with either circuit gone, at the foot's force."""
        return one_circuit(self.chain, self.foot)

    @property
    def rework(self) -> tuple[str, ...]:
        """What has to be made or adapted when master and brakes change, a sentence each."""
        return rework_list(self.vehicle)

    @property
    def stages(self) -> tuple[Stage, ...]:
        """How far pedal and master go at each stage of a stop."""
        return stages_of(self.chain)

    @property
    def misconceptions(self) -> tuple[Misconception, ...]:
        """The usual wrong sums, beside this vehicle's numbers."""
        return misconceptions_of(self.vehicle, self.chain, self.earlier)

    @property
    def changed_text(self) -> tuple[str, ...]:
        """What each lever did to the front's torque, and what alone would bring the old balance back; nothing without a
        before.
        """
        now, then = self.chain, self.earlier
        if then is None:
            return ()
        factors = [(name, by) for name, by in levers(now, then).items() if is_known(by) and abs(by - 1.0) > SAME]
        shares = ", ".join(f"{name} × {by:.2f}" for name, by in factors)
        text = [f"The front's torque: {shares}."] if factors else []
        back = single_change(now, then)["rear bore area"]
        if is_known(back) and back > 1.0 + SAME and self.work.leading is not None:
            text.append("The front has more of the force than before, and still the rear leads: enlarge nothing there.")
        elif is_known(back) and abs(back - 1.0) > SAME:
            feet = [foot_after(now, end, factor, WORK_G) for end, factor in ((1, back), (0, 1.0 / back))]
            rear, front = (f", {self.lengths.force(foot)} at {WORK_G:g} g" if is_known(foot) else "" for foot in feet)
            text.append(
                f"Alone, rear bore area, radius or friction × {back:.2f} would bring the old share of the front back{rear}; or the "
                f"front's × {1.0 / back:.2f}{front}. Look at the balance with it before anything is bought."
            )
        return tuple(text)

    @property
    def hot(self) -> Hot:
        """The vehicle over the train of stops that is shown."""
        if self._hot is None or self._hot[0] is not self.vehicle or self._hot[1] is not self.train:
            self._hot = (self.vehicle, self.train, train_of(self.vehicle, self.train))
        return self._hot[2]

    @property
    def hot_text(self) -> tuple[str, ...]:
        """What is known of hats and pads over the train."""
        return besides(self.hot)

    @property
    def handed_k(self) -> float:
        """How much hotter the line-up takes the rotor to be, for its tip gap when hot [K]."""
        return float(self.vehicle.limits.get(HOT_LIMIT, ALLOWANCES[HOT_LIMIT]))

    def hand_over(self) -> None:
        """Let the line-up take the rotors as hot as this train makes them."""
        rise = self.hot.hottest_rise
        if is_known(rise):
            limits = {**self.vehicle.limits, HOT_LIMIT: float(round(rise))}
            self._edit(f"Rotors {self.lengths.warmer(rise)} hotter in the line-up", (("limits", limits),))

    def train_text(self, name: str) -> str:
        """Return what stands in a field of the train."""
        shown, unit = in_units(float(getattr(self.train, name)), TRAIN_KINDS.get(name, NUMBER), self.units)
        return f"{round(shown, 1):g} {unit}".rstrip()

    def set_train(self, name: str, text: str) -> None:
        """Take a number of the train. Raises ``QuantityError`` for one that no train has."""
        least, most, wanted = TRAIN[name][1:]
        kind = TRAIN_KINDS.get(name, NUMBER)
        value = parse_quantity(text, kind, bare_unit(kind, self.units))
        most = self.train.begin if name == "end" else most
        least = max(least, self.train.end) if name == "begin" else least
        if not least <= value <= most or (name == "stops" and value != int(value)):
            raise QuantityError(text, f"{value:g}", wanted)
        self.train = replace(self.train, **{name: int(value) if name == "stops" else value})

    def use(self, duty: str) -> None:
        """Take the train of a kind of use."""
        self.train = DUTIES[duty]

    def sheet_path(self, hot: bool) -> Path:
        """Return where a sheet would be written: beside the job, by its name."""
        job = self.study.path
        name = job.name.removesuffix(JOB_SUFFIX) if job is not None else "job"
        return (job.parent if job is not None else Path.home()) / f"{name}-{'heat' if hot else 'pedal'}.pdf"

    def write_sheet(self, path: Path, hot: bool) -> None:
        """Write the sheet of pedal or heat. Raises ``ExportError`` over a job's file, ``StoreError`` where it cannot be
        written.
        """
        from bicentra.formats.pdf_records import heat_pdf, pedal_pdf

        imprint = Imprint(date.today().isoformat(), self.study.job.drawn_by, self.study.job.checked_by)
        data = (
            heat_pdf(self.vehicle, self.hot, self.lengths, imprint)
            if hot
            else pedal_pdf(self.vehicle, pedal_work(self.vehicle, self.masters, self.foot), self.lengths, imprint)
        )
        write_sheet(path, data, self.study.path)

    def text_of(self, path: str) -> str:
        """Return what stands in a field over ``path``."""
        if path == "foot":
            return show_in(self.foot, FORCE, self.units)
        return edit_text(get_value(self.vehicle, path), _kind(path), self.units)

    def typed(self, path: str, text: str) -> None:
        """Take what was typed over ``path``. Raises ``QuantityError`` for what is none, ``JobError`` for what cannot be."""
        if path == "foot":
            self.press(parse_quantity(text, FORCE, bare_unit(FORCE, self.units)))
            return
        kind = _kind(path)
        value = parse_quantity(text, kind, bare_unit(kind, self.units)) if text.strip() else None
        name = path.rpartition(".")[2].removesuffix("_mm").replace("_", " ")
        self._edit(f"Change {path.split('.')[-2]} {name}", ((path, value),))

    def set_number(self, path: str, value: object) -> None:
        """Put a number of the vehicle at ``path``. Raises ``JobError`` for one that cannot be."""
        self._edit(f"Change {_words(path)}", edits_for(self.vehicle, path, value))

    def set_drums(self, axle: str, drums: bool) -> None:
        """Give an end drums, or discs: what was typed of the other kind comes back with undo."""
        text = f"The {axle} has {'drums' if drums else 'discs'}"
        self._edit(text, edits_for(self.vehicle, f"axles.{axle}.drum", Drum() if drums else None))

    def press(self, foot: float) -> None:
        """Press the pedal with a force [N]. Raises ``QuantityError`` for one that no foot has."""
        if not 0.0 <= foot <= MOST_FOOT_N:
            raise QuantityError(str(foot), f"{foot:g} N", f"a force from 0 to {MOST_FOOT_N:g} N")
        self.foot = foot

    def fit_master(self, name: str) -> None:
        """Fit a master from the library."""
        part = next((one for one in self.masters if one.name == name), None)
        if part is not None:
            edits = (
                ("name", part.name),
                ("bore_mm", part.bore_mm),
                ("stroke_mm", part.stroke_mm),
                ("rear_bore_mm", None),
                ("outlet_thread", part.outlet_thread),
                *self._noted_before(),
            )
            named = tuple((key if "." in key else f"vehicle.master.{key}", value) for key, value in edits)
            self._edit(f"Fit the {part.name}", (*named, ("vehicle.master.kind", kind_of_master(part))))

    def _noted_before(self) -> tuple[Edit, ...]:
        """Return the edit that keeps the master which comes out, if nobody noted one before."""
        chassis = self.vehicle.vehicle
        if chassis.before.master is not None or chassis.master.bore_mm is None:
            return ()
        return (("vehicle.before.master", chassis.master),)

    def fit_valve(self) -> None:
        """Fit a valve with the knee that mends the balance."""
        knee = knee_text(self.work.knee)
        edits = (
            ("vehicle.valve.kind", "adjustable"),
            ("vehicle.valve.knee_bar", knee),
            ("vehicle.valve.slope", 0.3),
        )
        self._edit(f"Fit a valve, knee at {self.lengths.pressure(knee)}", edits)

    def baseline_text(self, name: str) -> str:
        """Return what is written down of the pedal before the change."""
        if name == "locks_first":
            return self.vehicle.vehicle.baseline.locks_first or ""
        return self.text_of(f"vehicle.baseline.{name}")

    @property
    def baseline_open(self) -> tuple[str, ...]:
        """What of the pedal before the change nobody wrote down, by its name in the file."""
        base: Baseline = self.vehicle.vehicle.baseline
        return tuple(name for name in BASELINE if getattr(base, name) is None)


def _words(path: str) -> str:
    name = path.rpartition(".")[2].partition("[")[0]
    return (name.rpartition("_")[0] or name).replace("_", " ")


def _kind(path: str) -> Kind:
    return next((kind for end, kind in ENDINGS.items() if path.endswith(end)), NUMBER)

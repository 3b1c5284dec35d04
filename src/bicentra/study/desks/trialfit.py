"""The trial fit being worked on: which trial is shown, which move is thought of, and what becomes of what is typed. No Qt."""

import math
import re
from datetime import date

from bicentra.core.base.errors import QuantityError
from bicentra.core.base.finding import Edit
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.quantities import LENGTH, edit_text, parse_quantity
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.parts.corners import across
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.trial import GAP_NAMES, GAPS, Between, LooseShims, ShimStacks, Trial
from bicentra.core.parts.vehicle import Corner
from bicentra.core.trialfit.advice import Advice, next_advice, next_reading
from bicentra.core.trialfit.bolts import bolts_after
from bicentra.core.trialfit.contradictions import is_too_wide, spare_of
from bicentra.core.trialfit.fit import Move, TrialFit, afresh, plan_stays, steps_of, trial_fit
from bicentra.core.trialfit.log import LockItem, prints_of
from bicentra.core.trialfit.plan import Limits, ShimPlan, after_plan, limits_of
from bicentra.core.trialfit.pose import Pose, pose_of
from bicentra.core.trialfit.set_up import (
    DEPENDS,
    INSPECTIONS,
    SET_UP,
    as_it_was,
    before_text,
    with_reading,
    with_set_up,
    with_work_done,
    without_gaps,
)
from bicentra.core.trialfit.shim_station import Place, ShimStation, nearest_stack, stacks_at
from bicentra.study.document.study import Study

_GOES = re.compile(r"^\s*(?:>\s*(?P<least>[^<>]+))?\s*(?:<\s*(?P<most>[^<>]+))?$")
SHIM = re.compile(r"\?|\d[\d./]*\s*(?:mm|in|thou)?")
STACK = re.compile(r"^stack:(lug|ear):(first|second)$")
_PLAIN = re.compile(r"\d{1,2}")


class TrialDesk:
    """The trials of the corner that is worked on. ``preview``: shims that are tried in thought, their outcome shown
    before a bolt is touched.
    """

    def __init__(self, study: Study, today: date | None = None) -> None:
        self.study = study
        self.number = -1
        self.place = 0  # which of the plans is looked at
        self.preview: ShimPlan | None = None
        self._today = today
        self._kept: tuple[object, int, TrialFit | None] | None = None

    # What is known ------------------------------------------------------------------------------

    @property
    def trials(self) -> tuple[Trial, ...]:
        """Every trial of the corner, in order."""
        return self.study.job.trials

    @property
    def shown(self) -> int:
        """Which trial is shown, counted from 0; −1 while there is none."""
        last = len(self.trials) - 1
        return last if self.number < 0 or self.number > last else self.number

    @property
    def is_last(self) -> bool:
        """Whether the one shown is the present state."""
        return self.shown == len(self.trials) - 1

    @property
    def trial(self) -> Trial | None:
        """The trial that is shown."""
        return self.trials[self.shown] if self.trials else None

    @property
    def lengths(self) -> LengthFormat:
        """How numbers are written in this job."""
        return self.study.job.lengths

    @property
    def fit(self) -> TrialFit | None:
        """The trial that is shown, worked out; kept while job and number stay the same."""
        solution = self.study.plain_solution
        if self._kept is None or self._kept[0] is not solution or self._kept[1] != self.shown:
            self._kept = (solution, self.shown, trial_fit(solution, self.shown) if self.trials else None)
        return self._kept[2]

    @property
    def move(self) -> Move | None:
        """The move that is looked at: what is wished, else one of the plans; none while readings contradict each other."""
        fit = self.fit
        if fit is None or fit.doubted:
            return None
        if self.preview is not None:
            after = bolts_after(self.study.plain_solution.assembly, fit.stations, self.preview, fit.trial)
            return Move(
                self.preview,
                after,
                steps_of(fit.trial, self.preview, self.lengths),
                plan_stays(fit.trial, self.preview),
            )
        return fit.advised[self.place % len(fit.moves)] if fit.moves else None

    def _station(self, place: str) -> ShimStation | None:
        return next(
            (station for station in (self.fit.stations if self.fit is not None else ()) if station.place == place), None
        )

    @property
    def advice(self) -> Advice:
        """What to do next with the last trial at the car."""
        return next_advice(self.study.job, self.fit, self.move)

    def stood(self, trial: Trial) -> tuple[Pose, Limits]:
        """Return where the caliper sat at a trial, and the limits it was held to."""
        return pose_of(self.study.job, trial), limits_of(self.study.job, trial)

    def before_text(self, name: str) -> str:
        """Return what was changed after a gap of the trial shown was read; empty where it counts."""
        return before_text(self.study.job, self.trial, name) if self.trial is not None else ""

    @property
    def needs(self) -> tuple[LockItem, ...]:
        """Everything the lock of the trial that is shown needs, with what is there already; nothing while there is no trial."""
        return self.fit.standing.needs if self.fit is not None else ()

    def next_sentence(self) -> str:
        """Return the next thing to do at the car, in one sentence."""
        if self.trial is not None and not self.is_last:
            return f"Trial {self.shown + 1} is an earlier one: go on with the last, number {len(self.trials)}."
        return self.advice.sentence

    @property
    def next_gap(self) -> str:
        """The name of the next number to read; empty where all are there and count."""
        return next_reading(self.trial) if self.trial is not None else ""

    def next_blank(self) -> str:
        """Return the key path of the next number to read; empty where all are there and count."""
        return self.path_of(self.next_gap) if self.next_gap else ""

    def path_of(self, name: str) -> str:
        """Return the key path of a reading, or of another field of the trial that is shown."""
        return f"trials[{self.shown}].{'gaps_mm.' if name in GAPS else ''}{name}"

    # What is begun and done -----------------------------------------------------------------------

    def begin(self) -> None:
        """Begin a trial: shims, stock and how it is held as at the last one, its readings blank.

        The first takes what the other corner ended with.
        """
        last = self.trials[-1] if self.trials else self._first_guess()
        self._append(afresh(last), "Begin a trial")

    def _first_guess(self) -> Trial:
        """Return what the first trial starts from: the other corner's stock and shims as a guess, else the design's."""
        job, vehicle = self.study.job, self.study.vehicle
        other = vehicle.corners.get(across(job.corner), Corner()).trials
        if other:
            last = other[-1]
            text = f"First guess from {across(job.corner).replace('-', ' ')}."
            return replace(last, notes=text, photos=(), parts="", taken="", locked=False, lock={}, checked=())
        stack_up = self.study.plain_solution.assembly.stack_up
        shims = [(shim,) if is_known(shim) and shim > 0 else () for shim in stack_up.shims[:2]] or [(), ()]
        spacing = job.caliper.pad_width_mm
        return Trial(shims_mm=ShimStacks(first=shims[0], second=shims[-1]), station_spacing_mm=spacing)

    def do_move(self) -> None:
        """Carry out the move that is looked at: a new trial with its shims in place, the rest back in the box, readings blank."""
        move, trial = self.move, self.trial
        if move is None or trial is None:
            return
        done = after_plan(trial, move.plan)
        self.preview, self.place = None, 0
        self._append(afresh(done), f"Shims: {'; '.join(move.steps)}"[:200] if move.steps else "Read again")

    def _append(self, trial: Trial, label: str) -> None:
        dated = replace(trial, taken=(self._today or date.today()).isoformat())
        self.number = -1
        self.study.edit(label, (("trials", (*self.trials, dated)),))

    def remove(self) -> None:
        """Take the last trial back out of the log."""
        if self.trials:
            self.number = -1
            self.study.edit("Take the last trial out", (("trials", self.trials[:-1]),))

    def lock(self) -> tuple[str, ...]:
        """Lock the last trial; returns what is missing where it cannot be."""
        fit, job = self.fit, self.study.job
        if fit is None or not self.is_last:
            return ("the last trial: an earlier one is not what is there now",)
        missing = fit.standing.missing
        if not missing:
            index = f"trials[{self.shown}]"
            self.study.edit("Lock the corner", ((f"{index}.locked", True), (f"{index}.lock", prints_of(job))))
        return missing

    def unlock(self) -> None:
        """Open a locked corner again."""
        index = f"trials[{self.shown}]"
        self.study.edit("Open the lock", ((f"{index}.locked", False), (f"{index}.lock", {})))

    # What is typed and pulled ---------------------------------------------------------------------

    def text_of(self, path: str) -> str:
        """Return what stands in a field over ``path``."""
        stack = STACK.match(path)
        if stack and self.trial is not None:
            side = 0 if stack[2] == "first" else 1
            shims = stacks_at(self.trial, stack[1]).sides[side]  # type: ignore[arg-type]
            units = units_of(self.study.job.display_units)
            return " + ".join("?" if thick is None else edit_text(thick, LENGTH, units) for thick in shims)
        name = path.rpartition(".")[2]
        band = self.trial.bands_mm.get(name) if self.trial is not None else None
        units = units_of(self.study.job.display_units)
        if band is not None and get_value(self.study.job, path) is None:
            low, high = (edit_text(end, LENGTH, units) for end in (band.least, band.most))
            return f"{'>' + low if low else ''} {'<' + high if high else ''}".strip()
        return edit_text(get_value(self.study.job, path), LENGTH, units)

    def typed(self, path: str, text: str) -> None:
        """Take what was typed over ``path``: a length, for a gap also ``>1.2 <1.5`` (goes in, does not), for a stack its shims.

        Raises ``QuantityError`` for what is none, ``JobError`` for what cannot be.
        """
        stack = STACK.match(path)
        if stack:
            self._take_stack(stack[1], stack[2], text)
        elif ".gaps_mm." in path:
            self._take_gap(path, text)
        else:
            value = self._length(text) if text.strip() else None
            self.study.edit(
                f"Read the {path.rpartition('.')[2].removesuffix('_mm').replace('_', ' ')}", ((path, value),)
            )

    def _length(self, text: str) -> float:
        return parse_quantity(text, LENGTH, self.study.job.display_units)

    def _take_gap(self, path: str, text: str) -> None:
        name, trial = path.rpartition(".")[2], self.trial
        if trial is None:
            return
        goes = _GOES.match(text.strip())
        if goes and (goes["least"] or goes["most"]):
            low, high = (self._length(end) if end else None for end in (goes["least"], goes["most"]))
            taken = with_reading(trial, name, None)
            self._keep_trial(
                f"Gap, {GAP_NAMES[name]}",
                replace(taken, bands_mm={**taken.bands_mm, name: Between(least=low, most=high)}),
            )
        else:
            self.take_gap(name, self._length(text) if text.strip() else None)

    def take_gap(self, name: str, value: float | None) -> None:
        """Take a gap [mm] as it is read now, from a hand or a gauge."""
        if self.trial is not None:
            taken = with_reading(self.trial, name, None if value is None else round(value, 6))
            self._keep_trial(f"Gap, {GAP_NAMES[name]}", taken)

    def doubt_text(self, name: str, text: str) -> str:
        """Return why a gap that was typed is asked about before it is taken, in words; empty where it can be, or is no number."""
        goes = _GOES.match(text.strip())
        try:
            value = self._length(goes["least"] if goes and goes["least"] else text)
        except QuantityError:
            return ""
        return self.too_wide_text(name, value)

    def too_wide_text(self, name: str, value: float) -> str:
        """Return that a gap [mm] is wider than slot and rotor leave, in words; empty where it is not."""
        job = self.study.job
        if not is_too_wide(job, value):
            return ""
        spare = spare_of(job)
        room = f"Slot less rotor leaves {self.lengths.gap(spare)}" if is_known(spare) else "No slot leaves that much"
        return f"{self.lengths.size(value)} at the {GAP_NAMES[name]}? {room} beside the rotor."

    def read_again(self) -> None:
        """Blank the four gaps, to be read again as it is set up now."""
        if self.trial is not None:
            self._keep_trial("Read all four again", without_gaps(self.trial))

    def keep_readings(self) -> None:
        """Say that the readings were taken as it is set up now: what seemed a change was a slip of the hand."""
        if self.trial is not None:
            self._keep_trial("They were read like this", as_it_was(self.trial))

    def inspected(self, name: str, found: bool) -> None:
        """Note that something was looked at on the car; where something was ``found`` and put right, it is read again."""
        trial = self.trial
        if trial is None or not self.is_last:
            return
        checked = replace(trial, checked=tuple(dict.fromkeys((*trial.checked, name))))
        if name == "turn":
            self._append(afresh(checked), INSPECTIONS[name])
        else:
            text = INSPECTIONS[name]
            self._keep_trial(text, with_work_done(checked, text) if found else checked)

    def unchecked(self, name: str) -> None:
        """Take back that something was looked at."""
        if self.trial is not None:
            rest = tuple(one for one in self.trial.checked if one != name)
            self._keep_trial(f"Not looked at: {INSPECTIONS[name]}", replace(self.trial, checked=rest))

    def _keep_trial(self, label: str, trial: Trial) -> None:
        """Take up the trial that is shown as it is now, as one step."""
        trials = self.trials
        self.study.edit(label, (("trials", (*trials[: self.shown], trial, *trials[self.shown + 1 :])),))

    @property
    def lost_stack(self) -> str:
        """The stack in which a shim lies that nobody measured, by its path; the first one where there is none."""
        trial = self.trial or Trial()
        stacks = (("lug", trial.shims_mm), ("ear", trial.ear_shims_mm))
        found = (
            f"stack:{place}:{name}"
            for place, leaves in stacks
            for name, side in zip(("first", "second"), leaves.sides)
            if None in side
        )
        return next(found, "stack:lug:first")

    def _take_stack(self, place: str, side: str, text: str) -> None:
        path = f"trials[{self.shown}].{'shims_mm' if place == 'lug' else 'ear_shims_mm'}.{side}"
        self.study.edit(
            f"Shims in place, {'leading' if side == 'first' else 'trailing'} {place}", ((path, self._shims(text)),)
        )

    def _shims(self, text: str) -> tuple[float | None, ...]:
        """Return a stack of shims [mm] that was typed. Raises ``QuantityError``."""
        words = [word.strip() for word in SHIM.findall(text)]
        if SHIM.sub("", text).strip(" +;,-–").removeprefix("no").removeprefix("ne").strip():
            raise QuantityError(text, f"“{text.strip()}”", "shims such as 0.76 + 0.25, ? for an unmeasured one")
        shims = tuple(None if word == "?" else self._length(word) for word in words)
        if any(thick is not None and not 0.0 < thick <= 50.0 for thick in shims):
            raise QuantityError(
                text, f"“{text.strip()}”", "shims of 0 to 50 mm, such as 0.76 + 0.25, ? for an unmeasured one"
            )
        return shims

    def preview_typed(self, path: str, text: str) -> None:
        """Think of the stack that was typed, where its shims lie ready. Raises ``QuantityError``."""
        stack, fit = STACK.match(path), self.fit
        station = self._station(stack[1]) if stack else None
        if stack is None or fit is None or station is None or not station.known:
            return
        shims = self._shims(text)
        now = self.preview if self.preview is not None and self.preview.place == station.place else None
        sides = list((now.first, now.second) if now else stacks_at(fit.trial, station.place).sides)
        which = 0 if stack[2] == "first" else 1
        sides[which] = shims
        ready = _ready(fit.trial, station.place, sides[1 - which])
        short = next((t for t in shims if t is not None and shims.count(t) > ready.get(t, 0)), None)
        if short is not None or shims.count(None) > sum(
            side.count(None) for side in stacks_at(fit.trial, station.place).sides
        ):
            raise QuantityError(text, f"“{text.strip()}”", "shims that lie in the box, or under this bolt now")
        self.preview = _outcome(fit, station, (sides[0], sides[1]))

    def preview_of(self, path: str, height: float) -> None:
        """Think of a stack ``height`` [mm] high: the nearest that lies ready; the other bolt's follows where both are equal."""
        stack, fit = STACK.match(path), self.fit
        station = self._station(stack[1]) if stack else None
        if stack is None or fit is None or fit.doubted or station is None or not station.known or station.radial:
            return
        now = self.preview if self.preview is not None and self.preview.place == station.place else None
        sides = list((now.first, now.second) if now else stacks_at(fit.trial, station.place).sides)
        which = 0 if stack[2] == "first" else 1
        both = fit.trial.school == "equal"
        ready = _ready(fit.trial, station.place, () if both else sides[1 - which])
        sides[which] = nearest_stack(ready, height, 2 if both else 1)
        if both:
            sides[1 - which] = sides[which]
        self.preview = _outcome(fit, station, (sides[0], sides[1]))

    def height_of(self, path: str) -> float:
        """Return how high a stack is, as wished or as it is [mm]."""
        stack, trial = STACK.match(path), self.trial
        if stack is None or trial is None:
            return math.nan
        place: Place = "lug" if stack[1] == "lug" else "ear"
        now = self.preview if self.preview is not None and self.preview.place == place else None
        sides = (now.first, now.second) if now else stacks_at(trial, place).sides
        return math.fsum(thick for thick in sides[0 if stack[2] == "first" else 1] if thick is not None)

    def next_plan(self, step: int = 1) -> None:
        """Look at the next of the plans."""
        self.preview = None
        many = len(self.fit.moves) if self.fit is not None else 0
        self.place = (self.place + step) % many if many else 0

    def set_stock(self, thick: float, count: int, group: str = "") -> None:
        """Say how many shims of a thickness [mm] lie ready; none takes it out. Steps of one ``group`` are undone together."""
        trial = self.trial
        if trial is None:
            return
        rest = [loose for loose in trial.stock if loose.thickness_mm != thick]
        old = next((loose for loose in trial.stock if loose.thickness_mm == thick), LooseShims(thickness_mm=thick))
        stock = [*rest, *([replace(old, count=count)] if count > 0 else [])]
        stock.sort(key=lambda loose: known(loose.thickness_mm))
        self.study.edit(
            f"Shims of {thick:g} mm: {count}", ((f"trials[{self.shown}].stock", tuple(stock)),), group=group
        )

    def add_stock(self, text: str) -> None:
        """Put more shims into the box, typed as ``0.25 x 8``, ``8 x 0.25`` or ``0.25``. Raises ``QuantityError``."""
        thick, more = self._counted(text)
        if self.trial is None:
            return
        near = (loose for loose in self.trial.stock if abs(known(loose.thickness_mm) - thick) < SAME_SHIM_MM)
        old = next(near, LooseShims(thickness_mm=round(thick, 4), count=0))
        if old.count + more > MOST_SHIMS:
            raise QuantityError(text, f"“{text.strip()}”", f"up to {MOST_SHIMS} shims of one thickness")
        self.set_stock(known(old.thickness_mm), old.count + more)

    def _counted(self, text: str) -> tuple[float, int]:
        """Return thickness [mm] and number of what was typed; the number is the one of both that is whole and has no unit."""
        shown, wanted = f"“{text.strip()}”", "a thickness and how many, such as 0.25 x 8 or 8 x 0.25"
        parts = [part.strip() for part in re.split(r"[x×*]", text)]
        if len(parts) > PARTS or not all(parts):
            raise QuantityError(text, shown, wanted)
        whole = [bool(_PLAIN.fullmatch(part)) for part in parts]
        if len(parts) == PARTS and all(whole):
            raise QuantityError(text, shown, f"the thickness with its unit, such as {parts[0]} mm x {parts[1]}")
        if len(parts) == PARTS and not any(whole):
            raise QuantityError(text, shown, wanted)
        count = int(next((part for part, is_whole in zip(parts, whole) if is_whole and len(parts) == PARTS), "1"))
        thick = self._length(next(part for part, is_whole in zip(parts, whole) if not is_whole or len(parts) == 1))
        if not 0.0 < thick <= 50.0 or not count:
            raise QuantityError(text, shown, "a thickness above 0 and up to 50 mm, and at least one of them")
        return thick, count

    def set(self, name: str, value: object) -> None:
        """Set one thing about how the trial is set up or what was found; what was read before a change no longer counts."""
        trial = self.trial
        if trial is None or getattr(trial, name) == value:
            return
        label = f"Trial: {name.removesuffix('_mm').replace('_', ' ')}"
        if name in SET_UP:
            self._keep_trial(label, with_set_up(self.study.job, trial, name, value))
        elif name in DEPENDS and name not in GAPS:
            self._keep_trial(label, with_reading(trial, name, value))
        else:
            edits: tuple[Edit, ...] = ((f"trials[{self.shown}].{name}", value),)
            self.study.edit(label, edits)


PARTS = 2
MOST_SHIMS, SAME_SHIM_MM = 100, 0.001
"""So many shims of one thickness the box holds; sizes nearer than that are one."""


def _ready(trial: Trial, place: Place, other: tuple[float | None, ...]) -> dict[float, int]:
    """Return how many shims of each thickness [mm] can go under one bolt, those under the ``other`` one left there."""
    many: dict[float, int] = {}
    for loose in trial.stock:
        if loose.thickness_mm:
            many[loose.thickness_mm] = many.get(loose.thickness_mm, 0) + loose.count
    for thick in (thick for side in stacks_at(trial, place).sides for thick in side if thick):
        many[thick] = many.get(thick, 0) + 1
    for taken in other:
        if taken:
            many[taken] = many.get(taken, 0) - 1
    return many


def _outcome(
    fit: TrialFit, station: ShimStation, sides: tuple[tuple[float | None, ...], tuple[float | None, ...]]
) -> ShimPlan:
    """Return stacks as a plan, with what they lead to."""
    now = stacks_at(fit.trial, station.place).sides
    grown = [math.fsum(t for t in new if t) - math.fsum(t for t in old if t) for new, old in zip(sides, now)]
    move, turn = station.moved(grown[0], grown[1])
    tilt = math.degrees(math.atan(math.tan(math.radians(fit.pose.tilt.value)) + turn))
    return ShimPlan(station.place, sides[0], sides[1], fit.pose.offset.value + move, tilt)

"""Vehicles to start from: one with nothing measured, the demo, a practice corner."""

import os
from datetime import date
from pathlib import Path

import msgspec

from bicentra.core.base.finding import Edit
from bicentra.core.base.records import Record, replace
from bicentra.core.bracket.families.table import FAMILIES
from bicentra.core.parts.attachments import PracticeRun
from bicentra.core.parts.corners import job_of, vehicle_of, with_job
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import CORNERS, Caliper, Hub, Job, OriginalBrake, Rotor
from bicentra.core.parts.survey import Distance, Feature, Survey
from bicentra.core.parts.vehicle import Corner, Vehicle
from bicentra.core.practice.corner import begin_corner
from bicentra.core.practice.truth import truth_of
from bicentra.data import data_path
from bicentra.formats.job_json import read_vehicle
from bicentra.study.document.brakes import UNMEASURED
from bicentra.study.document.store import write_atomic

DEMO = "float.bicentra.json"
EXAMPLES = {
    "two-bolts": "Flat plate, two unlike bolts, one sunk",
    "spindle-faces": "On two spindle faces of unlike height",
    "moved-out": "The same caliper further out, on its own spacing",
    "axle-end": "Axle-end plate in place of a backing plate",
    "tube-tab": "Tab welded to an axle tube",
    "on-original": "Plate on the original caliper's bracket",
    "bushings": "Eccentric bushings in the ears",
    "no-bracket": "Straight on, shims alone",
    "inserts": "Threaded inserts, bolts from behind the lugs",
    "ear-shims": "Shims at the lugs and at the ears",
    "radial": "Radial caliper on studs",
    "rotor-side": "Another rotor: redrilled, centred by a ring, on a plate",
    "casting": "A ridge of the casting in the way",
    "trial-fit": "Tried dry twice, centred and locked",
}
"""The jobs that ship beside the demo, one for each kind of job: what each shows. All of them are invented."""
HELD = {
    "lugs": ("Lugs on the knuckle", "lugs"),
    "flange": ("A flange at the axle's end", "axle-flange"),
    "tube": ("A tube to weld to", "tube"),
    "original": ("The original caliper bracket", "original-bracket"),
    "direct": ("Nothing: straight on", "direct"),
    "later": ("Still unknown", "lugs"),
}
"""What can hold the bracket: what it is called, and the mounting that goes with it."""
ON_LUGS = ("lugs", "faces", "direct")
"""Of these the ones that lugs of the knuckle do."""
FROM = {"library": "From the library", "measured": "I will measure them", "later": "Later"}
"""Where rotor and caliper come from."""


def empty_vehicle() -> Vehicle:
    """Return a vehicle of which nothing has been measured yet: at its first corner two lugs without a place."""
    return Vehicle(corners={"front-right": Corner(hub=Hub(), knuckle=UNMEASURED)})


def empty_job() -> Job:
    """Return the job of its first corner."""
    return job_of(empty_vehicle())


class Start(Record, frozen=True):
    """What is known of a new job before anything is measured. ``held``: a key of ``HELD``; ``parts``: one of ``FROM``."""

    title: str = ""
    corner: str = CORNERS[0]
    units: str = "mm"
    held: str = "lugs"
    parts: str = "later"


def new_vehicle(start: Start) -> Vehicle:
    """Return an empty vehicle as ``start`` says: its name, corner, units, and the kind of bracket that what holds it asks for."""
    _, mounting = HELD[start.held]
    family = (
        next((name for name, kind in FAMILIES.items() if kind.mounting == mounting), "") if mounting != "lugs" else ""
    )
    plain = empty_vehicle()
    corner = plain.corners["front-right"]
    vehicle = replace(
        plain, title=start.title, display_units=start.units, corner=start.corner, corners={start.corner: corner}
    )
    job, shelf = job_of(vehicle), "inch" if start.units == "in" else "metric"
    edits: tuple[tuple[str, object], ...]
    edits = (("knuckle.mounting", mounting), ("bracket.family", family), ("bracket.shelf", shelf))
    if mounting not in ON_LUGS:  # no lugs are asked about where no lug holds anything
        edits += (("knuckle.lugs", ()),)
    if mounting == "original-bracket":  # the brake that came off places the bracket that stays
        edits += (("before", OriginalBrake(rotor=Rotor(), caliper=Caliper())),)
    return with_job(vehicle, job, with_edits(job, edits))


def demo_vehicle() -> Vehicle:
    """Return a fresh copy of the demo vehicle."""
    return read_vehicle(data_path("demo", DEMO))


def example_vehicle(name: str) -> Vehicle:
    """Return a fresh copy of the example called ``name``. Raises ``KeyError`` for one that is none."""
    if name not in EXAMPLES:
        raise KeyError(name)
    return read_vehicle(data_path("examples", f"{name}.bicentra.json"))


def demo_job() -> Job:
    """Return the job of the corner that the demo starts at."""
    return job_of(demo_vehicle())


def load_first_adjustment() -> None:
    """Load what the first adjustment of a survey will need, by adjusting the smallest there is."""
    from bicentra.core.survey.adjust import adjust

    ends = (Feature(name="pilot", axis=True), Feature(name="a"))
    adjust(Survey(features=ends, distances=(Distance(from_="pilot", to="a", value_mm=1.0),)))


CURED: tuple[Edit, ...] = (
    ("survey", {}), ("trials", ()), ("bracket.thickness_mm", None), ("bracket.shims_mm", (0.0, 0.0)),
    ("bracket.caliper_bolt_length_mm", None), ("bracket.lug_bolt_length_mm", 35.0), ("caliper.slot_width_mm", 26.0),
    ("photos", ()), ("issued", ()),
)  # fmt: skip
"""What makes the demo's corner one to practise on: no fault of its own, bolts long enough for any stack, a slot wide enough for a
caliper that sits far off."""
MOST_RESULTS = 500


def practice_base() -> Job:
    """Return the corner that is practised on, nothing hidden in it yet."""
    return replace(with_edits(demo_job(), CURED), practice=True, opposite=None)


def practice_vehicle(seed: int, level: int) -> Vehicle:
    """Return practice corner ``seed`` at ``level``, ready to be opened."""
    job = begin_corner(practice_base(), truth_of(seed, level))
    notes = "A simulated corner: nothing of it was measured on a car."
    return vehicle_of(replace(job, title=f"Practice corner {seed}, level {level}", notes=notes))


class Result(msgspec.Struct, frozen=True):
    """How a practice corner was done: minutes, those of the careful way, changes of shims; locked, or given up."""

    seed: int
    level: int
    minutes: float
    par: float
    moves: int
    done: str
    locked: bool | None = None


def results_file() -> Path:
    """Return where this user's results are kept."""
    home = os.environ.get("XDG_STATE_HOME") or str(Path.home() / ".local" / "state")
    return Path(home) / "bicentra" / "practice.json"


def results() -> tuple[Result, ...]:
    """Return what this user has practised so far, oldest first; nothing where the file is not there or no use."""
    try:
        return msgspec.json.decode(results_file().read_bytes(), type=tuple[Result, ...])
    except (OSError, msgspec.DecodeError, msgspec.ValidationError):
        return ()


def keep_result(run: PracticeRun, par: float, today: date | None = None) -> None:
    """Add a run that has ended to this user's results."""
    made = Result(
        run.seed, run.level, run.minutes, par, run.moves, (today or date.today()).isoformat(), not run.given_up
    )
    path = results_file()
    path.parent.mkdir(parents=True, exist_ok=True)
    write_atomic(path, msgspec.json.encode((*results(), made)[-MOST_RESULTS:]))

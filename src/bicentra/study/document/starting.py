"""Vehicles to start from: one with nothing measured, and the demo that ships with the program."""

from bicentra.core.base.records import Record, replace
from bicentra.core.bracket.families.table import FAMILIES
from bicentra.core.parts.corners import job_of, with_job
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import CORNERS, Caliper, Hub, Job, OriginalBrake, Rotor
from bicentra.core.parts.survey import Distance, Feature, Survey
from bicentra.core.parts.vehicle import Corner, Vehicle
from bicentra.data import data_path
from bicentra.formats.job_json import read_vehicle
from bicentra.study.document.brakes import UNMEASURED

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

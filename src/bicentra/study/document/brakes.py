"""Which brake an axle has or gets: a look at a corner writes nothing, and the first edit there asks."""

from bicentra.core.base.errors import BicentraError
from bicentra.core.base.records import replace
from bicentra.core.parts.corners import OF_AXLE, OF_CORNER, across, axle_of, job_of
from bicentra.core.parts.job import Caliper, Hub, Job, Knuckle, Lug, OriginalBrake, Rotor
from bicentra.core.parts.vehicle import Axle, Corner, Drum, Vehicle

DISC, DRUM, OPEN = "disc", "drum", "open"
LATER = "later"
"""What an axle has (``OPEN``: nobody said), and the answer that leaves it so."""
UNMEASURED = Knuckle(lugs=(Lug(name="upper"), Lug(name="lower")))
"""Two lugs without a place: what a corner begins with."""


class BrakeNotChosenError(BicentraError):
    """An edit of a disc brake at an axle that keeps its drums, or of which nobody has decided."""


def brake_of(vehicle: Vehicle, corner: str = "") -> str:
    """Return whether the axle of ``corner`` has ``DISC`` or ``DRUM`` brakes, or that it is ``OPEN``."""
    name = corner or vehicle.corner
    axle = vehicle.axles.get(axle_of(name), Axle())
    begun = [vehicle.corners[one] for one in (name, across(name)) if one in vehicle.corners]
    if axle.drum is not None:
        measured = any(is_measured(one) for one in begun)
        return DISC if measured or axle.rotor != Rotor() or axle.caliper != Caliper() else DRUM
    return DISC if begun or replace(axle, before=None) != Axle() else OPEN


def is_measured(corner: Corner) -> bool:
    """Tell whether anything was measured at a corner: its two lugs without a place are nothing."""
    bare = replace(corner, hub=None, knuckle=None)
    return bare != Corner() or corner.hub not in (None, Hub()) or corner.knuckle not in (None, Knuckle(), UNMEASURED)


def shown_job(vehicle: Vehicle) -> Job:
    """Return the job of the corner that is worked on; one of which nothing is known has two lugs that are still to be
    measured.
    """
    job = job_of(vehicle)
    known = any(vehicle.corners.get(name, Corner()).knuckle is not None for name in (job.corner, across(job.corner)))
    return job if known else replace(job, knuckle=UNMEASURED)


def touches_brake(before: Job, after: Job) -> bool:
    """Tell whether an edit is one of this corner's brake, and not of what the whole vehicle shares."""
    records = (*OF_AXLE, *OF_CORNER, "survey", "trials", "exact")
    return any(getattr(before, record) != getattr(after, record) for record in records)


def begun_as_disc(vehicle: Vehicle) -> Vehicle:
    """Return ``vehicle`` with the corner that is worked on begun as a disc brake; a drum becomes what was there before."""
    name = vehicle.corner
    own, axle = vehicle.corners.get(name, Corner()), vehicle.axles.get(axle_of(name), Axle())
    if own.knuckle is None and vehicle.corners.get(across(name), Corner()).knuckle is None:
        own = replace(own, hub=own.hub or Hub(), knuckle=UNMEASURED)
    if axle.drum is not None:
        before = axle.before or OriginalBrake()
        axle = replace(axle, drum=None, before=replace(before, drum=before.drum or axle.drum))
    return replace(vehicle, corners={**vehicle.corners, name: own}, axles={**vehicle.axles, axle_of(name): axle})


def kept_as_drum(vehicle: Vehicle) -> Vehicle:
    """Return ``vehicle`` with drums at the axle that is looked at."""
    name = axle_of(vehicle.corner)
    axle = vehicle.axles.get(name, Axle())
    return replace(vehicle, axles={**vehicle.axles, name: replace(axle, drum=axle.drum or Drum())})

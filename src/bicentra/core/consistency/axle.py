"""Left and right of one axle: what of their brakes is not the same."""

from collections.abc import Iterator

from bicentra.core.base.wording import LengthFormat
from bicentra.core.consistency.conflict import Conflict
from bicentra.core.parts.job import Job

TORQUE = ("caliper.pistons", "caliper.action", "rotor.diameter_mm", "caliper.pad_height_mm", "caliper.pad_width_mm")
FEEL = ("caliper.", "rotor.", "fit.pad_inset_mm")
"""Beginnings of the key paths that change torque, and those that change clearance, wear or feel."""


def axle_conflicts(job: Job, lengths: LengthFormat) -> Iterator[Conflict]:
    """Yield what differs between the two brakes of the axle that ``job`` is a corner of: they are one brake to the vehicle."""
    del lengths
    brake = [path for path in job.unlike if path.startswith(FEEL)]
    if not brake:
        return
    names = ", ".join(dict.fromkeys(path.replace("_mm", "").replace("_", " ").replace(".", ": ") for path in brake))
    pulls = any(path.startswith(TORQUE) for path in brake)
    why = "the vehicle pulls to one side under braking" if pulls else "they wear and feel unlike"
    yield Conflict(f"Left and right differ ({names}): {why}. Fit the same parts on both sides.", stop=pulls)

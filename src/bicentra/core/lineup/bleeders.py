"""Which bleeder stands up, and how far it is from straight up, at any clock angle."""

import numpy as np

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.parts.job import Job


def bleeder_sweep(job: Job, clock_rad: FloatArray) -> FloatArray:
    """Return how far [degrees] the best bleeder stands from straight up at each angle; unknown without bleeders."""
    bleeders = np.array(job.caliper.bleeders_deg, dtype=float)
    if not len(bleeders):
        return np.full(len(clock_rad), UNKNOWN)
    from_up = np.degrees(clock_rad)[:, None] + bleeders + known(job.fit.attitude_deg) - 90.0
    return np.asarray(np.min(np.abs((from_up + 180.0) % 360.0 - 180.0), axis=1))


def bleeder_windows(job: Job, within: float) -> tuple[tuple[float, float] | None, ...]:
    """Return, for each bleeder, from which to which clock angle [degrees] it is the high one and within ``within`` of up.

    A bleeder at b in the caliper's frame stands straight up at 90 − b − attitude; half way to its neighbour the neighbour
    is as high. ``None`` for one that never is the high one.
    """
    if not is_known(job.fit.attitude_deg):
        return ()
    tops = [(90.0 - turn - known(job.fit.attitude_deg)) % 360.0 for turn in job.caliper.bleeders_deg]
    found: list[tuple[float, float] | None] = []
    for k, top in enumerate(tops):
        others = [(other - top) % 360.0 for j, other in enumerate(tops) if j != k]
        if any(gap == 0.0 for gap in others[:k]):
            found.append(None)
            continue
        ahead = min([gap / 2 for gap in others if gap > 0], default=180.0)
        behind = min([(360.0 - gap) / 2 for gap in others if gap > 0], default=180.0)
        found.append((top - min(behind, within), top + min(ahead, within)))
    return tuple(found)

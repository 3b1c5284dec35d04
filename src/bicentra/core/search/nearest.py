"""Where a set that is stopped at every clock angle misses least."""

from collections.abc import Mapping

import numpy as np

from bicentra.core.base.finding import SLACK
from bicentra.core.base.registry import kind_of
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for

NEAR_MM = 3.0
"""What misses by more is no near miss: it is not looked at closer."""


def nearest_miss(job: Job, values: Mapping[str, FloatArray]) -> tuple[int, str] | None:
    """Return the place of the clock angle, and the finding, that misses least [mm] of those asked there: (n,) ``values`` each.

    ``None`` where nothing is known that misses by less than ``NEAR_MM``. What else stops that angle has not been asked.
    """
    found, least = None, NEAR_MM
    for id, row in values.items():
        kind = kind_of(id)
        if not kind.turns or kind.limit is None or not (limit := limit_for(job, id)).at_least or limit.unit != "mm":
            continue  # what turns is a room to something, or no length
        short = limit.stop - row
        short = np.where(np.isfinite(short) & (short > SLACK), short, np.inf)
        place = int(short.argmin())
        if short[place] < least:
            found, least = (place, id), float(short[place])
    return found

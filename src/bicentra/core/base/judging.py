"""Verdicts for many values at once, by the same rule as ``finding.judge``."""

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.finding import SLACK, Verdict
from bicentra.core.base.limit import Limit
from bicentra.core.base.numbers import is_known

Ranks = NDArray[np.int8]
BY_RANK = (Verdict.STOP, Verdict.UNKNOWN, Verdict.CAUTION, Verdict.OK)
STOP, UNKNOWN, CAUTION, OK = range(4)


def judge_all(values: NDArray[np.float64], limit: Limit) -> Ranks:
    """Return (n,) int8: the rank (0 stop, 1 unknown, 2 watch, 3 met) of each of (n,) ``values`` [unit of the limit]."""
    if not is_known(limit.stop, limit.watch):
        return np.full(len(values), UNKNOWN, dtype=np.int8)
    sign = 1.0 if limit.at_least else -1.0
    with np.errstate(invalid="ignore"):
        ranks = np.where(sign * (values - limit.watch) < -SLACK, CAUTION, OK)
        ranks = np.where(sign * (values - limit.stop) < -SLACK, STOP, ranks)
    return np.where(np.isnan(values), UNKNOWN, ranks).astype(np.int8)

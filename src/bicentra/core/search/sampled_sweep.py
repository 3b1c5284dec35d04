"""What is known of one set of parts at many clock angles, handed from the sweeps to the score."""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.finding import Finding
from bicentra.core.base.judging import Ranks
from bicentra.core.base.records import Record
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.geometry.outline import FloatArray

Places = NDArray[np.intp]


class CaliperAlone(Record, frozen=True):
    """What is known of one set at n clock angles without a bracket: the best rank each can have, and values asked, (n,) each.

    ``surely_stopped`` tells (k,) at which of k places a bracket is stopped that need not be made to know it.
    """

    ranks: Ranks
    values: dict[str, FloatArray]
    surely_stopped: Callable[[Places], NDArray[np.bool_]]


class SweptSet(Record, frozen=True):
    """One set at n clock angles: rank of its verdict (0 stop to 3 met) and the values its score is made of, (n,) each.

    ``invariant`` are the findings that do not turn with the caliper, ``values`` those that do, nan where an angle was not
    asked any more.
    """

    assembly: Assembly
    ranks: Ranks
    invariant: tuple[Finding, ...]
    values: dict[str, FloatArray]

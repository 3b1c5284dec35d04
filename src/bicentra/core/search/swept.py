"""What is known of one set of parts at many clock angles, handed from the sweeps to the score."""

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.finding import Finding
from bicentra.core.base.judging import Ranks
from bicentra.core.base.records import Record
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.geometry.outline import FloatArray

Places = NDArray[np.intp]


class SweptSet(Record, frozen=True):
    """One set at n clock angles: rank of its verdict (0 stop to 3 met) and the values its score is made of, (n,) each.

    ``still`` are the findings that do not turn with the caliper, ``values`` those that do, nan where an angle was not
    asked any more.
    """

    assembly: Assembly
    ranks: Ranks
    still: tuple[Finding, ...]
    values: dict[str, FloatArray]

"""The clock windows while something is pulled: the circle in steps of some degrees, some of the questions asked anew each frame.

They are the very questions of the exact search, for the bracket as it is in that frame: an answer that is shown is at most
``LOTS * EVERY_FRAMES`` frames old. Once the pull ends all are asked, and the exact search takes their place.
"""

from bicentra.core.base.records import replace
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.search.clock import LOTS, STEP_DEG, ClockSearch, look_at, put_together, stopped_by

ROUGH_DEG, EVERY_FRAMES = 5.0, 6
"""Steps of the circle [degrees]; every how many frames something is asked."""


class IncrementalClock:
    """What is known of each step; begun with what an exact search ``before`` the pull found."""

    def __init__(self, before: ClockSearch) -> None:
        every = round(ROUGH_DEG / STEP_DEG)
        self.angles: FloatArray = before.angles[::every]
        self._values = {name: row[::every] for name, row in before.values.items()}
        self._begun = "pieces" in self._values  # else it was begun with a kind of bracket that is not swept as one
        self._shown: ClockSearch | None = None
        self._frame = 0

    def turn(self, assembly: Assembly, whole: bool = False) -> ClockSearch | None:
        """Ask what is due of ``assembly``, or everything round the ``whole`` circle; ``None`` for a kind that is made
        anew at every angle.
        """
        if assembly.bracket.kind.cut is None:
            return None
        lot, waits = divmod(self._frame, EVERY_FRAMES)
        self._frame = (self._frame + 1) % (EVERY_FRAMES * LOTS)
        if self._shown is None or whole or not waits:
            new = look_at(assembly, self.angles, lot if self._begun and not whole else None)
            self._values, self._begun = {**(self._values if self._begun else {}), **new}, True
            found = put_together(self.angles, self._values, stopped_by(assembly.job, self._values))
            self._shown = replace(found, rough=True)
        return self._shown

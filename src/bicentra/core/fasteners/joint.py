"""One bolt in its stack, from the head through washers and clamped parts into the female thread.

Positions run along the bolt: 0 at the face the washers lie on, positive towards the tip.
"""

import math

from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.records import Record
from bicentra.core.parts.threads import Thread


class Stack(Record, frozen=True):
    """What a bolt has to hold: parts clamped [mm] (washers apart), and the female thread behind them.

    ``least`` and ``wanted``: thread engagement [mm] below which it is a stop, and that is aimed at. ``past``: thread
    wanted beyond the female one (a pitch past a nut). ``sunk``: a countersunk head, flush: positions count from its top.
    ``layers``: what is clamped, from the head on: its name and thickness [mm].
    """

    clamped: float
    washers: int
    depth: float
    female: str
    least: float
    wanted: float
    past: float = 0.0
    sunk: bool = False
    layers: tuple[tuple[str, float], ...] = ()


class Joint(Record, frozen=True):
    """A bolt of a chosen length in its stack [mm]."""

    thread: Thread
    stack: Stack
    length: float
    chosen: bool

    @property
    def washer_thickness(self) -> float:
        """Thickness of all washers under the head [mm]."""
        return self.stack.washers * self.thread.hardware.washer_thickness

    @property
    def grip(self) -> float:
        """Clamped thickness, washers included [mm]."""
        return self.stack.clamped + self.washer_thickness

    @property
    def engagement(self) -> float:
        """Thread actually inside the female thread, never more than its depth nor less than nothing [mm]."""
        reach = self.length - self.grip
        return min(max(reach, 0.0), self.stack.depth) if is_known(reach, self.stack.depth) else UNKNOWN

    @property
    def protrusion(self) -> float:
        """Thread sticking out past the female thread [mm]."""
        over = self.length - self.grip - self.stack.depth
        return max(over, 0.0) if is_known(over) else UNKNOWN

    @property
    def tip(self) -> float:
        """Place of the tip, measured from the face the washers lie on [mm]."""
        return self.length - self.washer_thickness

    @property
    def head_top(self) -> float:
        """Height of the head's top above the face the washers lie on [mm]."""
        return 0.0 if self.stack.sunk else self.washer_thickness + self.thread.hardware.head_height


def make_joint(thread: Thread, stack: Stack, length: float | None) -> Joint:
    """Return the bolt of the ``length`` given, or of the shortest stock length that holds [mm]."""
    if length is not None:
        return Joint(thread, stack, length, chosen=False)
    return Joint(thread, stack, stock_length(thread, stack), chosen=True)


def stock_length(thread: Thread, stack: Stack) -> float:
    """Return the shortest stock length [mm] whose engagement is what is wanted, or all that the thread's depth allows.

    Unknown when the stack is unknown or no stock length is long enough.
    """
    grip = stack.clamped + stack.washers * thread.hardware.washer_thickness
    need = grip + min(stack.wanted, stack.depth) + stack.past if is_known(grip, stack.depth) else UNKNOWN
    if math.isnan(need):
        return UNKNOWN
    return next((length for length in thread.stock_lengths if length >= need - 1e-9), UNKNOWN)


def nut_stack(thread: Thread, clamped: float, washers: int) -> Stack:
    """Return the stack of a bolt with a full nut [mm]: the whole nut engaged, and one pitch through it wanted."""
    nut = thread.hardware.nut_height
    return Stack(clamped, washers, nut, "nut", least=nut, wanted=nut, past=thread.pitch)

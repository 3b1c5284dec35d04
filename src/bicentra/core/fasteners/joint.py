"""One bolt in its stack: grip, engagement, property class, and how much thread makes the bolt break before the thread strips."""

import math

from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.records import Record
from bicentra.core.parts.threads import Thread

KSI = 6.894757293168361
"""One thousand pounds force on a square inch [N/mm2], exact to the digits given (NIST SP 811, from memory)."""


class Grade(Record, frozen=True):
    """A property class: proof stress, 0.2 % yield (or yield) and tensile strength [N/mm2]."""

    name: str
    proof: float
    yield_: float
    tensile: float
    inch: bool = False


GRADES: dict[str, Grade] = {
    grade.name: grade
    for grade in (
        Grade("8.8", 580.0, 640.0, 800.0),
        Grade("9.8", 650.0, 720.0, 900.0),
        Grade("10.9", 830.0, 940.0, 1040.0),
        Grade("12.9", 970.0, 1100.0, 1220.0),
        Grade("A2-70", 450.0, 450.0, 700.0),
        Grade("A4-80", 600.0, 600.0, 800.0),
        Grade("grade 2", 55 * KSI, 57 * KSI, 74 * KSI, True),
        Grade("grade 5", 85 * KSI, 92 * KSI, 120 * KSI, True),
        Grade("grade 8", 120 * KSI, 130 * KSI, 150 * KSI, True),
    )
}
"""Stainless: ISO 3506-1 states no proof stress; its 0.2 % yield stands in."""


def usual_grade(thread: Thread) -> Grade:
    """Return the grade taken where nobody says: 8.8, or grade 5 for inch threads; common practice on brackets."""
    return GRADES["grade 5"] if thread.inch else GRADES["8.8"]


def proof_load(thread: Thread, grade: Grade) -> float:
    """Return the proof load [N], proof stress × stress area (ISO 898-1, SAE J429)."""
    return grade.proof * thread.stress_area


SHEAR_SHARE = 0.577
"""Shear strength over tensile strength, von Mises: 1/√3."""


def external_area(thread: Thread, length: float) -> float:
    """Return the bolt thread's shear area [mm2] over ``length`` [mm]: 0.75 π D₁ L."""
    return 0.75 * math.pi * thread.minor * length


def internal_area(thread: Thread, length: float) -> float:
    """Return the tapped thread's shear area [mm2] over ``length`` [mm]: 0.875 π d L."""
    return 0.875 * math.pi * thread.major * length


def engagement_against_stripping(thread: Thread, bolt_tensile: float, tapped_tensile: float) -> float:
    """Return the engagement [mm] at which neither thread strips before the bolt breaks in tension.

    The bolt breaks at R_m A_s; its own thread carries 0.577 R_m × external area, the tapped one 0.577 R_m × internal area.
    """
    own = thread.stress_area / (SHEAR_SHARE * external_area(thread, 1.0))
    other = bolt_tensile * thread.stress_area / (SHEAR_SHARE * tapped_tensile * internal_area(thread, 1.0))
    return max(own, other)


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

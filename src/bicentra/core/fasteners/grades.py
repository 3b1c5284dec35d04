"""Property classes and grades of bolts: proof stress, yield and tensile strength.

ISO 898-1:2013 table 3 for metric classes, ISO 3506-1 for stainless, SAE J429 for inch grades; all from memory (no page was
seen). Proof loads are tested against the printed ones of ISO 898-1 table 5 and SAE J429.
"""

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


_LARGE_8_8 = Grade("8.8", 600.0, 660.0, 830.0)
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


def grade_of(name: str, thread: Thread) -> Grade:
    """Return the grade called ``name`` for ``thread``: 8.8 is a little stronger above M16. Raises ``KeyError``."""
    return _LARGE_8_8 if name == "8.8" and thread.major > 16.0 else GRADES[name]


def usual_grade(thread: Thread) -> Grade:
    """Return the grade taken where nobody says: 8.8, or grade 5 for inch threads; common practice on brackets."""
    return GRADES["grade 5"] if thread.inch else GRADES["8.8"]


def proof_load(thread: Thread, grade: Grade) -> float:
    """Return the proof load [N], proof stress × stress area (ISO 898-1, SAE J429)."""
    return grade.proof * thread.stress_area

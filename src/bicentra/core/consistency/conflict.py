"""One contradiction, and the finding that a record's contradictions come to."""

from collections.abc import Iterable

from bicentra.core.base.finding import Check, Finding, Remedy, Verdict, worst
from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.base.records import Record

OUR_JUDGEMENT = "Our judgement"
GEOMETRY = "Geometry of the part"


class Conflict(Record, frozen=True):
    """Two numbers that do not go together, told in full. ``stop``: it cannot work or cannot exist; else it is worth a
    second look.

    ``unknown``: nothing is wrong, but something has to be said before anything can be.
    """

    text: str
    stop: bool = True
    unknown: bool = False
    remedies: tuple[Remedy, ...] = ()

    @property
    def verdict(self) -> Verdict:
        """What it comes to."""
        return Verdict.UNKNOWN if self.unknown else Verdict.STOP if self.stop else Verdict.CAUTION


def finding_of(
    id: str, conflicts: Iterable[Conflict], features: tuple[str, ...], source: str = GEOMETRY
) -> tuple[Finding, ...]:
    """Return the finding called ``id`` of all ``conflicts`` of a record, the worst in front; nothing where there is none."""
    found = sorted(conflicts, key=lambda one: one.verdict.rank)
    if not found:
        return ()
    checks = tuple(Check("", one.verdict, UNKNOWN, UNKNOWN, "", one.text) for one in found)
    return (
        Finding(
            id, worst(one.verdict for one in found), UNKNOWN, UNKNOWN, "", " ".join(one.text for one in found),
            tuple(remedy for one in found for remedy in one.remedies), features, checks, source,
        ),
    )  # fmt: skip

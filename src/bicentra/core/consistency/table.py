"""Every record of a corner's job with what is asked of its own numbers."""

from collections.abc import Callable, Iterator

from bicentra.core.base.finding import Finding
from bicentra.core.base.wording import LengthFormat
from bicentra.core.consistency.caliper import caliper_conflicts
from bicentra.core.consistency.conflict import Conflict, finding_of
from bicentra.core.consistency.fastening import lug_conflicts
from bicentra.core.consistency.turning import hub_conflicts, rotor_conflicts, wheel_conflicts
from bicentra.core.consistency.vehicle import axle_conflicts
from bicentra.core.parts.job import Job

Rules = Callable[[Job, LengthFormat], Iterator[Conflict]]
TABLE: tuple[tuple[str, Rules, tuple[str, ...]], ...] = (
    ("caliper-sizes", caliper_conflicts, ("caliper",)),
    ("rotor-sizes", rotor_conflicts, ("rotor",)),
    ("hub-sizes", hub_conflicts, ("hub",)),
    ("wheel-sizes", wheel_conflicts, ("wheel",)),
    ("lug-sizes", lug_conflicts, ("lug-0",)),
    ("axle-matched", axle_conflicts, ("caliper",)),
)


def consistency_findings(job: Job, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Return a finding for each record of ``job`` whose numbers contradict each other; nothing where all agree."""
    return tuple(finding for id, rules, features in TABLE for finding in finding_of(id, rules(job, lengths), features))

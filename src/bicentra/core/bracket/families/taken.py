"""The family a job has chosen, and which findings it brings and takes away."""

from bicentra.core.base.finding import Finding
from bicentra.core.bracket.families.model import Candidate
from bicentra.core.bracket.families.propose import FAMILIES, find_family
from bicentra.core.parts.job import Job

OF_THE_PLATE = frozenset({
    "axial-offset", "shim-stack", "ligament", "cutout-metal", "edge-distance", "bracket-to-rotor", "bracket-to-hub",
    "bracket-to-caliper", "bracket-to-obstacle", "bolt-tip-to-rotor", "thread-engagement", "bolt-head-room", "retainer-reach",
    "unsupported", "counterbore-floor", "thread-fit", "least-sizes", "dowel-metal", "chamfer-land", "slot-hold",
})  # fmt: skip
"""Findings of the flat plate: they say nothing about a bracket of another kind."""
WHERE_IT_STANDS = frozenset(
    {"axial-offset", "bolt-tip-to-rotor", "thread-engagement", "bolt-head-room", "counterbore-floor"}
)
"""Those of them that hold wherever the bracket stands; with their remedies, which a family's own do not look for."""


def taken_family(job: Job) -> Candidate | None:
    """Return the family that ``job`` has chosen, solved; ``None`` for the flat plate and for one this version does not know."""
    family = job.bracket.family
    return find_family(job, family) if family in FAMILIES and family != "flat-plate" else None


def merged(findings: tuple[Finding, ...], taken: Candidate | None) -> tuple[Finding, ...]:
    """Return ``findings`` of the line-up with those the family brings; what only a flat plate has is left out."""
    if taken is None:
        return findings
    own = {finding.id for finding in taken.findings}
    from_solve = WHERE_IT_STANDS & own if taken.stands is not None else frozenset()
    kept = (f for f in findings if f.id in from_solve or (f.id not in OF_THE_PLATE and f.id not in own))
    return (*kept, *(f for f in taken.findings if f.id not in from_solve))

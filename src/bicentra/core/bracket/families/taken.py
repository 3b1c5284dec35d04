"""The family a job has chosen: how its plate stands in the line-up, and which findings it brings and takes away."""

from dataclasses import replace

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.bracket.families.model import Candidate
from bicentra.core.bracket.families.propose import FAMILIES, find_family
from bicentra.core.parts.job import Job

PLATES = ("two-part", "stepped-plate")
"""Families that are a flat plate in the line-up, of another thickness or on other heights."""
OF_THE_PLATE = frozenset({
    "axial-offset", "shim-stack", "ligament", "cutout-metal", "edge-distance", "bracket-to-rotor", "bracket-to-hub",
    "bracket-to-caliper", "bracket-to-obstacle", "bolt-tip-to-rotor", "thread-engagement", "bolt-head-room", "retainer-reach",
    "unsupported", "counterbore-floor",
})  # fmt: skip
"""Findings of the flat plate: they say nothing about a bracket of another kind."""
METAL = frozenset(
    {"jogged-plate", "axle-end-plate", "radial-mount", "weld-on", "on-original-bracket", "parking-adapter"}
)
ROOMS = frozenset({"bracket-to-rotor", "bracket-to-hub", "bracket-to-obstacle", "bolt-tip-to-rotor"})
"""Brackets of another shape than a flat plate, and what can touch on any of them: unknown until a family asks it itself."""


def taken_family(job: Job) -> Candidate | None:
    """Return the family that ``job`` has chosen, solved; ``None`` for the flat plate and for one this version does not know."""
    family = job.bracket.family
    return find_family(job, family) if family in FAMILIES and family != "flat-plate" else None


def flat_job(job: Job, taken: Candidate | None) -> Job:
    """Return the job whose flat plate stands where the family's does, for those that are one in the line-up."""
    if taken is None or taken.family not in PLATES or not taken.parts:
        return job
    lugs = len(job.knuckle.lugs)
    if taken.family == "two-part":
        thick, under = taken.parts[0].thickness, tuple(part.thickness for part in taken.parts[1:])
    else:
        thick, under = taken.solved["left_mm"], (0.0,) * lugs
    return replace(job, bracket=replace(job.bracket, thickness_mm=thick, shims_mm=under))


def merged(findings: tuple[Finding, ...], taken: Candidate | None) -> tuple[Finding, ...]:
    """Return ``findings`` of the line-up with those the family brings; what only a flat plate has is left out."""
    if taken is None:
        return findings
    own = {finding.id for finding in taken.findings}
    if taken.family in PLATES and taken.parts:
        kept = tuple(f for f in findings if f.id not in ("shim-stack", "unsupported"))
        there = {finding.id for finding in kept}
        return (*kept, *(f for f in taken.findings if f.id not in there))
    unasked = tuple(_not_asked(f) for f in findings if taken.parts and taken.family in METAL and f.id in ROOMS - own)
    return (*(f for f in findings if f.id not in OF_THE_PLATE and f.id not in own), *taken.findings, *unasked)


def _not_asked(finding: Finding) -> Finding:
    """Return ``finding`` as unknown: it was worked out for a flat plate, which the taken bracket is not."""
    why = (
        "This is not worked out for a bracket of this kind: look at it in space, cut through the bolts, and try it in card "
        "before any metal."
    )
    return replace(
        finding, verdict=Verdict.UNKNOWN, value=UNKNOWN, why=why, remedies=(), checks=(), sd=UNKNOWN, probability=UNKNOWN,
        band=None, statement="",
    )  # fmt: skip

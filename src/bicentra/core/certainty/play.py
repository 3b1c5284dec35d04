"""Bolt-hole play: how far the parts can be pushed before the bolts are tight. Uniform, kept apart from measurement."""

import math

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.registry import kind_of
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.lineup.checks import line_up_findings
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.edits import with_value
from bicentra.core.parts.job import Job


def radial_play(job: Job, assembly: Assembly) -> float:
    """Return how far the caliper can be pushed either way [mm]: the play of the lug bolts and of the ear bolts added.

    A bolt of major diameter d in a plain hole of diameter D leaves (D − d)/2, a slot half its travel until it is dowelled; a
    threaded hole leaves none.
    """
    bracket, total = job.bracket, 0.0
    for group in assembly.bolted:
        holes = [hole for hole in assembly.holes if hole.at == group]
        if not holes or any(hole.thread is None for hole in holes):
            return math.nan
        major = [hole.thread.major if hole.thread is not None else math.nan for hole in holes]
        plate = min((h.diameter - d) / 2 if h.kind != "tapped" else 0.0 for h, d in zip(holes, major))
        if group == "lug":
            plain = [(lug.hole_mm, d) for lug, d in zip(job.knuckle.lugs, major) if not lug.thread]
            bores = [(math.nan if size is None else size) - d for size, d in plain]
        else:
            own = job.caliper.ear_hole_mm
            bores = [] if job.caliper.ear_thread else [(math.nan if own is None else own) - major[0]]
        behind = max(min(bores) / 2, 0.0) if bores else 0.0
        slots = min((h.slot for h in holes), default=0.0) / 2 if len(bracket.dowels) < 2 else 0.0
        pinned = group == "lug" and len(bracket.dowels) >= 2  # dowels place it on its lugs, whatever the bolts allow
        total += 0.0 if pinned else plate + behind + slots
    return total


def past_by_play(finding: Finding, band: tuple[float, float] | None) -> bool:
    """Tell whether what is met can be pushed past its limit by play, within its ``band`` [its unit]."""
    if band is None or finding.verdict is not Verdict.OK:
        return False
    return band[0] < finding.limit if finding.at_least else band[1] > finding.limit


def play_bands(job: Job, assembly: Assembly) -> dict[str, tuple[float, float]]:
    """Return the lowest and highest value play allows [its unit] of each finding that moves with the caliper's radius."""
    play, inset = radial_play(job, assembly), job.fit.pad_inset_mm
    if not math.isfinite(play) or play <= 0 or inset is None:
        return {}
    rows: dict[str, list[float]] = {}
    for way in (-play, play):
        pushed = with_value(job, "fit.pad_inset_mm", inset + way)
        found: tuple[Finding, ...] = line_up_findings(pushed, line_up(pushed), remedies=False)
        for finding in found:
            if kind_of(finding.id).pushed and math.isfinite(finding.value):
                rows.setdefault(finding.id, []).append(finding.value)
    return {id: (min(values), max(values)) for id, values in rows.items() if len(values) == 2}

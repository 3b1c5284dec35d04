"""The answer of ``bicentra bracket --families``: one JSON object for programs, lines for people."""

import math
from typing import Any

from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import or_none
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.bracket.model import Bore, MadePart
from bicentra.core.bracket_evaluation import BracketEvaluation


def families_object(options: tuple[BracketEvaluation, ...], own: BracketEvaluation) -> dict[str, Any]:
    """Return every family with its solved numbers, suited ones first, and the job's ``own`` bracket as it stands."""
    return {"families": [_family(proposal) for proposal in options], "taken": _family(own)}


def _family(proposal: BracketEvaluation) -> dict[str, Any]:
    (id, room), bracket = proposal.margin, proposal.bracket
    return {
        "family": bracket.family,
        "title": proposal.title,
        "suited": proposal.verdict.value,
        "why": proposal.why,
        "needs": list(bracket.needs),
        "thickness_mm": or_none(bracket.thickness),
        "mass_kg": or_none(bracket.mass_kg),
        "made_parts": bracket.made,
        "processes": list(bracket.processes),
        "reversible": bracket.reversible,
        "smallest_margin": {"id": id or None, "room": or_none(room)},
        "solved": {name: or_none(value) for name, value in bracket.solved.items()},
        "parts": [_part(part) for part in bracket.parts],
        "findings": [_finding(finding) for finding in proposal.findings],
    }  # fmt: skip


def _finding(finding: Finding) -> dict[str, Any]:
    value, limit, verdict = or_none(finding.value), or_none(finding.limit), finding.verdict.value
    return {
        "id": finding.id, "verdict": verdict, "value": value, "limit": limit, "unit": finding.unit, "why": finding.why,
    }  # fmt: skip


def _bore(bore: Bore) -> dict[str, Any]:
    return {
        "name": bore.name,
        "x_mm": bore.centre[0],
        "y_mm": bore.centre[1],
        "drill_mm": bore.drill,
        "work": bore.note,
    }


def _part(part: MadePart) -> dict[str, Any]:
    return {
        "name": part.name, "shape": part.shape, "count": part.count, "material": part.material or None,
        "thickness_mm": or_none(part.thickness), "volume_mm3": or_none(part.volume), "mass_kg": or_none(part.mass_kg),
        "outer_mm": or_none(part.outer), "inner_mm": or_none(part.inner), "eccentricity_mm": part.offset or None,
        "bores": [_bore(bore) for bore in part.bores],
        "bends": [{"angle_deg": bend.angle, "radius_mm": bend.radius, "up": bend.up} for bend in part.bends],
        "pockets": [{"depth_mm": pocket.depth, "face": "outboard" if pocket.face > 0 else "inboard"} for pocket in part.pockets],
    }  # fmt: skip


def families_text(options: tuple[BracketEvaluation, ...], own: BracketEvaluation, units: str) -> str:
    """Return the same in lines."""
    lengths = LengthFormat(units_of(units))
    lines = [f"The job's own: {own.title}, {own.verdict.word}", ""]
    for proposal in options:
        head = f"{proposal.verdict.word:9s} {proposal.title}"
        bracket = proposal.bracket
        if bracket.parts:
            mass = lengths.mass(bracket.mass_kg) if math.isfinite(bracket.mass_kg) else "mass unknown"
            head += f": {lengths.size(bracket.thickness)}, {mass}, {bracket.made} made, {', '.join(bracket.processes)}"
            head += "" if bracket.reversible else "; cuts or welds, permanent"
        lines += [head, f"          {proposal.why}"]
    lines.append("Brakes can kill: have the design and the finished work checked by someone qualified.")
    return "\n".join(lines) + "\n"

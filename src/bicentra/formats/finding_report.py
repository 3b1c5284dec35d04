"""What every report says alike: a finding as an object for programs, and as a line for people."""

from typing import Any

from bicentra.core.base.finding import Finding, Remedy
from bicentra.core.base.numbers import or_none


def finding_object(finding: Finding) -> dict[str, Any]:
    """Return a finding with its remedies and what it is the worst of; unknown numbers are ``None``."""
    return {
        "id": finding.id,
        "verdict": finding.verdict.value,
        "value": or_none(finding.value),
        "limit": or_none(finding.limit),
        "unit": finding.unit,
        "why": finding.why,
        "remedies": [_remedy(remedy) for remedy in finding.remedies],
        "details": [
            {
                "label": c.label,
                "verdict": c.verdict.value,
                "value": or_none(c.value),
                "limit": or_none(c.limit),
                "unit": c.unit,
            }
            for c in finding.checks
        ],
        "source": finding.source,
        "sd": or_none(finding.sd),
        "probability": or_none(finding.probability),
        "band": None if finding.band is None else list(finding.band),
        "statement": finding.statement,
    }


def _remedy(remedy: Remedy) -> dict[str, Any]:
    return {
        "action": remedy.action,
        "amount_mm": remedy.amount_mm,
        "reversible": remedy.reversible,
        "side_effects": list(remedy.side_effects),
    }


def finding_line(finding: Finding) -> str:
    """Return a finding in one line: verdict, title, why."""
    return f"{finding.verdict.word:<9} {finding.title}: {finding.why}"

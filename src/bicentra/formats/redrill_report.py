"""The answer of ``bicentra redrill`` as one JSON object."""

from typing import Any

from bicentra.core.base.numbers import or_none
from bicentra.core.lineup.redrill import LIGAMENT, WARNING, Redrill, redrill_text


def redrill_object(plan: Redrill) -> dict[str, Any]:
    """Return what ``redrill --json`` prints; pairs are (old hole, new hole), counted from 0."""
    return {
        "clock_deg": plan.clock_deg,
        "min_ligament_mm": or_none(plan.ligament),
        "shared": [list(pair) for pair in plan.shared],
        "overlaps": [list(pair) for pair in plan.overlaps],
        "verdict": plan.verdict.value,
        "limit_mm": LIGAMENT.stop,
        "edge_to_bore_mm": or_none(plan.edge_inner),
        "edge_to_rim_mm": or_none(plan.edge_outer),
        "imbalance_g_mm": or_none(plan.imbalance),
        "why": redrill_text(plan),
        "caution": WARNING,
    }

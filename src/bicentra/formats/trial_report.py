"""The answer of ``bicentra shims``: where the caliper sits, which shims put it right, as one JSON object and in words."""

from typing import Any

from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import is_known, or_none
from bicentra.core.base.wording import LengthFormat
from bicentra.core.trialfit.bolts import BoltAfter
from bicentra.core.trialfit.fit import Move, TrialFit
from bicentra.core.trialfit.pose import Estimate
from bicentra.core.trialfit.shim_station import PLACE_WORDS

NOTHING: dict[str, Any] = {"offset_mm": None, "tilt_deg": None, "reachable": False, "plans": [], "otherwise": []}


def trial_object(fit: TrialFit | None) -> dict[str, Any]:
    """Return what ``shims --json`` prints: the contract's keys first, then what else is known."""
    if fit is None:
        return {**NOTHING, "state": "not tried", "missing": ["a trial: put it on dry and read the gaps"]}
    pose = fit.pose
    return {
        "offset_mm": or_none(pose.offset.value),
        "tilt_deg": or_none(pose.tilt.value),
        "reachable": fit.reachable,
        "plans": [_plan(move) for move in fit.moves],
        "otherwise": [
            {"action": one.action, "amount_mm": or_none(one.amount), "side_effects": list(one.side_effects)}
            for one in fit.alternatives
        ],
        "twist_deg": or_none(pose.twist.value),
        "radial_mm": or_none(pose.radial.value),
        "sd": {"offset_mm": or_none(pose.offset.sd), "tilt_deg": or_none(pose.tilt.sd)},
        "unknown": list(pose.unknown),
        "contradictions": [one.text for one in pose.against],
        "doubted": list(pose.doubted),
        "read_before": sorted(fit.trial.read_before),
        "refused": [_plan(move) for move in fit.refused],
        "senses": list(fit.senses),
        "state": fit.standing.state.value,
        "missing": list(fit.standing.missing),
        "broken": list(fit.standing.broken),
        "measured": [{"side": m.side, "thickness_mm": or_none(m.thickness), "sd_mm": or_none(m.sd)} for m in fit.measured],
        "findings": [_finding(finding) for finding in fit.findings],
    }  # fmt: skip


def _finding(f: Finding) -> dict[str, Any]:
    row = {"id": f.id, "verdict": f.verdict.value, "value": or_none(f.value), "limit": or_none(f.limit)}
    return {**row, "unit": f.unit, "why": f.why}


def _plan(move: Move) -> dict[str, Any]:
    plan = move.plan
    return {
        "first_mm": list(plan.first),
        "second_mm": list(plan.second),
        "pieces": plan.pieces,
        "offset_after_mm": or_none(plan.offset),
        "tilt_after_deg": or_none(plan.tilt),
        "radial_after_mm": or_none(plan.radial),
        "place": plan.place,
        "stays": move.stays,
        "steps": list(move.steps),
        "bolts": [_bolt(bolt) for bolt in move.bolts],
    }


def _bolt(bolt: BoltAfter) -> dict[str, Any]:
    return {
        "name": bolt.name,
        "touched": bolt.touched,
        "engagement_mm": or_none(bolt.engagement),
        "least_mm": or_none(bolt.least),
        "protrusion_mm": or_none(bolt.protrusion),
        "tip_gap_mm": or_none(bolt.tip_gap),
        "preload_left": or_none(bolt.preload_left),
        "verdict": bolt.verdict.value,
    }


def trial_text(fit: TrialFit | None, lengths: LengthFormat) -> str:
    """Return the trial fit in plain lines."""
    if fit is None:
        return "No trial yet: put it on dry, bolts tight, and read the four gaps.\n"
    lines = [f"Trial fit: {fit.standing.state.value}", where_text(fit, lengths), ""]
    lines += [f"{finding.verdict.word:9} {finding.title}: {finding.why}" for finding in fit.findings]
    lines += ["", *fit.senses, ""]
    for number, move in enumerate(fit.moves, 1):
        lines.append(f"{number}. {move_text(move, lengths)}")
        lines += [f"     {step}" for step in move.steps]
        lines += [f"     {bolt_text(bolt, lengths)}" for bolt in move.bolts if bolt.touched]
    if not fit.moves and not fit.doubted:
        lines.append("No shims that lie ready bring it within limits." if is_known(fit.pose.offset.value) else "")
    lines += [f"   Left out, a bolt would hold too little: {move_text(move, lengths)}" for move in fit.refused[:3]]
    lines += [f"Otherwise: {one.action}." for one in fit.alternatives]
    lines += [f"Still missing for a lock: {text}" for text in fit.standing.missing]
    lines += [f"The lock is broken: {text} changed" for text in fit.standing.broken]
    return "\n".join(lines) + "\n"


def where_text(fit: TrialFit, lengths: LengthFormat) -> str:
    """Return where the caliper sits, in one sentence; while readings contradict each other, that they do."""
    pose = fit.pose
    if fit.doubted:
        return f"Where the caliper sits is unknown. {' '.join(one.text for one in pose.against)}"
    parts = []
    if is_known(pose.offset.value):
        side = "outboard" if pose.offset.value >= 0 else "inboard"
        parts.append(f"{lengths.gap(pose.offset.value)} too far {side}{_sd(pose.offset, lengths)}")
    if is_known(pose.tilt.value):
        end = "trailing" if pose.tilt.value >= 0 else "leading"
        parts.append(f"tilted {abs(pose.tilt.value):.2f}°, the {end} end further outboard")
    if is_known(pose.twist.value):
        parts.append(
            f"twisted {abs(pose.twist.value):.2f}°, its {'mouth' if pose.twist.value >= 0 else 'bottom'} further outboard"
        )
    if is_known(pose.radial.value):
        way = "away from" if pose.radial.value >= 0 else "nearer to"
        parts.append(f"{lengths.gap(pose.radial.value)} {way} the axle than planned")
    text = ", ".join(parts)
    unknown = f"; unknown: {', '.join(pose.unknown)}" if pose.unknown else ""
    return f"The caliper sits {text}{unknown}." if text else "Nothing that was read tells where the caliper sits."


def _sd(estimate: Estimate, lengths: LengthFormat) -> str:
    return f" (± {lengths.gap(2 * estimate.sd)})" if is_known(estimate.sd) else ""


def move_text(move: Move, lengths: LengthFormat) -> str:
    """Return a plan in one line: which shims at which bolt, and what it leads to."""
    plan = move.plan
    first, second = (
        " + ".join(_thick(thick, lengths) for thick in side) or "none" for side in (plan.first, plan.second)
    )
    stays = "leave it: " if move.stays else ""
    left = f"{lengths.gap(plan.offset)} {'outboard' if plan.offset >= 0 else 'inboard'}, tilt {plan.tilt:+.2f}°"
    if is_known(plan.radial):
        left = f"{lengths.gap(plan.radial)} {'away from' if plan.radial >= 0 else 'nearer to'} the axle than planned"
    return f"{stays}leading {first}, trailing {second}, {PLACE_WORDS[plan.place]} ({plan.pieces} in all): {left}"


def _thick(thick: float | None, lengths: LengthFormat) -> str:
    return "?" if thick is None else lengths.shim(thick)


def bolt_text(bolt: BoltAfter, lengths: LengthFormat) -> str:
    """Return what a bolt is left with, in one line."""
    if not is_known(bolt.engagement):
        return f"{bolt.name}: unknown"
    tip = f", tip {lengths.gap(bolt.tip_gap)} to the rotor" if is_known(bolt.tip_gap) else ""
    return (
        f"{bolt.name}: {lengths.size(bolt.engagement)} of thread{tip}, {bolt.preload_left * 100:.0f} % of preload left"
    )

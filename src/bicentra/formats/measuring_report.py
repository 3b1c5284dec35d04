"""Answers of ``bicentra survey`` and ``bicentra shims``, each as one JSON object and in plain lines."""

import math
from typing import Any

from bicentra.core.base.numbers import is_known, or_none
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.job import Job
from bicentra.core.survey.adjust import Adjusted, error_ellipse
from bicentra.core.survey.advice import advise, unchecked_sentence
from bicentra.core.survey.corner import Surveyed, lug_features
from bicentra.core.survey.faces import Face
from bicentra.core.survey.recipes import PartResult
from bicentra.core.survey.runout import Runout
from bicentra.core.survey.words import loose_sentences, reading_name, suspect_sentence
from bicentra.core.trialfit.bolts import BoltAfter
from bicentra.core.trialfit.fit import Move, TrialFit
from bicentra.core.trialfit.pose import Estimate
from bicentra.core.trialfit.shim_station import PLACE_WORDS
from bicentra.core.uncertainty.assess import surveyed
from bicentra.formats.finding_report import finding_line, finding_object


def survey_object(job: Job) -> dict[str, Any]:
    """Return what ``survey --json`` prints: every surveyed corner by its name; what is unknown is null."""
    corners = [(corner, surveyed(job, corner)) for corner in job.survey]
    return {corner: _corner(job, done) for corner, done in corners if done is not None}


def _corner(job: Job, done: Surveyed) -> dict[str, Any]:
    lengths = job.lengths
    adjusted = done.adjusted
    return {
        **_network(adjusted),
        "faces": [
            {
                "feature": face.feature,
                "z_mm": or_none(face.z),
                "sd_z_mm": or_none(face.sd_z),
                "tilt_deg": or_none(face.tilt_deg),
                "sd_tilt_deg": or_none(face.sd_tilt_deg),
                "high_toward_deg": or_none(face.high_toward_deg),
                **_against_axle(done, face),
                "fault": face.fault or None,
            }
            for face in done.faces
        ],
        "sweeps": [_sweep(sweep) for sweep in done.sweeps],
        "index": [
            {"turn_studs": i.turn, "tilt_amplitude_mm": or_none(i.tilt), "tir_mm": or_none(i.tir),
             "high_spot_deg": or_none(i.high_spot_deg), "recommended": i is done.best_index}
            for i in done.index
        ],
        "parts": [_part(part) for part in done.parts],
        "fault": done.fault or None,
        "next": [advice.sentence for advice in advise(done.survey, adjusted, lengths, lug_features(job, done.survey))],
    }  # fmt: skip


def _against_axle(done: Surveyed, face: Face) -> dict[str, Any]:
    """The face against the axle itself, where a sweep tells how the hub face stands; the hub as it stood at the sweep's 0."""
    square = done.against_axle(face)
    if square is None:
        return {"z_to_axle_mm": None, "tilt_to_axle_deg": None, "high_toward_axle_deg": None}
    return {
        "z_to_axle_mm": or_none(square.z),
        "tilt_to_axle_deg": or_none(square.tilt_deg),
        "high_toward_axle_deg": or_none(square.high_toward_deg),
    }


def _network(adjusted: Adjusted | None) -> dict[str, Any]:
    if adjusted is None:
        empty: dict[str, Any] = {"points": [], "covariance_mm2": [], "edges": [], "diameters": [], "readings": []}
        return {**empty, "loose": [], "mirrored": [], "chi_square": {"value": None, "dof": 0, "passed": None}}
    size = 2 * len(adjusted.network.points)
    known = [adjusted.known(name) for name in adjusted.network.points for _ in "xy"]
    covariance = [
        [float(adjusted.covariance[i, j]) if known[i] and known[j] else None for j in range(size)] for i in range(size)
    ]
    return {
        "points": [_point(adjusted, name) for name in adjusted.network.points],
        "covariance_mm2": covariance,
        "edges": [_edge(adjusted, name) for name in adjusted.network.edges],
        "diameters": [_diameter(adjusted, name) for name in adjusted.network.diameters],
        "iterations": adjusted.steps,
        "chi_square": {
            "value": or_none(adjusted.chi_square),
            "dof": adjusted.dof,
            "passed": adjusted.passed,
        },
        "readings": [_reading(adjusted, k) for k in range(len(adjusted.readings))],
        "loose": [
            {"name": item.name, "way_deg": None if item.way is None else math.degrees(item.way) % 180.0}
            for item in adjusted.loose
        ],
        "mirrored": [
            {"name": name, "places_mm": [list(one), list(other)]} for name, one, other in adjusted.mirrored
        ],
    }  # fmt: skip


def _point(adjusted: Adjusted, name: str) -> dict[str, Any]:
    if not adjusted.known(name):
        return {"name": name, "x_mm": None, "y_mm": None, "sd_x_mm": None, "sd_y_mm": None, "ellipse_95": None}
    (x, y), spread = adjusted.place(name), adjusted.spread(name)
    long, short, turn = error_ellipse(spread)
    return {
        "name": name,
        "x_mm": x,
        "y_mm": y,
        "sd_x_mm": math.sqrt(max(float(spread[0, 0]), 0.0)),
        "sd_y_mm": math.sqrt(max(float(spread[1, 1]), 0.0)),
        "ellipse_95": {"long_mm": long, "short_mm": short, "toward_deg": turn},
    }


def _edge(adjusted: Adjusted, name: str) -> dict[str, Any]:
    alpha, offset = adjusted.place(name)
    known = adjusted.known(name)
    spread = adjusted.spread(name)
    return {
        "name": name,
        "clock_deg": math.degrees(alpha) % 180.0 if known else None,
        "offset_mm": offset * (-1.0 if math.degrees(alpha) % 360.0 >= 180.0 else 1.0) if known else None,
        "sd_clock_deg": math.degrees(math.sqrt(max(float(spread[0, 0]), 0.0))) if known else None,
        "sd_offset_mm": math.sqrt(max(float(spread[1, 1]), 0.0)) if known else None,
    }


def _diameter(adjusted: Adjusted, name: str) -> dict[str, Any]:
    column = adjusted.size_column(name)
    return {
        "name": name,
        "diameter_mm": adjusted.diameter(name),
        "sd_mm": math.sqrt(max(float(adjusted.covariance[column, column]), 0.0)),
    }


def _reading(adjusted: Adjusted, k: int) -> dict[str, Any]:
    """One reading. For an angle, millimetres are how far it moves the far end of its line; degrees stand beside them."""
    reading = adjusted.readings[k]
    residual, detectable = float(adjusted.residuals[k]), float(adjusted.detectable[k])
    row: dict[str, Any] = {"list": reading.list, "index": reading.index, "name": reading_name(reading)}
    lever = 1.0
    if "direction" in reading.kind:
        ends = [adjusted.place(name) if name in adjusted.network.points else (0.0, 0.0) for name in reading.ends]
        lever = math.dist(*ends) or 1.0
        row |= {
            "residual_deg": or_none(math.degrees(residual)),
            "detectable_deg": or_none(math.degrees(detectable)),
        }
    return row | {
        "residual_mm": or_none(residual * lever),
        "normalised": or_none(float(adjusted.normalised[k])),
        "redundancy": float(adjusted.redundancy[k]),
        "suspect": k in adjusted.suspects,
        "detectable_mm": or_none(detectable * lever),
    }


def _sweep(sweep: Runout) -> dict[str, Any]:
    return {
        "on": sweep.on,
        "radius_mm": or_none(sweep.radius),
        "tir_mm": or_none(sweep.tir),
        "tilt_amplitude_mm": or_none(abs(sweep.tilt)),
        "high_spot_deg": or_none(sweep.high_spot_deg),
        "second_amplitude_mm": or_none(abs(sweep.warp)),
        "rest_mm": or_none(sweep.rest),
        "sd_tilt_mm": or_none(sweep.sd_tilt),
        "bump": None
        if sweep.bump is None
        else {"at_deg": sweep.bump.at_deg, "height_mm": sweep.bump.height, "readings": list(sweep.bump.readings)},
        "fault": sweep.fault or None,
    }


def _part(part: PartResult) -> dict[str, Any]:
    return {
        "recipe": part.recipe.name,
        "path": part.recipe.path,
        "value_mm": or_none(part.value),
        "sd_mm": or_none(part.sd),
        "formula": part.recipe.formula,
        "missing": list(part.missing),
    }


def survey_text(job: Job) -> str:
    """Return the same as plain lines."""
    lengths = job.lengths
    lines = [job.title or "Untitled job"]
    for corner in job.survey:
        done = surveyed(job, corner)
        if done is not None:
            lines += ["", corner.replace("-", " "), *(f"  {line}" for line in _corner_lines(job, done, lengths))]
    if len(lines) == 1:
        lines.append("No corner has been surveyed yet: open the survey bench and take the first reading.")
    return "\n".join(lines) + "\n"


def _corner_lines(job: Job, done: Surveyed, lengths: LengthFormat) -> list[str]:
    adjusted, lines = done.adjusted, []
    if done.fault:
        lines.append(done.fault)
    if adjusted is not None:
        for name in adjusted.network.points:
            if adjusted.known(name):
                (x, y), spread = adjusted.place(name), adjusted.spread(name)
                sds = [1.96 * math.sqrt(max(float(spread[k, k]), 0.0)) for k in (0, 1)]
                lines.append(
                    f"{name:<22} forward {lengths.size(x)} ± {lengths.gap(sds[0])}, "
                    f"up {lengths.size(y)} ± {lengths.gap(sds[1])} (95 %)"
                )
        text = suspect_sentence(adjusted, lengths) or unchecked_sentence(adjusted)
        state = {True: "agree", False: "do not agree", None: "are not checked"}[adjusted.passed]
        lines.append(f"{len(adjusted.readings)} readings, {adjusted.dof} more than needed, {state}. {text}".rstrip())
        lines += loose_sentences(adjusted, lengths)
    for face in done.faces:
        lines.append(
            f"face of {face.feature}: {face.fault}"
            if face.fault
            else f"face of {face.feature}: seat {lengths.size(face.z)} ± {lengths.gap(1.96 * face.sd_z)}, "
            f"leans {face.tilt_deg:.2f}°"
        )
    for sweep in done.sweeps:
        lines.append(
            f"{sweep.on.replace('-', ' ')}: {sweep.fault}"
            if sweep.fault
            else f"{sweep.on.replace('-', ' ')}: {sweep.tir:.3f} mm in all, "
            f"tilt {abs(sweep.tilt):.3f} mm high at {sweep.high_spot_deg:.0f}°"
        )
    best = done.best_index
    if best is not None:
        lines.append(f"best index: rotor turned {best.turn} stud pitches, {best.tir:.3f} mm in all")
    lines += [
        f"next: {advice.sentence}" for advice in advise(done.survey, adjusted, lengths, lug_features(job, done.survey))
    ]
    return lines


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
        "findings": [finding_object(finding) for finding in fit.findings],
    }  # fmt: skip


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
    lines += [finding_line(finding) for finding in fit.findings]
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

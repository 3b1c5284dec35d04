"""The answer of ``bicentra survey``: one JSON object for programs, plain lines for people."""

import math
from typing import Any

from bicentra.core.base.numbers import or_none
from bicentra.core.base.wording import LengthFormat
from bicentra.core.certainty.assess import surveyed
from bicentra.core.parts.job import Job
from bicentra.core.survey.adjust import Adjusted, error_ellipse
from bicentra.core.survey.advice import advise, unchecked_sentence
from bicentra.core.survey.corner import Surveyed, lug_features
from bicentra.core.survey.faces import Face
from bicentra.core.survey.recipes import PartResult
from bicentra.core.survey.runout import Runout
from bicentra.core.survey.words import loose_sentences, reading_name, suspect_sentence


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

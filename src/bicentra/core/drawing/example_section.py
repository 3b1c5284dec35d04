"""The second sightline while no bracket can be drawn: what is not measured dotted, what is measured along the axle a blank."""

import math
import re

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import replace
from bicentra.core.drawing.example_parts import dotted_shapes, example_text
from bicentra.core.drawing.model import Dimension, Drawing, Sheet
from bicentra.core.drawing.section_view import section_view
from bicentra.core.geometry.outline import Point
from bicentra.core.parts.edits import get_value
from bicentra.core.required_inputs import RequiredInput, example_job, wanted
from bicentra.core.solution import Solution, solve

ALONG = re.compile(
    r"rotor\.(thickness|overall_height|hat_thickness)_mm|caliper\.(ear_face_offset|ear_thickness)_mm|hub\.retainer_face_z_mm|"
    r"knuckle\.lugs\[\d+\]\.z_mm"
)
"""What is measured along the axle: it is asked for here, and not in the view along the axle."""
RIGHT, UP, DOWN = (1.0, 0.0), (0.0, 1.0), (0.0, -1.0)


def example_section(solution: Solution, missing: tuple[RequiredInput, ...]) -> Drawing:
    """Return the section of a job whose bracket is not drawn yet: what is known as it is, the rest dotted, with its blanks."""
    job = solution.job
    example = solve(example_job(job), turns=False, remedies=False)
    real, seen = section_view(solution), section_view(example)
    sheet = Sheet()
    sheet.shapes += dotted_shapes(real, seen, job)
    sheet.shapes += real.shapes
    asked = {blank.path for blank in missing}
    places = _places(example)
    for blank in wanted(job):
        value = get_value(job, blank.path)
        place = places.get(blank.path)
        if place is not None and (value is not None or blank.path in asked):
            a, b, side, base, lane = place
            text = example_text(blank, value, job.lengths)
            sheet.dimension(
                Dimension(a, b, RIGHT, side, base, text, blank.path, lane, 0, blank.path, "", value is None)
            )
    drawing = sheet.finish(seen.bounds)
    return replace(drawing, frame=seen.bounds)


def _places(example: Solution) -> dict[str, tuple[Point, Point, Point, float, int]]:
    """Return where each size along the axle is measured on the corner of plausible sizes: ends, side, base [mm], lane."""
    job, line, body = example.job, example.line, example.assembly.body
    mid, half, rim = line.rotor_midplane_z, known(job.rotor.thickness_mm) / 2, known(job.rotor.diameter_mm) / 2
    hat, hat_r, flange = line.hat_outer_z, known(job.rotor.hat_inner_diameter_mm) / 2, known(job.rotor.hat_thickness_mm)
    ear = line.ear_line_radius
    top = body.outer if is_known(body.outer) else rim + 20.0
    found: dict[str, tuple[Point, Point, Point, float, int]] = {
        "rotor.thickness_mm": ((mid - half, -rim), (mid + half, -rim), DOWN, rim, 0),
        "rotor.overall_height_mm": ((mid - half, -rim), (hat, -hat_r), DOWN, rim, 1),
        "rotor.hat_thickness_mm": ((hat - flange, -hat_r * 0.7), (hat, -hat_r * 0.7), UP, hat_r * 0.7, 0),
        "caliper.ear_face_offset_mm": ((line.ear_face_z, ear), (mid, ear), UP, top, 0),
        "caliper.ear_thickness_mm": (
            (line.ear_face_z, ear), (line.ear_face_z + known(job.caliper.ear_thickness_mm), ear), UP, top, 1,
        ),
        "hub.retainer_face_z_mm": ((known(job.hub.retainer_face_z_mm), 0.0), (0.0, 0.0), DOWN, rim, 2),
    }  # fmt: skip
    for k, lug in enumerate(job.knuckle.lugs):
        out = line.frame.into((known(lug.x_mm), known(lug.y_mm)))[0]
        found[f"knuckle.lugs[{k}].z_mm"] = ((known(lug.z_mm), out), (0.0, out), DOWN, -out + 24.0 + 16.0 * k, 0)
    return {path: place for path, place in found.items() if all(map(math.isfinite, (*place[0], *place[1], place[3])))}

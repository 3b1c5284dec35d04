"""Both sightlines while no bracket can be drawn yet: a dashed corner of placeholder sizes, each missing size an empty field."""

import math
import re

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.families.table import family_of
from bicentra.core.drawing.model import EXAMPLE_OF, Dimension, Drawing, Note, Shape, Sheet, mirrored
from bicentra.core.drawing.views.face import face_view
from bicentra.core.drawing.views.section import section_view
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.outline import Point
from bicentra.core.inputs.required_inputs import CAME_OFF, RequiredInput, example_job, wanted
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.job import Job

DOTTED = ("rotor", "hub", "caliper", "pad", "lug", "ear", "bracket")
"""What is shown dotted where it is not measured; way marks and the like are drawn as ever."""
BLANK = "?"


def dotted_shapes(real: Drawing, seen: Drawing, job: Job) -> list[Shape]:
    """Return what ``seen``, of placeholder sizes, shows and ``real``, of known ones, does not: dashed, never lit."""
    there = {shape.tag for shape in real.shapes}
    dotted = [tag for tag in DOTTED if tag != "lug" or family_of(job).on_lugs]
    return [_dotted(s) for s in seen.shapes if s.tag.partition("-")[0] in dotted and s.tag not in there]


def _dotted(shape: Shape) -> Shape:
    tag = f"{EXAMPLE_OF}{shape.tag}"  # a tag of its own: no finding lights it
    return replace(shape, ink="example", tag=tag, filled=False, line="hidden")


def example_text(blank: RequiredInput, value: object, lengths: LengthFormat) -> str:
    """Return a measurement as it stands on the drawing: its number, or a blank."""
    return f"{blank.title} {BLANK if value is None else _shown(value, blank.path, lengths)}"


def _shown(value: object, path: str, lengths: LengthFormat) -> str:
    if isinstance(value, int | float):
        return f"{value:g}°" if path.endswith("_deg") else lengths.size(float(value)).replace("-", "−")
    return str(value)


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
    """Return where each size along the axle is measured on the corner of placeholder sizes: ends, side, base [mm], lane."""
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


def example_face(solution: Solution, missing: tuple[RequiredInput, ...]) -> Drawing:
    """Return the view along the axle of a job whose bracket is not drawn yet: what is known as it is, the rest dotted.

    What is missing stands as a blank where it is measured, what is known of the same kind as its number; both can be typed over.
    """
    job = solution.job
    example = solve(example_job(job), turns=False, remedies=False)
    real, seen = (
        _as_right(face_view(one), job) for one in (solution, example)
    )  # put together in the hub frame, turned over at last
    sheet = Sheet()
    sheet.shapes += dotted_shapes(real, seen, job)
    if family_of(job).mounting == "original-bracket":
        _came_off(sheet, example.job)
    sheet.shapes += real.shapes
    sheet.notes += [note for note in real.notes if not note.edits]
    _empty_fields(sheet, job, example.line, frozenset(blank.path for blank in missing))
    drawing = sheet.finish(seen.bounds)
    drawing = replace(drawing, frame=seen.bounds)
    return _as_right(drawing, job)


def _as_right(drawing: Drawing, job: Job) -> Drawing:
    """Return a left corner's drawing as a right one's, and the other way round; a right corner's as it is."""
    return mirrored(drawing) if job.is_left else drawing


def _came_off(sheet: Sheet, full: Job) -> None:
    """Draw the rotor that came off, dotted: what is measured of the old brake stands on it."""
    before = full.before
    if before is not None and before.rotor is not None:
        sheet.circle((0.0, 0.0), known(before.rotor.diameter_mm) / 2, "example", "", False, "hidden")


def _empty_fields(sheet: Sheet, job: Job, line: LineUp, missing: frozenset[str]) -> None:
    """Put every measurement that the plate follows from where it is taken."""
    lengths, frame = job.lengths, ClockFrame(line.clock)
    full = example_job(job)
    for blank in wanted(job):
        value = get_value(job, blank.path)
        if (value is None and blank.path not in missing) or ALONG.fullmatch(blank.path):
            continue
        _placed(sheet, full, blank.path, example_text(blank, value, lengths), value is None, frame, line)


def _placed(sheet: Sheet, full: Job, path: str, text: str, example: bool, frame: ClockFrame, line: LineUp) -> None:
    """Put one measurement on the sheet."""
    lugs = [(known(lug.x_mm), known(lug.y_mm)) for lug in full.knuckle.lugs]
    (x0, y0, _), (x1, y1, _) = line.ears
    radius = known(full.rotor.diameter_mm) / 2
    if path.startswith("knuckle.lugs["):
        k = int(path.partition("[")[2].partition("]")[0])
        sheet.dimension(_of_lug(lugs[k], path.endswith("x_mm"), text, f"lug-{k}", path, example, k))
    elif path == "caliper.ear_spacing_mm":
        out = -(line.pad_top_radius + 34.0)
        sheet.dimension(
            Dimension((x0, y0), (x1, y1), frame.w, frame.at(-1.0), out, text, "ear-0", 0, 0, path, "", example)
        )
    elif path == "caliper.ear_line_to_pad_top_mm":
        a, b = frame.at(line.ear_line_radius), frame.at(line.pad_top_radius)
        sheet.dimension(Dimension(a, b, frame.u, frame.w, -24.0, text, "pad", 0, 0, path, "", example))
    else:
        at: dict[str, tuple[Point, str, Point]] = {
            "rotor.diameter_mm": (
                frame.at(radius * math.cos(2.4), radius * math.sin(2.4)),
                "rotor",
                frame.at(-1.0, 1.0),
            ),
            "bracket.lug_bolt": (lugs[-1] if lugs else (0.0, 0.0), "lug-0", (1.0, -0.4)),
            "bracket.caliper_bolt": ((x1, y1), "ear-1", frame.at(0.3, -1.0)),
            "fit.clock_deg": (frame.at(radius + 30.0), "caliper", frame.at(1.0, 0.4)),
            "caliper.ear_hole_mm": ((x0, y0), "ear-0", frame.at(0.3, 1.0)),
            "caliper.ear_boss_mm": ((x1, y1), "ear-1", frame.at(-0.4, -1.0)),
            **_on_axle(full, frame),
            **_on_old(full),
        }
        spot, tag, prefer = at[path]
        sheet.note(Note(spot, text, tag, 0, path, prefer=prefer, example=example))


def _on_old(full: Job) -> dict[str, tuple[Point, str, Point]]:
    """Return where what is measured of the brake that came off is asked, round its rotor: place, tag, way."""
    before = full.before
    if before is None or before.rotor is None:
        return {}
    radius, found = known(before.rotor.diameter_mm) / 2, {}
    for k, blank in enumerate(CAME_OFF):
        turn = math.radians(-70.0 + 140.0 * k / (len(CAME_OFF) - 1)) + (math.pi if full.is_left else 0.0)
        spot = (radius * math.cos(turn), radius * math.sin(turn))
        found[blank.path] = (spot, "rotor", spot)
    return found


def _on_axle(full: Job, frame: ClockFrame) -> dict[str, tuple[Point, str, Point]]:
    """Return where what is measured of the axle is asked, on the side away from the caliper: place, tag, way."""
    tube, circle = known(full.hub.tube_diameter_mm) / 2, known(full.hub.retainer_circle_mm) / 2

    def away(radius: float, turn: float) -> Point:
        return frame.at(-radius * math.cos(turn), radius * math.sin(turn))

    places: dict[str, tuple[Point, str, Point]] = {}
    rows = (
        ("hub.tube_diameter_mm", tube, -0.9, "hub"),
        ("hub.retainer_circle_mm", circle, -0.9, "hub"), ("hub.retainer_count", circle, -1.3, "hub"),
        ("hub.retainer_first_deg", circle, 1.0, "hub"), ("hub.retainer_bolt", circle, 1.5, "hub"),
    )  # fmt: skip
    for path, radius, turn, tag in rows:
        if is_known(radius):
            places[path] = (away(radius, turn), tag, away(1.0, turn))
    return places


def _of_lug(at: Point, level: bool, text: str, tag: str, path: str, example: bool, row: int) -> Dimension:
    """Return a lug's distance from the axle: level above or below it, upright beside it."""
    x, y = at
    if level:
        side = (0.0, 1.0 if y >= 0 else -1.0)
        return Dimension((0.0, 0.0), (x, y), (1.0, 0.0), side, abs(y) + 22.0, text, tag, 0, 0, path, "", example)
    return Dimension((0.0, 0.0), (x, y), (0.0, 1.0), (1.0, 0.0), 16.0, text, tag, row, 0, path, "", example)

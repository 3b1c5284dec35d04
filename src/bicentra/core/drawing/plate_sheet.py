"""The plate as a flat drawing to cut from: outline, holes, centre marks, sizes; and its hole table."""

import math
from dataclasses import dataclass

from bicentra.core.base.errors import ExportError
from bicentra.core.base.wording import Words, units_of
from bicentra.core.bracket.holes import Hole
from bicentra.core.drawing.layout import Box, Measure, Placed, lay_out
from bicentra.core.drawing.model import Dimension, Drawing, Note, Shape, Sheet, mirrored, short
from bicentra.core.drawing.shapes import arrow_head, centre_mark
from bicentra.core.solution import Solution

PT_PER_MM = 72.0 / 25.4
ROOM_MM = 46.0
CAUTION = (
    "Brakes can kill. Have the design and the finished work checked by someone qualified, and follow local rules on "
    "vehicle changes, inspection and welding; this paper replaces neither. No metal before a trial fit in card."
)


@dataclass(frozen=True)
class HoleRow:
    """One line of the hole table: name, centre forward and up from the wheel axis [mm], drill [mm], what is done."""

    number: int
    name: str
    x: float
    y: float
    drill: float
    note: str


def hole_table(solution: Solution) -> tuple[HoleRow, ...]:
    """Return the holes in the order lugs, ears. Raises ``ExportError`` when a hole is not known."""
    rows = []
    for number, hole in enumerate(solution.assembly.holes, start=1):
        _known_hole(hole)
        rows.append(HoleRow(number, hole.name, hole.centre[0] + 0.0, hole.centre[1] + 0.0, hole.drill, hole.note))
    return tuple(rows)


def _known_hole(hole: Hole) -> None:
    if not all(map(math.isfinite, (*hole.centre, hole.drill))):
        raise ExportError(
            f"the hole at {hole.name} is not known yet: measure what the findings name, then export again"
        )


def plate_sheet(solution: Solution) -> Drawing:
    """Return the plate in the hub frame, seen from outboard; a left corner's is the mirror image.

    Raises ``ExportError`` when there is no plate.
    """
    plate = solution.plate
    if plate.outline is None:
        raise ExportError(f"there is no plate to draw: {plate.fault or 'something is not measured yet'}")
    sheet = Sheet()
    sheet.outline(plate.outline, "outline", "bracket", filled=False)
    if plate.window is not None:
        sheet.outline(plate.window, "outline", "bracket", filled=False)
    for cutout in plate.cutouts:
        sheet.outline(cutout, "outline", "cutout", filled=False)
    for row, hole in zip(hole_table(solution), solution.assembly.holes):
        sheet.circle(hole.centre, hole.drill / 2, "hole", hole.feature, filled=False)
        centre_mark(sheet, hole.centre, hole.drill / 2 + 4.0, hole.feature)
        sheet.note(
            Note(
                hole.centre,
                f"{row.number}  {short(hole.name)}: {hole.note}",
                hole.feature,
                0,
                prefer=_outward(solution, hole),
                far=3,
            )
        )
    _sizes(sheet, solution)
    _forward(sheet, plate.outline.bounds)
    drawing = sheet.finish(plate.outline.bounds)
    return mirrored(drawing) if solution.job.is_left else drawing


def _outward(solution: Solution, hole: Hole) -> tuple[float, float]:
    """Return the direction from the plate's middle to a hole, where its label is clear of the others."""
    cx, cy = solution.plate.outline.centroid if solution.plate.outline else (0.0, 0.0)
    return hole.centre[0] - cx, hole.centre[1] - cy


def _sizes(sheet: Sheet, solution: Solution) -> None:
    """Overall width and height, and the spacing of the ears."""
    words = Words(units_of(solution.job.display_units))
    outline = solution.plate.outline
    if outline is None:
        return
    x0, y0, x1, y1 = outline.bounds
    sheet.dimension(Dimension((x0, y0), (x1, y0), (1.0, 0.0), (0.0, -1.0), -y0, words.size(x1 - x0), "bracket", 0, 1))
    sheet.dimension(Dimension((x0, y0), (x0, y1), (0.0, 1.0), (-1.0, 0.0), -x0, words.size(y1 - y0), "bracket", 1, 1))


def _forward(sheet: Sheet, bounds: tuple[float, float, float, float]) -> None:
    """An arrow to the front of the vehicle, above the plate."""
    x0, _, x1, y1 = bounds
    middle, y = (x0 + x1) / 2, y1 + 9.0
    sheet.line(((middle - 14.0, y), (middle + 8.0, y)), "mark", "forward")
    head = arrow_head((middle + 14.0, y), (1.0, 0.0), 6.0, "mark", "forward")
    sheet.shape(Shape(head.loops, "mark", "forward", filled=False))
    sheet.note(Note((middle, y), "front of the vehicle", "forward", 0, prefer=(0.0, 1.0)))


def paper_labels(drawing: Drawing, measure: Measure, room: float = 3 * ROOM_MM) -> tuple[Placed, ...]:
    """Return the sheet's texts in their places, in points, no further than ``room`` [mm] from the plate.

    ``measure`` gives a text's size in points.
    """
    x0, y0, x1, y1 = drawing.bounds
    reach = room * PT_PER_MM
    frame = Box(x0 * PT_PER_MM - reach, y0 * PT_PER_MM - reach, x1 * PT_PER_MM + reach, y1 * PT_PER_MM + reach)
    return lay_out(drawing, PT_PER_MM, measure, frame)


def content_box(drawing: Drawing, labels: tuple[Placed, ...]) -> Box:
    """Return the rectangle that parts and labels fill together [mm]."""
    x0, y0, x1, y1 = drawing.bounds
    boxes = [label.box for label in labels]
    return Box(
        min([x0, *(box.x0 / PT_PER_MM for box in boxes)]) - 1.0,
        min([y0, *(box.y0 / PT_PER_MM for box in boxes)]) - 1.0,
        max([x1, *(box.x1 / PT_PER_MM for box in boxes)]) + 1.0,
        max([y1, *(box.y1 / PT_PER_MM for box in boxes)]) + 1.0,
    )


def not_ready(solution: Solution) -> str:
    """Return the line that keeps a fabricator from cutting too early; empty when nothing stops and all is known."""
    verdicts = [verdict.value for verdict in solution.verdicts]
    stops, unknown = verdicts.count("stop"), verdicts.count("unknown")
    said = [
        f"{count} {'finding says' if count == 1 else 'findings say'} {word}"
        for count, word in ((stops, "stop"), (unknown, "not known"))
        if count
    ]
    return f"NOT TO CUT FROM YET: {' and '.join(said)}; see the check list" if said else ""


def headline(solution: Solution) -> tuple[str, str]:
    """Return the title line and the line that says what plate this is and from where it is seen."""
    job, packing = solution.job, solution.assembly.packing
    words = Words(units_of(job.display_units))
    title = f"{job.title or 'Untitled job'} · adapter plate · {job.corner.replace('-', ' ')}"
    seen = (
        f"{words.size(packing.thickness)} {job.bracket.material or 'material not stated'} · seen from outboard · 1 : 1"
    )
    return title, seen

"""The plate as a flat drawing to cut from: outline, holes, sizes, counted from two of its holes."""

import math
from itertools import pairwise

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat, printable
from bicentra.core.bracket.fold import bend_lines
from bicentra.core.bracket.model import MadePart
from bicentra.core.drawing.boxes import Box, along
from bicentra.core.drawing.layout import lay_out
from bicentra.core.drawing.model import Dimension, Drawing, Note, Shape, Sheet, mirrored, short
from bicentra.core.drawing.places import Measure, Placed
from bicentra.core.drawing.shapes import arrow_head, centre_mark
from bicentra.core.evaluation.solution import Solution
from bicentra.core.geometry.outline import Outline, Point

Numbers = tuple[int, int]


class Datum(Record, frozen=True):
    """``holes``: their numbers, the first at the origin, the line to the second the X axis; Y to its left as the sheet is seen.

    ``origin`` and ``axis`` (of length 1) in the part's own frame; ``mirrored``: the sheet shows the part's mirror image [mm].
    """

    holes: Numbers
    origin: Point
    axis: Point
    mirrored: bool = False

    def at(self, point: Point) -> Point:
        """Return X and Y of a ``point`` of the part's own frame [mm]."""
        dx, dy = point[0] - self.origin[0], point[1] - self.origin[1]
        (u, v), sign = self.axis, -1.0 if self.mirrored else 1.0
        return dx * u + dy * v + 0.0, sign * (dy * u - dx * v) + 0.0

    def outline(self, outline: Outline) -> Outline:
        """Return an outline of the part's own frame as it lies on the sheet [mm]."""
        shown = outline.mirrored() if self.mirrored else outline
        x, y, cos, sin = self.seen
        return Outline(tuple(
            ((u - x) * cos + (v - y) * sin, (v - y) * cos - (u - x) * sin, bulge) for u, v, bulge in shown.vertices
        ))  # fmt: skip

    @property
    def seen(self) -> tuple[float, float, float, float]:
        """Origin and axis as the sheet shows them: x, y [mm], cosine, sine."""
        sign = -1.0 if self.mirrored else 1.0
        return sign * self.origin[0], self.origin[1], sign * self.axis[0], self.axis[1]


def datum_of(part: MadePart, holes: Numbers | None = None, mirrored: bool = False) -> Datum | None:
    """Return the datum of ``part`` by the ``holes`` asked for, else by its first two; ``None`` with fewer than two holes.

    Holes that the part has not, or twice the same one, count as not asked.
    """
    first, second = holes if holes is not None and _has(part, holes) else (1, 2)
    if len(part.bores) < 2:
        return None
    a, b = part.bores[first - 1].centre, part.bores[second - 1].centre
    long = math.dist(a, b)
    if not long > 1e-6:
        return None
    return Datum((first, second), a, ((b[0] - a[0]) / long, (b[1] - a[1]) / long), mirrored != part.mirrored)


def _has(part: MadePart, holes: Numbers) -> bool:
    return holes[0] != holes[1] and all(1 <= number <= len(part.bores) for number in holes)


def pitches(part: MadePart) -> tuple[tuple[int, int, float], ...]:
    """Return the holes that mate with one other part, two and two: their numbers and how far apart they are [mm].

    A part that says by itself where its holes are (``text``) has none.
    """
    if part.text:
        return ()
    groups: dict[str, list[int]] = {}
    for number, bore in enumerate(part.bores, 1):
        groups.setdefault(bore.feature.split("-")[0], []).append(number)
    found = []
    for numbers in groups.values():
        for one, other in pairwise(numbers):
            found.append((one, other, math.dist(part.bores[one - 1].centre, part.bores[other - 1].centre)))
    return tuple(found)


PT_PER_MM = 72.0 / 25.4
ROOM_MM = 46.0
CAUTION = (
    "Brakes can kill. Have the design and the finished work checked by someone qualified, and follow local rules on "
    "vehicle changes, inspection and welding; this paper replaces neither. No metal before a trial fit in card."
)


class HoleRow(Record, frozen=True):
    """One line of the hole table: name, centre forward and up from the wheel axis [mm], drill [mm], what is done."""

    number: int
    name: str
    x: float
    y: float
    drill: float
    note: str


def sheet_part(solution: Solution) -> MadePart:
    """Return the plate that is cut. Raises ``ExportError`` when there is none."""
    part = solution.part
    if part is None:
        none = "this kind has none: take the check list and the parts list"
        if solution.bracket.parts:
            none = "this kind has none: take the marking chart, the check list and the workshop drawings"
        why = solution.bracket.fault or (none if solution.bracket.shown else "something is not measured yet")
        raise ExportError(f"there is no plate to draw: {why}")
    return part


def hole_table(solution: Solution) -> tuple[HoleRow, ...]:
    """Return the plate's holes, lugs first, then ears. Raises ``ExportError`` when there is no plate or a hole is unknown."""
    rows = []
    for number, bore in enumerate(sheet_part(solution).bores, start=1):
        if not all(map(math.isfinite, (*bore.centre, bore.drill))):
            raise ExportError(
                f"the hole at {bore.name} is still unknown: measure what the findings name, then export again"
            )
        rows.append(HoleRow(number, bore.name, bore.centre[0] + 0.0, bore.centre[1] + 0.0, bore.drill, bore.note))
    return tuple(rows)


def plate_sheet(solution: Solution) -> Drawing:
    """Return the plate in the hub frame, seen from outboard; the flat pattern where it is bent; a left one mirrored.

    Raises ``ExportError`` when there is no plate.
    """
    part = sheet_part(solution)
    assert part.outline is not None
    sheet, lengths = Sheet(), solution.job.lengths
    for edge in (part.outline, *([part.window] if part.window is not None else [])):
        sheet.outline(edge, "outline", "bracket", filled=False)
    for cutout in part.cutouts:
        sheet.outline(cutout, "outline", "cutout", filled=False)
    for row, bore in zip(hole_table(solution), part.bores):
        if bore.slot:
            sheet.outline(bore.outline, "outline", row.name, filled=False)
        else:
            sheet.circle((row.x, row.y), row.drill / 2, "hole", row.name, filled=False)
        centre_mark(sheet, (row.x, row.y), row.drill / 2 + 4.0, row.name)
        text = f"{row.number}  {short(row.name)}: {row.note}"
        sheet.note(Note((row.x, row.y), text, row.name, 0, prefer=_outward(part.outline, (row.x, row.y)), far=3))
    _more_work(sheet, part, lengths)
    _sizes(sheet, part.outline, lengths)
    _forward(sheet, part.outline.bounds)
    _wheel_axis(sheet)
    drawing = sheet.finish(part.outline.bounds)
    return mirrored(drawing) if solution.job.is_left else drawing


def _more_work(sheet: Sheet, part: MadePart, lengths: LengthFormat) -> None:
    """Where the plate is milled and bent."""
    for number, pocket in enumerate(part.pockets):
        for edge in pocket.kept or (pocket.outline,):
            sheet.outline(edge, "mark", "pocket", filled=False)
        x0, y0, x1, _ = (pocket.kept or (pocket.outline,))[0].bounds
        face = "this face" if pocket.face > 0 else "the far face"
        all_but = ", all but the pads" if pocket.kept else ""
        text = f"mill {lengths.gap(pocket.depth)} deep from {face}{all_but}"
        if text not in {note.text for note in sheet.notes}:
            sheet.note(Note(((x0 + x1) / 2, y0), text, f"pocket-{number}", 1, prefer=(0.3, -1.0)))
    if part.chamfer and part.outline is not None:
        x, y, _ = part.outline.vertices[0]
        sheet.note(
            Note(
                (x, y),
                f"chamfer {lengths.size(part.chamfer)} × 45° all round, both faces",
                "bracket",
                1,
                prefer=(1.0, -1.0),
            )
        )
    for ends, bend in zip(bend_lines(part), part.bends):
        if len(ends) == 2:
            sheet.line(ends, "mark", "bend")
            text = f"bend {'up' if bend.up else 'down'} {bend.angle:g}°, inside radius {lengths.size(bend.radius)}"
            sheet.note(Note(ends[1], text, "bend", 1, prefer=(1.0, 0.4)))


def _outward(outline: Outline, at: Point) -> tuple[float, float]:
    """Return the direction from the plate's middle to a hole, where its label is clear of the others."""
    cx, cy = outline.centroid
    return at[0] - cx, at[1] - cy


def _sizes(sheet: Sheet, outline: Outline, lengths: LengthFormat) -> None:
    """Overall width and height."""
    x0, y0, x1, y1 = outline.bounds
    sheet.dimension(Dimension((x0, y0), (x1, y0), (1.0, 0.0), (0.0, -1.0), -y0, lengths.size(x1 - x0), "bracket", 0, 1))
    sheet.dimension(Dimension((x0, y0), (x0, y1), (0.0, 1.0), (-1.0, 0.0), -x0, lengths.size(y1 - y0), "bracket", 1, 1))


def _forward(sheet: Sheet, bounds: tuple[float, float, float, float]) -> None:
    """An arrow to the front of the vehicle, above the plate."""
    x0, _, x1, y1 = bounds
    middle, y = (x0 + x1) / 2, y1 + 9.0
    sheet.line(((middle - 14.0, y), (middle + 8.0, y)), "mark", "forward")
    head = arrow_head((middle + 14.0, y), (1.0, 0.0), 6.0, "mark", "forward")
    sheet.shape(Shape(head.loops, "mark", "forward", filled=False))
    sheet.note(Note((middle, y), "front of the vehicle", "forward", 0, prefer=(0.0, 1.0)))


def _wheel_axis(sheet: Sheet) -> None:
    """The axle's centre, where it falls on the sheet: the table's places are counted from it."""
    centre_mark(sheet, (0.0, 0.0), 7.0, "axis")
    sheet.note(Note((0.0, 0.0), "wheel axis", "axis", 3, prefer=(0.0, -1.0)))


def paper_labels(
    drawing: Drawing, measure: Measure, room: float = 3 * ROOM_MM, above: float | None = None
) -> tuple[Placed, ...]:
    """Return the sheet's texts in their places, in points, no further than ``room`` [mm] beside and ``above`` the plate.

    ``measure`` gives a text's size in points.
    """
    x0, y0, x1, y1 = drawing.bounds
    wide, high = room * PT_PER_MM, (room if above is None else above) * PT_PER_MM
    frame = Box(x0 * PT_PER_MM - wide, y0 * PT_PER_MM - high, x1 * PT_PER_MM + wide, y1 * PT_PER_MM + high)
    edges = [shape for shape in drawing.shapes if shape.ink in ("outline", "hole")]
    lines = (piece.points(0.2) for shape in edges for piece in shape.segments())
    taken = [box for line in lines for box in along(line, PT_PER_MM)]
    return lay_out(drawing, PT_PER_MM, measure, frame, taken, on_line=True)


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


def headline(solution: Solution) -> tuple[str, str]:
    """Return the title line and the line that says what plate this is and from where it is seen."""
    job, part = solution.job, sheet_part(solution)
    lengths = job.lengths
    title = f"{printable(job.title)[:120] or 'Untitled job'} · {part.name} · {job.corner.replace('-', ' ')}"
    flat = " · flat pattern" if part.bends else ""
    stock = f"{lengths.stock(part.thickness)} {printable(part.material) or 'material not stated'}"
    seen = f"{stock} · seen from outboard{flat}, top is up · 1 : 1"
    return title, seen

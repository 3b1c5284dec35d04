"""Workshop drawings as PDF: one sheet a part with three views from a datum, hole table, tolerances, title block."""

from collections.abc import Sequence
from typing import Any

from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.fold import fold_of
from bicentra.core.bracket.model import MadePart, Weld
from bicentra.core.drawing.boxes import Box, along
from bicentra.core.drawing.layout import lay_out
from bicentra.core.drawing.model import Dimension, Note, Sheet
from bicentra.core.drawing.sheets.imprint import CutMark, Imprint
from bicentra.core.drawing.sheets.plate import CAUTION, PT_PER_MM, Datum, pitches
from bicentra.core.drawing.sheets.workshop import hole_lines, notes, scale_for, scale_text, tolerances
from bicentra.core.geometry.outline import Point
from bicentra.formats.hidden_lines import View
from bicentra.formats.pdf_dimensions import bounds_of, ordinate_bands, ordinates, weld_symbol
from bicentra.formats.pdf_pen import SHEETS, TEXT_PT, arrow, draw_labels, fitted, new_canvas, sheet_for, stamp
from bicentra.formats.typeface import REGULAR, text_width, wrapped

WIDE, HIGH, ROW = 118.0, 48.0, 8.0
GENERAL = "ISO 2768-m"
"""Limits of what carries no tolerance of its own: class medium (ISO 2768-1)."""
FINISH = "edges broken; seat faces bare"


class Heading(Record, frozen=True):
    """What a title block says beside the part: job, corner, family, finish, what forbids cutting, date and names."""

    job: str
    corner: str
    family: str
    finish: str
    mark: CutMark
    imprint: Imprint


def title_block(
    canvas: Any,
    part: MadePart,
    heading: Heading,
    lengths: LengthFormat,
    scale: str,
    number: str,
    at: tuple[float, float],
) -> None:
    """Draw the block with its lower left corner ``at`` [mm]; ``scale`` and sheet ``number`` written out."""
    left, low = at
    mass = lengths.mass(part.mass_kg, 3)
    imprint = heading.imprint
    rows: tuple[tuple[tuple[str, str, float], ...], ...] = (
        (("part", f"{part.name}, {part.count} off", 88.0), ("revision", imprint.revision or "–", 30.0)),
        (("job", heading.job, 70.0), ("corner", heading.corner, 48.0)),
        (("kind of bracket", heading.family, 70.0), ("mass of one", mass, 48.0)),
        (
            ("material and stock", f"{part.material or 'not stated'}, {lengths.stock(part.thickness)}", 70.0),
            ("finish", heading.finish or FINISH, 48.0),
        ),
        (
            ("scale", scale, 26.0),
            ("sizes in", "inches" if lengths.units == "in" else "mm", 22.0),
            ("projection", "", 22.0),
            ("tolerances not stated", GENERAL, 48.0),
        ),
        (
            ("date", imprint.date, 26.0),
            ("drawn by", imprint.drawn, 31.0),
            ("checked by", imprint.checked, 31.0),
            ("sheet", number, 30.0),
        ),
    )
    canvas.setLineWidth(0.8)
    canvas.rect(left * PT_PER_MM, low * PT_PER_MM, WIDE * PT_PER_MM, HIGH * PT_PER_MM)
    canvas.setLineWidth(0.4)
    for place, row in enumerate(rows):
        top, x = low + HIGH - ROW * place, left
        if place:
            canvas.line(left * PT_PER_MM, top * PT_PER_MM, (left + WIDE) * PT_PER_MM, top * PT_PER_MM)
        for k, (caption, text, wide) in enumerate(row):
            if k:
                canvas.line(x * PT_PER_MM, top * PT_PER_MM, x * PT_PER_MM, (top - ROW) * PT_PER_MM)
            _cell(canvas, (x, top), wide, caption, text, bold=place == 0)
            if caption == "projection":
                _third_angle(canvas, (x + wide / 2, top - 5.0))
            x += wide


def _cell(canvas: Any, corner: tuple[float, float], wide: float, caption: str, text: str, bold: bool) -> None:
    x, room = (corner[0] + 1.2) * PT_PER_MM, (wide - 2.4) * PT_PER_MM
    canvas.setFillGray(0.35)
    fitted(canvas, "Paper", 5.0, x, (corner[1] - 2.3) * PT_PER_MM, caption, room)
    canvas.setFillGray(0.0)
    if text:
        fitted(
            canvas,
            "PaperBold" if bold else "Paper",
            10.0 if bold else 8.0,
            x,
            (corner[1] - 6.6) * PT_PER_MM,
            text,
            room,
        )


def _third_angle(canvas: Any, middle: tuple[float, float]) -> None:
    """Draw the symbol of third-angle projection (ISO 5456-2): the circles stand on the side of the cone that they show."""
    x, y = middle[0] * PT_PER_MM, middle[1] * PT_PER_MM
    large, small, long = 1.9 * PT_PER_MM, 0.95 * PT_PER_MM, 4.0 * PT_PER_MM
    canvas.setLineWidth(0.5)
    for radius in (large, small):
        canvas.circle(x - long, y, radius)
    path = canvas.beginPath()
    start = x + long * 0.1
    path.moveTo(start, y - small)
    path.lineTo(start + long, y - large)
    path.lineTo(start + long, y + large)
    path.lineTo(start, y + small)
    path.close()
    canvas.drawPath(path)
    canvas.setLineWidth(0.25)
    canvas.setDash([3, 1, 1, 1])
    canvas.line(x - long - large * 1.3, y, start + long * 1.2, y)
    canvas.setDash([])


EDGE, INSIDE = 8.0, 13.0
"""The frame from the sheet's edge, and what stands in it [mm]."""
LABEL_ROOM, STRIP, ROW_MM, ROOM_MM, MOST_ROWS = 16.0, 11.0, 4.4, 44.0, 22
"""Room for labels round a view, for a row of ordinates, pitch of the tables and the room for one [mm]; most rows of holes."""
Area = tuple[float, float, float, float]


class SheetPlan(Record, frozen=True):
    """Where things stand on one sheet: left, bottom, width, height [mm]."""

    size: tuple[float, float]

    @property
    def front(self) -> Area:
        """The view from outboard."""
        return INSIDE, 66.0, self.size[0] - 165.0, self.size[1] - 86.0

    @property
    def side(self) -> Area:
        """The view from the right."""
        return self.size[0] - 148.0, 66.0, 40.0, self.size[1] - 86.0

    @property
    def picture(self) -> Area:
        """The part in space."""
        return self.size[0] - 104.0, self.size[1] - 72.0, 91.0, 52.0

    @property
    def block(self) -> tuple[float, float]:
        """The title block's lower left corner."""
        return self.size[0] - EDGE - WIDE, EDGE


def workshop_pdf(
    parts: tuple[MadePart, ...],
    views: list[dict[str, View]],
    datums: tuple[Datum | None, ...],
    heading: Heading,
    lengths: LengthFormat,
) -> bytes:
    """Return a sheet for each part, A4 or Letter by the units; ``views`` in their order, mirrored and turned as they are seen."""
    high, wide = SHEETS[sheet_for(lengths.units, heading.imprint)]
    plan = SheetPlan((wide, high))
    with new_canvas(plan.size, f"{heading.job}: {heading.family}") as canvas:
        for number, (part, of, datum) in enumerate(zip(parts, views, datums), 1):
            _sheet(canvas, plan, part, of, datum, heading, lengths, f"{number} of {len(parts)}")
            canvas.showPage()
        return bytes(canvas.getpdfdata())


def _sheet(
    canvas: Any,
    plan: SheetPlan,
    part: MadePart,
    views: dict[str, View],
    datum: Datum | None,
    heading: Heading,
    lengths: LengthFormat,
    number: str,
) -> None:
    canvas.setLineWidth(0.8)
    wide, high = plan.size
    canvas.rect(EDGE * PT_PER_MM, EDGE * PT_PER_MM, (wide - 2 * EDGE) * PT_PER_MM, (high - 2 * EDGE) * PT_PER_MM)
    x0, y0, x1, y1 = views["front"].bounds
    scale = scale_for(
        x1 - x0, y1 - y0, (plan.front[2] - 2 * LABEL_ROOM - STRIP, plan.front[3] - 2 * LABEL_ROOM - STRIP)
    )
    _view(canvas, views["front"], plan.front, scale)
    _view(canvas, views["side"], plan.side, scale)
    px0, py0, px1, py1 = views["pictorial"].bounds
    fit = min(plan.picture[2] / (px1 - px0), plan.picture[3] / (py1 - py0)) * 0.9
    _view(canvas, views["pictorial"], plan.picture, fit, hidden=False)
    _labels(canvas, plan, part, views, datum, scale, lengths)
    for place, text in (
        (plan.front, "flat pattern from outboard, bend lines dashed" if part.bends else "seen from outboard"),
        (plan.side, "seen from the right"),
        (plan.picture, "in space, not to scale"),
    ):
        fitted(
            canvas, "Paper", 7.5, place[0] * PT_PER_MM, (place[1] + place[3] + 1.5) * PT_PER_MM, text, 60 * PT_PER_MM
        )
    if part.weld is not None:
        _weld(canvas, plan, part.weld, part, views, datum, scale, lengths)
    _holes(canvas, plan, part, datum, lengths)
    _tolerances(canvas, plan, part, lengths)
    title_block(canvas, part, heading, lengths, scale_text(scale), number, plan.block)
    stamp(canvas, heading.mark.line, (INSIDE, high - EDGE - 6.0), wide - 2 * INSIDE, 10.0)
    room = (plan.block[0] - INSIDE - 2.0) * PT_PER_MM
    for row, line in enumerate(wrapped(CAUTION, 6.0, REGULAR, room)[:3]):
        fitted(canvas, "Paper", 6.0, INSIDE * PT_PER_MM, (15.0 - 2.6 * row) * PT_PER_MM, line, room)


def _view(canvas: Any, view: View, place: Area, scale: float, hidden: bool = True) -> None:
    """Draw a view in the middle of its place, hidden lines dashed."""
    x0, y0, x1, y1 = view.bounds
    canvas.saveState()
    canvas.translate((place[0] + place[2] / 2) * PT_PER_MM, (place[1] + place[3] / 2) * PT_PER_MM)
    size = scale * PT_PER_MM
    for lines, width, dash in ((view.hidden if hidden else (), 0.35, [2.5, 1.8]), (view.visible, 0.8, [])):
        canvas.setLineWidth(width)
        canvas.setDash(dash)
        path = canvas.beginPath()
        for line in lines:
            for k, (x, y) in enumerate(line):
                at = ((x - (x0 + x1) / 2) * size, (y - (y0 + y1) / 2) * size)
                path.moveTo(*at) if k == 0 else path.lineTo(*at)
        canvas.drawPath(path, stroke=1, fill=0)
    canvas.setDash([])
    canvas.restoreState()


def _labels(
    canvas: Any,
    plan: SheetPlan,
    part: MadePart,
    views: dict[str, View],
    datum: Datum | None,
    scale: float,
    lengths: LengthFormat,
) -> None:
    """Overall sizes, pitches, the holes' numbers and ordinates, placed so that none crosses another."""
    x0, y0, x1, y1 = views["front"].bounds
    wide, high = _true_sizes(part, datum)
    sheet = Sheet()
    sheet.dimension(Dimension((x0, y1), (x1, y1), (1, 0), (0, 1), y1, lengths.size(wide), "part", 0, 0))
    sheet.dimension(Dimension((x1, y0), (x1, y1), (0, 1), (1, 0), x1, lengths.size(high), "part", 1, 0))
    middle = ((x0 + x1) / 2, (y0 + y1) / 2)
    spots = _spots(part, datum)
    for number, at in enumerate(spots, 1):
        sheet.note(Note(at, str(number), str(number), 0, prefer=(at[0] - middle[0], at[1] - middle[1])))
    in_table = set(datum.holes) if datum is not None else set()  # their distance is an ordinate already
    for one, other, apart in (pair for pair in pitches(part) if {*pair[:2]} != in_table):
        _pitch(sheet, (spots[one - 1], spots[other - 1]), middle, lengths.size(apart))
    lines = (*views["front"].visible, *views["front"].hidden)
    _placed(canvas, sheet, plan.front, middle, scale, STRIP if datum is not None else 0.0, lines)
    if datum is not None:
        _ways(canvas, datum, (plan.front[0] + plan.front[2] - 18.0, plan.front[1] + 14.0))
        ordinates(canvas, spots, views["front"].bounds, plan.front, scale, lengths)
    sx0, sy0, sx1, sy1 = views["side"].bounds
    side = Sheet()
    fold = fold_of(part)
    deep = part.thickness + (fold.height if fold is not None else 0.0)
    side.dimension(Dimension((sx0, sy0), (sx1, sy0), (1, 0), (0, -1), -sy0, lengths.size(deep), "part", 0, 0))
    _placed(canvas, side, plan.side, ((sx0 + sx1) / 2, (sy0 + sy1) / 2), scale)


def _weld(
    canvas: Any,
    plan: SheetPlan,
    weld: Weld,
    part: MadePart,
    views: dict[str, View],
    datum: Datum | None,
    scale: float,
    lengths: LengthFormat,
) -> None:
    """Draw the weld's symbol in the corner of the view, pointing at the middle of its joint."""
    x0, y0, x1, y1 = views["front"].bounds
    at = datum.at(weld.at) if datum is not None else (-weld.at[0], weld.at[1]) if part.mirrored else weld.at
    left, low, wide, high = plan.front
    middle = ((x0 + x1) / 2, (y0 + y1) / 2)
    joint = (left + wide / 2 + (at[0] - middle[0]) * scale, low + high / 2 + (at[1] - middle[1]) * scale)
    weld_symbol(canvas, weld, joint, (left + 2.0, low + high - 6.0), lengths)


def _spots(part: MadePart, datum: Datum | None) -> list[Point]:
    """Return the middles of bores and cutouts as the sheet shows them [mm]."""
    own = [*(bore.centre for bore in part.bores), *(cutout.centroid for cutout in part.cutouts)]
    if datum is not None:
        return [datum.at(at) for at in own]
    return [(-x, y) if part.mirrored else (x, y) for x, y in own]


def _pitch(sheet: Sheet, ends: tuple[Point, Point], middle: Point, text: str) -> None:
    """Add the distance of two holes that mate with one part, on the side away from the part's middle."""
    (ax, ay), (bx, by) = ends
    long = ((bx - ax) ** 2 + (by - ay) ** 2) ** 0.5
    if long < 1e-6:
        return
    along = ((bx - ax) / long, (by - ay) / long)
    side = (-along[1], along[0])
    if (ax - middle[0]) * side[0] + (ay - middle[1]) * side[1] < 0:
        side = (-side[0], -side[1])
    base = ax * side[0] + ay * side[1]
    sheet.dimension(Dimension((ax, ay), (bx, by), along, side, base, text, "pitch", 0, 1, inline=True))


def _ways(canvas: Any, datum: Datum, at: Point) -> None:
    """Say which way is up and which is forward on the vehicle: the view is turned to its datum."""
    _, _, cos, sin = datum.seen
    forward = -1.0 if datum.mirrored else 1.0
    for text, (u, v) in (("up", (sin, cos)), ("forward", (forward * cos, -forward * sin))):
        x, y, long = at[0] * PT_PER_MM, at[1] * PT_PER_MM, 20.0
        canvas.setLineWidth(0.6)
        canvas.setStrokeGray(0.0)
        canvas.setFillGray(0.0)
        canvas.line(x, y, x + u * long, y + v * long)
        arrow(canvas, (x + u * long, y + v * long), (-u, -v))
        wide = text_width(text, 7.0)
        canvas.setFont("Paper", 7.0)
        canvas.drawString(x + u * (long + wide / 2 + 4.0) - wide / 2, y + v * (long + 7.0) - 2.5, text)


def _true_sizes(part: MadePart, datum: Datum | None) -> tuple[float, float]:
    """Return width and height on the sheet from the exact outline [mm]: the views' lines are chords."""
    if part.outline is None:
        return part.outer, part.outer
    x0, y0, x1, y1 = (datum.outline(part.outline) if datum is not None else part.outline).bounds
    return round(x1 - x0, 2), round(y1 - y0, 2)


def _placed(
    canvas: Any,
    sheet: Sheet,
    place: Area,
    middle: Point,
    scale: float,
    strip: float = 0.0,
    lines: tuple[tuple[Point, ...], ...] = (),
) -> None:
    """Lay out and draw a view's labels, clear of its ``lines`` and of a ``strip`` [mm] at its left and foot."""
    size = scale * PT_PER_MM
    dx, dy = middle[0] * size, middle[1] * size
    half, free = (place[2] / 2 * PT_PER_MM, place[3] / 2 * PT_PER_MM), strip * PT_PER_MM
    frame = Box(dx - half[0] + free, dy - half[1] + free, dx + half[0], dy + half[1])
    drawing = sheet.finish((0.0, 0.0, 1.0, 1.0))
    canvas.saveState()
    canvas.translate((place[0] + place[2] / 2) * PT_PER_MM - dx, (place[1] + place[3] / 2) * PT_PER_MM - dy)
    taken = [box for line in lines for box in along(line, size)]
    if strip:
        taken += ordinate_bands(bounds_of(lines), size)
    draw_labels(
        canvas, lay_out(drawing, size, lambda text: (text_width(text, TEXT_PT) + 4.0, TEXT_PT + 3.0), frame, taken)
    )
    canvas.restoreState()


def _rows(
    canvas: Any, x: float, top: float, widths: tuple[float, ...], rows: Sequence[tuple[str, ...]], step: float = ROW_MM
) -> float:
    """Draw rows of cells from ``top`` downward, ``step`` [mm] apart, the first one bold; returns where they end [mm]."""
    size = min(7.5, step * PT_PER_MM * 0.85)
    for number, cells in enumerate(rows):
        at = x
        for cell, wide in zip(cells, widths):
            font = "PaperBold" if number == 0 else "Paper"
            low = (top - step * number) * PT_PER_MM
            fitted(canvas, font, size, at * PT_PER_MM, low, cell, (wide - 1.5) * PT_PER_MM)
            at += wide
    return top - step * len(rows)


def _holes(canvas: Any, plan: SheetPlan, part: MadePart, datum: Datum | None, lengths: LengthFormat) -> None:
    """The hole table: X and Y from the datum for the machinist, forward and up from the wheel's axis for the fabricator."""
    unit = "inches" if lengths.units == "in" else "mm"
    if datum is not None:
        one, other = datum.holes
        text = f"X, Y: from hole {one}, X towards hole {other}. Forward, up: from the wheel's axis. In {unit}."
        fitted(canvas, "Paper", 7.0, INSIDE * PT_PER_MM, 62.0 * PT_PER_MM, text, (plan.block[0] - INSIDE) * PT_PER_MM)
    lines = [(row.number, row.x, row.y, row.forward, row.up, row.work) for row in hole_lines(part, lengths, datum)]
    rows: list[tuple[str, ...]] = [
        ("no.", *(("X", "Y") if datum is not None else ("", "")), "forward", "up", "work"),
        *lines,
    ]
    if not lines:
        inside = f"outside Ø {lengths.size(part.outer)}" + (
            f", bore Ø {lengths.size(part.inner)}" if part.inner > 0 else ""
        )
        rows = [("", "", "", "", "", f"{inside}, eccentric by {lengths.size(part.offset)}" if part.offset else inside)]
    if len(rows) > MOST_ROWS:
        left = len(rows) - MOST_ROWS + 1
        rows = [*rows[: MOST_ROWS - 1], ("", "", "", "", "", f"and {left} more: see the cutting file (DXF)")]
    widths = (8.0, 16.0, 16.0, 16.0, 16.0, plan.block[0] - INSIDE - 74.0)
    _rows(canvas, INSIDE, 57.5, widths, rows, min(ROW_MM, (ROOM_MM - 4.0) / len(rows)))


def _tolerances(canvas: Any, plan: SheetPlan, part: MadePart, lengths: LengthFormat) -> None:
    rows = [("on", "tolerance", "protects"), *((t.on, t.amount, t.protects) for t in tolerances(part, lengths))]
    left, top, wide = plan.picture[0], plan.picture[1] - 4.0, plan.picture[2]
    end = _rows(canvas, left, top, (19.0, 22.0, wide - 41.0), rows, 4.0) - 1.0
    lines = [line for text in notes(part, lengths) for line in wrapped(f"– {text}", 7.0, REGULAR, wide * PT_PER_MM)]
    step = min(3.4, max((end - EDGE - HIGH - 2.0) / max(len(lines), 1), 2.2))
    for row, text in enumerate(lines):
        low = (end - step * row) * PT_PER_MM
        fitted(canvas, "Paper", min(7.0, step * PT_PER_MM * 0.8), left * PT_PER_MM, low, text, wide * PT_PER_MM)

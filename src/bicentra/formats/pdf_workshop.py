"""Workshop drawings as PDF: one A4 sheet a part with three views, hole table, tolerances, title block and cautions."""

from collections.abc import Sequence
from typing import Any

from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.fold import fold_of
from bicentra.core.bracket.model import MadePart
from bicentra.core.drawing.layout import Box, lay_out
from bicentra.core.drawing.model import Dimension, Note, Sheet
from bicentra.core.drawing.plate_sheet import CAUTION, PT_PER_MM
from bicentra.core.drawing.workshop import hole_rows, notes, scale_for, scale_text, tolerances
from bicentra.formats.hidden_lines import View
from bicentra.formats.pdf import TEXT_PT, draw_label, fitted
from bicentra.formats.pdf_check_list import wrapped
from bicentra.formats.press import press
from bicentra.formats.typeface import REGULAR, text_width

SHEET = (297.0, 210.0)
EDGE = 8.0
FRONT, SIDE, PICTURE = (14.0, 74.0, 128.0, 124.0), (150.0, 74.0, 40.0, 124.0), (204.0, 126.0, 80.0, 72.0)
"""Where the views stand: left, bottom, width, height [mm on the sheet]."""
LABEL_ROOM, ROW_MM, ROOM_MM, MOST_ROWS = 16.0, 4.6, 50.0, 22
"""Room for labels round a view, pitch of the tables and the room for one [mm], most rows of the hole table."""


class Heading(Record, frozen=True):
    """What the title block says beside the part: job, corner, family, revision."""

    job: str
    corner: str
    family: str
    revision: str


def workshop_pdf(
    parts: tuple[MadePart, ...], views: list[dict[str, View]], heading: Heading, lengths: LengthFormat
) -> bytes:
    """Return a sheet for each part; ``views`` in their order, already mirrored for a left corner."""
    with press(SHEET, f"{heading.job}: {heading.family}") as canvas:
        for number, (part, of) in enumerate(zip(parts, views), 1):
            _sheet(canvas, part, of, heading, lengths, f"{number} of {len(parts)}")
            canvas.showPage()
        return bytes(canvas.getpdfdata())


def _sheet(
    canvas: Any, part: MadePart, views: dict[str, View], heading: Heading, lengths: LengthFormat, number: str
) -> None:
    canvas.setLineWidth(0.8)
    canvas.rect(
        EDGE * PT_PER_MM, EDGE * PT_PER_MM, (SHEET[0] - 2 * EDGE) * PT_PER_MM, (SHEET[1] - 2 * EDGE) * PT_PER_MM
    )
    x0, y0, x1, y1 = views["front"].bounds
    room = (FRONT[2] - 2 * LABEL_ROOM, FRONT[3] - 2 * LABEL_ROOM)
    scale = scale_for(x1 - x0, y1 - y0, room)
    _view(canvas, views["front"], FRONT, scale)
    _view(canvas, views["side"], SIDE, scale)
    px0, py0, px1, py1 = views["pictorial"].bounds
    _view(
        canvas,
        views["pictorial"],
        PICTURE,
        min(PICTURE[2] / (px1 - px0), PICTURE[3] / (py1 - py0)) * 0.95,
        hidden=False,
    )
    _labels(canvas, part, views, scale, lengths)
    for place, text in (
        (FRONT, "flat pattern from outboard, bend lines dashed" if part.bends else "seen from outboard"),
        (SIDE, "seen from the front"),
        (PICTURE, "pictorial, not to scale"),
    ):
        fitted(canvas, "Paper", 7.5, place[0] * PT_PER_MM, (place[1] + place[3] - 1) * PT_PER_MM, text, 60 * PT_PER_MM)
    _holes(canvas, part)
    _tolerances(canvas, part)
    _title(canvas, part, heading, scale, number)


def _view(canvas: Any, view: View, place: tuple[float, float, float, float], scale: float, hidden: bool = True) -> None:
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


def _labels(canvas: Any, part: MadePart, views: dict[str, View], scale: float, lengths: LengthFormat) -> None:
    """Overall sizes and the holes' numbers, placed so that none crosses another."""
    x0, y0, x1, y1 = views["front"].bounds
    box = part.outline.bounds if part.outline is not None else (x0, y0, x1, y1)
    mirrored = abs(x0 + box[2]) < abs(x0 - box[0])
    wide, high = _true_sizes(part)
    sheet = Sheet()
    sheet.dimension(Dimension((x0, y0), (x1, y0), (1, 0), (0, -1), -y0, lengths.size(wide), "part", 0, 0))
    sheet.dimension(Dimension((x0, y0), (x0, y1), (0, 1), (-1, 0), -x0, lengths.size(high), "part", 0, 0))
    middle = ((x0 + x1) / 2, (y0 + y1) / 2)
    spots = [*(bore.centre for bore in part.bores), *(cutout.centroid for cutout in part.cutouts)]
    for number, (x, y) in enumerate(spots, 1):
        at = (-x if mirrored else x, y)
        sheet.note(Note(at, str(number), str(number), 0, prefer=(at[0] - middle[0], at[1] - middle[1])))
    _placed(canvas, sheet, FRONT, middle, scale)
    sx0, sy0, sx1, sy1 = views["side"].bounds
    side = Sheet()
    fold = fold_of(part)
    deep = part.thickness + (fold.height if fold is not None else 0.0)
    side.dimension(Dimension((sx0, sy0), (sx1, sy0), (1, 0), (0, -1), -sy0, lengths.size(deep), "part", 0, 0))
    _placed(canvas, side, SIDE, ((sx0 + sx1) / 2, (sy0 + sy1) / 2), scale)


def _true_sizes(part: MadePart) -> tuple[float, float]:
    """Return width and height from the exact outline: the views' lines are chords."""
    if part.outline is None:
        return part.outer, part.outer
    x0, y0, x1, y1 = part.outline.bounds
    return round(x1 - x0, 2), round(y1 - y0, 2)


def _placed(
    canvas: Any, sheet: Sheet, place: tuple[float, float, float, float], middle: tuple[float, float], scale: float
) -> None:
    size = scale * PT_PER_MM
    dx, dy = middle[0] * size, middle[1] * size
    half = (place[2] / 2 * PT_PER_MM, place[3] / 2 * PT_PER_MM)
    frame = Box(dx - half[0], dy - half[1], dx + half[0], dy + half[1])
    drawing = sheet.finish((0.0, 0.0, 1.0, 1.0))
    canvas.saveState()
    canvas.translate((place[0] + place[2] / 2) * PT_PER_MM - dx, (place[1] + place[3] / 2) * PT_PER_MM - dy)
    for label in lay_out(drawing, size, lambda text: (text_width(text, TEXT_PT) + 4.0, TEXT_PT + 3.0), frame):
        draw_label(canvas, label, patch=True)
    canvas.restoreState()


def _rows(
    canvas: Any, x: float, top: float, widths: tuple[float, ...], rows: Sequence[tuple[str, ...]], step: float = 4.6
) -> float:
    """Draw rows of cells from ``top`` downward, ``step`` [mm] apart, the first one bold; returns where they end [mm]."""
    size = min(7.5, step * PT_PER_MM * 0.85)
    for number, cells in enumerate(rows):
        at = x
        for cell, wide in zip(cells, widths):
            font = "PaperBold" if number == 0 else "Paper"
            fitted(
                canvas, font, size, at * PT_PER_MM, (top - step * number) * PT_PER_MM, cell, (wide - 1.5) * PT_PER_MM
            )
            at += wide
    return top - step * len(rows)


def _holes(canvas: Any, part: MadePart) -> None:
    rows: list[tuple[str, ...]] = [("no.", "forward", "up", "Ø", "work"), *hole_rows(part)]
    if len(rows) == 1:
        rows = [("", "", "", "", f"outside Ø {part.outer:g}, bore Ø {part.inner:g}, eccentric by {part.offset:g}")]
    if len(rows) > MOST_ROWS:
        rows = [
            *rows[: MOST_ROWS - 1],
            ("", "", "", "", f"and {len(rows) - MOST_ROWS + 1} more: see the cutting file (DXF)"),
        ]
    _rows(canvas, 14.0, 66.0, (9.0, 19.0, 19.0, 13.0, 60.0), rows, min(ROW_MM, ROOM_MM / len(rows)))


def _tolerances(canvas: Any, part: MadePart) -> None:
    rows = [("on", "tolerance", "protects"), *((t.on, t.amount, t.protects) for t in tolerances(part))]
    end = _rows(canvas, 138.0, 66.0, (24.0, 26.0, 62.0), rows)
    told = notes(part)
    half = len(told) if len(told) < 5 else (len(told) + 1) // 2
    wide = 145.0 if half == len(told) else 71.0
    for k, text in enumerate(told):
        column, row = divmod(k, half)
        at = (138.0 + 74.0 * column) * PT_PER_MM, (end - 2.0 - ROW_MM * row) * PT_PER_MM
        fitted(canvas, "Paper", 7.5, *at, text, wide * PT_PER_MM)


def _title(canvas: Any, part: MadePart, heading: Heading, scale: float, number: str) -> None:
    left, low, wide, high = 204.0, 72.0, 81.0, 42.0
    canvas.setLineWidth(0.8)
    canvas.rect(left * PT_PER_MM, low * PT_PER_MM, wide * PT_PER_MM, high * PT_PER_MM)
    mass = f"{part.mass_kg:.3f} kg" if part.mass_kg == part.mass_kg else "mass not known"
    lines = (
        ("PaperBold", 12, f"{part.name}, {part.count} off"), ("Paper", 9, heading.job),
        ("Paper", 9, f"{heading.family}, {heading.corner}"),
        ("Paper", 9, f"{part.thickness:g} mm · {part.material or 'material not stated'} · {mass}"),
        ("PaperBold", 9, f"scale {scale_text(scale)} · mm · revision {heading.revision} · sheet {number}"),
    )  # fmt: skip
    for row, (font, size, text) in enumerate(lines):
        fitted(
            canvas,
            font,
            size,
            (left + 3) * PT_PER_MM,
            (low + high - 7 - 7.4 * row) * PT_PER_MM,
            text,
            (wide - 6) * PT_PER_MM,
        )
    for row, line in enumerate(wrapped(CAUTION, 6.5, REGULAR, 270.0 * PT_PER_MM)[:2]):
        fitted(canvas, "Paper", 6.5, 14.0 * PT_PER_MM, (13.0 - 3.2 * row) * PT_PER_MM, line, 270.0 * PT_PER_MM)

"""The title block of a workshop drawing: part, job, stock, finish, tolerances, scale, projection, names, revision."""

from typing import Any

from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.model import MadePart
from bicentra.core.drawing.imprint import CutMark, Imprint
from bicentra.core.drawing.plate_sheet import PT_PER_MM
from bicentra.formats.pdf_pen import fitted

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

"""What every PDF paper is drawn with: shapes, labels with their arrows, texts that fit, proof bars, the mark not to cut."""

import math
from typing import Any

from bicentra.core.base.quantities import Units
from bicentra.core.base.wording import printable
from bicentra.core.drawing.imprint import Imprint
from bicentra.core.drawing.layout import Placed
from bicentra.core.drawing.model import Shape
from bicentra.core.drawing.plate_sheet import PT_PER_MM
from bicentra.formats.typeface import BOLD, REGULAR, text_width, wrapped

SHEETS = {"A4": (210.0, 297.0), "Letter": (215.9, 279.4)}
MARGIN = 10.0
"""Unprinted edge [mm]."""
TEXT_PT = 9.0


def sheet_for(units: Units, imprint: Imprint, paper: str | None = None) -> str:
    """Return the sheet a paper is made on: the one asked for, else Letter where sizes are read in inches and A4 elsewhere."""
    return paper or imprint.paper or ("Letter" if units == "in" else "A4")


ARROW_PT = (6.0, 1.1)
"""Length of an arrowhead and half its width [points]."""


def draw_shape(canvas: Any, shape: Shape) -> None:
    """Draw lines and arcs in points. Arcs are the PDF's own curves, true to better than a thousandth of the radius."""
    width, dash = {"outline": (1.0, []), "hole": (0.8, []), "centre": (0.4, [8, 2, 2, 2])}.get(shape.ink, (0.7, []))
    canvas.setLineWidth(width)
    canvas.setDash([3, 2] if shape.line == "hidden" else dash)
    canvas.setStrokeColorRGB(*((0.6, 0.15, 0.1) if shape.ink == "centre" else (0, 0, 0)))
    path = canvas.beginPath()
    start = None
    for piece in shape.segments():
        x0, y0 = piece.start[0] * PT_PER_MM, piece.start[1] * PT_PER_MM
        if start != piece.start:
            path.moveTo(x0, y0)
        if piece.bulge == 0.0:
            path.lineTo(piece.end[0] * PT_PER_MM, piece.end[1] * PT_PER_MM)
        else:
            (cx, cy), r = piece.centre, piece.radius
            first = math.degrees(math.atan2(piece.start[1] - cy, piece.start[0] - cx))
            bounds = [v * PT_PER_MM for v in (cx - r, cy - r, cx + r, cy + r)]
            path.arcTo(*bounds, startAng=first, extent=math.degrees(piece.sweep))
        start = piece.end
    canvas.drawPath(path, stroke=1, fill=0)


def draw_labels(canvas: Any, labels: tuple[Placed, ...]) -> None:
    """Draw labels with their leaders and arrows, in points; texts last, each on a piece of white: no line runs through one."""
    canvas.setDash([])
    canvas.setLineWidth(0.4)
    canvas.setStrokeColorRGB(0.35, 0.35, 0.35)
    canvas.setFillColorRGB(0.35, 0.35, 0.35)
    for label in labels:
        for (x0, y0), (x1, y1) in label.lines:
            canvas.line(x0, y0, x1, y1)
        for tip, way in label.arrows:
            arrow(canvas, tip, way)
    canvas.setFont("Paper", TEXT_PT)
    for label in labels:
        box = label.box
        canvas.setFillColorRGB(1, 1, 1)
        canvas.rect(box.x0, box.y0, box.x1 - box.x0, box.y1 - box.y0, stroke=0, fill=1)
        canvas.setFillColorRGB(0, 0, 0)
        canvas.drawString(box.x0 + 2.0, box.y0 + 3.2, label.text)


def arrow(canvas: Any, tip: tuple[float, float], way: tuple[float, float]) -> None:
    """Draw a filled arrowhead at ``tip`` whose shaft runs off along ``way``."""
    (x, y), (u, v), (long, half) = tip, way, ARROW_PT
    path = canvas.beginPath()
    path.moveTo(x, y)
    for side in (half, -half):
        path.lineTo(x + u * long - v * side, y + v * long + u * side)
    path.close()
    canvas.drawPath(path, stroke=0, fill=1)


def fitted(canvas: Any, font: str, size: float, x: float, y: float, text: str, room: float) -> None:
    """Draw ``text`` no wider than ``room`` points: smaller down to 6 points, then cut with an ellipsis."""
    face, text = BOLD if font.endswith("Bold") else REGULAR, printable(text)
    while size > 6.0 and text_width(text, size, face) > room:
        size -= 0.5
    while len(text) > 1 and text_width(text, size, face) > room:
        text = text[:-2].rstrip() + "…"
    canvas.setFont(font, size)
    canvas.drawString(x, y, text)


def proof_bar(canvas: Any, length: float, text: str, height: float) -> None:
    """A proof bar of ``length`` [mm] between two ticks."""
    x0, y = MARGIN * PT_PER_MM, (MARGIN + height - 4.0) * PT_PER_MM
    x1 = x0 + length * PT_PER_MM
    canvas.setLineWidth(0.6)
    canvas.setStrokeColorRGB(0, 0, 0)
    canvas.line(x0, y, x1, y)
    for x in (x0, x1):
        canvas.line(x, y - 1.5 * PT_PER_MM, x, y + 1.5 * PT_PER_MM)
    canvas.setFillColorRGB(0, 0, 0)
    canvas.setFont("Paper", 8)
    canvas.drawString(x1 + 3 * PT_PER_MM, y - 2.5, f"{text} between the ticks")


def stamp(canvas: Any, text: str, at: tuple[float, float], wide: float, size: float = 12.0) -> None:
    """Draw the mark that keeps metal from being cut, red and in a frame, on up to two lines no wider than ``wide`` [mm]; nothing
    without a ``text``."""
    if not text:
        return
    room = wide * PT_PER_MM - 6.0
    size = next((s for s in (size, size * 0.85, size * 0.7) if text_width(text, s, BOLD) <= room), size * 0.7)
    lines = wrapped(text, size, BOLD, room)
    (x, y), high = (at[0] * PT_PER_MM, at[1] * PT_PER_MM), size * 1.25
    canvas.setFillColorRGB(0.7, 0.05, 0.05)
    canvas.setStrokeColorRGB(0.7, 0.05, 0.05)
    canvas.setLineWidth(1.0)
    shown = [*lines[:1], *([" ".join(lines[1:])] if lines[1:] else [])]
    canvas.rect(x, y - high * (len(shown) - 1) - size * 0.45, wide * PT_PER_MM, high * len(shown) + size * 0.2)
    for row, line in enumerate(shown):
        fitted(canvas, "PaperBold", size, x + 3.0, y - high * row, line, room)
    canvas.setFillColorRGB(0, 0, 0)
    canvas.setStrokeColorRGB(0, 0, 0)

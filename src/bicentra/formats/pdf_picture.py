"""A drawing set into a column of text on a PDF page, as large as there is room, its labels at their usual size."""

from typing import Any

from bicentra.core.drawing.model import Drawing
from bicentra.core.drawing.plate_sheet import PT_PER_MM, paper_labels
from bicentra.core.drawing.scaled import scaled
from bicentra.formats.pdf_column import Column
from bicentra.formats.pdf_pen import TEXT_PT, draw_labels, draw_shape
from bicentra.formats.typeface import REGULAR, text_width

SIDE_MM, ABOVE_MM = 22.0, 8.0
"""Room for labels beside and above the parts [mm]."""


def picture(canvas: Any, column: Column, drawing: Drawing, high: float) -> None:
    """Draw ``drawing`` below what has been written, within ``high`` [mm] and the column's width; lines stay black."""
    x0, y0, x1, y1 = drawing.bounds
    room = column.width / PT_PER_MM - 2 * SIDE_MM, high - 2 * ABOVE_MM
    small = scaled(drawing, min(room[0] / max(x1 - x0, 1.0), room[1] / max(y1 - y0, 1.0)))
    x0, y0, x1, y1 = small.bounds
    canvas.saveState()
    middle = column.left + column.width / 2 - (x0 + x1) / 2 * PT_PER_MM
    canvas.translate(middle, column.y - (high / 2 + (y0 + y1) / 2) * PT_PER_MM)
    for shape in small.shapes:
        draw_shape(canvas, shape)
    sides = (column.width / PT_PER_MM - (x1 - x0)) / 2
    draw_labels(
        canvas,
        paper_labels(small, lambda text: (text_width(text, TEXT_PT, REGULAR) + 4.0, TEXT_PT + 3.0), sides, ABOVE_MM),
    )
    canvas.setFillColorRGB(0, 0, 0)
    for text in small.texts:
        canvas.setFont("PaperBold" if text.bold else "Paper", text.size)
        draw = {"start": canvas.drawString, "end": canvas.drawRightString}.get(text.anchor, canvas.drawCentredString)
        draw(text.at[0] * PT_PER_MM, text.at[1] * PT_PER_MM - text.rise, text.text)
    canvas.restoreState()
    column.y -= high * PT_PER_MM

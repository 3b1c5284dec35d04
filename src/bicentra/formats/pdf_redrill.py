"""The drilling template on one sheet at 1 : 1, with proof bars and the caution."""

import io
import math

from bicentra.core.base.errors import ExportError
from bicentra.core.drawing.plate_sheet import PT_PER_MM, paper_labels
from bicentra.core.drawing.redrill_sheet import redrill_sheet, redrill_title
from bicentra.core.lineup.redrill import WARNING, Redrill, told
from bicentra.data import data_path
from bicentra.formats.pdf import FOOT, MARGIN, SHEETS, TEXT_PT, draw_label, draw_shape, fitted, proof_bar
from bicentra.formats.pdf_check_list import wrapped
from bicentra.formats.typeface import BOLD, REGULAR, text_width

MOST_LABELS_MM = 40.0
"""How far beside the face labels may stand, where the sheet has room."""


def redrill_pdf(plan: Redrill, bore_mm: float = math.nan, rim_mm: float = math.nan, paper: str = "A4") -> bytes:
    """Return the template as PDF. Raises ``ExportError`` when the face is larger than the sheet."""
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont
    from reportlab.pdfgen.canvas import Canvas

    drawing = redrill_sheet(plan, bore_mm, rim_mm)
    wide, high = SHEETS[paper]
    x0, y0, x1, y1 = drawing.bounds
    room = (wide - 2 * MARGIN, high - 2 * MARGIN - FOOT - 24.0)
    if x1 - x0 > room[0] or y1 - y0 > room[1]:
        raise ExportError(
            f"the face is {max(x1 - x0, y1 - y0):.0f} mm across, more than a sheet of {paper} shows at 1 : 1"
        )
    for name, file in (("Paper", REGULAR), ("PaperBold", BOLD)):
        pdfmetrics.registerFont(TTFont(name, str(data_path("fonts", file))))
    stream = io.BytesIO()
    canvas = Canvas(stream, pagesize=(wide * PT_PER_MM, high * PT_PER_MM), invariant=1)
    canvas.setTitle(redrill_title(plan))
    canvas.setCreator("Bicentra")
    canvas.saveState()
    canvas.translate(wide / 2 * PT_PER_MM, (MARGIN + FOOT + room[1] / 2) * PT_PER_MM)
    for shape in drawing.shapes:
        draw_shape(canvas, shape)
    beside = min((room[0] - (x1 - x0)) / 2, MOST_LABELS_MM)
    for label in paper_labels(drawing, lambda text: (text_width(text, TEXT_PT) + 4.0, TEXT_PT + 3.0), beside):
        draw_label(canvas, label, patch=True)
    canvas.restoreState()
    left, across = MARGIN * PT_PER_MM, (wide - 2 * MARGIN) * PT_PER_MM
    fitted(canvas, "PaperBold", 13, left, (high - MARGIN - 5) * PT_PER_MM, redrill_title(plan), across)
    for row, line in enumerate(wrapped(told(plan), 9, REGULAR, across)[:3]):
        fitted(canvas, "Paper", 9, left, (high - MARGIN - 11 - 4.5 * row) * PT_PER_MM, line, across)
    proof_bar(canvas, 100.0, "100 mm", 40.0)
    proof_bar(canvas, 101.6, "4 in", 32.5)
    for row, line in enumerate(wrapped(WARNING, 8, REGULAR, across)[:4]):
        fitted(canvas, "Paper", 8, left, (MARGIN + 16.0 - 4.0 * row) * PT_PER_MM, line, across)
    canvas.showPage()
    canvas.save()
    return stream.getvalue()

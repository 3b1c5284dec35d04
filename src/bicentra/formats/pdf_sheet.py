"""One drawing at 1 : 1 on one sheet, with a title, a few lines, proof bars and the caution."""

from typing import Any

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import Record
from bicentra.core.drawing.imprint import BLANK, CLEAR, CutMark, Imprint
from bicentra.core.drawing.model import Drawing
from bicentra.core.drawing.plate_sheet import PT_PER_MM, paper_labels
from bicentra.formats.pdf_canvas import new_canvas
from bicentra.formats.pdf_pen import MARGIN, SHEETS, TEXT_PT, draw_labels, draw_shape, fitted, proof_bar, stamp
from bicentra.formats.typeface import REGULAR, text_width, wrapped

MOST_LABELS_MM = 40.0
"""How far beside the drawing labels may stand, where the sheet has room."""
HEAD_MM, FOOT_MM = 24.0, 46.0
"""Room for title and words above the drawing; below it for both bars, date and names, what forbids cutting, and the caution."""


class SheetPage(Record, frozen=True):
    """One drawing [mm] with what stands round it: title, what is done with it, the caution."""

    drawing: Drawing
    title: str
    text: str
    caution: str


def room_on(paper: str) -> tuple[float, float]:
    """Return how wide and high a drawing may be on ``paper`` [mm]."""
    wide, high = SHEETS[paper]
    return wide - 2 * MARGIN, high - 2 * MARGIN - FOOT_MM - HEAD_MM


def one_sheet(
    drawing: Drawing,
    title: str,
    text: str,
    caution: str,
    paper: str,
    mark: CutMark = CLEAR,
    imprint: Imprint = BLANK,
) -> bytes:
    """Return ``drawing`` in the middle of one sheet. Raises ``ExportError`` when it is larger than that."""
    return sheets((SheetPage(drawing, title, text, caution),), paper, mark, imprint)


def sheets(pages: tuple[SheetPage, ...], paper: str, mark: CutMark, imprint: Imprint) -> bytes:
    """Return every page on a sheet of its own. Raises ``ExportError`` when a drawing is larger than that."""
    for page in pages:
        (x0, y0, x1, y1), room = page.drawing.bounds, room_on(paper)
        if x1 - x0 > room[0] or y1 - y0 > room[1]:
            text = f"{max(x1 - x0, y1 - y0):.0f} mm across, more than a sheet of {paper} shows at 1 : 1"
            raise ExportError(f"{page.title}: {text}")
    with new_canvas(SHEETS[paper], pages[0].title) as canvas:
        for page in pages:
            _drawn(canvas, page.drawing, paper)
            _words(canvas, page, paper, mark, imprint)
            canvas.showPage()
        return bytes(canvas.getpdfdata())


def _drawn(canvas: Any, drawing: Drawing, paper: str) -> None:
    """Draw at 1 : 1 in the middle of the sheet, labels beside it."""
    (wide, _), room, (x0, y0, x1, y1) = SHEETS[paper], room_on(paper), drawing.bounds
    canvas.saveState()
    canvas.translate(
        (wide / 2 - (x0 + x1) / 2) * PT_PER_MM, (MARGIN + FOOT_MM + room[1] / 2 - (y0 + y1) / 2) * PT_PER_MM
    )
    for shape in drawing.shapes:
        draw_shape(canvas, shape)
    beside = min((room[0] - (x1 - x0)) / 2, MOST_LABELS_MM)
    draw_labels(canvas, paper_labels(drawing, lambda text: (text_width(text, TEXT_PT) + 4.0, TEXT_PT + 3.0), beside))
    canvas.restoreState()


def _words(canvas: Any, page: SheetPage, paper: str, mark: CutMark, imprint: Imprint) -> None:
    """Write title and words at the head; at the foot, from above: both bars, date and names, what forbids cutting, caution."""
    (wide, high), left = SHEETS[paper], MARGIN * PT_PER_MM
    across = (wide - 2 * MARGIN) * PT_PER_MM
    fitted(canvas, "PaperBold", 13, left, (high - MARGIN - 5) * PT_PER_MM, page.title, across)
    for row, line in enumerate(wrapped(page.text, 9, REGULAR, across)[:4]):
        fitted(canvas, "Paper", 9, left, (high - MARGIN - 11 - 4.5 * row) * PT_PER_MM, line, across)
    proof_bar(canvas, 100.0, "100 mm", 46.0)
    proof_bar(canvas, 101.6, "4 in", 39.5)
    fitted(canvas, "Paper", 8, left, (MARGIN + 29.0) * PT_PER_MM, imprint.line, across)
    stamp(canvas, mark.line, (MARGIN, MARGIN + 23.5), wide - 2 * MARGIN, 10.0)
    for row, line in enumerate(wrapped(page.caution, 8, REGULAR, across)[:4]):
        fitted(canvas, "Paper", 8, left, (MARGIN + 13.0 - 4.0 * row) * PT_PER_MM, line, across)

"""The caliper card on one sheet at 1 : 1."""

from bicentra.core.drawing.card_sheet import card_sheet, card_text, card_title
from bicentra.core.drawing.imprint import BLANK, Imprint, cut_mark
from bicentra.core.drawing.plate_sheet import CAUTION
from bicentra.core.solution import Solution
from bicentra.formats.pdf_pen import sheet_for
from bicentra.formats.pdf_sheet import one_sheet, room_on


def card_pdf(solution: Solution, paper: str | None = None, imprint: Imprint = BLANK) -> bytes:
    """Return the card as PDF (A4 or Letter; by the job's units when not named). Raises ``ExportError`` when there is none."""
    sheet = sheet_for(solution.job.lengths.units, imprint, paper)
    drawing = card_sheet(solution, room_on(sheet)[1] - 12.0)
    return one_sheet(drawing, card_title(solution), card_text(solution), CAUTION, sheet, cut_mark(solution), imprint)

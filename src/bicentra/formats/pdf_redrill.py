"""The drilling template on one sheet at 1 : 1."""

import math

from bicentra.core.drawing.redrill_sheet import redrill_sheet, redrill_title
from bicentra.core.lineup.redrill import WARNING, Redrill, told
from bicentra.formats.pdf_sheet import one_sheet


def redrill_pdf(plan: Redrill, bore_mm: float = math.nan, rim_mm: float = math.nan, paper: str = "A4") -> bytes:
    """Return the template as PDF. Raises ``ExportError`` when the face is larger than the sheet."""
    return one_sheet(redrill_sheet(plan, bore_mm, rim_mm), redrill_title(plan), told(plan), WARNING, paper)

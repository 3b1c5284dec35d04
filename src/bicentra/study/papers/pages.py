"""A paper made to be looked at and printed: its pages as pictures, true to size."""

from bicentra.core.drawing.imprint import Imprint
from bicentra.core.solution import Solution
from bicentra.formats.pdf_pages import Page, page_count, page_picture
from bicentra.study.papers.makers import MAKERS, Report
from bicentra.study.papers.papers import PAPERS

__all__ = ["PRINTED", "Page", "page_count", "page_picture", "paper_bytes"]
PRINTED = tuple(kind for kind, paper in PAPERS.items() if paper.ending.endswith(".pdf"))
"""Papers that can be printed, in the order of the menu."""


def paper_bytes(kind: str, solution: Solution, imprint: Imprint, report: Report) -> bytes:
    """Return the paper of ``kind`` as PDF; nothing when cancelled. Raises ``ExportError``."""
    return MAKERS[kind].make(solution, report, imprint)

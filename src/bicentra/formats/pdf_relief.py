"""The relief templates of castings and dust shields at 1 : 1, a sheet for each."""

from bicentra.core.clearance.relief_plan import Relief
from bicentra.core.drawing.imprint import BLANK, Imprint
from bicentra.core.drawing.model import short
from bicentra.core.drawing.relief_sheet import relief_mark, relief_plans, relief_sheet, relief_text, relief_warning
from bicentra.core.solution import Solution
from bicentra.formats.pdf_pen import sheet_for
from bicentra.formats.pdf_sheet import SheetPage, room_on, sheets


def relief_pdf(solution: Solution, imprint: Imprint = BLANK) -> bytes:
    """Return a page for each obstacle that loses something, what most has to go first.

    Raises ``ExportError`` where nothing has to or can, or one is larger than the sheet."""
    plans = relief_plans(solution)
    paper = sheet_for(solution.job.lengths.units, imprint)
    pages = tuple(_page(solution, plan, plans, paper) for plan in plans)
    return sheets(pages, paper, relief_mark(solution), imprint)


def _page(solution: Solution, plan: Relief, plans: tuple[Relief, ...], paper: str) -> SheetPage:
    title = f"Cut line of {short(plan.name)}" if plan.through else f"Relief template of {short(plan.name)}"
    others = tuple(other for other in plans if other is not plan)
    drawing = relief_sheet(solution, plan, room_on(paper))
    return SheetPage(drawing, title, relief_text(solution, plan, others), relief_warning(plan))

"""The relief template of a casting or a dust shield on one sheet at 1 : 1."""

from bicentra.core.drawing.imprint import BLANK, Imprint
from bicentra.core.drawing.model import short
from bicentra.core.drawing.relief_sheet import relief_mark, relief_plans, relief_sheet, relief_told, relief_warning
from bicentra.core.solution import Solution
from bicentra.formats.pdf_pen import sheet_for
from bicentra.formats.pdf_sheet import one_sheet, room_on


def relief_pdf(solution: Solution, imprint: Imprint = BLANK) -> bytes:
    """Return what most has to go as PDF. Raises ``ExportError`` where nothing has to or can, or it is larger than the sheet."""
    plan, *others = relief_plans(solution)
    paper = sheet_for(solution.job.lengths.units, imprint)
    title = f"Cut line of {short(plan.name)}" if plan.through else f"Relief template of {short(plan.name)}"
    drawing = relief_sheet(solution, plan, room_on(paper))
    return one_sheet(
        drawing,
        title,
        relief_told(solution, plan, tuple(others)),
        relief_warning(plan),
        paper,
        relief_mark(solution),
        imprint,
    )

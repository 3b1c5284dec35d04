"""The bushings' marking chart on one sheet at 1 : 1."""

from bicentra.core.drawing.bushing_chart import bushing_chart, chart_text
from bicentra.core.drawing.imprint import BLANK, Imprint, cut_mark
from bicentra.core.drawing.plate_sheet import CAUTION
from bicentra.core.solution import Solution
from bicentra.formats.pdf_pen import sheet_for
from bicentra.formats.pdf_sheet import one_sheet


def chart_pdf(solution: Solution, imprint: Imprint = BLANK) -> bytes:
    """Return the chart as PDF. Raises ``ExportError`` where there are no bushings."""
    job = solution.job
    sheet = sheet_for(job.lengths.units, imprint)
    title = "Marking chart of the eccentric bushings"
    return one_sheet(bushing_chart(job), title, chart_text(job), CAUTION, sheet, cut_mark(solution), imprint)

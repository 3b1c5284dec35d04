"""The bushings' marking chart on one sheet at 1 : 1."""

from bicentra.core.drawing.bushing_chart import bushing_chart, chart_told
from bicentra.core.drawing.plate_sheet import CAUTION
from bicentra.core.parts.job import Job
from bicentra.formats.pdf_sheet import one_sheet


def chart_pdf(job: Job) -> bytes:
    """Return the chart as PDF. Raises ``ExportError`` where there are no bushings."""
    sheet = "Letter" if job.display_units == "in" else "A4"
    return one_sheet(bushing_chart(job), "Marking chart of the eccentric bushings", chart_told(job), CAUTION, sheet)

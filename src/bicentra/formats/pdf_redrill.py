"""The drilling template on one sheet at 1 : 1."""

import math

from bicentra.core.base.errors import ExportError
from bicentra.core.base.numbers import known
from bicentra.core.drawing.imprint import BLANK, CLEAR, Imprint
from bicentra.core.drawing.redrill_sheet import redrill_sheet, redrill_title
from bicentra.core.lineup.redrill import WARNING, Redrill, redrill_text
from bicentra.core.lineup.redrilled import drilling
from bicentra.core.parts.job import Job
from bicentra.formats.pdf_pen import sheet_for
from bicentra.formats.pdf_sheet import one_sheet


def redrill_pdf(
    plan: Redrill, bore_mm: float = math.nan, rim_mm: float = math.nan, paper: str = "A4", imprint: Imprint = BLANK
) -> bytes:
    """Return the template as PDF. Raises ``ExportError`` when the face is larger than the sheet."""
    return one_sheet(
        redrill_sheet(plan, bore_mm, rim_mm), redrill_title(plan), redrill_text(plan), WARNING, paper, CLEAR, imprint
    )


def drilling_plan(job: Job) -> Redrill:
    """Return how the job's rotor is drilled for its hub. Raises ``ExportError`` where nothing is known or to be drilled."""
    best = drilling(job)
    if best is None:
        raise ExportError(
            "the patterns are still unknown: measure bolt circle and holes of rotor and hub, and choose the studs"
        )
    if best.old == best.new:
        raise ExportError(f"rotor and hub both have {best.new.name}: nothing is to be drilled")
    return best


def rotor_drilling_pdf(job: Job, paper: str | None = None, imprint: Imprint = BLANK) -> bytes:
    """Return the template for the job's rotor on the job's hub. Raises ``ExportError`` where nothing is to be drilled."""
    sheet = sheet_for(job.lengths.units, imprint, paper)
    return redrill_pdf(drilling_plan(job), known(job.rotor.centre_bore_mm), known(job.rotor.hollow_mm), sheet, imprint)

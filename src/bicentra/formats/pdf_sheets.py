"""Papers that are one drawing at 1:1 on one sheet: caliper card, marking chart, drilling template, relief templates."""

import math
from typing import Any

from bicentra.core.base.errors import ExportError
from bicentra.core.base.numbers import known
from bicentra.core.base.records import Record
from bicentra.core.clearance.relief_plan import Relief
from bicentra.core.drawing.model import Drawing, short
from bicentra.core.drawing.sheets.imprint import BLANK, CLEAR, CutMark, Imprint, cut_mark
from bicentra.core.drawing.sheets.plate import CAUTION, PT_PER_MM, paper_labels
from bicentra.core.drawing.sheets.relief import relief_mark, relief_plans, relief_sheet, relief_text, relief_warning
from bicentra.core.drawing.sheets.templates import (
    bushing_chart,
    card_sheet,
    card_text,
    card_title,
    chart_text,
    redrill_sheet,
    redrill_title,
)
from bicentra.core.evaluation.solution import Solution
from bicentra.core.lineup.redrill import WARNING, Redrill, drilling, redrill_text
from bicentra.core.parts.job import Job
from bicentra.formats.pdf_pen import (
    MARGIN,
    SHEETS,
    TEXT_PT,
    draw_labels,
    draw_shape,
    fitted,
    new_canvas,
    proof_bar,
    sheet_for,
    stamp,
)
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


def card_pdf(solution: Solution, paper: str | None = None, imprint: Imprint = BLANK) -> bytes:
    """Return the card as PDF (A4 or Letter; by the job's units when not named). Raises ``ExportError`` when there is none."""
    sheet = sheet_for(solution.job.lengths.units, imprint, paper)
    drawing = card_sheet(solution, room_on(sheet)[1] - 12.0)
    return one_sheet(drawing, card_title(solution), card_text(solution), CAUTION, sheet, cut_mark(solution), imprint)


def chart_pdf(solution: Solution, imprint: Imprint = BLANK) -> bytes:
    """Return the chart as PDF. Raises ``ExportError`` where there are no bushings."""
    job = solution.job
    sheet = sheet_for(job.lengths.units, imprint)
    title = "Marking chart of the eccentric bushings"
    return one_sheet(bushing_chart(job), title, chart_text(job), CAUTION, sheet, cut_mark(solution), imprint)


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

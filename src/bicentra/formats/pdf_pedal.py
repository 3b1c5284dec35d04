"""The pedal and the heat of a vehicle on paper, one page each: the drawing as on screen, the figures, what is asked."""

from itertools import zip_longest
from typing import Any

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.wording import LengthFormat, printable
from bicentra.core.drawing.balance_view import balance_view
from bicentra.core.drawing.chain_view import chain_view
from bicentra.core.drawing.heat_view import heat_view
from bicentra.core.drawing.imprint import BLANK, Imprint
from bicentra.core.drawing.plate_sheet import CAUTION
from bicentra.core.heat.train import Hot
from bicentra.core.hydraulics.before import before_of, chains
from bicentra.core.hydraulics.pedal import PedalWork
from bicentra.core.parts.vehicle import Vehicle
from bicentra.formats.heat_report import heat_text
from bicentra.formats.pdf_canvas import new_canvas
from bicentra.formats.pdf_column import Column
from bicentra.formats.pdf_pen import SHEETS, sheet_for
from bicentra.formats.pdf_picture import picture
from bicentra.formats.pdf_trial import PRACTICE
from bicentra.formats.pedal_report import pedal_lines

MACHINE_MM, BALANCE_MM, HEAT_MM = 84.0, 66.0, 104.0
"""How high the pictures are on the page [mm]."""


def pedal_pdf(vehicle: Vehicle, work: PedalWork, lengths: LengthFormat, imprint: Imprint = BLANK) -> bytes:
    """Return the pedal sheet as PDF: machine, balance, figures at the foot force of ``work``, findings."""
    paper = sheet_for(lengths.units, imprint)
    with new_canvas(SHEETS[paper], "Pedal sheet") as canvas:
        column = _begun(canvas, SHEETS[paper], "Pedal sheet", vehicle, imprint)
        picture(
            canvas,
            column,
            chain_view(vehicle, work.chain, work.now, work.travel, lengths, before_of(vehicle)),
            MACHINE_MM,
        )
        picture(canvas, column, balance_view(work.chain, work.now, chains(vehicle)[1]), BALANCE_MM)
        lines = [line.strip() for line in pedal_lines(work) if line.strip()]
        half = (len(lines) + 1) // 2
        for left, right in zip_longest(lines[:half], lines[half:], fillvalue=""):
            column.row((" ".join(left.split()), " ".join(right.split())), (0.0, 0.52))
        _findings_table(column, work.findings)
        column.text(CAUTION, size=8)
        canvas.showPage()
        return bytes(canvas.getpdfdata())


def heat_pdf(vehicle: Vehicle, hot: Hot, lengths: LengthFormat, imprint: Imprint = BLANK) -> bytes:
    """Return the heat sheet as PDF: temperature over the train of stops with the limits of pads and fluid, figures, findings."""
    paper = sheet_for(lengths.units, imprint)
    with new_canvas(SHEETS[paper], "Heat sheet") as canvas:
        column = _begun(canvas, SHEETS[paper], "Heat sheet", vehicle, imprint)
        picture(canvas, column, heat_view(vehicle, hot), HEAT_MM)
        for line in heat_text(hot).split("\n\n")[0].splitlines():
            column.text(printable(line))
        _findings_table(column, hot.findings)
        column.text(CAUTION, size=8)
        canvas.showPage()
        return bytes(canvas.getpdfdata())


def _begun(canvas: Any, sheet: tuple[float, float], title: str, vehicle: Vehicle, imprint: Imprint) -> Column:
    column = Column(canvas, sheet, f"{title} · {printable(vehicle.title)[:100] or 'Untitled job'}")
    if imprint.line:
        column.text(imprint.line)
    if vehicle.practice:
        column.text(PRACTICE, bold=True)
    return column


def _findings_table(column: Column, findings: tuple[Finding, ...]) -> None:
    """Write every finding that is not met in full, and name the others on one line: the sheet stays one page."""
    column.y -= 4
    met = ", ".join(finding.title for finding in findings if finding.verdict is Verdict.OK)
    for finding in (f for f in findings if f.verdict is not Verdict.OK):
        column.text(
            f"{finding.verdict.word.upper()}  {finding.title}: {finding.why}", size=8, bold=finding.verdict.rank == 0
        )
    if met:
        column.text(f"{Verdict.OK.word.upper()}  {met}", size=8)
    column.y -= 4

"""The paper template at exactly 1:1, tiled when the plate is larger than a sheet, with the check list behind it."""

import math
from collections.abc import Callable
from typing import Any

from bicentra.core.base.errors import ExportError
from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.quantities import Units
from bicentra.core.base.records import Record
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import printable, shown_value
from bicentra.core.drawing.boxes import Box
from bicentra.core.drawing.model import Drawing
from bicentra.core.drawing.places import Placed
from bicentra.core.drawing.sheets.imprint import BLANK, Imprint, cut_mark
from bicentra.core.drawing.sheets.plate import (
    CAUTION,
    PT_PER_MM,
    ROOM_MM,
    content_box,
    headline,
    hole_table,
    paper_labels,
    plate_sheet,
)
from bicentra.core.evaluation.solution import Solution
from bicentra.formats.corner_report import figures
from bicentra.formats.pdf_pen import (
    MARGIN,
    SHEETS,
    TEXT_PT,
    Column,
    draw_labels,
    draw_shape,
    fitted,
    new_canvas,
    proof_bar,
    sheet_for,
    stamp,
)
from bicentra.formats.typeface import text_width


def check_title(solution: Solution) -> str:
    """Return the line at its head: job, part or kind of bracket, corner."""
    if solution.part is not None:
        return headline(solution)[0]
    job = solution.job
    title = printable(job.title)[:120] or "Untitled job"
    return f"{title} · {solution.bracket.title.lower()} · {job.corner.replace('-', ' ')}"


def add_check_list(canvas: Any, solution: Solution, sheet: tuple[float, float], imprint: Imprint) -> None:
    """Add the check list's pages to ``canvas``."""
    column = Column(canvas, sheet, f"Check list · {check_title(solution)}")
    if imprint.line:
        column.text(imprint.line)
    mark = cut_mark(solution)
    if mark.line:
        column.text(mark.text(len(mark.reasons) + len(mark.limits)), bold=True)
    column.text(CAUTION, size=8)
    if solution.part is not None:
        _holes(column, solution)
    _bolts(column, solution)
    column.y -= 6
    column.text("Line-up", bold=True)
    pairs = figures(solution)
    for left, right in zip(pairs[::2], (*pairs[1::2], ("", ""))):
        column.row((*left, *right), (0.0, 0.27, 0.52, 0.79))
    _findings(column, solution)
    _trial(column)
    canvas.showPage()


def _holes(column: Column, solution: Solution) -> None:
    column.y -= 6
    column.text("Holes, from the wheel axis: forward, up", bold=True)
    places = (0.0, 0.06, 0.3, 0.46, 0.62)
    column.row(("no.", "name", "forward", "up", "work"), places, bold=True)
    lengths = solution.job.lengths
    for row in hole_table(solution):
        column.row((str(row.number), row.name, lengths.size(row.x), lengths.size(row.y), row.note), places)


def _bolts(column: Column, solution: Solution) -> None:
    lengths = solution.job.lengths
    column.y -= 6
    column.text("Bolts", bold=True)
    places = (0.0, 0.26, 0.5, 0.68, 0.84)
    column.row(("where", "bolt", "grip", "engaged", "sticks out"), places, bold=True)
    for placed in solution.assembly.joints:
        joint = placed.joint
        washers = (
            f" + {joint.stack.washers} washer{'s' if joint.stack.washers != 1 else ''}" if joint.stack.washers else ""
        )
        name = f"{lengths.bolt(joint.thread.name, joint.length)}{washers}"
        column.row(
            (
                placed.name,
                name,
                lengths.size(joint.grip),
                lengths.size(joint.engagement),
                lengths.size(joint.protrusion),
            ),
            places,
        )


TRIAL = (
    "Car on stands, never on a jack alone. Old drum dust may hold asbestos: do not blow it about.",
    "Card or printed plate first; then dry, one corner, no threadlocker, hydraulics still closed.",
    "Bolts fully tightened, wheel turned slowly by hand: tip gap, both rotor faces, bolt tips, knuckle, wheel weights.",
    "Compressed air throws pistons out of a caliper: keep hands out.",
    "Final assembly: one bolt at a time, cleaned, locked, torqued, marked.",
    "Pump the pedal before moving. First test in an empty place. Bed the pads, then check every bolt again.",
    "The other side is measured again: damage differs from side to side.",
)
"""The cautions of the trade that belong to a first fit; common practice."""


def _trial(column: Column) -> None:
    column.room(len(TRIAL) + 3)
    column.y -= 6
    column.text("Trial fit and first drive", bold=True)
    for line in TRIAL:
        column.room(2)
        column.box()
        column.text(line, indent=14)


GROUPS = {
    "survey": "Survey", "line-up": "Line-up", "caliper": "Caliper and what it may meet", "wheel": "Wheel", "travel": "Travel",
    "joint": "Bolts", "metal": "Metal of the bracket", "clearance": "Room round the bracket", "bracket": "Kind of bracket",
    "parking": "Parking brake", "job": "Job",
}  # fmt: skip
"""What the rooms of findings are called as groups of the list, in its order."""
PLACES = (0.03, 0.40, 0.56, 0.72, 0.84)
"""Where the columns of a finding stand: title, value, limit, measured, up to which the line to write on runs."""


def _findings(column: Column, solution: Solution) -> None:
    """Every finding in its group with a line to write the measured value on; what is OK takes one line."""
    column.y -= 6
    column.text("Findings: measure each one on the car, write it down, tick it", bold=True)
    column.row(("", "found on paper", "limit", "measured"), PLACES[:4], bold=True)
    for room, title in GROUPS.items():
        found = [finding for finding in solution.findings if kind_of(finding.id).group == room]
        if found:
            column.room(3)
            column.y -= 3
            column.text(title, bold=True, size=8)
        for finding in found:
            _finding(column, finding, solution.job.lengths.units)


def _finding(column: Column, finding: Finding, units: Units) -> None:
    value, limit = shown_value(finding, units)
    met = finding.verdict is Verdict.OK
    column.room(1 if met else 3)
    column.box()
    word = "" if met else f"{finding.verdict.word.upper()}  "
    column.row((f"{word}{finding.title}", value, limit, ""), PLACES[:4], bold=not met)
    column.rule(PLACES[3], PLACES[4])
    if met:
        return
    column.text(finding.why, size=8, indent=14)
    if finding.statement:
        column.text(finding.statement, size=8, indent=14)


HEAD, FOOT, OVERLAP = 8.0, 40.0, 12.0
"""Strips for a warning above and for proof bars and texts below, and how far neighbouring sheets
show the same [mm]."""
MOST_SHEETS = 60
CLOSE_MM = 14.0
"""How far from the plate a label may stand when the plate needs several sheets anyway."""
Report = Callable[[float, str], bool]


class Tiling(Record, frozen=True):
    """How a drawing is laid over sheets: the sheet's size, how many, and the size of one window on it [mm]."""

    sheet: tuple[float, float]
    columns: int
    rows: int
    window: tuple[float, float]

    @property
    def count(self) -> int:
        """Number of sheets."""
        return self.columns * self.rows


def tile(width: float, height: float, paper: str) -> Tiling:
    """Return the upright or lying sheet that needs the fewest pieces for ``width`` by ``height`` [mm]."""
    choices = []
    for wide, high in _ways(paper):
        window = _window((wide, high))
        columns, rows = _pieces(width, window[0]), _pieces(height, window[1])
        choices.append(Tiling((wide, high), columns, rows, window))
    return min(choices, key=lambda choice: choice.count)


def _ways(paper: str) -> tuple[tuple[float, float], tuple[float, float]]:
    """Return the sheet upright and lying [mm]."""
    wide, high = SHEETS[paper]
    return (wide, high), (high, wide)


def _window(sheet: tuple[float, float]) -> tuple[float, float]:
    return sheet[0] - 2 * MARGIN, sheet[1] - 2 * MARGIN - HEAD - FOOT


def _pieces(length: float, window: float) -> int:
    return 1 if length <= window else math.ceil((length - OVERLAP) / (window - OVERLAP) - 1e-9)


def plate_pdf(
    solution: Solution, paper: str | None = None, report: Report | None = None, imprint: Imprint = BLANK
) -> bytes:
    """Return the template and check list as PDF on ``paper`` (A4 or Letter; by the job's units when not named).

    Raises ``ExportError`` when there is no plate, or when it would need more than 60 sheets.
    """
    drawing = plate_sheet(solution)
    sheet = sheet_for(solution.job.lengths.units, imprint, paper)
    labels, box, tiling = _laid_out(drawing, sheet)
    if tiling.count > MOST_SHEETS:
        raise ExportError(f"the plate would need {tiling.count} sheets, more than {MOST_SHEETS}: check its sizes")
    with new_canvas(tiling.sheet, headline(solution)[0]) as canvas:
        for place in range(tiling.count):
            if report is not None and not report(place / (tiling.count + 1), f"Sheet {place + 1} of {tiling.count}"):
                return b""
            _template_page(canvas, solution, drawing, labels, box, tiling, place, imprint)
            canvas.showPage()
        add_check_list(canvas, solution, SHEETS[sheet], imprint)
        return bytes(canvas.getpdfdata())


def check_list_pdf(solution: Solution, paper: str | None = None, imprint: Imprint = BLANK) -> bytes:
    """Return the check list alone as PDF on ``paper``: of a kind of bracket without a plate, or for a second fit.

    Raises ``ExportError`` while the bracket is unknown, or cannot be made.
    """
    if solution.bracket.unmade:
        raise ExportError(f"there is nothing to check yet: {solution.bracket.fault}")
    sheet = sheet_for(solution.job.lengths.units, imprint, paper)
    with new_canvas(SHEETS[sheet], check_title(solution)) as canvas:
        add_check_list(canvas, solution, SHEETS[sheet], imprint)
        return bytes(canvas.getpdfdata())


def _laid_out(drawing: Drawing, sheet: str) -> tuple[tuple[Placed, ...], Box, Tiling]:
    """Return labels, the box they fill with the plate, and the sheets.

    A plate that goes on one sheet has its labels in what room that leaves; on several sheets labels keep to the plate.
    """

    def measure(text: str) -> tuple[float, float]:
        return text_width(text, TEXT_PT) + 4.0, TEXT_PT + 3.0

    x0, y0, x1, y1 = drawing.bounds
    spare = [(window[0] - (x1 - x0), window[1] - (y1 - y0)) for window in map(_window, _ways(sheet))]
    rooms = [
        (3 * ROOM_MM, 3 * ROOM_MM),
        *((w / 2 - 2.0, h / 2 - 2.0) for w, h in spare if min(w, h) > 4.0),
        (CLOSE_MM, CLOSE_MM),
    ]
    for beside, above in rooms:
        labels = paper_labels(drawing, measure, beside, above)
        box = content_box(drawing, labels)
        tiling = tile(box.x1 - box.x0, box.y1 - box.y0, sheet)
        if tiling.count == 1:
            break
    return labels, box, tiling


def _template_page(
    canvas: Any,
    solution: Solution,
    drawing: Drawing,
    labels: tuple[Placed, ...],
    box: Box,
    tiling: Tiling,
    place: int,
    imprint: Imprint,
) -> None:
    """One sheet: its part of the drawing in a window, register marks, then the foot."""
    column, row = place % tiling.columns, place // tiling.columns
    wide, high = tiling.window
    slack_x = max(wide - (box.x1 - box.x0), 0.0) / 2 if tiling.columns == 1 else 0.0
    slack_y = max(high - (box.y1 - box.y0), 0.0) / 2 if tiling.rows == 1 else 0.0
    left = box.x0 + column * (wide - OVERLAP) - slack_x
    top = box.y1 - row * (high - OVERLAP) + slack_y
    canvas.saveState()
    window = canvas.beginPath()
    window.rect(MARGIN * PT_PER_MM, (MARGIN + FOOT) * PT_PER_MM, wide * PT_PER_MM, high * PT_PER_MM)
    canvas.clipPath(window, stroke=0, fill=0)
    canvas.translate((MARGIN - left) * PT_PER_MM, (MARGIN + FOOT - (top - high)) * PT_PER_MM)
    for shape in drawing.shapes:
        draw_shape(canvas, shape)
    draw_labels(canvas, labels)
    canvas.restoreState()
    if tiling.count > 1:
        _register_marks(canvas, tiling, column, row)
    _foot(canvas, solution, tiling, place, imprint)


def _register_marks(canvas: Any, tiling: Tiling, column: int, row: int) -> None:
    """Crosses in the middle of every overlap: they lie on each other when neighbouring sheets are laid right."""
    wide, high = tiling.window
    xs = [OVERLAP / 2] * (column > 0) + [wide - OVERLAP / 2] * (column < tiling.columns - 1) or [wide / 2]
    ys = [OVERLAP / 2] * (row < tiling.rows - 1) + [high - OVERLAP / 2] * (row > 0) or [high / 2]
    spots = [(x, y) for x in xs for y in (*ys, high / 4, 3 * high / 4) if tiling.columns > 1]
    spots += [(x, y) for y in ys for x in (*xs, wide / 4, 3 * wide / 4) if tiling.rows > 1]
    canvas.setDash([])
    canvas.setLineWidth(0.5)
    canvas.setStrokeColorRGB(0, 0, 0)
    for x, y in dict.fromkeys(spots):
        px, py, arm = (MARGIN + x) * PT_PER_MM, (MARGIN + FOOT + y) * PT_PER_MM, 4.0 * PT_PER_MM
        canvas.line(px - arm, py, px + arm, py)
        canvas.line(px, py - arm, px, py + arm)
        canvas.circle(px, py, 2.0 * PT_PER_MM, stroke=1, fill=0)


def _foot(canvas: Any, solution: Solution, tiling: Tiling, place: int, imprint: Imprint) -> None:
    """Proof bars, what plate this is, how to lay the sheets, the caution."""
    title, seen = headline(solution)
    x, y = MARGIN * PT_PER_MM, MARGIN * PT_PER_MM
    room = (tiling.sheet[0] - 2 * MARGIN) * PT_PER_MM
    canvas.setDash([])
    proof_bar(canvas, 100.0, "100 mm", 40.0)
    proof_bar(canvas, 101.6, "4 in", 32.5)
    canvas.setFillColorRGB(0, 0, 0)
    fitted(canvas, "PaperBold", 10, x, y + 19.5 * PT_PER_MM, title, room)
    fitted(
        canvas, "Paper", 9, x, y + 14.8 * PT_PER_MM, f"{seen} · print at 100 %, then measure both bars before use", room
    )
    stamp(canvas, cut_mark(solution).line, (MARGIN, tiling.sheet[1] - MARGIN - 4.5), tiling.sheet[0] - 2 * MARGIN)
    where = f"Sheet {place + 1} of {tiling.count}"
    if tiling.count > 1:
        column, row = place % tiling.columns + 1, place // tiling.columns + 1
        where += f": row {row}, column {column}. Lay the ringed crosses on each other."
    text = " · ".join(line for line in (where, imprint.line) if line)
    fitted(canvas, "PaperBold", 9, x, y + 10.2 * PT_PER_MM, text, room)
    half = len(CAUTION[: len(CAUTION) // 2].rsplit(" ", 1)[0])
    fitted(canvas, "Paper", 8, x, y + 4.6 * PT_PER_MM, CAUTION[:half], room)
    fitted(canvas, "Paper", 8, x, y + 1.0 * PT_PER_MM, CAUTION[half:].strip(), room)

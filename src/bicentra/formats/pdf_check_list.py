"""The check list behind the template: hole table, bolts, figures and every finding with a box to tick."""

from typing import Any

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.finding_text import shown_value
from bicentra.core.base.quantities import Units
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import printable
from bicentra.core.drawing.imprint import Imprint, cut_mark
from bicentra.core.drawing.plate_sheet import CAUTION, headline, hole_table
from bicentra.core.solution import Solution
from bicentra.formats.check_report import figures
from bicentra.formats.pdf_column import Column


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
    """Every finding in its group with a line to write the measured value on; what is met takes one line."""
    column.y -= 6
    column.text("Findings: measure each one on the car, write it down, tick it", bold=True)
    column.row(("", "found on paper", "limit", "measured"), PLACES[:4], bold=True)
    for room, title in GROUPS.items():
        found = [finding for finding in solution.findings if kind_of(finding.id).room == room]
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

"""Papers to keep: the pedal and the heat of a vehicle, the trial fit's sheet and its log."""

from itertools import zip_longest
from typing import Any

from bicentra.core.base.errors import ExportError
from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import is_known
from bicentra.core.base.wording import LengthFormat, printable
from bicentra.core.drawing.sheets.imprint import BLANK, Imprint
from bicentra.core.drawing.sheets.plate import CAUTION, PT_PER_MM, paper_labels
from bicentra.core.drawing.views.balance import balance_view
from bicentra.core.drawing.views.chain import chain_view
from bicentra.core.drawing.views.heat import heat_view
from bicentra.core.drawing.views.slot import LARGER, shims_text, slot_sheet
from bicentra.core.evaluation.solution import Solution
from bicentra.core.heat.train import Hot
from bicentra.core.hydraulics.before import before_of, chains
from bicentra.core.hydraulics.pedal import PedalWork
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import GAP_NAMES, GAPS, PRACTISED, Trial
from bicentra.core.parts.vehicle import Vehicle
from bicentra.core.trialfit.fit import TrialFit, trial_fit
from bicentra.core.trialfit.set_up import INSPECTIONS, before_text
from bicentra.core.trialfit.shim_station import PLACE_WORDS, PLACES, stacks_at
from bicentra.formats.measuring_report import move_text, where_text
from bicentra.formats.pdf_pen import SHEETS, TEXT_PT, Column, draw_labels, draw_shape, new_canvas, picture, sheet_for
from bicentra.formats.typeface import REGULAR, text_width
from bicentra.formats.vehicle_report import heat_text, pedal_lines

PICTURE_MM = 124.0
"""How high the slot is on the sheet [mm]."""
PRACTICE = "PRACTICE: nothing of this was measured on a car"
READ = (*(f"Gap, {GAP_NAMES[name]}" for name in GAPS), "Tip gap by feeler", "Pad top inside the rotor's edge", "Runout on the car",
        "Between the two ends")  # fmt: skip
HELD = (
    "Rotor held by ____ nuts", "Bolts tight, as they will stay", "Final washers in",
    "Pads in  /  out", "Bare body  /  with pistons",
    "A slow full turn by hand: free  /  touches __________", "Slides by hand, new pads: in ______ out ______",
    "Slides by hand, worn pads: in ______ out ______", "Tightened to ______ N·m, thread dry  /  oiled  /  threadlocker",
)  # fmt: skip


def fit_sheet_pdf(solution: Solution, imprint: Imprint = BLANK) -> bytes:
    """Return the sheet to take to the car as PDF: the slot with blanks, what lies where now, the next move, boxes to tick.

    Raises ``ExportError`` while neither the slot nor the rotor in it is known.
    """
    if solution.job.caliper.slot_width_mm is None and solution.job.rotor.thickness_mm is None:
        raise ExportError("neither the caliper's slot nor the rotor in it is known yet")
    job, fit = solution.job, trial_fit(solution)
    trial = fit.trial if fit is not None else Trial()
    paper = sheet_for(job.lengths.units, imprint)
    with new_canvas(SHEETS[paper], "Trial fit sheet") as canvas:
        column = Column(canvas, SHEETS[paper], f"Trial fit sheet · {_headline(solution)}")
        _head(column, solution, imprint, trial)
        if fit is not None:
            column.text(where_text(fit, job.lengths) if is_known(fit.pose.offset.value) else "No valid reading yet.")
            _stack_lines(column, trial, job.lengths)
            if fit.moves and not fit.moves[0].stays:
                column.text(f"Next shims: {move_text(fit.moves[0], job.lengths)}", bold=True)
        _picture(canvas, column, solution, trial, fit)
        _required(column)
        column.text(CAUTION, size=8)
        canvas.showPage()
        return bytes(canvas.getpdfdata())


def _headline(solution: Solution) -> str:
    title = printable(solution.job.title)[:100] or "Untitled job"
    return f"{title} · {solution.job.corner.replace('-', ' ')}"


def _head(column: Column, solution: Solution, imprint: Imprint, trial: Trial) -> None:
    if imprint.line:
        column.text(imprint.line)
    if solution.job.practice or trial.by == PRACTISED:
        column.text(PRACTICE, bold=True)


def _stack_lines(column: Column, trial: Trial, lengths: LengthFormat) -> None:
    for place in PLACES:
        first, second = (shims_text(side, lengths) for side in stacks_at(trial, place).sides)
        column.text(f"Now {PLACE_WORDS[place]}: leading {first}, trailing {second}")


def _picture(canvas: Any, column: Column, solution: Solution, trial: Trial, fit: TrialFit | None) -> None:
    """Draw the slot below what has been written, its blanks where the gaps are read."""
    room = column.width / PT_PER_MM
    drawing = slot_sheet(solution.job, trial, fit, room - 40.0)
    x0, y0, x1, y1 = drawing.bounds
    column.y -= 8
    canvas.saveState()
    middle = column.left + column.width / 2 - (x0 + x1) / 2 * PT_PER_MM
    canvas.translate(middle, column.y - (PICTURE_MM / 2 + (y0 + y1) / 2) * PT_PER_MM)
    for shape in drawing.shapes:
        draw_shape(canvas, shape)
    draw_labels(
        canvas, paper_labels(drawing, lambda text: (text_width(text, TEXT_PT, REGULAR) + 4.0, TEXT_PT + 3.0), 18.0)
    )
    canvas.setFont("PaperBold", 9)
    for text in drawing.texts:
        canvas.drawCentredString(text.at[0] * PT_PER_MM, text.at[1] * PT_PER_MM, text.text)
    canvas.restoreState()
    column.y -= PICTURE_MM * PT_PER_MM
    column.text(f"Seen from the slot's opening; gaps and shims drawn {LARGER:g} times as large.", size=8)


def _required(column: Column) -> None:
    column.y -= 4
    for left, right in zip(READ[::2], READ[1::2]):
        column.y -= 3
        column.row((left, "", right, ""), (0.0, 0.3, 0.52, 0.82))
        column.rule(0.3, 0.48)
        column.rule(0.82, 1.0)
    column.y -= 4
    for line in HELD:
        column.box()
        column.text(line, indent=14)
    column.y -= 3
    column.row(("Date", "", "By", ""), (0.0, 0.1, 0.4, 0.46))
    column.rule(0.1, 0.36)
    column.rule(0.46, 0.9)


def fit_log_pdf(solution: Solution, imprint: Imprint = BLANK) -> bytes:
    """Return the log of all trials as PDF. Raises ``ExportError`` where there is none."""
    job = solution.job
    if not job.trials:
        raise ExportError("no trial is noted at this corner")
    paper = sheet_for(job.lengths.units, imprint)
    with new_canvas(SHEETS[paper], "Trial fit log") as canvas:
        column = Column(canvas, SHEETS[paper], f"Trial fit log · {_headline(solution)}")
        _head(column, solution, imprint, job.trials[-1])
        for number in range(len(job.trials)):
            fit = trial_fit(solution, number, planned=False)
            if fit is not None:
                _one_trial(column, fit, number, job, last=number == len(job.trials) - 1)
        column.y -= 6
        column.text(CAUTION, size=8)
        canvas.showPage()
        return bytes(canvas.getpdfdata())


READ_NAMES = {"tip_gap_mm": "tip gap", "runout_mm": "runout", "turned": "turn by hand", "pad_top_mm": "pad top",
              "parting_line_mm": "parting line", "deep_gaps_mm": "gaps further in"}  # fmt: skip


def _one_trial(column: Column, fit: TrialFit, number: int, job: Job, last: bool) -> None:
    """Write one trial: when and by whom, gaps, where it sat, what lay where, how it was held; of the last its state."""
    trial, lengths = fit.trial, job.lengths
    column.room(8)
    column.y -= 6
    words = " · ".join(text for text in (f"Trial {number + 1}", trial.taken, trial.by, trial.hub) if text)
    column.text(words, bold=True)
    places = (0.0, 0.34, 0.5, 0.84)
    for left, right in ((GAPS[0], GAPS[1]), (GAPS[2], GAPS[3])):
        column.row((GAP_NAMES[left], _gap(trial, left, lengths), GAP_NAMES[right], _gap(trial, right, lengths)), places)
    column.text(where_text(fit, lengths))
    for before in dict.fromkeys(before_text(job, trial, name) for name in trial.read_before):
        names = [name for name in trial.read_before if before_text(job, trial, name) == before]
        words = ", ".join(GAP_NAMES.get(name, READ_NAMES.get(name, name)) for name in names)
        column.text(f"Read before that, and not counted: {words} ({before})")
    _stack_lines(column, trial, lengths)
    held = [
        f"rotor on {trial.rotor_nuts} nuts" if trial.rotor_nuts is not None else "",
        f"bolts {trial.bolts}" if trial.bolts else "",
    ]
    held += ["final washers in" if trial.washers_final else "", f"pads {trial.pads}" if trial.pads else "", trial.body]
    held += [
        f"turned by hand: {trial.turned} {trial.touches}".rstrip() if trial.turned else "",
        trial.tightened,
        trial.locker,
    ]
    column.text("Held: " + (", ".join(text for text in held if text) or "not written down"))
    if trial.checked:
        looks = ", ".join(
            INSPECTIONS[name][0].lower() + INSPECTIONS[name][1:] for name in trial.checked if name in INSPECTIONS
        )
        column.text(f"Looked at: {looks}")
    for text in (trial.parts, trial.notes):
        if text.strip():
            column.text(printable(text))
    for finding in fit.findings:
        if finding.id.endswith("follow") and finding.why:
            column.text(finding.why, size=8)
    if last:
        state = fit.standing.state.value
        column.text(f"State of the corner: {state}{', the final stack as above' if trial.locked else ''}", bold=True)
        for missing in fit.standing.missing:
            column.text(f"Missing for the lock: {missing}", size=8)
        for broken in fit.standing.broken:
            column.text(f"The lock is broken: {broken} changed", bold=True, size=8)


def _gap(trial: Trial, name: str, lengths: LengthFormat) -> str:
    value, band = getattr(trial.gaps_mm, name), trial.bands_mm.get(name)
    if value is not None:
        return lengths.gap(value)
    if band is None:
        return "–"
    return " to ".join("?" if end is None else lengths.gap(end) for end in (band.least, band.most))


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

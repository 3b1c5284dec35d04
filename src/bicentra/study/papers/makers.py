"""What makes each paper, and what tells at once that one does not apply; heavy libraries load when they are called."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import Record
from bicentra.core.drawing.sheets.imprint import CutMark, Imprint, cut_mark
from bicentra.core.evaluation.solution import Solution
from bicentra.core.parts.job import Job

if TYPE_CHECKING:
    from bicentra.formats.dxf import SheetNames


def fit_sheet(solution: Solution, report: "Report", imprint: Imprint) -> bytes:
    """Return the sheet to take to the car as PDF."""
    from bicentra.formats.pdf_records import fit_sheet_pdf

    del report
    return fit_sheet_pdf(solution, imprint)


def fit_log(solution: Solution, report: "Report", imprint: Imprint) -> bytes:
    """Return the log of all trials as PDF."""
    from bicentra.formats.pdf_records import fit_log_pdf

    del report
    return fit_log_pdf(solution, imprint)


def fit_csv(solution: Solution, report: "Report", imprint: Imprint) -> bytes:
    """Return the log of all trials as CSV."""
    from bicentra.formats.csv_out import trial_csv

    del report, imprint
    return trial_csv(solution)


def tried(solution: Solution) -> object:
    """Raise ``ExportError`` while no trial has been written down."""
    if not solution.job.trials:
        raise ExportError("no trial is noted at this corner")
    return None


THIN = 1 / 3
"""How thick a quick trial piece is, as a share of the part: for outline and holes, not for the stack."""
Report = Callable[[float, str], bool]


def pdf(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return template and check list as PDF."""
    from bicentra.formats.pdf_template import plate_pdf

    return plate_pdf(solution, report=report, imprint=imprint)


def dxf(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the cutting file of the plate."""
    from bicentra.formats.dxf import plate_dxf

    del report
    return plate_dxf(solution, imprint)


def svg(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the plate as a drawing."""
    from bicentra.formats.svg import plate_svg

    del report
    return plate_svg(solution, imprint)


def csv(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the hole table."""
    from bicentra.formats.csv_out import plate_csv

    del report, imprint
    return plate_csv(solution)


def card(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the caliper's card as PDF."""
    from bicentra.formats.pdf_sheets import card_pdf

    del report
    return card_pdf(solution, imprint=imprint)


def drilling(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the rotor's drilling template as PDF."""
    from bicentra.formats.pdf_sheets import rotor_drilling_pdf

    del report
    return rotor_drilling_pdf(solution.job, imprint=imprint)


def step(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the solids as STEP."""
    from bicentra.study.papers.solids import solid_file

    del imprint
    return solid_file(solution.job, "step", report, cut_mark(solution))


def stl(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the trial piece as STL."""
    from bicentra.study.papers.solids import solid_file

    del imprint
    return solid_file(solution.job, "stl", report, cut_mark(solution))


def threemf(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the trial piece as 3MF."""
    from bicentra.study.papers.solids import solid_file

    del imprint
    return solid_file(solution.job, "3mf", report, cut_mark(solution))


def workshop(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the workshop drawings as PDF."""
    from bicentra.study.papers.solids import workshop_file

    return workshop_file(solution.job, report, mark=cut_mark(solution), imprint=imprint)


def cut(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the cutting file, a layer an operation."""
    from bicentra.formats.dxf import cutting_dxf
    from bicentra.study.papers.solids import parts_to_make

    del report
    words = _text(solution.job, cut_mark(solution), imprint)
    return cutting_dxf(parts_to_make(solution.job), solution.job.is_left, words)


def _text(job: Job, mark: CutMark, imprint: Imprint) -> "SheetNames":
    """Return what stands on a cutting file."""
    from bicentra.formats.dxf import SheetNames

    return SheetNames(job.title or "Untitled job", job.lengths, mark, imprint, job.bracket.datum)


def trial(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the trial piece with its words on it."""
    from bicentra.study.papers.solids import trial_file

    del imprint
    return trial_file(solution.job, report, mark=cut_mark(solution))


def trial_thin(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the same a third as thick."""
    from bicentra.study.papers.solids import trial_file

    del imprint
    return trial_file(solution.job, report, THIN, cut_mark(solution))


def step_both(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the solids of both corners."""
    from bicentra.study.papers.solids import both_mark, step_of_both

    del imprint
    return step_of_both(solution.job, report, both_mark(solution))


def workshop_both(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the workshop drawings of both corners."""
    from bicentra.study.papers.solids import both_mark, workshop_file

    return workshop_file(solution.job, report, True, both_mark(solution), imprint)


def cut_both(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the cutting file of both corners."""
    from bicentra.formats.dxf import cutting_dxf
    from bicentra.study.papers.solids import both_mark, both_parts

    del report
    return cutting_dxf(both_parts(solution.job), text=_text(solution.job, both_mark(solution), imprint))


def check_list(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the check list alone as PDF."""
    from bicentra.formats.pdf_template import check_list_pdf

    del report
    return check_list_pdf(solution, imprint=imprint)


def parts(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the parts list as CSV. Raises ``ExportError`` where nothing is to be listed."""
    from bicentra.formats.csv_out import parts_list_csv

    del report, imprint
    listed(solution)
    return parts_list_csv(solution)


def assembly(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the corner pulled apart as PDF. Raises ``ExportError`` where nothing is to be listed."""
    from bicentra.core.drawing.sheets.parts_list import parts_list
    from bicentra.core.drawing.views.solid_scene import solid_scene
    from bicentra.formats.pdf_assembly import assembly_pdf

    del report
    listed(solution)
    items = parts_list(solution)
    job = solution.job
    title = f"{job.title or 'Untitled job'}, {job.corner.replace('-', ' ')}"
    return assembly_pdf(solid_scene(solution), items, title, cut_mark(solution), imprint)


def chart(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the bushings' marking chart as PDF."""
    from bicentra.formats.pdf_sheets import chart_pdf

    del report
    return chart_pdf(solution, imprint)


def relief(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the relief template as PDF."""
    from bicentra.formats.pdf_sheets import relief_pdf

    del report
    return relief_pdf(solution, imprint)


def relieved(solution: Solution) -> object:
    """Raise ``ExportError`` where nothing has to be relieved, or nothing can."""
    from bicentra.core.drawing.sheets.relief import relief_plans

    return relief_plans(solution)


def whole(solution: Solution) -> object:
    """Raise ``ExportError`` where no part is to be made."""
    from bicentra.study.papers.solids import parts_to_make

    return parts_to_make(solution.job)


def listed(solution: Solution) -> object:
    """Tell whether there is something to list: what is made, or a caliper that stands with nothing made."""
    bracket = solution.bracket
    return None if bracket.shown and not bracket.parts else whole(solution)


def stands(solution: Solution) -> object:
    """Raise ``ExportError`` where there is nothing to check yet."""
    if solution.bracket.unmade:
        raise ExportError(f"there is nothing to check yet: {solution.bracket.fault}")
    return None


def charted(solution: Solution) -> object:
    """Raise ``ExportError`` where there are no bushings to mark."""
    from bicentra.core.drawing.sheets.templates import bushing_chart

    return bushing_chart(solution.job)


def drillable(solution: Solution) -> object:
    """Raise ``ExportError`` where nothing is to be drilled."""
    from bicentra.formats.pdf_sheets import drilling_plan

    return drilling_plan(solution.job)


def hub_drawn(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return the drawings of what is made for hub and rotor."""
    from bicentra.study.papers.solids import hub_drawings, hub_mark

    return hub_drawings(solution.job, report, hub_mark(solution), imprint)


def hub_step(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return what is made for hub and rotor as solids."""
    from bicentra.study.papers.solids import hub_file, hub_mark

    del imprint
    return hub_file(solution.job, "step", report, hub_mark(solution))


def hub_printed(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    """Return what is made for hub and rotor for a printer."""
    from bicentra.study.papers.solids import hub_file, hub_mark

    del imprint
    return hub_file(solution.job, "3mf", report, hub_mark(solution))


def hub_needed(solution: Solution) -> object:
    """Raise ``ExportError`` where nothing is made for hub or rotor, or it is still unknown."""
    from bicentra.study.papers.solids import hub_made

    return hub_made(solution.job)


class Maker(Record, frozen=True):
    """What makes a paper. ``ready``: raises ``ExportError`` at once where it does not apply."""

    make: Callable[[Solution, Report, Imprint], bytes]
    ready: Callable[[Solution], object] | None = None


MAKERS: dict[str, Maker] = {
    "pdf": Maker(pdf),
    "checks": Maker(check_list, stands),
    "workshop": Maker(workshop, whole),
    "assembly": Maker(assembly, listed),
    "dxf": Maker(dxf),
    "cut": Maker(cut, whole),
    "svg": Maker(svg),
    "csv": Maker(csv),
    "parts": Maker(parts, listed),
    "card": Maker(card),
    "drilling": Maker(drilling, drillable),
    "chart": Maker(chart, charted),
    "relief": Maker(relief, relieved),
    "hub-parts": Maker(hub_drawn, hub_needed),
    "hub-step": Maker(hub_step, hub_needed),
    "hub-3mf": Maker(hub_printed, hub_needed),
    "fit-sheet": Maker(fit_sheet),
    "fit-log": Maker(fit_log, tried),
    "fit-csv": Maker(fit_csv, tried),
    "step": Maker(step, whole),
    "trial": Maker(trial, whole),
    "trial-thin": Maker(trial_thin, whole),
    "stl": Maker(stl, whole),
    "3mf": Maker(threemf, whole),
    "workshop-both": Maker(workshop_both, whole),
    "cut-both": Maker(cut_both, whole),
    "step-both": Maker(step_both, whole),
}
"""What makes each paper, by its kind in ``papers.PAPERS``."""

"""The papers of a job: what each is called, what makes it, and writing it to disk whole or not at all."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import Record
from bicentra.core.drawing.imprint import BLANK, CutMark, Imprint, cut_mark
from bicentra.core.drawing.plate_sheet import CAUTION
from bicentra.core.parts.job import Job
from bicentra.core.solution import Solution
from bicentra.study.document.store import shown, write_atomic
from bicentra.study.papers.note import write_note

if TYPE_CHECKING:
    from bicentra.formats.dxf_cutting import Told

THIN = 1 / 3
"""How thick a quick trial piece is, as a share of the part: for outline and holes, not for the stack."""
JOB_SUFFIX = ".bicentra.json"
Report = Callable[[float, str], bool]


class Paper(Record, frozen=True):
    """One kind of paper. Its flag, menu entry, action and file name all come from here.

    ``kind``: its flag and the name of its action. ``title``: in the save dialog. ``flag``: what ``export --help`` says. ``menu``:
    its entry, with ``key`` and ``tip``; entries of one ``group`` have a menu of their own. ``of_plate``: it shows the plate.
    ``cuts``: metal is cut by it, so its revision is kept.

    ``both``: parts of both corners are on it. ``ready``: raises ``ExportError`` where it does not apply, at once.
    """

    kind: str
    title: str
    flag: str
    menu: str
    make: Callable[[Solution, Report, Imprint], bytes]
    ending: str
    key: str = ""
    tip: str = ""
    group: str = ""
    of_plate: bool = False
    cuts: bool = False
    both: bool = False
    ready: Callable[[Solution], object] | None = None


def _pdf(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.formats.pdf import plate_pdf

    return plate_pdf(solution, report=report, imprint=imprint)


def _dxf(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.formats.dxf import plate_dxf

    del report
    return plate_dxf(solution, imprint)


def _svg(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.formats.svg import plate_svg

    del report
    return plate_svg(solution, imprint)


def _csv(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.formats.csv_table import plate_csv

    del report, imprint
    return plate_csv(solution)


def _card(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.formats.pdf_card import card_pdf

    del report
    return card_pdf(solution, imprint=imprint)


def _drilling(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.formats.pdf_redrill import rotor_drilling_pdf

    del report
    return rotor_drilling_pdf(solution.job, imprint=imprint)


def _step(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.study.papers.solids import solid_file

    del imprint
    return solid_file(solution.job, "step", report, cut_mark(solution))


def _stl(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.study.papers.solids import solid_file

    del imprint
    return solid_file(solution.job, "stl", report, cut_mark(solution))


def _threemf(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.study.papers.solids import solid_file

    del imprint
    return solid_file(solution.job, "3mf", report, cut_mark(solution))


def _workshop(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.study.papers.solids import workshop_file

    return workshop_file(solution.job, report, mark=cut_mark(solution), imprint=imprint)


def _cut(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.formats.dxf_cutting import cutting_dxf
    from bicentra.study.papers.solids import parts_to_make

    del report
    told = _told(solution.job, cut_mark(solution), imprint)
    return cutting_dxf(parts_to_make(solution.job), solution.job.is_left, told)


def _told(job: Job, mark: CutMark, imprint: Imprint) -> "Told":
    from bicentra.formats.dxf_cutting import Told

    return Told(job.title or "Untitled job", job.lengths, mark, imprint, job.bracket.datum)


def _trial(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.study.papers.solids import trial_file

    del imprint
    return trial_file(solution.job, report, mark=cut_mark(solution))


def _trial_thin(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.study.papers.solids import trial_file

    del imprint
    return trial_file(solution.job, report, THIN, cut_mark(solution))


def _step_both(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.study.papers.solids import both_mark, step_of_both

    del imprint
    return step_of_both(solution.job, report, both_mark(solution))


def _workshop_both(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.study.papers.solids import both_mark, workshop_file

    return workshop_file(solution.job, report, True, both_mark(solution), imprint)


def _cut_both(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.formats.dxf_cutting import cutting_dxf
    from bicentra.study.papers.solids import both_mark, both_parts

    del report
    return cutting_dxf(both_parts(solution.job), told=_told(solution.job, both_mark(solution), imprint))


def _check_list(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.formats.pdf import check_list_pdf

    del report
    return check_list_pdf(solution, imprint=imprint)


def _parts(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.formats.parts_list_csv import parts_list_csv

    del report, imprint
    _listed(solution)
    return parts_list_csv(solution)


def _assembly(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.core.drawing.parts_list import parts_list
    from bicentra.core.drawing.solid_scene import solid_scene
    from bicentra.formats.pdf_assembly import assembly_pdf

    del report
    _listed(solution)
    items = parts_list(solution)
    title = solution.job.title or "Untitled job"
    return assembly_pdf(solid_scene(solution), items, title, cut_mark(solution), imprint)


def _chart(solution: Solution, report: Report, imprint: Imprint) -> bytes:
    from bicentra.formats.pdf_chart import chart_pdf

    del report
    return chart_pdf(solution, imprint)


def _whole(solution: Solution) -> object:
    from bicentra.study.papers.solids import parts_to_make

    return parts_to_make(solution.job)


def _listed(solution: Solution) -> object:
    """Tell whether there is something to list: what is made, or a caliper that stands with nothing made."""
    bracket = solution.bracket
    return None if bracket.shown and not bracket.parts else _whole(solution)


def _stands(solution: Solution) -> object:
    if solution.bracket.unmade:
        raise ExportError(f"there is nothing to check yet: {solution.bracket.fault}")
    return None


def _charted(solution: Solution) -> object:
    from bicentra.core.drawing.bushing_chart import bushing_chart

    return bushing_chart(solution.job)


def _drillable(solution: Solution) -> object:
    from bicentra.formats.pdf_redrill import drilling_plan

    return drilling_plan(solution.job)


TRIAL, BOTH = "Trial piece for a printer", "Both sides of the axle"
PAPERS: dict[str, Paper] = {
    paper.kind: paper
    for paper in (
        Paper(
            "pdf",
            "Paper template and check list",
            "1:1 template and check list",
            "Paper template and check list, 1:1 (PDF)…",
            _pdf,
            "-plate.pdf",
            "",
            "For marking out and trying in card",
            of_plate=True,
            cuts=True,
        ),
        Paper(
            "checks",
            "Check list",
            "the check list alone (PDF)",
            "Check list alone (PDF)…",
            _check_list,
            "-check-list.pdf",
            tip="What is measured at the fit, with lines to write on; for a kind without a plate, or a second fit",
            ready=_stands,
        ),
        Paper(
            "workshop",
            "Workshop drawings",
            "workshop drawings of the made parts (PDF)",
            "Workshop drawings (PDF)…",
            _workshop,
            "-workshop.pdf",
            "Ctrl+Shift+W",
            "Each made part on its sheet",
            cuts=True,
            ready=_whole,
        ),
        Paper(
            "assembly",
            "Assembly, pulled apart, with its parts list",
            "the corner pulled apart, with its parts list (PDF)",
            "Assembly, pulled apart, with its parts list (PDF)…",
            _assembly,
            "-assembly.pdf",
            ready=_listed,
        ),
        Paper(
            "dxf",
            "Cutting file",
            "cutting file",
            "Cutting file (DXF)…",
            _dxf,
            "-plate.dxf",
            "Ctrl+D",
            "For a laser or water-jet shop",
            of_plate=True,
            cuts=True,
        ),
        Paper(
            "cut",
            "Cutting file, one layer an operation",
            "cutting file of the made plates, one layer an operation (DXF)",
            "Cutting file of the bracket, a layer an operation (DXF)…",
            _cut,
            "-cut.dxf",
            cuts=True,
            ready=_whole,
        ),
        Paper("svg", "Drawing", "drawing", "Drawing (SVG)…", _svg, "-plate.svg", of_plate=True, cuts=True),
        Paper("csv", "Hole table", "hole table", "Hole table (CSV)…", _csv, "-plate.csv", of_plate=True),
        Paper(
            "parts",
            "Parts list",
            "parts list (CSV)",
            "Parts list (CSV)…",
            _parts,
            "-parts.csv",
            tip="Made, bought, used again, missing",
            ready=_listed,
        ),
        Paper(
            "card",
            "Caliper card for the wheel",
            "1:1 card of the caliper's section, to hold in a wheel (PDF)",
            "Caliper card to hold in a wheel, 1:1 (PDF)…",
            _card,
            "-caliper-card.pdf",
            tip="Cut from card, turned once round inside the wheel",
        ),
        Paper(
            "drilling",
            "Drilling template for the rotor",
            "1:1 drilling template for a rotor of another pattern (PDF)",
            "Drilling template for the rotor, 1:1 (PDF)…",
            _drilling,
            "-drilling.pdf",
            tip="Where rotor and hub have different patterns",
            ready=_drillable,
        ),
        Paper(
            "chart",
            "Marking chart of the bushings",
            "marking chart of eccentric bushings (PDF)",
            "Marking chart of the bushings, 1:1 (PDF)…",
            _chart,
            "-bushings.pdf",
            tip="Where eccentric bushings are pressed in",
            ready=_charted,
        ),
        Paper(
            "step",
            "Solids (STEP)",
            "solids of the bracket family's parts",
            "Solids of the bracket (STEP)…",
            _step,
            "-bracket.step",
            tip="For a mill or another program",
            cuts=True,
            ready=_whole,
        ),
        Paper(
            "trial",
            "Trial piece with its words on it (3MF)",
            "trial piece with the holes' numbers and what it is raised on it (3MF)",
            "With the holes' numbers on it (3MF)…",
            _trial,
            "-trial.3mf",
            tip="For a printer; says that it is not the part",
            group=TRIAL,
            ready=_whole,
        ),
        Paper(
            "trial-thin",
            "The same, a third as thick (3MF)",
            "the same a third as thick, quickly printed",
            "The same, a third as thick (3MF)…",
            _trial_thin,
            "-trial-thin.3mf",
            tip="Quickly printed: for outline and holes, not for the stack",
            group=TRIAL,
            ready=_whole,
        ),
        Paper(
            "stl",
            "Trial piece (STL)",
            "trial piece for a printer",
            "Plain (STL)…",
            _stl,
            "-bracket.stl",
            tip="For a printer",
            group=TRIAL,
            ready=_whole,
        ),
        Paper(
            "3mf",
            "Trial piece (3MF)",
            "the same with names",
            "Plain (3MF)…",
            _threemf,
            "-bracket.3mf",
            group=TRIAL,
            ready=_whole,
        ),
        Paper(
            "workshop-both",
            "Workshop drawings of both sides",
            "workshop drawings of both (PDF)",
            "Workshop drawings of both sides (PDF)…",
            _workshop_both,
            "-both-sides.pdf",
            group=BOTH,
            both=True,
            cuts=True,
            ready=_whole,
        ),
        Paper(
            "cut-both",
            "Cutting file of both sides",
            "cutting file of both (DXF)",
            "Cutting file of both sides (DXF)…",
            _cut_both,
            "-both-sides.dxf",
            group=BOTH,
            both=True,
            cuts=True,
            ready=_whole,
        ),
        Paper(
            "step-both",
            "Solids of both sides (STEP)",
            "solids for both corners of the axle: mirror images, or two parts where the surveys differ",
            "Solids of both sides (STEP)…",
            _step_both,
            "-both-sides.step",
            tip="Mirror images, or two parts where the surveys differ",
            group=BOTH,
            both=True,
            cuts=True,
            ready=_whole,
        ),
    )
}
"""Every paper, in the order of the menu."""


def ready_problem(solution: Solution, kind: str) -> str:
    """Return why the paper of ``kind`` does not apply or cannot be made yet; empty when it can, as far as can be told."""
    paper = PAPERS[kind]
    if paper.of_plate and solution.part is None:
        return f"There is no plate to draw: {solution.bracket.fault or solution.bracket.title}."
    try:
        if paper.ready is not None:
            paper.ready(solution)
    except ExportError as reason:
        return f"{paper.title}: {reason}."
    return ""


def _go_on(part: float, text: str) -> bool:
    del part, text
    return True


def write_paper(
    kind: str,
    solution: Solution,
    path: Path,
    report: Report = _go_on,
    job_file: Path | None = None,
    imprint: Imprint = BLANK,
) -> bool:
    """Write the paper of ``kind`` to ``path``, whole or not at all; False when it was cancelled.

    Beside a mesh, which has no room for words, a note says what keeps metal from being cut. Raises ``ExportError`` when the job
    has no plate yet, or ``path`` is a job's own file, and ``StoreError`` when a file cannot be written.
    """
    if path.name.endswith(JOB_SUFFIX) or (job_file is not None and _same_file(path, job_file)):
        raise ExportError(f"{shown(path)}: that is a job's own file; choose another name for the paper")
    if not report(0.05, ""):
        return False
    data = PAPERS[kind].make(solution, report, imprint)
    if not data or not report(0.95, ""):
        return False
    write_atomic(path, data)
    if kind == "stl":
        write_note(path, cut_mark(solution))
    report(1.0, "")
    return True


def _same_file(one: Path, other: Path) -> bool:
    try:
        return one.exists() and other.exists() and one.samefile(other)
    except (OSError, ValueError):
        return False


__all__ = ["CAUTION", "PAPERS", "Paper", "ready_problem", "write_paper"]

"""The papers of a job: what each is called, what makes it, and writing it to disk whole or not at all."""

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from bicentra.core.base.errors import ExportError
from bicentra.core.drawing.plate_sheet import CAUTION
from bicentra.core.solution import Solution
from bicentra.study.store import shown, write_atomic

THIN = 1 / 3
"""How thick a quick trial piece is, as a share of the part: for outline and holes, not for the stack."""
JOB_SUFFIX = ".bicentra.json"
Report = Callable[[float, str], bool]


@dataclass(frozen=True)
class Paper:
    """One kind of paper: what it is called, what makes it, the end of its file's name, whether it shows the plate."""

    title: str
    make: Callable[[Solution, Report], bytes]
    ending: str
    of_plate: bool = True


def _pdf(solution: Solution, report: Report) -> bytes:
    from bicentra.formats.pdf import plate_pdf

    return plate_pdf(solution, report=report)


def _dxf(solution: Solution, report: Report) -> bytes:
    from bicentra.formats.dxf import plate_dxf

    del report
    return plate_dxf(solution)


def _svg(solution: Solution, report: Report) -> bytes:
    from bicentra.formats.svg import plate_svg

    del report
    return plate_svg(solution)


def _csv(solution: Solution, report: Report) -> bytes:
    from bicentra.formats.csv_table import plate_csv

    del report
    return plate_csv(solution)


def _card(solution: Solution, report: Report) -> bytes:
    from bicentra.formats.pdf_card import card_pdf

    del report
    return card_pdf(solution)


def _drilling(solution: Solution, report: Report) -> bytes:
    from bicentra.formats.pdf_redrill import rotor_drilling_pdf

    del report
    return rotor_drilling_pdf(solution.job)


def _step(solution: Solution, report: Report) -> bytes:
    from bicentra.study.solids import solid_file

    return solid_file(solution.job, "step", report)


def _stl(solution: Solution, report: Report) -> bytes:
    from bicentra.study.solids import solid_file

    return solid_file(solution.job, "stl", report)


def _threemf(solution: Solution, report: Report) -> bytes:
    from bicentra.study.solids import solid_file

    return solid_file(solution.job, "3mf", report)


def _workshop(solution: Solution, report: Report) -> bytes:
    from bicentra.study.solids import workshop_file

    return workshop_file(solution.job, report)


def _cut(solution: Solution, report: Report) -> bytes:
    from bicentra.formats.dxf_cutting import cutting_dxf
    from bicentra.study.solids import parts_to_make

    del report
    return cutting_dxf(parts_to_make(solution.job), solution.job.is_left)


def _trial(solution: Solution, report: Report) -> bytes:
    from bicentra.study.solids import trial_file

    return trial_file(solution.job, report)


def _trial_thin(solution: Solution, report: Report) -> bytes:
    from bicentra.study.solids import trial_file

    return trial_file(solution.job, report, THIN)


def _step_both(solution: Solution, report: Report) -> bytes:
    from bicentra.study.solids import step_of_both

    return step_of_both(solution.job, report)


def _workshop_both(solution: Solution, report: Report) -> bytes:
    from bicentra.study.solids import workshop_file

    return workshop_file(solution.job, report, both=True)


def _cut_both(solution: Solution, report: Report) -> bytes:
    from bicentra.formats.dxf_cutting import cutting_dxf
    from bicentra.study.solids import both_parts

    del report
    return cutting_dxf(both_parts(solution.job))


def _parts(solution: Solution, report: Report) -> bytes:
    from bicentra.formats.parts_list_csv import parts_list_csv
    from bicentra.study.solids import parts_to_make

    del report
    parts_to_make(solution.job)
    return parts_list_csv(solution)


def _assembly(solution: Solution, report: Report) -> bytes:
    from bicentra.core.drawing.parts_list import parts_list
    from bicentra.core.drawing.solid_scene import solid_scene
    from bicentra.formats.pdf_assembly import assembly_pdf
    from bicentra.study.solids import parts_to_make

    del report
    parts_to_make(solution.job)
    items = parts_list(solution)
    return assembly_pdf(solid_scene(solution), items, solution.job.title or "Untitled job")


def _chart(solution: Solution, report: Report) -> bytes:
    from bicentra.formats.pdf_chart import chart_pdf

    del report
    return chart_pdf(solution.job)


PAPERS = {
    "pdf": Paper("Paper template and check list", _pdf, "-plate.pdf"),
    "dxf": Paper("Cutting file", _dxf, "-plate.dxf"),
    "svg": Paper("Drawing", _svg, "-plate.svg"),
    "csv": Paper("Hole table", _csv, "-plate.csv"),
    "card": Paper("Caliper card for the wheel", _card, "-caliper-card.pdf", of_plate=False),
    "drilling": Paper("Drilling template for the rotor", _drilling, "-drilling.pdf", of_plate=False),
    "step": Paper("Solids (STEP)", _step, "-bracket.step", of_plate=False),
    "workshop": Paper("Workshop drawings", _workshop, "-workshop.pdf", of_plate=False),
    "assembly": Paper("Assembly, pulled apart, with its parts list", _assembly, "-assembly.pdf", of_plate=False),
    "chart": Paper("Marking chart of the bushings", _chart, "-bushings.pdf", of_plate=False),
    "cut": Paper("Cutting file, one layer an operation", _cut, "-cut.dxf", of_plate=False),
    "parts": Paper("Parts list", _parts, "-parts.csv", of_plate=False),
    "step-both": Paper("Solids of both sides (STEP)", _step_both, "-both-sides.step", of_plate=False),
    "workshop-both": Paper("Workshop drawings of both sides", _workshop_both, "-both-sides.pdf", of_plate=False),
    "cut-both": Paper("Cutting file of both sides", _cut_both, "-both-sides.dxf", of_plate=False),
    "trial": Paper("Trial piece with its words on it (3MF)", _trial, "-trial.3mf", of_plate=False),
    "trial-thin": Paper("The same, a third as thick (3MF)", _trial_thin, "-trial-thin.3mf", of_plate=False),
    "stl": Paper("Trial piece (STL)", _stl, "-bracket.stl", of_plate=False),
    "3mf": Paper("Trial piece (3MF)", _threemf, "-bracket.3mf", of_plate=False),
}


def ready_problem(solution: Solution, kind: str) -> str:
    """Return why the paper of ``kind`` cannot be made yet; empty when it can, as far as can be told beforehand."""
    if PAPERS[kind].of_plate and solution.part is None:
        return f"There is no plate to draw: {solution.bracket.fault or solution.bracket.title}."
    return ""


def _go_on(part: float, text: str) -> bool:
    del part, text
    return True


def write_paper(
    kind: str, solution: Solution, path: Path, report: Report = _go_on, job_file: Path | None = None
) -> bool:
    """Write the paper of ``kind`` to ``path``, whole or not at all; False when it was cancelled.

    Raises ``ExportError`` when the job has no plate yet, or ``path`` is a job's own file, and ``StoreError`` when the file
    cannot be written.
    """
    if path.name.endswith(JOB_SUFFIX) or (job_file is not None and _same_file(path, job_file)):
        raise ExportError(f"{shown(path)}: that is a job's own file; choose another name for the paper")
    if not report(0.05, ""):
        return False
    data = PAPERS[kind].make(solution, report)
    if not data or not report(0.95, ""):
        return False
    write_atomic(path, data)
    report(1.0, "")
    return True


def _same_file(one: Path, other: Path) -> bool:
    try:
        return one.exists() and other.exists() and one.samefile(other)
    except (OSError, ValueError):
        return False


__all__ = ["CAUTION", "PAPERS", "Paper", "ready_problem", "write_paper"]

"""The papers of a job: what each is called, what makes it, and writing it to disk whole or not at all."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import Record
from bicentra.core.drawing.imprint import BLANK, Imprint, cut_mark
from bicentra.core.drawing.plate_sheet import CAUTION
from bicentra.core.solution import Solution
from bicentra.study.document.store import shown, write_atomic
from bicentra.study.papers import makers
from bicentra.study.papers.makers import Report
from bicentra.study.papers.note import write_note

if TYPE_CHECKING:
    pass

JOB_SUFFIX = ".bicentra.json"


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


TRIAL, BOTH = "Trial piece for a printer", "Both sides of the axle"
PAPERS: dict[str, Paper] = {
    paper.kind: paper
    for paper in (
        Paper(
            "pdf",
            "Paper template and check list",
            "1:1 template and check list",
            "Paper template and check list, 1:1 (PDF)…",
            makers.pdf,
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
            makers.check_list,
            "-check-list.pdf",
            tip="What is measured at the fit, with lines to write on; for a kind without a plate, or a second fit",
            ready=makers.stands,
        ),
        Paper(
            "workshop",
            "Workshop drawings",
            "workshop drawings of the made parts (PDF)",
            "Workshop drawings (PDF)…",
            makers.workshop,
            "-workshop.pdf",
            "Ctrl+Shift+W",
            "Each made part on its sheet",
            cuts=True,
            ready=makers.whole,
        ),
        Paper(
            "assembly",
            "Assembly, pulled apart, with its parts list",
            "the corner pulled apart, with its parts list (PDF)",
            "Assembly, pulled apart, with its parts list (PDF)…",
            makers.assembly,
            "-assembly.pdf",
            ready=makers.listed,
        ),
        Paper(
            "dxf",
            "Cutting file",
            "cutting file",
            "Cutting file (DXF)…",
            makers.dxf,
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
            makers.cut,
            "-cut.dxf",
            cuts=True,
            ready=makers.whole,
        ),
        Paper("svg", "Drawing", "drawing", "Drawing (SVG)…", makers.svg, "-plate.svg", of_plate=True, cuts=True),
        Paper("csv", "Hole table", "hole table", "Hole table (CSV)…", makers.csv, "-plate.csv", of_plate=True),
        Paper(
            "parts",
            "Parts list",
            "parts list (CSV)",
            "Parts list (CSV)…",
            makers.parts,
            "-parts.csv",
            tip="Made, bought, used again, missing",
            ready=makers.listed,
        ),
        Paper(
            "card",
            "Caliper card for the wheel",
            "1:1 card of the caliper's section, to hold in a wheel (PDF)",
            "Caliper card to hold in a wheel, 1:1 (PDF)…",
            makers.card,
            "-caliper-card.pdf",
            tip="Cut from card, turned once round inside the wheel",
        ),
        Paper(
            "drilling",
            "Drilling template for the rotor",
            "1:1 drilling template for a rotor of another pattern (PDF)",
            "Drilling template for the rotor, 1:1 (PDF)…",
            makers.drilling,
            "-drilling.pdf",
            tip="Where rotor and hub have different patterns",
            ready=makers.drillable,
        ),
        Paper(
            "chart",
            "Marking chart of the bushings",
            "marking chart of eccentric bushings (PDF)",
            "Marking chart of the bushings, 1:1 (PDF)…",
            makers.chart,
            "-bushings.pdf",
            tip="Where eccentric bushings are pressed in",
            ready=makers.charted,
        ),
        Paper(
            "relief",
            "Relief template for a casting or dust shield",
            "1:1 relief template of what is in the way of the caliper's body, or a dust shield's cut line (PDF)",
            "Relief template for a casting or dust shield, 1:1 (PDF)…",
            makers.relief,
            "-relief.pdf",
            tip="Where the caliper's body meets something that may lose metal",
            ready=makers.relieved,
        ),
        Paper(
            "step",
            "Solids (STEP)",
            "solids of the bracket family's parts",
            "Solids of the bracket (STEP)…",
            makers.step,
            "-bracket.step",
            tip="For a mill or another program",
            cuts=True,
            ready=makers.whole,
        ),
        Paper(
            "trial",
            "Trial piece with its words on it (3MF)",
            "trial piece with the holes' numbers and what it is raised on it (3MF)",
            "With the holes' numbers on it (3MF)…",
            makers.trial,
            "-trial.3mf",
            tip="For a printer; says that it is not the part",
            group=TRIAL,
            ready=makers.whole,
        ),
        Paper(
            "trial-thin",
            "The same, a third as thick (3MF)",
            "the same a third as thick, quickly printed",
            "The same, a third as thick (3MF)…",
            makers.trial_thin,
            "-trial-thin.3mf",
            tip="Quickly printed: for outline and holes, not for the stack",
            group=TRIAL,
            ready=makers.whole,
        ),
        Paper(
            "stl",
            "Trial piece (STL)",
            "trial piece for a printer",
            "Plain (STL)…",
            makers.stl,
            "-bracket.stl",
            tip="For a printer",
            group=TRIAL,
            ready=makers.whole,
        ),
        Paper(
            "3mf",
            "Trial piece (3MF)",
            "the same with names",
            "Plain (3MF)…",
            makers.threemf,
            "-bracket.3mf",
            group=TRIAL,
            ready=makers.whole,
        ),
        Paper(
            "workshop-both",
            "Workshop drawings of both sides",
            "workshop drawings of both (PDF)",
            "Workshop drawings of both sides (PDF)…",
            makers.workshop_both,
            "-both-sides.pdf",
            group=BOTH,
            both=True,
            cuts=True,
            ready=makers.whole,
        ),
        Paper(
            "cut-both",
            "Cutting file of both sides",
            "cutting file of both (DXF)",
            "Cutting file of both sides (DXF)…",
            makers.cut_both,
            "-both-sides.dxf",
            group=BOTH,
            both=True,
            cuts=True,
            ready=makers.whole,
        ),
        Paper(
            "step-both",
            "Solids of both sides (STEP)",
            "solids for both corners of the axle: mirror images, or two parts where the surveys differ",
            "Solids of both sides (STEP)…",
            makers.step_both,
            "-both-sides.step",
            tip="Mirror images, or two parts where the surveys differ",
            group=BOTH,
            both=True,
            cuts=True,
            ready=makers.whole,
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


def go_on(part: float, text: str) -> bool:
    """Take note of nothing and go on: whoever waits for a paper without watching it."""
    del part, text
    return True


def write_paper(
    kind: str,
    solution: Solution,
    path: Path,
    report: Report = go_on,
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

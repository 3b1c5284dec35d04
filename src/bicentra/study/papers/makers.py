"""What makes each paper, and what tells at once that one does not apply: a row a paper; heavy modules load when they
are called.
"""

from collections.abc import Callable
from importlib import import_module
from typing import TYPE_CHECKING, Any

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import Record
from bicentra.core.drawing.sheets.imprint import CutMark, Imprint, cut_mark
from bicentra.core.evaluation.solution import Solution
from bicentra.core.parts.job import Job

THIN = 1 / 3
"""How thick a quick trial piece is, as a share of the part: for outline and holes, not for the stack."""
Report = Callable[[float, str], bool]


class Later:
    """A module that is loaded when something of it is first called."""

    def __init__(self, name: str) -> None:
        self._name = name

    def __getattr__(self, name: str) -> Any:
        return getattr(import_module(self._name), name)


if TYPE_CHECKING:
    from bicentra.core.drawing.sheets import parts_list, templates
    from bicentra.core.drawing.sheets import relief as relief_sheets
    from bicentra.core.drawing.space import scene as solid_scene
    from bicentra.formats import csv_out, dxf, pdf_assembly, pdf_records, pdf_sheets, pdf_template, svg
    from bicentra.study.papers import solids
else:
    csv_out, dxf, svg = (Later(f"bicentra.formats.{name}") for name in ("csv_out", "dxf", "svg"))
    pdf_assembly, pdf_records = (Later(f"bicentra.formats.{name}") for name in ("pdf_assembly", "pdf_records"))
    pdf_sheets, pdf_template = (Later(f"bicentra.formats.{name}") for name in ("pdf_sheets", "pdf_template"))
    parts_list, templates = (Later(f"bicentra.core.drawing.sheets.{name}") for name in ("parts_list", "templates"))
    relief_sheets = Later("bicentra.core.drawing.sheets.relief")
    solid_scene = Later("bicentra.core.drawing.space.scene")
    solids = Later("bicentra.study.papers.solids")


def tried(solution: Solution) -> object:
    """Raise ``ExportError`` while no trial has been written down."""
    if not solution.job.trials:
        raise ExportError("no trial is noted at this corner")
    return None


def whole(solution: Solution) -> object:
    """Raise ``ExportError`` where no part is to be made."""
    return solids.parts_to_make(solution.job)


def listed(solution: Solution) -> object:
    """Tell whether there is something to list: what is made, or a caliper that stands with nothing made."""
    bracket = solution.bracket
    return None if bracket.shown and not bracket.parts else whole(solution)


def stands(solution: Solution) -> object:
    """Raise ``ExportError`` where there is nothing to check yet."""
    if solution.bracket.unmade:
        raise ExportError(f"there is nothing to check yet: {solution.bracket.fault}")
    return None


def _names(job: Job, mark: CutMark, imprint: Imprint) -> "dxf.SheetNames":
    """Return what stands on a cutting file."""
    return dxf.SheetNames(job.title or "Untitled job", job.lengths, mark, imprint, job.bracket.datum)


def _parts(solution: Solution) -> bytes:
    listed(solution)
    return csv_out.parts_list_csv(solution)


def _assembly(solution: Solution, imprint: Imprint) -> bytes:
    listed(solution)
    job, items = solution.job, parts_list.parts_list(solution)
    title = f"{job.title or 'Untitled job'}, {job.corner.replace('-', ' ')}"
    return pdf_assembly.assembly_pdf(solid_scene.solid_scene(solution), items, title, cut_mark(solution), imprint)


def _cut(solution: Solution, imprint: Imprint) -> bytes:
    names = _names(solution.job, cut_mark(solution), imprint)
    return dxf.cutting_dxf(solids.parts_to_make(solution.job), solution.job.is_left, names)


def _cut_both(solution: Solution, imprint: Imprint) -> bytes:
    names = _names(solution.job, solids.both_mark(solution), imprint)
    return dxf.cutting_dxf(solids.both_parts(solution.job), text=names)


class Maker(Record, frozen=True):
    """What makes a paper. ``ready``: raises ``ExportError`` at once where it does not apply."""

    make: Callable[[Solution, Report, Imprint], bytes]
    ready: Callable[[Solution], object] | None = None


MAKERS: dict[str, Maker] = {
    "pdf": Maker(lambda s, report, imprint: pdf_template.plate_pdf(s, report=report, imprint=imprint)),
    "checks": Maker(lambda s, _, imprint: pdf_template.check_list_pdf(s, imprint=imprint), stands),
    "workshop": Maker(
        lambda s, report, imprint: solids.workshop_file(s.job, report, mark=cut_mark(s), imprint=imprint), whole
    ),
    "assembly": Maker(lambda s, _, imprint: _assembly(s, imprint), listed),
    "dxf": Maker(lambda s, _, imprint: dxf.plate_dxf(s, imprint)),
    "cut": Maker(lambda s, _, imprint: _cut(s, imprint), whole),
    "svg": Maker(lambda s, _, imprint: svg.plate_svg(s, imprint)),
    "csv": Maker(lambda s, _report, _imprint: csv_out.plate_csv(s)),
    "parts": Maker(lambda s, _report, _imprint: _parts(s), listed),
    "card": Maker(lambda s, _, imprint: pdf_sheets.card_pdf(s, imprint=imprint)),
    "drilling": Maker(
        lambda s, _, imprint: pdf_sheets.rotor_drilling_pdf(s.job, imprint=imprint),
        lambda s: pdf_sheets.drilling_plan(s.job),
    ),
    "chart": Maker(lambda s, _, imprint: pdf_sheets.chart_pdf(s, imprint), lambda s: templates.bushing_chart(s.job)),
    "relief": Maker(lambda s, _, imprint: pdf_sheets.relief_pdf(s, imprint), lambda s: relief_sheets.relief_plans(s)),  # noqa: PLW0108 - loaded when called
    "hub-parts": Maker(
        lambda s, report, imprint: solids.hub_drawings(s.job, report, solids.hub_mark(s), imprint),
        lambda s: solids.hub_made(s.job),
    ),
    "hub-step": Maker(
        lambda s, report, _: solids.hub_file(s.job, "step", report, solids.hub_mark(s)),
        lambda s: solids.hub_made(s.job),
    ),
    "hub-3mf": Maker(
        lambda s, report, _: solids.hub_file(s.job, "3mf", report, solids.hub_mark(s)), lambda s: solids.hub_made(s.job)
    ),
    "fit-sheet": Maker(lambda s, _, imprint: pdf_records.fit_sheet_pdf(s, imprint)),
    "fit-log": Maker(lambda s, _, imprint: pdf_records.fit_log_pdf(s, imprint), tried),
    "fit-csv": Maker(lambda s, _report, _imprint: csv_out.trial_csv(s), tried),
    "step": Maker(lambda s, report, _: solids.solid_file(s.job, "step", report, cut_mark(s)), whole),
    "trial": Maker(lambda s, report, _: solids.trial_file(s.job, report, mark=cut_mark(s)), whole),
    "trial-thin": Maker(lambda s, report, _: solids.trial_file(s.job, report, THIN, cut_mark(s)), whole),
    "stl": Maker(lambda s, report, _: solids.solid_file(s.job, "stl", report, cut_mark(s)), whole),
    "3mf": Maker(lambda s, report, _: solids.solid_file(s.job, "3mf", report, cut_mark(s)), whole),
    "workshop-both": Maker(
        lambda s, report, imprint: solids.workshop_file(s.job, report, True, solids.both_mark(s), imprint), whole
    ),
    "cut-both": Maker(lambda s, _, imprint: _cut_both(s, imprint), whole),
    "step-both": Maker(lambda s, report, _: solids.step_of_both(s.job, report, solids.both_mark(s)), whole),
}
"""What makes each paper, by its kind in ``papers.PAPERS``."""

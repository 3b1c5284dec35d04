"""Writing papers from the window: asks for a name, writes in a thread, says what was written."""

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject

from bicentra.app import dialogs, workers
from bicentra.app.actions import action_of
from bicentra.app.host import Host
from bicentra.core.base.records import replace
from bicentra.core.solution import Solution
from bicentra.study.document.store import shown
from bicentra.study.document.study import Study
from bicentra.study.papers.papers import PAPERS, USES, paper_name

if TYPE_CHECKING:
    from bicentra.core.parts.issued import Issued

HEAD = "head:"


def paper_menu() -> tuple[str | tuple[str, ...], ...]:
    """Return the names of the papers' actions by what they are for; a tuple is a menu of its own, its title first.

    A name that begins with ``HEAD`` is a heading.
    """
    found = list[str | tuple[str, ...]]()
    for use, title in USES.items():
        papers = [paper for paper in PAPERS.values() if paper.use == use]
        groups = dict.fromkeys(paper.group for paper in papers if paper.group)
        found += [f"{HEAD}{title}", *(action_of(paper.kind) for paper in papers if not paper.group)]
        found += [(group, *(action_of(paper.kind) for paper in papers if paper.group == group)) for group in groups]
    return tuple(found)


def solution_to_print(study: Study) -> Solution:
    """Return the solution with what the survey says of it, worked out now if it is not yet: it may forbid what is to be cut."""
    return study.solution if study.assessment is not None else study.assess().solution


class PaperMaker(QObject):
    """Writes papers, each under its own name however many are under way."""

    def __init__(self, host: Host) -> None:
        super().__init__(host.frame)
        self._host = host
        self._tasks: list[workers.Task] = []

    def make(self, kind: str) -> None:
        """Ask for a name and write the paper of ``kind``: one of ``PAPERS``."""
        from bicentra.study.papers.writing import ready_problem

        host, paper = self._host, PAPERS[kind]
        solution = host.study.solution
        problem = ready_problem(solution, kind)
        if problem:
            dialogs.warn(host.frame, "Nothing to print or export yet", problem)
            return
        stem = host.study.path.name.removesuffix(".bicentra.json") if host.study.path else "job"
        suffix = Path(paper.ending).suffix
        name = paper_name(stem, kind, host.study.job.corner)
        folder = host.study.path.parent if host.study.path else Path.home()
        path = dialogs.ask_save(host.frame, folder / name, paper.title, f"{paper.title} (*{suffix})")
        if path is None:
            return
        target = path if path.suffix else path.with_suffix(suffix)
        if target == path or not target.exists() or dialogs.ask_over(host.frame, target):
            self.write(kind, target)

    def print(self) -> None:
        """Look at a paper and print it; the sheet in the printer is remembered."""
        from bicentra.app.print_dialog import PrintDialog

        host, settings = self._host, self._host.settings
        dialog = PrintDialog(host.frame, solution_to_print(host.study), str(settings.value("sheet", "")))
        dialog.save_wanted.connect(self.make)
        printed = dialog.exec()
        settings.setValue("sheet", dialog.sheet_name)
        if printed and dialog.was_printed and dialog.given is not None:
            self._give_out(dialog.given)
        dialog.deleteLater()

    def _give_out(self, given: "Issued") -> None:
        """Keep in the job what left as a paper."""
        study = self._host.study
        if given not in study.job.issued:
            self._host.change(f"Revision {given.revision} given out", (("issued", (*study.job.issued, given)),))

    def write(self, kind: str, path: Path) -> workers.Task:
        """Write the paper of ``kind`` to ``path`` in a thread; returns the task."""
        from bicentra.study.papers.imprint import paper_imprint, today
        from bicentra.study.papers.writing import write_paper

        study = self._host.study
        solution, kept = solution_to_print(study), study.path
        imprint, given = paper_imprint(kind, solution, today())
        imprint = replace(imprint, paper=str(self._host.settings.value("sheet", "")))
        label = f"Writing {shown(path.name)}"
        task = workers.Task(label, lambda running: write_paper(kind, solution, path, running.report, kept, imprint))
        task.signals.finished.connect(partial(self._written, path, study, given))
        self._tasks = [*(one for one in self._tasks if one.signals.task is not None), task]
        self._host.watch(task)
        return task

    def _written(self, path: Path, study: Study, given: "Issued | None", result: object) -> None:
        if not result:
            return
        if given is not None and study is self._host.study:
            self._give_out(given)
        stops = sum(v.value == "stop" for v in self._host.study.solution.verdicts)
        warning = f" {stops} finding{'s' if stops > 1 else ''} still say stop: do not cut on it yet." if stops else ""
        hint = " Print at 100 %, then measure the proof bars." if path.suffix == ".pdf" else ""
        kept = f" Revision {given.revision}; save the job to keep it." if given is not None else ""
        self._host.say(f"Written: {shown(path)}.{hint}{kept}{warning}", wrong=bool(stops))

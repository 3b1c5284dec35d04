"""Taking papers away from the window: asks for a name, writes in a thread, says what was written."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject

from bicentra.app import dialogs, workers
from bicentra.study.papers import CAUTION, PAPERS, ready_problem, write_paper

if TYPE_CHECKING:
    from bicentra.app.window import MainWindow


class PaperMaker(QObject):
    """Writes one paper at a time."""

    def __init__(self, window: "MainWindow") -> None:
        super().__init__(window)
        self._window = window
        self._task: workers.Task | None = None
        self._writing = Path()

    def make(self, kind: str) -> None:
        """Ask for a name and write the paper of ``kind``: one of ``PAPERS``."""
        window, paper = self._window, PAPERS[kind]
        solution = window.study.solution
        problem = ready_problem(solution, kind)
        if problem:
            dialogs.warn(window, "Nothing to take away yet", problem)
            return
        stem = window.study.path.name.removesuffix(".bicentra.json") if window.study.path else "job"
        suffix = Path(paper.ending).suffix
        name = stem + paper.ending
        folder = window.study.path.parent if window.study.path else Path.home()
        path = dialogs.ask_save(window, folder / name, paper.title, f"{paper.title} (*{suffix})")
        if path is not None:
            self.write(kind, path if path.suffix else path.with_suffix(suffix))

    def write(self, kind: str, path: Path) -> workers.Task:
        """Write the paper of ``kind`` to ``path`` in a thread; returns the task."""
        solution = self._window.study.solution
        label = f"Writing {path.name}"
        task = workers.Task(label, lambda running: write_paper(kind, solution, path, running.report))
        self._writing = path
        task.signals.finished.connect(self._written)
        self._task = task
        self._window.watch(task)
        return task

    def _written(self, result: object) -> None:
        if not result:
            return
        path = self._writing
        stops = sum(v.value == "stop" for v in self._window.study.solution.verdicts)
        warning = f" {stops} finding{'s' if stops > 1 else ''} still say stop: do not cut on it yet." if stops else ""
        hint = " Print at 100 %, then measure the proof bars." if path.suffix == ".pdf" else ""
        self._window.say(f"Written: {path}.{hint}{warning} {CAUTION}")

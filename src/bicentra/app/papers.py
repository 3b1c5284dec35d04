"""Papers from the window: looked at and printed at 100 %, or written in a thread under a name that is asked for."""

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QMarginsF, QObject, QRectF, QSizeF, Qt, Signal
from PySide6.QtGui import QImage, QPageLayout, QPageSize, QPainter, QPixmap
from PySide6.QtPrintSupport import QPrintDialog, QPrinter
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget
from shiboken6 import isValid

from bicentra.app import dialogs, workers
from bicentra.app.actions import action_of
from bicentra.app.host import Host
from bicentra.app.widgets.basics import choice_box
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.records import Record, replace
from bicentra.core.evaluation.solution import Solution
from bicentra.core.parts.attachments import Issued
from bicentra.study.document.store import shown
from bicentra.study.document.study import Study
from bicentra.study.papers.papers import PAPERS, USES, paper_name
from bicentra.study.papers.writing import (
    DRAFT,
    PRINTED,
    Page,
    page_count,
    page_picture,
    paper_bytes,
    paper_imprint,
    ready_problem,
    today,
)

if TYPE_CHECKING:
    from bicentra.core.parts.attachments import Issued


FUZZY = QPageSize.SizeMatchPolicy.FuzzyMatch
SHEETS = {"": "Automatic: A4 or Letter", "A4": "A4", "Letter": "Letter"}
PREVIEW_DPI, PREVIEW_FINER, PRINT_DPI, MOST_PREVIEWED = 55.0, 4, 600.0, 12


class PrintDialog(QDialog):
    """The paper beside what is asked. ``save_wanted`` carries its kind: to be kept as PDF instead of printed."""

    save_wanted = Signal(str)

    def __init__(self, parent: QWidget, solution: Solution, sheet: str) -> None:
        super().__init__(parent)
        self.setWindowTitle("Print")
        self.resize(900, 680)
        self._solution = solution
        self.given: Issued | None = None
        self._draft = False
        self.data = b""
        self.pages: tuple[Page, ...] = ()
        self._task: workers.Task | None = None
        self.was_printed = False
        row = QHBoxLayout(self)
        self._leaf = QWidget()
        self._leaves = QVBoxLayout(self._leaf)
        self._leaves.setSpacing(12)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setWidget(self._leaf)
        area.setAccessibleName("The pages as they will be printed")
        row.addWidget(area, 1)
        row.addLayout(self._build_side(sheet))
        self.show_paper()

    def _build_side(self, sheet: str) -> QVBoxLayout:
        side = QVBoxLayout()
        side.setSpacing(8)
        self.kind = choice_box("Paper", {kind: PAPERS[kind].title for kind in PRINTED}, "pdf")
        self.sheet = choice_box("Sheet in the printer", SHEETS, sheet)
        for title, box in (("Paper", self.kind), ("Sheet in the printer", self.sheet)):
            side.addWidget(plain_label(title))
            box.setMaximumWidth(250)
            side.addWidget(box)
            box.currentIndexChanged.connect(self.show_paper)
        self.note = plain_label()
        self.note.setWordWrap(True)
        self.note.setFixedWidth(250)
        side.addWidget(self.note)
        side.addStretch(1)
        self.print_button = _button("Print…", self.print_out, "primary")
        self.save_button = _button("Save as PDF…", self._save)
        for button in (self.print_button, self.save_button, _button("Close", self.reject)):
            side.addWidget(button)
        return side

    @property
    def sheet_name(self) -> str:
        """The sheet that is chosen: A4, Letter, or empty for what goes with the units."""
        return str(self.sheet.currentData())

    def show_paper(self) -> None:
        """Make the chosen paper, beside the window, and show its pages."""
        kind = str(self.kind.currentData())
        self._show((b"", ()))
        problem = ready_problem(self._solution, kind)
        if self._task is not None:
            self._task.cancel()
        if problem:
            self.note.setText(problem)
            return
        self.note.setText("Being made …")
        self._task = workers.Task("Paper", partial(_made, kind, self._solution, self.sheet_name))
        self._task.signals.finished.connect(partial(self._take, self._task))
        self._task.signals.failed.connect(partial(self._fail, self._task))
        workers.start(self._task)

    def done(self, result: int) -> None:
        """Close, however it is closed: a paper that is still being made is for nobody any more."""
        if self._task is not None:
            self._task.cancel()
            self._task = None
        super().done(result)

    def _take(self, task: workers.Task, found: object) -> None:
        if task is self._task and isValid(self) and isinstance(found, Made):
            self.given, self._draft = found.given, found.draft
            self._show((found.data, found.pages))

    def _fail(self, task: workers.Task, text: str) -> None:
        if task is self._task and isValid(self):
            self.note.setText(text)

    def _show(self, found: tuple[bytes, tuple[Page, ...]]) -> None:
        self.data, self.pages = found
        while self._leaves.count():
            item = self._leaves.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.deleteLater()
        for number, page in enumerate(self.pages, 1):
            leaf = QLabel()
            leaf.setPixmap(QPixmap.fromImage(_image(page)))
            leaf.setAccessibleName(f"Page {number}")
            self._leaves.addWidget(leaf, 0, Qt.AlignmentFlag.AlignHCenter)
        self._leaves.addStretch(1)
        for button in (self.print_button, self.save_button):
            button.setEnabled(bool(self.data))
        if self.data:
            count, (wide, high) = page_count(self.data), self.pages[0].size
            mark = "that it is a draft, and why" if self._draft else ""
            self.note.setText(
                f"{count} page{'s' if count > 1 else ''}, {wide:.0f} × {high:.0f} mm. Printed at 100 %, never fitted to the sheet: "
                f"measure both bars on the paper before it is used.{f' The paper says {mark}.' if mark else ''}"
            )

    def print_out(self) -> None:
        """Ask for a printer and print every page at 100 %."""
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        self.prepare(printer)
        dialog = QPrintDialog(printer, self)
        if dialog.exec():
            self.print_on(printer)
            self.was_printed = True
            self.accept()

    def prepare(self, printer: QPrinter) -> None:
        """Set the sheet, no margins of the printer's own, and 600 dots to the inch: nothing is left that could scale."""
        wide, high = self.pages[0].size
        size = QPageSize(
            QSizeF(min(wide, high), max(wide, high)),
            QPageSize.Unit.Millimeter,
            "",
            FUZZY,
        )
        lying = QPageLayout.Orientation.Landscape if wide > high else QPageLayout.Orientation.Portrait
        printer.setResolution(int(PRINT_DPI))
        printer.setFullPage(True)
        printer.setPageLayout(QPageLayout(size, lying, QMarginsF(0, 0, 0, 0)))

    def print_on(self, printer: QPrinter) -> None:
        """Print every page, each as large as it is [mm], whatever the printer calls its sheet."""
        painter = QPainter(printer)
        per_mm = printer.resolution() / 25.4
        for place in range(page_count(self.data)):
            page = page_picture(self.data, place, PRINT_DPI)
            if place:
                printer.newPage()
            painter.drawImage(QRectF(0, 0, page.size[0] * per_mm, page.size[1] * per_mm), _image(page))
        painter.end()

    def _save(self) -> None:
        self.accept()
        self.save_wanted.emit(str(self.kind.currentData()))


class Made(Record, frozen=True):
    """A paper made to be looked at. ``given``: the revision that printing it gives out; ``draft``: nothing is cut by it yet."""

    data: bytes
    pages: tuple[Page, ...]
    given: Issued | None
    draft: bool


def _made(kind: str, solution: Solution, sheet: str, task: workers.Task) -> Made:
    imprint, given = paper_imprint(kind, solution, today())
    data = paper_bytes(kind, solution, replace(imprint, paper=sheet), task.report)
    count = min(page_count(data), MOST_PREVIEWED) if data else 0
    pages = tuple(page_picture(data, place, PREVIEW_DPI, PREVIEW_FINER) for place in range(count))
    return Made(data, pages, given, imprint.revision == DRAFT)


def _image(page: Page) -> QImage:
    return QImage(page.grey, page.wide, page.high, page.wide, QImage.Format.Format_Grayscale8).copy()


def _button(text: str, call: object, name: str = "") -> QPushButton:
    button = QPushButton(text)
    button.setObjectName(name)
    button.clicked.connect(call)
    return button


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

    def make(self, kind: str) -> bool:
        """Ask for a name and write the paper of ``kind``, one of ``PAPERS``; False when it is not written after all."""
        from bicentra.study.papers.writing import ready_problem

        host, paper = self._host, PAPERS[kind]
        solution = host.study.solution
        problem = ready_problem(solution, kind)
        if problem:
            dialogs.warn(host.frame, "Nothing to print or export yet", problem)
            return False
        stem = host.study.path.name.removesuffix(".bicentra.json") if host.study.path else "job"
        suffix = Path(paper.ending).suffix
        name = paper_name(stem, kind, host.study.job.corner)
        folder = host.study.path.parent if host.study.path else Path.home()
        path = dialogs.ask_save(host.frame, folder / name, paper.title, f"{paper.title} (*{suffix})")
        if path is None:
            return False
        target = path if path.suffix else path.with_suffix(suffix)
        if target != path and target.exists() and not dialogs.ask_over(host.frame, target):
            return False
        self.write(kind, target)
        return True

    def print(self) -> None:
        """Look at a paper and print it; the sheet in the printer is remembered."""

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
        from bicentra.study.papers.writing import paper_imprint, today, write_paper

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

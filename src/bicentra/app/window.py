"""The main window: header, strip of panels, the line-up bench, the line that says what to do next."""

from collections.abc import Callable
from functools import partial
from html import escape
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QSettings, Qt, QTimer
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QMenu,
    QProgressBar,
    QPushButton,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from bicentra.app import dialogs, workers
from bicentra.app.actions import ACTIONS, TYPED_IN, action_of, is_letter, make_actions, take_typing
from bicentra.app.assessor import Assessor
from bicentra.app.bench import Bench
from bicentra.app.benches import BENCHES, Benches
from bicentra.app.corners import CornerSwitch
from bicentra.app.files import FileKeeper
from bicentra.app.lineup.bench import LineupBench
from bicentra.app.panels.panel import Panel
from bicentra.app.papers import PaperMaker, paper_menu
from bicentra.app.sheets import Sheets
from bicentra.app.theme import LOOKS, Look, apply_look
from bicentra.app.widgets.elided_label import ElidedLabel
from bicentra.app.widgets.plain import plain_label, rich_label, tip
from bicentra.core.base.finding import Edit
from bicentra.study.document.next_step import NextStep, next_step
from bicentra.study.document.study import Study
from bicentra.study.papers.papers import PAPERS

if TYPE_CHECKING:
    from bicentra.app.library_keeper import LibraryKeeper

MESSAGE_MS, CLOSING_MS = 9000, 1500


class MainWindow(QWidget):
    """The workshop in the window's frame. It owns the study and passes changes on; everything else shows or asks."""

    def __init__(self, study: Study, settings: QSettings) -> None:
        super().__init__()
        self.settings = settings
        self.look: Look = LOOKS.get(str(settings.value("look", "light")), LOOKS["light"])
        self.study = study
        self.bench = LineupBench(self.look, settings)
        self._library: LibraryKeeper | None = None
        self.assessor = Assessor(self, lambda: self.front.is_pulled())  # noqa: PLW0108 - the bench in front changes
        self.files = FileKeeper(self)
        self.papers = PaperMaker(self)
        self.corners = CornerSwitch(self)
        self._next = NextStep("")
        self._watched: list[workers.Task] = []
        self.sheets = Sheets(lambda: self.study.job)
        self.sheets.committed.connect(self._commit)
        self.sheets.structural.connect(self.change)
        self.sheets.library_wanted.connect(lambda kind: self.library.take(kind))  # noqa: PLW0108 - loaded when first wanted
        self.sheets.keep_wanted.connect(lambda kind: self.library.keep(kind))  # noqa: PLW0108 - loaded when first wanted
        self.actions_by_name = make_actions(self, self._calls())
        self._build()
        self._message_timer = QTimer(self)
        self._message_timer.setSingleShot(True)
        self._message_timer.timeout.connect(lambda: self._say(""))
        self.take(study)
        self.resize(1280, 800)
        self.bench.face.setFocus()
        self.setMinimumSize(900, 560)

    def _calls(self) -> dict[str, Callable[[], object]]:
        return {
            "new": self.files.new, "open": self.files.open, "demo": self.files.demo, "save": self.files.save,
            "save_as": self.files.save_as, "quit": self._quit,
            **{action_of(kind): partial(self.papers.make, kind) for kind in PAPERS},
            "undo": self._undo, "redo": self._redo,
            "units": self.switch_units, "look": self.switch_look, "fit": self.fit,
            "survey": lambda: self.show_bench("survey"), "lineup": lambda: self.show_bench("lineup"),
            "parts": lambda: self.show_bench("parts"), "bracket": lambda: self.show_bench("bracket"),
            "best_clock": self.to_best_clock, "next": self.do_next,
            "zoom_in": lambda: self.zoom(1.2), "zoom_out": lambda: self.zoom(1 / 1.2),
            "face": lambda: self._go_to(self.bench.face), "section": lambda: self._go_to(self.bench.section),
            "findings": lambda: self._go_to(self.bench.list),
            "corner": self.corners.to_next,
            "find_field": lambda: self.sheets.find_field(self),
            "keys": lambda: dialogs.show_keys(self),
        }  # fmt: skip

    # Building ----------------------------------------------------------------------------------

    def _build(self) -> None:
        self.setObjectName("desk")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 6, 8, 6)
        column.setSpacing(6)
        column.addLayout(self._header())
        middle = QHBoxLayout()
        middle.setSpacing(6)
        middle.addLayout(self._strip())
        middle.addWidget(self.sheets)
        self._connect(self.bench)
        self.benches = Benches(self.bench, self._furnish)
        middle.addWidget(self.benches, 1)
        column.addLayout(middle, 1)
        column.addLayout(self._footer())

    def _header(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        row.addWidget(self._menu_button("Job", ("new", "open", "demo", "save", "save_as", "quit"), recent=True))
        self.title = ElidedLabel()
        self.title.setObjectName("head")
        row.addWidget(self.title, 1)
        row.addWidget(self.corners.button(self.actions_by_name["corner"].toolTip()))
        self._buttons: dict[str, QToolButton] = {}
        for name, text in (
            ("undo", "Undo"),
            ("redo", "Redo"),
            ("units", "mm"),
            ("look", "Dark"),
            ("fit", "Fit"),
            ("best_clock", "Best clock"),
        ):
            button = QToolButton()
            button.setText(text)
            button.setToolTip(self.actions_by_name[name].toolTip())
            button.setAccessibleName(self.actions_by_name[name].text())
            button.clicked.connect(self.actions_by_name[name].trigger)
            self._buttons[name] = button
            row.addWidget(button)
        row.addWidget(self._menu_button("Take away", paper_menu(), recent=False))
        keys = QToolButton()
        keys.setText("?")
        keys.setAccessibleName("All keys")
        keys.setToolTip(self.actions_by_name["keys"].toolTip())
        keys.clicked.connect(self.actions_by_name["keys"].trigger)
        row.addWidget(keys)
        return row

    def _menu_button(self, text: str, names: tuple[str | tuple[str, ...], ...], recent: bool) -> QToolButton:
        button = QToolButton()
        button.setText(f"{text}  ↓")
        button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(button)
        for name in names:
            if isinstance(name, tuple):
                below = menu.addMenu(name[0])
                below.addActions([self.actions_by_name[one] for one in name[1:]])
                continue
            menu.addAction(self.actions_by_name[name])
            if recent and name == "demo":
                self._recent = menu.addMenu("Recent jobs")
                self._recent.aboutToShow.connect(lambda: self.files.fill_recent(self._recent))
        button.setMenu(menu)
        return button

    def _strip(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(6)
        self._bench_buttons: dict[str, QToolButton] = {}
        for name, title, help_text, _ in BENCHES:
            button = QToolButton()
            button.setObjectName("bench")
            button.setText(title)
            button.setCheckable(True)
            button.setToolTip(f"{help_text}  ({next(a.key for a in ACTIONS if a.name == name)})")
            button.setAccessibleName(f"Bench {title}")
            button.setFixedSize(74, 44)
            button.clicked.connect(lambda _checked=False, name=name: self.show_bench(name))
            self._bench_buttons[name] = button
            column.addWidget(button)
        self._bench_buttons["lineup"].setChecked(True)
        column.addSpacing(14)
        for sheet_button in self.sheets.buttons.values():
            column.addWidget(sheet_button)
        column.addStretch(1)
        return column

    def _footer(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(8)
        self.message = plain_label()
        self.message.setObjectName("wrong")
        self.message.setWordWrap(True)
        self.message.hide()
        self.next_label = rich_label()
        self.next_label.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.next_label.setWordWrap(True)
        self.next_label.setAccessibleName("What to do next")
        self.next_button = QPushButton("Do it")
        self.next_button.setObjectName("primary")
        self.next_button.clicked.connect(self.do_next)
        self.progress = QProgressBar()
        self.progress.setFixedWidth(190)
        self.progress.hide()
        self.cancel_button = QPushButton("Cancel")
        self.cancel_button.hide()
        self.cancel_button.clicked.connect(self._cancel_watched)
        row.addWidget(self.next_label, 3)
        row.addWidget(self.next_button)
        row.addWidget(self.message, 2)
        row.addWidget(self.progress)
        row.addWidget(self.cancel_button)
        return row

    # Showing -----------------------------------------------------------------------------------

    def _furnish(self, make: type[Bench]) -> Bench:
        """Return a new bench, at work on the study."""
        bench = make(self.look, self.settings)
        self._connect(bench)
        bench.show_study(self.study)
        return bench

    def _connect(self, bench: Bench) -> None:
        bench.refused.connect(self.refused)
        bench.told.connect(lambda text: self.say(text, wrong=False))
        bench.changed.connect(self.show_next)
        bench.bench_wanted.connect(self.show_bench)

    @property
    def frame(self) -> QWidget:
        """What dialogs stand before."""
        return self

    def change(self, label: str, edits: tuple[Edit, ...]) -> bool:
        """Carry out ``edits`` as one step; a refusal is shown."""
        return self.bench.change(label, edits)

    @property
    def front(self) -> Bench:
        """The bench in front."""
        return self.benches.named(self.benches.front)

    def show_bench(self, name: str) -> None:
        """Bring a bench to the front: survey, parts or lineup."""
        bench = self.benches.bring(name)
        for key, button in self._bench_buttons.items():
            button.setChecked(key == name)
        self._buttons["best_clock"].setVisible(name == "lineup")
        bench.refresh()
        self._next = NextStep("")
        self.show_next()
        bench.take_focus()

    @property
    def library(self) -> "LibraryKeeper":
        """What takes parts from the library, loaded when it is first asked for."""
        if self._library is None:
            from bicentra.app.library_keeper import LibraryKeeper

            self._library = LibraryKeeper(self)
        return self._library

    def fit(self) -> None:
        """Show everything on the bench in front."""
        self.front.fit()

    def begin(self, from_library: bool) -> None:
        """Begin with a new job: rotor and caliper from the library, if so, then the first size on the drawing."""
        self.show_bench("lineup")
        for kind in ("rotor", "caliper") if from_library else ():
            self.library.take(kind)
        self.show_next()
        if self.bench.next_sentence():
            QTimer.singleShot(0, self.bench.do_next)  # once the window has the keys again

    def to_best_clock(self) -> None:
        """Turn the caliper to the best angle, where it is in sight: on another bench the key does nothing unseen."""
        if self.benches.front != "lineup":
            self._say("The best clock angle is found on the line-up bench (F7)", wrong=False)
        else:
            self.bench.to_best_clock()

    def zoom(self, factor: float) -> None:
        """Enlarge or shrink the drawing in front."""
        view_state = self.front.view_state
        view_state.set_scale(view_state.scale * factor)

    def take(self, study: Study) -> None:
        """Work on ``study`` from now on."""
        self.study = study
        study.changed.append(self.refresh)
        self.bench.show_study(study)
        for bench in self.benches.others:
            bench.show_study(study)
        self.assessor.show_study(study)
        self.refresh()
        self.bench.choose(study.solution.findings[0].id)

    def refresh(self) -> None:
        """Show the study as it stands."""
        study = self.study
        self.front.refresh()
        self.assessor.changed()
        job = study.job
        name = job.title or "Untitled job"
        mark = "• " if study.modified else ""
        where = f" · {study.path.name}" if study.path else " · not saved yet"
        title = f"{mark}{name}{where}"
        self.corners.show(job)
        if title != self.title.text():  # a label lays out the whole header again even for the same text
            self.title.setText(title)
            self.title.setToolTip(tip(title + ("" if not study.modified else "\n• unsaved changes")))
            self.setWindowTitle(f"{mark}{name} – Bicentra")
        for key, label in (("undo", study.undo_label), ("redo", study.redo_label)):
            self._buttons[key].setEnabled(bool(label))
            self._buttons[key].setToolTip(tip(f"{key.capitalize()}: {label}") if label else f"Nothing to {key}")
        self._buttons["units"].setText("mm" if job.display_units == "mm" else "inch")
        self._buttons["look"].setText("Dark" if self.look.name == "light" else "Light")
        if not self.front.is_pulled():
            self.show_next()
        self.sheets.refresh()
        self.files.changed()

    def event(self, event: QEvent) -> bool:
        """Let a letter be typed where letters are taken, in a list or a choice too: it is no command there."""
        if (
            event.type() == QEvent.Type.ShortcutOverride
            and is_letter(event)
            and isinstance(self.focusWidget(), TYPED_IN)
        ):
            event.accept()
            return True
        return super().event(event)

    def show_next(self) -> None:
        """Say what to do next: what the bench in front asks for, else what the findings do."""
        asked = self.front.next_sentence()
        before, self._next = self._next, NextStep(asked) if asked else next_step(self.study.solution)
        if before.sentence == self._next.sentence:
            return
        self.next_label.setText(f"<span style='font-weight:600'>Next:</span> {escape(self._next.sentence)}")
        self.next_button.setText(
            "Do it"
            if self._next.remedy or self.benches.front in ("parts", "bracket")
            else "Type it"
            if asked and self.benches.front == "lineup"
            else "Show"
            if self._next.finding or asked
            else "Template…"
        )

    @property
    def panels(self) -> dict[str, Panel]:
        """The sheets of the parts that have been opened, by name."""
        return self.sheets.made

    def show_panel(self, name: str) -> None:
        """Open the sheet called ``name``, or fold it away when it is open."""
        self.sheets.show_sheet(name)

    # Doing -------------------------------------------------------------------------------------

    def _go_to(self, widget: QWidget) -> None:
        if self.benches.front != "lineup":
            self.show_bench("lineup")
        widget.setFocus()

    def _commit(self, path: str, value: object) -> None:
        named = self.sheets.label_of(path)
        label = f"Change {named[0].lower()}{named[1:]}" if named else f"Change {path}"
        if self.bench.change(label, ((path, value),)):
            self.sheets.settled(path)

    def refused(self, path: str, message: str) -> None:
        """Show a refusal at the field it is about, and in the footer."""
        self.sheets.refuse(path, message.removeprefix(f"{path}: "))
        self._say(f"Not taken: {message}")

    def _say(self, message: str, wrong: bool = True) -> None:
        name = "wrong" if wrong else "faint"
        if self.message.objectName() != name:
            self.message.setObjectName(name)
            self.message.style().unpolish(self.message)
            self.message.style().polish(self.message)
        self.message.setText(message)
        self.message.setVisible(bool(message))
        if message:
            self._message_timer.start(MESSAGE_MS)

    def say(self, message: str, wrong: bool = True) -> None:
        """Show a message in the footer for a while; one that tells of nothing ``wrong`` is calm."""
        self._say(message, wrong)

    def do_next(self) -> None:
        """Do what the footer says."""
        step = self._next
        if self.front.next_sentence():
            self.front.do_next()
        elif step.remedy is not None:
            self.bench.change(step.remedy.action, step.remedy.edits)
        elif step.finding is not None and step.finding.id == "survey-agreement":
            self.show_bench("survey")
        elif step.finding is not None:
            self.bench.choose(step.finding.id)
            self.bench.list.setFocus()
        else:
            self.papers.make("pdf")

    def _quit(self) -> None:
        self.window().close()

    def _undo(self) -> None:
        self.study.undo()

    def _redo(self) -> None:
        self.study.redo()

    def switch_units(self) -> None:
        """Show millimetres or inches; what was measured stays as it is."""
        units = "in" if self.study.job.display_units == "mm" else "mm"
        self.bench.change(f"Show {'inches' if units == 'in' else 'millimetres'}", (("display_units", units),))

    def switch_look(self) -> None:
        """Change between light and dark."""
        self.look = LOOKS["dark" if self.look.name == "light" else "light"]
        self.settings.setValue("look", self.look.name)
        app = QApplication.instance()
        if isinstance(app, QApplication):
            apply_look(app, self.look)
        self.bench.dress(self.look)
        for bench in self.benches.others:
            bench.dress(self.look)
        self.refresh()

    def watch(self, task: workers.Task) -> None:
        """Show the progress of a task in the footer with a button to cancel it, and start it."""
        self.progress.setRange(0, 100)
        self.progress.setValue(0)
        self.progress.setFormat(task.label)
        self.progress.show()
        self.cancel_button.show()
        self._watched.append(task)
        task.signals.progressed.connect(self._progressed)
        for over in (task.signals.finished, task.signals.failed, task.signals.stopped):
            over.connect(partial(self._over, task))
        task.signals.failed.connect(self.say)
        workers.start(task)

    def _progressed(self, part: float, text: str) -> None:
        self.progress.setValue(int(part * 100))
        if text:
            self.progress.setFormat(text)

    def _cancel_watched(self) -> None:
        for task in self._watched:
            task.cancel()

    def _over(self, task: workers.Task, *_: object) -> None:
        self._watched = [one for one in self._watched if one is not task]
        self.progress.setVisible(bool(self._watched))
        self.cancel_button.setVisible(bool(self._watched))

    def closeEvent(self, event: QCloseEvent) -> None:
        """Take what is being typed, ask about unsaved changes; close only when they are saved or given up.

        Papers still being written are told to stop: a window that closes does not wait for them.
        """
        take_typing(self)
        if not self.files.may_leave():
            event.ignore()
            return
        self.benches.let_go()
        self.files.closing()
        workers.stop_all(CLOSING_MS)
        event.accept()

"""The main window: header, strip of panels, the line-up bench, the line that says what to do next."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QSettings, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QApplication, QHBoxLayout, QVBoxLayout, QWidget

from bicentra.app import dialogs, workers
from bicentra.app.actions import TYPED_IN, action_of, is_letter, make_actions
from bicentra.app.bench import Bench
from bicentra.app.bench_list import BENCHES
from bicentra.app.benches import BenchBar, Benches
from bicentra.app.drawing.view import DrawingView
from bicentra.app.files import FileKeeper, dropped_job
from bicentra.app.footer import Footer
from bicentra.app.header import CornerSwitch, Header
from bicentra.app.lineup.bench import LineupBench
from bicentra.app.papers import PaperMaker
from bicentra.app.sheets import Sheets
from bicentra.app.single_instance import SingleInstance
from bicentra.app.theme import Look, apply_look, for_the_shop, for_window, look_of
from bicentra.app.widgets.typed import drop_typing, take_typing
from bicentra.app.workers import Assessor, MissingFinder
from bicentra.core.base.finding import Edit
from bicentra.core.parts.edits import label_at, spoken
from bicentra.study.document.brakes import DRUM
from bicentra.study.document.cover import bench_states
from bicentra.study.document.leading import Place, lead
from bicentra.study.document.next_step import NextStep
from bicentra.study.document.study import Study
from bicentra.study.papers.papers import PAPERS

if TYPE_CHECKING:
    from bicentra.app.panels.panel import Panel
    from bicentra.app.part_dialog import LibraryKeeper

CLOSING_MS = 1500
STATES_MS = 40
"""From the first painting of the window to the marks on its rail: what they need is loaded only then [ms]."""


class MainWindow(QWidget):
    """The workshop in the window's frame. It owns the study and passes changes on; everything else shows or asks."""

    def __init__(self, study: Study, settings: QSettings) -> None:
        super().__init__()
        self.settings = settings
        self.look: Look = look_of(str(settings.value("look", "light")), str(settings.value("text", "1")))
        self.study = study
        self.bench = LineupBench(self.look, settings)
        self._library: LibraryKeeper | None = None
        self.missing = MissingFinder(self, self.show_next)
        self.assessor = Assessor(self, lambda: self.front.is_pulled())  # noqa: PLW0108 - the bench in front changes
        self.files = FileKeeper(self)
        self.papers = PaperMaker(self)
        self.bell = SingleInstance(self, self.come_forward)
        self._next = NextStep("")
        self._seen = False
        self.sheets = Sheets(lambda: self.study, self.look)
        self.sheets.turned.connect(self._sheet_turned)
        self.sheets.committed.connect(self._commit)
        self.sheets.structural.connect(self.change)
        self.sheets.library_wanted.connect(lambda kind: self.library.take(kind))  # noqa: PLW0108 - loaded when first wanted
        self.sheets.keep_wanted.connect(lambda kind: self.library.keep(kind))  # noqa: PLW0108 - loaded when first wanted
        self.actions_by_name = make_actions(self, self._calls())
        self.corners = CornerSwitch(self, self.actions_by_name["corner"].toolTip())
        self._build()
        self.take(study)
        self.resize(1280, 800)
        self.bench.face.setFocus()
        self.setMinimumSize(900, 560)
        self.setAcceptDrops(True)

    def _calls(self) -> dict[str, Callable[[], object]]:
        return {
            "new": self.files.new, "open": self.files.open, "demo": self.files.demo, "practice": self.practise,
            "save": self.files.save,
            "save_as": self.files.save_as, "start": self.close_job, "quit": lambda: self.window().close(),
            **{action_of(kind): partial(self.papers.make, kind) for kind in PAPERS},
            "print": self.papers.print,
            "undo": lambda: self.study.undo(),  # noqa: PLW0108 - another study may be open by then
            "redo": lambda: self.study.redo(),  # noqa: PLW0108 - another study may be open by then
            "units": self.switch_units, "settings": self.change_settings, "look": self.switch_look,
            "shop": self.switch_shop, "fit": self.fit,
            **{bench.name: partial(self.show_bench, bench.name) for bench in BENCHES},
            "best_clock": self.to_best_clock, "next": self.do_next,
            "fit_key": self.fit, "history": lambda: dialogs.show_history(self, self.study),
            "zoom_in": lambda: self.zoom(1.2), "zoom_out": lambda: self.zoom(1 / 1.2),
            "face": lambda: self._show_view(self.bench.face), "section": lambda: self._show_view(self.bench.section),
            "findings": lambda: self._go_to(self.bench.list),
            "corner": lambda: self.corners.to_next(),  # noqa: PLW0108 - made after the actions
            "sheets": lambda: self.sheets.ask(self),
            "find_field": lambda: self.sheets.find_field(self),
            "keys": lambda: dialogs.show_keys(self),
            "help": self.show_help, "about": lambda: dialogs.show_about(self),
        }  # fmt: skip

    # Building ----------------------------------------------------------------------------------

    def _build(self) -> None:
        self.setObjectName("desk")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 6, 8, 6)
        column.setSpacing(6)
        self.header = Header(
            self.actions_by_name, self.corners, self.files.fill_recent, self.files.fill_examples, self.sheets.fill_menu
        )
        self.footer = Footer()
        self.footer.wanted.connect(self.do_step)
        column.addWidget(self.header)
        middle = QHBoxLayout()
        middle.setSpacing(6)
        self.bench_bar = BenchBar()
        self.bench_bar.chosen.connect(self.show_bench)
        self.bench_bar.show_front("lineup")
        middle.addWidget(self.bench_bar)
        middle.addWidget(self.sheets, 1)
        self._connect(self.bench)
        self.benches = Benches(self.bench, self._furnish)
        middle.addWidget(self.benches, 1)
        column.addLayout(middle, 1)
        column.addWidget(self.footer)

    # Showing -----------------------------------------------------------------------------------

    def _furnish(self, make: type[Bench]) -> Bench:
        """Return a new bench, at work on the study."""
        bench = make(self.look, self.settings)
        self._connect(bench)
        bench.show_study(self.study)
        return bench

    def _connect(self, bench: Bench) -> None:
        bench.refused.connect(self.refused)
        bench.message.connect(lambda text: self.say(text, wrong=False))
        bench.changed.connect(self.show_next)
        bench.bench_wanted.connect(self.show_bench)
        bench.sheet_wanted.connect(self.sheets.open_for)
        bench.action_wanted.connect(lambda name: self.actions_by_name[name].trigger())

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
        """Bring a bench to the front, by its name; a sheet that lies over the benches is folded away.

        A name that no bench has (from old or foreign settings) brings the line-up.
        """
        name = name if any(place.name == name for place in BENCHES) else "lineup"
        self.sheets.fold()
        bench = self.benches.bring(name)
        self._furnished(True)
        self._show_title()
        self.settings.setValue("bench", name)
        self.bench_bar.show_front(name)
        self.header.show_bench(name)
        bench.refresh()
        self._next = NextStep("")
        self.show_next()
        bench.take_focus()

    def show_start(self) -> None:
        """Show the start sheet: no job is open."""
        from bicentra.app.start.bench import StartBench

        known = self.benches.has("start")
        sheet = self.benches.bring("start")
        if not known and isinstance(sheet, StartBench):
            sheet.called.connect(lambda name: self.actions_by_name[name].trigger())
            sheet.example_wanted.connect(self.files.example)
            sheet.file_wanted.connect(lambda path: self.files.may_leave() and self.files.open_path(path))
        self._furnished(False)
        self.header.title.setText("")
        self.setWindowTitle("Bicentra")
        if isinstance(sheet, StartBench):
            sheet.read()
        sheet.take_focus()

    def _sheet_turned(self, there: bool) -> None:
        """A sheet lies over the benches, or has been folded away again."""
        self.benches.setVisible(not there)
        if not there:
            self.front.refresh()
            self.front.take_focus()

    def show_help(self) -> None:
        """Open the help page of what is in front."""
        from bicentra.app.help import show_help

        practising = self.benches.front == "trialfit" and self.study.job.practice_run is not None
        show_help(self, "sheets" if self.sheets.open else "practice" if practising else self.benches.front)

    def close_job(self) -> None:
        """Leave the job, saved or given up, and go back to the start sheet."""
        if self.files.may_leave():
            self.files.leave()
            self.show_start()

    def _furnished(self, there: bool) -> None:
        """Show or hide what a job is worked on with: nothing of it stands round the start sheet."""
        self.bench_bar.setVisible(there)
        self.footer.setVisible(there)
        self.header.show_tools(there)
        if not there:
            self.sheets.fold()

    @property
    def library(self) -> "LibraryKeeper":
        """What takes parts from the library, loaded when it is first asked for."""
        if self._library is None:
            from bicentra.app.part_dialog import LibraryKeeper

            self._library = LibraryKeeper(self)
        return self._library

    def fit(self) -> None:
        """Show everything on the bench in front, or of the part whose sheet is open."""
        if self.sheets.open:
            self.sheets.page.fit()
        else:
            self.front.fit()

    def begin(self, from_library: bool) -> None:
        """Begin with a new job: rotor and caliper from the library, if so, then the first size on the drawing."""
        self.show_bench("lineup")
        for kind in ("rotor", "caliper") if from_library else ():
            self.library.take(kind)
        self.show_next()
        if self._next.path:
            QTimer.singleShot(0, self.do_next)  # once the window has the keys again

    def practise(self) -> None:
        """Ask for a practice corner, the level of the one that is open proposed, and open it on the trial fit bench."""
        run = self.study.job.practice_run
        if self.files.practise(run.level if run is not None else 1):
            self.show_bench("trialfit")

    def to_best_clock(self) -> None:
        """Turn the caliper to the best angle, where it is in sight: on another bench the key does nothing unseen."""
        if self.benches.front != "lineup":
            self.say("The best clock angle is found on the line-up bench (Ctrl+4)", wrong=False)
        else:
            self.bench.to_best_clock()

    def zoom(self, factor: float) -> None:
        """Enlarge or shrink the drawing in front."""
        view_state = self.sheets.page.view_state if self.sheets.open else self.front.view_state
        view_state.set_scale(view_state.scale * factor)

    def take(self, study: Study) -> None:
        """Work on ``study`` from now on; what is typed and was not taken belongs to the job that goes."""
        drop_typing(self)
        self.study = study
        self.corners.forget()
        study.changed.append(self.refresh)
        study.ask_brake = lambda axle, brake: dialogs.ask_brake(self, axle, brake == DRUM)
        self.bell.hang(study.path)
        self.bench.show_study(study)
        for bench in self.benches.others:
            bench.show_study(study)
        self.assessor.show_study(study)
        self.refresh()
        self.bench.choose(study.solution.findings[0].id)
        if self.benches.front == "start":
            self.show_bench(str(self.settings.value("bench", "lineup")))

    def refresh(self) -> None:
        """Show the study as it stands."""
        self.front.refresh()
        self.assessor.changed()
        self._show_title()
        if not self.front.is_pulled():
            self.show_next()
            self.show_states()
        self.sheets.refresh()
        self.files.changed()

    def _show_title(self) -> None:
        """Say what is open: nothing on the start sheet, whatever is still worked out behind it."""
        title = self.header.show_study(self.study, self.look) if self.benches.front != "start" else "Bicentra"
        if title != self.windowTitle():
            self.setWindowTitle(title)

    def show_states(self) -> None:
        """Show on the rail how every bench stands; not before the window has been painted once: the drawing comes first."""
        if not self._seen:
            return
        findings = self.study.solution.findings
        if self.study.brake == DRUM:  # nothing is fitted at a drum: what is asked of it is the pedal's
            findings = ()
        asked = (*findings, *self.study.trial_findings, *self.study.pedal_findings)
        self.bench_bar.show_states(bench_states(self.study.job, asked), self.look, self.height())
        self.corners.show_worst(findings)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Fold the rail to its marks where the window is low."""
        super().resizeEvent(event)
        self.show_states()
        plain = look_of(self.look.name.split()[-1], str(self.settings.value("text", "1")))
        if not self.look.in_shop and for_window(plain, self.width(), self.height()) is not self.look:
            self._dress(self.look.name.split()[-1], False)

    def event(self, event: QEvent) -> bool:
        """Let a letter be typed where letters are taken, in a list or a choice too: it is no command there."""
        if event.type() == QEvent.Type.Paint and not self._seen:
            self._seen = True
            QTimer.singleShot(STATES_MS, self.show_states)
        if (
            event.type() == QEvent.Type.ShortcutOverride
            and is_letter(event)
            and isinstance(self.focusWidget(), TYPED_IN)
        ):
            event.accept()
            return True
        return super().event(event)

    def show_next(self) -> None:
        """Say what to do next, with a button that leads on, and another where there are two ways."""
        place = Place(bench=self.benches.front, own=self.front.own_step(), may_leave=self.front.may_leave)
        before, self._next = self._next, lead(self.study, place)
        if self._next != before:
            self.footer.show_next(self._next)
        if self.study.missing is None and self.study.doubted:
            self.missing.look(self.study)

    @property
    def panels(self) -> "dict[str, Panel]":
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

    def _show_view(self, view: DrawingView) -> None:
        self._go_to(view)
        self.bench.show_view(view)

    def _commit(self, path: str, value: object) -> None:
        named = self.sheets.label_of(path)
        label = f"Change {named[0].lower()}{named[1:]}" if named else f"Change {label_at(self.study.job, path)}"
        if self.bench.change(label, ((path, value),)):
            self.sheets.settled(path)

    def refused(self, path: str, message: str) -> None:
        """Show a refusal at the field it is about, and in the footer."""
        self.sheets.refuse(path, message.removeprefix(f"{path}: "))
        self.say(f"Not taken: {spoken(self.study.job, message)}")

    def say(self, message: str, wrong: bool = True) -> None:
        """Show a message in the footer for a while; one that tells of nothing ``wrong`` is calm."""
        self.footer.say(message, wrong)

    def watch(self, task: workers.Task) -> None:
        """Show the progress of a task in the footer, and start it."""
        self.footer.watch(task)

    def do_next(self) -> None:
        """Do what the foot of the window says."""
        self.do_step(self._next)

    def do_step(self, step: NextStep) -> None:
        """Do what a button at the foot says; what it showed is not said again."""
        if step.seen and not step.paper:
            self.study.seen.add(step.seen)
        self.say("")
        if step.own:
            self.front.do_next()
        elif step.corner:
            self.study.go_to(step.corner)
        elif step.remedy is not None:
            self.bench.change(step.remedy.action, step.remedy.edits)
        elif step.paper:
            if self.papers.make(step.paper):  # a paper that was not written after all is offered again
                self.study.seen.add(step.seen)
        elif step.bench:
            self.show_bench(step.bench)
        else:
            self._on_lineup(step)
        self.show_next()

    def _on_lineup(self, step: NextStep) -> None:
        """Do what is done on the line-up: type a size, ask for what is missing, plan, look at a finding."""
        if self.benches.front != "lineup" or self.sheets.open:
            self.show_bench("lineup")
        if step.path:
            self.bench.ask_for(step.path)
        elif step.measure:
            self.bench.ask_for_missing()
        elif step.plan:
            self.bench.plan_remedies()
        elif step.finding is not None:
            self.bench.choose(step.finding.id)
            self.bench.list.setFocus()

    def switch_units(self) -> None:
        """Show millimetres or inches; what was measured stays as it is."""
        units = "in" if self.study.job.display_units == "mm" else "mm"
        self.bench.change(f"Show {'inches' if units == 'in' else 'millimetres'}", (("display_units", units),))

    def switch_look(self) -> None:
        """Change between light and dark."""
        self._dress("dark" if not self.look.name.endswith("dark") else "light", self.look.in_shop)

    def change_settings(self) -> None:
        """Ask for the settings and use them: the units as a step of the job, the rest for this user."""
        from bicentra.app.settings_dialog import ask_settings

        units = ask_settings(self, self.settings, self.study.job.display_units, self.look.name.split()[-1])
        if units is not None:
            if units != self.study.job.display_units:
                self.switch_units()
            self._dress(str(self.settings.value("look", "light")), self.look.in_shop)
            self.fit()

    def switch_shop(self) -> None:
        """Change to the shop view and back: large, few controls, the sheets folded away."""
        self.sheets.fold()
        self._dress(self.look.name.split()[-1], not self.look.in_shop)
        self.fit()

    def _dress(self, name: str, in_shop: bool) -> None:
        plain = look_of(name, str(self.settings.value("text", "1")))
        self.look = for_the_shop(plain) if in_shop else for_window(plain, self.width(), self.height())
        self.settings.setValue("look", name)
        app = QApplication.instance()
        if isinstance(app, QApplication):
            apply_look(app, self.look)
        self.header.show_few(in_shop)
        self.bench.dress(self.look)
        self.sheets.dress(self.look)
        for bench in self.benches.others:
            bench.dress(self.look)
        self.refresh()

    def come_forward(self) -> None:
        """Somebody has opened this window's file again: show it."""
        frame = self.window()
        frame.setWindowState(frame.windowState() & ~Qt.WindowState.WindowMinimized)
        frame.raise_()
        frame.activateWindow()
        self.say("This job was opened again: here it is.", wrong=False)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Take a job's file that is dropped on the window."""
        if dropped_job(event.mimeData()) is not None:
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Open the job that was dropped."""
        path = dropped_job(event.mimeData())
        take_typing(self)
        if path is not None and self.files.may_leave():
            event.acceptProposedAction()
            self.files.open_path(path)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Escape that nothing else has use for goes back: from a part's sheet to the bench, from a pane to the findings."""
        if event.key() == Qt.Key.Key_Escape and self.sheets.open:
            self.sheets.fold()
        elif event.key() != Qt.Key.Key_Escape or not self.front.go_back():
            super().keyPressEvent(event)

    def closeEvent(self, event: QCloseEvent) -> None:
        """Take what is being typed, ask about unsaved changes; close only when they are saved or given up.

        Papers still being written are reported to stop: a window that closes does not wait for them.
        """
        take_typing(self)
        if not self.files.may_leave():
            event.ignore()
            return
        self.benches.let_go()
        self.files.closing()
        self.bell.take_down()
        workers.stop_all(CLOSING_MS)
        event.accept()

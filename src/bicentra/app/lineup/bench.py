"""The line-up bench: both sightlines in step, the findings beside them, the ring of feasible clock windows."""

from functools import cached_property
from typing import TYPE_CHECKING, TypeVar

from PySide6.QtCore import QRectF, QSettings, Qt, QTimer
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
)

from bicentra.app import workers
from bicentra.app.drawing.fit import shared_widths
from bicentra.app.drawing.view import DrawingView, Nudge
from bicentra.app.drawn_bench import DrawnBench
from bicentra.app.theme import Look
from bicentra.app.widgets.fields import FieldOver
from bicentra.app.widgets.finding_column import FindingColumn, pane_width
from bicentra.app.widgets.findings import FindingDetail
from bicentra.core.base.errors import BicentraError, QuantityError
from bicentra.core.base.finding import Edit, Finding, Remedy, Verdict
from bicentra.core.base.wording import units_of
from bicentra.core.drawing.model import Drawing, Handle
from bicentra.core.drawing.views.face import face_view
from bicentra.core.drawing.views.section import section_view
from bicentra.core.evaluation.solution import Solution
from bicentra.core.inputs.required_inputs import RequiredInput
from bicentra.core.parts.edits import label_at
from bicentra.study.desks.lineup import CHANGES, LineupDesk, plan_label
from bicentra.study.document.study import Study

if TYPE_CHECKING:
    from bicentra.app.lineup.missing_pane import MissingPane
    from bicentra.app.lineup.planner import PlannerPane
    from bicentra.app.lineup.side_pane import SidePane
    from bicentra.core.search.clock import ClockSearch
    from bicentra.core.search.planner import RemedyPlan

Pane = TypeVar("Pane", bound="SidePane")
EXAMPLE = "Dashed: example only, not measured"
DRUMS = "Drum brake: nothing is fitted here"
SEARCH_DELAY_MS, DETAIL_DELAY_MS, PULLED_DELAY_MS = 180, 120, 300
FACE_NUDGES = {
    Qt.Key.Key_Left: Nudge("fit.clock_deg", -0.25, "Turn the caliper"),
    Qt.Key.Key_Right: Nudge("fit.clock_deg", 0.25, "Turn the caliper"),
    Qt.Key.Key_Up: Nudge("fit.pad_inset_mm", -0.1, "Move the caliper outward"),
    Qt.Key.Key_Down: Nudge("fit.pad_inset_mm", 0.1, "Move the caliper inward"),
}
SECTION_NUDGES = {
    Qt.Key.Key_Left: Nudge("fit.rotor_spacer_mm", -0.1, "Thin the rotor spacer"),
    Qt.Key.Key_Right: Nudge("fit.rotor_spacer_mm", 0.1, "Thicken the rotor spacer"),
    Qt.Key.Key_Up: Nudge("fit.pad_inset_mm", -0.1, "Move the caliper outward"),
    Qt.Key.Key_Down: Nudge("fit.pad_inset_mm", 0.1, "Move the caliper inward"),
}


class LineupBench(DrawnBench):
    """Everything of the line-up. Changes go to the study; ``refused`` carries a message when one is not taken."""

    def __init__(self, look: Look, settings: QSettings) -> None:
        super().__init__(look, settings)
        self.desk: LineupDesk | None = None
        self._task: workers.Task | None = None
        self._chosen = ""
        self.pulling = False
        self._missing: tuple[RequiredInput, ...] = ()
        self.face = DrawingView("Along the axle, seen from outboard", self.view_state, FACE_NUDGES)
        self.section = DrawingView("Across the rotor, cut at the caliper", self.view_state, SECTION_NUDGES)
        self.drawings = (self.face, self.section)
        self._build_findings(look)
        self.lists, self.dressed = ((self.list, self.painter),), (self.detail,)
        self._pair, left, row = QHBoxLayout(), QVBoxLayout(), QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        for layout in (self._pair, left, row):
            layout.setSpacing(6)
        self._pair.addWidget(self.face, 1)
        self._pair.addWidget(self.section, 1)
        left.addLayout(self._pair, 1)
        left.addWidget(self.detail)
        row.addLayout(left, 1)
        row.addWidget(self._side)
        self._search_timer = self._timer(SEARCH_DELAY_MS, self._start_search)
        self._detail_timer = self._timer(DETAIL_DELAY_MS, self._show_detail)
        self._field = FieldOver(self)
        for view in (self.face, self.section):
            view.margins = True
            view.opened.connect(self.sheet_wanted)
            view.dragged.connect(self._drag)
            view.released.connect(self._release)
            view.cancelled.connect(self._cancel)
            view.nudged.connect(self._nudge)
            view.typed_over.connect(self._type_over)
            view.picked.connect(self._pick)
            view.fit_wanted.connect(self.fit)

    def _timer(self, delay: int, call: object) -> QTimer:
        timer = QTimer(self)
        timer.setSingleShot(True)
        timer.setInterval(delay)
        timer.timeout.connect(call)
        return timer

    def _build_findings(self, look: Look) -> None:
        self._side = QStackedWidget()
        self._side.setObjectName("desk")
        self.column = FindingColumn(look, "Findings, worst first")
        self.column.folded.connect(self._widen)
        self._side.addWidget(self.column)
        self._side.currentChanged.connect(self._widen)
        self.summary, self.model = self.column.summary, self.column.model
        self.list, self.painter = self.column.list, self.column.painter
        self.list.selectionModel().currentChanged.connect(self._choose)
        self.detail = FindingDetail()
        self.column.entered.connect(self.detail.take_keys)
        self.detail.tried.connect(self._try)
        self.plan_button = QPushButton("Plan remedies")
        self.plan_button.setToolTip("Combines remedies until everything is fixed; preview them in the drawings first")
        self.plan_button.clicked.connect(self.plan_remedies)
        self.measure_button = QPushButton("What to measure next")
        self.measure_button.setToolTip("Every missing size with a field to type it in, most useful first")
        self.measure_button.clicked.connect(self.ask_for_missing)
        self.ladder_button = QPushButton("Bars")
        self.ladder_button.setCheckable(True)
        self.ladder_button.setToolTip(
            "Every gap against its limit as a bar: the tick is the limit, to its right is room"
        )
        self.ladder_button.toggled.connect(self.show_ladder)
        for button in (self.ladder_button, self.plan_button, self.measure_button):
            self.column.add_tool(button)

    @cached_property
    def planner(self) -> "PlannerPane":
        """The pane of the plans, made when it is first opened."""
        from bicentra.app.lineup.planner import PlannerPane

        pane = PlannerPane()
        pane.looked.connect(self._look_at)
        pane.accepted.connect(self._accept)
        return self._beside(pane)

    @cached_property
    def missing(self) -> "MissingPane":
        """The pane of what to measure next, made when it is first opened."""
        from bicentra.app.lineup.missing_pane import MissingPane

        pane = MissingPane()
        pane.committed.connect(self._take_missing)
        return self._beside(pane)

    def _beside(self, pane: "Pane") -> "Pane":
        pane.failed.connect(lambda message: self.refused.emit("", message))
        pane.closed.connect(lambda: self._side.setCurrentIndex(0))
        self._side.addWidget(pane)
        return pane

    def _opened(self, pane: str) -> bool:
        """Tell whether one of the panes beside the drawings has been made."""
        return pane in self.__dict__

    def show_ladder(self, there: bool) -> None:
        """Show every gap against its limit as a bar, or in words again."""
        self.model.as_ladder = there
        self.list.viewport().update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Give the findings their part of the bench, and the drawings the rest as their parts are wide."""
        self._widen()
        super().resizeEvent(event)

    def _widen(self) -> None:
        """Give the side its width: the column's own while that is in front, a pane's otherwise."""
        size, wide = self.view_state.look.size, self.width()
        in_words = self._side.currentWidget() is not self.column
        side = pane_width(wide, size) if in_words else self.column.width_in(wide, size)
        self._side.setFixedWidth(side)
        if all(not view.isHidden() for view in self.drawings):
            widths = shared_widths(self.drawings, max(wide - side - 2 * self._pair.spacing(), 1))
            for place, part in enumerate(widths):
                self._pair.setStretch(place, part)

    def fit(self) -> None:
        """Show both sightlines whole, each as wide as its parts ask for."""
        self._widen()
        self._pair.activate()
        super().fit()

    # Showing -----------------------------------------------------------------------------------

    @property
    def study(self) -> Study | None:
        """The study worked on."""
        return self.desk.study if self.desk is not None else None

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on."""
        self.desk = LineupDesk(study)
        if self._opened("planner"):
            self.planner.stop()
        self._side.setCurrentIndex(0)
        self._chosen = ""
        self.view_state.fitted = True
        self.refresh()
        self.fit()

    def refresh(self) -> None:
        """Draw the study as it stands."""
        desk = self.desk
        if desk is None:
            return
        solution, ring, values = desk.solution, desk.ring, desk.values()
        previewed = desk.preview is not None
        missing = desk.required_inputs if not self.pulling else ()
        for view in (self.face, self.section):
            view.note = "Preview, not accepted yet" if previewed else ""
        if desk.keeps_drums:
            self.face.note = self.section.note = DRUMS
        elif missing and not previewed:
            self.face.note = self.section.note = EXAMPLE
        job = solution.job
        flip, units = -1.0 if job.is_left else 1.0, units_of(job.display_units)
        along, across = _ghosts(solution, missing) if missing else self._views(solution)
        self.face.show_drawing(along, values, flip, units)
        self.section.show_drawing(across, values, 1.0, units)
        if missing != self._missing:  # a ghost takes its true size, or the bracket appears: show it whole
            self._missing = missing
            self.plan_button.setVisible(not missing)
            if self.view_state.fitted:
                self.fit()
            self.changed.emit()
        if not self.pulling:
            self._show_list()
            if self._opened("missing"):
                self.missing.follow()
        if ring is None and not previewed:
            self._search_timer.start()
        if not self._detail_timer.isActive():
            self._detail_timer.start(PULLED_DELAY_MS if self.pulling else DETAIL_DELAY_MS)

    def _views(self, solution: Solution) -> tuple[Drawing, Drawing]:
        """Return both sightlines; what has to go of castings is worked out once nothing is pulled any more."""
        desk = self.desk
        if desk is None:
            return face_view(solution), section_view(solution)
        reliefs = () if self.pulling else desk.reliefs
        return face_view(solution, desk.rolled(self.pulling), reliefs), section_view(solution)

    def _show_list(self) -> None:
        """Bring the list of findings up to date; while something is pulled, a few times a second are enough."""
        if self.study is not None:
            shown = () if self.desk is not None and self.desk.keeps_drums else self.study.solution.findings
            self.model.show(shown, units_of(self.study.job.display_units))
            self._keep_choice()

    def dress(self, look: Look) -> None:
        """Show the bench in ``look``; in the shop one drawing, large, and the findings as their marks."""
        in_shop = look.in_shop
        turned = in_shop != self.view_state.look.in_shop
        super().dress(look)
        if turned:
            self.column.fold_button.setChecked(in_shop)
            self.show_view(self.face)

    def show_view(self, view: DrawingView) -> None:
        """Bring a drawing in sight and give it the keys: in the shop it stands alone."""
        in_shop = self.view_state.look.in_shop
        for one in self.drawings:
            one.setVisible(not in_shop or one is view)
        self.fit()
        view.setFocus()

    def is_pulled(self) -> bool:
        """Whether a handle of either drawing is being pulled."""
        return self.pulling

    def go_back(self) -> bool:
        """Go back from a pane to the findings."""
        here = self._side.currentWidget()
        for name in ("planner", "missing"):
            if self._opened(name) and getattr(self, name) is here:
                getattr(self, name).close_it()
                return True
        return False

    def take_focus(self) -> None:
        """Give the keyboard to the view along the axle."""
        self.face.setFocus()

    def _keep_choice(self) -> None:
        """Keep the chosen finding chosen wherever it has moved to; the worst one at first."""
        row = max(self.model.row_of(self._chosen), 0)
        if self.list.currentIndex().row() != row:
            self.list.selectionModel().blockSignals(True)
            self.list.setCurrentIndex(self.model.index(row))
            self.list.selectionModel().blockSignals(False)
            self.list.viewport().update()

    def current(self) -> Finding | None:
        """Return the chosen finding."""
        row = self.list.currentIndex().row()
        return self.model.findings[row] if 0 <= row < len(self.model.findings) else None

    def choose(self, id: str) -> None:
        """Choose the finding called ``id``."""
        row = self.model.row_of(id)
        if row >= 0:
            self.list.setCurrentIndex(self.model.index(row))

    def _choose(self) -> None:
        finding = self.current()
        if finding is not None:
            self._chosen = finding.id
            self.view_state.light(frozenset(finding.features))
            self._show_detail()

    def _show_detail(self) -> None:
        self._show_list()
        finding, desk = self.current(), self.desk
        if finding is None or desk is None:
            return
        if not self._chosen:
            self._chosen = finding.id
        self.view_state.light(frozenset(finding.features))
        self.detail.show_finding(finding, units_of(desk.study.job.display_units))
        self.summary.setText(desk.counts())
        self.measure_button.setVisible(any(f.verdict is Verdict.UNKNOWN for f in self.model.findings))

    def ask_for_missing(self) -> None:
        """Show every missing size with a field to type it in."""
        if self.desk is not None:
            self._side.setCurrentWidget(self.missing)
            self.missing.look = self.view_state.look
            self.missing.open_for(self.desk)

    def _take_missing(self, path: str, value: object) -> None:
        try:
            if self.study is not None:
                self.study.edit(f"Set {path.split('.')[-1].rsplit('_', 1)[0].replace('_', ' ')}", ((path, value),))
        except BicentraError as error:
            self.missing.refuse(path, str(error))

    # Planning ----------------------------------------------------------------------------------

    def plan_remedies(self) -> None:
        """Look for combinations of remedies for the job as it stands."""
        if self.desk is not None:
            self._side.setCurrentWidget(self.planner)
            self.planner.open_for(self.desk)

    def _look_at(self, plan: "RemedyPlan | None") -> None:
        """Show the drawings as a plan would have them; the job stays as it is."""
        if self.desk is not None:
            self.desk.look_at(plan)
            self.refresh()

    def _accept(self, plan: "RemedyPlan") -> None:
        """Take a plan into the job, as one step."""
        self._side.setCurrentIndex(0)
        if not self.change(plan_label(plan), plan.edits):
            self.refresh()

    # Changing ----------------------------------------------------------------------------------

    def change(self, label: str, edits: tuple[Edit, ...], group: str = "", quick: bool = False) -> bool:
        """Carry out ``edits``; a refusal is passed on with the key path it is about."""
        desk = self.desk
        if desk is None:
            return False
        desk.look_at(None)
        try:
            desk.study.edit(label, edits, group, quick)
        except BicentraError as error:
            self.refused.emit(getattr(error, "path", ""), str(error))
            return False
        return True

    def _drag(self, handle: Handle, value: float) -> None:
        self.pulling = True
        label = CHANGES.get(handle.path, handle.name)
        self.change(label, ((handle.path, value),), f"drag {handle.path}", quick=True)

    def _release(self) -> None:
        self.pulling = False
        if self.study is not None:
            self.study.end_group()
        self._show_detail()

    def _cancel(self) -> None:
        self.pulling = False
        if self.study is not None:
            for path in CHANGES:
                self.study.cancel_group(f"drag {path}")

    def _nudge(self, nudge: Nudge, step: float) -> None:
        edits = self.desk.nudged(nudge.path, step) if self.desk is not None else ()
        if edits:
            self.change(nudge.label, edits, f"nudge {nudge.path}")

    def _try(self, remedy: Remedy) -> None:
        self.change(remedy.action, remedy.edits)

    def _pick(self, tag: str) -> None:
        """Choose the worst finding that speaks of the feature that was clicked."""
        found = next((f for f in self.model.findings if tag in f.features), None)
        if found is not None:
            self.choose(found.id)

    # Typing on the drawing ---------------------------------------------------------------------

    def _type_over(self, path: str, rect: QRectF) -> None:
        """Open a field over a dimension."""
        view = self.sender()
        if self.desk is not None and isinstance(view, DrawingView):
            shown = self.desk.shown(path)
            self._field.open(
                view,
                rect,
                shown,
                f"New value for {label_at(self.desk.study.job, path)}",
                lambda text: self._take_typed(path, text),
            )

    def _take_typed(self, path: str, text: str) -> bool:
        if self.desk is None:
            return True
        try:
            label, edits = self.desk.typed(path, text)
        except QuantityError as error:
            self.refused.emit(path, str(error))
            return False
        asked = path in {blank.path for blank in self.desk.required_inputs}
        taken = self.change(label, edits)
        if taken and asked:
            QTimer.singleShot(0, lambda: self._ask_after(path))
        return taken

    def _ask_after(self, path: str) -> None:
        """Ask for the missing measurement that is taken next."""
        blank = self.desk.blank_after(path) if self.desk is not None else None
        if blank is not None:
            self.ask_for(blank.path)
        else:
            self.face.setFocus()

    def ask_for(self, path: str) -> None:
        """Ask for the size at ``path`` to be typed where it is measured."""
        from bicentra.core.drawing.views.example import ALONG

        (self.section if ALONG.fullmatch(path) else self.face).ask(path)

    # The ring of windows -----------------------------------------------------------------------

    def _start_search(self) -> None:
        """Search the clock in a thread; an older search that still runs is stopped."""
        if self.desk is None:
            return
        if self._task is not None:
            self._task.cancel()
        look = self.desk.look_round()
        task = workers.Task("Clock search", lambda running: look(running.report))
        task.signals.finished.connect(self._searched_all)
        task.signals.failed.connect(self._search_failed)
        self._task = task
        workers.start(task)

    def _searched_all(self, found: "ClockSearch | None") -> None:
        """Show what was found; an answer about a job that has changed since is let go."""
        if self.desk is not None and self.desk.take_ring(found):
            self.refresh()

    def _search_failed(self, message: str) -> None:
        self.refused.emit("", message)

    def to_best_clock(self) -> None:
        """Turn the caliper to the best angle of all windows."""
        if self.desk is None or not self.desk.looked_round:
            self.refused.emit("", "The clock angles are still being searched: press again in a moment")
            return
        edits = self.desk.best_clock()
        if not edits:
            self.refused.emit(
                "", "No clock angle makes a feasible bracket with these parts: look at the findings, worst first"
            )
            return
        self.change("Turn the caliper to the best clock angle", edits)


def _ghosts(solution: Solution, missing: tuple[RequiredInput, ...]) -> tuple[Drawing, Drawing]:
    """Return the dashed example along the axle and across the rotor, drawn only while something is missing."""
    from bicentra.core.drawing.views.example import example_face, example_section

    return example_face(solution, missing), example_section(solution, missing)

"""The line-up bench: both sightlines in step, the findings beside them, the ring of feasible clock windows."""

from dataclasses import replace

from PySide6.QtCore import QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from bicentra.app import workers
from bicentra.app.drawing.view import DrawingView, Nudge
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.lineup.planner import PlannerPane
from bicentra.app.theme import Look
from bicentra.app.widgets.field_over import FieldOver
from bicentra.app.widgets.finding_detail import FindingDetail
from bicentra.app.widgets.findings_model import FindingsModel
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.row import RowPainter, row_list
from bicentra.core.base.errors import BicentraError, QuantityError
from bicentra.core.base.finding import Finding, Remedy
from bicentra.core.base.numbers import known
from bicentra.core.base.quantities import ANGLE, LENGTH, edit_text, parse_quantity
from bicentra.core.base.wording import units_of
from bicentra.core.drawing.face_view import face_view
from bicentra.core.drawing.model import Handle
from bicentra.core.drawing.section_view import section_view
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.job import Job
from bicentra.core.search.clock import ClockSearch, search_clock
from bicentra.core.search.planner import Plan
from bicentra.study.document.study import Study

ROOM_PX = (36.0, 110.0)
SIDE_PX = (236, 336)
SEARCH_DELAY_MS, DETAIL_DELAY_MS = 180, 120
FACE_NUDGES = {
    Qt.Key.Key_Left: Nudge("fit.clock_deg", -0.25, "Turn the caliper"),
    Qt.Key.Key_Right: Nudge("fit.clock_deg", 0.25, "Turn the caliper"),
    Qt.Key.Key_Up: Nudge("fit.pad_inset_mm", -0.1, "Move the caliper outward"),
    Qt.Key.Key_Down: Nudge("fit.pad_inset_mm", 0.1, "Move the caliper inward"),
}
SECTION_NUDGES = {
    Qt.Key.Key_Left: Nudge("fit.rotor_spacer_mm", -0.1, "Thin the plate behind the rotor"),
    Qt.Key.Key_Right: Nudge("fit.rotor_spacer_mm", 0.1, "Thicken the plate behind the rotor"),
    Qt.Key.Key_Up: Nudge("fit.pad_inset_mm", -0.1, "Move the caliper outward"),
    Qt.Key.Key_Down: Nudge("fit.pad_inset_mm", 0.1, "Move the caliper inward"),
}
HANDLE_LABELS = {
    "fit.clock_deg": "Turn the caliper", "fit.rotor_spacer_mm": "Change the plate behind the rotor",
    "fit.pad_inset_mm": "Change the pad inset", "bracket.thickness_mm": "Change the plate's thickness",
}  # fmt: skip


class LineupBench(QWidget):
    """Everything of the line-up. Changes go to the study; ``refused`` carries a message when one is not taken."""

    refused = Signal(str, str)

    def __init__(self, look: Look) -> None:
        super().__init__()
        self.setObjectName("desk")
        self.study: Study | None = None
        self.search: ClockSearch | None = None
        self.view_state = ViewState()
        self.view_state.look = look
        self._searched: Job | None = None
        self._searching: Job | None = None
        self._task: workers.Task | None = None
        self._planned_for: Job | None = None
        self._chosen = ""
        self.preview: Plan | None = None
        self.pulling = False
        self.face = DrawingView("Along the axle, seen from outboard", self.view_state, FACE_NUDGES)
        self.section = DrawingView("Across the rotor, cut at the caliper", self.view_state, SECTION_NUDGES)
        self._build_findings(look)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        row.addWidget(self.face, 61)
        row.addWidget(self.section, 39)
        row.addWidget(self._side)
        self._search_timer = self._timer(SEARCH_DELAY_MS, self._start_search)
        self._detail_timer = self._timer(DETAIL_DELAY_MS, self._show_detail)
        self._field = FieldOver(self)
        for view in (self.face, self.section):
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
        self._side.setFixedWidth(SIDE_PX[1])
        page = QWidget()
        self.planner = PlannerPane()
        self.planner.looked.connect(self._look_at)
        self.planner.accepted.connect(self._accept)
        self.planner.failed.connect(lambda message: self.refused.emit("", message))
        self.planner.closed.connect(lambda: self._side.setCurrentIndex(0))
        self._side.addWidget(page)
        self._side.addWidget(self.planner)
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        self.summary = plain_label()
        self.summary.setObjectName("head")
        self.summary.setWordWrap(True)
        self.model = FindingsModel()
        self.painter = RowPainter(self.model.row_at, look)
        self.list = row_list(self.model, self.painter, "Findings, worst first")
        self.list.selectionModel().currentChanged.connect(self._choose)
        self.detail = FindingDetail()
        self.detail.tried.connect(self._try)
        self._scroll = QScrollArea()
        self._scroll.setAccessibleName("The chosen finding: why, and what can be done")
        self._scroll.setWidgetResizable(True)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._scroll.setWidget(self.detail)
        self.plan_button = QPushButton("Plan remedies")
        self.plan_button.setToolTip(
            "Puts remedies together until everything is cleared, to be looked at in the drawings first"
        )
        self.plan_button.clicked.connect(self.plan_remedies)
        head = QHBoxLayout()
        head.addWidget(self.summary, 1)
        head.addWidget(self.plan_button)
        column.addLayout(head)
        column.addWidget(self.list, 5)
        column.addWidget(self._scroll, 5)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Give the findings a third of the bench, within bounds."""
        self._side.setFixedWidth(min(max(self.width() * 37 // 100, SIDE_PX[0]), SIDE_PX[1]))
        super().resizeEvent(event)

    # Showing -----------------------------------------------------------------------------------

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on."""
        self.study = study
        self.search, self._searched = None, None
        self.planner.stop()
        self._side.setCurrentIndex(0)
        self._chosen = ""
        self.view_state.fitted = True
        self.refresh()
        self.fit()

    def dress(self, look: Look) -> None:
        """Show the bench in ``look``."""
        self.painter.look = self.detail.scale.look = look
        self.view_state.dress(look)
        self.list.viewport().update()

    def refresh(self) -> None:
        """Draw the study as it stands."""
        if self.study is None:
            return
        if self.preview is not None and self._planned_for is not self.study.job:
            self.preview = None
        solution = self.study.solution if self.preview is None else self.preview.solution
        job = solution.job
        values = {
            path: known(get_value(job, path)) for path in ("fit.clock_deg", "fit.pad_inset_mm", "fit.rotor_spacer_mm")
        }
        values["bracket.thickness_mm"] = solution.assembly.stack_up.thickness
        search = self.search if self._searched == without_clock(job) else None
        for view in (self.face, self.section):
            view.told = "Preview, not taken yet" if self.preview is not None else ""
        flip = -1.0 if job.is_left else 1.0
        units = units_of(job.display_units)
        self.face.show_drawing(face_view(solution, search), values, flip, units)
        self.section.show_drawing(section_view(solution), values, 1.0, units)
        if not self.pulling:
            self._show_list()
        if search is None and self.preview is None:
            self._search_timer.start()
        if not self._detail_timer.isActive():
            self._detail_timer.start()

    def _show_list(self) -> None:
        """Bring the list of findings up to date; while something is pulled, a few times a second are enough."""
        if self.study is not None:
            self.model.show(self.study.solution.findings, units_of(self.study.job.display_units))
            self._keep_choice()

    def fit(self) -> None:
        """Show both drawings whole, at the largest scale that serves both."""
        if self.face.drawing is not None:
            for view in (self.face, self.section):
                view.centre()
            scale = min(self.face.fit_scale(ROOM_PX), self.section.fit_scale(ROOM_PX))
            self.view_state.set_scale(scale, fitted=True)

    def next_sentence(self) -> str:
        """Return nothing: what to do next on this bench is said by the findings."""
        return ""

    def do_next(self) -> None:
        """Do nothing of its own: see ``next_sentence``."""

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
            self._scroll.verticalScrollBar().setValue(0)

    def _show_detail(self) -> None:
        self._show_list()
        finding, study = self.current(), self.study
        if finding is None or study is None:
            return
        if not self._chosen:
            self._chosen = finding.id
        self.view_state.light(frozenset(finding.features))
        self.detail.show_finding(finding, units_of(study.job.display_units))
        counts = [(sum(v.value == value for v in study.solution.verdicts), word)
                  for value, word in (("stop", "stop"), ("unknown", "not known"), ("caution", "watch"), ("ok", "met"))]  # fmt: skip
        self.summary.setText(" · ".join(f"{count}\u00a0{word}" for count, word in counts if count))

    # Planning ----------------------------------------------------------------------------------

    def plan_remedies(self) -> None:
        """Look for combinations of remedies for the job as it stands."""
        if self.study is not None:
            self._side.setCurrentWidget(self.planner)
            self.planner.open_for(self.study.job)

    def _look_at(self, plan: Plan | None) -> None:
        """Show the drawings as a plan would have them; the job stays as it is."""
        self.preview = plan
        if self.study is not None:
            self._planned_for = self.study.job
            self.refresh()

    def _accept(self, plan: Plan) -> None:
        """Take a plan into the job, as one step."""
        self.preview = None
        self._side.setCurrentIndex(0)
        actions = "; ".join(step.action for step in plan.steps)
        if not self.change(actions if len(actions) <= 120 else actions[:117] + "…", plan.edits):
            self.refresh()

    # Changing ----------------------------------------------------------------------------------

    def change(self, label: str, edits: tuple[tuple[str, object], ...], group: str = "", quick: bool = False) -> bool:
        """Carry out ``edits``; a refusal is passed on with the key path it is about."""
        if self.study is None:
            return False
        self.preview = None
        try:
            self.study.edit(label, edits, group, quick)
        except BicentraError as error:
            self.refused.emit(getattr(error, "path", ""), str(error))
            return False
        return True

    def _drag(self, handle: Handle, value: float) -> None:
        self.pulling = True
        edits: list[tuple[str, object]] = [(handle.path, value)]
        self.change(HANDLE_LABELS.get(handle.path, handle.name), tuple(edits), f"drag {handle.path}", quick=True)

    def _release(self) -> None:
        self.pulling = False
        if self.study is not None:
            self.study.end_group()
        self._show_detail()

    def _cancel(self) -> None:
        self.pulling = False
        if self.study is not None:
            for path in HANDLE_LABELS:
                self.study.cancel_group(f"drag {path}")

    def _nudge(self, nudge: Nudge, step: float) -> None:
        if self.study is None:
            return
        value = get_value(self.study.job, nudge.path)
        if value is not None:
            turned = (value + step) % 360.0 if nudge.path == "fit.clock_deg" else value + step
            self.change(nudge.label, ((nudge.path, round(turned, 4)),), f"nudge {nudge.path}")

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
        if self.study is None or not isinstance(view, DrawingView):
            return
        value = get_value(self.study.job, path)
        if path == "bracket.thickness_mm" and value is None:
            value = self.study.solution.assembly.stack_up.thickness
        kind = ANGLE if path.endswith("_deg") else LENGTH
        shown = edit_text(value, kind, units_of(self.study.job.display_units))
        self._field.open(view, rect, shown, f"New value for {path}", lambda text: self._take_typed(path, text))

    def _take_typed(self, path: str, text: str) -> bool:
        study = self.study
        if study is None:
            return True
        kind = ANGLE if path.endswith("_deg") else LENGTH
        try:
            unit = study.job.display_units if kind is LENGTH else ""
            value = parse_quantity(text, kind, unit)
        except QuantityError as error:
            self.refused.emit(path, str(error))
            return False
        plain = path.split(".")[-1].rsplit("_", 1)[0].replace("_", " ")
        return self.change(HANDLE_LABELS.get(path, f"Change {plain}"), ((path, value),))

    # The ring of windows -----------------------------------------------------------------------

    def _start_search(self) -> None:
        """Search the clock in a thread; an older search that still runs is stopped."""
        if self.study is None:
            return
        if self._task is not None:
            self._task.cancel()
        job = self.study.job
        self._searching = without_clock(job)
        task = workers.Task("Clock search", lambda running: search_clock(job, progress=running.report))
        task.signals.finished.connect(self._searched_all)
        task.signals.failed.connect(self._search_failed)
        self._task = task
        workers.start(task)

    def _searched_all(self, found: ClockSearch | None) -> None:
        """Show what was found; an answer about a job that has changed since is let go."""
        if found is not None and self.study is not None and without_clock(self.study.job) == self._searching:
            self.search, self._searched = found, self._searching
            self.refresh()

    def _search_failed(self, message: str) -> None:
        self.refused.emit("", message)

    def to_best_clock(self) -> None:
        """Turn the caliper to the best angle of all windows."""
        best = self.search.best if self.search is not None else None
        if best is None:
            self.refused.emit(
                "", "No clock angle makes a feasible bracket with these parts: look at the findings, worst first"
            )
            return
        self.change("Turn the caliper to the best clock angle", (("fit.clock_deg", best.best),))


def without_clock(job: Job) -> Job:
    """Return the job with its clock angle left out: what the search depends on."""
    return replace(job, fit=replace(job.fit, clock_deg=0.0), title="", notes="", display_units="mm")

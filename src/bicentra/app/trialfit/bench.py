"""The trial fit bench: the slot with its gaps and shims, the next shims, the box, the findings, the lock, the log."""

import math

from PySide6.QtCore import QRectF, QSettings, Qt, QTimer
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from bicentra.app import dialogs
from bicentra.app.drawing.view import DrawingView
from bicentra.app.gauges.strip import GaugeStrip
from bicentra.app.theme import Look
from bicentra.app.trialfit.hands import Hands, PracticeStrip, TrialFrame
from bicentra.app.trialfit.held_side import HeldSide, StockBox
from bicentra.app.trialfit.lock_page import LockPage
from bicentra.app.trialfit.move_card import MoveCard
from bicentra.app.trialfit.timeline import Stop, Timeline
from bicentra.app.widgets.basics import scrolled, select_tab, tab_row
from bicentra.app.widgets.fields import FieldOver
from bicentra.app.widgets.finding_column import FindingColumn
from bicentra.app.widgets.findings import FindingDetail
from bicentra.app.widgets.photos import photo_of
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import is_known
from bicentra.core.base.wording import units_of
from bicentra.core.drawing.model import Handle
from bicentra.core.drawing.views.slot import LARGER, slot_view
from bicentra.core.parts.edits import label_at
from bicentra.core.parts.trial import GAPS, Trial
from bicentra.core.trialfit.log import CornerState
from bicentra.study.desks.practice import Answer, PracticeDesk, answer_text
from bicentra.study.desks.survey import ReadingAsk
from bicentra.study.desks.trialfit import TrialDesk
from bicentra.study.document.study import Study

SHARE, SIDE_PX = 27, (280, 340)
"""Part of the bench that what stands beside the slot takes [%], and its bounds [px]."""
PAGES = (("move", "Shims"), ("held", "Set-up"), ("asked", "Findings"), ("lock", "Lock"))


class TrialfitBench(TrialFrame):
    """Everything of the trial fit. Changes go to the study; ``refused`` carries a message when one is not taken."""

    def __init__(self, look: Look, settings: QSettings) -> None:
        super().__init__(look, settings)
        self.desk: TrialDesk | None = None
        self._pulled = False
        self.view = DrawingView("The slot, seen from its opening", self.view_state, {})
        self.view.margins = True
        self.view.exaggeration = f"gaps and shims × {LARGER:g}"
        self.view.title = f"The slot, seen from its opening: {self.view.exaggeration}"
        self.card, self.box, self.held, self.line = MoveCard(), StockBox(), HeldSide(), Timeline(look)
        self.strip = PracticeStrip()
        self.gauge = GaugeStrip(settings, self._gap_ask)
        self.practice: PracticeDesk | None = None
        self.answer: Answer | None = None
        self.hands = Hands(self)
        self.lock_page = LockPage()
        self.column = FindingColumn(look, "Findings of the trial")
        self.model, self.list = self.column.model, self.column.list
        self.column.folded.connect(self._widen)
        self.detail = FindingDetail()
        self.column.entered.connect(self.detail.take_keys)
        self._field = FieldOver(self)
        self.drawings, self.lists, self.dressed = (
            (self.view,),
            ((self.list, self.column.painter),),
            (self.line, self.detail),
        )
        column, middle = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        for layout in (column, middle):
            layout.setSpacing(6)
        left = QVBoxLayout()
        left.setSpacing(6)
        left.addWidget(self.view, 1)
        left.addWidget(self.detail)
        middle.addLayout(left, 1)
        middle.addWidget(self._side())
        column.addWidget(self.strip)
        column.addLayout(middle, 1)
        column.addLayout(self._foot())
        self._connect()

    # Building -----------------------------------------------------------------------------------

    def _side(self) -> QWidget:
        self._side_box = QWidget()
        self._side_box.setObjectName("desk")
        column = QVBoxLayout(self._side_box)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        self.state = plain_label()
        self.state.setObjectName("head")
        self.state.setWordWrap(True)
        column.addWidget(self.state)
        tabs = QHBoxLayout()
        self.pages = QStackedWidget()
        self.tabs = tab_row(tabs, PAGES, self.show_page)
        tabs.addStretch(1)
        column.addLayout(tabs)
        move = QWidget()
        move.setObjectName("desk")
        inside = QVBoxLayout(move)
        inside.setContentsMargins(0, 0, 0, 0)
        inside.setSpacing(6)
        inside.addWidget(self.card)
        inside.addWidget(self.box)
        inside.addWidget(self.gauge)
        inside.addStretch(1)
        for page in (scrolled(move), scrolled(self.held), self.column, self.lock_page):
            self.pages.addWidget(page)
        column.addWidget(self.pages, 1)
        self.show_page("move")
        return self._side_box

    def _foot(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        row.addWidget(self.line, 1)
        buttons = QVBoxLayout()
        buttons.setSpacing(4)
        self.begin_button = QPushButton("Begin a trial")
        self.begin_button.setToolTip("Shims and box as they are now, gaps empty")
        self.lock_button = QPushButton("Lock the corner")
        self.lock_button.setToolTip("Keeps the final stack; needs every reading, and every bolt in its final state")
        self.photo_button = QPushButton("Photo…")
        self.photo_button.setToolTip("A photo of this trial, kept beside the job")
        for button in (self.begin_button, self.lock_button, self.photo_button):
            buttons.addWidget(button)
        row.addLayout(buttons)
        return row

    def _connect(self) -> None:
        self.view.typed_over.connect(self._type_over)
        self.view.dragged.connect(self._drag)
        self.view.released.connect(self._release)
        self.view.cancelled.connect(self._cancel)
        self.view.fit_wanted.connect(self.fit)
        self.card.done.connect(self.do_move)
        self.strip.read.connect(self.hands.read)
        self.strip.inspected.connect(self.hands.inspect)
        self.strip.ended.connect(self.hands.show_answer)
        self.card.asked.connect(self.hands.read_again)
        self.lock_page.wanted.connect(self.hands.go_to)
        self.lock_page.ticked.connect(self.hands.tick)
        self.card.turned.connect(self._turn)
        self.card.put_back.connect(self._cancel)
        self.box.counted.connect(
            lambda thick, count: self.attempt(lambda desk: desk.set_stock(thick, count, f"stock {thick:g}"))
        )
        self.box.added.connect(self._add)
        self.held.given.connect(self.hands.set)
        self.held.refused.connect(self.refused)
        self.line.chosen.connect(self.show_trial)
        self.gauge.reading.connect(self.gauged)
        self.begin_button.clicked.connect(self.begin)
        self.lock_button.clicked.connect(self.lock)
        self.photo_button.clicked.connect(self.photo)
        self.column.chosen.connect(self._choose)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Give the side its part of the bench."""
        self._widen()
        super().resizeEvent(event)

    def _widen(self) -> None:
        """Give the side its width: less where only the marks of the findings are left."""
        folded = self.is_asked and self.column.is_folded
        for widget in (self.state, *self.tabs.values()):
            widget.setHidden(folded)
        wide, size = self.width(), self.view_state.look.size
        most = round(SIDE_PX[1] * size)
        side = self.column.width_in(wide, size) if folded else min(max(wide * SHARE // 100, SIDE_PX[0]), most)
        self._side_box.setFixedWidth(side)

    @property
    def is_asked(self) -> bool:
        """Whether the findings are in front."""
        return self.pages.currentWidget() is self.column

    # Showing ------------------------------------------------------------------------------------

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on."""
        self.desk = TrialDesk(study)
        self.practice, self.answer = PracticeDesk(self.desk), None
        self.refresh()
        self.fit()

    def show_page(self, name: str) -> None:
        """Show the next shims, how it is set up, the findings, or what the lock needs."""
        select_tab(self.tabs, name)
        self.pages.setCurrentIndex([page for page, _ in PAGES].index(name))
        self.detail.setVisible(self.is_asked)
        self._widen()

    def show_finding(self, id: str) -> None:
        """Show the findings, the one with ``id`` chosen where it is asked."""
        self.show_page("asked")
        ids = [finding.id for finding in self.model.findings]
        if id in ids:
            self.list.setCurrentIndex(self.model.index(ids.index(id)))
        self.list.setFocus()

    def show_trial(self, number: int) -> None:
        """Show an earlier trial, or the last."""
        if self.desk is not None:
            self.desk.number, self.desk.preview, self.desk.place = number, None, 0
            self.refresh()

    def refresh(self) -> None:
        """Show the trials as they stand."""
        desk = self.desk
        if desk is None:
            return
        self._show_drawing()
        self._show_practice()
        job, fit = desk.study.job, desk.fit
        units = units_of(job.display_units)
        self.card.show_desk(desk)
        open_now = desk.is_last and desk.trial is not None and not desk.trial.locked
        self.box.show_trial(desk.trial, desk.lengths, open_now)
        self.held.show_trial(desk.trial, units, job.caliper.action == "floating")
        self.held.setEnabled(open_now)
        self.column.show_findings(fit.findings if fit is not None else (), units)
        self.state.setText(self._state_text())
        self.line.show_stops(
            tuple(self._stop(k, t) for k, t in enumerate(desk.trials)), desk.shown, self.view_state.look
        )
        locked = fit is not None and fit.trial.locked
        checked = desk.trial.checked if desk.trial is not None else ()
        self.lock_page.show_needs(desk.needs if desk.is_last else (), checked, locked)
        self.lock_button.setText("Open the lock" if locked else "Lock the corner")
        self.lock_button.setEnabled(fit is not None and desk.is_last)
        self.photo_button.setEnabled(desk.trial is not None)
        self.changed.emit()

    def _show_drawing(self) -> None:
        desk = self.desk
        if desk is None:
            return
        trial, move = desk.trial, desk.move
        preview = (
            desk.preview if desk.preview is not None else move.plan if move is not None and not move.stays else None
        )
        thought = desk.preview
        truth = self.answer.pose if self.answer is not None and desk.is_last else None
        drawing = slot_view(desk.study.job, trial or Trial(), max(desk.shown, 0), desk.fit, preview, thought, truth)
        values = {handle.path: desk.height_of(handle.path) for handle in drawing.handles}
        self.view.note = "" if trial is not None else "Nothing tried yet: dashed example"
        self.view.show_drawing(drawing, values, 1.0, units_of(desk.study.job.display_units))

    def _state_text(self) -> str:
        desk = self.desk
        fit = desk.fit if desk is not None else None
        if desk is None or fit is None:
            return "Not tried"
        standing = fit.standing
        text = f"{standing.state.value.capitalize()}"
        if standing.broken:
            text += f": the lock is broken: {' and '.join(standing.broken)} changed"
        elif standing.state is not CornerState.LOCKED:
            many = len(standing.missing)
            text += (
                f", {many} item{'' if many == 1 else 's'} to finish before locking" if many else ", ready to be locked"
            )
        return f"Trial {desk.shown + 1}: {text}" if desk.is_last else f"Trial {desk.shown + 1}, an earlier one"

    def _stop(self, number: int, trial: Trial) -> Stop:
        desk = self.desk
        if desk is None:
            return Stop("", "", math.nan, math.nan)
        pose, limits = desk.stood(trial)
        offset, tilt = pose.offset.value, pose.tilt.value
        text = "gaps not read yet"
        if pose.against:
            offset, tilt, text = math.nan, math.nan, "gaps do not agree"
        elif trial.read_before and not is_known(offset):
            text = "read before a change"
        if is_known(offset):
            text = f"{desk.lengths.gap(offset)} {'out' if offset >= 0 else 'in'}"
            text += f", {tilt:+.2f}°" if is_known(tilt) else ""
        title = f"{number + 1}  {trial.taken}".rstrip()
        return Stop(title, text, offset / limits.offset, tilt / limits.tilt, trial.locked)

    def take_focus(self) -> None:
        """Show the whole slot, and give it the keyboard."""
        self.fit()
        self.view.setFocus()

    def is_pulled(self) -> bool:
        """Whether shims are being pulled."""
        return self._pulled

    @property
    def may_leave(self) -> bool:
        """Whether the last trial is in front, and it is no practice corner: that has its own end."""
        return self.desk is None or (self.desk.is_last and self.desk.study.job.practice_run is None)

    def next_sentence(self) -> str:
        """Return what to do next at the car."""
        return self.desk.next_sentence() if self.desk is not None else ""

    def do_next(self) -> None:
        """Do what the sentence says."""
        self.hands.do_next()

    # Doing --------------------------------------------------------------------------------------

    def attempt(self, call: object, path: str = "") -> bool:
        """Do ``call`` with the desk; what it refuses is reported in the footer."""
        desk = self.desk
        return desk is not None and callable(call) and self.carry_out(lambda: call(desk), path)

    def _show_practice(self) -> None:
        practice, desk = self.practice, self.desk
        if practice is None or desk is None:
            self.strip.hide()
            return
        self.strip.show_practice(practice, answer_text(self.answer) if self.answer is not None else ())
        self.begin_button.setVisible(practice.run is None)

    def do_move(self) -> None:
        """Carry out the move that is looked at; in a practice corner it costs its minutes."""
        practice = self.practice
        if practice is not None:
            self.attempt(lambda _: practice.do_move())

    def begin(self) -> None:
        """Begin a trial, and ask for its first gap."""
        if self.attempt(lambda desk: desk.begin()):
            self.fit()
            QTimer.singleShot(0, self.ask_next)

    def lock(self) -> None:
        """Lock the corner, or open its lock; what is missing is reported."""
        desk = self.desk
        if desk is None or desk.trial is None:
            return
        if desk.trial.locked:
            self.attempt(lambda desk: desk.unlock())
            return
        missing = desk.lock()
        self.refresh()
        if missing:
            self.refused.emit(
                "trials", f"Not locked yet. Missing: {'; '.join(missing[:3])}" + (" …" if len(missing) > 3 else "")
            )
        else:
            self.message.emit("Locked: the final stack is kept with the corner")

    def photo(self) -> None:
        """Show the photo of the trial that is shown, or ask for one."""
        desk = self.desk
        if desk is not None and desk.trial is not None:
            of = f"{desk.study.job.corner}: trial {desk.shown + 1}"
            photo_of(self, desk.study, of, lambda call: self.attempt(lambda _: call()))

    def _gap_ask(self) -> ReadingAsk | None:
        """Return the gap that is read next, for a simulated gauge to play."""
        blank = self.desk.next_blank() if self.desk is not None else ""
        return ReadingAsk("gap", (blank.rpartition(".")[2],)) if ".gaps_mm." in blank else None

    def gauged(self, value: float, text: str, played: bool) -> None:
        """A reading has come from the gauge: it goes where the next gap is read; what was played is for practice jobs alone."""
        desk = self.desk
        ask = self._gap_ask()
        if desk is None or not self.isVisible() or ask is None:
            self.gauge.tell("garbled", f"{text}: ignored, no gap is asked for")
        elif played and not desk.study.job.practice:
            self.gauge.tell("garbled", f"{text}: ignored, simulated readings belong in a practice job")
        elif self.practice is not None and self.practice.open:
            self._type_over(desk.path_of(ask.ends[0]), QRectF())  # the corner answers, not the gauge
        elif self._may_be(desk.too_wide_text(ask.ends[0], value)) and self.attempt(
            lambda desk: desk.take_gap(ask.ends[0], value), text
        ):
            self.message.emit(f"Gauge: {text}")

    def _may_be(self, doubt: str) -> bool:
        """Ask about a gap that can hardly be; one that can is taken."""
        return not doubt or dialogs.ask_wide_gap(self, doubt)

    def let_go(self) -> None:
        """The window closes: no thread is left behind."""
        self.gauge.close_gauge()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """A digit typed anywhere on the bench goes to the next number that is read: hands and gauges are blind."""
        blank = self.desk.next_blank() if self.desk is not None else ""
        practised = self.practice is not None and self.practice.run is not None
        if blank and not practised and event.text() and event.text() in "0123456789.,<>":
            self.view.ask(blank)
            if self._field.editor is not None:
                self._field.editor.setText(event.text())
                self._field.editor.deselect()
            return
        super().keyPressEvent(event)

    def _turn(self, step: int) -> None:
        if self.desk is not None:
            self.desk.next_plan(step)
            self.refresh()

    def _add(self, text: str) -> None:
        if self.attempt(lambda desk: desk.add_stock(text), "stock"):
            self.box.taken()

    def _drag(self, handle: Handle, value: float) -> None:
        self._pulled = True
        if self.desk is not None and self.desk.is_last:
            self.desk.preview_of(handle.path, value)
            self._show_drawing()
            self.card.show_desk(self.desk)

    def _release(self) -> None:
        self._pulled = False
        self.show_page("move")
        self.refresh()

    def _cancel(self) -> None:
        self._pulled = False
        if self.desk is not None:
            self.desk.preview = None
            self.refresh()

    def _choose(self, finding: Finding) -> None:
        """Light what a finding is about, and say why it matters."""
        if self.desk is not None:
            self.view_state.light(frozenset(finding.features))
            self.detail.show_finding(finding, units_of(self.desk.study.job.display_units))

    def _type_over(self, path: str, rect: QRectF) -> None:
        """Open a field over a gap, the spacing, or a stack of shims."""
        desk = self.desk
        if desk is None:
            return
        if desk.trial is None:
            self.begin()
            return
        practice = self.practice
        if practice is not None and practice.run is not None and ".gaps_mm." in path:
            self.attempt(lambda _: practice.read(path.rpartition(".")[2]))  # the corner answers: nothing is typed
            return
        self._field.open(
            self.view,
            rect,
            desk.text_of(path),
            f"New value for {label_at(desk.study.job, path)}",
            lambda text: self._typed(path, text),
        )

    def _typed(self, path: str, text: str) -> bool:
        desk = self.desk
        if (
            desk is not None
            and ".gaps_mm." in path
            and not self._may_be(desk.doubt_text(path.rpartition(".")[2], text))
        ):
            return False
        if self.practice is not None and self.practice.open and path.startswith("stack:"):
            return self.attempt(lambda desk: desk.preview_typed(path, text), path)
        taken = self.attempt(lambda desk: desk.typed(path, text), path)
        if taken:
            QTimer.singleShot(0, self.ask_next)
        return taken

    def ask_next(self) -> None:
        """Ask for the next number to read, or for the gap that is doubted; else the keyboard goes back to the drawing."""
        desk = self.desk
        blank = desk.next_blank() if desk is not None and desk.is_last else ""
        if desk is not None and desk.is_last and not blank:
            advice = desk.advice
            blank = desk.path_of(advice.target) if advice.kind == "read" and advice.target in GAPS else ""
        practised = self.practice is not None and self.practice.run is not None
        if blank and not practised:
            self.view.ask(blank)
        else:
            self.view.setFocus(Qt.FocusReason.OtherFocusReason)

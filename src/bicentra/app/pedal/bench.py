"""The pedal bench: the chain drawn as a machine, the balance diagram, the pedal under the hand, masters, findings."""

from PySide6.QtCore import QRectF, QSettings, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QSlider, QStackedWidget, QVBoxLayout, QWidget

from bicentra.app import dialogs
from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.drawn_bench import DrawnBench
from bicentra.app.pedal.numbers_page import NumbersPage
from bicentra.app.pedal.pages import GripPage, HeatPage, MasterPage, TravelPage
from bicentra.app.pedal.side import PedalSide
from bicentra.app.theme import Look
from bicentra.app.widgets.basics import select_tab, tab_row
from bicentra.app.widgets.fields import FieldOver
from bicentra.app.widgets.finding_column import pane_width
from bicentra.app.widgets.findings import FindingDetail
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.typed import TypedLine
from bicentra.core.base.errors import BicentraError, JobError
from bicentra.core.base.finding import Finding, Verdict, counted_verdicts
from bicentra.core.base.numbers import is_known
from bicentra.core.base.wording import units_of
from bicentra.core.drawing.model import Handle
from bicentra.core.drawing.views.balance import balance_view
from bicentra.core.drawing.views.chain import chain_view
from bicentra.core.parts.edits import get_value, label_at
from bicentra.study.desks.pedal import BASELINE, MOST_FOOT_N, PedalDesk
from bicentra.study.desks.pedal_numbers import NumberPlace
from bicentra.study.document.next_step import NextStep, finding_key
from bicentra.study.document.study import Study

NARROW_PX, LOW_PX, NO_BASELINE = 1000, 560, "no baseline"
"""Narrower than this the numbers have the bench alone, less high the diagrams [px]; what is remembered once nobody can note the
old pedal any more."""
SHOWN = (
    ("pedal", "Pedal"),
    ("balance", "Balance"),
    ("grip", "Grip"),
    ("travel", "Travel"),
    ("heat", "Heat"),
    ("master", "Master"),
    ("numbers", "Numbers"),
)


class PedalBench(DrawnBench):
    """Changes go to the study; ``refused`` carries a message when one is not taken."""

    def __init__(self, look: Look, settings: QSettings) -> None:
        super().__init__(look, settings)
        self.desk: PedalDesk | None = None
        self.plan_state = ViewState()
        self.plan_state.look = look
        self.machine = DrawingView("From the foot to the road", self.view_state, {})
        self.balance = DrawingView("Balance: rear against front", self.plan_state, {})
        self.balance.exaggeration = "in parts of the weight"
        self.balance.is_diagram = True
        for view in (self.machine, self.balance):
            view.typed_over.connect(self._type_over)
            view.fit_wanted.connect(self.fit)
            view.dragged.connect(self._pull)
            view.released.connect(self._let_go)
            view.cancelled.connect(self._give_back)
        self._field = FieldOver(self)
        self.side = PedalSide(look)
        self.column = self.side.findings
        self.model, self.list = self.column.model, self.column.list
        self.column.chosen.connect(self._choose)
        self.detail = FindingDetail()
        self.column.entered.connect(self.detail.take_keys)
        self._join_side()
        column, views = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        for layout in (column, views):
            layout.setSpacing(6)
        self.heat = HeatPage(look)
        self.master, self.travel, self.grip = MasterPage(look), TravelPage(look), GripPage(look)
        self.drawings, self.lists = (self.machine, self.balance), ((self.list, self.column.painter),)
        self.dressed = (self.heat, self.master, self.travel, self.grip, self.detail)
        self.numbers = NumbersPage()
        self.numbers.given.connect(self._take_number)
        self.numbers.drums.connect(self._take_drums)
        self.numbers.elsewhere.connect(self._open_sheet)
        self.numbers.taken.connect(self._take_part)
        self.numbers.kept.connect(self._keep_part)
        self.heat.given.connect(self._take_train)
        self.heat.handed.connect(lambda: self.attempt(lambda desk: desk.hand_over()))
        self.heat.chosen.connect(lambda name: self.attempt(lambda desk: desk.use(name)))
        self.drawn = QStackedWidget()
        for page in (self.machine, self.balance, self.grip, self.travel, self.heat, self.master, self.numbers):
            self.drawn.addWidget(page)
        left = QVBoxLayout()
        left.setSpacing(6)
        left.addWidget(self.drawn, 1)
        left.addWidget(self._foot())
        left.addWidget(self.detail)
        views.addLayout(left, 1)
        views.addWidget(self.side)
        column.addLayout(self._top())
        column.addLayout(views, 1)

    def _join_side(self) -> None:
        """Let the side's pages change the vehicle."""
        side = self.side
        side.valve_wanted.connect(lambda: self.attempt(lambda desk: desk.fit_valve()))
        side.master_wanted.connect(lambda name: self.attempt(lambda desk: desk.fit_master(name)))
        side.baseline_given.connect(lambda name: self._take_baseline(name, side.baseline[name]))
        side.turned.connect(self._make_room)
        self.column.folded.connect(self._make_room)

    def _top(self) -> QHBoxLayout:
        """The tabs of what is drawn, and its sheet to take away."""
        shown = QHBoxLayout()
        self.drawn_tabs = tab_row(shown, SHOWN, self.show_drawn)
        select_tab(self.drawn_tabs, "pedal")
        shown.addStretch(1)
        self.sheet_button = QPushButton("Sheet…")
        self.sheet_button.setToolTip("Pedal or heat as one page of PDF")
        self.sheet_button.clicked.connect(self.write_sheet)
        shown.addWidget(self.sheet_button)
        return shown

    def _foot(self) -> QWidget:
        """The pedal under the hand: a slider, and what comes of it."""
        self._press_row = QWidget()
        row = QHBoxLayout(self._press_row)
        row.setContentsMargins(4, 0, 4, 0)
        row.setSpacing(10)
        caption = plain_label("Press the pedal")
        caption.setObjectName("group")
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, int(MOST_FOOT_N))
        self.slider.setSingleStep(5)
        self.slider.setPageStep(50)
        self.slider.setAccessibleName("Force on the pedal")
        self.slider.setMinimumHeight(44)
        self.slider.valueChanged.connect(self._press)
        self.pressed = plain_label()
        self.pressed.setObjectName("head")
        self.pressed.setMinimumWidth(300)
        row.addWidget(caption)
        row.addWidget(self.slider, 1)
        row.addWidget(self.pressed)
        return self._press_row

    # Showing ------------------------------------------------------------------------------------

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on."""
        self.desk = PedalDesk(study)
        self.slider.setValue(int(self.desk.foot))
        self.refresh()
        self.fit()

    def show_page(self, name: str) -> None:
        """Show findings, masters, the pedal as it was, or what is often said."""
        self.side.show_page(name)

    def show_drawn(self, name: str) -> None:
        """Show machine and balance, or the temperatures; the findings go with it."""
        select_tab(self.drawn_tabs, name)
        self.drawn.setCurrentIndex([key for key, _ in SHOWN].index(name))
        self._make_room()
        self.refresh()
        self.fit()

    def _make_room(self) -> None:
        """Give the side its width; the slider stands under what moves with it, the chosen finding under a drawing."""
        front = self.drawn.currentWidget()
        in_words = not self.side.is_asked
        wide, size = self.width(), self.view_state.look.size
        self.side.fold(self.column.is_folded and not in_words)
        open_px = max(pane_width(wide, size), self.side.tabs_px)
        folded = self.column.is_folded and not in_words
        self.side.setFixedWidth(self.column.width_in(wide, size) if folded else open_px)
        self.side.setVisible(front is not self.numbers or wide >= NARROW_PX)
        self._press_row.setVisible(front in (self.machine, self.balance, self.grip))
        roomy = front in (self.machine, self.balance) or self.height() >= LOW_PX
        self.detail.setVisible(front is not self.numbers and self.side.is_asked and roomy)

    @property
    def is_hot(self) -> bool:
        """Whether the temperatures are shown."""
        return self.drawn.currentWidget() is self.heat

    def refresh(self) -> None:
        """Show the pedal as it stands."""
        desk = self.desk
        if desk is None:
            return
        self._show_drawings()
        units = units_of(desk.study.job.display_units)
        if self.is_hot:
            self.heat.show_desk(desk)
        for page in (self.master, self.travel, self.grip, self.numbers):
            if self.drawn.currentWidget() is page:
                page.show_desk(desk)
        self.column.show_findings(desk.hot.findings if self.is_hot else desk.work.findings, units)
        self.side.show_desk(desk, self.is_hot)
        self.changed.emit()

    def _show_drawings(self) -> None:
        desk = self.desk
        if desk is None:
            return
        state = desk.chain.at(desk.foot)
        units = units_of(desk.study.job.display_units)
        machine = chain_view(desk.vehicle, desk.chain, state, desk.travel, desk.lengths, desk.original)
        balance = balance_view(desk.chain, state, desk.earlier, desk.band)
        for view, drawing in ((self.machine, machine), (self.balance, balance)):
            values = {handle.path: float(get_value(desk.vehicle, handle.path)) for handle in drawing.handles}
            view.show_drawing(drawing, values, 1.0, units)
        force = desk.lengths.force(desk.foot)
        told = f"{state.decel:.2f} g{self._locks(state.decel)}" if is_known(state.decel) else "unknown"
        self.pressed.setText(f"{force}{'' if is_known(state.decel) else ', for example'}: {told}")

    def _locks(self, decel: float) -> str:
        """Say whether something locks at the vehicle's own grip."""
        desk = self.desk
        if desk is not None and desk.is_preview:
            return ""
        one = desk.work.locks[-1] if desk is not None and desk.work.locks else None
        if one is None or not one.first or not is_known(decel) or desk is None or desk.foot < one.foot:
            return ""
        return f", {one.first} locks at grip {one.grip:g}"

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Give the side its part of the bench."""
        self._make_room()
        super().resizeEvent(event)

    def fit(self) -> None:
        """Show both drawings whole, each at its own scale, and the page in front."""
        super().fit()
        for page in (self.heat, self.master, self.travel, self.grip):
            if self.drawn.currentWidget() is page:
                page.fit()

    def take_focus(self) -> None:
        """Show everything, and put the pedal under the hand."""
        self.fit()
        self.slider.setFocus()

    @property
    def _asks_baseline(self) -> bool:
        """Whether the pedal as it was is still to be noted, and nobody said that it cannot be any more."""
        desk = self.desk
        return desk is not None and len(desk.baseline_open) == len(BASELINE) and NO_BASELINE not in desk.study.seen

    def next_sentence(self) -> str:
        """Return what to do next: the baseline first, then what is missing, then what the page in front says."""
        desk = self.desk
        if desk is None:
            return ""
        if self._asks_baseline:
            return "Note the pedal now: you cannot measure it later."
        if desk.missing_text:
            return f"Type what the balance still needs: {desk.missing_text}."
        findings = desk.hot.findings if self.is_hot else desk.work.findings
        bad = next((f for f in findings if f.verdict is not Verdict.OK and finding_key(f) not in desk.study.seen), None)
        if bad is not None:
            return bad.why
        page = self.drawn.currentWidget()
        if page is not self.heat:
            return f"The pedal is looked through{self._still_open}: go on with the heat of repeated stops."
        return f"Pedal and heat are looked through{self._still_open}: print the pedal sheet."

    @property
    def _still_open(self) -> str:
        """Which findings of the pedal stand open though they were looked at, in words; empty where all is OK."""
        findings = (*self.desk.work.findings, *self.desk.hot.findings) if self.desk is not None else ()
        left = [finding for finding in findings if finding.verdict is not Verdict.OK]
        return f", {counted_verdicts(left)} still open" if left else ""

    def other_way(self) -> NextStep | None:
        """What was not noted before the change can be left."""
        return NextStep("", button="Already changed", seen=NO_BASELINE, bench="pedal") if self._asks_baseline else None

    def do_next(self) -> None:
        """Go to the first field of the baseline, to the first number that is missing, to a finding, or on to the next page."""
        desk = self.desk
        if desk is None:
            return
        findings = desk.hot.findings if self.is_hot else desk.work.findings
        bad = next((f for f in findings if f.verdict is not Verdict.OK and finding_key(f) not in desk.study.seen), None)
        if self._asks_baseline:
            self.show_page("before")
            self.side.baseline[desk.baseline_open[0]].setFocus()
        elif desk.missing:
            self.show_drawn("numbers")
            self.numbers.go_to_next()
        elif bad is not None:
            desk.study.seen.add(finding_key(bad))
            self.show_page("asked")
            self.list.setCurrentIndex(self.model.index(self.model.row_of(bad.id)))
            self.list.setFocus()
        elif not self.is_hot:
            self.show_drawn("heat")
        else:
            self.write_sheet()

    # Doing --------------------------------------------------------------------------------------

    def attempt(self, call: object, path: str = "") -> bool:
        """Do ``call`` with the desk; what it refuses is reported in the footer."""
        desk = self.desk
        return desk is not None and callable(call) and self.carry_out(lambda: call(desk), path)

    def _take_number(self, path: str, value: object) -> None:
        """Take a number of the vehicle; what is refused is said below its field, and stays as typed."""
        desk = self.desk
        if desk is None:
            return
        try:
            desk.set_number(path, value)
        except BicentraError as error:
            text = f"found {error.found}, expected {error.expected}" if isinstance(error, JobError) else str(error)
            self.numbers.refuse(path, text)
            return
        self.refresh()

    def _take_drums(self, axle: str, drums: bool) -> None:
        """Give an end the other kind of brake, and go to the first number that this asks for."""
        if self.attempt(lambda desk: desk.set_drums(axle, drums)):
            self.numbers.go_to_next()

    def _take_part(self, place: NumberPlace, number: int) -> None:
        """Take a part from the library; what it only guesses is reported and stays open."""
        text = list[str]()
        if self.attempt(lambda desk: text.append(desk.take_part(place, number))) and text[0]:
            self.message.emit(text[0])

    def _keep_part(self, place: NumberPlace) -> None:
        """Ask for a name and keep what the vehicle has on the library."""
        name = dialogs.ask_name(self, "Keep in the library", f"What is this {place.kind} called?")
        if name and self.attempt(lambda desk: desk.keep_part(place, name)):
            self.message.emit(f"In the library: {name}")

    def _open_sheet(self, path: str) -> None:
        """Open the sheet of a part of the corner that is worked on; of another axle it is said where it is typed."""
        desk = self.desk
        axle, part = path.split(".")[1:3]
        if desk is not None and desk.study.job.corner.startswith(axle):
            self.sheet_wanted.emit("bracket" if part == "fit" else part)
        else:
            self.message.emit(f"That is a size of the {axle} axle: go to one of its corners first (F10)")

    def _take_train(self, name: str, text: str) -> None:
        """Take a number of the train; one that is refused stays as it was typed."""
        desk, field = self.desk, self.heat.fields[name]
        field.taken()
        if desk is None or text == desk.train_text(name):
            return
        if not self.attempt(lambda desk: desk.set_train(name, text), name):
            field.setModified(True)
            field.mark(True)

    def write_sheet(self) -> None:
        """Write what is shown as one page of PDF, where the user says."""
        desk = self.desk
        if desk is None:
            return
        title = "Heat sheet" if self.is_hot else "Pedal sheet"
        path = dialogs.ask_save(self, desk.sheet_path(self.is_hot), title, f"{title} (*.pdf)")
        if path is None:
            return
        target = path if path.suffix else path.with_suffix(".pdf")
        if target == path or not target.exists() or dialogs.ask_over(self, target):
            self.attempt(lambda desk: desk.write_sheet(target, self.is_hot))

    def is_pulled(self) -> bool:
        """Whether a bore, a lever or the knee is being pulled."""
        return self.desk is not None and self.desk.is_preview

    def _pull(self, handle: Handle, value: float) -> None:
        if self.desk is not None:
            self.desk.preview(handle.path, value)
            self._show_drawings()

    def _let_go(self) -> None:
        self.attempt(lambda desk: desk.commit_preview())

    def _give_back(self) -> None:
        if self.desk is not None:
            self.desk.drop_preview()
            self.refresh()

    def _press(self, foot: int) -> None:
        if self.desk is not None:
            self.desk.press(float(foot))
            self._show_drawings()

    def _choose(self, finding: Finding) -> None:
        """Light what a finding is about, and say why it matters."""
        if self.desk is not None:
            self.view_state.light(frozenset(finding.features))
            self.detail.show_finding(finding, units_of(self.desk.study.job.display_units))

    def _take_baseline(self, name: str, field: TypedLine) -> None:
        """Take what was typed of the pedal before the change; what is refused stays as it was typed."""
        text, path = field.text().strip(), f"vehicle.baseline.{name}"
        field.taken()
        if self.desk is None or text == self.desk.baseline_text(name):
            return
        if name == "locks_first":
            taken = self.attempt(
                lambda desk: desk.study.edit_vehicle("Before: what locks first", ((path, text or None),)), path
            )
        else:
            taken = self.attempt(lambda desk: desk.typed(path, text), path)
        if not taken:
            field.setModified(True)
            field.mark(True)

    def _type_over(self, path: str, rect: QRectF) -> None:
        """Open a field over a number of the machine."""
        desk, view = self.desk, self.sender()
        if desk is not None and isinstance(view, DrawingView):
            self._field.open(
                view,
                rect,
                desk.text_of(path),
                f"New value for {label_at(desk.vehicle, path)}",
                lambda text: self._typed(path, text),
            )

    def _typed(self, path: str, text: str) -> bool:
        taken = self.attempt(lambda desk: desk.typed(path, text), path)
        if taken and path == "foot" and self.desk is not None:
            self.slider.setValue(int(self.desk.foot))
        return taken

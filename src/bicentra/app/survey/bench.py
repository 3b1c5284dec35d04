"""The survey bench: what is asked, the sheet it is read on, and what follows from it, side by side."""

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, QRectF, QSettings, Qt
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QMenu,
    QPushButton,
    QSizePolicy,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from bicentra.app import workers
from bicentra.app.gauges.strip import GaugeStrip
from bicentra.app.survey.commands import Commands, SurveyFrame
from bicentra.app.survey.entry import EntryBar
from bicentra.app.survey.parts_side import PartsSide
from bicentra.app.survey.readings import ReadingsSide
from bicentra.app.survey.sheet import SurveySheet
from bicentra.app.survey.sides import FacesSide, RunoutSide
from bicentra.app.theme import Look
from bicentra.app.widgets.basics import select_tab, tab_row
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.typed import TypedLine
from bicentra.app.workers import load_solvers
from bicentra.core.base.errors import BicentraError
from bicentra.core.base.records import replace
from bicentra.core.drawing.views.survey import ADD, ellipse_factor, pick_places, survey_view
from bicentra.core.parts.survey import PartMeasure
from bicentra.core.survey.advice import ReadingAdvice
from bicentra.study.desks.survey import ReadingAsk, SurveyDesk
from bicentra.study.document.next_step import NextStep
from bicentra.study.document.study import Study

SIDE_PX, MOST_OFFERS, ROOMY_PX = (300, 372), 2, 560
SIDES = (("readings", "Readings"), ("faces", "Faces"), ("runout", "Runout"), ("parts", "Parts"))


class SurveyBench(SurveyFrame):
    """Everything of the survey. Changes go to the study; ``refused`` carries a message when one is not taken."""

    def __init__(self, look: Look, settings: QSettings) -> None:
        super().__init__(look, settings)
        workers.start(workers.Task("Loading", load_solvers))
        self.desk: SurveyDesk | None = None
        self.sheet = SurveySheet(self.view_state)
        self.entry = EntryBar()
        self.gauge = GaugeStrip(settings, self.current_ask)
        self.readings, self.faces, self.runout, self.parts = ReadingsSide(), FacesSide(), RunoutSide(), PartsSide()
        self.drawings = (self.sheet,)
        self.dressed = (self.entry.picture, self.readings, self.faces, self.runout)
        self.commands = Commands(self)
        self._context_menu: list[QPushButton] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addLayout(self._top())
        middle = QHBoxLayout()
        middle.setSpacing(6)
        left = QVBoxLayout()
        left.setSpacing(6)
        self.shown = QStackedWidget()
        for view in (self.sheet, self.faces.view, self.runout.view):
            self.shown.addWidget(view)
        left.addWidget(self.shown, 1)
        left.addWidget(self.entry)
        middle.addLayout(left, 1)
        middle.addWidget(self._side())
        column.addLayout(middle, 1)
        self._connect()
        self.dress(look)

    # Building -----------------------------------------------------------------------------------

    def _top(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        self.by = TypedLine(str(self.settings.value("survey/by", "")))
        self.by.setPlaceholderText("who measures")
        self.by.setAccessibleName("Who measures")
        self.by.setMaximumWidth(130)
        self.by.editingFinished.connect(self._named)
        row.addWidget(self.by)
        row.addWidget(self.gauge, 1)
        self.more = QToolButton()
        self.more.setText("Readings  ↓")
        self.more.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self.more)
        commands = self.commands
        for text, call in (
            ("Add a feature…", commands.add_feature),
            ("Measure every distance once more", self.again_all),
            ("Instruments…", commands.set_instruments),
            ("Import a CSV table…", commands.take_csv),
            ("Export a CSV table…", commands.write_csv),
            ("Start the simulated gauge", self.gauge.simulate),
        ):
            menu.addAction(text).triggered.connect(call)
        self.more.setMenu(menu)
        row.addWidget(self.more)
        self.use_button = QPushButton("Use in the job…")
        self.use_button.setObjectName("primary")
        self.use_button.setToolTip("Puts the survey's numbers into hub, lugs and parts, after showing before and after")
        self.use_button.clicked.connect(self.commands.use)
        row.addWidget(self.use_button)
        return row

    def _side(self) -> QWidget:
        self._side_box = QWidget()
        self._side_box.setObjectName("desk")
        column = QVBoxLayout(self._side_box)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        tabs = QHBoxLayout()
        self.stack = QStackedWidget()
        self.tabs = tab_row(tabs, SIDES, self.show_side)
        for name in self.tabs:
            self.stack.addWidget(getattr(self, name))
        tabs.addStretch(1)
        column.addLayout(tabs)
        column.addWidget(self.stack, 1)
        self._next_head = plain_label("What to measure next")
        self._next_head.setObjectName("group")
        column.addWidget(self._next_head)
        self._next = QVBoxLayout()
        self._next.setSpacing(4)
        column.addLayout(self._next)
        self.show_side("readings")
        return self._side_box

    def _connect(self) -> None:
        self.readings.list.installEventFilter(self)
        self.sheet.feature_picked.connect(lambda name: self.with_desk(lambda desk: desk.pick(name)))
        self.sheet.typed_over.connect(self._label_clicked)
        self.sheet.fit_wanted.connect(self.fit)
        self.sheet.adders.wanted.connect(self.commands.add_at_once)
        self.sheet.escaped.connect(lambda: self.with_desk(lambda desk: desk.ask_next()))
        self.entry.given.connect(self._given)
        self.entry.skipped.connect(self._skip)
        self.entry.sense_wanted.connect(lambda sense: self.with_desk(lambda desk: desk.with_sense(sense)))
        self.entry.angle_wanted.connect(lambda: self.with_desk(lambda desk: desk.as_angle()))
        self.entry.instrument_chosen.connect(self._instrument)
        self.entry.spot_changed.connect(self._spot)
        self.gauge.reading.connect(self.gauged)
        self.readings.chosen.connect(self._light)
        self.readings.again.connect(self._again)
        self.readings.pictured.connect(self.commands.photo)
        self.readings.photographed = self.commands.has_photo
        self.readings.corrected.connect(self.commands.correct)
        self.readings.aside.connect(self._aside)
        self.faces.spot_wanted.connect(lambda name: self.with_desk(lambda desk: desk.ask(desk.spot_ask(name))))
        self.faces.anew_wanted.connect(self._face_anew)
        self.runout.sweep_wanted.connect(self._sweep)
        self.runout.turn_chosen.connect(self._turn)
        self.runout.place_chosen.connect(lambda on_car: self._attempt_on(lambda desk: desk.swept_on_car(on_car)))
        self.parts.measured.connect(self._part)
        self.parts.used.connect(
            lambda title, path, value: self._edit(f"Use the measured {title[0].lower()}{title[1:]}", path, value)
        )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """A number typed anywhere on the bench goes where the reading asked for is written: hands and gauges are blind."""
        if not self._to_entry(event):
            super().keyPressEvent(event)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """The list of readings would search for a digit; it belongs to the entry."""
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent) and self._to_entry(event):
            return True
        return super().eventFilter(watched, event)

    def _to_entry(self, event: QKeyEvent) -> bool:
        text = event.text()
        if not text or text not in "0123456789+-−.," or not self.entry.value.isEnabled():
            return False
        self.entry.value.setFocus()
        self.entry.value.insert(text)
        return True

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Give the side about a third of the bench, within bounds."""
        self._side_box.setFixedWidth(min(max(self.width() * 33 // 100, SIDE_PX[0]), SIDE_PX[1]))
        super().resizeEvent(event)
        if (event.oldSize().height() >= ROOMY_PX) != (self.height() >= ROOMY_PX):
            self._show_offers()

    # Showing ------------------------------------------------------------------------------------

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on."""
        self.desk = SurveyDesk(study)
        self.desk.by = self.by.text()
        self.desk.changed += [self._show, self.changed.emit]
        self.desk.ask_next()
        self.fit()

    def refresh(self) -> None:
        """Show the study as it stands; what is asked for follows."""
        if self.desk is not None:
            self.desk.refresh()
            self._show()

    def show_side(self, name: str) -> None:
        """Show readings, faces, runout or parts."""
        self.stack.setCurrentWidget(getattr(self, name))
        self.shown.setCurrentWidget({"faces": self.faces.view, "runout": self.runout.view}.get(name, self.sheet))
        select_tab(self.tabs, name)
        self._show_current_side()

    def _show(self) -> None:
        desk = self.desk
        if desk is None:
            return
        job, done = desk.study.job, desk.done
        drawing = survey_view(job, done, desk.wanted, desk.picked)
        flip = -1.0 if desk.corner.endswith("left") else 1.0
        self.sheet.title = f"Hub face, {desk.corner.replace('-', ' ')}, seen from outboard"
        if done.adjusted is not None and any(done.adjusted.known(n) for n in done.adjusted.network.points):
            self.sheet.title += f" · blue: 95 % error ellipses × {ellipse_factor(done):g}"
        self.sheet.show_drawing(drawing, {}, flip, desk.lengths.units)
        places = pick_places(job, done)
        self.sheet.show_features({name: (flip * x, y) for name, (x, y) in places.items()})
        self.sheet.adders.settle(desk.survey.axis is not None)
        self.entry.show_ask(desk.current_ask, desk.lengths.units)
        self._show_current_side()
        self._show_offers()

    def _show_current_side(self) -> None:
        desk = self.desk
        if desk is None:
            return
        current = self.stack.currentWidget()
        if current is self.readings:
            self.readings.show_done(desk.done, desk.lengths)
        elif isinstance(current, FacesSide | RunoutSide | PartsSide):
            current.show_done(desk.study.job, desk.done, desk.lengths)

    def _show_offers(self) -> None:
        for button in self._context_menu:
            button.hide()
            button.deleteLater()
        self._context_menu = []
        roomy = self.height() >= ROOMY_PX  # on a low window the line at the bottom says the first of them
        self._next_head.setVisible(roomy)
        for advice in (self.desk.advice if self.desk and roomy else ())[:MOST_OFFERS]:
            button = QPushButton()
            button.setObjectName("offer")
            button.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Expanding)
            label = plain_label(advice.sentence)
            label.setWordWrap(True)
            label.setTextFormat(Qt.TextFormat.PlainText)
            label.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
            inside = QVBoxLayout(button)
            inside.setContentsMargins(10, 4, 10, 4)
            inside.addWidget(label)
            button.setFixedHeight(label.heightForWidth(self._side_box.width() - 26) + 14)
            button.setAccessibleName(advice.sentence)
            button.clicked.connect(lambda _checked=False, advice=advice: self.take_advice(advice))
            self._context_menu.append(button)
            self._next.addWidget(button)

    def take_focus(self) -> None:
        """Show the whole sheet, and wait for a reading."""
        self.fit()
        self.entry.value.setFocus()

    def next_sentence(self) -> str:
        """Return what to do next, in one sentence."""
        needed = self._needed
        if needed is not None:
            return needed.sentence
        if self.to_use:
            return "The survey has all it needs: use it in the job."
        return "The survey agrees and is in the job: go on with the line-up."

    @property
    def _needed(self) -> ReadingAdvice | None:
        """The next reading that locates or checks something; one that only makes a number surer is listed, not asked for."""
        advice = self.desk.advice if self.desk is not None else ()
        return next((one for one in advice if not one.sharpens), None)

    @property
    def to_use(self) -> bool:
        """Whether the survey says something else than the job."""
        return self.desk is not None and bool(self.desk.takeover().changes)

    def other_way(self) -> NextStep:
        """The line-up can be looked at before the survey is done."""
        return NextStep("", button="Line-up", bench="lineup")

    def do_next(self) -> None:
        """Do what the sentence says."""
        needed = self._needed
        if needed is not None:
            self.take_advice(needed)
        elif self.to_use:
            self.commands.use()
        else:
            self.bench_wanted.emit("lineup")

    # Asking and taking --------------------------------------------------------------------------

    def with_desk(self, call: Callable[[SurveyDesk], object]) -> None:
        """Do something with the desk; the field is ready for the value then."""
        if self.desk is not None:
            call(self.desk)
            self.entry.value.setFocus()

    def attempt(self, call: Callable[[], object], path: str = "") -> bool:
        """Do ``call``; what it refuses is shown at the entry and in the footer."""
        try:
            call()
        except BicentraError as error:
            self.entry.refuse(f"Not taken: {error}")
            self.refused.emit(path or getattr(error, "path", ""), str(error))
            return False
        return True

    def take_advice(self, advice: ReadingAdvice) -> None:
        """Do what ``advice`` says: ask for its reading, or the question it stands for."""
        desk = self.desk
        if desk is None or desk.ask_for(advice):
            self.entry.value.setFocus()
        elif advice.kind == "feature":
            self.commands.add_at_once("pilot" if desk.survey.axis is None else "lug")
        elif advice.kind == "side":
            self.commands.state_side(advice.ends[0])

    def _given(self, value: float, plumb: bool) -> None:
        desk = self.desk
        if desk is not None and self.attempt(lambda: desk.take_lean(value) if plumb else desk.take(value)):
            self.entry.taken()
            self.entry.value.setFocus()

    def _skip(self) -> None:
        desk = self.desk
        if desk is not None:
            self.attempt(desk.skip)
            self.entry.value.setFocus()

    def gauged(self, value: float, text: str, played: bool) -> None:
        """A reading has come from the gauge: it answers what is asked for as if typed, marked when it was only ``played``."""
        desk = self.desk
        if desk is None or not self.isVisible() or desk.current_ask is None:
            self.gauge.tell("garbled", f"{text}: ignored, no reading is asked for")
        elif desk.current_ask.is_angle:
            self.gauge.tell("garbled", f"{text}: ignored, an angle is asked for")
        elif self.attempt(lambda: (desk.take_played if played else desk.take)(value)):
            self.message.emit(f"Gauge: {text}")

    def _instrument(self, name: str) -> None:
        if self.desk is not None:
            self.desk.instrument = name

    def _spot(self, at: float, radius: float) -> None:
        desk = self.desk
        if desk is not None and desk.current_ask is not None and desk.current_ask.kind in ("depth", "sweep"):
            desk.ask(replace(desk.current_ask, at_deg=at, radius_mm=radius))

    def _named(self) -> None:
        self.settings.setValue("survey/by", self.by.text())
        if self.desk is not None:
            self.desk.by = self.by.text().strip()

    def turn_to(self, corner: str) -> None:
        """Work on another corner."""
        if self.desk is not None:
            self.desk.turn_to(corner)
            self.fit()

    # The sheet and the list ---------------------------------------------------------------------

    def _label_clicked(self, edits: str, _rect: QRectF) -> None:
        """A dimension was clicked: an example asks for its reading, a reading is chosen and asked for again."""
        kind, *rest = edits.split(":")
        desk = self.desk
        if desk is None:
            return
        if kind == ADD.rstrip(":"):
            self.commands.add_at_once(rest[0])
        elif kind == "reading":
            self.show_side("readings")
            self.readings.choose(rest[0], int(rest[1]))
        elif kind == "wanted":
            desk.ask_for(desk.wanted[int(rest[0])])
        self.entry.value.setFocus()

    def _light(self, which: str, index: int) -> None:
        self.view_state.light(frozenset({f"reading:{which}:{index}"}))

    def _again(self, which: str, index: int) -> None:
        self.with_desk(lambda desk: desk.ask(desk.again_of(which, index)))

    def _aside(self, which: str, index: int, out: bool) -> None:
        self._attempt_on(lambda desk: desk.set_aside(which, index, out))

    # Faces, sweeps, parts -----------------------------------------------------------------------

    def _face_anew(self, name: str) -> None:
        self._attempt_on(lambda desk: desk.face_anew(name))
        self.entry.value.setFocus()

    def _sweep(self, on: str) -> None:
        self._attempt_on(lambda desk: desk.sweep_anew(on))
        self.entry.value.setFocus()

    def _turn(self, turn: int) -> None:
        self._edit(f"Turn the rotor by {turn} stud{'' if turn == 1 else 's'}", "fit.rotor_turn_studs", turn)

    def _edit(self, label: str, path: str, value: object) -> None:
        desk = self.desk
        if desk is not None:
            self.attempt(lambda: desk.study.edit(label, ((path, value),)), path)

    def _part(self, measure: PartMeasure) -> None:
        self._attempt_on(lambda desk: desk.measure_part(measure))

    def _attempt_on(self, call: Callable[[SurveyDesk], object]) -> None:
        desk = self.desk
        if desk is not None:
            self.attempt(lambda: call(desk))

    def again_all(self) -> None:
        """Ask for every distance once more."""
        self.with_desk(lambda desk: desk.ask_all_again())

    def current_ask(self) -> ReadingAsk | None:
        """Return the reading asked for now."""
        return self.desk.current_ask if self.desk is not None else None

    def let_go(self) -> None:
        """The window closes: no thread is left behind."""
        self.gauge.close_gauge()

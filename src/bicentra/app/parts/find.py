"""Finding the set that fits: what is asked, what comes in, the map, and why a set is good or not."""

from html import escape

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QProgressBar, QPushButton, QVBoxLayout, QWidget

from bicentra.app import workers
from bicentra.app.parts import tables
from bicentra.app.parts.criteria import CriteriaRow
from bicentra.app.parts.found_views import FoundModel, ReasonBars, SetMap
from bicentra.app.theme import Look
from bicentra.app.widgets.basics import scrolled
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.rich_text import against_list
from bicentra.app.widgets.row import RowPainter, dress_rows, row_list
from bicentra.app.widgets.typed import ASKING
from bicentra.core.base.errors import BicentraError
from bicentra.core.base.numbers import is_known
from bicentra.core.parts.vehicle import Vehicle
from bicentra.core.search.run import BY_PLAY, FoundSet
from bicentra.study.desks.parts import PartsDesk
from bicentra.study.desks.search import NEAR, reasons

FITS = "Fits pedal and heat"
GOOD, WEAK, PAUSE_MS = 0.75, 0.35, 250
"""A criterion met beyond or below this share is reported as good or as weak; a pause in typing after which a set is looked
up [ms].
"""


class FindPage(QWidget):
    """The search. ``taken`` carries a set for the job, ``laid`` one for the bench, ``refused`` what cannot be read."""

    taken = Signal(object)
    laid = Signal(object)
    refused = Signal(str, str)
    changed = Signal()

    def __init__(self, look_: Look) -> None:
        super().__init__()
        self.desk: PartsDesk | None = None
        self._task: workers.Task | None = None
        self._suit: frozenset[int] | None = None
        self._vehicle: Vehicle | None = None
        self._called: tuple[str, tuple[FoundSet, ...] | None] = ("", None)
        self._typed = QTimer(self, singleShot=True, interval=PAUSE_MS)
        self._typed.timeout.connect(self._call)
        self.criteria_met = CriteriaRow()
        self.model = FoundModel()
        self.painter = RowPainter(self.model.row_at, look_)
        self.list = row_list(self.model, self.painter, "Sets found, best first")
        self.list.selectionModel().currentChanged.connect(self._row_chosen)
        self.list.activated.connect(self._take)
        self.map = SetMap(look_)
        self.map.picked.connect(self.choose)
        self._build()

    def _build(self) -> None:
        column, middle = QVBoxLayout(self), QHBoxLayout()
        left, right = QVBoxLayout(), QVBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        for layout in (column, middle, left, right):
            layout.setSpacing(6)
        self.filter = QLineEdit()
        self.filter.setProperty(ASKING, True)
        self.filter.setPlaceholderText("Search results by name")
        self.filter.setAccessibleName("Find a set")
        self.filter.textChanged.connect(self._show)
        self.why = plain_label()
        self.why.setTextFormat(Qt.TextFormat.RichText)
        self.why.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.why.setWordWrap(True)
        self.why.setMargin(10)
        self.why.setObjectName("panelBody")
        reason = scrolled(self.why)
        reason.setAccessibleName("Why this set ranks here")
        left.addWidget(self.filter)
        left.addWidget(self.list, 1)
        right.addWidget(self.map, 5)
        right.addWidget(reason, 4)
        right.addLayout(self._actions())
        middle.addLayout(left, 5)
        middle.addLayout(right, 6)
        column.addWidget(self.criteria_met)
        column.addLayout(self._start_row())
        self.stops = ReasonBars()
        self.stops.chosen.connect(self._one_reason)
        column.addWidget(self.stops)
        column.addLayout(middle, 1)

    def _start_row(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        self.go = QPushButton("Look through the library")
        self.go.setObjectName("primary")
        self.go.clicked.connect(self._go_or_stop)
        self.bar = QProgressBar()
        self.bar.setRange(0, 100)
        self.bar.setFixedWidth(180)
        self.bar.hide()
        self.state = plain_label()
        self.state.setWordWrap(True)
        self.near = QPushButton("Near misses")
        self.near.setCheckable(True)
        self.near.setToolTip("Only the sets that are stopped by little, the nearest first, with what is missing")
        self.near.toggled.connect(self._near_misses)
        self.near.hide()
        self.fits = QPushButton(FITS)
        self.fits.setCheckable(True)
        self.fits.setToolTip(
            "Only sets that pass brake balance, master cylinder and repeated street stops on this vehicle"
        )
        self.fits.toggled.connect(self._suiting)
        self.fits.hide()
        row.addWidget(self.go)
        row.addWidget(self.near)
        row.addWidget(self.fits)
        row.addWidget(self.bar)
        row.addWidget(self.state, 1)
        return row

    def _actions(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.open = QPushButton("Open its line-up")
        self.open.setObjectName("primary")
        self.open.setToolTip("Puts the set into the job as one step and shows the line-up; undo takes it back")
        self.open.clicked.connect(self._take)
        self.bench = QPushButton("Compare")
        self.bench.setToolTip("Shows it beside the job's own parts; the job stays as it is")
        self.bench.clicked.connect(self._lay)
        row.addStretch(1)
        row.addWidget(self.bench)
        row.addWidget(self.open)
        return row

    def show_desk(self, desk: PartsDesk) -> None:
        """Search for the hub and knuckle of ``desk`` from now on."""
        self.stop()
        self.desk, self._called = desk, ("", None)
        self.criteria_met.show_library(desk.library)
        self._say_idle()
        self._show()

    def dress(self, look_: Look) -> None:
        """Show the page in ``look_``."""
        self.map.look = look_
        self.map.update()
        dress_rows(self.list, self.painter, look_)

    def _say_idle(self) -> None:
        if self.desk is not None:
            count = self.desk.combinations(self.criteria_met.idle())
            many = f"{count:,}".replace(",", " ")
            self.state.setText(f"{many} combinations of parts, plates, sides and clock angles")

    @property
    def chosen(self) -> FoundSet | None:
        """The set that is chosen in list and map."""
        return self.desk.chosen if self.desk is not None else None

    # Searching ---------------------------------------------------------------------------------

    @property
    def running(self) -> bool:
        """Whether a search is on its way."""
        return self._task is not None

    def _go_or_stop(self) -> None:
        if self.running:
            self.stop()
        else:
            self.start()

    def start(self) -> None:
        """Look through the library in a thread; sets come in as they are found."""
        if self.desk is None:
            return
        if self.desk.needs_hub:
            self.refused.emit("", f"Measure what the parts go on first: {self.desk.needs_hub}")
            return
        try:
            criteria = self.criteria_met.criteria(self.desk.lengths.units)
        except BicentraError as error:
            self.refused.emit("", str(error))
            return
        search, self._called = self.desk.search(criteria), ("", None)
        self.fits.setChecked(False)
        self.fits.setText(FITS)

        def work(running: workers.Task) -> object:
            for done, new in search:
                if running.cancelled:
                    break
                if new:
                    running.report(done)
            return None

        task = workers.Task("Search", work)
        task.signals.progressed.connect(self._came)
        for over in (task.signals.finished, task.signals.stopped):
            over.connect(self._ended)
        task.signals.failed.connect(self._failed)
        self._task = task
        self.go.setText("Stop here")
        self.bar.setValue(0)
        self.bar.show()
        workers.start(task)
        self.changed.emit()

    def stop(self) -> None:
        """Stop a search; what it has found stays."""
        if self._task is not None:
            self._task.cancel()

    def _came(self, done: float, _text: str) -> None:
        self.bar.setValue(int(done * 100))
        self._take_in(done)

    def _take_in(self, done: float) -> None:
        if self.desk is not None:
            self.desk.take_in(done)
            self.state.setText(self.desk.counts())
            self._show()

    def _ended(self) -> None:
        done = self.bar.value()
        self._task = None
        self.go.setText("Look again")
        self.bar.hide()
        self._take_in(done / 100)
        if done < 100:
            self.state.setText(f"{self.state.text()}; stopped at {done} %")
        if self.chosen is None and self.model.sets:
            self.choose(self.model.sets[0])
        self.changed.emit()

    def _failed(self, message: str) -> None:
        self._ended()
        self.refused.emit("", message)

    # Showing -----------------------------------------------------------------------------------

    def _show(self) -> None:
        """Show the sets whose names hold every word looked for."""
        if self.desk is None:
            return
        asked, lengths = self.filter.text(), self.desk.lengths
        self.stops.show_stops(self.desk.stops(), self.painter.look)
        self.near.setVisible(bool(self.desk.stops()))
        self.fits.setVisible(any(found.feasible for found in self.desk.sets) and not self.running)
        shown = self.desk.named(asked, NEAR if self.near.isChecked() else self.stops.reason) or self._those_called(
            asked
        )
        if self.fits.isChecked() and self._suit is not None:
            shown = tuple(found for found in shown if id(found) in self._suit)
        self.model.show(shown, lengths)
        row = self.model.row_of(self.chosen)
        if row >= 0:
            self._put_row(row)
        self.map.empty = "Nothing found yet"
        if self.desk.sets:
            waits, missed = self._typed.isActive() or self._called[1] is None, asked.strip() and not shown
            none = "Looking for it in the library" if waits else "No set has all these words in its names"
            self.map.empty = none if missed else "Needs the lugs' places"
            if self.fits.isChecked() and not shown:
                self.map.empty = "No set fits the vehicle as it is: fix its pedal first (Ctrl+7)"
        self.map.show_sets(shown, self.chosen, lengths)
        self._tell()

    def _suiting(self, on: bool) -> None:
        """Show only the sets that pedal and heat do not stop, once they are known; or all again."""
        self._suit = None
        if not on or self.desk is None:
            self._show()
            return
        self.fits.setText("Looking …")
        look = self.desk.suiting()
        task = workers.Task("Pedal and heat", lambda _: look())
        task.signals.finished.connect(self._suit_known)
        task.signals.failed.connect(lambda message: self.refused.emit("", message))
        workers.start(task)

    def look_anew(self) -> None:
        """The vehicle may have changed: what was found to suit it is let go, and what a set does to it told again."""
        if self.desk is None or self.desk.study.vehicle is self._vehicle:
            return
        self._vehicle = self.desk.study.vehicle
        self.fits.setChecked(False)
        self.fits.setText(FITS)
        self._tell()

    def _suit_known(self, found: frozenset[int]) -> None:
        self._suit = found
        self.fits.setText(f"{FITS}: {len(found)}")
        self._show()

    def _near_misses(self, on: bool) -> None:
        """Show what is stopped by little, whatever stops it; or all sets again."""
        if on:
            self.stops.let_go()
        self._show()

    def _one_reason(self, _reason: str) -> None:
        """Show the sets one reason stops: no longer the near misses of all."""
        self.near.setChecked(False)
        self._show()

    def _those_called(self, text: str) -> tuple[FoundSet, ...]:
        """Return sets of these words that are not kept, once they are found; asks for them when the typing pauses."""
        if not text.strip() or self.desk is None or not self.desk.sets:
            return ()
        if self._called[0] != text:
            self._called = (text, None)
            self._typed.start()
        return self._called[1] or ()

    def _call(self) -> None:
        text = self._called[0]
        if self.desk is None:
            return
        look = self.desk.called(text)
        task = workers.Task("Find a set", lambda _: look())
        task.signals.finished.connect(lambda found: self._answer(text, found))
        task.signals.failed.connect(lambda message: self.refused.emit("", message))
        workers.start(task)

    def _answer(self, text: str, found: tuple[FoundSet, ...]) -> None:
        if self._called[0] == text:
            self._called = (text, found)
            self._show()

    def _put_row(self, row: int) -> None:
        self.list.selectionModel().blockSignals(True)
        self.list.setCurrentIndex(self.model.index(row))
        self.list.selectionModel().blockSignals(False)
        self.list.viewport().update()

    def _row_chosen(self) -> None:
        row = self.list.currentIndex().row()
        if 0 <= row < len(self.model.sets):
            self.choose(self.model.sets[row])

    def choose(self, found: FoundSet) -> None:
        """Choose a set in list and map, and tell why it stands where it stands."""
        if self.desk is None:
            return
        self.desk.chosen = found
        row = self.model.row_of(found)
        if row >= 0:
            self._put_row(row)
        self.map.choose(found)
        self._tell()
        self.changed.emit()

    def _tell(self) -> None:
        for button in (self.open, self.bench):
            button.setEnabled(self.chosen is not None)
        found = self.chosen
        if found is None:
            self.why.setText("Choose a set in the list or on the map to read why it ranks there.")
            return
        head = f"<p><b>{escape(found.name)}</b></p>"
        on_vehicle = tables.effects_text(self.desk.effects(found), self.desk.lengths) if self.desk is not None else ""
        against = against_list(reasons(found))
        order = (on_vehicle, against) if found.feasible else (against, on_vehicle)
        self.why.setText("".join((head, criteria_text(found), *order)))

    def _lay(self) -> None:
        if self.chosen is not None:
            self.laid.emit(self.chosen)

    def _take(self) -> None:
        if self.chosen is not None:
            self.taken.emit(self.chosen)


def criteria_text(found: FoundSet) -> str:
    """Return what is good and what is weak about a set, and its score."""
    if not found.feasible:
        nearest = ", where it misses least" if is_known(found.short) else ""
        return f"<p>Stopped at every clock angle. Here is why, at {found.job.fit.clock_deg or 0:g}°{nearest}:</p>"
    good = [name for name, share in found.granted.items() if share >= GOOD]
    weak = [name for name, share in found.granted.items() if share <= WEAK]
    around = "" if found.open_angles is None else f"; {found.open_angles} clock angles are open"
    only = f" {BY_PLAY}, to be settled at the dry fit" if found.by_play else ""
    text = f"<p>{found.verdict.word}{only}; score {found.score:.2f} of 1{around}."
    text += f" Good: {', '.join(good)}." if good else ""
    text += f" Weak: {', '.join(weak)}." if weak else ""
    surveyed = found.job.survey.get(found.job.corner) is not None
    text += " The survey's uncertainty is checked once the set is in use." if surveyed else ""
    return text + "</p>"

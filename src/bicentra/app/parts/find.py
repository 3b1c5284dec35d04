"""Finding the set that fits: what is asked, what comes in, the map, and why a set is good or not."""

import time
from collections import Counter
from html import escape

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QProgressBar, QPushButton, QVBoxLayout, QWidget

from bicentra.app import workers
from bicentra.app.parts import tables
from bicentra.app.parts.criteria import WishRow
from bicentra.app.parts.found_model import FoundModel
from bicentra.app.parts.set_map import SetMap
from bicentra.app.theme import Look
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.row import RowPainter, row_list
from bicentra.app.widgets.scrolled import scrolled
from bicentra.core.base.errors import BicentraError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.search.run import FoundSet
from bicentra.study.desks.search import look, reasons, space_for
from bicentra.study.document.study import Study
from bicentra.study.library.library import Shelf

SHOW_S = 0.3
"""How often what has come in is shown [s]: showing it takes the interpreter from the search."""
GOOD, WEAK = 0.75, 0.35
"""A wish granted beyond or below this share is told as good or as weak."""


class FindPage(QWidget):
    """The search. ``taken`` carries a set for the job, ``laid`` one for the bench, ``refused`` what cannot be read."""

    taken = Signal(object)
    laid = Signal(object)
    refused = Signal(str, str)
    changed = Signal()

    def __init__(self, look_: Look) -> None:
        super().__init__()
        self.study: Study | None = None
        self.shelf: Shelf | None = None
        self.sets: tuple[FoundSet, ...] = ()
        self.chosen: FoundSet | None = None
        self._fresh: tuple[FoundSet, ...] = ()
        self._task: workers.Task | None = None
        self.criteria_met = WishRow()
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
        self.filter.setPlaceholderText("why not this one? Find any set by words of its names")
        self.filter.setAccessibleName("Find a set")
        self.filter.textChanged.connect(self._show)
        self.why = plain_label()
        self.why.setTextFormat(Qt.TextFormat.RichText)
        self.why.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.why.setWordWrap(True)
        self.why.setMargin(10)
        self.why.setObjectName("panelBody")
        reason = scrolled(self.why)
        reason.setAccessibleName("Why this set stands where it stands")
        left.addWidget(self.filter)
        left.addWidget(self.list, 1)
        right.addWidget(self.map, 5)
        right.addWidget(reason, 4)
        right.addLayout(self._deeds())
        middle.addLayout(left, 5)
        middle.addLayout(right, 6)
        column.addWidget(self.criteria_met)
        column.addLayout(self._start_row())
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
        row.addWidget(self.go)
        row.addWidget(self.bar)
        row.addWidget(self.state, 1)
        return row

    def _deeds(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.open = QPushButton("Open its line-up")
        self.open.setObjectName("primary")
        self.open.setToolTip("Puts the set into the job as one step and shows the line-up; undo takes it back")
        self.open.clicked.connect(self._take)
        self.bench = QPushButton("Lay it on the bench")
        self.bench.setToolTip("Shows it beside the job's own parts; the job stays as it is")
        self.bench.clicked.connect(self._lay)
        row.addStretch(1)
        row.addWidget(self.bench)
        row.addWidget(self.open)
        return row

    def show_study(self, study: Study, shelf: Shelf) -> None:
        """Search for the hub and knuckle of ``study`` from now on."""
        self.stop()
        self.study, self.shelf = study, shelf
        self.sets, self.chosen, self._fresh = (), None, ()
        self.criteria_met.show_shelf(shelf)
        self._say_idle()
        self._show()

    def dress(self, look_: Look) -> None:
        """Show the page in ``look_``."""
        self.painter.look = self.map.look = look_
        self.map.update()
        self.list.viewport().update()

    def _words(self) -> LengthFormat:
        return LengthFormat(units_of(self.study.job.display_units if self.study is not None else "mm"))

    def _say_idle(self) -> None:
        if self.shelf is not None:
            count = space_for(self.shelf, self.criteria_met.idle()).combinations
            self.state.setText(f"{count:,} combinations of parts, plates, sides and clock angles".replace(",", " "))

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
        study, shelf = self.study, self.shelf
        if study is None or shelf is None:
            return
        try:
            criteria = self.criteria_met.criteria(self._words().units)
        except BicentraError as error:
            self.refused.emit("", str(error))
            return
        job = study.job

        def work(running: workers.Task) -> object:
            told = 0.0
            for harvest in look(job, shelf, criteria):
                if running.cancelled:
                    break
                if harvest.done >= 1.0 or time.monotonic() - told >= SHOW_S:
                    self._fresh, told = tuple(harvest.sets), time.monotonic()
                    running.report(harvest.done)
            return self._fresh

        self._fresh = ()
        task = workers.Task("Search", work)
        task.signals.progressed.connect(self._came)
        for over in (task.signals.finished, task.signals.stopped):
            over.connect(self._ended)
        task.signals.failed.connect(self._failed)
        self._task, self.chosen = task, None
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
        self._take_in()

    def _take_in(self) -> None:
        self.sets = self._fresh
        counts = Counter(found.verdict for found in self.sets)
        order = (Verdict.OK, Verdict.CAUTION, Verdict.UNKNOWN, Verdict.STOP)
        told = ", ".join(f"{counts[verdict]} {verdict.word}" for verdict in order if counts[verdict])
        self.state.setText(f"{len(self.sets)} sets looked at: {told}")
        self._show()

    def _ended(self) -> None:
        done = self.bar.value()
        self._task = None
        self.go.setText("Look again")
        self.bar.hide()
        self._take_in()
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
        asked = self.filter.text().lower().replace("x", "×").split()
        shown = self.sets
        if asked:
            shown = tuple(s for s in shown if all(word in s.name.lower().replace("x", "×") for word in asked))
        words = self._words()
        self.model.show(shown, words)
        row = self.model.row_of(self.chosen)
        if row >= 0:
            self._put_row(row)
        self.map.empty = "Nothing found yet"
        if self.sets:
            self.map.empty = (
                "No set has all these words in its names" if asked and not shown else "Needs the lugs' places"
            )
        self.map.show_sets(shown, self.chosen, words)
        self._tell()

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
        self.chosen = found
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
            self.why.setText("Choose a set in the list or on the map to read why it stands where it stands.")
            return
        head = f"<p><b>{escape(found.name)}</b></p>"
        self.why.setText(head + wishes_told(found) + tables.against_list(reasons(found)))

    def _lay(self) -> None:
        if self.chosen is not None:
            self.laid.emit(self.chosen)

    def _take(self) -> None:
        if self.chosen is not None:
            self.taken.emit(self.chosen)


def wishes_told(found: FoundSet) -> str:
    """Return what is good and what is weak about a set, and its score."""
    if not found.feasible:
        return "<p>Stopped at every clock angle. Here is why, at the last one asked:</p>"
    good = [name for name, share in found.granted.items() if share >= GOOD]
    weak = [name for name, share in found.granted.items() if share <= WEAK]
    told = (
        f"<p>{found.verdict.word.capitalize()}, score {found.score:.2f} of 1; {found.feasible} clock angles are open."
    )
    told += f" Good: {', '.join(good)}." if good else ""
    told += f" Weak: {', '.join(weak)}." if weak else ""
    return told + "</p>"

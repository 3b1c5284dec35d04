"""Old and new laid side by side, to scale, with what differs, what it weighs and whether it fits."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QToolButton, QVBoxLayout, QWidget

from bicentra.app import library
from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.parts import tables
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.scrolled import scrolled
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.drawing.parts_view import PartSet, parts_view
from bicentra.core.parts.edits import with_value
from bicentra.core.parts.job import Job
from bicentra.core.parts.library import Item
from bicentra.core.parts.wheel import Wheel
from bicentra.study.desks.part_sets import (
    Trial,
    kit_before,
    part_set_of,
    price_of,
    set_edits,
    try_out,
    weights_before,
    weights_of,
)
from bicentra.study.document.study import Study
from bicentra.study.library.library import Shelf, whole_shelf

ROOM_PX, SIDE_PX = (40.0, 120.0), 400
IN_JOB, CAME_OFF = "in the job", "came off the vehicle"


class ComparePage(QWidget):
    """The bench on which parts are laid. ``wanted`` carries a label and edits for the job."""

    wanted = Signal(str, object)

    def __init__(self, view_state: ViewState) -> None:
        super().__init__()
        self.study: Study | None = None
        self.view_state = view_state
        self.proposal: Job | None = None
        self._shelf: Shelf | None = None
        self._laid: tuple[object, ...] = ()
        self.view = DrawingView("On the bench: above what is compared with, below the parts looked at", view_state, {})
        self.view.fit_wanted.connect(self.fit)
        self.table = plain_label()
        self.table.setTextFormat(Qt.TextFormat.RichText)
        self.table.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.table.setWordWrap(True)
        self.table.setObjectName("panelBody")
        self.table.setMargin(10)
        side = scrolled(self.table)
        side.setFixedWidth(SIDE_PX)
        side.setAccessibleName("What differs")
        column, middle = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        middle.setSpacing(6)
        middle.addWidget(self.view, 1)
        middle.addWidget(side)
        column.addLayout(self._tools())
        column.addLayout(middle, 1)

    def _tools(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        row.addWidget(plain_label("Above:"))
        self.above = QComboBox()
        self.above.addItems([IN_JOB, CAME_OFF])
        self.above.setAccessibleName("What is compared with")
        self.above.currentTextChanged.connect(self.refresh)
        row.addWidget(self.above)
        row.addWidget(plain_label("Below:"))
        for kind in ("rotor", "caliper", "wheel"):
            button = QPushButton(f"{kind.capitalize()}…")
            button.setToolTip(f"Take a {kind} from the library and lay it on the bench; the job stays as it is")
            button.clicked.connect(lambda _checked=False, kind=kind: self.choose(kind))
            row.addWidget(button)
        self.over = QToolButton()
        self.over.setText("Lay over")
        self.over.setCheckable(True)
        self.over.setToolTip("Lays the parts above over those below, as dashed lines")
        self.over.toggled.connect(self._laid_over)
        row.addWidget(self.over)
        row.addStretch(1)
        back = QPushButton("Clear")
        back.setToolTip("Lays the job's own parts below again")
        back.clicked.connect(lambda: self.lay(None))
        row.addWidget(back)
        self.use = QPushButton("Use these")
        self.use.setObjectName("primary")
        self.use.setToolTip("Puts the parts below into the job, as one step")
        self.use.clicked.connect(self.use_them)
        row.addWidget(self.use)
        return row

    @property
    def shelf(self) -> Shelf:
        """The library, read when it is first needed."""
        if self._shelf is None:
            self._shelf = whole_shelf()
        return self._shelf

    def forget_shelf(self) -> None:
        """Read the library anew the next time: parts were added to it."""
        self._shelf = None

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on, with its own parts on the bench."""
        self.study, self.proposal = study, None
        self.refresh()
        self.fit()

    def lay(self, proposal: Job | None) -> None:
        """Lay the parts of ``candidate`` on the bench; ``None`` for the job's own."""
        self.proposal = proposal
        self.refresh()
        self.fit()

    def choose(self, kind: str) -> None:
        """Ask for a part of the library and lay it on the bench."""
        if self.study is None:
            return
        job = self.proposal or self.study.job
        now: Item = getattr(job, kind) or Wheel()
        part = library.ask_part(self, self.shelf, now, self.words())
        if part is not None:
            self.lay(with_value(job, kind, part.item))

    def use_them(self) -> None:
        """Put the parts on the bench into the job, as one step."""
        if self.study is not None and self.proposal is not None:
            edits = set_edits(self.study.job, self.proposal)
            if edits:
                names = ", ".join(path for path, _ in edits if path in ("rotor", "caliper", "wheel")) or "place"
                self.wanted.emit(f"Use the {names} from the bench", edits)

    def words(self) -> LengthFormat:
        """Return how lengths are written now."""
        return LengthFormat(units_of(self.study.job.display_units if self.study is not None else "mm"))

    def refresh(self) -> None:
        """Show both kits as they stand."""
        if self.study is None:
            return
        job, words = self.study.job, self.words()
        above, over = self.above.currentText(), self.over.isChecked()
        looked_at = self.proposal or job
        state = (job, looked_at, above, over, words)
        if state == self._laid:
            return
        self._laid = state
        first = kit_before(job.before) if above == CAME_OFF else part_set_of(job, f"Above: {IN_JOB}")
        second = part_set_of(looked_at, "Below: " + ("looked at" if self.proposal is not None else IN_JOB))
        self.view.show_drawing(parts_view((first, second), words, over), {}, 1.0, words.units)
        self._show_table(first, second, try_out(looked_at), words)
        self.use.setEnabled(self.proposal is not None and bool(set_edits(job, self.proposal)))

    def _show_table(self, first: PartSet, second: PartSet, trial: Trial, words: LengthFormat) -> None:
        if self.study is None:
            return
        job = self.study.job
        left = weights_before(job) if self.above.currentText() == CAME_OFF else weights_of(try_out(job))
        told = [
            tables.verdict_lines(trial),
            tables.weights_table(left, weights_of(trial)),
            tables.price_line(price_of(self.shelf, second)),
            tables.differences_table(first, second, words),
        ]
        if self.above.currentText() == CAME_OFF and job.before is None:
            told.insert(0, "<p>Nothing is noted of what came off: open the Job panel and note it.</p>")
        self.table.setText("".join(told))

    def _laid_over(self) -> None:
        self.refresh()
        self.fit()

    def fit(self) -> None:
        """Show the whole bench."""
        if self.view.drawing is not None:
            self.view.centre()
            self.view_state.set_scale(self.view.fit_scale(ROOM_PX), fitted=True)

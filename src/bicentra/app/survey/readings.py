"""The readings as a list, the one that is wrong first, with everything that is known about the chosen one."""

from collections.abc import Callable

from PySide6.QtCore import QAbstractListModel, Qt, Signal
from PySide6.QtWidgets import (
    QGridLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.theme import Look
from bicentra.app.widgets.basics import scrolled
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.row import Index, Row, RowPainter, dress_rows, row_list
from bicentra.core.base.wording import LengthFormat
from bicentra.core.survey.corner import Surveyed
from bicentra.study.desks.readings_text import ReadingRow, reading_rows, summary_of

TEXT_PX = 118


class ReadingsModel(QAbstractListModel):
    """The rows for a list view."""

    def __init__(self) -> None:
        super().__init__()
        self.rows: tuple[ReadingRow, ...] = ()

    def show(self, rows: tuple[ReadingRow, ...]) -> None:
        """Show ``rows``."""
        if rows != self.rows:
            self.beginResetModel()
            self.rows = rows
            self.endResetModel()

    def rowCount(self, parent: Index | None = None) -> int:
        """Return the number of readings."""
        return 0 if parent is not None and parent.isValid() else len(self.rows)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """Return the reading's name, and all of it for a screen reader."""
        item = self.rows[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return item.title
        if role in (Qt.ItemDataRole.AccessibleTextRole, Qt.ItemDataRole.ToolTipRole):
            return item.text
        return None


class ReadingsSide(QWidget):
    """The list, the chosen reading in words, and what can be done with it."""

    chosen = Signal(str, int)
    again = Signal(str, int)
    corrected = Signal(str, int)
    aside = Signal(str, int, bool)
    pictured = Signal(str, int)

    def __init__(self) -> None:
        super().__init__()
        self.photographed: Callable[[str, int], bool] = lambda _which, _index: False
        self.model = ReadingsModel()
        self._painter = RowPainter(self._row_at)
        self.list = row_list(self.model, self._painter, "Readings, doubtful ones first")
        self.list.selectionModel().currentChanged.connect(self._choose)
        self.note = plain_label()
        self.note.setWordWrap(True)
        self.note.setTextFormat(Qt.TextFormat.PlainText)
        self.note.setObjectName("faint")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        self.summary = plain_label()
        self.summary.setWordWrap(True)
        self.summary.setTextFormat(Qt.TextFormat.PlainText)
        column.addWidget(self.summary)
        column.addWidget(self.list, 1)
        holder = QWidget()
        holder.setObjectName("panelBody")
        inside = QVBoxLayout(holder)
        inside.setContentsMargins(6, 4, 6, 4)
        inside.addWidget(self.note)
        inside.addStretch(1)
        scroll = scrolled(holder)
        scroll.setMinimumHeight(56)
        scroll.setMaximumHeight(TEXT_PX)
        scroll.setAccessibleName("The chosen reading")
        column.addWidget(scroll)
        row = QGridLayout()
        self.again_button, self.correct_button, self.aside_button = (
            QPushButton(t) for t in ("Measure again", "Correct…", "Set aside")
        )
        self.again_button.setToolTip("Asks for this reading once more; its former value is kept")
        self.correct_button.setToolTip("Types over a reading that was written down wrongly; the former value is kept")
        self.aside_button.setToolTip("Leaves the reading out without losing it")
        self.again_button.clicked.connect(lambda: self._send(self.again))
        self.correct_button.clicked.connect(lambda: self._send(self.corrected))
        self.aside_button.clicked.connect(self._set_aside)
        self.photo_button = QPushButton("Photo…")
        self.photo_button.setToolTip("A picture of how it was read, kept with this reading beside the job")
        self.photo_button.clicked.connect(lambda: self._send(self.pictured))
        buttons = (self.again_button, self.correct_button, self.aside_button, self.photo_button)
        for place, button in enumerate(buttons):
            row.addWidget(button, place // 2, place % 2)
        column.addLayout(row)

    def dress(self, look: Look) -> None:
        """Show the list in ``look``."""
        dress_rows(self.list, self._painter, look)

    def show_done(self, done: Surveyed, lengths: LengthFormat) -> None:
        """Show the readings of ``done``; the chosen one stays chosen."""
        self.summary.setText(summary_of(done, lengths))
        before = self.current()
        self.model.show(reading_rows(done, lengths))
        rows = self.model.rows
        keep = next((k for k, r in enumerate(rows) if before and (r.list, r.index) == (before.list, before.index)), 0)
        if rows:
            self.list.setCurrentIndex(self.model.index(keep))
        self._choose()

    def _row_at(self, place: int) -> Row:
        row = self.model.rows[place]
        return Row(row.verdict, row.title, row.value, row.second)

    def current(self) -> ReadingRow | None:
        """Return the chosen reading."""
        place = self.list.currentIndex().row()
        return self.model.rows[place] if 0 <= place < len(self.model.rows) else None

    def choose(self, which: str, index: int) -> None:
        """Choose a reading by its place in the survey."""
        place = next((k for k, r in enumerate(self.model.rows) if (r.list, r.index) == (which, index)), -1)
        if place >= 0:
            self.list.setCurrentIndex(self.model.index(place))

    def _choose(self) -> None:
        row = self.current()
        self.note.setText(row.text if row else "No reading has been taken yet.")
        for button in (self.again_button, self.correct_button, self.photo_button):
            button.setEnabled(row is not None)
        there = row is not None and self.photographed(row.list, row.index)
        self.photo_button.setText("Its photo" if there else "Photo…")
        self.aside_button.setEnabled(row is not None and row.list != "features")
        self.aside_button.setText("Count again" if row and row.aside else "Set aside")
        if row is not None:
            self.chosen.emit(row.list, row.index)

    def _send(self, signal: object) -> None:
        row = self.current()
        if row is not None:
            signal.emit(row.list, row.index)  # type: ignore[attr-defined]

    def _set_aside(self) -> None:
        row = self.current()
        if row is not None:
            self.aside.emit(row.list, row.index, not row.aside)

"""Taking a table of parts in: what each column means, which parts are new, which differ from one's own."""

from collections import Counter
from html import escape
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QHBoxLayout,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.part_dialog import difference_row
from bicentra.app.widgets.basics import clear_layout, scrolled
from bicentra.app.widgets.fields import CalmCombo
from bicentra.app.widgets.plain import plain_label, rich_label, tip
from bicentra.app.widgets.rich_text import heads
from bicentra.core.base.wording import LengthFormat
from bicentra.study.library.library import Library
from bicentra.study.library.tables import (
    CHOICES,
    KEEP,
    KINDS,
    UNITS,
    Arrival,
    PartColumn,
    Table,
    arrivals,
    parts_of,
    remember,
    remembered,
    take_in,
    targets,
)

ROOM_PX = (1040, 660)
PASSED, MOST_SHOWN = "passed over", 40


class TableDialog(QDialog):
    """Columns to the left, what comes of them to the right; nothing is written before the button is pressed."""

    def __init__(self, parent: QWidget, table: Table, library: Library, own: Path, lengths: LengthFormat) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"Import {table.name}")
        self.resize(*ROOM_PX)
        self._table, self._library, self._own, self._lengths = table, library, own, lengths
        self.arrivals: tuple[Arrival, ...] = ()
        self.choices: dict[str, CalmCombo] = {}
        self.columns: tuple[PartColumn, ...] = ()
        self.written: tuple[str, ...] = ()
        self.kind = QComboBox()
        for kind in KINDS:
            self.kind.addItem(kind.replace("_", " "), kind)
        self.kind.setAccessibleName("Kind of part")
        self.grid = QTableWidget(0, 4)
        self.grid.setHorizontalHeaderLabels(["column", "first cells", "means", "unit"])
        self.grid.verticalHeader().hide()
        self.grid.verticalHeader().setDefaultSectionSize(38)
        self.grid.setAccessibleName("What each column means")
        for place, wide in enumerate((140, 130, 190, 80)):
            self.grid.setColumnWidth(place, wide)
        self.grid.horizontalHeader().setStretchLastSection(True)
        self.note = plain_label()
        self.note.setTextFormat(Qt.TextFormat.RichText)
        self.note.setWordWrap(True)
        self.take = QPushButton()
        self.take.setObjectName("primary")
        self.take.clicked.connect(self._take)
        self._build()
        self.kind.currentIndexChanged.connect(self._new_kind)
        self._new_kind()

    def _build(self) -> None:
        leave = QPushButton("Leave the library as it is")
        leave.clicked.connect(self.reject)
        top, middle, foot, column = QHBoxLayout(), QHBoxLayout(), QHBoxLayout(), QVBoxLayout(self)
        top.addWidget(plain_label("Each row is a"))
        top.addWidget(self.kind)
        top.addStretch(1)
        page = QWidget()
        page.setObjectName("panelBody")
        self._right = QVBoxLayout(page)
        self._right.addWidget(self.note)
        self._differences = QVBoxLayout()
        self._right.addLayout(self._differences)
        self._right.addStretch(1)
        middle.addWidget(self.grid, 5)
        middle.addWidget(scrolled(page), 4)
        foot.addStretch(1)
        foot.addWidget(self.take)
        foot.addWidget(leave)
        column.addLayout(top)
        column.addLayout(middle, 1)
        column.addLayout(foot)

    def _new_kind(self) -> None:
        """Show the columns as they are remembered or guessed for the kind of part."""
        kind = self.kind.currentData()
        self.columns = remembered(self._table.headings, kind)
        self.grid.setRowCount(len(self.columns))
        for row, column in enumerate(self.columns):
            cells = ", ".join(line[row] for line in self._table.rows[:3])
            for place, text in enumerate((column.heading, cells)):
                item = QTableWidgetItem(text)
                item.setFlags(Qt.ItemFlag.ItemIsEnabled)
                item.setToolTip(tip(text))
                self.grid.setItem(row, place, item)
            self._row_choices(row, column, kind)
        self._look()

    def _row_choices(self, row: int, column: PartColumn, kind: str) -> None:
        means, unit = CalmCombo(), CalmCombo()
        means.addItem(PASSED, "")
        for key, (label, _) in targets(kind).items():
            means.addItem(label, key)
        means.setCurrentIndex(max(means.findData(column.key), 0))
        means.setAccessibleName(f"{column.heading} means")
        unit.setAccessibleName(f"Unit of {column.heading}")
        self._fill_units(unit, column, kind)
        means.activated.connect(lambda: self._changed(row))
        unit.activated.connect(lambda: self._changed(row))
        self.grid.setCellWidget(row, 2, means)
        self.grid.setCellWidget(row, 3, unit)

    def _fill_units(self, unit: QComboBox, column: PartColumn, kind: str) -> None:
        of = targets(kind)[column.key][1] if column.key else None
        allowed = UNITS.get(of.name, ()) if of is not None else ()
        unit.clear()
        unit.addItems(list(allowed))
        unit.setCurrentIndex(max(unit.findText(column.unit), 0))
        unit.setEnabled(len(allowed) > 1)

    def _changed(self, row: int) -> None:
        """A column means something else now."""
        means, unit = self.grid.cellWidget(row, 2), self.grid.cellWidget(row, 3)
        if not isinstance(means, QComboBox) or not isinstance(unit, QComboBox):
            return
        column = PartColumn(self.columns[row].heading, means.currentData(), unit.currentText())
        self._fill_units(unit, column, self.kind.currentData())
        column = PartColumn(column.heading, column.key, unit.currentText())
        self.columns = (*self.columns[:row], column, *self.columns[row + 1 :])
        self._look()

    def _look(self) -> None:
        """Tell what comes of the table with its columns as they stand."""
        parts, problems = parts_of(self._table, self.columns, self.kind.currentData())
        self.arrivals = arrivals(parts, self._library, self._own)
        counts = Counter(arrival.state for arrival in self.arrivals)
        self.note.setText(summary(self.arrivals, problems, self._lengths) + unused_columns(self.columns))
        clear_layout(self._differences)
        self.choices = {}
        for arrival in [a for a in self.arrivals if a.state == "differs"][:MOST_SHOWN]:
            self._differences.addWidget(self._conflict(arrival))
        self.take.setText(
            f"Import {counts['new']} new" + (f", settle {counts['differs']}" if counts["differs"] else "")
        )
        self.take.setEnabled(bool(counts["new"] or counts["differs"]))

    def _conflict(self, arrival: Arrival) -> QWidget:
        """One part of a name that is there with other numbers: mine beside theirs, and what to do."""
        box = QWidget()
        column = QVBoxLayout(box)
        column.setContentsMargins(0, 8, 0, 0)
        rows = "".join(difference_row(d, self._lengths) for d in arrival.apart)
        table = rich_label(
            f"<b>{escape(arrival.part.name)}</b><table><tr>{heads('', 'mine', 'theirs', 'apart')}</tr>{rows}</table>"
        )
        table.setWordWrap(True)
        choice = CalmCombo()
        choice.addItems(list(CHOICES))
        choice.setAccessibleName(f"What to do with {arrival.part.name}")
        self.choices[arrival.part.name] = choice
        column.addWidget(table)
        column.addWidget(choice)
        return box

    def _take(self) -> None:
        chosen = {name: box.currentText() for name, box in self.choices.items()}
        self.written = take_in(self.arrivals, chosen, self._own)
        remember(self.columns, self.kind.currentData())
        self.accept()


def summary(found: tuple[Arrival, ...], problems: tuple[str, ...], lengths: LengthFormat) -> str:
    """Return what a table holds as rich text: new, there already, differing, rows that are no use."""
    del lengths
    text = []
    for state, head in (("new", "New"), ("same", "There already, to the last dimension")):
        names = [
            escape(a.part.name)
            + (f" (as {escape(a.other.name)})" if a.other is not None and a.other.name != a.part.name else "")
            for a in found
            if a.state == state
        ]
        if names:
            more = f" and {len(names) - MOST_SHOWN} more" if len(names) > MOST_SHOWN else ""
            text.append(f"<p><b>{head}: {len(names)}</b><br>{'<br>'.join(names[:MOST_SHOWN])}{more}</p>")
    if problems:
        text.append(f"<p><b>Rows skipped: {len(problems)}</b><br>{'<br>'.join(map(escape, problems[:MOST_SHOWN]))}</p>")
    if any(a.state == "differs" for a in found):
        text.append(f"<p><b>There under the same name with other numbers</b> ({KEEP} unless you say otherwise):</p>")
    return "".join(text) or "<p>No row is a part yet: say which column is the name.</p>"


def unused_columns(columns: tuple[PartColumn, ...]) -> str:
    """Return the columns that nothing is taken from as rich text; empty where all are used."""
    names = [escape(column.heading or "(no heading)") for column in columns if not column.key]
    return f"<p><b>Columns not used: {len(names)}</b><br>{', '.join(names)}</p>" if names else ""


def ask_take_in(parent: QWidget, table: Table, library: Library, own: Path, lengths: LengthFormat) -> tuple[str, ...]:
    """Ask what a table means and take it in; returns a line for each part written."""
    dialog = TableDialog(parent, table, library, own, lengths)
    return dialog.written if dialog.exec() else ()

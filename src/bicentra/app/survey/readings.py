"""The readings as a list, the one that is wrong first, with everything that is known about the chosen one."""

import math
from dataclasses import dataclass

from PySide6.QtCore import QAbstractListModel, Qt, Signal
from PySide6.QtWidgets import (
    QGridLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.theme import Look
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.row import Index, Row, RowPainter, row_list
from bicentra.app.widgets.scrolled import scrolled
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.survey_view import STRAINED
from bicentra.core.parts.survey import SIMULATED, Survey
from bicentra.core.survey.adjust import Adjusted
from bicentra.core.survey.advice import unchecked_sentence
from bicentra.core.survey.corner import Surveyed
from bicentra.core.survey.network import Reading
from bicentra.core.survey.repeats import repeats
from bicentra.core.survey.words import amount, blunder_of, loose_sentences, reading_name

TOLD_PX = 118
PLAYED = "simulated"
"""What the row of a reading says that the simulated gauge has played."""
LISTS = {"distances": "value_mm", "directions": "clock_deg", "features": "diameter_mm"}


@dataclass(frozen=True)
class ReadingRow:
    """One row: where the reading stands in the survey, how it is shown, and all that is known of it in words."""

    list: str
    index: int
    row: Row
    told: str
    aside: bool


def reading_rows(done: Surveyed, words: LengthFormat) -> tuple[ReadingRow, ...]:
    """Return a row for each reading of the network: named ones first, then in the survey's order, set-aside ones last."""
    adjusted, survey = done.adjusted, done.survey
    found = [_row(adjusted, k, survey, words) for k in range(len(adjusted.readings))] if adjusted is not None else []
    found.sort(key=lambda r: r.row.verdict != "stop")
    return (*found, *_set_aside(survey))


def _row(adjusted: Adjusted, k: int, survey: Survey, words: LengthFormat) -> ReadingRow:
    reading = adjusted.readings[k]
    verdict, second = _state(adjusted, k, reading, words)
    value = (
        f"{math.degrees(reading.value) % 360:.1f}°"
        if "direction" in reading.kind
        else words.size(round(reading.value, 3))
    )
    told = [
        f"{reading_name(reading)[:1].upper()}{reading_name(reading)[1:]}: {value}. {second[:1].upper()}{second[1:]}."
    ]
    if adjusted.redundancy[k] > 1e-3:
        smallest = amount(reading, float(adjusted.detectable[k]), words)
        told.append(
            f"Checked to {100 * adjusted.redundancy[k]:.0f} % by the others: a blunder over {smallest} would be found."
        )
    told += _history(survey, reading)
    told += [
        group.told(words) for group in repeats(survey) if reading.list == "distances" and reading.index in group.indices
    ]
    title, sense = _title(reading)
    played = PLAYED if getattr(survey, reading.list)[reading.index].by == SIMULATED else ""
    row = Row(verdict, title, value, " · ".join(part for part in (played, sense, second) if part))
    return ReadingRow(reading.list, reading.index, row, "\n".join(told), False)


def _title(reading: Reading) -> tuple[str, str]:
    """Return the title of a reading and its sense, both short enough for a row."""
    if reading.kind == "diameter":
        return f"Ø {reading.ends[0]}", ""
    pair = " – ".join(dict.fromkeys(reading.ends))
    if "direction" in reading.kind:
        return f"angle {pair}", ""
    return pair, reading.sense.replace("-", " – ")


def _state(adjusted: Adjusted, k: int, reading: Reading, words: LengthFormat) -> tuple[str, str]:
    if k in adjusted.suspects:
        wrong = blunder_of(adjusted, k)
        sure = "reads" if len(adjusted.suspects) == 1 else "may read"
        return "stop", f"{sure} {amount(reading, wrong, words)} {'long' if wrong > 0 else 'short'}: measure it again"
    if adjusted.redundancy[k] < 1e-3:
        return "unknown", "nothing checks it"
    off = amount(reading, float(adjusted.residuals[k]), words)
    weight = abs(float(adjusted.normalised[k]))
    if weight > STRAINED and adjusted.suspects:
        return "caution", f"{off} off, pulled by the wrong one"
    if weight > STRAINED:
        return "caution", f"{off} off, more than its instrument usually is"
    return "ok", f"{off} off the rest, agrees"


def _history(survey: Survey, reading: Reading) -> list[str]:
    item = getattr(survey, reading.list)[reading.index]
    unit = "°" if reading.list == "directions" else " mm"
    sd = survey.sd_of(item.instrument, item.sd_deg if reading.list == "directions" else item.sd_mm)
    who = " · ".join(part for part in (item.by, item.taken) if part)
    told = [f"{item.instrument.replace('-', ' ')}, ±{sd:g}{unit}" + (f" · {who}" if who else "")]
    told += [f"Before: {old.value:g}{unit} ({old.why})" for old in item.was if old.value is not None]
    return told


def _set_aside(survey: Survey) -> list[ReadingRow]:
    found = []
    for which in ("distances", "directions"):
        for index, item in enumerate(getattr(survey, which)):
            value = getattr(item, LISTS[which])
            if item.set_aside and value is not None:
                name = f"{item.from_} to {item.to}"
                shown = f"{value:g}{'°' if which == 'directions' else ' mm'}"
                played = f"{PLAYED} · " if item.by == SIMULATED else ""
                row = Row("unknown", name, shown, f"{played}set aside: {item.set_aside}")
                found.append(ReadingRow(which, index, row, f"{name}: {shown}. Not counted: {item.set_aside}.", True))
    return found


def summary_of(done: Surveyed, words: LengthFormat) -> str:
    """Return how the readings stand as a whole: how many, whether they agree, what is loose or cannot be checked."""
    adjusted = done.adjusted
    if adjusted is None:
        return done.fault
    if not adjusted.readings:
        return ""
    told = loose_sentences(adjusted, words)[:2]
    unchecked = unchecked_sentence(adjusted)
    if told or unchecked:
        return " ".join((*told, unchecked)).strip()
    agree = "agree" if adjusted.passed else "do not agree"
    ratio = (adjusted.chi_square / adjusted.dof) ** 0.5
    return (
        f"{len(adjusted.readings)} readings, {adjusted.dof} more than needed, {agree}: "
        f"scatter {ratio:.1f} × what the instruments promise (settled in {adjusted.steps} steps)."
    )


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
            return item.row.title
        if role in (Qt.ItemDataRole.AccessibleTextRole, Qt.ItemDataRole.ToolTipRole):
            return item.told
        return None


class ReadingsSide(QWidget):
    """The list, the chosen reading in words, and what can be done with it."""

    chosen = Signal(str, int)
    again = Signal(str, int)
    corrected = Signal(str, int)
    aside = Signal(str, int, bool)

    def __init__(self) -> None:
        super().__init__()
        self.model = ReadingsModel()
        self._painter = RowPainter(lambda row: self.model.rows[row].row)
        self.list = row_list(self.model, self._painter, "Readings, the doubtful ones first")
        self.list.selectionModel().currentChanged.connect(self._choose)
        self.told = plain_label()
        self.told.setWordWrap(True)
        self.told.setTextFormat(Qt.TextFormat.PlainText)
        self.told.setObjectName("faint")
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
        inside.addWidget(self.told)
        inside.addStretch(1)
        scroll = scrolled(holder)
        scroll.setMinimumHeight(56)
        scroll.setMaximumHeight(TOLD_PX)
        scroll.setAccessibleName("The chosen reading: what is known about it")
        column.addWidget(scroll)
        row = QGridLayout()
        self.again_button, self.correct_button, self.aside_button = (
            QPushButton(t) for t in ("Measure again", "Correct…", "Set aside")
        )
        self.again_button.setToolTip("Asks for this reading once more; what it said before stays with it")
        self.correct_button.setToolTip("Types over a reading that was written down wrongly; the former value is kept")
        self.aside_button.setToolTip("Leaves the reading out of the count without losing it")
        self.again_button.clicked.connect(lambda: self._send(self.again))
        self.correct_button.clicked.connect(lambda: self._send(self.corrected))
        self.aside_button.clicked.connect(self._set_aside)
        for place, button in enumerate((self.again_button, self.correct_button, self.aside_button)):
            row.addWidget(button, 0, place)
        column.addLayout(row)

    def dress(self, look: Look) -> None:
        """Show the list in ``look``."""
        self._painter.look = look
        self.list.viewport().update()

    def show_done(self, done: Surveyed, words: LengthFormat) -> None:
        """Show the readings of ``done``; the chosen one stays chosen."""
        self.summary.setText(summary_of(done, words))
        before = self.current()
        self.model.show(reading_rows(done, words))
        rows = self.model.rows
        keep = next((k for k, r in enumerate(rows) if before and (r.list, r.index) == (before.list, before.index)), 0)
        if rows:
            self.list.setCurrentIndex(self.model.index(keep))
        self._choose()

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
        self.told.setText(row.told if row else "No reading has been taken yet.")
        for button in (self.again_button, self.correct_button):
            button.setEnabled(row is not None)
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

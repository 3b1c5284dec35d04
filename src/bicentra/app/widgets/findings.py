"""Findings on screen: the list, and one opened up."""

import math
from html import escape

from PySide6.QtCore import QAbstractListModel, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from bicentra.app.theme import LIGHT, Look, colour
from bicentra.app.widgets.basics import clear_layout, rename
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.row import Index, Row
from bicentra.core.base.finding import Finding, Remedy, Verdict
from bicentra.core.base.quantities import Units
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import play_text, shown_value
from bicentra.core.parts.limits import CHANGED


def _reads_as(finding: Finding) -> tuple[object, ...]:
    """Return what a row shows of a finding; values that round alike read alike."""
    return finding.id, finding.verdict, f"{finding.value:.2f}", f"{finding.limit:.2f}"


def room_of(finding: Finding) -> float:
    """Return how far a finding's value is on the right side of its limit, in parts of the limit (of 1 where that is less)."""
    room = finding.value - finding.limit if finding.at_least else finding.limit - abs(finding.value)
    if kind_of(finding.id).worst_of:  # of several comparisons, each with a sense of its own: its verdict tells
        room = abs(room) if finding.verdict is Verdict.OK else -abs(room)
    return room / max(abs(finding.limit), 1.0) if math.isfinite(room) else math.nan


class FindingsModel(QAbstractListModel):
    """The findings, worst first, as the solution gives them."""

    def __init__(self) -> None:
        super().__init__()
        self.findings: tuple[Finding, ...] = ()
        self.units: Units = "mm"
        self.as_ladder = False

    def show(self, findings: tuple[Finding, ...], units: Units) -> None:
        """Show ``findings``; rows keep their places in the view when their number stays the same."""
        if len(findings) != len(self.findings):
            self.beginResetModel()
            self.findings, self.units = findings, units
            self.endResetModel()
            return
        before, same_units = self.findings, units == self.units
        self.findings, self.units = findings, units
        for row, (old, new) in enumerate(zip(before, findings)):
            if not (same_units and _reads_as(old) == _reads_as(new)):
                self.dataChanged.emit(self.index(row), self.index(row))

    def rowCount(self, parent: Index | None = None) -> int:
        """Return the number of findings."""
        return 0 if parent is not None and parent.isValid() else len(self.findings)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """Return the finding's title for display, and all of it in words for a screen reader."""
        finding = self.findings[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return finding.title
        said = f"{finding.verdict.word}: {finding.title}. {finding.why}"
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return said
        if role == Qt.ItemDataRole.ToolTipRole:
            return f"<p>{escape(said)}</p>"
        return None

    def row_at(self, row: int) -> Row:
        """Return what stands in a row: the verdict's mark, the title, the value and its limit."""
        finding = self.findings[row]
        value, limit = shown_value(finding, self.units)
        parts = (finding.verdict.word, play_text(finding, self.units), f"limit {limit}" if limit != "–" else "")
        second = " · ".join(part for part in parts if part)
        if CHANGED in finding.why:
            second += ", changed by this job"
        if finding.borrowed:
            second += " · borrowed"
        return Row(finding.verdict.value, finding.title, value, second, room_of(finding) if self.as_ladder else None)

    def row_of(self, id: str) -> int:
        """Return the row of the finding called ``id``; −1 when it is not there."""
        return next((row for row, finding in enumerate(self.findings) if finding.id == id), -1)


STRIP_PX = 132
"""How high the strip of the chosen finding is [px]."""
CUT_CAUTION = "Permanent in metal: have it checked by someone qualified before it is driven."


class LimitScale(QWidget):
    """The value and the limit on one short line."""

    def __init__(self) -> None:
        super().__init__()
        self.look: Look = LIGHT
        self._value = self._limit = math.nan
        self._verdict = "unknown"
        self.setFixedHeight(26)

    def show_finding(self, finding: Finding) -> None:
        """Show where ``finding``'s value lies against its limit."""
        self._value, self._limit, self._verdict = finding.value, finding.limit, finding.verdict.value
        counted = not finding.unit and finding.limit == 0
        self.setVisible(math.isfinite(self._value) and math.isfinite(self._limit) and not counted)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint a line, the limit as a tick, the value as a dot."""
        del event
        if not (math.isfinite(self._value) and math.isfinite(self._limit)):
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        low, high = min(0.0, self._value, self._limit), max(self._value, self._limit, 0.01)
        room = (high - low) * 0.12
        y, left, wide = 13.0, 8.0, self.width() - 16.0

        def place(value: float) -> float:
            return left + (value - low + room) / (high - low + 2 * room) * wide

        painter.setPen(QPen(colour(self.look.edge), 3.0))
        painter.drawLine(int(left), int(y), int(left + wide), int(y))
        painter.setPen(QPen(colour(self.look.text), 2.0))
        painter.drawLine(int(place(self._limit)), 3, int(place(self._limit)), 23)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour(self.look.verdict(self._verdict)))
        painter.drawEllipse(QRectF(place(self._value) - 6, y - 6, 12, 12))


class RemedyRow(QFrame):
    """One remedy with its side effects and a button that carries it out."""

    wanted = Signal(object)

    def __init__(self, remedy: Remedy) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 4, 0, 4)
        words = QVBoxLayout()
        words.setSpacing(1)
        action = plain_label(remedy.action)
        action.setWordWrap(True)
        action.setTextFormat(Qt.TextFormat.PlainText)
        words.addWidget(action)
        notes = list(remedy.side_effects) + ([] if remedy.reversible else [CUT_CAUTION])
        if notes:
            side = plain_label("; ".join(notes))
            side.setObjectName("faint")
            side.setWordWrap(True)
            words.addWidget(side)
        row.addLayout(words, 1)
        if remedy.edits:
            button = QPushButton("Try")
            button.setAccessibleName(f"Try: {remedy.action}")
            button.setToolTip("Carries it out in the job as one step; undo takes it back")
            button.clicked.connect(lambda: self.wanted.emit(remedy))
            row.addWidget(button, 0, Qt.AlignmentFlag.AlignTop)


class FindingDetail(QScrollArea):
    """Why a finding matters, and its remedies beside it: a strip under the drawing it belongs to."""

    tried = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("The chosen finding: why, and what can be done")
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self._shown: tuple[object, ...] = ()
        self.scale = LimitScale()
        self._title, self._why, self._more = plain_label(), plain_label(), plain_label()
        self._more.setObjectName("faint")
        body, column = QWidget(), QVBoxLayout()
        body.setObjectName("panelBody")
        row = QHBoxLayout(body)
        row.setContentsMargins(10, 6, 10, 6)
        row.setSpacing(18)
        column.setSpacing(3)
        for label in (self._title, self._why, self._more):
            label.setWordWrap(True)
            label.setTextFormat(Qt.TextFormat.PlainText)
            label.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
        column.addWidget(self._title)
        column.addWidget(self.scale)
        column.addWidget(self._why)
        column.addWidget(self._more)
        column.addStretch(1)
        self._beside = QWidget()
        beside = QVBoxLayout(self._beside)
        beside.setContentsMargins(0, 0, 0, 0)
        self._remedies = QVBoxLayout()
        beside.addLayout(self._remedies)
        beside.addStretch(1)
        row.addLayout(column, 5)
        row.addWidget(self._beside, 4)
        self.setWidget(body)
        self.dress(LIGHT)

    def dress(self, look: Look) -> None:
        """Show it in ``look``."""
        self.scale.look = look
        self.scale.update()
        self.setFixedHeight(round(STRIP_PX * look.size))

    def show_finding(self, finding: Finding, units: Units) -> None:
        """Show ``finding``; nothing is rebuilt when it reads the same as before."""
        state = (finding, units)
        if state == self._shown:
            return
        self._shown = state
        value, limit = shown_value(finding, units)
        against = "" if "–" in (limit, value) else f": {value} against a limit of {limit}"
        play = play_text(finding, units)
        self._title.setText(f"{finding.verdict.word}{against}{f', {play} in the holes' if play else ''}")
        rename(self._title, f"verdict-{finding.verdict.value}")
        self._why.setText(finding.why)
        lines = [finding.statement] if finding.statement else []
        lines += [check.text for check in finding.checks]
        lines += [f"Assumed: {text}" for text in finding.assumed]
        self._more.setText("\n".join([*lines, f"Limit: {finding.source}"]))
        self.scale.show_finding(finding)
        self._show_remedies(finding)
        self.verticalScrollBar().setValue(0)

    def _show_remedies(self, finding: Finding) -> None:
        clear_layout(self._remedies)
        self._beside.setVisible(bool(finding.remedies))
        for remedy in finding.remedies:
            row = RemedyRow(remedy)
            row.wanted.connect(self.tried)
            self._remedies.addWidget(row)

    def take_keys(self) -> None:
        """Give the keyboard to the first remedy that can be tried."""
        buttons = self.buttons()
        if buttons:
            buttons[0].setFocus()

    def buttons(self) -> list[QPushButton]:
        """Return the Try buttons in order."""
        items = [self._remedies.itemAt(k) for k in range(self._remedies.count())]
        rows = [item.widget() for item in items if item is not None]
        return [button for row in rows if row is not None for button in row.findChildren(QPushButton)]

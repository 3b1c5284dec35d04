"""One finding opened up: value against limit on a small scale, why, what was assumed, what can be done."""

import math

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from bicentra.app.theme import LIGHT, Look, colour
from bicentra.app.widgets.clearing import clear_layout
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.finding import Finding, Remedy
from bicentra.core.base.finding_text import shown_value
from bicentra.core.base.quantities import Units

CUT_CAUTION = "Permanent in metal: have it checked by someone qualified before it is driven."


class LimitScale(QWidget):
    """The value and the limit on one short line."""

    def __init__(self) -> None:
        super().__init__()
        self.look: Look = LIGHT
        self._value = self._limit = math.nan
        self._verdict = "unknown"
        self.setFixedHeight(30)

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
        y, left, wide = 17.0, 8.0, self.width() - 16.0

        def place(value: float) -> float:
            return left + (value - low + room) / (high - low + 2 * room) * wide

        painter.setPen(QPen(colour(self.look.edge), 3.0))
        painter.drawLine(int(left), int(y), int(left + wide), int(y))
        painter.setPen(QPen(colour(self.look.text), 2.0))
        painter.drawLine(int(place(self._limit)), 6, int(place(self._limit)), 28)
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


class FindingDetail(QWidget):
    """Why a finding matters, and its remedies."""

    tried = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("panelBody")
        self._shown: tuple[object, ...] = ()
        self.scale = LimitScale()
        self._title, self._why, self._more = plain_label(), plain_label(), plain_label()
        self._title.setObjectName("group")
        self._more.setObjectName("faint")
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 8, 10, 8)
        column.setSpacing(4)
        for label in (self._title, self._why, self._more):
            label.setWordWrap(True)
            label.setTextFormat(Qt.TextFormat.PlainText)
            label.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
        column.addWidget(self._title)
        column.addWidget(self.scale)
        column.addWidget(self._why)
        column.addWidget(self._more)
        self._remedies = QVBoxLayout()
        column.addLayout(self._remedies)
        column.addStretch(1)

    def show_finding(self, finding: Finding, units: Units) -> None:
        """Show ``finding``; nothing is rebuilt when it reads the same as before."""
        state = (finding, units)
        if state == self._shown:
            return
        self._shown = state
        value, limit = shown_value(finding, units)
        against = "" if "–" in (limit, value) else f": {value} against a limit of {limit}"
        self._title.setText(f"{finding.verdict.word}{against}")
        self._why.setText(finding.why)
        lines = [finding.statement] if finding.statement else []
        lines += [check.text for check in finding.checks]
        lines += [f"Assumed: {text}" for text in finding.assumed]
        self._more.setText("\n".join([*lines, f"Limit: {finding.source}"]))
        self.scale.show_finding(finding)
        self._show_remedies(finding)

    def _show_remedies(self, finding: Finding) -> None:
        clear_layout(self._remedies)
        for remedy in finding.remedies:
            row = RemedyRow(remedy)
            row.wanted.connect(self.tried)
            self._remedies.addWidget(row)

    def buttons(self) -> list[QPushButton]:
        """Return the Try buttons in order."""
        items = [self._remedies.itemAt(k) for k in range(self._remedies.count())]
        rows = [item.widget() for item in items if item is not None]
        return [button for row in rows if row is not None for button in row.findChildren(QPushButton)]

"""The entry bar: which reading is asked for, how it is taken, its value."""

from PySide6.QtCore import QEvent, QObject, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF, QResizeEvent
from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QLineEdit, QPushButton, QToolButton, QVBoxLayout, QWidget

from bicentra.app.theme import LIGHT, Look, colour
from bicentra.app.widgets.fields import CalmCombo
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.typed import TypedLine, mark_wrong
from bicentra.core.base.errors import QuantityError
from bicentra.core.base.quantities import ANGLE, LENGTH, Units, edit_text, parse_quantity
from bicentra.core.parts.survey import INSTRUMENTS, SENSE_WORDS
from bicentra.study.desks.survey import ReadingAsk

WIDE_PX, HIGH_PX = 164, 92
LEFT, RIGHT, ROUND, LINE = 38.0, 126.0, 17.0, 58.0
"""Middles of the two round things, their radius, and the height they stand at [px]."""
ENDS = {
    "near-near": (LEFT + ROUND, RIGHT - ROUND), "far-far": (LEFT - ROUND, RIGHT + ROUND),
    "near-far": (LEFT + ROUND, RIGHT + ROUND), "centres": (LEFT, RIGHT),
}  # fmt: skip
"""Between which places each sense is read."""
WORDS = {"diameter": "jaws across", "depth": "depth rod under a straightedge", "straightedge": "jaws over the straightedge",
         "sweep": "indicator against the face", "direction": "angle gauge along both"}  # fmt: skip
LISTS = {
    "features": "diameter",
    "directions": "direction",
    "distances": "distance",
    "faces": "depth",
    "sweeps": "sweep",
}


def kind_of_ask(ask: ReadingAsk) -> str:
    """Return what kind of reading is asked for; one that is taken again is of the kind it was."""
    return LISTS.get(ask.list, "distance") if ask.kind == "again" else ask.kind


class HowPicture(QWidget):
    """The picture. Hidden while nothing is asked for."""

    def __init__(self) -> None:
        super().__init__()
        self.look: Look = LIGHT
        self._ask: ReadingAsk | None = None
        self.setFixedSize(QSize(WIDE_PX, HIGH_PX))

    def dress(self, look: Look) -> None:
        """Show it in ``look``."""
        self.look = look
        self.update()

    def show_ask(self, ask: ReadingAsk | None) -> None:
        """Show how ``ask`` is taken."""
        self._ask = ask
        if ask is not None:
            kind = kind_of_ask(ask)
            self.setAccessibleName(f"How it is taken: {WORDS.get(kind, ask.sense.replace('-', ' to '))}")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint what is measured in grey, the tool and what is read in the strong colour."""
        del event
        if self._ask is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), colour(self.look.paper))
        painter.setPen(QPen(colour(self.look.faint), 1.6))
        painter.setBrush(colour(self.look.edge))
        kind = kind_of_ask(self._ask)
        draw = {"diameter": self._diameter, "depth": self._depth, "straightedge": self._thickness, "sweep": self._sweep,
                "direction": self._direction}.get(kind, self._distance)  # fmt: skip
        draw(painter)

    def _strong(self, painter: QPainter, wide: float = 2.0) -> None:
        painter.setPen(QPen(colour(self.look.accent), wide))
        painter.setBrush(colour(self.look.accent))

    def _arrows(self, painter: QPainter, a: QPointF, b: QPointF) -> None:
        """A line from ``a`` to ``b`` with a head at either end."""
        self._strong(painter)
        painter.drawLine(a, b)
        way = b - a
        long = max((way.x() ** 2 + way.y() ** 2) ** 0.5, 1.0)
        u = QPointF(way.x() / long, way.y() / long)
        across = QPointF(-u.y(), u.x())
        for tip, back in ((a, u), (b, -u)):
            painter.drawPolygon(QPolygonF([tip, tip + back * 8 + across * 4, tip + back * 8 - across * 4]))

    def _distance(self, painter: QPainter) -> None:
        """Two round things; the jaws at the edges that are read."""
        for x in (LEFT, RIGHT):
            painter.drawEllipse(QPointF(x, LINE), ROUND, ROUND)
        painter.setPen(QPen(colour(self.look.faint), 1.0, Qt.PenStyle.DashDotLine))
        painter.drawLine(QPointF(LEFT - 28, LINE), QPointF(RIGHT + 28, LINE))
        sense = self._ask.sense if self._ask is not None else "near-near"
        start, end = ENDS.get(sense, ENDS["near-near"])
        self._strong(painter, 3.0)
        for x in (start, end):
            painter.drawLine(QPointF(x, 20.0), QPointF(x, LINE))
        painter.drawLine(QPointF(start - 8, 20.0), QPointF(end + 8, 20.0))
        self._arrows(painter, QPointF(start, 32.0), QPointF(end, 32.0))

    def _diameter(self, painter: QPainter) -> None:
        middle = QPointF(WIDE_PX / 2, LINE - 4)
        painter.drawEllipse(middle, 28.0, 28.0)
        self._strong(painter, 3.0)
        for x in (middle.x() - 28, middle.x() + 28):
            painter.drawLine(QPointF(x, 12.0), QPointF(x, middle.y()))
        painter.drawLine(QPointF(middle.x() - 36, 12.0), QPointF(middle.x() + 36, 12.0))
        self._arrows(painter, middle - QPointF(28, 0), middle + QPointF(28, 0))

    def _depth(self, painter: QPainter) -> None:
        """The straightedge on the hub's face, the rod down to a lug's."""
        painter.drawRect(QRectF(14, 34, 40, 50))
        painter.drawRect(QRectF(108, 66, 42, 18))
        self._strong(painter)
        painter.drawRect(QRectF(8, 22, 148, 10))
        painter.drawRect(QRectF(126, 6, 5, 20))
        self._arrows(painter, QPointF(128.5, 34), QPointF(128.5, 65))

    def _thickness(self, painter: QPainter) -> None:
        painter.drawRect(QRectF(20, 38, 124, 22))
        self._arrows(painter, QPointF(82, 39), QPointF(82, 59))
        self._strong(painter, 3.0)
        painter.drawLine(QPointF(70, 36), QPointF(94, 36))
        painter.drawLine(QPointF(70, 62), QPointF(94, 62))

    def _sweep(self, painter: QPainter) -> None:
        """The face seen from its edge, the indicator's tip on it."""
        painter.drawRect(QRectF(30, 10, 12, 74))
        self._strong(painter, 3.0)
        painter.drawLine(QPointF(43, 30), QPointF(84, 30))
        painter.setBrush(colour(self.look.paper))
        painter.drawEllipse(QPointF(104, 30), 20.0, 20.0)
        painter.drawLine(QPointF(104, 30), QPointF(116, 20))
        self._strong(painter)
        painter.drawArc(QRectF(8, 52, 56, 30), 200 * 16, 140 * 16)

    def _direction(self, painter: QPainter) -> None:
        """Two round things with a level along them, and the angle from level."""
        a, b = QPointF(34, 66), QPointF(124, 30)
        for at in (a, b):
            painter.drawEllipse(at, 12.0, 12.0)
        painter.setPen(QPen(colour(self.look.faint), 1.0, Qt.PenStyle.DashDotLine))
        painter.drawLine(a, QPointF(150, 66))
        self._strong(painter, 4.0)
        painter.drawLine(a - QPointF(14, -6), b + QPointF(14, -6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour(self.look.accent), 2.0))
        painter.drawArc(QRectF(a.x() - 60, a.y() - 60, 120, 120), 0, 22 * 16)


USUAL, ROOMY_PX = "usual instrument", 640
SHORT = {"near-near": "near – near", "far-far": "far – far", "near-far": "near – far", "centres": "centres"}


class EntryBar(QFrame):
    """What is asked, and the field for it. Emits what was given; it never writes a reading down itself."""

    given = Signal(float, bool)
    skipped = Signal()
    sense_wanted = Signal(str)
    angle_wanted = Signal()
    instrument_chosen = Signal(str)
    spot_changed = Signal(float, float)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("card")
        self._ask: ReadingAsk | None = None
        self._units: Units = "mm"
        self._spot_parts: tuple[QWidget, ...] = ()
        whole = QHBoxLayout(self)
        whole.setContentsMargins(10, 6, 10, 8)
        self.picture = HowPicture()
        column = QVBoxLayout()
        column.setSpacing(4)
        whole.addLayout(column, 1)
        whole.addWidget(self.picture, 0, Qt.AlignmentFlag.AlignTop)
        self.question, self.reason, self.wrong = plain_label(), plain_label(), plain_label()
        self.question.setObjectName("head")
        self.reason.setObjectName("faint")
        self.wrong.setObjectName("wrong")
        for label in (self.question, self.reason, self.wrong):
            label.setTextFormat(Qt.TextFormat.PlainText)
            label.setWordWrap(True)
            column.addWidget(label)
        self.wrong.hide()
        column.addLayout(self._ways())
        column.addLayout(self._row())

    def _row(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        self.value = QLineEdit()
        self.value.setObjectName("big")
        self.value.setMinimumWidth(150)
        self.value.setMaximumWidth(240)
        self.value.setAccessibleName("Value of the reading asked for")
        self.value.returnPressed.connect(self._give)
        self.value.textEdited.connect(lambda: self.refuse(""))
        self.value.installEventFilter(self)
        row.addWidget(self.value, 2)
        self.take = QPushButton("Take")
        self.take.setObjectName("primary")
        self.take.setToolTip("Takes the value and asks for the next reading (Enter)")
        self.take.clicked.connect(self._give)
        self.skip = QPushButton("Skip")
        self.skip.setToolTip("Asks for the next reading; in a sweep the reading counts as dropped")
        self.skip.clicked.connect(self.skipped)
        row.addWidget(self.take)
        row.addWidget(self.skip)
        row.addStretch(1)
        self.instruments: QComboBox = CalmCombo()
        self._fill_instruments(angle=False)
        self.instruments.setAccessibleName("Instrument")
        self.instruments.setMinimumWidth(190)
        self.instruments.activated.connect(lambda: self.instrument_chosen.emit(self.instruments.currentData()))
        row.addWidget(self.instruments)
        return row

    def _fill_instruments(self, angle: bool) -> None:
        """Offer the instruments that can read what is asked for; a choice that still fits stays."""
        kept = self.instruments.currentData()
        self.instruments.clear()
        self.instruments.addItem(USUAL, "")
        for name, sd in INSTRUMENTS.items():
            if (name == "angle-gauge") == angle:
                self.instruments.addItem(f"{name.replace('-', ' ')}  ±{sd:g}{'°' if angle else ' mm'}", name)
        self.instruments.setCurrentIndex(max(self.instruments.findData(kept), 0))
        self._for_angles = angle

    def _ways(self) -> QHBoxLayout:
        """How the reading asked for can be read: the senses of a distance, plumb for an angle, the place of a spot."""
        row = QHBoxLayout()
        row.setSpacing(6)
        self.senses: dict[str, QToolButton] = {}
        for sense, text in SHORT.items():
            button = QToolButton()
            button.setText(text)
            button.setCheckable(True)
            button.setToolTip(f"Read {SENSE_WORDS[sense]}")
            button.setAccessibleName(f"Read {SENSE_WORDS[sense]}")
            button.clicked.connect(lambda _checked=False, sense=sense: self.sense_wanted.emit(sense))
            self.senses[sense] = button
            row.addWidget(button)
        self.angle = QToolButton()
        self.angle.setText("angle instead")
        self.angle.setToolTip("Read the angle of the line between the two instead")
        self.angle.clicked.connect(self.angle_wanted)
        row.addWidget(self.angle)
        self.plumb = QToolButton()
        self.plumb.setText("from plumb")
        self.plumb.setCheckable(True)
        self.plumb.setToolTip(
            "The value is the lean from plumb, forward positive; off: the clock angle, 0 forward, 90 up"
        )
        row.addWidget(self.plumb)
        self.spot_at, self.spot_radius = self._spot("at", row), self._spot("out", row)
        row.addStretch(1)
        return row

    def _spot(self, name: str, row: QHBoxLayout) -> QLineEdit:
        field = TypedLine()
        field.setMaximumWidth(100)
        label = plain_label(f"spot {name}" if name == "at" else name)
        label.setBuddy(field)
        row.addWidget(label)
        self._spot_parts += (label, field)
        what = (
            "Direction of the spot, clock angle"
            if name == "at"
            else "Distance of the spot from the centre, or the sweep's radius"
        )
        field.setToolTip(what)
        field.setAccessibleName(what)
        field.editingFinished.connect(self._moved)
        row.addWidget(field)
        return field

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Leave the picture out where the bar is too narrow for it."""
        self.picture.setHidden(self._ask is None or self.width() < ROOMY_PX)
        super().resizeEvent(event)

    def minimumSizeHint(self) -> QSize:
        """Return the width it can be squeezed to: without the picture."""
        return QSize(0, super().minimumSizeHint().height())

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Escape empties the field."""
        if event.type() == QEvent.Type.KeyPress and event.key() == Qt.Key.Key_Escape:  # type: ignore[attr-defined]
            self.value.setText("")  # unlike clear(), undo does not bring an old reading back
            self.refuse("")
            return True
        return super().eventFilter(watched, event)

    def show_ask(self, ask: ReadingAsk | None, units: Units) -> None:
        """Show what is asked for; a value half typed stays while the question is the same."""
        fresh = ask != self._ask
        self.picture.show_ask(ask)
        self.picture.setHidden(ask is None or self.width() < ROOMY_PX)
        self._ask, self._units = ask, units
        self.question.setText(f"Asked now: {ask.name}" if ask else "Click two holes to measure between them")
        self.reason.setText((ask.why[:1].upper() + ask.why[1:]) if ask else "")
        self.reason.setVisible(bool(ask and ask.why))
        if fresh:
            self.value.setText("")
            self.refuse("")
        self.value.setEnabled(ask is not None)
        self.take.setEnabled(ask is not None)
        angle = ask is not None and ask.is_angle
        self.value.setPlaceholderText("degrees" if angle else units)
        if angle != self._for_angles:
            self._fill_instruments(angle)
            self.instrument_chosen.emit(self.instruments.currentData())
        self.skip.setEnabled(ask is not None)
        distance = ask is not None and ask.kind == "distance"
        for sense, button in self.senses.items():
            button.setVisible(distance)
            button.setChecked(distance and ask is not None and ask.sense == sense)
        self.angle.setVisible(distance)
        self.plumb.setVisible(angle)
        spot = ask is not None and ask.kind in ("depth", "sweep")
        for part in self._spot_parts:
            part.setVisible(spot)
        if spot and ask is not None and fresh:
            self.spot_at.setText(f"{ask.at_deg:g}°")
            self.spot_radius.setText(edit_text(ask.radius_mm, LENGTH, units))

    def refuse(self, message: str) -> None:
        """Say what is wrong; the text stays as typed, selected: the next value is typed over it."""
        self.wrong.setText(message)
        self.wrong.setVisible(bool(message))
        mark_wrong(self.value, bool(message))
        if message:
            self.value.selectAll()

    def taken(self) -> None:
        """What stood in the field has been written down: it is empty for the next reading, which may be the same one again."""
        self.value.setText("")
        self.refuse("")

    def _give(self) -> None:
        ask = self._ask
        if ask is None or not self.value.text().strip():
            return
        kind = ANGLE if ask.is_angle else LENGTH
        try:
            value = parse_quantity(self.value.text(), kind, "" if ask.is_angle else self._units)
        except QuantityError as error:
            self.refuse(f"Not taken: {error}")
            return
        self.given.emit(value, ask.is_angle and self.plumb.isChecked())

    def _moved(self) -> None:
        try:
            at = parse_quantity(self.spot_at.text(), ANGLE)
            radius = parse_quantity(self.spot_radius.text(), LENGTH, self._units)
        except QuantityError as error:
            self.refuse(f"Spot: {error}")
            return
        self.spot_changed.emit(at, radius)

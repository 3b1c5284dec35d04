"""The entry bar: says which reading is asked for, takes the value, and goes on to the next."""

from PySide6.QtCore import QEvent, QObject, QSize, Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QLineEdit, QPushButton, QToolButton, QVBoxLayout, QWidget

from bicentra.app.survey.how_picture import HowPicture
from bicentra.app.widgets.fields import CalmCombo
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.typed import TypedLine, mark_wrong
from bicentra.core.base.errors import QuantityError
from bicentra.core.base.quantities import ANGLE, LENGTH, Units, edit_text, parse_quantity
from bicentra.core.parts.survey import INSTRUMENTS, SENSE_WORDS
from bicentra.study.desks.survey import ReadingAsk

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

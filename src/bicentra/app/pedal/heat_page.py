"""Temperature over a train of stops, with the fields that say what train it is; part of the pedal bench."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout

from bicentra.app.pedal.drawn_page import DrawnPage
from bicentra.app.theme import Look
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.typed import TypedLine
from bicentra.core.base.numbers import is_known
from bicentra.core.base.wording import units_of
from bicentra.core.drawing.heat_view import heat_view
from bicentra.core.heat.stops import DUTIES
from bicentra.study.desks.pedal import TRAIN, PedalDesk

ROOM_PX, FIELD_PX = (230.0, 80.0), 84


class HeatPage(DrawnPage):
    """``given`` carries the name of a number of the train and what was typed, ``chosen`` a kind of use.

    ``handed``: the line-up is to take the rotor as hot.
    """

    room = ROOM_PX
    given = Signal(str, str)
    chosen = Signal(str)
    handed = Signal()

    def __init__(self, look: Look) -> None:
        super().__init__("Temperature over repeated stops", look)
        self.view.exaggeration = "stop by stop"
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        self.needed = plain_label()
        self.needed.setObjectName("head")
        self.needed.setWordWrap(True)
        column.addWidget(self.needed)
        column.addWidget(self.view, 1)
        self.besides = plain_label()
        self.besides.setObjectName("faint")
        self.besides.setWordWrap(True)
        column.addWidget(self.besides)
        self.fields: dict[str, TypedLine] = {}
        column.addLayout(self._uses())
        column.addLayout(self._train())

    def _uses(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.uses = {name: QPushButton(name.capitalize()) for name in DUTIES}
        for name, button in self.uses.items():
            button.setToolTip("Repeated stops to begin with: change the numbers below")
            button.clicked.connect(lambda _checked=False, name=name: self.chosen.emit(name))
            row.addWidget(button)
        row.addStretch(1)
        self.hand = QPushButton()
        self.hand.clicked.connect(self.handed)
        row.addWidget(self.hand)
        return row

    def _train(self) -> QHBoxLayout:
        row = QHBoxLayout()
        for name, (text, *_) in TRAIN.items():
            caption, field = plain_label(text[:1].upper() + text[1:]), TypedLine()
            caption.setBuddy(field)
            field.setAccessibleName(f"Repeated stops: {text}")
            field.setFixedWidth(FIELD_PX)
            field.editingFinished.connect(lambda name=name, field=field: self.given.emit(name, field.text()))
            row.addWidget(caption)
            row.addWidget(field)
            self.fields[name] = field
        row.addStretch(1)
        return row

    def show_desk(self, desk: PedalDesk) -> None:
        """Show the train of ``desk`` and what it does."""
        for name, field in self.fields.items():
            field.show_text(desk.train_text(name))
        self.needed.setText(desk.hot.needed)
        self.needed.setVisible(bool(desk.hot.needed))
        self.besides.setText(" ".join(desk.hot_text))
        self.besides.setVisible(bool(desk.hot_text))
        rise = desk.hot.hottest_rise
        self.hand.setVisible(is_known(rise))
        if is_known(rise):
            same = round(rise) == desk.handed_k
            self.hand.setEnabled(not same)
            hotter = desk.lengths.warmer(rise)
            self.hand.setText(
                f"+{hotter} is used in the tip-gap check" if same else f"Use +{hotter} in the tip-gap check"
            )
            text = "The line-up's tip gap when hot is worked out for a rotor that much hotter than cold. "
            self.hand.setToolTip(
                f"{text}Now {desk.lengths.warmer(desk.handed_k)}. Use the hardest use, not the usual one."
            )
        self.view.show_drawing(heat_view(desk.vehicle, desk.hot), {}, 1.0, units_of(desk.study.job.display_units))

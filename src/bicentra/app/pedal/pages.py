"""Pages of the pedal bench that are drawings: grip, master cylinder, travel, heat."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from bicentra.app.drawing.fit import show_whole
from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.theme import Look
from bicentra.app.widgets.basics import clear_layout, scrolled
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.typed import TypedLine
from bicentra.core.base.numbers import is_known
from bicentra.core.base.wording import units_of
from bicentra.core.drawing.views.balance import grip_view
from bicentra.core.drawing.views.heat import heat_view
from bicentra.core.drawing.views.master import master_view, travel_view
from bicentra.core.heat.stops import DUTIES
from bicentra.study.desks.pedal import TRAIN, PedalDesk


class DrawnPage(QWidget):
    """``view`` shows the drawing; ``is_diagram``: it has axes, and no scale of its own."""

    is_diagram = True

    def __init__(self, title: str, look: Look) -> None:
        super().__init__()
        self.state = ViewState()
        self.state.look = look
        self.view = DrawingView(title, self.state, {})
        self.view.is_diagram = self.is_diagram
        self.view.fit_wanted.connect(self.fit)

    def over_words(self, exaggeration: str) -> QLabel:
        """Put the drawing over a faint line of words, which is returned; instead of a scale it has ``exaggeration``."""
        self.view.exaggeration = exaggeration
        column, text = QVBoxLayout(self), plain_label()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        text.setObjectName("faint")
        text.setWordWrap(True)
        column.addWidget(self.view, 1)
        column.addWidget(text)
        return text

    def fit(self) -> None:
        """Show the drawing whole."""
        show_whole((self.view,))

    def dress(self, look: Look) -> None:
        """Show it in ``look``."""
        self.state.dress(look)


TOLD = (
    "An axle whose curve lies above the other's locks first. Between 0.15 and 0.8 g that has to be the front: UN R13-H, from "
    "memory, a guide that replaces no inspection."
)


class GripPage(DrawnPage):
    """The working point is where the pedal is pressed to on the page of the pedal."""

    def __init__(self, look: Look) -> None:
        super().__init__("Grip used by each axle", look)
        self.over_words("against deceleration").setText(TOLD)

    def show_desk(self, desk: PedalDesk) -> None:
        """Show the grip used by ``desk``'s vehicle."""
        drawing = grip_view(desk.chain, desk.chain.at(desk.foot), desk.laden)
        self.view.show_drawing(drawing, {}, 1.0, desk.units)


class MasterPage(DrawnPage):
    """Shows; what is typed of the master is typed on the page of numbers."""

    is_diagram = False

    def __init__(self, look: Look) -> None:
        super().__init__("The master cut open", look)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.view, 3)
        below = QFrame()
        below.setObjectName("panelBody")
        self._list = QVBoxLayout(below)
        self._list.setContentsMargins(10, 8, 10, 8)
        column.addWidget(scrolled(below), 1)

    def show_desk(self, desk: PedalDesk) -> None:
        """Show the master of ``desk``'s vehicle."""
        vehicle = desk.vehicle
        self.view.show_drawing(master_view(vehicle, desk.chain, desk.original, desk.lengths), {}, 1.0, desk.units)
        clear_layout(self._list)
        head = plain_label("Still to do")
        head.setObjectName("group")
        self._list.addWidget(head)
        for text in desk.rework:
            line = plain_label(f"–  {text}")
            line.setWordWrap(True)
            self._list.addWidget(line)
        self._list.addStretch(1)


class TravelPage(DrawnPage):
    """Shows; what gives way is typed on the page of numbers."""

    def __init__(self, look: Look) -> None:
        super().__init__("Where the master's stroke goes", look)
        self.note = self.over_words("stage by stage")

    def show_desk(self, desk: PedalDesk) -> None:
        """Show the stages of a stop of ``desk``'s vehicle."""
        chain, stages = desk.chain, desk.stages
        self.view.show_drawing(travel_view(chain, stages, desk.one_circuit), {}, 1.0, desk.units)
        usual = list(dict.fromkeys(name for one in stages for name in one.usual))
        text = []
        if usual:
            text.append(
                f"* Common practice is taken for {', '.join(usual)}. What you can measure of it goes under Numbers."
            )
        if desk.vehicle.vehicle.valve.kind == "residual":
            text.append(
                "A residual valve holds shoes a little out: it is counted as none, so the true travel is shorter."
            )
        self.note.setText(" ".join(text))


FIELD_PX = 84


class HeatPage(DrawnPage):
    """``given`` carries the name of a number of the train and what was typed, ``chosen`` a kind of use.

    ``handed``: the line-up is to take the rotor as hot.
    """

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

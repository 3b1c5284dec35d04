"""The master cylinder cut open, old over new, and what has to be made or adapted; part of the pedal bench."""

from PySide6.QtWidgets import QFrame, QVBoxLayout, QWidget

from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.theme import Look
from bicentra.app.widgets.clearing import clear_layout
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.scrolled import scrolled
from bicentra.core.drawing.master_view import master_view
from bicentra.core.hydraulics.before import before_of
from bicentra.core.hydraulics.remake import remakes
from bicentra.study.desks.pedal import PedalDesk

ROOM_PX = (140.0, 60.0)


class MasterPage(QWidget):
    """Shows; what is typed of the master is typed on the page of numbers."""

    def __init__(self, look: Look) -> None:
        super().__init__()
        self.state = ViewState()
        self.state.look = look
        self.view = DrawingView("The master cut open", self.state, {})
        self.view.fit_wanted.connect(self.fit)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.view, 3)
        below = QFrame()
        below.setObjectName("panelBody")
        self._list = QVBoxLayout(below)
        self._list.setContentsMargins(10, 8, 10, 8)
        column.addWidget(scrolled(below), 2)

    def show_desk(self, desk: PedalDesk) -> None:
        """Show the master of ``desk``'s vehicle."""
        vehicle = desk.vehicle
        self.view.show_drawing(master_view(vehicle, desk.chain, before_of(vehicle), desk.lengths), {}, 1.0, desk.units)
        clear_layout(self._list)
        head = plain_label("To make, to adapt, to look at")
        head.setObjectName("group")
        self._list.addWidget(head)
        for told in remakes(vehicle):
            line = plain_label(f"–  {told}")
            line.setWordWrap(True)
            self._list.addWidget(line)
        self._list.addStretch(1)

    def fit(self) -> None:
        """Show the drawing whole."""
        if self.view.drawing is not None:
            self.view.centre()
            self.state.set_scale(self.view.fit_scale(ROOM_PX), fitted=True)

    def dress(self, look: Look) -> None:
        """Show it in ``look``."""
        self.state.dress(look)

"""The master cylinder cut open, old over new, and what has to be made or adapted; part of the pedal bench."""

from PySide6.QtWidgets import QFrame, QVBoxLayout

from bicentra.app.pedal.drawn_page import DrawnPage
from bicentra.app.theme import Look
from bicentra.app.widgets.clearing import clear_layout
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.scrolled import scrolled
from bicentra.core.drawing.master_view import master_view
from bicentra.core.hydraulics.before import before_of
from bicentra.core.hydraulics.rework_list import rework_list
from bicentra.study.desks.pedal import PedalDesk

ROOM_PX = (140.0, 60.0)


class MasterPage(DrawnPage):
    """Shows; what is typed of the master is typed on the page of numbers."""

    room = ROOM_PX

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
        column.addWidget(scrolled(below), 2)

    def show_desk(self, desk: PedalDesk) -> None:
        """Show the master of ``desk``'s vehicle."""
        vehicle = desk.vehicle
        self.view.show_drawing(master_view(vehicle, desk.chain, before_of(vehicle), desk.lengths), {}, 1.0, desk.units)
        clear_layout(self._list)
        head = plain_label("Still to do")
        head.setObjectName("group")
        self._list.addWidget(head)
        for text in rework_list(vehicle):
            line = plain_label(f"–  {text}")
            line.setWordWrap(True)
            self._list.addWidget(line)
        self._list.addStretch(1)

"""The grip each axle uses, empty and laden, dry and wet; part of the pedal bench."""

from bicentra.app.pedal.drawn_page import DrawnPage
from bicentra.app.theme import Look
from bicentra.core.drawing.grip_view import grip_view
from bicentra.study.desks.pedal import PedalDesk

TOLD = (
    "An axle whose curve lies above the other's locks first. Between 0.15 and 0.8 g that has to be the front: UN R13-H, from "
    "memory, a guide that replaces no inspection."
)


class GripPage(DrawnPage):
    """The working point is where the pedal is pressed to on the page of the pedal."""

    room = (120.0, 70.0)

    def __init__(self, look: Look) -> None:
        super().__init__("Grip used by each axle", look)
        self.over_words("against deceleration").setText(TOLD)

    def show_desk(self, desk: PedalDesk) -> None:
        """Show the grip used by ``desk``'s vehicle."""
        drawing = grip_view(desk.chain, desk.chain.at(desk.foot), desk.laden)
        self.view.show_drawing(drawing, {}, 1.0, desk.units)

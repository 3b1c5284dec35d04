"""Where the stroke goes: travel of pedal and master at each stage of a stop; part of the pedal bench."""

from bicentra.app.pedal.drawn_page import DrawnPage
from bicentra.app.theme import Look
from bicentra.core.drawing.travel_view import travel_view
from bicentra.core.hydraulics.travel import one_circuit
from bicentra.study.desks.pedal import PedalDesk


class TravelPage(DrawnPage):
    """Shows; what gives way is typed on the page of numbers."""

    room = (30.0, 12.0)

    def __init__(self, look: Look) -> None:
        super().__init__("Where the master's stroke goes", look)
        self.note = self.over_words("stage by stage")

    def show_desk(self, desk: PedalDesk) -> None:
        """Show the stages of a stop of ``desk``'s vehicle."""
        chain, stages = desk.chain, desk.stages
        self.view.show_drawing(travel_view(chain, stages, one_circuit(chain, desk.foot)), {}, 1.0, desk.units)
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

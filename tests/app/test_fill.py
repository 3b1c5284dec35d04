"""Drawings fill their panes at 1280 × 800: the parts themselves, and with their labels, on every bench and for every example."""

import pytest
from PySide6.QtCore import QRectF
from pytestqt.qtbot import QtBot

from bicentra.app.drawing.overlay import standing
from bicentra.app.drawing.view import DrawingView
from bicentra.app.paint import label_rect
from bicentra.app.pedal.bench import SHOWN
from bicentra.app.theme import BASE_PX
from bicentra.app.window import MainWindow
from bicentra.study.document.starting import EXAMPLES, demo_vehicle, empty_vehicle, example_vehicle
from tests.app.conftest import Opener

PARTS, LABELLED = 0.45, 0.70
"""The least part of its pane's area that the box round a drawing's parts takes, and with its labels."""
PLAIN = {
    "survey": (0.55, 0.60),  # a round hub face alone in a wide pane, nothing labelled outside it
    "bolts": (0.40, 0.62),  # an odd stack leaves a place empty
    "part": (0.25, 0.30),  # bushings are small and lie side by side
    "bracket": (0.20, 0.25),
    "knuckle": (0.45, 0.62),
    "pedal": (0.35, 0.60),  # a chain nothing of which is known has no pistons
    "master": (0.30, 0.52),
    "section": (0.40, 0.45),  # narrow and high; the example's cut has no labels of its own: they stand along the axle
}
"""What is less, and why."""


def fill_of(view: DrawingView) -> tuple[float, float]:
    """Return which parts of the pane the parts take, and the parts with all texts."""
    scale, origin = view.view_state.scale, view.origin()
    boxes = [shape.bounds for shape in view.drawing.shapes if shape.ink != "centre"]
    x0, y0 = min(box[0] for box in boxes), min(box[1] for box in boxes)
    x1, y1 = max(box[2] for box in boxes), max(box[3] for box in boxes)
    parts = QRectF(origin.x() + x0 * scale, origin.y() - y1 * scale, (x1 - x0) * scale, (y1 - y0) * scale)
    everything = QRectF(parts)
    for rect in (*(label_rect(label, origin) for label in view.labels), *standing(view, origin, scale)):
        everything = everything.united(rect)
    pane = QRectF(view.rect())
    area = pane.width() * pane.height()
    found = [box.intersected(pane) for box in (parts, everything)]
    return found[0].width() * found[0].height() / area, found[1].width() * found[1].height() / area


def panes(window: MainWindow, qtbot: QtBot) -> list[tuple[str, DrawingView]]:
    """Return every drawing of every bench and sheet, each as it is in front, measured at once."""
    found: list[tuple[str, float, float]] = []

    def look(name: str) -> None:
        qtbot.wait(15)
        for view in window.findChildren(DrawingView):
            if view.isVisible() and view.drawing is not None and any(s.ink != "centre" for s in view.drawing.shapes):
                view.grab()
                own = "section" if name == "lineup" and view is window.bench.section else name
                found.append((own, *fill_of(view)))

    for bench in ("lineup", "survey", "parts", "trialfit"):
        window.show_bench(bench)
        look(bench)
    window.show_bench("bracket")
    for page in ("part", "bolts"):
        window.front.show_page(page)
        look(page)
    window.show_bench("pedal")
    for page, _ in SHOWN[:-1]:
        window.front.show_drawn(page)
        look(page)
    window.show_bench("lineup")
    for sheet in ("hub", "knuckle", "rotor", "caliper", "bracket"):
        window.show_panel(sheet)
        look(sheet)
    return found


@pytest.mark.parametrize("name", ["demo", "empty", *EXAMPLES])
def test_drawings_fill_their_panes(name: str, open_window: Opener, qtbot: QtBot) -> None:
    """At least 45 % of a pane by its parts and 70 % with their labels; what is less is listed above with its reason."""
    vehicle = {"demo": demo_vehicle, "empty": empty_vehicle}.get(name, lambda: example_vehicle(name))()
    window = open_window(vehicle)
    window.resize(1280, 800)
    poor = []
    for where, parts, labelled in panes(window, qtbot):
        least = PLAIN.get(where, (PARTS, LABELLED))
        spare = 0.06 if name == "empty" else 0.005  # an example says so in a second line above
        if parts < least[0] - spare or labelled < least[1] - spare:
            poor.append(f"{where}: parts {parts:.2f}, with labels {labelled:.2f}")
    assert not poor, poor


def test_a_larger_window_has_larger_text_and_drawing(open_window: Opener, qtbot: QtBot) -> None:
    """At 1920 × 1080 letters and parts grow, the margins do not."""
    window = open_window(demo_vehicle())
    window.resize(1280, 800)
    qtbot.wait(20)
    view = window.bench.face
    before = view.view_state.scale, view.grown
    window.resize(1920, 1080)
    qtbot.wait(20)
    assert view.view_state.scale > 1.25 * before[0] and view.grown > 1.3 and before[1] == 1.0
    assert fill_of(view)[0] > PARTS and window.look.size > 1.0 and window.header.font().pixelSize() > BASE_PX
    window.resize(1280, 800)
    qtbot.wait(20)
    assert window.look.size == 1.0 and window.header.font().pixelSize() == BASE_PX

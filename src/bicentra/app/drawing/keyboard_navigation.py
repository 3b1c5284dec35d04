"""Going round a drawing's handles and dotted numbers by keys, and pulling the one that is chosen. No widgets here."""

from dataclasses import dataclass

from PySide6.QtCore import Qt

from bicentra.core.drawing.layout import Placed
from bicentra.core.drawing.model import Handle

ARROWS = {
    Qt.Key.Key_Right: (1.0, 0.0), Qt.Key.Key_Left: (-1.0, 0.0), Qt.Key.Key_Up: (0.0, 1.0), Qt.Key.Key_Down: (0.0, -1.0),
}  # fmt: skip
ACROSS = 0.3
"""Cosine below which an arrow points across what a handle can do."""


@dataclass
class KeyboardNavigation:
    """What is chosen: the key path of a handle or of a number that may be typed over; empty for nothing."""

    chosen: str = ""
    typed: bool = False

    def step(self, handles: tuple[Handle, ...], labels: tuple[Placed, ...], back: bool = False) -> None:
        """Choose the next thing, or the one before; after the last nothing, then the first again."""
        things = [(h.path, False) for h in handles] + [(label.edits, True) for label in labels if label.edits]
        stops = [("", False), *dict.fromkeys(things)]
        here = stops.index((self.chosen, self.typed)) if (self.chosen, self.typed) in stops else 0
        self.chosen, self.typed = stops[(here + (-1 if back else 1)) % len(stops)]

    def handle(self, handles: tuple[Handle, ...]) -> Handle | None:
        """Return the handle that is chosen, if it is still there."""
        return None if self.typed else next((h for h in handles if h.path == self.chosen), None)

    def label(self, labels: tuple[Placed, ...]) -> Placed | None:
        """Return the number that is chosen, if it is still there."""
        return next((label for label in labels if label.edits == self.chosen), None) if self.typed else None

    @staticmethod
    def nudged(handle: Handle, value: float, key: Qt.Key, times: float) -> float | None:
        """Return the value after an arrow key: one step of the handle the way it points; ``None`` for one that points across."""
        dx, dy = ARROWS[key]
        along = handle.along[0] * dx + handle.along[1] * dy
        if abs(along) < ACROSS:
            return None
        way = (1.0 if along > 0 else -1.0) * (1.0 if handle.gain > 0 else -1.0)
        moved = round((value + way * handle.step * times) / handle.step) * handle.step
        return round(moved % 360.0 if handle.turns else moved, 4)

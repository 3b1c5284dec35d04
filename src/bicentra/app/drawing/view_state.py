"""What both sightlines share: one scale, the look, what is lit."""

from PySide6.QtCore import QObject, Signal

from bicentra.app.theme import LIGHT, Look

LEAST_SCALE, MOST_SCALE = 0.15, 60.0


class ViewState(QObject):
    """The shared state of the two drawings. ``scale`` is pixels per millimetre, the same in both."""

    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.scale = 1.5
        self.look: Look = LIGHT
        self.lit: frozenset[str] = frozenset()
        self.fitted = True
        self.pulling = False  # whether a handle of either drawing is held

    def set_scale(self, scale: float, fitted: bool = False) -> None:
        """Set the scale of both drawings; ``fitted`` when it was chosen to show everything."""
        self.scale = min(max(scale, LEAST_SCALE), MOST_SCALE)
        self.fitted = fitted
        self.changed.emit()

    def light(self, tags: frozenset[str]) -> None:
        """Light the features called ``tags`` in both drawings."""
        if tags != self.lit:
            self.lit = tags
            self.changed.emit()

    def dress(self, look: Look) -> None:
        """Show both drawings in ``look``."""
        self.look = look
        self.changed.emit()

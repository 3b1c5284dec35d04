"""The sheet of the survey: two features picked ask for the distance between them; buttons put down what is measured next."""

from PySide6.QtCore import QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QToolButton, QWidget

from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawing.view_state import ViewState
from bicentra.core.drawing.views.survey import feature_tag

ADDS = {
    "pilot": ("+ pilot", "The hub's pilot: everything is measured from its centre"),
    "lug": ("+ lug", "The next lug hole of this corner"),
    "hole": ("+ hole", "Another hole, boss or bolt head to measure to"),
    "other": ("+ other…", "A point, a straight edge, or a feature with a name of its own"),
}
EDGE_PX = 8


class Adders(QWidget):
    """The row of buttons, at the foot of ``sheet``. ``wanted`` carries pilot, lug, hole or other."""

    wanted = Signal(str)

    def __init__(self, sheet: QWidget) -> None:
        super().__init__(sheet)
        self._sheet = sheet
        self.setAccessibleName("Add something to measure to")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        self.buttons: dict[str, QToolButton] = {}
        for name, (text, help) in ADDS.items():
            button = QToolButton()
            button.setText(text)
            button.setToolTip(help)
            button.setAccessibleName(f"Add: {text.removeprefix('+ ')}")
            button.clicked.connect(lambda _checked=False, name=name: self.wanted.emit(name))
            self.buttons[name] = button
            row.addWidget(button)

    def settle(self, has_axis: bool) -> None:
        """Stand at the foot of the sheet, to the right; a pilot is only offered while there is none."""
        self.buttons["pilot"].setHidden(has_axis)
        self.adjustSize()
        wide, high = self._sheet.width(), self._sheet.height()
        self.move(QPoint(wide - self.width() - EDGE_PX, high - self.height() - EDGE_PX))


PICK_PX, FREE_PX = 22.0, 6.0
PREFIX = feature_tag("")


class SurveySheet(DrawingView):
    """Shows the hub face. ``feature_picked`` carries a feature's name, by pointer or by keyboard."""

    feature_picked = Signal(str)
    escaped = Signal()

    def __init__(self, view_state: ViewState) -> None:
        super().__init__("Hub face, seen from outboard", view_state, {})
        self.names: tuple[str, ...] = ()
        self.places: dict[str, tuple[float, float]] = {}
        self._at = -1
        self.margins = True
        self.adders = Adders(self)

    def show_features(self, places: dict[str, tuple[float, float]]) -> None:
        """Tell which features can be picked and where they lie on the drawing [mm]."""
        self.places, self.names = places, tuple(places)
        self._at = min(self._at, len(self.names) - 1)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep the buttons at the foot."""
        super().resizeEvent(event)
        self.adders.settle(self.adders.buttons["pilot"].isHidden())

    def kept_free(self) -> tuple[QRectF, ...]:
        """Return where no text is put [px]: the buttons, and the middle of everything that can be picked."""
        middles = (self.to_px(place) for place in self.places.values())
        half = QPointF(FREE_PX, FREE_PX)
        return (QRectF(self.adders.geometry()), *(QRectF(at - half, at + half) for at in middles))

    def nearest(self, point: QPointF) -> str:
        """Return the feature under ``point`` or close to it; empty when there is none."""
        tag = self.feature_at(point)
        if tag.startswith(PREFIX):
            return tag.removeprefix(PREFIX)
        close = [((self.to_px(place) - point).manhattanLength(), name) for name, place in self.places.items()]
        distance, name = min(close, default=(PICK_PX + 1, ""))
        return name if distance <= PICK_PX else ""

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Pick the feature under the pointer; everything else as on any sheet."""
        name = self.nearest(event.position()) if event.button() == Qt.MouseButton.LeftButton else ""
        if name and self.label_at(event.position()) is None:
            self.setFocus(Qt.FocusReason.MouseFocusReason)
            self.feature_picked.emit(name)
        else:
            super().mousePressEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right go from feature to feature, space or Enter picks, Escape lets go."""
        key = event.key()
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and self.names:
            self._at = (self._at + (1 if key == Qt.Key.Key_Right else -1)) % len(self.names)
            self.view_state.light(frozenset({feature_tag(self.names[self._at])}))
            self.setAccessibleDescription(f"{self.names[self._at]}; space picks it")
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter) and 0 <= self._at < len(self.names):
            self.feature_picked.emit(self.names[self._at])
        elif key == Qt.Key.Key_Escape:
            self.escaped.emit()
        else:
            super().keyPressEvent(event)

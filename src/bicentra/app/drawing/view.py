"""One sightline on screen: a neutral drawing to scale, with labels that can be typed over and handles to pull."""

import math

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
    QResizeEvent,
    QTransform,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from bicentra.app.drawing.handles import (
    ARROWS,
    DOT_PX,
    HANDLE_PX,
    Drag,
    KeyboardNavigation,
    handle_picture,
)
from bicentra.app.drawing.overlay import furniture, paint_frame, paint_value, standing
from bicentra.app.drawing.still_layer import StillLayer
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.paint import (
    Lettering,
    Painted,
    covered,
    label_rect,
    paint_glow,
    paint_labels,
    paint_shapes,
    paint_texts,
    painted,
)
from bicentra.app.theme import colour
from bicentra.core.base.quantities import Units
from bicentra.core.base.records import Record
from bicentra.core.drawing.boxes import Box
from bicentra.core.drawing.layout import lay_out
from bicentra.core.drawing.model import EXAMPLE_OF, Drawing, Handle, fewer, stretched
from bicentra.core.drawing.places import Placed
from bicentra.core.geometry.outline import Point

GRAB_PX, STILL_PX, PAN_PX, LABEL_PX = 20.0, 5.0, 40.0, 13
"""How near a handle is taken, how little a click moves, how far a key moves the sheet, and how high letters are [px]."""
TITLE_PX, NOTE_PX, SCALE_PX, NO_SCALE_PX = 26.0, 20.0, 26.0, 6.0
"""Paper left free above for the title and for a note below that, below for the scale bar, and where there is none [px]."""
LEAST_STRETCH, MOST_STRETCH = 0.5, 2.5
"""How much narrower or wider a diagram may become to fill its paper."""
USUAL_PX, MOST_GROWN = (1280, 800), 1.5
"""The size of window that texts of the usual size are made for, and how much larger they are at most in a larger one."""
PANS = {Qt.Key.Key_Left: (1, 0), Qt.Key.Key_Right: (-1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1)}
"""Which way the sheet goes with an arrow key and Ctrl: what lies in the arrow's direction comes into sight."""


class Nudge(Record, frozen=True):
    """What an arrow key does here: change ``path`` by ``step``, ten times as much with Shift."""

    path: str
    step: float
    label: str


class DrawingView(QWidget):
    """Shows one drawing. Emits what the user wants changed; it never changes the job itself."""

    dragged = Signal(object, float)
    released = Signal()
    cancelled = Signal()
    typed_over = Signal(str, QRectF)
    nudged = Signal(object, float)
    picked = Signal(str)
    opened = Signal(str)
    fit_wanted = Signal()
    _resized = Signal()

    def __init__(self, title: str, view_state: ViewState, nudges: dict[Qt.Key, Nudge]) -> None:
        super().__init__()
        self.title, self.view_state, self._nudges = title, view_state, nudges
        self.drawing: Drawing | None = None
        self._plain: Drawing | None = None
        self.labels: tuple[Placed, ...] = ()
        self.flip = 1.0
        self.exaggeration = self.note = ""
        self.margins = False  # whether texts stand round the parts rather than over them
        self.is_diagram = False  # whether it may be stretched to the shape of its paper
        self._stretch = 1.0
        self.units: Units = "mm"
        self._shapes: tuple[Painted, ...] = ()
        self._pan = QPointF(0.0, 0.0)
        self._middle: Point = (0.0, 0.0)
        self._drag: Drag | None = None
        self._panning: QPointF | None = None
        self._pressed_at: QPointF | None = None
        self._hover: Handle | None = None
        self.keyboard = KeyboardNavigation()
        self._values: dict[str, float] = {}
        self._laid: tuple[object, ...] = ()
        self._tried: dict[tuple[float, ...], int] = {}  # texts left out of this drawing at a scale, by scale and size
        self._layer = StillLayer()
        self._lettering = Lettering()
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # the sheet covers all: nothing is painted below it
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(110, 200)
        self.setAccessibleName(title)
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.timeout.connect(self.update)
        view_state.changed.connect(self._look_changed)
        self._fit_asked = False
        self._resized.connect(self._fit_again, Qt.ConnectionType.QueuedConnection)

    def _look_changed(self) -> None:
        """Letter again where letters have another size now."""
        self._letter()
        self.update()

    def _letter(self) -> None:
        """Take letters of the size that the look and the window ask for: a larger window has larger ones."""
        pixels = self._letter_px
        if self._lettering.font.pixelSize() != pixels:
            self._lettering, self._laid = Lettering(pixels), ()

    @property
    def _letter_px(self) -> int:
        look = self.view_state.look
        return round(LABEL_PX * look.size / look.roomy * self.grown)

    @property
    def grown(self) -> float:
        """How much larger than usual texts are in a window of this size."""
        window = self.window()
        return min(max(min(window.width() / USUAL_PX[0], window.height() / USUAL_PX[1]), 1.0), MOST_GROWN)

    # What is shown -----------------------------------------------------------------------------

    def show_drawing(self, drawing: Drawing, values: dict[str, float], flip: float = 1.0, units: Units = "mm") -> None:
        """Show ``drawing``; ``values`` are the numbers behind its handles, ``flip`` −1 for a mirror image."""
        self._plain = drawing
        if self.view_state.look.in_shop:
            drawing = fewer(drawing)
        if self.is_diagram:
            drawing = stretched(drawing, self._stretch)
        if drawing != self.drawing:
            self._tried.clear()
        self.drawing, self._values, self.flip, self.units = drawing, values, flip, units
        before, self._shapes = self._shapes, painted(drawing, self._shapes)
        self._layer.show(self._shapes, before)
        self._laid = ()
        if self._drag is None:  # told again when it is let go
            text = [d.text for d in drawing.dimensions] + [n.text for n in drawing.notes]
            self.setAccessibleDescription("; ".join(text))
        self.update()

    @property
    def margins_px(self) -> tuple[float, float]:
        """How much paper is left free above and below [px]."""
        head = TITLE_PX + (NOTE_PX if self.note else 0.0)
        return head, NO_SCALE_PX if self.exaggeration else SCALE_PX

    def stretch_over(self, wide: float, high: float) -> None:
        """Stretch a diagram to the shape of ``wide`` × ``high`` pixels, within what still reads well."""
        if self.is_diagram and self._plain is not None and min(wide, high) > 0:
            x0, y0, x1, y1 = self._plain.bounds
            self._stretch = min(max(wide / high * (y1 - y0) / (x1 - x0), LEAST_STRETCH), MOST_STRETCH)
            self.show_drawing(self._plain, self._values, self.flip, self.units)

    def left_out(self, scale: float) -> int:
        """Return how many texts find no room, or none off the part they name, when all is shown at ``scale``."""
        if self.drawing is None:
            return 0
        key = (scale, self.width(), self.height(), self._lettering.font.pixelSize())
        if key not in self._tried:
            placed = self._placed(self._origin_at(scale), scale, ())
            many = len(self.drawing.dimensions) + len(self.drawing.notes)
            self._tried[key] = 2 * (many - len(placed)) + covered(self._shapes, placed, scale)
        return self._tried[key]

    def centre(self, level: float | None = None) -> None:
        """Bring the drawing back to the middle, or the height ``level`` [mm] where views are in step.

        The middle then stays where it is while parts are moved about.
        """
        self._pan = QPointF(0.0, 0.0)
        if self.drawing is not None:
            x0, y0, x1, y1 = self.drawing.bounds
            self._middle = ((x0 + x1) / 2, (y0 + y1) / 2 if level is None else level)
        self.update()

    def origin(self) -> QPointF:
        """Return where (0, 0) of the drawing lies in the widget."""
        return self._origin_at(self.view_state.scale)

    def _origin_at(self, scale: float) -> QPointF:
        x = self.width() / 2 - self._middle[0] * scale
        y = self.height() / 2 + self._middle[1] * scale + (self.margins_px[0] - self.margins_px[1]) / 2
        return QPointF(round(x + self._pan.x()), round(y + self._pan.y()))

    def to_mm(self, point: QPointF) -> Point:
        """Return the place on the drawing under a point of the widget."""
        origin, scale = self.origin(), self.view_state.scale
        return (point.x() - origin.x()) / scale, (origin.y() - point.y()) / scale

    def to_px(self, point: Point) -> QPointF:
        """Return where a place on the drawing lies in the widget."""
        origin, scale = self.origin(), self.view_state.scale
        return QPointF(origin.x() + point[0] * scale, origin.y() - point[1] * scale)

    # Painting ----------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint paper, parts, light, labels, handles, scale bar."""
        del event
        painter = QPainter(self)
        look = self.view_state.look
        if self.drawing is None:
            painter.fillRect(self.rect(), colour(look.paper))
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        origin, scale = self.origin(), self.view_state.scale
        turn = QTransform(scale, 0, 0, -scale, origin.x(), origin.y())
        painter.drawPixmap(0, 0, self._backdrop(turn))
        paint_shapes(painter, self._shapes[self._layer.count :], turn, look)
        if self.view_state.lit:
            paint_glow(painter, self._shapes[self._layer.count :], turn, look, self.view_state.lit)
        self._lay_out(origin, scale)
        paint_labels(painter, self.labels, look, self._lettering, origin, self.view_state.lit)
        if self.drawing is not None and self.drawing.texts:
            paint_texts(painter, self.drawing.texts, look, origin, self.view_state.scale, self.grown, self.width())
        self._paint_handles(painter)
        self._paint_focus(painter)
        if self._drag is not None or self.keyboard.chosen:
            held = self._drag.handle if self._drag is not None else self._pulled
            paint_value(painter, self, held, self._values.get(held.path, math.nan) if held is not None else math.nan)

    def _backdrop(self, turn: QTransform) -> QPixmap:
        """Return the paper with the shapes that stood still since the last frame."""
        seen = (turn, self.view_state.look, self.view_state.lit)
        more = (self.units, self.drawing.examples if self.drawing else (), self.note)
        size = (self.size(), self.devicePixelRatioF())
        return self._layer.get(self._shapes, size, seen, more, lambda painter: paint_frame(painter, self))

    def _lay_out(self, origin: QPointF, scale: float) -> None:
        """Place the labels again when the drawing, its scale or its place has changed."""
        state = (self.drawing, scale, origin.x(), origin.y(), self.width(), self.height())
        if state == self._laid or self.drawing is None:
            return
        self._laid = state
        self.labels = self._placed(origin, scale, self.labels if self.view_state.pulling else ())

    def _placed(self, origin: QPointF, scale: float, before: tuple[Placed, ...]) -> tuple[Placed, ...]:
        """Return the texts in their places at ``scale``; ``before``: where they stood, and stay where they can."""
        if self.drawing is None:
            return ()
        frame = Box(4 - origin.x(), origin.y() - self.height() + 4, self.width() - 4 - origin.x(), origin.y() - 4)
        taken = [self._handle_box(handle, scale) for handle in self.drawing.handles]
        for kept in (*furniture(self), *standing(self, origin, scale), *self.kept_free()):
            box = kept.translated(-origin)
            taken.append(Box(box.left(), -box.bottom(), box.right(), -box.top()))
        measure = self._lettering.measure
        return lay_out(self.drawing, scale, measure, frame, taken, margins=self.margins, before=before)

    def kept_free(self) -> tuple[QRectF, ...]:
        """Return where no text is put [px]: what lies over the sheet, or is taken hold of there."""
        return ()

    def _handle_box(self, handle: Handle, scale: float) -> Box:
        x, y = handle.at[0] * scale, handle.at[1] * scale
        return Box(x - HANDLE_PX, y - HANDLE_PX, x + HANDLE_PX, y + HANDLE_PX)

    def _paint_handles(self, painter: QPainter) -> None:
        look, ratio = self.view_state.look, self.devicePixelRatioF()
        for handle in self.drawing.handles if self.drawing else ():
            at = self.to_px(handle.at)
            held = self._drag is not None and self._drag.handle.path == handle.path
            hot = held or handle is self._pulled or (self._hover is not None and self._hover.path == handle.path)
            dot = handle_picture(round(math.degrees(math.atan2(-handle.along[1], handle.along[0]))), hot, look, ratio)
            painter.drawPixmap(at - QPointF(DOT_PX / 2, DOT_PX / 2), dot)

    def _paint_focus(self, painter: QPainter) -> None:
        if self.hasFocus():
            wide, high, glow = self.width(), self.height(), colour(self.view_state.look.glow)
            for edge in ((0, 0, wide, 3), (0, high - 3, wide, 3), (0, 3, 3, high - 6), (wide - 3, 3, 3, high - 6)):
                painter.fillRect(*edge, glow)

    def _hold(self, drag: Drag | None) -> None:
        """Take hold of a handle, or let go: while one is held texts stay where they stand, in both drawings."""
        self._drag, self.view_state.pulling = drag, drag is not None

    @property
    def pulling(self) -> bool:
        """Whether a handle is held by the pointer."""
        return self._drag is not None

    @property
    def _pulled(self) -> Handle | None:
        """The handle that is chosen by keys."""
        return self.keyboard.handle(self.drawing.handles) if self.drawing is not None else None

    # Pointer -----------------------------------------------------------------------------------

    def handle_at(self, point: QPointF) -> Handle | None:
        """Return the handle under ``point``, or the turning handle when the caliper itself is under it."""
        handles = self.drawing.handles if self.drawing else ()
        near = [(QPointF(self.to_px(h.at) - point), h) for h in handles]
        close = [(math.hypot(off.x(), off.y()), h) for off, h in near]
        if close and min(close, key=lambda row: row[0])[0] <= GRAB_PX:
            return min(close, key=lambda row: row[0])[1]
        turning = next((h for h in handles if h.turns), None)
        return turning if turning and self.feature_at(point) in ("caliper", "pad") else None

    def feature_at(self, point: QPointF) -> str:
        """Return the tag of the topmost filled shape under ``point``, else of the smallest dashed one; empty for paper."""
        at = QPointF(*self.to_mm(point))
        here = [item for item in self._shapes if item.shape.tag and item.shape.closed and item.path.contains(at)]
        solid = [item for item in here if item.shape.filled]
        if solid:
            return solid[-1].shape.tag
        dashed = [item for item in here if item.shape.ink == "example"]
        return min(dashed, key=_spread).shape.tag.removeprefix(EXAMPLE_OF) if dashed else ""

    def ask(self, path: str) -> None:
        """Ask for the number at ``path`` to be typed where it stands; in the middle of the sheet where it found no room."""
        self._lay_out(self.origin(), self.view_state.scale)
        label = next((label for label in self.labels if label.edits == path), None)
        middle = QRectF(self.width() / 2 - 65.0, self.height() / 2 - 16.0, 130.0, 32.0)
        self.typed_over.emit(path, label_rect(label, self.origin()) if label is not None else middle)

    def label_at(self, point: QPointF) -> Placed | None:
        """Return the label under ``point`` that may be typed over."""
        origin = self.origin()
        return next((label for label in self.labels if label.edits and label_rect(label, origin).contains(point)), None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of a handle, type over a label, or begin to move the sheet."""
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        point = event.position()
        if event.button() != Qt.MouseButton.LeftButton:
            self._panning = self._pressed_at = point
            return
        label = self.label_at(point)
        if label is not None:
            self.typed_over.emit(label.edits, label_rect(label, self.origin()))
            return
        handle = self.handle_at(point)
        if handle is not None and math.isfinite(self._values.get(handle.path, math.nan)):
            self._hold(Drag(handle, self.to_mm(point), self._values[handle.path], self.flip))
            self.setCursor(Qt.CursorShape.ClosedHandCursor)
            self.update()
            return
        tag = self.feature_at(point)
        if tag:
            self.picked.emit(tag)
        else:
            self._panning = point

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Pull the handle, move the sheet, or show what is under the pointer."""
        point = event.position()
        if self._drag is not None:
            snap = not event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            self.dragged.emit(self._drag.handle, self._drag.value_at(self.to_mm(point), snap))
        elif self._panning is not None:
            self._pan += point - self._panning
            self._panning = point
            self.view_state.fitted = False
            self.update()
        else:
            self._point_at(point)

    def _point_at(self, point: QPointF) -> None:
        hover = self.handle_at(point)
        label = self.label_at(point)
        shape = (
            Qt.CursorShape.IBeamCursor
            if label
            else Qt.CursorShape.OpenHandCursor
            if hover
            else Qt.CursorShape.ArrowCursor
        )
        self.setCursor(shape)
        if hover != self._hover:
            self._hover = hover
            self.update()
            if hover is not None:
                hint = f"{hover.name}: pull. Shift holds off snapping, Escape cancels."
                QToolTip.showText(self.mapToGlobal(point.toPoint()), hint, self)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go; the right button let go where it was pressed offers what can be done there."""
        pressed, self._pressed_at, self._panning = self._pressed_at, None, None
        right = event.button() == Qt.MouseButton.RightButton
        if right and pressed is not None and (event.position() - pressed).manhattanLength() <= STILL_PX:
            self.offer_at(pressed)
        if self._drag is not None:
            self._hold(None)
            self.unsetCursor()
            self.released.emit()
            self.update()

    def offer_at(self, point: QPointF) -> None:
        """Open the menu for what lies under ``point``."""
        from bicentra.app.drawing.context_menu import offer

        offer(self, point)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Open what is double-clicked; show everything again where that is the paper."""
        tag = self.feature_at(event.position())
        if tag:
            self.opened.emit(tag)
        else:
            self.fit_wanted.emit()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom both drawings about the pointer."""
        before = self.to_mm(event.position())
        self.view_state.set_scale(self.view_state.scale * 1.0015 ** event.angleDelta().y())
        self._pan += event.position() - self.to_px(before)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows nudge, N goes round handles and dotted numbers, Escape lets go without changing anything."""
        key = Qt.Key(event.key())
        if self._walk_on(key, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)):
            self.update()
        elif key == Qt.Key.Key_Escape and self._drag is not None:
            self._hold(None)
            self.unsetCursor()
            self.cancelled.emit()
            self.update()
        elif key in PANS and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self._pan += QPointF(*PANS[key]) * PAN_PX
            self.view_state.fitted = False
            self.update()
        elif key == Qt.Key.Key_Menu:
            self.offer_at(QPointF(self.width() / 2, self.height() / 2))
        elif key in self._nudges and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            nudge = self._nudges[key]
            times = 10.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self.nudged.emit(nudge, nudge.step * times)
        else:
            super().keyPressEvent(event)

    def _walk_on(self, key: Qt.Key, shift: bool) -> bool:
        """Go round by keys, pull or type over what is chosen; False for a key that means nothing here."""
        handles = self.drawing.handles if self.drawing is not None else ()
        handle, label = self._pulled, self.keyboard.label(self.labels)
        if key == Qt.Key.Key_N:
            self.keyboard.step(handles, self.labels, back=shift)
        elif key == Qt.Key.Key_Escape and self._drag is None and (handle is not None or label is not None):
            self.keyboard.chosen = ""
        elif label is not None and key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.typed_over.emit(label.edits, label_rect(label, self.origin()))
        elif handle is not None and key in ARROWS and math.isfinite(self._values.get(handle.path, math.nan)):
            value = self.keyboard.nudged(handle, self._values[handle.path], key, 10.0 if shift else 1.0)
            if value is not None:
                self.dragged.emit(handle, value)
                self.released.emit()
        else:
            return False
        return True

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep showing everything while nothing else was asked for."""
        super().resizeEvent(event)
        self._letter()
        if self.view_state.fitted:
            self.fit_soon()

    def fit_soon(self) -> None:
        """Ask for everything to be shown once all sizes are settled, before anything is painted."""
        if not self._fit_asked:
            self._fit_asked = True
            self._resized.emit()

    def _fit_again(self) -> None:
        self._fit_asked = False
        if self.view_state.fitted and self.isVisible():
            self.fit_wanted.emit()

    def changeEvent(self, event: QEvent) -> None:
        """Measure texts again when the face changes, or how large it is."""
        if event.type() in (QEvent.Type.FontChange, QEvent.Type.ApplicationFontChange):
            self._lettering, self._laid = Lettering(self._letter_px), ()
        super().changeEvent(event)


def _spread(item: Painted) -> float:
    """Return how much of the sheet the box round a shape takes [mm²]."""
    box = item.path.boundingRect()
    return box.width() * box.height()

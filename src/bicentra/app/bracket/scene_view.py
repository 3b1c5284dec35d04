"""Bracket, caliper, rotor, hub and bolts in three dimensions: turned with the mouse or the arrow keys, pulled apart, cut."""

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from bicentra.app.bracket.raster import Eye, Image, render
from bicentra.app.theme import Look, colour
from bicentra.core.base.records import replace
from bicentra.core.drawing.views.solid_scene import Scene

COARSE, SETTLE_MS, STEP = 3, 160, math.radians(7.5)
"""While it is turned it is drawn this much coarser, and sharp again so long after; what an arrow key turns."""
SHARE = 0.38
"""Half the scene's diagonal would always fit; from nearly everywhere this does."""
FIRST = Eye(math.radians(-38.0), math.radians(22.0), 2.0)


class SceneView(QWidget):
    """Shows a scene; it never changes the job."""

    def __init__(self, look: Look) -> None:
        super().__init__()
        self.look, self.eye = look, FIRST
        self.scene: Scene | None = None
        self._middle, self._reach = (0.0, 0.0, 0.0), 100.0
        self._zoom = 1.0
        self._at: QPointF | None = None
        self._coarse = False
        self._image: tuple[object, QImage] | None = None
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(SETTLE_MS)
        self._settle.timeout.connect(self._sharpen)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(110, 160)
        self.setAccessibleName("In three dimensions: arrow keys turn, plus and minus zoom")

    def show_scene(self, scene: Scene) -> None:
        """Show ``scene``, whole."""
        self.scene, self._image = scene, None
        if scene.bodies:
            corners = np.concatenate([body.corners for body in scene.bodies])
            low, high = corners.min(axis=0), corners.max(axis=0)
            self._middle = tuple(float(v) for v in (low + high) / 2)  # type: ignore[assignment]
            self._reach = float(np.linalg.norm(high - low)) * SHARE
        self.fit()

    def dress(self, look: Look) -> None:
        """Show it in ``look``."""
        self.look = look
        self.fit()

    def fit(self) -> None:
        """Show everything."""
        self._zoom = 1.0
        self._seen(self.eye)

    def pull(self, amount: float) -> None:
        """Pull the bodies apart along the axle by ``amount`` mm."""
        self._seen(replace(self.eye, pull=amount))

    def cut(self, on: bool) -> None:
        """Cut everything at the plane through the ear bolts, or not."""
        self._seen(replace(self.eye, cut=on))

    def _seen(self, eye: Eye, moving: bool = False) -> None:
        room = min(self.width(), self.height()) / 2 - 8
        self.eye = replace(eye, scale=max(room, 20.0) / (self._reach + abs(eye.pull) * 0.8) * self._zoom)
        self._coarse = moving
        self._image = None
        if moving:
            self._settle.start()
        self.update()

    def _sharpen(self) -> None:
        self._coarse, self._image = False, None
        self.update()

    def picture(self) -> Image:
        """Return the picture as it is painted now, (height, width, 4): red, green, blue and 255."""
        step = COARSE if self._coarse else 1
        ratio = 1.0 if self._coarse else self.devicePixelRatioF()
        size = (max(int(self.width() * ratio) // step, 1), max(int(self.height() * ratio) // step, 1))
        eye = replace(self.eye, scale=self.eye.scale * ratio / step)
        inks = {ink: _rgb(material.fill, self.look.paper) for ink, material in self.look.inks.items()}
        scene = self.scene or Scene((), ((1.0, 0.0, 0.0), math.nan))
        return render(scene, inks, _rgb(self.look.paper, self.look.paper), eye, size, self._middle)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the scene; the picture is kept while nothing moves."""
        del event
        key = (self.eye, self.size().toTuple(), self.look.name, self._coarse)
        if self._image is None or self._image[0] != key:
            made = self.picture()
            high, wide, _ = made.shape
            self._image = (key, QImage(made.tobytes(), wide, high, 4 * wide, QImage.Format.Format_RGBX8888))
        painter = QPainter(self)
        painter.drawImage(QRectF(self.rect()), self._image[1])
        painter.setPen(colour(self.look.faint))
        text = "Drag or arrow keys turn, wheel zooms, double click shows all"
        text += " · cut through the ear bolts" if self.eye.cut else ""
        painter.drawText(QRectF(10, 6, self.width() - 20, 20), Qt.AlignmentFlag.AlignLeft, text)
        if self.hasFocus():
            painter.setPen(QPen(colour(self.look.glow), 3.0))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Begin to turn."""
        self.setFocus()
        self._at = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Turn with the pointer."""
        if self._at is not None:
            moved = event.position() - self._at
            self._at = event.position()
            self.turn(moved.x() * 0.01, moved.y() * 0.01)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go."""
        del event
        self._at = None

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Show everything as at first."""
        del event
        self.eye = replace(FIRST, pull=self.eye.pull, cut=self.eye.cut)
        self.fit()

    def turn(self, yaw: float, pitch: float) -> None:
        """Turn by so much [rad]; over the top and no further."""
        tipped = min(max(self.eye.pitch + pitch, -math.pi / 2), math.pi / 2)
        self._seen(replace(self.eye, yaw=self.eye.yaw - yaw, pitch=tipped), moving=True)

    def zoom(self, factor: float) -> None:
        """Enlarge or shrink."""
        self._zoom = min(max(self._zoom * factor, 0.3), 12.0)
        self._seen(self.eye, moving=True)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom."""
        self.zoom(1.0015 ** event.angleDelta().y())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows turn, plus and minus zoom."""
        left, right, up, down = Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down
        ways = {left: (STEP, 0.0), right: (-STEP, 0.0), up: (0.0, -STEP), down: (0.0, STEP)}
        key = Qt.Key(event.key())
        if key in ways:
            self.turn(*ways[key])
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Minus):
            self.zoom(1.2 if key == Qt.Key.Key_Plus else 1 / 1.2)
        else:
            super().keyPressEvent(event)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep the scene in its place."""
        super().resizeEvent(event)
        self._seen(self.eye)


def _rgb(code: str, paper: str) -> tuple[int, int, int]:
    """Return a colour as it looks on ``paper``."""
    ink, under = colour(code), colour(paper)
    share = ink.alphaF() if ink.alpha() < 255 else 1.0
    share = max(share, 0.55)
    pairs = ((ink.red(), under.red()), (ink.green(), under.green()), (ink.blue(), under.blue()))
    mixed = [round(i * share + u * (1 - share)) for i, u in pairs]
    return mixed[0], mixed[1], mixed[2]

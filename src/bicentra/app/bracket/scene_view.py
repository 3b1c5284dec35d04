"""Bracket, caliper, rotor, hub and bolts in three dimensions: turned with the mouse or the arrow keys, pulled apart, cut."""

import math
from collections.abc import Callable
from functools import partial

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QSizePolicy, QWidget
from shiboken6 import isValid

from bicentra.app import workers
from bicentra.app.theme import Look, colour
from bicentra.core.base.records import replace
from bicentra.core.drawing.space.raster import Bodies, Eye, Image, render
from bicentra.core.drawing.space.scene import Scene, SceneBody

COARSE, FINER, SETTLE_MS, STEP = 3, 2, 120, math.radians(7.5)
"""While it is turned it is drawn this much coarser, and sharp again so long after; what an arrow key turns."""
EDGE_PX, HEAD_PX, SMOOTH_MS = 14.0, 30.0, 20
"""Paper left free round the scene and for the words above [px]; after which rest the sharp picture is begun [ms]."""
PART_NAMES = {
    "bracket": "Bracket", "rotor": "Rotor", "caliper": "Caliper", "hub": "Hub", "lug": "Lug of the knuckle",
    "wheel": "Wheel, its inside", "ear-bolt": "Caliper bolt", "lug-bolt": "Lug bolt", "bleeder": "Bleed screw",
}  # fmt: skip
"""What a part is called when it is pointed at, by the beginning of its tag."""
FIRST = Eye(math.radians(214.0), math.radians(20.0), 2.0)
"""From inboard, a little above: the made part is in front."""


class SceneView(QWidget):
    """Shows a scene; it never changes the job."""

    def __init__(self, look: Look) -> None:
        super().__init__()
        self.look, self.eye = look, FIRST
        self.scene: Scene | None = None
        self._middle: tuple[float, float, float] = (0.0, 0.0, 0.0)
        self._whole = 1.0
        self._whose: Bodies | None = None
        self._smooth = QTimer(self)
        self._smooth.setSingleShot(True)
        self._smooth.setInterval(SMOOTH_MS)
        self._smooth.timeout.connect(self._refine)
        self.setMouseTracking(True)
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
        self.fit()

    def dress(self, look: Look) -> None:
        """Show it in ``look``."""
        self.look = look
        self.fit()

    def fit(self) -> None:
        """Show everything."""
        self._zoom = 1.0
        self._frame()
        self._seen(self.eye)

    def pull(self, amount: float) -> None:
        """Pull the bodies apart along the axle by ``amount`` mm."""
        self.eye = replace(self.eye, pull=amount)
        self._frame()
        self._seen(self.eye, moving=True)

    def cut(self, on: bool) -> None:
        """Cut everything at the plane through the ear bolts, or not."""
        self._seen(replace(self.eye, cut=on))

    def _seen(self, eye: Eye, moving: bool = False) -> None:
        """Show the scene from ``eye``; it keeps its size while it is turned."""
        self.eye = replace(eye, scale=self._whole * self._zoom)
        self._coarse = moving
        if moving:
            self._settle.start()
        else:
            self._sharpen()
        self.update()

    def _frame(self) -> None:
        """Find the scale at which all of the scene is in sight from where it is seen now, and its middle there."""
        bodies = self.scene.bodies if self.scene is not None else ()
        if not bodies:
            return
        corners = np.concatenate([b.corners + np.array([0.0, 0.0, b.apart * self.eye.pull]) for b in bodies])
        turn = self.eye.matrix()
        flat = corners @ turn.T
        low, high = flat.min(axis=0), flat.max(axis=0)
        self._middle = tuple(float(v) for v in turn.T @ ((low + high) / 2))  # type: ignore[assignment]
        wide, tall = max(float(high[0] - low[0]), 1.0), max(float(high[1] - low[1]), 1.0)
        self._whole = min((self.width() - 2 * EDGE_PX) / wide, (self.height() - HEAD_PX - EDGE_PX) / tall)
        self._whole = max(self._whole, 0.05)

    def _sharpen(self) -> None:
        """Have it made sharp beside the window, then its edges smoothed."""
        self._coarse = False
        self._smooth.start()
        self.update()

    def _refine(self, steps: tuple[int, ...] = (1, FINER)) -> None:
        """Make the picture in a thread, so many times as fine as it is shown, one of ``steps`` after the other."""
        if self.scene is None or not self.isVisible() or self._coarse or not steps:
            return
        key, work = self._key(), self._work(steps[0])
        task = workers.Task("Picture in space", lambda _running: work())
        task.signals.finished.connect(lambda made: self._take(key, made, steps[1:]))
        workers.start(task)

    def _take(self, key: object, made: object, steps: tuple[int, ...]) -> None:
        """Show a finer picture, unless something has moved since."""
        if isValid(self) and key == self._key() and isinstance(made, tuple):
            self._image, self._whose = (key, _pixmap(made[0])), made[1]
            self.update()
            self._refine(steps)

    def _key(self) -> tuple[object, ...]:
        return self.eye, self.size().toTuple(), self.look.name, id(self.scene)

    def _work(self, finer: int, coarse: bool = False) -> Callable[[], tuple[Image, Bodies]]:
        """Return the work, for any thread, that makes the picture as it stands."""
        step = COARSE if coarse else 1
        ratio = 1.0 if coarse else self.devicePixelRatioF()
        size = (max(int(self.width() * ratio) // step, 1), max(int(self.height() * ratio) // step, 1))
        eye = replace(self.eye, scale=self.eye.scale * ratio / step)
        inks = {ink: _rgb(material.fill, self.look.paper) for ink, material in self.look.inks.items()}
        scene, paper, middle = self.scene or Scene((), ((1.0, 0.0, 0.0), math.nan)), self.look.paper, self._middle
        return partial(render, scene, inks, _rgb(paper, paper), eye, size, middle, finer)

    def picture(self) -> Image:
        """Return the sharp picture as it stands, (height, width, 4): red, green, blue and 255."""
        made, self._whose = self._work(1)()
        return made

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the scene: coarse after a move, so that nobody waits, until the sharp picture comes from its thread."""
        del event
        key = self._key()
        if self._image is None or self._image[0] != key:
            quick, self._whose = self._work(1, coarse=True)()
            self._image = (key, _pixmap(quick))
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
        if self._at is None:
            self.setToolTip(self.name_at(event.position()))
        else:
            moved = event.position() - self._at
            self._at = event.position()
            self.turn(moved.x() * 0.01, moved.y() * 0.01)

    def name_at(self, point: QPointF) -> str:
        """Return what the part under ``point`` is called; empty for paper."""
        whose, scene = self._whose, self.scene
        if whose is None or scene is None or self.width() == 0 or self.height() == 0:
            return ""
        row = min(int(point.y() / self.height() * whose.shape[0]), whose.shape[0] - 1)
        column = min(int(point.x() / self.width() * whose.shape[1]), whose.shape[1] - 1)
        number = int(whose[max(row, 0), max(column, 0)])
        return part_name(scene.bodies[number]) if number >= 0 else ""

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
        self._frame()
        self._seen(self.eye)


def part_name(body: SceneBody) -> str:
    """Return what a body of the scene is called."""
    if body.ink == "pad":
        return "Brake pad"
    start = next((word for word in sorted(PART_NAMES, key=len, reverse=True) if body.tag.startswith(word)), "")
    return PART_NAMES.get(start, body.tag.capitalize())


def _pixmap(made: Image) -> QImage:
    high, wide, _ = made.shape
    return QImage(made.tobytes(), wide, high, 4 * wide, QImage.Format.Format_RGBX8888)


def _rgb(code: str, paper: str) -> tuple[int, int, int]:
    """Return a colour as it looks on ``paper``."""
    ink, under = colour(code), colour(paper)
    share = ink.alphaF() if ink.alpha() < 255 else 1.0
    share = max(share, 0.55)
    pairs = ((ink.red(), under.red()), (ink.green(), under.green()), (ink.blue(), under.blue()))
    mixed = [round(i * share + u * (1 - share)) for i, u in pairs]
    return mixed[0], mixed[1], mixed[2]

"""What stood still since the last frame, painted once and kept under what moves."""

from collections.abc import Callable

from PySide6.QtCore import QSize
from PySide6.QtGui import QPainter, QPixmap, QTransform

from bicentra.app.paint import Painted, paint_glow, paint_shapes, unchanged
from bicentra.app.theme import Look, colour

CALM_FRAMES = 3
"""After so many frames what has come to rest is painted into the layer as well."""


class StillLayer:
    """The paper with the shapes that stood still, as a picture. ``count``: how many of the first shapes are in it."""

    def __init__(self) -> None:
        self.count = 0
        self.picture: QPixmap | None = None
        self._still = self._calm = 0
        self._key: tuple[object, ...] = ()

    def show(self, shapes: tuple[Painted, ...], before: tuple[Painted, ...]) -> None:
        """Take note that ``shapes`` are shown in place of those ``before``."""
        self._still = min(self._still, unchanged(shapes, before))

    def get(
        self,
        shapes: tuple[Painted, ...],
        size: tuple[QSize, float],
        seen: tuple[QTransform, Look, frozenset[str]],
        more: tuple[object, ...],
        furnish: Callable[[QPainter], None],
    ) -> QPixmap:
        """Return the layer of ``size`` (and pixels a pixel); ``seen`` are where, how and with what lit the shapes are painted.

        While something is pulled only what moves is painted again; what turns out to move is taken out of the layer. It is made
        anew when ``more``, what else can be seen on it, has changed; ``furnish`` paints that.
        """
        (place, look, lit), (pixels, ratio) = seen, size
        key = (place.m11(), place.dx(), place.dy(), pixels.width(), pixels.height(), ratio, look.name, lit, *more)
        still, self._still = self._still, len(shapes)
        self._calm = self._calm + 1 if still > self.count else 0
        if self.picture is None or key != self._key or self.count > still or self._calm > CALM_FRAMES:
            self.count, self._calm, self._key = still, 0, key
            self.picture = QPixmap(pixels * ratio)
            self.picture.setDevicePixelRatio(ratio)
            self.picture.fill(colour(look.paper))
            painter = QPainter(self.picture)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint_shapes(painter, shapes[:still], place, look)
            paint_glow(painter, shapes[:still], place, look, lit)
            furnish(painter)
            painter.end()
        return self.picture

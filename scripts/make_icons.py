"""Draw the program's icon in the usual sizes from its SVG, into the package's data."""

import sys
from pathlib import Path

from PySide6.QtCore import QSize
from PySide6.QtGui import QGuiApplication, QImage, QPainter
from PySide6.QtSvg import QSvgRenderer

SIZES = (16, 24, 32, 48, 64, 128, 256)
ICONS = Path(__file__).parents[1] / "src" / "bicentra" / "data" / "icons"


def main() -> int:
    """Write ``bicentra-SIZE.png`` for every size."""
    app = QGuiApplication(["icons", "-platform", "offscreen"])
    renderer = QSvgRenderer(str(ICONS / "bicentra.svg"))
    for size in SIZES:
        image = QImage(QSize(size, size), QImage.Format.Format_ARGB32)
        image.fill(0)
        painter = QPainter(image)
        renderer.render(painter)
        painter.end()
        image.save(str(ICONS / f"bicentra-{size}.png"))
    del app
    return 0


if __name__ == "__main__":
    sys.exit(main())

"""A page that scrolls up and down, never sideways."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QScrollArea, QWidget


def scrolled(page: QWidget) -> QScrollArea:
    """Return ``page`` in an area that is as wide as its place and scrolls when it is higher."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setWidget(page)
    return area

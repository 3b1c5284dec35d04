"""Emptying a layout before it is filled anew."""

from collections.abc import Iterable

from PySide6.QtWidgets import QLayout, QWidget


def clear_layout(layout: QLayout, keep: Iterable[QWidget] = ()) -> None:
    """Take everything out of ``layout`` and delete its widgets, those in ``keep`` excepted."""
    kept = set(keep)
    while layout.count():
        item = layout.takeAt(0)
        widget = item.widget() if item else None
        if widget is not None and widget not in kept:
            widget.hide()
            widget.deleteLater()

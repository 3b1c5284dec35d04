"""A button whose menu is filled each time it is opened."""

from collections.abc import Callable

from PySide6.QtWidgets import QMenu, QToolButton


def menu_button(title: str, help: str, fill: Callable[[QMenu], None]) -> QToolButton:
    """Return a button that opens a menu; ``fill`` is given the empty menu just before."""
    button = QToolButton()
    button.setText(title)
    button.setToolTip(help)
    button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
    menu = QMenu(button)

    def refill() -> None:
        menu.clear()
        fill(menu)

    menu.aboutToShow.connect(refill)
    button.setMenu(menu)
    return button

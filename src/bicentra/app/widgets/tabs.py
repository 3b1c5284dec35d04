"""A row of buttons that lead to the pages of a bench, one of them pressed."""

from collections.abc import Callable, Iterable

from PySide6.QtWidgets import QBoxLayout, QToolButton


def tab_row(
    layout: QBoxLayout, pages: Iterable[tuple[str, str]], show: Callable[[str], None]
) -> dict[str, QToolButton]:
    """Put a button for each (name, title) into ``layout``; pressing one calls ``show`` with its name."""
    found: dict[str, QToolButton] = {}
    for name, title in pages:
        button = QToolButton()
        button.setObjectName("tab")
        button.setText(title)
        button.setCheckable(True)
        button.clicked.connect(lambda _checked=False, name=name: show(name))
        layout.addWidget(button)
        found[name] = button
    return found


def select_tab(tabs: dict[str, QToolButton], name: str) -> None:
    """Show the button of ``name`` as the pressed one."""
    for key, button in tabs.items():
        button.setChecked(key == name)

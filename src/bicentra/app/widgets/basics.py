"""Small helps for layouts: empty one, scroll a page, menus filled when opened, tabs, labels that end in an ellipsis, a
foot with its buttons.
"""

from collections.abc import Callable, Iterable

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QBoxLayout,
    QComboBox,
    QDialog,
    QHBoxLayout,
    QLabel,
    QLayout,
    QMenu,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.widgets.plain import plain_label


def clear_layout(layout: QLayout, keep: Iterable[QWidget] = ()) -> None:
    """Take everything out of ``layout`` and delete its widgets, those in ``keep`` excepted."""
    kept = set(keep)
    while layout.count():
        item = layout.takeAt(0)
        widget = item.widget() if item else None
        if widget is not None and widget not in kept:
            widget.hide()
            widget.deleteLater()


def rename(widget: QWidget, name: str) -> None:
    """Give ``widget`` another name in the style sheet, and its dress; nothing is done for the name it has."""
    if widget.objectName() != name:
        widget.setObjectName(name)
        widget.style().unpolish(widget)
        widget.style().polish(widget)


def scrolled(page: QWidget) -> QScrollArea:
    """Return ``page`` in an area that is as wide as its place and scrolls when it is higher."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setWidget(page)
    return area


def choice_box(name: str, entries: dict[str, str], usual: str) -> QComboBox:
    """Return a choice called ``name`` of texts by key; ``usual`` is chosen, the first where that is none of them."""
    box = QComboBox()
    box.setAccessibleName(name)
    for key, text in entries.items():
        box.addItem(text, key)
    box.setCurrentIndex(max(box.findData(usual), 0))
    return box


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


class ElidedLabel(QLabel):
    """Shows as much of its text as fits; the whole text stays in the tool tip the caller sets."""

    def __init__(self) -> None:
        super().__init__()
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    def minimumSizeHint(self) -> QSize:
        """Return a size that never forces the window wider."""
        return QSize(40, super().minimumSizeHint().height())

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the text, elided."""
        del event
        painter = QPainter(self)
        shown = painter.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
        painter.setPen(self.palette().windowText().color())
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, shown)


def answer_row(dialog: QDialog, column: QVBoxLayout, yes: str, note: str = "") -> QPushButton:
    """Add the row to ``column``, with a ``note`` before it; returns the button called ``yes``, to be connected."""
    row = QHBoxLayout()
    stay = QPushButton("Cancel")
    stay.setAutoDefault(False)
    stay.clicked.connect(dialog.reject)
    does = QPushButton(yes)
    does.setObjectName("primary")
    does.setDefault(True)
    row.addWidget(plain_label(note), 1, Qt.AlignmentFlag.AlignVCenter)
    row.addWidget(stay)
    row.addWidget(does)
    column.addLayout(row)
    return does

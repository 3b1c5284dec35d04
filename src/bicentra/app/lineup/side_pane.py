"""A pane that stands in the place of the findings for a while: a head with the way back, a line of state, a list that scrolls."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from bicentra.app.widgets.basics import scrolled
from bicentra.app.widgets.plain import plain_label


class SidePane(QWidget):
    """The bare pane, called ``title``; ``above`` stands between head and state. ``failed`` carries what went wrong, in words."""

    closed = Signal()
    failed = Signal(str)

    def __init__(self, title: str, listed: str, above: tuple[QWidget, ...] = ()) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        row = QHBoxLayout()
        head = plain_label(title)
        head.setObjectName("head")
        back = QPushButton("Back to the findings")
        back.clicked.connect(self.close_it)
        row.addWidget(head, 1)
        row.addWidget(back)
        column.addLayout(row)
        for widget in above:
            column.addWidget(widget)
        self.state = plain_label()
        self.state.setObjectName("faint")
        self.state.setWordWrap(True)
        column.addWidget(self.state)
        body = QWidget()
        body.setObjectName("panelBody")
        self._list = QVBoxLayout(body)
        self._list.setContentsMargins(10, 4, 10, 8)
        self.area = scrolled(body)
        self.area.setAccessibleName(listed)
        column.addWidget(self.area, 1)

    def close_it(self) -> None:
        """Go back to the findings."""
        self.closed.emit()

"""A group of fields under a head that folds it away: what is not needed now takes no room."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QSizePolicy, QToolButton, QVBoxLayout, QWidget

HEAD_PX = 36


class Section(QWidget):
    """The head is a button of the group's name; pressed it shows the fields, pressed again it folds them away."""

    def __init__(self, title: str) -> None:
        super().__init__()
        self.title = title
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 8, 0, 0)
        column.setSpacing(6)
        self.head = QToolButton()
        self.head.setObjectName("fold")
        self.head.setText(title)
        self.head.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.head.setCheckable(True)
        self.head.setMinimumHeight(HEAD_PX)
        self.head.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.head.toggled.connect(self.open)
        column.addWidget(self.head)
        self.body = QWidget()
        self.fields = QVBoxLayout(self.body)
        self.fields.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.body)
        self.open(False)

    def open(self, there: bool) -> None:
        """Show the fields, or fold them away."""
        self.head.setChecked(there)
        self.head.setArrowType(Qt.ArrowType.DownArrow if there else Qt.ArrowType.RightArrow)
        self.head.setAccessibleName(f"{self.title}: {'shown' if there else 'folded away'}")
        self.body.setVisible(there)

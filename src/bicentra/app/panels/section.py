"""What the panels share: names of the parts' sheets, groups of fields that fold away, an outline asked for before it is added."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QSizePolicy, QToolButton, QVBoxLayout, QWidget

from bicentra.app.widgets.basics import answer_row
from bicentra.app.widgets.fields import PointsField, TextField
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.errors import QuantityError
from bicentra.core.parts.job import Obstacle

SHEETS = {
    "hub": ("Hub", "Hub and wheel"),
    "knuckle": ("Lugs", "Lugs and obstacles"),
    "rotor": ("Rotor", "Rotor"),
    "caliper": ("Caliper", "Caliper"),
    "bracket": ("Plate", "Plate and bolts"),
    "job": ("Job", "Job"),
}


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


LEAST_POINTS = 3
HELP = (
    "Points in order round it, forward / up from the axle in mm, with ; between them: −120 / 80; −100 / 80; −100 / 100"
)


class OutlineDialog(QDialog):
    """Name and outline of an obstacle; it can be added as soon as three points are there."""

    def __init__(self, parent: QWidget, name: str) -> None:
        super().__init__(parent)
        self.setWindowTitle("What is in the way?")
        self.resize(560, 220)
        column = QVBoxLayout(self)
        self.name = TextField("name", "What is it?")
        self.name.editor.setText(name)
        self.points = PointsField("outline_mm", "Outline, seen from outboard", HELP)
        text = plain_label(HELP)
        text.setWordWrap(True)
        text.setObjectName("faint")
        for part in (self.name, self.points, text):
            column.addWidget(part)
        self.add = answer_row(self, column, "Add it")
        self.add.clicked.connect(self._try)
        self.points.editor.setFocus(Qt.FocusReason.OtherFocusReason)
        self.obstacle: Obstacle | None = None

    def _try(self) -> None:
        try:
            points = self.points.read(self.points.editor.text())
        except QuantityError as error:
            self.points.refuse(str(error))
            return
        if not isinstance(points, tuple) or len(points) < LEAST_POINTS:
            self.points.refuse(
                f"found {len(points) if isinstance(points, tuple) else 0} points, expected at least {LEAST_POINTS}"
            )
            return
        self.obstacle = Obstacle(name=self.name.editor.text().strip() or "obstacle", outline_mm=points)
        self.accept()


def ask_obstacle(parent: QWidget, name: str) -> Obstacle | None:
    """Ask for something in the way, called ``name`` unless it is renamed; ``None`` when there is to be none."""
    dialog = OutlineDialog(parent, name)
    return dialog.obstacle if dialog.exec() else None

"""The foot of a sheet of questions: the button that does it, taken by Enter, and the one that leaves all as it is."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QVBoxLayout

from bicentra.app.widgets.plain import plain_label


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

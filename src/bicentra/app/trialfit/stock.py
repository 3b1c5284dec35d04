"""The box of shims: every thickness that lies ready with how many, and a field to add more."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLineEdit, QToolButton, QVBoxLayout, QWidget

from bicentra.app.widgets.clearing import clear_layout
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.numbers import known
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.trial import Trial

MOST_A_ROW = 3


class StockBox(QFrame):
    """``counted``: so many of a thickness [mm] lie ready. ``added``: what was typed into the field."""

    counted = Signal(float, int)
    added = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("card")
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 8, 10, 8)
        column.setSpacing(4)
        head = plain_label("Shims in the box")
        head.setObjectName("group")
        column.addWidget(head)
        self._rows = QVBoxLayout()
        self._rows.setSpacing(2)
        column.addLayout(self._rows)
        self.field = QLineEdit()
        self.field.setPlaceholderText("add: 0.25 x 8, or 8 x 0.25")
        self.field.setAccessibleName("Add shims: thickness x how many")
        self.field.returnPressed.connect(lambda: self.added.emit(self.field.text()))
        column.addWidget(self.field)

    def show_trial(self, trial: Trial | None, lengths: LengthFormat, open: bool) -> None:
        """Show the stock of ``trial``; ``open``: it may be changed."""
        clear_layout(self._rows)
        self.field.setEnabled(open)
        for loose in trial.stock if trial is not None else ():
            line = QWidget()
            row = QHBoxLayout(line)
            row.setContentsMargins(0, 0, 0, 0)
            thick = known(loose.thickness_mm)
            row.addWidget(
                plain_label(f"{lengths.shim(thick)}  × {loose.count}" + (", closed" if loose.form == "closed" else "")),
                1,
            )
            for text, step, word in (("−", -1, "one less of"), ("+", 1, "one more of")):
                button = QToolButton()
                button.setText(text)
                button.setEnabled(open)
                button.setAccessibleName(f"{word} {lengths.shim(thick)}")
                count = loose.count + step
                button.clicked.connect(lambda _checked=False, t=thick, n=count: self.counted.emit(t, n))
                row.addWidget(button)
            self._rows.addWidget(line)

    def taken(self) -> None:
        """Empty the field: what was typed has been taken."""
        self.field.clear()

"""Buttons that stand on the survey's sheet: what is measured next is put there with one touch."""

from PySide6.QtCore import QPoint, Signal
from PySide6.QtWidgets import QHBoxLayout, QToolButton, QWidget

ADDS = {
    "pilot": ("+ pilot", "The hub's pilot: everything is measured from its centre"),
    "lug": ("+ lug", "The next lug hole of this corner"),
    "hole": ("+ hole", "Another hole, boss or bolt head to measure to"),
    "other": ("+ other…", "A point, a straight edge, or a feature with a name of its own"),
}
EDGE_PX = 8


class Adders(QWidget):
    """The row of buttons, at the foot of ``sheet``. ``wanted`` carries pilot, lug, hole or other."""

    wanted = Signal(str)

    def __init__(self, sheet: QWidget) -> None:
        super().__init__(sheet)
        self._sheet = sheet
        self.setAccessibleName("Add something to measure to")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        self.buttons: dict[str, QToolButton] = {}
        for name, (text, help) in ADDS.items():
            button = QToolButton()
            button.setText(text)
            button.setToolTip(help)
            button.setAccessibleName(f"Add: {text.removeprefix('+ ')}")
            button.clicked.connect(lambda _checked=False, name=name: self.wanted.emit(name))
            self.buttons[name] = button
            row.addWidget(button)

    def settle(self, has_axis: bool) -> None:
        """Stand at the foot of the sheet, to the right; a pilot is only offered while there is none."""
        self.buttons["pilot"].setHidden(has_axis)
        self.adjustSize()
        wide, high = self._sheet.width(), self._sheet.height()
        self.move(QPoint(wide - self.width() - EDGE_PX, high - self.height() - EDGE_PX))

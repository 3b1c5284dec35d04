"""What the search is asked for, in one row of choices."""

from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from bicentra.app.widgets.fields import CalmCombo
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.typed import ASKING
from bicentra.core.base.errors import QuantityError
from bicentra.core.base.quantities import LENGTH, Units, parse_quantity
from bicentra.core.parts.wheel import Wheel
from bicentra.core.search.run import SIDES
from bicentra.study.desks.search import DUTIES, Criteria
from bicentra.study.library.library import Library

OWN_WHEEL = "the job's wheel"


class CriteriaRow(QWidget):
    """Filters for the search, each with a caption."""

    def __init__(self) -> None:
        super().__init__()
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(8)
        self._wheels: dict[str, Wheel] = {}
        self.mount = self._choice("Mount", ("any", "axial", "radial"))
        self.action = self._choice("Caliper", ("any", "fixed", "floating"))
        self.duty = self._choice("Duty", tuple(DUTIES))
        self.duty.setToolTip("Harder duty asks for a heavier rotor: more iron takes up more heat")
        self.sides = self._choice("Plate on", ("either side", *SIDES))
        self.plates = QLineEdit("0; 3 mm; 5 mm")
        self.plates.setProperty(ASKING, True)
        self.plates.setCursorPosition(0)
        self._put("Spacers to try", self.plates)
        self.plates.setToolTip("Rotor spacers to try, with ; between them")
        self.wheel = self._choice("Wheel", (OWN_WHEEL,))
        self.wheel.setMinimumContentsLength(14)
        self.keep = QCheckBox("keep the job's plate")
        self.keep.setToolTip(
            "Holds to the plate thickness, shims and bolt lengths of the job; else they are chosen for each set"
        )
        self._put(" ", self.keep)
        self._row.addStretch(1)

    def _choice(self, caption: str, words: tuple[str, ...]) -> CalmCombo:
        combo = CalmCombo()
        combo.addItems(list(words))
        self._put(caption, combo)
        return combo

    def _put(self, caption: str, editor: QWidget) -> None:
        column = QVBoxLayout()
        column.setSpacing(1)
        label = plain_label(caption)
        label.setObjectName("faint")
        label.setBuddy(editor)
        if caption.strip():
            editor.setAccessibleName(caption)
        column.addWidget(label)
        column.addWidget(editor)
        self._row.addLayout(column)

    def show_library(self, library: Library) -> None:
        """Offer the wheels of ``library``."""
        self._wheels = {part.name: part.item for part in library.of_kind("wheel") if isinstance(part.item, Wheel)}
        chosen = self.wheel.currentText()
        self.wheel.clear()
        self.wheel.addItems([OWN_WHEEL, *self._wheels])
        self.wheel.setCurrentIndex(max(self.wheel.findText(chosen), 0))

    def idle(self) -> Criteria:
        """Return what is asked for as far as it can be read, for counting."""
        try:
            return self.criteria("mm")
        except QuantityError:
            return Criteria()

    def criteria(self, units: Units) -> Criteria:
        """Return what is asked for. Raises ``QuantityError`` for plates that cannot be read."""
        texts = [text for text in self.plates.text().split(";") if text.strip()] or ["0"]
        plates = tuple(dict.fromkeys(parse_quantity(text, LENGTH, units) for text in texts))
        for text, plate in zip(texts, plates):
            if not 0.0 <= plate <= 500.0:
                raise QuantityError(text, f"“{text.strip()}” behind the rotor", "a spacer of 0 to 500 mm")
        side = self.sides.currentText()
        return Criteria(
            plates, SIDES if side not in SIDES else (side,), self.mount.currentText(), self.action.currentText(),
            self.duty.currentText(), self._wheels.get(self.wheel.currentText()), not self.keep.isChecked(),
        )  # fmt: skip

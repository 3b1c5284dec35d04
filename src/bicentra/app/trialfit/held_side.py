"""How the trial was set up and what was found, and the box of shims."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.widgets.basics import clear_layout
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.typed import TypedLine
from bicentra.core.base.errors import QuantityError
from bicentra.core.base.numbers import known
from bicentra.core.base.quantities import LENGTH, Units, edit_text, parse_quantity
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.fields import field_of, meaning
from bicentra.core.parts.trial import GAP_INSTRUMENTS, SCHOOLS, FloatByHand, Trial


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


CHOSEN = {
    "instrument": tuple(GAP_INSTRUMENTS), "school": SCHOOLS, "bolts": ("", "snug", "tight"), "pads": ("", "out", "in"),
    "body": ("", "bare body", "with pistons"), "hub": ("this hub", "another of its type"), "turned": ("", "free", "touches"),
}  # fmt: skip
LENGTHS = ("tip_gap_mm", "pad_top_mm", "scratch_ring_mm", "runout_mm", "parting_line_mm", "rotor_plate_mm")
ORDER = (
    "instrument", "school", "rotor_nuts", "bolts", "washers_final", "pads", "body", "tip_gap_mm", "runout_mm", "turned", "touches",
    "float", "pad_top_mm", "scratch_ring_mm", "parting_line_mm", "rotor_plate_mm", "tightened", "locker", "hub", "by",
    "parts", "notes",
)  # fmt: skip
"""In the order in which it is asked at the car."""


class HeldSide(QWidget):
    """``given``: name of a field of the trial, and its new value. ``refused``: what was typed is no such thing, and why."""

    given = Signal(str, object)
    refused = Signal(str, str)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("panelBody")
        grid = QGridLayout(self)
        grid.setContentsMargins(8, 8, 8, 8)
        grid.setVerticalSpacing(3)
        self._trial: Trial | None = None
        self._units: Units = "mm"
        self.editors: dict[str, QComboBox | TypedLine] = {}
        self._captions: dict[str, QLabel] = {}
        line = 0
        for name in ORDER:
            rows = (("float new", "Slides, new pads: in, out"), ("float worn", "Slides, worn pads: in, out"))
            for key, label in rows if name == "float" else ((name, meaning(field_of(Trial, name)).label),):
                caption, editor = plain_label(label), self._editor(key)
                caption.setWordWrap(True)
                caption.setBuddy(editor)
                editor.setAccessibleName(label)
                grid.addWidget(caption, line, 0)
                grid.addWidget(editor, line, 1)
                self.editors[key], self._captions[key] = editor, caption
                line += 1
        grid.setColumnStretch(0, 5)
        grid.setColumnStretch(1, 6)
        grid.setRowStretch(line, 1)

    def _editor(self, name: str) -> QComboBox | TypedLine:
        if name in CHOSEN or name in ("rotor_nuts", "washers_final"):
            box = QComboBox()
            values: tuple[object, ...] = CHOSEN.get(
                name, (None, *range(9)) if name == "rotor_nuts" else (None, True, False)
            )
            for value in values:
                box.addItem(_shown(value))
            box.activated.connect(lambda row, name=name, values=values: self.given.emit(name, values[row]))
            return box
        field = TypedLine()
        field.editingFinished.connect(lambda name=name, field=field: self._typed(name, field))
        return field

    def show_trial(self, trial: Trial | None, units: Units, floats: bool) -> None:
        """Show what is written down of ``trial``; ``floats``: the caliper slides, so its travel is asked for."""
        self._trial, self._units = trial, units
        self.setEnabled(trial is not None)
        for name, editor in self.editors.items():
            if name.startswith("float"):
                editor.setVisible(floats)
                self._captions[name].setVisible(floats)
            if isinstance(editor, QComboBox):
                value = getattr(trial, name, None)
                editor.setCurrentText(_shown(value))
            else:
                editor.show_text(self._text_of(name, trial))

    def _text_of(self, name: str, trial: Trial | None) -> str:
        if trial is None:
            return ""
        if name.startswith("float"):
            one = next((f for f in trial.floated if f.pads == name.split()[1]), None)
            ends = () if one is None else (one.inboard_mm, one.outboard_mm)
            return ", ".join(edit_text(end, LENGTH, self._units) for end in ends if end is not None)
        value = getattr(trial, name)
        return edit_text(value, LENGTH, self._units) if name in LENGTHS else str(value or "")

    def _typed(self, name: str, field: TypedLine) -> None:
        text = field.text().strip()
        field.taken()
        if self._trial is None or text == self._text_of(name, self._trial).strip():
            return
        try:
            if name.startswith("float"):
                self.given.emit("floated", self._floated(name.split()[1], text))
            elif name in LENGTHS:
                self.given.emit(name, parse_quantity(text, LENGTH, self._units) if text else None)
            else:
                self.given.emit(name, text)
        except QuantityError as error:
            field.setModified(True)
            field.mark(True)
            self.refused.emit(name, str(error))

    def _floated(self, pads: str, text: str) -> tuple[FloatByHand, ...]:
        """Return what was slid by hand, with ``text`` for one state of the pads: inboard and outboard travel."""
        trial = self._trial or Trial()
        rest = tuple(one for one in trial.floated if one.pads != pads)
        if not text:
            return rest
        words = [word for word in text.replace(";", ",").split(",") if word.strip()]
        if len(words) != 2:
            raise QuantityError(text, f"“{text}”", "two lengths, inboard and outboard, such as 14, 12")
        ways = [parse_quantity(word, LENGTH, self._units) for word in words]
        old = next((one for one in trial.floated if one.pads == pads), FloatByHand(pads=pads))
        return (*rest, replace(old, inboard_mm=ways[0], outboard_mm=ways[1]))


def _shown(value: object) -> str:
    """Return a value to choose as it is shown: a dash for nothing, yes and no."""
    if value is None or value == "":
        return "–"
    return ("yes" if value else "no") if isinstance(value, bool) else str(value)

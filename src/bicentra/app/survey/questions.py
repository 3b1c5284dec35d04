"""The questions of the survey bench: a new feature, a corrected value, what taking the survey over would change."""

from html import escape

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QInputDialog,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.errors import QuantityError
from bicentra.core.base.quantities import ANGLE, LENGTH, Units, parse_quantity
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.survey import INSTRUMENTS, SIDES, Feature, Survey
from bicentra.core.survey.use import Takeover

KINDS = {"round": "hole, boss or pilot", "point": "point", "edge": "straight edge or flat"}


class FeatureDialog(QDialog):
    """Asks for a feature to measure to."""

    def __init__(self, parent: QWidget, has_axis: bool, suggestions: list[str], units: Units) -> None:
        super().__init__(parent)
        self.setWindowTitle("Add a feature")
        self._units: Units = units
        self.feature: Feature | None = None
        form = QFormLayout()
        self.name = QComboBox()
        self.name.setEditable(True)
        self.name.addItems(suggestions)
        self.kind, self.side, self.obstacle = QComboBox(), QComboBox(), QLineEdit()
        for key, text in KINDS.items():
            self.kind.addItem(text, key)
        self.axis = QComboBox()
        self.axis.addItem("no", False)
        if not has_axis:
            self.axis.addItem("yes, everything is measured from it", True)
            self.axis.setCurrentIndex(1)
        for side in SIDES:
            self.side.addItem(side or "not stated", side)
        self.diameter = QLineEdit()
        self.diameter.setPlaceholderText("not measured")
        self.obstacle.setPlaceholderText("none")
        for text, widget in (("Name", self.name), ("What it is", self.kind), ("Centred on the axle", self.axis),
                             ("Diameter", self.diameter), ("Side of the axle", self.side),
                             ("Corner of the obstacle", self.obstacle)):  # fmt: skip
            form.addRow(text, widget)
        self.wrong = plain_label()
        self.wrong.setObjectName("wrong")
        column = QVBoxLayout(self)
        column.addLayout(form)
        column.addWidget(self.wrong)
        row = QHBoxLayout()
        for text, call in (("Add", self._add), ("Cancel", self.reject)):
            button = QPushButton(text)
            button.clicked.connect(call)
            row.addWidget(button)
        column.addLayout(row)

    def _add(self) -> None:
        text = self.diameter.text().strip()
        try:
            diameter = parse_quantity(text, LENGTH, self._units) if text else None
        except QuantityError as error:
            self.wrong.setText(f"Diameter: {error}")
            return
        self.feature = Feature(
            name=self.name.currentText().strip(), kind=self.kind.currentData(), axis=bool(self.axis.currentData()),
            diameter_mm=diameter, side=self.side.currentData(), obstacle=self.obstacle.text().strip() or None,
        )  # fmt: skip
        self.accept()


def ask_feature(parent: QWidget, has_axis: bool, suggestions: list[str], units: Units) -> Feature | None:
    """Ask for a feature; ``None`` when nothing is to be added."""
    dialog = FeatureDialog(parent, has_axis, suggestions, units)
    return dialog.feature if dialog.exec() else None


def ask_value(parent: QWidget, name: str, now: str) -> str | None:
    """Ask for a corrected value as text; ``None`` when it stays."""
    text, ok = QInputDialog.getText(
        parent, "Correct a reading", f"{name}\nWritten down as {now}. It should read:", text=now
    )
    return text if ok else None


def ask_side(parent: QWidget, name: str) -> str:
    """Ask on which side of the axle a feature lies; empty when nobody says."""
    text, ok = QInputDialog.getItem(parent, "Which side?", f"{name} lies", [s for s in SIDES if s], 0, False)
    return text if ok else ""


def ask_takeover(parent: QWidget, plan: Takeover, lengths: LengthFormat) -> bool:
    """Show before and after, and ask whether to take the survey over."""
    dialog = QDialog(parent)
    dialog.setWindowTitle("Use the survey in the job")
    column = QVBoxLayout(dialog)
    text = plain_label(takeover_table(plan, lengths))
    text.setTextFormat(Qt.TextFormat.RichText)
    column.addWidget(text)
    for caution in plan.cautions:
        label = plain_label(f"! {caution}")
        label.setObjectName("wrong")
        label.setWordWrap(True)
        column.addWidget(label)
    row = QHBoxLayout()
    row.addStretch(1)
    for name, call, enabled in (
        ("Use these", dialog.accept, bool(plan.edits)),
        ("Cancel", dialog.reject, True),
    ):
        button = QPushButton(name)
        button.setEnabled(enabled)
        button.clicked.connect(call)
        row.addWidget(button)
    column.addLayout(row)
    return bool(dialog.exec()) and bool(plan.edits)


def takeover_table(plan: Takeover, lengths: LengthFormat) -> str:
    """Return before and after as rich text."""
    if not plan.edits:
        return "Nothing is used." if plan.cautions else "Nothing would change: the job has every number of this survey."
    head = "".join(f"<th align='left' style='padding-right:22px'>{t}</th>" for t in ("", "before", "after", "95 %"))
    rows = []
    for change in plan.changes:
        before = "unknown" if change.before is None else lengths.size(change.before)
        cells = (escape(change.what), before, lengths.size(change.after), f"± {lengths.gap(1.96 * change.sd)}")
        rows.append("".join(f"<td style='padding:3px 22px 3px 0'>{cell.replace('-', '−')}</td>" for cell in cells))
    rows += (
        ["<td colspan=4>outlines of surveyed obstacles</td>"]
        if any(p == "knuckle.obstacles" for p, _ in plan.edits)
        else []
    )
    return f"<table><tr>{head}</tr>" + "".join(f"<tr>{row}</tr>" for row in rows) + "</table>"


class InstrumentsDialog(QDialog):
    """Asks how well each instrument really reads, in this survey."""

    def __init__(self, parent: QWidget, survey: Survey) -> None:
        super().__init__(parent)
        self.setWindowTitle("Instruments")
        self.instruments: dict[str, float] | None = None
        column, form = QVBoxLayout(self), QFormLayout()
        words = plain_label(
            "Standard uncertainty of one reading: two of three readings lie within it. Empty takes the usual one."
        )
        words.setWordWrap(True)
        column.addWidget(words)
        self.fields: dict[str, QLineEdit] = {}
        for name, usual in INSTRUMENTS.items():
            unit, field = ("°" if name == "angle-gauge" else "mm"), QLineEdit()
            field.setPlaceholderText(f"{usual:g} {unit}")
            own = survey.instruments.get(name)
            field.setText("" if own is None else f"{own:g}")
            field.setAccessibleName(f"Uncertainty of {name}, {unit}")
            self.fields[name] = field
            form.addRow(f"{name.replace('-', ' ')}, {unit}", field)
        column.addLayout(form)
        self.wrong = plain_label()
        self.wrong.setObjectName("wrong")
        column.addWidget(self.wrong)
        row = QHBoxLayout()
        for text, call in (("Use these", self._use), ("Cancel", self.reject)):
            button = QPushButton(text)
            button.clicked.connect(call)
            row.addWidget(button)
        column.addLayout(row)

    def _use(self) -> None:
        found: dict[str, float] = {}
        for name, field in self.fields.items():
            text = field.text().strip()
            try:
                value = parse_quantity(text, ANGLE if name == "angle-gauge" else LENGTH) if text else None
            except QuantityError as error:
                self.wrong.setText(f"{name.replace('-', ' ')}: {error}")
                return
            if value is not None and value <= 0:
                self.wrong.setText(f"{name.replace('-', ' ')}: found {text}; expected a number above 0")
                return
            if value is not None:
                found[name] = value
        self.instruments = found
        self.accept()


def ask_instruments(parent: QWidget, survey: Survey) -> dict[str, float] | None:
    """Ask for the instruments' uncertainties; ``None`` when they stay as they are."""
    dialog = InstrumentsDialog(parent, survey)
    return dialog.instruments if dialog.exec() else None

"""Commands and questions of the survey bench: a feature, a side, a corrected value, a table, taking the survey over."""

from abc import abstractmethod
from collections.abc import Callable
from html import escape
from pathlib import Path

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

from bicentra.app import dialogs
from bicentra.app.drawn_bench import DrawnBench
from bicentra.app.survey.entry import EntryBar
from bicentra.app.widgets.photos import photo_of
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.errors import QuantityError
from bicentra.core.base.quantities import ANGLE, LENGTH, Units, edit_text, parse_quantity
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.survey import INSTRUMENTS, SIDES, Feature, Survey
from bicentra.core.survey.use import Takeover
from bicentra.study.desks.readings_text import LISTS, export_readings, import_readings
from bicentra.study.desks.survey import SurveyDesk
from bicentra.study.document.photos import of_reading, photos_of

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


class SurveyFrame(DrawnBench):
    """What the commands need of the survey bench: its desk, its entry bar, and a try that says what is refused."""

    desk: SurveyDesk | None
    entry: EntryBar

    @abstractmethod
    def attempt(self, call: Callable[[], object], path: str = "") -> bool:
        """Do ``call``, which is about the field at ``path``; return whether it was taken."""


class Commands:
    """Each asks, and does what was answered as one step of the history."""

    def __init__(self, bench: SurveyFrame) -> None:
        self.bench = bench

    def add_feature(self) -> None:
        """Ask for a feature and add it."""
        desk = self.bench.desk
        if desk is None:
            return
        have = {f.name for f in desk.survey.features}
        names = [
            n for n in ("pilot", *(lug.name for lug in desk.study.job.knuckle.lugs), "helper hole") if n not in have
        ]
        feature = ask_feature(self.bench, desk.survey.axis is not None, names, desk.lengths.units)
        if feature is not None and self.bench.attempt(lambda: desk.add_feature(feature)):
            self.bench.fit()
            self.bench.entry.value.setFocus()

    def add_at_once(self, what: str) -> None:
        """Add the pilot, the next lug or another hole under the name it goes by here; anything else is asked about."""
        desk = self.bench.desk
        if desk is None or what == "other":
            self.add_feature()
            return
        have = {f.name for f in desk.survey.features}
        lugs = [lug.name for lug in desk.study.job.knuckle.lugs] if what == "lug" else []
        names = (*lugs, *([what] if what == "pilot" else ()), *(f"{what} {k}" for k in range(1, len(have) + 2)))
        feature = Feature(name=next(name for name in names if name not in have), axis=what == "pilot")
        if self.bench.attempt(lambda: desk.add_feature(feature)):
            self.bench.fit()
            self.bench.entry.value.setFocus()

    def _of(self, which: str, index: int) -> str:
        desk = self.bench.desk
        return of_reading(desk.corner, desk.again_of(which, index).name) if desk is not None else ""

    def has_photo(self, which: str, index: int) -> bool:
        """Tell whether there is a photo of a reading."""
        desk = self.bench.desk
        return desk is not None and bool(photos_of(desk.study, self._of(which, index)))

    def photo(self, which: str, index: int) -> None:
        """Show the photo of a reading; where there is none yet, ask for its file."""
        desk = self.bench.desk
        if desk is not None:
            photo_of(self.bench, desk.study, self._of(which, index), self.bench.attempt)

    def state_side(self, name: str) -> None:
        """Ask on which side a feature lies and note it."""
        desk = self.bench.desk
        side = ask_side(self.bench, name) if desk is not None else ""
        if desk is not None and side:
            features = tuple(replace(f, side=side) if f.name == name else f for f in desk.survey.features)
            self.bench.attempt(lambda: desk.write(f"{name} lies {side}", replace(desk.survey, features=features)))

    def set_instruments(self) -> None:
        """Ask how well each instrument reads, and note it in this survey."""
        desk = self.bench.desk
        found = ask_instruments(self.bench, desk.survey) if desk is not None else None
        if desk is not None and found is not None and found != dict(desk.survey.instruments):
            self.bench.attempt(lambda: desk.write("Set the instruments", replace(desk.survey, instruments=found)))

    def use(self) -> None:
        """Show what the survey would change in the job, and take it over as one step."""
        desk = self.bench.desk
        if desk is None:
            return
        plan = desk.takeover()
        if ask_takeover(self.bench, plan, desk.lengths):
            label = f"Use the survey of {desk.corner.replace('-', ' ')}"
            if self.bench.attempt(lambda: desk.study.edit(label, plan.edits)):
                count = len(plan.changes)
                self.bench.message.emit(
                    f"{count} number{'' if count == 1 else 's'} of the survey are in the job. Undo takes them back."
                )

    def take_csv(self) -> None:
        """Add the readings of a CSV table."""
        desk = self.bench.desk
        path = (
            dialogs.ask_file(self.bench, "Import readings", Path.home(), "Tables (*.csv);;All files (*)")
            if desk
            else None
        )
        if desk is None or path is None:
            return

        def take() -> None:
            survey, added = import_readings(path, desk.survey)
            if added:
                desk.write(f"Import {added} readings from {path.name}", survey)
            self.bench.message.emit(f"{added} readings imported from {path.name}; readings already there are skipped.")

        self.bench.attempt(take)
        self.bench.fit()

    def write_csv(self) -> None:
        """Write the readings of this corner as a CSV table."""
        desk = self.bench.desk
        if desk is None:
            return
        name = Path.home() / f"{desk.corner}-readings.csv"
        path = dialogs.ask_save(self.bench, name, "Write readings", "Tables (*.csv)")
        if path is not None and self.bench.attempt(lambda: export_readings(path, desk.survey)):
            self.bench.message.emit(f"Written: {path}")

    def correct(self, which: str, index: int) -> None:
        """Ask what a reading should say, and keep what it said."""
        desk = self.bench.desk
        if desk is None:
            return
        kind = ANGLE if which == "directions" else LENGTH
        item = getattr(desk.survey, which)[index]
        now = edit_text(getattr(item, LISTS[which]), kind, desk.lengths.units)
        text = ask_value(self.bench, desk.again_of(which, index).name, now)
        if text is None or not text.strip() or text == now:
            return

        def write() -> None:
            value = parse_quantity(text, kind, "" if kind is ANGLE else desk.lengths.units)
            desk.correct(which, index, value)

        self.bench.attempt(write)

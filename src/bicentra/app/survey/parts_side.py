"""A donor part on the bench: the readings in, the number out, with its formula shown."""

import math

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from bicentra.app.widgets.basics import clear_layout, scrolled
from bicentra.app.widgets.fields import CalmCombo
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.typed import TypedLine
from bicentra.core.base.errors import QuantityError
from bicentra.core.base.quantities import LENGTH, Units, edit_text, parse_quantity
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import PartMeasure
from bicentra.core.survey.corner import Surveyed
from bicentra.core.survey.recipes import BY_NAME, RECIPES, Recipe
from bicentra.study.desks.readings_text import worked_out


class PartsSide(QWidget):
    """One recipe at a time. ``measured`` carries what was read, ``used`` the number to put into the job."""

    measured = Signal(object)
    used = Signal(str, str, float)

    def __init__(self) -> None:
        super().__init__()
        self._units: Units = "mm"
        self._recipe: Recipe = RECIPES[0]
        self.fields: dict[str, TypedLine] = {}
        self._result = math.nan
        self.recipes = CalmCombo()
        self.recipes.setAccessibleName("What to work out")
        for recipe in RECIPES:
            self.recipes.addItem(f"{recipe.part.capitalize()}: {recipe.title}", recipe.name)
        self.recipes.activated.connect(lambda: self.open(self.recipes.currentData()))
        self._body = QWidget()
        self._body.setObjectName("panelBody")
        self._lines = QVBoxLayout(self._body)
        self.result, self.formula, self.wrong, self.all = plain_label(), plain_label(), plain_label(), plain_label()
        self.result.setObjectName("head")
        self.formula.setObjectName("faint")
        self.wrong.setObjectName("wrong")
        for label in (self.result, self.formula, self.wrong, self.all):
            label.setWordWrap(True)
            label.setTextFormat(Qt.TextFormat.PlainText)
        self.use = QPushButton("Use in the job")
        self.use.clicked.connect(lambda: self.used.emit(self._recipe.title, self._recipe.path, round(self._result, 3)))
        scroll = scrolled(self._body)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.recipes)
        column.addWidget(scroll, 1)
        self._measures: tuple[PartMeasure, ...] = ()
        self._last: tuple[Job, Surveyed, LengthFormat] | None = None
        self._build()

    def open(self, name: str) -> None:
        """Open the recipe called ``name``."""
        self._recipe = BY_NAME[name]
        self.recipes.setCurrentIndex(self.recipes.findData(name))
        self._build()
        if self._last is not None:
            self.show_done(*self._last)  # result and formula belong to the recipe that is open, never to the one before

    def _build(self) -> None:
        clear_layout(self._lines, (self.result, self.formula, self.wrong, self.all, self.use))
        self.fields.clear()
        entries = [(i.key, i.label) for i in self._recipe.inputs] or [
            ("points", "Points traced, along / out from the axle")
        ]
        for key, label in entries:
            caption, field = plain_label(label), TypedLine()
            caption.setObjectName("faint")
            caption.setWordWrap(True)
            field.setAccessibleName(label)
            field.setPlaceholderText("0 / 0; 96 / 0; 90 / 44" if key == "points" else "not measured")
            field.editingFinished.connect(self._changed)
            self.fields[key] = field
            self._lines.addWidget(caption)
            self._lines.addWidget(field)
        for widget in (self.result, self.formula, self.wrong, self.use, self.all):
            self._lines.addWidget(widget)
        self._lines.addStretch(1)

    def show_done(self, job: Job, done: Surveyed, lengths: LengthFormat) -> None:
        """Show what was read for the open recipe, and every number worked out so far."""
        self._last = (job, done, lengths)
        self._units = lengths.units
        self._measures = done.survey.parts
        self._fill()
        result = worked_out(done.survey, self._recipe.name)
        self._result = result.value
        known = math.isfinite(self._result)
        sure = f" ± {lengths.gap(1.96 * result.sd)} (95 %)" if known else ""
        self.result.setText(f"{lengths.size(round(self._result, 3))}{sure}" if known else "still unknown")
        more = f"\narea traced {result.area:.0f} mm²" if math.isfinite(result.area) else ""
        self.formula.setText(f"{self._recipe.title} = {self._recipe.formula}{more}")
        held = get_value(job, self._recipe.path)
        same = known and isinstance(held, int | float) and abs(held - self._result) < 5e-4
        self.use.setEnabled(known and not same)
        self.use.setText(
            "The job has it"
            if same
            else f"Use in the job (now {edit_text(held, LENGTH, lengths.units) or 'not measured'})"
        )
        rows = [f"{r.recipe.title}: {lengths.size(round(r.value, 3))}" for r in done.parts if math.isfinite(r.value)]
        self.all.setText("\n".join(["Worked out so far:", *rows]) if rows else "")

    def _measure(self) -> PartMeasure | None:
        return next((m for m in self._measures if m.recipe == self._recipe.name), None)

    def _fill(self) -> None:
        measure = self._measure()
        for key, field in self.fields.items():
            if key == "points":
                text = "; ".join(f"{x:g} / {y:g}" for x, y in measure.points_mm) if measure else ""
            else:
                text = edit_text(measure.values_mm.get(key) if measure else None, LENGTH, self._units)
            field.show_text(text)

    def _changed(self) -> None:
        old = self._measure() or PartMeasure(recipe=self._recipe.name)
        try:
            values, points = self._read()
        except QuantityError as error:
            self.wrong.setText(f"Not taken: {error}")
            return
        self.wrong.setText("")
        for field in self.fields.values():
            field.taken()
        if values != dict(old.values_mm) or points != old.points_mm:
            self.measured.emit(PartMeasure(recipe=self._recipe.name, values_mm=values, points_mm=points))

    def _read(self) -> tuple[dict[str, float | None], tuple[tuple[float, float], ...]]:
        values: dict[str, float | None] = {}
        points: list[tuple[float, float]] = []
        for key, field in self.fields.items():
            text = field.text().strip()
            field.mark(bool(text))  # until it is known to be read; what stops the reading stays marked
            if key != "points":
                values[key] = parse_quantity(text, LENGTH, self._units) if text else None
                field.mark(False)
                continue
            for part in (p for p in text.split(";") if p.strip()):
                pair = part.split("/")
                if len(pair) != 2:
                    raise QuantityError(text, f"“{part.strip()}”", "points such as 96 / 44 with ; between them")
                points.append(
                    (parse_quantity(pair[0], LENGTH, self._units), parse_quantity(pair[1], LENGTH, self._units))
                )
        return {k: v for k, v in values.items() if v is not None}, tuple(points)

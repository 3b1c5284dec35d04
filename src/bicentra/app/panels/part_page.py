"""A part as its own dimensioned drawing: sizes typed where they are measured, the field in hand lit, how it is measured below."""

from collections.abc import Callable

from PySide6.QtCore import QRectF, QTimer, Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget
from shiboken6 import isValid

from bicentra.app import workers
from bicentra.app.drawing.fit import show_whole
from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.panels.panel import Panel
from bicentra.app.theme import Look
from bicentra.app.widgets.fields import FieldOver, TextField
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.errors import QuantityError
from bicentra.core.base.wording import units_of
from bicentra.core.drawing.part_sheets.table import part_sheet
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.job import Job
from bicentra.study.desks.measuring import how_to_measure, needed_text
from bicentra.study.document.study import Study

REST_MS = 250
"""After which rest it is worked out what a size is needed for [ms]."""
TITLES = {"rotor": "Rotor, along the axle and cut", "caliper": "Caliper, along the axle and cut", "hub": "Hub, its face and cut",
          "wheel": "Wheel, cut", "knuckle": "Lugs, along the axle and level from behind", "bracket": "Plate",
          "bolts": "Bolts in their stacks"}  # fmt: skip


class PartPage(QWidget):
    """The drawing of the sheet that is open. ``committed`` carries a key path and a value; ``done``: back to the bench."""

    committed = Signal(str, object)
    done = Signal()

    def __init__(self, look: Look, study: Callable[[], Study]) -> None:
        super().__init__()
        self._study = study
        self._panel: Panel | None = None
        self._drawn = self._lit = ""
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(self._look_what_for)
        self.view_state = ViewState()
        self.view_state.look = look
        self.view = DrawingView("The part", self.view_state, {})
        self.view.margins = True
        self.view.typed_over.connect(self._type_over)
        self.view.fit_wanted.connect(self.fit)
        self._field = FieldOver(self)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.view, 1)
        row = QHBoxLayout()
        self.how = plain_label()
        self.how.setWordWrap(True)
        self.how.setMinimumHeight(60)
        row.addWidget(self.how, 1)
        back = QPushButton("Back to the bench")
        back.setToolTip("Folds the sheet away  (F5)")
        back.clicked.connect(self.done)
        row.addWidget(back)
        column.addLayout(row)

    def show_part(self, name: str, panel: Panel) -> bool:
        """Draw the part called ``name``, whose fields are ``panel``'s; False when it has no drawing."""
        study = self._study()
        drawing = part_sheet(name, study.plain_solution)
        self._panel = panel
        if drawing is None:
            return False
        anew, self._drawn = name != self._drawn, name
        self.view.title = TITLES[name]
        self.view.setAccessibleName(TITLES[name])
        self.view.show_drawing(drawing, {}, 1.0, units_of(study.job.display_units))
        if anew:
            self.view_state.fitted = True
        if self.view_state.fitted:
            self.view.fit_soon()
        return True

    def fit(self) -> None:
        """Show the whole drawing."""
        show_whole((self.view,))

    def light(self, path: str) -> None:
        """Light the dimension of ``path`` and say how it is measured; nothing for an empty path."""
        self.view_state.light(frozenset((path,)) if path else frozenset())
        self.how.setText(how_to_measure(path, self._study().job) if path else "")
        self._lit = path
        self._rest.start()

    def _look_what_for(self) -> None:
        """Work out in a thread what the size in hand is needed for, and say it beside how it is measured."""
        path, job = self._lit, self._study().job
        if path and self.isVisible():
            task = workers.Task("What it is needed for", lambda _: needed_text(job, path))
            task.signals.finished.connect(lambda text: self._say_what_for(path, job, text))
            workers.start(task)

    def _say_what_for(self, path: str, job: Job, text: object) -> None:
        if isValid(self) and path == self._lit and text:  # the window may be gone by now
            self.how.setText(f"{how_to_measure(path, job)} {text}")

    def _type_over(self, path: str, rect: QRectF) -> None:
        box = self._panel.boxes.get(path) if self._panel is not None else None
        if not isinstance(box, TextField):
            if box is not None and self._panel is not None:
                self._panel.go_to(path)
            return
        job = self._study().job
        shown = box.format(get_value(job, path), units_of(job.display_units))
        self.light(path)
        self._field.open(self.view, rect, shown, box.label, lambda text: self._take(path, box, text))

    def _take(self, path: str, box: TextField, text: str) -> bool:
        """Take what was typed over a dimension; what was missing before asks for the next that is."""
        before = get_value(self._study().job, path)
        try:
            value = box.read(text)
        except QuantityError as error:
            self.how.setText(str(error))
            return False
        self.committed.emit(path, value)
        if get_value(self._study().job, path) != value:
            return False
        if before is None:
            self._ask_after(path)
        return True

    @property
    def missing(self) -> tuple[str, ...]:
        """The key paths of what is missing on the drawing, in the order of the fields."""
        drawing, panel = self.view.drawing, self._panel
        if drawing is None or panel is None:
            return ()
        shown = {one.edits for one in drawing.dimensions if one.example} | {
            one.edits for one in drawing.notes if one.example
        }
        return tuple(path for path in panel.boxes if path in shown)

    def _ask_after(self, path: str) -> None:
        """Ask for the next size of the drawing that is missing, in the order of the fields, once the present field is gone."""
        places = list(self._panel.boxes) if self._panel is not None else []
        order = [one for one in self.missing if one != path]
        after = [one for one in order if places.index(one) > places.index(path)]
        if order:
            QTimer.singleShot(0, lambda: self.view.ask((after or order)[0]))

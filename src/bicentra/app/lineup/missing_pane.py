"""What to measure next: every missing size with a field to type it in, most useful first."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from bicentra.app import workers
from bicentra.app.lineup.side_pane import SidePane
from bicentra.app.paint import fitted_into, paint_shapes, painted
from bicentra.app.theme import LIGHT, Look, colour
from bicentra.app.widgets.basics import clear_layout
from bicentra.app.widgets.plain import plain_label, tip
from bicentra.app.widgets.typed import CHOICES, go_on_from
from bicentra.core.base.wording import units_of
from bicentra.core.drawing.model import Dimension, Drawing, Note
from bicentra.core.geometry.outline import Point
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.fields import fields, meaning
from bicentra.core.parts.job import Job
from bicentra.study.desks.lineup import LineupDesk

if TYPE_CHECKING:
    from bicentra.app.widgets.fields import FieldBox
    from bicentra.core.inputs.missing import Missing

PICTURE_PX = (64, 50)
"""How large the picture beside a missing size is [px]."""
OWNERS = {"hub": "Hub", "rotor": "Rotor", "caliper": "Caliper", "fit": "Fit", "bracket": "Plate", "knuckle": "Knuckle"}


class MissingRow(QWidget):
    """One missing size: its field, and what it is good for."""

    def __init__(self, path: str, job: Job, desk: LineupDesk, look: Look) -> None:
        super().__init__()
        self.path = path
        row, column = QHBoxLayout(self), QVBoxLayout()
        row.setContentsMargins(0, 4, 0, 4)
        row.addWidget(SizePicture(desk.picture_of(path), path, look), 0, Qt.AlignmentFlag.AlignTop)
        row.addLayout(column, 1)
        column.setSpacing(1)
        self.box: FieldBox | None = _box(path, job)
        self.note = plain_label()
        self.note.setObjectName("faint")
        self.note.setWordWrap(True)
        if self.box is not None:
            self.box.setSizePolicy(
                QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred
            )  # a long list of choices is no wider
            for editor in self.box.findChildren(QComboBox):
                editor.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
            column.addWidget(self.box)
            self.setFocusProxy(self.box)
        else:
            line = plain_label("A wheel: from the library on the Parts bench, or added on the Job sheet")
            line.setWordWrap(True)
            column.addWidget(line)
        column.addWidget(self.note)
        self.setToolTip(tip(desk.how_of(path)))


class SizePicture(QWidget):
    """A part small, the size at ``path`` lit on it."""

    def __init__(self, drawing: Drawing | None, path: str, look: Look) -> None:
        super().__init__()
        self._drawing, self._path, self._look = drawing, path, look
        self.setFixedSize(*(round(px * look.size) for px in PICTURE_PX))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the part, and on it where the size is measured."""
        del event
        drawing = self._drawing
        if drawing is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        view = fitted_into(drawing, QRectF(self.rect()).adjusted(3, 3, -3, -3))
        paint_shapes(painter, painted(drawing), view, self._look)
        painter.setPen(QPen(colour(self._look.lit), 2.4))
        items: tuple[Dimension | Note, ...] = (*drawing.dimensions, *drawing.notes)
        for item in items:
            if item.edits == self._path:
                one, other = (view.map(QPointF(x, y)) for x, y in measured_ends(item))
                painter.drawLine(one, other)
                painter.drawEllipse(one, 2.5, 2.5)
                painter.drawEllipse(other, 2.5, 2.5)


def measured_ends(item: Dimension | Note) -> tuple[Point, Point]:
    """Return between which places of the drawing a size is measured [mm]; twice the same for a note."""
    if isinstance(item, Note):
        return item.at, item.at
    (ux, uy), (ax, ay) = item.along, item.a
    long = (item.b[0] - ax) * ux + (item.b[1] - ay) * uy
    return (item.b[0] - ux * long, item.b[1] - uy * long), item.b


def _box(path: str, job: Job) -> "FieldBox | None":
    """Return the field for the size at ``path``, named with the part it is of; a whole part has none."""
    from bicentra.app.panels.panel import field_for

    part, _, name = path.rpartition(".")
    if not part:
        return None
    record = get_value(job, part)
    of = next(meaning(f) for f in fields(record) if f.name == name)
    box = field_for(path, name, of)
    owner = f"{record.name} lug".capitalize() if part.startswith("knuckle.lugs") else OWNERS.get(part, part)
    box.label = f"{owner}: {box.label[:1].lower()}{box.label[1:]}"
    box.caption.setText(box.label)
    return box


class MissingPane(SidePane):
    """Finds what is missing in a thread and asks for it. ``committed`` carries a key path and what was typed for it."""

    committed = Signal(str, object)

    def __init__(self) -> None:
        super().__init__("What to measure", "Missing sizes, most useful first")
        self.area.setProperty(CHOICES, True)
        self._desk: LineupDesk | None = None
        self.rows: dict[str, MissingRow] = {}
        self._shown_for: Job | None = None
        self._busy = False
        self.look: Look = LIGHT

    def open_for(self, desk: LineupDesk) -> None:
        """Ask for what is missing of the job on ``desk``, begun again."""
        self._desk, self.rows, self._shown_for = desk, {}, None
        clear_layout(self._list)
        self.state.setText("Looking for what is missing …")
        self.follow()

    def follow(self) -> None:
        """Bring the rows up to date with the job as it stands; what was typed stays where it is."""
        desk = self._desk
        if desk is None or self._busy or not self.isVisible() or self._shown_for is desk.study.job:
            return
        job = self._shown_for = desk.study.job
        if desk.study.missing is not None:
            self._show(job, desk.study.missing)
            return
        look, self._busy = desk.study.finding_missing(), True
        task = workers.Task("What to measure", lambda _: look())
        task.signals.finished.connect(lambda found: self._found(job, found))
        task.signals.failed.connect(self._failed)
        workers.start(task)

    def _found(self, job: Job, found: "tuple[Missing, ...]") -> None:
        """Show what was found; where the job has changed since, look again: one look at a time, however fast one types."""
        self._busy = False
        if self._desk is not None:
            self._desk.study.take_missing(job, found)
        self._show(job, found)
        self.follow()

    def _failed(self, message: str) -> None:
        self._busy = False
        self.failed.emit(message)

    def _show(self, job: Job, found: "tuple[Missing, ...]") -> None:
        desk = self._desk
        if desk is None or job is not desk.study.job:
            return
        units, first = units_of(job.display_units), not self.rows
        text = {one.path: " ".join((desk.how_of(one.path), f"{desk.text_of(one)}.")) for one in desk.in_order(found)}
        for path in text:
            if path not in self.rows:
                self._add(MissingRow(path, job, desk, self.look))
        for path, row in self.rows.items():
            row.note.setText(
                text.get(path, "taken" if get_value(job, path) not in (None, ()) else "not needed any more")
            )
            if row.box is not None:
                row.box.show_value(get_value(job, path), units)  # type: ignore[attr-defined]
        many = len(text)
        left = f"{many} size{'s' if many != 1 else ''} missing: Enter takes one and goes on"
        self.state.setText(left if many else "Nothing is missing.")
        if first and self.rows:
            QTimer.singleShot(0, next(iter(self.rows.values())).setFocus)

    def _add(self, row: MissingRow) -> None:
        self.rows[row.path] = row
        self._list.insertWidget(len(self.rows) - 1, row)
        if len(self.rows) == 1:
            self._list.addStretch(1)
        if row.box is not None:
            row.box.committed.connect(self._take)

    def _take(self, path: str, value: object) -> None:
        """Take a size; a choice goes on to the next row as Enter does in a field."""
        self.committed.emit(path, value)
        box = self.rows[path].box
        editor = box.focusProxy() if box is not None else None
        if isinstance(editor, QComboBox) and self._desk is not None and get_value(self._desk.study.job, path) == value:
            go_on_from(editor)

    def refuse(self, path: str, message: str) -> None:
        """Say below a field why what was typed in it is not taken."""
        row = self.rows.get(path)
        if row is not None and row.box is not None:
            row.box.refuse(message)

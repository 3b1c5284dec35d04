"""The cover sheet: the vehicle, who works on it, notes, and every corner with what is open there and what comes next."""

from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, QSettings
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFormLayout, QGridLayout, QHBoxLayout, QLineEdit, QPlainTextEdit, QVBoxLayout, QWidget

from bicentra.app import workers
from bicentra.app.bench import Bench
from bicentra.app.cover.photos import PhotoStrip
from bicentra.app.theme import LIGHT, Look, colour
from bicentra.app.widgets.picture_card import PictureCard
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.errors import BicentraError
from bicentra.core.base.finding import Edit
from bicentra.core.parts.job import CORNERS
from bicentra.core.parts.photo import Photo
from bicentra.study.document.cover import CornerTold, other_corners, own_corner
from bicentra.study.document.photos import path_of, take_in
from bicentra.study.document.study import Study
from bicentra.study.papers.imprint import today

FIELDS = {"title": "Vehicle and job", "drawn_by": "Drawn by", "checked_by": "Checked by"}
MOST_GIVEN_OUT = 4


class Chassis(QWidget):
    """The four corners' cards on the vehicle as it is seen from above, nose up."""

    def __init__(self) -> None:
        super().__init__()
        self.look: Look = LIGHT
        self.setObjectName("desk")
        self.cards = {name: PictureCard(176) for name in CORNERS}
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 26, 0, 8)
        grid.setHorizontalSpacing(70)
        grid.setVerticalSpacing(26)
        for name, card in self.cards.items():
            grid.addWidget(card, 0 if "front" in name else 1, 0 if "left" in name else 1)

    def dress(self, look: Look) -> None:
        """Show it in ``look``."""
        self.look = look
        for card in self.cards.values():
            card.dress(look)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the vehicle between the cards: body, axles, and an arrow to its front."""
        del event
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        boxes = [card.geometry() for card in self.cards.values()]
        middle, top, low = self.width() / 2, min(b.top() for b in boxes) - 20.0, max(b.bottom() for b in boxes) + 4.0
        painter.setPen(QPen(colour(self.look.edge), 5.0))
        for box in boxes:
            x = box.right() if box.center().x() < middle else box.left()
            painter.drawLine(QPointF(x, box.center().y()), QPointF(middle, box.center().y()))
        painter.setPen(QPen(colour(self.look.faint), 2.0))
        painter.setBrush(colour(self.look.card))
        painter.drawRoundedRect(QRectF(middle - 20.0, top, 40.0, low - top), 16.0, 16.0)
        painter.drawPolyline([QPointF(middle - 7, top + 24), QPointF(middle, top + 13), QPointF(middle + 7, top + 24)])


class CoverBench(Bench):
    """The sheet that lies on top of everything."""

    def __init__(self, look: Look, settings: QSettings) -> None:
        super().__init__(look, settings)
        self.study: Study | None = None
        self._shown: object = None
        self._task: workers.Task | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(4, 4, 4, 4)
        row.setSpacing(14)
        row.addLayout(self._build_words(), 4)
        right = QVBoxLayout()
        self.chassis = Chassis()
        for name, card in self.chassis.cards.items():
            card.show_words(_named(name).capitalize(), ("…",), None, None)
            card.clicked.connect(lambda _checked=False, name=name: self.go_to(name))
        right.addWidget(self.chassis)
        self.strip = PhotoStrip(self._photo_at)
        self.strip.added.connect(self.add_photo)
        self.strip.changed.connect(lambda label, photos: self._change(label, (("photos", photos),)))
        right.addWidget(self.strip)
        right.addStretch(1)
        row.addLayout(right, 7)
        self.dress(look)

    def _build_words(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(8)
        form = QFormLayout()
        form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapAllRows)
        self.fields: dict[str, QLineEdit] = {}
        for key, label in FIELDS.items():
            field = QLineEdit()
            field.setAccessibleName(label)
            field.setMinimumHeight(34)
            field.editingFinished.connect(lambda key=key: self._take(key))
            form.addRow(plain_label(label), field)
            self.fields[key] = field
        column.addLayout(form)
        column.addWidget(plain_label("Notes"))
        self.notes = QPlainTextEdit()
        self.notes.setAccessibleName("Notes")
        self.notes.setTabChangesFocus(True)
        self.notes.setPlaceholderText("What it is for, what was found, what was agreed")
        column.addWidget(self.notes, 1)
        self.given_out = plain_label()
        self.given_out.setObjectName("faint")
        self.given_out.setWordWrap(True)
        column.addWidget(self.given_out)
        return column

    def _photo_at(self, name: str) -> Path | None:
        return path_of(self.study.path, name) if self.study is not None else None

    def add_photo(self, source: Path) -> None:
        """Copy a picture beside the job and put it on the sheet, as one of the corner that is worked on."""
        study = self.study
        if study is None:
            return
        if study.path is None:
            self.refused.emit("photos", "save the job first: photos are kept in a folder beside its file")
            return
        try:
            name = take_in(source, study.path, today())
        except BicentraError as error:
            self.refused.emit("photos", str(error))
            return
        new = Photo(file=name, of=study.job.corner, date=today())
        self._change("Add a photo", (("photos", (*study.job.photos, new)),))

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on."""
        self.study, self._shown = study, None
        self.refresh()

    def refresh(self) -> None:
        """Show the vehicle as it stands; the corners only while the sheet is looked at."""
        study = self.study
        if study is None or not self.isVisible():
            return
        job = study.job
        for key, field in self.fields.items():
            if not field.hasFocus() and field.text() != getattr(job, key):
                field.setText(getattr(job, key))
        if not self.notes.hasFocus() and self.notes.toPlainText() != job.notes:
            self.notes.setPlainText(job.notes)
        given = [f"{one.revision} of {_named(one.corner)}, {one.date}: {one.changed or 'first'}" for one in job.issued]
        self.given_out.setText("Given out to be cut\n" + "\n".join(given[-MOST_GIVEN_OUT:]) if given else "")
        self.strip.show_photos(job.photos, self.view_state.look)
        self._show_corner(own_corner(study), True)
        if study.vehicle is not self._shown:
            self._shown = study.vehicle
            vehicle, work = study.vehicle, other_corners(study)
            self._task = workers.Task("The other corners", lambda _task: (vehicle, work()))
            self._task.signals.finished.connect(self._show_others)
            workers.start(self._task)

    def _show_others(self, found: object) -> None:
        """Show what was worked out of the other corners, unless the vehicle has changed since."""
        if isinstance(found, tuple) and self.study is not None and found[0] is self.study.vehicle:
            for told in found[1]:
                self._show_corner(told, False)

    def _show_corner(self, told: CornerTold, worked_on: bool) -> None:
        card = self.chassis.cards[told.name]
        card.setChecked(worked_on)
        title = _named(told.name).capitalize() + (" · worked on" if worked_on else "")
        lines = (
            (told.told, told.known, f"Next: {told.step}")
            if told.verdict is not None
            else (told.known.capitalize(), "", "")
        )
        card.show_words(title, lines, told.verdict, told.picture, told.left)

    def showEvent(self, event: object) -> None:
        """Show what changed while the sheet lay below."""
        del event
        self.refresh()

    def dress(self, look: Look) -> None:
        """Show the sheet in ``look``."""
        super().dress(look)
        self.chassis.dress(look)

    def take_focus(self) -> None:
        """Give the keys to the corner that is worked on."""
        if self.study is not None:
            self.chassis.cards[self.study.job.corner].setFocus()

    def go_to(self, corner: str) -> None:
        """Work on a corner: line it up."""
        if self.study is None:
            return
        self.take_notes()
        self.study.go_to(corner)
        self.bench_wanted.emit("lineup")

    def let_go(self) -> None:
        """Take what is typed in the notes: the window is closing or something else is looked at."""
        self.take_notes()

    def hideEvent(self, event: object) -> None:
        """Take the notes as they stand when another bench comes to the front."""
        del event
        self.take_notes()

    def take_notes(self) -> None:
        """Take what is written in the notes as one step."""
        if self.study is not None and self.notes.document().isModified():
            self.notes.document().setModified(False)
            self._change("Change the notes", (("notes", self.notes.toPlainText()),))

    def _take(self, key: str) -> None:
        if self.study is not None and self.fields[key].text().strip() != getattr(self.study.job, key):
            self._change(f"Change {FIELDS[key].lower()}", ((key, self.fields[key].text().strip()),))

    def _change(self, label: str, edits: tuple[Edit, ...]) -> None:
        if self.study is None:
            return
        try:
            self.study.edit(label, edits)
        except BicentraError as error:
            self.refused.emit(edits[0][0], str(error))


def _named(corner: str) -> str:
    return corner.replace("-", " ")

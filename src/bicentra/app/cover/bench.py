"""The cover sheet: the vehicle, who works on it, notes, and every corner with what is open there and what comes next."""

from pathlib import Path

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from bicentra.app.bench import Bench
from bicentra.app.cover.photos import PhotoStrip
from bicentra.app.theme import Look
from bicentra.app.widgets.chassis import ChassisView, corner_name
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.typed import NotesField, TypedLine
from bicentra.core.base.errors import BicentraError
from bicentra.core.base.finding import Edit
from bicentra.study.document.photos import add_photo, path_of
from bicentra.study.document.study import Study

FIELDS = {"title": "Vehicle and job", "drawn_by": "Drawn by", "checked_by": "Checked by"}
MOST_GIVEN_OUT, SIDE_PX = 4, 230


class CoverBench(Bench):
    """The sheet that lies on top of everything."""

    def __init__(self, look: Look, settings: QSettings) -> None:
        super().__init__(look, settings)
        self.study: Study | None = None
        column, row = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(4, 4, 4, 4)
        column.setSpacing(8)
        row.setSpacing(12)
        column.addLayout(self._build_fields())
        column.addLayout(row, 1)
        self.chassis = ChassisView(grows=True)
        self.chassis.chosen.connect(self.go_to)
        row.addWidget(self.chassis, 1)
        row.addWidget(self._build_side())
        self.dress(look)

    def _build_fields(self) -> QHBoxLayout:
        """The names that stand on every paper, in one row."""
        row = QHBoxLayout()
        row.setSpacing(8)
        self.fields: dict[str, TypedLine] = {}
        for key, label in FIELDS.items():
            field, caption = TypedLine(), plain_label(label)
            field.setAccessibleName(label)
            field.setMinimumHeight(34)
            field.editingFinished.connect(lambda key=key: self._take(key))
            caption.setBuddy(field)
            row.addWidget(caption)
            row.addWidget(field, 2 if key == "title" else 1)
            self.fields[key] = field
        return row

    def _build_side(self) -> QWidget:
        """Notes and photos, narrow beside the vehicle."""
        side = QWidget()
        side.setObjectName("desk")
        side.setFixedWidth(SIDE_PX)
        column = QVBoxLayout(side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(plain_label("Notes"))
        self.notes = NotesField()
        self.notes.setAccessibleName("Notes")
        self.notes.taken.connect(self._take_notes)
        self.notes.setPlaceholderText("Purpose, what was found, what was agreed")
        column.addWidget(self.notes, 1)
        self.given_out = plain_label()
        self.given_out.setObjectName("faint")
        self.given_out.setWordWrap(True)
        column.addWidget(self.given_out)
        self.strip = PhotoStrip(self._photo_at)
        self.strip.added.connect(self.add_photo)
        self.strip.changed.connect(lambda label, photos: self._change(label, (("photos", photos),)))
        column.addWidget(self.strip)
        return side

    def _photo_at(self, name: str) -> Path | None:
        return path_of(self.study.path, name) if self.study is not None else None

    def add_photo(self, source: Path) -> None:
        """Copy a picture beside the job and put it on the sheet, as one of the corner that is worked on."""
        try:
            if self.study is not None:
                add_photo(self.study, source, self.study.job.corner)
        except BicentraError as error:
            self.refused.emit("photos", str(error))

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on."""
        self.study = study
        self.chassis.forget()
        self.refresh()

    def refresh(self) -> None:
        """Show the vehicle as it stands; the corners only while the sheet is looked at."""
        study = self.study
        if study is None or not self.isVisible():
            return
        job = study.job
        for key, field in self.fields.items():
            field.show_text(getattr(job, key))
        self.notes.show_text(job.notes)
        given = [
            f"{one.revision} of {corner_name(one.corner)}, {one.date}: {one.changed or 'first'}" for one in job.issued
        ]
        self.given_out.setText("Given out to be cut\n" + "\n".join(given[-MOST_GIVEN_OUT:]) if given else "")
        self.strip.show_photos(job.photos, self.view_state.look)
        self.chassis.show_study(study)

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
        self.notes.take()
        self.study.go_to(corner)
        self.bench_wanted.emit("lineup")

    def _take_notes(self) -> None:
        """Take what is written in the notes; what is written in one go is one step. Notes that are refused stay to be
        shortened.
        """
        if not self._change("Change the notes", (("notes", self.notes.toPlainText()),), "notes"):
            self.notes.setModified(True)

    def _take(self, key: str) -> None:
        field = self.fields[key]
        text = field.text().strip()
        if (
            self.study is None
            or text == getattr(self.study.job, key)
            or self._change(f"Change {FIELDS[key].lower()}", ((key, text),))
        ):
            field.taken()
        else:
            field.mark(True)

    def _change(self, label: str, edits: tuple[Edit, ...], group: str = "") -> bool:
        if self.study is None:
            return False
        try:
            self.study.edit(label, edits, group)
        except BicentraError as error:
            self.refused.emit(edits[0][0], str(error))
            return False
        return True

"""The few questions and sheets that stand in front of the window."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import (
    QDialog,
    QFileDialog,
    QInputDialog,
    QMenu,
    QMessageBox,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.actions import key_sheet
from bicentra.app.widgets.plain import plain_label, plain_menu
from bicentra.study.document.brakes import DISC, DRUM
from bicentra.study.document.brakes import LATER as BRAKE_LATER
from bicentra.study.document.recovery import Recovery, lost_with
from bicentra.study.document.starting import Start
from bicentra.study.document.store import shown
from bicentra.study.document.study import Study

if TYPE_CHECKING:
    from bicentra.study.desks.practice import Answer

JOB_FILTER = "Bicentra jobs (*.bicentra.json);;All files (*)"
SAVE, DISCARD, STAY = "save", "discard", "stay"
TAKE, LATER, OVER, OTHER_NAME = "take", "later", "over", "other name"
FOUND, NOTHING = "found", "nothing"


def show_keys(parent: QWidget) -> None:
    """Show every key."""
    label = plain_label(key_sheet())
    label.setTextFormat(Qt.TextFormat.RichText)
    area = QScrollArea()
    area.setWidget(label)
    area.setAccessibleName("Every key")
    _show(parent, "All keys", area, label.sizeHint().width() + 60)


def show_history(parent: QWidget, study: Study) -> None:
    """List the steps taken, the last one first; one that is clicked is gone back to."""
    menu = QMenu(parent)
    menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    for back, label in enumerate(reversed(study.history)):
        action = menu.addAction(plain_menu(f"{label}{'   (the last)' if back == 0 else ''}"))
        action.triggered.connect(lambda _checked=False, back=back: study.go_back(back))
    if not study.history:
        menu.addAction("Nothing has been done yet").setEnabled(False)
    menu.popup(parent.mapToGlobal(QPoint(110, 60)))


def show_about(parent: QWidget) -> None:
    """Show what the program is made of."""
    from bicentra.app.help import about_text

    label = plain_label(about_text())
    label.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
    label.setWordWrap(True)
    _show(parent, "About Bicentra", label)


def _show(parent: QWidget, title: str, what: QWidget, wide: int = 0) -> None:
    """Show something to be read, with a button that closes it; ``wide``: how wide, 620 dots high."""
    dialog = QDialog(parent)
    dialog.setWindowTitle(title)
    column = QVBoxLayout(dialog)
    column.addWidget(what)
    if wide:
        dialog.resize(wide, 620)
    close = QPushButton("Close")
    close.clicked.connect(dialog.accept)
    column.addWidget(close, 0, Qt.AlignmentFlag.AlignRight)
    dialog.exec()


def ask_new(parent: QWidget, units: str = "mm") -> Start | None:
    """Ask what is known of a new job, its ``units`` those used last; ``None`` when there is to be none."""
    from bicentra.app.new_job import NewJobDialog

    dialog = NewJobDialog(parent, units)
    return dialog.start if dialog.exec() else None


def ask_practice(parent: QWidget, level: int = 1) -> tuple[int, int] | None:
    """Ask which practice corner to open and at which level, ``level`` proposed; ``None`` when there is to be none."""
    from bicentra.app.practice_dialogs import PracticeDialog

    dialog = PracticeDialog(parent, level)
    return dialog.chosen if dialog.exec() else None


def ask_wide_gap(parent: QWidget, text: str) -> bool:
    """Ask whether a gap that is wider than slot and rotor leave is what was read."""
    answers = ((TAKE, "Take it anyway"), (STAY, "Read it again"))
    return _ask(parent, "That gap is too wide", text, answers, STAY) == TAKE


def ask_inspection(parent: QWidget, title: str, looks: bool = True) -> str:
    """Ask what came of something on the car; returns ``FOUND``, ``NOTHING`` or ``LATER``. Without ``looks``: done or not."""
    if not looks:
        return _ask(parent, "At the car", f"{title}.", ((NOTHING, "Done"), (LATER, "Not yet")), NOTHING)
    text = f"{title}. What did you find?"
    answers = ((NOTHING, "Nothing wrong"), (FOUND, "Found and fixed"), (LATER, "Not yet"))
    return _ask(parent, "Looked at", text, answers, NOTHING)


def show_answer(parent: QWidget, answer: "Answer") -> bool:
    """Show the answer of a practice corner; returns whether another corner is wanted."""
    from bicentra.app.practice_dialogs import AnswerDialog

    dialog = AnswerDialog(parent, answer)
    dialog.exec()
    return dialog.another


def ask_give_up(parent: QWidget) -> bool:
    """Ask whether the answer of a practice corner is shown although it is not locked."""
    text = "This corner is not locked yet. Showing the answer now ends it, and it is kept as given up."
    answers = ((DISCARD, "Give up and show it"), (STAY, "Go on"))
    return _ask(parent, "Show the answer", text, answers, STAY) == DISCARD


def ask_unsaved(parent: QWidget, title: str) -> str:
    """Ask what to do with unsaved changes; returns ``SAVE``, ``DISCARD`` or ``STAY``."""
    text = f"“{title}” has changes that are not saved."
    answers = ((SAVE, "Save them"), (DISCARD, "Discard them"), (STAY, "Cancel"))
    return _ask(parent, "Unsaved changes", text, answers, SAVE)


def ask_recover(parent: QWidget, found: Recovery) -> str:
    """Ask what to do with unsaved work that was left behind; returns ``TAKE``, ``DISCARD`` or ``LATER``."""
    where = shown(found.path) if found.path else "never saved to a file"
    text = (
        f"Bicentra stopped while “{found.vehicle.title or 'an untitled job'}” had changes that were not saved.\n\n"
        f"Kept {found.kept or 'at an unknown time'} · {where}\n\n"
        f"What would be lost: {lost_with(found) or 'nothing, it is in the file'}"
    )
    answers = ((TAKE, "Take them up again"), (DISCARD, "Discard them"), (LATER, "Later"))
    return _ask(parent, "Unsaved work found", text, answers, TAKE)


def ask_changed(parent: QWidget, message: str) -> str:
    """Ask what to do when a job's file has been changed by somebody else; returns ``OVER``, ``OTHER_NAME`` or ``STAY``."""
    message = f"{message}. Writing over it loses what was changed there."
    answers = ((OTHER_NAME, "Save under another name…"), (OVER, "Write over it"), (STAY, "Cancel"))
    return _ask(parent, "The file has changed", message, answers, OTHER_NAME)


def ask_brake(parent: QWidget, axle: str, drums: bool) -> str:
    """Ask which brake an axle gets, before anything is written of it; returns ``DISC``, ``DRUM`` or ``LATER``."""
    text = f"This job says that the {axle} axle has drums." if drums else f"Nothing is known of the {axle} brakes yet."
    stays = "It keeps its drums" if drums else "It has drums, and keeps them"
    answers = ((DISC, "It gets discs"), (DRUM, stays), (BRAKE_LATER, "Not yet"))
    return _ask(parent, f"Brakes of the {axle} axle", f"{text} What will it have?", answers, BRAKE_LATER)


def ask_over(parent: QWidget, path: Path) -> bool:
    """Ask whether a file that is there already may be written over."""
    answers = ((OVER, "Write over it"), (STAY, "Choose another name"))
    return _ask(parent, "File exists", f"{shown(path)} is there already.", answers, STAY) == OVER


def _ask(parent: QWidget, title: str, message: str, answers: tuple[tuple[str, str], ...], usual: str) -> str:
    """Show ``message`` with a button an answer; Enter gives the ``usual`` one, Escape the last, which changes nothing."""
    box = _box(parent, title)
    box.setText(message)
    buttons = {}
    for answer, text in answers:
        role = QMessageBox.ButtonRole.RejectRole if answer == answers[-1][0] else QMessageBox.ButtonRole.ActionRole
        buttons[answer] = box.addButton(text, role)
    box.setDefaultButton(buttons[usual])
    box.setEscapeButton(buttons[answers[-1][0]])
    box.exec()
    return next((answer for answer, button in buttons.items() if box.clickedButton() is button), answers[-1][0])


def tell(parent: QWidget, title: str, text: str) -> None:
    """Show a message that has to be read."""
    box = _box(parent, title, QMessageBox.Icon.Information)
    box.setText(text)
    box.exec()


def warn(parent: QWidget, title: str, text: str) -> None:
    """Show a fault that has to be read."""
    box = _box(parent, title, QMessageBox.Icon.Warning)
    box.setText(text)
    box.exec()


def _box(parent: QWidget, title: str, icon: QMessageBox.Icon = QMessageBox.Icon.Question) -> QMessageBox:
    """Return a box whose text is plain: a job's title or a file's name is never markup."""
    box = QMessageBox(parent)
    box.setTextFormat(Qt.TextFormat.PlainText)
    box.setIcon(icon)
    box.setWindowTitle(title)
    return box


def ask_name(parent: QWidget, title: str, question: str) -> str:
    """Ask for a name; empty when the user thinks better of it."""
    text, taken = QInputDialog.getText(parent, title, question)
    return text.strip() if taken else ""


def ask_open(parent: QWidget, folder: Path) -> Path | None:
    """Ask for a job to open."""
    name, _ = QFileDialog.getOpenFileName(parent, "Open a job", str(folder), JOB_FILTER)
    return Path(name) if name else None


def ask_file(parent: QWidget, title: str, folder: Path, pattern: str) -> Path | None:
    """Ask for a file to read."""
    name, _ = QFileDialog.getOpenFileName(parent, title, str(folder), pattern)
    return Path(name) if name else None


def ask_save(parent: QWidget, suggestion: Path, title: str, pattern: str) -> Path | None:
    """Ask for a file to write."""
    name, _ = QFileDialog.getSaveFileName(parent, title, str(suggestion), pattern)
    return Path(name) if name else None

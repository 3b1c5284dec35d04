"""The few questions and sheets that stand in front of the window."""

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QFileDialog, QMessageBox, QPushButton, QVBoxLayout, QWidget

from bicentra.app.actions import key_sheet
from bicentra.app.widgets.plain import plain_label
from bicentra.study.recovery import Recovery
from bicentra.study.store import shown

JOB_FILTER = "Bicentra jobs (*.bicentra.json);;All files (*)"
SAVE, DISCARD, STAY = "save", "discard", "stay"
TAKE, LATER, OVER, OTHER_NAME = "take", "later", "over", "other name"


def show_keys(parent: QWidget) -> None:
    """Show every key."""
    dialog = QDialog(parent)
    dialog.setWindowTitle("All keys")
    column = QVBoxLayout(dialog)
    label = plain_label(key_sheet())
    label.setTextFormat(Qt.TextFormat.RichText)
    column.addWidget(label)
    close = QPushButton("Close")
    close.clicked.connect(dialog.accept)
    column.addWidget(close, 0, Qt.AlignmentFlag.AlignRight)
    dialog.exec()


def ask_unsaved(parent: QWidget, title: str) -> str:
    """Ask what to do with unsaved changes; returns ``SAVE``, ``DISCARD`` or ``STAY``."""
    box = _box(parent, "Unsaved changes")
    box.setText(f"“{title}” has changes that are not saved.")
    save = box.addButton("Save them", QMessageBox.ButtonRole.AcceptRole)
    leave = box.addButton("Give them up", QMessageBox.ButtonRole.DestructiveRole)
    stay = box.addButton("Stay here", QMessageBox.ButtonRole.RejectRole)
    box.setDefaultButton(save)
    box.setEscapeButton(stay)
    box.exec()
    clicked = box.clickedButton()
    return SAVE if clicked is save else DISCARD if clicked is leave else STAY


def ask_recover(parent: QWidget, found: Recovery) -> str:
    """Ask what to do with unsaved work that was left behind; returns ``TAKE``, ``DISCARD`` or ``LATER``."""
    box = _box(parent, "Unsaved work found")
    where = shown(found.path) if found.path else "never saved to a file"
    box.setText(
        f"Bicentra stopped while “{found.job.title or 'an untitled job'}” had changes that were not saved.\n\n"
        f"Kept {found.kept or 'at an unknown time'} · {where}"
    )
    take = box.addButton("Take them up again", QMessageBox.ButtonRole.AcceptRole)
    leave = box.addButton("Give them up", QMessageBox.ButtonRole.DestructiveRole)
    later = box.addButton("Later", QMessageBox.ButtonRole.RejectRole)
    box.setDefaultButton(take)
    box.setEscapeButton(later)
    box.exec()
    clicked = box.clickedButton()
    return TAKE if clicked is take else DISCARD if clicked is leave else LATER


def ask_changed(parent: QWidget, told: str) -> str:
    """Ask what to do when a job's file has been changed by somebody else; returns ``OVER``, ``OTHER_NAME`` or ``STAY``."""
    box = _box(parent, "The file has changed")
    box.setText(f"{told}. Writing over it loses what was changed there.")
    other = box.addButton("Save under another name…", QMessageBox.ButtonRole.AcceptRole)
    over = box.addButton("Write over it", QMessageBox.ButtonRole.DestructiveRole)
    stay = box.addButton("Stay here", QMessageBox.ButtonRole.RejectRole)
    box.setDefaultButton(other)
    box.setEscapeButton(stay)
    box.exec()
    clicked = box.clickedButton()
    return OTHER_NAME if clicked is other else OVER if clicked is over else STAY


def ask_over(parent: QWidget, path: Path) -> bool:
    """Ask whether a file that is there already may be written over."""
    box = _box(parent, "There is such a file")
    box.setText(f"{shown(path)} is there already.")
    over = box.addButton("Write over it", QMessageBox.ButtonRole.DestructiveRole)
    stay = box.addButton("Choose another name", QMessageBox.ButtonRole.RejectRole)
    box.setDefaultButton(stay)
    box.setEscapeButton(stay)
    box.exec()
    return box.clickedButton() is over


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

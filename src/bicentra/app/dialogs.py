"""The few questions and sheets that stand in front of the window."""

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QFileDialog, QLabel, QMessageBox, QPushButton, QVBoxLayout, QWidget

from bicentra.app.actions import key_sheet

JOB_FILTER = "Bicentra jobs (*.bicentra.json);;All files (*)"
SAVE, DISCARD, STAY = "save", "discard", "stay"


def show_keys(parent: QWidget) -> None:
    """Show every key."""
    dialog = QDialog(parent)
    dialog.setWindowTitle("All keys")
    column = QVBoxLayout(dialog)
    label = QLabel(key_sheet())
    label.setTextFormat(Qt.TextFormat.RichText)
    column.addWidget(label)
    close = QPushButton("Close")
    close.clicked.connect(dialog.accept)
    column.addWidget(close, 0, Qt.AlignmentFlag.AlignRight)
    dialog.exec()


def ask_unsaved(parent: QWidget, title: str) -> str:
    """Ask what to do with unsaved changes; returns ``SAVE``, ``DISCARD`` or ``STAY``."""
    box = QMessageBox(parent)
    box.setIcon(QMessageBox.Icon.Question)
    box.setWindowTitle("Unsaved changes")
    box.setText(f"“{title}” has changes that are not saved.")
    save = box.addButton("Save them", QMessageBox.ButtonRole.AcceptRole)
    leave = box.addButton("Give them up", QMessageBox.ButtonRole.DestructiveRole)
    stay = box.addButton("Stay here", QMessageBox.ButtonRole.RejectRole)
    box.setDefaultButton(save)
    box.setEscapeButton(stay)
    box.exec()
    clicked = box.clickedButton()
    return SAVE if clicked is save else DISCARD if clicked is leave else STAY


def ask_recover(parent: QWidget, title: str) -> bool:
    """Ask whether to take up unsaved work that was left behind."""
    box = QMessageBox(parent)
    box.setWindowTitle("Unsaved work found")
    box.setText(f"Bicentra stopped while “{title or 'an untitled job'}” had changes that were not saved.")
    take = box.addButton("Take them up again", QMessageBox.ButtonRole.AcceptRole)
    box.addButton("Give them up", QMessageBox.ButtonRole.DestructiveRole)
    box.setDefaultButton(take)
    box.exec()
    return box.clickedButton() is take


def tell(parent: QWidget, title: str, text: str) -> None:
    """Show a message that has to be read."""
    QMessageBox.information(parent, title, text)


def warn(parent: QWidget, title: str, text: str) -> None:
    """Show a fault that has to be read."""
    QMessageBox.warning(parent, title, text)


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

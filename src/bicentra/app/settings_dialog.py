"""The settings in one sheet: units, paper, currency, how large the text is, light or dark."""

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QDialog, QFormLayout, QLineEdit, QVBoxLayout, QWidget

from bicentra.app.papers import SHEETS
from bicentra.app.theme import TEXT_SIZES
from bicentra.app.widgets.basics import answer_row, choice_box
from bicentra.app.widgets.plain import plain_label

UNITS = {"mm": "Millimetres", "in": "Inches"}
LOOKS_NAMED = {"light": "Light", "dark": "Dark"}
LONGEST_CURRENCY = 8


class SettingsDialog(QDialog):
    """The sheet; nothing changes before *Use these*. ``units``: the open job's, which are kept with the job."""

    def __init__(self, parent: QWidget, settings: QSettings, units: str, look: str) -> None:
        super().__init__(parent)
        self.setWindowTitle("Settings")
        self.resize(460, 320)
        column, form = QVBoxLayout(self), QFormLayout()
        self.units = choice_box("Units of this job", UNITS, units)
        self.text = choice_box("Text size", TEXT_SIZES, str(settings.value("text", "1")))
        self.look = choice_box("Look", LOOKS_NAMED, look)
        self.paper = choice_box("Paper in the printer", SHEETS, str(settings.value("sheet", "")))
        self.currency = QLineEdit(str(settings.value("currency", "")))
        self.currency.setMaxLength(LONGEST_CURRENCY)
        self.currency.setPlaceholderText("shown after prices")
        self.currency.setAccessibleName("Currency")
        for editor in (self.units, self.text, self.look, self.paper):
            form.addRow(plain_label(editor.accessibleName()), editor)
        form.addRow(plain_label("Currency"), self.currency)
        column.addLayout(form)
        column.addStretch(1)
        answer_row(self, column, "Use these").clicked.connect(self.accept)

    def keep(self, settings: QSettings) -> None:
        """Write what is chosen, but for the units of the job, into ``settings``."""
        settings.setValue("text", self.text.currentData())
        settings.setValue("look", self.look.currentData())
        settings.setValue("sheet", self.paper.currentData())
        settings.setValue("currency", self.currency.text().strip())


def ask_settings(parent: QWidget, settings: QSettings, units: str, look: str) -> str | None:
    """Ask for the settings and keep them; returns the units chosen for the job, ``None`` when all stays as it is."""
    dialog = SettingsDialog(parent, settings, units, look)
    if dialog.exec() != QDialog.DialogCode.Accepted:
        return None
    dialog.keep(settings)
    return str(dialog.units.currentData())

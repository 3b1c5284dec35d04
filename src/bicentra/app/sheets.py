"""The sheets of the parts beside the bench: one open at a time, its button pressed, any field found by a word."""

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QToolButton, QVBoxLayout, QWidget

from bicentra.app.panels.panel import PANELS, Panel
from bicentra.core.base.wording import units_of
from bicentra.core.parts.job import Job

WIDE_PX = 284
BUTTONS = {"hub": "Hub", "knuckle": "Lugs", "rotor": "Rotor", "caliper": "Caliper", "bracket": "Plate", "job": "Job"}


class Sheets(QWidget):
    """Where the sheets lie. Each sheet's signals come out of here; ``job`` gives the job they show."""

    committed = Signal(str, object)
    structural = Signal(str, object)
    library_wanted = Signal(str)
    keep_wanted = Signal(str)

    def __init__(self, job: Callable[[], Job]) -> None:
        super().__init__()
        self._job = job
        self.made: dict[str, Panel] = {}
        self.setFixedWidth(WIDE_PX)
        self.hide()
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self.buttons = {name: self._button(name, title) for name, (title, _) in PANELS.items()}

    def _button(self, name: str, title: str) -> QToolButton:
        button = QToolButton()
        button.setText(BUTTONS[name])
        button.setCheckable(True)
        button.setToolTip(f"{title}: what was measured and chosen")
        button.setAccessibleName(f"Panel {title}")
        button.setFixedSize(74, 54)
        button.clicked.connect(lambda: self.show_sheet(name))
        return button

    def show_sheet(self, name: str) -> None:
        """Open the sheet called ``name``, or fold it away when it is open."""
        opened = self.made.get(name)
        folding = opened is not None and opened.isVisible()
        for sheet in self.made.values():
            sheet.hide()
        for key, button in self.buttons.items():
            button.setChecked(key == name and not folding)
        self.setVisible(not folding)
        if not folding:
            sheet = self.sheet(name)
            sheet.show()
            sheet.take_focus()

    def sheet(self, name: str) -> Panel:
        """Return a part's sheet with the job's values in it, made when it is first wanted."""
        sheet = self.made.get(name)
        if sheet is None:
            sheet = self.made[name] = Panel(name)
            for signal in ("committed", "structural", "library_wanted", "keep_wanted"):
                getattr(sheet, signal).connect(getattr(self, signal))
            sheet.hide()
            self._column.addWidget(sheet)
        job = self._job()
        sheet.show_job(job, units_of(job.display_units))
        return sheet

    def refresh(self) -> None:
        """Show the job as it stands on the sheet that is open."""
        for name, sheet in self.made.items():
            if sheet.isVisible():
                self.sheet(name)

    def refuse(self, path: str, message: str) -> None:
        """Say at the field of ``path``, where its sheet is open, why what was typed is not taken."""
        for sheet in self.made.values():
            if sheet.isVisible() and sheet.refuse(path, message):
                break

    def settled(self, path: str) -> None:
        """Take away what is said to be wrong at the field of ``path``."""
        for sheet in self.made.values():
            if path in sheet.boxes:
                sheet.boxes[path].refuse("")

    def label_of(self, path: str) -> str:
        """Return what the field of ``path`` is called; empty where no sheet has it."""
        return next((sheet.boxes[path].label for sheet in self.made.values() if path in sheet.boxes), "")

    def find_field(self, parent: QWidget) -> None:
        """Ask for a field by a word of its name, and go to it."""
        from bicentra.app.field_finder import FieldFinder

        sheets = {name: self.sheet(name) for name in PANELS}
        rows = [(f"{s.title}: {box.label}", name, path) for name, s in sheets.items() for path, box in s.boxes.items()]
        finder = FieldFinder(parent, rows)
        finder.chosen.connect(self.open_field)
        finder.open()

    def open_field(self, name: str, path: str) -> None:
        """Open a part's sheet with the keys in the field of ``path``."""
        if not self.sheet(name).isVisible():
            self.show_sheet(name)
        self.made[name].go_to(path)

"""The sheets of the parts beside the bench, and finding a field in them by a word of its name."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QObject, QPoint, Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QApplication,
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.panels.section import SHEETS
from bicentra.app.theme import Look
from bicentra.core.base.wording import units_of
from bicentra.study.document.study import Study

if TYPE_CHECKING:
    from bicentra.app.panels.panel import Panel
    from bicentra.app.panels.part_page import PartPage


MOST_SHOWN = 60


class FieldFinder(QDialog):
    """Every field by name, narrowed by what is typed. ``chosen`` carries the sheet and the key path of the field."""

    chosen = Signal(str, str)

    def __init__(self, parent: QWidget, fields: list[tuple[str, str, str]]) -> None:
        super().__init__(parent)
        self.setWindowTitle("Find a field")
        self.resize(460, 420)
        self._fields = fields
        self.words = QLineEdit()
        self.words.setPlaceholderText("a word of its name: bore, ear, stud …")
        self.words.setAccessibleName("Words of the field's name")
        self.words.textChanged.connect(self._narrow)
        self.words.returnPressed.connect(self._take)
        self.words.installEventFilter(self)
        self.list = QListWidget()
        self.list.setAccessibleName("Fields with these words")
        self.list.itemActivated.connect(self._take)
        column = QVBoxLayout(self)
        column.addWidget(self.words)
        column.addWidget(self.list)
        self._narrow("")

    def _narrow(self, text: str) -> None:
        words = text.lower().split()
        self.list.clear()
        found = [row for row in self._fields if all(word in row[0].lower() for word in words)]
        for label, sheet, path in found[:MOST_SHOWN]:
            item = QListWidgetItem(label)
            item.setData(Qt.ItemDataRole.UserRole, (sheet, path))
            self.list.addItem(item)
        self.list.setCurrentRow(0)

    def _take(self) -> None:
        item = self.list.currentItem()
        if item is not None:
            self.accept()
            self.chosen.emit(*item.data(Qt.ItemDataRole.UserRole))

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Up and down go through the list while words are typed."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()), 0)
            if step:
                self.list.setCurrentRow(min(max(self.list.currentRow() + step, 0), self.list.count() - 1))
                return True
        return super().eventFilter(watched, event)


WIDE_PX = 320
BOLT_WORDS = ("bolt", "washers", "shims", "nut")
"""In the key path of a field of the plate's sheet: the bolts are drawn for it."""
READY_MS = 400
"""Between two sheets that are made ahead: the hands come first [ms]."""

TAGS = {
    "hub": "hub", "wheel": "hub", "lug": "knuckle", "obstacle": "knuckle", "rotor": "rotor", "caliper": "caliper",
    "pad": "caliper", "ear": "caliper", "bleeder": "caliper", "bracket": "bracket",
}  # fmt: skip
"""On which sheet a part of a drawing is written down, by the first word of its tag."""


def sheet_of(tag: str) -> str:
    """Return the sheet of the part that drawings call ``tag``: bolts are on the plate's; empty where there is none."""
    words = tag.split("-")
    return "bracket" if "bolt" in words else TAGS.get(words[0], "")


class Sheets(QWidget):
    """Where the sheets lie, each with its part's drawing. ``turned``: one was opened, or folded away."""

    committed = Signal(str, object)
    structural = Signal(str, object)
    library_wanted = Signal(str)
    keep_wanted = Signal(str)
    turned = Signal(bool)

    def __init__(self, study: Callable[[], Study], look: Look) -> None:
        super().__init__()
        self._study, self._look = study, look
        self._page: PartPage | None = None
        self.made: dict[str, Panel] = {}
        self._focus = ""
        self.hide()
        self._row = row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        self._fields = QWidget()
        self._fields.setFixedWidth(WIDE_PX)
        self._column = QVBoxLayout(self._fields)
        self._column.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self._fields)
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.focusChanged.connect(self._focused)

    @property
    def page(self) -> "PartPage":
        """The drawing beside the fields, made when a sheet is first opened."""
        if self._page is None:
            from bicentra.app.panels.part_page import PartPage

            self._page = PartPage(self._look, self._study)
            self._page.committed.connect(self.committed)
            self._page.done.connect(self.fold)
            self._row.addWidget(self._page, 1)
        return self._page

    def fill_menu(self, menu: QMenu) -> None:
        """List the sheets, the open one ticked."""
        for name, (button, title) in SHEETS.items():
            action = menu.addAction(f"&{button}   –   {title}")
            action.setCheckable(True)
            action.setChecked(name == self.open)
            action.triggered.connect(lambda _checked=False, name=name: self.show_sheet(name))

    def ask(self, parent: QWidget) -> None:
        """Fold the open sheet away; with none open, offer them all: a letter opens one."""
        if self.open:
            self.fold()
            return
        menu = QMenu(parent)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.fill_menu(menu)
        menu.popup(parent.mapToGlobal(QPoint(110, 60)))
        menu.setActiveAction(menu.actions()[0])

    def open_for(self, tag: str) -> None:
        """Open the sheet of the part that a drawing calls ``tag``."""
        name = sheet_of(tag)
        if name and name != self.open:
            self.show_sheet(name)

    @property
    def open(self) -> str:
        """The name of the sheet that is open; empty where none is."""
        return (
            next((name for name, sheet in self.made.items() if not sheet.isHidden()), "") if not self.isHidden() else ""
        )

    def show_sheet(self, name: str) -> None:
        """Open the sheet called ``name``, or fold it away when it is open."""
        folding = self.open == name
        for sheet in self.made.values():
            sheet.hide()
        self.setVisible(not folding)
        if not folding:
            sheet = self.sheet(name)
            sheet.show()
            self._draw(name)
            if self.page.missing:
                sheet.go_to(self.page.missing[0])
            else:
                sheet.take_focus()
        self.turned.emit(not folding)

    def fold(self) -> None:
        """Fold the open sheet away, if there is one: the bench is in sight again."""
        if self.open:
            self.show_sheet(self.open)

    def sheet(self, name: str) -> "Panel":
        """Return a part's sheet with the job's values in it, made when it is first wanted."""
        sheet = self.made.get(name)
        if sheet is None:
            from bicentra.app.panels.panel import Panel

            sheet = self.made[name] = Panel(name)
            for signal in ("committed", "structural", "library_wanted", "keep_wanted"):
                getattr(sheet, signal).connect(getattr(self, signal))
            sheet.hide()
            self._column.addWidget(sheet)
        job = self._study().job
        sheet.show_job(job, units_of(job.display_units))
        return sheet

    def make_ready(self) -> None:
        """Make the drawing and every sheet that nobody has opened yet, one by one: each opens at once then."""
        name = next((name for name in SHEETS if name not in self.made), "")
        if self._page is None or name:
            _ = self.page if self._page is None else self.sheet(name)
            QTimer.singleShot(READY_MS, self.make_ready)

    def _draw(self, name: str) -> None:
        """Draw the part the sheet is about: of hub and plate the wheel or the bolts, while a field of theirs has the keys."""
        part = name
        if name == "hub" and self._focus.startswith("wheel.") and self._study().job.wheel:
            part = "wheel"
        elif name == "bracket" and any(word in self._focus for word in BOLT_WORDS):
            part = "bolts"
        self.page.setVisible(self.page.show_part(part, self.made[name]))

    def _focused(self, _before: QWidget | None, now: QWidget | None) -> None:
        """Light the dimension of the field that has the keys now."""
        name, box = self.open, now
        if not name:
            return
        from bicentra.app.widgets.fields import FieldBox

        while box is not None and not isinstance(box, FieldBox):
            box = box.parentWidget()
        if isinstance(box, FieldBox) and self.made[name].boxes.get(box.path) is box:
            self._focus = box.path
            self._draw(name)
            self.page.light(box.path)

    def dress(self, look: Look) -> None:
        """Show the drawing in ``look``."""
        self._look = look
        if self._page is not None:
            self._page.view_state.dress(look)

    def refresh(self) -> None:
        """Show the job as it stands on the sheet that is open."""
        name = self.open
        if name:
            self.sheet(name)
            self._draw(name)

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

        sheets = {name: self.sheet(name) for name in SHEETS}
        rows = [(f"{s.title}: {box.label}", name, path) for name, s in sheets.items() for path, box in s.boxes.items()]
        finder = FieldFinder(parent, rows)
        finder.chosen.connect(self.open_field)
        finder.open()

    def open_field(self, name: str, path: str) -> None:
        """Open a part's sheet with the keys in the field of ``path``."""
        if not self.sheet(name).isVisible():
            self.show_sheet(name)
        self.made[name].go_to(path)

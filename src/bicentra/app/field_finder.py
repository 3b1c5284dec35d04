"""Finding a field by a word of its name: type, arrow, Enter, and the keys are in the field."""

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

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

"""The tick list of a lock: what is there, what is not; a click goes to the field, or ticks what has been looked at."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from bicentra.app.widgets.plain import plain_label
from bicentra.core.trialfit.log import LockItem
from bicentra.core.trialfit.set_up import BEFORE_LOCK, INSPECTIONS

DONE, OPEN = "✓", "○"
PLACE = Qt.ItemDataRole.UserRole
LOOK = "look:"


class LockPage(QWidget):
    """``wanted`` carries the place of what was clicked, ``ticked`` an inspection and whether it has been made."""

    wanted = Signal(str)
    ticked = Signal(str, bool)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("desk")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        self.head = plain_label()
        self.head.setObjectName("group")
        self.head.setWordWrap(True)
        column.addWidget(self.head)
        self.list = TickList()
        self.list.setAccessibleName("What the lock needs")
        self.list.chosen.connect(self._choose)
        column.addWidget(self.list, 1)

    def show_needs(self, needs: tuple[LockItem, ...], checked: tuple[str, ...], locked: bool) -> None:
        """Show everything the lock needs, what is missing first, then what is looked at once; ``locked``: nothing is to
        change.
        """
        open_items = [item for item in needs if not item.done]
        row = self.list.currentRow()
        self.list.clear()
        many = len(open_items)
        text = "1 item to finish before locking" if many == 1 else f"{many} items to finish before locking"
        self.head.setText("Locked" if locked else text if many else "Everything the lock needs is there")
        for item in (*open_items, *(item for item in needs if item.done)):
            self.list.add(item.text, item.done, item.place)
        if needs:
            self.list.add_head("Look at this once before you lock it")
        for name in BEFORE_LOCK if needs else ():
            self.list.add(INSPECTIONS[name], name in checked, f"{LOOK}{name}")
        self.list.setEnabled(not locked)
        self.list.setCurrentRow(min(row, self.list.count() - 1))

    def _choose(self, item: QListWidgetItem) -> None:
        place = str(item.data(PLACE) or "")
        if place.startswith(LOOK):
            self.ticked.emit(place.removeprefix(LOOK), not item.text().startswith(DONE))
        elif place:
            self.wanted.emit(place)

    @property
    def text(self) -> str:
        """Everything the page says, for tests and screen readers."""
        return "\n".join([self.head.text(), *(self.list.item(row).text() for row in range(self.list.count()))])


class TickList(QListWidget):
    """A list whose rows are chosen by a click, Enter or the space bar."""

    chosen = Signal(QListWidgetItem)

    def __init__(self) -> None:
        super().__init__()
        self.setWordWrap(True)
        self.setSpacing(2)
        self.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.itemClicked.connect(self.chosen)

    def add(self, text: str, done: bool, place: str) -> None:
        """Add a row, ticked or open, that leads to ``place``."""
        item = QListWidgetItem(f"{DONE if done else OPEN}  {text[:1].upper()}{text[1:]}")
        item.setData(PLACE, place)
        self.addItem(item)

    def add_head(self, text: str) -> None:
        """Add a heading that cannot be chosen."""
        item = QListWidgetItem(text)
        item.setFlags(Qt.ItemFlag.NoItemFlags)
        self.addItem(item)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter and the space bar choose the row that has the keys."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space) and self.currentItem() is not None:
            self.chosen.emit(self.currentItem())
            return
        super().keyPressEvent(event)

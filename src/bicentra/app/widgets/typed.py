"""Fields that hold typed work, and the one way in which it is taken or dropped, whatever the field is.

Enter takes the value and goes to the next field of the same page, which is scrolled into sight with its text selected. Before
any action of the window, before it closes and before another job comes in, all its fields are asked, not only the one in use.
"""

from collections.abc import Callable, Iterator
from functools import partial

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QFocusEvent, QHideEvent, QKeyEvent
from PySide6.QtWidgets import QComboBox, QLineEdit, QPlainTextEdit, QScrollArea, QWidget
from shiboken6 import isValid

PAUSE_MS = 800
"""After this rest notes are taken while they are still being written: the recovery copy then holds them [ms]."""
ASKING = "asking"
"""Property of a field that asks (a filter, a search): what is typed in it is not part of the job."""
CHOICES = "choices"
"""Property of a page on which Enter stops at choices too."""
ENTER = (Qt.Key.Key_Return, Qt.Key.Key_Enter)
BY_HAND = (Qt.FocusReason.MouseFocusReason, Qt.FocusReason.ActiveWindowFocusReason, Qt.FocusReason.PopupFocusReason)


class TypedLine(QLineEdit):
    """A line that is taken with Enter or on leaving; Enter goes on to the next one of its page."""

    def __init__(self, text: str = "") -> None:
        super().__init__(text)
        self.textEdited.connect(lambda: self.mark(False))

    def mark(self, wrong: bool) -> None:
        """Show whether what stands here was refused."""
        mark_wrong(self, wrong)

    def taken(self) -> None:
        """What stands here has been taken."""
        self.setModified(False)
        self.mark(False)

    def show_text(self, text: str) -> None:
        """Show ``text``, unless something is being typed over it or was refused."""
        if not self.isModified() and not is_wrong(self) and self.text() != text:
            self.setText(text)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter takes the value; a line that was refused keeps the keys, its text selected."""
        super().keyPressEvent(event)
        if event.key() in ENTER and isValid(self):
            if is_wrong(self):
                self.selectAll()
            else:
                go_on_from(self)

    def focusInEvent(self, event: QFocusEvent) -> None:
        """Come into sight, with the text selected unless the mouse put the cursor somewhere."""
        super().focusInEvent(event)
        if event.reason() not in BY_HAND:
            self.selectAll()
            QTimer.singleShot(0, partial(bring_into_sight, self))


class NotesField(QPlainTextEdit):
    """Several lines of text. ``taken``: the text is to be taken, on leaving, after a pause, or because an action is next."""

    taken = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setTabChangesFocus(True)
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(PAUSE_MS)
        self._pause.timeout.connect(self.take)
        self.textChanged.connect(self._pause.start)

    def isModified(self) -> bool:
        """Whether something was typed since the text was last taken or shown."""
        return self.document().isModified()

    def setModified(self, modified: bool) -> None:
        """Say whether what stands here is still to be taken."""
        self.document().setModified(modified)

    def show_text(self, text: str) -> None:
        """Show ``text``, unless it stands here or is being written over."""
        if not self.isModified() and self.toPlainText() != text:
            self.setPlainText(text)

    def take(self) -> None:
        """Have the text taken, if anything was typed."""
        if self.isModified():
            self.setModified(False)
            self.taken.emit()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Take the text on leaving."""
        super().focusOutEvent(event)
        self.take()

    def hideEvent(self, event: QHideEvent) -> None:
        """Take the text when something else comes to the front."""
        super().hideEvent(event)
        self.take()


Typed = QLineEdit | NotesField


def is_wrong(line: QWidget) -> bool:
    """Tell whether a field says that what stands in it was refused."""
    return bool(line.property("wrong") == "true")


def mark_wrong(line: QWidget, wrong: bool) -> None:
    """Have a field show whether what stands in it was refused."""
    word = "true" if wrong else "false"
    if (line.property("wrong") or "false") != word:
        line.setProperty("wrong", word)
        line.style().unpolish(line)
        line.style().polish(line)


def bring_into_sight(line: QWidget) -> None:
    """Scroll whatever lies around ``line`` until it is seen, with the label over it."""
    if not isValid(line):
        return
    around = line.parentWidget()
    while around is not None:
        if isinstance(around, QScrollArea):
            around.ensureWidgetVisible(line, 20, 60)
        around = around.parentWidget()


def page_of(line: QWidget) -> QWidget:
    """Return the page whose fields Enter goes through: the scrolled area around ``line``, else all of its window."""
    around = line.parentWidget()
    while around is not None and not isinstance(around, QScrollArea) and not around.isWindow():
        around = around.parentWidget()
    return around if around is not None else line.window()


def go_on_from(line: QWidget) -> None:
    """Give the keys to the next line of the page in the order of the Tab key; at the last of them the text is selected.

    Where every field of the page waits for an answer (``CHOICES``) a choice is one of them.
    """
    page = page_of(line)
    kinds = (TypedLine, QComboBox) if page.property(CHOICES) else (TypedLine,)
    following = line.nextInFocusChain()
    while following is not None and following is not line:
        if (
            isinstance(following, kinds)
            and page.isAncestorOf(following)
            and following.isVisible()
            and following.isEnabled()
        ):
            following.setFocus(Qt.FocusReason.TabFocusReason)
            bring_into_sight(following)
            return
        following = following.nextInFocusChain()
    if isinstance(line, QLineEdit):
        line.selectAll()


def fields_below(root: QWidget, kept: Callable[[Typed], bool]) -> Iterator[Typed]:
    """Yield the fields of the same window below ``root`` of which ``kept`` is true, that with the keys first."""
    window = root.window()
    found: list[Typed] = [*root.findChildren(QLineEdit), *root.findChildren(NotesField)]
    for field in sorted(found, key=lambda one: not one.hasFocus()):
        if isValid(field) and field.window() is window and field.property(ASKING) is None and kept(field):
            yield field


def pending(field: Typed) -> bool:
    """Tell whether ``field`` holds something that was typed, not taken yet and not refused already."""
    return field.isModified() and field.isEnabled() and not is_wrong(field)


def take_typing(root: QWidget) -> None:
    """Take whatever is typed below ``root``, as Enter or leaving would; what cannot be taken stays in its field and says why."""
    for field in fields_below(root, lambda one: pending(one) or (one.hasFocus() and one.isModified())):
        take_from(field)


def take_from(field: Typed) -> None:
    """Take what is typed in one field."""
    if isinstance(field, NotesField):
        field.take()
        return
    field.returnPressed.emit()
    if isValid(field):
        field.editingFinished.emit()
    if isValid(field) and not is_wrong(field):
        field.setModified(False)


def drop_typing(root: QWidget) -> None:
    """Drop whatever is typed below ``root`` and not taken: another job comes in, and must not be given it."""
    for field in fields_below(root, lambda one: one.isModified() or is_wrong(one)):
        field.setModified(False)
        if isinstance(field, QLineEdit):
            field.setText("")
            mark_wrong(field, False)
            field.textEdited.emit("")
        else:
            field.setPlainText("")
            field.setModified(False)

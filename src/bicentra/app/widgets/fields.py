"""Fields of the panels, and one laid over a number of a drawing."""

from collections.abc import Callable
from functools import cached_property

from PySide6.QtCore import QEvent, QObject, QRectF, Qt, Signal
from PySide6.QtGui import QFocusEvent, QWheelEvent
from PySide6.QtWidgets import QComboBox, QLabel, QLineEdit, QVBoxLayout, QWidget

from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.typed import TypedLine, is_wrong, mark_wrong
from bicentra.core.base.errors import QuantityError
from bicentra.core.base.quantities import LENGTH, Kind, Units, bare_unit, edit_text, parse_quantity


class FieldBox(QWidget):
    """A label, an editor and, once something is wrong, one line that says what."""

    committed = Signal(str, object)

    def __init__(self, path: str, label: str, help_text: str) -> None:
        super().__init__()
        self.path, self.label = path, label
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 2, 0, 2)
        self._column.setSpacing(1)
        self.caption = plain_label(label)
        self.caption.setObjectName("faint")
        self.caption.setWordWrap(True)
        self._column.addWidget(self.caption)
        self.setToolTip(help_text)

    def _put(self, editor: QWidget) -> None:
        editor.setAccessibleName(self.label)
        self.caption.setBuddy(editor)
        self._column.addWidget(editor)
        self.setFocusProxy(editor)

    @cached_property
    def wrong(self) -> QLabel:
        """The line below the field, made when something is wrong for the first time."""
        line = plain_label()
        line.setObjectName("wrong")
        line.setWordWrap(True)
        self._column.addWidget(line)
        return line

    def refuse(self, message: str) -> None:
        """Say what is wrong below the field and leave its text as typed."""
        if not message and "wrong" not in self.__dict__:
            return
        self.wrong.setText(message[:1].upper() + message[1:])
        self.wrong.setVisible(bool(message))


class TextField(FieldBox):
    """Free text, committed with Enter or on leaving."""

    def __init__(self, path: str, label: str, help_text: str = "") -> None:
        super().__init__(path, label, help_text)
        self.editor = TypedLine()
        self._shown = ""
        self._value: object = None
        self._put(self.editor)
        self.editor.editingFinished.connect(self._finish)
        self.editor.textEdited.connect(lambda: self._mark(""))
        self.editor.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Escape puts back what the job holds."""
        if event.type() == QEvent.Type.KeyPress and event.key() == Qt.Key.Key_Escape:  # type: ignore[attr-defined]
            self.editor.setText(self._shown)
            self._mark("")
            return True
        return super().eventFilter(watched, event)

    def show_value(self, value: object, units: Units) -> None:
        """Show the job's value, unless something wrong or unfinished stands in the field."""
        text, self._value = self.format(value, units), value
        stands = self.editor.isModified() or is_wrong(self.editor)
        if self.editor.hasFocus() and self.editor.isModified():
            return
        if text == self._shown and (stands or self.editor.text() == text):
            return
        self._shown = text
        self.editor.setText(text)
        self._mark("")

    def format(self, value: object, units: Units) -> str:
        """Return the text for ``value``."""
        del units
        return "" if value is None else str(value)

    def read(self, text: str) -> object:
        """Return the value that ``text`` means. Raises ``QuantityError``."""
        return text

    def _finish(self) -> None:
        text = self.editor.text()
        if text == self._shown:
            return
        try:
            value = self.read(text)
        except QuantityError as error:
            self._mark(str(error))
            return
        self.editor.setModified(False)
        self.committed.emit(self.path, value)
        if (
            self.editor.text() == text and not is_wrong(self.editor) and value == self._value
        ):  # the same again, otherwise written
            self.editor.setText(self._shown)

    def refuse(self, message: str) -> None:
        """Mark the field, keep what was typed."""
        self._mark(message)

    def _mark(self, message: str) -> None:
        super().refuse(message)
        self.editor.mark(bool(message))


class QuantityField(TextField):
    """A number with its unit: ``12``, ``1/2 in``, ``80 thou``. Empty means not measured, where that is allowed."""

    def __init__(self, path: str, label: str, kind: Kind, help_text: str = "", whole: bool = False) -> None:
        super().__init__(path, label, help_text)
        self.kind, self.whole = kind, whole
        self._units: Units = "mm"
        self.editor.setPlaceholderText("chosen for you" if help_text.startswith("Empty: chosen") else "not measured")

    def format(self, value: object, units: Units) -> str:
        """Return the value with its unit."""
        self._units = units
        if not isinstance(value, int | float):
            return ""
        return str(value) if self.whole else edit_text(float(value), self.kind, units)

    def read(self, text: str) -> object:
        """Return the number, ``None`` for an empty field."""
        if not text.strip():
            return None
        value = parse_quantity(text, self.kind, bare_unit(self.kind, self._units))
        if self.whole and value != int(value):
            raise QuantityError(text, f"“{text.strip()}”", "a whole number")
        return int(value) if self.whole else value


class ListField(TextField):
    """Several numbers, separated by semicolons."""

    def __init__(self, path: str, label: str, kind: Kind, help_text: str = "", empty: object = ()) -> None:
        super().__init__(path, label, help_text)
        self.kind, self._empty = kind, empty
        self._units: Units = "mm"
        self.editor.setPlaceholderText("numbers with ; between them")

    def format(self, value: object, units: Units) -> str:
        """Return the numbers with their units, ``;`` between them."""
        self._units = units
        return "; ".join(edit_text(float(v), self.kind, units) for v in value) if isinstance(value, tuple) else ""

    def read(self, text: str) -> object:
        """Return the numbers in order."""
        parts = [part for part in text.split(";") if part.strip()]
        unit = bare_unit(self.kind, self._units)
        return tuple(parse_quantity(part, self.kind, unit) for part in parts) if parts else self._empty


class PointsField(TextField):
    """Points of two or three numbers in mm, ``x / y``, with semicolons between them, in order round the thing."""

    def __init__(self, path: str, label: str, help_text: str = "", numbers: int = 2) -> None:
        super().__init__(path, label, help_text)
        self._numbers = numbers
        one = " / ".join("xyz"[:numbers])
        self.editor.setPlaceholderText(f"{one}; {one} in mm")

    def format(self, value: object, units: Units) -> str:
        """Return the points as ``x / y``."""
        del units
        points = value if isinstance(value, tuple) else ()
        return "; ".join(" / ".join(f"{number:g}" for number in point) for point in points)

    def read(self, text: str) -> object:
        """Return the points in order."""
        points = []
        for part in (p for p in text.split(";") if p.strip()):
            numbers = part.split("/")
            if len(numbers) != self._numbers:
                example = " / ".join(("−40", "60", "12")[: self._numbers])
                raise QuantityError(text, f"“{part.strip()}”", f"points such as {example} with ; between them")
            points.append(tuple(parse_quantity(number, LENGTH) for number in numbers))
        return tuple(points)


class CalmCombo(QComboBox):
    """A choice that does not change when the page under it is scrolled."""

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Let the wheel through to the page unless the choice has been opened or focused."""
        if self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()


class ChoiceField(FieldBox):
    """One of a few words."""

    def __init__(self, path: str, label: str, choices: tuple[str, ...], help_text: str = "", none: str = "") -> None:
        super().__init__(path, label, help_text)
        self.editor = CalmCombo()
        if none:
            self.editor.addItem(none, None)
        for word in choices:
            plain = word if any(c.isdigit() for c in word) else word.replace("-", " ")
            self.editor.addItem(plain, word)
        self._put(self.editor)
        self.editor.activated.connect(lambda: self.committed.emit(self.path, self.editor.currentData()))

    def show_value(self, value: object, units: Units) -> None:
        """Show the job's value."""
        del units
        self.editor.setCurrentIndex(max(self.editor.findData(value), 0))
        self.refuse("")


ELSEWHERE = (Qt.FocusReason.ActiveWindowFocusReason, Qt.FocusReason.PopupFocusReason)
"""The keys went to another window, or to a menu of the field's own: what is typed stays."""


class FieldOver(QObject):
    """One field at a time, over whichever view asked for it."""

    def __init__(self, owner: QObject) -> None:
        super().__init__(owner)
        self.editor: QLineEdit | None = None

    def open(self, view: QWidget, rect: QRectF, text: str, name: str, take: Callable[[str], bool]) -> None:
        """Open the field over ``rect`` of ``view``; ``take`` is given what was typed and tells whether it was taken."""
        self.close()
        editor = QLineEdit(view)
        editor.setText(text)
        editor.setAccessibleName(name)
        editor.selectAll()
        wide = max(int(rect.width()) + 40, 130)
        left = min(max(int(rect.center().x()) - wide // 2, 4), view.width() - wide - 4)
        editor.setGeometry(left, int(rect.center().y()) - 16, wide, 32)
        editor.returnPressed.connect(lambda: self._enter(take))
        editor.installEventFilter(self)
        editor.show()
        editor.setFocus()
        self.editor = editor

    def _enter(self, take: Callable[[str], bool]) -> None:
        editor = self.editor
        if editor is None:
            return
        if take(editor.text()):
            self.close()
            return
        mark_wrong(editor, True)
        editor.selectAll()

    def close(self) -> None:
        """Take the field away, if there is one."""
        if self.editor is not None:
            editor, self.editor = self.editor, None
            editor.removeEventFilter(self)
            editor.hide()
            editor.deleteLater()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Escape, or going on to something else in the window, closes the field; another window in front does not."""
        if watched is self.editor and self.editor is not None:
            escape = event.type() == QEvent.Type.KeyPress and event.key() == Qt.Key.Key_Escape  # type: ignore[attr-defined]
            if escape or (isinstance(event, QFocusEvent) and event.lostFocus() and event.reason() not in ELSEWHERE):
                view = self.editor.parentWidget()
                self.close()
                if escape and view is not None:
                    view.setFocus()
                return True
        return super().eventFilter(watched, event)

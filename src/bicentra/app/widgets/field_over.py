"""A field laid over a number of a drawing: typed, Enter takes it, Escape or leaving lets it be."""

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, QRectF, Qt
from PySide6.QtGui import QFocusEvent
from PySide6.QtWidgets import QLineEdit, QWidget

from bicentra.app.widgets.typed import mark_wrong

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

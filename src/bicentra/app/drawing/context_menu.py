"""What a right click on a drawing offers: for the part and the number under the pointer, and for the sheet itself."""

from PySide6.QtCore import QMimeData, QPoint, QPointF
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QMenu

from bicentra.app.drawing.view import DrawingView
from bicentra.app.paint import label_rect
from bicentra.app.widgets.plain import plain_menu
from bicentra.study.papers.writing import svg_of


def offer(view: DrawingView, at: QPointF) -> QMenu:
    """Open the menu for what lies under ``at`` of ``view``; returns it, filled."""
    menu = QMenu(view)
    label, tag = view.label_at(at), view.feature_at(at)
    if label is not None:
        over = label_rect(label, view.origin())
        menu.addAction(plain_menu(f"Type over “{label.text}”"), lambda: view.typed_over.emit(label.edits, over))
    if tag:
        menu.addAction(plain_menu(f"Sheet of this part ({tag.replace('-', ' ')})"), lambda: view.opened.emit(tag))
        menu.addAction("Its findings", lambda: view.picked.emit(tag))
    if menu.actions():
        menu.addSeparator()
    menu.addAction("Show everything", view.fit_wanted.emit)
    menu.addAction("Copy the picture", lambda: copy_picture(view))
    menu.addAction("Copy as SVG, true to size", lambda: copy_svg(view))
    menu.popup(view.mapToGlobal(QPoint(int(at.x()), int(at.y()))))
    return menu


def copy_picture(view: DrawingView) -> None:
    """Put what is seen on the clipboard."""
    QGuiApplication.clipboard().setPixmap(view.grab())


def copy_svg(view: DrawingView) -> None:
    """Put the drawing on the clipboard as SVG, and as its text for what takes no pictures."""
    if view.drawing is None:
        return
    data, made = QMimeData(), svg_of(view.drawing, view.title)
    data.setData("image/svg+xml", made)
    data.setText(made.decode())
    QGuiApplication.clipboard().setMimeData(data)

"""The head of the window: what is open, which corner and how it stands, what may be printed."""

from collections.abc import Callable

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QAction, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QMenu,
    QStyle,
    QStyleOptionToolButton,
    QStylePainter,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.host import Host
from bicentra.app.papers import HEAD, paper_menu
from bicentra.app.theme import LIGHT, Look, colour
from bicentra.app.widgets.basics import ElidedLabel, menu_button
from bicentra.app.widgets.chassis import PLACES, ChassisView, corner_name
from bicentra.app.widgets.plain import tip
from bicentra.app.widgets.row import paint_mark
from bicentra.app.widgets.typed import take_typing
from bicentra.core.base.finding import Finding, Verdict
from bicentra.study.document.study import Study

PLAN_PX, MARK_PX, IDLE_MS, CARD_PX, SHEET_PX = (58, 34), 13.0, 1800, 136, 840
"""The small vehicle, its marks, after which rest the other corners are worked out, height of the cards, width of the sheet."""


class CornerSwitch(QToolButton):
    """The vehicle from above with the verdict's mark at every corner, and the corner's name; opens the sheet of all corners."""

    def __init__(self, host: Host, help: str) -> None:
        super().__init__()
        self._host = host
        self.look: Look = LIGHT
        self.setToolTip(help)
        self.sheet = QWidget(self, Qt.WindowType.Popup)
        self.sheet.setObjectName("desk")
        self.sheet.setMinimumWidth(SHEET_PX)
        self.sheet.setAccessibleName("All corners of the vehicle")
        column = QVBoxLayout(self.sheet)
        column.setContentsMargins(14, 0, 14, 8)
        self.chassis = ChassisView(CARD_PX)
        self.chassis.chosen.connect(self.go_to)
        self.chassis.changed.connect(self.update)
        column.addWidget(self.chassis)
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(IDLE_MS)
        self._rest.timeout.connect(self._look_at_all)
        self._seen: object = None
        self._worst: Verdict | None = None
        self.clicked.connect(self.open)

    def show_study(self, study: Study, look: Look) -> None:
        """Name the corner that is worked on, and say when its hub or knuckle is the other side's."""
        job = study.job
        if look is not self.look:
            self.look = look
            self.chassis.dress(look)
        text = f"{corner_name(job.corner).capitalize()}{' · borrowed' if job.borrowed else ''}"
        if text != self.text():
            self.setText(text)
            self.setAccessibleName(f"Corner: {text}")
        if study.vehicle is not self._seen:
            self._seen = study.vehicle
            self._rest.start()
            self.update()

    def show_worst(self, findings: tuple[Finding, ...]) -> None:
        """Mark the corner that is worked on with the worst of its ``findings``."""
        worst = min((f.verdict for f in findings), key=lambda v: v.rank, default=None)
        if worst is not self._worst:
            self._worst = worst
            self.update()

    def forget(self) -> None:
        """Another job is open: nothing is known of its other corners yet."""
        self.chassis.forget()

    def _look_at_all(self) -> None:
        if self.isVisible():
            self.chassis.show_study(self._host.study)

    def verdict_at(self, corner: str) -> Verdict | None:
        """Return the worst verdict of a corner as far as it has been worked out; ``None`` where nothing is known."""
        if corner == self._host.study.job.corner:
            return self._worst
        card = self.chassis.corners.get(corner)
        return card.verdict if card is not None else None

    def open(self) -> None:
        """Show all corners below the button."""
        self.chassis.show_study(self._host.study)
        self.sheet.adjustSize()
        corner = self.mapToGlobal(QPoint(self.width() - self.sheet.width(), self.height() + 2))
        window = self.window()
        left = window.mapToGlobal(QPoint(0, 0)).x()
        self.sheet.move(max(corner.x(), left + 4), corner.y())
        self.sheet.show()
        self.chassis.cards[self._host.study.job.corner].setFocus()

    def go_to(self, corner: str) -> None:
        """Work on another corner, on every bench."""
        self.sheet.hide()
        if isinstance(self._host, QWidget):
            take_typing(self._host)
        self._host.study.go_to(corner)
        self._host.fit()

    def to_next(self) -> None:
        """Go round the corners that something is known of."""
        study = self._host.study
        known = [name for name, text in study.corners if text != "nothing yet"]
        if study.job.corner in known:
            self.go_to(known[(known.index(study.job.corner) + 1) % len(known)])

    def sizeHint(self) -> QSize:
        """Return the size it wants: the small vehicle beside the name."""
        wide = self.fontMetrics().horizontalAdvance(self.text())
        return QSize(wide + PLAN_PX[0] + 26, max(super().sizeHint().height(), PLAN_PX[1] + 4))

    def minimumSizeHint(self) -> QSize:
        """Return the size below which it is not squeezed."""
        return self.sizeHint()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the button, the vehicle with the marks of its corners, the name."""
        del event
        option = QStyleOptionToolButton()
        self.initStyleOption(option)
        option.text = ""
        painter = QStylePainter(self)
        painter.drawComplexControl(QStyle.ComplexControl.CC_ToolButton, option)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._paint_vehicle(painter, QRectF(8, (self.height() - PLAN_PX[1]) / 2, *PLAN_PX))
        painter.setPen(colour(self.look.text))
        words = QRectF(PLAN_PX[0] + 16, 0, self.width() - PLAN_PX[0] - 20, self.height())
        painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, self.text())

    def _paint_vehicle(self, painter: QPainter, place: QRectF) -> None:
        look, middle = self.look, place.center().x()
        painter.setPen(QPen(colour(look.faint), 1.4))
        painter.setBrush(colour(look.card))
        painter.drawRoundedRect(QRectF(middle - 7, place.top(), 14, place.height()), 6, 6)
        nose = [
            QPointF(middle - 3, place.top() + 9),
            QPointF(middle, place.top() + 5),
            QPointF(middle + 3, place.top() + 9),
        ]
        painter.drawPolyline(nose)
        for name, (row, column) in PLACES.items():
            x = middle + (10.0 if column else -10.0 - MARK_PX)
            y = place.top() + (1.0 if row == 0 else place.height() - MARK_PX - 1.0)
            box = QRectF(x, y, MARK_PX, MARK_PX)
            if name == self._host.study.job.corner:
                painter.setPen(QPen(colour(look.accent), 1.6))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRoundedRect(box.adjusted(-2.5, -2.5, 2.5, 2.5), 3, 3)
            verdict = self.verdict_at(name)
            if verdict is None:
                painter.setPen(QPen(colour(look.faint), 1.4))
                painter.drawLine(box.center() - QPointF(3, 0), box.center() + QPointF(3, 0))
            else:
                paint_mark(painter, box, verdict.value, colour(look.verdict(verdict.value)), colour(look.card))


BUTTONS = {"undo": "Undo", "redo": "Redo", "units": "mm", "fit": "Fit", "best_clock": "Best clock", "shop": "Desk"}
FEW = ("undo", "fit", "shop")
"""What stays at the head in the shop view."""
SPARED, NARROW_PX = ("fit", "best_clock"), 1100
"""What is left to its keys and the menu in a head narrower than this [px]."""
JOB = ("new", "open", "demo", "practice", "save", "save_as", "history", "settings", "start", "quit")
Fill = Callable[[QMenu], None]


class Header(QWidget):
    """The head. ``fill_recent``, ``fill_examples`` and ``fill_sheets`` fill their menus each time they are opened."""

    def __init__(
        self,
        actions: dict[str, QAction],
        corners: CornerSwitch,
        fill_recent: Fill,
        fill_examples: Fill,
        fill_sheets: Fill,
    ) -> None:
        super().__init__()
        self._actions, self._corners = actions, corners
        self._few = self._narrow = False
        self._bench = "lineup"
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        self.recent = QMenu("Recent jobs", self)
        self.recent.aboutToShow.connect(lambda: fill_recent(self.recent))
        self.examples = QMenu("Examples", self)
        fill_examples(self.examples)
        row.addWidget(self._menu("Job", JOB, (self.examples, self.recent)))
        self.title = ElidedLabel()
        self.title.setObjectName("head")
        row.addWidget(self.title, 1)
        self._tools = QWidget()
        tools = QHBoxLayout(self._tools)
        tools.setContentsMargins(0, 0, 0, 0)
        tools.setSpacing(6)
        tools.addWidget(corners)
        self.buttons = {name: self._button(name, text) for name, text in BUTTONS.items()}
        for button in self.buttons.values():
            tools.addWidget(button)
        self._menus = (
            menu_button("Sheets  ↓", actions["sheets"].toolTip(), fill_sheets),
            self._menu("Print and export", ("print", *paper_menu())),
        )
        for menu in self._menus:
            tools.addWidget(menu)
        row.addWidget(self._tools)
        row.addWidget(self._menu("?", ("help", "keys", "fit", "best_clock", "units", "look", "shop", "about")))

    def _button(self, name: str, text: str) -> QToolButton:
        button = QToolButton()
        button.setText(text)
        button.setToolTip(self._actions[name].toolTip())
        button.setAccessibleName(self._actions[name].text())
        button.clicked.connect(self._actions[name].trigger)
        return button

    def _menu(self, text: str, names: tuple[str | tuple[str, ...], ...], lists: tuple[QMenu, ...] = ()) -> QToolButton:
        button = QToolButton()
        button.setText(f"{text}  ↓")
        button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(button)
        menu.setToolTipsVisible(True)
        for name in names:
            if isinstance(name, str) and name.startswith(HEAD):
                menu.addSeparator()
                menu.addAction(name.removeprefix(HEAD)).setEnabled(False)  # a style sheet hides a section's own title
                continue
            if isinstance(name, tuple):
                below = menu.addMenu(name[0])
                below.setToolTipsVisible(True)
                below.addActions([self._actions[one] for one in name[1:]])
                continue
            menu.addAction(self._actions[name])
            for more in lists if name == "demo" else ():
                menu.addMenu(more)
        button.setMenu(menu)
        return button

    def show_tools(self, there: bool) -> None:
        """Show or hide what needs a job: nothing of it stands above the start sheet."""
        self._tools.setVisible(there)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Leave what keys and menus have too to them where there is little room: the job's name and the corner go first."""
        super().resizeEvent(event)
        self._narrow = self.width() < NARROW_PX
        self._menus[1].setText("Print  ↓" if self._narrow else "Print and export  ↓")
        self._show_buttons()

    def show_bench(self, name: str) -> None:
        """Show what the bench called ``name`` has use for."""
        self._bench = name
        self._show_buttons()

    def _show_buttons(self) -> None:
        for name, button in self.buttons.items():
            there = name in FEW if self._few else name != "shop" and not (self._narrow and name in SPARED)
            button.setVisible(there and (name != "best_clock" or self._bench == "lineup"))

    def show_few(self, few: bool) -> None:
        """Show only what is used in the shop, or everything."""
        self._few = few
        self._show_buttons()
        for menu in self._menus:
            menu.setVisible(not few)

    def show_study(self, study: Study, look: Look) -> str:
        """Show what is open and what undo and redo would do; returns the title of the window."""
        job = study.job
        name = job.title or "Untitled job"
        mark = "• " if study.modified else ""
        where = f" · {study.path.name}" if study.path else " · not saved yet"
        title = f"{mark}{name}{where}"
        self._corners.show_study(study, look)
        if title != self.title.text():  # a label lays out the whole header again even for the same text
            self.title.setText(title)
            self.title.setToolTip(tip(title + ("" if not study.modified else "\n• unsaved changes")))
        for key, label in (("undo", study.undo_label), ("redo", study.redo_label)):
            self.buttons[key].setEnabled(bool(label))
            self.buttons[key].setToolTip(tip(f"{key.capitalize()}: {label}") if label else f"Nothing to {key}")
        self.buttons["units"].setText("mm" if job.display_units == "mm" else "inch")
        return f"{mark}{name} – Bicentra"

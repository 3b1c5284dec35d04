"""The head of the window: what is open, which corner, what is done to all of it, what may be taken away."""

from collections.abc import Callable

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QHBoxLayout, QMenu, QToolButton, QWidget

from bicentra.app.corners import CornerSwitch
from bicentra.app.papers import HEAD, paper_menu
from bicentra.app.theme import Look
from bicentra.app.widgets.elided_label import ElidedLabel
from bicentra.app.widgets.menus import menu_button
from bicentra.app.widgets.plain import tip
from bicentra.study.document.study import Study

BUTTONS = {"undo": "Undo", "redo": "Redo", "units": "mm", "fit": "Fit", "best_clock": "Best clock", "shop": "Desk"}
FEW = ("undo", "fit", "shop")
"""What stays at the head in the shop view."""
JOB = ("new", "open", "demo", "practice", "save", "save_as", "history", "start", "quit")
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
        self.buttons["shop"].hide()  # the way back from the shop view; the way there is a key and a menu
        self._menus = (
            menu_button("Sheets  ↓", actions["sheets"].toolTip(), fill_sheets),
            self._menu("Print and export", ("print", *paper_menu())),
        )
        for menu in self._menus:
            tools.addWidget(menu)
        row.addWidget(self._tools)
        row.addWidget(self._menu("?", ("help", "keys", "look", "shop", "about")))

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

    def show_few(self, few: bool) -> None:
        """Show only what is used in the shop, or everything."""
        for name, button in self.buttons.items():
            button.setVisible(name in FEW if few else name != "shop")
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

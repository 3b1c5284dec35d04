"""The parts bench: compare parts laid side by side, or find the set that fits."""

from pathlib import Path

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QHBoxLayout, QMenu, QStackedWidget, QToolButton, QVBoxLayout

from bicentra.app import dialogs
from bicentra.app.bench import Bench
from bicentra.app.parts import table_dialog
from bicentra.app.parts.compare import ComparePage
from bicentra.app.parts.find import FindPage
from bicentra.app.theme import Look
from bicentra.app.widgets.basics import select_tab, tab_row
from bicentra.core.base.errors import BicentraError
from bicentra.core.search.run import FoundSet
from bicentra.study.desks.parts import PartsDesk
from bicentra.study.document.study import Study
from bicentra.study.library.library import own_folder, whole_library
from bicentra.study.library.tables import KINDS, open_table, write_table

PAGES = (("compare", "Compare on the bench"), ("find", "Find a set that fits"))


class PartsBench(Bench):
    """Two pages. Changes go to the study; ``refused`` carries a message when one is not taken."""

    def __init__(self, look: Look, settings: QSettings) -> None:
        super().__init__(look, settings)
        self.desk: PartsDesk | None = None
        self.compare, self.finder = ComparePage(self.view_state), FindPage(look)
        self.pages = QStackedWidget()
        self.pages.addWidget(self.compare)
        self.pages.addWidget(self.finder)
        column, self._top = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        self._top.setSpacing(6)
        self.tabs = tab_row(self._top, PAGES, self.show_page)
        self._top.addStretch(1)
        self._top.addWidget(self._library_menu())
        column.addLayout(self._top)
        column.addWidget(self.pages, 1)
        self.compare.wanted.connect(self.change)
        self.compare.view.opened.connect(self.sheet_wanted)
        self.finder.refused.connect(self.refused)
        self.finder.changed.connect(self.changed)
        self.finder.taken.connect(self._take)
        self.finder.laid.connect(self._lay)
        self.show_page("compare")

    def _library_menu(self) -> QToolButton:
        button = QToolButton()
        button.setText("From the library…")
        button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(button)
        menu.addAction("Import a table of parts (CSV)…").triggered.connect(self.take_table)
        write = menu.addMenu("Write a table of parts (CSV)")
        for kind in KINDS:
            words = kind.replace("_", " ")
            write.addAction(f"Every {words}…").triggered.connect(
                lambda _checked=False, kind=kind: self.write_table(kind)
            )
        button.setMenu(menu)
        return button

    def take_table(self) -> None:
        """Ask for a table of parts and take it into the user's library."""
        path = dialogs.ask_file(self, "Import a table of parts", Path.home(), "Tables (*.csv);;All files (*)")
        if path is None or self.desk is None:
            return
        try:
            table = open_table(path)
            written = table_dialog.ask_take_in(self, table, whole_library(), own_folder(), self.desk.lengths)
        except BicentraError as error:
            self.refused.emit("", str(error))
            return
        if written:
            self.desk.read_anew()
            self.finder.show_desk(self.desk)
            self.message.emit(f"Imported into your library: {len(written)} parts")

    def write_table(self, kind: str) -> None:
        """Ask for a name and write every part of ``kind`` to a table, in the units shown."""
        path = dialogs.ask_save(self, Path.home() / f"{kind}s.csv", "Write a table of parts", "Tables (*.csv)")
        if path is None or self.desk is None:
            return
        try:
            count = write_table(self.desk.library, kind, self.desk.lengths.units, path)
        except BicentraError as error:
            self.refused.emit("", str(error))
        else:
            self.message.emit(f"Written: {path}, {count} parts")

    def show_page(self, name: str) -> None:
        """Show the page called ``name``: compare or find."""
        self.pages.setCurrentWidget(self.finder if name == "find" else self.compare)
        select_tab(self.tabs, name)
        self.refresh()
        self.changed.emit()

    @property
    def finding(self) -> bool:
        """Whether the search is in front."""
        return self.pages.currentWidget() is self.finder

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on."""
        self.desk = PartsDesk(study)
        self.compare.show_desk(self.desk)
        self.finder.show_desk(self.desk)

    def refresh(self) -> None:
        """Show the study as it stands."""
        self.compare.currency = str(self.settings.value("currency", ""))
        if self.finding:
            self.finder.look_anew()
        else:
            self.compare.refresh()

    def fit(self) -> None:
        """Show the whole bench."""
        self.compare.fit()

    def dress(self, look: Look) -> None:
        """Show the bench in ``look``."""
        super().dress(look)
        self.compare.dress(look)
        self.finder.dress(look)

    @property
    def needs_hub(self) -> str:
        """What of hub and knuckle has to be measured before any part can be tried on them, in words; empty where all is there."""
        return self.desk.needs_hub if self.desk is not None else ""

    def next_sentence(self) -> str:
        """Return what to do next here."""
        if self.needs_hub:
            return f"Measure what the parts go on first: {self.needs_hub}."
        if not self.finding:
            return "Look through the library for sets that fit this hub and knuckle."
        if self.finder.running:
            return "Searching… you can stop any time."
        if self.finder.chosen is None:
            return "Set the filters, then search."
        return f"Open the line-up of {self.finder.chosen.name}."

    def do_next(self) -> None:
        """Do what the sentence says."""
        if self.needs_hub:
            self.bench_wanted.emit("lineup")
        elif not self.finding:
            self.show_page("find")
        elif self.finder.running:
            self.finder.stop()
        elif self.finder.chosen is None:
            self.finder.start()
        else:
            self._take(self.finder.chosen)

    def let_go(self) -> None:
        """Stop the search: the window is closing."""
        self.finder.stop()

    def take_focus(self) -> None:
        """Give the keyboard to what is used first on the page in front."""
        self.fit()
        (self.finder.go if self.finding else self.compare.view).setFocus()

    def change(self, label: str, edits: tuple[tuple[str, object], ...]) -> bool:
        """Carry out ``edits`` as one step; a refusal is passed on."""
        if self.desk is None:
            return False
        try:
            self.desk.study.edit(label, edits)
        except BicentraError as error:
            self.refused.emit(getattr(error, "path", ""), str(error))
            return False
        self.compare.lay(None)
        return True

    def _take(self, found: FoundSet) -> None:
        if self.desk is None:
            return
        label, edits = self.desk.take(found)
        if not edits or self.change(label, edits):
            self.bench_wanted.emit("lineup")

    def _lay(self, found: FoundSet) -> None:
        self.show_page("compare")
        self.compare.lay(found.job)

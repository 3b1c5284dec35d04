"""The start sheet: the jobs worked on last, each with its corner and what is open, and ways to begin."""

from functools import partial
from pathlib import Path

from PySide6.QtCore import QSettings, Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from bicentra.app import workers
from bicentra.app.bench import Bench
from bicentra.app.theme import Look
from bicentra.app.widgets.basics import menu_button, scrolled
from bicentra.app.widgets.picture_card import PictureCard
from bicentra.app.widgets.plain import plain_label
from bicentra.study.document.cover import RecentJob, recent_job
from bicentra.study.document.starting import EXAMPLES
from bicentra.study.document.store import recent_files

WAYS = (
    ("new", "New job", "Five questions, all optional"),
    ("open", "Open a job…", "A file on this computer"),
    ("demo", "Open the demo", "A small electric delivery float, drum to disc"),
    ("practice", "Practice", "A simulated corner with something hidden in it"),
)
TALL_PX = 64


class StartBench(Bench):
    """The sheet. ``called`` carries the name of an action, ``example_wanted`` an example's, ``file_wanted`` the path of a job."""

    called = Signal(str)
    example_wanted = Signal(str)
    file_wanted = Signal(object)

    def __init__(self, look: Look, settings: QSettings) -> None:
        super().__init__(look, settings)
        self.cards: list[PictureCard] = []
        self._task: workers.Task | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(40, 30, 40, 20)
        row.setSpacing(40)
        left = QVBoxLayout()
        left.setSpacing(12)
        head = plain_label("Bicentra")
        head.setObjectName("title")
        left.addWidget(head)
        text = plain_label("Calipers and rotors on hubs that were never meant for them: measured, lined up, made.")
        text.setWordWrap(True)
        left.addWidget(text)
        self.ways: dict[str, QPushButton] = {}
        for name, title, help_text in WAYS:
            button = QPushButton(f"{title}\n{help_text}")
            button.setObjectName("primary" if name == "new" else "way")
            button.setMinimumHeight(TALL_PX)
            button.setAccessibleName(f"{title}: {help_text}")
            button.clicked.connect(lambda _checked=False, name=name: self.called.emit(name))
            self.ways[name] = button
            left.addWidget(button)
        self.examples = menu_button("Examples  ↓\nOne for each kind of job", "Opens a copy of one", self._list_examples)
        self.examples.setObjectName("way")
        self.examples.setMinimumHeight(TALL_PX)
        self.examples.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.examples.setAccessibleName("Examples: one for each kind of job")
        left.addWidget(self.examples)
        left.addStretch(1)
        caution = plain_label("Brakes can kill. Have design and work checked by someone qualified; follow local rules.")
        caution.setObjectName("faint")
        caution.setWordWrap(True)
        left.addWidget(caution)
        row.addLayout(left, 3)
        row.addLayout(self._build_recent(), 5)

    def _build_recent(self) -> QVBoxLayout:
        column = QVBoxLayout()
        head = plain_label("Recent jobs")
        head.setObjectName("head")
        column.addWidget(head)
        self._host = QWidget()
        self._host.setObjectName("desk")
        self._rows = QVBoxLayout(self._host)
        self._rows.setContentsMargins(0, 0, 6, 0)
        self._rows.setSpacing(8)
        self.none = plain_label(
            "Nothing yet. A new job takes ten sizes until its plate appears; the demo shows one that is done."
        )
        self.none.setWordWrap(True)
        self._rows.addWidget(self.none)
        self._rows.addStretch(1)
        area = scrolled(self._host)
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setAccessibleName("Recent jobs")
        column.addWidget(area, 1)
        return column

    def _list_examples(self, menu: QMenu) -> None:
        for name, text in EXAMPLES.items():
            menu.addAction(text).triggered.connect(lambda _checked=False, name=name: self.example_wanted.emit(name))

    def read(self) -> None:
        """Read the recent jobs again, beside the window."""
        for card in self.cards:
            self._rows.removeWidget(card)
            card.hide()
            card.deleteLater()
        self.cards = []
        paths = recent_files()
        self.none.setVisible(not paths)
        for path in paths:
            self._rows.insertWidget(len(self.cards), self._card(path))
        if paths:
            self._task = workers.Task("Recent jobs", partial(_read, paths))
            self._task.signals.finished.connect(self._show)
            workers.start(self._task)

    def _card(self, path: Path) -> PictureCard:
        card = PictureCard()
        card.setCheckable(False)
        card.dress(self.view_state.look)
        card.show_words(path.name, (str(path.parent),), None, None)
        card.clicked.connect(lambda: self.file_wanted.emit(path))
        self.cards.append(card)
        return card

    def _show(self, found: object) -> None:
        if not isinstance(found, tuple) or len(found) != len(self.cards):
            return
        for card, job in zip(self.cards, found):
            if isinstance(job, RecentJob):
                _fill(card, job)

    def dress(self, look: Look) -> None:
        """Show the sheet in ``look``."""
        super().dress(look)
        for card in self.cards:
            card.dress(look)

    def take_focus(self) -> None:
        """Give the keys to the first way to begin: the job worked on last, where there is one."""
        (self.cards[0] if self.cards else self.ways["new"]).setFocus()

    def let_go(self) -> None:
        """Stop reading: the window is closing."""
        if self._task is not None:
            self._task.cancel()


def _read(paths: tuple[Path, ...], task: workers.Task) -> tuple[RecentJob, ...]:
    return tuple(recent_job(path) for path in paths if not task.cancelled)


def _fill(card: PictureCard, job: RecentJob) -> None:
    where = " · ".join(part for part in (job.date, str(job.path.parent)) if part)
    if job.corner is None:
        card.show_words(job.title, ("Cannot be used", where, job.fault), None, None)
        return
    corner = job.corner
    lines = (f"{corner.name.replace('-', ' ').capitalize()}: {corner.text}", where, f"Next: {corner.step}")
    card.show_words(job.title, lines, corner.verdict, corner.picture, corner.left)

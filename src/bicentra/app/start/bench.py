"""The start sheet: the jobs worked on last, each with its corner and what is open, and ways to begin."""

from functools import partial
from pathlib import Path

from PySide6.QtCore import QSettings, Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from bicentra.app import workers
from bicentra.app.bench import Bench
from bicentra.app.theme import Look
from bicentra.app.widgets.basics import scrolled
from bicentra.app.widgets.picture_card import TILE_PX, PictureCard, PictureTile
from bicentra.app.widgets.plain import plain_label
from bicentra.core.drawing.model import Drawing
from bicentra.study.document.cover import RecentJob, example_picture, recent_job
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
        self._pictured: workers.Task | None = None
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
        left.addStretch(1)
        caution = plain_label("Brakes can kill. Have design and work checked by someone qualified; follow local rules.")
        caution.setObjectName("faint")
        caution.setWordWrap(True)
        left.addWidget(caution)
        row.addLayout(left, 3)
        right = QVBoxLayout()
        right.setSpacing(10)
        right.addLayout(self._build_recent(), 3)
        right.addLayout(self._build_examples(), 2)
        row.addLayout(right, 6)

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

    def _build_examples(self) -> QVBoxLayout:
        """A tile for each kind of job that an example shows."""
        column, host = QVBoxLayout(), QWidget()
        column.setSpacing(6)
        head = plain_label("Examples, one for each kind of job")
        head.setObjectName("head")
        column.addWidget(head)
        host.setObjectName("desk")
        row = QHBoxLayout(host)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        self.tiles: dict[str, PictureTile] = {}
        for name, text in EXAMPLES.items():
            tile = PictureTile()
            tile.setCheckable(False)
            tile.setFixedSize(*TILE_PX)
            tile.dress(self.view_state.look)
            tile.show_words(text, (), None, None)
            tile.setToolTip(f"Opens a copy: {text}")
            tile.clicked.connect(lambda _checked=False, name=name: self.example_wanted.emit(name))
            row.addWidget(tile)
            self.tiles[name] = tile
        area = QScrollArea()
        area.setWidget(host)
        area.setWidgetResizable(True)
        area.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setFixedHeight(TILE_PX[1] + 18)
        area.setAccessibleName("Examples")
        column.addWidget(area)
        return column

    def _picture_tiles(self) -> None:
        """Have the examples' pictures drawn beside the window, once, after the recent jobs."""
        if self._pictured is None:
            self._pictured = workers.Task("Pictures of the examples", _pictures)
            self._pictured.signals.finished.connect(self._show_pictures)
            workers.start(self._pictured)

    def _show_pictures(self, found: object) -> None:
        if isinstance(found, dict):
            for name, (drawing, left) in found.items():
                self.tiles[name].show_words(EXAMPLES[name], (), None, drawing, left)

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
        else:
            self._picture_tiles()

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
        self._picture_tiles()

    def dress(self, look: Look) -> None:
        """Show the sheet in ``look``."""
        super().dress(look)
        for card in (*self.cards, *self.tiles.values()):
            card.dress(look)

    def take_focus(self) -> None:
        """Give the keys to the first way to begin: the job worked on last, where there is one."""
        (self.cards[0] if self.cards else self.ways["new"]).setFocus()

    def let_go(self) -> None:
        """Stop reading: the window is closing."""
        for task in (self._task, self._pictured):
            if task is not None:
                task.cancel()


def _read(paths: tuple[Path, ...], task: workers.Task) -> tuple[RecentJob, ...]:
    return tuple(recent_job(path) for path in paths if not task.cancelled)


def _pictures(task: workers.Task) -> dict[str, tuple[Drawing | None, bool]]:
    return {name: example_picture(name) for name in EXAMPLES if not task.cancelled}


def _fill(card: PictureCard, job: RecentJob) -> None:
    where = " · ".join(part for part in (job.date, str(job.path.parent)) if part)
    if job.corner is None:
        card.show_words(job.title, ("Cannot be used", where, job.fault), None, None)
        return
    corner = job.corner
    lines = (f"{corner.name.replace('-', ' ').capitalize()}: {corner.text}", where, f"Next: {corner.step}")
    card.show_words(job.title, lines, corner.verdict, corner.picture, corner.left)

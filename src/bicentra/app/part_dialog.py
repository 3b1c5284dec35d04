"""Parts of the library: choosing one, taking it into the job, keeping one there."""

from html import escape
from typing import Any

from PySide6.QtCore import QObject, Qt
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.drawing.fit import show_whole
from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.host import Host
from bicentra.app.theme import LOOKS
from bicentra.app.widgets.basics import scrolled
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.rich_text import heads
from bicentra.core.base.errors import BicentraError
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.views.item import item_view
from bicentra.core.parts.library import Difference, Item, Part, differences, part_kind_of
from bicentra.core.parts.wheel import Wheel
from bicentra.study.library.library import Library, keep_part, whole_library

ROOM_PX, VIEW_PX, SHIPPED_CURRENCY = (1020, 660), 260, "coins"
"""Size of the dialog, least height of the picture [px]; what the shipped library's invented prices are in."""


class LibraryDialog(QDialog):
    """The parts of one kind, found by any word of their name; the chosen one beside the job's own."""

    def __init__(self, parent: QWidget, library: Library, now: Item, lengths: LengthFormat) -> None:
        super().__init__(parent)
        self._kind = part_kind_of(now)
        self.setWindowTitle(f"Library: {self._kind}s")
        self.resize(*ROOM_PX)
        self._now, self._lengths = now, lengths
        self._all = library.of_kind(self._kind)
        self.shown: list[Part] = []
        self.part: Part | None = None
        self.search = QLineEdit()
        self.search.setPlaceholderText(f"find among {len(self._all)} {self._kind}s: 256, 4×100 …")
        self.search.setAccessibleName("Find in the library")
        self.search.textChanged.connect(self._filter)
        self.list = QListWidget()
        self.list.setAccessibleName(f"{self._kind.capitalize()}s of the library")
        self.list.currentRowChanged.connect(self._choose)
        self.list.itemActivated.connect(self._use)
        self.table = plain_label()
        self.table.setTextFormat(Qt.TextFormat.RichText)
        self.table.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.table.setWordWrap(True)
        scroll = scrolled(self.table)
        self.use = QPushButton(f"Use this {self._kind}")
        self.use.setObjectName("primary")
        self.use.clicked.connect(self._use)
        keep = QPushButton("Cancel")
        keep.clicked.connect(self.reject)
        problems = plain_label("\n".join(library.problems[:3]))
        problems.setObjectName("wrong")
        problems.setWordWrap(True)
        problems.setVisible(bool(library.problems))
        left, middle, foot, column = QVBoxLayout(), QHBoxLayout(), QHBoxLayout(), QVBoxLayout(self)
        left.addWidget(self.search)
        left.addWidget(self.list)
        middle.addLayout(left, 4)
        beside = QVBoxLayout()
        self.view_state = ViewState()
        self.view_state.look = LOOKS["dark" if self.palette().window().color().lightness() < 128 else "light"]
        self.view = DrawingView("The part", self.view_state, {})
        self.view.margins = True
        self.view.fit_wanted.connect(lambda: show_whole((self.view,)))
        self.view.setMinimumHeight(VIEW_PX)
        beside.addWidget(self.view, 1)
        beside.addWidget(scroll, 1)
        middle.addLayout(beside, 5)
        foot.addStretch(1)
        foot.addWidget(self.use)
        foot.addWidget(keep)
        column.addLayout(middle, 1)
        column.addWidget(problems)
        column.addLayout(foot)
        self._filter("")

    def _filter(self, text: str) -> None:
        """Show the parts whose names hold every word of ``text``."""
        words = text.lower().replace("x", "×").split()
        self.shown = [part for part in self._all if all(word in part.name.lower().replace("x", "×") for word in words)]
        self.list.clear()
        self.list.addItems([part.name for part in self.shown])
        self.list.setCurrentRow(0 if self.shown else -1)
        self.use.setEnabled(bool(self.shown))
        if not self.shown:
            self.table.setText("Nothing in the library is called that.")

    def _choose(self, row: int) -> None:
        if 0 <= row < len(self.shown):
            part = self.shown[row]
            self.table.setText(part_table(self._now, part, self._lengths))
            drawing = item_view(part.item, self._lengths)
            self.view.setVisible(drawing is not None)
            if drawing is not None:
                self.view.title = part.name
                self.view.show_drawing(drawing, {}, 1.0, self._lengths.units)
                show_whole((self.view,))

    def _use(self) -> None:
        row = self.list.currentRow()
        if 0 <= row < len(self.shown):
            self.part = self.shown[row]
            self.accept()


def money_word(unit: str, currency: str) -> str:
    """Return what stands after a price: the user's ``currency`` where the part says none of its own."""
    return currency if unit == SHIPPED_CURRENCY else unit


def part_table(now: Item, part: Part, lengths: LengthFormat, currency: str = "") -> str:
    """Return old and new side by side as rich text; guessed dimensions say so."""
    rows = [difference_row(d, lengths) for d in differences(now, part.item)]
    head = heads("", "now", "this one", "difference")
    money = escape(money_word(part.currency, currency))
    price = f"<p>Price {part.price:g} {money}</p>" if part.price is not None else ""
    guessed = "<p>A finding that rests on a guessed dimension is a caution at best.</p>" if part.guessed else ""
    body = "".join(rows) or "<tr><td colspan=4>The same in every dimension.</td></tr>"
    return f"<table><tr>{head}</tr>{body}</table>{price}{guessed}<p>{escape(part.source)}</p>"


def difference_row(difference: Difference, lengths: LengthFormat) -> str:
    """Return one dimension of two parts as a row: name, before, after, how far apart."""
    before, after = (_shown(value, difference.path, lengths) for value in (difference.before, difference.after))
    apart = ""
    if difference.path.endswith("_mm") and all(
        isinstance(v, int | float) for v in (difference.before, difference.after)
    ):
        change = difference.after - difference.before
        apart = ("+" if change > 0 else "−") + lengths.size(abs(change))
    if difference.guessed:
        after += " (guessed)"
    cells = (difference.label, before, after, apart)
    return "<tr>" + "".join(f"<td style='padding:2px 18px 2px 0'>{escape(cell)}</td>" for cell in cells) + "</tr>"


def _shown(value: Any, path: str, lengths: LengthFormat) -> str:
    if value is None or value == () or value == "":
        return "unknown"
    if isinstance(value, tuple) and not isinstance(value[0], int | float | str):
        return f"{len(value)} traced"
    if isinstance(value, tuple):
        return ", ".join(_shown(item, path, lengths) for item in value)
    if isinstance(value, int | float) and path.endswith("_mm"):
        return lengths.size(float(value)).replace("-", "−")
    if isinstance(value, float):
        return f"{value:g}" + {"_kg": " kg", "deg": "°"}.get(path[-3:], "")
    return str(value)


def ask_part(parent: QWidget, library: Library, now: Item, lengths: LengthFormat) -> Part | None:
    """Ask for a part of the kind of ``now``; ``None`` when the job keeps its own."""
    dialog = LibraryDialog(parent, library, now, lengths)
    return dialog.part if dialog.exec() else None


class LibraryKeeper(QObject):
    """Each command is one step of the history, or none."""

    def __init__(self, host: Host) -> None:
        super().__init__(host.frame)
        self._host = host

    def take(self, kind: str) -> None:
        """Ask for a rotor, caliper or wheel of the library and put it in place of the job's."""
        job = self._host.study.job
        now = self._part(kind)
        part = ask_part(self._host.frame, whole_library(), now, job.lengths)
        if part is not None:
            self._host.change(f"Take {part.name} from the library", ((kind, part.item),))

    def _part(self, kind: str) -> Item:
        job = self._host.study.job
        parts: dict[str, Item] = {"rotor": job.rotor, "caliper": job.caliper, "wheel": job.wheel or Wheel()}
        return parts[kind]

    def keep(self, kind: str) -> None:
        """Put the job's rotor, caliper or wheel into the user's own library."""
        job = self._host.study.job
        try:
            path = keep_part(self._part(kind), f"Kept from “{job.title or 'an untitled job'}”")
        except BicentraError as error:
            self._host.say(str(error))
        else:
            self._host.say(f"Kept: {path}", wrong=False)

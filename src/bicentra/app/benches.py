"""The benches of the window, each built when it is first looked at, and the bar that leads to them."""

from collections.abc import Callable
from functools import lru_cache
from importlib import import_module
from typing import TypeVar

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QAbstractButton, QSizePolicy, QStackedWidget, QVBoxLayout, QWidget

from bicentra.app.bench import Bench
from bicentra.app.bench_list import BENCHES, START, BenchPlace
from bicentra.app.theme import LIGHT, Look, colour
from bicentra.app.widgets.plain import tip
from bicentra.app.widgets.row import paint_mark
from bicentra.data import data_path
from bicentra.study.document.cover import NOTHING_ASKED, BenchState


def load_ahead(_running: object) -> None:
    """Load in a thread what the benches are made of, and the library: the first look at one then waits for its making alone."""
    for place in BENCHES:
        import_module(f"bicentra.app.{place.name}.bench")
    import_module("bicentra.app.panels.part_page")
    import_module("bicentra.app.part_dialog")
    import_module("bicentra.study.library.library").whole_library()


Kind = TypeVar("Kind", bound=Bench)


class Benches(QStackedWidget):
    """Holds the line-up from the start and has the others made when they are asked for; ``furnish`` makes one ready."""

    def __init__(self, lineup: Bench, furnish: Callable[[type[Bench]], Bench]) -> None:
        super().__init__()
        self._furnish = furnish
        self._built: dict[str, Bench] = {"lineup": lineup}
        self.addWidget(lineup)

    @property
    def front(self) -> str:
        """The name of the bench in front."""
        return next(name for name, bench in self._built.items() if bench is self.currentWidget())

    def has(self, name: str) -> bool:
        """Tell whether the bench called ``name`` has been looked at."""
        return name in self._built

    def named(self, name: str) -> Bench:
        """Return the bench called ``name``, made if it is not yet."""
        if name not in self._built:
            place = next(place for place in (*BENCHES, START) if place.name == name)
            self._built[name] = self._furnish(getattr(import_module(f"bicentra.app.{name}.bench"), place.made_by))
            self.addWidget(self._built[name])
        return self._built[name]

    def of(self, kind: type[Kind]) -> Kind:
        """Return the bench of a class, made if it is not yet. Raises ``TypeError`` for a class that is no bench of the window."""
        name = next((place.name for place in (*BENCHES, START) if place.made_by == kind.__name__), "")
        bench = self.named(name) if name else None
        if not isinstance(bench, kind):
            raise TypeError(f"{kind.__name__} is no bench of the window")
        return bench

    @property
    def others(self) -> tuple[Bench, ...]:
        """The benches that are made, the line-up left out."""
        return tuple(bench for name, bench in self._built.items() if name != "lineup")

    def bring(self, name: str) -> Bench:
        """Bring the bench called ``name`` to the front."""
        bench = self.named(name)
        self.setCurrentWidget(bench)
        return bench

    def let_go(self) -> None:
        """Stop gauges and searches: the window is closing."""
        for bench in self._built.values():
            bench.let_go()


WIDE_PX, TALL_PX, NARROW_PX, LOW_PX, MARK_PX, ICON_PX = 86, 60, 78, 46, 17, 22
FOLDS_BELOW_PX = 700
"""A window less high than this has a bar of icons and marks alone."""


ICON_SHARE = 0.42
"""Part of a button that its icon stands in."""


@lru_cache(maxsize=64)
def bench_icon(name: str, ink: str, wide: int, ratio: float) -> QPixmap:
    """Return the icon of the bench called ``name``, drawn in ``ink``, ``wide`` pixels wide."""
    from PySide6.QtSvg import QSvgRenderer

    text = data_path("icons", f"bench-{name}.svg").read_text("utf-8").replace("#000", ink)
    made = QPixmap(round(wide * ratio), round(wide * ratio))
    made.setDevicePixelRatio(ratio)
    made.fill(Qt.GlobalColor.transparent)
    painter = QPainter(made)
    QSvgRenderer(text.encode()).render(painter, QRectF(0, 0, wide, wide))
    painter.end()
    return made


class BenchButton(QAbstractButton):
    """One bench: its name, below it its icon, the mark of its worst verdict and the number of things that are open."""

    def __init__(self, place: BenchPlace) -> None:
        super().__init__()
        self.place, self.look = place, LIGHT
        self.state = NOTHING_ASKED
        self.folded = False
        self.setCheckable(True)
        self.setText(place.title)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_state(self, state: BenchState, look: Look, folded: bool) -> None:
        """Show how the bench stands."""
        if (state, look, folded) != (self.state, self.look, self.folded) or not self.accessibleName():
            self.state, self.look, self.folded = state, look, folded
            self.setAccessibleName(f"Bench {self.place.title}: {state.text}")
            self.setToolTip(tip(f"{self.place.help}  ({self.place.key})\n{state.text.capitalize()}"))
            self.updateGeometry()
            self.update()

    def sizeHint(self) -> QSize:
        """Return the size it wants: large enough for a thumb, less where the bar is folded."""
        wide, high = (NARROW_PX, LOW_PX) if self.folded else (WIDE_PX, TALL_PX)
        return QSize(round(wide * self.look.size), round(high * self.look.size))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the card, the name, the icon, the mark and the count."""
        del event
        painter, look = QPainter(self), self.look
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        on, mark_px = self.isChecked(), MARK_PX * look.size
        edge = look.glow if self.hasFocus() else look.accent if on or self.underMouse() else look.edge
        painter.setPen(QPen(colour(edge), 2.0 if self.hasFocus() else 1.0))
        painter.setBrush(colour(look.accent if on else look.card))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        ink = look.accent_text if on else look.text
        low = self.height() / 2 - mark_px / 2
        if not self.folded:
            painter.setPen(colour(ink))
            painter.drawText(
                QRectF(0, 7 * look.size, self.width(), 20 * look.size), Qt.AlignmentFlag.AlignCenter, self.text()
            )
            low = 32.0 * look.size
        icon_px, half = ICON_PX * look.size, self.width() * ICON_SHARE
        picture = bench_icon(self.place.name, ink, round(icon_px), self.devicePixelRatioF())
        painter.drawPixmap(QPointF(half / 2 - icon_px / 2 + 4, low + (mark_px - icon_px) / 2), picture)
        if self.state.verdict is None:
            painter.setPen(colour(ink))
            painter.drawText(QRectF(half, low, self.width() - half, mark_px), Qt.AlignmentFlag.AlignCenter, "–")
            return
        count = str(self.state.open) if self.state.open else ""
        wide = painter.fontMetrics().horizontalAdvance(count)
        left = half + (self.width() - half - mark_px - (wide + 5 if count else 0)) / 2 - 2
        verdict, paper = self.state.verdict.value, look.accent if on else look.card
        mark = colour(ink if on else look.verdict(verdict))
        paint_mark(painter, QRectF(left, low, mark_px, mark_px), verdict, mark, colour(paper))
        painter.setPen(colour(ink))
        painter.drawText(QRectF(left + mark_px + 5, low, wide + 4, mark_px), Qt.AlignmentFlag.AlignVCenter, count)


class BenchBar(QWidget):
    """The buttons of all benches, top to bottom as the work goes. ``chosen`` carries a bench's name."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Benches in the order of the work")
        self.buttons = {place.name: BenchButton(place) for place in BENCHES}
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(6)
        for name, button in self.buttons.items():
            button.clicked.connect(lambda _checked=False, name=name: self.chosen.emit(name))
            self._column.addWidget(button)
        self._column.addStretch(1)

    def show_front(self, name: str) -> None:
        """Mark the bench in front."""
        for key, button in self.buttons.items():
            button.setChecked(key == name)

    def show_states(self, states: dict[str, BenchState], look: Look, window_px: int) -> None:
        """Show how every bench stands; ``window_px``: how high the window is."""
        for name, button in self.buttons.items():
            button.show_state(states.get(name, NOTHING_ASKED), look, window_px < FOLDS_BELOW_PX)

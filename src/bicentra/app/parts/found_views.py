"""The sets found: as a list, as a map, and what stops most of them."""

import math

from PySide6.QtCore import QAbstractListModel, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QSizePolicy, QWidget

from bicentra.app.theme import LIGHT, Look, colour
from bicentra.app.widgets.plain import tip
from bicentra.app.widgets.row import Index, Row, paint_mark
from bicentra.core.base.numbers import is_known
from bicentra.core.base.quantities import show_length
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.search.run import FoundSet

MOST_ROWS = 400


class FoundModel(QAbstractListModel):
    """The best sets, or those whose names hold every word looked for."""

    def __init__(self) -> None:
        super().__init__()
        self.sets: tuple[FoundSet, ...] = ()
        self.lengths = LengthFormat("mm")

    def show(self, sets: tuple[FoundSet, ...], lengths: LengthFormat) -> None:
        """Show ``sets``."""
        self.beginResetModel()
        self.sets, self.lengths = sets[:MOST_ROWS], lengths
        self.endResetModel()

    def rowCount(self, parent: Index | None = None) -> int:
        """Return the number of sets shown."""
        return 0 if parent is not None and parent.isValid() else len(self.sets)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """Return a set in words."""
        found = self.sets[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return found.name
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return f"{found.verdict.word}: {found.name}. {second_line(found, self.lengths)}"
        if role == Qt.ItemDataRole.ToolTipRole:
            return found.name
        return None

    def row_at(self, row: int) -> Row:
        """Return what stands in a row: the verdict's mark, the rotor, the score, the rest below."""
        found = self.sets[row]
        score = f"{found.score:.2f}" if found.feasible else ""
        caliper, rest = f"+ {found.job.caliper.name}", second_line(found, self.lengths)
        text = f"{caliper} · {rest}" if found.feasible else f"{rest} · {caliper}"
        return Row(found.verdict.value, found.job.rotor.name, score, text)

    def row_of(self, found: FoundSet | None) -> int:
        """Return the row of ``found``; −1 when it is not there."""
        return next((row for row, here in enumerate(self.sets) if here is found), -1)


def set_name(decides: str) -> str:
    """Return what decides a set as it is called: the title of a finding, or what it says by itself."""
    try:
        return kind_of(decides).title
    except KeyError:
        return decides


def _stop_text(found: FoundSet, lengths: LengthFormat) -> str:
    if is_known(found.short):
        return f"short by {lengths.gap(found.short)}: “{set_name(found.decides)}”"
    return f"stopped by “{set_name(found.decides)}”"


def second_line(found: FoundSet, lengths: LengthFormat) -> str:
    """Return what a set comes to in one line."""
    fit = found.job.fit
    text = [f"{fit.clock_deg or 0:g}°"] if found.feasible else [_stop_text(found, lengths)]
    if found.feasible and found.decides:
        text.append("play in the bolt holes" if found.by_play else set_name(found.decides))
    if fit.rotor_spacer_mm:
        text.append(f"{lengths.size(fit.rotor_spacer_mm)} behind the rotor")
    text += [found.lies] if found.lies else []
    if is_known(found.thickness):
        text.append(f"{lengths.size(found.thickness)} thick")
    if is_known(found.tip_gap):
        text.append(f"tip gap {lengths.gap(found.tip_gap)}" if found.tip_gap >= 0 else "no tip gap")
    return " · ".join(text)


HIGH_PX, LEAST_PX = 44, 110


class ReasonBar(QAbstractButton):
    """One reason with how many sets it stops."""

    def __init__(self, reason: str, title: str) -> None:
        super().__init__()
        self.reason, self.title, self.look = reason, title, LIGHT
        self.count, self.share = 0, 0.0
        self.setCheckable(True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_count(self, count: int, share: float, look: Look) -> None:
        """Show how many sets it stops, and which ``share`` of the worst reason's that is."""
        self.count, self.share, self.look = count, share, look
        self.setAccessibleName(f"{self.title} stops {count} sets")
        self.setToolTip(tip(f"{self.title} stops {count} sets. Click to look at some of them."))
        self.update()

    def sizeHint(self) -> QSize:
        """Return the size it wants."""
        return QSize(LEAST_PX, HIGH_PX)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the count and the title over the bar."""
        del event
        painter, look = QPainter(self), self.look
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        frame, on = QRectF(self.rect()).adjusted(1, 1, -1, -1), self.isChecked()
        edge = look.glow if self.hasFocus() else look.accent if on or self.underMouse() else look.edge
        painter.setPen(QPen(colour(edge), 2.0 if on or self.hasFocus() else 1.0))
        painter.setBrush(colour(look.paper))
        painter.drawRoundedRect(frame, 5, 5)
        bar = QRectF(frame.left() + 3, frame.bottom() - 9, (frame.width() - 6) * self.share, 6)
        painter.fillRect(bar, colour(look.stop))
        painter.setPen(colour(look.text))
        head = frame.adjusted(7, 2, -7, -10)
        text = f"{self.count:,}".replace(",", " ") + f"  {self.title}"
        shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(head.width()))
        painter.drawText(head, Qt.AlignmentFlag.AlignVCenter, shown)


class ReasonBars(QWidget):
    """The bars, the worst reason first. ``chosen`` carries a reason, or nothing when all sets are wanted again."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.bars: list[ReasonBar] = []
        self.reason = ""
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(6)
        self.hide()

    def show_stops(self, stops: tuple[tuple[str, str, int], ...], look: Look) -> None:
        """Show (reason, title, count) of what stops most; bars are made again only when the reasons are others."""
        if [bar.reason for bar in self.bars] != [reason for reason, _, _ in stops]:
            for bar in self.bars:
                self._row.removeWidget(bar)
                bar.hide()
                bar.deleteLater()
            self.bars = [ReasonBar(reason, title) for reason, title, _ in stops]
            for bar in self.bars:
                bar.setChecked(bar.reason == self.reason)
                bar.clicked.connect(lambda _checked=False, reason=bar.reason: self._pick(reason))
                self._row.addWidget(bar)
        most = max((count for _, _, count in stops), default=1)
        for bar, (_, _, count) in zip(self.bars, stops):
            bar.show_count(count, count / most, look)
        self.setVisible(bool(stops))

    def let_go(self) -> None:
        """No reason is chosen any more; nothing is reported of it."""
        self.reason = ""
        for bar in self.bars:
            bar.setChecked(False)

    def _pick(self, reason: str) -> None:
        self.reason = "" if self.reason == reason else reason
        for bar in self.bars:
            bar.setChecked(bar.reason == self.reason)
        self.chosen.emit(self.reason)


EDGE_PX = (54.0, 26.0, 14.0, 40.0)
"""Room left, above, right, below the field [px]."""
REACH_PX, MOST_MARKS = 14.0, 2500
STEPS = (0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0)


class SetMap(QWidget):
    """Every set a mark of its verdict's shape. ``picked`` carries the set that was clicked."""

    picked = Signal(object)

    def __init__(self, look: Look) -> None:
        super().__init__()
        self.look = look
        self.lengths = LengthFormat("mm")
        self.empty = "Nothing found yet"
        self._sets: tuple[FoundSet, ...] = ()
        self._chosen: FoundSet | None = None
        self._bounds = (0.0, 0.0, 1.0, 1.0)
        self.setMinimumSize(240, 180)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Map of the sets: tip gap against axial offset, marks grow with the plate's thickness")

    def show_sets(self, sets: tuple[FoundSet, ...], chosen: FoundSet | None, lengths: LengthFormat) -> None:
        """Show ``sets``, best last so that they lie on top; ``chosen`` is ringed. Stopped ones far from all others are
        left out.
        """
        known = [s for s in sets if math.isfinite(s.axial_offset) and math.isfinite(s.tip_gap)]
        fit = [s for s in known if s.feasible]
        self._chosen, self.lengths = chosen, lengths
        shown = fit or known
        if shown:
            xs, ys = [s.axial_offset for s in shown], [s.tip_gap for s in shown]
            pad_x, pad_y = (max(xs) - min(xs)) * 0.15 + 2.0, (max(ys) - min(ys)) * 0.15 + 0.5
            self._bounds = (min(xs) - pad_x, min(min(ys) - pad_y, 0.0), max(xs) + pad_x, max(ys) + pad_y)
        self._sets = tuple(s for s in known if self._lies_in(s))[:MOST_MARKS]
        self.update()

    def _lies_in(self, found: FoundSet) -> bool:
        x0, y0, x1, y1 = self._bounds
        return x0 <= found.axial_offset <= x1 and y0 <= found.tip_gap <= y1

    def choose(self, chosen: FoundSet | None) -> None:
        """Ring another set."""
        self._chosen = chosen
        self.update()

    def place(self, found: FoundSet) -> QPointF:
        """Return where ``found`` lies in the widget."""
        x0, y0, x1, y1 = self._bounds
        field = self._field()
        x = field.left() + (found.axial_offset - x0) / (x1 - x0) * field.width()
        y = field.bottom() - (found.tip_gap - y0) / (y1 - y0) * field.height()
        return QPointF(x, y)

    def _field(self) -> QRectF:
        left, above, right, below = EDGE_PX
        return QRectF(left, above, self.width() - left - right, self.height() - above - below)

    def set_at(self, point: QPointF) -> FoundSet | None:
        """Return the best set near ``point``: sets come best first, so the first of the nearest is it."""
        near = [
            (math.hypot((self.place(s) - point).x(), (self.place(s) - point).y()), k) for k, s in enumerate(self._sets)
        ]
        close = [(round(apart / 3.0), k) for apart, k in near if apart <= REACH_PX]
        return self._sets[min(close)[1]] if close else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Pick the set under the pointer."""
        found = self.set_at(event.position())
        if found is not None:
            self.picked.emit(found)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint axes, stopped sets as dots, the others as their verdict's mark."""
        del event
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        look, field = self.look, self._field()
        painter.fillRect(self.rect(), colour(look.paper))
        if self._sets:
            self._paint_axes(painter, field)
        for found in reversed(self._sets):
            self._paint_set(painter, found)
        if not self._sets:
            painter.setPen(colour(look.faint))
            painter.drawText(field, Qt.AlignmentFlag.AlignCenter, self.empty)

    def _paint_set(self, painter: QPainter, found: FoundSet) -> None:
        look, at = self.look, self.place(found)
        if not found.feasible:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(faint(look.stop))
            painter.drawRect(QRectF(at.x() - 1.5, at.y() - 1.5, 3, 3))
            return
        thick = found.thickness if math.isfinite(found.thickness) else 10.0
        size = min(max(10.0 + thick * 0.3, 11.0), 24.0)
        box = QRectF(at.x() - size / 2, at.y() - size / 2, size, size)
        paint_mark(painter, box, found.verdict.value, colour(look.verdict(found.verdict.value)), colour(look.paper))
        if found is self._chosen:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(colour(look.glow), 3.0))
            painter.drawEllipse(box.adjusted(-5, -5, 5, 5))

    def _paint_axes(self, painter: QPainter, field: QRectF) -> None:
        look, (x0, y0, x1, y1) = self.look, self._bounds
        font = painter.font()
        font.setPixelSize(12)
        painter.setFont(font)
        painter.setPen(QPen(colour(look.edge), 1.0))
        painter.drawRect(field)
        one = 25.4 if self.lengths.units == "in" else 1.0
        for low, high, across in ((x0, x1, True), (y0, y1, False)):
            step = next((s for s in STEPS if (high - low) / (s * one) <= 6), STEPS[-1]) * one
            value = math.ceil(low / step) * step
            while value <= high:
                self._paint_tick(painter, field, (value - low) / (high - low), value, across)
                value += step
        painter.setPen(colour(look.faint))
        below = QRectF(field.left(), field.bottom() + 20, field.width(), 18)
        painter.drawText(below, Qt.AlignmentFlag.AlignCenter, "axial offset the plate makes up, outboard positive")
        above = QRectF(6, 4, self.width() - 12, 18)
        painter.drawText(
            above, Qt.AlignmentFlag.AlignLeft, "tip gap, cold · bigger mark: thicker plate · dots: stopped"
        )

    def _paint_tick(self, painter: QPainter, field: QRectF, part: float, value: float, across: bool) -> None:
        look = self.look
        text = show_length(value, self.lengths.units, trim=True).replace("-", "−")
        painter.setPen(QPen(colour(look.edge), 1.0, Qt.PenStyle.DotLine))
        if across:
            x = field.left() + part * field.width()
            painter.drawLine(QPointF(x, field.top()), QPointF(x, field.bottom()))
            box, how = QRectF(x - 40, field.bottom() + 3, 80, 16), Qt.AlignmentFlag.AlignHCenter
        else:
            y = field.bottom() - part * field.height()
            painter.drawLine(QPointF(field.left(), y), QPointF(field.right(), y))
            box, how = QRectF(2, y - 8, EDGE_PX[0] - 6, 16), Qt.AlignmentFlag.AlignRight
        painter.setPen(colour(look.faint))
        painter.drawText(box, how | Qt.AlignmentFlag.AlignVCenter, text)


def faint(code: str) -> QColor:
    """Return a colour that stands back."""
    made = colour(code)
    made.setAlpha(120)
    return made

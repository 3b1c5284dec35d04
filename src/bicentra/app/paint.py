"""The screen's back end of a neutral drawing: shapes to paths, inks to pens and brushes."""

import math
from functools import lru_cache

from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import (
    QBrush,
    QFont,
    QFontMetricsF,
    QPainter,
    QPainterPath,
    QPen,
    QPixmap,
    QPolygonF,
    QTransform,
)

from bicentra.app.theme import FAMILY, InkStyle, Look, colour
from bicentra.core.base.records import Record
from bicentra.core.drawing.model import OLD, Drawing, Shape, Text, is_circle
from bicentra.core.drawing.places import Placed
from bicentra.core.geometry.outline import Outline, Segment

LINES = {
    "solid": Qt.PenStyle.SolidLine,
    "hidden": Qt.PenStyle.DashLine,
    "centre": Qt.PenStyle.DashDotLine,
}
PLAIN = InkStyle("#00000000", "#808080")


class Painted(Record, frozen=True):
    """A shape ready to be painted, in mm."""

    path: QPainterPath
    shape: Shape


def painted(drawing: Drawing, before: tuple[Painted, ...] = ()) -> tuple[Painted, ...]:
    """Return every shape of ``drawing`` as a painter's path in mm, y up; paths of unchanged shapes are used again."""
    made = []
    for place, shape in enumerate(drawing.shapes):
        old = before[place] if place < len(before) else None
        same = old is not None and (old.shape is shape or old.shape == shape)
        made.append(old if old is not None and same else Painted(painter_path(shape), shape))
    return tuple(made)


def unchanged(shapes: tuple[Painted, ...], before: tuple[Painted, ...]) -> int:
    """Return how many shapes at the head of the list are the same as ``before``: they need not be painted again."""
    for place, (new, old) in enumerate(zip(shapes, before)):
        if new is not old:
            return place
    return min(len(shapes), len(before))


def painter_path(shape: Shape) -> QPainterPath:
    """Return the lines and true arcs of ``shape``; several loops leave holes."""
    path = QPainterPath()
    path.setFillRule(Qt.FillRule.OddEvenFill)
    for loop in shape.loops:
        if is_circle(loop):
            radius = abs(loop[0][0] - loop[1][0]) / 2
            path.addEllipse(QPointF((loop[0][0] + loop[1][0]) / 2, loop[0][1]), radius, radius)
            continue
        if not any(bulge for _, _, bulge in loop):
            path.addPolygon(QPolygonF([QPointF(x, y) for x, y, _ in loop]))
            if shape.closed:
                path.closeSubpath()
            continue
        path.moveTo(loop[0][0], loop[0][1])
        pieces = Outline(loop).segments if shape.closed else Outline(loop).segments[:-1]
        for piece in pieces:
            _append(path, piece)
        if shape.closed:
            path.closeSubpath()
    return path


def _append(path: QPainterPath, piece: Segment) -> None:
    if piece.bulge == 0.0:
        path.lineTo(*piece.end)
        return
    (cx, cy), r = piece.centre, piece.radius
    first = math.degrees(math.atan2(piece.start[1] - cy, piece.start[0] - cx))
    # Qt's arcs turn the other way in its y-down frame: y up here, so both angles change sign.
    path.arcTo(QRectF(cx - r, cy - r, 2 * r, 2 * r), -first, -math.degrees(piece.sweep))


@lru_cache(maxsize=512)
def pen_of(look: Look, ink: str, line: str, wide: float) -> QPen:
    """Return the pen of an ink; ``wide`` multiplies its width."""
    material = look.inks.get(ink, PLAIN)
    pen = QPen(colour(material.line), material.width * wide, LINES.get(line, Qt.PenStyle.SolidLine))
    pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    return pen


@lru_cache(maxsize=256)
def brushes_of(look: Look, ink: str) -> tuple[QBrush, QBrush | None]:
    """Return fill and hatch of an ink."""
    material = look.inks.get(ink, PLAIN)
    hatch = None
    if material.hatch != Qt.BrushStyle.NoBrush:
        shade = colour(material.line)
        shade.setAlpha(48)
        hatch = QBrush(shade, material.hatch)
    return QBrush(colour(material.fill)), hatch


def paint_shapes(painter: QPainter, shapes: tuple[Painted, ...], view: QTransform, look: Look) -> None:
    """Paint shapes in their order; hatches and pens stay the same size at every zoom."""
    for item in shapes:
        path, shape = view.map(item.path), item.shape
        # The smooth line covers the fill's edge, so only the line needs smoothing, which makes a fill many times dearer.
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        if shape.filled:
            fill, hatch = brushes_of(look, shape.ink)
            painter.fillPath(path, fill)
            if hatch is not None:
                painter.fillPath(path, hatch)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, shape.line != "centre")
        painter.strokePath(path, pen_of(look, shape.ink, shape.line, 1.0))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, True)


def fitted_into(drawing: Drawing, place: QRectF, flip: bool = False) -> QTransform:
    """Return what brings ``drawing`` into the middle of ``place`` [px], as large as it lets it be; ``flip``: mirrored."""
    x0, y0, x1, y1 = drawing.bounds
    scale = min(place.width() / max(x1 - x0, 1.0), place.height() / max(y1 - y0, 1.0))
    way, middle = -scale if flip else scale, place.center()
    return QTransform(way, 0, 0, -scale, middle.x() - (x0 + x1) / 2 * way, middle.y() + (y0 + y1) / 2 * scale)


def drawing_picture(drawing: Drawing, look: Look, size: tuple[int, int], ratio: float, flip: bool = False) -> QPixmap:
    """Return ``drawing`` without its texts, as large as ``size`` pixels let it be; ``flip``: mirrored, as a left corner is."""
    made = QPixmap(round(size[0] * ratio), round(size[1] * ratio))
    made.setDevicePixelRatio(ratio)
    made.fill(Qt.GlobalColor.transparent)
    painter = QPainter(made)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    paint_shapes(painter, painted(drawing), fitted_into(drawing, QRectF(3, 3, size[0] - 6, size[1] - 6), flip), look)
    painter.end()
    return made


def paint_glow(
    painter: QPainter, shapes: tuple[Painted, ...], view: QTransform, look: Look, tags: frozenset[str]
) -> None:
    """Light the features called ``tags``: a broad bright line round each, over everything else.

    Of a rotor the hat is lit only where the hub is too: a gap to the caliper is the ring's.
    """
    halo = colour(look.lit)
    halo.setAlpha(70)
    for item in shapes:
        unlit = ("centre", "hole") if "hub" in tags else ("centre", "hole", "hat")
        if item.shape.tag in tags and item.shape.ink not in unlit:
            path = view.map(item.path)
            painter.strokePath(
                path, QPen(halo, 6.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin)
            )
            painter.strokePath(path, QPen(colour(look.lit), 1.8))


LONG_EM = 11.0
"""From which length on a label stands in two lines [heights of its letters]."""


def _glued(text: str, place: int) -> bool:
    """Tell whether the space at ``place`` stands between a number or a sign and its unit: no line ends there."""
    return text[place - 1].isdigit() or text[place - 1] in "±×Ø"


class Lettering:
    """The face of labels, and how much room a text takes; widths are kept, since the same texts come again."""

    def __init__(self, pixels: int = 13) -> None:
        self.font = QFont(FAMILY)
        self.font.setPixelSize(pixels)
        self._metrics = QFontMetricsF(self.font)
        self._sizes: dict[str, tuple[float, float]] = {}
        self._tags: dict[tuple[object, ...], QPixmap] = {}

    def measure(self, text: str) -> tuple[float, float]:
        """Return width and height of a label in pixels, its margin included; a long one stands in two lines."""
        if text not in self._sizes:
            if len(self._sizes) > 4000:
                self._sizes.clear()
            lines = self.lines(text)
            wide = max(self._metrics.horizontalAdvance(line) for line in lines)
            self._sizes[text] = wide + 8.0, self._metrics.height() * len(lines) + 2.0
        return self._sizes[text]

    def lines(self, text: str) -> tuple[str, ...]:
        """Return ``text`` in one line, or in two of about the same length where it is long."""
        if self._metrics.horizontalAdvance(text) <= LONG_EM * self.font.pixelSize():
            return (text,)
        places = [place for place, letter in enumerate(text) if letter == " " and not _glued(text, place)]
        if not places:
            return (text,)
        cut = min(places, key=lambda place: abs(2 * place - len(text)))
        return text[:cut], text[cut + 1 :]

    def tag(self, text: str, ink: str, look: Look, typed_over: bool, ratio: float) -> QPixmap:
        """Return ``text`` on a patch of paper, underlined with dots when it may be typed over; kept for the next frame."""
        key = (text, ink, look.name, typed_over, ratio)
        if key not in self._tags:
            if len(self._tags) > 1500:
                self._tags.clear()
            self._tags[key] = self._painted_tag(text, ink, look, typed_over, ratio)
        return self._tags[key]

    def _painted_tag(self, text: str, ink: str, look: Look, typed_over: bool, ratio: float) -> QPixmap:
        width, height = self.measure(text)
        made = QPixmap(math.ceil(width * ratio), math.ceil(height * ratio))
        made.setDevicePixelRatio(ratio)
        made.fill(colour(look.paper))
        painter = QPainter(made)
        painter.setFont(self.font)
        painter.setPen(colour(ink))
        painter.drawText(QRectF(0, 0, width, height), Qt.AlignmentFlag.AlignCenter, "\n".join(self.lines(text)))
        if typed_over:
            painter.setPen(QPen(colour(look.accent), 1.4, Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(4, height - 1), QPointF(width - 4, height - 1))
        painter.end()
        return made


def paint_labels(
    painter: QPainter,
    labels: tuple[Placed, ...],
    look: Look,
    lettering: Lettering,
    origin: QPointF,
    lit: frozenset[str],
) -> None:
    """Paint dimensions and notes; ``origin`` is where (0, 0) of the drawing lies in the widget."""
    painter.setFont(lettering.font)
    thin, bold = QPen(colour(look.faint), 1.0), QPen(colour(look.lit), 1.6)
    dashed = QPen(colour(look.accent), 1.2, Qt.PenStyle.DashLine)
    arrows, left, top = QPainterPath(), origin.x(), origin.y()
    rows: dict[str, list[QLineF]] = {"thin": [], "dashed": [], "bold": []}
    for label in labels:
        by_itself = label.verdict not in ("", "ok") or label.tag == label.edits or label.tag.startswith("reading:")
        shown = by_itself and label.tag in lit
        rows["bold" if shown else "dashed" if label.example else "thin"] += [
            QLineF(left + x0, top - y0, left + x1, top - y1) for (x0, y0), (x1, y1) in label.lines
        ]
        for tip, way in label.arrows:
            arrows.addPolygon(_arrow(tip, way, origin))
            arrows.closeSubpath()
    for pen, lines in zip((thin, dashed, bold), rows.values()):
        painter.setPen(pen)
        painter.drawLines(lines)
    painter.fillPath(arrows, colour(look.faint))
    ratio = painter.device().devicePixelRatio()
    for label in labels:  # texts last: no line ever crosses one
        plain = look.accent if label.example else look.text
        old = label.verdict == OLD
        ink = look.faint if old else look.verdict(label.verdict) if label.verdict not in ("", "ok") else plain
        tag = lettering.tag(label.text, ink, look, bool(label.edits), ratio)
        painter.drawPixmap(label_rect(label, origin).topLeft(), tag)


def covered(shapes: tuple[Painted, ...], labels: tuple[Placed, ...], scale: float) -> int:
    """Return how many of ``labels`` lie over the part they name."""
    by_tag: dict[str, list[QPainterPath]] = {}
    for item in shapes:
        if item.shape.filled and item.shape.tag:
            by_tag.setdefault(item.shape.tag, []).append(item.path)
    many = 0
    for label in labels:
        box = label.box
        place = QRectF(box.x0 / scale, box.y0 / scale, (box.x1 - box.x0) / scale, (box.y1 - box.y0) / scale)
        many += any(path.intersects(place) for path in by_tag.get(label.tag, ()))
    return many


def paint_texts(
    painter: QPainter, texts: tuple[Text, ...], look: Look, origin: QPointF, scale: float, grown: float, wide: float
) -> None:
    """Paint texts that stand at a place of their own on a sheet ``wide`` pixels wide.

    Their size stays the same at every zoom, ``grown`` times the usual.
    """
    for text in texts:
        font, metrics = _standing_font(round(text.size * 4 / 3 * grown), text.bold)
        painter.setFont(font)
        painter.setPen(colour(look.text if text.ink == "text" else look.faint))
        place = text_rect(text, origin, scale, grown, wide)
        painter.drawText(QPointF(place.left(), place.bottom() - metrics.descent()), text.text)


TEXT_EDGE_PX = 4.0
"""What is kept free between such a text and the edge of the sheet [px]."""


@lru_cache(maxsize=32)
def _standing_font(pixels: int, bold: bool) -> tuple[QFont, QFontMetricsF]:
    font = QFont(FAMILY)
    font.setPixelSize(pixels)
    font.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Normal)
    return font, QFontMetricsF(font)


def text_rect(text: Text, origin: QPointF, scale: float, grown: float, wide: float) -> QRectF:
    """Return where a text with a place of its own stands in a widget ``wide`` pixels wide [px].

    As long as its place is in sight it is moved sideways rather than cut off at the edge.
    """
    _, metrics = _standing_font(round(text.size * 4 / 3 * grown), text.bold)
    long = metrics.horizontalAdvance(text.text)
    at = origin.x() + text.at[0] * scale
    left = at - {"start": 0.0, "middle": long / 2, "end": long}[text.anchor]
    if 0.0 <= at <= wide:
        left = max(min(left, wide - long - TEXT_EDGE_PX), TEXT_EDGE_PX)
    low = origin.y() - text.at[1] * scale + text.rise * grown + metrics.descent()
    return QRectF(left, low - metrics.height(), long, metrics.height())


def label_rect(label: Placed, origin: QPointF) -> QRectF:
    """Return where a label lies in the widget."""
    box = label.box
    return QRectF(origin.x() + box.x0, origin.y() - box.y1, box.x1 - box.x0, box.y1 - box.y0)


def _at(point: tuple[float, float], origin: QPointF) -> QPointF:
    return QPointF(origin.x() + point[0], origin.y() - point[1])


def _arrow(tip: tuple[float, float], way: tuple[float, float], origin: QPointF) -> QPolygonF:
    """Return an arrowhead with its point at ``tip``, its body towards ``way``."""
    (x, y), (ux, uy) = tip, way
    back, half = 8.0, 2.6
    points = [
        tip,
        (x + ux * back - uy * half, y + uy * back + ux * half),
        (x + ux * back + uy * half, y + uy * back - ux * half),
    ]
    return QPolygonF([_at(point, origin) for point in points])

"""What a workshop drawing writes into its views: ordinate dimensions and the symbol of a fillet weld."""

import math
from collections.abc import Iterable, Sequence
from typing import Any

from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.model import Weld
from bicentra.core.drawing.boxes import Box
from bicentra.core.drawing.model import Bounds
from bicentra.core.drawing.sheets.plate import PT_PER_MM
from bicentra.core.geometry.outline import Point
from bicentra.formats.pdf_pen import arrow, fitted

SIZE_PT, LEAST_PT, OUT_PT = 7.0, 9.5, 14.0
"""Size of the figures, how close two may stand, and how far from the part the bends of their lines lie [points]."""


def spread(places: Sequence[float], least: float) -> list[float]:
    """Return ascending ``places`` moved apart to at least ``least`` (same unit), each group about the middle of its own."""
    groups: list[tuple[list[float], float]] = []
    for place in places:
        groups.append(([place], place))
        while len(groups) > 1 and _reach(groups[-2], least)[1] + least > _reach(groups[-1], least)[0]:
            (one, _), (other, _) = groups[-2:]
            both = [*one, *other]
            groups[-2:] = [(both, sum(both) / len(both))]
    return [_reach(group, least)[0] + k * least for group in groups for k in range(len(group[0]))]


def _reach(group: tuple[list[float], float], least: float) -> tuple[float, float]:
    half = (len(group[0]) - 1) * least / 2
    return group[1] - half, group[1] + half


def bounds_of(lines: Iterable[Iterable[Point]]) -> Bounds:
    """Return (x_min, y_min, x_max, y_max) of ``lines`` in their own unit."""
    xs, ys = zip(*(point for line in lines for point in line))
    return min(xs), min(ys), max(xs), max(ys)


def ordinate_bands(bounds: Bounds, size: float) -> list[Box]:
    """Return where the two rows of a view with ``bounds`` [mm] stand, ``size`` points to the mm: no other text is put there."""
    x0, y0, x1, y1 = (value * size for value in bounds)
    reach = OUT_PT + 4.5 * SIZE_PT
    return [Box(x0, y0 - reach, x1, y0 - 1.0), Box(x0 - reach, y0, x0 - 1.0, y1)]


def ordinates(
    canvas: Any,
    spots: Sequence[Point],
    bounds: Bounds,
    area: tuple[float, float, float, float],
    scale: float,
    lengths: LengthFormat,
) -> None:
    """Draw both rows for ``spots`` [mm from the datum] of a view with ``bounds`` [mm], which stands in the middle of ``area``."""
    size = scale * PT_PER_MM
    x0, y0, x1, y1 = bounds
    canvas.saveState()
    canvas.translate(
        (area[0] + area[2] / 2) * PT_PER_MM - (x0 + x1) / 2 * size,
        (area[1] + area[3] / 2) * PT_PER_MM - (y0 + y1) / 2 * size,
    )
    canvas.setFont("Paper", SIZE_PT)
    canvas.setFillGray(0.0)
    for axis, edge in ((0, y0 * size), (1, x0 * size)):
        found: dict[str, Point] = {}
        for spot in sorted(spots, key=lambda at: (at[axis], -at[1 - axis])):
            found[lengths.bare(spot[axis])] = spot
        rows = sorted(found.items(), key=lambda row: row[1][axis])
        for (text, spot), place in zip(rows, spread([at[axis] * size for _, at in rows], LEAST_PT)):
            _one(canvas, axis, (spot[0] * size, spot[1] * size), edge, place, text)
    canvas.setDash([])
    canvas.restoreState()


def _one(canvas: Any, axis: int, spot: Point, edge: float, place: float, text: str) -> None:
    """Draw one figure with its line from the hole over the part's edge, bent to where there is room for it."""
    out, end = edge - OUT_PT * 0.5, edge - OUT_PT
    line = [(spot[axis], edge - 2.0), (spot[axis], out), (place, end)]
    canvas.setLineWidth(0.3)
    canvas.setStrokeGray(0.35)
    canvas.setDash([4, 1.5, 1, 1.5])
    points = [(spot[axis], spot[1 - axis]), *line[:1]]
    _stroke(canvas, points, axis)
    canvas.setDash([])
    _stroke(canvas, line, axis)
    canvas.saveState()
    if axis == 0:
        canvas.translate(place + SIZE_PT * 0.35, end - 2.0)
        canvas.rotate(90)
        canvas.drawRightString(0.0, 0.0, text)
    else:
        canvas.drawRightString(end - 2.0, place - SIZE_PT * 0.35, text)
    canvas.restoreState()


def _stroke(canvas: Any, points: list[Point], axis: int) -> None:
    path = canvas.beginPath()
    for k, (along, across) in enumerate(points):
        at = (along, across) if axis == 0 else (across, along)
        path.moveTo(*at) if k == 0 else path.lineTo(*at)
    canvas.drawPath(path, stroke=1, fill=0)


SIDE_MM, LINE_MM, SHIFT_MM = 3.4, 32.0, 10.5
"""Side of the triangle, length of the reference line, where the triangle begins on it, on paper [mm]."""


def weld_symbol(canvas: Any, weld: Weld, joint: Point, start: Point, lengths: LengthFormat) -> None:
    """Draw the symbol of ``weld`` on a line that begins at ``start`` [mm on paper], its arrow on the ``joint``."""
    end = (start[0] + LINE_MM, start[1])
    canvas.setLineWidth(0.7)
    canvas.setDash([])
    for a, b in ((start, end), (end, joint)):
        canvas.line(*(value * PT_PER_MM for value in (*a, *b)))
    long = math.dist(end, joint) or 1.0
    arrow(
        canvas, (joint[0] * PT_PER_MM, joint[1] * PT_PER_MM), ((end[0] - joint[0]) / long, (end[1] - joint[1]) / long)
    )
    left = start[0] + SHIFT_MM
    for up in (1.0, -1.0):
        corners = ((left, start[1]), (left, start[1] + up * SIDE_MM), (left + SIDE_MM, start[1]))
        path = canvas.beginPath()
        for k, (x, y) in enumerate(corners):
            (path.lineTo if k else path.moveTo)(x * PT_PER_MM, y * PT_PER_MM)
        path.close()
        canvas.drawPath(path, stroke=1, fill=0)
        low = (start[1] + (0.9 if up > 0 else -3.2)) * PT_PER_MM
        fitted(canvas, "Paper", 7.0, start[0] * PT_PER_MM, low, f"a {lengths.bare(weld.throat)}", 10.0 * PT_PER_MM)
        fitted(canvas, "Paper", 7.0, (left + SIDE_MM + 1.0) * PT_PER_MM, low, lengths.bare(weld.long), 16.0 * PT_PER_MM)

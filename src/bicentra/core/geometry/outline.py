"""Closed outlines of exact lines and arcs; what of some lines no other one lies on."""

import math
from functools import lru_cache

import numpy as np
import shapely
from numpy.typing import NDArray

from bicentra.core.base.cache import cached_property
from bicentra.core.base.numbers import Pure
from bicentra.core.base.records import Record

Point = tuple[float, float]
FloatArray = NDArray[np.float64]

TOUCH_MM = 1e-7
"""Two points closer than this are one point: far below anything that can be measured or cut."""


class Segment(Record, frozen=True):
    """One piece of an outline: from ``start`` to ``end`` with ``bulge``; straight when the bulge is zero."""

    start: Point
    end: Point
    bulge: float = 0.0

    @cached_property
    def sweep(self) -> float:
        """Angle swept by the arc [rad], positive counter-clockwise; 0 for a line."""
        return 4.0 * math.atan(self.bulge)

    @cached_property
    def radius(self) -> float:
        """Radius of the arc [mm]; infinite for a line."""
        if self.bulge == 0.0:
            return math.inf
        return math.dist(self.start, self.end) * (1 + self.bulge**2) / (4 * abs(self.bulge))

    @cached_property
    def centre(self) -> Point:
        """Centre of the arc [mm]. Only for arcs."""
        (x0, y0), (x1, y1), b = self.start, self.end, self.bulge
        k = (1 - b * b) / (4 * b)
        return (x0 + x1) / 2 - k * (y1 - y0), (y0 + y1) / 2 + k * (x1 - x0)

    @cached_property
    def length(self) -> float:
        """Length along the segment [mm]."""
        if self.bulge == 0.0:
            return math.dist(self.start, self.end)
        return self.radius * abs(self.sweep)

    def points(self, chord_error: float) -> FloatArray:
        """Return (n, 2) float, mm: points along the segment without its end, so that chords stay within ``chord_error``."""
        if self.bulge == 0.0 or math.dist(self.start, self.end) < TOUCH_MM:
            return np.array([self.start])
        radius, (cx, cy) = self.radius, self.centre
        step = 2 * math.acos(max(-1.0, 1 - min(chord_error / radius, 1.0)))
        count = max(2, math.ceil(abs(self.sweep) / max(step, 1e-3)))
        first = math.atan2(self.start[1] - cy, self.start[0] - cx)
        angles = first + self.sweep * np.arange(count) / count
        found = np.empty((count, 2))
        found[:, 0], found[:, 1] = cx + radius * np.cos(angles), cy + radius * np.sin(angles)
        return found

    def distance_to(self, point: Point) -> float:
        """Return the exact distance [mm] from ``point`` to the nearest place on this segment."""
        if self.bulge == 0.0 or math.dist(self.start, self.end) < TOUCH_MM:
            return _line_distance(point, self.start, self.end)
        centre = self.centre
        angle = math.atan2(point[1] - centre[1], point[0] - centre[0])
        if self._sweeps_over(angle):
            return abs(math.dist(point, centre) - self.radius)
        return min(math.dist(point, self.start), math.dist(point, self.end))

    @property
    def farthest(self) -> float:
        """How far from the origin it reaches [mm]."""
        ends = max(math.hypot(*self.start), math.hypot(*self.end))
        if self.bulge == 0.0 or math.dist(self.start, self.end) < TOUCH_MM:
            return ends
        (cx, cy), away = self.centre, math.hypot(*self.centre)
        return max(ends, away + self.radius) if self._sweeps_over(math.atan2(cy, cx)) else ends

    def _sweeps_over(self, angle: float) -> bool:
        cx, cy = self.centre
        first = math.atan2(self.start[1] - cy, self.start[0] - cx)
        turned = (angle - first) * (1 if self.bulge > 0 else -1) % (2 * math.pi)
        return turned <= abs(self.sweep) + 1e-12 or turned >= 2 * math.pi - 1e-12

    def extremes(self) -> list[Point]:
        """Return the points that bound this segment [mm]: its start and, for an arc, the quadrant points it passes."""
        found = [self.start]
        if self.bulge != 0.0:
            (cx, cy), radius = self.centre, self.radius
            for angle in (0.0, math.pi / 2, math.pi, 3 * math.pi / 2):
                if self._sweeps_over(angle):
                    found.append((cx + radius * math.cos(angle), cy + radius * math.sin(angle)))
        return found


class Outline(Record, frozen=True):
    """A closed outline, counter-clockwise: ``vertices`` are (x, y, bulge) in mm."""

    vertices: tuple[tuple[float, float, float], ...]

    @cached_property
    def segments(self) -> tuple[Segment, ...]:
        """The segments in order; the last one closes the outline."""
        here = self.vertices
        after = here[1:] + here[:1]
        return tuple(Segment((a[0], a[1]), (b[0], b[1]), a[2]) for a, b in zip(here, after))

    @property
    def area(self) -> float:
        """Enclosed area [mm2], exact: the polygon of the vertices plus a circular segment for each bulge."""
        return self._moments()[0]

    @property
    def centroid(self) -> Point:
        """Centre of area [mm], exact."""
        area, mx, my = self._moments()
        return mx / area, my / area

    def _moments(self) -> tuple[float, float, float]:
        """Return area and first moments by Green's theorem, lines and circular segments apart."""
        area = mx = my = 0.0
        for seg in self.segments:
            (x0, y0), (x1, y1) = seg.start, seg.end
            cross = x0 * y1 - x1 * y0
            area += cross / 2
            mx += (x0 + x1) * cross / 6
            my += (y0 + y1) * cross / 6
            if seg.bulge != 0.0:
                cap, (gx, gy) = _cap(seg)
                area += cap
                mx += cap * gx
                my += cap * gy
        return area, mx, my

    @property
    def perimeter(self) -> float:
        """Length of the outline [mm]."""
        return sum(seg.length for seg in self.segments)

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """(x_min, y_min, x_max, y_max) [mm], arcs included exactly."""
        points = [point for seg in self.segments for point in seg.extremes()]
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        return min(xs), min(ys), max(xs), max(ys)

    def distance_to(self, point: Point) -> float:
        """Return the exact distance [mm] from ``point`` to the outline, whichever side it lies on."""
        return min(seg.distance_to(point) for seg in self.segments)

    @property
    def farthest(self) -> float:
        """How far from the origin it reaches [mm], arcs included exactly."""
        return max(seg.farthest for seg in self.segments)

    def polygon(self, chord_error: float = 0.01) -> FloatArray:
        """Return (n, 2) float, mm: points on the outline whose chords stay within ``chord_error`` of it."""
        return _polygon(self, chord_error)

    def mirrored(self) -> "Outline":
        """Return the mirror image in the y axis, still counter-clockwise."""
        flipped = [Segment((-s.end[0], s.end[1]), (-s.start[0], s.start[1]), s.bulge) for s in self.segments]
        return Outline(tuple((s.start[0], s.start[1], s.bulge) for s in reversed(flipped)))


@lru_cache(maxsize=512)
def _polygon(outline: Outline, chord_error: float) -> FloatArray:
    """Kept, for the same outline is asked for by every finding of a solve; nobody may write into it."""
    points = np.concatenate([seg.points(chord_error) for seg in outline.segments])
    points.setflags(write=False)
    return points


def circle_outline(centre: Point, radius: float) -> Outline:
    """Return a full circle as two half arcs [mm]."""
    cx, cy = centre
    return Outline(((cx + radius, cy, 1.0), (cx - radius, cy, 1.0)))


def slot_outline(ends: tuple[Point, ...], radius: float) -> Outline:
    """Return the outline of a slot round the line between its ``ends`` [mm]; a circle where they are one."""
    (ax, ay), (bx, by) = ends[0], ends[-1]
    long = math.dist(ends[0], ends[-1])
    if long == 0.0:
        return circle_outline(ends[0], radius)
    nx, ny = -(ay - by) / long * radius, (ax - bx) / long * radius
    return Outline(((ax - nx, ay - ny, 1.0), (ax + nx, ay + ny, 0.0), (bx + nx, by + ny, 1.0), (bx - nx, by - ny, 0.0)))


def bulge_between(start: Point, end: Point, centre: Point, counter_clockwise: bool) -> Pure:
    """Return the bulge of the arc from ``start`` to ``end`` about ``centre`` [mm] in the direction asked for."""
    a0 = math.atan2(start[1] - centre[1], start[0] - centre[0])
    a1 = math.atan2(end[1] - centre[1], end[0] - centre[0])
    sweep = (a1 - a0) % (2 * math.pi)
    if not counter_clockwise:
        sweep -= 2 * math.pi
    return math.tan(sweep / 4)


def _cap(seg: Segment) -> tuple[float, Point]:
    """Return signed area and centroid of the circular segment between an arc and its chord."""
    r, a = seg.radius, abs(seg.sweep)
    area = r * r * (a - math.sin(a)) / 2
    sign = 1.0 if seg.bulge > 0 else -1.0
    reach = 4 * r * math.sin(a / 2) ** 3 / (3 * (a - math.sin(a))) if area > 1e-15 else r
    (cx, cy), (x0, y0), (x1, y1) = seg.centre, seg.start, seg.end
    chord = math.dist(seg.start, seg.end) or 1.0
    nx, ny = sign * (y1 - y0) / chord, -sign * (x1 - x0) / chord
    return sign * area, (cx + reach * nx, cy + reach * ny)


def _line_distance(point: Point, start: Point, end: Point) -> float:
    dx, dy = end[0] - start[0], end[1] - start[1]
    square = dx * dx + dy * dy
    if square == 0.0:
        return math.dist(point, start)
    t = max(0.0, min(1.0, ((point[0] - start[0]) * dx + (point[1] - start[1]) * dy) / square))
    return math.dist(point, (start[0] + t * dx, start[1] + t * dy))


Line = tuple[Point, ...]
SHORTEST_MM = 0.2
"""A piece that is left is dropped when it is shorter [mm]."""


def uncovered(lines: list[Line], over: list[Line], within: float) -> tuple[Line, ...]:
    """Return what of ``lines`` lies further than ``within`` [mm] from the lines ``over`` them, and each such piece only once."""
    seen = shapely.union_all([shapely.LineString(line) for line in over if len(line) > 1]).buffer(within)
    left: list[Line] = []
    for line in lines:
        rest = shapely.LineString(line).difference(seen) if len(line) > 1 else shapely.LineString()
        pieces = [piece for piece in shapely.get_parts(rest) if piece.length > SHORTEST_MM]
        left += [tuple((float(x), float(y)) for x, y in piece.coords) for piece in pieces]
        seen = seen.union(rest.buffer(within)) if pieces else seen
    return tuple(left)

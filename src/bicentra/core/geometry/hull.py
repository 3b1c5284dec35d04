"""The convex outline round a set of discs; traced outlines of very many points, made few."""

import math
from functools import lru_cache

import shapely

from bicentra.core.base.errors import OutlineError
from bicentra.core.base.records import Record
from bicentra.core.geometry.outline import TOUCH_MM, Outline, Point, circle_outline


class Disc(Record, frozen=True):
    """A disc: centre and radius [mm]."""

    centre: Point
    radius: float

    def support(self, angle: float) -> float:
        """Return how far the disc reaches in the direction ``angle`` [rad]."""
        return self.centre[0] * math.cos(angle) + self.centre[1] * math.sin(angle) + self.radius

    def at(self, angle: float) -> Point:
        """Return the point of the rim in the direction ``angle`` [rad]."""
        return self.centre[0] + self.radius * math.cos(angle), self.centre[1] + self.radius * math.sin(angle)


def convex_outline(discs: tuple[Disc, ...]) -> Outline:
    """Return the outline round ``discs``. Raises ``OutlineError`` when there is none or one is unknown."""
    if not discs or not all(math.isfinite(v) for d in discs for v in (*d.centre, d.radius)):
        raise OutlineError("the plate's outline needs every hole's place, bolt and wall")
    turns = sorted({_wrapped(angle) for angle in _changes(discs)})
    if not turns:
        largest = max(discs, key=lambda d: d.radius)
        return circle_outline(largest.centre, largest.radius)
    vertices: list[tuple[float, float, float]] = []
    for first, after in zip(turns, [*turns[1:], turns[0] + 2 * math.pi]):
        middle = (first + after) / 2
        disc = max(discs, key=lambda d: d.support(middle))
        _append_arc(vertices, disc, first, after)
    return Outline(tuple(_without_repeats(vertices)))


def _changes(discs: tuple[Disc, ...]) -> list[float]:
    """Return the directions [rad] at which two discs share the lead of the support function."""
    found: list[float] = []
    for j, b in enumerate(discs):
        for a in discs[:j]:
            dx, dy = a.centre[0] - b.centre[0], a.centre[1] - b.centre[1]
            apart, bigger = math.hypot(dx, dy), b.radius - a.radius
            if apart <= abs(bigger) + TOUCH_MM:
                continue
            bearing, spread = math.atan2(dy, dx), math.acos(bigger / apart)
            for angle in (bearing - spread, bearing + spread):
                if max(d.support(angle) for d in discs) <= a.support(angle) + TOUCH_MM:
                    found.append(angle)
    return found


def _wrapped(angle: float) -> float:
    """Return ``angle`` in 0 to 2π, rounded so that equal directions meet."""
    return round(angle % (2 * math.pi), 12) % round(2 * math.pi, 12)


def _append_arc(vertices: list[tuple[float, float, float]], disc: Disc, first: float, after: float) -> None:
    """Add the arc of ``disc`` between two directions, and the vertex where the next tangent line starts."""
    (x0, y0), (x1, y1) = disc.at(first), disc.at(after)
    vertices.append((x0, y0, math.tan((after - first) / 4)))
    vertices.append((x1, y1, 0.0))


def _without_repeats(vertices: list[tuple[float, float, float]]) -> list[tuple[float, float, float]]:
    """Drop the lines of no length that stand between two arcs of one disc."""
    count = len(vertices)
    return [
        v for k, v in enumerate(vertices) if v[2] != 0.0 or math.dist(v[:2], vertices[(k + 1) % count][:2]) > TOUCH_MM
    ]


Points = tuple[tuple[float, float], ...]
MOST_POINTS, GROWN_MM, OFF_MM = 200, 0.05, 0.04
"""Points up to which an outline is left as it is; how far it is grown before points are left out, and how far those may lie off
[mm]: less than it is grown, so that nothing of it is lost."""


def few_points(shape: shapely.Geometry) -> shapely.Geometry:
    """Return ``shape``, or one of fewer points that holds it and is at most a tenth of a millimetre larger.

    What keeps too many points even then (a star, a saw) is taken as its convex hull.
    """
    if shapely.get_num_coordinates(shape) <= MOST_POINTS:
        return shape
    for whole in (shape, shape.convex_hull):
        made = whole.buffer(GROWN_MM, quad_segs=2).simplify(OFF_MM)
        if shapely.get_num_coordinates(made) <= 2 * MOST_POINTS:
            break
    return made


@lru_cache(maxsize=64)
def few(points: Points) -> Points:
    """Return the outline of ``points`` (closed, first not repeated) with few points, as ``few_points`` has it [mm]."""
    if len(points) <= MOST_POINTS:
        return points
    made = few_points(shapely.make_valid(shapely.Polygon(points)))
    largest = max(shapely.get_parts(made), key=lambda part: part.area) if made.geom_type != "Polygon" else made
    return tuple((float(x), float(y)) for x, y in largest.exterior.coords[:-1])

"""Cutting room for what turns about the wheel axis out of an outline: an arc about the axis with rounded corners."""

import math

from bicentra.core.base.errors import OutlineError
from bicentra.core.base.records import Record
from bicentra.core.geometry.outline import TOUCH_MM, Outline, Point, Segment, bulge_between, circle_outline


class Crossing(Record, frozen=True):
    """Where an outline meets the circle: on segment ``index``, at ``point``; ``entering`` when it runs into it."""

    index: int
    point: Point
    entering: bool


class Relieved(Record, frozen=True):
    """The outline after the cut; ``window`` is the hole left when the circle lies wholly inside the plate."""

    outline: Outline
    window: Outline | None = None


def relieve(outline: Outline, radius: float, corner: float) -> Relieved:
    """Return ``outline`` with the disc of ``radius`` [mm] about the origin cut out, corners rounded by ``corner``.

    Raises ``OutlineError`` when the disc swallows the plate or cuts it in two.
    """
    crossings = _crossings(outline, radius)
    if not crossings:
        return _uncut(outline, radius)
    if len(crossings) != 2:
        raise OutlineError(
            f"the room of Ø {2 * radius:.1f} mm for hub or rotor cuts the plate in {len(crossings) // 2} pieces; "
            "turn the caliper, raise the wall round the holes, or change the plate's side"
        )
    into = next(c for c in crossings if c.entering)
    out = next(c for c in crossings if not c.entering)
    return Relieved(_notched(outline, radius, corner, into, out))


def _uncut(outline: Outline, radius: float) -> Relieved:
    vertex = outline.vertices[0]
    if math.hypot(vertex[0], vertex[1]) < radius:
        raise OutlineError(f"the whole plate lies inside the room of Ø {2 * radius:.1f} mm kept for hub or rotor")
    if outline.distance_to((0.0, 0.0)) >= radius and not contains_axis(outline):
        return Relieved(outline)
    return Relieved(outline, circle_outline((0.0, 0.0), radius))


def contains_axis(outline: Outline) -> bool:
    """Tell whether the wheel axis lies inside ``outline``: seen from there, one turn is made round it."""
    points = outline.polygon(0.5).tolist()
    turned = sum(
        math.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1])
        for a, b in zip(points, [*points[1:], points[0]])
    )
    return abs(turned) > math.pi


def _crossings(outline: Outline, radius: float) -> list[Crossing]:
    """Return where ``outline`` crosses the circle, in order along it."""
    found: list[Crossing] = []
    for index, seg in enumerate(outline.segments):
        points = _line_hits(seg, radius) if seg.bulge == 0.0 else _arc_hits(seg, radius)
        for point, inward in sorted(points, key=lambda hit: math.dist(hit[0], seg.start)):
            found.append(Crossing(index, point, inward))
    return found


def _line_hits(seg: Segment, radius: float) -> list[tuple[Point, bool]]:
    (x0, y0), (x1, y1) = seg.start, seg.end
    dx, dy = x1 - x0, y1 - y0
    a, b, c = dx * dx + dy * dy, x0 * dx + y0 * dy, x0 * x0 + y0 * y0 - radius * radius
    root = b * b - a * c
    if root <= TOUCH_MM:
        return []
    roots = ((-b - math.sqrt(root)) / a, (-b + math.sqrt(root)) / a)
    return [((x0 + t * dx, y0 + t * dy), k == 0) for k, t in enumerate(roots) if 0.0 <= t < 1.0]


def _arc_hits(seg: Segment, radius: float) -> list[tuple[Point, bool]]:
    """Crossings of an arc; the direction follows from its tangent there."""
    hits = []
    (cx, cy), turn = seg.centre, 1.0 if seg.bulge > 0 else -1.0
    for x, y in circle_meetings(((0.0, 0.0), radius), (seg.centre, seg.radius)):
        if seg.distance_to((x, y)) < 1e-6 and math.dist((x, y), seg.end) > TOUCH_MM:
            tangent = (-turn * (y - cy), turn * (x - cx))
            hits.append(((x, y), tangent[0] * x + tangent[1] * y < 0))
    return hits


def circle_meetings(one: tuple[Point, float], other: tuple[Point, float]) -> list[Point]:
    """Return the two points where circles (centre, radius) cross [mm]; none when they touch, miss or are nested."""
    (x0, y0), r0 = one
    (x1, y1), r1 = other
    d = math.hypot(x1 - x0, y1 - y0)
    if d <= TOUCH_MM or d >= r0 + r1 - TOUCH_MM or d <= abs(r0 - r1) + TOUCH_MM:
        return []
    along = (d * d + r0 * r0 - r1 * r1) / (2 * d)
    across = math.sqrt(max(r0 * r0 - along * along, 0.0))
    ux, uy = (x1 - x0) / d, (y1 - y0) / d
    return [(x0 + along * ux - s * across * uy, y0 + along * uy + s * across * ux) for s in (1.0, -1.0)]


class _Corner(Record, frozen=True):
    """A rounded corner: where it leaves the outline, where it meets the cut, and its centre (``None``: sharp)."""

    on_edge: Point
    on_cut: Point
    centre: Point | None


def _corner(seg: Segment, at: Point, radius: float, corner: float) -> _Corner:
    """Return the corner of radius ``corner``, or half as large, or sharp, where ``seg`` meets the circle at ``at``."""
    for size in (corner, corner / 2, corner / 4):
        centres = [c for c in _fillet_centres(seg, radius, size) if math.dist(c, at) < 4 * size + 1.0]
        for centre in sorted(centres, key=lambda c: math.dist(c, at)):
            foot = _foot(seg, centre)
            if foot is not None and seg.distance_to(foot) < 1e-6:
                far = math.hypot(*centre)
                return _Corner(foot, (centre[0] * radius / far, centre[1] * radius / far), centre)
    return _Corner(at, at, None)


def _fillet_centres(seg: Segment, radius: float, size: float) -> list[Point]:
    """Return centres at ``size`` inside ``seg`` and ``size`` outside the circle: tangent to both."""
    if seg.bulge != 0.0:
        return circle_meetings(((0.0, 0.0), radius + size), (seg.centre, abs(seg.radius - size)))
    (x0, y0), (x1, y1) = seg.start, seg.end
    long = math.dist(seg.start, seg.end)
    nx, ny = -(y1 - y0) / long * size, (x1 - x0) / long * size
    reach = (radius + size) * 4 / long
    dx, dy = (x1 - x0) * reach, (y1 - y0) * reach
    wide = Segment((x0 + nx - dx, y0 + ny - dy), (x1 + nx + dx, y1 + ny + dy))
    return [point for point, _ in _line_hits(wide, radius + size)]


def _foot(seg: Segment, centre: Point) -> Point | None:
    """Return the point of ``seg``'s line or circle nearest to ``centre``."""
    if seg.bulge != 0.0:
        (cx, cy), away = seg.centre, math.dist(seg.centre, centre)
        if away < TOUCH_MM:
            return None
        k = seg.radius / away
        return cx + (centre[0] - cx) * k, cy + (centre[1] - cy) * k
    (x0, y0), (x1, y1) = seg.start, seg.end
    dx, dy = x1 - x0, y1 - y0
    t = ((centre[0] - x0) * dx + (centre[1] - y0) * dy) / (dx * dx + dy * dy)
    return x0 + t * dx, y0 + t * dy


def _notched(outline: Outline, radius: float, corner: float, into: Crossing, out: Crossing) -> Outline:
    """Follow the outline from ``out`` round to ``into``, then back along the cut."""
    segments = outline.segments
    leave = _corner(segments[out.index], out.point, radius, corner)
    enter = _corner(segments[into.index], into.point, radius, corner)
    vertices: list[tuple[float, float, float]] = []
    index, start = out.index, leave.on_edge
    while True:
        seg = segments[index]
        last = index == into.index and (index != out.index or len(vertices) > 0 or _ahead(seg, start, enter.on_edge))
        end = enter.on_edge if last else seg.end
        bulge = 0.0 if seg.bulge == 0.0 else bulge_between(start, end, seg.centre, seg.bulge > 0)
        vertices.append((*start, bulge))
        if last:
            break
        index = (index + 1) % len(segments)
        start = segments[index].start
    _append_corner(vertices, enter.on_edge, enter.on_cut, enter.centre)
    vertices.append((*enter.on_cut, bulge_between(enter.on_cut, leave.on_cut, (0.0, 0.0), False)))
    _append_corner(vertices, leave.on_cut, leave.on_edge, leave.centre)
    return Outline(tuple(vertices))


def _ahead(seg: Segment, start: Point, end: Point) -> bool:
    """Tell whether ``end`` comes after ``start`` along one and the same segment."""
    return math.dist(seg.start, start) < math.dist(seg.start, end)


def _append_corner(vertices: list[tuple[float, float, float]], start: Point, end: Point, centre: Point | None) -> None:
    if centre is not None:
        vertices.append((*start, bulge_between(start, end, centre, True)))

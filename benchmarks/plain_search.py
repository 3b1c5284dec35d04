"""The clock search as a plain Python loop over single angles, without NumPy and Shapely.

A second way to the same answer, written from the geometry alone: the bench times it, the tests compare its verdicts
with the vectorised search.
"""

import math

from bicentra.core.bracket.assembly import Assembly, assemble
from bicentra.core.bracket.plate import keep_out_radius
from bicentra.core.geometry.prism import Prism
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for

Point = tuple[float, float]


def plain_search(job: Job, angles: list[float]) -> list[set[str]]:
    """Return for each of ``angles`` [degrees] the ids of the checks that stop the bracket there."""
    assembly = assemble(job)
    return [stops_at(assembly, math.radians(angle)) for angle in angles]


def stops_at(assembly: Assembly, clock: float) -> set[str]:
    """Return the ids of the checks that stop the bracket at one angle [rad]."""
    job, found = assembly.job, set()
    u, w = (math.cos(clock), math.sin(clock)), (-math.sin(clock), math.cos(clock))
    ears = _ears(assembly, u, w)
    plate = _hull(assembly, ears)
    box = _box(assembly, u, w)
    values = {
        "ligament": _ligament(assembly, ears),
        "bolt-head-room": _head_room(assembly, ears, box),
        "caliper-to-obstacle": _obstacles(assembly, ears, box),
        "bracket-to-obstacle": _plate_obstacles(assembly, plate),
        "bracket-to-caliper": _stacked(
            _polygons(plate, box), _apart(assembly.stack_up.z_range, (assembly.body.z0, assembly.body.z1))
        ),
    }
    for name, value in values.items():
        if not value >= limit_for(job, name).stop - 1e-9:
            found.add(name)
    off = min(abs((math.degrees(clock) + b - 90 + 180) % 360 - 180) for b in job.caliper.bleeders_deg)
    if off > limit_for(job, "bleeder-up").stop + 1e-9:
        found.add("bleeder-up")
    if _dips(plate, keep_out_radius(assembly)) > 1:
        found.add("bracket-to-hub")
    return found


def _ears(assembly: Assembly, u: Point, w: Point) -> list[Point]:
    b, half = assembly.line.ear_line_radius, assembly.job.caliper.ear_spacing_mm / 2
    return [(b * u[0] + s * half * w[0], b * u[1] + s * half * w[1]) for s in (1, -1)]


def _box(assembly: Assembly, u: Point, w: Point) -> list[Point]:
    body = assembly.body
    corners = ((body.inner, -1), (body.outer, -1), (body.outer, 1), (body.inner, 1))
    return [(r * u[0] + s * body.half_width * w[0], r * u[1] + s * body.half_width * w[1]) for r, s in corners]


def _apart(one: tuple[float, float], other: tuple[float, float]) -> float:
    return max(one[0] - other[1], other[0] - one[1])


def _stacked(flat: float, height: float) -> float:
    return math.hypot(flat, height) if flat > 0 and height > 0 else max(flat, height)


def _ligament(assembly: Assembly, ears: list[Point]) -> float:
    lugs = [(h.centre, h.diameter) for h in assembly.lug_holes]
    holes = lugs + [(e, h.diameter) for e, h in zip(ears, assembly.ear_holes)]
    return min(math.dist(a[0], b[0]) - (a[1] + b[1]) / 2 for i, a in enumerate(holes) for b in holes[:i])


def _head_room(assembly: Assembly, ears: list[Point], box: list[Point]) -> float:
    values = []
    body = (assembly.body.z0, assembly.body.z1)
    for round_one in assembly.fixed:
        for ear, others in zip(ears, assembly.turning):
            values += [_rounds(round_one, other, ear) for other in others]
        if "bolt" in round_one.feature:
            flat = _point_polygon(round_one.at, box) - round_one.radius
            values.append(_stacked(flat, _apart((round_one.z0, round_one.z1), body)))
    return min(values)


def _rounds(round_one: Prism, other: Prism, at: Point) -> float:
    flat = math.dist(round_one.at, at) - round_one.radius - other.radius
    return _stacked(flat, _apart((round_one.z0, round_one.z1), (other.z0, other.z1)))


def _obstacles(assembly: Assembly, ears: list[Point], box: list[Point]) -> float:
    body, values = (assembly.body.z0, assembly.body.z1), []
    for round_one in (p for p in assembly.fixed if "bolt" not in p.feature):
        flat = _point_polygon(round_one.at, box) - round_one.radius
        values.append(_stacked(flat, _apart((round_one.z0, round_one.z1), body)))
    for obstacle in assembly.job.knuckle.obstacles:
        reach, shape = (obstacle.z_min_mm, obstacle.z_max_mm), list(obstacle.outline_mm)
        values.append(_stacked(_polygons(box, shape), _apart(reach, body)))
        for ear, rounds in zip(ears, assembly.turning):
            for round_one in rounds:
                flat = _point_polygon(ear, shape) - round_one.radius
                values.append(_stacked(flat, _apart(reach, (round_one.z0, round_one.z1))))
    return min(values)


def _plate_obstacles(assembly: Assembly, plate: list[Point]) -> float:
    z, values = assembly.stack_up.z_range, [math.inf]
    for obstacle in assembly.job.knuckle.obstacles:
        height = _apart((obstacle.z_min_mm, obstacle.z_max_mm), z)
        values.append(_stacked(_polygons(plate, list(obstacle.outline_mm)), height))
    return min(values)


def _hull(assembly: Assembly, ears: list[Point]) -> list[Point]:
    """Convex outline of points on every boss, by the monotone chain (Andrew 1979, from memory)."""
    centres = [h.centre for h in assembly.lug_holes] + ears
    turns = [(math.cos(2 * math.pi * k / 128), math.sin(2 * math.pi * k / 128)) for k in range(128)]
    points = sorted(
        (c[0] + h.boss_radius * x, c[1] + h.boss_radius * y) for c, h in zip(centres, assembly.holes) for x, y in turns
    )

    def half(order: list[Point]) -> list[Point]:
        chain: list[Point] = []
        for p in order:
            while len(chain) > 1 and _cross(chain[-2], chain[-1], p) <= 0:
                chain.pop()
            chain.append(p)
        return chain[:-1]

    return half(points) + half(points[::-1])


def _cross(a: Point, b: Point, c: Point) -> float:
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])


def _edges(shape: list[Point]) -> list[tuple[Point, Point]]:
    return list(zip(shape, shape[1:] + shape[:1]))


def _inside(p: Point, shape: list[Point]) -> bool:
    odd = False
    for (x0, y0), (x1, y1) in _edges(shape):
        if (y0 > p[1]) != (y1 > p[1]) and p[0] < (x1 - x0) * (p[1] - y0) / (y1 - y0) + x0:
            odd = not odd
    return odd


def _point_edge(p: Point, a: Point, b: Point) -> float:
    dx, dy = b[0] - a[0], b[1] - a[1]
    t = max(0.0, min(1.0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy or 1.0)))
    return math.dist(p, (a[0] + t * dx, a[1] + t * dy))


def _point_polygon(p: Point, shape: list[Point]) -> float:
    return 0.0 if _inside(p, shape) else min(_point_edge(p, a, b) for a, b in _edges(shape))


def _polygons(one: list[Point], other: list[Point]) -> float:
    """Distance of two polygons: 0 when they meet, else the least of every corner to every edge."""
    for a, b in _edges(one):
        for c, d in _edges(other):
            if _cross(a, b, c) * _cross(a, b, d) < 0 and _cross(c, d, a) * _cross(c, d, b) < 0:
                return 0.0
    if _inside(one[0], other) or _inside(other[0], one):
        return 0.0
    there = [_point_edge(p, a, b) for p in one for a, b in _edges(other)]
    return min(there + [_point_edge(p, a, b) for p in other for a, b in _edges(one)])


def _dips(plate: list[Point], room: float) -> int:
    """How many times the outline dips into the disc about the axis."""
    if room <= 0:
        return 1
    near = [_point_edge((0.0, 0.0), a, b) < room for a, b in _edges(plate)]
    return sum(here and not before for before, here in zip(near[-1:] + near, near))

"""Starting places for the adjustment, one feature after another from the axle outward; and mirror images that fit as well."""

import math
from collections.abc import Iterable, Mapping
from itertools import combinations

import numpy as np

from bicentra.core.base.records import Record
from bicentra.core.survey.network import SENSE_SIGNS, Array, Network, Reading

Place = tuple[float, float]
"""(x, y) of a point [mm], or (angle [rad], offset [mm]) of an edge."""

SPINS = (1.1, 2.2, 3.3, 4.4, 5.5)
"""Turns of a guess that are tried [rad] when nothing that fits came of the first."""
MOST_WAYS, MOST_PAIRED, MOST_OPEN = 8, 5, 4
ROUGH_MM, GOOD_MISFIT, MOST_MISFIT, HOPELESS = 1.0, 25.0, 400.0, 900.0
SAME_MM, SIDE_MM, LEVER_MM = 4.0, 2.0, 60.0
SIDES = {"above": (0.0, 1.0), "below": (0.0, -1.0), "ahead": (1.0, 0.0), "behind": (-1.0, 0.0)}
SIDE_WORDS = {
    "above": ("upper", "top"),
    "below": ("lower", "bottom"),
    "ahead": ("front", "forward"),
    "behind": ("rear", "back"),
}


class Tie(Record, frozen=True):
    """What one reading says about one feature as seen from another: a distance [mm] or a direction [rad]."""

    other: str
    kind: str
    value: float


class StartWay(Record, frozen=True):
    """One way the features may lie, how badly it misses the readings, and the features it could not place."""

    places: Mapping[str, Place]
    misfit: float
    guessed: frozenset[str] = frozenset()


def starting_ways(network: Network, hints: Mapping[str, Place], spin: float = 0.0) -> tuple[StartWay, ...]:
    """Return the ways the features of ``network`` may lie, best first; ``hints`` are places known from elsewhere.

    Where a feature has to be guessed (readings that only hold together, not one by one), ``spin`` turns the guess [rad].
    """
    ties = _ties(network, diameters_at_start(network))
    return tuple(sorted(_ways(network, hints, ties, spin), key=lambda way: way.misfit))


def _ways(network: Network, hints: Mapping[str, Place], ties: dict[str, list[Tie]], spin: float) -> list[StartWay]:
    """Return the ways that follow from guesses turned by ``spin`` [rad]."""
    first = network.origin or (network.points[0] if network.points else "")
    ways = [StartWay({first: (0.0, 0.0)}, 0.0)]
    left = [name for name in (*network.points, *network.edges) if name != first]
    while left:
        name = max(left, key=lambda n: (_strength(ties.get(n, []), ways[0].places), -left.index(n)))
        left.remove(name)
        ways = [grown for way in ways for grown in _with(name, way, ties.get(name, []), network, hints, spin)]
        best = min(way.misfit for way in ways)
        ways = sorted((w for w in ways if w.misfit < best + HOPELESS), key=lambda way: way.misfit)[:MOST_WAYS]
    return ways


def diameters_at_start(network: Network) -> dict[str, float]:
    """Return a starting diameter for each feature: as read, else from a pair of near and far readings, else 10 mm."""
    read = {r.ends[0]: r.value for r in network.readings if r.kind == "diameter"}
    pairs: dict[frozenset[str], dict[str, float]] = {}
    for reading in network.readings:
        if reading.kind == "distance":
            pairs.setdefault(frozenset(reading.ends), {})[reading.sense] = reading.value
    for ends, values in pairs.items():
        if "near-near" in values and "far-far" in values:
            unread = [name for name in ends if name not in read]
            both = values["far-far"] - values["near-near"] - sum(read.get(name, 0.0) for name in ends)
            read.update({name: max(both / max(len(unread), 1), 0.1) for name in unread})
    return {name: read.get(name, 10.0) for name in network.diameters}


def _ties(network: Network, diameters: dict[str, float]) -> dict[str, list[Tie]]:
    """Return what ties each feature to others, a radius taken off or added; several readings of one are averaged."""
    sums: dict[tuple[str, str, str], list[float]] = {}
    for reading in network.readings:
        if reading.kind == "diameter":
            continue
        a, b = (reading.ends[0], reading.ends[-1])
        if reading.kind == "edge-direction":
            sums.setdefault((a, a, "lean"), []).append(reading.value)
        elif reading.kind == "direction":
            sums.setdefault((b, a, "from"), []).append(reading.value)
            sums.setdefault((a, b, "from"), []).append(reading.value + math.pi)
        else:
            value = reading.value - _radii(reading, network, diameters)
            sums.setdefault((a, b, reading.kind), []).append(value)
            sums.setdefault((b, a, reading.kind), []).append(value)
    ties: dict[str, list[Tie]] = {}
    for (name, other, kind), values in sums.items():
        ties.setdefault(name, []).append(Tie(other, kind, sum(values) / len(values)))
    return ties


def _radii(reading: Reading, network: Network, diameters: dict[str, float]) -> float:
    total = 0.0
    for name, sign in zip(reading.ends, SENSE_SIGNS[reading.sense]):
        if network.features[name].kind == "round":
            total += sign * diameters.get(name, 0.0) / 2
    return total


def _strength(ties: Iterable[Tie], placed: Mapping[str, Place]) -> int:
    return sum(1 for tie in ties if tie.other in placed or tie.kind == "lean")


def _with(
    name: str, way: StartWay, ties: list[Tie], network: Network, hints: Mapping[str, Place], spin: float
) -> list[StartWay]:
    """Return ``way`` with ``name`` placed, in as many ways as the readings leave open."""
    usable = [tie for tie in ties if tie.other in way.places or tie.kind == "lean"]
    edge = name in network.edges
    found = _edge_places(usable, way.places) if edge else _point_places(usable, way.places)
    scored = _distinct([(_misfit(place, usable, way.places, edge), place) for place in found], edge)
    if not scored:
        guess = _guess(name, usable, way, hints, edge, spin)
        return [StartWay({**way.places, name: guess}, way.misfit, way.guessed | {name})]
    margin = GOOD_MISFIT if scored[0][0] < GOOD_MISFIT and len(usable) > 2 else MOST_MISFIT
    open_ = [row for row in scored if row[0] < scored[0][0] + margin][:MOST_OPEN]
    if len(open_) > 1:
        open_ = _settled(name, open_, network, hints, edge)
    return [StartWay({**way.places, name: place}, way.misfit + misfit, way.guessed) for misfit, place in open_]


def _distinct(rows: list[tuple[float, Place]], edge: bool) -> list[tuple[float, Place]]:
    """Return the best of each cluster of places, best first."""
    kept: list[tuple[float, Place]] = []
    lever = LEVER_MM if edge else 1.0
    for misfit, place in sorted(rows):
        flat = (place[0] * lever, place[1])
        if not any(_apart(flat, (other[0] * lever, other[1])) < SAME_MM for _, other in kept):
            kept.append((misfit, place))
    return kept


def _apart(one: Place, other: Place) -> float:
    return math.hypot(one[0] - other[0], one[1] - other[1])


def _point_places(ties: list[Tie], placed: Mapping[str, Place]) -> list[Place]:
    """Return every place where two of ``ties`` agree."""
    found: list[Place] = []
    for one, other in combinations(ties[:MOST_PAIRED], 2):
        kinds = {one.kind, other.kind}
        if kinds == {"distance"}:
            found += circles_meet(placed[one.other], one.value, placed[other.other], other.value)
        elif kinds == {"distance", "from"}:
            ray, arc = (one, other) if one.kind == "from" else (other, one)
            found += _ray_meets_circle(placed[ray.other], ray.value, placed[arc.other], arc.value)
        elif kinds == {"from"}:
            found += _rays_meet(placed[one.other], one.value, placed[other.other], other.value)
        elif "edge-distance" in kinds:
            found += _beside_edge(one, other, placed)
    return found


def circles_meet(a: Place, ra: float, b: Place, rb: float) -> list[Place]:
    """Return where two circles meet [mm]: two places, or the one between them where they just miss each other."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    long = math.hypot(dx, dy)
    if long < 1e-9:
        return []
    along = (ra * ra - rb * rb + long * long) / (2 * long)
    square = ra * ra - along * along
    ux, uy = dx / long, dy / long
    if square <= 0:
        along = max(-abs(ra), min(abs(ra), along))
        return [(a[0] + ux * along, a[1] + uy * along)]
    up = math.sqrt(square)
    foot = (a[0] + ux * along, a[1] + uy * along)
    return [(foot[0] - uy * up, foot[1] + ux * up), (foot[0] + uy * up, foot[1] - ux * up)]


def _ray_meets_circle(start: Place, angle: float, centre: Place, radius: float) -> list[Place]:
    ux, uy = math.cos(angle), math.sin(angle)
    cx, cy = centre[0] - start[0], centre[1] - start[1]
    along = cx * ux + cy * uy
    square = radius * radius - (cx * uy - cy * ux) ** 2
    root = math.sqrt(max(square, 0.0))
    return [(start[0] + ux * t, start[1] + uy * t) for t in {along + root, along - root} if t > 0]


def _rays_meet(a: Place, first: float, b: Place, second: float) -> list[Place]:
    cross = math.sin(second - first)
    if abs(cross) < 0.02:
        return []
    dx, dy = b[0] - a[0], b[1] - a[1]
    t = (dx * math.sin(second) - dy * math.cos(second)) / cross
    return [(a[0] + math.cos(first) * t, a[1] + math.sin(first) * t)] if t > 0 else []


def _beside_edge(one: Tie, other: Tie, placed: Mapping[str, Place]) -> list[Place]:
    """Return where a line beside an edge meets a circle, a ray or a line beside another edge."""
    edge, second = (one, other) if one.kind == "edge-distance" else (other, one)
    alpha, offset = placed[edge.other]
    u, n = (math.cos(alpha), math.sin(alpha)), (-math.sin(alpha), math.cos(alpha))
    found: list[Place] = []
    for side in (1.0, -1.0):
        p = offset + side * edge.value
        if second.kind == "distance":
            c = placed[second.other]
            off = p - (n[0] * c[0] + n[1] * c[1])
            root = math.sqrt(max(second.value**2 - off**2, 0.0))
            foot = (c[0] + n[0] * off, c[1] + n[1] * off)
            found += [(foot[0] + u[0] * t, foot[1] + u[1] * t) for t in (root, -root)]
        elif second.kind == "from":
            start = placed[second.other]
            way = (math.cos(second.value), math.sin(second.value))
            slope = n[0] * way[0] + n[1] * way[1]
            t = (p - n[0] * start[0] - n[1] * start[1]) / slope if abs(slope) > 0.02 else -1.0
            found += [(start[0] + way[0] * t, start[1] + way[1] * t)] if t > 0 else []
        elif second.kind == "edge-distance":
            beta, q = placed[second.other]
            cross = math.sin(beta - alpha)
            for other_side in (1.0, -1.0) if abs(cross) > 0.02 else ():
                r = q + other_side * second.value
                found.append(((p * math.cos(beta) - r * math.cos(alpha)) / cross,
                              (p * math.sin(beta) - r * math.sin(alpha)) / cross))  # fmt: skip
    return found


def _edge_places(ties: list[Tie], placed: Mapping[str, Place]) -> list[Place]:
    """Return every (angle, offset) an edge may have from its own lean and distances to what is placed."""
    leans = [tie.value for tie in ties if tie.kind == "lean"]
    far = [tie for tie in ties if tie.kind == "edge-distance"]
    found: list[Place] = []
    if leans:
        for tie in far:
            c = placed[tie.other]
            at = -math.sin(leans[0]) * c[0] + math.cos(leans[0]) * c[1]
            found += [(leans[0], at - tie.value), (leans[0], at + tie.value)]
        return found
    for one, other in combinations(far[:6], 2):
        a, b = placed[one.other], placed[other.other]
        dx, dy = b[0] - a[0], b[1] - a[1]
        long = math.hypot(dx, dy)
        for s in (1.0, -1.0):
            cosine = (s * other.value - one.value) / long if long > 1e-9 else 2.0
            if abs(cosine) > 1.0:
                continue
            for turn in (math.acos(cosine), -math.acos(cosine)):
                normal = math.atan2(dy, dx) + turn  # the normal's direction; n·a − p = value of the first
                p = math.cos(normal) * a[0] + math.sin(normal) * a[1] - one.value
                found.append((normal - math.pi / 2, p))
    return found


def _misfit(place: Place, ties: list[Tie], placed: Mapping[str, Place], edge: bool) -> float:
    """Return how badly ``place`` misses ``ties``: squares of mm, each held down so that one wrong reading cannot rule."""
    total = 0.0
    for tie in ties:
        if tie.kind == "lean":
            off = math.remainder(place[0] - tie.value, math.pi) * 100.0
        elif tie.kind == "edge-distance":
            (alpha, offset), c = (place, placed[tie.other]) if edge else (placed[tie.other], place)
            off = abs(-math.sin(alpha) * c[0] + math.cos(alpha) * c[1] - offset) - tie.value
        else:
            other = placed[tie.other]
            long = _apart(place, other)
            if tie.kind == "distance":
                off = long - tie.value
            else:
                turned = math.atan2(place[1] - other[1], place[0] - other[0]) - tie.value
                off = math.remainder(turned, 2 * math.pi) * max(long, 20.0)
        total += min((off / ROUGH_MM) ** 2, MOST_MISFIT)
    return total


def _settled(
    name: str, rows: list[tuple[float, Place]], network: Network, hints: Mapping[str, Place], edge: bool
) -> list[tuple[float, Place]]:
    """Return the rows that agree with the stated side, or with a place known from elsewhere; all when none is stated."""
    near = [row for row in rows if row[0] < rows[0][0] + GOOD_MISFIT]
    if len(near) < 2:
        return rows
    side = side_of(network, name)
    if side and not edge:
        sx, sy = SIDES[side]
        reach = [place[0] * sx + place[1] * sy for _, place in near]
        if max(reach) - min(reach) > SIDE_MM:
            return [near[reach.index(max(reach))]]
    if name in hints and not edge:
        far = sorted(near, key=lambda row: _apart(row[1], hints[name]))
        if _apart(far[0][1], hints[name]) < 0.7 * _apart(far[1][1], hints[name]):
            return [far[0]]
    return rows


def settled_by_word(name: str, one: Place, other: Place, network: Network, hints: Mapping[str, Place]) -> bool:
    """Tell whether a stated side or a place known from elsewhere says which of two places of a point is meant."""
    return len(_settled(name, [(0.0, one), (0.0, other)], network, hints, edge=False)) == 1


def side_of(network: Network, name: str) -> str:
    """Return the side a feature is stated to lie on, else the one its name says: an upper lug lies above."""
    stated = network.features[name].side
    words = name.lower().replace("-", " ").split()
    said = next((side for side, text in SIDE_WORDS.items() if any(word in text for word in words)), "")
    return stated or said


def _guess(name: str, ties: list[Tie], way: StartWay, hints: Mapping[str, Place], edge: bool, spin: float) -> Place:
    """Return a place for a feature that the readings do not fix; it is reported as loose, never as known."""
    turn = 2.6 + 0.7 * len(way.places) + spin
    lean = next((tie.value for tie in ties if tie.kind == "lean"), turn)
    if edge:
        return lean, 40.0
    far = next((tie for tie in ties if tie.kind == "distance"), None)
    ray = next((tie for tie in ties if tie.kind == "from"), None)
    hint = hints.get(name)
    if far is not None:
        c = way.places[far.other]
        angle = math.atan2(hint[1] - c[1], hint[0] - c[0]) if hint else turn
        return c[0] + far.value * math.cos(angle), c[1] + far.value * math.sin(angle)
    if ray is not None:
        c = way.places[ray.other]
        return c[0] + 80.0 * math.cos(ray.value), c[1] + 80.0 * math.sin(ray.value)
    return hint if hint else (80.0 * math.cos(turn), 80.0 * math.sin(turn))


APART_MM, DISTINCT = 1.0, 25.0
"""Twins closer than this are one place; readings that miss by more than this (sum of squares) tell them apart."""
Twin = tuple[str, Place, Place]


def twins(network: Network, x: Array, loose: frozenset[str], hints: Mapping[str, Place]) -> tuple[Twin, ...]:
    """Return every point with its place and its twin where nothing settles which is meant [mm]; ``x`` are the unknowns."""
    places = {name: (float(x[2 * k]), float(x[2 * k + 1])) for k, name in enumerate(network.points)}
    places[network.origin] = (0.0, 0.0)
    first = 2 * len(network.points)
    edges = {name: (float(x[first + 2 * k]), float(x[first + 2 * k + 1])) for k, name in enumerate(network.edges)}
    found = []
    for name in network.points:
        ties = [r for r in network.readings if name in r.ends and r.kind != "diameter"]
        if name in loose or any(r.kind == "direction" for r in ties):
            continue
        twin = _twin(name, ties, places, edges)
        if twin is None or math.dist(places[name], twin) < APART_MM:
            continue
        if _mirrors_distinct(name, ties, places, edges, twin):
            continue
        if not settled_by_word(name, places[name], twin, network, hints):
            found.append((name, places[name], twin))
    return tuple(found)


def _others(name: str, ties: list[Reading], places: dict[str, Place]) -> list[Place]:
    names = {end for r in ties for end in r.ends if end != name and end in places}
    return [places[other] for other in names]


def _twin(name: str, ties: list[Reading], places: dict[str, Place], edges: dict[str, Place]) -> Place | None:
    """Return the mirror image of a point behind the line through what it is tied to."""
    points = np.array(_others(name, ties, places)).reshape(-1, 2)
    leans = [edges[end][0] for r in ties for end in r.ends if end in edges]
    if len(points) == 0:
        return None
    middle = points.mean(axis=0)
    if len(points) >= 2:
        _, size, ways = np.linalg.svd(points - middle)
        way = ways[0] if size[0] > 1e-9 else None
    else:
        way = np.array([-math.sin(leans[0]), math.cos(leans[0])]) if leans else None
    if way is None:
        return None
    off = np.array(places[name]) - middle
    turned = middle + 2 * (off @ way) * way - off
    return float(turned[0]), float(turned[1])


def _mirrors_distinct(
    name: str, ties: list[Reading], places: dict[str, Place], edges: dict[str, Place], twin: Place
) -> bool:
    """Tell whether the readings to ``name`` would miss at the twin's place by more than their instruments allow."""
    total = 0.0
    for reading in ties:
        other = reading.ends[0] if reading.ends[1] == name else reading.ends[1]
        if other in edges:
            here, there = (_from_edge(edges[other], place) for place in (places[name], twin))
        else:
            here, there = (math.dist(place, places[other]) for place in (places[name], twin))
        total += ((here - there) / reading.sigma) ** 2
    return total > DISTINCT


def _from_edge(edge: Place, place: Place) -> float:
    return abs(-math.sin(edge[0]) * place[0] + math.cos(edge[0]) * place[1] - edge[1])

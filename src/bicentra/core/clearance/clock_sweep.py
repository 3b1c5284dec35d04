"""What depends on the clock angle, for one angle or for all at once; how near the caliper's body comes to what stands."""

import math
from collections.abc import Sequence
from itertools import combinations

import numpy as np
import shapely
from numpy.typing import NDArray

from bicentra.core.base.cache import cached_by_identity
from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.holes import Hole
from bicentra.core.bracket.turned import ear_centres, hole_ends
from bicentra.core.geometry.frame import in_plane
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import FAR_MM, Prism, Prisms, Shapes, pair_columns, plan_gap, prism_gaps, round_table
from bicentra.core.geometry.ring import Swept, distance, least, with_height
from bicentra.core.lineup.body import Body, slice_table


def is_placed(body: Body, clock_rad: FloatArray) -> bool:
    """Tell whether the body can be drawn at every one of the angles [rad]."""
    return body.is_known and bool(np.isfinite(clock_rad).all())


def slice_shapes(body: Body, wanted: Sequence[int], clock_rad: FloatArray, pulled: float = 0.0) -> Shapes:
    """Return (n, k) polygons: the k ``wanted`` slices seen along the axle at n clock angles [rad], or what they sweep
    when they are ``pulled`` outward along the caliper's radius [mm].
    """
    table, many = slice_table(body.slices), len(wanted)
    corners, which = table.corners, table.which
    if many < len(body.slices):
        place = np.full(len(body.slices), -1)
        place[list(wanted)] = range(many)
        held = place[which] >= 0
        corners, which = corners[held], place[which[held]]
    corners = corners + np.array([body.at[1], 0.0])
    if pulled:
        corners, which = np.concatenate([corners, corners + np.array([pulled, 0.0])]), np.concatenate([which, which])
        order = np.argsort(which, kind="stable")
        corners, which = corners[order], which[order]
    count = len(clock_rad)
    places = in_plane(clock_rad, corners[:, 0], corners[:, 1]).reshape(-1, 2)
    indices = (which + many * np.arange(count)[:, None]).ravel()
    rings = shapely.linearrings(places, indices=indices)
    found: Shapes = (shapely.convex_hull(rings) if pulled else shapely.polygons(rings)).reshape(count, -1)
    return found


def body_gaps(body: Body, clock_rad: FloatArray, things: Prisms, pulled: float = 0.0) -> FloatArray:
    """Return (n, m) float, mm: the room between the body and each of m ``things`` at each of n clock angles [rad].

    ``pulled`` [mm]: the body on its way outward. Unknown where a place is unknown; what lies further off along the axle than
    ``FAR_MM`` is reported by that distance.
    """
    count, wide = len(clock_rad), len(things)
    if not is_placed(body, clock_rad) or not wide:
        return np.full((count, wide), UNKNOWN)
    low, high = np.array([(thing.z0, thing.z1) for thing in things]).T
    z0, z1 = body.heights
    heights = np.maximum(low[:, None] - z1, z0 - high[:, None])
    nearest = heights.min(axis=1)
    out = np.empty((count, wide))
    out[:] = nearest
    near = np.flatnonzero(nearest < FAR_MM)
    if not len(near):
        return out
    of, cut = np.nonzero(_deciding(body, heights[near]))  # one row a pair that can decide, thing by thing
    used = np.zeros(len(body.slices), dtype=bool)
    used[cut] = True
    drawn = slice_shapes(body, np.flatnonzero(used).tolist(), clock_rad, pulled)[:, (np.cumsum(used) - 1)[cut]]
    gaps = with_height(_plan_gaps(drawn, [things[j] for j in near.tolist()], of), heights[near[of], cut])
    out[:, near] = np.minimum.reduceat(gaps, np.searchsorted(of, np.arange(len(near))), axis=1)
    return out


def _plan_gaps(slices: Shapes, things: list[Prism], of: NDArray[np.intp]) -> FloatArray:
    """Return (n, p) float, mm: the distances in plan of (n, p) ``slices`` from the things at the places ``of``, (p,), rising."""
    if not any(thing.bore > 0.0 or isinstance(thing.shape, np.ndarray) for thing in things):
        shapes, grown = np.array([thing.shape for thing in things]), np.array([thing.radius for thing in things])
        return np.asarray(distance(slices, shapes[of]) - grown[of])
    columns = [plan_gap(thing, slices[:, of == j].T).T for j, thing in enumerate(things)]
    return np.concatenate(columns, axis=1)


def _deciding(body: Body, heights: FloatArray) -> NDArray[np.bool_]:
    """Return (m, k) bool: the slices that can decide for each of m things at ``heights``, (m, k) [mm], from them along
    the axle: not those that lie within another one's plan, further off.
    """
    table = slice_table(body.slices)
    order = np.lexsort((np.broadcast_to(table.narrow, heights.shape), np.maximum(heights, 0.0)))
    rank = np.empty_like(order)
    rank[np.arange(len(order))[:, None], order] = np.arange(order.shape[1])
    return np.asarray(~(table.covers & (rank[:, :, None] < rank[:, None, :])).any(axis=1))


def _body_room(assembly: Assembly, clock_rad: FloatArray, things: Prisms) -> FloatArray:
    """Return (n, m) float, mm: the room between the caliper's body and each of m ``things``; at one angle all are asked
    at once.
    """
    if len(clock_rad) == 1:
        every, found = _room_here(assembly, clock_rad)
        if all(id(thing) in every for thing in things):
            return found[:, [every[id(thing)] for thing in things]]
    return body_gaps(assembly.body, clock_rad, things)


@cached_by_identity
def _room_here(assembly: Assembly, clock_rad: FloatArray) -> tuple[dict[int, int], FloatArray]:
    """Return the room round the body [mm] of all that stands at one angle, and where each thing is in it, by its identity."""
    every = (*assembly.fixed, *assembly.obstacles, *assembly.metal)
    places = {id(thing): k for k, thing in enumerate(every)}  # the assembly, which is held, holds them all
    return places, body_gaps(assembly.body, clock_rad, every)


def ligament_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the smallest metal left between any two holes at each angle."""
    lugs, ears = assembly.lug_holes, assembly.ear_holes
    if any(hole.slot for hole in assembly.holes):
        return _slotted_ligaments(assembly, clock_rad)
    centres = ear_centres(assembly, clock_rad)
    lug_rows = np.array([(*lug.centre, lug.widest) for lug in lugs]).reshape(-1, 3)
    ear_wide = np.array([ear.widest for ear in ears])
    off = centres[:, None, :, :] - lug_rows[None, :, None, :2]
    apart = np.hypot(off[..., 0], off[..., 1])
    moving = (apart - (lug_rows[:, None, 2] + ear_wide) / 2).reshape(len(clock_rad), -1)
    fixed = [*_pairs(lugs), (ears[0], ears[1])]
    still = [math.dist(a.centre, b.centre) - (a.widest + b.widest) / 2 for a, b in fixed]
    names = [(lug.feature, ear.feature) for lug in lugs for ear in ears] + [(a.feature, b.feature) for a, b in fixed]
    return least([moving, np.broadcast_to(still, (len(clock_rad), len(still)))], names, len(clock_rad))


def _slotted_ligaments(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """The same with slots: the distance between the lines of their middles."""
    ends, holes = hole_ends(assembly, clock_rad), assembly.holes
    pairs = list(combinations(range(len(holes)), 2))
    names = [(holes[i].feature, holes[j].feature) for i, j in pairs]
    if not np.isfinite(ends).all():
        return least([np.full((len(clock_rad), len(pairs)), UNKNOWN)], names, len(clock_rad))
    lines = shapely.linestrings(ends)
    columns = [distance(lines[:, i], lines[:, j]) - (holes[i].widest + holes[j].widest) / 2 for i, j in pairs]
    return least([np.stack(columns, axis=1)], names, len(clock_rad))


def _pairs(holes: tuple[Hole, ...]) -> list[tuple[Hole, Hole]]:
    return [(a, b) for j, b in enumerate(holes) for a in holes[:j]]


def head_room_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the room between what sits at the lugs (bosses, bolts) and what turns with the caliper (ears, bolts, body), and
    between the lugs' bolts and the obstacles. A bolt nobody has chosen is unknown, and neither is its room.
    """
    fixed, turning, count = assembly.fixed, assembly.turning, len(clock_rad)
    centres = ear_centres(assembly, clock_rad)
    standing = round_table(fixed)
    moving = round_table(tuple(p for rounds in turning for p in rounds))[:, 2:]
    where = np.repeat(centres, [len(rounds) for rounds in turning], axis=1)
    off = where[:, None, :, :] - standing[None, :, None, :2]
    flat = np.hypot(off[..., 0], off[..., 1]) - standing[:, None, 2] - moving[:, 0]
    height = np.maximum(standing[:, None, 3] - moving[:, 2], moving[:, 1] - standing[:, None, 4])
    rows = [with_height(flat, height).reshape(count, -1)]
    names = [(p.feature, q.feature) for p in fixed for rounds in turning for q in rounds]
    bolts = tuple(p for p in fixed if "bolt" in p.feature)
    rows.append(_body_room(assembly, clock_rad, bolts))
    names += [(round_one.feature, "caliper") for round_one in bolts]
    if assembly.obstacles:
        rows.append(pair_columns(prism_gaps(bolts, assembly.obstacles), count))
        names += [(bolt.feature, obstacle.feature) for bolt in bolts for obstacle in assembly.obstacles]
    for group in assembly.unchosen:
        rows.append(np.full((count, 1), UNKNOWN))
        names.append((f"{group}-bolt-0", "caliper"))
    return least(rows, names, count)


def caliper_obstacle_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the room between the caliper (body, ears and their bolts) and the nearest obstacle or lug boss at each angle."""
    count = len(clock_rad)
    bosses = tuple(round_one for round_one in assembly.fixed if "bolt" not in round_one.feature)
    obstacles = assembly.obstacles
    columns = [_body_room(assembly, clock_rad, (*bosses, *obstacles))]
    names = [("caliper", thing.feature) for thing in (*bosses, *obstacles)]
    if obstacles:
        tags = [obstacle.feature for obstacle in obstacles]
        columns.append(_ear_gaps(assembly, clock_rad))
        names += [(round_one.feature, tag) for rounds in assembly.turning for round_one in rounds for tag in tags]
        if "ear" in assembly.unchosen:
            columns.append(np.full((count, 1), UNKNOWN))
            names.append(("ear-bolt-0", tags[0]))
    return least(columns, names, count)


def _ear_gaps(assembly: Assembly, clock_rad: FloatArray) -> FloatArray:
    """Return (n, p·m) float, mm: the room between each of p things at the ears and each of m obstacles."""
    count = len(clock_rad)
    ear = [k for k, turning in enumerate(assembly.turning) for _ in turning]
    table = round_table(tuple(p for turning in assembly.turning for p in turning))
    low, high = np.array([(obstacle.z0, obstacle.z1) for obstacle in assembly.obstacles]).T
    height = np.maximum(low - table[:, 4:5], table[:, 3:4] - high)
    centres = ear_centres(assembly, clock_rad)
    if not np.isfinite(centres).all():
        return np.full((count, height.size), UNKNOWN)
    shapes = np.array([obstacle.shape for obstacle in assembly.obstacles])
    flat = distance(shapely.points(centres)[:, :, None], shapes)[:, ear, :] - table[None, :, 2:3]
    return np.where(height >= FAR_MM, height, with_height(flat, height)).reshape(count, -1)


def bracket_obstacle_sweep(assembly: Assembly, metal: Prisms, count: int) -> Swept:
    """Return the room between the bracket and the nearest obstacle at each angle; no such pair when there are none."""
    if not metal:
        return least([np.full((count, 1), UNKNOWN)], [("bracket", "bracket")], count)
    columns = [pair_columns(prism_gaps(metal, assembly.obstacles, FAR_MM), count)] if assembly.obstacles else []
    return least(columns, [("bracket", obstacle.feature) for _ in metal for obstacle in assembly.obstacles], count)


def bracket_caliper_sweep(assembly: Assembly, metal: Prisms, clock_rad: FloatArray) -> FloatArray:
    """Return the room between the bracket and the caliper's body at each angle (the ears' faces are meant to touch it) [mm]."""
    if not metal:
        return np.full(len(clock_rad), UNKNOWN)
    return np.asarray(np.min(_body_room(assembly, clock_rad, metal), axis=1))


def name_of(assembly: Assembly, tag: str) -> str:
    """Return what a drawing tag is called in a sentence."""
    kind, _, index = tag.rpartition("-")
    if kind == "obstacle":
        return assembly.obstacles[int(index)].name
    if kind == "lug":
        return f"the lug “{assembly.job.knuckle.lugs[int(index)].name}”"
    if kind in ("ear", "ear-bolt", "lug-bolt"):
        return {"ear": "ear", "ear-bolt": "bolt at ear", "lug-bolt": "bolt at lug"}[kind] + f" {int(index) + 1}"
    return tag

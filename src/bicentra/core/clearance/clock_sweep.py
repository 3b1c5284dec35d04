"""What depends on the clock angle, for one angle or for all of them at once.

The single solve and the clock search both come through here, so that they cannot disagree.
"""

import math
from itertools import combinations

import numpy as np
import shapely

from bicentra.core.base.numbers import UNKNOWN, apart, known
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.holes import Hole
from bicentra.core.bracket.metal import Metal, Piece
from bicentra.core.bracket.obstacles import obstacle_shape
from bicentra.core.bracket.turned import ear_centres, hole_ends
from bicentra.core.clearance.body_gaps import body_gaps
from bicentra.core.geometry.gaps import Swept, distance, least, with_height
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import FAR_MM, RoundPrism


def ligament_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the smallest metal left between any two holes at each angle."""
    lugs, ears = assembly.lug_holes, assembly.ear_holes
    if any(hole.slot for hole in assembly.holes):
        return _slotted_ligaments(assembly, clock_rad)
    centres = ear_centres(assembly, clock_rad)
    lug_rows = np.array([(*lug.centre, lug.widest) for lug in lugs]).reshape(-1, 3)
    ear_wide = np.array([ear.widest for ear in ears])
    apart = np.hypot(*np.moveaxis(centres[:, None, :, :] - lug_rows[None, :, None, :2], -1, 0))
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
    between the lugs' bolts and the obstacles. A bolt nobody has chosen is not known, and neither is its room.
    """
    fixed, turning, count = assembly.fixed, assembly.turning, len(clock_rad)
    centres = ear_centres(assembly, clock_rad)
    standing = np.array([(p.x, p.y, p.radius, p.z0, p.z1) for p in fixed]).reshape(-1, 5)
    moving = np.array([(p.radius, p.z0, p.z1) for rounds in turning for p in rounds])
    where = np.repeat(centres, [len(rounds) for rounds in turning], axis=1)
    apart = np.hypot(*np.moveaxis(where[:, None, :, :] - standing[None, :, None, :2], -1, 0))
    flat = apart - standing[:, None, 2] - moving[:, 0]
    height = np.maximum(standing[:, None, 3] - moving[:, 2], moving[:, 1] - standing[:, None, 4])
    rows = [with_height(flat, height).reshape(count, -1)]
    names = [(p.feature, q.feature) for p in fixed for rounds in turning for q in rounds]
    bolts = tuple(p for p in fixed if "bolt" in p.feature)
    rows.append(_round_gaps(assembly, clock_rad, bolts))
    names += [(round_one.feature, "caliper") for round_one in bolts]
    if assembly.job.knuckle.obstacles:
        rows.append(
            np.broadcast_to(
                bolts_to_obstacles(assembly, bolts), (count, len(bolts) * len(assembly.job.knuckle.obstacles))
            )
        )
        names += [(b.feature, f"obstacle-{k}") for b in bolts for k in range(len(assembly.job.knuckle.obstacles))]
    for group in assembly.unchosen:
        rows.append(np.full((count, 1), UNKNOWN))
        names.append((f"{group}-bolt-0", "caliper"))
    return least(rows, names, count)


def _round_gaps(assembly: Assembly, clock_rad: FloatArray, rounds: tuple[RoundPrism, ...]) -> FloatArray:
    """Return (n, posts) float, mm: the room between the caliper's body and each post at each angle."""
    table = np.array([(p.x, p.y, p.radius, p.z0, p.z1) for p in rounds]).reshape(-1, 5)
    points = shapely.points(table[:, :2])[None, :]
    return body_gaps(assembly.body, clock_rad, points, table[:, 3], table[:, 4], table[:, 2])


def bolts_to_obstacles(assembly: Assembly, bolts: tuple[RoundPrism, ...]) -> FloatArray:
    """Return (bolts · obstacles,) float, mm: the room between head or end of each lug bolt and each obstacle."""
    rows = []
    for round_one in bolts:
        for obstacle in assembly.job.knuckle.obstacles:
            flat = distance(shapely.Point(round_one.x, round_one.y), obstacle_shape(obstacle)) - round_one.radius
            height = apart(round_one.z0, round_one.z1, known(obstacle.z_min_mm), known(obstacle.z_max_mm))
            rows.append(with_height(flat, height))
    return np.array(rows, dtype=float)


def caliper_obstacle_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the room between the caliper (body, ears and their bolts) and the nearest obstacle or lug boss at each angle."""
    count = len(clock_rad)
    bosses = tuple(round_one for round_one in assembly.fixed if "bolt" not in round_one.feature)
    columns = [_round_gaps(assembly, clock_rad, bosses)]
    names = [("caliper", round_one.feature) for round_one in bosses]
    obstacles = assembly.job.knuckle.obstacles
    if obstacles:
        tags = [f"obstacle-{index}" for index in range(len(obstacles))]
        reach = np.array([(known(o.z_min_mm), known(o.z_max_mm)) for o in obstacles])
        shapes = np.array([obstacle_shape(o) for o in obstacles])
        columns.append(body_gaps(assembly.body, clock_rad, shapes[None, :], reach[:, 0], reach[:, 1]))
        names += [("caliper", tag) for tag in tags]
        columns.append(_ear_gaps(assembly, clock_rad, shapes, reach))
        names += [(round_one.feature, tag) for rounds in assembly.turning for round_one in rounds for tag in tags]
        if "ear" in assembly.unchosen:
            columns.append(np.full((count, 1), UNKNOWN))
            names.append(("ear-bolt-0", tags[0]))
    return least(columns, names, count)


def _ear_gaps(assembly: Assembly, clock_rad: FloatArray, shapes: FloatArray, reach: FloatArray) -> FloatArray:
    """Return (n, p·m) float, mm: the room between each of p things at the ears and each of m obstacles."""
    count = len(clock_rad)
    rounds = [(k, p.radius, p.z0, p.z1) for k, turning in enumerate(assembly.turning) for p in turning]
    table = np.array(rounds)
    ear, radius = table[:, 0].astype(int), table[:, 1]
    height = np.maximum(reach[None, :, 0] - table[:, 3:4], table[:, 2:3] - reach[None, :, 1])
    centres = ear_centres(assembly, clock_rad)
    if not np.isfinite(centres).all():
        return np.full((count, height.size), UNKNOWN)
    apart_by_ear = distance(shapely.points(centres)[:, :, None], shapes[None, None, :])
    flat = apart_by_ear[:, ear, :] - radius[None, :, None]
    return np.where(height >= FAR_MM, height, with_height(flat, height)).reshape(count, -1)


def bracket_obstacle_sweep(assembly: Assembly, metal: Metal, count: int) -> Swept:
    """Return the room between the bracket and the nearest obstacle at each angle; no such pair when there are none."""
    columns: list[FloatArray] = []
    names: list[tuple[str, str]] = []
    for index, obstacle in enumerate(assembly.job.knuckle.obstacles):
        z0, z1 = known(obstacle.z_min_mm), known(obstacle.z_max_mm)
        columns += [_piece_gap(piece, obstacle_shape(obstacle), z0, z1, count) for piece in metal]
        names += [("bracket", f"obstacle-{index}")] * len(metal)
    if not metal:
        columns, names = [np.full((count, 1), UNKNOWN)], [("bracket", "bracket")]
    return least(columns, names, count)


def _piece_gap(piece: Piece, shape: shapely.Polygon, z0: float, z1: float, count: int) -> FloatArray:
    """Return (n, 1) float, mm: the room between a piece of the bracket and an upright ``shape`` at each angle."""
    height = apart(z0, z1, piece.z0, piece.z1)
    if math.isnan(height) or height >= FAR_MM:
        return np.full((count, 1), height)
    flat = np.broadcast_to(distance(piece.shapes, shape), (count,))
    return with_height(flat, height)[:, None]


def bracket_caliper_sweep(assembly: Assembly, metal: Metal, clock_rad: FloatArray) -> FloatArray:
    """Return the room between the bracket and the caliper's body at each angle (the ears' faces are meant to touch it) [mm]."""
    if not metal:
        return np.full(len(clock_rad), UNKNOWN)
    shapes = np.stack([np.broadcast_to(piece.shapes, (len(clock_rad),)) for piece in metal], axis=1)
    low, high = np.array([(piece.z0, piece.z1) for piece in metal]).T
    return np.asarray(np.min(body_gaps(assembly.body, clock_rad, shapes, low, high), axis=1))


def name_of(assembly: Assembly, tag: str) -> str:
    """Return what a drawing tag is called in a sentence."""
    kind, _, index = tag.rpartition("-")
    if kind == "obstacle":
        return assembly.job.knuckle.obstacles[int(index)].name
    if kind == "lug":
        return f"the lug “{assembly.job.knuckle.lugs[int(index)].name}”"
    if kind in ("ear", "ear-bolt", "lug-bolt"):
        return {"ear": "ear", "ear-bolt": "bolt at ear", "lug-bolt": "bolt at lug"}[kind] + f" {int(index) + 1}"
    return tag

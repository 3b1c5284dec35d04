"""What depends on the clock angle, for one angle or for all of them at once.

The single solve and the clock search both come through here, so that they cannot disagree.
"""

import math
from itertools import combinations

import numpy as np
import shapely

from bicentra.core.base.cache import cached_by_identity
from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.holes import Hole
from bicentra.core.bracket.turned import ear_centres, hole_ends
from bicentra.core.clearance.body_gaps import body_gaps
from bicentra.core.geometry.gaps import Swept, distance, least, with_height
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import FAR_MM, Prisms, pair_columns, prism_gaps, round_table


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

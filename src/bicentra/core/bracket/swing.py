"""What depends on the clock angle, for one angle or for all of them at once.

The single solve and the clock search both come through here, so that they cannot disagree. Plate and bosses are
taken as polygons *round* the true circles (128 corners), so that a clearance is never shown larger than it is; the
difference is at most 0.02 mm on a boss of 17 mm radius.
"""

import math
from dataclasses import replace
from functools import lru_cache
from itertools import combinations

import numpy as np
import shapely

from bicentra.core.base.clearance import Swept, distance, least, with_height
from bicentra.core.base.errors import OutlineError
from bicentra.core.base.numbers import UNKNOWN, apart, is_known, known
from bicentra.core.base.outline import FloatArray, Point
from bicentra.core.base.tracing import few_points
from bicentra.core.bracket.body_gaps import body_gaps
from bicentra.core.bracket.edges import plate_discs
from bicentra.core.bracket.flat_plate import Assembly
from bicentra.core.bracket.holes import Hole
from bicentra.core.bracket.posts import Post
from bicentra.core.bracket.slab import FAR_MM
from bicentra.core.lineup.body import in_plane
from bicentra.core.parts.job import Obstacle

_CORNERS = 128


def ear_centres(assembly: Assembly, clock_rad: FloatArray) -> FloatArray:
    """Return (n, 2, 2) float, mm: both ears' centres at n clock angles [rad]."""
    half = known(assembly.job.caliper.ear_spacing_mm) / 2
    line = assembly.line.ear_line_radius
    return in_plane(clock_rad, np.array([line, line]), np.array([half, -half]))


def ligament_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the smallest metal left between any two holes at each angle."""
    lugs, ears = assembly.holes[:-2], assembly.holes[-2:]
    if any(hole.slot for hole in assembly.holes):
        return _slotted_ligaments(assembly, clock_rad)
    centres = ear_centres(assembly, clock_rad)
    lug_rows = np.array([(*lug.centre, lug.widest) for lug in lugs])
    ear_wide = np.array([ear.widest for ear in ears])
    apart = np.hypot(*np.moveaxis(centres[:, None, :, :] - lug_rows[None, :, None, :2], -1, 0))
    moving = (apart - (lug_rows[:, None, 2] + ear_wide) / 2).reshape(len(clock_rad), -1)
    fixed = [*_pairs(lugs), (ears[0], ears[1])]
    still = [math.dist(a.centre, b.centre) - (a.widest + b.widest) / 2 for a, b in fixed]
    names = [(lug.feature, ear.feature) for lug in lugs for ear in ears] + [(a.feature, b.feature) for a, b in fixed]
    return least([moving, np.broadcast_to(still, (len(clock_rad), len(still)))], names, len(clock_rad))


def hole_ends(assembly: Assembly, clock_rad: FloatArray) -> FloatArray:
    """Return (n, h, 2, 2) float, mm: both ends of every hole's middle line at n clock angles; the same point but for slots.

    A slot of the lugs' stands still only where its direction is given; else it lies along the caliper's radius.
    """
    count, middles = len(clock_rad), _hole_middles(assembly, clock_rad)
    half = np.array([hole.slot / 2 for hole in assembly.holes])
    given = assembly.job.bracket.slot_deg
    turn = clock_rad if given is None else np.full(count, math.radians(given))
    way = np.stack([np.cos(turn), np.sin(turn)], axis=-1)[:, None, :] * half[None, :, None]
    return np.stack([middles + way, middles - way], axis=2)


def _hole_middles(assembly: Assembly, clock_rad: FloatArray) -> FloatArray:
    """Return (n, h, 2) float, mm: every hole's middle at n clock angles."""
    lugs = np.array([lug.centre for lug in assembly.holes[:-2]]).reshape(-1, 2)
    fixed = np.broadcast_to(lugs, (len(clock_rad), *lugs.shape))
    return np.concatenate([fixed, ear_centres(assembly, clock_rad)], axis=1)


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


def bleeder_sweep(assembly: Assembly, clock_rad: FloatArray) -> FloatArray:
    """Return how far [degrees] the best bleeder stands from straight up at each angle; unknown without bleeders."""
    bleeders = np.array(assembly.job.caliper.bleeders_deg, dtype=float)
    if not len(bleeders):
        return np.full(len(clock_rad), UNKNOWN)
    from_up = np.degrees(clock_rad)[:, None] + bleeders + known(assembly.job.fit.attitude_deg) - 90.0
    return np.asarray(np.min(np.abs((from_up + 180.0) % 360.0 - 180.0), axis=1))


def bleeder_windows(assembly: Assembly, within: float) -> tuple[tuple[float, float] | None, ...]:
    """Return, for each bleeder, from which to which clock angle [degrees] it is the high one and within ``within`` of up.

    A bleeder at b in the caliper's frame stands straight up at 90 − b − attitude; half way to its neighbour the neighbour
    is as high. ``None`` for one that never is the high one.
    """
    job = assembly.job
    if not is_known(job.fit.attitude_deg):
        return ()
    tops = [(90.0 - turn - known(job.fit.attitude_deg)) % 360.0 for turn in job.caliper.bleeders_deg]
    found: list[tuple[float, float] | None] = []
    for k, top in enumerate(tops):
        others = [(other - top) % 360.0 for j, other in enumerate(tops) if j != k]
        if any(gap == 0.0 for gap in others[:k]):
            found.append(None)
            continue
        ahead = min([gap / 2 for gap in others if gap > 0], default=180.0)
        behind = min([(360.0 - gap) / 2 for gap in others if gap > 0], default=180.0)
        found.append((top - min(behind, within), top + min(ahead, within)))
    return tuple(found)


def head_room_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the room between what sits at the lugs (bosses, bolts) and what turns with the caliper (ears, bolts, body), and
    between the lugs' bolts and the obstacles. A bolt nobody has chosen is not known, and neither is its room.
    """
    fixed, turning, count = assembly.fixed, assembly.turning, len(clock_rad)
    centres = ear_centres(assembly, clock_rad)
    standing = np.array([(p.x, p.y, p.radius, p.z0, p.z1) for p in fixed]).reshape(-1, 5)
    moving = np.array([(p.radius, p.z0, p.z1) for posts in turning for p in posts])
    where = np.repeat(centres, [len(posts) for posts in turning], axis=1)
    apart = np.hypot(*np.moveaxis(where[:, None, :, :] - standing[None, :, None, :2], -1, 0))
    flat = apart - standing[:, None, 2] - moving[:, 0]
    height = np.maximum(standing[:, None, 3] - moving[:, 2], moving[:, 1] - standing[:, None, 4])
    rows = [with_height(flat, height).reshape(count, -1)]
    names = [(p.feature, q.feature) for p in fixed for posts in turning for q in posts]
    bolts = tuple(p for p in fixed if "bolt" in p.feature)
    rows.append(_post_gaps(assembly, clock_rad, bolts))
    names += [(post.feature, "caliper") for post in bolts]
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


def _post_gaps(assembly: Assembly, clock_rad: FloatArray, posts: tuple[Post, ...]) -> FloatArray:
    """Return (n, posts) float, mm: the room between the caliper's body and each post at each angle."""
    table = np.array([(p.x, p.y, p.radius, p.z0, p.z1) for p in posts]).reshape(-1, 5)
    points = shapely.points(table[:, :2])[None, :]
    return body_gaps(assembly.body, clock_rad, points, table[:, 3], table[:, 4], table[:, 2])


def bolts_to_obstacles(assembly: Assembly, bolts: tuple[Post, ...]) -> FloatArray:
    """Return (bolts · obstacles,) float, mm: the room between head or end of each lug bolt and each obstacle."""
    rows = []
    for post in bolts:
        for obstacle in assembly.job.knuckle.obstacles:
            flat = distance(shapely.Point(post.x, post.y), obstacle_shape(obstacle)) - post.radius
            height = apart(post.z0, post.z1, known(obstacle.z_min_mm), known(obstacle.z_max_mm))
            rows.append(with_height(flat, height))
    return np.array(rows, dtype=float)


def caliper_obstacle_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the room between the caliper (body, ears and their bolts) and the nearest obstacle or lug boss at each angle."""
    count = len(clock_rad)
    bosses = tuple(post for post in assembly.fixed if "bolt" not in post.feature)
    columns = [_post_gaps(assembly, clock_rad, bosses)]
    names = [("caliper", post.feature) for post in bosses]
    obstacles = assembly.job.knuckle.obstacles
    if obstacles:
        tags = [f"obstacle-{index}" for index in range(len(obstacles))]
        reach = np.array([(known(o.z_min_mm), known(o.z_max_mm)) for o in obstacles])
        shapes = np.array([obstacle_shape(o) for o in obstacles])
        columns.append(body_gaps(assembly.body, clock_rad, shapes[None, :], reach[:, 0], reach[:, 1]))
        names += [("caliper", tag) for tag in tags]
        columns.append(_ear_gaps(assembly, clock_rad, shapes, reach))
        names += [(post.feature, tag) for posts in assembly.turning for post in posts for tag in tags]
        if "ear" in assembly.unchosen:
            columns.append(np.full((count, 1), UNKNOWN))
            names.append(("ear-bolt-0", tags[0]))
    return least(columns, names, count)


def _ear_gaps(assembly: Assembly, clock_rad: FloatArray, shapes: FloatArray, reach: FloatArray) -> FloatArray:
    """Return (n, p·m) float, mm: the room between each of p things at the ears and each of m obstacles."""
    count = len(clock_rad)
    posts = [(k, p.radius, p.z0, p.z1) for k, turning in enumerate(assembly.turning) for p in turning]
    table = np.array(posts)
    ear, radius = table[:, 0].astype(int), table[:, 1]
    height = np.maximum(reach[None, :, 0] - table[:, 3:4], table[:, 2:3] - reach[None, :, 1])
    centres = ear_centres(assembly, clock_rad)
    if not np.isfinite(centres).all():
        return np.full((count, height.size), UNKNOWN)
    apart_by_ear = distance(shapely.points(centres)[:, :, None], shapes[None, None, :])
    flat = apart_by_ear[:, ear, :] - radius[None, :, None]
    return np.where(height >= FAR_MM, height, with_height(flat, height)).reshape(count, -1)


def obstacle_shape(obstacle: Obstacle) -> shapely.Polygon:
    """Return the obstacle's outline as a polygon, kept ready for many distance questions."""
    return _shape_of(obstacle.outline_mm)


@lru_cache(maxsize=256)
def _shape_of(points: tuple[tuple[float, float], ...]) -> shapely.Polygon:
    shape = few_points(shapely.Polygon(points))
    shapely.prepare(shape)
    return shape


def _shape_gap(
    shapes: FloatArray | None, shape: shapely.Polygon, height: float, radius: float, count: int
) -> FloatArray:
    """Return (n, 1): the distance of n shapes (less ``radius``) from one, given how far apart they are along z."""
    if shapes is None or math.isnan(height):
        return np.full((count, 1), UNKNOWN)
    if height >= FAR_MM:
        return np.full((count, 1), height)
    return with_height(distance(shapes, shape) - radius, height)[:, None]


def plate_hulls(assembly: Assembly, clock_rad: FloatArray) -> FloatArray | None:
    """Return (n, 128, 2) float, mm: corners round the plate's bosses before any relief; ``None`` when a hole is not known.

    The corners are the support points of the discs in 128 directions, the discs grown by 1/cos(2π/128) so that the
    polygon holds the true outline.
    """
    lugs, ears = assembly.holes[:-2], assembly.holes[-2:]
    centres = ear_centres(assembly, clock_rad)
    if not (np.isfinite(centres).all() and all(is_known(*h.centre, h.boss_radius) for h in lugs + ears)):
        return None
    turn = np.arange(_CORNERS) * 2 * np.pi / _CORNERS
    way = np.stack([np.cos(turn), np.sin(turn)], axis=-1)
    if any(not known(pull.out_mm) <= 0.0 for pull in assembly.job.bracket.pulls):
        return _pulled_hulls(assembly, clock_rad, way)
    slotted = any(hole.slot for hole in assembly.holes)
    ends = hole_ends(assembly, clock_rad) if slotted else _hole_middles(assembly, clock_rad)
    middles = ends.reshape(len(clock_rad), -1, 2)
    if not np.isfinite(middles).all():
        return None
    radii = np.repeat([hole.boss_radius for hole in assembly.holes], 2 if slotted else 1) / math.cos(
        2 * math.pi / _CORNERS
    )
    lead = np.argmax(middles @ way.T + radii[:, None], axis=1)
    chosen = np.take_along_axis(middles, lead[:, :, None], axis=1)
    return np.asarray(chosen + radii[lead][:, :, None] * way)


def _between(hole: Hole, a: Point, b: Point) -> Hole:
    """Return ``hole`` with its ends at ``a`` and ``b``."""
    centre = (a[0] + b[0]) / 2, (a[1] + b[1]) / 2
    way = ((a[0] - b[0]) / hole.slot, (a[1] - b[1]) / hole.slot) if hole.slot else hole.way
    return replace(hole, centre=centre, way=way)


def _pulled_hulls(assembly: Assembly, clock_rad: FloatArray, way: FloatArray) -> FloatArray | None:
    """The same where edges are pulled out: which edge lies between which bosses is asked at every angle."""
    found, ends = [], hole_ends(assembly, clock_rad)
    for row in ends:
        holes = tuple(_between(hole, *pair.tolist()) for hole, pair in zip(assembly.holes, row))
        try:
            discs = plate_discs(holes, assembly.job.bracket.pulls)
        except OutlineError:
            return None
        middles, radii = np.array([d.centre for d in discs]), np.array([d.radius for d in discs])
        radii = radii / math.cos(2 * math.pi / _CORNERS)
        lead = np.argmax(middles @ way.T + radii[:, None], axis=0)
        found.append(middles[lead] + radii[lead][:, None] * way)
    made = np.array(found)
    return made if np.isfinite(made).all() else None


def bracket_obstacle_sweep(assembly: Assembly, hulls: FloatArray | None, count: int) -> Swept:
    """Return the room between the plate and the nearest obstacle at each angle; no such pair when there are none."""
    z0, z1 = assembly.packing.z_range
    columns: list[FloatArray] = []
    names: list[tuple[str, str]] = []
    for index, obstacle in enumerate(assembly.job.knuckle.obstacles):
        height = apart(known(obstacle.z_min_mm), known(obstacle.z_max_mm), z0, z1)
        near = None if hulls is None else shapely.polygons(hulls) if height < FAR_MM else hulls
        columns.append(_shape_gap(near, obstacle_shape(obstacle), height, 0.0, count))
        names.append(("bracket", f"obstacle-{index}"))
    if not columns and hulls is None:
        columns, names = [np.full((count, 1), UNKNOWN)], [("bracket", "bracket")]
    return least(columns, names, count)


def bracket_caliper_sweep(assembly: Assembly, hulls: FloatArray | None, clock_rad: FloatArray) -> FloatArray:
    """Return the room between the plate and the caliper's body at each angle (the ears' faces are meant to touch it)."""
    low, high = np.array([assembly.packing.z_range]).T
    if hulls is None:
        return np.full(len(clock_rad), UNKNOWN)
    return np.asarray(body_gaps(assembly.body, clock_rad, shapely.polygons(hulls)[:, None], low, high)[:, 0])


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

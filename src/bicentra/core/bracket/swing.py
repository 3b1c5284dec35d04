"""What depends on the clock angle, for one angle or for all of them at once.

The single solve and the clock search both come through here, so that they cannot disagree. Plate and bosses are
taken as polygons *round* the true circles (64 corners), so that a clearance is never shown larger than it is; the
difference is at most 0.02 mm on a boss of 17 mm radius.
"""

import math
from dataclasses import dataclass

import numpy as np
import shapely

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.outline import FloatArray
from bicentra.core.bracket.flat_plate import Assembly
from bicentra.core.bracket.holes import Hole, PlacedJoint
from bicentra.core.lineup.solids import in_plane
from bicentra.core.parts.job import Obstacle

FAR_MM = 10.0
"""Parts further apart than this along the axle are reported by that distance; their outlines are not compared."""
_CORNERS = 64


@dataclass(frozen=True)
class Post:
    """A round thing parallel to the axle: centre (x, y), radius, range of z [mm], and what to call it."""

    name: str
    feature: str
    x: float
    y: float
    radius: float
    z0: float
    z1: float


@dataclass(frozen=True)
class Swept:
    """One clearance for each of n clock angles [mm] (or [degrees] for bleeders) and whose it is at each."""

    value: FloatArray
    which: FloatArray
    names: tuple[tuple[str, str], ...]

    def pair(self, index: int = 0) -> tuple[str, str]:
        """Return the two drawing tags that the smallest value at ``index`` belongs to."""
        return self.names[int(self.which[index])] if self.names else ("caliper", "bracket")


def _least(rows: list[FloatArray], names: list[tuple[str, str]], count: int) -> Swept:
    """Return the smallest of ``rows`` at each angle; unknown wherever one row is unknown."""
    if not rows:
        return Swept(np.full(count, UNKNOWN), np.zeros(count), ())
    table = np.vstack([np.broadcast_to(row, (count,)) for row in rows])
    which = np.argmin(np.where(np.isnan(table), np.inf, table), axis=0)
    return Swept(np.min(table, axis=0), which, tuple(names))


def ear_centres(assembly: Assembly, clock_rad: FloatArray) -> FloatArray:
    """Return (n, 2, 2) float, mm: both ears' centres at n clock angles [rad]."""
    half = known(assembly.job.caliper.ear_spacing_mm) / 2
    line = assembly.line.ear_line_radius
    return in_plane(clock_rad, np.array([line, line]), np.array([half, -half]))


def ligament_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the smallest metal left between any two holes at each angle."""
    lugs, ears = assembly.holes[:-2], assembly.holes[-2:]
    centres = ear_centres(assembly, clock_rad)
    rows: list[FloatArray] = []
    names: list[tuple[str, str]] = []
    for k, ear in enumerate(ears):
        for lug in lugs:
            rows.append(_apart(centres[:, k], lug.centre) - (lug.diameter + ear.diameter) / 2)
            names.append((lug.feature, ear.feature))
    fixed = [*_pairs(lugs), (ears[0], ears[1])]
    for a, b in fixed:
        rows.append(np.full(1, math.dist(a.centre, b.centre) - (a.diameter + b.diameter) / 2))
        names.append((a.feature, b.feature))
    return _least(rows, names, len(clock_rad))


def _pairs(holes: tuple[Hole, ...]) -> list[tuple[Hole, Hole]]:
    return [(a, b) for j, b in enumerate(holes) for a in holes[:j]]


def _apart(points: FloatArray, centre: tuple[float, float]) -> FloatArray:
    return np.hypot(points[:, 0] - centre[0], points[:, 1] - centre[1])


def bleeder_sweep(assembly: Assembly, clock_rad: FloatArray) -> FloatArray:
    """Return how far [degrees] the best bleeder stands from straight up at each angle; unknown without bleeders."""
    bleeders = np.array(assembly.job.caliper.bleeders_deg, dtype=float)
    if not len(bleeders):
        return np.full(len(clock_rad), UNKNOWN)
    from_up = np.degrees(clock_rad)[:, None] + bleeders - 90.0
    return np.min(np.abs((from_up + 180.0) % 360.0 - 180.0), axis=1)


def head_room_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the room between what sits at the lugs (bosses, bolts) and what turns with the caliper (ears, bolts, body)."""
    fixed, turning = fixed_posts(assembly), ear_posts(assembly)
    centres = ear_centres(assembly, clock_rad)
    rows: list[FloatArray] = []
    names: list[tuple[str, str]] = []
    for post in fixed:
        for k, others in enumerate(turning):
            for other in others:
                flat = _apart(centres[:, k], (post.x, post.y)) - post.radius - other.radius
                rows.append(_with_height(flat, max(post.z0 - other.z1, other.z0 - post.z1)))
                names.append((post.feature, other.feature))
    if assembly.body.is_known:
        boxes = shapely.polygons(assembly.body.corners(clock_rad))
        for post in (p for p in fixed if "bolt" in p.feature):
            rows.append(_box_gap(assembly, boxes, post))
            names.append((post.feature, "caliper"))
    return _least(rows, names, len(clock_rad))


def _box_gap(assembly: Assembly, boxes: FloatArray, post: Post) -> FloatArray:
    """Return the room between the caliper's body and one post at each angle."""
    body = assembly.body
    height = max(post.z0 - body.z1, body.z0 - post.z1)
    if not height < FAR_MM:
        return np.full(len(boxes), height)
    return _with_height(shapely.distance(boxes, shapely.points(post.x, post.y)) - post.radius, height)


def _with_height(flat: FloatArray, height: float) -> FloatArray:
    """Return the distance of two upright bodies from their distance in plan and along z; negative when they overlap."""
    if math.isnan(height):
        return np.full(len(flat), UNKNOWN)
    over = np.maximum(flat, height)
    return np.where((flat > 0) & (height > 0), np.hypot(flat, max(height, 0.0)), over)


def fixed_posts(assembly: Assembly) -> tuple[Post, ...]:
    """Return what stands still round the lugs: the bosses, and head and tip of every lug bolt."""
    posts: list[Post] = []
    for k, lug in enumerate(assembly.job.knuckle.lugs):
        face = assembly.packing.lug_faces[k]
        back = face - assembly.packing.sign * known(lug.thickness_mm)
        x, y = known(lug.x_mm), known(lug.y_mm)
        posts.append(Post(lug.name, f"lug-{k}", x, y, known(lug.boss_mm) / 2, min(face, back), max(face, back)))
    for placed in assembly.joints:
        if placed.feature.startswith("lug-bolt"):
            posts += bolt_posts(placed)
    return tuple(posts)


def ear_posts(assembly: Assembly) -> tuple[tuple[Post, ...], tuple[Post, ...]]:
    """Return what turns with each ear: its boss, and head and tip of its bolt."""
    caliper = assembly.job.caliper
    outward = 1.0 if caliper.ear_seat == "inboard" else -1.0
    z0 = assembly.packing.ear_z
    z1 = z0 + outward * known(caliper.ear_thickness_mm)
    both: list[tuple[Post, ...]] = []
    for k, (x, y, _) in enumerate(assembly.line.ears):
        boss = Post(f"ear {k + 1}", f"ear-{k}", x, y, known(caliper.ear_boss_mm) / 2, min(z0, z1), max(z0, z1))
        bolts = [post for p in assembly.joints if p.feature == f"ear-bolt-{k}" for post in bolt_posts(p)]
        both.append((boss, *bolts))
    return both[0], both[1]


def bolt_posts(placed: PlacedJoint) -> list[Post]:
    """Return head (with washer) and sticking-out tip of a bolt; the tip only where it sticks out."""
    joint, (x, y) = placed.joint, placed.centre
    hardware = joint.thread.hardware
    wide = max(joint.thread.head_across_corners, hardware.washer_outer if joint.stack.washers else 0.0) / 2
    posts = [_post(placed.name, placed.feature, x, y, wide, placed.seat_z, placed.head_z)]
    end = placed.tip_z - placed.way * (joint.protrusion if is_known(joint.protrusion) else UNKNOWN)
    if joint.stack.female == "nut":
        corner = joint.thread.head_across_corners / 2
        start = end - placed.way * joint.thread.hardware.nut_height
        posts.append(_post(placed.name, placed.feature, x, y, corner, start, placed.tip_z))
    elif not joint.protrusion == 0.0:
        posts.append(_post(placed.name, placed.feature, x, y, joint.thread.major / 2, end, placed.tip_z))
    return posts


def _post(name: str, feature: str, x: float, y: float, radius: float, za: float, zb: float) -> Post:
    return Post(name, feature, x, y, radius, min(za, zb), max(za, zb))


def caliper_obstacle_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the room between the caliper (body and ears) and the nearest obstacle or lug boss at each angle."""
    body, rows, names = assembly.body, [], []  # type: ignore[var-annotated]
    boxes = shapely.polygons(body.corners(clock_rad)) if body.is_known else None
    centres = ear_centres(assembly, clock_rad)
    bosses = [(k, post) for k, posts in enumerate(ear_posts(assembly)) for post in posts[:1]]
    for index, obstacle in enumerate(assembly.job.knuckle.obstacles):
        shape, tag = _prepared(obstacle), f"obstacle-{index}"
        low, high = known(obstacle.z_min_mm), known(obstacle.z_max_mm)
        rows.append(_shape_gap(boxes, shape, max(low - body.z1, body.z0 - high), 0.0, len(clock_rad)))
        names.append(("caliper", tag))
        for k, post in bosses:
            points = shapely.points(centres[:, k]) if np.isfinite(centres).all() else None
            height = max(low - post.z1, post.z0 - high)
            rows.append(_shape_gap(points, shape, height, post.radius, len(clock_rad)))
            names.append((post.feature, tag))
    for post in (p for p in fixed_posts(assembly) if "bolt" not in p.feature):
        rows.append(np.full(1, UNKNOWN) if boxes is None else _box_gap(assembly, boxes, post))
        names.append(("caliper", post.feature))
    return _least(rows, names, len(clock_rad))


def _prepared(obstacle: Obstacle) -> shapely.Polygon:
    shape = shapely.Polygon(obstacle.outline_mm)
    shapely.prepare(shape)
    return shape


def _shape_gap(
    shapes: FloatArray | None, shape: shapely.Polygon, height: float, radius: float, count: int
) -> FloatArray:
    """Return the distance of n shapes (less ``radius``) from one, given how far apart they are along z."""
    if shapes is None or math.isnan(height):
        return np.full(count, UNKNOWN)
    if height >= FAR_MM:
        return np.full(count, height)
    return _with_height(shapely.distance(shapes, shape) - radius, height)


def plate_hulls(assembly: Assembly, clock_rad: FloatArray) -> FloatArray | None:
    """Return n polygons round the plate's bosses before any relief; ``None`` when a hole is not known."""
    lugs, ears = assembly.holes[:-2], assembly.holes[-2:]
    centres = ear_centres(assembly, clock_rad)
    if not (np.isfinite(centres).all() and all(is_known(*h.centre, h.boss_radius) for h in lugs + ears)
            and is_known(*(h.boss_radius for h in ears))):  # fmt: skip
        return None
    turn = np.arange(_CORNERS) * 2 * np.pi / _CORNERS
    rim = np.stack([np.cos(turn), np.sin(turn)], axis=-1) / math.cos(math.pi / _CORNERS)
    fixed = np.concatenate([np.array(lug.centre) + lug.boss_radius * rim for lug in lugs])
    turning = [centres[:, k, None, :] + ears[k].boss_radius * rim for k in range(2)]
    points = np.concatenate([np.broadcast_to(fixed, (len(clock_rad), *fixed.shape)), *turning], axis=1)
    return shapely.convex_hull(shapely.multipoints(points))


def bracket_obstacle_sweep(assembly: Assembly, hulls: FloatArray | None, count: int) -> Swept:
    """Return the room between the plate and the nearest obstacle at each angle; far away when there are none."""
    z0, z1 = assembly.packing.z_range
    rows: list[FloatArray] = []
    names: list[tuple[str, str]] = []
    for index, obstacle in enumerate(assembly.job.knuckle.obstacles):
        height = max(known(obstacle.z_min_mm) - z1, z0 - known(obstacle.z_max_mm))
        rows.append(_shape_gap(hulls, _prepared(obstacle), height, 0.0, count))
        names.append(("bracket", f"obstacle-{index}"))
    return _least(rows, names, count) if rows else Swept(np.full(count, np.inf), np.zeros(count), ())


def bracket_caliper_sweep(assembly: Assembly, hulls: FloatArray | None, clock_rad: FloatArray) -> FloatArray:
    """Return the room between the plate and the caliper's body at each angle (the ears' faces are meant to touch it)."""
    body, (z0, z1) = assembly.body, assembly.packing.z_range
    height = max(z0 - body.z1, body.z0 - z1)
    if hulls is None or not body.is_known or math.isnan(height):
        return np.full(len(clock_rad), UNKNOWN)
    if height >= FAR_MM:
        return np.full(len(clock_rad), height)
    flat = shapely.distance(hulls, shapely.polygons(body.corners(clock_rad)))
    return _with_height(flat, height)

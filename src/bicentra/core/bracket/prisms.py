"""Made parts, bosses, bolts and obstacles as upright bodies where they sit, for whatever asks what they can touch."""

import math
from functools import lru_cache
from itertools import combinations, pairwise

import numpy as np
import shapely

from bicentra.core.base.cache import cached_by_identity
from bicentra.core.base.numbers import UNKNOWN, is_known, known, ordered
from bicentra.core.bracket.fold import Fold, fold_of
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.bracket.model import MadePart, Pocket
from bicentra.core.bracket.stack_up import StackUp
from bicentra.core.fasteners.joint import Joint
from bicentra.core.geometry.hull import few_points
from bicentra.core.geometry.outline import Point, circle_outline
from bicentra.core.geometry.prism import Prism, Prisms
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job, Obstacle
from bicentra.core.parts.threads import SUNK_HEADS


@cached_by_identity
def obstacle_prisms(obstacles: tuple[Obstacle, ...]) -> Prisms:
    """Return the obstacles as upright bodies, their outlines kept ready for many distance questions."""
    return tuple(
        Prism(known(o.z_min_mm), known(o.z_max_mm), _shape_of(o.outline_mm), name=o.name, feature=f"obstacle-{k}")
        for k, o in enumerate(obstacles)
    )


@lru_cache(maxsize=256)
def _shape_of(points: tuple[tuple[float, float], ...]) -> shapely.Polygon:
    shape = few_points(shapely.Polygon(points))
    shapely.prepare(shape)
    return shape


def fixed_prisms(job: Job, stack_up: StackUp, joints: tuple[PlacedJoint, ...]) -> Prisms:
    """Return what stands still round the lugs: the bosses, and head and tip of every lug bolt."""
    rounds: list[Prism] = []
    for k, lug in enumerate(job.knuckle.lugs):
        face = stack_up.lug_faces[k]
        back = face - stack_up.sign * known(lug.thickness_mm)
        x, y = known(lug.x_mm), known(lug.y_mm)
        rounds.append(_round(lug.name, f"lug-{k}", (x, y), known(lug.boss_mm) / 2, face, back))
    for placed in joints:
        if placed.at == "lug":
            rounds += bolt_prisms(placed)
    return tuple(rounds)


def ear_prisms(job: Job, line: LineUp, stack_up: StackUp, joints: tuple[PlacedJoint, ...]) -> tuple[Prisms, Prisms]:
    """Return what turns with each ear: its boss, and head and tip of its bolt."""
    caliper = job.caliper
    outward = 1.0 if caliper.ear_seat == "inboard" else -1.0
    z0 = stack_up.ear_z
    z1 = z0 + outward * known(caliper.ear_thickness_mm)
    both: list[Prisms] = []
    for k, (x, y, _) in enumerate(line.ears):
        boss = _round(f"ear {k + 1}", f"ear-{k}", (x, y), known(caliper.ear_boss_mm) / 2, z0, z1)
        bolts = [round_one for p in joints if (p.at, p.index) == ("ear", k) for round_one in bolt_prisms(p)]
        both.append((boss, *bolts))
    return both[0], both[1]


def head_radius(joint: Joint) -> float:
    """Return how far the head, or the washer under it, reaches round the bolt [mm]."""
    if joint.stack.sunk:
        return SUNK_HEADS[joint.thread.size][0] / 2
    washer = joint.thread.hardware.washer_outer if joint.stack.washers else 0.0
    return max(joint.thread.head_across_corners, washer) / 2


def tip_radius(joint: Joint) -> float:
    """Return how far what stands at the tip reaches round the bolt [mm]: its nut, or the bolt itself."""
    return (joint.thread.head_across_corners if joint.stack.female == "nut" else joint.thread.major) / 2


def bolt_prisms(placed: PlacedJoint) -> list[Prism]:
    """Return head (with washer) and sticking-out tip of a bolt; the tip only where it sticks out."""
    joint, at = placed.joint, placed.centre
    rounds = [_round(placed.name, placed.feature, at, head_radius(joint), placed.seat_z, placed.head_z)]
    end = placed.tip_z - placed.way * (joint.protrusion if is_known(joint.protrusion) else UNKNOWN)
    if joint.stack.female == "nut":
        corner = joint.thread.head_across_corners / 2
        start = end - placed.way * joint.thread.hardware.nut_height
        rounds.append(_round(placed.name, placed.feature, at, corner, start, placed.tip_z))
    elif joint.protrusion != 0.0:
        rounds.append(_round(placed.name, placed.feature, at, joint.thread.major / 2, end, placed.tip_z))
    return rounds


def _round(name: str, feature: str, at: Point, radius: float, za: float, zb: float) -> Prism:
    return Prism(*ordered(za, zb), at=at, radius=radius, name=name, feature=feature)


CHORD_MM, FINE_MM, WEB_STEP_MM, AWAY_MM, SINK_STEPS = 0.01, 0.002, 1.0, 1e4, 6


@lru_cache(maxsize=64)
def part_prisms(part: MadePart) -> tuple[Prism, ...]:
    """Return a made part as it sits; nothing for one whose place is unknown or that lies elsewhere (a bushing)."""
    if not is_known(part.z0, part.thickness):
        return ()
    if part.outline is None:
        rings = [shapely.Polygon(circle_outline(spot, part.outer / 2).polygon(CHORD_MM)) for spot in part.centres]
        return tuple(Prism(part.z0, part.z0 + part.thickness, ring) for ring in rings)
    shape, fold = plate_shape(part, CHORD_MM), fold_of(part)
    if fold is None:
        return tuple(Prism(z0, z1, of) for of, z0, z1 in layers(part, shape, part.z0, CHORD_MM) if not of.is_empty)
    cuts = (
        *fold.breaks(),
        *np.arange(fold.start + fold.allowance, fold.start + fold.allowance + fold.web, WEB_STEP_MM),
    )
    return tuple(_lifted(strip, fold) for strip in strips(shape, fold, tuple(sorted(cuts))))


def plate_shape(part: MadePart, chord: float) -> shapely.Geometry:
    """Return the plate seen along the axle, its holes taken out [mm]; a bent one's is its flat pattern."""
    if part.outline is None:
        return shapely.Polygon()
    placed = (bore for bore in part.bores if is_known(*bore.centre, bore.drill))
    holes = [shapely.Polygon(bore.outline.polygon(chord)) for bore in placed]
    holes += [shapely.Polygon(c.polygon(chord)) for c in (*part.cutouts, *([part.window] if part.window else []))]
    return shapely.Polygon(part.outline.polygon(chord)).difference(shapely.union_all(holes))


def layers(
    part: MadePart, shape: shapely.Geometry, z0: float, chord: float, sinks: bool = False
) -> list[tuple[shapely.Geometry, float, float]]:
    """Return the plate as layers (shape, z0, z1) [mm]: whole as deep as no pocket goes, less the pockets above and below.

    With ``sinks`` countersinks and chamfers are cut out too, in steps; else they count as metal.
    """
    z1, found = z0 + part.thickness, []
    milled = [(_milled(p, chord), p.depth, p.face) for p in (*part.pockets, *(_sink_steps(part) if sinks else ()))]
    milled += _chamfer_steps(part, chord) if sinks and part.chamfer else []
    for outboard in (True, False):
        pockets = [(of, depth) for of, depth, face in milled if (face > 0) is outboard]
        floors = [0.0, *sorted({depth for _, depth in pockets})]
        for over, under in pairwise(floors):
            gone = shapely.union_all([of for of, depth in pockets if depth > over])
            left = shape.difference(gone)
            found.append((left, z1 - under, z1 - over) if outboard else (left, z0 + over, z0 + under))
        z0, z1 = (z0, z1 - floors[-1]) if outboard else (z0 + floors[-1], z1)
    return [*found, (shape, z0, z1)]


def _sink_steps(part: MadePart) -> tuple[Pocket, ...]:
    """Return every countersink as a stair of round pockets whose middles lie on its cone."""
    found = []
    for bore in part.bores:
        if bore.sink is not None:
            rise = (bore.sink.wide - bore.drill) / 2 / SINK_STEPS
            found += [
                Pocket(circle_outline(bore.centre, bore.sink.wide / 2 - rise * (k + 0.5)), bore.depth * (k + 1) / SINK_STEPS,
                       bore.sink.face)
                for k in range(SINK_STEPS)
            ]  # fmt: skip
    return tuple(found)


def _chamfer_steps(part: MadePart, chord: float) -> list[tuple[shapely.Geometry, float, float]]:
    """Return the chamfer as a stair round the outline: (shape, depth, face)."""
    if part.outline is None:
        return []
    whole, step = shapely.Polygon(part.outline.polygon(chord)), part.chamfer / SINK_STEPS
    return [
        (whole.difference(whole.buffer(-part.chamfer + step * (k + 0.5), quad_segs=16)), step * (k + 1), face)
        for face in (1.0, -1.0) for k in range(SINK_STEPS)
    ]  # fmt: skip


def _milled(pocket: Pocket, chord: float) -> shapely.Geometry:
    stays = shapely.union_all([shapely.Polygon(island.polygon(chord)) for island in pocket.kept])
    return shapely.Polygon(pocket.outline.polygon(chord)).difference(stays)


def milled_volume(part: MadePart) -> float:
    """Return what its pockets take of the plate [mm3]: where two lie over each other on one face, the deeper counts once."""
    if not part.pockets:
        return 0.0
    shape, cuts = plate_shape(part, FINE_MM), [_milled(pocket, FINE_MM) for pocket in part.pockets]
    if not any(shapely.intersects(one, other) for one, other in combinations(cuts, 2)):
        taken = (
            shape.intersection(cut).area * min(pocket.depth, part.thickness) for cut, pocket in zip(cuts, part.pockets)
        )
        return float(math.fsum(taken))
    left = math.fsum(of.area * (z1 - z0) for of, z0, z1 in layers(part, shape, 0.0, FINE_MM))
    return float(shape.area * part.thickness - left)


def chamfer_milled(part: MadePart) -> float:
    """Return how much of the chamfer lies where a pocket takes the rim away anyway [mm3]; Simpson's rule down to its foot."""
    if not part.chamfer or part.outline is None:
        return 0.0
    whole, total = shapely.Polygon(part.outline.polygon(FINE_MM)), 0.0
    for pocket in part.pockets:
        gone, deep = _milled(pocket, FINE_MM), min(part.chamfer, pocket.depth)
        rims = [whole.difference(whole.buffer(deep * k / 2 - part.chamfer, quad_segs=64)) for k in range(3)]
        first, middle, last = (rim.intersection(gone).area for rim in rims)
        total += deep / 6 * (first + 4 * middle + last)
    return float(total)


def strips(shape: shapely.Geometry, fold: Fold, cuts: tuple[float, ...]) -> list[shapely.Geometry]:
    """Return the flat pattern ``shape`` cut across at the places ``cuts`` along ``fold.u`` [mm]."""
    (ux, uy), ends = fold.u, (-AWAY_MM, *cuts, AWAY_MM)

    def at(s: float, w: float) -> tuple[float, float]:
        return s * ux - w * uy, s * uy + w * ux

    boxes = [
        shapely.Polygon([at(a, -AWAY_MM), at(b, -AWAY_MM), at(b, AWAY_MM), at(a, AWAY_MM)])
        for a, b in pairwise(ends) if b - a > 1e-9
    ]  # fmt: skip
    return [piece for piece in (shape.intersection(box) for box in boxes) if piece.area > 1e-9]


def _lifted(strip: shapely.Geometry, fold: Fold) -> Prism:
    """Return the box of heights round a strip once it is bent; its outline both faces' together."""
    flat = shapely.get_coordinates(strip)
    along = flat @ np.array(fold.u)
    low, high = (np.column_stack([flat, np.full(len(flat), z)]) for z in (fold.z0, fold.z0 + fold.thickness))
    faces = fold.lifted(low), fold.lifted(high)
    z = np.concatenate(faces)[:, 2]
    whole = along.max() <= fold.start + 1e-9 or along.min() >= fold.start + fold.flat - 1e-9
    if whole:  # beside the bends the plate is only moved
        moved = shapely.transform(
            strip, lambda xy: fold.lifted(np.column_stack([xy, np.full(len(xy), fold.z0)]))[:, :2]
        )
        return Prism(float(z.min()), float(z.max()), moved)
    return Prism(float(z.min()), float(z.max()), shapely.MultiPoint(np.concatenate(faces)[:, :2]).convex_hull)

"""Caliper, bracket, rotor, hub and bolts as closed meshes for a look in three dimensions."""

import math
from itertools import pairwise

import numpy as np
import shapely
from numpy.typing import NDArray

from bicentra.core.base.numbers import is_known, known, ordered
from bicentra.core.base.records import Record, replace
from bicentra.core.bracket.fold import Fold, fold_of
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.bracket.model import MadePart
from bicentra.core.bracket.prisms import layers, plate_shape, strips
from bicentra.core.drawing.views.face import bleeder_place
from bicentra.core.evaluation.solution import Solution
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import Prism
from bicentra.core.geometry.ring import Ring
from bicentra.core.lineup.body import Body as CaliperBody
from bicentra.core.lineup.solids import cut_for
from bicentra.core.parts.job import Caliper, Job
from bicentra.core.parts.threads import SUNK_HEADS

Piece = tuple[shapely.Geometry, float, float, str, str]
"""Shape along the axle, from which to which height [mm], tag, ink."""
WINDOW, SKIN_MM, GROOVE_MM, BORE_CAP = 0.5, 3.0, 1.6, 1.12
"""How a caliper usually looks, no size of anything: its window as a share of the pad, how deep and wide the groove round a
bore's closed end is [mm], and how much wider than the bore that is."""
ROUND, VANES, VANE_WIDE_MM, SKIN = 12, 30, 4.0, 0.34
"""Quarter-circle steps; vanes of a vented ring, how wide one is [mm], and each skin's share of the ring's thickness."""


def caliper_pieces(solution: Solution) -> tuple[Piece, ...]:
    """Return what the caliper is made of, as far as it is known; one block where its slot is not."""
    body, job, line = solution.assembly.body, solution.job, solution.line
    if not (body.is_known and is_known(line.clock)):
        return ()
    plan = shapely.Polygon(body.corners(line.frame.here)[0])
    (slot_z, top), caliper = body.at, job.caliper
    slot, bridge = known(caliper.slot_width_mm), known(caliper.bridge_to_pad_top_mm)
    if not is_known(slot, bridge, slot_z, top):
        return ((plan, body.z0, body.z1, "caliper", "caliper"),)
    low, high = slot_z - slot / 2, slot_z + slot / 2
    above = plan.difference(shapely.Point(0.0, 0.0).buffer(top + bridge, 4 * ROUND))
    above = above.difference(_window(caliper, line.frame, top))
    found: list[Piece] = [
        *_half(caliper, line.frame, (plan, top), (body.z0, low), caliper.pistons_inboard_mm),
        (above, low, high, "caliper", "caliper"),
        *_half(caliper, line.frame, (plan, top), (body.z1, high), caliper.pistons_outboard_mm),
        *_bleeders(caliper, line.frame, body),
    ]
    found = [piece for piece in found if piece[2] > piece[1] and not piece[0].is_empty]
    return (*found, *_ears(solution), *_pads(solution, low, high), *_pistons(caliper, line.frame, body, (low, high)))


def _window(caliper: Caliper, frame: ClockFrame, top: float) -> shapely.Geometry:
    """The opening in the bridge through which the pads are seen: the middle half of the pad's width."""
    wide = known(caliper.pad_width_mm)
    if not is_known(wide, top):
        return shapely.Polygon()
    half, far = wide * WINDOW / 2, top + 200.0
    return shapely.Polygon([frame.at(r, t) for r, t in ((0.0, -half), (far, -half), (far, half), (0.0, half))])


def _half(
    caliper: Caliper, frame: ClockFrame, seen: tuple[shapely.Geometry, float], span: tuple[float, float],
    pistons: tuple[float, ...],
) -> list[Piece]:  # fmt: skip
    """One half of the body: its outer face, at the first of ``span``, has a groove round each bore where that is closed."""
    (plan, top), (face, wall) = seen, span
    tall = known(caliper.pad_height_mm)
    skin = face + math.copysign(min(SKIN_MM, abs(wall - face) / 3), wall - face)
    grooves: list[shapely.Geometry] = []
    at = sum(pistons) / 2
    for size in pistons if is_known(tall, top) else ():
        disc = shapely.Point(frame.at(top - tall / 2, at - size / 2))
        at -= size
        grooves.append(
            disc.buffer(size * BORE_CAP / 2, ROUND).difference(disc.buffer(size * BORE_CAP / 2 - GROOVE_MM, ROUND))
        )
    outer = plan.difference(shapely.union_all(grooves)) if grooves else plan
    return [
        (outer, *ordered(face, skin), "caliper", "caliper"),
        (plan, *ordered(skin, wall), "caliper", "caliper"),
    ]


def _bleeders(caliper: Caliper, frame: ClockFrame, body: CaliperBody) -> list[Piece]:
    """Each bleed screw that is stated, as a short hexagon at its place on the body's rim, on the inboard half."""
    found: list[Piece] = []
    for turn in caliper.bleeders_deg:
        x, y = frame.at(*bleeder_place(body, turn))
        if is_known(x, y):
            corners = [(x + 5.0 * math.cos(math.pi / 3 * k), y + 5.0 * math.sin(math.pi / 3 * k)) for k in range(6)]
            middle = (body.z0 * 3 + body.z1) / 4
            found.append((shapely.Polygon(corners), middle - 6.0, middle + 6.0, "bleeder", "bolt"))
    return found


def _ears(solution: Solution) -> list[Piece]:
    """The bosses with the bolts' holes, as thick as they are, on the side that their face looks away from."""
    caliper, line = solution.job.caliper, solution.line
    boss, hole, thick = known(caliper.ear_boss_mm), known(caliper.ear_hole_mm), known(caliper.ear_thickness_mm)
    error = solution.assembly.stack_up.error
    if caliper.mount != "axial" or not is_known(boss, thick):
        return []
    way = 1.0 if caliper.ear_seat == "inboard" else -1.0
    found: list[Piece] = []
    for x, y, z in line.ears:
        face = z + (error if is_known(error) else 0.0)
        if is_known(x, y, face):
            disc = shapely.Point(x, y).buffer(boss / 2, ROUND)
            disc = (
                disc.difference(shapely.Point(x, y).buffer(hole / 2, ROUND)) if is_known(hole) and hole < boss else disc
            )
            found.append((disc, *ordered(face, face + way * thick), "caliper", "caliper"))
    return found


def _pads(solution: Solution, low: float, high: float) -> list[Piece]:
    """Both pads between rotor and slot walls, as sectors about the axle."""
    caliper, line = solution.job.caliper, solution.line
    wide, tall, top = known(caliper.pad_width_mm), known(caliper.pad_height_mm), line.pad_top_radius
    half = known(solution.job.rotor.thickness_mm) / 2
    if not is_known(wide, tall, top, half, line.rotor_midplane_z) or not 0 < wide < 2 * top or tall >= top:
        return []
    reach = math.asin(wide / 2 / top)
    turns = [reach * (k / 6 - 1.0) for k in range(13)]
    rim = [line.frame.at(top * math.cos(t), top * math.sin(t)) for t in turns]
    foot = [line.frame.at((top - tall) * math.cos(t), (top - tall) * math.sin(t)) for t in reversed(turns)]
    shape, mid = shapely.Polygon([*rim, *foot]), line.rotor_midplane_z
    spans = ((low, mid - half), (mid + half, high))
    return [(shape, z0, z1, "caliper", "pad") for z0, z1 in spans if z1 > z0]


def _pistons(caliper: Caliper, frame: ClockFrame, body: CaliperBody, slot: tuple[float, float]) -> list[Piece]:
    """The pistons' ends as they look out of the walls, behind the pads: side by side along the caliper."""
    found: list[Piece] = []
    tall, (_, top) = known(caliper.pad_height_mm), body.at
    sides = ((caliper.pistons_inboard_mm, slot[0], 1.0), (caliper.pistons_outboard_mm, slot[1], -1.0))
    for sizes, wall, way in sides if is_known(tall, top) else ():
        whole = sum(sizes)
        at = whole / 2
        for size in sizes:
            x, y = frame.at(top - tall / 2, at - size / 2)
            at -= size
            disc = shapely.Point(x, y).buffer(size / 2, ROUND)
            found.append((disc, *ordered(wall, wall + way * 1.5), "caliper", "bolt"))
    return found


def ring_pieces(ring: Ring, vanes: str) -> tuple[Piece, ...]:
    """Return the friction ring as it looks: solid, or two skins with vanes between them [mm]."""
    whole = _annulus(ring.r0, ring.r1)
    thick = ring.z1 - ring.z0
    if vanes == "none" or not is_known(ring.r0, ring.r1, thick):
        return ((whole, ring.z0, ring.z1, "rotor", "rotor"),)
    low, high = ring.z0 + SKIN * thick, ring.z1 - SKIN * thick
    ribs = shapely.union_all([_rib(ring, 2 * math.pi * k / VANES) for k in range(VANES)])
    return (
        (whole, ring.z0, low, "rotor", "rotor"),
        (ribs, low, high, "rotor", "rotor"),
        (whole, high, ring.z1, "rotor", "rotor"),
    )


def _rib(ring: Ring, turn: float) -> shapely.Geometry:
    (u, v), half = (math.cos(turn), math.sin(turn)), VANE_WIDE_MM / 2
    ends = (ring.r0 + 1.0, -half), (ring.r1 - 1.0, -half), (ring.r1 - 1.0, half), (ring.r0 + 1.0, half)
    return shapely.Polygon([(r * u - w * v, r * v + w * u) for r, w in ends])


def _annulus(inner: float, outer: float) -> shapely.Geometry:
    disc = shapely.Point(0.0, 0.0).buffer(outer, 14)
    return disc.difference(shapely.Point(0.0, 0.0).buffer(inner, 14)) if inner > 0 else disc


Indices = NDArray[np.intp]
CHORD_MM, SEGMENTS = 0.08, 56
TUBE_LONG_MM, TUBE_FROM_MM, TUBE_WALL = 90.0, 40.0, 0.82
"""How much of an axle's tube is shown, from where without a retainer [mm], and its inside as a share of its outside."""
APART = {"hub": 0.0, "rotor": 2.4, "lug": -0.6, "bracket": 0.0, "caliper": 1.6, "bolt": -1.5, "bolt from outboard": 0.8}
"""How far each kind of body moves along the axle when the scene is pulled apart, as a share of the pull."""


class SceneBody(Record, frozen=True):
    """One closed mesh: corners (n, 3) float, mm in the hub frame; triangles (m, 3) of corner numbers, seen from outside
    counter-clockwise. ``apart``: its share of the pull along z. ``veil``: drawn half through."""

    tag: str
    ink: str
    corners: FloatArray
    triangles: Indices
    apart: float
    veil: bool = False


class Scene(Record, frozen=True):
    """Everything to look at. ``cut``: (normal, distance) of the plane through the ear bolts along the axle."""

    bodies: tuple[SceneBody, ...]
    cut: tuple[tuple[float, float, float], float]


def solid_scene(solution: Solution) -> Scene:
    """Return what is known of ``solution`` as meshes; a left corner's is the mirror image."""
    assembly, job = solution.assembly, solution.job
    bodies: list[SceneBody] = []
    for ring in (r for r in cut_for(job) if r.is_known):
        short = Ring(ring.r0, ring.r1, max(ring.z0, -70.0), ring.z1)
        bodies.append(_turned(short, "hub", "hub", APART["hub"]))
    hat = known(job.rotor.hat_outer_mm) / 2  # as it is drawn, where the findings take the most it can be
    rings = [assembly.rotor[0], *(replace(ring, r1=hat) for ring in assembly.rotor[1:])]
    if rings[0].is_known:
        bodies += [prism(*piece, APART["rotor"]) for piece in ring_pieces(rings[0], job.rotor.vanes)]
    bodies += [_turned(ring, "rotor", "rotor", APART["rotor"]) for ring in rings[1:] if ring.is_known]
    bodies += _tube(job)
    bodies += _bracket(solution)
    bodies += [
        _lug(round_one)
        for round_one in assembly.fixed
        if round_one.feature[:4] == "lug-" and round_one.feature[4:].isdigit() and round_one.is_known
    ]
    bodies += [body for placed in assembly.joints for body in _bolt(placed)]
    for shape, low, high, tag, ink in caliper_pieces(solution):
        bodies.append(prism(shape, low, high, tag, ink, APART["caliper"], veil=ink == "caliper"))
    frame = solution.line.frame
    normal = (*frame.u, 0.0) if frame.is_known else (1.0, 0.0, 0.0)
    bodies = [body for body in bodies if len(body.corners) and np.isfinite(body.corners).all()]
    scene = Scene(tuple(bodies), (normal, solution.line.ear_line_radius))
    return mirrored_scene(scene) if job.is_left else scene


def _tube(job: Job) -> list[SceneBody]:
    """The axle's tube behind the hub, where it is measured."""
    wide, face = known(job.hub.tube_diameter_mm), known(job.hub.retainer_face_z_mm)
    start = face if is_known(face) else -TUBE_FROM_MM
    if not is_known(wide):
        return []
    return [_turned(Ring(wide / 2 * TUBE_WALL, wide / 2, start - TUBE_LONG_MM, start), "hub", "hub", APART["hub"])]


def _lug(round_one: Prism) -> SceneBody:
    disc = shapely.Point(round_one.at).buffer(round_one.radius, 12)
    return prism(disc, round_one.z0, round_one.z1, round_one.feature, "knuckle", APART["lug"])


def mirrored_scene(scene: Scene) -> Scene:
    """Return the mirror image in the plane x = 0, faces turned so that they still look outward."""
    bodies = tuple(
        SceneBody(b.tag, b.ink, b.corners * np.array([-1.0, 1.0, 1.0]), b.triangles[:, ::-1], b.apart, b.veil)
        for b in scene.bodies
    )
    (x, y, z), distance = scene.cut
    return Scene(bodies, ((-x, y, z), distance))


def _bracket(solution: Solution) -> list[SceneBody]:
    return [body for part in solution.parts for body in part_bodies(part)]


def part_bodies(part: MadePart) -> list[SceneBody]:
    """Return a made part as meshes where it sits; a bent plate bent, pockets cut out."""
    z0 = part.z0 if is_known(part.z0) else 0.0
    if part.shape == "plate" and part.outline is not None:
        shape, fold = plate_shape(part, CHORD_MM), fold_of(part)
        if fold is not None:
            return [_bent(strip, fold) for strip in strips(shape, fold, fold.breaks())]
        levels = layers(part, shape, z0, CHORD_MM, sinks=True)
        return [prism(of, low, high, "bracket", "made", APART["bracket"]) for of, low, high in levels]
    spots = part.centres or ((0.0, 0.0),)
    made = []
    for x, y in spots:
        bore = shapely.Point(x + part.offset, y).buffer(part.inner / 2, 14)
        ring = shapely.Point(x, y).buffer(part.outer / 2, 14).difference(bore)
        made.append(prism(ring, z0, z0 + part.thickness, "bracket", "made", APART["bracket"]))
    return made


def _bent(strip: shapely.Geometry, fold: Fold) -> SceneBody:
    flat = prism(strip, fold.z0, fold.z0 + fold.thickness, "bracket", "made", APART["bracket"])
    return replace(flat, corners=fold.lifted(flat.corners))


def _turned(ring: Ring, tag: str, ink: str, apart: float) -> SceneBody:
    shape = shapely.Point(0, 0).buffer(ring.r1, SEGMENTS // 4)
    if ring.r0 > 0:
        shape = shape.difference(shapely.Point(0, 0).buffer(ring.r0, SEGMENTS // 4))
    return prism(shape, ring.z0, ring.z1, tag, ink, apart)


def _bolt(placed: PlacedJoint) -> list[SceneBody]:
    """Hexagon head and shank of one bolt."""
    joint, (x, y) = placed.joint, placed.centre
    if not is_known(x, y, placed.seat_z, placed.tip_z, placed.head_z):
        return []
    corner = joint.thread.head_across_corners / 2
    turns = [math.pi / 3 * k for k in range(6)]
    head = shapely.Polygon([(x + corner * math.cos(t), y + corner * math.sin(t)) for t in turns])
    shank = shapely.Point(x, y).buffer(joint.thread.major / 2, 5)
    apart = APART["bolt" if placed.way > 0 else "bolt from outboard"]
    if joint.stack.sunk:
        size, high, _ = SUNK_HEADS[joint.thread.size]
        head = shapely.Point(x, y).buffer(size / 2, 8)
        return [prism(head, *ordered(placed.seat_z, placed.seat_z + placed.way * high / 2), placed.feature, "bolt", apart),
                prism(shank, *ordered(placed.seat_z, placed.tip_z), placed.feature, "bolt", apart)]  # fmt: skip
    spans = (head, ordered(placed.seat_z, placed.head_z)), (shank, ordered(placed.seat_z, placed.tip_z))
    return [prism(shape, low, high, placed.feature, "bolt", apart) for shape, (low, high) in spans]


def prism(
    shape: shapely.Geometry, z0: float, z1: float, tag: str, ink: str, apart: float, veil: bool = False
) -> SceneBody:
    """Return ``shape`` between two heights [mm]: caps triangulated within the outline, walls along every ring."""
    corners: list[tuple[float, float, float]] = []
    faces: list[tuple[int, int, int]] = []
    for part in shapely.get_parts(shape):
        _caps(shapely.orient_polygons(part), z0, z1, corners, faces)
        _walls(shapely.orient_polygons(part), z0, z1, corners, faces)
    return SceneBody(
        tag,
        ink,
        np.array(corners, dtype=float).reshape(-1, 3),
        np.array(faces, dtype=np.intp).reshape(-1, 3),
        apart,
        veil,
    )


def _caps(
    part: shapely.Polygon,
    z0: float,
    z1: float,
    corners: list[tuple[float, float, float]],
    faces: list[tuple[int, int, int]],
) -> None:
    for triangle in shapely.get_parts(shapely.constrained_delaunay_triangles(part)):
        (ax, ay), (bx, by), (cx, cy) = triangle.exterior.coords[:3]
        if (bx - ax) * (cy - ay) - (by - ay) * (cx - ax) < 0:
            (bx, by), (cx, cy) = (cx, cy), (bx, by)
        start = len(corners)
        corners += [(ax, ay, z1), (bx, by, z1), (cx, cy, z1), (ax, ay, z0), (cx, cy, z0), (bx, by, z0)]
        faces += [(start, start + 1, start + 2), (start + 3, start + 4, start + 5)]


def _walls(
    part: shapely.Polygon,
    z0: float,
    z1: float,
    corners: list[tuple[float, float, float]],
    faces: list[tuple[int, int, int]],
) -> None:
    """Walls of a polygon whose shell runs counter-clockwise and whose holes run clockwise: metal is always to the left."""
    for ring in (part.exterior, *part.interiors):
        points = list(ring.coords)
        for (ax, ay), (bx, by) in pairwise(points):
            start = len(corners)
            corners += [(ax, ay, z0), (bx, by, z0), (bx, by, z1), (ax, ay, z1)]
            faces += [(start, start + 1, start + 2), (start, start + 2, start + 3)]

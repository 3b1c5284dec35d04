"""The caliper in space as one sees it: walls with the slot between them, bridge, ears, pads, pistons; and a vented rotor's ring.

For looking only: rooms are asked of `lineup.body` and `lineup.solids`.
"""

import math

import shapely

from bicentra.core.base.numbers import is_known, known, ordered
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.ring import Ring
from bicentra.core.lineup.body import Body as CaliperBody
from bicentra.core.parts.job import Caliper
from bicentra.core.solution import Solution

Piece = tuple[shapely.Geometry, float, float, str, str]
"""Shape along the axle, from which to which height [mm], tag, ink."""
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
    found: list[Piece] = [
        (plan, body.z0, low, "caliper", "caliper"),
        (above, low, high, "caliper", "caliper"),
        (plan, high, body.z1, "caliper", "caliper"),
    ]
    found = [piece for piece in found if piece[2] > piece[1] and not piece[0].is_empty]
    return (*found, *_ears(solution), *_pads(solution, low, high), *_pistons(caliper, line.frame, body, (low, high)))


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

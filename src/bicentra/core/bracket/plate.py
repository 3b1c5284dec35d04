"""The plate round the bosses of lugs and ears: common tangents, room cut for hub and rotor; its metal between holes and edges."""

import math
from itertools import combinations

from bicentra.core.base.errors import OutlineError
from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.records import Record
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.cutouts import are_known, cutout_outline
from bicentra.core.bracket.edges import bosses, plate_discs, waisted
from bicentra.core.bracket.holes import Hole, spacing_of, spine_of
from bicentra.core.bracket.model import PlateShape
from bicentra.core.geometry.hull import convex_outline
from bicentra.core.geometry.outline import Outline
from bicentra.core.geometry.relief import Relieved, relieve
from bicentra.core.lineup.solids import cut_for
from bicentra.core.parts.limits import allowance

SLOT_STEPS = 8
"""Parts into which a slot is divided to look for its nearest edge."""


def shape_plate(assembly: Assembly) -> PlateShape:
    """Return the plate round the bosses of ``assembly``; one that cannot be made has no outline, and says why."""
    room, pulls = keep_out_radius(assembly), assembly.job.bracket.pulls
    try:
        whole = convex_outline(plate_discs(assembly.holes, pulls))
    except OutlineError as error:
        return PlateShape(None, None, room, str(error))
    try:
        corner = allowance(assembly.job, "corner-radius")
        cut = relieve(whole, room, corner) if room > 0.0 else Relieved(whole)
        outline = waisted(cut.outline, assembly.holes, pulls, corner)
    except OutlineError as error:
        return PlateShape(None, None, room, str(error), impossible=True)
    made = tuple(cutout_outline(c) for c in assembly.job.bracket.cutouts if are_known((c,)))
    return PlateShape(outline, cut.window, room, cutouts=made, open=room_not_known(assembly))


def keep_out_radius(assembly: Assembly) -> float:
    """Return the radius [mm] about the axis that is cut out of the plate: 0 when nothing turns at its height.

    Room that a hole would lie in cannot be cut; then nothing is, and the findings say how far the parts clash.
    """
    job, (z0, z1) = assembly.job, assembly.stack_up.z_range
    if not is_known(z0, z1):
        return 0.0
    hub_room, rotor_room = allowance(job, "hub-clearance"), allowance(job, "rotor-clearance")
    rooms = [*((ring, hub_room) for ring in cut_for(job)), *((ring, rotor_room) for ring in assembly.rotor)]
    radii = [ring.r1 + room for ring, room in rooms if ring.is_known and z0 < ring.z1 + room and z1 > ring.z0 - room]
    nearest = min((math.hypot(*hole.centre) for hole in assembly.holes), default=UNKNOWN)
    return max((radius for radius in radii if radius < nearest), default=0.0)


def room_not_known(assembly: Assembly) -> str:
    """Return what keeps the room cut out of the plate from being known, in words; empty when it is."""
    z0, z1 = assembly.stack_up.z_range
    if not is_known(z0, z1):
        return "the plate's place along the axle is unknown"
    hub_room, rotor_room = allowance(assembly.job, "hub-clearance"), allowance(assembly.job, "rotor-clearance")
    for name, rings, room in (("hub", assembly.hub, hub_room), ("rotor", assembly.rotor, rotor_room)):
        for ring in rings:
            beside = is_known(ring.z0, ring.z1) and not (z0 < ring.z1 + room and z1 > ring.z0 - room)
            if not (ring.is_known and ring.sure) and not beside:
                return f"needs the {name}'s sizes at the plate's height: they decide how much is cut out of it"
    return ""


def chamfer_volume(outline: Outline, size: float) -> float:
    """Return what a chamfer of ``size`` [mm] at 45° takes off both faces along ``outline`` [mm3].

    A triangle of ½c² swept along the outline, its centroid a third of c inside it (Pappus).
    """
    arcs = (seg for seg in outline.segments if seg.bulge)
    bent = math.fsum(-seg.sweep * size / 3 for seg in arcs)
    return size**2 * (math.fsum(seg.length for seg in outline.segments) + bent)


def farthest(assembly: Assembly) -> float:
    """Return how far from the axis the plate reaches [mm]: the outermost boss or corner, since a waist only takes away."""
    try:
        discs = plate_discs(assembly.holes, assembly.job.bracket.pulls)
    except OutlineError:
        discs = bosses(assembly.holes)
    reaches = [math.hypot(*disc.centre) + disc.radius for disc in discs]
    return max(reaches) if reaches and is_known(*reaches) else UNKNOWN


class Ligament(Record, frozen=True):
    """The metal left between two holes [mm]: distance of centres less both radii."""

    value: float
    first: Hole
    second: Hole


def ligaments(holes: tuple[Hole, ...]) -> tuple[Ligament, ...]:
    """Return the metal between every pair of holes, in the order of the holes."""
    return tuple(Ligament(middles_apart(a, b) - (a.widest + b.widest) / 2, a, b) for a, b in combinations(holes, 2))


def middles_apart(one: Hole, other: Hole) -> float:
    """Return the least distance between the middles of two holes, along their slots [mm]; unknown when either is."""
    if not (one.slot or other.slot) or not is_known(*(v for end in (*one.ends, *other.ends) for v in end)):
        return spacing_of(one.centre, other.centre) if not (one.slot or other.slot) else UNKNOWN
    return float(spine_of(one).distance(spine_of(other)))


def edge_distance(plate: PlateShape, hole: Hole) -> float:
    """Return the distance [mm] from a hole's centre, or from where it comes nearest along its slot, to the plate's edge."""
    if plate.outline is None:
        return UNKNOWN
    (ax, ay), (bx, by) = hole.ends[0], hole.ends[-1]
    along = range(SLOT_STEPS + 1) if hole.slot else range(1)
    spots = [(ax + (bx - ax) * k / SLOT_STEPS, ay + (by - ay) * k / SLOT_STEPS) for k in along]
    edges = [plate.outline, *([plate.window] if plate.window else [])]
    return min(edge.distance_to(spot) for edge in edges for spot in spots)

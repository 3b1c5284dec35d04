"""The plate round the bosses of lugs and ears: common tangents, room cut for hub and rotor, edges pulled out or in; its
metal between holes.
"""

import math
from itertools import combinations

from bicentra.core.base.errors import OutlineError
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.cutouts import are_known, cutout_outline
from bicentra.core.bracket.holes import Hole, spacing_of, spine_of
from bicentra.core.bracket.model import PlateShape
from bicentra.core.geometry.hull import Disc, convex_outline
from bicentra.core.geometry.outline import TOUCH_MM, Outline, Point
from bicentra.core.geometry.relief import Relieved, relieve
from bicentra.core.lineup.solids import cut_for
from bicentra.core.parts.job import Pull
from bicentra.core.parts.limits import allowance

CHORD_SHARE, LEAST_PULL_MM = 0.8, 0.05
"""How much of an edge a waist takes; a pull smaller than this is none [mm]."""


class PlateEdge(Record, frozen=True):
    """A straight edge before it is pulled: the numbers of the holes it runs between, and its ends [mm]."""

    first: int
    second: int
    a: Point
    b: Point

    @property
    def length(self) -> float:
        """How long it is [mm]."""
        return math.dist(self.a, self.b)

    @property
    def middle(self) -> Point:
        """Its middle [mm]."""
        return (self.a[0] + self.b[0]) / 2, (self.a[1] + self.b[1]) / 2

    @property
    def out(self) -> Point:
        """The unit vector away from the plate."""
        return (self.b[1] - self.a[1]) / self.length, (self.a[0] - self.b[0]) / self.length

    def beyond(self, by: float) -> Point:
        """Return the point ``by`` [mm] outside its middle."""
        (x, y), (u, v) = self.middle, self.out
        return x + by * u, y + by * v


def bosses(holes: tuple[Hole, ...]) -> tuple[Disc, ...]:
    """Return the boss round every hole, round both ends of a slot."""
    return tuple(Disc(end, hole.boss_radius) for hole in holes for end in hole.ends)


def plate_edges(holes: tuple[Hole, ...]) -> tuple[PlateEdge, ...]:
    """Return the straight edges between the bosses of unlike holes. Raises ``OutlineError`` while a hole is unknown."""
    rims = [(k, end, hole.boss_radius) for k, hole in enumerate(holes) for end in hole.ends]

    def whose(point: Point) -> int:
        return min(rims, key=lambda rim: abs(math.dist(rim[1], point) - rim[2]))[0]

    lines = (seg for seg in convex_outline(bosses(holes)).segments if seg.bulge == 0.0 and seg.length > TOUCH_MM)
    found = (PlateEdge(whose(seg.start), whose(seg.end), seg.start, seg.end) for seg in lines)
    return tuple(edge for edge in found if edge.first != edge.second)


def plate_discs(holes: tuple[Hole, ...], pulls: tuple[Pull, ...]) -> tuple[Disc, ...]:
    """Return the discs that the plate's outline runs round: bosses, and what is pulled out. Raises ``OutlineError``."""
    outward = {(p.from_hole, p.to_hole): known(p.out_mm) for p in pulls if not known(p.out_mm) < LEAST_PULL_MM}
    if not outward:
        return bosses(holes)
    found = []
    for edge in plate_edges(holes):
        out = outward.get((edge.first, edge.second))
        if out is not None:
            radius = min(holes[edge.first].boss_radius, holes[edge.second].boss_radius)
            found.append(Disc(edge.beyond(out - radius), radius))
    return (*bosses(holes), *found)


def waisted(outline: Outline, holes: tuple[Hole, ...], pulls: tuple[Pull, ...], corner: float) -> Outline:
    """Return ``outline`` with the waists of what is pulled in [mm]. Raises ``OutlineError`` where one does not fit its edge."""
    inward = {(p.from_hole, p.to_hole): -known(p.out_mm) for p in pulls if known(p.out_mm) <= -LEAST_PULL_MM}
    for edge in plate_edges(holes) if inward else ():
        deep = inward.get((edge.first, edge.second))
        if deep is not None and is_known(deep):
            outline = _waist(outline, edge, deep, corner, holes)
    return outline


def _waist(outline: Outline, edge: PlateEdge, deep: float, corner: float, holes: tuple[Hole, ...]) -> Outline:
    half = CHORD_SHARE * edge.length / 2
    radius = (half**2 + deep**2) / (2 * deep)
    cx, cy = edge.beyond(radius - deep)
    moved = Outline(tuple((x - cx, y - cy, bulge) for x, y, bulge in outline.vertices))
    between = f"between {holes[edge.first].name} and {holes[edge.second].name}"
    try:
        cut = relieve(moved, radius, corner)
    except OutlineError:
        raise OutlineError(
            f"the edge {between} cannot be pulled in {deep:.1f} mm: it would cut the plate in two"
        ) from None
    if cut.window is not None or cut.outline == moved:
        raise OutlineError(f"the edge {between} is not there to be pulled in: the room for hub or rotor takes it")
    return Outline(tuple((x + cx, y + cy, bulge) for x, y, bulge in cut.outline.vertices))


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

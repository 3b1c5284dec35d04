"""The flat plate: bosses round every hole joined by common tangents, room cut for hub and rotor, mass."""

import math
from dataclasses import dataclass, replace
from itertools import combinations

from bicentra.core.base.errors import OutlineError
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.outline import Outline
from bicentra.core.bracket.cutouts import are_known, cutout_outline
from bicentra.core.bracket.edges import bosses, plate_discs, waisted
from bicentra.core.bracket.holes import Hole, PlacedJoint, place_joints, plate_holes, spacing_of, spine_of
from bicentra.core.bracket.hull import convex_outline
from bicentra.core.bracket.packing import Packing, pack
from bicentra.core.bracket.posts import Post, ear_posts, fixed_posts
from bicentra.core.bracket.relief import Relieved, contains_axis, relieve
from bicentra.core.bracket.slab import Slab
from bicentra.core.lineup.body import Body, caliper_body
from bicentra.core.lineup.solids import Ring, cut_for, hub_rings, rotor_rings
from bicentra.core.lineup.solve import LineUp, line_up
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import allowance
from bicentra.core.parts.materials import find_material

SLOT_STEPS = 8
"""Parts into which a slot is divided to look for its nearest edge."""


@dataclass(frozen=True)
class Assembly:
    """Everything placed: the line-up, the packing, the plate's holes, the bolts, and the solids round them.

    ``fixed`` stands at the lugs, ``turning`` goes round with each of the two ears. ``bolted``: where the bracket has bolts.
    ``metal``: the bracket of another family as slabs; empty for the flat plate. ``solved``: whether the bracket that the job has
    taken is known at all; where it is not, nothing is said of its metal and bolts.
    """

    job: Job
    line: LineUp
    packing: Packing
    holes: tuple[Hole, ...]
    joints: tuple[PlacedJoint, ...]
    body: Body
    rotor: tuple[Ring, ...]
    hub: tuple[Ring, ...]
    fixed: tuple[Post, ...]
    turning: tuple[tuple[Post, ...], tuple[Post, ...]]
    bolted: tuple[str, ...] = ("lug", "ear")
    metal: tuple[Slab, ...] = ()
    solved: bool = True

    @property
    def unsolved(self) -> str:
        """What is missing where the bracket that is taken cannot be solved, in words; empty where it is."""
        return (
            ""
            if self.solved
            else "the bracket that is taken cannot be made yet, so where the caliper sits is not known"
        )

    @property
    def unchosen(self) -> tuple[str, ...]:
        """Where the bracket has bolts that nobody has chosen yet: their place and length are not known."""
        there = {joint.feature.split("-")[0] for joint in self.joints}
        return tuple(group for group in self.bolted if group not in there)


@dataclass(frozen=True)
class FlatPlate:
    """The plate, or why there is none. ``keep_out``: radius about the axis kept free for hub or rotor [mm].

    ``impossible``: everything is known, and there still is no plate. ``open``: what is not known and may still cut into it.
    """

    outline: Outline | None
    window: Outline | None
    keep_out: float
    area: float
    mass_kg: float
    reach: Ring
    fault: str = ""
    impossible: bool = False
    cutouts: tuple[Outline, ...] = ()
    open: str = ""


def assemble(job: Job) -> Assembly:
    """Place every part of ``job``."""
    line = line_up(job)
    return placed_with(job, line, pack(job, line))


def placed_with(job: Job, line: LineUp, packing: Packing, bolted: tuple[str, ...] = ("lug", "ear")) -> Assembly:
    """Place every part round a bracket that stands as ``packing`` says, with bolts where it is ``bolted``."""
    joints = tuple(joint for joint in place_joints(job, line, packing) if joint.feature.split("-")[0] in bolted)
    return Assembly(
        job=job,
        line=line,
        packing=packing,
        holes=plate_holes(job, line),
        joints=joints,
        body=caliper_body(job, line, packing.error),
        rotor=rotor_rings(job, line),
        hub=hub_rings(job),
        fixed=fixed_posts(job, packing, joints),
        turning=ear_posts(job, line, packing, joints),
        bolted=bolted,
    )


def without_bracket(job: Job) -> Assembly:
    """Return everything but the bracket placed: of a kind that is taken and cannot be solved yet nothing is known."""
    line = line_up(job)
    packing = pack(job, line)
    nowhere = replace(packing, errors=(UNKNOWN,) * max(len(packing.errors), 1), ear_z=UNKNOWN)
    return replace(placed_with(job, line, nowhere, ()), bolted=("lug", "ear"), solved=False)


def make_plate(assembly: Assembly) -> FlatPlate:
    """Return the flat plate of ``assembly``; a plate that cannot be made comes back without outline and with the fault."""
    room, pulls = keep_out_radius(assembly), assembly.job.bracket.pulls
    z0, z1 = assembly.packing.z_range
    try:
        whole = convex_outline(plate_discs(assembly.holes, pulls))
    except OutlineError as error:
        return FlatPlate(None, None, room, UNKNOWN, UNKNOWN, Ring(UNKNOWN, UNKNOWN, z0, z1), str(error))
    try:
        corner = allowance(assembly.job, "corner-radius")
        cut = relieve(whole, room, corner) if room > 0.0 else Relieved(whole)
        outline = waisted(cut.outline, assembly.holes, pulls, corner)
    except OutlineError as error:
        reach = Ring(_nearest(whole), farthest(assembly), z0, z1)
        return FlatPlate(None, None, room, UNKNOWN, UNKNOWN, reach, str(error), impossible=True)
    return _plate(assembly, outline, cut.window, room)


def keep_out_radius(assembly: Assembly) -> float:
    """Return the radius [mm] about the axis that is cut out of the plate: 0 when nothing turns at its height.

    Room that a hole would lie in cannot be cut; then nothing is, and the findings say how far the parts clash.
    """
    job, (z0, z1) = assembly.job, assembly.packing.z_range
    if not is_known(z0, z1):
        return 0.0
    hub_room, rotor_room = allowance(job, "hub-clearance"), allowance(job, "rotor-clearance")
    rooms = [*((ring, hub_room) for ring in cut_for(job)), *((ring, rotor_room) for ring in assembly.rotor)]
    radii = [ring.r1 + room for ring, room in rooms if ring.is_known and z0 < ring.z1 + room and z1 > ring.z0 - room]
    nearest = min((math.hypot(*hole.centre) for hole in assembly.holes), default=UNKNOWN)
    return max((radius for radius in radii if radius < nearest), default=0.0)


def room_not_known(assembly: Assembly) -> str:
    """Return what keeps the room cut out of the plate from being known, in words; empty when it is."""
    z0, z1 = assembly.packing.z_range
    if not is_known(z0, z1):
        return "the plate's place along the axle is not known"
    hub_room, rotor_room = allowance(assembly.job, "hub-clearance"), allowance(assembly.job, "rotor-clearance")
    for name, rings, room in (("hub", assembly.hub, hub_room), ("rotor", assembly.rotor, rotor_room)):
        for ring in rings:
            beside = is_known(ring.z0, ring.z1) and not (z0 < ring.z1 + room and z1 > ring.z0 - room)
            if not (ring.is_known and ring.sure) and not beside:
                return f"needs the {name}'s sizes at the plate's height: they decide how much is cut out of it"
    return ""


def _plate(assembly: Assembly, outline: Outline, window: Outline | None, room: float) -> FlatPlate:
    job, packing = assembly.job, assembly.packing
    holes = sum(hole.area for hole in assembly.holes)
    placed = (p for p in job.bracket.dowels if is_known(p.x_mm, p.y_mm, p.diameter_mm))
    pins = sum(math.pi / 4 * known(pin.diameter_mm) ** 2 for pin in placed)
    cut = tuple(cutout_outline(c) for c in job.bracket.cutouts if are_known((c,)))
    area = outline.area - holes - pins - (window.area if window else 0.0) - sum(one.area for one in cut)
    material = find_material(job.bracket.material)
    sunk = sum(hole.sunk_volume for hole in assembly.holes)
    sunk += chamfer_volume(outline, known(job.bracket.chamfer_mm)) if job.bracket.chamfer_mm else 0.0
    mass = (area * packing.thickness - sunk) * 1e-9 * material.density if material else UNKNOWN
    z0, z1 = packing.z_range
    nearest = room if window else _nearest(outline)
    reach = Ring(nearest, farthest(assembly), z0, z1)
    return FlatPlate(outline, window, room, area, mass, reach, cutouts=cut, open=room_not_known(assembly))


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


def _nearest(outline: Outline) -> float:
    """Return the plate's smallest radius: 0 when the axis lies inside it."""
    return 0.0 if contains_axis(outline) else outline.distance_to((0.0, 0.0))


@dataclass(frozen=True)
class Ligament:
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


def edge_distance(plate: FlatPlate, hole: Hole) -> float:
    """Return the distance [mm] from a hole's centre, or from where it comes nearest along its slot, to the plate's edge."""
    if plate.outline is None:
        return UNKNOWN
    (ax, ay), (bx, by) = hole.ends[0], hole.ends[-1]
    along = range(SLOT_STEPS + 1) if hole.slot else range(1)
    spots = [(ax + (bx - ax) * k / SLOT_STEPS, ay + (by - ay) * k / SLOT_STEPS) for k in along]
    edges = [plate.outline, *([plate.window] if plate.window else [])]
    return min(edge.distance_to(spot) for edge in edges for spot in spots)

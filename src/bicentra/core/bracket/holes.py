"""The plate's holes and the bolts through them: which side a bolt enters from, what it is screwed into."""

import math
from dataclasses import dataclass, replace

from bicentra.core.base.numbers import UNKNOWN, first_known, known
from bicentra.core.base.outline import Point
from bicentra.core.bracket.packing import Packing
from bicentra.core.fasteners.joint import Joint, Stack, make_joint, nut_stack
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job
from bicentra.core.parts.materials import SOFT_ENGAGEMENT, engagement_factor, find_material
from bicentra.core.parts.threads import CLEARANCES, Thread, find_thread

CLASSES = ("close", "normal", "loose")
RECESS_ROOM_MM, RECESS_WALL_MM = 2.0, 3.0
"""Room across for a socket in a counterbore, and the least wall round one [mm]: common practice."""


@dataclass(frozen=True)
class Hole:
    """One hole of the plate: centre in the hub frame, diameter of what goes right through, and how it is made [mm].

    ``recess``: depth of the counterbore that takes the bolt's head and washers, flush with the face they enter from.
    """

    name: str
    feature: str
    centre: Point
    diameter: float
    kind: str
    drill: float
    thread: Thread | None
    boss_radius: float
    recess: float = 0.0
    recess_diameter: float = 0.0

    @property
    def widest(self) -> float:
        """Diameter at the widest, its counterbore included [mm]: what has to keep off its neighbours."""
        return max(self.diameter, self.recess_diameter) if self.recess else self.diameter

    @property
    def note(self) -> str:
        """What the workshop does: ``drill Ø 13.5`` or ``tap M12x1.5 (drill Ø 10.5)``."""
        if self.kind == "tapped" and self.thread is not None:
            return f"tap {self.thread.name} (drill Ø {self.drill:.1f})"
        sunk = f", counterbore Ø {self.recess_diameter:.0f} × {self.recess:.1f}" if self.recess else ""
        return f"drill Ø {self.drill:.1f}{sunk}"


@dataclass(frozen=True)
class PlacedJoint:
    """A bolt where it sits: ``seat_z`` is the face its washers lie on, ``way`` +1 when it points outboard."""

    name: str
    feature: str
    centre: Point
    joint: Joint
    seat_z: float
    way: float

    @property
    def tip_z(self) -> float:
        """z of the bolt's tip."""
        return self.seat_z + self.way * self.joint.tip

    @property
    def head_z(self) -> float:
        """z of the head's top."""
        return self.seat_z - self.way * self.joint.head_top


def hole_kind(asked: str, thread_behind: str | None) -> str:
    """Return clearance or tapped: as asked, else clearance into a threaded part and tapped behind a plain one."""
    return asked if asked != "auto" else ("clearance" if thread_behind else "tapped")


def plate_holes(job: Job, line: LineUp) -> tuple[Hole, ...]:
    """Return the holes: the lugs in the file's order, then the two ears."""
    bracket = job.bracket
    walls = bracket.boss_walls_mm or (known(bracket.wall_mm),) * (len(job.knuckle.lugs) + 2)
    lug_thread, ear_thread = _thread(bracket.lug_bolt), _thread(bracket.caliper_bolt)
    holes = [
        _hole(
            lug.name or f"lug {k + 1}",
            f"lug-{k}",
            (known(lug.x_mm), known(lug.y_mm)),
            lug_thread,
            hole_kind(bracket.lug_hole, lug.thread),
            walls[k],
            bracket.hole_class,
            bracket.lug_washers,
        )
        for k, lug in enumerate(job.knuckle.lugs)
    ]
    kind = hole_kind(bracket.caliper_hole, job.caliper.ear_thread)
    for k, (x, y, _) in enumerate(line.ears):
        place, washers = (x, y), bracket.caliper_washers
        holes.append(
            _hole(f"ear {k + 1}", f"ear-{k}", place, ear_thread, kind, walls[k - 2], bracket.hole_class, washers)
        )
    return tuple(holes)


def _thread(name: str | None) -> Thread | None:
    return find_thread(name) if name else None


def _hole(
    name: str, feature: str, centre: Point, thread: Thread | None, kind: str, wall: float, wide: str, washers: int
) -> Hole:
    if thread is None:
        return Hole(name, feature, centre, UNKNOWN, kind, UNKNOWN, None, UNKNOWN)
    tapped = kind == "tapped"
    clear = CLEARANCES[thread.size][CLASSES.index(wide)]
    widest, drill = (thread.major, thread.tap_drill) if tapped else (clear, clear)
    sunk = recess_depth(thread, kind, washers)
    across = max(thread.head_across_corners, thread.hardware.washer_outer if washers else 0.0) + RECESS_ROOM_MM
    boss = max(widest / 2 + wall, across / 2 + RECESS_WALL_MM if sunk else 0.0)
    return Hole(name, feature, centre, widest, kind, drill, thread, boss, sunk, across if sunk else 0.0)


def recess_depth(thread: Thread, kind: str, washers: int) -> float:
    """Return how deep a counterbore is [mm]: head and washers flush with the plate; 0 for other holes."""
    return thread.hardware.head_height + washers * thread.hardware.washer_thickness if kind == "counterbore" else 0.0


def turned_to(holes: tuple[Hole, ...], ears: tuple[Point, Point]) -> tuple[Hole, ...]:
    """Return the same holes with the ears' ones at other places."""
    lugs, old = holes[:-2], holes[-2:]
    return (*lugs, replace(old[0], centre=ears[0]), replace(old[1], centre=ears[1]))


def place_joints(job: Job, line: LineUp, packing: Packing) -> tuple[PlacedJoint, ...]:
    """Return every bolt in its place, lugs first; none for a bolt nobody has chosen."""
    placed: list[PlacedJoint] = []
    lug_thread, ear_thread = _thread(job.bracket.lug_bolt), _thread(job.bracket.caliper_bolt)
    if lug_thread is not None:
        placed += [_lug_joint(job, packing, lug_thread, k) for k in range(len(job.knuckle.lugs))]
    if ear_thread is not None:
        placed += [_ear_joint(job, line, packing, ear_thread, k) for k in range(2)]
    return tuple(placed)


def _lug_joint(job: Job, packing: Packing, thread: Thread, index: int) -> PlacedJoint:
    """A bolt into a threaded lug or with a nut enters from the plate's far face, into a tapped plate from behind the lug."""
    lug, bracket, sign = job.knuckle.lugs[index], job.bracket, packing.sign
    depth, shim, plate = known(lug.thickness_mm), packing.shims[index], packing.thickness
    kind = hole_kind(bracket.lug_hole, lug.thread)
    face = packing.lug_faces[index]
    washers = int(first_known(bracket.lug_washers, 0))
    sunk = recess_depth(thread, kind, washers)
    if kind == "tapped":
        stack = _threaded_stack(thread, depth + shim, washers, plate, "plate", _plate_factor(job))
        seat, way = face - sign * depth, sign
    elif lug.thread:
        stack = _threaded_stack(
            thread, plate - sunk + shim, washers, depth, "lug", engagement_factor(job.knuckle.material)
        )
        seat, way = face + sign * (shim + plate - sunk), -sign
    else:
        stack = nut_stack(thread, plate - sunk + shim + depth, washers)
        seat, way = face + sign * (shim + plate - sunk), -sign
    joint = make_joint(thread, stack, bracket.lug_bolt_length_mm)
    centre = (known(lug.x_mm), known(lug.y_mm))
    return PlacedJoint(f"bolt at {lug.name or f'lug {index + 1}'}", f"lug-bolt-{index}", centre, joint, seat, way)


def _ear_joint(job: Job, line: LineUp, packing: Packing, thread: Thread, index: int) -> PlacedJoint:
    """A bolt into a threaded ear or with a nut enters through the plate, into a tapped plate through the ear."""
    caliper, bracket = job.caliper, job.bracket
    outward = 1.0 if caliper.ear_seat == "inboard" else -1.0
    depth, plate, z = known(caliper.ear_thickness_mm), packing.metal_at_ears, packing.ear_z
    kind, loose = hole_kind(bracket.caliper_hole, caliper.ear_thread), packing.ear_spacer
    washers = int(first_known(bracket.caliper_washers, 0))
    sunk = recess_depth(thread, kind, washers)
    if kind == "tapped":
        stack = _threaded_stack(thread, depth + loose, washers, plate, "plate", _plate_factor(job))
        seat, way = z + outward * depth, -outward
    elif caliper.ear_thread:
        factor = engagement_factor(caliper.ear_material)
        stack = _threaded_stack(thread, plate - sunk + loose, washers, depth, "ear", factor)
        seat, way = z - outward * (plate - sunk + loose), outward
    else:
        stack = nut_stack(thread, plate - sunk + loose + depth, washers)
        seat, way = z - outward * (plate - sunk + loose), outward
    joint = make_joint(thread, stack, bracket.caliper_bolt_length_mm)
    x, y, _ = line.ears[index]
    return PlacedJoint(f"bolt at ear {index + 1}", f"ear-bolt-{index}", (x, y), joint, seat, way)


def _plate_factor(job: Job) -> float | None:
    material = find_material(job.bracket.material)
    return None if material is None else material.engagement


def _threaded_stack(
    thread: Thread, clamped: float, washers: int, depth: float, female: str, factor: float | None
) -> Stack:
    """Return the stack of a bolt in a tapped hole; where the material is not stated the soft one's need is taken."""
    wanted = (SOFT_ENGAGEMENT if factor is None else factor) * thread.major
    return Stack(clamped, washers, depth, female, least=thread.major, wanted=wanted)


def spacing_of(one: Point, other: Point) -> float:
    """Return the distance between two centres [mm]; unknown when either is."""
    return math.hypot(one[0] - other[0], one[1] - other[1])

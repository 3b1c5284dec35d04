"""The plate's holes and the bolts through them: which side a bolt enters from, what it is screwed into."""

import math
from typing import Literal

import shapely

from bicentra.core.base.numbers import UNKNOWN, first_known, is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.stack_up import StackUp
from bicentra.core.fasteners.joint import Joint, Stack, make_joint, nut_stack
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.outline import Point
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import BracketDesign, Job
from bicentra.core.parts.materials import SOFT_ENGAGEMENT, engagement_factor, find_material
from bicentra.core.parts.threads import CLEARANCES, SUNK_HEADS, Thread, find_thread

CLASSES = ("close", "normal", "loose")
RECESS_ROOM_MM, RECESS_WALL_MM, SINK_ROOM_MM = 2.0, 3.0, 0.5
"""Room across for a socket in a counterbore, the least wall round one, a countersink wider than its head [mm]: common
practice.
"""


Where = Literal["lug", "ear"]
"""Which of the two places a hole or a bolt is at."""


class Hole(Record, frozen=True):
    """One hole of the plate: centre in the hub frame, diameter of what goes right through, and how it is made [mm].

    ``at`` and ``index``: the lug or the caliper's ear it is for.

    ``recess``: depth of the counterbore or countersink that takes the bolt's head, flush with the face it enters from;
    ``sink``: the countersink's angle [degrees], 0 for a counterbore. ``slot``: how far a bolt can be moved along ``way``.
    ``assumed``: it is tapped only because nothing says that the bolt finds a thread behind it.
    """

    name: str
    at: Where
    index: int
    centre: Point
    diameter: float
    kind: str
    drill: float
    thread: Thread | None
    boss_radius: float
    recess: float = 0.0
    recess_diameter: float = 0.0
    sink: float = 0.0
    slot: float = 0.0
    way: Point = (1.0, 0.0)
    assumed: bool = False

    @property
    def feature(self) -> str:
        """Its tag in the drawings."""
        return f"{self.at}-{self.index}"

    @property
    def widest(self) -> float:
        """Diameter at the widest, its counterbore included [mm]: what has to keep off its neighbours."""
        return max(self.diameter, self.recess_diameter) if self.recess else self.diameter

    @property
    def ends(self) -> tuple[Point, ...]:
        """The middles between which the hole runs [mm]: both ends of a slot, else its centre."""
        if not self.slot:
            return (self.centre,)
        (x, y), (u, v), half = self.centre, self.way, self.slot / 2
        return (x + half * u, y + half * v), (x - half * u, y - half * v)

    @property
    def is_known(self) -> bool:
        """Whether place and every size are known."""
        return is_known(*(value for end in self.ends for value in end), self.drill, self.boss_radius)

    @property
    def area(self) -> float:
        """What it takes of the plate's face [mm2]."""
        return math.pi / 4 * self.drill**2 + self.drill * self.slot

    @property
    def sunk_volume(self) -> float:
        """What counterbore or countersink takes besides the hole right through [mm3]: a ring, or a cone less its middle."""
        if not self.recess:
            return 0.0
        if not self.sink:
            return math.pi / 4 * (self.recess_diameter**2 - self.drill**2) * self.recess
        return sink_volume(self.recess_diameter, self.drill, self.sink)

    def text(self, lengths: LengthFormat) -> str:
        """Return what the workshop does: ``drill Ø 13.5 mm`` or ``tap M12x1.5 (drill Ø 10.5 mm)``."""
        if self.kind == "tapped" and self.thread is not None:
            text = f"tap {self.thread.name} (drill {lengths.drill(self.drill)})"
            return f"{text}, assumed" if self.assumed else text
        if self.slot:
            return f"slot {lengths.size(self.drill)} × {lengths.size(self.drill + self.slot)}"
        sunk = (
            f", counterbore {lengths.drill(self.recess_diameter)}, {lengths.size(self.recess)} deep"
            if self.recess
            else ""
        )
        if self.sink:
            sunk = f", countersink {self.sink:g}° to {lengths.drill(self.recess_diameter)}"
        return f"drill {lengths.drill(self.drill)}{sunk}"


class PlacedJoint(Record, frozen=True):
    """A bolt where it sits: ``seat_z`` is the face its washers lie on, ``way`` +1 when it points outboard.

    ``at`` and ``index``: the lug or the caliper's ear it is in.
    """

    name: str
    at: Where
    index: int
    centre: Point
    joint: Joint
    seat_z: float
    way: float

    @property
    def feature(self) -> str:
        """Its tag in the drawings."""
        return f"{self.at}-bolt-{self.index}"

    @property
    def tip_z(self) -> float:
        """z of the bolt's tip [mm]."""
        return self.seat_z + self.way * self.joint.tip

    @property
    def head_z(self) -> float:
        """z of the head's top [mm]."""
        return self.seat_z - self.way * self.joint.head_top


def hole_kind(asked: str, thread_behind: str | None) -> str:
    """Return clearance or tapped: as asked, else clearance into a threaded part and tapped behind a plain one."""
    return asked if asked != "auto" else ("clearance" if thread_behind else "tapped")


def plate_holes(job: Job, line: LineUp) -> tuple[Hole, ...]:
    """Return the holes: the lugs in the file's order, then the two ears."""
    bracket = job.bracket
    walls = bracket.boss_walls_mm or (known(bracket.wall_mm),) * (len(job.knuckle.lugs) + 2)
    way = (line.frame if bracket.slot_deg is None else ClockFrame(bracket.slot_deg)).u
    holes = []
    for k, lug in enumerate(job.knuckle.lugs):
        bolt, centre = bolt_of(job, k), (known(lug.x_mm), known(lug.y_mm))
        name = lug.name or f"lug {k + 1}"
        holes.append(_hole(name, "lug", k, centre, bolt, walls[k], bracket, way))
    kind = hole_kind(bracket.caliper_hole, job.caliper.ear_thread)
    unsaid = bracket.caliper_hole == "auto" and kind == "tapped" and job.caliper.ear_hole_mm is None
    bolt = Chosen(_thread(bracket.caliper_bolt), kind, bracket.caliper_bolt_length_mm, bracket.caliper_washers, unsaid)
    for k, (x, y, _) in enumerate(line.ears):
        holes.append(_hole(f"ear {k + 1}", "ear", k, (x, y), bolt, walls[k - 2], bracket, way))
    return tuple(holes)


class Chosen(Record, frozen=True):
    """A bolt as it was chosen: thread, how the plate's hole is made for it (``assumed``: nobody said), length [mm], washers."""

    thread: Thread | None
    kind: str
    length: float | None
    washers: int
    assumed: bool = False


def bolt_of(job: Job, index: int) -> Chosen:
    """Return the bolt of one lug: its own where it has one, else that of all."""
    lug, bracket = job.knuckle.lugs[index], job.bracket
    kind, washers = hole_kind(bracket.lug_hole, lug.thread), int(first_known(bracket.lug_washers, 0))
    unsaid = bracket.lug_hole == "auto" and kind == "tapped" and lug.hole_mm is None
    if lug.bolt is None:
        return Chosen(_thread(bracket.lug_bolt), kind, bracket.lug_bolt_length_mm, washers, unsaid)
    own = lug.bolt
    kind = "countersink" if own.head == "countersunk" else "clearance" if kind == "countersink" else kind
    kind = "tapped" if own.into == "plate" else "clearance" if own.into is not None and kind == "tapped" else kind
    unsaid = unsaid and kind == "tapped" and own.into is None
    return Chosen(_thread(own.thread or bracket.lug_bolt), kind, own.length_mm, own.washers, unsaid)


def one_lug_bolt(job: Job) -> Thread | None:
    """Return the thread of the lugs' bolts where it is the same for all; ``None`` where it is not, or none is chosen."""
    threads = {bolt_of(job, k).thread for k in range(len(job.knuckle.lugs))}
    return threads.pop() if len(threads) == 1 else None


UNLIKE_BOLTS = "The lugs' bolts are not alike: one of this kind takes one size for all."


def bolts_differ(job: Job) -> bool:
    """Tell whether every lug has a bolt, and not the same one."""
    threads = [bolt_of(job, k).thread for k in range(len(job.knuckle.lugs))]
    return None not in threads and len({thread.name for thread in threads if thread is not None}) > 1


def not_as_placed(job: Job) -> tuple[str, ...]:
    """Return in words which lugs' bolts are asked to go another way than this version places them."""
    found = []
    for k, lug in enumerate(job.knuckle.lugs):
        if lug.bolt is None:
            continue
        kind, side = bolt_of(job, k).kind, job.bracket.side
        back = "inboard" if side == "outboard" else "outboard"
        enters, into = (back, "plate") if kind == "tapped" else (side, "thread" if lug.thread else "nut")
        if lug.bolt.from_ not in (None, enters) or lug.bolt.into not in (None, into):
            found.append(f"the bolt at {lug.name or f'lug {k + 1}'} (placed from {enters} into the {into})")
    return tuple(found)


def _thread(name: str | None) -> Thread | None:
    return find_thread(name) if name else None


def _hole(
    name: str, at: Where, index: int, centre: Point, bolt: Chosen, wall: float, bracket: BracketDesign, way: Point
) -> Hole:
    """``way``: along which a slot runs."""
    thread, kind = bolt.thread, bolt.kind
    if thread is None:
        return Hole(name, at, index, centre, UNKNOWN, kind, UNKNOWN, None, UNKNOWN)
    tapped = kind == "tapped"
    clear = CLEARANCES[thread.size][CLASSES.index(bracket.hole_class)]
    widest, drill = (thread.major, thread.tap_drill) if tapped else (clear, clear)
    washers = bolt.washers
    sunk = recess_depth(thread, kind, washers)
    across, angle = 0.0, 0.0
    if kind == "counterbore":
        across = max(thread.head_across_corners, thread.hardware.washer_outer if washers else 0.0) + RECESS_ROOM_MM
    elif sunk:
        head, _, angle = SUNK_HEADS[thread.size]
        across = head + SINK_ROOM_MM
    boss = max(widest / 2 + wall, across / 2 + RECESS_WALL_MM if sunk else 0.0)
    slot = known(bracket.slot_mm) if kind == "slot" else 0.0
    return Hole(
        name, at, index, centre, widest, kind, drill, thread, boss, sunk, across, angle, slot, way, bolt.assumed
    )


def recess_depth(thread: Thread, kind: str, washers: int) -> float:
    """Return how deep a head goes into the plate [mm]: with its washers in a counterbore, alone in a countersink; else 0."""
    if kind == "countersink":
        return SUNK_HEADS[thread.size][1] if thread.size in SUNK_HEADS else 0.0
    return thread.hardware.head_height + washers * thread.hardware.washer_thickness if kind == "counterbore" else 0.0


def spine_of(hole: Hole) -> shapely.Geometry:
    """Return the line of a hole's middles: a point where it is no slot."""
    return shapely.LineString(hole.ends) if hole.slot else shapely.Point(hole.centre)


def sink_volume(wide: float, drill: float, angle: float) -> float:
    """Return the volume [mm3] of a countersink beyond its hole: a cone's frustum less the cylinder in it (plane geometry)."""
    high = sink_depth(wide, drill, angle)
    return math.pi / 12 * high * (wide**2 + wide * drill + drill**2) - math.pi / 4 * drill**2 * high


def sink_depth(wide: float, drill: float, angle: float) -> float:
    """Return how deep a countersink of ``angle`` [degrees] goes from ``wide`` to ``drill`` [mm]."""
    return (wide - drill) / 2 / math.tan(math.radians(angle / 2))


class Clamped(Record, frozen=True):
    """What a lug's bolt holds: its name, what it is screwed into where that is tapped, and how many diameters of thread
    that wants (``None``: unknown, the soft one's need is taken).
    """

    name: str = "plate"
    tapped: str = "plate"
    factor: float | None = None


def place_joints(job: Job, line: LineUp, stack_up: StackUp, held: Clamped | None = None) -> tuple[PlacedJoint, ...]:
    """Return every bolt in its place, lugs first; none for a bolt nobody has chosen. ``held``: what the lugs' bolts
    hold, where it is not the plate [mm].
    """
    held = held or Clamped(factor=_plate_factor(job))
    placed: list[PlacedJoint] = []
    ear_thread = _thread(job.bracket.caliper_bolt)
    for k in range(len(job.knuckle.lugs)):
        thread = bolt_of(job, k).thread
        if thread is not None:
            placed.append(_lug_joint(job, stack_up, thread, k, held))
    if ear_thread is not None:
        placed += [_ear_joint(job, line, stack_up, ear_thread, k) for k in range(2)]
    return tuple(placed)


def _lug_joint(job: Job, stack_up: StackUp, thread: Thread, index: int, held: Clamped) -> PlacedJoint:
    """A bolt into a threaded lug or with a nut enters from the plate's far face, into a tapped plate from behind the lug."""
    lug, sign = job.knuckle.lugs[index], stack_up.sign
    layers: tuple[tuple[str, float], ...]
    depth, shim, plate = known(lug.thickness_mm), stack_up.shims[index], stack_up.thickness
    bolt = bolt_of(job, index)
    kind, washers = bolt.kind, bolt.washers
    face = stack_up.lug_faces[index]
    sunk = recess_depth(thread, kind, washers)
    if kind == "tapped":
        stack = _threaded_stack(thread, depth + shim, washers, plate, held.tapped, held.factor)
        seat, way, layers = face - sign * depth, sign, (("lug", depth), ("shim", shim))
    elif lug.thread:
        stack = _threaded_stack(
            thread, plate - sunk + shim, washers, depth, "lug", engagement_factor(job.knuckle.material)
        )
        seat, way, layers = face + sign * (shim + plate - sunk), -sign, ((held.name, plate - sunk), ("shim", shim))
    else:
        stack = nut_stack(thread, plate - sunk + shim + depth, washers)
        seat, way = face + sign * (shim + plate - sunk), -sign
        layers = ((held.name, plate - sunk), ("shim", shim), ("lug", depth))
    stack = replace(stack, layers=layers)
    if kind == "countersink":
        stack, seat = flush(stack, sunk), seat + sign * sunk
    joint = make_joint(thread, stack, bolt.length)
    centre = (known(lug.x_mm), known(lug.y_mm))
    return PlacedJoint(f"bolt at {lug.name or f'lug {index + 1}'}", "lug", index, centre, joint, seat, way)


def _ear_joint(job: Job, line: LineUp, stack_up: StackUp, thread: Thread, index: int) -> PlacedJoint:
    """A bolt into a threaded ear or with a nut enters through the plate, into a tapped plate through the ear."""
    caliper, bracket = job.caliper, job.bracket
    layers: tuple[tuple[str, float], ...]
    outward = 1.0 if caliper.ear_seat == "inboard" else -1.0
    depth, plate, z = known(caliper.ear_thickness_mm), stack_up.metal_at_ears, stack_up.ear_z
    kind = hole_kind(bracket.caliper_hole, caliper.ear_thread)
    loose, (room, leaf) = stack_up.ear_spacer + stack_up.ear_shims[index], stack_up.beyond_ears
    past: tuple[tuple[str, float], ...] = (("room", room), ("plate", leaf)) if leaf else ()
    between = "room" if leaf else "spacer"
    washers = int(first_known(bracket.caliper_washers, 0))
    sunk = recess_depth(thread, kind, washers)
    if kind == "tapped":
        held = leaf + room + depth + loose
        stack = _threaded_stack(thread, held, washers, plate, "plate", _plate_factor(job))
        seat, way = z + outward * (depth + room + leaf), -outward
        layers = (*reversed(past), ("ear", depth), (between, loose))
    elif caliper.ear_thread:
        factor = engagement_factor(caliper.ear_material)
        stack = _threaded_stack(thread, plate - sunk + loose, washers, depth, "ear", factor)
        seat, way, layers = z - outward * (plate - sunk + loose), outward, (("plate", plate - sunk), ("spacer", loose))
    else:
        stack = nut_stack(thread, plate - sunk + loose + depth + room + leaf, washers)
        seat, way = z - outward * (plate - sunk + loose), outward
        layers = (("plate", plate - sunk), (between, loose), ("ear", depth), *past)
    stack = replace(stack, layers=layers)
    if kind == "countersink":
        stack, seat = flush(stack, sunk), seat - outward * sunk
    joint = make_joint(thread, stack, bracket.caliper_bolt_length_mm)
    x, y, _ = line.ears[index]
    return PlacedJoint(f"bolt at ear {index + 1}", "ear", index, (x, y), joint, seat, way)


def flush(stack: Stack, sunk: float) -> Stack:
    """Return the stack of a countersunk bolt [mm]: no washer, its length counts from its head's top, flush with the plate."""
    (what, thick), *rest = stack.layers
    return replace(stack, clamped=stack.clamped + sunk, washers=0, sunk=True, layers=((what, thick + sunk), *rest))


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

"""One description of every bracket: where it stands, its parts with outlines, bores, pockets and bends, what it asks of
itself.
"""

import math
from collections.abc import Callable, Mapping
from typing import Any, Literal

from bicentra.core.base.finding import Remedy
from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.base.records import Record, field, replace
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.holes import Clamped, sink_depth
from bicentra.core.bracket.stack_up import StackUp, pack
from bicentra.core.geometry.outline import FloatArray, Outline, Point, slot_outline
from bicentra.core.geometry.prism import Prisms
from bicentra.core.lineup.solve import LineUp, line_up
from bicentra.core.parts.job import Job
from bicentra.core.parts.materials import find_material


class HeadSink(Record, frozen=True):
    """A countersink: its diameter at the face [mm], its angle [degrees], from the outboard (+1) or inboard (−1) face."""

    wide: float
    angle: float
    face: float


class Bore(Record, frozen=True):
    """A hole through a made part along the axle: centre, drill [mm], what is done, thread where it is tapped.

    ``slot``: how far its middle runs along ``way``; ``feature``: its drawing tag.
    """

    name: str
    centre: Point
    drill: float
    note: str = ""
    thread: str = ""
    slot: float = 0.0
    way: Point = (1.0, 0.0)
    sink: HeadSink | None = None
    feature: str = "bracket"

    @property
    def area(self) -> float:
        """What it takes of the face [mm2]."""
        return math.pi / 4 * self.drill**2 + self.drill * self.slot

    @property
    def depth(self) -> float:
        """How deep its countersink goes [mm]; 0 without one."""
        return sink_depth(self.sink.wide, self.drill, self.sink.angle) if self.sink is not None else 0.0

    def outline_at(self, centre: Point) -> Outline:
        """Return its rim, its middle moved to ``centre`` (where a bent plate has it) [mm]."""
        half = self.slot / 2
        dx, dy = half * self.way[0], half * self.way[1]
        return slot_outline(((centre[0] + dx, centre[1] + dy), (centre[0] - dx, centre[1] - dy)), self.drill / 2)

    @property
    def outline(self) -> Outline:
        """Its rim."""
        return self.outline_at(self.centre)


class EdgeBore(Record, frozen=True):
    """A blind hole into the part's edge: where it starts [mm], the way it goes in the plane, drill and depth [mm], thread."""

    at: tuple[float, float, float]
    way: Point
    drill: float
    depth: float
    thread: str = ""

    @property
    def corners(self) -> tuple[Point, ...]:
        """Its outline seen along the axle [mm]."""
        (x, y, _), (dx, dy), r, long = self.at, self.way, self.drill / 2, self.depth
        return (
            (x - dy * r, y + dx * r), (x - dy * r + dx * long, y + dx * r + dy * long),
            (x + dy * r + dx * long, y - dx * r + dy * long), (x + dy * r, y - dx * r),
        )  # fmt: skip


class Pocket(Record, frozen=True):
    """Metal milled out of one face: within ``outline``, ``depth`` [mm] from the outboard (+1) or inboard (−1) face.

    ``kept``: islands inside it that stay.
    """

    outline: Outline
    depth: float
    face: float
    kept: tuple[Outline, ...] = ()


class Weld(Record, frozen=True):
    """A fillet weld on both sides of a part: its leg [mm], how long it is a side [mm], and the middle of its joint."""

    leg: float
    long: float
    at: Point

    @property
    def throat(self) -> float:
        """Its throat [mm]: leg/√2 of an even fillet (plane geometry; a of ISO 2553)."""
        return self.leg / math.sqrt(2.0)


class Bend(Record, frozen=True):
    """A bend line between two points of the flat pattern: angle [degrees], inside radius [mm], which way it goes up."""

    a: Point
    b: Point
    angle: float
    radius: float
    up: bool


class MadePart(Record, frozen=True):
    """One kind of part. ``shape``: plate (outline, thickness) or round (outer, inner diameter, thickness = length).

    ``mirrored``: what is made is the mirror image of what is described. ``chamfer``: at 45° along both rims of the outline
    [mm]. ``z0``: its inboard face in the hub frame, unknown for parts that lie elsewhere; ``volume`` in mm3, bores taken off.
    ``text``: notes of its own; ``kept``: its own tolerances, on what, how much, and what they protect. ``weld``: how it is held.
    """

    name: str
    shape: str
    material: str
    thickness: float
    volume: float
    outline: Outline | None = None
    window: Outline | None = None
    outer: float = UNKNOWN
    inner: float = UNKNOWN
    offset: float = 0.0
    centres: tuple[Point, ...] = ()
    z0: float = UNKNOWN
    bores: tuple[Bore, ...] = ()
    cutouts: tuple[Outline, ...] = ()
    edge_bores: tuple[EdgeBore, ...] = ()
    pockets: tuple[Pocket, ...] = ()
    bends: tuple[Bend, ...] = ()
    chamfer: float = 0.0
    mirrored: bool = False
    count: int = 1
    processes: tuple[str, ...] = ()
    text: tuple[str, ...] = ()
    kept: tuple[tuple[str, str, str], ...] = ()
    weld: Weld | None = None

    @property
    def mass_kg(self) -> float:
        """Mass of one [kg]; unknown when the material is."""
        material = find_material(self.material)
        return self.volume * 1e-9 * material.density if material is not None else UNKNOWN


class FamilyCheck(Record, frozen=True):
    """What a kind of bracket asks of itself: ``value`` against the limit of the finding ``id``, or one of its own, and why.

    ``missing`` names what to measure while the value is unknown. ``remark``: a caution without a figure.
    """

    id: str
    value: float
    why: str
    missing: str = ""
    limit: Limit | None = None
    features: tuple[str, ...] = ("bracket",)
    remedies: tuple[Remedy, ...] = ()
    remark: bool = False


class PlateShape(Record, frozen=True):
    """The outline round the bosses of lugs and ears, seen along the axle, or why there is none.

    ``keep_out``: radius about the axis kept free for hub or rotor [mm]. ``impossible``: everything is known, and there still is
    no plate. ``open``: what is unknown and may still cut into it.
    """

    outline: Outline | None
    window: Outline | None = None
    keep_out: float = 0.0
    fault: str = ""
    impossible: bool = False
    cutouts: tuple[Outline, ...] = ()
    open: str = ""


class TurnedChart(Record, frozen=True):
    """How bushings are turned in the two ears of a caliper: spacing and boss of the ears [mm], where each bolt stands
    off its ear's middle (outward, towards rising clock angles) [mm] and which way [degrees].
    """

    spacing: float
    boss: float
    offsets: tuple[Point, Point]
    turned: tuple[float, float]


class Listed(Record, frozen=True):
    """A line of the parts list that comes with a kind of bracket: kind, how many, what, its size and a note."""

    kind: str
    count: int
    name: str
    size: str
    note: str


class Family(Record, frozen=True):
    """A kind of bracket: its traits, and how it is made. Nothing else about it is known anywhere.

    ``make(job, line, lengths)`` returns it solved, or several ways to make it, the plainest first. ``cut(assembly,
    lengths)`` makes the plate of one whose outline runs round the bosses of lugs and ears at its full thickness, once
    it is known where it stands: such a one is swept over all clock angles at once; any other is made at every angle
    that is asked.

    ``axial``: it holds a caliper whose bolts lie along the axle. ``shaping``: its plate is shaped ``by hand``, carries
    what the job has (``carried``), or leaves it out. ``chamfered``: its rims can be. ``on_tube``: what turns lies
    inside the tube it sits on. ``comes_off``: it is bolted. ``at_retainer``: it sits under the bearing retainer.
    ``mounting``: what of the knuckle or axle holds it. ``charted``: its parts are turned to fit. ``stands_at(job)``: of
    one in which the caliper cannot be turned: the clock angles [degrees] at which it may stand. ``at_best(job, line,
    clock_rad)``: values by finding at n clock angles [rad] that it can nowhere better: a cheap way to know where it is
    stopped without being made. ``sure(job, line, clock_rad)``: metal that it has there whichever way it is made.
    ``riding(job, line)``: metal of it that goes round with the caliper: what is between the two is the same at every
    clock angle. ``sided``: on which side of the lugs it lies changes it. ``longest`` and ``heaviest``: no piece of it
    is made longer along the axle [mm] or heavier [kg]. ``appears``, ``ready``: what happens with the last size that is missing, in
    words.
    """

    name: str
    title: str
    make: Callable[[Job, LineUp, LengthFormat], tuple["Bracket", ...]]
    cut: Callable[[Any, LengthFormat], "Bracket"] | None = None
    axial: bool = True
    shaping: Literal["by hand", "carried", "left out"] = "left out"
    chamfered: bool = True
    on_tube: bool = False
    comes_off: bool = True
    at_retainer: bool = False
    mounting: str = "lugs"
    charted: bool = False
    sided: bool = True
    riding: Callable[[Job, LineUp], Prisms] | None = None
    longest: float = 80.0
    heaviest: float = 10.0
    stands_at: Callable[[Job], tuple[float, ...]] | None = None
    at_best: Callable[[Job, LineUp, FloatArray], Mapping[str, FloatArray]] | None = None
    sure: Callable[[Job, LineUp, FloatArray], Prisms] | None = None
    appears: str = "the plate appears"
    ready: str = "The plate's outline is ready"

    @property
    def on_lugs(self) -> bool:
        """Whether it is bolted to the knuckle's own lugs."""
        return self.mounting in ("lugs", "direct")

    @property
    def straight(self) -> bool:
        """Whether the lugs' bolts hold the caliper itself, with nothing of a bracket between."""
        return self.mounting == "direct"

    def holds_on(self, mounting: str) -> bool:
        """Tell whether it can be held by what the knuckle is said to offer; lugs are said where nothing else is."""
        return mounting in ("lugs", self.mounting) or (mounting == "faces" and self.mounting == "lugs")


class Bracket(Record, frozen=True):
    """A kind of bracket solved for one job: where it holds the caliper, what is made for it, and what it asks of
    itself.

    ``job``: the job it stands in, which for one on other places than the lugs has those as its lugs. ``solved``: its
    numbers by name with their unit, as the command prints them. ``needs``: what has to be measured before it can be
    made; ``refused``: it cannot be made for this job, where it ``turns`` not at this clock angle; ``why`` says which.
    ``bolted``: where it has bolts. ``packed``: what lies under it at the lugs is shims, not made spacers. ``sleeved``:
    sleeves take the play of the lugs' holes. ``shape``: its outline where that runs round the bosses of lugs and ears.
    ``feet``: half the height of the caliper's feet, where it stands on studs [mm]. ``clamped``: what the lugs' bolts
    hold, where that is no plate.
    """

    kind: Family
    job: Job
    stack_up: StackUp
    parts: tuple[MadePart, ...] = ()
    asks: tuple[FamilyCheck, ...] = ()
    why: str = ""
    reversible: bool = True
    solved: Mapping[str, float] = field(default_factory=dict)
    needs: tuple[str, ...] = ()
    refused: bool = False
    turns: bool = False
    bolted: tuple[str, ...] = ("lug", "ear")
    packed: bool = True
    sleeved: bool = False
    shape: PlateShape | None = None
    feet: float | None = None
    chart: TurnedChart | None = None
    listed: tuple[Listed, ...] = ()
    clamped: Clamped | None = None

    @property
    def family(self) -> str:
        """Its name in files."""
        return self.kind.name

    @property
    def title(self) -> str:
        """Its name on screen and paper."""
        return self.kind.title

    @property
    def stands(self) -> bool:
        """Whether it is known where it holds the caliper."""
        return not self.refused and not self.needs

    @property
    def shown(self) -> bool:
        """Whether there is something to show of it: its parts, or that it needs none and the caliper stands all the same."""
        return bool(self.parts) or (self.stands and self.shape is None)

    @property
    def unmade(self) -> bool:
        """Whether it has a plate that is still unknown, or cannot be."""
        return not self.stands or (self.shape is not None and self.plate is None)

    @property
    def fault(self) -> str:
        """Why there is nothing to draw or cut, in words; empty where there is something."""
        if not self.stands:
            return f"{self.title}. {self.why}"
        return self.shape.fault if self.shape is not None else ""

    @property
    def plate(self) -> MadePart | None:
        """The plate that is cut; ``None`` where there is none."""
        return next((part for part in self.parts if part.outline is not None), None)

    @property
    def mass_kg(self) -> float:
        """Mass of everything that is made [kg]."""
        return math.fsum(part.mass_kg * part.count for part in self.parts) if self.parts else UNKNOWN

    @property
    def made(self) -> int:
        """How many pieces are made."""
        return sum(part.count for part in self.parts)

    @property
    def thickness(self) -> float:
        """Thickness of the main part [mm]."""
        return self.parts[0].thickness if self.parts else UNKNOWN

    @property
    def processes(self) -> tuple[str, ...]:
        """Every process needed, in the order they come."""
        return tuple(dict.fromkeys(process for part in self.parts for process in part.processes))


def refused(kind: Family, job: Job, why: str, needs: tuple[str, ...] = (), turns: bool = False) -> Bracket:
    """Return a kind of bracket that cannot be made for ``job``, or not before what it ``needs`` is measured: it stands nowhere.

    ``turns``: at another clock angle it may stand.
    """
    known_so_far = pack(job, line_up(job))
    nowhere = replace(known_so_far, errors=(UNKNOWN,) * max(len(known_so_far.errors), 1), ear_z=UNKNOWN)
    return Bracket(kind, job, nowhere, why=why, needs=needs, refused=not needs, turns=turns)


def ring_volume(outer: float, inner: float, length: float) -> float:
    """Return the volume [mm3] of a hollow cylinder."""
    return math.pi / 4 * (outer**2 - inner**2) * length

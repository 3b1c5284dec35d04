"""One description for what every family makes: parts with outlines, bores, pockets and bends, and a candidate for the job."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from bicentra.core.base.finding import Finding, Verdict, worst
from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.outline import Outline, Point, slot_outline
from bicentra.core.bracket.flat_plate import Assembly
from bicentra.core.bracket.holes import sink_depth
from bicentra.core.parts.materials import find_material


@dataclass(frozen=True)
class Sink:
    """A countersink: its diameter at the face [mm], its angle [degrees], from the outboard (+1) or inboard (−1) face."""

    wide: float
    angle: float
    face: float


@dataclass(frozen=True)
class Bore:
    """A hole through a made part along the axle: centre, drill [mm], what is done, thread where it is tapped.

    ``slot``: how far its middle runs along ``way``.
    """

    name: str
    centre: Point
    drill: float
    note: str = ""
    thread: str = ""
    slot: float = 0.0
    way: Point = (1.0, 0.0)
    sink: Sink | None = None

    @property
    def area(self) -> float:
        """What it takes of the face [mm2]."""
        return math.pi / 4 * self.drill**2 + self.drill * self.slot

    @property
    def depth(self) -> float:
        """How deep its countersink goes [mm]; 0 without one."""
        return sink_depth(self.sink.wide, self.drill, self.sink.angle) if self.sink is not None else 0.0

    def outline_at(self, centre: Point) -> Outline:
        """Return its rim, its middle moved to ``centre`` (where a bent plate has it)."""
        half = self.slot / 2
        dx, dy = half * self.way[0], half * self.way[1]
        return slot_outline(((centre[0] + dx, centre[1] + dy), (centre[0] - dx, centre[1] - dy)), self.drill / 2)

    @property
    def outline(self) -> Outline:
        """Its rim."""
        return self.outline_at(self.centre)


@dataclass(frozen=True)
class EdgeBore:
    """A blind hole into the part's edge: where it starts [mm], the way it goes in the plane, drill and depth [mm], thread."""

    at: tuple[float, float, float]
    way: Point
    drill: float
    depth: float
    thread: str = ""

    @property
    def corners(self) -> tuple[Point, ...]:
        """Its outline seen along the axle."""
        (x, y, _), (dx, dy), r, long = self.at, self.way, self.drill / 2, self.depth
        return (
            (x - dy * r, y + dx * r), (x - dy * r + dx * long, y + dx * r + dy * long),
            (x + dy * r + dx * long, y - dx * r + dy * long), (x + dy * r, y - dx * r),
        )  # fmt: skip


@dataclass(frozen=True)
class Pocket:
    """Metal milled out of one face: within ``outline``, ``depth`` [mm] from the outboard (+1) or inboard (−1) face.

    ``kept``: islands inside it that stay.
    """

    outline: Outline
    depth: float
    face: float
    kept: tuple[Outline, ...] = ()


@dataclass(frozen=True)
class Bend:
    """A bend line between two points of the flat pattern: angle [degrees], inside radius [mm], which way it goes up."""

    a: Point
    b: Point
    angle: float
    radius: float
    up: bool


@dataclass(frozen=True)
class MadePart:
    """One kind of part. ``shape``: plate (outline, thickness) or round (outer, inner diameter, thickness = length).

    ``mirrored``: what is made is the mirror image of what is described. ``chamfer``: at 45° along both rims of the outline
    [mm]. ``z0``: its inboard face in the hub frame, unknown for parts that lie elsewhere; ``volume`` in mm3, bores taken off.
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

    @property
    def mass_kg(self) -> float:
        """Mass of one [kg]; unknown when the material is."""
        material = find_material(self.material)
        return self.volume * 1e-9 * material.density if material is not None else UNKNOWN


@dataclass(frozen=True)
class Candidate:
    """A family solved for one job. ``solved``: its numbers by name with their unit, as the command prints them.

    ``suited`` is the worst of its own findings; ``why`` says in one sentence what decides. ``stands``: where caliper, bolts and
    metal lie with it; ``None`` for what is no bracket of its own.
    """

    family: str
    title: str
    parts: tuple[MadePart, ...]
    findings: tuple[Finding, ...]
    why: str
    reversible: bool = True
    solved: Mapping[str, float] = field(default_factory=dict)
    needs: tuple[str, ...] = ()
    stands: Assembly | None = field(default=None, repr=False)

    @property
    def suited(self) -> Verdict:
        """Whether it can be made for this job."""
        return Verdict.UNKNOWN if self.needs else worst(f.verdict for f in self.findings)

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

    @property
    def margin(self) -> tuple[str, float]:
        """The finding with least room to its limit, and that room in its own unit; nothing known is unknown."""
        rooms = [
            (f.id, (f.value - f.limit) * (1.0 if f.at_least else -1.0))
            for f in self.findings if is_known(f.value, f.limit) and f.unit == "mm"
        ]  # fmt: skip
        return min(rooms, key=lambda row: row[1], default=("", UNKNOWN))


def unsuited(family: str, title: str, why: str, needs: tuple[str, ...] = ()) -> Candidate:
    """Return a family that does not suit the job: what is missing, or why it cannot be."""
    nan = float("nan")
    verdict = Verdict.UNKNOWN if needs else Verdict.STOP
    finding = Finding("bracket-suits", verdict, nan, nan, "", why, source="Geometry of the line-up")
    return Candidate(family, title, (), (finding,), why, needs=needs)


def decided(candidate: Candidate) -> Candidate:
    """Return ``candidate`` with its why said by the finding that decides."""
    bad = min(candidate.findings, key=lambda f: f.verdict.rank, default=None)
    if bad is None or bad.verdict is Verdict.OK:
        return candidate
    return replace(candidate, why=f"{candidate.why} {bad.why}")


def ring_volume(outer: float, inner: float, length: float) -> float:
    """Return the volume [mm3] of a hollow cylinder."""
    return math.pi / 4 * (outer**2 - inner**2) * length

"""Fluid and travel: where the fluid goes, how far pedal and master go at each stage of a stop, and why."""

import math
from collections.abc import Callable

from bicentra.core.base.numbers import UNKNOWN, Pure, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.hydraulics.balance import locking
from bicentra.core.hydraulics.chain import Chain
from bicentra.core.hydraulics.ends import GRAVITY, End

STATED_AT = 10.0
"""Line pressure at which pads and calipers give what is stated [N/mm2]: 100 bar."""
PADS_HOT, IRON = 2.0, 11e-6
"""How much more hot pads give (common practice, no source); expansion of grey iron [1/K], handbook value from memory."""
ANCHOR = 2.0
"""A shoe turns about its anchor: its piston moves about so much further than the middle of its lining (geometry)."""
HOT_PARTS = ("heat", "worn shoes")
"""What is not there yet while brakes are cold and adjusted."""
GIVES = ("pads and shoes", "calipers", "hoses")
"""What gives way under pressure, each for itself."""
Volume = Callable[[End, float], float]


class DisplacedVolume(Record, frozen=True):
    """What one cause takes in front and rear [mm3]. ``usual``: nobody stated it, common practice is taken."""

    name: str
    volume: tuple[float, float]
    usual: bool


def displaced_volumes(
    chain: Chain, lines: tuple[float, float], hot: bool = False, worn: bool = False
) -> tuple[DisplacedVolume, ...]:
    """Return what takes fluid at the line pressures ``lines`` [N/mm2], in the order in which it is taken.

    What the vehicle states of hoses, pads and calipers together stands for all three of them while they are cold.
    """
    front, rear = chain.ends
    found = [
        DisplacedVolume("piston retraction", (front.volume, rear.volume), any(end.assumed for end in chain.ends)),
        _part("knock-back", chain, lambda end, _: end.every * end.compliance.knock_back, lines, "knock_back_mm"),
    ]
    if chain.compliance:
        half = chain.compliance * STATED_AT * (lines[0] + lines[1]) / 4
        found.append(DisplacedVolume("hoses, pads and calipers, as stated", (half, half), False))
    else:
        found += [
            _part("pads and shoes", chain, _pads, lines, "pad_mm"),
            _part("calipers", chain, _calipers, lines, "caliper_mm"),
            _part("hoses", chain, _hoses, lines, "hose_mm", "hose_mm3_per_bar_m"),
        ]
    if hot:
        by_pads = any(end.kind == "disc" for end in chain.ends)  # nobody states how much more hot pads give
        found.append(_part("heat", chain, _heat, lines, *(() if by_pads else ("hotter_k",))))
    if worn:
        found.append(_part("worn shoes", chain, _worn, lines, "stands_off_mm"))
    return tuple(found)


def _part(name: str, chain: Chain, volume: Volume, lines: tuple[float, float], *keys: str) -> DisplacedVolume:
    both = tuple(volume(end, line) for end, line in zip(chain.ends, lines))
    taking = [end for end, taken in zip(chain.ends, both) if taken]
    usual = not keys or any(key in end.compliance.usual for end in taking for key in keys)
    return DisplacedVolume(name, (both[0], both[1]), usual)


def _pads(end: End, line: float) -> float:
    """Both pads of both wheels: opposed pistons follow one pad each, a floating caliper's those of both."""
    return end.every * end.compliance.pad * line / STATED_AT * (2.0 if end.floating else 1.0)


def _calipers(end: End, line: float) -> float:
    """A caliper that opens by so much lets the pistons of one side out by it, both wheels."""
    return 2.0 * end.side * end.compliance.caliper * line / STATED_AT if end.kind == "disc" else 0.0


def _hoses(end: End, line: float) -> float:
    return 2.0 * end.compliance.hose / 1e3 * end.compliance.swell * line * 10.0


def _heat(end: End, line: float) -> float:
    """Hot pads give more; a hot drum grows away from its shoes: alpha D/2 dT at the lining, twice that at the piston."""
    if end.kind == "disc":
        return _pads(end, line) * (PADS_HOT - 1.0)
    return end.every * IRON * end.radius * end.compliance.hotter * ANCHOR


def _worn(end: End, line: float) -> float:
    """Worn shoes stand off before somebody adjusts them; a disc's pistons follow their pads."""
    del line
    return end.every * end.compliance.stands_off if end.kind == "drum" else 0.0


class Travel(Record, frozen=True):
    """From rest to a foot force: fluid in front and rear [mm3], stroke of the master [mm], its share of what there is,
    travel at the pad [mm].
    """

    volume: tuple[float, float]
    stroke: float
    share: float
    pedal: float


def travel_at(chain: Chain, foot: float = 0.0) -> Travel:
    """Return fluid and travel up to a ``foot`` force [N]; 0: to where the pads bite.

    Travel = stroke · ratio + free play; the stroke is the fluid over the bore, both circuits of a tandem one after the
    other in the same bore. Compliance counts only where the vehicle states it (mm3 a bar, of both circuits together).
    """
    lines = chain.lines(foot)
    compliance = chain.compliance * 10.0 * (lines[0] + lines[1]) / 2 if chain.compliance and is_known(*lines) else 0.0
    front, rear = (end.volume for end in chain.ends)
    return travel_for(chain, (front + compliance / 2, rear + compliance / 2), (front, rear))


def travel_for(chain: Chain, taken: tuple[float, float], volume: tuple[float, float]) -> Travel:
    """Return the travel for fluid ``taken`` [mm3] in front and rear; ``volume``: what of it is reported.

    A tandem's pistons go one after the other in the same bore. In a stepped one the far piston pushes back on the near
    chamber with its own bore, so that the rod's piston moves all of the fluid: stroke = (V_front + V_rear) / its area.
    Two masters move the bar by the shares of their rods' force.
    """
    (front, rear), bores = taken, chain.bores
    if chain.master.kind == "two":
        stroke = chain.shares[0] * front / bores[0] + chain.shares[1] * rear / bores[1]
    else:
        stroke = (front + rear) / chain.rod_bore
    return Travel(
        volume, stroke, stroke / known(chain.master.stroke_mm), stroke * chain.ratio + known_or(chain.free_play)
    )


def known_or(value: Pure, other: Pure = 0.0) -> Pure:
    """Return ``value``, or ``other`` where it is unknown."""
    return value if is_known(value) else other


class OneCircuit(Record, frozen=True):
    """What is left with one circuit gone: which one brakes, deceleration [g] at a foot force [N], the stroke it takes [mm]."""

    left: str
    foot: float
    decel: float
    stroke: float


def one_circuit(chain: Chain, foot: float) -> tuple[OneCircuit, OneCircuit]:
    """Return what the front alone and the rear alone give at a ``foot`` force [N]: the failed chamber's piston goes
    through first.

    It takes half of the master's stroke (both chambers are alike), and the fluid of the circuit that is left on top,
    with all that gives way there. What is left has the pressure of its own bore. A master of one circuit, or one whose
    stroke is not enough, leaves nothing.
    """
    weight = chain.body.mass * GRAVITY
    lost = known(chain.master.stroke_mm) / 2
    found = []
    for place, end in enumerate(chain.ends):
        ahead = chain.rod(foot) * chain.shares[place] / chain.bores[place]
        line = ahead if place == 0 else chain.behind_valve(ahead)
        stroke = (
            lost + math.fsum(part.volume[place] for part in displaced_volumes(chain, (line, line))) / chain.bores[place]
        )
        gone = chain.master.kind == "single" or stroke > known(chain.master.stroke_mm)
        left = 0.0 if gone else end.road(line) / weight
        found.append(OneCircuit(end.name, foot, left, stroke))
    return found[0], found[1]


WORK_G = 0.6
"""Deceleration at which feel and stroke are compared [g]: common practice."""


class Stage(Record, frozen=True):
    """One stage: foot force there [N], what takes fluid, and the travel all of it makes."""

    name: str
    foot: float
    parts: tuple[DisplacedVolume, ...]
    travel: Travel

    @property
    def strokes(self) -> tuple[float, ...]:
        """What each part takes of the master's stroke [mm]."""
        whole = math.fsum(sum(part.volume) for part in self.parts)
        return tuple(self.travel.stroke * sum(part.volume) / whole if whole > 0.0 else UNKNOWN for part in self.parts)

    @property
    def usual(self) -> tuple[str, ...]:
        """Names of the parts that nobody stated."""
        return tuple(part.name for part in self.parts if part.usual)

    def without(self, names: tuple[str, ...], chain: Chain) -> Travel:
        """Return the travel that is left without the parts called ``names`` [mm]."""
        left = [part.volume for part in self.parts if part.name not in names]
        volume = math.fsum(pair[0] for pair in left), math.fsum(pair[1] for pair in left)
        return travel_for(chain, volume, volume)


def stages_of(chain: Chain) -> tuple[Stage, ...]:
    """Return bite, 0.6 g and lock-up cold, then 0.6 g with hot brakes and with worn ones that nobody adjusted."""
    work = chain.foot_for(WORK_G)
    lock = locking(chain, chain.body.grip).foot if is_known(chain.body.grip) else UNKNOWN
    return (
        stage(chain, "to the bite, knocked back", 0.0),
        stage(chain, f"at {WORK_G:g} g", work),
        stage(chain, f"wheels lock, grip {chain.body.grip:g}", lock),
        stage(chain, f"at {WORK_G:g} g, hot", work, hot=True),
        stage(chain, f"at {WORK_G:g} g, hot and worn", work, hot=True, worn=True),
    )


def stage(chain: Chain, name: str, foot: float, hot: bool = False, worn: bool = False) -> Stage:
    """Return one stage at a ``foot`` force [N]."""
    parts = tuple(part for part in displaced_volumes(chain, chain.lines(foot), hot, worn) if any(part.volume))
    front, rear = (math.fsum(part.volume[place] for part in parts) for place in (0, 1))
    return Stage(name, foot, parts, travel_for(chain, (front, rear), (front, rear)))

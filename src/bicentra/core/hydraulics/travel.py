"""Fluid and travel: what the pistons take from rest to bite, how far pedal and master go, what is left when one circuit is gone."""

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import Record
from bicentra.core.hydraulics.chain import Chain


class Travel(Record, frozen=True):
    """From rest to a foot force: fluid in front and rear [mm3], stroke of the master [mm], its share of what there is [no unit],
    travel at the pad [mm]."""  # fmt: skip

    volume: tuple[float, float]
    stroke: float
    share: float
    pedal: float


def travel_at(chain: Chain, foot: float = 0.0) -> Travel:
    """Return fluid and travel up to a ``foot`` force [N]; 0: to where the pads bite.

    Travel = stroke · ratio + free play; the stroke is the fluid over the bore, both circuits of a tandem one after the other in the
    same bore. Compliance counts only where the vehicle states it (mm3 a bar, of both circuits together).
    """
    lines = chain.lines(foot)
    soft = chain.compliance * 10.0 * (lines[0] + lines[1]) / 2 if chain.compliance and is_known(*lines) else 0.0
    front, rear = (end.volume for end in chain.ends)
    bores = chain.bores
    if chain.master.kind == "two":
        strokes = (front + soft / 2) / bores[0], (rear + soft / 2) / bores[1]
        stroke = chain.shares[0] * strokes[0] + chain.shares[1] * strokes[1]
    else:
        stroke = (front + soft / 2) / bores[0] + (rear + soft / 2) / bores[1]
    return Travel(
        (front, rear), stroke, stroke / known(chain.master.stroke_mm), stroke * chain.ratio + known_or(chain.free_play)
    )


def known_or(value: float, other: float = 0.0) -> float:
    """Return ``value`` [its own unit], or ``other`` where it is not known."""
    return value if is_known(value) else other


class OneCircuit(Record, frozen=True):
    """What is left with one circuit gone: which one brakes, deceleration [g] at a foot force [N], the stroke it takes [mm]."""

    left: str
    foot: float
    decel: float
    stroke: float


def one_circuit(chain: Chain, foot: float) -> tuple[OneCircuit, OneCircuit]:
    """Return what the front alone and the rear alone give at a ``foot`` force [N]: the failed chamber's piston goes through first.

    It takes half of the master's stroke (both chambers are alike), and the fluid of the circuit that is left on top.
    A master of one circuit leaves nothing.
    """
    state = chain.at(foot)
    weight = chain.body.mass * 9.80665
    lost = known(chain.master.stroke_mm) / 2
    found = []
    for place, name in ((0, "front"), (1, "rear")):
        stroke = lost + chain.ends[place].volume / chain.bores[place]
        left = 0.0 if chain.master.kind == "single" else state.road[place] / weight
        found.append(OneCircuit(name, foot, left, stroke))
    return found[0], found[1]

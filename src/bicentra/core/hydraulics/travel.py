"""Fluid and travel: what the pistons take from rest to bite, how far pedal and master go, what is left when one circuit
is gone.
"""

import math

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import Record
from bicentra.core.hydraulics.chain import Chain
from bicentra.core.hydraulics.ends import GRAVITY
from bicentra.core.hydraulics.fluid_displacement import parts_of


class Travel(Record, frozen=True):
    """From rest to a foot force: fluid in front and rear [mm3], stroke of the master [mm], its share of what there is
    [no unit], travel at the pad [mm].
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
    return moved(chain, (front + compliance / 2, rear + compliance / 2), (front, rear))


def moved(chain: Chain, taken: tuple[float, float], volume: tuple[float, float]) -> Travel:
    """Return the travel for fluid ``taken`` [mm3] in front and rear; ``volume``: what of it is told.

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


def known_or(value: float, other: float = 0.0) -> float:
    """Return ``value`` [its own unit], or ``other`` where it is unknown."""
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
        stroke = lost + math.fsum(part.volume[place] for part in parts_of(chain, (line, line))) / chain.bores[place]
        gone = chain.master.kind == "single" or stroke > known(chain.master.stroke_mm)
        left = 0.0 if gone else end.road(line) / weight
        found.append(OneCircuit(end.name, foot, left, stroke))
    return found[0], found[1]

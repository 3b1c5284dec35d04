"""The balance: ideal forces, the lines on which an axle locks, which end locks first, the adhesion each end uses, efficiency.

With Ψ the rear's static share and χ = h/L: ideal forces F_f = (1 − Ψ + zχ) z W and F_r = (Ψ − zχ) z W; adhesion used k = F/N.
Limpert, Brake Design and Safety, ch. 7, from memory.
"""

import math

import numpy as np

from bicentra.core.base.numbers import UNKNOWN, Pure, is_known
from bicentra.core.base.records import Record
from bicentra.core.hydraulics.chain import Chain, PedalState
from bicentra.core.hydraulics.ends import GRAVITY, VehicleBody

GRIPS = (0.2, 0.5, 0.8)
MOST_FOOT_N, STEPS, KNEE_STEPS = 5000.0, 200, 130
"""Hardest foot that is looked at [N]; a halving brings it to a millionth."""
ORDER = (0.15, 0.8)
"""Between these decelerations [g] the front has to lock first: UN R13-H Annex 5, from memory; it replaces no inspection."""


class Locking(Record, frozen=True):
    """What happens at one grip: which end locks first, at which deceleration [g] and foot force [N]; efficiency z/µ."""

    grip: float
    first: str
    decel: float
    foot: float

    @property
    def efficiency(self) -> float:
        """Deceleration at the first lock as a share of the grip; unknown where there is none."""
        return self.decel / self.grip if self.grip > 0.0 else UNKNOWN


def ideal(body: VehicleBody, decel: float) -> tuple[float, float]:
    """Return the forces front and rear [N] at which both ends use the same adhesion at a deceleration [g]."""
    return tuple(load * decel for load in body.loads(decel))  # type: ignore[return-value]


def adhesion(chain: Chain, state: PedalState) -> tuple[Pure, Pure]:
    """Return the adhesion that each end uses: its force over its load."""
    loads = chain.body.loads(state.decel)
    return state.road[0] / loads[0], state.road[1] / loads[1]


def locking(chain: Chain, grip: float) -> Locking:
    """Return which end locks first at a ``grip``; unknown where the vehicle or its brakes are unknown."""
    feet = [_foot_at_lock(chain, grip, end) for end in (0, 1)]
    if not any(math.isfinite(foot) for foot in feet) or not is_known(chain.at(100.0).decel, *chain.body.loads(0.5)):
        return Locking(grip, "", UNKNOWN, UNKNOWN)
    end = 0 if not feet[1] < feet[0] else 1
    state = chain.at(feet[end])
    return Locking(grip, ("front", "rear")[end], state.decel, feet[end])


def _foot_at_lock(chain: Chain, grip: float, end: int) -> float:
    """Return the least foot force [N] at which one end's force reaches its grip; infinite where it never does, by halving.

    Its force less grip times its load rises with the foot: the load falls or rises by less than the force does.
    """

    weight = weight_of(chain.body)

    def over(foot: float) -> float:
        roads = chain.roads(foot)
        return roads[end] - grip * chain.body.loads(math.fsum(roads) / weight)[end]

    low, high = 0.0, MOST_FOOT_N
    if not is_known(over(high)):
        return UNKNOWN
    if over(high) < 0.0:
        return math.inf
    while high - low > 1e-7:
        middle = (low + high) / 2
        low, high = (low, middle) if over(middle) >= 0.0 else (middle, high)
    return (low + high) / 2


class Leading(Record, frozen=True):
    """Where the rear uses more adhesion than the front: from and to which deceleration [g], by how much at most."""

    low: float
    high: float
    most: float


def rear_leads(chain: Chain, most: float = 1.0) -> Leading | None:
    """Return where the rear would lock before the front up to ``most`` [g, units of gravity]; ``None`` where it never does."""
    body = chain.body
    lifted = body.wheelbase / body.height * (1.0 - body.front / body.mass)
    if not is_known(lifted):
        return None
    decels = (
        min(most, 0.99 * lifted) * np.arange(1, STEPS + 1) / STEPS
    )  # beyond that the rear wheels are off the ground
    feet = chain.feet_for(decels)
    if not np.isfinite(feet).all():
        return None
    (front, rear), (ahead, behind) = chain.roads(feet), body.loads(decels)
    by = rear / behind - front / ahead
    found = np.flatnonzero(by > 1e-9)
    return Leading(float(decels[found[0]]), float(decels[found[-1]]), float(by[found].max())) if len(found) else None


def knee_for(chain: Chain, slope: Pure = 0.3) -> float:
    """Return the highest knee [bar] of a valve of that slope with which the front locks first from 0.15 to 0.8 g.

    Unknown where no valve is needed, or none of that slope helps. At each deceleration the ideal forces want p* in the rear while
    the front's pressure would send P* there; behind a valve k + s (P* − k) must not exceed p*, so k ≤ (p* − s P*)/(1 − s).
    """
    (front, bites), (rear, shoes) = chain.gains
    if not (rear > 0.0 and front > 0.0):
        return UNKNOWN
    decels = np.linspace(*ORDER, KNEE_STEPS + 1)
    ahead, behind = (load * decels for load in chain.body.loads(decels))
    wants, sent = shoes + behind / rear, (bites + ahead / front) * chain.rear_to_front
    needed = (behind > 0.0) & (sent > wants + 1e-9)
    knee = float(((wants - slope * sent)[needed]).min(initial=math.inf)) / (1.0 - slope) * 10.0
    return knee if 0.0 <= knee < math.inf else UNKNOWN


def weight_of(body: VehicleBody) -> float:
    """Return the vehicle's weight [N]."""
    return body.mass * GRAVITY

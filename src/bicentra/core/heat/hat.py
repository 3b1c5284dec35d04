"""How warm the hat of a one-piece rotor gets: a lumped mass that the ring heats through the hat's wall and the air
cools.

The ring's temperature is that of its own train (it gives the hat's heat away besides, which is left out: the hat comes
out a little too hot). Between stops the ring falls by exp(-t/tau); the hat then follows the exact solution of its
linear equation, m c dT/dt = G (T_ring - T) - h A (T - T_air).
"""

import math

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.heat.stops import IRON_J_KGK, IRON_KG_MM3, Heated, Train, transfer_at
from bicentra.core.parts.rotor import Rotor

IRON_W_MK = 50.0
"""Conductivity of grey cast iron [W/(m K)]: handbook value, from memory."""
LOOKS = 8


class HatMass(Record, frozen=True):
    """The hat: its mass [kg], conductance from the ring to its middle [W/K], to the air [W/K]."""

    mass: float
    inward: float
    outward: float


def hat_of(rotor: Rotor, speed: float) -> HatMass | None:
    """Return the hat of ``rotor`` at a mean ``speed`` [SI units, m/s]; ``None`` for one of two pieces, whose joint
    nobody knows.
    """
    if rotor.kind != "one-piece":
        return None
    outer, inner, bore = (known(size) for size in (rotor.hat_outer_mm, rotor.hollow_mm, rotor.centre_bore_mm))
    deep, face = known(rotor.overall_height_mm) - known(rotor.thickness_mm), known(rotor.hat_thickness_mm)
    wall, middle = (outer - inner) / 2, (outer + inner) / 2
    tube = max(deep - face, 0.0) if is_known(deep, face) else UNKNOWN
    mass = (math.pi * middle * wall * tube + math.pi / 4 * (outer**2 - bore**2) * face) * IRON_KG_MM3
    if not is_known(mass) or wall <= 0.0 or deep <= 0.0:
        return HatMass(UNKNOWN, UNKNOWN, UNKNOWN)
    inward = IRON_W_MK * math.pi * middle * wall / (deep / 2) / 1e3
    surface = (math.pi * outer * deep + math.pi / 4 * (outer**2 - bore**2)) / 1e6
    return HatMass(mass, inward, transfer_at(speed, outer / 1e3) * surface)


def hat_peaks(one: Heated, hat: HatMass, train: Train) -> tuple[float, ...]:
    """Return the highest temperature of the hat [degrees Celsius] after each stop of ``one``, looked at ``LOOKS`` times a pause.

    With a = (G + hA)/(m c), b = G/(m c), the ring X e^(-t/tau) above the air and the hat y above it:
    y(t) = y0 e^(-a t) + b X (e^(-t/tau) - e^(-a t))/(a - 1/tau).
    """
    store = hat.mass * IRON_J_KGK
    fall, reach = (hat.inward + hat.outward) / store, hat.inward / store
    slow = 1.0 / one.sink.constant
    if not is_known(fall, reach, slow, *one.peaks):
        return (UNKNOWN,) * len(one.peaks)
    apart, times = fall - slow, [train.every * k / LOOKS for k in range(1, LOOKS + 1)]
    own = [math.exp(-fall * t) for t in times]
    ring = [t * kept if abs(apart) < 1e-12 else (math.exp(-slow * t) - kept) / apart for t, kept in zip(times, own)]
    above, found = 0.0, list[float]()
    for peak in one.peaks:
        after = [above * kept + reach * (peak - train.ambient) * part for kept, part in zip(own, ring)]
        above = after[-1]
        found.append(train.ambient + max(after))
    return tuple(found)

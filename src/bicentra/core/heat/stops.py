"""Energy of a stop, the temperature of a rotor over a train of equal stops, and how many stops a set of pads lasts."""

import math

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.vehicle import Pad

IRON_KG_MM3, IRON_J_KGK = 7.2e-6, 460.0
"""Density and specific heat of grey cast iron: handbook values, from memory."""
VENTED_SHARE = 0.68
"""How much of a vented ring's envelope is metal: common practice, rings of two faces a third of the width each."""
AIR_W_MK, AIR_M2_S = 0.03, 2.1e-5
"""Conductivity and kinematic viscosity of air at about 80 °C: handbook values, from memory."""
LAMINAR_RE, LIMPERT = 2.4e5, "Limpert, Brake Design and Safety ch. 3, from memory"
MOST_STOPS, SOLID = 10_000, "none"
"""Most stops of a train; vanes of a solid ring."""


class Train(Record, frozen=True):
    """Equal stops: from and to which speed [km/h], how many, one every so many seconds, in air of which temperature [°C]."""

    begin: float
    end: float
    stops: int
    every: float
    ambient: float = 20.0


DUTIES = {
    "street": Train(60.0, 0.0, 10, 60.0),
    "mountain": Train(70.0, 40.0, 40, 25.0),
    "autocross": Train(80.0, 30.0, 15, 8.0),
    "track day": Train(150.0, 70.0, 40, 30.0),
    "mud": Train(40.0, 0.0, 20, 20.0),
}
"""Trains to begin with, by the kind of use: common practice, no source; every number of them can be changed."""


class HeatSink(Record, frozen=True):
    """What takes the heat: mass [kg], specific heat [J/(kg K)], surface [m2], heat transfer [W/(m2 K)], its source."""

    mass: float
    specific: float
    surface: float
    transfer: float
    source: str

    @property
    def constant(self) -> float:
        """Time constant of its cooling [SI units, s]."""
        return self.mass * self.specific / (self.transfer * self.surface)


class Heated(Record, frozen=True):
    """One end over a train: energy into one rotor or drum a stop [J], rise of each [K], peaks [°C], the peak it tends to [°C]."""

    energy: float
    rise: float
    peaks: tuple[float, ...]
    steady: float
    sink: HeatSink


def energy_of(mass: float, begin: float, end: float) -> float:
    """Return the energy [J] of slowing ``mass`` [kg] from ``begin`` to ``end`` [km/h]; rotating parts add at most a tenth."""
    return 0.5 * mass * ((begin / 3.6) ** 2 - (end / 3.6) ** 2)


def ring_mass(rotor: Rotor) -> float:
    """Return the mass of a rotor's friction ring [kg]: its envelope, less the gap of a vented one, its drillings and slots."""
    outer, inner, thick = known(rotor.diameter_mm), known(rotor.swept_inner_diameter_mm), known(rotor.thickness_mm)
    whole = math.pi / 4 * (outer**2 - inner**2) * thick * metal_share(rotor)
    return (whole - drilled(rotor)[0] - slotted(rotor)[0]) * IRON_KG_MM3


def metal_share(rotor: Rotor) -> float:
    """Return how much of a ring's envelope is metal."""
    return 1.0 if rotor.vanes == SOLID else VENTED_SHARE


def drilled(rotor: Rotor) -> tuple[float, float]:
    """Return what the holes through a ring take of its metal [mm3], and what they add to its surface [mm2]: walls less mouths."""
    if not rotor.through_holes:
        return 0.0, 0.0
    wide, deep = known(rotor.through_hole_mm), known(rotor.thickness_mm) * metal_share(rotor)
    mouth = math.pi / 4 * wide**2
    return rotor.through_holes * mouth * deep, rotor.through_holes * (math.pi * wide * deep - 2.0 * mouth)


def slotted(rotor: Rotor) -> tuple[float, float]:
    """Return what the slots across the swept band take of a ring [mm3], and what their sides add to its surface [mm2]."""
    if not rotor.slots:
        return 0.0, 0.0
    long = (known(rotor.diameter_mm) - known(rotor.swept_inner_diameter_mm)) / 2
    deep = known(rotor.slot_deep_mm)
    return rotor.slots * long * known(rotor.slot_wide_mm) * deep, rotor.slots * 2.0 * long * deep


def rotor_sink(rotor: Rotor, speed: float) -> HeatSink:
    """Return a rotor's ring as what takes the heat, cooled at a mean ``speed`` [SI units, m/s].

    h = 0.70 (k/D) Re^0.55 up to Re 2.4·10⁵, 0.04 (k/D) Re^0.8 above, Re = v D/ν; a vented ring's channels count as its faces once
    more (Limpert, Brake Design and Safety ch. 3, from memory).
    """
    sizes = (rotor.diameter_mm, rotor.swept_inner_diameter_mm, rotor.thickness_mm)
    outer, inner, thick = (known(size) / 1e3 for size in sizes)
    faces = 2.0 * math.pi / 4 * (outer**2 - inner**2)
    surface = faces * (1.0 if rotor.vanes == SOLID else 2.0) + math.pi * outer * thick
    surface += (drilled(rotor)[1] + slotted(rotor)[1]) / 1e6
    return HeatSink(ring_mass(rotor), IRON_J_KGK, surface, transfer_at(speed, outer), LIMPERT)


def drum_sink(diameter: float, speed: float) -> HeatSink:
    """Return a drum as what takes the heat: a band 40 mm wide and 8 thick of its ``diameter`` [mm], where nobody weighed it."""
    outer = diameter / 1e3
    mass = math.pi * diameter * 40.0 * 8.0 * IRON_KG_MM3
    surface = math.pi * outer * 0.04 + math.pi / 4 * outer**2
    return HeatSink(
        mass,
        IRON_J_KGK,
        surface,
        transfer_at(speed, outer),
        "as a rotor's, outside alone; its size is common practice",
    )


def transfer_at(speed: float, diameter: float) -> float:
    """Return the heat transfer [W/(m2 K)] of a ring of a ``diameter`` [m] at a ``speed`` [m/s]."""
    if not is_known(speed, diameter) or diameter <= 0.0:
        return UNKNOWN
    reynolds = max(speed, 0.0) * diameter / AIR_M2_S
    nusselt = 0.70 * math.pow(reynolds, 0.55) if reynolds <= LAMINAR_RE else 0.04 * math.pow(reynolds, 0.8)
    return max(nusselt * AIR_W_MK / diameter, 5.0)


def heated(energy: float, sink: HeatSink, train: Train) -> Heated:
    """Return the peaks of a train of stops that put ``energy`` [SI units, J] each into ``sink``."""
    rise = energy / (sink.mass * sink.specific)
    q = math.exp(-train.every / sink.constant) if is_known(sink.constant) and sink.constant > 0 else UNKNOWN
    if not is_known(rise, q):
        return Heated(energy, rise, (UNKNOWN,) * train.stops, UNKNOWN, sink)
    peaks, above = [], 0.0
    for _ in range(train.stops):
        above = above * q + rise
        peaks.append(train.ambient + above)
    return Heated(energy, rise, tuple(peaks), train.ambient + (rise / (1.0 - q) if q < 1.0 else math.inf), sink)


def over_at(one: Heated, limit: float) -> int:
    """Return at which stop, counted from 1, a temperature [°C] is passed; 0 where it never is."""
    return next((number for number, peak in enumerate(one.peaks, 1) if peak > limit), 0)


MM3_PER_MJ, TOO_HOT, BAND = 50.0, 4.0, 2.0
"""Pad worn away by a megajoule, how much faster beyond the pads' range, and the factor either way it is good for: rule
of thumb, no source, worked back from pads that last some 40,000 km in town.
"""


def stops_of_pads(pad: Pad, area: float, one: Heated) -> float:
    """Return how many stops like those of ``one`` two pads of ``area`` [mm2] each last from new to worn.

    The stops of the train count each with its own peak: a pad that is beyond its range wears faster.
    """
    deep = known(pad.thickness_mm) - known(pad.min_thickness_mm)
    if not is_known(deep, area, one.energy, *one.peaks) or deep <= 0.0 or one.energy <= 0.0 or not one.peaks:
        return UNKNOWN
    most = known(pad.to_c)
    if not is_known(most):
        return UNKNOWN
    worn = sum(TOO_HOT if peak > most else 1.0 for peak in one.peaks) / len(one.peaks)
    return 2.0 * area * deep / (MM3_PER_MJ * one.energy / 1e6 * worn)

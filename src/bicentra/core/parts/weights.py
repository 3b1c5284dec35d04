"""What the parts of a corner weigh, and how hard the rotor is to spin up."""

import math

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.parts.brakes import Caliper
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.wheel import Wheel

VENTED_FILL = 0.62
"""Share of a vented ring's thickness that is iron, vanes included: common practice, from memory. It only shares the
weighed mass out between ring and hat."""


class Weights(Record, frozen=True):
    """Masses [kg] of one corner's parts and the rotor's moment of inertia about its axis [kg m2]; unknown is nan.

    ``other``: adapter plate of the new corner, or what else came off the old one.
    """

    rotor: float
    caliper: float
    wheel: float
    other: float
    spin: float

    @property
    def total(self) -> float:
        """All of it [kg]; unknown when one of them is."""
        return self.rotor + self.caliper + self.wheel + self.other


def weigh(rotor: Rotor | None, caliper: Caliper | None, wheel: Wheel | None, other: float) -> Weights:
    """Return what a corner's parts weigh [kg]; a part that is not there weighs nothing, one not weighed is unknown."""

    def mass(part: Rotor | Caliper | Wheel | None) -> float:
        return 0.0 if part is None else known(part.mass_kg)

    return Weights(mass(rotor), mass(caliper), mass(wheel), other, 0.0 if rotor is None else spin_of(rotor))


def spin_of(rotor: Rotor) -> float:
    """Return the rotor's moment of inertia about its axis [kg m2]: its mass shared out over ring, hat wall and flange.

    Each is a hollow cylinder, I = ½ m (r₁² + r₂²) (any textbook of mechanics). Holes and fillets are left out.
    """
    pieces = _pieces(rotor)
    mass = known(rotor.mass_kg)
    volume = math.fsum(volume for volume, _, _ in pieces)
    if not pieces or not is_known(mass, volume) or volume <= 0:
        return UNKNOWN
    return mass / volume * math.fsum(v * (r0**2 + r1**2) / 2 for v, r0, r1 in pieces) * 1e-6


def _pieces(rotor: Rotor) -> list[tuple[float, float, float]]:
    """Return (iron volume [mm3], inner radius, outer radius [mm]) of the pieces; nothing while a size is unknown."""
    outer, inner = known(rotor.diameter_mm) / 2, known(rotor.swept_inner_diameter_mm) / 2
    thick = known(rotor.thickness_mm)
    fill = 1.0 if rotor.vanes == "none" else VENTED_FILL
    ring = (math.pi * (outer**2 - inner**2) * thick * fill, inner, outer)
    if rotor.kind == "ring":
        return [ring] if is_known(*ring) else []
    hollow, bore = known(rotor.hollow_mm) / 2, known(rotor.centre_bore_mm) / 2
    tall, flange = known(rotor.height_mm) - thick, known(rotor.flange_mm)
    wall = known(rotor.hat_outer_mm) / 2
    found = [
        ring,
        (math.pi * (wall**2 - hollow**2) * tall, hollow, wall),
        (math.pi * (wall**2 - bore**2) * flange, bore, wall),
    ]
    return found if all(is_known(*piece) and piece[0] >= 0 for piece in found) else []

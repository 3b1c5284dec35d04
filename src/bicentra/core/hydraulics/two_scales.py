"""Height of the centre of gravity from two weighings of the front axle: level, and with the rear lifted."""

import math

from bicentra.core.base.numbers import UNKNOWN, is_known


def height_by_scales(mass: float, level: float, lifted: float, wheelbase: float, lift: float, radius: float) -> float:
    """Return the height of the centre of gravity over the road [mm].

    ``mass`` of the whole, front axle load ``level`` and with the rear axle ``lifted`` [kg]; ``wheelbase``, ``lift`` of the rear
    axle, tyre ``radius`` [mm]. h = r + L ΔW/(W tan θ), sin θ = lift/L: static equilibrium about the front axle; Gillespie,
    Fundamentals of Vehicle Dynamics, from memory. Unknown where the numbers cannot be so.
    """
    if not is_known(mass, level, lifted, wheelbase, lift, radius) or not 0.0 < lift < wheelbase or mass <= 0.0:
        return UNKNOWN
    moved = lifted - level
    if moved <= 0.0 or lifted >= mass:
        return UNKNOWN
    return radius + wheelbase * moved / (mass * math.tan(math.asin(lift / wheelbase)))

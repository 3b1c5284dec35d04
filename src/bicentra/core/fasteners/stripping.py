"""How much thread has to be engaged so that the bolt breaks before the thread strips.

Shear areas of the basic 60° profile (FED-STD-H28 form): at the nut's minor diameter the bolt keeps 0.75 of the pitch, at the
bolt's major diameter the nut keeps 0.875 of it.
"""

import math

from bicentra.core.parts.threads import Thread

SHEAR_SHARE = 0.577
"""Shear strength over tensile strength, von Mises: 1/√3."""


def external_area(thread: Thread, length: float) -> float:
    """Return the bolt thread's shear area [mm2] over ``length`` [mm]: 0.75 π D₁ L."""
    return 0.75 * math.pi * thread.minor * length


def internal_area(thread: Thread, length: float) -> float:
    """Return the tapped thread's shear area [mm2] over ``length`` [mm]: 0.875 π d L."""
    return 0.875 * math.pi * thread.major * length


def engagement_against_stripping(thread: Thread, bolt_tensile: float, tapped_tensile: float) -> float:
    """Return the engagement [mm] at which neither thread strips before the bolt breaks in tension.

    The bolt breaks at R_m A_s; its own thread carries 0.577 R_m × external area, the tapped one 0.577 R_m × internal area.
    """
    own = thread.stress_area / (SHEAR_SHARE * external_area(thread, 1.0))
    other = bolt_tensile * thread.stress_area / (SHEAR_SHARE * tapped_tensile * internal_area(thread, 1.0))
    return max(own, other)

"""The solids that must not meet: rotor and hub as rings in the (r, z) half plane, the caliper's body as a box.

Rings are exact for parts that turn with the wheel: whatever the clock angle, their distance to a part depends only
on that part's range of radius and of z.
"""

import math
from dataclasses import dataclass
from functools import cached_property

from bicentra.core.base.numbers import UNKNOWN, is_known, known, smallest
from bicentra.core.lineup.solve import LineUp, hat_outer_z
from bicentra.core.parts.job import Job
from bicentra.core.parts.rotor import HAT_WALL_MM

AXLE_REACH_MM = 1000.0
"""How far inboard the axle is taken to reach: further than any plate."""


@dataclass(frozen=True)
class Ring:
    """A ring about the wheel axis: r from ``r0`` to ``r1``, z from ``z0`` to ``z1`` [mm]."""

    r0: float
    r1: float
    z0: float
    z1: float

    @cached_property
    def is_known(self) -> bool:
        """Whether all four bounds are known."""
        return is_known(self.r0, self.r1, self.z0, self.z1)


def ring_gap(one: Ring, other: Ring) -> float:
    """Return the distance [mm] between two rings; negative by the smaller overlap when they run into each other."""
    if not (one.is_known and other.is_known):
        return UNKNOWN
    dr = max(one.r0 - other.r1, other.r0 - one.r1)
    dz = max(one.z0 - other.z1, other.z0 - one.z1)
    if dr > 0 and dz > 0:
        return math.hypot(dr, dz)
    return max(dr, dz)


def nearest_gap(one: Ring, others: tuple[Ring, ...]) -> float:
    """Return the smallest distance [mm] from ``one`` to any of ``others``; unknown when any is unknown."""
    return smallest([ring_gap(one, other) for other in others])


def rotor_rings(job: Job, line: LineUp) -> tuple[Ring, ...]:
    """Return friction ring, hat wall and hat flange of the rotor, where it sits now."""
    rotor = job.rotor
    radius, half = known(rotor.diameter_mm) / 2, known(rotor.thickness_mm) / 2
    mid, hat_z = line.rotor_midplane_z, line.hat_outer_z
    hat_inner = known(rotor.hollow_mm) / 2
    hat_outer = hat_inner + HAT_WALL_MM
    flange_inner = hat_z - known(rotor.flange_mm)
    wall = (flange_inner, mid + half) if job.fit.rotor_way == "flipped" else (mid - half, hat_z)
    return (
        Ring(hat_inner, radius, mid - half, mid + half),
        Ring(hat_inner, hat_outer, *wall),
        Ring(known(rotor.centre_bore_mm) / 2, hat_outer, flange_inner, hat_z),
    )


def hub_rings(job: Job) -> tuple[Ring, Ring]:
    """Return the hub's flange, and what lies behind it about the axis: taken as wide as the pilot, however deep."""
    hub = job.hub
    flange = Ring(0.0, known(hub.flange_diameter_mm) / 2, -known(hub.flange_thickness_mm), 0.0)
    return flange, Ring(0.0, known(hub.pilot_diameter_mm) / 2, -AXLE_REACH_MM, 0.0)


def section_outline(job: Job) -> tuple[tuple[float, float], ...]:
    """Return the body's section at the caliper's middle: (z from slot centre, out from pad top) [mm], as traced or a box.

    Empty while something is not known.
    """
    caliper = job.caliper
    if caliper.body_section_mm:
        return caliper.body_section_mm
    low, high = -known(caliper.pad_height_mm), known(caliper.body_outer_mm)
    left, right = -known(caliper.body_inboard_mm), known(caliper.body_outboard_mm)
    box = ((left, low), (left, high), (right, high), (right, low))
    return box if is_known(low, high, left, right) else ()


def stud_past_seat(job: Job) -> float:
    """Return the stud [mm] that sticks out past the face the wheel seats on."""
    stud = known(job.hub.stud_length_mm) - known(job.fit.wheel_spacer_mm)
    return stud - hat_outer_z(job) if job.hub.mounting == "over-hub" else stud

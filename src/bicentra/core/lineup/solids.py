"""The solids that must not meet: rotor and hub as rings in the (r, z) half plane, the caliper's body as a box.

Rings are exact for parts that turn with the wheel: whatever the clock angle, their distance to a part depends only
on that part's range of radius and of z.
"""

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from bicentra.core.base.numbers import UNKNOWN, is_known, known, smallest
from bicentra.core.base.outline import FloatArray
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


@dataclass(frozen=True)
class Body:
    """The caliper's body: radial range on its centreline, half width, and range of z [mm].

    ``outline``: (radial, across) corners of a traced body seen along the axle; a rectangle without. Between z0 and z1
    the body is taken as wide and high as it is anywhere, which errs towards a clash.
    """

    inner: float
    outer: float
    half_width: float
    z0: float
    z1: float
    outline: tuple[tuple[float, float], ...] = ()

    @cached_property
    def is_known(self) -> bool:
        """Whether every bound is known."""
        return is_known(self.inner, self.outer, self.half_width, self.z0, self.z1)

    def corners(self, clock_rad: FloatArray) -> FloatArray:
        """Return (n, k, 2) float, mm: the body's k corners in (x, y) for each of n clock angles [rad]."""
        return in_plane(clock_rad, *np.array(self.corner_list).T)

    @property
    def corner_list(self) -> tuple[tuple[float, float], ...]:
        """The body's corners in the caliper's frame: (radial, across) [mm]."""
        half = self.half_width
        box = ((self.inner, -half), (self.outer, -half), (self.outer, half), (self.inner, half))
        return self.outline or box


def in_plane(clock_rad: FloatArray, radial: FloatArray, across: FloatArray) -> FloatArray:
    """Return (n, k, 2) float, mm: k points of the caliper's frame (radial u, tangential w) at n clock angles [rad]."""
    cos, sin = np.cos(clock_rad)[:, None], np.sin(clock_rad)[:, None]
    return np.stack([radial * cos - across * sin, radial * sin + across * cos], axis=-1)


def caliper_body(job: Job, line: LineUp, axial_error: float) -> Body:
    """Return the body's box for a caliper that sits ``axial_error`` [mm] too far outboard."""
    caliper, top = job.caliper, line.pad_top_radius
    mid = line.rotor_midplane_z + axial_error
    z0, z1 = mid - known(caliper.body_inboard_mm), mid + known(caliper.body_outboard_mm)
    inner, outer = top - known(caliper.pad_height_mm), top + known(caliper.body_outer_mm)
    half = known(caliper.body_width_mm) / 2
    outline = tuple((top + out, across) for across, out in caliper.body_face_mm)
    if outline:
        radial, sides = zip(*outline)
        inner, outer, half = min(radial), max(radial), max(abs(side) for side in sides)
    if caliper.body_section_mm:
        depths = [z for z, _ in caliper.body_section_mm]
        z0, z1 = mid + min(depths), mid + max(depths)
    return Body(inner, outer, half, z0, z1, outline)


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

"""The clock frame: how the caliper stands at a clock angle, u outward from the axle, w towards rising clock angles."""

import math

import numpy as np

from bicentra.core.base.cache import cached_property
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record
from bicentra.core.geometry.outline import FloatArray, Point


class ClockFrame(Record, frozen=True):
    """The frame at ``clock`` [degrees]: u = (cos, sin) points outward, w = (−sin, cos) is a quarter turn further.

    All of it is unknown while the angle is.
    """

    clock: float

    @cached_property
    def is_known(self) -> bool:
        """Whether the angle is known."""
        return is_known(self.clock)

    @cached_property
    def rad(self) -> float:
        """The angle [radians]."""
        return math.radians(self.clock)

    @cached_property
    def here(self) -> FloatArray:
        """The angle as (1,) float [radians], for what is asked at n angles at once."""
        return np.array([self.rad])

    @cached_property
    def u(self) -> Point:
        """The unit vector outward from the axle."""
        return math.cos(self.rad), math.sin(self.rad)

    @cached_property
    def w(self) -> Point:
        """The unit vector along the rotor's edge, towards rising clock angles."""
        return -math.sin(self.rad), math.cos(self.rad)

    @property
    def spin(self) -> FloatArray:
        """(2, 2) float, unit vectors u and w as columns: points (x, y) as rows times this are (radial, across)."""
        return np.array([self.u, self.w]).T

    def at(self, radial: float, across: float = 0.0) -> Point:
        """Return (x, y) [mm] of a point ``radial`` [mm] out from the axle and ``across`` [mm] along the rotor's edge."""
        (ux, uy), (wx, wy) = self.u, self.w
        return radial * ux + across * wx, radial * uy + across * wy

    def into(self, point: Point) -> Point:
        """Return how far out and across [mm] a point (x, y) [mm] lies."""
        (x, y), (ux, uy) = point, self.u
        return x * ux + y * uy, y * ux - x * uy


def in_plane(clock_rad: FloatArray, radial: FloatArray, across: FloatArray) -> FloatArray:
    """Return (n, k, 2) float, mm: k points of the clock frame (radial u, tangential w) at n clock angles [rad]."""
    cos, sin = np.cos(clock_rad)[:, None], np.sin(clock_rad)[:, None]
    found = np.empty((len(cos), len(radial), 2))
    found[..., 0], found[..., 1] = radial * cos - across * sin, radial * sin + across * cos
    return found

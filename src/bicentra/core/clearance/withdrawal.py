"""Whether a bolt can be drawn out, and a socket put on its head, past what stands behind the head: obstacles and lugs.

Rotor and caliper are not counted: the bracket is bolted on before them. A bolt needs its own length, a socket its height.
"""

import math

import shapely

from bicentra.core.base.numbers import UNKNOWN, is_known, ordered
from bicentra.core.base.records import Record
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.geometry.prism import Prism

SOCKET_WALL_MM, SOCKET_HIGH_MM = 4.0, 40.0
"""A socket's wall outside the hexagon's corners, and how high it is with its drive: common practice."""


class BoltWay(Record, frozen=True):
    """The free way behind a bolt's head [mm], what ends it, and what bolt and socket need. Endless where nothing stands."""

    name: str
    free: float
    ends_at: str
    bolt: float
    socket: float

    @property
    def text(self) -> str:
        """The way in one sentence."""
        if math.isnan(self.free):
            return f"{self.name}: still unknown"
        if math.isinf(self.free):
            return f"{self.name}: nothing recorded stands behind its head"
        short = [what for what, need in (("bolt", self.bolt), ("socket", self.socket)) if self.free < need]
        text = f"{self.name}: {self.free:.0f} mm free to {self.ends_at}"
        return text + (
            f"; too little for the {' and the '.join(short)}: put it in before, or from the other side" if short else ""
        )


def ways_out(assembly: Assembly) -> tuple[BoltWay, ...]:
    """Return the way behind every bolt's head."""
    return tuple(_way(assembly, placed) for placed in assembly.joints)


def _way(assembly: Assembly, placed: PlacedJoint) -> BoltWay:
    thread, (x, y) = placed.joint.thread, placed.centre
    radius = thread.head_across_corners / 2 + SOCKET_WALL_MM
    if not is_known(x, y, placed.head_z, placed.joint.length):
        return BoltWay(placed.name, UNKNOWN, "", UNKNOWN, UNKNOWN)
    disc = shapely.Point(x, y).buffer(radius, 32)
    found: list[tuple[float, str]] = []
    for obstacle in assembly.obstacles:
        if shapely.intersects(obstacle.shape, disc):
            found += _apart(placed, obstacle)
    own = placed.feature.replace("bolt-", "")
    for round_one in assembly.fixed:
        lug = round_one.feature.startswith("lug-") and round_one.feature[4:].isdigit()
        if lug and round_one.feature != own and math.dist(round_one.at, placed.centre) < round_one.radius + radius:
            found += _apart(placed, round_one)
    free, ends_at = min(found, default=(math.inf, ""))
    return BoltWay(placed.name, free, ends_at, placed.joint.length, SOCKET_HIGH_MM)


def _apart(placed: PlacedJoint, thing: Prism) -> list[tuple[float, str]]:
    """Return how far behind the head something begins; nothing when it lies wholly before it."""
    if not is_known(thing.z0, thing.z1):
        return [(UNKNOWN, thing.name)]
    low, high = ordered(thing.z0, thing.z1)
    begins, ends = (
        (placed.head_z - high, placed.head_z - low) if placed.way > 0 else (low - placed.head_z, high - placed.head_z)
    )
    return [(max(begins, 0.0), thing.name)] if ends > 0 else []

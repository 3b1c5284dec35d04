"""Whether bolts can be reached and drawn out past what stands in the way."""

import math

import shapely

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import UNKNOWN, is_known, known, ordered
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat, make_finding, missing_names
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.geometry.outline import Point
from bicentra.core.geometry.prism import Prism
from bicentra.core.lineup.solids import retainer_places
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for


def room_past(plan: shapely.Geometry, at: Point, socket: float) -> float:
    """Return the room [mm] between a socket at ``at`` and metal seen along the axle; negative when it is covered."""
    spot = shapely.Point(at)
    apart = -spot.distance(plan.boundary) if plan.covers(spot) else spot.distance(plan)
    return UNKNOWN if plan.is_empty else float(apart) - socket / 2


def retainer_reach(job: Job, plan: shapely.Geometry, lengths: LengthFormat, comes_off: bool = True) -> Finding:
    """The least room for a socket on the retainer's bolts past a bracket seen along the axle as ``plan``: a caution at
    worst where the bracket ``comes_off``.
    """
    hub, limit = job.hub, limit_for(job, "retainer-reach")
    places, socket = retainer_places(hub), known(hub.retainer_socket_mm)
    rooms = [room_past(plan, at, socket) for at in places]
    value = min(rooms) if rooms and is_known(*rooms) else UNKNOWN
    why = missing = ""
    if is_known(value):
        number = rooms.index(value) + 1
        why = (
            f"A socket on retainer bolt {number} stands {lengths.gap(value)} from the bracket." if value >= 0
            else f"Retainer bolt {number} is covered by the bracket, {lengths.gap(value)} too far for a socket: "
            + ("the bracket has to come off before the hub can, and goes on after it." if comes_off
               else "what is welded on does not come off, and the bearing behind it never again.")
        )  # fmt: skip
    else:
        missing = missing_names(
            retainer_bolt_circle=hub.retainer_circle_mm, number_of_retainer_bolts=hub.retainer_count,
            direction_of_the_first=hub.retainer_first_deg, socket_diameter=hub.retainer_socket_mm,
        ) or "the bracket is still unknown"  # fmt: skip
    finding = make_finding(
        "retainer-reach",
        value,
        limit,
        why,
        features=("bracket", "hub"),
        missing=missing,
    )
    return replace(finding, verdict=Verdict.CAUTION) if comes_off and finding.verdict is Verdict.STOP else finding


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

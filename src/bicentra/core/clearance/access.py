"""Whether the bolts of the bearing retainer can be reached with the plate on."""

import shapely

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat, make_finding, missing_names
from bicentra.core.geometry.outline import Point
from bicentra.core.lineup.solids import retainer_places
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for


def room_past(plan: shapely.Geometry, at: Point, socket: float) -> float:
    """Return the room [mm] between a socket at ``at`` and metal seen along the axle; negative when it is covered."""
    spot = shapely.Point(at)
    apart = -spot.distance(plan.boundary) if plan.covers(spot) else spot.distance(plan)
    return UNKNOWN if plan.is_empty else float(apart) - socket / 2


def retainer_reach(job: Job, plan: shapely.Geometry, lengths: LengthFormat, comes_off: bool = True) -> Finding:
    """The least room for a socket on the retainer's bolts past a bracket seen along the axle as ``plan``: a watch at
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

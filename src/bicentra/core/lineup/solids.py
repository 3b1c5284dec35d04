"""The solids that must not meet: rotor and hub as rings in the (r, z) half plane.

Rings are exact for parts that turn with the wheel: whatever the clock angle, their distance to a part depends only
on that part's range of radius and of z.
"""

from bicentra.core.base.numbers import UNKNOWN, is_known, known, ordered
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.ring import Ring
from bicentra.core.geometry.tracing import few
from bicentra.core.lineup.solve import LineUp, hat_outer_z
from bicentra.core.parts.job import Hub, Job
from bicentra.core.parts.threads import find_thread

AXLE_REACH_MM = 1000.0
"""How far inboard the axle is taken to reach: further than any plate."""


def rotor_rings(job: Job, line: LineUp) -> tuple[Ring, ...]:
    """Return friction ring, hat wall and hat flange of the rotor, where it sits now.

    A hat whose outside was not measured is bounded by the inner edge of the swept band, or by the whole ring.
    """
    rotor = job.rotor
    radius, half = known(rotor.diameter_mm) / 2, known(rotor.thickness_mm) / 2
    mid, hat_z = line.rotor_midplane_z, line.hat_outer_z
    hat_inner, sure = known(rotor.hollow_mm) / 2, rotor.hat_outer_diameter_mm is not None
    hat_outer = known(first_known_of(rotor.hat_outer_diameter_mm, rotor.swept_inner_diameter_mm, rotor.diameter_mm)) / 2
    flange_inner = hat_z - known(rotor.flange_mm)
    wall = (flange_inner, mid + half) if job.fit.rotor_way == "flipped" else (mid - half, hat_z)
    return (
        Ring(hat_inner, radius, mid - half, mid + half),
        Ring(hat_inner, hat_outer, *wall, sure),
        Ring(known(rotor.centre_bore_mm) / 2, hat_outer, flange_inner, hat_z, sure),
    )


def hub_rings(job: Job) -> tuple[Ring, ...]:
    """Return the hub's flange, what turns behind it about the axis, and the studs' heads at its back.

    What turns behind the flange was measured, or lies inside the axle's tube; else it is bounded by the flange. A stud's head
    is no higher than the stud is thick, and stands no further out from its middle: common practice.
    """
    hub = job.hub
    flange, thick = known(hub.flange_diameter_mm) / 2, known(hub.flange_thickness_mm)
    barrel = first_known_of(hub.barrel_diameter_mm, hub.tube_diameter_mm)
    found = [
        Ring(0.0, flange, -thick, 0.0),
        Ring(0.0, known(first_known_of(barrel, hub.flange_diameter_mm)) / 2, -AXLE_REACH_MM, 0.0, barrel is not None),
    ]
    thread = find_thread(hub.stud_thread) if hub.stud_thread else None
    if hub.bolt_circle_mm is not None and thread is not None:
        circle, high = hub.bolt_circle_mm / 2, hub.stud_back_mm
        back = -thick - (thread.major if high is None else high)
        found.append(Ring(max(circle - thread.major, 0.0), circle + thread.major, back, -thick, high is not None))
    return tuple(found)


def cut_for(job: Job) -> tuple[Ring, ...]:
    """Return what a plate round the hub is cut for: the flange, and behind it what was measured, else as wide as the pilot."""
    hub = job.hub
    width = first_known_of(hub.barrel_diameter_mm, hub.tube_diameter_mm, hub.pilot_diameter_mm)
    return hub_rings(job)[0], Ring(0.0, known(width) / 2, -AXLE_REACH_MM, 0.0)


def retainer_ring(job: Job) -> Ring | None:
    """Return the room of the bearing retainer's bolts, whatever their angles; ``None`` where the job has none.

    Where their ends were not measured they are bounded by the hub's flange.
    """
    hub = job.hub
    if hub.retainer_circle_mm is None:
        return None
    thread, circle = find_thread(hub.retainer_bolt) if hub.retainer_bolt else None, hub.retainer_circle_mm / 2
    out, end = thread.major if thread is not None else UNKNOWN, hub.retainer_bolt_end_z_mm
    bound = -known(hub.flange_thickness_mm) if end is None else end
    return Ring(circle - out, circle + out, *ordered(known(hub.retainer_face_z_mm), bound), end is not None)


def retainer_places(hub: Hub) -> tuple[tuple[float, float], ...]:
    """Return the retainer's bolts in (x, y) [mm]; nothing while circle, count or first angle is unknown."""
    radius, first, count = known(hub.retainer_circle_mm) / 2, known(hub.retainer_first_deg), hub.retainer_count or 0
    turns = [first + 360.0 * k / count for k in range(count)] if is_known(radius, first) else []
    return tuple(ClockFrame(turn).at(radius) for turn in turns)


def first_known_of(*values: float | None) -> float | None:
    """Return the first of ``values`` that somebody gave [any unit]."""
    return next((value for value in values if value is not None), None)


def wheel_studs_ring(job: Job, line: LineUp) -> Ring:
    """Return the room of studs and nuts outboard of the hat: as far out as a nut's corners, as long as the studs."""
    thread = find_thread(job.hub.stud_thread) if job.hub.stud_thread else None
    circle, end = known(job.hub.bolt_circle_mm) / 2, known(job.hub.stud_length_mm)
    out = thread.head_across_corners / 2 if thread is not None else UNKNOWN
    seat = line.hat_outer_z if job.hub.mounting == "over-hub" else 0.0
    return Ring(circle - out, circle + out, *ordered(seat, max(end, seat) if is_known(end, seat) else UNKNOWN))


def section_outline(job: Job) -> tuple[tuple[float, float], ...]:
    """Return the body's section at the caliper's middle: (z from slot centre, out from pad top) [mm], as traced or a box.

    Empty while something is unknown.
    """
    caliper = job.caliper
    if caliper.body_section_mm:
        return few(caliper.body_section_mm)
    low, high = -known(caliper.pad_height_mm), known(caliper.body_outer_mm)
    left, right = -known(caliper.body_inboard_mm), known(caliper.body_outboard_mm)
    box = ((left, low), (left, high), (right, high), (right, low))
    return box if is_known(low, high, left, right) else ()


def stud_past_seat(job: Job) -> float:
    """Return the stud [mm] that sticks out past the face the wheel seats on."""
    stud = known(job.hub.stud_length_mm) - known(job.fit.wheel_spacer_mm)
    return stud - hat_outer_z(job) if job.hub.mounting == "over-hub" else stud

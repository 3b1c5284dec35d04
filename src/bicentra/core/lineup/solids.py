"""The solids that must not meet: rotor, hub and the inside of the wheel in the (r, z) half plane."""

from itertools import pairwise

from bicentra.core.base.numbers import UNKNOWN, is_known, known, ordered
from bicentra.core.base.records import Record
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.hull import few
from bicentra.core.geometry.ring import Ring
from bicentra.core.lineup.solve import LineUp, hat_outer_z
from bicentra.core.parts.job import Hub, Job
from bicentra.core.parts.threads import find_thread
from bicentra.core.parts.wheel import Wheel

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
    """Return the first of ``values`` that somebody gave."""
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


Points = tuple[tuple[float, float], ...]
INCH = 25.4
WELL_MM, RIM_WALL_MM = 17.3, 5.5
"""Depth of the drop centre of a J rim below the bead seat, from memory of the rim contour standards, and a usual wall.
A nominal barrel is taken as deep as its well over its whole width: it errs towards a clash."""
PAD_ROOM_MM, SPOKE_RISE_MM, SPOKE_DISH_MM = 16.0, 8.0, 14.0
"""Nominal spokes: flat as far as the first outside the bolt circle, risen within the second to the third inboard of the
outer bead, and straight out from there. A guess: wheels differ most of all here."""
BEHIND_MM = 80.0
"""How deep rim and spokes are taken to be behind their inside faces: more than any caliper reaches."""
NOMINAL_IN = (12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 22)


class WheelInside(Record, frozen=True):
    """Inside faces in (z, r) [mm] from the seat face. ``guessed``: which of them nobody traced; ``unmeasured``: bands of
    weights whose size or place is unknown."""

    barrel: Points
    spokes: Points
    weights: tuple[tuple[str, Points], ...]
    guessed: tuple[str, ...]
    unmeasured: tuple[str, ...] = ()

    def solids(self, seat_z: float) -> tuple[tuple[str, Points], ...]:
        """Return what must not be met, as closed outlines in (z, r) of the hub frame with the wheel's seat at ``seat_z`` [mm]."""
        barrel, spokes = self.barrel, self.spokes
        top = max(r for _, r in barrel) + BEHIND_MM
        far = max(z for z, _ in spokes) + BEHIND_MM
        found = [
            ("wheel barrel", (*barrel, (barrel[-1][0], top), (barrel[0][0], top))),
            ("wheel spokes", (*spokes, (far, spokes[-1][1]), (far, spokes[0][1]))),
            *self.weights,
        ]
        return tuple((name, tuple((z + seat_z, r) for z, r in points)) for name, points in found)


def wheel_inside(wheel: Wheel) -> WheelInside | None:
    """Return the inside of ``wheel``; ``None`` when neither a trace nor the sizes for a nominal one are there."""
    nominal = _nominal(wheel)
    barrel = wheel.barrel_mm or (nominal[0] if nominal else ())
    spokes = wheel.spokes_mm or (nominal[1] if nominal else ())
    if not barrel or not spokes:
        return None
    names = (("inside of the barrel", wheel.barrel_mm), ("inside of the spokes", wheel.spokes_mm))
    guessed = tuple(name for name, traced in names if not traced)
    unmeasured = tuple(
        band.name or "balance weights"
        for band in wheel.weights if not is_known(band.z_min_mm, band.z_max_mm, band.height_mm)
    )  # fmt: skip
    return WheelInside(barrel, spokes, _weights(wheel, barrel), guessed, unmeasured)


def _nominal(wheel: Wheel) -> tuple[Points, Points] | None:
    """Return barrel and spokes of a wheel of which only the size is known.

    The rim's middle lies at z = −offset; its beads half a width to either side.
    """
    radius, half, offset = known(wheel.rim_diameter_mm) / 2, known(wheel.rim_width_mm) / 2, known(wheel.offset_mm)
    if not is_known(radius, half, offset):
        return None
    inside = radius - WELL_MM - RIM_WALL_MM
    circle = known(wheel.bolt_circle_mm) / 2
    pad = (circle if is_known(circle) else 57.0) + PAD_ROOM_MM
    dish = max(half - offset - SPOKE_DISH_MM, 0.0)
    if inside <= pad:
        return None
    return ((-offset - half, inside), (half - offset, inside)), (
        (0.0, pad),
        (dish, pad + SPOKE_RISE_MM),
        (dish, inside),
    )


def _weights(wheel: Wheel, barrel: Points) -> tuple[tuple[str, Points], ...]:
    """Return each band of balance weights as a box standing in from the barrel."""
    found = []
    for band in wheel.weights:
        low, high, height = known(band.z_min_mm), known(band.z_max_mm), known(band.height_mm)
        if is_known(low, high, height) and high > low:
            inner, outer = barrel_radius(barrel, low, high)
            found.append(
                (
                    band.name or "balance weights",
                    ((low, inner - height), (high, inner - height), (high, outer), (low, outer)),
                )
            )
    return tuple(found)


def barrel_radius(barrel: Points, low: float, high: float) -> tuple[float, float]:
    """Return the smallest and largest radius [mm] of ``barrel`` between ``low`` and ``high`` along z, held level past
    its ends.
    """

    def at(z: float) -> float:
        if z <= barrel[0][0]:
            return barrel[0][1]
        for (z0, r0), (z1, r1) in pairwise(barrel):
            if z0 <= z <= z1:
                return min(r0, r1) if z1 == z0 else r0 + (r1 - r0) * (z - z0) / (z1 - z0)
        return barrel[-1][1]

    radii = [at(low), at(high), *(r for z, r in barrel if low <= z <= high)]
    return min(radii), max(radii)


def nominal_wheel(inches: int, like: Wheel) -> Wheel:
    """Return a wheel of ``inches`` whose width, offset and centre are those of ``like``; its inside is nominal."""
    width = like.rim_width_mm if like.rim_width_mm is not None else 6 * INCH
    return Wheel(
        name=f"{inches} in, nominal", rim_diameter_mm=inches * INCH, rim_width_mm=width,
        offset_mm=like.offset_mm if like.offset_mm is not None else 35.0, centre_thickness_mm=like.centre_thickness_mm,
        centre_bore_mm=like.centre_bore_mm, bolt_circle_mm=like.bolt_circle_mm, hole_count=like.hole_count,
    )  # fmt: skip

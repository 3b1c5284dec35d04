"""The inside of a wheel in the (z, r) half plane: as traced, or nominal where only its size is known.

z is counted from the face that seats on the hub, positive outboard. The wheel turns, so its inside is the same at every
angle: what clears the profile clears the whole turn.
"""

from itertools import pairwise

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import Record
from bicentra.core.parts.wheel import Wheel

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

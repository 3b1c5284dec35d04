"""The pad on the friction ring, by exact area: an annular sector, or a traced outline cut by the swept band.

For a traced outline the area inside a circle about the axle and its first moment of radius are sums over the outline's
edges, each in closed form (Green's theorem in polar coordinates): along an edge at distance d from the axis, with
ρ = d / cos ψ, the edge's triangle holds ½∫ρ² dψ = ½ d² tan ψ of area and ⅓∫ρ³ dψ = ⅙ d³ (tan ψ / cos ψ + asinh tan ψ) of
∫ r dA; beyond the circle the sector's ½ R² Δψ and ⅓ R³ Δψ stand in.
"""

import math
from itertools import pairwise

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.parts.job import Job

Points = tuple[tuple[float, float], ...]
_ARC_STEPS = 48


class PadContact(Record, frozen=True):
    """Areas [mm2], radii and edge positions [mm] of one pad. ``on`` is what really touches the friction ring.

    ``outside`` and ``inside``: area hanging over the rotor's edge and over the band's inner edge. ``outer_lip``: ring
    of the rotor that no pad wears, outside the pad; ``pad_lip``: how far the pad reaches past the rotor's edge.
    ``outline``: the pad in the caliper's frame, (radial, across); empty for the plain sector.
    """

    half_angle: float
    inner_radius: float
    outer_radius: float
    area: float
    on: float
    off: float
    effective_radius: float
    overhang: float
    inner_margin: float
    outside: float = UNKNOWN
    inside: float = UNKNOWN
    outer_lip: float = UNKNOWN
    pad_lip: float = UNKNOWN
    outline: Points = ()


def pad_contact(job: Job) -> PadContact:
    """Return how the pad lies on the ring.

    The sector reaches from R_pad − pad height to R_pad and spans the angle whose chord at R_pad is the pad's width,
    half angle asin(width / 2 R_pad). Effective radius ∫r dA / ∫dA over the touching part, which for an annular
    sector is (2/3)(ro³ − ri³)/(ro² − ri²) whatever its angle (uniform pressure; Shigley, clutches and brakes,
    from memory).
    """
    rotor, caliper = job.rotor, job.caliper
    outer = known(rotor.diameter_mm) / 2 - known(job.fit.pad_inset_mm)
    ring = known(rotor.swept_inner_diameter_mm) / 2, known(rotor.diameter_mm) / 2
    outline = pad_outline(job, outer)
    if outline:
        return _traced(outline, ring)
    inner = outer - known(caliper.pad_height_mm)
    ratio = known(caliper.pad_width_mm) / 2 / outer if outer else UNKNOWN
    half_angle = math.asin(ratio) if is_known(ratio) and abs(ratio) <= 1 else UNKNOWN
    area = sector_area(half_angle, inner, outer)
    touching_in, touching_out = _overlap(inner, outer, *ring)
    on = sector_area(half_angle, touching_in, touching_out)
    return PadContact(
        half_angle=half_angle,
        inner_radius=inner,
        outer_radius=outer,
        area=area,
        on=on,
        off=max(area - on, 0.0) if is_known(area, on) else UNKNOWN,
        effective_radius=effective_radius(touching_in, touching_out),
        overhang=outer - ring[1],
        inner_margin=inner - ring[0],
        outside=sector_area(half_angle, max(inner, ring[1]), outer) if outer > ring[1] else _nothing(area, ring[1]),
        inside=sector_area(half_angle, inner, min(outer, ring[0])) if inner < ring[0] else _nothing(area, ring[0]),
        outer_lip=_at_least_nothing(ring[1] - outer),
        pad_lip=_at_least_nothing(outer - ring[1]),
    )


def _nothing(*behind: float) -> float:
    return 0.0 if is_known(*behind) else UNKNOWN


def _at_least_nothing(value: float) -> float:
    return max(value, 0.0) if is_known(value) else UNKNOWN


def pad_outline(job: Job, top: float) -> Points:
    """Return the pad as (radial, across) points when it was traced or has an outer radius of its own [mm]; else nothing.

    A pad with its own outer radius ρ is struck about the point ρ below the pad's top on the centreline, its inner edge
    about the same point, its sides parallel at the pad's width.
    """
    caliper = job.caliper
    if not is_known(top):
        return ()
    if caliper.pad_outline_mm:
        return tuple((top + out, across) for across, out in caliper.pad_outline_mm)
    own, high, half = known(caliper.pad_outer_radius_mm), known(caliper.pad_height_mm), known(caliper.pad_width_mm) / 2
    if not is_known(own, high, half) or half >= own - high:
        return ()
    middle = top - own
    outer, inner = (_arc(middle, radius, half) for radius in (own, own - high))
    return (*outer, *reversed(inner))


def _arc(middle: float, radius: float, half: float) -> Points:
    """Return an arc of ``radius`` about (``middle``, 0) from −half to +half across, as points lying on it."""
    reach = math.asin(half / radius)
    turns = [reach * (2 * k / _ARC_STEPS - 1) for k in range(_ARC_STEPS + 1)]
    return tuple((middle + radius * math.cos(turn), radius * math.sin(turn)) for turn in turns)


def _traced(outline: Points, ring: tuple[float, float]) -> PadContact:
    """Return how a traced pad lies on the ring of radii ``ring``."""
    radii = [math.hypot(*point) for point in outline]
    inner, outer = nearest_radius(outline), max(radii)
    area, _ = area_within(outline, math.inf)
    full, full_moment = area_within(outline, ring[1])
    hidden, hidden_moment = area_within(outline, ring[0])
    on, moment = full - hidden, full_moment - hidden_moment
    return PadContact(
        half_angle=math.asin(min(max(abs(across) for _, across in outline) / outer, 1.0)),
        inner_radius=inner,
        outer_radius=outer,
        area=area,
        on=on,
        off=area - on,
        effective_radius=moment / on if on > 0 else UNKNOWN,
        overhang=outer - ring[1],
        inner_margin=inner - ring[0],
        outside=area - full,
        inside=hidden,
        outer_lip=_at_least_nothing(ring[1] - outer),
        pad_lip=_at_least_nothing(outer - ring[1]),
        outline=outline,
    )


def nearest_radius(outline: Points) -> float:
    """Return the smallest distance [mm] of a closed outline's edges from the axis."""
    found = []
    for (ua, wa), (ub, wb) in pairwise((*outline, outline[0])):
        du, dw = ub - ua, wb - wa
        square = du * du + dw * dw
        t = 0.0 if square == 0 else min(max(-(ua * du + wa * dw) / square, 0.0), 1.0)
        found.append(math.hypot(ua + t * du, wa + t * dw))
    return min(found)


def area_within(outline: Points, radius: float) -> tuple[float, float]:
    """Return (∫dA [mm2], ∫r dA [mm3]) of a closed outline of (radial, across) points inside the circle of ``radius``.

    Exact up to rounding; see the head of this module. Unknown when ``radius`` is.
    """
    if math.isnan(radius):
        return UNKNOWN, UNKNOWN
    area = moment = 0.0
    for a, b in pairwise((*outline, outline[0])):
        da, dm = _edge(a, b, radius)
        area, moment = area + da, moment + dm
    return abs(area), abs(moment)


def _edge(a: tuple[float, float], b: tuple[float, float], radius: float) -> tuple[float, float]:
    """Return the signed area and moment between the axis and one edge, no further out than ``radius``."""
    du, dw = b[0] - a[0], b[1] - a[1]
    long = math.hypot(du, dw)
    if long == 0.0:
        return 0.0, 0.0
    distance = (a[0] * b[1] - a[1] * b[0]) / long
    foot = -(a[0] * du + a[1] * dw) / long  # along the edge from a to the point nearest to the axis
    if abs(distance) < 1e-12:
        return 0.0, 0.0
    reach = math.sqrt(max(radius * radius - distance * distance, 0.0)) if math.isfinite(radius) else math.inf
    cuts = sorted({-foot, long - foot, *(s for s in (-reach, reach) if -foot < s < long - foot)})
    area = moment = 0.0
    for start, end in pairwise(cuts):
        psi = math.atan2(end, abs(distance)) - math.atan2(start, abs(distance))
        if abs(distance) >= radius or abs(start + end) / 2 > reach:
            area += radius * radius * psi / 2
            moment += radius**3 * psi / 3
        else:
            area += abs(distance) * (end - start) / 2
            moment += _third(end, abs(distance)) - _third(start, abs(distance))
    sign = math.copysign(1.0, distance)
    return sign * area, sign * moment


def _third(s: float, d: float) -> float:
    """Return ⅓∫ρ³ dψ [mm3] from the foot to ``s`` along an edge at distance ``d``: ⅙ (d s √(d²+s²) + d³ asinh(s/d))."""
    return (d * s * math.hypot(d, s) + d**3 * math.asinh(s / d)) / 6


def sector_area(half_angle: float, inner: float, outer: float) -> float:
    """Return the area [mm2] of an annular sector of ``half_angle`` [rad] to either side."""
    return half_angle * (outer**2 - inner**2)


def effective_radius(inner: float, outer: float) -> float:
    """Return ∫r dA / ∫dA [mm] of an annular sector; unknown when nothing touches."""
    if not is_known(inner, outer) or outer <= inner:
        return UNKNOWN
    return 2 / 3 * (outer**3 - inner**3) / (outer**2 - inner**2)


def _overlap(inner: float, outer: float, ring_inner: float, ring_outer: float) -> tuple[float, float]:
    """Return the radii between which pad and ring both lie; an empty range when they miss each other."""
    if not is_known(inner, outer, ring_inner, ring_outer):
        return UNKNOWN, UNKNOWN
    low, high = max(inner, ring_inner, 0.0), min(outer, ring_outer)
    return low, max(low, high)

"""The pad on the friction ring: an annular sector about the wheel axis, cut by the swept band."""

import math
from dataclasses import dataclass

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.parts.job import Job


@dataclass(frozen=True)
class PadContact:
    """Areas [mm2], radii and edge positions [mm] of one pad. ``on`` is what really touches the friction ring."""

    half_angle: float
    inner_radius: float
    outer_radius: float
    area: float
    on: float
    off: float
    effective_radius: float
    overhang: float
    inner_margin: float


def pad_contact(job: Job) -> PadContact:
    """Return how the pad lies on the ring.

    The sector reaches from R_pad − pad height to R_pad and spans the angle whose chord at R_pad is the pad's width,
    half angle asin(width / 2 R_pad). Effective radius ∫r dA / ∫dA over the touching part, which for an annular
    sector is (2/3)(ro³ − ri³)/(ro² − ri²) whatever its angle (uniform pressure; Shigley, clutches and brakes,
    from memory).
    """
    rotor, caliper = job.rotor, job.caliper
    outer = known(rotor.diameter_mm) / 2 - known(job.fit.pad_inset_mm)
    inner = outer - known(caliper.pad_height_mm)
    ratio = known(caliper.pad_width_mm) / 2 / outer if outer else UNKNOWN
    half_angle = math.asin(ratio) if is_known(ratio) and abs(ratio) <= 1 else UNKNOWN
    ring_inner, ring_outer = known(rotor.swept_inner_diameter_mm) / 2, known(rotor.diameter_mm) / 2
    area = sector_area(half_angle, inner, outer)
    touching_in, touching_out = _overlap(inner, outer, ring_inner, ring_outer)
    on = sector_area(half_angle, touching_in, touching_out)
    return PadContact(
        half_angle=half_angle,
        inner_radius=inner,
        outer_radius=outer,
        area=area,
        on=on,
        off=max(area - on, 0.0) if is_known(area, on) else UNKNOWN,
        effective_radius=effective_radius(touching_in, touching_out),
        overhang=outer - ring_outer,
        inner_margin=inner - ring_inner,
    )


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

"""A caliper whose own numbers contradict each other: pistons, slot, pad, body and ears."""

import math
from collections.abc import Iterator

from bicentra.core.base.finding import Remedy
from bicentra.core.base.wording import LengthFormat
from bicentra.core.consistency.conflict import Conflict
from bicentra.core.consistency.fastening import drilled_out
from bicentra.core.parts.job import Caliper, Job

SAME_AREA = 0.02
"""Unlike piston areas of the two sides up to this share are the rounding of what was measured."""
PISTON_OVER_PAD = (1.2, 1.35)
"""A piston over the height of its pad by these ratios is a caution, a stop: it has to stand on the backing plate. Our
judgement.
"""
WIDE_SLOT_MM = (4.0, 7.0)
"""Room between wall and rotor on each side [mm] that is a caution, a stop: the pistons come out of their seals before
the pads are worn. Our judgement; usual calipers have 1 to 3 mm.
"""
PAD_ARC = (0.7, 1.4)
"""The pad's own outer radius as a share of the rotor's radius; outside these the arc was misread, or is of another rotor. Our
judgement."""
IRON = 7.3e-6
"""Heaviest grey iron [kg/mm3], handbook value from memory: a caliper heavier than its body's box in solid iron was misread."""
THIN_EAR_MM = 2.0
"""Wall round an ear's hole under which it is a stop [mm]. Our judgement."""


def caliper_conflicts(job: Job, lengths: LengthFormat) -> Iterator[Conflict]:
    """Yield what cannot be right about the caliper of ``job``."""
    caliper = job.caliper
    yield from piston_conflicts(caliper)
    yield from _pistons_on_pad(caliper, lengths)
    yield from _slot(job, lengths)
    yield from _body(caliper, lengths)
    yield from _ears(caliper, lengths)
    yield from _mass(caliper)
    yield from _arc(job, lengths)
    yield from _pad_room(job, lengths)


def area(pistons: tuple[float, ...]) -> float:
    """Return the area of ``pistons`` [mm2]."""
    return math.pi / 4 * sum(bore**2 for bore in pistons)


def piston_conflicts(caliper: Caliper) -> Iterator[Conflict]:
    """Yield what cannot be right about which side the pistons are on."""
    inside, outside = caliper.pistons_inboard_mm, caliper.pistons_outboard_mm
    if caliper.action == "fixed" and bool(inside) != bool(outside):
        there, other = ("inboard", "outboard") if inside else ("outboard", "inboard")
        yield Conflict(
            f"A fixed caliper has pistons on both sides; only {there} ones are entered. "
            f"Enter the {other} ones, or say that it floats."
        )
    elif caliper.action == "fixed" and inside and abs(area(inside) / area(outside) - 1.0) > SAME_AREA:
        yield Conflict(
            f"The pistons inboard ({_listed(inside)}) and outboard ({_listed(outside)}) of a fixed caliper differ in area by "
            f"{abs(area(inside) / area(outside) - 1.0):.0%}: it pushes its pads unequally and bends the rotor."
        )
    elif caliper.action == "floating" and inside and outside:
        yield Conflict(
            "A floating caliper has pistons on one side only; both sides are entered. Clear one side, or say that it is fixed."
        )
    elif caliper.action == "floating" and outside:
        moved = (("caliper.pistons_inboard_mm", outside), ("caliper.pistons_outboard_mm", ()))
        yield Conflict(
            "The pistons of a floating caliper sit inboard; these are entered outboard.",
            remedies=(Remedy("Enter these pistons as inboard", None, True, moved),),
        )


def _listed(pistons: tuple[float, ...]) -> str:
    return " + ".join(f"{bore:g}" for bore in pistons) + " mm"


def _pistons_on_pad(caliper: Caliper, lengths: LengthFormat) -> Iterator[Conflict]:
    sides = [side for side in (caliper.pistons_inboard_mm, caliper.pistons_outboard_mm) if side]
    largest, high = max((max(side) for side in sides), default=0.0), caliper.pad_height_mm
    if high is not None and largest > PISTON_OVER_PAD[0] * high:
        yield Conflict(
            f"A piston of {lengths.size(largest)} is larger than its pad is high, {lengths.size(high)}: it hangs over the pad.",
            stop=largest > PISTON_OVER_PAD[1] * high,
        )
    row, wide = max((sum(side) for side in sides), default=0.0), caliper.pad_width_mm
    if wide is not None and row > PISTON_OVER_PAD[0] * wide:
        yield Conflict(
            f"The pistons of one side take {lengths.size(row)} side by side; the pad is {lengths.size(wide)} wide.",
            stop=row > PISTON_OVER_PAD[1] * wide,
        )
    if caliper.body_width_mm is not None and row > caliper.body_width_mm:
        yield Conflict(f"The pistons of one side take {lengths.size(row)}, more than the body is wide.")


def _slot(job: Job, lengths: LengthFormat) -> Iterator[Conflict]:
    slot, thick = job.caliper.slot_width_mm, job.rotor.thickness_mm
    if slot is not None and thick is not None and (slot - thick) / 2 > WIDE_SLOT_MM[0]:
        each = (slot - thick) / 2
        yield Conflict(
            f"The slot leaves {lengths.gap(each)} beside each face of a rotor {lengths.size(thick)} thick: the caliper is made for "
            "a thicker rotor, and its pistons come out of their seals before the pads are worn.",
            stop=each > WIDE_SLOT_MM[1],
        )


def _body(caliper: Caliper, lengths: LengthFormat) -> Iterator[Conflict]:
    slot, inside, outside = caliper.slot_width_mm, caliper.body_inboard_mm, caliper.body_outboard_mm
    for name, reach in (("inboard", inside), ("outboard", outside)):
        if slot is not None and reach is not None and reach <= slot / 2:
            yield Conflict(
                f"The body reaches {lengths.size(reach)} {name} of the slot's middle, and the slot alone {lengths.size(slot / 2)}."
            )
    if _over(caliper.pad_width_mm, caliper.body_width_mm):
        yield Conflict(
            f"The pad is {lengths.size(caliper.pad_width_mm or 0.0)} wide, the body {lengths.size(caliper.body_width_mm or 0.0)}: "
            "a pad lies inside its caliper."
        )
    if _over(caliper.bridge_to_pad_top_mm, caliper.body_outer_mm):
        yield Conflict(
            f"The inside of the bridge stands {lengths.size(caliper.bridge_to_pad_top_mm or 0.0)} over the pad top, its outside "
            f"{lengths.size(caliper.body_outer_mm or 0.0)}: no metal is left for a bridge."
        )


def _mass(caliper: Caliper) -> Iterator[Conflict]:
    sides = (
        caliper.body_inboard_mm,
        caliper.body_outboard_mm,
        caliper.body_outer_mm,
        caliper.pad_height_mm,
        caliper.body_width_mm,
    )
    inside, outside, over, high, wide = (side or 0.0 for side in sides)
    most = (inside + outside) * (over + high) * wide * IRON
    if caliper.mass_kg is not None and most > 0.0 and caliper.mass_kg > most:
        yield Conflict(
            f"A caliper of {caliper.mass_kg:g} kg is heavier than a solid iron block of its size, {most:.1f} kg."
        )


def _arc(job: Job, lengths: LengthFormat) -> Iterator[Conflict]:
    """Yield a pad whose own outer edge is no arc of a rotor of this size."""
    arc, rotor = job.caliper.pad_outer_radius_mm, job.rotor.diameter_mm
    if arc is None or rotor is None or PAD_ARC[0] <= arc / (rotor / 2) <= PAD_ARC[1]:
        return
    yield Conflict(
        f"The pad's outer edge is struck to {lengths.size(arc)}, the rotor's to {lengths.size(rotor / 2)}: that is no pad for it."
    )


def _pad_room(job: Job, lengths: LengthFormat) -> Iterator[Conflict]:
    """Yield a pad that is thicker than what the body has for it on one side of the rotor."""
    pad, rotor = job.caliper.pad_thickness_mm, job.rotor.thickness_mm
    reaches = [side for side in (job.caliper.body_inboard_mm, job.caliper.body_outboard_mm) if side is not None]
    if pad is not None and rotor is not None and reaches and rotor / 2 + pad >= min(reaches):
        room = lengths.size(min(reaches) - rotor / 2)
        yield Conflict(
            f"Pads {lengths.size(pad)} thick; beside the rotor the body has {room} for pad, plate and piston."
        )


def _over(one: float | None, other: float | None) -> bool:
    """Tell whether ``one`` is at least ``other`` [mm], as far as both are known."""
    return one is not None and other is not None and one >= other


def _ears(caliper: Caliper, lengths: LengthFormat) -> Iterator[Conflict]:
    hole, boss = caliper.ear_hole_mm, caliper.ear_boss_mm
    if hole is not None and boss is not None and (boss - hole) / 2 < THIN_EAR_MM:
        yield Conflict(
            f"An ear {lengths.size(boss)} across has {lengths.gap((boss - hole) / 2)} of metal round its {lengths.size(hole)} hole."
        )
    if hole is not None and caliper.ear_spacing_mm is not None and caliper.ear_spacing_mm <= hole:
        yield Conflict("The two holes of the ears run into each other: they are closer than one hole is wide.")
    yield from drilled_out("The ears", caliper.ear_thread, hole, lengths)

"""Rotor, hub and wheel whose own numbers contradict each other."""

import math
from collections.abc import Iterator

from bicentra.core.base.wording import LengthFormat
from bicentra.core.consistency.conflict import Conflict
from bicentra.core.parts.job import Hub, Job, Rotor, Wheel
from bicentra.core.parts.threads import find_thread

HOLE_METAL_MM = 2.0
"""Metal between bore and stud hole, or between two stud holes, under which it is worth a second look [mm]. Our judgement."""
WORN_SHARE = 0.7
"""A discard thickness under this share of the new one is worth a second look; usual rotors wear by a tenth. Our judgement."""
IRON = 7.3e-6
"""Heaviest grey iron [kg/mm3], handbook value from memory (7.1 to 7.3): a rotor heavier than its solid disc was misread."""
DRILLED_SHARE, DEEP_SLOT_SHARE = 0.25, 0.2
"""Drilled holes over this share of the friction face, slots deeper than this share of the ring's thickness, were misread: usual
rotors have a tenth, and slots of about 1 mm. Our judgement."""
THIN_FLANGE_MM = (4.0, 6.0)
"""A hub's flange under these [mm] is a stop, a caution: pressed studs need metal to hold in; usual are 8 to 12. Our judgement."""
LIGHT_SHARE = 0.25
"""A rotor lighter than this share of its ring as solid iron is no iron rotor: it takes up less heat. Our judgement."""


def rotor_conflicts(job: Job, lengths: LengthFormat) -> Iterator[Conflict]:
    """Yield what cannot be right about the rotor of ``job``."""
    rotor = job.rotor
    yield from _holes("rotor", rotor.centre_bore_mm, rotor.bolt_circle_mm, rotor.hole_mm, rotor.hole_count, lengths)
    if rotor.kind == "one-piece":
        yield from _hat(rotor, lengths)
    yield from _faces(rotor, lengths)
    yield from _mass(rotor)


def _holes(
    what: str, bore: float | None, circle: float | None, hole: float | None, count: int | None, lengths: LengthFormat
) -> Iterator[Conflict]:
    """Yield holes on a ``circle`` [mm] that run into the bore or into each other."""
    if circle is None or hole is None:
        return
    if bore is not None and (metal := (circle - hole - bore) / 2) < HOLE_METAL_MM:
        text = f"run {lengths.gap(metal)} into" if metal <= 0 else f"are {lengths.gap(metal)} from"
        yield Conflict(f"The {what}'s stud holes {text} its {lengths.size(bore)} bore.", stop=metal <= 0)
    if count and (metal := circle * math.sin(math.pi / count) - hole) < HOLE_METAL_MM:
        text = f"run {lengths.gap(metal)} into each other" if metal <= 0 else f"are {lengths.gap(metal)} apart"
        yield Conflict(f"The {what}'s {count} holes of {lengths.size(hole)} {text}.", stop=metal <= 0)


def _hat(rotor: Rotor, lengths: LengthFormat) -> Iterator[Conflict]:
    inside, circle, hole = rotor.hat_inner_diameter_mm, rotor.bolt_circle_mm, rotor.hole_mm
    if inside is not None and circle is not None and hole is not None and circle + hole > inside:
        yield Conflict(
            f"Holes of {lengths.size(hole)} on a circle of {lengths.size(circle)} run into the wall of a hat "
            f"{lengths.size(inside)} wide inside."
        )
    if inside is not None and rotor.centre_bore_mm is not None and rotor.centre_bore_mm > inside:
        yield Conflict(f"The bore, {lengths.size(rotor.centre_bore_mm)}, is wider than the hat inside.")
    if _less(rotor.overall_height_mm, rotor.thickness_mm):
        yield Conflict(
            f"The rotor is {lengths.size(rotor.overall_height_mm or 0.0)} high in all and its ring alone "
            f"{lengths.size(rotor.thickness_mm or 0.0)} thick: say that it is a ring, or measure the height again.",
            stop=False,
        )


def _less(one: float | None, other: float | None) -> bool:
    return one is not None and other is not None and one < other


def _faces(rotor: Rotor, lengths: LengthFormat) -> Iterator[Conflict]:
    thick = rotor.thickness_mm
    if thick is not None and rotor.min_thickness_mm is not None and rotor.min_thickness_mm < WORN_SHARE * thick:
        yield Conflict(
            f"A discard thickness of {lengths.size(rotor.min_thickness_mm)} for a ring {lengths.size(thick)} thick: "
            "read what is cast into the rotor.",
            stop=False,
        )
    if rotor.slots and thick is not None and (rotor.slot_deep_mm or 0.0) > DEEP_SLOT_SHARE * thick:
        text = (
            f"Slots {lengths.size(rotor.slot_deep_mm or 0.0)} deep in both faces of a ring {lengths.size(thick)} thick"
        )
        yield Conflict(f"{text} leave nothing to hold it together: slots are about 1 mm deep.")
    if rotor.diameter_mm is None or rotor.swept_inner_diameter_mm is None:
        return
    band = (rotor.diameter_mm - rotor.swept_inner_diameter_mm) / 2
    if rotor.through_hole_mm is not None and rotor.through_hole_mm > band / 2:
        yield Conflict(
            f"A drilled hole of {lengths.size(rotor.through_hole_mm)} in a friction face {lengths.size(band)} wide."
        )
    face = math.pi / 4 * (rotor.diameter_mm**2 - rotor.swept_inner_diameter_mm**2)
    gone = math.pi / 4 * (rotor.through_holes or 0) * (rotor.through_hole_mm or 0.0) ** 2
    if gone > DRILLED_SHARE * face > 0.0:
        yield Conflict(
            f"{rotor.through_holes} drilled holes of {lengths.size(rotor.through_hole_mm or 0.0)} take {gone / face:.0%} of the "
            "friction face: count them again."
        )
    circle, hole, inner = rotor.ring_bolt_circle_mm, rotor.ring_bolt_hole_mm, rotor.swept_inner_diameter_mm
    if rotor.kind == "two-piece" and circle is not None and hole is not None and circle + hole > inner + 0.01:
        yield Conflict(
            f"The ring's bolts, {lengths.size(hole)} holes on {lengths.size(circle)}, stand in the friction face, which begins "
            f"at {lengths.size(inner)}."
        )


def _mass(rotor: Rotor) -> Iterator[Conflict]:
    if rotor.mass_kg is None or rotor.diameter_mm is None or rotor.thickness_mm is None:
        return
    high = max(rotor.thickness_mm, rotor.height_mm or rotor.thickness_mm)
    most = math.pi / 4 * rotor.diameter_mm**2 * high * IRON
    inner = rotor.swept_inner_diameter_mm or 0.0
    ring = math.pi / 4 * (rotor.diameter_mm**2 - inner**2) * rotor.thickness_mm * IRON
    if rotor.mass_kg > most:
        yield Conflict(f"A rotor of {rotor.mass_kg:g} kg is heavier than a solid iron disc of its size, {most:.1f} kg.")
    elif inner and rotor.mass_kg < LIGHT_SHARE * ring:
        yield Conflict(
            f"A rotor of {rotor.mass_kg:g} kg: its ring alone would be {ring:.1f} kg in solid iron, about half of that with vanes. "
            "The heat sums rest on its mass: weigh it.",
            stop=False,
        )


def hub_conflicts(job: Job, lengths: LengthFormat) -> Iterator[Conflict]:
    """Yield what cannot be right about the hub of ``job``."""
    hub = job.hub
    thread = find_thread(hub.stud_thread) if hub.stud_thread else None
    if _less(hub.flange_diameter_mm, hub.pilot_diameter_mm):
        yield Conflict("The pilot is wider than the flange it stands on.")
    if hub.flange_thickness_mm is not None and hub.flange_thickness_mm < THIN_FLANGE_MM[1]:
        yield Conflict(
            f"A flange {lengths.size(hub.flange_thickness_mm)} thick does not hold studs: usual ones are 8 to 12 mm.",
            stop=hub.flange_thickness_mm < THIN_FLANGE_MM[0],
        )
    if thread is not None and hub.bolt_circle_mm is not None:
        yield from _studs(hub, thread.major, lengths)
    if job.fit.rotor_turn_studs and hub.stud_count is not None and job.fit.rotor_turn_studs >= hub.stud_count:
        yield Conflict(
            f"The rotor is turned by {job.fit.rotor_turn_studs} studs on a hub that has {hub.stud_count}.", stop=False
        )


def _studs(hub: Hub, major: float, lengths: LengthFormat) -> Iterator[Conflict]:
    circle = hub.bolt_circle_mm or 0.0
    if hub.flange_diameter_mm is not None and circle + major > hub.flange_diameter_mm:
        yield Conflict(
            f"Studs on a circle of {lengths.size(circle)} stand off a flange {lengths.size(hub.flange_diameter_mm)} wide."
        )
    if hub.pilot_diameter_mm is not None and circle - major < hub.pilot_diameter_mm:
        yield Conflict(
            f"Studs on a circle of {lengths.size(circle)} run into the {lengths.size(hub.pilot_diameter_mm)} pilot."
        )
    if hub.stud_count and circle * math.sin(math.pi / hub.stud_count) < 1.5 * major:
        yield Conflict(f"{hub.stud_count} studs do not fit side by side on a circle of {lengths.size(circle)}.")


def wheel_conflicts(job: Job, lengths: LengthFormat) -> Iterator[Conflict]:
    """Yield what cannot be right about the wheel of ``job``."""
    wheel = job.wheel
    if wheel is None:
        return
    thread = find_thread(job.hub.stud_thread) if job.hub.stud_thread else None
    yield from _holes(
        "wheel", wheel.centre_bore_mm, wheel.bolt_circle_mm, thread.major if thread else None, wheel.hole_count, lengths
    )
    yield from _rim(wheel, lengths)


def _rim(wheel: Wheel, lengths: LengthFormat) -> Iterator[Conflict]:
    if (
        wheel.rim_width_mm is not None
        and wheel.offset_mm is not None
        and abs(wheel.offset_mm) > wheel.rim_width_mm / 2 + 60.0
    ):
        yield Conflict(
            f"An offset of {lengths.size(wheel.offset_mm)} lies outside a rim {lengths.size(wheel.rim_width_mm)} wide."
        )
    if _less(wheel.rim_diameter_mm, wheel.bolt_circle_mm):
        yield Conflict("The bolt circle is wider than the rim.")
    if wheel.barrel_mm and wheel.rim_diameter_mm is not None:
        widest = 2 * max(radius for _, radius in wheel.barrel_mm)
        if widest > wheel.rim_diameter_mm + 10.0:
            yield Conflict(
                f"The barrel traced is {lengths.size(widest)} wide inside, the rim {lengths.size(wheel.rim_diameter_mm)} in all."
            )

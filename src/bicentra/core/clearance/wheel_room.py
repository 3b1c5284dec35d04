"""Wheel room: the caliper, its ears and bolts and the plate against the inside of the wheel over a full turn.

The wheel turns, the caliper stands: their room is that in the half plane through the axle (``half_plane``).
"""

import math

import shapely

from bicentra.core.base.cache import cached_by_identity
from bicentra.core.base.finding import Finding, Remedy, Verdict
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat, decided_by, make_check, make_finding, missing_names
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.plate import farthest
from bicentra.core.bracket.turned import unturned
from bicentra.core.clearance.clock_sweep import name_of
from bicentra.core.clearance.half_plane import (
    NO_GAP,
    HalfPlanePart,
    Parts,
    WheelGap,
    have_room,
    ring_parts,
    room_between,
    swept_body,
)
from bicentra.core.geometry.ring import Ring
from bicentra.core.lineup.solids import NOMINAL_IN, WheelInside, nominal_wheel, wheel_inside
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import allowance, limit_for
from bicentra.core.parts.materials import CALIPER_EXPANSION
from bicentra.core.parts.wheel import WeightBand, Wheel

NOWHERE = Ring(UNKNOWN, UNKNOWN, UNKNOWN, UNKNOWN)
"""The ring of what is not placed yet."""
TRACED_MM = 5.0
"""How far a trace may end short of the caliper [mm]."""
SAME_DIGITS = 9
"""Digits to which radii are the same at every clock angle: what was worked out for one is then found again."""
STOCK_SPACERS_MM = (3.0, 5.0, 8.0, 10.0, 12.0, 15.0, 20.0, 25.0, 30.0)
"""Wheel spacers on sale: common practice."""


def standing_parts(assembly: Assembly) -> Parts:
    """Return what is known to stand inside the wheel as lines in (z, r) of the hub frame."""
    return tuple(part for part in everything_standing(assembly) if part.line is not None)


@unturned
def wheel_gap(assembly: Assembly) -> WheelGap:
    """Return the least room between what is known to stand inside the wheel and the wheel, cold; unknown without either."""
    wheel, seat = assembly.job.wheel, assembly.line.wheel_seat_z
    inside = wheel_inside(wheel) if wheel is not None and is_known(seat) else None
    return room_between(standing_parts(assembly), inside.solids(seat)) if inside is not None else NO_GAP


@cached_by_identity
def everything_standing(assembly: Assembly) -> Parts:
    """Return the same with what is still unknown, without a line: it could stand anywhere."""
    job, line = assembly.job, assembly.line
    middle, swept = line.rotor_midplane_z + assembly.stack_up.error, swept_body(job, line.pad_top_radius)
    caliper = HalfPlanePart("caliper", swept.line(middle) if swept is not None and is_known(middle) else None)
    ear = math.hypot(line.ear_line_radius, known(job.caliper.ear_spacing_mm) / 2)
    rings = [(p.feature, p.ring_at(ear)) for turning in assembly.turning for p in turning]
    rings += [(thing.feature, thing.ring) for thing in (*assembly.fixed, *assembly.obstacles)]
    rings += [(f"{group}-bolt-0", NOWHERE) for group in assembly.unchosen]
    rings += [("bracket", ring) for ring in _bracket_rings(assembly)]
    return (caliper, *ring_parts(rings))


def _bracket_rings(assembly: Assembly) -> tuple[Ring, ...]:
    """Return the bracket as rings about the axle, from the axle out: the same at every clock angle."""
    if assembly.bracket.stands and assembly.bracket.kind.cut is not None:
        return (Ring(0.0, round(farthest(assembly), SAME_DIGITS), *assembly.stack_up.z_range),)
    if assembly.bracket.unmade:
        return (NOWHERE,)
    rings = (prism.ring for prism in assembly.metal)
    return tuple(replace(ring, r1=round(ring.r1, SAME_DIGITS)) for ring in rings)


@unturned
def wheel_room(assembly: Assembly, lengths: LengthFormat, remedies: bool = True) -> Finding:
    """Room between everything that stands and the turning wheel, cold, and hot with play in the bearings."""
    job, line = assembly.job, assembly.line
    limit, loose = limit_for(job, "wheel-room"), limit_for(job, "wheel-room-hot")
    inside = wheel_inside(job.wheel) if job.wheel is not None else None
    everything = everything_standing(assembly)
    parts, gap = standing_parts(assembly), wheel_gap(assembly)
    missing = (
        _missing(job, inside)
        or assembly.unsolved
        or _untraced(parts, inside, line.wheel_seat_z, job.wheel)
        or _unplaced(assembly, everything)
    )
    if missing and not gap.value <= 0.0:  # a certain clash is said whatever else is missing
        gap = NO_GAP
    value, at, less = gap.value, gap.at, _closes(job, line.pad_top_radius)
    place = f"{lengths.gap(at[1])} from the axle, {lengths.gap(at[0])} {'outboard' if at[0] >= 0 else 'inboard'} of the hub face"
    what = {"caliper": "caliper", "bracket": "plate"}.get(gap.tag) or name_of(assembly, gap.tag).removeprefix("the ")
    text = f"The {what} {_meets(value, lengths)} the {gap.name}"
    why = f"{text}, {place}, over the whole turn; what touches once a turn wears through."
    hot = f"Hot and with bearing play: {_meets(value - less, lengths)} the {gap.name}"
    checks = (
        make_check("Cold", value, limit, f"Cold: {_meets(value, lengths)} the {gap.name}"),
        make_check("Hot, with bearing play", value - less, loose, hot),
    )
    wanted = max(limit.watch, loose.watch + less)
    offered = _remedies(assembly, parts, wanted, lengths) if remedies and value < wanted else ()
    finding = make_finding(
        "wheel-room", value, limit, why,
        features=(gap.tag, "wheel"), missing=missing, checks=checks, remedies=offered,
    )  # fmt: skip
    finding = decided_by(finding, checks, loose, offered)
    return _on_nominal(finding, inside)


def _meets(value: float, lengths: LengthFormat) -> str:
    return f"stands {lengths.gap(value)} from" if value >= 0 else f"runs {lengths.gap(value)} into"


def _closes(job: Job, top: float) -> float:
    """Return by how much heat and bearing play close the room [mm]."""
    rise = allowance(job, "caliper-rise-k")
    return CALIPER_EXPANSION * rise * (top if is_known(top) else 0.0) + allowance(job, "bearing-play")


def _on_nominal(finding: Finding, inside: WheelInside | None) -> Finding:
    """Hold a finding about a wheel that nobody traced down to a caution."""
    if inside is None or not inside.guessed:
        return finding
    names = " and ".join(inside.guessed)
    assumed = (*finding.assumed, f"the {names} is nominal, guessed from the wheel's size")
    if finding.verdict is not Verdict.OK:
        return replace(finding, assumed=assumed)
    why = f"{finding.why} It rests on a guess (the {names}): trace the wheel, or hold the card template in it."
    return replace(finding, verdict=Verdict.CAUTION, why=why, assumed=assumed)


def _missing(job: Job, inside: WheelInside | None) -> str:
    if job.wheel is None:
        return "needs the wheel (take one from the library, or add its size)"
    caliper = job.caliper
    names: dict[str, float | None] = {
        "inside_of_the_wheel_or_its_diameter_width_and_offset": None if inside is None else 0.0,
        "rotor_diameter": job.rotor.diameter_mm,
    }
    if not caliper.body_section_mm:
        names["body_inboard"], names["body_outboard"] = caliper.body_inboard_mm, caliper.body_outboard_mm
        names["body_outside_pad_top"], names["pad_height"] = caliper.body_outer_mm, caliper.pad_height_mm
    if not caliper.body_face_mm:
        names["body_width"] = caliper.body_width_mm
    return missing_names(**names)


def _unplaced(assembly: Assembly, everything: Parts) -> str:
    """Return what inside the wheel is still unknown, in words."""
    tags = [part.tag for part in everything if part.line is None]
    names = dict.fromkeys("the bracket" if tag == "bracket" else name_of(assembly, tag) for tag in tags)
    return f"needs place and size of {', '.join(names)}" if names else ""


def _untraced(parts: Parts, inside: WheelInside | None, seat: float, wheel: Wheel | None) -> str:
    """Return where a traced wheel was not traced although the caliper lies there, in words; empty where it was.

    Inboard of the rim's own edge, where its width and offset are known, there is no wheel to trace.
    """
    caliper = next((part.line for part in parts if part.tag == "caliper"), None)
    if inside is None or inside.unmeasured or caliper is None or not is_known(seat):
        return f"needs size and place of the {inside.unmeasured[0]}" if inside is not None and inside.unmeasured else ""
    z0, low, z1, high = shapely.bounds(caliper).tolist()
    z0, z1 = z0 - seat, z1 - seat
    half, offset = (known(wheel.rim_width_mm) / 2, known(wheel.offset_mm)) if wheel is not None else (UNKNOWN, UNKNOWN)
    edge = -offset - half if is_known(half, offset) else z0
    barrel, spokes = inside.barrel, inside.spokes
    begins, ends = max(z0, edge), min(z1, spokes[-1][0])
    if (
        wheel is not None
        and wheel.barrel_mm
        and (barrel[0][0] > begins + TRACED_MM or barrel[-1][0] < ends - TRACED_MM)
    ):
        return "needs the inside of the barrel traced over the whole depth of the caliper"
    out = min(high, *(radius for _, radius in barrel))
    if wheel is not None and wheel.spokes_mm and (spokes[0][1] > low + TRACED_MM or spokes[-1][1] < out - TRACED_MM):
        return "needs the inside of the spokes traced over the whole height of the caliper"
    return ""


def _remedies(assembly: Assembly, parts: Parts, wanted: float, lengths: LengthFormat) -> tuple[Remedy, ...]:
    """Return the wheel spacer that makes room, and the smallest nominal wheel that has it."""
    job, seat = assembly.job, assembly.line.wheel_seat_z
    found = [
        _weights(job, parts, seat, wanted),
        _spacer(job, parts, seat, wanted, lengths),
        _bigger(job, parts, seat, wanted),
    ]
    return tuple(remedy for remedy in found if remedy is not None)


def _weights(job: Job, parts: Parts, seat: float, wanted: float) -> Remedy | None:
    """The bands of balance weights that are met, moved or taken off: where nothing else is too near."""
    wheel = job.wheel
    if wheel is None or not wheel.weights:
        return None

    def stands(bands: tuple[WeightBand, ...]) -> bool:
        inside = wheel_inside(replace(wheel, weights=bands))
        return inside is not None and have_room(parts, inside.solids(seat), wanted)

    clear = tuple(band for band in wheel.weights if stands((band,)))
    if len(clear) == len(wheel.weights) or not stands(clear):
        return None
    side = ("balance the wheel again: flat adhesive weights, or none where the caliper passes",)
    return Remedy(
        "Move or change the balance weights that the caliper meets", None, True, (("wheel.weights", clear),), side
    )


def _spacer(job: Job, parts: Parts, seat: float, wanted: float, lengths: LengthFormat) -> Remedy | None:
    inside = wheel_inside(job.wheel) if job.wheel else None
    if inside is None:
        return None
    now = known(job.fit.wheel_spacer_mm)
    for thick in STOCK_SPACERS_MM:
        if thick > now and have_room(parts, inside.solids(seat - now + thick), wanted):
            side = (
                f"{lengths.gap(thick - now)} less stud for the wheel nuts",
                f"track {lengths.gap(2 * (thick - now))} wider over the axle",
                "the tyre may meet the wing: turn to full lock and look",
            )
            return Remedy(
                f"Put a {lengths.size(thick)} spacer under the wheel",
                thick - now,
                True,
                (("fit.wheel_spacer_mm", thick),),
                side,
            )
    return None


def _bigger(job: Job, parts: Parts, seat: float, wanted: float) -> Remedy | None:
    inches = smallest_wheel(job, parts, seat, wanted)
    if job.wheel is None or inches is None or inches * 25.4 <= known(job.wheel.rim_diameter_mm):
        return None
    side = (
        "nominal inside: hold the card template in the real wheel before ordering",
        "spare wheel: check that it goes on too",
    )
    return Remedy(
        f"Use a {inches} in wheel or larger", None, True, (("wheel", nominal_wheel(inches, job.wheel)),), side
    )


def smallest_wheel(job: Job, parts: Parts, seat: float, wanted: float) -> int | None:
    """Return the smallest nominal wheel [inches] of the job's width and offset that leaves ``wanted`` mm; ``None`` if none."""
    if job.wheel is None:
        return None
    for inches in NOMINAL_IN:
        inside = wheel_inside(nominal_wheel(inches, job.wheel))
        if inside is not None and have_room(parts, inside.solids(seat), wanted):
            return inches
    return None

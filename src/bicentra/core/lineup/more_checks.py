"""Findings of the line-up beyond the first ones: which side the parts are made for, the wheel, the other corner of the axle."""

import math
from collections.abc import Iterator

from bicentra.core.base.finding import Check, Finding, Remedy, Verdict, worst_check
from bicentra.core.base.numbers import UNKNOWN, Pure, is_known, known
from bicentra.core.base.records import replace
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat, make_check, make_finding, missing_names
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.corners import across
from bicentra.core.parts.fields import fields
from bicentra.core.parts.job import Caliper, Hub, Job, Lug
from bicentra.core.parts.limits import limit_for

CUES = Limit(0.0, 0.0, False, "", "Geometry of a turning rotor; the largest piston belongs at its exit end")
SAME_PISTON_MM = 0.05
LOOSE_BORE_MM, LEAST_IN_WHEEL_MM = 0.5, 2.0
"""Play of a wheel's bore on the pilot past which the pilot does not centre it, and how much of the pilot has to stand in the bore
to do so [mm]. Our judgement."""
EVEN_DEG, EVEN_MM = 3.0, 1.0
"""Bleed screws and a port this near to their mirror image do as well on either side. Our judgement."""


def more_findings(job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Return handedness always, and what the job gives cause for: wheel on hub, bearing retainer."""
    found = [handedness(job, line)]
    if job.wheel is not None:
        found.append(wheel_on_hub(job, lengths))
    if job.hub.backing_plate_mm is not None and job.hub.backing == "taken out":
        found.append(retainer_spacer(job, lengths))
    if job.caliper.mount == "radial":
        found.append(radial_seat(job, line, lengths))
    return tuple(found)


def pistons_from_entry(caliper: Caliper) -> tuple[tuple[float, ...], ...]:
    """Return each side's pistons [mm] from the leading end, where the rotor comes in, to the trailing end."""
    return tuple(side for side in (caliper.pistons_inboard_mm, caliper.pistons_outboard_mm) if side)


def handedness(job: Job, line: LineUp) -> Finding:
    """Whether caliper and rotor are those of this side; names the cue that decides.

    Cues, strongest first: pistons of unlike size (the largest belongs where the rotor leaves, the trailing end), what
    the caliper is marked for, the way the vanes are curved. Bleeders are a finding of their own: they tell the top.
    """
    right = not job.is_left
    side = "right" if right else "left"
    checks = [_pistons(job.caliper), _marked(job, line, side), _vanes(job, side)]
    said = [check for check in checks if check is not None]
    if not said:
        one_sided = _one_sided(job.caliper)
        text = (
            f"The caliper's {one_sided} off its middle: the other side needs its mirror image." if one_sided
            else f"Nothing about these parts belongs to one side: they go on either. {_across(job)}"
        )  # fmt: skip
        return Finding(
            "handedness", Verdict.OK, 0.0, 0.0, "", text,
            features=("caliper", "rotor"), source=CUES.source, at_least=False,
        )  # fmt: skip
    decides = worst_check(said)
    wrong = [check for check in said if check.verdict is Verdict.STOP]
    why = f"{decides.text}. {_across(job)}"
    remedies = _other_hand(job, [check.label for check in wrong])
    return Finding(
        "handedness", decides.verdict, decides.value, 0.0, "", why, remedies, ("caliper", "rotor"),
        tuple(said), CUES.source, at_least=False,
    )  # fmt: skip


def _one_sided(caliper: Caliper) -> str:
    """Return what of the caliper is not the same in a mirror, in words; empty where all is."""
    turns = [turn % 360.0 for turn in caliper.bleeders_deg]
    even = all(any(abs((turn + other + 180.0) % 360.0 - 180.0) <= EVEN_DEG for other in turns) for turn in turns)
    across = [w for w, *_ in caliper.hose_port_mm]
    centred = all(any(abs(w + other) <= EVEN_MM for other in across) for w in across)
    names = [
        name
        for name, same in (("bleed screw" if len(turns) == 1 else "bleed screws", even), ("hose port", centred))
        if not same
    ]
    return " and ".join(names) + (" sit" if len(names) > 1 or names == ["bleed screws"] else " sits") if names else ""


def _pistons(caliper: Caliper) -> Check | None:
    sides = pistons_from_entry(caliper)
    if not sides:
        return make_check("Pistons", float("nan"), CUES, "")
    stepped = [side for side in sides if max(side) - min(side) > SAME_PISTON_MM]
    if not stepped:
        return None
    bad = [side for side in stepped if side[-1] < max(side) - SAME_PISTON_MM]
    first, last = stepped[0][0], stepped[0][-1]
    text = f"the piston where the rotor comes in is {first:g} mm, where it leaves {last:g} mm"
    words = f"Right by its pistons: {text}"
    if bad:
        words = f"Wrong side by its pistons: {text}; the largest belongs where the rotor leaves"
    return make_check("Pistons", float(bool(bad)), CUES, words)


def _marked(job: Job, line: LineUp, side: str) -> Check | None:
    """A caliper marked for one side is meant for behind the axle there: ahead of it the other side's is right."""
    if job.caliper.hand == "either":
        return None
    if not is_known(line.clock):
        return make_check("Mark on the caliper", float("nan"), CUES, "")
    behind = 90.0 < line.clock % 360.0 < 270.0
    wanted = side if behind else {"right": "left", "left": "right"}[side]
    where = "behind" if behind else "ahead of"
    text = (
        f"it is made for the {job.caliper.hand} side, and {where} the axle on the {side} the {wanted} side's is needed"
    )
    wrong = job.caliper.hand != wanted
    return make_check(
        "Mark on the caliper",
        float(wrong),
        CUES,
        ("Wrong side by its mark: " if wrong else "Right by its mark: ") + text,
    )


def _vanes(job: Job, side: str) -> Check | None:
    if job.rotor.vanes not in ("left", "right"):
        return None
    if job.fit.rotor_way == "flipped":
        return make_check("Vanes", 1.0, CUES, "A rotor with handed vanes cannot be flipped: it would pump backwards")
    wrong = job.rotor.vanes != side
    text = f"the vanes are those of a {job.rotor.vanes}-hand rotor, this is the {side} side"
    return make_check(
        "Vanes", float(wrong), CUES, ("Wrong side by its vanes: " if wrong else "Right by its vanes: ") + text
    )


def _across(job: Job) -> str:
    if job.fit.other_side == "staggered":
        return "The other side is staggered: its caliper sits on the other side of the axle, so order this same hand twice."
    return "The other side is this one's mirror image: order the mirrored part for the other side."


def mirrored_caliper(caliper: Caliper) -> dict[str, object]:
    """Return the fields of the same caliper made for the other side, by key."""
    return {
        "pistons_inboard_mm": caliper.pistons_inboard_mm[::-1],
        "pistons_outboard_mm": caliper.pistons_outboard_mm[::-1],
        "bleeders_deg": tuple(-turn for turn in caliper.bleeders_deg),
        "body_face_mm": tuple((-across, out) for across, out in caliper.body_face_mm[::-1]),
        "pad_outline_mm": tuple((-across, out) for across, out in caliper.pad_outline_mm[::-1]),
        "hose_port_mm": tuple((-across, out, z) for across, out, z in caliper.hose_port_mm),
        "hand": {"left": "right", "right": "left"}.get(caliper.hand, "either"),
    }


def _other_hand(job: Job, cues: list[str]) -> tuple[Remedy, ...]:
    found = []
    if "Pistons" in cues or "Mark on the caliper" in cues:
        edits = tuple((f"caliper.{name}", value) for name, value in mirrored_caliper(job.caliper).items())
        found.append(
            Remedy(
                "Use the other side's caliper",
                None,
                True,
                edits,
                ("bleed screws change ends with it: look at them again",),
            )
        )
    if "Vanes" in cues:
        hand = "left" if job.is_left else "right"
        found.append(
            Remedy(
                f"Use a rotor with {hand}-hand or straight vanes",
                None,
                True,
                (("rotor.vanes", hand), ("fit.rotor_way", "hat-outward")),
            )
        )
    return tuple(found)


def holes_off(holes: int | None, studs: int | None) -> Pure:
    """Return how many holes are wrong for ``studs`` equally spaced studs: none when a multiple of them is drilled."""
    if not holes or not studs:
        return UNKNOWN
    return float(holes % studs if holes >= studs else studs)


def wheel_on_hub(job: Job, lengths: LengthFormat) -> Finding:
    """Whether the wheel goes on: its bore over the pilot, its bolt circle, its holes."""
    wheel, hub = job.wheel, job.hub
    assert wheel is not None
    play = known(wheel.centre_bore_mm) - known(hub.pilot_diameter_mm)
    off = abs(known(wheel.bolt_circle_mm) - known(hub.bolt_circle_mm))
    count = holes_off(wheel.hole_count, hub.stud_count)
    tight = Limit(0.0, 0.0)
    bore_text = f"The wheel's bore is {lengths.gap(play)} {'larger' if play >= 0 else 'smaller'} than the pilot"
    hole_text = f"The wheel has {wheel.hole_count} holes for {hub.stud_count} studs"
    if play > LOOSE_BORE_MM:
        bore = Check("Bore on pilot", Verdict.CAUTION, play, LOOSE_BORE_MM, "mm",
                     f"{bore_text}: only the nuts' seats centre it, a hub-centric ring would")  # fmt: skip
    else:
        bore = make_check("Bore on pilot", play, tight, bore_text)
    checks = (
        bore,
        *_pilot_in_wheel(job, lengths),
        make_check("Bolt circle", off, limit_for(job, "bolt-circle"), f"The bolt circles differ by {lengths.gap(off)}"),
        make_check("Holes", count, Limit(0.0, 0.0, False, "", "Geometry"), hole_text),
    )
    decides = worst_check(checks)
    why = "The wheel goes over pilot and studs." if decides.verdict is Verdict.OK else decides.text + "."
    bad = any(check.verdict is Verdict.STOP for check in checks)
    cure = (Remedy("Choose a wheel of this bolt pattern and bore", None, True),) if bad else ()
    return Finding(
        "wheel-on-hub",
        decides.verdict,
        decides.value,
        decides.limit,
        decides.unit,
        why,
        cure,
        ("wheel", "hub"),
        checks,
    )


def _pilot_in_wheel(job: Job, lengths: LengthFormat) -> tuple[Check, ...]:
    """What of the pilot stands in the wheel's bore, where it was measured: past the rotor's hat and every spacer."""
    pilot = job.hub.pilot_length_mm
    if pilot is None:
        return ()
    over_hub = job.hub.mounting == "over-hub"
    under = known(job.fit.rotor_spacer_mm) + known(job.rotor.flange_mm) if over_hub else 0.0
    left = pilot - under - known(job.fit.wheel_spacer_mm)
    if left < LEAST_IN_WHEEL_MM:
        reaches = f"only {lengths.gap(left)} of the pilot stands" if left > 0 else "the pilot does not stand"
        text = f"Past rotor and spacers {reaches} in the wheel's bore: nothing but the nuts' seats centres the wheel"
        return (Check("Pilot in the wheel", Verdict.CAUTION, left, LEAST_IN_WHEEL_MM, "mm", text),)
    text = f"{lengths.gap(left)} of the pilot stands in the wheel's bore"
    return (make_check("Pilot in the wheel", left, Limit(LEAST_IN_WHEEL_MM, LEAST_IN_WHEEL_MM), text),)


def radial_seat(job: Job, line: LineUp, lengths: LengthFormat) -> Finding:
    """The two places for shims of a radial mount: under the caliper's feet (outward), under the bracket (along the axle)."""
    shim, limit = known(job.fit.radial_shim_mm), limit_for(job, "radial-seat")
    why = (
        f"The bracket holds the caliper's feet at radius {lengths.size(line.radial_seat)}, its studs "
        f"{lengths.size(line.ear_face_z)} from the hub face; {lengths.gap(shim)} of shims under the feet lift the caliper outward, "
        "shims between lug and bracket move it along the axle: they never cure each other's fault. A tall stack bends the studs."
    )
    lower = round(line.ear_line_radius - limit.watch, 3)
    cure = Remedy(
        f"Make the bracket's seat at radius {lengths.size(lower)} and leave {lengths.gap(limit.watch)} of shims", None, False,
        (("fit.radial_shim_mm", limit.watch),), ("another bracket, or its seat built up",),
    )  # fmt: skip
    value = shim if is_known(line.radial_seat) else UNKNOWN
    return make_finding(
        "radial-seat", value, limit, why, features=("caliper", "bracket"), remedies=(cure,),
        missing=missing_names(
            rotor_diameter=job.rotor.diameter_mm, pad_inset=job.fit.pad_inset_mm, shims_under_the_feet=job.fit.radial_shim_mm,
            ear_line_to_pad_top=job.caliper.ear_line_to_pad_top_mm,
        ),
    )  # fmt: skip


def retainer_spacer(job: Job, lengths: LengthFormat) -> Finding:
    """What is put back under a bearing retainer whose drum backing plate was taken out."""
    taken, back = known(job.hub.backing_plate_mm), known(job.hub.retainer_spacer_mm)
    off = abs(back - taken)
    sense = "too thin: the retainer crushes the seal" if back < taken else "too thick: the bearing is not held"
    why = f"{lengths.gap(taken)} of backing plate was taken out and {lengths.gap(back)} put back under the retainer"
    why += f"; {lengths.gap(off)} {sense}." if off > 1e-9 else "; the bearing is held as before."
    cure = Remedy(
        f"Put {lengths.gap(taken)} back under the retainer",
        off,
        True,
        (("hub.retainer_spacer_mm", job.hub.backing_plate_mm),),
        ("a bracket plate of that thickness does it too",),
    )
    return make_finding(
        "retainer-spacer", off, limit_for(job, "retainer-spacer"), why, features=("hub", "bracket"),
        missing=missing_names(thickness_put_back_under_the_retainer=job.hub.retainer_spacer_mm), remedies=(cure,),
    )  # fmt: skip


PLACE = ("x_mm", "y_mm")
PASSED_OVER = (*PLACE, "name", "extra", "bolt")
MOST_LISTED = 4


def distances(job: Job, lengths: LengthFormat) -> tuple[Check, ...]:
    """Return how far lugs and hub are from those of the other corner, measure by measure [mm].

    Nothing while the other corner has no numbers of its own; what is measured at neither corner is left out.
    """
    if job.opposite is None:
        return ()
    limit, found = limit_for(job, "corner-mismatch"), []
    for label, apart in _apart(job):
        found.append(make_check(label, apart, limit, f"{label}: {lengths.gap(apart)} apart"))
    return tuple(found)


def _pairs(job: Job) -> Iterator[tuple[str, Hub | Lug, Hub | Lug]]:
    """Yield what is compared: the hub, and the lugs as far as both corners have them."""
    if job.opposite is not None:
        yield "hub", job.hub, job.opposite.hub
        for one, two in zip(job.knuckle.lugs, job.opposite.knuckle.lugs):
            yield one.name or "lug", one, two


def _apart(job: Job) -> Iterator[tuple[str, float]]:
    for label, one, two in _pairs(job):
        if isinstance(one, Lug) and isinstance(two, Lug):
            yield f"{label}, along the face", math.dist(*((known(lug.x_mm), known(lug.y_mm)) for lug in (one, two)))
        for name in (of.name for of in fields(one) if of.name.endswith("_mm") and of.name not in PASSED_OVER):
            here, there = getattr(one, name), getattr(two, name)
            if here is not None or there is not None:
                yield f"{label}, {_plain(name)}", abs(known(here) - known(there))


def unlike(job: Job, lengths: LengthFormat) -> tuple[str, ...]:
    """Return in words what the other corner has otherwise: measures beyond their limit, kinds, lugs, what it overrides."""
    other = job.opposite
    if other is None:
        return ()
    text = [check.text for check in distances(job, lengths) if check.verdict in (Verdict.STOP, Verdict.CAUTION)]
    if len(job.knuckle.lugs) != len(other.knuckle.lugs):
        text.append(f"{len(other.knuckle.lugs)} lugs instead of {len(job.knuckle.lugs)}")
    for label, one, two in _pairs(job):
        for name in (of.name for of in fields(one) if not of.name.endswith("_mm") and of.name not in PASSED_OVER):
            here, there = getattr(one, name), getattr(two, name)
            if here != there:
                text.append(f"{label}, {_plain(name)}: {there or 'none'} instead of {here or 'none'}")
    return (*text, *(f"{path} is its own" for path in sorted(other.overrides)))


def _plain(name: str) -> str:
    return {"z_mm": "seat face"}.get(name, name.removesuffix("_mm").replace("_", " "))


def both_surveyed(job: Job) -> bool:
    """Tell whether both corners of the axle have a survey, which says more of them than what is written down."""
    surveys = (job.survey.get(name) for name in (job.corner, across(job.corner)))
    return all(survey is not None and survey.features for survey in surveys)


def other_side(job: Job, lengths: LengthFormat) -> Finding | None:
    """Return whether the other corner's numbers are those of this one; nothing where surveys tell, or nothing is known of it."""
    if job.opposite is None or both_surveyed(job) or "knuckle" in job.borrowed:
        return None
    limit, checks, differ = limit_for(job, "corner-mismatch"), distances(job, lengths), unlike(job, lengths)
    apart = [check.value for check in checks]
    worst = max((value for value in apart if math.isfinite(value)), default=math.nan)
    value = worst if differ or all(map(math.isfinite, apart)) else math.nan
    corner = across(job.corner).replace("-", " ")
    why = f"The numbers of {corner} are those of this corner to {lengths.gap(worst)}; still measure the fit there."
    if differ:
        why = f"On {corner}: {'; '.join(differ[:MOST_LISTED])}. A bracket proven here is not proven there. "
        why += "Line that corner up by itself."
    missing = next((check.label for check in checks if check.verdict is Verdict.UNKNOWN), "its lugs")
    found = make_finding("corner-mismatch", value, limit, why, features=("knuckle", "bracket"), checks=checks,
                         missing=f"measured at one corner only: {missing}")  # fmt: skip
    if differ and found.verdict is not Verdict.CAUTION:  # however far the other corner is off, the work here goes on
        return replace(found, verdict=Verdict.CAUTION, why=why)
    return found

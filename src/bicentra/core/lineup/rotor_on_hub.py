"""Whether the rotor goes on the hub and is centred there, in one piece or on a hat, and what helps where it does not."""

from collections.abc import Callable

from bicentra.core.base.finding import Check, Finding, Remedy, Verdict, worst_check
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.registry import PRACTICE, Limit
from bicentra.core.base.wording import LengthFormat, make_check
from bicentra.core.lineup.more_checks import holes_off
from bicentra.core.lineup.redrill import drilling, redrilled
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.threads import find_thread

HELD = {
    "snap ring": "A snap ring holds the ring: seated in its groove all round, its drive lugs unworn, looked at by eye",
    "screws": "Screws hold the ring: every one locked or staked, none reused that has been over-tightened, looked at by eye",
}
"""What is a caution at best: nothing here can see whether it sits as it should."""


def ring_on_hat(job: Job, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Return the finding about ring and hat; nothing for a rotor in one piece, or one of which no joint is reported."""
    rotor = job.rotor
    given = (rotor.hat_register_mm, rotor.ring_held, rotor.register_depth_mm)
    if rotor.kind != "two-piece" or rotor.assembled or all(value is None for value in given):
        return ()
    asks: tuple[Callable[[Job, LengthFormat], Check | None], ...] = (_register, _depth, _held, _bolts)
    checks = tuple(check for ask in asks if (check := ask(job, lengths)) is not None)
    decides = worst_check(list(checks))
    return (
        Finding(
            id="ring-on-hat",
            verdict=decides.verdict,
            value=decides.value,
            limit=decides.limit,
            unit=decides.unit,
            why=f"{decides.text}.",
            features=("rotor",),
            checks=checks,
            source=PRACTICE,
        ),
    )


def _register(job: Job, lengths: LengthFormat) -> Check:
    """The ring's bore on the hat's register: what is tight does not go on, what is loose runs out."""
    play = known(job.rotor.ring_register_mm) - known(job.rotor.hat_register_mm)
    if play < 0:
        text = f"The ring's register is {lengths.gap(play)} smaller than the hat's: it does not go on"
        return make_check("Register", play, Limit(0.0, 0.0), text)
    text = f"The ring has {lengths.gap(play)} of play on the hat's register; its bolts alone do not centre it"
    return make_check("Register", play, limit_for(job, "register-play"), text)


def _depth(job: Job, lengths: LengthFormat) -> Check | None:
    deep = job.rotor.register_depth_mm
    if deep is None:
        return None
    return make_check(
        "Depth of register", deep, limit_for(job, "register-depth"), f"The ring sits {lengths.gap(deep)} deep on it"
    )


def _held(job: Job, lengths: LengthFormat) -> Check | None:
    del lengths
    held = HELD.get(job.rotor.ring_held or "")
    return Check("Held by", Verdict.CAUTION, UNKNOWN, UNKNOWN, "", held) if held else None


def _bolts(job: Job, lengths: LengthFormat) -> Check | None:
    """The ring's own bolts, where bolts or screws hold it: how many there are was counted."""
    del lengths
    if job.rotor.ring_held == "snap ring":
        return None
    count = job.rotor.ring_bolt_count
    return make_check(
        "Ring's bolts", known(count), Limit(3.0, 3.0, unit=""), f"{count or 'An unknown number of'} bolts hold it"
    )


def other_face_height(rotor: Rotor) -> float:
    """Return the overall height [mm] with the ring turned over onto the other face of its hat's rim; unknown while a size is.

    With h from the hat's outer face to the rim's inboard face, f the rim, s the ring's seat above its inboard face and t its
    thickness, the ring inboard of the rim gives H = h + s, outboard of it H' = h − f − s + t: turned over, its seat lies s
    below what is then its outboard face. Plane geometry.
    """
    high, seat = known(rotor.overall_height_mm), known(rotor.ring_seat_mm)
    rim, thick = known(rotor.ring_flange_mm), known(rotor.thickness_mm)
    if not is_known(high, seat, rim, thick):
        return UNKNOWN
    if rotor.ring_on == "inboard face":
        return (high - seat) - rim - seat + thick
    return (high + rim + seat - thick) + seat


HAT_ROOM_MM = 0.5
"""Room left all round between flange and hat [mm]: common practice."""
LEAST_RING_MM = 0.75
"""Wall of the thinnest hub-centric ring that is turned [mm]. Our judgement: a thinner one tears as it is pushed on."""
OTHER_ROTOR = Remedy("Choose a rotor made for this hub", None, True)
DRILLED_MM = 0.6
"""How much wider than its stud a hole is drilled [mm]: common practice."""
WIDE_HOLE_MM = (3.0, 6.0)
"""How much wider than its stud a rotor's hole is a caution, a stop [mm]. Our judgement: usual holes have 0.5 to 2 mm of play, and
what has more is not of this hub."""


def rotor_on_hub(job: Job, lengths: LengthFormat, remedies: bool = True) -> Finding:
    """Whether the rotor goes on the hub: bore on pilot, bolt circle, holes, studs in holes, hat over flange.

    Without ``remedies`` no remedy is looked for.
    """
    checks = [c for c in (_pilot(job, lengths), _circle(job, lengths), _count(job), _stud_hole(job, lengths)) if c]
    if job.hub.mounting == "behind-flange":
        checks += _barrel(job, lengths)
    if job.hub.mounting == "over-hub" and job.rotor.kind != "ring":
        checks.append(_hat(job, lengths))
        checks += _lip(job, lengths)
        checks += _pilot_left(job, lengths)
    checks += _drilled(job, lengths)
    decides = worst_check(checks)
    calm = decides.verdict is Verdict.OK
    goes = "over the hub" if job.hub.mounting == "over-hub" else "behind the flange"
    why = f"The rotor goes {goes} and is centred by its pilot." if calm else decides.text + "."
    faults = tuple(c for c in checks if remedies and c.verdict is not Verdict.OK)
    return Finding(
        id="rotor-on-hub",
        verdict=decides.verdict,
        value=decides.value,
        limit=decides.limit,
        unit=decides.unit,
        why=why,
        remedies=tuple({r.action: r for c in faults for r in _hub_remedies(job, c, lengths)}.values()),
        features=("rotor", "hub"),
        checks=tuple(checks),
        source="Common practice, no published source",
    )


def _pilot(job: Job, lengths: LengthFormat) -> Check:
    play = known(job.rotor.centre_bore_mm) - known(job.hub.pilot_diameter_mm)
    if play > 0 and job.fit.hub_ring != "none":
        ring = f"An {job.fit.hub_ring}" if job.fit.hub_ring == "aluminium" else f"A {job.fit.hub_ring}"
        text = f"{ring} ring with a wall of {lengths.gap(play / 2)} centres the rotor on the pilot; the nuts hold it"
        if play / 2 < LEAST_RING_MM:
            words = f"{text}; under {lengths.gap(LEAST_RING_MM)} no ring is made"
            return Check("Hub-centric ring", Verdict.STOP, play / 2, LEAST_RING_MM, "mm", words)
        if job.fit.hub_ring == "plastic":
            words = f"{text}. Plastic softens beside a hot rotor: for centring at the fit only, aluminium stays"
            return Check("Hub-centric ring", Verdict.CAUTION, play / 2, LEAST_RING_MM, "mm", words)
        return make_check("Bore on pilot", 0.0, limit_for(job, "pilot-clearance"), text)
    if play < 0:
        tight = Limit(0.0, 0.0)
        return make_check(
            "Bore on pilot",
            play,
            tight,
            f"The bore is {lengths.gap(play)} smaller than the pilot: it will not go on",
        )
    text = (
        f"The bore is {lengths.gap(play)} larger than the pilot; the studs alone do not centre a rotor"
        if play > 0.15
        else (f"The bore is {lengths.gap(play)} larger than the pilot")
    )
    return make_check("Bore on pilot", play, limit_for(job, "pilot-clearance"), text)


def _pilot_left(job: Job, lengths: LengthFormat) -> list[Check]:
    """What is left of the pilot for the rotor's bore past a rotor spacer, where the pilot was measured."""
    if job.hub.pilot_length_mm is None:
        return []
    left = min(job.hub.pilot_length_mm - known(job.fit.rotor_spacer_mm), known(job.rotor.flange_mm))
    text = f"{lengths.gap(max(left, 0.0))} of pilot is left in the rotor's bore"
    return [make_check("Pilot left", left, limit_for(job, "pilot-left"), text)]


def _circle(job: Job, lengths: LengthFormat) -> Check:
    off = abs(known(job.rotor.bolt_circle_mm) - known(job.hub.bolt_circle_mm))
    return make_check(
        "Bolt circle", off, limit_for(job, "bolt-circle"), f"The bolt circles differ by {lengths.gap(off)}"
    )


def _count(job: Job) -> Check:
    holes, studs = job.rotor.hole_count, job.hub.stud_count
    off = holes_off(holes, studs)
    text = f"The rotor has {holes} holes for {studs} studs"
    return make_check("Holes for studs", off, Limit(0.0, 0.0, False, "", "Geometry"), text)


def _stud_hole(job: Job, lengths: LengthFormat) -> Check:
    thread = find_thread(job.hub.stud_thread) if job.hub.stud_thread else None
    room = known(job.rotor.hole_mm) - (thread.major if thread else UNKNOWN)
    sense = "larger" if room >= 0 else "smaller"
    text = f"The rotor's holes are {lengths.gap(room)} {sense} than the studs"
    if room > WIDE_HOLE_MM[0]:
        verdict = Verdict.STOP if room > WIDE_HOLE_MM[1] else Verdict.CAUTION
        return Check("Studs in holes", verdict, room, WIDE_HOLE_MM[0], "mm", f"{text}: are they of this hub?")
    return make_check("Studs in holes", room, limit_for(job, "stud-hole-clearance"), text)


def _barrel(job: Job, lengths: LengthFormat) -> list[Check]:
    """A rotor bolted behind the flange comes on over what turns behind it, where that was measured."""
    if job.hub.barrel_diameter_mm is None:
        return []
    room = known(job.rotor.centre_bore_mm) - job.hub.barrel_diameter_mm
    text = (
        f"The rotor's bore is {lengths.gap(room)} {'larger' if room >= 0 else 'smaller'} than the hub behind the flange"
    )
    return [make_check("Bore over the barrel", room, Limit(0.0, 0.0), text)]


def _hat(job: Job, lengths: LengthFormat) -> Check:
    room = (known(job.rotor.hat_inner_diameter_mm) - known(job.hub.flange_diameter_mm)) / 2
    sense = "clears the flange by" if room >= 0 else "is too small for the flange by"
    return make_check(
        "Hat over flange",
        room,
        limit_for(job, "hat-over-flange"),
        f"The hat {sense} {lengths.gap(room)} all round",
    )


def _drilled(job: Job, lengths: LengthFormat) -> list[Check]:
    """A rotor that was drilled to this pattern: a stop where its holes leave no metal, a caution at best."""
    plan = drilling(job) if job.rotor.old_bolt_circle_mm is not None else None
    if plan is None:
        return []
    filled = job.rotor.old_holes == "filled"
    stops = plan.verdict is Verdict.STOP and not filled
    how = ", its old holes filled" if filled else ", one hole oval" if plan.ovals else ""
    least = (
        f"; {lengths.gap(plan.ligament)} between old and new holes" if is_known(plan.ligament) and not filled else ""
    )
    text = f"Redrilled from {plan.old.name}{how}{least}: have it checked by someone qualified"
    return [Check("Redrilled", Verdict.STOP if stops else Verdict.CAUTION, UNKNOWN, UNKNOWN, "", text)]


def _lip(job: Job, lengths: LengthFormat) -> list[Check]:
    """A lip inside the hat that the flange would meet before the rotor seats, where one was felt."""
    if job.rotor.hat_lip_mm is None:
        return []
    room = (job.rotor.hat_lip_mm - known(job.hub.flange_diameter_mm)) / 2
    text = (
        f"The lip inside the hat clears the flange by {lengths.gap(room)} all round" if room >= 0
        else f"A lip inside the hat stands {lengths.gap(room)} over the flange's edge: the rotor rides on it and cannot run true"
    )  # fmt: skip
    return [make_check("Lip in the hat", room, limit_for(job, "hat-over-flange"), text)]


def _behind(job: Job, lengths: LengthFormat) -> tuple[Remedy, ...]:
    """The rotor bolted behind the flange instead of over it, on longer studs."""
    thick, flange = known(job.hub.flange_thickness_mm), known(job.rotor.flange_mm)
    if not is_known(thick, flange):
        return ()
    side = (
        f"the rotor moves {lengths.size(thick + flange)} inboard and the wheel {lengths.size(flange)}",
        f"studs {lengths.size(flange)} longer between head and thread, pressed in from behind rotor and flange; hub off the car",
        "the bearing side must let the hat pass",
    )  # fmt: skip
    return (
        Remedy("Bolt the rotor behind the flange", thick + flange, True, (("hub.mounting", "behind-flange"),), side),
    )


def _hub_remedies(job: Job, check: Check, lengths: LengthFormat) -> tuple[Remedy, ...]:
    """Return the cures for one check of the rotor on the hub, most reversible first."""
    if check.verdict is Verdict.UNKNOWN or check.label == "Redrilled":
        return ()
    if check.label == "Hub-centric ring":
        if check.verdict is Verdict.STOP:
            return (Remedy("Fit no ring: let the pilot centre the rotor", None, True, (("fit.hub_ring", "none"),)),)
        return (Remedy("Fit an aluminium ring", None, True, (("fit.hub_ring", "aluminium"),)),)
    if check.label == "Studs in holes" and check.value < check.limit:
        return (*_drilled_out(job, lengths), OTHER_ROTOR)
    if check.label in ("Studs in holes", "Bore over the barrel"):
        return (OTHER_ROTOR,)
    if check.label == "Bore on pilot" and check.value > 0 and check.value / 2 < LEAST_RING_MM:
        return (Remedy("Choose a rotor whose bore fits the pilot", None, True),)
    if check.label == "Bore on pilot" and check.value > 0:
        inner, outer = lengths.size(known(job.hub.pilot_diameter_mm)), lengths.size(known(job.rotor.centre_bore_mm))
        ring = f"Fit a hub-centric ring {inner} to {outer}, aluminium"
        side = ("the ring centres only; the nuts hold the rotor", "plastic rings soften next to a hot rotor")
        return (Remedy(ring, check.value, True, (("fit.hub_ring", "aluminium"),), side),)
    if check.label == "Pilot left":
        thinner = round(max(known(job.hub.pilot_length_mm) - limit_for(job, "pilot-left").watch, 0.0), 3)
        if thinner >= known(job.fit.rotor_spacer_mm):
            return ()
        side = ("the rotor moves inboard by as much", "or turn a lip on the plate that carries the bore")
        return (Remedy(f"Take the rotor spacer down to {lengths.size(thinner)}", known(job.fit.rotor_spacer_mm) - thinner,
                       True, (("fit.rotor_spacer_mm", thinner),), side),)  # fmt: skip
    if check.label == "Bore on pilot":
        bore = known(job.hub.pilot_diameter_mm) + 0.05
        return (
            Remedy(
                f"Bore the rotor to {lengths.size(bore)}",
                abs(check.value),
                False,
                (("rotor.centre_bore_mm", round(bore, 3)),),
                ("a machined rotor has to be checked for runout",),
            ),
        )
    if check.label == "Lip in the hat":
        ground = known(job.hub.flange_diameter_mm) + 2 * HAT_ROOM_MM
        side = ("only the lip: the wall stays as thick as it is", "check the runout before and after")
        return (Remedy(f"Grind the lip out to {lengths.size(ground)}", ground - known(job.rotor.hat_lip_mm), False,
                       (("rotor.hat_lip_mm", round(ground, 3)),), side),)  # fmt: skip
    if check.label == "Hat over flange":
        return _hat_remedies(job, lengths)
    other = Remedy("Choose a rotor made for this bolt pattern", None, True)
    return (other, *redrilled(job, lengths))


def _hat_remedies(job: Job, lengths: LengthFormat) -> tuple[Remedy, ...]:
    """Return what helps where the hat does not go over the flange: a spacer behind it, metal off the hat, or off the flange."""
    flange = known(job.rotor.hat_inner_diameter_mm) - 2 * HAT_ROOM_MM
    hat = known(job.hub.flange_diameter_mm) + 2 * HAT_ROOM_MM
    return (
        *_behind(job, lengths),
        Remedy(
            f"Relieve the hat inside to {lengths.size(hat)}",
            hat - known(job.rotor.hat_inner_diameter_mm),
            False,
            (("rotor.hat_inner_diameter_mm", round(hat, 3)),),
            ("a thinner hat wall is weaker: have it checked", "look for a lip left inside: it lifts the rotor"),
        ),
        Remedy(
            f"Turn the flange down to {lengths.size(flange)}",
            known(job.hub.flange_diameter_mm) - flange,
            False,
            (("hub.flange_diameter_mm", round(flange, 3)),),
            (
                "a turned flange is weaker: have it checked",
                "on the car: the tool on a stand bolted to the knuckle, the hub turned by its studs, seal and bearing covered",
            ),
        ),
    )


def _drilled_out(job: Job, lengths: LengthFormat) -> tuple[Remedy, ...]:
    """The rotor's holes drilled out for studs that are too thick for them."""
    thread = find_thread(job.hub.stud_thread) if job.hub.stud_thread else None
    if thread is None:
        return ()
    wide = round(thread.major + DRILLED_MM, 1)
    text = f"Drill the rotor's holes out to {lengths.size(wide)}"
    side = ("a drilled rotor is checked for runout and balance",)
    return (Remedy(text, round(wide - known(job.rotor.hole_mm), 3), False, (("rotor.hole_mm", wide),), side),)

"""Findings of the line-up that need no bracket: tip gap, pad on the ring, slot, rotor on hub, wheel studs."""

import math

from bicentra.core.base.finding import SLACK, Edit, Finding, Remedy, Verdict
from bicentra.core.base.numbers import UNKNOWN, known
from bicentra.core.base.records import replace
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat, decided_by, make_check, make_finding, missing_names
from bicentra.core.lineup.more_checks import more_findings
from bicentra.core.lineup.rotor_on_hub import ring_on_hat, rotor_on_hub
from bicentra.core.lineup.solids import stud_past_seat
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import allowance, limit_for, limit_in_mm
from bicentra.core.parts.threads import find_thread

LEAST_INSET_MM = 0.0
SLIM_STUD_MM = 9.5
"""Wheel studs thinner than this (M10, 3/8 in) are asked about [mm]. Our judgement: they are rather the rotor's own screws."""
ROUND_MM = 0.1
STUD_STOCK_MM = range(30, 125, 5)
"""Lengths wheel studs are sold in, measured past the hub face [mm]: common practice."""


def line_up_findings(job: Job, line: LineUp, remedies: bool = True) -> tuple[Finding, ...]:
    """Return the findings that follow from hub, rotor, caliper and fit alone; without ``remedies`` no redrilling is planned."""
    lengths = job.lengths
    return (
        tip_gap(job, line, lengths),
        pad_overhang(job, line, lengths),
        pad_inner_edge(job, line, lengths),
        slot_gap(job, line, lengths),
        rotor_on_hub(job, lengths, remedies),
        *ring_on_hat(job, lengths),
        wheel_studs(job, lengths),
        *more_findings(job, line, lengths),
    )


def tip_gap(job: Job, line: LineUp, lengths: LengthFormat) -> Finding:
    """Rotor edge to the inside of the caliper's bridge, cold and at working heat; the worse of the two decides."""
    cold, hot = limit_for(job, "tip-gap"), limit_for(job, "tip-gap-hot")
    rise = allowance(job, "hot-rise-k")
    checks = (
        make_check("Cold", line.tip_gap, cold, f"Cold: {lengths.gap(line.tip_gap)} against {lengths.gap(cold.stop)}"),
        make_check(
            f"Hot, {rise:.0f} °C above cold",
            line.tip_gap_hot,
            hot,
            f"Hot, {rise:.0f} °C above cold: {lengths.gap(line.tip_gap_hot)} against {lengths.gap(hot.stop)}",
        ),
    )
    missing = missing_names(
        bridge_above_pad_top=job.caliper.bridge_to_pad_top_mm,
        pad_inset=job.fit.pad_inset_mm,
        rotor_diameter=job.rotor.diameter_mm,
    )
    short = max(cold.watch - line.tip_gap, hot.watch - line.tip_gap_hot)
    why = (
        f"The rotor's edge runs {lengths.gap(line.tip_gap)} from the inside of the bridge cold, "
        f"{lengths.gap(line.tip_gap_hot)} hot; the rotor grows as it heats and must never touch."
    )
    finding = make_finding(
        "tip-gap",
        line.tip_gap,
        cold,
        why,
        features=("rotor", "caliper"),
        missing=missing,
        checks=checks,
        remedies=_inset_remedies(job, -short, lengths),
    )
    return decided_by(finding, checks, hot, _inset_remedies(job, -short, lengths))


def _inset_remedies(job: Job, change: float, lengths: LengthFormat) -> tuple[Remedy, ...]:
    """Move the caliper along its radius by ``change`` in pad inset, rounded away from the fault to a tenth."""
    inset = known(job.fit.pad_inset_mm)
    if not abs(change) < 100:
        return ()
    rounded = math.copysign(math.ceil(abs(change) / ROUND_MM - 1e-9) * ROUND_MM, change)
    target = round(inset + rounded, 3)
    outward = rounded < 0
    side = ["lug and ear ligaments change a little"]
    if target < LEAST_INSET_MM:
        side.append(f"the pad then hangs {lengths.gap(target)} over the rotor's edge and leaves a lip")
    action = f"Move the caliper {lengths.gap(rounded)} {'outward' if outward else 'inward'} (pad inset {lengths.size(target)})"
    edits: tuple[Edit, ...] = (("fit.pad_inset_mm", target),)
    if job.caliper.mount == "radial":
        shims = round(known(job.fit.radial_shim_mm) - rounded, 3)
        if shims < 0:
            return (Remedy(f"Lower the bracket's seat {lengths.gap(shims)}: no shims are left to take out. {action}", abs(rounded),
                           False, (*edits, ("fit.radial_shim_mm", 0.0)), tuple(side)),)  # fmt: skip
        before = lengths.gap(shims + rounded)
        action = f"Put {lengths.gap(shims)} of shims under the caliper's feet instead of {before}: {action.lower()}"
        edits = (*edits, ("fit.radial_shim_mm", shims))
    return (Remedy(action, abs(rounded), True, edits, tuple(side)),)


def pad_overhang(job: Job, line: LineUp, lengths: LengthFormat) -> Finding:
    """The pad's outer edge against the rotor's edge: flush, or up to an eighth of an inch inside."""
    over, deep = limit_for(job, "pad-overhang"), limit_for(job, "pad-inset-most")
    value = line.pad.overhang
    missing = missing_names(rotor_diameter=job.rotor.diameter_mm, pad_inset=job.fit.pad_inset_mm)
    if -value > deep.stop + SLACK:
        why = f"The pad's outer edge runs {lengths.gap(value)} inside the rotor's edge; "
        why += f"more than {lengths.gap(deep.stop)} wastes ring."
        cure = _inset_remedies(job, deep.stop - (-value), lengths)
        low = Limit(over.stop, -deep.stop, True, "mm", deep.source)
        return Finding(
            "pad-overhang",
            Verdict.CAUTION,
            value,
            low.watch,
            "mm",
            why,
            cure,
            ("rotor", "pad"),
            source=deep.source,
        )
    sense = (
        f"{lengths.gap(value)} outside" if value > 0 else f"{lengths.gap(value)} inside" if value < 0 else "flush with"
    )
    why = f"The pad's outer edge is {sense} the rotor's edge; pad that hangs over does not wear and leaves a lip."
    return make_finding(
        "pad-overhang",
        value,
        over,
        why,
        features=("rotor", "pad"),
        missing=missing,
        remedies=_inset_remedies(job, value - over.stop, lengths),
    )


def pad_inner_edge(job: Job, line: LineUp, lengths: LengthFormat) -> Finding:
    """The pad's inner edge against the inner edge of the flat friction face."""
    limit, margin = limit_for(job, "pad-inner-edge"), line.pad.inner_margin
    missing = missing_names(
        rotor_diameter=job.rotor.diameter_mm,
        swept_inner_diameter=job.rotor.swept_inner_diameter_mm,
        pad_height=job.caliper.pad_height_mm,
    )
    where = "outside" if margin >= 0 else "inside"
    off = f"; {line.pad.off:.0f} mm² of pad touch nothing" if line.pad.off > 0.5 else ""
    why = f"The pad's inner edge is {lengths.gap(margin)} {where} the inner edge of the friction face{off}."
    return make_finding(
        "pad-inner-edge",
        margin,
        limit,
        why,
        features=("rotor", "pad"),
        missing=missing,
        remedies=_inset_remedies(job, margin - limit.watch, lengths),
    )


def slot_gap(job: Job, line: LineUp, lengths: LengthFormat) -> Finding:
    """Room between rotor face and caliper wall on each side when the caliper is centred."""
    limit = limit_for(job, "slot-gap")
    missing = missing_names(slot_width=job.caliper.slot_width_mm, rotor_thickness=job.rotor.thickness_mm)
    gap = lengths.gap(line.slot_gap)
    why = f"A centred caliper leaves {gap} between its walls and each rotor face; less lets warp or heat rub."
    short = limit.watch - line.slot_gap
    thinner = known(job.rotor.thickness_mm) - 2 * short
    remedies = (
        (
            Remedy(
                f"Use a rotor {lengths.size(thinner)} thick",
                2 * short,
                True,
                (("rotor.thickness_mm", round(thinner, 3)),),
                ("less heat capacity", "another overall height may come with it"),
            ),
        )
        if thinner > 0
        else ()
    )
    return make_finding(
        "slot-gap",
        line.slot_gap,
        limit,
        why,
        features=("rotor", "caliper"),
        missing=missing,
        remedies=remedies,
    )


def wheel_studs(job: Job, lengths: LengthFormat) -> Finding:
    """Thread of the wheel stud left for the nut, past rotor hat, rotor spacer and wheel centre."""
    thread = find_thread(job.hub.stud_thread) if job.hub.stud_thread else None
    major = thread.major if thread else UNKNOWN
    limit = limit_in_mm(job, "wheel-stud-engagement", major)
    bare = stud_past_seat(job)
    wheel = known(job.wheel.centre_thickness_mm) if job.wheel else UNKNOWN
    left = bare - wheel
    missing = missing_names(
        stud_length=job.hub.stud_length_mm,
        stud_thread=job.hub.stud_thread,
        hat_thickness=job.rotor.flange_mm,
        wheel_centre_thickness=None if job.wheel is None else job.wheel.centre_thickness_mm,
    )
    why = f"{lengths.size(max(left, 0.0))} of stud is left for the nut past rotor and wheel; a nut needs one stud diameter."
    slim = thread is not None and thread.major < SLIM_STUD_MM
    if left != left and bare < limit.stop:  # even a wheel of no thickness could not be held
        left, why = (
            bare,
            f"Only {lengths.size(max(bare, 0.0))} of stud stands past the wheel's seat, before the wheel is on.",
        )
    short = limit.watch - left
    longer = known(job.hub.stud_length_mm) + short
    spacer = known(job.fit.rotor_spacer_mm)
    remedies = []
    if job.hub.mounting == "over-hub" and spacer >= short > 0:
        remedies.append(
            Remedy(
                f"Take {lengths.gap(short)} off the rotor spacer",
                short,
                True,
                (("fit.rotor_spacer_mm", round(spacer - short, 3)),),
                ("the rotor moves inboard by as much",),
            )
        )
    if short > 0:
        stock = next((float(size) for size in STUD_STOCK_MM if size >= longer), longer)
        remedies.append(
            Remedy(
                f"Press in studs {lengths.size(stock)} long",
                stock - known(job.hub.stud_length_mm),
                True,
                (("hub.stud_length_mm", round(stock, 3)),),
                ("hub off the car; studs of the same knurl",),
            )
        )
    finding = make_finding(
        "wheel-stud-engagement",
        left,
        limit,
        why,
        features=("hub", "rotor"),
        missing=missing,
        remedies=tuple(remedies),
    )
    if slim and finding.verdict is Verdict.OK:
        text = f"{job.hub.stud_thread} studs are thin for a wheel: are they the rotor's own screws? {why}"
        return replace(finding, verdict=Verdict.CAUTION, why=text)
    return finding

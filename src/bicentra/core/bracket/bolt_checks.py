"""Findings of the bolts: their ends clear of the rotor, their thread engaged."""

import math

from bicentra.core.base.finding import Finding, Remedy, Verdict, judge, worst
from bicentra.core.base.numbers import UNKNOWN, is_known, ordered
from bicentra.core.base.records import replace
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat, make_finding, missing_names
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.bracket.metal_checks import chosen_bolts, rotor_missing, space_text
from bicentra.core.bracket.prisms import head_radius, tip_radius
from bicentra.core.bracket.thread_checks import least_sizes, thread_fit
from bicentra.core.bracket.turned import unturned
from bicentra.core.geometry.ring import Ring, nearest_gap
from bicentra.core.parts.limits import limit_for, limit_in_mm


@unturned
def bolt_findings(assembly: Assembly, lengths: LengthFormat, remedies: bool = True) -> tuple[Finding, ...]:
    """Return the findings on bolt tips, engagement, threads and holes, least sizes; without ``remedies`` no remedy is
    looked for.
    """
    return (
        bolt_tips(assembly, lengths, remedies), engagement(assembly, lengths, remedies), thread_fit(assembly, lengths),
        least_sizes(assembly, lengths),
    )  # fmt: skip


def bolt_tips(assembly: Assembly, lengths: LengthFormat, cured: bool = True) -> Finding:
    """The least room between any bolt end (tip or head) and the rotor."""
    limit = limit_for(assembly.job, "bolt-tip-to-rotor")
    rows = [(placed, end, bolt_gap(assembly, placed, end)) for placed in assembly.joints for end in ("tip", "head")]
    both = not assembly.unchosen
    certain = [row for row in rows if not math.isnan(row[2])]
    clash = any(gap <= 0.0 for *_, gap in certain)  # is said whatever else is missing
    if not clash and (not both or len(certain) < len(rows)):
        missing = _bolts_missing(assembly)
        return make_finding(
            "bolt-tip-to-rotor",
            UNKNOWN,
            limit,
            "",
            missing=missing,
            features=("rotor", "bolts"),
        )
    placed, end, value = min(certain, key=lambda row: row[2])
    name = f"{end} of the {placed.name}"
    why = space_text(name, "the rotor", value, lengths) + "; a bolt that touches saws through the rotor or itself."
    wanted = cured and judge(value, limit) is not Verdict.OK
    remedies = _tip_remedies(assembly, placed, end, limit, lengths) if wanted else ()
    return make_finding(
        "bolt-tip-to-rotor",
        value,
        limit,
        why,
        remedies=remedies,
        features=(placed.feature, "rotor"),
    )


def _bolts_missing(assembly: Assembly) -> str:
    job = assembly.job
    lengths = all(is_known(p.joint.length) for p in assembly.joints)
    thick = all(lug.thickness_mm is not None for lug in job.knuckle.lugs)
    return missing_names(
        **chosen_bolts(assembly),
        ear_thickness=job.caliper.ear_thickness_mm,
        thickness_of_every_lug=0.0 if thick else None,
        a_stock_length_long_enough=0.0 if lengths else None,
    ) or rotor_missing(assembly)


def bolt_gap(assembly: Assembly, placed: PlacedJoint, end: str) -> float:
    """Return the room between one end of a bolt and the rotor [mm]; a hat that is only bounded has to leave what is wanted."""
    if not is_known(placed.tip_z, placed.head_z):
        return UNKNOWN
    rho, joint = math.hypot(*placed.centre), placed.joint
    if end == "head":
        radius, span = head_radius(joint), ordered(placed.seat_z, placed.head_z)
    else:
        radius, span = tip_radius(joint), (placed.tip_z, placed.tip_z)
    enough = limit_for(assembly.job, "bolt-tip-to-rotor").watch
    return nearest_gap(Ring(max(rho - radius, 0.0), rho + radius, *span), assembly.rotor, enough)


def _tip_remedies(
    assembly: Assembly, placed: PlacedJoint, end: str, limit: Limit, lengths: LengthFormat
) -> tuple[Remedy, ...]:
    """Shorter bolts from stock, then more washers: each only if it clears and still holds."""
    group = "lug" if placed.at == "lug" else "caliper"
    if end == "head":
        return (Remedy("Use bolts with a lower head, or enter them from the other side", None, True),)
    members = [p for p in assembly.joints if p.at == placed.at]
    found: list[Remedy] = []
    for length in reversed(placed.joint.thread.stock_lengths):
        if length < placed.joint.length and _holds(assembly, members, limit, length=length):
            change = placed.joint.length - length
            left = min(replace(p.joint, length=length).engagement for p in members)
            found.append(
                Remedy(
                    f"Use {lengths.bolt(placed.joint.thread.name, length)} bolts, {lengths.gap(change)} shorter",
                    round(change, 4),
                    True,
                    ((f"bracket.{group}_bolt_length_mm", length),),
                    (f"{lengths.size(left)} of thread engaged",),
                )
            )
            break
    washers = placed.joint.stack.washers
    for more in range(1, 5 - washers):
        if _holds(assembly, members, limit, washers=washers + more):
            thick = more * placed.joint.thread.hardware.washer_thickness
            found.append(
                Remedy(
                    f"Add {more} washer{'s' if more > 1 else ''} under each head",
                    round(thick, 4),
                    True,
                    ((f"bracket.{group}_washers", washers + more),),
                    (f"{lengths.gap(thick)} less thread engaged",),
                )
            )
            break
    return tuple(found)


def _holds(
    assembly: Assembly,
    members: list[PlacedJoint],
    limit: Limit,
    length: float | None = None,
    washers: int | None = None,
) -> bool:
    """Tell whether every bolt of a group would clear the rotor and keep its thread engagement after a change."""
    for placed in members:
        joint = placed.joint
        stack = joint.stack if washers is None else replace(joint.stack, washers=washers)
        changed = replace(placed, joint=replace(joint, stack=stack, length=joint.length if length is None else length))
        gap = bolt_gap(assembly, changed, "tip")
        if not gap >= limit.stop or not changed.joint.engagement >= joint.stack.least:
            return False
    return True


def engagement(assembly: Assembly, lengths: LengthFormat, cured: bool = True) -> Finding:
    """The least thread engagement of any bolt against what its thread needs."""
    job = assembly.job
    rows = [(placed, placed.joint.engagement, _engagement_limit(assembly, placed)) for placed in assembly.joints]
    if assembly.unchosen or any(math.isnan(value) for _, value, _ in rows):
        base = limit_in_mm(job, "thread-engagement", UNKNOWN)
        return make_finding(
            "thread-engagement",
            UNKNOWN,
            base,
            "",
            missing=_bolts_missing(assembly),
            features=("bolts",),
        )
    bad = worst(judge(value, limit) for _, value, limit in rows)
    placed, value, limit = min(
        (row for row in rows if judge(row[1], row[2]) is bad), key=lambda row: row[1] / row[2].watch
    )
    why = (
        f"The {placed.name} has {lengths.size(value)} of thread in the {placed.joint.stack.female}; too little strips."
    )
    return make_finding(
        "thread-engagement",
        value,
        limit,
        why,
        features=(placed.feature, _female_feature(placed)),
        remedies=_longer(assembly, placed, limit, lengths) if cured and bad is not Verdict.OK else (),
        assumed=_assumed(assembly, placed),
    )


def _engagement_limit(assembly: Assembly, placed: PlacedJoint) -> Limit:
    stack, major = placed.joint.stack, placed.joint.thread.major
    if stack.female == "nut":
        return Limit(stack.least, stack.wanted, source="A full nut, ISO 4032 or ASME B18.2.2").moved_to(
            assembly.job.limits.get("thread-engagement")
        )
    return limit_in_mm(assembly.job, "thread-engagement", major, watch=stack.wanted / major)


def _female_feature(placed: PlacedJoint) -> str:
    index = placed.feature.rsplit("-", 1)[1]
    return {"plate": "bracket", "insert": "bracket", "ear": f"ear-{index}"}.get(
        placed.joint.stack.female, f"lug-{index}"
    )


def _assumed(assembly: Assembly, placed: PlacedJoint) -> tuple[str, ...]:
    female = placed.joint.stack.female
    unstated = (female == "lug" and assembly.job.knuckle.material is None) or (
        female == "ear" and assembly.job.caliper.ear_material is None
    )
    return (f"the {female}'s material is not stated: taken as aluminium",) if unstated else ()


def _longer(assembly: Assembly, placed: PlacedJoint, limit: Limit, lengths: LengthFormat) -> tuple[Remedy, ...]:
    """Longer bolts from stock that clear the rotor, then fewer washers."""
    group = "lug" if placed.at == "lug" else "caliper"
    members = [p for p in assembly.joints if p.at == placed.at]
    tip = limit_for(assembly.job, "bolt-tip-to-rotor")
    found: list[Remedy] = []
    joint = placed.joint
    for length in joint.thread.stock_lengths:
        gained = replace(joint, length=length).engagement
        if length > joint.length and gained > joint.engagement and _holds(assembly, members, tip, length=length):
            found.append(
                Remedy(
                    f"Use {lengths.bolt(joint.thread.name, length)} bolts, {lengths.gap(length - joint.length)} longer",
                    round(length - joint.length, 4),
                    True,
                    ((f"bracket.{group}_bolt_length_mm", length),),
                    (f"{lengths.size(gained)} of thread engaged",),
                )
            )
            if gained >= limit.watch:
                break
    found = found[-1:]
    if joint.stack.washers and _holds(assembly, members, tip, washers=joint.stack.washers - 1):
        thick = joint.thread.hardware.washer_thickness
        found.append(
            Remedy(
                "Take one washer out from under each head",
                thick,
                True,
                ((f"bracket.{group}_washers", joint.stack.washers - 1),),
                ("a head without washer digs into soft metal",),
            )
        )
    return tuple(found)

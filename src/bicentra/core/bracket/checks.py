"""Findings of the plate and its bolts."""

import math
from dataclasses import replace

from bicentra.core.base.finding import Finding, Limit, Remedy, Verdict, judge, worst
from bicentra.core.base.numbers import UNKNOWN, is_known, known, ordered
from bicentra.core.base.wording import Words, make_finding, missing_names
from bicentra.core.bracket.cutouts import Metal, cutout_finding, metal_beside
from bicentra.core.bracket.flat_plate import Assembly, FlatPlate, edge_distance, ligaments
from bicentra.core.bracket.holes import Hole, PlacedJoint
from bicentra.core.bracket.posts import head_radius, tip_radius
from bicentra.core.bracket.reach import retainer_reach
from bicentra.core.lineup.solids import Ring, nearest_gap
from bicentra.core.parts.job import Cutout
from bicentra.core.parts.limits import limit_for, limit_in_mm


def plate_findings(assembly: Assembly, plate: FlatPlate, words: Words) -> tuple[Finding, ...]:
    """Return the findings on holes, edges and the room round the plate."""
    return (
        ligament(assembly, words),
        edge(assembly, plate, words),
        bracket_to_rotor(assembly, plate, words),
        bracket_to_hub(assembly, plate, words),
        *((floor_left(assembly, words),) if any(hole.recess for hole in assembly.holes) else ()),
        *((_cutouts(assembly, plate, words),) if assembly.job.bracket.cutouts else ()),
        *((slot_hold(assembly, words),) if any(hole.slot for hole in assembly.holes) else ()),
        *((_chamfer_land(assembly, words),) if assembly.job.bracket.chamfer_mm else ()),
        *((dowel_metal(assembly, plate, words),) if assembly.job.bracket.dowels else ()),
        *((retainer_reach(assembly.job, plate, words),) if assembly.job.hub.retainer_circle_mm is not None else ()),
    )


def slot_hold(assembly: Assembly, words: Words) -> Finding:
    """What holds the plate where it was set: clamped slots alone slip, dowels do not. A watch at worst."""
    travel, pins = known(assembly.job.bracket.slot_mm), len(assembly.job.bracket.dowels)
    holds = f"{pins} dowel{'s hold' if pins != 1 else ' holds'} it there" if pins else "only friction holds it there"
    why = f"The slots let the plate be set over {words.gap(travel)}; {holds}. Set it on the dry fit, then ream for two dowels."
    return make_finding("slot-hold", "Plate held where it was set", float(pins), limit_for(assembly.job, "slot-hold"), why,
                        features=("bracket",))  # fmt: skip


def _chamfer_land(assembly: Assembly, words: Words) -> Finding:
    """What is left of the plate's edge between its two chamfers."""
    left = assembly.packing.thickness - 2 * known(assembly.job.bracket.chamfer_mm)
    why = f"{words.gap(left)} of straight edge is left between the chamfers; a knife edge chips and cuts hands."
    return make_finding("chamfer-land", "Edge between the chamfers", left, limit_for(assembly.job, "chamfer-land"), why,
                        features=("bracket",), missing="the plate's thickness is not known yet")  # fmt: skip


def dowel_metal(assembly: Assembly, plate: FlatPlate, words: Words) -> Finding:
    """The least metal between a dowel and an edge, a hole or another dowel."""
    pins = tuple(Cutout(x_mm=p.x_mm, y_mm=p.y_mm, diameter_mm=p.diameter_mm) for p in assembly.job.bracket.dowels)
    metal = Metal(UNKNOWN, 0, "")
    if plate.outline is not None:
        metal = metal_beside(pins, plate.outline, plate.window, assembly.holes)
    beside = metal.beside.replace("cutout", "dowel")
    why = f"Dowel {metal.number + 1}: {words.gap(metal.value)} of metal is left towards {beside}; a thin wall gives under the pin."
    return make_finding("dowel-metal", "Metal beside the dowels", metal.value, limit_for(assembly.job, "dowel-metal"), why,
                        features=("bracket",), missing="place and size of every dowel, and the plate's outline")  # fmt: skip


def floor_left(assembly: Assembly, words: Words) -> Finding:
    """What is left of the plate under the deepest counterbore."""
    metal = {"lug": assembly.packing.thickness, "ear": assembly.packing.metal_at_ears}
    hole = min((h for h in assembly.holes if h.recess), key=lambda h: metal[h.feature[:3]] - h.recess)
    left = metal[hole.feature[:3]] - hole.recess
    why = (
        f"{words.gap(left)} of plate is left under the counterbore at {hole.name}; the bolt pulls through a thin floor."
    )
    limit = limit_for(assembly.job, "counterbore-floor")
    return make_finding("counterbore-floor", "Metal under the counterbores", left, limit, why, features=(hole.feature, "bracket"),
                        remedies=_floor_remedies(assembly, hole, limit, words),
                        missing="the plate's thickness is not known yet")  # fmt: skip


def _floor_remedies(assembly: Assembly, hole: Hole, limit: Limit, words: Words) -> tuple[Remedy, ...]:
    """Drill plain holes, or take the thinnest stock that leaves the floor."""
    group = "lug" if hole.feature.startswith("lug") else "caliper"
    plain = Remedy("Drill plain holes and let the heads stand proud", None, True,
                   ((f"bracket.{group}_hole", "clearance"),), ("needs room in front of the heads",))  # fmt: skip
    wanted, stock = hole.recess + limit.watch, assembly.job.bracket.stock
    thick = min((t for t in stock if t >= wanted > assembly.packing.thickness), default=None)
    if thick is None or assembly.bolted != ("lug", "ear"):  # a plate on the axle's end is as thick as what it replaces
        return (plain,)
    change = thick - assembly.packing.thickness
    thicker = Remedy(
        f"Make the plate from {words.stock(thick)} stock",
        round(change, 4),
        True,
        (("bracket.thickness_mm", thick),),
        (f"{words.gap(change)} thicker: the caliper moves unless shims go",),
    )
    return plain, thicker


def _cutouts(assembly: Assembly, plate: FlatPlate, words: Words) -> Finding:
    """The least metal beside the cutouts of the plate."""
    metal = Metal(UNKNOWN, 0, "")
    if plate.outline is not None:
        metal = metal_beside(assembly.job.bracket.cutouts, plate.outline, plate.window, assembly.holes)
    return cutout_finding(assembly.job, metal, words)


def ligament(assembly: Assembly, words: Words) -> Finding:
    """The least metal between any two holes."""
    limit = limit_for(assembly.job, "ligament")
    found = ligaments(assembly.holes)
    value = UNKNOWN if any(math.isnan(x.value) for x in found) else min(x.value for x in found)
    features: tuple[str, ...] = ("bracket",)
    why = ""
    if is_known(value):
        least = min(found, key=lambda x: x.value)
        features = (least.first.feature, least.second.feature)
        left = (
            f"{words.gap(value)} of metal is left"
            if value >= 0
            else f"The holes run {words.gap(value)} into each other"
        )
        why = f"{left} between {least.first.name} and {least.second.name}; a thin bridge cracks."
    return make_finding(
        "ligament", "Metal between holes", value, limit, why, features=features, missing=_holes_missing(assembly)
    )


def _holes_missing(assembly: Assembly) -> str:
    job = assembly.job
    placed = all(is_known(*h.centre) for h in assembly.holes[:-2])
    return missing_names(
        lug_bolt=job.bracket.lug_bolt,
        caliper_bolt=job.bracket.caliper_bolt,
        ear_hole_spacing=job.caliper.ear_spacing_mm,
        ear_line_to_pad_top=job.caliper.ear_line_to_pad_top_mm,
        rotor_diameter=job.rotor.diameter_mm,
        clock_angle=job.fit.clock_deg,
        pad_inset=job.fit.pad_inset_mm,
        wall_round_the_holes=job.bracket.wall_mm,
        travel_of_the_slots=job.bracket.slot_mm if "slot" in {hole.kind for hole in assembly.holes} else 0.0,
        place_of_every_lug=0.0 if placed else None,
    )


def edge(assembly: Assembly, plate: FlatPlate, words: Words) -> Finding:
    """Hole centre to the plate's edge, in millimetres against a number of hole diameters."""
    if plate.impossible:
        limit = limit_in_mm(assembly.job, "edge-distance", assembly.holes[0].diameter)
        why = f"There is no plate: {plate.fault}."
        return make_finding("edge-distance", "Hole to edge of plate", 0.0, limit, why, features=("bracket", "hub"))
    rows = [(hole, edge_distance(plate, hole)) for hole in assembly.holes]
    limits = {id(hole): limit_in_mm(assembly.job, "edge-distance", hole.diameter) for hole in assembly.holes}
    hole, value = min(rows, key=lambda row: row[1] / row[0].diameter if is_known(row[1]) else -math.inf)
    limit = limits[id(hole)]
    why = f"The edge runs {words.gap(value)} from the centre of {hole.name} (Ø {words.size(hole.diameter)}); a near edge tears."
    cut = plate.keep_out > 0 and math.hypot(*hole.centre) - plate.keep_out < value + 0.01
    if cut:
        why += " The cut that clears hub or rotor comes this close."
    wall = known(assembly.job.bracket.wall_mm) + (limit.watch - value)
    cures = (
        ()
        if cut or not is_known(wall)
        else (
            Remedy(
                f"Widen the wall round the holes to {words.size(_up(wall))}",
                _up(wall) - known(assembly.job.bracket.wall_mm),
                True,
                (("bracket.wall_mm", _up(wall)),),
                ("a larger, heavier plate",),
            ),
        )
    )
    missing = plate.fault or _holes_missing(assembly)
    return make_finding(
        "edge-distance",
        "Hole to edge of plate",
        value,
        limit,
        why,
        features=("bracket", hole.feature),
        remedies=cures,
        missing=missing,
    )


def _up(value: float) -> float:
    """Return ``value`` rounded up to half a millimetre."""
    return math.ceil(value * 2 - 1e-9) / 2


def bracket_to_rotor(assembly: Assembly, plate: FlatPlate, words: Words) -> Finding:
    """Room between plate and rotor."""
    value = nearest_gap(plate.reach, assembly.rotor)
    why = (
        room_told("plate", "the rotor", value, words)
        + "; it must clear when the rotor is hot and its bearings have play."
    )
    limit = limit_for(assembly.job, "bracket-to-rotor")
    return make_finding(
        "bracket-to-rotor",
        "Plate clear of the rotor",
        value,
        limit,
        why,
        features=("bracket", "rotor"),
        missing=rotor_missing(assembly) or plate.fault,
    )


def bracket_to_hub(assembly: Assembly, plate: FlatPlate, words: Words) -> Finding:
    """Room between plate and hub flange."""
    value = nearest_gap(plate.reach, assembly.hub)
    why = room_told("plate", "hub and axle", value, words) + "; what turns must not meet what stands."
    limit = limit_for(assembly.job, "bracket-to-hub")
    missing = hub_missing(assembly)
    return make_finding(
        "bracket-to-hub",
        "Plate clear of the hub",
        value,
        limit,
        why,
        features=("bracket", "hub"),
        missing=missing or _holes_missing(assembly) or plate.fault,
    )


def hub_missing(assembly: Assembly) -> str:
    """Return which sizes of the hub are missing, in words."""
    hub = assembly.job.hub
    return missing_names(
        pilot_diameter=hub.pilot_diameter_mm, flange_diameter=hub.flange_diameter_mm, flange_thickness=hub.flange_thickness_mm,
    )  # fmt: skip


def room_told(what: str, other: str, value: float, words: Words) -> str:
    """Return a gap as the beginning of a sentence: what clears the other, or runs into it."""
    if value < 0:
        return f"The {what} runs {words.gap(value)} into {other}"
    return f"The {what} clears {other} by {words.gap(value)}"


def rotor_missing(assembly: Assembly) -> str:
    """Return which sizes of the rotor are missing, in words."""
    rotor = assembly.job.rotor
    return missing_names(
        hat_inside_diameter=rotor.hollow_mm,
        overall_height=rotor.height_mm,
        hat_thickness=rotor.flange_mm,
        rotor_diameter=rotor.diameter_mm,
        rotor_thickness=rotor.thickness_mm,
        centre_bore=rotor.centre_bore_mm,
    )


def bolt_findings(assembly: Assembly, words: Words, cures: bool = True) -> tuple[Finding, ...]:
    """Return the findings on bolt tips and thread engagement; without ``cures`` no remedy is looked for."""
    return bolt_tips(assembly, words, cures), engagement(assembly, words, cures)


def bolt_tips(assembly: Assembly, words: Words, cured: bool = True) -> Finding:
    """The least room between any bolt end (tip or head) and the rotor."""
    limit = limit_for(assembly.job, "bolt-tip-to-rotor")
    rows = [(placed, end, bolt_gap(assembly, placed, end)) for placed in assembly.joints for end in ("tip", "head")]
    both = {placed.feature.split("-")[0] for placed in assembly.joints} == set(assembly.bolted)
    certain = [row for row in rows if not math.isnan(row[2])]
    clash = any(gap <= 0.0 for *_, gap in certain)  # is said whatever else is missing
    if not clash and (not both or len(certain) < len(rows)):
        missing = _bolts_missing(assembly)
        return make_finding(
            "bolt-tip-to-rotor",
            "Bolt ends clear of the rotor",
            UNKNOWN,
            limit,
            "",
            missing=missing,
            features=("rotor", "bolts"),
        )
    placed, end, value = min(certain, key=lambda row: row[2])
    name = f"{end} of the {placed.name}"
    why = room_told(name, "the rotor", value, words) + "; a bolt that touches saws through the rotor or itself."
    wanted = cured and judge(value, limit) is not Verdict.OK
    cures = _tip_remedies(assembly, placed, end, limit, words) if wanted else ()
    return make_finding(
        "bolt-tip-to-rotor",
        "Bolt ends clear of the rotor",
        value,
        limit,
        why,
        remedies=cures,
        features=(placed.feature, "rotor"),
    )


def _bolts_missing(assembly: Assembly) -> str:
    job = assembly.job
    lengths = all(is_known(p.joint.length) for p in assembly.joints)
    thick = all(lug.thickness_mm is not None for lug in job.knuckle.lugs)
    return missing_names(
        lug_bolt=job.bracket.lug_bolt,
        caliper_bolt=job.bracket.caliper_bolt,
        ear_thickness=job.caliper.ear_thickness_mm,
        thickness_of_every_lug=0.0 if thick else None,
        a_stock_length_long_enough=0.0 if lengths else None,
    ) or rotor_missing(assembly)


def bolt_gap(assembly: Assembly, placed: PlacedJoint, end: str) -> float:
    """Return the room between one end of a bolt and the rotor [mm]."""
    if not is_known(placed.tip_z, placed.head_z):
        return UNKNOWN
    rho, joint = math.hypot(*placed.centre), placed.joint
    if end == "head":
        radius, span = head_radius(joint), ordered(placed.seat_z, placed.head_z)
    else:
        radius, span = tip_radius(joint), (placed.tip_z, placed.tip_z)
    return nearest_gap(Ring(max(rho - radius, 0.0), rho + radius, *span), assembly.rotor)


def _tip_remedies(assembly: Assembly, placed: PlacedJoint, end: str, limit: Limit, words: Words) -> tuple[Remedy, ...]:
    """Shorter bolts from stock, then more washers: each only if it clears and still holds."""
    group = "lug" if placed.feature.startswith("lug") else "caliper"
    if end == "head":
        return (Remedy("Use bolts with a lower head, or enter them from the other side", None, True),)
    members = [p for p in assembly.joints if p.feature.split("-")[0] == placed.feature.split("-")[0]]
    found: list[Remedy] = []
    for length in reversed(placed.joint.thread.stock_lengths):
        if length < placed.joint.length and _holds(assembly, members, limit, length=length):
            change = placed.joint.length - length
            left = min(replace(p.joint, length=length).engagement for p in members)
            found.append(
                Remedy(
                    f"Use {words.bolt(placed.joint.thread.name, length)} bolts, {words.gap(change)} shorter",
                    round(change, 4),
                    True,
                    ((f"bracket.{group}_bolt_length_mm", length),),
                    (f"{words.size(left)} of thread engaged",),
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
                    (f"{words.gap(thick)} less thread engaged",),
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


def engagement(assembly: Assembly, words: Words, cured: bool = True) -> Finding:
    """The least thread engagement of any bolt against what its thread needs."""
    job = assembly.job
    rows = [(placed, placed.joint.engagement, _engagement_limit(assembly, placed)) for placed in assembly.joints]
    groups = {placed.feature.split("-")[0] for placed, *_ in rows}
    if groups != set(assembly.bolted) or any(math.isnan(value) for _, value, _ in rows):
        base = limit_in_mm(job, "thread-engagement", UNKNOWN)
        return make_finding(
            "thread-engagement",
            "Thread engagement of the bolts",
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
    why = f"The {placed.name} has {words.size(value)} of thread in the {placed.joint.stack.female}; too little strips."
    return make_finding(
        "thread-engagement",
        "Thread engagement of the bolts",
        value,
        limit,
        why,
        features=(placed.feature, _female_feature(placed)),
        remedies=_longer(assembly, placed, limit, words) if cured and bad is not Verdict.OK else (),
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
    return {"plate": "bracket", "ear": f"ear-{index}"}.get(placed.joint.stack.female, f"lug-{index}")


def _assumed(assembly: Assembly, placed: PlacedJoint) -> tuple[str, ...]:
    female = placed.joint.stack.female
    unstated = (female == "lug" and assembly.job.knuckle.material is None) or (
        female == "ear" and assembly.job.caliper.ear_material is None
    )
    return (f"the {female}'s material is not stated: taken as aluminium",) if unstated else ()


def _longer(assembly: Assembly, placed: PlacedJoint, limit: Limit, words: Words) -> tuple[Remedy, ...]:
    """Longer bolts from stock that clear the rotor, then fewer washers."""
    group = "lug" if placed.feature.startswith("lug") else "caliper"
    members = [p for p in assembly.joints if p.feature.split("-")[0] == placed.feature.split("-")[0]]
    tip = limit_for(assembly.job, "bolt-tip-to-rotor")
    found: list[Remedy] = []
    joint = placed.joint
    for length in joint.thread.stock_lengths:
        gained = replace(joint, length=length).engagement
        if length > joint.length and gained > joint.engagement and _holds(assembly, members, tip, length=length):
            found.append(
                Remedy(
                    f"Use {words.bolt(joint.thread.name, length)} bolts, {words.gap(length - joint.length)} longer",
                    round(length - joint.length, 4),
                    True,
                    ((f"bracket.{group}_bolt_length_mm", length),),
                    (f"{words.size(gained)} of thread engaged",),
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

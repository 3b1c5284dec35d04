"""Findings of the plate: metal between holes, edges, room to rotor and hub; counterbores, slots, dowels, cutouts, chamfers."""

import math

from bicentra.core.base.finding import Finding, Remedy, Verdict, judge
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat, make_finding, missing_names
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.cutouts import Metal, cutout_finding, metal_beside
from bicentra.core.bracket.holes import Hole
from bicentra.core.bracket.model import PlateShape
from bicentra.core.bracket.plate import edge_distance, ligaments
from bicentra.core.lineup.solids import first_known_of
from bicentra.core.parts.job import Cutout
from bicentra.core.parts.limits import limit_for, limit_in_mm


def slot_hold(assembly: Assembly, lengths: LengthFormat) -> Finding:
    """What holds the plate where it was set: clamped slots alone slip, dowels do not. A watch at worst."""
    travel, pins = known(assembly.job.bracket.slot_mm), len(assembly.job.bracket.dowels)
    holds = f"{pins} dowel{'s hold' if pins != 1 else ' holds'} it there" if pins else "only friction holds it there"
    why = f"The slots let the plate be set over {lengths.gap(travel)}; {holds}. Set it on the dry fit, then ream for two dowels."
    return make_finding("slot-hold", float(pins), limit_for(assembly.job, "slot-hold"), why,
                        features=("bracket",))  # fmt: skip


def chamfer_land(assembly: Assembly, lengths: LengthFormat) -> Finding:
    """What is left of the plate's edge between its two chamfers."""
    left = assembly.stack_up.thickness - 2 * known(assembly.job.bracket.chamfer_mm)
    why = f"{lengths.gap(left)} of straight edge is left between the chamfers; a knife edge chips and cuts hands."
    return make_finding("chamfer-land", left, limit_for(assembly.job, "chamfer-land"), why,
                        features=("bracket",), missing="the plate's thickness is still unknown")  # fmt: skip


def dowel_metal(assembly: Assembly, plate: PlateShape, lengths: LengthFormat) -> Finding:
    """The least metal between a dowel and an edge, a hole or another dowel."""
    pins = tuple(Cutout(x_mm=p.x_mm, y_mm=p.y_mm, diameter_mm=p.diameter_mm) for p in assembly.job.bracket.dowels)
    metal = Metal(UNKNOWN, 0, "")
    if plate.outline is not None:
        metal = _while_open(metal_beside(pins, plate.outline, plate.window, assembly.holes), plate)
    beside = metal.beside.replace("cutout", "dowel")
    left = lengths.gap(metal.value)
    why = f"Dowel {metal.number + 1}: {left} of metal is left towards {beside}; a thin wall gives under the pin."
    return make_finding("dowel-metal", metal.value, limit_for(assembly.job, "dowel-metal"), why,
                        features=("bracket",), missing="place and size of every dowel, and the plate's outline")  # fmt: skip


def _while_open(metal: Metal, plate: PlateShape) -> Metal:
    """Return ``metal``, unknown where the room for hub or rotor may still take some of it."""
    return Metal(UNKNOWN, metal.number, metal.beside) if plate.open and metal.value > 0.0 else metal


def floor_left(assembly: Assembly, holes: tuple[Hole, ...], lengths: LengthFormat) -> Finding:
    """What is left of the plate under the deepest counterbore of ``holes``."""
    metal = {"lug": assembly.stack_up.thickness, "ear": assembly.stack_up.metal_at_ears}
    hole = min((h for h in holes if h.recess), key=lambda h: metal[h.feature[:3]] - h.recess)
    left = metal[hole.feature[:3]] - hole.recess
    why = f"{lengths.gap(left)} of plate is left under the counterbore at {hole.name}; the bolt pulls through a thin floor."
    limit = limit_for(assembly.job, "counterbore-floor")
    return make_finding("counterbore-floor", left, limit, why, features=(hole.feature, "bracket"),
                        remedies=_floor_remedies(assembly, hole, limit, lengths),
                        missing="the plate's thickness is still unknown")  # fmt: skip


def _floor_remedies(assembly: Assembly, hole: Hole, limit: Limit, lengths: LengthFormat) -> tuple[Remedy, ...]:
    """Drill plain holes, or take the thinnest stock that leaves the floor."""
    group = "lug" if hole.at == "lug" else "caliper"
    plain = Remedy("Drill plain holes and let the heads stand proud", None, True,
                   ((f"bracket.{group}_hole", "clearance"),), ("needs room in front of the heads",))  # fmt: skip
    wanted, stock = hole.recess + limit.watch, assembly.job.bracket.stock
    thick = min((t for t in stock if t >= wanted > assembly.stack_up.thickness), default=None)
    if thick is None or assembly.bolted != ("lug", "ear"):  # a plate on the axle's end is as thick as what it replaces
        return (plain,)
    change = thick - assembly.stack_up.thickness
    thicker = Remedy(
        f"Make the plate from {lengths.stock(thick)} stock",
        round(change, 4),
        True,
        (("bracket.thickness_mm", thick),),
        (f"{lengths.gap(change)} thicker: the caliper moves unless shims go",),
    )
    return plain, thicker


def cutouts_metal(assembly: Assembly, plate: PlateShape, lengths: LengthFormat) -> Finding:
    """The least metal beside the cutouts of the plate."""
    metal = Metal(UNKNOWN, 0, "")
    if plate.outline is not None:
        metal = _while_open(
            metal_beside(assembly.job.bracket.cutouts, plate.outline, plate.window, assembly.holes), plate
        )
    return cutout_finding(assembly.job, metal, lengths)


def metal_findings(assembly: Assembly, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Return the findings on the metal round the holes of lugs and ears, and on what is worked into it."""
    floors, shape = floor_findings(assembly, lengths), assembly.bracket.shape
    if shape is None:
        return floors
    bracket = assembly.job.bracket
    return (
        ligament(assembly, lengths),
        edge(assembly, shape, lengths),
        *floors,
        *((cutouts_metal(assembly, shape, lengths),) if bracket.cutouts else ()),
        *((slot_hold(assembly, lengths),) if any(hole.slot for hole in assembly.holes) else ()),
        *((chamfer_land(assembly, lengths),) if bracket.chamfer_mm else ()),
        *((dowel_metal(assembly, shape, lengths),) if bracket.dowels else ()),
    )


def floor_findings(assembly: Assembly, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Return the finding on the metal under counterbores and countersinks, where there are any; it turns with nothing."""
    asked = tuple(hole for hole in assembly.holes if hole.at in assembly.bolted)
    return (floor_left(assembly, asked, lengths),) if any(hole.recess for hole in asked) else ()


def ligament(assembly: Assembly, lengths: LengthFormat) -> Finding:
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
            f"{lengths.gap(value)} of metal is left"
            if value >= 0
            else f"The holes run {lengths.gap(value)} into each other"
        )
        why = f"{left} between {least.first.name} and {least.second.name}; a thin bridge cracks."
    return make_finding("ligament", value, limit, why, features=features, missing=holes_missing(assembly))


def chosen_bolts(assembly: Assembly) -> dict[str, str | None]:
    """Return the bolts that this bracket takes by the names they are missed by; one that it does not take is not missed."""
    missed = assembly.unchosen if assembly.bracket.stands else assembly.bolted
    return {"lug_bolt": None if "lug" in missed else "chosen", "caliper_bolt": None if "ear" in missed else "chosen"}


def holes_missing(assembly: Assembly) -> str:
    """Return what keeps a hole from being known, in words."""
    job = assembly.job
    placed = all(is_known(*h.centre) for h in assembly.lug_holes)
    return missing_names(
        lug_bolt=None if any(hole.thread is None for hole in assembly.lug_holes) else "chosen",
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


def edge(assembly: Assembly, plate: PlateShape, lengths: LengthFormat) -> Finding:
    """Hole centre to the plate's edge, in millimetres against a number of hole diameters."""
    if plate.impossible:
        limit = limit_in_mm(assembly.job, "edge-distance", assembly.holes[0].diameter)
        why = f"There is no plate: {plate.fault}."
        return make_finding("edge-distance", 0.0, limit, why, features=("bracket", "hub"))
    rows = [(hole, edge_distance(plate, hole)) for hole in assembly.holes]
    limits = {id(hole): limit_in_mm(assembly.job, "edge-distance", hole.diameter) for hole in assembly.holes}
    hole, value = min(rows, key=lambda row: row[1] / row[0].diameter if is_known(row[1]) else -math.inf)
    limit = limits[id(hole)]
    why = f"The edge runs {lengths.gap(value)} from the centre of {hole.name} (Ø {lengths.size(hole.diameter)}); a near edge tears."
    cut = plate.keep_out > 0 and math.hypot(*hole.centre) - plate.keep_out < value + 0.01
    if cut:
        why += " The cut that clears hub or rotor comes this close."
    wall = known(assembly.job.bracket.wall_mm) + (limit.watch - value)
    remedies = (
        ()
        if cut or not is_known(wall)
        else (
            Remedy(
                f"Widen the wall round the holes to {lengths.size(_up(wall))}",
                _up(wall) - known(assembly.job.bracket.wall_mm),
                True,
                (("bracket.wall_mm", _up(wall)),),
                ("a larger, heavier plate",),
            ),
        )
    )
    missing = plate.fault or plate.open or holes_missing(assembly)
    if plate.open and judge(value, limit) is not Verdict.STOP:
        value = UNKNOWN
    return make_finding(
        "edge-distance",
        value,
        limit,
        why,
        features=("bracket", hole.feature),
        remedies=remedies,
        missing=missing,
    )


def _up(value: float) -> float:
    """Return ``value`` rounded up to half a millimetre."""
    return math.ceil(value * 2 - 1e-9) / 2


def hub_missing(assembly: Assembly) -> str:
    """Return which sizes of the hub are missing, in words."""
    hub = assembly.job.hub
    return missing_names(
        flange_diameter=hub.flange_diameter_mm, flange_thickness=hub.flange_thickness_mm,
    ) or missing_names(
        widest_part_that_turns_behind_the_flange=first_known_of(hub.barrel_diameter_mm, hub.tube_diameter_mm),
        height_of_the_studs_heads=hub.stud_back_mm,
    )  # fmt: skip


def space_text(what: str, other: str, value: float, lengths: LengthFormat) -> str:
    """Return a gap as the beginning of a sentence [mm]: what clears the other, or runs into it."""
    if value < 0:
        return f"The {what} runs {lengths.gap(value)} into {other}"
    return f"The {what} clears {other} by {lengths.gap(value)}"


def rotor_missing(assembly: Assembly) -> str:
    """Return which sizes of the rotor are missing, in words."""
    rotor = assembly.job.rotor
    if rotor.kind == "ring":  # it has no hat
        return missing_names(
            rotor_diameter=rotor.diameter_mm, rotor_thickness=rotor.thickness_mm, centre_bore=rotor.centre_bore_mm
        )
    return missing_names(
        hat_inside_diameter=rotor.hollow_mm,
        overall_height=rotor.height_mm,
        hat_thickness=rotor.flange_mm,
        rotor_diameter=rotor.diameter_mm,
        rotor_thickness=rotor.thickness_mm,
        centre_bore=rotor.centre_bore_mm,
    ) or missing_names(hat_outside_diameter=rotor.hat_outer_diameter_mm)

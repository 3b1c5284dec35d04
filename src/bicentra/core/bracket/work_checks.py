"""Findings of what is worked into the plate: counterbores, slots, dowels, cutouts, chamfers."""

from bicentra.core.base.finding import Finding, Remedy
from bicentra.core.base.limit import Limit
from bicentra.core.base.numbers import UNKNOWN, known
from bicentra.core.base.wording import LengthFormat, make_finding
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.cutouts import Metal, cutout_finding, metal_beside
from bicentra.core.bracket.holes import Hole
from bicentra.core.bracket.model import PlateShape
from bicentra.core.parts.job import Cutout
from bicentra.core.parts.limits import limit_for


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

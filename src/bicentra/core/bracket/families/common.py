"""What several families ask: how far the plate has to reach, where it stands, bores of a plate."""

import math

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.holes import Hole
from bicentra.core.bracket.model import Bore, Bracket, HeadSink, MadePart, PlateShape, Pocket
from bicentra.core.bracket.plate import chamfer_volume, shape_plate
from bicentra.core.bracket.stack_up import StackUp, ear_lift, pack
from bicentra.core.geometry.outline import circle_outline
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job

NOT_KNOWN = "The line-up is still unknown: the findings name what to measure."
CUT = ("saw or laser", "drill")
LEAST_METAL_MM = 6.0
"""Thinnest metal left under an ear or a lug: common practice for steel plates, no strength is computed yet."""


def reach_of(stack_up: StackUp, line: LineUp) -> float:
    """Return what the bracket has to make up on its own side [mm], the least over the lugs: sgn·Δ."""
    reaches = reaches_of(stack_up, line)
    return min(reaches) if reaches and is_known(*reaches) else UNKNOWN


def reaches_of(stack_up: StackUp, line: LineUp) -> list[float]:
    """Return sgn·Δ at every lug [mm]: what a bracket on that side has to make up there."""
    return [stack_up.sign * (line.ear_face_z - face) for face in stack_up.lug_faces]


def fit_bolts(job: Job, line: LineUp, thickness: float | None, shims: tuple[float, ...] | None) -> StackUp:
    """Return the stack-up with another plate [mm]: thickness and what lies under it at each lug."""
    return pack(replace(job, bracket=replace(job.bracket, thickness_mm=thickness, shims_mm=shims)), line)


def stock_plate(job: Job, least: float) -> float:
    """Return the plate's thickness [mm]: as the job asks, else the thinnest stock of at least ``least``, else the thickest."""
    stock = sorted(job.bracket.stock)
    return (
        known(job.bracket.thickness_mm)
        if job.bracket.thickness_mm
        else next((t for t in stock if t >= least - 1e-9), stock[-1])
    )


def evened(reaches: list[float]) -> tuple[float, ...]:
    """Return what evens out lugs that stand unlike [mm]: a shim at each but the one that leaves least."""
    return tuple(round(reach - min(reaches), 6) for reach in reaches)


def carrying(
    base: StackUp,
    line: LineUp,
    thickness: float,
    shims: tuple[float, ...],
    at_ears: tuple[float, float],
    z0: float | None = None,
) -> StackUp:
    """Return the stack-up of a bracket that puts the caliper dead on its place: plate on ``shims`` at the lugs.

    ``at_ears``: metal there and loose spacer between it and the ears [mm]. ``z0``: inboard face of a plate off the lugs
    [mm].
    """
    near = [face + base.sign * shim for face, shim in zip(base.lug_faces, shims)]
    low = math.fsum(near) / len(near) if near else UNKNOWN
    if z0 is not None:
        low = z0 if base.sign > 0 else z0 + thickness
    lift = ear_lift(base.sign, base.ears_on_far_face, base.ear_shims)  # it is made dead on without shims at the ears
    return replace(
        base, thickness=thickness, shims=shims, errors=(lift,) * max(len(shims), 1), near_z=low,
        far_z=low + base.sign * thickness, ear_z=line.ear_face_z + lift, ear_metal=at_ears[0], ear_spacer=at_ears[1],
    )  # fmt: skip


def cut_plate(assembly: Assembly, lengths: LengthFormat) -> Bracket:
    """Return the bracket of ``assembly`` with its plate cut round the bosses; without one it says what is at fault."""
    del lengths
    bracket, shape = assembly.bracket, shape_plate(assembly)
    if shape.outline is None:
        return replace(bracket, shape=shape, parts=(), why=shape.fault)
    plate = plate_part(assembly, shape, "adapter plate", CUT)
    return replace(bracket, shape=shape, parts=(plate, *bracket.parts))


def plate_part(assembly: Assembly, shape: PlateShape, name: str, processes: tuple[str, ...]) -> MadePart:
    """Return the plate round the bosses as a made part."""
    stack_up, job = assembly.stack_up, assembly.job
    heads = {"lug": stack_up.sign, "ear": -1.0 if job.caliper.ear_seat == "inboard" else 1.0}
    pockets = tuple(pocket for hole in assembly.holes for pocket in counterbore_of(hole, heads[hole.feature[:3]]))
    size = known(job.bracket.chamfer_mm) if job.bracket.chamfer_mm else 0.0
    gone = math.fsum(hole.sunk_volume for hole in assembly.holes)
    gone += chamfer_volume(shape.outline, size) if shape.outline is not None else 0.0
    bores = (*(bore_of(hole, heads[hole.feature[:3]], job.lengths) for hole in assembly.holes), *dowels_of(job))
    volume = net_area(job, assembly.holes, shape) * stack_up.thickness - gone
    return MadePart(
        name, "plate", assembly.job.bracket.material or "", stack_up.thickness, volume,
        shape.outline, shape.window, z0=stack_up.z_range[0], bores=bores, cutouts=shape.cutouts, pockets=pockets,
        chamfer=size, processes=(*processes, "chamfer") if size else processes,
    )  # fmt: skip


def net_area(job: Job, holes: tuple[Hole, ...], shape: PlateShape) -> float:
    """Return the plate's face less holes, dowels, window and cutouts [mm2]; unknown without an outline."""
    if shape.outline is None:
        return UNKNOWN
    placed = (p for p in job.bracket.dowels if is_known(p.x_mm, p.y_mm, p.diameter_mm))
    gone = sum(hole.area for hole in holes) + sum(math.pi / 4 * known(pin.diameter_mm) ** 2 for pin in placed)
    return shape.outline.area - gone - (shape.window.area if shape.window else 0.0) - sum(c.area for c in shape.cutouts)


def bore_of(hole: Hole, face: float, lengths: LengthFormat) -> Bore:
    """Return a hole of the plate as a bore [mm]; ``face``: from which its bolt's head enters."""
    tapped = hole.thread.name if hole.kind == "tapped" and hole.thread is not None else ""
    sink = HeadSink(hole.recess_diameter, hole.sink, face) if hole.sink else None
    return Bore(hole.name, hole.centre, hole.drill, hole.text(lengths), tapped, hole.slot, hole.way, sink, hole.feature)


def counterbore_of(hole: Hole, face: float) -> tuple[Pocket, ...]:
    """Return a hole's counterbore as a pocket [mm] of the face its bolt's head enters from; nothing where it has none."""
    if not hole.recess or hole.sink:
        return ()
    return (Pocket(circle_outline(hole.centre, hole.recess_diameter / 2), hole.recess, face),)


def dowels_of(job: Job) -> tuple[Bore, ...]:
    """Return the holes of the dowels that are placed."""
    return tuple(
        Bore(f"dowel {k}", (known(pin.x_mm), known(pin.y_mm)), known(pin.diameter_mm),
             f"ream Ø {job.lengths.size(known(pin.diameter_mm))} H7 when set")
        for k, pin in enumerate(job.bracket.dowels, 1)
        if is_known(pin.x_mm, pin.y_mm, pin.diameter_mm)
    )  # fmt: skip

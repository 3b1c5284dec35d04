"""What several families ask: how far the plate has to reach, which of the common findings hold, bores of a plate."""

import math
from dataclasses import replace

import numpy as np

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.limit import Limit
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.outline import circle_outline
from bicentra.core.base.wording import Words, make_finding
from bicentra.core.bracket.axial import axial_finding, shim_finding
from bicentra.core.bracket.bolt_checks import bolt_findings
from bicentra.core.bracket.checks import plate_findings
from bicentra.core.bracket.clock_checks import head_room
from bicentra.core.bracket.families.model import Bore, Candidate, MadePart, Pocket, Sink, decided
from bicentra.core.bracket.families.rooms import room_findings
from bicentra.core.bracket.families.slabs import chamfer_milled, part_slabs
from bicentra.core.bracket.flat_plate import Assembly, FlatPlate, assemble, chamfer_volume, make_plate, placed_with
from bicentra.core.bracket.holes import Hole
from bicentra.core.bracket.work_checks import floor_left
from bicentra.core.parts.job import Job

OF_THE_METAL = (
    "ligament",
    "edge-distance",
    "counterbore-floor",
    "cutout-metal",
    "slot-hold",
    "dowel-metal",
    "chamfer-land",
)
SHARP = ("weld-on", "radial-mount")
"""Families whose edges stay as they are: a saddle that is welded, a seat that carries feet."""
UNSHAPED = ("axle-end-plate", "radial-mount", "weld-on")
"""Families whose outline is their own: cutouts, dowels and pulled edges are not cut into them."""
LEAST_METAL_MM = 6.0
"""Thinnest metal left under an ear or a lug: common practice for steel plates, no strength is computed yet."""


def reach_of(assembly: Assembly) -> float:
    """Return what the bracket has to make up on its own side [mm], the least over the lugs: sgn·Δ."""
    reaches = reaches_of(assembly)
    return min(reaches) if reaches and is_known(*reaches) else UNKNOWN


def fitted(job: Job, thickness: float | None, shims: tuple[float, ...] | None) -> Assembly:
    """Return the assembly with another plate: thickness and what lies under it at each lug."""
    return assemble(
        replace(job, bracket=replace(job.bracket, thickness_mm=thickness, shims_mm=shims, family="flat-plate"))
    )


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


def reaches_of(assembly: Assembly) -> list[float]:
    """Return sgn·Δ at every lug [mm]: what a bracket on that side has to make up there."""
    packing = assembly.packing
    return [packing.sign * (assembly.line.ear_face_z - face) for face in packing.lug_faces]


def standing(
    base: Assembly,
    thickness: float,
    shims: tuple[float, ...],
    at_ears: tuple[float, float],
    bolted: tuple[str, ...] = ("lug", "ear"),
    z0: float | None = None,
) -> Assembly:
    """Return ``base`` with a bracket that puts the caliper dead on its place: plate on ``shims`` at the lugs.

    ``at_ears``: metal there and loose spacer between it and the ears [mm]. ``z0``: inboard face of a plate off the lugs [mm].
    """  # fmt: skip
    packing, line = base.packing, base.line
    near = [face + packing.sign * shim for face, shim in zip(packing.lug_faces, shims)]
    low = math.fsum(near) / len(near) if near else UNKNOWN
    if z0 is not None:
        low = z0 if packing.sign > 0 else z0 + thickness
    stands = replace(
        packing, thickness=thickness, shims=shims, errors=(0.0,) * max(len(shims), 1), near_z=low,
        far_z=low + packing.sign * thickness, ear_z=line.ear_face_z, ear_metal=at_ears[0], ear_spacer=at_ears[1],
    )  # fmt: skip
    return placed_with(base.job, line, stands, bolted)


def completed(candidate: Candidate, stands: Assembly, words: Words, spaced: bool = False) -> Candidate:
    """Return ``candidate`` where it stands, with what is asked of every bracket: rooms, bolts, heads, shims; its own ask first.

    ``spaced``: what lies under it at the lugs is made spacers, not shims.
    """
    size = known(stands.job.bracket.chamfer_mm) if stands.job.bracket.chamfer_mm else 0.0
    if size and candidate.family not in SHARP:
        candidate = replace(candidate, parts=tuple(_chamfered(part, size) for part in candidate.parts))
    stands = replace(stands, metal=tuple(slab for part in candidate.parts for slab in part_slabs(part)))
    asked = [axial_finding(stands, words, cures=False), *bolt_findings(stands, words, cures=False)]
    if "lug" in stands.bolted and max(stands.packing.shims, default=0.0) > 0.0 and not spaced:
        asked.append(shim_finding(stands, words))
    if any(hole.recess for hole in stands.holes if hole.feature[:3] in stands.bolted):
        asked.append(floor_left(stands, words))
    if any(part.shape == "plate" for part in candidate.parts):
        asked += room_findings(candidate.family, stands, words)
        asked.append(head_room(stands, np.radians([stands.line.clock]), words, turns=False))
    if candidate.family in UNSHAPED:
        asked += _not_shaped(stands.job)
    own = {finding.id for finding in candidate.findings}
    findings = (*candidate.findings, *(finding for finding in asked if finding.id not in own))
    return decided(replace(candidate, findings=findings, stands=stands))


def _not_shaped(job: Job) -> list[Finding]:
    """Say what of the job's shaping this bracket does not carry; nothing where there is none."""
    bracket = job.bracket
    kinds = (("cutouts", bracket.cutouts), ("dowels", bracket.dowels), ("pulled edges", bracket.pulls))
    left = [what for what, there in kinds if there]
    if not left:
        return []
    why = f"The {' and '.join(left)} of the job are not on a bracket of this kind: remove them, or shape it by hand."
    nan = float("nan")
    return [
        Finding(
            "not-shaped",
            Verdict.CAUTION,
            nan,
            nan,
            "",
            why,
            features=("bracket",),
            source="This version",
        )
    ]


def _chamfered(part: MadePart, size: float) -> MadePart:
    """Return a plate with its rims chamfered, unless it is already, is bent, or is no plate."""
    if part.outline is None or part.bends or part.chamfer:
        return part
    done = replace(part, chamfer=size, processes=(*part.processes, "chamfer"))
    return replace(done, volume=part.volume - chamfer_volume(part.outline, size) + chamfer_milled(done))


def plate_part(assembly: Assembly, plate: FlatPlate, name: str, processes: tuple[str, ...]) -> MadePart:
    """Return the flat plate as a made part."""
    packing, job = assembly.packing, assembly.job
    heads = {"lug": packing.sign, "ear": -1.0 if job.caliper.ear_seat == "inboard" else 1.0}
    sunk = [hole for hole in assembly.holes if hole.recess and not hole.sink]
    pockets = tuple(
        Pocket(circle_outline(hole.centre, hole.recess_diameter / 2), hole.recess, heads[hole.feature[:3]])
        for hole in sunk
    )
    size = known(job.bracket.chamfer_mm) if job.bracket.chamfer_mm else 0.0
    gone = math.fsum(hole.sunk_volume for hole in assembly.holes)
    gone += chamfer_volume(plate.outline, size) if plate.outline is not None else 0.0
    bores = (*(bore_of(hole, heads[hole.feature[:3]]) for hole in assembly.holes), *dowels_of(job))
    return MadePart(
        name, "plate", assembly.job.bracket.material or "", packing.thickness, plate.area * packing.thickness - gone,
        plate.outline, plate.window, z0=packing.z_range[0], bores=bores, cutouts=plate.cutouts, pockets=pockets,
        chamfer=size, processes=(*processes, "chamfer") if size else processes,
    )  # fmt: skip


def bore_of(hole: Hole, face: float) -> Bore:
    """Return a hole of the plate as a bore; ``face``: from which its bolt's head enters."""
    tapped = hole.thread.name if hole.kind == "tapped" and hole.thread is not None else ""
    sink = Sink(hole.recess_diameter, hole.sink, face) if hole.sink else None
    return Bore(hole.name, hole.centre, hole.drill, hole.note, tapped, hole.slot, hole.way, sink)


def dowels_of(job: Job) -> tuple[Bore, ...]:
    """Return the holes of the dowels that are placed."""
    return tuple(
        Bore(f"dowel {k}", (known(pin.x_mm), known(pin.y_mm)), known(pin.diameter_mm),
             f"ream Ø {known(pin.diameter_mm):g} H7 when set")
        for k, pin in enumerate(job.bracket.dowels, 1)
        if is_known(pin.x_mm, pin.y_mm, pin.diameter_mm)
    )  # fmt: skip


def shared_findings(assembly: Assembly, plate: FlatPlate, words: Words) -> tuple[Finding, ...]:
    """Return what is asked of the plate alone: caliper centred, metal between holes, edges, floors of counterbores."""
    floors = tuple(f for f in plate_findings(assembly, plate, words) if f.id in OF_THE_METAL)
    return axial_finding(assembly, words, cures=False), *floors


def plate_of(job: Job, thickness: float | None, shims: tuple[float, ...] | None) -> tuple[Assembly, FlatPlate]:
    """Return assembly and plate for one choice of thickness and shims."""
    assembly = fitted(job, thickness, shims)
    return assembly, make_plate(assembly)


def room(id: str, value: float, least: float, watch: float, why: str, missing: str = "") -> Finding:
    """Return a finding of a family's own: ``value`` [mm] must be at least ``least``; common practice."""
    return make_finding(id, value, Limit(least, watch), why, features=("bracket",), missing=missing)

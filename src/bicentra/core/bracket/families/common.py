"""What several families ask: how far the plate has to reach, which of the common findings hold, bores of a plate."""

import math
from dataclasses import replace

from bicentra.core.base.finding import Finding, Limit
from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.outline import circle_outline
from bicentra.core.base.wording import Words, make_finding
from bicentra.core.bracket.axial import axial_finding
from bicentra.core.bracket.checks import bolt_findings, bracket_to_hub, bracket_to_rotor, edge, ligament
from bicentra.core.bracket.families.model import Bore, MadePart, Pocket
from bicentra.core.bracket.flat_plate import Assembly, FlatPlate, assemble, make_plate
from bicentra.core.bracket.holes import Hole
from bicentra.core.parts.job import Job

LEAST_METAL_MM = 6.0
"""Thinnest metal left under an ear or a lug: common practice for steel plates, no strength is computed yet."""


def reach_of(assembly: Assembly) -> float:
    """Return what the bracket has to make up on its own side [mm], the least over the lugs: sgn·Δ."""
    packing = assembly.packing
    reaches = [packing.sign * (assembly.line.ear_face_z - face) for face in packing.lug_faces]
    return min(reaches) if reaches and is_known(*reaches) else UNKNOWN


def fitted(job: Job, thickness: float | None, shims: tuple[float, ...] | None) -> Assembly:
    """Return the assembly with another plate: thickness and what lies under it at each lug, bolt lengths chosen anew."""
    bracket = replace(
        job.bracket, thickness_mm=thickness, shims_mm=shims, lug_bolt_length_mm=None, caliper_bolt_length_mm=None,
        family="flat-plate",
    )  # fmt: skip
    return assemble(replace(job, bracket=bracket))


def plate_part(assembly: Assembly, plate: FlatPlate, name: str, processes: tuple[str, ...]) -> MadePart:
    """Return the flat plate as a made part."""
    packing, job = assembly.packing, assembly.job
    heads = {"lug": packing.sign, "ear": -1.0 if job.caliper.ear_seat == "inboard" else 1.0}
    sunk = [hole for hole in assembly.holes if hole.recess]
    pockets = tuple(
        Pocket(circle_outline(hole.centre, hole.recess_diameter / 2), hole.recess, heads[hole.feature[:3]])
        for hole in sunk
    )
    gone = sum(math.pi / 4 * (hole.recess_diameter**2 - hole.drill**2) * hole.recess for hole in sunk)
    bores = tuple(bore_of(hole) for hole in assembly.holes)
    return MadePart(
        name, "plate", assembly.job.bracket.material or "", packing.thickness, plate.area * packing.thickness - gone,
        plate.outline, plate.window, z0=packing.z_range[0], bores=bores, cutouts=plate.cutouts, pockets=pockets,
        processes=processes,
    )  # fmt: skip


def bore_of(hole: Hole) -> Bore:
    """Return a hole of the plate as a bore."""
    tapped = hole.thread.name if hole.kind == "tapped" and hole.thread is not None else ""
    return Bore(hole.name, hole.centre, hole.drill, hole.note, tapped)


def shared_findings(assembly: Assembly, plate: FlatPlate, words: Words) -> tuple[Finding, ...]:
    """Return the findings that hold for every plate with bolts: axial, metal between holes, edges, rotor, hub, bolts."""
    return (
        axial_finding(assembly, words, cures=False),
        ligament(assembly, words),
        edge(assembly, plate, words),
        bracket_to_rotor(assembly, plate, words),
        bracket_to_hub(assembly, plate, words),
        *bolt_findings(assembly, words, cures=False),
    )


def plate_of(job: Job, thickness: float | None, shims: tuple[float, ...] | None) -> tuple[Assembly, FlatPlate]:
    """Return assembly and plate for one choice of thickness and shims."""
    assembly = fitted(job, thickness, shims)
    return assembly, make_plate(assembly)


def room(id: str, title: str, value: float, least: float, watch: float, why: str, missing: str = "") -> Finding:
    """Return a finding of a family's own: ``value`` [mm] must be at least ``least``; common practice."""
    return make_finding(id, title, value, Limit(least, watch), why, features=("bracket",), missing=missing)

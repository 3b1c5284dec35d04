"""Families that stay flat: one plate, a plate with a milled step, a plate on spacers."""

import math

import shapely

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.outline import Outline, circle_outline
from bicentra.core.base.wording import Words
from bicentra.core.bracket.axial import shim_finding
from bicentra.core.bracket.families.common import LEAST_METAL_MM, plate_of, plate_part, reach_of, room, shared_findings
from bicentra.core.bracket.families.model import Candidate, MadePart, Pocket, decided, ring_volume, unsuited
from bicentra.core.bracket.flat_plate import assemble
from bicentra.core.parts.job import Job
from bicentra.core.parts.materials import METRIC_STOCK_MM
from bicentra.core.parts.threads import find_thread

NOT_KNOWN = "The line-up is not known yet: the findings name what to measure."
CHORD_MM = 0.001
CUT = ("saw or laser", "drill")


def flat(job: Job, words: Words) -> Candidate:
    """One flat plate of stock thickness, the rest made up by shims."""
    title = "Flat plate"
    assembly, plate = plate_of(job, None, None)
    reach = reach_of(assembly)
    if not is_known(reach):
        return unsuited("flat-plate", title, NOT_KNOWN, ("line-up",))
    if plate.outline is None:
        return unsuited("flat-plate", title, plate.fault)
    thick, shims = assembly.packing.thickness, max(assembly.packing.shims, default=0.0)
    why = f"{words.size(thick)} plate and {words.gap(shims)} of shims make up {words.size(reach)}."
    findings = (*shared_findings(assembly, plate, words), shim_finding(assembly, words))
    solved = {"thickness_mm": thick, "shims_mm": shims, "offset_mm": reach}
    part = plate_part(assembly, plate, "adapter plate", CUT)
    return decided(Candidate("flat-plate", title, (part,), findings, why, True, solved))


def two_part(job: Job, words: Words) -> Candidate:
    """A thinner plate standing on round spacers at the lugs: for offsets no plate should make up alone."""
    title = "Plate on spacers"
    base = assemble(job)
    reach, packing = reach_of(base), base.packing
    thread = find_thread(job.bracket.lug_bolt) if job.bracket.lug_bolt else None
    if not is_known(reach) or thread is None:
        return unsuited("two-part", title, NOT_KNOWN, ("line-up", "lug bolt"))
    stock = job.bracket.stock_mm or METRIC_STOCK_MM
    thick = min((t for t in stock if t >= LEAST_METAL_MM), default=max(stock))
    carried = thick if packing.ears_on_far_face else 0.0
    longs = [round(packing.sign * (base.line.ear_face_z - face) - carried, 4) for face in packing.lug_faces]
    if min(longs) <= 0:
        why = f"{words.size(thick)} of plate alone makes up the {words.size(reach)}: no spacer has room."
        return unsuited("two-part", title, why)
    assembly, plate = plate_of(job, thick, tuple(longs))
    if plate.outline is None:
        return unsuited("two-part", title, plate.fault)
    inner, washer = thread.hardware.clearance, thread.hardware.washer_outer
    boss = known(job.knuckle.lugs[0].boss_mm)
    outer = max(washer, boss) if is_known(boss) else washer
    stout = outer / max(longs)
    told = ", ".join(words.size(long) for long in longs)
    why = f"{words.size(thick)} plate on spacers {told} long makes up {words.size(reach)}."
    slender = f"The spacers are {stout:.1f} times as wide as long; slender ones rock and bend the bolts."
    own = room("spacer-width", "Spacers stout enough", outer, max(longs) / 2, max(longs), slender)
    spacers = tuple(
        MadePart(f"spacer {k + 1}", "round", job.bracket.material or "", long, ring_volume(outer, inner, long), outer=outer,
                 inner=inner, centres=((known(lug.x_mm), known(lug.y_mm)),), z0=min(face, face + packing.sign * long),
                 processes=("lathe",))
        for k, (lug, long, face) in enumerate(zip(job.knuckle.lugs, longs, packing.lug_faces))
    )  # fmt: skip
    part = plate_part(assembly, plate, "adapter plate", CUT)
    solved = {
        "thickness_mm": thick, "spacer_mm": max(longs), "spacer_outer_mm": outer, "spacer_inner_mm": inner, "offset_mm": reach,
    }  # fmt: skip
    findings = (*shared_findings(assembly, plate, words), own)
    return decided(Candidate("two-part", title, (part, *spacers), findings, why, True, solved))


def stepped(job: Job, words: Words) -> Candidate:
    """A thicker plate milled down under the ears: exact without shims, and the way for ears on the lugs' own face."""
    title = "Stepped plate"
    base = assemble(job)
    reach, far, sign = reach_of(base), base.packing.ears_on_far_face, base.packing.sign
    if not is_known(reach):
        return unsuited("stepped-plate", title, NOT_KNOWN, ("line-up",))
    wanted = reach if far else reach + LEAST_METAL_MM
    stock = sorted(job.bracket.stock_mm or METRIC_STOCK_MM)
    thick = next((t for t in stock if t > wanted + 1e-9), None)
    if reach <= 0 or thick is None:
        return unsuited("stepped-plate", title, f"No stock plate is a step thicker than {words.size(wanted)}.")
    left = reach if far else thick - reach
    depth = thick - left
    assembly, plate = plate_of(job, left if far else thick, tuple(0.0 for _ in job.knuckle.lugs))
    if plate.outline is None:
        return unsuited("stepped-plate", title, plate.fault)
    boss = max(known(job.caliper.ear_boss_mm) / 2 + 2.0, *(h.boss_radius + 2.0 for h in assembly.holes[-2:]))
    floors = assembly.holes[-2:] if is_known(boss) else ()
    pockets = tuple(Pocket(circle_outline(hole.centre, boss), depth, sign if far else -sign) for hole in floors)
    why = f"{words.size(thick)} plate, milled {words.gap(depth)} deep under the ears to {words.size(left)}; no shim is needed."
    floor = f"{words.gap(left)} is left under the ears; a thin floor bends."
    own = room("metal-under-step", "Metal left under the step", left, 4.0, LEAST_METAL_MM, floor)
    kept = ("ligament", "edge-distance")
    findings = (*(f for f in shared_findings(assembly, plate, words) if far or f.id in kept), own)
    bores = plate_part(assembly, plate, "", ()).bores
    milled = pocket_area(plate.outline, pockets) - math.fsum(math.pi / 4 * hole.drill**2 for hole in floors)
    near = assembly.packing.near_z
    part = MadePart(
        "stepped plate", "plate", job.bracket.material or "", thick, plate.area * thick - milled * depth, plate.outline,
        plate.window, z0=min(near, near + sign * thick), bores=bores, cutouts=plate.cutouts,
        pockets=pockets, processes=(*CUT, "mill"),
    )  # fmt: skip
    solved = {"thickness_mm": thick, "step_mm": depth, "left_mm": left, "offset_mm": reach}
    return decided(Candidate("stepped-plate", title, (part,), findings, why, True, solved))


def pocket_area(outline: Outline, pockets: tuple[Pocket, ...]) -> float:
    """Return the area [mm2] of ``outline`` that lies in any of ``pockets``, chords within a thousandth of a mm."""
    whole = shapely.Polygon(outline.polygon(CHORD_MM))
    floors = shapely.union_all([shapely.Polygon(pocket.outline.polygon(CHORD_MM)) for pocket in pockets])
    return float(shapely.intersection(whole, floors).area)

"""Families that stay flat: one plate, a plate with a milled step, a plate on spacers."""

import math
from collections.abc import Iterator
from dataclasses import replace
from itertools import combinations

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.outline import Outline, circle_outline
from bicentra.core.base.wording import Words
from bicentra.core.bracket.axial import shim_finding
from bicentra.core.bracket.bolt_checks import bolt_findings
from bicentra.core.bracket.checks import bracket_to_hub, bracket_to_rotor
from bicentra.core.bracket.clock_checks import clock_findings
from bicentra.core.bracket.families.common import (
    LEAST_METAL_MM,
    completed,
    evened,
    plate_of,
    plate_part,
    reach_of,
    reaches_of,
    room,
    shared_findings,
    standing,
    stock_plate,
)
from bicentra.core.bracket.families.model import Candidate, MadePart, Pocket, decided, ring_volume, unsuited
from bicentra.core.bracket.families.slabs import chamfer_milled, milled_volume
from bicentra.core.bracket.flat_plate import Assembly, assemble, chamfer_volume
from bicentra.core.bracket.packing import Packing
from bicentra.core.parts.job import Job
from bicentra.core.parts.threads import Thread, find_thread

NOT_KNOWN = "The line-up is not known yet: the findings name what to measure."
AT_THE_EARS = ("bracket-to-obstacle", "bracket-to-caliper", "bolt-head-room")
OVERRUN_MM, PAD_OVER_MM, SPACER_SHARE = 5.0, 1.0, 1.5
"""How far a cutter runs past the plate's edge, how much wider than its boss a pad is left [mm], and a spacer's greatest width
over that of its washer."""
CUT = ("saw or laser", "drill")


def flat(job: Job, words: Words) -> Candidate:
    """One flat plate of stock thickness, the rest made up by shims; as the job has it where it is the job's own."""
    title = "Flat plate"
    assembly, plate = plate_of(job, job.bracket.thickness_mm, job.bracket.shims_mm)
    reach = reach_of(assembly)
    if not is_known(reach):
        return unsuited("flat-plate", title, NOT_KNOWN, ("line-up",))
    if plate.outline is None:
        return unsuited("flat-plate", title, plate.fault)
    thick, shims = assembly.packing.thickness, max(assembly.packing.shims, default=0.0)
    why = f"{words.stock(thick)} plate and {words.gap(shims)} of shims make up {words.size(reach)}."
    turning = tuple(f for f in clock_findings(assembly, words, turns=False) if f.id in AT_THE_EARS)
    findings = (
        *shared_findings(assembly, plate, words), *bolt_findings(assembly, words, cures=False), *turning,
        bracket_to_rotor(assembly, plate, words), bracket_to_hub(assembly, plate, words), shim_finding(assembly, words),
    )  # fmt: skip
    solved = {"thickness_mm": thick, "shims_mm": shims, "offset_mm": reach}
    part = plate_part(assembly, plate, "adapter plate", CUT)
    return decided(Candidate("flat-plate", title, (part,), findings, why, True, solved, stands=assembly))


def two_part(job: Job, words: Words) -> Candidate:
    """A thinner plate standing on round spacers at the lugs: for offsets no plate should make up alone."""
    title = "Plate on spacers"
    base = assemble(job)
    reach, packing = reach_of(base), base.packing
    thread = find_thread(job.bracket.lug_bolt) if job.bracket.lug_bolt else None
    if not is_known(reach) or thread is None:
        return unsuited("two-part", title, NOT_KNOWN, ("line-up", "lug bolt"))
    thick = stock_plate(job, LEAST_METAL_MM)
    carried = thick if packing.ears_on_far_face else 0.0
    longs = [round(reach - carried, 4) for reach in reaches_of(base)]
    if min(longs) <= 0:
        why = f"{words.stock(thick)} of plate alone makes up the {words.size(reach)}: no spacer has room."
        return unsuited("two-part", title, why)
    assembly, plate = plate_of(job, thick, tuple(longs))
    if plate.outline is None:
        return unsuited("two-part", title, plate.fault)
    told = ", ".join(words.size(long) for long in longs)
    why = f"{words.stock(thick)} plate on spacers {told} long makes up {words.size(reach)}."
    spacers, own = round_spacers(job, packing, longs, thread)
    part = plate_part(assembly, plate, "adapter plate", CUT)
    solved = {
        "thickness_mm": thick, "spacer_mm": max(longs), "spacer_outer_mm": spacers[0].outer, "spacer_inner_mm": spacers[0].inner,
        "offset_mm": reach,
    }  # fmt: skip
    findings = (*shared_findings(assembly, plate, words), own)
    made = Candidate("two-part", title, (part, *spacers), findings, why, True, solved)
    return completed(made, assembly, words, spaced=True)


def stepped(job: Job, words: Words) -> Candidate:
    """A thicker plate milled down under the ears: exact without shims, and the way for ears on the lugs' own face."""
    title = "Stepped plate"
    base = assemble(job)
    reach, far, sign = reach_of(base), base.packing.ears_on_far_face, base.packing.sign
    if not is_known(reach):
        return unsuited("stepped-plate", title, NOT_KNOWN, ("line-up",))
    wanted = reach if far else reach + LEAST_METAL_MM
    stock = [job.bracket.thickness_mm] if job.bracket.thickness_mm else sorted(job.bracket.stock)
    thick = next((t for t in stock if t > wanted + 1e-9), None)
    if reach <= 0 or thick is None:
        return unsuited("stepped-plate", title, f"No stock plate is a step thicker than {words.size(wanted)}.")
    left = reach if far else thick - reach
    depth, shims = thick - left, evened(reaches_of(base))
    assembly, plate = plate_of(job, thick, shims)
    if plate.outline is None:
        return unsuited("stepped-plate", title, plate.fault)
    assembly = standing(assembly, thick, shims, (left, 0.0))
    why = f"{words.stock(thick)} plate, milled {words.gap(depth)} deep under the ears to {words.size(left)}"
    why += (
        "; no shim is needed."
        if max(shims) == 0.0
        else f"; {words.gap(max(shims))} of shims even out lugs that stand unlike."
    )
    floor = f"{words.gap(left)} is left under the ears; a thin floor bends."
    own = room("metal-under-step", left, 4.0, LEAST_METAL_MM, floor)
    findings = (*shared_findings(assembly, plate, words), own)
    whole = plate_part(assembly, plate, "stepped plate", (*CUT, "mill"))
    solved = {"thickness_mm": thick, "step_mm": depth, "left_mm": left, "offset_mm": reach}
    tried = []
    for pockets in _ways_to_step(assembly, plate.outline, depth, sign if far else -sign):
        part = replace(whole, pockets=(*pockets, *whole.pockets))
        one = Candidate("stepped-plate", title, (part,), findings, why, True, solved)
        tried.append(completed(one, assembly, words))
        if _stepped_clear(tried[-1]) == Verdict.OK.rank:
            break
    best = max(tried, key=_stepped_clear)
    (part,) = best.parts
    cones = math.fsum(hole.sunk_volume for hole in assembly.holes if hole.sink)
    edges = chamfer_volume(plate.outline, part.chamfer) - chamfer_milled(part)
    return replace(best, parts=(replace(part, volume=plate.area * thick - milled_volume(part) - cones - edges),))


def _stepped_clear(one: Candidate) -> int:
    """Return the rank of the worst verdict on what a way of milling changes: how the plate clears caliper and knuckle."""
    return min(
        f.verdict.rank
        for f in one.findings
        if f.id in ("bracket-to-caliper", "bracket-to-obstacle", "bracket-to-rotor")
    )


def _ways_to_step(assembly: Assembly, outline: Outline, depth: float, face: float) -> Iterator[tuple[Pocket, ...]]:
    """Yield what may be milled: round the ears; all but pads at the lugs, which clears the caliper's body too."""
    ears, lugs = assembly.holes[-2:], assembly.holes[:-2]
    boss = known(assembly.job.caliper.ear_boss_mm) / 2 + 2.0
    wide = max(h.boss_radius + 2.0 for h in ears)
    wide = max(wide, boss) if is_known(boss) else wide
    yield tuple(Pocket(circle_outline(hole.centre, wide), depth, face) for hole in ears)
    pads = tuple(circle_outline(hole.centre, hole.boss_radius + PAD_OVER_MM) for hole in lugs)
    free = all(
        math.dist(a.centre, b.centre) > a.boss_radius + b.boss_radius + 2 * OVERRUN_MM for a, b in combinations(lugs, 2)
    )
    if free:
        x0, y0, x1, y1 = outline.bounds
        x0, y0, x1, y1 = x0 - OVERRUN_MM, y0 - OVERRUN_MM, x1 + OVERRUN_MM, y1 + OVERRUN_MM
        over = Outline(((x0, y0, 0.0), (x1, y0, 0.0), (x1, y1, 0.0), (x0, y1, 0.0)))
        yield (Pocket(over, depth, face, pads),)


def round_spacers(
    job: Job, packing: Packing, longs: list[float], thread: Thread
) -> tuple[tuple[MadePart, ...], Finding]:
    """Return a round spacer of the length wanted on every lug's face, and whether they are stout enough."""
    inner, washer = thread.hardware.clearance, thread.hardware.washer_outer
    bosses = [known(lug.boss_mm) for lug in job.knuckle.lugs]
    outer = max(washer, min(*bosses, SPACER_SHARE * washer)) if is_known(*bosses) else washer
    stout = outer / max(longs)
    slender = f"The spacers are {stout:.1f} times as wide as long; slender ones rock and bend the bolts."
    own = room("spacer-width", outer, max(longs) / 2, max(longs), slender)
    spacers = tuple(
        MadePart(f"spacer {k + 1}", "round", job.bracket.material or "", long, ring_volume(outer, inner, long), outer=outer,
                 inner=inner, centres=((known(lug.x_mm), known(lug.y_mm)),), z0=min(face, face + packing.sign * long),
                 processes=("lathe",))
        for k, (lug, long, face) in enumerate(zip(job.knuckle.lugs, longs, packing.lug_faces))
    )  # fmt: skip
    return spacers, own

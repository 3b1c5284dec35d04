"""Families that stay flat: one plate, one with sleeves in its lugs, a plate with a milled step, a plate on spacers."""

import math
from collections.abc import Iterator
from itertools import combinations

import shapely

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import replace
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly, place
from bicentra.core.bracket.families.common import (
    CUT,
    LEAST_METAL_MM,
    NOT_KNOWN,
    carrying,
    cut_plate,
    evened,
    fit_bolts,
    plate_part,
    reach_of,
    reaches_of,
    stock_plate,
)
from bicentra.core.bracket.holes import UNLIKE_BOLTS, bolt_of, bolts_differ, one_lug_bolt
from bicentra.core.bracket.model import Bracket, Family, FamilyCheck, MadePart, Pocket, refused, ring_volume
from bicentra.core.bracket.plate import chamfer_volume, keep_out_radius, shape_plate
from bicentra.core.bracket.prisms import chamfer_milled, milled_volume
from bicentra.core.bracket.stack_up import StackUp, pack
from bicentra.core.bracket.thread_checks import LEAST_SLEEVE_MM, SLEEVE_FIT_MM, sleeve_wall
from bicentra.core.bracket.turned import ROUND_BOSS_MM, boss_hulls
from bicentra.core.geometry.outline import FloatArray, Outline, circle_outline
from bicentra.core.geometry.prism import AXIS, Prism
from bicentra.core.geometry.ring import distance
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job, Lug
from bicentra.core.parts.limits import allowance
from bicentra.core.parts.threads import Thread

OVERRUN_MM, PAD_OVER_MM, SPACER_SHARE, TOO_THICK_MM = 5.0, 1.0, 1.5, 0.05
"""How far a cutter runs past the plate's edge, how much wider than its boss a pad is left [mm], a spacer's greatest width
over that of its washer, and from when a plate is reported as too thick [mm]."""


def flat(job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Bracket, ...]:
    """One flat plate of stock thickness, the rest made up by shims; as the job has it where it is the job's own."""
    return (flat_on(FLAT, job, line, lengths),)


def flat_on(kind: Family, job: Job, line: LineUp, lengths: LengthFormat) -> Bracket:
    """Return a flat plate on the lugs of ``job``."""
    stack_up = pack(job, line)
    reach = reach_of(stack_up, line)
    thick, shims = stack_up.thickness, max(stack_up.shims, default=0.0)
    why = f"{lengths.stock(thick)} plate and {lengths.gap(shims)} of shims make up {lengths.size(reach)}."
    if stack_up.ears_on_far_face and reach < thick - TOO_THICK_MM:
        over = f"{lengths.stock(thick)} plate, {lengths.gap(thick - reach)} too thick"
        why = f"{over}: the ears lie {lengths.gap(reach)} off the lugs' faces."
        if reach <= 0.0:
            why = f"The ears lie {lengths.gap(reach)} behind the lugs' faces: no plate on this side of the lugs reaches them."
    solved = {"thickness_mm": thick, "shims_mm": shims, "offset_mm": reach}
    return Bracket(kind, job, stack_up, why=why if is_known(reach) else NOT_KNOWN, solved=solved)


def sleeves(job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Bracket, ...]:
    """The flat plate with a smaller bolt: a sleeve in each lug hole centres it."""
    bolt = one_lug_bolt(job)
    plain = [lug for lug in job.knuckle.lugs if lug.thread is None and lug.hole_mm is not None]
    if bolts_differ(job):
        return (refused(SLEEVE, job, UNLIKE_BOLTS),)
    if bolt is None or not plain:
        return (refused(SLEEVE, job, "A plain lug hole and a lug bolt decide this one.", ("lug hole", "lug bolt")),)
    inner, hole = bolt.major + SLEEVE_FIT_MM, min(known(lug.hole_mm) for lug in plain)
    wall = sleeve_wall(bolt, hole)
    if wall < LEAST_SLEEVE_MM:
        why = f"The {bolt.name} bolt fills the {lengths.size(hole)} hole: there is no play to take."
        if wall > 0.2:
            why = f"A sleeve between {bolt.name} bolt and {lengths.size(hole)} hole would have {lengths.gap(wall)} of wall; under "
            why += f"{lengths.size(LEAST_SLEEVE_MM)} none is turned. Take a bolt a size larger, or drill up the hole for a sleeve."
        return (refused(SLEEVE, job, why),)
    plate = flat_on(SLEEVE, job, line, lengths)
    why = f"A sleeve {lengths.size(inner)} by {lengths.size(hole)} takes the play of an {bolt.name} bolt "
    why += f"in a {lengths.size(hole)} hole. "
    text = f"{lengths.gap(wall)} of wall; a thinner sleeve cracks when it is pressed in."
    parts = tuple(_sleeve(lug, inner, plate.stack_up, job) for lug in plain)
    solved = {**plate.solved, "outer_mm": hole, "inner_mm": inner, "wall_mm": wall, "play_mm": hole - bolt.major}
    ask = FamilyCheck("sleeve-wall", wall, text)
    return (replace(plate, parts=parts, asks=(ask,), why=why + plate.why, solved=solved, sleeved=True),)


def _sleeve(lug: Lug, inner: float, stack_up: StackUp, job: Job) -> MadePart:
    """Return the sleeve of one lug, as long as the lug is thick."""
    outer, depth, k = known(lug.hole_mm), known(lug.thickness_mm), job.knuckle.lugs.index(lug)
    back = stack_up.lug_faces[k] - stack_up.sign * depth
    return MadePart(
        f"sleeve at {lug.name}", "round", "steel S355", depth, ring_volume(outer, inner, depth), outer=outer, inner=inner,
        centres=((known(lug.x_mm), known(lug.y_mm)),), z0=min(back, stack_up.lug_faces[k]), processes=("lathe", "press"),
    )  # fmt: skip


def two_part(job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Bracket, ...]:
    """A thinner plate standing on round spacers at the lugs: for offsets no plate should make up alone."""
    stack_up = pack(job, line)
    reach = reach_of(stack_up, line)
    threads = [bolt_of(job, k).thread for k in range(len(job.knuckle.lugs))]
    chosen = [thread for thread in threads if thread is not None]
    if not is_known(reach) or len(chosen) < len(threads):
        return (refused(TWO_PART, job, NOT_KNOWN, ("line-up", "lug bolt")),)
    thick = stock_plate(job, LEAST_METAL_MM)
    carried = thick if stack_up.ears_on_far_face else 0.0
    longs = [round(reach - carried, 4) for reach in reaches_of(stack_up, line)]
    if min(longs) <= 0:
        why = f"{lengths.stock(thick)} of plate alone makes up the {lengths.size(reach)}: no spacer has room."
        return (refused(TWO_PART, job, why),)
    text = ", ".join(lengths.size(long) for long in longs)
    why = f"{lengths.stock(thick)} plate on spacers {text} long makes up {lengths.size(reach)}."
    spacers, own = round_spacers(job, stack_up, longs, chosen)
    solved = {
        "thickness_mm": thick, "spacer_mm": max(longs), "spacer_outer_mm": spacers[0].outer, "spacer_inner_mm": spacers[0].inner,
        "offset_mm": reach,
    }  # fmt: skip
    stands = fit_bolts(job, line, thick, tuple(longs))
    return (Bracket(TWO_PART, job, stands, spacers, (own,), why, solved=solved, packed=False),)


def stepped(job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Bracket, ...]:
    """A thicker plate milled down under the ears: exact without shims, and the way for ears on the lugs' own face."""
    plain = _step(job, line, lengths)
    if not plain.stands:
        return (plain,)
    assembly = place(plain, line)
    shape = shape_plate(assembly)
    if shape.outline is None:
        return (replace(plain, shape=shape, why=shape.fault),)
    whole = plate_part(assembly, shape, "stepped plate", (*CUT, "mill"))
    return tuple(
        replace(plain, shape=shape, parts=(_milled(replace(whole, pockets=(*pockets, *whole.pockets)), assembly),))
        for pockets in _ways_to_step(assembly, shape.outline, plain.solved["step_mm"], _milled_face(plain))
    )


def _step(job: Job, line: LineUp, lengths: LengthFormat) -> Bracket:
    """Return the stepped plate with its sizes, before its outline is known."""
    base = pack(job, line)
    reach, far = reach_of(base, line), base.ears_on_far_face
    if not is_known(reach):
        return refused(STEPPED, job, NOT_KNOWN, ("line-up",))
    wanted = reach if far else reach + LEAST_METAL_MM
    stock = [job.bracket.thickness_mm] if job.bracket.thickness_mm else sorted(job.bracket.stock)
    thick = next((t for t in stock if t > wanted + 1e-9), None)
    if reach <= 0 or thick is None:
        return refused(STEPPED, job, f"No stock plate is a step thicker than {lengths.size(wanted)}.")
    left = reach if far else thick - reach
    depth, shims = thick - left, evened(reaches_of(base, line))
    stack_up = carrying(fit_bolts(job, line, thick, shims), line, thick, shims, (left, 0.0))
    why = f"{lengths.stock(thick)} plate, milled {lengths.gap(depth)} deep under the ears to {lengths.size(left)}"
    why += (
        "; no shim is needed."
        if max(shims) == 0.0
        else f"; {lengths.gap(max(shims))} of shims even out lugs that stand unlike."
    )
    floor = f"{lengths.gap(left)} is left under the ears; a thin floor bends."
    solved = {"thickness_mm": thick, "step_mm": depth, "left_mm": left, "offset_mm": reach}
    asks = (FamilyCheck("metal-under-step", left, floor),)
    return Bracket(STEPPED, job, stack_up, asks=asks, why=why, solved=solved)


def _milled_face(bracket: Bracket) -> float:
    """Return the face that a stepped plate is milled from: 1 outboard, -1 inboard."""
    stack_up = bracket.stack_up
    return stack_up.sign if stack_up.ears_on_far_face else -stack_up.sign


def floor_at(job: Job, line: LineUp, clock_rad: FloatArray) -> tuple[Prism, ...]:
    """Return the floor of a stepped plate at n clock angles [rad]: it lies under all of the plate, whichever way that is milled.

    Where the plate is cut round hub or rotor, without a rim as wide as its corners are rounded there, so that no corner counts.
    Nothing where it is unknown, or shaped by hand.
    """
    plain = _step(job, line, job.lengths)
    if not plain.stands or job.bracket.cutouts or job.bracket.pulls:
        return ()
    assembly = place(plain, line)
    hulls, (z0, z1), milled = boss_hulls(assembly, clock_rad), plain.stack_up.z_range, plain.solved["step_mm"]
    if hulls is None:
        return ()
    plates = shapely.polygons(hulls)
    room, corner = keep_out_radius(assembly) + ROUND_BOSS_MM, allowance(job, "corner-radius")
    cut = distance(plates, AXIS) <= room
    plates[cut] = shapely.buffer(shapely.difference(plates[cut], AXIS.buffer(room, quad_segs=64)), -corner)
    floor = (z0, z1 - milled) if _milled_face(plain) > 0 else (z0 + milled, z1)
    return (Prism(*floor, plates),)


def _milled(part: MadePart, assembly: Assembly) -> MadePart:
    """Return the stepped plate with its volume: what its pockets, cones and chamfer take, each once."""
    if part.outline is None:
        return part
    cones = math.fsum(hole.sunk_volume for hole in assembly.holes if hole.sink)
    bores = math.fsum(hole.sunk_volume for hole in assembly.holes)
    whole = part.volume + bores + chamfer_volume(part.outline, part.chamfer)
    edges = chamfer_volume(part.outline, part.chamfer) - chamfer_milled(part)
    return replace(part, volume=whole - milled_volume(part) - cones - edges)


def _ways_to_step(assembly: Assembly, outline: Outline, depth: float, face: float) -> Iterator[tuple[Pocket, ...]]:
    """Yield what may be milled: round the ears; all but pads at the lugs, which clears the caliper's body too."""
    ears, lugs = assembly.ear_holes, assembly.lug_holes
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
    job: Job, stack_up: StackUp, longs: list[float], threads: list[Thread]
) -> tuple[tuple[MadePart, ...], FamilyCheck]:
    """Return a round spacer of the length wanted on every lug's face for its bolt, and whether they are stout enough [mm]."""
    bosses = [known(lug.boss_mm) for lug in job.knuckle.lugs]
    washers = [thread.hardware.washer_outer for thread in threads]
    least = min(bosses) if is_known(*bosses) else 0.0
    outers = [max(washer, min(least, SPACER_SHARE * washer)) for washer in washers]
    outer, long = min(zip(outers, longs), key=lambda pair: pair[0] / max(pair[1], 1e-9))
    slender = f"The spacers are {outer / long:.1f} times as wide as long; slender ones rock and bend the bolts."
    own = FamilyCheck("spacer-width", outer, slender, limit=Limit(long / 2, long))
    spacers = tuple(
        MadePart(f"spacer {k + 1}", "round", job.bracket.material or "", long, ring_volume(wide, thread.hardware.clearance, long),
                 outer=wide, inner=thread.hardware.clearance, centres=((known(lug.x_mm), known(lug.y_mm)),),
                 z0=min(face, face + stack_up.sign * long), processes=("lathe",))
        for k, (lug, long, face, thread, wide)
        in enumerate(zip(job.knuckle.lugs, longs, stack_up.lug_faces, threads, outers))
    )  # fmt: skip
    return spacers, own


FLAT = Family("flat-plate", "Flat plate", flat, cut_plate, shaping="by hand")
SLEEVE = Family(
    "sleeve", "Flat plate with sleeves in the lug holes", sleeves, cut_plate, axial=False, shaping="carried"
)
TWO_PART = Family("two-part", "Plate on spacers", two_part, cut_plate, shaping="by hand")
STEPPED = Family("stepped-plate", "Stepped plate", stepped, shaping="by hand", sure=floor_at)

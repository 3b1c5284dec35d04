"""A plate on the axle-end flange, in place of a drum's backing plate."""

import math

import shapely

from bicentra.core.base.errors import OutlineError
from bicentra.core.base.finding import Remedy
from bicentra.core.base.numbers import UNKNOWN, is_known, known, ordered
from bicentra.core.base.records import replace
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly, assemble
from bicentra.core.bracket.families.common import CUT, LEAST_METAL_MM, bore_of, carrying, counterbore_of, stock_plate
from bicentra.core.bracket.holes import CLASSES, Hole, spine_of
from bicentra.core.bracket.metal_checks import space_text
from bicentra.core.bracket.model import (
    Bore,
    Bracket,
    Family,
    FamilyCheck,
    Listed,
    MadePart,
    Pocket,
    refused,
    ring_volume,
)
from bicentra.core.bracket.plate import bosses
from bicentra.core.bracket.prisms import milled_volume, part_prisms
from bicentra.core.geometry.hull import Disc, convex_outline
from bicentra.core.geometry.outline import circle_outline
from bicentra.core.geometry.prism import AXIS, Prism, Prisms
from bicentra.core.geometry.ring import Ring, nearest_gap
from bicentra.core.lineup.solids import retainer_places, rotor_rings
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import BACKINGS, Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.parts.threads import CLEARANCES, find_thread

TAKEN_OUT, IN_FRONT, _ = BACKINGS
LEAST_SHIM_MM = 0.02
"""Thinner than the thinnest shim on sale [mm]: nothing."""
PILOT_ROOM_MM, LEAST_SPACER_MM, LEAST_FLOOR_MM, EDGE_OF_HOLES_MM = 0.1, 1.0, 1.0, 0.1
"""Play of the pilot bore, what is less than a spacer that can be turned, and a floor thinner than which there is none [mm]:
common practice; and how much wider than itself the ring of the retainer's holes is taken."""


def axle_end_plate(job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Bracket, ...]:
    """A plate on the axle-end flange in place of the drum's backing plate: its thickness is what the retainer has lost."""
    hub, base = job.hub, assemble(job, line)
    places, face = retainer_places(hub), known(hub.retainer_face_z_mm)
    thread, ears = find_thread(hub.retainer_bolt) if hub.retainer_bolt else None, base.ear_holes
    missing = _missing(job, base)
    if missing is not None or thread is None:
        return (missing,) if missing is not None else ()
    lost, wall = hub.backing_plate_mm if hub.backing == TAKEN_OUT else None, known(job.bracket.wall_mm)
    thick = stock_plate(job, 10.0) if lost is None or job.bracket.thickness_mm else lost
    under = _under(job)
    face += under
    drill = CLEARANCES[thread.size][CLASSES.index(job.bracket.hole_class)]
    circle, tube = 2 * math.hypot(*places[0]), known(hub.tube_diameter_mm)
    bore = tube + PILOT_ROOM_MM if is_known(tube) else circle - drill - 2 * wall
    discs = [*(Disc(place, drill / 2 + wall) for place in places), *bosses(ears)]
    try:
        outline = convex_outline(tuple(discs))
    except OutlineError as error:
        return (refused(AXLE_END, job, str(error), turns=True),)
    window = circle_outline((0.0, 0.0), bore / 2)
    out = 1.0 if job.caliper.ear_seat == "inboard" else -1.0
    step = out * (base.line.ear_face_z - (face + thick if out > 0 else face))
    if thick + step < LEAST_FLOOR_MM:
        why = f"The ears lie {lengths.gap(step)} inside the face of a plate {lengths.size(thick)} thick: milling leaves no floor."
        return (refused(AXLE_END, job, why),)
    own = [Bore(f"retainer {k + 1}", place, drill, f"drill {lengths.drill(drill)}") for k, place in enumerate(places)]
    bores = (*own, *(bore_of(hole, -out, lengths) for hole in ears))
    why = _why(job, lengths, thick, bore, step)
    pairs = ((shapely.Point(place), hole) for place in places for hole in ears)
    apart = min(float(at.distance(spine_of(hole))) - (drill + hole.widest) / 2 for at, hole in pairs)
    rim = (circle - bore - drill) / 2 if is_known(tube) else UNKNOWN
    shim = 0.0 if hub.backing == IN_FRONT else under
    asks = _asks(job, lengths, (thick + shim, step, apart, rim), ears, lost)
    area = outline.area - window.area - math.fsum(b.area for b in bores)
    pockets = (*_milled(step, ears, out), *(pocket for hole in ears for pocket in counterbore_of(hole, -out)))
    cones = math.fsum(hole.sunk_volume for hole in ears if hole.sink)
    part = MadePart(
        "axle-end plate", "plate", job.bracket.material or "", thick, area * thick, outline, window, z0=face, bores=bores,
        pockets=pockets, processes=(*CUT, "mill") if pockets else CUT,
    )  # fmt: skip
    part = replace(part, volume=part.volume - milled_volume(part) - cones)
    shims = _flange_shim(own, wall + drill / 2, bore, shim, face - under, job)
    spacers = _spacers(step, ears, out, base.line.ear_face_z, job)
    stack_up = carrying(
        base.stack_up, line, thick, (0.0,) * len(job.knuckle.lugs), (min(thick, thick + step), max(step, 0.0)), face
    )
    span = ordered(face, known(hub.retainer_bolt_end_z_mm))
    ends = Ring((circle - thread.major) / 2, (circle + thread.major) / 2, *span)
    asks = (*asks, _retainer_ends(job, ends, line, lengths))
    turn = known(hub.retainer_first_deg)
    solved = {"thickness_mm": thick, "bore_mm": bore, "bolts": float(len(places)), "clock_deg": turn, "step_mm": step,
              "shim_mm": shim}  # fmt: skip
    return (
        Bracket(AXLE_END, job, stack_up, (part, *shims, *spacers), asks, why, solved=solved, bolted=("ear",),
                listed=_stack(job, thick, shim, lost, lengths)),
    )  # fmt: skip


def _missing(job: Job, base: Assembly) -> Bracket | None:
    """Return the refusal while something is missing that decides this one."""
    hub, lined_up = job.hub, is_known(base.line.ear_face_z) and all(hole.is_known for hole in base.ear_holes)
    thread = find_thread(hub.retainer_bolt) if hub.retainer_bolt else None
    if not retainer_places(hub) or thread is None or not is_known(known(hub.retainer_face_z_mm)) or not lined_up:
        why = "The retainer's bolts, their thread, the flange's face and the line-up decide this one."
        return refused(AXLE_END, job, why, ("retainer bolts", "retainer face", "line-up"))
    if not is_known(_under(job)):
        why = "What lies between flange and plate, shim or backing plate, decides where it lies."
        return refused(AXLE_END, job, why, ("shim or backing plate under it",))
    return None


def _why(job: Job, lengths: LengthFormat, thick: float, bore: float, step: float) -> str:
    """Return what the plate is in a sentence: where it lies, its bore, what it does to the retainer."""
    hub, lost = job.hub, job.hub.backing_plate_mm if job.hub.backing == TAKEN_OUT else None
    back = "takes the backing plate's place" if lost is not None else f"lifts the retainer {lengths.gap(thick)}"
    where = " in front of" if hub.backing == IN_FRONT else " behind" if hub.backing != TAKEN_OUT else ""
    behind = f"{where} the backing plate" if where else ""
    why = f"{lengths.stock(thick)} plate{behind} on {len(retainer_places(hub))} retainer bolts, "
    why += f"bore {lengths.size(bore)}; it {back}."
    return f"{why} {lengths.gap(step)} of shims lie under each ear." if 0.005 <= step < LEAST_SPACER_MM else why


def between_ears(job: Job, line: LineUp) -> Prisms:
    """Return spacers and the metal from ear to ear that go round with the caliper: less the ears' own holes, and less
    all that any of the retainer's, or the bore, takes of it at any clock angle.

    Nothing while it is unknown, or where holes are slotted or sunk.
    """
    ears, made = assemble(job, line).ear_holes, axle_end_plate(job, line, job.lengths)[0]
    part = made.plate
    if part is None or not all(hole.is_known and not (hole.slot or hole.recess) for hole in ears):
        return ()
    discs = [shapely.Point(hole.centre).buffer(hole.boss_radius, quad_segs=32) for hole in ears]
    drilled = [shapely.Point(bore.centre).buffer(bore.drill / 2, quad_segs=32) for bore in part.bores[-2:]]
    taken = max(math.hypot(*bore.centre) + bore.drill / 2 for bore in part.bores[:-2]) + EDGE_OF_HOLES_MM
    left = shapely.union_all(discs).convex_hull.difference(shapely.union_all([*drilled, AXIS.buffer(taken)]))
    floor = part.thickness + min(made.solved["step_mm"], 0.0)
    z0 = part.z0 if job.caliper.ear_seat == "inboard" else part.z0 + part.thickness - floor
    spacers = [prism for piece in made.parts if piece.outline is None for prism in part_prisms(piece)]
    return (*spacers, *(() if left.is_empty else (Prism(z0, z0 + floor, left),)))


def _under(job: Job) -> float:
    """Return what lies between flange and plate [mm]: a shim, or a backing plate that stays there."""
    if job.hub.backing == IN_FRONT:
        return known(job.hub.backing_plate_mm)
    return known(job.bracket.flange_shim_mm)


def _flange_shim(
    bores: list[Bore], reach: float, bore: float, thick: float, z0: float, job: Job
) -> tuple[MadePart, ...]:
    """Return the shim between flange and plate, trimmed round tube and bolts: ``reach`` round each hole's middle [mm]."""
    if not thick:
        return ()
    outline = convex_outline(tuple(Disc(one.centre, reach) for one in bores))
    window = circle_outline((0.0, 0.0), bore / 2)
    area = outline.area - window.area - math.fsum(one.area for one in bores)
    material = job.bracket.material or ""
    return (MadePart("shim between flange and plate", "plate", material, thick, area * thick, outline, window, z0=z0,
                     bores=tuple(bores), processes=CUT),)  # fmt: skip


def _stack(job: Job, thick: float, shim: float, lost: float | None, lengths: LengthFormat) -> tuple[Listed, ...]:
    """Return what lies on the flange, in the order in which it goes on, and the bolts that hold it."""
    hub = job.hub
    lifted = thick + shim - (lost or 0.0)
    ring = hub.bearing_ring_mm or 0.0
    order = {TAKEN_OUT: ("shim", "plate"), IN_FRONT: ("backing plate", "plate")}.get(
        hub.backing, ("plate", "backing plate")
    )
    text = ", ".join(name for name in order if shim or name != "shim")
    found = [Listed("re-used", 1, "bearing retainer with its seal", "", f"on the flange in this order: {text}, this; sealant at "
                    "each face, and the seal's lip on its land as before")]  # fmt: skip
    if ring:
        found.append(
            Listed(
                "made",
                1,
                "ring between bearing and retainer",
                lengths.size(ring),
                "turned flat, as wide as the outer race",
            )
        )
    long = f"{lengths.gap(lifted)} longer than before" if lifted > LEAST_SHIM_MM else "as long as before"
    found.append(Listed("re-used", hub.retainer_count or 0, "retainer bolts", hub.retainer_bolt or "", long))
    return tuple(found)


def _asks(
    job: Job,
    lengths: LengthFormat,
    sizes: tuple[float, float, float, float],
    ears: tuple[Hole, ...],
    lost: float | None,
) -> tuple[FamilyCheck, ...]:
    """Return what is asked of the plate; ``sizes``: plate and shim, step to the ears, metal between holes, round the bore [mm].

    ``lost``: the backing plate that was taken out; ``None`` where it was not measured, or stays.
    """
    (thick, step, apart, rim), limit = sizes, limit_for(job, "ligament")
    gone = lost if lost is not None else UNKNOWN if job.hub.backing == TAKEN_OUT else 0.0
    lifted, ring = thick - gone, known(job.hub.bearing_ring_mm)
    off = abs(lifted - ring)
    made_up = f", and {lengths.gap(ring)} of ring makes up for it" if ring > 0 else ""
    seal = (
        f"The plate stands in for {lengths.gap(gone)} that was taken out"
        if gone
        else f"The plate lifts the retainer {lengths.gap(lifted)}"
    )
    seal += f"{made_up}: {lengths.gap(off)} is left, and the retainer crushes the seal or holds nothing."
    seal = seal if off > LEAST_SHIM_MM else "The retainer holds the bearing as before."
    cure = Remedy(
        f"Put a ring {lengths.size(lifted)} thick between bearing and retainer", round(lifted, 4), True,
        (("hub.bearing_ring_mm", round(lifted, 4)),), ("turned flat, as wide as the bearing's outer race",),
    )  # fmt: skip
    short = lengths.size(-lifted)
    under = Remedy(
        f"Put a shim {short} thick between flange and plate", round(-lifted, 4), True,
        (("bracket.flange_shim_mm", round(known(job.bracket.flange_shim_mm) - lifted, 4)),), ("the ears move out with it",),
    )  # fmt: skip
    remedies = () if not off > LEAST_SHIM_MM else (cure,) if lifted > LEAST_SHIM_MM else (under,)
    between = f"{lengths.gap(apart)} is left between a retainer bolt's hole and an ear's."
    bore = f"{lengths.gap(rim)} from the bore to the holes."
    missing = "needs the backing plate's thickness, or that of the ring"
    return (
        FamilyCheck("axle-end-retainer", off, seal, missing, remedies=remedies),
        _made_up(step, thick, ears, lengths),
        FamilyCheck("axle-end-ligament", apart, between, limit=limit),
        FamilyCheck("axle-end-pilot", rim, bore, "needs the axle tube's diameter"),
    )


def _made_up(step: float, thick: float, ears: tuple[Hole, ...], lengths: LengthFormat) -> FamilyCheck:
    """How the ears' face off the plate's is made up: by spacers that are stout, or by milling that leaves a floor."""
    if step >= 0.0:
        wide = min(hole.thread.hardware.washer_outer for hole in ears if hole.thread is not None)
        text = f"Spacers {lengths.gap(step)} long stand between plate and ears; slender ones rock."
        return FamilyCheck("axle-end-offset", wide, text, limit=Limit(step / 2, step))
    text = f"The plate is milled {lengths.gap(step)} deep under the ears; {lengths.gap(thick + step)} is left."
    return FamilyCheck("axle-end-offset", thick + step, text, limit=Limit(4.0, LEAST_METAL_MM))


def _retainer_ends(job: Job, ends: Ring, line: LineUp, lengths: LengthFormat) -> FamilyCheck:
    """The room between the retainer bolts' ends and the rotor."""
    limit = limit_for(job, "bolt-tip-to-rotor")
    gap = nearest_gap(ends, rotor_rings(job, line), limit.watch)
    why = space_text("end of the retainer bolts", "the rotor", gap, lengths) + "; what turns must not meet it."
    return FamilyCheck("axle-end-bolts", gap, why, "needs how far out the retainer bolts' ends reach", limit)


def _milled(step: float, ears: tuple[Hole, ...], out: float) -> tuple[Pocket, ...]:
    """Return the pockets under the ears where the plate is too thick there."""
    wide = [hole.boss_radius + 2.0 for hole in ears] if step < -0.005 else []
    return tuple(Pocket(circle_outline(hole.centre, radius), -step, out) for hole, radius in zip(ears, wide))


def _spacers(step: float, ears: tuple[Hole, ...], out: float, seat: float, job: Job) -> tuple[MadePart, ...]:
    """Return the round spacers between plate and ears where the plate is too thin to reach them."""
    if step < LEAST_SPACER_MM:  # shims from stock
        return ()
    found = []
    for hole in ears:
        outer = hole.thread.hardware.washer_outer if hole.thread is not None else UNKNOWN
        found.append(MadePart(
            f"spacer at {hole.name}", "round", job.bracket.material or "", step, ring_volume(outer, hole.drill, step), outer=outer,
            inner=hole.drill, centres=(hole.centre,), z0=min(seat, seat - out * step), processes=("lathe",),
        ))  # fmt: skip
    return tuple(found)


AXLE_END = Family(
    "axle-end-plate",
    "Axle-end plate",
    axle_end_plate,
    on_tube=True,
    at_retainer=True,
    mounting="axle-flange",
    sided=False,
    riding=between_ears,
)

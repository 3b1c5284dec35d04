"""Radial mount: a plate on the lugs whose edge carries the caliper's feet on studs that stand along the radius."""

import math

import shapely

from bicentra.core.base.errors import OutlineError
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly, assemble
from bicentra.core.bracket.families.common import CUT, NOT_KNOWN, bore_of, carrying, counterbore_of, stock_plate
from bicentra.core.bracket.families.plates import round_spacers
from bicentra.core.bracket.holes import bolt_of
from bicentra.core.bracket.metal_checks import space_text
from bicentra.core.bracket.model import Bracket, EdgeBore, Family, FamilyCheck, Listed, MadePart, refused
from bicentra.core.bracket.plate import bosses
from bicentra.core.fasteners.joint import engagement_against_stripping, usual_grade
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.hull import Disc, convex_outline
from bicentra.core.geometry.outline import Outline, Point
from bicentra.core.geometry.ring import Ring, nearest_gap
from bicentra.core.lineup.solids import hub_rings, rotor_rings
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.parts.materials import Material, find_material
from bicentra.core.parts.threads import Thread, find_thread

CORNER_MM, LEAST_SPACER_MM = 0.5, 1.0
EDGE_SHARE, STUD_DEPTH_SPARE_MM = 2.2, 3.0
"""Thickness of the plate over the stud's diameter, and what a blind hole is deeper than its thread [mm]: common practice."""


def radial_mount(job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Bracket, ...]:
    """Studs tapped into the plate's outer edge; shims under the feet move the caliper outward, at the lugs along the axle."""
    base = assemble(job, line)
    sign, missing = base.stack_up.sign, _not_here(job, line, base)
    stud = find_thread(job.bracket.caliper_bolt) if job.bracket.caliper_bolt else None
    metal = find_material(job.bracket.material)
    if missing is not None or stud is None or metal is None:
        return (missing,) if missing is not None else ()
    thick = stock_plate(job, EDGE_SHARE * stud.major)
    spacers = [sign * (line.ear_face_z - face) - thick / 2 for face in base.stack_up.lug_faces]
    frame, half = line.frame, known(job.caliper.ear_spacing_mm) / 2
    through = job.bracket.studs == "through the plate"
    depth = metal.engagement * stud.major + STUD_DEPTH_SPARE_MM
    corners = [frame.at(line.radial_seat, side * half) for side in (1.0, -1.0)]
    try:
        outline = _outline(job, line, base, depth, stud.major / 2)
    except OutlineError as error:
        return (refused(RADIAL, job, str(error), turns=True),)
    bores = tuple(bore_of(hole, sign, lengths) for hole in base.lug_holes)
    holes = math.fsum(bore.area for bore in bores) * thick
    deep = [_through(outline, at, frame.u) if through else depth for at in corners]
    if not is_known(*deep):
        return (refused(RADIAL, job, "A stud's hole does not come out of the plate again.", turns=True),)
    drill = stud.hardware.clearance if through else stud.tap_drill
    taps = math.pi / 4 * drill**2 * math.fsum(deep)
    material = job.bracket.material or ""
    inward, tapped = (-frame.u[0], -frame.u[1]), "" if through else stud.name
    edge = tuple(EdgeBore((x, y, line.ear_face_z), inward, drill, long, tapped) for (x, y), long in zip(corners, deep))
    sunk = math.fsum(hole.sunk_volume for hole in base.lug_holes)
    work = "drill through the edge" if through else "drill and tap the edge"
    part = MadePart(
        "radial bracket", "plate", material, thick, outline.area * thick - holes - taps - sunk, outline, bores=bores,
        z0=line.ear_face_z - thick / 2, edge_bores=edge, processes=(*CUT, "mill the seat", work),
        pockets=tuple(pocket for hole in base.lug_holes for pocket in counterbore_of(hole, sign)),
    )  # fmt: skip
    feet = [frame.at(line.radial_seat - long, side * half) for long, side in zip(deep, (1.0, -1.0))]
    near = _nearest_hole(base, tuple(zip(feet, corners)))
    least = min(spacers)
    where = f"right through it, {lengths.size(max(deep))}" if through else f"{lengths.size(depth)} deep in its edge"
    why = f"{lengths.stock(thick)} plate, its seat at radius {lengths.size(line.radial_seat)}, {stud.name} studs {where}, "
    why += f"{lengths.size(max(least, 0.0))} of spacer at the lugs."
    asks = (
        *_asks(lengths, least, (thick - max(drill, stud.major)) / 2, stud.major, near - max(drill, stud.major) / 2),
        *_studs(job, lengths, stud, UNKNOWN if through else depth - STUD_DEPTH_SPARE_MM, metal),
        *(_nuts(job, line, lengths, stud, deep) if through else ()),
    )
    tall = [max(spacer, 0.0) for spacer in spacers]
    spaced, pieces, stout = _spacers(job, base, tall)
    asks = (*asks, *stout)
    solved = {
        "thickness_mm": thick, "seat_radius_mm": line.radial_seat, "stud_plane_mm": line.ear_face_z, "stud_depth_mm": depth,
        "spacer_mm": max(least, 0.0), "shims_under_feet_mm": known(job.fit.radial_shim_mm),
    }  # fmt: skip
    stack_up = carrying(base.stack_up, line, thick, tuple(tall), (thick, 0.0))
    return (
        Bracket(
            RADIAL, job, stack_up, (part, *pieces), asks, why, solved=solved, bolted=("lug",), packed=not spaced,
            feet=known(job.caliper.ear_boss_mm) / 2, listed=_bolts(stud, deep, job, lengths) if through else (),
        ),
    )  # fmt: skip


def _not_here(job: Job, line: LineUp, base: Assembly) -> Bracket | None:
    """Return the refusal where the caliper is not made for it, or something is missing that decides it."""
    if job.caliper.mount != "radial":
        why = "The caliper's bolts lie along the axle: it is not made for a radial mount."
        return refused(RADIAL, job, why)
    if (
        not job.bracket.caliper_bolt
        or find_thread(job.bracket.caliper_bolt) is None
        or not is_known(line.radial_seat, line.ear_face_z, line.clock)
        or not is_known(*base.stack_up.lug_faces)
        or not all(hole.is_known for hole in base.lug_holes)
    ):
        return refused(RADIAL, job, NOT_KNOWN, ("line-up", "caliper bolt"))
    if find_material(job.bracket.material) is None:
        why = "The bracket's material decides how deep its studs are screwed in."
        return refused(RADIAL, job, why, ("material of the tables",))
    return None


def _outline(job: Job, line: LineUp, base: Assembly, depth: float, stud: float) -> Outline:
    """Return the plate round lugs and studs of radius ``stud``, ``depth`` deep [mm]. May raise ``OutlineError``."""
    half, radius = known(job.caliper.ear_spacing_mm) / 2, stud + known(job.bracket.wall_mm)
    feet = [line.frame.at(line.radial_seat - depth, side * half) for side in (1.0, -1.0)]
    discs = [*bosses(base.lug_holes), *(Disc(foot, radius) for foot in feet)]
    return convex_outline((*discs, *_seat(line.frame, line.radial_seat, half + radius)))


def _nearest_hole(base: Assembly, studs: tuple[tuple[Point, Point], ...]) -> float:
    """Return how near the middle of a stud comes to the wall of a lug's hole [mm]."""
    return min(
        float(shapely.LineString(way).distance(shapely.Point(hole.centre))) - hole.diameter / 2
        for way in studs for hole in base.lug_holes
    )  # fmt: skip


def _spacers(job: Job, base: Assembly, tall: list[float]) -> tuple[bool, tuple[MadePart, ...], tuple[FamilyCheck, ...]]:
    """Return whether round spacers ``tall`` [mm] stand at the lugs, those spacers, and what is asked of them."""
    bolts = [thread for k in range(len(job.knuckle.lugs)) if (thread := bolt_of(job, k).thread) is not None]
    if max(tall) < LEAST_SPACER_MM or len(bolts) != len(tall):
        return False, (), ()
    pieces, stout = round_spacers(job, base.stack_up, tall, bolts)
    return True, tuple(piece for piece in pieces if piece.thickness > 0.0), (stout,)


def _through(outline: Outline, at: Point, u: Point) -> float:
    """Return how far it is through the plate from its edge at ``at`` towards the axle [mm]; unknown where it misses the plate."""
    ray = shapely.LineString((at, (at[0] - 1e3 * u[0], at[1] - 1e3 * u[1])))
    met = ray.intersection(shapely.Polygon(outline.polygon()).buffer(1e-6))
    first = next((part for part in shapely.get_parts(met) if part.distance(shapely.Point(at)) < 0.1), None)
    return float(first.length) if first is not None else UNKNOWN


def _nuts(job: Job, line: LineUp, lengths: LengthFormat, stud: Thread, deep: list[float]) -> tuple[FamilyCheck, ...]:
    """Return what is asked of the nuts on the plate's inner edge: their room to what turns."""
    limit, high = (
        limit_for(job, "radial-nut-room"),
        stud.hardware.nut_height + stud.hardware.washer_thickness + stud.pitch,
    )
    half, across = known(job.caliper.ear_spacing_mm) / 2, stud.head_across_corners / 2
    outer = math.hypot(line.radial_seat, half + across)
    inner = [max(line.radial_seat - long - high, 0.0) for long in deep]
    rings = (*rotor_rings(job, line), *hub_rings(job))
    span = (line.ear_face_z - across, line.ear_face_z + across)
    gap = min(
        nearest_gap(Ring(math.hypot(low, max(half - across, 0.0)), outer, *span), rings, limit.watch) for low in inner
    )
    why = space_text("nut behind a stud", "what turns", gap, lengths) + "; it must not meet it."
    return (FamilyCheck("radial-nut-room", gap, why, "needs rotor, hub and hat"),)


def _bolts(stud: Thread, deep: list[float], job: Job, lengths: LengthFormat) -> tuple[Listed, ...]:
    """Return the studs that go right through, each as long as plate, foot, washers and two nuts need."""
    foot = job.caliper.ear_thickness_mm
    text = f"{lengths.size(max(deep))} of plate" + (
        f", {lengths.size(foot)} of foot" if foot else ", the caliper's foot"
    )
    return (
        Listed(
            "bought",
            len(deep),
            "stud, right through",
            stud.name,
            f"{text}, washers and a nut with its own lock at each end",
        ),
        Listed("bought", 2 * len(deep), "nut", stud.name, "with its own lock"),
        Listed("bought", 2 * len(deep), "washer", stud.size, "hardened"),
    )


def _seat(frame: ClockFrame, radius: float, reach: float) -> list[Disc]:
    """Return the corners of the flat seat at ``radius`` from the axle, as far as ``reach`` to either side [mm]."""
    rim, by = radius - CORNER_MM, reach - CORNER_MM
    return [Disc(frame.at(rim, way * by), CORNER_MM) for way in (1.0, -1.0)]


def _asks(lengths: LengthFormat, least: float, beside: float, major: float, between: float) -> tuple[FamilyCheck, ...]:
    """Return what is asked of the plate: spacer left, metal beside a stud of ``major`` diameter and to the lugs' holes [mm]."""
    plane = (
        f"The studs' plane lies {lengths.gap(least)} {'outside' if least >= 0 else 'inside'} where a plate's middle is"
    )
    plane += (
        ": that is spacer." if least >= 0 else ", which no spacer cures: put the plate on the other side of the lugs."
    )
    edge = f"{lengths.gap(beside)} of metal is left beside each stud in the plate's edge."
    holes = f"{lengths.gap(between)} is left between a stud's hole and a lug's."
    return (
        FamilyCheck("radial-plane", least, plane),
        FamilyCheck("radial-edge", beside, edge, limit=Limit(major / 2, 0.6 * major)),
        FamilyCheck("radial-ligament", between, holes),
    )


def _studs(job: Job, lengths: LengthFormat, stud: Thread, engaged: float, metal: Material) -> tuple[FamilyCheck, ...]:
    """Return what is asked of the studs: their size, the feet's holes, and that the stud breaks before its thread strips.

    ``engaged``: unknown where they go right through and are in no thread of the plate.
    """
    size, hole = limit_for(job, "bolt-size"), limit_for(job, "bolt-in-hole")
    room_left = known(job.caliper.ear_hole_mm) - stud.major
    needed = engagement_against_stripping(stud, usual_grade(stud).tensile, metal.tensile)
    passes = (
        f"The feet's holes leave {lengths.gap(room_left)} round a {stud.name} stud."
        if room_left >= hole.stop
        else f"The feet's holes of {lengths.size(known(job.caliper.ear_hole_mm))} do not pass over {stud.name} studs."
    )
    held = f"{lengths.size(engaged)} of thread in {metal.name}, {lengths.size(needed)} needed so that the stud breaks first."
    return (
        FamilyCheck("radial-stud-size", stud.major, f"{stud.name} studs; no strength is computed.", limit=size),
        FamilyCheck(
            "radial-stud-hole",
            room_left,
            passes,
            "needs the diameter of the feet's holes",
            hole,
            ("caliper", "bracket"),
        ),
        *([FamilyCheck("radial-stud-thread", engaged, held, limit=Limit(needed, needed))] if is_known(engaged) else []),
    )


RADIAL = Family("radial-mount", "Radial mount with studs", radial_mount, axial=False, chamfered=False)

"""Wheel room: the caliper, its ears and bolts and the plate against the inside of the wheel over a full turn.

The wheel turns, the caliper stands; in the (z, r) half plane the wheel's inside is one profile, and the caliper is swept
by its own width: a point at radial u and across w lies at r = √(u² + w²), so each point (z, u) of the section becomes a line
from r = u at its middle to r = √(u² + w²) at its widest.
"""

import math
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise

import numpy as np
import shapely

from bicentra.core.base.finding import Finding, Remedy, Verdict
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.outline import FloatArray
from bicentra.core.base.wording import Words, decided_by, make_check, make_finding, missing_names
from bicentra.core.bracket.flat_plate import Assembly, farthest
from bicentra.core.bracket.swing import name_of, obstacle_shape
from bicentra.core.lineup.solids import section_outline
from bicentra.core.lineup.wheel import NOMINAL_IN, Points, WheelInside, nominal_wheel, wheel_inside
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import allowance, limit_for
from bicentra.core.parts.materials import CALIPER_EXPANSION
from bicentra.core.parts.wheel import Wheel

Lines = tuple[Points, ...]
Parts = tuple[tuple[str, Lines], ...]
Solids = tuple[tuple[str, Points], ...]
NOWHERE = (UNKNOWN, UNKNOWN)
STEP_MM, TRACED_MM = 2.0, 5.0
"""Points along the caliper's section, and how far a trace may end short of the caliper [mm]."""
SAME_DIGITS = 9
"""Digits to which radii are the same at every clock angle: what was worked out for one is then found again."""
MOST_SPACER_MM = 40
STOCK_SPACERS_MM = (3.0, 5.0, 8.0, 10.0, 12.0, 15.0, 20.0, 25.0, 30.0)
"""Wheel spacers on sale: common practice."""


def swept_section(job: Job, top: float) -> Points:
    """Return the outer bound of the caliper's section swept over its width: (z from slot centre, r) [mm].

    Empty while something is not known.
    """
    outline = section_outline(job)
    half = known(job.caliper.body_width_mm) / 2
    if not outline or not is_known(top) or not (job.caliper.body_face_mm or is_known(half)):
        return ()
    return _swept(outline, job.caliper.body_face_mm, half, top)


@lru_cache(maxsize=64)
def _swept(outline: Points, face: Points, half: float, top: float) -> Points:
    dense = _dense(outline, tuple(out for _, out in face))
    out = dense[:, 1]
    wide = _widest(face, out) if face else np.full(len(out), half)
    order = np.argsort(out, kind="stable")
    far = np.empty(len(out))
    far[order] = np.maximum.accumulate(np.hypot(top + out, wide)[order])  # what lies below may reach out further
    return tuple(zip(dense[:, 0].tolist(), far.tolist()))


def _dense(outline: Points, levels: tuple[float, ...]) -> FloatArray:
    """Return (n, 2) float, mm: the closed outline with a point at least every ``STEP_MM``, and one at each of ``levels``.

    ``levels``: heights of the face's corners, where its width turns: a corner between two points would be missed. Between
    them the width is linear and √(u² + w²) convex, so that a straight line errs towards a clash.
    """
    ring = np.array((*outline, outline[0]))
    parts = []
    for a, b in pairwise(ring):
        count = max(1, math.ceil(float(np.hypot(*(b - a))) / STEP_MM))
        steps = {k / count for k in range(count)}
        rise = float(b[1] - a[1])
        steps |= {t for t in ((level - float(a[1])) / rise for level in levels if rise) if 0.0 < t < 1.0}
        parts.append(a + (b - a) * np.array(sorted(steps))[:, None])
    return np.concatenate([*parts, ring[-1:]])


def _widest(face: Points, out: FloatArray) -> FloatArray:
    """Return how far across the body reaches at each height ``out`` above the pad's top [mm]."""
    ring = np.array((*face, face[0]))
    at = np.clip(out, ring[:, 1].min(), ring[:, 1].max())[:, None]
    (w0, u0), (w1, u1) = ring[:-1].T, ring[1:].T
    level = np.abs(u1 - u0) < 1e-12
    t = (at - u0) / np.where(level, 1.0, u1 - u0)
    across = np.where(level, np.maximum(np.abs(w0), np.abs(w1)), np.abs(w0 + t * (w1 - w0)))
    hit = (at >= np.minimum(u0, u1) - 1e-9) & (at <= np.maximum(u0, u1) + 1e-9)
    return np.asarray(np.max(np.where(hit, across, 0.0), axis=1))


def standing_parts(assembly: Assembly) -> Parts:
    """Return what is known to stand inside the wheel as closed outlines in (z, r) of the hub frame, each with its tag."""
    return tuple((tag, lines) for tag, lines in everything_standing(assembly) if lines)


def everything_standing(assembly: Assembly) -> Parts:
    """Return the same with what is not known yet, without lines: it could stand anywhere."""
    job, line = assembly.job, assembly.line
    middle = line.rotor_midplane_z + assembly.packing.error
    parts: list[tuple[str, Lines]] = []
    boxes: list[tuple[str, tuple[float, float, float, float]]] = []
    section = swept_section(job, line.pad_top_radius)
    grid: Lines = ()
    if section and is_known(middle):
        grid = _grid(section_outline(job), job.caliper.body_face_mm, section, line.pad_top_radius, middle)
    parts.append(("caliper", grid))
    ear = math.hypot(line.ear_line_radius, known(job.caliper.ear_spacing_mm) / 2)
    posts = [(p, ear) for turning in assembly.turning for p in turning]
    posts += [(p, math.hypot(p.x, p.y)) for p in assembly.fixed]
    for post, radius in posts:
        boxes.append((post.feature, (post.z0, post.z1, radius - post.radius, radius + post.radius)))
    boxes += [(f"{group}-bolt-0", (UNKNOWN,) * 4) for group in assembly.unchosen]
    for k, obstacle in enumerate(job.knuckle.obstacles):
        shape = obstacle_shape(obstacle)
        near, z = float(shape.distance(shapely.Point(0.0, 0.0))), (known(obstacle.z_min_mm), known(obstacle.z_max_mm))
        boxes.append((f"obstacle-{k}", (*z, near, max(math.hypot(*point) for point in obstacle.outline_mm))))
    plate = ((*assembly.packing.z_range, 0.0, round(farthest(assembly), SAME_DIGITS)),)
    rings = [slab.ring for slab in assembly.metal]
    metal = [(r.z0, r.z1, r.r0, round(r.r1, SAME_DIGITS)) for r in rings] or plate
    boxes += [("bracket", box) for box in (metal if assembly.solved else ((UNKNOWN,) * 4,))]
    return (*parts, *((tag, _box(*bounds) if is_known(*bounds) else ()) for tag, bounds in boxes))


@lru_cache(maxsize=64)
def _grid(outline: Points, face: Points, section: Points, top: float, middle: float) -> Lines:
    """Return the swept caliper as lines in (z, r): its section at the middle and at its widest, and rungs between them."""
    dense = _dense(outline, tuple(out for _, out in face))
    inner = tuple((z + middle, top + out) for z, out in dense.tolist())
    outer = tuple((z + middle, r) for z, r in section)
    return (inner, outer, *zip(inner, outer))


def _box(z0: float, z1: float, r0: float, r1: float) -> Lines:
    return (((z0, r0), (z1, r0), (z1, r1), (z0, r1), (z0, r0)),)


@dataclass(frozen=True)
class WheelGap:
    """The least room [mm] between what stands (its drawing tag) and a part of the wheel, and its ends (z, r)."""

    value: float
    tag: str
    name: str
    at: tuple[float, float]
    to: tuple[float, float]


NO_GAP = WheelGap(UNKNOWN, "caliper", "wheel", NOWHERE, NOWHERE)
"""What is said while something that decides is not known."""


@lru_cache(maxsize=32)
def room_between(parts: Parts, solids: Solids) -> WheelGap:
    """Return the least room between standing parts and wheel; negative when they meet, unknown when one is not there.

    How deep a clash goes is that of the deepest of the standing outline's points.
    """
    shapes = [(name, _solid(points)) for name, points in solids]
    lines = [(tag, _lines(of)) for tag, of in parts]
    gaps = [_gap(tag, line, name, solid) for tag, line in lines for name, solid in shapes]
    return min(gaps, default=NO_GAP, key=lambda gap: gap.value)


@lru_cache(maxsize=64)
def _lines(lines: Lines) -> shapely.MultiLineString:
    return shapely.MultiLineString(lines)


def _gap(tag: str, line: shapely.MultiLineString, name: str, solid: shapely.Polygon) -> WheelGap:
    if shapely.intersects(line, solid):
        points = shapely.get_coordinates(line)
        inside = shapely.points(points)
        depths = np.where(shapely.intersects(solid, inside), shapely.distance(inside, shapely.boundary(solid)), 0.0)
        deepest = int(np.argmax(depths))
        there = (float(points[deepest][0]), float(points[deepest][1]))
        return WheelGap(-float(depths[deepest]), tag, name, there, there)
    (x0, y0), (x1, y1) = shapely.get_coordinates(shapely.shortest_line(line, solid)).tolist()
    return WheelGap(math.hypot(x1 - x0, y1 - y0), tag, name, (x0, y0), (x1, y1))


@lru_cache(maxsize=64)
def _solid(points: Points) -> shapely.Polygon:
    shape = shapely.make_valid(shapely.Polygon(points))
    shapely.prepare(shape)
    return shape


def wheel_room(assembly: Assembly, words: Words, cures: bool = True) -> Finding:
    """Room between everything that stands and the turning wheel, cold, and hot with play in the bearings."""
    job, line = assembly.job, assembly.line
    limit, loose = limit_for(job, "wheel-room"), limit_for(job, "wheel-room-hot")
    inside = wheel_inside(job.wheel) if job.wheel is not None else None
    everything = everything_standing(assembly)
    parts = tuple((tag, lines) for tag, lines in everything if lines)
    seated = inside is not None and is_known(line.wheel_seat_z)
    gap = room_between(parts, inside.solids(line.wheel_seat_z) if inside is not None and seated else ())
    missing = (
        _missing(job, inside)
        or _untraced(parts, inside, line.wheel_seat_z, job.wheel)
        or _unplaced(assembly, everything)
    )
    if missing and not gap.value <= 0.0:  # a certain clash is said whatever else is missing
        gap = NO_GAP
    value, at, less = gap.value, gap.at, _closes(job, line.pad_top_radius)
    place = f"{words.gap(at[1])} from the axle, {words.gap(at[0])} {'outboard' if at[0] >= 0 else 'inboard'} of the hub face"
    what = {"caliper": "caliper", "bracket": "plate"}.get(gap.tag) or name_of(assembly, gap.tag).removeprefix("the ")
    told = f"The {what} {_meets(value, words)} the {gap.name}"
    why = f"{told}, {place}, over the whole turn; what touches once a turn wears through."
    hot = f"Hot and with bearing play: {_meets(value - less, words)} the {gap.name}"
    checks = (
        make_check("Cold", value, limit, f"Cold: {_meets(value, words)} the {gap.name}"),
        make_check("Hot, with bearing play", value - less, loose, hot),
    )
    wanted = max(limit.watch, loose.watch + less)
    remedies = _remedies(assembly, parts, wanted, words) if cures and value < wanted else ()
    finding = make_finding(
        "wheel-room", "Wheel clear of the caliper", value, limit, why,
        features=(gap.tag, "wheel"), missing=missing, checks=checks, remedies=remedies,
    )  # fmt: skip
    finding = decided_by(finding, checks, loose, remedies)
    return _on_nominal(finding, inside)


def _meets(value: float, words: Words) -> str:
    return f"stands {words.gap(value)} from" if value >= 0 else f"runs {words.gap(value)} into"


def _closes(job: Job, top: float) -> float:
    """Return by how much heat and bearing play close the room [mm]."""
    rise = allowance(job, "caliper-rise-k")
    return CALIPER_EXPANSION * rise * (top if is_known(top) else 0.0) + allowance(job, "bearing-play")


def _on_nominal(finding: Finding, inside: WheelInside | None) -> Finding:
    """Hold a finding about a wheel that nobody traced down to a watch."""
    if inside is None or not inside.guessed:
        return finding
    names = " and ".join(inside.guessed)
    assumed = (*finding.assumed, f"the {names} is nominal, guessed from the wheel's size")
    if finding.verdict is not Verdict.OK:
        return replace(finding, assumed=assumed)
    why = f"{finding.why} It rests on a guess (the {names}): trace the wheel, or hold the card template in it."
    return replace(finding, verdict=Verdict.CAUTION, why=why, assumed=assumed)


def _missing(job: Job, inside: WheelInside | None) -> str:
    if job.wheel is None:
        return "needs the wheel (take one from the library, or add its size)"
    caliper = job.caliper
    names: dict[str, float | None] = {
        "inside_of_the_wheel_or_its_diameter_width_and_offset": None if inside is None else 0.0,
        "rotor_diameter": job.rotor.diameter_mm,
    }
    if not caliper.body_section_mm:
        names["body_inboard"], names["body_outboard"] = caliper.body_inboard_mm, caliper.body_outboard_mm
        names["body_outside_pad_top"], names["pad_height"] = caliper.body_outer_mm, caliper.pad_height_mm
    if not caliper.body_face_mm:
        names["body_width"] = caliper.body_width_mm
    return missing_names(**names)


def _unplaced(assembly: Assembly, everything: Parts) -> str:
    """Return what inside the wheel is not known yet, in words."""
    tags = [tag for tag, lines in everything if not lines]
    names = dict.fromkeys("the bracket" if tag == "bracket" else name_of(assembly, tag) for tag in tags)
    return f"needs place and size of {', '.join(names)}" if names else ""


def _untraced(parts: Parts, inside: WheelInside | None, seat: float, wheel: Wheel | None) -> str:
    """Return where a traced wheel was not traced although the caliper lies there, in words; empty where it was.

    Inboard of the rim's own edge, where its width and offset are known, there is no wheel to trace.
    """
    points = [point for tag, lines in parts if tag == "caliper" for line in lines for point in line]
    if inside is None or inside.unmeasured or not points or not is_known(seat):
        return f"needs size and place of the {inside.unmeasured[0]}" if inside is not None and inside.unmeasured else ""
    z, r = [point[0] - seat for point in points], [point[1] for point in points]
    half, offset = (known(wheel.rim_width_mm) / 2, known(wheel.offset_mm)) if wheel is not None else (UNKNOWN, UNKNOWN)
    edge = -offset - half if is_known(half, offset) else min(z)
    barrel, spokes = inside.barrel, inside.spokes
    begins, ends = max(min(z), edge), max(at for at, _ in (barrel[-1], *spokes))
    if wheel is not None and wheel.barrel_mm and (barrel[0][0] > begins + TRACED_MM or ends < max(z) - TRACED_MM):
        return "needs the inside of the barrel traced over the whole depth of the caliper"
    out = min(max(r), *(radius for _, radius in barrel))
    if wheel is not None and wheel.spokes_mm and (spokes[0][1] > min(r) + TRACED_MM or spokes[-1][1] < out - TRACED_MM):
        return "needs the inside of the spokes traced over the whole height of the caliper"
    return ""


def _remedies(assembly: Assembly, parts: Parts, wanted: float, words: Words) -> tuple[Remedy, ...]:
    """Return the wheel spacer that makes room, and the smallest nominal wheel that has it."""
    job, seat = assembly.job, assembly.line.wheel_seat_z
    found = [_spacer(job, parts, seat, wanted, words), _bigger(job, parts, seat, wanted)]
    return tuple(remedy for remedy in found if remedy is not None)


def _spacer(job: Job, parts: Parts, seat: float, wanted: float, words: Words) -> Remedy | None:
    inside = wheel_inside(job.wheel) if job.wheel else None
    if inside is None:
        return None
    now = known(job.fit.wheel_spacer_mm)
    for thick in STOCK_SPACERS_MM:
        if thick > now and room_between(parts, inside.solids(seat - now + thick)).value >= wanted:
            side = (
                f"{words.gap(thick - now)} less stud for the wheel nuts",
                f"track {words.gap(2 * (thick - now))} wider over the axle",
                "the tyre may meet the wing: turn to full lock and look",
            )
            return Remedy(
                f"Put a {words.size(thick)} spacer under the wheel",
                thick - now,
                True,
                (("fit.wheel_spacer_mm", thick),),
                side,
            )
    return None


def _bigger(job: Job, parts: Parts, seat: float, wanted: float) -> Remedy | None:
    inches = smallest_wheel(job, parts, seat, wanted)
    if job.wheel is None or inches is None or inches * 25.4 <= known(job.wheel.rim_diameter_mm):
        return None
    side = (
        "nominal inside: hold the card template in the real wheel before ordering",
        "spare wheel: check that it goes on too",
    )
    return Remedy(
        f"Use a {inches} in wheel or larger", None, True, (("wheel", nominal_wheel(inches, job.wheel)),), side
    )


def smallest_wheel(job: Job, parts: Parts, seat: float, wanted: float) -> int | None:
    """Return the smallest nominal wheel [inches] of the job's width and offset that leaves ``wanted`` mm; ``None`` if none."""
    if job.wheel is None:
        return None
    for inches in NOMINAL_IN:
        inside = wheel_inside(nominal_wheel(inches, job.wheel))
        if inside is not None and room_between(parts, inside.solids(seat)).value >= wanted:
            return inches
    return None

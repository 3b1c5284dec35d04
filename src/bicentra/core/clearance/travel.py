"""Ways the caliper has to move: a floating one along the axle as its pads wear, any one off the rotor for new pads,
and the hose that hangs on it. For one clock angle or for many at once, like ``swing``.
"""

import math
from dataclasses import replace

import numpy as np
import shapely
from numpy.typing import NDArray

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import UNKNOWN, apart, is_known, known, ordered
from bicentra.core.base.wording import LengthFormat, make_finding, missing_names
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.metal import metal_at
from bicentra.core.bracket.obstacles import obstacle_shape
from bicentra.core.bracket.turned import ear_centres
from bicentra.core.clearance.body_gaps import body_gaps, slice_shapes
from bicentra.core.clearance.clock_sweep import name_of
from bicentra.core.clearance.half_plane import room_between
from bicentra.core.clearance.wheel_room import standing_parts
from bicentra.core.geometry.frame import in_plane
from bicentra.core.geometry.gaps import Swept, distance, least, with_height
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.ring import Ring, nearest_gap
from bicentra.core.lineup.body import Body
from bicentra.core.lineup.wheel import wheel_inside
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import allowance, limit_for

REACH_MM = 60.0
"""Travel looked for at most: more than any floating caliper has (about 1 in in all, common practice)."""


def travel_findings(assembly: Assembly, words: LengthFormat) -> tuple[Finding, ...]:
    """Return the findings on how the caliper can move; float only where it floats, hose only where its port is known."""
    here = assembly.line.frame.here
    found = [removal(assembly, here, words)]
    if assembly.job.caliper.action == "floating":
        found.append(float_travel(assembly, here, words))
    if assembly.job.caliper.hose_port_mm:
        found.append(hose_room(assembly, here, words))
    return tuple(found)


def pad_wear(job: Job) -> float:
    """Return how far one pad and its rotor face wear together [mm]: new to 0.100 in of pad, and half of the rotor's loss."""
    rotor = known(job.rotor.thickness_mm) - known(job.rotor.min_thickness_mm)
    pad = known(job.caliper.pad_thickness_mm) - allowance(job, "worn-pad")
    return (max(pad, 0.0) if is_known(pad) else UNKNOWN) + rotor / 2


def travel_room(assembly: Assembly, clock_rad: FloatArray) -> tuple[Swept, Swept]:
    """Return the free travel of a floating caliper's body inboard and outboard at each angle [mm], at most ``REACH_MM``.

    Whatever the body would meet in plan stops it: obstacles, lugs and their bolts, the plate, the rotor in its slot,
    the wheel outboard, and the slides' own ends where they were measured.
    """
    caliper, line, error = assembly.job.caliper, assembly.line, assembly.stack_up.error
    count = len(clock_rad)
    inboard, outboard = _met(assembly, clock_rad)
    for way, slide, sense in ((inboard, caliper.slide_inboard_mm, 1.0), (outboard, caliper.slide_outboard_mm, -1.0)):
        way.append((np.full(count, line.slot_gap + sense * error), ("caliper", "rotor")))
        if slide is not None:
            way.append((np.full(count, slide), ("caliper", "slides")))
    outboard.append((np.full(count, _to_wheel(assembly)), ("caliper", "wheel")))
    both = (
        least([c[:, None] for c, _ in way], [n for _, n in way], count, certain=-math.inf)
        for way in (inboard, outboard)
    )
    first, second = both
    return first, second


Column = tuple[FloatArray, tuple[str, str]]


def _met(assembly: Assembly, clock_rad: FloatArray) -> tuple[list[Column], list[Column]]:
    """Return how far the body can go inboard and outboard before each fixed thing that lies in its way."""
    body, count = assembly.body, len(clock_rad)
    inboard: list[Column] = []
    outboard: list[Column] = []
    if not (body.is_known and np.isfinite(clock_rad).all()):
        unknown = np.full(count, UNKNOWN)
        return [(unknown, ("caliper", "knuckle"))], [(unknown, ("caliper", "knuckle"))]
    slices = slice_shapes(body.slices, clock_rad)
    for tag, shape, z0, z1 in _in_the_way(assembly, clock_rad):
        for found, free in zip((inboard, outboard), _free(body, slices, shape, z0, z1)):
            found.append((free, ("caliper", tag)))
    for group in assembly.unchosen:
        for found in (inboard, outboard):
            found.append((np.full(count, UNKNOWN), ("caliper", f"{group}-bolt-0")))
    return inboard, outboard


Thing = tuple[str, NDArray[np.object_] | shapely.Geometry | None, float, float]


def _in_the_way(assembly: Assembly, clock_rad: FloatArray) -> list[Thing]:
    """Return what stands still beside the body: tag, shape in (x, y) (``None``: not known), range of z [mm]."""
    things: list[Thing] = [
        (f"obstacle-{k}", obstacle_shape(o), known(o.z_min_mm), known(o.z_max_mm))
        for k, o in enumerate(assembly.job.knuckle.obstacles)
    ]
    things += [
        (p.feature, shapely.Point(p.x, p.y).buffer(p.radius) if is_known(p.x, p.y, p.radius) else None, p.z0, p.z1)
        for p in assembly.fixed
    ]
    things += [("bracket", piece.shapes, piece.z0, piece.z1) for piece in metal_at(assembly, clock_rad)]
    return [*things, ("bracket", None, *assembly.stack_up.z_range)] if assembly.bracket.unmade else things


def _free(
    body: Body, slices: NDArray[np.object_], shape: NDArray[np.object_] | shapely.Geometry | None, z0: float, z1: float
) -> tuple[FloatArray, FloatArray]:
    """Return (n,) float, mm each: how far the body, drawn as (n, k) ``slices``, can go inboard and outboard before ``shape``."""
    if shape is None or math.isnan(z0 + z1):
        return np.full(len(slices), UNKNOWN), np.full(len(slices), UNKNOWN)
    low, high = body.heights
    in_way = shapely.intersects(slices, np.asarray(shape)[..., None])
    inward = low + high > z0 + z1
    free_in = np.where(inward, np.clip(low - z1, 0.0, REACH_MM), REACH_MM)
    free_out = np.where(inward, REACH_MM, np.clip(z0 - high, 0.0, REACH_MM))
    one, other = (np.min(np.where(in_way, free, REACH_MM), axis=1) for free in (free_in, free_out))
    return one, other


def _to_wheel(assembly: Assembly) -> float:
    """Return how far the body can go outboard before the wheel, found by halving; unknown without a wheel."""
    wheel, seat = assembly.job.wheel, assembly.line.wheel_seat_z
    inside = wheel_inside(wheel) if wheel is not None else None
    if inside is None or not is_known(seat) or inside.unmeasured:
        return UNKNOWN
    parts = tuple(part for part in standing_parts(assembly) if part[0] == "caliper")
    if not parts:
        return UNKNOWN
    free, met = 0.0, REACH_MM
    if room_between(parts, inside.solids(seat - met)).value > 0:
        return REACH_MM
    while met - free > 0.05:
        middle = (free + met) / 2
        free, met = (middle, met) if room_between(parts, inside.solids(seat - middle)).value > 0 else (free, middle)
    return free


def float_sweep(assembly: Assembly, clock_rad: FloatArray) -> tuple[FloatArray, Swept, Swept]:
    """Return the travel to spare at each angle [mm]: the lesser of both ways, less the wear of the pad across."""
    inboard, outboard = travel_room(assembly, clock_rad)
    wear = pad_wear(assembly.job)
    return np.minimum(inboard.value, outboard.value) - wear, inboard, outboard


def float_travel(assembly: Assembly, here: FloatArray, words: LengthFormat) -> Finding:
    """Free travel of a floating caliper over the wear of its pads [mm]."""
    job = assembly.job
    spare, inboard, outboard = float_sweep(assembly, here)
    wear = pad_wear(job)
    tight = inboard if inboard.value[0] <= outboard.value[0] else outboard
    other = _called(assembly, tight.pair()[1])
    ways = [f"{words.gap(float(w.value[0]))} {n}" for w, n in ((inboard, "inboard"), (outboard, "outboard"))]
    why = (
        f"Free travel is {ways[0]} and {ways[1]}, up to {other}; worn pads and rotor ask {words.gap(wear)} each way. "
        "A caliper that cannot float wears one pad."
    )
    missing = assembly.unsolved or missing_names(
        pad_material_new=job.caliper.pad_thickness_mm, rotor_thickness=job.rotor.thickness_mm,
        discard_thickness=job.rotor.min_thickness_mm, body_width=job.caliper.body_width_mm,
        body_inboard=job.caliper.body_inboard_mm, body_outboard=job.caliper.body_outboard_mm, clock_angle=job.fit.clock_deg,
    )  # fmt: skip
    untold = job.caliper.slide_inboard_mm is None or job.caliper.slide_outboard_mm is None
    assumed = (
        ("how far the slides themselves let it go was not measured: only what it would meet is looked at",)
        if untold
        else ()
    )
    return make_finding(
        "float-travel", float(spare[0]), limit_for(job, "float-travel"), why,
        features=tight.pair(), missing=missing or "a measurement of what it would meet is missing", assumed=assumed,
    )  # fmt: skip


def _called(assembly: Assembly, tag: str) -> str:
    plain = {"rotor": "the rotor", "slides": "the ends of its slides", "bracket": "the plate", "wheel": "the wheel"}
    return plain.get(tag) or name_of(assembly, tag)


def removal_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the room at each angle [mm] on the caliper's way off: outward until its pads clear the rotor's edge, its
    bolts drawn out first; plate on, wheel off.
    """
    body, line, count = assembly.body, assembly.line, len(clock_rad)
    out = known(assembly.job.rotor.diameter_mm) / 2 - line.pad.inner_radius
    if not (body.is_known and is_known(out) and np.isfinite(clock_rad).all()):
        return Swept(np.full(count, UNKNOWN), np.zeros(count), ())
    obstacles = assembly.job.knuckle.obstacles
    shapes = np.array([*(obstacle_shape(o) for o in obstacles), *(shapely.Point(p.x, p.y) for p in assembly.fixed)])
    reach = [*((known(o.z_min_mm), known(o.z_max_mm)) for o in obstacles), *((p.z0, p.z1) for p in assembly.fixed)]
    low, high = np.array(reach).reshape(-1, 2).T
    grow = np.array([*(0.0 for _ in obstacles), *(p.radius for p in assembly.fixed)])
    columns = [body_gaps(body, clock_rad, shapes[None, :], low, high, grow, pulled=out)]
    tags = [*(f"obstacle-{k}" for k in range(len(obstacles))), *(p.feature for p in assembly.fixed)]
    rows, names = _bolt_ways(assembly, clock_rad)
    return least([*columns, *rows], [*(("caliper", tag) for tag in tags), *names], count)


def _bolt_ways(assembly: Assembly, clock_rad: FloatArray) -> tuple[list[FloatArray], list[tuple[str, str]]]:
    """Return the room round each caliper bolt's way out: its own length behind its head, rotor on, obstacles standing.

    A bolt that is not chosen, or whose place or length is not known, has a way that is not known.
    """
    rows: list[FloatArray] = []
    names: list[tuple[str, str]] = []
    centres, count = ear_centres(assembly, clock_rad), len(clock_rad)
    bolts = [placed for placed in assembly.joints if placed.at == "ear"]
    if not np.isfinite(centres).all() or "ear" in assembly.unchosen:
        return [np.full((count, 1), UNKNOWN)], [("ear-bolt-0", "rotor")]
    obstacles = assembly.job.knuckle.obstacles
    shapes = np.array([obstacle_shape(obstacle) for obstacle in obstacles])
    flat = distance(shapely.points(centres)[:, :, None], shapes) if len(shapes) else np.zeros((count, 2, 0))
    reach = np.array([(known(o.z_min_mm), known(o.z_max_mm)) for o in obstacles]).reshape(-1, 2)
    rho = math.hypot(assembly.line.ear_line_radius, known(assembly.job.caliper.ear_spacing_mm) / 2)
    for placed in bolts:
        ear = int(placed.feature.rsplit("-", 1)[1])
        low, high = ordered(placed.head_z, placed.head_z - placed.way * placed.joint.length)
        radius = placed.joint.thread.head_across_corners / 2
        ring = Ring(max(rho - radius, 0.0), rho + radius, low, high)
        enough = limit_for(assembly.job, "caliper-removal").watch
        rows.append(np.full((count, 1), nearest_gap(ring, assembly.rotor, enough)))
        rows.append(with_height(flat[:, ear] - radius, np.maximum(reach[:, 0] - high, low - reach[:, 1])))
        names += [(placed.feature, "rotor"), *((placed.feature, f"obstacle-{k}") for k in range(len(obstacles)))]
    return rows, names


def removal(assembly: Assembly, here: FloatArray, words: LengthFormat) -> Finding:
    """Whether the caliper comes off for new pads with the plate on and the wheel off [mm]."""
    job = assembly.job
    swept = removal_sweep(assembly, here)
    value, pair = float(swept.value[0]), swept.pair()
    what = "caliper" if pair[0] == "caliper" else name_of(assembly, pair[0])
    other = _called(assembly, pair[1])
    clear = (
        f"The {what} passes {other} by {words.gap(value)} on the way off"
        if value > 0
        else f"The {what} cannot pass {other} on the way off"
    )
    if value == math.inf:
        clear = "Nothing recorded stands in the caliper's way off"
    why = f"{clear}, plate on and wheel off; else the plate has to come off for every change of pads."
    missing = assembly.unsolved or missing_names(
        body_width=job.caliper.body_width_mm, body_inboard=job.caliper.body_inboard_mm, pad_height=job.caliper.pad_height_mm,
        rotor_diameter=job.rotor.diameter_mm, clock_angle=job.fit.clock_deg,
    )  # fmt: skip
    found = make_finding(
        "caliper-removal", value, limit_for(job, "caliper-removal"), why,
        features=pair, missing=missing or "a measurement of an obstacle is missing",
        assumed=("only the obstacles in the job are looked at",),
    )  # fmt: skip
    return replace(found, verdict=Verdict.CAUTION) if found.verdict is Verdict.STOP else found


def hose_sweep(assembly: Assembly, clock_rad: FloatArray) -> Swept:
    """Return the room round the hose port at each angle [mm]: to obstacles, lugs and rotor."""
    line, count = assembly.line, len(clock_rad)
    across, out, depth = assembly.job.caliper.hose_port_mm[0]
    radial = line.pad_top_radius + out
    z = line.rotor_midplane_z + assembly.stack_up.error + depth
    if not (is_known(radial, z) and np.isfinite(clock_rad).all()):
        return Swept(np.full(count, UNKNOWN), np.zeros(count), ())
    at = shapely.points(in_plane(clock_rad, np.array([radial]), np.array([across]))[:, 0])
    rho = math.hypot(radial, across)
    columns = [
        np.full(
            (count, 1), nearest_gap(Ring(rho, rho, z, z), assembly.rotor, limit_for(assembly.job, "hose-room").watch)
        )
    ]
    names = [("caliper", "rotor")]
    for k, obstacle in enumerate(assembly.job.knuckle.obstacles):
        height = apart(known(obstacle.z_min_mm), known(obstacle.z_max_mm), z, z)
        columns.append(with_height(distance(at, obstacle_shape(obstacle)), height)[:, None])
        names.append(("caliper", f"obstacle-{k}"))
    for round_one in assembly.fixed:
        flat = np.hypot(shapely.get_x(at) - round_one.x, shapely.get_y(at) - round_one.y) - round_one.radius
        columns.append(with_height(flat, apart(round_one.z0, round_one.z1, z, z))[:, None])
        names.append(("caliper", round_one.feature))
    return least(columns, names, count)


def hose_room(assembly: Assembly, here: FloatArray, words: LengthFormat) -> Finding:
    """A finger's width round the hose where it leaves the caliper [mm]."""
    swept = hose_sweep(assembly, here)
    value, other = float(swept.value[0]), _called(assembly, swept.pair()[1])
    sense = f"has {words.gap(value)} to {other}" if value > 0 else f"lies in {other}"
    why = f"The hose port {sense}; a hose that rubs wears through. Look again at full lock, droop and bump."
    return make_finding(
        "hose-room", value, limit_for(assembly.job, "hose-room"), why,
        features=swept.pair(), missing="a measurement of what lies near it is missing",
    )  # fmt: skip

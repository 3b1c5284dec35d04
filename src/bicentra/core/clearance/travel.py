"""Ways the caliper has to move: a floating one along the axle as its pads wear, any one off the rotor for new pads,
and the hose that hangs on it. For one clock angle or for many at once, like the clock sweep.
"""

import math

import numpy as np
import shapely

from bicentra.core.base.finding import SLACK, Finding, Verdict
from bicentra.core.base.numbers import UNKNOWN, is_known, known, ordered
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat, make_finding, missing_names
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.metal import metal_at
from bicentra.core.bracket.turned import ear_centres
from bicentra.core.clearance.clock_sweep import body_gaps, name_of, slice_shapes
from bicentra.core.clearance.half_plane import HalfPlanePart, room_between, slides_outboard, swept_body
from bicentra.core.geometry.frame import in_plane
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import Prism, Shapes, pair_columns, prism_gaps
from bicentra.core.geometry.ring import Swept, least, nearest_gap
from bicentra.core.lineup.body import Body
from bicentra.core.lineup.solids import wheel_inside
from bicentra.core.parts.declared_absent import is_absent
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import allowance, limit_for

REACH_MM = 60.0
"""Travel looked for at most: more than any floating caliper has (about 1 in in all, common practice)."""


def travel_findings(assembly: Assembly, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Return the findings on how the caliper can move; float only where it floats, hose only where its port is known."""
    here = assembly.line.frame.here
    found = [removal(assembly, here, lengths)]
    if assembly.job.caliper.action == "floating":
        found.append(float_travel(assembly, here, lengths))
    if assembly.job.caliper.hose_port_mm:
        found.append(hose_room(assembly, here, lengths))
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
    wear = pad_wear(assembly.job)
    certain = wear - SLACK if is_known(wear) else -math.inf  # less stops it, whatever else is missing
    both = (
        least([c[:, None] for c, _ in way], [n for _, n in way], count, certain=certain) for way in (inboard, outboard)
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
    slices = slice_shapes(body, range(len(body.slices)), clock_rad)
    for thing in (*assembly.obstacles, *assembly.fixed, *metal_at(assembly, clock_rad)):
        for found, free in zip((inboard, outboard), _free(body, slices, thing)):
            found.append((free, ("caliper", thing.feature or "bracket")))
    if assembly.bracket.unmade:
        inboard.append((np.full(count, UNKNOWN), ("caliper", "bracket")))
        outboard.append((np.full(count, UNKNOWN), ("caliper", "bracket")))
    for group in assembly.unchosen:
        for found in (inboard, outboard):
            found.append((np.full(count, UNKNOWN), ("caliper", f"{group}-bolt-0")))
    return inboard, outboard


def _free(body: Body, slices: Shapes, thing: Prism) -> tuple[FloatArray, FloatArray]:
    """Return (n,) float, mm each: how far the body, drawn as (n, k) ``slices``, can go inboard and outboard before ``thing``."""
    if not thing.is_known:
        return np.full(len(slices), UNKNOWN), np.full(len(slices), UNKNOWN)
    low, high = body.heights
    in_way = shapely.dwithin(slices, np.asarray(thing.shape)[..., None], thing.radius)
    inward = low + high > thing.z0 + thing.z1
    free_in = np.where(inward, np.clip(low - thing.z1, 0.0, REACH_MM), REACH_MM)
    free_out = np.where(inward, REACH_MM, np.clip(thing.z0 - high, 0.0, REACH_MM))
    one, other = (np.min(np.where(in_way, free, REACH_MM), axis=1) for free in (free_in, free_out))
    return one, other


def _to_wheel(assembly: Assembly) -> float:
    """Return how far the body can go outboard before the wheel [mm]; unknown without a wheel, freely where there is
    said to be none.
    """
    if is_absent(assembly.job, "wheel"):
        return REACH_MM
    wheel, seat = assembly.job.wheel, assembly.line.wheel_seat_z
    inside = wheel_inside(wheel) if wheel is not None else None
    if inside is None or not is_known(seat) or inside.unmeasured:
        return UNKNOWN
    middle, swept = (
        assembly.line.rotor_midplane_z + assembly.stack_up.error,
        swept_body(assembly.job, assembly.line.pad_top_radius),
    )
    if swept is None or not is_known(middle):
        return UNKNOWN
    solids, caliper = inside.solids(seat), HalfPlanePart("caliper", swept.line(middle))
    meets = room_between((caliper,), solids).value <= 0.0
    return 0.0 if meets else slides_outboard(swept.path + np.array([middle, 0.0]), solids, REACH_MM)


def float_sweep(assembly: Assembly, clock_rad: FloatArray) -> tuple[FloatArray, Swept, Swept]:
    """Return the travel to spare at each angle [mm]: the lesser of both ways, less the wear of the pad across."""
    inboard, outboard = travel_room(assembly, clock_rad)
    wear = pad_wear(assembly.job)
    return np.minimum(inboard.value, outboard.value) - wear, inboard, outboard


def float_travel(assembly: Assembly, here: FloatArray, lengths: LengthFormat) -> Finding:
    """Free travel of a floating caliper over the wear of its pads [mm]."""
    job = assembly.job
    spare, inboard, outboard = float_sweep(assembly, here)
    wear = pad_wear(job)
    tight = inboard if inboard.value[0] <= outboard.value[0] else outboard
    other = _called(assembly, tight.pair()[1])
    ways = [f"{lengths.gap(float(w.value[0]))} {n}" for w, n in ((inboard, "inboard"), (outboard, "outboard"))]
    why = (
        f"Free travel is {ways[0]} and {ways[1]}, up to {other}; worn pads and rotor ask {lengths.gap(wear)} each way. "
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
    standing = (*assembly.obstacles, *(thing for thing in assembly.fixed if not _own_bolt(assembly, thing.feature)))
    body_rows = body_gaps(body, clock_rad, standing, pulled=out)
    rows, names = _bolt_ways(assembly, clock_rad)
    return least([body_rows, *rows], [*(("caliper", thing.feature) for thing in standing), *names], count)


def _own_bolt(assembly: Assembly, feature: str) -> bool:
    """Tell whether a thing is a bolt that holds the caliper itself: of one bolted straight to the lugs those are the lugs'."""
    return assembly.bracket.kind.straight and feature.startswith("lug-bolt-")


def _bolt_ways(assembly: Assembly, clock_rad: FloatArray) -> tuple[list[FloatArray], list[tuple[str, str]]]:
    """Return the room round each caliper bolt's way out: its own length behind its head, rotor on, obstacles standing.

    A bolt that is not chosen, or whose place or length is unknown, has a way that is unknown.
    """
    rows: list[FloatArray] = []
    names: list[tuple[str, str]] = []
    centres, count = ear_centres(assembly, clock_rad), len(clock_rad)
    held = "lug" if assembly.bracket.kind.straight else "ear"
    bolts = [placed for placed in assembly.joints if placed.at == held]
    if not np.isfinite(centres).all() or held in assembly.unchosen:
        return [np.full((count, 1), UNKNOWN)], [("ear-bolt-0", "rotor")]
    ways = list[Prism]()
    rho = math.hypot(assembly.line.ear_line_radius, known(assembly.job.caliper.ear_spacing_mm) / 2)
    for placed in bolts:
        ear = int(placed.feature.rsplit("-", 1)[1])
        low, high = ordered(placed.head_z, placed.head_z - placed.way * placed.joint.length)
        way = _upright(low, high, centres[:, ear], placed.joint.thread.head_across_corners / 2)
        enough = limit_for(assembly.job, "caliper-removal").watch
        rows.append(np.full((count, 1), nearest_gap(way.ring_at(rho), assembly.rotor, enough)))
        names.append((placed.feature, "rotor"))
        ways.append(way)
    if ways and assembly.obstacles:
        rows.append(pair_columns(prism_gaps(tuple(ways), assembly.obstacles), count))
        names += [(placed.feature, obstacle.feature) for placed in bolts for obstacle in assembly.obstacles]
    return rows, names


def _upright(low: float, high: float, middles: FloatArray, radius: float) -> Prism:
    """Return a round body [mm] about (n, 2) ``middles`` at n clock angles."""
    if len(middles) == 1:
        return Prism(low, high, at=(float(middles[0, 0]), float(middles[0, 1])), radius=radius)
    return Prism(low, high, shapely.points(middles), radius=radius)


def removal(assembly: Assembly, here: FloatArray, lengths: LengthFormat) -> Finding:
    """Whether the caliper comes off for new pads with the plate on and the wheel off [mm]."""
    job = assembly.job
    swept = removal_sweep(assembly, here)
    value, pair = float(swept.value[0]), swept.pair()
    what = "caliper" if pair[0] == "caliper" else name_of(assembly, pair[0])
    other = _called(assembly, pair[1])
    clear = (
        f"The {what} passes {other} by {lengths.gap(value)} on the way off"
        if value > 0
        else f"The {what} cannot pass {other} on the way off"
    )
    if value == math.inf:
        clear = "Nothing recorded stands in the caliper's way off"
    stays = "rotor" if assembly.bracket.kind.straight else "plate"
    why = f"{clear}, {stays} on and wheel off; else the {stays} has to come off for every change of pads."
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
    port = Prism(z, z, shapely.points(in_plane(clock_rad, np.array([radial]), np.array([across]))[:, 0]))
    to_rotor = nearest_gap(
        port.ring_at(math.hypot(radial, across)), assembly.rotor, limit_for(assembly.job, "hose-room").watch
    )
    standing = (*assembly.obstacles, *assembly.fixed)
    columns = [np.full((count, 1), to_rotor), pair_columns(prism_gaps((port,), standing), count)]
    return least(columns, [("caliper", tag) for tag in ("rotor", *(thing.feature for thing in standing))], count)


def hose_room(assembly: Assembly, here: FloatArray, lengths: LengthFormat) -> Finding:
    """A finger's width round the hose where it leaves the caliper [mm]."""
    swept = hose_sweep(assembly, here)
    value, other = float(swept.value[0]), _called(assembly, swept.pair()[1])
    sense = f"has {lengths.gap(value)} to {other}" if value > 0 else f"lies in {other}"
    why = f"The hose port {sense}; a hose that rubs wears through. Look again at full lock, droop and bump."
    return make_finding(
        "hose-room", value, limit_for(assembly.job, "hose-room"), why,
        features=swept.pair(), missing="a measurement of what lies near it is missing",
    )  # fmt: skip

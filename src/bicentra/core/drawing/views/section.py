"""The second sightline, across the rotor: a section through the axle and the caliper's middle, the wheel round it."""

import math
from functools import lru_cache

import shapely

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.axial import side_word
from bicentra.core.bracket.bolt_checks import bolt_gap
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.clearance.half_plane import swept_body
from bicentra.core.clearance.travel import pad_wear
from bicentra.core.clearance.wheel_room import wheel_gap
from bicentra.core.drawing.model import Dimension, Drawing, Handle, Note, Sheet
from bicentra.core.drawing.views.bracket import bracket_section
from bicentra.core.drawing.views.face import BLEEDER_MM, bleeder_place, verdict_of
from bicentra.core.evaluation.solution import Solution
from bicentra.core.geometry.outline import Point
from bicentra.core.lineup.solids import section_outline, wheel_inside
from bicentra.core.parts.job import Hub, Rotor
from bicentra.core.parts.threads import SUNK_HEADS, find_thread
from bicentra.core.parts.wheel import Wheel

RIM_MM, SPOKE_MM = 4.0, 7.0


def draw_wheel(sheet: Sheet, wheel: Wheel, seat: float) -> None:
    """Draw barrel, spokes and weights on the caliper's side [mm]; dashed where the inside is only nominal."""
    inside = wheel_inside(wheel)
    if inside is None or not is_known(seat):
        return
    line = "hidden" if inside.guessed else "solid"
    barrel = tuple((z + seat, r) for z, r in inside.barrel)
    spokes = tuple((z + seat, r) for z, r in inside.spokes)
    sheet.polygon((*barrel, *((z, r + RIM_MM) for z, r in reversed(barrel))), "wheel", "wheel", line=line)
    sheet.polygon((*spokes, *((z + SPOKE_MM, r) for z, r in reversed(spokes))), "wheel", "wheel", line=line)
    for _, points in inside.weights:
        sheet.polygon(tuple((z + seat, r) for z, r in points), "shim", "wheel")


def draw_wheel_room(sheet: Sheet, solution: Solution, verdict: str) -> None:
    """Draw the caliper swept over its width and the least room between it and the wheel."""
    job, line, assembly = solution.job, solution.line, solution.assembly
    inside = wheel_inside(job.wheel) if job.wheel is not None else None
    middle = line.rotor_midplane_z + assembly.stack_up.error
    swept = swept_body(job, line.pad_top_radius)
    if inside is None or swept is None or not is_known(middle, line.wheel_seat_z):
        return
    outward = tuple((z + middle, r) for z, r in swept.section if r >= line.pad_top_radius)
    sheet.line(outward, "construction", "caliper", "hidden")
    gap = wheel_gap(assembly)
    lengths = job.lengths
    text = f"wheel {lengths.gap(gap.value)}" if gap.value >= 0 else f"{lengths.gap(gap.value)} into wheel"
    sheet.line((gap.at, gap.to), "fit", "wheel")
    sheet.note(Note(gap.to, text, "wheel", 0, "", verdict, (0.6, -1.0)))


def draw_float(sheet: Sheet, solution: Solution) -> None:
    """Draw a floating caliper's body as example where worn pads would let it slide to, either way."""
    job, assembly = solution.job, solution.assembly
    wear, body, outline = pad_wear(job), assembly.body, section_outline(job)
    if job.caliper.action != "floating" or not outline or not is_known(wear, body.z0):
        return
    middle, top = solution.line.rotor_midplane_z + assembly.stack_up.error, solution.line.pad_top_radius
    for shift in (-wear, wear):
        sheet.polygon(
            tuple((z + middle + shift, top + out) for z, out in outline), "example", "caliper", False, "hidden"
        )


SPARE = (-110.0, -130.0, 50.0, 150.0)
RIGHT, UP, DOWN = (1.0, 0.0), (0.0, 1.0), (0.0, -1.0)


def section_view(solution: Solution) -> Drawing:
    """Return the section through axle and caliper centre."""
    sheet = Sheet()
    # What does not move when the caliper is turned comes first: the screen keeps it from frame to frame.
    job, line = solution.job, solution.line
    spacer = known(job.fit.rotor_spacer_mm)
    sheet.take(
        _turning(job.hub, job.wheel, job.rotor, (line.rotor_midplane_z, line.hat_outer_z, line.wheel_seat_z, spacer))
    )
    _caliper(sheet, solution)
    _bolts(sheet, solution, "ear")
    _obstacles(sheet, solution)
    _knuckle(sheet, solution)
    bracket_section(sheet, solution.bracket, solution.line.clock)
    _bolts(sheet, solution, "lug")
    draw_float(sheet, solution)
    draw_wheel_room(sheet, solution, verdict_of(solution, "wheel-room"))
    _gap_dimensions(sheet, solution)
    _size_dimensions(sheet, solution)
    _handles(sheet, solution)
    return sheet.finish(SPARE)


def _radial(solution: Solution, point: Point) -> float:
    """Return how far out a point of the face lies along the caliper's direction."""
    return solution.line.frame.into(point)[0]


@lru_cache(maxsize=16)
def _turning(hub: Hub, wheel: Wheel | None, rotor: Rotor, places: tuple[float, float, float, float]) -> Sheet:
    """Hub, wheel and rotor for (rotor's middle, hat outer face, wheel seat, plate behind the rotor); kept for a drag."""
    sheet = Sheet()
    mid, hat_z, seat, spacer = places
    _hub(sheet, hub)
    if wheel is not None:
        _wheel(sheet, hub, wheel, seat)
    _rotor(sheet, rotor, mid, hat_z)
    if spacer > 0:
        bore, hat_in = known(rotor.centre_bore_mm) / 2, known(rotor.hollow_mm) / 2
        start = 0.0 if hub.mounting == "over-hub" else hat_z
        for side in (1.0, -1.0):
            sheet.box(start, side * bore, start + spacer, side * hat_in * 0.97, "made", "rotor-spacer")
    return sheet


def _hub(sheet: Sheet, hub: Hub) -> None:
    flange, pilot = known(hub.flange_diameter_mm) / 2, known(hub.pilot_diameter_mm) / 2
    depth = known(hub.flange_thickness_mm)
    sheet.box(-depth, -flange, 0.0, flange, "hub", "hub")
    sheet.box(-depth - 30.0, -pilot, 12.0, pilot, "hub", "hub")
    thread = find_thread(hub.stud_thread) if hub.stud_thread else None
    if thread is not None:
        for side in (1.0, -1.0):
            r = side * known(hub.bolt_circle_mm) / 2
            sheet.box(0.0, r - thread.major / 2, known(hub.stud_length_mm), r + thread.major / 2, "bolt", "hub")
    sheet.line(((-110.0, 0.0), (40.0, 0.0)), "centre", "axle", "centre")


def _wheel(sheet: Sheet, hub: Hub, wheel: Wheel, seat: float) -> None:
    thick, pilot = known(wheel.centre_thickness_mm), known(hub.pilot_diameter_mm) / 2
    reach = known(hub.bolt_circle_mm) / 2 + 14.0
    for side in (1.0, -1.0):
        sheet.box(seat, side * pilot, seat + thick, side * reach, "wheel", "wheel", "hidden")
    draw_wheel(sheet, wheel, seat)


def _obstacles(sheet: Sheet, solution: Solution) -> None:
    """What lies before or behind the caliper, as wide as the caliper is; what is beside it cannot be met here."""
    body, frame = solution.assembly.body, solution.line.frame
    if not (body.is_known and frame.is_known):
        return
    for k, obstacle in enumerate(solution.job.knuckle.obstacles):
        local = [frame.into(point) for point in obstacle.outline_mm]
        radial = radial_range(local, body.half_width)
        if radial is not None:
            z0, z1, (low, high) = known(obstacle.z_min_mm), known(obstacle.z_max_mm), radial
            corners = ((z0, low), (z1, low), (z1, high), (z0, high))
            sheet.polygon(corners, "obstacle", f"obstacle-{k}", filled=False, line="hidden")


def radial_range(points: list[Point], half_width: float) -> tuple[float, float] | None:
    """Return from where to where, outward of the axis, an outline of (radial, tangential) points [mm] lies in the swath
    of ``half_width`` to either side; ``None`` when it lies beside it or on the far side of the axis."""
    found: list[float] = []
    for (ua, wa), (ub, wb) in zip(points, points[1:] + points[:1]):
        cuts = [0.0, 1.0]
        if wa != wb:
            cuts += [t for t in ((half_width - wa) / (wb - wa), (-half_width - wa) / (wb - wa)) if 0.0 < t < 1.0]
        for t in cuts:
            if abs(wa + t * (wb - wa)) <= half_width + 1e-9:
                found.append(ua + t * (ub - ua))
    if not found or max(found) <= 0.0:
        return None
    return max(min(found), 0.0), max(found)


def _knuckle(sheet: Sheet, solution: Solution) -> None:
    stack_up = solution.assembly.stack_up
    for k, lug in enumerate(solution.job.knuckle.lugs):
        r = _radial(solution, (known(lug.x_mm), known(lug.y_mm)))
        half, face = known(lug.boss_mm) / 2, stack_up.lug_faces[k]
        back = face - stack_up.sign * known(lug.thickness_mm)
        sheet.box(face, r - half, back, r + half, "knuckle", f"lug-{k}")
        shim = stack_up.shims[k]
        if shim > 0:
            sheet.box(face, r - half, face + stack_up.sign * shim, r + half, "shim", f"shim-{k}")


def _rotor(sheet: Sheet, rotor: Rotor, mid: float, hat_z: float) -> None:
    hat_in, outer = known(rotor.hollow_mm) / 2, known(rotor.diameter_mm) / 2
    half = known(rotor.thickness_mm) / 2
    hat_out, bore = known(rotor.hat_outer_mm) / 2, known(rotor.centre_bore_mm) / 2
    inside = hat_z - known(rotor.flange_mm)
    for side in (1.0, -1.0):
        points = (
            (mid - half, hat_in), (mid - half, outer), (mid + half, outer), (mid + half, hat_out),
            (hat_z, hat_out), (hat_z, bore), (inside, bore), (inside, hat_in),
        )  # fmt: skip
        sheet.polygon([(z, side * r) for z, r in points], "rotor", "rotor")
    sheet.line(((mid, hat_out), (mid, outer + 12.0)), "centre", "rotor", "centre")


def _caliper(sheet: Sheet, solution: Solution) -> None:
    caliper, line, body = solution.job.caliper, solution.line, solution.assembly.body
    mid = line.rotor_midplane_z + solution.assembly.stack_up.error
    half_slot, bridge = known(caliper.slot_width_mm) / 2, line.pad_top_radius + known(caliper.bridge_to_pad_top_mm)
    left, right = mid - half_slot, mid + half_slot
    if caliper.body_section_mm:
        _traced_section(sheet, solution, (left, right, bridge))
    else:
        sheet.polygon(
            ((body.z0, body.inner), (left, body.inner), (left, bridge), (right, bridge), (right, body.inner),
             (body.z1, body.inner), (body.z1, body.outer), (body.z0, body.outer)),
            "caliper", "caliper",
        )  # fmt: skip
    face = known(solution.job.rotor.thickness_mm) / 2
    for wall, disc in ((left, line.rotor_midplane_z - face), (right, line.rotor_midplane_z + face)):
        sheet.box(wall, line.pad.inner_radius, disc, line.pad.outer_radius, "pad", "pad")
    out = 1.0 if caliper.ear_seat == "inboard" else -1.0
    z, reach = solution.assembly.stack_up.ear_z, known(caliper.ear_boss_mm) / 2
    end = z + out * known(caliper.ear_thickness_mm)
    for k in range(2):
        sheet.box(z, line.ear_line_radius - reach, end, line.ear_line_radius + reach, "caliper",
                  f"ear-{k}", "hidden")  # fmt: skip
    sheet.line(((mid, body.inner - 6.0), (mid, body.outer + 8.0)), "centre", "caliper", "centre")
    for turn in caliper.bleeders_deg:
        u, _ = bleeder_place(body, turn)
        sheet.circle((mid, u), BLEEDER_MM, "bleeder", "bleeder", line="hidden")


def _traced_section(sheet: Sheet, solution: Solution, slot: tuple[float, float, float]) -> None:
    """Draw the body as it was traced, its slot cut out; ``slot``: left and right wall, inside of the bridge."""
    left, right, bridge = slot
    mid = solution.line.rotor_midplane_z + solution.assembly.stack_up.error
    top = solution.line.pad_top_radius
    if is_known(*slot, mid, top):
        for loop in _traced(solution.job.caliper.body_section_mm, (mid, top), (left, right, bridge)):
            sheet.polygon(loop, "caliper", "caliper")


@lru_cache(maxsize=16)
def _traced(section: tuple[Point, ...], at: Point, slot: tuple[float, float, float]) -> tuple[tuple[Point, ...], ...]:
    """Return the outlines of a traced section moved to ``at``, its slot cut out; kept, for turning the caliper leaves it be."""
    left, right, bridge = slot
    points = [(z + at[0], at[1] + out) for z, out in section]
    body = shapely.make_valid(shapely.Polygon(points))
    cut = shapely.difference(body, shapely.box(left, min(r for _, r in points) - 1.0, right, bridge))
    whole = (part for part in shapely.get_parts(cut) if part.geom_type == "Polygon" and not part.is_empty)
    return tuple(tuple((float(z), float(r)) for z, r in part.exterior.coords[:-1]) for part in whole)


def _bolts(sheet: Sheet, solution: Solution, at: str) -> None:
    for placed in solution.assembly.joints:
        if placed.at == at:
            _bolt(sheet, placed, _radial(solution, placed.centre))


def _bolt(sheet: Sheet, placed: PlacedJoint, r: float) -> None:
    """One bolt: washers, head, shank."""
    joint, way = placed.joint, placed.way
    hardware, half = joint.thread.hardware, joint.thread.major / 2
    under = placed.seat_z - way * joint.washer_thickness
    if joint.washer_thickness > 0:
        wide = hardware.washer_outer / 2
        sheet.box(placed.seat_z, r - wide, under, r + wide, "bolt", placed.feature)
    if joint.stack.sunk:
        size, high, _ = SUNK_HEADS[joint.thread.size]
        neck = placed.seat_z + way * high
        cone = ((placed.seat_z, r - size / 2), (placed.seat_z, r + size / 2), (neck, r + half), (neck, r - half))
        sheet.polygon(cone, "bolt", placed.feature)
    else:
        flat = hardware.across_flats / 2
        sheet.box(under, r - flat, placed.head_z, r + flat, "bolt", placed.feature)
    sheet.box(under, r - half, placed.tip_z, r + half, "bolt", placed.feature)
    sheet.line(((placed.head_z - way * 4, r), (placed.tip_z + way * 4, r)), "centre", placed.feature, "centre")


def _gap_dimensions(sheet: Sheet, solution: Solution) -> None:
    """The gaps where a feeler would go: tip, both walls of the slot, the axial error, the bolt tips."""
    job, line, error = solution.job, solution.line, solution.assembly.stack_up.error
    lengths = job.lengths
    body, mid = solution.assembly.body, line.rotor_midplane_z
    rim, bridge = known(job.rotor.diameter_mm) / 2, line.pad_top_radius + known(job.caliper.bridge_to_pad_top_mm)
    tip = _gap_words(lengths, "tip gap", "bridge", line.tip_gap) + _sure(solution, "tip_gap_mm", lengths)
    verdict = verdict_of(solution, "tip-gap")
    sheet.dimension(Dimension((mid, rim), (mid, bridge), UP, RIGHT, body.z1, tip, "rotor", 0, 0, "", verdict))
    inset = known(job.fit.pad_inset_mm)
    pad = f"pad inset {lengths.gap(inset)}" if inset >= 0 else f"pad overhang {lengths.gap(inset)}"
    verdict = verdict_of(solution, "pad-overhang")
    ends = (mid, line.pad_top_radius), (mid, rim)
    sheet.dimension(Dimension(*ends, UP, RIGHT, body.z1, pad, "pad", 2, 1, "fit.pad_inset_mm", verdict))
    centred = f"{lengths.gap(error)} too far {side_word(error)}" if abs(error) >= 0.005 else "centred"
    centred += _sure(solution, "axial_error_mm[0]", lengths)
    verdict = verdict_of(solution, "axial-offset")
    ends = (mid, body.outer), (mid + error, body.outer)
    sheet.dimension(Dimension(*ends, RIGHT, UP, body.outer, centred, "caliper", 2, 0, "", verdict))
    half, wall = known(job.rotor.thickness_mm) / 2, known(job.caliper.slot_width_mm) / 2
    for lane, (side, name) in enumerate(((-1.0, "inboard"), (1.0, "outboard"))):
        gap = line.slot_gap + side * error
        ends = (mid + side * half, body.inner), (mid + error + side * wall, body.inner)
        verdict = verdict_of(solution, "slot-gap") if gap >= 0 else "stop"
        text = _gap_words(lengths, name, f"{name} wall", gap)
        sheet.dimension(Dimension(*ends, RIGHT, UP, body.outer, text, "rotor", lane, 1, "", verdict))
    _tip_note(sheet, solution, lengths)


def _sure(solution: Solution, name: str, lengths: LengthFormat) -> str:
    """Return the 95 % uncertainty of a figure where a survey gives one that shows."""
    sd = solution.spread.get(name, math.nan)
    return f" ± {lengths.gap(1.96 * sd)}" if sd > 5e-4 else ""


def _gap_words(lengths: LengthFormat, name: str, what: str, gap: float) -> str:
    """Return a gap in words: what is left, or how far ``what`` runs into the rotor."""
    return f"{name} {lengths.gap(gap)}" if gap >= 0 else f"{what} {lengths.gap(gap)} into rotor"


def _tip_note(sheet: Sheet, solution: Solution, lengths: LengthFormat) -> None:
    """The bolt end that comes nearest to the rotor."""
    ends = [
        (bolt_gap(solution.assembly, one, end), end, one) for one in solution.assembly.joints for end in ("tip", "head")
    ]
    known_ends = [row for row in ends if is_known(row[0])]
    if not known_ends:
        return
    gap, end, placed = min(known_ends, key=lambda row: row[0])
    text = f"bolt {end} {lengths.gap(gap)} {'from' if gap >= 0 else 'into'} rotor"
    at = (placed.tip_z if end == "tip" else placed.head_z, _radial(solution, placed.centre))
    sheet.note(Note(at, text, placed.feature, 0, "", verdict_of(solution, "bolt-tip-to-rotor"), (-1.0, -0.9), 2))


def _size_dimensions(sheet: Sheet, solution: Solution) -> None:
    """The sizes that decide where things come to lie: plate, plate behind the rotor, rotor height."""
    job, line, stack_up = solution.job, solution.line, solution.assembly.stack_up
    lengths = job.lengths
    part = solution.part
    if part is not None and part.outline is not None and not part.bends:
        low = min(_radial(solution, (x, y)) for x, y in part.outline.polygon(0.5).tolist())
        lugs = [
            _radial(solution, (known(lug.x_mm), known(lug.y_mm))) - known(lug.boss_mm) / 2 for lug in job.knuckle.lugs
        ]
        base = -min([low, *(r for r in lugs if is_known(r))])
        at, to = (stack_up.near_z, -base), (stack_up.far_z, -base)
        text = f"plate {lengths.size(stack_up.thickness)}"
        sheet.dimension(Dimension(at, to, RIGHT, DOWN, base, text, "bracket", 0, 0, "bracket.thickness_mm"))
    rim = known(job.rotor.diameter_mm) / 2
    half = known(job.rotor.thickness_mm) / 2
    inboard = line.rotor_midplane_z - half
    height = f"rotor height {lengths.size(known(job.rotor.height_mm))}"
    sheet.dimension(Dimension((inboard, -rim), (line.hat_outer_z, -known(job.rotor.centre_bore_mm) / 2), RIGHT, DOWN, rim, height,
                              "rotor", 1, 2, "rotor.overall_height_mm"))  # fmt: skip
    thick = f"rotor {lengths.size(2 * half)}"
    sheet.dimension(Dimension((inboard, -rim), (inboard + 2 * half, -rim), RIGHT, DOWN, rim, thick, "rotor", 0, 2,
                              "rotor.thickness_mm"))  # fmt: skip
    spacer = known(job.fit.rotor_spacer_mm)
    if is_known(spacer):
        text = f"rotor spacer {lengths.gap(spacer)}" if spacer > 0 else "no spacer behind rotor"
        at = (0.0, -known(job.rotor.hollow_mm) / 2)
        sheet.note(Note(at, text, "rotor-spacer", 1, "fit.rotor_spacer_mm", prefer=(1.0, -0.5)))


def _handles(sheet: Sheet, solution: Solution) -> None:
    line, stack_up, body = solution.line, solution.assembly.stack_up, solution.assembly.body
    hat = known(solution.job.rotor.hat_outer_mm) / 2
    gain = 1.0 if solution.job.hub.mounting == "over-hub" else -1.0
    sheet.handle(Handle("Rotor spacer", (line.hat_outer_z, -hat * 0.8), RIGHT, "fit.rotor_spacer_mm", gain, 0.1,
                        tag="rotor-spacer"))  # fmt: skip
    mid = line.rotor_midplane_z + stack_up.error
    sheet.handle(Handle("Pad inset", (mid, body.outer), UP, "fit.pad_inset_mm", -1.0, 0.1, tag="pad"))
    if solution.part is not None:
        sheet.handle(Handle("Plate thickness", (stack_up.far_z, line.ear_line_radius + 24.0), (stack_up.sign, 0.0),
                            "bracket.thickness_mm", 1.0, 0.5, tag="bracket"))  # fmt: skip

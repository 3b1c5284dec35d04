"""The first sightline: along the axle, at the outboard face. Made in the hub frame, turned over for a left corner."""

import math
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np

from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.plate import ligaments
from bicentra.core.drawing.model import Dimension, Drawing, Handle, Note, Shape, Sheet, mirrored, short
from bicentra.core.drawing.shapes import arc_line, arrow_head, centre_mark, sector_loop
from bicentra.core.drawing.views.bracket import bracket_face, parking_face
from bicentra.core.evaluation.solution import Solution
from bicentra.core.geometry.frame import ClockFrame, in_plane
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.lineup.body import Body
from bicentra.core.lineup.solids import wheel_inside
from bicentra.core.parts.job import Hub, Knuckle, Rotor, Wheel
from bicentra.core.parts.threads import SUNK_HEADS, find_thread

if TYPE_CHECKING:
    from bicentra.core.clearance.relief_plan import Relief
    from bicentra.core.search.clock import ClockSearch

RING_GAP_MM, RING_WIDTH_MM, BLEEDER_MM = 4.0, 6.0, 4.0
SPARE = (-150.0, -150.0, 150.0, 150.0)
MOST_NAMED = 12
"""How many obstacles are named in the drawing: more names than that cannot be read."""


def face_view(solution: Solution, search: "ClockSearch | None" = None, reliefs: "tuple[Relief, ...]" = ()) -> Drawing:
    """Return the view along the axle; ``search`` adds the ring of clock windows, ``reliefs`` what has to go of castings [mm]."""
    sheet = Sheet()
    job = solution.job
    sheet.take(_standing(job.knuckle, job.rotor, job.hub))
    _wheel(sheet, job.wheel)
    ring = ring_radius(solution)
    sheet.circle((0.0, 0.0), ring + RING_WIDTH_MM / 2, "construction", "clock", filled=False, line="hidden")
    if search is not None:
        _windows(sheet, search, ring)
    _ways(sheet, solution, ring)
    _bracket(sheet, solution)
    _caliper(sheet, solution)
    for plan in reliefs:
        _relieved(sheet, plan, solution.job.lengths)
    parking_face(sheet, solution)
    _clock(sheet, solution, ring)
    _dimensions(sheet, solution)
    drawing = sheet.finish(SPARE)
    return mirrored(drawing) if solution.job.is_left else drawing


def _relieved(sheet: Sheet, plan: "Relief", lengths: LengthFormat) -> None:
    """What has to go of a casting, hatched, and how much at which end."""
    from bicentra.core.drawing.sheets.relief import relief_marks

    spot = plan.region.representative_point()
    text = "cut through" if plan.through else f"{lengths.gap(plan.depth)} off its {plan.end} end"
    way = (1.0 if spot.x > 0 else -1.0, 1.0 if spot.y > 0 else -1.0)
    relief_marks(sheet, plan, lengths, Note((spot.x, spot.y), f"{short(plan.name)}: {text}", "relief", 0, prefer=way))


def verdict_of(solution: Solution, id: str) -> str:
    """Return the verdict word of a finding for a dimension that shows its value."""
    try:
        finding: Finding = solution.finding(id)
    except KeyError:
        return ""
    return finding.verdict.value


def ring_radius(solution: Solution) -> float:
    """Return the radius of the clock ring [mm]: outside the rotor, and outside the caliper on its centreline."""
    body = solution.assembly.body
    return max(body.outer if body.is_known else 0.0, known(solution.job.rotor.diameter_mm) / 2) + RING_GAP_MM


@lru_cache(maxsize=16)
def _standing(knuckle: Knuckle, rotor: Rotor, hub: Hub) -> Sheet:
    """What does not move when the caliper is turned; kept, so that a drag does not draw it again."""
    sheet = Sheet()
    _knuckle(sheet, knuckle)
    _rotor(sheet, rotor)
    _hub(sheet, hub)
    return sheet


def _wheel(sheet: Sheet, wheel: Wheel | None) -> None:
    """The narrowest circle of the wheel's barrel; dashed where it is only nominal."""
    inside = wheel_inside(wheel) if wheel is not None else None
    if inside is not None:
        narrow = min(r for _, r in inside.barrel)
        line = "hidden" if inside.guessed else "solid"
        sheet.circle((0.0, 0.0), narrow, "wheel", "wheel", filled=False, line=line)


def _knuckle(sheet: Sheet, knuckle: Knuckle) -> None:
    middles = [np.mean(np.array(obstacle.outline_mm), axis=0) for obstacle in knuckle.obstacles]
    named = _nearest_lugs(knuckle, middles)
    for k, (obstacle, middle) in enumerate(zip(knuckle.obstacles, middles)):
        sheet.polygon(obstacle.outline_mm, "obstacle", f"obstacle-{k}")
        if k in named:
            way = (float(np.sign(middle[0]) or 1.0), float(np.sign(middle[1]) or 1.0))
            sheet.note(Note((float(middle[0]), float(middle[1])), short(obstacle.name), f"obstacle-{k}", 2, prefer=way))
    for k, lug in enumerate(knuckle.lugs):
        centre = (known(lug.x_mm), known(lug.y_mm))
        sheet.circle(centre, known(lug.boss_mm) / 2, "knuckle", f"lug-{k}")
        sheet.note(Note(centre, short(lug.name), f"lug-{k}", 2, prefer=(1.0, 1.0 if centre[1] > 0 else -1.0)))
        if lug.x_mm is None or lug.y_mm is None:
            sheet.examples.append(f"lug {short(lug.name)}: place not measured")


def _nearest_lugs(knuckle: Knuckle, middles: list[FloatArray]) -> set[int]:
    """Return which obstacles are named: all of them, or of very many the nearest to the lugs, where the bracket goes."""
    lugs = [(lug.x_mm, lug.y_mm) for lug in knuckle.lugs if lug.x_mm is not None and lug.y_mm is not None]
    towards = np.mean(np.array(lugs or [(0.0, 0.0)]), axis=0)
    order = sorted(range(len(middles)), key=lambda k: float(np.hypot(*(middles[k] - towards))))
    return set(order[:MOST_NAMED])


def _rotor(sheet: Sheet, rotor: Rotor) -> None:
    outer, inner = known(rotor.diameter_mm) / 2, known(rotor.swept_inner_diameter_mm) / 2
    if not is_known(outer):
        sheet.examples.append("rotor: diameter not measured")
    sheet.ring((0.0, 0.0), inner, outer, "rotor", "rotor")
    sheet.ring((0.0, 0.0), known(rotor.centre_bore_mm) / 2, inner, "hat", "rotor")
    if not is_known(inner):
        sheet.circle((0.0, 0.0), outer, "rotor", "rotor", filled=False)
    radius, holes = known(rotor.bolt_circle_mm) / 2, rotor.hole_count or 0
    for k in range(holes):
        angle = math.pi / 2 + 2 * math.pi * k / holes
        sheet.circle((radius * math.cos(angle), radius * math.sin(angle)), known(rotor.hole_mm) / 2, "hole", "rotor")
    centre_mark(sheet, (0.0, 0.0), 12.0)


def _hub(sheet: Sheet, hub: Hub) -> None:
    sheet.circle((0.0, 0.0), known(hub.pilot_diameter_mm) / 2, "hub", "hub")
    sheet.circle((0.0, 0.0), known(hub.flange_diameter_mm) / 2, "hub", "hub", filled=False, line="hidden")
    thread = find_thread(hub.stud_thread) if hub.stud_thread else None
    radius, count = known(hub.bolt_circle_mm) / 2, hub.stud_count or 0
    for k in range(count if thread else 0):
        angle = math.pi / 2 + 2 * math.pi * k / count
        major = thread.major if thread else math.nan
        sheet.circle((radius * math.cos(angle), radius * math.sin(angle)), major / 2, "bolt", "hub")


def _bracket(sheet: Sheet, solution: Solution) -> None:
    """The bracket, and the bolts through it."""
    bracket_face(sheet, solution.bracket)
    for placed in solution.assembly.joints:
        seen = placed.way < 0
        head = (
            SUNK_HEADS[placed.joint.thread.size][0]
            if placed.joint.stack.sunk
            else placed.joint.thread.head_across_corners
        )
        radius = head / 2 if seen else placed.joint.thread.major / 2
        sheet.circle(placed.centre, radius, "bolt", placed.feature, filled=False, line="solid" if seen else "hidden")


def _caliper(sheet: Sheet, solution: Solution) -> None:
    line, body, caliper = solution.line, solution.assembly.body, solution.job.caliper
    frame = line.frame
    if body.is_known and frame.is_known:
        corners = body.corners(frame.here)[0]
        sheet.polygon([(float(x), float(y)) for x, y in corners], "caliper", "caliper")
    else:
        sheet.examples.append("caliper: body, rotor diameter or clock angle unknown")
    pad = line.pad
    if pad.outline and frame.is_known:
        points = in_plane(frame.here, *np.array(pad.outline).T)[0].tolist()
        sheet.polygon([(x, y) for x, y in points], "pad", "pad", line="hidden")
    elif is_known(pad.half_angle, pad.inner_radius, pad.outer_radius, frame.rad):
        loop = sector_loop(pad.inner_radius, pad.outer_radius, frame.rad - pad.half_angle, 2 * pad.half_angle)
        sheet.shape(Shape((loop,), "pad", "pad", line="hidden"))
    for k, (x, y, _) in enumerate(line.ears):
        sheet.circle((x, y), known(caliper.ear_boss_mm) / 2, "caliper", f"ear-{k}")
    _bleeders(sheet, solution, frame)


def _bleeders(sheet: Sheet, solution: Solution, frame: ClockFrame) -> None:
    """Each bleed screw as a small circle on the body's rim, in its direction from the caliper's middle."""
    body = solution.assembly.body
    if not (body.is_known and frame.is_known):
        return
    for turn in solution.job.caliper.bleeders_deg:
        sheet.circle(frame.at(*bleeder_place(body, turn)), BLEEDER_MM, "bleeder", "bleeder")


def bleeder_place(body: Body, turn_deg: float) -> tuple[float, float]:
    """Return where a bleed screw sits on the body's rim, radial and tangential [mm], in its direction from the middle."""
    middle, high = (body.inner + body.outer) / 2, (body.outer - body.inner) / 2
    du, dw = ClockFrame(turn_deg).u
    reach = 1.0 / max(abs(du) / high, abs(dw) / body.half_width)
    return middle + du * reach, dw * reach


def _windows(sheet: Sheet, search: "ClockSearch", ring: float) -> None:
    """On the ring round the rotor: a band where a bracket can be made, and a mark at the best angle."""
    for window in search.windows:
        sweep = math.radians(min(max(window.end - window.start, 0.5), 359.5))
        loop = sector_loop(ring, ring + RING_WIDTH_MM, math.radians(window.start), sweep)
        sheet.shape(Shape((loop,), "window", "clock", line="hidden" if search.rough else "solid"))
    best = search.best
    if best is not None and not search.rough:
        out, tip = ClockFrame(best.best), ring + RING_WIDTH_MM
        sheet.shapes.append(arrow_head(out.at(tip), out.at(-1.0), -8.0, "window-best", "clock"))
        prefer = (out.u[0], out.u[1] + 0.6)
        sheet.note(Note(out.at(tip + 8.0), f"best {best.best:.1f}°", "clock", 2, prefer=prefer))


def _clock(sheet: Sheet, solution: Solution, ring: float) -> None:
    frame = solution.line.frame
    if not (frame.is_known and is_known(ring)):
        return
    sheet.line(((0.0, 0.0), frame.at(ring + RING_WIDTH_MM)), "centre", "caliper", "centre")
    at = frame.at(ring + RING_WIDTH_MM / 2)
    sheet.handle(Handle("Turn the caliper round the rotor", at, frame.w, "fit.clock_deg", 1.0, 0.25, True, "caliper"))
    text = f"clock {solution.line.clock % 360:.2f}°"
    prefer = (frame.u[0] * 0.5, -1.0)
    sheet.note(Note(at, text, "caliper", 0, "fit.clock_deg", verdict_of(solution, "bleeder-up"), prefer))


def _dimensions(sheet: Sheet, solution: Solution) -> None:
    lengths, line, job = solution.job.lengths, solution.line, solution.job
    frame, body = line.frame, solution.assembly.body
    (x0, y0, _), (x1, y1, _) = line.ears
    spacing = f"ears {lengths.size(known(job.caliper.ear_spacing_mm))}"
    base = body.inner - 60.0
    sheet.dimension(
        Dimension((x0, y0), (x1, y1), frame.w, frame.at(-1.0), -base, spacing, "ear-0", 0, 2, "caliper.ear_spacing_mm")
    )
    radius = known(job.rotor.diameter_mm) / 2
    spot = frame.at(radius * math.cos(2.4), radius * math.sin(2.4))
    text = f"rotor Ø {lengths.size(2 * radius)}"
    sheet.note(Note(spot, text, "rotor", 1, "rotor.diameter_mm", prefer=(spot[0], spot[1])))
    holes = solution.assembly.holes if solution.bracket.shape is not None else ()
    found = [item for item in ligaments(holes) if is_known(item.value)]
    if found:
        least = min(found, key=lambda item: item.value)
        (ax, ay), (bx, by) = least.first.centre, least.second.centre
        middle = ((ax + bx) / 2, (ay + by) / 2)
        text = (
            f"ligament {lengths.gap(least.value)}" if least.value >= 0 else f"holes overlap {lengths.gap(least.value)}"
        )
        verdict = verdict_of(solution, "ligament")
        sheet.note(Note(middle, text, "bracket", 1, "", verdict, prefer=(-middle[0], middle[1] * 0.2)))
    _lug_spacing(sheet, solution, lengths)


def _lug_spacing(sheet: Sheet, solution: Solution, lengths: LengthFormat) -> None:
    """The distance between the first two lugs, dimensioned towards the axle."""
    lugs = solution.job.knuckle.lugs
    if len(lugs) < 2:
        return
    a, b = ((known(lug.x_mm), known(lug.y_mm)) for lug in lugs[:2])
    apart = math.dist(a, b)
    if not is_known(apart):
        return
    along = ((b[0] - a[0]) / apart, (b[1] - a[1]) / apart)
    side = (-along[1], along[0])
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    if side[0] * middle[0] + side[1] * middle[1] > 0:
        side = (-side[0], -side[1])
    base = a[0] * side[0] + a[1] * side[1] + 14.0
    sheet.dimension(Dimension(a, b, along, side, base, f"lugs {lengths.size(apart)}", "lug-0", 0, 2))


def _ways(sheet: Sheet, solution: Solution, ring: float) -> None:
    """Which way is forward, and which way the rotor turns when driving forward (the top moves forward)."""
    reach = max(ring, 120.0) if is_known(ring) else 120.0
    start = math.radians(112.0)
    radius = known(solution.job.rotor.diameter_mm) / 2 - 7.0
    if is_known(radius):
        sheet.shape(Shape((arc_line(radius, start, math.radians(-44.0)),), "way", "rotation", False, False))
        end = math.radians(68.0)
        tip = (radius * math.cos(end), radius * math.sin(end))
        sheet.shapes.append(arrow_head(tip, (math.sin(end), -math.cos(end)), 7.0, "way", "rotation"))
        sheet.note(Note((0.0, radius), "turns this way driving forward", "rotation", 3, prefer=(0.2, -1.0)))
    y = -reach + 4.0
    x = reach - 8.0
    sheet.line(((x - 30.0, y), (x, y)), "way", "forward")
    sheet.shapes.append(arrow_head((x + 6.0, y), (1.0, 0.0), 8.0, "way", "forward"))
    sheet.note(Note((x - 12.0, y), "front of the vehicle", "forward", 1, prefer=(0.0, 1.0)))

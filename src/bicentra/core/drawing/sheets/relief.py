"""What has to go of a casting or a dust shield: drawn at 1:1 to cut by, and marked in the views."""

import math
from collections.abc import Iterator

import shapely

from bicentra.core.base.errors import ExportError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.clearance.relief_plan import Relief, reliefs
from bicentra.core.drawing.model import Dimension, Drawing, Note, Sheet, mirrored, short
from bicentra.core.drawing.shapes import centre_mark
from bicentra.core.drawing.sheets.imprint import CutMark, cut_mark, mark_of
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.geometry.outline import Point
from bicentra.core.geometry.prism import Prism
from bicentra.core.parts.job import Job, Obstacle
from bicentra.core.parts.limits import limit_for

HATCH_MM, LEAST_MM = 3.0, 0.5


def relief_marks(sheet: Sheet, plan: Relief, lengths: LengthFormat, note: Note | None = None) -> None:
    """Draw the area of ``plan`` [mm] into ``sheet``, seen from outboard, with ``note`` or how deep it is cut."""
    for part in shapely.get_parts(plan.region):
        for ring in (part.exterior, *part.interiors) if part.geom_type == "Polygon" else ():
            sheet.polygon([(x, y) for x, y in ring.coords[:-1]], "outline", "relief", filled=False)
    if not plan.through:
        hatched(sheet, plan.region)
    spot = plan.region.representative_point()
    what = "cut through" if plan.through else f"{lengths.gap(plan.depth)} off here"
    sheet.note(note or Note((spot.x, spot.y), what, "relief", 0, prefer=(-1.0, 0.4)))


def hatched(sheet: Sheet, region: shapely.Geometry) -> None:
    """Draw lines at 45 degrees over ``region``, ``HATCH_MM`` apart [mm]."""
    x0, y0, x1, y1 = region.bounds
    step, high = HATCH_MM * math.sqrt(2.0), y1 - y0
    count = min(int((x1 - x0 + high) / step) + 1, 400)
    lines = [shapely.LineString([(x0 - high + k * step, y0), (x0 + k * step, y1)]) for k in range(1, count)]
    drawn_lines(sheet, shapely.intersection(region, shapely.MultiLineString(lines)), "construction", "relief")


def drawn_lines(sheet: Sheet, lines: shapely.Geometry, ink: str, tag: str) -> None:
    """Draw every piece of ``lines`` that is longer than ``LEAST_MM`` [mm]."""
    for piece in shapely.get_parts(lines):
        if piece.geom_type == "LineString" and piece.length > LEAST_MM:
            sheet.line([(x, y) for x, y in piece.coords], ink, tag)


SPECK_MM2, SHARP_MM = 1e-3, 1e-3
"""What is smaller than this is no piece; a ridge narrower than twice this along the cut is none either, but the
rounding of it.
"""


def relieved(job: Job, things: tuple[Prism, ...], plans: tuple[Relief, ...]) -> Job:
    """Return ``job`` with every obstacle of ``plans`` relieved; ``things``: the obstacles as they stand, by their feature."""
    shapes = {thing.feature: shapely.make_valid(thing.shape) for thing in things}
    cut = {plan.feature: plan for plan in plans}
    left: list[Obstacle] = []
    for number, obstacle in enumerate(job.knuckle.obstacles):
        feature = f"obstacle-{number}"
        left += _pieces(obstacle, shapes[feature], cut[feature]) if feature in cut else (obstacle,)
    return replace(job, knuckle=replace(job.knuckle, obstacles=tuple(left)))


def _pieces(obstacle: Obstacle, shape: shapely.Geometry, plan: Relief) -> Iterator[Obstacle]:
    """Yield what is left of ``obstacle``: beside the cut as high as before, under it the rest; nothing under one cut through."""
    rest = shapely.difference(shape, plan.region)
    for part in _whole(
        shapely.buffer(shapely.buffer(rest, -SHARP_MM, join_style="mitre"), SHARP_MM, join_style="mitre")
    ):
        yield replace(obstacle, outline_mm=_outline(part))
    if plan.through or obstacle.z_min_mm is None or obstacle.z_max_mm is None:
        return
    ends = (obstacle.z_min_mm, obstacle.z_max_mm - plan.depth)
    if plan.end == "inboard":
        ends = (obstacle.z_min_mm + plan.depth, obstacle.z_max_mm)
    for part in _whole(plan.region):
        yield replace(obstacle, outline_mm=_outline(part), z_min_mm=ends[0], z_max_mm=ends[1])


def _whole(shape: shapely.Geometry) -> Iterator[shapely.Polygon]:
    """Yield the polygons of ``shape``, one with a hole as two halves without: an obstacle has one outline."""
    for part in shapely.get_parts(shape):
        if part.geom_type != "Polygon" or part.area <= SPECK_MM2:
            continue
        if not part.interiors:
            yield part
            continue
        x0, y0, x1, y1 = part.bounds
        middle = part.interiors[0].centroid.x
        for low, high in ((x0, middle), (middle, x1)):
            yield from _whole(shapely.intersection(part, shapely.box(low, y0, high, y1)))


def _outline(part: shapely.Polygon) -> tuple[tuple[float, float], ...]:
    return tuple((float(x), float(y)) for x, y in part.exterior.coords[:-1])


SPARE, AROUND_MM = (-60.0, -60.0, 60.0, 60.0), 15.0
WARNING = (
    "Only where a casting may lose metal: a knuckle carries the wheel. Ask someone qualified before anything is taken off; never "
    "from a lug, a ball joint, a bearing's seat or a steering stop. Radius the edge, leave no notch, paint it, and measure again."
)
OF_SHEET = (
    "Only where it is sheet metal that carries nothing: a rib or a bracket as thin as this is not cut without someone qualified. "
    "Leave what holds a hose or a wire, cut no more than this, round and paint the edge, turn the rotor by hand after it: nothing "
    "may touch. Follow the local rules where a shield is required."
)


def relief_plans(solution: Solution) -> tuple[Relief, ...]:
    """Return what has to go of every obstacle that can be relieved, most first. Raises ``ExportError`` where nothing
    has to, or nothing can.
    """
    found = solution.finding("caliper-to-obstacle")
    if found.verdict is Verdict.UNKNOWN:
        raise ExportError(f"what is in the caliper's way is unknown: {found.why.removeprefix('Still unknown: ')}")
    if found.verdict not in (Verdict.STOP, Verdict.CAUTION):
        raise ExportError(
            "nothing the knuckle has is in the way of the caliper's body, as far as it was measured: nothing is to be relieved"
        )
    here, room = solution.line.frame.here, limit_for(solution.job, "caliper-to-obstacle").watch
    plans = reliefs(solution.assembly, solution.assembly.obstacles, here, room)
    able = sorted((plan for plan in plans if plan.may_be), key=lambda plan: -plan.depth)
    if able:
        return tuple(able)
    if plans:
        names = ", ".join(short(plan.name) for plan in plans[:4])
        raise ExportError(
            f"too little would be left of {names}: turn the caliper or move it outward instead of relieving it"
        )
    raise ExportError("a lug's boss is in the way of the caliper's body, and a lug may lose nothing: turn the caliper")


def relief_sheet(solution: Solution, plan: Relief, room: tuple[float, float]) -> Drawing:
    """Return ``plan`` as it is seen on the end that is cut.

    Where all of it does not fit into ``room`` (wide, high) [mm], the obstacle is drawn ``AROUND_MM`` round the area alone, or the
    nearest lug is left out.
    """
    whole = next(
        shapely.boundary(shapely.make_valid(one.shape))
        for one in solution.assembly.obstacles
        if one.feature == plan.feature
    )
    x0, y0, x1, y1 = plan.region.bounds
    near = shapely.intersection(whole, shapely.box(x0 - AROUND_MM, y0 - AROUND_MM, x1 + AROUND_MM, y1 + AROUND_MM))
    for lug in (_nearest(solution, plan), None):
        for edge in (whole, near):
            drawing = _drawn(solution, plan, lug, edge)
            left, low, right, high = drawing.bounds
            if right - left <= room[0] and high - low <= room[1]:
                return drawing
    return drawing


def relief_warning(plan: Relief) -> str:
    """Return what stands under the sheet."""
    return OF_SHEET if plan.through else WARNING


def relief_mark(solution: Solution) -> CutMark:
    """Return whether metal may be cut by the sheet: asked of the corner as it is once all of it is cut, so that no clash it
    mends, of whatever finding, counts against it."""
    job = relieved(solution.job, solution.assembly.obstacles, relief_plans(solution))
    mark = mark_of(solve(job, turns=False, remedies=False).findings, (), job.practice)
    return replace(mark, limits=cut_mark(solution).limits)


def relief_text(solution: Solution, plan: Relief, others: tuple[Relief, ...] = ()) -> str:
    """Return what is done with the sheet, in words; ``others`` have to lose something as well, each by its own page."""
    lengths = solution.job.lengths
    long, wide = (lengths.size(round(side, 1)) for side in plan.size)
    seen = "outboard" if plan.through else plan.end
    corner = solution.job.corner.replace("-", " ")
    text = f"For the {corner} corner, seen from {seen}. Lay it on {short(plan.name)} by its edge, and by the lug's hole if it "
    text += "is drawn; mark "
    if plan.through:
        text += f"the thick line and cut through along it: {long} by {wide}."
    else:
        text += f"the hatched area, {long} by {wide}, and take {lengths.gap(plan.depth)} off its {plan.end} end; "
        text += f"{lengths.size(round(plan.left, 1))} of {lengths.size(round(plan.thick, 1))} is left."
    names = ", ".join(short(other.name) for other in others[:3])
    return text + (f" The pages with it are for: {names}." if others else "")


def _drawn(solution: Solution, plan: Relief, lug: Point | None, edge: shapely.Geometry) -> Drawing:
    sheet, lengths = Sheet(), solution.job.lengths
    drawn_lines(sheet, edge, "mark", "obstacle")
    relief_marks(sheet, plan, lengths)
    x0, y0, x1, y1 = plan.region.bounds
    top, right = (float(shapely.total_bounds([plan.region, edge])[k]) + 5.0 for k in (3, 2))
    sheet.dimension(Dimension((x0, y1), (x1, y1), (1, 0), (0, 1), top, lengths.size(round(x1 - x0, 2)), "relief", 0, 0))
    sheet.dimension(
        Dimension((x1, y0), (x1, y1), (0, 1), (1, 0), right, lengths.size(round(y1 - y0, 2)), "relief", 0, 0)
    )
    if lug is not None:
        _lug(sheet, solution, plan, lug)
    drawing = sheet.finish(SPARE)
    return mirrored(drawing) if solution.job.is_left != (plan.end == "inboard" and not plan.through) else drawing


def _lug(sheet: Sheet, solution: Solution, plan: Relief, at: Point) -> None:
    """The lug's hole, and how far the area's nearest corner is from its middle."""
    lengths = solution.job.lengths
    lug = min(solution.job.knuckle.lugs, key=lambda one: math.dist(at, (one.x_mm or 0.0, one.y_mm or 0.0)))
    sheet.circle(at, (lug.boss_mm or 8.0) / 2, "mark", "lug", False, "hidden")
    centre_mark(sheet, at, 8.0, "lug")
    sheet.note(Note(at, f"{short(lug.name)}: its hole", "lug", 1, prefer=(-1.0, -1.0)))
    x0, y0, x1, y1 = plan.region.bounds
    corner = min(((x, y) for x in (x0, x1) for y in (y0, y1)), key=lambda one: math.dist(one, at))
    low, left = min(y0, at[1]), min(x0, at[0])
    across, up = abs(corner[0] - at[0]), abs(corner[1] - at[1])
    sheet.dimension(Dimension(at, corner, (1, 0), (0, -1), -low + 5, lengths.size(round(across, 2)), "lug", 0, 1))
    sheet.dimension(Dimension(at, corner, (0, 1), (-1, 0), -left + 5, lengths.size(round(up, 2)), "lug", 0, 1))


def _nearest(solution: Solution, plan: Relief) -> Point | None:
    """The middle of the lug nearest to what is cut; ``None`` where no lug was measured."""
    places = [(lug.x_mm, lug.y_mm) for lug in solution.job.knuckle.lugs]
    known = [(x, y) for x, y in places if x is not None and y is not None]
    return min(known, key=lambda at: plan.region.distance(shapely.Point(at)), default=None)

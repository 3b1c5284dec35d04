"""Templates held against a part: the caliper card, the drilling template, the marking chart of eccentric bushings."""

import math
from itertools import pairwise

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from bicentra.core.base.errors import ExportError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record
from bicentra.core.clearance.half_plane import swept_body
from bicentra.core.clearance.travel import pad_wear
from bicentra.core.clearance.wheel_room import standing_parts
from bicentra.core.drawing.model import Dimension, Drawing, Note, Sheet, mirrored
from bicentra.core.drawing.shapes import arrow_head, centre_mark
from bicentra.core.evaluation.own_bracket import best_charted
from bicentra.core.evaluation.solution import Solution
from bicentra.core.lineup.redrill import Redrill
from bicentra.core.lineup.solids import section_outline
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for

CHART_SPARE = (-60.0, -60.0, 60.0, 60.0)


def bushing_chart(job: Job) -> Drawing:
    """Return both bushings where they sit in the ears, seen from outboard, the thick side marked. Raises ``ExportError``."""
    found = best_charted(job)
    chart = found.bracket.chart if found is not None else None
    if found is None or chart is None:
        raise ExportError(f"there are no bushings to mark: {found.why if found is not None else 'none are known'}")
    lengths, sheet = job.lengths, Sheet()
    ears = chart.spacing
    parts = found.bracket.parts * 2 if len(found.bracket.parts) == 1 else found.bracket.parts
    for number, (part, side, (out, across), turned) in enumerate(
        zip(parts, (1.0, -1.0), chart.offsets, chart.turned), 1
    ):
        centre, far = (0.0, side * ears / 2), part.outer / 2
        sheet.circle(centre, chart.boss / 2, "mark", "ear", False, "hidden")
        sheet.circle(centre, far, "outline", "bushing", False)
        sheet.circle((out, centre[1] + across), part.inner / 2, "hole", "bolt", False)
        centre_mark(sheet, centre, far + 4.0, "ear")
        away = math.hypot(out, across)
        way = (-out / away, -across / away) if away > 0 else (0.0, side)
        rim = (centre[0] + way[0] * far, centre[1] + way[1] * far)
        sheet.shape(arrow_head(rim, (-way[0], -way[1]), 7.0, "mark", "thick"))
        spot = (centre[0] + way[0] * (far + 9.0), centre[1] + way[1] * (far + 9.0))
        sheet.note(Note(spot, f"ear {number}: thick side here", "thick", 0, prefer=(1.0, way[1])))
        words = f"{lengths.gap(away)} eccentric, bolt {turned:.1f}° from outward"
        sheet.note(Note((out, centre[1] + across), words, "bushing", 1, prefer=(1.0, -way[1])))
    sheet.line(((0.0, 0.0), (30.0, 0.0)), "mark", "outward")
    sheet.shape(arrow_head((36.0, 0.0), (1.0, 0.0), 6.0, "mark", "outward"))
    sheet.note(Note((30.0, 0.0), "outward, away from the axle", "outward", 1, prefer=(1.0, 0.3)))
    base, apart = parts[0].outer / 2 + 6.0, (-ears / 2, ears / 2)
    sheet.dimension(
        Dimension((0.0, apart[0]), (0.0, apart[1]), (0, 1), (-1, 0), base, f"ears {lengths.size(ears)}", "ears", 0, 0)
    )
    first, second = (side * ears / 2 + across for side, (_, across) in zip((1.0, -1.0), chart.offsets))
    text = f"bolts {lengths.size(first - second)}"
    sheet.dimension(Dimension((0.0, second), (0.0, first), (0, 1), (-1, 0), base, text, "bolts", 1, 0))
    drawing = sheet.finish(CHART_SPARE)
    return mirrored(drawing) if job.is_left else drawing


def chart_text(job: Job) -> str:
    """Return how the chart is used."""
    return (
        f"For the {job.corner.replace('-', ' ')} corner only; the other side's is the mirror image. File the relief first, scribe "
        "the thick side on bushing and ear, press in square with the marks together, then try both bolts by hand before anything "
        "is tightened."
    )


SPARE = (-60.0, -60.0, 60.0, 60.0)


def redrill_sheet(plan: Redrill, bore_mm: float = math.nan, rim_mm: float = math.nan) -> Drawing:
    """Return the face that is drilled, seen on it; holes are numbered counter-clockwise from the top."""
    sheet = Sheet()
    sheet.circle((0.0, 0.0), rim_mm / 2, "mark", "rim", filled=False)
    sheet.circle((0.0, 0.0), bore_mm / 2, "outline", "bore", filled=False)
    for circle in {plan.old.circle, plan.new.circle}:
        sheet.circle((0.0, 0.0), circle / 2, "centre", "circle", filled=False, line="centre")
    for k, centre in enumerate(plan.old.centres()):
        sheet.circle(centre, plan.old_hole / 2, "mark", f"old-{k}", filled=False, line="hidden")
        sheet.note(Note(centre, f"old {k + 1}", f"old-{k}", 2, prefer=centre))
    for k, centre in enumerate(plan.new.centres(plan.clock_deg)):
        sheet.circle(centre, plan.new_hole / 2, "hole", f"new-{k}", filled=False)
        centre_mark(sheet, centre, plan.new_hole * 0.8, f"new-{k}")
        bad = next((i for i, j in plan.overlaps if j == k), None)
        text = f"new {k + 1}: drill Ø {plan.new_hole:g}" if bad is None else f"new {k + 1}: runs into old {bad + 1}"
        sheet.note(Note(centre, text, f"new-{k}", 1, prefer=centre, verdict="" if bad is None else "stop"))
    centre_mark(sheet, (0.0, 0.0), 14.0)
    return sheet.finish(SPARE)


def redrill_title(plan: Redrill) -> str:
    """Return what the sheet is called; a plan that says stop says so."""
    stop = "DO NOT DRILL: " if plan.verdict is Verdict.STOP else ""
    return f"{stop}Drilling template {plan.old.name} to {plan.new.name}, turned {plan.clock_deg:g}°"


FOOT_OVERLAP_MM, STEP_MM = 6.0, 25.0
"""How far the foot reaches into the caliper's section, and the steps in which it starts above the axle [mm]."""
CARD_SPARE = (-120.0, 0.0, 60.0, 200.0)


class Card(Record, frozen=True):
    """The card's shapes in (z from the wheel's seat, r) [mm]. ``base``: radius at which its foot begins."""

    outline: BaseGeometry
    keep_out: BaseGeometry
    reach: float
    base: float


def caliper_card(solution: Solution, tallest: float = math.inf) -> Card:
    """Return the card, its foot cut off above the axle where it would be more than ``tallest`` mm high.

    A floating caliper is taken at both ends of its float. Raises ``ExportError`` while the section is unknown.
    """
    job, line, assembly = solution.job, solution.line, solution.assembly
    swept, seat = swept_body(job, line.pad_top_radius), line.wheel_seat_z
    middle = line.rotor_midplane_z + assembly.stack_up.error
    if swept is None or not is_known(seat, middle):
        raise ExportError("the caliper's section is still unknown: measure its body, the rotor and the plate first")
    wear = pad_wear(job) if job.caliper.action == "floating" else 0.0
    inner = tuple((z, line.pad_top_radius + out) for z, out in section_outline(job))
    body = shapely.union_all([_area(points, middle - seat) for points in (swept.section, inner)])
    body = slid(body, wear) if is_known(wear) and wear > 0 else body
    beside = [
        part.line for part in standing_parts(assembly) if not part.tag.startswith(("caliper", "bracket", "obstacle"))
    ]
    boxes = [shapely.box(z0 - seat, r0, z1 - seat, r1) for z0, r0, z1, r1 in shapely.bounds(beside).tolist()]
    every = shapely.union_all([body, *boxes])
    _, low, _, top = every.bounds
    base = max(0.0, math.ceil((top - tallest) / STEP_MM) * STEP_MM) if math.isfinite(tallest) else 0.0
    if base >= low:
        raise ExportError(f"the caliper is {top - low:.0f} mm high in section, more than the sheet shows at 1 : 1")
    left = min(every.bounds[0], -10.0)
    foot = shapely.union_all([shapely.box(left, base, 0.0, low + FOOT_OVERLAP_MM), *_stems([body, *boxes], base)])
    outline = shapely.union_all([every, foot])
    keep_out = shapely.union_all([every.buffer(limit_for(job, "wheel-room").stop), outline])
    return Card(outline, keep_out, top, base)


def _area(points: tuple[tuple[float, float], ...], by: float) -> BaseGeometry:
    """Return what an outline in (z, r) holds, moved by ``by`` along z; one that crosses itself is taken apart."""
    parts = shapely.get_parts(shapely.make_valid(shapely.Polygon([(z + by, r) for z, r in points])))
    return shapely.union_all([part for part in parts if part.area > 0])


def slid(shape: BaseGeometry, by: float) -> BaseGeometry:
    """Return all that ``shape`` passes over when it slides ``by`` mm either way along z: both ends, and every edge's track."""
    ends = [shapely.transform(shape, lambda points, step=step: np.add(points, (step, 0.0))) for step in (-by, by)]
    edges = [pair for part in shapely.get_parts(shape) for pair in pairwise(part.exterior.coords)]
    tracks = [
        shapely.Polygon([(a[0] - by, a[1]), (b[0] - by, b[1]), (b[0] + by, b[1]), (a[0] + by, a[1])]) for a, b in edges
    ]
    return shapely.union_all([*ends, *(track for track in tracks if track.area > 0)])


def _stems(parts: list[BaseGeometry], base: float) -> list[BaseGeometry]:
    """Return what joins each part to the foot, inboard of the wheel's mounting face: a card is one piece."""
    bounds = [part.bounds for part in parts]
    return [shapely.box(z0, base, min(z1, 0.0), (r0 + r1) / 2) for z0, r0, z1, r1 in bounds if z0 < 0.0]


def card_sheet(solution: Solution, tallest: float = math.inf) -> Drawing:
    """Return the card with what has to be kept free about it, seen with outboard to the right [mm]."""
    card = caliper_card(solution, tallest)
    lengths, sheet = solution.job.lengths, Sheet()
    _polygons(sheet, card.keep_out, "mark", "keep-out", "hidden")
    _polygons(sheet, card.outline, "outline", "card", "solid")
    left, _, right, top = card.outline.bounds
    sheet.line(((0.0, card.base), (0.0, top + 6.0)), "centre", "seat", "centre")
    sheet.note(
        Note((0.0, card.base + 12.0), "this edge on the wheel's mounting face", "seat", 0, prefer=(1.0, 0.0), far=1)
    )
    foot = "on the axle's centre" if card.base == 0 else f"{lengths.size(card.base)} above the axle's centre"
    sheet.note(Note((left / 2, card.base), f"bottom edge {foot}", "axle", 0, prefer=(0.2, -1.0)))
    limit = limit_for(solution.job, "wheel-room").stop
    high = min(card.keep_out.bounds[3], top + limit)
    sheet.note(
        Note(
            ((left + right) / 2, high),
            f"dashed: {lengths.gap(limit)} that must stay free",
            "keep-out",
            1,
            prefer=(0.2, 1.0),
        )
    )
    sheet.dimension(
        Dimension(
            (left, card.base), (left, top), (0.0, 1.0), (-1.0, 0.0), -left, lengths.size(top - card.base), "card", 0, 0
        )
    )
    sheet.dimension(
        Dimension(
            (left, top), (0.0, top), (1.0, 0.0), (0.0, 1.0), card.keep_out.bounds[3], lengths.size(-left), "card", 0, 1
        )
    )
    return sheet.finish(CARD_SPARE)


def _polygons(sheet: Sheet, shape: BaseGeometry, ink: str, tag: str, line: str) -> None:
    for part in shapely.get_parts(shape):
        if part.geom_type == "Polygon":
            points = [(float(x), float(y)) for x, y in part.exterior.coords[:-1]]
            sheet.polygon(points, ink, tag, False, line)


def card_title(solution: Solution) -> str:
    """Return what the sheet is called."""
    return f"Caliper card: {solution.job.caliper.name or 'caliper without a name'}"


def card_text(solution: Solution) -> str:
    """Return how the card is used."""
    ends = "; drawn from one end of its float to the other" if solution.job.caliper.action == "floating" else ""
    return (
        f"On {solution.job.rotor.name or 'the rotor'}, {solution.job.corner.replace('-', ' ')}{ends}. Print at 100 %, measure both "
        "bars, glue to stiff card and cut along the solid line. Lay the upright edge on the wheel's mounting face and the foot's "
        "corner on the axle's centre, turn the card once round inside the wheel: spokes, barrel and balance weights must stay "
        "outside the dashed line everywhere."
    )

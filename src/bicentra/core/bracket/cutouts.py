"""Holes and slots cut to lighten the plate: their outlines, the metal left beside them, and finding room for them."""

import math

import shapely

from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat, make_finding
from bicentra.core.bracket.holes import Hole, spine_of
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.outline import Outline, Point, slot_outline
from bicentra.core.parts.job import Cutout, Job
from bicentra.core.parts.limits import limit_for

CHORD_MM, STEP_MM = 0.005, 0.5
LEAST_HOLE_MM, MOST_HOLES = 10.0, 16


class Metal(Record, frozen=True):
    """The least metal [mm] beside a cutout, which cutout it is, and beside what."""

    value: float
    number: int
    beside: str


def cutout_outline(cutout: Cutout) -> Outline:
    """Return a round hole, or a slot of two half circles; ``length_mm`` is from one half circle's middle to the other's."""
    x, y = known(cutout.x_mm), known(cutout.y_mm)
    dx, dy = ClockFrame(known(cutout.angle_deg)).at(known(cutout.length_mm) / 2)
    return slot_outline(((x + dx, y + dy), (x - dx, y - dy)), known(cutout.diameter_mm) / 2)


def spine(cutout: Cutout) -> tuple[shapely.LineString | shapely.Point, float]:
    """Return a cutout as the line of its middles and its radius [mm]: distances to it are exact."""
    x, y, radius = known(cutout.x_mm), known(cutout.y_mm), known(cutout.diameter_mm) / 2
    dx, dy = ClockFrame(known(cutout.angle_deg)).at(known(cutout.length_mm) / 2)
    if cutout.length_mm == 0.0:
        return shapely.Point(x, y), radius
    return shapely.LineString([(x - dx, y - dy), (x + dx, y + dy)]), radius


def unplaced(job: Job) -> tuple[str, ...]:
    """Return what is to be cut or drilled but has no place or size yet: nothing is made before it has."""
    pins = [f"dowel {k}" for k, p in enumerate(job.bracket.dowels, 1) if not is_known(p.x_mm, p.y_mm, p.diameter_mm)]
    cut = [f"cutout {k}" for k, cutout in enumerate(job.bracket.cutouts, 1) if not are_known((cutout,))]
    pulls = [f"pulled edge {k}" for k, pull in enumerate(job.bracket.pulls, 1) if pull.out_mm is None]
    return (*pins, *cut, *pulls)


def are_known(cutouts: tuple[Cutout, ...]) -> bool:
    """Tell whether every cutout has its place and size."""
    return all(
        is_known(*(known(v) for v in (c.x_mm, c.y_mm, c.diameter_mm, c.length_mm, c.angle_deg))) for c in cutouts
    )


def metal_beside(
    cutouts: tuple[Cutout, ...], outline: Outline, window: Outline | None, holes: tuple[Hole, ...]
) -> Metal:
    """Return the least metal between any cutout and the edge, the window, a hole or another cutout; negative when they meet."""
    if not are_known(cutouts):
        return Metal(UNKNOWN, 0, "")
    whole = shapely.Polygon(outline.polygon(CHORD_MM))
    inner = shapely.Polygon(window.polygon(CHORD_MM)) if window is not None else None
    found = []
    spines = [spine(cutout) for cutout in cutouts]
    for k, (line, radius) in enumerate(spines):
        inside = 1.0 if whole.covers(line) else -1.0
        found.append(Metal(inside * line.distance(whole.exterior) - radius, k, "the edge"))
        if inner is not None:
            outside = -1.0 if inner.intersects(line) else 1.0
            found.append(Metal(outside * line.distance(inner.exterior) - radius, k, "the hub's room"))
        for hole in (h for h in holes if is_known(*h.centre)):
            apart = line.distance(spine_of(hole)) - radius - hole.widest / 2
            found.append(Metal(apart, k, hole.name))
        found += [
            Metal(line.distance(o) - radius - r, k, f"cutout {j + 1}") for j, (o, r) in enumerate(spines) if j < k
        ]
    return min(found, key=lambda metal: metal.value, default=Metal(UNKNOWN, 0, ""))


def cutout_finding(job: Job, metal: Metal, lengths: LengthFormat) -> Finding:
    """The least metal left beside what was cut out of the plate."""
    limit = limit_for(job, "cutout-metal")
    amount = lengths.gap(metal.value)
    left = f"{amount} of metal is left" if metal.value >= 0 else f"it runs {amount} too far"
    why = f"Cutout {metal.number + 1}: {left} towards {metal.beside}; no strength is computed yet, so keep it broad."
    return make_finding("cutout-metal", metal.value, limit, why, features=("bracket",),
                        missing="place and size of every cutout, and the plate's outline")  # fmt: skip


def lightened(
    job: Job, outline: Outline, window: Outline | None, holes: tuple[Hole, ...], area_to_go: float
) -> tuple[Cutout, ...]:
    """Return round holes that take ``area_to_go`` [mm2] off the plate, largest first, the watch limit of metal beside each.

    Fewer when there is no room: the largest circle inscribed in what is left (GEOS), made half a millimetre round.
    """
    keep = limit_for(job, "cutout-metal").watch
    room = _room(job, outline, window, holes, keep)
    found: list[Cutout] = []
    while area_to_go > 0 and len(found) < MOST_HOLES and not room.is_empty:
        centre, radius = largest_circle(room)
        wanted = math.sqrt(area_to_go / math.pi)
        size = math.floor(2 * min(radius, max(wanted, LEAST_HOLE_MM / 2)) / STEP_MM) * STEP_MM
        if size < LEAST_HOLE_MM:
            break
        found.append(Cutout(x_mm=round(centre[0], 2), y_mm=round(centre[1], 2), diameter_mm=size))
        area_to_go -= math.pi / 4 * size**2
        room = room.difference(shapely.Point(centre).buffer(size / 2 + keep, 64))
    return tuple(found)


def open_spot(
    job: Job, outline: Outline, window: Outline | None, holes: tuple[Hole, ...], keep: float
) -> tuple[Point, float]:
    """Return middle and radius [mm] of the largest round hole that leaves ``keep`` of metal all round; radius 0 for none."""
    return largest_circle(_room(job, outline, window, holes, keep))


def _room(job: Job, outline: Outline, window: Outline | None, holes: tuple[Hole, ...], keep: float) -> shapely.Geometry:
    """Return where metal may be cut: ``keep`` off the edge, the window and whatever is cut already."""
    taken = [spine_of(h).buffer(h.widest / 2 + keep, 64) for h in holes]
    pins = [(known(p.x_mm), known(p.y_mm), known(p.diameter_mm) / 2) for p in job.bracket.dowels]
    taken += [shapely.Point(x, y).buffer(r + keep, 64) for x, y, r in pins if is_known(x, y, r)]
    taken += [spine(cutout)[0].buffer(spine(cutout)[1] + keep, 64) for cutout in job.bracket.cutouts]
    if window is not None:
        taken.append(shapely.Polygon(window.polygon(CHORD_MM)).buffer(keep))
    return shapely.Polygon(outline.polygon(CHORD_MM)).buffer(-keep).difference(shapely.union_all(taken))


def largest_circle(room: shapely.Geometry) -> tuple[Point, float]:
    """Return centre and radius of the largest circle inside ``room`` [mm]."""
    best = max(
        (shapely.maximum_inscribed_circle(part, tolerance=0.05) for part in shapely.get_parts(room) if part.area > 1.0),
        key=lambda line: line.length, default=None,
    )  # fmt: skip
    if best is None:
        return (0.0, 0.0), 0.0
    (x, y), radius = best.coords[0], best.length
    return (float(x), float(y)), float(radius) - 0.05

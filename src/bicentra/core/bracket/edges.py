"""Straight edges of the plate pulled out or in: a rounded corner more, or a waist, exact arcs either way.

An edge runs between the bosses of two holes, counter-clockwise seen from outboard. Pulled out by p, a disc as large as the
smaller boss is set so that it reaches p beyond the edge's middle; pulled in, an arc of radius R = (h² + p²)/(2p) is cut out of
it that is p deep over the half chord h (plane geometry), its ends rounded.
"""

import math

from bicentra.core.base.errors import OutlineError
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import Record
from bicentra.core.bracket.holes import Hole
from bicentra.core.geometry.hull import Disc, convex_outline
from bicentra.core.geometry.outline import TOUCH_MM, Outline, Point
from bicentra.core.geometry.relief import relieve
from bicentra.core.parts.job import Pull

CHORD_SHARE, LEAST_PULL_MM = 0.8, 0.05
"""How much of an edge a waist takes; a pull smaller than this is none [mm]."""


class PlateEdge(Record, frozen=True):
    """A straight edge before it is pulled: the numbers of the holes it runs between, and its ends [mm]."""

    first: int
    second: int
    a: Point
    b: Point

    @property
    def length(self) -> float:
        """How long it is [mm]."""
        return math.dist(self.a, self.b)

    @property
    def middle(self) -> Point:
        """Its middle [mm]."""
        return (self.a[0] + self.b[0]) / 2, (self.a[1] + self.b[1]) / 2

    @property
    def out(self) -> Point:
        """The unit vector away from the plate."""
        return (self.b[1] - self.a[1]) / self.length, (self.a[0] - self.b[0]) / self.length

    def beyond(self, by: float) -> Point:
        """Return the point ``by`` [mm] outside its middle."""
        (x, y), (u, v) = self.middle, self.out
        return x + by * u, y + by * v


def bosses(holes: tuple[Hole, ...]) -> tuple[Disc, ...]:
    """Return the boss round every hole, round both ends of a slot."""
    return tuple(Disc(end, hole.boss_radius) for hole in holes for end in hole.ends)


def plate_edges(holes: tuple[Hole, ...]) -> tuple[PlateEdge, ...]:
    """Return the straight edges between the bosses of unlike holes. Raises ``OutlineError`` while a hole is unknown."""
    rims = [(k, end, hole.boss_radius) for k, hole in enumerate(holes) for end in hole.ends]

    def whose(point: Point) -> int:
        return min(rims, key=lambda rim: abs(math.dist(rim[1], point) - rim[2]))[0]

    lines = (seg for seg in convex_outline(bosses(holes)).segments if seg.bulge == 0.0 and seg.length > TOUCH_MM)
    found = (PlateEdge(whose(seg.start), whose(seg.end), seg.start, seg.end) for seg in lines)
    return tuple(edge for edge in found if edge.first != edge.second)


def plate_discs(holes: tuple[Hole, ...], pulls: tuple[Pull, ...]) -> tuple[Disc, ...]:
    """Return the discs that the plate's outline runs round: bosses, and what is pulled out. Raises ``OutlineError``."""
    outward = {(p.from_hole, p.to_hole): known(p.out_mm) for p in pulls if not known(p.out_mm) < LEAST_PULL_MM}
    if not outward:
        return bosses(holes)
    found = []
    for edge in plate_edges(holes):
        out = outward.get((edge.first, edge.second))
        if out is not None:
            radius = min(holes[edge.first].boss_radius, holes[edge.second].boss_radius)
            found.append(Disc(edge.beyond(out - radius), radius))
    return (*bosses(holes), *found)


def waisted(outline: Outline, holes: tuple[Hole, ...], pulls: tuple[Pull, ...], corner: float) -> Outline:
    """Return ``outline`` with the waists of what is pulled in [mm]. Raises ``OutlineError`` where one does not fit its edge."""
    inward = {(p.from_hole, p.to_hole): -known(p.out_mm) for p in pulls if known(p.out_mm) <= -LEAST_PULL_MM}
    for edge in plate_edges(holes) if inward else ():
        deep = inward.get((edge.first, edge.second))
        if deep is not None and is_known(deep):
            outline = _waist(outline, edge, deep, corner, holes)
    return outline


def _waist(outline: Outline, edge: PlateEdge, deep: float, corner: float, holes: tuple[Hole, ...]) -> Outline:
    half = CHORD_SHARE * edge.length / 2
    radius = (half**2 + deep**2) / (2 * deep)
    cx, cy = edge.beyond(radius - deep)
    moved = Outline(tuple((x - cx, y - cy, bulge) for x, y, bulge in outline.vertices))
    between = f"between {holes[edge.first].name} and {holes[edge.second].name}"
    try:
        cut = relieve(moved, radius, corner)
    except OutlineError:
        raise OutlineError(
            f"the edge {between} cannot be pulled in {deep:.1f} mm: it would cut the plate in two"
        ) from None
    if cut.window is not None or cut.outline == moved:
        raise OutlineError(f"the edge {between} is not there to be pulled in: the room for hub or rotor takes it")
    return Outline(tuple((x + cx, y + cy, bulge) for x, y, bulge in cut.outline.vertices))

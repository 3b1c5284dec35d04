"""The bracket as metal between heights, at one clock angle or at many: whatever asks what it can touch asks this.

One whose outline runs round the bosses of lugs and ears at its full thickness is the hull of those bosses, less the disc that
is cut out of it for hub or rotor, at every angle at once. Any other is its parts as prisms at the angle it was made for.
"""

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from bicentra.core.base.errors import OutlineError
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.edges import plate_discs
from bicentra.core.bracket.model import Bracket
from bicentra.core.bracket.plate import keep_out_radius
from bicentra.core.bracket.prisms import part_prisms
from bicentra.core.bracket.turned import boss_hulls
from bicentra.core.geometry.hull import convex_outline
from bicentra.core.geometry.outline import FloatArray, Outline
from bicentra.core.geometry.prism import Prism
from bicentra.core.geometry.relief import contains_axis
from bicentra.core.geometry.ring import Ring

AXIS, DISC_CORNERS = shapely.Point(0.0, 0.0), 128
PLAN_CHORD_MM = 0.002
"""How far the chords of a plate seen along the axle run off its arcs [mm]."""


Shapes = NDArray[np.object_]


@dataclass(frozen=True)
class Piece:
    """Metal between two heights [mm] at n clock angles: (n,) or (1,) polygons in (x, y)."""

    shapes: Shapes
    z0: float
    z1: float


Metal = tuple[Piece, ...]


def bracket_metal(assembly: Assembly) -> tuple[Prism, ...]:
    """Return the bracket's parts as prisms where they sit; nothing while they are not known."""
    bracket = assembly.bracket
    if bracket.kind.cut is None or bracket.shape is None:
        return tuple(prism for part in bracket.parts for prism in part_prisms(part))
    pieces = metal_at(assembly, assembly.line.frame.here)
    rings = _plate_ring(assembly)
    return tuple(
        Prism(piece.shapes[0], piece.z0, piece.z1, rings if number == 0 else None)
        for number, piece in enumerate(pieces)
    )


def metal_at(assembly: Assembly, clock_rad: FloatArray, hulls: FloatArray | None = None) -> Metal:
    """Return the bracket's metal at n clock angles [rad]; nothing while it is not known.

    One that is not swept is told as it was made, whatever the angle. ``hulls``: its boss hulls, where they are at hand.
    """
    bracket = assembly.bracket
    if not bracket.stands:
        return ()
    if bracket.kind.cut is None:
        return tuple(Piece(np.array([prism.shape]), prism.z0, prism.z1) for prism in assembly.metal)
    around, (z0, z1) = boss_hulls(assembly, clock_rad) if hulls is None else hulls, assembly.stack_up.z_range
    if around is None:
        return ()
    return (Piece(_cut(assembly, around), z0, z1), *_standing(bracket))


def _cut(assembly: Assembly, hulls: FloatArray) -> Shapes:
    """Return (n, k, 2) ``hulls`` as polygons, the room for hub or rotor cut out of them where that leaves a plate."""
    shapes, room = shapely.polygons(hulls), keep_out_radius(assembly)
    shape = assembly.bracket.shape
    if room <= 0.0 or (shape is not None and shape.impossible):
        return np.asarray(shapes, dtype=object)
    found: Shapes = np.array(shapes, dtype=object)
    near = np.flatnonzero(shapely.distance(shapes, AXIS) < room)
    if len(near):
        cut = shapely.difference(found[near], _disc(room))
        found[near] = np.where(shapely.is_empty(cut), found[near], cut)
    return found


def _disc(radius: float) -> shapely.Polygon:
    """Return what is cut out of a plate, as a polygon *inside* the circle: the metal is never shown smaller than it is."""
    turn = np.arange(DISC_CORNERS) * 2 * np.pi / DISC_CORNERS
    return shapely.Polygon(radius * np.column_stack([np.cos(turn), np.sin(turn)]))


def _standing(bracket: Bracket) -> list[Piece]:
    """Return what the bracket has besides its plate: spacers and sleeves at the lugs."""
    prisms = [prism for part in bracket.parts if part.outline is None for prism in part_prisms(part)]
    return [Piece(np.array([prism.shape]), prism.z0, prism.z1) for prism in prisms]


def _plate_ring(assembly: Assembly) -> Ring | None:
    """Return the ring about the axle that the plate just fits in, exact."""
    shape, (z0, z1) = assembly.bracket.shape, assembly.stack_up.z_range
    if shape is None:
        return None
    outline: Outline | None = shape.outline
    if outline is None:
        try:
            outline = convex_outline(plate_discs(assembly.holes, assembly.job.bracket.pulls))
        except OutlineError:
            return None
    inside = 0.0 if contains_axis(outline) else outline.distance_to((0.0, 0.0))
    return Ring(shape.keep_out if shape.window is not None else inside, outline.farthest, z0, z1)

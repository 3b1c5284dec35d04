"""The bracket as metal between heights, at one clock angle or at many: whatever asks what it can touch asks this.

One whose outline runs round the bosses of lugs and ears at its full thickness is the hull of those bosses, less the disc that
is cut out of it for hub or rotor, at every angle at once. Any other is its parts as prisms at the angle it was made for.
"""

import shapely

from bicentra.core.base.errors import OutlineError
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.model import Bracket
from bicentra.core.bracket.plate import keep_out_radius, plate_discs
from bicentra.core.bracket.prisms import part_prisms
from bicentra.core.bracket.turned import boss_hulls
from bicentra.core.geometry.hull import convex_outline
from bicentra.core.geometry.outline import FloatArray, Outline
from bicentra.core.geometry.prism import Prism, Prisms
from bicentra.core.geometry.relief import contains_axis
from bicentra.core.geometry.ring import Ring

PLAN_CHORD_MM = 0.002
"""How far the chords of a plate seen along the axle run off its arcs [mm]."""


def bracket_metal(assembly: Assembly) -> Prisms:
    """Return the bracket's parts as prisms where they sit; nothing while they are unknown."""
    bracket = assembly.bracket
    if bracket.kind.cut is None or bracket.shape is None:
        return tuple(prism for part in bracket.parts for prism in part_prisms(part))
    pieces = metal_at(assembly, assembly.line.frame.here)
    if not pieces:
        return ()
    plate = pieces[0].those(0)
    return (Prism(plate.z0, plate.z1, plate.shape, exact=_plate_ring(assembly)), *pieces[1:])


def metal_at(assembly: Assembly, clock_rad: FloatArray, hulls: FloatArray | None = None) -> Prisms:
    """Return the bracket's metal, its plate at n clock angles [rad]; nothing while it is unknown.

    One that is not swept is reported as it was made, whatever the angle. ``hulls``: its boss hulls, where they are at hand.
    """
    bracket = assembly.bracket
    if not bracket.stands:
        return ()
    if bracket.kind.cut is None:
        return assembly.metal
    around, (z0, z1) = boss_hulls(assembly, clock_rad) if hulls is None else hulls, assembly.stack_up.z_range
    if around is None:
        return ()
    return (Prism(z0, z1, shapely.polygons(around), bore=_bore(assembly)), *_standing(bracket))


def _bore(assembly: Assembly) -> float:
    """Return the radius [mm] that is cut out of the plate for hub or rotor; nothing where that would leave no plate."""
    shape = assembly.bracket.shape
    return 0.0 if shape is not None and shape.impossible else max(keep_out_radius(assembly), 0.0)


def _standing(bracket: Bracket) -> list[Prism]:
    """Return what the bracket has besides its plate: spacers and sleeves at the lugs."""
    return [prism for part in bracket.parts if part.outline is None for prism in part_prisms(part)]


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

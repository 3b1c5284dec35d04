"""Solid of a plate bent twice: its section drawn out across the bends, cut to the plan it has once it is folded. Heavy."""

from typing import Any

from bicentra.core.base.errors import ExportError
from bicentra.core.bracket.fold import Fold, folded_plan
from bicentra.core.bracket.model import MadePart
from bicentra.core.geometry.outline import Segment

PAST_MM = 5.0
"""How far the section is drawn beyond the outline before it is cut to it."""


def bent_solid(part: MadePart, fold: Fold, plan_solid: Any) -> Any:
    """Return the bent plate. ``plan_solid(outline, centres, z0, height)`` makes the upright prism of the plan."""
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Common

    outline, centres = folded_plan(part, fold)
    if outline is None:
        raise ExportError(f"{part.name}: there is no outline")
    low, high = fold.z0 + min(0.0, fold.up * fold.height), fold.z0 + max(0.0, fold.up * fold.height) + part.thickness
    plan = plan_solid(outline, centres, low - PAST_MM, high - low + 2 * PAST_MM)
    return BRepAlgoAPI_Common(_drawn_out(part, fold), plan).Shape()


def _drawn_out(part: MadePart, fold: Fold) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakeWire
    from OCP.BRepPrimAPI import BRepPrimAPI_MakePrism
    from OCP.gp import gp_Vec

    assert part.outline is not None
    (ux, uy), corners = fold.u, part.outline.polygon(0.1)
    along, across = corners @ (ux, uy), corners @ (-uy, ux)
    foot, wide = float(across.min()) - PAST_MM, float(across.max() - across.min()) + 2 * PAST_MM
    maker = BRepBuilderAPI_MakeWire()
    for piece in fold.profile(float(along.min()) - PAST_MM, float(along.max()) + PAST_MM).segments:
        maker.Add(_edge(piece, fold, foot))
    face = BRepBuilderAPI_MakeFace(maker.Wire(), True).Face()
    return BRepPrimAPI_MakePrism(face, gp_Vec(-uy * wide, ux * wide, 0.0)).Shape()


def _edge(piece: Segment, fold: Fold, foot: float) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge
    from OCP.GC import GC_MakeArcOfCircle
    from OCP.gp import gp_Pnt

    (ux, uy) = fold.u

    def at(spot: tuple[float, float]) -> Any:
        return gp_Pnt(spot[0] * ux - foot * uy, spot[0] * uy + foot * ux, spot[1])

    start, end = at(piece.start), at(piece.end)
    if piece.bulge == 0.0:
        return BRepBuilderAPI_MakeEdge(start, end).Edge()
    return BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(start, at(piece.points(1e9)[1]), end).Value()).Edge()

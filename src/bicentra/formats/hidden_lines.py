"""Views of a solid with hidden lines told from visible ones, as flat lines in mm. Heavy: for the worker process."""

from typing import Any

from bicentra.core.base.records import Record
from bicentra.core.geometry.outline import Line, uncovered
from bicentra.formats.solids import cast

CHORD_MM = 0.05
VIEWS: dict[str, tuple[tuple[float, float, float], tuple[float, float, float]]] = {
    "front": ((0.0, 0.0, 1.0), (1.0, 0.0, 0.0)),
    "side": ((1.0, 0.0, 0.0), (0.0, 0.0, -1.0)),
    "pictorial": ((0.62, 0.42, 0.66), (0.73, 0.0, -0.68)),
}
"""Where the eye stands, and what points to the right: from outboard; from the front of the vehicle; from both and above."""


class View(Record, frozen=True):
    """Visible and hidden lines of one view [mm], x to the right, y up."""

    visible: tuple[Line, ...]
    hidden: tuple[Line, ...]

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """(x_min, y_min, x_max, y_max) of everything."""
        points = [point for line in (*self.visible, *self.hidden) for point in line]
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        return min(xs), min(ys), max(xs), max(ys)


def views_of(shape: Any) -> dict[str, View]:
    """Return every view of ``VIEWS`` of one solid."""
    return {name: _view(shape, eye, right) for name, (eye, right) in VIEWS.items()}


def _view(shape: Any, eye: tuple[float, float, float], right: tuple[float, float, float]) -> View:
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
    from OCP.HLRAlgo import HLRAlgo_Projector
    from OCP.HLRBRep import HLRBRep_Algo, HLRBRep_HLRToShape

    finder = HLRBRep_Algo()
    finder.Add(shape)
    finder.Projector(HLRAlgo_Projector(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(*eye), gp_Dir(*right))))
    finder.Update()
    finder.Hide()
    found = HLRBRep_HLRToShape(finder)
    visible = [*_lines(found.VCompound()), *_lines(found.OutLineVCompound())]
    hidden = [*_lines(found.HCompound()), *_lines(found.OutLineHCompound())]
    return View(tuple(visible), uncovered(hidden, visible, 2 * CHORD_MM))


def _lines(compound: Any) -> list[Line]:
    from OCP.BRepAdaptor import BRepAdaptor_Curve
    from OCP.BRepLib import BRepLib
    from OCP.GCPnts import GCPnts_QuasiUniformDeflection
    from OCP.TopAbs import TopAbs_EDGE
    from OCP.TopExp import TopExp_Explorer

    if compound is None or compound.IsNull():
        return []
    BRepLib.BuildCurves3d_s(compound)
    found: list[Line] = []
    walk = TopExp_Explorer(compound, TopAbs_EDGE)
    while walk.More():
        edge = cast("Edge", walk.Current())
        spots = GCPnts_QuasiUniformDeflection(BRepAdaptor_Curve(edge), CHORD_MM)
        places = [spots.Value(k) for k in range(1, spots.NbPoints() + 1)]
        found.append(tuple((round(p.X(), 5), round(p.Y(), 5)) for p in places))
        walk.Next()
    return found

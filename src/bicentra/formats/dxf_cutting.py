"""Cutting file of the chosen family's plates: DXF R2010 in mm, closed outlines, one layer per operation, nothing else."""

from typing import Any

from bicentra.core.base.errors import ExportError
from bicentra.core.bracket.model import MadePart
from bicentra.core.geometry.outline import Outline
from bicentra.formats.dxf_file import dxf_bytes

LAYERS = {"CUT": 7, "DRILL": 1, "TAP": 2, "MILL": 6, "SINK": 30, "BEND": 4, "MARK": 3}
GAP_MM = 20.0


def cutting_dxf(parts: tuple[MadePart, ...], mirrored: bool = False) -> bytes:
    """Return every plate side by side as it is cut, seen from outboard; the flat pattern where it is bent afterwards.

    Raises ``ExportError`` when nothing is cut from plate.
    """
    plates = [part for part in parts if part.shape == "plate" and part.outline is not None]
    if not plates:
        raise ExportError("nothing of this family is cut from plate")
    return dxf_bytes(lambda document: _written(document, plates, mirrored), LAYERS)


def _written(document: Any, plates: list[MadePart], mirrored: bool) -> None:
    space, x = document.modelspace(), 0.0
    for part in plates:
        sign = -1.0 if mirrored or part.mirrored else 1.0
        outline = _seen(part.outline, sign)
        x0, _, x1, _ = outline.bounds
        _plate(space, part, outline, x - x0, sign)
        x += x1 - x0 + GAP_MM


def _seen(outline: Outline | None, sign: float) -> Outline:
    if outline is None:
        raise ExportError("a plate without an outline cannot be cut")
    return outline if sign > 0 else outline.mirrored()


def _plate(space: Any, part: MadePart, outline: Outline, dx: float, sign: float) -> None:
    def loop(of: Outline, layer: str) -> None:
        points = [(x + dx, y, bulge) for x, y, bulge in of.vertices]
        space.add_lwpolyline(points, format="xyb", close=True, dxfattribs={"layer": layer})

    loop(outline, "CUT")
    if part.window is not None:
        loop(_seen(part.window, sign), "CUT")
    for cutout in part.cutouts:
        loop(_seen(cutout, sign), "CUT")
    for pocket in part.pockets:
        for edge in pocket.kept or (pocket.outline,):
            loop(_seen(edge, sign), "MILL")
    for bore in part.bores:
        if bore.slot:
            loop(_seen(bore.outline, sign), "CUT")
            continue
        centre = (sign * bore.centre[0] + dx, bore.centre[1])
        space.add_circle(centre, bore.drill / 2, dxfattribs={"layer": "TAP" if bore.thread else "DRILL"})
        space.add_point(centre, dxfattribs={"layer": "MARK"})
        if bore.sink is not None:
            space.add_circle(centre, bore.sink.wide / 2, dxfattribs={"layer": "SINK"})
    for bend in part.bends:
        a, b = ((sign * p[0] + dx, p[1]) for p in (bend.a, bend.b))
        space.add_line(a, b, dxfattribs={"layer": "BEND"})

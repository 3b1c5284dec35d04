"""The plate as DXF R2010: true arcs, one layer per kind of thing, the same bytes for the same job."""

from typing import Any

from bicentra.core.drawing.imprint import BLANK, Imprint, cut_mark
from bicentra.core.drawing.model import Drawing, Shape
from bicentra.core.drawing.plate_sheet import PT_PER_MM, headline, paper_labels, plate_sheet
from bicentra.core.solution import Solution
from bicentra.formats.dxf_file import dxf_bytes
from bicentra.formats.typeface import text_width

LAYERS = {"OUTLINE": 7, "HOLES": 1, "CENTRE_MARKS": 3, "TEXT": 8}
TEXT_MM = 3.0
_LAYER_OF = {"outline": "OUTLINE", "hole": "HOLES", "centre": "CENTRE_MARKS", "mark": "TEXT"}


def plate_dxf(solution: Solution, imprint: Imprint = BLANK) -> bytes:
    """Return the plate as a DXF file, in the units the job is read in. Raises ``ExportError`` when there is no plate.

    Written without clock and without chance: the same job gives the same bytes.
    """
    drawing = plate_sheet(solution)
    return dxf_bytes(
        lambda document: _written(document, solution, drawing, imprint), LAYERS, solution.job.lengths.units
    )


def _written(document: Any, solution: Solution, drawing: Drawing, imprint: Imprint) -> None:
    document.styles.add("PAPER", font="IBMPlexSans-Regular.ttf")
    space = document.modelspace()
    for shape in drawing.shapes:
        _add_shape(space, shape)
    for label in paper_labels(drawing, _measure):
        _add_text(space, label.text, label.box.x0 / PT_PER_MM, (label.box.y0 + 2.0) / PT_PER_MM)
        for start, end in label.lines:
            ends = [(p[0] / PT_PER_MM, p[1] / PT_PER_MM) for p in (start, end)]
            space.add_line(ends[0], ends[1], dxfattribs={"layer": "TEXT"})
    x0, y0, _, _ = drawing.bounds
    for row, text in enumerate((cut_mark(solution).line, *headline(solution), imprint.line)):
        if text:
            _add_text(space, text, x0, y0 - 42.0 - 5.0 * row)


def _measure(text: str) -> tuple[float, float]:
    size = TEXT_MM * PT_PER_MM * 1.4
    return text_width(text, size) + 4.0, size + 2.0


def _add_shape(space: Any, shape: Shape) -> None:
    layer = {"layer": _LAYER_OF.get(shape.ink, "TEXT")}
    for loop in shape.loops:
        if shape.ink == "hole":
            (x0, y0, _), (x1, _, _) = loop
            space.add_circle(((x0 + x1) / 2, y0), abs(x0 - x1) / 2, dxfattribs=layer)
        elif len(loop) == 2 and not shape.closed and loop[0][2] == 0.0:
            space.add_line(loop[0][:2], loop[1][:2], dxfattribs=layer)
        else:
            space.add_lwpolyline(loop, format="xyb", close=shape.closed, dxfattribs=layer)


def _add_text(space: Any, text: str, x: float, y: float) -> None:
    attributes = {"layer": "TEXT", "height": TEXT_MM, "style": "PAPER", "insert": (x, y)}
    space.add_text(text, dxfattribs=attributes)

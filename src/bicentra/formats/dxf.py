"""DXF R2010: the plate, and the cutting file of all plates; true arcs, closed outlines, the same bytes on every run."""

import io
from collections.abc import Callable
from typing import Any

from bicentra.core.base.errors import ExportError
from bicentra.core.base.quantities import Units
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat, printable
from bicentra.core.bracket.model import MadePart
from bicentra.core.drawing.model import Drawing, Shape
from bicentra.core.drawing.sheets.imprint import BLANK, CLEAR, CutMark, Imprint, cut_mark
from bicentra.core.drawing.sheets.plate import PT_PER_MM, Numbers, datum_of, headline, paper_labels, plate_sheet
from bicentra.core.evaluation.solution import Solution
from bicentra.core.geometry.outline import Outline, Point
from bicentra.formats.typeface import text_width


def dxf_bytes(draw: Callable[[Any], None], layers: dict[str, int], read_in: Units = "mm") -> bytes:
    """Return the DXF R2010 file of what ``draw`` puts, in mm, into a new document with ``layers`` (name: colour).

    ``read_in`` inches, everything is drawn in inches and the file says so.
    """
    from ezdxf import units
    from ezdxf._options import options
    from ezdxf.filemanagement import new

    before = options.write_fixed_meta_data_for_testing
    options.write_fixed_meta_data_for_testing = True
    try:
        document = new("R2010", setup=False, units=units.MM)
        for name, colour in layers.items():
            document.layers.add(name, color=colour)
        draw(document)
        if read_in == "in":
            _to_inches(document)
        for name in sorted(document.entitydb.dxf_types_in_use()):  # the library adds them in the order of a set
            document.classes.add_class(name)
        stream = io.StringIO()
        document.write(stream)
        return stream.getvalue().encode(document.output_encoding)
    finally:
        options.write_fixed_meta_data_for_testing = before


def _to_inches(document: Any) -> None:
    """Make the drawing 25.4 times smaller, and let the file say that its units are inches."""
    from ezdxf import units
    from ezdxf.math import Matrix44

    smaller = 1.0 / 25.4
    for entity in document.modelspace():
        entity.transform(Matrix44.scale(smaller, smaller, smaller))
    document.units = units.IN
    document.header["$MEASUREMENT"] = 0


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


CUT_LAYERS = {"CUT": 7, "DRILL": 1, "TAP": 2, "MILL": 6, "SINK": 30, "BEND": 4, "MARK": 3, "NOTE": 8}
GAP_MM, NOTE_MM, CROSS_MM = 20.0, 3.0, 6.0


class SheetNames(Record, frozen=True):
    """What the file says on the layer that is not cut: job, units, what forbids cutting, date and names, holes of the datum."""

    title: str = ""
    lengths: LengthFormat = LengthFormat("mm")
    mark: CutMark = CLEAR
    imprint: Imprint = BLANK
    datum: Numbers | None = None


UNTOLD = SheetNames()


def cutting_dxf(parts: tuple[MadePart, ...], mirrored: bool = False, text: SheetNames = UNTOLD) -> bytes:
    """Return every plate side by side as it is cut, seen from outboard; the flat pattern where it is bent afterwards.

    Raises ``ExportError`` when nothing is cut from plate.
    """
    plates = [part for part in parts if part.shape == "plate" and part.outline is not None]
    if not plates:
        raise ExportError("nothing of this kind is cut from plate")
    return dxf_bytes(lambda document: _cut_written(document, plates, mirrored, text), CUT_LAYERS, text.lengths.units)


def _cut_written(document: Any, plates: list[MadePart], mirrored: bool, text: SheetNames) -> None:
    space, x, low = document.modelspace(), 0.0, 0.0
    document.styles.add("PAPER", font="IBMPlexSans-Regular.ttf")
    for part in plates:
        sign = -1.0 if mirrored or part.mirrored else 1.0
        outline = _seen(part.outline, sign)
        x0, y0, x1, _ = outline.bounds
        _plate(space, part, outline, x - x0, sign)
        low = min(low, _named(space, part, text, (x, y0), (x - x0, sign)))
        x += x1 - x0 + GAP_MM
    units = "inches" if text.lengths.units == "in" else "mm"
    head = f"{printable(text.title)} · seen from outboard · drawn in {units}, scale 1" if text.title else ""
    for row, line in enumerate(line for line in (text.mark.line, head, text.imprint.line) if line):
        _note(space, line, (0.0, low - NOTE_MM * (3.0 + 1.8 * row)))


def _named(space: Any, part: MadePart, text: SheetNames, corner: Point, shift: tuple[float, float]) -> float:
    """Write below a plate what it is, of what, how it was moved, and mark its datum; returns how low that reaches [mm]."""
    lengths, (dx, sign) = text.lengths, shift
    lines = [
        f"{part.name}, {part.count} off",
        f"{lengths.stock(part.thickness)} {part.material or 'material not stated'}",
    ]
    lines.append(f"wheel axis at X {lengths.bare(dx)}, Y {lengths.bare(0.0)}")
    datum = datum_of(part, text.datum, sign < 0 and not part.mirrored)
    if datum is not None:
        x, y, cos, sin = datum.seen
        x += dx
        for u, v in ((cos, sin), (-sin, cos)):
            ends = ((x - CROSS_MM * u, y - CROSS_MM * v), (x + 3 * CROSS_MM * u, y + 3 * CROSS_MM * v))
            space.add_line(*ends, dxfattribs={"layer": "NOTE"})
        one, other = datum.holes
        at = part.bores[one - 1].name, part.bores[other - 1].name
        lines.append(f"datum: {at[0]} at X {lengths.bare(x)}, Y {lengths.bare(y)}; axis to {at[1]}")
    for row, line in enumerate(lines, 1):
        _note(space, line, (corner[0], corner[1] - 1.8 * NOTE_MM * row))
    return corner[1] - 1.8 * NOTE_MM * len(lines)


def _note(space: Any, text: str, at: Point) -> None:
    attributes = {"layer": "NOTE", "height": NOTE_MM, "style": "PAPER", "insert": at}
    space.add_text(printable(text), dxfattribs=attributes)


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

"""Cutting file of the chosen family's plates: DXF R2010, closed outlines, one layer per operation; words on a layer not cut."""

from typing import Any

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat, printable
from bicentra.core.bracket.model import MadePart
from bicentra.core.drawing.datum import Numbers, datum_of
from bicentra.core.drawing.imprint import BLANK, CLEAR, CutMark, Imprint
from bicentra.core.geometry.outline import Outline, Point
from bicentra.formats.dxf_file import dxf_bytes

LAYERS = {"CUT": 7, "DRILL": 1, "TAP": 2, "MILL": 6, "SINK": 30, "BEND": 4, "MARK": 3, "NOTE": 8}
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
    return dxf_bytes(lambda document: _written(document, plates, mirrored, text), LAYERS, text.lengths.units)


def _written(document: Any, plates: list[MadePart], mirrored: bool, text: SheetNames) -> None:
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

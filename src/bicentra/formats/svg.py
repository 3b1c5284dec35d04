"""The plate as SVG at true size: millimetres for units, true arcs, letters as outlines of the shipped face."""

from html import escape

from bicentra.core.base.wording import printable
from bicentra.core.drawing.imprint import BLANK, Imprint, cut_mark
from bicentra.core.drawing.model import Shape
from bicentra.core.drawing.plate_sheet import (
    CAUTION,
    PT_PER_MM,
    content_box,
    headline,
    paper_labels,
    plate_sheet,
)
from bicentra.core.solution import Solution
from bicentra.formats.typeface import text_path, text_width

TEXT_PT = 9.0
_STROKE = {
    "outline": ("#000000", 0.35),
    "hole": ("#000000", 0.25),
    "centre": ("#a03020", 0.13),
    "mark": ("#404040", 0.25),
}


def plate_svg(solution: Solution, imprint: Imprint = BLANK) -> bytes:
    """Return the plate as an SVG file whose user unit is one millimetre. Raises ``ExportError``."""
    drawing = plate_sheet(solution)
    labels = paper_labels(drawing, lambda text: (text_width(text, TEXT_PT) + 4.0, TEXT_PT + 3.0))
    box = content_box(drawing, labels)
    foot = 25.5
    wide, high = box.x1 - box.x0, box.y1 - box.y0 + foot
    title, seen = headline(solution)
    out = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.3f}mm" height="{high:.3f}mm" '
        f'viewBox="{box.x0:.3f} {-box.y1:.3f} {wide:.3f} {high:.3f}">',
        f"<title>{escape(printable(title))}</title><desc>{escape(printable(seen))}. {escape(CAUTION)}</desc>",
    ]
    for ink in ("outline", "hole", "centre", "mark"):
        paths = [path_of(shape) for shape in drawing.shapes if shape.ink == ink]
        stroke, width = _STROKE[ink]
        out.append(f'<g id="{ink}" fill="none" stroke="{stroke}" stroke-width="{width}">')
        out += [f'<path d="{path}"/>' for path in paths]
        out.append("</g>")
    out.append('<g id="text" fill="#000000" stroke="none">')
    for label in labels:
        size = TEXT_PT / PT_PER_MM
        at = (label.box.x0 / PT_PER_MM + 0.7, -(label.box.y0 + 3.0) / PT_PER_MM)
        out.append(f'<path aria-label="{escape(printable(label.text))}" d="{text_path(label.text, size, at)}"/>')
    for row, text in enumerate((title, seen, imprint.line, cut_mark(solution).line, CAUTION)):
        size = min(3.0 if row < 4 else 2.4, (wide - 4) / max(text_width(text, 1.0), 1.0))
        out.append(
            f'<path aria-label="{escape(printable(text))}" d="{text_path(text, size, (box.x0 + 2, -box.y0 + 4.5 + 4.5 * row))}"/>'
        )
    out.append("</g>")
    lines = [line for label in labels for line in label.lines]
    out.append('<g id="leaders" fill="none" stroke="#606060" stroke-width="0.13">')
    out += [f'<path d="M{_xy(a)}L{_xy(b)}"/>' for a, b in lines]
    out.append("</g></svg>")
    return "\n".join(out).encode("utf-8") + b"\n"


def _xy(point: tuple[float, float]) -> str:
    return f"{point[0] / PT_PER_MM:.4f} {-point[1] / PT_PER_MM:.4f}"


def path_of(shape: Shape) -> str:
    """Return the loops as SVG commands with true arcs; y is turned down."""
    said = []
    for loop in shape.loops:
        said.append(f"M{loop[0][0]:.4f} {-loop[0][1]:.4f}")
        after = (*loop[1:], loop[0]) if shape.closed else loop[1:]
        for here, there in zip(loop, after):
            said.append(_command(here, there))
        if shape.closed:
            said.append("Z")
    return "".join(said)


def _command(here: tuple[float, float, float], there: tuple[float, float, float]) -> str:
    from bicentra.core.geometry.outline import Segment

    end = f"{there[0]:.4f} {-there[1]:.4f}"
    if here[2] == 0.0:
        return f"L{end}"
    piece = Segment((here[0], here[1]), (there[0], there[1]), here[2])
    large = 1 if abs(here[2]) > 1.0 else 0
    turn = 0 if here[2] > 0 else 1
    return f"A{piece.radius:.4f} {piece.radius:.4f} 0 {large} {turn} {end}"

"""SVG at true size: the plate to cut, and any drawing to be put into a letter or a book."""

from html import escape

from bicentra.core.base.wording import printable
from bicentra.core.drawing.boxes import Box
from bicentra.core.drawing.layout import lay_out
from bicentra.core.drawing.model import Drawing, Shape
from bicentra.core.drawing.sheets.imprint import BLANK, Imprint, cut_mark
from bicentra.core.drawing.sheets.plate import CAUTION, PT_PER_MM, content_box, headline, paper_labels, plate_sheet
from bicentra.core.evaluation.solution import Solution
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
        paths = [svg_path(shape) for shape in drawing.shapes if shape.ink == ink]
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


def svg_path(shape: Shape) -> str:
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


ROOM_MM, DRAWING_TEXT_PT = 46.0, 9.0
FILLS = {
    "rotor": "#d9dee0", "hat": "#e7eaea", "hub": "#d2d6d2", "knuckle": "#cfc6b6", "obstacle": "#dbcfbb", "caliper": "#f0d9b0",
    "pad": "#a9a29a", "made": "#8cc9c2", "shim": "#e0a100", "bolt": "#b9bec4", "wheel": "#e2e4e6", "hole": "#ffffff",
}  # fmt: skip
"""Fill of each ink; what is not named is drawn as a line."""


def drawing_svg(drawing: Drawing, title: str) -> bytes:
    """Return ``drawing`` with its dimensions as an SVG file whose user unit is one millimetre."""
    x0, y0, x1, y1 = drawing.bounds
    frame = Box(*(v * PT_PER_MM for v in (x0 - ROOM_MM, y0 - ROOM_MM, x1 + ROOM_MM, y1 + ROOM_MM)))
    labels = lay_out(
        drawing, PT_PER_MM, lambda text: (text_width(text, DRAWING_TEXT_PT) + 4.0, DRAWING_TEXT_PT + 3.0), frame
    )
    wide, high = x1 - x0 + 2 * ROOM_MM, y1 - y0 + 2 * ROOM_MM
    out = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.3f}mm" height="{high:.3f}mm" '
        f'viewBox="{x0 - ROOM_MM:.3f} {-y1 - ROOM_MM:.3f} {wide:.3f} {high:.3f}">',
        f"<title>{escape(printable(title))}</title>",
    ]
    for shape in drawing.shapes:
        fill = FILLS.get(shape.ink, "none") if shape.filled else "none"
        dash = ' stroke-dasharray="1.6 1"' if shape.line != "solid" else ""
        out.append(
            f'<path d="{svg_path(shape)}" fill="{fill}" fill-rule="evenodd" stroke="#404a46" stroke-width="0.3"{dash}/>'
        )
    for label in labels:
        for (ax, ay), (bx, by) in label.lines:
            a, b = (ax / PT_PER_MM, -ay / PT_PER_MM), (bx / PT_PER_MM, -by / PT_PER_MM)
            out.append(f'<path d="M{a[0]:.3f} {a[1]:.3f}L{b[0]:.3f} {b[1]:.3f}" stroke="#606060" stroke-width="0.15"/>')
    for label in labels:
        box, size = label.box, DRAWING_TEXT_PT / PT_PER_MM
        place = (box.x0 / PT_PER_MM, -box.y1 / PT_PER_MM, (box.x1 - box.x0) / PT_PER_MM, (box.y1 - box.y0) / PT_PER_MM)
        out.append(
            f'<rect x="{place[0]:.3f}" y="{place[1]:.3f}" width="{place[2]:.3f}" height="{place[3]:.3f}" fill="#ffffff"/>'
        )
        letters = text_path(label.text, size, (place[0] + 0.7, -(box.y0 + 3.0) / PT_PER_MM))
        out.append(f'<path aria-label="{escape(printable(label.text))}" d="{letters}"/>')
    return "\n".join([*out, "</svg>"]).encode("utf-8") + b"\n"

"""Any drawing as SVG at true size, to be put into a letter or a book: shapes filled by their material, letters as outlines."""

from html import escape

from bicentra.core.base.wording import printable
from bicentra.core.drawing.boxes import Box
from bicentra.core.drawing.layout import lay_out
from bicentra.core.drawing.model import Drawing
from bicentra.core.drawing.plate_sheet import PT_PER_MM
from bicentra.formats.svg import path_of
from bicentra.formats.typeface import text_path, text_width

ROOM_MM, TEXT_PT = 46.0, 9.0
FILLS = {
    "rotor": "#d9dee0", "hat": "#e7eaea", "hub": "#d2d6d2", "knuckle": "#cfc6b6", "obstacle": "#dbcfbb", "caliper": "#f0d9b0",
    "pad": "#a9a29a", "made": "#8cc9c2", "shim": "#e0a100", "bolt": "#b9bec4", "wheel": "#e2e4e6", "hole": "#ffffff",
}  # fmt: skip
"""Fill of each ink; what is not named is drawn as a line."""


def drawing_svg(drawing: Drawing, title: str) -> bytes:
    """Return ``drawing`` with its dimensions as an SVG file whose user unit is one millimetre."""
    x0, y0, x1, y1 = drawing.bounds
    frame = Box(*(v * PT_PER_MM for v in (x0 - ROOM_MM, y0 - ROOM_MM, x1 + ROOM_MM, y1 + ROOM_MM)))
    labels = lay_out(drawing, PT_PER_MM, lambda text: (text_width(text, TEXT_PT) + 4.0, TEXT_PT + 3.0), frame)
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
            f'<path d="{path_of(shape)}" fill="{fill}" fill-rule="evenodd" stroke="#404a46" stroke-width="0.3"{dash}/>'
        )
    for label in labels:
        for (ax, ay), (bx, by) in label.lines:
            a, b = (ax / PT_PER_MM, -ay / PT_PER_MM), (bx / PT_PER_MM, -by / PT_PER_MM)
            out.append(f'<path d="M{a[0]:.3f} {a[1]:.3f}L{b[0]:.3f} {b[1]:.3f}" stroke="#606060" stroke-width="0.15"/>')
    for label in labels:
        box, size = label.box, TEXT_PT / PT_PER_MM
        place = (box.x0 / PT_PER_MM, -box.y1 / PT_PER_MM, (box.x1 - box.x0) / PT_PER_MM, (box.y1 - box.y0) / PT_PER_MM)
        out.append(
            f'<rect x="{place[0]:.3f}" y="{place[1]:.3f}" width="{place[2]:.3f}" height="{place[3]:.3f}" fill="#ffffff"/>'
        )
        letters = text_path(label.text, size, (place[0] + 0.7, -(box.y0 + 3.0) / PT_PER_MM))
        out.append(f'<path aria-label="{escape(printable(label.text))}" d="{letters}"/>')
    return "\n".join([*out, "</svg>"]).encode("utf-8") + b"\n"

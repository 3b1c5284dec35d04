"""The symbol of a fillet weld on a workshop drawing: arrow, reference line, a triangle on either side, throat and length.

Drawn after ISO 2553 (from memory): a triangle on each side of the line that has a weld, the throat ``a`` before it, how long
the weld is behind it.
"""

import math
from typing import Any

from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.model import Weld
from bicentra.core.drawing.plate_sheet import PT_PER_MM
from bicentra.formats.pdf_pen import arrow, fitted

SIDE_MM, LINE_MM, SHIFT_MM = 3.4, 32.0, 10.5
"""Side of the triangle, length of the reference line, where the triangle begins on it, on paper [mm]."""
Point = tuple[float, float]


def weld_symbol(canvas: Any, weld: Weld, joint: Point, start: Point, lengths: LengthFormat) -> None:
    """Draw the symbol of ``weld`` on a line that begins at ``start`` [mm on paper], its arrow on the ``joint``."""
    end = (start[0] + LINE_MM, start[1])
    canvas.setLineWidth(0.7)
    canvas.setDash([])
    for a, b in ((start, end), (end, joint)):
        canvas.line(*(value * PT_PER_MM for value in (*a, *b)))
    long = math.dist(end, joint) or 1.0
    arrow(
        canvas, (joint[0] * PT_PER_MM, joint[1] * PT_PER_MM), ((end[0] - joint[0]) / long, (end[1] - joint[1]) / long)
    )
    left = start[0] + SHIFT_MM
    for up in (1.0, -1.0):
        corners = ((left, start[1]), (left, start[1] + up * SIDE_MM), (left + SIDE_MM, start[1]))
        path = canvas.beginPath()
        for k, (x, y) in enumerate(corners):
            (path.lineTo if k else path.moveTo)(x * PT_PER_MM, y * PT_PER_MM)
        path.close()
        canvas.drawPath(path, stroke=1, fill=0)
        low = (start[1] + (0.9 if up > 0 else -3.2)) * PT_PER_MM
        fitted(canvas, "Paper", 7.0, start[0] * PT_PER_MM, low, f"a {lengths.bare(weld.throat)}", 10.0 * PT_PER_MM)
        fitted(canvas, "Paper", 7.0, (left + SIDE_MM + 1.0) * PT_PER_MM, low, lengths.bare(weld.long), 16.0 * PT_PER_MM)

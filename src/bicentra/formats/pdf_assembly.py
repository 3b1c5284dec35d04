"""The assembly as PDF: the corner pulled apart with balloons, and the parts list they number."""

import math
import re
from typing import Any

import numpy as np

from bicentra.core.drawing.sheets.imprint import BLANK, CLEAR, CutMark, Imprint
from bicentra.core.drawing.sheets.parts_list import Item
from bicentra.core.drawing.sheets.plate import CAUTION, PT_PER_MM
from bicentra.core.drawing.space.lines import visible_lines
from bicentra.core.drawing.space.raster import Eye
from bicentra.core.drawing.space.scene import Scene, SceneBody
from bicentra.formats.pdf_pen import fitted, new_canvas, stamp
from bicentra.formats.typeface import REGULAR, wrapped

SHEET, EDGE = (297.0, 210.0), 8.0
FIRST_ROWS, MORE_ROWS = 13, 36
"""Lines of the parts list below the picture, and on a sheet of their own."""
ROOM = (14.0, 92.0, 269.0, 92.0)
YAW, PITCH, PULL_MM = math.radians(58.0), math.radians(16.0), 95.0
WORDS = {
    "bracket": "bracket", "rotor": "rotor", "caliper": "caliper", "hub": "hub", "lug": "knuckle lugs", "ear-bolt": "caliper bolts",
    "lug-bolt": "lug bolts",
}  # fmt: skip
"""What is numbered, by the beginning of its tag."""


def assembly_pdf(
    scene: Scene, items: tuple[Item, ...], title: str, mark: CutMark = CLEAR, imprint: Imprint = BLANK
) -> bytes:
    """Return an A4 sheet, exploded view with balloons above and parts list below; what does not fit there goes on another."""
    with new_canvas(SHEET, title) as canvas:
        _frame(canvas, f"{title}: pulled apart along the axle", mark, imprint)
        marks = _exploded(canvas, scene) if scene.bodies else {}
        _list(canvas, items[:FIRST_ROWS], 78.0, marks)
        canvas.showPage()
        for start in range(FIRST_ROWS, len(items), MORE_ROWS):
            _frame(canvas, f"{title}: parts list, from line {start + 1}", mark, imprint)
            _list(canvas, items[start : start + MORE_ROWS], 182.0, marks)
            canvas.showPage()
        return bytes(canvas.getpdfdata())


def _frame(canvas: Any, head: str, mark: CutMark, imprint: Imprint) -> None:
    """Draw what every sheet has: frame, heading, what forbids cutting, date and names, caution."""
    canvas.setLineWidth(0.8)
    canvas.rect(
        EDGE * PT_PER_MM, EDGE * PT_PER_MM, (SHEET[0] - 2 * EDGE) * PT_PER_MM, (SHEET[1] - 2 * EDGE) * PT_PER_MM
    )
    fitted(canvas, "PaperBold", 13, 14.0 * PT_PER_MM, 194.0 * PT_PER_MM, head, 190.0 * PT_PER_MM)
    fitted(canvas, "Paper", 7.5, 208.0 * PT_PER_MM, 194.0 * PT_PER_MM, imprint.line, 75.0 * PT_PER_MM)
    stamp(canvas, mark.line, (14.0, 186.5), 269.0, 10.0)
    for row, text in enumerate(wrapped(CAUTION, 6.5, REGULAR, 265.0 * PT_PER_MM)[:2]):
        fitted(canvas, "Paper", 6.5, 14.0 * PT_PER_MM, (14.0 - 3.2 * row) * PT_PER_MM, text, 265.0 * PT_PER_MM)


def _turned(body: SceneBody, yaw: float) -> Any:
    """Return the body's corners (n, 3) as the eye sees them: right, up, near; pulled apart."""
    cy, sy, cp, sp = math.cos(yaw), math.sin(yaw), math.cos(PITCH), math.sin(PITCH)
    turn = np.array([[cy, 0.0, -sy], [-sy * sp, cp, -cy * sp], [sy * cp, sp, cy * cp]])
    return (body.corners + np.array([0.0, 0.0, body.apart * PULL_MM])) @ turn.T


def _exploded(canvas: Any, scene: Scene) -> dict[str, str]:
    """The visible edges of everything, as on the workshop drawing; a balloon at each kind of thing: returns its letter by kind."""
    yaw = YAW if scene.cut[0][0] > 0 else -YAW  # from the side the caliper is on
    seen = [(body, _turned(body, yaw)) for body in scene.bodies]
    every = np.concatenate([corners for _, corners in seen])
    low, high = every.min(axis=0), every.max(axis=0)
    scale = min(ROOM[2] / (high[0] - low[0]), ROOM[3] / (high[1] - low[1])) * 0.94
    middle = (low + high) / 2

    def place(point: Any) -> tuple[float, float]:
        x = ROOM[0] + ROOM[2] / 2 + (point[0] - middle[0]) * scale
        return x * PT_PER_MM, (ROOM[1] + ROOM[3] / 2 + (point[1] - middle[1]) * scale) * PT_PER_MM

    canvas.setLineWidth(0.45)
    canvas.setLineCap(1)
    canvas.setStrokeGray(0.0)
    path = canvas.beginPath()
    for start, end in visible_lines(scene, Eye(yaw, PITCH, 1.0, PULL_MM)):
        path.moveTo(*place(start))
        path.lineTo(*place(end))
    canvas.drawPath(path, stroke=1, fill=0)
    return _balloons(canvas, seen, place)


def _balloons(canvas: Any, seen: list[tuple[SceneBody, Any]], place: Any) -> dict[str, str]:
    canvas.setFillGray(0.0)
    canvas.setStrokeGray(0.0)
    canvas.setLineWidth(0.5)
    spots = []
    for kind in WORDS:
        found = [corners[body.triangles] for body, corners in seen if re.sub(r"-?\d+$", "", body.tag) == kind]
        if found:
            faces = np.concatenate(found).mean(axis=1)
            spots.append((place(faces[int(np.argmax(faces[:, 2]))]), kind))
    for count, ((x, y), kind) in enumerate(sorted(spots), 1):
        at = (ROOM[0] + 12.0 + (count - 1) * 38.0) * PT_PER_MM, (ROOM[1] - 5.0) * PT_PER_MM
        canvas.line(x, y, at[0], at[1] + 9.0)
        canvas.circle(x, y, 1.2, stroke=0, fill=1)
        canvas.setFillGray(1.0)
        canvas.circle(*at, 9.0, stroke=1, fill=1)
        canvas.setFillGray(0.0)
        fitted(canvas, "PaperBold", 9, at[0] - 2.9, at[1] - 3.1, chr(ord("A") + count - 1), 20.0)
        fitted(canvas, "Paper", 7.5, at[0] + 12.0, at[1] - 2.6, WORDS[kind], 26.0 * PT_PER_MM)
    return {kind: chr(ord("A") + count) for count, (_, kind) in enumerate(sorted(spots))}


def _list(canvas: Any, items: tuple[Item, ...], top: float, marks: dict[str, str]) -> None:
    """Write the lines of ``items`` below their heads, which stand ``top`` mm above the sheet's foot, with their balloons."""
    rows = [
        ("see", "kind", "count", "part", "size", "note"),
        *(
            (", ".join(marks[tag] for tag in i.tags if tag in marks), i.kind, f"{i.count} ×", i.name, i.size, i.note)
            for i in items
        ),
    ]
    for number, cells in enumerate(rows):
        x = 14.0
        for cell, wide in zip(cells, (10.0, 20.0, 12.0, 52.0, 70.0, 102.0)):
            font = "PaperBold" if number == 0 else "Paper"
            fitted(canvas, font, 7.5, x * PT_PER_MM, (top - 4.4 * number) * PT_PER_MM, cell, (wide - 2.0) * PT_PER_MM)
            x += wide

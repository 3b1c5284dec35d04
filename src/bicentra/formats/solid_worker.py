"""The process that holds the solid kernel: reads an order from standard input, writes one file, ends.

Apart from the program so that the kernel's half a gigabyte, its prints and its faults stay out of it, and so that cancelling
is ending a process.
"""

import pickle
import sys
from pathlib import Path
from typing import Any

from bicentra.core.base.records import Record
from bicentra.core.bracket.model import MadePart
from bicentra.core.geometry.outline import Point
from bicentra.formats.mesh_files import Mesh, welded

Turn = tuple[float, float, float, float]
"""Where a datum is, x and y [mm], and which way it points: cosine, sine."""


class Order(Record, frozen=True):
    """What is to be made: kind (step, stl, 3mf, views, trial), parts, whether they are a left corner's, where it is written.

    ``thickness``: by how much a trial piece is stretched along its thickness; words are raised from it. ``mark``: what keeps metal
    from being cut. ``turns``: for views, each part's datum as its sheet shows it; nothing where it is drawn as it sits.
    """

    kind: str
    parts: tuple[MadePart, ...]
    mirrored: bool
    path: str
    thickness: float = 1.0
    mark: str = ""
    turns: tuple[Turn | None, ...] = ()


def carry_out(order: Order) -> bytes:
    """Return the file that ``order`` asks for. Raises ``ExportError``."""
    from bicentra.formats.mesh_files import stl_bytes, threemf_bytes
    from bicentra.formats.solids import step_bytes, triangles

    if order.kind == "step":
        return step_bytes(order.parts, order.mirrored, order.mark)
    if order.kind == "views":
        turns = order.turns or (None,) * len(order.parts)
        return pickle.dumps([_views(part, order.mirrored, turn) for part, turn in zip(order.parts, turns)])
    meshes = triangles(order.parts, order.mirrored)
    if order.kind == "trial":
        return threemf_bytes(
            [_worded(part, mesh, order) for part, mesh in zip(order.parts, meshes)], order.thickness, order.mark
        )
    return stl_bytes(meshes, order.mark) if order.kind == "stl" else threemf_bytes(meshes, mark=order.mark)


def _worded(part: MadePart, mesh: Mesh, order: Order) -> Mesh:
    """Return a trial piece's mesh with its words on it; letters keep their height however thin the piece is made."""
    from bicentra.core.drawing.trial_words import word_bodies
    from bicentra.formats.typeface import BOLD, text_loops

    name, corners, faces = mesh
    words = word_bodies(part, lambda text, size: text_loops(text, size, BOLD), order.mirrored or part.mirrored)
    top = part.z0 + part.thickness
    for body in words:
        start = len(corners)
        own, shared = welded(body.corners.tolist(), body.triangles.tolist())
        corners = [*corners, *((x, y, top + (z - top) / order.thickness) for x, y, z in own)]
        faces = [*faces, *((a + start, b + start, c + start) for a, b, c in shared)]
    return name, corners, faces


def _views(part: MadePart, mirrored: bool, turn: Turn | None) -> dict[str, Any]:
    """Return the views of one part, its datum at the origin and along x.

    From outboard a bent plate is seen as its flat pattern, with its bend lines.
    """
    from bicentra.core.bracket.fold import bend_lines
    from bicentra.formats.hidden_lines import View, views_of
    from bicentra.formats.solids import solid_of, turned

    def placed(flat: bool) -> Any:
        solid = solid_of(part, mirrored, flat=flat)
        return solid if turn is None else turned(solid, turn)

    views = views_of(placed(flat=False))
    if part.bends:
        sign, front = -1.0 if mirrored or part.mirrored else 1.0, views_of(placed(flat=True))["front"]
        lines = tuple(tuple(_placed((sign * x, y), turn) for x, y in line) for line in bend_lines(part))
        views["front"] = View(front.visible, (*front.hidden, *lines))
    return views


def _placed(point: Point, turn: Turn | None) -> Point:
    if turn is None:
        return point
    x, y, cos, sin = turn
    dx, dy = point[0] - x, point[1] - y
    return dx * cos + dy * sin, dy * cos - dx * sin


def main() -> int:
    """Carry out the order on standard input; exit 0, or 3 with one line on standard error."""
    order = pickle.load(sys.stdin.buffer)
    try:
        Path(order.path).write_bytes(carry_out(order))
    except Exception as error:
        print(" ".join(str(error).split()), file=sys.stderr)
        return 3
    return 0


if __name__ == "__main__":
    sys.exit(main())

"""The process that holds the solid kernel: reads orders from standard input and writes a file for each.

Apart from the program so that the kernel's half a gigabyte, its prints and its faults stay out of it, and so that cancelling
is ending a process. Loading the kernel takes fifty times as long as a plate: it waits a while for the next order.
"""

import os
import pickle
import select
import sys
from pathlib import Path
from typing import Any, TextIO

from bicentra.core.base.records import Record
from bicentra.core.bracket.model import MadePart
from bicentra.core.geometry.outline import Point
from bicentra.formats.solids import Mesh, welded

Turn = tuple[float, float, float, float]
"""Where a datum is, x and y [mm], and which way it points: cosine, sine."""
IDLE_S, MOST_LISTED = 90.0, 2000
"""How long the kernel is kept loaded for the next order [s]; letters of a fault that are reported."""


class Order(Record, frozen=True):
    """What is to be made: kind (step, stl, 3mf, views, trial), parts, whether they are a left corner's, where it is
    written.

    ``thickness``: by how much a trial piece is stretched along its thickness; words are raised from it. ``mark``: what
    keeps metal from being cut. ``turns``: for views, each part's datum as its sheet shows it; nothing where it is drawn
    as it sits.
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
    from bicentra.formats.solids import step_bytes, stl_bytes, threemf_bytes, triangles

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
    from bicentra.core.drawing.sheets.trial_words import word_bodies
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


def serve(idle_s: float = IDLE_S) -> int:
    """Answer one order after another from standard input until that ends, or nobody asks for ``idle_s`` [s].

    Each is carried out in a copy of this process, so that it finds the kernel loaded and nothing of the order before it: the same
    order gives the same bytes. The answer is one line: an empty one when the file is written, else what was wrong.
    """
    answers = _own_output()
    broken = _kernel_fault()
    while select.select([sys.stdin.buffer], [], [], idle_s)[0]:
        try:
            order = pickle.load(sys.stdin.buffer)
        except EOFError:
            break
        answers.write((broken or _in_a_copy(order)) + "\n")
        answers.flush()
    return 0


def _own_output() -> TextIO:
    """Return standard output as it was; what the kernel prints goes nowhere from now on."""
    own = os.fdopen(os.dup(1), "w", encoding="utf-8")
    nowhere = os.open(os.devnull, os.O_WRONLY)
    os.dup2(nowhere, 1)
    os.close(nowhere)
    return own


def _kernel_fault() -> str:
    """Load the kernel and all that needs it; return what was wrong with it, empty when nothing was."""
    try:
        import OCP  # noqa: F401

        from bicentra.core.drawing.sheets import trial_words  # noqa: F401
        from bicentra.formats import hidden_lines, solids, typeface  # noqa: F401
    except ImportError as error:
        return f"the solid kernel cannot be loaded: {' '.join(str(error).split())}"
    return ""


def _in_a_copy(order: Order) -> str:
    """Return what was wrong with ``order``, in one line; empty when its file is written."""
    reads, writes = os.pipe()
    child = os.fork()
    if not child:
        os.close(reads)
        answer = _fault_of(order)
        os.write(writes, answer.encode(errors="replace")[:MOST_LISTED])
        os._exit(0)  # nothing of the process this is a copy of is flushed or closed twice
    os.close(writes)
    with os.fdopen(reads, encoding="utf-8", errors="replace") as pipe:
        answer = pipe.read()
    ended = os.waitstatus_to_exitcode(os.waitpid(child, 0)[1])
    return answer if ended == 0 else f"the solid worker ended with {ended}"


def _fault_of(order: Order) -> str:
    try:
        Path(order.path).write_bytes(carry_out(order))
    except BaseException as error:
        return " ".join(str(error).split()) or type(error).__name__
    return ""


if __name__ == "__main__":
    sys.exit(serve())

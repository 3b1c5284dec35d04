"""The process that holds the solid kernel: reads an order from standard input, writes one file, ends.

Apart from the program so that the kernel's half a gigabyte, its prints and its faults stay out of it, and so that cancelling
is ending a process.
"""

import pickle
import sys
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from bicentra.core.bracket.families.model import MadePart


@dataclass(frozen=True)
class Order:
    """What is to be made: kind (step, stl, 3mf, views), parts, whether they are a left corner's, where it is written."""

    kind: str
    parts: tuple[MadePart, ...]
    mirrored: bool
    path: str


def carry_out(order: Order) -> bytes:
    """Return the file that ``order`` asks for. Raises ``ExportError``."""
    from bicentra.formats.mesh_files import stl_bytes, threemf_bytes
    from bicentra.formats.solids import step_bytes, triangles

    if order.kind == "step":
        return step_bytes(order.parts, order.mirrored)
    if order.kind == "views":
        return pickle.dumps([_views(part, order.mirrored) for part in order.parts])
    meshes = triangles(order.parts, order.mirrored)
    return stl_bytes(meshes) if order.kind == "stl" else threemf_bytes(meshes)


def _views(part: MadePart, mirrored: bool) -> dict[str, Any]:
    """Return the views of one part; from outboard a bent plate is seen as its flat pattern, with its bend lines."""
    from bicentra.core.bracket.families.fold import bend_lines
    from bicentra.formats.hidden_lines import View, views_of
    from bicentra.formats.solids import solid_of

    views = views_of(solid_of(part, mirrored))
    if part.bends:
        sign, front = -1.0 if mirrored else 1.0, views_of(solid_of(part, mirrored, flat=True))["front"]
        lines = tuple(tuple((sign * x, y) for x, y in line) for line in bend_lines(part))
        views["front"] = View(front.visible, (*front.hidden, *lines))
    return views


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

"""The parts list as CSV."""

import csv
import io

from bicentra.core.drawing.imprint import cut_mark
from bicentra.core.drawing.parts_list import parts_list
from bicentra.core.solution import Solution
from bicentra.formats.cells import safe_cell

HEADING = ("kind", "count", "part", "size", "mass_kg", "note", "state")


def parts_list_csv(solution: Solution) -> bytes:
    """Return the parts list of the job's bracket family and everything beside it.

    ``state`` says in every row what keeps metal from being cut; it is empty where nothing does."""
    stream, state = io.StringIO(), safe_cell(cut_mark(solution).line)
    writer = csv.writer(stream, lineterminator="\r\n")
    writer.writerow(HEADING)
    for item in parts_list(solution):
        mass = "" if item.mass_kg is None else f"{item.mass_kg:g}"
        words = [safe_cell(text) for text in (item.name, item.size, item.note)]
        writer.writerow((item.kind, item.count, *words[:2], mass, words[2], state))
    return stream.getvalue().encode()

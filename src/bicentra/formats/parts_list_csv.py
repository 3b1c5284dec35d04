"""The parts list as CSV."""

import csv
import io

from bicentra.core.drawing.parts_list import parts_list
from bicentra.core.solution import Solution
from bicentra.formats.cells import safe_cell

HEADING = ("kind", "count", "part", "size", "mass_kg", "note")


def parts_list_csv(solution: Solution) -> bytes:
    """Return the parts list of the job's bracket family and everything beside it."""
    stream = io.StringIO()
    writer = csv.writer(stream, lineterminator="\r\n")
    writer.writerow(HEADING)
    for item in parts_list(solution):
        mass = "" if item.mass_kg is None else f"{item.mass_kg:g}"
        writer.writerow((item.kind, item.count, safe_cell(item.name), safe_cell(item.size), mass, safe_cell(item.note)))
    return stream.getvalue().encode()

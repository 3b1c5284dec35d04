"""The hole table as CSV: comma separated, points in numbers, units in the heading."""

import csv
import io

from bicentra.core.drawing.imprint import cut_mark
from bicentra.core.drawing.plate_sheet import hole_table
from bicentra.core.solution import Solution
from bicentra.formats.cells import safe_cell

HEADING = ("number", "name", "forward_mm", "up_mm", "drill_mm", "work", "state")


def plate_csv(solution: Solution) -> bytes:
    """Return the hole table; places are measured from the wheel axis, forward and up.

    ``state`` says in every row what keeps metal from being cut; it is empty where nothing does. Raises ``ExportError``."""
    stream, state = io.StringIO(), safe_cell(cut_mark(solution).line)
    writer = csv.writer(stream, lineterminator="\r\n")
    writer.writerow(HEADING)
    for row in hole_table(solution):
        writer.writerow(
            (
                row.number,
                safe_cell(row.name),
                f"{row.x + 0.0:.3f}",
                f"{row.y + 0.0:.3f}",
                f"{row.drill:.2f}",
                safe_cell(row.note),
                state,
            )
        )
    return stream.getvalue().encode("utf-8")

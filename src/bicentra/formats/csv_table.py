"""The hole table as CSV: comma separated, points in numbers, units in the heading."""

import csv
import io

from bicentra.core.drawing.plate_sheet import hole_table
from bicentra.core.solution import Solution
from bicentra.formats.cells import safe_cell

HEADING = ("number", "name", "forward_mm", "up_mm", "drill_mm", "work")


def plate_csv(solution: Solution) -> bytes:
    """Return the hole table; places are measured from the wheel axis, forward and up. Raises ``ExportError``."""
    stream = io.StringIO()
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
            )
        )
    return stream.getvalue().encode("utf-8")

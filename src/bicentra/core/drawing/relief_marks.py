"""What has to go of a casting, drawn into a view along the axle: its edge, hatched, and how deep."""

import math

import shapely

from bicentra.core.base.wording import LengthFormat
from bicentra.core.clearance.relief_plan import Relief
from bicentra.core.drawing.model import Note, Sheet

HATCH_MM, LEAST_MM = 3.0, 0.5


def relief_marks(sheet: Sheet, plan: Relief, lengths: LengthFormat, note: Note | None = None) -> None:
    """Draw the area of ``plan`` [mm] into ``sheet``, seen from outboard, with ``note`` or how deep it is cut."""
    for part in shapely.get_parts(plan.region):
        for ring in (part.exterior, *part.interiors) if part.geom_type == "Polygon" else ():
            sheet.polygon([(x, y) for x, y in ring.coords[:-1]], "outline", "relief", filled=False)
    if not plan.through:
        hatched(sheet, plan.region)
    spot = plan.region.representative_point()
    what = "cut through" if plan.through else f"{lengths.gap(plan.depth)} off here"
    sheet.note(note or Note((spot.x, spot.y), what, "relief", 0, prefer=(-1.0, 0.4)))


def hatched(sheet: Sheet, region: shapely.Geometry) -> None:
    """Draw lines at 45 degrees over ``region``, ``HATCH_MM`` apart [mm]."""
    x0, y0, x1, y1 = region.bounds
    step, high = HATCH_MM * math.sqrt(2.0), y1 - y0
    count = min(int((x1 - x0 + high) / step) + 1, 400)
    lines = [shapely.LineString([(x0 - high + k * step, y0), (x0 + k * step, y1)]) for k in range(1, count)]
    drawn_lines(sheet, shapely.intersection(region, shapely.MultiLineString(lines)), "construction", "relief")


def drawn_lines(sheet: Sheet, lines: shapely.Geometry, ink: str, tag: str) -> None:
    """Draw every piece of ``lines`` that is longer than ``LEAST_MM`` [mm]."""
    for piece in shapely.get_parts(lines):
        if piece.geom_type == "LineString" and piece.length > LEAST_MM:
            sheet.line([(x, y) for x, y in piece.coords], ink, tag)

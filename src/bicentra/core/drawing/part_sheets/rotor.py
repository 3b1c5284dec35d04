"""The rotor by itself: seen along the axle, and cut through it, outboard to the right."""

import math

from bicentra.core.drawing.model import Sheet
from bicentra.core.drawing.part_sheets.draft import DOWN, LEFT, RIGHT, UP, Draft, around
from bicentra.core.drawing.shapes import centre_mark

APART_MM = 46.0


def draw_rotor(sheet: Sheet, draft: Draft) -> None:
    """Add both views of the rotor."""
    whole = draft.size("diameter_mm")
    _front(draft, sheet, (-(whole / 2 + APART_MM), 0.0), whole)
    _section(draft, whole)


def _front(draft: Draft, sheet: Sheet, centre: tuple[float, float], whole: float) -> None:
    cx, _ = centre
    swept, bore, hole = (draft.size(key) for key in ("swept_inner_diameter_mm", "centre_bore_mm", "hole_mm"))
    pitch, count = draft.size("bolt_circle_mm"), max(int(draft.size("hole_count")), 1)
    draft.ring(centre, swept, whole, "rotor", "diameter_mm", "swept_inner_diameter_mm")
    draft.ring(centre, bore, swept, "hat", "swept_inner_diameter_mm", "centre_bore_mm")
    sheet.circle(centre, pitch / 2, "centre", "circle", filled=False, line="centre")
    holes = around(centre, pitch, count)
    for at in holes:
        draft.circle(at, hole, "hole", "bolt_circle_mm", "hole_count", "hole_mm")
    centre_mark(sheet, centre, whole / 2 + 6.0)
    low = whole / 2
    draft.across("diameter_mm", "Ø", (cx - low, 0.0), (cx + low, 0.0), RIGHT, DOWN, low, 1, 0)
    draft.across(
        "swept_inner_diameter_mm", "swept from Ø", (cx - swept / 2, 0.0), (cx + swept / 2, 0.0), RIGHT, DOWN, low, 0
    )
    draft.note("bolt_circle_mm", "bolt circle", _on(centre, pitch, 0.7), (1.0, 0.8), 0)
    draft.note("hole_mm", "hole Ø", holes[0], (0.4, 1.0))
    draft.note("hole_count", "holes", holes[-1], (-1.0, 0.5))
    draft.note("centre_bore_mm", "bore Ø", _on(centre, bore, 3.9), (-0.8, -0.8))
    if draft.has("ring_bolt_circle_mm") or getattr(draft.record, "kind", "") != "one-piece":
        ring = draft.size("ring_bolt_circle_mm")
        for at in around(centre, ring, max(int(draft.size("ring_bolt_count")), 1), 1.2):
            draft.circle(at, draft.size("ring_bolt_hole_mm"), "hole", "ring_bolt_circle_mm", "ring_bolt_count")
        draft.note("ring_bolt_circle_mm", "ring's bolt circle", _on(centre, ring, 2.4), (-1.0, 1.0))
        draft.note("ring_bolt_count", "ring's bolts", _on(centre, ring, 5.4), (1.0, -1.0))


def _on(centre: tuple[float, float], diameter: float, turn: float) -> tuple[float, float]:
    return centre[0] + diameter / 2 * math.cos(turn), centre[1] + diameter / 2 * math.sin(turn)


def _section(draft: Draft, whole: float) -> None:
    thick, high, flange = (draft.size(key) for key in ("thickness_mm", "overall_height_mm", "hat_thickness_mm"))
    swept, bore, inside = (
        draft.size(key) for key in ("swept_inner_diameter_mm", "centre_bore_mm", "hat_inner_diameter_mm")
    )
    outside = draft.size("hat_outer_diameter_mm") if draft.has("hat_outer_diameter_mm") else inside + 14.0
    x0, x1 = APART_MM, APART_MM + high  # inboard face of the ring, outer face of the hat
    for sign in (1.0, -1.0):
        draft.box(
            x0,
            sign * swept / 2,
            x0 + thick,
            sign * whole / 2,
            "rotor",
            "thickness_mm",
            "diameter_mm",
            "swept_inner_diameter_mm",
        )
        draft.box(
            x0 + thick - flange,
            sign * inside / 2,
            x0 + thick,
            sign * swept / 2,
            "hat",
            "thickness_mm",
            "swept_inner_diameter_mm",
        )
        draft.box(
            x0 + thick, sign * inside / 2, x1, sign * outside / 2, "hat", "overall_height_mm", "hat_inner_diameter_mm"
        )
        draft.box(
            x1 - flange,
            sign * bore / 2,
            x1,
            sign * inside / 2,
            "hat",
            "hat_thickness_mm",
            "centre_bore_mm",
            "overall_height_mm",
        )
    draft.axis((x0 - 14.0, 0.0), (x1 + 14.0, 0.0))
    top, low = whole / 2, -whole / 2
    draft.across("thickness_mm", "thick", (x0, top), (x0 + thick, top), RIGHT, UP, top, 0, 0)
    draft.across("overall_height_mm", "height", (x0, low), (x1, -outside / 2), RIGHT, DOWN, top, 0, 0)
    draft.across(
        "hat_thickness_mm", "hat thick", (x1 - flange, outside / 2), (x1, outside / 2), RIGHT, UP, outside / 2, 0, 0
    )
    draft.across("hat_inner_diameter_mm", "hat inside Ø", (x1, -inside / 2), (x1, inside / 2), UP, RIGHT, x1, 1)
    draft.across("hat_outer_diameter_mm", "hat outside Ø", (x1, -outside / 2), (x1, outside / 2), UP, RIGHT, x1, 4, 2)
    draft.note("min_thickness_mm", "discard at", (x0 + thick / 2, low + 12.0), LEFT, 2)

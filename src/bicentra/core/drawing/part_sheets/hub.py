"""The hub and the lugs by themselves, each drawn with its dimensions."""

import math

from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Note, Sheet
from bicentra.core.drawing.part_sheets.draft import DOWN, LEFT, RIGHT, UP, Draft, around
from bicentra.core.drawing.shapes import centre_mark
from bicentra.core.inputs.placeholder_sizes import LUG_HOLE_MM, LUG_MM, LUGS_APART_MM
from bicentra.core.parts.job import Lug

VIEWS_APART_MM = 128.0


def draw_lugs(sheet: Sheet, lugs: tuple[Lug, ...], lengths: LengthFormat) -> None:
    """Add both views of all lugs."""
    drafts = []
    for k, lug in enumerate(lugs):
        high = LUGS_APART_MM * ((len(lugs) - 1) / 2 - k)
        drafts.append(
            Draft(sheet, f"knuckle.lugs[{k}]", lug, {**LUG_MM, "y_mm": high, "hole_mm": LUG_HOLE_MM}, lengths)
        )
    centre_mark(sheet, (0.0, 0.0), 16.0, "axle")
    sheet.note(Note((0.0, 0.0), "axle's centre", "axle", 1, prefer=(1.0, -1.0)))
    reach = max([40.0, *(abs(d.size("x_mm")) + d.size("boss_mm") for d in drafts)])
    tall = max([40.0, *(abs(d.size("y_mm")) + d.size("boss_mm") / 2 for d in drafts)])
    for k, draft in enumerate(drafts):
        _front(draft, k, reach, tall)
        _side(draft, k, reach + VIEWS_APART_MM, tall)
    if drafts:
        x = reach + VIEWS_APART_MM
        sheet.line(((x, -tall - 10.0), (x, tall + 10.0)), "construction", "face", "hidden")
        sheet.note(Note((x, tall + 10.0), "hub face", "face", 2, prefer=(1.0, 1.0)))


def _front(draft: Draft, k: int, reach: float, tall: float) -> None:
    x, y, boss, hole = (draft.size(key) for key in ("x_mm", "y_mm", "boss_mm", "hole_mm"))
    draft.circle((x, y), boss, "knuckle", "x_mm", "y_mm", "boss_mm")
    draft.circle((x, y), hole, "hole", "x_mm", "y_mm", "hole_mm")
    side, base = (UP, tall) if y >= 0 else (DOWN, tall)
    draft.across("x_mm", "forward", (0.0, 0.0), (x, y), RIGHT, side, base, k % 2, 0)
    draft.across("y_mm", "up", (0.0, 0.0), (x, y), UP, LEFT, reach, 2 * k, 0)
    draft.note("hole_mm", "hole Ø", (x, y), (1.0, 0.6 if y >= 0 else -0.6))
    draft.note("boss_mm", "boss Ø", (x + boss * 0.35, y - boss * 0.35), (1.0, -0.2), 2)


def _side(draft: Draft, k: int, face: float, tall: float) -> None:
    """Seen level along the vehicle: the hub's face lies at ``face`` [mm]."""
    y, z, thick, boss = (draft.size(key) for key in ("y_mm", "z_mm", "thickness_mm", "boss_mm"))
    way = -1.0 if getattr(draft.record, "seat", "outboard") == "outboard" else 1.0
    draft.box(
        face + z,
        y - boss / 2,
        face + z + way * thick,
        y + boss / 2,
        "knuckle",
        "z_mm",
        "y_mm",
        "thickness_mm",
        "boss_mm",
    )
    side = UP if y >= 0 else DOWN
    draft.across("z_mm", "seat face", (face + z, y), (face, y), RIGHT, side, tall, k % 2, 0)
    draft.note("thickness_mm", "thick", (face + z + way * thick, y), (-1.0, 0.3 if y >= 0 else -0.3))


HUB_VIEWS_MM, STUD_MM = 40.0, 12.0


def draw_hub(sheet: Sheet, draft: Draft) -> None:
    """Add both views of the hub."""
    flange = draft.size("flange_diameter_mm")
    _hub_front(draft, sheet, (-(flange / 2 + HUB_VIEWS_MM), 0.0), flange)
    _section(draft, HUB_VIEWS_MM + 30.0, flange)


def _hub_front(draft: Draft, sheet: Sheet, centre: tuple[float, float], flange: float) -> None:
    pilot, pitch = draft.size("pilot_diameter_mm"), draft.size("bolt_circle_mm")
    count, cx = max(int(draft.size("stud_count")), 1), centre[0]
    draft.circle(centre, flange, "hub", "flange_diameter_mm")
    draft.circle(centre, pilot, "hub", "pilot_diameter_mm")
    sheet.circle(centre, pitch / 2, "centre", "circle", filled=False, line="centre")
    studs = around(centre, pitch, count)
    for at in studs:
        draft.circle(at, STUD_MM, "bolt", "bolt_circle_mm", "stud_count")
    centre_mark(sheet, centre, flange / 2 + 6.0)
    low = flange / 2
    draft.across("flange_diameter_mm", "flange Ø", (cx - low, 0.0), (cx + low, 0.0), RIGHT, DOWN, low, 1)
    draft.across("pilot_diameter_mm", "pilot Ø", (cx - pilot / 2, 0.0), (cx + pilot / 2, 0.0), RIGHT, DOWN, low, 0, 0)
    on = (cx + pitch / 2 * math.cos(0.7), pitch / 2 * math.sin(0.7))
    draft.note("bolt_circle_mm", "bolt circle", on, (1.0, 0.9), 0)
    draft.note("stud_count", "studs", studs[0], (-0.6, 1.0), 0)


def _section(draft: Draft, x: float, flange: float) -> None:
    """Cut through the axle: the hub's face lies at ``x``."""
    thick, pilot, long = (draft.size(key) for key in ("flange_thickness_mm", "pilot_diameter_mm", "pilot_length_mm"))
    stud, barrel, pitch = (draft.size(key) for key in ("stud_length_mm", "barrel_diameter_mm", "bolt_circle_mm"))
    back = draft.size("stud_back_mm")
    draft.box(x - thick, -flange / 2, x, flange / 2, "hub", "flange_thickness_mm", "flange_diameter_mm")
    draft.box(x, -pilot / 2, x + long, pilot / 2, "hub", "pilot_diameter_mm", "pilot_length_mm")
    draft.box(x - thick - 30.0, -barrel / 2, x - thick, barrel / 2, "hub", "barrel_diameter_mm", "flange_thickness_mm")
    for sign in (1.0, -1.0):
        r = sign * pitch / 2
        draft.box(x, r - STUD_MM / 2, x + stud, r + STUD_MM / 2, "bolt", "stud_length_mm", "bolt_circle_mm")
        draft.box(
            x - thick - back,
            r - STUD_MM * 0.8,
            x - thick,
            r + STUD_MM * 0.8,
            "bolt",
            "stud_back_mm",
            "flange_thickness_mm",
        )
    draft.axis((x - thick - 44.0, 0.0), (x + stud + 14.0, 0.0))
    top = flange / 2
    draft.across("flange_thickness_mm", "flange thick", (x - thick, -top), (x, -top), RIGHT, DOWN, top, 0)
    draft.across("stud_length_mm", "stud out", (x, pitch / 2), (x + stud, pitch / 2), RIGHT, UP, top, 0, 0)
    draft.across("pilot_length_mm", "pilot out", (x, -pilot / 2), (x + long, -pilot / 2), RIGHT, DOWN, top, 1)
    draft.across("barrel_diameter_mm", "barrel Ø", (x - thick - 30.0, -barrel / 2), (x - thick - 30.0, barrel / 2), UP, LEFT,
                 30.0 + thick - x, 0)  # fmt: skip
    draft.note("stud_back_mm", "stud's head", (x - thick - back, pitch / 2), (-1.0, 1.0), 2)
    draft.sheet.note(Note((x, -pitch / 2), "hub face: z counts from here", "face", 3, prefer=(1.0, -1.0)))


def draw_wheel_cut(draft: Draft) -> None:
    """Add the wheel cut through the axle, the face that seats on the hub at x = 0: rim, disc, offset."""
    x = 0.0
    rim, wide, offset, thick = (
        draft.size(key) for key in ("rim_diameter_mm", "rim_width_mm", "offset_mm", "centre_thickness_mm")
    )
    bore, middle = draft.size("centre_bore_mm"), x - offset
    for sign in (1.0, -1.0):
        draft.box(
            middle - wide / 2,
            sign * rim / 2,
            middle + wide / 2,
            sign * (rim / 2 - 7.0),
            "wheel",
            "rim_diameter_mm",
            "rim_width_mm",
            "offset_mm",
        )
        draft.box(
            x,
            sign * bore / 2,
            x + thick,
            sign * (rim / 2 - 7.0),
            "wheel",
            "centre_thickness_mm",
            "centre_bore_mm",
            "rim_diameter_mm",
        )
    draft.axis((middle, -rim / 2 - 10.0), (middle, rim / 2 + 10.0))
    draft.axis((middle - wide / 2 - 10.0, 0.0), (middle + wide / 2 + 10.0, 0.0))
    top, right = rim / 2, middle + wide / 2
    draft.across("rim_width_mm", "rim wide", (middle - wide / 2, top), (right, top), RIGHT, UP, top, 0)
    draft.across("rim_diameter_mm", "rim Ø", (right, -top), (right, top), UP, RIGHT, right, 1, 0)
    draft.across("offset_mm", "offset", (middle, -top), (x, -top), RIGHT, DOWN, top, 0, 0)
    draft.across("centre_thickness_mm", "disc thick", (x, -top * 0.55), (x + thick, -top * 0.55), RIGHT, DOWN, top, 1)
    draft.note("centre_bore_mm", "bore Ø", (x, bore / 2), (-1.0, 0.6))

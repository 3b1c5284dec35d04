"""The lugs by themselves: seen along the axle from outboard, and level from behind with outboard to the right."""

from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Note, Sheet
from bicentra.core.drawing.part_sheets.draft import DOWN, LEFT, RIGHT, UP, Draft
from bicentra.core.drawing.shapes import centre_mark
from bicentra.core.parts.job import Lug
from bicentra.core.placeholder_sizes import LUG_MM, LUGS_APART_MM

APART_MM, HOLE_MM = 120.0, 12.5


def draw_lugs(sheet: Sheet, lugs: tuple[Lug, ...], lengths: LengthFormat) -> None:
    """Add both views of all lugs."""
    drafts = []
    for k, lug in enumerate(lugs):
        high = LUGS_APART_MM * ((len(lugs) - 1) / 2 - k)
        drafts.append(Draft(sheet, f"knuckle.lugs[{k}]", lug, {**LUG_MM, "y_mm": high, "hole_mm": HOLE_MM}, lengths))
    centre_mark(sheet, (0.0, 0.0), 16.0, "axle")
    sheet.note(Note((0.0, 0.0), "axle's centre", "axle", 1, prefer=(1.0, -1.0)))
    reach = max([40.0, *(abs(d.size("x_mm")) + d.size("boss_mm") for d in drafts)])
    tall = max([40.0, *(abs(d.size("y_mm")) + d.size("boss_mm") / 2 for d in drafts)])
    for k, draft in enumerate(drafts):
        _front(draft, k, reach, tall)
        _side(draft, k, reach + APART_MM, tall)
    if drafts:
        x = reach + APART_MM
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

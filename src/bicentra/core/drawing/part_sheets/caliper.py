"""The caliper by itself: seen along the axle with its pad; below that cut through its middle, outboard to the right."""

from bicentra.core.drawing.model import Sheet, shifted
from bicentra.core.drawing.part_sheets.draft import DOWN, LEFT, RIGHT, UP, Draft

APART_MM = 56.0
"""Between both views [mm]: room for the sizes below the one and above the other."""


def draw_caliper(sheet: Sheet, draft: Draft) -> None:
    """Add the view along the axle and, below it, the cut; heights count outward from the pad's outer edge."""
    wide, span = draft.size("body_width_mm"), draft.size("ear_spacing_mm")
    boss, line = draft.size("ear_boss_mm"), draft.size("ear_line_to_pad_top_mm")
    half = max(wide, span + boss) / 2
    _front(draft, 0.0, half)
    sheet.line(((-half - 14.0, 0.0), (half + 14.0, 0.0)), "construction", "pad-top", "hidden")
    cut = draft.on(Sheet())
    _section(cut, (draft.size("body_inboard_mm") - draft.size("body_outboard_mm")) / 2)
    reach = max(draft.size("body_inboard_mm"), draft.size("body_outboard_mm")) + 14.0
    cut.sheet.line(((-reach, 0.0), (reach, 0.0)), "construction", "pad-top", "hidden")
    low = max(draft.size("pad_height_mm") + 6.0, line + boss / 2)
    sheet.take(shifted(cut.sheet, (0.0, -low - APART_MM - draft.size("body_outer_mm"))))


def _front(draft: Draft, x: float, half: float) -> None:
    wide, outer, high, pad = (
        draft.size(key) for key in ("body_width_mm", "body_outer_mm", "pad_height_mm", "pad_width_mm")
    )
    span, line, boss, hole = (
        draft.size(key) for key in ("ear_spacing_mm", "ear_line_to_pad_top_mm", "ear_boss_mm", "ear_hole_mm")
    )
    low = -high - 6.0
    draft.box(x - wide / 2, low, x + wide / 2, outer, "caliper", "body_width_mm", "body_outer_mm", "pad_height_mm")
    draft.box(x - pad / 2, -high, x + pad / 2, 0.0, "pad", "pad_width_mm", "pad_height_mm")
    for sign in (-1.0, 1.0):
        at = (x + sign * span / 2, -line)
        draft.circle(at, boss, "caliper", "ear_spacing_mm", "ear_line_to_pad_top_mm", "ear_boss_mm")
        draft.circle(at, hole, "hole", "ear_spacing_mm", "ear_line_to_pad_top_mm", "ear_hole_mm")
    foot = max(-low, line + boss / 2)
    draft.across("ear_spacing_mm", "ears apart", (x - span / 2, -line), (x + span / 2, -line), RIGHT, DOWN, foot, 1, 0)
    draft.across("pad_width_mm", "pad wide", (x - pad / 2, -high), (x + pad / 2, -high), RIGHT, DOWN, foot, 0)
    draft.across("body_width_mm", "body wide", (x - wide / 2, outer), (x + wide / 2, outer), RIGHT, UP, outer)
    draft.across(
        "ear_line_to_pad_top_mm",
        "ears below pad top",
        (x + span / 2, 0.0),
        (x + span / 2, -line),
        UP,
        RIGHT,
        x + half,
        0,
        0,
    )
    draft.across("pad_height_mm", "pad high", (x - pad / 2, -high), (x - pad / 2, 0.0), UP, LEFT, half - x, 0)
    draft.note("ear_hole_mm", "ear hole Ø", (x - span / 2, -line), (-1.0, 0.9))
    draft.note("ear_boss_mm", "ear boss Ø", (x - span / 2 - boss * 0.35, -line - boss * 0.35), (-1.0, -0.7))


def _section(draft: Draft, x: float) -> None:
    """Cut through the middle: ``x`` is the middle of the slot."""
    slot, bridge, outer = (draft.size(key) for key in ("slot_width_mm", "bridge_to_pad_top_mm", "body_outer_mm"))
    inboard, outboard, high = (draft.size(key) for key in ("body_inboard_mm", "body_outboard_mm", "pad_height_mm"))
    pad = draft.size("pad_thickness_mm")
    low = -high - 6.0
    body = ("slot_width_mm", "body_outer_mm", "bridge_to_pad_top_mm")
    draft.box(x - inboard, low, x - slot / 2 - pad, outer, "caliper", *body, "body_inboard_mm")
    draft.box(x + slot / 2 + pad, low, x + outboard, outer, "caliper", *body, "body_outboard_mm")
    draft.box(x - slot / 2 - pad, bridge, x + slot / 2 + pad, outer, "caliper", *body)
    for sign in (-1.0, 1.0):
        draft.box(x + sign * slot / 2, -high, x + sign * (slot / 2 + pad), 0.0, "pad", "slot_width_mm", "pad_height_mm")
    _ear(draft, x, low)
    foot = -low
    draft.across("slot_width_mm", "slot", (x - slot / 2, low), (x + slot / 2, low), RIGHT, DOWN, foot, 0, 0)
    draft.across("body_inboard_mm", "body inboard", (x - inboard, outer), (x, outer), RIGHT, UP, outer, 0)
    draft.across("body_outboard_mm", "body outboard", (x, outer), (x + outboard, outer), RIGHT, UP, outer, 1)
    draft.across(
        "bridge_to_pad_top_mm",
        "bridge above pad top",
        (x + outboard, 0.0),
        (x + outboard, bridge),
        UP,
        RIGHT,
        x + outboard,
        0,
        0,
    )
    draft.across(
        "body_outer_mm", "body above pad top", (x + outboard, 0.0), (x + outboard, outer), UP, RIGHT, x + outboard, 4
    )
    draft.note("pad_thickness_mm", "pad thick", (x + slot / 2 + pad / 2, -high * 0.7), (1.0, -0.5))
    draft.axis((x, low - 12.0), (x, outer + 12.0))


def _ear(draft: Draft, x: float, low: float) -> None:
    face, thick, line, boss = (
        draft.size(key) for key in ("ear_face_offset_mm", "ear_thickness_mm", "ear_line_to_pad_top_mm", "ear_boss_mm")
    )
    way = 1.0 if getattr(draft.record, "ear_seat", "inboard") == "inboard" else -1.0
    keys = ("ear_face_offset_mm", "ear_thickness_mm", "ear_line_to_pad_top_mm")
    draft.box(x + face, -line - boss / 2, x + face + way * thick, -line + boss / 2, "caliper", *keys)
    draft.across("ear_face_offset_mm", "ear face", (x + face, -line), (x, -line), RIGHT, DOWN, -low, 1, 0)
    draft.across(
        "ear_thickness_mm", "ear thick", (x + face, -line), (x + face + way * thick, -line), RIGHT, DOWN, -low, 2
    )

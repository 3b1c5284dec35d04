"""How each size is measured, with what, and what it is needed for: one sentence or two for the field in hand."""

import re

from bicentra.core.base.registry import kind_of
from bicentra.core.inputs.missing import needed_for
from bicentra.core.inputs.required_inputs import wanted
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.fields import field_of, meaning
from bicentra.core.parts.job import Job

HOW = {
    "rotor.thickness_mm": "Micrometer on the swept face, at its thinnest place.",
    "rotor.overall_height_mm": "Laid on the ring's inboard face: height gauge or depth rod up to the hat's outer face.",
    "rotor.hat_thickness_mm": "Caliper jaws over the hat's flange beside a hole.",
    "rotor.swept_inner_diameter_mm": "Across the inner edge of the flat face that the pads run on.",
    "rotor.centre_bore_mm": "Inside jaws, two ways across; the smaller counts.",
    "rotor.hat_inner_diameter_mm": "Inside jaws at the narrowest place of the hat.",
    "rotor.hat_outer_diameter_mm": "Outside jaws over the hat's drum.",
    "rotor.bolt_circle_mm": "Four: across opposite holes, edge to same edge. Five: from a hole to the next but one, times 1.051.",
    "rotor.hole_mm": "Inside jaws.",
    "rotor.hole_count": "Count them.",
    "rotor.min_thickness_mm": "It is cast or stamped on the hat: MIN TH.",
    "caliper.ear_hole_mm": "Inside jaws, or the drill that just goes in.",
    "caliper.ear_thickness_mm": "Outside jaws over the ear beside its hole.",
    "caliper.ear_boss_mm": "Outside jaws over the round of the ear.",
    "caliper.ear_face_offset_mm": "Straight edge on both ears, depth rod to the slot's far wall, less half the slot.",
    "caliper.slot_width_mm": "Inside jaws between the caliper's walls, pads out.",
    "caliper.bridge_to_pad_top_mm": "Pads in: depth rod through the window from the bridge's inside to the pad's outer edge.",
    "caliper.pad_height_mm": "The friction material, inner edge to outer edge at its middle.",
    "caliper.pad_width_mm": "The friction material along its outer edge.",
    "caliper.pad_thickness_mm": "The friction material alone, new.",
    "caliper.body_inboard_mm": "From the middle of the slot to the outermost point inboard.",
    "caliper.body_outboard_mm": "From the middle of the slot to the outermost point outboard; spokes pass here.",
    "caliper.body_outer_mm": "From the pad's outer edge to the highest point of the bridge; the wheel passes here.",
    "caliper.body_width_mm": "Over all along the rotor's edge.",
    "hub.pilot_diameter_mm": "Outside jaws, two ways across: it centres rotor and wheel.",
    "hub.pilot_length_mm": "Depth rod from the pilot's end to the hub's face.",
    "hub.flange_diameter_mm": "Outside jaws over the flange.",
    "hub.flange_thickness_mm": "Outside jaws at its edge.",
    "hub.bolt_circle_mm": "Across opposite studs, outside to outside, less one stud.",
    "hub.stud_count": "Count them.",
    "hub.stud_length_mm": "Depth rod from a stud's end to the hub's face.",
    "hub.barrel_diameter_mm": "Outside jaws behind the flange, over the widest part that turns.",
    "hub.stud_back_mm": "How far the studs' heads stand out behind the flange.",
    "wheel.offset_mm": "Stamped behind a spoke: ET. Else straight edge over the rim, depth rod to the seat, less half the width.",
    "wheel.centre_thickness_mm": "Outside jaws at a stud hole.",
    "knuckle.lugs[].z_mm": "Straight edge across the hub's face, depth rod down to the lug's face; inboard of it is negative.",
    "knuckle.lugs[].hole_mm": "Inside jaws, or the drill that just goes in.",
    "knuckle.lugs[].boss_mm": "Outside jaws over the round of the lug.",
    "knuckle.lugs[].thickness_mm": "Outside jaws over the lug beside its hole.",
}
"""How a size is taken, by its key path with empty brackets; common practice, no source."""


MOST_LISTED = 3


def needed_text(job: Job, path: str) -> str:
    """Return what the size at ``path`` is needed for in one sentence; nothing for what is no size that can be left out."""
    needed = needed_for(job, path)
    if needed is None:
        return ""
    drawn, ids = needed
    text = [*(["the bracket to appear"] if drawn else []), *(kind_of(id).title.lower() for id in ids)]
    if not text:
        return "Nothing waits for it."
    more = len(text) - MOST_LISTED
    shown = "; ".join(text[:MOST_LISTED]) + (f"; {more} more" if more > 0 else "")
    return f"Needed for: {shown}. Without it papers say trial only."


def missing_paths(job: Job) -> frozenset[str]:
    """Return the key paths of what is still missing before a bracket can be drawn."""
    return frozenset(one.path for one in wanted(job) if get_value(job, one.path) is None)


def how_text(path: str, job: Job) -> str:
    """Return how the size at ``path`` is measured; empty where its name says it all."""
    plain = re.sub(r"\[\d+\]", "[]", path)
    return next((blank.how for blank in wanted(job) if blank.path == path), "") or HOW.get(plain, "")


def how_to_measure(path: str, job: Job) -> str:
    """Return how the size at ``path`` is measured, and what else its field says; at least what it is called."""
    text = how_text(path, job)
    owner, _, name = path.rpartition(".")
    try:
        what = meaning(field_of(type(get_value(job, owner) if owner else job), name))
    except (KeyError, TypeError):
        return text
    return " ".join(part for part in (f"{what.label}.", text, f"{what.help}." if what.help else "") if part)

"""Sizes that a corner might have, to show on a dotted drawing where each is measured.

They are for drawing alone: no finding, paper or export ever sees them.
"""

import math

from bicentra.core.base.numbers import is_known, known
from bicentra.core.bracket.families.table import family_of
from bicentra.core.parts.job import Job

USUAL_ROTOR_MM = 256.0
"""The rotor that the plausible sizes go with; they are drawn larger or smaller with the one that is there [mm]."""
PLAUSIBLE_MM = {
    "hub.pilot_diameter_mm": 56.0, "hub.flange_diameter_mm": 132.0, "hub.flange_thickness_mm": 9.0, "hub.bolt_circle_mm": 100.0,
    "rotor.diameter_mm": USUAL_ROTOR_MM, "rotor.thickness_mm": 20.0, "rotor.overall_height_mm": 44.0, "rotor.hat_thickness_mm": 6.5,
    "rotor.swept_inner_diameter_mm": 158.0, "rotor.centre_bore_mm": 56.0, "rotor.hat_inner_diameter_mm": 138.0,
    "caliper.ear_spacing_mm": 130.0, "caliper.ear_thickness_mm": 14.0, "caliper.ear_boss_mm": 24.0,
    "caliper.ear_line_to_pad_top_mm": 20.0, "caliper.ear_face_offset_mm": -14.0, "caliper.slot_width_mm": 26.0,
    "caliper.bridge_to_pad_top_mm": 4.0, "caliper.pad_height_mm": 44.0, "caliper.pad_width_mm": 96.0,
    "caliper.body_inboard_mm": 46.0, "caliper.body_outboard_mm": 40.0, "caliper.body_outer_mm": 18.0,
    "caliper.body_width_mm": 116.0, "bracket.wall_mm": 8.0, "bracket.thickness_mm": 10.0,
}  # fmt: skip
PLAUSIBLE = {
    "fit.clock_deg": 180.0, "bracket.lug_bolt": "M12x1.5", "bracket.caliper_bolt": "M12x1.5", "hub.stud_count": 4,
    "rotor.hole_count": 4, "hub.stud_thread": "M12x1.5",
}  # fmt: skip
PLAUSIBLE_ON_AXLE: dict[str, dict[str, object]] = {
    "tube": {"hub.tube_diameter_mm": 76.0},
    "axle-flange": {
        "hub.retainer_circle_mm": 112.0, "hub.retainer_count": 4, "hub.retainer_first_deg": 45.0, "hub.retainer_bolt": "M10",
        "hub.retainer_face_z_mm": -48.0,
    },
    "direct": {"caliper.ear_hole_mm": 14.0, "caliper.ear_boss_mm": 34.0},
}  # fmt: skip
ORIGINAL: dict[str, object] = {
    "before.rotor.diameter_mm": 228.0, "before.rotor.thickness_mm": 18.0, "before.rotor.overall_height_mm": 40.0,
    "before.rotor.hat_thickness_mm": 6.5, "before.caliper.ear_spacing_mm": 104.0, "before.caliper.ear_line_to_pad_top_mm": 20.0,
    "before.caliper.ear_face_offset_mm": -16.0, "before.caliper.ear_boss_mm": 26.0, "before.clock_deg": 180.0,
    "before.bracket_ear_hole_mm": 12.5, "before.bracket_ear_mm": 14.0,
}  # fmt: skip
"""The brake that came off, where its bracket stays: smaller than the one that comes on."""
LUG_MM = {"x_mm": -62.0, "z_mm": -72.0, "boss_mm": 30.0, "thickness_mm": 16.0}
LUGS_APART_MM = 80.0


OFF_MM = 0.5
"""How far plausible bushings are eccentric: where there is nothing to make up none is made."""


def example_paths(job: Job) -> tuple[str, ...]:
    """Return the key paths that a ghost has a plausible size for."""
    return tuple(placeholders(job))


def placeholders(job: Job) -> dict[str, object]:
    """Return a plausible size by key path: as large as goes with the rotor that is there."""
    size = known(job.rotor.diameter_mm) / USUAL_ROTOR_MM
    factor = size if is_known(size) else 1.0
    sizes: dict[str, object] = {path: round(value * factor, 1) for path, value in PLAUSIBLE_MM.items()}
    many, mounting = len(job.knuckle.lugs), family_of(job).mounting
    for k in range(many):
        sizes |= {f"knuckle.lugs[{k}].{name}": round(value * factor, 1) for name, value in LUG_MM.items()}
        sizes[f"knuckle.lugs[{k}].y_mm"] = round((0.5 - k / max(many - 1, 1)) * LUGS_APART_MM * factor, 1)
    own = {**sizes, **PLAUSIBLE, **PLAUSIBLE_ON_AXLE.get(mounting, {})}
    if mounting == "direct" and many >= 2:
        return {**own, **_straight_on(job, own)}
    came_off = job.before is not None and job.before.rotor is not None and job.before.caliper is not None
    return {**own, **ORIGINAL} if mounting == "original-bracket" and came_off else own


def _straight_on(job: Job, usual: dict[str, object]) -> dict[str, object]:
    """Return lugs, ears and rotor that go together with what is known of them: ears all but on the lugs."""
    lugs, caliper = job.knuckle.lugs[:2], job.caliper
    height = known(caliper.ear_line_to_pad_top_mm)
    height = height if is_known(height) else PLAUSIBLE_MM["caliper.ear_line_to_pad_top_mm"]
    spacing, rotor = known(caliper.ear_spacing_mm), known(job.rotor.diameter_mm)
    apart = spacing if is_known(spacing) else float(str(usual["caliper.ear_spacing_mm"]))
    radius = (rotor if is_known(rotor) else USUAL_ROTOR_MM) / 2 - height
    xs, ys = ([value for lug in lugs if (value := getattr(lug, key)) is not None] for key in ("x_mm", "y_mm"))
    first, second = lugs
    places = [
        (
            lug.x_mm if lug.x_mm is not None else xs[0] if xs else -radius,
            lug.y_mm
            if lug.y_mm is not None
            else -ys[0]
            if ys
            else (0.5 if lug is first else -0.5) * (apart + 2 * OFF_MM),
        )
        for lug in (first, second)
    ]
    (ax, ay), (bx, by) = places
    middle, long = math.hypot((ax + bx) / 2, (ay + by) / 2), math.hypot(ax - bx, ay - by)
    found: dict[str, object] = {"caliper.ear_spacing_mm": round(long - 2 * OFF_MM, 3)}
    for k, (x, y) in enumerate(places):
        found |= {f"knuckle.lugs[{k}].x_mm": round(x, 3), f"knuckle.lugs[{k}].y_mm": round(y, 3)}
    if not is_known(rotor):
        found["rotor.diameter_mm"] = round(2 * (middle + height), 3)
    elif caliper.ear_line_to_pad_top_mm is None:
        found["caliper.ear_line_to_pad_top_mm"] = round(rotor / 2 - middle, 3)
    return found

"""Sizes that a corner might have: one table, to draw a dashed example, a part's sheet, and to try what serves which finding.

They are for drawing and trying alone: no finding, paper or export ever shows them. No size stands here twice.
"""

import math

from bicentra.core.base.numbers import is_known, known
from bicentra.core.bracket.families.table import family_of
from bicentra.core.lineup.solids import nominal_wheel
from bicentra.core.parts.job import Job
from bicentra.core.parts.wheel import Wheel

USUAL_ROTOR_MM = 256.0
"""The rotor that the placeholder sizes go with; they are drawn larger or smaller with the one that is there [mm]."""
DRAWN_MM = {
    "hub.pilot_diameter_mm": 56.0, "hub.flange_diameter_mm": 132.0, "hub.flange_thickness_mm": 9.0, "hub.bolt_circle_mm": 100.0,
    "rotor.diameter_mm": USUAL_ROTOR_MM, "rotor.thickness_mm": 20.0, "rotor.overall_height_mm": 44.0, "rotor.hat_thickness_mm": 6.5,
    "rotor.swept_inner_diameter_mm": 158.0, "rotor.centre_bore_mm": 56.0, "rotor.hat_inner_diameter_mm": 138.0,
    "caliper.ear_spacing_mm": 130.0, "caliper.ear_thickness_mm": 14.0, "caliper.ear_boss_mm": 24.0,
    "caliper.ear_line_to_pad_top_mm": 20.0, "caliper.ear_face_offset_mm": -14.0, "caliper.slot_width_mm": 26.0,
    "caliper.bridge_to_pad_top_mm": 4.0, "caliper.pad_height_mm": 44.0, "caliper.pad_width_mm": 96.0,
    "caliper.body_inboard_mm": 46.0, "caliper.body_outboard_mm": 40.0, "caliper.body_outer_mm": 18.0,
    "caliper.body_width_mm": 116.0, "bracket.wall_mm": 8.0, "bracket.thickness_mm": 10.0,
}  # fmt: skip
"""What the dashed example is drawn with."""
DRAWN: dict[str, object] = {
    "fit.clock_deg": 180.0, "bracket.lug_bolt": "M12x1.5", "bracket.caliper_bolt": "M12x1.5", "hub.stud_count": 4,
    "rotor.hole_count": 4, "hub.stud_thread": "M12x1.5",
}  # fmt: skip
TUBE_MM = 76.0
DRAWN_ON: dict[str, dict[str, object]] = {
    "tube": {"hub.tube_diameter_mm": TUBE_MM},
    "axle-flange": {
        "hub.retainer_circle_mm": 112.0, "hub.retainer_count": 4, "hub.retainer_first_deg": 45.0, "hub.retainer_bolt": "M10",
        "hub.retainer_face_z_mm": -48.0,
    },
    "direct": {"caliper.ear_hole_mm": 14.0, "caliper.ear_boss_mm": 34.0},
}  # fmt: skip
"""More of it by what holds the bracket; bushings want larger ears than a plate does."""
TRIED: dict[str, object] = {
    "hub.stud_length_mm": 45.0, "hub.pilot_length_mm": 12.0, "hub.barrel_diameter_mm": 60.0, "rotor.hole_mm": 13.0,
    "rotor.bolt_circle_mm": 100.0, "rotor.min_thickness_mm": 18.0, "caliper.ear_hole_mm": 12.6, "caliper.pad_thickness_mm": 12.0,
    "caliper.ear_material": "aluminium", "caliper.bleeders_deg": (35.0, -35.0), "caliper.pistons_inboard_mm": (38.0,),
    "caliper.pistons_outboard_mm": (38.0,), "caliper.slide_inboard_mm": 20.0, "caliper.slide_outboard_mm": 20.0,
    "knuckle.material": "iron", "hub.tube_diameter_mm": TUBE_MM,
    "wheel": nominal_wheel(15, Wheel(centre_thickness_mm=9.0, centre_bore_mm=57.0, bolt_circle_mm=100.0, hole_count=4)),
}  # fmt: skip
"""What is filled up besides to try which missing size serves which finding."""
ON_SHEETS: dict[str, float] = {
    "hub.stud_back_mm": 5.0, "rotor.hat_outer_diameter_mm": 151.0, "rotor.ring_bolt_circle_mm": 176.0,
    "rotor.ring_bolt_count": 8.0, "rotor.ring_bolt_hole_mm": 8.5, "wheel.rim_diameter_mm": 381.0, "wheel.rim_width_mm": 152.0,
    "wheel.offset_mm": 35.0, "wheel.centre_thickness_mm": 9.0, "wheel.centre_bore_mm": 57.0, "wheel.bolt_circle_mm": 100.0,
    "wheel.hole_count": 4.0,
}  # fmt: skip
"""What the parts' own sheets show besides."""
LUG_MM = {"x_mm": -62.0, "z_mm": -72.0, "boss_mm": 30.0, "thickness_mm": 16.0}
LUG_HOLE_MM = 13.0
LUG_TRIED: dict[str, object] = {"thread": "M12x1.5", "hole_mm": LUG_HOLE_MM}
LUGS_APART_MM = 80.0
ORIGINAL: dict[str, object] = {
    "before.rotor.diameter_mm": 228.0, "before.rotor.thickness_mm": 18.0, "before.rotor.overall_height_mm": 40.0,
    "before.rotor.hat_thickness_mm": 6.5, "before.caliper.ear_spacing_mm": 104.0, "before.caliper.ear_line_to_pad_top_mm": 20.0,
    "before.caliper.ear_face_offset_mm": -16.0, "before.caliper.ear_boss_mm": 26.0, "before.clock_deg": 180.0,
    "before.bracket_ear_hole_mm": 12.5, "before.bracket_ear_mm": 14.0,
}  # fmt: skip
"""The brake that came off, where its bracket stays: smaller than the one that comes on."""


OFF_MM = 0.5
"""How far example bushings are eccentric: where there is nothing to make up none is made."""


def sizes_of(part: str) -> dict[str, float]:
    """Return the placeholder sizes of a part's own sheet by key [units of the keys]."""
    every = {**DRAWN_MM, **DRAWN, **TRIED, **ON_SHEETS}
    return {
        path.removeprefix(f"{part}."): float(value)
        for path, value in every.items()
        if path.startswith(f"{part}.") and isinstance(value, int | float)
    }


def example_paths(job: Job) -> tuple[str, ...]:
    """Return the key paths that the example has a size for."""
    return tuple(placeholders(job))


def placeholders(job: Job) -> dict[str, object]:
    """Return a placeholder size by key path: as large as goes with the rotor that is there."""
    size = known(job.rotor.diameter_mm) / USUAL_ROTOR_MM
    factor = size if is_known(size) else 1.0
    sizes: dict[str, object] = {path: round(value * factor, 1) for path, value in DRAWN_MM.items()}
    many, mounting = len(job.knuckle.lugs), family_of(job).mounting
    for k in range(many):
        sizes |= {f"knuckle.lugs[{k}].{name}": round(value * factor, 1) for name, value in LUG_MM.items()}
        sizes[f"knuckle.lugs[{k}].y_mm"] = round((0.5 - k / max(many - 1, 1)) * LUGS_APART_MM * factor, 1)
    own = {**sizes, **DRAWN, **DRAWN_ON.get(mounting, {})}
    if mounting == "direct" and many >= 2:
        return {**own, **_straight_on(job, own)}
    came_off = job.before is not None and job.before.rotor is not None and job.before.caliper is not None
    return {**own, **ORIGINAL} if mounting == "original-bracket" and came_off else own


def _straight_on(job: Job, usual: dict[str, object]) -> dict[str, object]:
    """Return lugs, ears and rotor that go together with what is known of them: ears all but on the lugs."""
    lugs, caliper = job.knuckle.lugs[:2], job.caliper
    height = known(caliper.ear_line_to_pad_top_mm)
    height = height if is_known(height) else DRAWN_MM["caliper.ear_line_to_pad_top_mm"]
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

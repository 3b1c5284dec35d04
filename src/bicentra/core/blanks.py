"""What is missing before a bracket can be drawn, in the order in which one measures, and a corner of plausible sizes to show it on.

The plausible sizes are for drawing alone: no finding, paper or export ever sees them.
"""

from collections.abc import Iterator

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import Record
from bicentra.core.bracket.families.table import family_of
from bicentra.core.judged import made_bracket
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.edits import get_value, with_edits
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
}  # fmt: skip
LUG_MM = {"x_mm": -62.0, "z_mm": -72.0, "boss_mm": 30.0, "thickness_mm": 16.0}
LUGS_APART_MM = 80.0


class Blank(Record, frozen=True):
    """One measurement: its key path, what it is called on a drawing, and how it is taken, with what."""

    path: str
    title: str
    how: str


ROTOR = Blank("rotor.diameter_mm", "rotor Ø", "Calipers or a tape across the ring's outer edge.")
ROTOR_ALONG = (
    Blank("rotor.thickness_mm", "rotor thick", "Micrometer on the face the pads run on."),
    Blank(
        "rotor.overall_height_mm",
        "rotor height",
        "From the ring's inboard face up to the hat's outer face, with a depth rod.",
    ),
    Blank("rotor.hat_thickness_mm", "hat thick", "Caliper jaws over the hat's flange beside a hole."),
)
EARS = (
    Blank("caliper.ear_spacing_mm", "ears apart", "From the middle of one ear's hole to the middle of the other."),
    Blank("caliper.ear_line_to_pad_top_mm", "ear holes to pad top",
          "A straightedge across both ear holes; a rule from there out to the pad's outer edge."),
)  # fmt: skip
EAR_FACE = Blank(
    "caliper.ear_face_offset_mm",
    "ear face from slot",
    "From the middle of the slot to the ears' face; inboard of it is negative.",
)
LUG_BOLT = Blank("bracket.lug_bolt", "lug bolt", "Thread of the bolts into the lugs, such as M12x1.5 or 3/8-24.")
EAR_BOLT = Blank("bracket.caliper_bolt", "caliper bolt", "Thread of the bolts at the caliper's ears.")
CLOCK = Blank(
    "fit.clock_deg", "clock angle", "Where the caliper sits: 180 straight behind the axle, 90 on top, 0 straight ahead."
)
ON_AXLE = {
    "tube": (Blank("hub.tube_diameter_mm", "axle tube Ø", "Outside jaws over the axle's tube, where the tab will sit."),),
    "axle-flange": (
        Blank("hub.retainer_circle_mm", "retainer's bolt circle", "Across opposite bolts of the retainer, middle to middle."),
        Blank("hub.retainer_count", "retainer bolts", "Count them."),
        Blank("hub.retainer_first_deg", "first retainer bolt at", "Clock angle of one of them: 0 straight ahead, 90 on top."),
        Blank("hub.retainer_bolt", "retainer bolt", "Their thread, such as M10 or 3/8-24."),
        Blank("hub.retainer_face_z_mm", "retainer's face", "From the hub's face to the retainer's flange; inboard is negative."),
    ),
}  # fmt: skip
"""What is measured of an axle that carries the bracket itself, by how it holds it."""


def wanted(job: Job) -> tuple[Blank, ...]:
    """Return the measurements that the bracket's outline follows from, in the order in which one measures, known or not.

    What is held by the lugs needs their places; what sits on the axle needs that, and where the ears' face comes to lie along it.
    """
    mounting = family_of(job).mounting
    if mounting not in ON_AXLE:
        lugs = (blank for k, lug in enumerate(job.knuckle.lugs) for blank in _of_lug(k, lug.name))
        return (*lugs, ROTOR, *EARS, LUG_BOLT, EAR_BOLT, CLOCK)
    return (*ON_AXLE[mounting], ROTOR, *ROTOR_ALONG, *EARS, EAR_FACE, EAR_BOLT, CLOCK)


def _of_lug(k: int, named: str) -> Iterator[Blank]:
    name = f"lug {k + 1}" if not named else named if "lug" in named.lower() else f"{named} lug"
    yield Blank(f"knuckle.lugs[{k}].x_mm", f"{name} forward",
                "From the middle of the axle forward to the middle of the hole, level; behind the axle is negative.")  # fmt: skip
    yield Blank(f"knuckle.lugs[{k}].y_mm", f"{name} up",
                "From the middle of the axle straight up to the middle of the hole; below the axle is negative.")  # fmt: skip


def ghost_paths(job: Job) -> tuple[str, ...]:
    """Return the key paths that a ghost has a plausible size for."""
    return tuple(_plausible(job))


def _plausible(job: Job) -> dict[str, object]:
    """Return a plausible size by key path: as large as goes with the rotor that is there."""
    size = known(job.rotor.diameter_mm) / USUAL_ROTOR_MM
    factor = size if is_known(size) else 1.0
    sizes: dict[str, object] = {path: round(value * factor, 1) for path, value in PLAUSIBLE_MM.items()}
    many = len(job.knuckle.lugs)
    for k in range(many):
        sizes |= {f"knuckle.lugs[{k}].{name}": round(value * factor, 1) for name, value in LUG_MM.items()}
        sizes[f"knuckle.lugs[{k}].y_mm"] = round((0.5 - k / max(many - 1, 1)) * LUGS_APART_MM * factor, 1)
    own = PLAUSIBLE_ON_AXLE.get(family_of(job).mounting, {})
    return {**sizes, **PLAUSIBLE, **own}


def ghost_job(job: Job, but: str = "") -> Job:
    """Return ``job`` with a plausible size wherever none is known, one key path left as it is."""
    missing = ((path, value) for path, value in _plausible(job).items() if path != but and get_value(job, path) is None)
    return with_edits(job, tuple(missing))


def is_drawn(job: Job) -> bool:
    """Tell whether the bracket that the job has taken can be drawn."""
    made = made_bracket(family_of(job), job, line_up(job), job.lengths).bracket
    shape = made.shape
    return bool(made.parts) if shape is None else shape.outline is not None or shape.impossible


def blanks(job: Job) -> tuple[Blank, ...]:
    """Return what is missing and has to be known before the bracket can be drawn; nothing once it is drawn, or where no
    measurement of these would make it appear."""  # fmt: skip
    if is_drawn(job) or not is_drawn(ghost_job(job)):
        return ()
    missing = [blank for blank in wanted(job) if get_value(job, blank.path) is None]
    return tuple(blank for blank in missing if not is_drawn(ghost_job(job, blank.path)))

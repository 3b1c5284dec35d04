"""What is missing before a bracket can be drawn, in the order of measuring, and the corner to show it on."""

from collections.abc import Iterator

from bicentra.core.base.records import Record
from bicentra.core.bracket.families.table import family_of
from bicentra.core.evaluation.bracket_evaluation import made_bracket
from bicentra.core.inputs.placeholder_sizes import placeholders
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.edits import get_value, with_edits
from bicentra.core.parts.job import Job


class RequiredInput(Record, frozen=True):
    """One measurement: its key path, what it is called on a drawing, and how it is taken, with what."""

    path: str
    title: str
    how: str


ROTOR = RequiredInput("rotor.diameter_mm", "rotor Ø", "Calipers or a tape across the ring's outer edge.")
ROTOR_ALONG = (
    RequiredInput("rotor.thickness_mm", "rotor thick", "Micrometer on the face the pads run on."),
    RequiredInput(
        "rotor.overall_height_mm",
        "rotor height",
        "From the ring's inboard face up to the hat's outer face, with a depth rod.",
    ),
    RequiredInput("rotor.hat_thickness_mm", "hat thick", "Caliper jaws over the hat's flange beside a hole."),
)
EARS = (
    RequiredInput("caliper.ear_spacing_mm", "ears apart", "From the middle of one ear's hole to the middle of the other."),
    RequiredInput("caliper.ear_line_to_pad_top_mm", "ear holes to pad top",
          "A straightedge across both ear holes; a rule from there out to the pad's outer edge."),
)  # fmt: skip
EAR_FACE = RequiredInput(
    "caliper.ear_face_offset_mm",
    "ear face from slot",
    "From the middle of the slot to the ears' face; inboard of it is negative.",
)
LUG_BOLT = RequiredInput(
    "bracket.lug_bolt", "lug bolt", "Thread of the bolts into the lugs, such as M12x1.5 or 3/8-24."
)
EAR_BOLT = RequiredInput("bracket.caliper_bolt", "caliper bolt", "Thread of the bolts at the caliper's ears.")
CLOCK = RequiredInput(
    "fit.clock_deg", "clock angle", "Where the caliper sits: 180 straight behind the axle, 90 on top, 0 straight ahead."
)
ON_AXLE = {
    "tube": (RequiredInput("hub.tube_diameter_mm", "axle tube Ø", "Outside jaws over the axle's tube, where the tab will sit."),),
    "axle-flange": (
        RequiredInput("hub.retainer_circle_mm", "retainer's bolt circle", "Across opposite retainer bolts, middle to middle."),
        RequiredInput("hub.retainer_count", "retainer bolts", "Count them."),
        RequiredInput("hub.retainer_first_deg", "first retainer bolt at", "Clock angle of one: 0 straight ahead, 90 on top."),
        RequiredInput("hub.retainer_bolt", "retainer bolt", "Their thread, such as M10 or 3/8-24."),
        RequiredInput("hub.retainer_face_z_mm", "retainer's face", "Hub's face to the retainer's flange; inboard is negative."),
    ),
}  # fmt: skip
"""What is measured of an axle that carries the bracket itself, by how it holds it."""
EAR_SIZES = (
    RequiredInput("caliper.ear_hole_mm", "ear hole", "Inside jaws, or the drill that just goes in."),
    RequiredInput("caliper.ear_boss_mm", "ear round", "Outside jaws over the round of the ear."),
    RequiredInput("caliper.ear_thickness_mm", "ear thick", "Outside jaws over the ear beside its hole."),
)
CAME_OFF = (
    RequiredInput("before.rotor.diameter_mm", "old rotor Ø", ROTOR.how),
    *(RequiredInput(f"before.{one.path}", f"old {one.title}", one.how) for one in ROTOR_ALONG),
    *(RequiredInput(f"before.{one.path}", f"old {one.title}", one.how) for one in (*EARS, EAR_FACE)),
    RequiredInput("before.bracket_ear_hole_mm", "holes in the old bracket", "Inside jaws, where the old caliper was bolted on."),
    RequiredInput("before.bracket_ear_mm", "old bracket thick", "Outside jaws over it, beside such a hole."),
    RequiredInput("before.clock_deg", "old clock angle", "Where the old caliper sat: 180 straight behind the axle, 90 on top."),
)  # fmt: skip
"""What is measured of the brake that came off: it places the bracket that stays."""


def wanted(job: Job) -> tuple[RequiredInput, ...]:
    """Return the measurements that the bracket's outline follows from, in the order of measuring, known or not.

    What is held by the lugs needs their places; what sits on the axle needs that, and where the ears' face comes to lie along it.
    """
    mounting = family_of(job).mounting
    if mounting in ON_AXLE:
        return (*ON_AXLE[mounting], ROTOR, *ROTOR_ALONG, *EARS, EAR_FACE, EAR_BOLT, CLOCK)
    if mounting == "original-bracket":
        before = job.before
        noted = before is not None and before.rotor is not None and before.caliper is not None
        return (*CAME_OFF, ROTOR, *ROTOR_ALONG, *EARS, EAR_FACE, LUG_BOLT, EAR_BOLT, CLOCK) if noted else ()
    lugs = tuple(
        blank for k, lug in enumerate(job.knuckle.lugs) for blank in _of_lug(k, lug.name, mounting == "direct")
    )
    if mounting == "direct":
        return (*lugs, ROTOR, *ROTOR_ALONG, *EARS, EAR_FACE, *EAR_SIZES, LUG_BOLT, CLOCK)
    return (*lugs, ROTOR, *EARS, LUG_BOLT, EAR_BOLT, CLOCK)


def _of_lug(k: int, named: str, deep: bool) -> Iterator[RequiredInput]:
    name = f"lug {k + 1}" if not named else named if "lug" in named.lower() else f"{named} lug"
    yield RequiredInput(f"knuckle.lugs[{k}].x_mm", f"{name} forward",
                "From the middle of the axle forward to the middle of the hole, level; behind the axle is negative.")  # fmt: skip
    yield RequiredInput(f"knuckle.lugs[{k}].y_mm", f"{name} up",
                "From the middle of the axle straight up to the middle of the hole; below the axle is negative.")  # fmt: skip
    if deep:
        yield RequiredInput(f"knuckle.lugs[{k}].z_mm", f"{name}'s face",
                    "Straight edge across the hub's face, depth rod down to the lug's; inboard of it is negative.")  # fmt: skip


def example_job(job: Job, but: str = "") -> Job:
    """Return ``job`` with a placeholder sizes wherever none is known, one key path left as it is."""
    missing = (
        (path, value) for path, value in placeholders(job).items() if path != but and get_value(job, path) is None
    )
    return with_edits(job, tuple(missing))


def is_drawn(job: Job) -> bool:
    """Tell whether the bracket that the job has taken can be drawn."""
    made = made_bracket(family_of(job), job, line_up(job), job.lengths).bracket
    shape = made.shape
    return made.shown if shape is None else shape.outline is not None or shape.impossible


def required_inputs(job: Job) -> tuple[RequiredInput, ...]:
    """Return what is missing and has to be known before the bracket can be drawn; nothing once it is drawn, or where no
    measurement of these would make it appear.
    """
    if is_drawn(job) or not is_drawn(example_job(job)):
        return ()
    missing = [blank for blank in wanted(job) if get_value(job, blank.path) is None]
    return tuple(blank for blank in missing if not is_drawn(example_job(job, blank.path)))

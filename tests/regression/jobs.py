"""A score of made-up jobs that between them ask for nearly everything: each kind of bracket, mount, unit, side, and what is missing."""

from collections.abc import Callable

from bicentra.core.base.records import replace
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Cutout, Job, Obstacle
from bicentra.study.document.starting import empty_job
from tests.jobs import meeting

Edits = tuple[tuple[str, object], ...]
SECTION = (
    (-38.0, -46.0),
    (-12.0, -41.0),
    (-12.0, 6.0),
    (12.0, 6.0),
    (12.0, -44.0),
    (36.0, -48.0),
    (41.0, 3.0),
    (33.0, 17.0),
    (-31.0, 19.0),
    (-42.0, -4.0),
)
FACE = ((-52.0, -46.0), (55.0, -43.0), (68.0, -4.0), (41.0, 18.0), (-39.0, 18.0), (-64.0, 2.0))
"""The body of a caliper as it might be traced: in section and from the front [mm]."""
STEEL = ("bracket.material", "steel S355")


def good(demo: Job) -> Job:
    """The demo with both of its faults cured."""
    return replace(demo, bracket=replace(demo.bracket, thickness_mm=None, caliper_bolt_length_mm=None))


def lugs_moved(job: Job, by: float) -> Edits:
    """Every lug's seat ``by`` mm along the axle."""
    return tuple((f"knuckle.lugs[{k}].z_mm", (lug.z_mm or 0.0) + by) for k, lug in enumerate(job.knuckle.lugs))


def of(family: str, *edits: tuple[str, object], by: float = 0.0) -> Callable[[Job], Job]:
    """The good job with a bracket of ``family`` taken."""
    return lambda demo: with_edits(good(demo), (("bracket.family", family), *lugs_moved(demo, by), *edits))


def shaped(demo: Job) -> Job:
    """A plate with all that can be done to it: cutouts, a chamfer, tapped and slotted holes, walls of its own, a bolt sunk in."""
    cutouts = (Cutout(x_mm=-76.0, y_mm=5.0, diameter_mm=16.0), Cutout(x_mm=-84.0, y_mm=-22.0, diameter_mm=9.0))
    return with_edits(good(demo), (
        ("bracket.cutouts", cutouts), ("bracket.chamfer_mm", 1.0), ("bracket.hole_class", "close"), ("bracket.wall_mm", 9.0),
        ("bracket.boss_walls_mm", (9.0, 11.0, 8.0, 12.0)), ("bracket.lug_hole", "counterbore"), ("hub.barrel_diameter_mm", 96.0),
    ))  # fmt: skip


def traced(demo: Job) -> Job:
    """A floating caliper traced round, with a hose, worn pads, on a left corner, in inches."""
    return with_edits(good(demo), (
        ("corner", "front-left"), ("display_units", "in"), ("caliper.body_section_mm", SECTION), ("caliper.body_face_mm", FACE),
        ("caliper.action", "floating"), ("caliper.pad_thickness_mm", 15.0), ("rotor.min_thickness_mm", 8.0),
        ("caliper.hose_port_mm", ((30.0, 12.0, -28.0),)), ("caliper.slide_inboard_mm", 12.0), ("caliper.slide_outboard_mm", 4.0),
    ))  # fmt: skip


def crowded(demo: Job) -> Job:
    """Posts round a caliper that stands wrong: turns, plates and shims are offered against them."""
    posts = tuple(
        Obstacle(name=f"post {k}", outline_mm=((x, y), (x + 9.0, y), (x + 9.0, y + 14.0), (x, y + 14.0)), z_min_mm=z, z_max_mm=z + 25.0)
        for k, (x, y, z) in enumerate(((-128.0, 60.0, -60.0), (-96.0, -84.0, -70.0), (-150.0, 30.0, -95.0), (40.0, 110.0, -50.0)))
    )  # fmt: skip
    return with_edits(demo, (
        ("knuckle.obstacles", (*demo.knuckle.obstacles, *posts)), ("fit.pad_inset_mm", -1.0), ("fit.rotor_spacer_mm", 3.0),
        ("caliper.bleeders_deg", (30.0, 150.0)), ("rotor.centre_bore_mm", 54.0), ("hub.stud_length_mm", 24.0),
    ))  # fmt: skip


def bushings(demo: Job) -> Job:
    """Ears nearly as far apart as the lugs, and in their line."""
    return with_edits(meeting(good(demo), 77.0), (("bracket.family", "eccentric-bushings"),))


def sleeved(demo: Job) -> Job:
    """Plain lug holes wider than the bolt."""
    plain = tuple(replace(lug, thread=None, hole_mm=14.5) for lug in demo.knuckle.lugs)
    return of("sleeve", ("knuckle.lugs", plain))(demo)


def behind_flange(demo: Job) -> Job:
    """A rotor behind the hub's flange, flipped, on an axle with a retainer and a backing plate, no survey."""
    return with_edits(good(demo), (
        ("survey", {}), ("hub.mounting", "behind-flange"), ("hub.flange_thickness_mm", 9.0), ("fit.rotor_way", "flipped"),
        ("hub.backing_plate_mm", 2.5), ("hub.retainer_circle_mm", 120.0), ("hub.retainer_count", 4),
        ("hub.retainer_first_deg", 45.0), ("hub.retainer_socket_mm", 18.0),
    ))  # fmt: skip


def radial(demo: Job) -> Job:
    """A caliper on studs in the bracket's edge, packed under its feet."""
    return of("radial-mount", ("caliper.mount", "radial"), STEEL, ("caliper.ear_hole_mm", 12.6), ("caliper.ear_thread", None),
              ("fit.radial_shim_mm", 1.0), ("fit.ear_shims_mm", ((0.5,), (0.5, 0.2))), by=-18.0)(demo)  # fmt: skip


def beside(demo: Job) -> Job:
    """Other bolts, another pattern, a wheel that meets the caliper, packing at one lug, leaning lugs, another limit."""
    return with_edits(good(demo), (
        ("hub.bolt_circle_mm", 108.0), ("wheel.barrel_mm", ((-90.0, 158.0), (-20.0, 152.0), (40.0, 163.0))), ("bracket.side", "inboard"),
        ("bracket.shims_mm", (1.0, 2.5)), ("bracket.material", "steel S355"), ("bracket.lug_bolt", "M12x1.25"),
        ("fit.clock_deg", 197.0), ("fit.attitude_deg", 12.0), ("limits", {"edge-distance": 9.0, "unheard-of": 1.0}),
    ))  # fmt: skip


def unmeasured(demo: Job) -> Job:
    """Half of the numbers are missing."""
    gone = (
        "caliper.ear_face_offset_mm",
        "rotor.thickness_mm",
        "hub.stud_length_mm",
        "caliper.body_width_mm",
        "wheel.barrel_mm",
    )
    lugs = (replace(demo.knuckle.lugs[0], boss_mm=None), replace(demo.knuckle.lugs[1], thickness_mm=None))
    return with_edits(demo, (*((path, None) for path in gone), ("knuckle.lugs", lugs), ("survey", {})))


def other_lug_height(demo: Job) -> Job:
    """Lugs five millimetres apart along the axle: the plate is stepped to lie on both."""
    job = of("stepped-plate")(demo)
    return with_edits(
        job, (("knuckle.lugs[1].z_mm", (job.knuckle.lugs[1].z_mm or 0.0) - 5.0), ("bracket.thickness_mm", 16.0))
    )


def high_enough(demo: Job) -> Job:
    """A jogged plate with room for its bends."""
    return of("jogged-plate", STEEL, ("bracket.wall_mm", 6.0), ("caliper.ear_line_to_pad_top_mm", -60.0), by=-20.0)(
        demo
    )


def tight_wheel(demo: Job) -> Job:
    """Spokes that stand against the caliper, a spacer under the wheel already: thicker ones and larger wheels are offered."""
    wheel = good(demo).wheel
    spokes = tuple((z - 8.0, r) for z, r in wheel.spokes_mm) if wheel is not None else ()
    return with_edits(
        good(demo), (("wheel.spokes_mm", spokes), ("fit.wheel_spacer_mm", 2.0), ("hub.stud_length_mm", 38.0))
    )


def short_trace(demo: Job) -> Job:
    """A wheel traced only where the caliper is not, one lug held down by a slot, a hose that nobody measured."""
    wheel = good(demo).wheel
    barrel = tuple((z, r) for z, r in wheel.barrel_mm if z > -40.0) if wheel is not None else ()
    return with_edits(good(demo), (("wheel.barrel_mm", barrel), ("bracket.lug_hole", "slot"), ("bracket.slot_mm", 4.0),
                                   ("bracket.slot_deg", 60.0), ("fit.clock_deg", 186.0)))  # fmt: skip


def boxed_in(demo: Job) -> Job:
    """A post outside the caliper in the way it comes off, pads that reach down to the hat, pistons of unlike size."""
    post = Obstacle(
        name="arm",
        outline_mm=((-172.0, -20.0), (-160.0, -20.0), (-160.0, 22.0), (-172.0, 22.0)),
        z_min_mm=-90.0,
        z_max_mm=-20.0,
    )
    return with_edits(good(demo), (
        ("knuckle.obstacles", (*demo.knuckle.obstacles, post)), ("caliper.pad_height_mm", 58.0), ("caliper.hand", "left"),
        ("caliper.pistons_inboard_mm", (36.0, 42.0)), ("caliper.pistons_outboard_mm", (42.0, 36.0)), ("fit.clock_deg", 172.0),
        ("fit.rotor_way", "flipped"),
    ))  # fmt: skip


JOBS: dict[str, Callable[[Job], Job]] = {
    "demo": lambda demo: demo,
    "good": good,
    "shaped": shaped,
    "traced": traced,
    "crowded": crowded,
    "bushings": bushings,
    "bushings turned": lambda demo: with_edits(bushings(demo), (("fit.clock_deg", 178.6), ("caliper.ear_spacing_mm", 82.0))),
    "sleeved": sleeved,
    "flange": behind_flange,
    "radial": radial,
    "beside": beside,
    "tight wheel": tight_wheel,
    "short trace": short_trace,
    "boxed in": boxed_in,
    "unmeasured": unmeasured,
    "stepped": other_lug_height,
    "jogged": high_enough,
    "two-part": of("two-part", by=-25.0),
    "weld-on": of("weld-on", STEEL, ("hub.tube_diameter_mm", 70.0), ("hub.retainer_circle_mm", None)),
    "axle-end": of("axle-end-plate", ("hub.retainer_circle_mm", 120.0), ("hub.retainer_count", 4), ("hub.retainer_first_deg", 45.0),
                   ("hub.retainer_socket_mm", 18.0), STEEL),
    "original": of("on-original-bracket"),
    "empty": lambda _: empty_job(),
}  # fmt: skip
KEPT = ("demo", "shaped", "traced", "bushings", "beside", "unmeasured", "axle-end", "empty")
"""Those whose every line is kept to be read; all of them serve other tests."""

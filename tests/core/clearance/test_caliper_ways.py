"""Hands, float, removal, hose, retainer, flipped rotors: by hand where geometry allows, else as common practice."""

import numpy as np
import pytest

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.bracket.assembly import assemble
from bicentra.core.clearance.travel import float_sweep, hose_sweep, pad_wear, removal_sweep, travel_room
from bicentra.core.evaluation.solution import solve
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.edits import with_edits, with_value
from bicentra.core.parts.job import Job


def changed(job: Job, **edits: object) -> Job:
    """The job with ``part__key`` edits."""
    return with_edits(job, tuple((name.replace("__", "."), value) for name, value in edits.items()))


@pytest.mark.parametrize(
    ("pistons", "verdict"), [((32.0, 36.0), "ok"), ((36.0, 32.0), "stop"), ((36.0, 36.0), "ok"), ((), "unknown")]
)
def test_the_largest_piston_belongs_at_the_exit(good: Job, pistons: tuple[float, ...], verdict: str) -> None:
    """Common practice (no source): listed from the entry, the last one must be the largest; none listed is unknown."""
    job = changed(good, caliper__pistons_inboard_mm=pistons, caliper__pistons_outboard_mm=pistons)
    finding = solve(job).finding("handedness")
    assert finding.verdict.value == verdict
    if verdict == "stop":
        assert "Wrong side by its pistons" in finding.why
        assert solve(with_edits(job, finding.remedies[0].edits)).finding("handedness").verdict is Verdict.OK


@pytest.mark.parametrize(
    ("hand", "corner", "clock", "verdict"),
    [("right", "front-right", 180.0, "ok"), ("right", "front-right", 10.0, "stop"), ("left", "front-right", 10.0, "ok"),
     ("right", "front-left", 180.0, "stop"), ("left", "rear-left", 200.0, "ok"), ("right", "rear-left", 350.0, "ok")],
)  # fmt: skip
def test_a_marked_caliper_changes_sides_ahead_of_the_axle(
    good: Job, hand: str, corner: str, clock: float, verdict: str
) -> None:
    """Turned half round the axle a caliper's ends change places, as they do across the vehicle: by symmetry."""
    job = replace(changed(good, caliper__hand=hand, fit__clock_deg=clock), corner=corner)
    assert solve(job).finding("handedness").verdict.value == verdict


def test_vanes_of_the_other_hand_and_staggered_corners(good: Job) -> None:
    """Handed vanes on the wrong side stop; staggered corners are told to order one hand twice."""
    wrong = changed(good, rotor__vanes="left")
    assert "vanes" in solve(wrong).finding("handedness").why
    assert solve(wrong).finding("handedness").verdict is Verdict.STOP
    assert (
        solve(changed(good, rotor__vanes="right", fit__rotor_way="flipped")).finding("handedness").verdict
        is Verdict.STOP
    )
    assert "same hand twice" in solve(changed(good, fit__other_side="staggered")).finding("handedness").why


def floating(job: Job) -> Job:
    """The good job with a floating caliper whose pads and slides are known."""
    return changed(job, caliper__action="floating", caliper__pad_thickness_mm=6.0, caliper__slide_inboard_mm=12.0,
                   caliper__slide_outboard_mm=11.0, caliper__slot_width_mm=44.0)  # fmt: skip


def test_float_by_hand(good: Job) -> None:
    """Wear 6 − 2.54 + (20 − 18)/2 = 4.46; the tightest way is what the plate leaves behind the body."""
    job = floating(good)
    assert pad_wear(job) == pytest.approx(4.46)
    assembly = solve(job).assembly
    inboard, outboard = travel_room(assembly, np.radians([job.fit.clock_deg]))
    plate_top = assembly.stack_up.z_range[1]
    assert inboard.value[0] == pytest.approx(min(12.0, assembly.body.z0 - plate_top))
    assert outboard.value[0] <= 11.0
    finding = solve(job).finding("float-travel")
    assert finding.value == pytest.approx(min(inboard.value[0], outboard.value[0]) - 4.46)
    assert finding.verdict is Verdict.STOP and "the plate" in finding.why


def test_float_needs_the_pads(good: Job) -> None:
    """Without the pad's thickness, or the rotor's discard thickness, float is unknown; a fixed caliper is not asked."""
    for path in ("caliper.pad_thickness_mm", "rotor.min_thickness_mm"):
        assert solve(with_value(floating(good), path, None)).finding("float-travel").verdict is Verdict.UNKNOWN
    assert all(f.id != "float-travel" for f in solve(good).findings)


def test_an_obstacle_over_the_caliper_holds_it_on(good: Job) -> None:
    """A bar outside the body leaves no way off: a watch, never a stop; the bar moved away, it comes off."""
    clear = solve(good).finding("caliper-removal")
    assert clear.verdict is Verdict.OK
    bar = replace(good.knuckle.obstacles[0], outline_mm=((-175.0, -30.0), (-165.0, -30.0), (-165.0, 30.0), (-175.0, 30.0)),
                  z_min_mm=-60.0, z_max_mm=20.0)  # fmt: skip
    held = solve(with_value(good, "knuckle.obstacles", (*good.knuckle.obstacles, replace(bar, name="bar"))))
    assert held.finding("caliper-removal").verdict is Verdict.CAUTION
    assert "bar" in held.finding("caliper-removal").why


def test_sweeps_say_at_every_angle_what_one_angle_says(good: Job) -> None:
    """Removal, float and hose for the circle at once equal the single angles."""
    job = changed(floating(good), caliper__hose_port_mm=((40.0, 10.0, -40.0),))
    assembly = assemble(job)
    angles = np.radians(np.arange(0.0, 360.0, 40.0))
    whole = removal_sweep(assembly, angles).value, float_sweep(assembly, angles)[0], hose_sweep(assembly, angles).value
    for k, angle in enumerate(angles):
        here = np.array([angle])
        one = removal_sweep(assembly, here).value, float_sweep(assembly, here)[0], hose_sweep(assembly, here).value
        for many, single in zip(whole, one):
            assert single[0] == pytest.approx(many[k], nan_ok=True)


def test_flipped_rotor_by_hand(good: Job) -> None:
    """Over the hub with a plate s: middle at s + H − t/2, the wheel still seats at s + h."""
    line = solve(changed(good, fit__rotor_way="flipped", fit__rotor_spacer_mm=2.0)).line
    assert line.rotor_midplane_z == pytest.approx(2.0 + 44.0 - 10.0)
    assert line.wheel_seat_z == pytest.approx(2.0 + 6.5)


def test_what_was_taken_out_goes_back_under_the_retainer(good: Job) -> None:
    """Common practice (no source): a backing plate of 3 mm taken out, 2 put back crushes the seal; 3 is right."""
    job = changed(good, hub__backing_plate_mm=3.0, hub__retainer_spacer_mm=None)
    assert solve(job).finding("retainer-spacer").verdict is Verdict.UNKNOWN
    thin = solve(changed(job, hub__retainer_spacer_mm=2.0)).finding("retainer-spacer")
    assert thin.verdict is Verdict.STOP and "crushes the seal" in thin.why
    assert solve(with_edits(job, thin.remedies[0].edits)).finding("retainer-spacer").verdict is Verdict.OK


def test_a_ring_centres_and_a_plate_eats_pilot(good: Job) -> None:
    """A wide bore is met once a ring centres it; a plate as thick as the pilot leaves none."""
    wide = changed(good, rotor__centre_bore_mm=64.1)
    before = solve(wide).finding("rotor-on-hub")
    ring = next(r for r in before.remedies if "ring" in r.action)
    assert solve(with_edits(wide, ring.edits)).finding("rotor-on-hub").verdict is Verdict.OK
    short = changed(good, hub__pilot_length_mm=6.0, fit__rotor_spacer_mm=5.0)
    assert solve(short).finding("rotor-on-hub").verdict is Verdict.STOP


def test_attitude_turns_what_is_up(good: Job) -> None:
    """An axle that stands 30° turned up when level moves every bleeder by 30°."""
    plain = solve(changed(good, fit__clock_deg=180.0)).finding("bleeder-up").value
    assert solve(changed(good, fit__clock_deg=180.0, fit__attitude_deg=30.0)).finding(
        "bleeder-up"
    ).value == pytest.approx(abs(plain) + 30.0)


def test_a_radial_mount_has_two_places_for_shims(good: Job) -> None:
    """Seat radius = ear line less the shims under the feet; a cure by shims leaves the bracket as it is, none left is said."""
    radial = (("caliper.mount", "radial"), ("fit.radial_shim_mm", 1.5))
    job = with_edits(good, radial)
    line = line_up(job)
    assert line.radial_seat == pytest.approx(line.ear_line_radius - 1.5)
    solution = solve(job)
    assert solution.finding("radial-seat").verdict is Verdict.OK and "87.5 mm" in solution.finding("radial-seat").why
    tight = with_edits(job, (("fit.pad_inset_mm", 2.6),))
    cure = solve(tight).finding("tip-gap").remedies[0]
    lifted = with_edits(tight, cure.edits)
    assert cure.reversible and line_up(lifted).radial_seat == pytest.approx(line_up(tight).radial_seat)
    assert lifted.fit.radial_shim_mm > 1.5 and solve(lifted).finding("tip-gap").verdict is not Verdict.STOP
    over = with_edits(job, (("fit.pad_inset_mm", -4.0),))
    cure = solve(over).finding("pad-overhang").remedies[0]
    assert not cure.reversible and "no shims are left" in cure.action
    high = solve(with_edits(job, (("fit.radial_shim_mm", 4.5),))).finding("radial-seat")
    assert (
        high.verdict is Verdict.STOP
        and solve(with_edits(job, high.remedies[0].edits)).finding("radial-seat").verdict is Verdict.OK
    )
    assert solve(with_edits(job, (("fit.radial_shim_mm", None),))).finding("radial-seat").verdict is Verdict.UNKNOWN
    assert "radial-seat" not in {f.id for f in solve(good).findings}


def test_a_lip_inside_the_hat(good: Job) -> None:
    """Narrower than the flange the rotor rides on it; ground out it clears; none felt, nothing is asked."""
    lip = with_edits(good, (("rotor.hat_lip_mm", good.hub.flange_diameter_mm - 1.0),))
    finding = solve(lip).finding("rotor-on-hub")
    assert finding.verdict is Verdict.STOP and "0.50 mm over the flange's edge" in finding.why
    assert solve(with_edits(lip, finding.remedies[0].edits)).finding("rotor-on-hub").verdict is Verdict.OK
    assert all(check.label != "Lip in the hat" for check in solve(good).finding("rotor-on-hub").checks)


def test_a_tight_hat_can_go_behind_the_flange(good: Job) -> None:
    """By hand: the ring moves inboard by flange and hat together, and the hat is asked about no more."""
    tight = with_edits(good, (("rotor.hat_inner_diameter_mm", good.hub.flange_diameter_mm - 2.0),))
    finding = solve(tight).finding("rotor-on-hub")
    cure = next(r for r in finding.remedies if "behind the flange" in r.action)
    assert cure.amount_mm == pytest.approx(good.hub.flange_thickness_mm + good.rotor.hat_thickness_mm)
    behind = with_edits(tight, cure.edits)
    assert line_up(tight).rotor_midplane_z - line_up(behind).rotor_midplane_z == pytest.approx(cure.amount_mm)
    assert "Hat over flange" not in {c.label for c in solve(behind).finding("rotor-on-hub").checks}


def test_retainer_bolts_behind_the_plate(good: Job) -> None:
    """A bolt in the middle of the plate is covered: a watch that says the plate comes off first; far from it is met."""
    solution = solve(good)
    x, y = solution.bracket.shape.outline.centroid
    ring = (
        ("hub.retainer_circle_mm", 2 * float(np.hypot(x, y))),
        ("hub.retainer_count", 4),
        ("hub.retainer_socket_mm", 18.0),
    )
    job = with_edits(good, (*ring, ("hub.retainer_first_deg", float(np.degrees(np.arctan2(y, x))))))
    finding = solve(job).finding("retainer-reach")
    near = solution.bracket.shape.outline.distance_to((x, y))
    assert (
        finding.verdict is Verdict.CAUTION
        and finding.value == pytest.approx(-near - 9.0)
        and "come off before" in finding.why
    )
    small = with_edits(job, (("hub.retainer_circle_mm", 20.0),))
    assert solve(small).finding("retainer-reach").verdict is Verdict.OK
    blank = with_edits(job, (("hub.retainer_first_deg", None),))
    assert solve(blank).finding("retainer-reach").verdict is Verdict.UNKNOWN
    none = changed(good, hub__retainer_circle_mm=None)
    assert "retainer-reach" not in {f.id for f in solve(none).findings}

"""Every finding: met, stopped and unknown, its remedies, and limits set by the job."""

import math

import pytest

from bicentra.core.base.finding import Verdict, judge
from bicentra.core.base.records import replace
from bicentra.core.base.registry import Limit
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_edits, with_value
from bicentra.core.parts.job import CORNERS, Job, Obstacle
from bicentra.core.parts.validate import validate

ASKED = (
    "tip-gap", "pad-overhang", "pad-inner-edge", "slot-gap", "axial-offset", "rotor-on-hub", "ligament", "edge-distance",
    "bolt-tip-to-rotor", "thread-engagement", "bracket-to-rotor", "bracket-to-hub", "caliper-to-obstacle", "bleeder-up",
    "wheel-stud-engagement",
)  # fmt: skip


def test_demo_opens_with_one_axial_and_one_bolt_fault(demo: Job) -> None:
    """Two findings say stop: a bolt tip in the rotor and an axial error of 1.8 mm; all others are met."""
    findings = solve(demo).findings
    stops = {f.id for f in findings if f.verdict is Verdict.STOP}
    assert stops == {"bolt-tip-to-rotor", "axial-offset"}
    assert {f.verdict for f in findings if f.id not in stops} == {Verdict.OK}


def test_demo_is_cured_by_its_first_remedies(demo: Job) -> None:
    """The first remedy of each stop, taken in turn, leaves everything met."""
    job = demo
    for _ in range(2):
        job = with_edits(job, solve(job).findings[0].remedies[0].edits)
        validate(job)
    assert set(solve(job).verdicts) == {Verdict.OK}


def test_all_findings_are_there_once(good: Job) -> None:
    """Each id asked for appears exactly once, with a sentence, a source, and a limit."""
    ids = [f.id for f in solve(good).findings]
    assert all(ids.count(id) == 1 for id in ASKED)
    assert all(f.why and f.source for f in solve(good).findings)


STOPPED = [
    ("tip-gap", {"caliper.bridge_to_pad_top_mm": 2.0}, 1.0),
    ("pad-overhang", {"fit.pad_inset_mm": -1.8}, 1.8),
    ("pad-inner-edge", {"rotor.swept_inner_diameter_mm": 170.0}, -2.0),
    ("slot-gap", {"caliper.slot_width_mm": 20.6}, 0.3),
    ("axial-offset", {"bracket.thickness_mm": 8.0}, 2.2),
    ("rotor-on-hub", {"hub.bolt_circle_mm": 108.0}, 8.0),
    ("rotor-on-hub", {"rotor.centre_bore_mm": 56.5}, -0.5),
    ("rotor-on-hub", {"rotor.hole_count": 5}, 1.0),
    ("rotor-on-hub", {"hub.flange_diameter_mm": 141.0}, -0.5),
    ("edge-distance", {"bracket.wall_mm": 4.0}, 10.75),
    ("bolt-tip-to-rotor", {"bracket.caliper_bolt_length_mm": 50.0}, None),
    ("thread-engagement", {"bracket.caliper_bolt_length_mm": 20.0}, 7.5),
    ("bleeder-up", {"caliper.bleeders_deg": (90.0,)}, 176.0),
    ("wheel-stud-engagement", {"hub.stud_length_mm": 20.0}, 8.5),
]


@pytest.mark.parametrize(("id", "changes", "value"), STOPPED, ids=lambda v: str(v)[:40])
def test_findings_stop(good: Job, id: str, changes: dict[str, object], value: float | None) -> None:
    """A fault of each kind is stopped, with the value worked by hand where it follows from one subtraction."""
    job = good
    for path, new in changes.items():
        job = with_value(job, path, new)
    finding = solve(job).finding(id)
    assert finding.verdict is Verdict.STOP
    if value is not None:
        assert finding.value == pytest.approx(value, abs=1e-6)


def test_ligament_against_the_distance_of_centres(good: Job) -> None:
    """Lug moved to 15 mm from an ear: 15 − 13.5 = 1.5 mm of metal is a stop, and a turn is offered."""
    ear = solve(good).line.ears[1]
    job = with_value(with_value(good, "knuckle.lugs[0].x_mm", ear[0] + 15.0), "knuckle.lugs[0].y_mm", ear[1])
    finding = solve(job).finding("ligament")
    assert (finding.verdict, finding.value) == (Verdict.STOP, pytest.approx(1.5))
    cured = solve(with_edits(job, finding.remedies[0].edits)).finding("ligament")
    assert cured.verdict is Verdict.OK


def test_plate_against_rotor_by_subtraction(good: Job) -> None:
    """Ears' face 11 mm inboard of the slot centre, rotor half 10: the plate's outboard face has 1 mm left.

    Lugs 10 mm inboard of that face, so that a 10 mm plate is centred: −27.5 − 11 − 10 = −48.5.
    """
    lugs = tuple(replace(lug, z_mm=-48.5) for lug in good.knuckle.lugs)
    caliper = replace(good.caliper, ear_face_offset_mm=-11.0)
    finding = solve(replace(good, caliper=caliper, knuckle=replace(good.knuckle, lugs=lugs))).finding(
        "bracket-to-rotor"
    )
    assert (finding.verdict, finding.value) == (Verdict.STOP, pytest.approx(1.0))


def test_plate_against_hub_by_subtraction(good: Job) -> None:
    """A hub barrel of Ø 100 takes 50 mm about the axle; the plate is cut back to 50 plus the clearance asked for."""
    job = replace(good, hub=replace(good.hub, barrel_diameter_mm=100.0), limits={"hub-clearance": 1.0})
    finding = solve(job).finding("bracket-to-hub")
    assert (finding.verdict, finding.value) == (Verdict.STOP, pytest.approx(1.0, abs=1e-6))
    assert solve(replace(job, limits={})).finding("bracket-to-hub").value == pytest.approx(3.0, abs=1e-6)


def test_a_plate_cut_in_two_is_a_stop(good: Job) -> None:
    """Ears in front of the axle, lugs behind it, a wide hub between: no plate, said as a stop with what to do."""
    job = replace(good, fit=replace(good.fit, clock_deg=0.0), hub=replace(good.hub, barrel_diameter_mm=136.0))
    solution = solve(job)
    finding = solution.finding("edge-distance")
    assert finding.verdict is Verdict.STOP and "pieces" in finding.why
    assert not solution.feasible


def test_hat_wider_pilot_gets_a_ring_remedy(good: Job) -> None:
    """A bore 0.6 mm over the pilot is a watch: too thin for a ring; 1.5 mm over it a hub-centric ring is the remedy."""
    finding = solve(with_value(good, "rotor.centre_bore_mm", 57.6)).finding("rotor-on-hub")
    assert finding.verdict is Verdict.CAUTION and "ring" not in finding.remedies[0].action
    finding = solve(with_value(good, "rotor.centre_bore_mm", 58.5)).finding("rotor-on-hub")
    assert finding.verdict is Verdict.CAUTION and "hub-centric ring" in finding.remedies[0].action


def test_an_obstacle_in_the_way_is_stopped_and_turned_from(good: Job) -> None:
    """A block inside the caliper's body: stop, lit with the obstacle, cured by turning away."""
    block = Obstacle(
        name="block", outline_mm=((-120, 60), (-100, 60), (-100, 75), (-120, 75)), z_min_mm=-50, z_max_mm=-30
    )
    job = replace(good, knuckle=replace(good.knuckle, obstacles=(block,)))
    finding = solve(job).finding("caliper-to-obstacle")
    assert finding.verdict is Verdict.STOP
    assert "obstacle-0" in finding.features
    assert solve(with_edits(job, finding.remedies[0].edits)).finding("caliper-to-obstacle").verdict is not Verdict.STOP


MISSING = [
    ("tip-gap", "caliper.bridge_to_pad_top_mm"), ("pad-overhang", "fit.pad_inset_mm"), ("pad-inner-edge", "caliper.pad_height_mm"),
    ("slot-gap", "caliper.slot_width_mm"), ("axial-offset", "rotor.overall_height_mm"), ("axial-offset", "knuckle.lugs[1].z_mm"),
    ("rotor-on-hub", "hub.pilot_diameter_mm"), ("ligament", "caliper.ear_spacing_mm"), ("edge-distance", "bracket.wall_mm"),
    ("bolt-tip-to-rotor", "caliper.ear_thickness_mm"), ("thread-engagement", "bracket.lug_bolt"),
    ("bracket-to-rotor", "rotor.hat_inner_diameter_mm"), ("bracket-to-hub", "hub.flange_thickness_mm"),
    ("caliper-to-obstacle", "caliper.body_width_mm"), ("bleeder-up", "fit.clock_deg"), ("wheel-stud-engagement", "hub.stud_length_mm"),
    ("wheel-stud-engagement", "wheel"), ("bracket-to-obstacle", "knuckle.obstacles[0].z_max_mm"), ("bolt-head-room", "caliper.ear_boss_mm"),
]  # fmt: skip


@pytest.mark.parametrize(("id", "path"), MISSING)
def test_a_missing_measurement_is_never_met(good: Job, id: str, path: str) -> None:
    """Leaving out one number makes the finding unknown and says that something is missing."""
    job = with_value(good, "caliper.body_face_mm", ()) if "body_width" in path else good
    finding = solve(with_value(job, path, None)).finding(id)
    assert finding.verdict is Verdict.UNKNOWN
    assert math.isnan(finding.value) or finding.checks or id == "wheel-stud-engagement"


def test_nothing_measured_is_nothing_met() -> None:
    """An empty job solves without an error, and says unknown everywhere."""
    from bicentra.study.document.starting import empty_job

    assert {f.verdict for f in solve(empty_job()).findings} == {Verdict.UNKNOWN}
    assert not solve(empty_job()).feasible


@pytest.mark.parametrize(("id", "limit"), [("tip-gap", 3.0), ("slot-gap", 2.0), ("ligament", 30.0), ("edge-distance", 20.0), ("bleeder-up", 1.0),
                                           ("thread-engagement", 25.0), ("caliper-to-obstacle", 50.0)])  # fmt: skip
def test_a_job_sets_its_own_limits(good: Job, id: str, limit: float) -> None:
    """An override moves the stop, and says that it was set in this job."""
    assert solve(good).finding(id).verdict is Verdict.OK
    finding = solve(replace(good, limits={id: limit})).finding(id)
    assert (finding.verdict, finding.limit) == (Verdict.STOP, limit)
    assert finding.source == "Set in this job"


def test_a_misspelt_limit_is_not_passed_over(good: Job) -> None:
    """A limit that nothing reads shows up as a watch."""
    findings = {f.id: f for f in solve(replace(good, limits={"tip-gab": 1.0})).findings}
    assert findings["unused-limit"].verdict is Verdict.CAUTION


@pytest.mark.parametrize("thickness", [8.0, 9.0, 12.0, 15.0])
@pytest.mark.parametrize("mounting", ["over-hub", "behind-flange"])
@pytest.mark.parametrize("side", ["outboard", "inboard"])
def test_every_axial_remedy_cures_its_error(good: Job, thickness: float, mounting: str, side: str) -> None:
    """Whatever the sign, the mounting and the plate's side: each remedy offered brings the error within a shim."""
    seat = {"outboard": "inboard", "inboard": "outboard"}[side]
    base = (
        {"outboard": -73.7, "inboard": -53.3}[side]
        - (30.5 if mounting == "behind-flange" else 0.0)
        + 14.0 * (mounting == "behind-flange")
    )
    lugs = tuple(replace(lug, z_mm=base, seat=side) for lug in good.knuckle.lugs)
    job = replace(
        good,
        hub=replace(good.hub, mounting=mounting),
        knuckle=replace(good.knuckle, lugs=lugs),
        caliper=replace(good.caliper, ear_seat=seat),
        fit=replace(good.fit, rotor_spacer_mm=3.0),
        bracket=replace(good.bracket, side=side, thickness_mm=thickness, shims_mm=(1.5, 1.5)),
    )
    finding = solve(job).finding("axial-offset")
    assert finding.verdict is Verdict.STOP and finding.remedies
    reversible = [remedy.reversible for remedy in finding.remedies]
    assert reversible == sorted(reversible, reverse=True)
    for remedy in finding.remedies:
        after = with_edits(job, remedy.edits)
        validate(after)
        assert solve(after).finding("axial-offset").value <= 0.06, remedy.action


def test_all_five_places_to_correct_are_named(demo: Job) -> None:
    """Too far outboard: a rotor spacer, another plate, another rotor, the lugs; shims when they are there."""
    job = replace(demo, bracket=replace(demo.bracket, shims_mm=(2.0, 2.0)))
    actions = " | ".join(r.action for r in solve(job).finding("axial-offset").remedies)
    for word in ("shims", "rotor spacer", "stock instead", "rotor", "lug faces"):
        assert word in actions
    effects = " ".join(e for r in solve(job).finding("axial-offset").remedies for e in r.side_effects)
    assert "track" in effects and "stud" in effects and "pilot" in effects


def test_bolt_remedies_clear_and_still_hold(demo: Job) -> None:
    """Every remedy for a bolt in the rotor leaves both the tip gap and the thread engagement without a stop."""
    for remedy in solve(demo).finding("bolt-tip-to-rotor").remedies:
        after = solve(with_edits(demo, remedy.edits))
        assert after.finding("bolt-tip-to-rotor").verdict is not Verdict.STOP
        assert after.finding("thread-engagement").verdict is not Verdict.STOP


def test_worn_out_combinations_never_raise(good: Job) -> None:
    """Odd but valid jobs solve: radial mount, tiny and huge rotors, every corner, inches."""
    for corner in CORNERS:
        for diameter in (120.0, 430.0):
            job = replace(good, corner=corner, display_units="in", rotor=replace(good.rotor, diameter_mm=diameter, swept_inner_diameter_mm=90.0,
                          hat_inner_diameter_mm=80.0), caliper=replace(good.caliper, mount="radial", pad_width_mm=40.0))  # fmt: skip
            validate(job)
            assert solve(job).finding("unsupported").verdict is Verdict.UNKNOWN


def test_judge_knows_three_answers_and_unknown() -> None:
    """At the limit is met; between stop and watch is a watch; not a number is never met."""
    limit = Limit(2.0, 3.0)
    assert [judge(v, limit) for v in (1.99, 2.0, 2.99, 3.0, math.inf)] == ["stop", "caution", "caution", "ok", "ok"]
    assert judge(math.nan, limit) is Verdict.UNKNOWN
    assert judge(1.0, Limit(math.nan, math.nan)) is Verdict.UNKNOWN


def test_bolts_are_named_as_they_are_bought(demo: Job) -> None:
    """A metric bolt keeps its millimetres in a job read in inches; an inch bolt its inches in a metric one."""
    inch = solve(replace(demo, display_units="in")).finding("bolt-tip-to-rotor").remedies[0].action
    assert "M12x1.5 × 35 mm" in inch and "394 thou shorter" in inch
    imperial = replace(demo, bracket=replace(demo.bracket, caliper_bolt="1/2-20", caliper_bolt_length_mm=50.8))
    assert "1/2-20 × 1.375 in" in solve(imperial).finding("bolt-tip-to-rotor").remedies[0].action


def test_an_ear_bolt_that_meets_an_obstacle_is_seen(good: Job) -> None:
    """The head of an ear bolt stands inboard of the plate: a block there is a stop though ear and body clear it."""
    x, y, _ = solve(good).line.ears[0]
    block = Obstacle(
        name="block",
        outline_mm=((x - 4, y - 4), (x + 4, y - 4), (x + 4, y + 4), (x - 4, y + 4)),
        z_min_mm=-95,
        z_max_mm=-80,
    )
    finding = solve(replace(good, knuckle=replace(good.knuckle, obstacles=(block,)))).finding("caliper-to-obstacle")
    assert finding.verdict is Verdict.STOP and finding.features == ("ear-bolt-0", "obstacle-0")


def test_a_certain_clash_is_not_hidden_by_a_missing_number(demo: Job) -> None:
    """One obstacle lies in the caliper, of another the depth is missing: stop. A bolt in the rotor stays a stop too."""
    block = Obstacle(
        name="block", outline_mm=((-120, 60), (-100, 60), (-100, 75), (-120, 75)), z_min_mm=-50, z_max_mm=-30
    )
    vague = Obstacle(name="vague", outline_mm=((100, 0), (110, 0), (110, 9)), z_min_mm=None, z_max_mm=None)
    job = replace(demo, knuckle=replace(demo.knuckle, obstacles=(vague, block)))
    assert solve(job).finding("caliper-to-obstacle").verdict is Verdict.STOP
    only = replace(demo, knuckle=replace(demo.knuckle, obstacles=(vague,)))
    assert solve(only).finding("caliper-to-obstacle").verdict is Verdict.UNKNOWN
    assert (
        solve(with_value(demo, "knuckle.lugs[0].thickness_mm", None)).finding("bolt-tip-to-rotor").verdict
        is Verdict.STOP
    )


def test_the_hot_tip_gap_speaks_for_itself_when_it_decides(good: Job) -> None:
    """Cold 2.1 is met; 1200 K above cold the rim grows 11.5e-6 · 1200 · 128 = 1.766: 0.334 hot is what is shown."""
    hot = with_edits(good, (("limits", {"hot-rise-k": 1200.0}), ("caliper.bridge_to_pad_top_mm", 3.1)))
    finding = solve(hot).finding("tip-gap")
    assert (finding.verdict, finding.value, finding.limit) == (Verdict.STOP, pytest.approx(0.3336), 0.5)
    assert "Hot" in finding.why and "no published source" in finding.source
    cured = with_edits(hot, finding.remedies[0].edits)
    assert solve(cured).finding("tip-gap").verdict is Verdict.OK

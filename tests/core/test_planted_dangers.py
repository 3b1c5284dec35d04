"""Dangers put into jobs and vehicles that are otherwise in order: each draws the finding that names it. All of them are invented."""

import math

import pytest

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.heat.stops import DUTIES
from bicentra.core.heat.train import train_of
from bicentra.core.hydraulics.chain import chain_of
from bicentra.core.hydraulics.pedal import pedal_findings
from bicentra.core.parts.corners import job_of, vehicle_of
from bicentra.core.parts.edits import with_edits, with_value
from bicentra.core.parts.job import Job
from bicentra.core.parts.vehicle import Drum, Vehicle
from bicentra.study.document.starting import EXAMPLES, demo_vehicle, example_vehicle

NOT_OK = (Verdict.STOP, Verdict.CAUTION)
STOP = (Verdict.STOP,)
Edits = tuple[tuple[str, object], ...]

DANGERS: tuple[tuple[str, str, Edits, tuple[Verdict, ...]], ...] = (
    ("fixed, pistons on one side", "caliper-sizes", (("caliper.pistons_outboard_mm", ()),), STOP),
    ("fixed, unlike pistons", "caliper-sizes", (("caliper.pistons_outboard_mm", (44.0, 44.0)),), STOP),
    ("floating with opposed pistons", "caliper-sizes", (("caliper.action", "floating"),), STOP),
    ("slot far too wide", "caliper-sizes", (("caliper.slot_width_mm", 38.0),), STOP),
    ("piston larger than the pad", "caliper-sizes",
     (("caliper.pistons_inboard_mm", (62.0,)), ("caliper.pistons_outboard_mm", (62.0,))), STOP),
    ("pad wider than the body", "caliper-sizes", (("caliper.body_width_mm", 90.0),), STOP),
    ("slot wider than the body", "caliper-sizes", (("caliper.body_inboard_mm", 11.0),), STOP),
    ("bridge without metal", "caliper-sizes", (("caliper.body_outer_mm", 3.0),), STOP),
    ("ear hole fills its ear", "caliper-sizes", (("caliper.ear_boss_mm", 13.0),), STOP),
    ("ear thread drilled out", "caliper-sizes", (("caliper.ear_hole_mm", 12.0),), STOP),
    ("lug thread drilled out", "lug-sizes", (("knuckle.lugs[0].hole_mm", 12.2),), STOP),
    ("no metal round a lug's hole", "lug-sizes", (("knuckle.lugs[0].boss_mm", 10.0),), STOP),
    ("bore into the stud holes", "rotor-sizes", (("rotor.centre_bore_mm", 90.0),), STOP),
    ("stud holes in the hat's wall", "rotor-sizes", (("rotor.hat_inner_diameter_mm", 110.0),), STOP),
    ("rotor heavier than iron", "rotor-sizes", (("rotor.mass_kg", 54.0),), STOP),
    ("studs off the flange", "hub-sizes", (("hub.flange_diameter_mm", 104.0),), STOP),
    ("studs in the pilot", "hub-sizes", (("hub.pilot_diameter_mm", 92.0),), STOP),
    ("wheel bore into its holes", "wheel-sizes", (("wheel.centre_bore_mm", 95.0),), STOP),
    ("printed bracket", "bracket-choices", (("bracket.material", "PLA"),), STOP),
    ("lead bracket", "bracket-choices", (("bracket.material", "lead"),), STOP),
    ("magnesium bracket", "bracket-choices", (("bracket.material", "magnesium AZ31"),), STOP),
    ("no metal named", "bracket-choices", (("bracket.material", ""),), (Verdict.UNKNOWN,)),
    ("no locking", "bracket-choices", (("bracket.lock", "nothing"),), STOP),
    ("holes 24 on M12", "rotor-on-hub", (("rotor.hole_mm", 24.0),), STOP),
    ("ring of a tenth", "rotor-on-hub", (("rotor.centre_bore_mm", 57.2), ("fit.hub_ring", "aluminium")), STOP),
    ("plastic ring stays", "rotor-on-hub", (("rotor.centre_bore_mm", 60.0), ("fit.hub_ring", "plastic")), NOT_OK),
    ("rotor over a barrel it cannot pass", "rotor-on-hub",
     (("hub.mounting", "behind-flange"), ("hub.barrel_diameter_mm", 110.0), ("rotor.centre_bore_mm", 98.0),
      ("hub.pilot_diameter_mm", 97.9), ("hub.bolt_circle_mm", 130.0), ("rotor.bolt_circle_mm", 130.0)), STOP),
    ("wheel far too loose", "wheel-on-hub", (("wheel.centre_bore_mm", 72.6),), NOT_OK),
    ("pilot short of the wheel", "wheel-on-hub", (("hub.pilot_length_mm", 7.0),), NOT_OK),
    ("wheel of which nothing is known", "wheel-on-hub",
     (("wheel.centre_bore_mm", None), ("wheel.bolt_circle_mm", None), ("wheel.hole_count", None)), (Verdict.UNKNOWN,)),
    ("the rotor's own screws as wheel studs", "wheel-stud-engagement", (("hub.stud_thread", "5/16-18"),), NOT_OK),
    ("a bolt through a threaded lug", "thread-fit", (("bracket.lug_hole", "tapped"),), STOP),
    ("shims under one ear", "caliper-tilt", (("fit.ear_shims_mm", ((0.4,), ())),), STOP),
    ("nobody looked round", "bracket-to-obstacle", (("knuckle.obstacles", ()), ("knuckle.obstacles_none", False)), NOT_OK),
    ("nobody looked round", "caliper-to-obstacle", (("knuckle.obstacles", ()), ("knuckle.obstacles_none", False)), NOT_OK),
    ("caliper heavier than iron", "caliper-sizes", (("caliper.mass_kg", 40.0),), STOP),
    ("a pad struck for another rotor", "caliper-sizes", (("caliper.pad_outer_radius_mm", 60.0),), STOP),
    ("pads with no room for a piston", "caliper-sizes", (("caliper.pad_thickness_mm", 60.0),), STOP),
    ("drilled away", "rotor-sizes", (("rotor.through_holes", 400), ("rotor.through_hole_mm", 12.0)), STOP),
    ("slotted through", "rotor-sizes", (("rotor.slots", 24), ("rotor.slot_wide_mm", 3.0), ("rotor.slot_deep_mm", 9.0)), STOP),
    ("a flange of tin", "hub-sizes", (("hub.flange_thickness_mm", 2.0),), STOP),
    ("a limit that switches a finding off", "limit-not-accepted", (("limits", {"tip-gap": -50.0}),), STOP),
    ("a limit that means nothing", "limit-not-accepted", (("limits", {"axial-offset": 9.0}),), STOP),
)  # fmt: skip


def worst_of(solution: Solution, id: str) -> Verdict | None:
    """The worst verdict of the findings called ``id``; ``None`` where it is not asked."""
    return min((f.verdict for f in solution.findings if f.id == id), key=lambda v: v.rank, default=None)


@pytest.mark.parametrize(("text", "id", "edits", "allowed"), DANGERS, ids=[f"{row[0]}: {row[1]}" for row in DANGERS])
def test_a_danger_in_a_corner_is_found(
    good: Job, text: str, id: str, edits: Edits, allowed: tuple[Verdict, ...]
) -> None:
    """What cannot work, cannot exist or was never looked at is said by the finding that it belongs to, and was not said before."""
    del text
    before = worst_of(solve(good), id)
    assert before in (None, Verdict.OK)
    found = solve(with_edits(good, edits))
    assert worst_of(found, id) in allowed
    said = next(f for f in found.findings if f.id == id and f.verdict in allowed)
    assert len(said.why) > 20 and "nan" not in said.why


def test_faces_apart_lean_the_caliper_at_its_ears(good: Job) -> None:
    """Lug faces 0.44 mm apart under like shims: 0.22 of 0.25 at the lugs, but 0.315° and ±0.35 mm at the ears; plane geometry."""
    first, second = good.knuckle.lugs
    held = solve(good).assembly.stack_up
    apart = (
        ("bracket.thickness_mm", held.thickness), ("bracket.shims_mm", held.shims),
        ("knuckle.lugs[0].z_mm", first.z_mm + 0.22), ("knuckle.lugs[1].z_mm", second.z_mm - 0.22),
    )  # fmt: skip
    job = with_edits(good, apart)
    solution = solve(job)
    assert solution.finding("axial-offset").verdict is Verdict.OK
    tilt = solution.finding("caliper-tilt")
    line, lugs = solution.line, job.knuckle.lugs
    slope = 0.44 / math.dist((lugs[0].x_mm, lugs[0].y_mm), (lugs[1].x_mm, lugs[1].y_mm))
    along = [(lugs[0].x_mm - lugs[1].x_mm) * slope, (lugs[0].y_mm - lugs[1].y_mm) * slope]
    length = math.hypot(*along) / slope
    ears = [(x, y) for x, y, _ in line.ears]
    middle = ((lugs[0].x_mm + lugs[1].x_mm) / 2, (lugs[0].y_mm + lugs[1].y_mm) / 2)
    at = [((x - middle[0]) * along[0] + (y - middle[1]) * along[1]) / length for x, y in ears]
    assert tilt.verdict is Verdict.STOP
    degrees = math.degrees(math.atan((at[1] - at[0]) / job.caliper.ear_spacing_mm))
    assert tilt.value == pytest.approx(abs(degrees), abs=1e-6)
    cured = solve(with_edits(job, tilt.remedies[0].edits)).finding("caliper-tilt")
    assert cured.verdict is Verdict.OK


def test_shims_at_the_ears_count_when_shims_are_chosen(good: Job) -> None:
    """What Bicentra chooses left the ears' shims out, and stopped its own choice."""
    job = with_edits(
        good, (("fit.ear_shims_mm", ((0.5,), (0.5,))), ("bracket.shims_mm", None), ("bracket.thickness_mm", None))
    )
    assert solve(job).finding("axial-offset").verdict is Verdict.OK


def test_a_changed_limit_is_named_in_the_finding(good: Job) -> None:
    """A limit that the job changes within what is accepted judges, and is told where the finding is."""
    finding = solve(with_edits(good, (("limits", {"tip-gap": 1.5}),))).finding("tip-gap")
    assert finding.limit == 1.5 or finding.verdict is not Verdict.OK
    assert "Limit changed by this job: tip-gap 1.5 instead of 1.78" in finding.why


def test_a_one_sided_caliper_is_not_said_to_fit_either_side(good: Job) -> None:
    """One bleed screw, or a port off the middle: the other side takes its mirror image."""
    plain = with_edits(good, (("caliper.hand", "either"), ("rotor.vanes", "straight")))
    one = solve(with_edits(plain, (("caliper.bleeders_deg", (40.0,)),))).finding("handedness")
    port = solve(with_edits(plain, (("caliper.hose_port_mm", ((30.0, 10.0, -20.0),)),))).finding("handedness")
    both = solve(with_edits(plain, (("caliper.bleeders_deg", (40.0, -40.0)), ("caliper.hose_port_mm", ())))).finding(
        "handedness"
    )
    assert "mirror image" in one.why and "either" not in one.why and "port" in port.why and "either" in both.why


def test_a_certain_stop_is_not_told_as_unknown(good: Job) -> None:
    """A floating caliper with 5 mm beside its rotor and 8.5 mm of pads to wear stops, whatever the wheel is."""
    edits = (("caliper.action", "floating"), ("caliper.slot_width_mm", 30.0), ("caliper.pad_thickness_mm", 10.0),
             ("rotor.min_thickness_mm", 18.0), ("wheel", None))  # fmt: skip
    assert solve(with_edits(good, edits)).finding("float-travel").verdict is Verdict.STOP


def test_left_and_right_are_one_axle() -> None:
    """Other pistons at one corner alone are told at both corners and by the pedal, whose torque is that of both wheels."""
    vehicle = demo_vehicle()
    corners = dict(vehicle.corners)
    other = replace(corners["front-left"], overrides={"caliper.pistons_inboard_mm": (42.0, 42.0),
                                                      "caliper.pistons_outboard_mm": (42.0, 42.0)})  # fmt: skip
    unlike = replace(vehicle, corners={**corners, "front-left": other})
    for corner in ("front-right", "front-left"):
        assert worst_of(solve(job_of(unlike, corner)), "axle-matched") is Verdict.STOP
    assert {f.id: f.verdict for f in pedal_findings(unlike)}["pedal-sides"] is Verdict.STOP
    one, two = chain_of(vehicle).ends[0], chain_of(unlike).ends[0]
    assert two.gain == pytest.approx(one.gain * (1 + (42 / 36) ** 2) / 2)


VEHICLES: tuple[tuple[str, str, Edits, tuple[Verdict, ...]], ...] = (
    ("one circuit", "pedal-circuits", (("vehicle.master.kind", "single"),), STOP),
    ("rear bore of a plain tandem", "vehicle-sizes", (("vehicle.master.rear_bore_mm", 19.05),), STOP),
    ("front heavier than the whole", "vehicle-sizes", (("vehicle.front_axle_kg", 5000.0),), STOP),
    ("pedal whose lengths make another ratio", "vehicle-sizes",
     (("vehicle.pedal.ratio", 5.0), ("vehicle.pedal.pivot_to_pad_mm", 300.0), ("vehicle.pedal.pivot_to_rod_mm", 75.0)), STOP),
    ("gain without a booster", "vehicle-sizes", (("vehicle.booster.kind", "none"), ("vehicle.booster.gain", 4.0)), STOP),
    ("mineral oil", "vehicle-sizes", (("vehicle.fluid.name", "Mineral oil LHM"),), STOP),
    ("silicone fluid", "vehicle-sizes", (("vehicle.fluid.name", "DOT 5 silicone"),), NOT_OK),
    ("fluid that boils later wet", "vehicle-sizes",
     (("vehicle.fluid.dry_boil_c", 150.0), ("vehicle.fluid.wet_boil_c", 230.0)), STOP),
    ("friction of a slide", "vehicle-sizes", (("axles.front.pad.mu", 0.04),), STOP),
    ("tyre smaller than the rotor", "vehicle-sizes", (("axles.front.tyre_radius_mm", 120.0),), STOP),
    ("tyres of glue", "vehicle-sizes", (("vehicle.tyre_mu", 2.5),), STOP),
    ("a booster that helps nobody", "vehicle-sizes",
     (("vehicle.booster.kind", "vacuum"), ("vehicle.booster.gain", 4.0), ("vehicle.booster.runout_n", 50.0)), STOP),
    ("stability system", "pedal-stability", (("vehicle.stability_system", True),), NOT_OK),
    ("pedal on the floor", "pedal-floor", (("vehicle.pedal.stroke_mm", 60.0),), STOP),
    ("rear gets nothing", "pedal-both-axles",
     (("axles.rear.drum.threshold_bar", 50.0), ("vehicle.master.bore_mm", 40.0)), STOP),
    ("pressure no hose holds", "pedal-line", (("vehicle.booster.kind", "vacuum"), ("vehicle.booster.gain", 6.0)), STOP),
)  # fmt: skip


@pytest.mark.parametrize(("text", "id", "edits", "allowed"), VEHICLES, ids=[row[0] for row in VEHICLES])
def test_a_danger_in_the_vehicle_is_found(text: str, id: str, edits: Edits, allowed: tuple[Verdict, ...]) -> None:
    """What the pedal bench is told and cannot be, or may not be, is said by name."""
    del text
    assert {f.id: f.verdict for f in pedal_findings(demo_vehicle())}.get(id) in (None, Verdict.OK)
    assert {f.id: f.verdict for f in pedal_findings(changed(demo_vehicle(), edits))}.get(id) in allowed


def changed(vehicle: Vehicle, edits: Edits) -> Vehicle:
    """A vehicle with key paths of the file changed."""
    for path, value in edits:
        vehicle = with_value(vehicle, path, value)
    return vehicle


def test_rear_discs_ask_for_a_parking_brake() -> None:
    """Drums hold a parked vehicle; discs in their place ask which brake does, and none is a stop."""
    vehicle = demo_vehicle()
    rear = replace(
        vehicle.axles["rear"], drum=None, rotor=vehicle.axles["front"].rotor, caliper=vehicle.axles["front"].caliper
    )
    discs = replace(vehicle, axles={**vehicle.axles, "rear": rear})
    asked = {f.id: f.verdict for f in pedal_findings(discs)}
    assert asked["parking-brake"] is Verdict.UNKNOWN
    from bicentra.core.parts.job import Parking

    for kind, verdict in (("none", Verdict.STOP), ("combined", None), ("drum-in-hat", None)):
        stated = replace(discs, axles={**discs.axles, "rear": replace(rear, parking=Parking(kind=kind))})
        assert {f.id: f.verdict for f in pedal_findings(stated)}.get("parking-brake") is verdict


def test_a_circuit_that_runs_out_of_stroke_brakes_nothing() -> None:
    """A master whose stroke is used up by the lost circuit told the deceleration of one that has stroke left."""
    vehicle = changed(demo_vehicle(), (("vehicle.master.stroke_mm", 20.0),))
    finding = next(f for f in pedal_findings(vehicle) if f.id == "pedal-failed")
    assert finding.verdict is Verdict.STOP and finding.value == 0.0 and "nothing brakes" in finding.why


def test_iron_that_glows_is_told() -> None:
    """A rotor or drum at 698 °C said nothing."""
    vehicle = demo_vehicle()
    small = replace(vehicle.axles["front"], rotor=replace(vehicle.axles["front"].rotor, thickness_mm=7.0, vanes="none"))
    hot = train_of(replace(vehicle, axles={**vehicle.axles, "front": small}), DUTIES["track day"])
    assert {f.id: f.verdict for f in hot.findings}["heat-rotor"] is Verdict.STOP
    drums = replace(vehicle.axles["rear"], drum=replace(vehicle.axles["rear"].drum or Drum(), diameter_mm=120.0))
    hot = train_of(replace(vehicle, axles={**vehicle.axles, "rear": drums}), DUTIES["track day"])
    assert {f.id: f.verdict for f in hot.findings}["heat-drum"] in NOT_OK


@pytest.mark.parametrize("name", EXAMPLES)
def test_no_example_contradicts_itself(name: str) -> None:
    """Every shipped example is free of contradictions and of stops; so is what the library holds, below."""
    vehicle = example_vehicle(name)
    for corner in vehicle.corners:
        found = solve(job_of(vehicle, corner)).findings
        said = [
            f.id for f in found if f.id.endswith(("-sizes", "-choices", "-matched")) and f.verdict is not Verdict.OK
        ]
        assert said == [] and not [f.id for f in found if f.verdict is Verdict.STOP]


def test_every_caliper_and_rotor_of_the_library_agrees_with_itself(good: Job) -> None:
    """No part that ships is called a contradiction."""
    from bicentra.core.consistency.caliper import caliper_conflicts
    from bicentra.core.consistency.turning import rotor_conflicts
    from bicentra.study.library.library import whole_library

    library = whole_library()
    for part in library.of_kind("caliper"):
        job = replace(good, caliper=part.caliper, rotor=replace(good.rotor, thickness_mm=None))
        assert list(caliper_conflicts(job, job.lengths)) == [], part.name
    for part in library.of_kind("rotor"):
        job = replace(good, rotor=part.rotor)
        assert [one.text for one in rotor_conflicts(job, job.lengths) if one.stop] == [], part.name


def test_a_trial_counts_the_shims_at_both_places() -> None:
    """3 mm under the ears of a trial left the ears' bolts 3 mm of thread they do not have."""
    from bicentra.core.parts.trial import ShimStacks, Trial
    from bicentra.core.trialfit.fit import trial_fit

    vehicle = example_vehicle("trial-fit")
    job = job_of(vehicle)

    def engaged(under: tuple[float, ...]) -> float:
        trial: Trial = replace(job.trials[-1], ear_shims_mm=ShimStacks(first=under, second=under))
        solution = solve(replace(job, trials=(trial,)))
        fit = trial_fit(solution)
        from bicentra.core.trialfit.bolts import bolts_after
        from bicentra.core.trialfit.plan import ShimPlan

        assert fit is not None
        here = ShimPlan("lug", *trial.shims_mm.sides, fit.pose.offset.value, fit.pose.tilt.value)
        after = bolts_after(solution.assembly, fit.stations, here, trial)
        return min(bolt.engagement for bolt in after if bolt.feature.startswith("ear"))

    bare, packed = engaged(()), engaged((3.0, 3.0, 3.0))
    assert (bare, packed) == (
        18.0,
        pytest.approx(35.0 - 12.5 - 9.0),
    )  # 35 mm bolts, 12.5 mm of plate and washer, 18 mm of ear


def test_a_lock_rests_on_the_wheel_and_on_its_own_marks() -> None:
    """Another wheel, or a lock whose marks were taken out of the file, left the corner locked."""
    from bicentra.core.trialfit.fit import standing_fit
    from bicentra.core.trialfit.log import CornerState, prints_of

    job = job_of(example_vehicle("trial-fit"))
    locked = replace(job, trials=(*job.trials[:-1], replace(job.trials[-1], locked=True, lock=prints_of(job))))
    assert standing_fit(solve(locked)).standing.state is CornerState.LOCKED
    wheel = replace(locked, wheel=replace(locked.wheel, centre_thickness_mm=locked.wheel.centre_thickness_mm + 1.0))
    assert "the wheel" in standing_fit(solve(wheel)).standing.broken
    bare = replace(locked, trials=(*locked.trials[:-1], replace(locked.trials[-1], lock={})))
    assert standing_fit(solve(bare)).standing.state is not CornerState.LOCKED


def test_deep_gaps_that_tell_of_a_lean_are_judged() -> None:
    """0.6 and 2.4 thirty millimetres in, against 1.4 and 1.6 at the mouth: 1.5° of lean that was fitted and never judged."""
    from bicentra.core.parts.trial import Gaps
    from bicentra.core.trialfit.fit import trial_fit

    job = job_of(vehicle_of(job_of(example_vehicle("trial-fit"))))
    gaps = Gaps(leading_outboard=1.4, leading_inboard=1.6, trailing_outboard=1.4, trailing_inboard=1.6)
    deep = Gaps(leading_outboard=0.6, leading_inboard=2.4, trailing_outboard=0.6, trailing_inboard=2.4)
    trial = replace(job.trials[-1], gaps_mm=gaps, deep_gaps_mm=deep, deep_by_mm=30.0)
    fit = trial_fit(solve(replace(job, trials=(trial,))))
    lean = next(f for f in fit.findings if f.id == "trial-lean")
    assert lean.verdict is Verdict.STOP and lean.value == pytest.approx(math.degrees(math.atan(0.8 / 30.0)), abs=0.02)

"""Signs and senses, each by hand or by moving what it is about: a wrong one cuts a wrong bracket and still looks right."""

import math

import numpy as np
import pytest

from bicentra.core.base.errors import JobError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.numbers import known
from bicentra.core.base.records import replace
from bicentra.core.bracket.families.table import FAMILIES
from bicentra.core.bracket.prisms import bolt_prisms
from bicentra.core.clearance.travel import hose_sweep, pad_wear, travel_room
from bicentra.core.drawing.model import Drawing, Handle
from bicentra.core.drawing.space.scene import Scene, mirrored_scene
from bicentra.core.drawing.views.face import face_view
from bicentra.core.drawing.views.section import section_view
from bicentra.core.evaluation.solution import solve
from bicentra.core.fasteners.joint import make_joint, nut_stack
from bicentra.core.geometry.outline import Outline
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.edits import get_value, with_edits
from bicentra.core.parts.job import Job, Obstacle
from bicentra.core.parts.limits import allowance, limit_for
from bicentra.core.parts.materials import CALIPER_EXPANSION
from bicentra.core.parts.survey import Survey, Sweep, SweepReading
from bicentra.core.parts.threads import find_thread
from bicentra.core.parts.validate import validate
from bicentra.core.parts.validate_vehicle import file_path
from bicentra.core.search.clock_invariant import still_set
from bicentra.core.search.score import criteria_met
from bicentra.core.search.sweep import hull_distance, sweep_set
from bicentra.core.survey.runout import analyse
from bicentra.core.uncertainty.assess import surveyed
from bicentra.core.uncertainty.doubts import play_bands, radial_play
from bicentra.core.uncertainty.propagate import survey_inputs
from tests.jobs import meeting


@pytest.fixture
def alone(good: Job) -> Job:
    """The corner without obstacles."""
    return with_edits(good, (("knuckle.obstacles", ()),))


def test_a_caliper_too_far_outboard_has_less_way_out(alone: Job) -> None:
    """Slot 23 over a rotor of 20 leaves 1.5 each way; set e too far outboard, its inboard wall is e nearer the rotor."""
    cut = solve(with_edits(alone, (("caliper.action", "floating"),)), turns=False).assembly.stack_up
    held = (("caliper.action", "floating"), ("bracket.thickness_mm", cut.thickness), ("bracket.shims_mm", cut.shims))
    offset = get_value(alone, "caliper.ear_face_offset_mm")
    for lift in (0.0, 0.4, -0.3):
        job = with_edits(alone, (*held, ("caliper.ear_face_offset_mm", offset - lift)))
        assembly = solve(job, turns=False).assembly
        inboard, outboard = travel_room(assembly, assembly.line.frame.here)
        assert assembly.stack_up.error == pytest.approx(cut.error + lift)
        assert outboard.value[0] == pytest.approx(assembly.line.slot_gap - assembly.stack_up.error)
        assert outboard.pair() == ("caliper", "rotor")
        assert inboard.value[0] <= assembly.line.slot_gap + assembly.stack_up.error + 1e-9


def test_a_hose_port_lies_as_deep_as_it_is_said(alone: Job) -> None:
    """A ledge 25 mm outboard of the port, over all of it: 25 mm of room; put 7 deeper outboard, 18."""
    for depth, room in ((0.0, 25.0), (7.0, 18.0)):
        job = with_edits(alone, (("caliper.hose_port_mm", ((0.0, 30.0, depth),)),))
        assembly = solve(job, turns=False).assembly
        z = assembly.line.rotor_midplane_z + assembly.stack_up.error
        ledge = Obstacle(name="ledge", outline_mm=((-400.0, -400.0), (400.0, -400.0), (400.0, 400.0), (-400.0, 400.0)),
                         z_min_mm=z + 25.0, z_max_mm=z + 30.0)  # fmt: skip
        under = solve(with_edits(job, (("knuckle.obstacles", (ledge,)),)), turns=False).assembly
        swept = hose_sweep(under, under.line.frame.here)
        assert swept.value[0] == pytest.approx(min(room, 1e9), abs=1e-6) or swept.pair()[1] != "obstacle-0"
        assert swept.pair()[1] == "obstacle-0" or swept.value[0] < room


def test_heat_and_play_close_the_wheel_room(good: Job) -> None:
    """Hot: the aluminium's rise over the pad's top radius, and the bearings' play, both taken away."""
    solution = solve(good, turns=False)
    cold, hot = solution.finding("wheel-room").checks
    less = CALIPER_EXPANSION * allowance(good, "caliper-rise-k") * solution.line.pad_top_radius
    assert cold.value - hot.value == pytest.approx(less + allowance(good, "bearing-play")) and less > 0


def test_what_sticks_out_ends_at_the_tip(good: Job) -> None:
    """Head and tip of every bolt, from the head's top and the tip inwards, along the bolt's own way."""
    for placed in solve(good, turns=False).assembly.joints:
        head, *tips = bolt_prisms(placed)
        assert {head.z0, head.z1} == {placed.seat_z, placed.head_z}
        for tip in tips:
            ends = sorted((placed.tip_z, placed.tip_z - placed.way * placed.joint.protrusion))
            nut = placed.joint.stack.female == "nut"
            assert placed.tip_z in (tip.z0, tip.z1) and (nut or [tip.z0, tip.z1] == pytest.approx(ends))


def test_a_nut_is_passed_by_a_pitch() -> None:
    """M12x1.5 through 20 mm and two washers: the shortest stock length that leaves a pitch or more past the nut, and no shorter."""
    thread = find_thread("M12x1.5")
    joint = make_joint(thread, nut_stack(thread, 20.0, 2), None)
    least = 20.0 + 2 * thread.hardware.washer_thickness + thread.hardware.nut_height + thread.pitch
    assert joint.protrusion >= thread.pitch and joint.length == min(x for x in thread.stock_lengths if x >= least)


def test_a_warp_turns_twice() -> None:
    """A flange that bends like a saddle, 0.03 about 20°: the curve found is the one put in, all round; so are tilt and warp."""
    turns = np.radians(np.arange(0.0, 360.0, 15.0))

    def put_in(at: np.ndarray) -> np.ndarray:
        return 0.4 + 0.05 * np.cos(at - 1.1) + 0.03 * np.cos(2 * (at - math.radians(20.0)))

    rows = tuple(SweepReading(at_deg=math.degrees(a), value_mm=float(v)) for a, v in zip(turns, put_in(turns)))
    found = analyse(Survey(), Sweep(on="hub-face", radius_mm=60.0, readings=rows))
    fine = np.linspace(0.0, 2 * np.pi, 100)
    assert found.curve(fine) == pytest.approx(put_in(fine), abs=1e-9)
    assert (abs(found.tilt), abs(found.warp)) == pytest.approx((0.05, 0.03))


def test_bosses_of_unlike_size_keep_their_distance(alone: Job) -> None:
    """Walls of 4, 15, 20 and 7 mm: the hull's distance from the axis is that of points on its edge, at every angle."""
    job = with_edits(alone, (("bracket.boss_walls_mm", (4.0, 15.0, 20.0, 7.0)),))
    for angle in (150.0, 185.0, 222.0):
        assembly = solve(with_edits(job, (("fit.clock_deg", angle),)), turns=False).assembly
        discs = [(np.array(hole.centre), hole.boss_radius) for hole in assembly.holes]
        around, wide, far = 0.0, math.pi, np.array([0.0])
        for _ in range(4):  # the direction whose line lies furthest between axis and hull, ever closer
            turns = around + np.linspace(-wide, wide, 4001)
            way = np.stack([np.cos(turns), np.sin(turns)], axis=-1)
            far = np.min([way @ centre - radius for centre, radius in discs], axis=0)
            around, wide = float(turns[far.argmax()]), wide / 500
        assert hull_distance(assembly, assembly.line.frame.here)[0] == pytest.approx(far.max(), abs=1e-5)


def test_a_centred_caliper_counts_for_more(good: Job) -> None:
    """One that is centred has all of that criterion; off by a share of the limit, so much less."""
    cut, offset = solve(good, turns=False).assembly.stack_up, get_value(good, "caliper.ear_face_offset_mm")
    limit = limit_for(good, "axial-offset").stop
    for off in (0.0, 0.05, -0.1):
        job = with_edits(good, (("bracket.shims_mm", cut.shims), ("bracket.thickness_mm", cut.thickness), ("survey", {}),
                                ("caliper.ear_face_offset_mm", offset + off)))  # fmt: skip
        swept = sweep_set(still_set(job, 184.0, job.lengths), np.array([184.0]))
        error = swept.assembly.stack_up.worst_error
        share = float(criteria_met(swept, np.array([0]), np.radians([184.0]))["centred"][0])
        assert abs(error) == pytest.approx(abs(cut.error - off), abs=1e-6)
        assert share == pytest.approx(1.0 - abs(error) / limit)


def test_a_mirrored_cut_goes_through_the_mirrored_points() -> None:
    """Any point of the cut lies in the mirrored cut once it is mirrored itself."""
    normal, away = (math.cos(2.9), math.sin(2.9), 0.0), 87.0
    (nx, ny, nz), distance = mirrored_scene(Scene((), (normal, away))).cut
    for along in (-40.0, 0.0, 65.0):
        x, y, z = away * normal[0] - along * normal[1], away * normal[1] + along * normal[0], 12.0
        assert nx * -x + ny * y + nz * z == pytest.approx(distance)


def test_ghosts_stand_where_worn_pads_let_the_caliper_go(good: Job) -> None:
    """One pad's wear inboard of the body, and one outboard."""
    job = with_edits(
        good, (("caliper.action", "floating"), ("caliper.pad_thickness_mm", 14.0), ("rotor.min_thickness_mm", 18.0))
    )
    solution = solve(job, turns=False)
    body, wear = solution.assembly.body, pad_wear(job)
    examples = sorted(s.bounds[0] for s in section_view(solution).shapes if s.ink == "example" and s.tag == "caliper")
    assert wear > 0 and examples == pytest.approx([body.z0 - wear, body.z0 + wear])


@pytest.mark.parametrize("mounting", ["over-hub", "behind-flange"])
@pytest.mark.parametrize("family", ["flat-plate", "stepped-plate"])
def test_a_handle_goes_where_it_is_pulled(good: Job, mounting: str, family: str) -> None:
    """The number behind each handle, moved a little, moves the handle along its way by as much over its gain."""
    assert family in FAMILIES
    job = with_edits(good, (("hub.mounting", mounting), ("bracket.family", family), ("hub.flange_thickness_mm", 12.0),
                            ("fit.rotor_spacer_mm", 3.0), ("bracket.thickness_mm", 20.0)))  # fmt: skip

    def drawn(of: Job) -> dict[str, Handle]:
        views: list[Drawing] = [face_view(solve(of, turns=False), None), section_view(solve(of, turns=False))]
        return {handle.path: handle for view in views for handle in view.handles}

    handles = drawn(job)
    assert {"fit.rotor_spacer_mm", "fit.clock_deg"} <= set(handles)
    for path, handle in handles.items():
        step = 0.02
        there = drawn(with_edits(job, ((path, get_value(job, path) + step),)))[path]
        moved = [b - a for a, b in zip(handle.at, there.at)]
        along = moved[0] * handle.along[0] + moved[1] * handle.along[1]
        wanted = math.radians(step) * math.hypot(*handle.at) if handle.turns else step / handle.gain
        assert along == pytest.approx(wanted, rel=0.02), path


def test_a_bent_section_is_as_wide_as_its_metal(good: Job) -> None:
    """The jogged plate's section: an outline whose area is thickness times the length of its middle line, bends and all."""
    lugs = tuple(replace(lug, z_mm=lug.z_mm - 20.0) for lug in good.knuckle.lugs)
    job = with_edits(good, (("knuckle.lugs", lugs), ("bracket.family", "jogged-plate"), ("caliper.ear_line_to_pad_top_mm", -60.0),
                            ("bracket.wall_mm", 6.0)))  # fmt: skip
    solution = solve(job, turns=False)
    part = solution.bracket.parts[0]
    made = [s for s in section_view(solution).shapes if s.ink == "made" and s.tag == "bracket" and len(s.loops[0]) > 6]
    assert line_up(job).frame.is_known and made
    z = [vertex[0] for vertex in made[0].loops[0]]
    assert max(z) - min(z) == pytest.approx(solution.bracket.solved["jog_mm"] + part.thickness, abs=0.05)
    outline = Outline(made[0].loops[0])
    points = outline.polygon(0.001)
    flat = abs(float(np.sum(points[:, 0] * np.roll(points[:, 1], -1) - np.roll(points[:, 0], -1) * points[:, 1]))) / 2
    straight = np.array([(x, y) for x, y, _ in made[0].loops[0]])
    chords = (
        abs(float(np.sum(straight[:, 0] * np.roll(straight[:, 1], -1) - np.roll(straight[:, 0], -1) * straight[:, 1])))
        / 2
    )
    around = float(np.hypot(*(np.roll(points, -1, axis=0) - points).T).sum())
    middle = (
        around - 2 * part.thickness
    ) / 2  # both long sides follow the middle line, half a thickness to either side
    assert flat == pytest.approx(part.thickness * middle, rel=2e-3) and flat != pytest.approx(chords, rel=1e-6)


def test_pistons_are_told_from_the_end_they_stand_at(good: Job) -> None:
    """Three unlike pistons: the first is where the rotor comes in, the last where it leaves, whatever stands between."""
    job = with_edits(
        good, (("caliper.pistons_inboard_mm", (36.0, 40.0, 42.0)), ("caliper.pistons_outboard_mm", (36.0, 40.0, 42.0)))
    )
    text = solve(job, turns=False).finding("handedness").why
    assert "comes in is 36 mm, where it leaves 42 mm" in text


def test_half_a_millimetre_outward_is_outward(good: Job) -> None:
    """Ears 0.6 mm further out than the lugs have their bolts that much inward of their middles, and the other way round."""
    job = with_edits(meeting(good, 77.0), (("bracket.family", "eccentric-bushings"),))
    for line, word in ((64.4, "inward"), (65.6, "outward")):
        moved = with_edits(job, (("caliper.ear_line_to_pad_top_mm", line),))
        assert f" {word}; " in solve(moved, turns=False).bracket.why, (line, solve(moved, turns=False).bracket.why)


def test_a_profile_out_of_order_names_the_two_points(good: Job) -> None:
    """The message tells the point that is out of order and the one before it, not the one before that."""
    barrel = ((-90.0, 170.0), (-50.0, 171.0), (-60.0, 172.0))
    with pytest.raises(JobError, match=r"barrel_mm\[2\].*-60 after -50"):
        validate(with_edits(good, (("wheel.barrel_mm", barrel),)))


@pytest.mark.parametrize(
    ("path", "where"),
    [("hub.pilot_diameter_mm", "corners.front-left.hub.pilot_diameter_mm"), ("exact", "corners.front-left.exact"),
     ("rotor.diameter_mm", "axles.front.rotor.diameter_mm"), ("title", "title"), ("limits", "limits"),
     ("survey.front-right.distances", "corners.front-right.survey.distances"), ("survey", "corners.front-left.survey")],
)  # fmt: skip
def test_where_a_number_of_a_corner_lies_in_the_file(path: str, where: str) -> None:
    """As the file contract has it: parts and design on the axle, hub, knuckle and survey at the corner, the rest on top."""
    assert file_path(path, "front-left") == where


def test_a_barrel_must_be_traced_as_far_inboard_as_the_caliper(good: Job) -> None:
    """Traced from 20 mm short of where the caliper ends, inside the rim: unknown. Inboard of the rim's own edge there is no wheel."""
    solution = solve(good, turns=False)
    wheel = good.wheel
    assert wheel is not None and solution.finding("wheel-room").verdict is Verdict.OK
    deep = solution.line.rotor_midplane_z - known(good.caliper.body_inboard_mm) - solution.line.wheel_seat_z
    for begins, is_traced in ((deep + 20.0, False), (deep - 1.0, True)):
        barrel = ((begins, 180.0), *((z, r) for z, r in wheel.barrel_mm if z > begins))
        finding = solve(with_edits(good, (("wheel.barrel_mm", barrel),)), turns=False).finding("wheel-room")
        assert (finding.verdict is not Verdict.UNKNOWN) is is_traced, (begins, finding.why)


def test_a_shared_hole_is_offered_where_turning_leaves_no_metal(good: Job) -> None:
    """Three holes to four on one circle: turned for most metal the nearest two all but meet; with one hole shared there is plenty."""
    edits = (
        ("survey", {}),
        ("rotor.bolt_circle_mm", 98.0),
        ("rotor.hole_count", 3),
        ("rotor.hole_mm", 13.0),
        ("hub.bolt_circle_mm", 98.0),
    )
    finding = solve(with_edits(good, edits), turns=False).finding("rotor-on-hub")
    assert any("one hole shared" in remedy.action for remedy in finding.remedies)


def test_leverages_add_up_to_what_was_solved_for(good: Job) -> None:
    """The diagonal of the hat matrix lies between 0 and 1 and adds up to the number of unknowns (redundancy numbers to the rest:
    Baarda 1968, from memory): so it does for the network, and for a plane through the depths on each face."""
    here = surveyed(good, good.corner)
    assert here is not None and here.adjusted is not None
    inputs, many = survey_inputs(good, here), len(here.adjusted.readings)
    network = inputs.leverage[:many]
    assert (network >= -1e-9).all() and (network <= 1.0 + 1e-9).all()
    assert network.sum() == pytest.approx(many - here.adjusted.dof)
    faces = [
        row for name, row in zip(inputs.names, inputs.leverage) if name.startswith("depth") and "on the face of" in name
    ]
    assert sum(faces) == pytest.approx(
        3.0 * len({name.rsplit(" of ", 1)[1] for name in inputs.names if "on the face of" in name})
    )


def test_a_bump_is_where_it_stands() -> None:
    """A speck of 0.3 mm under one reading at 240°, on a face that leans: found there, told in degrees of the circle."""
    turns = np.radians(np.arange(0.0, 360.0, 15.0))
    high = 0.4 + 0.05 * np.cos(turns - 1.1) + np.where(np.abs(turns - math.radians(240.0)) < 0.01, 0.3, 0.0)
    high += np.random.default_rng(3).normal(0.0, 0.002, len(turns))
    rows = tuple(SweepReading(at_deg=math.degrees(a), value_mm=float(v)) for a, v in zip(turns, high))
    found = analyse(Survey(), Sweep(on="hub-face", radius_mm=60.0, readings=rows)).bump
    assert found is not None and (found.at_deg, found.height) == (pytest.approx(240.0), pytest.approx(0.3, abs=0.02))


def test_play_is_asked_only_where_the_inset_is_known(good: Job) -> None:
    """No inset, no band; with one, the band of the pad's overhang is as wide as the play both ways."""
    unset = with_edits(good, (("survey", {}), ("fit.pad_inset_mm", None)))
    assert play_bands(unset, solve(unset, turns=False).assembly) == {}
    solution = solve(with_edits(good, (("survey", {}),)), turns=False)
    low, high = play_bands(solution.job, solution.assembly)["pad-overhang"]
    assert high - low == pytest.approx(2 * radial_play(solution.job, solution.assembly))

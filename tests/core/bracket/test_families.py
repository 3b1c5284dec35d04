"""Bracket families: each on a made-up job that it suits, its numbers by hand or a second way, and when it does not suit."""

import math
import random

import numpy as np
import pytest
import shapely
from shapely.geometry import Point

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.bracket.families.bushings import bolts_in_ears, hot_interference, lens_area, press_fit
from bicentra.core.bracket.families.jogged import jog_of
from bicentra.core.bracket.families.table import FAMILIES
from bicentra.core.bracket.fold import fold_of, folded_plan
from bicentra.core.drawing.sheets.templates import bushing_chart
from bicentra.core.evaluation.own_bracket import find_bracket
from bicentra.core.evaluation.solution import solve
from bicentra.core.options import on_the_bench, propose
from bicentra.core.parts.attachments import OriginalBrake
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job, Parking
from bicentra.core.uncertainty.assess import assess
from bicentra.study.document.starting import empty_job
from bicentra.study.papers.solids import parts_to_make
from tests.jobs import meeting


def moved(job: Job, by: float) -> Job:
    """The job with both lugs' faces ``by`` mm further inboard."""
    lugs = tuple(replace(lug, z_mm=lug.z_mm - by) for lug in job.knuckle.lugs)
    return with_edits(job, (("knuckle.lugs", lugs),))


def test_the_demo_offers_at_least_four(demo: Job) -> None:
    """Suited ones first, each with parts, processes and mass; what is missing is named, what cannot be says why."""
    found = propose(demo)
    assert {c.bracket.family for c in found} == set(FAMILIES)
    verdict = [c for c in found if c.verdict is Verdict.OK]
    assert len(verdict) >= 4 and found[: len(verdict)] == tuple(verdict)
    for proposal in verdict:
        assert (
            proposal.bracket.parts
            and proposal.bracket.processes
            and proposal.bracket.mass_kg > 0
            and math.isfinite(proposal.margin[1])
        )
    for proposal in found:
        assert proposal.why and (proposal.verdict is not Verdict.UNKNOWN or proposal.bracket.needs or proposal.findings)
    assert all(c.verdict is not Verdict.OK for c in propose(empty_job()))


def test_the_flat_one_is_the_plate_of_the_line_up(good: Job) -> None:
    """Thickness, mass and holes are those of the line-up's own plate."""
    solution, proposal = solve(good), find_bracket(good, "flat-plate")
    part = proposal.bracket.parts[0]
    assert part.mass_kg == pytest.approx(solution.mass_kg) and part.outline == solution.bracket.shape.outline
    assert [b.drill for b in part.bores] == [h.drill for h in solution.assembly.holes]
    assert part.z0 == pytest.approx(solution.assembly.stack_up.z_range[0])


def test_a_step_is_exact(good: Job) -> None:
    """By hand: 10.2 mm to make up, 12 mm stock, 1.8 mm milled; the volume against points thrown at the part."""
    proposal = find_bracket(good, "stepped-plate")
    part = proposal.bracket.parts[0]
    assert proposal.bracket.solved == pytest.approx(
        {"thickness_mm": 12.0, "step_mm": 1.8, "left_mm": 10.2, "offset_mm": 10.2}
    )
    rng = np.random.default_rng(5)
    x0, y0, x1, y1 = part.outline.bounds
    spots = rng.uniform((x0, y0), (x1, y1), (60_000, 2))
    solid = shapely.contains_xy(shapely.Polygon(part.outline.polygon()), *spots.T)
    for bore in part.bores:
        solid &= np.hypot(*(spots - bore.centre).T) > bore.drill / 2
    floor = np.zeros(len(spots), dtype=bool)
    for pocket in part.pockets:
        milled = shapely.Polygon(pocket.outline.polygon())
        for pad in pocket.kept:
            milled = milled.difference(shapely.Polygon(pad.polygon()))
        floor |= shapely.contains_xy(milled, *spots.T)
    thrown = np.where(solid, np.where(floor, 10.2, 12.0), 0.0).mean() * (x1 - x0) * (y1 - y0)
    assert part.volume == pytest.approx(thrown, rel=0.015)
    same = with_edits(moved(good, -7.2), (("caliper.ear_seat", "outboard"),))  # ears on the lugs' own face, 3 mm off it
    other = find_bracket(same, "stepped-plate")
    assert other.bracket.solved["thickness_mm"] - other.bracket.solved["step_mm"] >= 6.0


def test_spacers_carry_a_far_offset(good: Job) -> None:
    """By hand: 40.2 mm less a plate of 8 mm leaves 32.2 mm of spacer at either lug, whole volume a hollow cylinder's."""
    proposal = find_bracket(moved(good, 30.0), "two-part")
    spacer = proposal.bracket.parts[1]
    assert proposal.bracket.solved["spacer_mm"] == pytest.approx(32.2) and proposal.bracket.made == 3
    assert spacer.volume == pytest.approx(math.pi / 4 * (spacer.outer**2 - spacer.inner**2) * 32.2)
    thin = with_edits(good, (("bracket.stock_mm", (12.0,)),))
    assert find_bracket(thin, "two-part").verdict is Verdict.STOP


def test_a_jog_is_as_high_as_asked() -> None:
    """Second way: walk along the bent middle line in 40 000 steps and add up rise and run."""
    for angle in (30.0, 60.0, 90.0):
        jog = jog_of(40.0, 8.0, angle, 12.0)
        steps = 20_000
        turn = np.concatenate([np.linspace(0, math.radians(angle), steps), np.linspace(math.radians(angle), 0, steps)])
        arc = np.diff(turn[:steps], prepend=0.0) * 16.0
        rise = 2 * np.sum(np.sin(turn[:steps]) * arc) + jog.web * math.sin(math.radians(angle))
        run = 2 * np.sum(np.cos(turn[:steps]) * arc) + jog.web * math.cos(math.radians(angle))
        assert rise == pytest.approx(40.0, rel=1e-3) and run == pytest.approx(jog.run, rel=1e-3)
        assert jog.flat == pytest.approx(jog.web + 2 * jog.allowance)
    assert jog_of(4.0, 8.0, 90.0, 12.0) is None


def test_a_jogged_plate_unfolds(good: Job) -> None:
    """Ears far out leave room for the bends: the flat pattern is longer by what the bends take, holes moved with it."""
    far = with_edits(moved(good, 20.0), (("caliper.ear_line_to_pad_top_mm", -60.0), ("bracket.wall_mm", 6.0)))
    proposal = find_bracket(far, "jogged-plate")
    part, solved = proposal.bracket.parts[0], proposal.bracket.solved
    plain = find_bracket(far, "flat-plate").bracket.parts[0]
    turn = math.radians(far.fit.clock_deg)
    u = (math.cos(turn), math.sin(turn))
    before, after = (max(b.centre[0] * u[0] + b.centre[1] * u[1] for b in p.bores) for p in (plain, part))
    assert after - before == pytest.approx(solved["flat_longer_mm"])
    assert solved["jog_mm"] + solved["thickness_mm"] == pytest.approx(solved["offset_mm"])
    assert len(part.bends) == 2 and part.bends[0].up is not part.bends[1].up
    assert next(f for f in proposal.findings if f.id == "bend-room").verdict is Verdict.OK
    steel = find_bracket(with_edits(far, (("bracket.material", "steel S355"),)), "jogged-plate").bracket.solved
    assert (solved["bend_radius_mm"], steel["bend_radius_mm"]) == (40.0, 12.0), (
        "hardened aluminium cracks in a tight bend"
    )
    fold = fold_of(part)
    assert fold.height == pytest.approx(solved["jog_mm"]) and fold.run == pytest.approx(solved["run_mm"])
    for bore, true in zip(part.bores, (hole.centre for hole in solve(far).assembly.holes)):
        spot = fold.lifted(np.array([[*bore.centre, part.z0], [*bore.centre, part.z0 + part.thickness]]))
        assert spot[0, :2] == pytest.approx(true) and spot[1, 2] - spot[0, 2] == pytest.approx(part.thickness)
    seat = solve(far).assembly.line.ear_face_z
    face = spot[1, 2] if solve(far).assembly.stack_up.ears_on_far_face else spot[0, 2]
    assert face == pytest.approx(seat), "the ears' part comes to lie on the caliper's seat"
    assert folded_plan(part, fold)[1] == tuple(pytest.approx(hole.centre) for hole in solve(far).assembly.holes)
    low, high = -200.0, 200.0
    section = fold.profile(low, high)
    arcs = 2 * fold.angle * (fold.radius + fold.thickness / 2) + fold.web + (high - low) - fold.run
    assert section.area == pytest.approx(arcs * part.thickness), "by Pappus: middle line × thickness"
    crossing = with_edits(
        moved(good, 60.0), (("caliper.ear_line_to_pad_top_mm", 140.0), ("bracket.material", "steel S355"))
    )
    assert (
        "cut round the hub" in find_bracket(crossing, "jogged-plate").why
        and not find_bracket(crossing, "jogged-plate").bracket.parts
    )
    polygon = shapely.Polygon(part.outline.polygon(0.0005)).area - sum(math.pi / 4 * b.drill**2 for b in part.bores)
    assert part.volume == pytest.approx(polygon * solved["thickness_mm"], rel=1e-5)


def test_a_radial_mount(good: Job) -> None:
    """Seat = ear line less shims; studs in the plate's middle: spacers = offset − half the plate; axial families are not asked."""
    job = with_edits(moved(good, 20.0), (("caliper.mount", "radial"), ("fit.radial_shim_mm", 1.0)))
    found = {c.bracket.family: c for c in propose(job)}
    assert "flat-plate" not in found
    solved = found["radial-mount"].bracket.solved
    assert solved["seat_radius_mm"] == pytest.approx(89.0 - 1.0) and solved["spacer_mm"] == pytest.approx(
        30.2 - solved["thickness_mm"] / 2
    )
    assert find_bracket(good, "radial-mount").verdict is Verdict.STOP


def test_an_axle_end_plate_is_as_thick_as_what_it_replaces(good: Job) -> None:
    """10 mm of backing plate, 10 mm of plate; another thickness would crush the seal; nothing known of it is unknown."""
    proposal = find_bracket(good, "axle-end-plate")
    assert (
        proposal.verdict is Verdict.OK
        and proposal.bracket.thickness == 10.0
        and len(proposal.bracket.parts[0].bores) == 6
    )
    assert proposal.bracket.solved["step_mm"] == pytest.approx(0.2)
    blank = with_edits(good, (("hub.backing_plate_mm", None),))
    assert find_bracket(blank, "axle-end-plate").verdict is Verdict.UNKNOWN


def test_a_weld_on_tab(good: Job) -> None:
    """Ears 89 mm from the axle, tube Ø 70: 54 mm above it; irreversible, and kept away from the bearing seat."""
    job = with_edits(
        good, (("hub.tube_diameter_mm", 70.0), ("hub.retainer_face_z_mm", -20.0), ("knuckle.obstacles", ()))
    )
    job = with_edits(job, (("hub.retainer_circle_mm", None),))
    assert find_bracket(job, "weld-on").verdict is Verdict.STOP, "aluminium is not welded to a steel tube"
    job = with_edits(job, (("bracket.material", "steel S355"),))
    proposal = find_bracket(job, "weld-on")
    assert proposal.bracket.solved["ear_height_mm"] == pytest.approx(54.0) and proposal.bracket.solved[
        "pad_height_mm"
    ] == pytest.approx(92.0)
    assert (
        not proposal.bracket.reversible
        and proposal.verdict is Verdict.OK
        and "Welding by someone qualified" in proposal.why
    )
    near = with_edits(job, (("hub.retainer_face_z_mm", -70.0),))
    covered = find_bracket(with_edits(job, (("hub.retainer_circle_mm", 110.0),)), "weld-on")
    assert next(f for f in covered.findings if f.id == "retainer-reach").verdict is Verdict.STOP, "a weld stays"
    assert find_bracket(near, "weld-on").verdict is Verdict.CAUTION


def test_stacked_on_the_original_bracket(good: Job) -> None:
    """The original caliper's ears become the lugs; without the original parts it says what is missing."""
    old = replace(good.caliper, name="old", ear_spacing_mm=100.0, ear_hole_mm=12.5, ear_face_offset_mm=-44.0)
    small = replace(good.rotor, diameter_mm=226.0, swept_inner_diameter_mm=150.0)
    before = OriginalBrake(rotor=small, caliper=old, clock_deg=180.0, bracket_ear_hole_mm=12.5, bracket_ear_mm=12.0)
    job = with_edits(good, (("before", before),))
    proposal = find_bracket(job, "on-original-bracket")
    turned = find_bracket(with_edits(job, (("fit.clock_deg", 170.0),)), "on-original-bracket")
    assert turned.bracket.parts[0].bores[0].centre == proposal.bracket.parts[0].bores[0].centre, (
        "the old bracket stays where it is"
    )
    unmeasured = with_edits(job, (("before.clock_deg", None),))
    assert find_bracket(unmeasured, "on-original-bracket").bracket.needs
    apart = math.dist(proposal.bracket.parts[0].bores[0].centre, proposal.bracket.parts[0].bores[1].centre)
    assert apart == pytest.approx(100.0) and proposal.bracket.solved["offset_mm"] == pytest.approx(8.0)
    assert find_bracket(good, "on-original-bracket").bracket.needs


def test_a_parking_caliper_gets_its_own_plate(good: Job) -> None:
    """At its own clock angle; none in the job is said."""
    job = with_edits(good, (("parking", Parking(caliper=good.caliper, clock_deg=170.0)),))
    there = solve(job).parking.bracket
    turned = find_bracket(with_edits(good, (("fit.clock_deg", 170.0), ("fit.pad_inset_mm", 0.0))), "flat-plate")
    assert replace(there.parts[0], name="") == replace(turned.bracket.parts[0], name="")
    assert solve(good).parking is None
    clash, apart = solve(job).finding("parking-apart"), with_edits(job, (("parking.clock_deg", 20.0),))
    assert clash.verdict is Verdict.STOP and solve(apart).finding("parking-apart").verdict is Verdict.OK
    both = solve(with_edits(apart, (("parking.side", "outboard"),)))
    assert both.finding("parking-bracket").verdict is Verdict.STOP, "both lie on the lugs' outboard faces"
    lugs = both.assembly.stack_up.lug_faces[0] - good.knuckle.lugs[0].thickness_mm
    other = solve(with_edits(apart, (("parking.side", "inboard"),)))
    assert other.finding("parking-bracket").verdict is Verdict.OK
    assert other.parking.bracket.parts[0].z0 + other.parking.bracket.parts[0].thickness == pytest.approx(lugs)
    assert solve(job).finding("axial-offset") == solve(good).finding("axial-offset"), "the main caliper's own stay"
    assert [p.name for p in parts_to_make(job)] == ["adapter plate", "parking adapter plate"]


def test_press_fit_of_same_material_is_shigleys() -> None:
    """d = 40, solid inside, D = 70, δ = 0.059 mm, E = 205 GPa: 101.82 N/mm2, torque 921 N·m, 46.06 kN over 30 mm at μ = 0.12
    (Shigley 9e eq. 3-57 from memory, own numbers)."""
    press = press_fit(40.0, 0.0, 70.0, 30.0, 0.059, "steel")
    assert press.pressure == pytest.approx(101.82, rel=1e-4)
    assert press.torque == pytest.approx(921.25, rel=1e-3) and press.force == pytest.approx(46062.0, rel=1e-3)
    assert press.hoop == pytest.approx(101.82 * (70**2 + 40**2) / (70**2 - 40**2), rel=1e-4)
    assert hot_interference(40.0, 0.05, 100.0, "aluminium") == pytest.approx(0.05 - 40.0 * 100.0 * 12.1e-6)
    assert press_fit(40.0, 20.0, 70.0, 30.0, -0.01, "aluminium").torque == 0.0


def test_the_relief_lens_against_shapely() -> None:
    """What a bolt hole cuts outside a larger hole, fifty drawn by chance."""
    chance = random.Random(4)
    for _ in range(50):
        hole, bolt, offset = chance.uniform(8, 16), chance.uniform(6, 14), chance.uniform(0, 8)
        outside = Point(offset, 0).buffer(bolt / 2, 400).difference(Point(0, 0).buffer(hole / 2, 400)).area
        assert lens_area(hole, bolt, offset) == pytest.approx(outside, abs=0.02)


def test_bushings_spread_the_ears_a_little(good: Job) -> None:
    """Ears 3 mm closer than the lugs: 1.5 mm of eccentricity; they do not move the plane, and hot they hold less."""
    job = meeting(good, 77.0)
    proposal = find_bracket(job, "eccentric-bushings")
    solved = proposal.bracket.solved
    assert (
        solved["eccentricity_mm"] == pytest.approx(1.5)
        and solved["wall_mm"] >= 1.5
        and solved["radial_shift_mm"] == 0.0
    )
    assert (
        solved["hot_torque_nm"] < solved["holding_torque_nm"]
        and not proposal.bracket.reversible
        and proposal.bracket.made == 2
    )
    assert solved["pad_height_per_degree_mm"] == pytest.approx(1.5 * math.pi / 180)
    assert (solved["clock_deg"], solved["first_turned_deg"], solved["second_turned_deg"]) == pytest.approx(
        (180.0, 90.0, 270.0)
    )
    turned = next(f for f in find_bracket(with_edits(job, (("fit.clock_deg", 175.0),)), "eccentric-bushings").findings
                  if f.id == "bushing-clock")  # fmt: skip
    assert turned.verdict is Verdict.STOP and turned.value == pytest.approx(5.0)
    assert find_bracket(good, "eccentric-bushings").verdict is Verdict.STOP


def test_bushings_shift_outward_as_well(good: Job) -> None:
    """A second way, backwards: lugs set where known offsets from the ears put the bolts, all turned to 205°; they come out again."""
    job, turn = meeting(good, 77.0), math.radians(205.0)
    u, w = np.array([math.cos(turn), math.sin(turn)]), np.array([-math.sin(turn), math.cos(turn)])
    wanted = ((1.2, 2.0), (1.2, -0.6))
    ears = (62.0 * u + 38.5 * w, 62.0 * u - 38.5 * w)
    spots = [ear + out * u + across * w for ear, (out, across) in zip(ears, wanted)]
    for order in (spots, spots[::-1]):
        lugs = tuple(replace(lug, x_mm=float(x), y_mm=float(y)) for lug, (x, y) in zip(job.knuckle.lugs, order))
        there = with_edits(job, (("knuckle.lugs", lugs), ("fit.clock_deg", 200.0)))
        sits = bolts_in_ears(there, solve(there).line)
        assert sits.clock == pytest.approx(205.0)
        assert sits.offsets[0] == pytest.approx(wanted[0]) and sits.offsets[1] == pytest.approx(wanted[1])
        found = find_bracket(there, "eccentric-bushings")
        assert [p.offset for p in found.bracket.parts] == pytest.approx([math.hypot(*one) for one in wanted])
        assert found.bracket.solved["pad_height_per_degree_mm"] == pytest.approx(2.0 * math.pi / 180), (
            "d(e cos φ) = −e sin φ dφ"
        )
        drawn = bushing_chart(there)
        centres = [shape.loops[0] for shape in drawn.shapes if shape.tag == "bolt"]
        for loop, side, (out, across) in zip(centres, (1.0, -1.0), wanted):
            x, y = (loop[0][0] + loop[1][0]) / 2, loop[0][1]
            assert (x, y) == pytest.approx((out, side * 38.5 + across))


def test_a_sleeve_takes_the_play(good: Job) -> None:
    """M10 in a 14 mm hole: 1.95 mm of wall; a bolt that fills its hole needs none."""
    lugs = tuple(replace(lug, thread=None, hole_mm=14.0) for lug in good.knuckle.lugs)
    job = with_edits(
        good, (("knuckle.lugs", lugs), ("bracket.lug_bolt", "M10x1.5"), ("bracket.material", "steel S355"))
    )
    proposal = find_bracket(job, "sleeve")
    assert (
        proposal.bracket.solved["wall_mm"] == pytest.approx(1.95)
        and [part.shape for part in proposal.bracket.parts] == ["plate", "round", "round"]
        and proposal.verdict is Verdict.OK
    )
    tight = with_edits(job, (("bracket.lug_bolt", "M14x2"),))
    assert find_bracket(tight, "sleeve").verdict is Verdict.STOP
    thin = with_edits(job, (("knuckle.lugs", tuple(replace(lug, hole_mm=10.9) for lug in lugs)),))
    assert "0.40 mm of wall; under 0.5 mm none is turned" in find_bracket(thin, "sleeve").why


def test_a_chosen_family_is_what_the_findings_speak_of(good: Job) -> None:
    """Spacers carry 32 mm without a word about shims; a welded tab has no plate findings; an unknown family is unknown."""
    far = with_edits(moved(good, 30.0), (("bracket.family", "two-part"),))
    solution = solve(far)
    ids = {f.id for f in solution.findings}
    assert solution.feasible and "shim-stack" not in ids and "spacer-width" in ids
    assert solution.finding("axial-offset").verdict is Verdict.OK and solution.assembly.stack_up.thickness == 8.0
    stepped = solve(with_edits(good, (("bracket.family", "stepped-plate"),)))
    assert stepped.finding("axial-offset").value == pytest.approx(0.0) and "metal-under-step" in {
        f.id for f in stepped.findings
    }
    tab = solve(with_edits(good, (("bracket.family", "weld-on"), ("hub.tube_diameter_mm", 70.0))))
    assert tab.finding("axial-offset").verdict is Verdict.OK and tab.assembly.bolted == ("ear",)
    assert "ligament" not in {f.id for f in tab.findings} and tab.finding("weld-height").verdict is Verdict.OK
    odd = solve(with_edits(good, (("bracket.family", "crochet"),)))
    assert odd.finding("unsupported").verdict is Verdict.UNKNOWN and not odd.feasible


@pytest.mark.parametrize("seat", ["inboard", "outboard"])
@pytest.mark.parametrize(
    ("side", "by"),
    [
        ("outboard", -30.0),
        ("outboard", -60.0),
        ("inboard", 60.0),
        ("inboard", 90.0),
        ("outboard", 40.0),
        ("inboard", -25.0),
    ],
)
@pytest.mark.parametrize(("top", "out"), [(-60.0, 0.0), (40.0, 160.0)])
def test_a_jogged_plate_lands_on_its_seats(good: Job, side: str, by: float, top: float, out: float, seat: str) -> None:
    """Lugs inside or outside of the ears, either side of the lugs, either seat: folded, every hole and face is where the line-up asks."""
    lugs = tuple(replace(lug, z_mm=lug.z_mm + by, x_mm=lug.x_mm - out) for lug in good.knuckle.lugs)
    job = with_edits(good, (("bracket.side", side), ("caliper.ear_line_to_pad_top_mm", top), ("caliper.ear_seat", seat),
                            ("bracket.material", "steel S355"), ("knuckle.lugs", lugs)))  # fmt: skip
    part, assembly = find_bracket(job, "jogged-plate").bracket.parts[0], solve(job).assembly
    fold, stack_up = fold_of(part), assembly.stack_up
    back = solve(job).assembly.stack_up.sign * by > 0  # the ears lie on the lugs' other side: it is bent back
    assert (fold.up == stack_up.sign) is ((out == 0.0) is not back), "from the ears to the lugs it goes the other way"
    for number, (bore, hole) in enumerate(zip(part.bores, assembly.holes)):
        spots = fold.lifted(np.array([[*bore.centre, part.z0], [*bore.centre, part.z0 + part.thickness]]))
        ear = number >= len(job.knuckle.lugs)
        outer = (stack_up.sign > 0) is (ear and stack_up.ears_on_far_face)
        wanted = assembly.line.ear_face_z if ear else stack_up.lug_faces[number]
        assert spots[0, :2] == pytest.approx(hole.centre)
        assert (max if outer else min)(spots[:, 2]) == pytest.approx(wanted)


def test_what_a_kind_says_is_said_once(good: Job) -> None:
    """Why a kind does not suit is not told twice over, with and without its name in front."""
    for one in propose(good):
        sentences = [text.strip().lower() for text in one.why.split(". ") if len(text) > 20]
        assert not any(a in b for k, a in enumerate(sentences) for b in sentences[k + 1 :]), one.why


def test_no_kind_is_met_on_a_guess(good: Job) -> None:
    """Ears of a guessed thickness: every kind that was met is a watch, as its findings are once it is taken; a guess nobody asks changes nothing."""
    bare = replace(good, survey={})
    met = {one.bracket.kind.name for one in propose(bare) if one.verdict is Verdict.OK}
    for guessed, still in ((("ear_thickness_mm", "ear_spacing_mm"), set()), (("slide_inboard_mm",), met)):
        caliper = replace(bare.caliper, guessed=guessed, slide_inboard_mm=9.0)
        job = replace(bare, caliper=caliper)
        found = {one.bracket.kind.name: one for one in propose(job)}
        assert {name for name, one in found.items() if one.verdict is Verdict.OK} == still and met
        assert all("guess" in found[name].why for name in met - still)
        for name in met:
            taken = assess(solve(with_edits(job, (("bracket.family", name),)), turns=False)).solution
            assert {f.id: f.verdict for f in found[name].findings}.items() <= {
                f.id: f.verdict for f in taken.findings
            }.items()
    lent = replace(bare, borrowed=("knuckle",))
    there = {one.bracket.kind.name: one.verdict for one in propose(lent)}
    assert met and all(there[name] is Verdict.CAUTION for name in met)  # nobody has measured this corner
    own, shown = on_the_bench(replace(bare, caliper=replace(bare.caliper, guessed=("ear_thickness_mm",))))
    assert own.verdict is Verdict.CAUTION and shown[0] is own

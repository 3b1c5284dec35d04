"""Faults of brackets judged by another's rules: saddles, floors, spacers, play, remedies and lists that were not theirs."""

import math

import pytest

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.bracket.prisms import part_prisms
from bicentra.core.drawing.sheets.parts_list import parts_list
from bicentra.core.evaluation.own_bracket import find_bracket
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.outline import Outline
from bicentra.core.lineup.redrill import plan_redrill
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Dowel, Job
from bicentra.core.parts.patterns import Pattern
from bicentra.core.parts.survey import FaceReadings, Spot
from bicentra.core.search.clock_invariant import still_set
from bicentra.core.search.sweep import sweep_set
from bicentra.core.uncertainty.assess import assess
from bicentra.study.desks.shaping import lighten
from tests.jobs import meeting


def taken(job: Job, family: str, *edits: tuple[str, object]) -> Job:
    """The job with another bracket taken, its own choices emptied."""
    return with_edits(job, (("bracket.family", family), *edits))


def uneven(job: Job, by: float) -> Job:
    """The job with its second lug ``by`` mm further inboard."""
    first, second = job.knuckle.lugs
    return with_edits(job, (("knuckle.lugs", (first, replace(second, z_mm=second.z_mm - by))),))


def test_uneven_lugs_are_told(good: Job) -> None:
    """A stepped plate over lugs 6 mm apart asked for 6 mm of shims and said that none was needed, without a finding."""
    solution = solve(taken(uneven(good, 6.0), "stepped-plate"))
    finding = solution.finding("shim-stack")
    assert finding.verdict is Verdict.STOP and finding.value == pytest.approx(6.0)
    assert "6.00 mm of shims even out" in solution.bracket.why and "no shim" not in solution.bracket.why


def radial(job: Job, *edits: tuple[str, object]) -> Job:
    """The demo with a radial-mount caliper on a steel bracket."""
    return with_edits(job, (("caliper.mount", "radial"), ("bracket.family", "radial-mount"), ("bracket.material", "steel S355"),
                            ("caliper.ear_hole_mm", 12.6), ("caliper.ear_thread", None), ("fit.radial_shim_mm", 1.0), *edits))  # fmt: skip


def test_a_radial_mount_stands_on_spacers_and_asks_about_its_studs(good: Job) -> None:
    """It stacked millimetres of shims; its studs were judged by nothing, an unknown metal was taken for steel."""
    lugs = tuple(replace(lug, z_mm=lug.z_mm - 18.0) for lug in good.knuckle.lugs)
    solution = solve(radial(good, ("knuckle.lugs", lugs)))
    assert [p.name for p in solution.bracket.parts] == ["radial bracket", "spacer 1", "spacer 2"]
    ids = {f.id: f for f in solution.findings}
    assert "shim-stack" not in ids and "spacer-width" in ids
    assert ids["radial-stud-hole"].verdict is ids["radial-stud-size"].verdict is Verdict.OK
    narrow = solve(radial(good, ("caliper.ear_hole_mm", 11.0)))
    assert narrow.finding("radial-stud-hole").verdict is Verdict.STOP
    assert find_bracket(radial(good, ("bracket.material", "brass")), "radial-mount").bracket.needs == (
        "material of the tables",
    )
    listed = {(item.name, item.size): item.count for item in parts_list(solution)}
    assert listed["stud", "M12x1.5"] == 2 and listed["nut", "M12x1.5"] == 2 and listed["shim", "1 mm"] == 2


def test_a_weld_on_tab_has_its_saddle(good: Job) -> None:
    """Its metal ran into the tube; mass, weld and distance to the bearing seat followed. Against the circle of the tube."""
    job = taken(good, "weld-on", ("bracket.material", "steel S355"), ("hub.retainer_face_z_mm", -110.0))
    proposal = find_bracket(job, "weld-on")
    (part,) = proposal.bracket.parts
    inside = sum(s.shape.intersection(s.shape.centroid.buffer(0)).area for s in part_prisms(part))
    assert inside == 0.0 and part.outline.distance_to((0.0, 0.0)) == pytest.approx(29.0)
    assert part.mass_kg == pytest.approx(
        sum(s.shape.area * (s.z1 - s.z0) for s in part_prisms(part)) * 7.85e-6, rel=2e-3
    )
    chord = 2 * 29.0 * math.sin(proposal.bracket.solved["weld_mm"] / 2 / 29.0)  # an arc's chord
    assert chord == pytest.approx(math.dist(*_saddle_ends(part.outline)), rel=1e-6)
    near = min(abs(part.z0 + 110.0), abs(part.z0 + part.thickness + 110.0)) - 6.0
    assert next(f for f in proposal.findings if f.id == "weld-bearing-seat").value == pytest.approx(near)
    names = [item.name for item in parts_list(solve(job))]
    assert "original lug bolts" not in names and "filler and weld" in names


def _saddle_ends(outline: Outline) -> tuple[tuple[float, float], tuple[float, float]]:
    piece = next(s for s in outline.segments if s.bulge < 0 and abs(s.radius - 29.0) < 1e-6)
    return piece.start, piece.end


def test_an_axle_end_plate_is_not_milled_through(good: Job) -> None:
    """17 mm were milled out of a 4 mm plate, and −13 mm of thread left."""
    thin = taken(good, "axle-end-plate", ("hub.backing_plate_mm", 4.0), ("hub.retainer_face_z_mm", -50.0))
    refused = find_bracket(thin, "axle-end-plate")
    assert refused.verdict is Verdict.STOP and "milling leaves no floor" in refused.why


def test_bushings_make_up_what_bushings_can(good: Job) -> None:
    """Bushings of 0.00 mm and of Ø 229 mm were drawn; and what is not there got a plate's remedies."""
    assert "bolt the caliper on as it is" in find_bracket(meeting(good, 80.0), "eccentric-bushings").why
    assert "no bushing" in find_bracket(meeting(good, 300.0), "eccentric-bushings").why
    off = taken(meeting(good, 77.0), "eccentric-bushings", ("rotor.overall_height_mm", 46.0))
    axial = solve(off).finding("axial-offset")
    paths = {path for remedy in axial.remedies for path, _ in remedy.edits}
    assert axial.verdict is Verdict.STOP and paths and not paths & {"bracket.thickness_mm", "bracket.shims_mm"}
    assert solve(off).part is None, "no plate, no handle on one"


@pytest.mark.parametrize("family", ["weld-on", "axle-end-plate", "eccentric-bushings"])
def test_no_findings_of_a_plate_that_is_not_there(good: Job, family: str) -> None:
    """Dowels and chamfers of a phantom flat plate were judged; with those at stop the bracket was called feasible."""
    job = taken(good, family, ("bracket.dowels", (Dowel(x_mm=0.0, y_mm=300.0),)), ("bracket.chamfer_mm", 9.9))
    assert not {"dowel-metal", "chamfer-land", "slot-hold"} & {f.id for f in solve(job).findings}
    flat = solve(with_edits(job, (("bracket.family", "flat-plate"),)))
    assert (
        flat.finding("dowel-metal").verdict is flat.finding("chamfer-land").verdict is Verdict.STOP
        and not flat.feasible
    )


def test_the_search_asks_about_the_chamfer(good: Job) -> None:
    """It said ok at a chamfer of 4.8 mm where check stopped."""
    job = with_edits(good, (("bracket.chamfer_mm", 4.8), ("bracket.thickness_mm", 10.0)))
    import numpy as np

    from bicentra.core.base.wording import LengthFormat

    assert solve(job).finding("chamfer-land").verdict is Verdict.STOP
    assert (sweep_set(still_set(job, 180.0, LengthFormat("mm")), np.array([180.0, 195.0])).ranks == 0).all()


def test_lightening_weighs_the_bracket_that_is_taken(good: Job) -> None:
    """A stepped plate was lightened by the mass of a flat one."""
    job = taken(good, "stepped-plate", ("bracket.wall_mm", 24.0))
    solution = solve(job)
    target = solution.part.mass_kg - 0.03
    lit = solve(with_edits(job, lighten(solution, target)))
    assert lit.bracket.family == "stepped-plate" and lit.part.mass_kg == pytest.approx(target, abs=0.008)


def test_play_that_can_push_a_gap_past_its_stop_is_a_watch(good: Job) -> None:
    """2.5 mm of tip gap met its 1.78 mm, though bolts loose in their holes by 1.5 mm could close it to 1.0 mm."""
    bare = replace(good, survey={})
    finding = assess(solve(bare)).solution.finding("tip-gap")
    assert finding.verdict is Verdict.CAUTION and finding.by_play and "1.00 mm" in finding.why
    held = with_edits(bare, (("bracket.dowels", (Dowel(x_mm=-90.0, y_mm=30.0), Dowel(x_mm=-90.0, y_mm=-30.0))),
                             ("bracket.hole_class", "close")))  # fmt: skip
    assert assess(solve(held)).solution.finding("tip-gap").verdict is Verdict.OK


def test_lugs_share_the_error_of_the_flange(demo: Job) -> None:
    """One error of the hub face moves both lugs together; they were taken as independent of it."""
    survey = demo.survey["front-right"]
    rim = tuple(Spot(at_deg=at, radius_mm=40.0, depth_mm=10.0) for at in (0.0, 120.0, 240.0))
    read = replace(survey, faces=(*survey.faces, FaceReadings(feature=survey.axis.name, spots=rim)))
    alone, tied = (assess(solve(replace(demo, survey={"front-right": of}))).inputs for of in (survey, read))
    lugs = ["knuckle.lugs[0].z_mm", "knuckle.lugs[1].z_mm"]
    for inputs, shared in ((alone, False), (tied, True)):
        first, second = (inputs.paths.index(path) for path in lugs)
        assert bool(abs(inputs.covariance[first, second]) > 1e-6) is shared


def test_lists_name_sizes_in_the_bolts_own_system(good: Job) -> None:
    """An inch screw was bought by the millimetre: #10-24 × 19.05 mm."""
    job = with_edits(good, (("bracket.lug_bolt", "#10-24"), ("bracket.lug_bolt_length_mm", 19.05)))
    sizes = [item.size for item in parts_list(solve(job)) if item.name == "bolt"]
    assert any(size.startswith("#10-24 × 0.75 in") for size in sizes), sizes


def test_a_new_pattern_keeps_off_itself() -> None:
    """Ten holes of 30 mm on a 60 mm circle run into each other, whatever the old pattern is."""
    plan = plan_redrill(Pattern(3, 200.0), Pattern(10, 60.0), 30.0, old_hole_mm=10.0)
    assert plan.between == pytest.approx(60.0 * math.sin(math.pi / 10) - 30.0) and plan.verdict is Verdict.STOP


def test_what_is_packed_is_on_the_list(good: Job) -> None:
    """The demo's own cure, a rotor spacer, was on no list; nor was what goes back under the bearing retainer."""
    job = with_edits(good, (
        ("fit.rotor_spacer_mm", 1.8), ("fit.wheel_spacer_mm", 5.0), ("fit.hub_ring", "aluminium"), ("hub.retainer_spacer_mm", 10.0),
        ("rotor.ring_bolt_count", 8), ("rotor.ring_bolt_hole_mm", 6.4),
    ))  # fmt: skip
    for family, under_retainer in (("flat-plate", 1), ("axle-end-plate", 0)):
        listed = {item.name: (item.count, item.size) for item in parts_list(solve(taken(job, family)))}
        assert listed["rotor spacer"] == (1, "1.8 mm") and listed["spacer under the wheel"] == (1, "5 mm")
        assert listed["hub-centric ring"] == (1, "aluminium")
        assert listed["bolt of the ring on its hat"] == (8, "for Ø 6.4 mm holes")
        assert ("spacer under the bearing retainer" in listed) is bool(under_retainer)
    bare = with_edits(good, (("hub.retainer_spacer_mm", None), ("fit.rotor_spacer_mm", None)))
    names = [item.name for item in parts_list(solve(bare))]
    assert not any("spacer" in name or "behind" in name for name in names)

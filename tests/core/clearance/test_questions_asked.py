"""Questions nobody asked: each fault here once left every finding met, on a job that is faultless without it."""

from itertools import combinations_with_replacement

import pytest

from bicentra.core.base.errors import JobError
from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.records import replace
from bicentra.core.bracket.families.table import FAMILIES
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job, Obstacle, Parking
from bicentra.core.parts.validate import validate
from tests.core.clearance.pairs import BODIES, MOTIONS, PAIRS, owners


@pytest.fixture
def met(demo: Job) -> Job:
    """The demo without its survey, plate 10 mm, shims 0.2 and 0.2 mm, caliper bolts 35 mm: all met."""
    return with_edits(replace(demo, survey={}), (
        ("bracket.thickness_mm", 10.0), ("bracket.shims_mm", (0.2, 0.2)), ("bracket.caliper_bolt_length_mm", 35.0),
    ))  # fmt: skip


def found(job: Job, id: str, *edits: tuple[str, object]) -> Finding:
    """One finding of the job after ``edits``, which have to be allowed."""
    changed = with_edits(job, edits)
    validate(changed)
    return solve(changed, turns=False).finding(id)


def test_the_faultless_job_is_met(met: Job) -> None:
    """Nothing of it is stopped, watched or unknown: what follows is the fault's own doing."""
    assert {f.verdict for f in solve(met).findings} == {Verdict.OK}


THREADS = (
    (("bracket.caliper_bolt", "3/8-24"), ("caliper.ear_thread", "M10x1"), "screws in all the way"),
    (("knuckle.lugs[0].thread", "M14x1.5"), ("notes", ""), "holds nothing"),
    (("bracket.lug_bolt", "M12x1.75"), ("notes", ""), "jams after a few turns"),
    (("bracket.lug_bolt", "7/16-20"), ("knuckle.lugs[0].thread", "M12x1.25"), "screws in all the way"),
    (("bracket.lug_bolt", "M12x1.5"), ("knuckle.lugs[1].thread", "7/16-20"), "does not go in"),
)


@pytest.mark.parametrize(("edit", "other", "words"), THREADS)
def test_threads_are_compared(met: Job, edit: tuple[str, object], other: tuple[str, object], words: str) -> None:
    """A bolt of another thread than its hole's is a stop that names both; what looks alike gets a sentence of its own."""
    finding = found(met, "thread-fit", edit, other)
    assert finding.verdict is Verdict.STOP and words in finding.why
    threads = [str(value) for _, value in (edit, other) if value]
    assert all(name in finding.why for name in threads[:1])


def test_a_bolt_has_to_pass_its_hole(met: Job) -> None:
    """An M12 bolt with a nut does not pass a 10.5 mm hole; one of 13 mm it does, one of 16 mm leaves the joint loose."""
    nuts = [("knuckle.lugs[0].thread", None), ("knuckle.lugs[1].thread", None), ("bracket.lug_hole", "clearance")]
    stopped = found(met, "thread-fit", *nuts)
    assert stopped.verdict is Verdict.STOP and "M12x1.5" in stopped.why and "10.5 mm" in stopped.why
    for size, verdict in ((13.0, Verdict.OK), (16.0, Verdict.CAUTION), (None, Verdict.UNKNOWN)):
        wide = [(f"knuckle.lugs[{k}].hole_mm", size) for k in (0, 1)]
        assert found(met, "thread-fit", *nuts, *wide).verdict is verdict, size


def test_the_parking_caliper_gets_bolts_of_its_own(met: Job) -> None:
    """Its M10 ears were given the bracket's M12 bolt; it takes its ears' thread unless told otherwise."""
    small = replace(met.caliper, ear_thread="M10x1.25", ear_hole_mm=8.8)
    parked = with_edits(met, (("parking", Parking(caliper=small, clock_deg=60.0, side="inboard")),))
    assert found(parked, "parking-thread-fit").verdict is Verdict.OK
    assert found(parked, "parking-thread-fit", ("parking.bolt", "M12x1.5")).verdict is Verdict.STOP


TURNING = (
    ("caliper-to-rotor", ("caliper.body_section_mm", ((-35.0, -44.0), (-35.0, 20.0), (54.0, 20.0), (54.0, -67.0), (46.0, -67.0),
                                                      (46.0, -44.0))), "hat"),
    ("caliper-to-rotor", ("hub.bolt_circle_mm", 150.0), "studs"),
    ("caliper-to-rotor", ("caliper.ear_thickness_mm", 30.0), "ring"),
    ("knuckle-to-rotor", ("knuckle.lugs[0].z_mm", -30.0), "ring"),
    ("knuckle-to-rotor", ("knuckle.obstacles[1].z_max_mm", -20.0), "ring"),
)  # fmt: skip


@pytest.mark.parametrize(("id", "edit", "other"), TURNING)
def test_what_stands_is_asked_against_what_turns(met: Job, id: str, edit: tuple[str, object], other: str) -> None:
    """A leg inside the hat, studs in the caliper's way, an ear in the ring, lug or knuckle in the rotor: stops that name both."""
    finding = found(met, id, edit)
    assert finding.verdict is Verdict.STOP and other in finding.why, finding.why


def test_a_leg_inside_the_hat_by_hand(met: Job) -> None:
    """Pad top at 127 mm, leg down to 61 mm inside it: its end 66 mm from the axle against a hat of 77 mm (half plane, by hand)."""
    measured = ("rotor.hat_outer_diameter_mm", 154.0)
    section = ((-35.0, -44.0), (-35.0, 20.0), (54.0, 20.0), (54.0, -61.0), (46.0, -61.0), (46.0, -44.0))
    assert found(met, "caliper-to-rotor", measured).value == pytest.approx(127.0 - 44.0 - 77.0)
    # 12 mm past the hat's face; the nuts reach from the 50 mm of the studs' circle to half their corners, 18/√3, further out
    past = found(met, "caliper-to-rotor", measured, ("caliper.body_section_mm", section))
    assert past.value == pytest.approx(66.0 - 50.0 - 18.0 / 3**0.5) and "studs" in past.why
    near = ((-35.0, -44.0), (-35.0, 20.0), (54.0, 20.0), (54.0, -61.0), (30.0, -61.0), (30.0, -44.0))
    assert found(met, "caliper-to-rotor", measured, ("caliper.body_section_mm", near)).verdict is Verdict.STOP


def test_the_bolts_ends_behind_a_lug_are_asked_against_the_knuckle(met: Job) -> None:
    """An obstacle right behind a lug, where a bolt that is too long comes out, was not looked at."""
    behind = Obstacle(name="rib", outline_mm=((-70.0, 36.0), (-54.0, 36.0), (-54.0, 48.0), (-70.0, 48.0)), z_min_mm=-120.0,
                      z_max_mm=-97.0)  # fmt: skip
    ribbed = ("knuckle.obstacles", (*met.knuckle.obstacles, behind))
    assert found(met, "bolt-head-room", ribbed).verdict is Verdict.OK
    assert found(met, "bolt-head-room", ribbed, ("bracket.lug_bolt_length_mm", 50.0)).verdict is Verdict.STOP


def test_a_hat_or_barrel_nobody_measured_is_bounded_not_guessed(met: Job) -> None:
    """The hat's outside is at most the swept band's inner edge, what turns behind the flange at most the flange or the tube."""
    assert found(met, "bracket-to-hub", ("hub.tube_diameter_mm", None)).verdict is Verdict.UNKNOWN
    assert (
        found(met, "bracket-to-hub", ("hub.tube_diameter_mm", None), ("hub.barrel_diameter_mm", 50.0)).verdict
        is Verdict.OK
    )
    narrow = (("caliper.pad_height_mm", 47.0), ("rotor.swept_inner_diameter_mm", 161.0))
    assert found(met, "caliper-to-rotor", *narrow).verdict is Verdict.UNKNOWN
    assert found(met, "caliper-to-rotor", *narrow, ("rotor.hat_outer_diameter_mm", 150.0)).verdict is Verdict.OK


SMALL = (
    ("least-sizes", (("bracket.thickness_mm", 1.0),)),
    ("least-sizes", (("bracket.lug_bolt", "M5x0.8"), ("bracket.caliper_bolt", "M5x0.8"))),
    ("least-sizes", (("knuckle.lugs[0].boss_mm", 10.0), ("bracket.lug_bolt", "M16x1.5"))),
)


@pytest.mark.parametrize(("id", "edits"), SMALL)
def test_nobody_builds_that(met: Job, id: str, edits: tuple[tuple[str, object], ...]) -> None:
    """1 mm plate on M12 bolts, M5 throughout, a 16 mm bolt in a 10 mm boss: stopped, with the limit and where it comes from."""
    finding = found(met, id, *edits)
    assert finding.verdict is Verdict.STOP and "ommon practice" in finding.source and "No strength" in finding.why


def test_a_hat_wider_than_the_band_is_refused(met: Job) -> None:
    """A hat inside of 200 mm in a swept band that begins at 160 mm cannot be: refused by its key."""
    with pytest.raises(JobError) as refused:
        validate(with_edits(met, (("rotor.hat_inner_diameter_mm", 200.0),)))
    assert refused.value.path == "rotor.hat_inner_diameter_mm" and "swept band" in refused.value.expected


def test_a_wheel_traced_elsewhere_says_nothing(met: Job) -> None:
    """A barrel traced only where no caliper is left the wheel room met; what was not traced is unknown."""
    barrel = tuple((z, r) for z, r in met.wheel.barrel_mm if z < -80.0)
    finding = found(met, "wheel-room", ("wheel.barrel_mm", barrel))
    assert finding.verdict is Verdict.UNKNOWN and "barrel" in finding.why
    spokes = tuple(point for point in met.wheel.spokes_mm if point[1] < 80.0)
    assert found(met, "wheel-room", ("wheel.spokes_mm", spokes)).verdict is Verdict.UNKNOWN


def test_eight_holes_go_on_four_studs(met: Job) -> None:
    """A wheel or rotor drilled twice over was a stop; three holes on four studs still are."""
    assert found(met, "wheel-on-hub", ("wheel.hole_count", 8)).verdict is Verdict.OK
    assert found(met, "wheel-on-hub", ("wheel.hole_count", 3)).verdict is Verdict.STOP


def test_pad_a_little_over_the_edge_is_a_watch(met: Job) -> None:
    """One school accepts a pad up to 1/16 in over the edge (common practice): a watch, and a stop beyond."""
    wide = ("caliper.bridge_to_pad_top_mm", 8.0)
    assert found(met, "pad-overhang", wide, ("fit.pad_inset_mm", -1.0)).verdict is Verdict.CAUTION
    assert found(met, "pad-overhang", wide, ("fit.pad_inset_mm", -2.0)).verdict is Verdict.STOP


def test_every_pair_of_bodies_has_one_owner() -> None:
    """No two bodies that can meet are without a finding that asks, or a written reason why none does; none has two."""
    for one, other in combinations_with_replacement(BODIES, 2):
        assert len(owners(one, other)) == 1, (one, other)
    for row in PAIRS:
        assert bool(row.finding) != bool(row.reason) and set(row.motions) <= set(MOTIONS)
        assert {*row.one, *row.others} <= set(BODIES)


def test_every_owner_is_really_asked(met: Job) -> None:
    """Each finding that the table names comes out of a job that has the things it speaks of, whatever the bracket."""
    rich = with_edits(met, (
        ("parking", Parking(caliper=met.caliper, clock_deg=60.0, side="inboard")), ("caliper.hose_port_mm", ((0.0, 10.0, -30.0),)),
    ))  # fmt: skip
    named = {row.finding for row in PAIRS if row.finding}
    assert named <= {finding.id for finding in solve(rich, turns=False).findings}
    own_only = {
        "ligament",
        "retainer-reach",
        "bracket-to-caliper",
        "bracket-to-obstacle",
        "bracket-to-rotor",
        "bracket-to-hub",
    }
    for family in set(FAMILIES) - {"parking-adapter"}:  # which takes the parking caliper for the caliper
        ids = {finding.id for finding in solve(with_edits(rich, (("bracket.family", family),)), turns=False).findings}
        assert {id for id in named - own_only if not id.startswith(("parking", "bolt", "slot"))} <= ids, family

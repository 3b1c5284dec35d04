"""What the searches count and skip, each against a plain count or the single path."""

import math

import numpy as np
import pytest
import shapely

from bicentra.core.base.finding import BY_RANK, Verdict, worst
from bicentra.core.base.records import replace
from bicentra.core.bracket.plate import farthest, keep_out_radius
from bicentra.core.bracket.turned import boss_hulls
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.ring import Ring, nearest_gap
from bicentra.core.parts.edits import get_value, with_edits
from bicentra.core.parts.job import Hub, Job, Knuckle, Lug, Obstacle, Opposite, Parking
from bicentra.core.search.clock import search_clock
from bicentra.core.search.clock_invariant import still_set
from bicentra.core.search.run import SearchSpace, search, single_path, why_not
from bicentra.core.search.score import NEAR_MM, THICK_MM, criteria_met
from bicentra.core.search.sweep import hull_distance, ring_room, sweep_set
from bicentra.study.document.starting import demo_job

ANGLES = np.array([172.0, 180.0, 184.0, 190.0])


def ranks_of(job: Job) -> list[Verdict]:
    """The sweep's verdict at each of ``ANGLES``."""
    before = tuple(f for f in solve(job, turns=False, remedies=False).findings if f.id in (
        "tip-gap", "pad-overhang", "pad-inner-edge", "slot-gap", "rotor-on-hub", "wheel-stud-engagement", "wheel-on-hub"))  # fmt: skip
    return [BY_RANK[rank] for rank in sweep_set(still_set(job, float(ANGLES[0]), job.lengths, before), ANGLES).ranks]


def single(job: Job) -> list[Verdict]:
    """The single path's."""
    turned = [with_edits(job, (("fit.clock_deg", float(angle)),)) for angle in ANGLES]
    return [worst(solve(one, turns=False, remedies=False).verdicts) for one in turned]


def test_what_turns_is_asked_of_a_set_that_nothing_stops_yet(good: Job) -> None:
    """A post on the other side of the axle reaches into the rotor's path, far from caliper and plate: no angle is open."""
    job = with_edits(good, (("survey", {}),))
    assert any(verdict is not Verdict.STOP for verdict in ranks_of(job))
    z = solve(job, turns=False).line.rotor_midplane_z
    post = Obstacle(
        name="post", outline_mm=((100.0, -9.0), (118.0, -9.0), (118.0, 9.0), (100.0, 9.0)), z_min_mm=z, z_max_mm=z + 5.0
    )
    met = with_edits(job, (("knuckle.obstacles", (*job.knuckle.obstacles, post)),))
    assert ranks_of(met) == single(met) == [Verdict.STOP] * len(ANGLES)


def test_the_nearest_ring_decides_how_near_a_plate_may_come(good: Job) -> None:
    """The rotor put further and further inboard towards the plate: the sweep says what the single path says, all the way."""
    high, text = get_value(good, "rotor.overall_height_mm"), []
    for more in np.arange(0.0, 26.0, 2.0):
        job = with_edits(
            good, (("survey", {}), ("rotor.overall_height_mm", high + float(more)), ("caliper.action", "fixed"))
        )
        text += ranks_of(job)
        assert ranks_of(job) == single(job), more
    assert Verdict.STOP in text and len(set(text)) > 1


def test_a_boss_within_another_counts_for_nothing(good: Job) -> None:
    """One wall of 90 mm swallows its neighbours: the hull's distance is that of the discs alone."""
    job = with_edits(good, (("knuckle.obstacles", ()), ("bracket.boss_walls_mm", (8.0, 8.0, 90.0, 8.0))))
    for angle in (160.0, 184.0, 205.0):
        assembly = solve(with_edits(job, (("fit.clock_deg", angle),)), turns=False).assembly
        at = (-320.0, 40.0)
        hull = shapely.convex_hull(
            shapely.union_all([shapely.Point(h.centre).buffer(h.boss_radius, 4000) for h in assembly.holes])
        )
        assert hull_distance(assembly, assembly.line.frame.here, at)[0] == pytest.approx(
            hull.distance(shapely.Point(at)), abs=1e-3
        )


def test_size_and_pieces_of_the_plate_round_the_circle(good: Job) -> None:
    """Every ear to every lug added up; the pieces a cut for the hub leaves, against the hull cut by a geometry library."""
    job = with_edits(good, (("survey", {}), ("hub.barrel_diameter_mm", 90.0)))
    found = search_clock(job, step=3.0)
    assembly = solve(job, turns=False).assembly
    room, lugs = keep_out_radius(assembly), [hole.centre for hole in assembly.lug_holes]
    disc, seen = shapely.Point(0.0, 0.0).buffer(room, 2000), set()
    for k in range(0, len(found.angles), 4):
        turned = solve(with_edits(job, (("fit.clock_deg", float(found.angles[k])),)), turns=False).assembly
        ears = [hole.centre for hole in turned.ear_holes]
        assert found.values["size"][k] == pytest.approx(sum(math.dist(ear, lug) for ear in ears for lug in lugs))
        hull = shapely.Polygon(boss_hulls(turned, turned.line.frame.here)[0])
        left = [part for part in shapely.get_parts(hull.difference(disc)) if part.area > 0.01]
        assert found.values["pieces"][k] == len(left), found.angles[k]
        seen.add(len(left))
    assert 1 in seen


def test_a_thin_plate_counts_for_more(good: Job) -> None:
    """Its share of that criterion is what it is thinner than the thickest that counts."""
    for thick in (8.0, 20.0):
        job = with_edits(good, (("survey", {}), ("bracket.thickness_mm", thick)))
        swept = sweep_set(still_set(job, 184.0, job.lengths), np.array([184.0]))
        share = criteria_met(swept, np.array([0]), np.radians([184.0]))["thin plate"][0]
        assert share == pytest.approx(1.0 - thick / THICK_MM)


def test_a_set_tells_what_stops_it(good: Job) -> None:
    """A plate far too thick stops by its axial offset, a bore too small by the rotor on its hub."""
    thick = with_edits(good, (("survey", {}), ("bracket.thickness_mm", 40.0), ("bracket.shims_mm", (0.0, 0.0))))
    small = with_edits(good, (("survey", {}), ("rotor.centre_bore_mm", 30.0)))
    for job, id in ((thick, "axial-offset"), (small, "rotor-on-hub")):
        space = SearchSpace((job.rotor,), (job.caliper,), (0.0,), ("outboard",), angles=36)
        found = next(search(job, space)).sets[0]
        assert found.verdict is Verdict.STOP and found.decides == id and id in {f.id for f in why_not(found.job)}


def test_a_set_stopped_everywhere_is_told_where_it_misses_least(good: Job) -> None:
    """A hedge all round leaves the caliper too little room: the angle told is the one that, of all solved whole, misses least, by so much."""
    posts = []
    for k in range(24):  # a hedge of posts at the reach of the caliper, one of them a little further out
        far, turn = 151.5 + 0.1 * (k == 11), math.radians(15.0 * k)
        x, y = far * math.cos(turn), far * math.sin(turn)
        square = ((x - 3, y - 3), (x + 3, y - 3), (x + 3, y + 3), (x - 3, y + 3))
        posts.append(Obstacle(name=f"post {k}", outline_mm=square, z_min_mm=-60.0, z_max_mm=-30.0))
    bare = replace(good, survey={}, wheel=None, fit=replace(good.fit, absent=("wheel",)))
    shut = replace(bare, knuckle=replace(good.knuckle, obstacles=tuple(posts)))
    space = SearchSpace((shut.rotor,), (shut.caliper,), (0.0,), ("outboard",), angles=36)
    found = next(search(shut, space)).sets[0]
    missed = {}
    for k in range(36):
        findings = single_path(with_edits(shut, (("fit.clock_deg", 10.0 * k),)))[1]
        missed[10.0 * k] = {f.id: abs(f.limit - f.value) for f in findings if f.verdict is Verdict.STOP}
    assert (
        found.verdict is Verdict.STOP
        and all(missed.values())
        and found.decides in missed[found.job.fit.clock_deg or 0.0]
    )
    assert found.short == pytest.approx(sum(missed[found.job.fit.clock_deg or 0.0].values()))
    assert missed[found.job.fit.clock_deg or 0.0][found.decides] <= NEAR_MM


def test_the_room_to_rings_is_that_of_one_ring_to_others(good: Job) -> None:
    """A plate as the ring it fits in, at many distances, against rings drawn by chance, some only bounded: as ``nearest_gap`` has it."""
    assembly = solve(with_edits(good, (("survey", {}),)), turns=False).assembly
    chance, (z0, z1), far = np.random.default_rng(2), assembly.stack_up.z_range, farthest(assembly)
    for _ in range(200):
        low, deep = chance.uniform(0.0, 150.0, 3), chance.uniform(-60.0, 40.0, 3)
        rings = tuple(
            Ring(
                float(r),
                float(r + chance.uniform(1, 40)),
                float(z),
                float(z + chance.uniform(1, 30)),
                bool(chance.random() < 0.7),
            )
            for r, z in zip(low, deep)
        )
        rings = (replace(rings[0], sure=True), *rings[1:])
        nearest = chance.uniform(0.0, 160.0, 5)
        text = ring_room(assembly, nearest, rings, 2.0)
        wanted = [nearest_gap(Ring(float(near), far, z0, z1), rings, 2.0) for near in nearest]
        assert text == pytest.approx(wanted, nan_ok=True)


@pytest.mark.parametrize(
    "edits",
    [
        (("parking", Parking(caliper=demo_job().caliper, clock_deg=200.0)),),
        (("parking", Parking(caliper=demo_job().caliper, clock_deg=20.0)),),
        (("opposite", Opposite(hub=Hub(), knuckle=Knuckle(lugs=(Lug(name="upper lug", x_mm=-40.0, y_mm=60.0),)))),),
        (("wheel", None), ("fit.absent", ("wheel",))),
        (("caliper.bleeders_deg", ()), ("fit.absent", ("bleeders",))),
    ],
)
def test_what_stands_beside_a_set_is_asked_too(good: Job, edits: tuple[tuple[str, object], ...]) -> None:
    """A parking-brake caliper, another corner that differs, what the job says there is none of: the verdict is that of the whole job."""
    job = replace(with_edits(good, edits), survey={})
    sets = [
        one for step in search(job, SearchSpace((job.rotor,), (job.caliper,), (0.0,), angles=72)) for one in step.sets
    ]
    assert sets
    for found in sets:
        assert single_path(found.job)[0] is found.verdict or found.verdict is Verdict.STOP
    assert any(found.verdict is not Verdict.STOP for found in sets) or "parking" in edits[0]


def test_a_caliper_without_bleeders_has_its_windows(good: Job) -> None:
    """Where the job says that there are none, the ring does not wait for them: the rest decides; a wish for them counts as nothing."""
    bare = with_edits(good, (("caliper.bleeders_deg", ()),))
    before, said = (
        search_clock(bare, step=5.0),
        search_clock(with_edits(bare, (("fit.absent", ("bleeders",)),)), step=5.0),
    )
    assert before is not None and said is not None and not before.feasible.any()
    whole = search_clock(good, step=5.0)
    assert whole is not None and said.feasible.sum() >= whole.feasible.sum() > 0 and said.best is not None
    assert np.isfinite(said.score).all() and {"bleeder-up"} == set(whole.stops) - set(said.stops)

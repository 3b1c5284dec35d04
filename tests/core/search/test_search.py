"""The search against the single-job path: the same verdicts, the same best sets, only sooner."""

import random
import time

import numpy as np
import pytest

from bicentra.core.base.finding import BY_RANK, Verdict, judge, judge_all, worst
from bicentra.core.base.records import replace
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import assemble
from bicentra.core.bracket.model import PlateShape
from bicentra.core.bracket.plate import shape_plate
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.relief import contains_axis
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Caliper, Cutout, Job, Rotor
from bicentra.core.search.clock_invariant import still_set
from bicentra.core.search.run import FoundSet, SearchSpace, search, single_path, why_not
from bicentra.core.search.screen import Screen
from bicentra.core.search.sweep import hull_distance, sweep_set
from bicentra.core.uncertainty.assess import assess
from bicentra.data import data_path
from bicentra.study.desks.search import Criteria, SearchResults, called, job_for, look, rotors_of, space_for
from bicentra.study.document.starting import example_vehicle
from bicentra.study.library.library import Library, load_library

ANGLES = np.arange(360.0)


@pytest.fixture(scope="module")
def library() -> Library:
    """The library that ships."""
    return load_library(data_path("library"))


def parts_of(library: Library) -> tuple[list[Rotor], list[Caliper]]:
    """Rotors of the demo's pattern, and every caliper."""
    rotors = [r for r in rotors_of(library) if r.bolt_circle_mm == 100.0 and r.hole_count == 4]
    return rotors, [part.item for part in library.of_kind("caliper")]


VARIANTS: dict[str, tuple[tuple[str, object], ...]] = {
    "as it is": (),
    "no obstacles": (("knuckle.obstacles", ()), ("wheel", None)),
    "wall of 4": (("bracket.wall_mm", 4.0), ("knuckle.obstacles", ())),
    "lugs near the axle": (("knuckle.lugs[0].x_mm", -40.0), ("knuckle.lugs[1].x_mm", -40.0), ("knuckle.obstacles", ())),
    "hose and limits": (("caliper.hose_port_mm", ((40.0, 10.0, -40.0),)), ("limits", {"bleeder-up": 90.0, "ligament": 12.0})),
    "a boss not measured": (("knuckle.lugs[1].boss_mm", None),),
    "no bolt chosen": (("bracket.lug_bolt", None),),
    "retainer bolts": (("hub.retainer_circle_mm", 120.0), ("hub.retainer_count", 4), ("hub.retainer_first_deg", 45.0),
                       ("hub.retainer_socket_mm", 18.0), ("knuckle.obstacles", ())),
    "counterbores and cutouts": (("bracket.lug_hole", "counterbore"), ("bracket.hole_class", "close"), ("knuckle.obstacles", ()),
                                 ("bracket.cutouts", (Cutout(x_mm=-76.0, y_mm=5.0, diameter_mm=20.0),))),
    "marked caliper": (("caliper.hand", "right"),),
}  # fmt: skip


@pytest.mark.parametrize("variant", VARIANTS)
def test_every_angle_has_the_verdict_of_the_single_path(good: Job, library: Library, variant: str) -> None:
    """Sets drawn by chance, a few angles of each solved the long way: stops, unknowns, watches and mets agree."""
    chance = random.Random(variant)
    rotors, calipers = parts_of(library)
    lengths, met = LengthFormat("mm"), set()
    for k in range(12):
        parts = (("rotor", chance.choice(rotors)), ("caliper", chance.choice(calipers)), ("fit.rotor_spacer_mm", chance.choice((0.0, 3.0))),
                 ("bracket.side", chance.choice(("outboard", "inboard"))))  # fmt: skip
        job = with_edits(good, (*(parts if k > 2 else ()), *VARIANTS[variant]))
        before = tuple(f for f in solve(job, turns=False, remedies=False).findings if f.id in ("tip-gap", "pad-overhang", "pad-inner-edge",
                       "slot-gap", "rotor-on-hub", "wheel-stud-engagement", "wheel-on-hub", "caliper-sizes", "rotor-sizes",
                       "lug-sizes", "hub-sizes", "wheel-sizes"))  # fmt: skip
        ranks = sweep_set(still_set(job, float(ANGLES[0]), lengths, before), ANGLES).ranks
        alive = np.flatnonzero(ranks > 0)
        asked = {*chance.sample(range(360), 3), *chance.sample(list(alive), min(len(alive), 4))}
        for angle in asked:
            turned = with_edits(job, (("fit.clock_deg", float(angle)),))
            assert BY_RANK[ranks[angle]] is worst(solve(turned, turns=False, remedies=False).verdicts), (k, angle)
            met.add(int(ranks[angle]))
    assert met


def test_the_search_finds_what_brute_force_finds(good: Job, library: Library) -> None:
    """Every set of a small library at every tenth degree, one at a time: the same verdict for each, the same ranking on top."""
    rotors, calipers = parts_of(library)
    space = SearchSpace(tuple(rotors[1:3]), tuple(calipers[3:7]), (0.0, 3.0), ("outboard",), angles=36)
    made = [f for s in search(good, space) for f in s.sets]
    found = {f.name.split(" at ")[0] + str(f.job.fit.rotor_spacer_mm): f for f in made}
    assert sum(1 + f.alike for f in made) == 16 and all(f.verdict is Verdict.STOP for f in made if f.alike)
    best: dict[str, Verdict] = {}
    for rotor in space.rotors:
        for caliper in space.calipers:
            for plate in space.plates:
                job = with_edits(good, (("rotor", rotor), ("caliper", caliper), ("fit.rotor_spacer_mm", plate)))
                verdicts = [single_path(with_edits(job, (("fit.clock_deg", 10.0 * k),)))[0] for k in range(36)]
                best[f"{rotor.name} + {caliper.name}{plate}"] = max(verdicts, key=lambda v: v.rank)
    assert all(
        found[name].verdict is verdict if name in found else verdict is Verdict.STOP for name, verdict in best.items()
    )
    assert set(found) <= set(best) and len(found) > 4
    assert {Verdict.STOP, Verdict.CAUTION} <= set(best.values())


def test_every_set_told_is_what_the_single_path_says(good: Job, library: Library) -> None:
    """The whole library: the verdict of each of the best sets, and of some that stop, is that of one whole solution."""
    criteria = Criteria()
    results = list(look(good, library, criteria))[-1]
    space = space_for(library, criteria)
    assert results.done == 1.0 and results.combinations == space.combinations >= 40 * 25 * 360 * 3 * 2
    assert results.counts.total() * space.angles == space.combinations and len(results.sets) == results.most
    ranks = [found.verdict.rank for found in results.sets]
    assert ranks == sorted(ranks, reverse=True) and ranks[0] == Verdict.CAUTION.rank
    assert results.by_play >= 5 and all(found.by_play for found in results.sets[:5])
    chosen = [*results.sets[:25], *random.Random(2).sample(results.sets, 15)]
    for found in chosen:
        assert single_path(found.job)[0] is found.verdict, found.name
    for found in (
        one for kept in results.missed.values() for one in kept[:6]
    ):  # what is told to stop a set does, where it is told
        assert found.decides in {f.id for f in why_not(found.job)}, (found.name, found.decides)


def test_play_in_the_bolt_holes_counts_as_it_does_in_check(good: Job, library: Library) -> None:
    """What play can push past a limit is met by no set; where no limit is near enough, sets are met. ``check`` says the same."""
    bare = replace(good, survey={})
    for job, verdict in ((bare, Verdict.CAUTION), (with_edits(bare, (("limits", {"tip-gap": 0.9}),)), Verdict.OK)):
        found = list(look(job, library, Criteria(angles=36, plates=(0.0,))))[-1].sets[:12]
        assert found[0].verdict is verdict and found[0].by_play is (verdict is Verdict.CAUTION)
        for one in found:
            asked = assess(solve(one.job, turns=False)).solution.findings
            open_ones = [f for f in asked if f.verdict is not Verdict.OK]
            assert one.verdict is (open_ones[0].verdict if open_ones else Verdict.OK)
            assert one.by_play is (bool(open_ones) and all(f.by_play for f in open_ones))


def test_a_watch_for_play_alone_is_passed_by_only_for_better_ones(good: Job) -> None:
    """Where other watches are kept already it is looked at; where what is kept is met it is not."""
    bare = replace(good, survey={})
    space = SearchSpace((bare.rotor,), (bare.caliper,), (0.0,), ("outboard",), angles=36)
    watch = float(Verdict.CAUTION.rank)
    for worst_kept, passed in (((-watch, -1.0), 0), ((-watch - 0.6, -1.0), 1)):
        step = next(search(bare, space, lambda key, kept=worst_kept: key < kept))
        assert step.passed == passed and [found.by_play for found in step.sets] == [True] * (1 - passed)


def test_any_set_is_found_by_its_name(good: Job, library: Library) -> None:
    """One that was not kept is looked at when it is asked for, with the single path's verdict; what nobody sells is not there."""
    rotor = next(r for r in rotors_of(library) if r.bolt_circle_mm not in (None, good.hub.bolt_circle_mm))
    caliper = next(p.item for p in library.of_kind("caliper"))
    found = called(good, library, Criteria(), f"{rotor.name.replace('×', 'x')} {caliper.name}")
    assert found and all(f.job.rotor == rotor and f.job.caliper == caliper for f in found)
    assert all(single_path(f.job)[0] is f.verdict is Verdict.STOP for f in found) and found[0].alike > 0
    assert called(good, library, Criteria(), "no such part") == called(good, library, Criteria(), " ") == ()


def test_guesses_hold_a_set_down(good: Job, library: Library) -> None:
    """A set that is met, its bridge height declared a guess, is a watch: what rests on a guess is never better."""
    best = list(look(good, library, Criteria()))[-1].sets[0]
    guessed = replace(best.job.caliper, guessed=("bridge_to_pad_top_mm",))
    space = SearchSpace((best.job.rotor,), (guessed,), (best.job.fit.rotor_spacer_mm,), (best.job.bracket.side,))
    found = next(search(good, space)).sets[0]
    assert best.by_play and found.verdict is Verdict.CAUTION and not found.by_play
    assert single_path(found.job)[0] is Verdict.CAUTION


def test_a_hundred_times_sooner_than_one_at_a_time(good: Job, library: Library) -> None:
    """The whole search against the single path's pace on the same parts: at least a hundred times as many sets a second."""
    space = space_for(library, Criteria())
    began = time.process_time()
    for _ in search(job_for(good, Criteria()), space):
        pass
    each = (time.process_time() - began) / space.combinations
    began = time.process_time()
    for angle in range(12):
        single_path(with_edits(good, (("fit.clock_deg", 170.0 + angle),)))
    assert (time.process_time() - began) / 12 >= 100 * each


def near(plate: PlateShape) -> float:
    """How near the plate comes to the axis [mm]."""
    return 0.0 if contains_axis(plate.outline) else plate.outline.distance_to((0.0, 0.0))


def test_the_axis_distance_of_a_plate_is_that_of_its_outline(good: Job) -> None:
    """The closed form over pairs of bosses against the exact outline's own distance."""
    job = with_edits(good, (("knuckle.obstacles", ()),))
    for angle in range(120, 250, 13):
        assembly = assemble(with_edits(job, (("fit.clock_deg", float(angle)),)))
        plate = shape_plate(assembly)
        if plate.outline is not None and plate.window is None and near(plate) > 32.1:
            assert hull_distance(assembly, np.radians([float(angle)]))[0] == pytest.approx(near(plate), abs=1e-6)


def test_many_verdicts_at_once_are_the_single_ones() -> None:
    """Values round both limits, infinite and unknown, limits from below and from above."""
    values = np.array([-np.inf, 0.9, 1.0 - 1e-10, 1.0, 1.5, 2.0, 2.0 + 1e-10, 9.0, np.inf, np.nan])
    for limit in (Limit(1.0, 2.0), Limit(2.0, 1.0, at_least=False), Limit(np.nan, 1.0)):
        assert [BY_RANK[k] for k in judge_all(values, limit)] == [judge(float(v), limit) for v in values]


def test_filters_and_an_empty_library(good: Job, library: Library) -> None:
    """Mount, action and duty let through what they name; with nothing left the search ends at once, with no set."""
    assert all(c.mount == "radial" for c in space_for(library, Criteria(mount="radial")).calipers)
    assert all(c.action == "floating" for c in space_for(library, Criteria(action="floating")).calipers)
    assert all(r.mass_kg >= 6.0 for r in space_for(library, Criteria(duty="hard")).rotors)
    empty = list(look(good, Library((), ()), Criteria()))
    assert [h.combinations for h in empty][-1] == 0 and empty[-1].sets == []
    radial = list(look(good, library, Criteria(mount="radial")))[-1].sets
    assert isinstance(radial[0], FoundSet) and all(f.verdict in (Verdict.STOP, Verdict.UNKNOWN) for f in radial)


@pytest.mark.parametrize("most", [1, 4, 12])
def test_what_is_passed_by_could_not_have_been_kept(good: Job, library: Library, most: int) -> None:
    """The best few with sets passed by are those of all sets made, to the last digit; parts that differ by name give the same sets."""
    rotors, calipers = parts_of(library)
    twins = [replace(part, name=f"{part.name} again") for part in (rotors[1], calipers[4])]
    space = SearchSpace(
        (*rotors[:4], twins[0]), (*calipers[2:7], twins[1]), (0.0, 3.0), ("outboard", "inboard"), angles=24
    )  # fmt: skip
    job = job_for(good, Criteria())
    every, few = SearchResults(space.combinations, 10_000), SearchResults(space.combinations, most)
    for one in search(job, space):
        every.take(one)
    for one in search(job, space, few.wants):
        few.take(one)
    text = [[(f.name, f.verdict, f.score, f.feasible, f.decides) for f in found] for found in (few.sets, every.sets)]
    assert text[0] == text[1][:most] and every.counts.total() == few.counts.total() + few.passed == 5 * 6 * 4
    assert every.passed == 0 and (few.passed > 0 or most > 4)
    again = [f for f in every.sets if f.job.caliper is twins[1] and not f.alike]
    first = [f for f in every.sets if f.job.caliper is calipers[4] and not f.alike]
    assert [f.key for f in again] == [f.key for f in first] and len(again) > 0


def test_what_the_screen_stops_is_stopped_one_by_one(good: Job, library: Library) -> None:
    """Pairs drawn by chance round the limits: whatever the arrays stop, the single path stops by the same size or one told before."""
    chance, (rotors, calipers) = np.random.default_rng(5), parts_of(library)
    stopped = 0
    for _ in range(12):
        rotor = rotors[int(chance.integers(len(rotors)))]
        changed = [
            replace(
                caliper, slot_width_mm=(rotor.thickness_mm or 20.0) + float(chance.normal(1.0, 1.5)),
                bridge_to_pad_top_mm=float(chance.normal(3.0, 2.0)), pad_height_mm=float(chance.normal(45.0, 10.0)),
            )
            for caliper in calipers
        ]  # fmt: skip
        for places in Screen(changed).surely_stopped(replace(good, rotor=rotor)):
            for place in places:
                job = replace(good, rotor=rotor, caliper=changed[place])
                assert Verdict.STOP in [
                    solve(job, turns=False).finding(id).verdict for id in ("tip-gap", "pad-inner-edge", "slot-gap")
                ]
                stopped += 1
    assert stopped > 30


@pytest.mark.parametrize("side", ["outboard", "inboard"])
def test_what_is_held_off_centre_is_so_one_by_one(good: Job, library: Library, side: str) -> None:
    """Plates and shims of given thickness: what the arrays stop for its axial error, the single path stops for it, and no more."""
    chance, (_, calipers) = np.random.default_rng(11), parts_of(library)
    changed = [
        replace(c, ear_face_offset_mm=float(chance.normal(-36.0, 2.0)), ear_seat=("inboard", "outboard")[k % 2])
        for k, c in enumerate([*calipers, *calipers])
    ]  # fmt: skip
    seen = set()
    for shims, ears in (((1.0, 1.0), ()), ((0.5, 2.0), ((0.4,), (0.4,)))):
        edits = (
            ("survey", {}),
            ("bracket.side", side),
            ("bracket.thickness_mm", 10.0),
            ("bracket.shims_mm", shims),
            ("fit.ear_shims_mm", ears),
        )
        job = with_edits(good, edits)
        stopped = Screen(changed).off_centre(job)
        for caliper, off in zip(changed, stopped):
            alone = solve(replace(job, caliper=caliper), turns=False).finding("axial-offset")
            stops = alone.verdict is Verdict.STOP
            assert stops is bool(np.isfinite(off)), (caliper.action, caliper.ear_face_offset_mm, alone.value)
            assert not stops or abs(float(off) - abs(alone.value)) < 1e-5
            seen.add(stops)
    assert True in seen and np.isnan(Screen(changed).off_centre(with_edits(good, (("survey", {}),)))).all()


def test_near_misses_come_nearest_first(good: Job, library: Library) -> None:
    """Each is as short as its findings made one by one say, added up; none that was looked at misses by less; the rest follows."""
    rotors, calipers = parts_of(library)
    space = SearchSpace(rotors[:8], calipers, (0.0, 3.0), ("outboard",), angles=24)
    results = SearchResults(space.combinations, 10_000)
    for step in search(job_for(good, Criteria()), space):
        results.take(step)
    near = results.near_misses()
    shorts = [found.short for found in near]
    assert len(near) > 5 and shorts == sorted(shorts) and min(shorts) > 0.0
    for found in near[:20]:
        alone = solve(found.job, turns=False)
        stops = {f.id: abs(f.value - f.limit) for f in alone.findings if f.verdict is Verdict.STOP}
        assert stops[found.decides] <= found.short + 1e-9 <= sum(stops.values()) + 2e-9
    stopped = [found for found in results.sets if found.verdict is Verdict.STOP]
    assert [f.nearness for f in stopped] == sorted(f.nearness for f in stopped)


HOMES = {"stepped-plate": "", "jogged-plate": "", "two-part": "", "radial-mount": "radial", "axle-end-plate": "axle-end",
         "weld-on": "tube-tab", "straight-on": "no-bracket", "eccentric-bushings": "bushings"}  # fmt: skip


@pytest.mark.parametrize("family", HOMES)
def test_kinds_made_anew_at_every_angle(good: Job, library: Library, family: str) -> None:
    """What is chosen has the verdict of the single path there; what is stopped is so at every twentieth degree asked one by one."""
    home = HOMES[family]
    job = with_edits(job_of(example_vehicle(home)) if home else good, (("bracket.family", family), ("survey", {})))
    job = job_for(job, Criteria())
    rotors, calipers = parts_of(library)
    own = SearchSpace(
        rotors=(job.rotor, rotors[0]), calipers=(job.caliper, calipers[2]), plates=(0.0,), sides=(job.bracket.side,)
    )
    sets = [one for step in search(job, own) for one in step.sets]
    for found in sets:
        if found.verdict is not Verdict.STOP:
            assert single_path(found.job)[0] is found.verdict
            continue
        at = (replace(found.job, fit=replace(found.job.fit, clock_deg=float(angle))) for angle in range(0, 360, 20))
        assert all(single_path(one)[0] is Verdict.STOP for one in at), found.decides
    assert sets and (not home or any(found.verdict is not Verdict.STOP for found in sets))

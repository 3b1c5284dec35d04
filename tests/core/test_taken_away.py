"""Every measurement taken away in turn: no verdict becomes better for it, none that depends on it stays met."""

from collections.abc import Iterator

import numpy as np
import pytest
import shapely

from bicentra.core.base.errors import JobError
from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.records import replace
from bicentra.core.bracket.families.table import FAMILIES
from bicentra.core.drawing.sheets.imprint import TRIAL_ONLY, cut_mark
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.ring import NO_PAIR, distance, least, least_of
from bicentra.core.parts.edits import with_edits, with_value
from bicentra.core.parts.fields import Meaning, fields, is_described, meaning
from bicentra.core.parts.job import Job
from bicentra.core.parts.validate import validate
from bicentra.study.document.starting import demo_job

CHOSEN = (
    "thickness_mm",
    "shims_mm",
    "lug_bolt_length_mm",
    "caliper_bolt_length_mm",
    "stock_mm",
    "chamfer_mm",
    "_washers",
)
"""Keys of which nothing means “choose for me” or “none”: taking them away is an order, not a gap."""
THERE = ("hub.backing_plate_mm", "hub.retainer_circle_mm")
"""Keys that say whether a thing is there at all; without them nobody asks about it."""
SHARES, STEPS = (0.6, 1.3), (8.0, -8.0, 50.0)


def whole() -> Job:
    """The demo without faults and without its survey."""
    demo = demo_job()
    return replace(demo, survey={}, bracket=replace(demo.bracket, thickness_mm=None, caliper_bolt_length_mm=None))


def examples() -> dict[str, Job]:
    """Faultless and faulty jobs: every kind of bracket, a floating caliper, a rotor behind the flange, clashes everywhere."""
    good, found = whole(), {}
    for family in FAMILIES:
        found[family] = with_edits(good, (("bracket.family", family),))
    found["demo"] = replace(demo_job(), survey={})
    found["radial"] = with_edits(good, (("caliper.mount", "radial"), ("bracket.family", "radial-mount")))
    found["floating"] = with_edits(good, (
        ("caliper.action", "floating"), ("caliper.pistons_outboard_mm", ()), ("caliper.pad_thickness_mm", 10.0), ("caliper.slide_inboard_mm", 12.0),
        ("caliper.slide_outboard_mm", 12.0),
    ))  # fmt: skip
    found["behind"] = with_edits(good, (("hub.mounting", "behind-flange"),))
    lug = replace(good.knuckle.lugs[0], x_mm=-84.0, y_mm=20.0, z_mm=-50.0, boss_mm=40.0)
    found["lug in the way"] = with_edits(good, (("knuckle.lugs", (lug, good.knuckle.lugs[1])),))
    web = replace(
        good.knuckle.obstacles[2], outline_mm=((-120.0, -20.0), (-80.0, -20.0), (-80.0, 20.0)), z_max_mm=-40.0
    )
    found["web in the way"] = with_edits(good, (("knuckle.obstacles", (*good.knuckle.obstacles[:2], web)),))
    return found


def measurements(record: object, path: str = "") -> Iterator[tuple[str, Meaning, object]]:
    """Every number, thread and list of a job that somebody has to measure or look up."""
    for of in fields(record):  # type: ignore[arg-type]
        value, here = getattr(record, of.name), f"{path}.{of.name}" if path else of.name
        if of.name in ("extra", "survey", "limits", "guessed") or here.endswith(CHOSEN) or here in THERE:
            continue
        if is_described(value):
            yield from measurements(value, here)
        elif isinstance(value, tuple) and value and is_described(value[0]):
            for k, item in enumerate(value):
                yield from measurements(item, f"{here}[{k}]")
        elif value and (of.meaning is None or meaning(of).kind is not None or meaning(of).thread):
            yield here, meaning(of), value


def judged(job: Job) -> dict[str, Finding]:
    """The findings of a job by their ids."""
    return {f.id: f for f in solve(job, turns=False, remedies=False).findings}


def valid(job: Job) -> bool:
    """Whether the job would be accepted."""
    try:
        validate(job)
    except JobError:
        return False
    return True


def others(of: Meaning, value: object) -> list[float]:
    """Values the field allows besides the one it had."""
    if not isinstance(value, float):
        return []
    return [
        v
        for v in (*(value * s for s in SHARES), *(value + s for s in STEPS), -value)
        if of.least is None or v >= of.least
    ]


@pytest.mark.parametrize("name", list(examples()))
def test_nothing_gets_better_by_not_knowing(name: str) -> None:
    """Without a measurement: no finding better than with it or gone without a word, none met that another value would spoil.

    Of the other values every second is tried, another half of them with the next measurement and in the next example.
    """
    job = examples()[name]
    before, half = judged(job), list(examples()).index(name)
    for k, (path, of, value) in enumerate(measurements(job)):
        gone = with_value(job, path, () if isinstance(value, tuple) else None)
        if not valid(gone):
            continue
        after = judged(gone)
        unsuited = any(id == "bracket-suits" and f.verdict is not Verdict.OK for id, f in after.items())
        for id, finding in before.items():
            assert id in after or unsuited, (path, id)
            now = after.get(id, finding).verdict
            assert now.rank <= finding.verdict.rank or (finding.verdict, now) == (Verdict.STOP, Verdict.UNKNOWN), (
                path,
                id,
            )
        met = {id for id, f in after.items() if f.verdict is Verdict.OK}
        for other in others(of, value)[(k + half) % 2 :: 2]:
            moved = with_value(job, path, other)
            if met and valid(moved):
                spoilt = {id for id, f in judged(moved).items() if f.verdict in (Verdict.STOP, Verdict.CAUTION)} & met
                assert not spoilt, (path, other, spoilt)


def test_a_lug_nobody_placed_is_not_far_away() -> None:
    """A lug without its x was infinitely far off by the geometry library: a clash of the caliper with it turned to met."""
    job = examples()["lug in the way"]
    assert judged(job)["caliper-to-obstacle"].verdict is Verdict.STOP
    for name in ("x_mm", "y_mm", "z_mm", "boss_mm"):
        found = judged(with_value(job, f"knuckle.lugs[0].{name}", None))["caliper-to-obstacle"]
        assert found.verdict is Verdict.UNKNOWN, name
    assert np.isnan(distance(shapely.box(0, 0, 1, 1), shapely.points([[np.nan, 3.0]])))[0]


def test_what_is_missing_is_counted_not_passed_over() -> None:
    """Without pad height the body was left out of the room round the heads; without ear thickness the bolts out of removal."""
    job = whole()
    assert judged(with_value(job, "caliper.pad_height_mm", None))["wheel-room"].verdict is Verdict.OK, (
        "traced: not needed"
    )
    plain = with_edits(job, (("caliper.body_face_mm", ()), ("caliper.body_section_mm", ())))
    assert judged(with_value(plain, "caliper.pad_height_mm", None))["bolt-head-room"].verdict is Verdict.UNKNOWN
    assert judged(with_value(job, "caliper.ear_thickness_mm", None))["caliper-removal"].verdict is Verdict.UNKNOWN
    for bolt in ("lug_bolt", "caliper_bolt"):
        assert judged(with_value(job, f"bracket.{bolt}", None))["bolt-head-room"].verdict is Verdict.UNKNOWN


def test_infinity_is_no_such_pair_and_nan_is_not_known() -> None:
    """Only an empty list has no pair; an infinite entry is a place that is unknown; a certain clash is said all the same."""
    nobody = least([], [], 3)
    assert nobody.value.tolist() == [NO_PAIR] * 3 and least_of([]) == NO_PAIR
    one = least([np.array([[5.0, np.inf], [5.0, np.nan], [-1.0, np.nan], [5.0, 6.0]])], [("a", "b"), ("a", "c")], 4)
    assert np.isnan(one.value[:2]).all() and one.value[2:].tolist() == [-1.0, 5.0]
    assert np.isnan(least_of([3.0, np.inf])) and least_of([-2.0, np.nan]) == -2.0


def test_what_there_is_none_of_is_said_once(good: Job) -> None:
    """Said: a watch that names it, nothing waits for it; never met; where the thing is there after all, the saying counts for nothing."""
    job = replace(good, practice=False)
    for name, edits in (("wheel", (("wheel", None),)), ("bleeders", (("caliper.bleeders_deg", ()),))):
        bare = with_edits(job, edits)
        waiting = [f.id for f in solve(bare).findings if f.verdict is Verdict.UNKNOWN]
        assert waiting and cut_mark(solve(bare)).word == TRIAL_ONLY
        said = solve(with_edits(bare, (("fit.absent", (name,)),)))
        assert {said.finding(id).verdict for id in waiting} == {Verdict.CAUTION} and cut_mark(said).word == ""
        assert all(("wheel" if name == "wheel" else "bleed screw") in said.finding(id).why for id in waiting)
        there = solve(with_edits(job, (("fit.absent", (name,)),)))
        assert [(f.id, f.verdict) for f in there.findings] == [(f.id, f.verdict) for f in solve(job).findings]
    blank = with_edits(job, (("fit.absent", ("wheel",)), ("wheel.centre_bore_mm", None)))
    assert solve(blank).finding("wheel-on-hub").verdict is Verdict.UNKNOWN

"""The planner against plain enumeration and against the rigid body model; what it never advises."""

import itertools
import math
import random

import pytest

from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import LooseShims, ShimStacks, Trial, TrialLimits
from bicentra.core.trialfit.fit import trial_fit
from bicentra.core.trialfit.plan import limits_of, plans_of
from bicentra.core.trialfit.pose import pose_of
from bicentra.core.trialfit.shim_station import stations_of
from tests.core.trialfit.corner import SPACING, gaps_of, plain_job, some_trial


def lugs_along(job: Job) -> tuple[float, float]:
    """Where the two lugs lie along the slot, by plane trigonometry of their own."""
    clock = math.radians(job.fit.clock_deg or 0.0)
    return tuple(  # type: ignore[return-value]
        sorted(((lug.y_mm or 0.0) * math.cos(clock) - (lug.x_mm or 0.0) * math.sin(clock) for lug in job.knuckle.lugs), reverse=True)
    )  # fmt: skip


def enumerated(job: Job, trial: Trial, offset: float, tilt: float) -> tuple[int, float] | None:
    """Fewest pieces and least offset left, by trying every way to deal all shims out: first bolt, second bolt, box."""
    pieces = [one for loose in trial.stock for one in [loose.thickness_mm] * loose.count]
    pieces += [*trial.shims_mm.first, *trial.shims_mm.second]
    (w1, w2), sign = lugs_along(job), 1.0 if job.bracket.side == "outboard" else -1.0
    now = [math.fsum(t or 0.0 for t in side) for side in trial.shims_mm.sides]
    limits, best = limits_of(job, trial), None
    for dealt in set(itertools.product((0, 1, 2), repeat=len(pieces))):
        sums = [math.fsum(t or 0.0 for t, to in zip(pieces, dealt) if to == side) for side in (1, 2)]
        d1, d2 = (sign * (total - have) for total, have in zip(sums, now))
        left = offset + d2 + (d1 - d2) * (0.0 - w2) / (w1 - w2)
        lean = math.degrees(math.atan(math.tan(math.radians(tilt)) - (d1 - d2) / (w1 - w2)))
        apart = abs(sums[0] - sums[1]) <= limits.apart + 1e-6
        if apart and abs(left) <= limits.offset + 1e-6 and abs(lean) <= limits.tilt + 1e-6:
            found = (sum(to > 0 for to in dealt), round(abs(left), 6))
            best = found if best is None or found < best else best
    return best


@pytest.mark.parametrize("side", ["outboard", "inboard"])
def test_against_every_way_to_deal_the_shims(side: str) -> None:
    """Small stocks, both schools: the same fewest pieces and the same least offset, or both find none."""
    job, rng, seen = plain_job(side), random.Random(side), [0, 0]
    line = line_up(job)
    for _ in range(70):
        trial = some_trial(rng, job, 3)
        if sum(loose.count for loose in trial.stock) + sum(len(s) for s in trial.shims_mm.sides) > 8:
            continue
        pose = pose_of(job, trial)
        plans = [plan for plan in plans_of(job, line, trial, pose) if plan.place == "lug"]
        best = enumerated(job, trial, pose.offset.value, pose.tilt.value)
        seen[best is not None] += 1
        text = min(((plan.pieces, round(abs(plan.offset), 6)) for plan in plans), default=None)
        assert text == (None if best is None else pytest.approx(best, abs=2e-6))
    assert min(seen) >= 5


def moved(job: Job, trial: Trial, place: str, first: float, second: float) -> tuple[float, float]:
    """Where a simulated caliper goes: through its two seats runs a straight line, and that is all there is to it."""
    ear = (job.caliper.ear_spacing_mm or 0.0) / 2
    (w1, w2), sign = (
        (lugs_along(job), 1.0 if job.bracket.side == "outboard" else -1.0) if place == "lug" else ((ear, -ear), 1.0)
    )
    del trial
    at = lambda w: sign * (first * (w - w2) + second * (w1 - w)) / (w1 - w2)  # noqa: E731
    return at(0.0), math.degrees(math.atan((at(-SPACING / 2) - at(SPACING / 2)) / SPACING))


def test_two_thousand_corners() -> None:
    """Seeded corners with noisy readings: where shims suffice, two moves reach the limits in 95 of 100, and none makes it worse."""
    job, rng = plain_job(), random.Random(16)
    line, reached, tried, spare = line_up(job), 0, 0, 3.0
    stock = tuple(LooseShims(thickness_mm=size, count=6) for size in (0.1, 0.25, 0.5, 0.76, 1.0))
    for _ in range(2000):
        offset, tilt = rng.uniform(-1.0, 1.0), rng.gauss(0.0, 0.12)
        here = ShimStacks(first=(0.76, 0.5), second=(0.76, 0.5))
        for move in range(3):
            true = gaps_of(offset, tilt, spare)
            read = {
                name: round(getattr(true, name) + rng.gauss(0.0, 0.03), 2) for name in true.described if name != "extra"
            }
            read = {name: max(value, 0.0) for name, value in read.items()}
            trial = Trial(
                gaps_mm=replace(true, **read), station_spacing_mm=SPACING, shims_mm=here, stock=stock, school="unequal"
            )
            if abs(offset) <= 0.25 and abs(tilt) <= 0.1:
                reached, tried = reached + 1, tried + 1
                break
            plans = plans_of(job, line, trial, pose_of(job, trial))
            if move == 2 or not plans:
                tried += bool(plans) or move > 0
                break
            best = plans[0]
            grown = [math.fsum(t or 0.0 for t in new) - math.fsum(t or 0.0 for t in old)
                     for new, old in zip((best.first, best.second), here.sides if best.place == "lug" else ((), ()))]  # fmt: skip
            step, turn = moved(job, trial, best.place, *grown)
            worse = abs(offset + step) > max(abs(offset), 0.25 + 0.1) or abs(tilt + turn) > max(abs(tilt), 0.1 + 0.08)
            assert not worse
            offset, tilt = offset + step, tilt + turn
            here = ShimStacks(first=best.first, second=best.second) if best.place == "lug" else here
    assert tried > 1500 and reached / tried >= 0.95


def test_a_shim_the_wrong_way_is_called_so() -> None:
    """On the outboard side a shim moves the caliper outboard: sitting too far out it makes it worse; on the inboard side it helps."""
    for side, word in (("outboard", "makes it worse: take out"), ("inboard", "so shims there help")):
        job = with_edits(
            plain_job(side), (("trials", (Trial(gaps_mm=gaps_of(0.5, 0.0, 3.0), station_spacing_mm=SPACING),)),)
        )
        fit = trial_fit(solve(job))
        assert fit is not None and word in fit.senses[0]


def test_no_bolt_is_left_without_its_thread() -> None:
    """By hand: 25 mm lug bolts through a 10 mm plate and one 2.5 mm washer leave 12.5; 0.76 of shims under 12 for M12 is refused."""
    job = with_edits(
        plain_job(),
        (("bracket.lug_bolt_length_mm", 25.0), ("bracket.thickness_mm", 10.0), ("bracket.shims_mm", (0.0, 0.0))),
    )
    trial = Trial(
        gaps_mm=gaps_of(-0.8, 0.0, 3.0), station_spacing_mm=SPACING, stock=(LooseShims(thickness_mm=0.76, count=2),)
    )
    fit = trial_fit(solve(with_edits(job, (("trials", (trial,)),))))
    assert fit is not None
    lug = [move for move in fit.refused if move.plan.place == "lug"]
    bolt = lug[0].bolts[0]
    assert bolt.engagement == pytest.approx(25.0 - 2.5 - 10.0 - 0.76) and bolt.least == 12.0 and not bolt.holds
    assert all(bolt.holds for move in fit.moves for bolt in move.bolts)


def test_radial_feet_are_planned_apart() -> None:
    """Under a radial mount's feet a shim moves it along the radius: no plan for the offset names that place."""
    job = plain_job()
    radial = replace(
        job, caliper=replace(job.caliper, mount="radial"), bracket=replace(job.bracket, family="radial-mount")
    )
    stations = stations_of(radial, line_up(radial))
    assert [station.place for station in stations if station.radial] == ["ear"]
    trial = Trial(
        gaps_mm=gaps_of(-0.5, 0.0, 3.0), station_spacing_mm=SPACING, stock=(LooseShims(thickness_mm=0.5, count=4),)
    )
    assert {plan.place for plan in plans_of(radial, line_up(radial), trial, pose_of(radial, trial))} == {"lug"}
    low = replace(
        trial, pad_top_mm=(radial.fit.pad_inset_mm or 0.0) + 1.3
    )  # 1.3 too near to the axle: two of 0.5 leave 0.3
    (feet,) = [plan for plan in plans_of(radial, line_up(radial), low, pose_of(radial, low)) if plan.place == "ear"]
    assert feet.first == feet.second == (0.5, 0.5) and feet.radial == pytest.approx(-0.3)


def test_what_else_when_shims_cannot() -> None:
    """No stock: 0.6 outboard wants a 0.6 rotor spacer, or the plate 0.6 thinner; nothing is said while it is within limits."""
    job = plain_job()
    for offset, wants in (
        (0.6, ("0.60 mm rotor spacer", "0.60 mm thinner")),
        (-0.6, ("0.60 mm thicker", "")),
        (0.1, ()),
    ):
        trial = Trial(gaps_mm=gaps_of(offset, 0.0, 3.0), station_spacing_mm=SPACING)
        fit = trial_fit(solve(with_edits(job, (("trials", (trial,)), ("bracket.thickness_mm", 10.0)))))
        assert fit is not None
        text = " | ".join(one.action for one in fit.alternatives)
        assert all(word in text for word in wants) and bool(text) is bool(wants)
    lean = Trial(
        gaps_mm=gaps_of(0.0, 0.5, 3.0), station_spacing_mm=SPACING, limits=TrialLimits(offset_mm=0.25, tilt_deg=0.1)
    )
    bent = with_edits(job, (("trials", (lean,)), ("bracket.thickness_mm", 10.0), ("bracket.shims_mm", (0.0, 0.0))))
    apart = math.tan(math.radians(0.5)) * (lugs_along(job)[0] - lugs_along(job)[1])
    first = max(
        range(2), key=lambda k: (job.knuckle.lugs[k].y_mm or 0) * math.cos(math.radians(job.fit.clock_deg or 0))
    )
    bent = with_edits(bent, ((f"knuckle.lugs[{first}].z_mm", (job.knuckle.lugs[first].z_mm or 0.0) - apart),))
    fit = trial_fit(solve(bent))
    assert fit is not None and any("Measure the lugs again" in one.action for one in fit.alternatives)
    assert "shims only hide it" in next(f for f in fit.findings if f.id == "trial-tilt").why

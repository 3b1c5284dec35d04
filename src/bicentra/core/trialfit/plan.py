"""Which shims, at which place: the fewest pieces that bring offset and tilt within limits, from what lies ready.

All numbers of pieces are gone through from none on, every split of them over both bolts, every stack of that many; the first
number with an answer is the least (exhaustive search). The referee in the tests is a plain enumeration without any of this.
"""

import math

import numpy as np

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.parts.trial import LooseShims, ShimStacks, Trial
from bicentra.core.trialfit.pose import Pose
from bicentra.core.trialfit.shim_station import (
    MOST_A_BOLT,
    Counts,
    Place,
    ShimStation,
    Stacks,
    most_pieces,
    stacks_at,
    stacks_of,
    stations_of,
)

TILT_DEG, SURE = 0.1, 2.0
"""Tilt at most, where a trial says nothing: common practice, 0.2 mm over a caliper's length; so many standard uncertainties off
its limit a reading is sure (JCGM 106, from memory)."""
HEIGHT_MM = 0.5
"""How far off its planned height a caliper on studs may stand: common practice, a third of what the pad may lie inside
the edge.
"""
MOST_PLANS, MOST_PAIRS, SAME_MM = 24, 200, 1e-6
"""Plans that are reported, pairs of stacks that are looked at for one split of the pieces, equal heights [mm]."""


WIDENED = (1.5, 2.0, 3.0, 5.0, 9.0)
"""By how much the limits are widened, step by step, to find what comes nearest."""


class Limits(Record, frozen=True):
    """What is to be reached: offset at most [mm], tilt at most [degrees], unlike stacks by at most [mm]."""

    offset: float
    tilt: float
    apart: float


class ShimPlan(Record, frozen=True):
    """One answer: the shims at the first and the second ear's side after the move [mm], thickest first, unknown ones as ``None``;
    offset [mm] and tilt [degrees] it leads to; under a radial mount's feet
    how far from the planned height it then stands, outward [mm]."""

    place: Place
    first: tuple[float | None, ...]
    second: tuple[float | None, ...]
    offset: float
    tilt: float
    radial: float = UNKNOWN

    @property
    def slope(self) -> float:
        """Its tilt as a rise along the slot [mm per mm]."""
        return math.tan(math.radians(self.tilt))

    @property
    def pieces(self) -> int:
        """How many shims lie there then."""
        return len(self.first) + len(self.second)


def limits_of(job: Job, trial: Trial) -> Limits:
    """Return what a trial is to reach: as it says itself, else as the job does for a caliper of its action."""
    offset = trial.limits.offset_mm if trial.limits.offset_mm is not None else limit_for(job, "axial-offset").stop
    tilt = trial.limits.tilt_deg if trial.limits.tilt_deg is not None else TILT_DEG
    return Limits(offset, tilt, 0.0 if trial.school == "equal" else known(trial.most_apart_mm))


def plans_of(job: Job, line: LineUp, trial: Trial, pose: Pose) -> tuple[ShimPlan, ...]:
    """Return the plans for both places, best first: within limits, then fewest pieces, then least offset left.

    None where nothing is reachable, or offset or tilt are unknown.
    """
    limits, found = limits_of(job, trial), list[ShimPlan]()
    for station in stations_of(job, line):
        if station.known:
            found += _radial(station, trial, pose) if station.radial else _at(station, trial, pose, limits)
    return tuple(sorted(found, key=_rank)[:MOST_PLANS])


def nearest_plan(job: Job, line: LineUp, trial: Trial, pose: Pose) -> ShimPlan | None:
    """Return the shims at hand that come nearest to the limits where none reach them; ``None`` where even that is unknown."""
    limits = limits_of(job, trial)
    for wider in WIDENED:
        wide = Limits(wider * limits.offset, wider * limits.tilt, limits.apart)
        found = list[ShimPlan]()
        for station in stations_of(job, line):
            if station.known and not station.radial:
                found += _at(station, trial, pose, wide)
        if found:
            return min(found, key=lambda plan: max(abs(plan.offset) / limits.offset, abs(plan.tilt) / limits.tilt))
    return None


def _rank(plan: ShimPlan) -> tuple[float, ...]:
    return plan.pieces, round(abs(plan.offset), 6), round(abs(plan.tilt), 6), plan.place == "ear"


class _Ask(Record, frozen=True):
    """What is asked of both stacks: how they act, where they stand [mm], offset [mm] and slope as read, and the limits."""

    station: ShimStation
    now: tuple[float, float]
    offset: float
    slope: float
    limits: Limits

    def after(self, first: float, second: float) -> tuple[float, float]:
        """Return offset [mm] and slope with stacks that high [mm]."""
        move, turn = self.station.moved(first - self.now[0], second - self.now[1])
        return self.offset + move, self.slope + turn

    @property
    def steep(self) -> float:
        """The slope at most."""
        return math.tan(math.radians(self.limits.tilt))

    def spans_of_second(self, first: FloatArray) -> tuple[FloatArray, FloatArray]:
        """Return from where to where the second stack may be high [mm], for each height of the first one, (n,) float, mm."""
        (a, share), (c, turn) = self.station.shares(), self.station.turns()
        base, lean = self.after(0.0, 0.0)
        spans = [_spans(base + a * first, share, self.limits.offset), _spans(lean + c * first, turn, self.steep)]
        spans.append((first - self.limits.apart - SAME_MM, first + self.limits.apart + SAME_MM))
        return np.max([low for low, _ in spans], axis=0), np.min([high for _, high in spans], axis=0)

    def span_of_first(self) -> tuple[float, float]:
        """Return from where to where the first stack may be high [mm] at all: the corners of both bands together."""
        (a, b), (c, d) = self.station.shares(), self.station.turns()
        base, lean = self.after(0.0, 0.0)
        whole = a * d - b * c
        ends = [
            (d * (o * self.limits.offset - base) - b * (t * self.steep - lean)) / whole
            for o in (-1, 1)
            for t in (-1, 1)
        ]
        return min(ends), max(ends)


def _spans(base: FloatArray, gain: float, most: float) -> tuple[FloatArray, FloatArray]:
    """Return where |base + gain·x| ≤ most, for each base, (n,) float each."""
    if abs(gain) < 1e-12:
        inside = np.abs(base) <= most + SAME_MM
        return np.where(inside, -np.inf, np.inf), np.where(inside, np.inf, -np.inf)
    ends = np.array([(-most - base) / gain, (most - base) / gain])
    return ends.min(axis=0) - SAME_MM, ends.max(axis=0) + SAME_MM


def _at(station: ShimStation, trial: Trial, pose: Pose, limits: Limits) -> list[ShimPlan]:
    """Return the plans at one place with the fewest pieces."""
    slope = math.tan(math.radians(pose.tilt.value))
    if not is_known(pose.offset.value, slope, limits.offset, limits.tilt, limits.apart):
        return []
    there = stacks_at(trial, station.place)
    fixed = tuple(sum(thick is None for thick in side) for side in there.sides)
    sizes, counts = _ready(trial, station.place)
    ask = _Ask(station, _heights(there.sides), pose.offset.value, slope, limits)
    plans = _fewest(ask, sizes, counts, fixed)
    sure = surely(limits, pose)
    if plans and sure != limits and not any(is_within(plan, sure) for plan in plans):
        plans += _fewest(replace(ask, limits=sure), sizes, counts, fixed)
    return plans


def surely(limits: Limits, pose: Pose) -> Limits:
    """Return the limits drawn in by two standard uncertainties of what was read: within them nothing is left to chance. Limits
    narrower than that stay as they are."""
    offset = limits.offset - SURE * pose.offset.sd if is_known(pose.offset.sd) else 0.0
    tilt = limits.tilt - SURE * pose.tilt.sd if is_known(pose.tilt.sd) else 0.0
    return Limits(offset if offset > 0.0 else limits.offset, tilt if tilt > 0.0 else limits.tilt, limits.apart)


def is_within(plan: ShimPlan, limits: Limits) -> bool:
    """Tell whether what a plan leads to is within ``limits``."""
    return abs(plan.offset) <= limits.offset + SAME_MM and abs(plan.tilt) <= limits.tilt + SAME_MM


def _fewest(ask: _Ask, sizes: tuple[float, ...], counts: tuple[int, ...], fixed: tuple[int, ...]) -> list[ShimPlan]:
    """Return the plans with the fewest pieces that reach the limits. ``fixed``: unmeasured ones that stay at either bolt."""
    low, high = ask.span_of_first()
    most = min(most_pieces(len(sizes)), sum(counts))
    for pieces in range(2 * most + 1):
        found = []
        for first in range(max(0, pieces - most), min(pieces, most) + 1):
            if max(first + fixed[0], pieces - first + fixed[1]) <= MOST_A_BOLT:
                one, other = (stacks_of(sizes, counts, many) for many in (first, pieces - first))
                found += _pairs(ask, one, other, (low, high), counts)
        if found:
            return [_plan(ask, sizes, fixed, pair) for pair in found]
    return []


def _pairs(
    ask: _Ask, one: Stacks, other: Stacks, within: tuple[float, float], counts: tuple[int, ...]
) -> list[tuple[Counts, Counts]]:
    """Return the pairs of stacks that reach the limits and can be had together, those nearest to dead centre first."""
    found, there = list[tuple[Counts, Counts]](), np.array(counts)
    inside = np.flatnonzero((one.sums >= within[0] - SAME_MM) & (one.sums <= within[1] + SAME_MM))
    begins, ends = other.between(*ask.spans_of_second(one.sums[inside]))
    middle = sum(within) / 2
    open_ones = np.flatnonzero(ends > begins)
    for k in open_ones[np.argsort(np.abs(one.sums[inside[open_ones]] - middle), kind="stable")].tolist():
        first = one.counts[inside[k]]
        mates = other.counts[begins[k] : ends[k]]
        found += [(first, mate) for mate in mates[np.all(first + mates <= there, axis=1)]]
        if len(found) >= MOST_PAIRS:
            break
    return found


def _radial(station: ShimStation, trial: Trial, pose: Pose) -> list[ShimPlan]:
    """Return the plans for the height of a caliper on studs: both feet alike, the fewest pieces that bring it within
    ``HEIGHT_MM``; none where its height is unknown, or is right already.
    """
    off, there = pose.radial.value, stacks_at(trial, station.place)
    if not is_known(off) or abs(off) <= HEIGHT_MM or any(None in side for side in there.sides):
        return []
    sizes, counts = _ready(trial, station.place)
    pairs = tuple(count // 2 for count in counts)
    now = sum(_heights(there.sides)) / 2
    for pieces in range(min(most_pieces(len(sizes)), sum(pairs)) + 1):
        some = stacks_of(sizes, pairs, pieces)
        left = off + some.sums - now
        reached = np.flatnonzero(np.abs(left) <= HEIGHT_MM + SAME_MM)
        if len(reached):
            found = []
            for k in reached[np.argsort(np.abs(left[reached]), kind="stable")].tolist():
                side = tuple(
                    size for size, many in zip(reversed(sizes), reversed(some.counts[k].tolist())) for _ in range(many)
                )
                found.append(ShimPlan(station.place, side, side, pose.offset.value, pose.tilt.value, float(left[k])))
            return found
    return []


def _plan(ask: _Ask, sizes: tuple[float, ...], fixed: tuple[int, ...], pair: tuple[Counts, Counts]) -> ShimPlan:
    first, second = (
        tuple(size for size, many in zip(reversed(sizes), reversed(side.tolist())) for _ in range(many))
        for side in pair
    )
    offset, slope = ask.after(math.fsum(first), math.fsum(second))
    unknown = tuple((None,) * many for many in fixed)
    tilt = math.degrees(math.atan(slope))
    return ShimPlan(ask.station.place, (*first, *unknown[0]), (*second, *unknown[1]), offset, tilt)


def _ready(trial: Trial, place: Place) -> tuple[tuple[float, ...], tuple[int, ...]]:
    """Return the sizes that can be put in at a place [mm], rising, and how many of each: loose ones and those there now."""
    many: dict[float, int] = {}
    for loose in trial.stock:
        if loose.thickness_mm:
            many[round(loose.thickness_mm, 6)] = many.get(round(loose.thickness_mm, 6), 0) + loose.count
    for thick in (thick for side in stacks_at(trial, place).sides for thick in side if thick):
        many[round(thick, 6)] = many.get(round(thick, 6), 0) + 1
    sizes = tuple(sorted(size for size, count in many.items() if count))
    return sizes, tuple(many[size] for size in sizes)


def _heights(sides: tuple[tuple[float | None, ...], tuple[float | None, ...]]) -> tuple[float, float]:
    """Return the known height of both stacks [mm]: shims of unknown thickness stay where they are and take no part."""
    first, second = (math.fsum(thick for thick in side if thick is not None) for side in sides)
    return first, second


def after_plan(trial: Trial, plan: ShimPlan) -> Trial:
    """Return a trial with a plan's shims in place: what comes out goes into the box, what goes in comes out of it."""
    counts: dict[float, int] = {}
    for thick in (thick for side in stacks_at(trial, plan.place).sides for thick in side if thick):
        counts[thick] = counts.get(thick, 0) + 1
    for thick in (thick for side in (plan.first, plan.second) for thick in side if thick):
        counts[thick] = counts.get(thick, 0) - 1
    stock = {round(known(loose.thickness_mm), 6): loose for loose in trial.stock}
    for thick, more in counts.items():
        loose = stock.get(round(thick, 6), LooseShims(thickness_mm=thick, count=0))
        stock[round(thick, 6)] = replace(loose, count=max(loose.count + more, 0))
    name = "shims_mm" if plan.place == "lug" else "ear_shims_mm"
    leaves = ShimStacks(first=plan.first, second=plan.second)
    kept = tuple(loose for _, loose in sorted(stock.items()) if loose.count)
    return replace(trial, stock=kept, **{name: leaves})

"""Two more players: one that only does what comes next, a naive one that halves the difference."""

import math

from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import GAPS, Trial
from bicentra.core.practice.corner import begin_corner, inspect, put_shims, run_of, set_up, take_reading
from bicentra.core.practice.players import (
    HELD,
    MOST_ROUNDS,
    Played,
    _followed,
    fit_of,
)
from bicentra.core.practice.truth import truth_of
from bicentra.core.trialfit.log import CornerState
from bicentra.core.trialfit.plan import ShimPlan


def follower(base: Job, seed: int, level: int = 1) -> Played:
    """Return how somebody plays a corner who does what comes next, and nothing else."""
    return _followed(begin_corner(base, truth_of(seed, level)))


def naive_player(base: Job, seed: int, level: int = 1) -> Played:
    """Return how somebody plays a corner who reads one end, shims half the difference away, and never asks for a tilt."""
    job = begin_corner(base, truth_of(seed, level))
    order = ["clean", "rotor", "side", "heads", "ears", "shims", "lugs", "seal"]
    for turn in range(MOST_ROUNDS):
        for name in GAPS[:2]:
            job = take_reading(job, name)
        gaps = job.trials[-1].gaps_mm
        half = ((gaps.leading_outboard or 0.0) - (gaps.leading_inboard or 0.0)) / 2
        if abs(half) <= 0.25:
            job = _closed(job)
            if _can_lock(job):
                return Played(run_of(job), job, True)
            job = inspect(job, order.pop(0)) if order else job
        elif turn % 3 == 2 and order:
            job = inspect(job, order.pop(0))
        sign = 1.0 if job.bracket.side == "outboard" else -1.0
        trial = job.trials[-1]
        stack = _nearest(trial, math.fsum(t or 0.0 for t in trial.shims_mm.first) - sign * half)
        job = put_shims(job, ShimPlan("lug", stack, stack, math.nan, math.nan))
    return Played(run_of(job), job, False)


def _closed(job: Job) -> Job:
    """Return the job as somebody in a hurry closes it up: all that the lock asks for, what touches put right."""
    for name, value in HELD.items():
        job = set_up(job, name, value)
    for name in (*GAPS, "tip_gap_mm", "runout_mm", "turned"):
        job = take_reading(job, name)
    if (job.trials[-1].runout_mm or 0.0) > 0.2:
        job = take_reading(inspect(job, "lip"), "runout_mm")
    return take_reading(inspect(job, "weight"), "turned") if job.trials[-1].turned == "touches" else job


def _can_lock(job: Job) -> bool:
    standing = fit_of(job).standing
    return standing.state is CornerState.CENTRED and not standing.missing


def _nearest(trial: Trial, high: float) -> tuple[float, ...]:
    """Return up to three shims whose sum comes nearest to ``high`` [mm]: what a hand finds in the box."""
    sizes = sorted({loose.thickness_mm or 0.0 for loose in trial.stock})
    stacks = [(), *((a,) for a in sizes), *((a, b) for a in sizes for b in sizes if a <= b)]
    stacks += [(a, b, c) for a in sizes for b in sizes for c in sizes if a <= b <= c]
    return min(stacks, key=lambda stack: abs(sum(stack) - max(high, 0.0)))

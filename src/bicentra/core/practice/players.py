"""A careful player of the practice corner: its minutes are what a learner is measured against.

It sees nothing that the learner does not see.
"""

from bicentra.core.base.records import Record, replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.attachments import PracticeRun
from bicentra.core.parts.job import Job
from bicentra.core.practice.corner import begin_corner, inspect, put_shims, run_of, set_up, take_reading
from bicentra.core.practice.truth import truth_of
from bicentra.core.trialfit.advice import Advice, next_advice
from bicentra.core.trialfit.fit import Move, TrialFit, trial_fit
from bicentra.core.trialfit.set_up import without_gaps

MOST_STEPS, MOST_ROUNDS = 160, 25
"""So many steps, or rounds of shims, and a player gives up."""
HELD: dict[str, object] = {
    "rotor_nuts": 4, "bolts": "tight", "washers_final": True, "locker": "removable threadlocker", "tightened": "as the list says",
    "instrument": "feeler strips",
}  # fmt: skip
"""How a player sets up what is asked for."""
CHEAP = ("heads", "ears", "side")
"""What a careful player looks at before anything is read."""


class Played(Record, frozen=True, eq=False):
    """How a corner was played: the run at its end, the job with its log, whether it can be locked."""

    run: PracticeRun
    job: Job
    locked: bool


def fit_of(job: Job) -> TrialFit:
    """Return the last trial of a practice corner worked out."""
    found = trial_fit(solve(job, turns=False, remedies=False))
    assert found is not None
    return found


def first_move(fit: TrialFit) -> Move | None:
    """Return the change of shims that is advised first; ``None`` where there is none."""
    return fit.advised[0] if fit.moves else None


def follow_advice(job: Job, advice: Advice, move: Move | None) -> Job:
    """Return the practice corner once what is advised was done; the same job where that takes a person."""
    if advice.kind == "read" and advice.target == "station_spacing_mm":
        return set_up(job, advice.target, job.caliper.pad_width_mm or 100.0)
    if advice.kind == "read":
        return take_reading(job, advice.target)
    if advice.kind == "again":
        return replace(job, trials=(*job.trials[:-1], without_gaps(job.trials[-1])))
    if advice.kind == "inspect":
        return inspect(job, advice.target)
    if advice.kind == "unequal":
        return set_up(job, "school", "unequal")
    if advice.kind == "set" and advice.target in HELD:
        return set_up(job, advice.target, HELD[advice.target])
    return put_shims(job, move.plan) if advice.kind == "move" and move is not None else job


def reference_player(base: Job, seed: int, level: int = 1) -> Played:
    """Return how a careful hand plays a corner: holds the rotor, looks at what is quick, then does what is advised."""
    job = set_up(begin_corner(base, truth_of(seed, level)), "rotor_nuts", HELD["rotor_nuts"])
    for name in ("bolts", "washers_final"):
        job = set_up(job, name, HELD[name])
    for name in CHEAP:
        job = inspect(job, name)
    return _followed(job)


def _followed(job: Job) -> Played:
    """Return how it goes on from here for somebody who does what is advised."""
    for _ in range(MOST_STEPS):
        fit = fit_of(job)
        move = first_move(fit)
        advice = next_advice(job, fit, move)
        if advice.kind == "lock":
            return Played(run_of(job), job, True)
        later = follow_advice(job, advice, move)
        if later is job:
            break
        job = later
    return Played(run_of(job), job, False)

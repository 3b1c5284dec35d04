"""Two players of the practice corner: an honest one, who does as the bench advises, and a hasty one, who halves the difference.

The honest one's minutes are what a learner is measured against: it sees nothing that the learner does not see.
"""

import math

from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record, replace
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.practice import PracticeRun
from bicentra.core.parts.trial import GAPS, Gaps, Trial
from bicentra.core.practice.corner import DEEDS, Answer, do_deed, first_trial, moved, read_gap, read_other
from bicentra.core.practice.truth import Truth, truth_of
from bicentra.core.solution import solve
from bicentra.core.trialfit.fit import TrialFit, trial_fit
from bicentra.core.trialfit.log import State
from bicentra.core.trialfit.plan import Plan, after_plan

MOST_ROUNDS = 25
FINAL = (
    ("bolts", "tight"),
    ("washers_final", True),
    ("locker", "removable threadlocker"),
    ("tightened", "as the list says"),
)


class Played(Record, frozen=True, eq=False):
    """How a corner was played: the run at its end, the job with its log, whether it was locked, what was done in order."""

    run: PracticeRun
    job: Job
    locked: bool
    steps: tuple[str, ...]


class _Hands:
    """A job and a run, and the hands that work on them."""

    def __init__(self, base: Job, truth: Truth) -> None:
        self.truth, self.run = truth, PracticeRun(seed=truth.seed, level=truth.level)
        self.job = replace(base, trials=(first_trial(base, truth),), practice=True)
        self.steps: list[str] = []

    def take(self, answer: Answer) -> None:
        """Take an answer into run and job."""
        self.run, self.job = answer.run, with_edits(self.job, answer.edits)

    def set(self, **changes: object) -> None:
        """Change how the last trial is held."""
        self.job = replace(self.job, trials=(*self.job.trials[:-1], replace(self.job.trials[-1], **changes)))

    def read_all(self) -> TrialFit:
        """Read the four gaps, and return the trial worked out."""
        for name in GAPS:
            self.take(read_gap(self.truth, self.run, self.job, name))
        return self.fit()

    def fit(self) -> TrialFit:
        """Return the last trial worked out."""
        found = trial_fit(solve(self.job, turns=False, cures=False))
        assert found is not None
        return found

    def deed(self, name: str) -> bool:
        """Do something to the corner; returns whether it found anything."""
        before = self.run.done
        self.take(do_deed(self.truth, self.run, self.job, name))
        self.steps.append(DEEDS[name].title)
        return self.run.done != before

    def shims(self, first: tuple[float | None, ...], second: tuple[float | None, ...]) -> None:
        """Put other shims in: a new trial, its gaps blank."""
        last = self.job.trials[-1]
        later = after_plan(last, Plan("lug", first, second, math.nan, math.nan))
        self.run = moved(self.run, last, later)
        self.job = replace(self.job, trials=(*self.job.trials, replace(later, gaps_mm=Gaps(), turned="", touches="")))
        self.steps.append(f"shims {sum(t or 0 for t in first):.2f} and {sum(t or 0 for t in second):.2f}")


def honest(base: Job, seed: int, level: int = 1) -> Played:
    """Return how somebody plays who reads all four gaps, does as the bench advises, and looks for the reason where a move fails."""
    hands = _Hands(base, truth_of(seed, level))
    hands.set(rotor_nuts=4)
    tried: set[str] = set()
    for name in ("heads", "ears"):  # what is cheap is looked at first
        hands.deed(name)
    if None in hands.job.trials[-1].shims_mm.first:
        tried.add("shims")
        hands.deed("shims")
    fit = hands.read_all()
    for _ in range(MOST_ROUNDS):
        if fit.pose.against:
            fit = hands.read_all()
            if fit.pose.against and "seal" not in tried:
                tried.add("seal")
                hands.deed("seal")
                fit = hands.read_all()
            continue
        reason = _looked_for(fit, tried)
        if reason:
            tried.add(reason)
            hands.deed(reason)
            fit = hands.read_all()
            continue
        if not fit.settled:
            left = _suspects(fit, tried)
            move = next((one for one in fit.advised if not one.stays and one.plan.place == "lug"), None)
            if left and (move is None or abs(fit.pose.offset.value) > FAR_MM):
                tried.add(left)
                hands.deed(left)
                fit = hands.read_all()
            elif move is not None:
                hands.shims(move.plan.first, move.plan.second)
                fit = hands.read_all()
            elif fit.trial.school == "equal":
                hands.set(school="unequal")
                fit = hands.fit()
            else:
                break
            continue
        if _finish(hands):
            return Played(hands.run, hands.job, True, tuple(hands.steps))
        left = _suspects(hands.fit(), tried, unsure=True)
        if left:
            tried.add(left)
            hands.deed(left)
        else:
            hands.set(school="unequal")
        fit = hands.read_all()
    return Played(hands.run, hands.job, False, tuple(hands.steps))


FAR_MM = 1.0
"""Further off than this nobody shims before looking for the reason: common practice."""


def _suspects(fit: TrialFit, tried: set[str], unsure: bool = False) -> str:
    """Return what to look at before shims: what leans by a face, what stands off by the rotor or the lugs, cheap things first.

    ``unsure``: it is within limits, but not for certain.
    """
    limit = fit.limits.tilt / 2 if unsure else fit.limits.tilt
    tilted = is_known(fit.pose.tilt.value) and abs(fit.pose.tilt.value) > limit
    order = (
        ("clean", "lugs", "shims", "side", "seal") if tilted else ("side", "rotor", "shims", "lugs", "clean", "seal")
    )
    return next((name for name in order if name not in tried), "")


REASONS = (
    ("other way", "side"),
    ("burr", "clean"),
    ("seated", "rotor"),
    ("act", "clean"),
    ("nothing moved", "shims"),
    ("reading", "shims"),
)
"""What is done about a reason that the bench names, by a word of it."""


def _looked_for(fit: TrialFit, tried: set[str]) -> str:
    """Return what to look for where a move did not do what it should; empty where it did, or nothing is left to look for."""
    if fit.followed is None or fit.followed.follows:
        return ""
    for reason in fit.followed.reasons:
        for word, deed in REASONS:
            if word in reason.told and deed not in tried:
                return deed
    return ""


def _finish(hands: _Hands) -> bool:
    """Read what a lock asks for besides the gaps, cure what is found, and tell whether the corner is locked."""
    for name, value in FINAL:
        hands.set(**{name: value})
    for name in ("tip_gap_mm", "runout_mm", "turned"):
        hands.take(read_other(hands.truth, hands.run, hands.job, name))
    for name in ("hands", "fouls"):
        if not any(deed.endswith(f":{name}") for deed in hands.run.deeds):
            hands.deed(name)
    trial = hands.job.trials[-1]
    if (trial.runout_mm or 0.0) > 0.2 and "lip" not in hands.run.done:
        hands.deed("lip")
        hands.take(read_other(hands.truth, hands.run, hands.job, "runout_mm"))
    if trial.turned == "touches":
        hands.deed("weight")
        hands.take(read_other(hands.truth, hands.run, hands.job, "turned"))
    return hands.fit().standing.state is State.CENTRED and not hands.fit().standing.missing


def hasty(base: Job, seed: int, level: int = 1) -> Played:
    """Return how somebody plays a corner who reads one end, shims half the difference away, and never asks for a tilt."""
    hands = _Hands(base, truth_of(seed, level))
    order = ["clean", "rotor", "side", "heads", "ears", "shims", "lugs", "seal"]
    for turn in range(MOST_ROUNDS):
        for name in GAPS[:2]:
            hands.take(read_gap(hands.truth, hands.run, hands.job, name))
        trial = hands.job.trials[-1]
        out, inn = trial.gaps_mm.leading_outboard or 0.0, trial.gaps_mm.leading_inboard or 0.0
        half = (out - inn) / 2
        if abs(half) <= 0.25:
            for name in GAPS[2:]:
                hands.take(read_gap(hands.truth, hands.run, hands.job, name))
            hands.set(rotor_nuts=4)
            fit = hands.fit()
            if fit.within and not fit.pose.against and is_known(fit.pose.offset.value) and _finish(hands):
                return Played(hands.run, hands.job, True, tuple(hands.steps))
            if order:
                hands.deed(order.pop(0))
        elif turn % 3 == 2 and order:
            hands.deed(order.pop(0))
        sign = 1.0 if hands.job.bracket.side == "outboard" else -1.0
        wanted = math.fsum(t or 0.0 for t in trial.shims_mm.first) - sign * half
        stack = _nearest(trial, wanted)
        hands.shims(stack, stack)
    return Played(hands.run, hands.job, False, tuple(hands.steps))


def _nearest(trial: Trial, high: float) -> tuple[float, ...]:
    """Return up to three shims whose sum comes nearest to ``high`` [mm]: what a hand finds in the box."""
    sizes = sorted({loose.thickness_mm or 0.0 for loose in trial.stock})
    stacks = [(), *((a,) for a in sizes), *((a, b) for a in sizes for b in sizes if a <= b)]
    stacks += [(a, b, c) for a in sizes for b in sizes for c in sizes if a <= b <= c]
    return min(stacks, key=lambda stack: abs(sum(stack) - max(high, 0.0)))

"""Remedies put together: the cheapest combinations that clear what stops a job, or everything that is not met.

Every state is a job that was really solved: a plan is reported only when the findings of its last job say so. Combinations
are tried cheapest first (A*, Hart, Nilsson and Raphael 1968, from memory), so that what can be undone comes before what
is cut, fewer made parts before more, fewer side effects before more.
"""

import heapq
from collections.abc import Callable
from itertools import count

from bicentra.core.base.errors import JobError
from bicentra.core.base.finding import Edit, Finding, Remedy, Verdict
from bicentra.core.base.records import Record, replace
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.validate import validate

MADE = ("fit.rotor_spacer_mm", "fit.hub_ring", "fit.wheel_spacer_mm", "hub.retainer_spacer_mm")
"""Changing one of these means a part to be made beside the plate."""
BOUGHT = ("rotor.overall_height_mm", "rotor.vanes", "caliper", "wheel", "rotor")
"""Changing one of these means another part to be bought."""
CUT, MAKE, BUY, STEP, SIDE, WORSE = 100.0, 10.0, 12.0, 3.0, 1.0, 2.0
"""What a plan pays for metal cut for good, a part made, a part bought, a step, a side effect, a finding turned to watch."""
MOST_SOLVES, MOST_PLANS, MOST_STEPS = 260, 6, 6
Report = Callable[[float, str], bool]


class RemedyPlan(Record, frozen=True):
    """Remedies in the order they were put together, and the job they lead to, solved.

    ``by_hand``: ids of findings whose remedy only a person can carry out; they are counted as cleared, to be measured
    again. ``worse``: titles of findings that were met before and are a caution after. ``left``: titles of what it does not clear,
    told where no combination clears everything.
    """

    steps: tuple[Remedy, ...]
    by_hand: tuple[str, ...]
    solution: Solution
    cost: float
    worse: tuple[str, ...]
    left: tuple[str, ...] = ()

    @property
    def edits(self) -> tuple[Edit, ...]:
        """What carries the plan out, in order."""
        return tuple(edit for step in self.steps for edit in step.edits)

    @property
    def reversible(self) -> bool:
        """Whether all of it can be taken back."""
        return all(step.reversible for step in self.steps)

    @property
    def made(self) -> int:
        """How many parts have to be made beside the plate."""
        return _touching(self.edits, MADE)

    @property
    def bought(self) -> int:
        """How many other parts have to be bought."""
        return _touching(self.edits, BOUGHT)


def _touching(edits: tuple[Edit, ...], paths: tuple[str, ...]) -> int:
    return len({path for path, value in edits if path in paths and value not in (0, 0.0, "none", None)})


def plan_remedies(job: Job, everything: bool = False, report: Report | None = None) -> tuple[RemedyPlan, ...]:
    """Return plans that leave no stop in ``job``, cheapest first; with ``everything`` none that leave a caution of now.

    Findings that are unknown stay so: no remedy measures. Empty when nothing is to be cleared; where no combination that was
    tried clears all, the one that misses least, with what it leaves. A cancelled search returns what it has.
    """
    search = _Search(job, everything)
    if not search.failing(search.start):
        return ()
    while search.open and search.solves < MOST_SOLVES and len(search.plans) < MOST_PLANS:
        if report is not None and not report(search.solves / MOST_SOLVES, f"{len(search.plans)} plans"):
            break
        search.step()
    return tuple(sorted(search.plans, key=lambda plan: plan.cost)) or search.nearest


class _Search:
    """The open states, cheapest first, and the plans found."""

    def __init__(self, job: Job, everything: bool) -> None:
        self.start = RemedyPlan((), (), solve(job, verified=False), 0.0, ())
        self._met = {f.id for f in self.start.solution.findings if f.verdict is Verdict.OK}
        watched = {f.id for f in self.start.solution.findings if f.verdict is Verdict.CAUTION}
        self._targets = watched if everything else set()
        self._order = count()
        self.open: list[tuple[float, int, RemedyPlan]] = [(0.0, next(self._order), self.start)]
        self._seen: set[str] = set()
        self.plans: list[RemedyPlan] = []
        self.solves = 1
        self._best: tuple[int, float, RemedyPlan] | None = None

    @property
    def nearest(self) -> tuple[RemedyPlan, ...]:
        """The state that clears most, with what it leaves; nothing where none clears anything."""
        if self._best is None or self._best[0] >= len(self.failing(self.start)):
            return ()
        plan = self._best[2]
        return (replace(plan, left=tuple(dict.fromkeys(f.title for f in self.failing(plan)))),)

    def failing(self, plan: RemedyPlan) -> tuple[Finding, ...]:
        """Return the findings a plan still has to clear."""
        found = plan.solution.findings
        stops = [f for f in found if f.verdict is Verdict.STOP]
        watches = [f for f in found if f.verdict is Verdict.CAUTION and f.id in self._targets]
        return tuple(f for f in (*stops, *watches) if f.id not in plan.by_hand)

    def step(self) -> None:
        """Take the cheapest state: a plan when nothing fails in it, else try every remedy of what does."""
        _, _, plan = heapq.heappop(self.open)
        failing = self.failing(plan)
        if not failing:
            self._take(plan)
            return
        if len(plan.steps) >= MOST_STEPS:
            return
        for finding in failing:
            for remedy in finding.remedies:
                self._try(plan, finding, remedy)

    def _try(self, plan: RemedyPlan, finding: Finding, remedy: Remedy) -> None:
        by_hand = plan.by_hand if remedy.edits else (*plan.by_hand, finding.id)
        steps = (*plan.steps, remedy)
        key = _key(steps, by_hand)
        if key in self._seen or self.solves >= MOST_SOLVES:
            return
        self._seen.add(key)
        made = self._solved(plan, steps, by_hand) if remedy.edits else replace(plan, steps=steps, by_hand=by_hand)
        if made is None:
            return
        made = replace(made, cost=self._cost(made), worse=self._worse(made.solution))
        left = len(self.failing(made))
        if self._best is None or (left, made.cost) < self._best[:2]:
            self._best = (left, made.cost, made)
        if left <= len(self.failing(plan)) + 1:
            heapq.heappush(self.open, (made.cost + STEP * left, next(self._order), made))

    def _solved(self, plan: RemedyPlan, steps: tuple[Remedy, ...], by_hand: tuple[str, ...]) -> RemedyPlan | None:
        """Return the state after the last of ``steps``; ``None`` when it leads to no job that can be."""
        before = plan.solution.job
        try:
            after = with_edits(before, steps[-1].edits)
            validate(after, trusted=before)
        except (JobError, KeyError):
            return None
        if after == before:
            return None
        self.solves += 1
        return RemedyPlan(steps, by_hand, solve(after, verified=False), 0.0, ())

    def _worse(self, solution: Solution) -> tuple[str, ...]:
        return tuple(f.title for f in solution.findings if f.verdict is Verdict.CAUTION and f.id in self._met)

    def _cost(self, plan: RemedyPlan) -> float:
        cut = sum(not step.reversible for step in plan.steps)
        side = sum(len(step.side_effects) for step in plan.steps)
        return (
            CUT * cut + MAKE * plan.made + BUY * plan.bought + STEP * len(plan.steps) + SIDE * side
            + WORSE * len(self._worse(plan.solution))
        )  # fmt: skip

    def _take(self, plan: RemedyPlan) -> None:
        """Keep a plan, without the steps that it does not need."""
        plan = self._thinned(plan)
        if all(_key(plan.steps, plan.by_hand) != _key(other.steps, other.by_hand) for other in self.plans):
            self.plans.append(plan)

    def _thinned(self, plan: RemedyPlan) -> RemedyPlan:
        for step in plan.steps[:-1]:
            if not step.edits:
                continue
            steps = tuple(other for other in plan.steps if other is not step)
            job = with_edits(self.start.solution.job, tuple(edit for one in steps for edit in one.edits))
            try:
                validate(job)
            except JobError:
                continue
            self.solves += 1
            shorter = RemedyPlan(steps, plan.by_hand, solve(job, verified=False), 0.0, ())
            if not self.failing(shorter):
                made = replace(shorter, worse=self._worse(shorter.solution))
                return self._thinned(replace(made, cost=self._cost(made)))
        return plan


def _key(steps: tuple[Remedy, ...], by_hand: tuple[str, ...]) -> str:
    """Return what two plans share that come to the same: the last value of every path, and what is left to hands."""
    values = {path: value for step in steps for path, value in step.edits}
    return repr((sorted((path, repr(value)) for path, value in values.items()), sorted(by_hand)))

"""The remedy planner: every plan really clears, none is dearer than it need be, what only hands can do is said."""

from itertools import product

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.search import planner
from bicentra.core.search.planner import plan_remedies


def stops(job: Job) -> set[str]:
    """Ids of what stops a job."""
    return {f.id for f in solve(job).findings if f.verdict is Verdict.STOP}


def test_the_demo_is_cleared_by_every_plan(demo: Job) -> None:
    """Each plan, carried out edit by edit, leaves no stop; those that can be undone and make nothing come first."""
    plans = plan_remedies(demo)
    assert len(plans) >= 3 and [p.cost for p in plans] == sorted(p.cost for p in plans)
    for plan in plans:
        assert stops(with_edits(demo, plan.edits)) == set() and plan.by_hand == ()
        assert plan.solution.job == with_edits(demo, plan.edits)
    assert plans[0].reversible and plans[0].made == plans[0].bought == 0
    assert any(plan.made == 1 and "rotor spacer" in " ".join(s.action for s in plan.steps) for plan in plans)


def test_the_cheapest_pair_is_found(demo: Job) -> None:
    """Against every pair of the remedies on offer, tried one by one: none that clears all is cheaper in steps and parts."""
    findings = [f for f in solve(demo).findings if f.verdict is Verdict.STOP]
    assert len(findings) == 2
    best = plan_remedies(demo)[0]
    for first, second in product(findings[0].remedies, findings[1].remedies):
        for order in ((first, second), (second, first)):
            job = with_edits(demo, tuple(edit for step in order for edit in step.edits))
            if not stops(job):
                search = planner._Search(demo, everything=False)
                cost = search._cost(replace(search.start, steps=order, solution=solve(job)))
                assert best.cost <= cost + 1e-9
    assert len(best.steps) <= 2


def test_no_step_is_idle(demo: Job) -> None:
    """Leaving out any one step of any plan leaves a stop: a plan holds nothing it does not need."""
    job = with_edits(demo, (("fit.pad_inset_mm", -3.0),))
    for plan in plan_remedies(job):
        for left_out in plan.steps:
            edits = tuple(edit for step in plan.steps if step is not left_out for edit in step.edits)
            assert stops(with_edits(job, edits))


def test_cut_metal_comes_last_and_is_said(demo: Job) -> None:
    """A bore too small for the pilot can only be bored: the plan says so; a different pattern is left to hands or drilled."""
    small = with_edits(demo, (("rotor.centre_bore_mm", 50.0),))
    plans = plan_remedies(small)
    assert plans and not plans[0].reversible and plans[0].cost >= planner.CUT
    other = with_edits(
        demo, (("rotor.bolt_circle_mm", 98.0), ("bracket.thickness_mm", None), ("bracket.caliper_bolt_length_mm", None))
    )
    by_hand = [plan for plan in plan_remedies(other) if plan.by_hand]
    assert by_hand and by_hand[0].by_hand == ("rotor-on-hub",) and by_hand[0].edits == ()


def test_watches_are_cleared_when_asked(good: Job) -> None:
    """Nothing stops: nothing to plan, until what is to be watched is asked for too."""
    deep = with_edits(good, (("fit.pad_inset_mm", 1.6),))
    watched = {f.id for f in solve(deep).findings if f.verdict is Verdict.CAUTION}
    assert not stops(deep) and watched and plan_remedies(deep) == ()
    plan = plan_remedies(deep, everything=True)[0]
    left = {f.id for f in plan.solution.findings if f.verdict in (Verdict.CAUTION, Verdict.STOP)}
    assert not watched & left


def test_a_cancelled_search_ends_and_an_empty_job_has_no_plan(demo: Job) -> None:
    """A report that says no ends the search at once with what it has; without measurements there is nothing to clear."""
    assert plan_remedies(demo, report=lambda *_: False) == ()
    assert plan_remedies(replace(Job(), knuckle=demo.knuckle)) == ()

"""Whatever tells a verdict besides ``check`` is never milder than it: the kinds of bracket, a set looked at, the cover."""

import random

import pytest

from bicentra.core.base.errors import JobError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.options import as_it_stands
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.fields import fields, meaning
from bicentra.core.parts.job import Job
from bicentra.core.parts.validate import validate
from bicentra.core.search.run import single_path
from bicentra.core.uncertainty.assess import assess
from bicentra.study.desks.bracket import BracketDesk
from bicentra.study.desks.parts import try_out
from bicentra.study.document.cover import corner_summary
from bicentra.study.document.starting import EXAMPLES, demo_job, example_vehicle
from bicentra.study.document.study import Study
from tests.regression.chance import changed

SHARES = {"rotor": 0.3, "caliper": 0.3, "borrowed": 0.2, "absent": 0.2}
"""How often a number of a part is guessed, a corner has another's numbers, or something is said not to be there."""


def doubtful(job: Job, chance: random.Random) -> Job:
    """``job`` with guesses, another corner's numbers and things that are not there, here and there."""
    for part in ("rotor", "caliper"):
        record = getattr(job, part)
        there = [
            f.name for f in fields(record) if meaning(f).kind is not None and isinstance(getattr(record, f.name), float)
        ]
        if there and chance.random() < SHARES[part]:
            job = replace(job, **{part: replace(record, guessed=tuple(sorted(chance.sample(there, 2))))})
    if chance.random() < SHARES["borrowed"]:
        job = replace(job, borrowed=("knuckle",))
    if chance.random() < SHARES["absent"]:
        job = replace(job, wheel=None, fit=replace(job.fit, absent=("wheel",)))
    return job


@pytest.mark.parametrize("seed", range(6))
def test_no_surface_is_milder_than_check(seed: int) -> None:
    """Jobs of every kind changed by chance: the same findings with the same verdicts or worse, and the same worst of all."""
    chance, asked = random.Random(seed), 0
    for base in (demo_job(), *(Study(example_vehicle(name)).job for name in EXAMPLES)):
        job = doubtful(changed(replace(base, survey={}), chance)[0], chance)
        try:
            validate(job)
        except JobError:
            continue
        text = assess(solve(job)).solution
        check = {finding.id: finding.verdict for finding in text.findings}
        worst = min(check.values(), key=lambda verdict: verdict.rank)
        own = as_it_stands(job)
        if own.findings:
            assert own.verdict.rank <= min(check[finding.id].rank for finding in own.findings), job.title
        asked += len(own.findings)
        assert single_path(job)[0] is worst is try_out(job).verdict, job.title
        assert {f.id: f.verdict for f in single_path(job)[1]} == check
        if (cover := corner_summary(job, text, "")).picture is not None:
            assert cover.verdict is worst and (cover.text == "all OK") is (worst is Verdict.OK)
    assert asked > 50


def test_the_table_of_kinds_counts_the_surveys_uncertainty() -> None:
    """A limit that the readings do not reach with enough chance: met by no kind once the survey is asked, as in the line-up."""
    good = with_edits(demo_job(), (("bracket.thickness_mm", None), ("bracket.caliper_bolt_length_mm", None)))
    tight = with_edits(good, (("limits", {"axial-offset": 0.08}),))
    study = Study(tight)
    desk = BracketDesk(study)
    desk.refresh()
    bare = {one.title for one in desk.options if one.verdict is Verdict.OK}
    study.assess()
    assert bare and not desk.current
    desk.refresh()
    assert desk.current and study.solution.finding("axial-offset").verdict is Verdict.CAUTION
    assert desk.own is not None and desk.own.verdict is Verdict.CAUTION and desk.own in desk.options
    assert not any(one.verdict is Verdict.OK for one in desk.options if "axial-offset" in {f.id for f in one.findings})

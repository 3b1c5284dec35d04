"""Doubts carried to a job that has changed a moment ago: never milder than none, and what is worked out anew a moment later."""

import random

import pytest

from bicentra.core.base.errors import JobError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.validate import validate
from bicentra.core.uncertainty.assess import assess, carried
from bicentra.study.document.starting import demo_job

CHANGES = ("fit.pad_inset_mm", "fit.rotor_spacer_mm", "fit.clock_deg", "bracket.thickness_mm", "caliper.ear_spacing_mm")


def plain(job: Job) -> Solution:
    """What ``job`` comes to without a doubt."""
    return solve(job, turns=False)


@pytest.mark.parametrize("seed", range(4))
def test_nothing_is_milder_with_the_doubts_of_before(seed: int) -> None:
    """Random small changes: no verdict better than without any doubt; of those worked out anew nearly all are the same already."""
    chance, before, same, all_of_them = random.Random(seed), assess(plain(demo_job())), 0, 0
    for path in CHANGES:
        held = with_edits(before.solution.job, ((path, chance.uniform(0.2, 3.0) if "fit.c" not in path else 186.0),))
        try:
            validate(held)
        except JobError:
            continue
        here = plain(held)
        text, anew = carried(before, here), assess(here).solution
        for finding in here.findings:
            now = text.finding(finding.id)
            assert now.verdict.rank <= finding.verdict.rank and now.value == pytest.approx(finding.value, nan_ok=True)
            all_of_them += 1
            same += now.verdict is anew.finding(finding.id).verdict
    assert same >= 0.97 * all_of_them


def test_the_same_job_has_the_same_doubts() -> None:
    """Carried to where they come from, nothing differs: neither words, nor bands, nor figures."""
    before = assess(plain(demo_job()))
    text = carried(before, plain(demo_job()))
    for finding in text.findings:
        assert repr(finding) == repr(before.solution.finding(finding.id))
    assert text.spread == before.solution.spread


def test_the_band_of_play_moves_with_its_value() -> None:
    """The pads 0.3 mm further in: the tip gap's band is carried to where it is worked out a moment later."""
    before = assess(plain(demo_job()))
    here = plain(with_edits(before.solution.job, (("fit.pad_inset_mm", 1.3),)))
    text, anew = carried(before, here).finding("tip-gap"), assess(here).solution.finding("tip-gap")
    assert text.band == pytest.approx(anew.band) and text.band != before.solution.finding("tip-gap").band


def test_what_is_newly_guessed_is_met_by_nothing_and_another_corner_has_its_own() -> None:
    """A part with a guess in it comes in: until it is known what rests on it, all of it may. Measured again, its guess goes at once."""
    job = demo_job()
    before = assess(plain(job))
    rotor = replace(job.rotor, guessed=("overall_height_mm",))
    text = carried(before, plain(replace(job, rotor=rotor)))
    assert all(finding.verdict is not Verdict.OK for finding in text.findings)
    assert "rotor's overall height" in text.finding("wheel-room").why
    guessing = assess(plain(replace(job, rotor=rotor)))
    held = {id for id, names in guessing.guesses.items() if names}
    measured = carried(guessing, plain(job))
    assert held and all("guess" not in measured.finding(id).why for id in held)
    there = replace(plain(job), job=replace(job, corner="front-left"))
    assert carried(before, there) is there

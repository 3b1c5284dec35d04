"""Whatever readings a valid survey holds, sense or nonsense: it is adjusted or told why not, drawn, reported, taken over."""

import random

import msgspec
import pytest

from bicentra.core.base.errors import JobError
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.views.faces import relief_view, runout_view
from bicentra.core.drawing.views.survey import survey_view
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.validate import validate
from bicentra.core.survey.advice import advise
from bicentra.core.survey.use import takeover
from bicentra.core.uncertainty.assess import assess, surveyed
from bicentra.formats.corner_report import check_object
from bicentra.formats.job_json import parse_job, write_job
from bicentra.formats.measuring_report import survey_object, survey_text
from bicentra.study.document.starting import demo_job, empty_job
from tests.surveys import some_survey


@pytest.mark.parametrize("seed", range(30))
def test_any_survey_goes_all_the_way(seed: int) -> None:
    """No error, no nan in a file, whatever was read."""
    chance = random.Random(seed)
    base: Job = chance.choice([demo_job(), empty_job()])
    corners = chance.sample(["front-right", "front-left", "rear-left"], 2)
    job = replace(base, corner=corners[0], survey={corner: some_survey(chance) for corner in corners})
    validate(job)
    assert parse_job(write_job(job), "x") == job
    lengths = LengthFormat("in" if seed % 2 else "mm")
    assert b"NaN" not in msgspec.json.encode(survey_object(job)) and survey_text(job)
    msgspec.json.encode(check_object(assess(solve(job)).solution))
    for corner in corners:
        done = surveyed(job, corner)
        offers = advise(done.survey, done.adjusted, lengths)
        survey_view(job, done, offers)
        relief_view(job, done)
        runout_view(done)
        used = with_edits(job, takeover(job, done).edits)
        try:
            validate(used)
        except JobError:
            continue  # two lugs in one place, say: refused as one step, the job stays
        assess(solve(used))

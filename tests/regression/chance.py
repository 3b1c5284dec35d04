"""What the core says of things put together by chance, a few lines each: jobs of every kind changed here and there, vehicles,
surveys and trials; and the range of every field.
"""

import random
from collections.abc import Callable, Iterator

from bicentra.core.base.errors import BicentraError, JobError
from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.quantities import NUMBER
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.heat.stops import DUTIES
from bicentra.core.heat.train import train_of
from bicentra.core.hydraulics.masters import rework_list
from bicentra.core.hydraulics.missing import missing_of
from bicentra.core.hydraulics.pedal import pedal_work
from bicentra.core.hydraulics.travel import stages_of
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import get_value, with_value
from bicentra.core.parts.fields import fields, meaning
from bicentra.core.parts.job import Job
from bicentra.core.parts.validate import validate
from bicentra.core.survey.findings import survey_findings
from bicentra.core.survey.use import takeover
from bicentra.core.trialfit.fit import trial_fit
from bicentra.core.uncertainty.assess import assess, surveyed
from bicentra.study.document.starting import EXAMPLES, demo_job, example_vehicle
from tests.core.hydraulics.test_hostile_numbers import hostile
from tests.core.trialfit.corner import some_trial
from tests.regression.records import Lines, trial_lines
from tests.regression.telling import number, told
from tests.surveys import some_survey

PARTS = ("hub", "rotor", "caliper", "fit", "bracket", "wheel")
JOBS_EACH, VEHICLES, SURVEYS, TRIALS = 8, 12, 20, 8


def numbers_of(job: Job) -> list[str]:
    """Return the key paths of every described number of a job."""
    owners = [*PARTS, *(f"knuckle.lugs[{k}]" for k in range(len(job.knuckle.lugs)))]
    owners += [f"knuckle.obstacles[{k}]" for k in range(len(job.knuckle.obstacles))]
    there = [(owner, get_value(job, owner)) for owner in owners if get_value(job, owner) is not None]
    return [f"{owner}.{of.name}" for owner, record in there for of in fields(record) if meaning(of).kind is not None]


def changed(job: Job, rng: random.Random) -> tuple[Job, list[str]]:
    """Return ``job`` with up to four numbers taken away or moved, never to a round figure, and what was changed."""
    text = []
    for path in rng.sample(numbers_of(job), rng.randint(1, 4)):
        owner, _, name = path.rpartition(".")
        of = next(meaning(f) for f in fields(get_value(job, owner)) if f.name == name)
        now = get_value(job, path)
        if of.kind is NUMBER or not isinstance(now, int | float):
            continue
        moved = now * rng.uniform(0.75, 1.3) + rng.uniform(-1.0, 1.0)
        new = None if rng.random() < 0.25 else moved
        job, text = with_value(job, path, new), [*text, f"{path} {'unknown' if new is None else number(moved)}"]
    return job, text


def by_verdict(findings: tuple[Finding, ...]) -> Iterator[str]:
    """Yield a line a verdict: each finding's id and value."""
    for verdict in Verdict:
        found = [f"{one.id} {number(one.value)}" for one in findings if one.verdict is verdict]
        if found:
            yield f"  {verdict.value}: {', '.join(found)}"


def of_jobs() -> Lines:
    """Yield jobs made of every example: what was changed, each finding's verdict and value, and the bracket that is cut."""
    for example in ("", *EXAMPLES):
        base = job_of(example_vehicle(example)) if example else demo_job()
        for seed in range(JOBS_EACH):
            job, text = changed(base, random.Random(f"{example} {seed}"))
            try:
                validate(job)
            except JobError as error:
                yield f"{example or 'demo'} {seed}: {', '.join(text)}: refused, {error}"
                continue
            yield f"{example or 'demo'} {seed}: {', '.join(text) or 'as it is'}"
            solution = solve(job)
            yield from by_verdict(assess(solution).solution.findings)
            for part in solution.bracket.parts:
                yield f"  {part.count} × {part.name}: {number(part.thickness)} thick, {number(part.volume)} mm3"


def of_surveys() -> Lines:
    """Yield surveys: where every feature lies and how surely, each finding, what the job would take over."""
    for seed in range(SURVEYS):
        survey = some_survey(random.Random(seed))
        job = replace(demo_job(), survey={"front-right": survey})
        done = surveyed(job, job.corner)
        assert done is not None
        yield f"survey {seed}"
        if done.adjusted is not None:
            for name in done.adjusted.network.points:
                if done.adjusted.known(name):
                    yield from told(
                        f"  {name}",
                        tuple(float(x) for x in (*done.adjusted.place(name), *done.adjusted.spread(name).ravel())),
                    )
        yield from by_verdict(survey_findings(job, done, None, job.lengths))
        yield from told("  taken over", takeover(job, done))


def of_vehicles() -> Lines:
    """Yield vehicles: the pedal as it is, heat over a mountain road, each finding, what is missing."""
    for seed in range(VEHICLES):
        yield f"vehicle {seed}"
        try:
            vehicle = hostile(random.Random(seed))
        except BicentraError as error:
            yield f"  refused, {error}"
            continue
        work, hot = pedal_work(vehicle, (), 100.0), train_of(vehicle, DUTIES["mountain"])
        for name, one in (
            ("now", work.now),
            ("travel", work.travel),
            ("locks", work.locks),
            ("knee", work.knee),
            ("stages", stages_of(work.chain)),
        ):
            yield from told(name, one, 1)
        yield from told("hats", hot.hats, 1)
        yield from told("peaks", tuple(max(end.peaks, default=0.0) for end in (hot.front, hot.rear)), 1)
        yield from by_verdict((*work.findings, *hot.findings))
        yield from told("missing", tuple(path for path, _ in missing_of(vehicle)), 1)
        yield from told("rework", rework_list(vehicle), 1)


def of_trials() -> Lines:
    """Yield trials at the demo's corner without its faults: where the caliper sits, what is asked, the shims."""
    good = replace(demo_job(), bracket=replace(demo_job().bracket, thickness_mm=None, caliper_bolt_length_mm=None))
    for seed in range(TRIALS):
        rng = random.Random(seed)
        trials = tuple(some_trial(rng, good) for _ in range(rng.randint(1, 2)))
        yield from trial_lines(
            f"trial {seed}", trial_fit(solve(replace(good, trials=trials), turns=False), len(trials) - 1)
        )


def of_fields() -> Lines:
    """Yield the range of every number that can be typed in a corner."""
    job = demo_job()
    for path in numbers_of(job):
        owner, _, name = path.rpartition(".")
        of = next(meaning(f) for f in fields(get_value(job, owner)) if f.name == name)
        ends = [
            f"{word} {number(end)}"
            for word, end in (("above", of.above), ("least", of.least), ("most", of.most))
            if end is not None
        ]
        yield f"{path}: {of.label}, {', '.join(ends) or 'any'}"


CHANCE: dict[str, Callable[[], Lines]] = {
    "by chance, jobs": of_jobs, "by chance, surveys": of_surveys, "by chance, vehicles": of_vehicles, "by chance, trials": of_trials,
    "fields": of_fields,
}  # fmt: skip
"""What is kept besides the made-up jobs, by its name."""

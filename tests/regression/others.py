"""What the core says of things put together by chance: jobs of every kind changed here and there, vehicles, trials, surveys; and the
limits and refusals of every field. Kept as the records of the made-up jobs are.
"""

import random
from collections.abc import Callable, Iterator

from bicentra.core.base.errors import BicentraError, ExportError, JobError
from bicentra.core.base.quantities import NUMBER
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.part_sheets.table import part_sheet
from bicentra.core.drawing.sheets.plate import plate_sheet
from bicentra.core.drawing.views.balance import balance_view
from bicentra.core.drawing.views.chain import chain_view
from bicentra.core.drawing.views.face import face_view
from bicentra.core.drawing.views.heat import heat_view
from bicentra.core.drawing.views.joint import joint_view
from bicentra.core.drawing.views.made import made_view
from bicentra.core.drawing.views.master import master_view
from bicentra.core.drawing.views.section import section_view
from bicentra.core.drawing.views.slot import slot_view
from bicentra.core.drawing.views.survey import survey_view
from bicentra.core.evaluation.solution import solve
from bicentra.core.heat.stops import DUTIES
from bicentra.core.heat.train import train_of
from bicentra.core.hydraulics.before import before_of, chains
from bicentra.core.hydraulics.masters import rework_list
from bicentra.core.hydraulics.missing import missing_of
from bicentra.core.hydraulics.pedal import pedal_work
from bicentra.core.hydraulics.travel import stages_of, travel_at
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import get_value, with_value
from bicentra.core.parts.fields import fields, meaning
from bicentra.core.parts.job import Job
from bicentra.core.parts.validate import validate
from bicentra.core.parts.validate_vehicle import validate_vehicle
from bicentra.core.parts.vehicle import Vehicle
from bicentra.core.survey.advice import advise
from bicentra.core.survey.findings import survey_findings
from bicentra.core.survey.network import make_network
from bicentra.core.survey.start import starting_ways
from bicentra.core.survey.use import takeover
from bicentra.core.trialfit.fit import trial_fit
from bicentra.core.uncertainty.assess import assess, surveyed
from bicentra.study.desks.pedal_numbers import columns_of, edits_for
from bicentra.study.document.starting import EXAMPLES, demo_job, demo_vehicle, example_vehicle
from tests.core.hydraulics.test_hostile_numbers import hostile
from tests.core.trialfit.corner import some_trial
from tests.regression.records import Line, of_drawing, put_down
from tests.surveys import some_survey

PARTS = ("hub", "rotor", "caliper", "fit", "bracket", "wheel")
LENGTHS, SEEDS, DRAWN = LengthFormat("mm"), 20, 5
"""How lengths are written; how many of each kind are put together, and every which of them is drawn."""


def numbers_of(job: Job) -> list[str]:
    """Return the key paths of every described number of a job."""
    owners = [*PARTS, *(f"knuckle.lugs[{k}]" for k in range(len(job.knuckle.lugs)))]
    owners += [f"knuckle.obstacles[{k}]" for k in range(len(job.knuckle.obstacles))]
    there = [(owner, get_value(job, owner)) for owner in owners if get_value(job, owner) is not None]
    return [f"{owner}.{of.name}" for owner, record in there for of in fields(record) if meaning(of).kind is not None]


def changed(job: Job, rng: random.Random) -> Job:
    """Return ``job`` with up to four numbers taken away or moved, never to a round figure."""
    for path in rng.sample(numbers_of(job), rng.randint(1, 4)):
        owner, _, name = path.rpartition(".")
        of = next(meaning(f) for f in fields(get_value(job, owner)) if f.name == name)
        now = get_value(job, path)
        if of.kind is NUMBER or not isinstance(now, int | float):
            continue
        moved = now * rng.uniform(0.75, 1.3) + rng.uniform(-1.0, 1.0)
        job = with_value(job, path, None if rng.random() < 0.25 else moved)
    return job


def jobs_of(example: str) -> Iterator[tuple[int, Job]]:
    """Yield valid jobs made of an example, each with its number."""
    base = job_of(example_vehicle(example)) if example else demo_job()
    for seed in range(SEEDS):
        job = changed(base, random.Random(f"{example} {seed}"))
        try:
            validate(job)
        except JobError:
            continue
        yield seed, job


def of_jobs(example: str) -> Iterator[Line]:
    """Yield what is found of jobs made of an example, and the drawings of some of them."""
    for seed, job in jobs_of(example):
        solution = solve(job)
        yield put_down(f"job {seed}", assess(solution).solution.findings)
        yield put_down(f"job {seed} bracket", solution.bracket)
        if seed % DRAWN:
            continue
        left = job.corner.endswith("left")
        yield from of_drawing(f"face {seed}", face_view(solution))
        yield from of_drawing(f"section {seed}", section_view(solution))
        yield from of_drawing(f"joint {seed}", joint_view(solution.assembly, job.lengths))
        yield from of_drawing(f"made {seed}", made_view(solution.bracket, job.lengths, left))
        for name in ("rotor", "caliper", "hub", "knuckle", "bracket", "bolts"):
            sheet = part_sheet(name, solution)
            if sheet is not None:
                yield from of_drawing(f"sheet of {name} {seed}", sheet)
        try:
            yield from of_drawing(f"plate {seed}", plate_sheet(solution))
        except ExportError as error:
            yield put_down(f"plate {seed}", str(error))


def of_surveys() -> Iterator[Line]:
    """Yield surveys put together by chance: where they start, what they come to, what is told and advised."""
    for seed in range(4 * SEEDS):
        survey = some_survey(random.Random(seed))
        job = replace(demo_job(), survey={"front-right": survey})
        yield put_down(f"ways {seed}", [starting_ways(make_network(survey), {}, spin) for spin in (0.0, 1.1)])
        done = surveyed(job, job.corner)
        assert done is not None
        text = survey_findings(job, done, None, job.lengths)
        yield put_down(f"survey {seed}", (done.faces, done.sweeps, done.parts, text))
        yield put_down(f"use {seed}", takeover(job, done))
        if seed % DRAWN == 0:
            advice = advise(survey, done.adjusted, job.lengths)
            yield put_down(f"advice {seed}", advice)
            yield from of_drawing(f"drawn {seed}", survey_view(job, done, advice))


def of_vehicles() -> Iterator[Line]:
    """Yield vehicles put together by chance, and what becomes of pedal and heat."""
    for seed in range(3 * SEEDS):
        rng = random.Random(seed)
        try:
            vehicle = hostile(rng)
        except BicentraError as error:
            yield put_down(f"refused {seed}", str(error))
            continue
        work, hot = pedal_work(vehicle, (), 100.0), train_of(vehicle, DUTIES["mountain"])
        now, _ = chains(vehicle)
        yield put_down(f"pedal {seed}", (work.now, work.travel, work.locks, work.levers, work.findings, work.circuits))
        yield put_down(f"heat {seed}", hot)
        yield put_down(
            f"asked {seed}", (missing_of(vehicle), rework_list(vehicle), stages_of(now), travel_at(now, 100.0))
        )
        if seed % DRAWN == 0:
            before = before_of(vehicle)
            machine = chain_view(vehicle, now, work.now, work.travel, LENGTHS, before)
            yield from of_drawing(f"machine {seed}", machine)
            yield from of_drawing(f"balance {seed}", balance_view(now, work.now))
            yield from of_drawing(f"master {seed}", master_view(vehicle, now, before, LENGTHS))
            yield from of_drawing(f"train {seed}", heat_view(vehicle, hot))


def of_trials() -> Iterator[Line]:
    """Yield trials put together by chance at the good job, worked out and drawn."""
    good = replace(demo_job(), bracket=replace(demo_job().bracket, thickness_mm=None, caliper_bolt_length_mm=None))
    for seed in range(2 * SEEDS):
        rng = random.Random(seed)
        trials = tuple(some_trial(rng, good) for _ in range(rng.randint(1, 2)))
        solution, last = solve(replace(good, trials=trials), turns=False), len(trials) - 1
        fit = trial_fit(solution, last)
        yield put_down(f"trial {seed}", fit)
        if seed % DRAWN == 0:
            preview = fit.moves[0].plan if fit is not None and fit.moves else None
            yield from of_drawing(f"slot {seed}", slot_view(solution.job, trials[last], last, fit, preview))


def of_fields() -> Iterator[Line]:
    """Yield the range of every number that can be typed, and what is said of one that is out of it."""
    job, vehicle = demo_job(), demo_vehicle()
    for path in numbers_of(job):
        owner, _, name = path.rpartition(".")
        text = next(meaning(f) for f in fields(get_value(job, owner)) if f.name == name)
        yield put_down(
            path, (text, [_refused(lambda x=x, p=path: validate(with_value(job, p, x))) for x in _odd(text)])
        )  # type: ignore[misc]
    for one in (one for column in columns_of(vehicle) for group in column for one in group.fields):
        if one.text.kind is not None and one.several is None:
            rows = [_refused(lambda x=x, p=one.path: _typed(vehicle, p, x)) for x in _odd(one.text)]  # type: ignore[misc]
            yield put_down(one.path, (one.text, rows))


def _typed(vehicle: Vehicle, path: str, value: object) -> None:
    for key, new in edits_for(vehicle, path, value):
        vehicle = with_value(vehicle, key, new)
    validate_vehicle(vehicle)


def _odd(text: object) -> list[float]:
    ends = [getattr(text, name, None) for name in ("above", "least", "most")]
    return [-1e7, 0.0, 1e7, *(end + step for end in ends if end is not None for step in (-1e-3, 1e-3))]


def _refused(ask: Callable[[], object]) -> str:
    try:
        ask()
    except BicentraError as error:
        return str(error)
    return ""


OTHERS: dict[str, Callable[[], Iterator[Line]]] = {
    "surveys": of_surveys, "vehicles": of_vehicles, "trials": of_trials, "fields": of_fields,
    **{f"jobs {name or 'demo'}": lambda name=name: of_jobs(name) for name in ("", *EXAMPLES)},
}  # fmt: skip
"""What is kept besides the made-up jobs, by its name."""

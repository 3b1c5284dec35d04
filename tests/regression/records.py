"""What the core says of a score of made-up jobs, put down in a few numbers a thing: our own figures, not a proof of anything.

A line holds a thing's name, how many numbers and words it has, two sums over its numbers (the second weighs each by its place,
so that two changed places or a lost sign show) and the first digits of a hash of its words. ``make records`` writes them anew,
which has to be meant: look at what changed before.
"""

import hashlib
import math
from collections.abc import Callable, Iterator, Mapping
from enum import Enum
from pathlib import Path

import numpy as np
import shapely

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import names_in, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.model import Family
from bicentra.core.bracket.on_hub import hub_parts
from bicentra.core.drawing.layout import Box, lay_out
from bicentra.core.drawing.model import Drawing
from bicentra.core.drawing.part_sheets.table import part_sheet
from bicentra.core.drawing.sheets.imprint import cut_mark
from bicentra.core.drawing.sheets.parts_list import parts_list
from bicentra.core.drawing.sheets.plate import datum_of, headline, hole_table, plate_sheet
from bicentra.core.drawing.sheets.relief import relief_plans, relief_sheet, relief_text
from bicentra.core.drawing.sheets.templates import bushing_chart, card_sheet, card_text
from bicentra.core.drawing.sheets.trial_words import trial_words
from bicentra.core.drawing.sheets.workshop import hole_lines, notes, tolerances
from bicentra.core.drawing.views.balance import balance_view, grip_view
from bicentra.core.drawing.views.chain import chain_view
from bicentra.core.drawing.views.example import example_face, example_section
from bicentra.core.drawing.views.face import face_view
from bicentra.core.drawing.views.faces import relief_view, runout_view
from bicentra.core.drawing.views.heat import heat_view
from bicentra.core.drawing.views.joint import joint_view
from bicentra.core.drawing.views.made import NOTHING, made_view, thumb_view
from bicentra.core.drawing.views.master import travel_view
from bicentra.core.drawing.views.parts import parts_view
from bicentra.core.drawing.views.section import section_view
from bicentra.core.drawing.views.slot import slot_view
from bicentra.core.drawing.views.solid_scene import solid_scene
from bicentra.core.drawing.views.survey import survey_view
from bicentra.core.evaluation.solution import solve
from bicentra.core.heat.stops import DUTIES
from bicentra.core.heat.train import train_of
from bicentra.core.hydraulics.before import before_of
from bicentra.core.hydraulics.chain import chain_of
from bicentra.core.hydraulics.misconceptions import misconceptions_of
from bicentra.core.hydraulics.pedal import pedal_work
from bicentra.core.hydraulics.travel import stages_of
from bicentra.core.inputs.required_inputs import required_inputs, wanted
from bicentra.core.lineup.redrill import drilling
from bicentra.core.options import propose
from bicentra.core.parts.brakes import MasterCylinder
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import Gaps, LooseShims, ShimStacks, Trial
from bicentra.core.parts.vehicle import Booster, Pedal, Valve
from bicentra.core.search.clock import search_clock
from bicentra.core.search.planner import plan_remedies
from bicentra.core.search.run import SearchSpace, search
from bicentra.core.survey.advice import advise
from bicentra.core.trialfit.fit import trial_fit
from bicentra.core.uncertainty.assess import assess, surveyed
from bicentra.core.uncertainty.both_sides import text_of_both
from bicentra.study.desks.bracket import BracketDesk
from bicentra.study.desks.parts import part_set_of
from bicentra.study.document.starting import demo_job, demo_vehicle
from bicentra.study.document.study import Study
from tests.regression.jobs import JOBS

FOLDER = Path(__file__).parent / "kept"
GOLDEN, PLANNED = (math.sqrt(5.0) - 1.0) / 2.0, 0.15
"""The share that scatters weights most evenly; how much of its tries a plan may take."""
Line = tuple[str, int, float, float, str]


def flat(thing: object) -> Iterator[float | str]:
    """Yield every number and word of a record, in order; what the job itself says is left out."""
    if isinstance(thing, bool | Enum | None):
        yield str(thing)
    elif isinstance(thing, int | float | np.number):
        yield float(thing) if math.isfinite(thing) else str(float(thing))
    elif isinstance(thing, str):
        yield thing
    elif isinstance(thing, np.ndarray):
        yield from flat(thing.tolist())
    elif isinstance(thing, shapely.Geometry):
        yield from flat(shapely.get_coordinates(thing).tolist())
    elif isinstance(thing, Mapping):
        yield from flat([part for pair in thing.items() for part in pair])
    elif isinstance(thing, list | tuple | set | frozenset):
        for one in sorted(thing, key=str) if isinstance(thing, set | frozenset) else thing:
            yield from flat(one)
    elif not isinstance(thing, Job | Family | LengthFormat):
        for name in names_in(thing):
            yield from flat(getattr(thing, name))


def put_down(name: str, thing: object) -> Line:
    """Return the line of one thing."""
    found = list(flat(thing))
    numbers = [one for one in found if isinstance(one, float)]
    words = hashlib.sha256("\n".join(one for one in found if isinstance(one, str)).encode()).hexdigest()[:8]
    weighed = math.fsum(number * (0.5 + (k * GOLDEN) % 1.0) for k, number in enumerate(numbers, 1))
    return name, len(found), math.fsum(numbers), weighed, words


def of_drawing(name: str, drawing: Drawing) -> Iterator[Line]:
    """Yield the lines of a drawing, a kind of thing each, and of its labels laid out on a screen."""
    for kind in ("shapes", "texts", "dimensions", "notes", "handles", "examples", "bounds"):
        yield put_down(f"{name} {kind}", getattr(drawing, kind))
    x0, y0, x1, y1 = drawing.bounds
    scale = 700.0 / max(x1 - x0, y1 - y0, 1.0)
    frame = Box(x0 * scale - 120.0, y0 * scale - 90.0, x1 * scale + 120.0, y1 * scale + 90.0)
    yield put_down(f"{name} labels", lay_out(drawing, scale, lambda text: (7.0 * len(text), 14.0), frame))


def of_findings(job: Job) -> Iterator[Line]:
    """Yield what is found about a job, one line a finding, and everything that is placed."""
    solution = solve(job)
    for finding in assess(solution).solution.findings:
        yield put_down(f"finding {finding.id}", finding)
    for name in ("line", "holes", "joints", "body", "rotor", "hub", "fixed", "obstacles", "turning", "metal"):
        yield put_down(f"placed {name}", getattr(solution.assembly, name))
    yield put_down("bracket", solution.bracket)


def of_brackets(job: Job) -> Iterator[Line]:
    """Yield every kind of bracket for the job, with its drawings and tables."""
    for judged in propose(job):
        bracket = judged.bracket
        name = f"proposed {bracket.kind.name}"
        yield put_down(name, (judged.title, judged.verdict, judged.why, judged.margin, judged.findings))
        yield put_down(f"{name} made", bracket)
        yield put_down(
            f"{name} tables",
            [
                (hole_lines(p, job.lengths, datum_of(p)), tolerances(p, job.lengths), notes(p, job.lengths))
                for p in bracket.parts
            ],
        )
        left = job.corner.endswith("left")
        yield from of_drawing(f"{name} seen", made_view(bracket, job.lengths, left))
        yield put_down(f"{name} small", thumb_view(bracket, left))
        yield put_down(f"{name} words", [trial_words(part, letters) for part in bracket.parts])
    desk = BracketDesk(Study(job))
    desk.refresh()
    yield from of_drawing(
        "taken seen", made_view(desk.own.bracket, job.lengths, False, desk.work() if desk.shaped else NOTHING)
    )


def letters(text: str, size: float) -> tuple[tuple[tuple[float, float], ...], ...]:
    """Return a word as a row of plain boxes, its middle at (0, 0) [mm]: what the shipped face draws is not the core's."""
    wide, half = 0.6 * size, 0.35 * size
    lefts = [(k - len(text) / 2) * wide for k in range(len(text))]
    return tuple(((x, -half), (x + 0.8 * wide, -half), (x + 0.8 * wide, half), (x, half)) for x in lefts)


def of_drawings(job: Job) -> Iterator[Line]:
    """Yield the drawings of the job and of its papers."""
    solution = solve(job)
    yield from of_drawing("face", face_view(solution, search_clock(job, step=4.0)))
    yield from of_drawing("section", section_view(solution))
    yield from of_drawing("joint", joint_view(solution.assembly, job.lengths))
    other = replace(
        job,
        rotor=replace(job.rotor, diameter_mm=230.0, overall_height_mm=52.0, bolt_circle_mm=112.0, hole_count=5),
        caliper=replace(job.caliper, body_outer_mm=31.0, body_inboard_mm=47.0, ear_spacing_mm=117.0, pad_outline_mm=()),
    )
    sets = part_set_of(job, "now"), part_set_of(other, "other")
    yield from of_drawing("parts", parts_view(sets, job.lengths))
    yield from of_drawing("parts over", parts_view(sets[::-1], job.lengths, over=True))
    if solution.bracket.kind.cut is not None and not cut_mark(solution).line:
        yield from of_drawing("plate", plate_sheet(solution))
        yield put_down("plate told", (hole_table(solution), headline(solution)))
    for paper, draw in (
        ("card", lambda: card_sheet(solution)),
        ("bushings", lambda: bushing_chart(job)),
        ("card told", None),
    ):
        try:
            if draw is None:
                yield put_down(paper, card_text(solution))
            else:
                yield from of_drawing(paper, draw())
        except ExportError as error:
            yield put_down(paper, str(error))
    yield put_down("told", (cut_mark(solution).line, parts_list(solution), text_of_both(job)))
    yield put_down("in space", solid_scene(solution))


def of_ghosts(job: Job) -> Iterator[Line]:
    """Yield the dotted corner of the job as it is when the last, and when most of its sizes are not measured yet."""
    order = [blank.path for blank in wanted(job)]
    for some in (order[-1:], order[1::2]):
        bare = with_edits(job, tuple((path, None) for path in some))
        missing = required_inputs(bare)
        for name, draw in (("face", example_face), ("section", example_section)):
            yield from of_drawing(f"ghost {name}, {len(some)} open", draw(solve(bare, turns=False), missing))


def of_survey(job: Job) -> Iterator[Line]:
    """Yield what the survey of the job comes to, and its drawings."""
    done = surveyed(job, job.corner)
    if done is None:
        return
    yield put_down("survey", done)
    advice = advise(done.survey, done.adjusted, job.lengths)
    yield put_down("advice", advice)
    for name, view in (
        ("survey", survey_view(job, done, advice)),
        ("relief", relief_view(job, done)),
        ("runout", runout_view(done)),
    ):
        yield from of_drawing(name, view)


def of_searches(job: Job) -> Iterator[Line]:
    """Yield what the searches find: clock windows, plans, sets of parts; a bracket made anew at each angle takes too long here."""
    if solve(job).bracket.kind.cut is None:
        return
    yield put_down("clock", search_clock(job, step=3.0))
    for plan in plan_remedies(job, report=lambda part, _: part < PLANNED)[:3]:
        yield put_down("plan", (plan.steps, plan.by_hand, plan.cost, plan.worse))
    low = replace(job.rotor, name="low", overall_height_mm=(job.rotor.overall_height_mm or 40.0) - 4.0)
    space = SearchSpace((job.rotor, low), (job.caliper,), angles=24)
    for step in search(job, space):
        for found in step.sets:
            yield put_down(f"set {found.name}", found)


def of_parts(job: Job) -> Iterator[Line]:
    """Yield the sheets of the job's parts, what has to go of its castings, and what is made for hub and rotor."""
    solution = solve(job)
    for name in ("rotor", "caliper", "hub", "wheel", "knuckle", "bracket", "bolts"):
        drawing = part_sheet(name, solution)
        if drawing is not None:
            yield from of_drawing(f"sheet of {name}", drawing)
    try:
        cuts = relief_plans(solution)
    except ExportError as error:
        cuts = ()
        yield put_down("no relief", str(error))
    for cut in cuts:
        yield put_down("relief", (cut, relief_text(solution, cut)))
        yield from of_drawing("relief", relief_sheet(solution, cut, (180.0, 260.0)))
    plan = drilling(job)
    yield put_down(
        "hub parts", hub_parts(job, plan if plan is not None and plan.old != plan.new else None, job.lengths)
    )


def of_trials(job: Job) -> Iterator[Line]:
    """Yield every trial of the job worked out, and an invented one at each: out of place, leaning, with a box of shims."""
    gaps = Gaps(leading_outboard=2.4, leading_inboard=0.9, trailing_outboard=2.1, trailing_inboard=1.3)
    stock = tuple(LooseShims(thickness_mm=size, count=3) for size in (0.2, 0.5, 1.0))
    made = Trial(gaps_mm=gaps, station_spacing_mm=92.0, shims_mm=ShimStacks(first=(1.0,), second=(0.5,)), stock=stock)
    for trials in (job.trials, (*job.trials, made)):
        solution = solve(replace(job, trials=trials), turns=False)
        for number, trial in enumerate(trials):
            fit = trial_fit(solution, number)
            yield put_down("fit", fit)
            preview = fit.moves[0].plan if fit is not None and fit.moves else None
            yield from of_drawing("slot", slot_view(solution.job, trial, number, fit, preview))


def of_pedal(job: Job) -> Iterator[Line]:
    """Yield pedal and heat of the demo's vehicle with the job's corner in it, in several states, with their drawings."""
    whole = demo_vehicle()
    front = replace(whole.axles["front"], rotor=job.rotor, caliper=job.caliper, fit=job.fit, wheel=job.wheel)
    vehicle = replace(whole, axles={**whole.axles, "front": front}, display_units=job.display_units)
    valve = replace(
        vehicle.vehicle,
        valve=Valve(kind="adjustable", knee_bar=16.0, slope=0.3),
        pedal=Pedal(pivot_to_pad_mm=276.0, pivot_to_rod_mm=60.0),
    )
    guessed = replace(
        vehicle.vehicle, cg_height_mm=None, build="van", booster=Booster(kind="vacuum", gain=3.0, runout_n=900.0)
    )
    shelf = tuple(
        MasterCylinder(name=f"{bore}", bore_mm=bore, stroke_mm=34.0, circuits=2) for bore in (15.87, 19.05, 25.4)
    )
    for name, chassis in (("as it is", vehicle.vehicle), ("valve", valve), ("guessed", guessed)):
        one = replace(vehicle, vehicle=chassis)
        work, hot = pedal_work(one, shelf, 180.0), train_of(one, DUTIES["mountain"])
        yield put_down(
            f"pedal {name}",
            (work.now, work.travel, work.locks, work.levers, work.masters, work.circuits, work.knee, work.findings),
        )
        yield put_down(f"claims {name}", misconceptions_of(one, work.chain, None))
        yield put_down(f"heat {name}", hot)
        machine = chain_view(one, work.chain, work.now, work.travel, job.lengths, before_of(one))
        yield from of_drawing(f"machine {name}", machine)
        yield from of_drawing(f"balance {name}", balance_view(work.chain, work.now))
        yield from of_drawing(f"grip {name}", grip_view(work.chain, work.now, chain_of(one, laden=True)))
        yield from of_drawing(f"travel {name}", travel_view(work.chain, stages_of(work.chain), work.circuits))
        yield from of_drawing(f"train {name}", heat_view(one, hot))


SECTIONS: dict[str, Callable[[Job], Iterator[Line]]] = {
    "findings": of_findings, "brackets": of_brackets, "drawings": of_drawings, "examples": of_ghosts, "survey": of_survey, "searches": of_searches,
    "parts": of_parts, "trials": of_trials, "pedal": of_pedal,
}  # fmt: skip


def record(name: str, section: str) -> list[Line]:
    """Return the lines of one section of one job."""
    return list(SECTIONS[section](JOBS[name](demo_job())))


def kept(name: str) -> list[Line]:
    """Return the lines as they were written down under ``name``."""
    rows = (FOLDER / f"{name}.txt").read_text().splitlines()
    split = [row.rsplit(" | ", 4) for row in rows]
    return [(text, int(many), float(total), float(weighed), words) for text, many, total, weighed, words in split]

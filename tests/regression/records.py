"""What the core says of a dozen made-up jobs, as lines to read: our own figures, not a proof of anything.

``make records`` writes them anew, which has to be meant: read what changed before (``git diff``).
"""

from collections.abc import Callable, Iterator
from pathlib import Path

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import replace
from bicentra.core.bracket.on_hub import hub_parts
from bicentra.core.drawing.model import Drawing
from bicentra.core.drawing.part_sheets.table import part_sheet
from bicentra.core.drawing.sheets.imprint import cut_mark
from bicentra.core.drawing.sheets.parts_list import parts_list
from bicentra.core.drawing.sheets.plate import datum_of, headline, hole_table, plate_sheet
from bicentra.core.drawing.sheets.relief import relief_plans, relief_sheet, relief_text
from bicentra.core.drawing.sheets.templates import bushing_chart, card_sheet, card_text
from bicentra.core.drawing.sheets.workshop import hole_lines, notes, tolerances
from bicentra.core.drawing.space.scene import solid_scene
from bicentra.core.drawing.views.example import example_face, example_section
from bicentra.core.drawing.views.face import face_view
from bicentra.core.drawing.views.faces import relief_view, runout_view
from bicentra.core.drawing.views.joint import joint_view
from bicentra.core.drawing.views.made import made_view
from bicentra.core.drawing.views.parts import parts_view
from bicentra.core.drawing.views.section import section_view
from bicentra.core.drawing.views.slot import slot_view
from bicentra.core.drawing.views.survey import survey_view
from bicentra.core.evaluation.solution import solve
from bicentra.core.inputs.required_inputs import required_inputs, wanted
from bicentra.core.lineup.redrill import drilling
from bicentra.core.options import propose
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import Gaps, LooseShims, ShimStacks, Trial
from bicentra.core.search.clock import search_clock
from bicentra.core.search.planner import plan_remedies
from bicentra.core.search.run import SearchSpace, search
from bicentra.core.survey.advice import advise
from bicentra.core.trialfit.fit import TrialFit, trial_fit
from bicentra.core.uncertainty.assess import assess, surveyed
from bicentra.core.uncertainty.both_sides import text_of_both
from bicentra.study.desks.parts import part_set_of
from tests.regression.telling import told

FOLDER = Path(__file__).parent / "kept"
PLANNED = 0.15
"""How much of its tries a plan may take."""
Lines = Iterator[str]


def paper(name: str, draw: Callable[[], Drawing]) -> Lines:
    """Yield a paper, or why there is none."""
    try:
        yield from told(name, draw())
    except ExportError as error:
        yield f"{name}: refused, {error}"


def of_findings(job: Job) -> Lines:
    """Yield what is found about a job, and where the line-up, the bracket and its bolts lie."""
    solution = solve(job)
    yield from told("findings", assess(solution).solution.findings)
    assembly = solution.assembly
    for name in ("line", "holes", "joints", "stack_up"):
        yield from told(name, getattr(assembly, name))
    yield from told("bracket", solution.bracket)
    yield from told("papers say", (cut_mark(solution).line, text_of_both(job)))
    yield from told("list", parts_list(solution))


def of_kinds(job: Job) -> Lines:
    """Yield every kind of bracket for the job: what comes of it, and what its workshop drawing says."""
    left = job.corner.endswith("left")
    for one in propose(job):
        bracket, name = one.bracket, one.title
        yield from told(name, (one.verdict, one.why, *one.margin, bracket.thickness, bracket.mass_kg))
        yield from told(
            "  not OK",
            tuple(f"{f.verdict.value} {f.id} {f.value:.4f}" for f in one.findings if f.verdict.value != "ok"),
        )
        for part in bracket.parts:
            yield from told(
                "  part", (part.name, part.count, part.material, part.thickness, part.volume, part.outer, part.inner)
            )
            yield from told("  work", hole_lines(part, job.lengths, datum_of(part)))
            yield from told("  note", (*tolerances(part, job.lengths), *notes(part, job.lengths)))
        yield from told("  drawn", made_view(bracket, job.lengths, left))


def of_drawings(job: Job) -> Lines:
    """Yield the drawings of the job and of its papers."""
    solution = solve(job)
    yield from told("along the axle", face_view(solution, search_clock(job, step=4.0)))
    yield from told("across the rotor", section_view(solution))
    yield from told("bolts", joint_view(solution.assembly, job.lengths))
    other = replace(
        job,
        rotor=replace(job.rotor, diameter_mm=230.0, overall_height_mm=52.0, bolt_circle_mm=112.0, hole_count=5),
        caliper=replace(job.caliper, body_outer_mm=31.0, body_inboard_mm=47.0, ear_spacing_mm=117.0, pad_outline_mm=()),
    )
    yield from told("compared", parts_view((part_set_of(job, "now"), part_set_of(other, "other")), job.lengths))
    if solution.bracket.kind.cut is not None and not cut_mark(solution).line:
        yield from told("template", plate_sheet(solution))
        yield from told("template says", (*hole_table(solution), headline(solution)))
    yield from paper("card", lambda: card_sheet(solution))
    yield from paper("chart", lambda: bushing_chart(job))
    try:
        yield from told("card says", card_text(solution))
    except ExportError as error:
        yield f"card says: refused, {error}"
    yield from told("in space", solid_scene(solution))
    order = [one.path for one in wanted(job)]
    bare = with_edits(job, tuple((path, None) for path in order[1::2]))
    for name, draw in (("example along", example_face), ("example across", example_section)):
        yield from told(name, draw(solve(bare, turns=False), required_inputs(bare)))


def of_parts(job: Job) -> Lines:
    """Yield the sheets of the job's parts, what has to go of its castings, and what is made for hub and rotor."""
    solution = solve(job)
    for name in ("rotor", "caliper", "hub", "wheel", "knuckle"):
        yield from told(f"sheet of {name}", part_sheet(name, solution))
    try:
        for cut in relief_plans(solution):
            yield from told("relief", (cut, *relief_text(solution, cut)))
            yield from told("relief drawn", relief_sheet(solution, cut, (180.0, 260.0)))
    except ExportError as error:
        yield f"relief: refused, {error}"
    plan = drilling(job)
    yield from told(
        "for the hub", hub_parts(job, plan if plan is not None and plan.old != plan.new else None, job.lengths)
    )


def of_survey(job: Job) -> Lines:
    """Yield what the survey of the job comes to, and its drawings."""
    done = surveyed(job, job.corner)
    if done is None:
        return
    yield from told("survey", done)
    advice = advise(done.survey, done.adjusted, job.lengths)
    yield from told("advice", advice)
    for name, view in (
        ("sheet", survey_view(job, done, advice)),
        ("relief", relief_view(job, done)),
        ("runout", runout_view(done)),
    ):
        yield from told(name, view)


def of_searches(job: Job) -> Lines:
    """Yield what the searches find: clock windows, plans, sets of parts; a bracket made anew at each angle takes too long here."""
    if solve(job).bracket.kind.cut is None:
        return
    yield from told("clock", search_clock(job, step=3.0))
    for plan in plan_remedies(job, report=lambda part, _: part < PLANNED)[:3]:
        yield from told("plan", (plan.cost, plan.by_hand, plan.worse, tuple(step.action for step in plan.steps)))
    low = replace(job.rotor, name="low", overall_height_mm=(job.rotor.overall_height_mm or 40.0) - 4.0)
    for step in search(job, SearchSpace((job.rotor, low), (job.caliper,), angles=24)):
        for found in step.sets:
            yield from told(f"set {found.name}", found)


def of_trials(job: Job) -> Lines:
    """Yield every trial of the job worked out, and an invented one: out of place, leaning, with a box of shims."""
    gaps = Gaps(leading_outboard=2.4, leading_inboard=0.9, trailing_outboard=2.1, trailing_inboard=1.3)
    stock = tuple(LooseShims(thickness_mm=size, count=3) for size in (0.2, 0.5, 1.0))
    made = Trial(gaps_mm=gaps, station_spacing_mm=92.0, shims_mm=ShimStacks(first=(1.0,), second=(0.5,)), stock=stock)
    trials = (*job.trials, made)
    solution = solve(replace(job, trials=trials), turns=False)
    for place, trial in enumerate(trials):
        fit = trial_fit(solution, place)
        yield from trial_lines(f"trial {place}", fit)
        preview = fit.moves[0].plan if fit is not None and fit.moves else None
        yield from told("slot", slot_view(solution.job, trial, place, fit, preview))


def trial_lines(name: str, fit: TrialFit | None) -> Lines:
    """Yield a trial worked out: where the caliper sits, what is asked, and the first three ways to shim it."""
    if fit is None:
        yield f"{name}: nothing"
        return
    for of in ("pose", "standing", "followed", "findings", "senses", "alternatives"):
        yield from told(f"{name} {of}", getattr(fit, of))
    yield from told(f"{name} move", fit.moves[:3])


SECTIONS: dict[str, Callable[[Job], Lines]] = {
    "findings": of_findings, "kinds": of_kinds, "drawings": of_drawings, "survey": of_survey, "searches": of_searches,
    "parts": of_parts, "trials": of_trials,
}  # fmt: skip


def record(job: Job) -> list[str]:
    """Return every line of one job, a section under its head each."""
    lines: list[str] = []
    for section, tell in SECTIONS.items():
        lines += [f"== {section}", *tell(job)]
    return [line.replace("\n", " ").rstrip() for line in lines]


def kept(name: str) -> list[str]:
    """Return the lines as they were written down under ``name``."""
    return (FOLDER / f"{name}.txt").read_text().splitlines()

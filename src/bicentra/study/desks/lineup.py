"""The line-up bench without a screen: what is shown, the ring of clock windows, plans, what is typed or nudged."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from bicentra.core.base.errors import ExportError, QuantityError
from bicentra.core.base.finding import Edit, Finding, Verdict, counted_verdicts
from bicentra.core.base.numbers import known
from bicentra.core.base.quantities import ANGLE, LENGTH, NUMBER, Kind, bare_unit, edit_text, parse_quantity
from bicentra.core.base.records import replace
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import units_of
from bicentra.core.bracket.families.table import family_of
from bicentra.core.drawing.model import Drawing
from bicentra.core.drawing.part_sheets.table import part_sheet
from bicentra.core.evaluation.solution import Solution
from bicentra.core.inputs.required_inputs import RequiredInput, required_inputs, wanted
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.job import Job
from bicentra.core.parts.threads import find_thread
from bicentra.study.desks.measuring import how_text
from bicentra.study.document.brakes import DRUM
from bicentra.study.document.study import Study

if TYPE_CHECKING:
    from bicentra.core.clearance.relief_plan import Relief
    from bicentra.core.inputs.missing import Missing
    from bicentra.core.search.clock import ClockSearch, IncrementalClock
    from bicentra.core.search.planner import RemedyPlan, Report

CLOCK, THICKNESS = "fit.clock_deg", "bracket.thickness_mm"
PULLED = (CLOCK, "fit.pad_inset_mm", "fit.rotor_spacer_mm")
"""What the handles of the drawings move, besides the plate's thickness."""
CHANGES = {
    CLOCK: "Turn the caliper",
    "fit.rotor_spacer_mm": "Change the rotor spacer",
    "fit.pad_inset_mm": "Change the pad inset",
    THICKNESS: "Change the plate's thickness",
}
"""What a change made on the drawings is called in the history."""
THREADED = {
    "bracket.lug_bolt": "lug bolt",
    "bracket.caliper_bolt": "caliper bolt",
    "hub.retainer_bolt": "retainer bolt",
}
"""Bolts that are chosen by their thread on the drawing."""
MOST_LABEL = 120


MOST_ROLLED = 40
"""Among more obstacles the windows are not looked at while something is pulled: a frame would wait for them."""


class LineupDesk:
    """``preview``: a plan that is looked at, not taken."""

    def __init__(self, study: Study) -> None:
        self.study = study
        self.preview: RemedyPlan | None = None
        self._planned_for: Job | None = None
        self._ring: ClockSearch | None = None
        self._ring_of: Job | None = None
        self._looking_at: Job | None = None
        self._incremental: IncrementalClock | None = None
        self._rolled_for: Job | None = None
        self._reliefs: tuple[Solution | None, tuple[Relief, ...]] = (None, ())
        self._required: tuple[Job | None, tuple[RequiredInput, ...]] = (None, ())

    @property
    def solution(self) -> Solution:
        """What is shown: the study's, or that of the plan looked at while the job has not changed since."""
        if self.preview is not None and self._planned_for is not self.study.job:
            self.preview = None
        return self.study.solution if self.preview is None else self.study.as_shown(self.preview.solution)

    @property
    def ring(self) -> "ClockSearch | None":
        """The clock windows of what is shown; ``None`` while they are unknown."""
        return self._ring if self._ring_of == without_clock(self.solution.job) else None

    def values(self) -> dict[str, float]:
        """Return what the handles stand at, by key path [mm, degrees]; unknown as nan."""
        solution = self.solution
        found = {path: known(get_value(solution.job, path)) for path in PULLED}
        return {**found, THICKNESS: solution.assembly.stack_up.thickness}

    @property
    def reliefs(self) -> "tuple[Relief, ...]":
        """What has to go of castings in the way of what is shown; nothing where nothing is, or nothing can be cut."""
        solution = self.solution
        if self._reliefs[0] is not solution:
            self._reliefs = (solution, _reliefs(solution))
        return self._reliefs[1]

    # What is missing before a bracket can be drawn

    @property
    def keeps_drums(self) -> bool:
        """Whether this axle has drums in the job: nothing is lined up there."""
        return self.study.brake == DRUM

    @property
    def required_inputs(self) -> tuple[RequiredInput, ...]:
        """What has to be measured before the bracket can be drawn, in order; nothing once it is drawn."""
        job = self.solution.job
        if self._required[0] is not job:
            self._required = (job, () if self.keeps_drums else required_inputs(job))
        return self._required[1]

    def blank_after(self, path: str) -> RequiredInput | None:
        """Return the missing measurement that is taken next after ``path``, from the beginning again after the last."""
        order = [blank.path for blank in wanted(self.study.job)]
        here = order.index(path) if path in order else -1
        later = (blank for blank in self.required_inputs if order.index(blank.path) > here)
        return next(later, next(iter(self.required_inputs), None))

    def in_order(self, found: "tuple[Missing, ...]") -> "tuple[Missing, ...]":
        """Return what is missing in the one order it is asked for: what the bracket takes to appear, as it is measured, then
        the most useful.
        """
        places = {one.path: place for place, one in enumerate(self.required_inputs)}
        return tuple(sorted(found, key=lambda one: places.get(one.path, len(places))))

    def how_of(self, path: str) -> str:
        """Return how the size at ``path`` is measured."""
        text = how_text(path, self.study.job)
        return f"{text[:1].upper()}{text[1:]}" if text else ""

    def picture_of(self, path: str) -> Drawing | None:
        """Return the sheet of the part that the size at ``path`` is of, its sizes on it; ``None`` where it has none."""
        part = path.split(".")[0].split("[")[0]
        return part_sheet("rotor" if part == "fit" else part, self.study.plain_solution)

    def text_of(self, one: "Missing") -> str:
        """Return what a missing size is good for, in a few words, as the end of a line."""
        settles = [kind_of(id).title for id in one.settles]
        if settles:
            more = len(one.needed_by) - len(settles)
            return f"settles: {', '.join(settles)}" + (f"; needed by {more} more" if more else "")
        many = len(one.needed_by)
        titles = ", ".join(kind_of(id).title for id in one.needed_by[:2])
        return f"needed by {many}: {titles}" + (" …" if many > 2 else "")

    def counts(self) -> str:
        """Return how many findings say what, or how many measurements are left until there is anything to judge."""
        if self.keeps_drums:
            return "Drum brake"
        if self.required_inputs:
            many = len(self.required_inputs)
            return f"{many} measurement{'s' if many > 1 else ''} until {family_of(self.study.job).appears}"
        findings = self.study.solution.findings
        so_far = not self.study.doubted and any(finding.verdict is Verdict.OK for finding in findings)
        return counted_verdicts(findings) + ("\u00a0so\u00a0far" if so_far else "")

    # The ring of clock windows

    def look_round(self) -> "Callable[[Callable[[float], bool]], ClockSearch | None]":
        """Return the search for clock windows of the job as it stands, to be run wherever there is time."""
        job = self.study.job
        self._looking_at = without_clock(job)

        def look(report: Callable[[float], bool]) -> "ClockSearch | None":
            from bicentra.core.search.clock import search_clock

            return search_clock(job, progress=report)

        return look

    def rolled(self, pulled: bool) -> "ClockSearch | None":
        """Return the windows of what is shown: exact where they are known; else roughly, another share of them looked at again
        while something is ``pulled``, as they were last after it. ``None`` where that takes too long, or nothing was known before.
        """
        if self.ring is not None:
            self._incremental = None
            return self.ring
        solution = self.solution
        if len(solution.assembly.obstacles) > MOST_ROLLED:
            return None
        if self._incremental is None and pulled and self._ring is not None and self.preview is None:
            from bicentra.core.search.clock import IncrementalClock

            self._incremental = IncrementalClock(self._ring)
        if self._incremental is None:
            return None
        here = without_clock(solution.job)
        if pulled:
            self._rolled_for = here
            return self._incremental.turn(solution.assembly)
        return self._incremental.shown if self._rolled_for == here else None

    def take_ring(self, found: "ClockSearch | None") -> bool:
        """Keep what a search found; False when it is about a job that has changed since."""
        if found is None or without_clock(self.study.job) != self._looking_at:
            return False
        self._ring, self._ring_of = found, self._looking_at
        return True

    @property
    def looked_round(self) -> bool:
        """Whether the clock windows of the job as it stands are known."""
        return self._ring is not None and self._ring_of == without_clock(self.study.job)

    def best_clock(self) -> tuple[Edit, ...]:
        """Return the edit that turns the caliper to the best angle of all windows; nothing when there is none.

        Windows of a job that has changed since do not count: see ``looked_round``.
        """
        best = self._ring.best if self._ring is not None and self.looked_round else None
        return () if best is None else ((CLOCK, best.best),)

    # Plans

    def plans(self, everything: bool) -> "Callable[[Report], tuple[RemedyPlan, ...]]":
        """Return the search for plans for the job as it stands, to be run wherever there is time."""
        from bicentra.core.search.planner import plan_remedies

        job = self.study.job
        return lambda report: plan_remedies(job, everything, report)

    def left_by(self, plan: "RemedyPlan") -> tuple[Finding, ...]:
        """Return what is asked once a plan is carried out, doubted as what is shown: a caution for a doubt is left by
        every plan.
        """
        return self.study.as_shown(plan.solution).findings

    def look_at(self, plan: "RemedyPlan | None") -> None:
        """Show what a plan would make of the job; the job stays as it is."""
        self.preview, self._planned_for = plan, self.study.job

    # What is typed and nudged

    def nudged(self, path: str, step: float) -> tuple[Edit, ...]:
        """Return the edit that moves the number at ``path`` by ``step`` [mm, degrees]; nothing when it is unknown."""
        value = get_value(self.study.job, path)
        if not isinstance(value, int | float):
            return ()
        return ((path, round((value + step) % 360.0 if path == CLOCK else value + step, 4)),)

    def shown(self, path: str) -> str:
        """Return what stands in a field over the number at ``path``."""
        value = get_value(self.study.job, path)
        if path in THREADED:
            return str(value or "")
        if path == THICKNESS and value is None:
            value = self.study.solution.assembly.stack_up.thickness
        return edit_text(value, _kind(path), units_of(self.study.job.display_units))

    def typed(self, path: str, text: str) -> tuple[str, tuple[Edit, ...]]:
        """Return what a number typed over another is called, and its edit. Raises ``QuantityError`` for no quantity."""
        if path in THREADED:
            thread = find_thread(text)
            if thread is None:
                raise QuantityError(text, "thread", "one such as M12x1.5, M10 or 3/8-24")
            return f"Choose the {THREADED[path]}", ((path, thread.name),)
        kind = _kind(path)
        value = parse_quantity(text, kind, bare_unit(kind, units_of(self.study.job.display_units)))
        if kind is NUMBER and value != int(value):
            raise QuantityError(text, f"“{text.strip()}”", "a whole number")
        value = int(value) if kind is NUMBER else value
        plain = path.split(".")[-1].rsplit("_", 1)[0].replace("_", " ")
        return CHANGES.get(path, f"Change {plain}"), ((path, value),)


def plan_label(plan: "RemedyPlan") -> str:
    """Return what taking a plan is called, short enough for the history."""
    actions = "; ".join(step.action for step in plan.steps)
    return actions if len(actions) <= MOST_LABEL else f"{actions[: MOST_LABEL - 3]}…"


def without_clock(job: Job) -> Job:
    """Return the job with its clock angle left out: what the ring depends on."""
    plain = replace(job, title="", notes="", display_units="mm", drawn_by="", checked_by="", issued=(), photos=())
    return replace(plain, fit=replace(job.fit, clock_deg=0.0))


def _kind(path: str) -> Kind:
    return ANGLE if path.endswith("_deg") else NUMBER if path.endswith("_count") else LENGTH


def _reliefs(solution: Solution) -> "tuple[Relief, ...]":
    """Return what has to go of castings, its module loaded only where something is in the way."""
    found = solution.lazy.one("caliper-to-obstacle")
    if found is None or found.verdict not in (Verdict.STOP, Verdict.CAUTION):
        return ()
    from bicentra.core.drawing.sheets.relief import relief_plans

    try:
        return relief_plans(solution)
    except ExportError:
        return ()

"""A practice corner at the bench: it answers what is read, takes what is done, counts the minutes, shows the answer at
the end.
"""

import math
from collections.abc import Callable
from itertools import groupby

from bicentra.core.base.finding import Edit
from bicentra.core.base.records import Record, replace
from bicentra.core.parts.attachments import PracticeRun, PracticeStep
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import GAPS
from bicentra.core.practice.corner import OTHER_MIN, inspect, put_shims, set_up, take_reading, title_of
from bicentra.core.practice.habits import Habit, habits_of, lucky, missed
from bicentra.core.practice.players import follow_advice, reference_player
from bicentra.core.practice.truth import HINTS, Truth, true_pose, truth_of
from bicentra.core.trialfit.log import CornerState
from bicentra.core.trialfit.plan import ShimPlan
from bicentra.study.desks.trialfit import TrialDesk
from bicentra.study.document.starting import keep_result, practice_base

OTHERS = tuple(OTHER_MIN)
"""What can be read besides the gaps."""


class Line(Record, frozen=True):
    """One thing that was done: what, its minutes, what it told."""

    title: str
    minutes: float
    text: str


class Answer(Record, frozen=True):
    """The answer of a practice corner: what was and is hidden, minutes and steps against the careful way, habits, luck."""

    locked: bool
    faults: tuple[str, ...]
    missed: tuple[str, ...]
    minutes: float
    par: float
    yours: tuple[Line, ...]
    careful: tuple[Line, ...]
    habits: tuple[Habit, ...]
    lucky: tuple[int, ...]
    pose: ShimPlan


class PracticeDesk:
    """The practice side of a trial desk. Everything goes into the same records as real work; this only answers and counts.

    What is done on the car is done: undo goes over it.
    """

    def __init__(self, desk: TrialDesk) -> None:
        self.desk = desk
        self.text = ""

    @property
    def run(self) -> PracticeRun | None:
        """The run of the open job; ``None`` where it is no practice corner."""
        return self.desk.study.job.practice_run

    @property
    def open(self) -> bool:
        """Whether a run is going on."""
        return self.run is not None and not self.run.ended

    @property
    def locked(self) -> bool:
        """Whether the corner is locked as it stands."""
        fit = self.desk.fit
        return fit is not None and self.desk.is_last and fit.standing.state is CornerState.LOCKED

    @property
    def truth(self) -> Truth | None:
        """What is hidden. Nothing but the answers and the end may ask for it."""
        return truth_of(self.run.seed, self.run.level) if self.run is not None else None

    @property
    def hint(self) -> str:
        """What is said at the first level; empty at the others."""
        truth = self.truth
        return HINTS[truth.faults[0]] if truth is not None and truth.level == 1 else ""

    def read(self, name: str) -> None:
        """Ask the corner for a reading: one of the four gaps, or tip gap, runout, a turn by hand."""
        self._do(f"Read: {name.removesuffix('_mm').replace('_', ' ')}", lambda job: take_reading(job, name))

    def inspect(self, name: str) -> None:
        """Look at something on the corner; what was found is reported."""
        self._do("Looked at", lambda job: inspect(job, name))

    def set(self, name: str, value: object) -> None:
        """Set the corner up another way; what is only written down costs nothing, and can be undone."""
        before = self.run
        self._do(f"Trial: {name.removesuffix('_mm').replace('_', ' ')}", lambda job: set_up(job, name, value), False)
        if before is not None and self.run is not None and len(self.run.steps) > len(before.steps):
            self.desk.study.keep_for_good()

    def do_move(self) -> None:
        """Put in the shims that are looked at; in a practice corner that costs its minutes."""
        move = self.desk.move
        if self.run is None:
            self.desk.do_move()
        elif move is not None and self.desk.is_last:
            self.desk.preview, self.desk.place = None, 0
            self._do("Shims", lambda job: put_shims(job, move.plan))

    def do_next(self) -> None:
        """Do what comes next on the simulated corner."""
        advice, move = self.desk.advice, self.desk.move
        self._do(advice.sentence[:200], lambda job: follow_advice(job, advice, move))

    def _do(self, label: str, work: Callable[[Job], Job], for_good: bool = True) -> None:
        """Carry out ``work`` on the corner as one step, and keep it for good."""
        study, run = self.desk.study, self.run
        if run is None or run.ended or not self.desk.trials or self.desk.trials[-1].locked:
            return
        after = work(study.job)
        done = run_steps(after)[len(run.steps) :]
        if done:
            label = title_of(done[-1])
            self.text = f"{label}: {done[-1].showed}" if done[-1].showed else ""
        self.desk.number = -1
        study.edit(label, (("trials", after.trials), ("practice_run", after.practice_run)))
        if for_good and done:
            study.keep_for_good()

    def show_answer(self) -> Answer | None:
        """End the run and return the answer; the first time the result is kept: locked, or given up."""
        run, truth, job = self.run, self.truth, self.desk.study.job
        if run is None or truth is None or not job.trials:
            return None
        careful = reference_player(practice_base(), run.seed, run.level).run
        offset, slope = true_pose(truth, job, job.trials[-1], run.done)
        pose = ShimPlan("lug", (), (), offset, math.degrees(math.atan(slope)))
        locked = self.locked if not run.ended else not run.given_up
        if not run.ended:
            ended = replace(run, ended=True, given_up=not locked)
            keep_result(ended, careful.minutes)
            edits: tuple[Edit, ...] = (("practice_run", ended),)
            self.desk.study.edit("Show the answer", edits)
            self.desk.study.keep_for_good()
        return Answer(
            locked, truth.sentences(), missed(truth, run, job), run.minutes, careful.minutes, lines_of(run), lines_of(careful),
            habits_of(truth, run, job), lucky(job), pose,
        )  # fmt: skip


def run_steps(job: Job) -> tuple[PracticeStep, ...]:
    """Return what has been done to a practice corner so far, in order."""
    return job.practice_run.steps if job.practice_run is not None else ()


def lines_of(run: PracticeRun) -> tuple[Line, ...]:
    """Return what was done in a run, gaps that were read one after the other as one line."""
    found = list[Line]()
    for gaps, steps in groupby(run.steps, key=lambda step: (step.kind == "read" and step.name in GAPS, step.trial)):
        done = list(steps)
        if gaps[0] and len(done) > 1:
            text = next((step.showed for step in reversed(done) if step.showed), "")
            found.append(Line(f"{len(done)} gaps read", sum(step.minutes for step in done), text))
        else:
            found += [Line(title_of(step), step.minutes, step.showed) for step in done]
    return tuple(found)


def answer_text(answer: Answer) -> tuple[str, ...]:
    """Return the answer in lines, the most telling first."""
    state = "Locked" if answer.locked else "Given up"
    lines = [f"{state} after {answer.minutes:.0f} min; the careful way took {answer.par:.0f} min."]
    lines += [f"Hidden: {fault}." for fault in answer.faults]
    lines += [f"Still there: {fault}." for fault in answer.missed]
    if answer.habits:
        lines.append(f"What would have saved most: {answer.habits[0].text} ({answer.habits[0].minutes:.0f} min).")
    if answer.lucky:
        named = ", ".join(str(number) for number in answer.lucky)
        lines.append(f"Shims changed on readings that could not carry it, good or bad by luck: after trial {named}.")
    return tuple(lines)

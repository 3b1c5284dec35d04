"""A practice corner at the bench: it answers what is read, takes what is done, counts the minutes, lays the truth open."""

import math

from bicentra.core.base.finding import Edit
from bicentra.core.base.records import Record, replace
from bicentra.core.parts.practice import PracticeRun
from bicentra.core.parts.trial import GAPS
from bicentra.core.practice.corner import DEEDS, OTHER_MIN, Answer, do_deed, moved, read_gap, read_other
from bicentra.core.practice.habits import Habit, habits_of, lucky, missed
from bicentra.core.practice.players import honest
from bicentra.core.practice.truth import HINTS, Truth, true_pose, truth_of
from bicentra.core.trialfit.plan import Plan
from bicentra.study.desks.trialfit import TrialDesk
from bicentra.study.document.practice import keep_result, practice_base


class Laid(Record, frozen=True):
    """The truth laid open: the faults in words, minutes against those of the honest player, habits, luck, what is hidden still."""

    faults: tuple[str, ...]
    minutes: float
    par: float
    habits: tuple[Habit, ...]
    lucky: tuple[int, ...]
    missed: tuple[str, ...]
    pose: Plan


class PracticeDesk:
    """The practice side of a trial desk. Everything goes into the same records as real work; this only answers and counts."""

    def __init__(self, desk: TrialDesk) -> None:
        self.desk = desk
        self.told = ""

    @property
    def run(self) -> PracticeRun | None:
        """The run of the open job; ``None`` where it is no practice corner."""
        return self.desk.study.job.practice_run

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
        run, truth = self.run, self.truth
        if run is None or truth is None or run.ended or not self.desk.is_last:
            return
        job = self.desk.study.job
        answer = read_gap(truth, run, job, name) if name in GAPS else read_other(truth, run, job, name)
        self._take(answer, f"Read: {name.removesuffix('_mm').replace('_', ' ')}")

    def deed(self, name: str) -> None:
        """Do something to the corner; what was found is told."""
        run, truth = self.run, self.truth
        if run is not None and truth is not None and not run.ended:
            answer = do_deed(truth, run, self.desk.study.job, name)
            self._take(answer, DEEDS[name].title)
            self.told = answer.told

    def _take(self, answer: Answer, label: str) -> None:
        self.desk.study.edit(label, (*answer.edits, ("practice_run", answer.run)))

    def do_move(self) -> None:
        """Carry out the move that is looked at; it costs its minutes."""
        run, before = self.run, self.desk.trial
        self.desk.do_move()
        after = self.desk.trial
        if run is not None and before is not None and after is not None:
            self.desk.study.edit(
                "Minutes of the move", (("practice_run", moved(run, before, after)),), group="practice"
            )

    def lay_open(self) -> Laid | None:
        """End the run and return the truth; the first time the result is kept."""
        run, truth, job = self.run, self.truth, self.desk.study.job
        if run is None or truth is None or not job.trials:
            return None
        par = honest(practice_base(), run.seed, run.level).run.minutes
        offset, slope = true_pose(truth, job, job.trials[-1], run.done)
        pose = Plan("lug", (), (), offset, math.degrees(math.atan(slope)))
        if not run.ended:
            keep_result(run, par)
            edits: tuple[Edit, ...] = (("practice_run", replace(run, ended=True)),)
            self.desk.study.edit("Lay the truth open", edits)
        habits, still = habits_of(truth, run, job), missed(truth, run, job)
        return Laid(truth.told(), run.minutes, par, habits, lucky(job), still, pose)


def laid_told(laid: Laid, locked: bool) -> tuple[str, ...]:
    """Return the truth in lines, the most telling first."""
    state = "Locked" if locked else "Not locked"
    lines = [f"{state} after {laid.minutes:.0f} min; the careful way took {laid.par:.0f} min."]
    lines += [f"Hidden: {fault}." for fault in laid.faults]
    lines += [f"Still there: {fault}." for fault in laid.missed]
    if laid.habits:
        lines.append(f"What would have saved most: {laid.habits[0].told} ({laid.habits[0].minutes:.0f} min).")
    if laid.lucky:
        named = ", ".join(str(number) for number in laid.lucky)
        lines.append(f"Moves on readings that could not carry them, good or bad by luck: after trial {named}.")
    return tuple(lines)


OTHERS = tuple(OTHER_MIN)
"""What can be read besides the gaps."""

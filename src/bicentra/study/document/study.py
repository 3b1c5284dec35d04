"""The open vehicle with its history. Every change is validated first, is one step to undo, and is solved at once."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from bicentra.core.base.errors import StoreError
from bicentra.core.base.finding import Edit, Finding
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import kind_of
from bicentra.core.evaluation.solution import Solution, solve, with_turns
from bicentra.core.parts.corners import across, at_corner, axle_of, vehicle_of, with_job
from bicentra.core.parts.edits import label_at, with_edits, with_value
from bicentra.core.parts.job import CORNERS, Job
from bicentra.core.parts.validate import validate
from bicentra.core.parts.validate_vehicle import validate_vehicle
from bicentra.core.parts.vehicle import Corner, Vehicle
from bicentra.study.document import store
from bicentra.study.document.brakes import (
    DISC,
    DRUM,
    BrakeNotChosenError,
    begun_as_disc,
    brake_of,
    is_measured,
    kept_as_drum,
    shown_job,
    touches_brake,
)
from bicentra.study.document.recovery import FileLock, Keeper

if TYPE_CHECKING:
    from bicentra.core.inputs.missing import Missing
    from bicentra.core.trialfit.fit import TrialFit
    from bicentra.core.uncertainty.assess import Assessment, CarriedUncertainty

MOST_STEPS = 500


class HistoryStep(Record, frozen=True):
    """One step of the history: what it is called, and the vehicle before and after it. ``for_good``: undo stops before it."""

    label: str
    before: Vehicle
    after: Vehicle
    group: str
    for_good: bool = False


def solved_corner(job: Job) -> Solution:
    """Return the whole answer for ``job``, all findings worked out: a fault of ours is met here. Turns come with the
    assessment.
    """
    solution = solve(job, turns=False)
    _ = solution.findings
    return solution


class Study:
    """A vehicle being worked on, one corner at a time. ``changed`` callables are called after every change with no arguments."""

    def __init__(self, vehicle: Vehicle | Job, path: Path | None = None) -> None:
        vehicle = vehicle_of(vehicle) if isinstance(vehicle, Job) else vehicle
        validate_vehicle(vehicle)
        self._vehicle, self._saved = vehicle, vehicle
        self._job = shown_job(vehicle)
        self.ask_brake: Callable[[str, str], str] | None = None
        self.path = path
        self._stamp = store.stamp_of(path) if path is not None else None
        self.keeper = Keeper()
        self._lock = FileLock(path) if path is not None else None
        self._held: list[HistoryStep] = []
        self._done: list[HistoryStep] = []
        self._undone: list[HistoryStep] = []
        self._solution = solved_corner(self._job)
        self._shown = self._solution
        self._assessment: Assessment | None = None
        self._pedal: tuple[Vehicle, tuple[Finding, ...]] | None = None
        self._trial: tuple[Solution, TrialFit | None] | None = None
        self._quick = False
        self._missing: tuple[Job, tuple[Missing, ...]] | None = None
        self.seen: set[str] = set()  # what was looked at in this session and is not said again
        self.changed: list[Callable[[], None]] = []

    @property
    def vehicle(self) -> Vehicle:
        """The vehicle as it stands."""
        return self._vehicle

    @property
    def job(self) -> Job:
        """The job of the corner that is worked on, as it stands."""
        return self._job

    @property
    def missing(self) -> "tuple[Missing, ...] | None":
        """What to measure next, most useful first; ``None`` before that was found for the job as it stands."""
        return self._missing[1] if self._missing is not None and self._missing[0] is self._job else None

    def finding_missing(self) -> "Callable[[], tuple[Missing, ...]]":
        """Return the work, for any thread, that finds what to measure next for the job as it stands."""
        from bicentra.core.inputs.missing import missing_sizes

        solution = self.plain_solution
        return lambda: missing_sizes(solution)

    def take_missing(self, job: Job, found: "tuple[Missing, ...]") -> bool:
        """Keep what was found missing for ``job``; False where the job has changed since."""
        self._missing = (job, found)
        return job is self._job

    def named(self, path: str) -> str:
        """Return what the size at ``path`` of the job is called, as in ``rotor: thickness``."""
        return label_at(self._job, path)

    @property
    def corners(self) -> tuple[tuple[str, str], ...]:
        """Every corner with how much is known of it, in words; ``nothing yet`` where the file has nothing of it."""
        text = []
        for name in CORNERS:
            own, other = (self._vehicle.corners.get(n, Corner()) for n in (name, across(name)))
            if brake_of(self._vehicle, name) == DRUM:
                word = "drum brake"
            elif own.knuckle is not None and "knuckle" not in own.borrowed:
                word = "measured" if is_measured(own) else "nothing measured yet"
            else:
                word = "from the other side" if own.knuckle is not None or other.knuckle is not None else "nothing yet"
            text.append((name, word))
        return tuple(text)

    def go_to(self, corner: str) -> None:
        """Work on another corner from now on, as one step. Nothing is written down of it by that."""
        vehicle = at_corner(self._vehicle, corner)
        if vehicle != self._vehicle:
            self._take(f"Go to {corner.replace('-', ' ')}", vehicle, shown_job(vehicle), "", False)

    @property
    def solution(self) -> Solution:
        """What the job as it stands solves to, with its uncertainty as soon as that is worked out.

        Until then the doubts of a moment ago stand in, and the survey's own findings if no reading has changed.
        """
        return self._shown

    def _merged(self) -> Solution:
        """Return what ``solution`` shows; made once for each change, since a drag looks at it several times a frame."""
        known = self._assessment
        return (
            known.solution if known is not None and known.solution.job is self._job else self.as_shown(self._solution)
        )

    def as_shown(self, solution: Solution) -> Solution:
        """Return ``solution``, of a job much like this one, with what is known of this corner: doubts and the survey's
        findings.
        """
        known = self._assessment
        if known is None or known.solution.job.corner != solution.job.corner:
            return solution
        from bicentra.core.uncertainty.assess import carried

        doubted = carried(known, solution)
        if known.solution.job.survey != solution.job.survey:
            return doubted
        return doubted.with_more(tuple(f for f in known.solution.findings if kind_of(f.id).group == "survey"))

    def uncertainty(self) -> "CarriedUncertainty | None":
        """Return the doubts that are known here, as far as they are about this corner: as it stands, or stood a moment ago."""
        if self._assessment is None:
            return None
        from bicentra.core.uncertainty.assess import uncertainty_of

        return uncertainty_of(self._assessment, self._job)

    @property
    def plain_solution(self) -> Solution:
        """What the job solves to without a look at its survey."""
        return self._solution

    @property
    def trial_findings(self) -> tuple[Finding, ...]:
        """What is asked of the last trial of the corner; nothing while there is none."""
        return self.trial_fit.findings if self.trial_fit is not None else ()

    @property
    def trial_fit(self) -> "TrialFit | None":
        """How far the last trial of the corner has come, no shims looked for; ``None`` while there is none."""
        if not self._job.trials:
            return None
        from bicentra.core.trialfit.fit import standing_fit

        solution = self.plain_solution
        if self._trial is None or self._trial[0] is not solution:
            self._trial = (solution, standing_fit(solution))
        return self._trial[1]

    @property
    def pedal_findings(self) -> tuple[Finding, ...]:
        """What is asked of the vehicle's pedal; nothing while nothing of it is known."""
        from bicentra.core.hydraulics.pedal import pedal_findings

        if self._pedal is None or self._pedal[0] is not self._vehicle:
            self._pedal = (self._vehicle, pedal_findings(self._vehicle))
        return self._pedal[1]

    @property
    def assessment(self) -> "Assessment | None":
        """What the survey says about the job as it stands; ``None`` until it is worked out."""
        known = self._assessment
        return known if known is not None and known.solution.job is self._job else None

    @property
    def doubted(self) -> bool:
        """Whether what is OK has been doubted: as it stands, or as this corner stood a moment ago."""
        return self._assessment is not None and self._assessment.solution.job.corner == self._job.corner

    def assess(self) -> "Assessment":
        """Work out what the survey says about the job as it stands, now, and take it up."""
        made = self.assessing()()
        self.take_assessment(made)
        return made

    def assessing(self) -> "Callable[[], Assessment]":
        """Return the assessment of the job as it stands, to be worked out wherever there is time."""
        solution = self.plain_solution

        def work() -> "Assessment":
            from bicentra.core.uncertainty.assess import assess

            return assess(with_turns(solution))

        return work

    def take_assessment(self, made: "Assessment") -> bool:
        """Take up an assessment worked out elsewhere; one about a job that has changed since is let go."""
        if made.solution.job is not self._job:
            return False
        self._assessment, self._shown = made, made.solution
        self._tell()
        return True

    @property
    def modified(self) -> bool:
        """Whether the vehicle differs from what was last saved or opened; which corner is looked at is no change."""
        return at_corner(self._vehicle, self._saved.corner) != self._saved

    @property
    def undo_label(self) -> str:
        """What undo would take back; empty when nothing."""
        return self._done[-1].label if self._done and not self._done[-1].for_good else ""

    @property
    def redo_label(self) -> str:
        """What redo would do again; empty when nothing."""
        return self._undone[-1].label if self._undone else ""

    @property
    def history(self) -> tuple[str, ...]:
        """The steps taken so far, oldest first, in words."""
        return tuple(step.label for step in self._done)

    def edit(self, label: str, edits: tuple[Edit, ...], group: str = "", quick: bool = False) -> None:
        """Carry out ``edits`` as one step. Steps of one ``group`` (a drag, a row of key presses) grow together.

        With ``quick`` (something is being pulled) findings are worked out when they are looked at; all of them when the
        group ends.

        Raises ``JobError`` when the job that would come out cannot be; the job then stays as it was.
        """
        after = with_edits(self._job, edits)
        if after == self._job:
            return
        begun = self._vehicle
        if self.brake != DISC and touches_brake(self._job, after):
            begun = self._begun(label)
        vehicle = with_job(begun, self._job, after)
        job = shown_job(vehicle)
        validate(job, trusted=self._job)
        if vehicle.corners.keys() - {vehicle.corner}:  # what is designed here must do for the other corners too
            validate_vehicle(vehicle, self._vehicle, seen=vehicle.corner)
        self._take(label, vehicle, job, group, quick)

    def edit_vehicle(self, label: str, edits: tuple[Edit, ...], group: str = "") -> None:
        """Carry out ``edits`` of what all corners share (``vehicle.pedal.ratio``, ``axles.rear.drum.factor``) as one step.

        Raises ``JobError`` when the vehicle that would come out cannot be, ``KeyError`` for a path that is not there.
        """
        vehicle = self._vehicle
        for path, value in edits:
            vehicle = with_value(vehicle, path, value)
        if vehicle == self._vehicle:
            return
        validate_vehicle(vehicle, self._vehicle)
        self._take(label, vehicle, shown_job(vehicle), group, False)

    @property
    def brake(self) -> str:
        """Whether the axle that is worked on has ``DISC`` or ``DRUM`` brakes, or that nobody said: ``OPEN``."""
        return brake_of(self._vehicle)

    def _begun(self, label: str) -> Vehicle:
        """Return the vehicle with a disc brake begun at this corner, once that is what is wanted.

        Raises ``BrakeNotChosenError`` where the drum stays, which is noted, or where nothing is decided yet.
        """
        axle = axle_of(self._vehicle.corner)
        answer = self.ask_brake(axle, self.brake) if self.ask_brake is not None else DISC
        if answer == DISC:
            return begun_as_disc(self._vehicle)
        if answer == DRUM:
            vehicle = kept_as_drum(self._vehicle)
            if vehicle != self._vehicle:
                self._take(f"The {axle} axle keeps its drums", vehicle, shown_job(vehicle), "", False)
            text = f"The {axle} axle keeps its drums: their numbers are on the pedal bench"
        else:
            text = f"Nothing is decided about the {axle} brakes yet"
        raise BrakeNotChosenError(f"{text}. Not done: {label[:1].lower()}{label[1:]}")

    def _take(self, label: str, vehicle: Vehicle, job: Job, group: str, quick: bool) -> None:
        grows = bool(group) and bool(self._done) and self._done[-1].group == group and not self._undone
        if not grows:
            self._held = list(self._undone)
        solution = solve(job, turns=False, remedies=False) if quick else solved_corner(job)
        # before anything is recorded: a fault in here leaves vehicle and history as they were
        before = self._done.pop().before if grows else self._vehicle
        self._done.append(HistoryStep(label, before, vehicle, group))
        del self._done[:-MOST_STEPS]
        self._undone.clear()
        self._quick = quick
        self._become(vehicle, job, solution)

    def end_group(self) -> None:
        """Close the present group: the next edit is a step of its own. One that came back to where it began leaves no step.

        A fault of ours in what was not looked at while something was pulled takes the whole step back.
        """
        pulled, self._quick = self._quick, False
        if pulled:
            self._solve_all()
        if self._done and self._done[-1].group and self._done[-1].before == self._done[-1].after:
            self._done.pop()
            self._undone, self._held = self._held, []
        elif self._done:
            self._done[-1] = replace(self._done[-1], group="")
        if pulled:
            self._become(self._vehicle, self._job, self._solution)

    def _solve_all(self) -> None:
        try:
            self._solution = solved_corner(self._job)
        except Exception:  # told on: the step is taken back first, so that vehicle and solution stay one
            if self._done and self._done[-1].group:
                self.cancel_group(self._done[-1].group)
            raise

    def cancel_group(self, group: str) -> None:
        """Take back the steps of an unfinished ``group`` as if they had never been: what could be done again still can."""
        if self._done and self._done[-1].group == group:
            before = self._done.pop().before
            self._undone, self._held = self._held, []
            self._become(before)

    def restore(self, vehicle: Vehicle) -> None:
        """Take up recovered work as one step on top of what is saved."""
        self._done.append(HistoryStep("Take up unsaved work", self._vehicle, vehicle, ""))
        self._become(vehicle)

    def undo(self) -> None:
        """Take back the last step, if any and not done for good."""
        if self._done and not self._done[-1].for_good:
            step = self._done.pop()
            self._undone.append(step)
            self._become(step.before)

    def go_back(self, steps: int) -> None:
        """Take back the last ``steps`` steps, all at once; redo does them again one by one. What was done for good stays."""
        taken = 0
        while taken < steps and self._done and not self._done[-1].for_good:
            self._undone.append(self._done.pop())
            taken += 1
        if taken:
            self._become(self._undone[-1].before)

    def keep_for_good(self) -> None:
        """Let undo stop before the last step: it was done on the car."""
        if self._done:
            self._done[-1] = replace(self._done[-1], for_good=True, group="")
            self._tell()

    def redo(self) -> None:
        """Do the last undone step again, if any."""
        if self._undone:
            step = self._undone.pop()
            self._done.append(step)
            self._become(step.after)

    @property
    def shared(self) -> bool:
        """Whether another window has this job's file open."""
        return self._lock is not None and not self._lock.free

    def save(self, path: Path | None = None, over: bool = False) -> None:
        """Save to ``path``, or where the job came from. Raises ``StoreError``; nothing is lost then.

        A file that was changed since it was opened raises ``ChangedOnDiskError`` unless it may be written ``over``.
        """
        target = path or self.path
        if target is None:
            raise StoreError("this job has no file yet; choose a name")
        known = self._stamp if target == self.path and not over else None
        self._stamp = store.save(self._vehicle, target, known)
        self.keeper.saved()
        if target != self.path:
            self._take_lock(target)
        self.path, self._saved = target, self._vehicle
        self._tell()

    def _take_lock(self, path: Path) -> None:
        if self._lock is not None:
            self._lock.release()
        self._lock = FileLock(path)

    def close(self, given_up: bool = False) -> None:
        """Leave the job: its lock goes, and with ``given_up`` what was kept of unsaved work."""
        if given_up:
            self.keeper.given_up()
        self.keeper.close()
        if self._lock is not None:
            self._lock.release()

    def _become(self, vehicle: Vehicle, job: Job | None = None, solution: Solution | None = None) -> None:
        self._vehicle, self._job = vehicle, job if job is not None else shown_job(vehicle)
        self._solution = solution if solution is not None else solved_corner(self._job)
        self._shown = self._merged()
        self._tell()

    def _tell(self) -> None:
        for call in tuple(self.changed):
            call()

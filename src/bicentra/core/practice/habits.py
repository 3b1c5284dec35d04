"""What a practice run shows when the truth is laid open: what it cost, what was luck, which habit would have saved most."""

from bicentra.core.base.records import Record
from bicentra.core.parts.attachments import PracticeRun
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import GAP_NAMES, Trial
from bicentra.core.practice.corner import BOLT_MIN, MOVE_MIN, READ_MIN, WORK
from bicentra.core.practice.truth import Truth
from bicentra.core.trialfit.pose import pose_of
from bicentra.core.trialfit.set_up import BEFORE_LOCK, counts

NUTS = 2


class Habit(Record, frozen=True):
    """A habit that was missing: in words, and the minutes it would have saved."""

    text: str
    minutes: float


def habits_of(truth: Truth, run: PracticeRun, job: Job) -> tuple[Habit, ...]:
    """Return the habits that would have saved minutes, the dearest first."""
    trials = job.trials
    reading = sum(READ_MIN[trial.instrument] for trial in trials for name in GAP_NAMES if _read(trial, name))
    per_gap = reading / max(sum(_read(trial, name) for trial in trials for name in GAP_NAMES), 1)
    loose = [
        trial for trial in trials if (trial.rotor_nuts or 0) < NUTS and any(_read(trial, name) for name in GAP_NAMES)
    ]
    half = [trial for trial in trials[:-1] if 0 < sum(_read(trial, name) for name in GAP_NAMES) < len(GAP_NAMES)]
    against = [trial for trial in trials[:-1] if pose_of(job, trial).against]
    move = MOVE_MIN + 2 * BOLT_MIN
    unheld = len(loose) * len(GAP_NAMES) * per_gap if "seat" in truth.faults else 0.0
    rows = [
        ("hold the rotor by two nuts or more before anything is read", unheld),
        ("read all four gaps before a bolt is loosened", len(half) * move),
        ("read again what does not add up, before it is shimmed", len(against) * move),
        ("look for the reason that fits, before everything is tried", idle_minutes(truth, run)),
        ("move once by the numbers rather than little by little", max(run.moves - 2, 0) * move),
    ]  # fmt: skip
    return tuple(
        sorted((Habit(text, minutes) for text, minutes in rows if minutes > 0.0), key=lambda habit: -habit.minutes)
    )


def idle_minutes(truth: Truth, run: PracticeRun) -> float:
    """Return how long went into inspections that found nothing [minutes]; what is looked at before every lock is not idle."""
    idle = 0.0
    seen: set[str] = set()
    for action in (one.partition(":")[2] for one in run.deeds):
        faults = {fault for fault, _ in WORK[action].found} & set(truth.faults)
        if action in seen or (not faults and action not in BEFORE_LOCK):
            idle += WORK[action].minutes
        seen.add(action)
    return idle


def missed(truth: Truth, run: PracticeRun, job: Job) -> tuple[str, ...]:
    """Return the faults that are hidden in the corner still, in words: a lock that was reached all the same sits on them."""
    held = bool(job.trials) and (job.trials[-1].rotor_nuts or 0) >= NUTS
    read_again = ("reading", *(("seat",) if held else ()))
    text = dict(zip(truth.faults, truth.sentences()))
    return tuple(text[fault] for fault in truth.faults if fault not in run.done and fault not in read_again)


def lucky(job: Job) -> tuple[int, ...]:
    """Return the trials, counted from 1, whose move was made with a gap unread or readings that contradict each other."""
    return tuple(
        number
        for number, trial in enumerate(job.trials[:-1], 1)
        if sum(_read(trial, name) for name in GAP_NAMES) < len(GAP_NAMES) or pose_of(job, trial).against
    )


def _read(trial: Trial, name: str) -> bool:
    return counts(trial, name)

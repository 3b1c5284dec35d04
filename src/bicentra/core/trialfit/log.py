"""Where a corner's trials have come to: not tried, trying, centred, locked; and what a lock rests on."""

from collections.abc import Mapping
from enum import StrEnum
from hashlib import sha256

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import kind_of
from bicentra.core.parts.fields import Described
from bicentra.core.parts.job import Job
from bicentra.core.parts.materials import ASSUMED
from bicentra.core.parts.trial import Trial

RESTS_ON = ("hub", "knuckle", "rotor", "caliper", "fit", "bracket", "survey", "wheel")
"""What a lock rests on, by its name in the job."""
WORDS = {
    "hub": "the hub's sizes", "knuckle": "the knuckle's sizes", "rotor": "the rotor", "caliper": "the caliper",
    "fit": "how the parts are put together", "bracket": "the bracket", "survey": "the survey", "wheel": "the wheel",
}  # fmt: skip
ALWAYS = ("hub", "knuckle", "rotor", "caliper", "fit", "bracket")
NOT_KEPT = "what the lock rests on was taken out of the file"
"""What every lock ever set keeps a mark of, and what is said of one that does not: it proves nothing any more."""
LEAST_NUTS = 2
SINCE = (
    ", through_holes=None, through_hole_mm=None, slots=None, slot_wide_mm=None, slot_deep_mm=None", ", obstacles_none=False",
    ", assembled=False", ", where='bench'", ASSUMED,
)  # fmt: skip
"""What a record's text has more, where none of it is stated, than when earlier versions made marks of it."""


class CornerState(StrEnum):
    """How far the trial fit of a corner has come."""

    NOT_TRIED = "not tried"
    TRYING = "trying"
    CENTRED = "centred"
    LOCKED = "locked"


class LockItem(Record, frozen=True):
    """One thing a lock needs, in words, and whether it is there. ``place``: the field of the trial it is put into,
    ``gaps`` for the four gaps, or ``finding:`` and the id of what says no.
    """

    text: str
    place: str
    done: bool


class Standing(Record, frozen=True):
    """How far a corner has come, what its lock needs, and why a lock that was set does not hold any more."""

    state: CornerState
    needs: tuple[LockItem, ...] = ()
    broken: tuple[str, ...] = ()

    @property
    def missing(self) -> tuple[str, ...]:
        """What is missing for its lock, in words."""
        return tuple(item.text for item in self.needs if not item.done)


def prints_of(job: Job) -> dict[str, str]:
    """Return a short mark of everything a lock rests on, by name: it is another one as soon as a number of it changes.

    Only what is stated goes into it, so that a version that asks for one number more breaks no lock.
    """
    return {name: _mark(repr(_stated(held))) for name, held in _held(job)}


def holds(job: Job, trial: Trial) -> bool:
    """Tell whether a trial is locked, and nothing its lock rests on has changed since."""
    return trial.locked and not broken_by(job, trial)


def broken_by(job: Job, trial: Trial) -> tuple[str, ...]:
    """Return what has changed since a trial was locked, in words; marks as earlier versions wrote them still count."""
    now, before = prints_of(job), {name: _mark(_as_before(repr(held))) for name, held in _held(job)}
    changed = [name for name in RESTS_ON if name in trial.lock and trial.lock[name] not in (now[name], before[name])]
    lacks = (NOT_KEPT,) if any(name not in trial.lock for name in ALWAYS) else ()
    return (*(WORDS[name] for name in changed), *lacks)


def _as_before(text: str) -> str:
    for more in SINCE:
        text = text.replace(more, "")
    return text


def _held(job: Job) -> list[tuple[str, object]]:
    """Return what a lock rests on, by its name; that somebody looked round changes nothing on the car."""
    job = replace(job, knuckle=replace(job.knuckle, obstacles_none=False))
    return [(name, job.survey.get(job.corner) if name == "survey" else getattr(job, name)) for name in RESTS_ON]


def _mark(text: str) -> str:
    return sha256(text.encode()).hexdigest()[:12]


def _stated(thing: object) -> object:
    """Return a record as what of it is not as it is when nobody says anything, in plain lists and maps."""
    if isinstance(thing, Described):
        shown = ((of.name, of.default, getattr(thing, of.name)) for of in thing.described.values())
        return {name: _stated(value) for name, usual, value in shown if value != usual}
    if isinstance(thing, Mapping):
        return {str(name): _stated(thing[name]) for name in sorted(thing, key=str)}
    return [_stated(one) for one in thing] if isinstance(thing, tuple | list) else thing


def standing_of(job: Job, trial: Trial | None, findings: tuple[Finding, ...]) -> Standing:
    """Return how far a corner has come with its last trial. ``findings``: what is asked of that trial."""
    if trial is None:
        return Standing(CornerState.NOT_TRIED, (LockItem("a trial: put it on dry and read the gaps", "", False),))
    needs = lock_list(job, trial, findings)
    broken = broken_by(job, trial) if trial.locked else ()
    if trial.locked and not broken and all(item.done for item in needs):
        return Standing(CornerState.LOCKED, needs)
    here = [finding.verdict for finding in findings if kind_of(finding.id).centres]
    centred = trial.hub == "this hub" and bool(here) and all(verdict is Verdict.OK for verdict in here)
    return Standing(CornerState.CENTRED if centred else CornerState.TRYING, needs, broken)


READ_BY = {
    "trial-readings": "gaps", "trial-offset": "gaps", "trial-tilt": "gaps", "trial-tip-gap": "tip_gap_mm", "trial-turn": "turned",
    "trial-runout": "runout_mm", "trial-float": "float new",
}  # fmt: skip
"""Where what a finding lacks is put in, by its id."""


def lock_list(job: Job, trial: Trial, findings: tuple[Finding, ...]) -> tuple[LockItem, ...]:
    """Return everything a lock needs, with what is there already. ``findings``: what is asked of the trial."""
    other = "a trial on this hub: one on another of its type proves nothing here"
    here = trial.hub == "this hub"
    rows = [LockItem("tried on this hub" if here else other, "hub", here)]
    rows += [_finding_item(finding) for finding in findings]
    stacks = (trial.shims_mm, trial.ear_shims_mm)
    measured = not any(None in side for leaves in stacks for side in leaves.sides)
    rows += [
        LockItem(
            "the rotor held by two nuts or more", "rotor_nuts", trial.rotor_nuts is not None and trial.rotor_nuts >= LEAST_NUTS
        ),
        LockItem("every bolt tight, as it will stay", "bolts", trial.bolts == "tight"),
        LockItem("the final washers in: one left out changes the stack", "washers_final", bool(trial.washers_final)),
        LockItem("how the bolts are locked", "locker", bool(trial.locker.strip())),
        LockItem("how tight they are, and in which state of thread", "tightened", bool(trial.tightened.strip())),
        LockItem("the thickness of every shim: a lost one could not be replaced", "shims", measured),
    ]  # fmt: skip
    if job.caliper.action == "floating":
        pushed = {one.pads for one in trial.floated}
        place = "float worn" if "new" in pushed else "float new"
        rows.append(LockItem("its free travel with new and with worn pads", place, pushed == {"new", "worn"}))
    return tuple(rows)


def _finding_item(finding: Finding) -> LockItem:
    """Return whether what one finding asks is met, as far as a lock needs it."""
    title = f"{finding.title[0].lower()}{finding.title[1:]}"
    if finding.verdict is Verdict.UNKNOWN:
        return LockItem(f"{title}: still unknown", READ_BY.get(finding.id, f"finding:{finding.id}"), False)
    if finding.verdict is Verdict.STOP:
        return LockItem(f"{title}: stop", f"finding:{finding.id}", False)
    unsure = finding.verdict is Verdict.CAUTION and kind_of(finding.id).centres
    return LockItem(f"{title}: not for certain" if unsure else title, f"finding:{finding.id}", not unsure)

"""What to do next at the car: one sentence, and what doing it means. The same on the bench and in a practice corner."""

from collections.abc import Callable
from typing import Literal

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import GAP_INSTRUMENTS, GAP_NAMES, GAPS, Trial
from bicentra.core.trialfit.fit import Move, TrialFit
from bicentra.core.trialfit.log import LEAST_NUTS, CornerState, LockItem
from bicentra.core.trialfit.pose import pose_of
from bicentra.core.trialfit.set_up import (
    ABOUT_OFFSET,
    ABOUT_REPEATING,
    ABOUT_TILT,
    BEFORE_LOCK,
    INSPECTIONS,
    before_text,
    counts,
)

Kind = Literal[
    "begin", "read", "again", "set", "inspect", "look", "move", "unequal", "stock", "finding", "lock", "done"
]
FAR_MM = 1.0
"""Further off the drawing than this nobody shims before looking for the reason: common practice."""
READ_WORDS = {
    "tip_gap_mm": "Measure the tip gap by feeler",
    "runout_mm": "Measure the rotor's runout under an indicator, over a full turn",
    "turned": "Turn the wheel slowly by hand, once round, and listen",
}


class Advice(Record, frozen=True):
    """What to do next. ``kind``: what doing it means; ``target``: the reading, field, inspection or finding it is about."""

    sentence: str
    kind: Kind
    target: str = ""


def next_advice(job: Job, fit: TrialFit | None, move: Move | None) -> Advice:
    """Return what to do next with the last trial of ``job``. ``move``: the change of shims that is looked at, if any."""
    if fit is None:
        return Advice("Put it on dry, bolts tight, rotor held by its nuts, and begin a trial.", "begin")
    if fit.standing.state is CornerState.LOCKED:
        return Advice("Locked: this corner is done.", "done")
    steps: tuple[Callable[[Job, TrialFit, Move | None], Advice | None], ...] = (
        _reading, _contradiction, _unfollowed, _shimming, _stopped, _before_lock,
    )  # fmt: skip
    found = (step(job, fit, move) for step in steps)
    return next((one for one in found if one is not None), Advice("All is there: lock it.", "lock"))


def next_reading(trial: Trial) -> str:
    """Return the gap that is read next, ``station_spacing_mm`` after the last; empty where all are there and count."""
    blank = next((name for name in GAPS if not counts(trial, name)), "")
    return blank or ("" if trial.station_spacing_mm is not None else "station_spacing_mm")


def _reading(job: Job, fit: TrialFit, move: Move | None) -> Advice | None:
    """Ask for the next number to read: held as it should be first, and again what is from before."""
    del move
    trial, name = fit.trial, next_reading(fit.trial)
    if not name:
        return None
    if name not in GAPS:
        return Advice("Measure how far apart the two ends are that the gaps are read at.", "read", name)
    if trial.rotor_nuts is not None and trial.rotor_nuts < LEAST_NUTS:
        text = "Hold the rotor with two nuts or more before you read: one alone lets it stand off its hub."
        return Advice(text, "set", "rotor_nuts")
    before = before_text(job, trial, name)
    if before:
        return Advice(f"Read the gap at the {GAP_NAMES[name]} again: read before that ({before}).", "read", name)
    return Advice(f"Read the gap at the {GAP_NAMES[name]}.", "read", name)


def _contradiction(job: Job, fit: TrialFit, move: Move | None) -> Advice | None:
    """Ask again for what is doubted; where that was done and helped nothing, what makes readings move."""
    del job, move
    if not fit.doubted:
        return None
    text, trial = fit.pose.against[0].text, fit.trial
    sizes = any(name not in GAPS for name in fit.pose.doubted)
    if sizes and not trial.again:
        return Advice(f"{text} First read all four once more.", "again")
    if sizes and not _is_checked(trial, "sizes"):
        return Advice(f"{text} {INSPECTIONS['sizes']}.", "inspect", "sizes")
    for name in fit.pose.doubted:
        if name in GAPS and name not in trial.again:
            return Advice(text, "read", name)
    looks = _unchecked(fit.trial, ABOUT_REPEATING)
    if looks:
        return Advice(
            f"The readings do not repeat: something moves between them. {INSPECTIONS[looks]}.", "inspect", looks
        )
    return Advice(f"{text} Nothing that was looked at explains it: read all four again.", "again")


def _unfollowed(job: Job, fit: TrialFit, move: Move | None) -> Advice | None:
    """Look for the reason where the last change of shims did not do what it should."""
    del job, move
    if fit.followed is None or fit.followed.follows:
        return None
    for reason in fit.followed.reasons:
        if reason.shown_by == "again" and not fit.trial.again:
            return Advice("The shims did not move it as they should: read all four gaps again.", "again")
        if reason.shown_by in INSPECTIONS and reason.shown_by not in fit.trial.checked:
            text = (
                f"The shims did not move it as they should. Likeliest: {reason.text}. {INSPECTIONS[reason.shown_by]}."
            )
            return Advice(text, "inspect", reason.shown_by)
    return None


def _shimming(job: Job, fit: TrialFit, move: Move | None) -> Advice | None:
    """Say which shims, once what would make them a mistake has been looked at."""
    if fit.settled:
        return None
    if _is_lost(fit.trial) and not _is_checked(fit.trial, "shims"):
        text = "One of the shims has not been measured: it could not be replaced."
        return Advice(f"{text} {INSPECTIONS['shims']}.", "inspect", "shims")
    apart = next((finding for finding in fit.findings if finding.id == "trial-drawn"), None)
    far = apart is not None and is_known(apart.value) and apart.verdict is Verdict.CAUTION and apart.value > FAR_MM
    look = _unchecked(fit.trial, ABOUT_OFFSET) if far else ""
    if look:
        off = job.lengths.gap(apart.value if apart else 0.0)
        text = f"The caliper sits {off} from where the drawing puts it: find out why first."
        return Advice(f"{text} {INSPECTIONS[look]}.", "inspect", look)
    tilted = is_known(fit.pose.tilt.value) and abs(fit.pose.tilt.value) > fit.limits.tilt
    look = _unchecked(fit.trial, ABOUT_TILT) if tilted else ""
    if look:
        text = _turned_text(job, fit) or "Shims would only hide the reason."
        text = f"It is tilted by {abs(fit.pose.tilt.value):.2f}°. {text}"
        if text.endswith(ROTORS_OWN) and not _is_checked(fit.trial, "lip"):
            look = "lip"
        return Advice(f"{text} {INSPECTIONS[look]}.", "inspect", look)
    if move is not None and not move.stays:
        return Advice(f"{move.steps[0]}." if move.steps else "Put these shims in.", "move")
    if fit.within:
        return None
    if fit.trial.school == "equal" and tilted:
        text = "The tilt is real: allow unequal shims at the two bolts, or face the lug that stands off."
        return Advice(text, "unequal")
    look = _unchecked(fit.trial, ABOUT_OFFSET)
    if look:
        text = "No shims that lie ready bring it within limits: find out why before anything is cut."
        return Advice(f"{text} {INSPECTIONS[look]}.", "inspect", look)
    if fit.alternatives:
        return Advice(f"{fit.alternatives[0].action}.", "look")
    return Advice("No shims that lie ready help: add what you have to the box.", "stock")


ROTORS_OWN = "The tilt turned with the rotor: it is the rotor's own."


def _turned_text(job: Job, fit: TrialFit) -> str:
    """Return what turning the rotor half a turn told of a tilt, in words; empty where that was not what was done last."""
    before = job.trials[-2] if len(job.trials) > 1 else None
    if before is None or "turn" in before.checked or "turn" not in fit.trial.checked:
        return ""
    then, now = pose_of(job, before).tilt.value, fit.pose.tilt.value
    if not is_known(then, now):
        return ""
    return ROTORS_OWN if then * now < 0.0 else "The tilt stayed when the rotor was turned: it is not the rotor's."


STOPS = {"trial-turn": "weight", "trial-runout": "lip"}
"""What is looked at first for a finding that stops a caliper which sits where it should."""


def _stopped(job: Job, fit: TrialFit, move: Move | None) -> Advice | None:
    """Say what stops a corner whose caliper sits where it should."""
    del job, move
    for finding in fit.findings:
        if finding.verdict is Verdict.STOP:
            return _of_stop(fit, finding)
        if finding.verdict is Verdict.CAUTION and finding.id == "trial-runout" and not _is_checked(fit.trial, "lip"):
            return Advice(f"{finding.why} {INSPECTIONS['lip']}.", "inspect", "lip")
    return None


def _of_stop(fit: TrialFit, finding: Finding) -> Advice:
    look = STOPS.get(finding.id, "")
    if look and not _is_checked(fit.trial, look):
        text = finding.why if finding.id != "trial-turn" else f"{finding.why} If it is a wheel weight:"
        return Advice(f"{text} {INSPECTIONS[look]}.", "inspect", look)
    return Advice(finding.why, "finding", finding.id)


def _before_lock(job: Job, fit: TrialFit, move: Move | None) -> Advice | None:
    """Say what the lock still needs, then what is looked at once before it."""
    del move
    missing = [item for item in fit.standing.needs if not item.done]
    missing.sort(key=lambda item: item.place != "shims")  # bolts and stacks cannot be judged before
    for item in missing:
        if item.place != "finding:trial-follow":
            return _of_item(job, fit, item)
    look = _unchecked(fit.trial, BEFORE_LOCK)
    return (
        Advice(f"Before the lock: {INSPECTIONS[look][0].lower()}{INSPECTIONS[look][1:]}.", "inspect", look)
        if look
        else None
    )


def _of_item(job: Job, fit: TrialFit, item: LockItem) -> Advice:
    if item.place in READ_WORDS:
        before = before_text(job, fit.trial, item.place)
        text = f" again: read before that ({before})" if before else ""
        return Advice(f"{READ_WORDS[item.place]}{text}.", "read", item.place)
    if item.place == "shims" and not _is_checked(fit.trial, "shims"):
        return Advice(f"For the lock: {item.text}. {INSPECTIONS['shims']}.", "inspect", "shims")
    if item.place in UNSURE and item.text.endswith("not for certain"):
        return _of_unsure(fit, item)
    kind: Kind = "finding" if item.place.startswith("finding:") else "set"
    return Advice(f"For the lock: {item.text}.", kind, item.place.removeprefix("finding:"))


UNSURE = ("finding:trial-offset", "finding:trial-tilt", "finding:trial-lean", "finding:trial-readings")


def _of_unsure(fit: TrialFit, item: LockItem) -> Advice:
    """Return what makes a caliper surely centred that is so by a hair only: a finer instrument, unequal shims, reading again."""
    finest = min(GAP_INSTRUMENTS.values())
    if fit.trial.gap_sd > finest:
        return Advice(f"For the lock: {item.text}. Take a finer instrument, and say which.", "set", "instrument")
    if fit.trial.school == "equal" and item.place == "finding:trial-tilt":
        return Advice(f"For the lock: {item.text}. Allow unequal shims at the two bolts to take it out.", "unequal")
    return Advice(f"For the lock: {item.text}. Read all four gaps again.", "again")


def _unchecked(trial: Trial, names: tuple[str, ...]) -> str:
    """Return the first of these inspections that nobody has made; empty where all were."""
    return next((name for name in names if name not in trial.checked), "")


def _is_lost(trial: Trial) -> bool:
    """Tell whether a shim of unknown thickness lies in one of the stacks."""
    return any(None in side for leaves in (trial.shims_mm, trial.ear_shims_mm) for side in leaves.sides)


def _is_checked(trial: Trial, name: str) -> bool:
    return name in trial.checked

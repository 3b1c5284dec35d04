"""How a corner was set up when it was read, which readings are from before a change, and what is looked at when a trial
comes out wrong.
"""

from collections.abc import Mapping

from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import GAPS, Gaps, ReadBefore, Trial

SET_UP = ("rotor_nuts", "bolts", "washers_final", "pads", "rotor_plate_mm")
"""What a reading depends on besides the shims."""
DEPENDS: dict[str, tuple[str, ...]] = {
    **dict.fromkeys(GAPS, SET_UP), "deep_gaps_mm": SET_UP, "parting_line_mm": SET_UP, "turned": SET_UP,
    "tip_gap_mm": ("bolts", "washers_final"), "pad_top_mm": ("bolts", "washers_final"),
    "runout_mm": ("rotor_nuts", "rotor_plate_mm"),
}  # fmt: skip
"""What each reading depends on."""
WORDS = {
    "rotor_nuts": "the rotor's nuts", "bolts": "the bolts", "washers_final": "the final washers", "pads": "the pads",
    "rotor_plate_mm": "the rotor spacer",
}  # fmt: skip


def is_read(trial: Trial, name: str) -> bool:
    """Tell whether a reading called ``name`` stands in ``trial``, as it is now or from before something was changed."""
    if name in GAPS:
        return getattr(trial.gaps_mm, name) is not None or name in trial.bands_mm
    if name == "deep_gaps_mm":
        return any(getattr(trial.deep_gaps_mm, gap) is not None for gap in GAPS)
    return getattr(trial, name) not in (None, "")


def counts(trial: Trial, name: str) -> bool:
    """Tell whether a reading stands in ``trial`` and nothing was changed since."""
    return is_read(trial, name) and name not in trial.read_before


def with_set_up(job: Job, trial: Trial, name: str, value: object) -> Trial:
    """Return ``trial`` with ``name`` of its set-up changed: what was read before no longer counts; changed back, it does."""
    old, new = _stated(job, trial, name), value if name != "rotor_plate_mm" or value is not None else _spacer(job)
    later = replace(trial, **{name: value})
    if old in (None, "") or old == new:
        return later
    marks = dict(trial.read_before)
    for reading, fields in DEPENDS.items():
        if name in fields and is_read(trial, reading):
            mark = marks.get(reading, ReadBefore())
            then = getattr(mark, name)
            if then in (None, ""):
                marks[reading] = replace(mark, **{name: old})
            elif then == new:
                marks[reading] = replace(mark, **{name: getattr(ReadBefore(), name)})
    return replace(later, read_before=_real(marks))


def with_work_done(trial: Trial, text: str) -> Trial:
    """Return ``trial`` once something was found or changed on the car, ``text`` in words: what was read is from before."""
    marks = dict(trial.read_before)
    for reading in DEPENDS:
        if is_read(trial, reading):
            marks[reading] = replace(marks.get(reading, ReadBefore()), done=text[:200])
    return replace(trial, read_before=marks)


def with_reading(trial: Trial, name: str, value: object) -> Trial:
    """Return ``trial`` with a reading taken as it is set up now: a gap [mm], or another reading by its name in the trial."""
    marks = {key: mark for key, mark in trial.read_before.items() if key != name}
    if name not in GAPS:
        return replace(trial, read_before=marks, **{name: value})
    bands = {key: band for key, band in trial.bands_mm.items() if key != name}
    again = trial.again
    if counts(trial, name) and name not in again:
        again = (*again, name)
    return replace(
        trial, gaps_mm=replace(trial.gaps_mm, **{name: value}), bands_mm=bands, read_before=marks, again=again
    )


def without_gaps(trial: Trial) -> Trial:
    """Return ``trial`` with its four gaps blank, to be read again."""
    marks = {key: mark for key, mark in trial.read_before.items() if key not in GAPS}
    return replace(trial, gaps_mm=Gaps(extra=trial.gaps_mm.extra), bands_mm={}, read_before=marks, again=GAPS)


def as_it_was(trial: Trial) -> Trial:
    """Return ``trial`` whose readings were taken as it is set up now: what seemed a change was a slip of the hand."""
    return replace(trial, read_before={})


def in_force(trial: Trial) -> Trial:
    """Return ``trial`` without the readings from before something was changed: what may be judged by."""
    if not trial.read_before:
        return trial
    old = [name for name in trial.read_before if name in DEPENDS]
    blank, gaps = Trial(), [name for name in old if name in GAPS]
    bare = {name: getattr(blank, name) for name in old if name not in GAPS}
    bands = {key: band for key, band in trial.bands_mm.items() if key not in gaps}
    return replace(trial, gaps_mm=replace(trial.gaps_mm, **dict.fromkeys(gaps)), bands_mm=bands, **bare)


def before_text(job: Job, trial: Trial, name: str) -> str:
    """Return what was changed since a reading was taken, in words; empty where nothing was."""
    mark = trial.read_before.get(name)
    if mark is None:
        return ""
    text = [mark.done.rstrip(".")] if mark.done else []
    for part in SET_UP:
        then = getattr(mark, part)
        if then not in (None, ""):
            now = _shown(_stated(job, trial, part), job.lengths)
            text.append(f"{WORDS[part]} changed from {_shown(then, job.lengths)} to {now}")
    return "; ".join(text) or "something was changed"


def _stated(job: Job, trial: Trial, name: str) -> object:
    value = getattr(trial, name)
    return _spacer(job) if name == "rotor_plate_mm" and value is None else value


def _spacer(job: Job) -> float:
    return job.fit.rotor_spacer_mm or 0.0


def _real(marks: Mapping[str, ReadBefore]) -> dict[str, ReadBefore]:
    return {name: mark for name, mark in marks.items() if mark != ReadBefore()}


def _shown(value: object, lengths: LengthFormat) -> str:
    if value in (None, ""):
        return "not stated"
    if isinstance(value, bool):
        return "in" if value else "not in"
    return lengths.gap(value) if isinstance(value, float) else str(value)


INSPECTIONS = {
    "heads": "Look under the bolts' heads",
    "ears": "Start every bolt by hand, and measure the ears' spacing",
    "clean": "Clean and stone every face",
    "turn": "Turn the rotor half a turn on its studs",
    "shims": "Measure every shim",
    "sizes": "Measure slot width and rotor thickness again",
    "side": "Look on which side of the lugs the bracket lies",
    "rotor": "Measure the rotor's height",
    "lugs": "Measure the lugs' faces again",
    "seal": "Try the hub once without its seal",
    "lip": "Take the rotor off and look into its hat",
    "weight": "Move the wheel weights to the other flange",
    "hands": "Look where bleed screws and large pistons lie",
    "fouls": "Push it by hand as far as worn pads let it",
}
"""What can be looked at, by name, as it is said."""
BEFORE_LOCK = ("heads", "ears", "hands", "fouls")
"""What is looked at once before a corner is locked: quick, and what it finds cannot be seen in any gap."""
ABOUT_OFFSET = ("shims", "rotor", "lugs")
"""What is looked at where the caliper sits far from where the drawing puts it, quick things first."""
ABOUT_TILT = ("ears", "clean", "turn", "lugs")
"""What is looked at before a tilt is shimmed away."""
ABOUT_REPEATING = ("heads", "seal")
"""What is looked at where readings do not repeat."""

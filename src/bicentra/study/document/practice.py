"""A practice corner to open: the demo's corner, its faults cured, with something hidden behind a seed; and results over time."""

import os
from datetime import date
from pathlib import Path

import msgspec

from bicentra.core.base.finding import Edit
from bicentra.core.base.records import replace
from bicentra.core.parts.corners import vehicle_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.practice import PracticeRun
from bicentra.core.parts.vehicle import Vehicle
from bicentra.core.practice.corner import begin_corner
from bicentra.core.practice.truth import truth_of
from bicentra.study.document.starting import demo_job
from bicentra.study.document.store import write_atomic

CURED: tuple[Edit, ...] = (
    ("survey", {}), ("trials", ()), ("bracket.thickness_mm", None), ("bracket.shims_mm", (0.0, 0.0)),
    ("bracket.caliper_bolt_length_mm", None), ("bracket.lug_bolt_length_mm", 35.0), ("caliper.slot_width_mm", 26.0),
    ("photos", ()), ("issued", ()),
)  # fmt: skip
"""What makes the demo's corner one to practise on: no fault of its own, bolts long enough for any stack, a slot wide enough for a
caliper that sits far off."""
MOST_RESULTS = 500


def practice_base() -> Job:
    """Return the corner that is practised on, nothing hidden in it yet."""
    return replace(with_edits(demo_job(), CURED), practice=True, opposite=None)


def practice_vehicle(seed: int, level: int) -> Vehicle:
    """Return practice corner ``seed`` at ``level`` [no unit], ready to be opened."""
    job = begin_corner(practice_base(), truth_of(seed, level))
    notes = "A simulated corner: nothing of it was measured on a car."
    return vehicle_of(replace(job, title=f"Practice corner {seed}, level {level}", notes=notes))


class Result(msgspec.Struct, frozen=True):
    """How a practice corner was done: minutes, those of the careful way, changes of shims; locked, or given up."""

    seed: int
    level: int
    minutes: float
    par: float
    moves: int
    done: str
    locked: bool | None = None


def results_file() -> Path:
    """Return where this user's results are kept."""
    home = os.environ.get("XDG_STATE_HOME") or str(Path.home() / ".local" / "state")
    return Path(home) / "bicentra" / "practice.json"


def results() -> tuple[Result, ...]:
    """Return what this user has practised so far, oldest first; nothing where the file is not there or no use."""
    try:
        return msgspec.json.decode(results_file().read_bytes(), type=tuple[Result, ...])
    except (OSError, msgspec.DecodeError, msgspec.ValidationError):
        return ()


def keep_result(run: PracticeRun, par: float, today: date | None = None) -> None:
    """Add a run that has ended to this user's results."""
    made = Result(
        run.seed, run.level, run.minutes, par, run.moves, (today or date.today()).isoformat(), not run.given_up
    )
    path = results_file()
    path.parent.mkdir(parents=True, exist_ok=True)
    write_atomic(path, msgspec.json.encode((*results(), made)[-MOST_RESULTS:]))

"""The log of all trials as CSV: one trial a row, lengths in mm, angles in degrees."""

import csv
import io

from bicentra.core.base.errors import ExportError
from bicentra.core.base.numbers import is_known
from bicentra.core.parts.trial import GAPS
from bicentra.core.solution import Solution
from bicentra.core.trialfit.pose import pose_of
from bicentra.core.trialfit.shim_station import PLACES, stacks_at
from bicentra.formats.cells import safe_cell

HEADING = (
    "trial", "taken", "by", "hub", *(f"{name}_mm" for name in GAPS), "station_spacing_mm", "offset_mm", "tilt_deg", "lug_first_mm",
    "lug_second_mm", "ear_first_mm", "ear_second_mm", "rotor_plate_mm", "tip_gap_mm", "runout_mm", "turned", "rotor_nuts", "bolts",
    "washers_final", "tightened", "locker", "locked", "parts", "notes", "read_before", "checked", "contradictions",
)  # fmt: skip


def trial_csv(solution: Solution) -> bytes:
    """Return every trial of the corner; an unmeasured shim stands as ``?``. Raises ``ExportError`` where there is none."""
    if not solution.job.trials:
        raise ExportError("no trial is noted at this corner")
    stream = io.StringIO()
    writer = csv.writer(stream, lineterminator="\r\n")
    writer.writerow(HEADING)
    for number, trial in enumerate(solution.job.trials, 1):
        pose = pose_of(solution.job, trial)
        sides = (side for place in PLACES for side in stacks_at(trial, place).sides)
        stacks = [" + ".join("?" if thick is None else f"{thick:g}" for thick in side) for side in sides]
        gaps = [_number(getattr(trial.gaps_mm, name)) for name in GAPS]
        words = [safe_cell(text) for text in (trial.tightened, trial.locker)]
        writer.writerow((
            number, safe_cell(trial.taken), safe_cell(trial.by), trial.hub, *gaps,
            _number(trial.station_spacing_mm), _number(pose.offset.value), _number(pose.tilt.value), *stacks,
            _number(trial.rotor_plate_mm), _number(trial.tip_gap_mm), _number(trial.runout_mm), trial.turned,
            "" if trial.rotor_nuts is None else trial.rotor_nuts, trial.bolts,
            {None: "", True: "yes", False: "no"}[trial.washers_final], *words, "yes" if trial.locked else "no",
            safe_cell(trial.parts), safe_cell(trial.notes), safe_cell("; ".join(trial.read_before)),
            safe_cell("; ".join(trial.checked)), safe_cell(" ".join(one.text for one in pose.against)),
        ))  # fmt: skip
    return stream.getvalue().encode()


def _number(value: float | None) -> str:
    return f"{value:.6g}" if value is not None and is_known(value) else ""

"""Tables out: cells that a spreadsheet opens as words, the hole table, parts list, curves and log of trials."""

import csv
import io
from collections.abc import Iterable

from bicentra.core.base.errors import ExportError
from bicentra.core.base.numbers import is_known
from bicentra.core.base.wording import printable
from bicentra.core.drawing.sheets.imprint import cut_mark
from bicentra.core.drawing.sheets.parts_list import parts_list
from bicentra.core.drawing.sheets.plate import hole_table
from bicentra.core.evaluation.solution import Solution
from bicentra.core.heat.train import Hot
from bicentra.core.hydraulics.balance import ideal
from bicentra.core.hydraulics.pedal import PedalWork
from bicentra.core.parts.trial import GAPS
from bicentra.core.trialfit.pose import pose_of
from bicentra.core.trialfit.shim_station import PLACES, stacks_at

FORMULA = ("=", "+", "-", "@", "\t", "\r", "−", "＝", "＋", "－", "＠")


def safe_cell(text: str) -> str:
    """Return a word for a cell; numbers are not words and are written as they are."""
    shown = printable(text)
    return (
        f"'{shown}" if shown.startswith(FORMULA) or (shown.startswith("'") and shown[1:].startswith(FORMULA)) else shown
    )


def plain_cell(text: str) -> str:
    """Return what a cell said before ``safe_cell``."""
    return text[1:] if text.startswith("'") and text[1:].startswith((*FORMULA, "'")) else text


HOLE_HEADING = ("number", "name", "forward_mm", "up_mm", "drill_mm", "work", "state")


def plate_csv(solution: Solution) -> bytes:
    """Return the hole table; places are measured from the wheel axis, forward and up.

    ``state`` says in every row what keeps metal from being cut; it is empty where nothing does. Raises ``ExportError``."""
    stream, state = io.StringIO(), safe_cell(cut_mark(solution).line)
    writer = csv.writer(stream, lineterminator="\r\n")
    writer.writerow(HOLE_HEADING)
    for row in hole_table(solution):
        writer.writerow(
            (
                row.number,
                safe_cell(row.name),
                f"{row.x + 0.0:.3f}",
                f"{row.y + 0.0:.3f}",
                f"{row.drill:.2f}",
                safe_cell(row.note),
                state,
            )
        )
    return stream.getvalue().encode("utf-8")


PARTS_HEADING = ("kind", "count", "part", "size", "mass_kg", "note", "state")


def parts_list_csv(solution: Solution) -> bytes:
    """Return the parts list of the job's bracket family and everything beside it.

    ``state`` says in every row what keeps metal from being cut; it is empty where nothing does."""
    stream, state = io.StringIO(), safe_cell(cut_mark(solution).line)
    writer = csv.writer(stream, lineterminator="\r\n")
    writer.writerow(PARTS_HEADING)
    for item in parts_list(solution):
        mass = "" if item.mass_kg is None else f"{item.mass_kg:g}"
        words = [safe_cell(text) for text in (item.name, item.size, item.note)]
        writer.writerow((item.kind, item.count, *words[:2], mass, words[2], state))
    return stream.getvalue().encode()


FOOT_STEP_N, MOST_FOOT_N = 10, 1000
PEDAL = (
    "foot_n", "decel_g", "front_bar", "rear_bar", "front_road_n", "rear_road_n", "ideal_front_n", "ideal_rear_n", "front_grip_used",
    "rear_grip_used",
)  # fmt: skip
HEAT = ("stop", "front_c", "rear_c")


def pedal_csv(work: PedalWork) -> bytes:
    """Return pressure, force at the road, ideal force and grip used per axle over the foot force, every 10 N up to 1000."""
    rows = []
    for foot in range(0, MOST_FOOT_N + 1, FOOT_STEP_N):
        state = work.chain.at(float(foot))
        loads, best = work.chain.body.loads(state.decel), ideal(work.chain.body, state.decel)
        used = (road / load if load > 0.0 else float("nan") for road, load in zip(state.road, loads))
        rows.append(
            (foot, *map(_number, (state.decel, *(line * 10.0 for line in state.line), *state.road, *best, *used)))
        )
    return _table(PEDAL, rows)


def heat_csv(hot: Hot) -> bytes:
    """Return the peak of both ends after every stop [°C]."""
    ends = zip(hot.front.peaks, hot.rear.peaks)
    return _table(HEAT, ((number, *map(_number, peaks)) for number, peaks in enumerate(ends, 1)))


def _table(heading: tuple[str, ...], rows: Iterable[tuple[object, ...]]) -> bytes:
    stream = io.StringIO()
    writer = csv.writer(stream, lineterminator="\r\n")
    writer.writerow(heading)
    writer.writerows(rows)
    return stream.getvalue().encode()


def _number(value: float) -> str:
    return f"{value:.6g}" if is_known(value) else ""


TRIAL_HEADING = (
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
    writer.writerow(TRIAL_HEADING)
    for number, trial in enumerate(solution.job.trials, 1):
        pose = pose_of(solution.job, trial)
        sides = (side for place in PLACES for side in stacks_at(trial, place).sides)
        stacks = [" + ".join("?" if thick is None else f"{thick:g}" for thick in side) for side in sides]
        gaps = [_trial_number(getattr(trial.gaps_mm, name)) for name in GAPS]
        words = [safe_cell(text) for text in (trial.tightened, trial.locker)]
        writer.writerow((
            number, safe_cell(trial.taken), safe_cell(trial.by), trial.hub, *gaps,
            _trial_number(trial.station_spacing_mm), _trial_number(pose.offset.value), _trial_number(pose.tilt.value), *stacks,
            _trial_number(trial.rotor_plate_mm), _trial_number(trial.tip_gap_mm), _trial_number(trial.runout_mm), trial.turned,
            "" if trial.rotor_nuts is None else trial.rotor_nuts, trial.bolts,
            {None: "", True: "yes", False: "no"}[trial.washers_final], *words, "yes" if trial.locked else "no",
            safe_cell(trial.parts), safe_cell(trial.notes), safe_cell("; ".join(trial.read_before)),
            safe_cell("; ".join(trial.checked)), safe_cell(" ".join(one.text for one in pose.against)),
        ))  # fmt: skip
    return stream.getvalue().encode()


def _trial_number(value: float | None) -> str:
    return f"{value:.6g}" if value is not None and is_known(value) else ""

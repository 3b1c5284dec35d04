"""The curves of pedal and heat as CSV: what the diagrams show, for whoever draws them elsewhere."""

import csv
import io
from collections.abc import Iterable

from bicentra.core.base.numbers import is_known
from bicentra.core.heat.train import Hot
from bicentra.core.hydraulics.balance import ideal
from bicentra.core.hydraulics.pedal import PedalWork

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

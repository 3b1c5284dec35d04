"""What stands on the car against what is drawn: where the caliper should sit with the shims that lie there, and where it does."""

import math

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.registry import PRACTICE
from bicentra.core.bracket.stack_up import ear_shims
from bicentra.core.parts.trial import Trial
from bicentra.core.solution import Solution
from bicentra.core.trialfit.pose import Pose
from bicentra.core.trialfit.shim_station import ShimStation, stacks_at, total_of

SURE_SD, APART_MM = 3.0, 0.5
"""The drawing and the car disagree beyond so many standard uncertainties and so many millimetres: common practice, no source."""


def expected_offset(solution: Solution, trial: Trial, stations: tuple[ShimStation, ...]) -> float:
    """Return how far outboard of the rotor's middle the drawn bracket would hold the caliper with the shims of ``trial`` [mm].

    From the stack-up's own error, moved by what lies at lugs, ears and behind the rotor beyond what is drawn there.
    """
    job, stack_up = solution.job, solution.assembly.stack_up
    drawn = {"lug": _mean(stack_up.shims), "ear": _mean(ear_shims(job))}
    offset = stack_up.error
    for station in stations:
        if not station.radial and station.known:
            first, second = total_of(stacks_at(trial, station.place))
            offset += station.moved(first - drawn[station.place], second - drawn[station.place])[0]
    behind = known(job.fit.rotor_spacer_mm) if trial.rotor_plate_mm is None else trial.rotor_plate_mm
    return offset - (behind - known(job.fit.rotor_spacer_mm))


def _mean(shims: tuple[float, ...]) -> float:
    return math.fsum(shims) / len(shims) if shims else 0.0


def as_drawn(solution: Solution, trial: Trial, pose: Pose, stations: tuple[ShimStation, ...]) -> Finding:
    """Whether the caliper sits where the drawing puts it [mm]: else another plate is on the car, or a size was measured wrong."""
    lengths, expected = solution.job.lengths, expected_offset(solution, trial, stations)
    apart = pose.offset.value - expected
    if not is_known(apart):
        why = "The parts on the car cannot be compared with the drawing yet: needs the gaps at both ends, and a complete drawing."
        if pose.against:
            why = "The parts on the car cannot be compared with the drawing: the gaps contradict each other."
        return _finding(Verdict.UNKNOWN, UNKNOWN, why)
    sd = pose.offset.sd if is_known(pose.offset.sd) else 0.0
    if SURE_SD * sd > APART_MM and abs(apart) <= SURE_SD * sd:
        why = f"Too coarse to tell: these readings leave {lengths.gap(SURE_SD * sd)} either way. Read with a finer instrument."
        return _finding(Verdict.CAUTION, abs(apart), why)
    if abs(apart) <= APART_MM:
        return _finding(
            Verdict.OK, abs(apart), f"The caliper sits within {lengths.gap(apart)} of where the drawing puts it."
        )
    side = "outboard" if apart > 0 else "inboard"
    other = "inboard" if apart > 0 else "outboard"
    why = f"With these shims the drawing puts the caliper {lengths.gap(apart)} further {other} than it sits. "
    why += f"Another plate than the one drawn is on the car, or lug, ear or rotor height was measured {side} of where it is: "
    why += "measure the plate first, then type what is there, before a second part is cut from this drawing."
    return _finding(Verdict.CAUTION, abs(apart), why)


def _finding(verdict: Verdict, value: float, why: str) -> Finding:
    return Finding(
        "trial-drawn", verdict, value, APART_MM, "mm", why, features=("caliper",), source=PRACTICE, at_least=False
    )

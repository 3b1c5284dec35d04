"""How good a set is among sets of one verdict, and where a stopped one misses least, from what is known of it at many
clock angles.
"""

from collections.abc import Callable, Iterable, Mapping

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.finding import SLACK, Finding, Ranks
from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.records import Record
from bicentra.core.base.registry import kind_of
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.model import Bracket
from bicentra.core.bracket.turned import ear_centres
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.search.clock_invariant import ClockInvariantSet

Places = NDArray[np.intp]


class CaliperAlone(Record, frozen=True):
    """What is known of one set at n clock angles without a bracket: the best rank each can have, and values asked, (n,) each.

    ``surely_stopped`` tells (k,) at which of k places a bracket is stopped that need not be made to know it.
    """

    ranks: Ranks
    values: dict[str, FloatArray]
    surely_stopped: Callable[[Places], NDArray[np.bool_]]


class SweptSet(Record, frozen=True):
    """One set at n clock angles: rank of its verdict (0 stop to 3 met) and the values its score is made of, (n,) each.

    ``invariant`` are the findings that do not turn with the caliper, ``values`` those that do, nan where an angle was not
    asked any more.
    """

    assembly: Assembly
    ranks: Ranks
    invariant: tuple[Finding, ...]
    values: dict[str, FloatArray]


WEIGHTS = {
    "bleed screw high": 0.20, "wide ligaments": 0.15, "small plate": 0.10, "far from the knuckle": 0.10, "room in the wheel": 0.15,
    "few shims": 0.10, "centred": 0.10, "thin plate": 0.05, "nothing behind the rotor": 0.05,
}  # fmt: skip
WIDE_LIGAMENT_MM, FAR_MM, LARGE_PLATE_MM, THICK_MM, ROUNDING = 20.0, 10.0, 800.0, 40.0, 1e-9
"""Where each criterion counts as wholly met, or as not at all [mm]; what sums of scores may differ by in their last digits."""


TURNING = ("bleed screw high", "wide ligaments", "small plate", "far from the knuckle")
"""What depends on the clock angle; the rest is known before the caliper is turned."""


def criteria_met(sampled: SweptSet, places: Places, clock_rad: FloatArray) -> dict[str, FloatArray]:
    """Return how far each criterion is met, 0 to 1, at the angles at ``places``; what is unknown is not met."""
    known = _invariant_numbers(sampled.assembly.bracket, sampled.invariant)
    spread = {name: np.full(len(places), value if is_known(value) else 0.0) for name, value in known.items()}
    many = _turning(sampled.assembly, sampled.values, places, clock_rad)
    return {name: np.clip(np.nan_to_num(v, nan=0.0, posinf=1.0), 0.0, 1.0) for name, v in {**many, **spread}.items()}


def turning_score(
    assembly: Assembly, values: Mapping[str, FloatArray], places: Places, clock_rad: FloatArray, unasked: float = 0.0
) -> FloatArray:
    """Return the part of the score, 0 to 1, that depends on the clock angle, at the angles at ``places``.

    ``unasked``: what a criterion counts for whose value is unknown: 1 makes it the most the score can come to.
    """
    many = _turning(assembly, values, places, clock_rad)
    met = {name: np.clip(np.nan_to_num(v, nan=unasked, posinf=1.0), 0.0, 1.0) for name, v in many.items()}
    return np.asarray(sum(WEIGHTS[name] * met[name] for name in TURNING))


def _turning(
    assembly: Assembly, values: Mapping[str, FloatArray], places: Places, clock_rad: FloatArray
) -> dict[str, FloatArray]:
    nothing = np.full(int(places.max(initial=-1)) + 1, np.nan)
    knuckle, bracket = values.get("caliper-to-obstacle", nothing), values.get("bracket-to-obstacle", nothing)
    room = np.minimum(knuckle[places], bracket[places])
    lugs = np.array([hole.centre for hole in assembly.lug_holes]).reshape(-1, 2)
    centres = ear_centres(assembly, clock_rad)
    size = np.linalg.norm(centres[:, :, None, :] - lugs[None, None, :, :], axis=-1).sum(axis=(1, 2))
    return {
        "bleed screw high": 1 - values.get("bleeder-up", nothing)[places] / 90.0,
        "wide ligaments": values.get("ligament", nothing)[places] / WIDE_LIGAMENT_MM,
        "small plate": 1 - size / LARGE_PLATE_MM,
        "far from the knuckle": room / FAR_MM,
    }


def _invariant_numbers(bracket: Bracket, findings: Iterable[Finding]) -> dict[str, float]:
    """Return what is known of the criteria before the caliper is turned."""
    job, stack_up = bracket.job, bracket.stack_up
    limit, stack = limit_for(job, "axial-offset").stop, limit_for(job, "shim-stack").stop
    shims = max(stack_up.shims, default=UNKNOWN)
    return {
        "room in the wheel": next((f.value for f in findings if f.id == "wheel-room"), UNKNOWN) / FAR_MM,
        "few shims": 1 - shims / stack if stack > 0 else 0.0,
        "centred": 1 - abs(stack_up.worst_error) / limit if limit > 0 else 0.0,
        "thin plate": 1 - stack_up.thickness / THICK_MM,
        "nothing behind the rotor": 1.0 if job.fit.rotor_spacer_mm == 0 else 0.0,
    }


def best_score(invariant: ClockInvariantSet) -> float:
    """Return a score that the set cannot better at any clock angle: what depends on the angle counts as OK."""
    if invariant.angle_by_angle:
        return 1.0 + ROUNDING
    known = sum(
        WEIGHTS[name] * min(max(value, 0.0), 1.0)
        for name, value in _invariant_numbers(invariant.bracket, invariant.findings).items() if is_known(value)
    )  # fmt: skip
    return known + sum(WEIGHTS[name] for name in TURNING) + ROUNDING


def scores(granted: dict[str, FloatArray]) -> FloatArray:
    """Return the weighted sum of the wishes granted."""
    return np.asarray(sum(WEIGHTS[name] * granted[name] for name in WEIGHTS))


NEAR_MM = 3.0
"""What misses by more is no near miss: it is not looked at closer."""


def nearest_miss(job: Job, values: Mapping[str, FloatArray]) -> tuple[int, str] | None:
    """Return the place of the clock angle, and the finding, that misses least [mm] of those asked there: (n,) ``values`` each.

    ``None`` where nothing is known that misses by less than ``NEAR_MM``. What else stops that angle has not been asked.
    """
    found, least = None, NEAR_MM
    for id, row in values.items():
        kind = kind_of(id)
        if not kind.turns or kind.limit is None or not (limit := limit_for(job, id)).at_least or limit.unit != "mm":
            continue  # what turns is a room to something, or no length
        short = limit.stop - row
        short = np.where(np.isfinite(short) & (short > SLACK), short, np.inf)
        place = int(short.argmin())
        if short[place] < least:
            found, least = (place, id), float(short[place])
    return found

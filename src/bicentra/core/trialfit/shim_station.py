"""How shims move a caliper: where they lie along the slot, and which way each place acts.

A caliper on two stacks of shims is a rigid bar on two supports. With w along the slot from the trailing end to the
leading one, and stacks at w₁ and w₂ that rise by d₁ and d₂ outboard, its middle moves by (d₂w₁ − d₁w₂)/(w₁ − w₂) and
its slope by (d₁ − d₂)/(w₁ − w₂) (statics of a beam on two supports).
"""

import math
from typing import Literal

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.bracket.families.table import family_of
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import ShimStacks, Trial

Place = Literal["lug", "ear"]
PLACES: tuple[Place, ...] = ("lug", "ear")
PLACE_WORDS = {"lug": "between lug and bracket", "ear": "between bracket and ear"}


class ShimStation(Record, frozen=True):
    """How shims at one place act. ``at``: where the first and the second stack lie along the slot from the caliper's
    middle [mm], towards the leading end; ``sign``: +1 where a shim moves the caliper outboard, −1 inboard.
    ``radial``: it moves it away from the axle instead.
    """

    place: Place
    at: tuple[float, float]
    sign: float
    radial: bool = False

    @property
    def known(self) -> bool:
        """Whether it is known where the stacks lie."""
        return is_known(*self.at) and abs(self.at[0] - self.at[1]) > 1.0

    def shares(self) -> tuple[float, float]:
        """Return by how much a millimetre at the first and at the second stack moves the caliper's middle outboard [mm]."""
        one, other = self.at
        return -self.sign * other / (one - other), self.sign * one / (one - other)

    def turns(self) -> tuple[float, float]:
        """Return by how much a millimetre at each stack makes the trailing end stand further outboard, per mm along the slot."""
        one, other = self.at
        return -self.sign / (one - other), self.sign / (one - other)

    def wanted(self, offset: float, slope: float) -> tuple[float, float]:
        """Return by how much each stack has to grow [mm] to bring an offset [mm] and a slope [mm per mm] to nothing."""
        return tuple(-self.sign * (offset - slope * at) for at in self.at)  # type: ignore[return-value]

    def moved(self, first: float, second: float) -> tuple[float, float]:
        """Return how far the middle moves outboard [mm] and by how much the slope grows, for stacks that grow by ``first`` and
        ``second`` [mm]."""
        (a, b), (c, d) = self.shares(), self.turns()
        return a * first + b * second, c * first + d * second


def stations_of(job: Job, line: LineUp) -> tuple[ShimStation, ...]:
    """Return the places at which shims can go for the bracket of ``job``, the lugs first."""
    found = []
    kind, caliper = family_of(job), job.caliper
    radial_mount = caliper.mount == "radial"
    half = known(caliper.ear_spacing_mm) / 2
    if kind.on_lugs and job.knuckle.lugs:
        sign = 1.0 if job.bracket.side == "outboard" else -1.0
        if kind.straight:
            sign = 1.0 if caliper.ear_seat == "inboard" else -1.0
        found.append(ShimStation("lug", _lugs_at(job, line), sign))
    if not kind.straight:
        outward = 1.0 if caliper.ear_seat == "inboard" else -1.0
        found.append(ShimStation("ear", (half, -half), outward, radial_mount))
    return tuple(found)


def _lugs_at(job: Job, line: LineUp) -> tuple[float, float]:
    """Return where the lugs on the leading and on the trailing side lie along the slot [mm], several of a side at their
    middle.
    """
    across = [line.frame.into((known(lug.x_mm), known(lug.y_mm)))[1] for lug in job.knuckle.lugs]
    if not is_known(*across):
        half = known(job.caliper.ear_spacing_mm) / 2
        return half, -half
    middle = (max(across) + min(across)) / 2
    leading, trailing = [w for w in across if w > middle], [w for w in across if w <= middle]
    if not leading or not trailing:
        return UNKNOWN, UNKNOWN
    return math.fsum(leading) / len(leading), math.fsum(trailing) / len(trailing)


def stacks_at(trial: Trial, place: Place) -> ShimStacks:
    """Return the shims a trial has at a place."""
    return trial.shims_mm if place == "lug" else trial.ear_shims_mm


def total_of(leaves: ShimStacks) -> tuple[float, float]:
    """Return the height of both stacks [mm]; unknown where one of their shims is."""
    first, second = (math.fsum(known(thick) for thick in side) for side in leaves.sides)
    return first, second

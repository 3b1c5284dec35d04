"""Where a caliper sits on its rotor, from any of the readings a person has at the car, each with its uncertainty.

Gauss-Markov: the readings are linear in four numbers, the offset at the slot's middle, its slope along the slot (tilt about the
radial axis), its slope inwards (twist about the tangential one) and the slot less the rotor, which is an observation itself where
both were measured. Weighted least squares, by hand for a handful of rows (Ghilani, Adjustment Computations, from memory). What a
go/no-go reading tells is an interval: its middle, with the standard uncertainty of a uniform distribution (JCGM 100, 4.3.7).
"""

import math

import numpy as np

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import GAP_INSTRUMENTS, GAPS, Gaps, Trial
from bicentra.core.trialfit.contradictions import SLOT_SD_MM, Contradiction, contradictions, spare_of
from bicentra.core.trialfit.set_up import in_force

HEIGHT_SD_MM, TIP_SD_MM = 0.2, 0.05
"""Standard uncertainty of the pad's top against the rotor's edge, by rule, and of a tip gap by feeler [mm]: common practice."""


UNITS = ((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0), (0.0, 0.0, 0.0, 1.0))
"""Offset, half of what the ends differ by, slope outwards, slot less rotor: each by itself."""


class Estimate(Record, frozen=True):
    """A number with its standard uncertainty; unknown where no reading tells it."""

    value: float = UNKNOWN
    sd: float = UNKNOWN


class Pose(Record, frozen=True):
    """Where the caliper sits, each with its uncertainty.

    ``offset`` [mm] at the middle between both ends, positive outboard; ``tilt`` [degrees] positive where the trailing
    end is further outboard; ``twist`` [degrees] positive where the slot's mouth is further out than its bottom;
    ``radial`` [mm]: how much further from the axle than it was to be. ``slot``: slot less rotor [mm]. ``ends``: the
    offset at the leading and at the trailing end [mm]. ``against``: readings that contradict each other. Readings from
    before something was changed take no part.
    """

    offset: Estimate
    tilt: Estimate
    twist: Estimate
    radial: Estimate
    slot: Estimate
    ends: tuple[Estimate, Estimate]
    against: tuple[Contradiction, ...] = ()

    @property
    def doubted(self) -> tuple[str, ...]:
        """The gaps, or key paths of the job's sizes, that may be wrong, the likeliest first."""
        return tuple(dict.fromkeys(name for one in self.against for name in one.doubted))

    @property
    def silent(self) -> "Pose":
        """The same with nothing told of where it sits: what contradicts itself is no ground for a verdict or for advice."""
        nothing = Estimate()
        return Pose(nothing, nothing, nothing, self.radial, self.slot, (nothing, nothing), self.against)

    @property
    def unknown(self) -> tuple[str, ...]:
        """What no reading tells, by name."""
        estimates = (("offset", self.offset), ("tilt", self.tilt), ("twist", self.twist), ("height", self.radial))
        return tuple(name for name, of in estimates if not is_known(of.value))


class _Row(Record, frozen=True):
    """One observation: its row of the design, its value and standard uncertainty [mm]."""

    of: tuple[float, float, float, float]
    value: float
    sd: float


def pose_of(job: Job, trial: Trial) -> Pose:
    """Return where the caliper sat at one trial of ``job``."""
    trial, spare = in_force(trial), spare_of(job)
    rows = [*_gap_rows(trial.gaps_mm, trial, 0.0), *_band_rows(trial, spare)]
    rows += _gap_rows(trial.deep_gaps_mm, trial, known(trial.deep_by_mm))
    if trial.parting_line_mm is not None:
        rows.append(_Row((1.0, 0.0, 0.0, 0.0), trial.parting_line_mm, GAP_INSTRUMENTS["eye"]))
    if is_known(spare):
        rows.append(_Row((0.0, 0.0, 0.0, 1.0), spare, SLOT_SD_MM))
    estimates = _solved(rows, [*UNITS, (1.0, -1.0, 0.0, 0.0), (1.0, 1.0, 0.0, 0.0)])
    length = known(trial.station_spacing_mm)
    return Pose(
        offset=estimates[0],
        tilt=_angle(estimates[1], length / 2),
        twist=_angle(estimates[2], 1.0),
        radial=_radial(job, trial),
        slot=estimates[3],
        ends=(estimates[4], estimates[5]),
        against=contradictions(job, trial),
    )


def _gap_rows(gaps: Gaps, trial: Trial, deep: float) -> list[_Row]:
    """Return an observation for every gap that was read: half the slot's room, more or less the offset there. ``deep``: how far
    towards the axle [mm]."""
    found = []
    for name in GAPS:
        value = getattr(gaps, name)
        if value is not None and is_known(deep):
            found.append(_Row(_design(name, deep), float(value), trial.gap_sd))
    return found


def _design(name: str, deep: float) -> tuple[float, float, float, float]:
    """Return how a gap depends on offset, half the difference of the ends, slope outwards and slot [mm]."""
    end = -1.0 if name.startswith("leading") else 1.0
    sign = 1.0 if name.endswith("outboard") else -1.0
    return sign, sign * end, -sign * deep, 0.5


def _band_rows(trial: Trial, spare: float) -> list[_Row]:
    """Return the go/no-go readings as observations; a gap that is open above ends where the whole room of the slot does."""
    found = []
    for name, band in trial.bands_mm.items():
        low, high = band.least if band.least is not None else 0.0, band.most if band.most is not None else spare
        if is_known(low, high) and high >= low and getattr(trial.gaps_mm, name, None) is None:
            sd = math.hypot((high - low) / math.sqrt(12.0), trial.gap_sd)
            found.append(_Row(_design(name, 0.0), (low + high) / 2, sd))
    return found


def _solved(rows: list[_Row], wanted: list[tuple[float, float, float, float]]) -> list[Estimate]:
    """Return each of ``wanted``, sums of the four unknowns, as the rows tell it: unknown where they leave it free."""
    if not rows:
        return [Estimate() for _ in wanted]
    weight = np.array([1.0 / row.sd for row in rows])
    design: FloatArray = np.array([row.of for row in rows]) * weight[:, None]
    values: FloatArray = np.array([row.value for row in rows]) * weight
    _, size, axes = np.linalg.svd(design, full_matrices=True)
    size = np.concatenate([size, np.zeros(4 - len(size))])
    seen = size > 1e-9 * max(size.max(), 1e-12)
    inverse = (axes.T[:, seen] / size[seen] ** 2) @ axes[seen]
    solution, free = inverse @ design.T @ values, axes[~seen]
    found = []
    for one in np.array(wanted):
        is_seen = bool(np.all(np.abs(free @ one) < 1e-9))
        found.append(
            Estimate(float(one @ solution), math.sqrt(max(float(one @ inverse @ one), 0.0))) if is_seen else Estimate()
        )
    return found


def _angle(slope: Estimate, over: float) -> Estimate:
    """Return a rise [mm] over a length [mm] as an angle [degrees] with its uncertainty."""
    if not is_known(slope.value, over) or over <= 0.0:
        return Estimate()
    steep = slope.value / over
    return Estimate(math.degrees(math.atan(steep)), math.degrees(slope.sd / over / (1.0 + steep * steep)))


def _radial(job: Job, trial: Trial) -> Estimate:
    """Return how much further from the axle the caliper sits than planned [mm]: by pad top and by tip gap."""
    planned, bridge, found = known(job.fit.pad_inset_mm), known(job.caliper.bridge_to_pad_top_mm), []
    if trial.pad_top_mm is not None:
        found.append((planned - trial.pad_top_mm, HEIGHT_SD_MM))
    if trial.tip_gap_mm is not None:
        found.append((trial.tip_gap_mm - (bridge - planned), TIP_SD_MM))
    found = [(value, sd) for value, sd in found if is_known(value)]
    if not found:
        return Estimate()
    weight = math.fsum(sd**-2 for _, sd in found)
    return Estimate(math.fsum(value / sd**2 for value, sd in found) / weight, weight**-0.5)

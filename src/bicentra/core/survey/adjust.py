"""Least-squares adjustment of the distance network, and what can be said of each reading afterwards.

Method: weighted least squares by Levenberg-Marquardt (SciPy); redundancy numbers, normalised residuals and smallest
detectable blunders after Baarda, "A testing procedure for use in geodetic networks", 1968 (from memory); separability
of two readings by the correlation of their normalised residuals after Förstner, 1983 (from memory).
"""

import math
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from bicentra.core.base.cache import cached_property
from bicentra.core.base.errors import ConvergenceError
from bicentra.core.base.numbers import Pure
from bicentra.core.base.records import Record, replace
from bicentra.core.parts.survey import Survey
from bicentra.core.survey.network import Array, Network, Reading, make_network
from bicentra.core.survey.start import MOST_MISFIT, SPINS, Place, StartWay, diameters_at_start, starting_ways, twins

FALSE_ALARM = 0.02
"""Chance that a clean network gets any reading named at all; shared out over its readings."""
POWER = 0.8
"""Chance that a blunder of the size stated as detectable is noticed."""
CHI_SQUARE_LEVEL = 0.99
UNCHECKED = 1e-4
"""Redundancy below which a reading checks nothing and nothing checks it."""
INSEPARABLE = 0.98
"""Correlation from which two readings cannot be distinguished: both are named."""
NAMING = 0.98
"""A blunder of the detectable size beats every other reading by this many standard deviations, one of twice that size by
1.96: it is then named in 97.5 % of cases."""
LOOSE = 1e-7
LOOSE_SD_MM = 15.0
MIRROR_MM, MIRROR_CHI = 1.0, 16.0
WAYS_TRIED, MOST_TRIED, FEW_STEPS, HOPELESS_CHI = 4, 6, 40, 30.0
"""Ways that are always tried when they look likely, ways tried at most, steps for those after the first, and
the mean square from which none found so far is believed."""
WEAK = 1e-4
"""Weight of the pull towards the start that keeps an undetermined unknown in its place [1/mm]: far below any reading."""
LARGE = 60
"""Unknowns from which SciPy's trust-region solver is quicker than MINPACK's: it works in blocks."""
MOST_STEPS, SETTLED, ROWS_AT_ONCE = 120, 1e-3, 256
"""Evaluations allowed, and the step [mm or rad] below which what is left to gain is below any instrument."""


class LooseDirection(Record, frozen=True):
    """A feature that the readings do not fix. ``way``: the direction [rad] it can move in, ``None`` for any."""

    name: str
    way: float | None


class Adjusted(Record, frozen=True):
    """The adjusted network. Vectors follow the unknowns of ``network``; lengths in mm, angles in rad.

    ``covariance`` is (unknowns, unknowns), ``gain`` (unknowns, n): change of the unknowns by one standard uncertainty
    of each reading, so that covariance = gain·gainᵀ. ``residuals`` are measured minus adjusted,
    ``free`` counts the ways the unknowns can move that no reading holds. ``basis`` (n, rank): U with U·Uᵀ the share of each
    reading in each adjusted one; the n by n table itself is never held.
    """

    network: Network
    x: Array
    covariance: Array
    gain: Array
    residuals: Array
    redundancy: Array
    basis: Array
    loose: tuple[LooseDirection, ...]
    mirrored: tuple[tuple[str, Place, Place], ...]
    steps: int
    free: int = 0

    @property
    def readings(self) -> tuple[Reading, ...]:
        """The readings, in the order of every vector over them."""
        return self.network.readings

    @property
    def dof(self) -> int:
        """Degrees of freedom: the sum of the redundancies."""
        return round(float(self.redundancy.sum()))

    @property
    def chi_square(self) -> float:
        """Sum of squared residuals over their standard uncertainties."""
        return float(((self.residuals / self.network.sigmas) ** 2).sum())

    @property
    def passed(self) -> bool | None:
        """Whether the readings agree as well as their instruments promise; ``None`` when nothing checks anything."""
        from scipy.special import chdtri

        return None if self.dof == 0 else self.chi_square <= float(chdtri(self.dof, 1 - CHI_SQUARE_LEVEL))

    def correlation_of(self, first: int, last: int) -> Array:
        """Return rows ``first`` to before ``last`` of the correlation of the residuals, (last − first, n)."""
        root = np.sqrt(np.maximum(self.redundancy, 1e-12))
        hat = self.basis[first:last] @ self.basis.T
        hat[np.arange(last - first), np.arange(first, last)] -= 1.0
        return np.asarray(-hat / (root[first:last, None] * root))

    @cached_property
    def normalised(self) -> Array:
        """Residual over its own standard deviation, (n,); nan where nothing checks the reading."""
        checked = self.redundancy > UNCHECKED
        root = np.sqrt(np.where(checked, self.redundancy, 1.0))
        return np.where(checked, self.residuals / (self.network.sigmas * root), math.nan)

    @cached_property
    def critical(self) -> Pure:
        """The normalised residual from which a reading is suspect."""
        from scipy.special import ndtri

        return float(ndtri(1 - FALSE_ALARM / (2 * max(len(self.readings), 1))))

    @cached_property
    def detectable(self) -> Array:
        """The smallest blunder of each reading that would be noticed and named [mm or rad], (n,); nan where none is."""
        from scipy.special import ndtri

        shift = self.critical + float(ndtri(POWER))
        closest = np.zeros(len(self.redundancy))
        for first in range(0, len(closest), ROWS_AT_ONCE):
            last = min(first + ROWS_AT_ONCE, len(closest))
            pairs = np.abs(self.correlation_of(first, last))
            pairs[np.arange(last - first), np.arange(first, last)] = 0.0
            pairs[pairs > INSEPARABLE] = 0.0  # those are named together
            closest[first:last] = pairs.max(axis=1, initial=0.0)
        needed = np.maximum(shift, NAMING / np.sqrt((1.0 - closest) / 2))
        checked = self.redundancy > UNCHECKED
        root = np.sqrt(np.where(checked, self.redundancy, 1.0))
        return np.where(checked, self.network.sigmas * needed / root, math.nan)

    @cached_property
    def suspects(self) -> tuple[int, ...]:
        """The one reading that is wrong, with those that cannot be reported from it; empty when all agree."""
        size = np.abs(self.normalised)
        if not len(size) or np.all(np.isnan(size)):
            return ()
        worst = int(np.nanargmax(size))
        if size[worst] <= self.critical:
            return ()
        twins = np.abs(self.correlation_of(worst, worst + 1)[0]) > INSEPARABLE
        twins[worst] = True
        return tuple(int(k) for k in np.flatnonzero(twins & (self.redundancy > UNCHECKED)))

    @property
    def loose_names(self) -> frozenset[str]:
        """Features without a known place: not fixed by the readings, or in one of two mirrored places."""
        return frozenset(item.name for item in self.loose) | frozenset(name for name, *_ in self.mirrored)

    def columns(self, name: str) -> tuple[int, int] | None:
        """Return where a point or an edge stands among the unknowns."""
        network = self.network
        if name in network.points:
            return 2 * network.points.index(name), 2 * network.points.index(name) + 1
        if name in network.edges:
            first = 2 * len(network.points) + 2 * network.edges.index(name)
            return first, first + 1
        return None

    def place(self, name: str) -> Place:
        """Return (x, y) of a point [mm] as adjusted, even where it is loose. The axle lies at 0, 0."""
        columns = self.columns(name)
        return (float(self.x[columns[0]]), float(self.x[columns[1]])) if columns else (0.0, 0.0)

    def known(self, name: str) -> bool:
        """Tell whether the place of ``name`` is known."""
        return name not in self.loose_names

    def spread(self, name: str) -> Array:
        """Return the covariance of a feature's two unknowns, (2, 2) [mm²]."""
        columns = self.columns(name)
        return self.covariance[np.ix_(columns, columns)] if columns else np.zeros((2, 2))

    def diameter(self, name: str) -> float | None:
        """Return the adjusted diameter of a feature [mm]."""
        if name not in self.network.diameters:
            return None
        return float(self.x[self.size_column(name)])

    def size_column(self, name: str) -> int:
        """Return where the diameter of ``name`` stands among the unknowns."""
        network = self.network
        return 2 * len(network.points) + 2 * len(network.edges) + network.diameters.index(name)


ELLIPSE = math.sqrt(5.991)
"""Semi-axes of the 95 % ellipse of a point over its standard deviations: chi-square with two degrees of freedom."""


def error_ellipse(spread: Array) -> tuple[float, float, float]:
    """Return the 95 % ellipse of a point with covariance ``spread`` (2, 2) [mm²]: semi-axes [mm], direction of the
    longer one [degrees, 0 to 180)."""
    values, vectors = np.linalg.eigh(spread)
    short, long = (ELLIPSE * math.sqrt(max(float(v), 0.0)) for v in values)
    return long, short, math.degrees(math.atan2(vectors[1, 1], vectors[0, 1])) % 180.0


def adjust(survey: Survey, hints: Mapping[str, Place] | None = None, most_steps: int = MOST_STEPS) -> Adjusted:
    """Return the adjusted network of ``survey``.

    ``hints`` are places known from elsewhere [mm]; they only choose between mirrored places. Raises
    ``ConvergenceError`` when the adjustment does not settle within ``most_steps`` evaluations.
    """
    network = make_network(survey)
    ways = starting_ways(network, hints or {})
    found, failed = _tried(network, ways, most_steps)
    for spin in SPINS if ways and ways[0].guessed else ():
        if found and min(row[0] for row in found) < HOPELESS_CHI * len(network.readings):
            break
        more, late = _tried(network, starting_ways(network, hints or {}, spin)[:2], min(most_steps, FEW_STEPS))
        found, failed = found + more, failed or late
    guessed = ways[0].guessed if ways else frozenset()
    fewer = _without(survey, guessed)
    if not found and fewer != survey:  # what nothing places cannot settle: it is loose, the rest is adjusted without it
        return adjust(fewer, hints, most_steps)
    if not found:
        raise failed or ConvergenceError("there is nothing to adjust", math.nan, "take the first reading")
    found.sort(key=lambda row: row[0])
    _, x, steps = found[0]
    made = _with_mirrors(_judge(network, x, steps), found)
    loose = made.loose_names
    return replace(made, mirrored=(*made.mirrored, *twins(network, x, loose, hints or {})))


Settled = tuple[float, Array, int]
"""Sum of squares, unknowns and evaluations of one solution."""


def _tried(
    network: Network, ways: Sequence[StartWay], most_steps: int
) -> tuple[list[Settled], ConvergenceError | None]:
    """Return the solutions that come of ``ways``, the likely ones always, the others while none fits."""
    found: list[Settled] = []
    failed: ConvergenceError | None = None
    for place, way in enumerate(ways[:MOST_TRIED]):
        most = WAYS_TRIED if network.count <= LARGE else 1
        likely = place < most and way.misfit < ways[0].misfit + MOST_MISFIT
        if not likely and found and min(row[0] for row in found) < HOPELESS_CHI * len(network.readings):
            continue  # a way that fits is at hand: the unlikely ones need no look
        try:
            steps = most_steps if place == 0 else min(most_steps, FEW_STEPS)
            found.append(_settle(network, _vector(network, way), steps))
        except ConvergenceError as error:
            failed = error
    return found, failed


def _without(survey: Survey, names: frozenset[str]) -> Survey:
    """Return ``survey`` with the readings to ``names`` set aside; every reading keeps its place in its list."""

    def aside(items: tuple[Any, ...]) -> tuple[Any, ...]:
        return tuple(replace(d, set_aside="loose") if {d.from_, d.to} & names else d for d in items)

    return replace(survey, distances=aside(survey.distances), directions=aside(survey.directions))


def _vector(network: Network, way: StartWay) -> Array:
    sizes = diameters_at_start(network)
    pairs = [way.places.get(name, (0.0, 0.0)) for name in (*network.points, *network.edges)]
    return np.array([value for pair in pairs for value in pair] + [sizes[n] for n in network.diameters], float)


def _settle(network: Network, start: Array, most_steps: int) -> tuple[float, Array, int]:
    """Return (sum of squares, unknowns, evaluations) at the least-squares solution nearest ``start``."""
    if network.count == 0:
        return 0.0, start, 0
    from scipy.optimize import least_squares

    eye = WEAK * np.eye(network.count)
    count = len(network.readings)
    stacked = np.concatenate([np.zeros((count, network.count)), eye])

    def deviations(x: Array) -> Array:
        return np.concatenate([network.deviations(x), WEAK * (x - start)])

    def slopes(x: Array) -> Array:
        stacked[:count] = network.slopes(x)
        return stacked

    found = least_squares(
        deviations,
        start,
        jac=slopes,
        method="lm" if network.count <= LARGE else "trf",
        xtol=1e-11,
        ftol=1e-11,
        gtol=1e-11,
        max_nfev=most_steps,
    )
    if not np.all(np.isfinite(found.x)) or (found.status <= 0 and _next_step(found.jac, found.fun) > SETTLED):
        left = _next_step(found.jac, found.fun)
        raise ConvergenceError(
            f"the adjustment of {len(network.readings)} readings did not settle in {found.nfev} steps",
            left,
            "look for two readings that are swapped, or state on which side of the axle each hole lies",
        )
    return float((network.deviations(found.x) ** 2).sum()), found.x, int(found.nfev)


def _next_step(slopes: Array, deviations: Array) -> float:
    """Return the largest change that one step more would make [mm or rad]."""
    if not (np.all(np.isfinite(slopes)) and np.all(np.isfinite(deviations))):
        return math.inf
    return float(np.abs(np.linalg.lstsq(slopes, deviations, rcond=None)[0]).max())


def _judge(network: Network, x: Array, steps: int) -> Adjusted:
    """Return everything that follows from the readings' equations at the solution ``x``."""
    slopes = network.slopes(x) if network.readings else np.zeros((0, network.count))
    deviations = network.deviations(x) if network.readings else np.zeros(0)
    # all directions of the unknowns are wanted, those of the readings only where they are fewer
    u, s, vt = _parted(slopes)
    rank = int((s > LOOSE * max(float(s.max(initial=0.0)), 1.0)).sum())
    gain = vt[:rank].T @ (u[:, :rank].T / s[:rank, None])
    basis = u[:, :rank]
    redundancy = np.clip(1.0 - (basis**2).sum(axis=1), 0.0, 1.0)
    covariance = gain @ gain.T
    return Adjusted(
        network=network,
        x=x,
        covariance=covariance,
        gain=gain,
        residuals=-deviations * network.sigmas,
        redundancy=redundancy,
        basis=basis,
        loose=_loose(network, vt[rank:], covariance),
        mirrored=(),
        steps=steps,
        free=network.count - rank,
    )


def _parted(slopes: Array) -> tuple[Array, Array, Array]:
    """Return the singular value decomposition of (n, m) ``slopes`` with all m directions of the unknowns; many readings
    are first folded into as many rows as there are unknowns, which is quicker and the same.
    """
    readings, unknowns = slopes.shape
    if readings <= 4 * unknowns:
        u, s, vt = np.linalg.svd(slopes, full_matrices=readings < unknowns)
        return u, s, vt
    folded, rest = np.linalg.qr(slopes)
    u, s, vt = np.linalg.svd(rest)
    return folded @ u, s, vt


def _loose(network: Network, free: Array, covariance: Array) -> tuple[LooseDirection, ...]:
    """Return what moves in the directions ``free`` (k, unknowns) that no reading holds, and what is held too weakly."""
    found = []
    for k, name in enumerate((*network.points, *network.edges)):
        at = (2 * k, 2 * k + 1)
        block = free[:, at]
        moves = np.linalg.svd(block, compute_uv=True) if len(block) else None
        size = moves[1] if moves is not None else np.zeros(2)
        if size.max(initial=0.0) > 1e-6:
            one_way = len(size) < 2 or size[1] < 1e-6 * max(size[0], 1.0)
            way = moves[2][0] if moves is not None else np.zeros(2)
            angle = math.atan2(way[1], way[0]) if one_way and name in network.points else None
            found.append(LooseDirection(name, angle))
            continue
        own = np.linalg.eigh(covariance[np.ix_(at, at)])
        if name in network.points and math.sqrt(max(own[0][-1], 0.0)) > LOOSE_SD_MM:
            found.append(LooseDirection(name, math.atan2(own[1][1, -1], own[1][0, -1])))
    return tuple(found)


def _with_mirrors(best: Adjusted, found: list[tuple[float, Array, int]]) -> Adjusted:
    """Return ``best`` with the points that lie elsewhere in another solution which fits the readings as well."""
    loose = frozenset(item.name for item in best.loose)
    twins: dict[str, tuple[str, Place, Place]] = {}
    for chi, x, _ in found[1:]:
        if chi > found[0][0] + MIRROR_CHI:
            continue
        for k, name in enumerate(best.network.points):
            here, there = best.x[2 * k : 2 * k + 2], x[2 * k : 2 * k + 2]
            reach = 5 * math.sqrt(max(float(np.trace(best.spread(name))), 0.0))
            if name not in loose and math.dist(here, there) > max(MIRROR_MM, reach):
                twins.setdefault(name, (name, (float(here[0]), float(here[1])), (float(there[0]), float(there[1]))))
    return replace(best, mirrored=tuple(twins.values()))

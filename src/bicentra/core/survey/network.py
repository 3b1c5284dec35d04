"""The distance network: which numbers are unknown, which readings bear on them, and how.

Unknown are (x, y) of every round feature or point off the axis, angle and offset of every edge, and the diameters.
Each reading is one equation of plane geometry: a centre distance with radii taken off or added, the distance of a
centre from a line, the clock angle of a line, a diameter. Lengths in mm, angles in rad.
"""

import math

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.cache import cached_property
from bicentra.core.base.records import Record
from bicentra.core.parts.survey import Direction, Distance, Feature, Survey

Array = NDArray[np.float64]
Whole = NDArray[np.int64]

SENSE_SIGNS = {"near-near": (-1, -1), "far-far": (1, 1), "near-far": (-1, 1), "centres": (0, 0)}
"""What each sense does with the radii at its two ends: −1 takes one off the centre distance, 1 adds it."""


class Reading(Record, frozen=True):
    """One reading that counts: where it stands in the survey, what it is, and its standard uncertainty [mm or rad]."""

    list: str
    index: int
    kind: str
    ends: tuple[str, ...]
    value: float
    sigma: float
    sense: str = "centres"


class Network(Record, frozen=True):
    """The readings of one survey as equations in one vector of unknowns.

    The vector holds x, y of each of ``points``, then angle and offset of each of ``edges``, then the ``diameters``.
    """

    points: tuple[str, ...]
    edges: tuple[str, ...]
    diameters: tuple[str, ...]
    origin: str
    readings: tuple[Reading, ...]
    features: dict[str, Feature]

    @property
    def count(self) -> int:
        """The number of unknowns."""
        return 2 * len(self.points) + 2 * len(self.edges) + len(self.diameters)

    @cached_property
    def sigmas(self) -> Array:
        """Standard uncertainty of each reading, (n,) [mm or rad]."""
        return np.array([reading.sigma for reading in self.readings], dtype=np.float64)

    @cached_property
    def _groups(self) -> "_Groups":
        return _Groups(self)

    def deviations(self, x: Array) -> Array:
        """Return computed minus measured of every reading over its standard uncertainty, (n,)."""
        return self._groups.evaluate(x)[0]

    def slopes(self, x: Array) -> Array:
        """Return the derivatives of ``deviations`` by the unknowns, (n, unknowns) [mm/mm, mm/rad]."""
        return self._groups.evaluate(x)[1]

    def place(self, name: str) -> int | None:
        """Return where x of the point ``name`` stands among the unknowns; ``None`` for the origin and for edges."""
        return 2 * self.points.index(name) if name in self.points else None


def make_network(survey: Survey) -> Network:
    """Return the network of every reading of ``survey`` that has a value and is not set aside."""
    features = {feature.name: feature for feature in survey.features}
    readings = [
        *(_distance(survey, k, item, features) for k, item in enumerate(survey.distances) if _counts(item)),
        *(_direction(survey, k, item) for k, item in enumerate(survey.directions) if _counts(item)),
        *(
            Reading("features", k, "diameter", (f.name,), f.diameter_mm, survey.sd_of(f.instrument, f.sd_mm))
            for k, f in enumerate(survey.features)
            if f.diameter_mm
        ),
    ]
    axis = survey.axis
    points = tuple(f.name for f in survey.features if f.kind != "edge" and not f.axis)
    edges = tuple(f.name for f in survey.features if f.kind == "edge")
    wanted = {f.name for f in survey.features if f.diameter_mm and f.kind == "round"} | _radii_used(readings, features)
    diameters = tuple(f.name for f in survey.features if f.name in wanted)
    kept = tuple(r for r in readings if r.kind != "diameter" or r.ends[0] in wanted)
    return Network(points, edges, diameters, axis.name if axis else "", kept, features)


def _counts(item: Distance | Direction) -> bool:
    value = item.value_mm if isinstance(item, Distance) else item.clock_deg
    return value is not None and not item.set_aside


def _distance(survey: Survey, index: int, item: Distance, features: dict[str, Feature]) -> Reading:
    kinds = (features[item.from_].kind, features[item.to].kind)
    kind = "edge-distance" if "edge" in kinds else "distance"
    sigma = survey.sd_of(item.instrument, item.sd_mm)
    return Reading("distances", index, kind, (item.from_, item.to), float(item.value_mm or 0.0), sigma, item.sense)


def _direction(survey: Survey, index: int, item: Direction) -> Reading:
    kind = "edge-direction" if item.from_ == item.to else "direction"
    sigma = math.radians(survey.sd_of(item.instrument, item.sd_deg))
    return Reading("directions", index, kind, (item.from_, item.to), math.radians(float(item.clock_deg or 0.0)), sigma)


def _radii_used(readings: list[Reading], features: dict[str, Feature]) -> set[str]:
    used = set()
    for reading in readings:
        if reading.kind in ("distance", "edge-distance"):
            for name, sign in zip(reading.ends, SENSE_SIGNS[reading.sense]):
                if sign and features[name].kind == "round":
                    used.add(name)
    return used


class _Groups:
    """The readings sorted by kind into arrays, so that all of one kind are computed at once."""

    def __init__(self, network: Network) -> None:
        self.network = network
        self._last: tuple[bytes, Array, Array] | None = None
        n = len(network.points)
        self._at = {name: k for k, name in enumerate(network.points)}
        self._at[network.origin] = n  # a row of its own for the axle, never moved
        self._edge = {name: k for k, name in enumerate(network.edges)}
        self._size = {name: k for k, name in enumerate(network.diameters)}
        self.first_edge = 2 * n + 2
        self.first_size = self.first_edge + 2 * len(network.edges)
        self.width = self.first_size + len(network.diameters) + 1  # the last column takes what has no diameter
        real = np.ones(self.width, dtype=bool)
        real[[2 * n, 2 * n + 1, self.width - 1]] = False
        self.real = real
        self._sort()

    def _rows(self, kind: str) -> list[tuple[int, Reading]]:
        return [(row, reading) for row, reading in enumerate(self.network.readings) if reading.kind == kind]

    def _sort(self) -> None:
        def ints(values: list[int]) -> Whole:
            return np.array(values, dtype=np.int64)

        self.all_values = np.array([reading.value for reading in self.network.readings], dtype=np.float64)
        far = self._rows("distance")
        self.d_row = ints([row for row, _ in far])
        self.d_i, self.d_j = (ints([self._at[r.ends[k]] for _, r in far]) for k in (0, 1))
        signs = [[self._sign(r, k) for _, r in far] for k in (0, 1)]
        self.d_si, self.d_sj = (np.array(s, dtype=np.float64) for s in signs)
        self.d_di, self.d_dj = (ints([self._size_column(r.ends[k]) for _, r in far]) for k in (0, 1))
        lines = self._rows("edge-distance")
        which = [0 if r.ends[0] in self._edge else 1 for _, r in lines]
        self.e_row = ints([row for row, _ in lines])
        self.e_edge = ints([self._edge[r.ends[k]] for k, (_, r) in zip(which, lines)])
        self.e_c = ints([self._at[r.ends[1 - k]] for k, (_, r) in zip(which, lines)])
        self.e_s = np.array([self._sign(r, 1 - k) for k, (_, r) in zip(which, lines)], dtype=np.float64)
        self.e_d = ints([self._size_column(r.ends[1 - k]) for k, (_, r) in zip(which, lines)])
        ways = self._rows("direction")
        self.w_row = ints([row for row, _ in ways])
        self.w_i, self.w_j = (ints([self._at[r.ends[k]] for _, r in ways]) for k in (0, 1))
        leans = self._rows("edge-direction")
        self.l_row = ints([row for row, _ in leans])
        self.l_edge = ints([self._edge[r.ends[0]] for _, r in leans])
        sizes = self._rows("diameter")
        self.s_row = ints([row for row, _ in sizes])
        self.s_d = ints([self._size_column(r.ends[0]) for _, r in sizes])

    def _sign(self, reading: Reading, end: int) -> float:
        round_ = self.network.features[reading.ends[end]].kind == "round"
        return float(SENSE_SIGNS[reading.sense][end]) if round_ else 0.0

    def _size_column(self, name: str) -> int:
        return self.first_size + self._size[name] if name in self._size else self.width - 1

    def evaluate(self, x: Array) -> tuple[Array, Array]:
        """Return deviations (n,) and their derivatives (n, unknowns) at ``x``; the last answer is kept for the next asker."""
        key = x.tobytes()
        if self._last is None or self._last[0] != key:
            self._last = (key, *self._evaluated(x))
        return self._last[1], self._last[2]

    def _evaluated(self, x: Array) -> tuple[Array, Array]:
        network = self.network
        full = np.zeros(self.width)
        full[self.real] = x
        xy = full[: self.first_edge].reshape(-1, 2)
        computed = np.zeros(len(network.readings))
        slopes = np.zeros((len(network.readings), self.width))
        self._distances(full, xy, computed, slopes)
        self._lines(full, xy, computed, slopes)
        self._directions(full, xy, computed, slopes)
        computed[self.s_row] = full[self.s_d]
        slopes[self.s_row, self.s_d] = 1.0
        off = computed - self.all_values
        off[self.w_row] = np.remainder(off[self.w_row] + np.pi, 2 * np.pi) - np.pi
        off[self.l_row] = np.remainder(off[self.l_row] + np.pi / 2, np.pi) - np.pi / 2
        return off / network.sigmas, slopes[:, self.real] / network.sigmas[:, None]

    def _distances(self, full: Array, xy: Array, computed: Array, slopes: Array) -> None:
        """|p_j − p_i| ± d_i/2 ± d_j/2."""
        rows = self.d_row
        step = xy[self.d_j] - xy[self.d_i]
        long = np.maximum(np.hypot(step[:, 0], step[:, 1]), 1e-12)
        unit = step / long[:, None]
        computed[rows] = long + (self.d_si * full[self.d_di] + self.d_sj * full[self.d_dj]) / 2
        for axis in (0, 1):
            slopes[rows, 2 * self.d_j + axis] += unit[:, axis]
            slopes[rows, 2 * self.d_i + axis] -= unit[:, axis]
        slopes[rows, self.d_di] += self.d_si / 2
        slopes[rows, self.d_dj] += self.d_sj / 2

    def _lines(self, full: Array, xy: Array, computed: Array, slopes: Array) -> None:
        """|n·c − p| ± d/2 with n = (−sin α, cos α)."""
        rows, column = self.e_row, self.first_edge + 2 * self.e_edge
        sin, cos = np.sin(full[column]), np.cos(full[column])
        c = xy[self.e_c]
        off = -sin * c[:, 0] + cos * c[:, 1] - full[column + 1]
        way = np.where(off < 0, -1.0, 1.0)
        computed[rows] = np.abs(off) + self.e_s * full[self.e_d] / 2
        slopes[rows, 2 * self.e_c] += -sin * way
        slopes[rows, 2 * self.e_c + 1] += cos * way
        slopes[rows, column] += (-cos * c[:, 0] - sin * c[:, 1]) * way
        slopes[rows, column + 1] -= way
        slopes[rows, self.e_d] += self.e_s / 2

    def _directions(self, full: Array, xy: Array, computed: Array, slopes: Array) -> None:
        """Clock angle of a line between two centres, or of an edge itself."""
        rows = self.w_row
        step = xy[self.w_j] - xy[self.w_i]
        square = np.maximum((step**2).sum(axis=1), 1e-12)
        computed[rows] = np.arctan2(step[:, 1], step[:, 0])
        for axis, part in ((0, -step[:, 1] / square), (1, step[:, 0] / square)):
            slopes[rows, 2 * self.w_j + axis] += part
            slopes[rows, 2 * self.w_i + axis] -= part
        column = self.first_edge + 2 * self.l_edge
        computed[self.l_row] = full[column]
        slopes[self.l_row, column] = 1.0

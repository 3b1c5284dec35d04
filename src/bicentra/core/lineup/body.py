"""The caliper's body as upright slices, and which bleed screw stands up at any clock angle."""

from functools import lru_cache
from itertools import pairwise

import numpy as np
import shapely
from numpy.typing import NDArray

from bicentra.core.base.cache import cached_by_identity, cached_property
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.geometry.frame import in_plane
from bicentra.core.geometry.hull import few
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import Prism
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job

STEP_MM, SLIVER_MM2, MOST_SLICES = 2.0, 1e-6, 120
"""Thickness of a slice where the section leans [mm]; the least piece of a slice [mm2]; most slices of a body."""
Points = tuple[tuple[float, float], ...]


class BodySlice(Prism, frozen=True):
    """One slice: a prism in the caliper's own frame (out, across), from pad top and slot centre.

    ``whole``: it is all of the face between its least and its greatest ``out``, not one of several pieces.
    """

    whole: bool = True

    @cached_property
    def corners(self) -> FloatArray:
        """(k, 2) float, mm: its corners (out, across)."""
        return np.asarray(shapely.get_coordinates(self.shape)[:-1])

    @cached_property
    def reach(self) -> tuple[float, float]:
        """Its least and greatest ``out`` [mm]."""
        low, _, high, _ = shapely.bounds(self.shape).tolist()
        return low, high


class SliceTable(Record, frozen=True):
    """What all slices of a body are, as arrays: their heights from slot centre, (k,) float each [mm]; all their
    ``corners``, (c, 2) float, mm (out, across), and the slice ``which`` each is of, (c,) int; their reach along
    ``out``, negative, (k,) float [mm]; and (k, k) bool, which of them ``covers`` which in plan.
    """

    z0: FloatArray
    z1: FloatArray
    corners: FloatArray
    which: NDArray[np.intp]
    narrow: FloatArray
    covers: NDArray[np.bool_]


@cached_by_identity
def slice_table(slices: tuple[BodySlice, ...]) -> SliceTable:
    """Return ``slices`` as arrays [mm]."""
    reach = np.array([one.reach for one in slices]).reshape(-1, 2)
    low, high = reach.T
    covers = (low[:, None] <= low + 1e-9) & (high[:, None] >= high - 1e-9)
    return SliceTable(
        np.array([one.z0 for one in slices]), np.array([one.z1 for one in slices]),
        np.concatenate([np.empty((0, 2)), *(one.corners for one in slices)]),
        np.repeat(np.arange(len(slices)), [len(one.corners) for one in slices]),
        low - high, covers & np.array([one.whole for one in slices], dtype=bool)[:, None],
    )  # fmt: skip


class Body(Record, frozen=True):
    """The caliper's body: radial range on its centreline, half width, and range of z [mm].

    ``outline``: (radial, across) corners of a traced body seen along the axle; a rectangle without. ``slices``: what it is made
    of, for whatever asks how near something comes. ``section`` (z, out) and ``plan`` (out, across) are the caliper's own, from
    slot centre and pad top, which lie ``at`` (z, radial): its slices are the same wherever it is put.
    """

    inner: float
    outer: float
    half_width: float
    z0: float
    z1: float
    outline: Points = ()
    section: Points = ()
    plan: Points = ()
    at: tuple[float, float] = (0.0, 0.0)

    @cached_property
    def is_known(self) -> bool:
        """Whether every bound is known."""
        return is_known(self.inner, self.outer, self.half_width, self.z0, self.z1)

    def corners(self, clock_rad: FloatArray) -> FloatArray:
        """Return (n, k, 2) float, mm: the body's k corners in (x, y) for each of n clock angles [rad]."""
        return in_plane(clock_rad, *np.array(self.corner_list).T)

    @property
    def corner_list(self) -> Points:
        """The body's corners in the caliper's frame: (radial, across) [mm]."""
        half = self.half_width
        box = ((self.inner, -half), (self.outer, -half), (self.outer, half), (self.inner, half))
        return self.outline or box

    @cached_property
    def heights(self) -> tuple[FloatArray, FloatArray]:
        """Lower and upper z of every slice, (k,) float each [mm]."""
        table = slice_table(self.slices)
        return table.z0 + self.at[0], table.z1 + self.at[0]

    @cached_property
    def slices(self) -> tuple[BodySlice, ...]:
        """The body cut into slices, the same wherever it is put; nothing while it is unknown."""
        if not self.is_known:
            return ()
        middle, top = self.at
        if self.section:
            return _sliced(self.section, self.plan)
        whole = shapely.Polygon(np.array(self.corner_list) - (top, 0.0))
        return (BodySlice(self.z0 - middle, self.z1 - middle, whole),)


def caliper_body(job: Job, line: LineUp, axial_error: float) -> Body:
    """Return the body of a caliper that sits ``axial_error`` [mm] too far outboard."""
    caliper, top = job.caliper, line.pad_top_radius
    mid = line.rotor_midplane_z + axial_error
    z0, z1 = mid - known(caliper.body_inboard_mm), mid + known(caliper.body_outboard_mm)
    inner, outer = top - known(caliper.pad_height_mm), top + known(caliper.body_outer_mm)
    half = known(caliper.body_width_mm) / 2
    outline = tuple((top + out, across) for across, out in few(caliper.body_face_mm))
    if outline:
        radial, sides = zip(*outline)
        inner, outer, half = min(radial), max(radial), max(abs(side) for side in sides)
    section: Points = ()
    plan = tuple((out, across) for across, out in few(caliper.body_face_mm))
    if caliper.body_section_mm:
        traced = few(caliper.body_section_mm)
        depths, outs = zip(*traced)
        z0, z1 = mid + min(depths), mid + max(depths)
        if not outline:
            inner, outer = top + min(outs), top + max(outs)
            plan = ((min(outs), -half), (max(outs), -half), (max(outs), half), (min(outs), half))
        section = traced if is_known(mid, top) else ()
    return Body(inner, outer, half, z0, z1, outline, section, plan, (mid, top))


@lru_cache(maxsize=64)
def _sliced(section: Points, face: Points) -> tuple[BodySlice, ...]:
    """Return the slices of ``section`` (z, out) over ``face`` (out, across)."""
    ring, plan = shapely.make_valid(shapely.Polygon(section)), shapely.make_valid(shapely.Polygon(face))
    _, low, _, high = ring.bounds
    found: list[BodySlice] = []
    for z0, z1 in _cuts(section):
        cut_out = shapely.get_parts(ring.intersection(shapely.box(z0, low - 1.0, z1, high + 1.0)))
        # an edge of the section that only touches the slice is a line of it, and no metal
        piece = shapely.union_all([part for part in cut_out if isinstance(part, shapely.Polygon)])
        if piece.is_empty:
            continue
        _, r0, _, r1 = piece.bounds
        x0, y0, x1, y1 = plan.bounds
        cut = plan.intersection(shapely.box(max(r0, x0 - 1.0), y0 - 1.0, min(r1, x1 + 1.0), y1 + 1.0))
        parts = [part for part in shapely.get_parts(cut) if part.area > SLIVER_MM2]
        for part in parts:
            found.append(BodySlice(z0, z1, shapely.Polygon(part.exterior), whole=len(parts) == 1))
    return tuple(_joined(found))


def _cuts(section: Points) -> list[tuple[float, float]]:
    """Return the slices [mm]: between the section's corners, thinner where an edge leans."""
    every = sorted({z for z, _ in section})
    least = max((every[-1] - every[0]) / MOST_SLICES, 1e-6)
    levels = [every[0]]
    for level in every[1:]:
        if level - levels[-1] >= least or level == every[-1]:
            levels.append(level)
    edges = list(zip(section, (*section[1:], section[0])))
    found = []
    for low, high in pairwise(levels):
        leans = any(
            min(a[0], b[0]) < high and max(a[0], b[0]) > low and a[1] != b[1] and a[0] != b[0] for a, b in edges
        )
        count = max(1, int(np.ceil((high - low) / max(STEP_MM, least)))) if leans else 1
        ends = [low + (high - low) * k / count for k in range(count + 1)]
        found += list(pairwise(ends))
    return found


def _joined(slices: list[BodySlice]) -> list[BodySlice]:
    """Return ``slices`` with neighbours of one and the same plan made one."""
    found: list[BodySlice] = []
    for one_slice in slices:
        same = bool(found) and shapely.equals_exact(found[-1].shape, one_slice.shape) and found[-1].z1 == one_slice.z0
        found.append(replace(one_slice, z0=found.pop().z0) if same else one_slice)
    return found


def bleeder_sweep(job: Job, clock_rad: FloatArray) -> FloatArray:
    """Return how far [degrees] the best bleed screw stands from straight up at each angle; unknown without bleed screws."""
    bleeders = np.array(job.caliper.bleeders_deg, dtype=float)
    if not len(bleeders):
        return np.full(len(clock_rad), UNKNOWN)
    from_up = np.degrees(clock_rad)[:, None] + bleeders + known(job.fit.attitude_deg) - 90.0
    return np.asarray(np.min(np.abs((from_up + 180.0) % 360.0 - 180.0), axis=1))


def bleeder_windows(job: Job, within: float) -> tuple[tuple[float, float] | None, ...]:
    """Return, for each bleed screw, from which to which clock angle [degrees] it is the high one and within ``within`` of up.

    A bleed screw at b in the caliper's frame stands straight up at 90 − b − attitude; half way to its neighbour the neighbour
    is as high. ``None`` for one that never is the high one.
    """
    if not is_known(job.fit.attitude_deg):
        return ()
    tops = [(90.0 - turn - known(job.fit.attitude_deg)) % 360.0 for turn in job.caliper.bleeders_deg]
    found: list[tuple[float, float] | None] = []
    for k, top in enumerate(tops):
        others = [(other - top) % 360.0 for j, other in enumerate(tops) if j != k]
        if any(gap == 0.0 for gap in others[:k]):
            found.append(None)
            continue
        ahead = min([gap / 2 for gap in others if gap > 0], default=180.0)
        behind = min([(360.0 - gap) / 2 for gap in others if gap > 0], default=180.0)
        found.append((top - min(behind, within), top + min(ahead, within)))
    return tuple(found)

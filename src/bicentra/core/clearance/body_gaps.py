"""How near the caliper's body comes to upright things, for one clock angle or for many: slice by slice, never box by box."""

from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.geometry.frame import in_plane
from bicentra.core.geometry.gaps import distance, with_height
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import FAR_MM
from bicentra.core.lineup.body import Body, BodySlice

Shapes = NDArray[np.object_]


def is_placed(body: Body, clock_rad: FloatArray) -> bool:
    """Tell whether the body can be drawn at every one of the angles [rad]."""
    return body.is_known and bool(np.isfinite(clock_rad).all())


def slice_shapes(slices: Sequence[BodySlice], clock_rad: FloatArray, pulled: float = 0.0) -> Shapes:
    """Return (n, k) polygons: k slices seen along the axle at n clock angles [rad], or what they sweep when they are ``pulled``
    outward along the caliper's radius [mm]."""  # fmt: skip
    corners = np.concatenate([np.array(one_slice.corners) for one_slice in slices])
    which = np.repeat(np.arange(len(slices)), [len(one_slice.corners) for one_slice in slices])
    if pulled:
        corners, which = np.concatenate([corners, corners + np.array([pulled, 0.0])]), np.concatenate([which, which])
        order = np.argsort(which, kind="stable")
        corners, which = corners[order], which[order]
    count = len(clock_rad)
    places = in_plane(clock_rad, corners[:, 0], corners[:, 1]).reshape(-1, 2)
    indices = (which + len(slices) * np.arange(count)[:, None]).ravel()
    rings = shapely.linearrings(places, indices=indices)
    found: Shapes = (shapely.convex_hull(rings) if pulled else shapely.polygons(rings)).reshape(count, -1)
    return found


def body_gaps(
    body: Body,
    clock_rad: FloatArray,
    shapes: Shapes,
    low: FloatArray,
    high: FloatArray,
    grow: FloatArray | float = 0.0,
    pulled: float = 0.0,
) -> FloatArray:
    """Return (n, m) float, mm: the room between the body and each of m things at each of n clock angles.

    ``shapes``: (1, m) or (n, m) geometries in (x, y), each grown by ``grow`` (m,) [mm]; ``low`` and ``high`` (m,) [mm]: their
    ranges of z. ``pulled`` [mm]: the body on its way outward. Unknown where a place is not known; what lies further off along
    the axle than ``FAR_MM`` is told by that distance.
    """
    count, wide = len(clock_rad), shapes.shape[1]
    if not is_placed(body, clock_rad) or not wide:
        return np.full((count, wide), UNKNOWN)
    z0, z1 = body.heights
    heights = np.maximum(low[:, None] - z1, z0 - high[:, None])
    nearest = heights.min(axis=1)
    out = np.broadcast_to(nearest, (count, wide)).copy()
    grown, near = np.broadcast_to(grow, (wide,)), np.flatnonzero(nearest < FAR_MM)
    deciding = [_deciding(body.slices, heights[j].tolist()) for j in near]
    wanted = sorted({k for row in deciding for k in row})
    if not wanted:
        return out
    drawn = slice_shapes([body.slices[k] for k in wanted], clock_rad, pulled)
    for j, row in zip(near, deciding):
        flat = distance(drawn[:, [wanted.index(k) for k in row]], shapes[:, j, None]) - grown[j]
        out[:, j] = with_height(flat, heights[j, row]).min(axis=1)
    return out


def _deciding(slices: tuple[BodySlice, ...], heights: list[float]) -> list[int]:
    """Return the places of the slices that can decide: not those that lie within another one's plan, further off."""
    order = sorted(range(len(slices)), key=lambda k: (max(heights[k], 0.0), slices[k].low - slices[k].high))
    kept: list[int] = []
    for k in order:
        one = slices[k]
        if not any(
            slices[o].whole and slices[o].low <= one.low + 1e-9 and slices[o].high >= one.high - 1e-9 for o in kept
        ):  # those kept are no further off along the axle
            kept.append(k)
    return kept

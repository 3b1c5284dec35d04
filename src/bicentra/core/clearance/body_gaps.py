"""How near the caliper's body comes to upright things, for one clock angle or for many: slice by slice, never box by box."""

from collections.abc import Sequence

import numpy as np
import shapely

from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.geometry.frame import in_plane
from bicentra.core.geometry.gaps import distance, with_height
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import FAR_MM, Prism, Prisms, Shapes, plan_gap
from bicentra.core.lineup.body import Body, BodySlice


def is_placed(body: Body, clock_rad: FloatArray) -> bool:
    """Tell whether the body can be drawn at every one of the angles [rad]."""
    return body.is_known and bool(np.isfinite(clock_rad).all())


def slice_shapes(body: Body, wanted: Sequence[int], clock_rad: FloatArray, pulled: float = 0.0) -> Shapes:
    """Return (n, k) polygons: the k ``wanted`` slices seen along the axle at n clock angles [rad], or what they sweep when they
    are ``pulled`` outward along the caliper's radius [mm]."""  # fmt: skip
    slices = [body.slices[k] for k in wanted]
    corners = np.concatenate([one_slice.corners for one_slice in slices]) + np.array([body.at[1], 0.0])
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


def body_gaps(body: Body, clock_rad: FloatArray, things: Prisms, pulled: float = 0.0) -> FloatArray:
    """Return (n, m) float, mm: the room between the body and each of m ``things`` at each of n clock angles [rad].

    ``pulled`` [mm]: the body on its way outward. Unknown where a place is not known; what lies further off along the axle than
    ``FAR_MM`` is told by that distance.
    """
    count, wide = len(clock_rad), len(things)
    if not is_placed(body, clock_rad) or not wide:
        return np.full((count, wide), UNKNOWN)
    low, high = np.array([(thing.z0, thing.z1) for thing in things]).T
    z0, z1 = body.heights
    heights = np.maximum(low[:, None] - z1, z0 - high[:, None])
    nearest = heights.min(axis=1)
    out = np.broadcast_to(nearest, (count, wide)).copy()
    near = np.flatnonzero(nearest < FAR_MM)
    if not len(near):
        return out
    groups: dict[tuple[int, ...], list[int]] = {}
    for j in near.tolist():
        groups.setdefault(_deciding(body.slices, heights[j].tolist()), []).append(j)
    wanted = sorted({k for row in groups for k in row})
    drawn = slice_shapes(body, wanted, clock_rad, pulled)
    for row, members in groups.items():
        some = drawn[:, [wanted.index(k) for k in row]]
        gaps = with_height(_plan_gaps(some, [things[j] for j in members]), heights[members][:, row].T)
        out[:, members] = gaps.min(axis=1)
    return out


def _plan_gaps(slices: Shapes, things: list[Prism]) -> FloatArray:
    """Return (n, k, m) float, mm: the distances in plan of (n, k) ``slices`` from m things."""
    if any(thing.bore > 0.0 or isinstance(thing.shape, np.ndarray) for thing in things):
        return np.stack([plan_gap(thing, slices.T).T for thing in things], axis=-1)
    shapes, grown = np.array([thing.shape for thing in things]), np.array([thing.radius for thing in things])
    return np.asarray(distance(slices[:, :, None], shapes) - grown)


def _deciding(slices: tuple[BodySlice, ...], heights: list[float]) -> tuple[int, ...]:
    """Return the places of the slices that can decide: not those that lie within another one's plan, further off."""
    reach = [one.reach for one in slices]
    order = sorted(range(len(slices)), key=lambda k: (max(heights[k], 0.0), reach[k][0] - reach[k][1]))
    kept: list[int] = []
    for k in order:
        if not any(
            slices[o].whole and reach[o][0] <= reach[k][0] + 1e-9 and reach[o][1] >= reach[k][1] - 1e-9 for o in kept
        ):  # those kept are no further off along the axle
            kept.append(k)
    return tuple(kept)

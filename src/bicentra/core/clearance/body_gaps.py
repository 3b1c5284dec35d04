"""How near the caliper's body comes to upright things, for one clock angle or for many: slice by slice, never box by box."""

from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.geometry.frame import in_plane
from bicentra.core.geometry.gaps import distance, with_height
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import FAR_MM, Prism, Prisms, Shapes, plan_gap
from bicentra.core.lineup.body import Body, slice_table


def is_placed(body: Body, clock_rad: FloatArray) -> bool:
    """Tell whether the body can be drawn at every one of the angles [rad]."""
    return body.is_known and bool(np.isfinite(clock_rad).all())


def slice_shapes(body: Body, wanted: Sequence[int], clock_rad: FloatArray, pulled: float = 0.0) -> Shapes:
    """Return (n, k) polygons: the k ``wanted`` slices seen along the axle at n clock angles [rad], or what they sweep
    when they are ``pulled`` outward along the caliper's radius [mm].
    """
    table, many = slice_table(body.slices), len(wanted)
    corners, which = table.corners, table.which
    if many < len(body.slices):
        place = np.full(len(body.slices), -1)
        place[list(wanted)] = range(many)
        held = place[which] >= 0
        corners, which = corners[held], place[which[held]]
    corners = corners + np.array([body.at[1], 0.0])
    if pulled:
        corners, which = np.concatenate([corners, corners + np.array([pulled, 0.0])]), np.concatenate([which, which])
        order = np.argsort(which, kind="stable")
        corners, which = corners[order], which[order]
    count = len(clock_rad)
    places = in_plane(clock_rad, corners[:, 0], corners[:, 1]).reshape(-1, 2)
    indices = (which + many * np.arange(count)[:, None]).ravel()
    rings = shapely.linearrings(places, indices=indices)
    found: Shapes = (shapely.convex_hull(rings) if pulled else shapely.polygons(rings)).reshape(count, -1)
    return found


def body_gaps(body: Body, clock_rad: FloatArray, things: Prisms, pulled: float = 0.0) -> FloatArray:
    """Return (n, m) float, mm: the room between the body and each of m ``things`` at each of n clock angles [rad].

    ``pulled`` [mm]: the body on its way outward. Unknown where a place is unknown; what lies further off along the axle than
    ``FAR_MM`` is told by that distance.
    """
    count, wide = len(clock_rad), len(things)
    if not is_placed(body, clock_rad) or not wide:
        return np.full((count, wide), UNKNOWN)
    low, high = np.array([(thing.z0, thing.z1) for thing in things]).T
    z0, z1 = body.heights
    heights = np.maximum(low[:, None] - z1, z0 - high[:, None])
    nearest = heights.min(axis=1)
    out = np.empty((count, wide))
    out[:] = nearest
    near = np.flatnonzero(nearest < FAR_MM)
    if not len(near):
        return out
    of, cut = np.nonzero(_deciding(body, heights[near]))  # one row a pair that can decide, thing by thing
    used = np.zeros(len(body.slices), dtype=bool)
    used[cut] = True
    drawn = slice_shapes(body, np.flatnonzero(used).tolist(), clock_rad, pulled)[:, (np.cumsum(used) - 1)[cut]]
    gaps = with_height(_plan_gaps(drawn, [things[j] for j in near.tolist()], of), heights[near[of], cut])
    out[:, near] = np.minimum.reduceat(gaps, np.searchsorted(of, np.arange(len(near))), axis=1)
    return out


def _plan_gaps(slices: Shapes, things: list[Prism], of: NDArray[np.intp]) -> FloatArray:
    """Return (n, p) float, mm: the distances in plan of (n, p) ``slices`` from the things at the places ``of``, (p,), rising."""
    if not any(thing.bore > 0.0 or isinstance(thing.shape, np.ndarray) for thing in things):
        shapes, grown = np.array([thing.shape for thing in things]), np.array([thing.radius for thing in things])
        return np.asarray(distance(slices, shapes[of]) - grown[of])
    columns = [plan_gap(thing, slices[:, of == j].T).T for j, thing in enumerate(things)]
    return np.concatenate(columns, axis=1)


def _deciding(body: Body, heights: FloatArray) -> NDArray[np.bool_]:
    """Return (m, k) bool: the slices that can decide for each of m things at ``heights``, (m, k) [mm], from them along
    the axle: not those that lie within another one's plan, further off.
    """
    table = slice_table(body.slices)
    order = np.lexsort((np.broadcast_to(table.narrow, heights.shape), np.maximum(heights, 0.0)))
    rank = np.empty_like(order)
    rank[np.arange(len(order))[:, None], order] = np.arange(order.shape[1])
    return np.asarray(~(table.covers & (rank[:, :, None] < rank[:, None, :])).any(axis=1))

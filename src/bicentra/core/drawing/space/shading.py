"""How bright a mesh is: normals at the corners of its faces, smooth over round things and split at their edges."""

import math
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from bicentra.core.drawing.space.scene import SceneBody

Floats = NDArray[np.float64]
SPLIT_COS = math.cos(math.radians(35.0))
"""Faces that meet at more than this angle have an edge between them (our choice)."""
MERGED_MM = 1e-4


def corner_normals(body: SceneBody) -> Floats:
    """Return (m, 3, 3) float: at each corner of m faces the unit normal of what is smooth there; kept per body."""
    return _of(_Same(body))


class _Same:
    """A body by what it is, not by what it looks like: its arrays cannot be hashed."""

    def __init__(self, body: SceneBody) -> None:
        self.body = body

    def __hash__(self) -> int:
        return id(self.body.triangles)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Same) and other.body.triangles is self.body.triangles


@lru_cache(maxsize=256)
def _of(same: _Same) -> Floats:
    body = same.body
    triangles = body.corners[body.triangles]
    weighted = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0])
    long = np.linalg.norm(weighted, axis=1, keepdims=True)
    plain = weighted / np.where(long > 0, long, 1.0)
    vertex = merged_corners(body)[body.triangles].reshape(-1)
    one, other = _sharing(vertex)
    near = (plain[one // 3] * plain[other // 3]).sum(axis=1) > SPLIT_COS
    summed = np.zeros((len(vertex), 3))
    np.add.at(summed, one[near], weighted[other[near] // 3])
    size = np.linalg.norm(summed, axis=1, keepdims=True)
    return (summed / np.where(size > 0, size, 1.0)).reshape(-1, 3, 3)


def merged_corners(body: SceneBody) -> NDArray[np.intp]:
    """Return (n,) for each corner the number of the place where it lies: corners at one place have the same."""
    _, place = np.unique(np.round(body.corners / MERGED_MM).astype(np.int64), axis=0, return_inverse=True)
    return place.reshape(-1)


def _sharing(vertex: NDArray[np.intp]) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Return all pairs of corners that lie at the same vertex, each with itself too."""
    order = np.argsort(vertex, kind="stable")
    _, first, many = np.unique(vertex[order], return_index=True, return_counts=True)
    each = np.repeat(many, many)
    one = np.repeat(order, each)
    start = np.repeat(np.repeat(first, many), each)
    step = np.arange(int(each.sum())) - np.repeat(np.cumsum(each) - each, each)
    return one, order[start + step]

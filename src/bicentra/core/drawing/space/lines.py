"""The visible edges of a scene as lines: where faces meet at an angle, and outlines; what lies behind something is left out."""

import numpy as np

from bicentra.core.base.records import replace
from bicentra.core.drawing.space.raster import Eye, Floats, Mask, Places, depth_of
from bicentra.core.drawing.space.scene import Scene, SceneBody
from bicentra.core.drawing.space.shading import SPLIT_COS, merged_corners

PX_PER_MM, MOST_PX, CLEAR_MM = 4.0, 3000.0, 1.1
"""How fine hidden lines are looked for [pixels per mm of the scene], how many pixels at most that takes across, and what lies no
further behind is still in sight [mm]."""


def visible_lines(scene: Scene, eye: Eye) -> Floats:
    """Return (n, 2, 2) float: both ends of every visible piece of an edge, mm to the right and up as the eye sees it, scale left
    out, about (0, 0) of the scene. Nothing is seen through: veiled bodies hide as others do.
    """
    bodies = tuple(replace(body, veil=False) for body in scene.bodies)
    if not bodies:
        return np.zeros((0, 2, 2))
    turn = eye.matrix()
    moved = [body.corners + np.array([0.0, 0.0, body.apart * eye.pull]) for body in bodies]
    every = np.concatenate(moved) @ turn.T
    low, high = every.min(axis=0), every.max(axis=0)
    fine = min(PX_PER_MM, MOST_PX / max(float((high - low)[:2].max()), 1.0))
    size = tuple(int(np.ceil((high[k] - low[k]) * fine)) + 8 for k in (0, 1))
    middle = turn.T @ ((low + high) / 2)
    depth = depth_of(
        replace(scene, bodies=bodies), replace(eye, scale=fine), (size[0], size[1]), tuple(middle.tolist())
    )
    behind = _deepest_near(depth)
    found = [
        _visible((corners - middle) @ turn.T, _edges_of(body, corners @ turn.T), behind, fine)
        for body, corners in zip(bodies, moved)
    ]
    return np.asarray(np.concatenate(found) + (turn @ middle)[:2])


def _deepest_near(depth: Floats) -> Floats:
    """Return at each pixel the farthest of it and its eight neighbours: an edge is seen where any of them lets it be."""
    wide = np.pad(depth, 1, constant_values=-np.inf)
    rows = np.minimum(np.minimum(wide[:-2], wide[1:-1]), wide[2:])
    return np.asarray(np.minimum(np.minimum(rows[:, :-2], rows[:, 1:-1]), rows[:, 2:]))


def _edges_of(body: SceneBody, seen: Floats) -> Places:
    """Return (m, 2) corner numbers of the edges to draw: sharp ones that look at the eye, outlines, and open ends."""
    place = merged_corners(body)
    a, b, c = (seen[body.triangles[:, k]] for k in range(3))
    normal = np.cross(b - a, c - a)
    normal /= np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-12)
    sides = np.concatenate([body.triangles[:, [k, (k + 1) % 3]] for k in range(3)])
    face = np.tile(np.arange(len(body.triangles)), 3)
    key = np.sort(place[sides], axis=1)
    order = np.lexsort((key[:, 1], key[:, 0]))
    key, sides, face = key[order], sides[order], face[order]
    first = np.flatnonzero(np.r_[True, (key[1:] != key[:-1]).any(axis=1)])
    many = np.diff(np.r_[first, len(key)])
    pair = first[many >= 2]
    one, other = normal[face[pair]], normal[face[pair + 1]]
    front, back = one[:, 2] > 1e-9, other[:, 2] > 1e-9
    sharp = ((one * other).sum(axis=1) < SPLIT_COS) & (front | back)
    drawn = np.r_[pair[sharp | (front != back)], first[many == 1]]
    return np.asarray(sides[drawn])


def _visible(seen: Floats, edges: Places, behind: Floats, fine: float) -> Floats:
    """Return (n, 2, 2) pieces of ``edges`` that nothing hides, mm as the eye sees them; ``fine`` pixels of ``behind`` a mm."""
    if not len(edges):
        return np.zeros((0, 2, 2))
    high, wide = behind.shape
    start, end = seen[edges[:, 0]], seen[edges[:, 1]]
    many = np.maximum(np.ceil(np.linalg.norm((end - start)[:, :2], axis=1) * fine).astype(np.intp), 1) + 1
    edge = np.repeat(np.arange(len(edges)), many)
    step = np.arange(int(many.sum())) - np.repeat(np.cumsum(many) - many, many)
    share = (step / (many[edge] - 1))[:, None]
    at = start[edge] * (1 - share) + end[edge] * share
    x = np.clip((wide / 2 + at[:, 0] * fine).astype(np.intp), 0, wide - 1)
    y = np.clip((high / 2 - at[:, 1] * fine).astype(np.intp), 0, high - 1)
    clear = at[:, 2] > behind[y, x] - CLEAR_MM
    first, last = _runs(clear, edge)
    return np.stack([at[first, :2], at[last, :2]], axis=1)


def _runs(clear: Mask, edge: Places) -> tuple[Places, Places]:
    """Return first and last place of each stretch of visible places of one edge; a single place is none."""
    same = np.r_[False, edge[1:] == edge[:-1]]
    begins = clear & ~(np.r_[False, clear[:-1]] & same)
    ends = clear & ~(np.r_[clear[1:], False] & np.r_[same[1:], False])
    first, last = np.flatnonzero(begins), np.flatnonzero(ends)
    long = last > first
    return first[long], last[long]

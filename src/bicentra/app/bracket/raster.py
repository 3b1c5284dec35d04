"""Bodies to a picture with a depth buffer, by NumPy alone: the same picture with and without a graphics card."""

import math
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.records import Record
from bicentra.core.drawing.views.solid_scene import Scene

Image = NDArray[np.uint8]
Pixels = NDArray[np.uint32]
Floats = NDArray[np.float64]
Places = NDArray[np.intp]
Mask = NDArray[np.bool_]
LIGHT = np.array([0.35, 0.55, 0.76])
SHADE_LEAST, CUT_SHADE = 0.38, 0.55
"""How bright a face turned from the light is, and the inside that a cut lays open."""
AT_ONCE = 400_000
"""Pixels of faces that are looked at in one go."""


class Eye(Record, frozen=True):
    """From where the scene is seen: turned about the vertical and tipped [rad], pixels a mm, pull apart [mm], cut or not."""

    yaw: float
    pitch: float
    scale: float
    pull: float = 0.0
    cut: bool = False

    def matrix(self) -> Floats:
        """Return (3, 3) float: rows are right, up and towards the eye in the hub frame."""
        cy, sy, cp, sp = math.cos(self.yaw), math.sin(self.yaw), math.cos(self.pitch), math.sin(self.pitch)
        return np.array([[cy, 0.0, -sy], [-sy * sp, cp, -cy * sp], [sy * cp, sp, cy * cp]])


def render(scene: Scene, colours: dict[str, tuple[int, int, int]], paper: tuple[int, int, int], eye: Eye, size: tuple[int, int],
           middle: tuple[float, float, float]) -> Image:  # fmt: skip
    """Return (height, width, 4), red, green, blue and 255, of the scene about ``middle``; veiled bodies cover every
    other pixel.
    """
    wide, high = size
    image = np.full((high, wide), _packed(np.array([paper], dtype=float))[0])
    depth: Floats = np.full((high, wide), -np.inf)
    turn = eye.matrix()
    veil = np.zeros((high, wide), dtype=bool)
    veil[::2, 1::2] = veil[1::2, ::2] = True
    side = _cut_side(scene, eye)
    for body in scene.bodies:
        corners = body.corners + np.array([0.0, 0.0, body.apart * eye.pull])
        flat = (corners - middle) @ turn.T
        seen = np.empty_like(flat)
        seen[:, 0], seen[:, 1], seen[:, 2] = (
            wide / 2 + flat[:, 0] * eye.scale,
            high / 2 - flat[:, 1] * eye.scale,
            flat[:, 2],
        )
        shades = _shades(corners[body.triangles])
        beyond = None if side is None else corners @ side[0] - side[1]
        _paint(
            image,
            depth,
            seen,
            body.triangles,
            shades,
            np.array(colours[body.ink], dtype=float),
            veil if body.veil else None,
            beyond,
        )
    return image.view(np.uint8).reshape(high, wide, 4)


def _packed(colours: Floats) -> Pixels:
    """Return (m,) pixels of (m, 3) colours: four bytes in one number are moved in one go."""
    four = np.full((len(colours), 4), 255, dtype=np.uint8)
    four[:, :3] = np.clip(colours, 0, 255)
    return four.view(np.uint32)[:, 0]


def _cut_side(scene: Scene, eye: Eye) -> tuple[Floats, float] | None:
    if not eye.cut or not math.isfinite(scene.cut[1]):
        return None
    return np.array(scene.cut[0]), scene.cut[1]


def _shades(triangles: Floats) -> Floats:
    """Return (m,) brightness of each face."""
    normal = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0])
    long = np.linalg.norm(normal, axis=1)
    lit = normal @ LIGHT / np.where(long > 0, long, 1.0)
    return np.asarray(SHADE_LEAST + (1.0 - SHADE_LEAST) * np.clip(0.5 + 0.5 * lit, 0.0, 1.0))


def _paint(
    image: Pixels, depth: Floats, seen: Floats, triangles: Places, shades: Floats, colour: Floats, veil: Mask | None,
    beyond: Floats | None,
) -> None:  # fmt: skip
    """Fill every face that looks at the eye, nearest first wins; beyond a cut nothing is filled, and insides are seen.

    Rows of all faces at once, then the pixels of all rows: work grows with the pixels that are covered, not with the faces.
    """
    a, b, c = seen[triangles[:, 0]], seen[triangles[:, 1]], seen[triangles[:, 2]]
    area = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    front = area < -1e-9
    face = np.flatnonzero(np.abs(area) > 1e-9 if beyond is not None else front)
    corners = a[face], b[face], c[face]
    lit = _packed(colour * np.where(front, shades, CUT_SHADE)[face, None])
    rows = _rows(corners, depth.shape)
    away = None if beyond is None else _slopes(corners, beyond[triangles[face]])
    deep = _slopes(corners, np.stack([corner[:, 2] for corner in corners], axis=-1))
    for part in _parts(rows.count):
        _fill(image, depth, rows, part, lit, deep, away, veil)


class _Rows(Record, frozen=True):
    """Stretches of pixels, (n,) each: the face they are of, their row, first column, and how many."""

    face: Places
    row: Places
    first: Places
    count: Places


def _rows(corners: tuple[Floats, Floats, Floats], shape: tuple[int, int]) -> _Rows:
    """Return the stretches of pixels whose middles lie in each of m faces: between the long edge from top to bottom and
    the two short ones.
    """
    high, wide = shape
    points = np.stack(corners)[..., :2]
    order = np.argsort(points[..., 1], axis=0, kind="stable")
    upper, middle, lower = np.take_along_axis(points, order[..., None], axis=0)
    top = np.clip(np.ceil(upper[:, 1] - 0.5).astype(np.intp), 0, high)
    bottom = np.clip(np.floor(lower[:, 1] - 0.5).astype(np.intp), -1, high - 1)
    many = np.maximum(bottom - top + 1, 0)
    _, row = _spread(many, top)
    y = row.astype(np.float64) + 0.5
    one = _crossing(upper, lower, many, y)
    above = y < np.repeat(middle[:, 1], many)
    other = np.where(above, _crossing(upper, middle, many, y), _crossing(middle, lower, many, y))
    first = np.ceil(np.clip(np.minimum(one, other) - 0.5, 0, wide)).astype(np.intp)
    last = np.floor(np.clip(np.maximum(one, other) - 0.5, -1, wide - 1)).astype(np.intp)
    count = np.maximum(last - first + 1, 0)
    kept = np.flatnonzero(count)
    return _Rows(np.repeat(np.arange(len(many)), many)[kept], row[kept], first[kept], count[kept])


def _crossing(upper: Floats, lower: Floats, many: Places, y: Floats) -> Floats:
    """Return where (m, 2) edges cross the rows ``y``, ``many`` of them for each edge; a level one has its upper end."""
    high = lower[:, 1] - upper[:, 1]
    slope = np.where(high > 0.0, (lower[:, 0] - upper[:, 0]) / np.where(high > 0.0, high, 1.0), 0.0)
    return np.asarray(np.repeat(upper[:, 0], many) + (y - np.repeat(upper[:, 1], many)) * np.repeat(slope, many))


def _spread(many: Places, first: Places) -> tuple[Places, Places]:
    """Return, for stretches of ``many`` numbers from ``first`` on, the place in its stretch of each number, and the numbers."""
    at = np.arange(int(many.sum())) - np.repeat(np.cumsum(many) - many, many)
    return at, at + np.repeat(first, many)


def _slopes(corners: tuple[Floats, Floats, Floats], values: Floats) -> Floats:
    """Return (m, 3): value at (0, 0) and its slopes along x and y of what is given at (m, 3) corners and linear between."""
    a, b, c = corners
    ux, uy, vx, vy = (b - a)[:, 0], (b - a)[:, 1], (c - a)[:, 0], (c - a)[:, 1]
    du, dv = values[:, 1] - values[:, 0], values[:, 2] - values[:, 0]
    area = ux * vy - uy * vx
    along, down = (du * vy - dv * uy) / area, (dv * ux - du * vx) / area
    return np.stack([values[:, 0] - along * a[:, 0] - down * a[:, 1], along, down], axis=-1)


def _parts(count: Places) -> list[slice]:
    """Return the stretches in parts of at most about ``AT_ONCE`` pixels."""
    ends = np.cumsum(count)
    if not len(ends):
        return []
    cuts = np.unique(np.searchsorted(ends, np.arange(AT_ONCE, ends[-1], AT_ONCE), side="left") + 1)
    edges = [0, *(int(cut) for cut in cuts if cut < len(count)), len(count)]
    return [slice(low, high) for low, high in pairwise(edges)]


def _fill(
    image: Pixels, depth: Floats, rows: _Rows, part: slice, lit: Pixels, deep: Floats, away: Floats | None,
    veil: Mask | None,
) -> None:  # fmt: skip
    """Fill the pixels of a part of the stretches: each with the nearest face that covers it."""
    face, row, first, count = rows.face[part], rows.row[part], rows.first[part], rows.count[part]
    at, pixel = _spread(count, row * depth.shape[1] + first)
    z = _along(deep[face], first, row, count, at)
    flat = depth.reshape(-1)
    ahead = z > flat[pixel]
    if veil is not None:
        ahead &= veil.reshape(-1)[pixel]
    if away is not None:
        ahead &= _along(away[face], first, row, count, at) <= 0.0
    left = np.flatnonzero(ahead)
    pixel, z, whose = pixel[left], z[left], np.repeat(face, count)[left]
    np.maximum.at(flat, pixel, z)
    won = np.flatnonzero(z == flat[pixel])
    image.reshape(-1)[pixel[won]] = lit[whose[won]]


def _along(slopes: Floats, first: Places, row: Places, count: Places, at: Places) -> Floats:
    """Return what is linear over a face, of (n, 3) ``slopes``, in every pixel of n stretches."""
    begin = slopes[:, 0] + slopes[:, 1] * (first + 0.5) + slopes[:, 2] * (row + 0.5)
    return np.asarray(np.repeat(begin, count) + np.repeat(slopes[:, 1], count) * at)

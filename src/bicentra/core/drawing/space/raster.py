"""Bodies to a picture with a depth buffer, by NumPy alone: the same picture with and without a graphics card."""

import math
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.records import Record, replace
from bicentra.core.drawing.space.scene import Scene
from bicentra.core.drawing.space.shading import corner_normals

Image = NDArray[np.uint8]
Floats = NDArray[np.float64]
Places = NDArray[np.intp]
Mask = NDArray[np.bool_]
Tones = NDArray[np.float32]
Bodies = NDArray[np.int16]
LIGHT = np.array([-0.37, 0.51, 0.78])
"""Where the light comes from, as the eye sees it: over the left shoulder."""
SHADE_LEAST, CUT_SHADE, HATCH_PX = 0.42, 0.86, 5
"""How bright a face turned from the light is, the metal that a cut lays open, and how wide the stripes on that are [px]."""
EDGE_COS, STEP_MM, EDGE_SHARE = 0.82, 2.5, 0.72
"""Faces that meet at more than 35° have an edge (cosine), so have steps in depth [mm]; how dark it is drawn."""
VEIL, VEIL_EDGE = 0.45, 0.85
"""How much of a veiled body is seen, and of its edges; the rest is what lies behind."""
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


class Layer(Record, frozen=True):
    """What is seen of some bodies, pixel by pixel: ``bright`` (h, w) float32, ``depth`` (h, w) mm towards the eye, ``whose``
    (h, w) number of the body or −1, ``face`` (h, w) number of the face in ``normals``, (n, 3), which grows body by body;
    −1 for paper, below that for the cut of a body.
    """

    bright: Tones
    depth: Floats
    whose: Bodies
    face: NDArray[np.int32]
    normals: list[Floats]


def render(scene: Scene, colours: dict[str, tuple[int, int, int]], paper: tuple[int, int, int], eye: Eye, size: tuple[int, int],
           middle: tuple[float, float, float], finer: int = 1) -> tuple[Image, Bodies]:  # fmt: skip
    """Return (height, width, 4), red, green, blue and 255, of the scene about ``middle`` [mm], and (height, width) which body
    is seen in each pixel, −1 for paper. Veiled bodies are a layer of their own that is seen through. ``finer``: how many
    times finer the picture is made than it is returned, which smooths its edges.
    """
    wide, high = size[0] * finer, size[1] * finer
    near = replace(eye, scale=eye.scale * finer)
    solid, veil = (_layer(scene, near, (wide, high), middle, veiled) for veiled in (False, True))
    tags = list(dict.fromkeys(body.tag for body in scene.bodies))
    of_tag = np.array([*(tags.index(body.tag) for body in scene.bodies), -1])
    inks = np.array([*(colours[body.ink] for body in scene.bodies), paper], dtype=np.float32)
    lines, veil_lines = (_edges(layer, of_tag, near.scale) for layer in (solid, veil))
    there = veil.depth > solid.depth
    share = np.where(there, np.where(veil_lines, VEIL_EDGE, VEIL), 0.0).astype(np.float32)
    ink = np.float32(20.0 if sum(paper) > 380 else 225.0)
    image = np.full((size[1], size[0], 4), 255, dtype=np.uint8)
    for channel in range(3):
        below, above = (
            _toned(layer, inks[:, channel], edge, ink) for layer, edge in ((solid, lines), (veil, veil_lines))
        )
        image[..., channel] = np.clip(_coarser(below + (above - below) * share, finer), 0, 255)
    return image, np.where(there, veil.whose, solid.whose)[::finer, ::finer]


def depth_of(scene: Scene, eye: Eye, size: tuple[int, int], middle: tuple[float, ...]) -> Floats:
    """Return (height, width) mm towards the eye of what is nearest in each pixel of ``size``, −inf for paper."""
    return _layer(scene, eye, size, (middle[0], middle[1], middle[2]), False).depth


def _toned(layer: Layer, inks: Tones, edge: Mask, ink: np.float32) -> Tones:
    """Return (h, w) one channel of a layer: each body in its colour, as bright as it is, its edges drawn."""
    plain = inks[layer.whose] * layer.bright
    plain[edge] += (ink - plain[edge]) * EDGE_SHARE
    return plain


def _coarser(channel: Tones, finer: int) -> Tones:
    """Return the mean of each square of ``finer`` pixels."""
    if finer == 1:
        return channel
    summed = sum(channel[y::finer, x::finer] for y in range(finer) for x in range(finer))
    return np.asarray(summed / np.float32(finer * finer))


def _layer(scene: Scene, eye: Eye, size: tuple[int, int], middle: tuple[float, float, float], veiled: bool) -> Layer:
    """Return the layer of the bodies that are ``veiled``, or of those that are not."""
    wide, high = size
    layer = Layer(
        np.ones((high, wide), dtype=np.float32),
        np.full((high, wide), -np.inf),
        np.full((high, wide), -1, dtype=np.int16),
        np.full((high, wide), -1, dtype=np.int32),
        [],
    )
    turn, side = eye.matrix(), _cut_side(scene, eye)
    meshes = [
        _Mesh(
            body.corners + np.array([0.0, 0.0, body.apart * eye.pull]),
            body.triangles,
            corner_normals(body),
            np.full(len(body.triangles), number, dtype=np.int16),
        )
        for number, body in enumerate(scene.bodies)
        if body.veil == veiled
    ]
    for mesh in meshes if side is not None else _joined(meshes):
        flat = (mesh.corners - middle) @ turn.T
        seen = np.stack([wide / 2 + flat[:, 0] * eye.scale, high / 2 - flat[:, 1] * eye.scale, flat[:, 2]], axis=-1)
        beyond, cap = None, None
        if side is not None:
            beyond = mesh.corners @ side[0] - side[1]
            cap = _plane(turn @ side[0], side[1] - float(side[0] @ np.array(middle)), eye.scale, size)
        _paint(layer, seen, replace(mesh, normals=mesh.normals @ turn.T), beyond, cap)
    return layer


class _Mesh(Record, frozen=True):
    """Corners (n, 3) mm, triangles (m, 3), normals at their corners (m, 3, 3), the body each face belongs to (m,)."""

    corners: Floats
    triangles: Places
    normals: Floats
    body: Bodies


def _joined(meshes: list[_Mesh]) -> list[_Mesh]:
    """Return meshes as one: what is not cut is painted in one go."""
    if not meshes:
        return []
    starts = np.cumsum([0, *(len(mesh.corners) for mesh in meshes)])
    return [
        _Mesh(
            np.concatenate([mesh.corners for mesh in meshes]),
            np.concatenate([mesh.triangles + start for mesh, start in zip(meshes, starts)]),
            np.concatenate([mesh.normals for mesh in meshes]),
            np.concatenate([mesh.body for mesh in meshes]),
        )
    ]


def _cut_side(scene: Scene, eye: Eye) -> tuple[Floats, float] | None:
    if not eye.cut or not math.isfinite(scene.cut[1]):
        return None
    return np.array(scene.cut[0]), scene.cut[1]


def _plane(normal: Floats, distance: float, scale: float, size: tuple[int, int]) -> Floats | None:
    """Return (1, 3): the depth of a plane at pixel (0, 0) and its slopes along x and y; ``None`` for one seen edgeways."""
    if abs(normal[2]) < 1e-6:
        return None
    along, down = -normal[0] / normal[2] / scale, normal[1] / normal[2] / scale
    return np.array([[distance / normal[2] - along * size[0] / 2 - down * size[1] / 2, along, down]])


def _paint(layer: Layer, seen: Floats, body: _Mesh, beyond: Floats | None, cap: Floats | None) -> None:
    """Paint a mesh into ``layer`` where it is nearest. Where a cut lays its inside open, the cut itself is painted: the
    plane's depth, a hatch.

    Rows of all faces at once, then the pixels of all rows: work grows with the pixels that are covered, not with the faces.
    """
    high, wide = layer.depth.shape
    x0, y0 = np.clip(np.floor(seen[:, :2].min(axis=0)).astype(int), 0, (wide, high))
    x1, y1 = np.clip(np.ceil(seen[:, :2].max(axis=0)).astype(int) + 1, 0, (wide, high))
    moved = seen - np.array([x0, y0, 0.0])
    a, b, c = (moved[body.triangles[:, k]] for k in range(3))
    area = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    front = area < -1e-9
    face = np.flatnonzero(np.abs(area) > 1e-9 if beyond is not None else front)
    if x1 <= x0 or y1 <= y0 or not len(face):
        return
    corners = a[face], b[face], c[face]
    depth, nearest = np.full((y1 - y0, x1 - x0), -np.inf), np.full((y1 - y0, x1 - x0), -1, dtype=np.int32)
    rows = _rows(corners, depth.shape)
    away = None if beyond is None else _slopes(corners, beyond[body.triangles[face]])
    deep = _slopes(corners, np.stack([corner[:, 2] for corner in corners], axis=-1))
    for part in _parts(rows.count):
        _fill(depth, nearest, rows, part, deep, away)
    region = (slice(y0, y1), slice(x0, x1))
    pixel = np.flatnonzero(depth > layer.depth[region] if cap is None else nearest >= 0)
    which, z = nearest.reshape(-1)[pixel], depth.reshape(-1)[pixel]
    y, x = np.divmod(pixel, x1 - x0)
    inside = None
    if cap is not None and not front[face].all():
        inside = ~front[face][which]
        z = np.where(inside, cap[0, 0] + cap[0, 1] * (x + x0 + 0.5) + cap[0, 2] * (y + y0 + 0.5), z)
        ahead = z > layer.depth[region].reshape(-1)[pixel] + 1e-9
        y, x, which, z, inside = y[ahead], x[ahead], which[ahead], z[ahead], inside[ahead]
    lit = _slopes(corners, _brightness(body.normals[face]))
    bright = np.clip(lit[which, 0] + lit[which, 1] * (x + 0.5) + lit[which, 2] * (y + 0.5), SHADE_LEAST, 1.0)
    numbers = which + sum(map(len, layer.normals))
    if inside is not None:
        hatch = np.where((x + x0 + y + y0) // HATCH_PX % 2 == 0, CUT_SHADE, CUT_SHADE - 0.12)
        bright, numbers = (
            np.where(inside, hatch, bright),
            np.where(inside, -2 - body.body[face][which].astype(np.int32), numbers),
        )
    at = (y + y0, x + x0)
    layer.depth[at], layer.whose[at], layer.bright[at], layer.face[at] = z, body.body[face][which], bright, numbers
    layer.normals.append(_face_normals(body.normals[face]))


def _brightness(normals: Floats) -> Floats:
    """Return (m, 3) how bright m faces are at their corners, for (m, 3, 3) normals as the eye sees them: soft light from over
    the shoulder.
    """
    lit = np.clip(0.5 + 0.5 * (normals @ LIGHT), 0.0, 1.0)
    return np.asarray(SHADE_LEAST + (1.0 - SHADE_LEAST) * lit**1.4)


def _face_normals(normals: Floats) -> Floats:
    """Return (m, 3) how m faces look, the middle of their corners' normals (m, 3, 3)."""
    mean = normals.mean(axis=1)
    long = np.linalg.norm(mean, axis=1, keepdims=True)
    return np.asarray(mean / np.where(long > 0, long, 1.0))


def _edges(layer: Layer, of_tag: Places, scale: float) -> Mask:
    """Return where an edge runs: another thing beside, a face at an angle to it, a cut, or a step in depth.

    Only where two faces meet can there be one: all else is passed by.
    """
    found = np.zeros(layer.depth.shape, dtype=bool)
    normals = np.concatenate([*layer.normals, np.zeros((1, 3))])
    wide, flat = layer.depth.shape[1], found.reshape(-1)
    face, whose, depth = layer.face.reshape(-1), layer.whose.reshape(-1), layer.depth.reshape(-1)
    for step, meets in ((1, layer.face[:, 1:] != layer.face[:, :-1]), (wide, layer.face[1:] != layer.face[:-1])):
        y, x = np.nonzero(meets)
        one = y * wide + x
        other = one + step
        cut = (face[one] < -1) | (face[other] < -1)
        here, there = normals[np.maximum(face[one], -1)], normals[np.maximum(face[other], -1)]
        angle = (here * there).sum(axis=1) < EDGE_COS
        slope = np.hypot(here[:, 0], here[:, 1]) / np.maximum(np.abs(here[:, 2]), 0.05) / scale
        with np.errstate(invalid="ignore"):
            nearer = depth[one] >= depth[other]
            far = np.abs(depth[one] - depth[other]) > STEP_MM + 2.0 * slope
        differs = of_tag[whose[one]] != of_tag[whose[other]]
        edge = differs | far | ((angle | cut) & (face[one] != face[other]))
        flat[np.where(nearer, one, other)[edge]] = True
    return found


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
    depth: Floats, nearest: NDArray[np.int32], rows: _Rows, part: slice, deep: Floats, away: Floats | None
) -> None:
    """Keep, in the pixels of a part of the stretches, the nearest face that covers each; nothing beyond a cut."""
    face, row, first, count = rows.face[part], rows.row[part], rows.first[part], rows.count[part]
    at, pixel = _spread(count, row * depth.shape[1] + first)
    z = _along(deep[face], first, row, count, at)
    flat = depth.reshape(-1)
    ahead = z > flat[pixel]
    if away is not None:
        ahead &= _along(away[face], first, row, count, at) <= 0.0
    left = np.flatnonzero(ahead)
    pixel, z, whose = pixel[left], z[left], np.repeat(face, count)[left]
    np.maximum.at(flat, pixel, z)
    won = np.flatnonzero(z == flat[pixel])
    nearest.reshape(-1)[pixel[won]] = whose[won]


def _along(slopes: Floats, first: Places, row: Places, count: Places, at: Places) -> Floats:
    """Return what is linear over a face, of (n, 3) ``slopes``, in every pixel of n stretches."""
    begin = slopes[:, 0] + slopes[:, 1] * (first + 0.5) + slopes[:, 2] * (row + 0.5)
    return np.asarray(np.repeat(begin, count) + np.repeat(slopes[:, 1], count) * at)

"""Bodies to a picture with a depth buffer, by NumPy alone: the same picture with and without a graphics card."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bicentra.core.drawing.solid_scene import Scene

Image = NDArray[np.uint8]
Floats = NDArray[np.float64]
LIGHT = np.array([0.35, 0.55, 0.76])
SHADE_LEAST, CUT_SHADE = 0.38, 0.55
"""How bright a face turned from the light is, and the inside that a cut lays open."""


@dataclass(frozen=True)
class Eye:
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
    """Return (height, width, 3) of the scene about ``middle``; veiled bodies cover every other pixel."""
    wide, high = size
    image: Image = np.empty((high, wide, 3), dtype=np.uint8)
    image[:] = paper
    depth: Floats = np.full((high, wide), -np.inf)
    turn = eye.matrix()
    veil = (np.add.outer(np.arange(high), np.arange(wide)) % 2).astype(bool)
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
    return image


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
    image: Image, depth: Floats, seen: Floats, triangles: NDArray[np.intp], shades: Floats, colour: Floats,
    veil: NDArray[np.bool_] | None, beyond: Floats | None,
) -> None:  # fmt: skip
    """Fill every face that looks at the eye, nearest first wins; beyond a cut nothing is filled, and insides are seen."""
    high, wide = depth.shape
    a, b, c = seen[triangles[:, 0]], seen[triangles[:, 1]], seen[triangles[:, 2]]
    area = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    front = area < -1e-9
    kept = np.abs(area) > 1e-9 if beyond is not None else front
    lows = np.floor(np.minimum(np.minimum(a, b), c)[:, :2]).astype(int)
    highs = np.ceil(np.maximum(np.maximum(a, b), c)[:, :2]).astype(int) + 1
    kept &= (highs[:, 0] > 0) & (highs[:, 1] > 0) & (lows[:, 0] < wide) & (lows[:, 1] < high)
    for k in np.flatnonzero(kept):
        x0, y0 = max(lows[k, 0], 0), max(lows[k, 1], 0)
        x1, y1 = min(highs[k, 0], wide), min(highs[k, 1], high)
        px, py = np.arange(x0, x1) + 0.5, (np.arange(y0, y1) + 0.5)[:, None]
        (ax, ay, az), (bx, by, bz), (cx, cy, cz) = a[k], b[k], c[k]
        w0 = ((bx - px) * (cy - py) - (by - py) * (cx - px)) / area[k]
        w1 = ((cx - px) * (ay - py) - (cy - py) * (ax - px)) / area[k]
        w2 = 1.0 - w0 - w1
        z = w0 * az + w1 * bz + w2 * cz
        there = depth[y0:y1, x0:x1]
        inside = (w0 >= 0) & (w1 >= 0) & (w2 >= 0) & (z > there)
        if veil is not None:
            inside &= veil[y0:y1, x0:x1]
        if beyond is not None:
            i, j, m = triangles[k]
            inside &= w0 * beyond[i] + w1 * beyond[j] + w2 * beyond[m] <= 0.0
        there[inside] = z[inside]
        shade = shades[k] if front[k] else CUT_SHADE
        image[y0:y1, x0:x1][inside] = np.clip(colour * shade, 0, 255)

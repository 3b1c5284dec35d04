"""A plate bent twice: where its flat pattern goes when it is folded along its two bend lines.

Two equal bends of angle θ about an inside radius R on plate t: the neutral line runs at R + K t, so each bend takes
BA = θ (R + K t) of the flat pattern; a bend line is drawn in the middle of that. On the middle surface the jog is
J = 2 (R + t/2)(1 − cos θ) + w sin θ and its run X = 2 (R + t/2) sin θ + w cos θ, with w the straight web (plane geometry).
"""

import math

import numpy as np
import shapely

from bicentra.core.base.numbers import Pure
from bicentra.core.base.records import Record
from bicentra.core.bracket.model import MadePart
from bicentra.core.geometry.outline import FloatArray, Outline, Point


def neutral_factor(radius: float, thickness: float) -> Pure:
    """Return K, the neutral line's place in the thickness [mm of one mm]: ½ (0.65 + ½ log₁₀(R/t)), ½ at most (DIN 6935, from
    memory).
    """
    ratio = radius / thickness
    return 0.5 if ratio >= 5.0 else 0.5 * (0.65 + 0.5 * math.log10(ratio))


def bend_allowance(angle_deg: float, radius: float, thickness: float) -> float:
    """Return the length [mm] that a bend takes of the flat pattern: θ (R + K t)."""
    return math.radians(angle_deg) * (radius + neutral_factor(radius, thickness) * thickness)


class Fold(Record, frozen=True):
    """A flat pattern's two bends. ``u``: unit vector across the bend lines, from the first to the second.

    s is the place along ``u`` [mm]: the first bend begins at ``start``; up to there the plate stays as it is. ``up``: +1 when
    what lies beyond goes outboard. ``angle`` in radians; ``z0``: inboard face of what stays [mm].
    """

    u: Point
    start: float
    web: float
    angle: float
    radius: float
    thickness: float
    up: float
    z0: float

    @property
    def allowance(self) -> float:
        """What one bend takes of the flat pattern [mm]."""
        return bend_allowance(math.degrees(self.angle), self.radius, self.thickness)

    @property
    def flat(self) -> float:
        """Length of the jog in the flat [mm]."""
        return 2 * self.allowance + self.web

    @property
    def run(self) -> float:
        """Length of the jog along the plate when bent [mm]."""
        return 2 * (self.radius + self.thickness / 2) * math.sin(self.angle) + self.web * math.cos(self.angle)

    @property
    def height(self) -> float:
        """How far what lies beyond the bends is moved along z [mm]."""
        return 2 * (self.radius + self.thickness / 2) * (1 - math.cos(self.angle)) + self.web * math.sin(self.angle)

    def breaks(self, steps: int = 6) -> tuple[float, ...]:
        """Return the places along the flat pattern between which a mesh is straight enough [mm]."""
        first = [self.start + self.allowance * k / steps for k in range(steps + 1)]
        return (*first, *(s + self.allowance + self.web for s in first))

    def lifted(self, corners: FloatArray) -> FloatArray:
        """Return points (n, 3) [mm] of the flat plate where they lie once it is bent."""
        u = np.array([*self.u, 0.0])
        s, z = corners @ u, (corners[:, 2] - self.z0 - self.thickness / 2) * self.up
        bent, height = self._path(s - self.start, z)
        out: FloatArray = corners + (self.start + bent - s)[:, None] * u
        out[:, 2] = self.z0 + self.thickness / 2 + self.up * height
        return out

    def _path(self, t: FloatArray, z: FloatArray) -> tuple[FloatArray, FloatArray]:
        """Return run and height of points ``t`` past the first bend's beginning, ``z`` above the middle of the plate."""
        middle, ba = self.radius + self.thickness / 2, self.allowance
        one = np.clip(t / ba, 0.0, 1.0) * self.angle
        two = np.clip((t - ba - self.web) / ba, 0.0, 1.0) * self.angle
        web = np.clip(t - ba, 0.0, self.web)
        lean = one - two
        along = middle * (np.sin(one) + np.sin(self.angle) - np.sin(self.angle - two)) + web * math.cos(self.angle)
        rise = middle * (1 - np.cos(one) + np.cos(self.angle - two) - math.cos(self.angle)) + web * math.sin(self.angle)
        ends = np.minimum(t, 0.0) + np.maximum(t - self.flat, 0.0)
        return along + ends - z * np.sin(lean), rise + z * np.cos(lean)

    def profile(self, low: float, high: float) -> Outline:
        """Return the bent plate's section from ``low`` to ``high`` along s (x = s, y = z), counter-clockwise [mm]."""
        s = np.array([low, *(self.start + v for v in (0, self.allowance, self.allowance + self.web, self.flat))])
        s = np.append(s, self.start + self.flat + high - (self.start + self.run))
        bulge = math.tan(self.angle / 4)
        bends = (0.0, bulge, 0.0, -bulge, 0.0, 0.0)
        loops: list[tuple[float, float, float]] = []
        for side in (-1.0, 1.0):
            along, rise = self._path(s - self.start, np.full(6, side * self.thickness / 2))
            row = [
                (self.start + float(a), self.z0 + self.thickness / 2 + self.up * float(r)) for a, r in zip(along, rise)
            ]
            leaving = bends if side < 0 else (*(-b for b in bends[4::-1]), 0.0)
            loops += [(*p, b * self.up) for p, b in zip(row if side < 0 else row[::-1], leaving)]
        outline = Outline(tuple(loops))
        return outline if self.up > 0 else Outline(_turned(outline))


def _turned(outline: Outline) -> tuple[tuple[float, float, float], ...]:
    """Return the vertices run through the other way round."""
    pieces = outline.segments[::-1]
    return tuple((*piece.end, -piece.bulge) for piece in pieces)


def fold_of(part: MadePart) -> Fold | None:
    """Return how a plate with two bends folds; ``None`` for a plate without."""
    if len(part.bends) != 2:
        return None
    one, two = part.bends
    along = (one.b[0] - one.a[0], one.b[1] - one.a[1])
    long = math.hypot(*along)
    u = (along[1] / long, -along[0] / long)
    apart = (two.a[0] - one.a[0]) * u[0] + (two.a[1] - one.a[1]) * u[1]
    if apart < 0:
        u, apart = (-u[0], -u[1]), -apart
    allowance = bend_allowance(one.angle, one.radius, part.thickness)
    start = one.a[0] * u[0] + one.a[1] * u[1] - allowance / 2
    up = 1.0 if one.up else -1.0
    return Fold(u, start, apart - allowance, math.radians(one.angle), one.radius, part.thickness, up, part.z0)


def folded_plan(part: MadePart, fold: Fold) -> tuple[Outline | None, tuple[Point, ...]]:
    """Return outline and hole centres of the flat pattern as they lie, seen along the axle, once it is bent [mm]."""
    grown, middle = fold.flat - fold.run, fold.start + fold.flat / 2

    def back(x: float, y: float) -> Point:
        beyond = x * fold.u[0] + y * fold.u[1] > middle
        return (x - fold.u[0] * grown, y - fold.u[1] * grown) if beyond else (x, y)

    outline = part.outline and Outline(tuple((*back(x, y), bulge) for x, y, bulge in part.outline.vertices))
    return outline, tuple(back(*bore.centre) for bore in part.bores)


def bend_lines(part: MadePart) -> tuple[tuple[Point, ...], ...]:
    """Return the bend lines as far as they run on the flat pattern [mm]."""
    if part.outline is None:
        return ()
    plate = shapely.Polygon(part.outline.polygon(0.05))
    pieces = (shapely.LineString((bend.a, bend.b)).intersection(plate) for bend in part.bends)
    return tuple(tuple((float(x), float(y)) for x, y in shapely.get_coordinates(piece)) for piece in pieces)

"""The wheel's inside and the wheel's studs for a look in three dimensions, where somebody asks for them."""

import math

import numpy as np
import shapely

from bicentra.core.base.numbers import is_known, known
from bicentra.core.drawing.space.scene import APART, SEGMENTS, Indices, Scene, SceneBody, mirrored_scene, prism
from bicentra.core.evaluation.solution import Solution
from bicentra.core.geometry.hull import Points
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.lineup.solids import wheel_inside
from bicentra.core.parts.threads import find_thread

WHEEL_APART = 3.6
"""How far the wheel moves along the axle when the scene is pulled apart, as a share of the pull."""
RIM_MM, DISC_MM = 4.0, 8.0
"""How thick barrel and spokes are drawn [mm]; no size of anything."""


def with_wheel(scene: Scene, solution: Solution) -> Scene:
    """Return ``scene`` with studs and wheel besides, as far as they are known; the wheel is seen through."""
    bodies = (*_studs(solution), *_wheel(solution))
    more = Scene(bodies, scene.cut)
    if solution.job.is_left:
        more = mirrored_scene(more)
    return Scene((*scene.bodies, *more.bodies), scene.cut)


def _studs(solution: Solution) -> tuple[SceneBody, ...]:
    """The studs as long as they stick out of the hub's face, the first of them upright."""
    hub = solution.job.hub
    thread = find_thread(hub.stud_thread) if hub.stud_thread else None
    circle, long = known(hub.bolt_circle_mm) / 2, known(hub.stud_length_mm)
    if thread is None or not hub.stud_count or not is_known(circle, long):
        return ()
    turns = [math.pi / 2 + 2 * math.pi * k / hub.stud_count for k in range(hub.stud_count)]
    discs = [shapely.Point(circle * math.cos(t), circle * math.sin(t)).buffer(thread.major / 2, 5) for t in turns]
    return tuple(prism(disc, 0.0, long, "hub", "bolt", APART["hub"]) for disc in discs)


def _wheel(solution: Solution) -> tuple[SceneBody, ...]:
    wheel, seat = solution.job.wheel, solution.line.wheel_seat_z
    inside = wheel_inside(wheel) if wheel is not None else None
    if inside is None or not is_known(seat):
        return ()
    barrel, spokes = inside.barrel, inside.spokes
    shells = (
        (*barrel, *((z, r + RIM_MM) for z, r in reversed(barrel))),
        (*spokes, *((z + DISC_MM, r) for z, r in reversed(spokes))),
        *(points for _, points in inside.weights),
    )
    placed = (tuple((z + seat, r) for z, r in points) for points in shells)
    return tuple(revolved(points, "wheel", "wheel", WHEEL_APART, veil=True) for points in placed)


def revolved(outline: Points, tag: str, ink: str, apart: float, veil: bool = False) -> SceneBody:
    """Return a closed ``outline`` in (z, r) [mm] turned once about the axle, its faces seen from outside."""
    ring = np.array(outline, dtype=float)
    z, r = ring.T
    if float(np.sum(z * np.roll(r, -1) - np.roll(z, -1) * r)) < 0:
        ring = ring[::-1]
    turns = 2 * math.pi * np.arange(SEGMENTS) / SEGMENTS
    around: FloatArray = np.stack(
        [ring[:, 1] * np.cos(turns)[:, None], ring[:, 1] * np.sin(turns)[:, None], np.tile(ring[:, 0], (SEGMENTS, 1))],
        axis=-1,
    )
    count = len(ring)
    k, n = (grid.ravel() for grid in np.meshgrid(np.arange(SEGMENTS), np.arange(count), indexing="ij"))
    here, there, after = k * count, (k + 1) % SEGMENTS * count, (n + 1) % count
    a, b, c, d = here + n, here + after, there + after, there + n
    faces: Indices = np.concatenate([np.stack([a, b, c], axis=1), np.stack([a, c, d], axis=1)])
    return SceneBody(tag, ink, around.reshape(-1, 3), faces, apart, veil)

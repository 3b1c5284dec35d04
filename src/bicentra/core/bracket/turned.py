"""What goes round with the caliper, at n clock angles at once; what does not is not computed again while only the clock
angle changes.
"""

import math
from collections.abc import Callable
from functools import wraps
from typing import Concatenate, ParamSpec, TypeVar

import numpy as np

from bicentra.core.base.cache import IdentityCache
from bicentra.core.base.errors import OutlineError
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import replace
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.holes import Hole
from bicentra.core.bracket.plate import plate_discs
from bicentra.core.geometry.frame import ClockFrame, in_plane
from bicentra.core.geometry.outline import FloatArray, Point

P = ParamSpec("P")
R = TypeVar("R")


def unturned(step: Callable[Concatenate[Assembly, P], R]) -> Callable[Concatenate[Assembly, P], R]:
    """Return a step of the work whose answer does not depend on the clock angle, so that it keeps its last answers.

    A property of the tests holds every step so marked to its own plain answer.
    """
    kept = IdentityCache[R]()

    @wraps(step)
    def ask(assembly: Assembly, /, *args: P.args, **kwargs: P.kwargs) -> R:
        key = assembly.unturned
        if key is None:
            return step(assembly, *args, **kwargs)
        return kept.answer((key, args, tuple(kwargs.items())), lambda: step(assembly, *args, **kwargs))

    return ask


_CORNERS = 128
_TURN = np.arange(_CORNERS) * 2 * np.pi / _CORNERS
_WAYS = np.stack([np.cos(_TURN), np.sin(_TURN)], axis=-1)
"""(128, 2) float: unit vectors all round."""
ROUND_BOSS_MM = 0.05
"""By how much a polygon round bosses may be larger than those [mm]."""


def ear_centres(assembly: Assembly, clock_rad: FloatArray) -> FloatArray:
    """Return (n, 2, 2) float, mm: both ears' centres at n clock angles [rad]."""
    half = known(assembly.job.caliper.ear_spacing_mm) / 2
    line = assembly.line.ear_line_radius
    return in_plane(clock_rad, np.array([line, line]), np.array([half, -half]))


def hole_middles(assembly: Assembly, clock_rad: FloatArray) -> FloatArray:
    """Return (n, h, 2) float, mm: every hole's middle at n clock angles."""
    lugs = np.array([lug.centre for lug in assembly.lug_holes]).reshape(-1, 2)
    fixed = np.broadcast_to(lugs, (len(clock_rad), *lugs.shape))
    return np.concatenate([fixed, ear_centres(assembly, clock_rad)], axis=1)


def hole_ends(assembly: Assembly, clock_rad: FloatArray) -> FloatArray:
    """Return (n, h, 2, 2) float, mm: both ends of every hole's middle line at n clock angles; the same point but for slots.

    A slot of the lugs' stands still only where its direction is given; else it lies along the caliper's radius.
    """
    count, middles = len(clock_rad), hole_middles(assembly, clock_rad)
    half = np.array([hole.slot / 2 for hole in assembly.holes])
    given = assembly.job.bracket.slot_deg
    turn = clock_rad if given is None else np.full(count, ClockFrame(given).rad)
    way = np.stack([np.cos(turn), np.sin(turn)], axis=-1)[:, None, :] * half[None, :, None]
    return np.stack([middles + way, middles - way], axis=2)


def boss_hulls(assembly: Assembly, clock_rad: FloatArray) -> FloatArray | None:
    """Return (n, 128, 2) float, mm: corners round the plate's bosses before any relief; ``None`` when a hole is unknown.

    The corners are the support points of the discs in 128 directions, the discs grown by 1/cos(2π/128) so that the
    polygon holds the true outline.
    """
    lugs, ears = assembly.lug_holes, assembly.ear_holes
    centres = ear_centres(assembly, clock_rad)
    if not (np.isfinite(centres).all() and all(is_known(*h.centre, h.boss_radius) for h in lugs + ears)):
        return None
    way = _WAYS
    if any(not known(pull.out_mm) <= 0.0 for pull in assembly.job.bracket.pulls):
        return _pulled_hulls(assembly, clock_rad, way)
    slotted = any(hole.slot for hole in assembly.holes)
    ends = hole_ends(assembly, clock_rad) if slotted else hole_middles(assembly, clock_rad)
    middles = ends.reshape(len(clock_rad), -1, 2)
    if not np.isfinite(middles).all():
        return None
    radii = np.repeat([hole.boss_radius for hole in assembly.holes], 2 if slotted else 1) / math.cos(
        2 * math.pi / _CORNERS
    )
    return hulls_within(middles, radii)


def hulls_within(middles: FloatArray, radii: FloatArray) -> FloatArray:
    """Return (n, 128, 2) float, mm: corners *on* the hulls of k discs about (n, k, 2) ``middles`` with (k,) ``radii``."""
    lead = (middles @ _WAYS.T + radii[:, None]).argmax(axis=1)
    chosen = middles[np.arange(len(middles))[:, None], lead]
    return np.asarray(chosen + radii[lead][:, :, None] * _WAYS)


def _between(hole: Hole, a: Point, b: Point) -> Hole:
    """Return ``hole`` with its ends at ``a`` and ``b``."""
    centre = (a[0] + b[0]) / 2, (a[1] + b[1]) / 2
    way = ((a[0] - b[0]) / hole.slot, (a[1] - b[1]) / hole.slot) if hole.slot else hole.way
    return replace(hole, centre=centre, way=way)


def _pulled_hulls(assembly: Assembly, clock_rad: FloatArray, way: FloatArray) -> FloatArray | None:
    """The same where edges are pulled out: which edge lies between which bosses is asked at every angle."""
    found, ends = [], hole_ends(assembly, clock_rad)
    for row in ends:
        holes = tuple(_between(hole, *pair.tolist()) for hole, pair in zip(assembly.holes, row))
        try:
            discs = plate_discs(holes, assembly.job.bracket.pulls)
        except OutlineError:
            return None
        middles, radii = np.array([d.centre for d in discs]), np.array([d.radius for d in discs])
        radii = radii / math.cos(2 * math.pi / _CORNERS)
        lead = np.argmax(middles @ way.T + radii[:, None], axis=0)
        found.append(middles[lead] + radii[lead][:, None] * way)
    made = np.array(found)
    return made if np.isfinite(made).all() else None

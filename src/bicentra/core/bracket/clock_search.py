"""The clock search: at which angles a bracket can be made, why not at the others, and which angle is best."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.limit import Limit
from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.base.outline import FloatArray
from bicentra.core.bracket.flat_plate import Assembly, assemble, keep_out_radius
from bicentra.core.bracket.swing import (
    bleeder_sweep,
    bracket_caliper_sweep,
    bracket_obstacle_sweep,
    caliper_obstacle_sweep,
    ear_centres,
    head_room_sweep,
    ligament_sweep,
    plate_hulls,
)
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for

STEP_DEG = 0.25
CHECKS = (
    "ligament",
    "bolt-head-room",
    "caliper-to-obstacle",
    "bracket-to-obstacle",
    "bracket-to-caliper",
    "bleeder-up",
)
WEIGHTS = {"bleeder": 0.35, "ligament": 0.25, "size": 0.25, "room": 0.15}
"""What makes one feasible angle better than another: bleeder high, ligaments wide, plate small, obstacles far."""
WIDE_LIGAMENT_MM, WIDE_ROOM_MM = 20.0, 10.0
_PART = 180


@dataclass(frozen=True)
class Window:
    """One unbroken range of feasible clock angles [degrees], ``start`` to ``end`` upwards; ``end`` may exceed 360."""

    start: float
    end: float
    best: float
    score: float


@dataclass(frozen=True)
class ClockSearch:
    """What was found at each angle. ``stops``: (checks, n) bool, True where that check stops the bracket."""

    angles: FloatArray
    feasible: NDArray[np.bool_]
    score: FloatArray
    stops: NDArray[np.bool_]
    values: dict[str, FloatArray]
    windows: tuple[Window, ...]

    @property
    def best(self) -> Window | None:
        """The window with the best angle of all, or ``None``."""
        return max(self.windows, key=lambda window: window.score, default=None)

    def reasons(self, clock_deg: float) -> tuple[str, ...]:
        """Return the ids of the checks that stop the bracket nearest to ``clock_deg``; empty when feasible."""
        index = round(clock_deg / STEP_DEG) % len(self.angles)
        return tuple(name for name, row in zip((*CHECKS, "bracket-to-hub"), self.stops) if row[index])


def search_clock(
    job: Job, step: float = STEP_DEG, progress: Callable[[float], bool] | None = None
) -> ClockSearch | None:
    """Look at the full circle in steps of ``step`` degrees.

    ``progress`` is called with the part done (0 to 1) and stops the search by returning False; then ``None`` comes
    back. An angle at which something is not known counts as not feasible.
    """
    assembly = assemble(job)
    angles = np.arange(0.0, 360.0, step)
    parts = []
    for first in range(0, len(angles), _PART):
        parts.append(_look(assembly, angles[first : first + _PART]))
        if progress is not None and not progress(min(1.0, (first + _PART) / len(angles))):
            return None
    values = {name: np.concatenate([part[name] for part in parts]) for name in parts[0]}
    stops = _stops(job, values)
    feasible = np.logical_not(np.any(stops, axis=0, keepdims=True))[0]
    score = np.where(feasible, _score(values), -1.0)
    return ClockSearch(angles, feasible, score, stops, values, _windows(angles, feasible, score))


def _look(assembly: Assembly, angles: FloatArray) -> dict[str, FloatArray]:
    """Return every figure that depends on the clock, at each of ``angles`` [degrees]."""
    clock = np.radians(angles)
    hulls = plate_hulls(assembly, clock)
    return {
        "ligament": ligament_sweep(assembly, clock).value,
        "bolt-head-room": head_room_sweep(assembly, clock).value,
        "caliper-to-obstacle": caliper_obstacle_sweep(assembly, clock).value,
        "bracket-to-obstacle": bracket_obstacle_sweep(assembly, hulls, len(clock)).value,
        "bracket-to-caliper": bracket_caliper_sweep(assembly, hulls, clock),
        "bleeder-up": bleeder_sweep(assembly, clock),
        "size": _spread(assembly, clock),
        "pieces": _pieces(assembly, hulls, len(clock)),
    }


def _spread(assembly: Assembly, clock: FloatArray) -> FloatArray:
    """Return the sum of the distances from every ear to every lug [mm]: small for a small plate."""
    centres = ear_centres(assembly, clock)
    lugs = np.array([hole.centre for hole in assembly.holes[:-2]])
    gaps = np.linalg.norm(centres[:, :, None, :] - lugs[None, None, :, :], axis=-1)
    return np.asarray(np.sum(gaps, axis=(1, 2)))


def _pieces(assembly: Assembly, hulls: FloatArray | None, count: int) -> FloatArray:
    """Return in how many pieces the cut for hub or rotor would leave the plate at each angle.

    A convex outline that dips into the disc k times is left in k pieces (k ≥ 1); one wholly inside it in none.
    """
    room = keep_out_radius(assembly)
    if hulls is None:
        return np.full(count, UNKNOWN)
    if room <= 0:
        return np.ones(count)
    ahead = np.roll(hulls, -1, axis=1)
    inside = np.hypot(hulls[..., 0], hulls[..., 1]) < room
    along = ahead - hulls
    square = np.maximum(np.sum(along**2, axis=-1), 1e-12)
    foot = np.clip(-np.sum(hulls * along, axis=-1) / square, 0.0, 1.0)
    nearest = hulls + foot[..., None] * along
    dips = (np.hypot(nearest[..., 0], nearest[..., 1]) < room) & ~inside & ~np.roll(inside, -1, axis=1)
    cuts = np.sum(dips | (~inside & np.roll(inside, -1, axis=1)), axis=1)
    return np.where(inside.all(axis=1), 0.0, np.maximum(cuts, 1).astype(float))


def _stops(job: Job, values: dict[str, FloatArray]) -> NDArray[np.bool_]:
    rows = [_beyond(values[name], limit_for(job, name)) for name in CHECKS]
    return np.array([*rows, values["pieces"] != 1.0])


def _beyond(value: FloatArray, limit: Limit) -> NDArray[np.bool_]:
    """Tell where ``value`` misses the stop limit or is not known."""
    met = value >= limit.stop - 1e-9 if limit.at_least else value <= limit.stop + 1e-9
    return np.logical_not(met)


def _score(values: dict[str, FloatArray]) -> FloatArray:
    """Return 0 to 1 for each angle: the weighted sum of how good each of the four wishes is met."""
    size = values["size"]
    smallest = np.nanmin(size) if np.isfinite(size).any() else 1.0
    room = np.minimum(values["caliper-to-obstacle"], values["bracket-to-obstacle"])
    good = {
        "bleeder": 1.0 - np.clip(values["bleeder-up"] / 90.0, 0.0, 1.0),
        "ligament": np.clip(values["ligament"] / WIDE_LIGAMENT_MM, 0.0, 1.0),
        "size": np.clip(smallest / size, 0.0, 1.0),
        "room": np.clip(room / WIDE_ROOM_MM, 0.0, 1.0),
    }
    return np.asarray(sum(WEIGHTS[name] * good[name] for name in WEIGHTS))


def _windows(angles: FloatArray, feasible: NDArray[np.bool_], score: FloatArray) -> tuple[Window, ...]:
    """Return the unbroken runs of feasible angles, the one over 0° joined up."""
    count, step = len(angles), 360.0 / len(angles)
    if not feasible.any():
        return ()
    if feasible.all():
        top = int(np.argmax(score))
        return (Window(0.0, 360.0, float(angles[top]), float(score[top])),)
    starts = np.flatnonzero(feasible & ~np.roll(feasible, 1))
    found = []
    for start in starts:
        length = int(np.argmin(np.roll(feasible, -int(start))))
        members = (int(start) + np.arange(length)) % count
        top = int(members[np.argmax(score[members])])
        first = float(angles[start])
        found.append(Window(first, first + (length - 1) * step, float(angles[top]), float(score[top])))
    return tuple(found)

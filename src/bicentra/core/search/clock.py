"""The clock search: at which angles a bracket can be made, why not at the others, which is best; a coarse one while
something is pulled.
"""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.finding import Verdict
from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.families.table import family_of
from bicentra.core.bracket.plate import keep_out_radius
from bicentra.core.bracket.turned import ear_centres
from bicentra.core.evaluation.bracket_evaluation import judge_bracket, made_bracket
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.lineup.solve import LineUp, line_up
from bicentra.core.parts.job import Job
from bicentra.core.search.questions import SWEEPS, Turned, asked_of, is_none_of, stopped_at

STEP_DEG, LOOK_DEG = 0.25, 15
WEIGHTS = {"bleeder": 0.35, "ligament": 0.25, "size": 0.25, "room": 0.15}
"""What makes one feasible angle better than another: bleed screw high, ligaments wide, plate small, obstacles far."""
WIDE_LIGAMENT_MM, WIDE_ROOM_MM = 20.0, 10.0
_PART, LOTS = 180, 4
"""So many angles are looked at at once; in so many lots the questions of a bracket are asked that is swept as one."""


class Window(Record, frozen=True):
    """One unbroken range of feasible clock angles [degrees], ``start`` to ``end`` upwards; ``end`` may exceed 360."""

    start: float
    end: float
    best: float
    score: float


class ClockSearch(Record, frozen=True):
    """What was found at each angle. ``stops``: (n,) bool for each finding by its id, True where it stops the bracket.

    ``rough``: in wide steps, of a bracket that is just being pulled.
    """

    angles: FloatArray
    feasible: NDArray[np.bool_]
    score: FloatArray
    stops: dict[str, NDArray[np.bool_]]
    values: dict[str, FloatArray]
    windows: tuple[Window, ...]
    rough: bool = False

    @property
    def best(self) -> Window | None:
        """The window with the best angle of all, or ``None``."""
        return max(self.windows, key=lambda window: window.score, default=None)

    def reasons(self, clock_deg: float) -> tuple[str, ...]:
        """Return the ids of the findings that stop the bracket nearest to ``clock_deg``; empty when feasible."""
        index = round(clock_deg / STEP_DEG) % len(self.angles)
        return tuple(name for name, row in self.stops.items() if row[index])


def search_clock(
    job: Job, step: float = STEP_DEG, progress: Callable[[float], bool] | None = None
) -> ClockSearch | None:
    """Look at the full circle in steps of ``step`` degrees.

    ``progress`` is called with the part done (0 to 1) and stops the search by returning False; then ``None`` comes
    back. An angle at which something is unknown counts as not feasible.
    """
    line, lengths = line_up(job), job.lengths
    assembly = _standing(job, line, lengths)
    angles = np.arange(0.0, 360.0, step)
    at_once = assembly.bracket.kind.cut is not None
    parts, found = [], list[dict[str, NDArray[np.bool_]]]()
    for first in range(0, len(angles), _PART):
        some = angles[first : first + _PART]
        values = look_at(assembly, some)
        stops = stopped_by(assembly.job, values) if at_once else _made_each(job, assembly, some, values, lengths)
        parts.append(values)
        found.append(stops)
        if progress is not None and not progress(min(1.0, (first + _PART) / len(angles))):
            return None
    names = dict.fromkeys(name for part in parts for name in part)
    whole = {
        name: np.concatenate([part.get(name, np.full(len(part["size"]), UNKNOWN)) for part in parts]) for name in names
    }
    stops = {
        name: np.concatenate([part.get(name, np.zeros(_length(part), dtype=bool)) for part in found])
        for name in dict.fromkeys(name for part in found for name in part)
    }
    return put_together(angles, whole, stops)


def put_together(angles: FloatArray, values: dict[str, FloatArray], stops: dict[str, NDArray[np.bool_]]) -> ClockSearch:
    """Return the windows of what was found at each of n ``angles`` [degrees], the whole circle round."""
    feasible = np.logical_not(np.any(np.array(list(stops.values())), axis=0))
    score = np.where(feasible, _score(values), -1.0)
    return ClockSearch(angles, feasible, score, stops, values, _windows(angles, feasible, score))


def _standing(job: Job, line: LineUp, lengths: LengthFormat) -> Assembly:
    """Return the bracket where it is, or where it can be made when that is not here: bolts and caliper sit alike all round."""
    kind, here = family_of(job), made_bracket(family_of(job), job, line, lengths)
    for clock in range(0, 360, LOOK_DEG) if kind.cut is None and not here.bracket.stands else ():
        turned = replace(job, fit=replace(job.fit, clock_deg=float(clock)))
        there = made_bracket(kind, turned, line_up(turned), lengths)
        if there.bracket.stands:
            return there
    return here


def _length(part: dict[str, NDArray[np.bool_]]) -> int:
    return len(next(iter(part.values())))


def look_at(assembly: Assembly, angles: FloatArray, lot: int | None = None) -> dict[str, FloatArray]:
    """Return every figure [mm, degrees] that depends on the clock and needs no bracket made again, at each of ``angles``
    [degrees].

    ``lot``: only those of one of the ``LOTS``, which take about as long each.
    """
    turned, swept = Turned(assembly, np.radians(angles)), assembly.bracket.kind.cut is not None
    lots = range(LOTS if swept else 1) if lot is None else (lot,)
    found = {name: asked_of(name, turned) for name, sweep in SWEEPS.items() if sweep.lot in lots}
    if 0 in lots:
        found["size"] = _spread(assembly, turned.clock)
    if LOTS - 1 in lots and swept:
        found["pieces"] = _pieces(assembly, turned.hulls, len(turned.clock))
    return found


def _made_each(
    job: Job, assembly: Assembly, angles: FloatArray, values: dict[str, FloatArray], lengths: LengthFormat
) -> dict[str, NDArray[np.bool_]]:
    """Return what stops a bracket that is made again at every angle which nothing else stops; its figures go to ``values``."""
    stops = stopped_by(assembly.job, values)
    left = np.flatnonzero(np.logical_not(np.any(np.array(list(stops.values())), axis=0)))
    for k in left:
        turned = replace(job, fit=replace(job.fit, clock_deg=float(angles[k])))
        for finding in judge_bracket(family_of(job), turned, line_up(turned), lengths).findings:
            if kind_of(finding.id).turns:
                values.setdefault(finding.id, np.full(len(angles), UNKNOWN))[k] = finding.value
                row = stops.setdefault(finding.id, np.zeros(len(angles), dtype=bool))
                row[k] = finding.verdict in (Verdict.STOP, Verdict.UNKNOWN)
    return stops


def _spread(assembly: Assembly, clock: FloatArray) -> FloatArray:
    """Return the sum of the distances from every ear to every lug [mm]: small for a small plate."""
    centres = ear_centres(assembly, clock)
    lugs = np.array([hole.centre for hole in assembly.lug_holes]).reshape(-1, 2)
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


def stopped_by(job: Job, values: dict[str, FloatArray]) -> dict[str, NDArray[np.bool_]]:
    """Return where each figure [mm, degrees] that ``look_at`` gives stops the bracket, (n,) bool by finding."""
    asked = {name: row for name, row in values.items() if name not in ("size", "pieces")}
    found = {name: stopped_at(job, name, row) for name, row in asked.items() if not is_none_of(job, name)}
    if "pieces" in values:
        found["bracket-to-hub"] = values["pieces"] != 1.0
    return found


def _score(values: dict[str, FloatArray]) -> FloatArray:
    """Return 0 to 1 for each angle: the weighted sum of how good each of the four wishes is met."""
    size = values["size"]
    nothing = np.full(len(size), UNKNOWN)
    smallest = np.nanmin(size) if np.isfinite(size).any() else 1.0
    room = np.minimum(values["caliper-to-obstacle"], values.get("bracket-to-obstacle", nothing))
    good = {
        "bleeder": 1.0 - np.clip(values["bleeder-up"] / 90.0, 0.0, 1.0),
        "ligament": np.clip(values.get("ligament", nothing) / WIDE_LIGAMENT_MM, 0.0, 1.0),
        "size": np.clip(smallest / np.maximum(size, 1e-9), 0.0, 1.0),
        "room": np.clip(room / WIDE_ROOM_MM, 0.0, 1.0),
    }
    good = {
        name: np.nan_to_num(row) for name, row in good.items()
    }  # what is not asked counts as nothing, not as unknown
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


ROUGH_DEG, EVERY_FRAMES = 5.0, 6
"""Steps of the circle [degrees]; every how many frames something is asked."""


class IncrementalClock:
    """What is known of each step; begun with what an exact search ``before`` the pull found."""

    def __init__(self, before: ClockSearch) -> None:
        every = round(ROUGH_DEG / STEP_DEG)
        self.angles: FloatArray = before.angles[::every]
        self._values = {name: row[::every] for name, row in before.values.items()}
        self._begun = "pieces" in self._values  # else it was begun with a kind of bracket that is not swept as one
        self.shown: ClockSearch | None = None
        self._frame = 0

    def turn(self, assembly: Assembly) -> ClockSearch | None:
        """Ask what is due of ``assembly``; ``None`` for a kind that is made again at every angle."""
        if assembly.bracket.kind.cut is None:
            return None
        lot, waits = divmod(self._frame, EVERY_FRAMES)
        self._frame = (self._frame + 1) % (EVERY_FRAMES * LOTS)
        if self.shown is None or not waits:
            new = look_at(assembly, self.angles, lot if self._begun else None)
            self._values, self._begun = {**(self._values if self._begun else {}), **new}, True
            found = put_together(self.angles, self._values, stopped_by(assembly.job, self._values))
            self.shown = replace(found, rough=True)
        return self.shown

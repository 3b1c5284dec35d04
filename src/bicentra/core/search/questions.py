"""What each finding that turns with the clock is asked by: one table, finding to sweep, for the ring and the part search."""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.cache import cached_property
from bicentra.core.base.finding import UNKNOWN, Ranks, judge_all
from bicentra.core.base.registry import kind_of
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.metal import metal_at
from bicentra.core.bracket.turned import boss_hulls
from bicentra.core.clearance.clock_sweep import (
    bracket_caliper_sweep,
    bracket_obstacle_sweep,
    caliper_obstacle_sweep,
    head_room_sweep,
    ligament_sweep,
)
from bicentra.core.clearance.travel import float_sweep, hose_sweep, removal_sweep
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import Prisms
from bicentra.core.lineup.body import bleeder_sweep
from bicentra.core.parts.declared_absent import is_absent
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for


class Turned:
    """One assembly at n clock angles [rad]; what several sweeps share of it is made once."""

    def __init__(self, assembly: Assembly, clock: FloatArray, metal: Prisms | None = None) -> None:
        self.assembly, self.clock, self._metal = assembly, clock, metal

    @cached_property
    def hulls(self) -> FloatArray | None:
        """(n, k, 2) float, mm: the plate's outline before any cut at each angle; ``None`` where a place is unknown."""
        return boss_hulls(self.assembly, self.clock)

    @property
    def metal(self) -> Prisms:
        """The bracket's metal at each angle, where it is not given already."""
        if self._metal is None:
            self._metal = metal_at(self.assembly, self.clock, self.hulls)
        return self._metal


def _every(turned: Turned, values: FloatArray) -> FloatArray:
    """Return ``values`` [mm] for every angle, where nothing stands in the way at any of them."""
    return np.broadcast_to(values, (len(turned.clock),)).astype(float)


class Question(NamedTuple):
    """How a finding is asked at many angles at once. ``alone``: it needs no bracket made.

    ``lot``: in which of the ring's lots it is asked, which take about as long each; ``None``: the ring does not ask it.
    """

    ask: Callable[[Turned], FloatArray]
    alone: bool = False
    lot: int | None = None


SWEEPS: dict[str, Question] = {
    "bleeder-up": Question(lambda at: bleeder_sweep(at.assembly.job, at.clock), True, 0),
    "ligament": Question(lambda at: ligament_sweep(at.assembly, at.clock).value, True, 1),
    "bolt-head-room": Question(lambda at: head_room_sweep(at.assembly, at.clock).value, True, 1),
    "caliper-to-obstacle": Question(lambda at: caliper_obstacle_sweep(at.assembly, at.clock).value, True, 0),
    "bracket-to-obstacle": Question(
        lambda at: bracket_obstacle_sweep(at.assembly, at.metal, len(at.clock)).value, lot=2
    ),
    "bracket-to-caliper": Question(lambda at: bracket_caliper_sweep(at.assembly, at.metal, at.clock), lot=3),
    "caliper-removal": Question(lambda at: _every(at, removal_sweep(at.assembly, at.clock).value)),
    "float-travel": Question(lambda at: float_sweep(at.assembly, at.clock)[0]),
    "hose-room": Question(lambda at: hose_sweep(at.assembly, at.clock).value),
}
"""Each figure [mm, degrees] at each angle, cheap ones first."""
ALONE = tuple(name for name, sweep in SWEEPS.items() if sweep.alone)


def asked_of(name: str, turned: Turned) -> FloatArray:
    """Return (n,) the figure of the finding ``name`` [mm or degrees] at each angle of ``turned``."""
    return SWEEPS[name].ask(turned)


def ranks_of(job: Job, name: str, values: FloatArray) -> Ranks:
    """Return (n,) the ranks of ``values`` [unit of the finding ``name``], as ``judge`` has them one by one.

    What the job says there is none of waits for no measurement: it is at worst a caution.
    """
    ranks = judge_all(values, limit_for(job, name))
    return np.where((ranks == UNKNOWN) & is_none_of(job, name), UNKNOWN + 1, ranks).astype(np.int8)


def stopped_at(job: Job, name: str, values: FloatArray) -> NDArray[np.bool_]:
    """Tell (n,) where ``values`` [unit of the finding ``name``] miss its stop limit or are unknown."""
    return np.asarray(judge_all(values, limit_for(job, name)) <= UNKNOWN)


def is_none_of(job: Job, name: str) -> bool:
    """Tell whether the job says that there is none of what the finding ``name`` asks about."""
    without = kind_of(name).without
    return bool(without) and is_absent(job, without)

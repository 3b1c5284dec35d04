"""What surely stops a rotor with many calipers at once, before any set of them is made: sizes side by side in arrays."""

from collections.abc import Iterable, Sequence
from typing import TypeVar

import numpy as np

from bicentra.core.base.judging import STOP, judge_all
from bicentra.core.base.numbers import known
from bicentra.core.base.records import replace
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.parts.job import Caliper, Job, Rotor
from bicentra.core.parts.limits import limit_for

Part = TypeVar("Part", Rotor, Caliper)
SURE_MM = 1e-6
"""By how much a size must be past its limit to stop a pair here: nearer ones are asked one by one."""


class Screen:
    """The sizes of many calipers [mm], (n,) each; what is not known, or not told by these sizes, is nan and stops nothing."""

    def __init__(self, calipers: Sequence[Caliper]) -> None:
        self._bridge = _sizes(caliper.bridge_to_pad_top_mm for caliper in calipers)
        self._slot = _sizes(caliper.slot_width_mm for caliper in calipers)
        self._pad = _sizes(None if _traced(caliper) else caliper.pad_height_mm for caliper in calipers)

    def surely_stopped(self, job: Job) -> tuple[list[int], ...]:
        """Return places of the calipers that the rotor and fit of ``job`` stop, those together that the same size stops."""
        rotor, inset = job.rotor, known(job.fit.pad_inset_mm)
        values = {
            "tip-gap": self._bridge - inset,
            "pad-inner-edge": (known(rotor.diameter_mm) - known(rotor.swept_inner_diameter_mm)) / 2 - inset - self._pad,
            "slot-gap": (self._slot - known(rotor.thickness_mm)) / 2,
        }
        stopped, left = list[list[int]](), np.ones(len(self._slot), dtype=bool)
        for id, value in values.items():
            here = left & (judge_all(value + SURE_MM, limit_for(job, id)) == STOP)
            left &= ~here
            if here.any():
                stopped.append(np.flatnonzero(here).tolist())
        return tuple(stopped)


def but_for_names(parts: Sequence[Part]) -> list[list[Part]]:
    """Return ``parts`` with those together that differ by name alone, each group where its first part stood."""
    groups: dict[str, list[Part]] = {}
    for part in parts:
        groups.setdefault(repr(replace(part, name="")), []).append(part)
    return list(groups.values())


def _traced(caliper: Caliper) -> bool:
    """Tell whether the pad has a shape of its own, so that its height alone does not say where it ends."""
    return bool(caliper.pad_outline_mm) or caliper.pad_outer_radius_mm is not None


def _sizes(values: Iterable[float | None]) -> FloatArray:
    return np.array([known(value) for value in values], dtype=np.float64)

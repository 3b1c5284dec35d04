"""What surely stops a rotor with many calipers at once, before any set of them is made: sizes side by side in arrays."""

from collections.abc import Iterable, Sequence
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.finding import STOP, judge_all
from bicentra.core.base.numbers import known
from bicentra.core.base.records import replace
from bicentra.core.bracket.families.table import family_of, make
from bicentra.core.bracket.stack_up import pack
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.job import Caliper, Job, Rotor
from bicentra.core.parts.limits import limit_for

Part = TypeVar("Part", Rotor, Caliper)
SURE_MM = 1e-6
"""By how much a size must be past its limit to stop a pair here: nearer ones are asked one by one."""


class Screen:
    """The sizes of many calipers [mm], (n,) each; what is unknown, or not reported by these sizes, is nan and stops nothing."""

    def __init__(self, calipers: Sequence[Caliper]) -> None:
        self._calipers = tuple(calipers)
        self._axial = np.array([caliper.mount != "radial" for caliper in calipers], dtype=bool)
        self._action = np.array([caliper.action for caliper in calipers])
        self._inboard = np.array([caliper.ear_seat == "inboard" for caliper in calipers], dtype=bool)
        self._offset = _sizes(caliper.ear_face_offset_mm for caliper in calipers)
        self._bridge = _sizes(caliper.bridge_to_pad_top_mm for caliper in calipers)
        self._slot = _sizes(caliper.slot_width_mm for caliper in calipers)
        self._pad = _sizes(None if _traced(caliper) else caliper.pad_height_mm for caliper in calipers)

    def surely_stopped(self, job: Job) -> tuple[list[int], ...]:
        """Return places of the calipers that the rotor and fit of ``job`` stop: those together that the same size stops, the one
        that misses it least before the others."""
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
                places = np.flatnonzero(here)
                stopped.append(places[np.argsort(-value[places], kind="stable")].tolist())
        return tuple(stopped)

    def off_centre(self, job: Job) -> FloatArray:
        """Return (n,) float, mm: how far off the rotor's middle a plate and shims of given thickness hold a caliper in
        ``job``; nan for one that is not surely too far off.

        The error is what ``pack`` gives for a thickness that is not chosen: thickness and shims less the distance from
        lug to ear. Nothing is said of a bracket that makes it up otherwise.
        """
        by_mount = [self._off_centre(job, mount & np.isfinite(self._offset)) for mount in (self._axial, ~self._axial)]
        return np.where(self._axial, *by_mount)

    def _off_centre(self, job: Job, asked: NDArray[np.bool_]) -> FloatArray:
        """Return ``off_centre`` of the calipers ``asked`` (n,), all of one mount; nan for the others."""
        none, sure = np.full(len(self._offset), np.nan), np.flatnonzero(asked)
        if job.bracket.thickness_mm is None or not len(sure) or not job.knuckle.lugs:
            return none
        line = line_up(replace(job, caliper=self._calipers[sure[0]]))
        first = pack(line_job := replace(job, caliper=self._calipers[sure[0]]), line)
        made = make(family_of(job), line_job, line, job.lengths)[0]
        if made.kind.cut is None or not made.stands or made.stack_up != first:
            return none
        far = (job.bracket.side == "outboard") == self._inboard
        carried = np.where(far, first.thickness, 0.0)[:, None]
        lifted = np.where(far, first.sign, -first.sign)[:, None] * sum(first.ear_shims) / 2
        ear_z = (line.rotor_midplane_z + self._offset)[:, None]
        errors = first.sign * (carried + np.array(first.shims)) - (ear_z - np.array(first.lug_faces)) + lifted
        least = np.abs(errors).max(axis=1) - SURE_MM  # unlike shims at the ears only add to it
        stopped = np.zeros(len(least), dtype=bool)
        for action in set(self._action.tolist()):  # a caliper that slides may sit further off
            limit = limit_for(replace(job, caliper=replace(job.caliper, action=action)), "axial-offset")
            stopped |= (self._action == action) & (judge_all(least, limit) == STOP)
        return np.where(stopped & asked, least, np.nan)


def but_for_names(parts: Sequence[tuple[int, Part]]) -> list[list[tuple[int, Part]]]:
    """Return numbered ``parts`` with those together that differ by name alone, each group where its first part stood."""
    groups: dict[str, list[tuple[int, Part]]] = {}
    for number, part in parts:
        groups.setdefault(repr(replace(part, name="")), []).append((number, part))
    return list(groups.values())


def _traced(caliper: Caliper) -> bool:
    """Tell whether the pad has a shape of its own, so that its height alone does not say where it ends."""
    return bool(caliper.pad_outline_mm) or caliper.pad_outer_radius_mm is not None


def _sizes(values: Iterable[float | None]) -> FloatArray:
    return np.array([known(value) for value in values], dtype=np.float64)

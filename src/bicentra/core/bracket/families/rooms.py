"""Whether a bracket of any family meets rotor, hub, obstacles or the caliper's body: its parts as slabs against each."""

import math

import numpy as np
import shapely

from bicentra.core.base.clearance import least_of
from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import UNKNOWN, is_known, known, smallest
from bicentra.core.base.wording import Words, make_finding
from bicentra.core.bracket.body_gaps import body_gaps
from bicentra.core.bracket.checks import hub_missing, room_told, rotor_missing
from bicentra.core.bracket.flat_plate import Assembly
from bicentra.core.bracket.reach import reach_finding, room_past
from bicentra.core.bracket.slab import Slab, slab_gap
from bicentra.core.bracket.swing import obstacle_shape
from bicentra.core.lineup.solids import Ring, nearest_gap
from bicentra.core.parts.limits import limit_for

ON_THE_TUBE = ("axle-end-plate", "weld-on")
"""Families that sit on the axle's tube: what turns lies inside it."""


def room_findings(family: str, assembly: Assembly, words: Words) -> tuple[Finding, ...]:
    """Return the room round the metal of a bracket that stands as ``assembly`` says."""
    slabs = assembly.metal
    asked = [
        _to_rings("rotor", "the rotor", assembly, slabs, assembly.rotor, rotor_missing(assembly), words),
        _to_rings("hub", "hub and axle", assembly, slabs, _turning_hub(family, assembly), hub_missing(assembly), words),
        _to_obstacles(assembly, slabs, words),
    ]
    if assembly.job.caliper.mount == "axial":  # a radial caliper stands on the bracket with its body all round
        asked.append(_to_caliper(assembly, slabs, words))
    if assembly.job.hub.retainer_circle_mm is not None and family != "axle-end-plate":
        plan = shapely.union_all([slab.shape for slab in slabs])
        asked.append(
            reach_finding(assembly.job, lambda at, socket: room_past(plan, at, socket), words, family != "weld-on")
        )
    return tuple(asked)


def _turning_hub(family: str, assembly: Assembly) -> tuple[Ring, ...]:
    """Return what turns about the axle: for a bracket on the tube only what is wider than the tube it turns in."""
    tube = known(assembly.job.hub.tube_diameter_mm)
    if family not in ON_THE_TUBE or not is_known(tube):
        return assembly.hub
    return tuple(ring for ring in assembly.hub if not ring.r1 <= tube / 2)


def _to_rings(
    id: str,
    other: str,
    assembly: Assembly,
    slabs: tuple[Slab, ...],
    rings: tuple[Ring, ...],
    missing: str,
    words: Words,
) -> Finding:
    """The room to what turns with the wheel."""
    limit = limit_for(assembly.job, f"bracket-to-{id}")
    value = smallest([nearest_gap(slab.ring, rings, limit.watch) for slab in slabs]) if slabs else UNKNOWN
    why = (
        room_told("bracket", other, value, words)
        + "; what turns must not meet what stands, hot and with play in its bearings."
    )
    return make_finding(
        f"bracket-to-{id}", value, limit, why,
        features=("bracket", id), missing=missing or "the bracket is not known yet",
    )  # fmt: skip


def _to_obstacles(assembly: Assembly, slabs: tuple[Slab, ...], words: Words) -> Finding:
    """The room to the nearest obstacle of the knuckle."""
    obstacles, missing = assembly.job.knuckle.obstacles, ""
    rows: list[tuple[float, int]] = []
    for k, obstacle in enumerate(obstacles):
        z = known(obstacle.z_min_mm), known(obstacle.z_max_mm)
        if not is_known(*z):
            missing = f"needs how far {obstacle.name} reaches along the axle"
        rows += [(slab_gap(slab, obstacle_shape(obstacle), *z), k) for slab in slabs]
    certain = [row for row in rows if not math.isnan(row[0])]
    value, which = min(certain, default=(math.inf, 0))
    if not slabs or (missing and value > 0.0):
        value = UNKNOWN
    why = (
        f"The bracket {_passes(obstacles[which].name, value, words)}."
        if obstacles
        else "No obstacle is recorded near it."
    )
    return make_finding(
        "bracket-to-obstacle", value, limit_for(assembly.job, "bracket-to-obstacle"), why,
        features=("bracket", f"obstacle-{which}"), missing=missing or "the bracket is not known yet",
        assumed=("only the obstacles in the job are looked at",),
    )  # fmt: skip


def _to_caliper(assembly: Assembly, slabs: tuple[Slab, ...], words: Words) -> Finding:
    """The room to the caliper's body; only the ears' faces may touch the bracket."""
    value = UNKNOWN
    if slabs:
        shapes = np.array([slab.shape for slab in slabs], dtype=object)[None, :]
        low, high = np.array([(slab.z0, slab.z1) for slab in slabs]).T
        value = least_of(body_gaps(assembly.body, np.radians([assembly.line.clock]), shapes, low, high)[0].tolist())
    why = f"The bracket {_passes('the caliper’s body', value, words)}; only the ears' faces may touch it."
    return make_finding(
        "bracket-to-caliper", value, limit_for(assembly.job, "bracket-to-caliper"), why,
        features=("bracket", "caliper"), missing="needs the body's width, its depths and the clock angle",
    )  # fmt: skip


def _passes(other: str, value: float, words: Words) -> str:
    return f"clears {other} by {words.gap(value)}" if value > 0 else f"runs into {other}"

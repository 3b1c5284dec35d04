"""The brakes as they were, as far as somebody wrote them down, and which part of the change did what.

Torque of a disc at one foot force is a product, 2 µ A r · ratio · boost / A_master: what changed by each factor is its own ratio,
and their logarithms add up whatever order they are taken in.
"""

from collections.abc import Mapping

from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.records import replace
from bicentra.core.hydraulics.chain import Chain, chain_of
from bicentra.core.parts.attachments import OriginalBrake
from bicentra.core.parts.vehicle import AXLES, Vehicle


def before_of(vehicle: Vehicle) -> Vehicle | None:
    """Return ``vehicle`` as it was before: what each axle and the pedal's chain had; ``None`` where nobody wrote
    anything down.
    """
    earlier, chassis = vehicle.vehicle.before, vehicle.vehicle
    parts = {name: getattr(earlier, name) for name in ("master", "booster", "valve", "pedal")}
    changed = {name: part for name, part in parts.items() if part is not None}
    axles, there = dict(vehicle.axles), bool(changed)
    for name in AXLES:
        axle = axles.get(name)
        if axle is None or axle.before is None or not _brake_of(axle.before):
            continue
        there, old = True, axle.before
        own = {"rotor": old.rotor or axle.rotor, "caliper": old.caliper or axle.caliper, "drum": old.drum or axle.drum}
        axles[name] = replace(axle, **own)
    return replace(vehicle, vehicle=replace(chassis, **changed), axles=axles) if there else None


def _brake_of(before: OriginalBrake) -> bool:
    """Tell whether anything of the old brake was written down."""
    return any(part is not None for part in (before.rotor, before.caliper, before.drum))


def whole_before(vehicle: Vehicle) -> bool:
    """Tell whether the pedal as it was can be worked out: at every axle that came off in part the old brake was written down."""
    return all(axle.before is None or _brake_of(axle.before) for axle in vehicle.axles.values())


def levers(now: Chain, then: Chain, end: int = 0, foot: float = 100.0) -> Mapping[str, float]:
    """Return by which factor each lever changed the torque of one ``end`` (0 front) at a ``foot`` force [N]; 1: not at all."""
    one, other = now.ends[end], then.ends[end]
    boosts = [chain.rod(foot) / (foot * chain.ratio) for chain in (now, then)]
    return {
        "bore": one.side / other.side,
        "radius": one.radius / other.radius,
        "pad": one.grip / other.grip,
        "master": then.rod_bore / now.rod_bore,
        "ratio": now.ratio / then.ratio,
        "booster": boosts[0] / boosts[1],
        "tyre": other.tyre / one.tyre,
    }


def single_change(now: Chain, then: Chain) -> Mapping[str, float]:
    """Return by which factor rear bore area, radius or pad alone would bring the front's share back to what it was."""
    wanted, have = then.at(100.0).front_share, now.at(100.0).front_share
    factor = (
        (1.0 - wanted) / wanted * have / (1.0 - have)
        if is_known(wanted, have) and 0 < have < 1 and wanted > 0
        else UNKNOWN
    )
    return {"rear bore area": factor, "rear radius": factor, "rear pad": factor}


def foot_after(now: Chain, end: int, factor: float, decel: float) -> float:
    """Return the foot force [N] for ``decel`` [g] once one ``end`` (0 front, 1 rear) clamps ``factor`` times as hard."""
    ends = list(now.ends)
    ends[end] = replace(ends[end], side=ends[end].side * factor)
    return replace(now, ends=(ends[0], ends[1])).foot_for(decel)


def chains(vehicle: Vehicle) -> tuple[Chain, Chain | None]:
    """Return the chain as it is and as it was."""
    earlier = before_of(vehicle)
    return chain_of(vehicle), chain_of(earlier) if earlier is not None else None

"""The answer of ``bicentra pedal``: pressure, travel, balance, levers and masters, as one JSON object and in words."""

from collections.abc import Callable
from typing import Any

from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import is_known, or_none
from bicentra.core.hydraulics.balance import Locking
from bicentra.core.hydraulics.chain import PedalState
from bicentra.core.hydraulics.masters import Ranked
from bicentra.core.hydraulics.pedal import PedalWork, known_feet
from bicentra.core.hydraulics.stages import Stage, stages_of
from bicentra.core.hydraulics.travel import Travel

BAR = 10.0
"""Bar in one N/mm2."""


def pedal_object(work: PedalWork) -> dict[str, Any]:
    """Return what ``pedal --json`` prints: the contract's keys, then what else is known."""
    return {
        "now": {**_state(work.now, work.travel), "locks": [_locking(one) for one in work.locks]},
        "before": _state(work.before, work.before_travel)
        if work.before is not None and work.before_travel is not None
        else None,
        "levers": {name: or_none(factor) for name, factor in work.levers.items()} if work.levers is not None else None,
        "masters": [_master(one) for one in work.masters],
        "one_circuit": [
            {"left": one.left, "decel_g": or_none(one.decel), "master_stroke_mm": or_none(one.stroke)}
            for one in work.circuits
        ],
        "stages": [_stage(one) for one in stages_of(work.chain)],
        "valve_knee_bar": or_none(work.knee),
        "findings": [_finding(one) for one in work.findings],
    }


def _pair(values: tuple[float, float], by: float = 1.0) -> dict[str, float | None]:
    return {"front": or_none(values[0] * by), "rear": or_none(values[1] * by)}


def _state(state: PedalState, travel: Travel) -> dict[str, Any]:
    return {
        "foot_n": state.foot, "line_bar": _pair(state.line, BAR), "clamp_n": _pair(state.clamp), "torque_nm": _pair(state.torque),
        "road_n": _pair(state.road), "front_share": or_none(state.front_share), "decel_g": or_none(state.decel),
        "volume_mm3": _pair(travel.volume), "travel_mm": or_none(travel.pedal), "master_stroke_mm": or_none(travel.stroke),
    }  # fmt: skip


def _stage(one: Stage) -> dict[str, Any]:
    return {
        "name": one.name, "foot_n": or_none(one.foot), "master_stroke_mm": or_none(one.travel.stroke),
        "stroke_share": or_none(one.travel.share), "travel_mm": or_none(one.travel.pedal),
        "volume_mm3": {part.name: {**_pair(part.volume), "usual": part.usual} for part in one.parts},
    }  # fmt: skip


def _locking(one: Locking) -> dict[str, Any]:
    return {
        "mu": one.grip, "first": one.first or None, "decel_g": or_none(one.decel), "foot_n": or_none(one.foot),
        "efficiency": or_none(one.efficiency),
    }  # fmt: skip


def _master(one: Ranked) -> dict[str, Any]:
    return {
        "name": one.name, "bore_mm": or_none(one.bore), "line_bar": or_none(one.line * BAR), "travel_mm": or_none(one.travel),
        "foot_n": or_none(one.foot), "stroke_share": or_none(one.share), "verdict": one.verdict.value, "own": one.own,
        "why": one.why,
    }  # fmt: skip


def _finding(one: Finding) -> dict[str, Any]:
    return {
        "id": one.id, "verdict": one.verdict.value, "value": or_none(one.value), "limit": or_none(one.limit), "unit": one.unit,
        "why": one.why, "source": one.source,
    }  # fmt: skip


def pedal_lines(work: PedalWork) -> list[str]:
    """Return the figures of the pedal in plain lines: at one foot force, for round decelerations, at each grip."""
    now, travel, lengths = work.now, work.travel, work.chain.lengths
    line = (now.line[0] * BAR, now.line[1] * BAR)
    rows: tuple[tuple[str, tuple[float, float], Callable[[float], str]], ...] = (
        ("line pressure", line, lengths.pressure), ("clamp on one pad", now.clamp, lengths.force),
        ("torque of one wheel", now.torque, lengths.torque), ("force at the road", now.road, lengths.force),
        ("fluid to the bite", travel.volume, lambda volume: f"{_text(volume, 0)} mm3"),
    )  # fmt: skip
    lines = [f"At {lengths.force(now.foot)} on the pedal, front / rear"]
    for name, (front, rear), words in rows:
        lines.append(f"  {name:24}{words(front)} / {words(rear)}")
    share = _text(travel.share * 100, 0)
    braked = f"{_text(now.decel, 2)} g, front share {_text(now.front_share * 100, 0)} %{_beyond(work)}"
    moved = lengths.size(round(travel.pedal, 1)) if is_known(travel.pedal) else "unknown"
    lines.append(f"  {'deceleration':24}{braked}")
    lines.append(f"  {'pedal to the bite':24}{moved}, {share} % of the master's stroke")
    for one in stages_of(work.chain)[1:]:
        far = lengths.size(round(one.travel.stroke, 1)) if is_known(one.travel.stroke) else "unknown"
        lines.append(f"  {one.name:24}{far}, {_text(one.travel.share * 100, 0)} % of the master's stroke")
    lines += [f"  {decel:g} g takes {lengths.force(foot)}" for decel, foot in known_feet(work)]
    lines.append("")
    for lock in (lock for lock in work.locks if lock.first):
        text = f"{lock.first} locks first at {lock.decel:.2f} g, {lengths.force(lock.foot)}, efficiency {lock.efficiency:.2f}"
        lines.append(f"Grip {lock.grip:g}: {text}")
    return lines


def _beyond(work: PedalWork) -> str:
    """Say so where the tyres do not give what the brakes could."""
    grip = work.chain.body.grip
    if not is_known(grip, work.now.decel) or work.now.decel <= grip:
        return ""
    return f"; more than grip {grip:g} gives: wheels lock before"


def pedal_text(work: PedalWork) -> str:
    """Return the pedal in plain lines: its figures, what is asked, the masters, the levers."""
    lines = [*pedal_lines(work), ""]
    lines += [f"{found.verdict.word:9} {found.title}: {found.why}" for found in work.findings]
    lines.append("")
    for master in work.masters:
        fitted = " (fitted)" if master.own else ""
        lines.append(f"{master.verdict.word:9} {master.name}{fitted}: {master.why}")
    if work.levers is not None:
        text = ", ".join(f"{name} × {factor:.2f}" for name, factor in work.levers.items() if is_known(factor))
        lines += ["", f"What changed the front's torque: {text}"]
    return "\n".join(lines) + "\n"


def _text(value: float, digits: int) -> str:
    return f"{value:.{digits}f}" if is_known(value) else "unknown"

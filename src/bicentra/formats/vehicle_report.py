"""Answers of ``bicentra pedal`` and ``bicentra heat``, each as one JSON object and in plain lines."""

from collections.abc import Callable
from typing import Any

from bicentra.core.base.numbers import is_known, or_none
from bicentra.core.heat.stops import BAND, MM3_PER_MJ, Heated
from bicentra.core.heat.train import Hot
from bicentra.core.hydraulics.balance import Locking
from bicentra.core.hydraulics.chain import PedalState
from bicentra.core.hydraulics.masters import Ranked
from bicentra.core.hydraulics.pedal import PedalWork, known_feet
from bicentra.core.hydraulics.travel import Stage, Travel, stages_of
from bicentra.formats.finding_report import finding_line, finding_object

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
        "findings": [finding_object(one) for one in work.findings],
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
    lines += [finding_line(found) for found in work.findings]
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


ROTATING = (
    "rotating parts, at most a tenth of the energy, where they are not stated; radiation, which cools hot rotors more"
)


def heat_object(hot: Hot) -> dict[str, Any]:
    """Return what ``heat --json`` prints."""
    return {
        "front": _end(hot.front),
        "rear": _end(hot.rear),
        "fluid_margin_k": or_none(hot.fluid_margin),
        "findings": [finding_object(one) for one in hot.findings],
        "old_peak_c": {name: or_none(end.peaks[-1]) for name, end in zip(("front", "rear"), hot.old)}
        if hot.old is not None and hot.train.stops
        else None,
        "needed": hot.needed,
        "hat_c": {name: or_none(hat) for name, hat in zip(("front", "rear"), hot.hats)},
        "pads_last_stops": {name: or_none(stops) for name, stops in zip(("front", "rear"), hot.pads_last)},
        "assumed": [ROTATING],
    }


def _end(end: Heated) -> dict[str, Any]:
    return {
        "energy_j": or_none(end.energy), "rise_k": or_none(end.rise), "peak_c": [or_none(peak) for peak in end.peaks],
        "steady_c": or_none(end.steady), "mass_kg": or_none(end.sink.mass), "h_w_m2k": or_none(end.sink.transfer),
        "a_m2": or_none(end.sink.surface), "tau_s": or_none(end.sink.constant), "source": end.sink.source,
    }  # fmt: skip


def besides(hot: Hot) -> tuple[str, ...]:
    """Return what is known of hats and pads over the train, a sentence each."""
    found = []
    for name, hat, last in zip(("front", "rear"), hot.hats, hot.pads_last):
        if is_known(hat):
            found.append(f"The {name} rotors' hats get to {hot.lengths.heat(hat)}, worked out for iron all the way.")
        if is_known(last):
            low, high = (f"{round(last * by, -2):,.0f}".replace(",", " ") for by in (1.0 / BAND, BAND))
            found.append(
                f"The {name} pads last about {low} to {high} such stops: a rule of thumb, {MM3_PER_MJ:g} mm³ per MJ."
            )
    return tuple(found)


def heat_text(hot: Hot) -> str:
    """Return the train of stops in plain lines."""
    train, heat, speed = hot.train, hot.lengths.heat, hot.lengths.speed
    lines = [f"{train.stops} stops from {speed(train.begin)} to {speed(train.end)}, one every {train.every:g} s"]
    lines[0] += f", air {heat(train.ambient)}"
    for name, end in (("front", hot.front), ("rear", hot.rear)):
        if not is_known(end.rise, *end.peaks):
            lines.append(f"  {name}: still unknown")
            continue
        steady = f"tends to {heat(end.steady)}" if is_known(end.steady) else "never settles"
        text = f"{end.energy / 1e3:.1f} kJ a stop into each, {hot.lengths.warmer(end.rise)}"
        lines.append(f"  {name}: {text}; after the last {heat(end.peaks[-1])}, {steady}")
    lines += [f"  {text}" for text in besides(hot)]
    if hot.needed:
        lines.append(f"  {hot.needed}")
    lines.append("")
    lines += [finding_line(one) for one in hot.findings]
    lines.append(f"Left out: {ROTATING}.")
    return "\n".join(lines) + "\n"

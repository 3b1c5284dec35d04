"""The answer of ``bicentra heat``: energies and temperatures of a train of stops, as one JSON object and in words."""

from typing import Any

from bicentra.core.base.numbers import is_known, or_none
from bicentra.core.heat.stops import Heated
from bicentra.core.heat.train import Hot
from bicentra.core.heat.wear import BAND, MM3_PER_MJ

ROTATING = (
    "rotating parts, at most a tenth of the energy, where they are not stated; radiation, which cools hot rotors more"
)


def heat_object(hot: Hot) -> dict[str, Any]:
    """Return what ``heat --json`` prints."""
    return {
        "front": _end(hot.front),
        "rear": _end(hot.rear),
        "fluid_margin_k": or_none(hot.fluid_margin),
        "findings": [
            {"id": one.id, "verdict": one.verdict.value, "value": or_none(one.value), "unit": one.unit, "why": one.why}
            for one in hot.findings
        ],
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
    lines += [f"{one.verdict.word:9} {one.title}: {one.why}" for one in hot.findings]
    lines.append(f"Left out: {ROTATING}.")
    return "\n".join(lines) + "\n"

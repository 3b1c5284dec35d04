"""The answer of ``bicentra heat``: energies and temperatures of a train of stops, as one JSON object and in words."""

from typing import Any

from bicentra.core.base.numbers import is_known, or_none
from bicentra.core.heat.stops import Heated
from bicentra.core.heat.train import Hot

ROTATING = "rotating parts add at most a tenth to the energy and are left out"


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
        "assumed": [ROTATING],
    }


def _end(end: Heated) -> dict[str, Any]:
    return {
        "energy_j": or_none(end.energy), "rise_k": or_none(end.rise), "peak_c": [or_none(peak) for peak in end.peaks],
        "steady_c": or_none(end.steady), "mass_kg": or_none(end.sink.mass), "h_w_m2k": or_none(end.sink.transfer),
        "a_m2": or_none(end.sink.surface), "tau_s": or_none(end.sink.constant), "source": end.sink.source,
    }  # fmt: skip


def heat_text(hot: Hot) -> str:
    """Return the train of stops in plain lines."""
    train = hot.train
    lines = [f"{train.stops} stops from {train.begin:g} to {train.end:g} km/h, one every {train.every:g} s"]
    lines[0] += f", air {train.ambient:g} °C"
    for name, end in (("front", hot.front), ("rear", hot.rear)):
        if not is_known(end.rise, *end.peaks):
            lines.append(f"  {name}: not known yet")
            continue
        steady = f"tends to {end.steady:.0f} °C" if is_known(end.steady) else "never settles"
        told = f"{end.energy / 1e3:.1f} kJ a stop into each, {end.rise:.0f} K"
        lines.append(f"  {name}: {told}; after the last {end.peaks[-1]:.0f} °C, {steady}")
    lines.append("")
    lines += [f"{one.verdict.word:9} {one.title}: {one.why}" for one in hot.findings]
    lines.append(f"Left out: {ROTATING}.")
    return "\n".join(lines) + "\n"

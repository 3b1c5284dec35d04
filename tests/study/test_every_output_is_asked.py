"""Every number a command gives out is asked by a finding, or says why none does: a number nobody judges is a gap."""

import json
from pathlib import Path
from typing import Any

import pytest

from bicentra.cli import main
from bicentra.core.base.registry import kind_of

PLACE = "where it lies: every clearance is asked from it"
SHOWN = "shown to compare or to explain; what it leads to is asked"
ASKED: dict[str, dict[str, str]] = {
    "pedal": {
        "before": SHOWN, "levers": SHOWN, "masters": SHOWN, "now.clamp_n": SHOWN, "now.torque_nm": "pedal-sides",
        "now.road_n": "pedal-both-axles", "now.front_share": "pedal-order", "now.locks": "pedal-order", "now.foot_n": "pedal-force",
        "now.decel_g": "pedal-force", "now.line_bar": "pedal-line", "now.master_stroke_mm": "pedal-stroke",
        "now.travel_mm": "pedal-floor", "now.volume_mm3": "pedal-stroke", "one_circuit": "pedal-failed", "stages": "pedal-stroke",
        "valve_knee_bar": "pedal-valve",
    },
    "heat": {
        "assumed": SHOWN, "needed": SHOWN, "fluid_margin_k": "heat-fluid", "front.peak_c": "heat-rotor", "rear.peak_c": "heat-drum",
        "front.steady_c": "heat-pads", "rear.steady_c": "heat-drum", "front": SHOWN, "rear": SHOWN, "hat_c": "heat-ring",
        "old_peak_c": SHOWN, "pads_last_stops": "a rule of thumb for when to look, no limit",
    },
    "check": {
        "bolts": "thread-engagement", "bracket.thickness_mm": "least-sizes", "bracket.shims_mm": "shim-stack",
        "bracket": SHOWN, "lineup.axial": "axial-offset", "lineup.min_ligament_mm": "ligament", "lineup.pad_area": "pad-overhang",
        "lineup.slot_gap": "slot-gap", "lineup.tip_gap": "tip-gap", "lineup.track_change_mm": "corner-mismatch",
        "lineup": PLACE, "uncertainty": "each finding's own chance to be met",
    },
    "shims": {
        "offset_mm": "trial-offset", "tilt_deg": "trial-tilt", "twist_deg": "trial-lean", "radial_mm": "trial-tip-gap",
        "sd": "each finding's own chance to be met", "plans[].bolts": "trial-bolts", "plans[].offset_after_mm": "trial-offset",
        "plans[].tilt_after_deg": "trial-tilt", "plans[].radial_after_mm": "trial-tip-gap", "measured": "trial-follow",
        "contradictions": "trial-readings", "broken": "the lock itself: it does not hold", "": SHOWN,
    },
}  # fmt: skip
"""By command: the beginning of an output's place, and the finding that asks it or the reason why none does; the longest holds."""
WORDS = {
    "pedal": (), "check": (), "shims": (),
    "heat": ("--from-kmh", "40", "--to-kmh", "0", "--stops", "10", "--every-s", "60"),
}  # fmt: skip


def places(thing: Any, at: str = "") -> set[str]:
    """The place of every number and word in an answer, lists as one."""
    if isinstance(thing, dict):
        return {place for key, value in thing.items() for place in places(value, f"{at}.{key}" if at else key)}
    if isinstance(thing, list):
        return {place for value in thing for place in places(value, f"{at}[]")} or {f"{at}[]"}
    return {at}


@pytest.mark.parametrize("command", list(ASKED))
def test_every_output_has_its_finding_or_a_reason(
    command: str, demo_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Nothing new is given out without either; nothing stands in the list that is given out no more; the findings exist."""
    main([command, str(demo_path), *WORDS[command], "--json"])
    text = json.loads(capsys.readouterr().out)
    given = places({key: value for key, value in text.items() if key != "findings"})
    table, used = ASKED[command], set()
    for place in given:
        best = max((start for start in table if place.startswith(start)), key=len, default=None)
        assert best is not None, f"{command} gives out {place}: which finding asks it?"
        used.add(best)
    assert used == set(table)
    for answer in table.values():
        assert " " in answer or kind_of(answer).id == answer

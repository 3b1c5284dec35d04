"""The answer of ``bicentra search``: one JSON object for programs, plain lines for people."""

from typing import Any

from bicentra.core.base.numbers import is_known, or_none
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.search.run import BY_PLAY, FoundSet


def search_object(combinations: int, seconds: float, sets: list[FoundSet]) -> dict[str, Any]:
    """Return the object that ``search --json`` prints, best sets first."""
    return {"combinations": combinations, "seconds": round(seconds, 3), "sets": [_set(found) for found in sets]}


def _set(found: FoundSet) -> dict[str, Any]:
    job = found.job
    return {
        "rotor": job.rotor.name,
        "caliper": job.caliper.name,
        "clock_deg": job.fit.clock_deg,
        "rotor_spacer_mm": job.fit.rotor_spacer_mm,
        "side": job.bracket.side,
        "verdict": found.verdict.value,
        "score": round(found.score, 4),
        "decides": found.decides or None,
        "by_play": found.by_play,
        "short_mm": or_none(round(found.short, 6)),
        "tip_gap_mm": or_none(found.tip_gap),
        "axial_error_mm": or_none(round(found.axial_error, 6)),
        "thickness_mm": or_none(found.thickness),
        "angles": found.open_angles if found.feasible else 0,
    }


def search_text(combinations: int, seconds: float, sets: list[FoundSet], units: str) -> str:
    """Return the same in lines."""
    lengths = LengthFormat(units_of(units))
    lines = [f"{combinations} combinations looked at in {seconds:.1f} s, every clock angle counted."]
    for place, found in enumerate(sets, 1):
        text = f"{place:3d}. {found.verdict.word:9s} {found.score:.2f}  {found.name}"
        if found.feasible:
            text += f", plate {lengths.size(found.thickness)}, tip gap {lengths.gap(found.tip_gap)}"
        if found.decides:
            more = (
                f", {BY_PLAY}"
                if found.by_play
                else f", short by {lengths.gap(found.short)}"
                if is_known(found.short)
                else ""
            )
            text += f" ({found.decides}{more})"
        lines.append(text)
    if not sets:
        lines.append("No set came out: no rotor or no caliper in the library is as asked.")
    lines.append("Brakes can kill: have the choice and the finished work checked by someone qualified.")
    return "\n".join(lines) + "\n"

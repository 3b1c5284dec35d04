"""A finding's value and limit as they are read on screen and paper."""

import math
from collections.abc import Callable

from bicentra.core.base.finding import Finding
from bicentra.core.base.quantities import FORCE, Units, show_in, show_length
from bicentra.core.base.wording import LengthFormat

PLAIN: dict[str, Callable[[LengthFormat, float], str]] = {
    "K": LengthFormat.warmer, "°C": LengthFormat.heat, "bar": LengthFormat.pressure,
}  # fmt: skip
"""How the other units are written, with the digits a person can use."""


def value_text(value: float, unit: str, units: Units) -> str:
    """Return a finding's value [``unit``] in the units shown; a dash when it is unknown or without bound."""
    if not math.isfinite(value):
        return "–"
    if unit == "mm":
        return show_length(value, units, gap=True).replace("-", "−")
    lengths = LengthFormat(units)
    if unit == "N":
        return show_in(value, FORCE, units, 0)
    if unit in PLAIN:
        return PLAIN[unit](lengths, value)
    if unit.startswith("of the "):
        return f"{value * 100:.0f} % {unit}"
    if unit == "°" and abs(value) < 10 and value != round(value):
        return f"{value:.2f}°"  # a lean of a face, not a clock angle
    return f"{value:.0f}{unit}" if unit in ("°", "") else f"{value:.2f} {unit}"


def shown_value(finding: Finding, units: Units) -> tuple[str, str]:
    """Return a finding's value and its limit as shown; what is counted against none at all is told in words, without a limit."""
    if not finding.unit and finding.limit == 0 and not finding.at_least and math.isfinite(finding.value):
        return (f"{finding.value:.0f} to fix" if finding.value else "all right"), "–"
    if finding.unit == "K" and math.isfinite(finding.value):  # so far off its own limit: nothing to hold it against
        side = "below" if finding.value >= 0 else "above"
        return f"{LengthFormat(units).warmer(abs(finding.value))} {side} its limit", "–"
    return value_text(finding.value, finding.unit, units), value_text(finding.limit, finding.unit, units)

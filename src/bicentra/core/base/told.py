"""A finding's value and limit as they are read on screen and paper."""

import math

from bicentra.core.base.finding import Finding
from bicentra.core.base.quantities import Units, show_length
from bicentra.core.base.wording import LengthFormat


def value_text(value: float, unit: str, units: Units) -> str:
    """Return a finding's value [``unit``] in the units shown; a dash when it is not known or without bound."""
    if not math.isfinite(value):
        return "–"
    if unit == "mm":
        return show_length(value, units, gap=True).replace("-", "−")
    if units == "in" and unit in ("N", "K"):
        lengths = LengthFormat(units)
        return lengths.force(value) if unit == "N" else lengths.warmer(value)
    if unit == "°" and abs(value) < 10 and value != round(value):
        return f"{value:.2f}°"  # a lean of a face, not a clock angle
    return f"{value:.0f}{unit}" if unit in ("°", "") else f"{value:.2f} {unit}"


def told_value(finding: Finding, units: Units) -> tuple[str, str]:
    """Return a finding's value and its limit as shown; what is counted against none at all is told in words, without a limit."""
    if not finding.unit and finding.limit == 0 and not finding.at_least and math.isfinite(finding.value):
        return (f"{finding.value:.0f} not right" if finding.value else "all right"), "–"
    return value_text(finding.value, finding.unit, units), value_text(finding.limit, finding.unit, units)

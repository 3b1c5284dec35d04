"""Unknown numbers. A measurement nobody has taken is ``None`` in the job and ``nan`` in the arithmetic.

``nan`` runs through every sum, so a result is unknown when any input is, without a test at each step. Comparisons
with ``nan`` are false both ways, therefore verdicts are only ever given by ``finding.judge``.
"""

import math

UNKNOWN = math.nan


def known(value: float | None) -> float:
    """Return ``value`` for arithmetic [any unit]: ``None`` becomes ``UNKNOWN``."""
    return UNKNOWN if value is None else float(value)


def is_known(*values: float | None) -> bool:
    """Tell whether every one of ``values`` is a finite number."""
    for value in values:  # noqa: SIM110 - a plain loop: this runs hundreds of times in a solve
        if value is None or not math.isfinite(value):
            return False
    return True


def or_none(value: float) -> float | None:
    """Return ``value`` for a file [any unit]: an unknown or infinite number becomes ``None``; minus zero becomes zero."""
    return value + 0.0 if math.isfinite(value) else None


def smallest(values: list[float]) -> float:
    """Return the smallest of ``values`` [any unit]; unknown as soon as one is unknown, or when there are none."""
    if not values or any(math.isnan(value) for value in values):
        return UNKNOWN
    return min(values)


def ordered(one: float, other: float) -> tuple[float, float]:
    """Return the two in rising order [any unit]; both unknown as soon as one is, which ``min`` and ``max`` do not give."""
    if math.isnan(one) or math.isnan(other):
        return UNKNOWN, UNKNOWN
    return (one, other) if one <= other else (other, one)


def apart(low: float, high: float, other_low: float, other_high: float) -> float:
    """Return the gap between two ranges, negative when they overlap; unknown as soon as one end is unknown.

    The built-in ``max`` must not be used for this: it passes over ``nan`` or not, depending on the order.
    """
    one, other = low - other_high, other_low - high
    return UNKNOWN if math.isnan(one) or math.isnan(other) else max(one, other)


def first_known(value: float | None, default: float) -> float:
    """Return ``value``, or ``default`` when nobody gave one [any unit]."""
    return default if value is None else value

"""Unknown numbers, and chances from a normal distribution.

A measurement nobody has taken is ``None`` in the job and ``nan`` in the arithmetic.
"""

import math

UNKNOWN = math.nan
Pure = float
"""A number without unit, or one that keeps whichever it comes with."""


def known(value: Pure | None) -> Pure:
    """Return ``value`` for arithmetic: ``None`` becomes ``UNKNOWN``."""
    return UNKNOWN if value is None else float(value)


def is_known(*values: float | None) -> bool:
    """Tell whether every one of ``values`` is a finite number."""
    for value in values:  # noqa: SIM110 - a plain loop: this runs hundreds of times in a solve
        if value is None or not math.isfinite(value):
            return False
    return True


def or_none(value: Pure) -> Pure | None:
    """Return ``value`` for a file: an unknown or infinite number becomes ``None``; minus zero becomes zero."""
    return value + 0.0 if math.isfinite(value) else None


def smallest(values: list[Pure]) -> Pure:
    """Return the smallest of ``values``; unknown as soon as one is unknown, or when there are none."""
    if not values or any(math.isnan(value) for value in values):
        return UNKNOWN
    return min(values)


def ordered(one: Pure, other: Pure) -> tuple[Pure, Pure]:
    """Return the two in rising order; both unknown as soon as one is, which ``min`` and ``max`` do not give."""
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
    """Return ``value``, or ``default`` when nobody gave one."""
    return default if value is None else value


def normal_below(z: float) -> float:
    """Return the chance that a standard normal number lies below ``z``."""
    return 0.5 * math.erfc(-z / math.sqrt(2.0))


def chance_met(value: float, sd: float, limit: float, at_least: bool, two_sided: bool = False) -> float:
    """Return the chance that a value known with standard uncertainty ``sd`` lies on the right side of ``limit``.

    ``two_sided``: the value is the size of something of either sign, which must stay within ±``limit``. Unknown (nan)
    when any number is; with no uncertainty at all the answer is 0 or 1.
    """
    if not all(map(math.isfinite, (value, sd, limit))):
        return math.nan
    margin = value - limit if at_least else limit - value
    if sd <= 0:
        return 1.0 if margin >= -1e-9 else 0.0
    chance = normal_below(margin / sd)
    if two_sided:
        chance -= normal_below((-limit - value) / sd)
    return max(chance, 0.0)


def percent(chance: float) -> str:
    """Return a chance in words: never 100 %, which no measurement gives."""
    if chance > 0.999:
        return "over 99.9 %"
    if chance < 0.001:
        return "under 0.1 %"
    return f"{100 * chance:.1f} %" if chance > 0.99 else f"{100 * chance:.0f} %"

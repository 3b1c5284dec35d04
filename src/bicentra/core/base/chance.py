"""Chances from a normal distribution."""

import math


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

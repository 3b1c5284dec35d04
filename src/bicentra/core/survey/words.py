"""Readings and what is wrong with them, in plain words."""

import math

from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.survey import SENSE_WORDS
from bicentra.core.survey.adjust import Adjusted
from bicentra.core.survey.network import Reading

WAYS = ("forward", "forward and up", "up", "back and up", "back", "back and down", "down", "forward and down")


def way_word(angle_deg: float) -> str:
    """Return the nearest of eight directions for a clock angle, in words."""
    return WAYS[round(angle_deg / 45.0) % 8]


def reading_name(reading: Reading) -> str:
    """Return what a reading is called: ``pilot to lower lug, near edge to near edge``."""
    if reading.kind == "diameter":
        return f"diameter of {reading.ends[0]}"
    if reading.kind == "edge-direction":
        return f"lean of {reading.ends[0]}"
    pair = f"{reading.ends[0]} to {reading.ends[1]}"
    return f"angle of the line {pair}" if reading.kind == "direction" else f"{pair}, {SENSE_WORDS[reading.sense]}"


def blunder_of(adjusted: Adjusted, k: int) -> float:
    """Return by how much reading ``k`` would be wrong if all others were right [mm or rad]: residual over redundancy."""
    return float(adjusted.residuals[k] / adjusted.redundancy[k])


def amount(reading: Reading, value: float, lengths: LengthFormat) -> str:
    """Return a residual or a blunder of ``reading``, unsigned: ``0.80 mm`` or ``0.4°``."""
    return f"{abs(math.degrees(value)):.2f}°" if "direction" in reading.kind else lengths.gap(value)


def suspect_sentence(adjusted: Adjusted, lengths: LengthFormat) -> str:
    """Return which reading is wrong and by how much; empty when none is named."""
    named = adjusted.suspects
    if not named:
        return ""
    if len(named) > 1:
        names = "; ".join(reading_name(adjusted.readings[k]) for k in named)
        return f"One of these {len(named)} readings is wrong: {names}. Measure them again."
    reading, wrong = adjusted.readings[named[0]], blunder_of(adjusted, named[0])
    if "direction" in reading.kind:
        way = "too far towards up" if wrong > 0 else "too far towards forward"
    else:
        way = "long" if wrong > 0 else "short"
    name = reading_name(reading)
    return f"{name[0].upper()}{name[1:]}, reads {amount(reading, wrong, lengths)} {way}; measure it again."


def loose_sentences(adjusted: Adjusted, lengths: LengthFormat) -> tuple[str, ...]:
    """Return which features are not fixed, and in which direction each can still move."""
    if turns_freely(adjusted):
        return (
            "Nothing says how the corner is turned about the axle: read the angle of one line with the angle gauge.",
        )
    text = []
    for item in adjusted.loose:
        if item.way is None:
            text.append(f"{item.name} is not fixed: it can still move any way.")
        else:
            angle = math.degrees(item.way) % 180.0
            text.append(f"{item.name} is loose {way_word(angle)} or {way_word(angle + 180)} ({angle:.0f}° clock).")
    for name, one, other in adjusted.mirrored:
        places = " or ".join(f"{lengths.size(p[0])} / {lengths.size(p[1])}" for p in (one, other))
        text.append(f"{name} has two places that fit as well, {places}: say on which side it lies.")
    return tuple(text)


def turns_freely(adjusted: Adjusted) -> bool:
    """Tell whether all that is loose is the whole corner turning about the axle."""
    ways = {item.name: item.way for item in adjusted.loose}
    if adjusted.free != 1 or set(ways) != set(adjusted.network.points) or adjusted.network.edges:
        return False
    for name, way in ways.items():
        x, y = adjusted.place(name)
        across = math.atan2(y, x) + math.pi / 2
        if way is None or abs(math.remainder(way - across, math.pi)) > 0.02:
            return False
    return True

"""Temperature over a train of stops: each end's saw-tooth, where the pads end, where the fluid boils.

The train is ``WIDE_MM`` long on the sheet and its highest temperature ``HIGH_MM`` high, whatever they are.
"""

import math

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.quantities import HEAT, in_units
from bicentra.core.drawing.model import Drawing, Note, Sheet, Text, framed
from bicentra.core.geometry.outline import Point
from bicentra.core.heat.stops import Heated
from bicentra.core.heat.train import FLUID_SHARE, Hot
from bicentra.core.parts.vehicle import Axle, Vehicle

WIDE_MM, HIGH_MM, MARKS, COOL_POINTS = 170.0, 80.0, 5, 6
"""Size of the diagram [mm], about how many marks an axis has, points of the cooling between two stops."""
MOST_TEETH = 60
"""A longer train is drawn by its peaks alone."""
BARE = (-8.0, -14.0, WIDE_MM + 6.0, HIGH_MM + 6.0)


def heat_view(vehicle: Vehicle, hot: Hot) -> Drawing:
    """Return the diagram of ``hot``; only blanks where no end's temperature is known."""
    sheet = Sheet()
    sheet.line(((0.0, 0.0), (WIDE_MM, 0.0)), "bolt", "heat")
    sheet.line(((0.0, 0.0), (0.0, HIGH_MM)), "bolt", "heat")
    sheet.texts.append(Text((WIDE_MM, -11.0), "stop", "text", "", 9.0, "end"))
    sheet.texts.append(
        Text(
            (2.0, HIGH_MM + 3.0), f"temperature [{in_units(0.0, HEAT, hot.lengths.units)[1]}]", "text", "", 9.0, "start"
        )
    )
    ends = [(name, end) for name, end in (("front", hot.front), ("rear", hot.rear)) if is_known(*end.peaks)]
    if not ends or not hot.train.stops:
        sheet.examples.append("needs masses, rotors or drums, and what the brakes share between the axles")
        return framed(sheet, BARE)
    limits = list(_limits(vehicle, hot))
    drawn = [end.peaks[-1] for _, end in (*ends, *_old(hot))]
    top = _top(max(drawn + [limit for _, limit in limits]), hot.train.ambient)
    _axes(sheet, hot, top)
    for text, limit in limits:
        sheet.line(
            (_at(hot, top, 0.0, limit), _at(hot, top, hot.train.stops, limit)), "construction", "limit", "hidden"
        )
        sheet.note(Note(_at(hot, top, hot.train.stops * 0.3, limit), text, "limit", 2, prefer=(1.0, -0.5)))
    for name, end in _old(hot):
        sheet.line(_teeth(hot, end, top), "construction", f"{name}-before", "hidden")
        peak = _at(hot, top, hot.train.stops, end.peaks[-1])
        sheet.note(
            Note(peak, f"{name} before {hot.lengths.heat(end.peaks[-1])}", f"{name}-before", 1, prefer=(1.0, 0.2))
        )
    hottest = max(end.peaks[-1] for _, end in ends)
    for place, (name, end) in enumerate(ends):
        sheet.line(_teeth(hot, end, top), ("made", "caliper")[place], name)
        text = f"{name} {hot.lengths.heat(end.peaks[-1])}"
        peak = _at(hot, top, hot.train.stops, end.peaks[-1])
        sheet.note(Note(peak, text, name, 0, prefer=(1.0, 0.6 if end.peaks[-1] >= hottest else -0.6)))
    return framed(sheet, BARE)


def _old(hot: Hot) -> list[tuple[str, Heated]]:
    """The ends as they were, where they were others and are known."""
    both = zip(("front", "rear"), hot.old or (), (hot.front, hot.rear))
    return [(name, old) for name, old, now in both if is_known(*old.peaks) and old.peaks != now.peaks]


def _limits(vehicle: Vehicle, hot: Hot) -> list[tuple[str, float]]:
    """The rotor's temperature [°C] at which the pads of each end leave their range, and at which the fluid boils."""
    found = []
    for name in ("front", "rear"):
        axle = vehicle.axles.get(name, Axle())
        most = known(axle.pad.to_c)
        if axle.drum is None and is_known(most) and most > hot.train.ambient:
            found.append((f"{name} pads work up to {hot.lengths.heat(most)}", most))
    if is_known(hot.boils):
        boils = hot.train.ambient + (hot.boils - hot.train.ambient) / FLUID_SHARE
        found.append((f"the fluid boils, rotor at {hot.lengths.heat(boils)}", boils))
    return found


def _top(highest: float, ambient: float) -> float:
    """Return the end of the axis [°C]: a round number above everything."""
    step = _step(max(highest - ambient, 1.0))
    return ambient + math.ceil((highest - ambient) * 1.05 / step) * step


def _step(span: float) -> float:
    rough = span / MARKS
    power = 10.0 ** math.floor(math.log10(rough))
    return next(power * part for part in (1.0, 2.0, 5.0, 10.0) if power * part >= rough)


def _axes(sheet: Sheet, hot: Hot, top: float) -> None:
    """Mark both axes at round numbers: whole stops, degrees."""
    ambient, stops = hot.train.ambient, hot.train.stops
    low, high = (in_units(degrees, HEAT, hot.lengths.units)[0] for degrees in (ambient, top))
    step = _step(high - low)
    degrees = math.ceil(low / step) * step
    while degrees <= high + 1e-9:
        x, y = _at(hot, top, 0.0, ambient + (degrees - low) / (high - low) * (top - ambient))
        sheet.line(((x, y), (x - 2.0, y)), "bolt", "heat")
        sheet.texts.append(Text((x - 3.0, y), f"{degrees:.0f}", "text", "", 8.0, "end", rise=3.0))
        degrees += step
    every = max(1, math.ceil(_step(float(stops))))
    for stop in range(every, stops + 1, every):
        x, y = _at(hot, top, stop, ambient)
        sheet.line(((x, y), (x, y - 2.0)), "bolt", "heat")
        sheet.texts.append(Text((x, y - 5.0), f"{stop}", "text", "", 8.0))


def _at(hot: Hot, top: float, stop: float, degrees: float) -> Point:
    ambient = hot.train.ambient
    return WIDE_MM * stop / hot.train.stops, HIGH_MM * (degrees - ambient) / (top - ambient)


def _teeth(hot: Hot, end: Heated, top: float) -> list[Point]:
    """The saw-tooth: up at every stop, down by Newton's law of cooling till the next; a long train by its peaks."""
    if hot.train.stops > MOST_TEETH:
        return [_at(hot, top, n, peak) for n, peak in enumerate(end.peaks, 1)]
    ambient, found = hot.train.ambient, [_at(hot, top, 1.0, hot.train.ambient)]
    for n, peak in enumerate(end.peaks, 1):
        found.append(_at(hot, top, n, peak))
        if n < len(end.peaks):
            for part in range(1, COOL_POINTS + 1):
                cooled = math.exp(-hot.train.every * part / COOL_POINTS / end.sink.constant)
                found.append(_at(hot, top, n + part / COOL_POINTS, ambient + (peak - ambient) * cooled))
    return found

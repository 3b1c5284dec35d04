"""Where the master's stroke goes at each stage of a stop: a bar a stage, divided by what takes the fluid, up to the stroke's end.

The longest of bars and stroke is ``WIDE_MM`` wide on the sheet, whatever it is.
"""

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Drawing, Sheet, Text
from bicentra.core.hydraulics.chain import Chain
from bicentra.core.hydraulics.masters import STROKE
from bicentra.core.hydraulics.stages import Stage
from bicentra.core.hydraulics.travel import OneCircuit

WIDE_MM, BAR_MM, ROW_MM, KEY_MM, LEAST_MM = 170.0, 7.0, 16.0, 7.0, 5.0
"""Width of the picture, height of a bar, from bar to bar, from line to line of the key; a narrower piece carries no
number [mm].
"""
INKS = {
    "piston retraction": "caliper", "knock-back": "shim", "pads and shoes": "pad", "calipers": "knuckle", "hoses": "made",
    "heat": "bleeder", "worn shoes": "obstacle", "hoses, pads and calipers, as stated": "made",
}  # fmt: skip


def travel_view(chain: Chain, stages: tuple[Stage, ...], circuits: tuple[OneCircuit, OneCircuit]) -> Drawing:
    """Return the bars of ``stages``, then what is left with one circuit gone; stages that are unknown are blanks."""
    sheet, lengths = Sheet(), chain.lengths
    stroke = known(chain.master.stroke_mm)
    shown = [one for one in stages if is_known(one.travel.stroke)]
    left = [one for one in circuits if is_known(one.stroke, one.decel) and chain.master.kind != "single"]
    if len(shown) < len(stages):
        sheet.examples.append("needs master, pedal, pistons, pads and tyres for every stage of a stop")
    longest = max(
        [stroke if is_known(stroke) else 1.0, *(one.travel.stroke for one in shown), *(one.stroke for one in left)]
    )
    scale = WIDE_MM / longest
    names = list(dict.fromkeys(part.name for one in shown for part in one.parts))
    y = 0.0
    for one in shown:
        _bar(sheet, one, names, (y, scale), lengths)
        y -= ROW_MM
    for circuit in left:
        _circuit(sheet, circuit, stroke, (y, scale), lengths)
        y -= ROW_MM
    if is_known(stroke) and y < 0.0:
        _end(sheet, stroke, scale, tuple(-ROW_MM * k for k in range(round(-y / ROW_MM))), lengths)
    _key(sheet, names, shown, y)
    bottom = y - KEY_MM * ((len(names) + 1) // 2 + 1)
    frame = (-4.0, bottom, WIDE_MM + 4.0, ROW_MM + 5.0)
    return replace(sheet.finish(frame), frame=frame)


def _bar(sheet: Sheet, stage: Stage, names: list[str], at: tuple[float, float], lengths: LengthFormat) -> None:
    """One stage: its name and figures over its bar; each piece carries the number it has in the key."""
    (y, scale), x, tag = at, 0.0, f"stage-{stage.name}"
    travel = stage.travel
    text = f"{stage.name[:1].upper()}{stage.name[1:]}: {lengths.size(round(travel.stroke, 1))} of stroke"
    text += f", {travel.share * 100:.0f} %" if is_known(travel.share) else ""
    text += f"; pedal {lengths.size(round(travel.pedal))}" if is_known(travel.pedal) else ""
    sheet.texts.append(Text((0.0, y + BAR_MM + 1.5), text, "text", tag, 9.0, "start"))
    for part, long in zip(stage.parts, stage.strokes):
        sheet.box(x, y, x + long * scale, y + BAR_MM, INKS.get(part.name, "made"), tag)
        if long * scale >= LEAST_MM:
            number = str(names.index(part.name) + 1)
            sheet.texts.append(Text((x + long * scale / 2, y + BAR_MM / 2), number, "text", tag, 9.0, rise=4.0))
        x += long * scale


def _circuit(sheet: Sheet, one: OneCircuit, stroke: float, at: tuple[float, float], lengths: LengthFormat) -> None:
    """One circuit gone: the way its piston goes for nothing, then what the other takes."""
    (y, scale), tag = at, f"circuit-{one.left}"
    text = f"{one.left.capitalize()} alone, the other circuit gone: {lengths.size(round(one.stroke, 1))} of stroke, "
    text += f"{one.decel:.2f} g at {lengths.force(one.foot)}"
    sheet.texts.append(Text((0.0, y + BAR_MM + 1.5), text, "text", tag, 9.0, "start"))
    lost = min(stroke / 2, one.stroke)
    sheet.box(0.0, y, lost * scale, y + BAR_MM, "construction", tag, "hidden")
    sheet.texts.append(
        Text((lost * scale / 2, y + BAR_MM / 2), "lost to the failed circuit", "text", tag, 8.0, rise=4.0)
    )
    sheet.box(lost * scale, y, one.stroke * scale, y + BAR_MM, "made", tag)


def _end(sheet: Sheet, stroke: float, scale: float, rows: tuple[float, ...], lengths: LengthFormat) -> None:
    """The stroke's end, and what of it should not be passed, across every bar; what they are below the last."""
    for part, text in ((1.0, f"end, {lengths.size(stroke)}"), (STROKE.stop, f"{STROKE.stop * 100:.0f} %")):
        x = stroke * part * scale
        for y in rows:
            sheet.line(((x, y - 1.0), (x, y + BAR_MM)), "bolt", "stroke", "solid" if part == 1.0 else "hidden")
        sheet.texts.append(Text((x, min(rows) - 4.5), text, "text", "stroke", 9.0))


def _key(sheet: Sheet, names: list[str], shown: list[Stage], y: float) -> None:
    """What the numbers in the bars mean, and which of them nobody stated."""
    usual = {name for one in shown for name in one.usual}
    for k, name in enumerate(names):
        x, row = (k % 2) * WIDE_MM / 2, y - KEY_MM * (k // 2)
        sheet.box(x, row, x + 5.0, row + 4.0, INKS.get(name, "made"), "key")
        text = f"{k + 1}  {name}{' *' if name in usual else ''}"
        sheet.texts.append(Text((x + 7.0, row + 2.0), text, "text", "key", 9.0, "start", rise=4.0))

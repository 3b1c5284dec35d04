"""The master cylinder cut open, and where its stroke goes at each stage of a stop."""

from itertools import pairwise

from bicentra.core.base.numbers import first_known, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Drawing, Note, Sheet, Text, framed
from bicentra.core.geometry.outline import Point
from bicentra.core.hydraulics.chain import Chain, chain_of
from bicentra.core.hydraulics.masters import CHAMBERS, STROKE
from bicentra.core.hydraulics.travel import OneCircuit, Stage, travel_at
from bicentra.core.parts.vehicle import Master, Vehicle

WIDE_MM, BAR_MM, ROW_MM, KEY_MM, LEAST_MM = 170.0, 7.0, 16.0, 7.0, 5.0
"""Width of the picture, height of a bar, from bar to bar, from line to line of the key; a narrower piece carries no
number [mm].
"""
STAGE_INKS = {
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
    boxes = [shape.bounds for shape in sheet.shapes]
    low, right = min((b[1] for b in boxes), default=frame[1]), max((b[2] for b in boxes), default=frame[2])
    return framed(sheet, (frame[0], min(frame[1], low - 2.0), max(frame[2], right), frame[3]))


def _bar(sheet: Sheet, stage: Stage, names: list[str], at: tuple[float, float], lengths: LengthFormat) -> None:
    """One stage: its name and figures over its bar; each piece carries the number it has in the key."""
    (y, scale), x, tag = at, 0.0, f"stage-{stage.name}"
    travel = stage.travel
    text = f"{stage.name[:1].upper()}{stage.name[1:]}: {lengths.size(round(travel.stroke, 1))} of stroke"
    text += f", {travel.share * 100:.0f} %" if is_known(travel.share) else ""
    text += f"; pedal {lengths.size(round(travel.pedal))}" if is_known(travel.pedal) else ""
    sheet.texts.append(Text((0.0, y + BAR_MM + 1.5), text, "text", tag, 9.0, "start"))
    for part, long in zip(stage.parts, stage.strokes):
        sheet.box(x, y, x + long * scale, y + BAR_MM, STAGE_INKS.get(part.name, "made"), tag)
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
        sheet.box(x, row, x + 5.0, row + 4.0, STAGE_INKS.get(name, "made"), "key")
        text = f"{k + 1}  {name}{' *' if name in usual else ''}"
        sheet.texts.append(Text((x + 7.0, row + 2.0), text, "text", "key", 9.0, "start", rise=4.0))


WALL_MM, PISTON_MM, SPARE_MM, BORE_MM, STROKE_MM, REST_MM = 5.0, 6.0, 8.0, 20.0, 32.0, 10.0
"""Wall, length of a piston, room left at the end of a chamber; what is drawn, dotted, while bore or stroke are unknown [mm]."""
APART_MM, DROP_MM, PORT_MM, FAR_MM = 86.0, 18.0, 7.0, 118.0
INKS = {"front": "rotor", "rear": "made", "": "construction"}


class Chamber(Record, frozen=True):
    """One chamber: from and to where it lies along the bore [mm], how far its piston goes to the bite, which end it
    feeds, its ``bore`` [mm].
    """

    begin: float
    end: float
    moved: float
    feeds: str
    name: str
    bore: float


def master_view(vehicle: Vehicle, chain: Chain, earlier: Vehicle | None, lengths: LengthFormat) -> Drawing:
    """Return the new master, and the old one above it where ``earlier`` holds another."""
    sheet = Sheet()
    _master(sheet, vehicle, chain, 0.0, "Now", lengths)
    other = earlier is not None and earlier.vehicle.master != vehicle.vehicle.master
    if earlier is not None and other:
        _master(sheet, earlier, chain_of(earlier), APART_MM, "Before", lengths)
    frame = (-38.0, -46.0, FAR_MM + 36.0, (APART_MM if other else 0.0) + 42.0)
    boxes = [shape.bounds for shape in sheet.shapes]
    low, right = min((b[1] for b in boxes), default=frame[1]), max((b[2] for b in boxes), default=frame[2])
    return framed(sheet, (frame[0], min(frame[1], low - 2.0), max(frame[2], right), frame[3]))


def chambers_of(master: Master, chain: Chain) -> tuple[Chamber, ...]:
    """Return the chambers along the bore, the one by the rod first [mm]; where they feed nobody said they feed no end."""
    stroke = first_known(master.stroke_mm, STROKE_MM)
    front, rear = (end.volume for end in chain.ends)
    near = "front" if master.front_from == CHAMBERS[0] else "rear" if master.front_from == CHAMBERS[1] else ""
    far = {"front": "rear", "rear": "front", "": ""}[near]
    if master.kind == "single":
        return (
            Chamber(
                REST_MM + PISTON_MM,
                REST_MM + PISTON_MM + stroke + SPARE_MM,
                travel_at(chain).stroke,
                "",
                "one circuit",
                first_known(master.bore_mm, BORE_MM),
            ),
        )
    half = stroke / 2
    beyond = {"front": front, "rear": rear}.get(far, min(front, rear)) / chain.bores[1 if far == "rear" else 0]
    front_bore, bores = first_known(master.bore_mm, BORE_MM), (first_known(master.bore_mm, BORE_MM),) * 2
    if master.kind == "stepped":
        rear_bore = first_known(master.rear_bore_mm, front_bore)
        bores = (rear_bore, front_bore) if near == "rear" else (front_bore, rear_bore)
    one = REST_MM + PISTON_MM
    two = one + half + SPARE_MM + PISTON_MM
    return (
        Chamber(one, two - PISTON_MM, travel_at(chain).stroke, near, CHAMBERS[0], bores[0]),
        Chamber(two, two + half + SPARE_MM, beyond, far, CHAMBERS[1], bores[1]),
    )


def _master(sheet: Sheet, vehicle: Vehicle, chain: Chain, y: float, title: str, lengths: LengthFormat) -> None:
    master = vehicle.vehicle.master
    measured = master.bore_mm is not None and master.stroke_mm is not None
    line, chambers = "solid" if measured else "hidden", chambers_of(master, chain)
    end, bore = chambers[-1].end, max(chamber.bore for chamber in chambers)
    tag = f"master-{title.lower()}"
    sheet.box(0.0, y - bore / 2 - WALL_MM, end + WALL_MM, y + bore / 2 + WALL_MM, "knuckle", tag, line)
    begins = [0.0, *(chamber.begin - PISTON_MM for chamber in chambers[1:]), end]
    for chamber, (x0, x1) in zip(chambers, pairwise(begins)):
        half = chamber.bore / 2
        corners = ((x0, y - half), (x1, y - half), (x1, y + half), (x0, y + half))
        sheet.polygon(corners, "construction", tag, line=line)
    sheet.line(((-30.0, y), (REST_MM, y)), "bolt", "rod")
    for place, chamber in enumerate(reversed(chambers)):
        _chamber(sheet, chamber, (y, bore, DROP_MM * (0.6 + 0.7 * place)), tag, vehicle)
    if title == "Now":
        _switch(sheet, (chambers[-1].end - 4.0, y - bore / 2 - WALL_MM - DROP_MM * 0.6))
    text = f"{title}: {lengths.size(known(master.bore_mm))} bore, {lengths.size(known(master.stroke_mm))} stroke, {master.kind}"
    if not measured:
        text = f"{title}: bore or stroke not measured yet"
        sheet.examples.append("needs bore and stroke of the master")
    sheet.texts.append(Text((0.0, y + bore / 2 + WALL_MM + 14.0), text, "text", tag, 10.0, "start", True))
    sheet.note(Note((-30.0, y), "push rod", "rod", 2, prefer=(-0.3, 1.0)))


def _switch(sheet: Sheet, corner: Point) -> None:
    """Draw the stop-lamp switch on the line that leaves at ``corner`` [mm]: it may as well sit in the other."""
    x, y = corner[0] + 12.0, corner[1]
    sheet.box(x - 3.0, y, x + 3.0, y + 9.0, "bolt", "switch")
    sheet.line(((x - 2.0, y + 9.0), (x - 2.0, y + 13.0)), "bolt", "switch")
    sheet.line(((x + 2.0, y + 9.0), (x + 2.0, y + 13.0)), "bolt", "switch")
    sheet.note(Note((x, y + 13.0), "stop-lamp switch, in either line", "switch", 2, prefer=(1.0, 0.6)))


def _chamber(sheet: Sheet, chamber: Chamber, bore: tuple[float, float, float], tag: str, vehicle: Vehicle) -> None:
    """Draw a chamber in the colour of the end it feeds, its piston at rest and at the bite, its ports and its line.

    ``bore``: where the master's middle lies, its largest bore, how far down the line goes [mm].
    """
    (y, wide, drop), high = bore, chamber.bore
    sheet.box(chamber.begin, y - high / 2, chamber.end, y + high / 2, INKS[chamber.feeds], tag)
    sheet.box(chamber.begin - PISTON_MM, y - high / 2, chamber.begin, y + high / 2, "caliper", tag)
    if is_known(chamber.moved) and chamber.moved < chamber.end - chamber.begin:
        at = chamber.begin + chamber.moved
        sheet.line(((at, y - high / 2), (at, y + high / 2)), "made", tag, "hidden")
    top = y + wide / 2 + WALL_MM
    sheet.box(chamber.begin + 1.0, top, chamber.begin + 1.0 + PORT_MM, top + PORT_MM, "bolt", tag)
    out = (chamber.end - 4.0, y - wide / 2 - WALL_MM)
    low, ends = out[1] - drop, max(FAR_MM, chamber.end + 40.0)
    sheet.line((out, (out[0], low), (ends - 26.0, low)), INKS[chamber.feeds], tag)
    if chamber.feeds == "rear" and vehicle.vehicle.valve.kind not in ("none", "gutted"):
        _valve(sheet, (ends - 70.0, low), tag)
    text = f"{chamber.name}: to the {chamber.feeds}" if chamber.feeds else f"{chamber.name}: end not stated"
    sheet.texts.append(Text((ends - 22.0, low), text, "text", tag, 9.0, "start", rise=-3.0))


def _valve(sheet: Sheet, at: Point, tag: str) -> None:
    """Draw the valve in the line: IN towards the master, OUT towards the rear."""
    x, y = at
    sheet.box(x, y - 7.0, x + 26.0, y + 7.0, "caliper", tag)
    sheet.texts.append(Text((x + 5.0, y), "IN", "text", tag, 8.0, rise=-3.0))
    sheet.texts.append(Text((x + 20.0, y), "OUT", "text", tag, 8.0, rise=-3.0))

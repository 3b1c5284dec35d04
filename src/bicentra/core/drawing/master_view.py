"""The master cylinder cut open: chambers, pistons at rest and at the bite, which line goes where; the old one above the new."""

from itertools import pairwise

from bicentra.core.base.numbers import first_known, is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Drawing, Note, Sheet, Text
from bicentra.core.geometry.outline import Point
from bicentra.core.hydraulics.chain import Chain, chain_of
from bicentra.core.hydraulics.rework_list import CHAMBERS
from bicentra.core.hydraulics.travel import travel_at
from bicentra.core.parts.vehicle import Master, Vehicle

WALL_MM, PISTON_MM, SPARE_MM, BORE_MM, STROKE_MM, REST_MM = 5.0, 6.0, 8.0, 20.0, 32.0, 10.0
"""Wall, length of a piston, room left at the end of a chamber; what is drawn, dotted, while bore or stroke are unknown [mm]."""
APART_MM, DROP_MM, PORT_MM, FAR_MM = 105.0, 20.0, 7.0, 150.0
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
    frame = (-40.0, -58.0, 240.0, (APART_MM if other else 0.0) + 50.0)
    return replace(sheet.finish(frame), frame=frame)


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
    low, ends = out[1] - drop, FAR_MM
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

"""What a workshop drawing says beside its views, in one system of units: scale, holes, tolerances with what they
protect, notes.
"""

import math

from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.model import MadePart
from bicentra.core.drawing.sheets.plate import Datum, pitches
from bicentra.core.geometry.outline import Outline, Point

SCALES = (2.0, 1.0, 0.5, 0.4, 0.2, 0.1)


class Tolerance(Record, frozen=True):
    """One tolerance: what it is on, how much, and what it protects."""

    on: str
    amount: str
    protects: str


def scale_for(wide: float, high: float, room: tuple[float, float]) -> float:
    """Return the largest usual scale at which ``wide`` by ``high`` [mm] fits ``room`` [mm]; the smallest when none does."""
    return next((s for s in SCALES if wide * s <= room[0] and high * s <= room[1]), SCALES[-1])


def scale_text(scale: float) -> str:
    """Return a ``scale`` as ``2 : 1``, ``1 : 2.5``."""
    return f"{scale:g} : 1" if scale > 1 else f"1 : {1 / scale:g}"


class HoleLine(Record, frozen=True):
    """One line of a drawing's hole table, written out: X and Y from the datum, forward and up from the wheel's axis."""

    number: str
    x: str
    y: str
    forward: str
    up: str
    work: str


def hole_lines(part: MadePart, lengths: LengthFormat, datum: Datum | None = None) -> tuple[HoleLine, ...]:
    """Return a line for every bore and cutout; X and Y are empty without a ``datum``."""
    text = [(bore.centre, f"{bore.name}: {bore.note}") for bore in part.bores]
    text += [(outline.centroid, _cutout_text(outline, lengths)) for outline in part.cutouts]
    return tuple(_hole_line(number, at, work, lengths, datum) for number, (at, work) in enumerate(text, 1))


def _hole_line(number: int, at: Point, work: str, lengths: LengthFormat, datum: Datum | None) -> HoleLine:
    x, y = map(lengths.bare, datum.at(at)) if datum is not None else ("", "")
    return HoleLine(str(number), x, y, lengths.bare(at[0]), lengths.bare(at[1]), work)


def _cutout_text(outline: Outline, lengths: LengthFormat) -> str:
    """Say what a round hole or a slot that lightens the plate is; its width is that of its round ends."""
    wide = 2 * outline.segments[0].radius
    long = max(math.dist(a, b) for a in outline.polygon(0.5) for b in outline.polygon(0.5))
    slot = long > wide * 1.01
    way = outline.segments[1]
    turn = math.degrees(math.atan2(way.end[1] - way.start[1], way.end[0] - way.start[0])) % 180.0
    size = f"slot {lengths.size(wide)} × {lengths.size(long)}, at {turn:.1f}°" if slot else lengths.drill(wide)
    return f"cutout: {size}"


def pitch_text(part: MadePart, lengths: LengthFormat) -> str:
    """Say how far apart the holes are that mate with one other part; empty where there are none."""
    said = [f"{one} to {other}: {lengths.size(apart)}" for one, other, apart in pitches(part)]
    return f"Pitches, hole {', '.join(said)}" if said else ""


def _across(outline: Outline, lengths: LengthFormat) -> str:
    x0, _, x1, _ = outline.bounds
    return f"Ø {lengths.size(x1 - x0)}"


def tolerances(part: MadePart, lengths: LengthFormat) -> tuple[Tolerance, ...]:
    """Return the tolerances a part of this kind is made to; usual shop tolerances, common practice."""
    of = lengths.size
    if part.kept:
        return tuple(Tolerance(*kept) for kept in part.kept)
    if part.shape == "round":
        found = [Tolerance("length", f"±{of(0.05)}", "the caliper's place along the axle: slot gap"),
                 Tolerance("both ends", f"square {of(0.05)}", "the bolt is not bent when it is tightened"),
                 Tolerance("bore", f"+{of(0.2)} / 0", "the bolt goes through")]  # fmt: skip
        if part.offset:
            found = [Tolerance("outside", "s6", "the press, hot as well as cold"),
                     Tolerance("eccentricity", f"±{of(0.02)}", "ears meet the lugs without strain")]  # fmt: skip
        return tuple(found)
    found = [Tolerance("holes, place", f"±{of(0.1)}", "tip gap and pad height; metal between holes"),
             Tolerance("thickness", f"±{of(0.1)}", "the caliper's place along the axle: slot gap"),
             Tolerance("both faces", f"flat {of(0.05)}", "taper of the pads"),
             Tolerance("outline", f"±{of(0.5)}", "room to rotor, hub and caliper")]  # fmt: skip
    if part.pockets:
        found.insert(2, Tolerance("step", f"±{of(0.05)}", "no shim makes up for it"))
    if part.bends:
        found.insert(
            2, Tolerance("jog", f"±{of(0.3)}, ends parallel {of(0.1)}", "slot gap and taper; shims take the rest")
        )
    return tuple(found)


def notes(part: MadePart, lengths: LengthFormat) -> tuple[str, ...]:
    """Return the notes every drawing carries."""
    pitch = pitch_text(part, lengths)
    scratches = "" if part.text else "; no scratches across a bend or beside holes"
    text = [
        f"Work: {', '.join(part.processes) or 'as drawn'}", *part.text, *([pitch] if pitch else []),
        f"Break all edges {lengths.size(0.3)}{scratches}",
        "Paint or plate bare steel; keep seat faces bare",
    ]  # fmt: skip
    own = () if part.text else part.pockets  # what a part says by itself is not said again
    for depth, face in dict.fromkeys((pocket.depth, pocket.face) for pocket in own):
        pads = next(pocket.kept for pocket in own if (pocket.depth, pocket.face) == (depth, face))
        of = [pocket for pocket in own if (pocket.depth, pocket.face) == (depth, face)]
        sizes = " and ".join(
            dict.fromkeys(_across(edge, lengths) for edge in pads or [pocket.outline for pocket in of])
        )
        where = f"all but pads {sizes}" if pads else f"{sizes} round holes"
        text.append(f"Mill {lengths.size(depth)} off the {'outboard' if face > 0 else 'inboard'} face, {where}")
    for stud in part.edge_bores:
        (x, y, z), turn = stud.at, math.degrees(math.atan2(-stud.way[1], -stud.way[0])) % 360.0
        place = f"{lengths.size(x)} forward, {lengths.size(y)} up, {lengths.size(z - part.z0)} from the inboard face"
        work = f"Tap {stud.thread} {lengths.size(stud.depth)} deep (drill {lengths.drill(stud.drill)}) into"
        if not stud.thread:
            work = f"Drill {lengths.drill(stud.drill)} right through, {lengths.size(stud.depth)}, from"
        text.append(f"{work} the edge that looks {turn:.2f}°: {place}")
    if part.weld is not None:
        sizes = f"leg {lengths.size(part.weld.leg)}, throat {lengths.size(part.weld.throat)}"
        text.append(
            f"Weld: fillet on both sides, {sizes}, {lengths.size(part.weld.long)} a side, by a qualified welder"
        )
    if part.outline is not None and len(part.outline.segments) > 2:
        text.append("Outline: from the cutting file or the 1 : 1 template")
    if part.chamfer:
        text.append(f"Chamfer {lengths.size(part.chamfer)} × 45° all round, both faces")
    if part.bends and part.bores:
        x, y = part.bores[0].centre
        near = min(part.bends, key=lambda b: abs((b.b[0] - b.a[0]) * (y - b.a[1]) - (b.b[1] - b.a[1]) * (x - b.a[0])))
        first, other = ("up", "down") if near.up else ("down", "up")
        text.append(
            f"Bend {near.angle:g}°, inside radius {lengths.size(near.radius)}: the line next to hole 1 {first}, the other {other}"
        )
    return tuple(text)

"""What a workshop drawing says beside its views: scale, hole table, tolerances and the gap each protects, notes."""

import math

from bicentra.core.base.records import Record
from bicentra.core.bracket.model import MadePart
from bicentra.core.geometry.outline import Outline

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
    """Return a ``scale`` [no unit] as ``2 : 1``, ``1 : 2.5``."""
    return f"{scale:g} : 1" if scale > 1 else f"1 : {1 / scale:g}"


def hole_rows(part: MadePart) -> tuple[tuple[str, str, str, str, str], ...]:
    """Return (number, forward, up, drill, work) of every bore and cutout, measured from the wheel's axis."""
    bores = tuple(
        (
            str(k),
            f"{bore.centre[0] + 0.0:.2f}",
            f"{bore.centre[1] + 0.0:.2f}",
            f"{bore.drill:.1f}",
            f"{bore.name}: {bore.note}",
        )
        for k, bore in enumerate(part.bores, 1)
    )
    return (*bores, *(_cutout_row(outline, len(bores) + k) for k, outline in enumerate(part.cutouts, 1)))


def _cutout_row(outline: Outline, number: int) -> tuple[str, str, str, str, str]:
    """Return the row of a round hole or a slot that lightens the plate; its width is that of its round ends."""
    (x, y), wide = outline.centroid, 2 * outline.segments[0].radius
    long = max(math.dist(a, b) for a in outline.polygon(0.5) for b in outline.polygon(0.5))
    slot = long > wide * 1.01
    way = outline.segments[1]
    turn = math.degrees(math.atan2(way.end[1] - way.start[1], way.end[0] - way.start[0])) % 180.0
    told = f"cutout: slot {wide:.1f} × {long:.1f}, at {turn:.1f}°" if slot else f"cutout: Ø {wide:.1f}"
    return str(number), f"{x + 0.0:.2f}", f"{y + 0.0:.2f}", f"{wide:.1f}", told


def _across(outline: Outline) -> str:
    x0, _, x1, _ = outline.bounds
    return f"Ø {x1 - x0:.1f}"


def tolerances(part: MadePart) -> tuple[Tolerance, ...]:
    """Return the tolerances a part of this kind is made to; usual shop tolerances, common practice."""
    if part.shape == "round":
        found = [Tolerance("length", "±0.05", "the caliper's place along the axle: slot gap"),
                 Tolerance("both ends", "square 0.05", "the bolt is not bent when it is tightened"),
                 Tolerance("bore", "+0.2 / 0", "the bolt goes through")]  # fmt: skip
        if part.offset:
            found = [Tolerance("outside", "s6", "the press, hot as well as cold"),
                     Tolerance("eccentricity", "±0.02", "ears meet the lugs without strain")]  # fmt: skip
        return tuple(found)
    found = [Tolerance("holes, place", "±0.1", "tip gap and pad height; metal between holes"),
             Tolerance("thickness", "±0.1", "the caliper's place along the axle: slot gap"),
             Tolerance("both faces", "flat 0.05", "taper of the pads"),
             Tolerance("outline", "±0.5", "room to rotor, hub and caliper")]  # fmt: skip
    if part.pockets:
        found.insert(2, Tolerance("step", "±0.05", "no shim makes up for it"))
    if part.bends:
        found.insert(2, Tolerance("jog", "±0.3, ends parallel 0.1", "slot gap and taper; shims take the rest"))
    return tuple(found)


def notes(part: MadePart) -> tuple[str, ...]:
    """Return the notes every drawing carries."""
    told = [
        f"Material: {part.material or 'not stated'}", f"Work: {', '.join(part.processes) or 'as drawn'}",
        "Break all edges 0.3; no scratches across a bend or beside holes", "Paint or plate bare steel; keep seat faces bare",
    ]  # fmt: skip
    for depth, face in dict.fromkeys((pocket.depth, pocket.face) for pocket in part.pockets):
        pads = next(pocket.kept for pocket in part.pockets if (pocket.depth, pocket.face) == (depth, face))
        of = [pocket for pocket in part.pockets if (pocket.depth, pocket.face) == (depth, face)]
        sizes = " and ".join(dict.fromkeys(_across(edge) for edge in pads or [pocket.outline for pocket in of]))
        where = f"all but pads {sizes}" if pads else f"{sizes} round holes"
        told.append(f"Mill {depth:.2f} off the {'outboard' if face > 0 else 'inboard'} face, {where}")
    for stud in part.edge_bores:
        (x, y, z), turn = stud.at, math.degrees(math.atan2(-stud.way[1], -stud.way[0])) % 360.0
        place = f"{x:.2f} forward, {y:.2f} up, {z - part.z0:.2f} from the inboard face"
        told.append(
            f"Tap {stud.thread} {stud.depth:.1f} deep (drill Ø {stud.drill:.1f}) into the edge that looks {turn:.2f}°: {place}"
        )
    if part.outline is not None and len(part.outline.segments) > 2:
        told.append("Outline: from the cutting file or the 1 : 1 template")
    if part.chamfer:
        told.append(f"Chamfer {part.chamfer:g} × 45° all round, both faces")
    if part.bends and part.bores:
        x, y = part.bores[0].centre
        near = min(part.bends, key=lambda b: abs((b.b[0] - b.a[0]) * (y - b.a[1]) - (b.b[1] - b.a[1]) * (x - b.a[0])))
        first, other = ("up", "down") if near.up else ("down", "up")
        told.append(
            f"Bend {near.angle:g}°, inside radius {near.radius:.1f}: the line next to hole 1 {first}, the other {other}"
        )
    return tuple(told)

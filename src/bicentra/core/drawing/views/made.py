"""A made part as a drawing: plan seen from outboard, and the side view beside it, with its sizes and its work."""

import math

import numpy as np

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.fold import Fold, fold_of
from bicentra.core.bracket.model import Bracket, MadePart
from bicentra.core.bracket.plate import PlateEdge
from bicentra.core.drawing.model import Dimension, Drawing, Handle, Note, Shape, Sheet, Text, mirrored, short
from bicentra.core.drawing.shapes import centre_mark
from bicentra.core.geometry.outline import Point
from bicentra.core.parts.job import Cutout, Dowel

GAP_MM, SIDE_GAP_MM, LETTER_MM, HANDLE_MM = 30.0, 78.0, 6.0, 16.0
"""Room between parts, between plan and side view, what a letter of a long note takes, and a handle [mm]."""
SPARE = (0.0, 0.0, 100.0, 60.0)


class MadeWork(Record, frozen=True):
    """What of the first part can be pulled: its cutouts, the walls round its holes, dowels, and edges as far out as they are."""

    cutouts: tuple[Cutout, ...] = ()
    walls: tuple[float, ...] = ()
    dowels: tuple[Dowel, ...] = ()
    edges: tuple[tuple[PlateEdge, float], ...] = ()


NOTHING = MadeWork()


def made_view(bracket: Bracket, lengths: LengthFormat, left: bool = False, work: MadeWork = NOTHING) -> Drawing:
    """Return every part of ``bracket`` in a row, each with its side view; a left corner's are mirror images.

    What ``work`` names of the first part gets handles.
    """
    sheet, x = Sheet(), 0.0
    for number, part in enumerate(bracket.parts):
        if part.shape == "round" and number > 1 and part.name.startswith("spacer"):
            continue  # spacers of one plate look alike
        wide = _part(sheet, part, x, lengths, left, work if number == 0 else NOTHING)
        if len(bracket.parts) > 1:
            _heading(sheet, part, x)
        x += wide + 2 * GAP_MM
    if bracket.shown and not bracket.parts:
        sheet.texts.append(Text((0.0, 0.0), bracket.why, "text", "", 11.0))
    return sheet.finish(SPARE)


def thumb_view(bracket: Bracket, left: bool = False) -> Drawing:
    """Return the outlines alone, for a small picture."""
    sheet = Sheet()
    for part in bracket.parts[:1]:
        if part.shape == "plate":
            _plan(sheet, part, (0.0, 0.0))
        else:
            _rings(sheet, part, (0.0, 0.0))
    drawing = sheet.finish(SPARE)
    return mirrored(drawing) if left else drawing


def _part(
    sheet: Sheet,
    part: MadePart,
    x: float,
    lengths: LengthFormat,
    left: bool,
    work: MadeWork,
) -> float:
    """Draw one part with its left edge at ``x``; returns how wide plan and side view are together."""
    own = Sheet()
    if part.shape == "plate" and part.outline is not None:
        _plan(own, part, (0.0, 0.0))
        _plan_notes(own, part, lengths)
        _work_handles(own, part, work, lengths)
    else:
        _rings(own, part, (0.0, 0.0))
        _ring_notes(own, part, lengths)
    flat = own.finish(SPARE)
    flat = mirrored(flat) if left else flat
    x0, y0, x1, y1 = flat.bounds
    by = (x - x0, -(y0 + y1) / 2)
    sheet.take(_moved(flat, by))
    longest = max((len(note.text) for note in own.notes), default=0)
    gap = SIDE_GAP_MM + LETTER_MM * max(longest - 22, 0)
    side = x + (x1 - x0) + gap
    _side(sheet, part, side, (y1 - y0) / 2, lengths)
    return x1 - x0 + gap + part.thickness + _jog_height(part)


def _heading(sheet: Sheet, part: MadePart, x: float) -> None:
    """What a part is called, below it: only where there are several."""
    high = part.outer if part.outline is None else part.outline.bounds[3] - part.outline.bounds[1]
    head = f"{part.name}, {part.count} off" if part.count > 1 else part.name
    sheet.texts.append(Text((x, -high / 2 - 24.0), short(head), "text", "", 10.0, "start", True))


def _plan(sheet: Sheet, part: MadePart, at: Point) -> None:
    if part.outline is None:
        return
    inner = (*([part.window] if part.window is not None else []), *part.cutouts)
    loops = [part.outline.vertices, *(outline.vertices for outline in inner)]
    sheet.shape(Shape(tuple(loops), "made", "bracket"))
    for pocket in part.pockets:
        for edge in pocket.kept or (pocket.outline,):
            sheet.outline(edge, "shim", "pocket", False, "solid" if pocket.face > 0 else "hidden")
    for bend in part.bends:
        sheet.line((bend.a, bend.b), "centre", "bend", "centre")
    for bore in part.bores:
        centre = (bore.centre[0] + at[0], bore.centre[1] + at[1])
        sheet.outline(bore.outline, "hole", bore.name)
        if bore.sink is not None:
            sheet.circle(
                centre, bore.sink.wide / 2, "hole", bore.name, False, "solid" if bore.sink.face > 0 else "hidden"
            )
        centre_mark(sheet, centre, bore.drill / 2 + 4.0, bore.name)
    for stud in part.edge_bores:
        sheet.polygon(stud.corners, "hole", "stud", False, "hidden")


def _work_handles(sheet: Sheet, part: MadePart, work: MadeWork, lengths: LengthFormat) -> None:
    for number, cutout in enumerate(work.cutouts if part.cutouts else ()):
        _cutout_handles(sheet, cutout, number, lengths)
    for number, wall in enumerate(work.walls):
        _boss_handle(sheet, part, number, wall)
    for number, pin in enumerate(work.dowels):
        at, path, r = (known(pin.x_mm), known(pin.y_mm)), f"bracket.dowels[{number}]", known(pin.diameter_mm)
        if is_known(*at, r):
            sheet.handle(Handle("Move the dowel sideways", at, (1.0, 0.0), f"{path}.x_mm", 1.0, 0.5, tag="dowel"))
            above = (at[0], at[1] + 14.0)
            sheet.handle(Handle("Move the dowel up and down", above, (0.0, 1.0), f"{path}.y_mm", 1.0, 0.5, tag="dowel"))
    for edge, out in work.edges:
        name = f"Edge between {part.bores[edge.first].name} and {part.bores[edge.second].name}"
        path = f"bracket.pulls[{edge.first}-{edge.second}]"
        sheet.handle(Handle(name, _clear_of(sheet, edge, out), edge.out, path, 1.0, 0.5, tag="bracket"))
        if abs(out) >= 0.05:
            text = f"pulled {'out' if out > 0 else 'in'} {lengths.gap(out)}"
            sheet.note(Note(edge.beyond(out), text, "bracket", 2, prefer=edge.out))


def _clear_of(sheet: Sheet, edge: PlateEdge, out: float) -> Point:
    """Return the place on a pulled edge, in its middle or beside, that keeps its handle off the others."""
    (x, y), (u, v) = edge.beyond(out), edge.out
    spots = [(x - v * by * edge.length, y + u * by * edge.length) for by in (0.0, -0.2, 0.2)]

    def room(spot: Point) -> float:
        return min((math.dist(spot, handle.at) for handle in sheet.handles), default=math.inf)

    return spots[0] if room(spots[0]) > HANDLE_MM else max(spots, key=room)


def _boss_handle(sheet: Sheet, part: MadePart, number: int, wall: float) -> None:
    """A handle on the boss's rim, away from the plate's middle."""
    bore, (cx, cy) = part.bores[number], part.outline.centroid if part.outline is not None else (0.0, 0.0)
    away = (bore.centre[0] - cx, bore.centre[1] - cy)
    long = math.hypot(*away) or 1.0
    u, reach = (away[0] / long, away[1] / long), bore.drill / 2 + wall
    at = (bore.centre[0] + u[0] * reach, bore.centre[1] + u[1] * reach)
    sheet.handle(Handle(f"Wall round {bore.name}", at, u, f"bracket.boss_walls_mm[{number}]", 1.0, 0.5, tag=bore.name))


def _cutout_handles(sheet: Sheet, cutout: Cutout, number: int, lengths: LengthFormat) -> None:
    x, y, r = known(cutout.x_mm), known(cutout.y_mm), known(cutout.diameter_mm) / 2
    path, slant = f"bracket.cutouts[{number}]", math.sqrt(0.5)
    sheet.handle(Handle("Move the cutout sideways", (x, y), (1.0, 0.0), f"{path}.x_mm", 1.0, 0.5, tag="cutout"))
    off = max(r, HANDLE_MM)
    sheet.handle(
        Handle("Move the cutout up and down", (x, y + off), (0.0, 1.0), f"{path}.y_mm", 1.0, 0.5, tag="cutout")
    )
    at = (x + off * slant, y - off * slant)
    sheet.handle(Handle("Widen the cutout", at, (slant, -slant), f"{path}.diameter_mm", 2.0, 0.5, tag="cutout"))
    low = (x - r * slant, y - r * slant)
    sheet.note(Note(low, f"cut Ø {lengths.size(2 * r)}", "cutout", 2, f"{path}.diameter_mm", prefer=(-1.0, -1.0)))
    long = known(cutout.length_mm)
    if long > 0:
        sheet.note(
            Note(low, f"slot, ends {lengths.size(long)} apart", "cutout", 2, f"{path}.length_mm", prefer=(-1.0, -0.6))
        )
        sheet.note(
            Note(low, f"turned {known(cutout.angle_deg):g}°", "cutout", 2, f"{path}.angle_deg", prefer=(-1.0, -0.2))
        )


def _plan_notes(sheet: Sheet, part: MadePart, lengths: LengthFormat) -> None:
    cx, cy = part.outline.centroid if part.outline is not None else (0.0, 0.0)
    for bore in part.bores:
        away = (bore.centre[0] - cx, bore.centre[1] - cy)
        sheet.note(Note(bore.centre, f"{short(bore.name)}: {bore.note}", bore.name, 1, prefer=away, far=1))
    for bend in part.bends:
        way = "up" if bend.up else "down"
        text = f"bend {way} {bend.angle:g}°, inside radius {lengths.size(bend.radius)}"
        sheet.note(Note(bend.b, text, "bend", 1, prefer=(1.0, 0.4)))
    for pocket in part.pockets[:1]:
        x0, y0, _, y1 = pocket.outline.bounds
        text = f"mill {lengths.gap(pocket.depth)} deep from {'this' if pocket.face > 0 else 'the far'} face"
        text += ", all but the pads" if pocket.kept else ""
        sheet.note(Note((x0, (y0 + y1) / 2), text, "pocket", 1, prefer=(-1.0, 0.2)))
    if part.chamfer and part.outline is not None:
        x, y, _ = part.outline.vertices[0]
        sheet.note(
            Note((x, y), f"chamfer {lengths.size(part.chamfer)} × 45° all round", "bracket", 2, prefer=(1.0, -0.6))
        )
    for stud in part.edge_bores[:1]:
        text = (
            f"tap {stud.thread}, {lengths.size(stud.depth)} deep"
            if stud.thread
            else f"{lengths.drill(stud.drill)}, right through"
        )
        sheet.note(Note(stud.at[:2], text, "stud", 1, prefer=(-stud.way[0], -stud.way[1])))
    if part.outline is not None:
        x0, y0, x1, y1 = part.outline.bounds
        sheet.dimension(Dimension((x0, y0), (x1, y0), (1, 0), (0, -1), -y0, lengths.size(x1 - x0), "bracket", 0, 2))
        sheet.dimension(Dimension((x0, y0), (x0, y1), (0, 1), (-1, 0), -x0, lengths.size(y1 - y0), "bracket", 0, 2))


def _rings(sheet: Sheet, part: MadePart, at: Point) -> None:
    x, y = at
    outer = tuple((vx + x, vy + y, b) for vx, vy, b in _circle(part.outer))
    inner = tuple((vx + x + part.offset, vy + y, b) for vx, vy, b in _circle(part.inner))
    sheet.shape(Shape((outer, inner), "made", "bracket"))
    centre_mark(sheet, at, part.outer / 2 + 4.0, "bracket")


def _circle(diameter: float) -> tuple[tuple[float, float, float], ...]:
    return (diameter / 2, 0.0, 1.0), (-diameter / 2, 0.0, 1.0)


def _ring_notes(sheet: Sheet, part: MadePart, lengths: LengthFormat) -> None:
    r = part.outer / 2
    sheet.note(Note((r * 0.7, r * 0.7), f"Ø {lengths.size(part.outer)}", "bracket", 0, prefer=(1.0, 1.0)))
    sheet.note(
        Note((part.offset, -part.inner / 2), f"bore Ø {lengths.size(part.inner)}", "bracket", 0, prefer=(0.4, -1.0))
    )
    if part.offset:
        sheet.note(Note((part.offset, 0.0), f"{lengths.gap(part.offset)} eccentric", "bracket", 0, prefer=(1.0, 0.2)))


def _side(sheet: Sheet, part: MadePart, x: float, half: float, lengths: LengthFormat) -> None:
    """The part seen from its edge, outboard face to the right; a jogged plate bent as it will be."""
    thick = part.thickness
    if not is_known(thick, half):
        return
    fold = fold_of(part)
    if fold is not None:
        x += max(-fold.up * fold.height, 0.0)
        _bent(sheet, part, fold, x)
    else:
        sheet.box(x, -half, x + thick, half, "made", "bracket")
    for pocket in part.pockets:
        _, y0, _, y1 = pocket.outline.bounds
        if part.outline is None:
            continue
        _, low, _, high = part.outline.bounds
        middle = (low + high) / 2
        z0 = x + thick - pocket.depth if pocket.face > 0 else x
        sheet.box(z0, max(y0 - middle, -half), z0 + pocket.depth, min(y1 - middle, half), "hole", "pocket", "hidden")
    sheet.dimension(
        Dimension((x, -half), (x + thick, -half), (1, 0), (0, -1), half, lengths.size(thick), "bracket", 0, 0)
    )


def _jog_height(part: MadePart) -> float:
    fold = fold_of(part)
    return fold.height if fold is not None else 0.0


def _bent(sheet: Sheet, part: MadePart, fold: Fold, x: float) -> None:
    """The section along the bends, true to scale, what stays as it is at ``x``."""
    if part.outline is None:
        return
    along = part.outline.polygon(0.1) @ np.array(fold.u)
    low, high = float(along.min()), float(along.max()) - fold.flat + fold.run
    middle = (low + high) / 2
    loop = tuple((x + z - fold.z0, s - middle, -bulge) for s, z, bulge in fold.profile(low, high).vertices)
    sheet.shape(Shape((loop,), "made", "bracket"))


def _moved(drawing: Drawing, by: Point) -> Sheet:
    """Return a drawing's items moved by ``by`` [mm]."""
    dx, dy = by
    out = Sheet()

    def at(p: Point) -> Point:
        return p[0] + dx, p[1] + dy

    for shape in drawing.shapes:
        loops = tuple(tuple((vx + dx, vy + dy, b) for vx, vy, b in loop) for loop in shape.loops)
        out.shapes.append(Shape(loops, shape.ink, shape.tag, shape.closed, shape.filled, shape.line))
    for h in drawing.handles:
        out.handles.append(Handle(h.name, at(h.at), h.along, h.path, h.gain, h.step, h.turns, h.tag))
    for note in drawing.notes:
        out.notes.append(
            Note(at(note.at), note.text, note.tag, note.rank, note.edits, note.verdict, note.prefer, note.far)
        )
    for d in drawing.dimensions:
        base = d.base + d.side[0] * dx + d.side[1] * dy
        out.dimensions.append(Dimension(at(d.a), at(d.b), d.along, d.side, base, d.text, d.tag, d.lane, d.rank))
    return out

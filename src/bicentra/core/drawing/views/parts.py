"""Parts laid on the bench side by side, to one scale: rotor, caliper and pad of the old set above, of the new one below."""

import math
from collections.abc import Iterable

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Dimension, Drawing, Note, Shape, Sheet, Text, short
from bicentra.core.drawing.shapes import centre_mark, sector_loop
from bicentra.core.geometry.outline import Point
from bicentra.core.lineup.pad import pad_contact
from bicentra.core.lineup.solids import section_outline
from bicentra.core.parts.brakes import Caliper
from bicentra.core.parts.job import Job
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.wheel import Wheel

GAP_MM, ROW_GAP_MM, HEAD_MM = 34.0, 62.0, 14.0
SPARE = (0.0, -200.0, 400.0, 0.0)


class PartSet(Record, frozen=True):
    """Parts that lie together on the bench; what is not there is ``None``."""

    label: str
    rotor: Rotor | None = None
    caliper: Caliper | None = None
    wheel: Wheel | None = None

    @property
    def is_measured(self) -> bool:
        """Whether any size of rotor or caliper is known, so that there is something to draw."""
        rotor, caliper = self.rotor, self.caliper
        sizes = (rotor.diameter_mm, rotor.thickness_mm) if rotor is not None else ()
        of_caliper = (
            (caliper.ear_spacing_mm, caliper.body_width_mm, caliper.slot_width_mm) if caliper is not None else ()
        )
        return any(size is not None for size in (*sizes, *of_caliper))


class _Place(Record, frozen=True):
    """Where a part lies: the sheet's (0, 0) of the part's own frame, and whether it is only laid over the other."""

    x: float
    y: float
    over: bool
    tag: str

    def points(self, points: Iterable[Point]) -> tuple[Point, ...]:
        """Return points of the part's own frame where they lie on the sheet."""
        return tuple((self.x + x, self.y + y) for x, y in points)

    def ink(self, ink: str) -> str:
        """Return ``ink``, or that of a part that is only laid over."""
        return "example" if self.over else ink


def parts_view(part_sets: tuple[PartSet, ...], lengths: LengthFormat, over: bool = False) -> Drawing:
    """Return the sets, one or two, the first above the second; with ``over`` the first is laid over the second as
    dashed lines. A place for one set alone has the caliper below the rotor.
    """
    sheet = Sheet()
    tall = max(*(_tall(part_set) for part_set in part_sets), 80.0)
    section = max(_deep(part_set.rotor) for part_set in part_sets)
    disc = max(_wide(part_set.rotor) for part_set in part_sets)
    body = max(_across(part_set.caliper) for part_set in part_sets)
    for row, part_set in enumerate(part_sets):
        y = 0.0 if over else -row * (tall + ROW_GAP_MM)
        example = over and row == 0
        tag = f"set-{row}"
        if not example and (part_set.rotor is not None or part_set.caliper is not None):
            at = (section + 1.5 * GAP_MM + disc, y + tall / 2 - HEAD_MM * 0.3)
            sheet.texts.append(Text(at, short(part_set.label), "text", tag, 10.0, "start", True))
        x = 0.0
        if part_set.rotor is not None:
            _rotor_section(sheet, part_set.rotor, _Place(x, y, example, tag), lengths)
            _rotor_face(sheet, part_set.rotor, _Place(x + section + GAP_MM + disc / 2, y, example, tag), lengths)
        x += section + GAP_MM + disc + GAP_MM
        if part_set.caliper is not None:
            if over or len(part_sets) == 1:
                low = (
                    y
                    - disc / 2
                    - ROW_GAP_MM
                    - max(_size(one.caliper.body_outer_mm) for one in part_sets if one.caliper)
                )
                face, cut, pad = (body / 2, low), (body + GAP_MM + _reach(part_sets), low), (x, low)
                pad = (cut[0] + GAP_MM + _beyond(part_sets) + _pad_wide(part_sets) / 2, low)
            else:
                face, pad = (x + body / 2, y + tall / 4), (x + body / 2, y - tall / 4)
                cut = (x + body + GAP_MM + _reach(part_sets), y)
            _caliper_face(sheet, part_set, _Place(*face, example, tag), lengths)
            _pad(sheet, part_set, _Place(*pad, example, tag), lengths)
            _caliper_section(sheet, part_set.caliper, _Place(*cut, example, tag), lengths)
        if part_set.rotor is None and part_set.caliper is None:
            sheet.examples.append(f"{short(part_set.label)}: no rotor and no caliper noted")
    return sheet.finish(SPARE)


def _size(value: float | None) -> float:
    return value if value is not None else 0.0


def _deep(rotor: Rotor | None) -> float:
    return max(_size(rotor.height_mm), _size(rotor.thickness_mm)) if rotor is not None else 0.0


def _wide(rotor: Rotor | None) -> float:
    return _size(rotor.diameter_mm) if rotor is not None else 0.0


def _across(caliper: Caliper | None) -> float:
    if caliper is None:
        return 0.0
    traced = [across for across, _ in caliper.body_face_mm]
    body = max(traced) - min(traced) if traced else _size(caliper.body_width_mm)
    return max(body, _size(caliper.ear_spacing_mm) + _size(caliper.ear_boss_mm))


def _reach(part_sets: tuple[PartSet, ...]) -> float:
    """Return how far the deepest caliper reaches inboard of its slot's centre."""
    ends = [
        z
        for part_set in part_sets
        if part_set.caliper is not None
        for z, _ in section_outline(Job(caliper=part_set.caliper))
    ]
    return -min(ends, default=0.0)


def _beyond(part_sets: tuple[PartSet, ...]) -> float:
    """Return how far the deepest caliper reaches outboard of its slot's centre."""
    outlines = [section_outline(Job(caliper=one.caliper)) for one in part_sets if one.caliper is not None]
    return max((z for outline in outlines for z, _ in outline), default=0.0)


def _pad_wide(part_sets: tuple[PartSet, ...]) -> float:
    return max((_size(one.caliper.pad_width_mm) for one in part_sets if one.caliper is not None), default=0.0)


def _tall(part_set: PartSet) -> float:
    return max(_wide(part_set.rotor), 2.2 * _size(part_set.caliper.body_outer_mm) + 60.0 if part_set.caliper else 0.0)


def _rotor_section(sheet: Sheet, rotor: Rotor, place: _Place, lengths: LengthFormat) -> None:
    """The rotor cut through its axis, inboard face to the left."""
    outer, inner, thick = (
        known(rotor.diameter_mm) / 2,
        known(rotor.swept_inner_diameter_mm) / 2,
        known(rotor.thickness_mm),
    )
    high, flange = known(rotor.height_mm), known(rotor.flange_mm)
    hollow, bore = known(rotor.hollow_mm) / 2, known(rotor.centre_bore_mm) / 2
    wall = known(rotor.hat_outer_mm) / 2
    pieces = [(inner, outer, 0.0, thick, "rotor")]
    if rotor.kind != "ring":
        pieces += [
            (hollow, wall, 0.0 if hollow >= inner else thick / 2, high, "hat"),
            (bore, wall, high - flange, high, "hat"),
            (hollow, inner, 0.0, thick * 0.5, "hat"),
        ]
    for low, top, z0, z1, ink in pieces:
        for sign in (1.0, -1.0) if is_known(low, top, z0, z1) and top > low and z1 > z0 else ():
            corners = ((z0, sign * low), (z1, sign * low), (z1, sign * top), (z0, sign * top))
            sheet.polygon(
                place.points(corners), place.ink(ink), place.tag, not place.over, "hidden" if place.over else "solid"
            )
    if place.over:
        return
    (x, y) = place.x, place.y
    top, low = (y + outer, y - outer)
    height = f"height {lengths.size(high)}"
    sheet.dimension(Dimension((x, top), (x + high, top), (1, 0), (0, 1), top, height, place.tag, 0, 1))
    sheet.dimension(Dimension((x, low), (x + thick, low), (1, 0), (0, -1), -low, lengths.size(thick), place.tag, 0, 1))


def _rotor_face(sheet: Sheet, rotor: Rotor, place: _Place, lengths: LengthFormat) -> None:
    outer, inner, bore = (
        known(v) / 2 for v in (rotor.diameter_mm, rotor.swept_inner_diameter_mm, rotor.centre_bore_mm)
    )
    middle = (place.x, place.y)
    circle, holes = known(rotor.bolt_circle_mm) / 2, rotor.hole_count or 0
    spots = [math.pi / 2 + 2 * math.pi * k / holes for k in range(holes)]
    centres = [(middle[0] + circle * math.cos(a), middle[1] + circle * math.sin(a)) for a in spots]
    if place.over:
        for radius in (outer, inner, bore):
            sheet.circle(middle, radius, "example", place.tag, False, "hidden")
        for centre in centres:
            sheet.circle(centre, known(rotor.hole_mm) / 2, "example", place.tag, False, "hidden")
        return
    sheet.ring(middle, inner, outer, "rotor", place.tag)
    sheet.ring(middle, bore, inner, "hat", place.tag)
    for centre in centres:
        sheet.circle(centre, known(rotor.hole_mm) / 2, "hole", place.tag)
    centre_mark(sheet, middle, 12.0, place.tag)
    (x, y) = middle
    sheet.dimension(
        Dimension(
            (x - outer, y), (x + outer, y), (1, 0), (0, -1), outer - y, f"Ø {lengths.size(2 * outer)}", place.tag, 0, 0
        )
    )
    sheet.note(Note((x, y - bore), f"bore {lengths.size(2 * bore)}", place.tag, 2, prefer=(0.0, -1.0)))
    if holes and is_known(circle):
        sheet.note(Note(centres[0], f"{holes} on {lengths.size(2 * circle)}", place.tag, 1, prefer=(0.3, 1.0)))


def _caliper_face(sheet: Sheet, part_set: PartSet, place: _Place, lengths: LengthFormat) -> None:
    """The caliper seen from outboard along the axle, its outward side up, so that +w (leading) lies to the left."""
    caliper = part_set.caliper
    if caliper is None:
        return
    half, low, high = known(caliper.body_width_mm) / 2, -known(caliper.pad_height_mm), known(caliper.body_outer_mm)
    outline = caliper.body_face_mm or ((-half, low), (half, low), (half, high), (-half, high))
    line = "hidden" if place.over else "solid"
    seen = place.points((-across, out) for across, out in outline)
    sheet.polygon(seen, place.ink("caliper"), place.tag, not place.over, line)
    ears = known(caliper.ear_spacing_mm) / 2, -known(caliper.ear_line_to_pad_top_mm)
    for side in (-1.0, 1.0):
        centre = (place.x + side * ears[0], place.y + ears[1])
        sheet.circle(centre, known(caliper.ear_boss_mm) / 2, place.ink("caliper"), place.tag, not place.over, line)
        sheet.circle(centre, known(caliper.ear_hole_mm) / 2, place.ink("hole"), place.tag, not place.over, line)
    if place.over:
        return
    pistons = caliper.pistons_outboard_mm or caliper.pistons_inboard_mm
    mid = place.y + low / 2
    for k, bore in enumerate(pistons):
        step = (2 * k + 1 - len(pistons)) / max(len(pistons), 1) * known(caliper.pad_width_mm) / 2
        sheet.circle((place.x - step, mid), bore / 2, "construction", place.tag, False, "hidden")
    a, b = (place.x - ears[0], place.y + ears[1]), (place.x + ears[0], place.y + ears[1])
    top = place.y + max((out for _, out in outline), default=0.0)
    sheet.dimension(Dimension(a, b, (1, 0), (0, 1), top, f"ears {lengths.size(2 * ears[0])}", place.tag, 0, 0))


def _caliper_section(sheet: Sheet, caliper: Caliper, place: _Place, lengths: LengthFormat) -> None:
    """The caliper cut across the rotor at its middle, outward side up: body and slot."""
    outline = section_outline(Job(caliper=caliper))
    line = "hidden" if place.over else "solid"
    if outline:
        sheet.polygon(place.points(outline), place.ink("caliper"), place.tag, not place.over, line)
    half, low, bridge = (
        known(caliper.slot_width_mm) / 2,
        -known(caliper.pad_height_mm),
        known(caliper.bridge_to_pad_top_mm),
    )
    slot = ((-half, low), (half, low), (half, bridge), (-half, bridge))
    sheet.polygon(place.points(slot), place.ink("hole"), place.tag, not place.over, line)
    if place.over or not outline:
        return
    (a, b) = place.points(((-half, low), (half, low)))
    sheet.dimension(Dimension(a, b, (1, 0), (0, -1), -a[1], f"slot {lengths.size(2 * half)}", place.tag, 0, 0))
    ends = place.points(((min(z for z, _ in outline), 0.0), (max(z for z, _ in outline), 0.0)))
    top = place.y + max(out for _, out in outline)
    wide = lengths.size(ends[1][0] - ends[0][0])
    sheet.dimension(Dimension((ends[0][0], top), (ends[1][0], top), (1, 0), (0, 1), top, wide, place.tag, 0, 2))


def _pad(sheet: Sheet, part_set: PartSet, place: _Place, lengths: LengthFormat) -> None:
    """The friction material, its outer edge up, as it would lie on this set's rotor."""
    job = Job(caliper=part_set.caliper or Caliper(), rotor=part_set.rotor or Rotor())
    pad = pad_contact(job)
    line = "hidden" if place.over else "solid"
    half, high = known(job.caliper.pad_width_mm) / 2, known(job.caliper.pad_height_mm)
    top = pad.outer_radius
    if pad.outline:
        shape = Shape((tuple((place.x - w, place.y + r - top, 0.0) for r, w in pad.outline),), place.ink("pad"), place.tag,
                      True, not place.over, line)  # fmt: skip
    elif is_known(pad.half_angle, pad.inner_radius, top):
        loop = sector_loop(pad.inner_radius, top, math.pi / 2 - pad.half_angle, 2 * pad.half_angle)
        moved = tuple((place.x + x, place.y + y - top, bulge) for x, y, bulge in loop)
        shape = Shape((moved,), place.ink("pad"), place.tag, True, not place.over, line)
    else:
        corners = ((-half, -high), (half, -high), (half, 0.0), (-half, 0.0))
        shape = Shape((tuple((x, y, 0.0) for x, y in place.points(corners)),), place.ink("pad"), place.tag, True,
                      not place.over, line)  # fmt: skip
    sheet.shape(shape)
    if place.over:
        return
    middle = (place.x, place.y - high / 2)
    text = f"pad {lengths.size(2 * half)} × {lengths.size(high)}"
    if is_known(half, high):
        area = f", {pad.area / 100:.1f} cm²" if is_known(pad.area) else ""
        sheet.note(Note(middle, text + area, place.tag, 1, prefer=(0.0, -1.0)))

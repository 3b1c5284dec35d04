"""Finding room for texts: dimensions and notes cross neither each other nor the parts; what finds none goes into margins."""

import math
from collections.abc import Callable, Iterable
from functools import partial
from itertools import islice

from bicentra.core.base.records import replace
from bicentra.core.drawing.boxes import Box, Leader, cross, crosses_any, meets_any, rect_of
from bicentra.core.drawing.model import Dimension, Drawing, Note
from bicentra.core.drawing.places import (
    LONGEST,
    Margins,
    Measure,
    Placed,
    Try,
    as_note,
    dimension_tries,
    label_key,
    margin_tries,
    note_tries,
    noted,
    round_about,
    way_to,
)  # fmt: skip


def lay_out(
    drawing: Drawing,
    scale: float,
    measure: Measure,
    frame: Box,
    taken: Iterable[Box] = (),
    on_line: bool = False,
    margins: bool = False,
    before: Iterable[Placed] = (),
) -> tuple[Placed, ...]:
    """Return the dimensions and notes of ``drawing`` in places where they meet nothing already placed.

    ``on_line``: an upright dimension that would have to leave its line is left out, instead of standing beside it.
    ``margins``: texts stand round the parts rather than over them, where there is room. ``before``: where the texts stood last;
    a note stays there while it can, so that nothing jumps about during a pull.
    ``frame`` is the visible rectangle and ``taken`` what must stay free, both in units with the drawing's origin at 0.
    """
    page = _Page(frame, taken, on_line)
    around = _around(drawing, scale, frame) if margins else None
    stood = {old.key: old for old in before}
    items: list[Dimension | Note] = [*drawing.dimensions, *drawing.notes]
    for item in sorted(
        items, key=lambda one: (margins and one.rank > 0 and isinstance(one, Note), one.rank, isinstance(one, Note))
    ):
        old = stood.get(label_key(item.tag, item.edits, item.text))
        if old is not None and page.place(item, _where_it_stood(item, scale, measure, old, around)):
            continue
        if isinstance(item, Dimension):
            tries = dimension_tries(item, scale, measure, around)
            placed = around is not None and not stood and page.place(item, (tries := tuple(tries)), strict=True)
            if not placed and not page.place(item, tries) and around is not None:
                page.place(item, margin_tries(as_note(item), scale, measure, around), strict=True)
        elif around is None or stood or not page.place(item, margin_tries(item, scale, measure, around), strict=True):
            page.place(item, note_tries(item, scale, measure))
    return tuple(page.placed)


def _around(drawing: Drawing, scale: float, frame: Box) -> Margins:
    x0, y0, x1, y1 = drawing.bounds
    filled = tuple(
        (left * scale, low * scale, right * scale, high * scale)
        for left, low, right, high in (shape.bounds for shape in drawing.shapes if shape.filled)
    )
    return Margins(Box(x0 * scale, y0 * scale, x1 * scale, y1 * scale), frame, filled)


def _where_it_stood(
    item: Dimension | Note, scale: float, measure: Measure, old: Placed, around: Margins | None
) -> Iterable[Try]:
    """Yield the place a text had in the drawing before: the same of its tries, or for a note the same spot of the sheet."""
    if isinstance(item, Dimension):
        for box, finish in islice(dimension_tries(item, scale, measure, around), old.nth, old.nth + 1):
            yield box, partial(_again, finish, old.nth)
        return
    at = (item.at[0] * scale, item.at[1] * scale)
    box = round_about(old.box.middle, *measure(item.text))
    end = (min(max(at[0], box.x0), box.x1), min(max(at[1], box.y0), box.y1))
    if math.dist(end, at) <= LONGEST:
        yield box, partial(noted, item, at, end, way_to(end, at))


def _again(finish: Callable[[Box], Placed], nth: int, box: Box) -> Placed:
    return replace(finish(box), nth=nth)


class _Page:
    """What has been placed so far, and whether a text finds room among it."""

    def __init__(self, frame: Box, taken: Iterable[Box], on_line: bool) -> None:
        self.placed: list[Placed] = []
        self._frame, self._on_line = frame, on_line
        self._held = [rect_of(box) for box in taken]
        self._leaders: list[Leader] = []
        self._lines: list[Leader] = []

    def place(self, item: Dimension | Note, tries: Iterable[Try], strict: bool = False) -> bool:
        """Put ``item`` into the first place with room; ``strict``: no line of it runs through a text, nor a text over a line."""
        kept_on_line = self._on_line and isinstance(item, Dimension) and abs(item.along[0]) < abs(item.along[1])
        for nth, (box, finish) in enumerate(tries):
            there = box if kept_on_line else _into(box, self._frame)
            if self._free(there) and not (strict and crosses_any(there, self._lines)):
                made = finish(there)
                if not (strict and self._tangled(made.lines, isinstance(item, Note))):
                    self._keep(made if made.nth or not nth else replace(made, nth=nth), isinstance(item, Note))
                    return True
        return False

    def _keep(self, made: Placed, note: bool) -> None:
        self.placed.append(made)
        self._held.append(rect_of(made.box))
        self._lines += made.lines
        if note:
            self._leaders += made.lines

    def _free(self, box: Box) -> bool:
        return box.inside(self._frame) and not meets_any(box, self._held)

    def _tangled(self, lines: tuple[Leader, ...], leader: bool) -> bool:
        """Tell whether one of ``lines`` leaves the frame, runs through a text or, as a ``leader``, across another one."""
        frame = self._frame
        return (
            not all(frame.x0 <= x <= frame.x1 and frame.y0 <= y <= frame.y1 for line in lines for x, y in line)
            or any(crosses_any(other.box, lines) for other in self.placed)
            or (leader and any(cross(line, old) for line in lines for old in self._leaders))
        )


def _into(box: Box, frame: Box) -> Box:
    """Return ``box`` pushed into ``frame`` sideways, by no more than its own width."""
    if box.inside(frame):
        return box
    wide = box.x1 - box.x0
    dx = max(frame.x0 - box.x0, 0.0) - max(box.x1 - frame.x1, 0.0)
    dx = max(-wide, min(wide, dx))
    return Box(box.x0 + dx, box.y0, box.x1 + dx, box.y1)

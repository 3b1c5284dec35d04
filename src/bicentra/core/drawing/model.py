"""A drawing as plain records: shapes, texts, dimensions and handles, in mm on a flat sheet, y up.

``tag`` names the feature an item belongs to (``rotor``, ``lug-0``, ``ear-bolt-1``), the same words findings use.
``ink`` names a material or a kind of line, which each back end turns into colour, hatch and pen.
"""

import math
from collections.abc import Iterable
from dataclasses import dataclass, field
from itertools import pairwise

from bicentra.core.base.cache import cached_property
from bicentra.core.base.numbers import Pure
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import printable
from bicentra.core.geometry.outline import Outline, Point, Segment

Vertex = tuple[float, float, float]
Loop = tuple[Vertex, ...]


class Shape(Record, frozen=True):
    """Lines and arcs: one or more loops of (x, y, bulge). Several closed loops make an area with holes (even-odd)."""

    loops: tuple[Loop, ...]
    ink: str
    tag: str = ""
    closed: bool = True
    filled: bool = True
    line: str = "solid"

    @cached_property
    def bounds(self) -> tuple[float, float, float, float]:
        """(x_min, y_min, x_max, y_max) [mm], arcs included exactly."""
        xs: list[float] = []
        ys: list[float] = []
        for loop in self.loops:
            if is_circle(loop):
                middle, radius = (loop[0][0] + loop[1][0]) / 2, abs(loop[0][0] - loop[1][0]) / 2
                xs += (middle - radius, middle + radius)
                ys += (loop[0][1] - radius, loop[0][1] + radius)
                continue
            xs += [vertex[0] for vertex in loop]
            ys += [vertex[1] for vertex in loop]
            after = loop[1:] + (loop[:1] if self.closed else ())
            for a, b in zip(loop, after):
                if a[2]:
                    points = Segment((a[0], a[1]), (b[0], b[1]), a[2]).extremes()
                    xs += [p[0] for p in points]
                    ys += [p[1] for p in points]
        return min(xs), min(ys), max(xs), max(ys)

    def segments(self) -> Iterable[Segment]:
        """Return every segment of every loop."""
        for loop in self.loops:
            if self.closed:
                yield from Outline(loop).segments
            else:
                for a, b in pairwise(loop):
                    yield Segment((a[0], a[1]), (b[0], b[1]), a[2])


class Text(Record, frozen=True):
    """A text standing at ``at``; ``size`` in points. ``anchor``: start, middle or end; ``rise``: pixels below ``at``."""

    at: Point
    text: str
    ink: str = "text"
    tag: str = ""
    size: float = 9.0
    anchor: str = "middle"
    bold: bool = False
    rise: float = 0.0


OLD, EXAMPLE_OF = "before", "example:"
"""The verdict of what was measured before a change, and how the tag of a dashed example begins: the part's own follows."""


class Dimension(Record, frozen=True):
    """A distance between ``a`` and ``b`` measured along ``along``, drawn on the ``side`` of the parts.

    ``base``: where, along ``side``, the lanes for dimension lines begin [mm]; ``lane`` counts outward. ``rank`` 0 is
    shown first and 3 last. ``edits``: key path of the number this dimension shows, when it may be typed over.
    ``verdict`` may be ``OLD``: measured before something was changed. ``example``: nothing has been measured here yet.
    ``inline``: the line runs straight from ``a`` to ``b``, no lane.
    """

    a: Point
    b: Point
    along: Point
    side: Point
    base: float
    text: str
    tag: str = ""
    lane: int = 0
    rank: int = 1
    edits: str = ""
    verdict: str = ""
    example: bool = False
    inline: bool = False


class Note(Record, frozen=True):
    """A text with a leader to the place it speaks of; the layout finds room for it near ``at``.

    ``prefer`` is the direction tried first, ``far`` how many of the nearest distances are passed over. ``example``:
    what it asks for is not measured yet.
    """

    at: Point
    text: str
    tag: str = ""
    rank: int = 1
    edits: str = ""
    verdict: str = ""
    prefer: Point = (1.0, 1.0)
    far: int = 0
    example: bool = False


class Handle(Record, frozen=True):
    """Something that can be taken hold of: moving along ``along`` by one mm changes ``path`` by ``gain``.

    A turning handle has ``turns`` set: it follows the pointer's angle about the origin. ``measure``: the kind of quantity it is.
    """

    name: str
    at: Point
    along: Point
    path: str
    gain: float = 1.0
    step: float = 0.1
    turns: bool = False
    tag: str = ""
    measure: str = "length"


Bounds = tuple[float, float, float, float]


class Drawing(Record, frozen=True):
    """A sheet: what is drawn, and the rectangle (x_min, y_min, x_max, y_max) the parts fill [mm].

    ``frame``: that rectangle where it is given; ``spare``: the one of a sheet on which nothing is drawn.
    """

    shapes: tuple[Shape, ...]
    texts: tuple[Text, ...]
    dimensions: tuple[Dimension, ...]
    notes: tuple[Note, ...]
    handles: tuple[Handle, ...]
    frame: Bounds | None = None
    examples: tuple[str, ...] = ()
    spare: Bounds = (0.0, 0.0, 1.0, 1.0)

    @cached_property
    def bounds(self) -> Bounds:
        """The rectangle the parts fill [mm], worked out when it is first asked for: a drag never asks."""
        if self.frame is not None:
            return self.frame
        boxes = [shape.bounds for shape in self.shapes if shape.ink != "centre"]
        if not boxes:
            return self.spare
        x0s, y0s, x1s, y1s = zip(*boxes)
        return min(x0s), min(y0s), max(x1s), max(y1s)


@dataclass
class Sheet:
    """Collects items while a drawing is made. An item with a place that is unknown is left out."""

    shapes: list[Shape] = field(default_factory=list)
    texts: list[Text] = field(default_factory=list)
    dimensions: list[Dimension] = field(default_factory=list)
    notes: list[Note] = field(default_factory=list)
    handles: list[Handle] = field(default_factory=list)
    examples: list[str] = field(default_factory=list)

    def take(self, other: "Sheet") -> None:
        """Add everything that ``other`` holds; it may be kept and taken again."""
        self.shapes += other.shapes
        self.texts += other.texts
        self.dimensions += other.dimensions
        self.notes += other.notes
        self.handles += other.handles
        self.examples += other.examples

    def shape(self, shape: Shape) -> None:
        """Add a shape, if every number of it is known."""
        if all(shape.loops) and all(map(math.isfinite, (n for loop in shape.loops for vertex in loop for n in vertex))):
            self.shapes.append(shape)

    def circle(
        self, centre: Point, radius: float, ink: str, tag: str = "", filled: bool = True, line: str = "solid"
    ) -> None:
        """Add a full circle [mm]."""
        self.shape(Shape((circle_loop(centre, radius),), ink, tag, True, filled, line))

    def ring(self, centre: Point, inner: float, outer: float, ink: str, tag: str = "", line: str = "solid") -> None:
        """Add the area between two circles [mm]."""
        self.shape(Shape((circle_loop(centre, outer), circle_loop(centre, inner)), ink, tag, True, True, line))

    def box(self, x0: float, y0: float, x1: float, y1: float, ink: str, tag: str = "", line: str = "solid") -> None:
        """Add a rectangle [mm]."""
        self.polygon(((x0, y0), (x1, y0), (x1, y1), (x0, y1)), ink, tag, line=line)

    def polygon(
        self, points: Iterable[Point], ink: str, tag: str = "", filled: bool = True, line: str = "solid"
    ) -> None:
        """Add a closed polygon [mm]."""
        self.shape(Shape((tuple((x, y, 0.0) for x, y in points),), ink, tag, True, filled, line))

    def line(self, points: Iterable[Point], ink: str, tag: str = "", line: str = "solid") -> None:
        """Add an open line [mm]."""
        self.shape(Shape((tuple((x, y, 0.0) for x, y in points),), ink, tag, False, False, line))

    def outline(self, outline: Outline, ink: str, tag: str = "", filled: bool = True, line: str = "solid") -> None:
        """Add a closed outline."""
        self.shape(Shape((outline.vertices,), ink, tag, True, filled, line))

    def dimension(self, dimension: Dimension) -> None:
        """Add a dimension, if both its ends are known."""
        if all(map(math.isfinite, (*dimension.a, *dimension.b, dimension.base))):
            self.dimensions.append(dimension)

    def note(self, note: Note) -> None:
        """Add a note, if its place is known."""
        if all(map(math.isfinite, note.at)):
            shown = printable(note.text)
            self.notes.append(note if shown == note.text else replace(note, text=shown))

    def handle(self, handle: Handle) -> None:
        """Add a handle, if its place is known."""
        if all(map(math.isfinite, handle.at)):
            self.handles.append(handle)

    def finish(self, spare: tuple[float, float, float, float]) -> Drawing:
        """Return the drawing [mm]; ``spare`` bounds are used while nothing is drawn."""
        return Drawing(
            tuple(self.shapes),
            tuple(self.texts),
            tuple(self.dimensions),
            tuple(self.notes),
            tuple(self.handles),
            examples=tuple(self.examples),
            spare=spare,
        )


def framed(sheet: Sheet, frame: Bounds) -> Drawing:
    """Return what ``sheet`` holds as a drawing that fills ``frame`` [mm], whatever is drawn on it."""
    return replace(sheet.finish(frame), frame=frame)


def shifted(sheet: Sheet, by: Point) -> Sheet:
    """Return what ``sheet`` holds moved ``by`` so much [mm]."""
    dx, dy = by

    def at(p: Point) -> Point:
        return p[0] + dx, p[1] + dy

    return Sheet(
        [replace(s, loops=tuple(tuple((x + dx, y + dy, b) for x, y, b in v) for v in s.loops)) for s in sheet.shapes],
        [replace(t, at=at(t.at)) for t in sheet.texts],
        [replace(d, a=at(d.a), b=at(d.b), base=d.base + d.side[0] * dx + d.side[1] * dy) for d in sheet.dimensions],
        [replace(n, at=at(n.at)) for n in sheet.notes],
        [replace(h, at=at(h.at)) for h in sheet.handles],
        list(sheet.examples),
    )


def with_room(drawing: Drawing, below: float) -> Drawing:
    """Return the drawing with ``below`` mm of room under its parts, for texts that stand there."""
    x0, y0, x1, y1 = drawing.bounds
    return replace(drawing, frame=(x0, y0 - below, x1, y1))


LONGEST_NAME = 28
"""A name in a drawing is cut after this many letters: a label without room is a label not shown."""


def short(name: str) -> str:
    """Return ``name`` on one line, cut with an ellipsis when it is long."""
    plain = " ".join(name.split())
    return plain if len(plain) <= LONGEST_NAME else plain[: LONGEST_NAME - 1].rstrip() + "…"


def is_circle(loop: Loop) -> bool:
    """Tell whether ``loop`` is a full circle as ``circle_loop`` makes it."""
    return len(loop) == 2 and loop[0][2] == 1.0 and loop[1][2] == 1.0


def circle_loop(centre: Point, radius: float) -> Loop:
    """Return a full circle as two half arcs [mm]."""
    cx, cy = centre
    return (cx + radius, cy, 1.0), (cx - radius, cy, 1.0)


def mirrored(drawing: Drawing) -> Drawing:
    """Return the drawing seen from the other side: x turned round, texts still readable."""

    def flip(p: Point) -> Point:
        return -p[0], p[1]

    def turned(box: Bounds) -> Bounds:
        return -box[2], box[1], -box[0], box[3]

    def loop(vertices: Loop, closed: bool) -> Loop:
        count = len(vertices)
        back = []
        for k in range(count - 1, -1, -1):
            bulge = vertices[(k - 1) % count][2] if closed or k > 0 else 0.0
            back.append((-vertices[k][0], vertices[k][1], bulge))
        return tuple(back)

    return replace(
        drawing,
        shapes=tuple(replace(s, loops=tuple(loop(v, s.closed) for v in s.loops)) for s in drawing.shapes),
        texts=tuple(
            replace(t, at=flip(t.at), anchor={"start": "end", "end": "start"}.get(t.anchor, t.anchor))
            for t in drawing.texts
        ),
        dimensions=tuple(
            replace(d, a=flip(d.a), b=flip(d.b), along=flip(d.along), side=flip(d.side)) for d in drawing.dimensions
        ),
        notes=tuple(replace(n, at=flip(n.at), prefer=flip(n.prefer)) for n in drawing.notes),
        handles=tuple(replace(h, at=flip(h.at), along=flip(h.along)) for h in drawing.handles),
        frame=turned(drawing.frame) if drawing.frame is not None else None,
        spare=turned(drawing.spare),
    )


def fewer(drawing: Drawing) -> Drawing:
    """Return the drawing with the few labels that matter from a step away: what is out of order, asked for, or first of all."""

    def matters(item: Dimension | Note) -> bool:
        return item.rank == 0 or item.example or item.verdict in ("stop", "caution", "unknown")

    return replace(
        drawing,
        dimensions=tuple(item for item in drawing.dimensions if matters(item)),
        notes=tuple(item for item in drawing.notes if matters(item)),
    )


def as_example(drawing: Drawing) -> Drawing:
    """Return the drawing as a dashed example: its shapes alone, dashed and empty, with no number, text or handle."""
    shapes = tuple(
        replace(shape, ink="example", filled=False, line="hidden") for shape in drawing.shapes if shape.ink != "centre"
    )
    return Drawing(shapes, (), (), (), (), drawing.frame, drawing.examples, drawing.spare)


def stretched(drawing: Drawing, wide: Pure) -> Drawing:
    """Return a diagram ``wide`` times as wide: curves and axes stretch, dots stay round, texts and handles go along."""

    def moved(p: Point) -> Point:
        return p[0] * wide, p[1]

    def loop(vertices: Loop) -> Loop:
        if is_circle(vertices):
            middle, radius = (vertices[0][0] + vertices[1][0]) / 2, abs(vertices[0][0] - vertices[1][0]) / 2
            return circle_loop(moved((middle, vertices[0][1])), radius)
        return tuple((x * wide, y, bulge) for x, y, bulge in vertices)

    def pulled(handle: Handle) -> Handle:
        ux, uy = moved(handle.along)  # it goes along its own line, which is stretched too
        long = math.hypot(ux, uy)
        return replace(handle, at=moved(handle.at), along=(ux / long, uy / long), gain=handle.gain / long)

    def box(b: Bounds) -> Bounds:
        return b[0] * wide, b[1], b[2] * wide, b[3]

    return replace(
        drawing,
        shapes=tuple(replace(s, loops=tuple(loop(v) for v in s.loops)) for s in drawing.shapes),
        texts=tuple(replace(t, at=moved(t.at)) for t in drawing.texts),
        dimensions=tuple(replace(d, a=moved(d.a), b=moved(d.b)) for d in drawing.dimensions),
        notes=tuple(replace(n, at=moved(n.at)) for n in drawing.notes),
        handles=tuple(pulled(h) for h in drawing.handles),
        frame=box(drawing.frame) if drawing.frame is not None else None,
        spare=box(drawing.spare),
    )

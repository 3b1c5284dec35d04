"""The words on a printed trial piece: the holes' numbers, and that it is not the part; raised from its outboard face."""

from collections.abc import Callable

import numpy as np
import shapely

from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record
from bicentra.core.bracket.cutouts import largest_circle
from bicentra.core.bracket.model import MadePart
from bicentra.core.bracket.prisms import plate_shape
from bicentra.core.drawing.space.scene import SceneBody, prism

Loops = list[list[tuple[float, float]]]
Letters = Callable[[str, float], Loops]
"""The outlines of a text of a size [mm], its middle at the origin: filled where they lie round a point an odd number of times."""
RAISED_MM, SUNK_MM, NUMBER_MM, LARGEST_MM, LEAST_MM, EDGE_MM = 0.6, 0.2, 5.0, 9.0, 2.5, 1.0
LINE_SHARE = 1.35


class Word(Record, frozen=True):
    """A text about its middle, its letters ``size`` [mm] high."""

    text: str
    at: tuple[float, float]
    size: float


def trial_words(part: MadePart, letters: Letters) -> tuple[Word, ...]:
    """Return the words that have room on a flat plate's outboard face; nothing on other parts."""
    if part.outline is None or part.bends or not is_known(part.z0):
        return ()
    room = plate_shape(part, 0.05).buffer(-EDGE_MM)
    for pocket in part.pockets:  # a letter must not hang over a step
        if pocket.face > 0:
            room = room.difference(shapely.Polygon(pocket.outline.polygon(0.05)).boundary.buffer(EDGE_MM))
    found = []
    for number, bore in enumerate(part.bores, 1):
        word = _beside(str(number), part, bore.centre, bore.drill / 2, room, letters)
        if word is not None:
            found.append(word)
            room = room.difference(_box(word, letters).buffer(EDGE_MM))
    return (*found, *_text(part, room, letters))


def _beside(
    text: str, part: MadePart, centre: tuple[float, float], radius: float, room: shapely.Geometry, letters: Letters
) -> Word | None:
    """Return a number beside a hole, on whichever side there is room, towards the plate's middle first."""
    cx, cy = part.outline.centroid if part.outline is not None else centre
    first = np.arctan2(cy - centre[1], cx - centre[0])
    for turn in first + np.array([0.0, 0.5, -0.5, 1.0, -1.0, 1.6, -1.6, 2.3, -2.3, np.pi]):
        reach = radius + NUMBER_MM
        word = Word(text, (centre[0] + reach * float(np.cos(turn)), centre[1] + reach * float(np.sin(turn))), NUMBER_MM)
        if room.covers(_box(word, letters)):
            return word
    return None


def _text(part: MadePart, room: shapely.Geometry, letters: Letters) -> tuple[Word, ...]:
    """Return the lines that say what this is, where most room is, as large as it allows."""
    (x, y), radius = largest_circle(room)
    lines = ("TRIAL ONLY", "outboard", f"{part.thickness:g} mm")
    widest = max(np.ptp(np.array([p for loop in letters(line, 1.0) for p in loop])[:, 0]) for line in lines)
    high = LINE_SHARE * len(lines)
    size = min(LARGEST_MM, 2 * radius / float(np.hypot(widest, high)))
    if size < LEAST_MM:
        return ()
    middle = (len(lines) - 1) / 2
    return tuple(Word(line, (x, y + (middle - k) * LINE_SHARE * size), size) for k, line in enumerate(lines))


def _box(word: Word, letters: Letters) -> shapely.Geometry:
    points = np.array([p for loop in letters(word.text, word.size) for p in loop]) + np.array(word.at)
    return shapely.box(*points.min(axis=0), *points.max(axis=0))


def word_bodies(part: MadePart, letters: Letters, mirrored: bool) -> tuple[SceneBody, ...]:
    """Return the words as closed meshes that reach a little into the part; on a ``mirrored`` one in their places, readable."""
    top, found = part.z0 + part.thickness, []
    floors = {p.depth: shapely.Polygon(p.outline.polygon(0.05)) for p in part.pockets if p.face > 0}
    for word in trial_words(part, letters):
        shape: shapely.Geometry = shapely.Polygon()
        x, y = word.at
        for loop in letters(word.text, word.size):
            shape = shape.symmetric_difference(shapely.Polygon([(u + x, v + y) for u, v in loop]))
        deep = max((depth for depth, of in floors.items() if of.covers(shapely.Point(word.at))), default=0.0)
        if mirrored:
            shape = shapely.transform(shape, lambda points, x=x: points - np.array([2 * x, 0.0]))
        found.append(prism(shape, top - deep - SUNK_MM, top - deep + RAISED_MM, "words", "made", 0.0))
    return tuple(found)

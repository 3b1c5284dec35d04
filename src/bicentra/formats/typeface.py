"""The shipped face for papers: widths and outlines of its letters."""

import threading
from io import BytesIO
from typing import Any

from bicentra.core.base.wording import printable
from bicentra.data import data_path

REGULAR, BOLD = "IBMPlexSans-Regular.ttf", "IBMPlexSans-SemiBold.ttf"
CHORDS = 5
"""Chords to a curve of a letter cut in plastic."""


class _Opened(threading.local):
    """The faces opened in one thread: their tables are unpacked as they are used, which two threads must not do at once."""

    def __init__(self) -> None:
        self.faces: dict[str, tuple[Any, Any, dict[int, str]]] = {}


_opened = _Opened()


def _font(name: str) -> tuple[Any, Any, dict[int, str]]:
    from fontTools.ttLib import TTFont

    if name not in _opened.faces:
        font = TTFont(BytesIO(data_path("fonts", name).read_bytes()), lazy=True)
        _opened.faces[name] = font, font.getGlyphSet(), font.getBestCmap()
    return _opened.faces[name]


def text_width(text: str, size: float, name: str = REGULAR) -> float:
    """Return the width of ``text`` in the unit of ``size``."""
    font, glyphs, letters = _font(name)
    units = font["head"].unitsPerEm
    return float(sum(glyphs[letters.get(ord(c), ".notdef")].width for c in text) * size / units)


def wrapped(text: str, size: float, face: str, room: float) -> list[str]:
    """Return ``text`` in lines no wider than ``room`` points; a single word wider than that stands alone."""
    lines = [""]
    for word in printable(text).split():
        longer = f"{lines[-1]} {word}".strip()
        if text_width(longer, size, face) <= room or not lines[-1]:
            lines[-1] = longer
        else:
            lines.append(word)
    return lines


def text_loops(text: str, size: float, name: str = REGULAR) -> list[list[tuple[float, float]]]:
    """Return the closed outlines of ``text`` as chords, y up, the middle of its letters at the origin."""
    font, glyphs, letters = _font(name)
    scale, x, found = size / font["head"].unitsPerEm, 0.0, []
    for c in text:
        glyph = glyphs[letters.get(ord(c), ".notdef")]
        pen = _chord_pen(glyphs)
        glyph.draw(pen)
        found += [[(x + u * scale, v * scale) for u, v in loop] for loop in pen.loops if len(loop) > 2]
        x += glyph.width * scale
    low, high = (f(v for loop in found for _, v in loop) for f in (min, max)) if found else (0.0, 0.0)
    return [[(u - x / 2, v - (low + high) / 2) for u, v in loop] for loop in found]


def _chord_pen(glyphs: Any) -> Any:
    """Return a pen that keeps every contour as chords, curves in ``CHORDS`` steps."""
    from fontTools.pens.basePen import BasePen

    class ChordPen(BasePen):  # type: ignore[misc]
        """Collects ``loops`` of points."""

        loops: list[list[tuple[float, float]]]

        def _moveTo(self, at: tuple[float, float]) -> None:
            self.loops.append([at])

        def _lineTo(self, at: tuple[float, float]) -> None:
            if at != self.loops[-1][0]:
                self.loops[-1].append(at)

        def _curveToOne(self, a: tuple[float, float], b: tuple[float, float], c: tuple[float, float]) -> None:
            start = self._getCurrentPoint()
            for k in range(1, CHORDS + 1):
                t = k / CHORDS
                weights = ((1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t**3)
                spots = (start, a, b, c)
                self._lineTo(tuple(sum(w * p[axis] for w, p in zip(weights, spots)) for axis in (0, 1)))

    pen = ChordPen(glyphs)
    pen.loops = []
    return pen


def text_path(text: str, size: float, at: tuple[float, float], name: str = REGULAR) -> str:
    """Return ``text`` as an SVG path with its baseline starting at ``at``, y down."""
    from fontTools.pens.svgPathPen import SVGPathPen
    from fontTools.pens.transformPen import TransformPen

    font, glyphs, letters = _font(name)
    scale = size / font["head"].unitsPerEm
    pen = SVGPathPen(glyphs, ntos=lambda v: f"{v:.3f}".rstrip("0").rstrip("."))
    x, y = at
    for c in text:
        glyph = glyphs[letters.get(ord(c), ".notdef")]
        glyph.draw(TransformPen(pen, (scale, 0, 0, -scale, x, y)))
        x += glyph.width * scale
    return str(pen.getCommands())

"""The shipped face for papers: widths and outlines of its letters."""

from functools import lru_cache
from typing import Any

from bicentra.data import data_path

REGULAR, BOLD = "IBMPlexSans-Regular.ttf", "IBMPlexSans-SemiBold.ttf"


@lru_cache(maxsize=4)
def _font(name: str) -> tuple[Any, Any, dict[int, str]]:
    from fontTools.ttLib import TTFont

    font = TTFont(data_path("fonts", name), lazy=True)
    return font, font.getGlyphSet(), font.getBestCmap()


def text_width(text: str, size: float, name: str = REGULAR) -> float:
    """Return the width of ``text`` in the unit of ``size``."""
    font, glyphs, letters = _font(name)
    units = font["head"].unitsPerEm
    return float(sum(glyphs[letters.get(ord(c), ".notdef")].width for c in text) * size / units)


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

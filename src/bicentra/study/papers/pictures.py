"""A drawing taken along by itself, as a picture that can be scaled."""

from bicentra.core.drawing.model import Drawing


def svg_of(drawing: Drawing, title: str) -> bytes:
    """Return ``drawing`` with its dimensions as SVG at true size."""
    from bicentra.formats.svg_drawing import drawing_svg

    return drawing_svg(drawing, title)

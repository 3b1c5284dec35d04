"""Where PDF papers are printed: a canvas with the shipped faces, one paper at a time."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from bicentra.core.drawing.plate_sheet import PT_PER_MM
from bicentra.data import data_path
from bicentra.formats.typeface import BOLD, REGULAR

_press = threading.Lock()


@contextmanager
def new_canvas(size: tuple[float, float], title: str) -> Iterator[Any]:
    """Give a canvas of ``size`` [mm]; its ``getpdfdata()`` ends the paper.

    The library keeps its faces for the whole process, registered anew for each paper; it promises nothing for two threads,
    so the second waits. (No mix-up was ever seen; a lock is cheaper than proving that there is none.)
    """
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont
    from reportlab.pdfgen.canvas import Canvas

    with _press:
        for name, file in (("Paper", REGULAR), ("PaperBold", BOLD)):
            pdfmetrics.registerFont(TTFont(name, str(data_path("fonts", file))))
        canvas = Canvas("", pagesize=(size[0] * PT_PER_MM, size[1] * PT_PER_MM), invariant=1)
        canvas.setTitle(title)
        canvas.setCreator("Bicentra")
        yield canvas

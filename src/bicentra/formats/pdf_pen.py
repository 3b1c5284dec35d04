"""What every PDF paper is drawn with: the canvas, shapes, labels, texts that fit, proof bars, columns of text, pictures
in them, and pages as pictures.
"""

import math
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import numpy as np

from bicentra.core.base.quantities import Units
from bicentra.core.base.records import Record
from bicentra.core.base.wording import printable
from bicentra.core.drawing.model import Drawing, Shape
from bicentra.core.drawing.places import Placed
from bicentra.core.drawing.shapes import scaled
from bicentra.core.drawing.sheets.imprint import Imprint
from bicentra.core.drawing.sheets.plate import PT_PER_MM, paper_labels
from bicentra.data import data_path
from bicentra.formats.typeface import BOLD, REGULAR, text_width, wrapped

_press = threading.Lock()


@contextmanager
def new_canvas(size: tuple[float, float], title: str) -> Iterator[Any]:
    """Give a canvas of ``size`` [mm]; its ``getpdfdata()`` ends the paper.

    The library keeps its faces for the whole process, registered again for each paper; it promises nothing for two threads,
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


SHEETS = {"A4": (210.0, 297.0), "Letter": (215.9, 279.4)}
MARGIN = 10.0
"""Unprinted edge [mm]."""
TEXT_PT = 9.0


def sheet_for(units: Units, imprint: Imprint, paper: str | None = None) -> str:
    """Return the sheet a paper is made on: the one asked for, else Letter where sizes are read in inches and A4 elsewhere."""
    return paper or imprint.paper or ("Letter" if units == "in" else "A4")


ARROW_PT = (6.0, 1.1)
"""Length of an arrowhead and half its width [points]."""


def draw_shape(canvas: Any, shape: Shape) -> None:
    """Draw lines and arcs in points. Arcs are the PDF's own curves, true to better than a thousandth of the radius."""
    width, dash = {"outline": (1.0, []), "hole": (0.8, []), "centre": (0.4, [8, 2, 2, 2])}.get(shape.ink, (0.7, []))
    canvas.setLineWidth(width)
    canvas.setDash([3, 2] if shape.line == "hidden" else dash)
    canvas.setStrokeColorRGB(*((0.6, 0.15, 0.1) if shape.ink == "centre" else (0, 0, 0)))
    path = canvas.beginPath()
    start = None
    for piece in shape.segments():
        x0, y0 = piece.start[0] * PT_PER_MM, piece.start[1] * PT_PER_MM
        if start != piece.start:
            path.moveTo(x0, y0)
        if piece.bulge == 0.0:
            path.lineTo(piece.end[0] * PT_PER_MM, piece.end[1] * PT_PER_MM)
        else:
            (cx, cy), r = piece.centre, piece.radius
            first = math.degrees(math.atan2(piece.start[1] - cy, piece.start[0] - cx))
            bounds = [v * PT_PER_MM for v in (cx - r, cy - r, cx + r, cy + r)]
            path.arcTo(*bounds, startAng=first, extent=math.degrees(piece.sweep))
        start = piece.end
    canvas.drawPath(path, stroke=1, fill=0)


def draw_labels(canvas: Any, labels: tuple[Placed, ...]) -> None:
    """Draw labels with their leaders and arrows, in points; texts last, each on a piece of white: no line runs through one."""
    canvas.setDash([])
    canvas.setLineWidth(0.4)
    canvas.setStrokeColorRGB(0.35, 0.35, 0.35)
    canvas.setFillColorRGB(0.35, 0.35, 0.35)
    for label in labels:
        for (x0, y0), (x1, y1) in label.lines:
            canvas.line(x0, y0, x1, y1)
        for tip, way in label.arrows:
            arrow(canvas, tip, way)
    canvas.setFont("Paper", TEXT_PT)
    for label in labels:
        box = label.box
        canvas.setFillColorRGB(1, 1, 1)
        canvas.rect(box.x0, box.y0, box.x1 - box.x0, box.y1 - box.y0, stroke=0, fill=1)
        canvas.setFillColorRGB(0, 0, 0)
        canvas.drawString(box.x0 + 2.0, box.y0 + 3.2, label.text)


def arrow(canvas: Any, tip: tuple[float, float], way: tuple[float, float]) -> None:
    """Draw a filled arrowhead at ``tip`` whose shaft runs off along ``way``."""
    (x, y), (u, v), (long, half) = tip, way, ARROW_PT
    path = canvas.beginPath()
    path.moveTo(x, y)
    for side in (half, -half):
        path.lineTo(x + u * long - v * side, y + v * long + u * side)
    path.close()
    canvas.drawPath(path, stroke=0, fill=1)


def fitted(canvas: Any, font: str, size: float, x: float, y: float, text: str, room: float) -> None:
    """Draw ``text`` no wider than ``room`` points: smaller down to 6 points, then cut with an ellipsis."""
    face, text = BOLD if font.endswith("Bold") else REGULAR, printable(text)
    while size > 6.0 and text_width(text, size, face) > room:
        size -= 0.5
    while len(text) > 1 and text_width(text, size, face) > room:
        text = text[:-2].rstrip() + "…"
    canvas.setFont(font, size)
    canvas.drawString(x, y, text)


def proof_bar(canvas: Any, length: float, text: str, height: float) -> None:
    """A proof bar of ``length`` [mm] between two ticks."""
    x0, y = MARGIN * PT_PER_MM, (MARGIN + height - 4.0) * PT_PER_MM
    x1 = x0 + length * PT_PER_MM
    canvas.setLineWidth(0.6)
    canvas.setStrokeColorRGB(0, 0, 0)
    canvas.line(x0, y, x1, y)
    for x in (x0, x1):
        canvas.line(x, y - 1.5 * PT_PER_MM, x, y + 1.5 * PT_PER_MM)
    canvas.setFillColorRGB(0, 0, 0)
    canvas.setFont("Paper", 8)
    canvas.drawString(x1 + 3 * PT_PER_MM, y - 2.5, f"{text} between the ticks")


def stamp(canvas: Any, text: str, at: tuple[float, float], wide: float, size: float = 12.0) -> None:
    """Draw the mark that keeps metal from being cut, red and in a frame, on up to two lines no wider than ``wide`` [mm]; nothing
    without a ``text``."""
    if not text:
        return
    room = wide * PT_PER_MM - 6.0
    size = next((s for s in (size, size * 0.85, size * 0.7) if text_width(text, s, BOLD) <= room), size * 0.7)
    lines = wrapped(text, size, BOLD, room)
    (x, y), high = (at[0] * PT_PER_MM, at[1] * PT_PER_MM), size * 1.25
    canvas.setFillColorRGB(0.7, 0.05, 0.05)
    canvas.setStrokeColorRGB(0.7, 0.05, 0.05)
    canvas.setLineWidth(1.0)
    shown = [*lines[:1], *([" ".join(lines[1:])] if lines[1:] else [])]
    canvas.rect(x, y - high * (len(shown) - 1) - size * 0.45, wide * PT_PER_MM, high * len(shown) + size * 0.2)
    for row, line in enumerate(shown):
        fitted(canvas, "PaperBold", size, x + 3.0, y - high * row, line, room)
    canvas.setFillColorRGB(0, 0, 0)
    canvas.setStrokeColorRGB(0, 0, 0)


COLUMN_MARGIN = 14.0
LINE = 13.0


class Column:
    """Writes lines down a page under a title and turns to the next one at the bottom."""

    def __init__(self, canvas: Any, sheet: tuple[float, float], title: str) -> None:
        self.canvas, self.title = canvas, title
        self.left, self.width = COLUMN_MARGIN * PT_PER_MM, (sheet[0] - 2 * COLUMN_MARGIN) * PT_PER_MM
        self._top, self._size = (sheet[1] - COLUMN_MARGIN) * PT_PER_MM, (sheet[0] * PT_PER_MM, sheet[1] * PT_PER_MM)
        self.page()

    def page(self) -> None:
        """Begin a page with its heading."""
        self.canvas.setPageSize(self._size)
        self.y = self._top
        self.text(self.title, bold=True, size=12)
        self.y -= 4

    def room(self, lines: int) -> None:
        """Turn the page unless ``lines`` more fit."""
        if self.y - lines * LINE < COLUMN_MARGIN * PT_PER_MM:
            self.canvas.showPage()
            self.page()

    def text(self, text: str, bold: bool = False, size: float = 9, indent: float = 0.0) -> None:
        """Write a text, wrapped to the width."""
        face = BOLD if bold else REGULAR
        lines = wrapped(text, size, face, self.width - indent)
        if hasattr(self, "y") and self.y < self._top:
            self.room(len(lines))
        for line in lines:
            self.y -= LINE
            self.canvas.setFont("PaperBold" if bold else "Paper", size)
            self.canvas.setFillColorRGB(0, 0, 0)
            self.canvas.drawString(self.left + indent, self.y, line)

    def row(self, cells: tuple[str, ...], places: tuple[float, ...], bold: bool = False) -> None:
        """Write one line of a table; ``places`` are parts of the width."""
        self.room(1)
        self.y -= LINE
        face, font = (BOLD, "PaperBold") if bold else (REGULAR, "Paper")
        ends = (*places[1:], 1.0)
        for text, place, end in zip(cells, places, ends):
            cell, size, room = printable(text), 9.0, (end - place) * self.width - 4
            while size > 5.5 and text_width(cell, size, face) > room:
                size -= 0.5
            while len(cell) > 1 and text_width(cell, size, face) > room:
                cell = cell[:-2] + "…"
            self.canvas.setFont(font, size)
            self.canvas.drawString(self.left + place * self.width, self.y, cell)

    def rule(self, start: float, end: float) -> None:
        """Draw a line to write on below the present line, between parts of the width."""
        self.canvas.setLineWidth(0.5)
        self.canvas.line(self.left + start * self.width, self.y - 2, self.left + end * self.width, self.y - 2)

    def box(self) -> None:
        """Draw a box to tick left of the next line."""
        self.canvas.setLineWidth(0.7)
        self.canvas.rect(self.left, self.y - LINE - 1, 8, 8, stroke=1, fill=0)


SIDE_MM, ABOVE_MM = 22.0, 8.0
"""Room for labels beside and above the parts [mm]."""


def picture(canvas: Any, column: Column, drawing: Drawing, high: float) -> None:
    """Draw ``drawing`` below what has been written, within ``high`` [mm] and the column's width; lines stay black."""
    x0, y0, x1, y1 = drawing.bounds
    room = column.width / PT_PER_MM - 2 * SIDE_MM, high - 2 * ABOVE_MM
    small = scaled(drawing, min(room[0] / max(x1 - x0, 1.0), room[1] / max(y1 - y0, 1.0)))
    x0, y0, x1, y1 = small.bounds
    canvas.saveState()
    middle = column.left + column.width / 2 - (x0 + x1) / 2 * PT_PER_MM
    canvas.translate(middle, column.y - (high / 2 + (y0 + y1) / 2) * PT_PER_MM)
    for shape in small.shapes:
        draw_shape(canvas, shape)
    sides = (column.width / PT_PER_MM - (x1 - x0)) / 2
    draw_labels(
        canvas,
        paper_labels(small, lambda text: (text_width(text, TEXT_PT, REGULAR) + 4.0, TEXT_PT + 3.0), sides, ABOVE_MM),
    )
    canvas.setFillColorRGB(0, 0, 0)
    for text in small.texts:
        canvas.setFont("PaperBold" if text.bold else "Paper", text.size)
        draw = {"start": canvas.drawString, "end": canvas.drawRightString}.get(text.anchor, canvas.drawCentredString)
        draw(text.at[0] * PT_PER_MM, text.at[1] * PT_PER_MM - text.rise, text.text)
    canvas.restoreState()
    column.y -= high * PT_PER_MM


POINTS_PER_INCH = 72.0
_turn = threading.Lock()


class Page(Record, frozen=True):
    """One page: its size [mm], the picture's size [px], its grey bytes row by row."""

    size: tuple[float, float]
    wide: int
    high: int
    grey: bytes


def page_count(data: bytes) -> int:
    """Return how many pages the PDF ``data`` has."""
    import pypdfium2

    with _turn:
        document = pypdfium2.PdfDocument(data)
        try:
            return len(document)
        finally:
            document.close()


def page_picture(data: bytes, place: int, dots_per_inch: float, finer: int = 1) -> Page:
    """Return page ``place`` (from 0) of the PDF ``data`` in grey. The library is no friend of threads: one at a time.

    ``finer``: drawn so many times as fine and averaged. Letters are set to whole pixels: small ones run together otherwise.
    """
    import pypdfium2

    with _turn:
        document = pypdfium2.PdfDocument(data)
        try:
            page = document[place]
            points = page.get_size()
            picture = page.render(scale=finer * dots_per_inch / POINTS_PER_INCH, grayscale=True)
            grey = np.frombuffer(bytes(picture.buffer), dtype=np.uint8).reshape(picture.height, picture.stride)
            high, wide = picture.height // finer, picture.width // finer
            rows = grey[: high * finer, : wide * finer]
            if finer > 1:
                rows = np.round(rows.reshape(high, finer, wide, finer).mean(axis=(1, 3))).astype(np.uint8)
            size = points[0] / POINTS_PER_INCH * 25.4, points[1] / POINTS_PER_INCH * 25.4
            return Page(size, wide, high, rows.tobytes())
        finally:
            document.close()

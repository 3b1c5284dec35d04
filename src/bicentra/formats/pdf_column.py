"""Lines, tables and boxes to tick written down a page of a PDF, page after page."""

from typing import Any

from bicentra.core.base.wording import printable
from bicentra.core.drawing.plate_sheet import PT_PER_MM
from bicentra.formats.typeface import BOLD, REGULAR, text_width, wrapped

MARGIN = 14.0
LINE = 13.0


class Column:
    """Writes lines down a page under a title and turns to the next one at the bottom."""

    def __init__(self, canvas: Any, sheet: tuple[float, float], title: str) -> None:
        self.canvas, self.title = canvas, title
        self.left, self.width = MARGIN * PT_PER_MM, (sheet[0] - 2 * MARGIN) * PT_PER_MM
        self._top, self._size = (sheet[1] - MARGIN) * PT_PER_MM, (sheet[0] * PT_PER_MM, sheet[1] * PT_PER_MM)
        self.page()

    def page(self) -> None:
        """Begin a page with its heading."""
        self.canvas.setPageSize(self._size)
        self.y = self._top
        self.text(self.title, bold=True, size=12)
        self.y -= 4

    def room(self, lines: int) -> None:
        """Turn the page unless ``lines`` more fit."""
        if self.y - lines * LINE < MARGIN * PT_PER_MM:
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

"""Pages of a PDF as pictures, true to size, for preview and printing."""

import threading

from bicentra.core.base.records import Record

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


def page_picture(data: bytes, place: int, dots_per_inch: float) -> Page:
    """Return page ``place`` (from 0) of the PDF ``data`` in grey. The library is no friend of threads: one at a time."""
    import pypdfium2

    with _turn:
        document = pypdfium2.PdfDocument(data)
        try:
            page = document[place]
            points = page.get_size()
            picture = page.render(scale=dots_per_inch / POINTS_PER_INCH, grayscale=True)
            wide, high, stride = picture.width, picture.height, picture.stride
            held = bytes(picture.buffer)
            rows = b"".join(held[row * stride : row * stride + wide] for row in range(high))
            size = points[0] / POINTS_PER_INCH * 25.4, points[1] / POINTS_PER_INCH * 25.4
            return Page(size, wide, high, rows)
        finally:
            document.close()

"""How large drawings are shown: at the largest scale at which texts find room, side by side at one scale and in step."""

from collections.abc import Sequence

from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawing.view_state import LEAST_SCALE

EDGE_PX = 8.0
"""Paper left free at the sides [px]."""
STEPS = (1.0, 0.95, 0.9, 0.85, 0.8, 0.75)
"""Scales tried, in parts of the one at which the parts alone fill the paper."""
TEXT_WORTH = 0.025
"""How much of its size a drawing may lose so that one more text stands well (our judgement): half for one that covers its part."""
LABEL_ROOM_PX = 160.0
"""What a narrow drawing is given beside its parts for its texts where drawings share a width [px]."""


def show_whole(views: Sequence[DrawingView]) -> None:
    """Show ``views`` whole; those that share a scale are in step: one height of the sheet lies at one height of the window."""
    drawn = [view for view in views if view.drawing is not None]
    for view in drawn:
        view.stretch_over(*_paper(view))
    for state in {id(view.view_state): view.view_state for view in drawn}.values():
        together = [view for view in drawn if view.view_state is state]
        low, high = (extreme(_bounds(view)[k] for view in together) for extreme, k in ((min, 1), (max, 3)))
        for view in together:
            view.centre((low + high) / 2)
        fits = min(min(_paper(view)[0] / _size(view)[0], _paper(view)[1] / max(high - low, 1.0)) for view in together)
        state.set_scale(_largest(together, max(fits, LEAST_SCALE)), fitted=True)


def shared_widths(views: Sequence[DrawingView], wide: int) -> tuple[int, ...]:
    """Return how ``wide`` pixels are shared by drawings that are shown at one scale: as their parts are wide, texts allowed for."""
    sizes = [_size(view) for view in views]
    least = min(size[0] for size in sizes)
    rooms = [LABEL_ROOM_PX if size[0] <= least else 2 * EDGE_PX for size in sizes]
    high = min(_paper(view)[1] / size[1] for view, size in zip(views, sizes))
    scale = max(min((wide - sum(rooms)) / sum(size[0] for size in sizes), high), 0.0)
    spare = (wide - sum(rooms) - scale * sum(size[0] for size in sizes)) / len(views)
    return tuple(max(round(room + scale * size[0] + spare), 1) for room, size in zip(rooms, sizes))


def _bounds(view: DrawingView) -> tuple[float, float, float, float]:
    """Return the rectangle that the parts of a drawing fill [mm]."""
    return view.drawing.bounds if view.drawing is not None else (0.0, 0.0, 1.0, 1.0)


def _size(view: DrawingView) -> tuple[float, float]:
    """Return how wide and high the parts of a drawing are [mm]."""
    x0, y0, x1, y1 = _bounds(view)
    return max(x1 - x0, 1.0), max(y1 - y0, 1.0)


def _paper(view: DrawingView) -> tuple[float, float]:
    """Return how wide and high the paper is that the parts may fill [px]."""
    return view.width() - 2 * EDGE_PX, view.height() - sum(view.margins_px)


def _largest(views: Sequence[DrawingView], most: float) -> float:
    """Return the scale that serves best: large, with as few texts as possible left out or over the part they name."""
    best, worth = most, 0.0
    for step in STEPS:
        if step <= worth:
            break  # no smaller one can be worth more
        this = step * (1.0 - TEXT_WORTH * sum(view.left_out(most * step) for view in views))
        if this > worth:
            best, worth = most * step, this
    return best

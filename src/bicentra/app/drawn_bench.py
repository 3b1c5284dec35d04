"""A bench with drawings: shown whole together, dressed together with the lists and pages beside them."""

from collections.abc import Sequence
from typing import Protocol

from PySide6.QtWidgets import QListView

from bicentra.app.bench import Bench
from bicentra.app.drawing.view import DrawingView
from bicentra.app.theme import Look
from bicentra.app.widgets.row import RowPainter, dress_rows


class Dressed(Protocol):
    """What shows itself in a look: a page, a card, a table."""

    def dress(self, look: Look) -> None:
        """Show it in ``look``."""


def show_whole(views: Sequence[DrawingView], room_px: tuple[float, float]) -> None:
    """Show ``views`` whole, those that share a scale at the largest that serves them all; ``room_px``: left free."""
    drawn = [view for view in views if view.drawing is not None]
    for view in drawn:
        view.centre()
    for state in {id(view.view_state): view.view_state for view in drawn}.values():
        scales = [view.fit_scale(room_px) for view in drawn if view.view_state is state]
        state.set_scale(min(scales), fitted=True)


class DrawnBench(Bench):
    """A bench with drawings. ``drawings``: its views; ``room_px``: what they leave free across and down.

    ``lists``: lists with their painters, ``dressed``: what else is shown in the window's look.
    """

    room_px = (60.0, 80.0)
    drawings: tuple[DrawingView, ...] = ()
    lists: tuple[tuple[QListView, RowPainter], ...] = ()
    dressed: tuple[Dressed, ...] = ()

    def fit(self) -> None:
        """Show the drawings whole."""
        show_whole(self.drawings, self.room_px)

    def dress(self, look: Look) -> None:
        """Show drawings, lists and pages in ``look``."""
        for state in {id(view.view_state): view.view_state for view in self.drawings}.values():
            state.dress(look)
        super().dress(look)
        for rows, painter in self.lists:
            dress_rows(rows, painter, look)
        for one in self.dressed:
            one.dress(look)

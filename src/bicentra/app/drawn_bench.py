"""A bench with drawings: shown whole together, dressed together with the lists and pages beside them."""

from typing import Protocol

from PySide6.QtWidgets import QListView

from bicentra.app.bench import Bench
from bicentra.app.drawing.fit import show_whole
from bicentra.app.drawing.view import DrawingView
from bicentra.app.theme import Look
from bicentra.app.widgets.row import RowPainter, dress_rows


class Dressed(Protocol):
    """What shows itself in a look: a page, a card, a table."""

    def dress(self, look: Look) -> None:
        """Show it in ``look``."""


class DrawnBench(Bench):
    """A bench with drawings. ``drawings``: its views.

    ``lists``: lists with their painters, ``dressed``: what else is shown in the window's look.
    """

    drawings: tuple[DrawingView, ...] = ()
    lists: tuple[tuple[QListView, RowPainter], ...] = ()
    dressed: tuple[Dressed, ...] = ()

    def fit(self) -> None:
        """Show the drawings whole."""
        show_whole([view for view in self.drawings if not view.isHidden()] or self.drawings)

    def dress(self, look: Look) -> None:
        """Show drawings, lists and pages in ``look``."""
        for state in {id(view.view_state): view.view_state for view in self.drawings}.values():
            state.dress(look)
        super().dress(look)
        for rows, painter in self.lists:
            dress_rows(rows, painter, look)
        for one in self.dressed:
            one.dress(look)

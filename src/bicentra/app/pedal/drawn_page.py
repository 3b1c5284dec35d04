"""A page of the pedal bench with one drawing of its own scale."""

from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.theme import Look
from bicentra.app.widgets.plain import plain_label


class DrawnPage(QWidget):
    """``view`` shows the drawing; ``room``: what is kept free round it [px]."""

    room: tuple[float, float] = (60.0, 60.0)

    def __init__(self, title: str, look: Look) -> None:
        super().__init__()
        self.state = ViewState()
        self.state.look = look
        self.view = DrawingView(title, self.state, {})
        self.view.fit_wanted.connect(self.fit)

    def over_words(self, exaggeration: str) -> QLabel:
        """Put the drawing over a faint line of words, which is returned; instead of a scale it has ``exaggeration``."""
        self.view.exaggeration = exaggeration
        column, text = QVBoxLayout(self), plain_label()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        text.setObjectName("faint")
        text.setWordWrap(True)
        column.addWidget(self.view, 1)
        column.addWidget(text)
        return text

    def fit(self) -> None:
        """Show the drawing whole."""
        if self.view.drawing is not None:
            self.view.centre()
            self.state.set_scale(self.view.fit_scale(self.room), fitted=True)

    def dress(self, look: Look) -> None:
        """Show it in ``look``."""
        self.state.dress(look)

"""What every bench is to the window: a desk of the study shown, changed through it, with the same signals and calls."""

from collections.abc import Callable

from PySide6.QtCore import QSettings, Signal
from PySide6.QtWidgets import QWidget

from bicentra.app.drawing.view_state import ViewState
from bicentra.app.theme import Look
from bicentra.core.base.errors import BicentraError
from bicentra.study.document.next_step import NextStep
from bicentra.study.document.study import Study


class Bench(QWidget):
    """One bench. ``refused`` carries field and reason of what is not taken, ``message`` what has been done.

    ``changed``: what it says to do next may have. ``bench_wanted``: the name of a bench to bring to the front.
    ``sheet_wanted``: the tag of a part in a drawing whose sheet is asked for. ``action_wanted``: the name of an action.
    """

    refused = Signal(str, str)
    message = Signal(str)
    changed = Signal()
    bench_wanted = Signal(str)
    sheet_wanted = Signal(str)
    action_wanted = Signal(str)

    def __init__(self, look: Look, settings: QSettings) -> None:
        super().__init__()
        self.setObjectName("desk")
        self.settings = settings
        self.view_state = ViewState()
        self.view_state.look = look

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on; a bench that keeps a desk makes a new one first."""
        del study
        self.refresh()

    def refresh(self) -> None:
        """Show the study as it stands; a bench without drawings has nothing to do."""

    def carry_out(self, work: Callable[[], object], path: str = "") -> bool:
        """Do ``work`` and show what came of it; what it refuses is reported in the footer. Returns whether it was done."""
        try:
            work()
        except BicentraError as error:
            self.refused.emit(path or str(getattr(error, "path", "")), str(error))
            return False
        self.refresh()
        return True

    def is_pulled(self) -> bool:
        """Whether something is being pulled: until it is let go only what is drawn is worked out."""
        return False

    def fit(self) -> None:
        """Show everything; a bench without drawings has nothing to do."""

    def dress(self, look: Look) -> None:
        """Show the bench in ``look``: its drawings here, the rest in the bench."""
        self.view_state.dress(look)

    @property
    def may_leave(self) -> bool:
        """Whether a corner that is done may be left for what comes after it; not while an earlier state of it is looked at."""
        return True

    next_button = "Do it"
    """What the button that does the next thing says."""

    def next_sentence(self) -> str:
        """Return what to do next here; empty when the table of all benches says it."""
        return ""

    def other_way(self) -> NextStep | None:
        """Return another way on beside the next thing, if there is one."""
        return None

    def own_step(self) -> NextStep | None:
        """Return the next thing that this bench asks for itself."""
        sentence = self.next_sentence()
        return NextStep(sentence, own=True, button=self.next_button, then=self.other_way()) if sentence else None

    def do_next(self) -> None:
        """Do what ``next_sentence`` says."""

    def go_back(self) -> bool:
        """Go back to what the bench shows first, where something else lies over it; False where nothing does."""
        return False

    def take_focus(self) -> None:
        """Give the keyboard to what is used first."""

    def let_go(self) -> None:
        """Stop what runs beside the window: it is closing."""

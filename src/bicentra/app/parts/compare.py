"""Old and new laid side by side, to scale, with what differs, what it weighs and whether it fits."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QToolButton, QVBoxLayout, QWidget

from bicentra.app import part_dialog
from bicentra.app.drawing.fit import show_whole
from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.parts import tables
from bicentra.app.theme import Look
from bicentra.app.widgets.basics import scrolled
from bicentra.app.widgets.finding_column import FindingColumn
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.rich_text import against_list
from bicentra.app.widgets.row import dress_rows
from bicentra.core.base.finding import Finding
from bicentra.core.drawing.views.parts import parts_view
from bicentra.core.parts.job import Job
from bicentra.study.desks.parts import CAME_OFF, IN_JOB, PartsDesk

SIDE_PX = 380
"""How wide the tables of what differs want to be [px]."""
LAY_ONE = (
    "Choose a rotor, a caliper or a wheel from the library: it is shown below, to the same scale, with what it changes."
)


class ComparePage(QWidget):
    """The bench on which parts are laid. ``wanted`` carries a label and edits for the job."""

    wanted = Signal(str, object)

    def __init__(self, view_state: ViewState) -> None:
        super().__init__()
        self.currency = ""
        self.desk: PartsDesk | None = None
        self.view_state = view_state
        self._shown: tuple[object, ...] = ()
        self._rows = 0
        self._text: list[str] = []
        self._why = ""
        self.view = DrawingView("Above: the parts compared with. Below: the parts looked at", view_state, {})
        self.view.fit_wanted.connect(self.fit)
        self.table = plain_label()
        self.table.setTextFormat(Qt.TextFormat.RichText)
        self.table.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.table.setWordWrap(True)
        self.table.setObjectName("panelBody")
        self.table.setMargin(10)
        differs = scrolled(self.table)
        differs.setAccessibleName("What differs")
        self.column = FindingColumn(view_state.look, "Findings of the parts below, worst first")
        self.column.chosen.connect(self._choose)
        self.column.folded.connect(self._make_room)
        self._side = QWidget()
        column, middle, side = QVBoxLayout(self), QHBoxLayout(), QVBoxLayout(self._side)
        column.setContentsMargins(0, 0, 0, 0)
        side.setContentsMargins(0, 0, 0, 0)
        for layout in (column, middle, side):
            layout.setSpacing(6)
        side.addWidget(self.column, 1)
        side.addWidget(differs, 1)
        middle.addWidget(self.view, 1)
        middle.addWidget(self._side)
        column.addLayout(self._tools())
        column.addLayout(middle, 1)
        self._differs = differs

    def _tools(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        row.addWidget(plain_label("Above:"))
        self.above = QComboBox()
        self.above.addItems([IN_JOB, CAME_OFF])
        self.above.setAccessibleName("Compared with")
        self.above.currentTextChanged.connect(self.refresh)
        row.addWidget(self.above)
        row.addWidget(plain_label("Below:"))
        for kind in ("rotor", "caliper", "wheel"):
            button = QPushButton(f"{kind.capitalize()}…")
            button.setToolTip(f"Take a {kind} from the library, to compare; the job stays as it is")
            button.clicked.connect(lambda _checked=False, kind=kind: self.choose(kind))
            row.addWidget(button)
        self.over = QToolButton()
        self.over.setText("Overlay")
        self.over.setCheckable(True)
        self.over.setToolTip("Draws the parts above over those below, dashed")
        self.over.toggled.connect(self._laid_over)
        row.addWidget(self.over)
        row.addStretch(1)
        back = QPushButton("Clear")
        back.setToolTip("Shows the job's own parts below again")
        back.clicked.connect(lambda: self.lay(None))
        row.addWidget(back)
        self.use = QPushButton("Use these")
        self.use.setObjectName("primary")
        self.use.setToolTip("Puts the parts below into the job, as one step")
        self.use.clicked.connect(self.use_them)
        row.addWidget(self.use)
        return row

    def dress(self, look: Look) -> None:
        """Show the findings in ``look``."""
        dress_rows(self.column.list, self.column.painter, look)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Give the findings their part of the bench."""
        self._make_room()
        super().resizeEvent(event)

    def _make_room(self) -> None:
        """Give the side its width; folded to its marks it shows no tables."""
        wide = self.column.width_in(self.width(), self.view_state.look.size)
        self._side.setFixedWidth(wide if self.column.is_folded else max(wide, min(SIDE_PX, self.width() * 2 // 5)))
        self._differs.setVisible(not self.column.is_folded)

    def _choose(self, finding: Finding) -> None:
        self._why = against_list((finding,))
        self._tell()

    def _tell(self) -> None:
        self.table.setText(self._text[0] + self._why + "".join(self._text[1:]) if self._text else "")

    def show_desk(self, desk: PartsDesk) -> None:
        """Work on ``desk`` from now on."""
        self.desk = desk
        self.refresh()
        self.fit()

    def lay(self, proposal: Job | None) -> None:
        """Lay the parts of ``proposal`` on the bench; ``None`` for the job's own."""
        if self.desk is not None:
            self.desk.proposal = proposal
            self.refresh()
            self.fit()

    def choose(self, kind: str) -> None:
        """Ask for a part of the library and lay it on the bench."""
        desk = self.desk
        if desk is None:
            return
        part = part_dialog.ask_part(self, desk.library, desk.part_now(kind), desk.lengths)
        if part is not None:
            desk.lay(kind, part.item)
            self.refresh()
            self.fit()

    def use_them(self) -> None:
        """Put the parts on the bench into the job, as one step."""
        if self.desk is not None:
            label, edits = self.desk.use()
            if edits:
                self.wanted.emit(label, edits)

    def refresh(self) -> None:
        """Show both sets as they stand."""
        desk = self.desk
        if desk is None:
            return
        came_off, over = self.above.currentText() == CAME_OFF, self.over.isChecked()
        state = (desk.study.job, desk.shown_job, came_off, over)
        if state == self._shown:
            return
        self._shown, laid, lengths = state, desk.comparison(came_off), desk.lengths
        alone = desk.proposal is None and not came_off  # nothing is laid below yet: the job's own parts once
        shown = (laid.above,) if alone else (laid.above, laid.below)
        blank = alone and not laid.above.is_measured
        drawing = desk.example_view() if blank else parts_view(shown, lengths, over and not alone)
        self.view.note = "Dashed: example only, not measured" if blank else ""
        self.view.show_drawing(drawing, {}, 1.0, lengths.units)
        if len(shown) != self._rows:
            self._rows = len(shown)
            self.fit()
        text = [
            tables.trial_head(laid.trial),
            tables.weights_table(*laid.weights, lengths),
            tables.price_line(laid.prices, self.currency),
            tables.differences_table(laid.above, laid.below, lengths),
        ]
        if alone:
            text = [tables.trial_head(laid.trial), f"<p>{LAY_ONE}</p>"]
        if not laid.noted:
            text.insert(1, "<p>Nothing is noted of what came off: open the Job panel and note it.</p>")
        self._text = text
        self.column.show_findings(laid.trial.findings, lengths.units)
        self._tell()
        self.use.setEnabled(bool(desk.use()[1]))

    def _laid_over(self) -> None:
        self.refresh()
        self.fit()

    def fit(self) -> None:
        """Show the whole bench."""
        show_whole((self.view,))

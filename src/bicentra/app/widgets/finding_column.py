"""The column of findings beside a drawing: its head, the list, and how it folds to the marks alone."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from bicentra.app.theme import Look
from bicentra.app.widgets.findings import FindingsModel
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.row import RowPainter, row_list
from bicentra.core.base.finding import Finding, counted_verdicts
from bicentra.core.base.quantities import Units

SHARE, LEAST_PX, MOST_PX, FOLDED_PX = 24, 232, 300, 58
"""Part of the bench that the column takes [%], its bounds, and how wide it is when only the marks are left [px]."""
FOLD, UNFOLD = "›", "‹"


def pane_width(bench_px: int, size: float) -> int:
    """Return how wide what stands beside the drawings of a bench is that is read in words [px]."""
    return min(max(bench_px * SHARE // 100, LEAST_PX), round(MOST_PX * size))


class FindingColumn(QWidget):
    """The findings, worst first. ``folded``: it was folded or opened again, and the drawings have another width.

    ``chosen`` carries the finding that is looked at, by the user or because it is the worst.
    ``entered``: Enter on it, which goes to what can be done.
    """

    folded = Signal()
    chosen = Signal(object)
    entered = Signal()

    def __init__(self, look: Look, name: str) -> None:
        super().__init__()
        self.setObjectName("desk")
        self.summary = plain_label()
        self.summary.setObjectName("head")
        self.summary.setWordWrap(True)
        self.model = FindingsModel()
        self.painter = RowPainter(self.model.row_at, look)
        self.list = row_list(self.model, self.painter, name)
        self.list.selectionModel().currentChanged.connect(self._choose)
        self.list.activated.connect(lambda _index: self.entered.emit())
        self._id = ""
        self.fold_button = QPushButton(FOLD)
        self.fold_button.setObjectName("fold")
        self.fold_button.setCheckable(True)
        self.fold_button.setFixedWidth(36)
        self.fold_button.toggled.connect(self._fold)
        head = QHBoxLayout()
        head.setSpacing(6)
        head.addWidget(self.summary, 1)
        head.addWidget(self.fold_button, 0, Qt.AlignmentFlag.AlignTop)
        self.tools = QHBoxLayout()
        self.tools.setSpacing(6)
        self._unfolded: tuple[QWidget, ...] = (self.summary,)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addLayout(head)
        column.addLayout(self.tools)
        column.addWidget(self.list, 1)
        self._name_fold()

    def show_findings(self, findings: tuple[Finding, ...], units: Units) -> None:
        """Show ``findings``; the chosen one stays chosen wherever it has moved to, the worst is at first."""
        self.model.show(findings, units)
        self.summary.setText(counted_verdicts(findings))
        row = max(self.model.row_of(self._id), 0)
        if self.list.currentIndex().row() != row:
            self.list.setCurrentIndex(self.model.index(row))
        self._choose()

    def _choose(self) -> None:
        row = self.list.currentIndex().row()
        if 0 <= row < len(self.model.findings):
            self._id = self.model.findings[row].id
            self.chosen.emit(self.model.findings[row])

    def add_tool(self, widget: QWidget) -> None:
        """Put ``widget`` between the head and the list, as long as the column is open."""
        self.tools.addWidget(widget)
        self._unfolded = (*self._unfolded, widget)

    @property
    def is_folded(self) -> bool:
        """Whether only the marks are left."""
        return self.fold_button.isChecked()

    def width_in(self, bench_px: int, size: float) -> int:
        """Return how wide the column is in a bench of ``bench_px`` [px]; ``size``: how large type is."""
        if self.is_folded:
            return round(FOLDED_PX * size)
        return pane_width(bench_px, size)

    def _fold(self, there: bool) -> None:
        for widget in self._unfolded:
            widget.setVisible(not there)
        self._name_fold()
        self.folded.emit()

    def _name_fold(self) -> None:
        folded = self.is_folded
        self.fold_button.setText(UNFOLD if folded else FOLD)
        what = "Show the findings in words" if folded else "Fold the findings to their marks"
        self.fold_button.setToolTip(what)
        self.fold_button.setAccessibleName(what)

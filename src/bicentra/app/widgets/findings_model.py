"""The findings as a list model and the painter of its rows: mark, title, value against limit."""

import math
from html import escape

from PySide6.QtCore import QAbstractListModel, QModelIndex, QPersistentModelIndex, QSize, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QStyledItemDelegate, QStyleOptionViewItem

from bicentra.app.theme import Look
from bicentra.app.widgets.row import ROW_PX, Row, paint_row
from bicentra.core.base.finding import Finding
from bicentra.core.base.quantities import Units, show_length

Index = QModelIndex | QPersistentModelIndex


def value_text(value: float, unit: str, units: Units) -> str:
    """Return a finding's value in the units shown; a dash when it is not known or without bound."""
    if not math.isfinite(value):
        return "–"
    if unit == "mm":
        return show_length(value, units, gap=True).replace("-", "−")
    if unit == "°" and abs(value) < 10 and value != round(value):
        return f"{value:.2f}°"  # a lean of a face, not a clock angle
    return f"{value:.0f}{unit}" if unit in ("°", "") else f"{value:.2f} {unit}"


def _reads_as(finding: Finding) -> tuple[object, ...]:
    """Return what a row shows of a finding; values that round alike read alike."""
    return finding.id, finding.verdict, f"{finding.value:.2f}", f"{finding.limit:.2f}"


class FindingsModel(QAbstractListModel):
    """The findings, worst first, as the solution gives them."""

    def __init__(self) -> None:
        super().__init__()
        self.findings: tuple[Finding, ...] = ()
        self.units: Units = "mm"

    def show(self, findings: tuple[Finding, ...], units: Units) -> None:
        """Show ``findings``; rows keep their places in the view when their number stays the same."""
        if len(findings) != len(self.findings):
            self.beginResetModel()
            self.findings, self.units = findings, units
            self.endResetModel()
            return
        before, same_units = self.findings, units == self.units
        self.findings, self.units = findings, units
        for row, (old, new) in enumerate(zip(before, findings)):
            if not (same_units and _reads_as(old) == _reads_as(new)):
                self.dataChanged.emit(self.index(row), self.index(row))

    def rowCount(self, parent: Index | None = None) -> int:
        """Return the number of findings."""
        return 0 if parent is not None and parent.isValid() else len(self.findings)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """Return the finding's title for display, and all of it in words for a screen reader."""
        finding = self.findings[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return finding.title
        said = f"{finding.verdict.word}: {finding.title}. {finding.why}"
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return said
        if role == Qt.ItemDataRole.ToolTipRole:
            return f"<p>{escape(said)}</p>"
        return None

    def row_of(self, id: str) -> int:
        """Return the row of the finding called ``id``; −1 when it is not there."""
        return next((row for row, finding in enumerate(self.findings) if finding.id == id), -1)


class FindingsPainter(QStyledItemDelegate):
    """Paints one row: the verdict's mark and word, the title, the value and its limit."""

    def __init__(self, model: FindingsModel, look: Look) -> None:
        super().__init__()
        self._model, self.look = model, look

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        """Return a row high enough for a thumb."""
        del option, index
        return QSize(200, ROW_PX)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        """Paint the row at ``index``."""
        finding, look = self._model.findings[index.row()], self.look
        row = Row(
            finding.verdict.value,
            finding.title,
            value_text(finding.value, finding.unit, self._model.units),
            _second_line(finding, self._model.units),
        )
        paint_row(painter, option, row, look)


def _second_line(finding: Finding, units: Units) -> str:
    limit = value_text(finding.limit, finding.unit, units)
    return finding.verdict.word + (f" · limit {limit}" if limit != "–" else "")

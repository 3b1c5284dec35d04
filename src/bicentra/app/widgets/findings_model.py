"""The findings as a list model: mark, title, value against limit."""

import math
from html import escape

from PySide6.QtCore import QAbstractListModel, Qt

from bicentra.app.widgets.row import Index, Row
from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.finding_text import shown_value
from bicentra.core.base.quantities import Units
from bicentra.core.base.registry import kind_of
from bicentra.core.parts.limits import CHANGED


def _reads_as(finding: Finding) -> tuple[object, ...]:
    """Return what a row shows of a finding; values that round alike read alike."""
    return finding.id, finding.verdict, f"{finding.value:.2f}", f"{finding.limit:.2f}"


def room_of(finding: Finding) -> float:
    """Return how far a finding's value is on the right side of its limit, in parts of the limit (of 1 where that is less)."""
    room = finding.value - finding.limit if finding.at_least else finding.limit - abs(finding.value)
    if kind_of(finding.id).worst_of:  # of several comparisons, each with a sense of its own: its verdict tells
        room = abs(room) if finding.verdict is Verdict.OK else -abs(room)
    return room / max(abs(finding.limit), 1.0) if math.isfinite(room) else math.nan


class FindingsModel(QAbstractListModel):
    """The findings, worst first, as the solution gives them."""

    def __init__(self) -> None:
        super().__init__()
        self.findings: tuple[Finding, ...] = ()
        self.units: Units = "mm"
        self.as_ladder = False

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

    def row_at(self, row: int) -> Row:
        """Return what stands in a row: the verdict's mark, the title, the value and its limit."""
        finding = self.findings[row]
        value, limit = shown_value(finding, self.units)
        second = finding.verdict.word + (f" · limit {limit}" if limit != "–" else "")
        if CHANGED in finding.why:
            second += ", changed by this job"
        return Row(finding.verdict.value, finding.title, value, second, room_of(finding) if self.as_ladder else None)

    def row_of(self, id: str) -> int:
        """Return the row of the finding called ``id``; −1 when it is not there."""
        return next((row for row, finding in enumerate(self.findings) if finding.id == id), -1)

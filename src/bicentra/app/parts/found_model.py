"""The sets found, best first, as a list model."""

from PySide6.QtCore import QAbstractListModel, Qt

from bicentra.app.widgets.row import Index, Row
from bicentra.core.base.numbers import is_known
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.search.run import FoundSet

MOST_ROWS = 400


class FoundModel(QAbstractListModel):
    """The best sets, or those whose names hold every word looked for."""

    def __init__(self) -> None:
        super().__init__()
        self.sets: tuple[FoundSet, ...] = ()
        self.lengths = LengthFormat("mm")

    def show(self, sets: tuple[FoundSet, ...], lengths: LengthFormat) -> None:
        """Show ``sets``."""
        self.beginResetModel()
        self.sets, self.lengths = sets[:MOST_ROWS], lengths
        self.endResetModel()

    def rowCount(self, parent: Index | None = None) -> int:
        """Return the number of sets shown."""
        return 0 if parent is not None and parent.isValid() else len(self.sets)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """Return a set in words."""
        found = self.sets[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return found.name
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return f"{found.verdict.word}: {found.name}. {second_line(found, self.lengths)}"
        if role == Qt.ItemDataRole.ToolTipRole:
            return found.name
        return None

    def row_at(self, row: int) -> Row:
        """Return what stands in a row: the verdict's mark, the rotor, the score, the rest below."""
        found = self.sets[row]
        score = f"{found.score:.2f}" if found.feasible else ""
        caliper, rest = f"+ {found.job.caliper.name}", second_line(found, self.lengths)
        text = f"{caliper} · {rest}" if found.feasible else f"{rest} · {caliper}"
        return Row(found.verdict.value, found.job.rotor.name, score, text)

    def row_of(self, found: FoundSet | None) -> int:
        """Return the row of ``found``; −1 when it is not there."""
        return next((row for row, here in enumerate(self.sets) if here is found), -1)


def named(decides: str) -> str:
    """Return what decides a set as it is called: the title of a finding, or what it says by itself."""
    try:
        return kind_of(decides).title
    except KeyError:
        return decides


def _stop_text(found: FoundSet, lengths: LengthFormat) -> str:
    if is_known(found.short):
        return f"short by {lengths.gap(found.short)}: “{named(found.decides)}”"
    return f"stopped by “{named(found.decides)}”"


def second_line(found: FoundSet, lengths: LengthFormat) -> str:
    """Return what a set comes to in one line."""
    fit = found.job.fit
    text = [f"{fit.clock_deg or 0:g}°"] if found.feasible else [_stop_text(found, lengths)]
    if found.feasible and found.decides:
        text.append("play in the bolt holes" if found.by_play else named(found.decides))
    if fit.rotor_spacer_mm:
        text.append(f"{lengths.size(fit.rotor_spacer_mm)} behind the rotor")
    text += [found.lies] if found.lies else []
    if is_known(found.thickness):
        text.append(f"{lengths.size(found.thickness)} thick")
    if is_known(found.tip_gap):
        text.append(f"tip gap {lengths.gap(found.tip_gap)}" if found.tip_gap >= 0 else "no tip gap")
    return " · ".join(text)

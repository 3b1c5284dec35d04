"""What stands beside the drawings of the pedal bench: findings, master cylinders, the pedal as it was, common mistakes."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from bicentra.app.theme import Look
from bicentra.app.widgets.basics import clear_layout, scrolled, select_tab, tab_row
from bicentra.app.widgets.finding_column import FindingColumn
from bicentra.app.widgets.plain import plain_label, tip
from bicentra.app.widgets.typed import TypedLine
from bicentra.core.base.finding import Verdict
from bicentra.core.base.numbers import is_known
from bicentra.study.desks.pedal import BASELINE, PedalDesk

PAGES = (("asked", "Findings"), ("masters", "Masters"), ("before", "Before"), ("claims", "Mistakes"))


class PedalSide(QWidget):
    """``turned``: another page is in front. ``master_wanted`` carries a master's name, ``baseline_given`` the name of a number."""

    turned = Signal()
    valve_wanted = Signal()
    master_wanted = Signal(str)
    baseline_given = Signal(str)

    def __init__(self, look: Look) -> None:
        super().__init__()
        self.setObjectName("desk")
        column, tabs = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        tabs.setSpacing(4)
        self.tabs = tab_row(tabs, PAGES, self.show_page)
        tabs.addStretch(1)
        column.addLayout(tabs)
        self.findings = FindingColumn(look, "Findings of the pedal")
        asked = QWidget()
        inside = QVBoxLayout(asked)
        inside.setContentsMargins(0, 0, 0, 0)
        inside.addWidget(self.findings, 1)
        self.valve_button = QPushButton("Add a valve that fixes this")
        self.valve_button.setToolTip("An adjustable valve with the calculated knee; above it the rear brakes less")
        self.valve_button.clicked.connect(self.valve_wanted)
        inside.addWidget(self.valve_button)
        masters, before, said = QFrame(), QFrame(), QFrame()
        for frame in (masters, before, said):
            frame.setObjectName("panelBody")
        self._masters, self._said = QVBoxLayout(masters), QVBoxLayout(said)
        self.baseline: dict[str, TypedLine] = {}
        self.changed_text = plain_label()
        self._build_before(QVBoxLayout(before))
        self.pages = [asked, scrolled(masters), scrolled(before), scrolled(said)]
        for page in self.pages:
            column.addWidget(page, 1)
        self.show_page("asked")

    def _build_before(self, column: QVBoxLayout) -> None:
        """The pedal as it was, number for number, and what the change has made of it."""
        words = plain_label("How the pedal was before anything was changed: you cannot measure it later.")
        words.setWordWrap(True)
        column.addWidget(words)
        for name, text in BASELINE.items():
            caption, field = plain_label(text[:1].upper() + text[1:]), TypedLine()
            caption.setBuddy(field)
            field.setAccessibleName(f"Before: {text}")
            field.editingFinished.connect(lambda name=name: self.baseline_given.emit(name))
            column.addWidget(caption)
            column.addWidget(field)
            self.baseline[name] = field
        self.changed_text.setWordWrap(True)
        column.addSpacing(10)
        column.addWidget(self.changed_text)
        column.addStretch(1)

    @property
    def is_asked(self) -> bool:
        """Whether the findings are in front."""
        return not self.pages[0].isHidden()

    def show_page(self, name: str) -> None:
        """Show findings, masters, the pedal as it was, or what is often said."""
        select_tab(self.tabs, name)
        for page, (key, _) in zip(self.pages, PAGES):
            page.setVisible(key == name)
        self.turned.emit()

    @property
    def tabs_px(self) -> int:
        """How wide the row of its tabs is [px]."""
        return sum(tab.sizeHint().width() + 4 for tab in self.tabs.values())

    def fold(self, there: bool) -> None:
        """Hide the other pages' tabs while only the marks of the findings are left."""
        for tab in self.tabs.values():
            tab.setVisible(not there)
        self.valve_button.setMaximumWidth(0 if there else 16777215)

    def show_desk(self, desk: PedalDesk, hot: bool) -> None:
        """Show what ``desk`` knows; ``hot``: temperatures are in front, and no valve is on offer."""
        order = next((f for f in desk.work.findings if f.id.endswith("order")), None)
        self.valve_button.setVisible(
            order is not None and order.verdict is Verdict.STOP and is_known(desk.work.knee) and not hot
        )
        self._show_masters(desk)
        self._show_claims(desk)
        self.changed_text.setText("\n\n".join(desk.changed_text))
        for name, field in self.baseline.items():
            field.show_text(desk.baseline_text(name))

    def _show_masters(self, desk: PedalDesk) -> None:
        clear_layout(self._masters)
        for one in desk.work.masters:
            button = QPushButton(f"{one.verdict.word}: {one.name}{' (fitted)' if one.own else ''}")
            button.setToolTip(tip(one.why))
            button.setEnabled(not one.own)
            button.clicked.connect(lambda _checked=False, name=one.name: self.master_wanted.emit(name))
            self._masters.addWidget(button)
            line = plain_label(one.why)
            line.setObjectName("faint")
            line.setWordWrap(True)
            self._masters.addWidget(line)
        self._masters.addStretch(1)

    def _show_claims(self, desk: PedalDesk) -> None:
        """Put what is often said beside what is so on this vehicle."""
        clear_layout(self._said)
        for misconception in desk.misconceptions:
            for text, name in ((f"“{misconception.said}”", "head"), (misconception.text, "")):
                line = plain_label(text)
                line.setObjectName(name)
                line.setWordWrap(True)
                self._said.addWidget(line)
            self._said.addSpacing(8)
        self._said.addStretch(1)

"""The card of the present move: which bolt, which shims, what it leads to and what it leaves every bolt."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QToolButton, QVBoxLayout

from bicentra.app.widgets.clearing import clear_layout
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.numbers import is_known
from bicentra.core.base.wording import LengthFormat
from bicentra.core.trialfit.bolts import BoltAfter
from bicentra.core.trialfit.fit import Move
from bicentra.study.desks.trialfit import TrialDesk


class MoveCard(QFrame):
    """``done``: the move has been carried out at the car. ``turned``: look at the next plan, or the one before."""

    done = Signal()
    turned = Signal(int)
    put_back = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("card")
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 8, 10, 8)
        column.setSpacing(4)
        head = QHBoxLayout()
        self.head = plain_label("The next move")
        self.head.setObjectName("group")
        head.addWidget(self.head, 1)
        self.before, self.after = QToolButton(), QToolButton()
        for button, text, step, name in (
            (self.before, "‹", -1, "The plan before"),
            (self.after, "›", 1, "The next plan"),
        ):
            button.setText(text)
            button.setAccessibleName(name)
            button.setToolTip(name)
            button.clicked.connect(lambda _checked=False, step=step: self.turned.emit(step))
            head.addWidget(button)
        column.addLayout(head)
        self._lines = QVBoxLayout()
        self._lines.setSpacing(3)
        column.addLayout(self._lines)
        row = QHBoxLayout()
        self.do_button = QPushButton("Done: read again")
        self.do_button.setObjectName("primary")
        self.do_button.setToolTip("A new trial with these shims in place; its gaps are read anew")
        self.do_button.clicked.connect(self.done)
        self.back_button = QPushButton("Put back")
        self.back_button.setToolTip("Leaves the shims as they are; nothing has been touched yet")
        self.back_button.clicked.connect(self.put_back)
        row.addWidget(self.do_button, 1)
        row.addWidget(self.back_button)
        column.addLayout(row)

    def show_desk(self, desk: TrialDesk) -> None:
        """Show what to do now with the trial of ``desk``."""
        clear_layout(self._lines)
        fit, move, lengths = desk.fit, desk.move, desk.lengths
        wished = desk.wish is not None
        many = len(fit.moves) if fit is not None else 0
        counted = f"The next move, {desk.place % many + 1} of {many}" if many else "The next move"
        self.head.setText("Thought of" if wished else counted)
        for button in (self.before, self.after):
            button.setVisible(many > 1 and not wished)
        self.back_button.setVisible(wished)
        self.do_button.setVisible(move is not None and desk.is_last and move.holds and (wished or not move.stays))
        if fit is None:
            self._say("No trial yet: put it on dry, bolts tight, rotor held by its nuts, then begin a trial below.")
        elif move is not None:
            self._show_move(move, lengths)
        elif not is_known(fit.pose.offset.value, fit.pose.tilt.value):
            self._say(
                "Type the gaps on the drawing, where they are read: 0.85, or >1.2 <1.5 for what goes in and what does not."
            )
        else:
            self._say("No shims that lie ready bring it within limits.", "head")
            for one in fit.otherwise[:4]:
                self._say(f"• {one.action}", tip="; ".join(one.side_effects))
        if fit is not None and not wished:
            for told in fit.senses[:1] if not fit.settled else ():
                self._say(told, "faint")

    def _show_move(self, move: Move, lengths: LengthFormat) -> None:
        if move.stays:
            self._say("Leave the shims as they are.", "head")
        for step in move.steps:
            self._say(step, "head")
        plan = move.plan
        if is_known(plan.radial):
            way = "away from" if plan.radial >= 0 else "nearer to"
            self._say(f"Then {lengths.gap(plan.radial)} {way} the axle than planned, {plan.pieces} shims in all.")
        elif is_known(plan.offset, plan.tilt):
            side = "outboard" if plan.offset >= 0 else "inboard"
            self._say(f"Then {lengths.gap(plan.offset)} {side}, tilt {plan.tilt:+.2f}°, {plan.pieces} shims in all.")
        for bolt in move.bolts:
            if bolt.touched:
                self._say(_bolt_told(bolt, lengths), "" if bolt.holds else "wrong")

    def _say(self, text: str, name: str = "", tip: str = "") -> None:
        line = plain_label(text)
        line.setObjectName(name)
        line.setWordWrap(True)
        line.setTextInteractionFlags(Qt.TextInteractionFlag.NoTextInteraction)
        line.setToolTip(tip)
        self._lines.addWidget(line)

    @property
    def told(self) -> str:
        """Everything the card says, for tests and screen readers."""
        items = (self._lines.itemAt(row) for row in range(self._lines.count()))
        widgets = (item.widget() for item in items if item is not None)
        return "\n".join([self.head.text(), *(line.text() for line in widgets if isinstance(line, QLabel))])


def _bolt_told(bolt: BoltAfter, lengths: LengthFormat) -> str:
    """Return what a bolt is left with."""
    if not is_known(bolt.engagement):
        return f"{bolt.name[:1].upper()}{bolt.name[1:]}: not known, a shim or a size is missing"
    short = "" if bolt.holds else f", {lengths.size(bolt.least)} needed"
    tip = (
        f", tip {lengths.gap(bolt.tip_gap)} {'off' if bolt.tip_gap >= 0 else 'into'} the rotor"
        if is_known(bolt.tip_gap)
        else ""
    )
    return f"{bolt.name[:1].upper()}{bolt.name[1:]}: {lengths.size(bolt.engagement)} of thread{short}{tip}"

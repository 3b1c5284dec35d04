"""The card of the next shims: which bolt, which shims, what it leads to; or what is to be read again first."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QToolButton, QVBoxLayout

from bicentra.app.widgets.basics import clear_layout
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.numbers import is_known
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.trial import GAP_NAMES, GAPS
from bicentra.core.trialfit.bolts import BoltAfter
from bicentra.core.trialfit.fit import Move, TrialFit
from bicentra.core.trialfit.log import CornerState
from bicentra.study.desks.trialfit import TrialDesk

AGAIN, KEEP = "again", "keep"


class MoveCard(QFrame):
    """``done``: the shims are in. ``turned``: look at the next plan, or the one before.

    ``asked``: a gap is to be read again, by its key path; ``AGAIN``: all four; ``KEEP``: they were read as it is set up now.
    """

    done = Signal()
    asked = Signal(str)
    turned = Signal(int)
    put_back = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("card")
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 8, 10, 8)
        column.setSpacing(4)
        head = QHBoxLayout()
        self.head = plain_label("Next shims")
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
        self.do_button.setToolTip("A new trial with these shims in place; its gaps are read again")
        self.do_button.clicked.connect(self.done)
        self.back_button = QPushButton("Put back")
        self.back_button.setToolTip("Keeps the shims as they are")
        self.back_button.clicked.connect(self.put_back)
        row.addWidget(self.do_button, 1)
        row.addWidget(self.back_button)
        column.addLayout(row)
        self._gap = ""
        self.gap_button = QPushButton()
        self.gap_button.setObjectName("primary")
        self.gap_button.clicked.connect(lambda: self.asked.emit(self._gap))
        self.again_button = QPushButton("Read all four again")
        self.again_button.setToolTip("Empties the four gaps of this trial; undo brings them back")
        self.again_button.clicked.connect(lambda: self.asked.emit(AGAIN))
        self.keep_button = QPushButton("They were read like this")
        self.keep_button.setToolTip("Nothing was changed on the car, only the note")
        self.keep_button.clicked.connect(lambda: self.asked.emit(KEEP))
        for asking in (self.gap_button, self.again_button, self.keep_button):
            column.addWidget(asking)

    def show_desk(self, desk: TrialDesk) -> None:
        """Show what to do now with the trial of ``desk``: only what to read again, while its readings do not count."""
        clear_layout(self._lines)
        fit, move = desk.fit, desk.move
        old = old_text(desk)
        doubted = fit is not None and (fit.doubted or bool(old))
        previewed = desk.preview is not None and not doubted
        many = len(fit.moves) if fit is not None else 0
        counted = f"Next shims, {desk.place % many + 1} of {many}" if many else "Next shims"
        self.head.setText("Read again" if doubted else "Trying out" if previewed else counted)
        for button in (self.before, self.after):
            button.setVisible(many > 1 and not previewed and not doubted)
        self.back_button.setVisible(previewed)
        self.do_button.setVisible(
            move is not None and not doubted and desk.is_last and move.holds and (previewed or not move.stays)
        )
        self._show_again(desk, doubted, bool(old))
        if fit is None:
            self._say("No trial yet: put it on dry, bolts tight, rotor held by its nuts, then begin a trial below.")
        elif doubted:
            for text in (*old, *(one.text for one in fit.pose.against)):
                self._say(text)
        elif fit.standing.state is CornerState.LOCKED:
            self._say("Locked: this corner is done.", "head")
        else:
            self._show_answer(desk, fit, move)

    def _show_answer(self, desk: TrialDesk, fit: TrialFit, move: Move | None) -> None:
        """Show the shims that are advised, or what else can be done, with which way shims act at that place."""
        if move is not None:
            self._show_move(move, desk.lengths)
        elif not is_known(fit.pose.offset.value, fit.pose.tilt.value):
            typed = "Type the gaps on the drawing, where they are read: 0.85, or >1.2 <1.5 for what goes in and what does not."
            practised = desk.study.job.practice_run is not None
            self._say("Click the gaps on the drawing to read them, or let Do it read the next." if practised else typed)
        else:
            self._say("No shims that lie ready bring it within limits.", "head")
            for one in fit.alternatives[:4]:
                self._say(f"• {one.action}", tip="; ".join(one.side_effects))
        if desk.preview is None and not fit.settled:
            sense = fit.sense_at(move.plan.place) if move is not None else "".join(fit.senses[:1])
            if sense:
                self._say(sense, "faint")

    def _show_again(self, desk: TrialDesk, doubted: bool, old: bool) -> None:
        """Show the buttons that ask for readings again."""
        shown = doubted and desk.is_last and desk.trial is not None and not desk.trial.locked
        name = next((name for name in (desk.fit.pose.doubted if desk.fit is not None else ()) if name in GAP_NAMES), "")
        self._gap = desk.path_of(name) if name else ""
        self.gap_button.setText(f"Read again: {GAP_NAMES.get(name, '')}")
        self.gap_button.setVisible(shown and bool(name) and not old)
        self.again_button.setVisible(shown)
        self.keep_button.setVisible(shown and old)

    def _show_move(self, move: Move, lengths: LengthFormat) -> None:
        if move.stays:
            self._say("Leave the shims as they are.", "head")
        for step in move.steps:
            self._say(step, "head")
        plan = move.plan
        if is_known(plan.radial):
            way = "away from" if plan.radial >= 0 else "nearer to"
            self._say(f"Then {lengths.gap(plan.radial)} {way} the axle than planned, {_pieces(plan.pieces)}.")
        elif is_known(plan.offset, plan.tilt):
            side = "outboard" if plan.offset >= 0 else "inboard"
            many = "" if move.stays else f", {_pieces(plan.pieces)}"
            self._say(
                f"{'It sits' if move.stays else 'Then'} {lengths.gap(plan.offset)} {side}, tilt {plan.tilt:+.2f}°{many}."
            )
        for bolt in move.bolts:
            if bolt.touched:
                self._say(_bolt_text(bolt, lengths), "" if bolt.holds else "wrong")

    def _say(self, text: str, name: str = "", tip: str = "") -> None:
        line = plain_label(text)
        line.setObjectName(name)
        line.setWordWrap(True)
        line.setTextInteractionFlags(Qt.TextInteractionFlag.NoTextInteraction)
        line.setToolTip(tip)
        self._lines.addWidget(line)

    @property
    def text(self) -> str:
        """Everything the card says, for tests and screen readers."""
        items = (self._lines.itemAt(row) for row in range(self._lines.count()))
        widgets = (item.widget() for item in items if item is not None)
        return "\n".join([self.head.text(), *(line.text() for line in widgets if isinstance(line, QLabel))])


def _pieces(many: int) -> str:
    return "no shims left there" if not many else "1 shim" if many == 1 else f"{many} shims"


def old_text(desk: TrialDesk) -> tuple[str, ...]:
    """Return which gaps of the trial that is shown are from before something was changed, and what that was, a line each."""
    found = dict[str, list[str]]()
    for name in GAPS:
        before = desk.before_text(name)
        if before:
            found.setdefault(before, []).append(GAP_NAMES[name])
    return tuple(
        f"{before[:1].upper()}{before[1:]}: {'all four gaps' if len(names) == len(GAPS) else ' and '.join(names)} read before that."
        for before, names in found.items()
    )


def _bolt_text(bolt: BoltAfter, lengths: LengthFormat) -> str:
    """Return what a bolt is left with."""
    if not is_known(bolt.engagement):
        return f"{bolt.name[:1].upper()}{bolt.name[1:]}: unknown, a shim or a size is missing"
    short = "" if bolt.holds else f", {lengths.size(bolt.least)} needed"
    tip = (
        f", tip {lengths.gap(bolt.tip_gap)} {'off' if bolt.tip_gap >= 0 else 'into'} the rotor"
        if is_known(bolt.tip_gap)
        else ""
    )
    return f"{bolt.name[:1].upper()}{bolt.name[1:]}: {lengths.size(bolt.engagement)} of thread{short}{tip}"

"""Plans that put remedies together: looked at in the drawings first, then accepted or left."""

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QCheckBox, QFrame, QHBoxLayout, QLabel, QProgressBar, QPushButton, QVBoxLayout

from bicentra.app import workers
from bicentra.app.lineup.side_pane import SidePane
from bicentra.app.widgets.basics import clear_layout
from bicentra.app.widgets.findings import CUT_CAUTION
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.finding import Finding, Verdict
from bicentra.study.desks.lineup import LineupDesk

if TYPE_CHECKING:
    from bicentra.core.search.planner import RemedyPlan


class PlanCard(QFrame):
    """One plan: its steps, what it costs, what is left."""

    looked = Signal(object)
    accepted = Signal(object)

    def __init__(self, number: int, plan: "RemedyPlan", left: tuple[Finding, ...]) -> None:
        super().__init__()
        self.plan = plan
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 6, 0, 6)
        column.setSpacing(2)
        head = plain_label(f"{number}. {plan_summary(plan)}")
        head.setObjectName("group")
        column.addWidget(head)
        for text in (*(f"• {step.action}" for step in plan.steps), *plan_notes(plan, left)):
            line = plain_label(text)
            line.setTextFormat(Qt.TextFormat.PlainText)
            line.setObjectName("" if text.startswith("•") else "faint")
            column.addWidget(line)
        for label in self.findChildren(QLabel):
            label.setWordWrap(True)
        row = QHBoxLayout()
        self.look = QPushButton("Look at it")
        self.look.setToolTip("Previews the drawings; nothing is accepted yet")
        self.look.setCheckable(True)
        self.look.clicked.connect(lambda: self.looked.emit(plan))
        accept = QPushButton("Accept")
        accept.setObjectName("primary")
        accept.setAccessibleName(f"Accept plan {number}")
        accept.clicked.connect(lambda: self.accepted.emit(plan))
        row.addWidget(self.look)
        row.addWidget(accept)
        row.addStretch(1)
        column.addLayout(row)


def plan_summary(plan: "RemedyPlan") -> str:
    """Return what a plan asks for in a few words."""
    text = ["reversible" if plan.reversible else "cuts metal, permanent"]
    for number, word in ((plan.made, "made"), (plan.bought, "bought")):
        if number:
            text.append(f"{number} part{'s' if number > 1 else ''} {word}")
    text.append(f"{len(plan.steps)} step{'s' if len(plan.steps) > 1 else ''}")
    return ", ".join(text)


def plan_notes(plan: "RemedyPlan", findings: tuple[Finding, ...]) -> tuple[str, ...]:
    """Return the side effects of a plan, what becomes a caution with it, and what of its ``findings`` it leaves."""
    side = dict.fromkeys(effect for step in plan.steps for effect in step.side_effects)
    counts = [(v, sum(f.verdict is v for f in findings)) for v in (Verdict.STOP, Verdict.UNKNOWN, Verdict.CAUTION)]
    left = ", ".join(verdict.counted(many) for verdict, many in counts if many) or "everything OK"
    text = ["Side effects: " + "; ".join(side)] if side else []
    text += [f"Becomes a caution: {', '.join(plan.worse)}"] if plan.worse else []
    text += ["By hand, then measure again: " + ", ".join(plan.by_hand)] if plan.by_hand else []
    text += [] if plan.reversible else [CUT_CAUTION]
    return (*text, f"Remaining: {left}")


class PlannerPane(SidePane):
    """Finds plans in a thread and offers them. ``looked`` carries a plan or nothing, ``accepted`` a plan."""

    looked = Signal(object)
    accepted = Signal(object)

    def __init__(self) -> None:
        everything, bar = QCheckBox("also fix the cautions"), QProgressBar()
        super().__init__("Plans", "Plans, cheapest first", (everything, bar))
        self.everything, self.bar = everything, bar
        self.everything.toggled.connect(self.find_plans)
        self.bar.setRange(0, 100)
        self._task: workers.Task | None = None
        self._desk: LineupDesk | None = None
        self._request = 0
        self.cards: list[PlanCard] = []

    def open_for(self, desk: LineupDesk) -> None:
        """Find plans for the job on ``desk``."""
        self._desk = desk
        self.find_plans()

    def find_plans(self) -> None:
        """Look for combinations of remedies that clear everything asked for."""
        if self._desk is None:
            return
        self.stop()
        self.looked.emit(None)
        self._show(())
        self.state.setText("Combining remedies, each combination solved …")
        self.bar.setValue(0)
        self.bar.show()
        self._request += 1
        number = self._request
        look = self._desk.plans(self.everything.isChecked())
        task = workers.Task("Plans", lambda running: (number, look(running.report)))
        task.signals.progressed.connect(self._progressed)
        task.signals.finished.connect(self._found)
        task.signals.failed.connect(self.failed)
        self._task = task
        workers.start(task)

    def stop(self) -> None:
        """Stop looking."""
        if self._task is not None:
            self._task.cancel()
            self._task = None
            self._request += 1

    def close_it(self) -> None:
        """Leave the plans; nothing is taken."""
        self.stop()
        self.looked.emit(None)
        self.closed.emit()

    def _progressed(self, done: float, _text: str) -> None:
        self.bar.setValue(int(done * 100))

    def _found(self, answer: "tuple[int, tuple[RemedyPlan, ...]]") -> None:
        number, plans = answer
        if number != self._request:  # an answer to an older question
            return
        self._task = None
        self.bar.hide()
        self._show(plans)
        open_ones = (
            any(finding.verdict is Verdict.STOP for finding in self._desk.solution.findings) if self._desk else False
        )
        if plans and plans[0].left:
            text = f"No combination fixes everything. This one comes closest; remaining: {', '.join(plans[0].left)}. "
            text += "Those need other parts: see the Parts bench."
        elif plans:
            text = "Cheapest first: reversible, then fewest parts, then fewest side effects."
        elif open_ones:
            text = "No remedy fixes any of it: other parts are needed. See the Parts bench."
        else:
            text = "Nothing to fix."
        self.state.setText(text)

    def _show(self, plans: "tuple[RemedyPlan, ...]") -> None:
        clear_layout(self._list)
        left = [self._desk.left_by(plan) if self._desk is not None else () for plan in plans]
        self.cards = [PlanCard(number, plan, those) for number, (plan, those) in enumerate(zip(plans, left), 1)]
        for card in self.cards:
            card.looked.connect(self._look)
            card.accepted.connect(self.accepted)
            self._list.addWidget(card)
        self._list.addStretch(1)

    def _look(self, plan: "RemedyPlan") -> None:
        """Show the plan that was pressed, or nothing when it is pressed again."""
        shown = next((card for card in self.cards if card.plan is plan), None)
        for card in self.cards:
            if card is not shown:
                card.look.setChecked(False)
        self.looked.emit(plan if shown is not None and shown.look.isChecked() else None)

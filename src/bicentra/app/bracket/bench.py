"""The bracket bench: every kind in one table; the chosen one drawn with its work, its bolts in their stacks, or in space."""

import math
from html import escape

from PySide6.QtCore import QSettings, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QHBoxLayout,
    QPushButton,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.bracket.kinds import KindRow, KindsTable
from bicentra.app.bracket.scene_view import SceneView
from bicentra.app.bracket.shaper import Shaper
from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawn_bench import DrawnBench
from bicentra.app.theme import Look
from bicentra.app.widgets.basics import menu_button, scrolled, select_tab, tab_row
from bicentra.app.widgets.plain import plain_label
from bicentra.app.widgets.rich_text import against_list, row
from bicentra.core.base.finding import Verdict
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.space.scene import solid_scene
from bicentra.core.drawing.space.wheel import with_wheel
from bicentra.core.drawing.views.joint import joint_view
from bicentra.core.drawing.views.made import NOTHING, made_view
from bicentra.core.evaluation.bracket_evaluation import BracketEvaluation
from bicentra.study.desks.bracket import STATES, BracketDesk, metals_text, numbers_text
from bicentra.study.desks.shaping import standing_at
from bicentra.study.document.study import Study

SIDE_PX = (210, 330)
PAGES = (("kinds", "All kinds"), ("part", "The part"), ("bolts", "Its bolts"), ("space", "In space"))


class BracketBench(DrawnBench):
    """Changes go to the study; ``refused`` carries a message when one is not taken."""

    def __init__(self, look: Look, settings: QSettings) -> None:
        super().__init__(look, settings)
        self.desk: BracketDesk | None = None
        self.options_table = KindsTable(look)
        self.options_table.picked.connect(self.choose)
        self.options_table.opened.connect(lambda: self.show_page("part"))
        self.view = DrawingView("The part to be made", self.view_state, {})
        self.view.margins = True
        self.view.fit_wanted.connect(self.fit)
        self.view.opened.connect(lambda _tag: self.sheet_wanted.emit("bracket"))
        self.shaper = Shaper(self)
        self.shaper.refused.connect(self.refused)
        self.shaper.message.connect(self.message)
        self.view.dragged.connect(self.shaper.drag)
        self.view.released.connect(self.shaper.release)
        self.view.released.connect(self.refresh)
        self.view.typed_over.connect(self.shaper.type_over)
        self.view.cancelled.connect(self.shaper.cancel)
        self.drawings = (self.view,)
        self.text = plain_label()
        self.text.setTextFormat(Qt.TextFormat.RichText)
        self.text.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.text.setWordWrap(True)
        self.text.setMargin(10)
        self.text.setObjectName("panelBody")
        self._side = scrolled(self.text)
        self._side.setFixedWidth(SIDE_PX[1])
        self._side.setAccessibleName("For and against")
        column, below = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        for layout in (column, below):
            layout.setSpacing(6)
        self.space = SceneView(look)
        self.dressed = (self.space, self.options_table)
        self.space.hide()
        for page in (self.options_table, self.view, self.space):
            below.addWidget(page, 1)
        below.addWidget(self._side)
        column.addLayout(self._tools())
        column.addLayout(below, 1)

    def _tools(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(6)
        self.tabs = tab_row(line, PAGES, self.show_page)
        select_tab(self.tabs, "part")
        self.state = QComboBox()
        self.state.addItems(list(STATES))
        self.state.setAccessibleName("State of the threads")
        self.state.setToolTip(
            "The same torque clamps harder on a slippery thread: torques of different states are never compared"
        )
        self.state.currentTextChanged.connect(self._show)
        self._state_label = plain_label("threads")
        line.addWidget(self._state_label)
        line.addWidget(self.state)
        self.pull = QSlider(Qt.Orientation.Horizontal)
        self.pull.setRange(0, 100)
        self.pull.setFixedWidth(160)
        self.pull.setAccessibleName("Pull apart")
        self.pull.setToolTip("Pulls the parts apart along the axle")
        self.pull.valueChanged.connect(lambda value: self.space.pull(float(value)))
        self.cut = QCheckBox("cut through the ear bolts")
        self.cut.toggled.connect(self.space.cut)
        self.wheel = QCheckBox("wheel and studs")
        self.wheel.toggled.connect(self._show)
        for widget in (self.pull, self.cut, self.wheel):
            widget.hide()
            line.addWidget(widget)
        self.lighten_button = QPushButton("Lighten…")
        self.lighten_button.setToolTip(
            "Cuts round holes until the plate weighs what you ask, with metal to spare beside each"
        )
        self.lighten_button.clicked.connect(self.shaper.lighten)
        self.add_button = menu_button(
            "Add", "Cuts a hole or a slot, sets a dowel, chamfers the edges", self.shaper.fill_adding
        )
        self.away_button = menu_button("Remove", "Removes what shapes the plate", self.shaper.fill_taking)
        for button in (self.lighten_button, self.add_button, self.away_button):
            line.addWidget(button)
        line.addStretch(1)
        self.take_button = QPushButton("Use this kind")
        self.take_button.setObjectName("primary")
        self.take_button.clicked.connect(self.take)
        line.addWidget(self.take_button)
        return line

    @property
    def bolting(self) -> bool:
        """Whether the bolts are shown."""
        return self.tabs["bolts"].isChecked()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Give the words about a third of the bench, within bounds."""
        self._side.setFixedWidth(min(max(self.width() * 29 // 100, SIDE_PX[0]), SIDE_PX[1]))
        super().resizeEvent(event)

    def show_page(self, name: str) -> None:
        """Show all kinds, the part, its bolts, or everything in space."""
        select_tab(self.tabs, name)
        self._show()
        self.fit()

    @property
    def study(self) -> Study | None:
        """The study worked on."""
        return self.desk.study if self.desk is not None else None

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on."""
        self.desk, self.shaper.study = BracketDesk(study), study
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Propose every family for the study as it stands; while something is pulled, follow that alone."""
        desk = self.desk
        if desk is None or desk.current:
            return
        if self.view.pulling:
            desk.job_changed()
            self._show()
            return
        desk.refresh()
        self.options_table.show_kinds(desk.options, desk.own, desk.study.job.lengths, desk.study.job.is_left)
        self._show()
        if self.view_state.fitted:
            self.fit()
        self.changed.emit()

    @property
    def cards(self) -> list[KindRow]:
        """The rows of the kinds that are drawn."""
        return self.options_table.rows

    def choose(self, proposal: BracketEvaluation) -> None:
        """Show a family; nothing is taken yet."""
        if self.desk is not None:
            self.desk.chosen = proposal
        self._show()
        self.fit()
        self.changed.emit()

    def _show(self) -> None:
        desk, one = self.desk, self.desk.chosen if self.desk is not None else None
        if desk is None or one is None:
            return
        if not self.view.pulling:
            self.options_table.mark(one)
        listed, spaced = self.tabs["kinds"].isChecked(), self.tabs["space"].isChecked()
        shaped = self.tabs["part"].isChecked() and desk.shaped
        shown: list[tuple[QWidget, bool]] = [(self.state, self.bolting), (self._state_label, self.bolting)]
        shown += [(button, shaped) for button in (self.lighten_button, self.add_button, self.away_button)]
        shown += [(widget, spaced) for widget in (self.pull, self.cut, self.wheel, self.space)]
        shown += [
            (self.options_table, listed),
            (self._side, listed or self.bolting),
            (self.view, not spaced and not listed),
        ]
        for widget, there in shown:
            widget.setVisible(there)
        lengths = desk.study.job.lengths
        if spaced:
            solution = desk.shown_solution(desk.study.solution)
            scene = solid_scene(solution)
            self.space.show_scene(with_wheel(scene, solution) if self.wheel.isChecked() else scene)
        if self.bolting:
            self._show_bolts(desk, lengths)
        else:
            self._show_part(desk, one, lengths, shaped)
        self.take_button.setEnabled(desk.can_take)
        self.take_button.setText("In use ✓" if one is desk.own else desk.taking)

    def _show_bolts(self, desk: BracketDesk, lengths: LengthFormat) -> None:
        self.view.title = "Bolts in their stacks, from head to tip"
        assembly = desk.shown_solution(desk.study.solution).assembly
        self.view.show_drawing(joint_view(assembly, lengths, desk.chosen is desk.own), {}, 1.0, lengths.units)
        self.text.setText(bolts_text(desk, self.state.currentText(), lengths))

    def _show_part(self, desk: BracketDesk, one: BracketEvaluation, lengths: LengthFormat, shaped: bool) -> None:
        job = desk.study.job
        id, room = one.margin
        least = f" · {'least room' if room >= 0 else 'short by'} {lengths.gap(room)}" if id else ""
        mass = f", {lengths.mass(one.bracket.mass_kg)}" if math.isfinite(one.bracket.mass_kg) else ""
        self.view.title = (
            f"{one.title}: {lengths.stock(one.bracket.thickness)}{mass}{least} · from outboard, and its edge"
        )
        blank = not one.bracket.shown
        work = desk.work() if shaped else NOTHING
        drawing = desk.example_view() if blank else made_view(one.bracket, lengths, job.is_left, work)
        self.view.note = "Dashed: example only, not measured" if blank else ""
        values = {handle.path: standing_at(job, handle.path) for handle in drawing.handles}
        self.shaper.paths = tuple(values)
        self.view.show_drawing(drawing, values, -1.0 if job.is_left else 1.0, lengths.units)
        other = desk.other_side() if one is desk.own and not self.view.pulling else ""
        self.text.setText(
            evaluation_html(one, lengths) + (f"<p><b>The other side</b></p><p>{escape(other)}</p>" if other else "")
        )

    def take(self) -> None:
        """Take the family shown into the job, as one step."""
        desk = self.desk
        if desk is not None and desk.chosen is not None:
            title = desk.chosen.title
            if self.shaper.change(desk.taking, desk.take_edits()):
                self.message.emit(f"In use: {title}. The line-up findings now apply to it.")

    def is_pulled(self) -> bool:
        """Whether a handle of the plate is being pulled."""
        return self.view.pulling

    def fit(self) -> None:
        """Show the whole drawing."""
        super().fit()
        self.space.fit()

    def next_sentence(self) -> str:
        """Return what to do next here."""
        return self.desk.next_sentence() if self.desk is not None else ""

    def do_next(self) -> None:
        """Do what the sentence says."""
        desk = self.desk
        if self.take_button.isEnabled():
            self.take()
        elif desk is not None and desk.own_is_worse and desk.best is not None:
            self.choose(desk.best)
        else:
            self.bench_wanted.emit("lineup")

    def take_focus(self) -> None:
        """Give the keyboard to the drawing, or to the first kind where the table is shown."""
        if self.tabs["kinds"].isChecked() and self.cards:
            self.cards[0].setFocus()
        else:
            self.view.setFocus()


def bolts_text(desk: BracketDesk, state: str, lengths: LengthFormat) -> str:
    """Return what is to be known of the bolts with threads in ``state``: torque, locking, stripping, room behind their heads."""

    def lines(texts: tuple[str, ...]) -> str:
        return "".join(f"<p style='margin:3px 0'>{escape(text)}</p>" for text in texts)

    torques = "".join(f"<p><b>{escape(name)}</b>: {escape(text)}.</p>" for name, text in desk.torques(state))
    note = (
        "<p>Aimed at three quarters of the proof load; the band is what the friction of this state gives. The maker's torque "
        "goes first. One bolt at a time, marked, and checked again after the first drive.</p>"
    )
    holds = desk.against_stripping(lengths)
    threads = f"<p><b>Against stripping</b></p>{lines(holds)}" if holds else ""
    heads = f"<p><b>Behind the heads</b></p>{lines(desk.behind_the_heads())}"
    return f"{torques}{note}<p>{escape(desk.lock_text(state))}</p>{threads}{heads}"


def evaluation_html(one: BracketEvaluation, lengths: LengthFormat) -> str:
    """Return a family in words: why, its solved numbers, its findings, its parts."""
    numbers = "".join(row(*number) for number in numbers_text(one, lengths))
    parts = "".join(
        row(f"{part.count} × {part.name}", lengths.mass(part.mass_kg), part.material or "material not stated")
        for part in one.bracket.parts
    )
    against = against_list(tuple(f for f in one.findings if f.verdict is not Verdict.OK))
    metals = "".join(f"<p>{escape(text)}</p>" for text in metals_text(one))
    return f"<p>{escape(one.why)}</p>{against}<table>{numbers}</table><p><b>To be made</b></p><table>{parts}</table>{metals}"

"""The bracket bench: families side by side above; below, the chosen one drawn with its work, or the bolts in their stacks."""

from dataclasses import replace
from html import escape

from PySide6.QtCore import Qt, Signal
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

from bicentra.app.bracket.cards import CARD_PX, PICTURE_PX, FamilyCard, common_scale
from bicentra.app.bracket.scene_view import SceneView
from bicentra.app.bracket.shaper import Shaper
from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.parts.tables import against_list, row
from bicentra.app.theme import Look
from bicentra.app.widgets.clearing import clear_layout
from bicentra.app.widgets.menus import menu_button
from bicentra.app.widgets.plain import plain_label, rich_label
from bicentra.app.widgets.scrolled import scrolled
from bicentra.app.widgets.tabs import press, tab_row
from bicentra.core.base.finding import Verdict
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.beside import TITLE as BESIDE_TITLE
from bicentra.core.bracket.thread_hold import thread_holds
from bicentra.core.certainty.both_sides import told_of_both
from bicentra.core.clearance.withdrawal import ways_out
from bicentra.core.drawing.joint_view import joint_view
from bicentra.core.drawing.made_view import NOTHING, Work, made_view
from bicentra.core.drawing.solid_scene import solid_scene
from bicentra.core.fasteners.grades import usual_grade
from bicentra.core.fasteners.torque import LUBRICATIONS, usual_torque
from bicentra.core.judged import Judged
from bicentra.core.parts.job import Job
from bicentra.core.parts.materials import find_material
from bicentra.core.proposals import CHOSEN, on_the_bench, own_bracket
from bicentra.core.solution import Solution
from bicentra.study.desks.shaping import bosses, pulled_edges, standing_at
from bicentra.study.document.study import Study

ROOM_PX, SIDE_PX, LOW_PX = (70.0, 130.0), 330, 560
UNITS = {"_mm": "mm", "_mm2": "mm²", "_deg": "°", "_n": "N", "_nm": "N·m", "_mpa": "N/mm²"}


class BracketBench(QWidget):
    """Changes go to the study; ``refused`` carries a message when one is not taken."""

    refused = Signal(str, str)
    told = Signal(str)
    changed = Signal()

    def __init__(self, look: Look) -> None:
        super().__init__()
        self.setObjectName("desk")
        self.study: Study | None = None
        self.view_state = ViewState()
        self.view_state.look = look
        self.proposals: tuple[Judged, ...] = ()
        self.chosen: Judged | None = None
        self.own: Judged | None = None
        self.cards: list[FamilyCard] = []
        self._shown: Job | None = None
        self._host = QWidget()
        self._host.setObjectName("panelBody")
        self._row = QHBoxLayout(self._host)
        self._row.setContentsMargins(6, 6, 6, 6)
        shelf = scrolled(self._host)
        shelf.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAsNeeded)
        shelf.setWidgetResizable(True)
        self._shelf = shelf
        shelf.setAccessibleName("Bracket families, suited ones first")
        self.view = DrawingView("The part to be made", self.view_state, {})
        self.view.fit_wanted.connect(self.fit)
        self.shaper = Shaper(self)
        self.shaper.refused.connect(self.refused)
        self.shaper.told.connect(self.told)
        self.view.dragged.connect(self.shaper.drag)
        self.view.released.connect(self.shaper.release)
        self.view.released.connect(self.refresh)
        self.view.typed_over.connect(self.shaper.type_over)
        self.view.cancelled.connect(self.shaper.cancel)
        self.text = plain_label()
        self.text.setTextFormat(Qt.TextFormat.RichText)
        self.text.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.text.setWordWrap(True)
        self.text.setMargin(10)
        self.text.setObjectName("panelBody")
        side = scrolled(self.text)
        side.setFixedWidth(SIDE_PX)
        side.setAccessibleName("What speaks for and against it")
        column, below = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        for layout in (column, below):
            layout.setSpacing(6)
        self.space = SceneView(look)
        self.space.hide()
        below.addWidget(self.view, 1)
        below.addWidget(self.space, 1)
        below.addWidget(side)
        column.addWidget(shelf)
        column.addLayout(self._tools())
        column.addLayout(below, 1)

    def _tools(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(6)
        self.tabs = tab_row(line, (("part", "The part"), ("bolts", "Its bolts"), ("space", "In space")), self.show_page)
        press(self.tabs, "part")
        self.state = QComboBox()
        self.state.addItems(list(LUBRICATIONS))
        self.state.setAccessibleName("State of the threads")
        self.state.setToolTip(
            "The same torque clamps harder on a slippery thread: torques of unlike states are never compared"
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
        for widget in (self.pull, self.cut):
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
        self.take_button = QPushButton("Take this family")
        self.take_button.setObjectName("primary")
        self.take_button.clicked.connect(self.take)
        line.addWidget(self.take_button)
        return line

    @property
    def bolting(self) -> bool:
        """Whether the bolts are shown."""
        return self.tabs["bolts"].isChecked()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """In a low window the cards go without their pictures, so that the drawing keeps its room."""
        self._fit_shelf()
        super().resizeEvent(event)

    def _fit_shelf(self) -> None:
        low = self.height() < LOW_PX
        for card in self.cards:
            card.show_picture(not low)
        self._shelf.setFixedHeight(CARD_PX.height() - (PICTURE_PX if low else 0) + 34)

    def show_page(self, name: str) -> None:
        """Show the part or its bolts."""
        press(self.tabs, name)
        self._show()
        self.fit()

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on."""
        self.study, self.shaper.study, self._shown, self.chosen = study, study, None, None
        if self.isVisible():
            self.refresh()

    def dress(self, look: Look) -> None:
        """Show the bench in ``look``."""
        self.view_state.dress(look)
        self.space.look = look
        self.space.fit()
        for card in self.cards:
            card.look = look
            card.update()

    def refresh(self) -> None:
        """Propose every family for the study as it stands; while something is pulled, follow that alone."""
        if self.study is None or self._shown is self.study.job:
            return
        if self.view.pulling:
            self._follow(self.study.job)
            return
        job = self._shown = self.study.job
        self.own, self.proposals = on_the_bench(job)
        wanted = self.chosen.bracket.family if self.chosen is not None else self.own.bracket.family
        self.chosen = next((c for c in self.proposals if c.bracket.family == wanted), self.proposals[0])
        self._deal(job)
        self._show()
        if self.view_state.fitted:
            self.fit()
        self.changed.emit()

    def _follow(self, job: Job) -> None:
        """Solve and draw the job's own bracket again; proposals, cards and scale wait until it is let go."""
        before, self._shown = self.own, None
        self.own = own_bracket(job)
        self.proposals = tuple(self.own if one is before else one for one in self.proposals)
        if self.chosen is before:
            self.chosen = self.own
        self._show()

    def _deal(self, job: Job) -> None:
        clear_layout(self._row)
        words, drawn = LengthFormat(units_of(job.display_units)), tuple(c for c in self.proposals if c.bracket.parts)
        scale = common_scale(tuple(c for c in drawn if c.suited is not Verdict.STOP) or drawn)
        self.cards = []
        for proposal in drawn:
            card = FamilyCard(proposal, self.view_state.look, words, job.is_left, scale, proposal is self.own)
            card.picked.connect(self.choose)
            self.cards.append(card)
            self._row.addWidget(card, 0, Qt.AlignmentFlag.AlignTop)
        told_off = [(c.title, c.suited.word, c.why) for c in self.proposals if not c.bracket.parts]
        rest = "".join(
            f"<p style='margin:2px 0'><b>{escape(title)}</b> ({word}): {escape(why)}</p>"
            for title, word, why in told_off
        )
        if rest:
            label = rich_label(f"<p><b>Not drawn:</b></p>{rest}")
            label.setWordWrap(True)
            label.setMinimumWidth(600)
            label.setObjectName("faint")
            label.setAlignment(Qt.AlignmentFlag.AlignTop)
            self._row.addWidget(label)
        self._row.addStretch(1)
        self._fit_shelf()

    def choose(self, proposal: Judged) -> None:
        """Show a family; nothing is taken yet."""
        self.chosen = proposal
        self._show()
        self.fit()
        self.changed.emit()

    def _show(self) -> None:
        study, one = self.study, self.chosen
        if study is None or one is None:
            return
        job, words = study.job, LengthFormat(units_of(study.job.display_units))
        for card in self.cards:
            card.chosen = card.proposal is one
            card.update()
        spaced = self.tabs["space"].isChecked()
        shown: list[tuple[QWidget, bool]] = [(self.state, self.bolting), (self._state_label, self.bolting)]
        shaped = not self.bolting and not spaced and one.bracket.kind.shaping == "by hand" and one is self.own
        shown += [(button, shaped) for button in (self.lighten_button, self.add_button, self.away_button)]
        shown += [(widget, spaced) for widget in (self.pull, self.cut, self.space)]
        for widget, there in shown:
            widget.setVisible(there)
        self.view.setVisible(not spaced)
        if spaced:
            self.space.show_scene(solid_scene(self._looked_at(study.solution)))
        if self.bolting:
            self.view.title = "Bolts in their stacks, from head to tip"
            self.view.show_drawing(
                joint_view(self._looked_at(study.solution).assembly, words, one is self.own),
                {},
                1.0,
                words.units,
            )
            self.text.setText(self._bolts_told(words))
        else:
            self.view.title = f"{one.title}: seen from outboard, and from its edge"
            work = self._work(study.plain_solution) if shaped else NOTHING
            drawing = made_view(one.bracket, words, job.is_left, work)
            values = {handle.path: standing_at(job, handle.path) for handle in drawing.handles}
            self.shaper.paths = tuple(values)
            self.view.show_drawing(drawing, values, -1.0 if job.is_left else 1.0, words.units)
            self.text.setText(
                told(one, words) + (self._other_side() if one is self.own and not self.view.pulling else "")
            )
        self.take_button.setEnabled(one is not self.own and bool(one.bracket.parts) and one.title != BESIDE_TITLE)
        self.take_button.setText("Taken" if one is self.own else f"Take the {one.title[0].lower()}{one.title[1:]}")

    def _work(self, solution: Solution) -> Work:
        """Return what of the plate can be pulled where it is drawn."""
        bracket = solution.job.bracket
        return Work(bracket.cutouts, bosses(solution.job), bracket.dowels, pulled_edges(solution))

    def _other_side(self) -> str:
        """Return what the other corner of the axle gets."""
        text = told_of_both(self.study.job) if self.study is not None else ""
        return f"<p><b>The other side</b></p><p>{escape(text)}</p>" if text else ""

    def _looked_at(self, solution: Solution) -> Solution:
        """Return ``solution`` as it would be with the family looked at."""
        one = self.chosen
        if one is None or one is self.own or not one.bracket.stands:
            return solution
        return replace(solution, assembly=one.assembly)

    def _bolts_told(self, words: LengthFormat) -> str:
        if self.study is None:
            return ""
        state, lines, seen = LUBRICATIONS[self.state.currentText()], [], set()
        assembly = self._looked_at(self.study.solution).assembly
        for placed in assembly.joints:
            thread = placed.joint.thread
            if thread.name in seen:
                continue
            seen.add(thread.name)
            grade = usual_grade(thread)
            torque = usual_torque(thread, grade, state)
            lines.append(f"<p><b>{escape(thread.name)}, {grade.name}</b>: {escape(torque.text)}.</p>")
        holds = "".join(f"<p style='margin:3px 0'>{escape(hold.told(words))}</p>" for hold in thread_holds(assembly))
        ways = "".join(f"<p style='margin:3px 0'>{escape(way.text)}</p>" for way in ways_out(assembly))
        note = (
            "<p>Aimed at three quarters of the proof load; the band is what the friction of this state gives. The maker's torque "
            "goes first. One bolt at a time, marked, and checked again after the first drive.</p>"
        )
        note += f"<p>{escape(lock_told(self.study.job.bracket.lock, self.state.currentText()))}</p>"
        threads = f"<p><b>Against stripping</b></p>{holds}" if holds else ""
        return "".join(lines) + note + threads + "<p><b>Behind the heads</b></p>" + ways

    def take(self) -> None:
        """Take the family shown into the job, as one step."""
        one, study = self.chosen, self.study
        if one is None or study is None:
            return
        edits: list[tuple[str, object]] = [("bracket.family", one.bracket.family)]
        edits += [(f"bracket.{name}", None) for name in CHOSEN]
        if self.shaper.change(f"Take the {one.title[0].lower()}{one.title[1:]}", tuple(edits)):
            self.told.emit(f"Taken: {one.title}. The findings on the line-up bench speak of it now.")

    def fit(self) -> None:
        """Show the whole drawing."""
        if self.view.drawing is not None:
            self.view.centre()
            self.view_state.set_scale(self.view.fit_scale(ROOM_PX), fitted=True)
        self.space.fit()

    def next_sentence(self) -> str:
        """Return what to do next here."""
        best = next((c for c in self.proposals if c.suited in (Verdict.OK, Verdict.CAUTION)), None)
        if best is None or self.study is None:
            return "No family suits yet: the findings on the line-up bench name what to measure or change."
        if self.chosen is not None and self.chosen is not self.own and self.chosen.bracket.parts:
            return f"Take the {self.chosen.title[0].lower()}{self.chosen.title[1:]}, or look at another family."
        if self.own is not None and self.own.suited is Verdict.STOP and self.own is not best:
            return f"Your own bracket says stop; {best.title[0].lower()}{best.title[1:]} does not: look at it."
        return "Take the papers away: template, cutting file, solids."

    def do_next(self) -> None:
        """Do what the sentence says."""
        better = next((c for c in self.proposals if c.suited in (Verdict.OK, Verdict.CAUTION)), None)
        if self.take_button.isEnabled():
            self.take()
        elif self.own is not None and self.own.suited is Verdict.STOP and better is not None:
            self.choose(better)
        else:
            self.told.emit("Take away, at the top right: template (Ctrl+P), cutting file (Ctrl+D), solids")

    def take_focus(self) -> None:
        """Give the keyboard to the first card."""
        if self.cards:
            self.cards[0].setFocus()


def lock_told(lock: str, state: str) -> str:
    """Return how the bolts are locked, and whether the torque shown is that of their threads."""
    if lock == "nothing":
        return "Nothing locks these bolts yet: removable threadlocker with a mark and a re-check is the usual way."
    text = f"Locked by {'a ' if lock.startswith('lock') else ''}{lock}; mark each bolt, and check it again after the first drive."
    if "threadlocker" in lock and state != "threadlocker":
        text += f" Wet threadlocker is slippery: the torque shown is for {state} threads, choose threadlocker above."
    return text


def told(one: Judged, words: LengthFormat) -> str:
    """Return a family in words: why, its solved numbers, its findings, its parts."""
    numbers = "".join(row(*_number(name, value, words)) for name, value in one.bracket.solved.items())
    parts = "".join(
        row(f"{part.count} × {part.name}", f"{part.mass_kg:.2f} kg", part.material or "material not stated")
        for part in one.bracket.parts
    )
    against = against_list(tuple(f for f in one.findings if f.verdict is not Verdict.OK))
    return f"<p>{escape(one.why)}</p>{against}<table>{numbers}</table><p><b>To be made</b></p><table>{parts}</table>{_metal(one)}"


def _metal(one: Judged) -> str:
    """Return what is known of the metals, and where from."""
    names = dict.fromkeys(part.material for part in one.bracket.parts)
    found = [material for material in map(find_material, names) if material is not None]
    return "".join(f"<p>{escape(material.told)}</p>" for material in found)


def _number(name: str, value: float, words: LengthFormat) -> tuple[str, str]:
    ending = next((end for end in sorted(UNITS, key=len, reverse=True) if name.endswith(end)), "")
    unit = UNITS.get(ending, "")
    plain = name.removesuffix(ending).replace("_", " ")
    if ending == "_mm" and abs(value) >= 0.1:
        return plain, words.size(value)
    shown = f"{value:.3g}" if abs(value) < 1 else f"{value:.2f}".rstrip("0").rstrip(".")
    return plain, shown + (unit if unit == "°" else f" {unit}")

"""The lug faces as a relief, the runout as polar traces, each on the sheet, and beside it what follows from them."""

import math

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from bicentra.app.drawing.fit import show_whole
from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.theme import Look
from bicentra.app.widgets.basics import clear_layout, scrolled
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Drawing
from bicentra.core.drawing.views.faces import relief_factor, relief_view, runout_factor, runout_view
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import SIMULATED
from bicentra.core.survey.corner import Surveyed
from bicentra.core.survey.words import way_word
from bicentra.study.desks.readings_text import face_names, least_runout

PLAYED = "simulated, not measured"


class WholeView(DrawingView):
    """An exaggerated drawing that always shows everything."""

    def __init__(self, title: str) -> None:
        super().__init__(title, ViewState(), {})
        self._plain_title = title
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setMinimumSize(150, 190)
        self.fit_wanted.connect(self.fit)

    def show_whole(self, drawing: Drawing, exaggeration: str) -> None:
        """Show ``drawing`` whole, with its factor told beside it."""
        self.exaggeration = exaggeration
        self.title = f"{self._plain_title}, {exaggeration}"
        self.show_drawing(drawing, {})
        self.fit()

    def fit(self) -> None:
        """Show everything."""
        show_whole((self,))


class _Side(QWidget):
    """Lines and buttons; the ``view`` they speak of takes the place of the sheet."""

    def __init__(self, title: str) -> None:
        super().__init__()
        self.view = WholeView(title)
        self._body = QWidget()
        self._body.setObjectName("panelBody")
        self._lines = QVBoxLayout(self._body)
        self._lines.setContentsMargins(8, 6, 8, 6)
        self._lines.setSpacing(5)
        scroll = scrolled(self._body)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(scroll)

    def dress(self, look: Look) -> None:
        """Show the view in ``look``."""
        self.view.view_state.dress(look)

    def _line(self, text: str, faint: bool = False) -> None:
        label = plain_label(text)
        label.setWordWrap(True)
        label.setTextFormat(Qt.TextFormat.PlainText)
        if faint:
            label.setObjectName("faint")
        self._lines.addWidget(label)

    def _button(self, text: str, call: object, tip: str = "") -> QPushButton:
        button = QPushButton(text)
        button.setToolTip(tip)
        button.clicked.connect(call)
        self._lines.addWidget(button)
        return button


class FacesSide(_Side):
    """The lug faces: relief, seat and lean of each, and what to read next."""

    spot_wanted = Signal(str)
    anew_wanted = Signal(str)

    def __init__(self) -> None:
        super().__init__("Lug faces")

    def show_done(self, job: Job, done: Surveyed, lengths: LengthFormat) -> None:
        """Show the faces of ``done``."""
        self.view.show_whole(relief_view(job, done), f"heights × {relief_factor(done):g}")
        clear_layout(self._lines)
        for name in face_names(job, done):
            face = done.face(name)
            if face is None or face.fault:
                self._line(f"{name}: {face.fault if face else 'not read yet'}")
            else:
                lean = f"leans {face.tilt_deg:.2f}° ± {1.96 * face.sd_tilt_deg:.2f}° (95 %)"
                if face.tilt_deg > 1.96 * face.sd_tilt_deg:
                    lean += f", high towards {way_word(face.high_toward_deg)}"
                seat = f"seat {lengths.size(round(face.z, 3)).replace('-', '−')} ± {lengths.gap(1.96 * face.sd_z)}"
                self._line(f"{name}: {seat} from the hub face; {lean}.")
            if any(read.feature == name and read.by == SIMULATED for read in done.survey.faces):
                self._line(f"! {name}: {PLAYED}")
            self._button(
                f"Read a spot of {name}",
                lambda _checked=False, name=name: self.spot_wanted.emit(name),
                "Depth from the outer face of the straightedge lying on the hub face",
            )
            if face is not None and face.spots:
                tip = "Takes the depths of this face away and asks for them again; the former ones stay in its history"
                self._button(f"Read {name} again", lambda _checked=False, name=name: self.anew_wanted.emit(name), tip)
        self._line("z = straightedge thickness − depth; plane z₀ + a·x + b·y by least squares.", faint=True)
        self._lines.addStretch(1)


class RunoutSide(_Side):
    """The sweeps: polar traces, what they mean, and the index places to choose from."""

    sweep_wanted = Signal(str)
    turn_chosen = Signal(int)
    place_chosen = Signal(bool)

    def __init__(self) -> None:
        super().__init__("Runout")

    def show_done(self, job: Job, done: Surveyed, lengths: LengthFormat) -> None:
        """Show the sweeps of ``done``."""
        self.view.show_whole(runout_view(done), f"drawn × {runout_factor(done):g}")
        clear_layout(self._lines)
        self._index(job, done, lengths)
        floor = least_runout(job, done)
        if math.isfinite(floor):
            self._line(f"The flange alone gives {lengths.gap(floor)} at the rotor's radius: no true rotor can beat it.")
        for taken in done.survey.sweeps:
            if taken.by == SIMULATED:
                self._line(f"! {taken.on.replace('-', ' ')}: {PLAYED}")
        for sweep in done.sweeps:
            if sweep.bump is not None:
                where = sweep.on.replace("-", " ")
                self._line(f"! {where}: one spot at {sweep.bump.at_deg:.0f}° stands {lengths.gap(sweep.bump.height)} off. "
                           "Not tilt, not warp: look for dirt or a lip.")  # fmt: skip
        swept = next((sweep for sweep in done.survey.sweeps if sweep.on == "rotor-face"), None)
        if swept is not None:
            on_car = swept.where == "on-car"
            button = self._button(
                "The rotor was swept on the car, bolted down",
                lambda _checked=False, other=not on_car: self.place_chosen.emit(other),
                "Its readings then show the hub's runout too, and it is not added again",
            )
            button.setCheckable(True)
            button.setChecked(on_car)
        for on, text in (("hub-face", "Sweep the hub face"), ("rotor-face", "Sweep the rotor's face")):
            self._button(
                text,
                lambda _checked=False, on=on: self.sweep_wanted.emit(on),
                "Twelve readings a turn, more if you like",
            )
        self._line("r = mean + A₁cos(φ − φ₁) + A₂cos(2φ − φ₂) + rest, by least squares.", faint=True)
        self._lines.addStretch(1)

    def _index(self, job: Job, done: Surveyed, lengths: LengthFormat) -> None:
        if not done.index:
            self._line("Sweep hub face and rotor's face: every index place is then worked out here.")
            return
        self._line("Rotor turned on its studs, towards up from the front, from where it was swept:")
        now = job.fit.rotor_turn_studs % len(done.index)
        best = done.best_index
        for place in done.index:
            marks = [m for m, on in (("as set", place.turn == now), ("best", place is best)) if on]
            text = f"{place.turn} stud{'' if place.turn == 1 else 's'}: {lengths.gap(place.tir)} in all"
            button = self._button(
                text + (f"  ({', '.join(marks)})" if marks else ""),
                lambda _checked=False, turn=place.turn: self.turn_chosen.emit(turn),
                "Sets this index in the job",
            )
            button.setCheckable(True)
            button.setChecked(place.turn == now)

"""A panel made from the field descriptions of one part of the job."""

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QPushButton, QScrollArea, QVBoxLayout, QWidget

from bicentra.app.panels.section import SHEETS, Section, ask_obstacle
from bicentra.app.widgets.fields import ChoiceField, FieldBox, ListField, PointsField, QuantityField, TextField
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.quantities import ANGLE, LENGTH, NUMBER, Units
from bicentra.core.base.records import replace
from bicentra.core.parts.corners import across
from bicentra.core.parts.declared_absent import SAYINGS, is_there
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.fields import Meaning, fields, meaning
from bicentra.core.parts.job import (
    CORNERS,
    MOUNTINGS,
    BracketDesign,
    Caliper,
    Fit,
    Hub,
    Job,
    Lug,
    LugBolt,
    Obstacle,
    OriginalBrake,
    Parking,
    Rotor,
    Wheel,
)
from bicentra.core.parts.materials import ASSUMED_METAL, MATERIALS
from bicentra.core.parts.threads import THREADS
from bicentra.core.parts.wheel import WeightBand
from bicentra.study.desks.measuring import missing_paths

LISTS = {
    "pistons_inboard_mm": ("Pistons, inboard side", LENGTH, ()),
    "pistons_outboard_mm": ("Pistons, outboard side", LENGTH, ()),
    "bleeders_deg": ("Bleed screw direction (0° = away from the axle); several with ; between them", ANGLE, ()),
    "stock_mm": ("Plate in stock (empty: usual stock)", LENGTH, None),
    "boss_walls_mm": ("Wall round each hole (empty: the same)", LENGTH, ()),
    "shims_mm": ("Shims at each lug (empty: chosen)", LENGTH, None),
}
POINTS = {
    "body_section_mm": ("Body traced, section: z / out from pad top", "z from slot centre, outboard positive, in order"),
    "body_face_mm": ("Body traced, seen along the axle: across / out from pad top", "Across: towards rising clock angles"),
    "pad_outline_mm": ("Pad traced: across / out from pad top", "In order round the friction material"),
    "barrel_mm": ("Barrel traced, inboard to outboard: z / radius", "z from the face that seats on the hub, outboard positive"),
    "spokes_mm": ("Spokes traced, hub outward: z / radius", "z from the face that seats on the hub, outboard positive"),
    "hose_port_mm": ("Hose port: across / out from pad top / z", "Where the hose leaves the caliper; it needs a finger's room"),
}  # fmt: skip
"""Traced points of a record: label and help; each point has as many numbers as its label has slashes, and one more."""
GROUPS = {
    "ring_bolt_circle_mm": "Ring and hat", "slot_width_mm": "Slot and bridge", "pad_height_mm": "Pad", "body_inboard_mm": "Body",
    "slide_inboard_mm": "Slides and hose", "hand": "Hand, pistons, bleed screws", "barrel_mm": "Inside profile",
    "lug_bolt": "Bolts", "old_bolt_circle_mm": "Redrilled", "through_holes": "Drilled and slotted",
    "slot_mm": "Slots and edges", "retainer_circle_mm": "Bearing retainer",
}  # fmt: skip
"""Fields that begin a group of their own within a panel."""
LOOKED, BOUGHT_WHOLE = "Nothing else is near", "Ring and hat bought as one"
CHOSEN = "bracket"
"""The sheet on which whatever is left empty is chosen."""
FROM_LIBRARY = {"rotor": "rotor", "caliper": "caliper", "wheel": "wheel"}
HIDDEN = {"extra", "format", "version", "display_units", "notes", "family", "hub", "knuckle", "rotor", "caliper", "wheel",
          "fit", "bracket", "limits", "guessed", "survey", "weights", "before", "parking", "cutouts", "dowels",
          "pulls", "exact", "practice", "issued", "photos", "absent", "borrowed", "bolt", "ear_shims_mm", "mounting"}  # fmt: skip
RECORDS: dict[str, tuple[tuple[str, type], ...]] = {
    "hub": (("hub", Hub), ("wheel", Wheel)),
    "knuckle": (),
    "rotor": (("rotor", Rotor),),
    "caliper": (("caliper", Caliper), ("parking", Parking)),
    "bracket": (("bracket", BracketDesign), ("fit", Fit)),
    "job": (("", Job), ("before", OriginalBrake)),
}
"""The records of the job whose fields stand on each sheet."""


class Panel(QScrollArea):
    """The fields of one part. ``committed`` carries a key path and a new value; ``structural`` a label and edits.

    ``library_wanted`` and ``keep_wanted`` name the part that is to come from the library, or to be put there.
    """

    committed = Signal(str, object)
    structural = Signal(str, object)
    library_wanted = Signal(str)
    keep_wanted = Signal(str)

    def __init__(self, name: str) -> None:
        super().__init__()
        self.name = name
        self.title, self._records = SHEETS[name][1], RECORDS[name]
        self.boxes: dict[str, FieldBox] = {}
        self.sections: dict[str, Section] = {}
        self._section: Section | None = None
        self._folds: dict[str, bool] = {}
        self._shape: tuple[object, ...] = ()
        self._job = Job()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)

    def show_job(self, job: Job, units: Units) -> None:
        """Show the values of ``job``; the fields are made again only when there are others to show."""
        self._job = job
        bands = len(job.wheel.weights) if job.wheel is not None else -1
        shape = (len(job.knuckle.lugs), len(job.knuckle.obstacles), bands, job.before is None, job.parking is None,
                 job.practice, len(job.exact), job.borrowed, job.corner, len(job.fit.ear_shims_mm),
                 tuple(lug.bolt is None for lug in job.knuckle.lugs),
                 job.fit.absent, bool(job.caliper.bleeders_deg), job.knuckle.obstacles_none, job.rotor.kind,
                 job.rotor.assembled)  # fmt: skip
        if shape != self._shape:
            self._shape = shape
            self._build(job)
        for path, box in self.boxes.items():
            box.show_value(get_value(job, path), units)  # type: ignore[attr-defined]

    def take_focus(self) -> None:
        """Give the keys to the first field that nothing is known for and that may not be left empty, else to the first of all."""
        asked = () if self.name == CHOSEN else self.boxes.items()
        needed = (path for path, box in asked if "empty" not in f"{box.label} {box.toolTip()}".lower())
        missing = (path for path in needed if get_value(self._job, path) is None)
        first = next(missing, next(iter(self.boxes), None))
        if first is not None:
            self.go_to(first)

    def go_to(self, path: str) -> None:
        """Give the keys to the field of ``path`` and bring it into sight."""
        box = self.boxes.get(path)
        if box is not None:
            self._unfold(box)
            box.setFocus(Qt.FocusReason.ShortcutFocusReason)
            self.ensureWidgetVisible(box)

    def _unfold(self, box: FieldBox) -> None:
        for section in self.sections.values():
            if section.isAncestorOf(box):
                section.open(True)

    def refuse(self, path: str, message: str) -> bool:
        """Show ``message`` at the field of ``path``; False when this panel has no such field."""
        box = self.boxes.get(path)
        if box is not None:
            self._unfold(box)
            box.refuse(message)
        return box is not None

    def _build(self, job: Job) -> None:
        self.boxes.clear()
        self.sections.clear()
        self._end_group()
        body = QWidget()
        body.setObjectName("panelBody")
        column = QVBoxLayout(body)
        column.setContentsMargins(12, 10, 12, 16)
        head = plain_label(self.title)
        head.setObjectName("head")
        column.addWidget(head)
        if self.name in job.borrowed:
            self._build_borrowed(column, job)
        if self.name == "knuckle":
            self._build_knuckle(column, job)
        if self.name in FROM_LIBRARY:
            self._library_buttons(column, self.name)
        for prefix, record in self._records:
            own = {"before": self._build_before, "parking": self._build_parking}.get(prefix)
            if own is not None:
                own(column, job)
                continue
            if prefix == "wheel" and job.wheel is None:
                self._group(column, "Wheel")
                self._button(
                    column, "Add the wheel", lambda: self.structural.emit("Add the wheel", (("wheel", Wheel()),))
                )
                self._button(column, "Wheel from the library…", lambda: self.library_wanted.emit("wheel"))
                self._build_absent(column, job, "wheel")
                continue
            self._add_record(column, prefix, record)
            if prefix == "fit":
                self._build_ear_shims(column, job)
            if prefix == "wheel" and job.wheel is not None:
                self._build_weights(column, job.wheel)
            if record is Caliper:
                self._build_absent(column, job, "bleeders")
            if record is Rotor and job.rotor.kind != "one-piece":
                self._build_said(column, "rotor.assembled", job.rotor.assembled, BOUGHT_WHOLE)
            if record is Job:
                self._build_standing(column, job)
        column.addStretch(1)
        self.setWidget(body)
        self._fold()

    def _library_buttons(self, column: QVBoxLayout, kind: str) -> None:
        self._button(column, "From the library…", lambda: self.library_wanted.emit(kind))
        self._button(column, "Keep in my library", lambda: self.keep_wanted.emit(kind))

    def _build_borrowed(self, column: QVBoxLayout, job: Job) -> None:
        """Say that these numbers are the other corner's; a button says that they have all been measured here."""
        other = across(job.corner).replace("-", " ")
        label = plain_label(f"Measured at the other corner ({other}). What rests on it is marked so in the list.")
        label.setWordWrap(True)
        column.addWidget(label)
        left = tuple(record for record in job.borrowed if record != self.name)
        text = f"All of this is measured at {job.corner.replace('-', ' ')}"
        self._button(column, text, lambda: self.structural.emit(text, (("borrowed", left),)))

    def _build_ear_shims(self, column: QVBoxLayout, job: Job) -> None:
        """Shims between bracket and ear, a list for each ear."""
        self._group(column, "Shims at the ears")
        if not job.fit.ear_shims_mm:
            text = "List shims between bracket and ears"
            self._button(column, text, lambda: self.structural.emit(text, (("fit.ear_shims_mm", ((), ())),)))
            return
        for ear in range(2):
            words = f"Shims at ear {ear + 1}"
            self._add(column, ListField(f"fit.ear_shims_mm[{ear}]", words, LENGTH, "Between bracket and ear", ()))
        gone = "No shims at the ears"
        self._button(column, gone, lambda: self.structural.emit(gone, (("fit.ear_shims_mm", ()),)))

    def _build_lug_bolt(self, column: QVBoxLayout, k: int, lug: Lug) -> None:
        """The bolt of one lug, where it is not that of all."""
        path = f"knuckle.lugs[{k}].bolt"
        if lug.bolt is None:
            text = "A bolt of its own here"
            self._button(column, text, lambda: self.structural.emit(text, ((path, LugBolt()),)))
            return
        self._add_record(column, path, LugBolt)
        gone = "The same bolt as at all lugs"
        self._button(column, gone, lambda: self.structural.emit(gone, ((path, None),)))

    def _build_absent(self, column: QVBoxLayout, job: Job, name: str) -> None:
        """Say once that there is none of something, so that nothing waits for it; or take that back."""
        if is_there(job, name):
            return
        stated = name in job.fit.absent
        text = f"Stated: {SAYINGS[name][0].lower()}{SAYINGS[name][1:]}. Take that back" if stated else SAYINGS[name]
        self._end_group()
        left = tuple(one for one in job.fit.absent if one != name)
        after = left if stated else (*left, name)
        self._button(column, text, lambda: self.structural.emit(text, (("fit.absent", after),)))

    def _build_said(self, column: QVBoxLayout, path: str, now: bool, saying: str) -> None:
        """Say once what is so, or take that back: a button that stays pressed, and says so."""
        self._end_group()
        text = f"Yes: {saying[0].lower()}{saying[1:]}" if now else saying
        button = self._button(column, text, lambda: self.structural.emit(saying, ((path, not now),)))
        button.setCheckable(True)
        button.setChecked(now)

    def _build_standing(self, column: QVBoxLayout, job: Job) -> None:
        """Whether the job is for practice, and the numbers that were declared exact beside a survey."""
        self._end_group()
        text = "Make it a real job" if job.practice else "Make it a practice job"
        self._button(column, text, lambda: self.structural.emit(text, (("practice", not job.practice),)))
        words = "Practice job: simulated readings may be used, nothing is built from it." if job.practice else (
            "Real job: simulated readings are not used in it.")  # fmt: skip
        label = plain_label(words)
        label.setWordWrap(True)
        label.setObjectName("faint")
        self._put(column, label)
        if job.exact:
            again = f"No longer exact: {len(job.exact)} number{'' if len(job.exact) == 1 else 's'}"
            self._button(column, again, lambda: self.structural.emit(again, (("exact", ()),)))

    def _build_before(self, column: QVBoxLayout, job: Job) -> None:
        self._group(column, "What came off the vehicle")
        if job.before is None:
            self._button(
                column,
                "Note what came off",
                lambda: self.structural.emit("Note what came off", (("before", OriginalBrake()),)),
            )
        else:
            self._add_record(column, "before", OriginalBrake)
        self._button(column, "The parts in the job came off", self._came_off)

    def _build_parking(self, column: QVBoxLayout, job: Job) -> None:
        """The second caliper: where it goes, and its own sizes."""
        self._group(column, "Parking-brake caliper")
        if job.parking is None:
            new = Parking(caliper=Caliper(name="parking-brake caliper"))
            text = "Add a parking-brake caliper"
            self._button(column, text, lambda: self.structural.emit(text, (("parking", new),)))
            return
        self._add_record(column, "parking", Parking)
        self._add_record(column, "parking.caliper", Caliper)
        text = "Take the parking-brake caliper off"
        self._button(column, text, lambda: self.structural.emit(text, (("parking", None),)))

    def _came_off(self) -> None:
        job = self._job
        parts = replace(job.before or OriginalBrake(), rotor=job.rotor, caliper=job.caliper, wheel=job.wheel)
        self.structural.emit("Keep the parts that came off", (("before", parts),))

    def _build_weights(self, column: QVBoxLayout, wheel: Wheel) -> None:
        for k in range(len(wheel.weights)):
            self._group(column, f"Balance weights {k + 1}")
            self._add_record(column, f"wheel.weights[{k}]", WeightBand)
            self._remover(column, "Take out these weights", "wheel.weights", k)
        self._adder(column, "Add balance weights", "wheel.weights", WeightBand())
        self._button(
            column, "Take the wheel off the job", lambda: self.structural.emit("Take the wheel off", (("wheel", None),))
        )

    def _build_knuckle(self, column: QVBoxLayout, job: Job) -> None:
        lugs, obstacles = job.knuckle.lugs, job.knuckle.obstacles
        self._add(
            column,
            ChoiceField("knuckle.material", "Knuckle material", ("steel", "iron", "aluminium"), none="not stated"),
        )
        self._add(column, ChoiceField("knuckle.mounting", "What holds the bracket", MOUNTINGS))
        for k in range(len(lugs)):
            self._group(column, f"Lug {k + 1}")
            self._add_record(column, f"knuckle.lugs[{k}]", Lug)
            self._build_lug_bolt(column, k, lugs[k])
            if lugs:
                self._remover(column, "Take out this lug", "knuckle.lugs", k)
        self._adder(column, "Add a lug", "knuckle.lugs", Lug(name=f"lug {len(lugs) + 1}"))
        for k in range(len(obstacles)):
            self._group(column, f"Obstacle {k + 1}")
            self._add_record(column, f"knuckle.obstacles[{k}]", Obstacle)
            self._add(column, PointsField(f"knuckle.obstacles[{k}].outline_mm", "Outline, forward / up from the axle",
                                          "Points in order round the obstacle"))  # fmt: skip
            self._remover(column, "Take out this obstacle", "knuckle.obstacles", k)
        self._end_group()
        self._button(column, "Add an obstacle…", self._add_obstacle)
        self._build_said(column, "knuckle.obstacles_none", job.knuckle.obstacles_none, LOOKED)

    def _add_obstacle(self) -> None:
        """Ask what is in the way, and add it."""
        new = ask_obstacle(self, f"obstacle {len(self._job.knuckle.obstacles) + 1}")
        if new is not None:
            self._relist("Add an obstacle", "knuckle.obstacles", lambda items: (*items, new))
            self.go_to(f"knuckle.obstacles[{len(self._job.knuckle.obstacles) - 1}].z_min_mm")

    def _group(self, column: QVBoxLayout, text: str) -> None:
        """Begin a group: what follows stands in it, until another begins or it is ended."""
        self._section = self.sections[text] = Section(text)
        column.addWidget(self._section)

    def _end_group(self) -> None:
        self._section = None

    def _put(self, column: QVBoxLayout, widget: QWidget) -> None:
        (column if self._section is None else self._section.fields).addWidget(widget)

    def _fold(self) -> None:
        """Show the groups that hold what is missing for the bracket, or nothing to type; what the user opened or folded stays."""
        missing = missing_paths(self._job)
        for title, section in self.sections.items():
            inside = {path for path, box in self.boxes.items() if section.isAncestorOf(box)}
            section.open(self._folds.get(title, not inside or bool(inside & missing)))
            section.head.clicked.connect(lambda on=False, title=title: self._folds.update({title: on}))

    def _button(self, column: QVBoxLayout, text: str, call: object) -> QPushButton:
        button = QPushButton(text)
        button.clicked.connect(call)
        self._put(column, button)
        return button

    def _adder(self, column: QVBoxLayout, text: str, path: str, new: object) -> None:
        def add() -> None:
            self._relist(text, path, lambda items: (*items, new))
            place = f"{path}[{len(get_value(self._job, path)) - 1}]."
            added = next((one for one in self.boxes if one.startswith(place)), "")
            self.go_to(added)

        self._end_group()
        self._button(column, text, add)

    def _remover(self, column: QVBoxLayout, text: str, path: str, k: int) -> None:
        self._button(column, text, lambda: self._relist(text, path, lambda items: (*items[:k], *items[k + 1 :])))

    def _relist(self, text: str, path: str, change: Callable[[tuple[object, ...]], tuple[object, ...]]) -> None:
        """Offer another list at ``path``, made from the one that stands there now."""
        self.structural.emit(text, (*self._unshimmed(path), (path, change(get_value(self._job, path)))))

    def _unshimmed(self, path: str) -> tuple[tuple[str, object], ...]:
        """Shims and walls are listed per lug: with another number of lugs they are chosen again."""
        return (("bracket.shims_mm", None), ("bracket.boss_walls_mm", ())) if path == "knuckle.lugs" else ()

    def _add_record(self, column: QVBoxLayout, prefix: str, record: type) -> None:
        if prefix in ("wheel", "fit"):
            self._group(column, "Wheel" if prefix == "wheel" else "Fit")
        if prefix == "wheel":
            self._library_buttons(column, "wheel")
        for of in fields(record):
            if of.name in HIDDEN or of.name == "outline_mm":
                continue
            if of.meaning is None and of.name not in LISTS and of.name not in POINTS:
                continue  # a record inside a record: no field could hold it
            if of.name in GROUPS:
                self._group(column, GROUPS[of.name])
            path = f"{prefix}.{of.name}" if prefix else of.name
            self._add(column, field_for(path, of.name, meaning(of)))

    def _add(self, column: QVBoxLayout, box: FieldBox) -> None:
        self.boxes[box.path] = box
        box.committed.connect(self.committed)
        self._put(column, box)


def field_for(path: str, name: str, of: Meaning) -> FieldBox:
    """Return the field that fits a description."""
    if name in POINTS:
        label, help_text = POINTS[name]
        return PointsField(path, label, help_text, label.rpartition(":")[2].count("/") + 1)
    if name in LISTS:
        label, kind, empty = LISTS[name]
        return ListField(path, label, kind, of.help, empty)
    if name == "corner":
        return ChoiceField(path, of.label, CORNERS, of.help)
    if name == "material":
        return ChoiceField(path, of.label, (ASSUMED_METAL, *MATERIALS), of.help, none="not stated")
    if of.choices:
        none = "not stated" if "material" in name else ""
        return ChoiceField(path, of.label, of.choices, of.help, none)
    if of.thread:
        none = "plain hole" if name in ("thread", "ear_thread") else "not chosen"
        return ChoiceField(path, of.label, tuple(THREADS), of.help, none)
    if of.kind is None:
        return TextField(path, of.label, of.help)
    return QuantityField(path, of.label, of.kind, of.help, whole=of.kind is NUMBER)

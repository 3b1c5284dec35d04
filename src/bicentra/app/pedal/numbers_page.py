"""The vehicle's own numbers, column by column from the scales to the valve; part of the pedal bench."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QMenu, QPushButton, QToolButton, QVBoxLayout, QWidget

from bicentra.app.panels.section import Section
from bicentra.app.widgets.basics import clear_layout, menu_button, scrolled
from bicentra.app.widgets.fields import ChoiceField, FieldBox, ListField, QuantityField, TextField
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.numbers import is_known
from bicentra.core.base.quantities import LENGTH, MASS
from bicentra.core.base.wording import units_of
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.threads import THREADS
from bicentra.core.parts.vehicle import AXLES, Axle
from bicentra.study.desks.pedal import PedalDesk
from bicentra.study.desks.pedal_numbers import Group, NumberField, NumberPlace, columns_of, height_text, places_of

MOST_LISTED = 3


class NumbersPage(QWidget):
    """``given`` carries where a number stands in the file and what it becomes; ``drums`` an axle that gets drums, or
    loses them; ``elsewhere`` what is missing and has a sheet of its own; ``taken`` where a part from the library goes,
    and which; ``kept`` what goes to the library.
    """

    given = Signal(str, object)
    drums = Signal(str, bool)
    elsewhere = Signal(str)
    taken = Signal(object, int)
    kept = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.boxes: dict[str, FieldBox] = {}
        self.sections: dict[str, Section] = {}
        self.kinds: dict[str, QPushButton] = {}
        self.shelves: dict[str, QToolButton] = {}
        self._built: tuple[tuple[Group, ...], ...] = ()
        self._desk: PedalDesk | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        top = QHBoxLayout()
        self.lacks = plain_label()
        self.lacks.setObjectName("head")
        self.lacks.setWordWrap(True)
        self.go = QPushButton("Type the next")
        self.go.setToolTip("Go to the first number that is missing, in the order of measuring")
        self.go.clicked.connect(self.go_to_next)
        top.addWidget(self.lacks, 1)
        top.addWidget(self.go)
        column.addLayout(top)
        inside = QFrame()
        inside.setObjectName("panelBody")
        self._columns = QHBoxLayout(inside)
        self._columns.setContentsMargins(8, 8, 8, 8)
        self._columns.setSpacing(14)
        column.addWidget(scrolled(inside), 1)

    def show_desk(self, desk: PedalDesk) -> None:
        """Show the numbers of the vehicle of ``desk``; the fields are made again only where others are asked for."""
        self._desk = desk
        wanted = columns_of(desk.vehicle)
        anew = wanted != self._built
        if anew:
            self._build(wanted)
        units = units_of(desk.study.job.display_units)
        for path, box in self.boxes.items():
            try:
                value = get_value(desk.vehicle, path)
            except KeyError:
                value = None
            if isinstance(box, ChoiceField | TextField):
                box.show_value(value, units)
        self._count()
        if anew:
            self.fold()
        lacks = desk.missing_text
        self.lacks.setText(f"Still missing: {lacks}." if lacks else "Nothing missing.")
        self.go.setVisible(bool(lacks))

    def go_to_next(self) -> None:
        """Put the cursor into the first field that is missing; what has a sheet of its own is asked for there."""
        lacking = self._desk.missing if self._desk is not None else ()
        if not lacking:
            return
        path = lacking[0][0]
        box = self.boxes.get(path)
        if box is None:
            self.elsewhere.emit(path)
        else:
            self._unfold(box)
            box.setFocus(Qt.FocusReason.TabFocusReason)

    def refuse(self, path: str, message: str) -> None:
        """Say below a field why it was not taken."""
        if path in self.boxes:
            self._unfold(self.boxes[path])
            self.boxes[path].refuse(message)

    def _unfold(self, box: FieldBox) -> None:
        next(one for one in self.sections.values() if one.isAncestorOf(box)).open(True)

    def _build(self, wanted: tuple[tuple[Group, ...], ...]) -> None:
        self._built = wanted
        self.boxes, self.shelves, self.sections = {}, {}, {}
        clear_layout(self._columns)
        for groups in wanted:
            side, column = QWidget(), QVBoxLayout()
            side.setLayout(column)
            column.setContentsMargins(0, 0, 0, 0)
            column.setSpacing(2)
            for group in groups:
                self._group(column, group)
            self._kind_of_brake(column, groups[0].title.split()[0].lower())
            column.addStretch(1)
            self._columns.addWidget(side, 1)

    def _group(self, column: QVBoxLayout, group: Group) -> None:
        """Put a group's numbers under a head that folds them, with the library above them where parts of that kind lie."""
        section = self.sections[group.title] = Section(group.title)
        column.addWidget(section)
        self._shelf(section.fields, group.title)
        for field in group.fields:
            box = _box_for(field)
            box.committed.connect(self.given)
            self.boxes[field.path] = box
            section.fields.addWidget(box)
        if group.title == "Vehicle":
            self.scales = TwoScales(self._height, self._take_height)
            section.fields.addWidget(self.scales)

    def fold(self) -> None:
        """Show the groups in which a number is missing; the others are folded to their names."""
        lacking = {path for path, _ in self._desk.missing} if self._desk is not None else set()
        for groups in self._built:
            for group in groups:
                self.sections[group.title].open(any(field.path in lacking for field in group.fields))

    def _count(self) -> None:
        """Say at each head how many of its numbers are there."""
        for groups in self._built:
            for group in groups:
                there = sum(self._given_there(field.path) for field in group.fields)
                self.sections[group.title].head.setText(f"{group.title}: {there} of {len(group.fields)}")

    def _given_there(self, path: str) -> bool:
        try:
            value = get_value(self._desk.vehicle, path) if self._desk is not None else None
        except KeyError:
            value = None
        return value not in (None, "", ())

    def _shelf(self, column: QVBoxLayout, title: str) -> None:
        place = places_of(self._desk.vehicle).get(title) if self._desk is not None else None
        if place is not None:
            help = "Take a part's numbers from the library, or keep these there; it can be taken back"
            library_button = menu_button("From the library…", help, lambda menu: self._fill(menu, place))
            library_button.setAccessibleName(f"{title}: take from the library, or keep there")
            column.addWidget(library_button)
            self.shelves[title] = library_button

    def _fill(self, menu: QMenu, place: NumberPlace) -> None:
        """Offer what lies on the library for ``place``, and to keep what is there."""
        for number, text in enumerate(self._desk.in_library(place.kind) if self._desk is not None else ()):
            menu.addAction(text.replace("&", "&&"), partial(self.taken.emit, place, number))
        for problem in self._desk.library.problems[:MOST_LISTED] if self._desk is not None else ():
            menu.addAction(f"Skipped: {problem}".replace("&", "&&")).setEnabled(False)
        menu.addSeparator()
        menu.addAction("Keep these numbers in the library…", lambda: self.kept.emit(place))

    def _kind_of_brake(self, column: QVBoxLayout, name: str) -> None:
        """Offer the other kind of brake for an end."""
        if name not in AXLES or self._desk is None:
            return
        has = self._desk.vehicle.axles.get(name, Axle()).drum is not None
        button = QPushButton("It has discs" if has else "It has drums")
        button.setToolTip("Ask for the numbers of the other kind of brake at this end; it can be taken back")
        button.clicked.connect(lambda: self.drums.emit(name, not has))
        column.addWidget(button)
        self.kinds[name] = button

    def _height(self, lifted: float, lift: float) -> float:
        return height_text(self._desk.vehicle, lifted, lift) if self._desk is not None else float("nan")

    def _take_height(self, height: float) -> None:
        self.given.emit("vehicle.cg_height_mm", height)


class TwoScales(QFrame):
    """The height of the centre of gravity from two weighings. ``ask`` returns it, ``take`` keeps it [mm]."""

    def __init__(self, ask: Callable[[float, float], float], take: Callable[[float], None]) -> None:
        super().__init__()
        self._ask, self._take = ask, take
        self._given: dict[str, float] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 4)
        self.fields = {
            "lifted": QuantityField("lifted", "Height by scales: front axle load, rear lifted", MASS),
            "lift": QuantityField("lift", "… lifted by, at the axle", LENGTH),
        }
        for box in self.fields.values():
            box.committed.connect(self._typed)
            column.addWidget(box)
        self.use = QPushButton()
        self.use.clicked.connect(self._use)
        self.use.hide()
        self.note = plain_label()
        self.note.setObjectName("faint")
        self.note.setWordWrap(True)
        self.note.hide()
        column.addWidget(self.note)
        column.addWidget(self.use)

    def _typed(self, name: str, value: object) -> None:
        if isinstance(value, int | float):
            self._given[name] = float(value)
        else:
            self._given.pop(name, None)
        both = len(self._given) == len(self.fields)
        height = self._ask(self._given["lifted"], self._given["lift"]) if both else float("nan")
        self.use.setVisible(is_known(height))
        self.use.setText(f"Take {height:.0f} mm" if is_known(height) else "")
        self.note.setVisible(both and not is_known(height))
        self.note.setText(
            "Needs mass, level front load, wheelbase and front tyre; lifted, the front must weigh more than level."
        )

    def _use(self) -> None:
        self._take(round(self._ask(self._given["lifted"], self._given["lift"]), 1))


def _box_for(field: NumberField) -> FieldBox:
    """Return the field that fits what is asked."""
    path, text = field.path, field.text
    if field.several is not None:
        return ListField(
            path, text.label, field.several, "All pistons of one caliper on that side, with ; between them"
        )
    if text.thread:
        return _narrow(ChoiceField(path, text.label, tuple(THREADS), text.help, "not stated"))
    if text.choices:
        return _narrow(ChoiceField(path, text.label, text.choices, text.help, "not stated" if field.free else ""))
    if text.kind is None:
        return TextField(path, text.label, text.help)
    return QuantityField(path, text.label, text.kind, text.help)


def _narrow(box: ChoiceField) -> ChoiceField:
    """Return a choice that takes no more width than its column has."""
    box.editor.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
    box.editor.setMinimumContentsLength(4)
    return box

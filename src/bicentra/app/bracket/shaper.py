"""Working on the plate where it is drawn: pulled, typed over, lightened; every change goes to the study, or says why not."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QObject, QRectF, Signal
from PySide6.QtWidgets import QInputDialog, QMenu, QWidget

from bicentra.app.widgets.fields import FieldOver
from bicentra.core.base.errors import BicentraError
from bicentra.core.base.finding import Edit
from bicentra.core.base.quantities import ANGLE, LENGTH, NUMBER, edit_text, parse_quantity
from bicentra.core.base.wording import POUND_KG, units_of
from bicentra.core.drawing.model import Handle
from bicentra.core.evaluation.solution import Solution
from bicentra.study.desks.shaping import ADDED, allowed, lighten, pull_edits, standing_value, taken_away, typed_edits
from bicentra.study.document.study import Study

TYPED = {
    "bracket.lug_washers": "washers under each head at the lugs", "bracket.caliper_washers": "washers under each head at the ears",
    "bracket.lug_bolt_length_mm": "lug bolts' length", "bracket.caliper_bolt_length_mm": "caliper bolts' length",
    "bracket.thickness_mm": "plate thickness", "bracket.shims_mm": "shims at the lug", "bracket.cutouts": "the cutout",
}  # fmt: skip
"""What can be typed over on a drawing of this bench, in words."""


class Shaper(QObject):
    """``refused`` carries field and reason of what is not taken, ``message`` what has been done."""

    refused = Signal(str, str)
    message = Signal(str)

    def __init__(self, owner: QWidget) -> None:
        super().__init__(owner)
        self.owner = owner
        self.study: Study | None = None
        self.field = FieldOver(self)
        self.paths: tuple[str, ...] = ()

    def lighten(self) -> None:
        """Ask for a mass and cut holes until the plate weighs it."""
        if self.study is None:
            return
        now, lengths = self.study.plain_solution.mass_kg, self.study.job.lengths
        pound = POUND_KG if lengths.units == "in" else 1.0
        asked, given = QInputDialog.getDouble(
            self.owner,
            "Lighten the plate",
            f"It weighs {lengths.mass(now, 3)}. Lighten it to, {'lb' if lengths.units == 'in' else 'kg'}:",
            round(now * 0.85 / pound, 3),
            0.001,
            100.0,
            3,
        )
        if given:
            self.lighten_to(asked * pound)

    def lighten_to(self, target_kg: float) -> None:
        """Cut holes until the plate weighs ``target_kg``, or there is no more room."""
        if self.study is None:
            return
        try:
            edits = lighten(self.study.plain_solution, target_kg)
        except BicentraError as error:
            self.refused.emit("", str(error))
            return
        if self.change(f"Lighten the plate towards {self.study.job.lengths.mass(target_kg, 3)}", edits):
            mass = self.study.job.lengths.mass(self.study.plain_solution.mass_kg, 3)
            self.message.emit(f"The plate weighs {mass} now; its strength is not calculated yet")

    def fill_adding(self, menu: QMenu) -> None:
        """Offer what can be added to the plate."""
        for what, made in ADDED.items():
            menu.addAction(f"Add a {what}", partial(self._add, what, made))
        menu.addAction("Chamfer all round…", self._chamfer)

    def fill_taking(self, menu: QMenu) -> None:
        """Offer to remove whatever shapes the plate."""
        found = taken_away(self.study.plain_solution) if self.study is not None else ()
        for what, edits in found:
            menu.addAction(f"Remove {what}", partial(self.change, f"Remove {what}", edits))
        if not found:
            menu.addAction("Nothing shapes the plate yet").setEnabled(False)

    def _add(self, what: str, made: Callable[[Solution], tuple[Edit, ...]]) -> None:
        if self.study is None:
            return
        try:
            edits = made(self.study.plain_solution)
        except BicentraError as error:
            self.refused.emit("", str(error))
            return
        if self.change(f"Add a {what}", edits):
            self.message.emit(f"Added a {what} where most room is: pull it where you want it")

    def _chamfer(self) -> None:
        if self.study is None:
            return
        now = self.study.job.bracket.chamfer_mm or 1.0
        asked, given = QInputDialog.getDouble(
            self.owner, "Chamfer", "Size of the chamfer, mm; 0: none", now, 0.0, 20.0, 1
        )
        if given:
            self.change("Chamfer the edges", (("bracket.chamfer_mm", asked),))

    def drag(self, handle: Handle, value: float) -> None:
        """Pull a boss, an edge, a cutout or a dowel as far as the findings allow; what is held back says why."""
        if self.study is None:
            return
        reached, why = allowed(self.study.plain_solution, handle.path, value)
        if why:
            self.refused.emit(handle.path, why)
        self.change(handle.name, pull_edits(self.study.job, handle.path, reached), f"drag {handle.path}", quick=True)

    def release(self) -> None:
        """A pull has ended: what it changed is one step."""
        if self.study is not None:
            self.study.end_group()

    def type_over(self, path: str, rect: QRectF) -> None:
        """Open a field over a bolt's length or the number of washers; empty lets Bicentra choose."""
        view = self.sender()
        if self.study is None or not isinstance(view, QWidget):
            return
        now, counted = standing_value(self.study.plain_solution, path), path.endswith("_washers")
        kind = ANGLE if path.endswith("_deg") else LENGTH
        shown = str(now) if counted else edit_text(now, kind, units_of(self.study.job.display_units))
        name = f"{TYPED.get(path.partition('[')[0], path)}; empty: Bicentra chooses"
        self.field.open(view, rect, shown, name, lambda text: self._take_typed(path, text))

    def _take_typed(self, path: str, text: str) -> bool:
        if self.study is None:
            return True
        counted = path.endswith("_washers")
        kind, unit = (NUMBER, "") if counted else (LENGTH, units_of(self.study.job.display_units))
        if path.endswith("_deg"):
            kind, unit = ANGLE, ""
        try:
            value: object = parse_quantity(text, kind, unit) if text.strip() else None
        except BicentraError as error:
            self.refused.emit(path, str(error))
            return False
        if counted and isinstance(value, float) and value == int(value):
            value = int(value)
        edits = typed_edits(self.study.plain_solution, path, value)
        return self.change(f"Change {TYPED.get(path.partition('[')[0], path)}", edits)

    def cancel(self) -> None:
        """Take back what the present pull has changed."""
        if self.study is not None:
            for path in self.paths:
                self.study.cancel_group(f"drag {path}")

    def change(self, label: str, edits: tuple[tuple[str, object], ...], group: str = "", quick: bool = False) -> bool:
        """Take ``edits`` as one step, or say why not; ``group``: steps of one pull become one, ``quick`` while it lasts."""
        if self.study is None:
            return False
        try:
            self.study.edit(label, edits, group, quick)
        except BicentraError as error:
            self.refused.emit(getattr(error, "path", ""), str(error))
            return False
        return True

"""Working on the plate where it is drawn: pulled, typed over, lightened; every change goes to the study, or says why not."""

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QInputDialog, QWidget

from bicentra.core.base.errors import BicentraError
from bicentra.core.base.quantities import LENGTH, NUMBER, edit_text, parse_quantity
from bicentra.core.base.wording import units_of
from bicentra.core.drawing.model import Handle
from bicentra.core.parts.edits import get_value
from bicentra.study.shaping import LEAST_WALL_MM, MOST_WALL_MM, allowed, bosses, lighten
from bicentra.study.study import Study


class Shaper(QObject):
    """``refused`` carries field and reason of what is not taken, ``told`` what has been done."""

    refused = Signal(str, str)
    told = Signal(str)

    def __init__(self, owner: QWidget) -> None:
        super().__init__(owner)
        self.owner = owner
        self.study: Study | None = None

    def lighten(self) -> None:
        """Ask for a mass and cut holes until the plate weighs it."""
        if self.study is None:
            return
        now = self.study.plain_solution.plate.mass_kg
        asked, given = QInputDialog.getDouble(
            self.owner,
            "Lighten the plate",
            f"It weighs {now:.3f} kg. Lighten it to, kg:",
            round(now * 0.85, 3),
            0.001,
            100.0,
            3,
        )
        if given:
            self.lighten_to(asked)

    def lighten_to(self, target_kg: float) -> None:
        """Cut holes until the plate weighs ``target_kg``, or there is no more room."""
        if self.study is None:
            return
        try:
            edits = lighten(self.study.plain_solution, target_kg)
        except BicentraError as error:
            self.refused.emit("", str(error))
            return
        if self.change(f"Lighten the plate towards {target_kg:g} kg", edits):
            mass = self.study.plain_solution.plate.mass_kg
            self.told.emit(f"The plate weighs {mass:.3f} kg now; nothing is computed of its strength yet")

    def drag(self, handle: Handle, value: float) -> None:
        """Move a cutout as far as its metal allows; what is held back says why."""
        if self.study is None:
            return
        if handle.path.startswith("bracket.boss_walls_mm"):
            walls = list(bosses(self.study.job))
            walls[int(handle.path[:-1].rpartition("[")[2])] = min(max(value, LEAST_WALL_MM), MOST_WALL_MM)
            self.change(handle.name, (("bracket.boss_walls_mm", tuple(walls)),), f"drag {handle.path}")
            return
        reached, why = allowed(self.study.plain_solution, handle.path, value)
        if why:
            self.refused.emit(handle.path, why)
        self.change(handle.name, ((handle.path, reached),), f"drag {handle.path}")

    def release(self) -> None:
        """A pull has ended: what it changed is one step."""
        if self.study is not None:
            self.study.end_group()

    def type_over(self, path: str, _rect: object) -> None:
        """Ask for another bolt length, another number of washers; empty lets Bicentra choose."""
        study = self.study
        if study is None:
            return
        counted = path.endswith("_washers")
        units = units_of(study.job.display_units)
        now = get_value(study.job, path)
        shown = str(now) if counted else edit_text(now, LENGTH, units)
        what = "Washers under each head" if counted else "Bolt length, under the head; empty: chosen from stock"
        text, given = QInputDialog.getText(self.owner, "The stack", what, text=shown)
        if not given:
            return
        try:
            kind, unit = (NUMBER, "") if counted else (LENGTH, units)
            value: object = parse_quantity(text, kind, unit) if text.strip() else None
        except BicentraError as error:
            self.refused.emit(path, str(error))
            return
        if counted and isinstance(value, float) and value == int(value):
            value = int(value)
        self.change(f"Change {what.split(',')[0].lower()}", ((path, value),))

    def cancel(self) -> None:
        """Take back what the present pull has changed."""
        if self.study is not None:
            for k in range(len(self.study.job.knuckle.lugs) + 2):
                self.study.cancel_group(f"drag bracket.boss_walls_mm[{k}]")
            for k in range(len(self.study.job.bracket.cutouts)):
                for name in ("x_mm", "y_mm", "diameter_mm"):
                    self.study.cancel_group(f"drag bracket.cutouts[{k}].{name}")

    def change(self, label: str, edits: tuple[tuple[str, object], ...], group: str = "") -> bool:
        """Take ``edits`` as one step, or say why not; ``group``: steps of one pull become one."""
        if self.study is None:
            return False
        try:
            self.study.edit(label, edits, group)
        except BicentraError as error:
            self.refused.emit(getattr(error, "path", ""), str(error))
            return False
        return True

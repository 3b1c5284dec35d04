"""Taking parts from the library into the job and putting them there, for the window."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject

from bicentra.app import library
from bicentra.core.base.errors import BicentraError
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.parts.library import Item
from bicentra.core.parts.wheel import Wheel
from bicentra.study.library.library import keep_part, whole_shelf

if TYPE_CHECKING:
    from bicentra.app.window import MainWindow


class ShelfKeeper(QObject):
    """Each errand is one step of the history, or none."""

    def __init__(self, window: "MainWindow") -> None:
        super().__init__(window)
        self._window = window

    def take(self, kind: str) -> None:
        """Ask for a rotor, caliper or wheel of the library and put it in place of the job's."""
        job = self._window.study.job
        now = self._part(kind)
        part = library.ask_part(self._window, whole_shelf(), now, LengthFormat(units_of(job.display_units)))
        if part is not None:
            self._window.bench.change(f"Take {part.name} from the library", ((kind, part.item),))

    def _part(self, kind: str) -> Item:
        job = self._window.study.job
        parts: dict[str, Item] = {"rotor": job.rotor, "caliper": job.caliper, "wheel": job.wheel or Wheel()}
        return parts[kind]

    def keep(self, kind: str) -> None:
        """Put the job's rotor, caliper or wheel into the user's own library."""
        job = self._window.study.job
        try:
            path = keep_part(self._part(kind), f"Kept from “{job.title or 'an untitled job'}”")
        except BicentraError as error:
            self._window.say(str(error))
        else:
            self._window.say(f"Kept: {path}", wrong=False)

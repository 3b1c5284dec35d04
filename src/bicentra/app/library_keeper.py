"""Taking parts from the library into the job and putting them there, for the window."""

from PySide6.QtCore import QObject

from bicentra.app import part_dialog
from bicentra.app.host import Host
from bicentra.core.base.errors import BicentraError
from bicentra.core.parts.library import Item
from bicentra.core.parts.wheel import Wheel
from bicentra.study.library.library import keep_part, whole_library


class LibraryKeeper(QObject):
    """Each command is one step of the history, or none."""

    def __init__(self, host: Host) -> None:
        super().__init__(host.frame)
        self._host = host

    def take(self, kind: str) -> None:
        """Ask for a rotor, caliper or wheel of the library and put it in place of the job's."""
        job = self._host.study.job
        now = self._part(kind)
        part = part_dialog.ask_part(self._host.frame, whole_library(), now, job.lengths)
        if part is not None:
            self._host.change(f"Take {part.name} from the library", ((kind, part.item),))

    def _part(self, kind: str) -> Item:
        job = self._host.study.job
        parts: dict[str, Item] = {"rotor": job.rotor, "caliper": job.caliper, "wheel": job.wheel or Wheel()}
        return parts[kind]

    def keep(self, kind: str) -> None:
        """Put the job's rotor, caliper or wheel into the user's own library."""
        job = self._host.study.job
        try:
            path = keep_part(self._part(kind), f"Kept from “{job.title or 'an untitled job'}”")
        except BicentraError as error:
            self._host.say(str(error))
        else:
            self._host.say(f"Kept: {path}", wrong=False)

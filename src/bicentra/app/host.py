"""What the keepers of files, papers, parts and corners need of the window they work for, and no more."""

from typing import Protocol

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QWidget

from bicentra.app.single_instance import SingleInstance
from bicentra.app.workers import Task
from bicentra.core.base.finding import Edit
from bicentra.study.document.study import Study


class Host(Protocol):
    """The window as its keepers see it."""

    study: Study
    bell: SingleInstance
    settings: QSettings

    @property
    def frame(self) -> QWidget:
        """What dialogs stand before."""

    def take(self, study: Study) -> None:
        """Work on ``study`` from now on."""

    def change(self, label: str, edits: tuple[Edit, ...]) -> bool:
        """Carry out ``edits`` as one step; a refusal is shown."""

    def say(self, message: str, wrong: bool = True) -> None:
        """Show a message for a while."""

    def watch(self, task: Task) -> None:
        """Show the progress of a task, and start it."""

    def begin(self, from_library: bool) -> None:
        """Begin with a new job: its parts from the library first, if so, then what is measured first."""

    def fit(self) -> None:
        """Show everything on the bench in front."""

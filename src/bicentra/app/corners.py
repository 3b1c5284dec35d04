"""The corner that is worked on, at the top of the window: which it is, which there are, going from one to another."""

from PySide6.QtWidgets import QMenu, QToolButton, QWidget

from bicentra.app.actions import take_typing
from bicentra.app.host import Host
from bicentra.app.widgets.menus import menu_button
from bicentra.app.widgets.plain import plain_menu
from bicentra.core.parts.job import Job


class CornerSwitch:
    """A button with the corner's name; its menu lists every corner with how much is known of it."""

    def __init__(self, host: Host) -> None:
        self._host = host
        self._button: QToolButton | None = None

    def button(self, help: str) -> QToolButton:
        """Return the button, made once for the header."""
        self._button = menu_button("", help, self._fill)
        return self._button

    def show(self, job: Job) -> None:
        """Name the corner of ``job``, and say when its hub or knuckle is the other side's."""
        text = f"{named(job.corner).capitalize()}{' · borrowed' if job.borrowed else ''}  ↓"
        if self._button is not None and text != self._button.text():
            self._button.setText(text)
            self._button.setAccessibleName(f"Corner: {text.removesuffix('  ↓')}")

    def _fill(self, menu: QMenu) -> None:
        for name, known in self._host.study.corners:
            action = menu.addAction(plain_menu(f"{named(name)}   –   {known}"))
            action.setCheckable(True)
            action.setChecked(name == self._host.study.job.corner)
            action.triggered.connect(lambda _checked=False, name=name: self.go_to(name))

    def go_to(self, corner: str) -> None:
        """Work on another corner, on every bench."""
        if isinstance(self._host, QWidget):
            take_typing(self._host)
        self._host.study.go_to(corner)
        self._host.fit()

    def to_next(self) -> None:
        """Go round the corners that something is known of."""
        study = self._host.study
        known = [name for name, told in study.corners if told != "nothing yet"]
        if study.job.corner in known:
            self.go_to(known[(known.index(study.job.corner) + 1) % len(known)])


def named(corner: str) -> str:
    """Return a corner's name as it is read."""
    return corner.replace("-", " ")

"""One window a file: whoever opens a file that a window has already rings there, and that window comes to the front."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject

from bicentra.core.base.errors import BicentraError
from bicentra.study.document.store import state_folder

if TYPE_CHECKING:
    from PySide6.QtNetwork import QLocalServer

PATIENCE_MS = 300
LONGEST_NAME = 100
"""The system's sockets take no longer names."""


def bell_of(path: Path) -> str:
    """Return the name of the bell of the file at ``path``; empty where it can have none."""
    import hashlib

    try:
        whole = str(path.resolve())
        name = str(state_folder() / f"bell-{hashlib.sha256(whole.encode(errors='surrogateescape')).hexdigest()[:16]}")
    except (BicentraError, OSError):
        return ""
    return name if len(name) <= LONGEST_NAME else ""


def ring(path: Path) -> bool:
    """Ring at the window that has ``path`` open; False when there is none."""
    name = bell_of(path)
    if not name:
        return False
    from PySide6.QtNetwork import QLocalSocket

    socket = QLocalSocket()
    socket.connectToServer(name)
    heard = socket.waitForConnected(PATIENCE_MS)
    socket.disconnectFromServer()
    return heard


class SingleInstance(QObject):
    """The bell of the file that this window has open. ``rung`` is called each time somebody else opens it."""

    def __init__(self, parent: QObject, rung: Callable[[], None]) -> None:
        super().__init__(parent)
        self._rung = rung
        self._server: QLocalServer | None = None
        self._name = ""

    def hang(self, path: Path | None) -> None:
        """Listen for ``path`` from now on, for nothing else; a bell that another window has hung is left alone."""
        name = bell_of(path) if path is not None else ""
        if name == self._name:
            return
        self.take_down()
        if not name or path is None or ring(path):
            return
        from PySide6.QtNetwork import QLocalServer

        QLocalServer.removeServer(name)  # nobody answers: left behind by a window that was killed
        server = QLocalServer(self)
        server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        if server.listen(name):
            server.newConnection.connect(self._heard)
            self._server, self._name = server, name

    def take_down(self) -> None:
        """Listen no longer."""
        if self._server is not None:
            self._server.close()
            self._server.deleteLater()
        self._server, self._name = None, ""

    def _heard(self) -> None:
        if self._server is not None:
            caller = self._server.nextPendingConnection()
            caller.disconnected.connect(caller.deleteLater)
            self._rung()

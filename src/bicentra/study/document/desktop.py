"""The program in the user's desktop: menu entry, kind of file, icons, description; put in and taken out again.

By the specifications of freedesktop.org: Desktop Entry, Shared MIME-info, Icon Theme, AppStream.
"""

import os
import shutil
import subprocess
import sys
from pathlib import Path

from bicentra.core.base.errors import StoreError
from bicentra.data import data_path
from bicentra.study.document.store import shown, write_atomic

SIZES = (16, 24, 32, 48, 64, 128, 256)
ENTRY, KIND, ABOUT = "bicentra.desktop", "bicentra.xml", "bicentra.metainfo.xml"
CACHES = (("update-desktop-database", "applications"), ("update-mime-database", "mime"))
"""Programs that read such folders again, where the desktop has them."""


def data_home() -> Path:
    """Return the user's folder for what desktops read (XDG Base Directory)."""
    asked = os.environ.get("XDG_DATA_HOME", "")
    return Path(asked) if asked.startswith("/") else Path.home() / ".local" / "share"


def files(home: Path) -> dict[Path, bytes]:
    """Return every file that is put below ``home``, with what it holds."""
    entry = data_path("desktop", ENTRY).read_text("utf-8").replace("@COMMAND@", command())
    found = {
        home / "applications" / ENTRY: entry.encode(),
        home / "mime" / "packages" / KIND: data_path("desktop", KIND).read_bytes(),
        home / "metainfo" / ABOUT: data_path("desktop", ABOUT).read_bytes(),
        home / "icons/hicolor/scalable/apps/bicentra.svg": data_path("icons", "bicentra.svg").read_bytes(),
    }
    for size in SIZES:
        place = home / f"icons/hicolor/{size}x{size}/apps/bicentra.png"
        found[place] = data_path("icons", f"bicentra-{size}.png").read_bytes()
    return found


def command() -> str:
    """Return how this very program is started, quoted as a desktop entry wants it."""
    beside = Path(sys.executable).with_name("bicentra")
    words = [str(beside)] if beside.exists() else [sys.executable, "-m", "bicentra"]
    return " ".join(_quoted(word) for word in words)


def _quoted(word: str) -> str:
    """Return ``word`` in quotes, what is special in them escaped, as in a string whose backslashes are escaped once more."""
    for sign in ("\\", '"', "`", "$"):
        word = word.replace(sign, f"\\{sign}")
    return f'"{word}"'.replace("%", "%%").replace("\\", "\\\\")


def put_in(home: Path | None = None) -> tuple[Path, ...]:
    """Put the program into the user's desktop; returns what was written. Raises ``StoreError``."""
    base = home or data_home()
    for path, data in files(base).items():
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise StoreError(f"{shown(path.parent)}: {error.strerror or error}") from error
        write_atomic(path, data)
    _refresh(base)
    return tuple(files(base))


def take_out(home: Path | None = None) -> tuple[Path, ...]:
    """Take away every file that ``put_in`` writes; returns those that were there. Raises ``StoreError``."""
    base = home or data_home()
    gone = tuple(path for path in files(base) if path.exists())
    for path in gone:
        try:
            path.unlink()
        except OSError as error:
            raise StoreError(f"{shown(path)}: {error.strerror or error}") from error
    _refresh(base)
    return gone


def _refresh(base: Path) -> None:
    """Let the desktop read its folders again; one that cannot does so by itself sooner or later."""
    for program, folder in CACHES:
        if shutil.which(program) and (base / folder).is_dir():
            subprocess.run([program, str(base / folder)], check=False, capture_output=True, timeout=60)

"""The program as a citizen of the desktop: menu entry, kind of file, one window a file, dropped files, help, licences."""

import os
import re
import shutil
import subprocess
import sys
import xml.etree.ElementTree as ElementTree
from importlib.metadata import requires
from pathlib import Path

import pytest
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent, QImage
from PySide6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from bicentra.app.help import LIBRARIES, PAGES, about_text, page_text, show_help
from bicentra.app.single_instance import SingleInstance, bell_of, ring
from bicentra.cli import main
from bicentra.data import data_path
from bicentra.study.document import store
from bicentra.study.document.desktop import ENTRY, KIND, SIZES, _quoted, files, put_in, take_out
from bicentra.study.document.starting import demo_vehicle, empty_job
from tests.app.conftest import Opener


def test_installing_writes_what_desktops_read_and_uninstalling_takes_it_away(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """By the Desktop Entry and Shared MIME-info specifications (freedesktop.org, from memory): keys, glob, icons; only our own files go."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    kept = tmp_path / "applications" / "other.desktop"
    kept.parent.mkdir()
    kept.write_text("mine")
    assert main(["desktop", "install"]) == 0
    entry = dict(
        line.split("=", 1) for line in (tmp_path / "applications" / ENTRY).read_text().splitlines() if "=" in line
    )
    assert (
        entry["Type"] == "Application"
        and entry["MimeType"] == "application/x-bicentra+json;"
        and entry["Exec"].endswith(" %f")
    )
    program = re.findall(r'"([^"]+)"', entry["Exec"])
    assert Path(program[0]).exists() and subprocess.run([*program, "--version"], capture_output=True, check=True).stdout
    kind = ElementTree.parse(tmp_path / "mime" / "packages" / KIND).getroot()
    assert [glob.attrib["pattern"] for glob in kind.iter() if glob.tag.endswith("glob")] == ["*.bicentra.json"]
    for size in SIZES:
        assert QImage(str(tmp_path / f"icons/hicolor/{size}x{size}/apps/bicentra.png")).size().width() == size
    assert main(["desktop", "uninstall"]) == 0
    assert kept.read_text() == "mine" and not any(path.exists() for path in files(tmp_path))
    assert take_out(tmp_path) == () and len(put_in(tmp_path)) == len(files(tmp_path))


@pytest.mark.skipif(shutil.which("appstreamcli") is None, reason="this machine has no AppStream tool")
def test_the_description_is_valid(tmp_path: Path) -> None:
    """Judged by the AppStream project's own validator."""
    path = tmp_path / "local.bicentra.Bicentra.metainfo.xml"
    path.write_bytes(data_path("desktop", "bicentra.metainfo.xml").read_bytes())
    done = subprocess.run(
        ["appstreamcli", "validate", "--no-net", str(path)], capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stdout


def test_a_path_with_signs_is_quoted() -> None:
    """A folder with blanks, quotes, dollars and percent signs."""
    assert _quoted("/a b/c") == '"/a b/c"' and _quoted('a"$%') == '"a\\\\"\\\\$%%"'


def test_one_window_a_file(qtbot: QtBot, tmp_path: Path) -> None:
    """A ring is heard by the window that hung the bell first; a bell left behind by a killed one is hung anew; taken down, silence."""
    path = tmp_path / "j.bicentra.json"
    path.write_text("{}")
    heard: list[int] = []
    frames = QWidget(), QWidget()
    first, second = (SingleInstance(frame, lambda k=k: heard.append(k)) for k, frame in enumerate(frames, 1))
    assert not ring(path)
    first.hang(path)
    second.hang(path)
    assert ring(path)
    qtbot.waitUntil(lambda: 1 in heard, timeout=3000)
    assert 2 not in heard
    first.take_down()
    assert not ring(path)
    Path(bell_of(path)).touch()
    second.hang(path)
    assert ring(path)
    second.take_down()


def test_opening_a_file_twice_brings_its_window_forward(qtbot: QtBot, open_window: Opener, tmp_path: Path) -> None:
    """The second program says so, ends well, and the window that has the file tells it."""
    path = tmp_path / "j.bicentra.json"
    store.save(demo_vehicle(), path)
    window = open_window(empty_job())
    window.files.open_path(path)
    second = subprocess.Popen(
        [sys.executable, "-m", "bicentra", str(path)], stdout=subprocess.PIPE, env=dict(os.environ)
    )
    qtbot.waitUntil(lambda: second.poll() is not None, timeout=60000)
    text = second.communicate()[0].decode()
    assert second.returncode == 0 and "open in another window" in text
    qtbot.waitUntil(lambda: "opened again" in window.footer.message.text(), timeout=3000)


def test_a_dropped_job_is_opened(open_window: Opener, tmp_path: Path) -> None:
    """One job's file is taken; a picture or two files are not."""
    path = tmp_path / "j.bicentra.json"
    store.save(demo_vehicle(), path)
    window = open_window(empty_job())
    for urls, opened in (([tmp_path / "a.png"], False), ([path, path], False), ([path], True)):
        data = QMimeData()
        data.setUrls([QUrl.fromLocalFile(str(one)) for one in urls])
        event = QDropEvent(
            QPointF(5, 5), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
        )
        window.dropEvent(event)
        assert (window.study.path == path) == opened


def test_every_bench_has_its_page(open_window: Opener) -> None:
    """Help opens at the bench in front; every page is there, its pictures are found; every letter of the pictures has its word."""
    window = open_window()
    for name in window.bench_bar.buttons:
        window.show_bench(name)
        dialog = show_help(window, window.benches.front)
        assert PAGES[name] in dialog.browser.toPlainText()
        dialog.close()
    words = page_text("words")
    drawn = ""
    for picture in re.findall(r"\((words-[a-z]+\.svg)\)", words):
        data = data_path("help", picture).read_text()
        drawn += "".join(sorted(re.findall(r">([A-Z])</text>", data)))
    assert drawn == "".join(re.findall(r"\*\*([A-Z])  ", words))
    assert "TRIAL ONLY" in page_text("papers") and len(page_text("sheets")) > 300


def test_about_names_every_library() -> None:
    """Whatever the project installs stands there with its licence, and so does the warning."""
    needed = {re.match(r"[\w-]+", one).group(0).lower() for one in requires("bicentra") or () if "extra" not in one}  # type: ignore[union-attr]
    assert {name.lower() for name in LIBRARIES} == needed
    text = about_text()
    assert "Brakes can kill" in text and "Open Font License" in text and "(not found)" not in text

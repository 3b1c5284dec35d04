"""Photos: copied beside the job, smaller, turned as they were held, and without what the camera wrote into them."""

from pathlib import Path

import pytest
from PIL import Image
from PySide6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from bicentra.app.cover.bench import CoverBench
from bicentra.app.widgets.photos import PhotoDialog
from bicentra.core.base.errors import StoreError
from bicentra.study.document import store
from bicentra.study.document.photos import LARGEST_PX, carry, folder_of, path_of, take_photo
from bicentra.study.document.starting import demo_vehicle
from tests.app.conftest import Opener

GPS, ORIENTATION, MAKER = 0x8825, 0x0112, 0x010F
"""Tags of the Exif standard (CIPA DC-008, from memory): place, how it was held, maker of the camera."""


@pytest.fixture
def shot(tmp_path: Path) -> Path:
    """A lying picture, left half red, as a camera held upright writes it: with a place, a maker, and a turn to be made."""
    picture = Image.new("RGB", (3000, 2000), (30, 30, 30))
    picture.paste((200, 20, 20), (0, 0, 1500, 2000))
    exif = picture.getexif()
    exif[ORIENTATION], exif[MAKER] = 6, "a camera"
    exif.get_ifd(GPS)[2] = (52.0, 30.0, 0.0)
    path = tmp_path / "shot.jpg"
    picture.save(path, exif=exif)
    with Image.open(path) as written:
        assert written.getexif().get_ifd(GPS)
    return path


@pytest.fixture
def job(tmp_path: Path) -> Path:
    """A saved job."""
    path = tmp_path / "float.bicentra.json"
    store.save(demo_vehicle(), path)
    return path


def test_what_the_camera_wrote_stays_behind(shot: Path, job: Path) -> None:
    """No place, no maker, no Exif at all; 1600 dots; turned by a quarter as orientation 6 asks: the red half is on top."""
    name = take_photo(shot, job, "2026-05-04")
    with Image.open(folder_of(job) / name) as kept:
        assert not kept.getexif() and "exif" not in kept.info
        assert max(kept.size) == LARGEST_PX and kept.size[1] > kept.size[0]
        top, low = kept.getpixel((kept.width // 2, 100)), kept.getpixel((kept.width // 2, kept.height - 100))
    assert top[0] > 150 and low[0] < 90 and b"a camera" not in (folder_of(job) / name).read_bytes()
    assert take_photo(shot, job, "2026-05-04") != name and shot.exists()


def test_what_is_no_picture_is_refused(job: Path, tmp_path: Path) -> None:
    """A text, a cut-off file, nothing at all: one line, and nothing is left beside the job."""
    for data in (b"no picture", b"\xff\xd8\xff\xe0cut", b""):
        path = tmp_path / "x.jpg"
        path.write_bytes(data)
        with pytest.raises(StoreError, match=r"x\.jpg: found no picture"):
            take_photo(path, job, "2026-05-04")
    with pytest.raises(StoreError):
        take_photo(tmp_path / "gone.jpg", job, "2026-05-04")
    assert not folder_of(job).exists()


def test_a_name_in_the_job_leads_nowhere_else(job: Path, shot: Path) -> None:
    """A file that somebody sent may name anything: only plain names in the folder beside the job are opened."""
    name = take_photo(shot, job, "2026-05-04")
    assert path_of(job, name) is not None and path_of(None, name) is None
    for other in ("../shot.jpg", "/etc/passwd", "", ".", "..", "a/b.jpg"):
        assert path_of(job, other) is None


def test_photos_go_along_with_the_job(job: Path, shot: Path, tmp_path: Path) -> None:
    """Saved under another name, what the job shows is copied; what is there already stays."""
    name = take_photo(shot, job, "2026-05-04")
    new = tmp_path / "else" / "other.bicentra.json"
    new.parent.mkdir()
    carry(job, new, (name, "gone.jpg"))
    assert path_of(new, name) is not None and path_of(job, name) is not None
    carry(job, job, (name,))
    carry(None, new, (name,))


def test_the_cover_shows_and_keeps_photos(
    qtbot: QtBot, open_window: Opener, job: Path, shot: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Added as one of the corner in hand, noted, taken out, each a step; not before the job has a file; saved elsewhere it goes along."""
    window = open_window()
    window.show_bench("cover")
    cover = window.front
    assert isinstance(cover, CoverBench)
    cover.add_photo(shot)
    assert "save the job first" in window.footer.message.text() and not window.study.job.photos
    assert window.files.open_path(job)
    window.show_bench("cover")
    cover.add_photo(tmp_path / "gone.jpg")
    assert "no picture" in window.footer.message.text()
    cover.add_photo(shot)
    (photo,) = window.study.job.photos
    assert photo.of == "front-right" and len(cover.strip.cards) == 1
    qtbot.waitUntil(lambda: not cover.strip.cards[0]._picture.isNull(), timeout=5000)

    def noted(dialog: PhotoDialog) -> int:
        dialog.note.setText("bent lug")
        return 1

    def out(dialog: PhotoDialog) -> int:
        dialog._take_out()
        return 1

    monkeypatch.setattr(PhotoDialog, "exec", noted)
    cover.strip.cards[0].click()
    assert window.study.job.photos[0].note == "bent lug" and "bent lug" in cover.strip.cards[0].accessibleName()
    monkeypatch.setattr("bicentra.app.dialogs.ask_save", lambda *_: tmp_path / "new.bicentra.json")
    assert window.files.save_as() and path_of(tmp_path / "new.bicentra.json", photo.file) is not None
    monkeypatch.setattr(PhotoDialog, "exec", out)
    cover.strip.cards[0].click()
    assert not window.study.job.photos and not cover.strip.cards
    window.study.undo()
    assert window.study.job.photos[0].note == "bent lug" and len(cover.strip.cards) == 1
    qtbot.wait(1)


def test_a_reading_keeps_its_photo(
    qtbot: QtBot, open_window: Opener, job: Path, shot: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Put to the chosen reading and to no other, shown with its note from there and on the cover; taken out it is gone from both."""
    window = open_window()
    assert window.files.open_path(job)
    window.show_bench("survey")
    bench = window.front
    side = bench.readings
    side.choose("distances", 0)
    assert side.photo_button.text() == "Photo…"
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(shot), ""))
    side.photo_button.click()
    (photo,) = window.study.job.photos
    assert (
        photo.of == f"front-right: {bench.desk.again_of('distances', 0).name}"
        and side.photo_button.text() == "Its photo"
    )
    side.choose("distances", 1)
    assert side.photo_button.text() == "Photo…"
    side.choose("distances", 0)
    monkeypatch.setattr(PhotoDialog, "exec", lambda dialog: dialog.note.setText("jaws here") or 1)
    side.photo_button.click()
    assert window.study.job.photos[0].note == "jaws here"
    window.show_bench("cover")
    assert "front right: pilot to" in window.front.strip.cards[0].accessibleName()
    window.show_bench("survey")
    monkeypatch.setattr(PhotoDialog, "exec", lambda dialog: dialog._take_out() or 1)
    side.photo_button.click()
    assert not window.study.job.photos and side.photo_button.text() == "Photo…"
    qtbot.wait(1)

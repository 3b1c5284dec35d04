"""Taking parts from the library in the real window."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QPushButton
from pytestqt.qtbot import QtBot

from bicentra.app import part_dialog
from bicentra.app.part_dialog import LibraryDialog
from bicentra.app.window import MainWindow
from bicentra.core.base.wording import LengthFormat
from bicentra.study.library.library import own_folder, whole_library
from tests.app.conftest import Opener


def button(window: MainWindow, panel: str, text: str) -> QPushButton:
    """A button of a panel, the panel opened."""
    if panel not in window.panels or not window.panels[panel].isVisible():
        window.show_panel(panel)
    return next(b for b in window.panels[panel].findChildren(QPushButton) if b.text() == text)


def test_a_rotor_is_found_compared_and_taken(window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    """Words narrow the list, old and new stand side by side, Use is one step, undo takes it back."""
    tables: list[str] = []

    def person(dialog: LibraryDialog) -> int:
        dialog.show()
        qtbot.keyClicks(dialog.search, "4x100 vent")
        assert not dialog.shown and not dialog.use.isEnabled() and "Nothing" in dialog.table.text()
        dialog.search.clear()
        qtbot.keyClicks(dialog.search, "4x100")
        assert 0 < len(dialog.shown) < 40
        fits = next(k for k, part in enumerate(dialog.shown) if part.rotor.thickness_mm < 23)  # the demo's slot
        dialog.list.setCurrentRow(fits)
        tables.append(dialog.table.text())
        qtbot.mouseClick(dialog.use, Qt.MouseButton.LeftButton)
        return int(dialog.result())

    monkeypatch.setattr(QDialog, "exec", person)
    qtbot.mouseClick(button(window, "rotor", "From the library…"), Qt.MouseButton.LeftButton)
    rotor = window.study.job.rotor
    assert rotor.bolt_circle_mm == 100.0 and rotor.hole_count == 4 and rotor.name.startswith("Rotor ")
    assert "Overall height" in tables[0] and "this one" in tables[0]
    assert window.study.history == (f"Take {rotor.name} from the library",)
    window.study.undo()
    assert not window.study.modified


def test_a_part_that_cannot_be_is_refused_in_words(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    """A rotor thicker than the caliper's slot is not taken; the footer says why, the job stays."""
    thick = next(p for p in whole_library().of_kind("rotor") if p.rotor.thickness_mm > 23)
    monkeypatch.setattr(part_dialog, "ask_part", lambda *_: thick)
    window.library.take("rotor")
    assert not window.study.modified and "slot width" in window.footer.message.text()


def test_leaving_it_and_keeping_ones_own(window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    """Leaving the dialog changes nothing; a kept caliper is on the shelf the next time."""
    monkeypatch.setattr(QDialog, "exec", lambda _dialog: 0)
    qtbot.mouseClick(button(window, "caliper", "From the library…"), Qt.MouseButton.LeftButton)
    assert not window.study.modified
    qtbot.mouseClick(button(window, "caliper", "Keep in my library"), Qt.MouseButton.LeftButton)
    assert "Kept" in window.footer.message.text() and len(list(own_folder().glob("*.part.json"))) == 1
    assert "Four-pot lug mount" in [p.name for p in whole_library().of_kind("caliper")]


def test_a_broken_file_is_told_in_the_dialog(open_window: Opener) -> None:
    """A file that is no part does not hide the others; it is named at the foot."""
    (own_folder() / "broken.part.json").write_text("{")
    window = open_window()
    dialog = LibraryDialog(window, whole_library(), window.study.job.rotor, LengthFormat("in"))
    assert len(dialog.shown) == 43
    dialog.show()
    dialog.grab()

"""Every example that ships, opened in the real window and looked at on every bench."""

import pytest
from PySide6.QtCore import Qt
from pytestqt.qtbot import QtBot

from bicentra.app.start.bench import StartBench
from bicentra.study.document.starting import EXAMPLES, example_vehicle
from tests.app.conftest import Opener


@pytest.mark.parametrize("name", EXAMPLES)
def test_each_is_driven_through_the_window(name: str, open_window: Opener, qtbot: QtBot) -> None:
    """Opened from the start sheet, looked at on every bench and page, turned by a key and back: the same job, nothing to save."""
    window = open_window()
    window.show_start()
    sheet = window.front
    assert isinstance(sheet, StartBench)
    qtbot.mouseClick(sheet.tiles[name], Qt.MouseButton.LeftButton)
    assert window.study.job.title == example_vehicle(name).title and not window.study.modified
    window.show_bench("bracket")
    bench = window.front
    own = next(row for row in bench.cards if row.taken)
    assert own.proposal.bracket.family == window.study.job.bracket.family and own.cells()
    for page in ("kinds", "part", "bolts", "space"):
        bench.show_page(page)
        assert not bench.grab().isNull()
    window.show_bench("lineup")
    qtbot.keyClick(window.bench.face, Qt.Key.Key_Right)
    assert window.study.modified
    window.study.undo()
    assert not window.study.modified and not window.grab().isNull()

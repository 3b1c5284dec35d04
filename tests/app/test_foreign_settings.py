"""Settings that another version, or another hand, left behind."""

from pathlib import Path

import pytest
from PySide6.QtCore import QSettings
from pytestqt.qtbot import QtBot

from bicentra.app.gauges.strip import GaugeBox
from bicentra.app.main import make_window
from bicentra.study.document.starting import demo_vehicle
from bicentra.study.document.study import Study


@pytest.mark.parametrize("name", ["", "weld-shop", "start", "../lineup"])
def test_a_bench_nobody_knows_opens_the_lineup(qtbot: QtBot, tmp_path: Path, name: str) -> None:
    """With bench= empty or unknown no job opened."""
    settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
    settings.setValue("bench", name)
    window = make_window(Study(demo_vehicle()), settings)
    qtbot.addWidget(window)
    window.show_start()
    window.take(Study(demo_vehicle()))
    assert window.benches.front == "lineup"


def test_a_baud_rate_that_is_no_number_is_the_usual_one(qtbot: QtBot, tmp_path: Path) -> None:
    """Words, or a number of 400 digits, where the rate stood raised."""
    del qtbot
    settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
    for text in ("fast", "", "9" * 400, "-9600", "9600.5"):
        settings.setValue("gauge/baud", text)
        assert GaugeBox(settings, settings).last_settings().baud == 9600
    settings.setValue("gauge/baud", "19200")
    assert GaugeBox(settings, settings).last_settings().baud == 19200

"""Titles, names and notes are somebody's words: shown as they are, never as markup, a link or a picture."""

import pytest
from PySide6.QtCore import QModelIndex, Qt
from PySide6.QtWidgets import QAbstractItemView, QLabel, QToolButton, QWidget
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs
from bicentra.app.panels.section import SHEETS
from bicentra.app.window import MainWindow
from bicentra.core.base.records import replace
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.study.document.recovery import Recovery

from .conftest import Opener

EVIL = '<img src="/no/such/picture.png"><b>x</b>&amp'


def hostile(job: Job) -> Job:
    """The demo with markup in every name that is somebody's own."""
    lugs = tuple(replace(lug, name=f"{EVIL}{k}") for k, lug in enumerate(job.knuckle.lugs))
    webs = tuple(replace(web, name=f"{EVIL}o{k}") for k, web in enumerate(job.knuckle.obstacles))
    weights = tuple(replace(band, name=EVIL) for band in job.wheel.weights)
    return with_edits(replace(job, survey={}), (
        ("title", EVIL), ("notes", EVIL), ("knuckle.lugs", lugs), ("knuckle.obstacles", webs), ("rotor.name", EVIL),
        ("caliper.name", EVIL), ("wheel", replace(job.wheel, name=EVIL, weights=weights)), ("bracket.material", EVIL),
        ("bracket.family", "flat-plate"), ("limits", {EVIL: 1.0}), ("before.what", EVIL),
    ))  # fmt: skip


def renders(text: str) -> bool:
    """Whether a text that may be taken for markup would show some of the hostile words as such."""
    return "<img" in text and Qt.mightBeRichText(text)


def faults(root: QWidget) -> list[str]:
    """Every label, tip and table cell below ``root`` that would render markup."""
    found = []
    for widget in (root, *root.findChildren(QWidget)):
        where = f"{type(widget).__name__} {widget.objectName()} {widget.accessibleName()}"
        if isinstance(widget, QLabel) and "<img" in widget.text() and widget.textFormat() != Qt.TextFormat.PlainText:
            found.append(f"label {where}: {widget.text()[:60]}")
        if renders(widget.toolTip()):
            found.append(f"tip {where}: {widget.toolTip()[:60]}")
        if isinstance(widget, QAbstractItemView) and widget.model() is not None:
            model = widget.model()
            for row in range(min(model.rowCount(QModelIndex()), 60)):
                for column in range(2):
                    text = model.index(row, column, QModelIndex()).data(Qt.ItemDataRole.ToolTipRole)
                    if isinstance(text, str) and renders(text):
                        found.append(f"cell tip {where}: {text[:60]}")
    return found


def test_no_label_tip_or_table_renders_markup(open_window: Opener, demo: Job, qtbot: QtBot) -> None:
    """A title that names a device as a picture aborted the program, one that names a pipe hung it."""
    window = open_window(hostile(demo))
    found = faults(window)
    for name in SHEETS:
        window.show_panel(name)
        found += faults(window)
    window.show_panel(name)
    for bench in ("survey", "parts", "bracket", "lineup"):
        window.show_bench(bench)
        qtbot.wait(30)
        found += faults(window)
    for finding in window.study.solution.findings:
        window.bench.choose(finding.id)
        found += faults(window)
    window.say(f"Written: {EVIL}")
    found += faults(window)
    assert sorted(set(found)) == []
    assert all("&amp" not in b.text() or "&&" in b.text() for b in window.findChildren(QToolButton))


def test_boxes_show_words_as_they_are(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    """Every question and message in front of the window is plain text."""
    from PySide6.QtWidgets import QMessageBox

    seen: list[tuple[str, Qt.TextFormat]] = []
    monkeypatch.undo()
    monkeypatch.setattr(QMessageBox, "exec", lambda box: seen.append((box.text(), box.textFormat())) or 0)
    found = Recovery(window.files._folder() / "copy", window.study.vehicle, None, EVIL)
    dialogs.ask_unsaved(window, EVIL)
    dialogs.ask_recover(window, found)
    dialogs.ask_changed(window, EVIL)
    dialogs.ask_over(window, window.files._folder() / "x")
    dialogs.tell(window, EVIL, EVIL)
    dialogs.warn(window, EVIL, EVIL)
    assert len(seen) == 6 and {form for _, form in seen} == {Qt.TextFormat.PlainText}

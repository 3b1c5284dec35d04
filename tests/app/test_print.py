"""Printing: looked at first, on the sheet that is in the printer, and true to size on what comes out."""

from pathlib import Path

import numpy as np
import pypdfium2
import pytest
from PySide6.QtPrintSupport import QPrintDialog, QPrinter
from pytestqt.qtbot import QtBot

from bicentra.app.papers import PrintDialog
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.job import Job
from bicentra.formats.pdf_pen import MARGIN, SHEETS
from bicentra.study.document.starting import empty_job
from tests.app.conftest import Opener


def shown(qtbot: QtBot, job: Job, sheet: str = "") -> PrintDialog:
    """The dialog with its paper made."""
    dialog = PrintDialog(None, solve(job), sheet)  # type: ignore[arg-type]
    qtbot.addWidget(dialog)
    qtbot.waitUntil(lambda: bool(dialog.pages), timeout=20000)
    return dialog


@pytest.mark.parametrize("sheet", ["A4", "Letter"])
def test_the_bars_measure_true_on_what_is_printed(qtbot: QtBot, good: Job, tmp_path: Path, sheet: str) -> None:
    """Printed into a file and measured there: 100 mm and 4 in, to 0.3 mm (two rasters of 600 dots to the inch and a tick)."""
    dialog = shown(qtbot, good, sheet)
    assert sorted(dialog.pages[0].size) == pytest.approx(sorted(SHEETS[sheet]), abs=0.01)
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    out = tmp_path / "out.pdf"
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(out))
    dialog.prepare(printer)
    dialog.print_on(printer)
    document = pypdfium2.PdfDocument(out)
    assert len(document) == len(pypdfium2.PdfDocument(dialog.data))
    page = document[0]
    assert sorted(v / 72 * 25.4 for v in page.get_size()) == pytest.approx(sorted(SHEETS[sheet]), abs=0.5)
    dots = 12.0
    ink = np.asarray(page.render(scale=dots * 25.4 / 72, grayscale=True).to_numpy()).squeeze() < 140
    left, found = round(MARGIN * dots), []
    for row in ink[-round(60 * dots) :]:
        run = np.flatnonzero(~row[left + 4 :])
        long = (run[0] if len(run) else 0) / dots
        if long > 90:
            found.append(long + 4 / dots)
    assert min(found) == pytest.approx(100.0, abs=0.3) and max(found) == pytest.approx(101.6, abs=0.3)


def test_the_dialog_says_what_comes(qtbot: QtBot, demo: Job, good: Job) -> None:
    """Pages, size, 100 %, the mark; a paper that does not apply says so and cannot be printed; another one is made when it is chosen."""
    dialog = shown(qtbot, demo)
    assert "100 %" in dialog.note.text() and "draft" in dialog.note.text() and "bars" in dialog.note.text()
    dialog.kind.setCurrentIndex(dialog.kind.findData("chart"))
    assert not dialog.print_button.isEnabled() and "ushing" in dialog.note.text()
    dialog.kind.setCurrentIndex(dialog.kind.findData("card"))
    qtbot.waitUntil(lambda: bool(dialog.pages), timeout=20000)
    assert dialog.print_button.isEnabled()
    met = shown(qtbot, replace(good, practice=False))
    assert "The paper says" not in met.note.text()
    empty = PrintDialog(None, solve(empty_job()), "")  # type: ignore[arg-type]
    qtbot.addWidget(empty)
    assert not empty.save_button.isEnabled() and "no plate" in empty.note.text()


def test_printing_gives_out_the_revision(
    qtbot: QtBot, open_window: Opener, good: Job, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What left as a paper is kept in the job; the sheet is remembered; a dialog that is left gives out nothing."""
    window = open_window(replace(good, practice=False))

    def left(dialog: PrintDialog) -> int:
        qtbot.waitUntil(lambda: bool(dialog.pages), timeout=20000)
        return 0

    def printed(dialog: PrintDialog) -> int:
        dialog.sheet.setCurrentIndex(dialog.sheet.findData("Letter"))
        qtbot.waitUntil(lambda: bool(dialog.pages), timeout=20000)
        dialog.print_out()
        return 1

    monkeypatch.setattr(QPrintDialog, "exec", lambda _self: 1)
    monkeypatch.setattr(PrintDialog, "print_on", lambda _self, _printer: None)
    window.study.assess()
    monkeypatch.setattr(PrintDialog, "exec", left)
    window.actions_by_name["print"].trigger()
    assert not window.study.job.issued
    monkeypatch.setattr(PrintDialog, "exec", printed)
    window.actions_by_name["print"].trigger()
    assert [one.revision for one in window.study.job.issued] in (["A"], [])  # its survey may leave a draft
    assert window.settings.value("sheet") == "Letter"

"""The settings: one sheet, kept for the user; units go into the job as a step."""

import pytest
from PySide6.QtWidgets import QDialog

from bicentra.app.part_dialog import SHIPPED_CURRENCY, money_word
from bicentra.app.settings_dialog import SettingsDialog
from bicentra.app.theme import TEXT_SIZES, for_the_shop, look_of
from tests.app.conftest import Opener


def test_settings_are_used_and_kept(open_window: Opener, monkeypatch: pytest.MonkeyPatch) -> None:
    """Larger text, dark, Letter, a currency and inches at once; the units are one step to undo; given up, nothing changes."""
    window = open_window()

    def answer(dialog: SettingsDialog) -> QDialog.DialogCode:
        for editor, key in (
            (dialog.units, "in"),
            (dialog.text, "1.15"),
            (dialog.look, "dark"),
            (dialog.paper, "Letter"),
        ):
            editor.setCurrentIndex(editor.findData(key))
        dialog.currency.setText("EUR")
        return QDialog.DialogCode.Accepted

    monkeypatch.setattr(SettingsDialog, "exec", lambda _dialog: QDialog.DialogCode.Rejected)
    window.actions_by_name["settings"].trigger()
    assert window.look.name == "light" and window.study.job.display_units == "mm"
    monkeypatch.setattr(SettingsDialog, "exec", answer)
    before = window.bench.face.view_state.look.size
    window.actions_by_name["settings"].trigger()
    assert window.study.job.display_units == "in" and len(window.study.history) == 1
    assert window.look.name.endswith("dark") and window.bench.face.view_state.look.size == 1.15 * before
    assert (window.settings.value("sheet"), window.settings.value("currency")) == ("Letter", "EUR")
    assert not window.look.in_shop
    window.switch_shop()
    assert window.look.in_shop and window.look.size > 1.4
    window.switch_shop()
    assert window.look.name == "1.15 dark"


def test_looks_and_money() -> None:
    """A setting that makes no sense is the usual; shipped prices carry the user's word, others their own."""
    assert look_of("nonsense", "17").name == "light" and look_of("dark", "1.3").size == 1.3
    assert {for_the_shop(look_of("dark", size)).in_shop for size in TEXT_SIZES} == {True}
    assert money_word(SHIPPED_CURRENCY, "EUR") == "EUR" and money_word("GBP", "EUR") == "GBP"

"""For who cannot see well, or at all: every control has a name, the focus shows, texts stand out from what they are on."""

import itertools

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QAccessible, QAccessibleInterface
from PySide6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from bicentra.app.theme import LOOKS, Look, for_the_shop
from bicentra.app.widgets.picture_card import PictureCard
from bicentra.study.document.starting import empty_job
from tests.app.conftest import Opener

ROLE = QAccessible.Role
NAMED = {ROLE.PushButton, ROLE.EditableText, ROLE.ComboBox, ROLE.CheckBox, ROLE.RadioButton, ROLE.List, ROLE.Table, ROLE.Tree,
         ROLE.Slider, ROLE.SpinBox, ROLE.ButtonMenu, ROLE.PageTab, ROLE.Canvas}  # fmt: skip
"""Roles of what is used, and so has to have a name."""


def nameless(item: QAccessibleInterface | None, depth: int = 0) -> list[str]:
    """Every visible control below ``item`` without a name."""
    if item is None or not item.isValid() or depth > 40 or item.state().invisible:
        return []
    found = []
    if item.role() in NAMED and not item.text(QAccessible.Text.Name):
        thing = item.object()
        found.append(f"{item.role().name} {type(thing).__name__} {thing.objectName() if thing is not None else ''}")
    return found + [name for k in range(item.childCount()) for name in nameless(item.child(k), depth + 1)]


@pytest.mark.parametrize("empty", [False, True])
def test_no_control_is_nameless(open_window: Opener, empty: bool) -> None:
    """Every bench and every sheet, with the demo and with nothing measured, walked by the accessibility tree."""
    window = open_window(empty_job()) if empty else open_window()
    window.show()
    for bench in window.bench_bar.buttons:
        window.show_bench(bench)
        assert nameless(QAccessible.queryAccessibleInterface(window)) == [], bench
    for sheet in ("hub", "knuckle", "rotor", "caliper", "bracket", "job"):
        window.sheets.show_sheet(sheet)
        assert nameless(QAccessible.queryAccessibleInterface(window)) == [], sheet
    window.show_start()
    assert nameless(QAccessible.queryAccessibleInterface(window)) == []


def _light(code: str) -> float:
    """Relative luminance (WCAG 2.2, from memory)."""
    parts = (int(code[k : k + 2], 16) / 255 for k in (1, 3, 5))
    red, green, blue = (c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in parts)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(one: str, other: str) -> float:
    """Contrast of two colours, 1 to 21 (WCAG 2.2, from memory)."""
    low, high = sorted((_light(one), _light(other)))
    return (high + 0.05) / (low + 0.05)


def test_contrast_is_measured_right() -> None:
    """Black on white is 21, a colour on itself 1; mid grey #767676 on white is the well-known 4.54."""
    assert contrast("#000000", "#ffffff") == pytest.approx(21.0) and contrast("#123456", "#123456") == 1.0
    assert contrast("#767676", "#ffffff") == pytest.approx(4.54, abs=0.01)


EVERY = [*LOOKS.values(), *(for_the_shop(look) for look in LOOKS.values())]


@pytest.mark.parametrize("look", EVERY, ids=[look.name for look in EVERY])
def test_texts_stand_out(look: Look) -> None:
    """Every ink that writes on every ground it is written on: at least 4.5 to 1 (WCAG 2.2, level AA)."""
    grounds = {"paper": look.paper, "desk": look.desk, "card": look.card}
    inks = {"text": look.text, "faint": look.faint, "accent": look.accent, "ok": look.ok, "caution": look.caution, "stop": look.stop,
            "unknown": look.unknown}  # fmt: skip
    weak = {
        (ink, ground): round(contrast(inks[ink], grounds[ground]), 2)
        for ink, ground in itertools.product(inks, grounds)
        if contrast(inks[ink], grounds[ground]) < 4.5
    }
    assert weak == {} and contrast(look.accent_text, look.accent) >= 4.5


def test_the_focus_shows(qtbot: QtBot, open_window: Opener) -> None:
    """What is painted by ourselves looks different with the keys on it."""
    window = open_window()
    window.show()
    window.show_bench("cover")
    card: QWidget = window.front.findChildren(PictureCard)[2]
    for widget in (card, window.bench_bar.buttons["parts"]):
        window.footer.next_button.setFocus(Qt.FocusReason.TabFocusReason)
        before = widget.grab().toImage()
        widget.setFocus(Qt.FocusReason.TabFocusReason)
        qtbot.waitUntil(widget.hasFocus, timeout=3000)
        assert widget.grab().toImage() != before


def test_the_shop_view_is_large_and_has_few_controls(open_window: Opener) -> None:
    """One key: targets of 56 px or more, type half as large again, the head emptied; the same key goes back to what was before."""
    window = open_window()
    window.show()
    before = window.bench.list.sizeHintForRow(0)
    window.actions_by_name["shop"].trigger()
    buttons = [
        window.footer.next_button,
        window.bench.plan_button,
        window.header.buttons["undo"],
        window.bench_bar.buttons["survey"],
    ]
    assert min(button.sizeHint().height() for button in buttons) >= 56 and window.bench.list.sizeHintForRow(0) >= 56
    assert window.bench.list.visualRect(window.bench.model.index(1)).height() >= 56
    assert window.header.buttons["units"].isHidden() and not window.header.buttons["shop"].isHidden()
    assert window.font().pixelSize() >= 19 and contrast(window.look.text, window.look.paper) == pytest.approx(21.0)
    window.switch_look()
    assert window.look.name == "shop dark" and window.look.text == "#ffffff"
    window.actions_by_name["shop"].trigger()
    assert (
        window.look is LOOKS["dark"]
        and window.bench.list.sizeHintForRow(0) == before
        and not window.header.buttons["units"].isHidden()
    )
    window.switch_look()

"""Every action of the window: its words, its key, what it calls. Menus and the key sheet are made from this list."""

from collections.abc import Callable

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QAction, QKeyEvent, QKeySequence
from PySide6.QtWidgets import QAbstractItemView, QAbstractSpinBox, QComboBox, QLineEdit, QPlainTextEdit, QWidget

from bicentra.app.bench_list import BENCHES
from bicentra.app.widgets.typed import take_typing
from bicentra.core.base.records import Record
from bicentra.study.papers.papers import PAPERS


class Action(Record, frozen=True):
    """One thing the window can do."""

    name: str
    text: str
    key: str
    tip: str = ""


def action_of(kind: str) -> str:
    """Return the name of the action that takes a paper of ``kind`` away."""
    return f"paper-{kind}"


ACTIONS = (
    Action("new", "New job", "Ctrl+N"),
    Action("open", "Open a job…", "Ctrl+O"),
    Action("demo", "Open the demo", ""),
    Action("practice", "Practice…", "", "A simulated corner with something hidden in it"),
    Action("save", "Save", "Ctrl+S"),
    Action("save_as", "Save under another name…", "Ctrl+Shift+S"),
    Action("start", "Close this job", "Ctrl+W", "Back to the recent jobs"),
    Action("quit", "Quit", "Ctrl+Q"),
    *(Action(action_of(paper.kind), paper.menu, paper.key, paper.tip) for paper in PAPERS.values()),
    Action("print", "Print…", "Ctrl+P", "Template, drawings and cards, with a preview; always at 100 %"),
    Action("undo", "Undo", "Ctrl+Z"),
    Action("redo", "Redo", "Ctrl+Shift+Z"),
    Action("units", "Millimetres or inches", "Ctrl+U"),
    Action("settings", "Settings…", "Ctrl+,", "Units, text size, light or dark, paper, currency"),
    Action("look", "Light or dark", "Ctrl+L"),
    Action(
        "shop", "Shop view", "F12", "Large type and targets, few controls: to be read a step away, with dirty hands"
    ),
    *(Action(bench.name, f"{bench.title} bench", bench.key, bench.help) for bench in BENCHES),
    Action("corner", "Next corner of the vehicle", "F10", "Front right, front left, and whatever else is known"),
    Action("fit", "Show everything", "F", "Both drawings whole"),
    Action("best_clock", "Turn to the best clock angle", "B"),
    Action("next", "Do the next thing", "Ctrl+Return"),
    Action("zoom_in", "Larger", "Ctrl++"),
    Action("zoom_out", "Smaller", "Ctrl+-"),
    Action("fit_key", "Show everything", "Ctrl+0"),
    Action("history", "Steps taken…", "Ctrl+Alt+Z", "Every step so far; click one to go back"),
    Action("face", "Go to the view along the axle", "F2"),
    Action("section", "Go to the view across the rotor", "F3"),
    Action("findings", "Go to the findings", "F4"),
    Action(
        "sheets",
        "Sheets of the parts…",
        "F5",
        "Hub, lugs, rotor, caliper, plate, job: double-click a part to open its own",
    ),
    Action("find_field", "Find a field…", "Ctrl+F", "Type a word of its name, Enter goes to it"),
    Action("help", "Help for this bench", "F1", "What is done here, and the words of the trade"),
    Action("about", "About Bicentra, licences", ""),
    Action("keys", "All keys", "?"),
)
KEY_COLUMNS = 3
"""How many columns the sheet of all keys has."""
TYPED_IN = (QLineEdit, QPlainTextEdit, QComboBox, QAbstractItemView, QAbstractSpinBox)
"""Where a single letter is typed and is never a command."""
POINTER = (
    ("Enter", "in a field: takes the value and goes to the next that is missing; on a chosen number: types over it"),
    ("Escape", "gives back what is being typed or pulled; then lets go of what is chosen"),
    ("Tab", "the next field, button or drawing"),
    ("N", "on a drawing: the next handle or underlined number, Shift+N the one before"),
    ("← → ↑ ↓", "on a drawing: pull what is chosen, else turn and move the caliper; with Shift ten times as far"),
    ("Ctrl+← → ↑ ↓", "on a drawing: move the sheet"),
    ("Click", "a part: shows its worst finding; an underlined number: types over it, as 12, 1/2 in, 80 thou"),
    ("Double click", "a part, dashed or solid: opens its sheet; the paper: shows everything"),
    ("Drag", "a round handle: changes what it is on, Shift holds off snapping; the paper: moves it"),
    ("Right click", "what can be done there"),
    ("Wheel", "zooms about the pointer"),
)
"""What keys and pointer do on every drawing, list and field: the same everywhere."""


def make_actions(window: QWidget, calls: dict[str, Callable[[], object]]) -> dict[str, QAction]:
    """Return the actions by name, each with its key, added to ``window``."""
    made = {}
    for one in ACTIONS:
        action = QAction(one.text, window)
        if one.key:
            action.setShortcut(QKeySequence(one.key))
        action.setToolTip(f"{one.tip or one.text}" + (f"  ({one.key})" if one.key else ""))
        action.triggered.connect(lambda _checked=False, name=one.name: attach_actions(window, name, calls))
        window.addAction(action)
        made[one.name] = action
    return made


def attach_actions(window: QWidget, name: str, calls: dict[str, Callable[[], object]]) -> None:
    """Carry out the action called ``name``; what is being typed in ``window`` is taken first, but for undoing it."""
    if name not in ("undo", "redo"):
        take_typing(window)
    calls[name]()


def is_letter(event: QEvent) -> bool:
    """Tell whether a key event types something that can be read, without Ctrl, Alt or Meta."""
    held = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier | Qt.KeyboardModifier.MetaModifier
    return (
        isinstance(event, QKeyEvent)
        and event.text().isprintable()
        and bool(event.text())
        and not event.modifiers() & held
    )


def key_sheet() -> str:
    """Return every key as rich text in columns, made from the real actions; below it what keys and pointer do everywhere."""
    rows = [(one.key, one.text.rstrip("…")) for one in ACTIONS if one.key]
    high = -(-len(rows) // KEY_COLUMNS)
    columns = [rows[k * high : (k + 1) * high] for k in range(KEY_COLUMNS)]
    cells = "".join(
        "<tr>" + "".join(_key_cells(*column[row]) if row < len(column) else "" for column in columns) + "</tr>"
        for row in range(high)
    )
    gestures = "".join(f"<tr>{_key_cells(key, text)}</tr>" for key, text in POINTER)
    return f"<table>{cells}</table><p><b>The same everywhere</b></p><table>{gestures}</table>"


def _key_cells(key: str, text: str) -> str:
    style = "padding:2px 12px 2px 0; white-space:nowrap"
    return f"<td style='{style}'><b>{key}</b></td><td style='padding:2px 26px 2px 0'>{text}</td>"

"""Every action of the window: its words, its key, what it calls. Menus and the key sheet are made from this list."""

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QLineEdit, QWidget
from shiboken6 import isValid


@dataclass(frozen=True)
class Deed:
    """One thing the window can do."""

    name: str
    text: str
    key: str
    tip: str = ""


DEEDS = (
    Deed("new", "New job", "Ctrl+N"),
    Deed("open", "Open a job…", "Ctrl+O"),
    Deed("demo", "Open the demo", ""),
    Deed("save", "Save", "Ctrl+S"),
    Deed("save_as", "Save under another name…", "Ctrl+Shift+S"),
    Deed("quit", "Quit", "Ctrl+Q"),
    Deed("template", "Paper template and check list, 1:1 (PDF)…", "Ctrl+P", "For marking out and trying in card"),
    Deed("dxf", "Cutting file (DXF)…", "Ctrl+D", "For a laser or water-jet shop"),
    Deed("svg", "Drawing (SVG)…", ""),
    Deed("csv", "Hole table (CSV)…", ""),
    Deed(
        "card", "Caliper card to hold in a wheel, 1:1 (PDF)…", "", "Cut from card, turned once round inside the wheel"
    ),
    Deed("drilling", "Drilling template for the rotor, 1:1 (PDF)…", "", "Where rotor and hub have different patterns"),
    Deed("step", "Solids of the bracket (STEP)…", "", "For a mill or another program"),
    Deed("workshop", "Workshop drawings (PDF)…", "Ctrl+W", "Each made part on its sheet"),
    Deed("assembly", "Assembly, pulled apart, with its parts list (PDF)…", ""),
    Deed("chart", "Marking chart of the bushings, 1:1 (PDF)…", "", "Where eccentric bushings are pressed in"),
    Deed("cut", "Cutting file of the bracket, a layer an operation (DXF)…", ""),
    Deed("parts_list", "Parts list (CSV)…", "", "Made, bought, used again, missing"),
    Deed("step-both", "Solids of both sides (STEP)…", "", "Mirror images, or two parts where the surveys differ"),
    Deed("workshop-both", "Workshop drawings of both sides (PDF)…", ""),
    Deed("cut-both", "Cutting file of both sides (DXF)…", ""),
    Deed("trial", "With the holes' numbers on it (3MF)…", "", "For a printer; says that it is not the part"),
    Deed(
        "trial-thin",
        "The same, a third as thick (3MF)…",
        "",
        "Quickly printed: for outline and holes, not for the stack",
    ),
    Deed("stl", "Plain (STL)…", "", "For a printer"),
    Deed("3mf", "Plain (3MF)…", ""),
    Deed("undo", "Undo", "Ctrl+Z"),
    Deed("redo", "Redo", "Ctrl+Shift+Z"),
    Deed("units", "Millimetres or inches", "Ctrl+U"),
    Deed("look", "Light or dark", "Ctrl+L"),
    Deed("survey", "Survey bench", "F6", "Measure this corner"),
    Deed("lineup", "Line-up bench", "F7"),
    Deed("parts", "Parts bench", "F8", "Compare parts, search the library"),
    Deed("bracket", "Bracket bench", "F9", "Every kind of bracket side by side"),
    Deed("corner", "Next corner of the vehicle", "F10", "Front right, front left, and whatever else is known"),
    Deed("fit", "Show everything", "F", "Both drawings whole"),
    Deed("best_clock", "Turn to the best clock angle", "B"),
    Deed("next", "Do the next thing", "Ctrl+Return"),
    Deed("zoom_in", "Larger", "Ctrl++"),
    Deed("zoom_out", "Smaller", "Ctrl+-"),
    Deed("face", "Go to the view along the axle", "F2"),
    Deed("section", "Go to the view across the rotor", "F3"),
    Deed("findings", "Go to the findings", "F4"),
    Deed("keys", "All keys", "?"),
)
POINTER = (
    ("← →", "in the view along the axle: turn the caliper by 0.25°, with Shift by 2.5°"),
    ("← →", "in the view across the rotor: plate behind the rotor by 0.1 mm, with Shift by 1 mm"),
    ("↑ ↓", "in either view: move the caliper outward or inward by 0.1 mm, with Shift by 1 mm"),
    (
        "N",
        "on a drawing: the next handle or dotted number, Shift+N the one before; ← → ↑ ↓ pull it, Enter types over it",
    ),
    ("Pull a round handle", "changes what it is on; Shift holds off snapping, Escape cancels"),
    ("Click a dotted number", "types over it: 12, 1/2 in, 80 thou, 5/64 in + 2 mm"),
    ("Click two holes", "on the survey's sheet: asks for the distance between them; ← → and space do the same"),
    ("Type, Enter", "on the survey bench: takes the reading asked for and asks for the next, from hand or gauge"),
    ("Wheel", "zooms both drawings; right button moves one; double click shows everything"),
)


def make_actions(window: QWidget, calls: dict[str, Callable[[], object]]) -> dict[str, QAction]:
    """Return the actions by name, each with its key, added to ``window``."""
    made = {}
    for deed in DEEDS:
        action = QAction(deed.text, window)
        if deed.key:
            action.setShortcut(QKeySequence(deed.key))
        action.setToolTip(f"{deed.tip or deed.text}" + (f"  ({deed.key})" if deed.key else ""))
        action.triggered.connect(lambda _checked=False, name=deed.name: carry_out(window, name, calls))
        window.addAction(action)
        made[deed.name] = action
    return made


def carry_out(window: QWidget, name: str, calls: dict[str, Callable[[], object]]) -> None:
    """Carry out the deed called ``name``; what is being typed in ``window`` is taken first, but for undoing it."""
    if name not in ("undo", "redo"):
        take_typing(window)
    calls[name]()


def take_typing(window: QWidget) -> None:
    """Take what is being typed, as Enter would; what cannot be taken stays in its field and says why."""
    typed = window.window().focusWidget()
    if isinstance(typed, QLineEdit) and typed.isModified():
        typed.returnPressed.emit()
        if isValid(typed):
            typed.editingFinished.emit()


def key_sheet() -> str:
    """Return every key as rich text, made from the real actions."""
    rows = [(deed.key, deed.text.rstrip("…")) for deed in DEEDS if deed.key]
    cells = "".join(
        f"<tr><td style='padding:3px 18px 3px 0'><span style='font-weight:600'>{key}</span></td><td>{text}</td></tr>"
        for key, text in (*rows, *POINTER)
    )
    return f"<table>{cells}</table>"

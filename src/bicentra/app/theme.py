"""Colours, pens and hatches of the two looks, and the style sheet made from them."""

from dataclasses import dataclass, replace
from functools import lru_cache

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

from bicentra.data import data_path

FAMILY = "IBM Plex Sans"
FACES = ("IBMPlexSans-Regular.ttf", "IBMPlexSans-SemiBold.ttf", "IBMPlexSans-Bold.ttf", "IBMPlexMono-Regular.ttf")
"""The shipped faces: every weight that is shown has its own, so that none is made heavier by smearing."""
BASE_PX = 14
HATCH = Qt.BrushStyle.BDiagPattern
CROSS = Qt.BrushStyle.FDiagPattern
DENSE = Qt.BrushStyle.Dense6Pattern
NONE = Qt.BrushStyle.NoBrush


@dataclass(frozen=True)
class InkStyle:
    """How one ink looks: fill, line, hatch over the fill, and the line's width in pixels."""

    fill: str
    line: str
    hatch: Qt.BrushStyle = NONE
    width: float = 1.4


@dataclass(frozen=True, eq=False)
class Look:
    """One look of the whole window. ``size``: how much larger than usual type and targets are, ``roomy`` the part of that which
    a large window gives; drawings take their own from it.

    ``glow`` marks what has the keys, ``lit`` what the chosen finding is about.
    """

    name: str
    paper: str
    desk: str
    card: str
    text: str
    faint: str
    edge: str
    accent: str
    accent_text: str
    glow: str
    lit: str
    ok: str
    caution: str
    stop: str
    unknown: str
    inks: dict[str, InkStyle]
    size: float = 1.0
    roomy: float = 1.0

    @property
    def in_shop(self) -> bool:
        """Whether it is the look of the shop view."""
        return self.name.startswith("shop")

    def verdict(self, value: str) -> str:
        """Return the colour of a verdict."""
        return {"ok": self.ok, "caution": self.caution, "stop": self.stop, "unknown": self.unknown}.get(
            value, self.text
        )


LIGHT = Look(
    name="light", paper="#fbfaf5", desk="#e6e3d8", card="#f3f1e8", text="#1e2421", faint="#5c645f", edge="#b9b5a4",
    accent="#0d6e66", accent_text="#ffffff", glow="#e08a00", lit="#8a2fb8",
    ok="#2d6a36", caution="#8f5a00", stop="#a8201a", unknown="#4a5a78",
    inks={
        "rotor": InkStyle("#d9dee0", "#56646b", HATCH),
        "hat": InkStyle("#e7eaea", "#56646b"),
        "hub": InkStyle("#d2d6d2", "#636b66", CROSS),
        "knuckle": InkStyle("#cfc6b6", "#6f6350", CROSS),
        "obstacle": InkStyle("#dbcfbb", "#80694a", DENSE),
        "caliper": InkStyle("#f0d9b050", "#8a5f1f", HATCH, 1.6),
        "pad": InkStyle("#7d746890", "#4a443d"),
        "made": InkStyle("#12908570", "#075a53", NONE, 2.4),
        "shim": InkStyle("#e0a100", "#7a5700"),
        "bolt": InkStyle("#b9bec4", "#3f474e"),
        "hole": InkStyle("#fbfaf5", "#075a53", NONE, 1.2),
        "bleeder": InkStyle("#fbfaf5", "#8a5f1f", NONE, 2.0),
        "wheel": InkStyle("#c9cdd260", "#70767d"),
        "example": InkStyle("#00000000", "#8a5f1f", NONE, 1.0),
        "window": InkStyle("#5aa56890", "#2d6a36", HATCH, 1.2),
        "window-best": InkStyle("#2d6a36", "#2d6a36"),
        "construction": InkStyle("#00000000", "#a6a293", NONE, 1.0),
        "centre": InkStyle("#00000000", "#9a4a3c", NONE, 0.9),
        "way": InkStyle("#5c645f", "#5c645f"),
        "ellipse": InkStyle("#3a6fb030", "#2f5f9c", NONE, 1.4),
        "trace": InkStyle("#fbfaf5", "#2f5f9c", NONE, 1.6),
        "fit": InkStyle("#00000000", "#0d6e66", NONE, 2.0),
        "picked": InkStyle("#e08a0060", "#b06a00", NONE, 2.6),
        "fault": InkStyle("#a8201a", "#a8201a", NONE, 1.6),
    },
)  # fmt: skip

DARK = Look(
    name="dark", paper="#171b1d", desk="#0f1214", card="#20262a", text="#ece9df", faint="#a3aaa6", edge="#434b50",
    accent="#3fb8ab", accent_text="#08211e", glow="#ffb84a", lit="#d59cff",
    ok="#7fcf8a", caution="#f0b95a", stop="#ff8277", unknown="#a9bbe0",
    inks={
        "rotor": InkStyle("#323a3f", "#9fb0b8", HATCH),
        "hat": InkStyle("#2a3135", "#9fb0b8"),
        "hub": InkStyle("#363c3a", "#a2aba6", CROSS),
        "knuckle": InkStyle("#443d31", "#c4b493", CROSS),
        "obstacle": InkStyle("#4a4030", "#d0b182", DENSE),
        "caliper": InkStyle("#7a5a2450", "#e0b468", HATCH, 1.6),
        "pad": InkStyle("#8f867a90", "#d0c7bb"),
        "made": InkStyle("#2fb3a570", "#6fe3d6", NONE, 2.4),
        "shim": InkStyle("#e0a100", "#ffd572"),
        "bolt": InkStyle("#59626a", "#cdd5db"),
        "hole": InkStyle("#171b1d", "#6fe3d6", NONE, 1.2),
        "bleeder": InkStyle("#171b1d", "#e0b468", NONE, 2.0),
        "wheel": InkStyle("#5a646c60", "#98a1a8"),
        "example": InkStyle("#00000000", "#e0b468", NONE, 1.0),
        "window": InkStyle("#4d9a5a80", "#7fcf8a", HATCH, 1.2),
        "window-best": InkStyle("#7fcf8a", "#7fcf8a"),
        "construction": InkStyle("#00000000", "#5c6469", NONE, 1.0),
        "centre": InkStyle("#00000000", "#c27a6a", NONE, 0.9),
        "way": InkStyle("#a3aaa6", "#a3aaa6"),
        "ellipse": InkStyle("#6ea2e040", "#8fbcf0", NONE, 1.4),
        "trace": InkStyle("#171b1d", "#8fbcf0", NONE, 1.6),
        "fit": InkStyle("#00000000", "#3fb8ab", NONE, 2.0),
        "picked": InkStyle("#ffb84a60", "#ffb84a", NONE, 2.6),
        "fault": InkStyle("#ff8277", "#ff8277", NONE, 1.6),
    },
)  # fmt: skip

LOOKS = {"light": LIGHT, "dark": DARK}


TEXT_SIZES = {"1": "Usual", "1.15": "Larger", "1.3": "Large"}
"""How large text and targets are, by how many times the usual."""
SHOP_SIZE, TARGET_PX = 1.4, 44
"""How much larger everything is in the shop view; what a target's inside is high there, 56 px with its frame."""


@lru_cache(maxsize=4)
def for_the_shop(look: Look) -> Look:
    """Return ``look`` for a screen that is read from a step away with dirty hands: large, black on white or white on black."""
    dark = look.name.endswith("dark")
    paper, ink, faint = ("#000000", "#ffffff", "#d8d8d8") if dark else ("#ffffff", "#000000", "#2c2c2c")
    return replace(
        look,
        name=f"shop {look.name}",
        paper=paper,
        card=paper,
        text=ink,
        faint=faint,
        edge=faint,
        size=max(look.size, 1.0) * SHOP_SIZE,
    )


@lru_cache(maxsize=8)
def look_of(name: str, text: str = "1") -> Look:
    """Return the look called ``name`` with text as large as ``text`` says; the usual where a setting makes no sense."""
    plain = LOOKS.get(name, LIGHT)
    if text == "1" or text not in TEXT_SIZES:
        return plain
    return replace(plain, name=f"{text} {plain.name}", size=float(text))


ROOMY_PX, ROOMY_SIZE = (1700, 950), 1.15
"""From which size of window on type and targets are larger, and how much."""


@lru_cache(maxsize=8)
def _grown(look: Look) -> Look:
    return replace(look, name=f"roomy {look.name}", size=look.size * ROOMY_SIZE, roomy=ROOMY_SIZE)


def for_window(look: Look, wide: int, high: int) -> Look:
    """Return ``look`` for a window of ``wide`` × ``high`` pixels: a large one has larger type."""
    return _grown(look) if wide >= ROOMY_PX[0] and high >= ROOMY_PX[1] else look


def colour(code: str) -> QColor:
    """Return a colour from ``#rrggbb`` or ``#rrggbbaa``."""
    if len(code) == 9:
        made = QColor(code[:7])
        made.setAlpha(int(code[7:], 16))
        return made
    return QColor(code)


def load_fonts() -> None:
    """Make the shipped faces known to Qt and use them."""
    for name in FACES:
        QFontDatabase.addApplicationFont(str(data_path("fonts", name)))
    font = QFont(FAMILY)
    font.setPixelSize(BASE_PX)
    QApplication.setFont(font)


def apply_look(app: QApplication, look: Look) -> None:
    """Dress the whole application in ``look``.

    The old sheet comes off first: Qt lays a new one over an old one once for every widget above a widget, and takes five
    times as long.
    """
    app.setStyleSheet("")
    palette = QPalette()
    roles = {
        QPalette.ColorRole.Window: look.desk, QPalette.ColorRole.WindowText: look.text, QPalette.ColorRole.Base: look.paper,
        QPalette.ColorRole.AlternateBase: look.card, QPalette.ColorRole.Text: look.text, QPalette.ColorRole.Button: look.card,
        QPalette.ColorRole.ButtonText: look.text, QPalette.ColorRole.Highlight: look.accent,
        QPalette.ColorRole.HighlightedText: look.accent_text, QPalette.ColorRole.ToolTipBase: look.card,
        QPalette.ColorRole.ToolTipText: look.text, QPalette.ColorRole.PlaceholderText: look.faint,
    }  # fmt: skip
    for role, code in roles.items():
        palette.setColor(role, colour(code))
    app.setPalette(palette)
    font = QFont(FAMILY)
    font.setPixelSize(round(BASE_PX * look.size))
    app.setFont(font)
    app.setStyleSheet(style_sheet(look))


def style_sheet(look: Look) -> str:
    """Return the style sheet of ``look``: big targets, a clear focus frame, few lines."""
    high = TARGET_PX if look.in_shop else 22
    arrow = data_path("icons", f"open-{look.name.split()[-1]}.svg").as_posix()
    small, head, large, title = (round(px * look.size) for px in (12, 16, 22, 34))
    return f"""
QWidget {{ color: {look.text}; }}
QMainWindow, #desk {{ background: {look.desk}; }}
#card, QMenu, QScrollArea, #panel {{ background: {look.card}; }}
QScrollArea {{ border: none; }}
#panelBody {{ background: {look.card}; }}
QToolButton, QPushButton {{ background: {look.card}; border: 1px solid {look.edge}; border-radius: 6px;
  padding: 5px 11px; min-height: {high}px; }}
QToolButton:hover, QPushButton:hover {{ border-color: {look.accent}; }}
QToolButton:checked, QPushButton:checked, QPushButton#primary {{ background: {look.accent}; color: {look.accent_text};
  border-color: {look.accent}; }}
QToolButton:disabled, QPushButton:disabled {{ color: {look.edge}; }}
QPushButton#primary:disabled {{ background: {look.card}; color: {look.edge}; border-color: {look.edge}; }}
QToolButton:focus, QPushButton:focus, QLineEdit:focus, QComboBox:focus, QListView:focus, QPlainTextEdit:focus
  {{ border: 2px solid {look.glow}; }}
QToolButton::menu-indicator {{ image: none; }}
QLineEdit, QComboBox, QPlainTextEdit {{ background: {look.paper}; border: 1px solid {look.edge}; border-radius: 5px;
  padding: 3px 6px; min-height: {high}px; selection-background-color: {look.accent}; }}
QLineEdit#big {{ font-size: {large}px; font-weight: 600; min-height: 32px; }}
QToolButton#tab {{ padding: 5px 5px; }}
QPushButton#offer {{ padding: 0; min-height: 0; }}
QLineEdit[wrong="true"] {{ border: 2px solid {look.stop}; }}
QLabel#wrong {{ color: {look.stop}; font-size: {small}px; }}
QLabel#faint {{ color: {look.faint}; font-size: {small}px; }}
QLabel#head {{ font-weight: 600; font-size: {head}px; }}
QLabel#title {{ font-weight: 600; font-size: {title}px; }}
QToolButton#fold {{ font-weight: 600; color: {look.accent}; text-align: left; border: none; background: transparent; }}
QLabel#group {{ font-weight: 600; color: {look.accent}; }}
QLabel#verdict-ok {{ font-weight: 600; color: {look.ok}; }}
QLabel#verdict-caution {{ font-weight: 600; color: {look.caution}; }}
QLabel#verdict-stop {{ font-weight: 600; color: {look.stop}; }}
QLabel#verdict-unknown {{ font-weight: 600; color: {look.unknown}; }}
QListView, QListWidget {{ background: {look.card}; border: 1px solid {look.edge}; border-radius: 6px; outline: none; }}
QListWidget::item {{ padding: 8px 6px; }}
QComboBox::drop-down {{ border: none; width: 24px; }}
QComboBox::down-arrow {{ image: url({arrow}); width: 12px; height: 12px; }}
QComboBox QAbstractItemView {{ background: {look.paper}; border: 1px solid {look.edge}; }}
QMenu {{ border: 1px solid {look.edge}; padding: 4px; }}
QMenu::item {{ padding: 7px 22px; border-radius: 4px; }}
QMenu::item:selected {{ background: {look.accent}; color: {look.accent_text}; }}
QMenu::item:disabled {{ color: {look.edge}; }}
QToolTip {{ background: {look.card}; color: {look.text}; border: 1px solid {look.edge}; padding: 4px; }}
QProgressBar {{ border: 1px solid {look.edge}; border-radius: 5px; background: {look.paper}; text-align: center; }}
QProgressBar::chunk {{ background: {look.accent}; }}
QScrollBar:vertical {{ background: {look.card}; width: 13px; }}
QScrollBar::handle:vertical {{ background: {look.edge}; border-radius: 5px; min-height: 30px; }}
QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; }}
QCheckBox::indicator {{ width: 18px; height: 18px; border: 2px solid {look.faint}; border-radius: 4px; background: {look.paper}; }}
QCheckBox::indicator:checked {{ background: {look.accent}; border-color: {look.accent}; }}
QCheckBox:focus {{ color: {look.accent}; }}
QHeaderView::section {{ background: {look.card}; color: {look.text}; border: none; padding: 5px;
  border-bottom: 1px solid {look.edge}; }}
QTableWidget {{ background: {look.paper}; gridline-color: {look.edge}; }}
QSplitter::handle {{ background: {look.desk}; }}
"""

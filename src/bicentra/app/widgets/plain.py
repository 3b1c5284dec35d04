"""Plain text in places that would take it for markup or for a key: one helper for each."""

from html import escape

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel

MOST_TIP = 600
"""Characters of a tip that are shown."""


def plain_label(text: str = "") -> QLabel:
    """Return a label that shows ``text`` as it is, whatever it looks like."""
    label = QLabel(text)
    label.setTextFormat(Qt.TextFormat.PlainText)
    return label


def rich_label(html: str = "") -> QLabel:
    """Return a label that shows ``html``; every word in it that is somebody's own has been escaped."""
    label = QLabel(html)
    label.setTextFormat(Qt.TextFormat.RichText)
    return label


def tip(text: str) -> str:
    """Return ``text`` for a tip: escaped, its lines kept, the end of a very long one left out."""
    short = text if len(text) <= MOST_TIP else f"{text[:MOST_TIP]} …"
    return f"<p>{escape(short)}</p>".replace("\n", "<br>") if any(c in short for c in "<&") else short


def plain_menu(text: str) -> str:
    """Return ``text`` for a menu or a button: an ampersand there would mark a key."""
    return text.replace("&", "&&")

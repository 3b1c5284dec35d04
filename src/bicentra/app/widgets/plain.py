"""Text in places that would take it for markup or for a key, and rows of rich text that are meant to be."""

from html import escape

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel

from bicentra.core.base.finding import Finding

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


CELL = "<td style='padding:2px 14px 2px 0'>"


def row(*cells: str) -> str:
    """Return one row of a table."""
    return "<tr>" + "".join(f"{CELL}{escape(cell)}</td>" for cell in cells) + "</tr>"


def against_list(findings: tuple[Finding, ...]) -> str:
    """Return findings as a list, worst first, each with its why."""
    return "".join(
        f"<p style='margin:4px 0'><b>{f.verdict.word}</b> · {escape(f.title)}: {escape(f.why)}</p>" for f in findings
    )


def heads(*titles: str) -> str:
    """Return the head cells of a table."""
    return "".join(f"<th align='left' style='padding-right:18px'>{escape(title)}</th>" for title in titles)

"""Cells of a table that a spreadsheet opens: words stay words, never a formula, and no control character gets in.

A word that a spreadsheet would take for a formula gets an apostrophe before it, which spreadsheets show as text and
``plain_cell`` takes off again.
"""

from bicentra.core.base.wording import printable

FORMULA = ("=", "+", "-", "@", "\t", "\r", "−", "＝", "＋", "－", "＠")


def safe_cell(text: str) -> str:
    """Return a word for a cell; numbers are not words and are written as they are."""
    shown = printable(text)
    return (
        f"'{shown}" if shown.startswith(FORMULA) or (shown.startswith("'") and shown[1:].startswith(FORMULA)) else shown
    )


def plain_cell(text: str) -> str:
    """Return what a cell said before ``safe_cell``."""
    return text[1:] if text.startswith("'") and text[1:].startswith((*FORMULA, "'")) else text

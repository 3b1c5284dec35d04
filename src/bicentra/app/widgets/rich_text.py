"""Rows, heads and lists of findings as rich text; apart from plain text, which the first window needs at once."""

from html import escape

from bicentra.core.base.finding import Finding

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

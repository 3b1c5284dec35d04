"""Write docs/checks.md from the registry of findings: every finding with its limits and where they come from."""

from pathlib import Path

from bicentra.core.base.registry import KINDS, Limit
from bicentra.core.base.wording import value_text

HEAD = """# Every limit and its source

Made from the program's own table of findings by `scripts/checks.py`. *Common practice* is a habit of the trade without a published
source; a limit of one shop says so. A job may set its own limit within reason; every paper then says so. A finding without a number
compares what is measured with itself, or with a size of the job.

| finding | stop | caution | source |
|---|---|---|---|
"""


def page() -> str:
    """Return the page."""
    rows = []
    for kind in KINDS:
        limits = (
            (kind.title, kind.limit),
            *((f"{kind.title}: {name.replace('-', ' ')}", limit) for name, limit in kind.more),
        )
        rows += [row(title, limit) for title, limit in limits]
    return HEAD + "\n".join(rows) + "\n"


def row(title: str, limit: Limit | None) -> str:
    """Return one line of the table."""
    if limit is None:
        return f"| {title} | | | |"
    sign = "below" if limit.at_least else "above"
    stop, caution = (value_text(value, limit.unit or "mm", "mm") for value in (limit.stop, limit.watch))
    return f"| {title} | {sign} {stop} | {'' if stop == caution else f'{sign} {caution}'} | {limit.source} |"


if __name__ == "__main__":
    Path(__file__).parents[1].joinpath("docs", "checks.md").write_text(page(), "utf-8")

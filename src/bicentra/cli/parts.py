"""The command ``bicentra parts``: the library as tables, out and in."""

import argparse
import sys
from pathlib import Path
from typing import Any

from bicentra.core.base.wording import printable

KINDS = (
    "rotor", "caliper", "wheel", "hat", "master_cylinder", "pad", "fluid", "booster", "valve", "drum", "tyre",
)  # fmt: skip
"""The same as those of a part file, told here so that the command need not load it."""


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    parts = commands.add_parser("parts", help="the library as CSV tables: write one, or take one in")
    parts.add_argument("kind", choices=KINDS)
    parts.add_argument("--write", metavar="F", help="write every part of this kind to a table")
    parts.add_argument("--take", metavar="F", help="take a table into your own library")
    parts.add_argument("--library", metavar="DIR", help="folder of part files (default: what ships, and your own)")
    parts.add_argument("--units", choices=("mm", "in"), default="mm", help="of the lengths in a table that is written")
    parts.add_argument(
        "--column", action="append", default=[], metavar="HEADING=KEY[:UNIT]",
        help="what a column means, such as 'Bore=centre_bore_mm:in'; remembered for the next table",
    )  # fmt: skip
    parts.add_argument(
        "--differing",
        choices=("keep", "take", "both"),
        default="keep",
        help="parts of a name you have, with other numbers",
    )
    parts.set_defaults(run=run_parts)


def run_parts(arguments: argparse.Namespace) -> int:
    """Write or take in a table, or list the parts. Raises ``BicentraError``."""
    from bicentra.core.base.errors import StoreError
    from bicentra.study.library.library import load_library, whole_library

    if arguments.library is not None and not Path(arguments.library).is_dir():
        raise StoreError(f"--library {arguments.library}: no such folder; expected one with part files (*.part.json)")
    library = whole_library() if arguments.library is None else load_library(Path(arguments.library))
    for problem in library.problems:
        print(printable(f"skipped: {problem}"), file=sys.stderr)
    if arguments.write:
        from bicentra.study.library.tables import write_table

        count = write_table(library, arguments.kind, arguments.units, Path(arguments.write))
        print(f"written: {arguments.write}, {count} parts")
    elif arguments.take:
        _take(arguments, library)
    else:
        for part in library.of_kind(arguments.kind):
            print(printable(part.name))
    return 0


def _take(arguments: argparse.Namespace, library: Any) -> None:
    from bicentra.study.library.library import own_folder
    from bicentra.study.library.tables import (
        BOTH,
        KEEP,
        TAKE,
        arrivals,
        open_table,
        parts_of,
        remember,
        remembered,
        take_in,
    )

    table = open_table(Path(arguments.take))
    columns = _text(remembered(table.headings, arguments.kind), arguments.column, arguments.kind)
    parts, problems = parts_of(table, columns, arguments.kind)
    own = Path(arguments.library) if arguments.library else own_folder()
    found = arrivals(parts, library, own)
    choice = {"keep": KEEP, "take": TAKE, "both": BOTH}[arguments.differing]
    written = take_in(found, {a.part.name: choice for a in found}, own)
    remember(columns, arguments.kind)
    for line in (*written, *(f"skipped: {problem}" for problem in problems)):
        print(printable(line))
    for arrival in found:
        other = arrival.other.name if arrival.other is not None else ""
        if arrival.state == "same":
            print(f"{arrival.part.name}: there already as {other}")
        elif arrival.state == "differs" and choice == KEEP:
            apart = ", ".join(d.label.lower() for d in arrival.apart)
            print(f"{arrival.part.name}: kept yours, which differs in {apart}")
    left = ", ".join(column.heading for column in columns if not column.key)
    if left:
        print(f"columns skipped: {left}")


def _text(columns: Any, text: list[str], kind: str) -> Any:
    """Return ``columns`` with what ``--column`` says. Raises ``QuantityError`` for a heading or key that is none."""
    from bicentra.core.base.errors import QuantityError
    from bicentra.core.base.records import replace
    from bicentra.formats.part_files import UNITS, targets

    known, headings = targets(kind), [column.heading for column in columns]
    for word in text:
        heading, _, rest = word.partition("=")
        key, _, unit = rest.partition(":")
        if heading not in headings:
            raise QuantityError(
                word, f"--column {word[:60]}", "one of the table's headings: " + ", ".join(headings[:8])
            )
        if key and key not in known:
            raise QuantityError(
                word, f"--column {word[:60]}", f"a key of a {kind}: " + ", ".join(list(known)[:8]) + " …"
            )
        of = known[key][1] if key else None
        units = UNITS.get(of.name, ()) if of is not None else ()
        if unit and unit not in units:
            raise QuantityError(word, f"--column {word[:60]}", "a unit: " + ", ".join(units))
        place = headings.index(heading)
        changed = replace(columns[place], key=key, unit=unit or (units[0] if units else ""))
        columns = (*columns[:place], changed, *columns[place + 1 :])
    return columns

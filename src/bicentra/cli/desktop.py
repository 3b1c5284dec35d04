"""``bicentra desktop``: put the program into the user's desktop, or take it out again."""

import argparse
from typing import Any

from bicentra.cli.words import OK, say


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    parser = commands.add_parser("desktop", help="put the program into the user's menu, or take it out again")
    parser.add_argument("what", choices=("install", "uninstall"))
    parser.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Do what the command asks; returns the exit code."""
    from bicentra.study.document.desktop import data_home, put_in, take_out
    from bicentra.study.document.store import shown

    if arguments.what == "install":
        say(f"{len(put_in())} files written below {shown(data_home())}: Bicentra is in the menu, and opens its jobs")
    else:
        say(f"{len(take_out())} files removed below {shown(data_home())}")
    return OK

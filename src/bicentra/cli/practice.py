"""``bicentra practice``: open a practice corner, or write it as a job file."""

import argparse
from pathlib import Path
from typing import Any

from bicentra.cli.words import OK, say


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    practice = commands.add_parser("practice", help="open a simulated corner with something hidden in it")
    practice.add_argument(
        "--seed", type=int, default=1, help="which corner: the same number hides the same (default 1)"
    )
    practice.add_argument(
        "--level", type=int, choices=(1, 2, 3), default=1, help="how many faults are hidden (default 1)"
    )
    practice.add_argument("--write", metavar="F", help="write it as a job file instead of opening it")
    practice.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Do what the command asks; returns the exit code."""
    from bicentra.core.base.errors import QuantityError

    if not 0 <= arguments.seed <= 10**9:
        raise QuantityError(str(arguments.seed), f"--seed {arguments.seed}", "a whole number from 0 to 1000000000")
    if arguments.write:
        from bicentra.formats.job_json import write_vehicle
        from bicentra.study.document.starting import practice_vehicle
        from bicentra.study.document.store import write_atomic

        write_atomic(Path(arguments.write), write_vehicle(practice_vehicle(arguments.seed, arguments.level)))
        say(f"written: {arguments.write}")
        return OK
    from bicentra.app.main import run as open_window

    return open_window(None, False, practice=(arguments.seed, arguments.level))

"""``bicentra check``: print the line-up and every finding."""

import argparse
from pathlib import Path
from typing import Any

from bicentra.cli.words import OK, STOPPED, add_corner
from bicentra.core.base.wording import printable


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    check = commands.add_parser("check", help="print the line-up and every finding")
    check.add_argument("job", metavar="JOB")
    check.add_argument("--json", action="store_true", help="as one JSON object")
    check.add_argument("--all", action="store_true", help="every corner of the vehicle, one after the other")
    add_corner(check)
    check.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Do what the command asks; returns the exit code."""
    import msgspec

    from bicentra.core.base.finding import Verdict
    from bicentra.core.evaluation.solution import solve
    from bicentra.core.parts.corners import job_of
    from bicentra.core.uncertainty.assess import assess
    from bicentra.formats.corner_report import check_object, check_text
    from bicentra.formats.job_json import known_corners
    from bicentra.study.document.store import load, load_vehicle

    path = Path(arguments.job)
    if arguments.all:
        vehicle = load_vehicle(path)
        jobs = {name: job_of(vehicle, name) for name in known_corners(vehicle)}
    else:
        one = load(path, arguments.corner)
        jobs = {one.corner: one}
    solved = {name: assess(solve(job)).solution for name, job in jobs.items()}
    if arguments.json:
        said = {name: check_object(solution) for name, solution in solved.items()}
        whole = said if arguments.all else next(iter(said.values()))
        print(msgspec.json.format(msgspec.json.encode(whole), indent=2).decode())
    else:
        print(printable("\n".join(check_text(solution) for solution in solved.values()), "\n"), end="")
    return STOPPED if any(Verdict.STOP in solution.verdicts for solution in solved.values()) else OK

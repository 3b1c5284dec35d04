"""``bicentra bracket``: every kind of bracket made for a job."""

import argparse
from pathlib import Path
from typing import Any

from bicentra.cli.words import OK, add_corner
from bicentra.core.base.wording import printable


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    bracket = commands.add_parser("bracket", help="every kind of bracket solved for a job, fitting ones first")
    bracket.add_argument("job", metavar="JOB")
    bracket.add_argument("--families", action="store_true", help="list the kinds")
    bracket.add_argument("--json", action="store_true", help="as one JSON object")
    add_corner(bracket)
    bracket.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Do what the command asks; returns the exit code."""
    import msgspec

    from bicentra.core.evaluation.solution import solve
    from bicentra.core.options import as_it_stands, propose
    from bicentra.core.uncertainty.assess import assess, uncertainty_of
    from bicentra.formats.corner_report import families_object, families_text
    from bicentra.study.document.store import load

    job = load(Path(arguments.job), arguments.corner)
    uncertainty = uncertainty_of(assess(solve(job)), job)
    evaluated = [uncertainty.of(one) if uncertainty is not None else one for one in (as_it_stands(job), *propose(job))]
    own, found = evaluated[0], tuple(sorted(evaluated[1:], key=lambda one: -one.verdict.rank))
    if arguments.json:
        print(msgspec.json.format(msgspec.json.encode(families_object(found, own)), indent=2).decode())
    else:
        print(printable(families_text(found, own, job.display_units), "\n"), end="")
    return OK

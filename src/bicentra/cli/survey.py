"""``bicentra survey``: adjust the readings of every corner."""

import argparse
from pathlib import Path
from typing import Any

from bicentra.cli.words import OK, add_corner
from bicentra.core.base.records import replace
from bicentra.core.base.wording import printable


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    survey = commands.add_parser("survey", help="adjust the readings of every corner and print what follows")
    survey.add_argument("job", metavar="JOB")
    survey.add_argument("--json", action="store_true", help="as one JSON object")
    add_corner(survey, "one corner alone (default: every one)")
    survey.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Do what the command asks; returns the exit code."""
    import msgspec

    from bicentra.formats.measuring_report import survey_object, survey_text
    from bicentra.study.document.store import load

    job = load(Path(arguments.job), arguments.corner)
    if arguments.corner:
        job = replace(job, survey={name: one for name, one in job.survey.items() if name == arguments.corner})
    if arguments.json:
        print(msgspec.json.format(msgspec.json.encode(survey_object(job)), indent=2).decode())
    else:
        print(printable(survey_text(job), "\n"), end="")
    return OK

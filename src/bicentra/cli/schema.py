"""``bicentra schema``: the JSON Schema of the job file."""

import argparse
from typing import Any

from bicentra.cli.words import OK


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    schema = commands.add_parser("schema", help="print the JSON Schema of the job file")
    schema.add_argument("--part", action="store_true", help="of a part file of the library instead")
    schema.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Do what the command asks; returns the exit code."""
    import msgspec

    from bicentra.formats.schema import job_schema, part_schema

    schema = part_schema() if arguments.part else job_schema()
    print(msgspec.json.format(msgspec.json.encode(schema), indent=2).decode())
    return OK

"""The command line: what is asked is done by one file a command; without a command the window opens."""

import argparse
import io
import sys
from collections.abc import Sequence

from bicentra import __version__
from bicentra.cli.words import OK, UNUSABLE, say
from bicentra.core.base.errors import BicentraError

COMMANDS = (
    "check",
    "export",
    "schema",
    "survey",
    "gauge-sim",
    "redrill",
    "search",
    "parts",
    "bracket",
    "shims",
    "practice",
    "pedal",
    "heat",
    "desktop",
)


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command in ``argv``; returns the exit code (0 fine, 1 a finding says stop, 2 unusable)."""
    words = list(sys.argv[1:] if argv is None else argv)
    arguments = (
        _command_parser().parse_args(words)
        if words[:1] and words[0] in COMMANDS
        else _window_parser().parse_args(words)
    )
    try:
        _any_terminal()
        code = int(arguments.run(arguments))
        sys.stdout.flush()
        return code
    except BicentraError as error:
        say(f"bicentra: {' '.join(str(error).split())}", error=True)
        return UNUSABLE
    except BrokenPipeError:
        sys.stderr.close()
        return OK
    except OSError as error:  # a full disk at the other end of the output, a folder that went away
        say(f"bicentra: {error.strerror or error}", error=True)
        return UNUSABLE


def _any_terminal() -> None:
    """Let a terminal without Unicode show what it can: signs it has not come out as question marks, not as a traceback."""
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="replace")


def _window_parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="bicentra",
        description="Fit a brake caliper and rotor to a hub that was never meant for them.",
        epilog="Also: bicentra check JOB [--json] · bicentra export JOB --pdf F … · "
        "bicentra survey JOB [--json] · bicentra search JOB [--library DIR] · bicentra redrill OLD NEW --hole-mm D · "
        "bicentra bracket JOB [--families] [--json] · bicentra shims JOB [--json] · bicentra practice --seed N · "
        "bicentra pedal JOB · bicentra heat JOB … · "
        "bicentra parts KIND [--write F | --take F] · bicentra gauge-sim · "
        "bicentra schema · bicentra desktop install. "
        "Brakes can kill: have the work checked by someone qualified and follow local rules.",
    )
    parser.add_argument("job", nargs="?", metavar="JOB", help="the job file to open")
    parser.add_argument("--demo", action="store_true", help="open a fresh copy of the demo job")
    parser.add_argument("--picture", metavar="FILE", help="save a picture of the first view and close")
    parser.add_argument("--version", action="version", version=f"Bicentra {__version__}")
    parser.set_defaults(run=_window)
    return parser


def _command_parser() -> argparse.ArgumentParser:
    from bicentra.cli import (
        bracket,
        check,
        desktop,
        export,
        gauge,
        heat,
        parts,
        pedal,
        practice,
        redrill,
        schema,
        search,
        shims,
        survey,
    )

    parser = argparse.ArgumentParser(prog="bicentra")
    commands = parser.add_subparsers(required=True)
    for module in (
        check,
        export,
        survey,
        gauge,
        redrill,
        search,
        parts,
        bracket,
        shims,
        practice,
        pedal,
        heat,
        schema,
        desktop,
    ):
        module.add(commands)
    return parser


def _window(arguments: argparse.Namespace) -> int:
    from bicentra.app.main import run

    return run(arguments.job, arguments.demo, arguments.picture)

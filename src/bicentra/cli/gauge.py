"""``bicentra gauge-sim``: a simulated line gauge."""

import argparse
from typing import Any

from bicentra.cli.words import port, seconds, whole_number


def add(commands: Any) -> None:
    """Add the command to the parser's ``commands``."""
    gauge = commands.add_parser("gauge-sim", help="a simulated line gauge that plays the demo corner's readings")
    gauge.add_argument("--seed", type=int, default=1, help="of noise, drift and faults (default 1)")
    gauge.add_argument("--tcp", type=port, metavar="PORT", help="serve on this local port instead of a pseudo-terminal")
    gauge.add_argument("--every", type=seconds, default=1.0, metavar="S", help="seconds between readings (default 1)")
    gauge.add_argument(
        "--count", type=whole_number, default=0, metavar="N", help="stop after N lines (default: play on)"
    )
    gauge.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Do what the command asks; returns the exit code."""
    from bicentra.study.gauges.simulated import play_readings

    return play_readings(arguments.seed, arguments.tcp, arguments.every, arguments.count)

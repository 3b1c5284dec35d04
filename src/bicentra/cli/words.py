"""Words of the command line: numbers that have to be some, the corner that is meant, what is said."""

import argparse
import math
import os
import sys

OK, STOPPED, UNUSABLE = 0, 1, 2
"""What a command ends with: fine, a finding says stop, the input is no use."""


def say(text: str, error: bool = False) -> None:
    """Print one line; control characters and bytes that are no text come out as question marks."""
    words = "".join(c if c.isprintable() else "?" for c in os.fsencode(text).decode("utf-8", "replace"))
    print(words, file=sys.stderr if error else sys.stdout)


def add_corner(
    parser: argparse.ArgumentParser, meant: str = "the corner meant (default: the one it was left at)"
) -> None:
    """Add the option that names the corner."""
    from bicentra.core.parts.job import CORNERS

    parser.add_argument("--corner", choices=CORNERS, default="", metavar="NAME", help=meant)


def port(word: str) -> int:
    """Return a port's number. Raises ``ArgumentTypeError``."""
    return _number(word, 0, 65535, "a port from 0 to 65535")


def finite(word: str) -> float:
    """Return a number that is one. Raises ``ArgumentTypeError``."""
    try:
        value = float(word)
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise argparse.ArgumentTypeError(f"found {word[:40]}; expected a number")
    return value


def whole_number(word: str) -> int:
    """Return a count. Raises ``ArgumentTypeError``."""
    return _number(word, 0, 10**9, "a whole number, 0 or more")


def _number(word: str, least: int, most: int, expected: str) -> int:
    try:
        value = int(word)
    except ValueError:
        value = least - 1
    if not least <= value <= most:
        raise argparse.ArgumentTypeError(f"found {word[:40]}; expected {expected}")
    return value


def seconds(word: str) -> float:
    """Return a time between readings [s]. Raises ``ArgumentTypeError``."""
    try:
        value = float(word)
    except ValueError:
        value = math.nan
    if not 0.001 <= value <= 3600.0:
        raise argparse.ArgumentTypeError(f"found {word[:40]}; expected seconds, 0.001 to 3600")
    return value

"""What ships with the program: fonts with their licence, the demo job."""

from pathlib import Path

_HERE = Path(__file__).parent


def data_path(*parts: str) -> Path:
    """Return the path of a shipped file."""
    return _HERE.joinpath(*parts)

"""What ships with the program: fonts with their licence, the demo job."""

from importlib.resources import files
from pathlib import Path


def data_path(*parts: str) -> Path:
    """Return the path of a shipped file."""
    return Path(str(files(__name__).joinpath(*parts)))

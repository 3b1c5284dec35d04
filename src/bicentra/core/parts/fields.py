"""One description of a field, read by the validation, the JSON Schema and the panels on screen."""

from dataclasses import Field, field, fields
from typing import Any

from bicentra.core.base.quantities import ANGLE, LENGTH, MASS, NUMBER, Kind
from bicentra.core.base.records import Record


class Meaning(Record, frozen=True):
    """What a field means to a person, and the range outside which no real part lies."""

    label: str
    kind: Kind | None = None
    above: float | None = None
    least: float | None = None
    most: float | None = None
    choices: tuple[str, ...] = ()
    help: str = ""
    thread: bool = False


KEY = "meaning"


def length(label: str, above: float | None = 0.0, most: float = 2000.0, help: str = "", default: Any = None) -> Any:
    """Return a length field [mm] that must lie above ``above`` (``None``: of either sign)."""
    least = -most if above is None else None
    return field(default=default, metadata={KEY: Meaning(label, LENGTH, above, least, most, help=help)})


def thickness(label: str, help: str = "", default: Any = None) -> Any:
    """Return a length field [mm] that may be zero but not negative."""
    return field(default=default, metadata={KEY: Meaning(label, LENGTH, least=0.0, most=500.0, help=help)})


def angle(label: str, help: str = "", default: Any = None) -> Any:
    """Return an angle field [degrees], any turn up to two full ones either way."""
    return field(default=default, metadata={KEY: Meaning(label, ANGLE, least=-720.0, most=720.0, help=help)})


def mass(label: str) -> Any:
    """Return a mass field [kg]."""
    return field(default=None, metadata={KEY: Meaning(label, MASS, above=0.0, most=500.0)})


def count(label: str, least: int, most: int, default: Any = None) -> Any:
    """Return a whole-number field."""
    return field(default=default, metadata={KEY: Meaning(label, NUMBER, least=least, most=most)})


def choice(label: str, choices: tuple[str, ...], default: str | None, help: str = "") -> Any:
    """Return a field that takes one of ``choices``."""
    return field(default=default, metadata={KEY: Meaning(label, choices=choices, help=help)})


def thread(label: str, help: str = "") -> Any:
    """Return a field that holds a thread of the tables, or nothing."""
    return field(default=None, metadata={KEY: Meaning(label, thread=True, help=help)})


def text(label: str, default: str = "") -> Any:
    """Return a free text field."""
    return field(default=default, metadata={KEY: Meaning(label)})


def meaning(of: Field[Any]) -> Meaning:
    """Return what ``of`` means; a field without a description means its own name."""
    found = of.metadata.get(KEY)
    return found if isinstance(found, Meaning) else Meaning(of.name.replace("_", " "))


def field_of(record: type, name: str) -> Field[Any]:
    """Return the field ``name`` of the dataclass ``record``. Raises ``KeyError`` when there is none."""
    for of in fields(record):
        if of.name == name:
            return of
    raise KeyError(name)

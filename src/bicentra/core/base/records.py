"""Frozen records, cheap to declare, to make and to compare; and a copy of one with fields changed."""

from typing import TypeVar

import msgspec
from msgspec import field

__all__ = ["Record", "field", "names_in", "replace"]
T = TypeVar("T", bound=msgspec.Struct)


class Record(msgspec.Struct, frozen=True, dict=True):
    """What steps of the work hand to each other: nothing in it changes; what follows from it may be kept with it.

    Parts and jobs, whose fields say what they mean, are ``parts.fields.Described`` instead.
    """


def replace(record: T, /, **changes: object) -> T:
    """Return a copy of a record with some fields changed. Raises ``TypeError`` for a field it has not."""
    return msgspec.structs.replace(record, **changes)


def names_in(record: object) -> tuple[str, ...]:
    """Return the names of the fields of a record; of anything else none."""
    if isinstance(record, msgspec.Struct):
        return record.__struct_fields__
    return ()

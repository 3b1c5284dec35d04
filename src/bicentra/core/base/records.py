"""Frozen records, cheap to declare, to make and to compare; and a copy of a record of either kind with fields changed."""

import dataclasses
from typing import Any, TypeVar, cast

import msgspec
from msgspec import field

__all__ = ["Record", "field", "names_in", "replace"]
T = TypeVar("T")


class Record(msgspec.Struct, frozen=True, dict=True):
    """What steps of the work hand to each other: nothing in it changes; what follows from it may be kept with it.

    Parts and jobs, whose fields say what they mean, are dataclasses instead.
    """


def replace(record: T, /, **changes: object) -> T:
    """Return a copy of a record with some fields changed [units as they are]. Raises ``TypeError`` for a field it has not."""
    if isinstance(record, msgspec.Struct):
        return cast("T", msgspec.structs.replace(record, **changes))
    return cast("T", dataclasses.replace(cast("Any", record), **changes))


def names_in(record: object) -> tuple[str, ...]:
    """Return the names of the fields of a record of either kind; of anything else none."""
    if isinstance(record, msgspec.Struct):
        return record.__struct_fields__
    if dataclasses.is_dataclass(record) and not isinstance(record, type):
        return tuple(of.name for of in dataclasses.fields(record))
    return ()

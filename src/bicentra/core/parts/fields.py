"""Records whose fields say what they mean: one description, read by the validation, the JSON Schema and the panels on screen."""

from operator import attrgetter
from typing import Any, ClassVar, TypeGuard, dataclass_transform

import msgspec

from bicentra.core.base.quantities import ANGLE, FORCE, HEAT, LENGTH, MASS, NUMBER, PRESSURE, Kind
from bicentra.core.base.records import Record, field


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


class Declared(Record, frozen=True):
    """What stands behind a field in its record: its default and its meaning."""

    default: Any
    meaning: Meaning


class Field(Record, frozen=True):
    """One field of a described record. ``meaning``: ``None`` where the record says nothing of it. ``needed``: it has no
    default.
    """

    name: str
    meaning: Meaning | None = None
    needed: bool = False
    fixed: Any = None
    factory: Any = None

    @property
    def default(self) -> Any:
        """The default, made again where it is a list, a map or a record."""
        return self.fixed if self.factory is None else self.factory()


@dataclass_transform(kw_only_default=True, frozen_default=True)
class _Describing(msgspec.StructMeta):
    """Takes the meanings out of a record's declaration before it is made: cheap, so that the program starts soon."""

    def __new__(cls, name: str, bases: tuple[type, ...], namespace: dict[str, Any]) -> Any:
        known: dict[str, Field] = {}
        for base in reversed(bases):
            known.update(getattr(base, "described", {}))
        for of in namespace.get("__annotations__", {}):
            if of in ("described", "_hashed"):
                continue
            given = namespace.get(of, msgspec.NODEFAULT)
            if isinstance(given, Declared):
                namespace[of] = given.default
                known[of] = Field(of, given.meaning, fixed=given.default)
            elif getattr(given, "default_factory", msgspec.NODEFAULT) is not msgspec.NODEFAULT:
                known[of] = Field(of, factory=given.default_factory)
            else:
                known[of] = Field(of, needed=given is msgspec.NODEFAULT, fixed=given)
        namespace["described"] = known
        namespace["_hashed"] = attrgetter(
            *[of for of, words in known.items() if words.factory is not dict], "__class__"
        )
        return super().__new__(cls, name, bases, namespace, frozen=True, kw_only=True)


class Described(msgspec.Struct, metaclass=_Describing):
    """A frozen record whose fields say what they mean. Maps in it count for equality, not for its hash."""

    described: ClassVar[dict[str, Field]]
    _hashed: ClassVar[Any]

    def __hash__(self) -> int:
        return hash(self._hashed(self))


def length(label: str, above: float | None = 0.0, most: float = 2000.0, help: str = "", default: Any = None) -> Any:
    """Return a length field [mm] that must lie above ``above`` (``None``: of either sign)."""
    least = -most if above is None else None
    return Declared(default, Meaning(label, LENGTH, above, least, most, help=help))


def thickness(label: str, help: str = "", default: Any = None) -> Any:
    """Return a length field [mm] that may be zero but not negative."""
    return Declared(default, Meaning(label, LENGTH, least=0.0, most=500.0, help=help))


def angle(label: str, help: str = "", default: Any = None) -> Any:
    """Return an angle field [degrees], any turn up to two full ones either way."""
    return Declared(default, Meaning(label, ANGLE, least=-720.0, most=720.0, help=help))


def mass(label: str) -> Any:
    """Return a mass field [kg]."""
    return Declared(None, Meaning(label, MASS, above=0.0, most=500.0))


def number(label: str, least: float = 0.0, most: float = 1e6, default: Any = None, help: str = "") -> Any:
    """Return a field that holds a plain number [unit of the field]."""
    return Declared(default, Meaning(label, NUMBER, least=least, most=most, help=help))


def pressure(label: str, most: float) -> Any:
    """Return a field that holds a pressure [bar, 0.1 N/mm2]."""
    return Declared(None, Meaning(label, PRESSURE, least=0.0, most=most))


def force(label: str, most: float) -> Any:
    """Return a field that holds a force [N]."""
    return Declared(None, Meaning(label, FORCE, least=0.0, most=most))


def heat(label: str, most: float, least: float = 0.0) -> Any:
    """Return a field that holds a temperature [degrees Celsius]."""
    return Declared(None, Meaning(label, HEAT, least=least, most=most))


def weight(label: str) -> Any:
    """Return a field that holds a vehicle's mass or an axle's load [kg]."""
    return Declared(None, Meaning(label, MASS, above=0.0, most=60000.0))


def count(label: str, least: int, most: int, default: Any = None, help: str = "") -> Any:
    """Return a whole-number field."""
    return Declared(default, Meaning(label, NUMBER, least=least, most=most, help=help))


def choice(label: str, choices: tuple[str, ...], default: str | None, help: str = "") -> Any:
    """Return a field that takes one of ``choices``."""
    return Declared(default, Meaning(label, choices=choices, help=help))


def thread(label: str, help: str = "") -> Any:
    """Return a field that holds a thread of the tables, or nothing."""
    return Declared(None, Meaning(label, thread=True, help=help))


def text(label: str, default: str = "") -> Any:
    """Return a free text field."""
    return Declared(default, Meaning(label))


def other_keys() -> Any:
    """Return the field that keeps the keys of a file which this version does not know."""
    return field(default_factory=dict)


def fields(record: object) -> tuple[Field, ...]:
    """Return the fields of a described record, or of its class, in their order. Raises ``TypeError`` for anything else."""
    if not is_described(record) and not is_described_kind(record):
        raise TypeError(f"{record!r} has no described fields")
    return tuple(record.described.values())


def is_described(value: object) -> TypeGuard[Described]:
    """Tell whether ``value`` is a record whose fields say what they mean."""
    return isinstance(value, Described)


def is_described_kind(value: object) -> TypeGuard[type[Described]]:
    """Tell whether ``value`` is a class of such records."""
    return isinstance(value, type) and issubclass(value, Described)


def meaning(of: Field) -> Meaning:
    """Return what ``of`` means; a field without a description means its own name."""
    return of.meaning if of.meaning is not None else Meaning(of.name.replace("_", " "))


def field_of(record: type, name: str) -> Field:
    """Return the field ``name`` of the described ``record``. Raises ``KeyError`` when there is none."""
    found: Field = record.described[name]  # type: ignore[attr-defined]
    return found

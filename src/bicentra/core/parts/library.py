"""Parts on a shelf: rotors and calipers with where each number comes from. One part a file."""

from collections.abc import Mapping
from dataclasses import dataclass, field, fields, replace
from typing import Any

from bicentra.core.base.errors import JobError
from bicentra.core.parts import fields as f
from bicentra.core.parts.job import Caliper, Rotor

QUALITIES = ("measured", "catalogue", "guessed")
KINDS = ("rotor", "caliper")


@dataclass(frozen=True, kw_only=True)
class Part:
    """One part of a library. ``quality`` says of a dimension whether it was measured, found in a catalogue or guessed;
    one that is not named there is as good as ``source`` says: catalogue.
    """

    format: str = "bicentra.part"
    version: int = 1
    rotor: Rotor | None = None
    caliper: Caliper | None = None
    source: str = f.text("Where the numbers come from")
    price: float | None = f.count("Price", 0, 1_000_000)
    currency: str = f.text("Currency")
    notes: str = f.text("Notes")
    quality: Mapping[str, str] = field(default_factory=dict, hash=False)
    extra: Mapping[str, Any] = field(default_factory=dict, repr=False, hash=False)

    @property
    def kind(self) -> str:
        """Rotor or caliper."""
        return "rotor" if self.rotor is not None else "caliper"

    @property
    def item(self) -> Rotor | Caliper:
        """The part itself, its guessed dimensions marked."""
        item = self.rotor if self.rotor is not None else self.caliper
        if item is None:
            return Rotor()
        guessed = tuple(name for name, quality in self.quality.items() if quality == "guessed")
        return replace(item, guessed=guessed)

    @property
    def name(self) -> str:
        """What the part is called."""
        return self.item.name


@dataclass(frozen=True)
class Difference:
    """One dimension of two parts side by side: label, before, after; numbers or words, ``None`` where not known."""

    label: str
    path: str
    before: Any
    after: Any
    guessed: bool


def check_part(part: Part) -> None:
    """Raise ``JobError`` for a part that is none: neither or both kinds, a quality of nothing, numbers that cannot be."""
    from bicentra.core.parts.validate import validate_part

    if part.format != "bicentra.part":
        raise JobError("format", f"“{part.format[:60]}”", "“bicentra.part”")
    if part.version != 1:
        raise JobError("version", str(part.version), "version 1")
    if (part.rotor is None) == (part.caliper is None):
        found = "neither" if part.rotor is None else "both"
        raise JobError("(part)", found, "either a rotor or a caliper")
    item = part.rotor if part.rotor is not None else part.caliper
    if not item or not item.name.strip():
        raise JobError(f"{part.kind}.name", "nothing", "a name")
    names = {of.name for of in fields(item)}
    for name, quality in part.quality.items():
        if name not in names:
            raise JobError(f"quality.{name}", "a dimension the part has not", "one of its keys")
        if quality not in QUALITIES:
            raise JobError(f"quality.{name}", f"“{quality[:40]}”", "one of " + ", ".join(QUALITIES))
    validate_part(part.kind, item)


def differences(before: Rotor | Caliper, after: Rotor | Caliper) -> tuple[Difference, ...]:
    """Return every described dimension in which two parts of one kind differ, or one is not known."""
    found = []
    for of in fields(after):
        told = f.meaning(of)
        if of.name in ("extra", "guessed") or (f.KEY not in of.metadata and not of.name.endswith(("_mm", "_deg"))):
            continue
        one, other = getattr(before, of.name), getattr(after, of.name)
        if one != other:
            plain = of.name.rsplit("_", 1)[0].replace("_", " ").capitalize()
            label = told.label if f.KEY in of.metadata else plain
            found.append(Difference(label, of.name, one, other, of.name in after.guessed))
    return tuple(found)

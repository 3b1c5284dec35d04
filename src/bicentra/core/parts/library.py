"""Parts of a library, with where each number comes from. One part a file."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.base.errors import JobError
from bicentra.core.base.records import Record, field, replace
from bicentra.core.parts import fields as f
from bicentra.core.parts.brakes import MasterCylinder
from bicentra.core.parts.job import Caliper, Rotor, Wheel
from bicentra.core.parts.rotor import Hat
from bicentra.core.parts.vehicle import Booster, Drum, Fluid, Pad, Valve
from bicentra.core.parts.wheel import Tyre, WeightBand

QUALITIES = ("measured", "catalogue", "guessed")
Item = Rotor | Caliper | Wheel | Hat | MasterCylinder | Pad | Fluid | Booster | Valve | Drum | Tyre
RECORDS: dict[str, type[Item]] = {
    "rotor": Rotor, "caliper": Caliper, "wheel": Wheel, "hat": Hat, "master_cylinder": MasterCylinder, "pad": Pad,
    "fluid": Fluid, "booster": Booster, "valve": Valve, "drum": Drum, "tyre": Tyre,
}  # fmt: skip
KINDS = tuple(RECORDS)


class Part(f.Described):
    """One part of a library. ``quality`` says of a dimension whether it was measured, found in a catalogue or guessed;
    one that is not named there is as good as ``source`` says: catalogue.
    """

    format: str = "bicentra.part"
    version: int = 1
    rotor: Rotor | None = None
    caliper: Caliper | None = None
    wheel: Wheel | None = None
    hat: Hat | None = None
    master_cylinder: MasterCylinder | None = None
    pad: Pad | None = None
    fluid: Fluid | None = None
    booster: Booster | None = None
    valve: Valve | None = None
    drum: Drum | None = None
    tyre: Tyre | None = None
    source: str = f.text("Where the numbers come from")
    price: float | None = f.count("Price", 0, 1_000_000)
    currency: str = f.text("Currency")
    notes: str = f.text("Notes")
    quality: Mapping[str, str] = field(default_factory=dict)
    extra: Mapping[str, Any] = f.other_keys()

    @property
    def kind(self) -> str:
        """What it is: the first of ``KINDS`` that is there."""
        return next((kind for kind in KINDS if getattr(self, kind) is not None), "rotor")

    @property
    def item(self) -> Item:
        """The part itself, its guessed dimensions marked where a job keeps such marks."""
        item: Item = getattr(self, self.kind) or Rotor()
        return replace(item, guessed=self.guessed) if hasattr(item, "guessed") else item

    @property
    def guessed(self) -> tuple[str, ...]:
        """Names of its guessed dimensions."""
        return tuple(name for name, quality in self.quality.items() if quality == "guessed")

    @property
    def name(self) -> str:
        """What the part is called."""
        return self.item.name


class Difference(Record, frozen=True):
    """One dimension of two parts side by side: label, before, after; numbers or words, ``None`` where unknown."""

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
    there = [kind for kind in KINDS if getattr(part, kind) is not None]
    if len(there) != 1:
        raise JobError("(part)", " and ".join(there) or "no part", "exactly one of " + ", ".join(KINDS))
    item: Item = getattr(part, part.kind)
    if not item.name.strip():
        raise JobError(f"{part.kind}.name", "nothing", "a name")
    names = {of.name for of in f.fields(item)}
    for name, quality in part.quality.items():
        if name not in names:
            raise JobError(f"quality.{name}", "a dimension the part has not", "one of its keys")
        if quality not in QUALITIES:
            raise JobError(f"quality.{name}", f"“{quality[:40]}”", "one of " + ", ".join(QUALITIES))
    validate_part(part.kind, item)


def differences(before: Item, after: Item) -> tuple[Difference, ...]:
    """Return every described dimension in which two parts of one kind differ, or one is unknown."""
    found = []
    for of in f.fields(after):
        of_field = f.meaning(of)
        if of.name in ("extra", "guessed") or (of.meaning is None and not of.name.endswith(("_mm", "_deg", "weights"))):
            continue
        one, other = getattr(before, of.name), getattr(after, of.name)
        if rounded(one) != rounded(other):
            plain = of.name.rsplit("_", 1)[0].replace("_", " ").capitalize()
            label = of_field.label if of.meaning is not None else plain
            found.append(Difference(label, of.name, one, other, of.name in guessed_of(after)))
    return tuple(found)


def rounded(value: Any) -> Any:
    """Return ``value`` with its numbers to a ten-thousandth: what lies closer is the same, whatever units it came in."""
    if isinstance(value, WeightBand):
        return rounded((value.z_min_mm, value.z_max_mm, value.height_mm))
    if isinstance(value, tuple):
        return tuple(rounded(one) for one in value)
    return round(float(value), 4) if isinstance(value, int | float) else value


def part_of(item: Item, source: str) -> Part:
    """Return ``item`` as a part file says it, its guesses kept."""
    quality = dict.fromkeys(guessed_of(item), "guessed")
    kind = part_kind_of(item)
    blank = Part(source=source, quality=quality)
    return replace(blank, **{kind: item})


def part_kind_of(item: Item) -> str:
    """Return what ``item`` is, one of ``KINDS``."""
    return next(kind for kind, record in RECORDS.items() if type(item) is record)


def guessed_of(item: Item) -> tuple[str, ...]:
    """Return the names of the guessed dimensions of a part; those that a job keeps no marks for have none."""
    marked: tuple[str, ...] = getattr(item, "guessed", ())
    return marked

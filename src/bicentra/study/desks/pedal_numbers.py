"""The numbers that pedal, balance and heat are worked out from, in the columns they are asked in, and those that come
from the library.
"""

from typing import Any

from bicentra.core.base.errors import StoreError
from bicentra.core.base.finding import Edit
from bicentra.core.base.numbers import known
from bicentra.core.base.quantities import LENGTH, Kind
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.hydraulics.missing import height_by_scales
from bicentra.core.parts.brakes import Caliper
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.fields import Meaning, field_of, fields, meaning
from bicentra.core.parts.library import Item, Part
from bicentra.core.parts.vehicle import (
    AXLES,
    Axle,
    Booster,
    Chassis,
    Compliance,
    Drum,
    Fluid,
    Master,
    Pad,
    Pedal,
    Valve,
    Vehicle,
)
from bicentra.core.parts.wheel import Tyre

OF_BODY = (
    "mass_kg", "front_axle_kg", "wheelbase_mm", "cg_height_mm", "build", "rotating_kg", "laden_kg", "laden_front_kg", "tyre_mu",
    "compliance_mm3_per_bar",
)  # fmt: skip
OF_PAD = ("mu", "mu_cold", "mu_hot", "from_c", "to_c", "retraction_mm")
LEAST = 1.0
PISTONS = {"pistons_inboard_mm": "Pistons, inboard side", "pistons_outboard_mm": "Pistons, outboard side"}


class NumberField(Record, frozen=True):
    """One number: where it stands in the file, what it means. ``several``: a list of them. ``free``: it may be left open."""

    path: str
    text: Meaning
    several: Kind | None = None
    free: bool = True


class Group(Record, frozen=True):
    """Numbers that belong together, under a heading."""

    title: str
    fields: tuple[NumberField, ...]


def columns_of(vehicle: Vehicle) -> tuple[tuple[Group, ...], ...]:
    """Return the columns from the vehicle over its ends to the pedal, each with its groups."""
    body = (Group("Vehicle", _of("vehicle", Chassis, OF_BODY)), Group("Fluid", _of("vehicle.fluid", Fluid)))
    chain = (
        Group("Pedal", _of("vehicle.pedal", Pedal)),
        Group("Booster", _of("vehicle.booster", Booster)),
        Group("Master", _of("vehicle.master", Master)),
        Group("Valve to the rear", _of("vehicle.valve", Valve)),
    )
    return (body, *(_end(name, vehicle.axles.get(name, Axle())) for name in AXLES), chain)


def _end(name: str, axle: Axle) -> tuple[Group, ...]:
    at = f"axles.{name}"
    wheel = _of(at, Axle, ("tyre_radius_mm",))
    title = f"{name.capitalize()} axle"
    soft = Group(f"Flex and wear, {name}", _of(f"{at}.give", Compliance))
    if axle.drum is not None:
        return (Group(title, wheel), Group(f"Drums, {name}", _of(f"{at}.drum", Drum)), soft)
    pistons = tuple(NumberField(f"{at}.caliper.{key}", Meaning(text, LENGTH), LENGTH) for key, text in PISTONS.items())
    caliper = (*_of(f"{at}.caliper", Caliper, ("action",)), *pistons)
    return (
        Group(title, wheel),
        Group(f"Caliper, {name}", caliper),
        Group(f"Pads, {name}", _of(f"{at}.pad", Pad, OF_PAD)),
        soft,
    )


def _of(at: str, record: type[Any], names: tuple[str, ...] = ()) -> tuple[NumberField, ...]:
    found = []
    for name in names or tuple(of.name for of in fields(record) if of.name != "extra"):
        of = field_of(record, name)
        found.append(NumberField(f"{at}.{name}", meaning(of), free=of.default is None))
    return tuple(found)


def edits_for(vehicle: Vehicle, path: str, value: object) -> tuple[Edit, ...]:
    """Return the edits that put ``value`` at ``path``: an axle that nobody has spoken of yet is made first."""
    first = path.split(".")
    missing = first[0] == "axles" and first[1] not in vehicle.axles
    return (*((f"axles.{first[1]}", Axle()),) * missing, (path, value))


def edits_pulled(vehicle: Vehicle, path: str, value: float) -> tuple[Edit, ...]:
    """Return the edits of a bore, lever or knee that is pulled to ``value``, never to nothing.

    A piston takes the one opposite with it where both are alike: opposed pistons of unlike size cannot hold a pad.
    """
    value = max(value, LEAST)
    if ".pistons_inboard_mm[" not in path:
        return ((path, value),)
    opposite = path.replace("_inboard_", "_outboard_")
    try:
        alike = get_value(vehicle, opposite) == get_value(vehicle, path)
    except KeyError:
        alike = False
    return ((path, value), (opposite, value)) if alike else ((path, value),)


def height_text(vehicle: Vehicle, lifted: float, lift: float) -> float:
    """Return the height of the centre of gravity [mm] from a front axle load ``lifted`` [kg] with the rear up by
    ``lift`` [mm].
    """
    chassis = vehicle.vehicle
    radius = known(vehicle.axles.get("front", Axle()).tyre_radius_mm)
    numbers = known(chassis.mass_kg), known(chassis.front_axle_kg), lifted, known(chassis.wheelbase_mm), lift, radius
    return height_by_scales(*numbers)


STAYS = ("extra", "retraction_mm", "age_years")
"""What is the vehicle's and not the part's: another part leaves it as it is."""


class NumberPlace(Record, frozen=True):
    """Where in the vehicle a part of ``kind`` goes, by key path."""

    kind: str
    at: str


def places_of(vehicle: Vehicle) -> dict[str, NumberPlace]:
    """Return where parts from the library go, by the heading of the numbers they fill."""
    found = {
        "Fluid": NumberPlace("fluid", "vehicle.fluid"),
        "Booster": NumberPlace("booster", "vehicle.booster"),
        "Valve to the rear": NumberPlace("valve", "vehicle.valve"),
    }
    for name in AXLES:
        found[f"{name.capitalize()} axle"] = NumberPlace("tyre", f"axles.{name}")
        if vehicle.axles.get(name, Axle()).drum is not None:
            found[f"Drums, {name}"] = NumberPlace("drum", f"axles.{name}.drum")
        else:
            found[f"Pads, {name}"] = NumberPlace("pad", f"axles.{name}.pad")
    return found


def edits_of(vehicle: Vehicle, place: NumberPlace, part: Part) -> tuple[tuple[Edit, ...], tuple[str, ...]]:
    """Return the edits that put ``part`` at ``place``, and the words of what it only guesses: those numbers stay open.

    A number that the part does not state becomes open too: what was there belonged to another part.
    """
    item: Any = part.item
    guessed = [meaning(of).label.lower() for of in fields(item) if of.name in part.guessed]
    if isinstance(item, Tyre):
        edits: tuple[Edit, ...] = ((f"{place.at}.tyre_radius_mm", None if guessed else item.radius_mm),)
    else:
        edits = tuple(
            (f"{place.at}.{of.name}", of.default if of.name in part.guessed else getattr(item, of.name))
            for of in fields(item)
            if of.name not in STAYS
        )
    axle = place.at.split(".")[1]
    new = place.at.startswith("axles.") and axle not in vehicle.axles
    return (*((f"axles.{axle}", Axle()),) * new, *edits), tuple(guessed)


def as_part(vehicle: Vehicle, place: NumberPlace, name: str) -> Item:
    """Return what the vehicle has at ``place`` as a part called ``name``. Raises ``StoreError`` where nothing is known of it."""
    try:
        there = get_value(vehicle, place.at)
    except KeyError:
        there = None
    if isinstance(there, Axle):
        item: Item = Tyre(name=name, radius_mm=there.tyre_radius_mm)
    else:
        item = replace(there or (Drum() if place.kind == "drum" else Pad()), name=name)
        item = replace(item, retraction_mm=None) if isinstance(item, Pad) else item
    if item == replace(type(item)(), name=name):
        raise StoreError(f"nothing is known of the {place.kind} yet; type its numbers, then keep it")
    return item


def number_text(part: Part, lengths: LengthFormat) -> str:
    """Return a part's name and what decides about it, for a menu."""
    item: Any = part.item
    if part.kind == "pad":
        shown = [
            f"µ {value:g} {word}" for value, word in ((item.mu, "warm"), (item.mu_hot, "hot")) if value is not None
        ]
        shown += [f"to {lengths.heat(item.to_c)}"] if item.to_c is not None else []
    elif part.kind == "fluid":
        both = ((item.dry_boil_c, "dry"), (item.wet_boil_c, "wet"))
        shown = [f"boils {lengths.heat(value)} {word}" for value, word in both if value is not None]
    elif part.kind == "booster":
        shown = [f"gain {item.gain:g}"] if item.gain is not None else []
        shown += [f"to {lengths.force(item.runout_n)}"] if item.runout_n is not None else []
    elif part.kind == "valve":
        shown = [f"knee {lengths.pressure(item.knee_bar)}"] if item.knee_bar is not None else []
        shown += [f"slope {item.slope:g}"] if item.slope is not None else []
    elif part.kind == "drum":
        shown = [f"Ø {lengths.size(item.diameter_mm)}"] if item.diameter_mm is not None else []
    else:
        shown = [lengths.size(item.radius_mm)] if item.radius_mm is not None else []
    shown += ["guessed: " + ", ".join(part.guessed)] if part.guessed else []
    return ": ".join(one for one in (part.name, ", ".join(shown)) if one)

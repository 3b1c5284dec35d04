"""The numbers that pedal, balance and heat are worked out from, in the columns they are asked in. No Qt."""

from typing import Any

from bicentra.core.base.finding import Edit
from bicentra.core.base.numbers import known
from bicentra.core.base.quantities import LENGTH, Kind
from bicentra.core.base.records import Record
from bicentra.core.hydraulics.two_scales import height_by_scales
from bicentra.core.parts.caliper import Caliper
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.fields import Meaning, field_of, fields, meaning
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
    """Return the edits of a bore, lever or knee that is pulled to ``value`` [its own unit], never to nothing.

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

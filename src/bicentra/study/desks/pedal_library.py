"""Pads, fluid, booster, valve, drums and tyres from the library into the vehicle, and from the vehicle into the
library. No Qt.
"""

from typing import Any

from bicentra.core.base.errors import StoreError
from bicentra.core.base.finding import Edit
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.fields import fields, meaning
from bicentra.core.parts.library import Item, Part
from bicentra.core.parts.tyre import Tyre
from bicentra.core.parts.vehicle import AXLES, Axle, Drum, Pad, Vehicle

STAYS = ("extra", "retraction_mm", "age_years")
"""What is the vehicle's and not the part's: another part leaves it as it is."""


class NumberPlace(Record, frozen=True):
    """Where in the vehicle a part of ``kind`` goes, by key path."""

    kind: str
    at: str


def places_of(vehicle: Vehicle) -> dict[str, NumberPlace]:
    """Return where parts from the shelf go, by the heading of the numbers they fill."""
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


def text_of(part: Part, lengths: LengthFormat) -> str:
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

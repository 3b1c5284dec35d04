"""What has to be measured before the pedal's questions can be answered; the height of the centre of gravity from two
weighings.
"""

import math

from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.parts.vehicle import AXLES, BUILDS, SHOES, Axle, Vehicle

Wanted = tuple[str, str]
MOST_NAMED = 4


def missing_of(vehicle: Vehicle) -> tuple[Wanted, ...]:
    """Return what the balance and the pedal's force still lack, as (key path, words); nothing once all of it is there."""
    found = [*_body(vehicle)]
    for name in AXLES:
        found += _end(name, vehicle.axles.get(name, Axle()))
    return (*found, *_pedal(vehicle))


def missing_text(vehicle: Vehicle) -> str:
    """Return what is missing in words, the first few named and the rest counted; empty once nothing is."""
    words = [text for _, text in missing_of(vehicle)]
    more = f" and {len(words) - MOST_NAMED} more" if len(words) > MOST_NAMED else ""
    return ", ".join(words[:MOST_NAMED]) + more


def _body(vehicle: Vehicle) -> list[Wanted]:
    chassis = vehicle.vehicle
    asked = (("mass_kg", "mass"), ("front_axle_kg", "front axle load"), ("wheelbase_mm", "wheelbase"))
    found = [(f"vehicle.{name}", text) for name, text in asked if getattr(chassis, name) is None]
    if chassis.cg_height_mm is None and chassis.build not in BUILDS:
        found.append(("vehicle.cg_height_mm", "height of the centre of gravity, or the kind of vehicle"))
    return found


def _end(name: str, axle: Axle) -> list[Wanted]:
    """Return what one end lacks."""
    at, found = f"axles.{name}", list[Wanted]()
    if axle.drum is not None:
        if axle.drum.cylinder_bore_mm is None:
            found.append((f"{at}.drum.cylinder_bore_mm", f"wheel cylinder in the {name}"))
        if axle.drum.diameter_mm is None:
            found.append((f"{at}.drum.diameter_mm", f"drum diameter in the {name}"))
        if axle.drum.factor is None and axle.drum.layout not in SHOES:
            found.append((f"{at}.drum.layout", f"shoes of the {name} drum, or its factor"))
    else:
        caliper, rotor = axle.caliper, axle.rotor
        if not caliper.pistons_inboard_mm and not caliper.pistons_outboard_mm:
            found.append((f"{at}.caliper.pistons_inboard_mm", f"pistons in the {name}"))
        if axle.pad.mu is None:
            found.append((f"{at}.pad.mu", f"friction of the {name} pads"))
        sizes = (
            (rotor.diameter_mm, "rotor.diameter_mm", "rotor diameter"),
            (axle.fit.pad_inset_mm, "fit.pad_inset_mm", "pad inset"),
        )
        found += [(f"{at}.{path}", f"{text} in the {name}") for value, path, text in sizes if value is None]
        if caliper.pad_height_mm is None and not caliper.pad_outline_mm:
            found.append((f"{at}.caliper.pad_height_mm", f"pad height in the {name}"))
    if axle.tyre_radius_mm is None:
        found.append((f"{at}.tyre_radius_mm", f"tyre radius in the {name}"))
    return found


def _pedal(vehicle: Vehicle) -> list[Wanted]:
    """Return what the chain from the foot to the line lacks."""
    chassis, found = vehicle.vehicle, list[Wanted]()
    pedal, master = chassis.pedal, chassis.master
    if not pedal.ratio and (pedal.pivot_to_pad_mm is None or pedal.pivot_to_rod_mm is None):
        found.append(("vehicle.pedal.ratio", "pedal ratio, or its two lengths"))
    if chassis.booster.kind != "none" and not chassis.booster.gain:
        found.append(("vehicle.booster.gain", "gain of the booster"))
    if master.bore_mm is None:
        found.append(("vehicle.master.bore_mm", "bore of the master"))
    if master.stroke_mm is None:
        found.append(("vehicle.master.stroke_mm", "stroke of the master"))
    if chassis.valve.kind in ("fixed", "adjustable"):
        for name, text in (("knee_bar", "knee of the valve"), ("slope", "slope of the valve")):
            if getattr(chassis.valve, name) is None:
                found.append((f"vehicle.valve.{name}", text))
    return found


def height_by_scales(mass: float, level: float, lifted: float, wheelbase: float, lift: float, radius: float) -> float:
    """Return the height of the centre of gravity over the road [mm].

    ``mass`` of the whole, front axle load ``level`` and with the rear axle ``lifted`` [kg]; ``wheelbase``, ``lift`` of the rear
    axle, tyre ``radius`` [mm]. h = r + L ΔW/(W tan θ), sin θ = lift/L: static equilibrium about the front axle; Gillespie,
    Fundamentals of Vehicle Dynamics, from memory. Unknown where the numbers cannot be so.
    """
    if not is_known(mass, level, lifted, wheelbase, lift, radius) or not 0.0 < lift < wheelbase or mass <= 0.0:
        return UNKNOWN
    moved = lifted - level
    if moved <= 0.0 or lifted >= mass:
        return UNKNOWN
    return radius + wheelbase * moved / (mass * math.tan(math.asin(lift / wheelbase)))

"""Cures that hide a fault or make a new one: a push rod made longer, two boosters, valves left from other brakes.

All limits are common practice, no source.
"""

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import UNKNOWN, known
from bicentra.core.base.registry import LIMITS, PRACTICE
from bicentra.core.base.wording import LengthFormat, make_finding, units_of
from bicentra.core.parts.vehicle import AXLES, Axle, Vehicle


def unsafe_remedies(vehicle: Vehicle) -> tuple[Finding, ...]:
    """Return what is asked of push rod, booster and valve."""
    return (_rod(vehicle), *_boost(vehicle), *_valve(vehicle))


def _rod(vehicle: Vehicle) -> Finding:
    """Whether the master comes back to its stop: without free play its port stays shut and the brakes hold themselves on."""
    lengths, play = LengthFormat(units_of(vehicle.display_units)), known(vehicle.vehicle.pedal.free_play_mm)
    why = f"{lengths.gap(play)} of free play at the pad. "
    if play < LIMITS["pedal-rod"].watch:
        why += "A longer push rod against a soft pedal holds the master off its stop: its port stays shut, the brakes drag, warm "
        why += "up and lock. Shorten the rod until the pad moves a little before it meets anything; find the air or the lost fluid."
    else:
        why += "The master cylinder returns fully."
    missing = "free play at the pad, before the push rod meets the master"
    return make_finding("pedal-rod", play, LIMITS["pedal-rod"], why, features=("rod",), missing=missing)


def _boost(vehicle: Vehicle) -> tuple[Finding, ...]:
    """Whether a booster helps as much as one does: a gain that was never said, or that of two."""
    booster = vehicle.vehicle.booster
    if booster.kind == "none":
        return ()
    gain = UNKNOWN if booster.gain in (None, 1.0) else known(booster.gain)
    why = f"The booster helps {gain:g} times. "
    if gain > LIMITS["pedal-boost"].watch:
        why += "That is more than one booster gives: two in a row, or a sum of both, lock the wheels at a touch."
    missing = "gain of the booster: 1 would be none"
    return (make_finding("pedal-boost", gain, LIMITS["pedal-boost"], why, features=("booster",), missing=missing),)


def _valve(vehicle: Vehicle) -> tuple[Finding, ...]:
    """Whether a valve was made for other brakes than those that are there now."""
    chassis, rear = vehicle.vehicle, vehicle.axles.get("rear", Axle())
    kind, discs = chassis.valve.kind, "rear" in vehicle.axles and rear.drum is None
    changed = any(vehicle.axles.get(name, Axle()).before is not None for name in AXLES)
    if kind == "metering" and discs:
        why = "A metering valve holds the front off until rear shoes bite; with discs in the rear it only makes the rear lead. "
        why += "Take it out."
    elif kind == "fixed" and changed and chassis.before.valve is None:
        why = "The fixed valve was made for the brakes it came with. With the new ones it may cut the rear too soon or too late: "
        why += "measure its knee and slope and type them here, or take it out and look at the balance without it."
    else:
        return ()
    return (
        Finding(
            "pedal-valve", Verdict.CAUTION, 1.0, 0.0, "", why, features=("valve",), source=PRACTICE, at_least=False
        ),
    )

"""Sums that are often done wrong, and remedies that hide a fault or make a new one, each beside this vehicle's own numbers."""

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.base.registry import LIMITS, PRACTICE
from bicentra.core.base.wording import LengthFormat, make_finding, units_of
from bicentra.core.hydraulics.balance import Locking, locking
from bicentra.core.hydraulics.chain import Chain
from bicentra.core.hydraulics.ends import GRAVITY, areas_of
from bicentra.core.parts.vehicle import AXLES, Axle, Vehicle

AT_KMH, AT_BAR, HALF = 60.0, 50.0, 0.005
UNTOLD = "still unknown here"


class Misconception(Record, frozen=True):
    """``said``: the sum as it is reported. ``text``: what is so, with this vehicle's numbers where they are known."""

    said: str
    text: str


def misconceptions_of(vehicle: Vehicle, chain: Chain, then: Chain | None) -> tuple[Misconception, ...]:
    """Return the five usual ones for ``vehicle``; ``then``: its chain as it was, where somebody wrote it down."""
    return (
        _pistons(vehicle, chain.lengths),
        _pads(chain),
        _shorter(chain),
        _same_number(vehicle, chain),
        _half_a_percent(chain, then),
    )


def _pistons(vehicle: Vehicle, lengths: LengthFormat) -> Misconception:
    said = "Four pistons clamp twice as hard as two."
    caliper = vehicle.axles.get("front", Axle()).caliper
    side, every = areas_of(caliper)
    if not is_known(side, every):
        text = "Only the pistons of one side count where two sides press against each other; a floating caliper counts all. "
        return Misconception(said, f"{text}The pistons in front are {UNTOLD}.")
    count = len(caliper.pistons_inboard_mm) + len(caliper.pistons_outboard_mm)
    pressed, at = lengths.force(side * AT_BAR / 10.0), lengths.pressure(AT_BAR)
    if caliper.action == "floating":
        return Misconception(
            said,
            f"Floating, {count} on one side: all of them count, {lengths.area(side)}, {pressed} on either pad at {at}.",
        )
    text = (
        f"Of the {count} in front only those of one side press one pad: {lengths.area(side)} of {lengths.area(every)}, "
    )
    text += f"{pressed} at {at}. "
    return Misconception(
        said, text + "The other side presses back just as hard: that is what clamps, it does not count twice."
    )


def _pads(chain: Chain) -> Misconception:
    said = "Bigger pads brake harder."
    front = chain.ends[0]
    torque = front.torque(AT_BAR / 10.0)
    text = "The size of the pad is not in the sum, 2 · friction · clamp · radius: a larger one runs cooler and lasts longer."
    if front.kind == "drum" or not is_known(torque):
        return Misconception(said, text)
    here, at = chain.lengths.torque(torque), chain.lengths.pressure(AT_BAR)
    return Misconception(said, f"{text} Here {here} a front wheel at {at}, with any size at this radius and friction.")


def _shorter(chain: Chain) -> Misconception:
    said = "Bigger brakes stop shorter."
    grip = chain.body.grip
    first: Locking | None = locking(chain, grip) if is_known(grip) else None
    if first is None or not first.first or not is_known(first.decel, first.foot) or first.decel <= 0.0:
        return Misconception(said, f"Once the wheels lock the tyres decide. Where that begins is {UNTOLD}.")
    metres = (AT_KMH / 3.6) ** 2 / (2.0 * first.decel * GRAVITY)
    lengths = chain.lengths
    text = f"At grip {grip:g} the {first.first} locks from {lengths.force(first.foot)}, at {first.decel:.2f} g: "
    text += f"{_far(metres, lengths)} from "
    text += f"{chain.lengths.speed(AT_KMH)}. "
    return Misconception(
        said, text + "Larger brakes lock with less force and no sooner; they stand more heat, stop after stop."
    )


def _far(metres: float, lengths: LengthFormat) -> str:
    return f"{metres / 0.3048:.0f} ft" if lengths.units == "in" else f"{metres:.0f} m"


def _same_number(vehicle: Vehicle, chain: Chain) -> Misconception:
    said = "The same number of pistons at both ends keeps the balance."
    share = chain.at(100.0).front_share
    if not is_known(share):
        return Misconception(said, f"Areas, radii and friction make it, not their number. The balance is {UNTOLD}.")
    ends = []
    for end in chain.ends:
        caliper = vehicle.axles.get(end.name, Axle()).caliper
        count = len(caliper.pistons_inboard_mm) + len(caliper.pistons_outboard_mm)
        what = "a drum" if end.kind == "drum" else f"{count} piston{'' if count == 1 else 's'}"
        ends.append(f"{what} {end.name}, {chain.lengths.area(end.side)} at {chain.lengths.size(round(end.radius))}")
    return Misconception(
        said,
        f"Areas, radii and friction make it: {' against '.join(ends)}, and {share * 100:.0f} % of the force is in front.",
    )


def _half_a_percent(chain: Chain, then: Chain | None) -> Misconception:
    said = "The split between front and rear stays within half a percent."
    now = chain.at(100.0).front_share
    was = then.at(100.0).front_share if then is not None else UNKNOWN
    if not is_known(now, was):
        return Misconception(
            said,
            "Every new bore, radius or pad moves it. The old value was not noted, or not all of it.",
        )
    far = now - was
    word = "So it does here" if abs(far) <= HALF else "Not here"
    return Misconception(said, f"{word}: {was * 100:.1f} % in front before, {now * 100:.1f} % now.")


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

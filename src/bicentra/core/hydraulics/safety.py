"""What is asked of the brakes as a whole beside balance, stroke and force: circuits, floor, pressure, parking, both wheels."""

import math
from collections.abc import Iterator

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.registry import LIMITS, PRACTICE
from bicentra.core.base.wording import make_finding
from bicentra.core.consistency.conflict import OUR_JUDGEMENT, finding_of
from bicentra.core.consistency.vehicle import vehicle_conflicts
from bicentra.core.hydraulics.chain import Chain
from bicentra.core.hydraulics.ends import wheels_of
from bicentra.core.hydraulics.travel import WORK_G, one_circuit, stage
from bicentra.core.parts.brakes import Caliper
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.vehicle import AXLES, Axle, Vehicle

TEST_N, NOTHING = 500.0, 0.01
"""Foot force of type approval [N] (UN R13-H, from memory); an end with less of the whole braking than this share gets nothing."""
ALIKE, APART = 0.02, 0.1
"""Unlike torque of the two wheels of an axle up to these shares is measuring; a caution; past the second a stop. Our judgement: a
tenth pulls the wheel out of the hand on a wet road; inspections reject about a third."""


def safety_findings(vehicle: Vehicle, chain: Chain) -> tuple[Finding, ...]:
    """Return what the whole of the brakes is asked; nothing of what nobody has entered."""
    asks = (_circuits, _failed, _floor, _pressure, _both_axles, _stability, _parking, _sides)
    found = tuple(finding for ask in asks for finding in ask(vehicle, chain))
    return (*found, *finding_of("vehicle-sizes", vehicle_conflicts(vehicle, chain.lengths), ("pedal",)))


def _said(id: str, verdict: Verdict, why: str, feature: str, source: str = PRACTICE) -> Finding:
    return Finding(id, verdict, UNKNOWN, UNKNOWN, "", why, features=(feature,), source=source)


def _circuits(vehicle: Vehicle, chain: Chain) -> Iterator[Finding]:
    """A master of one circuit: a leak anywhere leaves no brake."""
    del chain
    if vehicle.vehicle.master.kind == "single" and vehicle.vehicle.master.bore_mm is not None:
        why = "The master has one circuit alone: a leak anywhere leaves no brake. Fit a tandem master, one circuit an axle."
        yield _said("pedal-circuits", Verdict.STOP, why, "master")


def _failed(vehicle: Vehicle, chain: Chain) -> Iterator[Finding]:
    """What is left when one circuit is gone, within the master's stroke [g]."""
    if vehicle.vehicle.master.kind == "single" or not is_known(chain.master.stroke_mm or UNKNOWN):
        return
    left = [one for one in one_circuit(chain, TEST_N) if is_known(one.decel)]
    if len(left) < 2:
        return
    worst = min(left, key=lambda one: one.decel)
    lost, lengths = "rear" if worst.left == "front" else "front", chain.lengths
    why = f"With the {lost} circuit gone the {worst.left} alone gives {worst.decel:.2f} g at {lengths.force(TEST_N)} on the pedal."
    if worst.stroke > (chain.master.stroke_mm or UNKNOWN):
        why = f"With the {lost} circuit gone the {worst.left} takes {lengths.size(worst.stroke)} of stroke, and the master has "
        why += f"{lengths.size(chain.master.stroke_mm or 0.0)}: the pedal reaches the floor and nothing brakes."
    yield make_finding("pedal-failed", worst.decel, LIMITS["pedal-failed"], why, features=("master",))


def _floor(vehicle: Vehicle, chain: Chain) -> Iterator[Finding]:
    """The pedal's travel at the worst, hot and worn, against its stroke."""
    stroke = vehicle.vehicle.pedal.stroke_mm
    if stroke is None:
        return
    foot = chain.foot_for(WORK_G)
    travel = stage(chain, "", foot, hot=True, worn=True).travel.pedal
    why = f"At {WORK_G:g} g, hot and worn, the pedal has gone {chain.lengths.size(travel)} of {chain.lengths.size(stroke)}"
    why += ": it is on the floor." if travel >= stroke else " to the floor."
    share = travel / stroke if stroke > 0 else math.inf
    yield make_finding("pedal-floor", share, LIMITS["pedal-floor"], why, features=("pedal",),
                       missing="needs master, pedal, pistons, pads and tyres")  # fmt: skip


def _pressure(vehicle: Vehicle, chain: Chain) -> Iterator[Finding]:
    """The pressure in the lines at the hardest foot of the test [bar]."""
    del vehicle
    lines = chain.lines(TEST_N)
    if not is_known(*lines):
        return
    most = 10.0 * max(lines)
    usual = chain.lengths.pressure(LIMITS["pedal-line"].watch)
    why = f"{chain.lengths.force(TEST_N)} on the pedal makes {chain.lengths.pressure(most)} in the lines; hoses and seals are made "
    why += f"for about {usual}."
    yield make_finding("pedal-line", most, LIMITS["pedal-line"], why, features=("lines",))


def _both_axles(vehicle: Vehicle, chain: Chain) -> Iterator[Finding]:
    """An axle that gets nothing, whatever the foot does."""
    del vehicle
    front, rear = chain.at(TEST_N).road
    whole = front + rear
    if not is_known(whole) or whole <= 0.0:
        return
    for name, force in zip(AXLES, (front, rear)):
        if force < NOTHING * whole:
            why = f"The {name} brakes give {force / whole:.0%} of the braking: they get nothing. Look at bar, valve and pistons."
            yield _said("pedal-both-axles", Verdict.STOP, why, "balance")


def _stability(vehicle: Vehicle, chain: Chain) -> Iterator[Finding]:
    """A stability system that was set for other brakes."""
    del chain
    if vehicle.vehicle.stability_system:
        why = "A stability system is fitted. It was set for the old brakes: other pistons, rotors or a valve change what it does. "
        why += "Have the change checked by who knows that system, and bleed it as its maker says."
        yield _said("pedal-stability", Verdict.CAUTION, why, "pedal")


def _parking(vehicle: Vehicle, chain: Chain) -> Iterator[Finding]:
    """Discs in the rear and no parking brake."""
    del chain
    rear = vehicle.axles.get("rear")
    has_discs = rear is not None and rear.drum is None and (rear.rotor != Rotor() or rear.caliper != Caliper())
    if rear is None or not has_discs or any(_parks(axle) for axle in vehicle.axles.values()):
        return
    stated = [axle.parking for axle in vehicle.axles.values() if axle.parking is not None]
    if stated:
        why = (
            "There is no parking brake. The law asks for one that works without fluid: no road use before it is there."
        )
        yield _said("parking-brake", Verdict.STOP, why, "balance")
    else:
        why = "The rear has discs, and no parking brake is entered. Say which one there is: combined in the caliper, a caliper of "
        why += "its own, a drum in the hat, or none."
        yield _said("parking-brake", Verdict.UNKNOWN, why, "balance")


def _parks(axle: Axle) -> bool:
    return axle.parking is not None and axle.parking.kind != "none"


def _sides(vehicle: Vehicle, chain: Chain) -> Iterator[Finding]:
    """The two wheels of an axle against each other: torque at one pressure, and clearance that goes with it."""
    del chain
    for name in AXLES:
        if name not in vehicle.axles:
            continue
        right, left = wheels_of(vehicle, name)
        gains = (right.gain, left.gain)
        if right == left:
            continue
        apart = abs(gains[0] - gains[1]) / max(gains) if is_known(*gains) and max(gains) > 0 else UNKNOWN
        text = f"The {name} left and right brakes differ"
        if is_known(apart) and apart > ALIKE:
            stronger = "right" if gains[0] > gains[1] else "left"
            why = f"{text}: the {stronger} one is {apart:.0%} stronger at the same pressure, so the vehicle pulls to that side. "
            why += "Fit the same parts on both sides."
            verdict = Verdict.STOP if apart > APART else Verdict.CAUTION
        else:
            why = f"{text} in pistons, rotor or pad height. Fit the same parts on both sides: they wear and feel alike only then."
            verdict = Verdict.CAUTION
        yield _said("pedal-sides", verdict, why, "balance", OUR_JUDGEMENT)

"""What helps where shims do not, most reversible first, each with its amount and what it brings along."""

import math

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import Trial
from bicentra.core.trialfit.plan import Limits
from bicentra.core.trialfit.pose import Pose
from bicentra.core.trialfit.shim_station import ShimStation

LIKE_DEG = 0.06
"""A tilt this near to what the lugs' faces give is the lugs' [degrees]: common practice."""


_FACED = ("cannot be undone", "a knuckle that is cut is checked by someone qualified")


class Alternative(Record, frozen=True):
    """Something else that can be done: what, how much [mm], and what comes with it."""

    action: str
    amount: float
    side_effects: tuple[str, ...] = ()


def alternatives_to_shims(
    assembly: Assembly, station: ShimStation | None, trial: Trial, pose: Pose, limits: Limits
) -> tuple[Alternative, ...]:
    """Return what can be done besides shims about what is out of ``limits``; nothing while everything is within them."""
    offset, tilt = pose.offset.value, pose.tilt.value
    if not is_known(offset):
        return ()
    lengths, found = assembly.job.lengths, list[Alternative]()
    tilted = is_known(tilt) and abs(tilt) > limits.tilt
    if tilted:
        found += _about_tilt(assembly, station, pose, lengths)
    if abs(offset) > limits.offset:
        found += _about_offset(assembly, trial, offset, lengths)
    if station is not None and station.place == "lug" and (tilted or abs(offset) > limits.offset):
        found += _facing(assembly, station, offset, tilt if is_known(tilt) else 0.0, lengths)
    return tuple(found)


def _about_tilt(
    assembly: Assembly, station: ShimStation | None, pose: Pose, lengths: LengthFormat
) -> list[Alternative]:
    found = [
        Alternative(
            "Turn the rotor half a turn on its studs and read the four gaps again: what turns with it is the rotor's own",
            0.0,
        )
    ]
    apart = lugs_apart(assembly, station, pose) if station is not None else math.nan
    if is_known(apart):
        text = f"Measure the lugs again, and face the one that stands off: their faces are {lengths.gap(apart)} apart"
        found.append(Alternative(text, apart, _FACED))
    return found


def lugs_apart(assembly: Assembly, station: ShimStation, pose: Pose) -> float:
    """Return how far the lugs' faces stand apart [mm] where that gives the very tilt that was read; unknown where it does not."""
    given, tilt = lug_tilt(assembly, station), pose.tilt.value
    near = max(LIKE_DEG, 2 * pose.tilt.sd) if is_known(pose.tilt.sd) else LIKE_DEG
    if not is_known(given, tilt) or abs(given) < LIKE_DEG or abs(given - tilt) > near:
        return math.nan
    return abs(math.tan(math.radians(given))) * abs(station.at[0] - station.at[1])


def lug_tilt(assembly: Assembly, station: ShimStation) -> float:
    """Return the tilt [degrees] that the lugs' faces give the caliper by themselves, shims of the design left out."""
    stack_up, frame, middle = assembly.stack_up, assembly.line.frame, sum(station.at) / 2
    heights: tuple[list[float], list[float]] = ([], [])
    for lug, error, shim in zip(assembly.job.knuckle.lugs, stack_up.errors, stack_up.shims):
        side = 0 if frame.into((known(lug.x_mm), known(lug.y_mm)))[1] > middle else 1
        heights[side].append(error - stack_up.sign * shim)
    if not heights[0] or not heights[1] or not station.known:
        return math.nan
    first, second = (math.fsum(side) / len(side) for side in heights)
    return math.degrees(math.atan((second - first) / (station.at[0] - station.at[1])))


def _about_offset(assembly: Assembly, trial: Trial, offset: float, lengths: LengthFormat) -> list[Alternative]:
    job, found, size = assembly.job, list[Alternative](), lengths.gap(offset)
    plate = trial.rotor_plate_mm if trial.rotor_plate_mm is not None else known(job.fit.rotor_spacer_mm)
    track = f"track grows by {lengths.gap(2 * offset)} over the axle, the wheel's studs hold {size} less"
    if offset > 0:
        text = f"Put a {size} rotor spacer: it moves the rotor out to the caliper"
        found.append(Alternative(text, offset, (track,) if job.hub.mounting == "over-hub" else ()))
    elif is_known(plate) and plate > 0.0:
        text = f"Make the rotor spacer {lengths.gap(min(-offset, plate))} thinner: it moves the rotor in to the caliper"
        found.append(Alternative(text, min(-offset, plate)))
    stack_up = assembly.stack_up
    if assembly.bracket.plate is not None and stack_up.ears_on_far_face and is_known(stack_up.thickness):
        change = -stack_up.sign * offset
        made = stack_up.thickness + change
        if made > 0.0:
            word = "thicker" if change > 0 else "thinner"
            text = f"Make the bracket's plate {size} {word}: {lengths.size(round(made, 2))}"
            found.append(Alternative(text, change, ("a new bracket, or its seat for the ears faced off",)))
    return found


def _facing(
    assembly: Assembly, station: ShimStation, offset: float, tilt: float, lengths: LengthFormat
) -> list[Alternative]:
    """Return how much to face off the lugs, where metal off them helps: never where it would have to be put on."""
    grow = station.wanted(offset, math.tan(math.radians(tilt)))
    names = _names(assembly.job, assembly, station)
    if max(grow) > 0.0 and min(grow) < 0.0:
        side = 0 if grow[0] < grow[1] else 1
        text = f"Face {lengths.gap(grow[side])} off {names[side]}, and shim the other by {lengths.gap(grow[1 - side])}"
        return [Alternative(text, -grow[side], _FACED)]
    if max(grow) <= 0.0:
        text = f"Face {lengths.gap(grow[0])} off {names[0]} and {lengths.gap(grow[1])} off {names[1]}"
        return [Alternative(text, -min(grow), _FACED)]
    return []


def _names(job: Job, assembly: Assembly, station: ShimStation) -> tuple[str, str]:
    """Return what the lugs on the leading and on the trailing side are called."""
    frame, middle = assembly.line.frame, sum(station.at) / 2
    found: tuple[list[str], list[str]] = ([], [])
    for k, lug in enumerate(job.knuckle.lugs):
        found[0 if frame.into((known(lug.x_mm), known(lug.y_mm)))[1] > middle else 1].append(lug.name or f"lug {k + 1}")
    one, other = (" and ".join(names) or "the lug" for names in found)
    return one, other

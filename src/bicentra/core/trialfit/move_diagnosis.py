"""Whether a trial follows from the move before it, and if not, what is the likeliest reason.

Each explanation says how both ends should have moved, and how far it may be off; the likelihood of what was read under
each is that of a normal distribution, times how often such a thing happens (Bayes; the shares are common practice, no
published source).
"""

import math

import numpy as np

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import Trial
from bicentra.core.trialfit.pose import Pose
from bicentra.core.trialfit.shim_station import ShimStation, stacks_at, stations_of

WIDE_MM, BURR_MM = 0.5, 0.2
"""How far a rotor that is not seated, and a burr or dirt, usually put things off [mm]: common practice."""
APART = 3.0
SHARES = {
    "as it should": 0.5,
    "not in": 0.08,
    "other way": 0.06,
    "one side": 0.08,
    "seat": 0.1,
    "burr": 0.1,
    "reading": 0.08,
}


class Reason(Record, frozen=True):
    """One explanation: in words, how likely it is among all of them, and what would show it.

    ``shown_by``: an inspection by its name, or ``again`` for reading all four gaps again.
    """

    text: str
    share: float
    shown_by: str = ""


class MoveDiagnosis(Record, frozen=True):
    """What a move should have done at the leading and trailing end [mm], what it did, and why not, the likeliest first.

    ``follows``: what was read is within what the readings allow.
    """

    wanted: tuple[float, float]
    found: tuple[float, float]
    sd: float
    follows: bool
    reasons: tuple[Reason, ...] = ()


def followed(job: Job, line: LineUp, trials: tuple[Trial, Trial], poses: tuple[Pose, Pose]) -> MoveDiagnosis | None:
    """Return how the second trial follows from the first; ``None`` where that cannot be reported, or nothing was changed."""
    before, after = trials
    half = known(after.station_spacing_mm) / 2
    found = tuple(now.value - then.value for then, now in zip(poses[0].ends, poses[1].ends))
    if before.hub != after.hub or not is_known(*found, half):
        return None
    moves = _moves(job, line, before, after)
    ends = [_at_ends(station, grown, half) for station, grown in moves]
    plate = -(known(after.rotor_plate_mm or 0.0) - known(before.rotor_plate_mm or 0.0))
    wanted = (sum(end[0] for end in ends) + plate, sum(end[1] for end in ends) + plate)
    if not is_known(*wanted) or max(abs(end) for end in wanted) < 1e-9:
        return None
    sd = math.hypot(poses[0].ends[0].sd, poses[1].ends[0].sd)
    off = max(abs(have - want) for have, want in zip(found, wanted))
    done = MoveDiagnosis(wanted, (found[0], found[1]), sd, off <= APART * sd)
    return done if done.follows else MoveDiagnosis(wanted, done.found, sd, False, _reasons(done, moves, trials, half))


def _moves(job: Job, line: LineUp, before: Trial, after: Trial) -> list[tuple[ShimStation, tuple[float, float]]]:
    """Return by how much both stacks grew at each place [mm]; a shim of unknown thickness that stayed takes no part."""
    found = []
    for station in stations_of(job, line):
        one, other = stacks_at(before, station.place), stacks_at(after, station.place)
        grown = []
        for then, now in zip(one.sides, other.sides):
            alike = then.count(None) == now.count(None)
            grown.append(_sum(now) - _sum(then) if alike else UNKNOWN)
        if not station.radial and any(step != 0.0 for step in grown):
            found.append((station, (grown[0], grown[1])))
    return found


def _sum(shims: tuple[float | None, ...]) -> float:
    return math.fsum(thick for thick in shims if thick is not None)


def _at_ends(station: ShimStation, grown: tuple[float, float], half: float) -> tuple[float, float]:
    """Return how far the leading and the trailing end move outboard [mm]."""
    move, turn = station.moved(*grown) if station.known else (UNKNOWN, UNKNOWN)
    return move - turn * half, move + turn * half


def _reasons(
    done: MoveDiagnosis, moves: list[tuple[ShimStation, tuple[float, float]]], trials: tuple[Trial, Trial], half: float
) -> tuple[Reason, ...]:
    """Return the explanations, the likeliest first."""
    want, flat = np.array(done.wanted), np.zeros((2, 2))
    ones: FloatArray = np.ones((2, 2))
    loose = any(trial.bolts == "snug" for trial in trials) and trials[0].bolts != trials[1].bolts
    unseated = any(trial.rotor_nuts is not None and trial.rotor_nuts < 2 for trial in trials)
    nuts, snug = (3.0 if unseated else 1.0), (3.0 if loose else 1.0)
    rows = [
        ("a reading is wrong: read all four again", "again", SHARES["reading"], want, WIDE_MM**2 * np.eye(2)),
        (
            "the shims are not in, or the bolts were not drawn up: nothing moved",
            "shims",
            SHARES["not in"] * snug,
            0 * want,
            flat,
        ),
        (
            "it moved the other way: the shims lie on the other side than the job says",
            "side",
            SHARES["other way"],
            -want,
            flat,
        ),
        (
            "the rotor is not seated as before: hold it with two nuts or more",
            "rotor",
            SHARES["seat"] * nuts,
            want,
            WIDE_MM**2 * ones,
        ),
    ]
    for side, name in enumerate(("leading", "trailing")):
        for station, grown in moves[:1]:
            there = f"at the {name} {station.place}"
            only = np.array(_at_ends(station, (grown[0], 0.0) if side == 0 else (0.0, grown[1]), half))
            text = f"only the shims {there} act: the other ones are not in, or that bolt is loose"
            rows.append((text, "clean", SHARES["one side"] * snug, only, flat))
            lift = np.array(_at_ends(station, (1.0, 0.0) if side == 0 else (0.0, 1.0), half))
            text = f"a burr or dirt between the shims {there}: the stack is higher than its shims"
            rows.append((text, "clean", SHARES["burr"], want + BURR_MM * lift, BURR_MM**2 * np.outer(lift, lift)))
    found = np.array(done.found)
    weights = [share * _likelihood(found - means, spread + done.sd**2 * np.eye(2)) for *_, share, means, spread in rows]
    total = math.fsum(weights) or 1.0
    all_texts = [Reason(text, weight / total, shown_by) for (text, shown_by, *_), weight in zip(rows, weights)]
    return tuple(sorted(all_texts, key=lambda reason: -reason.share))


def _likelihood(off: FloatArray, spread: FloatArray) -> float:
    """Return the density of a normal distribution at ``off`` (2,) mm, covariance ``spread`` (2, 2) mm2."""
    return float(np.exp(-0.5 * off @ np.linalg.solve(spread, off)) / math.sqrt(float(np.linalg.det(spread))))


class Measured(Record, frozen=True):
    """The thickness of a shim nobody measured [mm], with its standard uncertainty, from two trials that differ by it."""

    thickness: float
    sd: float
    side: str


def unknown_thickness(
    job: Job, line: LineUp, trials: tuple[Trial, Trial], poses: tuple[Pose, Pose]
) -> tuple[Measured, ...]:
    """Return the thickness of shims that one trial has and the other has not [mm]: from how far the caliper moved over
    each stack that differs by them."""
    found = []
    half = known(trials[1].station_spacing_mm) / 2
    ends = [now.value - then.value for then, now in zip(poses[0].ends, poses[1].ends)]
    sd = math.hypot(poses[0].ends[0].sd, poses[1].ends[0].sd)
    for station in stations_of(job, line):
        sides = [stacks_at(trial, station.place).sides for trial in trials]
        more = [now.count(None) - then.count(None) for then, now in zip(*sides)]
        if not any(more) or station.radial or not station.known or not is_known(*ends, half) or half <= 0.0:
            continue
        slope = (ends[1] - ends[0]) / (2 * half)
        for side, (name, at) in enumerate(zip(("first", "second"), station.at)):
            grown = station.sign * (sum(ends) / 2 - slope * at)
            rest = grown - (_sum(sides[1][side]) - _sum(sides[0][side]))
            if more[side]:
                lever = math.hypot(0.5 - at / (2 * half), 0.5 + at / (2 * half))
                found.append(Measured(rest / more[side], sd * lever / abs(more[side]), name))
    return tuple(found)

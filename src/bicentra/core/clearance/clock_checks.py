"""Findings that change as the caliper is turned round the rotor."""

from collections.abc import Callable, Iterator
from itertools import pairwise

import numpy as np
import shapely
from numpy.typing import NDArray

from bicentra.core.base.finding import Finding, Remedy, Verdict, judge
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import replace
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat, make_finding, missing_names
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.metal_checks import chosen_bolts
from bicentra.core.bracket.turned import ear_centres
from bicentra.core.clearance.clock_sweep import caliper_obstacle_sweep, head_room_sweep, ligament_sweep, name_of
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import Prisms
from bicentra.core.geometry.ring import distance
from bicentra.core.lineup.body import bleeder_sweep, bleeder_windows
from bicentra.core.parts.limits import limit_for

Sweep = Callable[[Assembly, FloatArray], FloatArray]
ON_LUGS = ("lugs", "faces", "direct")
"""What holds a bracket, or the caliper itself, by lugs of the knuckle."""
TURNS_DEG, FIRST_SHARE = (0, 16, 46, 91, 181), 8
"""Turns are looked at in these steps, near ones first [degrees]; so many obstacles are asked first."""


def with_turn_remedy(assembly: Assembly, finding: Finding) -> Finding:
    """Return the ligament finding with the nearest clock angle that cures it."""
    if finding.verdict not in (Verdict.STOP, Verdict.CAUTION):
        return finding
    limit = limit_for(assembly.job, "ligament")
    remedies = turn_remedies(assembly, lambda there, clock: ligament_sweep(there, clock).value, limit)
    return _with(finding, remedies)


def _with(finding: Finding, remedies: tuple[Remedy, ...]) -> Finding:
    return replace(finding, remedies=remedies + finding.remedies)


def turn_remedies(assembly: Assembly, sweep: Sweep, limit: Limit) -> tuple[Remedy, ...]:
    """Return the nearest turn, in whole degrees, after which ``sweep`` meets ``limit``; nothing when none does."""
    turn = _nearest_turn(assembly, sweep, limit) if assembly.line.frame.is_known else None
    if turn is None:
        return ()
    clock = assembly.line.clock
    target = round((clock + turn) % 360.0, 4)
    way = "upward" if _rises(clock, turn) else "downward"
    action = f"Turn the caliper {abs(turn):.0f}° {way} (clock {target:g}°)"
    side = ("ligaments, bleed screw and obstacles change with it",)
    return (Remedy(action, None, True, (("fit.clock_deg", target),), side),)


def _nearest_turn(assembly: Assembly, sweep: Sweep, limit: Limit) -> float | None:
    """Return the smallest turn [degrees] that meets ``limit``, looked for outward from where the caliper is."""
    for least, most in pairwise(TURNS_DEG):
        turns = np.concatenate([np.arange(-most + 1.0, -least + 1.0), np.arange(least, most)])
        clock = np.radians(assembly.line.clock + turns)
        met = turns[_meeting(within_reach(assembly, clock, limit.watch), clock, sweep, limit)]
        if len(met):
            return float(met[np.argmin(np.abs(met))])
    return None


def _meeting(assembly: Assembly, clock_rad: FloatArray, sweep: Sweep, limit: Limit) -> NDArray[np.intp]:
    """Return places of the (n,) angles [rad] that meet ``limit``: each few obstacles are asked only of angles no other spoils."""
    left = np.arange(len(clock_rad))
    for few in _by_and_by(assembly.obstacles):
        values = sweep(replace(assembly, obstacles=few), clock_rad[left])
        left = left[values >= limit.watch if limit.at_least else values <= limit.watch]
        if not len(left):
            break
    return left


def _by_and_by(obstacles: Prisms) -> Iterator[Prisms]:
    """Yield the obstacles in growing shares; once nothing where there are none."""
    begin, share = 0, FIRST_SHARE
    while begin == 0 or begin < len(obstacles):
        yield obstacles[begin : begin + share]
        begin, share = begin + share, 2 * share


def within_reach(assembly: Assembly, clock_rad: FloatArray, enough: float) -> Assembly:
    """Return ``assembly`` without the obstacles that stay ``enough`` [mm] away at all of n clock angles [rad], whatever
    their height; one whose height is unknown stays in.
    """
    body, ears = assembly.body, ear_centres(assembly, clock_rad)
    wide = [p.radius for turning in assembly.turning for p in turning]
    still = [(hole.centre, hole.boss_radius) for hole in assembly.holes if hole.at == "lug"]
    still += [(thing.at, thing.radius) for thing in assembly.fixed]  # heads and washers may be wider than their bosses
    wide += [radius for _, radius in still] + [hole.boss_radius for hole in assembly.holes]
    points = [ears.reshape(-1, 2), np.array([centre for centre, _ in still]).reshape(-1, 2)]
    if body.is_known:
        points.append(body.corners(clock_rad).reshape(-1, 2))
    swept = np.concatenate(points)
    if assembly.job.bracket.pulls or not (np.isfinite(swept).all() and is_known(*wide)):
        return assembly
    far = distance(shapely.MultiPoint(swept).convex_hull, np.array([o.shape for o in assembly.obstacles]))
    near = far - max(wide) < enough
    kept = tuple(o for o, is_near in zip(assembly.obstacles, near) if is_near or not is_known(o.z0, o.z1))
    return replace(assembly, obstacles=kept)


def _rises(clock: float, turn: float) -> bool:
    """Tell whether the caliper's middle goes up when it is turned."""
    return float(np.sin(np.radians(clock + turn)) - np.sin(np.radians(clock))) > 0


def obstacle_room(assembly: Assembly, here: FloatArray, lengths: LengthFormat, turns: bool = True) -> Finding:
    """The room between the caliper (body, ears, bolts) and knuckle [mm]."""
    job, limit = assembly.job, limit_for(assembly.job, "caliper-to-obstacle")
    swept = caliper_obstacle_sweep(assembly, here)
    value, pair = float(swept.value[0]), swept.pair()
    nowhere = not job.knuckle.lugs and not job.knuckle.obstacles and job.knuckle.mounting in ON_LUGS
    value = UNKNOWN if nowhere else value  # nothing of the knuckle is known that it could clear
    other = name_of(assembly, pair[1])
    what = "caliper's body" if pair[0] == "caliper" else name_of(assembly, pair[0])
    why = _sentence(f"The {what}", other, value, lengths) + ", as far as obstacles were measured."
    missing = (
        assembly.unsolved
        or missing_names(
            body_width=job.caliper.body_width_mm,
            body_inboard=job.caliper.body_inboard_mm,
            body_outboard=job.caliper.body_outboard_mm,
            body_outside_pad_top=job.caliper.body_outer_mm,
            pad_height=job.caliper.pad_height_mm,
            ear_boss=job.caliper.ear_boss_mm,
            ear_thickness=job.caliper.ear_thickness_mm,
            clock_angle=job.fit.clock_deg,
            boss_and_thickness_of_every_lug=_lugs_known(assembly),
            the_lugs=None if nowhere else 0.0,
        )
        or obstacle_missing(assembly)
    )
    remedies = _remedies(turns, assembly, value, limit, lambda there, clock: caliper_obstacle_sweep(there, clock).value)
    if turns and judge(value, limit) in (Verdict.STOP, Verdict.CAUTION):
        from bicentra.core.clearance.relief_plan import relief_remedy

        remedies += relief_remedy(assembly, pair[1], here, limit.watch, lengths)
    return make_finding(
        "caliper-to-obstacle",
        value,
        limit,
        why,
        features=pair,
        missing=missing,
        remedies=remedies,
        assumed=("only the obstacles in the job are looked at",),
    )


def _remedies(turns: bool, assembly: Assembly, value: float, limit: Limit, sweep: Sweep) -> tuple[Remedy, ...]:
    """Return the turn that cures a bad value; nothing is swept for a good one."""
    return (
        turn_remedies(assembly, sweep, limit)
        if turns and judge(value, limit) in (Verdict.STOP, Verdict.CAUTION)
        else ()
    )


def _lugs_known(assembly: Assembly) -> float | None:
    lugs = assembly.job.knuckle.lugs
    return 0.0 if all(is_known(lug.boss_mm, lug.thickness_mm, lug.x_mm, lug.y_mm) for lug in lugs) else None


def obstacle_missing(assembly: Assembly) -> str:
    """Return which obstacle's reach was not measured, in words."""
    for obstacle in assembly.job.knuckle.obstacles:
        if not is_known(obstacle.z_min_mm, obstacle.z_max_mm):
            return f"needs how far {obstacle.name} reaches along the axle"
    return ""


def _sentence(what: str, other: str, value: float, lengths: LengthFormat) -> str:
    if value == np.inf:
        return f"{what} has no obstacle recorded near it"
    return f"{what} clears {other} by {lengths.gap(value)}" if value > 0 else f"{what} runs into {other}"


def head_room(assembly: Assembly, here: FloatArray, lengths: LengthFormat, turns: bool) -> Finding:
    """The room round heads, washers, lugs and ears [mm]; with ``turns``, the nearest turn that cures it."""
    limit = limit_for(assembly.job, "bolt-head-room")
    swept = head_room_sweep(assembly, here)
    value, pair = float(swept.value[0]), swept.pair()
    first, second = name_of(assembly, pair[0]), name_of(assembly, pair[1])
    why = (
        _sentence(f"The {first.removeprefix('the ')}", second, value, lengths)
        + "; heads, washers and ears need room to seat."
    )
    missing = (
        missing_names(
            ear_boss=assembly.job.caliper.ear_boss_mm,
            ear_thickness=assembly.job.caliper.ear_thickness_mm,
            boss_and_thickness_of_every_lug=_lugs_known(assembly),
            **chosen_bolts(assembly),
        )
        or "a bolt length is unknown"
    )
    remedies = _remedies(turns, assembly, value, limit, lambda there, clock: head_room_sweep(there, clock).value)
    return make_finding(
        "bolt-head-room",
        value,
        limit,
        why,
        features=pair,
        missing=missing,
        remedies=remedies,
    )


def _high_ones(assembly: Assembly, limit: Limit) -> str:
    """Return between which clock angles each bleed screw is the high one, in words."""
    if not is_known(assembly.job.fit.attitude_deg):
        return ""
    text = [
        f"bleed screw {k} is the high one from {window[0] % 360.0:.0f}° to {window[1] % 360.0:.0f}°"
        for k, window in enumerate(bleeder_windows(assembly.job, limit.stop), 1)
        if window is not None
    ]
    return f" On this caliper {', '.join(text)}." if text else ""


def bleeder_finding(assembly: Assembly, turns: bool) -> Finding:
    """How far the highest bleed screw is from straight up [degrees]: air stays trapped below a low one."""
    limit = limit_for(assembly.job, "bleeder-up")
    value = float(bleeder_sweep(assembly.job, assembly.line.frame.here)[0])
    clock = known(assembly.job.fit.clock_deg)
    why = (
        f"The highest bleed screw points {value:.0f}° away from straight up at clock {clock:.1f}°; a low one traps air."
    )
    why += _high_ones(assembly, limit)
    missing = missing_names(
        bleeder_directions=None if not assembly.job.caliper.bleeders_deg else 0.0,
        clock_angle=assembly.job.fit.clock_deg,
    )
    remedies = _remedies(turns, assembly, value, limit, lambda there, clock: bleeder_sweep(there.job, clock))
    return make_finding(
        "bleeder-up",
        value,
        limit,
        why,
        features=("caliper", "bleeder"),
        missing=missing,
        remedies=remedies,
    )

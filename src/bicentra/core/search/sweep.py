"""One set of parts at every clock angle: the verdict that the single-job path gives, without solving each angle.

What does not depend on the clock is asked once, by the very functions of the single-job path. What does is swept for all
angles that are still in play, cheap questions first; an angle that one finding stops is not asked further. The plate's own
findings are answered in closed form while nothing is cut out of it, and by making the plate where something is.
"""

from dataclasses import dataclass
from itertools import combinations_with_replacement

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.finding import CAUTION, OK, STOP, UNKNOWN, Ranks, judge, judge_all
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import replace
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.lean import can_lean, tilt_ranks
from bicentra.core.bracket.metal import metal_at
from bicentra.core.bracket.plate import farthest, keep_out_radius
from bicentra.core.bracket.prisms import part_prisms
from bicentra.core.bracket.turned import ROUND_BOSS_MM, boss_hulls, ear_centres
from bicentra.core.clearance.clock_sweep import (
    bracket_caliper_sweep,
    bracket_obstacle_sweep,
)
from bicentra.core.evaluation.bracket_evaluation import bracket_steps, placed_metal
from bicentra.core.geometry.outline import FloatArray, Point
from bicentra.core.geometry.prism import Prisms
from bicentra.core.geometry.ring import Ring, nearest_gap
from bicentra.core.lineup.more_checks import handedness
from bicentra.core.lineup.solids import retainer_places
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.declared_absent import is_unlooked
from bicentra.core.parts.limits import limit_for, limit_in_mm
from bicentra.core.search.best_first import search_angles
from bicentra.core.search.clock_invariant import ClockInvariantSet, worst_rank
from bicentra.core.search.questions import ALONE, Turned, asked_of, ranks_of
from bicentra.core.search.score import CaliperAlone, Places, SweptSet

Mask = NDArray[np.bool_]
CLOSE_MM = 0.01
"""A plate that keeps this far from what is cut out of it is not cut, however the last digit falls."""


def sweep_set(invariant: ClockInvariantSet, angles: FloatArray, every: int = 1) -> SweptSet:
    """Return the set of parts in ``invariant`` at each of ``angles`` [degrees]; the first is the one it is made at.

    ``every``: a bracket that is made again at each angle is looked at there first, and then only where it matters.
    """
    if invariant.angle_by_angle:
        return search_angles(invariant, angles, every, lambda: _caliper_alone(invariant, angles))
    found = invariant.findings
    ranks = np.full(len(angles), worst_rank(found), dtype=np.int8)
    turn = _Turn(invariant.assembly, np.radians(angles), ranks, {})
    if invariant.bracket.stands and ranks[0] > STOP:
        _ask_all(turn, invariant.lengths, angles)
    held = np.minimum(turn.ranks, CAUTION) if is_unlooked(invariant.job) else turn.ranks
    return SweptSet(invariant.assembly, held.astype(np.int8), found, turn.values)


def _caliper_alone(invariant: ClockInvariantSet, angles: FloatArray) -> CaliperAlone:
    """Return what is known of each angle before a bracket is made there, as far as it is known where the caliper sits."""
    turn = _Turn(invariant.assembly, np.radians(angles), np.full(len(angles), OK, dtype=np.int8), {})
    if worst_rank(invariant.before) == STOP:
        turn.ranks[:] = STOP
    elif invariant.bracket.refused and not invariant.bracket.turns:
        turn.ranks[1:] = STOP
    else:
        _ask_at_best(turn, invariant)
        if invariant.assembly.bracket.stands:
            _ask_caliper(turn, angles)
            turn.values["ligament"] = asked_of("ligament", Turned(turn.assembly, turn.clock))
    return CaliperAlone(turn.ranks, turn.values, lambda places: _surely_stopped(turn, invariant, places))


def _ask_at_best(turn: "_Turn", invariant: ClockInvariantSet) -> None:
    """Ask a kind that is made again at each angle what it can nowhere better: where that stops it, it need not be made."""
    kind, job, line = invariant.bracket.kind, invariant.job, invariant.line
    if kind.at_best is not None and len(turn.left):
        for name, values in kind.at_best(job, line, turn.clock[turn.left]).items():
            turn.stop_where(name, turn.left, values)
    if kind.riding is not None and len(turn.left) and turn.assembly.body.is_known:
        riding = kind.riding(job, line)
        if riding:
            room = bracket_caliper_sweep(turn.assembly, riding, line.frame.here) + ROUND_BOSS_MM
            turn.stop_where("bracket-to-caliper", turn.left, np.full(len(turn.left), room[0]))


def _surely_stopped(turn: "_Turn", invariant: ClockInvariantSet, places: Places) -> Mask:
    """Tell (n,) at which of ``places`` the metal that it surely has there stops the bracket."""
    sure, clock = invariant.bracket.kind.sure, turn.clock[places]
    metal = sure(invariant.job, invariant.line, clock) if sure is not None and len(places) else ()
    if metal:
        turn.stop_where(
            "bracket-to-obstacle",
            places,
            bracket_obstacle_sweep(turn.assembly, metal, len(places)).value + ROUND_BOSS_MM,
        )
        if turn.assembly.body.is_known:
            room = bracket_caliper_sweep(turn.assembly, metal, clock)
            turn.stop_where("bracket-to-caliper", places, room + ROUND_BOSS_MM)
    return np.asarray(turn.ranks[places] == STOP)


@dataclass
class _Turn:
    """The angles [rad] of one set with their ranks so far."""

    assembly: Assembly
    clock: FloatArray
    ranks: Ranks
    values: dict[str, FloatArray]

    @property
    def left(self) -> Places:
        """Places of the angles nothing stops yet."""
        return np.flatnonzero(self.ranks > STOP)

    def lower(self, places: Places, ranks: Ranks) -> None:
        """Take up what a finding says about the angles at ``places``."""
        self.ranks[places] = np.minimum(self.ranks[places], ranks)

    def stop_where(self, name: str, places: Places, values: FloatArray) -> None:
        """Stop the angles at ``places`` whose ``values`` of the finding ``name``, which may really be worse, stop them."""
        kept = self.values.setdefault(name, np.full(len(self.clock), np.nan))
        kept[places] = values
        self.ranks[places[judge_all(values, limit_for(self.assembly.job, name)) == STOP]] = STOP

    def note(self, name: str, places: Places, metal: Prisms | None = None, least: int = STOP) -> None:
        """Ask the finding ``name`` at ``places`` and judge it; it is never worse than ``least``. ``metal``: what is
        known there.
        """
        values = asked_of(name, Turned(self.assembly, self.clock[places], metal))
        kept = self.values.setdefault(name, np.full(len(self.clock), np.nan))
        kept[places] = values
        ranks = ranks_of(self.assembly.job, name, values)
        self.lower(places, np.where(ranks == STOP, least, ranks).astype(np.int8))


def _ask_all(turn: _Turn, lengths: LengthFormat, angles: FloatArray) -> None:
    """Ask every finding that turns, until no angle is left."""
    assembly = turn.assembly
    _ask_caliper(turn, angles)
    places = turn.left
    if len(places):
        _ask_plate(turn, places, lengths, angles)
    places = turn.left
    if len(places):
        turn.note("caliper-removal", places, least=CAUTION)
        if assembly.job.caliper.action == "floating":
            turn.note("float-travel", turn.left)
        if assembly.job.caliper.hose_port_mm and len(turn.left):
            turn.note("hose-room", turn.left)


def _ask_caliper(turn: _Turn, angles: FloatArray) -> None:
    """Ask what needs no bracket made: handedness, bleed screws, holes, heads and ears, obstacles."""
    turn.lower(turn.left, _hands(turn.assembly, angles[turn.left]))
    if turn.assembly.bracket.kind.cut is not None and can_lean(turn.assembly):
        turn.lower(turn.left, tilt_ranks(turn.assembly, turn.clock[turn.left]))
    at_once = turn.assembly.bracket.kind.cut is not None
    for name in ALONE:
        places = turn.left
        if len(places) and (at_once or not kind_of(name).of_bracket):
            turn.note(name, places)


def _hands(assembly: Assembly, angles: FloatArray) -> Ranks:
    """Return the rank of the handedness at each angle: it only asks whether the caliper is behind the axle or ahead."""
    behind, ahead = (
        handedness(assembly.job, replace(assembly.line, clock=clock)).verdict.rank for clock in (180.0, 0.0)
    )
    turned = angles % 360.0
    return np.where((turned > 90.0) & (turned < 270.0), behind, ahead).astype(np.int8)


def _ask_plate(turn: _Turn, places: Places, lengths: LengthFormat, angles: FloatArray) -> None:
    """Ask about the plate at ``places``: obstacles, caliper, then edges, rotor and hub."""
    assembly, clock = turn.assembly, turn.clock
    metal = metal_at(assembly, clock[places])
    if not metal:
        turn.lower(places, np.full(len(places), UNKNOWN, dtype=np.int8))
        return
    turn.note("bracket-to-obstacle", places, metal)
    kept = turn.ranks[places] > STOP
    places, metal = places[kept], tuple(prism.those(kept) for prism in metal)
    if len(places):
        turn.note("bracket-to-caliper", places, metal)
        places = places[turn.ranks[places] > STOP]
    if len(places):
        hulls = boss_hulls(assembly, clock[places])
        if hulls is not None:
            _ask_own(turn, places, hulls, lengths, angles)


def _ask_own(turn: _Turn, places: Places, hulls: FloatArray, lengths: LengthFormat, angles: FloatArray) -> None:
    """Ask edge distance and room to rotor and hub: at once while the plate is not cut, else by making the plate."""
    assembly, job = turn.assembly, turn.assembly.job
    nearest = hull_distance(assembly, turn.clock[places])
    whole = ~_holds_axis(hulls) & (nearest >= keep_out_radius(assembly) + CLOSE_MM)
    if job.hub.retainer_circle_mm is not None:
        whole &= _retainer_met(turn, places, hulls)
    shaped = job.bracket.cutouts or job.bracket.pulls or job.bracket.dowels or job.bracket.chamfer_mm
    if shaped or any(hole.recess or hole.slot for hole in assembly.holes) or not _edges_met(assembly):
        whole[:] = False
    rank = np.full(len(places), OK, dtype=np.int8)
    for rings, name in ((assembly.rotor, "bracket-to-rotor"), (assembly.hub, "bracket-to-hub")):
        limit = limit_for(job, name)
        rank = np.minimum(rank, judge_all(ring_room(assembly, nearest, rings, limit.watch), limit))
        for prism in (prism for part in assembly.bracket.parts for prism in part_prisms(part)):
            rank = np.minimum(rank, judge(nearest_gap(prism.ring, rings, limit.watch), limit).rank).astype(np.int8)
    for k in np.flatnonzero(~whole):
        here = _made_at(assembly, float(angles[places[k]]), lengths)
        steps = bracket_steps(here, lengths, turns=False, remedies=False, but=turn.values)
        own = [f for one in steps if "joint" not in one.groups for f in one.ask() if f.id not in turn.values]
        rank[k] = worst_rank([f for f in own if kind_of(f.id).turns or kind_of(f.id).group == "metal"])
    turn.lower(places, rank)


def _made_at(assembly: Assembly, clock_deg: float, lengths: LengthFormat) -> Assembly:
    """Return the bracket made and placed at another clock angle [degrees]."""
    job = assembly.bracket.job
    turned = replace(job, fit=replace(job.fit, clock_deg=clock_deg))
    return placed_metal(replace(assembly.bracket, job=turned), line_up(turned), lengths)


def _retainer_met(turn: _Turn, places: Places, hulls: FloatArray) -> Mask:
    """Tell (n,) where a socket has room on every retainer bolt beside the uncut plate."""
    job, limit = turn.assembly.job, limit_for(turn.assembly.job, "retainer-reach")
    bolts, half = retainer_places(job.hub), known(job.hub.retainer_socket_mm) / 2
    met = np.full(len(places), bool(bolts))
    for at in bolts:
        room = hull_distance(turn.assembly, turn.clock[places], at) - half
        met &= ~_holds_axis(hulls - np.array(at)) & (judge_all(room, limit) == OK)
    return met


def _edges_met(assembly: Assembly) -> bool:
    """Tell whether every hole's own wall is edge enough: a hole inside the plate has more, never less."""
    limits = [limit_in_mm(assembly.job, "edge-distance", hole.diameter) for hole in assembly.holes]
    return all(judge(h.boss_radius, limit).rank == OK for h, limit in zip(assembly.holes, limits))


def _holds_axis(hulls: FloatArray) -> Mask:
    """Tell (n,) whether the axis lies inside each of (n, k, 2) convex outlines, counter-clockwise."""
    ahead = np.roll(hulls, -1, axis=1)
    cross = hulls[..., 0] * ahead[..., 1] - hulls[..., 1] * ahead[..., 0]
    return np.asarray((cross >= 0).all(axis=1))


def hull_distance(assembly: Assembly, clock_rad: FloatArray, at: Point = (0.0, 0.0)) -> FloatArray:
    """Return (n,) float, mm: the distance of ``at`` (the axis) from the plate's outline before any cut, when outside it.

    The hull of discs is the union of the hulls of its pairs, and the hull of two discs that of all discs between them: the
    distance from a pair is the least of √((x − x₀)² + y²) − r − kx along it, with x₀ the foot of the axis, y its distance
    and k = (r₂ − r₁)/length; the least lies at x₀ + y k/√(1 − k²).
    """
    lugs, ears = assembly.lug_holes, assembly.ear_holes
    centres = ear_centres(assembly, clock_rad)
    fixed = np.broadcast_to(np.array([lug.centre for lug in lugs]), (len(clock_rad), len(lugs), 2))
    middles = np.concatenate([fixed, centres], axis=1) - np.array(at)
    radii = [hole.boss_radius for hole in (*lugs, *ears)]
    found = [
        _pair_distance(middles[:, i], middles[:, j], radii[i], radii[j])
        for i, j in combinations_with_replacement(range(len(radii)), 2)
    ]
    return np.asarray(np.min(found, axis=0))


def _pair_distance(a: FloatArray, b: FloatArray, ra: float, rb: float) -> FloatArray:
    """Return (n,) float, mm: the origin's distance from the hull of discs about (n, 2) ``a`` and ``b``."""
    along = b - a
    long = np.hypot(along[:, 0], along[:, 1])
    apart = np.where(long > 0.0, long, 1.0)
    foot = -np.sum(a * along, axis=1) / apart
    off = np.abs(a[:, 0] * along[:, 1] - a[:, 1] * along[:, 0]) / apart
    slope = (rb - ra) / apart
    steep = np.abs(slope) >= 1.0
    gentle = np.where(steep, 0.0, slope)
    best = np.clip(foot + off * gentle / np.sqrt(1.0 - gentle**2), 0.0, long)
    between = np.hypot(best - foot, off) - ra - gentle * best
    ends = np.minimum(np.hypot(a[:, 0], a[:, 1]) - ra, np.hypot(b[:, 0], b[:, 1]) - rb)
    return np.where(steep | (long == 0.0), ends, np.minimum(between, ends))


def ring_room(assembly: Assembly, nearest: FloatArray, rings: tuple[Ring, ...], enough: float) -> FloatArray:
    """Return (n,) float, mm: the room between an uncut plate and ``rings``, as ``nearest_gap`` has it."""
    z0, z1 = assembly.stack_up.z_range
    far = farthest(assembly)
    rooms: dict[bool, list[FloatArray]] = {True: [], False: []}
    for ring in rings:
        if not (ring.is_known and is_known(z0, z1, far)):
            return np.full(len(nearest), np.nan)
        dr = np.maximum(nearest - ring.r1, ring.r0 - far)
        dz = max(z0 - ring.z1, ring.z0 - z1)
        rooms[ring.sure].append(np.where((dr > 0) & (dz > 0), np.hypot(dr, max(dz, 0.0)), np.maximum(dr, dz)))
    sure = np.min(rooms[True], axis=0)
    if not rooms[False]:
        return np.asarray(sure)
    bound = np.min(rooms[False], axis=0)
    good_enough = bound >= np.minimum(sure, enough)
    return np.where(good_enough, np.minimum(sure, bound), np.where(sure <= 0.0, sure, np.nan))

"""The turn that cures a clash, against every whole degree of the circle with every obstacle looked at."""

import math
import random

import numpy as np
import pytest

from bicentra.core.base.records import replace
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.holes import not_as_placed
from bicentra.core.bracket.metal import metal_at
from bicentra.core.clearance import clock_checks
from bicentra.core.clearance.clock_checks import TURNS_DEG, turn_remedies, within_reach
from bicentra.core.clearance.clock_sweep import bracket_obstacle_sweep, caliper_obstacle_sweep
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.job import Job, LugBolt, Obstacle
from bicentra.core.parts.limits import limit_for


def crowded(good: Job, chance: random.Random) -> Job:
    """The corner among a dozen posts, some of unknown height."""
    found = []
    for k in range(12):
        turn, radius = math.radians(chance.uniform(0.0, 360.0)), chance.uniform(95.0, 190.0)
        x, y, half = radius * math.cos(turn), radius * math.sin(turn), chance.uniform(3.0, 9.0)
        low = chance.uniform(-90.0, 10.0)
        outline = ((x - half, y - half), (x + half, y - half), (x + half, y + half), (x - half, y + half))
        high = None if chance.random() < 0.05 else low + chance.uniform(5.0, 40.0)
        found.append(Obstacle(name=f"post {k}", outline_mm=outline, z_min_mm=low, z_max_mm=high))
    return replace(good, survey={}, knuckle=replace(good.knuckle, obstacles=tuple(found)))


@pytest.mark.parametrize("share", [1, 8])
@pytest.mark.parametrize("seed", range(12))
def test_the_nearest_turn_is_the_nearest(good: Job, seed: int, share: int, monkeypatch: pytest.MonkeyPatch) -> None:
    """Outward in steps and without what is out of reach: the same turn as the whole circle at once, the lower one of two alike."""
    monkeypatch.setattr(clock_checks, "FIRST_SHARE", share)  # one by one at first, or all that are in reach at once
    assembly = solve(crowded(good, random.Random(seed)), turns=False).assembly
    turns = np.array(sorted(range(-180, 180), key=lambda turn: (abs(turn), turn)), dtype=float)
    clock = np.radians(assembly.line.clock + turns)
    for id, sweep in (
        ("caliper-to-obstacle", lambda there, c: caliper_obstacle_sweep(there, c).value),
        ("bracket-to-obstacle", lambda there, c: bracket_obstacle_sweep(there, metal_at(there, c), len(c)).value),
    ):
        limit = limit_for(assembly.job, id)
        met = np.flatnonzero(sweep(assembly, clock) >= limit.watch)
        wanted = round((assembly.line.clock + turns[met[0]]) % 360.0, 4) if len(met) else None
        found = turn_remedies(assembly, sweep, limit)
        assert (found[0].edits[0][1] if found else None) == wanted
    assert TURNS_DEG[0] == 0 and TURNS_DEG[-1] > 180


def test_what_is_out_of_reach_is_left_out_and_what_is_not_known_stays(good: Job) -> None:
    """An obstacle half a metre away is not asked; one of unknown height is, wherever it stands."""
    far = Obstacle(name="far", outline_mm=((500.0, 500.0), (510.0, 500.0), (510.0, 510.0)), z_min_mm=0.0, z_max_mm=9.0)
    odd = replace(far, name="odd", z_max_mm=None)
    job = replace(good, survey={}, knuckle=replace(good.knuckle, obstacles=(*good.knuckle.obstacles, far, odd)))
    assembly = solve(job, turns=False).assembly
    kept = within_reach(assembly, assembly.line.frame.here, 3.0).obstacles
    assert "odd" in {o.name for o in kept} and "far" not in {o.name for o in kept} and len(kept) > 1


def test_what_a_wide_head_meets_is_in_reach(good: Job) -> None:
    """A post beside a lug bolt's washer, further out than the thin wall round its hole: no turn gets rid of it, so none is offered."""
    thin = replace(good, survey={}, bracket=replace(good.bracket, boss_walls_mm=(0.5, 0.5, 0.5, 0.5)))
    assembly = solve(thin, turns=False).assembly
    head = max((p for p in assembly.fixed if "bolt" in p.feature), key=lambda p: p.radius)
    (x, y), out = head.at, head.radius - 0.2
    outline = ((x - out - 3.0, y - 1.0), (x - out, y - 1.0), (x - out, y + 1.0), (x - out - 3.0, y + 1.0))
    post = Obstacle(name="post", outline_mm=outline, z_min_mm=head.z0, z_max_mm=head.z1)
    placed = solve(replace(thin, knuckle=replace(thin.knuckle, obstacles=(post,))), turns=False).assembly
    turns = np.radians(np.arange(0.0, 360.0, 15.0))
    assert within_reach(placed, turns, 0.5).obstacles and within_reach(placed, placed.line.frame.here, 0.5).obstacles


def test_a_turn_past_the_full_circle_begins_anew(good: Job) -> None:
    """From 350° a turn of 21° comes to 11°, not to 371°; from 10° the other way to 349°."""
    limit = limit_for(good, "caliper-to-obstacle")
    for clock, cured, wanted in ((350.0, 371.0, 11.0), (10.0, -11.0, 349.0)):
        assembly = solve(replace(good, survey={}, fit=replace(good.fit, clock_deg=clock)), turns=False).assembly

        def sweep(_: Assembly, at: np.ndarray, cured: float = cured) -> np.ndarray:
            return np.where(np.abs(np.degrees(at) - cured) < 0.5, limit.watch + 1.0, 0.0)

        (remedy,) = turn_remedies(assembly, sweep, limit)
        assert remedy.edits == (("fit.clock_deg", wanted),) and remedy.action.startswith("Turn the caliper 21°")


def test_a_bolt_asked_for_otherwise_is_told_by_its_lugs_name(good: Job) -> None:
    """Its name where it has one, else its number."""
    for name, text in (("upper lug", "at upper lug ("), ("", "at lug 1 (")):
        lug = replace(good.knuckle.lugs[0], name=name, bolt=LugBolt(from_="inboard", into="nut"))
        job = replace(good, survey={}, knuckle=replace(good.knuckle, lugs=(lug, *good.knuckle.lugs[1:])))
        assert any(text in row for row in not_as_placed(job))

"""The clock search against a plain loop, against the single solve, and against symmetry."""

import sys
from pathlib import Path

import numpy as np
import pytest

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_value
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.search.clock import IncrementalClock, search_clock

sys.path.insert(0, str(Path(__file__).parents[3] / "benchmarks"))
from plain_search import plain_search


def test_search_agrees_with_a_plain_loop(demo: Job) -> None:
    """The same checks stop the bracket at every tenth degree, found without NumPy and Shapely."""
    found = search_clock(demo)
    assert found is not None
    angles = [k * 5.0 for k in range(72)]
    for angle, plain in zip(angles, plain_search(demo, angles)):
        assert set(found.reasons(angle)) == plain, angle


@pytest.mark.parametrize("clock", [0.0, 30.0, 90.0, 150.0, 165.0, 166.0, 180.0, 197.0, 198.0, 250.0, 331.5])
def test_search_and_single_solve_give_one_verdict(good: Job, clock: float) -> None:
    """A check stops the search where its finding says stop, and its figure is the finding's."""
    found = search_clock(good)
    assert found is not None
    solution = solve(with_value(good, "fit.clock_deg", clock))
    stopped = {f.id for f in solution.findings if f.id in found.values and f.verdict is Verdict.STOP}
    assert stopped == set(found.reasons(clock)) - {"bracket-to-hub"}
    for name in found.values.keys() - {"size", "pieces"}:
        assert found.values[name][round(clock * 4)] == pytest.approx(solution.finding(name).value, abs=1e-6)


def test_windows_cover_what_is_feasible_and_nothing_else(good: Job) -> None:
    """1440 angles; windows do not overlap, hold the feasible angles exactly, and the best lies in one of them."""
    found = search_clock(good)
    assert found is not None and len(found.angles) == 1440
    inside = np.zeros(1440, dtype=bool)
    for window in found.windows:
        steps = np.arange(round(window.start * 4), round(window.end * 4) + 1) % 1440
        assert not inside[steps].any()
        inside[steps] = True
    assert (inside == found.feasible).all()
    best = found.best
    assert best is not None and found.score[round(best.best * 4) % 1440] == found.score.max()


def test_a_window_over_zero_is_one_window(good: Job) -> None:
    """Lugs and obstacles turned round to the front: the window joins up over 0°."""
    lugs = tuple(replace(lug, x_mm=-lug.x_mm) for lug in good.knuckle.lugs)
    found = search_clock(replace(good, knuckle=replace(good.knuckle, lugs=lugs, obstacles=())))
    assert found is not None
    joined = [window for window in found.windows if window.end > 360]
    assert len(joined) == 1 and joined[0].start > 300 and joined[0].best == 0.0
    assert not any(window.start < 5 for window in found.windows)


def test_everything_or_nothing(good: Job, monkeypatch: pytest.MonkeyPatch) -> None:
    """Without hindrance all round is one window; without bleeders known nothing is feasible."""
    easy = replace(
        good,
        hub=replace(good.hub, pilot_diameter_mm=10.0),
    )
    anything = replace(limit_for(good, "ligament"), stop=-500.0, watch=-500.0)
    most = replace(limit_for(good, "bleeder-up"), stop=400.0, watch=400.0)
    monkeypatch.setattr(
        "bicentra.core.search.questions.limit_for", lambda _job, name: most if name == "bleeder-up" else anything
    )
    found = search_clock(easy)
    monkeypatch.undo()
    assert found is not None and [(w.start, w.end) for w in found.windows] == [(0.0, 360.0)]
    none = search_clock(replace(good, caliper=replace(good.caliper, bleeders_deg=())))
    assert none is not None and none.windows == () and none.best is None


def test_search_of_the_mirror_image(good: Job) -> None:
    """Everything mirrored fore and aft: the feasible angles are the mirror image about the vertical."""
    lugs = tuple(replace(lug, x_mm=-lug.x_mm) for lug in good.knuckle.lugs)
    obstacles = tuple(replace(o, outline_mm=tuple((-x, y) for x, y in o.outline_mm)) for o in good.knuckle.obstacles)
    one = search_clock(good)
    other = search_clock(replace(good, knuckle=replace(good.knuckle, lugs=lugs, obstacles=obstacles)))
    assert one is not None and other is not None
    mirror = (720 - np.arange(1440)) % 1440
    assert (one.feasible == other.feasible[mirror]).all()


def test_an_unfinished_search_can_be_stopped(good: Job) -> None:
    """A progress call that answers no ends the search without a result."""
    parts: list[float] = []
    assert search_clock(good, progress=lambda part: parts.append(part) or len(parts) < 2) is None
    assert len(parts) == 2


def test_an_unmeasured_job_has_no_window(good: Job) -> None:
    """An unknown size makes every angle infeasible, never feasible by silence."""
    found = search_clock(with_value(good, "caliper.ear_boss_mm", None))
    assert found is not None and not found.feasible.any()


def test_the_ring_of_a_pull_comes_to_what_the_exact_search_says(good: Job) -> None:
    """Begun with the ring before the pull; once every question has come round it is the exact one's every fifth degree, told as rough."""
    before, moved = search_clock(good), with_value(good, "fit.pad_inset_mm", (good.fit.pad_inset_mm or 0.0) + 3.0)
    assert before is not None
    rolling, assembly, exact = IncrementalClock(before), solve(moved).assembly, search_clock(moved, step=5.0)
    assert exact is not None and not np.array_equal(before.feasible[::20], exact.feasible)
    shown = [rolling.turn(assembly) for _ in range(24)]
    assert all(one is not None and one.rough for one in shown)
    assert np.array_equal(shown[-1].feasible, exact.feasible) and np.allclose(shown[-1].score, exact.score)
    assert {name: row.tolist() for name, row in shown[-1].stops.items()} == {
        n: row.tolist() for n, row in exact.stops.items()
    }


def test_a_kind_made_anew_at_every_angle_has_no_ring_while_it_is_pulled(good: Job) -> None:
    """It takes too long; one of another kind that is pulled afterwards is asked everything at once."""
    stepped = with_value(good, "bracket.family", "stepped-plate")
    before = search_clock(stepped, step=90.0)
    assert before is not None and IncrementalClock(before).turn(solve(stepped).assembly) is None
    exact, first = search_clock(good, step=5.0), IncrementalClock(search_clock(stepped, step=0.25 * 20))
    assert exact is not None
    first.angles = exact.angles
    shown = first.turn(solve(good).assembly)
    assert shown is not None and np.array_equal(shown.feasible, exact.feasible)

"""No kept answer goes stale: whatever is changed, in whatever order, a solve says what one without any memory says."""

import random

import pytest

from bicentra.core.base import cache
from bicentra.core.base.records import replace
from bicentra.core.base.registry import KINDS, kind_of
from bicentra.core.bracket.assembly import assemble
from bicentra.core.bracket.families.table import FAMILIES
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.fields import fields
from bicentra.core.parts.job import Fit, Job
from bicentra.core.parts.validate import validate
from tests.core.test_any_job import PATHS
from tests.jobs import any_value

PULLED = ("fit.clock_deg", "fit.pad_inset_mm", "fit.rotor_spacer_mm", "bracket.thickness_mm", "rotor.overall_height_mm")


def text(solution: Solution) -> list[str]:
    """Every finding to the last digit, and every part."""
    return [repr(f) for f in solution.findings] + [repr(part) for part in solution.parts]


@pytest.mark.parametrize("seed", range(16))
def test_a_solve_says_the_same_with_and_without_memory(good: Job, monkeypatch: pytest.MonkeyPatch, seed: int) -> None:
    """Random kinds, random numbers missing or moved, the handles pulled between them; some steps go back."""
    chance = random.Random(seed)
    job = with_edits(good, (("bracket.family", chance.choice([*FAMILIES])),))
    before: list[Job] = []
    for _ in range(14):
        path = chance.choice(PULLED if chance.random() < 0.5 else sorted(PATHS))
        try:
            moved = with_edits(job, ((path, any_value(job, path, chance)),))
            validate(moved)
        except ValueError:
            continue
        job = chance.choice(before) if before and chance.random() < 0.2 else moved
        before.append(job)
        turns = chance.random() < 0.3
        remembered = text(solve(job, turns=turns))
        with monkeypatch.context() as patched:
            patched.setattr(cache, "SLOTS", 0)
            patched.setattr(cache.IdentityCache, "answer", lambda _self, _key, make: make())
            assert text(solve(job, turns=turns)) == remembered


def test_every_number_but_the_clock_is_part_of_the_key(good: Job) -> None:
    """A job that differs in any field, and a fit that does in any but its clock angle, is another one to the memory."""
    key = assemble(good).unturned
    assert key is None, "without a bracket nothing is known to stay the same"
    placed = solve(good).assembly
    assert placed.unturned is not None
    turned = replace(placed, job=with_edits(good, (("fit.clock_deg", 12.0),)))
    assert turned.unturned == placed.unturned
    for of in (*fields(Job), *(f for f in fields(Fit) if f.name != "clock_deg")):
        odd = object()
        is_fit = of.name in {f.name for f in fields(Fit)}
        job = replace(good, fit=replace(good.fit, **{of.name: odd})) if is_fit else replace(good, **{of.name: odd})
        if of.name != "fit":
            assert replace(placed, job=job).unturned != placed.unturned, of.name


@pytest.mark.parametrize("seed", range(10))
def test_one_finding_is_the_one_of_all(good: Job, seed: int) -> None:
    """Asked alone, each finding is what it is among all; one that is not asked is not there; each step keeps to its rooms."""
    chance = random.Random(100 + seed)
    job = with_edits(good, (("bracket.family", chance.choice([*FAMILIES])),))
    for path in chance.sample(sorted(PATHS), 3):
        try:
            moved = with_edits(job, ((path, any_value(job, path, chance)),))
            validate(moved)
        except ValueError:
            continue
        job = moved
    known = {finding.id: finding for finding in reversed(solve(job).findings)}
    for kind in KINDS:
        alone = solve(job).lazy.one(kind.id)
        assert repr(alone) == repr(known.get(kind.id)) or known[kind.id] in solve(job).findings
    for number, here in enumerate(solve(job).lazy.steps):
        assert {kind_of(f.id).group for f in here.ask()} <= here.groups, number

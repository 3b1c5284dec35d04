"""What to measure next: what is named as needed is, and what is said to settle a finding does."""

import random

import pytest

from bicentra.core.base.finding import Verdict
from bicentra.core.evaluation.solution import solve
from bicentra.core.inputs.missing import missing_sizes, needed_for
from bicentra.core.inputs.placeholder_sizes import DRAWN, DRAWN_MM, ON_SHEETS, TRIED, sizes_of
from bicentra.core.inputs.required_inputs import is_drawn, wanted
from bicentra.core.parts.edits import get_value, with_edits
from bicentra.core.parts.job import Job
from bicentra.study.document.starting import empty_job

TAKEN = (
    "hub.pilot_diameter_mm", "rotor.thickness_mm", "rotor.hat_thickness_mm", "caliper.slot_width_mm", "caliper.pad_height_mm",
    "caliper.ear_thickness_mm", "caliper.bridge_to_pad_top_mm", "hub.stud_length_mm", "knuckle.lugs[0].z_mm", "rotor.overall_height_mm",
    "caliper.body_width_mm", "fit.clock_deg", "bracket.lug_bolt", "caliper.ear_face_offset_mm", "wheel",
)  # fmt: skip


@pytest.mark.parametrize("seed", range(6))
def test_what_is_named_is_what_was_taken_away(good: Job, seed: int) -> None:
    """Some sizes of a whole job taken away: each is named unless nothing asks for it, nothing else is, and what a size is said to
    settle alone is known once it is given."""
    gone = random.Random(seed).sample(TAKEN, 4)
    job = with_edits(good, (("survey", {}), *((path, None) for path in gone)))
    solution = solve(job)
    found = {one.path: one for one in missing_sizes(solution)}
    assert set(found) <= set(gone)
    unknown = {f.id for f in solution.findings if f.verdict is Verdict.UNKNOWN}
    assert {id for one in found.values() for id in one.needed_by} == unknown
    for path, one in found.items():
        given = solve(with_edits(job, ((path, get_value(good, path)),)))
        assert all(given.finding(id).verdict is not Verdict.UNKNOWN for id in one.settles), path


def test_an_empty_job_asks_for_everything_and_a_whole_one_for_nothing(good: Job) -> None:
    """Every finding of an empty job that is unknown is reached by some size; what is most asked for stands first."""
    found = missing_sizes(solve(empty_job()))
    unknown = {f.id for f in solve(empty_job()).findings if f.verdict is Verdict.UNKNOWN}
    assert {id for one in found for id in one.needed_by} == unknown and len(found) > 35
    served = [(len(one.settles), len(one.needed_by)) for one in found]
    assert served == sorted(served, reverse=True) and "wheel" in {one.path for one in found} and "wheel" in TRIED
    assert missing_sizes(solve(good)) == ()


@pytest.mark.parametrize(
    "path",
    [
        "rotor.diameter_mm", "rotor.thickness_mm", "caliper.ear_line_to_pad_top_mm", "knuckle.lugs[0].z_mm", "caliper.slot_width_mm",
    ],
)  # fmt: skip
def test_what_a_size_is_needed_for(good: Job, path: str) -> None:
    """All that stops being known when it is taken from a whole job is told."""
    plain = with_edits(good, (("survey", {}),))
    without = with_edits(plain, ((path, None),))
    needed = needed_for(plain, path)
    assert needed is not None
    whole, lacking = (solve(job, turns=False).findings for job in (plain, without))
    known_before = {f.id for f in whole if f.verdict is not Verdict.UNKNOWN}
    lost = {f.id for f in lacking if f.verdict is Verdict.UNKNOWN} & known_before
    assert lost and lost <= set(needed[1])
    assert needed[0] == (path in {blank.path for blank in wanted(empty_job())}) != is_drawn(without)


def test_what_is_no_size_is_needed_for_nothing(good: Job) -> None:
    """A name, a choice, something that is not there: nothing is told of them, and nothing breaks."""
    assert all(
        needed_for(good, path) is None for path in ("rotor.name", "caliper.action", "nonsense", "parking.clock_deg")
    )


def test_no_placeholder_stands_twice() -> None:
    """One table: drawn, tried and on the parts' sheets share no key; what a sheet draws by is what the example draws by."""
    groups = [set(DRAWN_MM), set(DRAWN), set(TRIED), set(ON_SHEETS)]
    assert sum(len(group) for group in groups) == len(set().union(*groups))
    assert sizes_of("rotor")["centre_bore_mm"] == DRAWN_MM["rotor.centre_bore_mm"] and "material" not in sizes_of(
        "knuckle"
    )

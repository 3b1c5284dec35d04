"""What is missing before a bracket can be drawn, and the dotted corner it is asked on."""

import random

import pytest

from bicentra.core.drawing.views.example import example_face, example_section
from bicentra.core.evaluation.solution import solve
from bicentra.core.inputs.required_inputs import example_job, is_drawn, required_inputs, wanted
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import get_value, with_edits
from bicentra.core.parts.job import Job
from bicentra.study.document.starting import HELD, Start, empty_job, new_vehicle
from tests.jobs import labels_of

OWN = {
    "rotor.diameter_mm": 250.0,
    "rotor.thickness_mm": 22.0,
    "caliper.ear_thickness_mm": 13.0,
    "hub.tube_diameter_mm": 70.0,
}
"""Sizes that are not the plausible ones."""


@pytest.mark.parametrize("seed", range(8))
def test_what_is_asked_for_is_what_the_plate_needs(good: Job, seed: int) -> None:
    """Some of the ten known, some not: with all blanks filled in the plate is drawn, with any one of them left it is not."""
    chance, plain = random.Random(seed), empty_job()
    known = [blank.path for blank in wanted(plain) if chance.random() < 0.4]
    job = with_edits(plain, tuple((path, get_value(good, path)) for path in known))
    asked = [blank.path for blank in required_inputs(job)]
    assert set(asked) == {blank.path for blank in wanted(plain)} - set(known)
    assert is_drawn(with_edits(job, tuple((path, get_value(good, path)) for path in asked)))
    for left in asked:
        assert not is_drawn(with_edits(job, tuple((path, get_value(good, path)) for path in asked if path != left)))


def test_a_drawn_bracket_asks_for_nothing_and_a_ghost_keeps_what_is_known(good: Job) -> None:
    """Nothing is missing of the demo; a plausible corner changes no number that is there, and grows with the rotor."""
    assert required_inputs(good) == () and example_job(good, "").rotor == good.rotor
    large = example_job(with_edits(empty_job(), (("rotor.diameter_mm", 512.0),)))
    small = example_job(empty_job())
    assert (
        large.caliper.ear_spacing_mm == 2 * (small.caliper.ear_spacing_mm or 0.0) and large.rotor.diameter_mm == 512.0
    )


@pytest.mark.parametrize("corner", ["front-right", "front-left"])
@pytest.mark.parametrize("units", ["mm", "in"])
def test_the_ghost_is_dotted_and_every_blank_is_on_it(corner: str, units: str) -> None:
    """Ten blanks where they are measured, the known size as its number, nothing filled, and no number of the ghost in a text."""
    job = with_edits(empty_job(), (("corner", corner), ("display_units", units), ("caliper.ear_spacing_mm", 127.0)))
    solution = solve(job)
    drawing = example_face(solution, required_inputs(job))
    assert not example_section(solution, required_inputs(job)).dimensions  # of ten sizes none is taken along the axle
    asked = {item.edits: item for item in labels_of(drawing) if item.edits}
    assert set(asked) == {blank.path for blank in wanted(job)}
    assert [path for path, item in asked.items() if not item.example] == ["caliper.ear_spacing_mm"]
    assert asked["caliper.ear_spacing_mm"].text == ("ears apart 127 mm" if units == "mm" else "ears apart 5 in")
    assert all(item.text.endswith("?") for item in asked.values() if item.example)
    assert not [shape for shape in drawing.shapes if shape.filled and shape.ink == "example"]
    lug = next(d for d in drawing.dimensions if d.edits == "knuckle.lugs[0].x_mm")
    assert (lug.b[0] > 0) is (corner == "front-left")  # behind the axle is on the other side of a left corner
    assert not solution.bracket.shape or solution.bracket.shape.outline is None


@pytest.mark.parametrize("held", HELD)
@pytest.mark.parametrize("corner", ["front-right", "front-left"])
@pytest.mark.parametrize("order", ["as measured", "by chance"])
def test_every_kind_of_mount_comes_from_its_blanks(held: str, corner: str, order: str) -> None:
    """Typed in any order, sizes of a corner of its own: each blank stands on one of the drawings until it is filled, the dotted corner
    stays until the last, then the bracket is there. No size that was not typed is in any text or in the job."""
    job = job_of(new_vehicle(Start(held=held, corner=corner)))
    goal = example_job(
        with_edits(job, tuple((p, v) for p, v in OWN.items() if get_value(example_job(job), p) is not None))
    )
    left = [blank.path for blank in required_inputs(job)]
    if order == "by chance":
        random.Random(3).shuffle(left)
    assert len(left) >= 10
    for place, path in enumerate(left):
        missing, solution = required_inputs(job), solve(job, turns=False, remedies=False)
        assert {blank.path for blank in missing} == set(left[place:])
        drawings = (example_face(solution, missing), example_section(solution, missing))
        on_them = [item for d in drawings for item in labels_of(d) if item.example]
        assert {item.edits for item in on_them} == set(left[place:]) and len(on_them) == len(left) - place
        assert not [
            shape
            for d in drawings
            for shape in d.shapes
            if shape.ink == "example" and (shape.tag.partition(":")[0] not in ("", "example") or shape.filled)
        ]
        assert all(item.text.endswith("?") for item in on_them)
        job = with_edits(job, ((path, get_value(goal, path)),))
    assert required_inputs(job) == () and is_drawn(job)
    again = job_of(new_vehicle(Start(held=held, corner=corner)))
    assert job == with_edits(again, tuple((path, get_value(goal, path)) for path in left))

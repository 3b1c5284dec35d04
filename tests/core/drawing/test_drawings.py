"""The neutral drawings: true to scale, complete, mirrored for a left corner, labels apart."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bicentra.core.base.records import replace
from bicentra.core.drawing.boxes import Box
from bicentra.core.drawing.layout import lay_out
from bicentra.core.drawing.model import Drawing, Shape
from bicentra.core.drawing.places import Placed
from bicentra.core.drawing.sheets.plate import content_box, paper_labels, plate_sheet
from bicentra.core.drawing.views.face import face_view
from bicentra.core.drawing.views.section import section_view
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.outline import Outline
from bicentra.core.parts.edits import with_value
from bicentra.core.parts.job import Job
from bicentra.core.search.clock import search_clock
from bicentra.study.document.starting import demo_job, empty_job
from tests.jobs import labels_of


def measure(text: str) -> tuple[float, float]:
    """A stand-in for a face: seven units a letter."""
    return 7.0 * len(text) + 8, 17.0


def shapes(drawing: Drawing, tag: str, ink: str) -> list[Shape]:
    """The shapes of one feature in one ink."""
    return [s for s in drawing.shapes if s.tag == tag and s.ink == ink]


def test_face_view_draws_the_solution(good: Job) -> None:
    """Rotor rim, plate and holes lie where the solution says, to a thousandth."""
    solution = solve(good)
    drawing = face_view(solution, search_clock(good))
    rim = max(abs(v[0]) for s in shapes(drawing, "rotor", "rotor") for loop in s.loops for v in loop)
    assert rim == pytest.approx(128.0)
    plate = shapes(drawing, "bracket", "made")[0]
    assert Outline(plate.loops[0]).area == pytest.approx(solution.bracket.shape.outline.area)
    hole = shapes(drawing, "ear-0", "hole")[0].loops[0]
    assert ((hole[0][0] + hole[1][0]) / 2, hole[0][1]) == pytest.approx(solution.line.ears[0][:2])
    assert len(shapes(drawing, "clock", "window")) == 1


def test_section_shows_gaps_where_they_are_measured(good: Job) -> None:
    """The tip gap's dimension spans the tip gap; the slot's two gaps add up to slot less rotor."""
    drawing = section_view(solve(good))
    by = {d.text.split()[0]: d for d in drawing.dimensions}
    tip = by["tip"]
    assert tip.b[1] - tip.a[1] == pytest.approx(2.5)
    gaps = [abs(by[name].b[0] - by[name].a[0]) for name in ("inboard", "outboard")]
    assert sum(gaps) == pytest.approx(3.0)


def test_axial_error_is_drawn_and_said_with_its_side(demo: Job) -> None:
    """1.8 mm too far outboard: in words, and 1.8 mm long on the sheet."""
    found = next(d for d in section_view(solve(demo)).dimensions if "too far" in d.text)
    assert found.text == "1.80 mm too far outboard"
    assert found.b[0] - found.a[0] == pytest.approx(1.8)


def test_a_left_corner_is_the_mirror_image(good: Job) -> None:
    """Left and right drawings have the same bounds turned over; the plate keeps its area and orientation."""
    right, left = face_view(solve(good)), face_view(solve(replace(good, corner="front-left")))
    assert left.bounds == pytest.approx((-right.bounds[2], right.bounds[1], -right.bounds[0], right.bounds[3]))
    pairs = zip(shapes(right, "bracket", "made"), shapes(left, "bracket", "made"))
    for one, other in pairs:
        assert Outline(other.loops[0]).area == pytest.approx(Outline(one.loops[0]).area)
    handle = next(h for h in left.handles if h.turns)
    assert handle.at[0] > 0


def _apart(labels: tuple[Placed, ...]) -> bool:
    return not any(a.box.meets(b.box, 0.0) for i, a in enumerate(labels) for b in labels[:i])


@given(
    st.floats(0, 360), st.floats(0.3, 6.0), st.sampled_from(["mm", "in"]), st.sampled_from(["front-right", "rear-left"])
)
def test_labels_never_overlap_nor_leave_the_frame(clock: float, scale: float, units: str, corner: str) -> None:
    """At any angle, scale, unit and side: no label meets another, none is cut by the frame."""
    job = replace(with_value(demo_job(), "fit.clock_deg", clock), display_units=units, corner=corner)
    solution = solve(job)
    frame = Box(-300, -330, 300, 330)
    for drawing in (face_view(solution), section_view(solution)):
        labels = lay_out(drawing, scale, measure, frame)
        assert _apart(labels)
        assert all(label.box.inside(frame) for label in labels)


def test_the_most_important_labels_find_room(demo: Job) -> None:
    """At the size of the window every label of first rank is there."""
    solution = solve(demo)
    drawing = section_view(solution)
    labels = {label.text for label in lay_out(drawing, 1.55, measure, Box(-210, -320, 105, 320))}
    first = {item.text for item in labels_of(drawing) if item.rank == 0}
    assert first <= labels


def test_an_empty_job_draws_ghosts_not_errors() -> None:
    """Nothing measured: no part with an unknown place is drawn, what is missing is said."""
    solution = solve(empty_job())
    for drawing in (face_view(solution), section_view(solution)):
        assert all(math.isfinite(n) for s in drawing.shapes for loop in s.loops for v in loop for n in v)
    assert any("rotor" in example for example in face_view(solution).examples)


def test_long_names_and_many_lugs_fit_on_paper(good: Job) -> None:
    """Eight lugs with long names: every hole is labelled, no label on another, all inside the content box."""
    more = tuple(
        replace(
            good.knuckle.lugs[0],
            name=f"lug number {k} with a rather long name",
            x_mm=-62.0 - 22 * (k % 3),
            y_mm=-90.0 + 25 * k,
        )
        for k in range(8)
    )
    job = replace(
        good, knuckle=replace(good.knuckle, lugs=more, obstacles=()), bracket=replace(good.bracket, shims_mm=None)
    )
    drawing = plate_sheet(solve(job))
    labels = paper_labels(drawing, lambda text: (5.0 * len(text), 12.0))
    assert _apart(labels)
    assert sum("drill" in label.text for label in labels) == 10
    box = content_box(drawing, labels)
    assert box.x0 < drawing.bounds[0] and box.y1 > drawing.bounds[3]


def test_negative_gaps_are_said_as_what_they_are(good: Job) -> None:
    """Parts that run into each other read so on the drawing, never as a gap without its sign."""
    job = replace(good, bracket=replace(good.bracket, thickness_mm=15.0), fit=replace(good.fit, pad_inset_mm=-0.7))
    job = replace(job, caliper=replace(job.caliper, bridge_to_pad_top_mm=-1.0))
    texts = {d.text for d in section_view(solve(job)).dimensions}
    # 15 − 10.2 = 4.8 too far out; inboard 1.5 − 4.8 = −3.3; bridge −1 + 0.7 = −0.3; overhang 0.7.
    assert {
        "4.80 mm too far outboard",
        "inboard wall 3.30 mm into rotor",
        "bridge 0.30 mm into rotor",
        "pad overhang 0.70 mm",
    } <= texts
    near = with_value(with_value(good, "knuckle.lugs[0].x_mm", -90.0), "knuckle.lugs[0].y_mm", 60.0)
    assert any("holes overlap" in note.text for note in face_view(solve(near)).notes)

"""Each part's own drawing: true to its sizes, blanks where nothing is measured, nothing plausible ever written out."""

import math

import pytest

from bicentra.core.base.records import replace
from bicentra.core.drawing.model import Dimension, Note
from bicentra.core.drawing.part_sheets.table import part_sheet
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import get_value, with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.wheel import Wheel
from bicentra.study.desks.measuring import how_to_measure
from bicentra.study.document.starting import empty_job
from tests.jobs import labels_of

PARTS = ("rotor", "caliper", "hub", "wheel", "knuckle")


def asked(job: Job, name: str) -> list[Dimension | Note]:
    """Everything on a part's drawing that may be typed over."""
    drawing = part_sheet(name, solve(job))
    assert drawing is not None
    return [one for one in labels_of(drawing) if one.edits]


@pytest.mark.parametrize("name", PARTS)
def test_dimensions_are_as_long_as_they_say(demo: Job, name: str) -> None:
    """By the drawing's own points: what is measured is drawn at that size, along the way it is dimensioned."""
    checked = 0
    for one in asked(demo, name):
        value = get_value(demo, one.edits)
        assert one.example == (value is None)
        if isinstance(one, Dimension) and value is not None:
            long = (one.b[0] - one.a[0]) * one.along[0] + (one.b[1] - one.a[1]) * one.along[1]
            assert abs(long) == pytest.approx(abs(value)), one.edits
            checked += 1
    assert checked >= 3


@pytest.mark.parametrize("name", PARTS)
def test_nothing_plausible_is_written(name: str) -> None:
    """With nothing measured every size is a blank, every shape of the part dotted, no figure stands anywhere."""
    job = replace(empty_job(), wheel=Wheel())
    drawing = part_sheet(name, solve(job))
    assert drawing is not None
    for one in asked(job, name):
        assert one.example and one.text.endswith("?") and not any(c.isdigit() for c in one.text), one.text
    assert {shape.ink for shape in drawing.shapes} <= {"example", "centre", "construction"}
    assert all(math.isfinite(n) for shape in drawing.shapes for loop in shape.loops for v in loop for n in v)


def test_one_size_more_fills_what_stands_on_it(demo: Job) -> None:
    """The ring is solid once its two diameters are there, dotted with one of them; a twelve-lug knuckle is drawn."""
    bare = empty_job()
    for edits, solid in (
        ((("rotor.diameter_mm", 256.0),), False),
        ((("rotor.diameter_mm", 256.0), ("rotor.swept_inner_diameter_mm", 160.0)), True),
    ):
        drawing = part_sheet("rotor", solve(with_edits(bare, edits)))
        assert drawing is not None and any(shape.ink == "rotor" for shape in drawing.shapes) == solid
    many = with_edits(demo, (("knuckle.lugs", demo.knuckle.lugs * 6),))
    assert len({one.edits for one in asked(many, "knuckle")}) == 12 * 6
    assert part_sheet("knuckle", solve(with_edits(demo, (("knuckle.lugs", ()),)))) is not None
    assert part_sheet("job", solve(demo)) is None and part_sheet("bracket", solve(demo)) is not None


@pytest.mark.parametrize("name", ["rotor", "caliper", "hub", "knuckle"])
def test_every_size_says_how_it_is_taken(demo: Job, name: str) -> None:
    """One sentence with a tool in it, or at least what the field is called and its help."""
    told = [how_to_measure(one.edits, demo) for one in asked(demo, name)]
    assert all(len(text) > 16 for text in told), told
    assert how_to_measure("nowhere", demo) == "" and "×" not in "".join(told)


def test_the_seat_of_the_ears_decides_their_side(demo: Job) -> None:
    """Ears whose face looks inboard reach outboard from it, the others inboard (hub frame: outboard to the right)."""
    for seat, way in (("inboard", 1.0), ("outboard", -1.0)):
        job = with_edits(demo, (("caliper.ear_seat", seat), ("caliper.ear_thickness_mm", 17.0)))
        (thick,) = [one for one in asked(job, "caliper") if one.edits == "caliper.ear_thickness_mm"]
        assert isinstance(thick, Dimension) and thick.b[0] - thick.a[0] == pytest.approx(way * 17.0)


def test_the_end_that_is_at_fault_is_named(good: Job) -> None:
    """On the section the nearest end of all bolts is told: a head that comes nearer than any tip is called a head."""
    from bicentra.core.bracket.bolt_checks import bolt_gap
    from bicentra.core.drawing.views.section import section_view

    solution = solve(good)
    ends = {
        end: min(bolt_gap(solution.assembly, one, end) for one in solution.assembly.joints) for end in ("tip", "head")
    }
    nearest = min(ends, key=lambda end: ends[end])
    (note,) = [note for note in section_view(solution).notes if note.text.startswith("bolt ")]
    assert note.text == f"bolt {nearest} {good.lengths.gap(ends[nearest])} from rotor"

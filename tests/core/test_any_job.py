"""Whatever valid numbers a job holds, or lacks: it solves, is judged, drawn and reported without an error."""

import json
import math

import msgspec
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from bicentra.core.base.errors import JobError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.quantities import NUMBER
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.families.table import FAMILIES
from bicentra.core.drawing.sheets.plate import plate_sheet
from bicentra.core.drawing.views.face import face_view
from bicentra.core.drawing.views.joint import joint_view
from bicentra.core.drawing.views.made import made_view
from bicentra.core.drawing.views.section import section_view
from bicentra.core.evaluation.solution import solve
from bicentra.core.options import on_the_bench
from bicentra.core.parts.edits import with_edits, with_value
from bicentra.core.parts.fields import Meaning, fields, meaning
from bicentra.core.parts.job import Cutout, Dowel, Job, Parking, Pull
from bicentra.core.parts.threads import THREADS
from bicentra.core.parts.validate import validate
from bicentra.core.search.clock import search_clock
from bicentra.core.uncertainty.both_sides import text_of_both
from bicentra.formats.corner_report import check_object, check_text
from bicentra.study.desks.shaping import taken_away
from bicentra.study.document.starting import demo_job


def _values(of: Meaning, now: object) -> st.SearchStrategy[object]:
    """Values near what the demo holds, at the ends of the range, or missing."""
    if of.choices:
        return st.sampled_from(of.choices)
    if of.thread:
        return st.sampled_from([*THREADS, None])
    if of.kind is NUMBER:
        return st.integers(int(of.least or 0), int(of.most or 9))
    near = float(now) if isinstance(now, int | float) else 20.0
    return st.one_of(
        st.none(),
        st.floats(min(near * 0.3, near * 2.5), max(near * 0.3, near * 2.5, 1.0)),
        st.sampled_from([0.0, 0.01, 1999.0, -50.0]),
    )


def _paths(job: Job) -> dict[str, st.SearchStrategy[object]]:
    found: dict[str, st.SearchStrategy[object]] = {}
    for prefix in (
        "hub",
        "rotor",
        "caliper",
        "fit",
        "bracket",
        "knuckle.lugs[0]",
        "knuckle.lugs[1]",
        "knuckle.obstacles[0]",
        "wheel",
    ):
        record = eval(f"job.{prefix}", {"job": job})
        for of in fields(record):
            text = meaning(of)
            if text.kind is not None or text.choices or text.thread:
                found[f"{prefix}.{of.name}"] = _values(text, getattr(record, of.name))
    return found


PATHS = _paths(demo_job())
CHANGES = st.lists(
    st.sampled_from(sorted(PATHS)).flatmap(lambda path: st.tuples(st.just(path), PATHS[path])), max_size=6
)


def _no_nan(value: object) -> bool:
    if isinstance(value, dict):
        return all(map(_no_nan, value.values()))
    if isinstance(value, list):
        return all(map(_no_nan, value))
    return not (isinstance(value, float) and not math.isfinite(value))


SHAPES = st.fixed_dictionaries({}, optional={
    "bracket.pulls": st.builds(lambda a, b, out: (Pull(from_hole=a, to_hole=b, out_mm=out),), st.integers(0, 3), st.integers(0, 3),
                               st.floats(-60.0, 60.0)),
    "bracket.dowels": st.builds(lambda x, y: (Dowel(x_mm=x, y_mm=y),), st.floats(-120.0, 0.0), st.floats(-90.0, 90.0)),
    "bracket.cutouts": st.builds(lambda x, d, long: (Cutout(x_mm=x, y_mm=0.0, diameter_mm=d, length_mm=long),),
                                 st.floats(-110.0, -50.0), st.floats(1.0, 40.0), st.floats(0.0, 30.0)),
    "bracket.material": st.sampled_from(["steel S355", "aluminium 6082-T6", "brass", None]),
    "parking": st.builds(lambda c: Parking(caliper=demo_job().caliper, clock_deg=c, side="inboard"), st.floats(0.0, 360.0)),
    "caliper.mount": st.just("radial"),
})  # fmt: skip


@pytest.mark.parametrize("family", list(FAMILIES))
@settings(max_examples=30)
@given(CHANGES, st.sampled_from(["front-right", "rear-left"]), st.sampled_from(["mm", "in"]), SHAPES)
def test_any_valid_job_goes_all_the_way(
    family: str, changes: list[tuple[str, object]], corner: str, units: str, shapes: dict[str, object]
) -> None:
    """Changes at random on any kind of bracket, shaped or not: refused with a path, or solved, drawn, reported and proposed;
    remedies lead to jobs that solve too."""
    job = replace(demo_job(), corner=corner, display_units=units)
    job = with_edits(job, (("bracket.family", family), *shapes.items()))
    for path, value in changes:
        job = with_value(job, path, value)
    try:
        validate(job)
    except JobError as error:
        assert error.path and error.expected
        assume(False)
    solution = solve(job)
    said = check_object(solution)
    assert _no_nan(said) and json.loads(msgspec.json.encode(said))
    assert check_text(solution)
    for finding in solution.findings:
        if math.isnan(finding.value):
            assert finding.verdict in (Verdict.UNKNOWN, Verdict.STOP, Verdict.CAUTION)
    own, shown = on_the_bench(job)
    views = [face_view(solution), section_view(solution), joint_view(solution.assembly, LengthFormat("mm"))]
    views += [made_view(one.bracket, LengthFormat("in")) for one in shown[:3]]
    if solution.part is not None:
        views.append(plate_sheet(solution))
    for drawing in views:
        assert all(map(math.isfinite, drawing.bounds))
    assert own.bracket.family == family and text_of_both(job) is not None and taken_away(solution) is not None
    for finding in solution.findings[:2]:
        for remedy in finding.remedies:
            try:
                after = with_edits(job, remedy.edits)
                validate(after)
            except JobError:
                continue
            solve(after)


@settings(max_examples=25)
@given(CHANGES)
def test_the_search_never_raises(changes: list[tuple[str, object]]) -> None:
    """The clock search of any valid job comes to an end, with or without windows."""
    job = demo_job()
    for path, value in changes:
        job = with_value(job, path, value)
    try:
        validate(job)
    except JobError:
        assume(False)
    found = search_clock(job, step=5.0)
    assert found is not None and len(found.feasible) == 72

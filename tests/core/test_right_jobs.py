"""Right jobs that were stopped, and questions that could never be settled."""

import pytest
import shapely

from bicentra.core.base.finding import SLACK, Verdict
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.inputs.required_inputs import required_inputs
from bicentra.core.lineup.body import _sliced
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import Survey, Sweep, SweepReading
from bicentra.core.parts.threads import same_thread
from bicentra.core.survey.corner import survey_corner
from bicentra.core.survey.findings import runout
from bicentra.study.document.starting import HELD, Start, example_vehicle, new_vehicle


def test_a_right_angled_step_in_a_traced_body_adds_no_metal() -> None:
    """The edge of the step that only touches the next slice was counted: the slice reached as far as the step does."""
    section = ((-30.0, -40.0), (-30.0, 0.0), (0.0, 0.0), (0.0, 20.0), (30.0, 20.0), (30.0, -40.0))
    face = ((-40.0, -60.0), (20.0, -60.0), (20.0, 60.0), (-40.0, 60.0))
    slices = _sliced(section, face)
    low = [shapely.bounds(one.shape)[2] for one in slices if one.z1 <= 0.0]
    assert max(low) == pytest.approx(0.0)
    assert sum((one.z1 - one.z0) * one.shape.area for one in slices) == pytest.approx(
        120.0 * (30.0 * 40.0 + 30.0 * 60.0)
    )


def test_no_wheel_leaves_no_question_of_the_float(good: Job) -> None:
    """Said once that there is no wheel, the free travel is that to everything else, and not unknown for ever."""
    floating = (("caliper.action", "floating"), ("caliper.pistons_outboard_mm", ()), ("caliper.pad_thickness_mm", 10.0),
                ("caliper.slide_inboard_mm", 20.0), ("caliper.slide_outboard_mm", 20.0), ("wheel", None))  # fmt: skip
    open_one = solve(with_edits(good, (*floating, ("caliper.slot_width_mm", 44.0))))
    said = solve(with_edits(good, (*floating, ("caliper.slot_width_mm", 44.0), ("fit.absent", ("wheel",)))))
    assert said.finding("float-travel").verdict is not Verdict.UNKNOWN
    assert open_one.finding("float-travel").verdict in (Verdict.UNKNOWN, Verdict.STOP)


@pytest.mark.parametrize("held", HELD)
def test_a_new_job_asks_of_no_lug_where_none_holds(held: str) -> None:
    """Flange, tube and original bracket kept two empty lugs, and ten sizes of them were asked for."""
    asked = [blank.path for blank in required_inputs(job_of(new_vehicle(Start(held=held))))]
    assert asked and any("lugs" in path for path in asked) is (held in ("lugs", "direct", "later"))


def test_a_rotor_swept_on_the_car_has_the_hubs_runout_in_it(good: Job) -> None:
    """0.05 mm at the hub's 60 mm and 0.08 of the rotor's own at 120: on the car 0.18 is read, and 0.18 is what there is."""
    places = [30.0 * k for k in range(12)]

    def sweep(on: str, radius: float, size: float, where: str) -> Sweep:
        from math import cos, radians

        rows = tuple(SweepReading(at_deg=at, value_mm=size / 2 * cos(radians(at))) for at in places)
        return Sweep(on=on, radius_mm=radius, readings=rows, where=where)

    def text(where: str, read: float, with_hub: bool = True) -> float:
        hub = (sweep("hub-face", 60.0, 0.05, "bench"),) if with_hub else ()
        survey = Survey(sweeps=(*hub, sweep("rotor-face", 120.0, read, where)))
        job = replace(good, survey={good.corner: survey})
        finding = runout(job, survey_corner(job, job.corner), job.lengths)
        assert finding is not None
        return finding.value

    assert text("bench", 0.08) == pytest.approx(0.18) and text("on-car", 0.18) == pytest.approx(0.18)
    assert text("on-car", 0.18, with_hub=False) == pytest.approx(0.18)


def test_a_ring_bought_with_its_hat_asks_for_no_register() -> None:
    """Bought as one, nobody has to know what joins them."""
    job = job_of(example_vehicle("rotor-side"))
    bare = (("rotor.ring_register_mm", None), ("rotor.hat_register_mm", None))
    open_one, bought = (solve(with_edits(job, (*bare, ("rotor.assembled", whole)))) for whole in (False, True))
    assert open_one.finding("ring-on-hat").verdict is Verdict.UNKNOWN
    assert "ring-on-hat" not in {f.id for f in bought.findings}


def test_a_ring_without_a_hat_asks_for_none(good: Job) -> None:
    """A friction ring asked for the diameter of a hat it has not."""
    ring = (("rotor.kind", "ring"), ("rotor.hat_inner_diameter_mm", None), ("rotor.hat_thickness_mm", None),
            ("rotor.overall_height_mm", None), ("rotor.hat_outer_diameter_mm", None))  # fmt: skip
    assert not [
        f.why for f in solve(with_edits(good, ring)).findings if "needs" in f.why and "hat" in f.why.split("needs")[1]
    ]


def test_an_eighth_of_an_inch_meets_an_eighth_of_an_inch(good: Job) -> None:
    """3.175 mm against 3.175 mm was a watch, with the remedy to move by nothing."""
    for diameter in (256.0, 256.1, 255.7):
        finding = solve(with_edits(good, (("fit.pad_inset_mm", 3.175), ("rotor.diameter_mm", diameter)))).finding(
            "pad-overhang"
        )
        assert finding.verdict is Verdict.OK
    assert SLACK <= 1e-5


def test_threads_are_compared_and_not_their_texts() -> None:
    """M10x1.0 and M10x1 asked for an adapter."""
    assert same_thread("M10x1.0", "M10x1") and same_thread("M12", "M12x1.75") and not same_thread("M10x1", "M10x1.25")


def test_lugs_with_bolts_of_their_own_are_told_so(good: Job) -> None:
    """Where every lug has a bolt nothing is left to decide: the kind that takes one size says that they differ."""
    from bicentra.core.bracket.families.table import FAMILIES, make
    from bicentra.core.lineup.solve import line_up
    from bicentra.core.parts.job import LugBolt

    first, second = good.knuckle.lugs
    lugs = (replace(first, bolt=LugBolt(thread="M10x1.5")), replace(second, bolt=LugBolt(thread="M12x1.5")))
    job = with_edits(good, (("knuckle.lugs", lugs), ("bracket.lug_bolt", None)))
    text = [make(kind, job, line_up(job), job.lengths)[0].why for kind in FAMILIES.values()]
    assert sum("not alike" in why for why in text) == 3 and not any("lug bolt decide" in why for why in text)

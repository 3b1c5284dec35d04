"""Uncertainty carried to the last finding: against Monte Carlo, by hand, and in words."""

import math

import numpy as np
import pytest

from bicentra.core.base.finding import Verdict
from bicentra.core.base.numbers import chance_met, normal_below, percent
from bicentra.core.base.records import replace
from bicentra.core.base.registry import KINDS, kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.corners import across
from bicentra.core.parts.edits import get_value, with_edits, with_value
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import PartMeasure
from bicentra.core.survey.corner import survey_corner
from bicentra.core.survey.record import Stamp, corrected, survey_edit
from bicentra.core.survey.use import takeover
from bicentra.core.uncertainty.assess import assess
from bicentra.core.uncertainty.doubts import play_bands, radial_play, statement
from bicentra.core.uncertainty.propagate import figure_values, frozen_choices, propagate

KIND_IDS = {kind.id for kind in KINDS}


@pytest.fixture
def used(demo: Job) -> Job:
    """The demo with its wrong reading put right and its survey used."""
    survey = corrected(demo.survey["front-right"], "distances", 2, 38.97, "measured again", Stamp())
    job = with_edits(demo, survey_edit(demo, "front-right", survey))
    return with_edits(job, takeover(job, survey_corner(job, "front-right")).edits)


def test_every_finding_spreads_as_monte_carlo_says(used: Job) -> None:
    """900 draws of the job's numbers through the whole solution: each finding and figure scatters as propagated."""
    made = assess(solve(used))
    inputs, spread = made.inputs, made.propagated
    assert {
        "knuckle.lugs[0].x_mm",
        "knuckle.lugs[1].z_mm",
        "hub.pilot_diameter_mm",
        "caliper.bridge_to_pad_top_mm",
    } <= set(inputs.paths)
    frozen = frozen_choices(made.solution)
    job = frozen.job
    rng = np.random.default_rng(5)
    draws = rng.standard_normal((900, inputs.shares.shape[1])) @ inputs.shares.T
    start = [float(get_value(job, path)) for path in inputs.paths]
    values: dict[str, list[float]] = {}
    for draw in draws:
        moved = job
        for path, value, off in zip(inputs.paths, start, draw):
            moved = with_value(moved, path, value + off)
        solution = solve(moved, turns=False, remedies=False, fixed_stack_up=frozen.fixed_stack_up)
        for name, value in [*((f.id, f.value) for f in solution.findings), *figure_values(solution).items()]:
            values.setdefault(name, []).append(value)
    compared = 0
    for name, figure in {**spread.findings, **spread.figures}.items():
        if math.isfinite(figure.sd) and figure.sd > 2e-3:
            # 900 draws know a scatter to 2.4 %; a least distance over many corners is bent, not straight
            rel = 0.12 if "obstacle" in name else 0.055
            seen = np.std(values[name])
            if name in KIND_IDS and kind_of(name).unsigned and np.mean(values[name]) < 3 * figure.sd:
                seen = np.sqrt(np.mean(np.square(values[name])))  # the size of what lies about nothing is folded there
            assert seen == pytest.approx(figure.sd, rel=rel), name
            compared += 1
    assert compared >= 15


def test_the_tip_gap_by_hand(used: Job) -> None:
    """Tip gap = bridge − pad reading − inset: two depths of ±0.03 mm give ±0.03·√2, whatever the network says."""
    finding = assess(solve(used)).solution.finding("tip-gap")
    assert finding.sd == pytest.approx(0.03 * math.sqrt(2), rel=1e-6)
    assert finding.probability == pytest.approx(normal_below((finding.value - finding.limit) / finding.sd))
    assert finding.statement.startswith("2.50 mm ± 0.08 mm (95 %), limit 1.78 mm: over 99.9 % chance of being OK.")


def test_met_only_by_luck_is_a_watch_that_names_the_reading(used: Job) -> None:
    """A gap just above its limit is met only with some chance: it becomes a watch and says what to read again."""
    tight = with_edits(used, (("limits", {"tip-gap": 2.47}),))
    plain = replace(solve(tight)).finding("tip-gap")
    found = assess(solve(with_value(tight, "limits", {"tip-gap": 2.22}))).solution.finding("tip-gap")
    assert "chance of being OK" not in found.why and found.probability > 0.99
    lucky = assess(solve(replace(tight, limits={"tip-gap": 2.24, "tip-gap-hot": -5.0}))).solution.finding("tip-gap")
    assert plain.verdict is not Verdict.STOP and lucky.probability > 0.95
    survey = used.survey["front-right"]
    rough = replace(
        survey, parts=(*survey.parts, PartMeasure(recipe="bridge", values_mm={"bridge": 61.3, "pad": 57.8}, sd_mm=0.25))
    )
    rough = replace(rough, parts=tuple(p for p in rough.parts if not (p.recipe == "bridge" and p.sd_mm is None)))
    job = replace(used, survey={**used.survey, "front-right": rough}, limits={"tip-gap": 2.1})
    found = assess(solve(job)).solution.finding("tip-gap")
    assert found.verdict is Verdict.CAUTION and 0.8 < found.probability < 0.95
    assert "chance of being OK" in found.why and "Bridge above the pad top" in found.why


def test_numbers_typed_beside_a_survey_keep_its_uncertainty(used: Job) -> None:
    """0.01 mm off the survey an uncertainty vanished: it stays, with the difference on top, unless it is declared exact."""
    path = "knuckle.lugs[0].x_mm"

    def spread(job: Job) -> float:
        inputs = assess(solve(job)).inputs
        return math.sqrt(inputs.covariance[k, k]) if (k := inputs.paths.index(path)) >= 0 else math.nan

    held = float(get_value(used, path))
    assert spread(with_value(used, path, held + 0.01)) == pytest.approx(math.hypot(spread(used), 0.01), rel=0.2)
    assert spread(with_value(used, path, held + 1.0)) == pytest.approx(math.hypot(spread(used), 1.0), rel=0.01)
    exact = with_edits(used, ((path, held + 1.0), ("exact", (path,))))
    assert path not in assess(solve(exact)).inputs.paths


def test_without_a_survey_nothing_has_an_uncertainty(used: Job) -> None:
    """A bare job is not assessed, only looked at for play."""
    bare = assess(solve(replace(used, survey={})))
    assert bare.propagated is None and all(math.isnan(f.sd) for f in bare.solution.findings)
    pushed = bare.solution.finding("tip-gap")
    assert pushed.verdict is Verdict.CAUTION and "Play in the bolt holes" in pushed.why, "met, but for play of 1.5 mm"


def test_play_is_a_band_of_its_own(used: Job) -> None:
    """M12 bolts in 13.5 mm holes, twice: ±0.75 mm twice, and the tip gap can be pushed by just that."""
    solution = solve(used)
    assert radial_play(solution.job, solution.assembly) == pytest.approx(1.5)
    low, high = play_bands(solution.job, solution.assembly)["tip-gap"]
    value = solution.finding("tip-gap").value
    assert (low, high) == pytest.approx((value - 1.5, value + 1.5))
    tapped = with_edits(
        used, (("bracket.caliper_hole", "tapped"), ("bracket.lug_hole", "tapped"), ("knuckle.lugs[0].hole_mm", 12.0))
    )
    assert radial_play(tapped, solve(tapped).assembly) == pytest.approx(0.0)


def test_the_bent_lug_and_the_other_corner(demo: Job) -> None:
    """The demo's left lower lug leans by 0.6°: a stop there, a watch on the right, with both ends of the caliper named."""
    right = assess(solve(demo)).solution
    assert right.finding("lug-face-tilt").verdict is Verdict.OK
    mismatch = right.finding("corner-mismatch")
    assert mismatch.verdict is Verdict.CAUTION and "lower lug" in mismatch.why and "not proven there" in mismatch.why
    left = assess(solve(replace(demo, corner="front-left"))).solution.finding("lug-face-tilt")
    assert left.verdict is Verdict.STOP and left.value == pytest.approx(0.6, abs=0.1)
    shim, facing = (r.action for r in left.remedies)
    assert shim.endswith("thicker forward") and facing.endswith("off its back side")
    inboard = with_edits(
        replace(demo, corner="front-left"), (("bracket.side", "inboard"), ("knuckle.lugs[1].seat", "inboard"))
    )
    turned = assess(solve(inboard)).solution.finding("lug-face-tilt")
    assert turned.remedies[0].action.endswith("thicker back") and "parallel" in turned.assumed[0]
    assert "high towards back" in left.why and "end would stand" in left.why and len(left.remedies) == 2
    assert across("rear-left") == "rear-right"


def test_survey_findings_of_the_demo(demo: Job) -> None:
    """The wrong reading is named, and the better index is a remedy that sets it in the job."""
    solution = assess(solve(demo)).solution
    assert solution.finding("survey-agreement").verdict is Verdict.CAUTION
    assert "pilot to lower lug" in solution.finding("survey-agreement").why.lower()
    runout = solution.finding("rotor-runout")
    assert runout.remedies[0].edits == (("fit.rotor_turn_studs", 2),)
    turned = assess(solve(with_edits(demo, runout.remedies[0].edits))).solution.finding("rotor-runout")
    assert turned.value < 0.5 * runout.value and turned.verdict is Verdict.OK and turned.remedies == ()


def test_taking_over_shows_before_and_after(demo: Job) -> None:
    """Every number the survey changes is listed; using it twice changes nothing; a wrong reading is warned of."""
    here = survey_corner(demo, "front-right")
    plan = takeover(demo, here)
    assert any("named as wrong" in caution for caution in plan.cautions)
    x = next(c for c in plan.changes if c.path == "knuckle.lugs[0].x_mm")
    assert x.before == -62.0 and x.after == pytest.approx(here.place("upper lug")[0], abs=5e-4) and x.sd > 0
    used = with_edits(demo, plan.edits)
    assert takeover(used, survey_corner(used, "front-right")).edits == ()
    left = takeover(demo, survey_corner(demo, "front-left"))
    assert left.edits[0] == ("corner", "front-left")


@pytest.mark.parametrize(
    ("value", "sd", "limit", "at_least", "two", "chance"),
    [(2.0, 1.0, 2.0, True, False, 0.5), (0.0, 1.0, 1.96, False, True, 0.95), (1.0, 0.0, 0.5, True, False, 1.0),
     (1.645, 1.0, 0.0, True, False, 0.95), (0.4, 0.0, 0.5, True, False, 0.0)],
)  # fmt: skip
def test_chances(value: float, sd: float, limit: float, at_least: bool, two: bool, chance: float) -> None:
    """Chances from the normal table: 1.96 and 1.645 as any table prints them."""
    assert chance_met(value, sd, limit, at_least, two) == pytest.approx(chance, abs=5e-5)


def test_words_of_chance_and_unknown(used: Job) -> None:
    """No measurement is certain, and a value nobody knows has no statement."""
    assert [percent(c) for c in (0.99999, 0.993, 0.5, 0.0)] == ["over 99.9 %", "99.3 %", "50 %", "under 0.1 %"]
    finding = replace(solve(used).finding("tip-gap"), value=math.nan, sd=0.1)
    assert statement(finding, LengthFormat("mm")) == ""
    assert propagate(solve(used), assess(solve(used)).inputs).helps_most("nothing") == ""


def test_surveyed_obstacles_become_outlines_with_uncertainty(used: Job) -> None:
    """Corners of a casting, measured as points, give an obstacle its outline, and their errors reach the findings."""
    from bicentra.core.parts.survey import Distance, Feature

    corners = {"c1": (-40.0, 30.0), "c2": (-34.0, -30.0), "c3": (30.0, -44.0)}
    survey = used.survey["front-right"]
    places = {n: survey_corner(used, "front-right").place(n) for n in ("upper lug", "lower lug")} | {
        "pilot": (0.0, 0.0)
    }
    sizes = {"pilot": 57.0, "upper lug": 10.5, "lower lug": 10.5}
    features = tuple(Feature(name=n, kind="point", obstacle="knuckle web") for n in corners)
    distances = tuple(
        Distance(from_=a, to=n, sense="centres", value_mm=math.dist(places[a], corners[n]))
        for n in corners
        for a in sizes
    )
    more = replace(survey, features=(*survey.features, *features), distances=(*survey.distances, *distances))
    job = replace(used, survey={**used.survey, "front-right": more})
    plan = takeover(job, survey_corner(job, "front-right"))
    assert [path for path, _ in plan.edits][-1] == "knuckle.obstacles"
    after = with_edits(job, plan.edits)
    web = next(o for o in after.knuckle.obstacles if o.name == "knuckle web")
    assert np.array(web.outline_mm) == pytest.approx(np.array(list(corners.values())), abs=0.3)
    assert web.z_min_mm == -110.0
    assert "knuckle.obstacles[2].outline_mm[1][0]" in assess(solve(after)).inputs.paths


def test_a_face_against_the_axle_adds_the_hubs_own_lean(demo: Job) -> None:
    """The hub face leans by A/R towards its high spot; so does what is measured from it."""
    here = survey_corner(demo, "front-left")
    face, hub = here.face("lower lug"), here.sweep("hub-face")
    square = here.against_axle(face)
    rise = abs(hub.tilt) / hub.radius
    high = math.radians(hub.high_spot_deg)
    assert square.slope_x - face.slope_x == pytest.approx(rise * math.cos(high))
    x, y = here.place("lower lug")
    assert square.z - face.z == pytest.approx(rise * (x * math.cos(high) + y * math.sin(high)))


def test_typed_numbers_that_the_survey_does_not_bear_out(demo: Job, used: Job) -> None:
    """While a reading is wrong it only warns; settled, it offers the survey as one remedy; used, it is met."""
    first = assess(solve(demo)).solution.finding("survey-used")
    assert first.verdict is Verdict.CAUTION and first.remedies == () and "named as wrong" in first.why
    survey = corrected(demo.survey["front-right"], "distances", 2, 38.97, "measured again", Stamp())
    settled = with_edits(demo, survey_edit(demo, "front-right", survey))
    offer = assess(solve(settled)).solution.finding("survey-used")
    assert offer.value == pytest.approx(0.09, abs=0.01) and "upper lug, up differs by 0.09 mm" in offer.why
    done = with_edits(settled, offer.remedies[0].edits)
    assert done == used and assess(solve(done)).solution.finding("survey-used").verdict is Verdict.OK
    bare = with_edits(settled, (("knuckle.lugs[0].z_mm", None),))
    assert "is not in the job" in assess(solve(bare)).solution.finding("survey-used").why


def test_the_bottom_line_leads_from_the_wrong_reading_to_the_template(demo: Job, used: Job) -> None:
    """Stops first, then the reading that is wrong, then the survey into the job, then the rotor's index, then paper."""
    from bicentra.study.document.next_step import next_step

    job, said = with_edits(demo, (("bracket.thickness_mm", None), ("bracket.caliper_bolt_length_mm", None))), []
    for _ in range(6):
        step = next_step(assess(solve(job)).solution)
        said.append(step.finding.id if step.finding else step.sentence)
        if step.remedy is not None:
            job = with_edits(job, step.remedy.edits)
        elif step.finding is not None and step.finding.id == "survey-agreement":
            job = with_edits(job, survey_edit(job, "front-right", used.survey["front-right"]))
        else:
            break
    assert said[0] == "survey-agreement" and said[1] == "survey-used" and "rotor-runout" in said
    assert said[-1].startswith("Everything clears on paper") and "line it up by itself." in said[-1]
    assert said[-1].endswith("hold it in place while its bolts are tightened, and measure again."), (
        "play is for the dry fit"
    )


def test_a_plain_hole_comes_along(demo: Job) -> None:
    """The survey's diameter of a lug's hole is used where nobody wrote one down and the lug has no thread; never over a number that is there."""

    def lugs(**of: object) -> Job:
        return replace(demo, knuckle=replace(demo.knuckle, lugs=tuple(replace(lug, **of) for lug in demo.knuckle.lugs)))

    def paths(job: Job) -> set[str]:
        return {
            change.path for change in takeover(job, survey_corner(job, "front-right")).changes if "hole" in change.path
        }

    bare = lugs(thread=None, hole_mm=None)
    found = takeover(bare, survey_corner(bare, "front-right"))
    holes = {change.path: change for change in found.changes if "hole" in change.path}
    here = survey_corner(bare, "front-right")
    for k, lug in enumerate(bare.knuckle.lugs):
        path = f"knuckle.lugs[{k}].hole_mm"
        known = lug.name in here.adjusted.network.diameters
        assert (path in holes) == known
        if known:
            assert (
                holes[path].after == pytest.approx(here.adjusted.diameter(lug.name), abs=1e-3)
                and 0 < holes[path].sd < 1
            )
    assert (
        holes
        and paths(lugs(thread="M12x1.5", hole_mm=None)) == set()
        and paths(lugs(thread=None, hole_mm=11.0)) == set()
    )

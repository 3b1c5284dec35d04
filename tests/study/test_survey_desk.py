"""The desk without a window: what is asked, what becomes of a value, and that nothing said before is lost."""

import math

import pytest

from bicentra.core.base.errors import JobError
from bicentra.core.base.records import replace
from bicentra.core.parts.edits import get_value, with_value
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import Feature, PartMeasure, Survey
from bicentra.core.survey import record
from bicentra.study.desks.lineup import LineupDesk
from bicentra.study.desks.survey import ReadingAsk, SurveyDesk
from bicentra.study.document.starting import empty_job
from bicentra.study.document.study import Study

NOW = "2026-11-25 08:00:00"


def desk_on(job: Job) -> SurveyDesk:
    """A desk with a stopped clock."""
    desk = SurveyDesk(Study(job), now=lambda: NOW)
    desk.by = "ada"
    desk.ask_next()
    return desk


def test_the_wrong_reading_is_asked_for_first_and_its_former_self_kept(demo: Job) -> None:
    """The demo asks for its doubtful reading; the new value stands with who and when, the old one behind it."""
    desk = desk_on(demo)
    assert desk.current_ask is not None and (desk.current_ask.kind, desk.current_ask.list, desk.current_ask.index) == (
        "again",
        "distances",
        2,
    )
    before = desk.survey.distances[2]
    desk.take(38.97)
    now = desk.survey.distances[2]
    assert (now.value_mm, now.by, now.taken) == (38.97, "ada", NOW)
    assert now.was[-1].value == before.value_mm and now.was[-1].why == "measured again" and now.was[-1].by == "workshop"
    assert not desk.done.suspects and desk.current_ask != ReadingAsk("again", now.was)
    desk.study.undo()
    assert desk.survey.distances[2] == before


def test_from_nothing_to_lugs_by_following_what_is_asked() -> None:
    """An empty job: features added, every question answered from a truth, ends with lugs known and checked."""
    truth = {"pilot": (0.0, 0.0), "upper": (-62.0, 42.0), "lower": (-62.0, -38.0)}
    sizes = {"pilot": 57.0, "upper": 10.5, "lower": 10.5}
    desk = desk_on(empty_job())
    assert desk.current_ask is None and desk.advice[0].kind == "feature"
    for name in truth:
        desk.add_feature(Feature(name=name, axis=name == "pilot"))
        assert desk.current_ask.kind == "diameter"  # type: ignore[attr-defined]
        desk.take(sizes[name])
    for _ in range(40):
        ask = desk.current_ask
        if ask is None or ask.kind == "again":
            break
        if ask.kind == "straightedge":
            desk.take(9.5)
        elif ask.kind == "depth":
            desk.take(9.5 + 73.7)
        elif ask.kind == "sweep":
            desk.take(0.2 + 0.01 * math.cos(math.radians(ask.at_deg)))
        elif ask.kind == "direction":
            (x0, y0), (x1, y1) = truth[ask.ends[0]], truth[ask.ends[1]]
            desk.take(math.degrees(math.atan2(y1 - y0, x1 - x0)) % 360)
        else:
            sign = {"near-near": -1, "far-far": 1}[ask.sense]
            desk.take(
                math.dist(truth[ask.ends[0]], truth[ask.ends[1]]) + sign * (sizes[ask.ends[0]] + sizes[ask.ends[1]]) / 2
            )
    done = desk.done
    assert done.adjusted.dof > 0 and done.adjusted.passed
    assert done.place("lower") == pytest.approx(truth["lower"], abs=1e-3)
    assert done.face("upper").z == pytest.approx(-73.7)
    assert len(done.sweep("hub-face").values) == 12


def test_two_picks_ask_for_a_distance_and_senses_change(demo: Job) -> None:
    """Picking two features asks for the sense that is still free; a third pick starts anew; the angle can be asked instead."""
    desk = desk_on(demo)
    desk.pick("pilot")
    desk.pick("web bolt")
    assert desk.current_ask == ReadingAsk("distance", ("pilot", "web bolt"), "far-far", why="as picked on the sheet")
    desk.with_sense("near-far")
    assert desk.current_ask.sense == "near-far" and "near edge to far edge" in desk.current_ask.name
    desk.as_angle()
    assert desk.current_ask.kind == "direction" and desk.current_ask.is_angle
    desk.take_lean(-26.0)  # the web bolt lies at 63°, the line leans 26° forward of plumb
    assert desk.survey.directions[-1].clock_deg == pytest.approx(116.0)
    desk.pick("nobody")
    desk.pick("pilot")
    desk.pick("pilot")
    assert desk.picked == ()


def test_repeats_stand_beside_each_other_and_all_can_be_asked_again(demo: Job) -> None:
    """Once more through every distance: twice as many readings, none overwritten."""
    desk = desk_on(demo)
    count = len(desk.survey.distances)
    desk.ask_all_again()
    for k in range(count):
        assert desk.current_ask.kind == "distance"
        desk.take(float(desk.survey.distances[k].value_mm))
    assert (
        len(desk.survey.distances) == 2 * count and desk.survey.distances[0] == demo.survey["front-right"].distances[0]
    )


def test_a_value_that_cannot_be_leaves_everything(demo: Job) -> None:
    """A negative distance is refused; the question stays."""
    desk = desk_on(demo)
    current_ask, survey = desk.current_ask, desk.survey
    with pytest.raises(JobError):
        desk.take(-5.0)
    assert desk.current_ask == current_ask and desk.survey is survey


def test_faces_sweeps_and_drops(demo: Job) -> None:
    """A face is asked for spot by spot, a sweep reading by reading; a skipped one counts as dropped."""
    desk = desk_on(demo)
    desk.write("x", record.with_spots(desk.survey, "upper lug", (), "read anew", desk.stamp()))
    face = desk.survey.faces[0]
    assert face.spots == () and "read anew: 83.1" in face.was[-1].why
    desk.ask(desk.spot_ask("upper lug"))
    places = []
    for _ in range(4):
        places.append(desk.current_ask.at_deg)
        desk.take(83.2)
    assert places == [45.0, 135.0, 225.0, 315.0] and len(desk.survey.faces[0].spots) == 4
    desk.write("y", record.with_sweep(desk.survey, "hub-face", 60.0, {}, desk.stamp()))
    desk.ask(desk.sweep_ask("hub-face"))
    desk.take(0.1)
    desk.skip()
    sweep = next(s for s in desk.survey.sweeps if s.on == "hub-face")
    rows = sweep.readings
    assert len(sweep.was) == 1 and sweep.was[0].why.startswith("swept before: 0.2") and sweep.was[0].by == "workshop"
    assert [(r.at_deg, r.value_mm) for r in rows] == [(0.0, 0.1), (30.0, None)] and desk.current_ask.at_deg == 60.0


def test_corners_and_outside_changes(demo: Job) -> None:
    """Turning to another corner asks its own questions; undo of a feature takes its question back."""
    desk = desk_on(demo)
    desk.turn_to("rear-left")
    assert desk.current_ask is None and desk.advice[0].kind == "feature"
    desk.add_feature(Feature(name="pilot", axis=True))
    assert desk.current_ask == ReadingAsk("diameter", ("pilot",))
    desk.study.undo()
    desk.refresh()
    assert desk.current_ask is None
    assert desk.skip() is None


def test_records_rename_remove_set_aside_and_parts(demo: Job) -> None:
    """Every change of the record keeps the survey consistent."""
    survey = demo.survey["front-right"]
    other = record.renamed(survey, "upper lug", "top lug")
    assert {d.from_ for d in other.distances} >= {"top lug"} and other.faces[0].feature == "top lug"
    aside = record.set_aside(survey, "distances", 2, "by hand")
    study = Study(replace(demo, survey={**demo.survey, "front-right": aside}))
    assert not SurveyDesk(study).done.suspects
    first = PartMeasure(recipe="bridge", values_mm={"bridge": 61.3, "pad": 57.8})
    twice = record.with_part(record.with_part(Survey(), first), replace(first, values_mm={"bridge": 61.4, "pad": 57.8}))
    assert len(twice.parts) == 1 and "61.3" in twice.parts[0].was[0].why


def test_key_paths_reach_into_the_survey(demo: Job) -> None:
    """A reading can be reached and changed by its path as the file has it."""
    path = "survey.front-right.distances[0].value_mm"
    changed = with_value(demo, path, 41.0)
    assert get_value(changed, path) == 41.0 and get_value(demo, "survey.front-right.distances[0].from") == "pilot"
    with pytest.raises(KeyError):
        get_value(demo, "survey.rear-left.distances[0].value_mm")


def test_the_study_takes_up_an_assessment_only_of_its_own_job(demo: Job) -> None:
    """An answer about an older job is let go; the survey's findings stay in the list meanwhile, and the doubts of a moment ago."""
    study = Study(demo)
    assert not study.doubted and "so\u00a0far" in LineupDesk(study).counts()
    old = study.assess()
    assert study.assessment is old and math.isfinite(study.solution.finding("tip-gap").sd)
    study.edit("turn", (("fit.clock_deg", 183.0),))
    assert study.assessment is None and not study.take_assessment(old)
    assert study.solution.finding("rotor-runout") == old.solution.finding("rotor-runout")
    assert study.solution.finding("tip-gap").sd == old.solution.finding("tip-gap").sd and study.doubted
    study.go_to("front-left")  # that corner's readings are its own
    assert not study.doubted and "rotor-runout" not in {finding.id for finding in study.solution.findings}


def test_an_edge_is_measured_to_and_its_lean_asked_for(demo: Job) -> None:
    """An edge and a hole ask for their distance, an edge picked twice for its lean; from plumb, forward positive."""
    desk = desk_on(demo)
    desk.add_feature(Feature(name="flat", kind="edge"))
    desk.pick("flat")
    desk.pick("flat")
    assert desk.current_ask.ends == ("flat", "flat") and desk.current_ask.name == "lean of flat"
    desk.take_lean(5.0)
    assert desk.survey.directions[-1].clock_deg == 85.0
    desk.pick("flat")
    desk.pick("pilot")
    assert desk.current_ask.ends == ("flat", "pilot")
    desk.take(12.0)
    desk.pick("flat")
    desk.pick("upper lug")
    desk.take(10.0)
    assert desk.done.adjusted.known("flat")
    from bicentra.core.drawing.views.survey import pick_places, survey_view

    assert "flat" in pick_places(demo, desk.done)
    assert any(s.tag == "feature:flat" for s in survey_view(desk.study.job, desk.done).shapes)


def test_a_lug_seated_inboard_is_taken_over_by_its_thickness(demo: Job) -> None:
    """Depths reach the outboard face; the seat of a lug seated inboard lies its thickness further in, or is unknown."""
    from bicentra.core.evaluation.solution import solve
    from bicentra.core.parts.edits import with_edits
    from bicentra.core.survey.corner import survey_corner
    from bicentra.core.survey.use import takeover
    from bicentra.core.uncertainty.assess import assess

    inboard = with_edits(demo, (("knuckle.lugs[0].seat", "inboard"),))
    here = survey_corner(inboard, "front-right")
    plan = takeover(inboard, here)
    z = next(c for c in plan.changes if c.path == "knuckle.lugs[0].z_mm")
    assert z.after == pytest.approx(here.face("upper lug").z - 22.0, abs=1e-3) and "inboard seat" in z.what
    assert "knuckle.lugs[0].z_mm" in assess(solve(with_edits(inboard, plan.edits))).inputs.paths
    bare = with_edits(inboard, (("knuckle.lugs[0].thickness_mm", None),))
    blind = takeover(bare, survey_corner(bare, "front-right"))
    assert all(c.path != "knuckle.lugs[0].z_mm" for c in blind.changes)
    assert any("thickness is needed" in caution for caution in blind.cautions)


def test_a_reading_taken_back_is_asked_for_again(demo: Job) -> None:
    """After undo a sweep and a face go on where they stand: the place that was taken back comes next, none is passed over."""
    desk = SurveyDesk(Study(demo))
    desk.study.changed.append(desk.refresh)
    desk.sweep_anew("hub-face")
    for k in range(4):
        assert desk.current_ask is not None and desk.current_ask.at_deg == 30.0 * k
        desk.take(0.01 * k)
    for k in (3, 2, 1, 0):
        desk.study.undo()
        assert desk.current_ask is not None and (desk.current_ask.kind, desk.current_ask.at_deg) == ("sweep", 30.0 * k)
    desk.study.redo()
    desk.face_anew("upper lug")
    first = desk.current_ask
    assert first is not None and first.kind == "depth"
    desk.take(70.0)
    assert desk.current_ask is not None and desk.current_ask.at_deg != first.at_deg
    desk.study.undo()
    assert desk.current_ask is not None and desk.current_ask.at_deg == first.at_deg

"""One vehicle in one file: corners made of axle and corner, changes put back where they belong, what is borrowed told."""

import json
from pathlib import Path

import pytest

from bicentra.core.base.errors import JobError, JobFileError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.base.registry import kind_of
from bicentra.core.drawing.sheets.imprint import TRIAL_ONLY, mark_of
from bicentra.core.drawing.sheets.parts_list import parts_list
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.corners import job_of, vehicle_of, with_job
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job, Knuckle, Lug, LugBolt
from bicentra.core.parts.validate_vehicle import validate_vehicle
from bicentra.core.parts.vehicle import Corner, Vehicle
from bicentra.formats.job_json import parse_vehicle, read_job, read_vehicle, write_vehicle
from bicentra.study.document import store
from bicentra.study.document.starting import demo_job, demo_vehicle
from bicentra.study.document.study import Study


def edited(vehicle: Vehicle, corner: str, *edits: tuple[str, object]) -> Vehicle:
    """The vehicle after edits made at one corner."""
    at = replace(vehicle, corner=corner)
    before = job_of(at)
    return with_job(at, before, with_edits(before, edits))


def test_an_old_file_is_the_same_corner(old_path: Path) -> None:
    """Version 1 read as a vehicle: every number of its corner is there, and the findings are those of the demo's own corner."""
    old, new = read_job(old_path), demo_job()
    assert new.before is not None
    since = {
        "opposite": None,
        "trials": (),
        "before": replace(new.before, drum=None),
        "knuckle": replace(new.knuckle, obstacles_none=False),
    }  # what nobody wrote down then
    assert old == replace(new, notes=old.notes, **since)
    assert [(f.id, f.verdict, f.value) for f in solve(old).findings if f.verdict is Verdict.STOP] == [
        (f.id, f.verdict, f.value) for f in solve(new).findings if f.verdict is Verdict.STOP
    ]
    again = parse_vehicle(write_vehicle(read_vehicle(old_path)), "x")
    assert again == read_vehicle(old_path) and again.version == 2
    assert json.loads(write_vehicle(again))["axles"]["front"]["readings"], "readings of donor parts are the part's own"


def test_the_old_file_is_kept_beside_the_new_one(old_path: Path, tmp_path: Path) -> None:
    """The first save over a version 1 file keeps it under its version's name; a second save keeps that as it is."""
    path = tmp_path / "van.bicentra.json"
    path.write_bytes(old_path.read_bytes())
    study = Study(store.load_vehicle(path), path)
    study.edit("turn", (("fit.clock_deg", 181.0),))
    study.save()
    kept = tmp_path / "van.v1.bicentra.json"
    assert kept.read_bytes() == old_path.read_bytes() and json.loads(path.read_text())["version"] == 2
    study.edit("turn", (("fit.clock_deg", 182.0),))
    study.save()
    assert kept.read_bytes() == old_path.read_bytes() and len(list(tmp_path.iterdir())) == 2


def test_a_design_is_the_axles_a_measurement_the_corners() -> None:
    """Turned at one corner it is turned at the other; a lug measured at one stays there; the rear axle knows of neither."""
    vehicle = edited(demo_vehicle(), "front-left", ("fit.clock_deg", 190.0), ("knuckle.lugs[0].x_mm", -60.0))
    right, left = job_of(vehicle, "front-right"), job_of(vehicle, "front-left")
    assert right.fit.clock_deg == left.fit.clock_deg == 190.0
    assert (right.knuckle.lugs[0].x_mm, left.knuckle.lugs[0].x_mm) == (-62.0, -60.0)
    assert vehicle.axles["rear"] == demo_vehicle().axles["rear"] and vehicle.axles["rear"].drum is not None


def test_an_override_is_this_corners_alone() -> None:
    """What is overridden stays apart, whichever side is changed; the rest of the record is shared still."""
    vehicle = demo_vehicle()
    left = replace(vehicle.corners["front-left"], overrides={"fit.clock_deg": 176.0, "bracket.shims_mm": (0.5, 0.0)})
    vehicle = replace(vehicle, corners={**vehicle.corners, "front-left": left})
    assert job_of(vehicle, "front-left").bracket.shims_mm == (0.5, 0.0)
    vehicle = edited(
        vehicle, "front-left", ("fit.clock_deg", 170.0), ("fit.pad_inset_mm", 1.5), ("bracket.wall_mm", 9.0)
    )
    one, other = job_of(vehicle, "front-left"), job_of(vehicle, "front-right")
    assert (one.fit.clock_deg, other.fit.clock_deg) == (170.0, 184.0)
    assert one.fit.pad_inset_mm == other.fit.pad_inset_mm == 1.5 and other.bracket.wall_mm == 9.0
    assert other.bracket.shims_mm != (0.5, 0.0)
    assert parse_vehicle(write_vehicle(vehicle), "x") == vehicle
    for path in ("hub.pilot_diameter_mm", "fit.speed"):
        wrong = replace(vehicle, corners={**vehicle.corners, "front-left": replace(left, overrides={path: 1.0})})
        with pytest.raises(JobError, match="overrides"):
            validate_vehicle(wrong)
    text = write_vehicle(vehicle).decode().replace('"fit.clock_deg": 170.0', '"fit.clock_deg": "late"')
    with pytest.raises(JobFileError, match=r"overrides\.fit\.clock_deg"):
        parse_vehicle(text.encode(), "x")


def test_what_is_borrowed_is_one_thing_to_do(good: Job) -> None:
    """A corner without hub and knuckle takes the other side's: one caution says to measure here; whatever rests on them is marked."""
    vehicle = vehicle_of(replace(good, survey={}, opposite=None))
    job = job_of(vehicle, "front-left")
    assert job.borrowed == ("hub", "knuckle") and job.knuckle == good.knuckle
    here, there = solve(replace(good, survey={}, opposite=None)), solve(job)
    assert there.finding("corner-borrowed").verdict is Verdict.CAUTION
    assert {f.id for f in there.findings} - {f.id for f in here.findings} == {"corner-borrowed"}
    for finding in here.findings:
        lent = there.finding(finding.id)
        assert lent.verdict is finding.verdict and lent.borrowed is not kind_of(finding.id).off_hub, finding.id
        assert not lent.borrowed or any("(front right)" in text for text in lent.assumed)
    assert (
        solve(with_edits(job, (("borrowed", ()),))).finding("axial-offset").assumed
        == here.finding("axial-offset").assumed
    )
    marks = [mark_of(solution.findings, (), practice=False) for solution in (here, there)]
    assert not marks[0].word and marks[1].word == TRIAL_ONLY and "borrowed" in marks[1].reasons[0]
    part_way = edited(vehicle, "front-left", ("knuckle.lugs[0].x_mm", -61.0))
    assert job_of(part_way, "front-left").borrowed == ("knuckle", "hub"), (
        "one number measured does not make it all measured"
    )
    assert job_of(part_way, "front-right").knuckle == good.knuckle
    done = edited(part_way, "front-left", ("borrowed", ("hub",)))
    assert job_of(done, "front-left").borrowed == ("hub",) and done.corners["front-left"].hub is None
    assert job_of(parse_vehicle(write_vehicle(done), "x"), "front-left") == job_of(done, "front-left")


def test_undo_works_on_the_vehicle() -> None:
    """Steps at two corners are taken back one by one, the corner they were made at with them."""
    study = Study(demo_vehicle())
    study.edit("inset", (("fit.pad_inset_mm", 1.0),))
    study.go_to("front-left")
    study.edit("lug", (("knuckle.lugs[1].y_mm", -37.0),))
    assert study.job.corner == "front-left" and study.job.fit.pad_inset_mm == 1.0
    study.undo()
    study.undo()
    assert study.job.corner == "front-right"
    study.undo()
    assert study.vehicle == demo_vehicle() and not study.modified
    assert dict(study.corners) == {
        "front-right": "measured",
        "front-left": "measured",
        "rear-right": "drum brake",
        "rear-left": "drum brake",
    }
    study.go_to("rear-right")
    assert len(study.job.knuckle.lugs) == 2 and study.job.rotor.name == "" and not study.modified
    study.edit("begin a disc brake there", (("knuckle.lugs[0].x_mm", 60.0),))
    assert dict(study.corners)["rear-left"] == "from the other side" and dict(study.corners)["rear-right"] == "measured"


def test_a_design_has_to_do_for_both_corners() -> None:
    """Shims for two lugs are refused while the other corner has three; the message names the key in the file."""
    vehicle = demo_vehicle()
    three = replace(
        vehicle.corners["front-left"].knuckle, lugs=(*vehicle.corners["front-left"].knuckle.lugs, Lug(name="third"))
    )
    vehicle = replace(
        vehicle, corners={**vehicle.corners, "front-left": replace(vehicle.corners["front-left"], knuckle=three)}
    )
    study = Study(vehicle)
    with pytest.raises(JobError, match=r"axles\.front\.bracket\.shims_mm"):
        study.edit("shims", (("bracket.shims_mm", (0.2, 0.2)),))
    assert study.vehicle == vehicle


@pytest.mark.parametrize("count", [0, 1])
def test_few_lugs_are_no_error(good: Job, count: int) -> None:
    """None or one: whatever is bolted to lugs is unknown, nothing is met that rests on them, nothing raises."""
    job = replace(good, survey={}, knuckle=Knuckle(lugs=good.knuckle.lugs[:count], material="iron"))
    for family in (
        "",
        "two-part",
        "stepped-plate",
        "jogged-plate",
        "axle-end-plate",
        "weld-on",
        "eccentric-bushings",
        "sleeve",
    ):
        solution = solve(with_edits(job, (("bracket.family", family), ("bracket.material", "steel S355"))))
        if "lug" in solution.bracket.bolted:
            assert not solution.feasible, family


def test_the_vehicle_tells_what_is_wrong_with_it() -> None:
    """Names of axles and corners, numbers of pedal and drum: each by its key."""
    for change, path in (
        ({"axles": {"middle": demo_vehicle().axles["front"]}}, "axles"),
        ({"corners": {"front": Corner()}}, "corners"),
        ({"vehicle": replace(demo_vehicle().vehicle, mass_kg=-3.0)}, "vehicle.mass_kg"),
        ({"axles": {"rear": replace(demo_vehicle().axles["rear"], tyre_radius_mm=-1.0)}}, "axles.rear.tyre_radius_mm"),
    ):
        with pytest.raises(JobError) as caught:
            validate_vehicle(replace(demo_vehicle(), **change))
        assert caught.value.path == path


def test_each_lug_may_have_its_own_bolt(good: Job) -> None:
    """By hand: M10 at one lug, M12 at the other; hole, boss, length and washers are each bolt's own, the list counts both."""
    own = LugBolt(thread="M10x1.5", length_mm=40.0, washers=2, into="nut")
    lugs = (replace(good.knuckle.lugs[0], bolt=own, thread=None, hole_mm=11.0), good.knuckle.lugs[1])
    solution = solve(with_edits(good, (("knuckle.lugs", lugs),)))
    one, other = solution.assembly.joints[:2]
    assert (one.joint.thread.name, one.joint.length, one.joint.stack.washers) == ("M10x1.5", 40.0, 2)
    assert other.joint.thread.name == good.bracket.lug_bolt and one.joint.stack.female == "nut"
    assert solution.assembly.holes[0].boss_radius != solution.assembly.holes[1].boss_radius
    bought = {item.size: item.count for item in parts_list(solution) if item.name == "bolt"}
    assert bought["M10x1.5 × 40 mm"] == 1 and sum(bought.values()) == 4
    unchosen = solve(with_edits(good, (("knuckle.lugs", lugs), ("bracket.lug_bolt", None))))
    assert unchosen.finding("thread-fit").verdict is Verdict.UNKNOWN and not unchosen.feasible, "the other lug has none"
    for change, bad in (({"into": "plate"}, False), ({"from_": "inboard"}, True), ({"into": "thread"}, True)):
        turned = (replace(lugs[0], bolt=replace(own, **change)), lugs[1])
        asked = solve(with_edits(good, (("knuckle.lugs", turned),)))
        assert any(f.id == "unsupported" for f in asked.findings) is bad and asked.feasible is not bad, change
    sunk = (replace(lugs[0], bolt=replace(own, head="countersunk")), lugs[1])
    assert solve(with_edits(good, (("knuckle.lugs", sunk),))).assembly.joints[0].joint.stack.sunk


def test_shims_at_the_ears_move_the_caliper_outboard(good: Job) -> None:
    """By hand: ears on the plate's outboard face; 0.4 and 0.6 mm there lift the caliper 0.5 mm, and lean it by half of 0.2."""
    plain = solve(good)
    held = plain.assembly.stack_up
    as_it_is = (("bracket.thickness_mm", held.thickness), ("bracket.shims_mm", held.shims))
    for family, kept in (("", as_it_is), ("stepped-plate", ())):
        plate = with_edits(good, (("bracket.family", family), *kept))
        shimmed = solve(with_edits(plate, (("fit.ear_shims_mm", ((0.4,), (0.3, 0.3))),)))
        before = solve(plate)
        moved = shimmed.assembly.stack_up.error - before.assembly.stack_up.error
        assert moved == pytest.approx(
            0.5
        ) and shimmed.assembly.stack_up.ear_z - before.assembly.stack_up.ear_z == pytest.approx(0.5)
        assert shimmed.finding("axial-offset").value == pytest.approx(abs(before.assembly.stack_up.error + 0.5) + 0.1)
        grips = {p.feature: p.joint.grip for p in shimmed.assembly.joints}
        assert grips["ear-bolt-1"] - grips["ear-bolt-0"] == pytest.approx(0.2)
    assert plain.assembly.stack_up.ears_on_far_face
    with pytest.raises(JobError, match="ear_shims_mm"):
        validate_vehicle(vehicle_of(with_edits(good, (("fit.ear_shims_mm", ((0.4,),)),))))

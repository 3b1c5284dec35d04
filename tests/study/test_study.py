"""The open job: edits, undo, groups, saving, recovery, recent files, what to do next."""

import os
import stat
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bicentra.core.base.errors import ChangedOnDiskError, JobError, JobFileError, StoreError
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.parts.corners import job_of, vehicle_of
from bicentra.core.parts.edits import get_value, with_value
from bicentra.core.parts.job import Job
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.vehicle import Vehicle
from bicentra.study.document import recovery, store
from bicentra.study.document import study as document
from bicentra.study.document.cover import own_corner
from bicentra.study.document.diff import differing
from bicentra.study.document.next_step import next_step
from bicentra.study.document.starting import demo_job, demo_vehicle, empty_job
from bicentra.study.document.study import Study


def test_every_edit_is_one_step_to_undo(demo: Job) -> None:
    """Edit, undo, redo: the very same jobs come back, each step has a name."""
    study = Study(demo)
    study.edit("Turn", (("fit.clock_deg", 190.0),))
    study.edit("Lift", (("fit.pad_inset_mm", 0.5),))
    assert study.history == ("Turn", "Lift") and study.modified
    study.undo()
    assert (study.job.fit.clock_deg, study.job.fit.pad_inset_mm, study.redo_label) == (190.0, 1.0, "Lift")
    study.undo()
    assert study.job == demo and not study.modified
    study.redo()
    study.redo()
    assert study.job.fit.pad_inset_mm == 0.5 and study.solution.line.tip_gap == pytest.approx(3.0)


def test_a_drag_is_one_step_and_can_be_called_off(demo: Job) -> None:
    """Steps of one group grow together until it is closed; cancelling leaves no trace."""
    study = Study(demo)
    for clock in (181.0, 182.0, 183.0):
        study.edit("Turn", (("fit.clock_deg", clock),), "drag")
    study.end_group()
    study.edit("Turn", (("fit.clock_deg", 150.0),), "drag")
    study.cancel_group("drag")
    assert study.history == ("Turn",) and study.job.fit.clock_deg == 183.0
    study.undo()
    assert study.job == demo


def test_a_refused_edit_leaves_the_job_alone(demo: Job) -> None:
    """A swept band wider than the rotor is refused with its path; nothing has changed."""
    study = Study(demo)
    calls: list[int] = []
    study.changed.append(lambda: calls.append(1))
    with pytest.raises(JobError, match="swept_inner"):
        study.edit("x", (("rotor.swept_inner_diameter_mm", 300.0),))
    with pytest.raises(KeyError):
        study.edit("x", (("rotor.no_such_thing", 1.0),))
    assert study.job == demo and not study.history and not calls


def test_an_edit_that_changes_nothing_is_no_step(demo: Job) -> None:
    """Setting a value to itself is not history."""
    study = Study(demo)
    study.edit("Turn", (("fit.clock_deg", 184.0),))
    assert study.history == ()


@given(
    st.lists(
        st.tuples(st.sampled_from(["fit.clock_deg", "fit.pad_inset_mm", "bracket.wall_mm"]), st.floats(1, 12)),
        max_size=12,
    )
)
def test_undoing_everything_gives_the_first_job(edits: list[tuple[str, float]]) -> None:
    """Whatever was done, undo to the end is the beginning, redo to the end is the end."""
    study = Study(demo_job())
    for path, value in edits:
        study.edit(path, ((path, value),))
    last, steps = study.job, len(study.history)
    for _ in range(steps):
        study.undo()
    assert study.job == demo_job()
    for _ in range(steps):
        study.redo()
    assert study.job == last


@pytest.mark.parametrize(
    "path", ["rotor.diameter_mm", "knuckle.lugs[1].x_mm", "wheel.centre_thickness_mm", "bracket.stock_mm"]
)
def test_paths_reach_every_value(demo: Job, path: str) -> None:
    """Set and get agree, and the original is untouched."""
    value = (8.0, 9.0) if "stock" in path else 17.25
    assert get_value(with_value(demo, path, value), path) == value
    assert demo == demo_job()


@pytest.mark.parametrize("path", ["knuckle.lugs[9].x_mm", "rotor.x", "title.y", "knuckle.lugs.x", "bracket[0]"])
def test_wrong_paths_are_errors(demo: Job, path: str) -> None:
    """A path that leads nowhere raises, for reading and for writing."""
    with pytest.raises(KeyError):
        get_value(demo, path)
    with pytest.raises(KeyError):
        with_value(demo, path, 1.0)


def test_saving_is_whole_or_not_at_all(demo: Job, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A failure at any point of the write leaves the old file and no litter."""
    path = tmp_path / "a.bicentra.json"
    store.save(vehicle_of(demo), path)
    before = path.read_bytes()
    for name in ("fsync", "replace"):
        with monkeypatch.context() as broken:
            broken.setattr(os, name, lambda *_: (_ for _ in ()).throw(OSError(28, "No space left on device")))
            with pytest.raises(StoreError, match="No space left"):
                store.save(vehicle_of(replace(demo, title="other")), path)
        assert path.read_bytes() == before
    assert [p.name for p in tmp_path.iterdir()] == ["a.bicentra.json"]


def test_saving_follows_links_and_keeps_rights(demo: Job, tmp_path: Path) -> None:
    """The file behind a link is renewed; its permissions stay."""
    path, link = tmp_path / "a.bicentra.json", tmp_path / "link.bicentra.json"
    store.save(vehicle_of(demo), path)
    path.chmod(0o640)
    link.symlink_to(path)
    store.save(vehicle_of(replace(demo, title="new")), link)
    assert link.is_symlink() and store.load(path).title == "new"
    assert path.stat().st_mode & 0o777 == 0o640


def test_a_folder_that_is_not_there(demo: Job, tmp_path: Path) -> None:
    """The error says what to do; the study stays modified."""
    study = Study(demo)
    study.edit("x", (("fit.clock_deg", 1.0),))
    with pytest.raises(StoreError, match="save it under another name"):
        study.save(tmp_path / "no" / "where.bicentra.json")
    with pytest.raises(StoreError, match="no file yet"):
        study.save()
    assert study.modified and study.path is None
    study.save(tmp_path / "here.bicentra.json")
    assert not study.modified and study.path is not None


def test_unsaved_work_is_found_again(demo: Job, tmp_path: Path) -> None:
    """A copy left behind brings back job, file and date; one of a window that is still open is nobody else's to offer."""
    folder, path = tmp_path / "state", tmp_path / "a\udcff.bicentra.json"
    folder.mkdir()
    changed, keeper = replace(demo, title="not saved"), recovery.Keeper(folder)
    keeper.keep(vehicle_of(changed), path)
    (folder / "recovery-broken.json").write_text("{")
    assert recovery.find_recoveries(folder) == (), "its window is still open"
    keeper.close()
    (found,) = recovery.find_recoveries(folder)
    assert (job_of(found.vehicle), found.path) == (changed, path) and found.kept.startswith("20")
    again = recovery.Keeper(folder)
    again.take_up(found)
    again.keep(vehicle_of(changed), path)
    assert found.copy.exists(), "until a save holds it"
    again.saved()
    again.close()
    assert recovery.find_recoveries(folder) == () and not found.copy.exists()


def test_only_what_is_named_is_given_up(demo: Job, tmp_path: Path) -> None:
    """Leaving one job deleted the copies of every untitled one; *Give up* deleted that of a living window."""
    one, other = recovery.Keeper(tmp_path), recovery.Keeper(tmp_path)
    one.keep(vehicle_of(replace(demo, title="one")), None)
    other.keep(vehicle_of(replace(demo, title="other")), None)
    one.given_up()
    one.close()
    other.close()
    (left,) = recovery.find_recoveries(tmp_path)
    assert left.vehicle.title == "other"
    recovery.give_up(left)
    assert recovery.find_recoveries(tmp_path) == ()


def test_a_file_changed_by_somebody_else_is_not_written_over(demo: Job, tmp_path: Path) -> None:
    """It was overwritten without a word; now only when that is said. A file opened twice is told of."""
    path = tmp_path / "a.bicentra.json"
    store.save(vehicle_of(demo), path)
    study, second = Study(store.load(path), path), Study(store.load(path), path)
    assert second.shared and not study.shared
    study.edit("x", (("title", "here"),))
    store.save(vehicle_of(replace(demo, title="there")), path)
    with pytest.raises(ChangedOnDiskError):
        study.save()
    assert store.load(path).title == "there" and study.modified
    study.save(over=True)
    assert store.load(path).title == "here" and not study.modified
    study.edit("y", (("title", "again"),))
    study.save()
    study.close()
    assert not Study(store.load(path), path).shared


@pytest.mark.parametrize("name", ["x" * 236 + ".bicentra.json", "caf\udce9.bicentra.json", "a\nb.bicentra.json"])
def test_names_of_any_kind_can_be_saved_to(demo: Job, tmp_path: Path, name: str) -> None:
    """A name of 250 bytes, one that is no UTF-8, one with a line in it: saved, remembered or let go, never a traceback."""
    store.save(vehicle_of(demo), tmp_path / name)
    assert store.load(tmp_path / name).title == demo.title
    store.remember_file(tmp_path / name, tmp_path)
    study = Study(demo, tmp_path / name)
    study.edit("x", (("title", "y"),))
    study.keeper.keep(study.vehicle, study.path)
    study.save()
    assert store.shown(tmp_path / name)


def test_what_is_no_file_is_never_written_over(demo: Job, tmp_path: Path) -> None:
    """A pipe, a device, a folder: one clear line. A file name that is too long: the same."""
    os.mkfifo(tmp_path / "pipe")
    for path in (tmp_path / "pipe", Path("/dev/null"), tmp_path):
        with pytest.raises(StoreError, match="no ordinary file"):
            store.save(vehicle_of(demo), path)
    with pytest.raises(StoreError):
        store.save(vehicle_of(demo), tmp_path / ("x" * 300))
    with pytest.raises(JobFileError):
        store.load(tmp_path / "pipe")
    assert stat.S_ISFIFO((tmp_path / "pipe").stat().st_mode)


def test_a_state_folder_that_cannot_be_used(demo: Job, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A file in its place: copies say so in one line, the job opens and saves all the same."""
    (tmp_path / "state").write_text("")
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
    assert recovery.find_recoveries() == () and store.recent_files() == ()
    study = Study(demo)
    study.edit("x", (("title", "y"),))
    with pytest.raises(StoreError, match="unsaved work"):
        study.keeper.keep(study.vehicle, None)
    study.save(tmp_path / "a.bicentra.json")
    store.remember_file(tmp_path / "a.bicentra.json")


def test_half_written_files_are_swept(tmp_path: Path) -> None:
    """What a writer that was killed left behind goes after an hour; what may still be written stays."""
    old, new = tmp_path / ".bicentra-old.tmp", tmp_path / ".bicentra-new.tmp"
    for path in (old, new):
        path.write_text("half")
    os.utime(old, (1.0, 1.0))
    store.sweep_temporaries(tmp_path)
    assert not old.exists() and new.exists()


def test_a_drag_that_comes_back_leaves_no_step_and_keeps_redo(demo: Job) -> None:
    """Escape in a drag lost what could be done again; a pull to and fro left a step that did nothing."""
    study = Study(demo)
    study.edit("x", (("title", "y"),))
    study.undo()
    for finish in (lambda: study.cancel_group("drag"), study.end_group):
        study.edit("Turn", (("fit.clock_deg", 150.0),), "drag", quick=True)
        study.edit("Turn", (("fit.clock_deg", demo.fit.clock_deg),), "drag", quick=True)
        finish()
        assert study.history == () and study.redo_label == "x" and study.job == demo


def test_recent_files_are_newest_first_and_there(demo: Job, tmp_path: Path) -> None:
    """Files that have gone are not listed; a broken list is an empty one."""
    paths = [tmp_path / f"{k}.bicentra.json" for k in range(11)]
    for path in paths:
        store.save(vehicle_of(demo), path)
        store.remember_file(path, tmp_path)
    paths[10].unlink()
    assert store.recent_files(tmp_path)[0] == paths[9]
    assert len(store.recent_files(tmp_path)) == store.MOST_RECENT - 1
    (tmp_path / "recent.json").write_text("no")
    assert store.recent_files(tmp_path) == ()


def test_the_next_step_leads_to_a_clear_job(demo: Job) -> None:
    """Doing what the program says, again and again, ends with everything met."""
    study = Study(demo)
    for _ in range(6):
        step = next_step(study.solution)
        if step.remedy is None:
            break
        study.edit(step.remedy.action, step.remedy.edits)
    assert "template" in next_step(study.solution).sentence and {v.value for v in study.solution.verdicts} == {"ok"}
    early = own_corner(study)  # before anything is doubted nobody is sent to paper
    assert (
        not study.doubted and "template" not in early.step and "so far" in early.step and early.text == "all OK so far"
    )
    study.assess()
    assert study.doubted and "so far" not in own_corner(study).text + own_corner(study).step


def test_the_next_step_of_an_empty_job_asks_for_a_measurement() -> None:
    """Nothing measured: the sentence names what is needed."""
    assert "needs" in next_step(solve(empty_job())).sentence


def test_a_quick_drag_ends_with_the_full_answer(good: Job) -> None:
    """Turns that would cure a stop come with the assessment, off the thread that paints; verdicts are the same before."""
    study = Study(good)
    study.edit("Turn", (("fit.clock_deg", 150.0),), "drag", quick=True)
    pulled = study.solution.finding("bolt-head-room")
    study.end_group()
    assert study.solution.finding("bolt-head-room") == pulled
    study.assess()
    settled = study.solution.finding("bolt-head-room")
    assert (pulled.verdict, pulled.value) == (settled.verdict, settled.value) and pulled.verdict.value == "stop"
    assert not pulled.remedies and settled.remedies


def test_a_fault_at_the_end_of_a_drag_takes_the_drag_back(good: Job, monkeypatch: pytest.MonkeyPatch) -> None:
    """What was not looked at while it was pulled fails when it is let go: the job is as before the drag, earlier steps stay."""
    study = Study(good)
    study.edit("Inset", (("fit.pad_inset_mm", 1.5),))
    before, whole = study.job, document.solved_corner
    study.edit("Turn", (("fit.clock_deg", 170.0),), "drag", quick=True)

    def failing(job: Job) -> Solution:
        if job.fit.clock_deg == 170.0:
            raise RuntimeError("a fault of ours")
        return whole(job)

    monkeypatch.setattr(document, "solved_corner", failing)
    with pytest.raises(RuntimeError):
        study.end_group()
    assert study.job == before and study.history == ("Inset",) and study.solution.job is study.job


def test_findings_added_twice_do_not_stand_in_for_each_other(good: Job) -> None:
    """Two solutions made of one with other findings besides each keep their own."""
    plain = solve(good, turns=False)
    kept = tuple(replace(plain.findings[0], id="survey-used", why=why) for why in ("one", "other"))
    one, other = (plain.with_more((finding,)) for finding in kept)
    assert one.finding("survey-used").why == "one" and other.finding("survey-used").why == "other"


def test_what_would_be_lost_is_named(tmp_path: Path) -> None:
    """By the names of what differs from the file; from nothing where there is no file, or it cannot be read; which corner is looked at is no work."""
    path = tmp_path / "j.bicentra.json"
    store.save(demo_vehicle(), path)
    axle = demo_vehicle().axles["front"]
    changed = replace(
        demo_vehicle(),
        notes="other",
        corner="front-left",
        axles={**demo_vehicle().axles, "front": replace(axle, rotor=Rotor())},
    )
    found = recovery.Recovery(tmp_path / "copy", changed, path, "")
    assert recovery.lost_with(found) == "notes, rotor of the front axle"
    assert recovery.lost_with(recovery.Recovery(tmp_path / "copy", demo_vehicle(), path, "")) == ""
    assert "survey of front right" in ", ".join(differing(Vehicle(), demo_vehicle()))
    path.write_text("{")
    assert "title" in recovery.lost_with(found) and "more" in recovery.lost_with(found)

"""The command line, as other programs rely on it."""

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

from bicentra.cli import main
from bicentra.core.parts.corners import vehicle_of
from bicentra.core.parts.job import Job
from bicentra.data import data_path
from bicentra.study.document.store import save

LINEUP_KEYS = {
    "rotor_midplane_z_mm", "hat_outer_z_mm", "pad_top_radius_mm", "ear_line_radius_mm", "ear_face_z_mm", "axial_offset_mm", "ears",
    "tip_gap_mm", "slot_gap_each_side_mm", "min_ligament_mm", "effective_radius_mm", "track_change_mm", "pad_area_off_rotor_mm2",
}  # fmt: skip


def test_check_prints_the_object_of_the_contract(demo_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Exit 1 with stops; every name of the contract is there, numbers as worked by hand."""
    assert main(["check", str(demo_path), "--json"]) == 1
    said = json.loads(capsys.readouterr().out)
    assert set(said["lineup"]) >= LINEUP_KEYS
    assert said["lineup"]["axial_offset_mm"] == pytest.approx([10.2, 10.2])
    assert said["lineup"]["ears"][0]["z_mm"] == pytest.approx(-63.5)
    assert said["lineup"]["rotor_midplane_z_mm"] == pytest.approx(-27.5)
    assert said["bracket"]["feasible"] is True and said["bracket"]["thickness_mm"] == 12.0
    finding = next(f for f in said["findings"] if f["id"] == "axial-offset")
    assert finding["verdict"] == "stop" and finding["value"] == pytest.approx(1.8)
    assert {"action", "amount_mm", "reversible"} <= set(finding["remedies"][0])


def test_check_of_a_good_job_exits_zero(good: Job, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """No stop: exit 0, and plain lines for people."""
    save(vehicle_of(good), tmp_path / "g.bicentra.json")
    assert main(["check", str(tmp_path / "g.bicentra.json")]) == 0
    assert "met" in capsys.readouterr().out


def test_unknown_is_null_not_nan(good: Job, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """What is unknown is null in the object, and the finding says unknown."""
    from bicentra.core.parts.edits import with_value

    save(vehicle_of(with_value(good, "rotor.overall_height_mm", None)), tmp_path / "u.bicentra.json")
    main(["check", str(tmp_path / "u.bicentra.json"), "--json"])
    text = capsys.readouterr().out
    said = json.loads(text)
    assert said["lineup"]["rotor_midplane_z_mm"] is None and "NaN" not in text
    assert next(f for f in said["findings"] if f["id"] == "axial-offset")["verdict"] == "unknown"


@pytest.mark.parametrize("arguments", [["check"], ["check", "--json"], ["export", "--dxf", "out.dxf"]])
def test_an_unusable_file_gets_one_line_and_exit_two(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], arguments: list[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    """One line on standard error, no traceback, nothing written."""
    monkeypatch.chdir(tmp_path)
    Path("bad.json").write_text('{"format": "bicentra.job", "version": 1, "knuckle": {"lugs": 3}}')
    assert main([arguments[0], "bad.json", *arguments[1:]]) == 2
    said = capsys.readouterr()
    assert said.out == "" and said.err.count("\n") == 1
    assert "bad.json" in said.err and "knuckle.lugs" in said.err
    assert os.listdir(tmp_path) == ["bad.json"]


def test_export_writes_any_subset(demo_path: Path, tmp_path: Path) -> None:
    """Each paper goes where it was asked; none without a name; never to a terminal."""
    names = {kind: str(tmp_path / f"p.{kind}") for kind in ("dxf", "svg", "pdf", "csv")}
    assert main(["export", str(demo_path), "--dxf", names["dxf"], "--csv", names["csv"]]) == 0
    assert sorted(os.listdir(tmp_path)) == ["p.csv", "p.dxf"]
    assert main(["export", str(demo_path), "--svg", names["svg"], "--pdf", names["pdf"]]) == 0
    assert main(["export", str(demo_path)]) == 2
    assert main(["export", str(demo_path), "--pdf", "-"]) == 2
    assert main(["export", str(demo_path), "--pdf", str(tmp_path / "no" / "p.pdf")]) == 2


def test_export_without_a_plate_is_refused(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """An unmeasured job has nothing to cut: exit 2 and a reason."""
    from bicentra.study.document.starting import empty_job

    save(vehicle_of(empty_job()), tmp_path / "e.bicentra.json")
    assert main(["export", str(tmp_path / "e.bicentra.json"), "--dxf", str(tmp_path / "e.dxf")]) == 2
    assert "plate" in capsys.readouterr().err
    assert not (tmp_path / "e.dxf").exists()


def test_schema_is_printed_as_json(capsys: pytest.CaptureFixture[str]) -> None:
    """A JSON Schema with the job's keys."""
    assert main(["schema"]) == 0
    assert "$defs" in json.loads(capsys.readouterr().out)


def test_the_installed_command_runs(demo_path: Path) -> None:
    """The program as a program: exit codes reach the shell, and checking loads no Qt."""
    code = "import sys; from bicentra.cli import main; c = main(sys.argv[1:]); assert not any('PySide' in m for m in sys.modules); sys.exit(c)"
    done = subprocess.run(
        [sys.executable, "-c", code, "check", str(demo_path)], capture_output=True, text=True, check=False
    )
    assert done.returncode == 1, done.stderr
    command = Path(sys.executable).with_name("bicentra")
    assert subprocess.run([str(command), "--version"], capture_output=True, check=False).returncode == 0


def test_no_display_is_said_in_one_line(capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch) -> None:
    """Without anything to show a window on the program says so instead of aborting."""
    for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"):
        monkeypatch.delenv(name, raising=False)
    assert main(["--demo"]) == 2
    assert "no display" in capsys.readouterr().err


def test_search_prints_the_object_of_the_contract(
    demo_path: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Best sets first, each as the contract has it; a set that is met is met by check too, once it is in the job."""
    library = data_path("library")
    for name in ("rotor-02", "rotor-03", "caliper-02", "caliper-04", "caliper-09"):
        (tmp_path / f"{name}.part.json").write_bytes((library / f"{name}.part.json").read_bytes())
    assert main(["search", str(demo_path), "--library", str(tmp_path), "--json", "--top", "5"]) == 0
    said = json.loads(capsys.readouterr().out)
    assert said["combinations"] == 2 * 3 * 3 * 2 * 360 and said["seconds"] > 0 and len(said["sets"]) == 5
    ranks = [["ok", "caution", "unknown", "stop"].index(s["verdict"]) for s in said["sets"]]
    assert ranks == sorted(ranks)
    keys = {"rotor", "caliper", "clock_deg", "rotor_spacer_mm", "side", "verdict", "score"}
    assert all(set(s) >= keys for s in said["sets"])
    stopped = [s for s in said["sets"] if s["verdict"] == "stop"]
    assert stopped and all(not s["by_play"] and (s["short_mm"] is None or s["short_mm"] > 0.0) for s in stopped)
    assert (
        main(
            ["search", str(demo_path), "--library", str(tmp_path), "--top", "2", "--plates", "0", "--sides", "outboard"]
        )
        == 0
    )
    text = capsys.readouterr().out
    assert "combinations looked at" in text and ", short by " in text


@pytest.mark.parametrize(
    "words",
    [["--library", "/nowhere"], ["--top", "0"], ["--plates", "3,thick"], ["--plates", "-1"], ["--wheel", "None such"]],
)
def test_a_search_that_cannot_be_gets_one_line(
    demo_path: Path, capsys: pytest.CaptureFixture[str], words: list[str]
) -> None:
    """Folder, number, plate or wheel that is no use: one line with found and expected, exit 2, nothing searched."""
    assert main(["search", str(demo_path), *words]) == 2
    said = capsys.readouterr()
    assert said.out == "" and said.err.count("\n") == 1 and words[0] in said.err


def test_a_finding_has_the_same_keys_everywhere(capsys: pytest.CaptureFixture[str]) -> None:
    """Whoever reads one command's findings reads those of all."""
    demo, train = (
        str(data_path("demo", "float.bicentra.json")),
        ("--from-kmh", "40", "--stops", "10", "--every-s", "60"),
    )
    keys = set()
    for command, more in (("check", ()), ("bracket", ()), ("shims", ()), ("pedal", ()), ("heat", train)):
        main([command, demo, *more, "--json"])
        read = json.loads(capsys.readouterr().out)
        found = read["families"][0]["findings"] if command == "bracket" else read["findings"]
        keys |= {tuple(sorted(finding)) for finding in found}
    assert len(keys) == 1 and {"id", "verdict", "value", "limit", "why", "remedies"} <= set(*keys)

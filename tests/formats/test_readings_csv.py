"""Readings in and out of tables, and the report of the survey command."""

import json
from pathlib import Path

import pytest

from bicentra.cli import main
from bicentra.core.base.errors import JobFileError, ReadingsError
from bicentra.core.base.records import replace
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import Survey
from bicentra.formats.job_json import parse_job, write_job
from bicentra.formats.readings_csv import read_csv, readings_csv
from bicentra.formats.schema import job_schema
from bicentra.study.desks.readings_text import export_readings, import_readings


@pytest.mark.parametrize("corner", ["front-right", "front-left"])
def test_a_table_read_back_is_the_survey(demo: Job, corner: str, tmp_path: Path) -> None:
    """Every reading survives the way out and back; taking the same table in twice adds nothing."""
    survey = demo.survey[corner]
    export_readings(tmp_path / "r.csv", survey)
    back, added = import_readings(tmp_path / "r.csv", Survey())
    assert added > 30 and replace(back, parts=()) == replace(survey, parts=())
    again, more = read_csv(readings_csv(survey), "again.csv", survey)
    assert more == 0 and again == survey


def test_inches_semicolons_and_new_features_are_taken() -> None:
    """A foreign table: semicolons, decimal commas, inches, features nobody has named before."""
    data = "\ufeffkind;from;to;sense;value;unit\r\ndistance;pilot;upper;near-near;1,5;in\r\n;;;;;\r\ndirection;pilot;upper;;145,5;deg\r\n".encode()
    survey, added = read_csv(data, "x.csv", Survey())
    assert (
        added == 2 and survey.distances[0].value_mm == pytest.approx(38.1) and survey.directions[0].clock_deg == 145.5
    )
    assert [f.name for f in survey.features] == ["pilot", "upper"]


@pytest.mark.parametrize(
    ("text", "row", "column"),
    [
        ("from,to\na,b\n", 1, "kind"),
        ("kind,from,to,value\ndistance,a,b,ten\n", 2, "value"),
        ("kind,from,to,value\ndistance,a,b,\n", 2, "value"),
        ("kind,from,to,value,unit\ndistance,a,b,3,feet\n", 2, "unit"),
        ("kind,from,to,value,sense\ndistance,a,b,3,sideways\n", 2, "sense"),
        ("kind,from,to,value\nweight,a,b,3\n", 2, "kind"),
        ("kind,from,to,value\ndistance,,b,3\n", 2, "from"),
        ("kind,from,value,instrument\ndiameter,a,3,laser\n", 2, "instrument"),
        ("kind,from,at_deg,value\nsweep,wheel,0,0.1\n", 2, "from"),
        ("kind,from,to,value\ndistance,a,b,inf\n", 2, "value"),
    ],
)
def test_a_wrong_cell_is_named(text: str, row: int, column: str) -> None:
    """File, row and column, what was found and what was expected; nothing is taken."""
    with pytest.raises(ReadingsError, match=r"found .*; expected ") as caught:
        read_csv(text.encode(), "bad.csv", Survey())
    assert (caught.value.row, caught.value.column) == (row, column) and str(caught.value).startswith("bad.csv")


@pytest.mark.parametrize("data", [b"\xff\xfe\x00k", b""])
def test_no_table_at_all(data: bytes) -> None:
    """Bytes that are no table are refused in one line."""
    with pytest.raises(ReadingsError):
        read_csv(data, "bad.csv", Survey())


def survey_file(tmp_path: Path, survey: dict[str, object]) -> Path:
    """A job file as another program would write it, by the contract."""
    job = {"format": "bicentra.job", "version": 1, "hub": {"stud_count": 4}, "survey": {"front-right": survey},
           "knuckle": {"lugs": [{"name": "upper"}, {"name": "lower"}]}}  # fmt: skip
    path = tmp_path / "s.bicentra.json"
    path.write_text(json.dumps(job))
    return path


CONTRACT = {
    "features": [{"name": "pilot", "diameter_mm": 57, "axis": True}, {"name": "upper", "diameter_mm": 10.5},
                 {"name": "lower", "diameter_mm": 10.5}],
    "distances": [{"from": "pilot", "to": "upper", "sense": "near-near", "value_mm": 41.14, "instrument": "digital-caliper", "sd_mm": None},
                  {"from": "pilot", "to": "lower", "sense": "far-far", "value_mm": 106.47, "instrument": "vernier", "sd_mm": 0.05},
                  {"from": "upper", "to": "lower", "sense": "near-near", "value_mm": 69.5, "instrument": "digital-caliper", "sd_mm": None}],
    "directions": [{"from": "pilot", "to": "upper", "clock_deg": 145.9, "sd_deg": 0.2},
                   {"from": "pilot", "to": "lower", "clock_deg": 211.5, "sd_deg": 0.2}],
    "straightedge_thickness_mm": 9.5,
    "faces": [{"feature": "upper", "spots": [{"at_deg": a, "radius_mm": 10, "depth_mm": 83.2} for a in (0, 120, 240)], "sd_mm": None}],
    "sweeps": [{"on": "hub-face", "radius_mm": 60, "readings": [{"at_deg": 45 * k, "value_mm": 0.01 * (k % 2)} for k in range(8)]},
               {"on": "rotor-face", "radius_mm": 120, "readings": [{"at_deg": 45 * k, "value_mm": 0.02} for k in range(8)]}],
}  # fmt: skip


def test_the_survey_command_keeps_its_contract(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Keys, orders and sizes of ``survey --json``, from a file written by the contract alone."""
    assert main(["survey", str(survey_file(tmp_path, CONTRACT)), "--json"]) == 0
    corner = json.loads(capsys.readouterr().out)["front-right"]
    assert [p["name"] for p in corner["points"]] == ["upper", "lower"]
    assert corner["points"][0]["x_mm"] == pytest.approx(-62, abs=0.2) and corner["points"][0]["sd_x_mm"] > 0
    assert len(corner["covariance_mm2"]) == 4 and corner["covariance_mm2"][0][0] == pytest.approx(
        corner["points"][0]["sd_x_mm"] ** 2
    )
    assert corner["chi_square"]["dof"] == 1 and corner["chi_square"]["passed"] in (True, False)
    assert {(r["list"], r["index"]) for r in corner["readings"]} >= {
        ("distances", 0),
        ("distances", 2),
        ("directions", 1),
    }
    assert sum(r["redundancy"] for r in corner["readings"]) == pytest.approx(1.0)
    for key in ("residual_mm", "normalised", "redundancy", "suspect", "detectable_mm"):
        assert all(key in r for r in corner["readings"])
    assert corner["faces"][0]["z_mm"] == pytest.approx(-73.7) and corner["faces"][0]["tilt_deg"] == pytest.approx(
        0, abs=1e-9
    )
    assert corner["sweeps"][0]["tir_mm"] == pytest.approx(0.01) and len(corner["index"]) == 4
    assert corner["next"] and all(isinstance(line, str) for line in corner["next"])
    assert main(["survey", str(survey_file(tmp_path, CONTRACT))]) == 0
    assert "upper" in capsys.readouterr().out


@pytest.mark.parametrize("survey", [{}, {"features": [{"name": "pilot", "axis": True}]}, {k: CONTRACT[k] for k in ("features", "sweeps")},
                                    {**CONTRACT, "directions": []}, {"features": [{"name": "a"}, {"name": "b"}]}])  # fmt: skip
def test_half_a_survey_is_reported_with_nulls(
    survey: dict[str, object], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Nothing measured, half measured, not turned: null where nothing is known, advice always."""
    assert main(["survey", str(survey_file(tmp_path, survey)), "--json"]) == 0
    corner = json.loads(capsys.readouterr().out)["front-right"]
    assert corner["next"]
    assert all(p["x_mm"] is None for p in corner["points"])
    assert main(["survey", str(survey_file(tmp_path, survey))]) == 0
    assert main(["check", str(survey_file(tmp_path, survey))]) in (0, 1)


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"distances": [{"from": "pilot", "to": "nowhere", "value_mm": 3}]}, "survey.front-right.distances[0].to"),
        ({"distances": [{"from": "pilot", "to": "pilot", "value_mm": 3}]}, "survey.front-right.distances[0].to"),
        ({"features": [{"name": "a"}, {"name": "a"}]}, "survey.front-right.features[1].name"),
        (
            {"features": [{"name": "a", "axis": True}, {"name": "b", "axis": True}]},
            "survey.front-right.features[1].axis",
        ),
        ({"distances": [{"from": "pilot", "to": "upper", "value_mm": -3}]}, "survey.front-right.distances[0].value_mm"),
        ({"distances": [{"from": "pilot", "to": "upper", "sense": "odd"}]}, "survey.front-right.distances[0].sense"),
        ({"directions": [{"from": "pilot", "to": "pilot", "clock_deg": 3}]}, "survey.front-right.directions[0].to"),
        ({"instruments": {"laser": 0.1}}, "survey.front-right.instruments"),
        ({"distances": [{"from": "pilot", "to": "upper", "sd_mm": 0}]}, "survey.front-right.distances[0].sd_mm"),
        ({"distances": [{"from": 3, "to": "upper"}]}, "survey"),
    ],
)
def test_a_survey_that_cannot_be_is_refused(change: dict[str, object], path: str, tmp_path: Path) -> None:
    """One line with the key path as it stands in the file."""
    data = survey_file(tmp_path, {"features": CONTRACT["features"], **change}).read_bytes()
    with pytest.raises(JobFileError) as caught:
        parse_job(data, "x")
    assert caught.value.path.startswith(path)


def test_the_file_stays_short_and_whole(demo: Job) -> None:
    """Defaults are left out, unknown keys of a reading are kept, the schema knows the readings by their file names."""
    data = json.loads(write_job(demo))
    reading = data["corners"]["front-right"]["survey"]["distances"][0]
    assert set(reading) == {"from", "to", "value_mm", "by", "taken"}
    reading["mood"] = "cold hands"
    again = json.loads(write_job(parse_job(json.dumps(data).encode(), "x")))
    assert again["corners"]["front-right"]["survey"]["distances"][0]["mood"] == "cold hands"
    properties = job_schema()["$defs"]["Distance"]["properties"]
    assert "from" in properties and "from_" not in properties and properties["sense"]["enum"][0] == "near-near"

"""The job file: bad ones are refused with one clear line, good ones come back whole."""

import json
import math
from pathlib import Path

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bicentra.core.base.errors import JobError, JobFileError
from bicentra.core.base.records import replace
from bicentra.core.parts.corners import job_of, with_job
from bicentra.core.parts.job import Job
from bicentra.formats.job_json import parse_job, parse_vehicle, read_job, write_job, write_vehicle
from bicentra.formats.schema import job_schema
from bicentra.study.document.starting import demo_job, demo_vehicle
from bicentra.study.document.study import Study


def raw(path: Path) -> dict:
    """The demo as plain JSON."""
    return json.loads(path.read_text())


def put(data: dict, path: str, value: object) -> dict:
    """Set one value in plain JSON."""
    here = data
    steps = [int(s) if s.isdigit() else s for s in path.split(".")]
    for step in steps[:-1]:
        here = here[step]
    here[steps[-1]] = value
    return data


BAD = [
    ("rotor.diameter_mm", "256", "rotor.diameter_mm", "a number"),
    ("rotor.diameter_mm", -1, "rotor.diameter_mm", "above 0"),
    ("rotor.diameter_mm", True, "rotor.diameter_mm", "a number"),
    ("rotor.diameter_mm", 1e9, "rotor.diameter_mm", "at most"),
    ("rotor.swept_inner_diameter_mm", 256, "rotor.swept_inner_diameter_mm", "less than the rotor diameter"),
    ("rotor.thickness_mm", 23, "rotor.thickness_mm", "slot width"),
    ("rotor.min_thickness_mm", 21, "rotor.min_thickness_mm", "new thickness"),
    ("caliper.pad_height_mm", 130, "caliper.pad_height_mm", "radius"),
    ("knuckle.lugs", "two", "knuckle.lugs", "a list"),
    ("knuckle.lugs.1", {"x_mm": -62.0, "y_mm": 42.3}, "knuckle.lugs[1]", "mm apart"),
    ("knuckle.lugs.0.thread", "M13x1", "knuckle.lugs[0].thread", "a thread"),
    ("hub.stud_thread", "banana", "hub.stud_thread", "a thread"),
    ("knuckle.lugs.0.seat", "sideways", "knuckle.lugs[0].seat", "outboard, inboard"),
    (
        "knuckle.obstacles.0.outline_mm",
        [[0, 0], [10, 10], [10, 0], [0, 10]],
        "knuckle.obstacles[0].outline_mm",
        "in order",
    ),
    ("knuckle.obstacles.0.outline_mm", [[0, 0], [1, 1]], "knuckle.obstacles[0].outline_mm", "3 to"),
    ("knuckle.obstacles.0.outline_mm", [[0, 0], [1, 1], [0]], "knuckle.obstacles[0].outline_mm[2]", ""),
    ("knuckle.obstacles.0.z_min_mm", 50, "knuckle.obstacles[0].z_min_mm", "z_max_mm"),
    ("corner", "middle", "corner", "front-right"),
    ("hub", 3, "hub", "an object"),
    ("hub.stud_count", 4.5, "hub.stud_count", "whole number"),
    ("hub.mounting", "glued", "hub.mounting", "over-hub"),
    ("version", 99, "version", "newer"),
    ("version", "1", "version", "1"),
    ("format", "other", "format", "bicentra.job"),
    ("limits", {"tip-gap": "big"}, "limits", "a number"),
    ("bracket.shims_mm", [1.0], "bracket.shims_mm", "one for each"),
    ("bracket.stock_mm", [], "bracket.stock_mm", "at least one"),
    ("fit.clock_deg", 1e6, "fit.clock_deg", "at most"),
]


@pytest.mark.parametrize(("path", "value", "where", "expected"), BAD, ids=lambda v: str(v)[:30])
def test_bad_values_are_refused(
    old_path: Path, tmp_path: Path, path: str, value: object, where: str, expected: str
) -> None:
    """The message is one line: file, key path, what was found, what was expected."""
    file = tmp_path / "bad.bicentra.json"
    file.write_text(json.dumps(put(raw(old_path), path, value)))
    with pytest.raises(JobFileError) as caught:
        read_job(file)
    message = str(caught.value)
    assert message.startswith(f"{file}: {where}") and "found" in message and expected in message
    assert "\n" not in message


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"{",
        b"[1, 2]",
        b'"text"',
        b"\xff\xfe{}",
        b'{"format": NaN}',
        b"null",
        b'{"format": "bicentra.job", "version": 0}',
        b"{" * 5000,
        b'{"a": "' + b"\\" * 9,
        b"[" * 70 + b"]" * 70,
    ],
    ids=lambda d: repr(d[:20]),
)
def test_no_json_no_job(data: bytes) -> None:
    """Anything that is not a job is refused, never a crash."""
    with pytest.raises(JobFileError):
        parse_job(data, "x.json")


@pytest.mark.parametrize("token", ["NaN", "Infinity", "-Infinity", "1e999"])
def test_numbers_that_are_none(demo_path: Path, token: str) -> None:
    """Non-finite numbers are refused however they are written."""
    text = demo_path.read_text().replace('"diameter_mm": 256.0', f'"diameter_mm": {token}')
    with pytest.raises(JobFileError):
        parse_job(text.encode(), "x.json")


def test_too_large_or_too_deep_is_refused_unread(tmp_path: Path) -> None:
    """Over 16 MiB or 64 levels: refused before parsing; brackets inside texts do not count."""
    big = tmp_path / "big.bicentra.json"
    big.write_bytes(b" " * (16 * 1024 * 1024 + 1))
    with pytest.raises(JobFileError, match="16 MiB"):
        read_job(big)
    deep = '{"format": "bicentra.job", "x": ' + "[" * 64 + "]" * 64 + "}"
    with pytest.raises(JobFileError, match="64"):
        parse_job(deep.encode(), "deep.json")
    job = replace(demo_job(), notes="[" * 200 + '"{')
    assert parse_job(write_job(job), "x").notes == job.notes


@pytest.mark.parametrize("kind", ["absent", "folder"])
def test_files_that_cannot_be_read(tmp_path: Path, kind: str) -> None:
    """A file that is not there, or a folder, is one clear line too."""
    path = tmp_path / "nothing.json" if kind == "absent" else tmp_path
    with pytest.raises(JobFileError, match="expected a file"):
        read_job(path)


def test_unknown_keys_survive(old_path: Path) -> None:
    """Keys of another time are kept at every level, through a change of something else and from one version to the next."""
    data = raw(old_path)
    data["survey"] = {"front-right": {"features": [{"name": "pilot", "odd": [1, None, {"deep": True}]}]}}
    data["rotor"]["colour"] = "grey"
    data["rotor"]["extra"] = {"kept": 1}
    data["knuckle"]["lugs"][1]["photo"] = "p.png"
    data["weather"] = "rain"
    study = Study(parse_vehicle(json.dumps(data).encode(), "x"))
    study.edit("turn", (("fit.clock_deg", 12.5),))
    again = json.loads(write_vehicle(study.vehicle))
    corner, axle = again["corners"]["front-right"], again["axles"]["front"]
    assert corner["survey"] == data["survey"]["front-right"] and again["weather"] == "rain"
    assert (axle["rotor"]["colour"], axle["rotor"]["extra"]) == ("grey", {"kept": 1})
    assert corner["knuckle"]["lugs"][1]["photo"] == "p.png"
    assert axle["fit"]["clock_deg"] == 12.5


def test_a_byte_order_mark_is_passed_over(demo_path: Path) -> None:
    """Some editors put one in front."""
    assert parse_vehicle(b"\xef\xbb\xbf" + demo_path.read_bytes(), "x") == demo_vehicle()


@given(st.floats(0, 360), st.floats(-3, 3), st.text(max_size=40), st.sampled_from(["mm", "in"]))
def test_files_round_trip(clock: float, inset: float, title: str, units: str) -> None:
    """What is written reads back as the same job, and writes as the same bytes."""
    job = replace(
        demo_job(), title=title, display_units=units, fit=replace(demo_job().fit, clock_deg=clock, pad_inset_mm=inset)
    )
    vehicle = with_job(demo_vehicle(), demo_job(), job)
    data = write_vehicle(vehicle)
    assert parse_vehicle(data, "x") == vehicle and job_of(vehicle) == job
    assert write_vehicle(parse_vehicle(data, "x")) == data


def test_not_a_number_is_never_written(demo: Job) -> None:
    """The JSON library would write null for it; we refuse instead."""
    with pytest.raises(JobError, match="finite"):
        write_job(replace(demo, fit=replace(demo.fit, clock_deg=math.nan)))


def test_schema_tells_what_the_reader_checks() -> None:
    """Every field is described; ranges, choices and the demo's keys are in it."""
    schema = job_schema()
    rotor = schema["$defs"]["Rotor"]["properties"]
    assert rotor["diameter_mm"]["exclusiveMinimum"] == 0.0
    assert set(schema["$defs"]["Hub"]["properties"]["mounting"]["enum"]) >= {"over-hub", "behind-flange"}
    assert all("extra" not in d.get("properties", {}) for d in schema["$defs"].values())
    assert set(msgspec.json.decode(write_vehicle(demo_vehicle()))) <= set(schema["$defs"]["Vehicle"]["properties"])

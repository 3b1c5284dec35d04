"""The library: part files read, refused, kept; guesses hold findings down; the shelf that ships is sound."""

import json
from pathlib import Path

import pytest

from bicentra.core.base.errors import JobFileError, StoreError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.job import Job, Rotor
from bicentra.core.parts.library import KINDS, Part, differences
from bicentra.core.uncertainty.assess import assess
from bicentra.core.uncertainty.doubts import guesses_behind
from bicentra.data import data_path
from bicentra.formats.job_json import parse_job, write_job
from bicentra.formats.part_files import parse_part, write_part
from bicentra.formats.schema import part_schema
from bicentra.study.library.library import keep_part, load_library, own_folder, whole_library


def test_the_shelf_that_ships_is_sound() -> None:
    """Parts of every kind load without a complaint, each with a name of its own, rotors as heavy as their iron."""
    library = load_library(data_path("library"))
    assert library.problems == ()
    assert {kind: len(library.of_kind(kind)) for kind in KINDS} == {
        "rotor": 43, "caliper": 25, "wheel": 12, "hat": 4, "master_cylinder": 8,
        "pad": 6, "fluid": 3, "booster": 3, "valve": 4, "drum": 3, "tyre": 5,
    }  # fmt: skip
    assert len({part.name for part, _ in library.parts}) == 116
    assert any(part.guessed for part, _ in library.parts)
    for part in library.of_kind("rotor"):
        rotor = part.rotor
        if rotor.kind == "ring":
            continue
        assert rotor.hat_inner_diameter_mm < rotor.swept_inner_diameter_mm < rotor.diameter_mm
        ring = 3.1416 / 4 * (rotor.diameter_mm**2 - rotor.swept_inner_diameter_mm**2) * rotor.thickness_mm * 7.2e-6
        assert 0.55 * ring < rotor.mass_kg < 2.2 * ring  # vanes take away, the hat adds, most on the smallest


def test_a_part_file_read_back_is_the_part(good: Job) -> None:
    """Every key survives, unknown ones too; the schema knows the qualities' place."""
    part = Part(rotor=good.rotor, source="bench", price=12.5, quality={"mass_kg": "guessed"})
    data = json.loads(write_part(part))
    data["rotor"]["casting"] = "K7"
    data["shelf"] = 3
    again = parse_part(json.dumps(data).encode(), "x")
    assert json.loads(write_part(again)) == data and again.item.guessed == ("mass_kg",)
    assert part_schema()["$defs"]["Part"]["properties"]["format"] == {"const": "bicentra.part"}


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"format": "bicentra.job"}, "format"),
        ({"version": 2}, "version"),
        ({"rotor": None}, "(part)"),
        ({"caliper": {"name": "c"}}, "(part)"),
        ({"rotor": {"name": ""}}, "rotor.name"),
        ({"rotor": {"name": "r", "diameter_mm": -3}}, "rotor.diameter_mm"),
        ({"rotor": {"name": "r", "diameter_mm": 200, "centre_bore_mm": 300}}, "rotor.centre_bore_mm"),
        ({"rotor": {"name": "r", "diameter_mm": "wide"}}, "rotor.diameter_mm"),
        ({"quality": {"colour": "guessed"}}, "quality.colour"),
        ({"quality": {"mass_kg": "hearsay"}}, "quality.mass_kg"),
    ],
)
def test_a_part_that_is_none_is_refused(change: dict[str, object], path: str, tmp_path: Path) -> None:
    """File, key path, found and expected; the rest of the shelf is not lost with it."""
    data = {"format": "bicentra.part", "version": 1, "rotor": {"name": "r"}, **change}
    with pytest.raises(JobFileError) as caught:
        parse_part(json.dumps(data).encode(), "x")
    assert caught.value.path == path
    (tmp_path / "bad.part.json").write_text(json.dumps(data))
    (tmp_path / "good.part.json").write_bytes(write_part(Part(rotor=Rotor(name="fine"))))
    library = load_library(tmp_path)
    assert (
        [p.name for p in library.of_kind("rotor")] == ["fine"]
        and len(library.problems) == 1
        and path in library.problems[0]
    )


def test_keeping_a_part(good: Job, tmp_path: Path) -> None:
    """A kept part gets a file of its own; the same one twice is one file; a nameless one is refused."""
    first = keep_part(good.rotor, "bench", tmp_path)
    assert keep_part(good.rotor, "bench", tmp_path) == first
    other = keep_part(replace(good.rotor, mass_kg=9.0), "bench", tmp_path)
    assert other != first and len(load_library(tmp_path).parts) == 2
    with pytest.raises(StoreError, match="no name"):
        keep_part(Rotor(), "bench", tmp_path)
    keep_part(good.caliper, "bench")
    assert own_folder().exists() and len(whole_library().parts) == 117


def test_a_guess_holds_findings_down_to_a_watch(good: Job) -> None:
    """What moves with a guessed dimension is a watch that names it; what does not stays met; stops stay stops."""
    job = replace(good, rotor=replace(good.rotor, guessed=("overall_height_mm", "name")))
    assert parse_job(write_job(job), "x") == job
    behind = guesses_behind(solve(job))
    assert behind["axial-offset"] == ("rotor's overall height",) and "tip-gap" not in behind
    solution = assess(solve(job)).solution
    axial = solution.finding("axial-offset")
    assert axial.verdict is Verdict.CAUTION and "It rests on a guess (rotor's overall height)" in axial.why
    assert "rests on a guess" not in solution.finding("tip-gap").why
    data = json.loads(write_job(good))
    assert "guessed" not in data["axles"]["front"]["rotor"]
    data["axles"]["front"]["rotor"]["guessed"] = ["colour"]
    with pytest.raises(JobFileError, match="guessed"):
        parse_job(json.dumps(data).encode(), "x")


def test_differences_are_told_dimension_by_dimension(good: Job) -> None:
    """Only what differs is listed, with its label, and whether the new number is a guess."""
    other = replace(good.rotor, overall_height_mm=50.0, mass_kg=None, guessed=("overall_height_mm",))
    found = {d.path: d for d in differences(good.rotor, other)}
    assert set(found) == {"overall_height_mm", "mass_kg"} and found["overall_height_mm"].guessed
    assert (found["overall_height_mm"].label, found["mass_kg"].after) == ("Overall height", None)

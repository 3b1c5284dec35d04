"""Hostile and huge input: refused in one line that names the key, or worked out in a time that grows with it."""

import csv
import io
import json
import os
import subprocess
import sys
import xml.etree.ElementTree as ElementTree
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from bicentra.core.base.errors import BicentraError, JobFileError, ReadingsError
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.hull import MOST_POINTS, few, few_points
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.formats.corner_report import check_text
from bicentra.formats.csv_out import plain_cell, plate_csv, safe_cell
from bicentra.formats.dxf import plate_dxf
from bicentra.formats.job_json import parse_job, read_job, write_job
from bicentra.formats.part_files import read_table
from bicentra.formats.readings_csv import read_csv, readings_csv
from bicentra.formats.records import as_of
from bicentra.formats.svg import plate_svg
from bicentra.study.desks.readings_text import import_readings
from bicentra.study.library.tables import maps_file, remembered

ESCAPES = "\x1b[31m\x00\x07lug\r\n0\nEOF"


def edited(job: Job, change: Callable[[dict[str, Any]], None]) -> bytes:
    """The job's file with something changed in its corner or its axle, which lie side by side for ``change``."""
    raw = json.loads(write_job(job))
    corner, axle = raw["corners"]["front-right"], raw["axles"]["front"]
    both = {
        **axle,
        **corner,
        "survey": {name: own["survey"] for name, own in raw["corners"].items() if "survey" in own},
    }
    both = {**raw, **both}
    change(both)
    raw |= {key: both[key] for key in ("title", "limits") if key in both}
    raw["axles"]["front"] = {key: both[key] for key in axle}
    raw["corners"]["front-right"] = {key: both[key] for key in corner if key != "survey"} | {
        "survey": both["survey"]["front-right"]
    }
    return json.dumps(raw).encode()


TOO_MUCH: list[tuple[str, Callable[[dict[str, Any]], None]]] = [
    ("caliper.bleeders_deg", lambda raw: raw["caliper"].update(bleeders_deg=[1.0] * 100_000)),
    ("rotor.guessed", lambda raw: raw["rotor"].update(guessed=["mass_kg"] * 10_000)),
    ("bracket.cutouts", lambda raw: raw["bracket"].update(cutouts=[{"x_mm": 0, "y_mm": 0, "diameter_mm": 5}] * 2000)),
    ("wheel.weights", lambda raw: raw["wheel"].update(weights=[{"name": "w"}] * 10_000)),
    ("survey.front-right.sweeps[0].readings", lambda raw: raw["survey"]["front-right"]["sweeps"][0].update(
        readings=[{"at_deg": k / 100, "value_mm": 0.0} for k in range(50_000)])),
    ("knuckle.obstacles", lambda raw: raw["knuckle"].update(obstacles=[
        {"name": "o", "outline_mm": [[k, k * k / 1000] for k in range(100)], "z_min_mm": 0, "z_max_mm": 1}] * 200)),
    ("title", lambda raw: raw.update(title="x" * 301)),
    ("knuckle.lugs[1].name", lambda raw: raw["knuckle"]["lugs"][1].update(name="x" * 201)),
    ("limits.ligament", lambda raw: raw.update(limits={"tip-gap": 1.0, "ligament": "five"})),
    ("survey.front-right.instruments.sundial", lambda raw: raw["survey"]["front-right"].update(instruments={"sundial": 1.0})),
    ("rotor.guessed[1]", lambda raw: raw["rotor"].update(guessed=["mass_kg", 7])),
]  # fmt: skip


@pytest.mark.parametrize(("path", "change"), TOO_MUCH, ids=[path for path, _ in TOO_MUCH])
def test_every_list_and_text_has_its_limit(demo: Job, path: str, change: Callable[[dict[str, Any]], None]) -> None:
    """Lists that took minutes and gigabytes are refused by their key, entries of a map and of a list by theirs."""
    with pytest.raises(JobFileError) as refused:
        parse_job(edited(demo, change), "job")
    assert as_of(refused.value.path, 1) == path and "\n" not in str(refused.value)


def test_quotes_are_read_once() -> None:
    """40 kB of escaped quotes that never close took 16 seconds: each was tried anew. Forty times as many are read at once."""
    for data in (b'{"a": "' + b'\\"' * 800_000, b'{"a": "' + b"\\" * 1_600_001, b'{"a": "x' + b'"' * 3):
        with pytest.raises(JobFileError, match="no JSON"):
            parse_job(data, "job")


def test_outlines_of_thousands_of_points_are_made_few() -> None:
    """A star of 2000 points is taken as something round it: never smaller, few points, so that nothing grows with its square."""
    import math

    import shapely

    star = tuple(
        (math.cos(k * math.pi / 1000) * (40 + k % 2 * 9), math.sin(k * math.pi / 1000) * (40 + k % 2 * 9))
        for k in range(2000)
    )
    circle = tuple((math.cos(k * math.pi / 1000) * 50, math.sin(k * math.pi / 1000) * 50) for k in range(2000))
    for points, more in ((star, 20.0), (circle, 0.11)):
        made, whole = shapely.Polygon(few(points)), shapely.Polygon(points)
        assert len(few(points)) <= 2 * MOST_POINTS and made.buffer(1e-6).covers(whole)
        assert made.hausdorff_distance(whole) <= more
    small = shapely.box(0, 0, 1, 1)
    assert few_points(small) is small and few(star[:5]) == star[:5]


def test_the_largest_job_allowed_is_checked_in_time(demo: Job) -> None:
    """2000 points a trace and 200 obstacles: what decides is looked at, not every point against every other."""
    import math

    def star(count: int, x: float, y: float, r: float) -> tuple[tuple[float, float], ...]:
        return tuple((x + r * (1 + k % 2 * 0.3) * math.cos(2 * math.pi * k / count),
                      y + r * (1 + k % 2 * 0.3) * math.sin(2 * math.pi * k / count)) for k in range(count))  # fmt: skip

    web = demo.knuckle.obstacles[0]
    many = tuple(
        replace(web, outline_mm=star(60, -200.0 + k, k % 50 * 4.0, 8.0), z_min_mm=-60.0, z_max_mm=-20.0)
        for k in range(200)
    )
    huge = with_edits(replace(demo, survey={}), (
        ("caliper.body_section_mm", star(2000, 5.0, -20.0, 25.0)), ("caliper.body_face_mm", star(2000, 0.0, -20.0, 40.0)),
        ("knuckle.obstacles", many),
    ))  # fmt: skip
    found = solve(huge, turns=False, remedies=False).finding("caliper-to-obstacle")
    assert found.verdict.value == "stop" and found.value == -demo.caliper.ear_boss_mm / 2  # an ear's middle lies in one


def test_no_cell_is_a_formula_and_no_paper_holds_a_control_character(demo: Job) -> None:
    """Names that begin with = + − @, or hold escapes and line ends: words in every table, drawing and terminal."""
    lugs = tuple(replace(lug, name=name) for lug, name in zip(demo.knuckle.lugs, ("=1+1", ESCAPES)))
    job = with_edits(
        replace(demo, survey={}), (("knuckle.lugs", lugs), ("title", f"@{ESCAPES}"), ("bracket.thickness_mm", None))
    )
    solution = solve(job)
    rows = list(csv.reader(io.StringIO(plate_csv(solution).decode(), newline="")))
    assert len(rows) == 5 and rows[1][1] == "'=1+1" and plain_cell(rows[1][1]) == "=1+1"
    assert not any(cell.startswith(("=", "@")) for row in rows for cell in row)
    drawn = plate_svg(solution).decode()
    ElementTree.fromstring(drawn)
    assert (
        "\x1b" not in drawn
        and "\x1b" not in plate_dxf(solution).decode()
        and [line.strip() for line in plate_dxf(solution).decode().splitlines()].count("EOF") == 1
    )
    assert "\x1b" in check_text(solution), "the report keeps them; the command takes them out"


@pytest.mark.parametrize("text", ["=1", "+a", "-a", "@x", "'=1", "plain", "'quoted", "−3"])
def test_safe_cells_come_back(text: str) -> None:
    """What is written so that no spreadsheet computes it is read back as it was."""
    assert plain_cell(safe_cell(text)) == text


def test_tables_that_no_reader_takes_are_refused(demo: Job) -> None:
    """A cell over 128 kB ended in a traceback; readings written with a formula for a name come back as they were."""
    huge = b"kind,from,to,value\r\ndistance," + b"x" * 200_000 + b",b,1\r\n"
    survey = demo.survey["front-right"]
    with pytest.raises(ReadingsError):
        read_csv(huge, "t.csv", survey)
    with pytest.raises(ReadingsError):
        read_table(huge, "t.csv")
    named = replace(survey, distances=(replace(survey.distances[0], by="=HYPERLINK(1)"),))
    assert b",'=HYPERLINK(1)," in readings_csv(named)
    again, _ = read_csv(readings_csv(named), "t.csv", replace(named, distances=()))
    assert again.distances[0].by == "=HYPERLINK(1)"


def test_a_columns_file_of_any_kind_is_let_go() -> None:
    """Lists where maps belong, numbers where words do: the guess from the headings stands."""
    maps_file().parent.mkdir(parents=True, exist_ok=True)
    for kept in ([1], {"rotor": [1]}, {"rotor": {"Bore": [1, 2]}}, {"rotor": {"Bore": "x"}}):
        maps_file().write_text(json.dumps(kept))
        assert remembered(("Bore", "Diameter"), "rotor")[1].key == "diameter_mm"


def run(*words: str, **more: Any) -> subprocess.CompletedProcess[bytes]:
    """Run the command line in a process of its own."""
    return subprocess.run(
        [sys.executable, "-m", "bicentra", *words], check=False, capture_output=True, timeout=300, **more
    )


@pytest.mark.parametrize(
    "words",
    [("redrill", "5x108", "4x100", "--hole-mm", "nan"), ("gauge-sim", "--tcp", "99999"), ("gauge-sim", "--every", "inf"),
     ("gauge-sim", "--count", "-1"), ("redrill", "5x108", "4x100", "--hole-mm", "13", "--bore-mm", "nan")],
)  # fmt: skip
def test_numbers_that_are_none_are_refused(words: tuple[str, ...]) -> None:
    """Ports, times and sizes that cannot be: exit 2, no traceback."""
    done = run(*words)
    assert done.returncode == 2 and b"Traceback" not in done.stderr and b"expected" in done.stderr


def test_any_terminal_and_any_disk(demo_path: Path, tmp_path: Path) -> None:
    """A terminal without Unicode shows what it can; a full disk behind the output and a name that is no text are one line."""
    plain = run("check", str(demo_path), env={**os.environ, "PYTHONIOENCODING": "ascii", "LC_ALL": "C"})
    assert plain.returncode == 1 and b"Traceback" not in plain.stderr and plain.stdout.isascii()
    with open("/dev/full", "wb") as full:
        gone = subprocess.run([sys.executable, "-m", "bicentra", "check", str(demo_path)], stdout=full, stderr=subprocess.PIPE,
                              timeout=300, check=False)  # fmt: skip
    assert gone.returncode == 2 and gone.stderr.count(b"\n") == 1 and b"No space" in gone.stderr
    odd = run("check", os.fsdecode(os.fsencode(tmp_path) + b"/caf\xe9.bicentra.json"))
    assert odd.returncode == 2 and odd.stderr.count(b"\n") == 1


def test_the_same_bytes_whatever_the_order_of_sets(demo_path: Path, tmp_path: Path) -> None:
    """The classes of a DXF file moved with the hash seed of the run."""
    kinds, made = ("dxf", "svg", "csv", "cut", "cut-both", "parts", "card", "assembly", "pdf"), []
    for seed in ("0", "3"):
        words = [w for kind in kinds for w in (f"--{kind}", str(tmp_path / f"{seed}.{kind}"))]
        assert run("export", str(demo_path), *words, env={**os.environ, "PYTHONHASHSEED": seed}).returncode == 0
        made.append({kind: (tmp_path / f"{seed}.{kind}").read_bytes() for kind in kinds})
    assert [kind for kind in kinds if made[0][kind] != made[1][kind]] == []


def test_export_writes_what_it_can_and_says_what_it_leaves_out(demo_path: Path, tmp_path: Path) -> None:
    """One paper that does not apply kept the others from being written; no paper is written over a job or a device."""
    names = {kind: tmp_path / f"x.{kind}" for kind in ("svg", "chart", "csv")}
    done = run("export", str(demo_path), *(w for kind, path in names.items() for w in (f"--{kind}", str(path))))
    assert done.returncode == 2 and names["svg"].exists() and names["csv"].exists() and not names["chart"].exists()
    assert b"left out: --chart: there are no bushings" in done.stderr
    job = tmp_path / "a.json"
    job.write_bytes(demo_path.read_bytes())
    for target in (job, tmp_path / "b.bicentra.json"):
        refused = run("export", str(job), "--svg", str(target))
        assert refused.returncode == 2 and b"a job's own file" in refused.stderr
    assert job.read_bytes() == demo_path.read_bytes()
    device = run("export", str(job), "--svg", "/dev/null")
    assert device.returncode == 2 and b"no ordinary file" in device.stderr


def test_what_is_no_file_is_refused_once_and_hangs_nothing(tmp_path: Path, demo: Job) -> None:
    """A pipe hung the survey's table, and the refusal of a device was told inside itself."""
    pipe = tmp_path / "pipe.csv"
    os.mkfifo(pipe)
    for read in (read_job, lambda path: import_readings(path, demo.survey["front-right"])):
        with pytest.raises(BicentraError) as refused:
            read(pipe)
        assert str(refused.value).count("no ordinary file") == 1 and str(refused.value).count("expected") == 1

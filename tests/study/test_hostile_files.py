"""What a stranger's files, settings and cables may hold: each is refused in one line or passed over, and hides nothing else."""

import json
import re
import time
import xml.etree.ElementTree as ET
from pathlib import Path

import pytest
from PIL import Image

from bicentra.cli import main
from bicentra.core.base.errors import JobFileError, StoreError
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.corners import vehicle_of
from bicentra.core.parts.job import Job
from bicentra.formats.csv_out import plain_cell, safe_cell
from bicentra.formats.job_json import parse_vehicle
from bicentra.formats.svg import plate_svg
from bicentra.study.document import recovery
from bicentra.study.document.photos import small_picture, take_photo
from bicentra.study.gauges.gauge import PORT, GaugeSettings, LineGauge


def test_a_picture_that_is_a_program_is_none(tmp_path: Path) -> None:
    """A small nested SVG hung the window; what is no JPEG, PNG or WebP is no picture, whatever it is called."""
    nested = "<svg xmlns='http://www.w3.org/2000/svg'>" + "<g>" * 5000 + "</g>" * 5000 + "</svg>"
    for name in ("a.svg", "a.png"):
        (tmp_path / name).write_text(nested)
        assert small_picture(tmp_path / name, 150, 128) is None
    with pytest.raises(StoreError, match="JPEG, PNG or WebP"):
        take_photo(tmp_path / "a.png", tmp_path / "x.bicentra.json", "2026-01-01")


def test_a_picture_is_made_small_before_it_is_shown(tmp_path: Path) -> None:
    """Twenty pictures of 0.7 MB took 5 GB: one of 24 million dots comes back as large as its place, one of 72 million not at all."""
    Image.new("RGB", (6000, 4000), "white").save(tmp_path / "large.jpg")
    Image.new("L", (9000, 8000)).save(tmp_path / "huge.png")
    found = small_picture(tmp_path / "large.jpg", 300, 200)
    assert found is not None and (found.wide, found.high) == (300, 200) and len(found.dots) == 3 * 300 * 200
    assert small_picture(tmp_path / "huge.png", 300, 200) is None


@pytest.mark.parametrize(
    "text", ['{"job":' + "[" * 100_000 + "]" * 100_000 + "}", '{"kept": "x", "path": null, "job": ' + "9" * 400 + "}"]
)
def test_one_bad_copy_hides_no_other(tmp_path: Path, demo: Job, text: str) -> None:
    """A recovery copy nested 100,000 deep, or with a number of 400 digits, hid all others."""
    keeper = recovery.Keeper(tmp_path)
    keeper.keep(vehicle_of(demo), None)
    keeper.close()
    (tmp_path / "recovery-bad.json").write_text(text)
    assert len(recovery.find_recoveries(tmp_path)) == 1


@pytest.mark.parametrize("command", [["check"], ["pedal"], ["survey"], ["shims"], ["bracket"], ["search"], ["heat", "--from-kmh", "60",
                         "--to-kmh", "0", "--stops", "3", "--every-s", "30"], ["export", "--svg", "x.svg"]])  # fmt: skip
def test_a_number_of_four_hundred_digits_is_one_line(
    tmp_path: Path, demo_path: Path, command: list[str], capsys: pytest.CaptureFixture[str]
) -> None:
    """Every command ended in a traceback; the key path is named, and nothing is written."""
    path = tmp_path / "big.bicentra.json"
    raw = json.loads(demo_path.read_text())
    raw["axles"]["front"]["rotor"]["hole_count"] = 777
    path.write_text(json.dumps(raw).replace("777", "9" * 400))
    assert main([command[0], str(path), *command[1:]]) == 2
    text = capsys.readouterr().err
    assert text.count("\n") == 1 and "axles.front.rotor.hole_count" in text and "400 digits" in text


def test_a_whole_number_too_large_is_refused_wherever_it_is() -> None:
    """Under a key nobody knows too: few programs could read it again."""
    with pytest.raises(JobFileError, match=r"corners.front-right.mine\[1\]"):
        parse_vehicle(
            b'{"format":"bicentra.job","version":2,"corners":{"front-right":{"mine":[1,' + b"9" * 400 + b"]}}}", "x"
        )


def test_a_gauge_is_a_device_or_a_socket() -> None:
    """spy:// wrote over a file; rfc2217:// and the like are no gauge of ours either."""
    for good in (
        "/dev/ttyUSB0",
        "COM3",
        "/dev/serial/by-id/usb-x_1.0-if00",
        "socket://127.0.0.1:5000",
        "socket://gauge.local:80",
    ):
        assert PORT.fullmatch(good), good
    for bad in (
        "spy:///dev/ttyUSB0?file=/tmp/x",
        "loop://",
        "rfc2217://host:1",
        "hwgrep://x",
        "alt://x",
        "socket://x",
        "",
        "a b",
    ):
        assert not PORT.fullmatch(bad), bad


def test_a_spying_port_writes_nothing(tmp_path: Path) -> None:
    """Asked to listen at such an address the gauge says what it expects, and no file is touched."""
    victim, text = tmp_path / "victim", list[str]()
    victim.write_text("mine")
    gauge = LineGauge(GaugeSettings(f"spy:///dev/null?file={victim}"), lambda event: text.append(event.text))
    gauge.start()
    deadline = time.monotonic() + 60.0
    while not text and time.monotonic() < deadline:
        time.sleep(0.01)
    gauge.stop()
    assert victim.read_text() == "mine" and "expected a device" in text[0]


def test_control_characters_do_not_break_a_drawing(good: Job) -> None:
    """A title with control characters made an SVG that no program reads."""
    solution = solve(replace(good, title="plate \x01\x0b\x1f & <b>"))
    text = plate_svg(solution).decode()
    ET.fromstring(text)
    assert not re.search(r"[\x00-\x08\x0b\x0c\x0e-\x1f]", text)


def test_wide_signs_are_no_formula_either() -> None:
    """A full-width equals sign begins a formula in some spreadsheets as well."""
    for word in ("＝1+1", "＋1", "－1", "＠x"):
        assert safe_cell(word) == f"'{word}" and plain_cell(safe_cell(word)) == word

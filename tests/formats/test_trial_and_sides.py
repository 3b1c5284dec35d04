"""Trial pieces with words on them, and both sides of an axle: read back from the files."""

import io
import zipfile
from xml.etree import ElementTree

import numpy as np
import pytest
import shapely
from ezdxf.filemanagement import read as read_dxf

from bicentra.core.base.records import replace
from bicentra.core.bracket.prisms import plate_shape
from bicentra.core.drawing.sheets.trial_words import Word, trial_words, word_bodies
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.uncertainty.both_sides import both_sides, parts_of_both, text_of_both
from bicentra.formats.dxf import cutting_dxf
from bicentra.formats.solids import solid_of, volume_and_centroid
from bicentra.formats.typeface import BOLD, text_loops, text_width
from bicentra.study.papers.solids import solid_file, step_of_both, trial_file, workshop_file
from bicentra.study.papers.writing import write_paper
from tests.formats.test_solids import closed_volume
from tests.formats.test_workshop import texts

SPACE = "{http://schemas.microsoft.com/3dmanufacturing/core/2015/02}"


def letters(text: str, size: float) -> list[list[tuple[float, float]]]:
    """The shipped face."""
    return text_loops(text, size, BOLD)


def go_on(*_: object) -> bool:
    """Do not cancel."""
    return True


def mesh_of(data: bytes) -> tuple[str, np.ndarray, np.ndarray]:
    """Name, corners and triangles of the first object of a 3MF file."""
    with zipfile.ZipFile(io.BytesIO(data)) as package:
        model = ElementTree.fromstring(package.read("3D/3dmodel.model"))
    one = next(model.iter(f"{SPACE}object"))
    corners = [[float(v.get(k)) for k in "xyz"] for v in one.iter(f"{SPACE}vertex")]
    faces = [[int(t.get(k)) for k in ("v1", "v2", "v3")] for t in one.iter(f"{SPACE}triangle")]
    return one.get("name"), np.array(corners), np.array(faces)


def test_letters_have_their_true_size() -> None:
    """An O is a ring, as wide as its advance less the room beside it; a text stands about the origin."""
    loops = letters("O", 10.0)
    rings = sorted(shapely.Polygon(loop).area for loop in loops)
    assert len(rings) == 2 and rings[0] < rings[1]
    points = np.array([p for loop in letters("TRIAL ONLY", 10.0) for p in loop])
    assert np.ptp(points[:, 0]) == pytest.approx(text_width("TRIAL ONLY", 10.0, BOLD), rel=0.03)
    assert points.max(axis=0) == pytest.approx(-points.min(axis=0), abs=0.6)


def _inked(word: Word) -> shapely.Geometry:
    """A word's letters as areas."""
    shape: shapely.Geometry = shapely.Polygon()
    for loop in letters(word.text, word.size):
        shape = shape.symmetric_difference(shapely.Polygon(np.array(loop) + np.array(word.at)))
    return shape


@pytest.mark.parametrize("corner", ["front-right", "front-left"])
def test_a_trial_piece_says_what_it_is(good: Job, corner: str) -> None:
    """Numbers beside the holes, the warning where room is, all on the metal; letters raised 0.6 mm however thin; readable left too."""
    job = replace(good, corner=corner)
    part = solve(job).part
    words = trial_words(part, letters)
    assert [w.text for w in words] == ["1", "2", "3", "4", "TRIAL ONLY", "outboard", "10 mm"]
    metal, top = plate_shape(part, 0.02), part.z0 + part.thickness
    for body in word_bodies(part, letters, mirrored=False):
        assert metal.covers(shapely.MultiPoint(body.corners[:, :2]))
        assert body.corners[:, 2].max() == pytest.approx(top + 0.6)
    name, corners, faces = mesh_of(trial_file(job, go_on))
    plain = mesh_of(solid_file(job, "3mf", go_on))
    assert name == "adapter plate" and len(faces) > len(plain[2]) + 500
    assert np.ptp(corners[:, 2]) == pytest.approx(10.6)
    letters_too = closed_volume(corners, faces) - closed_volume(plain[1], plain[2])
    drawn = shapely.union_all([_inked(word) for word in words]).area
    assert letters_too == pytest.approx(drawn * 0.8, rel=0.01), (
        "the letters' face times how far they are raised and sunk"
    )
    thin_name, thin, _ = mesh_of(trial_file(job, go_on, 0.5))
    assert np.ptp(thin[:, 2]) == pytest.approx(5.6) and "thickness times 0.5" in thin_name
    sign = -1.0 if corner == "front-left" else 1.0
    first = word_bodies(part, letters, mirrored=corner == "front-left")[4].corners
    assert first[:, 0].mean() == pytest.approx(sign * words[4].at[0], abs=2.0)


def test_words_keep_off_what_has_no_room(good: Job) -> None:
    """Bent plates and round parts carry none; a narrow plate carries numbers only where they fit."""
    spacer = next(
        p for p in solve(with_edits(good, (("bracket.family", "two-part"),))).bracket.parts if p.shape == "round"
    )
    assert trial_words(spacer, letters) == ()
    step = solve(with_edits(good, (("bracket.family", "stepped-plate"),))).part
    floor = step.z0 + step.thickness - step.pockets[0].depth
    heights = {round(float(body.corners[:, 2].max()), 3) for body in word_bodies(step, letters, mirrored=False)}
    assert heights <= {round(floor + 0.6, 3), round(step.z0 + step.thickness + 0.6, 3)}


def test_like_corners_share_one_plate(good: Job) -> None:
    """A corner nobody measured gets the mirror image, and that is said; a flat plate is turned over; a pocket makes a hand."""
    bare = replace(good, survey={}, opposite=None)
    sides = both_sides(bare)
    assert not sides.compared and sides.turned_over and "not measured yet" in text_of_both(bare)
    mine, twin = parts_of_both(bare)
    assert (mine.name, twin.name) == ("adapter plate, front right", "adapter plate, front left") and twin.mirrored
    one, two = (volume_and_centroid(solid_of(part)) for part in (mine, twin))
    assert one[0] == pytest.approx(two[0]) and two[1] == pytest.approx((-one[1][0], *one[1][1:]))
    assert not both_sides(with_edits(bare, (("bracket.family", "stepped-plate"),))).turned_over
    alike = replace(bare, survey=dict.fromkeys(("front-right", "front-left"), good.survey["front-right"]))
    assert both_sides(alike).differ == () and "one and the same plate, turned over" in text_of_both(alike)


def test_unlike_corners_get_parts_of_their_own(good: Job, tmp_path: object) -> None:
    """The demo's left corner has a bent lug: two parts, the difference named; STEP, drawings and cutting file hold both."""
    sides = both_sides(good)
    assert sides.compared == "survey" and sides.differ and not sides.turned_over
    told = text_of_both(good)
    assert "a part of its own" in told and "lug" in told and "There:" in told
    from_left = both_sides(replace(good, corner="front-left"))
    assert from_left.corner == "front-right" and from_left.differ
    mine, twin = parts_of_both(good)
    assert mine.outline != twin.outline and mine.bores != twin.bores
    text = step_of_both(good, go_on).decode().replace("\n", "")
    assert all(f"'{part.name}'" in text for part in (mine, twin))
    space = read_dxf(io.StringIO(cutting_dxf(parts_of_both(good)).decode())).modelspace()
    assert len(space.query('LWPOLYLINE[layer=="CUT"]')) == 2
    pages = texts(workshop_file(good, go_on, both=True))
    assert len(pages) == 2 and "front left" in pages[1] and "front right" in pages[0]
    path = tmp_path / "both.dxf"
    assert write_paper("cut-both", solve(good), path) and path.stat().st_size > 1000

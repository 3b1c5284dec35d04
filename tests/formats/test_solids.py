"""Solids of made parts: volume and centroid against the 2-D core, files read back, the same bytes twice, never in this program."""

import io
import math
import struct
import subprocess
import sys
import zipfile
from pathlib import Path
from xml.etree import ElementTree

import numpy as np
import pytest

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import replace
from bicentra.core.bracket.fold import fold_of, neutral_factor
from bicentra.core.bracket.model import MadePart
from bicentra.core.drawing.space.scene import part_bodies
from bicentra.core.evaluation.own_bracket import find_bracket
from bicentra.core.options import propose
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.formats.solids import solid_of, step_bytes, threemf_bytes, triangles, volume_and_centroid
from bicentra.study.document.starting import empty_job
from bicentra.study.papers.papers import PAPERS
from bicentra.study.papers.solids import solid_file


def parts_of_many(good: Job) -> list[MadePart]:
    """Parts of every shape: plates whole, stepped, windowed and drilled from the edge, spacers, eccentric bushings."""
    radial = with_edits(good, (("caliper.mount", "radial"), ("fit.radial_shim_mm", 1.0)))
    far = replace(
        good, knuckle=replace(good.knuckle, lugs=tuple(replace(lug, z_mm=-95.0) for lug in good.knuckle.lugs))
    )
    bushed = with_edits(
        good, (("caliper.ear_spacing_mm", 77.0), ("caliper.ear_boss_mm", 34.0), ("caliper.ear_hole_mm", 14.0))
    )
    found = [
        part
        for proposal in propose(good)
        for part in proposal.bracket.parts
        if proposal.bracket.family != "eccentric-bushings"
    ]
    found += [*find_bracket(radial, "radial-mount").bracket.parts, *find_bracket(far, "two-part").bracket.parts]
    return [*found, *find_bracket(bushed, "eccentric-bushings").bracket.parts]


def test_every_parts_volume_is_the_cores(good: Job) -> None:
    """Exact faces against areas in closed form; pockets and edge bores to a thousandth."""
    parts = parts_of_many(good)
    assert (
        {part.shape for part in parts} == {"plate", "round"}
        and any(p.pockets for p in parts)
        and any(p.edge_bores for p in parts)
    )
    for part in parts:
        volume, _ = volume_and_centroid(solid_of(part))
        assert volume == pytest.approx(part.volume, rel=1e-3 if part.pockets or part.edge_bores else 1e-9), part.name


def _inside(corners: np.ndarray) -> float:
    """Volume inside triangles (n, 3, 3), by the divergence theorem."""
    return float(np.einsum("ij,ij->i", corners[:, 0], np.cross(corners[:, 1], corners[:, 2])).sum() / 6)


@pytest.mark.parametrize(("top", "out"), [(-60.0, 0.0), (40.0, 160.0)])
def test_a_jogged_plate_is_bent(good: Job, top: float, out: float) -> None:
    """Against the blank: only the bends gain, θ w t (½ − K) t each; its ears' holes end where the line-up wants them."""
    far = with_edits(
        good, (("caliper.ear_line_to_pad_top_mm", top), ("bracket.wall_mm", 6.0), ("bracket.material", "steel S355"))
    )
    far = with_edits(
        far,
        (("knuckle.lugs", tuple(replace(lug, z_mm=lug.z_mm - 20.0, x_mm=lug.x_mm - out) for lug in far.knuckle.lugs)),),
    )
    part = find_bracket(far, "jogged-plate").bracket.parts[0]
    fold, (x0, y0, x1, y1) = fold_of(part), part.outline.bounds
    volume, middle = volume_and_centroid(solid_of(part))
    assert volume_and_centroid(solid_of(part, flat=True))[0] == pytest.approx(part.volume)
    gain = 2 * fold.angle * (0.5 - neutral_factor(fold.radius, fold.thickness)) * fold.thickness**2
    assert 0 < volume - part.volume < gain * max(x1 - x0, y1 - y0)
    bodies = part_bodies(part)
    meshed = sum(_inside(body.corners[body.triangles]) for body in bodies)
    assert meshed == pytest.approx(volume, rel=0.01), "the picture in space shows the same"
    heights = np.concatenate([body.corners[:, 2] for body in bodies])
    assert heights.max() - heights.min() == pytest.approx(fold.height + fold.thickness)
    assert fold.z0 - fold.height < middle[2] < fold.z0 + fold.height + fold.thickness


def test_a_pocket_is_seen_in_space(good: Job) -> None:
    """The layers of the picture weigh what the stepped plate does."""
    part = find_bracket(good, "stepped-plate").bracket.parts[0]
    meshed = sum(_inside(body.corners[body.triangles]) for body in part_bodies(part))
    assert part.pockets and meshed == pytest.approx(part.volume, rel=5e-3)


def test_the_centroid_is_where_the_plate_is(good: Job) -> None:
    """Centre of the outline less its holes, half way through the thickness; the left corner's is the mirror image."""
    part = find_bracket(good, "flat-plate").bracket.parts[0]
    (cx, cy), area = part.outline.centroid, part.outline.area
    holes = [(math.pi / 4 * b.drill**2, b.centre) for b in part.bores]
    net = area - sum(a for a, _ in holes)
    x = (area * cx - sum(a * c[0] for a, c in holes)) / net
    y = (area * cy - sum(a * c[1] for a, c in holes)) / net
    _, middle = volume_and_centroid(solid_of(part))
    assert middle == pytest.approx((x, y, part.z0 + part.thickness / 2))
    _, left = volume_and_centroid(solid_of(part, mirrored=True))
    assert left == pytest.approx((-x, y, part.z0 + part.thickness / 2))


def test_a_step_file_read_back(good: Job, tmp_path: Path) -> None:
    """Millimetres, every part under its name, the same volume; the same job gives the same bytes."""
    from OCP.STEPControl import STEPControl_Reader

    parts = find_bracket(good, "two-part").bracket.parts
    data = step_bytes(parts)
    assert data == step_bytes(parts) and b"1970-01-01" in data
    text = data.decode()
    assert all(f"'{part.name}'" in text.replace("\n", "") for part in parts) and ".MILLI." in text
    path = tmp_path / "o.step"
    path.write_bytes(data)
    reader = STEPControl_Reader()
    assert int(reader.ReadFile(str(path))) == 1
    reader.TransferRoots()
    volume, _ = volume_and_centroid(reader.OneShape())
    assert volume == pytest.approx(sum(part.volume for part in parts), rel=1e-6)


def closed_volume(corners: np.ndarray, faces: np.ndarray) -> float:
    """Volume inside a mesh, by the divergence theorem; every edge must be walked once each way."""
    edges = {tuple(edge) for face in faces for edge in ((face[0], face[1]), (face[1], face[2]), (face[2], face[0]))}
    assert len(edges) == 3 * len(faces) and all((b, a) in edges for a, b in edges)
    return _inside(corners[faces])


def test_meshes_are_closed_and_true(good: Job) -> None:
    """Watertight, outward, within two thousandths of the part's volume."""
    for part in parts_of_many(good):
        ((_, corners, faces),) = triangles((part,))
        assert closed_volume(np.array(corners), np.array(faces)) == pytest.approx(part.volume, rel=2e-3), part.name


def test_the_commands_files(good: Job) -> None:
    """Made by the worker process: nothing of the kernel is in a program that only asks; STL and 3MF hold the same triangles."""
    files = {kind: solid_file(good, kind, lambda *_: True) for kind in ("step", "stl", "3mf")}
    count = struct.unpack("<I", files["stl"][80:84])[0]
    assert len(files["stl"]) == 84 + 50 * count
    with zipfile.ZipFile(io.BytesIO(files["3mf"])) as package:
        model = ElementTree.fromstring(package.read("3D/3dmodel.model"))
    space = "{http://schemas.microsoft.com/3dmanufacturing/core/2015/02}"
    assert model.get("unit") == "millimeter" and len(list(model.iter(f"{space}triangle"))) == count
    assert next(model.iter(f"{space}object")).get("name") == "adapter plate"
    assert files["step"] == solid_file(good, "step", lambda *_: True)
    asked = "import sys, bicentra.study.papers.solids, bicentra.study.papers.papers; print('OCP' in sys.modules)"
    done = subprocess.run([sys.executable, "-c", asked], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "False"


def test_a_stretched_trial_piece_says_so(good: Job) -> None:
    """A thickness scale is for a trial only: the name in the file tells it."""
    meshes = triangles(find_bracket(good, "flat-plate").bracket.parts)
    with zipfile.ZipFile(io.BytesIO(threemf_bytes(meshes, 0.5))) as package:
        assert b"trial, thickness times 0.5" in package.read("3D/3dmodel.model")


def test_cancel_and_refusal(good: Job) -> None:
    """Cancelled there is no file; without a part there is a reason; a worker's fault comes back as one line."""
    assert solid_file(good, "step", lambda *_: False) == b""
    with pytest.raises(ExportError, match="no part"):
        solid_file(empty_job(), "step", lambda *_: True)
    with pytest.raises(ExportError, match="thickness"):
        solid_of(MadePart("x", "plate", "", float("nan"), 0.0))
    assert PAPERS["step"].ending.endswith(".step")

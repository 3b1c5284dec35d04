"""Every written geometry read back by readers that share no line with the writers: arcs, islands, normals, volumes, columns.

The readers are written from the formats' own descriptions, from memory: SVG 1.1 §8.3.8 (elliptical arcs), DXF group codes of
LWPOLYLINE (42: bulge, the tangent of a quarter of the arc's angle), binary STL, 3MF core. Areas by Green's theorem.
"""

import csv
import io
import math
import re
import struct
import zipfile
from xml.etree import ElementTree

import numpy as np
import pytest

from bicentra.core.base.records import replace
from bicentra.core.bracket.model import MadePart, Pocket
from bicentra.core.drawing.model import Dimension, Note, Shape, Sheet
from bicentra.core.drawing.shapes import scaled
from bicentra.core.drawing.sheets.imprint import BLANK
from bicentra.core.evaluation.own_bracket import find_bracket
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.outline import circle_outline
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job, Lug
from bicentra.core.parts.trial import Gaps, Trial
from bicentra.formats.csv_out import plate_csv, trial_csv
from bicentra.formats.dxf import cutting_dxf, plate_dxf
from bicentra.formats.svg import plate_svg, svg_path
from bicentra.study.papers.makers import MAKERS
from bicentra.study.papers.writing import go_on

Point = tuple[float, float]


def arc_area(a: Point, b: Point, radius: float, large: bool, left: bool) -> float:
    """Green's integral ½∮(x dy − y dx) along an arc from ``a`` to ``b``; ``left``: it turns counter-clockwise."""
    chord = math.dist(a, b)
    angle = 2 * math.asin(min(1.0, chord / (2 * radius)))
    angle = 2 * math.pi - angle if large else angle
    return (a[0] * b[1] - b[0] * a[1]) / 2 + (1 if left else -1) * radius**2 / 2 * (angle - math.sin(angle))


def svg_areas(path: str) -> list[float]:
    """The area inside each closed loop of an SVG path of M, L, A and Z, y turned up; positive counter-clockwise."""
    found: list[float] = []
    here = start = (0.0, 0.0)
    area = 0.0
    for letter, numbers in re.findall(r"([MLAZ])([^MLAZ]*)", path):
        given = [float(text) for text in numbers.split()]
        if letter == "M":
            here = start = (given[0], -given[1])
            area = 0.0
        elif letter == "L":
            there = (given[0], -given[1])
            area, here = area + (here[0] * there[1] - there[0] * here[1]) / 2, there
        elif letter == "A":
            there = (given[5], -given[6])
            area += arc_area(here, there, given[0], given[3] == 1, given[4] == 0)  # sweep 1: clockwise as seen, y down
            here = there
        else:
            found.append(area + (here[0] * start[1] - start[0] * here[1]) / 2)
    return found


def dxf_loops(data: bytes) -> list[tuple[str, float, tuple[float, float, float, float]]]:
    """Layer, area by its bulges and bounds of the corners of every closed polyline, from the bare group codes."""
    lines = data.decode().splitlines()
    pairs = [(int(code), value.strip()) for code, value in zip(lines[::2], lines[1::2])]
    found = []
    starts = [k for k, pair in enumerate(pairs) if pair[0] == 0]
    for first, last in zip(starts, [*starts[1:], len(pairs)]):
        if pairs[first][1] != "LWPOLYLINE":
            continue
        layer, corners = "", []
        for code, value in pairs[first + 1 : last]:
            if code == 8:
                layer = value
            elif code == 10:
                corners.append([float(value), 0.0, 0.0])
            elif code in (20, 42) and corners:
                corners[-1][1 if code == 20 else 2] = float(value)
        area = 0.0
        for (x, y, bulge), (u, v, _) in zip(corners, [*corners[1:], corners[0]]):
            angle = 4 * math.atan(bulge)
            area += (x * v - u * y) / 2
            if bulge:
                radius = math.dist((x, y), (u, v)) / (2 * math.sin(abs(angle) / 2))
                area += math.copysign(radius**2 / 2 * (abs(angle) - math.sin(abs(angle))), bulge)
        xs, ys = [c[0] for c in corners], [c[1] for c in corners]
        found.append((layer, area, (min(xs), min(ys), max(xs), max(ys))))
    return found


def hull_area(spots: list[tuple[Point, float]]) -> float:
    """Area of the convex hull of round bosses, by 200,000 directions of its support: ½∮(h² − h′²) dθ (Cauchy's formula)."""
    angles = np.linspace(0.0, 2 * math.pi, 200_001)[:-1]
    each = np.array([x * np.cos(angles) + y * np.sin(angles) + r for (x, y), r in spots])
    turned = np.array([y * np.cos(angles) - x * np.sin(angles) for (x, y), _ in spots])
    first = each.argmax(axis=0)
    high, slope = each.max(axis=0), turned[first, np.arange(len(angles))]
    return float((high**2 - slope**2).sum() * (angles[1] - angles[0]) / 2)


def test_every_arc_bulges_its_own_way() -> None:
    """By hand: half discs, a disc, three quarters and a quarter with its corner cut in; either way round, in SVG."""
    half, quarter = math.pi * 50.0, 25 * math.pi
    root = math.tan(math.pi / 8)
    loops = {
        ((10.0, 0.0, 1.0), (-10.0, 0.0, 0.0)): half,
        ((-10.0, 0.0, -1.0), (10.0, 0.0, 0.0)): -half,
        ((10.0, 0.0, 1.0), (-10.0, 0.0, 1.0)): 2 * half,
        ((0.0, 0.0, 0.0), (10.0, 0.0, root), (0.0, 10.0, 0.0)): quarter,
        ((0.0, 0.0, 0.0), (10.0, 0.0, 0.0), (10.0, 10.0, -root), (0.0, 0.0, 0.0)): 50.0 - (quarter - 50.0),
        ((10.0, 0.0, math.tan(3 * math.pi / 8)), (0.0, -10.0, 0.0), (0.0, 0.0, 0.0)): 3 * quarter,
    }
    for loop, area in loops.items():
        (read,) = svg_areas(svg_path(Shape((loop,), "outline", "t")))
        assert read == pytest.approx(area, rel=1e-4), loop


@pytest.mark.parametrize("corner", ["front-right", "front-left"])
def test_a_plate_is_the_hull_of_its_bosses_in_every_file(good: Job, corner: str) -> None:
    """SVG and both DXF files hold the convex hull of lugs and ears with their walls; a left one the mirror image."""
    job = with_edits(good, (("corner", corner), ("bracket.cutouts", ())))
    solution = solve(job)
    part = solution.part
    assert part is not None
    walls = {hole.feature: hole.boss_radius for hole in solution.assembly.holes}
    want = hull_area([(bore.centre, walls[bore.feature]) for bore in part.bores])
    tree = ElementTree.fromstring(plate_svg(solution, BLANK))
    drawn = {
        group.get("id"): [path.get("d", "") for path in group] for group in tree.iter("{http://www.w3.org/2000/svg}g")
    }
    (outer,) = drawn["outline"]
    assert svg_areas(outer)[0] == pytest.approx(want, rel=1e-4)
    bores = sorted(abs(area) for path in drawn["hole"] for area in svg_areas(path))
    assert bores == pytest.approx(sorted(math.pi / 4 * bore.drill**2 for bore in part.bores), rel=1e-3)
    sign = -1.0 if corner == "front-left" else 1.0
    reach = max(sign * x + walls[b.feature] for b in part.bores for x in (b.centre[0],))
    for data, layer, moved in (
        (plate_dxf(solution), "OUTLINE", False),
        (MAKERS["cut"].make(solution, go_on, BLANK), "CUT", True),
    ):
        loops = [(area, box) for name, area, box in dxf_loops(data) if name == layer]
        assert abs(loops[0][0]) == pytest.approx(want, rel=5e-5)
        if not moved:
            assert loops[0][1][2] <= reach + 1e-6 and loops[0][1][2] > reach - max(walls.values())


def test_islands_in_a_pocket_stay(good: Job) -> None:
    """What is milled in the cutting file is the pocket's edge less its islands: their own loops, none filled over."""
    edge, island = circle_outline((0.0, 0.0), 40.0), circle_outline((5.0, 0.0), 12.0)
    (base, *_) = find_bracket(good, "flat-plate").bracket.parts
    part = replace(base, outline=circle_outline((0.0, 0.0), 60.0), bores=(), cutouts=(), window=None,
                   pockets=(Pocket(edge, 2.0, 1.0, (edge, island)),))  # fmt: skip
    milled = sorted(abs(area) for layer, area, _ in dxf_loops(cutting_dxf((part,))) if layer == "MILL")
    assert milled == pytest.approx([math.pi * 144.0, math.pi * 1600.0])
    whole = replace(part, pockets=(Pocket(edge, 2.0, 1.0),))
    assert [abs(a) for layer, a, _ in dxf_loops(cutting_dxf((whole,))) if layer == "MILL"] == pytest.approx(
        [math.pi * 1600.0]
    )


def test_the_step_of_a_stepped_plate_is_milled_round_its_seats(good: Job) -> None:
    """Every milled loop read back is a loop of the part's own pocket; together they bound as much as the picture in space lacks."""
    part = find_bracket(good, "stepped-plate").bracket.parts[0]
    wanted = sorted(abs(o.area) for pocket in part.pockets for o in (pocket.kept or (pocket.outline,)))
    milled = sorted(abs(area) for layer, area, _ in dxf_loops(cutting_dxf((part,))) if layer == "MILL")
    assert wanted and milled == pytest.approx(wanted)


def stl_triangles(data: bytes) -> tuple[np.ndarray, np.ndarray]:
    """Normals (n, 3) and corners (n, 3, 3) of a binary STL."""
    (count,) = struct.unpack_from("<I", data, 80)
    rows = np.frombuffer(data, dtype=np.dtype([("f", "<f4", 12), ("a", "<u2")]), offset=84, count=count)["f"]
    assert len(data) == 84 + 50 * count
    return rows[:, :3].astype(float), rows[:, 3:].reshape(-1, 3, 3).astype(float)


def inside(corners: np.ndarray) -> float:
    """Signed volume inside triangles: positive where they are counter-clockwise from outside."""
    return float(np.einsum("ij,ij->i", corners[:, 0], np.cross(corners[:, 1], corners[:, 2])).sum() / 6)


def test_meshes_hold_the_part_and_look_outward(good: Job) -> None:
    """STL: volume positive and the part's, every normal the one of its triangle, every edge shared twice; 3MF the same."""
    solution = solve(with_edits(good, (("bracket.cutouts", ()),)))
    part = solution.part
    assert isinstance(part, MadePart)
    normals, corners = stl_triangles(MAKERS["stl"].make(solution, go_on, BLANK))
    assert inside(corners) == pytest.approx(part.volume, rel=2e-3)
    own = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    own /= np.linalg.norm(own, axis=1, keepdims=True)
    assert np.abs(normals - own).max() < 1e-3
    assert np.abs((corners.reshape(-1, 3)[:, 2].max() - corners.reshape(-1, 3)[:, 2].min()) - part.thickness) < 1e-4
    package = zipfile.ZipFile(io.BytesIO(MAKERS["3mf"].make(solution, go_on, BLANK)))
    tree = ElementTree.fromstring(package.read("3D/3dmodel.model"))
    space = "{http://schemas.microsoft.com/3dmanufacturing/core/2015/02}"
    volume = 0.0
    for mesh in tree.iter(f"{space}mesh"):
        points = np.array([[float(v.get(k, "")) for k in "xyz"] for v in mesh.iter(f"{space}vertex")])
        faces = np.array([[int(t.get(k, "")) for k in ("v1", "v2", "v3")] for t in mesh.iter(f"{space}triangle")])
        edges = np.sort(faces[:, [0, 1, 1, 2, 2, 0]].reshape(-1, 2), axis=1)
        assert (np.unique(edges, axis=0, return_counts=True)[1] == 2).all()
        volume += inside(points[faces])
    assert volume == pytest.approx(part.volume, rel=2e-3) and tree.get("unit") == "millimeter"


def rows_of(data: bytes) -> list[dict[str, str]]:
    """The rows of a CSV by their headings."""
    return list(csv.DictReader(io.StringIO(data.decode())))


def test_offset_and_tilt_stand_in_their_own_columns(good: Job) -> None:
    """By hand: where a caliper stands outboard by d, its outboard gap is wider by 2 d; 0.6 mm between the ends over 100 mm of slot."""
    gaps = Gaps(leading_inboard=1.4, leading_outboard=1.0, trailing_inboard=0.8, trailing_outboard=1.6)
    job = replace(good, trials=(Trial(gaps_mm=gaps, station_spacing_mm=100.0, taken="2026-01-02"),))
    (row,) = rows_of(trial_csv(solve(job)))
    lead, trail = (1.0 - 1.4) / 2, (1.6 - 0.8) / 2
    assert float(row["offset_mm"]) == pytest.approx((lead + trail) / 2, abs=1e-6)
    assert float(row["tilt_deg"]) == pytest.approx(math.degrees(math.atan((trail - lead) / 100.0)), abs=1e-5)
    assert [float(row[f"{name}_mm"]) for name in ("leading_inboard", "leading_outboard")] == [1.4, 1.0]


@pytest.mark.parametrize("corner", ["front-right", "front-left"])
def test_the_hole_table_is_the_knuckle(good: Job, corner: str) -> None:
    """Lugs stand where they were measured, forward and up, at either side of the car; ears their spacing apart."""
    job = with_edits(good, (("corner", corner),))
    rows = rows_of(plate_csv(solve(job)))
    lugs: tuple[Lug, ...] = job.knuckle.lugs
    for row, lug in zip(rows, lugs):
        assert (float(row["forward_mm"]), float(row["up_mm"])) == pytest.approx((lug.x_mm, lug.y_mm), abs=6e-4)
    ears = [(float(row["forward_mm"]), float(row["up_mm"])) for row in rows[len(lugs) :]]
    assert math.dist(*ears) == pytest.approx(job.caliper.ear_spacing_mm, abs=2e-3)


@pytest.mark.parametrize("corner", ["front-right", "front-left"])
def test_the_datums_axis_points_at_its_second_hole(good: Job, corner: str) -> None:
    """On the cutting file of either side the long arm of the cross runs through both holes it names."""
    solution = solve(with_edits(good, (("corner", corner),)))
    lines = MAKERS["cut"].make(solution, go_on, BLANK).decode().splitlines()
    pairs = [(int(code), value.strip()) for code, value in zip(lines[::2], lines[1::2])]
    things: list[dict[int, str]] = []
    for code, value in pairs:
        if code == 0:
            things.append({0: value})
        elif things:
            things[-1].setdefault(code, value)

    def at(thing: dict[int, str], code: int = 10) -> np.ndarray:
        return np.array([float(thing[code]), float(thing[code + 10])])

    arm = next(one for one in things if one[0] == "LINE" and one.get(8) == "NOTE")
    start, end = at(arm), at(arm, 11)
    way = (end - start) / np.linalg.norm(end - start)
    holes = [at(one) for one in things if one[0] == "CIRCLE"]
    first = min(holes, key=lambda hole: float(np.linalg.norm(hole - start - 6.0 * way)))
    part = solution.part
    assert part is not None
    apart = math.dist(part.bores[0].centre, part.bores[1].centre)
    assert min(float(np.linalg.norm(hole - first - apart * way)) for hole in holes) < 1e-6


def test_a_scaled_view_moves_its_lanes_too() -> None:
    """Every place, the base of the dimension lines and the bounds are twice as far from the origin; what is told stays."""
    sheet = Sheet()
    sheet.circle((10.0, 5.0), 3.0, "mark", "t", False, "solid")
    sheet.dimension(Dimension((1.0, 2.0), (11.0, 2.0), (1, 0), (0, 1), 14.0, "10 mm", "t", 0, 0))
    sheet.note(Note((4.0, 6.0), "here", "t", 0))
    drawing = sheet.finish((0.0, 0.0, 0.0, 0.0))
    (one,), (note,) = scaled(drawing, 2.0).dimensions, scaled(drawing, 2.0).notes
    assert (one.a, one.b, one.base, one.text, note.at) == ((2.0, 4.0), (22.0, 4.0), 28.0, "10 mm", (8.0, 12.0))
    assert scaled(drawing, 2.0).bounds == tuple(2 * value for value in drawing.bounds)

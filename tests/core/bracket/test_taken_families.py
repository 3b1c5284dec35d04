"""A bracket that is no flat plate, once taken: its rooms, bolts, papers and uncertainty are its own."""

import math

import numpy as np
import pytest
import shapely

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.bracket.fold import bend_lines
from bicentra.core.bracket.prisms import part_prisms
from bicentra.core.drawing.sheets.plate import hole_table, plate_sheet
from bicentra.core.drawing.space.scene import part_bodies
from bicentra.core.drawing.views.face import face_view
from bicentra.core.drawing.views.section import section_view
from bicentra.core.evaluation.own_bracket import find_bracket
from bicentra.core.evaluation.solution import solve
from bicentra.core.options import on_the_bench
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job, Obstacle
from bicentra.core.uncertainty.assess import assess
from bicentra.study.papers.solids import parts_to_make


def with_family(job: Job, family: str, *edits: tuple[str, object]) -> Job:
    """The job with another bracket taken."""
    return with_edits(job, (("bracket.family", family), *edits))


@pytest.fixture
def bent(good: Job) -> Job:
    """A job that a jogged plate suits, and that has taken one."""
    lugs = tuple(replace(lug, z_mm=lug.z_mm - 20.0) for lug in good.knuckle.lugs)
    return with_family(good, "jogged-plate", ("knuckle.lugs", lugs), ("bracket.wall_mm", 6.0),
                       ("caliper.ear_line_to_pad_top_mm", -60.0), ("bracket.material", "steel S355"))  # fmt: skip


def test_what_is_typed_is_what_is_made(good: Job) -> None:
    """A plate thickness and shims typed into the job are those of solids, template and card; another family's are chosen anew."""
    typed = with_edits(good, (("bracket.thickness_mm", 8.0), ("bracket.shims_mm", (2.2, 2.2))))
    part = parts_to_make(typed)[0]
    assert part.thickness == 8.0 and part.z0 == pytest.approx(solve(typed).assembly.stack_up.z_range[0])
    assert part.mass_kg == pytest.approx(solve(typed).mass_kg) and solve(typed).part == part
    assert find_bracket(typed, "two-part").bracket.solved["spacer_mm"] == pytest.approx(2.2)
    wrong = with_edits(good, (("bracket.thickness_mm", 12.0),))
    own, shown = on_the_bench(wrong)
    assert own.verdict is Verdict.STOP and own is shown[0] and shown[1].title == "Flat plate, as it could be"
    assert on_the_bench(good)[0] in on_the_bench(good)[1] and len(on_the_bench(good)[1]) < len(shown)


def test_room_round_a_bent_plate(bent: Job) -> None:
    """A second way: every corner of its bent mesh to rotor and hub, in radius and height; the slabs err towards a clash only."""
    solution = solve(bent)
    (part,) = solution.bracket.parts
    spots = np.concatenate([body.corners for body in part_bodies(part)])
    spots = np.concatenate([spots, (spots[:-1] + spots[1:]) / 2])
    for id, rings in (("rotor", solution.assembly.rotor), ("hub", solution.assembly.hub)):
        rho, z = np.hypot(spots[:, 0], spots[:, 1]), spots[:, 2]
        gaps = []
        for ring in rings:
            dr = np.maximum(np.maximum(ring.r0 - rho, rho - ring.r1), 0.0)
            dz = np.maximum(np.maximum(ring.z0 - z, z - ring.z1), 0.0)
            gaps.append(np.hypot(dr, dz).min())
        found = solution.finding(f"bracket-to-{id}").value
        assert min(gaps) - 1.0 < found < min(gaps) + 0.02, id
    assert {f.id for f in solution.findings if f.verdict is Verdict.UNKNOWN} <= {"wheel-room"}
    fold = part.bends[0]
    middle = ((fold.a[0] + fold.b[0]) / 2, (fold.a[1] + fold.b[1]) / 2)
    square = tuple((middle[0] + dx, middle[1] + dy) for dx, dy in ((-3, -3), (3, -3), (3, 3), (-3, 3)))
    z = solution.line.ear_face_z
    round_one = Obstacle(name="post", outline_mm=square, z_min_mm=z - 40.0, z_max_mm=z + 5.0)
    met = solve(with_edits(bent, (("knuckle.obstacles", (round_one,)),)))
    assert met.finding("bracket-to-obstacle").verdict is Verdict.STOP and not met.feasible


def test_slabs_are_the_part(good: Job, bent: Job) -> None:
    """Their volume is that of a flat or milled part; those of a bent one hold it."""
    for family in ("flat-plate", "stepped-plate", "two-part", "axle-end-plate"):
        for part in find_bracket(good, family).bracket.parts:
            full = math.fsum(prism.shape.area * (prism.z1 - prism.z0) for prism in part_prisms(part))
            solid = part.volume if part.outline else math.pi / 4 * part.outer**2 * part.thickness
            assert full == pytest.approx(solid, rel=2e-3), part.name
    (part,) = solve(bent).bracket.parts
    boxes = part_prisms(part)
    for x, y, z in np.concatenate([body.corners for body in part_bodies(part)])[::40]:
        held = [s for s in boxes if s.z0 - 1e-6 <= z <= s.z1 + 1e-6 and s.shape.distance(shapely.Point(x, y)) < 0.1]
        assert held, (x, y, z)


def test_bolts_of_a_step_and_of_a_bend(good: Job, bent: Job) -> None:
    """By hand: 12 mm at the lugs and 10.2 mm under the ears of the stepped plate; the sheet at both of a bent one; caliper dead on."""
    sheet = find_bracket(bent, "jogged-plate").bracket.solved["thickness_mm"]
    for job, at_lug, at_ear in ((with_family(good, "stepped-plate"), 12.0, 10.2), (bent, sheet, sheet)):
        solution = solve(job)
        washer = solution.assembly.joints[0].joint.washer_thickness
        grips = {p.feature: p.joint.grip - washer for p in solution.assembly.joints}
        assert grips["lug-bolt-0"] == pytest.approx(at_lug) and grips["ear-bolt-0"] == pytest.approx(at_ear)
        assert solution.finding("axial-offset").value == pytest.approx(0.0, abs=1e-9)
        assert solution.assembly.stack_up.ear_z == pytest.approx(solution.line.ear_face_z)


def test_an_axle_end_plate_is_spaced_or_milled(good: Job) -> None:
    """Ears 0.2 mm outboard of its face get a spacer that is no thread; 3 mm inboard of it a pocket; both volumes closed."""
    spaced = with_family(good, "axle-end-plate", ("caliper.ear_thread", None))
    solution = solve(spaced)
    ear = next(p for p in solution.assembly.joints if p.feature == "ear-bolt-0").joint
    assert ear.stack.female == "plate" and ear.stack.depth == pytest.approx(10.0), "the spacer has no thread"
    assert (
        len(solution.bracket.parts) == 1
        and "0.20 mm of shims" in solution.bracket.why
        and solution.assembly.bolted == ("ear",)
    )
    far = solve(with_edits(spaced, (("hub.retainer_face_z_mm", -76.0),))).bracket
    assert [p.name for p in far.parts] == ["axle-end plate", "spacer at ear 1", "spacer at ear 2"]
    assert far.parts[1].thickness == pytest.approx(2.5) and far.parts[1].z0 == pytest.approx(-66.0)
    deep = with_edits(spaced, (("hub.retainer_face_z_mm", -70.5), ("hub.retainer_bolt_end_z_mm", None)))
    milled = solve(deep).bracket
    assert milled.parts[0].pockets[0].depth == pytest.approx(3.0) and len(milled.parts) == 1
    assert solve(deep).finding("axle-end-bolts").verdict is Verdict.UNKNOWN
    assert find_bracket(with_edits(good, (("hub.retainer_bolt", None),)), "axle-end-plate").bracket.needs


@pytest.mark.parametrize("family", ["stepped-plate", "two-part", "axle-end-plate", "jogged-plate", "weld-on"])
def test_papers_show_the_bracket_that_is_taken(good: Job, bent: Job, family: str) -> None:
    """Template, hole table and both sightlines are of its own plate, not of the flat one; a bent one's template is its blank."""
    job = bent if family == "jogged-plate" else with_family(good, family, ("bracket.material", "steel S355"))
    solution = solve(job)
    part = next(p for p in solution.bracket.parts if p.outline is not None)
    sheet = plate_sheet(solution)
    assert sheet.shapes[0].loops[0] == part.outline.vertices and len(hole_table(solution)) == len(part.bores)
    assert sum("bend" in note.text for note in sheet.notes) == len(bend_lines(part)) == len(part.bends)
    seen, across = face_view(solution), section_view(solution)
    made = [shape for shape in seen.shapes if shape.ink == "made" and shape.tag == "bracket"]
    prisms = [prism for one in solution.bracket.parts for prism in part_prisms(one)]
    low, high = (min(s.z0 for s in prisms), max(s.z1 for s in prisms))
    loops = [loop for s in across.shapes if s.tag == "bracket" and s.ink == "made" for loop in s.loops]
    assert made and min(x for loop in loops for x, _, _ in loop) == pytest.approx(
        low, abs=0.01 if not part.bends else 1.0
    )
    assert max(x for loop in loops for x, _, _ in loop) >= high - 1.0


def test_a_taken_bracket_keeps_the_surveys_uncertainty(demo: Job) -> None:
    """Once it is cut, an error of the survey moves the caliper whatever the bracket's kind: as much as with a flat plate."""
    anew = with_edits(demo, (("bracket.thickness_mm", None), ("bracket.caliper_bolt_length_mm", None)))
    flat, spacers, step = (
        assess(solve(with_family(anew, family))).solution.finding("axial-offset")
        for family in ("flat-plate", "two-part", "stepped-plate")
    )
    assert flat.sd > 0.01 and spacers.sd == pytest.approx(flat.sd) and step.sd == pytest.approx(flat.sd)

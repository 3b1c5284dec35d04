"""Cutouts: true outlines and areas, metal beside them, lightening to a mass, moves held where the metal ends."""

import math

import pytest
import shapely

from bicentra.core.base.errors import ExportError, JobError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.bracket.cutouts import cutout_outline, metal_beside
from bicentra.core.evaluation.own_bracket import find_bracket
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.outline import Outline
from bicentra.core.parts.edits import with_edits, with_value
from bicentra.core.parts.job import Cutout, Job
from bicentra.core.parts.validate import validate
from bicentra.formats.solids import solid_of, volume_and_centroid
from bicentra.study.desks.shaping import allowed, lighten
from tests.jobs import net


def test_a_slot_is_two_half_circles() -> None:
    """Area by hand, bounds turned with it; no length is a round hole."""
    slot = cutout_outline(Cutout(x_mm=10.0, y_mm=5.0, diameter_mm=12.0, length_mm=30.0, angle_deg=90.0))
    assert slot.area == pytest.approx(math.pi * 36 + 12 * 30)
    assert slot.bounds == pytest.approx((4.0, 5.0 - 21.0, 16.0, 5.0 + 21.0))
    assert cutout_outline(Cutout(x_mm=0.0, y_mm=0.0, diameter_mm=20.0)).area == pytest.approx(math.pi * 100)


def test_lightening_keeps_its_metal(good: Job) -> None:
    """Towards the mass asked for; every hole, measured by dense outlines, keeps 8 mm to edge, holes and each other."""
    solution = solve(good)
    target = solution.mass_kg * 0.8
    lit = with_edits(good, lighten(solution, target))
    after = solve(lit)
    assert lit.bracket.cutouts and target - 0.01 <= after.mass_kg <= target + 0.004
    finding = after.finding("cutout-metal")
    assert finding.verdict is Verdict.OK
    plate = shapely.Polygon(after.bracket.shape.outline.polygon(0.002))
    discs = [shapely.Polygon(outline.polygon(0.002)) for outline in after.bracket.shape.cutouts]
    holes = [shapely.Point(h.centre).buffer(h.diameter / 2, 256) for h in after.assembly.holes]
    rooms = [disc.distance(plate.exterior) for disc in discs] + [
        disc.distance(hole) for disc in discs for hole in holes
    ]
    rooms += [a.distance(b) for k, a in enumerate(discs) for b in discs[:k]]
    assert min(rooms) == pytest.approx(finding.value, abs=0.01) and min(rooms) >= 8.0 - 0.01
    with pytest.raises(ExportError, match="already"):
        lighten(solution, 5.0)
    with pytest.raises(ExportError, match="have to be known"):
        lighten(solve(replace(Job(), knuckle=good.knuckle)), 0.1)


def test_a_move_is_held_where_the_metal_ends(good: Job) -> None:
    """Free inside, held at 5 mm from the edge with the reason; what is too close may be moved out again."""
    job = with_edits(good, (("bracket.cutouts", (Cutout(x_mm=-76.0, y_mm=5.0, diameter_mm=20.0),)),))
    assert allowed(solve(job), "bracket.cutouts[0].x_mm", -75.0) == (-75.0, "")
    reached, why = allowed(solve(job), "bracket.cutouts[0].x_mm", -20.0)
    held = solve(with_value(job, "bracket.cutouts[0].x_mm", reached))
    assert -75.0 < reached < -20.0 and "the edge" in why
    assert held.finding("cutout-metal").value == pytest.approx(5.0, abs=0.02)
    wide, _ = allowed(solve(job), "bracket.cutouts[0].diameter_mm", 200.0)
    assert solve(with_value(job, "bracket.cutouts[0].diameter_mm", wide)).finding(
        "cutout-metal"
    ).value == pytest.approx(5.0, abs=0.02)
    out = with_edits(job, (("bracket.cutouts", (Cutout(x_mm=0.0, y_mm=5.0, diameter_mm=20.0),)),))
    assert solve(out).finding("cutout-metal").verdict is Verdict.STOP and not solve(out).feasible
    assert allowed(solve(out), "bracket.cutouts[0].x_mm", -76.0) == (-76.0, "")
    blank = with_edits(job, (("bracket.cutouts", (Cutout(x_mm=None, y_mm=0.0, diameter_mm=9.0),)),))
    assert solve(blank).finding("cutout-metal").verdict is Verdict.UNKNOWN


def test_cutouts_are_in_every_made_thing(good: Job) -> None:
    """Plate mass, solid and stepped plate lose exactly the slot."""
    slot = Cutout(x_mm=-78.0, y_mm=0.0, diameter_mm=14.0, length_mm=20.0, angle_deg=90.0)
    job = with_edits(good, (("bracket.cutouts", (slot,)),))
    gone = math.pi * 49 + 14 * 20
    assert net(solve(good)) - net(solve(job)) == pytest.approx(gone)
    for family in ("flat-plate", "stepped-plate", "two-part"):
        before, part = find_bracket(good, family).bracket.parts[0], find_bracket(job, family).bracket.parts[0]
        deep = part.thickness - (part.pockets[0].depth if part.pockets else 0.0)  # the step is milled round it
        assert before.volume - part.volume == pytest.approx(gone * deep, rel=1e-4)
        assert volume_and_centroid(solid_of(part))[0] == pytest.approx(part.volume, rel=1e-3)


def test_each_boss_has_its_own_wall(good: Job) -> None:
    """One number a hole, lugs first; the outline grows there only; a wrong count is refused by its path."""
    job = with_edits(good, (("bracket.boss_walls_mm", (10.0, 10.0, 10.0, 16.0)),))
    before, after = solve(good).assembly.holes, solve(job).assembly.holes
    assert [b.boss_radius - a.boss_radius for a, b in zip(before, after)] == pytest.approx([0.0, 0.0, 0.0, 6.0])
    assert solve(job).bracket.shape.outline.distance_to(after[3].centre) == pytest.approx(after[3].drill / 2 + 16.0)
    with pytest.raises(JobError, match=r"bracket.boss_walls_mm: found 2 numbers"):
        validate(with_edits(good, (("bracket.boss_walls_mm", (8.0, 8.0)),)))


def test_metal_to_the_edge_by_hand() -> None:
    """A plate of 100 by 60: a hole of 10 mm, 15 mm from its long edge, leaves 10 mm; one whose middle lies outside leaves less than none."""
    plate = Outline(((0.0, 0.0, 0.0), (100.0, 0.0, 0.0), (100.0, 60.0, 0.0), (0.0, 60.0, 0.0)))
    for y, left in ((15.0, 10.0), (45.0, 10.0), (5.0, 0.0), (-3.0, -8.0)):
        found = metal_beside((Cutout(x_mm=50.0, y_mm=y, diameter_mm=10.0),), plate, None, ())
        assert (found.value, found.beside) == (pytest.approx(left, abs=1e-6), "the edge")

"""Countersinks, slots and dowels: their numbers by hand, in every thing that is made of them, and what is said of them."""

import io
import math

import numpy as np
import pytest
import shapely
from ezdxf.filemanagement import read as read_dxf

from bicentra.core.base.errors import JobError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.holes import sink_volume
from bicentra.core.clearance.clock_sweep import ligament_sweep
from bicentra.core.drawing.sheets.plate import hole_table, plate_sheet
from bicentra.core.drawing.space.scene import part_bodies
from bicentra.core.drawing.views.face import face_view
from bicentra.core.drawing.views.joint import joint_view
from bicentra.core.drawing.views.section import section_view
from bicentra.core.evaluation.own_bracket import find_bracket
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Dowel, Job, LugBolt
from bicentra.core.parts.validate import validate
from bicentra.core.search.clock import search_clock
from bicentra.core.uncertainty.doubts import radial_play
from bicentra.formats.dxf import cutting_dxf
from bicentra.formats.solids import solid_of, volume_and_centroid
from tests.jobs import net

PINS = (Dowel(x_mm=-75.0, y_mm=20.0, diameter_mm=6.0), Dowel(x_mm=-75.0, y_mm=-20.0, diameter_mm=6.0))


@pytest.fixture
def sunk(good: Job) -> Job:
    """Countersunk lug bolts in a 12 mm plate."""
    return with_edits(good, (("bracket.thickness_mm", 12.0), ("bracket.lug_hole", "countersink")))


@pytest.fixture
def slotted(good: Job) -> Job:
    """Lug holes as slots of 6 mm along the caliper's radius."""
    return with_edits(good, (("bracket.lug_hole", "slot"), ("bracket.slot_mm", 6.0)))


def test_a_countersunk_bolt_is_flush(sunk: Job) -> None:
    """By hand, head Ø 24 and 6.5 high as in the outside table of the validation: head flush, its length counted from there; 5.5 mm of floor: a watch."""
    solution = solve(sunk)
    bolt = next(p for p in solution.assembly.joints if p.feature == "lug-bolt-0")
    assert bolt.head_z == bolt.seat_z == pytest.approx(solution.assembly.stack_up.far_z)
    assert (
        bolt.joint.grip == pytest.approx(12.0 + solution.assembly.stack_up.shims[0]) and bolt.joint.stack.washers == 0
    )
    floor = solution.finding("counterbore-floor")
    assert floor.value == pytest.approx(5.5) and floor.verdict is Verdict.CAUTION
    assert bolt.tip_z == pytest.approx(bolt.head_z - bolt.joint.length)
    odd = with_edits(sunk, (("bracket.lug_bolt", "9/16-18"),))
    with pytest.raises(JobError, match="no countersunk screws"):
        validate(odd)


def test_a_countersink_in_every_made_thing(sunk: Job) -> None:
    """Frustum of 24.5 to 13.5 mm at 90°: volume by Simpson's rule, exact for a cone; solid, mesh, mass and cutting file agree."""
    high = (24.5 - 13.5) / 2
    disc = [math.pi / 4 * (d**2 - 13.5**2) for d in (24.5, 19.0, 13.5)]
    assert sink_volume(24.5, 13.5, 90.0) == pytest.approx(high / 6 * (disc[0] + 4 * disc[1] + disc[2]))
    for family in ("flat-plate", "stepped-plate"):
        part = find_bracket(with_edits(sunk, (("bracket.family", family),)), family).bracket.parts[0]
        assert part.bores[0].sink is not None and "countersink 90° to Ø 24.5" in part.bores[0].note
        assert volume_and_centroid(solid_of(part))[0] == pytest.approx(part.volume, rel=1e-4)
        document = read_dxf(io.StringIO(cutting_dxf((part,)).decode()))
        assert len(document.modelspace().query('CIRCLE[layer=="SINK"]')) == 2
    plain = solve(with_edits(sunk, (("bracket.lug_hole", "clearance"),))).mass_kg
    gone = 2 * sink_volume(24.5, 13.5, 90.0) * 2700e-9
    assert plain - solve(sunk).mass_kg == pytest.approx(gone, rel=1e-6)


def test_slots_reach_everywhere(slotted: Job) -> None:
    """Metal, edges and outline go by the slots' ends; area less a stadium; sheet, solid and cutting file show a slot."""
    round_ones = with_edits(slotted, (("bracket.lug_hole", "clearance"),))
    before, after = solve(round_ones), solve(slotted)
    (a, b) = after.assembly.holes[0].ends
    way = math.degrees(math.atan2(a[1] - b[1], a[0] - b[0])) % 360
    assert math.dist(a, b) == pytest.approx(6.0) and way == pytest.approx(after.line.clock), (
        "along the caliper's radius"
    )
    holes = after.assembly.holes
    lines = [shapely.LineString(h.ends) if h.slot else shapely.Point(h.centre) for h in holes]
    least = min(
        lines[i].distance(lines[j]) - (holes[i].widest + holes[j].widest) / 2 for j in range(4) for i in range(j)
    )
    assert after.finding("ligament").value == pytest.approx(least) and least < before.finding("ligament").value
    turns = np.radians([150.0, 184.0, 20.0])
    swept = ligament_sweep(after.assembly, turns).value
    for turn, value in zip(np.degrees(turns), swept):
        there = solve(with_edits(slotted, (("fit.clock_deg", float(turn)),)))
        assert there.finding("ligament").value == pytest.approx(value)
    part, plain = after.part, before.part
    stadium = math.pi / 4 * 13.5**2 + 13.5 * 6.0
    assert part.outline.area - net(after) == pytest.approx(2 * stadium + plain.bores[2].area * 2)
    assert part.outline.distance_to(a) >= 6.75 + 10.0 - 1e-9, "a wall round both ends"
    assert volume_and_centroid(solid_of(part))[0] == pytest.approx(part.volume)
    bodies = part_bodies(part)
    assert len(bodies) == 1 and hole_table(after)[0].note == "slot 13.5 mm × 19.5 mm"
    loops = [s for s in plate_sheet(after).shapes if s.ink == "outline"]
    assert len(loops) == 3 and len(plate_sheet(after).notes) >= 4
    space = read_dxf(io.StringIO(cutting_dxf((part,)).decode())).modelspace()
    assert len(space.query('LWPOLYLINE[layer=="CUT"]')) == 3 and len(space.query("CIRCLE")) == 2


def test_the_clock_search_knows_slots(slotted: Job) -> None:
    """Every angle of the sweep is that of a solve at that angle, slots turning with the caliper's radius."""
    found = search_clock(slotted)
    assert found is not None and found.windows
    for window in found.windows:
        at = solve(with_edits(slotted, (("fit.clock_deg", window.best),)))
        assert at.feasible


def test_slots_are_play_until_they_are_dowelled(slotted: Job) -> None:
    """Half their travel either way; two dowels leave the lugs' holes no play, only the ears' (12.5 on M12 at most)."""
    round_ones = with_edits(slotted, (("bracket.lug_hole", "clearance"),))
    pinned = with_edits(slotted, (("bracket.dowels", PINS),))
    loose, plain, held = (radial_play(job, solve(job).assembly) for job in (slotted, round_ones, pinned))
    assert loose - plain == pytest.approx(3.0) and held == pytest.approx(plain - 0.75)


def test_slots_slip_until_they_are_dowelled(slotted: Job) -> None:
    """Friction alone is a watch; two dowels hold; a dowel near the edge stops; what is missing is named."""
    assert solve(slotted).finding("slot-hold").verdict is Verdict.CAUTION
    pinned = with_edits(slotted, (("bracket.dowels", PINS),))
    solution = solve(pinned)
    assert solution.finding("slot-hold").verdict is Verdict.OK and solution.finding("dowel-metal").verdict is Verdict.OK
    assert [b.name for b in solution.part.bores[-2:]] == ["dowel 1", "dowel 2"] and "ream" in solution.part.bores[
        -1
    ].note
    assert net(solve(slotted)) - net(solution) == pytest.approx(2 * math.pi / 4 * 36.0)
    assert volume_and_centroid(solid_of(solution.part))[0] == pytest.approx(solution.part.volume)
    x = solution.part.outline.bounds[0]
    near = with_edits(pinned, (("bracket.dowels", (Dowel(x_mm=x + 4.0, y_mm=0.0),)),))
    assert solve(near).finding("dowel-metal").verdict is Verdict.STOP
    blank = with_edits(slotted, (("bracket.slot_mm", None),))
    assert "travel of the slots" in solve(blank).finding("ligament").why
    for drawing in (face_view(solution), section_view(solution), joint_view(solution.assembly, LengthFormat("mm"))):
        assert drawing.shapes


def test_a_lug_bolt_may_be_asked_for_as_it_is_placed(good: Job) -> None:
    """Into a tapped plate it comes from the other side of the lug, else from the bracket's side; any other way is not worked out."""
    ways = [
        (side, kind, way)
        for side in ("outboard", "inboard")
        for kind in ("tapped", "clearance")
        for way in ("outboard", "inboard")
    ]
    for side, kind, way in ways:
        into = "plate" if kind == "tapped" else "thread" if good.knuckle.lugs[0].thread else "nut"
        lug = replace(good.knuckle.lugs[0], bolt=LugBolt(from_=way, into=into))
        job = with_edits(
            good,
            (
                ("survey", {}),
                ("bracket.side", side),
                ("bracket.lug_hole", kind),
                ("knuckle.lugs", (lug, *good.knuckle.lugs[1:])),
            ),
        )
        text = [f for f in solve(job, turns=False).findings if f.id == "unsupported"]
        assert bool(text) is ((way == side) is (kind == "tapped")), (side, kind, way)

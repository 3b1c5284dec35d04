"""Plate thickness from stock with the rest as shims; bolts in their stacks. Worked by hand."""

import math

import pytest

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import assemble
from bicentra.core.bracket.holes import Hole
from bicentra.core.bracket.stack_up import shim_pieces, stock_below
from bicentra.core.bracket.thread_checks import thread_holds
from bicentra.core.clearance.access import ways_out
from bicentra.core.evaluation.own_bracket import find_bracket
from bicentra.core.evaluation.solution import solve
from bicentra.core.fasteners.joint import Stack, make_joint, nut_stack
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job, Obstacle
from bicentra.core.parts.threads import THREADS
from bicentra.formats.solids import solid_of, volume_and_centroid


@pytest.mark.parametrize(
    ("amount", "pieces"),
    [
        (0.0, ()),
        (-1.0, ()),
        (0.2, (0.2,)),
        (1.3, (0.8, 0.5)),
        (2.0, (1.0, 1.0)),
        (0.75, (0.5, 0.25)),
        (0.04, ()),
        (6.5, (1.0,) * 6 + (0.5,)),
    ],
)
def test_shims_are_pieces_on_sale(amount: float, pieces: tuple[float, ...]) -> None:
    """The nearest sum of shims on sale, with the fewest pieces."""
    assert sorted(shim_pieces(amount)) == pytest.approx(sorted(pieces))


def test_stock_is_never_thicker_than_the_room() -> None:
    """The thickest plate that still goes in; the thinnest one when none does."""
    assert stock_below(11.9, (8.0, 10.0, 12.0)) == 10.0
    assert stock_below(12.0, (8.0, 10.0, 12.0)) == 12.0
    assert stock_below(3.0, (8.0, 10.0, 12.0)) == 8.0


def test_automatic_thickness_centres_the_caliper(good: Job) -> None:
    """Δ = 10.2: a 10 mm plate and 0.2 mm of shims; nothing is left over."""
    stack_up = assemble(good).stack_up
    assert (stack_up.thickness, stack_up.shims) == (10.0, (0.2, 0.2))
    assert stack_up.errors == pytest.approx((0.0, 0.0), abs=1e-9)


def test_uneven_lugs_get_unlike_shims(good: Job) -> None:
    """One lug 0.5 mm further in needs 0.5 mm more under the plate."""
    lugs = (good.knuckle.lugs[0], replace(good.knuckle.lugs[1], z_mm=-74.2))
    stack_up = assemble(replace(good, knuckle=replace(good.knuckle, lugs=lugs))).stack_up
    assert stack_up.shims == pytest.approx((0.2, 0.7))


def test_bolt_in_a_threaded_part() -> None:
    """M12 × 40 through a 2.5 washer and 12 of plate into 18 of thread: grip 14.5, 18 engaged, 7.5 sticking out."""
    joint = make_joint(THREADS["M12x1.5"], Stack(12.0, 1, 18.0, "ear", 12.0, 18.0), 40.0)
    assert (joint.grip, joint.engagement, joint.protrusion) == (14.5, 18.0, 7.5)
    assert joint.tip == 37.5


def test_stock_length_is_the_shortest_that_holds() -> None:
    """14.5 of grip and 18 wanted: 32.5, so M12 × 35 from the stock list."""
    joint = make_joint(THREADS["M12x1.5"], Stack(12.0, 1, 18.0, "ear", 12.0, 18.0), None)
    assert (joint.length, joint.chosen) == (35.0, True)


def test_nut_wants_one_pitch_past_it() -> None:
    """34 clamped, 2.5 washer, 10.8 nut and one pitch of 1.75: 49.05, so M12 × 50."""
    thread = THREADS["M12x1.75"]
    joint = make_joint(thread, nut_stack(thread, 34.0, 1), None)
    assert joint.length == 50.0
    assert joint.engagement == pytest.approx(10.8)


def test_where_bolts_come_to_lie(demo: Job) -> None:
    """Ear bolt of the demo: seat −73.7, washer 2.5, M12 × 45: head underside −76.2, tip −31.2, head top −83.7.

    The rotor's inboard face lies at −37.5: the tip is 6.3 inside it.
    """
    placed = assemble(demo).joints[2]
    assert placed.name == "bolt at ear 1"
    assert placed.seat_z == pytest.approx(-73.7)
    assert placed.tip_z == pytest.approx(-31.2)
    assert placed.head_z == pytest.approx(-83.7)


@pytest.mark.parametrize(
    ("thread", "kind", "hole", "expected"),
    [("M12x1.5", "auto", 13.5, "clearance"), (None, "auto", 10.5, "tapped"), (None, "clearance", 13.5, "clearance")],
)
def test_holes_follow_what_is_behind_them(good: Job, thread: str | None, kind: str, hole: float, expected: str) -> None:
    """A threaded lug takes a clearance hole in the plate, a plain one a tapped hole, or a nut when asked."""
    lugs = tuple(replace(lug, thread=thread) for lug in good.knuckle.lugs)
    job = replace(good, knuckle=replace(good.knuckle, lugs=lugs), bracket=replace(good.bracket, lug_hole=kind))
    made = assemble(job)
    assert (made.holes[0].kind, made.holes[0].drill) == (expected, hole)
    female = {"tapped": "plate", "clearance": "lug" if thread else "nut"}[expected]
    assert made.joints[0].joint.stack.female == female
    assert (made.joints[0].way > 0) == (expected == "tapped")


def test_the_way_out_of_a_bolt(good: Job) -> None:
    """By hand: an arm 25 mm behind the ear bolts' heads is too near for a 35 mm bolt and a socket; beside it nothing stands."""
    solution = solve(good)
    ear = next(p for p in solution.assembly.joints if p.feature == "ear-bolt-0")
    x, y = ear.centre
    back = ear.head_z - 25.0
    square = ((x - 5.0, y - 5.0), (x + 5.0, y - 5.0), (x + 5.0, y + 5.0), (x - 5.0, y + 5.0))
    arm = Obstacle(name="arm", outline_mm=square, z_min_mm=back - 20.0, z_max_mm=back)
    job = replace(good, knuckle=replace(good.knuckle, obstacles=(arm,)))
    way = next(w for w in ways_out(solve(job).assembly) if w.name == ear.name)
    assert way.free == pytest.approx(25.0) and "too little for the bolt and the socket" in way.text
    before = replace(arm, z_min_mm=ear.head_z + 60.0, z_max_mm=ear.head_z + 80.0)
    clear = replace(good, knuckle=replace(good.knuckle, obstacles=(before,)))
    assert math.isinf(next(w for w in ways_out(solve(clear).assembly) if w.name == ear.name).free)
    blank = replace(good, knuckle=replace(good.knuckle, obstacles=(replace(arm, z_max_mm=None),)))
    assert "unknown" in next(w for w in ways_out(solve(blank).assembly) if w.name == ear.name).text


def hole_of(job: Job) -> Hole:
    """The first lug's hole."""
    return solve(job).assembly.holes[0]


def test_a_counterbore_takes_the_head(good: Job) -> None:
    """By hand: M12 head 7.5 and one washer 2.5 sink 10 mm: flush; the grip is as much shorter, the floor of a 12 mm plate too thin."""
    plain = with_edits(good, (("bracket.thickness_mm", 20.0), ("bracket.shims_mm", (0.0, 0.0))))
    sunk = with_edits(plain, (("bracket.lug_hole", "counterbore"),))
    before, after = (next(p for p in solve(job).assembly.joints if p.feature == "lug-bolt-0") for job in (plain, sunk))
    face = solve(plain).assembly.stack_up.far_z
    assert after.head_z == pytest.approx(face) and before.head_z == pytest.approx(face + 10.0)
    assert before.joint.grip - after.joint.grip == pytest.approx(10.0)
    finding = solve(sunk).finding("counterbore-floor")
    assert finding.value == pytest.approx(10.0) and finding.verdict is Verdict.OK
    narrow, wide = (solve(job).finding("ligament").value for job in (sunk, plain))
    assert wide - narrow == pytest.approx((hole_of(sunk).recess_diameter - hole_of(sunk).drill) / 2), (
        "counterbores keep apart too"
    )
    thin = with_edits(sunk, (("bracket.thickness_mm", 12.0), ("bracket.stock_mm", (12.0, 20.0))))
    bad = solve(thin).finding("counterbore-floor")
    assert bad.verdict is Verdict.STOP
    proud, thicker = (solve(with_edits(thin, remedy.edits)) for remedy in bad.remedies)
    assert all(f.id != "counterbore-floor" for f in proud.findings)
    assert thicker.finding("counterbore-floor").verdict is Verdict.OK
    hole = hole_of(sunk)
    part = find_bracket(with_edits(sunk, (("bracket.thickness_mm", None),)), "flat-plate").bracket.parts[0]
    assert "counterbore" in hole.text(sunk.lengths) and len(part.pockets) == 2 and part.pockets[0].face == 1.0
    assert volume_and_centroid(solid_of(part))[0] == pytest.approx(part.volume, rel=1e-4)


def test_clearance_classes_of_the_plates_holes(good: Job) -> None:
    """M12: 13, 13.5 and 14.5 mm, as in the outside table of the validation."""
    sizes = [
        solve(with_edits(good, (("bracket.hole_class", c),))).assembly.holes[0].drill
        for c in ("close", "normal", "loose")
    ]
    assert sizes == [13.0, 13.5, 14.5]


def test_a_thread_that_strips_before_the_bolt_breaks_is_told(good: Job) -> None:
    """By hand: M12x1.5 8.8 (A_s 88.1 mm2) in 230 N/mm2: 800 × 88.1 / (0.577 × 230 × 0.875 π 12) = 16.1 mm."""
    soft = with_edits(good, (("knuckle.material", "aluminium"),))
    hold = thread_holds(solve(soft).assembly)[0]
    assert hold.needed == pytest.approx(16.1, abs=0.05) and hold.female == "lug"
    short = with_edits(soft, (("bracket.lug_bolt_length_mm", 25.0),))
    assert "strips first" in thread_holds(solve(short).assembly)[0].text(LengthFormat("mm"))
    blank = with_edits(good, (("knuckle.material", None),))
    assert "unknown" in thread_holds(solve(blank).assembly)[0].text(LengthFormat("mm"))

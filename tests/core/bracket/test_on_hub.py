"""What is made for the rotor's side: sizes by hand, volumes against the solid kernel, papers; rotor and ring turned over."""

import math

import pytest

from bicentra.core.base.errors import ExportError
from bicentra.core.base.finding import Edit, Verdict
from bicentra.core.bracket.on_hub import hub_parts, pin_holes
from bicentra.core.evaluation.solution import solve
from bicentra.core.lineup.redrill import drilling, plan_redrill
from bicentra.core.lineup.rotor_on_hub import other_face_height
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job, Rotor
from bicentra.core.parts.patterns import Pattern
from bicentra.formats.solids import solid_of, volume_and_centroid
from bicentra.study.papers.papers import PAPERS
from bicentra.study.papers.solids import hub_made
from bicentra.study.papers.writing import ready_problem

OTHER: tuple[Edit, ...] = (("rotor.bolt_circle_mm", 139.7), ("rotor.hole_count", 5), ("rotor.hole_mm", 14.0))
HELD: tuple[Edit, ...] = (("bracket.thickness_mm", 10.0), ("bracket.shims_mm", (0.2, 0.2)))


def test_volumes_are_those_of_the_solids(good: Job) -> None:
    """Every part's volume, cone and saw cuts of the puck too, against the solid kernel's."""
    edits = (*OTHER, ("fit.rotor_spacer_mm", 3.0), ("fit.hub_ring", "steel"), ("rotor.centre_bore_mm", 64.0),
             ("hub.pilot_length_mm", 12.0), ("rotor.old_holes", "filled"))  # fmt: skip
    parts = hub_made(with_edits(good, edits))
    names = ["rotor spacer", "hub-centric ring", "drilling jig", "centring puck", "plug of an old hole"]
    assert [part.name for part in parts] == names
    for part in parts:
        assert part.volume == pytest.approx(volume_and_centroid(solid_of(part))[0], rel=2e-4), part.name
        assert part.text and part.kept


def test_the_jig_is_pinned_through_holes_that_are_free() -> None:
    """By hand: of five on 108 with the first on a guide, 2 to 5 are free, the furthest 108·sin 72° apart; none where all are cut."""
    plan = plan_redrill(Pattern(5, 108), Pattern(4, 100), 12.6, share=True)
    one, other = pin_holes(plan)
    olds = plan.old.centres()
    assert 0 not in (one, other)
    assert math.dist(olds[one], olds[other]) == pytest.approx(108 * math.sin(math.radians(72)))
    assert pin_holes(plan_redrill(Pattern(4, 106), Pattern(4, 100), 12.6, share=True)) == ()


def test_what_is_not_known_is_named(good: Job) -> None:
    """A ring without the pilot's length, a rotor side with nothing to make: said, not guessed, and at once."""
    with pytest.raises(ExportError, match="nothing is made for hub or rotor"):
        hub_made(good)
    ring = with_edits(
        good, (("fit.hub_ring", "plastic"), ("rotor.centre_bore_mm", 64.0), ("hub.pilot_length_mm", None))
    )
    with pytest.raises(ExportError, match="hub-centric ring: pilot, its length"):
        hub_made(ring)
    assert all("pilot, its length" in ready_problem(solve(ring), kind) for kind in PAPERS if kind.startswith("hub-"))
    tight = with_edits(ring, (("hub.pilot_length_mm", 12.0), ("rotor.centre_bore_mm", 57.2)))
    assert "leaves no room" in hub_parts(tight, None, tight.lengths).open[0] and drilling(tight) is not None


def test_behind_a_flange_the_plate_goes_over_the_barrel(good: Job) -> None:
    """Its bore is the barrel's, not the pilot's; without the barrel it is not drawn; a ring on the pilot centres nothing there."""
    behind = with_edits(
        good, (("hub.mounting", "behind-flange"), ("fit.rotor_spacer_mm", 3.0), ("hub.barrel_diameter_mm", 80.0))
    )
    assert hub_made(behind)[0].bores[0].drill == pytest.approx(80.05)
    assert (
        "hub barrel" in hub_parts(with_edits(behind, (("hub.barrel_diameter_mm", None),)), None, good.lengths).open[0]
    )
    ring = with_edits(
        behind, (("fit.hub_ring", "steel"), ("rotor.centre_bore_mm", 64.0), ("hub.pilot_length_mm", 12.0))
    )
    assert "fit it to the barrel" in hub_parts(ring, None, good.lengths).open[0]


def test_the_rotor_turned_over(good: Job) -> None:
    """By hand: turned over, its middle moves 2H − t − h outboard; where that centres the caliper it is offered, and then it does."""
    rotor = good.rotor
    assert rotor.overall_height_mm and rotor.thickness_mm and rotor.hat_thickness_mm
    moved = 2 * rotor.overall_height_mm - rotor.thickness_mm - rotor.hat_thickness_mm
    flipped = with_edits(good, (("fit.rotor_way", "flipped"),))
    assert line_up(flipped).rotor_midplane_z - line_up(good).rotor_midplane_z == pytest.approx(moved)
    lugs = tuple((f"knuckle.lugs[{k}].z_mm", (lug.z_mm or 0.0) + moved) for k, lug in enumerate(good.knuckle.lugs))
    out = with_edits(good, (*lugs, *HELD))
    finding = solve(out).finding("axial-offset")
    cure = next(r for r in finding.remedies if r.action == "Turn the rotor over on its hub")
    assert finding.verdict is Verdict.STOP and cure.reversible and any("flat, bare" in s for s in cure.side_effects)
    assert solve(with_edits(out, cure.edits)).finding("axial-offset").verdict is Verdict.OK
    handed = with_edits(out, (("rotor.vanes", "right"),))
    assert not any("over on its hub" in r.action for r in solve(handed).finding("axial-offset").remedies)


def test_the_ring_on_the_other_face_of_its_hat(good: Job) -> None:
    """By hand: hat 30 to its rim's inboard face, rim 6, ring 20 thick with its seat 12 up: 42 high, on the other face
    30 − 6 − 12 + 20 = 32, and back again. It is offered where those 10 mm centre the caliper.
    """
    ring = {"kind": "two-piece", "thickness_mm": 20.0, "ring_seat_mm": 12.0, "ring_flange_mm": 6.0}
    assert other_face_height(Rotor(**ring, overall_height_mm=42.0)) == 32.0
    assert other_face_height(Rotor(**ring, overall_height_mm=32.0, ring_on="outboard face")) == 42.0
    assert math.isnan(other_face_height(Rotor(kind="two-piece", thickness_mm=20.0, overall_height_mm=42.0)))
    low = good.rotor.overall_height_mm or 0.0
    high = tuple((f"rotor.{name}", value) for name, value in (*ring.items(), ("overall_height_mm", low + 10.0)))
    there = with_edits(good, (*high, *HELD))
    cure = next(r for r in solve(there).finding("axial-offset").remedies if "outboard face" in r.action)
    assert cure.edits[0] == ("rotor.overall_height_mm", pytest.approx(low))
    assert solve(with_edits(there, cure.edits)).finding("axial-offset").verdict is Verdict.OK


def test_the_ring_is_centred_and_held(good: Job) -> None:
    """Register tight, loose, unknown, shallow; a snap ring is a watch at best; of a rotor in one piece nothing is asked."""
    whole = (("rotor.kind", "two-piece"), ("rotor.ring_register_mm", 150.05), ("rotor.hat_register_mm", 150.0),
             ("rotor.ring_bolt_count", 6))  # fmt: skip
    assert not any(f.id == "ring-on-hat" for f in solve(good).findings)
    for edits, verdict in (
        ((), Verdict.OK),
        ((("rotor.ring_register_mm", 149.9),), Verdict.STOP),
        ((("rotor.ring_register_mm", 150.5),), Verdict.STOP),
        ((("rotor.ring_register_mm", None),), Verdict.UNKNOWN),
        ((("rotor.register_depth_mm", 0.8),), Verdict.CAUTION),
        ((("rotor.ring_held", "snap ring"), ("rotor.ring_bolt_count", None)), Verdict.CAUTION),
        ((("rotor.ring_bolt_count", None),), Verdict.UNKNOWN),
    ):
        assert solve(with_edits(good, (*whole, *edits))).finding("ring-on-hat").verdict is verdict, edits

"""What turns and what holds the bearing, as rings about the axle: each bound by hand, bounds told from measurements."""

import math

import pytest

from bicentra.core.base.records import replace
from bicentra.core.geometry.ring import Ring
from bicentra.core.lineup.solids import (
    AXLE_REACH_MM,
    cut_for,
    hub_rings,
    retainer_places,
    retainer_ring,
    rotor_rings,
    wheel_studs_ring,
)
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Hub, Job


@pytest.fixture
def hub(good: Job) -> Job:
    """A flange Ø 140 and 12 thick, M12 studs on 100 mm, 40 long; nothing known behind it."""
    return with_edits(good, (
        ("hub.flange_diameter_mm", 140.0), ("hub.flange_thickness_mm", 12.0), ("hub.bolt_circle_mm", 100.0),
        ("hub.stud_thread", "M12x1.5"), ("hub.stud_length_mm", 40.0), ("hub.stud_back_mm", None), ("hub.pilot_diameter_mm", 57.0),
        ("hub.barrel_diameter_mm", None), ("hub.tube_diameter_mm", None), ("hub.retainer_circle_mm", None),
    ))  # fmt: skip


def test_a_hub_is_flange_barrel_and_stud_heads(hub: Job) -> None:
    """Flange to its edge; behind it a bound by the flange, or the barrel as measured; heads 12 high and 12 out unless measured."""
    flange, barrel, heads = hub_rings(hub)
    assert flange == Ring(0.0, 70.0, -12.0, 0.0)
    assert barrel == Ring(0.0, 70.0, -AXLE_REACH_MM, 0.0, sure=False)
    assert heads == Ring(38.0, 62.0, -24.0, -12.0, sure=False)
    text = with_edits(hub, (("hub.barrel_diameter_mm", 80.0), ("hub.stud_back_mm", 5.0)))
    assert hub_rings(text)[1:] == (Ring(0.0, 40.0, -AXLE_REACH_MM, 0.0), Ring(38.0, 62.0, -17.0, -12.0))
    for path in ("hub.bolt_circle_mm", "hub.stud_thread"):
        assert len(hub_rings(with_edits(hub, ((path, None),)))) == 2


def test_a_rotor_is_ring_wall_and_flange(good: Job) -> None:
    """Ø 256 by 20, 44 high, hat Ø 150 outside and 137 inside, 7 thick, bore Ø 57, over the hub: seat at 7, ring from −37 to −17."""
    job = with_edits(good, (
        ("rotor.diameter_mm", 256.0), ("rotor.thickness_mm", 20.0), ("rotor.overall_height_mm", 44.0), ("rotor.hat_thickness_mm", 7.0),
        ("rotor.hat_outer_diameter_mm", 150.0), ("rotor.hat_inner_diameter_mm", 137.0), ("rotor.centre_bore_mm", 57.0),
        ("fit.rotor_spacer_mm", 0.0), ("hub.mounting", "over-hub"),
    ))  # fmt: skip
    ring, wall, flange = rotor_rings(job, line_up(job))
    assert ring == Ring(68.5, 128.0, -37.0, -17.0) and wall == Ring(68.5, 75.0, -37.0, 7.0)
    assert flange == Ring(28.5, 75.0, 0.0, 7.0)
    bounded = with_edits(job, (("rotor.hat_outer_diameter_mm", None), ("rotor.swept_inner_diameter_mm", 160.0)))
    assert rotor_rings(bounded, line_up(bounded))[2] == Ring(28.5, 80.0, 0.0, 7.0, sure=False)
    flipped = with_edits(job, (("fit.rotor_way", "flipped"),))
    assert rotor_rings(flipped, line_up(flipped))[:2] == (Ring(68.5, 128.0, 24.0, 44.0), Ring(68.5, 75.0, 0.0, 44.0))


def test_a_plate_is_cut_for_flange_and_what_is_behind(hub: Job) -> None:
    """The barrel where it is known, the tube where it is not, else the pilot."""
    for edits, radius in (
        ((), 28.5),
        ((("hub.tube_diameter_mm", 60.0),), 30.0),
        ((("hub.tube_diameter_mm", 60.0), ("hub.barrel_diameter_mm", 76.0)), 38.0),
    ):
        assert cut_for(with_edits(hub, edits)) == (hub_rings(hub)[0], Ring(0.0, radius, -AXLE_REACH_MM, 0.0))


def test_the_retainer_is_a_ring_of_bolts(hub: Job) -> None:
    """M8 on 110 mm: 8 mm to either side; from its face to the bolts' ends, or to the flange where those were not measured."""
    assert retainer_ring(hub) is None
    held = with_edits(
        hub, (("hub.retainer_circle_mm", 110.0), ("hub.retainer_bolt", "M8x1.25"), ("hub.retainer_face_z_mm", -60.0),
              ("hub.retainer_bolt_end_z_mm", None))
    )  # fmt: skip
    assert retainer_ring(held) == Ring(47.0, 63.0, -60.0, -12.0, sure=False)
    assert retainer_ring(with_edits(held, (("hub.retainer_bolt_end_z_mm", -40.0),))) == Ring(47.0, 63.0, -60.0, -40.0)
    places = retainer_places(Hub(retainer_circle_mm=110.0, retainer_count=4, retainer_first_deg=45.0))
    assert places[0] == pytest.approx((55.0 / math.sqrt(2), 55.0 / math.sqrt(2)))
    assert places[1] == pytest.approx((-55.0 / math.sqrt(2), 55.0 / math.sqrt(2))) and len(places) == 4
    assert retainer_places(Hub(retainer_circle_mm=110.0, retainer_count=4)) == ()


def test_studs_reach_past_the_hat(hub: Job) -> None:
    """Over the hub the nuts seat on the hat; behind a flange on the flange. A hexagon of 18 mm is 18/cos 30° over its corners."""
    line = line_up(hub)
    ring = wheel_studs_ring(hub, line)
    half = 18.0 / math.cos(math.radians(30.0)) / 2
    assert (ring.r0, ring.r1) == pytest.approx((50.0 - half, 50.0 + half), abs=0.01)
    assert (ring.z0, ring.z1) == (line.hat_outer_z, 40.0)
    behind = replace(hub, hub=replace(hub.hub, mounting="behind-flange"))
    assert wheel_studs_ring(behind, line_up(behind)).z0 == 0.0
    short = with_edits(hub, (("hub.stud_length_mm", 1.0),))
    assert wheel_studs_ring(short, line_up(short)).z1 == line_up(short).hat_outer_z

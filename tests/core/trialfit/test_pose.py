"""Where a caliper sits, against a rigid body in space, and what is said of readings that contradict each other."""

import math
import random

import pytest

from bicentra.core.base.records import replace
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.trial import GAPS, Between, Gaps, Trial
from bicentra.core.trialfit.contradictions import spare_of
from bicentra.core.trialfit.pose import pose_of
from tests.core.trialfit.corner import SPACING, gaps_of, plain_job

JOB = plain_job()


def test_against_a_rigid_body() -> None:
    """Random offsets, tilts and twists: the solver finds them again from eight gaps, to the third order of a small angle."""
    rng = random.Random(5)
    for _ in range(300):
        offset, tilt, twist = rng.uniform(-1.5, 1.5), rng.uniform(-0.6, 0.6), rng.uniform(-0.6, 0.6)
        trial = Trial(
            gaps_mm=gaps_of(offset, tilt, 3.0, 0.0, twist), deep_gaps_mm=gaps_of(offset, tilt, 3.0, 30.0, twist), deep_by_mm=30.0,
            station_spacing_mm=SPACING,
        )  # fmt: skip
        pose = pose_of(JOB, trial)
        assert pose.offset.value == pytest.approx(offset, abs=1e-9)
        assert pose.tilt.value == pytest.approx(tilt, abs=1e-4) and pose.twist.value == pytest.approx(twist, abs=1e-4)


def test_the_four_gaps_by_hand() -> None:
    """The rule of the trade: half of what both gaps differ by, at each end; their difference over the spacing is the tilt.

    With 0.03 mm a gap: 0.03/2 for the middle of four, 0.03·√2/spacing for the slope (propagation of independent errors)."""
    gaps = Gaps(leading_outboard=1.9, leading_inboard=1.1, trailing_outboard=2.1, trailing_inboard=0.9)
    pose = pose_of(JOB, Trial(gaps_mm=gaps, station_spacing_mm=120.0))
    assert (pose.ends[0].value, pose.ends[1].value, pose.offset.value) == pytest.approx((0.4, 0.6, 0.5))
    assert pose.tilt.value == pytest.approx(math.degrees(math.atan(0.2 / 120.0)))
    assert pose.offset.sd == pytest.approx(0.015) and pose.tilt.sd == pytest.approx(
        math.degrees(0.03 / 120.0), rel=1e-3
    )


def test_swap_of_ends_and_mirror() -> None:
    """Ends swapped turn the tilt round and leave the offset; faces swapped turn both round."""
    there = gaps_of(0.3, 0.2, 3.0)
    ends = Gaps(
        leading_outboard=there.trailing_outboard, leading_inboard=there.trailing_inboard,
        trailing_outboard=there.leading_outboard, trailing_inboard=there.leading_inboard,
    )  # fmt: skip
    faces = Gaps(
        leading_outboard=there.leading_inboard, leading_inboard=there.leading_outboard,
        trailing_outboard=there.trailing_inboard, trailing_inboard=there.trailing_outboard,
    )  # fmt: skip
    poses = [pose_of(JOB, Trial(gaps_mm=gaps, station_spacing_mm=SPACING)) for gaps in (there, ends, faces)]
    text = [(pose.offset.value, pose.tilt.value) for pose in poses]
    assert text[1] == pytest.approx((text[0][0], -text[0][1])) and text[2] == pytest.approx((-text[0][0], -text[0][1]))


@pytest.mark.parametrize(
    ("kept", "unknown"),
    [
        (GAPS, ("twist", "height")),
        (GAPS[:2], ("offset", "tilt", "twist", "height")),
        (("leading_outboard", "trailing_outboard"), ("twist", "height")),
        (("leading_outboard",), ("offset", "tilt", "twist", "height")),
        ((), ("offset", "tilt", "twist", "height")),
    ],
)
def test_any_subset_of_readings(kept: tuple[str, ...], unknown: tuple[str, ...]) -> None:
    """What the readings leave free is unknown; one face at both ends is enough where slot and rotor were measured."""
    whole = gaps_of(0.3, 0.2, 3.0)
    some = Gaps(**{name: getattr(whole, name) for name in kept})
    pose = pose_of(JOB, Trial(gaps_mm=some, station_spacing_mm=SPACING))
    assert pose.unknown == unknown
    if "offset" not in unknown:
        assert pose.offset.value == pytest.approx(0.3)
    if len(kept) == 2 and "offset" in unknown:
        assert math.isfinite(pose.ends[0].value)
    bare = with_edits(JOB, (("caliper.slot_width_mm", None),))
    if len(kept) < 4:
        assert "offset" in pose_of(bare, Trial(gaps_mm=some, station_spacing_mm=SPACING)).unknown


def test_go_and_no_go() -> None:
    """A pad that slides in at 1.2 and a 1.5 that does not: 1.35 ± 0.3/√12 (a uniform distribution, JCGM 100 4.3.7)."""
    bands = {name: Between(least=1.2, most=1.8) for name in GAPS if name.startswith("trailing")}
    bands |= {"leading_outboard": Between(least=1.7, most=2.1), "leading_inboard": Between(least=0.9, most=1.3)}
    pose = pose_of(JOB, Trial(bands_mm=bands, station_spacing_mm=SPACING))
    assert pose.offset.value == pytest.approx(0.2)
    one, other = 0.6**2 / 12 + 0.03**2, 0.4**2 / 12 + 0.03**2
    assert pose.offset.sd == pytest.approx(math.sqrt((2 * one + 2 * other) / 16), rel=1e-6)


def test_pair_that_does_not_add_up() -> None:
    """Slot less rotor is 3.0: a pair of 3.4 is named with its end; a true one is not."""
    good = gaps_of(0.3, 0.1, spare_of(JOB))
    bad = replace(good, leading_outboard=(good.leading_outboard or 0.0) + 0.4)
    assert pose_of(JOB, Trial(gaps_mm=good, station_spacing_mm=SPACING)).against == ()
    (text,) = pose_of(JOB, Trial(gaps_mm=bad, station_spacing_mm=SPACING)).against
    assert "leading end add up to 3.40 mm" in text.text and "leaves 3.00 mm" in text.text
    assert set(text.doubted) == {"leading_outboard", "leading_inboard"}
    bare = with_edits(JOB, (("caliper.slot_width_mm", None),))
    assert "unlike sums, 0.40 mm apart" in pose_of(bare, Trial(gaps_mm=bad, station_spacing_mm=SPACING)).against[0].text


def test_height_by_pad_top_and_tip() -> None:
    """Planned 1 mm inside, read 1.6: 0.6 nearer to the axle; the tip gap then reads 2.5 − 0.6."""
    inset, bridge = JOB.fit.pad_inset_mm or 0.0, JOB.caliper.bridge_to_pad_top_mm or 0.0
    low = pose_of(JOB, Trial(pad_top_mm=inset + 0.6)).radial
    tip = pose_of(JOB, Trial(tip_gap_mm=bridge - inset - 0.6)).radial
    both = pose_of(JOB, Trial(pad_top_mm=inset + 0.6, tip_gap_mm=bridge - inset - 0.6)).radial
    assert low.value == pytest.approx(-0.6) == tip.value and both.value == pytest.approx(-0.6)
    assert both.sd < tip.sd < low.sd

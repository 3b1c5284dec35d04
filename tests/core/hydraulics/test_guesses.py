"""Guesses, what is missing, and cures that are none."""

import math

import numpy as np
import pytest

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.records import replace
from bicentra.core.drawing.views.master import SPARE_MM, chambers_of
from bicentra.core.hydraulics.balance import knee_for, rear_leads
from bicentra.core.hydraulics.before import chains, levers
from bicentra.core.hydraulics.chain import Chain, chain_of
from bicentra.core.hydraulics.ends import REAR_FIRST, WEAK
from bicentra.core.hydraulics.masters import feel_of, rank, rework_list
from bicentra.core.hydraulics.missing import height_by_scales, missing_of
from bicentra.core.hydraulics.pedal import pedal_findings, pedal_work
from bicentra.core.parts.brakes import MasterCylinder
from bicentra.core.parts.edits import with_value
from bicentra.core.parts.vehicle import BUILDS, SHOES, Valve, Vehicle
from bicentra.study.document.starting import demo_vehicle


def named(vehicle: Vehicle, id: str) -> Finding:
    """Return one finding of the pedal."""
    return next(finding for finding in pedal_findings(vehicle) if finding.id == id)


@pytest.fixture
def sound() -> Vehicle:
    """The demo with a valve that mends its balance and a master that feeds its pistons."""
    vehicle = demo_vehicle()
    for path, value in (
        ("valve.kind", "adjustable"),
        ("valve.knee_bar", 10.0),
        ("valve.slope", 0.3),
        ("master.bore_mm", 19.05),
    ):
        vehicle = with_value(vehicle, f"vehicle.{path}", value)
    assert named(vehicle, "pedal-order").verdict is Verdict.OK
    return vehicle


def test_height_by_two_scales() -> None:
    """A rigid body on two points, turned about the front axle's middle: its loads from moments alone."""
    chance = np.random.default_rng(4)
    for _ in range(50):
        mass, long, radius = chance.uniform(300, 2000), chance.uniform(1200, 3500), chance.uniform(150, 400)
        share, high, lift = chance.uniform(0.3, 0.7), chance.uniform(1.1, 2.5) * radius, chance.uniform(0.1, 0.5) * long
        turn = -math.asin(lift / long)  # the nose goes down
        behind = np.array([(1 - share) * long, high - radius])
        middle = behind[0] * math.cos(turn) + behind[1] * math.sin(
            turn
        )  # its distance behind the front axle, along the road
        lifted = mass * (1 - middle / (long * math.cos(turn)))
        assert height_by_scales(mass, mass * share, lifted, long, lift, radius) == pytest.approx(high, rel=1e-9)
    assert math.isnan(height_by_scales(800, 400, 390, 2000, 500, 300))  # lighter with the rear up: read wrongly
    assert math.isnan(height_by_scales(800, 400, 430, 2000, 2500, 300))


def test_a_guess_is_never_met(sound: Vehicle) -> None:
    """With the height or the drum's factor left to a guess what was met is a watch that names it; both ends of it are asked."""
    for path, kind in (
        ("vehicle.cg_height_mm", ("vehicle.build", "car")),
        ("axles.rear.drum.factor", ("axles.rear.drum.layout", "leading-trailing")),
    ):
        bare = with_value(sound, path, None)
        assert named(bare, "pedal-order").verdict is Verdict.UNKNOWN
        guessed = with_value(bare, *kind)
        order, hard = named(guessed, "pedal-order"), named(guessed, "pedal-force")
        assert order.verdict in (Verdict.CAUTION, Verdict.STOP) and hard.verdict is not Verdict.OK
        assert "guessed" in order.why or "worse end" in order.why
        worse, usual = chain_of(guessed, guess=REAR_FIRST), chain_of(guessed)
        lead = [leads.most if (leads := rear_leads(one, 0.8)) else 0.0 for one in (usual, worse)]
        assert lead[0] <= lead[1]
        assert chain_of(guessed, guess=WEAK).foot_for(0.6) >= usual.foot_for(0.6) - 1e-9


def test_spreads_hold_their_usual_value() -> None:
    """Every spread rises, and that of the shoes holds the closed form of its kind for a friction of 0.35.

    Two shoes pinned at 0.8 R from the drum's middle, lever 1.6: a leading shoe gives µ h/(c − µ r), a trailing one µ h/(c + µ r)
    with h = 1.6, c = 0.8, r = 1 (simplified single contact: Limpert, Brake Design and Safety ch. 2, from memory).
    """
    for low, usual, high in (*BUILDS.values(), *SHOES.values()):
        assert low < usual < high
    leading, trailing = (0.35 * 1.6 / (0.8 - sign * 0.35) for sign in (1, -1))
    assert SHOES["leading-trailing"][0] * 0.9 < leading + trailing < SHOES["leading-trailing"][2]
    assert SHOES["twin-leading"][0] < 2 * leading < SHOES["twin-leading"][2]


def test_what_is_missing_is_what_makes_it_unknown(sound: Vehicle) -> None:
    """Nothing is missing in a sound vehicle; each number taken away is named, and leaves order or force unknown."""
    assert missing_of(sound) == ()
    paths = (
        "vehicle.mass_kg", "vehicle.front_axle_kg", "vehicle.wheelbase_mm", "vehicle.cg_height_mm", "vehicle.master.bore_mm",
        "vehicle.master.stroke_mm", "vehicle.pedal.ratio", "vehicle.valve.knee_bar", "vehicle.valve.slope", "axles.front.pad.mu",
        "axles.front.tyre_radius_mm", "axles.rear.tyre_radius_mm", "axles.front.rotor.diameter_mm", "axles.front.fit.pad_inset_mm",
        "axles.front.caliper.pad_height_mm", "axles.rear.drum.cylinder_bore_mm", "axles.rear.drum.diameter_mm",
    )  # fmt: skip
    for path in paths:
        bare = with_value(sound, path, None)
        assert [at for at, _ in missing_of(bare)] == [path]
        verdicts = {named(bare, id).verdict for id in ("pedal-order", "pedal-force", "pedal-stroke")}
        assert Verdict.UNKNOWN in verdicts, path
    without = with_value(
        with_value(sound, "axles.front.caliper.pistons_inboard_mm", ()), "axles.front.caliper.pistons_outboard_mm", ()
    )
    assert len(missing_of(without)) == 1


def test_wrong_cures(sound: Vehicle) -> None:
    """A rod that holds the master off its stop, two boosters, valves left in: each is told; what was not said is unknown."""
    for play, verdict in ((None, Verdict.UNKNOWN), (0.0, Verdict.STOP), (0.7, Verdict.CAUTION), (4.0, Verdict.OK)):
        assert named(with_value(sound, "vehicle.pedal.free_play_mm", play), "pedal-rod").verdict is verdict
    boosted = with_value(sound, "vehicle.booster.kind", "vacuum")
    for gain, verdict in ((1.0, Verdict.UNKNOWN), (4.0, Verdict.OK), (9.0, Verdict.CAUTION), (16.0, Verdict.STOP)):
        assert named(with_value(boosted, "vehicle.booster.gain", gain), "pedal-boost").verdict is verdict
    assert not [f for f in pedal_findings(sound) if f.id in ("pedal-boost", "pedal-valve")]
    metering = with_value(sound, "axles.rear", replace(sound.axles["front"]))
    metering = with_value(metering, "vehicle.valve.kind", "metering")
    assert named(metering, "pedal-valve").verdict is Verdict.CAUTION


def test_from_drum_to_disc(sound: Vehicle) -> None:
    """The levers between a drum and a disc multiply to the change of torque at one line pressure beyond both thresholds."""
    now, then = chains(with_value(sound, "axles.front.before.drum.threshold_bar", 0.0))
    assert then is not None and (now.ends[0].kind, then.ends[0].kind) == ("disc", "drum")
    factors = levers(now, then)
    torque = [one.at(100.0).torque[0] for one in (now, then)]
    assert math.prod(
        factors[name] for name in ("bore", "radius", "pad", "master", "ratio", "booster")
    ) == pytest.approx(torque[0] / torque[1])


def test_masters_by_feel(sound: Vehicle) -> None:
    """With the pedal as it was known the nearest in travel and force together comes first, not the one that hardly moves."""
    now, then = chains(sound)
    masters = [
        MasterCylinder(name=f"{bore}", bore_mm=bore, stroke_mm=36.0, circuits=2) for bore in (19.05, 22.22, 25.4)
    ]
    assert then is not None
    ranked = [one for one in rank(now, masters, then) if one.verdict is Verdict.OK and not one.own]
    was = feel_of(then)
    assert was is not None and f"before {was[0]:.0f} mm and {was[1]:.0f} N" in ranked[0].why
    far = [abs(math.log(one.travel / was[0])) + abs(math.log(one.foot / was[1])) for one in ranked]
    assert far == sorted(far) and len(far) >= 2


def test_the_master_cut_open(sound: Vehicle) -> None:
    """Chambers in a row within the bore, together as long as the stroke and what is spare; each feeds the end that was said, or none;
    the piston by the rod goes as far as the whole stroke to the bite, the far one its own part of it."""
    for said, feeds in ((None, ("", "")), ("by the rod", ("front", "rear")), ("far from the rod", ("rear", "front"))):
        vehicle = with_value(sound, "vehicle.master.front_from", said)
        chain = chain_of(vehicle)
        near, far = chambers_of(vehicle.vehicle.master, chain)
        assert (near.feeds, far.feeds) == feeds and near.end < far.begin < far.end
        assert (near.end - near.begin) + (far.end - far.begin) == pytest.approx(
            (vehicle.vehicle.master.stroke_mm or 0.0) + 2 * SPARE_MM
        )
        volume = {end.name: end.every * end.retraction for end in chain.ends}
        bore = math.pi / 4 * (vehicle.vehicle.master.bore_mm or 0.0) ** 2
        assert near.moved == pytest.approx(sum(volume.values()) / bore)
        assert far.moved == pytest.approx((volume[far.feeds] if far.feeds else min(volume.values())) / bore)
    single = with_value(sound, "vehicle.master.kind", "single")
    assert len(chambers_of(single.vehicle.master, chain_of(single))) == 1


def test_what_is_made_anew(sound: Vehicle) -> None:
    """What nobody said is asked for; other outlets want adapters; worn pads drop the fluid by area times wear of both wheels."""
    text = " ".join(rework_list(sound))
    assert (
        "Which chamber feeds the front is not stated" in text
        and "IN from the master" in text
        and "were for drums" in text
    )
    old = replace(sound.vehicle.master, outlet_thread="M10x1", bore_mm=15.87)
    changed = with_value(with_value(sound, "vehicle.before.master", old), "vehicle.master.outlet_thread", "3/8-24")
    assert any("from M10x1 to 3/8-24: adapters" in one for one in rework_list(changed))
    same = with_value(changed, "vehicle.master.outlet_thread", "M10x1")
    assert any("Outlets stay M10x1" in one for one in rework_list(same))
    pad = sound.axles["front"].pad
    worn = (pad.thickness_mm or 0.0) - (pad.min_thickness_mm or 0.0)
    every = 4 * math.pi / 4 * 36.0**2
    assert worn > 0 and any(f"hold {2 * every * worn / 1e3:.0f} cm3" in one for one in rework_list(sound))


def test_hot_friction_that_nobody_stated(sound: Vehicle) -> None:
    """Met with working pads, and nobody said what the front's do when hot: a watch that names it, no less."""
    text = named(with_value(sound, "axles.front.pad.mu_hot", None), "pedal-order")
    assert text.verdict is Verdict.CAUTION and "Hot friction of the front pads is not stated" in text.why


def test_the_knee_by_trying(sound: Vehicle) -> None:
    """The closed form of a valve's knee is the highest with which nothing leads, found by trying valves from 0.1 bar to 0.1 bar."""
    bare = with_value(sound, "vehicle.valve.kind", "none")
    for path, value in (
        ("axles.rear.drum.factor", 2.6),
        ("axles.rear.drum.factor", 3.4),
        ("vehicle.cg_height_mm", 700.0),
    ):
        chain = chain_of(with_value(bare, path, value))
        for slope in (0.2, 0.3, 0.5):
            knee = knee_for(chain, slope)

            def leads(bar: float, chain: Chain = chain, slope: float = slope) -> bool:
                valve = replace(chain.valve, kind="adjustable", knee_bar=bar, slope=slope)
                found = rear_leads(replace(chain, valve=valve), 0.8)
                return found is not None and found.high > 0.15

            if math.isfinite(knee):
                assert not leads(knee - 0.1) and leads(knee + 0.1)
            else:
                assert leads(0.05) or not leads(299.0)


def test_feel_is_not_compared_with_half_of_what_was(sound: Vehicle) -> None:
    """A master noted as before beside a brake that came off unnoted is no pedal anybody ever felt: nothing is told beside it."""
    masters = (MasterCylinder(name="one", bore_mm=20.64, stroke_mm=36.0, circuits=2),)
    old = replace(sound.vehicle.master, bore_mm=15.87)
    noted = with_value(sound, "vehicle.before.master", old)
    assert all("before" in one.why for one in pedal_work(noted, masters).masters)
    half = with_value(noted, "axles.front.before.drum", None)
    assert not any("before" in one.why for one in pedal_work(half, masters).masters)


def test_a_metering_valve_is_never_counted_as_none(sound: Vehicle) -> None:
    """What it holds off the front is not worked out: the order that is met without it is a watch with it, and says so."""
    weak = with_value(with_value(sound, "axles.rear.drum.factor", 0.8), "vehicle.valve", Valve())
    assert named(weak, "pedal-order").verdict is Verdict.OK
    order = named(with_value(weak, "vehicle.valve", Valve(kind="metering")), "pedal-order")
    assert order.verdict is Verdict.CAUTION and "metering valve holds the front off" in order.why

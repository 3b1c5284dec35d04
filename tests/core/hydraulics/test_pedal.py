"""The pedal, against worked examples of the literature, against a numeric static equilibrium, and against a simulated stop."""

import math
import random
from itertools import pairwise

import numpy as np
import pytest

from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.base.records import replace
from bicentra.core.hydraulics.balance import adhesion, ideal, knee_for, locking, rear_leads
from bicentra.core.hydraulics.before import before_of, chains, levers, single_change
from bicentra.core.hydraulics.chain import Chain, chain_of
from bicentra.core.hydraulics.ends import End, VehicleBody, areas_of, circle
from bicentra.core.hydraulics.masters import rank
from bicentra.core.hydraulics.misconceptions import misconceptions_of
from bicentra.core.hydraulics.pedal import pedal_work
from bicentra.core.hydraulics.travel import one_circuit, travel_at
from bicentra.core.parts.attachments import OriginalBrake
from bicentra.core.parts.brakes import Caliper, MasterCylinder
from bicentra.core.parts.vehicle import Baseline, Booster, Drum, Earlier, Master, Valve, Vehicle
from bicentra.study.document.starting import demo_vehicle, empty_vehicle

INCH = 25.4
DISC = End("front", "disc", 2000.0, 8000.0, 110.0, 0.4, 0.0, 0.15, 300.0)


def chain(front: End, rear: End, **changes: object) -> Chain:
    """A small car's chain: 1000 kg, 55 % in front, h/L = 0.22."""
    body = VehicleBody(1000.0, 550.0, 2500.0, 550.0, 0.9)
    plain = Chain((front, rear), body, 5.0, Booster(), Master(bore_mm=19.05, stroke_mm=32.0), Valve(), 4.0, 140.0)
    return replace(plain, **changes)


def some(rng: random.Random) -> Chain:
    """A random vehicle with random brakes, booster and valve."""
    kinds = rng.choice(("disc", "drum"))
    front = replace(DISC, side=rng.uniform(1000, 4000), mu=rng.uniform(0.25, 0.5), radius=rng.uniform(80, 150))
    rear = End("rear", kinds, rng.uniform(200, 1500), 2000.0, rng.uniform(80, 130), rng.uniform(0.3, 2.5),
               rng.choice((0.0, 0.07, 0.3)), 0.15, rng.uniform(260, 330))  # fmt: skip
    valve = rng.choice((Valve(), Valve(kind="fixed", knee_bar=rng.uniform(5, 60), slope=rng.uniform(0.1, 0.6))))
    booster = rng.choice((Booster(), Booster(kind="vacuum", gain=rng.uniform(2, 5), runout_n=rng.uniform(1500, 5000))))
    return chain(front, rear, valve=valve, booster=booster)


def sound_vehicle() -> Vehicle:
    """The demo with smaller rear drums, steadier pads and a larger master: the front leads everywhere."""
    vehicle = demo_vehicle()
    drum = Drum(cylinder_bore_mm=17.46, diameter_mm=180.0, factor=2.2, threshold_bar=0.7)
    master = replace(vehicle.vehicle.master, bore_mm=19.05, stroke_mm=32.0)
    front = vehicle.axles["front"]
    axles = {
        "front": replace(front, pad=replace(front.pad, mu_hot=0.37, mu_cold=0.37)),
        "rear": replace(vehicle.axles["rear"], drum=drum),
    }
    return replace(vehicle, axles=axles, vehicle=replace(vehicle.vehicle, master=master))


def test_masters_of_the_handbook() -> None:
    """Areas of 5/8 to 1 in (plane geometry), and 400 N at 5:1 on 3/4 in: 7.017 MPa (p = F/A)."""
    bores = (0.625, 0.7, 0.75, 0.8125, 0.875, 0.9375, 1.0)
    wanted = (197.93, 248.29, 285.02, 334.51, 387.95, 445.35, 506.71)
    assert [circle(bore * INCH) for bore in bores] == pytest.approx(wanted, rel=2e-5)
    assert chain(DISC, DISC).lines(400.0)[0] == pytest.approx(7.017, abs=5e-4)


def test_travel_for_four_pistons() -> None:
    """Four 38.1 mm pistons moving 0.5 mm on a 3/4 in master: 8 mm of stroke (volume balance), 40 at the pad, 4 of free play on top."""
    four = replace(DISC, every=4 * circle(38.1), retraction=0.5)
    still = replace(DISC, every=0.0)
    text = travel_at(chain(four, still))
    assert (text.stroke, text.pedal) == pytest.approx((8.0, 44.0)) and text.share == pytest.approx(0.25)


def test_four_pistons_do_not_clamp_twice() -> None:
    """36 + 40 mm a side at 7 MPa, µ 0.38, r 125: 2274.5 mm2, 15.92 kN, 1512.5 N·m (T = 2 µ F r, Limpert). A floating
    caliper with the same pistons in all on one side clamps twice as hard as the fixed one that has half of them
    there.
    """
    fixed = Caliper(action="fixed", pistons_inboard_mm=(36.0, 40.0), pistons_outboard_mm=(36.0, 40.0))
    side, every = areas_of(fixed)
    end = replace(DISC, side=side, mu=0.38, radius=125.0)
    assert (side, end.clamp(7.0) / 1e3, end.torque(7.0)) == pytest.approx((2274.5, 15.92, 1512.5), rel=2e-4)
    floating = Caliper(action="floating", pistons_inboard_mm=(36.0, 40.0, 36.0, 40.0))
    assert areas_of(floating)[0] == pytest.approx(2 * side) and every == pytest.approx(2 * side)


def test_ideal_forces_and_critical_deceleration() -> None:
    """Ψ = 0.45, χ = 0.22, z = 0.8: 0.5808 and 0.2192 of the weight; Φ = 0.27: both ends alike at z = (Ψ − Φ)/χ = 0.818 (Limpert ch. 7)."""
    body = VehicleBody(1000.0, 550.0, 2500.0, 550.0, 0.9)
    weight = 1000.0 * 9.80665
    front, rear = ideal(body, 0.8)
    assert (front / weight, rear / weight) == pytest.approx((0.5808, 0.2192))
    psi, chi, share = 0.45, 0.22, front / weight
    assert math.sqrt((1 - psi) ** 2 / (4 * chi**2) + share / chi) - (1 - psi) / (2 * chi) - share == pytest.approx(
        rear / weight
    )
    fixed = chain(replace(DISC, mu=0.73), replace(DISC, mu=0.27))
    critical = (psi - 0.27) / chi
    assert adhesion(fixed, fixed.at(fixed.foot_for(critical))) == pytest.approx((critical, critical), rel=1e-9)
    assert [locking(fixed, grip).first for grip in (0.5, 0.8, 0.85, 1.0)] == ["front", "front", "rear", "rear"]
    leading = rear_leads(fixed)
    assert leading is not None and leading.low == pytest.approx(critical, abs=0.006)


def test_the_inverse_is_exact() -> None:
    """Random chains with thresholds, knees and run-outs: the foot force for a deceleration gives it; all of it rises with the foot."""
    rng = random.Random(17)
    for _ in range(200):
        one = some(rng)
        for decel in (0.05, 0.3, 0.7, 1.1):
            foot = one.foot_for(decel)
            assert one.at(foot).decel == pytest.approx(decel, rel=1e-9)
        feet = [one.at(foot).decel for foot in range(0, 1500, 50)]
        assert all(later >= sooner for sooner, later in pairwise(feet))


def simulated_lock(one: Chain, grip: float) -> tuple[str, float]:
    """An independent way: press harder in small steps, let the loads settle by iteration, see which wheel's force passes its grip."""
    weight, lever = one.body.mass * 9.80665, one.body.height / one.body.wheelbase
    for foot in np.arange(0.5, 5000.0, 0.5):
        rod = foot * one.ratio
        if one.booster.kind != "none":
            gain, most = one.booster.gain or 1.0, one.booster.runout_n or math.inf
            rod = min(rod * gain, most) + max(rod - most / gain, 0.0)
        line = rod / (math.pi / 4 * (one.master.bore_mm or 1.0) ** 2)
        rear_line = line
        if one.valve.kind == "fixed":
            knee = (one.valve.knee_bar or 0.0) / 10
            rear_line = min(line, knee) + (one.valve.slope or 0.0) * max(line - knee, 0.0)
        forces = []
        for end, p in zip(one.ends, (line, rear_line)):
            each = (2 if end.kind == "disc" else 1) * end.mu * end.side * end.radius * max(p - end.threshold, 0.0)
            forces.append(2 * each / end.tyre)
        front, rear = weight * one.body.front / one.body.mass, 0.0
        moved = sum(forces) * lever
        rear = weight - front - moved
        front += moved
        over = [force - grip * load for force, load in zip(forces, (front, rear))]
        if max(over) >= 0.0:
            return ("front" if over[0] >= over[1] else "rear"), sum(forces) / weight
    return "", math.nan


def test_against_a_simulated_stop() -> None:
    """Which end locks first, and at which deceleration, by a stop simulated in steps of half a newton."""
    rng, both = random.Random(3), set()
    for _ in range(40):
        one, grip = some(rng), rng.choice((0.2, 0.5, 0.8, 1.0))
        text, (first, decel) = locking(one, grip), simulated_lock(one, grip)
        assert text.decel == pytest.approx(decel, abs=0.012)
        both.add(text.first)
        if abs(decel - grip) > 0.02:
            assert text.first == first
    assert both == {"front", "rear"}


def test_scaling_and_swap() -> None:
    """All bores by k leave torques as they are; both ends exchanged with their loads exchange front and rear."""
    rng = random.Random(4)
    for _ in range(50):
        one, k = some(rng), rng.uniform(0.5, 2.0)
        wider = [
            replace(end, side=end.side * k**2, threshold=end.threshold / k**2, every=end.every * k**2)
            for end in one.ends
        ]
        valve = replace(one.valve, knee_bar=(one.valve.knee_bar or 0.0) / k**2)
        large = replace(
            one, ends=tuple(wider), master=replace(one.master, bore_mm=(one.master.bore_mm or 0.0) * k), valve=valve
        )
        assert large.at(300.0).torque == pytest.approx(one.at(300.0).torque) and travel_at(
            large
        ).stroke == pytest.approx(travel_at(one).stroke)


def test_a_knee_that_mends_it() -> None:
    """A rear enlarged until it locks first is a stop from 0.15 to 0.8 g; with the knee that is computed it is not, a bar more and it is."""
    biased = chain(replace(DISC, mu=0.62), replace(DISC, mu=0.38))
    assert rear_leads(biased, 0.8) is not None
    knee = knee_for(biased)
    mended = replace(biased, valve=Valve(kind="adjustable", knee_bar=knee, slope=0.3))
    worse = replace(biased, valve=Valve(kind="adjustable", knee_bar=knee + 1.0, slope=0.3))
    after, over = rear_leads(mended, 0.8), rear_leads(worse, 0.8)
    assert after is None or after.most < 1e-3
    assert over is not None and over.most > 1e-3


def test_levers_multiply_to_the_whole() -> None:
    """What each lever did multiplies to what the torque did, in any order; their shares add up to one; the rear factor brings it back."""
    vehicle = sound_vehicle()
    chassis = replace(vehicle.vehicle, before=Earlier(master=Master(bore_mm=17.46, stroke_mm=30.0)))
    old = OriginalBrake(caliper=Caliper(action="floating", pistons_inboard_mm=(48.0,)))
    front = replace(vehicle.axles["front"], before=old)
    changed = replace(vehicle, vehicle=chassis, axles={**vehicle.axles, "front": front})
    now, then = chains(changed)
    bare = replace(vehicle, axles={**vehicle.axles, "front": replace(vehicle.axles["front"], before=None)})
    assert then is not None and before_of(bare) is None and chains(bare)[1] is None
    text = levers(now, replace(then, ends=(replace(then.ends[0], radius=95.0), then.ends[1])))
    assert text["bore"] == pytest.approx(2 * 36.0**2 / 48.0**2) and text["master"] == pytest.approx(17.46**2 / 19.05**2)
    before = replace(then, ends=(replace(then.ends[0], radius=95.0), then.ends[1]))
    assert math.prod(text.values()) == pytest.approx(now.at(100.0).torque[0] / before.at(100.0).torque[0])
    factor = single_change(now, before)["rear radius"]
    back = replace(now, ends=(now.ends[0], replace(now.ends[1], radius=now.ends[1].radius * factor, threshold=0.0)))
    zero = replace(before, ends=(before.ends[0], replace(before.ends[1], threshold=0.0)))
    assert back.at(100.0).front_share == pytest.approx(zero.at(100.0).front_share, abs=0.02)


def test_nothing_is_better_than_not_known() -> None:
    """Each number taken away in turn: no verdict that rests on it is better than unknown; an empty vehicle says so everywhere."""
    whole = pedal_work(sound_vehicle())
    assert {f.id: f.verdict.value for f in whole.findings}["pedal-order"] == "ok"
    for path in ("mass_kg", "front_axle_kg", "wheelbase_mm", "cg_height_mm"):
        vehicle = sound_vehicle()
        bare = replace(vehicle, vehicle=replace(vehicle.vehicle, **{path: None}, laden_kg=None))
        assert {f.id: f.verdict.value for f in pedal_work(bare).findings}["pedal-order"] == "unknown", path
    for part in ("tyre_radius_mm", "pad", "caliper"):
        vehicle = sound_vehicle()
        front = vehicle.axles["front"]
        gone = replace(front, **{part: None if part == "tyre_radius_mm" else type(getattr(front, part))()})
        bare = replace(vehicle, axles={**vehicle.axles, "front": gone})
        text = {f.id: f.verdict.value for f in pedal_work(bare).findings}
        assert text["pedal-order"] == text["pedal-force"] == "unknown", part
    nothing = pedal_work(empty_vehicle(), (MasterCylinder(name="one", bore_mm=20.0, stroke_mm=30.0),))
    assert {one.verdict.value for one in nothing.masters} == {"unknown"}
    assert all(f.verdict.value in ("unknown", "caution") for f in nothing.findings)


def test_masters_and_findings() -> None:
    """A small master moves far and light, a large one little and hard; a residual valve over discs is a stop; a baseline settles its own."""
    masters = [
        MasterCylinder(name=f"{bore}", bore_mm=bore, stroke_mm=32.0, circuits=2)
        for bore in (12.7, 15.87, 19.05, 25.4, 44.0)
    ]
    ranked = {one.name: one for one in rank(chain_of(sound_vehicle()), masters)}
    travels = [ranked[f"{bore}"].travel for bore in (12.7, 15.87, 19.05, 25.4, 44.0)]
    feet = [ranked[f"{bore}"].foot for bore in (12.7, 15.87, 19.05, 25.4, 44.0)]
    assert travels == sorted(travels, reverse=True) and feet == sorted(feet)
    assert ranked["19.05"].verdict == "ok"
    for circuits, verdict in ((1, "stop"), (None, "unknown")):
        one = MasterCylinder(name="one", bore_mm=19.05, stroke_mm=32.0, circuits=circuits)
        assert next(r for r in rank(chain_of(sound_vehicle()), (one,)) if r.name == "one").verdict == verdict
    assert ranked["12.7"].verdict == "stop" and "sinks" in ranked["12.7"].why
    assert ranked["44.0"].verdict == "stop" and "too hard" in ranked["44.0"].why
    vehicle = sound_vehicle()
    held = replace(
        vehicle, vehicle=replace(vehicle.vehicle, valve=Valve(kind="residual"), baseline=Baseline(force_n=200.0))
    )
    text = {f.id: f for f in pedal_work(held).findings}
    assert text["pedal-residual"].verdict == "stop" and text["pedal-baseline"].verdict == "ok"


def test_one_circuit_gone() -> None:
    """Each circuit alone brakes what it braked; the failed chamber takes half the stroke first."""
    one = chain_of(sound_vehicle())
    front, rear = one_circuit(one, 300.0)
    assert front.decel + rear.decel == pytest.approx(one.at(300.0).decel) and front.stroke > 16.0
    two = replace(
        one, master=Master(kind="two", bore_mm=19.05, rear_bore_mm=15.87, stroke_mm=25.0, bar_front_share=0.6)
    )
    lines = two.lines(300.0)
    assert lines == pytest.approx((0.6 * 300 * 4.6 / circle(19.05), 0.4 * 300 * 4.6 / circle(15.87)))
    assert math.isnan(replace(two, ratio=UNKNOWN).at(300.0).decel)
    single = one_circuit(replace(one, master=replace(one.master, kind="single")), 300.0)
    assert [left.decel for left in single] == [0.0, 0.0]


def test_hot_pads_turn_the_order() -> None:
    """Sound with working pads, the rear leads with hot ones: a watch, not met; the demo's knee holds for all three frictions."""
    vehicle = sound_vehicle()
    front = vehicle.axles["front"]
    hot = replace(front, pad=replace(front.pad, mu_hot=0.25))
    faded = replace(vehicle, axles={**vehicle.axles, "front": hot})
    order = next(f for f in pedal_work(faded).findings if f.id == "pedal-order")
    assert order.verdict == "caution" and "empty with hot pads" in order.why
    work = pedal_work(demo_vehicle())
    valve = Valve(kind="adjustable", knee_bar=work.knee, slope=0.3)
    cured = replace(demo_vehicle(), vehicle=replace(demo_vehicle().vehicle, valve=valve))
    assert all(rear_leads(chain_of(cured, mu), 0.8) is None for mu in ("work", "cold", "hot"))
    assert next(f for f in pedal_work(cured).findings if f.id == "pedal-order").verdict == "ok"


def test_claims_beside_this_vehicles_numbers() -> None:
    """Half of a fixed caliper's area, all of a floating one's; 2 µ F r at 50 bar; v²/(2 z g); a split that moved says by how much."""
    vehicle = sound_vehicle()
    chain = chain_of(vehicle)
    four, pads, shorter, number, split = misconceptions_of(vehicle, chain, None)
    area = 2 * math.pi / 4 * 36.0**2
    assert f"{area:.0f} mm2 of {2 * area:.0f} mm2, {area * 5.0 / 1e3:.1f} kN" in four.text
    assert f"{2 * 0.38 * area * 5.0 * chain.ends[0].radius / 1e3:.0f} N·m" in pads.text
    first = locking(chain, 0.8)
    assert (
        f"{(60 / 3.6) ** 2 / (2 * first.decel * 9.80665):.0f} m from 60 km/h" in shorter.text
        and "front" in shorter.text
    )
    assert "a drum rear" in number.text and "was not noted" in split.text
    then = replace(chain, ends=(replace(chain.ends[0], mu=0.3), chain.ends[1]))
    assert misconceptions_of(vehicle, chain, then)[4].text.startswith("Not here")
    assert misconceptions_of(vehicle, chain, chain)[4].text.startswith("So it does here")
    bare = empty_vehicle()
    text = " ".join(claim.text for claim in misconceptions_of(bare, chain_of(bare), None))
    assert "nan" not in text and text.count("still unknown here") >= 3


def test_many_at_once_as_one_by_one() -> None:
    """Feet, forces and loads of many decelerations at once are those of each by itself, over valves, boosters and balance bars."""
    rng = random.Random(9)
    for _ in range(60):
        one = some(rng)
        one = replace(
            one,
            booster=rng.choice([Booster(), Booster(kind="vacuum", gain=3.0, runout_n=800.0)]),
            valve=rng.choice([Valve(), Valve(kind="adjustable", knee_bar=15.0, slope=0.3)]),
            master=replace(one.master, kind=rng.choice(["tandem", "two"]), rear_bore_mm=17.46, bar_front_share=0.6),
        )
        decels = np.array([rng.uniform(0.01, 1.2) for _ in range(7)])
        feet = one.feet_for(decels)
        assert feet == pytest.approx([one.foot_for(float(z)) for z in decels], rel=1e-12, nan_ok=True)
        roads = [one.roads(float(foot)) for foot in feet]
        assert np.transpose(one.roads(feet)) == pytest.approx(np.array(roads), rel=1e-12, nan_ok=True)
        assert np.transpose(one.body.loads(decels)) == pytest.approx(
            np.array([one.body.loads(float(z)) for z in decels]), rel=1e-12
        )

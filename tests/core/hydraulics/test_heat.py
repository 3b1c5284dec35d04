"""Heat of a train of stops: worked figures, the closed form of the series, and a finite-difference solution of the same ring."""

import math

import pytest

from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.heat.effects import effects_of, nothing_stops, with_set
from bicentra.core.heat.heat_soak import hat_of, hat_peaks
from bicentra.core.heat.stops import (
    HeatSink,
    Train,
    energy_of,
    heated,
    over_at,
    ring_mass,
    rotor_sink,
    stops_of_pads,
    transfer_at,
)
from bicentra.core.heat.train import boils_at, train_of
from bicentra.core.hydraulics.chain import chain_of
from bicentra.core.hydraulics.pedal import pedal_findings
from bicentra.core.parts.attachments import OriginalBrake
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.vehicle import Fluid, Pad, Vehicle
from bicentra.formats.vehicle_report import besides
from bicentra.study.document.starting import demo_vehicle, empty_vehicle, example_vehicle

TRAIN = Train(60.0, 0.0, 12, 40.0, 20.0)


def test_one_stop_by_hand() -> None:
    """1500 kg from 100 km/h: 578.7 kJ; 35 % of it into a 7 kg disc of 460 J/(kg K): 62.9 K (E = m v²/2)."""
    energy = energy_of(1500.0, 100.0, 0.0)
    one = heated(0.35 * energy, HeatSink(7.0, 460.0, 0.2, 50.0, ""), Train(100.0, 0.0, 1, 60.0))
    assert energy / 1e3 == pytest.approx(578.7, abs=0.05) and one.rise == pytest.approx(62.9, abs=0.05)
    assert one.peaks == pytest.approx((20.0 + one.rise,))


def test_a_train_against_its_closed_form() -> None:
    """Peak n is T + ΔT (1 − qⁿ)/(1 − q), and tends to T + ΔT/(1 − q): a geometric series."""
    sink = HeatSink(5.0, 460.0, 0.15, 60.0, "")
    one = heated(60e3, sink, TRAIN)
    q = math.exp(-40.0 / (5.0 * 460.0 / (60.0 * 0.15)))
    assert one.peaks == pytest.approx([20.0 + one.rise * (1 - q**n) / (1 - q) for n in range(1, 13)])
    assert one.steady == pytest.approx(20.0 + one.rise / (1 - q)) and all(peak < one.steady for peak in one.peaks)
    assert over_at(one, one.peaks[3] - 0.1) == 4 and over_at(one, one.steady + 1.0) == 0


def test_against_finite_differences() -> None:
    """The same ring through its thickness in 24 layers, heated on its faces for the length of a stop, cooled between: within 4 %."""
    mass, area, thick, h, energy = 4.0, 0.06, 0.02, 60.0, 40e3
    conduct, heat = 50.0, 460.0
    density = mass / (area / 2 * thick)
    sink, layers = HeatSink(mass, heat, area, h, ""), 24
    dx, dt = thick / layers, 0.01
    temps = [20.0] * layers
    peaks = []
    for _ in range(6):
        for step in range(int(40.0 / dt)):
            flux = 2.0 * energy / area / 4.0 * max(1.0 - step * dt / 4.0, 0.0)  # falls to nothing over a stop of 4 s
            new = temps.copy()
            for k in range(layers):
                left = temps[k - 1] if k else temps[0]
                right = temps[k + 1] if k < layers - 1 else temps[-1]
                gain = conduct * (left - 2 * temps[k] + right) / dx**2
                if k in (0, layers - 1):
                    gain += (flux - h * (temps[k] - 20.0)) / dx
                new[k] = temps[k] + dt * gain / (density * heat)
            temps = new
            if step == int(4.0 / dt):
                peaks.append(sum(temps) / layers)
    text = heated(energy, sink, Train(60.0, 0.0, 6, 40.0, 20.0)).peaks
    assert peaks == pytest.approx(text, rel=0.04)


def test_rings_and_air() -> None:
    """A solid ring of 256/160 by 12: π/4 (256² − 160²) 12 · 7.2·10⁻⁶ = 2.71 kg; a vented one of that size 0.68 of it; the faster the cooler."""
    solid = Rotor(diameter_mm=256.0, swept_inner_diameter_mm=160.0, thickness_mm=12.0, vanes="none")
    assert ring_mass(solid) == pytest.approx(2.71, abs=0.01)
    assert ring_mass(replace(solid, vanes="straight")) == pytest.approx(0.68 * ring_mass(solid))
    assert 20.0 < transfer_at(10.0, 0.256) < transfer_at(20.0, 0.256) < transfer_at(40.0, 0.256) < 200.0
    assert rotor_sink(replace(solid, vanes="straight"), 15.0).constant < rotor_sink(solid, 15.0).constant


def test_the_float_and_nothing_known() -> None:
    """The demo's train: the front takes more than the rear, more and faster stops are hotter; nothing known is unknown."""
    vehicle = demo_vehicle()
    hot = train_of(vehicle, TRAIN)
    assert hot.front.energy > hot.rear.energy and hot.front.energy + hot.rear.energy == pytest.approx(
        energy_of(820.0, 60.0, 0.0) / 2
    )
    faster = train_of(vehicle, replace(TRAIN, every=20.0))
    assert faster.front.peaks[-1] > hot.front.peaks[-1] and faster.fluid_margin < hot.fluid_margin
    assert {f.verdict.value for f in train_of(empty_vehicle(), TRAIN).findings} == {"unknown"}
    mad = train_of(vehicle, Train(140.0, 0.0, 60, 15.0))
    assert {f.id: f.verdict.value for f in mad.findings} == dict.fromkeys(
        ("heat-fluid", "heat-pads", "heat-locker", "heat-paint", "heat-rotor", "heat-drum"), "stop"
    )
    assert "fade from stop" in next(f for f in mad.findings if f.id == "heat-pads").why


def test_fluid_of_its_age() -> None:
    """230 °C dry, 155 wet: half way after a year, wet after two, and wet where nobody knows."""
    fluid = Fluid(dry_boil_c=230.0, wet_boil_c=155.0, age_years=1.0)
    assert boils_at(fluid) == pytest.approx(192.5)
    assert boils_at(replace(fluid, age_years=7.0)) == boils_at(replace(fluid, age_years=None)) == 155.0


def disc_before(**changes: float) -> Vehicle:
    """The demo, as if its front had had discs before, of other sizes."""
    vehicle = demo_vehicle()
    front = vehicle.axles["front"]
    old = replace(front.rotor, **changes)
    return replace(
        vehicle,
        axles={**vehicle.axles, "front": replace(front, before=OriginalBrake(rotor=old, caliper=front.caliper))},
    )


def test_whether_the_old_ones_would_do() -> None:
    """The same rotors as before would do as these do; thin small ones over a hard train would not, and that is told with the stop;
    a vehicle of which nothing was written down says nothing."""
    same = train_of(disc_before(), TRAIN)
    assert same.old is not None and same.old[0].peaks == same.front.peaks and "would already do" in same.needed
    thin = train_of(disc_before(thickness_mm=4.0), Train(110.0, 0.0, 25, 40.0))
    assert thin.old is not None and thin.old[0].peaks[-1] > thin.front.peaks[-1]
    number = next(k for k, peak in enumerate(thin.old[0].peaks, 1) if peak > 450.0)
    assert "would not do" in thin.needed and (f"from stop {number} on" in thin.needed or "boil" in thin.needed)
    drums = train_of(demo_vehicle(), TRAIN)
    assert "old front drums" in drums.needed and "would" in drums.needed and "already do" not in drums.needed
    bare = replace(
        demo_vehicle(), axles={name: replace(axle, before=None) for name, axle in demo_vehicle().axles.items()}
    )
    assert train_of(bare, TRAIN).needed == "" and train_of(bare, TRAIN).old is None
    assert train_of(replace(disc_before(), vehicle=replace(demo_vehicle().vehicle, mass_kg=None)), TRAIN).needed == ""


def test_a_plastic_ring_softens() -> None:
    """A printed ring is asked for heat, one of aluminium is not; what reaches it is what reaches the fluid."""
    vehicle = demo_vehicle()
    front = vehicle.axles["front"]
    for ring, hard, verdict in (
        ("plastic", replace(TRAIN, stops=2), "ok"),
        ("plastic", Train(120.0, 0.0, 40, 30.0), "stop"),
        ("aluminium", TRAIN, None),
    ):
        fitted = replace(
            vehicle, axles={**vehicle.axles, "front": replace(front, fit=replace(front.fit, hub_ring=ring))}
        )
        hot = train_of(fitted, hard)
        text = {f.id: f for f in hot.findings}
        assert (text["heat-ring"].verdict if "heat-ring" in text else None) == verdict
        if verdict is not None:
            reached = hot.boils - hot.fluid_margin
            warm = max(reached, hot.hats[0])  # the hat it lies in may be the warmer
            assert text["heat-ring"].value == pytest.approx(80.0 - warm) and text["heat-locker"].value == pytest.approx(
                150.0 - reached
            )


def test_what_a_set_does_is_what_it_does_once_fitted() -> None:
    """Looked at from the search and typed into the vehicle a set gives the same findings and figures; nothing known says nothing."""
    vehicle = demo_vehicle()
    front = vehicle.axles["front"]
    small = replace(front.caliper, pistons_inboard_mm=(28.0, 28.0), pistons_outboard_mm=(28.0, 28.0))
    done = effects_of(vehicle, "front", front.rotor, small, front.fit, TRAIN)
    fitted = replace(vehicle, axles={**vehicle.axles, "front": replace(front, caliper=small)})
    hot = train_of(fitted, TRAIN)
    assert (
        done is not None and done.peak == hot.front.peaks[-1] and done.foot == chain_of(fitted).foot_for(6.43 / 9.80665)
    )
    assert set(done.findings) == {
        f
        for f in (*pedal_findings(fitted), *hot.findings)
        if {"balance", "master", "pedal", "pad", "fluid", "hub"} & set(f.features)
    }
    assert (
        done.share == tuple(chain_of(one).at(100.0).front_share for one in (vehicle, fitted))
        and done.share[1] < done.share[0]
    )
    assert not nothing_stops(done) and not nothing_stops(None)  # its rear leads
    assert effects_of(empty_vehicle(), "front", front.rotor, small, front.fit, TRAIN) is None
    rear = with_set(vehicle, "rear", front.rotor, front.caliper, front.fit).axles["rear"]
    assert (
        rear.drum is None and rear.rotor is front.rotor and rear.tyre_radius_mm == vehicle.axles["rear"].tyre_radius_mm
    )


def test_drillings_and_slots_by_hand() -> None:
    """48 holes of 6 mm through 12 mm of iron and 12 slots, 48 mm long, 2 wide, 1.5 deep, weigh what their volumes do; unknown sizes do not."""
    plain = Rotor(diameter_mm=256.0, swept_inner_diameter_mm=160.0, thickness_mm=12.0, vanes="none")
    holes = replace(plain, through_holes=48, through_hole_mm=6.0)
    slots = replace(plain, slots=12, slot_wide_mm=2.0, slot_deep_mm=1.5)
    assert ring_mass(plain) - ring_mass(holes) == pytest.approx(48 * math.pi * 9.0 * 12.0 * 7.2e-6)
    assert ring_mass(plain) - ring_mass(slots) == pytest.approx(12 * 48.0 * 2.0 * 1.5 * 7.2e-6)
    area = rotor_sink(holes, 10.0).surface - rotor_sink(plain, 10.0).surface
    assert area * 1e6 == pytest.approx(48 * (math.pi * 6.0 * 12.0 - 2 * math.pi * 9.0))
    assert math.isnan(ring_mass(replace(plain, through_holes=48))) and math.isnan(
        ring_mass(replace(plain, slots=3, slot_wide_mm=2.0))
    )
    vented = replace(holes, vanes="straight")
    assert ring_mass(vented) == pytest.approx(0.68 * ring_mass(holes))


def test_the_hat_against_finite_differences() -> None:
    """Ring and hat stepped in small times, the ring as its train has it: the closed form tells the hat's highest within half a degree."""
    rotor = demo_vehicle().axles["front"].rotor
    train = Train(80.0, 20.0, 8, 45.0, 15.0)
    one = heated(60e3, rotor_sink(rotor, 14.0), train)
    hat = hat_of(rotor, 14.0)
    assert hat is not None and hat.mass > 0.2
    text, store = hat_peaks(one, hat, train), hat.mass * 460.0
    warm, steps = 15.0, 4500
    for peak, top in zip(one.peaks, text):
        highest = 0.0
        for k in range(steps):
            t = train.every * k / steps
            ring = 15.0 + (peak - 15.0) * math.exp(-t / one.sink.constant)
            warm += (hat.inward * (ring - warm) - hat.outward * (warm - 15.0)) / store * train.every / steps
            highest = max(highest, warm)
        assert top == pytest.approx(highest, abs=0.5) and top < peak
    assert hat_of(replace(rotor, kind="two-piece"), 14.0) is None  # nobody knows its joint
    unknown = hat_of(replace(rotor, hat_thickness_mm=None), 14.0)
    assert unknown is not None and all(math.isnan(peak) for peak in hat_peaks(one, unknown, train))


def test_how_long_pads_last_by_hand() -> None:
    """Two pads of 3000 mm2 lose 8 mm each: 48 000 mm3; at 50 mm3 a MJ and 40 kJ a stop that is 24 000 stops; beyond their range a quarter."""
    pad = Pad(thickness_mm=11.0, min_thickness_mm=3.0, to_c=400.0)
    one = heated(
        40e3, rotor_sink(Rotor(diameter_mm=256.0, swept_inner_diameter_mm=160.0, thickness_mm=12.0), 10.0), TRAIN
    )
    assert stops_of_pads(pad, 3000.0, one) == pytest.approx(24_000.0)
    assert stops_of_pads(replace(pad, to_c=-40.0), 3000.0, one) == pytest.approx(6_000.0)
    for blank in (replace(pad, to_c=None), replace(pad, thickness_mm=None), replace(pad, thickness_mm=3.0)):
        assert math.isnan(stops_of_pads(blank, 3000.0, one))
    hot = train_of(demo_vehicle(), TRAIN)
    assert math.isnan(hot.pads_last[1]) and "front pads last about" in " ".join(besides(hot))


def test_what_turns_counts_where_it_is_stated() -> None:
    """The energy of a stop is ½ m v² of the vehicle alone, and of what turns besides where somebody states it."""
    vehicle = demo_vehicle()
    heavy = replace(vehicle, vehicle=replace(vehicle.vehicle, rotating_kg=41.0))
    plain, turned = (train_of(one, TRAIN) for one in (vehicle, heavy))
    assert turned.front.energy == pytest.approx(plain.front.energy * (820.0 + 41.0) / 820.0)


def test_bushings_in_ears_that_get_hot() -> None:
    """The example's press left at the heat that reaches it: bore times the difference of expansions, aluminium 23.6e-6 less steel 11.5e-6 a kelvin."""
    vehicle = example_vehicle("bushings")
    axle = vehicle.axles["front"]
    demo = demo_vehicle()
    whole = replace(
        vehicle, vehicle=demo.vehicle,
        axles={"rear": demo.axles["rear"], "front": replace(axle, tyre_radius_mm=265.0, pad=demo.axles["front"].pad,
               caliper=replace(axle.caliper, pistons_inboard_mm=(48.0,)))},
    )  # fmt: skip
    solved = solve(job_of(whole, "front-right")).bracket.solved
    margins = []
    for train in (TRAIN, Train(120.0, 0.0, 40, 20.0)):
        hot = train_of(whole, train)
        found = next(f for f in hot.findings if f.id == "heat-bushing")
        reached = hot.boils - hot.fluid_margin
        grown = solved["bushing_mm"] * (reached - 20.0) * 12.1e-6
        assert found.value == pytest.approx(solved["interference_mm"] - grown, abs=2e-4)
        margins.append(found.value)
    assert margins[1] < margins[0]
    assert not any(f.id == "heat-bushing" for f in train_of(demo, TRAIN).findings)


def test_the_stop_from_which_each_is_passed() -> None:
    """Behind the rotor a share of its excess arrives: the first stop above each limit, counted by hand from the peaks, is in the words."""
    hot = train_of(demo_vehicle(), Train(140.0, 0.0, 60, 15.0))
    series = [20.0 + 0.35 * (max(pair) - 20.0) for pair in zip(hot.front.peaks, hot.rear.peaks)]
    text = {f.id: f.why for f in hot.findings}
    for id, limit in (("heat-fluid", hot.boils), ("heat-locker", 150.0), ("heat-paint", 120.0)):
        first = 1 + next(k for k, reached in enumerate(series) if reached > limit)
        assert f"passed from stop {first} on" in text[id]
    assert "passed" not in " ".join(f.why for f in train_of(demo_vehicle(), TRAIN).findings)
    assert {f.verdict.value for f in train_of(demo_vehicle(), replace(TRAIN, stops=0)).findings} == {"unknown"}

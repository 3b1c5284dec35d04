"""Where the fluid goes: each cause by hand, stepped masters against their pistons' balance, nothing stated never milder."""

import math
import random

import pytest

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.views.balance import balance_view, grip_view
from bicentra.core.drawing.views.chain import chain_view
from bicentra.core.drawing.views.master import master_view, travel_view
from bicentra.core.hydraulics.before import before_of
from bicentra.core.hydraulics.chain import FAR, Chain, chain_of
from bicentra.core.hydraulics.ends import HOSE_LIMIT, USUAL_FLEX, circle
from bicentra.core.hydraulics.masters import MOST_SOFT, fitted_master, rank
from bicentra.core.hydraulics.pedal import pedal_findings
from bicentra.core.hydraulics.travel import displaced_volumes, one_circuit, stage, stages_of, travel_at
from bicentra.core.parts.brakes import MasterCylinder
from bicentra.core.parts.vehicle import Axle, Compliance, Drum, Master, Vehicle
from bicentra.study.desks.pedal import PedalDesk
from bicentra.study.document.starting import demo_vehicle, empty_vehicle
from bicentra.study.document.study import Study

STATED = Compliance(knock_back_mm=0.1, pad_mm=0.2, caliper_mm=0.12, hose_mm=500.0, hose_mm3_per_bar_m=4.0)


def with_give(vehicle: Vehicle, **axles: Compliance) -> Vehicle:
    """The vehicle with what gives way at an axle stated."""
    return replace(
        vehicle, axles={name: replace(axle, give=axles.get(name, axle.give)) for name, axle in vehicle.axles.items()}
    )


def test_each_cause_by_hand() -> None:
    """The float's front: 8 pistons of 36 mm in two fixed calipers; 5 N/mm2 in the lines. Sums by hand, from the definitions alone."""
    chain = chain_of(with_give(demo_vehicle(), front=STATED))
    found = {part.name: part.volume[0] for part in displaced_volumes(chain, (5.0, 5.0), hot=True)}
    piston = math.pi / 4 * 36.0**2
    assert found["piston retraction"] == pytest.approx(8 * piston * 0.15)
    assert found["knock-back"] == pytest.approx(8 * piston * 0.1)
    assert found["pads and shoes"] == pytest.approx(8 * piston * 0.2 * 0.5)  # half of what they give at 100 bar
    assert found["calipers"] == pytest.approx(2 * 2 * piston * 0.12 * 0.5)  # one side's pistons go out as it opens
    assert found["hoses"] == pytest.approx(2 * 0.5 * 4.0 * 50.0)
    assert found["heat"] == pytest.approx(found["pads and shoes"])
    rear = {part.name: part.volume[1] for part in displaced_volumes(chain, (5.0, 5.0), hot=True, worn=True)}
    cylinder = math.pi / 4 * 19.05**2
    assert rear["heat"] == pytest.approx(
        4 * cylinder * 11e-6 * 203.2 / 2 * 200.0 * 2
    )  # iron grows 11e-6/K: handbook, from memory
    assert rear["worn shoes"] == pytest.approx(4 * cylinder * 0.5) and rear["knock-back"] == rear["calipers"] == 0.0
    vehicle = demo_vehicle()
    drum = replace(vehicle.axles["rear"].drum or Drum(), hotter_k=120.0, stands_off_mm=0.2)
    typed = replace(vehicle, axles={**vehicle.axles, "rear": replace(vehicle.axles["rear"], drum=drum)})
    parts = {part.name: part for part in displaced_volumes(chain_of(typed), (5.0, 5.0), hot=True, worn=True)}
    assert (
        parts["heat"].volume[1] == pytest.approx(rear["heat"] * 120.0 / 200.0) and parts["heat"].usual
    )  # the pads' is
    assert parts["worn shoes"].volume[1] == pytest.approx(rear["worn shoes"] * 0.4) and not parts["worn shoes"].usual
    floating = {"front": replace(chain.ends[0], floating=True)}
    both = displaced_volumes(replace(chain, ends=(floating["front"], chain.ends[1])), (5.0, 5.0))
    assert next(p for p in both if p.name == "pads and shoes").volume[0] == pytest.approx(2 * found["pads and shoes"])
    assert pytest.approx(31.4, abs=0.1) == HOSE_LIMIT  # FMVSS 106: 0.66 cm3 a foot at 1000 psi, from memory


def test_what_is_stated_counts_and_what_is_not_says_so() -> None:
    """Of a vehicle with all of it stated nothing is usual but what heat and wear do; a sum stated for all stands for three of them."""
    vehicle = demo_vehicle()
    usual = {part.name for part in displaced_volumes(chain_of(vehicle), (3.0, 3.0)) if part.usual}
    assert usual == {"piston retraction", "knock-back", "pads and shoes", "calipers", "hoses"}
    stated = displaced_volumes(chain_of(with_give(vehicle, front=STATED, rear=STATED)), (3.0, 3.0))
    assert {part.name for part in stated if part.usual} == {"piston retraction"}  # the drums' shoes
    front = displaced_volumes(chain_of(with_give(vehicle, front=STATED)), (3.0, 3.0))
    assert {part.name for part in front if part.usual} == {
        "piston retraction",
        "pads and shoes",
        "hoses",
    }  # drums have no more
    for give, rule in (
        (Compliance(), True),
        (STATED, False),
    ):  # the rule of three stands for what gives way, while that is not stated
        chain = chain_of(with_give(vehicle, front=give, rear=give))
        own, worst = fitted_master(chain), stages_of(chain)[-1].travel.share
        assert own.share == pytest.approx(max(worst, MOST_SOFT * travel_at(chain).share) if rule else worst)
    together = replace(vehicle, vehicle=replace(vehicle.vehicle, compliance_mm3_per_bar=20.0))
    one = displaced_volumes(chain_of(together), (3.0, 5.0))
    assert [part.name for part in one][2:] == ["hoses, pads and calipers, as stated"]
    assert sum(one[2].volume) == pytest.approx(20.0 * (30.0 + 50.0) / 2)
    assert (
        travel_at(chain_of(together), 100.0).stroke < stage(chain_of(together), "", 100.0).travel.stroke
    )  # knock-back on top
    assert USUAL_FLEX["hose_mm3_per_bar_m"] == pytest.approx(HOSE_LIMIT / 3, abs=0.6)


def test_stages_grow_and_a_cold_start_is_never_the_worst() -> None:
    """Bite, 0.6 g, lock-up; hot more than cold, worn more than hot; with nothing stated a master is never judged milder
    than by the rule of three times the way back.
    """
    chain = chain_of(demo_vehicle())
    bite, work, lock, hot, worn = (one.travel.stroke for one in stages_of(chain))
    assert 0.0 < bite < work < lock and work < hot < worn
    for one in stages_of(chain):
        assert math.fsum(one.strokes) == pytest.approx(one.travel.stroke)
    own = next(one for one in rank(chain, ()) if one.own)
    assert own.share >= MOST_SOFT * travel_at(chain).share and own.share >= worn / 25.0 - 1e-12
    assert "hot and worn" in own.why and "cold" in own.why
    blank = stages_of(chain_of(empty_vehicle()))
    assert all(math.isnan(one.travel.stroke) for one in blank)
    assert next(one for one in rank(chain_of(empty_vehicle()), ()) if one.own).verdict is Verdict.UNKNOWN
    assert travel_view(chain_of(empty_vehicle()), blank, one_circuit(chain_of(empty_vehicle()), 100.0)).examples


def pushed(near: float, far: float, force: float) -> tuple[float, float]:
    """A stepped tandem's pressures by the balance of its pistons: the rod's piston has ``near`` area, the floating one ``far``."""
    ahead = force / near  # the rod's piston: F = p1 A1
    beyond = ahead * far / far  # the floating piston: p1 A2 = p2 A2
    return ahead, beyond


def test_a_stepped_master_by_its_pistons() -> None:
    """The chamber by the rod sets the pressure of both; the stroke is what both take over its bore; alone, each has its own bore."""
    rng = random.Random(4)
    for _ in range(40):
        front, rear = rng.uniform(15.0, 30.0), rng.uniform(15.0, 30.0)
        where = rng.choice((FAR, "by the rod"))
        vehicle = demo_vehicle()
        master = Master(bore_mm=front, rear_bore_mm=rear, stroke_mm=40.0, kind="stepped", front_from=where)
        chain = chain_of(replace(vehicle, vehicle=replace(vehicle.vehicle, master=master)))
        near, far = (circle(rear), circle(front)) if where == FAR else (circle(front), circle(rear))
        foot = rng.uniform(20.0, 300.0)
        assert chain.lines(foot) == pytest.approx(pushed(near, far, foot * 4.6))
        volumes = [end.volume for end in chain.ends]
        # by the pistons' ways: the far one moves V2/A2, the near one that much of A2 and its own fluid besides
        beyond = volumes[0 if where == FAR else 1] / far
        way = (volumes[1 if where == FAR else 0] + far * beyond) / near
        assert travel_at(chain).stroke == pytest.approx(way)
        for one, bore in zip(one_circuit(chain, foot), (front, rear)):
            end = chain.ends[0 if one.left == "front" else 1]
            assert one.decel == pytest.approx(end.road(foot * 4.6 / circle(bore)) / (chain.body.mass * 9.80665))
        assert chain.foot_for(chain.at(foot).decel) == pytest.approx(foot)


def test_a_stepped_master_whose_chambers_nobody_traced_is_never_met() -> None:
    """Which bore the rod's piston runs in decides pressure and stroke: while it is not stated nothing that rests on it is met."""
    vehicle = demo_vehicle()
    for where, fine in ((None, False), ("by the rod", True)):
        master = Master(bore_mm=19.05, rear_bore_mm=22.2, stroke_mm=36.0, kind="stepped", front_from=where)
        found = {f.id: f for f in pedal_findings(replace(vehicle, vehicle=replace(vehicle.vehicle, master=master)))}
        for id in ("pedal-stroke", "pedal-force"):
            assert (found[id].verdict is Verdict.OK) is fine
            assert fine or "by the rod" in found[id].why


def test_pictures_of_every_stage() -> None:
    """A bar for each stage and each circuit, true in length to what it tells; a piece for each cause."""
    chain: Chain = chain_of(demo_vehicle())
    stages, circuits = stages_of(chain), one_circuit(chain, 150.0)
    drawing = travel_view(chain, stages, circuits)
    for one in stages:
        pieces = [shape for shape in drawing.shapes if shape.tag == f"stage-{one.name}"]
        wide = max(p[0] for shape in pieces for loop in shape.loops for p in loop)
        assert len(pieces) == len(one.parts) and wide / 170.0 == pytest.approx(
            one.travel.stroke / 25.0 / max(1.0, circuits[0].stroke / 25.0)
        )
    told = " ".join(text.text for text in drawing.texts)
    assert "Front alone, the other circuit gone" in told and "knock-back *" in told and Axle().give == Compliance()


def test_the_grip_used_read_back() -> None:
    """Each point of the curves is force over load at its deceleration, solved one by one; marks lie where locking says; laden besides."""
    vehicle = demo_vehicle()
    chain, laden = chain_of(vehicle), chain_of(vehicle, laden=True)
    drawing = grip_view(chain, chain.at(100.0), laden)
    for one, load in ((chain, "empty"), (laden, "laden")):
        for place, name in enumerate(("front", "rear")):
            (shape,) = [shape for shape in drawing.shapes if shape.tag == f"{name}-{load}"]
            for x, y, *_ in shape.loops[0][5::20]:
                state = one.at(one.foot_for(x / 150.0))
                assert y / 75.0 == pytest.approx(state.road[place] / one.body.loads(x / 150.0)[place], rel=1e-6)
    text = [note.text for note in drawing.notes]
    assert "dry, grip 0.8: rear locks at 0.68 g" in text and "wet, grip 0.5: front locks at 0.49 g" in text
    assert grip_view(chain_of(empty_vehicle()), chain.at(100.0)).examples


def test_what_came_off_lies_behind() -> None:
    """The float's front had drums of 22.22 mm cylinders: dotted about the same middle, named; nothing where nothing is another."""
    vehicle = demo_vehicle()
    chain = chain_of(vehicle)
    args = (vehicle, chain, chain.at(100.0), travel_at(chain), LengthFormat("mm"))
    drawing = chain_view(*args, before_of(vehicle))
    (stock,) = [shape for shape in drawing.shapes if shape.tag == "stock-front"]
    xs = [point[0] for point in stock.loops[0]]
    assert max(xs) - min(xs) == pytest.approx(22.22) and stock.line == "hidden"
    assert "before: drum cylinder 22.22 mm" in [text.text for text in drawing.texts]
    assert not any(shape.tag.startswith("stock") for shape in chain_view(*args, vehicle).shapes)


def test_a_guess_is_drawn_as_a_band_and_ports_are_told() -> None:
    """With the drum's factor guessed by its shoes both ends of the guess are drawn, one on either side; outlets unlike the lines are told."""
    vehicle = demo_vehicle()
    rear = vehicle.axles["rear"]
    assert rear.drum is not None
    drum = replace(rear.drum, factor=None, layout="leading-trailing")
    guessed = replace(vehicle, axles={**vehicle.axles, "rear": replace(rear, drum=drum)})
    desk = PedalDesk(Study(guessed))
    assert len(desk.band) == 2 and PedalDesk(Study(vehicle)).band == ()
    drawing = balance_view(desk.chain, desk.chain.at(60.0), None, desk.band)
    ends = {tag: [s.loops[0][-1] for s in drawing.shapes if s.tag == tag] for tag in ("band", "installed")}
    slopes = sorted(y / x for x, y, *_ in ends["band"])
    ((x, y, *_),) = ends["installed"]
    assert slopes[0] < y / x < slopes[1]
    master = replace(vehicle.vehicle.master, outlet_thread="M12x1.0")
    masters = [MasterCylinder(name=name, bore_mm=22.0, stroke_mm=36.0, circuits=2, outlet_thread=thread)
             for name, thread in (("other", "M10x1.0"), ("same", "M12x1.0"), ("open", None))]  # fmt: skip
    text = {
        one.name: one.why
        for one in rank(chain_of(replace(vehicle, vehicle=replace(vehicle.vehicle, master=master))), masters)
    }
    assert "Outlets M10x1.0, the lines' M12x1.0: adapters" in text["other"] and "not stated" in text["open"]
    assert "utlet" not in text["same"] + text["as built, tandem"]


def test_long_pedals_and_strokes_stay_on_their_paper() -> None:
    """A pedal of 380 mm, six pistons a side, a master of 70 mm stroke: nothing is drawn outside the drawing's own frame."""
    plain = demo_vehicle()
    front = plain.axles["front"]
    caliper = replace(front.caliper, pistons_inboard_mm=(45.0,) * 6, pistons_outboard_mm=(45.0,) * 6)
    pedal = replace(plain.vehicle.pedal, pivot_to_pad_mm=380.0)
    master = replace(plain.vehicle.master, stroke_mm=70.0, bore_mm=38.0)
    vehicle = replace(
        plain,
        vehicle=replace(plain.vehicle, pedal=pedal, master=master),
        axles={**plain.axles, "front": replace(front, caliper=caliper)},
    )
    chain, lengths = chain_of(vehicle), LengthFormat("mm")
    drawings = (
        chain_view(vehicle, chain, chain.at(100.0), travel_at(chain, 100.0), lengths),
        master_view(vehicle, chain, plain, lengths),
    )
    for drawing in drawings:
        x0, y0, x1, y1 = drawing.bounds
        for left, low, right, high in (shape.bounds for shape in drawing.shapes if shape.ink != "centre"):
            assert x0 <= left and right <= x1 and y0 <= low and high <= y1

"""The distance network against closed forms: trilateration, a straight line, a quadrilateral worked by hand."""

import math

import numpy as np
import pytest

from bicentra.core.base.errors import ConvergenceError
from bicentra.core.base.records import replace
from bicentra.core.parts.survey import Direction, Distance, Feature, Survey
from bicentra.core.survey.adjust import adjust
from bicentra.core.survey.network import make_network
from bicentra.core.survey.words import loose_sentences
from tests.core.survey.conftest import Maker, line_angle, read

TRUTH = {"pilot": (0.0, 0.0), "upper": (-62.0, 42.0), "lower": (-62.0, -38.0)}
SIZES = {"pilot": 57.0, "upper": 10.5, "lower": 12.0}


def survey(*distances: Distance, angles: tuple[str, ...] = ("upper",), **more: object) -> Survey:
    """A survey of the two lugs with exact diameters and angles from the pilot."""
    features = tuple(Feature(name=n, diameter_mm=SIZES[n], axis=n == "pilot") for n in TRUTH)
    directions = tuple(Direction(from_="pilot", to=n, clock_deg=line_angle(TRUTH, "pilot", n)) for n in angles)
    return Survey(features=features, distances=distances, directions=directions, **more)


@pytest.mark.parametrize("sense", ["near-near", "far-far", "near-far", "centres"])
def test_trilateration_by_the_cosine_rule(sense: str) -> None:
    """Three distances and one angle give both holes; the lower one by the cosine rule, in every sense of reading."""
    done = adjust(
        survey(
            *(read(TRUTH, SIZES, a, b, sense) for a, b in (("pilot", "upper"), ("pilot", "lower"), ("upper", "lower")))
        )
    )
    a, b, c = math.hypot(62, 42), math.hypot(62, 38), 80.0
    between = math.acos((a * a + b * b - c * c) / (2 * a * b))
    angle = math.atan2(42, -62) + between
    assert done.place("upper") == pytest.approx((-62.0, 42.0), abs=1e-6)
    assert done.place("lower") == pytest.approx((b * math.cos(angle), b * math.sin(angle)), abs=1e-6)
    assert done.dof == 0 and done.passed is None and done.suspects == () and not done.loose


def test_points_on_one_line_average_as_the_weights_say() -> None:
    """One distance read twice by unlike instruments: the weighted mean, and its standard uncertainty."""
    first = replace(read(TRUTH, SIZES, "pilot", "upper", "centres"), sd_mm=0.03)
    second = replace(first, value_mm=first.value_mm + 0.1, sd_mm=0.4)
    done = adjust(survey(first, second))
    w1, w2 = 1 / 0.03**2, 1 / 0.4**2
    mean = (first.value_mm * w1 + (first.value_mm + 0.1) * w2) / (w1 + w2)
    assert math.hypot(*done.place("upper")) == pytest.approx(mean, abs=1e-6)
    along = np.array(done.place("upper")) / mean
    assert math.sqrt(along @ done.spread("upper") @ along) == pytest.approx(1 / math.sqrt(w1 + w2), rel=1e-6)
    assert done.redundancy[:2] == pytest.approx([w2 / (w1 + w2), w1 / (w1 + w2)], rel=1e-6)


def test_overdetermined_quadrilateral_by_hand() -> None:
    """A unit square with both diagonals and one diagonal read wrong by e: every residual is ±e/8·√2 or ±e/2·… by symmetry.

    By hand: six distances, eight coordinates less three freedoms leave one degree of freedom. For a square of side a the
    one condition between small errors is Σ sides = √2/… : (d1 + d2)/√2 − (s1 + s2 + s3 + s4)/2·… The least-squares
    residuals stand in the ratio of the condition's coefficients: 1 for each side to −√2 for each diagonal.
    """
    corners = {"pilot": (0.0, 0.0), "b": (60.0, 0.0), "c": (60.0, 60.0), "d": (0.0, 60.0)}
    sizes = dict.fromkeys(corners, 10.0)
    names = list(corners)
    pairs = [("pilot", "b"), ("b", "c"), ("c", "d"), ("d", "pilot"), ("pilot", "c"), ("b", "d")]
    readings = [read(corners, sizes, a, b, "centres") for a, b in pairs]
    error = 0.01
    readings[4] = replace(readings[4], value_mm=readings[4].value_mm + error)
    features = tuple(Feature(name=n, axis=n == "pilot", kind="round") for n in names)
    angle = Direction(from_="pilot", to="b", clock_deg=0.0)
    done = adjust(Survey(features=features, distances=tuple(readings), directions=(angle,)))
    # condition a·v = misclosure with a = (1, 1, 1, 1, −√2, −√2): residual = a·(a·l)/(a·a), a·a = 8
    coefficients = np.array([1, 1, 1, 1, -math.sqrt(2), -math.sqrt(2)])
    expected = coefficients * (coefficients[4] * error) / 8.0
    assert done.dof == 1
    assert done.residuals[:6] == pytest.approx(expected, abs=2e-5)
    assert done.redundancy[:6] == pytest.approx(coefficients**2 / 8.0, abs=1e-3)


def test_near_and_far_readings_give_the_diameters_too() -> None:
    """Without a diameter, near-near and far-far of one pair fix the centre distance and the sum of radii."""
    bare = survey(read(TRUTH, SIZES, "pilot", "upper"), read(TRUTH, SIZES, "pilot", "upper", "far-far"))
    bare = replace(
        bare,
        features=tuple(replace(f, diameter_mm=None if f.name == "upper" else f.diameter_mm) for f in bare.features),
    )
    done = adjust(bare)
    assert done.place("upper") == pytest.approx((-62.0, 42.0), abs=1e-6)
    assert done.diameter("upper") == pytest.approx(10.5, abs=1e-6)


def test_an_edge_and_its_lean() -> None:
    """A hole is held by its distance from a flat whose own lean and distance from the axle were read."""
    lean, offset = 80.0, 50.0
    n = (-math.sin(math.radians(lean)), math.cos(math.radians(lean)))
    gap = abs(n[0] * -62 + n[1] * 42 - offset) - SIZES["upper"] / 2
    made = survey(
        read(TRUTH, SIZES, "pilot", "upper"),
        Distance(from_="flat", to="pilot", sense="centres", value_mm=offset),
        Distance(from_="flat", to="upper", sense="near-near", value_mm=gap),
        angles=(),
    )
    features = (*made.features[:2], Feature(name="flat", kind="edge"))
    angle = Direction(from_="flat", to="flat", clock_deg=lean)
    done = adjust(replace(made, features=features, directions=(angle,)), hints={"upper": (-60.0, 40.0)})
    alpha, reach = done.place("flat")
    assert abs(math.degrees(alpha) % 180 - lean) < 1e-6 and abs(abs(reach) - offset) < 1e-6
    ends = [done.place("upper")]
    assert math.hypot(*ends[0]) == pytest.approx(math.hypot(62, 42), abs=1e-6)


def test_derivatives_against_differences(network: Maker) -> None:
    """Every derivative of every kind of reading against a central difference."""
    made, _ = network(np.random.default_rng(3), 4, 8)
    flat = Feature(name="flat", kind="edge")
    extra = (
        Distance(from_="flat", to="h1", sense="near-far", value_mm=20.0),
        Distance(from_="h2", to="flat", value_mm=30.0),
    )
    lean = Direction(from_="flat", to="flat", clock_deg=33.0)
    net = make_network(replace(made, features=(*made.features, flat), distances=(*made.distances, *extra),
                               directions=(*made.directions, lean)))  # fmt: skip
    x = np.random.default_rng(4).uniform(10, 90, net.count)
    slopes = net.slopes(x)
    for k in range(net.count):
        step = np.zeros(net.count)
        step[k] = 1e-5
        difference = (net.deviations(x + step) - net.deviations(x - step)) / 2e-5
        assert slopes[:, k] == pytest.approx(difference, rel=1e-4, abs=1e-4)


def test_covariance_against_monte_carlo(network: Maker) -> None:
    """Standard deviations and correlations of 3000 noisy surveys agree with the covariance within 5 %."""
    rng = np.random.default_rng(8)
    exact, truth = network(rng, 3, 6, scale=0.0)
    base = adjust(exact)
    places = []
    for _ in range(3000):
        noisy = replace(
            exact,
            features=tuple(replace(f, diameter_mm=f.diameter_mm + rng.normal(0, 0.03)) for f in exact.features),
            distances=tuple(replace(d, value_mm=d.value_mm + rng.normal(0, 0.03)) for d in exact.distances),
            directions=tuple(replace(a, clock_deg=a.clock_deg + rng.normal(0, 0.2)) for a in exact.directions),
        )
        places.append(adjust(noisy, hints=truth).x[:6])
    spread = np.cov(np.array(places).T)
    sds = np.sqrt(np.diag(base.covariance)[:6])
    assert np.sqrt(np.diag(spread)) == pytest.approx(sds, rel=0.05)
    assert (spread - base.covariance[:6, :6]) / np.outer(sds, sds) == pytest.approx(np.zeros((6, 6)), abs=0.06)


def test_a_loose_point_is_named_with_its_direction() -> None:
    """One distance holds a hole along the line only; without any angle the corner turns about the axle."""
    one = survey(read(TRUTH, SIZES, "pilot", "upper"), read(TRUTH, SIZES, "pilot", "lower"))
    done = adjust(one)
    assert {item.name for item in done.loose} == {"lower"}
    across = math.atan2(done.place("lower")[1], done.place("lower")[0]) + math.pi / 2
    assert abs(math.remainder(done.loose[0].way - across, math.pi)) < 1e-6
    from bicentra.core.base.wording import LengthFormat

    turning = adjust(
        replace(
            survey(
                *(read(TRUTH, SIZES, a, b) for a, b in (("pilot", "upper"), ("pilot", "lower"), ("upper", "lower")))
            ),
            directions=(),
        )
    )
    assert "turned about the axle" in loose_sentences(turning, LengthFormat("mm"))[0]


def test_two_mirrored_places_are_never_chosen_between_silently() -> None:
    """A hole that could lie on either side is told so; a stated side, its name or the job's lug settles it."""
    three = tuple(read(TRUTH, SIZES, a, b) for a, b in (("pilot", "upper"), ("pilot", "lower"), ("upper", "lower")))
    made = survey(*three)
    plain = Survey(
        features=tuple(replace(f, name={"lower": "second"}.get(f.name, f.name)) for f in made.features),
        distances=tuple(replace(d, from_={"lower": "second"}.get(d.from_, d.from_), to={"lower": "second"}.get(d.to, d.to)) for d in three),
        directions=made.directions,
    )  # fmt: skip
    open_ = adjust(plain)
    assert [name for name, *_ in open_.mirrored] == ["second"] and not open_.known("second")
    text = replace(plain, features=tuple(replace(f, side="below") if f.name == "second" else f for f in plain.features))
    assert adjust(text).place("second") == pytest.approx(TRUTH["lower"], abs=1e-6)
    assert adjust(plain, hints={"second": (-60.0, -30.0)}).place("second") == pytest.approx(TRUTH["lower"], abs=1e-6)
    assert adjust(made).place("lower") == pytest.approx(TRUTH["lower"], abs=1e-6)


def test_a_starved_solver_says_so(network: Maker) -> None:
    """Stopped after one step the adjustment raises, tells how far off it is and what to do."""
    made, _ = network(np.random.default_rng(5), 5, 12)
    wrong = replace(made.distances[0], value_mm=made.distances[0].value_mm + 30.0)
    made = replace(made, distances=(wrong, *made.distances[1:]))
    with pytest.raises(ConvergenceError, match="did not settle") as caught:
        adjust(made, most_steps=1)
    assert caught.value.residual > 0 and caught.value.next_step


def test_nothing_measured_is_no_fault() -> None:
    """Features without a reading, and one feature alone, adjust to nothing known."""
    alone = adjust(Survey(features=(Feature(name="pilot", axis=True, diameter_mm=57.0),)))
    assert alone.dof == 0 and alone.loose == ()
    bare = adjust(Survey(features=(Feature(name="pilot", axis=True), Feature(name="upper"))))
    assert [item.way for item in bare.loose] == [None]


def test_every_mirror_image_is_told_however_many() -> None:
    """Nine points read from the pilot and one lug only: each has a twin behind that line, none is chosen silently."""
    lug = {"pilot": (0.0, 0.0), "upper": (-62.0, 42.0)}
    truth = lug | {f"p{k}": (-90.0 + 12 * k, -10.0 - 3 * k) for k in range(9)}
    sizes = dict.fromkeys(truth, 10.0)
    features = tuple(Feature(name=n, diameter_mm=10.0, axis=n == "pilot") for n in truth)
    pairs = [("pilot", "upper"), *((a, n) for n in truth if n not in lug for a in lug)]
    made = Survey(
        features=features,
        distances=tuple(read(truth, sizes, a, b) for a, b in pairs),
        directions=(Direction(from_="pilot", to="upper", clock_deg=line_angle(truth, "pilot", "upper")),),
    )
    done = adjust(made)
    assert {name for name, *_ in done.mirrored} == set(truth) - set(lug)
    both = [(one, other) for _, one, other in done.mirrored]
    assert all(min(math.dist(truth[n], p) for p in pair) < 1e-6 for (n, *_), pair in zip(done.mirrored, both))
    hinted = adjust(made, hints={n: (x + 3.0, y - 3.0) for n, (x, y) in truth.items()})
    assert hinted.mirrored == () and all(math.dist(hinted.place(n), truth[n]) < 1e-6 for n in truth)

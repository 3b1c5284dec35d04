"""Where the adjustment starts: from readings without any error the truth itself has to be among the ways, by plane geometry alone."""

import math

import numpy as np
import pytest

from bicentra.core.parts.survey import Direction, Distance, Feature, Survey
from bicentra.core.survey.network import make_network
from bicentra.core.survey.start import StartWay, circles_meet, starting_ways

PLACES = {"axle": (0.0, 0.0), "a": (70.0, 12.0), "b": (-31.0, 64.0), "c": (22.0, -83.0), "d": (-55.0, -41.0)}
ALPHA, OFFSET = 0.4, 35.0
"""The edge: points whose distance along its normal (−sin α, cos α) is the offset."""


def between(one: str, other: str) -> Distance:
    """The exact distance of two points, or of a point from the edge."""
    if "edge" in (one, other):
        x, y = PLACES[other if one == "edge" else one]
        return Distance(
            from_=one, to=other, sense="centres", value_mm=abs(-math.sin(ALPHA) * x + math.cos(ALPHA) * y - OFFSET)
        )
    return Distance(from_=one, to=other, sense="centres", value_mm=math.dist(PLACES[one], PLACES[other]))


def seen(one: str, other: str) -> Direction:
    """The exact clock angle of a line; of the edge by itself its lean."""
    if one == other == "edge":
        return Direction(from_=one, to=other, clock_deg=math.degrees(ALPHA))
    (ax, ay), (bx, by) = PLACES[one], PLACES[other]
    return Direction(from_=one, to=other, clock_deg=math.degrees(math.atan2(by - ay, bx - ax)))


def ways_of(*readings: Distance | Direction) -> tuple[StartWay, ...]:
    """The ways that follow from exact readings."""
    names = dict.fromkeys(["axle", *(name for r in readings for name in (r.from_, r.to))])
    features = tuple(Feature(name=n, kind="edge" if n == "edge" else "point", axis=n == "axle") for n in names)
    distances = tuple(r for r in readings if isinstance(r, Distance))
    directions = tuple(r for r in readings if isinstance(r, Direction))
    return starting_ways(make_network(Survey(features=features, distances=distances, directions=directions)), {})


def misses(way: StartWay) -> float:
    """How far the worst placed feature is from where it truly is [mm]."""
    far = [math.dist(place, PLACES[name]) for name, place in way.places.items() if name != "edge"]
    if "edge" in way.places:
        angle, offset = way.places["edge"]
        turned = math.remainder(angle - ALPHA, 2 * math.pi)
        flipped = abs(math.remainder(turned, math.pi)) < 1e-6 < abs(turned)
        far += [abs(math.remainder(turned, math.pi)) * 100.0, abs((-offset if flipped else offset) - OFFSET)]
    return max(far)


A, B = (seen("axle", "a"), between("axle", "a")), (between("axle", "b"), between("a", "b"), seen("axle", "b"))
EDGE = (seen("edge", "edge"), between("axle", "edge"), between("a", "edge"), between("b", "edge"))


@pytest.mark.parametrize(
    "readings",
    [
        A,
        (*A, *B[:2]),
        (*A, seen("axle", "b"), between("a", "b")),
        (*A, seen("axle", "b"), seen("a", "b")),
        (*A, seen("b", "axle"), between("b", "axle")),
        (*A, *B, between("axle", "c"), between("a", "c"), between("b", "c")),
        (*A, *B, between("d", "b"), between("d", "a"), seen("d", "axle")),
        (*A, *B, *EDGE),
        (*A, *B, *EDGE[1:]),
        (*A, *B, *EDGE, between("c", "edge"), between("c", "a"), between("c", "axle")),
        (*A, *B, *EDGE, between("edge", "c"), seen("axle", "c"), between("c", "b")),
        (*A, *B, *EDGE, between("edge", "d"), between("axle", "d"), seen("d", "b")),
    ],
)  # fmt: skip
def test_the_truth_is_among_the_ways(readings: tuple[Distance | Direction, ...]) -> None:
    """To rounding, nothing guessed, and no misfit: trilateration, rays and edges each find the place they were read from."""
    ways = [way for way in ways_of(*readings) if not way.guessed]
    assert min(map(misses, ways)) < 1e-6
    assert min(ways, key=misses).misfit < 1e-9


@pytest.mark.parametrize("seed", range(20))
def test_two_circles_meet_where_both_are(seed: int) -> None:
    """Each place lies on both circles; circles that just miss each other give the place between them."""
    rng = np.random.default_rng(seed)
    (ax, ay), (bx, by), (px, py) = rng.uniform(-90.0, 90.0, (3, 2)).tolist()
    ra, rb = math.dist((ax, ay), (px, py)), math.dist((bx, by), (px, py))
    found = circles_meet((ax, ay), ra, (bx, by), rb)
    assert len(found) == 2 and min(math.dist(place, (px, py)) for place in found) < 1e-6
    for place in found:
        assert math.dist(place, (ax, ay)) == pytest.approx(ra) and math.dist(place, (bx, by)) == pytest.approx(rb)
    apart = math.dist((ax, ay), (bx, by))
    (alone,) = circles_meet((ax, ay), 0.4 * apart, (bx, by), 0.5 * apart)
    assert math.dist(alone, (ax, ay)) == pytest.approx(0.4 * apart, rel=0.2)
    assert math.dist(alone, (ax, ay)) + math.dist(alone, (bx, by)) == pytest.approx(apart)


def test_what_two_readings_leave_open_is_told_as_two_ways() -> None:
    """A point by its distances from axle and another point alone: the true one and its mirror image over their line."""
    ways = ways_of(*A, *B[:2])
    assert len(ways) == 2 and sorted(map(misses, ways))[0] < 1e-6
    x, y = max(ways, key=misses).places["b"]
    line = math.atan2(PLACES["a"][1], PLACES["a"][0])
    turn = 2 * line - math.atan2(PLACES["b"][1], PLACES["b"][0])
    assert (
        math.dist((x, y), (math.hypot(*PLACES["b"]) * math.cos(turn), math.hypot(*PLACES["b"]) * math.sin(turn))) < 1e-6
    )


def test_a_feature_that_one_reading_holds_is_guessed_at_its_distance() -> None:
    """One distance: on its circle; one ray: along it; both are told as guessed."""
    (far,) = ways_of(*A, between("axle", "c"))
    assert far.guessed == {"c"} and math.hypot(*far.places["c"]) == pytest.approx(math.hypot(*PLACES["c"]))
    (ray,) = ways_of(*A, seen("axle", "d"))
    assert ray.guessed == {"d"} and math.atan2(*ray.places["d"][::-1]) == pytest.approx(math.atan2(*PLACES["d"][::-1]))
    (lean,) = ways_of(*A, seen("edge", "edge"))
    assert lean.guessed == {"edge"} and lean.places["edge"][0] == pytest.approx(ALPHA)

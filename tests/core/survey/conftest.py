"""Made-up networks with a known truth, shared by the survey's tests."""

import math
from collections.abc import Callable

import numpy as np
import pytest

from bicentra.core.parts.survey import SENSES, Direction, Distance, Feature, Survey
from bicentra.core.survey.network import SENSE_SIGNS

Truth = dict[str, tuple[float, float]]
Maker = Callable[..., tuple[Survey, Truth]]


def read(
    truth: Truth, sizes: dict[str, float], one: str, other: str, sense: str = "near-near", noise: float = 0.0
) -> Distance:
    """Return an exact reading plus ``noise``."""
    first, second = SENSE_SIGNS[sense]
    value = math.dist(truth[one], truth[other]) + first * sizes[one] / 2 + second * sizes[other] / 2 + noise
    return Distance(from_=one, to=other, sense=sense, value_mm=value)


def line_angle(truth: Truth, one: str, other: str) -> float:
    """Return the clock angle of a line [degrees]."""
    return math.degrees(math.atan2(truth[other][1] - truth[one][1], truth[other][0] - truth[one][0]))


@pytest.fixture
def network() -> Maker:
    """Make a random network: ``points`` holes about the pilot, ``readings`` distances, two angles."""

    def made(rng: np.random.Generator, points: int, readings: int, scale: float = 1.0) -> tuple[Survey, Truth]:
        truth: Truth = {"pilot": (0.0, 0.0)}
        while len(truth) < points + 1:
            place = tuple(float(v) for v in rng.uniform(-120, 120, 2))
            if all(math.dist(place, other) > 25 for other in truth.values()):
                truth[f"h{len(truth)}"] = place
        names = list(truth)
        sizes = {name: float(rng.uniform(8, 14)) for name in names} | {"pilot": 57.0}
        pairs = [(a, b) for k, a in enumerate(names) for b in names[:k]]
        rng.shuffle(pairs)
        features = tuple(
            Feature(name=n, diameter_mm=sizes[n] + scale * float(rng.normal(0, 0.03)), axis=n == "pilot") for n in names
        )
        distances = tuple(
            read(truth, sizes, a, b, SENSES[int(rng.integers(4))], scale * float(rng.normal(0, 0.03)))
            for a, b in pairs[:readings]
        )
        directions = tuple(
            Direction(from_="pilot", to=n, clock_deg=line_angle(truth, "pilot", n) + scale * float(rng.normal(0, 0.2)))
            for n in names[1:3]
        )
        return Survey(features=features, distances=distances, directions=directions), truth

    return made

"""A large network of readings for the bench."""

import math
from collections.abc import Callable

import numpy as np

from bicentra.core.parts.survey import Direction, Distance, Feature, Survey
from bicentra.core.survey.adjust import adjust


def large_survey() -> Survey:
    """Return 60 readings over 12 points and the pilot: 45 distances, 13 diameters, two angles; an invented network."""
    rng = np.random.default_rng(60)
    places = [(0.0, 0.0)]
    while len(places) < 13:
        place = tuple(float(v) for v in rng.uniform(-130, 130, 2))
        if all(math.dist(place, other) > 25 for other in places):
            places.append(place)
    names = ["pilot", *(f"hole {k}" for k in range(12))]
    pairs = [(a, b) for a in range(13) for b in range(a)]
    rng.shuffle(pairs)
    distances = tuple(
        Distance(
            from_=names[a],
            to=names[b],
            sense="centres",
            value_mm=math.dist(places[a], places[b]) + float(rng.normal(0, 0.03)),
        )
        for a, b in pairs[:45]
    )
    angles = tuple(
        Direction(from_="pilot", to=names[k], clock_deg=math.degrees(math.atan2(places[k][1], places[k][0])))
        for k in (1, 2)
    )
    features = tuple(Feature(name=n, diameter_mm=10.0, axis=n == "pilot") for n in names)
    return Survey(features=features, distances=distances, directions=angles)


def network_calls(count: int) -> list[Callable[[], object]]:
    """Return ``count`` times the large network adjusted, every reading tested for a blunder."""
    survey = large_survey()

    def whole() -> object:
        done = adjust(survey)
        return done.suspects, done.detectable, done.passed

    return [whole] * count

"""Benches of the survey: a large network adjusted with its blunder test, and propagation to every finding."""

import math
import statistics
import time
from collections.abc import Callable

import numpy as np

from bicentra.core.certainty.inputs import survey_inputs
from bicentra.core.certainty.propagate import frozen_choices, propagate
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import Direction, Distance, Feature, Survey
from bicentra.core.solution import solve
from bicentra.core.survey.adjust import adjust
from bicentra.core.survey.corner import survey_corner
from bicentra.core.survey.use import takeover


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


def median_ms(call: Callable[[], object], count: int) -> float:
    """Return the median wall time of ``count`` calls [ms]."""
    call()
    found = []
    for _ in range(count):
        start = time.perf_counter()
        call()
        found.append((time.perf_counter() - start) * 1e3)
    return statistics.median(found)


def bench_network() -> float:
    """Adjust the large network and test every reading for a blunder [ms]."""
    survey = large_survey()

    def whole() -> object:
        done = adjust(survey)
        return done.suspects, done.detectable, done.passed

    return median_ms(whole, 25)


def bench_propagation(demo: Job) -> tuple[float, float, int]:
    """Carry the demo's survey to every finding [ms]; also one plain solve [ms], and how many numbers the survey gives."""
    job = with_edits(demo, takeover(demo, survey_corner(demo, demo.corner)).edits)
    solution, here = solve(job), survey_corner(job, job.corner)
    inputs, frozen = survey_inputs(job, here), frozen_choices(solution)
    one = median_ms(lambda: solve(frozen, turns=False, cures=False), 25)
    return median_ms(lambda: propagate(solution, inputs), 15), one, len(inputs.paths)

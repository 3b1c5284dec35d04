"""Wrong readings are found and named; right ones are left alone."""

import math

import numpy as np
import pytest

from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.parts.survey import Feature
from bicentra.core.survey.adjust import INSEPARABLE, adjust
from bicentra.core.survey.advice import advise
from bicentra.core.survey.record import repeats
from bicentra.core.survey.words import blunder_of, suspect_sentence
from tests.core.survey.conftest import Maker, read

CHUNKS, EACH = 10, 50


@pytest.fixture(scope="module")
def tally() -> dict[str, int]:
    """What the chunks of networks came to: tried, named, false alarms."""
    return {"tried": 0, "named": 0, "alarms": 0}


@pytest.mark.parametrize("chunk", range(CHUNKS))
def test_networks_with_a_planted_blunder(network: Maker, tally: dict[str, int], chunk: int) -> None:
    """Seeded networks of redundancy 3 or more, clean and with a blunder of just over twice the detectable size; readings
    named together are such as cannot be told apart. The chunks are counted up in the test below."""
    tried, seed = 0, 1000 * (chunk + 1)
    while tried < EACH:
        seed += 1
        rng = np.random.default_rng(seed)
        points = int(rng.integers(2, 7))
        most = points * (points + 1) // 2
        made, _ = network(rng, points, int(rng.integers(min(points + 3, most), most + 1)))
        clean = adjust(made)
        checked = [k for k in range(len(made.distances)) if math.isfinite(clean.detectable[k])]
        if clean.dof < 3 or clean.loose or clean.mirrored or not checked:
            continue
        tried += 1
        k = int(rng.choice(checked))
        reading = clean.readings[k]
        wrong = float(2.02 * clean.detectable[k] * rng.choice([-1, 1]))
        distances = list(made.distances)
        distances[reading.index] = replace(
            distances[reading.index], value_mm=abs(distances[reading.index].value_mm + wrong)
        )
        found = adjust(replace(made, distances=tuple(distances)))
        tally["tried"] += 1
        tally["alarms"] += bool(clean.suspects)
        tally["named"] += k in found.suspects
        if len(found.suspects) > 1:
            worst = max(found.suspects, key=lambda j: abs(found.normalised[j]))
            assert all(
                abs(found.correlation_of(worst, worst + 1)[0, j]) > INSEPARABLE for j in found.suspects if j != worst
            )


def test_blunders_are_named_and_clean_networks_left_alone(network: Maker, tally: dict[str, int]) -> None:
    """Of 500 networks at least 95 % of the planted blunders are named; false alarms stay under 5 %."""
    for chunk in range(CHUNKS - tally["tried"] // EACH):  # run by itself, it counts the networks itself
        test_networks_with_a_planted_blunder(network, tally, chunk)
    assert tally["tried"] == CHUNKS * EACH
    assert tally["named"] >= 0.95 * tally["tried"], tally
    assert tally["alarms"] <= 0.05 * tally["tried"], tally


def test_the_sentence_names_reading_size_and_what_to_do(network: Maker) -> None:
    """A reading 0.8 mm long is named in plain words, with its size."""
    made, _ = network(np.random.default_rng(21), 5, 15)
    distances = list(made.distances)
    distances[2] = replace(distances[2], value_mm=distances[2].value_mm + 0.8)
    done = adjust(replace(made, distances=tuple(distances)))
    assert done.suspects == (2,) and done.passed is False
    assert blunder_of(done, 2) == pytest.approx(0.8, abs=0.15)
    text = suspect_sentence(done, LengthFormat("mm"))
    assert distances[2].from_ in text.lower() and "mm long; measure it again" in text
    assert advise(made, done, LengthFormat("mm"))[0].kind == "again"


def test_what_cannot_be_told_apart_is_named_together() -> None:
    """Two readings of one distance that differ: one of them is wrong, and nothing says which."""
    truth = {"pilot": (0.0, 0.0), "upper": (-60.0, 40.0)}
    sizes = {"pilot": 57.0, "upper": 10.0}
    first = read(truth, sizes, "pilot", "upper")
    from bicentra.core.parts.survey import Direction, Survey

    made = Survey(
        features=tuple(Feature(name=n, diameter_mm=sizes[n], axis=n == "pilot", sd_mm=0.001) for n in truth),
        distances=(first, replace(first, value_mm=first.value_mm + 0.5)),
        directions=(Direction(from_="pilot", to="upper", clock_deg=146.3),),
    )
    done = adjust(made)
    assert {0, 1} <= set(done.suspects)
    assert "One of these 2 readings" in suspect_sentence(done, LengthFormat("mm"))
    scatter = repeats(made)[0]
    assert scatter.mean == pytest.approx(first.value_mm + 0.25) and scatter.chance < 1e-6
    assert "more than the instrument promises" in scatter.text(LengthFormat("mm"))


def test_the_next_reading_advised_is_the_best_of_all(network: Maker) -> None:
    """Brute force: of all readings offered, none sharpens the worst point more than the first one."""
    made, truth = network(np.random.default_rng(33), 4, 10)
    done = adjust(made)
    lengths = LengthFormat("mm")
    offers = [a for a in advise(made, done, lengths, lugs=[]) if a.kind == "distance"]
    assert len(offers) > 2
    sizes = {f.name: f.diameter_mm for f in made.features}
    spreads = {n: np.trace(done.spread(n)) for n in done.network.points}
    worst = max(spreads, key=lambda n: spreads[n])
    after = []
    for offer in offers:
        one, other = offer.ends[:2]
        more = replace(made, distances=(*made.distances, read(truth, sizes, one, other, offer.sense)))
        after.append(float(np.trace(adjust(more, hints=truth).spread(worst))))
    assert after[0] == pytest.approx(min(after), rel=0.01) and after[0] < spreads[worst]


def test_without_redundancy_it_says_so_and_offers_a_check() -> None:
    """Just enough readings: nothing can be checked, and the first offer would catch a wrong one."""
    from bicentra.core.survey.advice import unchecked_sentence
    from tests.core.survey.test_adjustment import SIZES, TRUTH, survey

    made = survey(*(read(TRUTH, SIZES, a, b) for a, b in (("pilot", "upper"), ("pilot", "lower"), ("upper", "lower"))))
    done = adjust(made)
    assert "No spare readings" in unchecked_sentence(done)
    first = advise(made, done, LengthFormat("mm"))[0]
    assert first.kind in ("distance", "direction") and "would catch a wrong reading" in first.sentence

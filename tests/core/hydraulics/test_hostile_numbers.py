"""Random vehicles with every number at the end of its range, missing or absurd: nothing raises, nothing is met that is unknown."""

import math
import random

import pytest

from bicentra.core.base.errors import BicentraError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.views.balance import balance_view, grip_view
from bicentra.core.drawing.views.chain import chain_view
from bicentra.core.drawing.views.heat import heat_view
from bicentra.core.drawing.views.master import master_view, travel_view
from bicentra.core.heat.stops import DUTIES
from bicentra.core.heat.train import train_of
from bicentra.core.hydraulics.before import before_of, chains
from bicentra.core.hydraulics.chain import chain_of
from bicentra.core.hydraulics.masters import rework_list
from bicentra.core.hydraulics.misconceptions import misconceptions_of
from bicentra.core.hydraulics.missing import missing_of
from bicentra.core.hydraulics.pedal import pedal_work
from bicentra.core.hydraulics.travel import stages_of, travel_at
from bicentra.core.parts.edits import with_value
from bicentra.core.parts.validate_vehicle import validate_vehicle
from bicentra.core.parts.vehicle import AXLES, Drum, Vehicle
from bicentra.formats.vehicle_report import heat_object, heat_text, pedal_object, pedal_text
from bicentra.study.desks.pedal_numbers import NumberField, columns_of, edits_for
from bicentra.study.document.starting import demo_vehicle, empty_vehicle


def value_for(asked: NumberField, rng: random.Random) -> object:
    """Return something that might be typed there: an end of the range, something between, nothing."""
    text = asked.text
    if asked.several is not None:
        return tuple(rng.choice([0.1, 20.0, 36.0, 200.0]) for _ in range(rng.randint(0, 4)))
    if text.choices or text.kind is None:
        return (
            rng.choice((*text.choices, None))
            if text.choices and asked.free
            else rng.choice(text.choices or ("", "<b>"))
        )
    low = text.above if text.above is not None else text.least or 0.0
    high = text.most or 1e4
    given = [low, low + 1e-6, low + (high - low) * rng.random(), high, 1.0]
    return rng.choice([*given, None] if asked.free else given)


def hostile(rng: random.Random) -> Vehicle:
    """Return a vehicle with up to six of its numbers turned into something odd, as the page of numbers would."""
    vehicle = demo_vehicle() if rng.random() < 0.8 else empty_vehicle()
    for _ in range(rng.randint(1, 6)):
        asked = rng.choice([one for column in columns_of(vehicle) for group in column for one in group.fields])
        edits = edits_for(vehicle, asked.path, value_for(asked, rng))
        if rng.random() < 0.1:
            edits = edits_for(vehicle, f"axles.{rng.choice(AXLES)}.drum", rng.choice([Drum(), None]))
        for path, value in edits:
            vehicle = with_value(vehicle, path, value)
    validate_vehicle(vehicle)
    return vehicle


@pytest.mark.parametrize("seed", range(3))
def test_nothing_raises_and_nothing_unknown_is_met(seed: int) -> None:
    """Forty vehicles a seed through all that the bench shows."""
    rng, done = random.Random(seed), 0
    while done < 40:
        try:
            vehicle = hostile(rng)
        except BicentraError:
            continue
        done += 1
        work, hot = pedal_work(vehicle, (), rng.choice([1.0, 100.0, 1000.0])), train_of(vehicle, DUTIES["mountain"])
        now, then = chains(vehicle)
        lengths = LengthFormat("mm")
        misconceptions_of(vehicle, now, then)
        assert rework_list(vehicle)
        for drawing in (
            chain_view(vehicle, now, work.now, travel_at(now, 100.0), lengths), balance_view(now, work.now, then),
            heat_view(vehicle, hot), master_view(vehicle, now, before_of(vehicle), lengths),
            chain_view(vehicle, now, work.now, travel_at(now, 100.0), lengths, before_of(vehicle)),
            grip_view(now, work.now, chain_of(vehicle, laden=True)), travel_view(now, stages_of(now), work.circuits),
        ):  # fmt: skip
            assert all(map(math.isfinite, drawing.bounds))
        assert pedal_text(work) and pedal_object(work) and heat_text(hot) and heat_object(hot)
        missing = {path for path, _ in missing_of(vehicle)} - {"vehicle.master.stroke_mm"}
        met = {finding.id for finding in work.findings if finding.verdict is Verdict.OK}
        assert not (missing and "pedal-order" in met)
        assert not any(
            math.isnan(finding.value) for finding in (*work.findings, *hot.findings) if finding.verdict is Verdict.OK
        )

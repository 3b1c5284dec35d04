"""Whatever readings a valid survey holds, sense or nonsense: it is adjusted or told why not, drawn, reported, taken over."""

import random

import msgspec
import pytest

from bicentra.core.base.errors import JobError
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.certainty.assess import assess, surveyed
from bicentra.core.drawing.relief_view import relief_view
from bicentra.core.drawing.runout_view import runout_view
from bicentra.core.drawing.survey_view import survey_view
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import (
    SENSES,
    SIDES,
    SWEPT,
    Direction,
    Distance,
    FaceReadings,
    Feature,
    Spot,
    Survey,
    Sweep,
    SweepReading,
)
from bicentra.core.parts.validate import validate
from bicentra.core.solution import solve
from bicentra.core.survey.advice import advise
from bicentra.core.survey.use import takeover
from bicentra.formats.check_report import check_object
from bicentra.formats.job_json import parse_job, write_job
from bicentra.formats.survey_report import survey_object, survey_text
from bicentra.study.document.starting import demo_job, empty_job

NAMES = ("pilot", "upper lug", "lower lug", "upper", "web", "flat", "edge", "p1", "p2")


def some_survey(chance: random.Random) -> Survey:
    """A survey put together by chance: features of every kind, readings that contradict each other, gaps."""

    def number(low: float, high: float, gap: float = 0.15) -> float | None:
        return None if chance.random() < gap else round(chance.uniform(low, high), chance.choice([0, 1, 3]))

    names = chance.sample(NAMES, chance.randint(0, len(NAMES)))
    kinds = {n: "edge" if n in ("flat", "edge") else chance.choice(["round", "round", "point"]) for n in names}
    features = tuple(
        Feature(name=n, kind=kinds[n], axis=n == "pilot" and chance.random() < 0.9, side=chance.choice(SIDES),
                diameter_mm=number(0, 60, 0.3) if kinds[n] == "round" else None, obstacle=chance.choice([None, None, "ridge"]))
        for n in names
    )  # fmt: skip
    pairs = [chance.sample(names, 2) for _ in range(chance.randint(0, 14))] if len(names) > 1 else []
    distances = tuple(
        Distance(
            from_=a, to=b, sense=chance.choice(SENSES), value_mm=number(0, 150), set_aside=chance.choice(["", "", "x"])
        )
        for a, b in pairs
        if {kinds[a], kinds[b]} != {"edge"}
    )
    turned = tuple(
        Direction(from_=a, to=b, clock_deg=number(-180, 360))
        for a, b in pairs[:3]
        if "edge" not in (kinds[a], kinds[b])
    )
    faces = tuple(
        FaceReadings(
            feature=n,
            spots=tuple(
                Spot(at_deg=number(0, 360), radius_mm=number(0, 20), depth_mm=number(-5, 120)) for _ in range(4)
            ),
        )
        for n in names[:2]
    )
    sweeps = tuple(
        Sweep(
            on=on,
            radius_mm=number(1, 150),
            readings=tuple(SweepReading(at_deg=30.0 * k, value_mm=number(-1, 1)) for k in range(chance.randint(0, 14))),
        )
        for on in SWEPT
    )
    return Survey(
        features=features,
        distances=distances,
        directions=turned,
        straightedge_thickness_mm=number(1, 20),
        faces=faces,
        sweeps=sweeps,
    )


@pytest.mark.parametrize("seed", range(30))
def test_any_survey_goes_all_the_way(seed: int) -> None:
    """No error, no nan in a file, whatever was read."""
    chance = random.Random(seed)
    base: Job = chance.choice([demo_job(), empty_job()])
    corners = chance.sample(["front-right", "front-left", "rear-left"], 2)
    job = replace(base, corner=corners[0], survey={corner: some_survey(chance) for corner in corners})
    validate(job)
    assert parse_job(write_job(job), "x") == job
    lengths = LengthFormat("in" if seed % 2 else "mm")
    assert b"NaN" not in msgspec.json.encode(survey_object(job)) and survey_text(job)
    msgspec.json.encode(check_object(assess(solve(job)).solution))
    for corner in corners:
        done = surveyed(job, corner)
        offers = advise(done.survey, done.adjusted, lengths)
        survey_view(job, done, offers)
        relief_view(job, done)
        runout_view(done)
        used = with_edits(job, takeover(job, done).edits)
        try:
            validate(used)
        except JobError:
            continue  # two lugs in one place, say: refused as one step, the job stays
        assess(solve(used))

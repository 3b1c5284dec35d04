"""What is on the car against what is drawn: truth by solving the job that is really there."""

import random

import pytest

from bicentra.core.base.finding import Verdict
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.trial import ShimStacks, Trial
from bicentra.core.trialfit.fit import trial_fit
from tests.core.trialfit.corner import SPACING, gaps_of, plain_job


@pytest.mark.parametrize("side", ["outboard", "inboard"])
def test_another_plate_is_noticed_by_what_it_is(side: str) -> None:
    """A plate of another thickness, shims at lugs and ears, a rotor spacer: what is told is what the plates differ by."""
    rng = random.Random(side)
    job = with_edits(
        plain_job(side),
        (
            ("bracket.thickness_mm", 12.0),
            ("bracket.shims_mm", (0.0, 0.0)),
            ("fit.rotor_spacer_mm", 0.0),
            ("caliper.slot_width_mm", 220.0),
            ("rotor.thickness_mm", 20.0),
        ),
    )
    carries = (side == "outboard") == (job.caliper.ear_seat == "inboard")
    for thickness in (12.0, 12.3, 10.0, 15.0):
        lug, ear, behind = rng.choice([0.0, 0.5, 1.2]), rng.choice([0.0, 0.4]), rng.choice([0.0, 3.0])
        there = with_edits(
            job,
            (
                ("bracket.thickness_mm", thickness), ("bracket.shims_mm", (lug, lug)), ("fit.rotor_spacer_mm", behind),
                ("fit.ear_shims_mm", ((ear,), (ear,)) if ear else ()),
            ),
        )  # fmt: skip
        truth = solve(there, turns=False).assembly.stack_up.error
        trial = Trial(
            gaps_mm=gaps_of(truth, 0.0, 200.0), station_spacing_mm=SPACING, rotor_plate_mm=behind, sd_mm=0.01,
            shims_mm=ShimStacks(first=(lug,), second=(lug,)), ear_shims_mm=ShimStacks(first=(ear,), second=(ear,)),
        )  # fmt: skip
        fit = trial_fit(solve(with_edits(job, (("trials", (trial,)),)), turns=False), planned=False)
        assert fit is not None
        text = next(finding for finding in fit.findings if finding.id == "trial-drawn")
        apart = abs(thickness - 12.0) if carries else 0.0
        assert text.value == pytest.approx(apart, abs=1e-6)
        assert text.verdict is (Verdict.CAUTION if apart > 0.5 else Verdict.OK)
    assert (
        next(
            f
            for f in trial_fit(solve(with_edits(job, (("trials", (Trial(),)),)), turns=False)).findings
            if f.id == "trial-drawn"
        ).verdict
        is Verdict.UNKNOWN
    )


def test_coarse_readings_tell_nothing() -> None:
    """Read to half a millimetre it cannot be told whether the plate is half a millimetre off: a watch, never met."""
    wide = (("caliper.slot_width_mm", 220.0), ("rotor.thickness_mm", 20.0))
    job = with_edits(plain_job(), (("bracket.thickness_mm", 12.0), ("bracket.shims_mm", (0.0, 0.0)), *wide))
    truth = solve(job, turns=False).assembly.stack_up.error
    trial = Trial(gaps_mm=gaps_of(truth, 0.0, 200.0), station_spacing_mm=SPACING, sd_mm=0.6)
    fit = trial_fit(solve(with_edits(job, (("trials", (trial,)),)), turns=False), planned=False)
    assert fit is not None
    text = next(finding for finding in fit.findings if finding.id == "trial-drawn")
    assert text.verdict is Verdict.CAUTION and "Too coarse" in text.why

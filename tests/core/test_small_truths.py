"""Truths that are small, each about one line that could be turned round without anything else being noticed."""

import math

import pytest

from bicentra.core.base.errors import JobError
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.families.radial import _through
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.outline import Outline
from bicentra.core.parts.corners import job_of, with_job
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import Distance, Feature, Survey
from bicentra.core.parts.trial import ShimStacks, Trial, TrialLimits
from bicentra.core.parts.validate import validate
from bicentra.core.parts.vehicle import Vehicle
from bicentra.core.survey.network import make_network
from bicentra.core.trialfit.fit import steps_of, trial_fit
from bicentra.core.trialfit.plan import ShimPlan
from bicentra.study.document.starting import demo_vehicle
from tests.core.trialfit.corner import SPACING, gaps_of, plain_job


def test_through_a_plate_towards_the_axle() -> None:
    """From the outer edge of a 40 mm high plate it is 40 mm through, whichever way the axle lies; from beside it unknown."""
    for turn in (0.0, 0.7, 2.5):
        u, w = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
        corners = [(60.0 + out, across) for out, across in ((0, -30), (40, -30), (40, 30), (0, 30))]
        plate = Outline(tuple((r * u[0] + s * w[0], r * u[1] + s * w[1], 0.0) for r, s in corners))
        at = (100.0 * u[0] + 5.0 * w[0], 100.0 * u[1] + 5.0 * w[1])
        assert _through(plate, at, u) == pytest.approx(40.0, abs=1e-4)
        assert math.isnan(_through(plate, (at[0] + 50.0 * w[0], at[1] + 50.0 * w[1]), u))


def test_a_changed_caliper_is_looked_at_beside_a_trusted_job() -> None:
    """What changed since the job that passed is checked; what is the very same is not looked at again."""
    job = plain_job()
    crossing = ((0.0, 0.0), (20.0, 20.0), (20.0, 0.0), (0.0, 20.0))
    wrong = with_edits(job, (("caliper.body_face_mm", crossing),))
    with pytest.raises(JobError, match="body_face_mm"):
        validate(wrong, job)
    validate(with_edits(wrong, (("fit.pad_inset_mm", 1.5),)), wrong)


def test_a_record_of_ones_own_is_not_borrowed_again() -> None:
    """A hub measured at the corner stays its own when it is changed, and is not listed as a copy a second time."""
    vehicle: Vehicle = demo_vehicle()
    name = vehicle.corner
    own = replace(vehicle.corners[name], borrowed=("hub",))
    vehicle = replace(vehicle, corners={**vehicle.corners, name: own})
    before = job_of(vehicle)
    after = with_edits(before, (("hub.pilot_diameter_mm", (before.hub.pilot_diameter_mm or 50.0) - 0.1),))
    assert with_job(vehicle, before, after).corners[name].borrowed == tuple(r for r in ("hub",) if r in after.borrowed)


def test_a_diameter_is_unknown_only_where_something_needs_it() -> None:
    """A round feature's diameter is one of the unknowns; that of a face's edge which nothing is measured from is not."""
    features = (
        Feature(name="pilot", kind="round", diameter_mm=60.0),
        Feature(name="hole", kind="round"),
        Feature(name="rim", kind="edge", diameter_mm=80.0),
    )
    network = make_network(Survey(features=features, distances=(Distance(from_="pilot", to="hole", value_mm=70.0),)))
    assert "pilot" in network.diameters and "rim" not in network.diameters


def test_the_lip_is_ground_just_far_enough() -> None:
    """Ground as the remedy says the lip lies half a millimetre beside the flange, each side, and no more is asked."""
    job = plain_job()
    flange = job.hub.flange_diameter_mm or 0.0
    tight = with_edits(job, (("rotor.hat_lip_mm", flange - 1.0),))
    remedy = next(r for r in solve(tight).finding("rotor-on-hub").remedies if "lip" in r.action)
    assert flange > 0.0 and dict(remedy.edits)["rotor.hat_lip_mm"] == pytest.approx(flange + 1.0)
    ground = solve(with_edits(tight, remedy.edits)).finding("rotor-on-hub")
    assert not any("lip" in r.action for r in ground.remedies)


def test_more_to_do_comes_first() -> None:
    """Of two bolts the one with more pieces to move is told first."""
    trial = Trial(shims_mm=ShimStacks(first=(1.0,), second=(0.5, 0.3)))
    text = steps_of(trial, ShimPlan("lug", (1.0, 0.2), (1.0,), 0.0, 0.0), LengthFormat("mm"))
    assert len(text) == 2 and "trailing lug" in text[0] and "leading lug" in text[1]


def test_a_tilt_within_its_limit_is_left_alone() -> None:
    """With an offset that no shim mends and a tilt within its limit nothing is said of turning the rotor."""
    job: Job = plain_job()
    trial = Trial(
        gaps_mm=gaps_of(0.6, 0.02, 3.0), station_spacing_mm=SPACING, limits=TrialLimits(offset_mm=0.1, tilt_deg=0.2)
    )
    fit = trial_fit(solve(with_edits(job, (("trials", (trial,)), ("bracket.thickness_mm", 10.0)))))
    assert fit is not None and fit.alternatives and not any("half a turn" in one.action for one in fit.alternatives)

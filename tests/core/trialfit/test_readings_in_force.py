"""Which readings may be judged by: none that contradict each other, none from before something was changed; and what is asked then."""

import random

import pytest

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import GAPS, Between, Gaps, LooseShims, ShimStacks, Trial
from bicentra.core.trialfit.advice import Advice, next_advice
from bicentra.core.trialfit.contradictions import contradictions, is_too_wide, spare_of
from bicentra.core.trialfit.fit import TrialFit, trial_fit
from bicentra.core.trialfit.log import CornerState, prints_of
from bicentra.core.trialfit.pose import pose_of
from bicentra.core.trialfit.set_up import (
    BEFORE_LOCK,
    DEPENDS,
    SET_UP,
    as_it_was,
    with_reading,
    with_set_up,
    with_work_done,
    without_gaps,
)
from tests.core.trialfit.corner import SPACING, gaps_of, plain_job, some_trial

JOB = with_edits(plain_job(), (("bracket.caliper_bolt_length_mm", 35.0), ("bracket.lug_bolt_length_mm", 35.0)))
SPARE = spare_of(JOB)
READY = Trial(
    gaps_mm=gaps_of(0.05, 0.0, SPARE), station_spacing_mm=SPACING, shims_mm=ShimStacks(first=(0.2,), second=(0.2,)), tip_gap_mm=2.5,
    runout_mm=0.05, turned="free", rotor_nuts=4, bolts="tight", washers_final=True, pads="out", locker="removable",
    tightened="80 N·m", stock=(LooseShims(thickness_mm=0.25, count=6),), checked=BEFORE_LOCK,
)  # fmt: skip


def worked(trial: Trial, job: Job = JOB) -> TrialFit:
    """The trial worked out."""
    fit = trial_fit(solve(replace(job, trials=(trial,)), turns=False))
    assert fit is not None
    return fit


def next_for(trial: Trial, job: Job = JOB) -> Advice:
    """What comes next with this trial."""
    fit = worked(trial, job)
    return next_advice(replace(job, trials=(trial,)), fit, fit.advised[0] if fit.moves else None)


def by_hand(gaps: Gaps, sd: float) -> bool:
    """Whether four gaps agree with a slot less rotor of ``SPARE``, written from the contract alone: three sigma, both by calipers."""
    sums = [
        (gaps.leading_outboard or 0.0) + (gaps.leading_inboard or 0.0),
        (gaps.trailing_outboard or 0.0) + (gaps.trailing_inboard or 0.0),
    ]
    slack = 3.0 * (2 * sd**2 + 2 * 0.05**2) ** 0.5
    widest = SPARE + 3.0 * (sd**2 + 2 * 0.05**2) ** 0.5
    each = [getattr(gaps, name) <= widest for name in GAPS]
    return all(each) and all(abs(total - SPARE) <= slack for total in sums) and abs(sums[0] - sums[1]) <= 3.0 * 2.0 * sd


def test_no_advice_on_readings_that_contradict_each_other() -> None:
    """300 trials, every second with one gap off by up to 40 mm: where the oracle says the gaps do not agree nothing is advised, told or
    settled but to read again, and where they do agree everything is as before."""
    rng, seen = random.Random(32), set[bool]()
    for number in range(300):
        trial = replace(some_trial(rng, JOB), sd_mm=0.05)
        if number % 2:
            name = rng.choice(GAPS)
            off = rng.choice((rng.uniform(-0.6, 0.6), rng.uniform(0.5, 40.0)))
            value = max(getattr(trial.gaps_mm, name) + off, 0.0)
            trial = replace(trial, gaps_mm=replace(trial.gaps_mm, **{name: value}))
        fit = worked(trial)
        agrees = by_hand(trial.gaps_mm, 0.05)
        assert fit.doubted is not agrees
        seen.add(agrees)
        if agrees:
            continue
        assert not fit.moves and not fit.refused and not fit.alternatives and not fit.senses and not fit.settled
        text = {finding.id: finding.verdict for finding in fit.findings}
        assert text["trial-readings"] is Verdict.STOP
        for id in ("trial-offset", "trial-tilt", "trial-drawn"):
            assert text[id] is Verdict.UNKNOWN
        assert next_for(trial).kind in ("read", "again") and fit.standing.state is CornerState.TRYING
    assert seen == {True, False}


@pytest.mark.parametrize(
    ("gaps", "text", "doubted"),
    [
        ((3.02, 3.03, 3.02, 3.03), "add up to 6.05 mm at both ends", "caliper.slot_width_mm"),
        ((3.3, 2.75, 3.3, 2.75), "add up to 6.05 mm at both ends", "caliper.slot_width_mm"),
        ((39.0, 1.5, 1.5, 1.5), "leading end, outboard 39.00 mm was read", "leading_outboard"),
        ((1.5, 1.5, 1.5, 57.0), "trailing end, inboard 57.00 mm was read", "trailing_inboard"),
        ((1.5, 1.5, 1.5, 2.2), "trailing end add up to 3.70 mm", "trailing_inboard"),
        ((2.0, 1.0, 1.4, 1.0), "trailing end add up to 2.40 mm", "trailing_outboard"),
    ],
)
def test_what_is_doubted_first(gaps: tuple[float, ...], text: str, doubted: str) -> None:
    """Slot less rotor leaves 3.0: the end or the gap is named, and the one that is further from where the other end has it comes first."""
    (found,) = contradictions(JOB, Trial(gaps_mm=Gaps(**dict(zip(GAPS, gaps))), station_spacing_mm=SPACING))
    assert text in found.text and found.doubted[0] == doubted


def test_other_contradictions() -> None:
    """A single gap wider than all the room, unread the other; pads that go in on both sides where only one fits; a parting line 2 mm off;
    the deep gaps; without slot and rotor nothing wider than any slot."""
    one = Trial(gaps_mm=Gaps(leading_outboard=39.0))
    assert contradictions(JOB, one)[0].doubted == ("leading_outboard",)
    bands = {"leading_outboard": Between(least=2.0), "leading_inboard": Between(least=2.0)}
    assert "cannot add up to the 3.00 mm" in contradictions(JOB, Trial(bands_mm=bands))[0].text
    assert contradictions(JOB, Trial(bands_mm={"leading_outboard": Between(least=2.0)})) == ()
    low = {"leading_outboard": Between(most=1.0), "leading_inboard": Between(least=0.1, most=1.0)}
    assert contradictions(JOB, Trial(bands_mm=low))
    line = replace(READY, parting_line_mm=2.0)
    assert (
        "parting line" in contradictions(JOB, line)[0].text
        and contradictions(JOB, replace(line, parting_line_mm=0.5)) == ()
    )
    deep = replace(READY, deep_by_mm=20.0, deep_gaps_mm=Gaps(leading_outboard=2.0, leading_inboard=2.0))
    assert "further in" in contradictions(JOB, deep)[0].text
    bare = with_edits(JOB, (("caliper.slot_width_mm", None),))
    assert contradictions(bare, one) and not contradictions(bare, Trial(gaps_mm=Gaps(leading_outboard=6.0)))
    assert is_too_wide(JOB, SPARE + 1.01) and not is_too_wide(JOB, SPARE + 0.99) and is_too_wide(bare, 16.0)


def test_read_again_then_look_for_what_moves() -> None:
    """Doubted gaps are asked for one by one; read again and no better, something moves: under the heads, then the seal, then all four."""
    bad = replace(READY, gaps_mm=replace(READY.gaps_mm, trailing_inboard=2.2))
    first = next_for(bad)
    assert (first.kind, first.target) == ("read", "trailing_inboard")
    once = with_reading(bad, "trailing_inboard", 2.2)
    assert next_for(once).target == "trailing_outboard"
    twice = with_reading(once, "trailing_outboard", READY.gaps_mm.trailing_outboard)
    assert (next_for(replace(twice, checked=())).target, next_for(twice).target) == ("heads", "seal")
    assert next_for(replace(twice, checked=("heads", "seal"))).kind == "again"
    assert without_gaps(twice).gaps_mm == Gaps() and set(without_gaps(twice).again) == set(GAPS)
    doubled = replace(READY, gaps_mm=Gaps(**dict.fromkeys(GAPS, 3.02)))
    assert next_for(doubled).kind == "again"
    assert next_for(with_reading(doubled, GAPS[0], 3.02)).target == "sizes"


@pytest.mark.parametrize(
    ("name", "value", "back"),
    [("rotor_nuts", 1, 4), ("bolts", "snug", "tight"), ("washers_final", False, True), ("pads", "in", "out"), ("rotor_plate_mm", 3.0, None)],
)  # fmt: skip
def test_a_changed_set_up_makes_readings_old(name: str, value: object, back: object) -> None:
    """Nuts, bolts, washers, pads or spacer changed after the gaps: what depends on it is from before, does not count for offset, tilt or
    lock, and is asked for again; changed back it counts again, and so it does when somebody says it was so."""
    changed = with_set_up(JOB, READY, name, value)
    old = set(changed.read_before)
    assert old == {
        reading
        for reading, fields in DEPENDS.items()
        if name in fields and reading not in ("deep_gaps_mm", "parting_line_mm", "pad_top_mm")
    }
    put_right = changed
    if name in ("rotor_nuts", "bolts", "washers_final"):  # as the lock wants it, the other way round
        put_right = with_set_up(JOB, replace(READY, **{name: value}), name, back)
        assert set(put_right.read_before) == old
    fit = worked(put_right)
    if set(GAPS) & old:
        assert not fit.moves and not fit.within and "gaps" in {i.place for i in fit.standing.needs if not i.done}
        asked = next_for(put_right)
        assert asked.kind == "read" and asked.target == GAPS[0] and "before" in asked.sentence
    locked = replace(put_right, locked=True, lock=prints_of(JOB))
    assert worked(locked).standing.state is not CornerState.LOCKED
    assert with_set_up(JOB, changed, name, back) == READY
    assert as_it_was(changed).read_before == {} and pose_of(JOB, as_it_was(changed)) == pose_of(JOB, READY)
    again = changed
    for reading in GAPS:
        again = with_reading(again, reading, getattr(READY.gaps_mm, reading))
    assert not set(again.read_before) & set(GAPS) and again.again == ()


def test_stating_it_for_the_first_time_changes_nothing() -> None:
    """Gaps read, then said how the rotor was held, how tight the bolts: that is how it was. A second value is a change."""
    bare = replace(READY, rotor_nuts=None, bolts="", washers_final=None, pads="")
    for name, value in (("rotor_nuts", 4), ("bolts", "tight"), ("washers_final", True), ("pads", "out")):
        bare = with_set_up(JOB, bare, name, value)
    assert bare == READY
    assert set(SET_UP) == {"rotor_nuts", "bolts", "washers_final", "pads", "rotor_plate_mm"}


def test_something_done_on_the_car_makes_everything_old() -> None:
    """A burr stoned off: four gaps, tip, runout and turn are from before, each told why; what is read anew counts."""
    done = with_work_done(READY, "A burr was stoned off.")
    assert set(done.read_before) == {*GAPS, "tip_gap_mm", "runout_mm", "turned"}
    asked = next_for(done)
    assert asked.target == GAPS[0] and "A burr was stoned off" in asked.sentence
    fit = worked(done)
    assert {f.id for f in fit.findings if f.verdict is Verdict.UNKNOWN} >= {
        "trial-offset",
        "trial-tip-gap",
        "trial-runout",
        "trial-turn",
    }


def test_a_lock_by_a_file_of_before_holds() -> None:
    """A trial that was locked by a version that knew none of this is locked still."""
    assert worked(replace(READY, checked=(), locked=True, lock=prints_of(JOB))).standing.state is CornerState.LOCKED


def test_the_way_to_the_lock() -> None:
    """Taken apart one by one, what is missing comes next; with nothing missing what is looked at once, then the lock."""
    assert next_for(READY).kind == "lock"
    for name, value, wanted in (
        ("tip_gap_mm", None, "read"), ("runout_mm", None, "read"), ("turned", "", "read"), ("rotor_nuts", None, "set"),
        ("bolts", "", "set"), ("locker", "", "set"), ("checked", (), "inspect"),
    ):  # fmt: skip
        asked = next_for(replace(READY, **{name: value}))
        assert asked.kind == wanted and asked.target == (BEFORE_LOCK[0] if name == "checked" else name)
    assert next_for(replace(READY, turned="touches", touches="a weight")).target == "weight"
    one_nut = replace(READY, rotor_nuts=1, gaps_mm=Gaps())
    assert (next_for(one_nut).kind, next_for(one_nut).target) == ("set", "rotor_nuts")

"""What is asked of a trial fit: readings that agree, centred, square, room at the tip, bolts, float, a free turn; the
car against the drawing.
"""

import math

from bicentra.core.base.finding import Finding, Verdict, worst
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import replace
from bicentra.core.base.registry import LIMITS, PRACTICE, Limit
from bicentra.core.base.wording import LengthFormat, decided_by, make_check, make_finding
from bicentra.core.bracket.stack_up import ear_shims
from bicentra.core.clearance.travel import float_sweep, pad_wear
from bicentra.core.evaluation.solution import Solution
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.parts.trial import GAPS, Trial
from bicentra.core.trialfit.bolts import BoltAfter
from bicentra.core.trialfit.move_diagnosis import MoveDiagnosis
from bicentra.core.trialfit.plan import SURE, Limits
from bicentra.core.trialfit.pose import Estimate, Pose
from bicentra.core.trialfit.set_up import in_force
from bicentra.core.trialfit.shim_station import ShimStation, stacks_at, total_of
from bicentra.core.uncertainty.doubts import radial_play

SURE_SD, APART_MM = 3.0, 0.5
"""The drawing and the car disagree beyond so many standard uncertainties and so many millimetres: common practice, no source."""


def expected_offset(solution: Solution, trial: Trial, stations: tuple[ShimStation, ...]) -> float:
    """Return how far outboard of the rotor's middle the drawn bracket would hold the caliper with the shims of ``trial`` [mm].

    From the stack-up's own error, moved by what lies at lugs, ears and behind the rotor beyond what is drawn there.
    """
    job, stack_up = solution.job, solution.assembly.stack_up
    drawn = {"lug": _mean(stack_up.shims), "ear": _mean(ear_shims(job))}
    offset = stack_up.error
    for station in stations:
        if not station.radial and station.known:
            first, second = total_of(stacks_at(trial, station.place))
            offset += station.moved(first - drawn[station.place], second - drawn[station.place])[0]
    behind = known(job.fit.rotor_spacer_mm) if trial.rotor_plate_mm is None else trial.rotor_plate_mm
    return offset - (behind - known(job.fit.rotor_spacer_mm))


def _mean(shims: tuple[float, ...]) -> float:
    return math.fsum(shims) / len(shims) if shims else 0.0


def as_drawn(solution: Solution, trial: Trial, pose: Pose, stations: tuple[ShimStation, ...]) -> Finding:
    """Whether the caliper sits where the drawing puts it [mm]: else another plate is on the car, or a size was measured wrong."""
    lengths, expected = solution.job.lengths, expected_offset(solution, trial, stations)
    apart = pose.offset.value - expected
    if not is_known(apart):
        why = "The parts on the car cannot be compared with the drawing yet: needs the gaps at both ends, and a complete drawing."
        if pose.against:
            why = "The parts on the car cannot be compared with the drawing: the gaps contradict each other."
        return _finding(Verdict.UNKNOWN, UNKNOWN, why)
    sd = pose.offset.sd if is_known(pose.offset.sd) else 0.0
    if SURE_SD * sd > APART_MM and abs(apart) <= SURE_SD * sd:
        why = f"Too coarse to tell: these readings leave {lengths.gap(SURE_SD * sd)} either way. Read with a finer instrument."
        return _finding(Verdict.CAUTION, abs(apart), why)
    if abs(apart) <= APART_MM:
        return _finding(
            Verdict.OK, abs(apart), f"The caliper sits within {lengths.gap(apart)} of where the drawing puts it."
        )
    side = "outboard" if apart > 0 else "inboard"
    other = "inboard" if apart > 0 else "outboard"
    why = f"With these shims the drawing puts the caliper {lengths.gap(apart)} further {other} than it sits. "
    why += f"Another plate than the one drawn is on the car, or lug, ear or rotor height was measured {side} of where it is: "
    why += "measure the plate first, then type what is there, before a second part is cut from this drawing."
    return _finding(Verdict.CAUTION, abs(apart), why)


def _finding(verdict: Verdict, value: float, why: str) -> Finding:
    return Finding(
        "trial-drawn", verdict, value, APART_MM, "mm", why, features=("caliper",), source=PRACTICE, at_least=False
    )


def readings(trial: Trial, pose: Pose) -> Finding:
    """Whether the gaps agree with each other and with slot and rotor; those from before something was changed do not count."""
    many_old = sum(name in trial.read_before for name in GAPS)
    old = "" if not many_old else "1 gap was" if many_old == 1 else f"{many_old} gaps were"
    trial = in_force(trial)
    if pose.against:
        text, many = " ".join(one.text for one in pose.against), len(pose.against)
        return Finding("trial-readings", Verdict.STOP, float(many), 0.0, "", text, features=("gaps",), at_least=False)
    if not is_known(pose.offset.value):
        seen = [f"{name} end" for name, end in zip(("leading", "trailing"), pose.ends) if is_known(end.value)]
        why = f"Only the {seen[0]} has been read: read the other end too." if seen else "No gap has been read yet."
        if old:
            why = f"{old} read before something was changed: read {'it' if old == '1 gap was' else 'them'} again."
        return Finding("trial-readings", Verdict.UNKNOWN, UNKNOWN, 0.0, "", why, features=("gaps",), at_least=False)
    counted = sum(getattr(trial.gaps_mm, name) is not None for name in trial.gaps_mm.described if name != "extra")
    if counted < 4:
        why = f"{counted} of the four gaps were read as numbers: nothing checks them. Read all four."
        return Finding("trial-readings", Verdict.CAUTION, float(counted), 4.0, "gaps", why, features=("gaps",))
    why = "Both gaps at either end add up to what slot and rotor leave."
    if not is_known(pose.slot.value):
        why = "The four gaps agree with each other."
    return Finding("trial-readings", Verdict.OK, 0.0, 0.0, "", why, features=("gaps",), at_least=False)


def offset(pose: Pose, limits: Limits, lengths: LengthFormat) -> Finding:
    """How far off the rotor's middle the caliper sits [mm]."""
    value, limit = abs(pose.offset.value), Limit(limits.offset, limits.offset, at_least=False, source=PRACTICE)
    side = "outboard" if pose.offset.value > 0 else "inboard"
    why = f"The caliper sits {lengths.gap(value)} too far {side}{_give(pose.offset, lengths)}; off centre one pad wears and drags."
    found = make_finding("trial-offset", value, limit, why, features=("caliper",), missing=_missing(pose))
    return _held_down(found, pose.offset.sd, limit)


def tilt(pose: Pose, limits: Limits, trial: Trial, lengths: LengthFormat, of_lugs: str = "") -> Finding:
    """How far the caliper leans about the radial axis [degrees]. ``of_lugs``: that it is the lugs' own lean, in words."""
    value, limit = abs(pose.tilt.value), Limit(limits.tilt, limits.tilt, at_least=False, unit="°", source=PRACTICE)
    end = "trailing" if pose.tilt.value > 0 else "leading"
    over = math.tan(math.radians(value)) * known(trial.station_spacing_mm)
    why = f"The {end} end stands {lengths.gap(over)} further outboard: {value:.2f}°. A tilted caliper wears its pads in a taper."
    why += f" {of_lugs}" if of_lugs else ""
    missing = (
        _missing(pose)
        if trial.station_spacing_mm or pose.against
        else "needs how far apart the two ends are that gaps are read at"
    )
    found = make_finding("trial-tilt", value, limit, why, features=("caliper",), missing=missing)
    return _held_down(found, pose.tilt.sd, limit)


def _give(estimate: Estimate, lengths: LengthFormat) -> str:
    return f", give or take {lengths.gap(SURE * estimate.sd)}" if is_known(estimate.sd) else ""


def _missing(pose: Pose) -> str:
    if pose.against:
        return "the gaps contradict each other, so they show nothing: read them again first"
    if is_known(pose.ends[0].value) or is_known(pose.ends[1].value):
        return "needs a gap at the other end too: one end alone does not separate offset from tilt"
    return "needs a gap at each end, or both at one and the parting line"


def _held_down(finding: Finding, sd: float, limit: Limit) -> Finding:
    """Return a met finding as a caution where its uncertainty reaches past the limit."""
    if finding.verdict is not Verdict.OK or not is_known(sd) or finding.value + SURE * sd <= limit.stop + 1e-9:
        return replace(finding, sd=sd)
    why = f"{finding.why} It is OK, but not for certain: read it again with a finer instrument."
    return replace(finding, verdict=Verdict.CAUTION, why=why, sd=sd)


def lean(pose: Pose, lengths: LengthFormat) -> tuple[Finding, ...]:
    """How far the caliper leans about the tangential axis [degrees]; nothing while no gaps were read further in."""
    del lengths
    if not is_known(pose.twist.value):
        return ()
    value, limit = abs(pose.twist.value), LIMITS["trial-lean"]
    way = "outboard" if pose.twist.value > 0 else "inboard"
    why = f"The slot's mouth leans {way} by {value:.2f}° against the rotor: the pads wear in a taper from the axle outward."
    if value > limit.watch:
        why += " Shims at the bolts do not take that out: look for dirt, a bent lug or a face that is not square."
    found = make_finding("trial-lean", value, limit, why, features=("caliper",))
    return (_held_down(found, pose.twist.sd, limit),)


def tip_finding(job: Job, line: LineUp, trial: Trial, lengths: LengthFormat) -> Finding:
    """The room between rotor edge and bridge as it was felt, cold, and what heat leaves of it [mm]."""
    value, limit, hot_limit = known(trial.tip_gap_mm), limit_for(job, "tip-gap"), limit_for(job, "tip-gap-hot")
    hot = value - (line.tip_gap - line.tip_gap_hot)
    why = f"{lengths.gap(value)} between rotor edge and bridge, cold; heat leaves {lengths.gap(max(hot, 0.0))} of it."
    found = make_finding(
        "trial-tip-gap", value, limit, why, features=("tip-gap",), missing="needs the tip gap by feeler"
    )
    check = make_check("hot", hot, hot_limit, f"Hot, {lengths.gap(max(hot, 0.0))} is left")
    return decided_by(found, (check,), hot_limit, ()) if is_known(hot) else found


def bolts(after: tuple[BoltAfter, ...], lengths: LengthFormat) -> Finding:
    """Whether every bolt holds with the shims that lie there now [mm]."""
    if not after:
        why = "No bolt has been chosen yet."
        return Finding("trial-bolts", Verdict.UNKNOWN, UNKNOWN, UNKNOWN, "", why, features=("bolts",))
    said = worst(bolt.verdict for bolt in after)
    decides = min((bolt for bolt in after if bolt.verdict is said), key=lambda bolt: bolt.engagement / bolt.wanted)
    why = f"The {decides.name} has {lengths.size(decides.engagement)} of thread, its tip {_to_rotor(decides.tip_gap, lengths)}, "
    why += f"and keeps {decides.preload_left * 100:.0f} % of its preload once everything has bedded in."
    if is_known(decides.tip_gap) and decides.tip_gap <= 0.0:
        why += " Fit shorter bolts first: the bracket bench says which."
    if not is_known(decides.engagement, decides.tip_gap):
        why = f"The {decides.name} cannot be judged: a shim's thickness or a size of the joint is unknown."
    return Finding("trial-bolts", said, decides.engagement, decides.least, "mm", why, features=(decides.feature,))


def _to_rotor(gap: float, lengths: LengthFormat) -> str:
    return f"is {lengths.gap(gap)} off the rotor" if gap > 0.0 else f"runs {lengths.gap(gap)} into the rotor"


def play_finding(solution: Solution, trial: Trial, lengths: LengthFormat) -> Finding:
    """What is left of the tip gap when the parts lie as badly in their bolt holes as they can [mm]."""
    job, limit = solution.job, limit_for(solution.job, "trial-play")
    gap = known(trial.tip_gap_mm) if trial.tip_gap_mm is not None else solution.line.tip_gap
    room = radial_play(job, solution.assembly)
    value = gap - room
    why = f"The bolts let the caliper lie {lengths.gap(room)} either way; at the worst {lengths.gap(max(value, 0.0))} of tip "
    why += "gap is left. Press it towards the axle, then outward, while the bolts are drawn up, and read the tip gap both times."
    found = make_finding(
        "trial-play", value, limit, why, features=("bolts",), missing="needs tip gap, bolts and their holes"
    )
    if found.verdict in (Verdict.STOP, Verdict.CAUTION):
        found = replace(found, why=f"{found.why} {_fitted(job, lengths)}")
    return found


def _fitted(job: Job, lengths: LengthFormat) -> str:
    sizes = [known(lug.hole_mm) for lug in job.knuckle.lugs if not lug.thread and lug.hole_mm]
    if sizes:
        return f"Sleeves of {lengths.size(max(sizes))} outside round the lugs' bolts, or two dowels reamed after it, hold it."
    return "Two dowels reamed through bracket and lugs after the trial, or fitted bolts in reamed holes, hold it."


def floating(solution: Solution, trial: Trial, lengths: LengthFormat) -> tuple[Finding, ...]:
    """The travel found by hand against what worn pads ask for and the corner as measured allows [mm]; none for a fixed
    caliper.
    """
    job = solution.job
    if job.caliper.action != "floating":
        return ()
    limit, wear, rows = limit_for(job, "float-travel"), pad_wear(job), list[tuple[float, str]]()
    for one in trial.floated:
        ways = [known(one.inboard_mm), known(one.outboard_mm)]
        need = [wear, wear] if one.pads == "new" else [0.0, 0.0]
        least = min((way - ask for way, ask in zip(ways, need)), default=UNKNOWN) if is_known(*ways) else UNKNOWN
        stops = f", it stops at {one.stops_at}" if one.stops_at else ""
        rows.append(
            (least, f"with {one.pads} pads {lengths.gap(ways[0])} inboard and {lengths.gap(ways[1])} outboard{stops}")
        )
        if one.paper == "tears":
            rows.append((-1.0, f"paper tears over the travel with {one.pads} pads{stops}"))
    value = (
        min((row[0] for row in rows), default=UNKNOWN) if rows and all(is_known(row[0]) for row in rows) else UNKNOWN
    )
    why = (
        f"Pushed by hand: {'; '.join(text for _, text in rows)}. Worn pads and rotor ask {lengths.gap(wear)} each way."
    )
    found = make_finding(
        "trial-float", value, limit, why, features=("caliper",), missing="needs how far it slides each way by hand"
    )
    _, inboard, outboard = float_sweep(solution.assembly, solution.line.frame.here)
    free = [float(inboard.value[0]), float(outboard.value[0])]
    if is_known(*free) and rows:
        ways_text = f"{lengths.gap(free[0])} and {lengths.gap(free[1])}"
        found = replace(found, why=f"{found.why} As measured the corner lets it slide {ways_text}.")
    if found.verdict is Verdict.STOP:
        away = lengths.gap(limit.stop - value)
        found = replace(
            found, why=f"{found.why} Take off a little where it stops, {away} in all, and try again after each pass."
        )
    return (found,)


def turn(job: Job, trial: Trial) -> Finding:
    """Whether the wheel went round once by hand without touching; a ring that something scratched into the rotor says it did."""
    ring, edge = trial.scratch_ring_mm, known(job.rotor.diameter_mm)
    if ring is not None:
        where = (
            f"{job.lengths.size((edge - ring) / 2)} inside its edge"
            if is_known(edge)
            else f"of {job.lengths.size(ring)}"
        )
        text = f"Something scratched a ring into the rotor, {where}: find what stands that far from the axle, before anything else."
        return Finding("trial-turn", Verdict.STOP, 0.0, 1.0, "", text, features=("rotor",))
    if not trial.turned:
        why = "Turn the wheel slowly by hand, once round, and listen: weights, stud backs and spokes come by one after the other."
        return Finding("trial-turn", Verdict.UNKNOWN, UNKNOWN, UNKNOWN, "", why, features=("wheel",))
    if trial.turned == "touches":
        what = trial.touches.strip() or "something"
        return Finding(
            "trial-turn", Verdict.STOP, 0.0, 1.0, "", f"It touches: {what}. Nothing may.", features=("wheel",)
        )
    return Finding("trial-turn", Verdict.OK, 1.0, 1.0, "", "It went round once without touching.", features=("wheel",))


def runout_finding(job: Job, trial: Trial, lengths: LengthFormat, index: str) -> Finding:
    """Runout of the rotor's face on the car [mm]. ``index``: how it would run truest, as the survey's sweeps have it."""
    value, limit = known(trial.runout_mm), limit_for(job, "rotor-runout")
    why = f"The rotor runs out by {lengths.gap(value)} on the car. "
    why += index or "Try it a stud on, then look for dirt and a lip at its seat."
    missing = "needs an indicator reading over a full turn"
    return make_finding("trial-runout", value, limit, why, features=("rotor",), missing=missing)


def diagnosis_findings(done: MoveDiagnosis | None, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Whether the last move did what it should; nothing where there was none."""
    if done is None:
        return ()
    off = max(abs(have - want) for have, want in zip(done.found, done.wanted))
    moved = [f"{lengths.gap(end)} {'outboard' if end >= 0 else 'inboard'}" for end in (*done.wanted, *done.found)]
    text = f"The shims should have moved the leading end {moved[0]} and the trailing end {moved[1]}; "
    text += f"they moved {moved[2]} and {moved[3]}."
    if done.follows:
        return (Finding("trial-follow", Verdict.OK, off, 3 * done.sd, "mm", text, features=("shims",), at_least=False),)
    likely = "; ".join(f"{reason.text} ({reason.share * 100:.0f} %)" for reason in done.reasons[:3])
    why = f"{text} Likeliest first: {likely}."
    return (Finding("trial-follow", Verdict.CAUTION, off, 3 * done.sd, "mm", why, features=("shims",), at_least=False),)

"""A corner's trial fit worked out: where the caliper sits, which shims put it right, what every bolt is left with."""

from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.evaluation.solution import Solution, ranked
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import Trial
from bicentra.core.survey.corner import survey_corner
from bicentra.core.trialfit import findings as ask
from bicentra.core.trialfit.alternatives import Alternative, alternatives_to_shims, lugs_apart
from bicentra.core.trialfit.bolts import BoltAfter, bolts_after
from bicentra.core.trialfit.findings import as_drawn
from bicentra.core.trialfit.log import Standing, standing_of
from bicentra.core.trialfit.move_diagnosis import Measured, MoveDiagnosis, followed, unknown_thickness
from bicentra.core.trialfit.plan import Limits, ShimPlan, is_within, limits_of, nearest_plan, plans_of, surely
from bicentra.core.trialfit.pose import Pose, pose_of
from bicentra.core.trialfit.set_up import in_force
from bicentra.core.trialfit.shim_station import PLACE_WORDS, Place, ShimStation, stacks_at, stations_of

TOLD = 6
"""So many plans have their bolts worked out; of those that hold more are looked for."""


class Move(Record, frozen=True):
    """A plan with what it does to every bolt, in the order one does it. ``stays``: nothing has to be changed."""

    plan: ShimPlan
    bolts: tuple[BoltAfter, ...]
    steps: tuple[str, ...]
    stays: bool

    @property
    def holds(self) -> bool:
        """Whether every bolt keeps the thread it needs at least."""
        return all(bolt.holds for bolt in self.bolts)


class TrialFit(Record, frozen=True, eq=False):
    """A trial of a corner, worked out. ``moves``: the best first; those that leave a bolt too little thread are in ``refused``.

    ``senses``: which way shims act at each place, and whether more of them help.
    """

    trial: Trial
    pose: Pose
    limits: Limits
    stations: tuple[ShimStation, ...]
    moves: tuple[Move, ...]
    refused: tuple[Move, ...]
    alternatives: tuple[Alternative, ...]
    followed: MoveDiagnosis | None
    measured: tuple[Measured, ...]
    findings: tuple[Finding, ...]
    standing: Standing
    senses: tuple[str, ...] = ()

    @property
    def doubted(self) -> bool:
        """Whether readings contradict each other: nothing is advised then but to read again."""
        return bool(self.pose.against)

    @property
    def reachable(self) -> bool:
        """Whether shims alone bring it within limits."""
        return bool(self.moves)

    @property
    def advised(self) -> tuple[Move, ...]:
        """The moves as they are advised: those that are surely within the limits before those that only just are."""
        sure = surely(self.limits, self.pose)
        return tuple(sorted(self.moves, key=lambda move: not is_within(move.plan, sure)))

    def sense_at(self, place: Place) -> str:
        """Return which way shims at a place act, in words; empty while readings contradict each other."""
        return next((text for station, text in zip(self.stations, self.senses) if station.place == place), "")

    @property
    def settled(self) -> bool:
        """Whether it is within limits as it is, and surely so as far as any shims that lie ready could make it."""
        if self.doubted:
            return False
        sure = surely(self.limits, self.pose)
        here = abs(self.pose.offset.value) <= sure.offset and abs(self.pose.tilt.value) <= sure.tilt
        better = (move for move in self.moves if not is_known(move.plan.radial))
        high = any(is_known(move.plan.radial) and not move.stays for move in self.moves)
        return (
            self.within
            and not high
            and (here or not any(is_within(move.plan, sure) and not move.stays for move in better))
        )

    @property
    def within(self) -> bool:
        """Whether offset and tilt are within limits as they are; never while readings contradict each other."""
        return (
            not self.doubted
            and abs(self.pose.offset.value) <= self.limits.offset
            and abs(self.pose.tilt.value) <= self.limits.tilt
        )


def trial_fit(solution: Solution, number: int = -1, planned: bool = True) -> TrialFit | None:
    """Return trial ``number`` of the job in ``solution`` (default: the last) worked out; ``None`` where there is none.

    Without ``planned`` no shims are looked for, and the survey's sweeps are not gone through for a truer way of the rotor:
    every verdict is the same.
    """
    job, line = solution.job, solution.line
    trials = job.trials[: number + 1] if number >= 0 else job.trials
    if not trials:
        return None
    trial = trials[-1]
    pose, limits, stations = pose_of(job, trial), limits_of(job, trial), stations_of(job, line)
    sure_pose = pose.silent if pose.against else pose
    plans = plans_of(job, line, trial, sure_pose) if planned else ()
    moves, refused = _moves(solution, stations, trial, plans)
    done, measured = None, tuple[Measured, ...]()
    then = pose_of(job, trials[-2]) if len(trials) > 1 else None
    if then is not None and not then.against and not pose.against:
        pair, poses = (trials[-2], trial), (then, pose)
        done, measured = followed(job, line, pair, poses), unknown_thickness(job, line, pair, poses)
    lug = next((station for station in stations if station.place == "lug"), None)
    truer = index_text(job) if planned else ""
    besides = tuple[Alternative, ...]()
    if planned and not moves:
        besides = (
            *_nearest(solution, trial, sure_pose),
            *alternatives_to_shims(solution.assembly, lug, trial, sure_pose, limits),
        )
    asked = _findings(solution, trial, sure_pose, limits, stations, done, truer)
    return TrialFit(
        trial, pose, limits, stations, moves, refused,
        besides,
        done, measured, ranked(asked),
        standing_of(job, trial, asked), () if pose.against else tuple(sense_of(station, pose, limits) for station in stations),
    )  # fmt: skip


def _nearest(solution: Solution, trial: Trial, pose: Pose) -> tuple[Alternative, ...]:
    """Return the shims at hand that come nearest, where none reach the limits, with what they leave."""
    job, lengths = solution.job, solution.job.lengths
    plan = nearest_plan(job, solution.line, trial, pose)
    if plan is None or plan_stays(trial, plan) or not is_known(plan.offset, plan.tilt):
        return ()
    steps = "; ".join(steps_of(trial, plan, lengths))
    text = f"Nearest with the shims at hand, but not within the limits: {steps[:1].lower()}{steps[1:]}"
    return (Alternative(f"{text} (leaves {lengths.gap(plan.offset)} and {abs(plan.tilt):.2f}°)", abs(plan.offset)),)


def standing_fit(solution: Solution) -> TrialFit | None:
    """Return the last trial with what is asked of it and how far it has come; no shims are looked for, so it is quick."""
    return trial_fit(solution, planned=False)


def _moves(
    solution: Solution, stations: tuple[ShimStation, ...], trial: Trial, plans: tuple[ShimPlan, ...]
) -> tuple[tuple[Move, ...], tuple[Move, ...]]:
    """Return the plans that leave every bolt its thread, and those that do not."""
    held, bad = list[Move](), list[Move]()
    for plan in plans:
        if len(held) >= TOLD:
            break
        move = Move(
            plan,
            bolts_after(solution.assembly, stations, plan, trial),
            steps_of(trial, plan, solution.job.lengths),
            plan_stays(trial, plan),
        )
        (held if move.holds or not move.bolts else bad).append(move)
    return tuple(held), tuple(bad)


def of_lugs(solution: Solution, stations: tuple[ShimStation, ...], pose: Pose, limits: Limits) -> str:
    """Return that a tilt out of limits is the lugs' own lean, in words; empty where it is not."""
    lug = next((station for station in stations if station.place == "lug"), None)
    apart = (
        lugs_apart(solution.assembly, lug, pose) if lug is not None and abs(pose.tilt.value) > limits.tilt else UNKNOWN
    )
    if not is_known(apart):
        return ""
    apart_text = solution.job.lengths.gap(apart)
    return f"It follows the lugs, whose faces stand {apart_text} apart: shims only hide it, and bend the bolts."


def index_text(job: Job) -> str:
    """Return at which index the survey's sweeps make the rotor run truest, in words; empty where it was not swept."""
    survey = job.survey.get(job.corner)
    if survey is None or len({sweep.on for sweep in survey.sweeps}) < 2:
        return ""
    swept = survey_corner(replace(job, survey={job.corner: replace(survey, features=())}), job.corner)
    best = swept.best_index
    if best is None:
        return ""
    studs = (
        f"{best.turn} stud{'' if best.turn == 1 else 's'} on from where it was swept"
        if best.turn
        else "where it was swept"
    )
    return f"The survey's sweeps say that it runs truest {studs}: {job.lengths.gap(best.tir)}."


def sense_of(station: ShimStation, pose: Pose, limits: Limits) -> str:
    """Return which way a shim at one place acts, and whether one more would help or make it worse."""
    where = PLACE_WORDS[station.place]
    if station.radial:
        return f"A shim {where} moves the caliper away from the axle."
    way = "outboard" if station.sign > 0 else "inboard"
    text = f"A shim {where} moves the caliper {way}"
    if not is_known(pose.offset.value) or abs(pose.offset.value) <= limits.offset:
        return f"{text}."
    sits = "outboard" if pose.offset.value > 0 else "inboard"
    if (pose.offset.value > 0) is (station.sign > 0):
        return f"{text}; it sits too far {sits}, so every shim added there makes it worse: take out."
    return f"{text}; it sits too far {sits}, so shims there help."


def plan_stays(trial: Trial, plan: ShimPlan) -> bool:
    """Tell whether a plan is what lies there already."""
    now = stacks_at(trial, plan.place).sides
    return all(_sorted(have) == _sorted(want) for have, want in zip(now, (plan.first, plan.second)))


def _sorted(shims: tuple[float | None, ...]) -> list[float]:
    return sorted(-1.0 if thick is None else thick for thick in shims)


def steps_of(trial: Trial, plan: ShimPlan, lengths: LengthFormat) -> tuple[str, ...]:
    """Return what is done in which order: the bolt with more to do first, what comes out before what goes in, closed
    ones by taking the bolt out.
    """
    closed = {loose.thickness_mm for loose in trial.stock if loose.form == "closed"}
    rows = []
    for name, now, then in zip(("leading", "trailing"), stacks_at(trial, plan.place).sides, (plan.first, plan.second)):
        out, into = _less(now, then), _less(then, now)
        if not out and not into:
            continue
        draw = any(thick in closed for thick in (*out, *into))
        begin = f"{'Take the bolt at the' if draw else 'Loosen the bolt at the'} {name} {plan.place}{' out' if draw else ''}"
        done = [f"take out {_text(out, lengths)}"] if out else []
        done += [f"put in {_text(into, lengths)}"] if into else []
        where = "lug and bracket" if plan.place == "lug" else "bracket and ear"
        rows.append((len(out) + len(into), f"{begin}; {' and '.join(done)}, between {where}"))
    text = {row[1].partition(f" {plan.place}")[2] for row in rows}
    if len(rows) == 2 and len(text) == 1:  # the same at both
        return (
            rows[0][1]
            .replace(f"the bolt at the leading {plan.place}", "both bolts")
            .replace(", between", " at each, between"),
        )
    rows.sort(key=lambda row: -row[0])
    return tuple(text for _, text in rows)


def _less(have: tuple[float | None, ...], without: tuple[float | None, ...]) -> list[float | None]:
    left = list(without)
    found = []
    for thick in have:
        if thick in left:
            left.remove(thick)
        else:
            found.append(thick)
    return found


def _text(shims: list[float | None], lengths: LengthFormat) -> str:
    return " + ".join("an unmeasured one" if thick is None else lengths.shim(thick) for thick in shims)


def _findings(
    solution: Solution,
    trial: Trial,
    pose: Pose,
    limits: Limits,
    stations: tuple[ShimStation, ...],
    done: MoveDiagnosis | None,
    truer: str,
) -> tuple[Finding, ...]:
    job, lengths = solution.job, solution.job.lengths
    counted = in_force(trial)
    here = [
        ShimPlan(station.place, *stacks_at(trial, station.place).sides, pose.offset.value, pose.tilt.value)
        for station in stations[:1]
    ]
    after = bolts_after(solution.assembly, stations, here[0], trial) if here and stations[0].known else ()
    return (
        ask.readings(trial, pose),
        ask.offset(pose, limits, lengths),
        ask.tilt(pose, limits, trial, lengths, of_lugs(solution, stations, pose, limits)),
        *ask.lean(pose, lengths),
        ask.tip_finding(job, solution.line, counted, lengths),
        as_drawn(solution, trial, pose, stations),
        ask.bolts(after, lengths),
        ask.play_finding(solution, counted, lengths),
        *ask.floating(solution, trial, lengths),
        ask.turn(job, counted),
        ask.runout_finding(job, counted, lengths, truer),
        *ask.diagnosis_findings(done, lengths),
    )


READINGS = (
    "gaps_mm", "bands_mm", "deep_gaps_mm", "parting_line_mm", "tip_gap_mm", "pad_top_mm", "scratch_ring_mm", "runout_mm", "turned",
    "touches", "read_before", "again", "floated", "photos", "locked", "lock",
)  # fmt: skip
"""What belongs to one trial alone, and is blank at the next."""


def afresh(trial: Trial) -> Trial:
    """Return a trial set up like this one, with nothing read yet."""
    blank = Trial()
    return replace(trial, **{name: getattr(blank, name) for name in READINGS})

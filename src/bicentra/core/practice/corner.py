"""The practice corner answers: a reading that is asked for, a thing that is done to it, each for its minutes.

Every call takes the job with its run and returns the job afterwards; what it told stands in the run's last step.
"""

import math
import random

from bicentra.core.base.records import Record, replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.attachments import PracticeRun, PracticeStep
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import GAP_INSTRUMENTS, GAP_NAMES, GAPS, PRACTISED, LooseShims, ShimStacks, Trial
from bicentra.core.practice.truth import (
    ASKEW,
    BEGUN,
    HANGING_MM,
    KIT_MM,
    LIP_MM,
    STOCK_MM,
    TRUE_RUNOUT_MM,
    Truth,
    true_pose,
    truth_of,
)
from bicentra.core.trialfit.contradictions import spare_of
from bicentra.core.trialfit.fit import afresh
from bicentra.core.trialfit.plan import ShimPlan, after_plan
from bicentra.core.trialfit.pose import pose_of
from bicentra.core.trialfit.set_up import INSPECTIONS, counts, with_reading, with_set_up, with_work_done
from bicentra.core.trialfit.shim_station import stations_of

READ_MIN: dict[str, float] = {"feeler strips": 1.5, "drill shanks": 1.0, "digital-caliper": 2.5, "eye": 0.3}
"""What one gap costs with each instrument [minutes]; one that does not go into the slot costs more."""
STEP_MM: dict[str, float] = {"feeler strips": 0.05, "drill shanks": 0.1, "digital-caliper": 0.01, "eye": 0.5}
"""In which steps it is read [mm]."""
OTHER_MIN = {"tip_gap_mm": 1.5, "runout_mm": 4.0, "turned": 1.0}
SET_MIN = {"rotor_nuts": 1.0, "bolts": 2.0, "washers_final": 3.0, "pads": 1.0, "rotor_plate_mm": 8.0}
"""What it costs to set the corner up another way [minutes]; what is only written down costs nothing."""
MOVE_MIN, BOLT_MIN = 4.0, 3.0
"""What a change of shims costs: getting there and tightening again, and each bolt that is loosened."""
DRAWN_SD_MM, MOST_DRAWN_MM = 0.12, 0.2
"""How well the drawing of a practice corner tells where its caliper sits, and at the worst [mm]: our choice, within what a trial
asks."""


class InspectionWork(Record, frozen=True):
    """What an inspection costs in a practice corner: its minutes, the faults it finds and cures with what is then said,
    and what is said where there is nothing.
    """

    minutes: float
    found: tuple[tuple[str, str], ...]
    nothing: str


WORK: dict[str, InspectionWork] = {
    "clean": InspectionWork(6.0, (("burr", "A burr under the bracket at one bolt: stoned off."),), "The faces are clean and flat."),
    "turn": InspectionWork(3.0, (), "It sits half a turn on: what turned with it is the rotor's own. Read the gaps again."),
    "lugs": InspectionWork(
        25.0,
        (
            ("lean", "One lug's face stands proud: it is faced square now."),
            ("plane", "Both stand 2 mm off what was written down: a new bracket plate is made."),
        ),
        "Both lugs stand where they were measured, square and level.",
    ),
    "sizes": InspectionWork(4.0, (), "Slot and rotor are what the job says."),
    "side": InspectionWork(
        2.0,
        (("sense", "It lies on the other side than the job says: it is put where the job says."),),
        "It lies where the job says.",
    ),
    "shims": InspectionWork(
        5.0,
        (
            ("mixed", "Some were in the wrong bag: they are counted by what they are now."),
            ("unknown", "The kit shims are measured: they stand in the stack by what they are."),
        ),
        "Every shim is what its bag says.",
    ),
    "rotor": InspectionWork(
        12.0,
        (("height", "It is a rotor of the same diameter and another height: the right one is on now."),),
        "It is the right rotor.",
    ),
    "heads": InspectionWork(
        2.0,
        (("washers", "A tall stack of washers: one is left under each head, and the bolts hold."),),
        "One washer under each head.",
    ),
    "ears": InspectionWork(
        4.0,
        (("spacing", "The ears stand short of the lugs' spacing: bushed to fit, the bolts start by hand."),),
        "Every bolt starts by hand.",
    ),
    "hands": InspectionWork(
        2.0,
        (("hands", "The bleed screw lies at the bottom: left and right were swapped. They are changed over."),),
        "The bleed screw lies at the top, the large piston where the rotor leaves.",
    ),
    "fouls": InspectionWork(
        8.0,
        (("fouls", "It meets the knuckle before the pads are worn: relieved little by little until paper pulls out."),),
        "It goes as far as worn pads need.",
    ),
    "lip": InspectionWork(10.0, (("lip", "A lip in the hat: ground off."),), "The hat is clean inside."),
    "weight": InspectionWork(5.0, (("weight", "They come by clear now."),), "They came by clear before."),
    "seal": InspectionWork(
        20.0, (("seal", "The seal propped the bearing up: it sits now."),), "The bearing sits with the seal as without."
    ),
}  # fmt: skip
"""What each inspection costs and finds, by its name."""


def first_trial(job: Job, truth: Truth | None = None) -> Trial:
    """Return the state in which a practice corner is found: on dry, two shims under each bolt, a box of shims beside it.

    Where a shim was never measured it stands in both stacks as one of unknown thickness.
    """
    kit = (None,) if truth is not None and "unknown" in truth.faults else ()
    return Trial(
        by=PRACTISED, station_spacing_mm=round((job.caliper.pad_width_mm or 100.0), 1), rotor_nuts=1, school="equal",
        shims_mm=ShimStacks(first=(*BEGUN, *kit), second=(*BEGUN, *kit)),
        stock=tuple(LooseShims(thickness_mm=thick, count=count) for thick, count in STOCK_MM),
    )  # fmt: skip


def begin_corner(base: Job, truth: Truth) -> Job:
    """Return ``base`` as the practice corner behind ``truth``, found on dry.

    It is drawn centred, with other shims than those that lie there: with nothing hidden the caliper sits about where drawing and
    shims put it.
    """
    solution = solve(base, turns=False, remedies=False)
    stack_up = solution.assembly.stack_up
    sign = next(station.sign for station in stations_of(base, solution.line) if station.place == "lug")
    shim = round(sum(BEGUN) - sign * truth.offset, 2)
    rng = random.Random(f"drawn {truth.seed} {truth.level}")
    off = max(-MOST_DRAWN_MM, min(rng.gauss(0.0, DRAWN_SD_MM), MOST_DRAWN_MM))
    thick = round(stack_up.thickness + stack_up.sign * (off - stack_up.error - sign * shim), 2)
    return replace(
        base, bracket=replace(base.bracket, thickness_mm=thick, shims_mm=(shim, shim)), practice=True,
        trials=(first_trial(base, truth),), practice_run=PracticeRun(seed=truth.seed, level=truth.level),
    )  # fmt: skip


def run_of(job: Job) -> PracticeRun:
    """Return the run of a practice corner; an empty one where the job is none."""
    return job.practice_run or PracticeRun()


def take_reading(job: Job, name: str) -> Job:
    """Return the job once a reading was taken at the last trial: a gap, tip gap, runout, or a slow turn by hand."""
    truth = _truth(job)
    reading = _gap(truth, job, name) if name in GAPS else _other(truth, job, name)
    index, run = len(job.trials) - 1, run_of(job)
    minutes = READ_MIN[job.trials[-1].instrument] if name in GAPS else OTHER_MIN[name]
    trial = with_reading(job.trials[-1], name, reading)
    if name == "turned":
        trial = replace(trial, touches=_touching(truth, job))
    run = replace(run, asked=(*run.asked, f"{index}:{name}"))
    later = replace(_with_trial(job, trial), practice_run=run)
    return _noted(later, "read", name, minutes, _reading_text(later, name))


def _gap(truth: Truth, job: Job, name: str) -> float:
    """Return a gap as its instrument reads it [mm]. Asked again it is read again."""
    index, trial, run = len(job.trials) - 1, job.trials[-1], run_of(job)
    asked = f"{index}:{name}"
    again = run.asked.count(asked)
    rng = random.Random(f"{truth.seed}:{truth.level}:{asked}:{again}:{trial.instrument}")
    offset, slope = true_pose(truth, job, trial, run.done)
    half = (trial.station_spacing_mm or 0.0) / 2
    turn = random.Random(f"{truth.seed}:{truth.level}:{index}")
    if "spacing" in truth.faults and "spacing" not in run.done:
        slope += turn.choice((-1.0, 1.0)) * ASKEW
    if "washers" in truth.faults and "washers" not in run.done:
        offset += rng.uniform(-HANGING_MM, HANGING_MM)
    sign, end = (1.0 if name.endswith("outboard") else -1.0), (1.0 if name.startswith("leading") else -1.0)
    gap = spare_of(job) / 2 + sign * (offset - slope * end * half) + rng.gauss(0.0, GAP_INSTRUMENTS[trial.instrument])
    if "seal" in truth.faults and "seal" not in run.done:
        gap += rng.choice((-1.0, 1.0)) * truth.rock * sign / 2
    if "reading" in truth.faults and name == truth.where and not any(one.endswith(f":{name}") for one in run.asked):
        gap += truth.wrong
    step = STEP_MM[trial.instrument]
    return max(round(round(gap / step) * step, 3), 0.0)


def _other(truth: Truth, job: Job, name: str) -> float | str:
    """Return tip gap, runout [mm] or what a slow turn by hand tells at the last trial."""
    if name == "tip_gap_mm":
        return round((job.caliper.bridge_to_pad_top_mm or 3.5) - (job.fit.pad_inset_mm or 0.0), 2)
    if name == "runout_mm":
        return LIP_MM if "lip" in truth.faults and "lip" not in run_of(job).done else TRUE_RUNOUT_MM
    return "touches" if _touching(truth, job) else "free"


def _touching(truth: Truth, job: Job) -> str:
    """Return what touches when the wheel is turned; empty where nothing does."""
    done = run_of(job).done
    if "weight" in truth.faults and "weight" not in done:
        return "a wheel weight"
    offset, slope = true_pose(truth, job, job.trials[-1], done)
    reach = abs(offset) + abs(slope) * (job.trials[-1].station_spacing_mm or 0.0) / 2
    return "the rotor" if reach > spare_of(job) / 2 else ""


def inspect(job: Job, name: str) -> Job:
    """Return the job once something was looked at: a fault that is there is found and put right; readings are then old."""
    truth, run, work, index = _truth(job), run_of(job), WORK[name], len(job.trials) - 1
    found = [(fault, text) for fault, text in work.found if fault in truth.faults and fault not in run.done]
    text = " ".join(text for _, text in found) or work.nothing
    run = replace(run, deeds=(*run.deeds, f"{index}:{name}"), done=(*run.done, *(fault for fault, _ in found)))
    trial = job.trials[-1]
    checked = tuple(dict.fromkeys((*trial.checked, name)))
    if name == "turn":
        job = replace(job, trials=(*job.trials, replace(afresh(trial), checked=checked)))
    else:
        trial = replace(trial, checked=checked)
        trial = with_work_done(trial, text) if found else trial
        faults = {fault for fault, _ in found}
        trial = _recounted(truth, trial) if "mixed" in faults else trial
        job = _with_trial(job, _measured(trial) if "unknown" in faults else trial)
    return _noted(replace(job, practice_run=run), "inspect", name, work.minutes, text)


def _recounted(truth: Truth, trial: Trial) -> Trial:
    """Return a trial whose shims are all called what they are."""
    label, real = truth.mixed

    def named(leaves: ShimStacks) -> ShimStacks:
        sides = [tuple(real if shim == label else shim for shim in side) for side in leaves.sides]
        return replace(leaves, first=sides[0], second=sides[1])

    counted: dict[float, int] = {}
    for loose in trial.stock:
        thick = real if loose.thickness_mm == label else loose.thickness_mm or 0.0
        counted[thick] = counted.get(thick, 0) + loose.count
    stock = tuple(LooseShims(thickness_mm=thick, count=count) for thick, count in sorted(counted.items()))
    return replace(trial, stock=stock, shims_mm=named(trial.shims_mm), ear_shims_mm=named(trial.ear_shims_mm))


def _measured(trial: Trial) -> Trial:
    """Return a trial with the kit shims' thickness where none stood."""
    sides = [tuple(KIT_MM if shim is None else shim for shim in side) for side in trial.shims_mm.sides]
    return replace(trial, shims_mm=replace(trial.shims_mm, first=sides[0], second=sides[1]))


def set_up(job: Job, name: str, value: object) -> Job:
    """Return the job with one thing of how the corner is set up changed; what is only written down costs nothing."""
    later = _with_trial(job, with_set_up(job, job.trials[-1], name, value))
    if name not in SET_MIN or getattr(job.trials[-1], name) == value:
        return later
    return _noted(later, "set", name, SET_MIN[name], "")


def put_shims(job: Job, plan: ShimPlan) -> Job:
    """Return the job with a plan's shims in place: a new trial, its gaps blank."""
    before = job.trials[-1]
    after = afresh(after_plan(before, plan))
    stacks = zip(
        (*before.shims_mm.sides, *before.ear_shims_mm.sides), (*after.shims_mm.sides, *after.ear_shims_mm.sides)
    )
    touched = sum(one != other for one, other in stacks)
    run = replace(run_of(job), moves=run_of(job).moves + (1 if touched else 0))
    heights = " and ".join(f"{math.fsum(thick or 0.0 for thick in side):.2f}" for side in (plan.first, plan.second))
    text = f"{heights} mm at the {plan.place}s"
    later = replace(job, trials=(*job.trials, after), practice_run=run)
    return _noted(later, "move", text, MOVE_MIN + BOLT_MIN * touched, "") if touched else later


def _truth(job: Job) -> Truth:
    return truth_of(run_of(job).seed, run_of(job).level)


def _with_trial(job: Job, trial: Trial) -> Job:
    return replace(job, trials=(*job.trials[:-1], trial))


def _noted(job: Job, kind: str, name: str, minutes: float, text: str) -> Job:
    run = run_of(job)
    step = PracticeStep(kind=kind, name=name, minutes=minutes, showed=text[:200], trial=len(job.trials) - 1)
    return replace(job, practice_run=replace(run, minutes=run.minutes + minutes, steps=(*run.steps, step)))


def _reading_text(job: Job, name: str) -> str:
    """Return what a reading told: of a gap nothing by itself, of the last of the four where the caliper sits."""
    trial, lengths = job.trials[-1], job.lengths
    if name == "turned":
        return f"It touches: {trial.touches}." if trial.touches else "It goes round free."
    if name not in GAPS:
        return lengths.gap(getattr(trial, name))
    if not all(counts(trial, gap) for gap in GAPS):
        return ""
    pose = pose_of(job, trial)
    if pose.against:
        return f"The gaps do not agree: {GAP_NAMES.get(pose.doubted[0], 'slot or rotor')} is doubted."
    side = "outboard" if pose.offset.value >= 0 else "inboard"
    return f"{lengths.gap(pose.offset.value)} too far {side}, tilt {pose.tilt.value:+.2f}°."


def title_of(step: PracticeStep) -> str:
    """Return what a step of a run was, in words."""
    others = {
        "tip_gap_mm": "Tip gap by feeler",
        "runout_mm": "Runout under an indicator",
        "turned": "A slow turn by hand",
    }
    if step.kind == "inspect":
        return INSPECTIONS.get(step.name, step.name)
    if step.kind == "move":
        return f"Shims: {step.name}"
    if step.kind == "set":
        words = {"rotor_nuts": "Rotor held by its nuts", "bolts": "Bolts drawn up", "washers_final": "Final washers in"}
        return words.get(step.name, "Set up another way")
    return f"Gap, {GAP_NAMES[step.name]}" if step.name in GAP_NAMES else others.get(step.name, step.name)

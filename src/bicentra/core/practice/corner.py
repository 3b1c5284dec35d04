"""The practice corner answers: a reading that is asked for, a thing that is done to it, each for its minutes."""

import random

from bicentra.core.base.finding import Edit
from bicentra.core.base.records import Record, replace
from bicentra.core.parts.job import Job
from bicentra.core.parts.practice import PracticeRun
from bicentra.core.parts.trial import GAP_INSTRUMENTS, PRACTISED, Leaves, Loose, Trial
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
)
from bicentra.core.trialfit.pose import spare_of

READ_MIN: dict[str, float] = {"feeler strips": 1.5, "drill shanks": 1.0, "digital-caliper": 2.5, "eye": 0.3}
"""What one gap costs with each instrument [minutes]; one that does not go into the slot costs more."""
STEP_MM: dict[str, float] = {"feeler strips": 0.05, "drill shanks": 0.1, "digital-caliper": 0.01, "eye": 0.5}
"""In which steps it is read [mm]."""
OTHER_MIN = {"tip_gap_mm": 1.5, "runout_mm": 4.0, "turned": 1.0}
MOVE_MIN, BOLT_MIN = 4.0, 3.0
"""What a change of shims costs: getting there and tightening again, and each bolt that is loosened."""


class Deed(Record, frozen=True):
    """Something that can be done to the corner: what it is called, its minutes, the faults it finds and cures with what is then
    said, and what is said where there is nothing.
    """

    title: str
    minutes: float
    found: tuple[tuple[str, str], ...]
    nothing: str


DEEDS: dict[str, Deed] = {
    "clean": Deed(
        "Clean and stone every face",
        6.0,
        (("burr", "A burr under the bracket at one bolt: stoned off."),),
        "The faces are clean and flat.",
    ),
    "lugs": Deed(
        "Measure the lugs' faces again",
        25.0,
        (
            ("lean", "One lug's face stands proud: it is faced square now."),
            ("plane", "Both stand 2 mm off what was written down: the bracket's plate is made anew."),
        ),
        "Both lugs stand where they were measured, square and level.",
    ),
    "side": Deed(
        "Look on which side of the lugs the bracket lies",
        2.0,
        (("sense", "It lies on the other side than the job says. The job says it now."),),
        "It lies where the job says.",
    ),
    "shims": Deed(
        "Measure every shim",
        5.0,
        (
            ("mixed", "Some were in the wrong bag: they are counted by what they are now."),
            ("unknown", "The kit shims are measured: they stand in the stack by what they are."),
        ),
        "Every shim is what its bag says.",
    ),
    "rotor": Deed(
        "Measure the rotor's height",
        12.0,
        (("height", "It is a rotor of the same diameter and another height: the right one is on now."),),
        "It is the right rotor.",
    ),
    "heads": Deed(
        "Look under the bolts' heads",
        2.0,
        (("washers", "A tall stack of washers: one is left under each head, and the bolts hold."),),
        "One washer under each head.",
    ),
    "ears": Deed(
        "Start every bolt by hand, and measure the ears' spacing",
        4.0,
        (("spacing", "The ears stand short of the lugs' spacing: bushed to fit, the bolts start by hand."),),
        "Every bolt starts by hand.",
    ),
    "hands": Deed(
        "Look where bleeders and large pistons lie",
        2.0,
        (("hands", "The bleeder lies at the bottom: left and right were swapped. They are changed over."),),
        "The bleeder lies at the top, the large piston where the rotor leaves.",
    ),
    "fouls": Deed(
        "Push it by hand as far as worn pads let it",
        8.0,
        (("fouls", "It meets the knuckle before the pads are worn: relieved little by little until paper pulls out."),),
        "It goes as far as worn pads need.",
    ),
    "lip": Deed(
        "Take the rotor off and look into its hat",
        10.0,
        (("lip", "A lip in the hat: ground off."),),
        "The hat is clean inside.",
    ),
    "weight": Deed(
        "Move the wheel weights to the other flange",
        5.0,
        (("weight", "They come by clear now."),),
        "They came by clear before.",
    ),
    "seal": Deed(
        "Try the hub once without its seal",
        20.0,
        (("seal", "The seal propped the bearing up: it sits now."),),
        "The bearing sits with the seal as without.",
    ),
}
"""What can be done, by name: the habits of the trade, and what each costs."""


class Answer(Record, frozen=True):
    """What came of it: the run afterwards, what changes in the job, what is said."""

    run: PracticeRun
    edits: tuple[Edit, ...] = ()
    told: str = ""


def first_trial(job: Job, truth: Truth | None = None) -> Trial:
    """Return the state in which a practice corner is found: on dry, two shims under each bolt, a box of shims beside it.

    Where a shim was never measured it stands in both stacks as one of unknown thickness.
    """
    kit = (None,) if truth is not None and "unknown" in truth.faults else ()
    return Trial(
        by=PRACTISED, station_spacing_mm=round((job.caliper.pad_width_mm or 100.0), 1), rotor_nuts=1, school="equal",
        shims_mm=Leaves(first=(*BEGUN, *kit), second=(*BEGUN, *kit)),
        stock=tuple(Loose(thickness_mm=thick, count=count) for thick, count in STOCK_MM),
    )  # fmt: skip


def read_gap(truth: Truth, run: PracticeRun, job: Job, name: str) -> Answer:
    """Return the gap called ``name`` at the last trial as its instrument reads it [mm]. Asked again it is read again."""
    index, trial = len(job.trials) - 1, job.trials[-1]
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
    value = max(round(round(gap / step) * step, 3), 0.0)
    told = replace(run, minutes=run.minutes + READ_MIN[trial.instrument], asked=(*run.asked, asked))
    return Answer(told, ((f"trials[{index}].gaps_mm.{name}", value),))


def read_other(truth: Truth, run: PracticeRun, job: Job, name: str) -> Answer:
    """Return tip gap, runout [mm] or what a slow turn by hand tells at the last trial."""
    index = len(job.trials) - 1
    later = replace(run, minutes=run.minutes + OTHER_MIN[name], asked=(*run.asked, f"{index}:{name}"))
    path = f"trials[{index}].{name}"
    if name == "tip_gap_mm":
        return Answer(
            later, ((path, round((job.caliper.bridge_to_pad_top_mm or 3.5) - (job.fit.pad_inset_mm or 0.0), 2)),)
        )
    if name == "runout_mm":
        bad = "lip" in truth.faults and "lip" not in run.done
        return Answer(later, ((path, LIP_MM if bad else TRUE_RUNOUT_MM),))
    touches = "weight" in truth.faults and "weight" not in run.done
    offset, _ = true_pose(truth, job, job.trials[-1], run.done)
    rubs = abs(offset) > spare_of(job) / 2
    what = "a wheel weight" if touches else "the rotor" if rubs else ""
    return Answer(later, ((path, "touches" if what else "free"), (f"trials[{index}].touches", what)))


def do_deed(truth: Truth, run: PracticeRun, job: Job, name: str) -> Answer:
    """Return what comes of doing something to the corner: a fault that is there is found and cured; readings are then old."""
    deed, index = DEEDS[name], len(job.trials) - 1
    later = replace(run, minutes=run.minutes + deed.minutes, deeds=(*run.deeds, f"{index}:{name}"))
    found = [(fault, told) for fault, told in deed.found if fault in truth.faults and fault not in run.done]
    if not found:
        return Answer(later, (), deed.nothing)
    later = replace(later, done=(*run.done, *(fault for fault, _ in found)))
    edits: tuple[Edit, ...] = ()
    if name == "side":
        edits = (("bracket.side", "inboard" if job.bracket.side == "outboard" else "outboard"),)
    if name == "shims" and "unknown" in later.done and "unknown" in truth.faults:
        edits = _measured(job, index)
    elif name == "shims":
        edits = _recounted(truth, job, index)
    return Answer(later, edits, " ".join(told for _, told in found))


def _recounted(truth: Truth, job: Job, index: int) -> tuple[Edit, ...]:
    """Return the edits that call every shim what it is."""
    label, real = truth.mixed
    trial = job.trials[index]

    def named(shims: tuple[float | None, ...]) -> tuple[float | None, ...]:
        return tuple(real if shim == label else shim for shim in shims)

    counts: dict[float, int] = {}
    for loose in trial.stock:
        thick = real if loose.thickness_mm == label else loose.thickness_mm or 0.0
        counts[thick] = counts.get(thick, 0) + loose.count
    stock = tuple(Loose(thickness_mm=thick, count=count) for thick, count in sorted(counts.items()))
    leaves = Leaves(first=named(trial.shims_mm.first), second=named(trial.shims_mm.second))
    return ((f"trials[{index}].stock", stock), (f"trials[{index}].shims_mm", leaves))


def _measured(job: Job, index: int) -> tuple[Edit, ...]:
    """Return the edit that puts the kit shims' thickness where none stood."""
    sides = [tuple(KIT_MM if shim is None else shim for shim in side) for side in job.trials[index].shims_mm.sides]
    return ((f"trials[{index}].shims_mm", Leaves(first=sides[0], second=sides[1])),)


def moved(run: PracticeRun, before: Trial, after: Trial) -> PracticeRun:
    """Return the run once shims were changed: what that cost [minutes]."""
    touched = sum(one != other for one, other in zip(before.shims_mm.sides, after.shims_mm.sides))
    cost = MOVE_MIN + BOLT_MIN * touched if touched else 0.0
    return replace(run, minutes=run.minutes + cost, moves=run.moves + (1 if touched else 0))

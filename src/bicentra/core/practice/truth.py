"""What is hidden in a practice corner: faults of the trade drawn from a seed, and where the caliper then really sits.

Which faults there are and how large they usually are is common practice of the trade; the corner itself is invented.
"""

import math
import random

from bicentra.core.base.numbers import Pure
from bicentra.core.base.records import Record
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import GAPS, Trial
from bicentra.core.trialfit.shim_station import ShimStation, stacks_at, stations_of

LEVELS = (1, 2, 3)
"""One fault with a hint, two, three without."""
FAULTS = {
    "lean": "One lug's face stands off the other's: it was bent. Shims under the other bolt hide it, facing the lug cures it",
    "plane": "The lugs were measured 2 mm wrong, so the bracket holds the caliper 2 mm off its plane",
    "sense": "The bracket lies on the other side of the lugs than the job says: every shim acts the other way",
    "mixed": "Shims of one thickness were in the bag of another: what was counted as {0:g} mm is {1:g} mm",
    "burr": "A burr under the bracket at one bolt kept the stack {0:.2f} mm higher than its shims",
    "seat": "The rotor stood {0:.2f} mm off its hub until two nuts or more held it",
    "height": "A rotor of the same diameter and another height: its ring lies {0:.1f} mm further {1}",
    "lip": "A lip hidden in the hat: the rotor ran out by 0.38 mm until it was ground off, then 0.13 mm",
    "weight": "A wheel weight came by once a turn and touched the caliper",
    "seal": "The seal propped up an oversize bearing: the hub rocked by {0:.2f} mm between two readings",
    "hands": "The calipers were swapped from side to side: the bleed screw lies at the bottom and keeps its air",
    "fouls": "With worn pads the body meets the knuckle: it fits as long as the pads are new",
    "unknown": "The kit shim under each bolt, counted and never measured, is {0:g} mm",
    "washers": "A tall stack of washers left the lug bolts hanging by a few turns: nothing was clamped",
    "spacing": "The ears' spacing is short of the lugs': drawn up, the caliper stood askew, each time another way",
    "reading": "One gap was read wrong by {0:.2f} mm the first time: the two at one end did not add up",
}
"""Every fault that can be hidden, and how it is reported when the truth is laid open."""
HINTS = {
    "lean": "Think of the lugs.",
    "plane": "Think of the lugs.",
    "sense": "Watch which way it moves.",
    "mixed": "Trust no bag of shims.",
    "burr": "Look between the faces.",
    "seat": "How is the rotor held?",
    "height": "Is it the right rotor?",
    "lip": "Turn it under an indicator.",
    "weight": "Turn it once round, slowly.",
    "seal": "Does it read the same twice?",
    "hands": "Where does the air go?",
    "fouls": "Will it still clear when the pads are worn?",
    "unknown": "How thick is the shim that was never measured?",
    "washers": "What lies under the heads?",
    "spacing": "Do the bolts start by hand?",
    "reading": "Do both gaps at an end add up?",
}
"""What is said at the first level."""
LIP_MM, TRUE_RUNOUT_MM, KIT_MM = 0.38, 0.13, 0.64
HELD_NUTS = 2
"""So many nuts hold a rotor against its hub: common practice."""
HANGING_MM, ASKEW = 0.25, 0.003
"""How far a caliper lies about that nothing clamps [mm], and how steep one stands whose ears are short [mm per mm]."""


class Truth(Record, frozen=True):
    """What is hidden. ``faults``: their names. ``offset``: where the caliper would sit as found with nothing hidden [mm],
    ``plane``: how much further out because the lugs were measured wrong.

    The rest by fault [mm]: ``lean`` and ``burr`` at the first (0) or second (1) ear's bolt, ``seat`` and ``height`` of the rotor,
    ``mixed`` a shim's label and true thickness, ``rock`` of the hub, ``wrong`` the error of the first reading at ``where``.
    """

    seed: int
    level: int
    faults: tuple[str, ...]
    offset: float
    plane: float
    lean: float
    lean_at: int
    burr: float
    burr_at: int
    seat: float
    height: float
    mixed: tuple[float, float]
    rock: float
    wrong: float
    where: str

    def sentences(self) -> tuple[str, ...]:
        """Return the faults in words."""
        sizes: dict[str, tuple[object, ...]] = {
            "mixed": self.mixed,
            "burr": (self.burr,),
            "seat": (self.seat,),
            "height": (abs(self.height), "out" if self.height > 0 else "in"),
            "seal": (self.rock,),
            "unknown": (KIT_MM,),
            "reading": (self.wrong,),
        }
        return tuple(FAULTS[name].format(*sizes.get(name, ())) for name in self.faults)


STOCK_MM = ((0.1, 4), (0.25, 6), (0.5, 6), (0.76, 6), (1.0, 4))
"""The box of shims on the bench [mm], how many of each."""
BEGUN = (0.5, 0.5)
"""What lies under each lug bolt at first [mm]: three is a usual start, two are easier to see."""
TWO_OF_A_KIND = (
    ("lean", "plane"),
    ("sense", "mixed"),
    ("seat", "height"),
    ("seal", "reading"),
    ("plane", "height"),
    ("seal", "washers"),
    ("washers", "reading"),
    ("spacing", "lean"),
    ("spacing", "burr"),
    ("mixed", "unknown"),
)
"""Faults that are not hidden together: nobody could tell them apart."""


def truth_of(seed: int, level: int = 1) -> Truth:
    """Return what is hidden behind a seed at a level: always the same."""
    rng = random.Random(f"corner {seed} {level}")
    names, faults = list(FAULTS), list[str]()
    rng.shuffle(names)
    for name in names:
        if len(faults) < level and not any(name in pair and set(pair) & set(faults) for pair in TWO_OF_A_KIND):
            faults.append(name)
    offset = rng.choice((-1.0, 1.0)) * rng.uniform(0.3, 0.85)  # with the first shims in, all else as it should be
    low, high = rng.choice(((0.25, 0.5), (0.5, 0.76)))
    return Truth(
        seed, level, tuple(faults), offset, rng.choice((-2.0, 2.0)), rng.uniform(0.35, 0.7), rng.randrange(2),
        rng.uniform(0.25, 0.5), rng.randrange(2), rng.uniform(0.4, 0.9), rng.choice((-1.5, 1.5, 2.0)), (low, high),
        rng.uniform(0.3, 0.5),
        rng.choice((-1.0, 1.0)) * rng.uniform(0.5, 0.8), rng.choice(GAPS),
    )  # fmt: skip


def true_sign(truth: Truth, done: tuple[str, ...] = ()) -> Pure:
    """Return which way shims at the lugs really move the caliper: +1 as the job says, −1 the other way."""
    return -1.0 if "sense" in truth.faults and "sense" not in done else 1.0


def true_pose(truth: Truth, job: Job, trial: Trial, done: tuple[str, ...]) -> tuple[float, float]:
    """Return where the caliper really sits: offset at the middle [mm] and slope along the slot, trailing end outboard positive.

    Shims lift it at the lugs and at the ears, a rigid bar on two supports at either place. ``done``: what has been done to the
    corner, by the name of the fault it cures.
    """
    from bicentra.core.lineup.solve import line_up

    def has(fault: str) -> bool:
        return fault in truth.faults and fault not in done

    offset, slope = truth.offset, 0.0
    for station in stations_of(job, line_up(job)):
        if station.radial or not station.known:
            continue
        sign = station.sign * (true_sign(truth, done) if station.place == "lug" else 1.0)
        lifts = [
            sign * math.fsum(_thick(truth, done, shim) for shim in side)
            for side in stacks_at(trial, station.place).sides
        ]
        if station.place == "lug":
            offset -= sign * sum(BEGUN)  # that is where it was found
        if station.place == "lug" and has("lean"):
            lifts[truth.lean_at] += truth.lean
        if station.place == "lug" and has("burr"):
            lifts[truth.burr_at] += sign * truth.burr
        move, turn = ShimStation(station.place, station.at, 1.0).moved(lifts[0], lifts[1])
        offset, slope = offset + move, slope + turn
    offset += truth.plane if has("plane") else 0.0
    if trial.rotor_plate_mm is not None:
        offset -= trial.rotor_plate_mm - (job.fit.rotor_spacer_mm or 0.0)
    offset -= truth.seat if has("seat") and (trial.rotor_nuts or 0) < HELD_NUTS else 0.0
    offset -= truth.height if has("height") else 0.0
    return offset, slope


def _thick(truth: Truth, done: tuple[str, ...], shim: float | None) -> float:
    """Return how thick a shim really is [mm]."""
    label, real = truth.mixed
    if shim is None:
        return KIT_MM
    return real if "mixed" in truth.faults and "mixed" not in done and abs(shim - label) < 1e-9 else shim

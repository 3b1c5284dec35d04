"""A rigid body model of a caliper on its rotor, written without any of the core: three points in space, moved and turned."""

import math
import random

import numpy as np

from bicentra.core.base.records import replace
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import Gaps, LooseShims, ShimStacks, Trial
from bicentra.study.document.starting import demo_job

SPACING = 120.0
"""Between the two ends that gaps are read at [mm]."""


def plain_job(side: str = "outboard") -> Job:
    """The demo's corner without its survey, on one side of the lugs or the other."""
    job = demo_job()
    return replace(job, survey={}, trials=(), bracket=replace(job.bracket, side=side))


def rotation(axis: tuple[float, float, float], angle: float) -> np.ndarray:
    """Rodrigues' formula: the matrix that turns by ``angle`` [rad] about ``axis``."""
    x, y, z = axis
    cross = np.array([[0.0, -z, y], [z, 0.0, -x], [-y, x, 0.0]])
    return np.eye(3) + math.sin(angle) * cross + (1 - math.cos(angle)) * cross @ cross


def gaps_of(offset: float, tilt: float, spare: float, deep: float = 0.0, twist: float = 0.0) -> Gaps:
    """The four gaps of a slot ``spare`` wider than its rotor, moved out by ``offset`` [mm] and turned by ``tilt`` and ``twist``
    [degrees]. Local frame: x away from the axle, y towards the leading end, z outboard."""
    turned = rotation((1.0, 0.0, 0.0), -math.radians(tilt)) @ rotation((0.0, 1.0, 0.0), -math.radians(twist))
    found = {}
    for end, y in (("leading", SPACING / 2), ("trailing", -SPACING / 2)):
        wall = turned @ np.array([-deep, y, 0.0])
        for face, sign in (("outboard", 1.0), ("inboard", -1.0)):
            found[f"{end}_{face}"] = spare / 2 + sign * (offset + wall[2])
    return Gaps(**found)


def some_trial(rng: random.Random, job: Job, pieces: int = 5) -> Trial:
    """A trial with random offset and tilt, shims in place and a small stock."""
    spare = (job.caliper.slot_width_mm or 0.0) - (job.rotor.thickness_mm or 0.0)
    sizes = rng.sample([0.1, 0.25, 0.3, 0.5, 0.76, 0.8, 1.0], 3)
    stock = tuple(LooseShims(thickness_mm=size, count=rng.randint(0, 2)) for size in sizes)
    here = [tuple(rng.choice(sizes) for _ in range(rng.randint(0, 2))) for _ in range(2)]
    return Trial(
        gaps_mm=gaps_of(rng.uniform(-1.2, 1.2), rng.uniform(-0.2, 0.2), spare),
        station_spacing_mm=SPACING,
        shims_mm=ShimStacks(first=here[0], second=here[1]),
        stock=stock[:pieces],
        school=rng.choice(["equal", "unequal"]),
    )

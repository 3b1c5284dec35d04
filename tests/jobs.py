"""Made-up jobs that several tests share."""

import random

from bicentra.core.base.quantities import NUMBER
from bicentra.core.base.records import replace
from bicentra.core.bracket.families.common import net_area
from bicentra.core.drawing.model import Dimension, Drawing, Note
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.parts.edits import get_value, with_edits
from bicentra.core.parts.fields import fields, meaning
from bicentra.core.parts.job import Job
from bicentra.core.parts.threads import THREADS


def meeting(good: Job, spacing: float) -> Job:
    """Ears ``spacing`` mm apart whose line and faces are those of lugs 80 mm apart: a job for eccentric bushings."""
    spot = with_edits(good, (
        ("caliper.ear_spacing_mm", spacing), ("caliper.ear_boss_mm", 34.0), ("caliper.ear_hole_mm", 14.0),
        ("caliper.ear_line_to_pad_top_mm", 65.0), ("fit.clock_deg", 180.0), ("caliper.ear_material", "aluminium"),
    ))  # fmt: skip
    z = solve(spot).line.ear_face_z
    lugs = tuple(replace(lug, y_mm=y, z_mm=z) for lug, y in zip(spot.knuckle.lugs, (40.0, -40.0)))
    return with_edits(spot, (("knuckle.lugs", lugs),))


def labels_of(drawing: Drawing) -> list[Dimension | Note]:
    """Every dimension and note of a drawing."""
    return [*drawing.dimensions, *drawing.notes]


def net(solution: Solution) -> float:
    """The face of the plate less everything cut out of it [mm2]."""
    return net_area(solution.job, solution.assembly.holes, solution.bracket.shape)


def any_value(job: Job, path: str, chance: random.Random) -> object:
    """A value for the described number, choice or thread at ``path``: missing, moved a little or far, or another choice."""
    part, _, name = path.rpartition(".")
    of = next(meaning(f) for f in fields(get_value(job, part)) if f.name == name)
    if of.choices:
        return chance.choice(of.choices)
    if of.thread:
        return chance.choice([*THREADS, None])
    if of.kind is NUMBER:
        return chance.randint(int(of.least or 0), int(of.most or 9))
    now = get_value(job, path)
    near = float(now) if isinstance(now, int | float) else 20.0
    return chance.choice((None, near * chance.uniform(0.8, 1.25), near + chance.uniform(-3.0, 3.0), near + 0.01))

"""Made-up jobs that several tests share."""

from dataclasses import replace

from bicentra.core.bracket.families.common import net_area
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.solution import Solution, solve


def meeting(good: Job, spacing: float) -> Job:
    """Ears ``spacing`` mm apart whose line and faces are those of lugs 80 mm apart: a job for eccentric bushings."""
    spot = with_edits(good, (
        ("caliper.ear_spacing_mm", spacing), ("caliper.ear_boss_mm", 34.0), ("caliper.ear_hole_mm", 14.0),
        ("caliper.ear_line_to_pad_top_mm", 65.0), ("fit.clock_deg", 180.0), ("caliper.ear_material", "aluminium"),
    ))  # fmt: skip
    z = solve(spot).line.ear_face_z
    lugs = tuple(replace(lug, y_mm=y, z_mm=z) for lug, y in zip(spot.knuckle.lugs, (40.0, -40.0)))
    return with_edits(spot, (("knuckle.lugs", lugs),))


def net(solution: Solution) -> float:
    """The face of the plate less everything cut out of it [mm2]."""
    return net_area(solution.job, solution.assembly.holes, solution.bracket.shape)

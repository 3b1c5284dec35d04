"""How much of a casting has to go where the caliper's body meets it: over which area, from which end, how deep, what is left.

Only obstacles are relieved. A lug, a ball joint or a bearing's seat may lose nothing, whatever this says.
"""

import numpy as np
import shapely

from bicentra.core.base.finding import Remedy
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.clearance.body_gaps import is_placed, slice_shapes
from bicentra.core.clearance.travel import pad_wear
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import Prism

LEAST_LEFT_MM, ARC = 3.0, 16
"""What has to be left of a ridge that is relieved: common practice, no published source. Chords of a quarter turn of the room."""


class Relief(Record, frozen=True):
    """What has to go of one obstacle: ``region`` seen along the axle, ``depth`` from its ``end``, of ``thick`` [mm]."""

    name: str
    region: shapely.Geometry
    end: str
    depth: float
    thick: float

    @property
    def area(self) -> float:
        """How much of it is cut, seen along the axle [mm2]."""
        return float(self.region.area)

    @property
    def size(self) -> tuple[float, float]:
        """The lengths of the sides of the smallest rectangle round the region [mm], the longer first."""
        corners = np.array(shapely.get_coordinates(shapely.minimum_rotated_rectangle(self.region)))
        if len(corners) < 3:
            return 0.0, 0.0
        sides = (float(np.hypot(*(corners[k + 1] - corners[k]))) for k in (0, 1))
        longer, shorter = sorted(sides, reverse=True)
        return longer, shorter

    @property
    def left(self) -> float:
        """What is left of it there [mm]."""
        return self.thick - self.depth


def relief(assembly: Assembly, thing: Prism, clock_rad: FloatArray, room: float) -> Relief | None:
    """Return what has to go of ``thing`` so that the caliper's body keeps ``room`` [mm] to it, over its float and the wear of its
    pads; ``None`` where nothing has to, or a place is not known. ``clock_rad``: one angle [rad]."""  # fmt: skip
    body, job = assembly.body, assembly.job
    wear = pad_wear(job) if job.caliper.action == "floating" else 0.0
    if not is_placed(body, clock_rad) or not is_known(thing.z0, thing.z1, wear) or thing.outline is None:
        return None
    low, high = body.heights
    low, high = low - wear - room, high + wear + room
    near = np.flatnonzero((low < thing.z1) & (thing.z0 < high))
    if not len(near):
        return None
    shapes = slice_shapes(body, near.tolist(), clock_rad)[0]
    cuts = shapely.intersection(shapely.buffer(shapes, room, quad_segs=ARC), thing.shape)
    hit = ~shapely.is_empty(cuts) & (shapely.area(cuts) > 0.0)
    if not hit.any():
        return None
    ends = {
        "outboard": float(thing.z1 - low[near][hit].min()),
        "inboard": float(high[near][hit].max() - thing.z0),
    }
    end = min(ends, key=lambda name: ends[name])
    return Relief(thing.name, shapely.union_all(cuts[hit]), end, ends[end], thing.z1 - thing.z0)


def relief_remedy(
    assembly: Assembly, feature: str, clock_rad: FloatArray, room: float, lengths: LengthFormat
) -> tuple[Remedy, ...]:
    """Return what has to go of the obstacle called ``feature`` as a remedy, for ``room`` [mm] at one angle [rad]; nothing where too
    little of it would be left."""  # fmt: skip
    thing = next((one for one in assembly.obstacles if one.feature == feature), None)
    plan = relief(assembly, thing, clock_rad, room) if thing is not None else None
    if plan is None or plan.left < LEAST_LEFT_MM:
        return ()
    long, wide = plan.size
    action = f"Relieve {plan.name} at its {plan.end} end: {lengths.gap(plan.depth)} deep over {lengths.size(round(long, 1))} by "
    action += lengths.size(round(wide, 1))
    left = f"{lengths.size(round(plan.left, 1))} of it is left there"
    asked = "only where a casting may lose metal: ask someone qualified; never a lug, a ball joint, a bearing's seat"
    return (Remedy(action, round(plan.depth, 3), False, (), (left, asked, "measure it again when it is done")),)

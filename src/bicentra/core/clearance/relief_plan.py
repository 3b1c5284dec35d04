"""How much of a casting has to go where the caliper's body meets it: over which area, from which end, how deep, what is left.

Only obstacles are relieved. A lug, a ball joint or a bearing's seat may lose nothing, whatever this says.
"""

import math

import numpy as np
import shapely

from bicentra.core.base.finding import Remedy
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.turned import ear_centres
from bicentra.core.clearance.clock_sweep import is_placed, slice_shapes
from bicentra.core.clearance.travel import pad_wear
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import Prism

LEAST_LEFT_MM, SHEET_MM, ARC = 3.0, 3.0, 16
"""What has to be left of a ridge that is relieved, and how thick sheet metal is at most, a dust shield, which is cut through:
common practice, no published source. Chords of a quarter turn of what is round."""
WIDER = 1.0 / math.cos(math.pi / (4 * ARC))
"""How much farther from the middle the corners of those chords lie, so that no chord cuts into the circle."""


class Relief(Record, frozen=True):
    """What has to go of an obstacle, ``feature``: ``region`` seen along the axle, ``depth`` from its ``end``, of
    ``thick`` [mm].
    """

    name: str
    feature: str
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
        return 0.0 if self.through else self.thick - self.depth

    @property
    def through(self) -> bool:
        """Tell whether it is sheet metal, cut through along the region's edge."""
        return self.thick <= SHEET_MM

    @property
    def may_be(self) -> bool:
        """Tell whether it can be done at all: sheet metal, or a casting of which enough is left."""
        return self.through or self.left >= LEAST_LEFT_MM


def relief(assembly: Assembly, thing: Prism, clock_rad: FloatArray, room: float) -> Relief | None:
    """Return what has to go of ``thing`` so that the caliper (body, ears, their bolts) keeps ``room`` [mm] to it.

    The body does so over its float and the wear of its pads. ``None`` where nothing has to go, or a place is unknown.
    ``clock_rad``: one angle [rad].
    """
    if not is_placed(assembly.body, clock_rad) or not is_known(thing.z0, thing.z1) or thing.outline is None:
        return None
    body, ears = _body(assembly, thing, clock_rad, room), _ears(assembly, clock_rad)
    shapes = np.concatenate([body[0], ears[0]])
    heights = np.concatenate([body[1], ears[1]]) + np.array([-room, room])
    if not np.isfinite(heights).all():
        return None
    solid = shapely.make_valid(thing.shape)  # an outline that was traced may cross itself
    cuts = shapely.intersection(shapely.buffer(shapes, room * WIDER, quad_segs=ARC), solid)
    hit = (heights[:, 0] < thing.z1) & (thing.z0 < heights[:, 1]) & (shapely.area(cuts) > 0.0)
    if not hit.any():
        return None
    ends = {
        "outboard": float(thing.z1 - heights[hit, 0].min()),
        "inboard": float(heights[hit, 1].max() - thing.z0),
    }
    end = min(ends, key=lambda name: ends[name])
    return Relief(thing.name, thing.feature, shapely.union_all(cuts[hit]), end, ends[end], thing.z1 - thing.z0)


def _body(assembly: Assembly, thing: Prism, clock_rad: FloatArray, room: float) -> tuple[FloatArray, FloatArray]:
    """The body's slices near ``thing`` and (n, 2) float, mm: from where to where each reaches, float and wear in it."""
    low, high = assembly.body.heights
    wear = pad_wear(assembly.job) if assembly.job.caliper.action == "floating" else 0.0
    heights = np.column_stack([low - wear, high + wear])
    near = (
        np.flatnonzero((heights[:, 0] - room < thing.z1) & (thing.z0 < heights[:, 1] + room)) if is_known(wear) else ()
    )
    if not len(near):
        return np.empty(0, dtype=object), heights[:0] if is_known(wear) else heights
    return slice_shapes(assembly.body, list(near), clock_rad)[0], heights[near]


def _ears(assembly: Assembly, clock_rad: FloatArray) -> tuple[FloatArray, FloatArray]:
    """The ears and their bolts as round shapes, and (n, 2) float, mm: from where to where each reaches."""
    centres = ear_centres(assembly, clock_rad)[0]
    rounds = [(centre, one) for centre, turning in zip(centres, assembly.turning) for one in turning]
    shapes = [shapely.buffer(shapely.Point(*centre), one.radius * WIDER, quad_segs=ARC) for centre, one in rounds]
    return np.array(shapes, dtype=object), np.array([(one.z0, one.z1) for _, one in rounds]).reshape(-1, 2)


def relief_remedy(
    assembly: Assembly, feature: str, clock_rad: FloatArray, room: float, lengths: LengthFormat
) -> tuple[Remedy, ...]:
    """Return what has to go of the obstacle called ``feature`` as a remedy, for ``room`` [mm] at one angle [rad];
    nothing where too little of it would be left.
    """
    thing = next((one for one in assembly.obstacles if one.feature == feature), None)
    plan = relief(assembly, thing, clock_rad, room) if thing is not None else None
    if plan is None or not plan.may_be:
        return ()
    long, wide = plan.size
    over = f"{lengths.size(round(long, 1))} by {lengths.size(round(wide, 1))}"
    drawn = "the relief template shows where, at 1:1"
    if plan.through:
        asked = "only a dust shield or the like: nothing that carries anything"
        return (Remedy(f"Cut {plan.name} out over {over}", None, False, (), (asked, drawn)),)
    action = f"Relieve {plan.name} at its {plan.end} end: {lengths.gap(plan.depth)} deep over {over}"
    left = f"{lengths.size(round(plan.left, 1))} of it is left there"
    asked = "only where a casting may lose metal: ask someone qualified; never a lug, a ball joint, a bearing's seat"
    return (Remedy(action, round(plan.depth, 3), False, (), (left, asked, drawn, "measure it again when it is done")),)

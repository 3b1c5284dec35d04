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
from bicentra.core.geometry.prism import Prism, Prisms, Shapes

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


def reliefs(assembly: Assembly, things: Prisms, clock_rad: FloatArray, room: float) -> tuple[Relief, ...]:
    """Return what has to go of each of ``things`` so that the caliper (body, ears, their bolts) keeps ``room`` [mm] to it.

    The body does so over its float and the wear of its pads. Left out is that of which nothing has to go, or whose place is
    unknown. ``clock_rad``: one angle [rad].
    """
    if not is_placed(assembly.body, clock_rad):
        return ()
    body, ears = _body(assembly, clock_rad), _ears(assembly, clock_rad)
    heights = np.concatenate([body[1], ears[1]]) + np.array([-room, room])
    if not np.isfinite(heights).all():
        return ()
    shapes = shapely.buffer(np.concatenate([body[0], ears[0]]), room * WIDER, quad_segs=ARC)
    bounds = shapely.bounds(shapes)
    there = (thing for thing in things if is_known(thing.z0, thing.z1) and thing.outline is not None)
    return tuple(plan for plan in (_relief(thing, shapes, bounds, heights) for thing in there) if plan is not None)


def _relief(thing: Prism, shapes: Shapes, bounds: FloatArray, heights: FloatArray) -> Relief | None:
    """What has to go of ``thing``: the moving ``shapes`` cut into it whose ``bounds`` and ``heights`` meet its own."""
    near = (heights[:, 0] < thing.z1) & (thing.z0 < heights[:, 1])
    x0, y0, x1, y1 = shapely.bounds(thing.shape)
    near &= (bounds[:, 0] < x1) & (x0 < bounds[:, 2]) & (bounds[:, 1] < y1) & (y0 < bounds[:, 3])
    if not near.any():
        return None
    solid = shapely.make_valid(thing.shape)  # an outline that was traced may cross itself
    cuts, reach = shapely.intersection(shapes[near], solid), heights[near]
    hit = shapely.area(cuts) > 0.0
    if not hit.any():
        return None
    ends = {"outboard": float(thing.z1 - reach[hit, 0].min()), "inboard": float(reach[hit, 1].max() - thing.z0)}
    end = min(ends, key=lambda name: ends[name])
    return Relief(thing.name, thing.feature, shapely.union_all(cuts[hit]), end, ends[end], thing.z1 - thing.z0)


def _body(assembly: Assembly, clock_rad: FloatArray) -> tuple[Shapes, FloatArray]:
    """The body's slices and (n, 2) float, mm: from where to where each reaches, float and wear in it."""
    low, high = assembly.body.heights
    wear = pad_wear(assembly.job) if assembly.job.caliper.action == "floating" else 0.0
    return slice_shapes(assembly.body, range(len(low)), clock_rad)[0], np.column_stack([low - wear, high + wear])


def _ears(assembly: Assembly, clock_rad: FloatArray) -> tuple[Shapes, FloatArray]:
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
    plan = next(iter(reliefs(assembly, (thing,), clock_rad, room)), None) if thing is not None else None
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

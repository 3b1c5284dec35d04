"""Thickness of the plate and the shims that make up the rest, from the axial offset of each lug.

A plate on side ``sgn`` of the lug (+1 outboard, −1 inboard) whose ears seat on its far face makes up sgn·Δ = T + shims;
when the ears seat on the same face as the lug, sgn·Δ = shims alone and T is free.
"""

import math
from bisect import bisect_left
from functools import lru_cache
from itertools import combinations_with_replacement

from bicentra.core.base.numbers import UNKNOWN, is_known, known, ordered
from bicentra.core.base.records import Record, replace
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job, Lug
from bicentra.core.parts.materials import SHIM_STOCK_MM

USUAL_PLATE_MM = 10.0
"""Thickness aimed at where the line-up leaves it free; common practice for small adapter plates."""
MOST_SHIMS = 4
TALL_SHIMS_MM = 2.0
"""Where more shims than this would make up the rest a thicker plate is milled to size instead [mm]: a caution begins there."""


class StackUp(Record, frozen=True):
    """What lies between the lugs and the caliper's ears, and how far out the caliper ends up [mm].

    ``errors``: axial error at each lug, positive outboard. ``near_z``/``far_z``: the plate's faces at the middle of the
    lugs, near and far from them. ``ear_z``: where the ears really seat. ``ear_metal``: bracket there, where it is not
    the plate; ``ear_spacer``: what lies loose between it and the ears; ``ear_shims``: the shims there, at the first and
    the second ear. ``beyond_ears``: room and metal on the ears' other side, where they stand in a fork.
    """

    sign: float
    ears_on_far_face: bool
    thickness: float
    chosen: bool
    shims: tuple[float, ...]
    lug_faces: tuple[float, ...]
    errors: tuple[float, ...]
    near_z: float
    far_z: float
    ear_z: float
    ear_metal: float | None = None
    ear_spacer: float = 0.0
    ear_shims: tuple[float, float] = (0.0, 0.0)
    beyond_ears: tuple[float, float] = (0.0, 0.0)

    @property
    def metal_at_ears(self) -> float:
        """What a bolt at the ears passes through [mm]: the plate, unless a step or a bend leaves something else there."""
        return self.thickness if self.ear_metal is None else self.ear_metal

    @property
    def carried(self) -> tuple[float, ...]:
        """How far off each lug's face the ears seat [mm], whatever the bracket's shape."""
        return tuple(self.sign * (self.ear_z - face) for face in self.lug_faces)

    @property
    def error(self) -> float:
        """Axial error at the caliper's middle [mm], positive outboard."""
        return sum(self.errors) / len(self.errors) if self.errors else UNKNOWN

    @property
    def worst_error(self) -> float:
        """The largest axial error at any lug, with its sign [mm]; unlike shims at the ears add half of what they differ by."""
        if any(math.isnan(e) for e in self.errors) or not self.errors:
            return UNKNOWN
        worst = max(self.errors, key=abs)
        return worst + math.copysign(abs(self.ear_shims[0] - self.ear_shims[1]) / 2, worst)

    @property
    def z_range(self) -> tuple[float, float]:
        """The plate's lower and upper z [mm]."""
        return ordered(self.near_z, self.far_z)


def pack(job: Job, line: LineUp) -> StackUp:
    """Return thickness and shims: as the job gives them, or chosen from stock so that the caliper is centred."""
    bracket = job.bracket
    sign = 1.0 if bracket.side == "outboard" else -1.0
    far = (bracket.side == "outboard") == (job.caliper.ear_seat == "inboard")
    faces = tuple(seat_face(lug, bracket.side) for lug in job.knuckle.lugs)
    reach = tuple(sign * (line.ear_face_z - face) for face in faces)
    at_ears = ear_shims(job)
    lifted = ear_lift(sign, far, at_ears)
    thickness, shims = _choose(job, tuple(need - sign * lifted for need in reach), far)
    carried = thickness if far else 0.0
    errors = tuple(sign * (carried + shim - need) + lifted for shim, need in zip(shims, reach))
    near = sum(face + sign * shim for face, shim in zip(faces, shims)) / len(faces) if faces else UNKNOWN
    far_z = near + sign * thickness
    return StackUp(
        sign=sign,
        ears_on_far_face=far,
        thickness=thickness,
        chosen=bracket.thickness_mm is None,
        shims=shims,
        lug_faces=faces,
        errors=errors,
        near_z=near,
        far_z=far_z,
        ear_z=(far_z if far else near) + lifted,
        ear_shims=at_ears,
    )


def ear_shims(job: Job) -> tuple[float, float]:
    """Return what lies between bracket and ear at the first and second ear of an axial mount [mm]; under a radial
    mount's feet it lifts the caliper along the radius instead, and is none here.
    """
    if job.caliper.mount == "radial" or len(job.fit.ear_shims_mm) != 2:
        return 0.0, 0.0
    first, second = (math.fsum(pieces) for pieces in job.fit.ear_shims_mm)
    return first, second


def ear_lift(sign: float, far: bool, at_ears: tuple[float, float]) -> float:
    """Return how far outboard shims at the ears put the caliper's middle [mm]."""
    return (sign if far else -sign) * sum(at_ears) / 2


def held(stack_up: StackUp, job: Job, line: LineUp) -> StackUp:
    """Return ``stack_up`` as it is cut, on lugs and under a caliper that lie a little otherwise than it was made for."""
    if not stack_up.lug_faces or len(stack_up.lug_faces) != len(job.knuckle.lugs):
        return stack_up
    sign, carried = stack_up.sign, stack_up.carried
    faces = tuple(seat_face(lug, job.bracket.side) for lug in job.knuckle.lugs)
    errors = tuple(sign * (high - sign * (line.ear_face_z - face)) for high, face in zip(carried, faces))
    near = sum(face + sign * shim for face, shim in zip(faces, stack_up.shims)) / len(faces)
    return replace(
        stack_up, lug_faces=faces, errors=errors, near_z=near, far_z=near + sign * stack_up.thickness,
        ear_z=sum(face + sign * high for face, high in zip(faces, carried)) / len(faces),
    )  # fmt: skip


def seat_face(lug: Lug, side: str) -> float:
    """Return z of the lug's face on the bracket's ``side`` [mm]; across the lug's thickness when measured on the other."""
    z = known(lug.z_mm)
    if lug.seat == side:
        return z
    return z + (1.0 if side == "outboard" else -1.0) * known(lug.thickness_mm)


def _choose(job: Job, reach: tuple[float, ...], far: bool) -> tuple[float, tuple[float, ...]]:
    """Return plate thickness and shims per lug: the job's own, or from stock."""
    stock, given = job.bracket.stock, job.bracket.thickness_mm
    if given is not None:
        shims = job.bracket.shims_mm or (0.0,) * len(reach)
        return given, shims
    if not reach or not is_known(*reach):
        return UNKNOWN, job.bracket.shims_mm or (0.0,) * len(reach)
    thickness = _plate_for(min(reach), stock) if far else _nearest_up(USUAL_PLATE_MM, stock)
    if job.bracket.shims_mm is not None:
        return thickness, job.bracket.shims_mm
    rest = [need - (thickness if far else 0.0) for need in reach]
    return thickness, tuple(sum(shim_pieces(amount)) for amount in rest)


def _plate_for(reach: float, stock: tuple[float, ...]) -> float:
    """Return the thickest stock plate below ``reach`` [mm], or one milled down from the next where shims would be too tall."""
    plain = stock_below(reach, stock)
    thicker = any(thick >= reach for thick in stock)
    if reach - plain <= TALL_SHIMS_MM or not thicker:
        return plain
    return math.floor(reach * 10.0 + 1e-6) / 10.0


def stock_below(reach: float, stock: tuple[float, ...]) -> float:
    """Return the thickest stock plate that is not thicker than ``reach`` [mm]; the thinnest one when none is."""
    return max((t for t in stock if t <= reach + 1e-6), default=min(stock))


def _nearest_up(wanted: float, stock: tuple[float, ...]) -> float:
    return min((t for t in stock if t >= wanted), default=max(stock))


def shim_pieces(amount: float) -> tuple[float, ...]:
    """Return the shims on sale, thickest first, whose sum comes nearest to ``amount`` [mm]; none for nothing or less.

    Up to four pieces on top of whole millimetres; the fewest pieces among equals.
    """
    if not is_known(amount) or amount <= 0.0:
        return ()
    whole = max(math.floor(amount) - MOST_SHIMS, 0)
    sums, stacks = _stacks()
    place = bisect_left(sums, amount - whole)
    near = range(max(place - 1, 0), min(place + 1, len(sums)))
    best = min(near, key=lambda k: (round(abs(sums[k] - (amount - whole)), 6), len(stacks[k])))
    return (1.0,) * whole + stacks[best]


@lru_cache(maxsize=1)
def _stacks() -> tuple[list[float], list[tuple[float, ...]]]:
    """Return every height that can be stacked, rising, and the fewest shims that reach it."""
    best: dict[float, tuple[float, ...]] = {}
    for count in range(MOST_SHIMS + 2):
        for stack in combinations_with_replacement(SHIM_STOCK_MM, count):
            best.setdefault(round(sum(stack), 6), stack)
    heights = sorted(best)
    return heights, [best[height] for height in heights]

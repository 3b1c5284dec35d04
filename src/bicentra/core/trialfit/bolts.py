"""What a move does to every bolt: thread left in, thread past, tip to rotor, preload left once the shims have bedded in."""

import math

from bicentra.core.base.finding import Verdict, judge, worst
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import Limit
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.bolt_checks import bolt_gap
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.fasteners.joint import usual_grade
from bicentra.core.fasteners.torque import LUBRICATIONS, usual_torque
from bicentra.core.parts.limits import limit_for, limit_in_mm
from bicentra.core.parts.threads import Thread
from bicentra.core.parts.trial import Trial
from bicentra.core.trialfit.plan import ShimPlan
from bicentra.core.trialfit.shim_station import Place, ShimStation, stacks_at

BED_THREAD_MM, BED_HEAD_MM, BED_FACE_MM = 0.003, 0.003, 0.002
"""How much thread, head and every pair of clamped faces bed in after tightening [mm]: VDI 2230-1 table 5, Rz 10 to 40 under axial
load, from memory."""
STEEL_N_MM2 = 205_000.0
PRELOAD = Limit(0.5, 0.7, unit="of the preload", source="Common practice, no published source")


Sides = tuple[tuple[float | None, ...], tuple[float | None, ...]]
Lying = dict[Place, Sides]
"""The shims at the first and the second stack of a place [mm], and those of every place."""


class BoltAfter(Record, frozen=True):
    """A bolt once a plan is carried out [mm].

    ``touched``: it has to be loosened for it. ``preload_left``: share of the preload of its usual torque that is left when all
    faces have bedded in, at the least.
    """

    name: str
    feature: str
    touched: bool
    engagement: float
    least: float
    wanted: float
    protrusion: float
    tip_gap: float
    preload_left: float
    verdict: Verdict

    @property
    def holds(self) -> bool:
        """Whether it has the thread it needs at least, for certain."""
        return is_known(self.engagement, self.least) and self.engagement >= self.least - 1e-9


def bolts_after(
    assembly: Assembly, stations: tuple[ShimStation, ...], plan: ShimPlan, trial: Trial
) -> tuple[BoltAfter, ...]:
    """Return every bolt as ``plan`` leaves it: its length is what it is in the job, its stack grows or shrinks with the shims.

    At the place that the plan leaves alone lie the shims that ``trial`` has there.
    """
    lying = {station.place: stacks_at(trial, station.place).sides for station in stations} | {
        plan.place: (plan.first, plan.second)
    }
    return tuple(_after(assembly, stations, plan, lying, placed) for placed in assembly.joints)


def _after(
    assembly: Assembly, stations: tuple[ShimStation, ...], plan: ShimPlan, lying: Lying, placed: PlacedJoint
) -> BoltAfter:
    across = assembly.line.frame.into(placed.centre)[1]
    grown = {station.place: _grown(assembly, station, lying[station.place], across) for station in stations}
    shift = math.fsum(_shift(station, placed, grown[station.place]) for station in stations)
    if placed.at == "ear" and is_known(plan.offset, plan.slope):  # where it really sits was measured
        shift = plan.offset - plan.slope * across - assembly.stack_up.error
        if (
            placed.joint.stack.female != "plate"
        ):  # its head lies on the bracket, which the shims at the ears do not move
            shift -= math.fsum(station.sign * grown["ear"] for station in stations if station.place == "ear")
    moved = replace(placed, seat_z=placed.seat_z + shift)
    station = next((one for one in stations if one.place == placed.at), None)
    pieces: tuple[float | None, ...] = ()
    if station is not None:
        clamped = placed.joint.stack.clamped + grown[station.place]
        moved = replace(moved, joint=replace(placed.joint, stack=replace(placed.joint.stack, clamped=clamped)))
        first, second = lying[station.place]
        pieces = first if across > sum(station.at) / 2 else second
    joint, tip = moved.joint, bolt_gap(assembly, moved, "tip")
    limit = limit_in_mm(assembly.job, "thread-engagement", joint.thread.major, joint.stack.wanted / joint.thread.major)
    if joint.stack.female == "nut":
        limit = Limit(joint.stack.least, joint.stack.wanted)
    left = preload_left(joint.thread, joint.grip, len(pieces) + len(joint.stack.layers))
    said = [
        judge(joint.engagement, limit),
        judge(tip, limit_for(assembly.job, "bolt-tip-to-rotor")),
        judge(left, PRELOAD),
    ]
    return BoltAfter(
        placed.name, placed.feature, placed.at == plan.place, joint.engagement, joint.stack.least, joint.stack.wanted,
        joint.protrusion, tip, left, worst(said),
    )  # fmt: skip


def _grown(assembly: Assembly, station: ShimStation, lying: Sides, across: float) -> float:
    """Return by how much the stacks at one place are higher than designed [mm], at ``across`` along the slot [mm]."""
    one, other = station.at
    more = [_high(shims) - _designed(assembly, station, side) for side, shims in enumerate(lying)]
    if abs(more[0]) < 1e-12 and abs(more[1]) < 1e-12:
        return 0.0
    return (more[0] * (across - other) + more[1] * (one - across)) / (one - other)


def _high(shims: tuple[float | None, ...]) -> float:
    """Return how high a stack is [mm]; unknown where one of its shims is."""
    return math.fsum(known(thick) for thick in shims)


def _designed(assembly: Assembly, station: ShimStation, side: int) -> float:
    """Return the shims the job's own design has at the first or second stack [mm], of several lugs of a side their middle."""
    if station.place == "ear":
        return assembly.stack_up.ear_shims[side]
    frame, middle = assembly.line.frame, sum(station.at) / 2
    own = [
        shim
        for lug, shim in zip(assembly.job.knuckle.lugs, assembly.stack_up.shims)
        if (frame.into((known(lug.x_mm), known(lug.y_mm)))[1] > middle) is (side == 0)
    ]
    return math.fsum(own) / len(own) if own else UNKNOWN


def _shift(station: ShimStation, placed: PlacedJoint, grown: float) -> float:
    """Return how far outboard the face a bolt's head lies on moves [mm], the shims at its place ``grown``.

    Under the lugs' shims everything beyond the lug goes along, but for a bolt that comes from behind it; under the ears' the ear
    does, so a bolt whose head lies on the ear.
    """
    from_lug = station.place == "lug" and placed.at == "lug" and placed.joint.stack.female in ("plate", "insert")
    from_bracket = station.place == "ear" and (placed.at == "lug" or placed.joint.stack.female != "plate")
    return 0.0 if from_lug or from_bracket else station.sign * grown


def preload_left(thread: Thread, grip: float, faces: int) -> float:
    """Return what share of its preload a bolt keeps at least when ``faces`` clamped parts have bedded in.

    ΔF = f_Z/δ_S with δ_S = (grip + d)/(E A_s): VDI 2230-1, from memory; the parts' own compliance, which would leave
    more, is left out. Preload: least of the usual torque of property class 8.8, oiled.
    """
    if not is_known(grip) or grip <= 0.0:
        return UNKNOWN
    bedded = BED_THREAD_MM + BED_HEAD_MM + BED_FACE_MM * max(faces, 1)
    stiffness = STEEL_N_MM2 * thread.stress_area / (grip + thread.major)
    return max(1.0 - bedded * stiffness / usual_torque(thread, usual_grade(thread), LUBRICATIONS["oiled"]).least, 0.0)

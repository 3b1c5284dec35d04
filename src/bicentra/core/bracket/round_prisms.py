"""Round things parallel to the axle: bosses, ears, bolt heads and tips, each with its range of z."""

from bicentra.core.base.numbers import UNKNOWN, is_known, known, ordered
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.bracket.stack_up import StackUp
from bicentra.core.fasteners.joint import Joint
from bicentra.core.geometry.outline import Point
from bicentra.core.geometry.prism import Prism, Prisms
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job
from bicentra.core.parts.threads import SUNK_HEADS


def fixed_prisms(job: Job, stack_up: StackUp, joints: tuple[PlacedJoint, ...]) -> Prisms:
    """Return what stands still round the lugs: the bosses, and head and tip of every lug bolt."""
    rounds: list[Prism] = []
    for k, lug in enumerate(job.knuckle.lugs):
        face = stack_up.lug_faces[k]
        back = face - stack_up.sign * known(lug.thickness_mm)
        x, y = known(lug.x_mm), known(lug.y_mm)
        rounds.append(_round(lug.name, f"lug-{k}", (x, y), known(lug.boss_mm) / 2, face, back))
    for placed in joints:
        if placed.at == "lug":
            rounds += bolt_prisms(placed)
    return tuple(rounds)


def ear_prisms(job: Job, line: LineUp, stack_up: StackUp, joints: tuple[PlacedJoint, ...]) -> tuple[Prisms, Prisms]:
    """Return what turns with each ear: its boss, and head and tip of its bolt."""
    caliper = job.caliper
    outward = 1.0 if caliper.ear_seat == "inboard" else -1.0
    z0 = stack_up.ear_z
    z1 = z0 + outward * known(caliper.ear_thickness_mm)
    both: list[Prisms] = []
    for k, (x, y, _) in enumerate(line.ears):
        boss = _round(f"ear {k + 1}", f"ear-{k}", (x, y), known(caliper.ear_boss_mm) / 2, z0, z1)
        bolts = [round_one for p in joints if (p.at, p.index) == ("ear", k) for round_one in bolt_prisms(p)]
        both.append((boss, *bolts))
    return both[0], both[1]


def head_radius(joint: Joint) -> float:
    """Return how far the head, or the washer under it, reaches round the bolt [mm]."""
    if joint.stack.sunk:
        return SUNK_HEADS[joint.thread.size][0] / 2
    washer = joint.thread.hardware.washer_outer if joint.stack.washers else 0.0
    return max(joint.thread.head_across_corners, washer) / 2


def tip_radius(joint: Joint) -> float:
    """Return how far what stands at the tip reaches round the bolt [mm]: its nut, or the bolt itself."""
    return (joint.thread.head_across_corners if joint.stack.female == "nut" else joint.thread.major) / 2


def bolt_prisms(placed: PlacedJoint) -> list[Prism]:
    """Return head (with washer) and sticking-out tip of a bolt; the tip only where it sticks out."""
    joint, at = placed.joint, placed.centre
    rounds = [_round(placed.name, placed.feature, at, head_radius(joint), placed.seat_z, placed.head_z)]
    end = placed.tip_z - placed.way * (joint.protrusion if is_known(joint.protrusion) else UNKNOWN)
    if joint.stack.female == "nut":
        corner = joint.thread.head_across_corners / 2
        start = end - placed.way * joint.thread.hardware.nut_height
        rounds.append(_round(placed.name, placed.feature, at, corner, start, placed.tip_z))
    elif joint.protrusion != 0.0:
        rounds.append(_round(placed.name, placed.feature, at, joint.thread.major / 2, end, placed.tip_z))
    return rounds


def _round(name: str, feature: str, at: Point, radius: float, za: float, zb: float) -> Prism:
    return Prism(*ordered(za, zb), at=at, radius=radius, name=name, feature=feature)

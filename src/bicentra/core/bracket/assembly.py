"""Everything placed round one bracket: line-up, holes, bolts, and the solids that can meet."""

from operator import attrgetter

from bicentra.core.base.cache import cached_property
from bicentra.core.base.records import Record, replace
from bicentra.core.bracket.holes import Hole, PlacedJoint, place_joints, plate_holes
from bicentra.core.bracket.model import Bracket, Family
from bicentra.core.bracket.prisms import ear_prisms, fixed_prisms, obstacle_prisms
from bicentra.core.bracket.stack_up import StackUp, pack
from bicentra.core.geometry.prism import Prisms
from bicentra.core.geometry.ring import Ring
from bicentra.core.lineup.body import Body, caliper_body
from bicentra.core.lineup.solids import hub_rings, rotor_rings
from bicentra.core.lineup.solve import LineUp, line_up
from bicentra.core.parts.fields import fields
from bicentra.core.parts.job import Fit, Job

_BUT_FIT = attrgetter(*(of.name for of in fields(Job) if of.name != "fit"))
_BUT_CLOCK = attrgetter(*(of.name for of in fields(Fit) if of.name != "clock_deg"))


class Assembly(Record, frozen=True):
    """Everything placed: the line-up, the bracket, its holes, the bolts, and the solids round them.

    ``fixed`` stands at the lugs, ``obstacles`` beside them, ``turning`` goes round with each of the two ears.
    ``metal``: the bracket's parts as prisms, once they are made.
    """

    job: Job
    line: LineUp
    bracket: Bracket
    holes: tuple[Hole, ...]
    joints: tuple[PlacedJoint, ...]
    body: Body
    rotor: tuple[Ring, ...]
    hub: tuple[Ring, ...]
    fixed: Prisms
    obstacles: Prisms
    turning: tuple[Prisms, Prisms]
    metal: Prisms = ()

    @cached_property
    def unturned(self) -> tuple[object, ...] | None:
        """All that decides about what does not turn with the caliper: the job but its clock angle, and how the bracket lies.

        ``None`` for a kind of bracket that is made again at each angle: there nothing stays the same.
        """
        bracket = self.bracket
        if bracket.kind.cut is None or not bracket.stands:
            return None
        known = self.line.frame.is_known
        return (*_BUT_FIT(self.job), *_BUT_CLOCK(self.job.fit), known, bracket.kind, bracket.stack_up, bracket.bolted)

    @property
    def stack_up(self) -> StackUp:
        """What lies between lugs and ears."""
        return self.bracket.stack_up

    @property
    def bolted(self) -> tuple[str, ...]:
        """Where the bracket has bolts: at the lugs, at the ears."""
        return self.bracket.bolted

    @property
    def unsolved(self) -> str:
        """What is missing where the bracket that is taken cannot be made yet, in words; empty where it can."""
        return (
            ""
            if self.bracket.stands
            else "the bracket that is taken cannot be made yet, so where the caliper sits is unknown"
        )

    @property
    def lug_holes(self) -> tuple[Hole, ...]:
        """The holes at the lugs."""
        return tuple(hole for hole in self.holes if hole.at == "lug")

    @property
    def ear_holes(self) -> tuple[Hole, ...]:
        """The holes at the caliper's ears."""
        return tuple(hole for hole in self.holes if hole.at == "ear")

    @property
    def unchosen(self) -> tuple[str, ...]:
        """Where the bracket has bolts that nobody has chosen yet: their place and length are unknown."""
        many = {"lug": len(self.job.knuckle.lugs), "ear": 2}
        there: list[str] = [joint.at for joint in self.joints]
        return tuple(group for group in self.bolted if there.count(group) < max(many[group], 1))


def place(bracket: Bracket, line: LineUp | None = None) -> Assembly:
    """Place every part round ``bracket``; ``line``: the line-up of its job, where that is worked out already."""
    job, stack_up = bracket.job, bracket.stack_up
    line = line if line is not None else line_up(job)
    placed = place_joints(job, line, stack_up, bracket.clamped) if bracket.stands else ()
    joints = tuple(joint for joint in placed if joint.at in bracket.bolted)
    turning = ear_prisms(job, line, stack_up, joints)
    return Assembly(
        job=job,
        line=line,
        bracket=bracket,
        holes=plate_holes(job, line),
        joints=joints,
        body=caliper_body(job, line, stack_up.error),
        rotor=rotor_rings(job, line),
        hub=hub_rings(job),
        fixed=fixed_prisms(job, stack_up, joints),
        obstacles=obstacle_prisms(job.knuckle.obstacles),
        turning=turning if bracket.feet is None else _on_studs(line, turning, bracket.feet),
    )


def _on_studs(line: LineUp, turning: tuple[Prisms, Prisms], half: float) -> tuple[Prisms, Prisms]:
    """Return where the caliper's feet are: round their studs, ``half`` [mm] to either side of the studs' plane."""
    z = line.ear_face_z
    one, other = ((replace(rounds[0], radius=half, z0=z - half, z1=z + half),) for rounds in turning)
    return one, other


NO_FAMILY = Family("", "Where the lugs are", lambda *_: ())


def assemble(job: Job, line: LineUp | None = None) -> Assembly:
    """Place every part of ``job`` as if its lugs carried the caliper by thickness and shims alone."""
    line = line if line is not None else line_up(job)
    return place(Bracket(NO_FAMILY, job, pack(job, line)), line)

"""Whether the bolt breaks before its thread strips, for every threaded hole a bolt is screwed into."""

from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.fasteners.grades import usual_grade
from bicentra.core.fasteners.stripping import engagement_against_stripping
from bicentra.core.parts.materials import INSERT_METAL, WEAK_TENSILE, find_material


class ThreadHold(Record, frozen=True):
    """Thread engaged and needed [mm] by one bolt; ``needed`` is unknown where nobody named the material."""

    name: str
    female: str
    engaged: float
    needed: float
    tensile: float

    def text(self, lengths: LengthFormat) -> str:
        """Return one sentence for the screen and for paper."""
        if not is_known(self.needed):
            return f"{self.name}: whether the thread strips is unknown until the {self.female}'s material is."
        if not is_known(self.engaged):
            return f"{self.name}: {lengths.gap(self.needed)} of thread needed; what is engaged is still unknown."
        end = (
            "the bolt breaks first"
            if self.engaged >= self.needed
            else "the thread strips first: more thread, or an insert"
        )
        taken = (
            f"{self.tensile:.0f} N/mm²" if self.female in ("plate", "insert") else f"taken as {self.tensile:.0f} N/mm²"
        )
        return (
            f"{self.name}: {lengths.gap(self.engaged)} engaged, {lengths.gap(self.needed)} needed in the {self.female} "
            f"({taken}); {end}."
        )


def thread_holds(assembly: Assembly) -> tuple[ThreadHold, ...]:
    """Return one record for every bolt in a threaded part; a nut of the bolt's own grade holds by its standard."""
    return tuple(_hold(assembly, placed) for placed in assembly.joints if placed.joint.stack.female != "nut")


def _hold(assembly: Assembly, placed: PlacedJoint) -> ThreadHold:
    joint, tensile = placed.joint, _tensile(assembly, placed.joint.stack.female)
    grade = usual_grade(joint.thread)
    needed = engagement_against_stripping(joint.thread, grade.tensile, tensile) if is_known(tensile) else UNKNOWN
    return ThreadHold(placed.name, joint.stack.female, joint.engagement, needed, tensile)


def _tensile(assembly: Assembly, female: str) -> float:
    """Return the strength of the threaded part: the plate's own, or the weak end of the kind of metal."""
    job = assembly.job
    if female in ("plate", "insert"):
        material = find_material(job.bracket.material if female == "plate" else INSERT_METAL)
        return UNKNOWN if material is None else material.tensile
    kind = job.knuckle.material if female == "lug" else job.caliper.ear_material
    return WEAK_TENSILE.get(kind or "", UNKNOWN)

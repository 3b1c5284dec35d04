"""Every kind of bracket there is: a new one is a file with one function and its traits, and a name in this table."""

from bicentra.core.base.numbers import UNKNOWN, known
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.families.axle_end import AXLE_END
from bicentra.core.bracket.families.bushings import BUSHINGS
from bicentra.core.bracket.families.jogged import JOGGED
from bicentra.core.bracket.families.plates import FLAT, SLEEVE, STEPPED, TWO_PART
from bicentra.core.bracket.families.radial import RADIAL
from bicentra.core.bracket.families.straight_on import ON_ORIGINAL, STRAIGHT
from bicentra.core.bracket.families.weld_on import WELD_ON
from bicentra.core.bracket.model import Bracket, Family, FamilyCheck, MadePart, refused
from bicentra.core.bracket.plate import chamfer_volume
from bicentra.core.bracket.prisms import chamfer_milled
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job

FAMILIES: dict[str, Family] = {
    kind.name: kind
    for kind in (FLAT, STEPPED, JOGGED, TWO_PART, RADIAL, AXLE_END, WELD_ON, ON_ORIGINAL, STRAIGHT, BUSHINGS, SLEEVE)
}
PLAIN, LEAST_LUGS = FLAT, 2
"""What a job has that names no kind, or one that this version does not know; with fewer lugs a bracket on them turns."""


def family_of(job: Job) -> Family:
    """Return the kind of bracket that ``job`` has chosen."""
    return FAMILIES.get(job.bracket.family, PLAIN)


def make(kind: Family, job: Job, line: LineUp, lengths: LengthFormat) -> tuple[Bracket, ...]:
    """Return the ways to make ``kind`` for ``job``, chamfered as it asks, with what of its shaping is left out said."""
    if kind.on_lugs and len(job.knuckle.lugs) < LEAST_LUGS:
        many = len(job.knuckle.lugs)
        why = f"It is bolted to at least {LEAST_LUGS} lugs; the knuckle has {many or 'none'}."
        return (refused(kind, job, why, ("lugs",)),)
    size = known(job.bracket.chamfer_mm) if job.bracket.chamfer_mm else 0.0
    return tuple(_sensible(_finished(bracket, job, size), lengths) for bracket in kind.make(job, line, lengths))


def _sensible(bracket: Bracket, lengths: LengthFormat) -> Bracket:
    """Return a bracket that somebody would make as it is; one with a piece beyond its kind's range is not suited, and
    says why.
    """
    kind = bracket.kind
    for part in bracket.parts:
        if part.volume <= 0.0:
            why = f"Nothing would be left of the {part.name}: what goes through it is wider than it is."
        elif part.thickness > kind.longest:
            why = f"The {part.name} would be {lengths.size(part.thickness)} long; over {lengths.size(kind.longest)} none is made. "
            why += "Choose parts that bring ears and lugs nearer to each other along the axle."
        elif part.mass_kg > kind.heaviest:
            heavy, most = lengths.mass(part.mass_kg, 1), lengths.mass(kind.heaviest, 0)
            why = f"The {part.name} would weigh {heavy}, and over {most} none is made."
        else:
            continue
        return refused(kind, bracket.job, why, turns=True)
    return bracket


def _finished(bracket: Bracket, job: Job, size: float) -> Bracket:
    if size and bracket.kind.chamfered:
        bracket = replace(bracket, parts=tuple(_chamfered(part, size) for part in bracket.parts))
    if bracket.kind.shaping == "left out" and bracket.stands:
        bracket = replace(bracket, asks=(*bracket.asks, *_not_shaped(job)))
    return bracket


def _chamfered(part: MadePart, size: float) -> MadePart:
    """Return a plate with its rims chamfered, unless it is already, is bent, or is no plate."""
    if part.outline is None or part.bends or part.chamfer:
        return part
    done = replace(part, chamfer=size, processes=(*part.processes, "chamfer"))
    return replace(done, volume=part.volume - chamfer_volume(part.outline, size) + chamfer_milled(done))


def _not_shaped(job: Job) -> tuple[FamilyCheck, ...]:
    """Say what of the job's shaping this bracket does not carry; nothing where there is none."""
    bracket = job.bracket
    kinds = (("cutouts", bracket.cutouts), ("dowels", bracket.dowels), ("pulled edges", bracket.pulls))
    left = [what for what, there in kinds if there]
    if not left:
        return ()
    why = f"The {' and '.join(left)} of the job are not on a bracket of this kind: remove them, or shape it by hand."
    return (FamilyCheck("not-shaped", UNKNOWN, why, remark=True),)

"""Every family solved for one job, suited ones first. A new family is a file with one function and a line in ``FAMILIES``."""

from collections.abc import Callable
from dataclasses import replace

from bicentra.core.base.numbers import is_known
from bicentra.core.base.wording import Words, units_of
from bicentra.core.bracket.families.axle import axle_end_plate
from bicentra.core.bracket.families.bushings import eccentric_bushings, sleeves
from bicentra.core.bracket.families.jogged import jogged
from bicentra.core.bracket.families.model import Candidate
from bicentra.core.bracket.families.others import chosen_anew, on_original, parking_adapter
from bicentra.core.bracket.families.plates import flat, stepped, two_part
from bicentra.core.bracket.families.radial import radial_mount
from bicentra.core.bracket.families.weld import weld_on
from bicentra.core.parts.job import Job

CHOSEN = ("thickness_mm", "shims_mm", "lug_bolt_length_mm", "caliper_bolt_length_mm")
"""Keys of the bracket that are chosen for one kind of it: taking another kind empties them."""
Solver = Callable[[Job, Words], Candidate]
FAMILIES: dict[str, Solver] = {
    "flat-plate": flat, "stepped-plate": stepped, "jogged-plate": jogged, "two-part": two_part, "radial-mount": radial_mount,
    "axle-end-plate": axle_end_plate, "weld-on": weld_on, "on-original-bracket": on_original, "parking-adapter": parking_adapter,
    "eccentric-bushings": eccentric_bushings, "sleeve": sleeves,
}  # fmt: skip
AXIAL_ONLY = {
    "flat-plate",
    "stepped-plate",
    "jogged-plate",
    "two-part",
    "axle-end-plate",
    "weld-on",
    "on-original-bracket",
}


def propose(job: Job) -> tuple[Candidate, ...]:
    """Return every family solved for ``job``, thickness and bolts chosen anew.

    Suited ones come first, then by reversibility, pieces made and mass.
    """
    anew = replace(job, bracket=chosen_anew(job.bracket))
    found = [find_family(anew, name) for name in FAMILIES if not (name in AXIAL_ONLY and job.caliper.mount == "radial")]
    return tuple(sorted(found, key=_rank))


def _rank(candidate: Candidate) -> tuple[int, bool, int, float]:
    mass = candidate.mass_kg
    return -candidate.suited.rank, not candidate.reversible, candidate.made, mass if is_known(mass) else 1e9


def own_family(job: Job) -> str:
    """Return the family that ``job`` has chosen; the flat plate where it names one that this version does not know."""
    return job.bracket.family if job.bracket.family in FAMILIES else "flat-plate"


def on_the_bench(job: Job) -> tuple[Candidate, tuple[Candidate, ...]]:
    """Return the job's own bracket as it stands, and what to show beside it: every proposal, its own chosen anew if better."""
    own, found = find_family(job, own_family(job)), list(propose(job))
    anew = next((one for one in found if one.family == own.family), None)
    if anew is None or (anew.parts, anew.solved, anew.findings) == (own.parts, own.solved, own.findings):
        return own, tuple(own if one is anew else one for one in found) if anew is not None else (own, *found)
    found.remove(anew)
    if anew.suited.rank > own.suited.rank:
        found.insert(0, replace(anew, title=f"{anew.title}, chosen anew"))
    return own, (own, *found)


def find_family(job: Job, name: str) -> Candidate:
    """Return one family solved for ``job``. Raises ``KeyError`` for a family that is none.

    Thickness, shims and bolt lengths that the job gives are its own bracket's; for any other they are chosen anew.
    """
    bracket = job.bracket
    if name != own_family(job):
        bracket = chosen_anew(bracket)
    plain = replace(job, bracket=replace(bracket, family="flat-plate"))
    return FAMILIES[name](plain, Words(units_of(job.display_units)))

"""Every family solved for one job, suited ones first. A new family is a file with one function and a line in ``FAMILIES``."""

from collections.abc import Callable
from dataclasses import replace

from bicentra.core.base.numbers import is_known
from bicentra.core.base.wording import Words, units_of
from bicentra.core.bracket.families.axle import axle_end_plate, weld_on
from bicentra.core.bracket.families.bushings import eccentric_bushings, sleeves
from bicentra.core.bracket.families.jogged import jogged
from bicentra.core.bracket.families.model import Candidate
from bicentra.core.bracket.families.others import on_original, parking_adapter
from bicentra.core.bracket.families.plates import flat, stepped, two_part
from bicentra.core.bracket.families.radial import radial_mount
from bicentra.core.parts.job import Job

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
    """Return every family solved for ``job``: suited ones first, then by reversibility, pieces made and mass."""
    words = Words(units_of(job.display_units))
    plain = replace(job, bracket=replace(job.bracket, family="flat-plate"))
    found = [
        solver(plain, words)
        for name, solver in FAMILIES.items()
        if not (name in AXIAL_ONLY and job.caliper.mount == "radial")
    ]
    return tuple(sorted(found, key=_rank))


def _rank(candidate: Candidate) -> tuple[int, bool, int, float]:
    mass = candidate.mass_kg
    return -candidate.suited.rank, not candidate.reversible, candidate.made, mass if is_known(mass) else 1e9


def find_family(job: Job, name: str) -> Candidate:
    """Return one family solved for ``job``. Raises ``KeyError`` for a family that is none."""
    plain = replace(job, bracket=replace(job.bracket, family="flat-plate"))
    return FAMILIES[name](plain, Words(units_of(job.display_units)))

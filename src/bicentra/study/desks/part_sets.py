"""Two sets of parts compared: what differs, what each weighs, what the change costs."""

from collections.abc import Iterator

from bicentra.core.base.finding import Edit, Finding, Verdict
from bicentra.core.base.numbers import UNKNOWN, known
from bicentra.core.base.records import Record
from bicentra.core.drawing.parts_view import PartSet
from bicentra.core.parts.job import Job
from bicentra.core.parts.library import Difference, differences
from bicentra.core.parts.original_brake import OriginalBrake
from bicentra.core.parts.weights import Weights, weigh
from bicentra.core.search.run import single_path
from bicentra.core.solution import solve
from bicentra.study.library.library import Library

KINDS = ("rotor", "caliper", "wheel")


class SetTrial(Record, frozen=True):
    """A set of parts tried in the job: its verdict, the findings behind it, what its plate weighs [kg]."""

    job: Job
    verdict: Verdict
    findings: tuple[Finding, ...]
    plate_kg: float


def try_out(job: Job) -> SetTrial:
    """Return what the parts in ``job`` come to where they stand."""
    verdict, findings = single_path(job)
    return SetTrial(job, verdict, findings, solve(job, turns=False, remedies=False).mass_kg)


def part_set_of(job: Job, label: str) -> PartSet:
    """Return the parts of ``job`` as they lie on the bench."""
    return PartSet(label, job.rotor, job.caliper, job.wheel)


def set_before(before: OriginalBrake | None) -> PartSet:
    """Return what came off the vehicle."""
    if before is None:
        return PartSet("came off the vehicle")
    return PartSet("came off the vehicle", before.rotor, before.caliper, before.wheel)


def weights_of(trial: SetTrial) -> Weights:
    """Return what the corner weighs with the parts of a trial, its plate among them."""
    return weigh(trial.job.rotor, trial.job.caliper, trial.job.wheel, trial.plate_kg)


def weights_before(job: Job) -> Weights:
    """Return what came off, on the job's wheel when no other is noted; nothing noted is unknown."""
    before = job.before
    if before is None:
        return Weights(UNKNOWN, UNKNOWN, UNKNOWN, UNKNOWN, UNKNOWN)
    bare = before.rotor is None and before.caliper is None
    other = known(before.other_mass_kg) if bare or before.other_mass_kg is not None else 0.0
    return weigh(before.rotor, before.caliper, before.wheel or job.wheel, other)


def set_differences(left: PartSet, right: PartSet) -> Iterator[tuple[str, tuple[Difference, ...]]]:
    """Yield (kind, what differs) for every kind of part that both kits have."""
    for kind in KINDS:
        one, other = getattr(left, kind), getattr(right, kind)
        if one is not None and other is not None:
            yield kind, differences(one, other)


def set_edits(job: Job, chosen: Job) -> tuple[Edit, ...]:
    """Return the edits that turn ``job`` into the set in ``chosen``: parts, place, plate."""
    names = (*KINDS, "fit", "bracket")
    return tuple((name, getattr(chosen, name)) for name in names if getattr(chosen, name) != getattr(job, name))


def price_of(library: Library, part_set: PartSet) -> tuple[tuple[str, float, str], ...]:
    """Return (kind, price, currency) of every part of ``part_set`` that the library has with a price."""
    found = []
    for kind in KINDS:
        item = getattr(part_set, kind)
        part = next((p for p in library.of_kind(kind) if item is not None and p.name == item.name), None)
        if part is not None and part.price is not None:
            found.append((kind, part.price, part.currency))
    return tuple(found)

"""Every kind of bracket made and judged for one job, suited ones first."""

from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import replace
from bicentra.core.beside import beside, chosen_anew
from bicentra.core.bracket.families.table import FAMILIES, family_of
from bicentra.core.judged import Judged, judge_bracket
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.job import Job

CHOSEN = ("thickness_mm", "shims_mm", "lug_bolt_length_mm", "caliper_bolt_length_mm")
"""Keys of the bracket that are chosen for one kind of it: taking another kind empties them."""


def propose(job: Job) -> tuple[Judged, ...]:
    """Return every kind of bracket made for ``job``, thickness and bolts chosen anew.

    Suited ones come first, then by reversibility, pieces made and mass.
    """
    anew = replace(job, bracket=chosen_anew(job.bracket))
    found = [
        find_bracket(anew, name)
        for name, kind in FAMILIES.items()
        if not (kind.axial and job.caliper.mount == "radial")
    ]
    return tuple(sorted(found, key=_rank))


def _rank(one: Judged) -> tuple[int, bool, int, float]:
    mass = one.bracket.mass_kg
    return -one.suited.rank, not one.bracket.reversible, one.bracket.made, mass if is_known(mass) else 1e9


def on_the_bench(job: Job) -> tuple[Judged, tuple[Judged, ...]]:
    """Return the job's own bracket as it stands, and what to show beside it: every proposal, its own chosen anew if better, and
    what is made besides."""  # fmt: skip
    own, found = own_bracket(job), list(propose(job))
    more = beside(job, job.lengths)
    besides = (more,) if more is not None else ()
    anew = next((one for one in found if one.bracket.kind is own.bracket.kind), None)
    if anew is None or _alike(anew, own):
        shown = tuple(own if one is anew else one for one in found) if anew is not None else (own, *found)
        return own, (*shown, *besides)
    found.remove(anew)
    if anew.suited.rank > own.suited.rank:
        found.insert(0, replace(anew, title=f"{anew.title}, as it could be"))
    return own, (own, *found, *besides)


def _alike(one: Judged, other: Judged) -> bool:
    a, b = one.bracket, other.bracket
    return (a.parts, a.solved, one.findings) == (b.parts, b.solved, other.findings)


def own_bracket(job: Job) -> Judged:
    """Return the bracket that ``job`` has taken, made and judged as it stands."""
    return find_bracket(job, family_of(job).name)


def find_bracket(job: Job, name: str) -> Judged:
    """Return one kind of bracket made and judged for ``job``. Raises ``KeyError`` for a name that is none.

    Thickness, shims and bolt lengths that the job gives are its own bracket's; for any other they are chosen anew.
    """
    kind = FAMILIES[name]
    if kind is not family_of(job):
        job = replace(job, bracket=chosen_anew(job.bracket))
    return judge_bracket(kind, job, line_up(job), job.lengths)


def best_charted(job: Job) -> Judged | None:
    """Return the bracket whose parts are turned to fit and need a chart: the job's own, else the first that has one."""
    kinds = [kind for kind in FAMILIES.values() if kind.charted]
    found = [find_bracket(job, kind.name) for kind in sorted(kinds, key=lambda kind: kind is not family_of(job))]
    return next((one for one in found if one.bracket.chart is not None), found[0] if found else None)

"""Every kind of bracket made and judged for one job, suited ones first; what rests on a guess is OK for none."""

from bicentra.core.base.finding import Verdict
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import replace
from bicentra.core.bracket.families.table import FAMILIES, family_of
from bicentra.core.evaluation.bracket_evaluation import BracketEvaluation
from bicentra.core.evaluation.own_bracket import find_bracket, own_bracket
from bicentra.core.evaluation.parking_adapter import chosen_anew, parking_evaluation
from bicentra.core.evaluation.solution import as_borrowed, borrowed, solve
from bicentra.core.parts.job import Job
from bicentra.core.uncertainty.doubts import guessed_paths, guesses_behind, on_a_guess


def propose(job: Job) -> tuple[BracketEvaluation, ...]:
    """Return every kind of bracket made for ``job``, thickness and bolts chosen again.

    Suited ones come first, then by reversibility, pieces made and mass.
    """
    anew = replace(job, bracket=chosen_anew(job.bracket))
    found = [
        _doubted(find_bracket(anew, name), anew, name)
        for name, kind in FAMILIES.items()
        if not (kind.axial and job.caliper.mount == "radial")
    ]
    return tuple(sorted(found, key=_rank))


def _doubted(one: BracketEvaluation, job: Job, name: str) -> BracketEvaluation:
    """Return what is OK held down to a caution where it rests on guessed dimensions of ``job``, or the corner is borrowed."""
    if one.verdict is not Verdict.OK:
        return one
    lent = (
        replace(f, why="This corner is borrowed: measure here first.") for f in borrowed(job)
    )  # said at length in the list
    findings = (*as_borrowed(job, one.findings), *lent)
    if guessed_paths(job):
        taken = replace(job, bracket=replace(job.bracket, family=name))
        guesses = guesses_behind(solve(taken, turns=False, remedies=False))
        findings = tuple(on_a_guess(f, guesses.get(f.id, ())) for f in findings)
    return replace(one, findings=findings)


def as_it_stands(job: Job) -> BracketEvaluation:
    """Return the bracket that ``job`` has taken as a proposal is reported: held down where it rests on guesses or
    another corner.
    """
    return _doubted(own_bracket(job), job, family_of(job).name)


def _rank(one: BracketEvaluation) -> tuple[int, bool, int, float]:
    mass = one.bracket.mass_kg
    return -one.verdict.rank, not one.bracket.reversible, one.bracket.made, mass if is_known(mass) else 1e9


def on_the_bench(job: Job) -> tuple[BracketEvaluation, tuple[BracketEvaluation, ...]]:
    """Return the job's own bracket as it stands, and what to show beside it: every proposal, its own chosen again if
    better, and what is made besides.
    """
    own, found = as_it_stands(job), list(propose(job))
    more = parking_evaluation(job, job.lengths)
    besides = (more,) if more is not None else ()
    anew = next((one for one in found if one.bracket.kind is own.bracket.kind), None)
    if anew is None or _alike(anew, own):
        shown = tuple(own if one is anew else one for one in found) if anew is not None else (own, *found)
        return own, (*shown, *besides)
    found.remove(anew)
    if anew.verdict.rank > own.verdict.rank:
        found.insert(0, replace(anew, title=f"{anew.title}, as it could be"))
    return own, (own, *found, *besides)


def _alike(one: BracketEvaluation, other: BracketEvaluation) -> bool:
    a, b = one.bracket, other.bracket
    return (a.parts, a.solved, one.findings) == (b.parts, b.solved, other.findings)

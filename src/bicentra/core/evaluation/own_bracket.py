"""One kind of bracket made and judged for a job: its own, or another chosen again."""

from bicentra.core.base.records import replace
from bicentra.core.bracket.families.table import FAMILIES, family_of
from bicentra.core.evaluation.bracket_evaluation import BracketEvaluation, judge_bracket
from bicentra.core.evaluation.parking_adapter import chosen_anew
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.job import Job

CHOSEN = ("thickness_mm", "shims_mm", "lug_bolt_length_mm", "caliper_bolt_length_mm")
"""Keys of the bracket that are chosen for one kind of it: taking another kind empties them."""


def own_bracket(job: Job) -> BracketEvaluation:
    """Return the bracket that ``job`` has taken, made and judged as it stands."""
    return find_bracket(job, family_of(job).name)


def find_bracket(job: Job, name: str) -> BracketEvaluation:
    """Return one kind of bracket made and judged for ``job``. Raises ``KeyError`` for a name that is none.

    Thickness, shims and bolt lengths that the job gives are its own bracket's; for any other they are chosen again.
    """
    kind = FAMILIES[name]
    if kind is not family_of(job):
        job = replace(job, bracket=chosen_anew(job.bracket))
    return judge_bracket(kind, job, line_up(job), job.lengths)


def best_charted(job: Job) -> BracketEvaluation | None:
    """Return the bracket whose parts are turned to fit and need a chart: the job's own, else the first that has one."""
    kinds = [kind for kind in FAMILIES.values() if kind.charted]
    found = [find_bracket(job, kind.name) for kind in sorted(kinds, key=lambda kind: kind is not family_of(job))]
    return next((one for one in found if one.bracket.chart is not None), found[0] if found else None)

"""What to measure next: each missing size with the findings that cannot be worked out without it.

Found by trying: on a job that is filled up with placeholder sizes one of them is taken away at a time, and what then is unknown
needs it. On the job as it is one is filled in at a time: what then is known, and says itself that it lacks no more, it settles.
Nothing of the placeholder sizes is reported to anybody.
"""

from bicentra.core.base.errors import BicentraError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import Record
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.inputs.placeholder_sizes import LUG_TRIED, TRIED, example_paths
from bicentra.core.inputs.required_inputs import example_job, is_drawn
from bicentra.core.parts.edits import get_value, with_edits
from bicentra.core.parts.job import Job

EITHER = {"caliper.pistons_outboard_mm": "caliper.pistons_inboard_mm"}
"""Of these either one will do: the second stands for both."""
CHOSEN = "bracket.thickness_mm"
"""What Bicentra chooses by itself is not missing: filled up it would hide what it is chosen from."""
NOT_GIVEN = (None, ())


class Missing(Record, frozen=True):
    """A size nobody has taken yet: its key path, and the ids of the findings that need it, worst first.

    ``settles``: those of them that need nothing else.
    """

    path: str
    needed_by: tuple[str, ...]
    settles: tuple[str, ...]


def missing_sizes(solution: Solution) -> tuple[Missing, ...]:
    """Return what is missing for the findings of ``solution`` that are unknown, what settles or serves most findings first."""
    job, asked = solution.job, _unknown(solution)
    filled = _filled(job)
    paths = [
        path for path in _given_in(filled, job) if path not in EITHER or EITHER[path] not in _given_in(filled, job)
    ]
    left = _unknown(solve(filled, turns=False, remedies=False))
    needs: dict[str, set[str]] = {}
    alone: dict[str, set[str]] = {}
    for path in paths:
        both = _either(path)
        without = with_edits(filled, tuple((one, get_value(job, one)) for one in both))
        given = with_edits(job, tuple((one, get_value(filled, one)) for one in both))
        needs[path] = {id for id in _unknown(solve(without, turns=False, remedies=False)) if id not in left}
        alone[path] = set(asked) - set(_unknown(solve(given, turns=False, remedies=False)))
    single = {f.id for f in solution.findings if ", " not in f.why}
    found = []
    for path in paths:
        others = set().union(*(ids for other, ids in needs.items() if other not in _either(path)))
        settles = tuple(id for id in asked if id in (alone[path] & single) - others)
        needed = tuple(id for id in asked if id in needs[path] or id in settles)
        if needed:
            found.append(Missing(path, needed, settles))
    return tuple(sorted(found, key=lambda one: (-len(one.settles), -len(one.needed_by))))


def _either(path: str) -> tuple[str, ...]:
    """Return ``path`` and what does in its stead: a lug has a hole that a bolt goes through, or a thread that it goes into."""
    lug, _, name = path.rpartition(".")
    if name in LUG_TRIED and lug.startswith("knuckle.lugs"):
        return tuple(f"{lug}.{one}" for one in LUG_TRIED)
    return (path, *(other for other, first in EITHER.items() if first == path))


def needed_for(job: Job, path: str) -> tuple[bool, tuple[str, ...]] | None:
    """Return what the size at ``path`` is needed for: whether the bracket takes it to appear, and the ids of the findings that
    cannot be worked out without it; ``None`` where it is no size that can be left out. Found by trying, as above.
    """
    try:
        filled = _filled(job)
        value = get_value(filled, path)
        if value in NOT_GIVEN:
            return None
        none = () if isinstance(value, tuple) else None
        bases = (filled,) if get_value(job, path) in NOT_GIVEN else (job, filled)
        pairs = [(base, with_edits(base, ((path, none),))) for base in bases]
    except (BicentraError, LookupError, AttributeError, TypeError):
        return None
    lost: dict[str, None] = {}
    for base, without in pairs:
        left = set(_unknown(solve(base, turns=False, remedies=False)))
        lost |= dict.fromkeys(id for id in _unknown(solve(without, turns=False, remedies=False)) if id not in left)
    drawn = any(is_drawn(base) and not is_drawn(without) for base, without in pairs)
    return (drawn, tuple(lost)) if drawn or lost or not isinstance(value, str) else None


def _unknown(solution: Solution) -> tuple[str, ...]:
    return tuple(finding.id for finding in solution.findings if finding.verdict is Verdict.UNKNOWN)


def _filled(job: Job) -> Job:
    """Return ``job`` with a placeholder size wherever none is given, of more things than are drawn."""
    example = with_edits(example_job(job), ((CHOSEN, get_value(job, CHOSEN)),))
    lugs = {
        f"knuckle.lugs[{k}].{name}": value
        for k, lug in enumerate(job.knuckle.lugs)
        for name, value in LUG_TRIED.items()
        if lug.thread is None and lug.hole_mm is None
    }
    return with_edits(
        example, tuple((path, v) for path, v in {**TRIED, **lugs}.items() if get_value(example, path) in NOT_GIVEN)
    )


def _given_in(filled: Job, job: Job) -> tuple[str, ...]:
    """Return the key paths that were filled up."""
    lugs = [f"knuckle.lugs[{k}].{name}" for k in range(len(job.knuckle.lugs)) for name in LUG_TRIED]
    return tuple(
        path for path in (*example_paths(job), *TRIED, *lugs) if get_value(filled, path) != get_value(job, path)
    )

"""The whole answer for one job: line-up, bracket, everything placed, findings, from one call."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from functools import partial

from bicentra.core.base.cache import cached_property
from bicentra.core.base.finding import OF_OTHER, Finding, Remedy, Verdict
from bicentra.core.base.lazy_findings import LazyFindings, LazyStep, step
from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.base.records import Record, field, replace
from bicentra.core.base.registry import OF_BRACKET, PRACTICE, Limit, kind_of, place_of
from bicentra.core.base.wording import LengthFormat, make_finding
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.families.table import FAMILIES, family_of
from bicentra.core.bracket.holes import not_as_placed
from bicentra.core.bracket.model import Bracket, MadePart
from bicentra.core.bracket.stack_up import StackUp
from bicentra.core.clearance.clock_checks import bleeder_finding, obstacle_room
from bicentra.core.clearance.travel import travel_findings
from bicentra.core.clearance.turning import turning_findings
from bicentra.core.clearance.wheel_room import wheel_room
from bicentra.core.consistency.conflict import OUR_JUDGEMENT
from bicentra.core.consistency.table import consistency_findings
from bicentra.core.evaluation.bracket_evaluation import BracketEvaluation, bracket_steps, made_bracket
from bicentra.core.evaluation.parking_adapter import brackets_apart, parking_evaluation
from bicentra.core.evaluation.verified_remedies import Verifier
from bicentra.core.lineup.checks import line_up_findings
from bicentra.core.lineup.more_checks import other_side
from bicentra.core.lineup.solve import LineUp, line_up
from bicentra.core.parts.corners import across
from bicentra.core.parts.declared_absent import UNLOOKED, WATCHES, is_absent, is_unlooked
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import accepted, changed_limits, refused_names, unknown_names


class Solution(Record, frozen=True):
    """Everything that follows from a job; its findings are worked out when they are first asked for.

    ``spread``: standard uncertainty of figures by name, where a survey gives it. ``parking``: what is made besides the bracket.
    """

    job: Job
    assembly: Assembly
    lazy: LazyFindings
    spread: Mapping[str, float] = field(default_factory=dict)
    parking: BracketEvaluation | None = None

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """Every finding, worst first."""
        return ranked(self.lazy.every())

    @property
    def bracket(self) -> Bracket:
        """The bracket that the job has taken."""
        return self.assembly.bracket

    @property
    def evaluation(self) -> BracketEvaluation:
        """The bracket with what is asked of it here: nothing is made or judged again."""
        return BracketEvaluation(self.assembly, self.lazy.of_groups(OF_BRACKET, alone=True), self.bracket.kind.title)

    @property
    def parts(self) -> tuple[MadePart, ...]:
        """Everything that is made: the bracket's parts, and those of what is made beside it."""
        return (*self.bracket.parts, *(self.parking.bracket.parts if self.parking is not None else ()))

    @property
    def part(self) -> MadePart | None:
        """The plate that is cut; ``None`` where there is none or it is still unknown."""
        return self.bracket.plate

    @property
    def mass_kg(self) -> float:
        """What the whole bracket weighs [kg]."""
        return self.bracket.mass_kg

    @property
    def line(self) -> LineUp:
        """The line-up."""
        return self.assembly.line

    @property
    def verdicts(self) -> tuple[Verdict, ...]:
        """The verdict of every finding."""
        return tuple(finding.verdict for finding in self.findings)

    @property
    def feasible(self) -> bool:
        """Whether the bracket can be made: there is one, or none is needed, and nothing about it stops or is unknown."""
        own = [f.verdict for f in self.findings if kind_of(f.id).made]
        return self.bracket.shown and not any(v in (Verdict.STOP, Verdict.UNKNOWN) for v in own)

    def finding(self, id: str) -> Finding:
        """Return the finding called ``id``. Raises ``KeyError`` when there is none."""
        found = self.lazy.one(id)
        if found is None:
            raise KeyError(id)
        return found

    def with_findings(self, findings: Iterable[Finding], spread: Mapping[str, float] | None = None) -> "Solution":
        """Return the same with ``findings`` instead of its own, and ``spread`` [mm, degrees] where that is given."""
        done = tuple(findings)
        groups = frozenset(kind_of(finding.id).group for finding in done)
        return replace(
            self, lazy=LazyFindings((LazyStep(groups, lambda: done),)), spread=self.spread if spread is None else spread
        )

    def over(self, change: Callable[[Finding], Finding], spread: Mapping[str, float]) -> "Solution":
        """Return the same with each finding as ``change`` makes it, when it is asked, and with ``spread`` [mm, degrees]."""
        return replace(self, lazy=self.lazy.over(change), spread=spread)

    def with_more(self, findings: tuple[Finding, ...]) -> "Solution":
        """Return the same with ``findings`` besides its own."""
        groups = frozenset(kind_of(finding.id).group for finding in findings)
        return replace(self, lazy=self.lazy.with_step(LazyStep(groups, lambda: findings)))


def solve(
    job: Job, turns: bool = True, remedies: bool = True, fixed_stack_up: StackUp | None = None, verified: bool = True
) -> Solution:
    """Return the whole answer for ``job``. Nothing raises for a validated job; what is missing comes out unknown.

    Without ``turns`` the remedies that turn the caliper are left out: finding them sweeps the whole circle, which a
    drag need not wait for; without ``remedies`` no remedy is looked for at all. Verdicts and figures are the same. Remedies are
    ``verified``, each carried out and solved, where turns are looked for too: that takes a while.
    ``fixed_stack_up``: the stack-up of a bracket that is cut already and held as it is.
    """
    made = solved(job, made_bracket(family_of(job), job, line_up(job), job.lengths, fixed_stack_up), turns, remedies)
    return with_verified(made) if turns and remedies and verified else made


def with_verified(solution: Solution) -> Solution:
    """Return ``solution`` with the remedies that really help alone, each carried out and solved when its finding is asked."""
    verifier = Verifier(solution.job, solution.lazy.every, lambda job: solve(job, turns=False, remedies=False).findings)
    return replace(solution, lazy=solution.lazy.over(verifier.verified))


def solved(job: Job, assembly: Assembly, turns: bool = True, remedies: bool = True) -> Solution:
    """Return the same once the bracket of ``job`` is made and in its place."""
    lengths = job.lengths
    more = parking_evaluation(job, lengths)
    steps = (
        step("line-up", lambda: line_up_findings(job, assembly.line, remedies)),
        step("line-up", lambda: consistency_findings(job, lengths)),
        *bracket_steps(assembly, lengths, turns, remedies),
        step("caliper", lambda: (bleeder_finding(assembly, turns),)),
        step("caliper", lambda: (obstacle_room(assembly, assembly.line.frame.here, lengths, turns),)),
        step("wheel", lambda: (wheel_room(assembly, lengths, remedies),)),
        step("caliper", lambda: turning_findings(assembly, lengths)),
        step("travel", lambda: travel_findings(assembly, lengths)),
        step("bracket job", lambda: remarks(job)),
        step("survey", lambda: (*borrowed(job), *_elsewhere(job, lengths))),
        step("parking", lambda: (*more.findings, *brackets_apart(assembly, more, lengths)) if more is not None else ()),
    )
    said = job.fit.absent or job.limits or is_unlooked(job)
    steps = tuple(replace(one, ask=partial(_said, job, one.ask)) for one in steps) if said else steps
    asked = (replace(one, ask=partial(_as_borrowed, job, one.ask)) for one in steps) if job.borrowed else steps
    return Solution(job, assembly, LazyFindings(asked), parking=more)


def with_turns(solution: Solution) -> Solution:
    """Return ``solution`` with the turns of the caliper that cure what does not clear: finding them sweeps the whole circle."""
    curable = (f for f in solution.findings if f.verdict in (Verdict.STOP, Verdict.CAUTION))
    return solve(solution.job) if any(curable) else solution


def _elsewhere(job: Job, lengths: LengthFormat) -> tuple[Finding, ...]:
    found = other_side(job, lengths)
    return () if found is None else (found,)


def _said(job: Job, ask: Callable[[], Iterable[Finding]]) -> Iterable[Finding]:
    return as_said(job, ask())


def as_said(job: Job, findings: Iterable[Finding]) -> Iterator[Finding]:
    """Yield ``findings`` with what the job says beside its numbers: those of what it has none of as watches, neither met nor
    waiting for a measurement; room to the knuckle a caution at best while nobody has looked; limits of the job's own named.
    """
    unlooked = is_unlooked(job)
    for finding in findings:
        kind = kind_of(finding.id)
        if finding.verdict is Verdict.UNKNOWN and kind.without and is_absent(job, kind.without):
            yield replace(finding, verdict=Verdict.CAUTION, why=f"{WATCHES[kind.without]}.")
        elif unlooked and kind.near_knuckle and finding.verdict is Verdict.OK:
            yield replace(finding, verdict=Verdict.CAUTION, why=f"{finding.why} {UNLOOKED}.")
        else:
            changed = changed_limits(job, kind) if job.limits else ""
            yield replace(finding, why=f"{finding.why} {changed}") if changed else finding


def _as_borrowed(job: Job, ask: Callable[[], Iterable[Finding]]) -> Iterable[Finding]:
    return as_borrowed(job, ask())


def as_borrowed(job: Job, findings: Iterable[Finding]) -> Iterable[Finding]:
    """Return ``findings``, those marked that rest on a hub or knuckle which was measured at the other corner."""
    if not job.borrowed:
        return findings
    text = f"{' and '.join(job.borrowed)}: {OF_OTHER} ({_other(job)}), not at this one"
    return tuple(replace(f, assumed=(*f.assumed, text)) if _rests_on_hub(f) else f for f in findings)


def borrowed(job: Job) -> tuple[Finding, ...]:
    """Return the one thing to do at a corner with another's numbers: measure it. It stays a caution until that is done."""
    if not job.borrowed:
        return ()
    names = " and ".join(job.borrowed)
    why = (
        f"This corner is borrowed: its {names} {'are' if len(job.borrowed) > 1 else 'is'} what was measured at the {_other(job)} "
        f"corner, mirrored. Damage, wear and made parts differ from side to side, so what fits there may not fit here. Measure "
        f"{names} here before anything is cut for it."
    )
    cure = Remedy(
        f"Measure {names} here: survey this corner, or open the sheet, measure it all, and say so there", None, True
    )
    value = float(len(job.borrowed))
    return (
        Finding("corner-borrowed", Verdict.CAUTION, value, 0.0, "", why, (cure,), features=("knuckle", "hub"), source=PRACTICE,
                at_least=False),
    )  # fmt: skip


def _other(job: Job) -> str:
    return across(job.corner).replace("-", " ")


def _rests_on_hub(finding: Finding) -> bool:
    kind = kind_of(finding.id)
    return not kind.off_hub and kind.group not in ("survey", "job")


def ranked(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Return ``findings`` worst first, those of equal verdict in the order they are declared in."""
    return tuple(sorted(findings, key=lambda f: (f.verdict.rank, place_of(f.id))))


def remarks(job: Job) -> tuple[Finding, ...]:
    """Return what the job asks for that this version does not know, or does not work out."""
    found = [
        Finding("unsupported", Verdict.UNKNOWN, UNKNOWN, UNKNOWN, "", why, source="This version")
        for why in _not_worked_out(job)
    ]
    for name in unknown_names(job):
        why = f"The job sets a limit called “{name}”, which nothing reads: check its spelling."
        found.append(make_finding("unused-limit", 1.0, Limit(2.0, 0.0, False, "", PRACTICE), why))
    for name in refused_names(job):
        low, high = accepted(name)
        why = f"The job sets the limit “{name}” to {job.limits[name]:g}; {low:g} to {high:g} is accepted. The usual one judges."
        cure = Remedy(f"Remove the job's own limit “{name}” away", None, True, (("limits", _without(job, name)),))
        found.append(
            Finding("limit-not-accepted", Verdict.STOP, job.limits[name], low, "", why, (cure,), source=OUR_JUDGEMENT)
        )
    return tuple(found)


def _without(job: Job, name: str) -> dict[str, float]:
    return {other: value for other, value in job.limits.items() if other != name}


def _not_worked_out(job: Job) -> Iterator[str]:
    kind, named, mounting = family_of(job), job.bracket.family, job.knuckle.mounting
    title = kind.title.lower()
    if job.caliper.mount == "radial" and kind.axial:
        yield f"A bracket of this kind ({title}) holds no radial-mount caliper: choose the radial mount on the bracket bench."
    elif named and named not in FAMILIES:
        yield f"This version does not know the kind of bracket “{named[:40]}”; the rest of the line-up still holds."
    if not kind.holds_on(mounting):
        held = f"“{mounting}”, and one of this kind ({title}) by “{kind.mounting}”"
        yield f"What holds the bracket is said to be {held}: choose another kind, or say what holds it."
    for text in not_as_placed(job):
        yield f"This version does not calculate {text} as it is asked: leave “from” and “into” empty, or change the hole."

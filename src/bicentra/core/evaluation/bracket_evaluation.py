"""A bracket made, placed and judged: line-up, bracket, everything placed, and what is asked of the bracket."""

from collections.abc import Callable, Container, Iterable, Iterator
from functools import partial

from bicentra.core.base.finding import OK, STOP, Finding, Verdict, worst
from bicentra.core.base.lazy_findings import LazyFindings, LazyStep, step
from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import KINDS
from bicentra.core.base.wording import LengthFormat, make_finding
from bicentra.core.bracket.assembly import Assembly, place
from bicentra.core.bracket.axial import axial_finding, shim_finding
from bicentra.core.bracket.bolt_checks import bolt_findings
from bicentra.core.bracket.families.table import make
from bicentra.core.bracket.lean import tilt_finding
from bicentra.core.bracket.metal import bracket_metal
from bicentra.core.bracket.metal_checks import metal_findings
from bicentra.core.bracket.model import Bracket, Family, FamilyCheck
from bicentra.core.bracket.stack_up import StackUp, held
from bicentra.core.clearance.bracket_clearance import clearance_findings, clearances
from bicentra.core.clearance.clock_checks import with_turn_remedy
from bicentra.core.consistency.conflict import OUR_JUDGEMENT, finding_of
from bicentra.core.consistency.fastening import bracket_conflicts
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for

GEOMETRY = "Geometry of the line-up"
UNSHAPED = frozenset(kind.id for kind in KINDS if not kind.shaped)
"""Findings that pulling a bracket's shape does not change."""


class BracketEvaluation(Record, frozen=True):
    """One bracket in its place with the findings that are asked of it. ``title``: its name, with what sets it apart."""

    assembly: Assembly
    findings: tuple[Finding, ...]
    title: str

    @property
    def bracket(self) -> Bracket:
        """The bracket."""
        return self.assembly.bracket

    @property
    def verdict(self) -> Verdict:
        """Whether it can be made for this job: the worst of what is asked of it."""
        return Verdict.UNKNOWN if self.bracket.needs else worst(f.verdict for f in self.findings)

    @property
    def why(self) -> str:
        """What it comes to in one sentence, and the finding that decides against it."""
        bad = min(self.findings, key=lambda f: f.verdict.rank, default=None)
        text = self.bracket.why
        said = (
            bad is None or bad.verdict is Verdict.OK or bad.why in text or (bool(text) and bad.why.endswith(text[1:]))
        )
        return text if said or bad is None else f"{text} {bad.why}"

    @property
    def margin(self) -> tuple[str, float]:
        """The finding with least room to its limit, and that room [mm]; nothing known is unknown."""
        rooms = [
            (f.id, (f.value - f.limit) * (1.0 if f.at_least else -1.0))
            for f in self.findings if is_known(f.value, f.limit) and f.unit == "mm"
        ]  # fmt: skip
        return min(rooms, key=lambda row: row[1], default=("", UNKNOWN))


def judge_bracket(
    kind: Family,
    job: Job,
    line: LineUp,
    lengths: LengthFormat,
    turns: bool = False,
    remedies: bool = False,
    fixed_stack_up: StackUp | None = None,
) -> BracketEvaluation:
    """Return ``kind`` made for ``job`` and judged: of several ways the first that clears everything, else the one that
    clears most.

    ``turns`` and ``remedies``: whether turns and other remedies are looked for. ``fixed_stack_up``: a stack-up that is
    held as it is, for a bracket that is cut already.
    """
    best = made_bracket(kind, job, line, lengths, fixed_stack_up)
    return BracketEvaluation(best, bracket_findings(best, lengths, turns, remedies), kind.title)


def made_bracket(
    kind: Family, job: Job, line: LineUp, lengths: LengthFormat, fixed_stack_up: StackUp | None = None
) -> Assembly:
    """Return ``kind`` made for ``job`` in its place: of several ways the first that clears everything, else the one
    that clears most. ``fixed_stack_up``: a stack-up that is held as it is, for a bracket that is cut already.
    """
    return clearest_of(make(kind, job, line, lengths), job, line, lengths, fixed_stack_up)


def clearest_of(
    ways: tuple[Bracket, ...], job: Job, line: LineUp, lengths: LengthFormat, fixed_stack_up: StackUp | None = None
) -> Assembly:
    """Return the one of several ``ways`` to make a bracket for ``job`` that is taken, in its place."""

    def placed(made: Bracket) -> Assembly:
        held_fast = fixed_stack_up is not None and made.stands
        bracket = (
            replace(made, stack_up=held(fixed_stack_up, made.job, line))
            if fixed_stack_up is not None and held_fast
            else made
        )
        return placed_metal(bracket, line if bracket.job is job else None, lengths)

    return placed(ways[0]) if len(ways) == 1 else _clearest(map(placed, ways), lengths)


def placed_metal(bracket: Bracket, line: LineUp | None, lengths: LengthFormat) -> Assembly:
    """Return ``bracket`` in its place, its plate cut and its metal known."""
    assembly = place(bracket, line)
    if bracket.kind.cut is not None and bracket.stands:
        assembly = replace(assembly, bracket=bracket.kind.cut(assembly, lengths))
    return replace(assembly, metal=bracket_metal(assembly))


def _clearest(ways: Iterable[Assembly], lengths: LengthFormat) -> Assembly:
    """Return the first way that clears everything round it, else the one whose worst clearance is best; none after it is made."""
    ranked = list[tuple[int, Assembly]]()
    for one in ways:
        ranked.append((_clears(one, lengths), one))
        if ranked[-1][0] == OK:
            break
    return max(ranked, key=lambda way: way[0])[1]


def _clears(assembly: Assembly, lengths: LengthFormat) -> int:
    """Return the rank of the worst clearance that pulling its shape would change."""
    rank = OK
    for finding in clearances(assembly, lengths, turns=False, but=UNSHAPED):
        rank = min(rank, finding.verdict.rank)
        if rank == STOP:
            break
    return rank


def bracket_findings(
    assembly: Assembly, lengths: LengthFormat, turns: bool = True, remedies: bool = True
) -> tuple[Finding, ...]:
    """Return everything that is asked of a bracket: its own questions, metal, joints, and the clearance round it."""
    return LazyFindings(bracket_steps(assembly, lengths, turns, remedies)).every()


def bracket_steps(
    assembly: Assembly, lengths: LengthFormat, turns: bool = True, remedies: bool = True, but: Container[str] = ()
) -> tuple[LazyStep, ...]:
    """Return the same as steps, to be asked when somebody wants to know. ``but``: clearances that need not be asked."""
    bracket = assembly.bracket
    if not bracket.stands:
        return (step("bracket", lambda: (_refusal(bracket),)),)

    def of_metal() -> Iterator[Finding]:
        for finding in metal_findings(assembly, lengths):
            yield with_turn_remedy(assembly, finding) if turns and finding.id == "ligament" else finding

    def of_shims() -> tuple[Finding, ...]:
        return (shim_finding(assembly, lengths),) if bracket.packed and "lug" in bracket.bolted else ()

    steps = (
        step("bracket", lambda: (family_finding(bracket.job, ask) for ask in bracket.asks)),
        step("bracket", lambda: choice_findings(bracket)),
        step("joint", lambda: (axial_finding(assembly, lengths, remedies),)),
        step("joint", lambda: tilt_finding(assembly, lengths, remedies)),
        step("joint", of_shims),
        step("metal", of_metal),
        step("joint metal", lambda: bolt_findings(assembly, lengths, remedies)),
        step("clearance", lambda: clearance_findings(assembly, lengths, turns, but)),
    )
    return tuple(replace(one, ask=partial(_all_of_what_is_there, one.ask, bracket)) for one in steps)


def choice_findings(bracket: Bracket) -> tuple[Finding, ...]:
    """Return what speaks against the bracket's metal and the locking of its bolts."""
    metal = any(part.material == (bracket.job.bracket.material or "") for part in bracket.parts)
    return finding_of("bracket-choices", bracket_conflicts(bracket.job, metal), ("bracket",), OUR_JUDGEMENT)


def _all_of_what_is_there(ask: Callable[[], Iterable[Finding]], bracket: Bracket) -> Iterator[Finding]:
    return (_of_what_is_there(finding, bracket) for finding in ask())


def family_finding(job: Job, ask: FamilyCheck) -> Finding:
    """Return what a bracket asks of itself as a finding."""
    if ask.remark:
        nan = UNKNOWN
        return Finding(ask.id, Verdict.CAUTION, nan, nan, "", ask.why, features=ask.features, source="This version")
    limit = ask.limit if ask.limit is not None else limit_for(job, ask.id)
    return make_finding(
        ask.id, ask.value, limit, ask.why, features=ask.features, remedies=ask.remedies, missing=ask.missing
    )


def _refusal(bracket: Bracket) -> Finding:
    verdict = Verdict.UNKNOWN if bracket.needs else Verdict.STOP
    why = f"{bracket.title}: {bracket.why[:1].lower()}{bracket.why[1:]}"
    return Finding("bracket-suits", verdict, UNKNOWN, UNKNOWN, "", why, source=GEOMETRY)


def _of_what_is_there(finding: Finding, bracket: Bracket) -> Finding:
    """Return ``finding`` without remedies that change what this bracket has not: a plate's thickness, shims at the lugs."""
    gone: tuple[str, ...] = (
        () if bracket.plate is not None or bracket.shape is not None else ("bracket.thickness_mm", "bracket.shims_mm")
    )
    gone = gone if "lug" in bracket.bolted else ("bracket.thickness_mm", "bracket.shims_mm", "knuckle.lugs")
    kept = tuple(r for r in finding.remedies if not any(path in gone for path, _ in r.edits))
    return finding if len(kept) == len(finding.remedies) else replace(finding, remedies=kept)

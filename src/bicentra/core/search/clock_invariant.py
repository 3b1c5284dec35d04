"""One set of parts before the caliper is turned: everything about it that holds at every clock angle, cheap questions first."""

from collections.abc import Iterable

from bicentra.core.base.cache import cached_property
from bicentra.core.base.finding import OK, STOP, Finding, Verdict
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly, place
from bicentra.core.bracket.axial import axial_error, axial_finding, shim_finding
from bicentra.core.bracket.bolt_checks import bolt_findings
from bicentra.core.bracket.families.table import family_of, make
from bicentra.core.bracket.metal_checks import floor_findings
from bicentra.core.bracket.model import Bracket
from bicentra.core.clearance.turning import turning_findings
from bicentra.core.clearance.wheel_room import wheel_room
from bicentra.core.evaluation.bracket_evaluation import bracket_findings, choice_findings, clearest_of, family_finding
from bicentra.core.evaluation.solution import as_said, remarks
from bicentra.core.lineup.more_checks import other_side
from bicentra.core.lineup.solve import LineUp, line_up
from bicentra.core.parts.job import Job


class ClockInvariantSet(Record, frozen=True):
    """A set of parts at its first clock angle. ``ways``: how its bracket may be made there; ``before``: findings of the
    line-up that do not turn, asked already.
    """

    job: Job
    line: LineUp
    ways: tuple[Bracket, ...]
    lengths: LengthFormat
    before: tuple[Finding, ...]

    @property
    def bracket(self) -> Bracket:
        """The plainest of the ways."""
        return self.ways[0]

    @property
    def angle_by_angle(self) -> bool:
        """Whether its bracket has to be made again at every angle: then nothing of it is known before."""
        return self.bracket.kind.cut is None

    @cached_property
    def assembly(self) -> Assembly:
        """Everything placed, once somebody needs it; of several ways to make the bracket the one that is taken."""
        if self.angle_by_angle:
            return clearest_of(self.ways, self.job, self.line, self.lengths)
        return place(self.bracket, self.line if self.bracket.job is self.job else None)

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """Every finding that does not turn with the caliper, as far as it is known before the caliper is turned."""
        return self.before if self.angle_by_angle else tuple(as_said(self.job, self._found()))

    def _found(self) -> tuple[Finding, ...]:
        if not self.bracket.stands:
            return (*self.before, *bracket_findings(self.assembly, self.lengths, turns=False, remedies=False))
        off_centre = axial_error(self.bracket, self.lengths, remedies=False)
        if off_centre.verdict is Verdict.STOP and not self.bracket.asks:  # nothing need be placed to know that
            return (*self.before, off_centre)
        return (*self.before, *_still_findings(self.assembly, self.lengths))


def still_set(job: Job, clock_deg: float, lengths: LengthFormat, before: tuple[Finding, ...] = ()) -> ClockInvariantSet:
    """Return the set of parts in ``job`` at a first clock angle [degrees]."""
    job = replace(job, fit=replace(job.fit, clock_deg=clock_deg))
    line = line_up(job)
    return ClockInvariantSet(job, line, make(family_of(job), job, line, lengths), lengths, before)


def _still_findings(assembly: Assembly, lengths: LengthFormat) -> tuple[Finding, ...]:
    """Return the findings of bracket, bolts and wheel that do not depend on the clock angle, cheap ones first."""
    job, bracket = assembly.job, assembly.bracket
    own = [*choice_findings(bracket), *(family_finding(job, ask) for ask in bracket.asks)]
    found = [
        *(finding for finding in own if not kind_of(finding.id).turns),
        axial_finding(assembly, lengths, remedies=False),
    ]
    if worst_rank(found) == STOP:
        return tuple(found)
    found += [
        *((shim_finding(assembly, lengths),) if bracket.packed else ()),
        *bolt_findings(assembly, lengths, remedies=False),
        *floor_findings(assembly, lengths),
    ]
    if worst_rank(found) > STOP:
        found += turning_findings(assembly, lengths)
    if worst_rank(found) > STOP:
        found.append(wheel_room(assembly, lengths, remedies=False))
    other = other_side(job, lengths)
    return (*found, *remarks(job), *((other,) if other is not None else ()))


def worst_rank(findings: Iterable[Finding]) -> int:
    """Return the rank of the worst verdict, 3 when there is none."""
    return min((finding.verdict.rank for finding in findings), default=OK)

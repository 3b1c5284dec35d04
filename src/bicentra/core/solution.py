"""The whole answer for one job: line-up, packing, plate, bolts and findings, from one call."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.limit import Limit
from bicentra.core.base.registry import PRACTICE, kind_of, place_of
from bicentra.core.base.wording import Words, make_finding, units_of
from bicentra.core.bracket.axial import axial_finding, shim_finding
from bicentra.core.bracket.bolt_checks import bolt_findings
from bicentra.core.bracket.checks import plate_findings
from bicentra.core.bracket.clock_checks import clock_findings, with_turn_remedy
from bicentra.core.bracket.families.common import plate_part
from bicentra.core.bracket.families.model import Candidate, MadePart
from bicentra.core.bracket.families.others import beside, brackets_apart
from bicentra.core.bracket.families.plates import CUT
from bicentra.core.bracket.families.propose import FAMILIES
from bicentra.core.bracket.families.taken import merged, taken_family
from bicentra.core.bracket.flat_plate import Assembly, FlatPlate, assemble, make_plate, without_bracket
from bicentra.core.bracket.travel import travel_findings
from bicentra.core.bracket.turning import turning_findings
from bicentra.core.bracket.wheel_room import wheel_room
from bicentra.core.lineup.checks import line_up_findings
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import unknown_names


@dataclass(frozen=True)
class Solution:
    """Everything that follows from a job. ``spread``: standard uncertainty of figures by name, where a survey gives it.

    ``bracket``: the chosen family, ``None`` for the flat plate, which ``plate`` is; ``beside``: what is made as well.
    """

    job: Job
    assembly: Assembly
    plate: FlatPlate
    findings: tuple[Finding, ...]
    spread: Mapping[str, float] = field(default_factory=dict)
    bracket: Candidate | None = None
    beside: Candidate | None = None

    @property
    def part(self) -> MadePart | None:
        """The plate that is cut, of whatever family; ``None`` where there is none or it is not known yet."""
        if self.bracket is not None:
            return next((part for part in self.bracket.parts if part.outline is not None), None)
        if self.plate.outline is None:
            return None
        return plate_part(self.assembly, self.plate, "adapter plate", CUT)

    @property
    def mass_kg(self) -> float:
        """What the whole bracket weighs [kg]."""
        return self.plate.mass_kg if self.bracket is None else self.bracket.mass_kg

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
        """Whether the plate can be made: it has an outline, and nothing about it stops or is unknown."""
        if self.bracket is not None:
            return self.bracket.suited in (Verdict.OK, Verdict.CAUTION)
        own = [f.verdict for f in self.findings if kind_of(f.id).made]
        return self.plate.outline is not None and not any(v in (Verdict.STOP, Verdict.UNKNOWN) for v in own)

    def finding(self, id: str) -> Finding:
        """Return the finding called ``id``. Raises ``KeyError`` when there is none."""
        for finding in self.findings:
            if finding.id == id:
                return finding
        raise KeyError(id)


def solve(job: Job, turns: bool = True, cures: bool = True) -> Solution:
    """Return the whole answer for ``job``. Nothing raises for a validated job; what is missing comes out unknown.

    Without ``turns`` the remedies that turn the caliper are left out: finding them sweeps the whole circle, which a
    drag need not wait for; without ``cures`` no remedy is looked for at all. Verdicts and figures are the same.
    """
    words = Words(units_of(job.display_units))
    taken = taken_family(job)
    assembly = assemble(job) if taken is None else taken.stands or without_bracket(job)
    plate = make_plate(assembly)
    made = plate_findings(assembly, plate, words)
    findings = (
        *line_up_findings(job, assembly.line, cures),
        axial_finding(assembly, words, cures),
        shim_finding(assembly, words),
        *(with_turn_remedy(assembly, f) if turns and f.id == "ligament" else f for f in made),
        *bolt_findings(assembly, words, cures),
        *clock_findings(assembly, words, turns),
        wheel_room(assembly, words, cures),
        *turning_findings(assembly, words),
        *travel_findings(assembly, words),
        *remarks(job),
    )
    more = beside(job, words)
    own = tuple(_of_what_is_there(finding, assembly, taken) for finding in merged(findings, taken))
    whole = Solution(job, assembly, plate, ranked(own), bracket=taken, beside=more)
    if more is None:
        return whole
    mine = taken.parts if taken is not None else (whole.part,) if whole.part is not None else ()
    found = (*whole.findings, *more.findings, *brackets_apart(whole.assembly, mine, more, words))
    return replace(whole, findings=ranked(found))


def _of_what_is_there(finding: Finding, assembly: Assembly, taken: Candidate | None) -> Finding:
    """Return ``finding`` without remedies that change what this bracket has not: a plate's thickness, shims at the lugs."""
    if taken is None:
        return finding
    gone: tuple[str, ...] = ()
    gone = () if any(part.outline is not None for part in taken.parts) else ("bracket.thickness_mm", "bracket.shims_mm")
    gone = gone if "lug" in assembly.bolted else ("bracket.thickness_mm", "bracket.shims_mm", "knuckle.lugs")
    kept = tuple(r for r in finding.remedies if not any(path in gone for path, _ in r.edits))
    return finding if len(kept) == len(finding.remedies) else replace(finding, remedies=kept)


def ranked(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Return ``findings`` worst first, those of equal verdict in the order they are declared in."""
    return tuple(sorted(findings, key=lambda f: (f.verdict.rank, place_of(f.id))))


def remarks(job: Job) -> tuple[Finding, ...]:
    """Return what the job asks for that this version does not know."""
    remarks = []
    radial = job.caliper.mount == "radial" and job.bracket.family == "flat-plate"
    if radial or job.bracket.family not in FAMILIES:
        why = "A flat plate does not hold a radial-mount caliper: choose the radial mount on the bracket bench."
        if not radial:
            why = f"This version does not know the bracket family “{job.bracket.family[:40]}”; the rest of the line-up still holds."
        nan = float("nan")
        remarks.append(Finding("unsupported", Verdict.UNKNOWN, nan, nan, "", why, source="This version"))
    for name in unknown_names(job):
        finding = make_finding("unused-limit", 1.0, Limit(2.0, 0.0, False, "", PRACTICE),
                               f"The job sets a limit called “{name}”, which nothing reads: check its spelling.")  # fmt: skip
        remarks.append(finding)
    return tuple(remarks)

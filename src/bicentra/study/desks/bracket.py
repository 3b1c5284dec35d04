"""The bracket bench without a screen: every kind of bracket for the open job, the one looked at, and what is said of it."""

from collections.abc import Iterator

from bicentra.core.base.finding import Edit, Verdict
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.thread_checks import thread_holds
from bicentra.core.clearance.access import ways_out
from bicentra.core.drawing.model import Drawing, as_example
from bicentra.core.drawing.views.made import MadeWork, made_view
from bicentra.core.evaluation.bracket_evaluation import BracketEvaluation
from bicentra.core.evaluation.own_bracket import CHOSEN
from bicentra.core.evaluation.parking_adapter import TITLE as BESIDE_TITLE
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.fasteners.joint import usual_grade
from bicentra.core.fasteners.torque import LUBRICATIONS, usual_torque
from bicentra.core.inputs.required_inputs import example_job
from bicentra.core.options import on_the_bench
from bicentra.core.parts.job import Job
from bicentra.core.parts.materials import find_material
from bicentra.core.uncertainty.both_sides import text_of_both
from bicentra.study.desks.shaping import boss_edits, pulled_edges
from bicentra.study.document.study import Study

STATES = tuple(LUBRICATIONS)
"""States of the threads that a torque is given for."""
UNITS = {"_mm": "mm", "_mm2": "mm²", "_deg": "°", "_n": "N", "_nm": "N·m", "_mpa": "N/mm²"}


class BracketDesk:
    """``own``: the bracket the job has. ``options``: every kind, suited ones first, ``own`` among them. ``chosen``: looked at."""

    def __init__(self, study: Study) -> None:
        self.study = study
        self.own: BracketEvaluation | None = None
        self.options: tuple[BracketEvaluation, ...] = ()
        self.chosen: BracketEvaluation | None = None
        self._shown: tuple[Job, object] | None = None
        self._made: tuple[Job, BracketEvaluation, tuple[BracketEvaluation, ...]] | None = None

    @property
    def current(self) -> bool:
        """Whether the proposals are those of the study as it stands, doubted as far as is known."""
        shown = self._shown
        return shown is not None and shown[0] is self.study.job and shown[1] is self.study.assessment

    def refresh(self) -> None:
        """Make every kind of bracket again for the job as it stands; the kind looked at stays the same."""
        job = self.study.job
        self._shown = job, self.study.assessment
        if self._made is None or self._made[0] is not job:
            self._made = (job, *on_the_bench(job))
        _, own, found = self._made
        uncertainty = self.study.uncertainty()
        evaluated = {id(one): uncertainty.of(one) if uncertainty is not None else one for one in (own, *found)}
        self.own, self.options = evaluated[id(own)], tuple(evaluated[id(one)] for one in found)
        wanted = self.chosen.bracket.family if self.chosen is not None else self.own.bracket.family
        self.chosen = next((c for c in self.options if c.bracket.family == wanted), self.options[0])

    def job_changed(self) -> None:
        """Make the job's own bracket again while it is pulled; the others wait until it is let go."""
        before, self._shown = self.own, None
        self.own = self.study.solution.evaluation
        self.options = tuple(self.own if one is before else one for one in self.options)
        if self.chosen is before:
            self.chosen = self.own

    @property
    def best(self) -> BracketEvaluation | None:
        """The first that does not stop and is known."""
        return next((c for c in self.options if c.verdict in (Verdict.OK, Verdict.CAUTION)), None)

    @property
    def shaped(self) -> bool:
        """Whether the one looked at is the job's own and can be shaped where it is drawn."""
        one = self.chosen
        return one is not None and one is self.own and one.bracket.kind.shaping == "by hand"

    @property
    def can_take(self) -> bool:
        """Whether the one looked at can become the job's own."""
        one = self.chosen
        return one is not None and one is not self.own and one.bracket.shown and one.title != BESIDE_TITLE

    @property
    def taking(self) -> str:
        """What taking the one looked at is called."""
        return "" if self.chosen is None else f"Take the {_lower(self.chosen.title)}"

    def take_edits(self) -> tuple[Edit, ...]:
        """Return the edits that take the one looked at; what was chosen for another kind is chosen again."""
        if self.chosen is None:
            return ()
        return (("bracket.family", self.chosen.bracket.family), *((f"bracket.{name}", None) for name in CHOSEN))

    @property
    def own_is_worse(self) -> bool:
        """Whether the job's own bracket says stop and another does not."""
        return self.own is not None and self.own.verdict is Verdict.STOP and self.best not in (None, self.own)

    def next_sentence(self) -> str:
        """Return what to do next with the kinds; empty where the job's own bracket is as good as any."""
        best = self.best
        if best is None:
            return "No kind of bracket fits yet: the findings on the line-up bench say what to measure or change."
        if self.chosen is not None and self.chosen is not self.own and self.chosen.bracket.shown:
            return f"{self.taking}, or look at another kind."
        if self.own_is_worse:
            return f"Your own bracket says stop, “{best.title}” does not: look at it."
        return ""

    def shown_solution(self, solution: Solution) -> Solution:
        """Return ``solution`` as it would be with the one looked at."""
        one = self.chosen
        if one is None or one is self.own or not one.bracket.stands:
            return solution
        return replace(solution, assembly=one.assembly)

    def example_view(self) -> Drawing:
        """Return the outline to come, dashed: what the kind looked at makes of sizes that are only examples."""
        job = example_job(self.study.job)
        return as_example(made_view(solve(job, turns=False, remedies=False).bracket, job.lengths, job.is_left))

    def work(self) -> MadeWork:
        """Return what of the plate can be pulled where it is drawn."""
        solution = self.study.plain_solution
        bracket = solution.job.bracket
        return MadeWork(bracket.cutouts, boss_edits(solution.job), bracket.dowels, pulled_edges(solution))

    def other_side(self) -> str:
        """Return what the other corner of the axle gets; nothing where there is none."""
        return text_of_both(self.study.job)

    def torques(self, state: str) -> Iterator[tuple[str, str]]:
        """Yield each thread with its usual grade, and its torque for threads in ``state``."""
        seen = set()
        for placed in self.shown_solution(self.study.solution).assembly.joints:
            thread = placed.joint.thread
            if thread.name not in seen:
                seen.add(thread.name)
                grade = usual_grade(thread)
                yield f"{thread.name}, {grade.name}", usual_torque(thread, grade, LUBRICATIONS[state]).text

    def against_stripping(self, lengths: LengthFormat) -> tuple[str, ...]:
        """Return for every threaded hole whether the bolt breaks before its thread strips."""
        return tuple(hold.text(lengths) for hold in thread_holds(self.shown_solution(self.study.solution).assembly))

    def behind_the_heads(self) -> tuple[str, ...]:
        """Return for every bolt whether it can be drawn out."""
        return tuple(way.text for way in ways_out(self.shown_solution(self.study.solution).assembly))

    def lock_text(self, state: str) -> str:
        """Return how the bolts are locked, and whether the torque shown is that of their threads."""
        lock = self.study.job.bracket.lock
        if lock == "nothing":
            return "Nothing locks these bolts yet: removable threadlocker with a mark and a re-check is the usual way."
        what = f"a {lock}" if lock.startswith("lock") else lock
        text = f"Locked by {what}; mark each bolt, and check it again after the first drive."
        if "threadlocker" in lock and state != "threadlocker":
            text += (
                f" Wet threadlocker is slippery: the torque shown is for {state} threads, choose threadlocker above."
            )
        return text


def numbers_text(one: BracketEvaluation, lengths: LengthFormat) -> tuple[tuple[str, str], ...]:
    """Return the numbers a bracket is solved to, each with its name."""
    return tuple(_number(name, value, lengths) for name, value in one.bracket.solved.items())


def metals_text(one: BracketEvaluation) -> tuple[str, ...]:
    """Return what is known of the metals a bracket is made of, and where from."""
    found = map(find_material, dict.fromkeys(part.material for part in one.bracket.parts))
    return tuple(material.text for material in found if material is not None)


def _lower(title: str) -> str:
    return f"{title[0].lower()}{title[1:]}"


def _number(name: str, value: float, lengths: LengthFormat) -> tuple[str, str]:
    ending = next((end for end in sorted(UNITS, key=len, reverse=True) if name.endswith(end)), "")
    unit = UNITS.get(ending, "")
    plain = name.removesuffix(ending).replace("_", " ")
    if ending == "_mm" and abs(value) >= 0.1:
        return plain, lengths.size(value)
    shown = f"{value:.3g}" if abs(value) < 1 else f"{value:.2f}".rstrip("0").rstrip(".")
    return plain, shown + (unit if unit == "°" else f" {unit}")

"""Linear propagation: how every finding and figure moves with the readings behind the job.

Covariance of the results = J·C·Jᵀ with J the derivatives by the job's numbers, taken by small differences through the
whole solution with what has been chosen (plate, shims, bolts) held fast (JCGM 100:2008, 5.1 and 5.2, from memory).
"""

import math

import numpy as np

from bicentra.core.base.records import Record, replace
from bicentra.core.bracket.stack_up import StackUp
from bicentra.core.certainty.figures import figure_values
from bicentra.core.certainty.inputs import Inputs
from bicentra.core.parts.edits import get_value, with_value
from bicentra.core.parts.job import Job
from bicentra.core.solution import Solution, solve
from bicentra.core.survey.network import Array

STEP_MM = 1e-3


class Spread(Record, frozen=True):
    """What the readings do to one result: standard uncertainty, and its ``slopes`` (readings,) per reading."""

    sd: float
    slopes: Array


class Propagated(Record, frozen=True):
    """Every finding by its id and every figure by its name. ``names`` and ``leverage`` follow the readings."""

    findings: dict[str, Spread]
    figures: dict[str, Spread]
    names: tuple[str, ...]
    leverage: Array

    def helps_most(self, id: str) -> str:
        """Return the reading which, taken once more, would sharpen the finding ``id`` most; empty when none would."""
        spread = self.findings.get(id)
        if spread is None or not len(spread.slopes) or not np.any(spread.slopes):
            return ""
        return self.names[int(np.argmax(spread.slopes**2 / (1.0 + self.leverage)))]


class Frozen(Record, frozen=True):
    """A job with what was chosen for it written down, and the bracket as it is cut, so that a small change changes no choice."""

    job: Job
    fixed_stack_up: StackUp | None

    def solved(self, path: str = "", step: float = 0.0) -> Solution:
        """Return the job solved, the number at ``path`` moved by ``step`` [unit of that number]."""
        job = with_value(self.job, path, float(get_value(self.job, path)) + step) if path else self.job
        return solve(job, turns=False, remedies=False, fixed_stack_up=self.fixed_stack_up)


def frozen_choices(solution: Solution) -> Frozen:
    """Return the job of ``solution`` with its choices held fast; a bracket on the knuckle's own lugs is held as it is cut."""
    job, assembly = solution.job, solution.assembly
    stack_up, bracket = assembly.stack_up, job.bracket
    fixed_stack_up = None
    if math.isfinite(stack_up.thickness) and all(map(math.isfinite, stack_up.shims)):
        bracket = replace(bracket, thickness_mm=stack_up.thickness, shims_mm=stack_up.shims)
        if "lug" in assembly.bolted and assembly.job.knuckle is job.knuckle:
            fixed_stack_up = stack_up
    for group, field in (("lug", "lug_bolt_length_mm"), ("ear", "caliper_bolt_length_mm")):
        lengths = {p.joint.length for p in solution.assembly.joints if p.at == group}
        if len(lengths) == 1 and math.isfinite(next(iter(lengths))):
            bracket = replace(bracket, **{field: lengths.pop()})
    return Frozen(replace(job, bracket=bracket), fixed_stack_up)


def propagate(solution: Solution, inputs: Inputs) -> Propagated:
    """Return the spread of every finding and figure of ``solution`` under the errors of ``inputs``."""
    frozen = frozen_choices(solution)
    base = frozen.solved()
    ids = [finding.id for finding in base.findings]
    figures = figure_values(base)
    start = np.array([*_values(base, ids), *figures.values()])
    slopes = np.zeros((len(start), len(inputs.paths)))
    for k, path in enumerate(inputs.paths):
        moved = frozen.solved(path, STEP_MM)
        with np.errstate(invalid="ignore"):  # what is endless here and there has no slope
            slopes[:, k] = (np.array([*_values(moved, ids), *figure_values(moved).values()]) - start) / STEP_MM
    by_reading = slopes @ inputs.shares
    spreads = [Spread(_sd(row), row) for row in by_reading]
    return Propagated(
        dict(zip(ids, spreads)),
        dict(zip(figures, spreads[len(ids) :])),
        inputs.names,
        inputs.leverage,
    )


def _sd(row: Array) -> float:
    return float(np.sqrt((row**2).sum())) if np.all(np.isfinite(row)) else math.nan


def _values(solution: Solution, ids: list[str]) -> list[float]:
    found = {finding.id: finding.value for finding in solution.findings}
    return [found.get(id, math.nan) for id in ids]

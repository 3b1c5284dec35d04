"""What rests on a guess: a finding that moves with a guessed dimension is never better than a watch."""

import math

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.records import replace
from bicentra.core.certainty.propagate import frozen_choices
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.fields import field_of, meaning
from bicentra.core.parts.job import Caliper, Job, Rotor, Wheel
from bicentra.core.solution import Solution

STEP_MM, MOVED = 0.01, 1e-6
LABELS = {"rotor": Rotor, "caliper": Caliper, "wheel": Wheel}


def guessed_paths(job: Job) -> tuple[str, ...]:
    """Return the key paths of the job's guessed dimensions that are numbers."""
    parts = [part for part in LABELS if getattr(job, part) is not None]
    paths = [f"{part}.{name}" for part in parts for name in getattr(job, part).guessed]
    return tuple(path for path in paths if isinstance(get_value(job, path), int | float))


def guesses_behind(solution: Solution) -> dict[str, tuple[str, ...]]:
    """Return, for each finding by its id, the guessed dimensions it moves with, in words."""
    paths = guessed_paths(solution.job)
    if not paths:
        return {}
    frozen = frozen_choices(solution)
    before = {f.id: f.value for f in frozen.solved().findings}
    found: dict[str, list[str]] = {}
    for path in paths:
        for finding in frozen.solved(path, STEP_MM).findings:
            old = before.get(finding.id, math.nan)
            if math.isfinite(old) and not abs(finding.value - old) < MOVED:
                found.setdefault(finding.id, []).append(label_of(path))
    return {id: tuple(names) for id, names in found.items()}


def label_of(path: str) -> str:
    """Return what a dimension is called: ``rotor's overall height``."""
    part, name = path.split(".")
    label = meaning(field_of(LABELS[part], name)).label
    return f"{part}'s {label[0].lower()}{label[1:]}"


def on_a_guess(finding: Finding, names: tuple[str, ...]) -> Finding:
    """Return ``finding`` held down to a watch, told which guesses it rests on."""
    if not names or finding.verdict in (Verdict.STOP, Verdict.UNKNOWN):
        return finding
    text = f"{finding.why} It rests on a guess ({', '.join(names)}): measure it before metal is cut."
    assumed = (*finding.assumed, *(f"{n} is guessed" for n in names))
    return replace(finding, verdict=Verdict.CAUTION, why=text, assumed=assumed, by_play=False, guesses=names)

"""What is to be doubted of a finding: its uncertainty, the play of the bolts, what rests on a guess; and all of it in
one statement.
"""

import math

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import chance_met, percent
from bicentra.core.base.records import replace
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.evaluation.solution import Solution
from bicentra.core.lineup.checks import line_up_findings
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.edits import get_value, with_value
from bicentra.core.parts.fields import field_of, meaning
from bicentra.core.parts.job import Caliper, Job, Rotor, Wheel
from bicentra.core.uncertainty.propagate import Propagated, frozen_choices


def radial_play(job: Job, assembly: Assembly) -> float:
    """Return how far the caliper can be pushed either way [mm]: the play of the lug bolts and of the ear bolts added.

    A bolt of major diameter d in a plain hole of diameter D leaves (D − d)/2, a slot half its travel until it is dowelled; a
    threaded hole leaves none.
    """
    bracket, total = job.bracket, 0.0
    for group in assembly.bolted:
        holes = [hole for hole in assembly.holes if hole.at == group]
        if not holes or any(hole.thread is None for hole in holes):
            return math.nan
        major = [hole.thread.major if hole.thread is not None else math.nan for hole in holes]
        plate = min((h.diameter - d) / 2 if h.kind != "tapped" else 0.0 for h, d in zip(holes, major))
        if group == "lug":
            plain = [(lug.hole_mm, d) for lug, d in zip(job.knuckle.lugs, major) if not lug.thread]
            bores = [(math.nan if size is None else size) - d for size, d in plain]
        else:
            own = job.caliper.ear_hole_mm
            bores = [] if job.caliper.ear_thread else [(math.nan if own is None else own) - major[0]]
        behind = max(min(bores) / 2, 0.0) if bores else 0.0
        slots = min((h.slot for h in holes), default=0.0) / 2 if len(bracket.dowels) < 2 else 0.0
        pinned = group == "lug" and len(bracket.dowels) >= 2  # dowels place it on its lugs, whatever the bolts allow
        total += 0.0 if pinned else plate + behind + slots
    return total


def past_by_play(finding: Finding, band: tuple[float, float] | None) -> bool:
    """Tell whether what is OK can be pushed past its limit by play, within its ``band`` [its unit]."""
    if band is None or finding.verdict is not Verdict.OK:
        return False
    return band[0] < finding.limit if finding.at_least else band[1] > finding.limit


def play_bands(job: Job, assembly: Assembly) -> dict[str, tuple[float, float]]:
    """Return the lowest and highest value play allows [its unit] of each finding that moves with the caliper's radius."""
    play, inset = radial_play(job, assembly), job.fit.pad_inset_mm
    if not math.isfinite(play) or play <= 0 or inset is None:
        return {}
    rows: dict[str, list[float]] = {}
    for way in (-play, play):
        pushed = with_value(job, "fit.pad_inset_mm", inset + way)
        found: tuple[Finding, ...] = line_up_findings(pushed, line_up(pushed), remedies=False)
        for finding in found:
            if kind_of(finding.id).pushed and math.isfinite(finding.value):
                rows.setdefault(finding.id, []).append(finding.value)
    return {id: (min(values), max(values)) for id, values in rows.items() if len(values) == 2}


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
    """Return ``finding`` held down to a caution, told which guesses it rests on."""
    if not names or finding.verdict in (Verdict.STOP, Verdict.UNKNOWN):
        return finding
    text = f"{finding.why} It rests on a guess ({', '.join(names)}): measure it before metal is cut."
    assumed = (*finding.assumed, *(f"{n} is guessed" for n in names))
    return replace(finding, verdict=Verdict.CAUTION, why=text, assumed=assumed, by_play=False, guesses=names)


ENOUGH = 0.95
"""Chance below which a met finding is met only by luck."""
TYPED = "typed sizes are taken as exact"
COVERAGE, NOTHING = 1.96, 5e-4
"""Standard uncertainties for 95 %, and the one below which a finding counts as untouched by the readings."""


def doubted(
    finding: Finding,
    propagated: Propagated | None,
    band: tuple[float, float] | None,
    guesses: tuple[str, ...],
    lengths: LengthFormat,
) -> Finding:
    """Return ``finding`` with all that is to be doubted of it: its uncertainty, its ``band`` [its unit], what is guessed."""
    return on_a_guess(_with_certainty(finding, propagated, band, lengths), guesses)


def without_survey(solution: Solution) -> tuple[Finding, ...]:
    """Return the findings of ``solution`` with all that is to be doubted without asking a survey: play and guesses."""
    bands, guesses, lengths = (
        play_bands(solution.job, solution.assembly),
        guesses_behind(solution),
        solution.job.lengths,
    )
    return tuple(doubted(f, None, bands.get(f.id), guesses.get(f.id, ()), lengths) for f in solution.findings)


def _with_certainty(
    finding: Finding, propagated: Propagated | None, band: tuple[float, float] | None, lengths: LengthFormat
) -> Finding:
    """Return ``finding`` with uncertainty, chance and band; one that is OK by luck alone becomes a caution and says
    what helps.
    """
    finding = replace(finding, band=band)
    spread = propagated.findings.get(finding.id) if propagated is not None else None
    if spread is None or propagated is None or not math.isfinite(spread.sd) or spread.sd < NOTHING:
        return stated(_pushed(finding, lengths), lengths)
    chance = math.nan
    if not kind_of(finding.id).worst_of:
        chance = chance_met(finding.value, spread.sd, finding.limit, finding.at_least, kind_of(finding.id).unsigned)
    finding = replace(finding, sd=spread.sd, probability=chance, assumed=(*finding.assumed, TYPED))
    if finding.verdict is Verdict.OK and chance < ENOUGH:
        helps = propagated.helps_most(finding.id)
        why = f"{finding.why} Only {percent(chance)} chance of being OK. Take this reading once more, it helps most: {helps}."
        finding = replace(finding, verdict=Verdict.CAUTION, why=why)
    return stated(_pushed(finding, lengths), lengths)


def _pushed(finding: Finding, lengths: LengthFormat) -> Finding:
    """Return ``finding``, a caution where play in the bolt holes can push what is OK past its stop."""
    if finding.band is None or finding.verdict is not Verdict.OK:
        return finding
    if not past_by_play(finding, finding.band):
        return finding
    low, high = finding.band
    end = _shown(low if finding.at_least else high, finding.unit, lengths)
    why = f"{finding.why} Play in the bolt holes can push it to {end}, past its limit: hold the parts in place while the bolts are "
    why += "tightened, measure again after, or drill the holes close."
    return replace(finding, verdict=Verdict.CAUTION, why=why, by_play=True)


def stated(finding: Finding, lengths: LengthFormat) -> Finding:
    """Return ``finding`` with its statement [its unit]."""
    return replace(finding, statement=statement(finding, lengths))


def statement(finding: Finding, lengths: LengthFormat) -> str:
    """Return value, uncertainty, limit, chance and play in one sentence; empty when there is nothing to say.

    For example “2.31 mm ± 0.12 mm (95 %), limit 1.80 mm: 99.9 % chance of being OK.”
    """
    text = []
    if math.isfinite(finding.sd) and math.isfinite(finding.value):
        value = f"{_shown(finding.value, finding.unit, lengths)} ± {_shown(COVERAGE * finding.sd, finding.unit, lengths)} (95 %)"
        limit = f", limit {_shown(finding.limit, finding.unit, lengths)}" if math.isfinite(finding.limit) else ""
        chance = f": {percent(finding.probability)} chance of being OK" if math.isfinite(finding.probability) else ""
        text.append(f"{value}{limit}{chance}.")
    if finding.band is not None:
        low, high = (_shown(value, finding.unit, lengths) for value in finding.band)
        text.append(f"Play in the bolt holes lets it be pushed from {low} to {high}.")
    return " ".join(text)


def _shown(value: float, unit: str, lengths: LengthFormat) -> str:
    if unit == "mm":
        return ("−" if value < -5e-3 else "") + lengths.gap(value)
    return f"{value:.2f}{unit}" if unit == "°" else f"{value:.2f} {unit}".rstrip()

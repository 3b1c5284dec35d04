"""What is to be doubted of a finding: its uncertainty, the play of the bolts, what is guessed; and all of it in one sentence."""

import math

from bicentra.core.base.chance import chance_met, percent
from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.records import replace
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.certainty.guesses import guesses_behind, on_a_guess
from bicentra.core.certainty.play import past_by_play, play_bands
from bicentra.core.certainty.propagate import Propagated
from bicentra.core.solution import Solution

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
    """Return the findings of ``solution`` with all that is to be doubted without asking a survey: play and guesses [no unit]."""
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
    """Return ``finding``, a watch where play in the bolt holes can push what is met past its stop."""
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

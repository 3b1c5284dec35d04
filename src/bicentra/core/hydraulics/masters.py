"""Master cylinders against this vehicle: pressure, travel, margin of stroke, foot force; keeping the one that is fitted counts."""

from collections.abc import Iterable

from bicentra.core.base.finding import Verdict, judge, worst
from bicentra.core.base.limit import Limit
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.hydraulics.chain import Chain
from bicentra.core.hydraulics.travel import travel_at
from bicentra.core.parts.master_cylinder import MasterCylinder

STROKE = Limit(
    0.75, 0.6, at_least=False, unit="of the stroke", source="Common practice: a third of the stroke in hand when cold"
)
FOOT = Limit(
    500.0, 350.0, at_least=False, unit="N", source="UN R13-H Annex 3: 6.43 m/s2 within 500 N at the pedal, from memory"
)
WORK_G = 0.6
TYPE_G = 6.43 / 9.80665
"""Deceleration at which feel is compared [g] (common practice), and that of type approval's first test (UN R13-H, from memory)."""
MOST_SOFT = 3.0
"""A stop takes about so much more fluid than bringing the pads to bite, where nobody states the compliance: common practice."""


class Ranked(Record, frozen=True):
    """One master: line pressure [MPa] and travel at the pad [mm] at 0.6 g, foot force there [N] and at 6.43 m/s2, share of its
    stroke [no unit]; ``own``: it is the one that is fitted. ``why``: what decides, in words.
    """

    name: str
    bore: float
    line: float
    travel: float
    foot: float
    foot_at_test: float
    share: float
    verdict: Verdict
    why: str
    own: bool = False


def rank(chain: Chain, shelf: Iterable[MasterCylinder]) -> tuple[Ranked, ...]:
    """Return the fitted master and those on the shelf, best first: verdict, then the pedal that moves least from 60 mm."""
    found = [_ranked(chain, chain.master.name or "as fitted", own=True)]
    for one in shelf:
        master = replace(
            chain.master,
            name=one.name,
            bore_mm=one.bore_mm,
            stroke_mm=one.stroke_mm,
            kind=kind_of_master(one),
            rear_bore_mm=None,
        )
        found.append(_of_circuits(_ranked(replace(chain, master=master), one.name, own=False), one.circuits))
    return tuple(
        sorted(found, key=lambda one: (-one.verdict.rank, abs(one.travel - 60.0) if is_known(one.travel) else 1e9))
    )


def kind_of_master(one: MasterCylinder) -> str:
    """Return which kind of master a part is: single of one circuit, tandem of two, or where nobody said."""
    return "single" if one.circuits == 1 else "tandem"


def _of_circuits(ranked: Ranked, circuits: int | None) -> Ranked:
    """Return ``ranked`` judged by its circuits too: one alone is never met, and one that nobody counted is not known."""
    if circuits == 2:
        return ranked
    if circuits == 1:
        why = f"{ranked.why} One circuit alone: a leak anywhere leaves no brake."
        return replace(ranked, verdict=worst((ranked.verdict, Verdict.STOP)), why=why)
    why = f"{ranked.why} How many circuits it has is not said."
    return replace(ranked, verdict=worst((ranked.verdict, Verdict.UNKNOWN)), why=why)


def _ranked(chain: Chain, name: str, own: bool) -> Ranked:
    foot, hard = chain.foot_for(WORK_G), chain.foot_for(TYPE_G)
    at = travel_at(chain, foot) if is_known(foot) else travel_at(chain)
    soft = 1.0 if chain.compliance else MOST_SOFT
    share, travel = at.share * soft, at.pedal + (soft - 1.0) * at.stroke * chain.ratio
    said: tuple[Verdict, ...] = (judge(share, STROKE), judge(hard, FOOT))
    line = chain.lines(foot)[0] if is_known(foot) else UNKNOWN
    why = _why(share, hard)
    if chain.guesses and worst(said) is Verdict.OK:
        said, why = (*said, Verdict.CAUTION), f"{why} With the {' and the '.join(chain.guesses)}."
    return Ranked(name, known(chain.master.bore_mm), line, travel, foot, hard, share, worst(said), why, own)


def _why(share: float, foot: float) -> str:
    if not is_known(share, foot):
        return "Not known: the chain or the master's stroke is missing."
    told = f"{share * 100:.0f} % of its stroke at {WORK_G:g} g, {foot:.0f} N at 6.43 m/s2"
    if judge(share, STROKE) is Verdict.STOP:
        return f"{told}: the pedal sinks, the pistons take more than it gives."
    if judge(foot, FOOT) is Verdict.STOP:
        return f"{told}: too hard a pedal."
    return f"{told}."

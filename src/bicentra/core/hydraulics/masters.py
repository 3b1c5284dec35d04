"""Master cylinders against this vehicle: pressure, travel, margin of stroke, foot force; keeping the one that is fitted
counts.
"""

import math
from collections.abc import Iterable

from bicentra.core.base.finding import Verdict, judge, worst
from bicentra.core.base.limit import Limit
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.hydraulics.chain import Chain
from bicentra.core.hydraulics.fluid_displacement import GIVES, HOT_PARTS
from bicentra.core.hydraulics.stages import WORK_G, stage
from bicentra.core.hydraulics.travel import travel_at
from bicentra.core.parts.master_cylinder import MasterCylinder
from bicentra.core.parts.threads import same_thread

STROKE = Limit(
    0.75,
    0.6,
    at_least=False,
    unit="of the stroke",
    source="Common practice: a quarter of the stroke in hand at the worst",
)
FOOT = Limit(
    500.0, 350.0, at_least=False, unit="N", source="UN R13-H Annex 3: 6.43 m/s2 within 500 N at the pedal, from memory"
)
TYPE_G = 6.43 / 9.80665
"""Deceleration of type approval's first test [g]: UN R13-H, from memory."""
MOST_SOFT, USUAL_MM = 3.0, 60.0
"""A stop takes at least so much of the pistons' way back while nobody states what gives way, and a usual pedal's travel [mm]:
common practice, no source."""


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


def rank(chain: Chain, masters: Iterable[MasterCylinder], then: Chain | None = None) -> tuple[Ranked, ...]:
    """Return the fitted master and those on the shelf, best first: verdict, then the pedal that feels most as it was.

    ``then``: the chain as it was before. A longer travel and a harder pedal count alike, each as the logarithm of its
    ratio: else a large master that hardly moves would come first. Where nobody wrote it down the pedal that moves least
    from 60 mm comes first.
    """
    found = [fitted(chain)]
    for one in masters:
        master = replace(
            chain.master,
            name=one.name,
            bore_mm=one.bore_mm,
            stroke_mm=one.stroke_mm,
            kind=kind_of_master(one),
            rear_bore_mm=None,
        )
        ranked = _of_circuits(_ranked(replace(chain, master=master), one.name, own=False), one.circuits)
        found.append(replace(ranked, why=f"{ranked.why}{_ports(one.outlet_thread, chain.master.outlet_thread)}"))
    feel = feel_of(then) if then is not None else None
    text = [_beside(one, feel, chain.lengths) for one in found]
    return tuple(sorted(text, key=lambda one: (-one.verdict.rank, _strange(one, feel))))


def fitted(chain: Chain) -> Ranked:
    """Return the master that is fitted, judged by itself [no unit]."""
    return _ranked(chain, chain.master.name or "as fitted", own=True)


def _strange(one: Ranked, feel: tuple[float, float] | None) -> float:
    """Return how far a pedal's feel is from what it was [no unit], or its travel from a usual one [mm]; infinite where
    unknown.
    """
    if not is_known(one.travel) or (feel is not None and not (is_known(one.foot) and one.travel > 0 and one.foot > 0)):
        return math.inf
    if feel is None:
        return abs(one.travel - USUAL_MM)
    return abs(math.log(one.travel / feel[0])) + abs(math.log(one.foot / feel[1]))


def feel_of(chain: Chain) -> tuple[float, float] | None:
    """Return travel at the pad [mm] and foot force [N] at 0.6 g; ``None`` where they are unknown."""
    one = _ranked(chain, "", own=True)
    return (one.travel, one.foot) if is_known(one.travel, one.foot) and one.travel > 0.0 and one.foot > 0.0 else None


def _beside(one: Ranked, feel: tuple[float, float] | None, lengths: LengthFormat) -> Ranked:
    """Return ``one`` with its feel at 0.6 g beside how the pedal was."""
    if feel is None or not is_known(one.travel, one.foot):
        return one
    now, was = (
        f"{lengths.size(round(travel))} and {lengths.force(foot)}" for travel, foot in ((one.travel, one.foot), feel)
    )
    text = f"{now} at {WORK_G:g} g, before {was}."
    return replace(one, why=f"{one.why} {text}")


def kind_of_master(one: MasterCylinder) -> str:
    """Return which kind of master a part is: single of one circuit, tandem of two, or where nobody said."""
    return "single" if one.circuits == 1 else "tandem"


def _ports(its: str | None, lines: str | None) -> str:
    """Return what its outlets want of the lines that are there, as one more sentence; nothing where they are alike."""
    if lines is None:
        return ""
    if its is None:
        return f" Outlet thread not stated, the lines' is {lines}."
    return (
        "" if same_thread(its, lines) else f" Outlets {its}, the lines' {lines}: adapters, or new flares on the lines."
    )


def _of_circuits(ranked: Ranked, circuits: int | None) -> Ranked:
    """Return ``ranked`` judged by its circuits too: one alone is never met, and one that nobody counted is unknown."""
    if circuits == 2:
        return ranked
    if circuits == 1:
        why = f"{ranked.why} One circuit alone: a leak anywhere leaves no brake."
        return replace(ranked, verdict=worst((ranked.verdict, Verdict.STOP)), why=why)
    why = f"{ranked.why} How many circuits it has is not said."
    return replace(ranked, verdict=worst((ranked.verdict, Verdict.UNKNOWN)), why=why)


def _ranked(chain: Chain, name: str, own: bool) -> Ranked:
    foot, hard = chain.foot_for(WORK_G), chain.foot_for(TYPE_G)
    worst_of = stage(chain, "", foot, hot=True, worn=True)
    cold = worst_of.without(HOT_PARTS, chain)
    share = worst_of.travel.share
    if set(GIVES) & set(worst_of.usual) and is_known(share):
        share = max(share, MOST_SOFT * travel_at(chain).share)
    said: tuple[Verdict, ...] = (judge(share, STROKE), judge(hard, FOOT))
    line = chain.lines(foot)[0] if is_known(foot) else UNKNOWN
    why = _why((cold.share, share), hard, chain.lengths)
    if chain.guesses and worst(said) is Verdict.OK:
        said, why = (*said, Verdict.CAUTION), f"{why} With the {' and the '.join(chain.guesses)}."
    return Ranked(name, known(chain.master.bore_mm), line, cold.pedal, foot, hard, share, worst(said), why, own)


def _why(shares: tuple[float, float], foot: float, lengths: LengthFormat) -> str:
    cold, share = shares
    if not is_known(share, foot):
        return "Unknown: the chain or the master's stroke is missing."
    text = f"{share * 100:.0f} % of its stroke at {WORK_G:g} g, hot and worn ({cold * 100:.0f} % cold), "
    text += f"{lengths.force(foot)} at 6.43 m/s2"
    if judge(share, STROKE) is Verdict.STOP:
        return f"{text}: the pedal sinks, the pistons take more than it gives."
    if judge(foot, FOOT) is Verdict.STOP:
        return f"{text}: too hard a pedal."
    return f"{text}."

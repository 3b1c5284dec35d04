"""Master cylinders against this vehicle, and what has to be reworked when master and brakes change."""

import math
from collections.abc import Iterable

from bicentra.core.base.finding import Verdict, judge, worst
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import Limit
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.hydraulics.chain import Chain
from bicentra.core.hydraulics.ends import areas_of
from bicentra.core.hydraulics.travel import GIVES, HOT_PARTS, WORK_G, stage, travel_at
from bicentra.core.parts.brakes import MasterCylinder
from bicentra.core.parts.threads import same_thread
from bicentra.core.parts.vehicle import AXLES, Axle, Master, Vehicle

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
    stroke; ``own``: it is the one that is fitted. ``why``: what decides, in words.
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
    """Return the fitted master and those on the library, best first: verdict, then the pedal that feels most as it was.

    ``then``: the chain as it was before. A longer travel and a harder pedal count alike, each as the logarithm of its
    ratio: else a large master that hardly moves would come first. Where nobody wrote it down the pedal that moves least
    from 60 mm comes first.
    """
    found = [fitted_master(chain)]
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


def fitted_master(chain: Chain) -> Ranked:
    """Return the master that is fitted, judged by itself."""
    return _ranked(chain, chain.master.name or "as fitted", own=True)


def _strange(one: Ranked, feel: tuple[float, float] | None) -> float:
    """Return how far a pedal's feel is from what it was, or its travel from a usual one [mm]; infinite where
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
    """Return ``ranked`` judged by its circuits too: one alone is never OK, and one that nobody counted is unknown."""
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


CHAMBERS = ("by the rod", "far from the rod")


def rework_list(vehicle: Vehicle) -> tuple[str, ...]:
    """Return what has to be made or looked at, a sentence each; what nobody said is asked for, never passed over."""
    chassis, found = vehicle.vehicle, list[str]()
    old, new = chassis.before.master, chassis.master
    if old is not None:
        found += _outlets(old, new)
        found += _body(old, new, LengthFormat(units_of(vehicle.display_units)))
    if new.kind in ("tandem", "stepped") and new.front_from is None:
        found.append(
            "Which chamber feeds the front is not stated: follow the lines before any is loosened, and write it down."
        )
    found += [text for name in AXLES for text in _end(vehicle, name)]
    if chassis.valve.kind not in ("none", "gutted"):
        found.append("The valve stands in the rear line: IN from the master, OUT to the rear; never turned round.")
    found.append(
        "The stop-lamp switch sits in either line ahead of a valve: its thread has to be that of the port it goes into."
    )
    return tuple(found)


def _outlets(old: Master, new: Master) -> list[str]:
    if old.outlet_thread is None or new.outlet_thread is None:
        which = " and ".join(word for word, one in (("old", old), ("new", new)) if one.outlet_thread is None)
        return [f"The outlet thread of the {which} master is not stated: lines or adapters are unknown."]
    if same_thread(old.outlet_thread, new.outlet_thread):
        return [f"Outlets stay {new.outlet_thread}: the lines' nuts fit; look that their flare is the same."]
    return [f"Outlets change from {old.outlet_thread} to {new.outlet_thread}: adapters, or new flares with other nuts."]


def _body(old: Master, new: Master, lengths: LengthFormat) -> list[str]:
    found = []
    if old.kind != new.kind:
        found.append(f"A {new.kind} master in place of a {old.kind} one: lines, reservoir and switch are others.")
    sizes = known(old.stroke_mm), known(new.stroke_mm)
    if is_known(*sizes) and sizes[1] > sizes[0]:
        found.append(
            f"It strokes {lengths.size(round(sizes[1] - sizes[0], 1))} further: the pedal needs that way before its stop."
        )
    return found


def _end(vehicle: Vehicle, name: str) -> list[str]:
    """Return what one end asks of reservoir and lines."""
    axle = vehicle.axles.get(name)
    if axle is None or axle.drum is not None:
        return []
    found = []
    _, every = areas_of(axle.caliper)
    worn = known(axle.pad.thickness_mm) - known(axle.pad.min_thickness_mm)
    if is_known(every, worn) and worn > 0.0:
        cm3 = 2 * every * worn / 1e3
        found.append(f"The reservoir has to hold {cm3:.0f} cm3 for the {name} pads to wear down, that circuit alone.")
    else:
        found.append(
            f"How much the reservoir loses to worn {name} pads is unknown: pistons, pad thickness new and worn."
        )
    if _had_drums(axle):
        found.append(
            f"Hoses in the {name} were for drums: the caliper's port wants its own, looked at over lock and droop."
        )
    return found


def _had_drums(axle: Axle) -> bool:
    return axle.before is not None and axle.before.drum is not None

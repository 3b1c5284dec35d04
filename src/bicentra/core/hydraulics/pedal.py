"""The pedal of a vehicle worked out: as it is and as it was, what locks, what each lever did, which master suits."""

import math
from collections.abc import Iterable, Mapping

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import LIMITS, PRACTICE
from bicentra.core.base.wording import LengthFormat, make_finding, units_of
from bicentra.core.hydraulics.balance import GRIPS, ORDER, Leading, Locking, knee_for, locking, rear_leads
from bicentra.core.hydraulics.before import chains, levers, whole_before
from bicentra.core.hydraulics.chain import Chain, PedalState, chain_of
from bicentra.core.hydraulics.ends import REAR_FIRST, WEAK
from bicentra.core.hydraulics.masters import TYPE_G, Ranked, fitted_master, rank
from bicentra.core.hydraulics.misconceptions import unsafe_remedies
from bicentra.core.hydraulics.missing import missing_text
from bicentra.core.hydraulics.safety import safety_findings
from bicentra.core.hydraulics.travel import OneCircuit, Travel, one_circuit, travel_at
from bicentra.core.parts.brakes import MasterCylinder
from bicentra.core.parts.vehicle import AXLES, Vehicle

FOOT_N, SLOPE = 500.0, 0.3
"""Foot force told where nobody asks for another [N]: type approval's (UN R13-H, from memory); slope of a usual valve."""
RESIDUAL_BAR = {"drum": 0.7, "disc": 0.14}
"""Pressure that a residual valve keeps in the line [bar]: rule of thumb of one shop."""


class PedalWork(Record, frozen=True, eq=False):
    """Everything about the pedal at one foot force. ``before``: the same as it was, where somebody wrote it down."""

    chain: Chain
    now: PedalState
    travel: Travel
    locks: tuple[Locking, ...]
    before: PedalState | None
    before_travel: Travel | None
    levers: Mapping[str, float] | None
    masters: tuple[Ranked, ...]
    circuits: tuple[OneCircuit, OneCircuit]
    leading: Leading | None
    knee: float
    findings: tuple[Finding, ...]


def pedal_work(vehicle: Vehicle, masters: Iterable[MasterCylinder] = (), foot: float = FOOT_N) -> PedalWork:
    """Return the pedal of ``vehicle`` at a ``foot`` force [N], with the masters on the ``masters`` ranked."""
    now, then = chains(vehicle)
    leading = rear_leads(now)
    bad = leading is not None and leading.low < ORDER[1] and leading.high > ORDER[0]
    knee = _knee(vehicle, now) if bad else UNKNOWN
    feel = then if whole_before(vehicle) else None
    weakest = chain_of(vehicle, guess=WEAK) if now.guesses else now
    ranked = rank(weakest, masters, feel)
    grips = sorted({*GRIPS, now.body.grip}) if is_known(now.body.grip) else GRIPS
    return PedalWork(
        now, now.at(foot), travel_at(now), tuple(locking(now, grip) for grip in grips),
        then.at(foot) if then is not None else None, travel_at(then) if then is not None else None,
        levers(now, then) if then is not None else None, ranked, one_circuit(now, foot), leading, knee,
        _findings(vehicle, now, knee),
    )  # fmt: skip


def _banded(vehicle: Vehicle, laden: bool = False) -> list[tuple[str, Chain]]:
    """The chain with cold and with hot pads, for each of these that somebody stated, and at the worse end of what is guessed."""
    pads = [axle.pad for axle in vehicle.axles.values() if axle.drum is None]
    stated = {"cold": any(pad.mu_cold is not None for pad in pads), "hot": any(pad.mu_hot is not None for pad in pads)}
    found = [(f"with {mu} pads", chain_of(vehicle, mu, laden, REAR_FIRST)) for mu, there in stated.items() if there]
    if chain_of(vehicle).guesses:
        found.append(("at the worse end of what is guessed", chain_of(vehicle, laden=laden, guess=REAR_FIRST)))
    return found


def _knee(vehicle: Vehicle, chain: Chain) -> float:
    """Return the knee [bar] that holds with working, cold and hot pads alike; unknown where there is none for all of them."""
    found = [
        knee_for(one, SLOPE) for one in (chain, *(one for _, one in _banded(vehicle))) if rear_leads(one, ORDER[1])
    ]
    return min(found) if found and is_known(*found) else UNKNOWN


def knee_text(knee: float) -> float:
    """Return a knee [bar, 0.1 N/mm2] as it is reported and set: whole bars, never more than was worked out."""
    return float(math.floor(knee)) if is_known(knee) else knee


def pedal_findings(vehicle: Vehicle) -> tuple[Finding, ...]:
    """Return what is asked of the pedal of ``vehicle``; nothing while nobody has said what it weighs or what its master is."""
    chassis = vehicle.vehicle
    if chassis.mass_kg is None and chassis.master.bore_mm is None:
        return ()
    return _findings(vehicle, chain_of(vehicle), UNKNOWN)


def _findings(vehicle: Vehicle, chain: Chain, knee: float) -> tuple[Finding, ...]:
    loads = [("empty", chain)]
    band = [(f"empty {text}", one) for text, one in _banded(vehicle)]
    if vehicle.vehicle.laden_kg is not None:
        loads.append(("laden", chain_of(vehicle, laden=True)))
        band += [(f"laden {text}", one) for text, one in _banded(vehicle, laden=True)]
    own = fitted_master(chain_of(vehicle, guess=WEAK) if chain.guesses else chain)
    lacks = missing_text(vehicle)
    order = _metered(_fading(_order(loads, band, knee, lacks), vehicle), vehicle)
    rests = (_on_a_guess(finding, chain.guesses) for finding in (order, *_master(own, chain.lengths, lacks)))
    found = (
        *rests,
        *safety_findings(vehicle, chain),
        *_residual(vehicle),
        *unsafe_remedies(vehicle),
        _baseline(vehicle),
    )
    return tuple(sorted(found, key=lambda finding: finding.verdict.rank))


def _fading(finding: Finding, vehicle: Vehicle) -> Finding:
    """Return the order of locking, a caution where it is met and nobody stated the front pads' friction when hot."""
    front = vehicle.axles.get("front")
    if finding.verdict is not Verdict.OK or front is None or front.drum is not None or front.pad.mu_hot is not None:
        return finding
    why = f"{finding.why} Hot friction of the front pads is not stated: pads that fade turn it round. State it, it counts then."
    return replace(finding, verdict=Verdict.CAUTION, why=why)


def _metered(finding: Finding, vehicle: Vehicle) -> Finding:
    """Return the order of locking, a caution where it is met and a metering valve is there, whose hold on the front is
    not in it.
    """
    if finding.verdict is not Verdict.OK or vehicle.vehicle.valve.kind != "metering":
        return finding
    why = f"{finding.why} The metering valve holds the front off at light braking; by how much is not in it: try it on a wet yard."
    return replace(finding, verdict=Verdict.CAUTION, why=why)


def _on_a_guess(finding: Finding, guesses: tuple[str, ...]) -> Finding:
    """Return ``finding`` held down to a caution where it is met with numbers that are guesses, which it names."""
    if not guesses or finding.verdict is not Verdict.OK:
        return finding
    why = f"{finding.why} It rests on the {' and the '.join(guesses)}: measure that, then it counts."
    return replace(finding, verdict=Verdict.CAUTION, why=why)


def _where(loads: list[tuple[str, Chain]]) -> list[str]:
    """Where the rear leads between the decelerations at which it may not, in words."""
    bad = list[str]()
    for name, chain in loads:
        leading = rear_leads(chain, ORDER[1])
        if leading is not None and leading.high > ORDER[0]:
            bad.append(f"{name} from {max(leading.low, ORDER[0]):.2f} to {leading.high:.2f} g")
    return bad


def _order(loads: list[tuple[str, Chain]], band: list[tuple[str, Chain]], knee: float, lacks: str) -> Finding:
    """Whether the front locks first from 0.15 to 0.8 g, empty and laden; a caution where cold or hot pads (``band``) turn it."""
    source = "UN R13-H Annex 5, from memory: it replaces no inspection"
    known = all(is_known(chain.foot_for(0.5), *chain.body.loads(0.5)) for _, chain in loads)
    bad = _where(loads)
    if bad:
        why = f"The rear uses more grip than the front, {' and '.join(bad)}: it locks first, and the vehicle spins. "
        why += (
            f"A valve with its knee at {loads[0][1].lengths.pressure(knee_text(knee))}, slope {SLOPE:g}, would fix it; "
            "above it the rear brakes less. "
            if is_known(knee)
            else "No valve of that slope fixes it for cold and hot pads alike: take rear bore, radius or pad back. "
        )
        why += "A valve hides nothing: have the balance checked by someone qualified."
        return Finding(
            "pedal-order", Verdict.STOP, 1.0, 0.0, "", why, features=("balance",), source=source, at_least=False
        )
    if not known:
        why = f"Still unknown: {lacks or 'with these numbers the brakes never reach half of g, look them through'}."
        return Finding(
            "pedal-order", Verdict.UNKNOWN, UNKNOWN, 0.0, "", why, features=("balance",), source=source, at_least=False
        )
    uncertain = _where(band)
    if uncertain:
        why = f"With working pads and usual sizes the front locks first; {' and '.join(uncertain)} the rear does. "
        why += "Measure what is guessed; choose pads whose friction falls less, or take rear bore, radius or pad back."
        return Finding(
            "pedal-order", Verdict.CAUTION, 1.0, 0.0, "", why, features=("balance",), source=source, at_least=False
        )
    why = "The front uses more grip than the rear from 0.15 to 0.8 g, as far as these numbers go."
    return Finding("pedal-order", Verdict.OK, 0.0, 0.0, "", why, features=("balance",), source=source, at_least=False)


def _master(own: Ranked, lengths: LengthFormat, lacks: str) -> tuple[Finding, Finding]:
    missing = lacks or "needs master, pedal, pistons, pads and tyres"
    stroke = make_finding(
        "pedal-stroke", own.share, LIMITS["pedal-stroke"], own.why, features=("master",), missing=missing
    )
    text = f"{lengths.force(own.foot_at_test)} at the pedal for 6.43 m/s2 ({TYPE_G:.2f} g)."
    return stroke, make_finding(
        "pedal-force", own.foot_at_test, LIMITS["pedal-force"], text, features=("pedal",), missing=missing
    )


def _residual(vehicle: Vehicle) -> tuple[Finding, ...]:
    """A residual valve left in from drums holds discs on: a stop where both are there."""
    if vehicle.vehicle.valve.kind != "residual":
        return ()
    discs = [name for name in AXLES if name in vehicle.axles and vehicle.axles[name].drum is None]
    if not discs:
        return ()
    named, lengths = " and ".join(discs), LengthFormat(units_of(vehicle.display_units))
    drums, low = lengths.pressure(RESIDUAL_BAR["drum"]), lengths.pressure(RESIDUAL_BAR["disc"])
    why = f"A residual valve keeps about {drums} in the line for drums; a disc ({named}) drags on it. "
    why += f"Take it out there; where the master lies below the caliper, {low} suit (one shop's rule)."
    return (Finding("pedal-residual", Verdict.STOP, 1.0, 0.0, "", why, features=("valve",), at_least=False),)


def _baseline(vehicle: Vehicle) -> Finding:
    """What the pedal was like before anything was changed: nobody can ask afterwards."""
    base = vehicle.vehicle.baseline
    there = [
        value
        for value in (base.travel_to_bite_mm, base.travel_to_firm_mm, base.force_n, base.locks_first)
        if value is not None
    ]
    if there:
        return Finding(
            "pedal-baseline",
            Verdict.OK,
            float(len(there)),
            0.0,
            "",
            "The old pedal is noted.",
            source=PRACTICE,
        )
    why = "Note the pedal now, before anything is changed: travel to bite and to firm, force, what locks first. "
    return Finding(
        "pedal-baseline", Verdict.CAUTION, 0.0, 1.0, "", f"{why}You cannot measure it later.", source=PRACTICE
    )


def known_feet(work: PedalWork) -> tuple[tuple[float, float], ...]:
    """Return (deceleration [g], foot force [N]) for 0.3, 0.6 and 1 g, as far as they are known."""
    found = [(decel, work.chain.foot_for(decel)) for decel in (0.3, 0.6, 1.0)]
    return tuple(pair for pair in found if math.isfinite(pair[1]))

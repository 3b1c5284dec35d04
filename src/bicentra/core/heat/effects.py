"""What a rotor and a caliper do to the whole vehicle: balance, pedal, temperature, mass; before they are bought."""

import math

from bicentra.core.base.finding import Finding, Verdict, worst
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.heat.stops import Train
from bicentra.core.heat.train import train_of
from bicentra.core.hydraulics.chain import chain_of
from bicentra.core.hydraulics.masters import TYPE_G
from bicentra.core.hydraulics.pedal import pedal_findings
from bicentra.core.parts.job import Caliper, Fit, Rotor
from bicentra.core.parts.vehicle import AXLES, Axle, Vehicle

AT_N = 100.0
OF_SET = frozenset(("balance", "master", "pedal", "pad", "fluid", "hub"))
"""What a finding is about, where a set of parts can change it: push rod, booster, valve and the pedal as it was are not."""


class Effects(Record, frozen=True):
    """One set on the vehicle: front share of the force now and with it, foot force at 6.43 m/s2 [N].

    ``peak`` of its rotor over a train [degrees Celsius], ``mass`` of the rotor [kg]; ``findings``: what pedal and heat ask of it;
    ``mu``: friction of the axle's pads that all of it is worked out with: other pads, other numbers.
    """

    share: tuple[float, float]
    foot: float
    peak: float
    mass: float
    findings: tuple[Finding, ...]
    mu: float = math.nan

    @property
    def verdict(self) -> Verdict:
        """The worst of what is asked."""
        return worst(finding.verdict for finding in self.findings)

    @property
    def share_text(self) -> str:
        """How the balance moves, in words; empty where it is unknown."""
        now, then = self.share
        if not is_known(then):
            return ""
        was = f", {now * 100:.0f} % as it is" if is_known(now) else ""
        return f"{then * 100:.0f} % of the force in front{was}"


def with_set(vehicle: Vehicle, axle: str, rotor: Rotor, caliper: Caliper, fit: Fit) -> Vehicle:
    """Return ``vehicle`` with a set on one axle, a drum there taken off."""
    own = vehicle.axles.get(axle, Axle())
    return replace(
        vehicle, axles={**vehicle.axles, axle: replace(own, rotor=rotor, caliper=caliper, fit=fit, drum=None)}
    )


def effects_of(vehicle: Vehicle, axle: str, rotor: Rotor, caliper: Caliper, fit: Fit, train: Train) -> Effects | None:
    """Return what a set on ``axle`` does; ``None`` while nobody has said what the vehicle weighs or what its master is."""
    changed = with_set(vehicle, axle, rotor, caliper, fit)
    asked = pedal_findings(changed)
    if not asked:
        return None
    hot = train_of(changed, train)
    end = hot.front if axle == "front" else hot.rear
    now, then = chain_of(vehicle), chain_of(changed)
    of_set = tuple(finding for finding in (*asked, *hot.findings) if OF_SET & set(finding.features))
    return Effects(
        (now.at(AT_N).front_share, then.at(AT_N).front_share), then.foot_for(TYPE_G), end.peaks[-1] if end.peaks else math.nan,
        known(rotor.mass_kg), of_set, then.ends[AXLES.index(axle)].mu,
    )  # fmt: skip


def nothing_stops(effects: Effects | None) -> bool:
    """Tell whether nothing of pedal and heat stops a set, and all of it is known."""
    return effects is not None and effects.verdict in (Verdict.OK, Verdict.CAUTION)

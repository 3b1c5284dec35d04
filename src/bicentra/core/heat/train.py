"""A vehicle over a train of stops: both ends' temperatures, and what leaves its range."""

from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.base.registry import LIMITS
from bicentra.core.base.wording import make_finding
from bicentra.core.heat.stops import Heated, Train, drum_sink, energy_of, heated, over_at, rotor_sink
from bicentra.core.hydraulics.chain import chain_of
from bicentra.core.parts.vehicle import AXLES, Axle, Fluid, Vehicle

AT_G, FLUID_SHARE = 0.5, 0.35
"""Deceleration at which the share of the axles is taken [g]; how much of a rotor's excess over the air reaches its fluid in a
train of stops: rule of thumb, no source."""
WET_YEARS = 2.0
"""After so many years a fluid has taken up the water of its wet boiling point: common practice."""


class Hot(Record, frozen=True, eq=False):
    """Both ends over a train, how far the fluid stays below its boiling point [K], and what there is to say."""

    train: Train
    front: Heated
    rear: Heated
    fluid_margin: float
    boils: float
    findings: tuple[Finding, ...]


def train_of(vehicle: Vehicle, train: Train) -> Hot:
    """Return what a train of stops does to ``vehicle``."""
    chain = chain_of(vehicle)
    state = chain.at(chain.foot_for(AT_G))
    energy = energy_of(chain.body.mass, train.begin, train.end)
    speed = (train.begin + train.end) / 2 / 3.6
    ends = []
    for name, share in zip(AXLES, (state.front_share, 1.0 - state.front_share)):
        axle = vehicle.axles.get(name, Axle())
        sink = (
            drum_sink(known(axle.drum.diameter_mm), speed) if axle.drum is not None else rotor_sink(axle.rotor, speed)
        )
        ends.append(heated(energy * share / 2.0, sink, train))
    boils = boils_at(vehicle.vehicle.fluid)
    hottest = max((end.peaks[-1] for end in ends if is_known(*end.peaks)), default=UNKNOWN) if train.stops else UNKNOWN
    all_known = all(is_known(*end.peaks) for end in ends)
    margin = boils - (train.ambient + FLUID_SHARE * (hottest - train.ambient)) if all_known else UNKNOWN
    findings = (_fluid(margin, boils, vehicle.vehicle.fluid), *_pads(vehicle, ends))
    return Hot(train, ends[0], ends[1], margin, boils, tuple(sorted(findings, key=lambda f: f.verdict.rank)))


def boils_at(fluid: Fluid) -> float:
    """Return the boiling point [°C] of a fluid of its age: it falls from dry to wet within two years."""
    dry, wet = known(fluid.dry_boil_c), known(fluid.wet_boil_c)
    if fluid.age_years is None:
        return wet
    return dry + (wet - dry) * min(fluid.age_years / WET_YEARS, 1.0)


def _fluid(margin: float, boils: float, fluid: Fluid) -> Finding:
    age = (
        "of unknown age, taken as wet"
        if fluid.age_years is None
        else f"{fluid.age_years:g} year{'' if fluid.age_years == 1 else 's'} old"
    )
    side = "below" if margin >= 0 else "above"
    why = f"The fluid, {age}, boils at {boils:.0f} °C: {abs(margin):.0f} K {side} that at the train's end. Vapour takes the "
    why += "pedal to the floor. About a third of the rotor's heat is taken to reach it, a rule of thumb."
    missing = "needs fluid, masses and both ends"
    return make_finding("heat-fluid", margin, LIMITS["heat-fluid"], why, features=("fluid",), missing=missing)


def _pads(vehicle: Vehicle, ends: list[Heated]) -> list[Finding]:
    found = []
    for name, end in zip(AXLES, ends):
        axle = vehicle.axles.get(name, Axle())
        if axle.drum is not None:
            continue
        most = known(axle.pad.to_c)
        peak = end.peaks[-1] if end.peaks else UNKNOWN
        number = over_at(end, most) if is_known(most) else 0
        fades = f" They fade from stop {number} on." if number else ""
        why = f"The {name} rotors peak at {peak:.0f} °C, the pads work up to {most:.0f} °C.{fades}"
        missing = f"needs the pads' range, the rotor and the masses ({name})"
        found.append(
            make_finding("heat-pads", most - peak, LIMITS["heat-pads"], why, features=("pad",), missing=missing)
        )
    return found

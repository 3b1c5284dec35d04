"""A vehicle over a train of stops: both ends' temperatures, and what leaves its range."""

from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import UNKNOWN, first_known, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.base.registry import LIMITS
from bicentra.core.base.wording import LengthFormat, make_finding
from bicentra.core.heat.heat_soak import behind_findings, format_of, hat_of, hat_peaks, passed_at
from bicentra.core.heat.stops import Heated, Train, drum_sink, energy_of, heated, over_at, rotor_sink, stops_of_pads
from bicentra.core.hydraulics.before import before_of
from bicentra.core.hydraulics.chain import chain_of
from bicentra.core.parts.vehicle import AXLES, Axle, Fluid, Vehicle

AT_G, FLUID_SHARE = 0.5, 0.35
"""Deceleration at which the share of the axles is taken [g]; how much of a rotor's excess over the air reaches its fluid in a
train of stops: rule of thumb, no source."""
EASY_K = 50.0
"""So far below their limits pads and fluid have to stay for the old brakes to be called enough [K]: common practice."""
WET_YEARS = 2.0
"""After so many years a fluid has taken up the water of its wet boiling point: common practice."""


class Hot(Record, frozen=True, eq=False):
    """Both ends over a train, how far the fluid stays below its boiling point [K], and what there is to say.

    ``old``: both ends as they were before, where somebody wrote that down; ``needed``: whether those would have done, in words.
    ``hats``: the hottest each end's hat gets [degrees Celsius]. ``pads_last``: how many such stops each end's pads last.
    """

    train: Train
    front: Heated
    rear: Heated
    fluid_margin: float
    boils: float
    findings: tuple[Finding, ...]
    lengths: LengthFormat = LengthFormat("mm")
    old: tuple[Heated, Heated] | None = None
    needed: str = ""
    hats: tuple[float, float] = (UNKNOWN, UNKNOWN)
    pads_last: tuple[float, float] = (UNKNOWN, UNKNOWN)

    @property
    def hottest_rise(self) -> float:
        """By how much the hotter end is above the air at the end of the train [K]; unknown where either end is."""
        peaks = [end.peaks[-1] for end in (self.front, self.rear) if end.peaks]
        return max(peaks) - self.train.ambient if len(peaks) == len(AXLES) and is_known(*peaks) else UNKNOWN


def train_of(vehicle: Vehicle, train: Train) -> Hot:
    """Return what a train of stops does to ``vehicle``."""
    ends, boils = ends_over(vehicle, train), boils_at(vehicle.vehicle.fluid)
    series = _series(ends, train)
    reached = series[-1] if series else UNKNOWN
    margin, hats = boils - reached, _hats(vehicle, ends, train)
    findings = (
        _fluid(margin, boils, vehicle, passed_at(series, boils)),
        *_pads(vehicle, ends),
        *behind_findings(vehicle, series, hats),
        *_metal(vehicle, ends),
    )
    earlier = before_of(vehicle)
    old = ends_over(earlier, train) if earlier is not None else None
    needed = _needed(earlier, old, ends, train) if earlier is not None and old is not None else ""
    ordered = tuple(sorted(findings, key=lambda finding: finding.verdict.rank))
    return Hot(train, *ends, margin, boils, ordered, format_of(vehicle), old, needed, hats, _pads_last(vehicle, ends))


def ends_over(vehicle: Vehicle, train: Train) -> tuple[Heated, Heated]:
    """Return the front and the rear end of ``vehicle`` over a train of stops."""
    chain = chain_of(vehicle)
    state = chain.at(chain.foot_for(AT_G))
    energy = energy_of(chain.body.mass + first_known(vehicle.vehicle.rotating_kg, 0.0), train.begin, train.end)
    speed = (train.begin + train.end) / 2 / 3.6
    ends = []
    for name, share in zip(AXLES, (state.front_share, 1.0 - state.front_share)):
        axle = vehicle.axles.get(name, Axle())
        drum = axle.drum
        sink = drum_sink(known(drum.diameter_mm), speed) if drum is not None else rotor_sink(axle.rotor, speed)
        ends.append(heated(energy * share / 2.0, sink, train))
    return ends[0], ends[1]


def _hats(vehicle: Vehicle, ends: tuple[Heated, Heated], train: Train) -> tuple[float, float]:
    """Return the hottest each end's hat gets over the train [degrees Celsius]; unknown for drums and hats of their own."""
    found = []
    for name, end in zip(AXLES, ends):
        axle = vehicle.axles.get(name, Axle())
        hat = hat_of(axle.rotor, (train.begin + train.end) / 2 / 3.6) if axle.drum is None else None
        found.append(max(hat_peaks(end, hat, train), default=UNKNOWN) if hat is not None else UNKNOWN)
    return found[0], found[1]


def _pads_last(vehicle: Vehicle, ends: tuple[Heated, Heated]) -> tuple[float, float]:
    """Return how many such stops each end's pads last; unknown for drums."""
    chain = chain_of(vehicle)
    front, rear = (
        stops_of_pads(vehicle.axles[own.name].pad, own.pad, end)
        if own.name in vehicle.axles and own.kind == "disc"
        else UNKNOWN
        for own, end in zip(chain.ends, ends)
    )
    return front, rear


def _series(ends: tuple[Heated, Heated], train: Train) -> tuple[float, ...]:
    """Return what reaches fluid, bolts and hub behind the hotter end after each stop [degrees]: a share of its excess."""
    if not all(is_known(*end.peaks) for end in ends):
        return (UNKNOWN,) * train.stops
    return tuple(
        train.ambient + FLUID_SHARE * (max(pair) - train.ambient) for pair in zip(*(end.peaks for end in ends))
    )


def _needed(earlier: Vehicle, old: tuple[Heated, Heated], now: tuple[Heated, Heated], train: Train) -> str:
    """Return whether the brakes as they were would have stood the train, in words; empty where that is unknown."""
    if not train.stops or not all(is_known(*end.peaks) for end in (*old, *now)):
        return ""
    front, heat = earlier.axles.get("front", Axle()), format_of(earlier).heat
    kind = "drums" if front.drum is not None else "rotors"
    text = f"The old front {kind} would peak at {heat(old[0].peaks[-1])}, the new ones at {heat(now[0].peaks[-1])}. "
    if front.drum is not None:
        return f"{text}The lining's temperature limit is not entered; drums fade sooner than discs (common practice)."
    most = known(front.pad.to_c)
    boils = boils_at(earlier.vehicle.fluid) - _series(old, train)[-1]
    if not is_known(most, boils):
        return f"{text}The temperature limits of these pads and this fluid are not entered."
    if old[0].peaks[-1] <= most - EASY_K and boils >= EASY_K:
        return f"{text}With these pads and this fluid the old ones would already do: for heat alone nothing need be changed."
    stop = over_at(old[0], most)
    why = f"the pads would fade from stop {stop} on" if stop else "they come close to the limits of pads and fluid"
    return f"{text}The old ones would not do: {'the fluid would boil' if boils < 0.0 else why}."


def boils_at(fluid: Fluid) -> float:
    """Return the boiling point [°C] of a fluid of its age: it falls from dry to wet within two years."""
    dry, wet = known(fluid.dry_boil_c), known(fluid.wet_boil_c)
    if fluid.age_years is None:
        return wet
    return dry + (wet - dry) * min(fluid.age_years / WET_YEARS, 1.0)


def _fluid(margin: float, boils: float, vehicle: Vehicle, passed: str) -> Finding:
    fluid, lengths = vehicle.vehicle.fluid, format_of(vehicle)
    age = (
        "of unknown age, taken as wet"
        if fluid.age_years is None
        else f"{fluid.age_years:g} year{'' if fluid.age_years == 1 else 's'} old"
    )
    side = "below" if margin >= 0 else "above"
    why = f"The fluid, {age}, boils at {lengths.heat(boils)}: {lengths.warmer(abs(margin))} {side} that at the train's end"
    why += f"{passed}. "
    why += (
        "Vapour takes the pedal to the floor. About a third of the rotor's heat is taken to reach it, a rule of thumb."
    )
    missing = "needs fluid, masses and both ends"
    return make_finding("heat-fluid", margin, LIMITS["heat-fluid"], why, features=("fluid",), missing=missing)


def _metal(vehicle: Vehicle, ends: tuple[Heated, Heated]) -> list[Finding]:
    """How hot the iron itself gets at each end that is known, over the train [°C]."""
    found, heat = [], format_of(vehicle).heat
    for name, end in zip(AXLES, ends):
        if name not in vehicle.axles:
            continue
        part = "drum" if vehicle.axles[name].drum is not None else "rotor"
        id, peak = {"drum": "heat-drum", "rotor": "heat-rotor"}[part], max(end.peaks, default=UNKNOWN)
        limit = LIMITS[id]
        worse = (
            "its linings fade and it opens away from the shoes" if part == "drum" else "iron grows, cracks and warps"
        )
        why = f"The {name} {part}s peak at {heat(peak)}; above {heat(limit.watch)} {worse}."
        missing = f"needs the {part}'s size and mass, and the masses of the vehicle ({name})"
        found.append(make_finding(id, peak, limit, why, features=(part,), missing=missing))
    return found


def _pads(vehicle: Vehicle, ends: tuple[Heated, Heated]) -> list[Finding]:
    found, heat = [], format_of(vehicle).heat
    for name, end in zip(AXLES, ends):
        axle = vehicle.axles.get(name, Axle())
        if axle.drum is not None:
            continue
        most = known(axle.pad.to_c)
        peak = end.peaks[-1] if end.peaks else UNKNOWN
        number = over_at(end, most) if is_known(most) else 0
        fades = f" They fade from stop {number} on." if number else ""
        why = f"The {name} rotors peak at {heat(peak)}, the pads work up to {heat(most)}.{fades}"
        missing = f"needs the pads' range, the rotor and the masses ({name})"
        found.append(
            make_finding("heat-pads", most - peak, LIMITS["heat-pads"], why, features=("pad",), missing=missing)
        )
    return found

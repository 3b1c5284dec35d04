"""What gets warm behind the rotor: its hat, a ring on the hub, threadlocker, bushings pressed into an ear."""

import math

from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.base.registry import LIMITS
from bicentra.core.base.wording import LengthFormat, make_finding, units_of
from bicentra.core.bracket.families.bushings import BUSHINGS, hot_interference, metal_of_ear
from bicentra.core.bracket.families.table import family_of, make
from bicentra.core.heat.stops import IRON_J_KGK, IRON_KG_MM3, Heated, Train, transfer_at
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.vehicle import AXLES, Vehicle

IRON_W_MK = 50.0
"""Conductivity of grey cast iron [W/(m K)]: handbook value, from memory."""
LOOKS = 8


class HatMass(Record, frozen=True):
    """The hat: its mass [kg], conductance from the ring to its middle [W/K], to the air [W/K]."""

    mass: float
    inward: float
    outward: float


def hat_of(rotor: Rotor, speed: float) -> HatMass | None:
    """Return the hat of ``rotor`` at a mean ``speed`` [SI units, m/s]; ``None`` for one of two pieces, whose joint
    nobody knows.
    """
    if rotor.kind != "one-piece":
        return None
    outer, inner, bore = (known(size) for size in (rotor.hat_outer_mm, rotor.hollow_mm, rotor.centre_bore_mm))
    deep, face = known(rotor.overall_height_mm) - known(rotor.thickness_mm), known(rotor.hat_thickness_mm)
    wall, middle = (outer - inner) / 2, (outer + inner) / 2
    tube = max(deep - face, 0.0) if is_known(deep, face) else UNKNOWN
    mass = (math.pi * middle * wall * tube + math.pi / 4 * (outer**2 - bore**2) * face) * IRON_KG_MM3
    if not is_known(mass) or wall <= 0.0 or deep <= 0.0:
        return HatMass(UNKNOWN, UNKNOWN, UNKNOWN)
    inward = IRON_W_MK * math.pi * middle * wall / (deep / 2) / 1e3
    surface = (math.pi * outer * deep + math.pi / 4 * (outer**2 - bore**2)) / 1e6
    return HatMass(mass, inward, transfer_at(speed, outer / 1e3) * surface)


def hat_peaks(one: Heated, hat: HatMass, train: Train) -> tuple[float, ...]:
    """Return the highest temperature of the hat [degrees Celsius] after each stop of ``one``, looked at ``LOOKS`` times a pause.

    With a = (G + hA)/(m c), b = G/(m c), the ring X e^(-t/tau) above the air and the hat y above it:
    y(t) = y0 e^(-a t) + b X (e^(-t/tau) - e^(-a t))/(a - 1/tau).
    """
    store = hat.mass * IRON_J_KGK
    fall, reach = (hat.inward + hat.outward) / store, hat.inward / store
    slow = 1.0 / one.sink.constant
    if not is_known(fall, reach, slow, *one.peaks):
        return (UNKNOWN,) * len(one.peaks)
    apart, times = fall - slow, [train.every * k / LOOKS for k in range(1, LOOKS + 1)]
    own = [math.exp(-fall * t) for t in times]
    ring = [t * kept if abs(apart) < 1e-12 else (math.exp(-slow * t) - kept) / apart for t, kept in zip(times, own)]
    above, found = 0.0, list[float]()
    for peak in one.peaks:
        after = [above * kept + reach * (peak - train.ambient) * part for kept, part in zip(own, ring)]
        above = after[-1]
        found.append(train.ambient + max(after))
    return tuple(found)


LACKS, THIRD = "masses and both ends", "(a third of the rotor's heat, a rule of thumb)"
PLASTIC_C, LOCKER_C, PAINT_C, WORKSHOP_C = 80.0, 150.0, 120.0, 20.0
"""What a plastic or printed ring stands on the hub, a rule of thumb of one shop; a medium threadlocker, as data sheets say, from
memory; plain enamel, common practice without a source; and where parts are measured, ISO 1 [degrees Celsius]."""


def format_of(vehicle: Vehicle) -> LengthFormat:
    """Return how the numbers of ``vehicle`` are written."""
    return LengthFormat(units_of(vehicle.display_units))


def passed_at(series: tuple[float, ...], limit: float) -> str:
    """Return from which stop on ``series`` [degrees, one a stop] is above ``limit``, as words that follow a sentence;
    nothing where it never is.
    """
    stop = next((number for number, reached in enumerate(series, 1) if reached > limit), 0)
    return f", passed from stop {stop} on" if stop else ""


def behind_findings(vehicle: Vehicle, series: tuple[float, ...], hats: tuple[float, float]) -> tuple[Finding, ...]:
    """Return what is asked of ring, threadlocker, paint and bushings; ``series``: what comes to fluid and bolts after
    each stop, ``hats``: the hats' own temperatures where they are known [degrees Celsius].
    """
    reached = series[-1] if series else UNKNOWN
    rings, bushings = _rings(vehicle, series, reached, hats), _bushings(vehicle, reached)
    return (*rings, _locker(vehicle, series, reached), _paint(vehicle, series, reached), *bushings)


def _rings(vehicle: Vehicle, series: tuple[float, ...], reached: float, hats: tuple[float, float]) -> list[Finding]:
    """Whether a plastic ring on the hub stays hard: with what reaches it by the rule, or the warmest hat it lies in."""
    ringed = [
        hat
        for name, hat in zip(AXLES, hats)
        if name in vehicle.axles and vehicle.axles[name].fit.hub_ring == "plastic" and vehicle.axles[name].drum is None
    ]
    if not ringed:
        return []
    heat = format_of(vehicle).heat
    warm = max([reached, *(hat for hat in ringed if is_known(hat))]) if is_known(reached) else reached
    how = "as hot as the rotor's hat gets" if warm != reached else THIRD
    why = f"About {heat(warm)} reach the hub, {how}; plastic softens from {heat(PLASTIC_C)}{passed_at(series, PLASTIC_C)}. "
    why += "Turn the ring from aluminium."
    return [make_finding("heat-ring", PLASTIC_C - warm, LIMITS["heat-ring"], why, features=("hub",), missing=LACKS)]


def _locker(vehicle: Vehicle, series: tuple[float, ...], reached: float) -> Finding:
    """Whether threadlocker at the caliper's bolts still holds with what has ``reached`` it [degrees]."""
    heat = format_of(vehicle).heat
    why = f"About {heat(reached)} reach the caliper's bolts {THIRD}; medium threadlocker holds to {heat(LOCKER_C)}"
    why += f"{passed_at(series, LOCKER_C)}. "
    why += "Beyond that take one for heat, or wire the bolts."
    return make_finding(
        "heat-locker", LOCKER_C - reached, LIMITS["heat-locker"], why, features=("fluid",), missing=LACKS
    )


def _paint(vehicle: Vehicle, series: tuple[float, ...], reached: float) -> Finding:
    """Whether plain enamel on caliper and bracket stands what has ``reached`` it [degrees]."""
    heat = format_of(vehicle).heat
    why = f"About {heat(reached)} reach caliper and bracket {THIRD}; plain enamel is good to {heat(PAINT_C)}"
    why += f"{passed_at(series, PAINT_C)}; lacquer made for brakes "
    why += "more, as its tin says. Never paint between faces that are bolted together."
    return make_finding("heat-paint", PAINT_C - reached, LIMITS["heat-paint"], why, features=("fluid",), missing=LACKS)


def _bushings(vehicle: Vehicle, reached: float) -> list[Finding]:
    """Whether steel bushings keep their press in ears that are as hot as this train makes them."""
    found, lengths = [], format_of(vehicle)
    for name in AXLES:
        job = job_of(vehicle, f"{name}-right")
        if name not in vehicle.axles or vehicle.axles[name].drum is not None or family_of(job) is not BUSHINGS:
            continue
        made = make(BUSHINGS, job, line_up(job), lengths)[0]
        bore, press = (known(made.solved.get(key)) for key in ("bushing_mm", "interference_mm"))
        left = hot_interference(bore, press, reached - WORKSHOP_C, metal_of_ear(job.caliper))
        why = f"At about {lengths.heat(reached)} {THIRD} the ears' bores have grown: {left * 1e3:.0f} µm of press are left of "
        why += f"{press * 1e3:.0f} in the {name}. A bushing that turns lets the pads wander: add a roll pin."
        found.append(
            make_finding(
                "heat-bushing",
                left,
                LIMITS["heat-bushing"],
                why,
                features=("caliper",),
                missing=LACKS,
            )
        )
    return found

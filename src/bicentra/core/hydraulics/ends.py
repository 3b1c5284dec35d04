"""What brakes each end of a vehicle, as plain numbers: areas, radii, friction, and how much it flexes."""

import math
from typing import TypeVar

import numpy as np

from bicentra.core.base.cache import cached_by_identity
from bicentra.core.base.numbers import UNKNOWN, first_known, is_known, known
from bicentra.core.base.records import Record, replace
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.job import Caliper, Job
from bicentra.core.parts.vehicle import AXLES, BUILDS, SHOES, Axle, Chassis, Drum, Pedal, Vehicle

HOSE_LIMIT = 0.66e3 / 0.3048 / 68.95
"""What a 1/8 in hose may swell [mm3 a bar and metre]: 0.66 cm3 a foot at 1000 psi, FMVSS 106 for regular hoses, from memory."""
USUAL_FLEX = {
    "knock_back_mm": 0.05,
    "pad_mm": 0.15,
    "caliper_mm": 0.10,
    "hose_mm": 400.0,
    "hose_mm3_per_bar_m": round(HOSE_LIMIT / 3),
}
OF_DRUM = {"knock_back_mm": 0.0, "pad_mm": 0.25, "caliper_mm": 0.0}
"""What is taken where nobody states it [mm, mm at 100 bar, mm3]; a drum's shoes bend and the drum goes oval."""
WHEN_HARD_USED = {"hotter_k": 200.0, "stands_off_mm": 0.5}
"""How much hotter a hard-used drum is [K], and how far worn shoes stand off before somebody adjusts them, each [mm], where
nobody states it: common practice, no source."""


class Flex(Record, frozen=True):
    """One end: knock-back of a piston [mm], pad or shoe and caliper at 100 bar [mm], hose of a wheel [mm], its swelling
    [mm3 a bar and metre]; a drum hotter by [K], its worn shoes off by [mm]. ``usual``: what nobody stated.
    """

    knock_back: float = USUAL_FLEX["knock_back_mm"]
    pad: float = USUAL_FLEX["pad_mm"]
    caliper: float = USUAL_FLEX["caliper_mm"]
    hose: float = USUAL_FLEX["hose_mm"]
    swell: float = USUAL_FLEX["hose_mm3_per_bar_m"]
    hotter: float = WHEN_HARD_USED["hotter_k"]
    stands_off: float = WHEN_HARD_USED["stands_off_mm"]
    usual: tuple[str, ...] = tuple(USUAL_FLEX)


def flex_of(axle: Axle) -> Flex:
    """Return what gives way at ``axle`` [mm, mm3 a bar and metre, K]."""
    usual = {**USUAL_FLEX, **OF_DRUM} if axle.drum is not None else USUAL_FLEX
    stated = {name: getattr(axle.give, name) for name in USUAL_FLEX}
    stated |= {name: getattr(axle.drum, name) for name in WHEN_HARD_USED if axle.drum is not None}
    taken = {**usual, **WHEN_HARD_USED, **{name: value for name, value in stated.items() if value is not None}}
    knock, pad, caliper, hose, swell, hotter, off = taken.values()
    unstated = tuple(name for name, value in stated.items() if value is None)
    return Flex(knock, pad, caliper, hose, swell, hotter, off, unstated)


RETRACTION_MM = 0.15
"""How far each piston goes back from its pad or shoe at rest: common practice for square-cut seals, where nobody says."""
GRAVITY = 9.80665
Number = TypeVar("Number", float, FloatArray)
"""One number, or many at once (n,): what is straight in pieces is written once for both."""


def beyond(value: Number, edge: float) -> Number:
    """Return how far ``value`` is beyond ``edge`` [unit of both], nothing below it; unknown where either is."""
    return np.maximum(value - edge, 0.0) if isinstance(value, np.ndarray) else max(value - edge, 0.0)


"""Standard gravity [m/s2], exact (NIST SP 811)."""
GUESSED = "guessed"
USUAL, REAR_FIRST, WEAK = GUESSES = ("usual", "rear first", "weak")
"""Which end of a guess is taken: its middle; what makes the rear lock soonest; what brakes least."""


class End(Record, frozen=True):
    """One end of the vehicle. ``kind``: disc or drum. ``side``: piston area that clamps one pad, or the drum's cylinder
    [mm2]; ``every``: area of every piston of both wheels [mm2]; ``radius``: effective radius, or the drum's [mm];
    ``mu``: friction of the pads, or the drum's brake factor; ``threshold``: pressure before the shoes bite
    [MPa]; ``retraction`` [mm]; ``tyre``: rolling radius [mm]. ``floating``: its pistons are on one side.
    ``compliance``: what gives way besides; ``pad``: area of one pad [mm2].
    """

    name: str
    kind: str
    side: float
    every: float
    radius: float
    mu: float
    threshold: float
    retraction: float
    tyre: float
    floating: bool = False
    assumed: tuple[str, ...] = ()
    compliance: Flex = Flex()
    pad: float = UNKNOWN

    @property
    def grip(self) -> float:
        """What friction makes of the force of one pad or shoe: 2 µ of a disc, the factor of a drum."""
        return (2.0 if self.kind == "disc" else 1.0) * self.mu

    @property
    def gain(self) -> float:
        """Torque of one wheel for each MPa beyond the threshold [N·mm/MPa = mm3]: 2 µ A r of a disc, factor · A · r of a drum."""
        return self.grip * self.side * self.radius

    @property
    def volume(self) -> float:
        """Fluid from rest to bite [mm3], both wheels."""
        return self.every * self.retraction

    def torque(self, pressure: float) -> float:
        """Return the torque of one wheel [N·m] at a line ``pressure`` [MPa]."""
        return self.gain * max(pressure - self.threshold, 0.0) / 1e3 if is_known(pressure, self.gain) else UNKNOWN

    def clamp(self, pressure: float) -> float:
        """Return the force on one pad, or of one shoe's piston [N], at a line ``pressure`` [MPa]."""
        return pressure * self.side

    def road(self, pressure: float) -> float:
        """Return the force of the whole axle at the road [N]: 2 T / tyre radius."""
        return 2.0 * self.torque(pressure) / (self.tyre / 1e3)


class VehicleBody(Record, frozen=True):
    """What is slowed: mass and static front load [kg], wheelbase and height of the centre of gravity [mm], grip."""

    mass: float
    front: float
    wheelbase: float
    height: float
    grip: float
    assumed: tuple[str, ...] = ()

    def loads(self, decel: Number) -> tuple[Number, Number]:
        """Return the load on the front and on the rear axle [N] at one deceleration [g] or many: m g (l_r + z h)/L and
        the rest.
        """
        share = self.front / self.mass + decel * self.height / self.wheelbase
        weight = self.mass * GRAVITY
        return weight * share, weight * (1.0 - share)


def ends_of(vehicle: Vehicle, mu: str = "work", guess: str = USUAL) -> tuple[End, End]:
    """Return the front and the rear end; ``mu``: which friction of the pads is taken (cold, work, hot; work where not
    said); ``guess``: which end of a guess, one of ``GUESSES``.
    """
    front, rear = (end_of(vehicle, name, mu, guess) for name in AXLES)
    return front, rear


def end_of(vehicle: Vehicle, name: str, mu: str = "work", guess: str = USUAL) -> End:
    """Return one end of ``vehicle``, as far as it is known."""
    axle = vehicle.axles.get(name, Axle())
    tyre = known(axle.tyre_radius_mm)
    if axle.drum is not None:
        return replace(_drum(name, axle.drum, tyre, guess), compliance=flex_of(axle))
    pad, caliper = axle.pad, axle.caliper
    friction = first_known({"cold": pad.mu_cold, "hot": pad.mu_hot}.get(mu), known(pad.mu))
    right, left = wheels_of(vehicle, name)
    radius, side = right.radius, right.side
    if left != right:  # the axle's own torque is that of both wheels together
        radius = (right.radius + left.radius) / 2
        side = (right.gain + left.gain) / 2 / radius
    assumed = () if pad.retraction_mm is not None else (f"{RETRACTION_MM:g} mm retraction of each piston in {name}",)
    return End(
        name, "disc", side, right.every + left.every, radius, friction, 0.0,
        first_known(pad.retraction_mm, RETRACTION_MM), tyre, caliper.action == "floating", assumed, flex_of(axle),
        (right.pad_area + left.pad_area) / 2,
    )  # fmt: skip


class BrakedWheel(Record, frozen=True):
    """The disc brake of one wheel: effective radius [mm], area that clamps one pad and of every piston, area of a pad [mm2]."""

    radius: float
    side: float
    every: float
    pad_area: float

    @property
    def gain(self) -> float:
        """Torque for each MPa and each unit of 2 µ [mm3]: area times radius."""
        return self.side * self.radius


def wheels_of(vehicle: Vehicle, name: str) -> tuple[BrakedWheel, BrakedWheel]:
    """Return the right and the left wheel of an axle with discs; unknown of one with drums."""
    return _wheels(vehicle).get(name, (NO_DISC, NO_DISC))


NO_DISC = BrakedWheel(UNKNOWN, UNKNOWN, UNKNOWN, UNKNOWN)


@cached_by_identity
def _wheels(vehicle: Vehicle) -> dict[str, tuple[BrakedWheel, BrakedWheel]]:
    """Return both wheels of each axle with discs: the same whatever the pads are made of. A left one is worked out by
    itself only where something of the design is not its axle's.
    """
    found = {}
    for name in AXLES:
        if _has_drum(vehicle, name):
            continue
        own = [vehicle.corners.get(f"{name}-{side}") for side in ("right", "left")]
        differ = any(corner is not None and corner.overrides for corner in own)
        right = _wheel(job_of(vehicle, f"{name}-right"))
        found[name] = (right, _wheel(job_of(vehicle, f"{name}-left")) if differ else right)
    return found


def _wheel(job: Job) -> BrakedWheel:
    pad = line_up(job).pad
    return BrakedWheel(pad.effective_radius, *areas_of(job.caliper), pad.area)


def _has_drum(vehicle: Vehicle, name: str) -> bool:
    return name in vehicle.axles and vehicle.axles[name].drum is not None


def _drum(name: str, drum: Drum, tyre: float, guess: str) -> End:
    cylinder = circle(known(drum.cylinder_bore_mm))
    text = [f"{RETRACTION_MM:g} mm retraction of each shoe's piston in {name}"]
    spread = SHOES.get(drum.layout or "") if drum.factor is None else None
    if spread is not None:
        text.append(
            f"{GUESSED} factor of the {name} drum, {spread[1]:g} ({spread[0]:g} to {spread[2]:g} with {drum.layout} shoes)"
        )
    strong = guess == REAR_FIRST and name == "rear"
    factor = known(drum.factor) if spread is None else spread[1 if guess == USUAL else 2 if strong else 0]
    return End(
        name, "drum", cylinder, 4.0 * cylinder, known(drum.diameter_mm) / 2, factor,
        first_known(drum.threshold_bar, 0.0) / 10.0, RETRACTION_MM, tyre, False, tuple(text),
    )  # fmt: skip


def areas_of(caliper: Caliper) -> tuple[float, float]:
    """Return the piston area that clamps one pad, and that of every piston of one caliper [mm2].

    Opposed pistons react against each other, so one side of a fixed caliper counts, the mean of both where they are unlike; of a
    floating one all pistons do.
    """
    inboard, outboard = (
        [circle(bore) for bore in bores] for bores in (caliper.pistons_inboard_mm, caliper.pistons_outboard_mm)
    )
    every = math.fsum((*inboard, *outboard))
    if not inboard and not outboard:
        return UNKNOWN, UNKNOWN
    if caliper.action == "floating":
        return every, every
    sides = [math.fsum(side) for side in (inboard, outboard) if side]
    return math.fsum(sides) / len(sides), every


def circle(diameter: float) -> float:
    """Return the area of a bore [mm2]."""
    return math.pi / 4 * diameter**2


def body_of(chassis: Chassis, laden: bool = False, guess: str = USUAL) -> VehicleBody:
    """Return what is slowed, empty or ``laden``. A height that nobody measured is guessed where the kind of vehicle is said."""
    mass, front = (chassis.laden_kg, chassis.laden_front_kg) if laden else (chassis.mass_kg, chassis.front_axle_kg)
    long, text = known(chassis.wheelbase_mm), tuple[str, ...]()
    height, spread = known(chassis.cg_height_mm), BUILDS.get(chassis.build or "")
    if chassis.cg_height_mm is None and spread is not None and is_known(long):
        height = long * spread[2 if guess == REAR_FIRST else 1]
        low, high = (round(long * part, -1) for part in (spread[0], spread[2]))
        text = (f"{GUESSED} height of the centre of gravity, {low:.0f} to {high:.0f} mm as a {chassis.build} has it",)
    return VehicleBody(known(mass), known(front), long, height, known(chassis.tyre_mu), text)


def ratio_of(pedal: Pedal) -> float:
    """Return the pedal's ratio: as said, else from its two lengths; 0 is none, and unknown."""
    if pedal.ratio:
        return pedal.ratio
    return known(pedal.pivot_to_pad_mm) / known(pedal.pivot_to_rod_mm)

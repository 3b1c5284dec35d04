"""The chain of forces: foot, push rod, line, clamp, torque, road, deceleration; and its exact inverse.

p = F · ratio · boost / A_master; behind a valve p_rear = p up to its knee, then knee + slope · (p − knee). Limpert, Brake Design
and Safety, from memory.
"""

import math

import numpy as np

from bicentra.core.base.cache import cached_property
from bicentra.core.base.numbers import UNKNOWN, Pure, first_known, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.hydraulics.ends import (
    GRAVITY,
    GUESSED,
    USUAL,
    End,
    Number,
    VehicleBody,
    beyond,
    body_of,
    circle,
    ends_of,
    ratio_of,
)
from bicentra.core.parts.vehicle import Booster, Master, Valve, Vehicle

PROPORTIONS = ("fixed", "adjustable")
TIGHT = 1e-12
FAR = "far from the rod"


class PedalState(Record, frozen=True):
    """What a foot force gives, front and rear: line pressure [MPa], clamp on one pad [N], torque of one wheel [N·m], force of the
    axle at the road [N]; deceleration [g], not capped by grip.
    """

    foot: float
    line: tuple[float, float]
    clamp: tuple[float, float]
    torque: tuple[float, float]
    road: tuple[float, float]
    decel: float

    @property
    def front_share(self) -> float:
        """The front's share of the force at the road."""
        total = math.fsum(self.road)
        return self.road[0] / total if total > 0.0 else UNKNOWN


class Chain(Record, frozen=True, eq=False):
    """A vehicle's brakes from the foot to the road."""

    ends: tuple[End, End]
    body: VehicleBody
    ratio: float
    booster: Booster
    master: Master
    valve: Valve
    free_play: float = UNKNOWN
    stroke: float = UNKNOWN
    compliance: float = 0.0
    lengths: LengthFormat = LengthFormat("mm")

    @property
    def guesses(self) -> tuple[str, ...]:
        """What of it is a guess, in words."""
        text = (*self.body.assumed, *self.ends[0].assumed, *self.ends[1].assumed)
        if self.master.kind == "stepped" and self.master.front_from is None and self.bores[0] != self.bores[1]:
            text = (*text, f"{GUESSED} place of the front's chamber in the stepped master, by the rod")
        return tuple(one for one in text if one.startswith(GUESSED))

    @cached_property
    def bores(self) -> tuple[float, float]:
        """Area of the master's front and rear circuit [mm2]."""
        front = circle(known(self.master.bore_mm))
        apart = self.master.kind in ("stepped", "two") and self.master.rear_bore_mm is not None
        return front, circle(known(self.master.rear_bore_mm)) if apart else front

    @cached_property
    def rod_bore(self) -> float:
        """Area of the bore that the push rod's piston runs in [mm2]; of a stepped master nobody said which end that one
        feeds, the front's.
        """
        return self.bores[1 if self.master.kind == "stepped" and self.master.front_from == FAR else 0]

    @cached_property
    def shares(self) -> tuple[float, float]:
        """What part of the push rod's force reaches each circuit: both of a tandem all of it, two share by the bar."""
        if self.master.kind != "two":
            return 1.0, 1.0
        bar = first_known(self.master.bar_front_share, 0.5)
        return bar, 1.0 - bar

    def rod(self, foot: Number) -> Number:
        """Return the force at the master's push rod [N] at one foot force [N] or many; beyond its run-out a booster adds
        nothing more.
        """
        pushed = foot * self.ratio
        if self.booster.kind == "none":
            return pushed
        gain, most = known(self.booster.gain or None), self.booster.runout_n
        helped = pushed * gain
        return helped if most is None else helped - beyond(helped, most) * (1.0 - 1.0 / gain)

    def foot_for_rod(self, force: float) -> float:
        """Return the foot force [N] behind a force at the push rod [N]."""
        if self.booster.kind == "none":
            return force / self.ratio
        gain, most = known(self.booster.gain or None), self.booster.runout_n
        if most is None or force <= most:
            return force / gain / self.ratio
        return (force - most + most / gain) / self.ratio

    def lines(self, foot: Number) -> tuple[Number, Number]:
        """Return the line pressure in front and in the rear [N/mm2] at one foot force [N] or many; in a stepped tandem the
        floating piston keeps both alike.
        """
        rod = self.rod(foot)
        apart = self.master.kind == "two"
        front = rod * self.shares[0] / (self.bores[0] if apart else self.rod_bore)
        rear = rod * self.shares[1] / self.bores[1] if apart else front
        return front, self.behind_valve(rear)

    def behind_valve(self, pressure: Number) -> Number:
        """Return what a valve lets through to the rear [N/mm2], of one pressure [N/mm2] or many."""
        if self.valve.kind not in PROPORTIONS:
            return pressure
        knee, slope = known(self.valve.knee_bar) / 10.0, known(self.valve.slope)
        if not is_known(knee, slope):
            return pressure * UNKNOWN
        return pressure - beyond(pressure, knee) * (1.0 - slope)

    def at(self, foot: float) -> PedalState:
        """Return everything a foot force [N] gives."""
        line = self.lines(foot)
        front, rear = self.ends
        clamp = front.clamp(line[0]), rear.clamp(line[1])
        torque = front.torque(line[0]), rear.torque(line[1])
        road = front.road(line[0]), rear.road(line[1])
        return PedalState(foot, line, clamp, torque, road, math.fsum(road) / (self.body.mass * GRAVITY))

    @property
    def rear_to_front(self) -> Pure:
        """Pressure ahead of a valve to the rear over that of the front: 1 but for two masters on a balance bar."""
        if self.master.kind != "two":
            return 1.0
        front, rear = (share / bore for share, bore in zip(self.shares, self.bores))
        return rear / front if front > 0.0 else UNKNOWN

    @cached_property
    def gains(self) -> tuple[tuple[float, float], ...]:
        """Of each end what force at the road a MPa gives beyond the threshold [N/MPa = mm2], and that threshold [MPa]."""
        return tuple((2.0 * end.gain / end.tyre, end.threshold) for end in self.ends)

    def roads(self, foot: Number) -> tuple[Number, Number]:
        """Return the forces at the road alone [N] at one foot force [N] or many: the same as ``at`` gives."""
        (front, bites), (rear, shoes) = self.gains
        ahead, behind = self.lines(foot)
        return front * beyond(ahead, bites), rear * beyond(behind, shoes)

    def foot_for(self, decel: float) -> float:
        """Return the foot force [N] that gives a deceleration [g], grip permitting; exact: the chain is made of
        straight pieces.
        """
        if decel < 0.0:
            return UNKNOWN
        for foot, begin, slope, end in self._pieces:
            if decel <= end + TIGHT and slope > 0.0:
                return foot + (decel - begin) / slope
        return UNKNOWN

    def feet_for(self, decels: FloatArray) -> FloatArray:
        """Return ``foot_for`` of many decelerations (n,) [g] at once, (n,) [N]; unknown where one is."""
        if not self._pieces:
            return np.full(len(decels), UNKNOWN)
        feet, begins, slopes, ends = (np.array(column, dtype=np.float64) for column in zip(*self._pieces))
        open_ = slopes > 0.0
        feet, begins, slopes, ends = feet[open_], begins[open_], slopes[open_], ends[open_]
        place = np.searchsorted(ends + TIGHT, decels)
        inside = place < len(ends)
        place = np.minimum(place, max(len(ends) - 1, 0))
        return (
            np.where(inside, feet[place] + (decels - begins[place]) / slopes[place], UNKNOWN)
            if len(ends)
            else decels * UNKNOWN
        )

    @cached_property
    def _pieces(self) -> tuple[tuple[float, float, float, float], ...]:
        """The straight pieces of deceleration over foot force: each begin [N], deceleration there [g], slope, last deceleration.

        Nothing while the chain is unknown.
        """
        if not is_known(self.at(1.0).decel):
            return ()
        marks = sorted({0.0, *(foot for foot in self._breaks() if is_known(foot) and foot > 0.0)})
        found = []
        for low, high in zip(marks, (*marks[1:], math.inf)):
            step = 1.0 if math.isinf(high) else (high - low) / 2
            one, other = self.at(low).decel, self.at(low + step).decel
            slope = (other - one) / step
            found.append((low, one, slope, math.inf if math.isinf(high) else one + slope * (high - low)))
        return tuple(found)

    def _breaks(self) -> tuple[float, ...]:
        """Return the foot forces [N] at which the chain changes its slope: thresholds, the valve's knee, the booster's
        run-out.
        """
        found = []
        for share, own, end in zip(self.shares, self.bores, self.ends):
            bore = own if self.master.kind == "two" else self.rod_bore
            found.append(self.foot_for_rod(end.threshold * bore / share) if share > 0.0 else UNKNOWN)
        if self.valve.kind in PROPORTIONS:
            bore = self.bores[1] if self.master.kind == "two" else self.rod_bore
            knee = known(self.valve.knee_bar) / 10.0
            slope, threshold = known(self.valve.slope), self.ends[1].threshold
            behind = bore / self.shares[1] if self.shares[1] > 0.0 else UNKNOWN
            found.append(self.foot_for_rod(knee * behind))
            if is_known(knee, slope) and threshold > knee and slope > 0.0:
                found.append(self.foot_for_rod((knee + (threshold - knee) / slope) * behind))
        if self.booster.kind != "none" and self.booster.runout_n is not None:
            found.append(self.foot_for_rod(self.booster.runout_n))
        return tuple(found)


def chain_of(vehicle: Vehicle, mu: str = "work", laden: bool = False, guess: str = USUAL) -> Chain:
    """Return the chain of ``vehicle``; ``mu``: which friction of the pads is taken, ``laden``: what it carries.

    ``guess``: which end of what is guessed, one of ``GUESSES``.
    """
    chassis = vehicle.vehicle
    return Chain(
        ends_of(vehicle, mu, guess), body_of(chassis, laden, guess),
        ratio_of(chassis.pedal), chassis.booster, chassis.master, chassis.valve,
        known(chassis.pedal.free_play_mm), known(chassis.pedal.stroke_mm), first_known(chassis.compliance_mm3_per_bar, 0.0),
        LengthFormat(units_of(vehicle.display_units)),
    )  # fmt: skip

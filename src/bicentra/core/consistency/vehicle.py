"""A vehicle whose own numbers contradict each other, and left and right of an axle that are not the same."""

from collections.abc import Iterator

from bicentra.core.base.wording import LengthFormat
from bicentra.core.consistency.conflict import Conflict
from bicentra.core.parts.job import Job
from bicentra.core.parts.vehicle import Axle, Chassis, Vehicle

TORQUE = ("caliper.pistons", "caliper.action", "rotor.diameter_mm", "caliper.pad_height_mm", "caliper.pad_width_mm")
FEEL = ("caliper.", "rotor.", "fit.pad_inset_mm")
"""Beginnings of the key paths that change torque, and those that change clearance, wear or feel."""


def axle_conflicts(job: Job, lengths: LengthFormat) -> Iterator[Conflict]:
    """Yield what differs between the two brakes of the axle that ``job`` is a corner of: they are one brake to the vehicle."""
    del lengths
    brake = [path for path in job.unlike if path.startswith(FEEL)]
    if not brake:
        return
    names = ", ".join(dict.fromkeys(path.replace("_mm", "").replace("_", " ").replace(".", ": ") for path in brake))
    pulls = any(path.startswith(TORQUE) for path in brake)
    why = "the vehicle pulls to one side under braking" if pulls else "they wear and feel unlike"
    yield Conflict(f"Left and right differ ({names}): {why}. Fit the same parts on both sides.", stop=pulls)


RATIO_SHARE = 0.03
"""A pedal's ratio and its two lengths agree within this share: both are read to a millimetre or two. Our judgement."""
FRICTION = (0.1, 0.8)
"""Friction of a brake lining on iron: outside it was misread; SAE J866 letters run from under 0.15 to over 0.55, from
memory."""
FACTOR = 8.0
"""A drum's brake factor over this is no drum's: duo-servo shoes reach 6 to 7; Limpert ch. 2, from memory."""
GRIP = (1.2, 1.6)
"""Grip of the tyres over these is a caution, a stop: road tyres 0.7 to 1.0 dry, slicks 1.2 to 1.6; Limpert ch. 1, from memory."""
LEAST_RUNOUT_N = 200.0
"""A booster that runs out under this at the push rod [N] helps nobody: it was read in another unit. Our judgement."""


def vehicle_conflicts(vehicle: Vehicle, lengths: LengthFormat) -> Iterator[Conflict]:
    """Yield what cannot be right about the numbers that all corners share."""
    yield from _weights(vehicle.vehicle, lengths)
    yield from _pedal(vehicle.vehicle, lengths)
    yield from _master(vehicle.vehicle, lengths)
    yield from _valve_and_fluid(vehicle.vehicle, lengths)
    for name, axle in vehicle.axles.items():
        yield from _axle(name, axle, lengths)


def _less(one: float | None, other: float | None) -> bool:
    return one is not None and other is not None and one < other


def _weights(chassis: Chassis, lengths: LengthFormat) -> Iterator[Conflict]:
    if _less(chassis.mass_kg, chassis.front_axle_kg) or (chassis.mass_kg and chassis.mass_kg == chassis.front_axle_kg):
        yield Conflict(
            f"The front axle carries {chassis.front_axle_kg:g} kg of {chassis.mass_kg:g} kg in all: nothing is left for the rear."
        )
    if _less(chassis.laden_kg, chassis.mass_kg):
        yield Conflict(f"Laden it weighs {chassis.laden_kg:g} kg, less than empty, {chassis.mass_kg:g} kg.")
    grip = chassis.tyre_mu or 0.0
    if grip > GRIP[0]:
        yield Conflict(f"Tyres with a grip of {grip:g}: road tyres have 0.7 to 1.0.", stop=grip > GRIP[1])
    if _less(chassis.laden_kg, chassis.laden_front_kg):
        yield Conflict("Laden the front axle carries more than the whole vehicle weighs.")
    if _less(chassis.wheelbase_mm, chassis.cg_height_mm):
        yield Conflict(
            f"A centre of gravity {lengths.size(chassis.cg_height_mm or 0.0)} high over a wheelbase of "
            f"{lengths.size(chassis.wheelbase_mm or 0.0)}: it would tip over its front wheels."
        )


def _pedal(chassis: Chassis, lengths: LengthFormat) -> Iterator[Conflict]:
    pedal = chassis.pedal
    pad, rod = pedal.pivot_to_pad_mm, pedal.pivot_to_rod_mm
    if pad is not None and rod is not None and rod >= pad:
        yield Conflict("The push rod is as far from the pivot as the pedal's pad: that is no lever.")
    elif pad is not None and rod and pedal.ratio and abs(pad / rod / pedal.ratio - 1.0) > RATIO_SHARE:
        yield Conflict(f"The pedal's ratio is entered as {pedal.ratio:g}; its lengths make {pad / rod:.2f}.")
    if pedal.ratio is not None and 0.0 < pedal.ratio < 1.0:
        yield Conflict(f"A pedal ratio of {pedal.ratio:g} makes the foot weaker: enter pad over rod.")
    if _less(pedal.stroke_mm, pedal.free_play_mm):
        yield Conflict(
            f"Free play of {lengths.gap(pedal.free_play_mm or 0.0)} is more than the pedal's stroke, "
            f"{lengths.size(pedal.stroke_mm or 0.0)}."
        )
    base = chassis.baseline
    if _less(base.travel_to_firm_mm, base.travel_to_bite_mm):
        yield Conflict("Before the change the pedal was firm before it bit: the two travels are swapped.", stop=False)
    booster = chassis.booster
    if booster.kind == "none" and booster.gain is not None and booster.gain > 1.0:
        yield Conflict(f"No booster is fitted, but a gain of {booster.gain:g} is entered: say which is right.")
    if booster.kind != "none" and booster.runout_n is not None and booster.runout_n < LEAST_RUNOUT_N:
        yield Conflict(f"A booster that runs out at {booster.runout_n:g} N at the push rod is no help: check its unit.")
    if booster.kind != "none" and booster.gain is not None and booster.gain < 1.0:
        yield Conflict(f"A booster with a gain of {booster.gain:g} would take force away.")


def _master(chassis: Chassis, lengths: LengthFormat) -> Iterator[Conflict]:
    master = chassis.master
    bore, rear = master.bore_mm, master.rear_bore_mm
    if master.kind in ("tandem", "single") and rear is not None and bore is not None and abs(rear - bore) > 0.05:
        yield Conflict(
            f"A plain {master.kind} master has one bore; {lengths.size(bore)} and, for the rear, {lengths.size(rear)} are entered. "
            "Say that it is stepped or that there are two, or clear the rear bore."
        )
    if master.kind in ("stepped", "two") and rear is None and bore is not None:
        text = "stepped master" if master.kind == "stepped" else "pair of masters"
        yield Conflict(f"A {text} has two bores; only one is entered.", unknown=True)
    if bore is not None and master.stroke_mm is not None and master.stroke_mm > 4.0 * bore:
        yield Conflict(
            f"A stroke of {lengths.size(master.stroke_mm)} in a bore of {lengths.size(bore)}: measure it again.",
            stop=False,
        )


def _valve_and_fluid(chassis: Chassis, lengths: LengthFormat) -> Iterator[Conflict]:
    valve, fluid = chassis.valve, chassis.fluid
    if valve.kind in ("none", "gutted") and valve.knee_bar is not None:
        yield Conflict(
            f"A knee of {lengths.pressure(valve.knee_bar)} is entered, but no valve that has one: say which it is.",
            stop=False,
        )
    if _less(fluid.dry_boil_c, fluid.wet_boil_c):
        yield Conflict("The fluid boils later wet than dry: the two are swapped.")
    words = fluid.name.lower().replace(" ", "")
    mineral = any(word in words for word in ("mineral", "lhm", "atf", "hydraulicoil"))
    silicone = "silicone" in words or ("dot5" in words and "dot5.1" not in words)
    if mineral:
        yield Conflict(
            f"“{fluid.name}” is mineral oil: it swells the rubber of brakes made for glycol fluid until they fail. "
            "Use what is cast into the reservoir's cap."
        )
    elif silicone and chassis.stability_system:
        yield Conflict(
            f"“{fluid.name}” is silicone fluid: it foams in the pump of a stability system. Use glycol fluid."
        )
    elif silicone:
        yield Conflict(
            f"“{fluid.name}” is silicone fluid: it never mixes with glycol fluid. Only in a system that was empty and dry.",
            stop=False,
        )


def _axle(name: str, axle: Axle, lengths: LengthFormat) -> Iterator[Conflict]:
    yield from _pads(name, axle)
    tyre = axle.tyre_radius_mm
    if tyre is not None and axle.rotor.diameter_mm is not None and axle.rotor.diameter_mm / 2 >= tyre:
        yield Conflict(
            f"The {name} tyre's radius, {lengths.size(tyre)}, is no larger than the rotor's: enter the radius of the tyre."
        )
    drum = axle.drum
    if drum is None:
        return
    if drum.factor is not None and not 0.5 <= drum.factor <= FACTOR:
        yield Conflict(f"A brake factor of {drum.factor:g} for the {name} drum: usual ones are 1.8 to 6.5.")
    if (
        drum.diameter_mm is not None
        and drum.cylinder_bore_mm is not None
        and drum.cylinder_bore_mm > drum.diameter_mm / 3
    ):
        yield Conflict(
            f"A wheel cylinder of {lengths.size(drum.cylinder_bore_mm)} in a {name} drum of {lengths.size(drum.diameter_mm)}."
        )
    if tyre is not None and drum.diameter_mm is not None and drum.diameter_mm / 2 >= tyre:
        yield Conflict(f"The {name} drum is wider than its tyre.")


def _pads(name: str, axle: Axle) -> Iterator[Conflict]:
    pad = axle.pad
    for text, mu in (("", pad.mu), ("cold ", pad.mu_cold), ("hot ", pad.mu_hot)):
        if mu is not None and not FRICTION[0] <= mu <= FRICTION[1]:
            yield Conflict(
                f"A {text}friction of {mu:g} for the {name} pads: linings have {FRICTION[0]:g} to {FRICTION[1]:g}."
            )
    if (
        pad.min_thickness_mm is not None
        and not _less(pad.min_thickness_mm, pad.thickness_mm)
        and pad.thickness_mm is not None
    ):
        yield Conflict(f"The {name} pads are worn out when new: their least thickness is not under the new one.")
    if pad.from_c is not None and not _less(pad.from_c, pad.to_c) and pad.to_c is not None:
        yield Conflict(f"The {name} pads work from {pad.from_c:g} to {pad.to_c:g} °C: the two are swapped.")

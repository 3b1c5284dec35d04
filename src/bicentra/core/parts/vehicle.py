"""The vehicle: everything the job file holds. What is designed belongs to the axle, what is measured to the corner.

Frozen records, one per object of the file; ``extra`` keeps the keys that this version does not know. ``corners.job_of`` makes
the record of one corner that everything is computed from.
"""

from collections.abc import Mapping
from typing import Any

from bicentra.core.base.records import field
from bicentra.core.parts import fields as f
from bicentra.core.parts.attachments import Issued, OriginalBrake, Photo, PracticeRun
from bicentra.core.parts.brakes import SHOES as SHOES
from bicentra.core.parts.brakes import Caliper
from bicentra.core.parts.brakes import Drum as Drum
from bicentra.core.parts.job import CORNERS, BracketDesign, Extra, Fit, Hub, Knuckle, Parking
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.survey import PartMeasure, Survey
from bicentra.core.parts.trial import Trial
from bicentra.core.parts.wheel import Wheel

AXLES = ("front", "rear")
BUILDS = {
    "kart": (0.18, 0.22, 0.26), "car": (0.19, 0.22, 0.25), "van": (0.22, 0.27, 0.33), "off-road": (0.24, 0.28, 0.33),
    "small truck": (0.25, 0.30, 0.36),
}  # fmt: skip
"""Height of the centre of gravity as a part of the wheelbase, at least, usually, at most: rule of thumb, no source."""


class Pedal(f.Described):
    """The brake pedal: its ratio, or the two lengths it comes from, its stroke at the pad and its free play."""

    ratio: float | None = f.number("Pedal ratio", most=20.0)
    pivot_to_pad_mm: float | None = f.length("Pivot to pad")
    pivot_to_rod_mm: float | None = f.length("Pivot to push rod")
    stroke_mm: float | None = f.length("Stroke at the pad")
    free_play_mm: float | None = f.thickness("Free play at the pad")
    extra: Extra = f.other_keys()


class Booster(f.Described):
    """What helps the foot, and up to which force [N]."""

    name: str = f.text("Name")
    kind: str = f.choice("Booster", ("none", "vacuum", "hydraulic"), "none")
    gain: float | None = f.number("Gain", most=20.0)
    runout_n: float | None = f.force("Runs out at", most=20000.0)
    extra: Extra = f.other_keys()


class Master(f.Described):
    """The master cylinder; ``rear_bore_mm`` where it is stepped or there are two, ``bar_front_share`` with a balance bar."""

    name: str = f.text("Name")
    bore_mm: float | None = f.length("Bore")
    rear_bore_mm: float | None = f.length("Bore of the rear circuit")
    stroke_mm: float | None = f.length("Stroke")
    kind: str = f.choice("Kind", ("single", "tandem", "stepped", "two"), "tandem")
    bar_front_share: float | None = f.number("Share of the bar in front", most=1.0, default=0.5)
    outlet_thread: str | None = f.thread("Outlet thread")
    front_from: str | None = f.choice("The front is fed from", ("by the rod", "far from the rod"), None)
    extra: Extra = f.other_keys()


class Valve(f.Described):
    """A valve between the axles: above its knee [bar] the rear gets ``slope`` of what the front gets more."""

    name: str = f.text("Name")
    kind: str = f.choice("Valve", ("none", "fixed", "adjustable", "gutted", "metering", "residual"), "none")
    knee_bar: float | None = f.pressure("Knee", most=300.0)
    slope: float | None = f.number("Slope beyond the knee", most=1.0)
    extra: Extra = f.other_keys()


class Fluid(f.Described):
    """The brake fluid and its boiling points [°C]."""

    name: str = f.text("Fluid")
    dry_boil_c: float | None = f.heat("Boils dry at", most=500.0)
    wet_boil_c: float | None = f.heat("Boils wet at", most=500.0)
    age_years: float | None = f.number("Age in years", most=100.0)
    extra: Extra = f.other_keys()


class Baseline(f.Described):
    """How the pedal was before anything was changed: nobody can ask afterwards."""

    pedal_height_mm: float | None = f.length("Height of the pedal")
    travel_to_bite_mm: float | None = f.thickness("Travel to bite")
    travel_to_firm_mm: float | None = f.thickness("Travel to firm")
    force_n: float | None = f.force("Force", most=5000.0)
    locks_first: str | None = f.choice("Locks first", AXLES, None)
    notes: str = f.text("Notes")
    extra: Extra = f.other_keys()


class Earlier(f.Described):
    """What of the pedal's chain was there before."""

    master: Master | None = None
    booster: Booster | None = None
    valve: Valve | None = None
    pedal: Pedal | None = None
    extra: Extra = f.other_keys()


class Chassis(f.Described):
    """What all corners share: masses, lengths, grip, and the chain from foot to line."""

    name: str = f.text("Vehicle")
    mass_kg: float | None = f.weight("Mass")
    front_axle_kg: float | None = f.weight("Front axle load")
    wheelbase_mm: float | None = f.length("Wheelbase", most=20000.0)
    cg_height_mm: float | None = f.length("Height of the centre of gravity", most=5000.0)
    rotating_kg: float | None = f.weight("Rotating mass as extra mass")
    laden_kg: float | None = f.weight("Mass, laden")
    laden_front_kg: float | None = f.weight("Front axle load, laden")
    build: str | None = f.choice("Kind of vehicle", tuple(BUILDS), None, "For a guess of the height")
    tyre_mu: float | None = f.number("Grip of the tyres", most=3.0, default=0.9)
    stability_system: bool = False
    compliance_mm3_per_bar: float | None = f.number("Fluid taken up by hoses and calipers, mm3 a bar", most=1000.0)
    pedal: Pedal = field(default_factory=Pedal)
    booster: Booster = field(default_factory=Booster)
    master: Master = field(default_factory=Master)
    valve: Valve = field(default_factory=Valve)
    fluid: Fluid = field(default_factory=Fluid)
    baseline: Baseline = field(default_factory=Baseline)
    before: Earlier = field(default_factory=Earlier)
    extra: Extra = f.other_keys()


class Pad(f.Described):
    """The pad's friction, cold, working and hot, and its thickness."""

    name: str = f.text("Name")
    mu: float | None = f.number("Friction, working", most=2.0)
    mu_cold: float | None = f.number("Friction, cold", most=2.0)
    mu_hot: float | None = f.number("Friction, hot", most=2.0)
    from_c: float | None = f.heat("Works from", most=1500.0, least=-60.0)
    to_c: float | None = f.heat("Works to", most=1500.0, least=-60.0)
    thickness_mm: float | None = f.length("Thickness", most=100.0)
    min_thickness_mm: float | None = f.thickness("Worn at")
    retraction_mm: float | None = f.thickness("Retraction of a piston")
    extra: Extra = f.other_keys()


class Compliance(f.Described):
    """What of one end gives way besides the pistons' way back; where nobody states it, common practice counts and says so."""

    knock_back_mm: float | None = f.thickness("A piston is knocked back by")
    pad_mm: float | None = f.thickness("A pad or shoe gives at 100 bar")
    caliper_mm: float | None = f.thickness("A caliper opens at 100 bar")
    hose_mm: float | None = f.length("Hose of one wheel", most=3000.0)
    hose_mm3_per_bar_m: float | None = f.number("Hose swells, mm3 a bar and metre", most=500.0)
    extra: Extra = f.other_keys()


class Axle(f.Described):
    """What is designed for one axle, for both of its corners. ``readings``: those its donor parts' sizes are worked out from."""

    rotor: Rotor = field(default_factory=Rotor)
    caliper: Caliper = field(default_factory=Caliper)
    pad: Pad = field(default_factory=Pad)
    drum: Drum | None = None
    give: Compliance = field(default_factory=Compliance)
    wheel: Wheel | None = None
    tyre_radius_mm: float | None = f.length("Radius of the tyre")
    fit: Fit = field(default_factory=Fit)
    bracket: BracketDesign = field(default_factory=BracketDesign)
    parking: Parking | None = None
    hose: Any = None
    before: OriginalBrake | None = None
    readings: tuple[PartMeasure, ...] = ()
    extra: Extra = f.other_keys()


class Corner(f.Described):
    """What is measured at one corner. Without a hub or knuckle of its own it takes the other side's.

    ``overrides``: what of the axle's design differs here alone, by key path. ``borrowed``: which of its own records began as a
    copy of the other side's and are not all measured here yet. ``exact``: key paths that count as exact beside the survey.
    """

    hub: Hub | None = None
    knuckle: Knuckle | None = None
    survey: Survey | None = None
    trials: tuple[Trial, ...] = ()
    overrides: Mapping[str, Any] = field(default_factory=dict)
    borrowed: tuple[str, ...] = ()
    exact: tuple[str, ...] = ()
    extra: Extra = f.other_keys()


class Vehicle(f.Described):
    """What the job file holds. ``corner``: the one that is worked on. ``issued``: what was given out to be cut.

    ``practice``: invented, to try things out on.
    """

    format: str = "bicentra.job"
    version: int = 2
    title: str = f.text("Title")
    notes: str = f.text("Notes")
    drawn_by: str = f.text("Drawn by")
    checked_by: str = f.text("Checked by")
    display_units: str = f.choice("Units", ("mm", "in"), "mm")
    corner: str = f.choice("Corner", CORNERS, "front-right")
    vehicle: Chassis = field(default_factory=Chassis)
    axles: Mapping[str, Axle] = field(default_factory=dict)
    corners: Mapping[str, Corner] = field(default_factory=dict)
    limits: Mapping[str, float] = field(default_factory=dict)
    book: Mapping[str, Any] = field(default_factory=dict)
    issued: tuple[Issued, ...] = ()
    photos: tuple[Photo, ...] = ()
    practice: bool = False
    practice_run: PracticeRun | None = None
    extra: Extra = f.other_keys()

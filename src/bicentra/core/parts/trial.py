"""One trial fit of a caliper at a corner: gaps read, shims that lay there, how it was held, who saw what, and what was decided.

Signs as in the geometry: the leading end is where the rotor comes in, the first ear's; an offset is positive outboard.
"""

from collections.abc import Mapping
from typing import Any

from bicentra.core.base.quantities import ANGLE
from bicentra.core.base.records import field
from bicentra.core.parts import fields as f
from bicentra.core.parts.fields import Declared, Meaning

Extra = Mapping[str, Any]
GAPS = ("leading_outboard", "leading_inboard", "trailing_outboard", "trailing_inboard")
"""The four places a gap between caliper wall and rotor is read at."""
GAP_NAMES = {
    "leading_outboard": "leading end, outboard",
    "leading_inboard": "leading end, inboard",
    "trailing_outboard": "trailing end, outboard",
    "trailing_inboard": "trailing end, inboard",
}
GAP_INSTRUMENTS: dict[str, float] = {"feeler strips": 0.03, "drill shanks": 0.06, "digital-caliper": 0.05, "eye": 0.3}
"""Standard uncertainty of one gap [mm]: common practice; shanks come in steps, an eye sees a parting line to a third of a mm."""
LEAST_SD_MM = 0.001
"""No gap is read finer than this by hand [mm]."""
SCHOOLS = ("equal", "unequal")
PRACTISED = "practice corner"
"""Who took what the simulated corner answered: it stands in every trial of it."""


def _said(label: str) -> Any:
    return Declared(None, Meaning(label))


def _tilt(label: str) -> Any:
    return Declared(None, Meaning(label, ANGLE, least=0.0, most=45.0))


class Gaps(f.Described):
    """Gaps between caliper wall and rotor face at the slot's two ends [mm]."""

    leading_outboard: float | None = f.thickness("Gap at the leading end, outboard")
    leading_inboard: float | None = f.thickness("Gap at the leading end, inboard")
    trailing_outboard: float | None = f.thickness("Gap at the trailing end, outboard")
    trailing_inboard: float | None = f.thickness("Gap at the trailing end, inboard")
    extra: Extra = f.other_keys()


class Between(f.Described):
    """What a pad or strip told that only goes or does not [mm]: the gap is at least ``least`` (it slides in), below ``most``."""

    least: float | None = f.thickness("It goes in")
    most: float | None = f.thickness("It does not go in")
    extra: Extra = f.other_keys()


class ShimStacks(f.Described):
    """Shims by thickness [mm] at the first and at the second ear's side; ``None``: one of unknown thickness, counted."""

    first: tuple[float | None, ...] = ()
    second: tuple[float | None, ...] = ()
    extra: Extra = f.other_keys()

    @property
    def sides(self) -> tuple[tuple[float | None, ...], tuple[float | None, ...]]:
        """Both sides' shims [mm], the first ear's before the second's."""
        return self.first, self.second


class LooseShims(f.Described):
    """Shims of one thickness that lie ready besides those in place. A slotted one goes in past a loosened bolt."""

    thickness_mm: float | None = f.thickness("Thickness of a shim")
    count: int = f.count("How many", 0, 100, 1)
    form: str = f.choice("Form", ("slotted", "closed"), "slotted")
    extra: Extra = f.other_keys()


class TrialLimits(f.Described):
    """What a trial has to reach."""

    offset_mm: float | None = f.thickness("Offset at most")
    tilt_deg: float | None = _tilt("Tilt at most")
    extra: Extra = f.other_keys()


class FloatByHand(f.Described):
    """How far a floating caliper was pushed by hand each way [mm], with new or with worn pads, and where it stopped."""

    pads: str = f.choice("Pads", ("new", "worn"), "new")
    inboard_mm: float | None = f.thickness("Slid inboard by")
    outboard_mm: float | None = f.thickness("Slid outboard by")
    paper: str = f.choice("Paper over the travel", ("", "pulls out", "tears"), "")
    stops_at: str = f.text("It stops at")
    extra: Extra = f.other_keys()


class ReadBefore(f.Described):
    """What has changed since a reading was taken: how it was set up then, as far as that is another way now, and what
    was done.
    """

    rotor_nuts: int | None = f.count("Rotor held by nuts", 0, 12)
    bolts: str = f.choice("Bolts", ("", "snug", "tight"), "")
    washers_final: bool | None = _said("Final washers in")
    pads: str = f.choice("Pads", ("", "out", "in"), "")
    rotor_plate_mm: float | None = f.length("Rotor spacer", above=None, most=50.0)
    done: str = f.text("What was done since")
    extra: Extra = f.other_keys()


class Trial(f.Described):
    """One trial fit. ``station_spacing_mm``: between the two ends the gaps are read at. ``deep_gaps_mm``: the same four
    further in, ``deep_by_mm`` towards the axle. ``locked``: nothing is to change any more; ``lock`` then keeps what
    it rests on.

    ``read_before``: readings that no longer count, by name, because something was changed after they were taken.
    ``again``: gaps that were read more than once. ``checked``: what has been looked at on the car, by the names of the
    inspections.
    """

    corner: str = f.text("Corner")
    taken: str = f.text("When")
    by: str = f.text("By")
    gaps_mm: Gaps = field(default_factory=Gaps)
    bands_mm: Mapping[str, Between] = field(default_factory=dict)
    deep_gaps_mm: Gaps = field(default_factory=Gaps)
    deep_by_mm: float | None = f.length("Deep readings lie further in by", most=200.0)
    instrument: str = f.choice("Gaps read with", tuple(GAP_INSTRUMENTS), "feeler strips")
    sd_mm: float | None = f.thickness("Standard uncertainty")
    parting_line_mm: float | None = f.length(
        "Parting line off the rotor's middle", above=None, most=50.0, help="By eye, positive outboard"
    )
    station_spacing_mm: float | None = f.length("Between the two ends")
    pad_top_mm: float | None = f.length("Pad top inside the rotor's edge", above=None, most=100.0)
    scratch_ring_mm: float | None = f.length(
        "Diameter of a scratch ring on the rotor", help="That the bridge or a pad's edge left"
    )
    tip_gap_mm: float | None = f.thickness("Tip gap by feeler")
    runout_mm: float | None = f.thickness("Runout on the car")
    shims_mm: ShimStacks = field(default_factory=ShimStacks)
    ear_shims_mm: ShimStacks = field(default_factory=ShimStacks)
    rotor_plate_mm: float | None = f.thickness("Rotor spacer")
    stock: tuple[LooseShims, ...] = ()
    school: str = f.choice("Shims on the two bolts", SCHOOLS, "equal")
    most_apart_mm: float | None = f.thickness("Unequal by at most", default=0.5)
    limits: TrialLimits = field(default_factory=TrialLimits)
    rotor_nuts: int | None = f.count("Rotor held by nuts", 0, 12)
    bolts: str = f.choice("Bolts", ("", "snug", "tight"), "")
    tightened: str = f.text("How tight, how")
    washers_final: bool | None = _said("Final washers in")
    locker: str = f.text("Locked by")
    pads: str = f.choice("Pads", ("", "out", "in"), "")
    body: str = f.choice("Caliper", ("", "bare body", "with pistons"), "")
    hub: str = f.choice("Tried on", ("this hub", "another of its type"), "this hub")
    turned: str = f.choice("A slow full turn by hand", ("", "free", "touches"), "")
    touches: str = f.text("What touches")
    floated: tuple[FloatByHand, ...] = ()
    parts: str = f.text("Parts, by serial or note")
    notes: str = f.text("Notes")
    photos: tuple[str, ...] = ()
    locked: bool = False
    lock: Mapping[str, str] = field(default_factory=dict)
    read_before: Mapping[str, ReadBefore] = field(default_factory=dict)
    again: tuple[str, ...] = ()
    checked: tuple[str, ...] = ()
    extra: Extra = f.other_keys()

    @property
    def practised(self) -> bool:
        """Whether the simulated corner answered it."""
        return self.by == PRACTISED

    @property
    def gap_sd(self) -> float:
        """Standard uncertainty of one gap [mm]."""
        return max(self.sd_mm, LEAST_SD_MM) if self.sd_mm else GAP_INSTRUMENTS[self.instrument]

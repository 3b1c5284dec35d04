"""What was measured on one corner of a vehicle: readings with the instrument, the hand and the time they came from.

Angles are clock angles: 0 forward, 90 up. A reading is never overwritten: what it said before stays in ``was``.
"""

from collections.abc import Mapping
from typing import Any

from bicentra.core.base.records import field
from bicentra.core.parts import fields as f

Extra = Mapping[str, Any]

INSTRUMENTS: dict[str, float] = {
    "digital-caliper": 0.03,
    "vernier": 0.05,
    "steel-rule": 0.4,
    "tape": 0.8,
    "depth-gauge": 0.03,
    "dial-indicator": 0.003,
    "angle-gauge": 0.2,
}
"""Standard uncertainty of one reading [mm], of the angle gauge [degrees]: common practice, editable in each survey."""

SIMULATED = "simulated gauge"
"""Who took a reading that the simulated gauge played: it stands in the file and in every row, and is never used in a job."""
SENSES = ("near-near", "far-far", "near-far", "centres")
SENSE_WORDS = {
    "near-near": "near edge to near edge",
    "far-far": "far edge to far edge",
    "near-far": "near edge to far edge",
    "centres": "centre to centre",
}
KINDS = ("round", "point", "edge")
SIDES = ("", "above", "below", "ahead", "behind")
SWEPT = ("hub-face", "rotor-face")
LENGTH_INSTRUMENTS = tuple(name for name in INSTRUMENTS if name != "angle-gauge")


class Former(f.Described):
    """What a reading said before it was corrected."""

    value: float | None = None
    by: str = f.text("By")
    taken: str = f.text("When")
    why: str = f.text("Why corrected")
    extra: Extra = f.other_keys()


class Taken(f.Described):
    """Who took a reading and when, what it said before, and the keys of its file that this version does not know."""

    by: str = f.text("By")
    taken: str = f.text("When")
    was: tuple[Former, ...] = ()
    extra: Extra = f.other_keys()


class TakenLength(Taken):
    """A reading of a length, with its instrument; ``sd_mm`` replaces the instrument's own uncertainty."""

    instrument: str = f.choice("Instrument", LENGTH_INSTRUMENTS, "digital-caliper")
    sd_mm: float | None = f.thickness("Standard uncertainty")


class Feature(TakenLength):
    """Something distances are measured to: a hole or a boss, a point, a straight edge. ``axis``: centred on the axle.

    ``side`` settles which of two mirror images is meant; ``obstacle`` names the obstacle whose outline the point is of.
    """

    name: str = f.text("Name")
    diameter_mm: float | None = f.thickness("Diameter")
    axis: bool = False
    kind: str = f.choice("Kind", KINDS, "round")
    side: str = f.choice("Side of the axle", SIDES, "")
    obstacle: str | None = None


class Distance(TakenLength):
    """A distance between two features. ``set_aside`` tells why it is not counted; empty: it is."""

    from_: str = f.text("From")
    to: str = f.text("To")
    sense: str = f.choice("Sense", SENSES, "near-near")
    value_mm: float | None = f.thickness("Reading")
    set_aside: str = f.text("Set aside because")


class Direction(Taken):
    """The clock angle of the line from one feature to another; of an edge itself when both ends name it."""

    from_: str = f.text("From")
    to: str = f.text("To")
    clock_deg: float | None = f.angle("Clock angle")
    instrument: str = f.choice("Instrument", ("angle-gauge",), "angle-gauge")
    sd_deg: float | None = f.angle("Standard uncertainty")
    set_aside: str = f.text("Set aside because")


class Spot(f.Described):
    """One depth: ``radius_mm`` from the feature's centre in direction ``at_deg``, read inboard from the straightedge."""

    at_deg: float | None = f.angle("Direction from the centre")
    radius_mm: float | None = f.thickness("Distance from the centre")
    depth_mm: float | None = f.length("Depth", above=None)
    extra: Extra = f.other_keys()


class FaceReadings(TakenLength):
    """The depths read on one face. The feature on the axis stands for the hub face itself."""

    feature: str = f.text("Face of")
    spots: tuple[Spot, ...] = ()
    instrument: str = f.choice("Instrument", LENGTH_INSTRUMENTS, "depth-gauge")


class SweepReading(f.Described):
    """One indicator reading, positive where the face stands further outboard; ``None``: dropped."""

    at_deg: float = f.angle("Direction", default=0.0)
    value_mm: float | None = f.length("Indicator", above=None, most=100.0)
    extra: Extra = f.other_keys()


class Sweep(TakenLength):
    """One turn under an indicator, on the hub face or on the rotor's face: on the bench, or ``where`` it sits on the car."""

    on: str = f.choice("Face", SWEPT, "hub-face")
    where: str = f.choice("Swept", ("bench", "on-car"), "bench", "On the car the rotor shows the hub's runout too")
    radius_mm: float | None = f.length("Radius")
    readings: tuple[SweepReading, ...] = ()
    instrument: str = f.choice("Instrument", LENGTH_INSTRUMENTS, "dial-indicator")


class PartMeasure(TakenLength):
    """The readings one number of a donor part is worked out from; ``recipe`` names the arithmetic."""

    recipe: str = f.text("What is worked out")
    values_mm: Mapping[str, float | None] = field(default_factory=dict)
    points_mm: tuple[tuple[float, float], ...] = ()


class Survey(f.Described):
    """Every reading of one corner. ``instruments`` replaces the usual uncertainty of an instrument by its own."""

    features: tuple[Feature, ...] = ()
    distances: tuple[Distance, ...] = ()
    directions: tuple[Direction, ...] = ()
    straightedge_thickness_mm: float | None = f.thickness("Straightedge thickness")
    straightedge_by: str = f.text("Straightedge measured by")
    faces: tuple[FaceReadings, ...] = ()
    sweeps: tuple[Sweep, ...] = ()
    parts: tuple[PartMeasure, ...] = ()
    instruments: Mapping[str, float] = field(default_factory=dict)
    extra: Extra = f.other_keys()

    @property
    def simulated(self) -> int:
        """How many readings (or rows of them) the simulated gauge has played."""
        taken = (*self.features, *self.distances, *self.directions, *self.faces, *self.sweeps, *self.parts)
        return sum(item.by == SIMULATED for item in taken) + (self.straightedge_by == SIMULATED)

    @property
    def axis(self) -> Feature | None:
        """The feature centred on the wheel axis."""
        return next((feature for feature in self.features if feature.axis), None)

    def feature(self, name: str) -> Feature | None:
        """Return the feature called ``name``."""
        return next((feature for feature in self.features if feature.name == name), None)

    def sd_of(self, instrument: str, own: float | None = None) -> float:
        """Return the standard uncertainty of one reading [mm, or degrees for an angle gauge]."""
        return own if own is not None else float(self.instruments.get(instrument, INSTRUMENTS[instrument]))

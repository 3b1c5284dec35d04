"""The job: everything one corner of a vehicle is known by. Frozen records, made by ``corners.job_of`` from those of the file.

A measurement nobody has taken is ``None``. ``guessed`` names the dimensions of a part that were neither measured nor
found in a catalogue: what rests on them is never better than a caution. ``extra`` keeps the keys of a file that this
version does not know.
"""

from collections.abc import Mapping
from typing import Any

from bicentra.core.base.records import field
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.parts import fields as f
from bicentra.core.parts.attachments import Issued, OriginalBrake, Photo, PracticeRun
from bicentra.core.parts.brakes import Caliper
from bicentra.core.parts.materials import ASSUMED_METAL, SHELVES
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.survey import Survey
from bicentra.core.parts.trial import Trial
from bicentra.core.parts.wheel import Wheel

__all__ = [
    "CORNERS",
    "BracketDesign",
    "Caliper",
    "Cutout",
    "Dowel",
    "Fit",
    "Hub",
    "Job",
    "Knuckle",
    "Lug",
    "LugBolt",
    "Obstacle",
    "OriginalBrake",
    "Parking",
    "Pull",
    "Rotor",
    "Wheel",
]

LOCKS = ("removable threadlocker", "permanent threadlocker", "locking nut", "lock wire", "lock plate", "nothing")
HOLE_KINDS = ("auto", "clearance", "counterbore", "countersink", "slot", "tapped")
MOUNTINGS = ("lugs", "faces", "axle-flange", "tube", "original-bracket", "direct")
PARKINGS = ("second-caliper", "combined", "drum-in-hat", "none")
BACKINGS = ("taken out", "stays, plate in front", "stays, plate behind")
CORNERS = ("front-right", "front-left", "rear-right", "rear-left")
Extra = Mapping[str, Any]


class Hub(f.Described):
    """What the rotor and the wheel are bolted to. Origin of the frame: wheel axis at the hub face, z outboard."""

    mounting: str = f.choice("Rotor mounting", ("over-hub", "behind-flange"), "over-hub")
    pilot_diameter_mm: float | None = f.length("Pilot diameter", help="The register that centres the rotor")
    flange_diameter_mm: float | None = f.length("Flange diameter")
    flange_thickness_mm: float | None = f.length("Flange thickness")
    bolt_circle_mm: float | None = f.length("Bolt circle")
    stud_count: int | None = f.count("Studs", 3, 12)
    stud_thread: str | None = f.thread("Stud thread")
    stud_length_mm: float | None = f.length("Stud length", help="Sticking out of the hub face, thread end included")
    pilot_length_mm: float | None = f.length("Pilot length", help="How far the pilot stands out of the hub face")
    barrel_diameter_mm: float | None = f.length(
        "Widest part that turns behind the flange", help="Hub barrel or axle shaft; empty: the axle tube bounds it"
    )
    stud_back_mm: float | None = f.length("Studs' heads behind the flange, height", most=100.0)
    backing_plate_mm: float | None = f.length("Drum's backing plate, thickness", help="Under the retainer")
    retainer_spacer_mm: float | None = f.thickness("Put back under the retainer", "Bracket plate or spacer")
    backing: str = f.choice("Drum's backing plate", BACKINGS, BACKINGS[0], "Where an axle-end plate goes with it")
    bearing_ring_mm: float | None = f.thickness(
        "Ring between bearing and retainer", "Makes up for a retainer that a plate lifts; 0: none", default=0.0
    )
    retainer_circle_mm: float | None = f.length("Retainer's bolt circle", help="Bolts of the bearing retainer")
    retainer_count: int | None = f.count("Retainer bolts", 2, 12)
    retainer_first_deg: float | None = f.angle(
        "First retainer bolt stands at", help="Clock angle: 0 in front, 90 above"
    )
    retainer_face_z_mm: float | None = f.length(
        "Retainer's face", above=None, help="Outboard of the hub face; negative: inboard"
    )
    tube_diameter_mm: float | None = f.length("Axle tube, outside diameter")
    retainer_socket_mm: float | None = f.length("Socket on a retainer bolt, outside", most=100.0)
    retainer_bolt: str | None = f.thread("Retainer bolts' thread")
    retainer_bolt_end_z_mm: float | None = f.length(
        "Retainer bolts' ends", above=None, help="Outboard of the hub face; negative: inboard"
    )
    extra: Extra = f.other_keys()


class LugBolt(f.Described):
    """The bolt of one lug where it is not that of all: it wins over the bracket's lug bolt. ``None``: as for all."""

    thread: str | None = f.thread("Thread")
    length_mm: float | None = f.length("Length", help="Empty: chosen from the stock lengths")
    head: str = f.choice("Head", ("hexagon", "countersunk"), "hexagon")
    washers: int = f.count("Washers", 0, 4, default=1)
    from_: str | None = f.choice("Enters from", ("outboard", "inboard"), None)
    into: str | None = f.choice("Screwed into", ("thread", "nut", "plate"), None)
    extra: Extra = f.other_keys()


class Lug(f.Described):
    """One place on the knuckle that the bracket is bolted to; (x, y) of the hole, z of the seat face."""

    name: str = f.text("Name", "lug")
    x_mm: float | None = f.length("Forward of the axle", above=None, help="Negative: behind the axle")
    y_mm: float | None = f.length("Above the axle", above=None, help="Negative: below the axle")
    z_mm: float | None = f.length("Seat face, outboard of hub face", above=None, help="Negative: inboard of it")
    hole_mm: float | None = f.length("Hole diameter")
    thread: str | None = f.thread("Thread", help="Empty for a plain hole")
    boss_mm: float | None = f.length("Boss diameter")
    thickness_mm: float | None = f.length("Lug thickness")
    seat: str = f.choice("Seat side", ("outboard", "inboard"), "outboard")
    bolt: LugBolt | None = None
    extra: Extra = f.other_keys()


class Obstacle(f.Described):
    """Something in the way: an outline in (x, y) with a range of z."""

    name: str = f.text("Name", "obstacle")
    outline_mm: tuple[tuple[float, float], ...] = ()
    z_min_mm: float | None = f.length("Inboard end", above=None)
    z_max_mm: float | None = f.length("Outboard end", above=None)
    extra: Extra = f.other_keys()


class Knuckle(f.Described):
    """The upright with its lugs and what stands in the way. ``obstacles_none``: somebody looked, nothing else is near."""

    mounting: str = f.choice("What holds the bracket", MOUNTINGS, "lugs")
    lugs: tuple[Lug, ...] = ()
    obstacles: tuple[Obstacle, ...] = ()
    obstacles_none: bool = False
    material: str | None = f.choice(
        "Knuckle material", ("steel", "iron", "aluminium"), None, "Decides thread engagement"
    )
    extra: Extra = f.other_keys()


class Fit(f.Described):
    """How caliper and rotor are placed: the three things a fabricator turns, lifts and packs.

    ``absent``: what there is said to be none of (wheel, bleed screws).
    """

    clock_deg: float | None = f.angle("Clock angle", help="0 in front, 90 above, 180 behind the axle")
    pad_inset_mm: float | None = f.length("Pad inset", above=None, help="Pad top inside the rotor's edge", default=0.0)
    rotor_spacer_mm: float | None = f.thickness("Rotor spacer", default=0.0)
    rotor_turn_studs: int = f.count("Rotor turned on the hub, studs", 0, 11, default=0)
    rotor_way: str = f.choice("Rotor on the hub", ("hat-outward", "flipped"), "hat-outward")
    hub_ring: str = f.choice("Hub-centric ring", ("none", "aluminium", "steel", "plastic"), "none")
    radial_shim_mm: float | None = f.thickness(
        "Shims under a radial mount", "Between bracket and caliper: lifts it outward", 0.0
    )
    wheel_spacer_mm: float | None = f.thickness("Spacer under the wheel", default=0.0)
    ear_shims_mm: tuple[tuple[float, ...], ...] = ()
    absent: tuple[str, ...] = ()
    attitude_deg: float | None = f.angle(
        "Axle turned against level", "How far the measured frame is turned upward when the vehicle stands level", 0.0
    )
    other_side: str = f.choice(
        "Other side", ("mirrored", "staggered"), "mirrored", "Staggered: ahead here, behind there"
    )
    extra: Extra = f.other_keys()


class Cutout(f.Described):
    """A hole or slot that lightens the plate: its middle in the hub frame, width, length between the slot's half circles."""

    x_mm: float | None = f.length("Forward of the axle", above=None)
    y_mm: float | None = f.length("Above the axle", above=None)
    diameter_mm: float | None = f.length("Diameter, or width of the slot", most=500.0)
    length_mm: float | None = f.thickness("Slot length between its ends' middles", "0: a round hole", 0.0)
    angle_deg: float | None = f.angle("Slot's direction", default=0.0)
    extra: Extra = f.other_keys()


class Pull(f.Described):
    """A straight edge of the plate that is pulled out or in.

    It runs counter-clockwise from the boss of one hole to that of another; lugs are counted first, then the ears.
    """

    from_hole: int = f.count("From the boss of hole", 0, 99, default=0)
    to_hole: int = f.count("To the boss of hole", 0, 99, default=0)
    out_mm: float | None = f.length("Pulled out", above=None, most=200.0, help="Negative: in", default=0.0)
    extra: Extra = f.other_keys()


class Dowel(f.Described):
    """A dowel pin that holds the plate where it has been set: its place in the hub frame, and its diameter."""

    x_mm: float | None = f.length("Forward of the axle", above=None)
    y_mm: float | None = f.length("Above the axle", above=None)
    diameter_mm: float | None = f.length("Dowel's diameter", most=50.0, default=6.0)
    extra: Extra = f.other_keys()


class BracketDesign(f.Described):
    """The adapter plate and its bolts. ``None`` for thickness, shims or a bolt length: Bicentra chooses.

    ``boss_walls_mm``: wall round each hole, lugs first, then the two ears; empty: ``wall_mm`` everywhere.
    """

    family: str = f.text("Kind of bracket, empty: a flat plate")
    material: str | None = f.text("Material", ASSUMED_METAL)
    thickness_mm: float | None = f.length("Plate thickness", help="Empty: chosen from the stock list", most=200.0)
    wall_mm: float | None = f.length("Wall round the holes", default=8.0, most=200.0)
    tab_jog_mm: float | None = f.length(
        "Jog of a weld-on tab",
        above=None,
        help="How far its ears lie outboard of its foot; negative: inboard",
        default=0.0,
    )
    tab_fork_mm: float | None = f.thickness(
        "Room inside a weld-on fork",
        "Between two tabs, a floating caliper's ear and its play in it; 0: one tab",
        default=0.0,
    )
    studs: str = f.choice("Studs of a radial mount", ("in the edge", "through the plate"), "in the edge")
    flange_shim_mm: float | None = f.thickness(
        "Shim between flange and plate", "Of an axle-end plate that is thinner than what was taken out", default=0.0
    )
    side: str = f.choice("Side of the lugs", ("outboard", "inboard"), "outboard")
    lug_bolt: str | None = f.thread("Lug bolt")
    caliper_bolt: str | None = f.thread("Caliper bolt")
    shelf: str = f.choice(
        "Usual plate stock", ("metric", "inch", "both"), "metric", "Where no list of its own is given"
    )
    stock_mm: tuple[float, ...] | None = None
    shims_mm: tuple[float, ...] | None = None
    lug_bolt_length_mm: float | None = f.length("Lug bolt length", help="Empty: chosen from the stock lengths")
    caliper_bolt_length_mm: float | None = f.length("Caliper bolt length", help="Empty: chosen from the stock lengths")
    lug_washers: int = f.count("Washers under a lug bolt head", 0, 4, default=1)
    caliper_washers: int = f.count("Washers under a caliper bolt head", 0, 4, default=1)
    lug_hole: str = f.choice("Lug holes in the plate", HOLE_KINDS, "auto")
    boss_walls_mm: tuple[float, ...] = ()
    cutouts: tuple[Cutout, ...] = ()
    caliper_hole: str = f.choice("Caliper holes in the plate", HOLE_KINDS, "auto")
    hole_class: str = f.choice(
        "Plain holes", ("close", "normal", "loose"), "normal", "Clearance class of the plate's holes"
    )
    lock: str = f.choice(
        "Bolts locked by", LOCKS, "removable threadlocker", "Removable, marked and re-checked is the usual way"
    )
    slot_mm: float | None = f.length("Slots: how far a bolt can be moved in one", most=100.0)
    slot_deg: float | None = f.angle("Slots' direction", help="Clock angle; empty: along the caliper's radius")
    dowels: tuple[Dowel, ...] = ()
    pulls: tuple[Pull, ...] = ()
    chamfer_mm: float | None = f.thickness("Chamfer all round, both faces", "0: edges broken only", 0.0)
    finish: str = f.text("Finish")
    datum_hole: int | None = f.count("Datum of the drawings: hole", 1, 60)
    datum_axis_hole: int | None = f.count("Datum's axis runs to hole", 1, 60)
    extra: Extra = f.other_keys()

    @property
    def datum(self) -> tuple[int, int] | None:
        """The two holes that drawings are counted from, where they are chosen."""
        if self.datum_hole is None or self.datum_axis_hole is None:
            return None
        return self.datum_hole, self.datum_axis_hole

    @property
    def stock(self) -> tuple[float, ...]:
        """The plate thicknesses to choose from [mm]: the job's own list, or what is usual."""
        return self.stock_mm or SHELVES[self.shelf]


class Parking(f.Described):
    """A second caliper on the same rotor for the parking brake, and where it goes."""

    kind: str = f.choice("Parking brake", PARKINGS, "second-caliper")
    caliper: Caliper = field(default_factory=Caliper)
    clock_deg: float | None = f.angle("Clock angle of the parking caliper")
    pad_inset_mm: float | None = f.length("Its pad inset", above=None, default=0.0)
    side: str = f.choice("Side of the lugs for its adapter", ("outboard", "inboard"), "outboard")
    bolt: str | None = f.thread("Its bolts", help="Empty: the thread of its ears, else the caliper's bolts")
    extra: Extra = f.other_keys()


class Opposite(f.Described):
    """What is written down of the corner at the other end of the axle: its own hub and knuckle, and what it has otherwise."""

    hub: Hub
    knuckle: Knuckle
    overrides: Mapping[str, object] = field(default_factory=dict)
    exact: tuple[str, ...] = ()


class Job(f.Described):
    """One corner's job: vehicle, axle and corner in one record (``corners.job_of``). ``exact``: key paths of numbers
    that count as exact beside a survey. ``borrowed``: records of hub and knuckle that were measured at the other
    corner. ``opposite``: that corner, where it has numbers of its own. ``unlike``: key paths of the design that are
    not the same there.

    ``practice``: invented, to try things out on; what the simulated gauge plays may be used in it.
    """

    title: str = f.text("Title")
    notes: str = f.text("Notes")
    drawn_by: str = f.text("Drawn by")
    checked_by: str = f.text("Checked by")
    display_units: str = f.choice("Units", ("mm", "in"), "mm")
    corner: str = f.choice("Corner", CORNERS, "front-right")
    hub: Hub = field(default_factory=Hub)
    knuckle: Knuckle = field(default_factory=Knuckle)
    rotor: Rotor = field(default_factory=Rotor)
    caliper: Caliper = field(default_factory=Caliper)
    wheel: Wheel | None = None
    fit: Fit = field(default_factory=Fit)
    bracket: BracketDesign = field(default_factory=BracketDesign)
    limits: Mapping[str, float] = field(default_factory=dict)
    survey: Mapping[str, Survey] = field(default_factory=dict)
    trials: tuple[Trial, ...] = ()
    before: OriginalBrake | None = None
    parking: Parking | None = None
    exact: tuple[str, ...] = ()
    borrowed: tuple[str, ...] = ()
    issued: tuple[Issued, ...] = ()
    photos: tuple[Photo, ...] = ()
    practice: bool = False
    practice_run: PracticeRun | None = None
    opposite: Opposite | None = None
    unlike: tuple[str, ...] = ()

    @property
    def lengths(self) -> LengthFormat:
        """How its lengths are written."""
        return LengthFormat(units_of(self.display_units))

    @property
    def is_left(self) -> bool:
        """Whether this is a left-hand corner, the mirror image of a right-hand one."""
        return self.corner.endswith("left")

"""Every finding there is, declared once: its title, the limit it is judged by, and what else depends on which finding it is.

A new finding is one line here and one function that asks it. The order of the table is the order in which findings of equal
verdict are listed: what hurts first comes first. Lists of findings are derived from it and kept nowhere else.
"""

from functools import lru_cache

from bicentra.core.base.records import Record, replace

PRACTICE = "Common practice, no published source"
ONE_SHOP = "Rule of thumb of one shop"
OF_BRACKET = frozenset(("joint", "metal", "clearance", "bracket"))
"""Groups of what is asked of the bracket itself."""
BESIDE = "parking-"
"""What the id of a finding begins with that is asked of the parking-brake caliper and its adapter."""


class Limit(Record, frozen=True):
    """Where *stop* and *watch* begin. ``at_least``: the value must not fall below, else it must not rise above.

    A job that overrides the limit moves ``stop``; the width of the watch band stays as it was.
    """

    stop: float
    watch: float
    at_least: bool = True
    unit: str = "mm"
    source: str = "Common practice, no published source"

    def moved_to(self, stop: float | None) -> "Limit":
        """Return this limit with its stop at ``stop`` (its own unit; ``None``: unchanged), the watch band moved along."""
        if stop is None:
            return self
        return Limit(stop, stop + (self.watch - self.stop), self.at_least, self.unit, "Set in this job")


class FindingKind(Record, frozen=True):
    """One kind of finding. ``group``: which step asks it. ``limit``: ``None`` where it depends on sizes or there is
    none.

    ``turns``: it changes as the caliper is turned round the rotor. ``shaped``: pulling the bracket's shape changes it.
    ``made``: where it stops or is unknown, the bracket cannot be made. ``worst_of``: it puts the worst of several
    comparisons in front, so its chance is not that of one limit. ``unsigned``: its value is the size of something of
    either sign. ``pushed``: play of the bolts along the radius moves it. ``upstream``: others rest on it, so it is
    settled first. ``elsewhere``: it is about another corner. ``ligament``: it tells the metal between holes.
    ``off_hub``: it rests on nothing of hub and knuckle. ``of_parts``: whether bought parts go together at all.
    ``centres``: a trial is centred once it and its like are met. ``near_knuckle``: it asks the room to what is listed
    beside the lugs. ``without``: of what the job may say that there is none. ``more``: limits of comparisons inside it,
    by name.
    """

    id: str
    title: str
    group: str
    limit: Limit | None = None
    turns: bool = False
    shaped: bool = False
    made: bool = False
    worst_of: bool = False
    unsigned: bool = False
    pushed: bool = False
    upstream: bool = False
    elsewhere: bool = False
    ligament: bool = False
    off_hub: bool = False
    of_parts: bool = False
    centres: bool = False
    near_knuckle: bool = False
    without: str = ""
    more: tuple[tuple[str, Limit], ...] = ()

    @property
    def of_bracket(self) -> bool:
        """Whether it is asked of the bracket, and so decides whether a kind of bracket suits the job."""
        return self.group in OF_BRACKET


def _least(stop: float, watch: float, source: str = PRACTICE, unit: str = "mm") -> Limit:
    return Limit(stop, watch, unit=unit, source=source)


def _most(stop: float, watch: float, source: str = PRACTICE, unit: str = "mm") -> Limit:
    return Limit(stop, watch, at_least=False, unit=unit, source=source)


K = FindingKind
KINDS: tuple[FindingKind, ...] = (
    K("bolt-tip-to-rotor", "Bolt ends clear of the rotor", "joint", _least(2.0, 3.0)),
    K("tip-gap", "Tip gap, rotor edge to bridge", "line-up",
      _least(1.78, 2.03, f"{ONE_SHOP}: 0.080-0.100 in wanted, 0.070 in has survived"),
      pushed=True, more=(("tip-gap-hot", _least(0.5, 1.0)),), off_hub=True),
    K("thread-fit", "Bolts fit threads and holes", "joint", worst_of=True, more=(("bolt-in-hole", _least(0.1, 0.2)),)),
    K("caliper-to-rotor", "Caliper clear of hat and hub", "caliper", _least(1.0, 2.0)),
    K("knuckle-to-rotor", "Knuckle clear of the rotor", "caliper", _least(2.0, 3.0)),
    K("caliper-to-obstacle", "Caliper clear of knuckle", "caliper", _least(2.0, 3.0), turns=True,
      near_knuckle=True),
    K("bracket-to-rotor", "Bracket clear of the rotor", "clearance", _least(2.0, 3.0), turns=True, shaped=True, made=True),
    K("bracket-to-hub", "Bracket clear of the hub", "clearance", _least(2.0, 3.0), turns=True, shaped=True, made=True),
    K("axial-offset", "Caliper centred on the rotor", "joint",
      _most(0.25, 0.25, "Common practice: fixed caliper within 0.25 mm"), unsigned=True,
      more=(("axial-offset-floating", _most(1.5, 1.5, "Common practice: floating within 1.5 mm")),)),
    K("caliper-tilt", "Caliper square to the rotor", "joint",
      _most(0.1, 0.1, "Common practice: as at the trial fit", "°"), turns=True, worst_of=True, unsigned=True,
      more=(("caliper-lean", _most(0.5, 0.3, "Our judgement: a taper of 0.2 to 0.4 mm over a pad's height", "°")),)),
    K("thread-engagement", "Thread engagement of the bolts", "joint",
      _least(1.0, 1.5, "Common practice: 1 d in steel, 1.5 d in aluminium", "× d"), worst_of=True),
    K("edge-distance", "Hole to edge of plate", "metal",
      _least(1.0, 1.2, "Common practice; EN 1993-1-8 asks 1.2 hole diameters", "× d"),
      turns=True, shaped=True, made=True, worst_of=True),
    K("ligament", "Metal between holes", "metal", _least(5.0, 8.0), turns=True, shaped=True, made=True, ligament=True),
    K("cutout-metal", "Metal beside the cutouts", "metal", _least(5.0, 8.0), turns=True, shaped=True, made=True),
    K("dowel-metal", "Metal beside the dowels", "metal", _least(3.0, 5.0), turns=True, shaped=True, made=True),
    K("chamfer-land", "Edge between the chamfers", "metal", _least(1.0, 2.0), made=True),
    K("slot-hold", "Plate held where it was set", "metal",
      _least(0.0, 2.0, "Common practice: two dowels, or a plate that cannot slip", "")),
    K("counterbore-floor", "Metal under the counterbores", "metal", _least(4.0, 6.0), made=True),
    K("least-sizes", "Usual minimum sizes", "metal", made=True, worst_of=True, more=(
        ("bolt-size", _least(7.9, 9.5, "Common practice: 3/8 in or M10, 5/16 in or M8 on the lightest")),
        ("plate-thickness", _least(0.5, 0.6, unit="× d")), ("boss-metal", _least(0.2, 0.4, unit="× d")))),
    K("bracket-suits", "Kind of bracket fits", "bracket", turns=True, made=True),
    K("metal-under-step", "Metal left under the step", "bracket", _least(4.0, 6.0), made=True),
    K("spacer-width", "Spacers stout enough", "bracket", made=True),
    K("bend-room", "Room for the bends", "bracket", _least(0.0, 2.0), turns=True, made=True),
    K("radial-plane", "Studs in the plate's middle", "bracket", _least(0.0, 0.0), made=True),
    K("radial-edge", "Metal beside the studs", "bracket", made=True),
    K("radial-ligament", "Metal between studs and lugs", "bracket", _least(5.0, 8.0), turns=True, made=True, ligament=True),
    K("radial-stud-size", "Studs thick enough", "bracket", made=True),
    K("radial-stud-hole", "Feet pass over the studs", "bracket", made=True),
    K("radial-stud-thread", "Thread of the studs in the edge", "bracket", made=True),
    K("radial-nut-room", "Stud nuts clear of hub and rotor", "bracket", _least(2.0, 3.0), made=True),
    K("axle-end-retainer", "Bearing held as before", "bracket", _most(0.1, 0.05), made=True),
    K("axle-end-offset", "Ears on the plate's face", "bracket", made=True),
    K("axle-end-ligament", "Metal between holes", "bracket", turns=True, made=True, ligament=True),
    K("axle-end-pilot", "Metal round the pilot bore", "bracket", _least(4.0, 6.0), made=True),
    K("axle-end-bolts", "Retainer bolts clear of rotor", "bracket", made=True),
    K("weld-metal", "Metal that welds to the tube", "bracket", _least(0.0, 0.0), made=True),
    K("weld-height", "Height of the tab", "bracket", _least(10.0, 15.0), made=True),
    K("weld-length", "Length of the welds", "bracket", _least(40.0, 60.0), made=True),
    K("weld-bearing-seat", "Weld away from the bearing seat", "bracket", _least(0.0, 25.0), made=True),
    K("bushing-axial", "Ears meet the lugs' faces", "bracket", _least(0.0, 0.5), made=True),
    K("bushing-clock", "Clock angle as the lugs give it", "bracket", _most(1.0, 0.25, unit="°"), turns=True, made=True),
    K("bushing-wall", "Wall of the bushing", "bracket", _least(1.5, 2.0), made=True),
    K("bushing-ear", "Metal round the bushing", "bracket", _least(3.0, 4.0), made=True),
    K("bushing-hot", "Press left when hot", "bracket", _least(0.0, 0.01), made=True),
    K("straight-holes", "Ears' holes meet the lugs'", "bracket", _least(0.0, 0.05), made=True),
    K("straight-play", "Bolts fill their holes", "bracket", _least(0.0, 0.0), made=True),
    K("sleeve-wall", "Wall of the sleeve", "bracket", _least(0.75, 1.0), made=True),
    K("bolt-head-room", "Bolts, lugs and ears clear", "clearance", _least(0.5, 1.0), turns=True),
    K("bracket-to-caliper", "Bracket clear of caliper body", "clearance",
      _least(0.5, 0.5), turns=True, shaped=True, made=True),
    K("bracket-to-obstacle", "Bracket clear of knuckle", "clearance", _least(1.0, 2.0), turns=True, shaped=True, made=True,
      near_knuckle=True),
    K("handedness", "Left- and right-hand parts", "line-up", turns=True, off_hub=True, of_parts=True),
    K("wheel-room", "Wheel clear of the caliper", "wheel",
      _least(2.0, 3.0, "Common practice: 3 mm wanted between caliper and wheel"),
      more=(("wheel-room-hot", _least(0.5, 1.0)),), without="wheel"),
    K("float-travel", "Free travel of the caliper", "travel",
      _least(0.0, 1.5, f"{ONE_SHOP}: a pad is worn at 0.100 in, and 1/16 in to spare"), turns=True),
    K("rotor-on-hub", "Rotor on the hub", "line-up", worst_of=True, of_parts=True, more=(
        ("pilot-clearance", _most(1.5, 0.15)), ("bolt-circle", _most(0.3, 0.1)), ("stud-hole-clearance", _least(0.0, 0.2)),
        ("hat-over-flange", _least(0.25, 0.5)), ("pilot-left", _least(2.0, 3.0)))),
    K("ring-on-hat", "Ring on its hat", "line-up", worst_of=True, off_hub=True, of_parts=True, more=(
        ("register-play", _most(0.2, 0.1)), ("register-depth", _least(0.5, 1.0)))),
    K("wheel-on-hub", "Wheel seats on the hub", "line-up", of_parts=True, without="wheel"),
    K("retainer-spacer", "Under the bearing retainer", "line-up", _most(0.1, 0.05, "Common practice: put back what was taken out")),
    K("radial-seat", "Shims under the caliper's feet", "line-up",
      _most(4.0, 3.0, "Common practice: a few shims, then a taller seat"), off_hub=True),
    K("retainer-reach", "Retainer bolts can be reached", "clearance",
      _least(0.5, 1.0, "Common practice: a socket has to go on straight"),
      turns=True),
    K("hose-room", "Room round the hose port", "travel",
      _least(10.0, 15.0, "Common practice: a finger's width from anything that moves"), turns=True),
    K("slot-gap", "Slot gap at each rotor face", "line-up", _least(0.5, 1.0), off_hub=True),
    K("caliper-removal", "Caliper comes off for pads", "travel",
      _least(1.0, 1.0, "Common practice: pads are changed with the bracket on"), turns=True),
    K("wheel-stud-engagement", "Wheel nuts on the studs", "line-up",
      _least(1.0, 1.25, "Common practice: at least one stud diameter", "× d"), of_parts=True, without="wheel"),
    K("bleeder-up", "Bleed screw at the top", "caliper", _most(45.0, 30.0, unit="°"), turns=True, without="bleeders"),
    K("pad-inner-edge", "Pad inner edge on the swept band", "line-up", _least(0.0, 1.0), pushed=True, off_hub=True),
    K("pad-overhang", "Pad top against rotor edge", "line-up",
      _most(1.6, 0.0, "Common practice: flush to 1/8 in inside; some accept 1/16 in over"),
      pushed=True, more=(("pad-inset-most", _most(3.175, 3.175, "Common practice: flush to 1/8 in inside")),), off_hub=True),
    K("caliper-sizes", "Sizes of the caliper", "line-up", of_parts=True, worst_of=True),
    K("rotor-sizes", "Sizes of the rotor", "line-up", of_parts=True, worst_of=True),
    K("wheel-sizes", "Sizes of the wheel", "line-up", of_parts=True, worst_of=True),
    K("hub-sizes", "Sizes of the hub", "line-up", worst_of=True),
    K("lug-sizes", "Sizes of the lugs", "line-up", worst_of=True),
    K("axle-matched", "Left and right brake alike", "line-up", of_parts=True, worst_of=True, off_hub=True),
    K("bracket-choices", "Bracket metal and locking", "bracket", made=True, worst_of=True),
    K("shim-stack", "Shims between lug and plate", "joint", _most(3.0, 2.0, "Common practice: one to four shims a bolt")),
    K("survey-agreement", "Readings agree with each other", "survey", upstream=True),
    K("survey-used", "The job has the survey's numbers", "survey", upstream=True),
    K("lug-face-tilt", "Lug faces square to the hub", "survey", _most(0.5, 0.2, unit="°")),
    K("corner-borrowed", "Hub and knuckle measured here", "survey", upstream=True),
    K("corner-mismatch", "Left and right match", "survey", _most(2.0, 0.3), elsewhere=True),
    K("rotor-runout", "Rotor runs true", "survey", _most(0.38, 0.13, f"{ONE_SHOP}: 0.002-0.005 in wanted, 0.015 in rejected")),
    K("trial-readings", "Gaps agree with each other", "trial", upstream=True, centres=True),
    K("trial-offset", "Caliper centred at the trial", "trial", _most(0.25, 0.25), unsigned=True, centres=True),
    K("trial-tilt", "Caliper square at the trial", "trial", _most(0.1, 0.1, unit="°"), unsigned=True, centres=True),
    K("trial-lean", "Caliper upright at the trial", "trial",
      _most(0.5, 0.3, "Our judgement: a taper of 0.2 to 0.4 mm over a pad's height", "°"), unsigned=True, centres=True),
    K("trial-tip-gap", "Tip gap at the trial", "trial",
      _least(1.78, 2.03, f"{ONE_SHOP}: 0.080-0.100 in wanted, 0.070 in has survived")),
    K("trial-bolts", "Bolts with the trial's shims", "trial", worst_of=True),
    K("trial-play", "Rotor clear of bolt-hole play", "trial", _least(0.5, 1.0)),
    K("trial-float", "Free travel found by hand", "trial", _least(0.0, 1.5)),
    K("trial-turn", "A slow full turn by hand", "trial"),
    K("trial-runout", "Runout at the trial", "trial", _most(0.38, 0.13, f"{ONE_SHOP}: 0.002-0.005 in wanted, 0.015 in rejected")),
    K("trial-drawn", "Parts on the car match drawing", "trial"),
    K("trial-follow", "Last shims did what they should", "trial"),
    K("pedal-order", "Front axle locks first", "pedal"),
    K("pedal-stroke", "Master cylinder's stroke", "pedal", Limit(0.75, 0.6, False, "of the stroke", PRACTICE)),
    K("pedal-force", "Force on the pedal", "pedal", Limit(500.0, 350.0, False, "N", "UN R13-H Annex 3, from memory")),
    K("vehicle-sizes", "Numbers of the vehicle", "pedal", worst_of=True),
    K("pedal-circuits", "Two circuits", "pedal"),
    K("pedal-both-axles", "Both axles brake", "pedal"),
    K("pedal-sides", "Left and right brake alike", "pedal"),
    K("pedal-failed", "Braking with one circuit gone", "pedal",
      Limit(0.15, 0.249, True, "g", "UN R13-H: 2.44 m/s2 with one circuit gone, from memory; the stop is our judgement")),
    K("pedal-floor", "Pedal off the floor", "pedal", Limit(1.0, 0.85, False, "of the stroke", "Our judgement")),
    K("pedal-line", "Pressure in the lines", "pedal",
      Limit(200.0, 140.0, False, "bar", "Our judgement: brake hoses are tested to about 275 bar, SAE J1401, from memory")),
    K("parking-brake", "Parking brake", "pedal"),
    K("pedal-stability", "Stability system", "pedal"),
    K("pedal-rod", "Master cylinder returns fully", "pedal",
      _least(0.5, 1.0, "Common practice: a millimetre or two at the pad")),
    K("pedal-boost", "One booster's help", "pedal", _most(12.0, 7.0, "Common practice: one booster gives two to seven times", "×")),
    K("pedal-valve", "Valve fits the brakes", "pedal"),
    K("pedal-residual", "Residual pressure", "pedal"),
    K("pedal-baseline", "The old pedal", "pedal"),
    K("heat-fluid", "Brake fluid temperature", "pedal", _least(0.0, 50.0, unit="K")),
    K("heat-ring", "Ring on the hub stays hard", "pedal", _least(0.0, 15.0, unit="K")),
    K("heat-locker", "Threadlocker holds when hot", "pedal", _least(0.0, 20.0, unit="K")),
    K("heat-paint", "Paint temperature", "pedal", _least(-150.0, 0.0, unit="K")),
    K("heat-bushing", "Bushings stay tight when hot", "pedal", _least(0.0, 0.01)),
    K("heat-rotor", "Rotor not too hot", "pedal",
      _most(650.0, 500.0, "Our judgement: grey iron grows and cracks above about 600 °C, handbooks from memory", "°C")),
    K("heat-drum", "Drum not too hot", "pedal",
      _most(400.0, 300.0, "Our judgement: drum linings fade from about 300 °C, Limpert ch. 3 from memory", "°C")),
    K("heat-pads", "Pads within their temperatures", "pedal", _least(0.0, 50.0, unit="K")),
    K("not-shaped", "Shaped as asked", "bracket"),
    K("parking-bracket", "Parking adapter clear of bracket", "parking"),
    K("parking-adapter-to-caliper", "Parking adapter clear of caliper", "parking"),
    K("parking-clear-of-bracket", "Parking caliper off the bracket", "parking"),
    K("parking-apart", "Parking caliper off the caliper", "parking"),
    K("unsupported", "Kind of bracket", "bracket", made=True),
    K("unused-limit", "Limit that nothing reads", "job"),
    K("limit-not-accepted", "Limit that is not accepted", "job", made=True),
)  # fmt: skip
_BY_ID = {kind.id: kind for kind in KINDS}
_PLACE = {kind.id: place for place, kind in enumerate(KINDS)}

LIMITS: dict[str, Limit] = {
    **{kind.id: kind.limit for kind in KINDS if kind.limit is not None},
    **{name: limit for kind in KINDS for name, limit in kind.more},
}
"""Every limit by its name, which is the finding's id or that of a comparison inside one."""


@lru_cache(maxsize=256)
def kind_of(id: str) -> FindingKind:
    """Return the kind called ``id``; one asked of the parking-brake caliper is made from what any caliper is asked.

    Raises ``KeyError`` for a finding that nobody declared.
    """
    found = _BY_ID.get(id)
    if found is not None:
        return found
    base = _BY_ID[id.removeprefix(BESIDE)]
    title = f"Parking caliper: {base.title[0].lower()}{base.title[1:]}"
    return replace(base, id=id, title=title, group="parking", made=False, shaped=False, pushed=False, ligament=False)


def place_of(id: str) -> int:
    """Return where a finding stands in the list among those of equal verdict."""
    return _PLACE.get(id, _PLACE.get(id.removeprefix(BESIDE), len(KINDS)) + len(KINDS))

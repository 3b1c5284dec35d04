"""The limits that findings are judged by, and the allowances that go into them. A job may override any by its name."""

from bicentra.core.base.finding import Limit
from bicentra.core.parts.job import Job

PRACTICE = "Common practice, no published source"
ONE_SHOP = "Rule of thumb of one shop"

LIMITS: dict[str, Limit] = {
    "tip-gap": Limit(1.78, 2.03, source=f"{ONE_SHOP}: 0.080-0.100 in wanted, 0.070 in has survived"),
    "tip-gap-hot": Limit(0.5, 1.0, source=PRACTICE),
    "pad-overhang": Limit(
        1.6, 0.0, at_least=False, source="Common practice: flush to 1/8 in inside; some accept 1/16 in over"
    ),
    "pad-inset-most": Limit(3.175, 3.175, at_least=False, source="Common practice: flush to 1/8 in inside"),
    "pad-inner-edge": Limit(0.0, 1.0, source=PRACTICE),
    "slot-gap": Limit(0.5, 1.0, source=PRACTICE),
    "axial-offset": Limit(0.25, 0.25, at_least=False, source="Common practice: fixed caliper within 0.25 mm"),
    "axial-offset-floating": Limit(1.5, 1.5, at_least=False, source="Common practice: floating within 1.5 mm"),
    "shim-stack": Limit(3.0, 2.0, at_least=False, source="Common practice: one to four shims a bolt"),
    "pilot-clearance": Limit(1.5, 0.15, at_least=False, source=PRACTICE),
    "bolt-circle": Limit(0.3, 0.1, at_least=False, source=PRACTICE),
    "stud-hole-clearance": Limit(0.0, 0.2, source=PRACTICE),
    "hat-over-flange": Limit(0.25, 0.5, source=PRACTICE),
    "ligament": Limit(5.0, 8.0, source=PRACTICE),
    "counterbore-floor": Limit(4.0, 6.0, source=PRACTICE),
    "bushing-clock": Limit(1.0, 0.25, at_least=False, unit="°", source=PRACTICE),
    "slot-hold": Limit(0.0, 2.0, unit="", source="Common practice: two dowels, or a plate that cannot slip"),
    "chamfer-land": Limit(1.0, 2.0, source=PRACTICE),
    "dowel-metal": Limit(3.0, 5.0, source=PRACTICE),
    "cutout-metal": Limit(5.0, 8.0, source=PRACTICE),
    "edge-distance": Limit(1.0, 1.2, unit="× d", source="Common practice; EN 1993-1-8 asks 1.2 hole diameters"),
    "bolt-tip-to-rotor": Limit(2.0, 3.0, source=PRACTICE),
    "bolt-in-hole": Limit(0.1, 0.2, source=PRACTICE),
    "bolt-size": Limit(7.9, 9.5, source="Common practice: 3/8 in or M10, 5/16 in or M8 on the lightest"),
    "plate-thickness": Limit(0.5, 0.6, unit="× d", source=PRACTICE),
    "boss-metal": Limit(0.2, 0.4, unit="× d", source=PRACTICE),
    "caliper-to-rotor": Limit(1.0, 2.0, source=PRACTICE),
    "knuckle-to-rotor": Limit(2.0, 3.0, source=PRACTICE),
    "thread-engagement": Limit(1.0, 1.5, unit="× d", source="Common practice: 1 d in steel, 1.5 d in aluminium"),
    "bracket-to-rotor": Limit(2.0, 3.0, source=PRACTICE),
    "bracket-to-hub": Limit(2.0, 3.0, source=PRACTICE),
    "bracket-to-caliper": Limit(0.5, 0.5, source=PRACTICE),
    "bracket-to-obstacle": Limit(1.0, 2.0, source=PRACTICE),
    "caliper-to-obstacle": Limit(2.0, 3.0, source=PRACTICE),
    "bolt-head-room": Limit(0.5, 1.0, source=PRACTICE),
    "bleeder-up": Limit(45.0, 30.0, at_least=False, unit="°", source=PRACTICE),
    "lug-face-tilt": Limit(0.5, 0.2, at_least=False, unit="°", source=PRACTICE),
    "corner-mismatch": Limit(2.0, 0.3, at_least=False, source=PRACTICE),
    "rotor-runout": Limit(0.38, 0.13, at_least=False, source=f"{ONE_SHOP}: 0.002-0.005 in wanted, 0.015 in rejected"),
    "wheel-room": Limit(2.0, 3.0, source="Common practice: 3 mm wanted between caliper and wheel"),
    "wheel-room-hot": Limit(0.5, 1.0, source=PRACTICE),
    "float-travel": Limit(0.0, 1.5, source=f"{ONE_SHOP}: a pad is worn at 0.100 in, and 1/16 in to spare"),
    "caliper-removal": Limit(1.0, 1.0, source="Common practice: pads are changed with the bracket on"),
    "hose-room": Limit(10.0, 15.0, source="Common practice: a finger's width from anything that moves"),
    "radial-seat": Limit(4.0, 3.0, at_least=False, source="Common practice: a few shims, then a taller seat"),
    "retainer-reach": Limit(0.5, 1.0, source="Common practice: a socket has to go on straight"),
    "retainer-spacer": Limit(0.1, 0.05, at_least=False, source="Common practice: put back what was taken out"),
    "pilot-left": Limit(2.0, 3.0, source=PRACTICE),
    "wheel-stud-engagement": Limit(1.0, 1.25, unit="× d", source="Common practice: at least one stud diameter"),
}

ALLOWANCES: dict[str, float] = {
    "hot-rise-k": 400.0,
    "hub-clearance": 3.0,
    "rotor-clearance": 3.0,
    "corner-radius": 6.0,
    "caliper-rise-k": 100.0,
    "bearing-play": 0.5,
    "worn-pad": 2.54,
    "reach-room": 12.0,
}
"""Numbers that are not limits but go into one: heat of the rotor above cold [K], clearance cut into the plate [mm]."""


def limit_for(job: Job, name: str) -> Limit:
    """Return the limit ``name`` as this job sets it. An axial offset follows the caliper's action."""
    key = "axial-offset-floating" if name == "axial-offset" and job.caliper.action == "floating" else name
    override = job.limits.get(name, job.limits.get(key))
    base = LIMITS[key]
    # A limit that counts in diameters is overridden in millimetres by the finding that knows the diameter.
    return base if base.unit == "× d" else base.moved_to(override)


def limit_in_mm(job: Job, name: str, diameter: float, watch: float | None = None) -> Limit:
    """Return a limit that counts in diameters as millimetres for one ``diameter``; an override is in mm already.

    ``watch`` replaces the number of diameters wanted (for example 1.0 in steel, 1.5 in aluminium).
    """
    base = LIMITS[name]
    wanted = base.watch if watch is None else watch
    in_mm = Limit(base.stop * diameter, max(wanted, base.stop) * diameter, base.at_least, "mm", base.source)
    return in_mm.moved_to(job.limits.get(name))


def allowance(job: Job, name: str) -> float:
    """Return an allowance as this job sets it."""
    return float(job.limits.get(name, ALLOWANCES[name]))


def unknown_names(job: Job) -> tuple[str, ...]:
    """Return the names in the job's ``limits`` that nothing reads."""
    return tuple(name for name in job.limits if name not in LIMITS and name not in ALLOWANCES)

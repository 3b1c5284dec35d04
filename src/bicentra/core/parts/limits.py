"""The limits that findings are judged by, and the allowances that go into them. A job may override any by its name."""

from bicentra.core.base.limit import Limit
from bicentra.core.base.registry import LIMITS
from bicentra.core.parts.job import Job

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
    """Return an allowance as this job sets it [mm]."""
    return float(job.limits.get(name, ALLOWANCES[name]))


def unknown_names(job: Job) -> tuple[str, ...]:
    """Return the names in the job's ``limits`` that nothing reads."""
    return tuple(name for name in job.limits if name not in LIMITS and name not in ALLOWANCES)

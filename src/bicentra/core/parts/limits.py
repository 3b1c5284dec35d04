"""The limits that findings are judged by, and the allowances that go into them. A job may override any by its name."""

from bicentra.core.base.numbers import Pure
from bicentra.core.base.registry import LIMITS, FindingKind, Limit
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


ALLOWED: dict[str, tuple[float, float]] = {
    "hot-rise-k": (50.0, 1200.0), "hub-clearance": (0.5, 20.0), "rotor-clearance": (0.5, 20.0), "corner-radius": (0.0, 50.0),
    "caliper-rise-k": (0.0, 400.0), "bearing-play": (0.0, 5.0), "worn-pad": (0.5, 10.0), "reach-room": (5.0, 60.0),
}  # fmt: skip
"""Between which numbers a job may set each allowance. Our judgement: outside nothing is allowed for any more, or
everything is.
"""
LOOSER, TIGHTER, LEAST_BOLT_MM = 0.5, 20.0, 8.0
"""A job may halve a clearance, or double what may be at most; it may ask twenty times more. Of what counts in diameters the
smallest usual bolt is taken [mm]. Our judgement: past that the finding means nothing any more."""


def accepted(name: str) -> tuple[float, float]:
    """Return between which values a job may set the limit or allowance called ``name`` [its own unit; mm where it
    counts in diameters]; a clearance never below zero.
    """
    if name in ALLOWED:
        return ALLOWED[name]
    limit = LIMITS[name]
    stop = limit.stop * (LEAST_BOLT_MM if limit.unit == "× d" else 1.0)
    room = TIGHTER * max(abs(stop), abs(limit.watch), 1.0)
    if limit.at_least:
        return (stop * LOOSER if stop > 0 else stop), stop + room
    return min(0.0, stop), (stop / LOOSER if stop > 0 else stop)


def own_limit(job: Job, name: str) -> Pure | None:
    """Return the limit or allowance ``name`` as this job sets it; ``None`` where it does not, or may not."""
    value = job.limits.get(name)
    if value is None or (name not in LIMITS and name not in ALLOWANCES):
        return None
    low, high = accepted(name)
    return float(value) if low - 1e-9 <= value <= high + 1e-9 else None


def refused_names(job: Job) -> tuple[str, ...]:
    """Return the names in the job's ``limits`` whose value is not accepted."""
    known = (name for name in job.limits if name in LIMITS or name in ALLOWANCES)
    return tuple(name for name in known if own_limit(job, name) is None)


CHANGED = "Limit changed by this job"


def changed_limits(job: Job, kind: FindingKind) -> str:
    """Return which limits of a finding this job changes, as one sentence; empty where it changes none."""
    names = (kind.id, *(name for name, _ in kind.more), *INSIDE.get(kind.id, ()))
    text = [
        f"{name} {job.limits[name]:g} instead of {LIMITS[name].stop if name in LIMITS else ALLOWANCES[name]:g}"
        for name in names if own_limit(job, name) is not None
    ]  # fmt: skip
    return f"{CHANGED}: {', '.join(text)}." if text else ""


def limit_for(job: Job, name: str) -> Limit:
    """Return the limit ``name`` as this job sets it. An axial offset follows the caliper's action."""
    key = "axial-offset-floating" if name == "axial-offset" and job.caliper.action == "floating" else name
    override = own_limit(job, name) if name in job.limits else own_limit(job, key)
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
    return in_mm.moved_to(own_limit(job, name))


def allowance(job: Job, name: str) -> float:
    """Return an allowance as this job sets it [mm]."""
    own = own_limit(job, name)
    return ALLOWANCES[name] if own is None else own


INSIDE = {
    "tip-gap": ("hot-rise-k",), "wheel-room": ("caliper-rise-k",), "float-travel": ("worn-pad",), "retainer-reach": ("reach-room",),
    "bracket-to-hub": ("hub-clearance", "bearing-play"), "bracket-to-rotor": ("rotor-clearance",),
}  # fmt: skip
"""Allowances that go into a finding."""


def unknown_names(job: Job) -> tuple[str, ...]:
    """Return the names in the job's ``limits`` that nothing reads."""
    return tuple(name for name in job.limits if name not in LIMITS and name not in ALLOWANCES)

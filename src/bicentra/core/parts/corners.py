"""One corner's job out of a vehicle, and what was changed in it back into the vehicle it came from.

Both sides of an axle have frames of their own, x forward, y up and z outboard: a left corner is the mirror image of a right one
with the same numbers, so a design needs no turning over here; drawings and solids of a left corner are mirrored where they are
made.
"""

import contextlib
from collections.abc import Mapping
from functools import partial
from typing import Any

from bicentra.core.base.cache import IdentityCache
from bicentra.core.base.errors import JobError
from bicentra.core.base.records import replace
from bicentra.core.parts.edits import get_value, with_value
from bicentra.core.parts.fields import fields
from bicentra.core.parts.job import CORNERS, Hub, Job, Knuckle, Opposite
from bicentra.core.parts.survey import Survey
from bicentra.core.parts.vehicle import Axle, Corner, Vehicle

OF_AXLE = ("rotor", "caliper", "wheel", "fit", "bracket", "before", "parking")
"""Records that are designed for the axle."""
OF_CORNER = ("hub", "knuckle")
"""Records that are measured at the corner, and taken from the other side where they are not."""
_WITH_PARTS = IdentityCache[Survey]()
"""Surveys with the readings of their axle's parts: the very same record as long as both are."""
OF_VEHICLE = (
    "title",
    "notes",
    "display_units",
    "limits",
    "practice",
    "practice_run",
    "drawn_by",
    "checked_by",
    "issued",
    "photos",
)
"""What all corners share."""


def axle_of(corner: str) -> str:
    """Return the axle a corner belongs to."""
    return corner.split("-")[0]


def across(corner: str) -> str:
    """Return the corner at the other end of the same axle."""
    axle, side = corner.split("-")
    return f"{axle}-{'left' if side == 'right' else 'right'}"


def corners_of(vehicle: Vehicle) -> tuple[str, ...]:
    """Return the corners that something is known of, in their usual order; the one that is worked on is always among them."""
    return tuple(name for name in CORNERS if name in vehicle.corners or name == vehicle.corner)


def job_of(vehicle: Vehicle, corner: str = "") -> Job:
    """Return the job of one corner (default: the one that is worked on). Raises ``JobError`` for an override that fits
    nowhere.
    """
    name = corner or vehicle.corner
    axle, own = vehicle.axles.get(axle_of(name), Axle()), vehicle.corners.get(name, Corner())
    other = vehicle.corners.get(across(name), Corner())
    lent = tuple(record for record in OF_CORNER if getattr(own, record) is None and getattr(other, record) is not None)
    job = Job(
        corner=name,
        hub=own.hub or other.hub or Hub(),
        knuckle=own.knuckle or other.knuckle or Knuckle(),
        survey=_surveys(vehicle, name),
        trials=own.trials,
        exact=own.exact,
        borrowed=tuple(dict.fromkeys((*own.borrowed, *lent))),
        opposite=_opposite(own, other),
        **{record: getattr(axle, record) for record in OF_AXLE},
        **{key: getattr(vehicle, key) for key in OF_VEHICLE},
    )
    plain = job
    for path, value in own.overrides.items():
        try:
            if path.split(".")[0] not in OF_AXLE:
                raise KeyError(path)
            get_value(job, path)
            job = with_value(job, path, value)
        except KeyError:
            text = "a key path of the axle's design, such as fit.clock_deg"
            raise JobError(f"corners.{name}.overrides", f"“{path[:60]}”", text) from None
    unlike = _unlike(plain, own, other)
    job = replace(job, unlike=unlike) if unlike else job
    if job.opposite is None or not own.overrides:
        return job
    theirs = {path: get_value(plain, path) for path in own.overrides if get_value(plain, path) != get_value(job, path)}
    return replace(job, opposite=replace(job.opposite, overrides={**theirs, **other.overrides}))


def _unlike(plain: Job, own: Corner, other: Corner) -> tuple[str, ...]:
    """Return the key paths of the axle's design that one of its two corners has otherwise than the other."""
    if not own.overrides and not other.overrides:
        return ()
    found = []
    for path in sorted({*own.overrides, *other.overrides}):
        with contextlib.suppress(KeyError):
            usual = get_value(plain, path)
            if own.overrides.get(path, usual) != other.overrides.get(path, usual):
                found.append(path)
    return tuple(found)


def _opposite(own: Corner, other: Corner) -> Opposite | None:
    """Return what is written down of the corner ``other``; nothing while its lugs are nobody's measurement."""
    if other.knuckle is None or "knuckle" in other.borrowed:
        return None
    return Opposite(
        hub=other.hub or own.hub or Hub(), knuckle=other.knuckle, overrides=other.overrides, exact=other.exact
    )


def _surveys(vehicle: Vehicle, name: str) -> dict[str, Survey]:
    """Return every corner's readings, those of the axle's parts among those of its corners."""
    found = {}
    for corner in CORNERS:
        own = vehicle.corners.get(corner, Corner()).survey
        parts = vehicle.axles.get(axle_of(corner), Axle()).readings
        if own is not None:
            found[corner] = _WITH_PARTS.answer((own, parts), partial(replace, own, parts=parts)) if parts else own
        elif parts and corner == name:
            found[corner] = Survey(parts=parts)
    return found


def vehicle_of(job: Job) -> Vehicle:
    """Return a vehicle of which nothing is known but ``job``."""
    corners, there = {job.corner: Corner(hub=Hub(), knuckle=Knuckle())}, job.opposite
    if there is not None:
        own = Corner(hub=there.hub, knuckle=there.knuckle, overrides=dict(there.overrides), exact=there.exact)
        corners[across(job.corner)] = own
    blank = Vehicle(corner=job.corner, corners=corners)
    return with_job(blank, job_of(blank), job)


def with_job(vehicle: Vehicle, before: Job, after: Job) -> Vehicle:
    """Return ``vehicle`` with what changed from ``before`` to ``after`` (jobs of one corner) put where it belongs.

    What the corner overrides stays its own; the rest of a design goes to the axle, and so to the other corner too.
    """
    if after.corner != before.corner:
        vehicle = moved(vehicle, before.corner, after.corner)
    name = after.corner
    own = vehicle.corners.get(name, Corner())
    axle = vehicle.axles.get(axle_of(name), Axle())
    own = _corner_with(own, before, after)
    overrides = dict(own.overrides)
    for record in OF_AXLE:
        if getattr(after, record) is not getattr(before, record) and getattr(after, record) != getattr(before, record):
            designed = _designed(getattr(axle, record), getattr(after, record), record, overrides)
            axle = replace(axle, **{record: designed})
    own = replace(own, overrides=overrides) if overrides != own.overrides else own
    vehicle = replace(vehicle, **{key: getattr(after, key) for key in OF_VEHICLE})
    vehicle = replace(vehicle, axles={**vehicle.axles, axle_of(name): axle}, corners={**vehicle.corners, name: own})
    return _with_surveys(vehicle, before.survey, after.survey)


def _corner_with(own: Corner, before: Job, after: Job) -> Corner:
    """Return the corner with what was measured at it: a record that was borrowed becomes its own, and is known to be a copy."""
    for record in OF_CORNER:
        value = getattr(after, record)
        if value != getattr(before, record) or (record in before.borrowed and record not in after.borrowed):
            lent = getattr(own, record) is None and record in after.borrowed
            own = replace(own, **{record: value}, borrowed=(*own.borrowed, *((record,) if lent else ())))
    kept = tuple(record for record in own.borrowed if record in after.borrowed)
    return replace(own, borrowed=kept, exact=after.exact, trials=after.trials)


def _designed(axle: Any, after: Any, record: str, overrides: dict[str, Any]) -> Any:
    """Return the axle's record: as it is ``after``, but for what the corner overrides, which is noted in ``overrides``."""
    mine = [path for path in overrides if path.split(".")[0] == record]
    if not mine or after is None or axle is None:
        return after
    designed = after
    for path in mine:
        name = path.partition(".")[2].partition(".")[0].partition("[")[0]
        if name not in {of.name for of in fields(after)}:
            continue
        overrides[path] = get_value(Job(**{record: after}), path)
        designed = replace(designed, **{name: getattr(axle, name)})
    return designed


def _with_surveys(vehicle: Vehicle, before: Mapping[str, Survey], after: Mapping[str, Survey]) -> Vehicle:
    if after is before:
        return vehicle
    corners, axles = dict(vehicle.corners), dict(vehicle.axles)
    for name in {*before, *after}:
        one, other = before.get(name), after.get(name)
        if one is other or one == other:
            continue
        own = corners.get(name, Corner())
        bare = None if other is None else replace(other, parts=())
        corners[name] = replace(own, survey=None if bare == Survey() and own.survey is None else bare)
        if (one.parts if one is not None else ()) != (other.parts if other is not None else ()):
            axle = axles.get(axle_of(name), Axle())
            axles[axle_of(name)] = replace(axle, readings=other.parts if other is not None else ())
    return replace(vehicle, corners=corners, axles=axles)


def moved(vehicle: Vehicle, here: str, there: str) -> Vehicle:
    """Return ``vehicle`` worked on at another corner. While nothing else is known of it, what is known moves there."""
    known = [name for name in vehicle.corners if name != here]
    if known or here not in vehicle.corners:
        return replace(vehicle, corner=there)
    axles = {axle_of(there): vehicle.axles[axle_of(here)]} if axle_of(here) in vehicle.axles else {}
    return replace(vehicle, corner=there, corners={there: vehicle.corners[here]}, axles=axles)


def at_corner(vehicle: Vehicle, corner: str) -> Vehicle:
    """Return ``vehicle`` with another corner worked on; nothing else changes."""
    return replace(vehicle, corner=corner)

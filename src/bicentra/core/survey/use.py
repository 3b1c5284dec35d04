"""Taking a survey over into the job: the edits, and what each of them changes."""

import math

from bicentra.core.base.finding import Edit
from bicentra.core.base.records import Record, replace
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.job import Job, Obstacle
from bicentra.core.survey.corner import Surveyed, lug_of, seat_height

SIMULATED_TEXT = (
    "{} of the readings come from the simulated gauge: they are invented, and are used in no real job. "
    "Take them out, or measure."
)
ROUND, SAME_MM = 3, 0.005
"""Digits kept of a millimetre, far below any instrument here; and up to where a number counts as unchanged."""


class Change(Record, frozen=True):
    """One number that the survey puts in place of another: what it is, before, after, standard uncertainty [mm]."""

    what: str
    path: str
    before: float | None
    after: float
    sd: float


class Takeover(Record, frozen=True):
    """Everything a survey would change in the job. ``cautions`` say what speaks against it."""

    changes: tuple[Change, ...]
    edits: tuple[Edit, ...]
    cautions: tuple[str, ...]


def takeover(job: Job, here: Surveyed) -> Takeover:
    """Return what using ``here`` in ``job`` changes; numbers that would stay as they are are left out."""
    if here.survey.simulated and not job.practice:
        return Takeover((), (), (SIMULATED_TEXT.format(here.survey.simulated),))
    job, added, new = _with_new_lugs(job, here)
    found = [*_lugs(job, here), *_hub(here), *_parts(here)]
    changes = tuple(
        Change(what, path, _before(job, path), round(value, ROUND), sd)
        for what, path, value, sd in found
        if math.isfinite(value) and not _same(_before(job, path), value)
    )
    outlines = _obstacles(job, here)
    edits = (*added, *((change.path, change.after) for change in changes), *outlines, *_no_more_borrowed(job, found))
    cautions = []
    if here.suspects:
        cautions.append("A reading is named as wrong: settle it first, or every bracket cut from this is wrong too.")
    if here.adjusted is not None and here.adjusted.dof == 0:
        cautions.append("Nothing checks these readings yet.")
    if job.corner != here.corner:
        cautions.append(f"The job is set to {job.corner.replace('-', ' ')}: it will be turned to this corner.")
        edits = (("corner", here.corner), *edits)
    cautions += [
        f"{face.feature} is seated inboard: its thickness is needed to get from the face that was read to its seat."
        for face in here.faces
        if lug_of(job, face.feature) is not None and not face.fault and math.isnan(seat_height(job, face))
    ]
    cautions += [f"{name} is new to the job." for name in new]
    return Takeover(changes, edits, tuple(cautions))


def _same(before: float | None, value: float) -> bool:
    return before is not None and abs(before - value) < SAME_MM


def _before(job: Job, path: str) -> float | None:
    try:
        value = get_value(job, path)
    except KeyError:
        return None
    return float(value) if isinstance(value, int | float) else None


def _no_more_borrowed(job: Job, found: list[tuple[str, str, float, float]]) -> tuple[Edit, ...]:
    """Return the edit that makes the knuckle this corner's own, where the survey places every lug of it."""
    placed = {path for _, path, value, _ in found if math.isfinite(value)}
    wanted = {f"knuckle.lugs[{k}].{axis}" for k in range(len(job.knuckle.lugs)) for axis in ("x_mm", "y_mm", "z_mm")}
    if "knuckle" not in job.borrowed or not wanted or wanted - placed:
        return ()
    return (("borrowed", tuple(record for record in job.borrowed if record != "knuckle")),)


def _with_new_lugs(job: Job, here: Surveyed) -> tuple[Job, tuple[Edit, ...], tuple[str, ...]]:
    """Give unplaced lugs of the job the names of surveyed holes that stand for none yet, in their order."""
    lugs = list(job.knuckle.lugs)
    new = [
        feature.name
        for feature in here.survey.features
        if feature.kind == "round" and not feature.axis and not feature.obstacle
        and lug_of(job, feature.name) is None and here.place(feature.name) and here.face(feature.name) is not None
    ]  # fmt: skip
    named = []
    for name in new:
        spare = next((k for k, lug in enumerate(lugs) if lug.x_mm is None and lug.y_mm is None), None)
        if spare is not None:
            lugs[spare] = replace(lugs[spare], name=name)
            named.append(name)
    if not named:
        return job, (), ()
    changed = replace(job, knuckle=replace(job.knuckle, lugs=tuple(lugs)))
    return changed, (("knuckle.lugs", tuple(lugs)),), tuple(named)


Number = tuple[str, str, float, float]
"""What it is, its key path, the survey's value and its standard uncertainty [mm]."""


def _lugs(job: Job, here: Surveyed) -> list[Number]:
    found: list[Number] = []
    for feature in here.survey.features:
        k = lug_of(job, feature.name)
        if k is None:
            continue
        at = f"knuckle.lugs[{k}]"
        place = here.place(feature.name)
        if place is not None and here.adjusted is not None:
            spread = here.adjusted.spread(feature.name)
            found.append((f"{feature.name}, forward", f"{at}.x_mm", place[0], math.sqrt(spread[0, 0])))
            found.append((f"{feature.name}, up", f"{at}.y_mm", place[1], math.sqrt(spread[1, 1])))
        lug = job.knuckle.lugs[k]
        if lug.thread is None and lug.hole_mm is None:  # a plain hole that nobody has written down
            found += _hole(here, feature.name, at)
        face = here.face(feature.name)
        if face is not None and not face.fault:
            side = job.knuckle.lugs[k].seat
            found.append((f"{feature.name}, {side} seat", f"{at}.z_mm", seat_height(job, face), face.sd_z))
    return found


def _hole(here: Surveyed, name: str, at: str) -> list[Number]:
    """Return the diameter of a lug's hole, where the readings give it."""
    adjusted = here.adjusted
    if adjusted is None or name not in adjusted.network.diameters:
        return []
    size, column = adjusted.diameter(name), adjusted.size_column(name)
    sd = math.sqrt(float(adjusted.covariance[column, column]))
    return [(f"{name}, hole", f"{at}.hole_mm", size, sd)] if size else []


def _hub(here: Surveyed) -> list[Number]:
    axis, adjusted = here.survey.axis, here.adjusted
    if axis is None or adjusted is None or axis.name not in adjusted.network.diameters:
        return []
    size = adjusted.diameter(axis.name)
    column = adjusted.size_column(axis.name)
    sd = math.sqrt(float(adjusted.covariance[column, column]))
    return [("pilot diameter", "hub.pilot_diameter_mm", size, sd)] if size and "pilot" in axis.name.casefold() else []


def _parts(here: Surveyed) -> list[Number]:
    last = {result.recipe.path: result for result in here.parts if math.isfinite(result.value)}
    return [(r.recipe.title, path, r.value, r.sd) for path, r in last.items()]


def obstacle_points(here: Surveyed) -> dict[str, list[str]]:
    """Return the features that outline each obstacle, in the survey's order."""
    found: dict[str, list[str]] = {}
    for feature in here.survey.features:
        if feature.obstacle and feature.kind != "edge":
            found.setdefault(feature.obstacle, []).append(feature.name)
    return found


def _obstacles(job: Job, here: Surveyed) -> tuple[Edit, ...]:
    """Return the edits that give obstacles their surveyed outlines; three points at least, all of them known."""
    obstacles = list(job.knuckle.obstacles)
    for name, points in obstacle_points(here).items():
        places = [here.place(point) for point in points]
        if len(points) < 3 or any(place is None for place in places):
            continue
        outline = tuple((round(p[0], ROUND), round(p[1], ROUND)) for p in places if p is not None)
        k = next((k for k, obstacle in enumerate(obstacles) if obstacle.name == name), None)
        if k is None:
            obstacles.append(Obstacle(name=name, outline_mm=outline))
        else:
            obstacles[k] = replace(obstacles[k], outline_mm=outline)
    same = tuple(obstacles) == job.knuckle.obstacles
    return () if same else (("knuckle.obstacles", tuple(obstacles)),)

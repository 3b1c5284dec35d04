"""What a job must be before anything is computed from it: real numbers, possible parts, threads of the tables, so many
of each and no more.
"""

import math
from collections.abc import Iterator, Mapping
from functools import lru_cache
from typing import Any

from bicentra.core.base.errors import JobError
from bicentra.core.parts.bounds import (
    COINCIDENT_MM,
    MOST_FEATURES,
    MOST_LUGS,
    MOST_OBSTACLE_POINTS,
    MOST_POINTS,
    MOST_READINGS,
    check_number,
    check_outline,
    check_shapes,
    check_size,
)
from bicentra.core.parts.edits import get_value, with_value
from bicentra.core.parts.fields import Meaning, fields, is_described, meaning
from bicentra.core.parts.job import CORNERS, Caliper, Job, Knuckle, Lug, Obstacle, Rotor, Wheel
from bicentra.core.parts.limits import accepted, refused_names
from bicentra.core.parts.survey import INSTRUMENTS, Direction, Distance, Feature, Survey
from bicentra.core.parts.threads import SUNK_HEADS, THREADS, find_thread
from bicentra.core.parts.trial import GAPS, Trial

HAT_SLACK_MM = 0.01
"""A hat as wide as the swept band's inner edge is one; wider it cannot be."""


def validate(job: Job, trusted: Job | None = None) -> None:
    """Raise ``JobError`` with key path, what was found and what was expected for the first thing that cannot be.

    Records that ``job`` shares with an already validated ``trusted`` job are not looked at again one by one.
    """
    for path, of, value in leaves(job, "", trusted):
        check_value(path, of, value)
    _check_lists(job, trusted)
    _check_rotor_and_caliper(job)
    check_shapes(job, trusted)
    if trusted is None or trusted.survey is not job.survey:
        _check_surveys(job, trusted)
    if trusted is None or trusted.trials is not job.trials:
        check_trials(job.trials)
    if trusted is not None and trusted.knuckle is job.knuckle:
        return
    _check_lugs(job.knuckle.lugs)
    points = sum(len(obstacle.outline_mm) for obstacle in job.knuckle.obstacles)
    if points > MOST_OBSTACLE_POINTS:
        raise JobError("knuckle.obstacles", f"{points} points in all outlines", f"at most {MOST_OBSTACLE_POINTS}")
    for index, obstacle in enumerate(job.knuckle.obstacles):
        _check_obstacle(f"knuckle.obstacles[{index}]", obstacle)


def validate_part(kind: str, item: object) -> None:
    """Raise ``JobError`` for a part that cannot be, as it would be refused in a job."""
    for path, of, value in leaves(item, kind):
        check_value(path, of, value)
    lugs = (Lug(name="upper"), Lug(name="lower"))
    job = Job(knuckle=Knuckle(lugs=lugs))
    with_item = with_value(job, kind, item) if isinstance(item, Rotor | Caliper | Wheel) else job
    _check_lists(with_item)
    _check_rotor_and_caliper(with_item)
    check_shapes(with_item)


def _check_surveys(job: Job, trusted: Job | None) -> None:
    """Check every corner's readings, and that they speak of features that are there."""
    for corner, survey in job.survey.items():
        path = f"survey.{corner}"
        if corner not in CORNERS:
            raise JobError("survey", f"the corner “{_short(corner)}”", "one of " + ", ".join(CORNERS))
        before = trusted.survey.get(corner) if trusted is not None else None
        if before is survey:
            continue
        for here, of, value in leaves(survey, path, before):
            check_value(here, of, value)
        check_survey(path, survey)


def leaves(record: object, path: str, trusted: object = None) -> Iterator[tuple[str, Meaning, object]]:
    """Walk every described field of ``record``: (key path, meaning, value)."""
    for name, of in _described(record.__class__):  # type: ignore[arg-type]
        here = f"{path}.{name}" if path else name
        value = getattr(record, name)
        before = getattr(trusted, name, None)
        if before is value and value is not None:
            continue
        check_size(here, name, value)
        if is_described(value):
            yield from leaves(value, here, before)
        elif isinstance(value, tuple) and value and is_described(value[0]):
            for index, item in enumerate(value):
                yield from leaves(item, f"{here}[{index}]")
        elif isinstance(value, Mapping):
            yield from ((f"{here}.{key}", of, item) for key, item in value.items() if not is_described(item))
        else:
            yield here, of, value


@lru_cache(maxsize=64)
def _described(record: Any) -> tuple[tuple[str, Meaning], ...]:
    return tuple((of.name, meaning(of)) for of in fields(record) if of.name != "extra")


def check_value(path: str, of: Meaning, value: object) -> None:
    """Raise ``JobError`` for a value that its field's meaning does not allow."""
    if value is None:
        return
    if isinstance(value, int | float) and not isinstance(value, bool):
        check_number(path, of, float(value))
    elif of.choices and value not in of.choices:
        raise JobError(path, f"“{_short(value)}”", "one of " + ", ".join(of.choices))
    elif of.thread and find_thread(str(value)) is None:
        raise JobError(
            path,
            f"the thread “{_short(value)}”",
            f"a thread of the tables, such as {', '.join(list(THREADS)[:3])}",
        )


def _check_lists(job: Job, trusted: Job | None = None) -> None:
    lists: dict[str, tuple[tuple[float, ...] | None, float]] = {
        "caliper.pistons_inboard_mm": (job.caliper.pistons_inboard_mm, 1.0),
        "caliper.pistons_outboard_mm": (job.caliper.pistons_outboard_mm, 1.0),
        "caliper.bleeders_deg": (job.caliper.bleeders_deg, -720.0),
        "bracket.stock_mm": (job.bracket.stock_mm, 0.1),
        "bracket.shims_mm": (job.bracket.shims_mm, 0.0),
    }
    for path, (values, least) in lists.items():
        for index, value in enumerate(values or ()):
            check_number(f"{path}[{index}]", Meaning(path, least=least, most=1000.0), float(value))
    if job.bracket.stock_mm is not None and not job.bracket.stock_mm:
        raise JobError("bracket.stock_mm", "an empty list", "at least one thickness, or null for the usual stock")
    shims, lugs, walls = job.bracket.shims_mm, job.knuckle.lugs, job.bracket.boss_walls_mm
    if walls and len(walls) != len(lugs) + 2:
        raise JobError(
            "bracket.boss_walls_mm", f"{len(walls)} numbers", f"one for each of {len(lugs)} lugs and 2 ears, or none"
        )
    for index, wall in enumerate(walls):
        check_number(f"bracket.boss_walls_mm[{index}]", Meaning("wall", least=1.0, most=200.0), float(wall))
    for kind, bolt, path in (
        (job.bracket.lug_hole, job.bracket.lug_bolt, "bracket.lug_hole"),
        (job.bracket.caliper_hole, job.bracket.caliper_bolt, "bracket.caliper_hole"),
    ):
        thread = find_thread(bolt) if bolt else None
        if kind == "countersink" and thread is not None and thread.size not in SUNK_HEADS:
            raise JobError(
                path, f"a countersink for {bolt}", "another kind of hole: no countersunk screws are made in this size"
            )
    if len(job.fit.ear_shims_mm) not in (0, 2):
        raise JobError(
            "fit.ear_shims_mm",
            f"{len(job.fit.ear_shims_mm)} lists",
            "one list of shims for each of the 2 ears, or none",
        )
    for ear, pieces in enumerate(job.fit.ear_shims_mm):
        for index, value in enumerate(pieces):
            check_number(f"fit.ear_shims_mm[{ear}][{index}]", Meaning("shim", above=0.0, most=100.0), float(value))
    if shims is not None and len(shims) != len(lugs):
        raise JobError(
            "bracket.shims_mm",
            f"{len(shims)} numbers",
            f"one for each of the {len(lugs)} lugs, in their order",
        )
    for index, path in enumerate(job.exact):
        try:
            get_value(job, path)
        except KeyError:
            raise JobError(f"exact[{index}]", f"“{_short(path)}”", "the key path of a number of the job") from None
    for name, number in job.limits.items():
        check_number(f"limits.{name}", Meaning(name, least=-1000.0, most=10000.0), float(number))
    if trusted is not None and job.limits is not trusted.limits:  # typed now: what a file says is told as a finding
        for name in refused_names(job):
            if job.limits[name] != trusted.limits.get(name):
                low, high = accepted(name)
                raise JobError(f"limits.{name}", f"{job.limits[name]:g}", f"a number from {low:g} to {high:g}")


def _check_guessed(path: str, part: Rotor | Caliper | Wheel) -> None:
    """Raise ``JobError`` for a guess about something the part has not."""
    names = {of.name for of in fields(part)}
    for index, name in enumerate(part.guessed):
        if name not in names:
            raise JobError(f"{path}.guessed[{index}]", f"“{_short(name)}”", f"the name of a dimension of the {path}")


def _check_rotor_and_caliper(job: Job) -> None:
    rotor, caliper = job.rotor, job.caliper
    _check_guessed("rotor", rotor)
    _check_guessed("caliper", caliper)
    if job.wheel is not None:
        _check_guessed("wheel", job.wheel)
    _check_smaller(
        "rotor.swept_inner_diameter_mm",
        rotor.swept_inner_diameter_mm,
        "the rotor diameter",
        rotor.diameter_mm,
    )
    inner = rotor.swept_inner_diameter_mm
    for name in ("hat_inner_diameter_mm", "hat_outer_diameter_mm"):
        _check_smaller(f"rotor.{name}", getattr(rotor, name), "the rotor diameter", rotor.diameter_mm)
        beyond = None if inner is None else inner + HAT_SLACK_MM
        _check_smaller(f"rotor.{name}", getattr(rotor, name), "the swept band's inner diameter", beyond)
    _check_smaller(
        "rotor.hat_inner_diameter_mm", rotor.hat_inner_diameter_mm, "the hat's outside", rotor.hat_outer_diameter_mm
    )
    _check_smaller("rotor.bolt_circle_mm", rotor.bolt_circle_mm, "the rotor diameter", rotor.diameter_mm)
    _check_smaller("rotor.centre_bore_mm", rotor.centre_bore_mm, "the rotor diameter", rotor.diameter_mm)
    _check_smaller("rotor.min_thickness_mm", rotor.min_thickness_mm, "the new thickness", rotor.thickness_mm)
    _check_smaller("rotor.hat_thickness_mm", rotor.hat_thickness_mm, "the overall height", rotor.overall_height_mm)
    _check_smaller("rotor.thickness_mm", rotor.thickness_mm, "the caliper's slot width", caliper.slot_width_mm)
    pad_radius = None if rotor.diameter_mm is None else rotor.diameter_mm / 2 - (job.fit.pad_inset_mm or 0.0)
    _check_smaller("caliper.pad_height_mm", caliper.pad_height_mm, "the radius of the pad's outer edge", pad_radius)
    if caliper.pad_width_mm is not None and pad_radius is not None:
        _check_smaller(
            "caliper.pad_width_mm",
            caliper.pad_width_mm,
            "twice the radius of the pad's outer edge",
            2 * pad_radius,
        )


def _check_smaller(path: str, value: float | None, than: str, bound: float | None) -> None:
    if value is not None and bound is not None and value >= bound:
        raise JobError(path, f"{value:g}", f"less than {than}, {bound:g}")


def _check_lugs(lugs: tuple[Lug, ...]) -> None:
    if len(lugs) > MOST_LUGS:
        raise JobError("knuckle.lugs", f"{len(lugs)} lugs", f"0 to {MOST_LUGS}")
    for j, second in enumerate(lugs):
        for i, first in enumerate(lugs[:j]):
            if first.x_mm is None or first.y_mm is None or second.x_mm is None or second.y_mm is None:
                continue
            apart = math.hypot(first.x_mm - second.x_mm, first.y_mm - second.y_mm)
            if apart < COINCIDENT_MM:
                found = f"the same place as lugs[{i}] ({apart:.2f} mm apart)"
                raise JobError(f"knuckle.lugs[{j}]", found, f"lugs at least {COINCIDENT_MM:g} mm apart")


def _check_obstacle(path: str, obstacle: Obstacle) -> None:
    if not obstacle.outline_mm:
        raise JobError(f"{path}.outline_mm", "0 points", f"3 to {MOST_POINTS} points")
    check_outline(f"{path}.outline_mm", obstacle.outline_mm)
    low, high = obstacle.z_min_mm, obstacle.z_max_mm
    if low is not None and high is not None and low > high:
        raise JobError(f"{path}.z_min_mm", f"{low:g}", f"not more than z_max_mm, {high:g}")


def _short(value: object) -> str:
    shown = " ".join(str(value).split())
    return shown if len(shown) <= 60 else shown[:57] + "..."


MOST_MM = 5000.0


def check_survey(path: str, survey: Survey) -> None:
    """Raise ``JobError`` for the first thing in ``survey`` that cannot be; ``path`` is its key path."""
    features = _check_features(f"{path}.features", survey.features)
    for index, distance in enumerate(survey.distances):
        _check_distance(f"{path}.distances[{index}]", distance, features)
    for index, direction in enumerate(survey.directions):
        _check_direction(f"{path}.directions[{index}]", direction, features)
    for index, face in enumerate(survey.faces):
        _known(f"{path}.faces[{index}].feature", face.feature, features)
    for name, sd in survey.instruments.items():
        if name not in INSTRUMENTS:
            raise JobError(f"{path}.instruments.{name[:40]}", f"“{name[:40]}”", "one of " + ", ".join(INSTRUMENTS))
        _check_sd(f"{path}.instruments.{name}", sd)
    counted = len(survey.distances) + len(survey.directions)
    if counted > MOST_READINGS:
        raise JobError(f"{path}.distances", f"{counted} readings", f"at most {MOST_READINGS}")
    for index, part in enumerate(survey.parts):
        for name, value in part.values_mm.items():
            if value is not None and not abs(value) <= MOST_MM:
                raise JobError(f"{path}.parts[{index}].values_mm.{name}", str(value), f"a number within ±{MOST_MM:g}")


def _check_features(path: str, features: tuple[Feature, ...]) -> dict[str, Feature]:
    if len(features) > MOST_FEATURES:
        raise JobError(path, f"{len(features)} features", f"at most {MOST_FEATURES}")
    found: dict[str, Feature] = {}
    for index, feature in enumerate(features):
        here = f"{path}[{index}]"
        if not feature.name.strip():
            raise JobError(f"{here}.name", "nothing", "a name")
        if feature.name in found:
            raise JobError(f"{here}.name", f"“{feature.name}” a second time", "a name of its own for each feature")
        if feature.axis and any(other.axis for other in found.values()):
            raise JobError(f"{here}.axis", "a second feature on the axis", "one feature on the axis")
        if feature.axis and feature.kind == "edge":
            raise JobError(f"{here}.kind", "an edge on the axis", "a round feature on the axis")
        if feature.sd_mm is not None:
            _check_sd(f"{here}.sd_mm", feature.sd_mm)
        found[feature.name] = feature
    return found


def _known(path: str, name: str, features: dict[str, Feature]) -> Feature:
    if name not in features:
        raise JobError(path, f"“{name}”", "the name of a feature: " + (", ".join(features) or "there is none yet"))
    return features[name]


def _check_distance(path: str, distance: Distance, features: dict[str, Feature]) -> None:
    first = _known(f"{path}.from", distance.from_, features)
    second = _known(f"{path}.to", distance.to, features)
    if first.name == second.name:
        raise JobError(f"{path}.to", f"“{second.name}” at both ends", "two different features")
    if first.kind == "edge" and second.kind == "edge":
        raise JobError(f"{path}.to", "two edges", "a distance with at least one hole, boss or point")
    if distance.sd_mm is not None:
        _check_sd(f"{path}.sd_mm", distance.sd_mm)


def _check_direction(path: str, direction: Direction, features: dict[str, Feature]) -> None:
    first = _known(f"{path}.from", direction.from_, features)
    second = _known(f"{path}.to", direction.to, features)
    own = first.name == second.name
    if own and first.kind != "edge":
        raise JobError(f"{path}.to", f"“{second.name}” at both ends", "two different features, or one edge")
    if not own and "edge" in (first.kind, second.kind):
        raise JobError(f"{path}.to", "an edge at one end", "two holes or points, or the same edge at both ends")
    if direction.sd_deg is not None:
        _check_sd(f"{path}.sd_deg", direction.sd_deg)


def _check_sd(path: str, value: float) -> None:
    if not math.isfinite(value) or value <= 0:
        raise JobError(path, f"{value:g}", "a number above 0")


MOST_SHIM_MM = 50.0


def check_trials(trials: tuple[Trial, ...]) -> None:
    """Raise ``JobError`` for the first thing in ``trials`` that cannot be."""
    for index, trial in enumerate(trials):
        path = f"trials[{index}]"
        for name, stacks in (("shims_mm", trial.shims_mm), ("ear_shims_mm", trial.ear_shims_mm)):
            for side, shims in zip(("first", "second"), stacks.sides):
                for place, thick in enumerate(shims):
                    if thick is not None:
                        of = Meaning("shim", least=0.0, most=MOST_SHIM_MM)
                        check_number(f"{path}.{name}.{side}[{place}]", of, float(thick))
        for name, band in trial.bands_mm.items():
            if name not in GAPS:
                raise JobError(f"{path}.bands_mm", f"“{name[:40]}”", "one of " + ", ".join(GAPS))
            for end in (band.least, band.most):
                if end is not None:
                    check_number(f"{path}.bands_mm.{name}", Meaning("gap", least=0.0, most=500.0), float(end))
            if band.least is not None and band.most is not None and band.most < band.least:
                raise JobError(
                    f"{path}.bands_mm.{name}.most", f"{band.most:g} below least {band.least:g}", "at least as much"
                )

"""What a survey must be: readings of features that are there, instruments that are known, numbers that can be."""

import math

from bicentra.core.base.errors import JobError
from bicentra.core.parts.sizes import MOST_FEATURES, MOST_READINGS
from bicentra.core.parts.survey import INSTRUMENTS, Direction, Distance, Feature, Survey

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

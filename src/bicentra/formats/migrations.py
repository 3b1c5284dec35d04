"""Older job files made new, one version after the other: each link takes the plain object of one version to the next."""

from collections.abc import Callable
from typing import Any

CURRENT = 2
AXLE_KEYS = ("rotor", "caliper", "wheel", "fit", "bracket", "before", "parking")
CORNER_KEYS = ("hub", "knuckle", "exact")
WHOLE_KEYS = ("format", "version", "title", "notes", "display_units", "corner", "limits", "practice")


def _to_vehicle(raw: dict[str, Any]) -> dict[str, Any]:
    """Version 1, one corner with everything at the top, becomes a vehicle. Nothing is judged here, and nothing is lost."""
    asked = raw.get("corner", "front-right")
    corner = asked if isinstance(asked, str) and asked.count("-") == 1 else "front-right"
    corners: dict[str, Any] = {corner: {key: raw[key] for key in CORNER_KEYS if key in raw}}
    corners[corner].setdefault("hub", {})
    axle = {key: raw[key] for key in AXLE_KEYS if key in raw}
    _surveys(raw.get("survey"), corner, corners, axle)
    _trials(raw.get("trials"), corner, corners)
    moved = {*AXLE_KEYS, *CORNER_KEYS, "survey", "trials"}
    kept = {key: value for key, value in raw.items() if key not in moved}
    return {**kept, "version": 2, "axles": {corner.split("-")[0]: axle}, "corners": corners}


def _surveys(raw: Any, corner: str, corners: dict[str, Any], axle: dict[str, Any]) -> None:
    """Every corner gets its survey; readings of donor parts go to the axle they are of."""
    for name, survey in raw.items() if isinstance(raw, dict) else ():
        own = dict(survey) if isinstance(survey, dict) else survey
        if isinstance(own, dict) and name.split("-")[0] == corner.split("-")[0] and "parts" in own:
            parts = own.pop("parts")
            if name == corner or "readings" not in axle:
                axle["readings"] = parts
        corners.setdefault(name, {})["survey"] = own
    if raw is not None and not isinstance(raw, dict):
        corners[corner]["survey"] = raw


def _trials(raw: Any, corner: str, corners: dict[str, Any]) -> None:
    for trial in raw if isinstance(raw, list) else ():
        name = trial.get("corner", corner) if isinstance(trial, dict) else corner
        corners.setdefault(name if isinstance(name, str) else corner, {}).setdefault("trials", []).append(trial)


LINKS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: _to_vehicle}
"""The link from each version to the next."""


def migrated(raw: dict[str, Any]) -> dict[str, Any]:
    """Return ``raw`` as the current version has it; ``raw`` itself is left as it is."""
    while raw.get("version") in LINKS and raw["version"] != CURRENT:
        raw = LINKS[raw["version"]](raw)
    return raw


def as_of(path: str, version: int) -> str:
    """Return a key path of the current version as the file of ``version`` has it, for messages."""
    if version >= CURRENT:
        return path
    first, *rest = path.split(".")
    if first == "axles" and len(rest) > 1:
        return ".".join(rest[1:]).replace("readings", "survey.parts")
    if first == "corners" and len(rest) > 1:
        return ".".join(rest[1:]) if rest[1].partition("[")[0] != "survey" else ".".join(("survey", rest[0], *rest[2:]))
    return path

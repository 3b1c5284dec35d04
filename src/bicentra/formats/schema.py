"""The JSON Schema of the job file, from the same field descriptions that validate it."""

from typing import Any

import msgspec

from bicentra.core.parts import attachments, brakes, job, library, rotor, survey, trial, vehicle, wheel
from bicentra.core.parts.fields import Meaning, fields, is_described_kind, meaning
from bicentra.core.parts.threads import THREADS
from bicentra.formats.records import CURRENT, key_of


def job_schema() -> dict[str, Any]:
    """Return the JSON Schema (2020-12) of the current job file; unknown keys are allowed and kept."""
    schema = msgspec.json.schema(vehicle.Vehicle)
    for name, described in schema.get("$defs", {}).items():
        record = _record(name)
        if is_described_kind(record):
            _describe(described, record)
    whole = schema["$defs"]["Vehicle"]
    whole["properties"]["format"] = {"const": "bicentra.job"}
    whole["properties"]["version"] = {"const": CURRENT}
    whole["required"] = ["format", "version"]
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"Bicentra job, version {CURRENT}",
        **schema,
    }


def part_schema() -> dict[str, Any]:
    """Return the JSON Schema (2020-12) of a part file; unknown keys are allowed and kept."""
    schema = msgspec.json.schema(library.Part)
    for name, described in schema.get("$defs", {}).items():
        record = _record(name)
        if is_described_kind(record):
            _describe(described, record)
    whole = schema["$defs"]["Part"]
    whole["properties"]["format"] = {"const": "bicentra.part"}
    whole["properties"]["version"] = {"const": 1}
    whole["required"] = ["format", "version"]
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Bicentra part, version 1",
        **schema,
    }


def _record(name: str) -> object:
    """Return the record called ``name``, wherever it lives."""
    homes = (vehicle, job, survey, trial, attachments, library, wheel, rotor, brakes)
    return next((getattr(home, name) for home in homes if hasattr(home, name)), None)


def _describe(described: dict[str, Any], record: type) -> None:
    properties = described["properties"]
    properties.pop("extra", None)
    described["additionalProperties"] = True
    for of in fields(record):
        if of.name in properties:
            properties[of.name].update(_constraints(meaning(of)))
            properties[key_of(of.name)] = properties.pop(of.name)
    if "required" in described:
        described["required"] = [key_of(name) for name in described["required"]]


def _constraints(of: Meaning) -> dict[str, Any]:
    """Return what the schema says about one field beyond its type."""
    said: dict[str, Any] = {"description": f"{of.label}. {of.help}".rstrip(". ")}
    bounds = {"exclusiveMinimum": of.above, "minimum": of.least, "maximum": of.most}
    said.update({key: value for key, value in bounds.items() if value is not None})
    if of.choices:
        said["enum"] = [*of.choices, None]
    if of.thread:
        said["examples"] = list(THREADS)
    return said

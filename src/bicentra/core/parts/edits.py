"""Key paths: changing one value of a job, and what a key path is called where a person reads."""

import re
from collections.abc import Mapping
from typing import Any, TypeVar

from bicentra.core.base.finding import Edit
from bicentra.core.base.records import replace
from bicentra.core.parts.fields import is_described
from bicentra.core.parts.job import Job

Whole = TypeVar("Whole")
_STEP = re.compile(r"([A-Za-z_][\w-]*)|\[(\d+)\]")

_RESERVED = {"from": "from_"}


def split_path(path: str) -> list[str | int]:
    """Return the steps of ``survey.front-left.faces[0].sd_mm``: names, keys and list places."""
    return [_RESERVED.get(name, name) or int(place) for name, place in _STEP.findall(path)]


def get_value(job: object, path: str) -> Any:
    """Return the value at ``path`` of a job, or of a whole vehicle. Raises ``KeyError`` when there is no such place."""
    here: Any = job
    for step in split_path(path):
        try:
            here = here[step] if isinstance(step, int) or isinstance(here, Mapping) else getattr(here, step)
        except (AttributeError, IndexError, KeyError, TypeError):
            raise KeyError(path) from None
    return here


def with_value(job: Whole, path: str, value: object) -> Whole:
    """Return ``job``, or a whole vehicle, with ``value`` at ``path``; the rest is shared. Raises ``KeyError`` for a
    wrong path.
    """
    changed: Whole = _changed(job, split_path(path), value, path)
    return changed


def with_edits(job: Job, edits: tuple[Edit, ...]) -> Job:
    """Return ``job`` with every edit carried out in order."""
    for path, value in edits:
        job = with_value(job, path, value)
    return job


def _changed(here: Any, steps: list[str | int], value: object, path: str) -> Any:
    if not steps:
        return value
    first, rest = steps[0], steps[1:]
    if isinstance(first, int):
        if not isinstance(here, tuple) or first >= len(here):
            raise KeyError(path)
        return (*here[:first], _changed(here[first], rest, value, path), *here[first + 1 :])
    if isinstance(here, Mapping):
        if rest and first not in here:
            raise KeyError(path)
        return {**here, first: _changed(here.get(first), rest, value, path)}
    if not is_described(here) or not hasattr(here, first):
        raise KeyError(path)
    return replace(here, **{first: _changed(getattr(here, first), rest, value, path)})


_PATH = re.compile(r"^(?P<path>[a-z_]\w*(?:\.[\w-]+|\[\d+\])+): ")
STACK = re.compile(r"^stack:(lug|ear):(first|second)$")


def label_at(whole: object, path: str) -> str:
    """Return what the field at ``path`` of a job or a vehicle is called: ``rotor: diameter``, ``upper lug: up from the axle``."""
    stack = STACK.match(path)
    if stack:
        return f"shims at the {'leading' if stack[2] == 'first' else 'trailing'} {stack[1]}"
    here: Any = whole
    owner, label = "", ""
    before: str | int = ""
    for step in split_path(path):
        if isinstance(step, int):
            here = here[step] if isinstance(here, tuple) and step < len(here) else None
            owner, label = getattr(here, "name", "") or owner, f"{label.removesuffix('s')} {step + 1}"
        elif isinstance(here, Mapping):
            here, label = here.get(step), _plain(step)
        else:
            of = here.described.get(step) if is_described(here) else None
            owner = owner if isinstance(before, int) and owner else label
            label = of.meaning.label if of is not None and of.meaning is not None and of.meaning.label else _plain(step)
            here = getattr(here, step, None)
        before = step
    owner = owner if owner and owner.lower() not in label.lower() else ""
    text = f"{owner}: {label[:1].lower()}{label[1:]}" if owner else label
    return text[:1].lower() + text[1:]


def spoken(whole: object, message: str) -> str:
    """Return an error's text with the key path it begins with, if any, as a person calls it."""
    found = _PATH.match(message)
    return f"{label_at(whole, found['path'])}: {message[found.end() :]}" if found else message


def _plain(step: str | int) -> str:
    words = str(step).strip("_")
    for unit in ("_mm", "_deg", "_kg", "_nm", "_n"):
        words = words.removesuffix(unit)
    return words.replace("_", " ")

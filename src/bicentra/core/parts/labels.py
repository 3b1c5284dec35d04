"""What a key path is called where a person reads: the field's own label with the part it belongs to, never the path itself."""

import re
from collections.abc import Mapping
from typing import Any

from bicentra.core.parts.edits import split_path
from bicentra.core.parts.fields import is_described

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

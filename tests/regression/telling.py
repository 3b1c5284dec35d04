"""A record of the core as lines that a person can read and compare: names, words, and numbers to a ten-thousandth."""

import math
import re
from collections.abc import Iterable, Iterator, Mapping
from enum import Enum

import numpy as np
import shapely

from bicentra.core.base.finding import Finding
from bicentra.core.base.records import names_in
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.model import Family
from bicentra.core.drawing.model import Drawing
from bicentra.core.geometry.outline import Outline
from bicentra.core.parts.job import Job
from bicentra.core.parts.threads import Thread

DIGITS, SHORT, DEEPEST = 4, 8, 4
"""Digits of a number; so many numbers stand in a line, more are told by their ends; how deep records in records are told."""
NUMBER = re.compile(r"-?\d+(?:\.\d+)?")
SHARE, LEAST = 1e-6, 2e-4
"""How far two numbers that are alike may differ: as a share, and at least."""


def number(value: float) -> str:
    """Return a number without a tail of noughts; what is unknown is told so."""
    if not math.isfinite(value):
        return "unknown" if math.isnan(value) else str(value)
    text = f"{value:.{DIGITS}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def is_plain(thing: object) -> bool:
    """Tell whether a thing is one word or one number."""
    return isinstance(thing, bool | Enum | str | int | float | np.number)


def word(thing: object) -> str:
    """Return one word or number."""
    return str(thing) if isinstance(thing, bool | Enum | str) else number(float(thing))  # type: ignore[arg-type]


def row(thing: Iterable[object]) -> str:
    """Return a few words and numbers in one line."""
    return ", ".join(
        f"({row(one)})" if isinstance(one, tuple | list) else "none" if one is None else word(one) for one in thing
    )


def many(values: np.ndarray) -> str:
    """Return an array: its numbers where they are few, else how many they are and where they end."""
    if values.size <= SHORT:
        return row(values.ravel().tolist())
    known = values[np.isfinite(values)] if values.dtype.kind == "f" else values
    if values.dtype.kind == "b" or not known.size:
        return f"{values.shape}, {int(np.count_nonzero(known))} set"
    return f"{values.shape}, {known.size} known, {number(float(known.min()))} to {number(float(known.max()))}, mean {number(float(known.mean()))}"


def shape_text(shape: shapely.Geometry) -> str:
    """Return an outline or area by how much it is and where it lies."""
    if shape.is_empty:
        return "nothing"
    return f"area {number(shape.area)}, {number(shape.length)} round, within {row(shape.bounds)}"


def told(name: str, thing: object, depth: int = 0) -> Iterator[str]:
    """Yield the lines of one thing; what is empty has none, and what the job itself says is left out."""
    space = "  " * depth
    if thing is None or isinstance(thing, Job | Family | LengthFormat) or (not is_plain(thing) and _is_empty(thing)):
        return
    if is_plain(thing):
        yield f"{space}{name}: {word(thing)}"
    elif isinstance(thing, Thread):
        yield f"{space}{name}: {thing.name}"
    elif isinstance(thing, Finding):
        yield from (space + line for line in finding_lines(thing))
    elif isinstance(thing, Drawing):
        yield from (space + line for line in drawing_lines(name, thing))
    elif isinstance(thing, np.ndarray):
        yield f"{space}{name}: {many(thing)}"
    elif isinstance(thing, Outline | shapely.Geometry):
        area = shapely.Polygon(thing.polygon(0.05)) if isinstance(thing, Outline) else thing
        yield f"{space}{name}: {shape_text(area)}"
    elif isinstance(thing, Mapping):
        for key in sorted(thing, key=str):
            yield from told(f"{name} {key}", thing[key], depth)
    elif isinstance(thing, list | tuple | set | frozenset):
        yield from _several(name, sorted(thing, key=str) if isinstance(thing, set | frozenset) else list(thing), depth)
    elif depth < DEEPEST:
        yield from _record(name, thing, depth)


def _is_empty(thing: object) -> bool:
    return isinstance(thing, str | tuple | list | Mapping | set | frozenset) and not thing


def _several(name: str, things: list[object], depth: int) -> Iterator[str]:
    space = "  " * depth
    if all(
        one is None or is_plain(one) or (isinstance(one, tuple) and all(is_plain(x) for x in one)) for one in things
    ):
        if all(isinstance(one, str) for one in things) and sum(len(str(one)) for one in things) > 100:
            yield from (f"{space}{name}: {one}" for one in things)
        elif len(things) > 3 * SHORT and all(isinstance(one, int | float) for one in things):
            yield f"{space}{name}: {many(np.array(things, dtype=float))}"
        elif len(things) > 3 * SHORT:
            flat = np.array([x for one in things if isinstance(one, tuple) for x in one if isinstance(x, int | float)])
            yield f"{space}{name}: {len(things)} of them, {many(flat)}"
        else:
            yield f"{space}{name}: {row(things)}"
        return
    for one in things:
        yield from told(name, one, depth)


def _record(name: str, thing: object, depth: int) -> Iterator[str]:
    fields = [(of, getattr(thing, of)) for of in names_in(thing)]
    plain = [f"{of} {word(one)}" for of, one in fields if is_plain(one) and one != ""]
    if fields:
        yield "  " * depth + f"{name}: " + ", ".join(plain)
    for of, one in fields:
        if not is_plain(one):
            yield from told(of, one, depth + 1)


def finding_lines(finding: Finding) -> Iterator[str]:
    """Yield a finding as it is read, with what it is the worst of and what helps."""
    limit = f" against {number(finding.limit)}" if math.isfinite(finding.limit) else ""
    yield f"{finding.verdict.value} {finding.id}: {number(finding.value)}{limit} {finding.unit}; {finding.why}".rstrip()
    doubt = [f"± {number(finding.sd)}"] if math.isfinite(finding.sd) and finding.sd else []
    doubt += [f"band {row(finding.band)}"] if finding.band is not None else []
    doubt += [finding.statement] if finding.statement else []
    if doubt:
        yield f"  {', '.join(doubt)}"
    yield from (f"  to fix: {one.action}; {'; '.join(one.side_effects)}".rstrip("; ") for one in finding.remedies)


def drawing_lines(name: str, drawing: Drawing) -> Iterator[str]:
    """Yield a drawing: how much is drawn in which ink, where it lies, and every text with its place."""
    inks: dict[str, int] = {}
    for shape in drawing.shapes:
        inks[shape.ink] = inks.get(shape.ink, 0) + 1
    drawn = ", ".join(f"{count} {ink}" for ink, count in sorted(inks.items()))
    yield f"{name}: {drawn or 'nothing'}; within {row(drawing.bounds)}; {len(drawing.handles)} handles"
    middle = [
        sum(edge) / 2
        for shape in drawing.shapes
        for edge in ((shape.bounds[0], shape.bounds[2]), (shape.bounds[1], shape.bounds[3]))
    ]
    if middle:
        yield f"  middles of the shapes: {many(np.array(middle))}"
    yield from (f"  {one.text} from {row(one.a)} to {row(one.b)}" for one in drawing.dimensions)
    yield from (f"  {one.text} at {row(one.at)}" for one in drawing.notes)


def unlike(now: list[str], before: list[str]) -> list[str]:
    """Return the lines that differ, as a person would mark them: ``-`` as it was, ``+`` as it is; numbers may differ by rounding."""
    found = [f"{len(before)} lines have become {len(now)}"] if len(now) != len(before) else []
    for one, other in zip(now, before):
        if one != other and not _alike(one, other):
            found += [f"- {other}", f"+ {one}"]
    return found


def _alike(one: str, other: str) -> bool:
    if NUMBER.sub("#", one) != NUMBER.sub("#", other):
        return False
    pairs = zip(NUMBER.findall(one), NUMBER.findall(other))
    return all(math.isclose(float(a), float(b), rel_tol=SHARE, abs_tol=LEAST) for a, b in pairs)

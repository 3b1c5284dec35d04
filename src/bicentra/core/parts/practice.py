"""A practice run: which corner, and what has been asked of it and done to it so far. What is hidden follows from its seed."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.base.quantities import NUMBER
from bicentra.core.parts import fields as f
from bicentra.core.parts.fields import Declared, Meaning

Extra = Mapping[str, Any]


def _plain(label: str) -> Any:
    return Declared(0.0, Meaning(label, NUMBER, least=0.0, most=1e6))


class PracticeStep(f.Described):
    """One thing that was done in a run: which, its minutes, what it showed. ``trial``: at which trial, counted from 0."""

    kind: str = f.choice("Kind", ("read", "inspect", "set", "move"), "read")
    name: str = f.text("What")
    minutes: float = _plain("Minutes")
    showed: str = f.text("What it showed")
    trial: int = f.count("Trial", 0, 10**6, 0)
    extra: Extra = f.other_keys()


class PracticeRun(f.Described):
    """One run. ``asked`` and ``deeds``: every reading and inspection with the trial it was at; ``done``: faults that are cured;
    ``steps``: all of it in order. ``given_up``: the answer was shown before the corner was locked.
    """

    seed: int = f.count("Corner", 0, 10**9, 1)
    level: int = f.count("Level", 1, 3, 1)
    minutes: float = _plain("Minutes so far")
    moves: int = f.count("Changes of shims", 0, 10**6, 0)
    asked: tuple[str, ...] = ()
    deeds: tuple[str, ...] = ()
    done: tuple[str, ...] = ()
    steps: tuple[PracticeStep, ...] = ()
    ended: bool = False
    given_up: bool = False
    extra: Extra = f.other_keys()

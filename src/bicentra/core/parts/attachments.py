"""What is kept with a job: photos, papers given out, a practice run, the brake that came off."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.base.quantities import NUMBER
from bicentra.core.base.records import field
from bicentra.core.parts import fields as f
from bicentra.core.parts.brakes import Caliper, Drum
from bicentra.core.parts.fields import Declared, Meaning
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.wheel import Wheel


class Photo(f.Described):
    """One photo. ``file``: its name in the folder beside the job; ``of``: a corner, a reading after its
    corner and a colon, or empty for the whole vehicle."""

    file: str = f.text("File")
    of: str = f.text("Of")
    note: str = f.text("Note")
    date: str = f.text("Date")
    extra: Mapping[str, Any] = f.other_keys()


class Issued(f.Described):
    """One revision of one corner's bracket. ``sizes``: every size of its parts by name [mm, mm2];

    ``changed``: since the one before.
    """

    corner: str = f.text("Corner")
    revision: str = f.text("Revision")
    date: str = f.text("Date")
    changed: str = f.text("What changed")
    material: str = f.text("Material")
    sizes: Mapping[str, float] = field(default_factory=dict)
    extra: Mapping[str, Any] = f.other_keys()


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


class OriginalBrake(f.Described):
    """The corner as it was: its rotor and caliper or its drum, its wheel where it had them, and what else came off it."""

    rotor: Rotor | None = None
    caliper: Caliper | None = None
    wheel: Wheel | None = None
    drum: Drum | None = None
    bracket_ear_mm: float | None = f.length("Ears of the original caliper bracket, thickness", most=100.0)
    bracket_ear_hole_mm: float | None = f.length("Holes in the original caliper bracket", most=100.0)
    bracket_ear_thread: str | None = f.thread("Thread in the original caliper bracket", help="Empty for plain holes")
    clock_deg: float | None = f.angle("Clock angle of the original caliper")
    other_mass_kg: float | None = f.mass("Other things taken off")
    what: str = f.text("What they were")
    extra: Mapping[str, Any] = f.other_keys()

"""What came off the vehicle: kept beside the job, to lay old and new side by side and to weigh them."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.parts import fields as f
from bicentra.core.parts.caliper import Caliper
from bicentra.core.parts.drum import Drum
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.wheel import Wheel


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

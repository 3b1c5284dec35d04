"""Banjo bolts and their crush washers. Sizes and pairings: common practice of the trade, no published source."""

from bicentra.core.base.records import Record
from bicentra.core.parts.threads import find_thread


class Banjo(Record, frozen=True):
    """A banjo bolt by its thread, the crush washers beside it [mm] (inside, outside, thickness), its usual torque [N·m]."""

    thread: str
    washer_inner: float
    washer_outer: float
    washer_thickness: float
    torque: float


BANJOS: dict[str, Banjo] = {
    banjo.thread: banjo
    for banjo in (
        Banjo("M10x1", 10.0, 14.0, 1.0, 20.0),
        Banjo("M10x1.25", 10.0, 14.0, 1.0, 20.0),
        Banjo("3/8-24", 10.0, 15.0, 1.5, 20.0),
        Banjo("7/16-20", 11.5, 17.5, 1.5, 27.0),
    )
}


def enters_loosely(bolt: str, port: str) -> bool:
    """Tell whether ``bolt`` goes into ``port`` though it is another thread: nearly the same pitch, a little smaller across.

    A 3/8-24 goes into an M10x1 and holds by a few edges of thread. Raises ``KeyError`` for a thread that is none.
    """
    one, other = find_thread(bolt), find_thread(port)
    if one is None or other is None:
        raise KeyError(bolt if one is None else port)
    return one.name != other.name and 0.0 <= other.major - one.major < 1.0 and abs(one.pitch - other.pitch) < 0.1

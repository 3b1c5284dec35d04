"""From the pointer's way to a number: the arithmetic of taking hold of a handle. No widgets here."""

import math

from bicentra.core.base.records import Record
from bicentra.core.drawing.model import Handle
from bicentra.core.geometry.outline import Point


class Drag(Record, frozen=True):
    """A handle being moved: where the pointer took hold [mm], and the value it had then."""

    handle: Handle
    start: Point
    value: float
    flip: float = 1.0

    def value_at(self, pointer: Point, snap: bool = True) -> float:
        """Return the value for a pointer at ``pointer`` [mm]; snapped to the handle's step unless held off."""
        handle = self.handle
        if handle.turns:
            turned = math.degrees(_angle(pointer, self.flip) - _angle(self.start, self.flip))
            moved = (turned + 180.0) % 360.0 - 180.0
            value = (self.value + moved) % 360.0
        else:
            dx, dy = pointer[0] - self.start[0], pointer[1] - self.start[1]
            value = self.value + handle.gain * (dx * handle.along[0] + dy * handle.along[1])
        if snap:
            value = round(value / handle.step) * handle.step
        return round(value % 360.0 if handle.turns else value, 4)


def _angle(point: Point, flip: float) -> float:
    """Return the clock angle [rad] of a point on the sheet; ``flip`` −1 where the sheet is a mirror image."""
    return math.atan2(point[1], flip * point[0])

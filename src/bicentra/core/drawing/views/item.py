"""A part of the library by itself: what its numbers look like."""

from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Drawing, Sheet
from bicentra.core.drawing.part_sheets.draft import Draft
from bicentra.core.drawing.part_sheets.hub import draw_wheel_cut
from bicentra.core.drawing.views.parts import PartSet, parts_view
from bicentra.core.inputs.placeholder_sizes import sizes_of
from bicentra.core.parts.brakes import Caliper
from bicentra.core.parts.rotor import Rotor
from bicentra.core.parts.wheel import Wheel

SPARE = (-100.0, -100.0, 100.0, 100.0)


def item_view(item: object, lengths: LengthFormat) -> Drawing | None:
    """Return a rotor, caliper or wheel drawn with its main sizes [mm]; ``None`` for a part that has no picture."""
    if isinstance(item, Rotor):
        return parts_view((PartSet("", rotor=item),), lengths)
    if isinstance(item, Caliper):
        return parts_view((PartSet("", caliper=item),), lengths)
    if isinstance(item, Wheel):
        sheet = Sheet()
        draw_wheel_cut(Draft(sheet, "wheel", item, sizes_of("wheel"), lengths))
        return sheet.finish(SPARE)
    return None

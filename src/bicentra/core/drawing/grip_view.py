"""The grip that each axle uses against deceleration, empty and laden: the nearer to the diagonal the better shared.

One g is ``WIDE_MM`` long on the sheet and a grip of one ``HIGH_MM`` high. An axle locks where its curve reaches the
grip there is; the order of locking is asked between the two upright lines.
"""

import numpy as np

from bicentra.core.base.numbers import is_known
from bicentra.core.drawing.model import Drawing, Note, Sheet, Text
from bicentra.core.drawing.shapes import centre_mark
from bicentra.core.geometry.outline import Point
from bicentra.core.hydraulics.balance import ORDER, adhesion, locking
from bicentra.core.hydraulics.chain import Chain, PedalState

WIDE_MM, HIGH_MM, MOST_G, MOST_GRIP, STEPS = 150.0, 75.0, 1.1, 1.2, 110
WET, NAMES = 0.5, ("front", "rear")
"""Grip of a wet road, about: common practice, no source."""
INKS = {"front": "rotor", "rear": "made"}
BARE = (0.0, 0.0, WIDE_MM * MOST_G, HIGH_MM * MOST_GRIP)


def grip_view(chain: Chain, state: PedalState, laden: Chain | None = None) -> Drawing:
    """Return the diagram with the working point at ``state``; ``laden``: the same vehicle as it is loaded, where that
    is known.
    """
    sheet = Sheet()
    _axes(sheet)
    if not is_known(*chain.body.loads(0.5), chain.at(100.0).decel):
        sheet.examples.append("needs masses, wheelbase, height of the centre of gravity and both ends")
        return sheet.finish(BARE)
    grips = [
        ("wet", WET),
        *([("dry", chain.body.grip)] if is_known(chain.body.grip) and chain.body.grip != WET else []),
    ]
    for word, grip in grips:
        sheet.line((_at(0.0, grip), _at(MOST_G, grip)), "construction", word, "hidden")
        first = locking(chain, grip)
        if first.first:
            at = _at(first.decel, grip)
            centre_mark(sheet, at, 3.0, word)
            text = f"{word}, grip {grip:g}: {first.first} locks at {first.decel:.2f} g"
            sheet.note(Note(at, text, word, 0, prefer=(-1.0, 0.8)))
    for name, one, line in (("empty", chain, "solid"), ("laden", laden, "hidden")):
        if one is not None and is_known(*one.body.loads(0.5), one.at(100.0).decel):
            _curves(sheet, one, name, line)
    if is_known(state.decel) and state.decel <= MOST_G:
        for name, used in zip(NAMES, adhesion(chain, state)):
            if 0.0 <= used <= MOST_GRIP:
                sheet.circle(_at(state.decel, used), 2.2, INKS[name], "point")
    return sheet.finish(BARE)


def _axes(sheet: Sheet) -> None:
    """Both axes at round numbers, the diagonal of equal use, the decelerations between which the order is asked."""
    right, top = WIDE_MM * MOST_G, HIGH_MM * MOST_GRIP
    sheet.line(((0.0, 0.0), (right, 0.0)), "bolt", "grip")
    sheet.line(((0.0, 0.0), (0.0, top)), "bolt", "grip")
    sheet.texts.append(Text((right, -11.0), "deceleration [g]", "text", "", 9.0, "end"))
    sheet.texts.append(Text((2.0, top + 3.0), "grip used", "text", "", 9.0, "start"))
    for tenth in range(2, 12, 2):
        x, y = _at(tenth / 10, tenth / 10)
        sheet.line(((x, 0.0), (x, -2.0)), "bolt", "grip")
        sheet.line(((0.0, y), (-2.0, y)), "bolt", "grip")
        sheet.texts.append(Text((x, -5.0), f"{tenth / 10:g}", "text", "", 8.0))
        sheet.texts.append(Text((-3.0, y), f"{tenth / 10:g}", "text", "", 8.0, "end", rise=3.0))
    sheet.line((_at(0.0, 0.0), _at(MOST_G, MOST_G)), "centre", "equal", "centre")
    for decel in ORDER:
        sheet.line((_at(decel, 0.0), _at(decel, MOST_GRIP)), "construction", "order", "hidden")


def _curves(sheet: Sheet, chain: Chain, load: str, line: str) -> None:
    """The grip front and rear use, as far as the sheet goes; each curve is named at its end."""
    decels = MOST_G * np.arange(1, STEPS + 1) / STEPS
    feet = chain.feet_for(decels)
    for name, road, weight in zip(NAMES, chain.roads_at(feet), chain.body.loads_at(decels)):
        with np.errstate(divide="ignore", invalid="ignore"):
            used = np.where(weight > 0.0, road / weight, np.inf)
        shown = np.isfinite(used) & (used <= MOST_GRIP)
        points = [_at(float(z), float(k)) for z, k in zip(decels[shown], used[shown])]
        if len(points) > 1:
            sheet.line(points, INKS[name], f"{name}-{load}", line)
            sheet.note(Note(points[-1], f"{name}, {load}", f"{name}-{load}", 1, prefer=(1.0, 0.3)))


def _at(decel: float, grip: float) -> Point:
    return WIDE_MM * decel, HIGH_MM * grip

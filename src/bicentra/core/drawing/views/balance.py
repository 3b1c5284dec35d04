"""The balance diagram, and the grip that each axle uses against deceleration."""

import math

import numpy as np

from bicentra.core.base.numbers import is_known, known
from bicentra.core.drawing.model import Drawing, Handle, Note, Sheet, Text, framed
from bicentra.core.drawing.shapes import centre_mark
from bicentra.core.geometry.outline import Point
from bicentra.core.hydraulics.balance import ORDER, Locking, adhesion, ideal, locking
from bicentra.core.hydraulics.chain import PROPORTIONS, Chain, PedalState
from bicentra.core.hydraulics.ends import GRAVITY

WIDE_MM, HIGH_MM, GRIP_MOST_G, MOST_GRIP, GRIP_STEPS = 150.0, 75.0, 1.1, 1.2, 110
WET, NAMES = 0.5, ("front", "rear")
"""Grip of a wet road, about: common practice, no source."""
GRIP_INKS = {"front": "rotor", "rear": "made"}
GRIP_BARE = (-4.0, -14.0, WIDE_MM * GRIP_MOST_G + 4.0, HIGH_MM * MOST_GRIP + 6.0)


def grip_view(chain: Chain, state: PedalState, laden: Chain | None = None) -> Drawing:
    """Return the diagram with the working point at ``state``; ``laden``: the same vehicle as it is loaded, where that
    is known.
    """
    sheet = Sheet()
    _axes(sheet)
    if not is_known(*chain.body.loads(0.5), chain.at(100.0).decel):
        sheet.examples.append("needs masses, wheelbase, height of the centre of gravity and both ends")
        return framed(sheet, GRIP_BARE)
    grips = [
        ("wet", WET),
        *([("dry", chain.body.grip)] if is_known(chain.body.grip) and chain.body.grip != WET else []),
    ]
    for word, grip in grips:
        sheet.line((_at(0.0, grip), _at(GRIP_MOST_G, grip)), "construction", word, "hidden")
        first = locking(chain, grip)
        if first.first:
            at = _at(first.decel, grip)
            centre_mark(sheet, at, 3.0, word)
            text = f"{word}, grip {grip:g}: {first.first} locks at {first.decel:.2f} g"
            sheet.note(Note(at, text, word, 0, prefer=(-1.0, 0.8)))
    for name, one, line in (("empty", chain, "solid"), ("laden", laden, "hidden")):
        if one is not None and is_known(*one.body.loads(0.5), one.at(100.0).decel):
            _curves(sheet, one, name, line)
    if is_known(state.decel) and state.decel <= GRIP_MOST_G:
        for name, used in zip(NAMES, adhesion(chain, state)):
            if 0.0 <= used <= MOST_GRIP:
                sheet.circle(_at(state.decel, used), 2.2, GRIP_INKS[name], "point")
    return framed(sheet, GRIP_BARE)


def _axes(sheet: Sheet) -> None:
    """Both axes at round numbers, the diagonal of equal use, the decelerations between which the order is asked."""
    right, top = WIDE_MM * GRIP_MOST_G, HIGH_MM * MOST_GRIP
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
    sheet.line((_at(0.0, 0.0), _at(GRIP_MOST_G, GRIP_MOST_G)), "centre", "equal", "centre")
    for decel in ORDER:
        sheet.line((_at(decel, 0.0), _at(decel, MOST_GRIP)), "construction", "order", "hidden")


def _curves(sheet: Sheet, chain: Chain, load: str, line: str) -> None:
    """The grip front and rear use, as far as the sheet goes; each curve is named at its end."""
    decels = GRIP_MOST_G * np.arange(1, GRIP_STEPS + 1) / GRIP_STEPS
    feet = chain.feet_for(decels)
    for name, road, weight in zip(NAMES, chain.roads(feet), chain.body.loads(decels)):
        with np.errstate(divide="ignore", invalid="ignore"):
            used = np.where(weight > 0.0, road / weight, np.inf)
        shown = np.isfinite(used) & (used <= MOST_GRIP)
        points = [_at(float(z), float(k)) for z, k in zip(decels[shown], used[shown])]
        if len(points) > 1:
            sheet.line(points, GRIP_INKS[name], f"{name}-{load}", line)
            sheet.note(Note(points[-1], f"{name}, {load}", f"{name}-{load}", 1, prefer=(1.0, 0.3)))


def _at(decel: float, grip: float) -> Point:
    return WIDE_MM * decel, HIGH_MM * grip


SCALE_MM, MOST_G, STEPS, SIDE_G = 150.0, 1.1, 44, 0.55
"""Length of one g [mm], how far decelerations are drawn [g], points of a curve, how high the sheet is [g]."""
BARE = (-4.0, -14.0, SCALE_MM * MOST_G + 4.0, SCALE_MM * SIDE_G + 6.0)


def balance_view(chain: Chain, state: PedalState, then: Chain | None = None, band: tuple[Chain, ...] = ()) -> Drawing:
    """Return the diagram of ``chain`` with its working point at ``state``; ``then``: the line as it was before, as a
    example; ``band``: the same chain at both ends of what is guessed of it.
    """
    sheet = Sheet()
    wide = SCALE_MM * MOST_G
    sheet.line(((0.0, 0.0), (wide, 0.0)), "bolt", "balance")
    sheet.line(((0.0, 0.0), (0.0, SCALE_MM * SIDE_G)), "bolt", "balance")
    sheet.texts.append(Text((wide, -11.0), "front force / weight", "text", "", 9.0, "end"))
    sheet.texts.append(Text((2.0, SCALE_MM * SIDE_G + 3.0), "rear force / weight", "text", "", 9.0, "start"))
    for tenth in range(2, 11, 2):
        sheet.line(((SCALE_MM * tenth / 10, 0.0), (SCALE_MM * tenth / 10, -2.0)), "bolt", "balance")
        sheet.texts.append(Text((SCALE_MM * tenth / 10, -5.0), f"{tenth / 10:g}", "text", "", 8.0))
    if not is_known(*chain.body.loads(0.5)):
        sheet.examples.append("needs masses, wheelbase and the height of the centre of gravity")
        return framed(sheet, BARE)
    _decelerations(sheet)
    curve = _ideal(chain)
    sheet.line(curve, "made", "ideal")
    if curve:
        sheet.note(Note(curve[-1], "best: both lock together", "ideal", 2, prefer=(0.2, 1.0)))
    for grip in (0.5, chain.body.grip):
        if is_known(grip):
            _locking_lines(sheet, chain, grip)
    if then is not None and is_known(then.at(100.0).decel):
        sheet.line(_installed(then), "construction", "before", "hidden")
    if not is_known(state.decel):
        sheet.examples.append("needs both ends, their pads, pistons and tyres")
        return framed(sheet, BARE)
    for one in band:
        line = _installed(one) if is_known(one.at(100.0).decel) else []
        if len(line) > 1:
            sheet.line(line, "rotor", "band", "hidden")
            sheet.note(Note(line[-1], "as far as the guess goes", "band", 3, prefer=(0.4, 1.0)))
    fitted = _installed(chain)
    sheet.line(fitted, "rotor", "installed")
    if fitted:
        sheet.note(Note(fitted[-1], "as fitted", "installed", 2, prefer=(0.6, 0.8)))
    _knee(sheet, chain)
    at = _balance_view_at(chain, state)
    if at[0] <= wide and at[1] <= SCALE_MM * SIDE_G:
        sheet.circle(at, 2.6, "made", "point")
        text = f"{chain.lengths.force(state.foot)}: {state.decel:.2f} g, {state.front_share * 100:.0f} % in front"
        leads = _leads(chain, state)
        text += ": the rear leads" if leads else ""
        sheet.note(Note(at, text, "point", 0, verdict="stop" if leads else "", prefer=(1.0, -0.6), far=1))
    return framed(sheet, BARE)


def _knee(sheet: Sheet, chain: Chain) -> None:
    """Put a handle where a valve bends the installed line: along the line below it, so much for each bar of its knee."""
    knee, end = known(chain.valve.knee_bar), chain.ends[1]
    if chain.valve.kind not in PROPORTIONS or not is_known(knee) or knee <= 0.0 or chain.master.kind == "two":
        return
    rod = knee / 10.0 * chain.rod_bore
    at, near = (_balance_view_at(chain, chain.at(chain.foot_for_rod(part * rod))) for part in (1.0, 0.98))
    way = (at[0] - near[0], at[1] - near[1])
    long = math.hypot(*way)
    if knee / 10.0 * 0.98 <= end.threshold or long <= 0.0 or at[0] > SCALE_MM * MOST_G or at[1] > SCALE_MM * SIDE_G:
        return
    along = (way[0] / long, way[1] / long)
    sheet.handle(
        Handle(
            "knee of the valve",
            at,
            along,
            "vehicle.valve.knee_bar",
            0.02 * knee / long,
            0.5,
            tag="valve",
            measure="pressure",
        )
    )


def _leads(chain: Chain, state: PedalState) -> bool:
    """Tell whether the rear uses more grip than the front there, between the decelerations at which it may not."""
    loads = chain.body.loads(state.decel)
    used = state.road[0] / loads[0], state.road[1] / loads[1] if loads[1] > 0 else math.inf
    return ORDER[0] <= state.decel <= ORDER[1] and used[1] > used[0]


def _balance_view_at(chain: Chain, state: PedalState) -> Point:
    weight = chain.body.mass * GRAVITY
    return SCALE_MM * state.road[0] / weight, SCALE_MM * state.road[1] / weight


def _ideal(chain: Chain) -> list[Point]:
    weight, found = chain.body.mass * GRAVITY, list[Point]()
    for step in range(STEPS + 1):
        front, rear = ideal(chain.body, MOST_G * step / STEPS)
        if rear >= 0.0 and front / weight <= MOST_G:
            found.append((SCALE_MM * front / weight, SCALE_MM * rear / weight))
    return found


def _installed(chain: Chain) -> list[Point]:
    """Return the installed line up to the edge of the sheet: pieces of straight line, a kink at threshold and knee."""
    feet = chain.feet_for(MOST_G * np.arange(4 * STEPS + 1) / (4 * STEPS))
    parts = [SCALE_MM * road / (chain.body.mass * GRAVITY) for road in chain.roads(feet)]
    inside = np.isfinite(parts[0]) & (parts[0] <= SCALE_MM * MOST_G) & (parts[1] <= SCALE_MM * SIDE_G)
    return [(float(front), float(rear)) for front, rear in zip(*(part[inside] for part in parts))]


def _decelerations(sheet: Sheet) -> None:
    """Draw the lines of equal deceleration, faintly."""
    for tenth in range(2, 12, 2):
        z = tenth / 10 * SCALE_MM
        top = min(z, SCALE_MM * SIDE_G)
        sheet.line(((z - top, top), (z, 0.0)), "construction", "balance", "hidden")


def _locking_lines(sheet: Sheet, chain: Chain, grip: float) -> None:
    """Draw where front and rear lock at one grip; a note says which comes first."""
    body = chain.body
    chi, psi = body.height / body.wheelbase, 1.0 - body.front / body.mass
    high = SIDE_G * SCALE_MM
    front = [
        (SCALE_MM * (grip * (1 - psi) + grip * chi * rear) / (1 - grip * chi), SCALE_MM * rear)
        for rear in (0.0, SIDE_G)
    ]
    rear_line = [(SCALE_MM * f, SCALE_MM * (grip * psi - grip * chi * f) / (1 + grip * chi)) for f in (0.0, MOST_G)]
    sheet.line([point for point in front if point[0] <= SCALE_MM * MOST_G * 1.02], "knuckle", "lock")
    sheet.line([(x, max(y, 0.0)) for x, y in rear_line if y <= high], "caliper", "lock")
    if grip == chain.body.grip:
        upper = [point for point in front if point[0] <= SCALE_MM * MOST_G * 1.02]
        if upper:
            sheet.note(Note(upper[-1], "front locks", "lock", 3, prefer=(1.0, -0.3)))
        sheet.note(Note((rear_line[0][0], rear_line[0][1]), "rear locks", "lock", 3, prefer=(1.0, 0.7)))
    found: Locking = locking(chain, grip)
    first = f": {found.first} locks first" if found.first else ""
    at = ideal(body, grip)
    weight = body.mass * GRAVITY
    place = (SCALE_MM * at[0] / weight, SCALE_MM * at[1] / weight)
    centre_mark(sheet, place, 3.0, "lock")
    sheet.note(Note(place, f"grip {grip:g}{first}", "lock", 1, prefer=(0.7, 1.4), far=3))

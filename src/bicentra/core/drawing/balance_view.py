"""The balance diagram: rear force against front force, in parts of the weight; ideal curve, what is installed, where
wheels lock.

One g is ``SCALE_MM`` long on the sheet, both ways. Straight lines of locking: F_f (1 − µχ) − µχ F_r = µ (1 − Ψ) W for
the front and F_r (1 + µχ) + µχ F_f = µ Ψ W for the rear, Limpert, Brake Design and Safety ch. 7, from memory.
"""

import math

import numpy as np

from bicentra.core.base.numbers import is_known, known
from bicentra.core.drawing.model import Drawing, Handle, Note, Sheet, Text
from bicentra.core.drawing.shapes import centre_mark
from bicentra.core.geometry.outline import Point
from bicentra.core.hydraulics.balance import ORDER, Locking, ideal, locking
from bicentra.core.hydraulics.chain import PROPORTIONS, Chain, PedalState
from bicentra.core.hydraulics.ends import GRAVITY

SCALE_MM, MOST_G, STEPS, SIDE_G = 150.0, 1.1, 44, 0.55
"""Length of one g [mm], how far decelerations are drawn [g], points of a curve, how high the sheet is [g]."""
BARE = (0.0, 0.0, SCALE_MM, SCALE_MM * SIDE_G)


def balance_view(chain: Chain, state: PedalState, then: Chain | None = None, band: tuple[Chain, ...] = ()) -> Drawing:
    """Return the diagram of ``chain`` with its working point at ``state``; ``then``: the line as it was before, as a
    ghost; ``band``: the same chain at both ends of what is guessed of it.
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
        return sheet.finish(BARE)
    _decelerations(sheet)
    sheet.line(_ideal(chain), "made", "ideal")
    for grip in (0.5, chain.body.grip):
        if is_known(grip):
            _locking_lines(sheet, chain, grip)
    if then is not None and is_known(then.at(100.0).decel):
        sheet.line(_installed(then), "construction", "before", "hidden")
    if not is_known(state.decel):
        sheet.examples.append("needs both ends, their pads, pistons and tyres")
        return sheet.finish(BARE)
    for one in band:
        line = _installed(one) if is_known(one.at(100.0).decel) else []
        if len(line) > 1:
            sheet.line(line, "rotor", "band", "hidden")
            sheet.note(Note(line[-1], "as far as the guess goes", "band", 3, prefer=(0.4, 1.0)))
    sheet.line(_installed(chain), "rotor", "installed")
    _knee(sheet, chain)
    at = _at(chain, state)
    if at[0] <= wide and at[1] <= SCALE_MM * SIDE_G:
        sheet.circle(at, 2.6, "made", "point")
        text = f"{chain.lengths.force(state.foot)}: {state.decel:.2f} g, {state.front_share * 100:.0f} % in front"
        leads = _leads(chain, state)
        text += ": the rear leads" if leads else ""
        sheet.note(Note(at, text, "point", 0, verdict="stop" if leads else "", prefer=(1.0, -0.6), far=1))
    return sheet.finish(BARE)


def _knee(sheet: Sheet, chain: Chain) -> None:
    """Put a handle where a valve bends the installed line: along the line below it, so much for each bar of its knee."""
    knee, end = known(chain.valve.knee_bar), chain.ends[1]
    if chain.valve.kind not in PROPORTIONS or not is_known(knee) or knee <= 0.0 or chain.master.kind == "two":
        return
    rod = knee / 10.0 * chain.rod_bore
    at, near = (_at(chain, chain.at(chain.foot_for_rod(part * rod))) for part in (1.0, 0.98))
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


def _at(chain: Chain, state: PedalState) -> Point:
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
    parts = [SCALE_MM * road / (chain.body.mass * GRAVITY) for road in chain.roads_at(feet)]
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
    found: Locking = locking(chain, grip)
    first = f": {found.first} locks first" if found.first else ""
    at = ideal(body, grip)
    weight = body.mass * GRAVITY
    place = (SCALE_MM * at[0] / weight, SCALE_MM * at[1] / weight)
    centre_mark(sheet, place, 3.0, "lock")
    sheet.note(Note(place, f"grip {grip:g}{first}", "lock", 1, prefer=(0.7, 1.4), far=3))

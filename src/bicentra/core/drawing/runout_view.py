"""Runout as a polar trace: readings and fitted curve about a circle, exaggerated by a stated factor."""

import math

import numpy as np

from bicentra.core.drawing.model import Drawing, Sheet, Text, with_room
from bicentra.core.drawing.shapes import arrow_head
from bicentra.core.geometry.outline import Point
from bicentra.core.survey.corner import Surveyed
from bicentra.core.survey.runout import Runout

RADIUS_MM, PITCH_MM, SWING_MM, ROOM_MM = 30.0, 94.0, 8.0, 34.0
FACTORS = (10.0, 20.0, 50.0, 100.0, 200.0, 500.0, 1000.0, 2000.0)
SPARE = (-45.0, -45.0, 45.0, 45.0)
TITLES = {"hub-face": "hub face", "rotor-face": "rotor, on the bench"}


def runout_factor(done: Surveyed) -> float:
    """Return how many times runout is drawn larger than it is [no unit]."""
    swing = max((float(np.abs(s.values - s.mean).max()) for s in done.sweeps if not s.fault), default=0.0)
    return max((f for f in FACTORS if f * swing <= SWING_MM), default=FACTORS[0]) if swing > 0 else FACTORS[-1]


def runout_view(done: Surveyed) -> Drawing:
    """Return each sweep beside the other, seen from outboard."""
    sheet, factor = Sheet(), runout_factor(done)
    for k, sweep in enumerate(done.sweeps):
        if sweep.fault:
            sheet.examples.append(f"{TITLES[sweep.on]}: {sweep.fault}")
        else:
            _trace(sheet, sweep, (PITCH_MM * k, 0.0), factor, -1.0 if done.corner.endswith("left") else 1.0)
    if not done.sweeps:
        sheet.examples.append("no sweep yet: eight readings or more round the hub face")
    return with_room(sheet.finish(SPARE), ROOM_MM)


def _trace(sheet: Sheet, sweep: Runout, at: Point, factor: float, flip: float) -> None:
    tag = f"sweep:{sweep.on}"

    def seen(angle: float, off: float) -> Point:
        reach = RADIUS_MM + off * factor
        return at[0] + flip * reach * math.cos(angle), at[1] + reach * math.sin(angle)

    sheet.circle(at, RADIUS_MM, "construction", tag, filled=False, line="hidden")
    turn = np.linspace(0.0, 2 * np.pi, 121)
    curve = [seen(float(a), float(v) - sweep.mean) for a, v in zip(turn, sweep.curve(turn))]
    sheet.line(curve, "fit", tag)
    bumpy = set(sweep.bump.readings) if sweep.bump else set()
    for k, (angle, value) in enumerate(zip(sweep.angles, sweep.values)):
        sheet.circle(seen(float(angle), float(value) - sweep.mean), 1.6, "fault" if k in bumpy else "trace", tag)
    high = math.radians(sweep.high_spot_deg)
    tip = seen(high, abs(sweep.tilt))
    sheet.line((at, tip), "fit", tag)
    sheet.shape(arrow_head(tip, (flip * math.cos(high), math.sin(high)), 4.0, "fit", tag))
    below = (at[0], at[1] - RADIUS_MM - SWING_MM)
    words = (TITLES[sweep.on], f"{sweep.tir:.3f} mm in all", f"tilt {abs(sweep.tilt):.3f} high at {sweep.high_spot_deg:.0f}°",
            f"warp {abs(sweep.warp):.3f}, rest {sweep.rest:.3f}")  # fmt: skip
    for line, text in enumerate(words):
        sheet.texts.append(
            Text(below, text, "text" if line < 3 else "faint", tag, bold=line == 0, rise=12.0 + 16.0 * line)
        )

"""The lug faces as a small relief, and runout as a polar trace."""

import math

import numpy as np

from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Drawing, Sheet, Text, short, with_room
from bicentra.core.drawing.shapes import arrow_head
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.geometry.outline import Point
from bicentra.core.parts.job import Job
from bicentra.core.survey.corner import Surveyed, boss_of
from bicentra.core.survey.faces import Face
from bicentra.core.survey.runout import Runout

RELIEF_FACTORS = (1.0, 2.0, 5.0, 10.0, 20.0, 50.0)
SQUASH, COLUMN_MM, ROW_MM, RELIEF_ROOM_MM, HIGHEST_MM, TURNS = 0.42, 56.0, 62.0, 24.0, 8.0, 48
RELIEF_SPARE = (-30.0, -30.0, 30.0, 30.0)


def relief_factor(done: Surveyed) -> float:
    """Return how many times heights are drawn larger than they are."""
    rise = max((abs(f.slope_x) * 14 + abs(f.slope_y) * 14 for f in done.faces if not f.fault), default=0.0)
    return max((f for f in RELIEF_FACTORS if f * rise <= HIGHEST_MM), default=1.0) if rise > 0 else RELIEF_FACTORS[-1]


def relief_view(job: Job, done: Surveyed) -> Drawing:
    """Return every face below the other; forward is to the right (left on a left corner), up leads away."""
    sheet, lengths = Sheet(), LengthFormat("in" if job.display_units == "in" else "mm")
    factor = relief_factor(done)
    axis = done.survey.axis
    faces = [face for face in done.faces if axis is None or face.feature != axis.name]
    for row, face in enumerate(faces):
        _face(sheet, job, done, face, (COLUMN_MM * (row % 2), -ROW_MM * (row // 2)), factor, lengths)
    if not faces:
        sheet.examples.append("no face read yet: lay the straightedge on the hub face and read depths")
    return with_room(sheet.finish(RELIEF_SPARE), RELIEF_ROOM_MM)


def _face(sheet: Sheet, job: Job, done: Surveyed, face: Face, at: Point, factor: float, lengths: LengthFormat) -> None:
    tag = f"face:{face.feature}"
    if face.fault:
        sheet.examples.append(f"{face.feature}: {face.fault}")
        return
    boss = boss_of(job, face.feature)
    radius = boss / 2 if math.isfinite(boss) else 14.0
    flip = -1.0 if done.corner.endswith("left") else 1.0  # seen from outboard, forward lies to the left there

    def seen(dx: float, dy: float, height: float) -> Point:
        return at[0] + flip * dx, at[1] + dy * SQUASH + height * factor

    flat, tilted = [], []
    for k in range(TURNS):
        dx, dy = radius * math.cos(2 * math.pi * k / TURNS), radius * math.sin(2 * math.pi * k / TURNS)
        flat.append(seen(dx, dy, 0.0))
        tilted.append(seen(dx, dy, face.slope_x * dx + face.slope_y * dy))
    sheet.polygon(flat, "construction", tag, filled=False, line="hidden")
    sheet.polygon(tilted, "knuckle", tag)
    readings = next((f for f in reversed(done.survey.faces) if f.feature == face.feature), None)
    for k, off in zip(face.spots, face.residuals):
        spot = readings.spots[k] if readings else None
        if spot is None or spot.at_deg is None or spot.radius_mm is None:
            continue
        dx, dy = ClockFrame(spot.at_deg).at(spot.radius_mm)
        plane = face.slope_x * dx + face.slope_y * dy
        sheet.line((seen(dx, dy, 0.0), seen(dx, dy, plane + float(off))), "trace", tag)
        sheet.circle(seen(dx, dy, plane + float(off)), 1.0, "trace", tag)
    seat = f"seat {lengths.size(round(face.z, 2)).replace('-', '−')} ± {lengths.gap(1.96 * face.sd_z)}"
    lean = f"leans {face.tilt_deg:.2f}° ± {1.96 * face.sd_tilt_deg:.2f}°"
    below = (at[0], at[1] - radius * SQUASH - HIGHEST_MM)
    for line, (text, ink) in enumerate(((short(face.feature), "text"), (lean, "text"), (seat, "faint"))):
        sheet.texts.append(Text(below, text, ink, tag, bold=line == 0, rise=14.0 + 16.0 * line))


RADIUS_MM, PITCH_MM, SWING_MM, ROOM_MM = 30.0, 94.0, 8.0, 34.0
FACTORS = (10.0, 20.0, 50.0, 100.0, 200.0, 500.0, 1000.0, 2000.0)
SPARE = (-45.0, -45.0, 45.0, 45.0)
TITLES = {"hub-face": "hub face", "rotor-face": "rotor, on the bench"}


def runout_factor(done: Surveyed) -> float:
    """Return how many times runout is drawn larger than it is."""
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

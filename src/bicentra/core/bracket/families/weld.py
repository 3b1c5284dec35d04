"""A bracket welded to the axle tube."""

import math

from bicentra.core.base.errors import OutlineError
from bicentra.core.base.finding import Finding
from bicentra.core.base.numbers import UNKNOWN, apart, is_known, known
from bicentra.core.base.outline import Outline
from bicentra.core.base.wording import Words
from bicentra.core.bracket.edges import bosses
from bicentra.core.bracket.families.common import bore_of, completed, room, standing, stock_plate
from bicentra.core.bracket.families.model import Candidate, MadePart, unsuited
from bicentra.core.bracket.families.plates import CUT
from bicentra.core.bracket.flat_plate import Assembly, assemble
from bicentra.core.bracket.hull import Disc, convex_outline
from bicentra.core.bracket.relief import relieve
from bicentra.core.bracket.swing import bleeder_windows
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.parts.materials import find_material

TACK_PLAY_MM = 1.6
"""Side play packed in beside a floating caliper before tacking: 1/16 in, common practice."""
WELDABLE = ("steel S355", "steel S235", "steel 4130")
"""Metals that are welded to a steel tube; stainless and aluminium are not, without a special filler."""
SEAT_ROOM_MM = 25.0
"""How far a weld stays away from a bearing seat: common practice; the weld's own procedure decides."""
WELD_LEG_MM, SADDLE_CORNER_MM = 6.0, 0.1
"""Usual leg of the fillet on either side of the tab, and what is left of the points at the saddle's ends [mm]."""


def weld_on(job: Job, words: Words) -> Candidate:
    """A tab welded to the axle tube: its height from the tube to the ears, what is packed in for tacking, the clock window."""
    family, title = "weld-on", "Weld-on tube bracket"
    tube, base = known(job.hub.tube_diameter_mm), assemble(job)
    line, ears = base.line, base.holes[-2:]
    if not is_known(tube, line.ear_line_radius, line.clock, line.ear_face_z, *(h.boss_radius for h in ears)) or not all(
        hole.is_known for hole in ears
    ):
        return unsuited(
            family, title, "The axle tube's diameter and the line-up decide this one.", ("axle tube", "line-up")
        )
    thick = stock_plate(job, 10.0)
    saddle, turn = tube / 2, math.radians(line.clock)
    height, top = line.ear_line_radius - saddle, line.pad_top_radius - saddle
    half = min(max(saddle * 0.8, known(job.caliper.ear_spacing_mm) / 3), saddle * 0.95)
    foot = math.sqrt(saddle**2 - half**2)
    u, w = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
    discs = [*bosses(ears)]
    discs += [Disc((foot * u[0] + by * w[0], foot * u[1] + by * w[1]), 1.0) for by in (half, -half)]
    try:
        outline = relieve(convex_outline(tuple(discs)), saddle, SADDLE_CORNER_MM).outline
    except OutlineError as error:
        return unsuited(family, title, str(error))
    along = saddle_length(outline, saddle)
    outward = -1.0 if job.caliper.ear_seat == "inboard" else 1.0
    bores = tuple(bore_of(hole, outward) for hole in ears)
    z0 = min(line.ear_face_z, line.ear_face_z + outward * thick)
    ears_up, top_up = words.size(height), words.size(top)
    why = f"{words.stock(thick)} tab from the {words.size(tube)} tube: ears {ears_up} above it, pad top {top_up}. "
    why += (
        f"Pack {words.size(TACK_PLAY_MM)} beside the caliper before tacking; a bleeder is high at clock {_high(base)}. "
    )
    why += "Welding by someone qualified, away from seals and bearing seats."
    leg, seat = min(thick, WELD_LEG_MM), known(job.hub.retainer_face_z_mm)
    away = max(apart(z0 - leg, z0 + thick + leg, seat, seat), 0.0) if is_known(seat) else UNKNOWN
    findings = _findings(job.bracket.material or "", words, height, along, away)
    area = outline.area - math.fsum(b.area for b in bores)
    part = MadePart(
        "weld-on tab", "plate", job.bracket.material or "", thick, area * thick, outline, z0=z0, bores=bores,
        processes=(*CUT, "file the saddle", "weld"),
    )  # fmt: skip
    solved = {
        "thickness_mm": thick, "tube_mm": tube, "ear_height_mm": height, "pad_height_mm": top, "weld_mm": along,
        "packing_mm": TACK_PLAY_MM,
    }  # fmt: skip
    stands = standing(base, thick, (0.0,) * len(job.knuckle.lugs), (thick, 0.0), ("ear",), z0)
    return completed(Candidate(family, title, (part,), findings, why, False, solved), stands, words)


def saddle_length(outline: Outline, radius: float) -> float:
    """Return how much of ``outline`` lies on a tube of ``radius`` about the axle [mm]: what there is to weld along, one side."""
    return math.fsum(
        piece.length for piece in outline.segments
        if piece.bulge < 0.0 and abs(piece.radius - radius) < 1e-6 and math.hypot(*piece.centre) < 1e-6
    )  # fmt: skip


def _findings(metal: str, words: Words, height: float, along: float, away: float) -> tuple[Finding, ...]:
    """Return what is asked of the tab: its metal, its height, a weld's length, how far its edge is off a bearing seat [mm]."""
    steel = 1.0 if metal in WELDABLE else UNKNOWN if find_material(metal) is None else -1.0
    told = f"{metal[:1].upper()}{metal[1:]} {'is welded' if steel > 0 else 'does not weld'} to a steel tube."
    told_along = f"Each side has {words.size(along)} of saddle to weld on; no strength is computed."
    stand, heat = f"The ears stand {words.size(height)} above the tube.", ""
    if is_known(away):
        heat = f"The weld's nearer edge lies {words.size(away)} from the retainer's face; heat draws a bearing seat out of round."
    return (
        room("weld-metal", steel, 0.0, 0.0, told, "needs a material of the tables"),
        room("weld-height", height, 10.0, 15.0, stand),
        room("weld-length", along, 40.0, 60.0, told_along),
        room("weld-bearing-seat", away, 0.0, SEAT_ROOM_MM, heat, "needs the retainer's face"),
    )


def _high(base: Assembly) -> str:
    """Return the clock windows in which a bleeder is the high one, in words."""
    found = bleeder_windows(base, limit_for(base.job, "bleeder-up").stop)
    told = [f"{window[0] % 360:.0f}° to {window[1] % 360:.0f}°" for window in found if window is not None]
    return " or ".join(told) or "not known"

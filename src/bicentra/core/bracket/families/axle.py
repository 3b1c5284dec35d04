"""Families of the axle's end and tube: a plate behind the axle-end flange, and a bracket welded to the tube."""

import math

from bicentra.core.base.errors import OutlineError
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.outline import circle_outline
from bicentra.core.base.wording import Words
from bicentra.core.bracket.families.common import bore_of, room
from bicentra.core.bracket.families.model import Bore, Candidate, MadePart, decided, unsuited
from bicentra.core.bracket.families.plates import CUT
from bicentra.core.bracket.flat_plate import Assembly, assemble
from bicentra.core.bracket.hull import Disc, convex_outline
from bicentra.core.bracket.reach import retainer_places
from bicentra.core.bracket.swing import bleeder_windows
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import limit_for
from bicentra.core.parts.materials import METRIC_STOCK_MM

SOCKET_OVER_THREAD, BOLT_ROOM_MM, PILOT_ROOM_MM = 1.8, 1.0, 0.1
"""A socket's outside over its bolt's thread, room round a retainer bolt, play of the pilot bore [mm]: common practice."""
TACK_PLAY_MM = 1.6
"""Side play packed in beside a floating caliper before tacking: 1/16 in, common practice."""
SEAT_ROOM_MM = 25.0
"""How far a weld stays away from a bearing seat: common practice; the weld's own procedure decides."""


def axle_end_plate(job: Job, words: Words) -> Candidate:
    """A plate on the axle-end flange in place of the drum's backing plate: its thickness is what the retainer has lost."""
    family, title = "axle-end-plate", "Axle-end plate"
    hub, base = job.hub, assemble(job)
    places, face = retainer_places(hub), known(hub.retainer_face_z_mm)
    socket, ears = known(hub.retainer_socket_mm), base.holes[-2:]
    if not places or not is_known(face, socket) or not all(is_known(*hole.centre, hole.drill) for hole in ears):
        why = "The retainer's bolts, their socket and the flange's face decide this one."
        return unsuited(family, title, why, ("retainer bolts", "retainer face"))
    stock = sorted(job.bracket.stock_mm or METRIC_STOCK_MM)
    lost, wall = hub.backing_plate_mm, known(job.bracket.wall_mm)
    thick = lost if lost is not None else next((t for t in stock if t >= 10.0), stock[-1])
    drill = round(socket / SOCKET_OVER_THREAD + BOLT_ROOM_MM, 1)
    circle, tube = 2 * math.hypot(*places[0]), known(hub.tube_diameter_mm)
    bore = tube + PILOT_ROOM_MM if is_known(tube) else circle - drill - 2 * wall
    discs = [Disc(place, drill / 2 + wall) for place in places] + [Disc(hole.centre, hole.boss_radius) for hole in ears]
    try:
        outline = convex_outline(tuple(discs))
    except OutlineError as error:
        return unsuited(family, title, str(error))
    window = circle_outline((0.0, 0.0), bore / 2)
    step = base.line.ear_face_z - face - thick
    own = [Bore(f"retainer {k + 1}", place, drill, f"drill Ø {drill:.1f}") for k, place in enumerate(places)]
    bores = (*own, *(bore_of(hole) for hole in ears))
    ligament = min(math.dist(place, hole.centre) - (drill + hole.diameter) / 2 for place in places for hole in ears)
    back = "takes the backing plate's place" if lost is not None else "lifts the retainer by as much"
    why = f"{words.size(thick)} plate on {len(places)} retainer bolts, bore {words.size(bore)}; it {back}."
    way, limit = "outboard" if step > 0 else "inboard", limit_for(job, "ligament")
    off = f"The ears' face lies {words.gap(step)} {way} of the plate's: a step or spacers make it up."
    between = f"{words.gap(ligament)} is left between a retainer bolt's hole and an ear's."
    rim = (circle - bore - drill) / 2
    apart = abs(thick - known(lost))
    seal = f"The plate is {words.gap(apart)} off the backing plate it replaces; the retainer crushes the seal or holds nothing."
    findings = (
        room(
            "axle-end-retainer",
            "Bearing held as before",
            0.1 - apart,
            0.0,
            0.05,
            seal,
            "needs the backing plate's thickness",
        ),
        room("axle-end-offset", "Ears in the plate's plane", 1.0 - abs(step), 0.0, 0.75, off),
        room("axle-end-ligament", "Metal between holes", ligament, limit.stop, limit.watch, between),
        room(
            "axle-end-pilot",
            "Metal round the pilot bore",
            rim,
            4.0,
            6.0,
            f"{words.gap(rim)} from the bore to the holes.",
        ),
    )
    area = outline.area - window.area - math.fsum(math.pi / 4 * b.drill**2 for b in bores)
    part = MadePart(
        "axle-end plate", "plate", job.bracket.material or "", thick, area * thick, outline, window, z0=face, bores=bores,
        processes=CUT,
    )  # fmt: skip
    turn = known(hub.retainer_first_deg)
    solved = {"thickness_mm": thick, "bore_mm": bore, "bolts": float(len(places)), "clock_deg": turn, "step_mm": step}
    return decided(Candidate(family, title, (part,), findings, why, True, solved))


def weld_on(job: Job, words: Words) -> Candidate:
    """A tab welded to the axle tube: its height from the tube to the ears, what is packed in for tacking, the clock window."""
    family, title = "weld-on", "Weld-on tube bracket"
    tube, base = known(job.hub.tube_diameter_mm), assemble(job)
    line, ears = base.line, base.holes[-2:]
    if not is_known(tube, line.ear_line_radius, line.clock, line.ear_face_z, *(h.boss_radius for h in ears)):
        return unsuited(
            family, title, "The axle tube's diameter and the line-up decide this one.", ("axle tube", "line-up")
        )
    stock = sorted(job.bracket.stock_mm or METRIC_STOCK_MM)
    thick = next((t for t in stock if t >= 10.0), stock[-1])
    saddle, turn = tube / 2, math.radians(line.clock)
    height, top = line.ear_line_radius - saddle, line.pad_top_radius - saddle
    half = min(max(saddle * 0.8, known(job.caliper.ear_spacing_mm) / 3), saddle * 0.95)
    foot = math.sqrt(saddle**2 - half**2)
    u, w = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
    discs = [Disc(hole.centre, hole.boss_radius) for hole in ears]
    discs += [Disc((foot * u[0] + by * w[0], foot * u[1] + by * w[1]), 1.0) for by in (half, -half)]
    try:
        outline = convex_outline(tuple(discs))
    except OutlineError as error:
        return unsuited(family, title, str(error))
    bores = tuple(bore_of(hole) for hole in ears)
    outward = -1.0 if job.caliper.ear_seat == "inboard" else 1.0
    z0 = min(line.ear_face_z, line.ear_face_z + outward * thick)
    ears_up, top_up = words.size(height), words.size(top)
    why = f"{words.size(thick)} tab from the {words.size(tube)} tube: ears {ears_up} above it, pad top {top_up}. "
    why += (
        f"Pack {words.size(TACK_PLAY_MM)} beside the caliper before tacking; a bleeder is high at clock {_high(base)}. "
    )
    why += "Welding by someone qualified, away from seals and bearing seats."
    away = abs(z0 - known(job.hub.retainer_face_z_mm))
    heat = ""
    if is_known(away):
        heat = f"The weld lies {words.size(away)} from the retainer's face; heat draws a bearing seat out of round."
    along = f"Each side has {words.size(2 * half)} to weld on; no strength is computed."
    findings = (
        room(
            "weld-height",
            "Height of the tab",
            height,
            10.0,
            15.0,
            f"The ears stand {words.size(height)} above the tube.",
        ),
        room("weld-length", "Length of the welds", 2 * half, 40.0, 60.0, along),
        room(
            "weld-bearing-seat",
            "Weld away from the bearing seat",
            away,
            0.0,
            SEAT_ROOM_MM,
            heat,
            "needs the retainer's face",
        ),
    )
    area = outline.area - math.fsum(math.pi / 4 * b.drill**2 for b in bores)
    part = MadePart(
        "weld-on tab", "plate", job.bracket.material or "", thick, area * thick, outline, z0=z0, bores=bores,
        processes=(*CUT, "file the saddle", "weld"),
    )  # fmt: skip
    solved = {
        "thickness_mm": thick, "tube_mm": tube, "ear_height_mm": height, "pad_height_mm": top, "weld_mm": 2 * half,
        "packing_mm": TACK_PLAY_MM,
    }  # fmt: skip
    return decided(Candidate(family, title, (part,), findings, why, False, solved))


def _high(base: Assembly) -> str:
    """Return the clock windows in which a bleeder is the high one, in words."""
    found = bleeder_windows(base, limit_for(base.job, "bleeder-up").stop)
    told = [f"{window[0] % 360:.0f}° to {window[1] % 360:.0f}°" for window in found if window is not None]
    return " or ".join(told) or "not known"
